package conductor

import (
	"math"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// AWGRow is one size of NEC table 310.16 (30 °C, not more than three
// current-carrying conductors), chapter 9 table 8 and chapter 9 table 5.
// A zero means that the table has no figure. From memory.
type AWGRow struct {
	Size      quantity.AWG
	Copper    [3]float64 // ampacity at 60, 75, 90 °C, A
	Aluminium [3]float64 // ampacity at 60, 75, 90 °C, A
	CM        float64    // circular mils, chapter 9 table 8
	OhmCu     float64    // DC resistance at 75 °C, uncoated stranded copper, Ω/kft
	OhmAl     float64    // DC resistance at 75 °C, aluminium, Ω/kft
	Thhn      float64    // area of THHN/THWN-2 with insulation, in², chapter 9 table 5
}

var awgRows = []AWGRow{
	{14, [3]float64{15, 20, 25}, [3]float64{}, 4110, 3.14, 0, 0.0097},
	{12, [3]float64{20, 25, 30}, [3]float64{15, 20, 25}, 6530, 1.98, 0, 0.0133},
	{10, [3]float64{30, 35, 40}, [3]float64{25, 30, 35}, 10380, 1.24, 0, 0.0211},
	{8, [3]float64{40, 50, 55}, [3]float64{35, 40, 45}, 16510, 0.778, 1.28, 0.0366},
	{6, [3]float64{55, 65, 75}, [3]float64{40, 50, 55}, 26240, 0.491, 0.808, 0.0507},
	{4, [3]float64{70, 85, 95}, [3]float64{55, 65, 75}, 41740, 0.308, 0.508, 0.0824},
	{3, [3]float64{85, 100, 115}, [3]float64{65, 75, 85}, 52620, 0.245, 0.403, 0.0973},
	{2, [3]float64{95, 115, 130}, [3]float64{75, 90, 100}, 66360, 0.194, 0.319, 0.1158},
	{1, [3]float64{110, 130, 145}, [3]float64{85, 100, 115}, 83690, 0.154, 0.253, 0.1562},
	{0, [3]float64{125, 150, 170}, [3]float64{100, 120, 135}, 105600, 0.122, 0.201, 0.1855},
}

// AWGTable returns the sizes, smallest conductor first.
func AWGTable() []AWGRow { return awgRows }

// AWGSize returns the row of a printed size such as "6 AWG".
func AWGSize(size string) (AWGRow, bool) {
	g, err := quantity.ParseAWG(size)
	if err != nil {
		return AWGRow{}, false
	}
	for _, r := range awgRows {
		if r.Size == g {
			return r, true
		}
	}
	return AWGRow{}, false
}

// Column is a temperature column of table 310.16.
type Column int

// The columns.
const (
	C60 Column = iota
	C75
	C90
)

// ColumnFor returns the hottest column that does not exceed t.
func ColumnFor(t quantity.Celsius) Column {
	switch {
	case t >= 90:
		return C90
	case t >= 75:
		return C75
	}
	return C60
}

// Degrees returns the column's temperature, °C.
func (c Column) Degrees() float64 { return []float64{60, 75, 90}[c] }

// Ampacity returns the tabulated ampacity; false where the table has none.
func (r AWGRow) Ampacity(aluminium bool, c Column) (quantity.Ampere, bool) {
	a := r.Copper[c]
	if aluminium {
		a = r.Aluminium[c]
	}
	return quantity.Ampere(a), a > 0
}

// OhmPerMetre returns the DC resistance at 75 °C, Ω/m (chapter 9 table 8);
// 0 where the table has none.
func (r AWGRow) OhmPerMetre(aluminium bool) float64 {
	if aluminium {
		return quantity.OhmsPerKft(r.OhmAl)
	}
	return quantity.OhmsPerKft(r.OhmCu)
}

// awgAmbient is table 310.15(B)(1), 30 °C base: the band's upper end and the
// factor for 60, 75 and 90 °C insulation; 0 where not allowed. From memory.
var awgAmbient = []struct {
	upTo   float64
	factor [3]float64
}{
	{10, [3]float64{1.29, 1.20, 1.15}}, {15, [3]float64{1.22, 1.15, 1.12}}, {20, [3]float64{1.15, 1.11, 1.08}},
	{25, [3]float64{1.08, 1.05, 1.04}}, {30, [3]float64{1.00, 1.00, 1.00}}, {35, [3]float64{0.91, 0.94, 0.96}},
	{40, [3]float64{0.82, 0.88, 0.91}}, {45, [3]float64{0.71, 0.82, 0.87}}, {50, [3]float64{0.58, 0.75, 0.82}},
	{55, [3]float64{0.41, 0.67, 0.76}}, {60, [3]float64{0, 0.58, 0.71}},
	{65, [3]float64{0, 0.47, 0.65}}, {70, [3]float64{0, 0.33, 0.58}}, {75, [3]float64{0, 0, 0.50}}, {80, [3]float64{0, 0, 0.41}}, {85, [3]float64{0, 0, 0.29}},
}

// AWGAmbient returns the ambient correction of table 310.15(B)(1); false above
// the table or where the insulation may not be used.
func AWGAmbient(c Column, t quantity.Celsius) (float64, bool) {
	for _, b := range awgAmbient {
		if float64(t) <= b.upTo {
			return b.factor[c], b.factor[c] > 0
		}
	}
	return 0, false
}

// AWGAdjustment returns the factor of table 310.15(C)(1) for n current-carrying
// conductors together; equipment grounds are not counted.
func AWGAdjustment(n int) float64 {
	switch {
	case n <= 3:
		return 1
	case n <= 6:
		return 0.80
	case n <= 9:
		return 0.70
	case n <= 20:
		return 0.50
	case n <= 30:
		return 0.45
	case n <= 40:
		return 0.40
	}
	return 0.35
}

// equipmentGround is table 250.122, copper: overcurrent device not above, A,
// and size. From memory.
var equipmentGround = []struct {
	upTo quantity.Ampere
	size quantity.AWG
}{{15, 14}, {20, 12}, {60, 10}, {100, 8}, {200, 6}, {300, 4}, {400, 3}}

// EquipmentGround returns the least copper equipment grounding conductor by
// table 250.122 for an overcurrent device; false above 400 A.
func EquipmentGround(breaker quantity.Ampere) (quantity.AWG, bool) {
	for _, r := range equipmentGround {
		if breaker <= r.upTo {
			return r.size, true
		}
	}
	return 0, false
}

// CircularMils returns the tabulated circular mils of a size; false where the
// table has none.
func CircularMils(g quantity.AWG) (float64, bool) {
	for _, r := range awgRows {
		if r.Size == g {
			return r.CM, true
		}
	}
	return 0, false
}

// EnlargedGround returns the least equipment ground where the circuit
// conductors were enlarged from least to used: in proportion to circular mils
// (250.122(B)), compared with a tolerance of 0.1 %, never above the circuit
// conductor itself.
func EnlargedGround(base, least, used quantity.AWG) quantity.AWG {
	b, _ := CircularMils(base)
	l, okL := CircularMils(least)
	u, okU := CircularMils(used)
	if !okL || !okU || u <= l {
		return base
	}
	want := b * u / l * 0.999
	for _, r := range awgRows {
		if r.CM >= want {
			return max(r.Size, used)
		}
	}
	return used
}

// fillArea is chapter 9 table 4 at 40 %, in², by raceway. From memory.
var fillArea = map[job.Family][]struct {
	Trade string
	At40  float64
}{
	job.ThwnEMT: {{"½", 0.122}, {"¾", 0.213}, {"1", 0.346}, {"1¼", 0.598}, {"1½", 0.814}, {"2", 1.342}},
	job.ThwnPVC: {{"½", 0.114}, {"¾", 0.203}, {"1", 0.333}, {"1¼", 0.581}, {"1½", 0.794}, {"2", 1.316}},
}

// fillSchedule80 is the same of PVC conduit of schedule 80. From memory.
var fillSchedule80 = []struct {
	Trade string
	At40  float64
}{{"½", 0.087}, {"¾", 0.164}, {"1", 0.275}, {"1¼", 0.495}, {"1½", 0.684}, {"2", 1.150}}

func fillsOf(f job.Family, schedule int) []struct {
	Trade string
	At40  float64
} {
	if f == job.ThwnPVC && schedule != 40 {
		return fillSchedule80
	}
	return fillArea[f]
}

// Raceway returns the smallest trade size, inches, whose 40 % fill holds the
// conductors (chapter 9 table 1, three or more wires); false where none does.
func Raceway(f job.Family, sizes ...quantity.AWG) (trade string, filled, allowed float64, ok bool) {
	filled = WireArea(sizes...)
	trade, allowed, ok = RacewayFor(f, 0, filled)
	return trade, filled, allowed, ok
}

// RacewayFor returns the smallest trade size, inches, whose 40 % fill holds an
// area, in²; false where none does. schedule is that of PVC
// conduit: one that is not known counts as 80, the narrower.
func RacewayFor(f job.Family, schedule int, area float64) (trade string, allowed float64, ok bool) {
	for _, c := range fillsOf(f, schedule) {
		if area <= c.At40+1e-9 {
			return c.Trade, c.At40, true
		}
	}
	return "", 0, false
}

// WireArea returns what THHN/THWN-2 conductors take in a raceway, in² (chapter 9
// table 5).
func WireArea(sizes ...quantity.AWG) (area float64) {
	for _, g := range sizes {
		for _, r := range awgRows {
			if r.Size == g {
				area += r.Thhn
			}
		}
	}
	return area
}

// InRaceway reports whether the family is conductors pulled into a raceway.
func InRaceway(f job.Family) bool { return f == job.ThwnEMT || f == job.ThwnPVC }

// FillAllowed returns the 40 % fill of a trade size of the family's raceway, in²;
// false where the size is not listed. schedule is that of PVC
// conduit: one that is not known counts as 80, the narrower.
func FillAllowed(f job.Family, schedule int, trade string) (float64, bool) {
	for _, c := range fillsOf(f, schedule) {
		if c.Trade == trade {
			return c.At40, true
		}
	}
	return 0, false
}

// DropTwoWire returns the voltage drop of a two-wire circuit, V: 2·R·L·I with
// R in Ω/m; for three phase use √3 in place of 2.
func DropTwoWire(ohmPerMetre float64, l quantity.Metre, i quantity.Ampere, phases int) quantity.Volt {
	k := 2.0
	if phases == 3 {
		k = math.Sqrt(3)
	}
	return quantity.Volt(k * ohmPerMetre * float64(l) * float64(i))
}
