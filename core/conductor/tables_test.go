package conductor

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
	"testing"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// rows reads a table as printed: one row a line, columns between bars, "–" for
// no figure.
func rows(t *testing.T, table string) [][]float64 {
	t.Helper()
	var out [][]float64
	for line := range strings.Lines(strings.TrimSpace(table)) {
		var row []float64
		for cell := range strings.SplitSeq(line, "|") {
			cell = strings.TrimSpace(cell)
			v, err := strconv.ParseFloat(cell, 64)
			if err != nil && cell != "–" {
				t.Fatalf("cell %q", cell)
			}
			row = append(row, v)
		}
		out = append(out, row)
	}
	return out
}

// printedMetric are tables of BS 7671:2018+A2 appendix 4, proof-read against an
// independent recollection (from memory): the columns' methods follow in order.
var printedMetric = []struct {
	source  string
	family  job.Family
	loaded  int
	methods []job.Method
	table   string // mm² | methods … | mV/A/m
}{
	{"table 4D5", job.TwinEarth, 2, []job.Method{job.Surface, job.StudWall, job.CeilingThin, job.CeilingThick, job.InInsulation, job.ConduitInWall}, `
		1.5 | 20 | 16 | 16 | 13 | 10   | 14.5 | 29
		2.5 | 27 | 21 | 21 | 17 | 13.5 | 20   | 18
		4   | 37 | 27 | 27 | 22 | 17.5 | 26   | 11
		6   | 47 | 35 | 34 | 27 | 23.5 | 32   | 7.3
		10  | 64 | 47 | 45 | 36 | 32   | 44   | 4.4
		16  | 85 | 63 | 57 | 46 | 42.5 | 57   | 2.8`},
	{"table 4D2, two-core", job.Multicore, 2, []job.Method{job.ConduitInWall, job.Conduit, job.Surface, job.FreeAir}, `
		2.5 | 18.5 | 23 | 27  | 30  | 18
		4   | 25   | 30 | 36  | 40  | 11
		6   | 32   | 38 | 46  | 51  | 7.3
		10  | 43   | 52 | 63  | 70  | 4.4
		16  | 57   | 69 | 85  | 94  | 2.8
		25  | 75   | 90 | 112 | 119 | 1.75`},
	{"table 4D2, three-core", job.Multicore, 3, []job.Method{job.Conduit, job.Surface}, `
		2.5 | 20 | 24 | 15
		4   | 27 | 32 | 9.5
		6   | 34 | 41 | 6.4
		10  | 46 | 57 | 3.8
		16  | 62 | 76 | 2.4`},
	{"table 4D4, two-core", job.Armoured70, 2, []job.Method{job.Surface, job.Buried, job.FreeAir}, `
		2.5 | 28  | 29 | 31  | 18
		4   | 38  | 37 | 41  | 11
		6   | 49  | 46 | 53  | 7.3
		10  | 67  | 60 | 72  | 4.4
		16  | 89  | 78 | 97  | 2.8
		25  | 118 | 99 | 128 | 1.75`},
	{"table 4D4, three-core", job.Armoured70, 3, []job.Method{job.Surface, job.Buried, job.FreeAir}, `
		2.5 | 25  | 24 | 26  | 15
		4   | 33  | 30 | 35  | 9.5
		6   | 42  | 38 | 45  | 6.4
		10  | 58  | 50 | 62  | 3.8
		16  | 77  | 64 | 83  | 2.4
		25  | 102 | 82 | 110 | 1.50`},
	{"table 4E4, two-core", job.Armoured90, 2, []job.Method{job.Surface, job.Buried, job.FreeAir}, `
		2.5 | 36  | 33  | 39  | 19
		4   | 49  | 43  | 52  | 12
		6   | 62  | 53  | 66  | 7.9
		10  | 85  | 71  | 90  | 4.7
		16  | 110 | 91  | 115 | 2.9
		25  | 146 | 116 | 152 | 1.90`},
	{"table 4E4, three-core", job.Armoured90, 3, []job.Method{job.Surface, job.Buried, job.FreeAir}, `
		2.5 | 31  | 28 | 33  | 16
		4   | 42  | 36 | 44  | 10
		6   | 53  | 44 | 56  | 6.8
		10  | 73  | 58 | 78  | 4.0
		16  | 94  | 75 | 99  | 2.5
		25  | 124 | 96 | 131 | 1.65`},
}

