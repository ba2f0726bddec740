package document

import (
	"bytes"
	"encoding/hex"
	"encoding/json"
	"encoding/xml"
	"errors"
	"fmt"
	"html"
	"image"
	"image/color"
	"image/jpeg"
	"io"
	"math"
	"os"
	"os/exec"
	"path/filepath"
	"reflect"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"
	"testing"
	"time"

	_ "dogbolt/core/books" // the countries register themselves
	"dogbolt/core/books/uk"
	"dogbolt/core/demand"
	"dogbolt/core/job"
	"dogbolt/core/loadmgmt"
	"dogbolt/core/record"
	"dogbolt/core/rulebook"
	"dogbolt/internal/keyring"
	"dogbolt/internal/photo"
	"dogbolt/internal/stamp"
	"dogbolt/internal/standin"
	"dogbolt/internal/testkit/reftest"
	"dogbolt/internal/testkit/ruletest"
	"golang.org/x/sync/errgroup"
)

func sealed(t testing.TB, name string) (record.Sealed, []byte) {
	t.Helper()
	b, err := os.ReadFile("../../docs/formats/examples/" + name)
	if err != nil {
		t.Fatal(err)
	}
	j, err := job.Read(b)
	if err != nil {
		t.Fatal(err)
	}
	findings, err := rulebook.Check(&j)
	if err != nil {
		t.Fatal(err)
	}
	r := record.Record{Format: record.Format, Issue: 1, Contractor: record.Contractor{Name: "Quill and Beacon Electrical"}, Edition: j.Rulebook,
		Program: "test", SealedAt: time.Date(2026, 5, 4, 15, 30, 0, 0, time.UTC), SealedBy: "A. Nakagawa", Job: j, Findings: rulebook.Lines(findings)}
	file, seal, err := record.Sign(r, ruletest.Key(t))
	if err != nil {
		t.Fatal(err)
	}
	return record.Sealed{Record: r, Seal: seal}, file
}

func pdf(t testing.TB, name string) []byte {
	t.Helper()
	s, file := sealed(t, name)
	b, err := PDF(record.Inspection(&s.Record), s, file, ruletest.Key(t), With{})
	if err != nil {
		t.Fatal(err)
	}
	return b
}

// printed returns the words of a PDF as pdftotext, an independent reader, sees them.
func printed(t *testing.T, file []byte) string {
	t.Helper()
	if _, err := exec.LookPath("pdftotext"); err != nil {
		if os.Getenv("DOGBOLT_REFERENCES") != "" {
			t.Fatal("pdftotext is not installed")
		}
		t.Skip("pdftotext is not installed")
	}
	path := filepath.Join(t.TempDir(), "a.pdf")
	if err := os.WriteFile(path, file, 0o600); err != nil {
		t.Fatal(err)
	}
	out, err := exec.Command("pdftotext", "-layout", path, "-").Output()
	if err != nil {
		t.Fatal(err)
	}
	return string(out)
}

func TestPDFText(t *testing.T) {
	file := pdf(t, "uk-pass.json")
	words := printed(t, file)
	for _, want := range []string{"Inspection record", "job EX-UK-0001", "page 1 of 6", "≤ 0.87 Ω", "≥ 1 MΩ", ">999 MΩ", "6 mm²", "90 °C", "IΔn", "A. Nakagawa", "SHA-256"} {
		if !strings.Contains(words, want) {
			t.Errorf("the PDF does not say %q", want)
		}
	}
	if pages, numbered := strings.Count(words, "\f"), strings.Count(words, "job EX-UK-0001")/2; pages != numbered {
		t.Errorf("%d pages, the job number at the head and foot of %d", pages, numbered)
	}
}

// TestPackInSpanish: the pack of a customer who asked for it is Spanish to its last line, and says so to a reader; the
// words that people entered stay as they are.
func TestPackInSpanish(t *testing.T) {
	s, file := sealed(t, "us-pass.json")
	s.Record.Job.Site.Language = job.Spanish
	b, err := PDF(record.Pack(&s.Record), s, file, ruletest.Key(t), With{Customer: true})
	if err != nil {
		t.Fatal(err)
	}
	if !bytes.Contains(b, []byte("/Lang (es)")) {
		t.Error("the file does not say its language")
	}
	words := printed(t, b)
	for _, want := range []string{"Su punto de carga", "trabajo EX-US-0001", "página 1 de", "Sellado", "4 may 2026", "código del instalador", "panel on the garage wall"} {
		if !strings.Contains(words, want) {
			t.Errorf("it does not say %q", want)
		}
	}
	for _, english := range []string{"Call us", "Judged", "Only a", "job EX", "breaker", "sealed", "May 4"} {
		if strings.Contains(words, english) {
			t.Errorf("it says %q", english)
		}
	}
}

