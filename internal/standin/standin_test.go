package standin

import (
	"bytes"
	"encoding/json"
	"image"
	"image/jpeg"
	"io"
	"mime"
	"net/mail"
	"os"
	"strings"
	"testing"
	"time"

	"dogbolt/core/clearance"
	"dogbolt/core/job"
	"dogbolt/internal/document"
)

func TestForecast(t *testing.T) {
	f, err := ReadForecast(strings.NewReader("place,hour,temperature,rain\nQuillmouth,2027-03-28T02:00:00+01:00,3.5,0\nquillmouth,2027-03-28T00:00:00Z,4.5,1.2\n"))
	if err != nil {
		t.Fatal(err)
	}
	// The clock of Great Britain went from 01:00 to 02:00 that night: the two rows
	// are one hour apart, 00:00 and 01:00 UTC.
	for _, c := range []struct {
		at   string
		warm float64
		ok   bool
	}{{"2027-03-28T00:59:00Z", 4.5, true}, {"2027-03-28T01:10:00Z", 3.5, true}, {"2027-03-28T02:10:00Z", 0, false}} {
		at, _ := time.Parse(time.RFC3339, c.at)
		if w, ok := f.At("QUILLMOUTH", at); ok != c.ok || w.Temperature != c.warm {
			t.Errorf("%s: %+v %t", c.at, w, ok)
		}
	}
	_, err = ReadForecast(strings.NewReader("place,hour,temperature,rain\n,2027-03-28T02:00:00Z,3,0\na,noon,3,0\na,2027-03-28T02:00:00Z,warm,0\na,2027-03-28T02:00:00Z,3,-1\na,b\n"))
	for _, want := range []string{"row 2: place", "row 3: hour", "row 4: temperature", "row 5: rain", "row 6: has 2"} {
		if err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%v lacks %q", err, want)
		}
	}
	if _, err := ReadForecast(strings.NewReader("a,b\n")); err == nil {
		t.Error("another heading is taken")
	}
}

// TestSampleShifts: the sample becomes a forecast from today on, hour for hour.
func TestSampleShifts(t *testing.T) {
	first := time.Date(2027, 10, 30, 9, 0, 0, 0, time.UTC)
	data, err := Shifted(SampleForecast, first)
	if err != nil {
		t.Fatal(err)
	}
	if bytes.Count(data, []byte("\n")) != bytes.Count(SampleForecast, []byte("\n")) {
		t.Error("rows were lost")
	}
	f, err := ReadForecast(bytes.NewReader(data))
	if err != nil {
		t.Fatal(err)
	}
	old, err := ReadForecast(bytes.NewReader(SampleForecast))
	if err != nil {
		t.Fatal(err)
	}
	for h := range 21 * 24 {
		a, ok := f.At("Saltbeck", time.Date(2027, 10, 30, h, 0, 0, 0, time.UTC))
		b, ok2 := old.At("Saltbeck", time.Date(2027, 1, 4, h, 0, 0, 0, time.UTC))
		if !ok || !ok2 || a != b {
			t.Fatalf("hour %d: %+v %+v", h, a, b)
		}
	}
}

func message() clearance.Message {
	return clearance.Message{ID: "m-1", From: "office@quillbeacon.example", To: "desk@scheme.example", Subject: "Grant, job DB-1: 6 mm² ≥ Ω", Body: "See the package.",
		Date: time.Date(2027, 3, 1, 9, 0, 0, 0, time.UTC), Files: []clearance.Attached{{Name: "package.zip", Type: "application/zip", Data: bytes.Repeat([]byte{0, 1, 2, 250}, 400)}}}
}

// TestMailDrop: what is dropped can be read by the standard library's mail
// reader.
func TestMailDrop(t *testing.T) {
	d := MailDrop{t.TempDir()}
	if err := d.Send(message()); err != nil {
		t.Fatal(err)
	}
	b, err := os.ReadFile(d.Path("m-1"))
	if err != nil {
		t.Fatal(err)
	}
	m, err := mail.ReadMessage(bytes.NewReader(b))
	if err != nil {
		t.Fatal(err)
	}
	subject, err := new(mime.WordDecoder).DecodeHeader(m.Header.Get("Subject"))
	if at, err2 := m.Header.Date(); err != nil || err2 != nil || subject != message().Subject || !at.Equal(message().Date) {
		t.Errorf("%q %v %v %v", subject, at, err, err2)
	}
	if rest, _ := io.ReadAll(m.Body); !bytes.Contains(rest, []byte("filename=package.zip")) {
		t.Error("no file in the mail")
	}
	for _, line := range strings.Split(string(b), "\r\n") {
		if len(line) > 998 {
			t.Fatalf("a line of %d characters: RFC 5322 allows 998", len(line))
		}
	}
	bad := message()
	bad.To = "a@b.example\r\nBcc: everyone@b.example"
	if err := d.Send(bad); err == nil {
		t.Error("a header was smuggled in")
	}
}

func form(t *testing.T) clearance.Definition {
	t.Helper()
	for _, d := range clearance.Samples() {
		if d.Paper == "permit" {
			return d
		}
	}
	t.Fatal("no permit among the samples")
	return clearance.Definition{}
}

