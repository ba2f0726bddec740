package document

import (
	"archive/zip"
	"bytes"
	"encoding/csv"
	"fmt"
	"io"
	"slices"
	"strings"
	"testing"
	"time"

	ics "github.com/arran4/golang-ical"
	"github.com/pdfcpu/pdfcpu/pkg/api"

	"dogbolt/core/clearance"
)

var at = time.Date(2027, 3, 1, 9, 0, 0, 0, time.UTC)

func submission() *clearance.Submission {
	return &clearance.Submission{Format: clearance.SubmissionFormat, Form: "f", Title: "Grant ≥ 1 Ω", To: "desk@scheme.example", Job: "DB-1",
		Fields:   []clearance.Filled{{ID: "name", Label: "Applicant", Value: `Anne "A." Dunmore`}, {ID: "cable", Label: "Cable", Value: "6 mm²"}, {ID: "empty", Label: "Serial"}},
		Files:    []clearance.Sent{{Kind: "bill", Title: "Bill", File: "01-bill.jpg", Digest: strings.Repeat("a", 64)}, {Kind: "quote", Title: "Quotation", File: "02-quote.pdf", Digest: strings.Repeat("b", 64)}},
		Declared: "What is stated here is true.", SignedBy: "Anne Dunmore", SignedOn: "2027-03-01"}
}

func TestFormPDF(t *testing.T) {
	b, err := Form(submission(), []clearance.Trifle{{Field: "x", What: "Serial is missing", Remedy: "enter it"}}, "A4", at)
	if err != nil {
		t.Fatal(err)
	}
	if err := api.Validate(bytes.NewReader(b), nil); err != nil {
		t.Errorf("not a valid PDF: %v", err)
	}
	again, err := Form(submission(), nil, "Letter", at)
	if err != nil || bytes.Equal(b, again) {
		t.Errorf("Letter without lacks is the same file: %v", err)
	}
}

// TestPackage: form in three formats, then the files in the order asked.
func TestPackage(t *testing.T) {
	s := submission()
	b, err := Package(s, []byte("%PDF"), func(d string) ([]byte, error) { return []byte("file " + d[:1]), nil }, at)
	if err != nil {
		t.Fatal(err)
	}
	z, err := zip.NewReader(bytes.NewReader(b), int64(len(b)))
	if err != nil {
		t.Fatal(err)
	}
	var names []string
	for _, f := range z.File {
		names = append(names, f.Name)
		if f.Name == "form.csv" {
			r, err := f.Open()
			if err != nil {
				t.Fatal(err)
			}
			rows, err := csv.NewReader(r).ReadAll()
			if err != nil || rows[1][2] != `Anne "A." Dunmore` || len(rows) != 6 {
				t.Errorf("%q %v", rows, err)
			}
		}
	}
	if want := []string{"form.pdf", "form.json", "form.csv", "01-bill.jpg", "02-quote.pdf"}; !slices.Equal(names, want) {
		t.Errorf("%v", names)
	}
	r, err := z.File[3].Open()
	if err != nil {
		t.Fatal(err)
	}
	if data, _ := io.ReadAll(r); string(data) != "file a" {
		t.Errorf("%q", data)
	}
	again, _ := Package(s, []byte("%PDF"), func(d string) ([]byte, error) { return []byte("file " + d[:1]), nil }, at)
	if !bytes.Equal(b, again) {
		t.Error("the same package is another file")
	}
	if _, err := Package(s, nil, func(string) ([]byte, error) { return nil, fmt.Errorf("gone") }, at); err == nil || !strings.Contains(err.Error(), "01-bill.jpg") {
		t.Errorf("%v", err)
	}
}

func TestXLSX(t *testing.T) {
	rows := [][]string{{"id", "name", "quantity"}, {"007", "6 mm² ≥", "48.5"}, {"R2", "gland", "12"}}
	b, err := XLSX("stock", rows)
	if err != nil {
		t.Fatal(err)
	}
	back, err := ReadXLSX(b)
	if err != nil || fmt.Sprint(back) != fmt.Sprint(rows) {
		t.Errorf("%q %v", back, err)
	}
	if _, err := ReadXLSX([]byte("id,name\n")); err == nil {
		t.Error("a CSV file is read as a workbook")
	}
}

// TestCalendar: read back by the library's reader; a whole day stays one on the
// day the clock changes, moments are UTC.
func TestCalendar(t *testing.T) {
	from := time.Date(2027, 3, 28, 8, 0, 0, 0, time.FixedZone("BST", 3600))
	b, err := Calendar("North van", []Event{{ID: "a", Day: "2027-03-28", Title: "Grant due; mend, send"}, {ID: "b", From: from, To: from.Add(4 * time.Hour), Title: "DB-1", Place: "3 Sailmaker's Row, Quillmouth", Note: "one\ntwo"}}, at)
	if err != nil {
		t.Fatal(err)
	}
	c, err := ics.ParseCalendar(bytes.NewReader(b))
	if err != nil || len(c.Events()) != 2 {
		t.Fatalf("%v %s", err, b)
	}
	for _, want := range []string{"DTSTART;VALUE=DATE:20270328", "DTEND;VALUE=DATE:20270329", "DTSTART:20270328T070000Z", "DTEND:20270328T110000Z"} {
		if !bytes.Contains(b, []byte(want)) {
			t.Errorf("%s is not in\n%s", want, b)
		}
	}
	if got := c.Events()[0].GetProperty(ics.ComponentPropertySummary).Value; got != "Grant due; mend, send" {
		t.Errorf("%q", got)
	}
	for _, line := range strings.Split(string(b), "\r\n") {
		if len(line) > 75 {
			t.Errorf("a line of %d octets: RFC 5545 folds at 75: %q", len(line), line)
		}
	}
	if _, err := Calendar("x", []Event{{Day: "soon"}}, at); err == nil {
		t.Error("a day in words")
	}
}