// TestGlyphs: every sign of the trade prints.
func TestGlyphs(t *testing.T) {
	s, file := sealed(t, "uk-pass.json")
	doc := record.Document{Title: "Signs", Number: "1", Blocks: []record.Block{{Heading: "Signs Ω ≤ ≥ Δ ² ° µ √ ½ × ÷ −", Text: []string{"Ω ≤ ≥ Δ ² ° µ √ ½ × ÷ − … “ ” ’ · €"}}}}
	b, err := PDF(doc, s, file, ruletest.Key(t), With{})
	if err != nil {
		t.Fatal(err)
	}
	words := printed(t, b)
	for _, sign := range []string{"Ω", "≤", "≥", "Δ", "²", "°", "µ", "√", "½", "×", "÷", "−", "…", "“", "’", "·", "€"} {
		if strings.Count(words, sign) < 1 {
			t.Errorf("%s does not print", sign)
		}
	}
}

// TestAnyText: whatever is typed prints. What the fonts have prints as it is, the rest as
// its name in the Unicode Character Database, and the record keeps it whole.
func TestAnyText(t *testing.T) {
	s, file := sealed(t, "uk-pass.json")
	const cell = "plug 🔌 of Жанна Παπάς, Łódź, 試験, ❤️ 👩‍🔧"
	doc := record.Document{Title: "Any 🔌", Number: "1", Blocks: []record.Block{{
		Heading: "Head 🔌", Text: []string{cell}, Pairs: [][2]string{{"Customer 🔌", cell}},
		Table: &record.Table{Columns: []record.Column{{Title: "What 🔌", Share: 0.6}, {Title: "Value", Share: 0.4, Right: true}}, Rows: [][]string{{cell, "1 🔌"}}},
	}}}
	b, err := PDF(doc, s, file, ruletest.Key(t), With{})
	if err != nil {
		t.Fatal(err)
	}
	words := strings.Join(strings.Fields(printed(t, b)), " ")
	for _, want := range []string{"Any [electric plug]", "Head [electric plug]", "Customer [electric plug]", "What [electric plug]", "1 [electric plug]", "Жанна Παπάς, Łódź", "[cjk unified ideograph"} {
		if !strings.Contains(words, want) && !(want == "[cjk unified ideograph" && strings.Contains(words, "[U+8A66]")) {
			t.Errorf("the PDF does not say %q: %.600s", want, words)
		}
	}
	if strings.ContainsAny(words, "\ufe0f\u200d") {
		t.Error("what joins characters prints")
	}
	if got := Named(doc); !slices.Contains(got, "🔌 [electric plug]") || slices.Contains(got, "Ж [cyrillic capital letter zhe]") || len(got) != 6 {
		t.Errorf("printed as names: %q", got)
	}
}

func TestVerify(t *testing.T) {
	for _, name := range []string{"uk-pass.json", "us-pass.json"} {
		file := pdf(t, name)
		v, err := Verify(file)
		if err != nil || !v.PDF {
			t.Fatalf("%s: %v", name, err)
		}
		if v.Sealed.Record.SealedBy != "A. Nakagawa" {
			t.Errorf("%s: sealed by %q", name, v.Sealed.Record.SealedBy)
		}
	}
	_, file := sealed(t, "uk-pass.json")
	if v, err := Verify(file); err != nil || v.PDF {
		t.Errorf("JSON: %+v %v", v.PDF, err)
	}
}

// TestEveryByteOfPDF changes bytes all over a PDF: each change is found.
func TestEveryByteOfPDF(t *testing.T) {
	everyByte(t, pdf(t, "uk-fail.json"))
}

// TestEveryByteOfStamped: the same of a PDF with a time stamp, where a change may go unseen
// that leaves what the stamp says as it was: nobody signs the unsigned parts of another's token.
func TestEveryByteOfStamped(t *testing.T) {
	s, file := sealed(t, "uk-fail.json")
	b, err := PDF(record.Inspection(&s.Record), s, file, ruletest.Key(t), With{Stamp: stamper(t)})
	if err != nil {
		t.Fatal(err)
	}
	everyByte(t, b)
}

// stamper asks the simulated time authority.
func stamper(t *testing.T) Stamper {
	t.Helper()
	a, err := standin.NewTimeAuthority(time.Now)
	if err != nil {
		t.Fatal(err)
	}
	return func(signature []byte) []byte {
		token, err := stamp.Of(t.Context(), a, signature)
		if err != nil {
			t.Fatal(err)
		}
		return token
	}
}

