package quantity

import (
	"errors"
	"fmt"
	"math"
	"testing"
)

func TestParseReading(t *testing.T) {
	for _, c := range []struct {
		text, unit string
		value      float64
		bound      Bound
	}{
		{"0.52", "Ω", 0.52, Exact},
		{" 0.52 ", "Ω", 0.52, Exact},
		{".52", "Ω", 0.52, Exact},
		{">999", "MΩ", 999, Above},
		{"> 999", "MΩ", 999, Above},
		{">999 MΩ", "MΩ", 999, Above},
		{"<0.01", "Ω", 0.01, Below},
		{"≥200", "MΩ", 200, Above},
		{"≤0.05", "MΩ", 0.05, Below},
		{"LIM", "Ω", 0, Beyond},
		{"lim", "Ω", 0, Beyond},
		{">LIM", "Ω", 0, Beyond},
		{"OL", "MΩ", 0, Beyond},
		{"O.L", "MΩ", 0, Beyond},
		{"1.2k", "Ω", 1200, Exact},
		{"0.2k", "Ω", 200, Exact},
		{"220m", "Ω", 0.22, Exact},
		{"220 mΩ", "Ω", 0.22, Exact},
		{"200k", "MΩ", 0.2, Exact},
		{"0.5 GΩ", "MΩ", 500, Exact},
		{"740 A", "kA", 0.74, Exact},
		{"0.74", "kA", 0.74, Exact},
		{"0.74kA", "kA", 0.74, Exact},
		{"0.3 s", "ms", 300, Exact},
		{"24ms", "ms", 24, Exact},
		{"342", "ms", 342, Exact},
		{"238 V", "V", 238, Exact},
		{"0.24 kV", "V", 240, Exact},
		{"53.3 %", "%", 53.3, Exact},
		{"5 mA", "mA", 5, Exact},
		{"2.5", "", 2.5, Exact},
		{"0.52 ohm", "Ω", 0.52, Exact},
		{"0", "V", 0, Exact},
	} {
		r, err := ParseReading(c.text, c.unit)
		if err != nil {
			t.Errorf("ParseReading(%q, %q): %v", c.text, c.unit, err)
			continue
		}
		if math.Abs(r.Value-c.value) > 1e-9 || r.Bound != c.bound || r.Unit != c.unit {
			t.Errorf("ParseReading(%q, %q) = %g %v, want %g %v", c.text, c.unit, r.Value, r.Bound, c.value, c.bound)
		}
	}
}

func TestParseReadingRefuses(t *testing.T) {
	for _, c := range []struct{ text, unit string }{
		{"abc", "Ω"}, {"0,52", "Ω"}, {"1e5", "Ω"}, {"--3", "Ω"}, {"-3", "Ω"}, {"0.52 V", "Ω"}, {"5 q", "Ω"}, {"1.2.3", "Ω"},
		{">", "Ω"}, {"<", "MΩ"}, {"Ω", "Ω"}, {"0.3", "furlongs"}, {"NaN", "Ω"}, {"Inf", "Ω"}, {"0.5 0.6", "Ω"},
	} {
		if r, err := ParseReading(c.text, c.unit); err == nil {
			t.Errorf("ParseReading(%q, %q) = %v, want an error", c.text, c.unit, r)
		}
	}
	if _, err := ParseReading("  ", "Ω"); !errors.Is(err, ErrEmpty) {
		t.Errorf("an empty reading gives %v", err)
	}
}

// TestBounds checks what a bound decides: the cases of the trade's own terms.
func TestBounds(t *testing.T) {
	for _, c := range []struct {
		text, unit string
		least      bool
		limit      float64
		want       Truth
	}{
		{">999", "MΩ", true, 1, Yes},     // meets at least 1 MΩ
		{">300", "ms", false, 300, No},   // does not meet at most 300 ms
		{"<0.05", "MΩ", true, 1, No},     // fails at least 1 MΩ
		{"<0.01", "Ω", false, 0.18, Yes}, // below a limit
		{">0.1", "Ω", false, 0.18, Unknown},
		{"<0.5", "Ω", false, 0.18, Unknown},
		{">0.5", "MΩ", true, 1, Unknown},
		{"<2", "MΩ", true, 1, Unknown},
		{"LIM", "MΩ", true, 1, Unknown},
		{"OL", "Ω", false, 0.18, Unknown},
		{"300", "ms", false, 300, Yes},
		{"300.1", "ms", false, 300, No},
		{"1", "MΩ", true, 1, Yes},
		{"0.99", "MΩ", true, 1, No},
	} {
		r, err := ParseReading(c.text, c.unit)
		if err != nil {
			t.Fatal(err)
		}
		got := r.AtMost(c.limit)
		if c.least {
			got = r.AtLeast(c.limit)
		}
		if got != c.want {
			t.Errorf("%s %s against %g (least: %t) = %v, want %v", c.text, c.unit, c.limit, c.least, got, c.want)
		}
	}
}

func TestWithin(t *testing.T) {
	for _, c := range []struct {
		text string
		want Truth
	}{
		{"230", Yes}, {"216.2", Yes}, {"253", Yes}, {"216.1", No}, {"253.1", No}, {">260", No}, {"<200", No}, {">220", Unknown}, {"LIM", Unknown},
	} {
		r, _ := ParseReading(c.text, "V")
		if got := r.Within(216.2, 253); got != c.want {
			t.Errorf("%s V within 216.2 to 253 = %v, want %v", c.text, got, c.want)
		}
	}
}

func TestReadingString(t *testing.T) {
	for text, want := range map[string]string{">999": ">999 MΩ", "<0.05": "<0.05 MΩ", "LIM": "past range", "1.5": "1.5 MΩ"} {
		t.Run(text, func(t *testing.T) {
			r, _ := ParseReading(text, "MΩ")
			if r.String() != want {
				t.Errorf("%q prints as %q, want %q", text, r.String(), want)
			}
		})
	}
}

// FuzzParseReading: whatever is typed, the parser neither panics nor returns a
// reading that decides both ways.
func FuzzParseReading(f *testing.F) {
	for _, s := range []string{"0.52", ">999", "<0.01", "LIM", "OL", "1.2k", "220m", "abc", "", "740 A", "≥1", "1e309", "--", "µ", "5µA"} {
		f.Add(s, "Ω")
		f.Add(s, "MΩ")
		f.Add(s, "kA")
	}
	f.Fuzz(func(t *testing.T, text, unit string) {
		r, err := ParseReading(text, unit)
		if err != nil {
			return
		}
		if math.IsNaN(r.Value) || r.Value < 0 {
			t.Fatalf("%q in %q reads as %v", text, unit, r.Value)
		}
		for _, limit := range []float64{0, 0.18, 1, 300} {
			most, least := r.AtMost(limit), r.AtLeast(limit)
			if most == No && least == No {
				t.Fatalf("%q is neither at most nor at least %g", text, limit)
			}
			if r.Bound == Beyond && (most != Unknown || least != Unknown) {
				t.Fatalf("%q, past a range of unknown end, decides against %g", text, limit)
			}
		}
	})
}

func ExampleParseReading() {
	r, err := ParseReading(">999", "MΩ")
	fmt.Println(r, err, r.AtLeast(1) == Yes)
	// Output: >999 MΩ <nil> true
}