func TestMetricTables(t *testing.T) {
	for _, p := range printedMetric {
		for _, row := range rows(t, p.table) {
			size := fmt.Sprintf("%g mm²", row[0])
			r, ok := MetricSize(p.family, size)
			if !ok {
				t.Errorf("%s: no %s", p.source, size)
				continue
			}
			for i, m := range p.methods {
				if got, ok := r.Capacity(m, p.loaded); !ok || float64(got) != row[i+1] {
					t.Errorf("%s: %s %s carries %g A, printed %g", p.source, size, m, float64(got), row[i+1])
				}
			}
			if got := r.DropPerAmpereMetre(p.loaded); got != row[len(row)-1] {
				t.Errorf("%s: %s drops %g mV/A/m, printed %g", p.source, size, got, row[len(row)-1])
			}
			if r.Label() != size {
				t.Errorf("%s is labelled %q", size, r.Label())
			}
		}
	}
}

// TestDropFollowsResistance: below 25 mm² the tabulated mV/A/m of two-core
// cable is twice the resistance at operating temperature (BS 7671 appendix 4,
// section 6), to the table's rounding. A misprint would break it.
func TestDropFollowsResistance(t *testing.T) {
	for _, f := range MetricFamilies {
		for _, r := range Metric(f) {
			at20, ok := ResistanceAt20(r.Area)
			if !ok {
				t.Fatalf("no resistance for %g mm²", float64(r.Area))
			}
			want := 2 * 1000 * at20 * HotFactor(f)
			if math.Abs(r.Drop-want) > 0.035*want {
				t.Errorf("%s %s: %g mV/A/m, twice the resistance is %.3g", r.Label(), f, r.Drop, want)
			}
			if r.Drop3 != 0 {
				if want3 := r.Drop * math.Sqrt(3) / 2; math.Abs(r.Drop3-want3) > 0.045*want3 {
					t.Errorf("%s %s, three phase: %g mV/A/m, √3/2 of two-wire is %.3g", r.Label(), f, r.Drop3, want3)
				}
			}
		}
	}
}

// TestCapacityGrows: a larger conductor carries more, by every method.
func TestCapacityGrows(t *testing.T) {
	for _, f := range MetricFamilies {
		for loaded := 2; loaded <= 3; loaded++ {
			last := map[job.Method]quantity.Ampere{}
			for _, r := range Metric(f) {
				for _, m := range []job.Method{job.Surface, job.StudWall, job.CeilingThin, job.CeilingThick, job.InInsulation, job.ConduitInWall, job.Conduit, job.FreeAir, job.Buried} {
					a, ok := r.Capacity(m, loaded)
					if ok && a <= last[m] {
						t.Errorf("%s %s %s carries %g A, the size below %g", f, r.Label(), m, float64(a), float64(last[m]))
					}
					last[m] = a
				}
			}
		}
	}
}

// TestNotTabulated: what the book has no figure for is not made up.
func TestNotTabulated(t *testing.T) {
	r, _ := MetricSize(job.TwinEarth, "6 mm²")
	for _, m := range []job.Method{job.Buried, job.FreeAir, job.Conduit, ""} {
		if a, ok := r.Capacity(m, 2); ok {
			t.Errorf("twin and earth %q has %g A", m, float64(a))
		}
	}
	if a, ok := r.Capacity(job.Surface, 3); ok {
		t.Errorf("three-phase twin and earth has %g A", float64(a))
	}
	for _, size := range []string{"", "5 mm²", "six", "6 AWG", "-6 mm²"} {
		if _, ok := MetricSize(job.TwinEarth, size); ok {
			t.Errorf("there is a size %q", size)
		}
	}
}

