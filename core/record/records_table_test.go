package record_test

import (
	"os"
	"slices"
	"strings"
	"testing"

	"dogbolt/core/record"
)

// TestRecordsTable: every line that docs/records.md says a paper has, it has on the example job of its
// country, with something in it.
func TestRecordsTable(t *testing.T) {
	text, err := os.ReadFile("../../docs/records.md")
	if err != nil {
		t.Fatal(err)
	}
	papers := map[string]record.Document{}
	for country, file := range map[string]string{"United Kingdom": "uk-pass.json", "United States": "us-pass.json"} {
		r := sample(t, file)
		papers[country+" certificate"], papers[country+" inspection"], papers[country+" pack"] = record.Certificate(&r), record.Inspection(&r), record.Pack(&r)
		papers[country+" package"] = record.Package(&r)
	}
	country, rows := "", 0
	for _, line := range strings.Split(string(text), "\n") {
		if title, ok := strings.CutPrefix(line, "## "); ok {
			country, _, _ = strings.Cut(title, ":")
		}
		cells := strings.Split(strings.Trim(line, "| "), " | ")
		if !strings.HasPrefix(line, "| ") || len(cells) != 4 || cells[0] == "Item" {
			continue
		}
		rows++
		if cells[1] == "not there" || cells[2] == "" { // or only where the job has it
			continue
		}
		doc, ok := papers[country+" "+cells[1]]
		if !ok {
			t.Errorf("%q: there is no paper %q", line, cells[1])
			continue
		}
		if why := lacks(&doc, cells[2], cells[3]); why != "" {
			t.Errorf("%s, %s: %s", country, cells[0], why)
		}
	}
	if rows < 70 {
		t.Errorf("only %d rows were read", rows)
	}
}

// lacks says why a paper does not have a line, "" where it has.
func lacks(doc *record.Document, heading, line string) string {
	at := slices.IndexFunc(doc.Blocks, func(b record.Block) bool { return b.Heading == heading })
	if at < 0 {
		return "no heading " + heading
	}
	b := &doc.Blocks[at]
	for _, p := range b.Pairs {
		if p[0] == line {
			return empty(line, p[1])
		}
	}
	if b.Table == nil {
		return "no line " + line
	}
	for k, c := range b.Table.Columns {
		if c.Title != line {
			continue
		}
		if len(b.Table.Rows) == 0 {
			return "no rows under " + line
		}
		for _, row := range b.Table.Rows {
			if why := empty(line, row[k]); why != "" {
				return why
			}
		}
		return ""
	}
	return "no column " + line
}

func empty(line, value string) string {
	if value == "" || strings.Contains(value, "not recorded") {
		return line + " says " + value
	}
	return ""
}
