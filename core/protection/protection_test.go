package protection

import (
	"fmt"
	"math"
	"math/cmplx"
	"testing"

	"dogbolt/core/quantity"
)

// TestTable413 checks the limits of BS 7671 table 41.3 (230 V, Cmin 0.95; from
// memory) to the printed rounding.
func TestTable413(t *testing.T) {
	for _, c := range []struct {
		curve   string
		printed map[quantity.Ampere]float64
	}{
		{"B", map[quantity.Ampere]float64{6: 7.28, 10: 4.37, 16: 2.73, 20: 2.19, 25: 1.75, 32: 1.37, 40: 1.09, 50: 0.87, 63: 0.69}},
		{"C", map[quantity.Ampere]float64{6: 3.64, 10: 2.19, 16: 1.37, 20: 1.09, 25: 0.87, 32: 0.68, 40: 0.55, 50: 0.44, 63: 0.35}},
		{"D", map[quantity.Ampere]float64{16: 0.68, 20: 0.55, 32: 0.34, 40: 0.27, 63: 0.17}},
	} {
		for rating, printed := range c.printed {
			// The table rounds halves to even or down; one unit of the last place.
			if got := float64(MaxZs(rating, c.curve)); math.Abs(got-printed) > 0.0051 {
				t.Errorf("%s%g: %.4f Ω, printed %g", c.curve, float64(rating), got, printed)
			}
		}
	}
	if z := MaxZs(32, "K"); z != 0 {
		t.Errorf("an unknown curve has a limit of %g", float64(z))
	}
}

// TestColdLimits checks the figures of the On-Site Guide, appendix B (from
// memory): 0.80 of table 41.3. B32 is printed 1.10, 1.093 unrounded.
func TestColdLimits(t *testing.T) {
	for _, c := range []struct {
		rating  quantity.Ampere
		curve   string
		printed float64
	}{{32, "B", 1.10}, {40, "B", 0.87}, {32, "C", 0.55}, {40, "C", 0.44}} {
		if got := ColdFactor * float64(MaxZs(c.rating, c.curve)); math.Abs(got-c.printed) > 0.0076 {
			t.Errorf("%s%g cold: %.4f Ω, printed %g", c.curve, float64(c.rating), got, c.printed)
		}
	}
}

// TestTable415 checks BS 7671 table 41.5.
func TestTable415(t *testing.T) {
	for mA, printed := range map[float64]float64{30: 1667, 100: 500, 300: 167, 500: 100} {
		if got := quantity.Round(float64(MaxZsRCD(mA)), 0); got != printed {
			t.Errorf("%g mA: %g Ω, printed %g", mA, got, printed)
		}
	}
	if !math.IsInf(float64(MaxZsRCD(0)), 1) {
		t.Error("no device limits nothing")
	}
}

// TestNECBreakers checks the breakers that 625.41 leads to with 240.6(A).
func TestNECBreakers(t *testing.T) {
	for setting, want := range map[quantity.Ampere]quantity.Ampere{16: 20, 24: 30, 32: 40, 40: 50, 48: 60, 64: 80, 80: 100} {
		if got, ok := NextAtLeast(Standard, 1.25*setting); !ok || got != want {
			t.Errorf("%g A set: %g A breaker, want %g", float64(setting), float64(got), float64(want))
		}
	}
	if _, ok := NextAtLeast(Standard, 201); ok {
		t.Error("above 200 A the list ends here")
	}
}

func TestIsListed(t *testing.T) {
	for _, a := range Preferred {
		if !IsListed(Preferred, a) {
			t.Errorf("%g A is not in its own list", float64(a))
		}
	}
	for _, a := range []quantity.Ampere{0, 7, 30, 45, 64, 110} {
		if IsListed(Preferred, a) {
			t.Errorf("%g A is preferred", float64(a))
		}
	}
	if !IsListed(Standard, 45) || IsListed(Standard, 63) {
		t.Error("45 A is standard in the NEC, 63 A is not")
	}
}

// TestElectrodeLimit checks annex A722 of BS 7671 (from memory): 32 A 2.75 Ω,
// 40 A 2.20, 60 A 1.47, 100 A 0.88.
func TestElectrodeLimit(t *testing.T) {
	for demand, printed := range map[quantity.Ampere]float64{32: 2.75, 40: 2.20, 60: 1.47, 100: 0.88} {
		if got := quantity.Round(float64(ElectrodeLimit(demand)), 2); math.Abs(got-printed) > 0.011 {
			t.Errorf("%g A: %g Ω, printed %g", float64(demand), got, printed)
		}
	}
}