// TestAmbient checks tables 4B1 and 4B2 of BS 7671 (from memory).
func TestAmbient(t *testing.T) {
	for _, c := range []struct {
		source string
		family job.Family
		buried bool
		at     []float64
		factor []float64
	}{
		{"4B1 PVC", job.TwinEarth, false, []float64{25, 30, 35, 40, 45, 50, 55, 60}, []float64{1.03, 1.00, 0.94, 0.87, 0.79, 0.71, 0.61, 0.50}},
		{"4B1 XLPE", job.Armoured90, false, []float64{25, 30, 35, 40, 45, 50, 55, 60}, []float64{1.02, 1.00, 0.96, 0.91, 0.87, 0.82, 0.76, 0.71}},
		{"4B2 PVC", job.Armoured70, true, []float64{10, 15, 20, 25, 30}, []float64{1.10, 1.05, 1.00, 0.95, 0.89}},
		{"4B2 XLPE", job.Armoured90, true, []float64{10, 15, 20, 25, 30}, []float64{1.07, 1.04, 1.00, 0.96, 0.93}},
	} {
		for i, at := range c.at {
			if got, ok := AmbientFactor(c.family, c.buried, quantity.Celsius(at)); !ok || got != c.factor[i] {
				t.Errorf("%s at %g °C: %g, printed %g", c.source, at, got, c.factor[i])
			}
		}
		if f, ok := AmbientFactor(c.family, c.buried, 61); ok {
			t.Errorf("%s above the table: %g", c.source, f)
		}
	}
	if f, _ := AmbientFactor(job.TwinEarth, false, 33); f != 0.94 {
		t.Errorf("between two printed temperatures the hotter rules: %g", f)
	}
}

// TestGrouping checks table 4C1, bunched and in one layer, 4C2 and 4C3, touching (from
// memory).
func TestGrouping(t *testing.T) {
	for _, c := range []struct {
		name    string
		segment job.Segment
		want    []float64
	}{
		{"4C1, bunched", job.Segment{Method: job.Conduit}, []float64{1.00, 0.80, 0.70, 0.65, 0.60, 0.57, 0.54, 0.52, 0.50}},
		{"4C1, clipped, not said how", job.Segment{Method: job.Surface}, []float64{1.00, 0.80, 0.70, 0.65, 0.60, 0.57, 0.54, 0.52, 0.50}},
		{"4C1, one layer", job.Segment{Method: job.Surface, OneLayer: job.Yes}, []float64{1.00, 0.85, 0.79, 0.75, 0.73, 0.72, 0.72, 0.71, 0.70}},
		{"one layer in a conduit is none", job.Segment{Method: job.Conduit, OneLayer: job.Yes}, []float64{1.00, 0.80}},
		{"4C2", job.Segment{Method: job.Buried}, []float64{1, 0.75, 0.65, 0.60}},
		{"4C3", job.Segment{Method: job.Buried, Ducted: job.Yes}, []float64{1, 0.85, 0.75, 0.70}},
	} {
		t.Run(c.name, func(t *testing.T) {
			for i, want := range c.want {
				c.segment.Grouped = i + 1
				if got, ok := GroupFactor(&c.segment); !ok || got != want {
					t.Errorf("%d circuits: %g, printed %g", i+1, got, want)
				}
			}
		})
	}
	if _, ok := GroupFactor(&job.Segment{Grouped: 10}); ok {
		t.Error("4C1 ends at nine circuits here")
	}
	if g, _ := GroupFactor(&job.Segment{}); g != 1 {
		t.Errorf("no count is one circuit, factor %g", g)
	}
}

