//go:build unix

package main

import (
	"strings"
	"testing"
)

// TestAlone: one server has a folder to itself, until it ends.
func TestAlone(t *testing.T) {
	data := t.TempDir()
	release, err := alone(data)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := alone(data); err == nil || !strings.Contains(err.Error(), "another server runs") {
		t.Errorf("a second one: %v", err)
	}
	if err := release(); err != nil {
		t.Fatal(err)
	}
	again, err := alone(data)
	if err != nil {
		t.Fatal(err)
	}
	if err := again(); err != nil {
		t.Fatal(err)
	}
}