// TestImbalance: 40/25/20 A gives 48.8 V (from memory); one loaded phase puts
// the whole voltage on the metalwork, equal phases none.
func TestImbalance(t *testing.T) {
	for _, c := range []struct{ i1, i2, i3, want float64 }{{40, 25, 20, 48.8}, {30, 0, 0, 230}, {20, 20, 20, 0}, {0, 0, 0, 230}} {
		got := ImbalanceVoltage(quantity.Ampere(c.i1), quantity.Ampere(c.i2), quantity.Ampere(c.i3))
		if math.Abs(float64(got)-c.want) > 0.05 {
			t.Errorf("%g, %g, %g A: %.2f V, want %g", c.i1, c.i2, c.i3, float64(got), c.want)
		}
	}
}

// TestLetThrough: the class limit of 434.5.2 caps what a breaker lets through,
// but never above what 0.1 s of the current itself would be.
func TestLetThrough(t *testing.T) {
	for _, c := range []struct {
		i      quantity.Ampere
		rating quantity.Ampere
		curve  string
		class  int
		want   float64
	}{
		{100, 32, "B", 3, 1000}, {6000, 32, "B", 3, 45000}, {6000, 16, "B", 3, 35000}, {6000, 32, "C", 3, 55000}, {6000, 16, "C", 3, 42000},
		{6000, 40, "B", 3, 54000}, {6000, 40, "C", 3, 66000}, {6000, 50, "B", 3, 3.6e6}, {7000, 32, "B", 3, 4.9e6}, {6000, 32, "B", 2, 130000}, {6000, 16, "C", 2, 120000},
		{6000, 32, "B", 1, 3.6e6}, {6000, 32, "B", 0, 3.6e6}, {6000, 32, "D", 3, 3.6e6},
	} {
		if got := LetThrough(c.i, c.rating, c.curve, c.class); math.Abs(got-c.want) > 1e-6 {
			t.Errorf("%g A through %s%g class %d: %g A²s, want %g", float64(c.i), c.curve, float64(c.rating), c.class, got, c.want)
		}
	}
}

func ExampleMaxZs() {
	z := MaxZs(40, "B")
	fmt.Printf("%.2f Ω hot, %.2f Ω cold\n", float64(z), ColdFactor*float64(z))
	// Output: 1.09 Ω hot, 0.87 Ω cold
}

// TestFaultAtEnd: no source of a fault current gives more at the end of a cable, whatever its angle (Ohm's law); a source without
// a cable gives all of it, and one of reactance alone just what is said.
func TestFaultAtEnd(t *testing.T) {
	for _, origin := range []float64{0.5, 1.8, 6, 16, 25} {
		source := U0 / (1000 * origin)
		if got := FaultAtEnd(origin, 0); math.Abs(got-origin) > 1e-9 {
			t.Errorf("%g kA without a cable: %g kA", origin, got)
		}
		for _, r := range []float64{0.001, 0.02, 0.1, 1} {
			most := 0.0
			for deg := 0.0; deg <= 90; deg++ {
				z := complex(source*math.Cos(deg*math.Pi/180)+r, source*math.Sin(deg*math.Pi/180))
				most = max(most, U0/cmplx.Abs(z)/1000)
			}
			if got := FaultAtEnd(origin, r); math.Abs(got-most) > 1e-9*most {
				t.Errorf("%g kA, %g Ω: %g kA, at most %g kA", origin, r, got, most)
			}
		}
	}
}

// TestOpensFirst: pairs of ratings at and beside the edge, with the conventional currents of BS EN 60898-1 table 7 (1.13 and 1.45),
// BS 88 (1.25) and UL 489 (1.00 and 1.35), worked by hand; from memory.
func TestOpensFirst(t *testing.T) {
	for _, row := range []struct {
		rating, ahead quantity.Ampere
		of, by        Conventional
		first         bool
	}{
		{32, 40, Breaker60898, Breaker60898, false}, // 46.4 A, 45.2 A
		{32, 50, Breaker60898, Breaker60898, true},  // 46.4 A, 56.5 A
		{40, 50, Breaker60898, Breaker60898, false}, // 58.0 A, 56.5 A
		{50, 63, Breaker60898, Breaker60898, false}, // 72.5 A, 71.19 A
		{113, 145, Breaker60898, Breaker60898, true},
		{50, 60, Breaker60898, FuseGG, true},  // 72.5 A, 75 A
		{63, 60, Breaker60898, FuseGG, false}, // 91.35 A, 75 A
		{50, 60, BreakerUL489, BreakerUL489, false},
		{100, 135, BreakerUL489, BreakerUL489, true},
	} {
		if got := OpensFirst(row.rating, row.of, row.ahead, row.by); got != row.first {
			t.Errorf("%g A behind %g A: %v", row.rating, row.ahead, got)
		}
	}
}