// TestInsulationAndSoil checks tables 52.2 and 4B3 (from memory).
func TestInsulationAndSoil(t *testing.T) {
	for mm, want := range map[float64]float64{0: 1, 50: 0.88, 100: 0.78, 200: 0.63, 400: 0.51, 500: 0.50, 3000: 0.50, 150: 0.63} {
		if got := InsulationFactor(quantity.Metre(mm / 1000)); got != want {
			t.Errorf("%g mm: %g, printed %g", mm, got, want)
		}
	}
	// Direct, in a duct, and the lesser where it is not known.
	for soil, want := range map[float64][3]float64{0: {1, 1, 1}, 0.5: {1.88, 1.28, 1.28}, 0.7: {1.62, 1.20, 1.20}, 1: {1.50, 1.18, 1.18}, 1.5: {1.28, 1.10, 1.10},
		2: {1.12, 1.05, 1.05}, 2.5: {1, 1, 1}, 3: {0.90, 0.96, 0.90}, 1.2: {1.28, 1.10, 1.10}} {
		for i, ducted := range []job.Answer{job.No, job.Yes, job.Unasked} {
			if got, ok := SoilFactor(soil, ducted); !ok || got != want[i] {
				t.Errorf("%g K·m/W, duct %q: %g, printed %g", soil, ducted, got, want[i])
			}
		}
	}
	if _, ok := SoilFactor(3.1, job.No); ok {
		t.Error("the table ends at 3 K·m/W")
	}
}

// TestTwinEarthProtective: line and protective conductor of flat twin and
// earth, BS 6004 (from memory).
func TestTwinEarthProtective(t *testing.T) {
	want := map[quantity.SquareMillimetre]quantity.SquareMillimetre{1.5: 1.0, 2.5: 1.5, 4: 1.5, 6: 2.5, 10: 4, 16: 6}
	for _, r := range Metric(job.TwinEarth) {
		if r.Earth != want[r.Area] {
			t.Errorf("%s has %g mm², BS 6004 says %g", r.Label(), float64(r.Earth), float64(want[r.Area]))
		}
	}
}

// TestR1R2PerMetre checks sums that the On-Site Guide prints in table I1,
// mΩ/m at 20 °C (from memory).
func TestR1R2PerMetre(t *testing.T) {
	for _, c := range []struct{ line, earth, printed float64 }{
		{1.5, 1.0, 30.20}, {2.5, 1.5, 19.51}, {4, 1.5, 16.71}, {6, 2.5, 10.49}, {10, 4, 6.44}, {16, 6, 4.23}, {10, 10, 3.66},
	} {
		r1, _ := ResistanceAt20(quantity.SquareMillimetre(c.line))
		r2, _ := ResistanceAt20(quantity.SquareMillimetre(c.earth))
		if got := quantity.Round(1000*(r1+r2), 2); got != c.printed {
			t.Errorf("%g/%g mm²: %g mΩ/m, printed %g", c.line, c.earth, got, c.printed)
		}
	}
}

// TestProtectiveByTable checks table 54.7 and its ratio for steel armour.
func TestProtectiveByTable(t *testing.T) {
	for _, c := range []struct{ line, want float64 }{{6, 6}, {16, 16}, {25, 16}, {35, 16}, {50, 25}} {
		if got := EarthByTable(job.Multicore, quantity.SquareMillimetre(c.line), false); float64(got) != c.want {
			t.Errorf("line %g mm²: %g, table 54.7 says %g", c.line, float64(got), c.want)
		}
	}
	// k1/k2: 143/46 = 3.11 and 115/51 = 2.25.
	if got := float64(EarthByTable(job.Armoured90, 10, true)); math.Abs(got-31.1) > 0.05 {
		t.Errorf("armour for 10 mm² at 90 °C: %.2f mm², 31.1 wanted", got)
	}
	if got := float64(EarthByTable(job.Armoured70, 10, true)); math.Abs(got-22.5) > 0.1 {
		t.Errorf("armour for 10 mm² at 70 °C: %.2f mm², 22.5 wanted", got)
	}
}

// TestAdiabatic: 1.5 mm² PVC withstands 29 756 A²s (k 115; 434.5.2).
func TestAdiabatic(t *testing.T) {
	if got := Adiabatic(29756.25, EarthK(job.TwinEarth, false)); math.Abs(float64(got)-1.5) > 1e-9 {
		t.Errorf("29 756 A²s asks %g mm²", float64(got))
	}
	for _, c := range []struct {
		f      job.Family
		armour bool
		k      float64
	}{{job.TwinEarth, false, 115}, {job.Armoured90, false, 143}, {job.Armoured70, true, 51}, {job.Armoured90, true, 46}} {
		if got := EarthK(c.f, c.armour); got != c.k {
			t.Errorf("k of %s, armour %t: %g, want %g (tables 54.3, 54.4)", c.f, c.armour, got, c.k)
		}
	}
}