func everyByte(t *testing.T, file []byte) {
	t.Helper()
	whole, err := Verify(file)
	if err != nil {
		t.Fatal(err)
	}
	token := bytes.Index(file, []byte(hex.EncodeToString([]byte("\x2a\x86\x48\x86\xf7\x0d\x01\x09\x10\x02\x0e")))) // id-aa-timeStampToken
	same := func(v Verified, at int) bool {
		return token > 0 && at > token && v.Stamp != nil && v.Stamp.At.Equal(whole.Stamp.At) && v.Stamp.By.Subject.String() == whole.Stamp.By.Subject.String()
	}
	step := max(len(file)/400, 1)
	seen := 0
	for i := 0; i < len(file); i += step {
		old := file[i]
		file[i] ^= 0x20
		if v, err := Verify(file); err == nil && !same(v, i) {
			t.Fatalf("byte %d of %d is not seen", i, len(file))
		}
		file[i] = old
		seen++
	}
	from := bytes.LastIndex(file, []byte("/ByteRange"))
	for i := from; i < len(file); i++ { // the seal itself, byte by byte, but for its empty room
		old := file[i]
		if old == '0' && i%50 > 0 && file[i-1] == '0' {
			continue
		}
		file[i] ^= 0x01
		if v, err := Verify(file); err == nil && !same(v, i) {
			t.Fatalf("byte %d of the seal, %d in it, is not seen: %q", i, i-from, file[max(i-40, 0):min(i+20, len(file))])
		}
		file[i] = old
	}
	if seen < 400 {
		t.Errorf("only %d bytes tried", seen)
	}
	for name, bad := range map[string][]byte{
		"cut off":   file[:len(file)-40],
		"appended":  append(bytes.Clone(file), '\n'),
		"unsealed":  file[:bytes.Index(file, []byte("%%EOF\n"))+6],
		"not a PDF": []byte("%PDF-1.4 nonsense\n%dogbolt-seal AAAA\n"),
		"empty":     nil,
	} {
		t.Run(name, func(t *testing.T) {
			if _, err := Verify(bad); err == nil {
				t.Errorf("%s is intact", name)
			}
		})
	}
}

// TestOlderPDF: a PDF that was sealed before there were certificates is checked as it was then.
func TestOlderPDF(t *testing.T) {
	file, err := os.ReadFile("testdata/older-seal.pdf")
	if err != nil {
		t.Fatal(err)
	}
	if v, err := Verify(file); err != nil || !v.PDF {
		t.Fatal(err)
	}
	for i := 0; i < len(file); i += len(file) / 40 {
		file[i] ^= 0x20
		if _, err := Verify(file); err == nil {
			t.Errorf("byte %d is not seen", i)
		}
		file[i] ^= 0x20
	}
	for i := len(file) - 90; i < len(file); i++ {
		file[i] ^= 0x01
		if _, err := Verify(file); err == nil {
			t.Errorf("byte %d of the seal is not seen", i)
		}
		file[i] ^= 0x01
	}
}

// pdfsig is what the program of that name says of a PDF's signatures. It ends with 0 whatever
// it finds: its words count.
func pdfsig(t *testing.T, pdf []byte) string {
	t.Helper()
	path, err := exec.LookPath("pdfsig")
	if err != nil {
		t.Fatal("pdfsig of poppler-utils is missing: scripts/need.sh sets it up")
	}
	out, err := exec.Command(path, writeTemp(t, pdf)).CombinedOutput()
	if err != nil {
		t.Fatalf("%v: %s", err, out)
	}
	return string(out)
}

// TestReadersKnowTheSeal: another program's words on a sealed PDF, whole and changed, as it
// stands in ETSI EN 319 142-1 (PAdES). Source: pdfsig of poppler-utils.
func TestReadersKnowTheSeal(t *testing.T) {
	for _, name := range []string{"uk-pass.json", "us-pass.json"} {
		whole := pdf(t, name)
		changed := bytes.Clone(whole)
		changed[bytes.Index(changed, []byte("stream\n"))+60] ^= 0x01
		s, file := sealed(t, name)
		stamped, err := PDF(record.Inspection(&s.Record), s, file, ruletest.Key(t), With{Stamp: stamper(t)})
		if err != nil {
			t.Fatal(err)
		}
		longer := append(bytes.Clone(whole), "% more\n"...)
		for _, c := range []struct {
			what string
			pdf  []byte
			says []string
			not  []string
		}{
			{"whole", whole, []string{"Signature is Valid", "Total document signed", "ETSI.CAdES.detached", "SHA-256", "Quill and Beacon Electrical"}, []string{"Not total"}},
			{"changed", changed, []string{"Digest Mismatch"}, []string{"Signature is Valid"}},
			{"stamped", stamped, []string{"Signature is Valid", "Total document signed"}, []string{"Not total"}},
			{"longer", longer, []string{"Not total document signed"}, nil},
		} {
			said := pdfsig(t, c.pdf)
			for _, w := range c.says {
				if !strings.Contains(said, w) {
					t.Errorf("%s, %s: pdfsig does not say %q:\n%s", name, c.what, w, said)
				}
			}
			for _, w := range c.not {
				if strings.Contains(said, w) {
					t.Errorf("%s, %s: pdfsig says %q:\n%s", name, c.what, w, said)
				}
			}
		}
		out, err := exec.Command("pdfdetach", "-list", writeTemp(t, whole)).CombinedOutput()
		if err != nil || !strings.Contains(string(out), "record.json") {
			t.Errorf("%s: %v %s", name, err, out)
		}
	}
}

func writeTemp(t *testing.T, b []byte) string {
	t.Helper()
	file := filepath.Join(t.TempDir(), "b.pdf")
	if err := os.WriteFile(file, b, 0o600); err != nil {
		t.Fatal(err)
	}
	return file
}

