package document

import (
	"archive/zip"
	"bytes"
	"encoding/json"
	"fmt"
	"time"

	"dogbolt/core/clearance"
	"dogbolt/core/record"
	"dogbolt/core/text"
)

// Form prints a filled form, of the program's own design: what was answered,
// what goes with it, and the declaration with its signature. It says what is
// missing where something is.
func Form(s *clearance.Submission, lacks []clearance.Trifle, size string, at time.Time) ([]byte, error) {
	p := newPrinter(size, s.Title, s.Job, "Dogbolt", at)
	p.pdf.SetFooterFunc(func() { p.footer("job " + s.Job + "   to " + s.To) })
	p.pdf.AddPage()
	answers := record.Block{Heading: "Answers"}
	for _, f := range s.Fields {
		v := f.Value
		if v == "" {
			v = "–"
		}
		answers.Pairs = append(answers.Pairs, [2]string{f.Label, v})
	}
	p.block(answers)
	files := &record.Table{
		Columns: []record.Column{{Title: "File", Share: 0.3}, {Title: "What it shows", Share: 0.45}, {Title: "SHA-256, beginning", Share: 0.25}},
	}
	for _, f := range s.Files {
		files.Rows = append(files.Rows, []string{f.File, f.Title, f.Digest[:16]})
	}
	p.block(record.Block{Heading: "Enclosed, in the order asked", Table: files})
	if s.Declared != "" {
		signed := "not signed"
		if s.SignedBy != "" {
			signed = s.SignedBy + ", " + s.SignedOn
		}
		p.block(record.Block{Heading: "Declaration", Text: []string{s.Declared}, Pairs: [][2]string{{"Signed", signed}}})
	}
	if len(lacks) > 0 {
		b := record.Block{Heading: "Not complete when it was printed", Caution: true}
		for _, l := range lacks {
			b.Text = append(b.Text, l.What+": "+l.Remedy)
		}
		p.block(b)
	}
	p.block(record.Block{Heading: "Note", Text: []string{"A form of the contractor's own program. The form and the guidance of whoever decides prevail."}})
	var out bytes.Buffer
	if err := p.pdf.Output(&out); err != nil {
		return nil, fmt.Errorf("print %s: %w", s.Title, err)
	}
	return out.Bytes(), nil
}

// Package packs a form as PDF, JSON and CSV together with its files, in the
// order asked. content gives a file's bytes by its digest.
func Package(s *clearance.Submission, pdf []byte, content func(digest string) ([]byte, error), at time.Time) ([]byte, error) {
	form, err := json.MarshalIndent(s, "", "  ")
	if err != nil {
		return nil, err
	}
	table, err := CSV(s.Rows())
	if err != nil {
		return nil, err
	}
	var out bytes.Buffer
	z := zip.NewWriter(&out)
	add := func(name string, data []byte) error {
		w, err := z.CreateHeader(&zip.FileHeader{Name: name, Method: zip.Deflate, Modified: at})
		if err == nil {
			_, err = w.Write(data)
		}
		return err
	}
	for _, f := range []struct {
		name string
		data []byte
	}{{"form.pdf", pdf}, {"form.json", form}, {"form.csv", table}} {
		if err := add(f.name, f.data); err != nil {
			return nil, err
		}
	}
	for _, f := range s.Files {
		data, err := content(f.Digest)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", f.File, err)
		}
		if err := add(f.File, data); err != nil {
			return nil, err
		}
	}
	if err := z.Close(); err != nil {
		return nil, err
	}
	return out.Bytes(), nil
}

// CSV writes rows as CSV.
func CSV(rows [][]string) ([]byte, error) {
	var out bytes.Buffer
	err := text.WriteCSV(&out, rows)
	return out.Bytes(), err
}
