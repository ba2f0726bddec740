package main

import (
	"go/parser"
	"go/token"
	"testing"
)

// TestListIsCurrent: each change still finds its text, once, changes something, and
// leaves a file that parses. Whether a test notices it is what the program runs.
func TestListIsCurrent(t *testing.T) {
	list, err := read("list.json")
	if err != nil {
		t.Fatal(err)
	}
	names := map[string]bool{}
	for _, m := range list {
		text, err := m.broken("../../..")
		switch {
		case err != nil:
			t.Errorf("%s: %s: %v", m.File, m.Name, err)
			continue
		case m.From == m.To || len(m.Tests) == 0 || names[m.Name]:
			t.Errorf("%s: changes nothing, names no tests, or stands twice", m.Name)
		}
		names[m.Name] = true
		if _, err := parser.ParseFile(token.NewFileSet(), m.File, text, 0); err != nil {
			t.Errorf("%s: %v", m.Name, err)
		}
	}
}