// TestForeignRecord: a PDF signed over another record's attachment fails.
func TestForeignRecord(t *testing.T) {
	s, _ := sealed(t, "uk-pass.json")
	other, otherFile := sealed(t, "us-pass.json")
	stranger, err := keyring.New("Somebody else", time.Now())
	if err != nil {
		t.Fatal(err)
	}
	b, err := PDF(record.Inspection(&s.Record), other, otherFile, stranger, With{})
	if err != nil {
		t.Fatal(err)
	}
	if _, err := Verify(b); err == nil {
		t.Error("a PDF sealed with another key than its record is intact")
	}
}

func TestOneLine(t *testing.T) {
	s, _ := sealed(t, "uk-pass.json")
	p, _ := s.Record.Job.Point("A")
	svg := OneLine(&s.Record.Job, p, uk.Practice).SVG()
	for _, want := range []string{"TN-C-S, Ze 0.35 Ω", "100 A cutout", "B40 A breaker", "30 mA type A", "6 mm² armoured", "16.0 m", "point A, 32 A set", "6 mA d.c. detection", "open-PEN device"} {
		if !strings.Contains(svg, want) {
			t.Errorf("the diagram does not say %q", want)
		}
	}
	empty := OneLine(&job.Job{}, job.Point{ID: "<A&B>"}, uk.Practice).SVG()
	for _, want := range []string{"supply not surveyed", "cable not chosen", "route not surveyed", "? A set", "&lt;A&amp;B&gt;"} {
		if !strings.Contains(empty, want) {
			t.Errorf("the empty diagram does not say %q", want)
		}
	}
}

// TestOneLineLeads: each element of the diagram, of a job with everything and of one with
// nothing, has a name, and what it leads to and is judged by are fields of the document.
func TestOneLineLeads(t *testing.T) {
	whole, _ := sealed(t, "uk-pass.json")
	bare := job.Job{Survey: job.Survey{Places: []job.Place{{Point: "A"}}}}
	for _, j := range []*job.Job{&whole.Record.Job, &bare} {
		p, ok := j.Point("A")
		if !ok {
			t.Fatal("no point A")
		}
		for _, e := range OneLine(j, p, uk.Practice).Parts {
			if strings.TrimSpace(e.Title) == "" {
				t.Errorf("%s has no name", e.ID)
			}
			for _, field := range append([]string{e.Field}, e.Fields...) {
				if !isField(reflect.TypeFor[job.Job](), strings.Split(field, ".")) {
					t.Errorf("%s: %s is no field", e.ID, field)
				}
			}
		}
	}
}

// isField reports whether a path leads to a field of a type, by the names that it has in JSON.
func isField(in reflect.Type, path []string) bool {
	for in.Kind() == reflect.Pointer {
		in = in.Elem()
	}
	if len(path) == 0 {
		return true
	}
	if in.Kind() == reflect.Slice {
		_, err := strconv.ParseUint(path[0], 10, 8)
		return err == nil && isField(in.Elem(), path[1:])
	}
	for i := range in.NumField() {
		if name, _, _ := strings.Cut(in.Field(i).Tag.Get("json"), ","); name == path[0] {
			return isField(in.Field(i).Type, path[1:])
		}
	}
	return false
}

// TestNightPlot: the plot holds the limit, the hours and both areas, and its
// highest point is the night's peak.
func TestNightPlot(t *testing.T) {
	s, _ := sealed(t, "us-pass.json")
	n, missing := loadmgmt.Of(&s.Record.Job, 1, uk.Practice.Systems)
	if missing != "" {
		t.Fatal(missing)
	}
	n.Keep = 80
	svg := NightPlot(n, loadmgmt.Run(n, loadmgmt.Managed, loadmgmt.Default)).SVG()
	for _, want := range []string{"200 A service", "kept to 80 A", "17:00", "07:00", `class="house" points`, `class="charging" points`} {
		if !strings.Contains(svg, want) {
			t.Errorf("the plot has no %q", want)
		}
	}
	if strings.Contains(svg, "NaN") {
		t.Error("the plot has a point that is no number")
	}
}

func ExampleDrawing_SVG() {
	d := Drawing{Width: 10, Height: 10, Title: "a line"}
	d.line("line", Pt{1, 1}, Pt{9, 9})
	fmt.Println(d.SVG())
	// Output: <svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10" role="img" class="drawing"><title>a line</title><polyline class="line" fill="none" points="1,1 9,9"/></svg>
}

func BenchmarkInspectionPDF(b *testing.B) {
	s, file := sealed(b, "uk-pass.json")
	doc := record.Inspection(&s.Record)
	for b.Loop() {
		if _, err := PDF(doc, s, file, ruletest.Key(b), With{}); err != nil {
			b.Fatal(err)
		}
	}
}

