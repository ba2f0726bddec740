// Package conductor holds the published tables of cables and conductors:
// current-carrying capacity, correction factors, resistance, voltage drop,
// protective conductors and conduit fill.
//
// Tables are literals in the shape of the printed page. All figures were
// written from memory and proof-read against an independent recollection; the
// source stands beside each.
package conductor

import (
	"math"
	"strconv"
	"strings"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// MetricRow is one size of a table of appendix 4 of BS 7671: current-carrying
// capacity in A by installation method, with 0 where the table has none, and
// voltage drop in mV per A per m.
type MetricRow struct {
	Area   quantity.SquareMillimetre
	Amps   map[job.Method]float64 // two loaded conductors, single phase
	Amps3  map[job.Method]float64 // three loaded conductors, three phase
	Drop   float64                // mV/A/m, two loaded conductors
	Drop3  float64                // mV/A/m, three loaded conductors
	Earth  quantity.SquareMillimetre
	Armour [2]quantity.SquareMillimetre // 2-core, 4-core; 0 where not armoured
}

type amps = map[job.Method]float64

// metric holds the tables by family.
//
//   - twin-earth: BS 7671 table 4D5, flat twin and earth, PVC 70 °C, 30 °C air;
//     protective conductor by BS 6004.
//   - multicore: tables 4D2A and 4D2B, non-armoured, PVC 70 °C.
//   - singles: tables 4D1A (method B) and 4D1B, single-core PVC 70 °C.
//   - armoured-70: tables 4D4A and 4D4B; armour area of BS 5467, two and four cores,
//     which cable to BS 6346 does not fall below: what errs asks for more earth.
//   - armoured-90: tables 4E4A and 4E4B; armour area of BS 5467.
//
// Appendix 4 has no armoured cable in conduit or trunking: the figures are those of a
// multicore cable there, method B2 of IEC 60364-5-52 tables B.52.2 to B.52.5.
//
// From memory.
var metric = map[job.Family][]MetricRow{
	job.TwinEarth: {
		{Area: 1.5, Earth: 1.0, Drop: 29, Amps: amps{job.Surface: 20, job.StudWall: 16, job.CeilingThin: 16, job.CeilingThick: 13, job.InInsulation: 10, job.ConduitInWall: 14.5}},
		{Area: 2.5, Earth: 1.5, Drop: 18, Amps: amps{job.Surface: 27, job.StudWall: 21, job.CeilingThin: 21, job.CeilingThick: 17, job.InInsulation: 13.5, job.ConduitInWall: 20}},
		{Area: 4, Earth: 1.5, Drop: 11, Amps: amps{job.Surface: 37, job.StudWall: 27, job.CeilingThin: 27, job.CeilingThick: 22, job.InInsulation: 17.5, job.ConduitInWall: 26}},
		{Area: 6, Earth: 2.5, Drop: 7.3, Amps: amps{job.Surface: 47, job.StudWall: 35, job.CeilingThin: 34, job.CeilingThick: 27, job.InInsulation: 23.5, job.ConduitInWall: 32}},
		{Area: 10, Earth: 4, Drop: 4.4, Amps: amps{job.Surface: 64, job.StudWall: 47, job.CeilingThin: 45, job.CeilingThick: 36, job.InInsulation: 32, job.ConduitInWall: 44}},
		{Area: 16, Earth: 6, Drop: 2.8, Amps: amps{job.Surface: 85, job.StudWall: 63, job.CeilingThin: 57, job.CeilingThick: 46, job.InInsulation: 42.5, job.ConduitInWall: 57}},
	},
	job.Multicore: {
		{Area: 2.5, Earth: 2.5, Drop: 18, Drop3: 15, Amps: amps{job.ConduitInWall: 18.5, job.Conduit: 23, job.Surface: 27, job.FreeAir: 30}, Amps3: amps{job.Conduit: 20, job.Surface: 24}},
		{Area: 4, Earth: 4, Drop: 11, Drop3: 9.5, Amps: amps{job.ConduitInWall: 25, job.Conduit: 30, job.Surface: 36, job.FreeAir: 40}, Amps3: amps{job.Conduit: 27, job.Surface: 32}},
		{Area: 6, Earth: 6, Drop: 7.3, Drop3: 6.4, Amps: amps{job.ConduitInWall: 32, job.Conduit: 38, job.Surface: 46, job.FreeAir: 51}, Amps3: amps{job.Conduit: 34, job.Surface: 41}},
		{Area: 10, Earth: 10, Drop: 4.4, Drop3: 3.8, Amps: amps{job.ConduitInWall: 43, job.Conduit: 52, job.Surface: 63, job.FreeAir: 70}, Amps3: amps{job.Conduit: 46, job.Surface: 57}},
		{Area: 16, Earth: 16, Drop: 2.8, Drop3: 2.4, Amps: amps{job.ConduitInWall: 57, job.Conduit: 69, job.Surface: 85, job.FreeAir: 94}, Amps3: amps{job.Conduit: 62, job.Surface: 76}},
		{Area: 25, Earth: 25, Drop: 1.75, Amps: amps{job.ConduitInWall: 75, job.Conduit: 90, job.Surface: 112, job.FreeAir: 119}},
	},
	job.Singles: {
		{Area: 2.5, Earth: 2.5, Drop: 18, Drop3: 15, Amps: amps{job.Conduit: 24}, Amps3: amps{job.Conduit: 21}},
		{Area: 4, Earth: 4, Drop: 11, Drop3: 9.5, Amps: amps{job.Conduit: 32}, Amps3: amps{job.Conduit: 28}},
		{Area: 6, Earth: 6, Drop: 7.3, Drop3: 6.4, Amps: amps{job.Conduit: 41}, Amps3: amps{job.Conduit: 36}},
		{Area: 10, Earth: 10, Drop: 4.4, Drop3: 3.8, Amps: amps{job.Conduit: 57}, Amps3: amps{job.Conduit: 50}},
		{Area: 16, Earth: 16, Drop: 2.8, Drop3: 2.4, Amps: amps{job.Conduit: 76}, Amps3: amps{job.Conduit: 68}},
		{Area: 25, Earth: 25, Drop: 1.8, Drop3: 1.55, Amps: amps{job.Conduit: 101}, Amps3: amps{job.Conduit: 89}},
	},
	job.Armoured70: {
		{Area: 2.5, Earth: 2.5, Armour: [2]quantity.SquareMillimetre{17, 20}, Drop: 18, Drop3: 15, Amps: amps{job.Conduit: 23, job.Surface: 28, job.Buried: 29, job.FreeAir: 31}, Amps3: amps{job.Conduit: 20, job.Surface: 25, job.Buried: 24, job.FreeAir: 26}},
		{Area: 4, Earth: 4, Armour: [2]quantity.SquareMillimetre{19, 22}, Drop: 11, Drop3: 9.5, Amps: amps{job.Conduit: 30, job.Surface: 38, job.Buried: 37, job.FreeAir: 41}, Amps3: amps{job.Conduit: 27, job.Surface: 33, job.Buried: 30, job.FreeAir: 35}},
		{Area: 6, Earth: 6, Armour: [2]quantity.SquareMillimetre{22, 36}, Drop: 7.3, Drop3: 6.4, Amps: amps{job.Conduit: 38, job.Surface: 49, job.Buried: 46, job.FreeAir: 53}, Amps3: amps{job.Conduit: 34, job.Surface: 42, job.Buried: 38, job.FreeAir: 45}},
		{Area: 10, Earth: 10, Armour: [2]quantity.SquareMillimetre{26, 42}, Drop: 4.4, Drop3: 3.8, Amps: amps{job.Conduit: 52, job.Surface: 67, job.Buried: 60, job.FreeAir: 72}, Amps3: amps{job.Conduit: 46, job.Surface: 58, job.Buried: 50, job.FreeAir: 62}},
		{Area: 16, Earth: 16, Armour: [2]quantity.SquareMillimetre{42, 50}, Drop: 2.8, Drop3: 2.4, Amps: amps{job.Conduit: 69, job.Surface: 89, job.Buried: 78, job.FreeAir: 97}, Amps3: amps{job.Conduit: 62, job.Surface: 77, job.Buried: 64, job.FreeAir: 83}},
		{Area: 25, Earth: 25, Armour: [2]quantity.SquareMillimetre{42, 70}, Drop: 1.75, Drop3: 1.5, Amps: amps{job.Conduit: 90, job.Surface: 118, job.Buried: 99, job.FreeAir: 128}, Amps3: amps{job.Conduit: 80, job.Surface: 102, job.Buried: 82, job.FreeAir: 110}},
	},
	job.Armoured90: {
		{Area: 2.5, Earth: 2.5, Armour: [2]quantity.SquareMillimetre{17, 20}, Drop: 19, Drop3: 16, Amps: amps{job.Conduit: 30, job.Surface: 36, job.Buried: 33, job.FreeAir: 39}, Amps3: amps{job.Conduit: 26, job.Surface: 31, job.Buried: 28, job.FreeAir: 33}},
		{Area: 4, Earth: 4, Armour: [2]quantity.SquareMillimetre{19, 22}, Drop: 12, Drop3: 10, Amps: amps{job.Conduit: 40, job.Surface: 49, job.Buried: 43, job.FreeAir: 52}, Amps3: amps{job.Conduit: 35, job.Surface: 42, job.Buried: 36, job.FreeAir: 44}},
		{Area: 6, Earth: 6, Armour: [2]quantity.SquareMillimetre{22, 36}, Drop: 7.9, Drop3: 6.8, Amps: amps{job.Conduit: 51, job.Surface: 62, job.Buried: 53, job.FreeAir: 66}, Amps3: amps{job.Conduit: 44, job.Surface: 53, job.Buried: 44, job.FreeAir: 56}},
		{Area: 10, Earth: 10, Armour: [2]quantity.SquareMillimetre{26, 42}, Drop: 4.7, Drop3: 4.0, Amps: amps{job.Conduit: 69, job.Surface: 85, job.Buried: 71, job.FreeAir: 90}, Amps3: amps{job.Conduit: 60, job.Surface: 73, job.Buried: 58, job.FreeAir: 78}},
		{Area: 16, Earth: 16, Armour: [2]quantity.SquareMillimetre{42, 50}, Drop: 2.9, Drop3: 2.5, Amps: amps{job.Conduit: 91, job.Surface: 110, job.Buried: 91, job.FreeAir: 115}, Amps3: amps{job.Conduit: 80, job.Surface: 94, job.Buried: 75, job.FreeAir: 99}},
		{Area: 25, Earth: 25, Armour: [2]quantity.SquareMillimetre{42, 70}, Drop: 1.9, Drop3: 1.65, Amps: amps{job.Conduit: 119, job.Surface: 146, job.Buried: 116, job.FreeAir: 152}, Amps3: amps{job.Conduit: 105, job.Surface: 124, job.Buried: 96, job.FreeAir: 131}},
	},
}

// Metric returns the table of a family, smallest size first; nil for a family
// that is not tabulated in metric sizes.
func Metric(f job.Family) []MetricRow { return metric[f] }

// MetricFamilies lists the tabulated families in the order that a list shows them.
var MetricFamilies = []job.Family{job.TwinEarth, job.Multicore, job.Singles, job.Armoured70, job.Armoured90}

// MetricSize returns the row of the family for a printed size such as "6 mm²".
func MetricSize(f job.Family, size string) (MetricRow, bool) {
	area, ok := MetricArea(size)
	if !ok {
		return MetricRow{}, false
	}
	for _, r := range metric[f] {
		if r.Area == area {
			return r, true
		}
	}
	return MetricRow{}, false
}

// MetricArea reads a printed size such as "6 mm²".
func MetricArea(size string) (quantity.SquareMillimetre, bool) {
	number := strings.TrimSpace(strings.TrimSuffix(strings.TrimSuffix(size, "mm2"), "mm²"))
	area, err := strconv.ParseFloat(number, 64)
	return quantity.SquareMillimetre(area), err == nil
}

// Label returns the size as printed: "6 mm²".
func (r MetricRow) Label() string {
	return strconv.FormatFloat(float64(r.Area), 'f', -1, 64) + " mm²"
}

// Capacity returns the tabulated capacity for the method, or the one whose
// column holds for it, and the number of
// loaded conductors, and false where the table has no figure.
func (r MetricRow) Capacity(m job.Method, loaded int) (quantity.Ampere, bool) {
	t := r.Amps
	if loaded == 3 {
		t = r.Amps3
	}
	a, ok := t[m.Reference()]
	return quantity.Ampere(a), ok
}

// DropPerAmpereMetre returns the tabulated voltage drop, mV per A per m; 0
// where the table has none.
func (r MetricRow) DropPerAmpereMetre(loaded int) float64 {
	if loaded == 3 {
		return r.Drop3
	}
	return r.Drop
}

// Insulated at 90 °C or at 70 °C.
func insulation(f job.Family) int {
	if f == job.Armoured90 {
		return 90
	}
	return 70
}

// step is one column of a table by temperature or count.
type step struct{ at, pvc, xlpe float64 }

// table 4B1: ambient air. From memory.
var ambientAir = []step{
	{25, 1.03, 1.02}, {30, 1.00, 1.00}, {35, 0.94, 0.96}, {40, 0.87, 0.91},
	{45, 0.79, 0.87}, {50, 0.71, 0.82}, {55, 0.61, 0.76}, {60, 0.50, 0.71},
}

// table 4B2: ground. From memory.
var ambientGround = []step{
	{10, 1.10, 1.07}, {15, 1.05, 1.04}, {20, 1.00, 1.00}, {25, 0.95, 0.96}, {30, 0.89, 0.93},
}

// AmbientFactor returns Ca: table 4B1 for air, 4B2 for cable in the ground.
// Between two printed temperatures the hotter one is taken; above the table
// there is no figure and ok is false.
func AmbientFactor(f job.Family, buried bool, t quantity.Celsius) (factor float64, ok bool) {
	table := ambientAir
	if buried {
		table = ambientGround
	}
	for _, s := range table {
		if float64(t) <= s.at {
			if insulation(f) == 90 {
				return s.xlpe, true
			}
			return s.pvc, true
		}
	}
	return 0, false
}

// table 4C1: bunched or enclosed, and in a single layer clipped to a wall, 1 to 9
// circuits; tables 4C2 and 4C3 for cables in the ground, laid direct and in ducts,
// touching. From memory.
var (
	grouped       = []float64{1.00, 0.80, 0.70, 0.65, 0.60, 0.57, 0.54, 0.52, 0.50}
	oneLayer      = []float64{1.00, 0.85, 0.79, 0.75, 0.73, 0.72, 0.72, 0.71, 0.70}
	groupedGround = []float64{1.00, 0.75, 0.65, 0.60}
	groupedDucts  = []float64{1.00, 0.85, 0.75, 0.70}
)

// GroupFactor returns Cg for the circuits that run together on a segment, this one
// included: clipped cables in one layer by their row of table 4C1, else bunched or
// enclosed; in the ground 4C2, in ducts 4C3. Past the table ok is false.
func GroupFactor(s *job.Segment) (factor float64, ok bool) {
	n, t := s.Grouped, grouped
	switch {
	case s.Method == job.Buried && s.Ducted == job.Yes:
		t = groupedDucts
	case s.Method == job.Buried:
		t = groupedGround
	case s.Method == job.Surface && s.OneLayer == job.Yes:
		t = oneLayer
	}
	n = max(n, 1)
	if n > len(t) {
		return 0, false
	}
	return t[n-1], true
}

// table 52.2: length surrounded by thermal insulation, m, and factor; from
// memory. Applied to method C, never on top of methods 100 to 103.
var surrounded = []struct{ length, factor float64 }{{0.05, 0.88}, {0.1, 0.78}, {0.2, 0.63}, {0.4, 0.51}}

// InsulationFactor returns Ci for cable that thermal insulation surrounds over
// a length: table 52.2, the next longer printed length, 0.50 from 0.5 m on.
func InsulationFactor(length quantity.Metre) float64 {
	if length <= 0 {
		return 1
	}
	for _, s := range surrounded {
		if float64(length) <= s.length {
			return s.factor
		}
	}
	return 0.50
}

// table 4B3: soil thermal resistivity, K·m/W, and the factors of cable laid direct and
// in a duct; from memory.
var soilFactors = []struct{ resistivity, direct, duct float64 }{
	{0.5, 1.88, 1.28}, {0.7, 1.62, 1.20}, {1.0, 1.50, 1.18}, {1.5, 1.28, 1.10}, {2.0, 1.12, 1.05}, {2.5, 1.00, 1.00}, {3.0, 0.90, 0.96},
}

// SoilFactor returns Cs of table 4B3, the next worse printed soil; 0 K·m/W is the
// table's own 2.5. Where it is not known whether the cable lies in a duct, the lesser
// of the two holds. Past the table ok is false.
func SoilFactor(resistivity float64, ducted job.Answer) (factor float64, ok bool) {
	if resistivity == 0 {
		return 1, true
	}
	for _, s := range soilFactors {
		if resistivity > s.resistivity {
			continue
		}
		switch ducted {
		case job.Yes:
			return s.duct, true
		case job.No:
			return s.direct, true
		}
		return min(s.direct, s.duct), true
	}
	return 0, false
}

// BuriedOverload is Cc: 0.9 for any overload device of a cable in the ground,
// direct or in a duct (433.1.203).
const BuriedOverload = 0.9

// resistance20 is BS EN 60228 class 1 and 2 copper at 20 °C, mΩ/m. From memory.
var resistance20 = map[quantity.SquareMillimetre]float64{
	1.0: 18.1, 1.5: 12.1, 2.5: 7.41, 4: 4.61, 6: 3.08, 10: 1.83, 16: 1.15, 25: 0.727, 35: 0.524,
}

// ResistanceAt20 returns the copper resistance per metre at 20 °C, Ω/m.
func ResistanceAt20(area quantity.SquareMillimetre) (float64, bool) {
	r, ok := resistance20[area]
	return r / 1000, ok
}

// SteelResistivity is that of armour wire at 20 °C, Ω·mm²/m: IEC 60287-1-1
// table 1, 13.8 × 10⁻⁸ Ω·m. From memory.
const SteelResistivity = 0.138

// HotFactor returns the rise of resistance from 20 °C to the conductor's
// operating temperature: 1.20 for 70 °C, 1.28 for 90 °C (OSG table I3).
func HotFactor(f job.Family) float64 {
	if insulation(f) == 90 {
		return 1.28
	}
	return 1.20
}

// EarthK returns k of 543.1.3 for a protective conductor in or of the cable:
// copper core 115 (PVC) or 143 (XLPE), separate PVC conductor 143, steel armour
// 51 or 46. Tables 54.2 to 54.4.
func EarthK(f job.Family, armour bool) float64 {
	switch {
	case armour && insulation(f) == 90:
		return 46
	case armour:
		return 51
	case insulation(f) == 90, f == job.Singles:
		return 143
	}
	return 115
}

// EarthByTable returns the least protective conductor by table 54.7 for a
// line conductor of the area, in copper; for steel armour times k1/k2.
func EarthByTable(f job.Family, line quantity.SquareMillimetre, armour bool) quantity.SquareMillimetre {
	s := line
	switch {
	case line > 35:
		s = line / 2
	case line > 16:
		s = 16
	}
	if armour {
		s *= quantity.SquareMillimetre(EarthK(f, false) / EarthK(f, true))
	}
	return s
}

// Adiabatic returns the least area that withstands the energy I²t, A²s, by
// 543.1.3: S = √(I²t) / k.
func Adiabatic(energy, k float64) quantity.SquareMillimetre {
	return quantity.SquareMillimetre(math.Sqrt(energy) / k)
}
