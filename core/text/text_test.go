package text

import (
	"bytes"
	"encoding/csv"
	"regexp"
	"strings"
	"testing"
	"unicode/utf16"
	"unicode/utf8"
)

func TestWrong(t *testing.T) {
	for _, s := range []string{"", "Ωmega ≤ 4 mm²", "two\nlines\tand a tab", "Жанна", "🔌 at the wall", "e\u0301", "\ufffd as typed"} {
		if why := Wrong(s); why != "" {
			t.Errorf("%q is refused: %s", s, why)
		}
	}
	for _, s := range []string{"a\x00b", "bell\a", "\x1b[31m", "\u0085", "100\u202e52", "\u2066x", "\xb2"} {
		if Wrong(s) == "" {
			t.Errorf("%q is taken", s)
		}
	}
}

// TestTaken: the pattern takes what Wrong takes, character by character.
func TestTaken(t *testing.T) {
	taken := regexp.MustCompile(Taken)
	for r := rune(0); r <= utf8.MaxRune; r++ {
		if s := "a" + string(r); utf8.ValidRune(r) && taken.MatchString(s) != (Wrong(s) == "") {
			t.Errorf("%U: the pattern takes it: %v", r, taken.MatchString(s))
		}
	}
}

// TestFile: what a spreadsheet saves as Unicode text is read, and what may be any of
// several encodings is refused. The bytes of ² and Ω: ISO 8859-1, the Windows code page
// 1252 and the DOS code page 850, from the Unicode Consortium's mapping tables.
func TestFile(t *testing.T) {
	const want = "part,4 mm²,Ω 🔌\r\n"
	little, big := []byte{0xff, 0xfe}, []byte{0xfe, 0xff}
	for _, u := range utf16.Encode([]rune(want)) {
		little = append(little, byte(u), byte(u>>8))
		big = append(big, byte(u>>8), byte(u))
	}
	for name, data := range map[string][]byte{"UTF-8": []byte(want), "with its mark": []byte("\ufeff" + want), "UTF-16, little end first": little, "UTF-16, big end first": big} {
		if got, err := File(data); err != nil || string(got) != want {
			t.Errorf("%s: %q %v", name, got, err)
		}
	}
	for name, data := range map[string][]byte{"Latin-1": []byte("4 mm\xb2"), "DOS 850": []byte("4 mm\xfd"), "UTF-16 without a mark": little[2:], "half a UTF-16 file": little[:len(little)-1]} {
		if got, err := File(data); err == nil {
			t.Errorf("%s is read as %q", name, got)
		}
	}
}

// TestGuard: no cell that is written begins as a formula does, numbers stay numbers, and
// every cell reads back as it was. What begins a formula: OWASP, CSV Injection.
func TestGuard(t *testing.T) {
	cells := []string{`=HYPERLINK("http://x","y")`, "+1+1", "-2+3", "@SUM(A1)", "\t=1", "\r=1", "'=1", "''", "'", "-5", "+0.5", "-", "", "4 mm²", "it's", "'quoted'", "🔌"}
	var out bytes.Buffer
	if err := WriteCSV(&out, [][]string{cells}); err != nil {
		t.Fatal(err)
	}
	raw, err := csv.NewReader(bytes.NewReader(out.Bytes())).Read()
	if err != nil {
		t.Fatal(err)
	}
	for i, c := range raw {
		if c != "" && strings.Contains("=+-@\t\r", c[:1]) && c != "-5" && c != "+0.5" {
			t.Errorf("%q is written as %q", cells[i], c)
		}
	}
	r, err := NewReader(&out)
	if err != nil {
		t.Fatal(err)
	}
	back, err := r.Read()
	if err != nil {
		t.Fatal(err)
	}
	for i, c := range back {
		if c != cells[i] {
			t.Errorf("%q reads back as %q", cells[i], c)
		}
	}
}

func FuzzGuard(f *testing.F) {
	for _, s := range []string{"=1", "'=1", "-5", "''"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		if got := Open(Guard(s)); got != s {
			t.Errorf("%q reads back as %q", s, got)
		}
	})
}