// camera is a picture with areas, edges and some grain, as a phone's has.
func camera(t testing.TB, width, height int) []byte {
	t.Helper()
	img := image.NewRGBA(image.Rect(0, 0, width, height))
	for y := range height {
		for x := range width {
			v := byte(128 + 60*math.Sin(float64(x)/40)*math.Cos(float64(y)/55) + float64((x*7+y*13)%9))
			if (x/160+y/120)%3 == 0 {
				v = 255 - v
			}
			img.SetRGBA(x, y, color.RGBA{v, v / 2, 255 - v, 255})
		}
	}
	var b bytes.Buffer
	if err := jpeg.Encode(&b, img, nil); err != nil {
		t.Fatal(err)
	}
	return b.Bytes()
}

// TestPhotos: photos stand two to a row with their captions, whole whatever their shape; one that is not
// there is told.
func TestPhotos(t *testing.T) {
	s, file := sealed(t, "uk-pass.json")
	doc := record.Document{Title: "Photos", Number: "1", Blocks: []record.Block{{Heading: "Photos", Pictures: []record.Picture{
		{Digest: "wide", Caption: "Prove dead; K. Osei 4 May 2026 10:00 UTC"}, {Digest: "tall", Caption: "Lids and covers on"}, {Digest: "0123456789abcdef-gone", Caption: "Cable run"},
	}}}}
	b, err := PDF(doc, s, file, ruletest.Key(t), With{Pictures: map[string][]byte{"wide": camera(t, 400, 100), "tall": camera(t, 100, 400)}})
	if err != nil {
		t.Fatal(err)
	}
	words := strings.Join(strings.Fields(printed(t, b)), " ")
	for _, want := range []string{"Prove dead; K. Osei 4 May 2026 10:00 UTC Lids and covers on", "not in the firm's files. Its digest begins with 0123456789abcdef", "Cable run"} {
		if !strings.Contains(words, want) {
			t.Errorf("the paper does not say %q: %s", want, words)
		}
	}
	path := filepath.Join(t.TempDir(), "a.pdf")
	if err := os.WriteFile(path, b, 0o600); err != nil {
		t.Fatal(err)
	}
	if list := reftest.Run(t, "", "pdfimages", "-list", path); strings.Count(list, "jpeg") != 2 {
		t.Errorf("pictures of the paper: %s", list)
	}
}

// BenchmarkTenPhotos prints an inspection record with ten photos of a phone, made smaller at once.
func BenchmarkTenPhotos(b *testing.B) {
	s, file := sealed(b, "uk-pass.json")
	kept := camera(b, 1600, 1200)
	for b.Loop() {
		doc := record.Inspection(&s.Record)
		var mu sync.Mutex
		var group errgroup.Group
		pictures, list := map[string][]byte{}, make([]record.Picture, 10)
		for i := range list {
			list[i] = record.Picture{Digest: strconv.Itoa(i), Caption: "Cable run and secured; K. Osei"}
			group.Go(func() error {
				small, err := photo.Small(b.Context(), strconv.Itoa(i), kept)
				mu.Lock()
				pictures[list[i].Digest] = small
				mu.Unlock()
				return err
			})
		}
		if err := group.Wait(); err != nil {
			b.Fatal(err)
		}
		doc.Blocks = append(doc.Blocks, record.Block{Heading: "Photos", Pictures: list})
		if _, err := PDF(doc, s, file, ruletest.Key(b), With{Pictures: pictures}); err != nil {
			b.Fatal(err)
		}
	}
}

// TestSitePlan: the file is well-formed, names what is drawn, escapes it, and has
// a bar of a metre that is a metre long; an empty plan has the bar alone.
func TestSitePlan(t *testing.T) {
	j := job.Job{Number: "T-1"}
	s := &j.Survey
	s.SitePlan = job.SitePlan{
		Walls:     []job.Wall{{From: job.XY{X: 0, Y: 0}, To: job.XY{X: 0, Y: 6}, Thick: 0.2}},
		Doors:     []job.Opening{{From: job.XY{X: 0, Y: 1}, To: job.XY{X: 0, Y: 2}, Name: "door <1>"}},
		Paths:     []job.Walkway{{From: job.XY{X: -1, Y: 0}, To: job.XY{X: -1, Y: 6}, Width: 1}},
		Bays:      []job.Bay{{ID: "1", Centre: job.XY{X: 2.6, Y: 3}, Length: 5, Width: 2.6, Heading: 90}},
		Obstacles: []job.Obstacle{{At: job.XY{X: 5, Y: 0}, Width: 1, Height: 1, Name: "planter"}},
		Gas:       []job.Gas{{Kind: "pipe", From: job.XY{X: 0.2, Y: 5}, To: &job.XY{X: 0.2, Y: 6}}, {Kind: "meter", From: job.XY{X: 0.2, Y: 5}}},
		Positions: []job.Position{{ID: "A", At: &job.XY{X: 0.1, Y: 3}, Height: 1.1}},
		Board:     &job.XY{X: -3, Y: 3}, Meter: &job.XY{X: -3, Y: 4},
	}
	s.Vehicles = []job.Vehicle{{Name: "hatchback", Bay: "1", Attitude: "nose-in", Inlet: "rear-left"}}
	s.Places = []job.Place{{Point: "A", Position: "A"}}
	for _, c := range []struct {
		name string
		of   job.Job
		want int
	}{{"drawn", j, 15}, {"empty", job.Job{Number: "T-2"}, 1}} {
		name, want := c.name, c.want
		svg := SitePlan(&c.of, uk.Practice)
		shapes := 0
		d := xml.NewDecoder(bytes.NewReader(svg))
		for {
			token, err := d.Token()
			if errors.Is(err, io.EOF) {
				break
			}
			if err != nil {
				t.Fatalf("%s: %v in %s", name, err, svg)
			}
			if e, ok := token.(xml.StartElement); ok && (e.Name.Local == "polygon" || e.Name.Local == "polyline") {
				shapes++
			}
		}
		if shapes < want || !bytes.Contains(svg, []byte(">1 m<")) {
			t.Errorf("%s: %d shapes, want %d: %s", name, shapes, want, svg)
		}
	}
}

