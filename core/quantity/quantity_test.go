package quantity

import (
	"fmt"
	"math"
	"strconv"
	"strings"
	"testing"

	"dogbolt/internal/testkit/reftest"
)

func near(a, b, share float64) bool { return math.Abs(a-b) <= share*math.Abs(b) }

// TestUnitsProgram compares the conversions with GNU units, an independent
// program.
func TestUnitsProgram(t *testing.T) {
	for _, c := range []struct {
		from, to string
		got      float64
	}{
		{"1 ft", "m", float64(Feet(1))},
		{"25 ft", "m", float64(Feet(25))},
		{"18 in", "m", float64(Inches(18))},
		{"7.5 m", "ft", Metre(7.5).Feet()},
		{"1.1 m", "in", Metre(1.1).Inches()},
		{"50 in lbf", "N m", 50 * InInchPounds.Size},
		{"36 in lbf", "N m", 36 * InInchPounds.Size},
		{"5.6 N m", "in lbf", InInchPounds.Of(5.6)},
		{"0.491 ohm/(1000 ft)", "ohm/m", OhmsPerKft(0.491)},
	} {
		out := strings.TrimSpace(reftest.Run(t, "", "units", "-t", "-d", "12", c.from, c.to))
		want, err := strconv.ParseFloat(out, 64)
		if err != nil {
			t.Fatalf("units %s in %s printed %q", c.from, c.to, out)
		}
		if !near(c.got, want, 1e-9) {
			t.Errorf("%s is %.12g %s, units says %.12g", c.from, c.got, c.to, want)
		}
	}
}

// TestWireGauges compares the areas of wire gauges with GNU units.
func TestWireGauges(t *testing.T) {
	for g := AWG(-3); g <= 14; g++ {
		out := strings.TrimSpace(reftest.Run(t, "", "units", "-t", "-d", "12", fmt.Sprintf("wiregauge(%d)", int(g)), "mm"))
		d, err := strconv.ParseFloat(out, 64)
		if err != nil {
			t.Fatalf("units printed %q", out)
		}
		if want := math.Pi / 4 * d * d; !near(float64(g.Area()), want, 1e-6) {
			t.Errorf("%s: %.6f mm², units says %.6f", g, float64(g.Area()), want)
		}
	}
}

// TestPrintedGauges compares with the areas that wire tables print, mm²
// (ASTM B258, as in NEC chapter 9 table 8; from memory).
func TestPrintedGauges(t *testing.T) {
	for g, printed := range map[AWG]float64{14: 2.08, 12: 3.31, 10: 5.261, 8: 8.367, 6: 13.30, 4: 21.15, 3: 26.67, 2: 33.62, 1: 42.41, 0: 53.49, -1: 67.43, -2: 85.01, -3: 107.2} {
		if !near(float64(g.Area()), printed, 0.003) {
			t.Errorf("%s: %.3f mm², printed %.3f", g, float64(g.Area()), printed)
		}
	}
}

// TestCircularMils compares with NEC chapter 9 table 8 (from memory).
func TestCircularMils(t *testing.T) {
	for g, printed := range map[AWG]float64{14: 4110, 12: 6530, 10: 10380, 8: 16510, 6: 26240, 4: 41740, 3: 52620, 2: 66360, 1: 83690, 0: 105600} {
		if !near(g.CircularMils(), printed, 0.002) {
			t.Errorf("%s: %.0f circular mils, printed %.0f", g, g.CircularMils(), printed)
		}
	}
}

func TestParseAWG(t *testing.T) {
	for text, want := range map[string]AWG{"6": 6, "6 AWG": 6, " 10 AWG ": 10, "1/0": 0, "1/0 AWG": 0, "2/0": -1, "4/0 AWG": -3, "14": 14} {
		t.Run(text, func(t *testing.T) {
			got, err := ParseAWG(text)
			if err != nil || got != want {
				t.Errorf("ParseAWG(%q) = %v, %v", text, got, err)
			}
			if err == nil {
				if back, err := ParseAWG(got.String()); err != nil || back != got {
					t.Errorf("%q prints as %q, which reads as %v", text, got.String(), back)
				}
			}
		})
	}
	for _, text := range []string{"", "0", "5/0", "-1", "6 mm²", "abc", "41", "0/0"} {
		if g, err := ParseAWG(text); err == nil {
			t.Errorf("ParseAWG(%q) = %v, want an error", text, g)
		}
	}
}

func TestSay(t *testing.T) {
	for _, c := range []struct {
		format string
		values []float64
		want   string
	}{
		{"{} V ÷ ({} × {} A) = {2} Ω", []float64{218.5, 5, 32, 1.365625}, "218.5 V ÷ (5 × 32 A) = 1.37 Ω"},
		{"{0}", []float64{7679.6}, "7680"},
		{"{1}", []float64{0.05}, "0.1"},
		{"{}", []float64{1.0 / 3}, "0.333"},
		{"{}", []float64{math.Inf(1)}, "∞"},
		{"nothing", nil, "nothing"},
		{"{} {}", []float64{1, -2.5}, "1 -2.5"},
	} {
		if got := Say(c.format, c.values...); got != c.want {
			t.Errorf("Say(%q) = %q, want %q", c.format, got, c.want)
		}
	}
}

func TestSayAllocatesOnce(t *testing.T) {
	v := 1.25
	if n := testing.AllocsPerRun(100, func() { _ = Say("{} A × {2} = {1} A", v, v, v) }); n > 1 {
		t.Errorf("Say allocates %g times", n)
	}
}

func TestRound(t *testing.T) {
	for _, c := range []struct {
		v    float64
		d    int
		want float64
	}{{1.365625, 2, 1.37}, {1.005, 1, 1}, {-1.25, 1, -1.3}, {1234.5, 0, 1235}} {
		if got := Round(c.v, c.d); got != c.want {
			t.Errorf("Round(%g, %d) = %g, want %g", c.v, c.d, got, c.want)
		}
	}
}

func ExampleSay() {
	fmt.Println(Say("{} V ÷ ({} × {} A) = {2} Ω", 218.5, 5, 32, 218.5/160))
	// Output: 218.5 V ÷ (5 × 32 A) = 1.37 Ω
}

func ExampleAWG_Area() {
	fmt.Printf("%.1f mm²\n", float64(AWG(6).Area()))
	// Output: 13.3 mm²
}