// printedAWG is NEC 2023 table 310.16, copper then aluminium at 60, 75, 90 °C,
// with circular mils and Ω/kft at 75 °C of chapter 9 table 8 (from memory).
const printedAWG = `
	14 | 15  | 20  | 25  | –   | –   | –   | 4110   | 3.14  | –
	12 | 20  | 25  | 30  | 15  | 20  | 25  | 6530   | 1.98  | –
	10 | 30  | 35  | 40  | 25  | 30  | 35  | 10380  | 1.24  | –
	8  | 40  | 50  | 55  | 35  | 40  | 45  | 16510  | 0.778 | 1.28
	6  | 55  | 65  | 75  | 40  | 50  | 55  | 26240  | 0.491 | 0.808
	4  | 70  | 85  | 95  | 55  | 65  | 75  | 41740  | 0.308 | 0.508
	3  | 85  | 100 | 115 | 65  | 75  | 85  | 52620  | 0.245 | 0.403
	2  | 95  | 115 | 130 | 75  | 90  | 100 | 66360  | 0.194 | 0.319
	1  | 110 | 130 | 145 | 85  | 100 | 115 | 83690  | 0.154 | 0.253
	0  | 125 | 150 | 170 | 100 | 120 | 135 | 105600 | 0.122 | 0.201`

func TestAWGTable(t *testing.T) {
	for _, row := range rows(t, printedAWG) {
		r, ok := AWGSize(quantity.AWG(row[0]).String())
		if !ok {
			t.Fatalf("no %g AWG", row[0])
		}
		for c := C60; c <= C90; c++ {
			if got, _ := r.Ampacity(false, c); float64(got) != row[1+c] {
				t.Errorf("%s copper %g °C: %g A, printed %g", r.Size, c.Degrees(), float64(got), row[1+c])
			}
			if got, ok := r.Ampacity(true, c); float64(got) != row[4+c] || ok != (row[4+c] > 0) {
				t.Errorf("%s aluminium %g °C: %g A, printed %g", r.Size, c.Degrees(), float64(got), row[4+c])
			}
		}
		if cm, _ := CircularMils(r.Size); cm != row[7] {
			t.Errorf("%s: %g circular mils, printed %g", r.Size, cm, row[7])
		}
		if got := r.OhmPerMetre(false) * 304.8; math.Abs(got-row[8]) > 1e-9 {
			t.Errorf("%s: %g Ω/kft, printed %g", r.Size, got, row[8])
		}
		if got := r.OhmPerMetre(true) * 304.8; math.Abs(got-row[9]) > 1e-9 {
			t.Errorf("%s aluminium: %g Ω/kft, printed %g", r.Size, got, row[9])
		}
	}
}

// TestResistanceFollowsArea: resistivity of stranded copper at 75 °C is about
// 10.37·1.2 Ω·cmil/ft; table 8 keeps to it within 2 %. A misprint would not.
func TestResistanceFollowsArea(t *testing.T) {
	for _, r := range AWGTable() {
		if got := r.OhmCu * r.CM / 1000; math.Abs(got-12.9) > 0.02*12.9 {
			t.Errorf("%s: %g Ω·cmil/ft, about 12.9 wanted", r.Size, got)
		}
		if r.OhmAl != 0 {
			if got := r.OhmAl * r.CM / 1000; math.Abs(got-21.2) > 0.02*21.2 {
				t.Errorf("%s aluminium: %g Ω·cmil/ft, about 21.2 wanted", r.Size, got)
			}
		}
	}
}