// TestPDFIsWhole: an independent reader finds nothing wrong with any paper of either country; it says its
// language, has a bookmark for each heading that leads to the page with it, lays its schedules across, and
// has no page without content.
func TestPDFIsWhole(t *testing.T) {
	for example, lang := range map[string]string{"uk-pass.json": "en-GB", "us-pass.json": "en-US"} {
		s, file := sealed(t, example)
		for name, doc := range map[string]record.Document{
			"inspection": record.Inspection(&s.Record), "certificate": record.Certificate(&s.Record), "pack": record.Pack(&s.Record),
		} {
			b, err := PDF(doc, s, file, ruletest.Key(t), With{})
			if err != nil {
				t.Fatal(err)
			}
			path := filepath.Join(t.TempDir(), "a.pdf")
			if err := os.WriteFile(path, b, 0o600); err != nil {
				t.Fatal(err)
			}
			if said := reftest.Run(t, "", "qpdf", "--check", path); !strings.Contains(said, "No syntax or stream encoding errors found") {
				t.Errorf("%s, %s: %s", example, name, said)
			}
			if !bytes.Contains(b, []byte("/Lang ("+lang+")")) {
				t.Errorf("%s, %s does not say its language", example, name)
			}
			pages := strings.Split(strings.TrimSuffix(printed(t, b), "\f"), "\f")
			for i, p := range pages {
				if words := strings.Fields(p); len(words) < 40 {
					t.Errorf("%s, %s: page %d has %d words: %q", example, name, i+1, len(words), words)
				}
			}
			var listed struct {
				Outlines []struct {
					Title string
					Page  *int `json:"destpageposfrom1"`
				}
			}
			if err := json.Unmarshal([]byte(reftest.Run(t, "", "qpdf", "--json", "--json-key=outlines", path)), &listed); err != nil {
				t.Fatal(err)
			}
			if got := len(listed.Outlines); got != len(doc.Blocks)+1 { // and the seal
				t.Errorf("%s, %s: %d bookmarks for %d headings", example, name, got, len(doc.Blocks))
			}
			for _, o := range listed.Outlines {
				if o.Page == nil || !strings.Contains(strings.Join(strings.Fields(pages[*o.Page-1]), " "), o.Title) {
					t.Errorf("%s, %s: the bookmark %q leads to %v", example, name, o.Title, o.Page)
				}
			}
			wide := 0
			for _, m := range sizes.FindAllStringSubmatch(reftest.Run(t, "", "pdfinfo", "-l", "99", path), -1) {
				w, _ := strconv.ParseFloat(m[1], 64)
				h, _ := strconv.ParseFloat(m[2], 64)
				if w > h {
					wide++
				}
			}
			if lies := wide > 0; lies != (name == "certificate") {
				t.Errorf("%s, %s: %d pages lie across", example, name, wide)
			}
		}
	}
}

var sizes = regexp.MustCompile(`size:\s+([\d.]+) x ([\d.]+) pts`)

// TestPlanOnPaper: a site plan is drawn on paper as in the file of its own, with the names of what is there
// and its bar; one that was not drawn has no heading.
func TestPlanOnPaper(t *testing.T) {
	for example, bar := range map[string]string{"uk-pass.json": "1 m", "us-pass.json": "5 ft"} {
		s, _ := sealed(t, example)
		j := &s.Record.Job
		plain, err := Plain(record.Package(&s.Record), j, s.Record.SealedAt, "as designed, not a sealed record")
		if err != nil {
			t.Fatal(err)
		}
		if strings.Contains(printed(t, plain), "Site plan") {
			t.Errorf("%s: a plan that nobody drew has a heading", example)
		}
		j.Survey.SitePlan = job.SitePlan{
			Walls:     []job.Wall{{From: job.XY{X: 0, Y: 0}, To: job.XY{X: 0, Y: 6}, Thick: 0.2}},
			Bays:      []job.Bay{{ID: "1", Centre: job.XY{X: 2.6, Y: 3}, Length: 5, Width: 2.6, Heading: 90}},
			Obstacles: []job.Obstacle{{At: job.XY{X: 5, Y: 0}, Width: 1, Height: 1, Name: "planter"}},
			Positions: []job.Position{{ID: "A", At: &job.XY{X: 0.1, Y: 3}, Height: 1.1}},
		}
		b, err := Plain(record.Package(&s.Record), j, s.Record.SealedAt, "as designed, not a sealed record")
		if err != nil {
			t.Fatal(err)
		}
		words := strings.Join(strings.Fields(printed(t, b)), "") // a narrow space is told as none
		for _, want := range []string{"Site plan", "planter", bar, "as designed, not a sealed record"} {
			if !strings.Contains(words, strings.ReplaceAll(want, " ", "")) {
				t.Errorf("%s: the package does not say %q", example, want)
			}
		}
		for _, shape := range drawPlan(j, uk.Practice).Shapes {
			if _, ok := planPens[shape.Class]; !ok && shape.Text == "" {
				t.Errorf("there is no pen for %q", shape.Class)
			}
		}
	}
}