// sent is a permit application that the desk has nothing against.
func sent() clearance.Submission {
	f := func(id, v string) clearance.Filled { return clearance.Filled{ID: id, Value: v} }
	return clearance.Submission{Format: clearance.SubmissionFormat, Fields: []clearance.Filled{f("owner", "M. Trujillo"), f("street", "6 Cottonwood Court"), f("zip", "00058"), f("parcel", "12-0440-017"),
		f("contractor", "Quill and Beacon Electrical"), f("holder", "R. Delacroix"), f("license", "E-1"), f("service", "200 A"), f("demand", "140 A"), f("breaker", "60 A"), f("conductors", "6 AWG"), f("setting", "48 A"), f("valuation", "1400")},
		Files: []clearance.Sent{{Kind: "load-calculation", File: "01.pdf"}, {Kind: "board-open", File: "02.jpg"}, {Kind: "cutsheet", File: "03.pdf"}}, SignedBy: "R. DELACROIX", SignedOn: "2027-03-01"}
}

func picture(w, h int) []byte {
	var b bytes.Buffer
	if err := jpeg.Encode(&b, image.NewGray(image.Rect(0, 0, w, h)), nil); err != nil {
		panic(err)
	}
	return b.Bytes()
}

func TestSchemeDesk(t *testing.T) {
	pdf := []byte("%PDF-1.4\n%%EOF\n")
	for _, c := range []struct {
		name   string
		change func(*clearance.Submission, map[string][]byte)
		reason string // "" where it is accepted
	}{
		{"complete", func(*clearance.Submission, map[string][]byte) {}, ""},
		{"empty box", func(s *clearance.Submission, _ map[string][]byte) { s.Fields[0].Value = " " }, "“Owner” is empty"},
		{"box left out", func(s *clearance.Submission, _ map[string][]byte) { s.Fields = s.Fields[1:] }, "“Owner” is empty"},
		{"shape", func(s *clearance.Submission, _ map[string][]byte) { s.Fields[3].Value = "12 0440" }, "such as 12-0440-017"},
		{"not enclosed", func(s *clearance.Submission, _ map[string][]byte) { s.Files = s.Files[:2] }, "“Cut sheet of the charger” was not enclosed"},
		{"does not open", func(_ *clearance.Submission, f map[string][]byte) { f["02.jpg"] = []byte("nothing") }, "does not open"},
		{"half a PDF", func(_ *clearance.Submission, f map[string][]byte) { f["01.pdf"] = []byte("%PDF-1.4\n") }, "does not open"},
		{"too small to read", func(_ *clearance.Submission, f map[string][]byte) { f["02.jpg"] = picture(640, 480) }, "too small"},
		{"not signed", func(s *clearance.Submission, _ map[string][]byte) { s.SignedBy = "" }, "not signed"},
		{"signed by somebody else", func(s *clearance.Submission, _ map[string][]byte) { s.SignedBy = "P. Lindqvist" }, "not signed"},
	} {
		t.Run(c.name, func(t *testing.T) {
			files := map[string][]byte{"01.pdf": pdf, "02.jpg": picture(1200, 1000), "03.pdf": pdf}
			s := sent()
			c.change(&s, files)
			for i := range s.Files {
				s.Files[i].Digest = s.Files[i].File
			}
			zip, err := document.Package(&s, pdf, func(name string) ([]byte, error) { return files[name], nil }, time.Date(2027, 3, 1, 0, 0, 0, 0, time.UTC))
			if err != nil {
				t.Fatal(err)
			}
			drop := MailDrop{t.TempDir()}
			m := message()
			m.Files[0].Data = zip
			if err := drop.Send(m); err != nil {
				t.Fatal(err)
			}
			r, err := SchemeDesk{drop}.Answer("m-1", form(t), 0, "2027-03-02")
			switch {
			case err != nil:
				t.Errorf("%s: %v", c.name, err)
			case c.reason == "" && (r.Outcome != job.Accepted || r.Reference == ""):
				t.Errorf("%s: %+v", c.name, r)
			case c.reason != "" && (r.Outcome != job.Bounced || len(r.Reasons) != 1 || !strings.Contains(r.Reasons[0], c.reason)):
				t.Errorf("%s: %+v, want %q", c.name, r, c.reason)
			}
		})
	}
}

// TestSlowDesk: a scheme whose usual wait is long acknowledges first.
func TestSlowDesk(t *testing.T) {
	drop := MailDrop{t.TempDir()}
	if err := drop.Send(message()); err != nil {
		t.Fatal(err)
	}
	slow := form(t)
	slow.WaitHigh = 84
	r, err := SchemeDesk{drop}.Answer("m-1", slow, 0, "2027-03-02")
	if err != nil || r.Outcome != job.Received {
		t.Errorf("%+v %v", r, err)
	}
	again, err := SchemeDesk{drop}.Answer("m-1", slow, 1, "2027-03-09")
	if err != nil || again.Outcome != job.Bounced || again.Reference != r.Reference || !strings.Contains(again.Reasons[0], "cannot be opened") {
		t.Errorf("not a package: %+v %v", again, err)
	}
	if _, err := (SchemeDesk{drop}).Answer("gone", slow, 0, "2027-03-02"); err == nil {
		t.Error("answered a mail that was never sent")
	}
}

func TestSubmissionJSON(t *testing.T) {
	b, err := json.Marshal(sent())
	if err != nil || !bytes.Contains(b, []byte(`"format":"dogbolt.form/1"`)) {
		t.Errorf("%s %v", b, err)
	}
}