// TestAWGAmbient checks table 310.15(B)(1) (from memory).
func TestAWGAmbient(t *testing.T) {
	for _, row := range rows(t, `
		10 | 1.29 | 1.20 | 1.15
		20 | 1.15 | 1.11 | 1.08
		25 | 1.08 | 1.05 | 1.04
		30 | 1.00 | 1.00 | 1.00
		35 | 0.91 | 0.94 | 0.96
		40 | 0.82 | 0.88 | 0.91
		45 | 0.71 | 0.82 | 0.87
		50 | 0.58 | 0.75 | 0.82
		55 | 0.41 | 0.67 | 0.76
		60 | –    | 0.58 | 0.71
		65 | –    | 0.47 | 0.65
		70 | –    | 0.33 | 0.58
		75 | –    | –    | 0.50
		80 | –    | –    | 0.41
		85 | –    | –    | 0.29`) {
		for c := C60; c <= C90; c++ {
			if got, ok := AWGAmbient(c, quantity.Celsius(row[0])); got != row[1+c] || ok != (row[1+c] > 0) {
				t.Errorf("%g °C, %g °C column: %g, printed %g", row[0], c.Degrees(), got, row[1+c])
			}
		}
	}
	if _, ok := AWGAmbient(C90, 86); ok {
		t.Error("above 85 °C the table ends")
	}
	// The factors follow √((Tc − Ta)/(Tc − 30)), 310.15(B) equation, to rounding.
	for _, ta := range []float64{35, 40, 45, 50} {
		for c := C60; c <= C90; c++ {
			want := math.Sqrt((c.Degrees() - ta) / (c.Degrees() - 30))
			if got, _ := AWGAmbient(c, quantity.Celsius(ta)); math.Abs(got-want) > 0.006 {
				t.Errorf("%g °C at %g °C: %g, by the equation %.3f", c.Degrees(), ta, got, want)
			}
		}
	}
}

// TestAdjustment checks table 310.15(C)(1) (from memory).
func TestAdjustment(t *testing.T) {
	for n, want := range map[int]float64{1: 1, 3: 1, 4: 0.80, 6: 0.80, 7: 0.70, 9: 0.70, 10: 0.50, 20: 0.50, 21: 0.45, 30: 0.45, 31: 0.40, 40: 0.40, 41: 0.35} {
		if got := AWGAdjustment(n); got != want {
			t.Errorf("%d conductors: %g, printed %g", n, got, want)
		}
	}
}

// TestEquipmentGround checks table 250.122, copper (from memory).
func TestEquipmentGround(t *testing.T) {
	for breaker, want := range map[quantity.Ampere]quantity.AWG{15: 14, 20: 12, 25: 10, 30: 10, 40: 10, 50: 10, 60: 10, 70: 8, 100: 8, 110: 6, 200: 6, 300: 4, 400: 3} {
		if got, ok := EquipmentGround(breaker); !ok || got != want {
			t.Errorf("%g A: %s, printed %s", float64(breaker), got, want)
		}
	}
	if _, ok := EquipmentGround(401); ok {
		t.Error("above 400 A there is no figure here")
	}
}

// TestEnlargedGround checks 250.122(B): 6 to 4 AWG enlarges 10 AWG to 8, 16 511
// circular mils wanted against the table's 16 510, within the tolerance.
func TestEnlargedGround(t *testing.T) {
	for _, c := range []struct{ base, least, used, want quantity.AWG }{
		{10, 6, 6, 10}, {10, 6, 4, 8}, {10, 6, 3, 6}, {10, 8, 6, 8}, {14, 14, 10, 10}, {10, 6, 8, 10},
	} {
		if got := EnlargedGround(c.base, c.least, c.used); got != c.want {
			t.Errorf("ground %s, circuit %s used for %s: %s, want %s", c.base, c.used, c.least, got, c.want)
		}
	}
}