// TestCustomersPaper: what a customer is given carries what it prints and the record's digest, not the
// whole job, and is checked like the record.
func TestCustomersPaper(t *testing.T) {
	s, file := sealed(t, "uk-pass.json")
	s.Record.Job.Site.Phone, s.Record.Job.Site.Email = "00000 555 0131", "marlowe@mail.example"
	b, err := PDF(record.Pack(&s.Record), s, file, ruletest.Key(t), With{Customer: true})
	if err != nil {
		t.Fatal(err)
	}
	v, err := Verify(b)
	if err != nil {
		t.Fatal(err)
	}
	r := &v.Sealed.Record
	if !v.Part || !v.PDF || v.Sealed.Seal.Digest != s.Seal.Digest || v.Sealed.Seal.Key != s.Seal.Key || r.Job.Number != "EX-UK-0001" || r.Issue != 1 ||
		!r.SealedAt.Equal(s.Record.SealedAt) || r.SealedBy != "A. Nakagawa" || r.Contractor.Name != "Quill and Beacon Electrical" {
		t.Errorf("%+v", v)
	}
	name, attached, err := attachment(b)
	if err != nil || name != anExtract {
		t.Fatal(name, err)
	}
	for _, private := range []string{"00000 555 0131", "marlowe@mail.example", "T. Brandt", `"log"`, "dead:L-N", "lock 3"} {
		if bytes.Contains(attached, []byte(private)) {
			t.Errorf("the extract tells %q", private)
		}
	}
	for _, c := range []struct{ name, from, to, want string }{
		{"another number", `"number":"EX-UK-0001","paper"`, `"number":"EX-UK-0002","paper"`, "changed after it was sealed"},
		{"another issue", `"issue":1`, `"issue":2`, "changed after it was sealed"},
		{"the digest of another record", s.Seal.Digest[:8], "00000000", "changed after it was sealed"},
		{"another spelling", `{"extract"`, `{ "extract"`, "not in the form"},
		{"a record", `"extract":{`, `"record":{`, "no extract"},
		{"no JSON", `{"extract"`, `<"extract"`, "not an extract"},
	} {
		changed := bytes.Replace(attached, []byte(c.from), []byte(c.to), 1)
		if bytes.Equal(changed, attached) {
			t.Fatalf("%s: nothing was changed", c.name)
		}
		if _, err := record.OpenExtract(changed); err == nil || !strings.Contains(err.Error(), c.want) {
			t.Errorf("%s: %v", c.name, err)
		}
	}
	// An extract is no record.
	if _, err := record.Open(attached); err == nil {
		t.Error("an extract is taken for a record")
	}
}