// TestRaceway: two 6 AWG and one 10 AWG THHN fill 0.1225 in², just over ½ in
// EMT's 0.122; chapter 9 tables 1, 4 and 5 (from memory).
func TestRaceway(t *testing.T) {
	trade, filled, allowed, ok := Raceway(job.ThwnEMT, 6, 6, 10)
	if !ok || trade != "¾" || math.Abs(filled-0.1225) > 1e-9 || allowed != 0.213 {
		t.Errorf("two 6 AWG and a 10 AWG: %s in, %.4f of %g in²", trade, filled, allowed)
	}
	if trade, _, _, _ := Raceway(job.ThwnEMT, 8, 8, 10); trade != "½" {
		t.Errorf("two 8 AWG and a 10 AWG go into %s in", trade)
	}
	if trade, _, _ := RacewayFor(job.ThwnPVC, 40, WireArea(4, 4, 8)); trade != "¾" {
		t.Errorf("two 4 AWG and an 8 AWG go into %s in PVC of schedule 40", trade)
	}
	if trade, _, _, _ := Raceway(job.ThwnPVC, 4, 4, 8); trade != "1" {
		t.Errorf("two 4 AWG and an 8 AWG go into %s in PVC whose schedule is not known", trade)
	}
	if _, _, _, ok := Raceway(job.ThwnEMT, slices.Repeat([]quantity.AWG{0}, 12)...); ok {
		t.Error("twelve 1/0 fit nowhere here")
	}
}

// TestColumnFor: a marking between two columns takes the cooler one.
func TestColumnFor(t *testing.T) {
	for temp, want := range map[quantity.Celsius]Column{0: C60, 60: C60, 70: C60, 75: C75, 89: C75, 90: C90} {
		if got := ColumnFor(temp); got != want {
			t.Errorf("%g °C: column %g", float64(temp), got.Degrees())
		}
	}
}

func ExampleDropTwoWire() {
	// 48 A over 100 ft of 6 AWG copper: 2 × 0.491 Ω/kft × 0.1 kft × 48 A.
	r, _ := AWGSize("6 AWG")
	fmt.Printf("%.2f V\n", float64(DropTwoWire(r.OhmPerMetre(false), quantity.Feet(100), 48, 1)))
	// Output: 4.71 V
}

// TestArmour checks the areas of steel wire armour of BS 5467, two and four cores, mm²
// (from memory).
func TestArmour(t *testing.T) {
	for size, want := range map[string][2]quantity.SquareMillimetre{"2.5 mm²": {17, 20}, "4 mm²": {19, 22}, "6 mm²": {22, 36}, "10 mm²": {26, 42}, "16 mm²": {42, 50}, "25 mm²": {42, 70}} {
		for _, f := range []job.Family{job.Armoured70, job.Armoured90} {
			if r, ok := MetricSize(f, size); !ok || r.Armour != want {
				t.Errorf("%s %s: %v, want %v", f, size, r.Armour, want)
			}
		}
	}
}

// TestArmouredEnclosed checks armoured cable in conduit or trunking against method B2 of
// IEC 60364-5-52, tables B.52.2 to B.52.5 (from memory).
func TestArmouredEnclosed(t *testing.T) {
	for f, want := range map[job.Family][2][6]float64{
		job.Armoured70: {{23, 30, 38, 52, 69, 90}, {20, 27, 34, 46, 62, 80}},
		job.Armoured90: {{30, 40, 51, 69, 91, 119}, {26, 35, 44, 60, 80, 105}},
	} {
		for i, r := range Metric(f) {
			for k, loaded := range []int{2, 3} {
				if got, ok := r.Capacity(job.Trunking, loaded); !ok || float64(got) != want[k][i] {
					t.Errorf("%s %s, %d loaded: %g A, want %g", f, r.Label(), loaded, float64(got), want[k][i])
				}
			}
		}
	}
}

// TestSchedule80 checks the fills of PVC conduit of schedule 80, chapter 9 table 4 at
// 40 % (from memory).
func TestSchedule80(t *testing.T) {
	for trade, want := range map[string]float64{"½": 0.087, "¾": 0.164, "1": 0.275, "1¼": 0.495, "1½": 0.684, "2": 1.150} {
		if got, ok := FillAllowed(job.ThwnPVC, 80, trade); !ok || got != want {
			t.Errorf("%s: %g in², want %g", trade, got, want)
		}
	}
	if got, _ := FillAllowed(job.ThwnEMT, 80, "½"); got != 0.122 {
		t.Errorf("EMT has no schedule: %g", got)
	}
}