// TestLabels: the labels of a job are what its design asks for, whole on paper and in the file for a label
// printer, each with where it goes and its clause.
func TestLabels(t *testing.T) {
	gone := func(breaker, cable job.Fate) func(*job.Job) {
		return func(j *job.Job) {
			c := &j.Design.Circuits[0]
			c.Existing, c.Charger.Fate, c.Breaker.Fate, c.Cable.Fate = job.Yes, job.FateTakenOut, breaker, cable
		}
	}
	solar := func(j *job.Job) { j.Survey.Supply.OtherSource = job.Yes }
	for _, c := range []struct {
		name, example string
		change        func(*job.Job)
		want, not     []string
	}{
		{"UK", "uk-pass.json", func(*job.Job) {}, []string{"Charging point A", "B40 A, 6 mm², 30 mA type A", "514.9.1", "isolator", "Open-PEN protection fitted", "Test six-monthly", "514.12.2", "Next by:"}, []string{"multiple supplies", "Safety electrical"}},
		{"UK, taken away, the cable stays", "uk-pass.json", gone(job.FateKept, job.FateKept), []string{"Not in use", "Cable's end: counts as live"},
			[]string{"Charging point A", "Open-PEN", "six-monthly"}},
		{"US, taken away, the breaker out", "us-pass.json", gone(job.FateTakenOut, job.FateKept), []string{"Cable's end: counts as live"}, []string{"EV charger A", "Not in use"}},
		{"US, the first of two circuits was there", "us-pass.json", func(j *job.Job) {
			ruletest.Twice(func(d *job.Design) { d.Circuits[0].Existing = job.Yes })(j)
			j.Survey.Places[1].Name, j.Survey.Board.WaysFree = "carport", nil
			j.Survey.Board.Layout, j.Survey.Board.Ways, j.Survey.Board.Slots = job.Columns, 8, []job.Slot{{At: 1, Circuit: "a"}, {At: 2, Circuit: "b"}}
		}, []string{"spaces 3 and 5, 60 A, carport", "space ____, 60 A"}, nil},
		{"UK, solar", "uk-pass.json", solar, []string{"Warning: multiple supplies", "514.15.1"}, nil},
		{"UK, an electrode", "uk-pass.json", func(j *job.Job) { j.Design.Circuits[0].Earthing.OpenPEN = job.PENTT }, []string{"Safety electrical connection", "514.13.1"}, []string{"Open-PEN protection"}},
		{"UK, no residual device", "uk-pass.json", func(j *job.Job) { j.Design.Circuits[0].RCD.Fitted = job.No }, nil, []string{"six-monthly", "30 mA"}},
		{"US", "us-pass.json", func(*job.Job) {}, []string{"EV charger A", "60 A", "408.4(A)"}, []string{"Adjusted to", "more than one source", "energy management"}},
		{"UK, a declared device", "uk-pass.json", func(j *job.Job) { j.Design.Circuits[0].Earthing.OpenPEN = job.PENOther }, nil, []string{"Open-PEN protection fitted"}},
		{"US, set lower, not guarded", "us-pass.json", func(j *job.Job) { j.Design.Circuits[0].Setting, j.Design.Circuits[0].Guarded = 40, job.No }, nil, []string{"Adjusted to"}},
		{"US, a disconnect", "us-pass.json", func(j *job.Job) { j.Design.Circuits[0].Disconnect = job.Yes }, []string{"disconnect", "240 V, supplied from"}, nil},
		{"US, a disconnect at 208 V", "us-pass.json", func(j *job.Job) {
			j.Survey.Supply.System, j.Design.Circuits[0].Disconnect = job.Wye208, job.Yes
		}, []string{"208 V, supplied from"}, []string{"240 V"}},
		{"US, set lower", "us-pass.json", func(j *job.Job) { j.Design.Circuits[0].Setting = 40 }, []string{"Adjusted to 40 A", "625.42(B)"}, nil},
		{"US, managed", "us-pass.json", func(j *job.Job) { j.Design.Circuits[0].ManagedTo = 160 }, []string{"Limit 160 A", "750.50"}, nil},
		{"US, another service", "us-pass.json", func(j *job.Job) {
			solar(j)
			j.Survey.Supply.Second.Kind = job.OtherService
		}, []string{"more than one source", "230.2(E)"}, []string{"705.10"}},
		{"US, a feeder", "us-pass.json", func(j *job.Job) {
			j.Design.Circuits[0].Connection, j.Design.Circuits[0].Charger = job.IntoBoard, job.Charger{Fate: job.FateNone}
			j.Survey.Places[0].Detached = job.Yes
		}, []string{"Feeder A", "Fed from 60 A in", "408.4(B)", "Building disconnect", "225.37"}, []string{"EV charger"}},
		{"UK, a sub-main", "uk-pass.json", func(j *job.Job) {
			c := &j.Design.Circuits[0]
			c.Connection, c.Charger, c.Isolator, c.Earthing = job.IntoBoard, job.Charger{Fate: job.FateNone}, "", job.PointEarthing{}
		}, []string{"Sub-main to", "Fed from", "514.9.1"}, []string{"Charging point"}},
		{"US, solar", "us-pass.json", solar, []string{"more than one source", "705.10"}, nil},
	} {
		s, _ := sealed(t, c.example)
		j := &s.Record.Job
		c.change(j)
		book, _ := rulebook.Find(j.Rulebook)
		list := book.In.Labels(rulebook.FactsOf(book.In, j, demand.Result{}))
		b, err := Labels(j.Number, list, book.In, s.Record.SealedAt)
		if err != nil {
			t.Fatal(err)
		}
		svg := LabelsSVG(list)
		if err := xml.Unmarshal(svg, new(struct{})); err != nil {
			t.Errorf("%s: %v", c.name, err)
		}
		plain := regexp.MustCompile(`<[^>]*>`).ReplaceAllString(string(svg), " ")
		for form, words := range map[string]string{"paper": printed(t, b), "file": html.UnescapeString(plain)} {
			words = strings.Join(strings.Fields(words), "")
			for _, w := range c.want {
				for _, word := range strings.Fields(w) { // on paper labels stand side by side, their lines between each other
					if !strings.Contains(words, word) {
						t.Errorf("%s, %s: no %q of %q", c.name, form, word, w)
					}
				}
			}
			for _, w := range c.not {
				if strings.Contains(words, strings.ReplaceAll(w, " ", "")) {
					t.Errorf("%s, %s: %q", c.name, form, w)
				}
			}
		}
	}
}
