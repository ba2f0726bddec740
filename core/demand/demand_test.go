package demand

import (
	"fmt"
	"math"
	"testing"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

func about(t *testing.T, what string, got quantity.Ampere, want float64) {
	t.Helper()
	if math.Abs(float64(got)-want) > 0.05 {
		t.Errorf("%s: %.2f A, want %.2f", what, float64(got), want)
	}
}

// TestDiversityLines checks each line of the On-Site Guide's appendix A for one
// dwelling (from memory), at 230 V.
func TestDiversityLines(t *testing.T) {
	for _, c := range []struct {
		name  string
		loads []job.Load
		want  float64
	}{
		{"lighting 66 %", []job.Load{{Kind: job.Lighting, Amps: 6}}, 3.96},
		{"heating 10 A + 50 %", []job.Load{{Kind: job.Heating, Amps: 30}}, 20},
		{"heating below 10 A", []job.Load{{Kind: job.Heating, Amps: 8}}, 8},
		{"cooker 10 A + 30 %", []job.Load{{Kind: job.Cooker, Amps: 43.5}}, 20.05},
		{"cooker with socket + 5 A", []job.Load{{Kind: job.Cooker, Amps: 43.5, WithSocket: job.Yes}}, 25.05},
		{"one shower 100 %", []job.Load{{Kind: job.Shower, Amps: 40}}, 40},
		{"two showers 100 %", []job.Load{{Kind: job.Shower, Amps: 40}, {Kind: job.Shower, Amps: 36}}, 76},
		{"third shower 25 %", []job.Load{{Kind: job.Shower, Amps: 20}, {Kind: job.Shower, Amps: 40}, {Kind: job.Shower, Amps: 36}}, 81},
		{"stored water 100 %", []job.Load{{Kind: job.StoredHW, Power: 3000}}, 13.04},
		{"storage heaters 100 %", []job.Load{{Kind: job.StorageHeat, Power: 6900}}, 30},
		{"two rings 100 % + 40 %", []job.Load{{Kind: job.Sockets, Amps: 32}, {Kind: job.Sockets, Amps: 32}}, 44.8},
		{"radial and ring", []job.Load{{Kind: job.Sockets, Amps: 20}, {Kind: job.Sockets, Amps: 32}}, 40},
		{"another charging point 100 %", []job.Load{{Kind: job.ExistingEV, Amps: 32}}, 32},
	} {
		r := Diversity(c.loads, nil)
		about(t, c.name, r.Without, c.want)
		if r.Total != r.Without {
			t.Errorf("%s: charging adds %g A without a point", c.name, float64(r.Total-r.Without))
		}
		if len(r.Lines) != len(c.loads) {
			t.Errorf("%s: %d lines for %d loads", c.name, len(r.Lines), len(c.loads))
		}
	}
}

// TestChargingHasNoDiversity: points are counted at 100 % (722.311.201).
func TestChargingHasNoDiversity(t *testing.T) {
	r := Diversity([]job.Load{{Kind: job.Sockets, Amps: 32}}, []quantity.Ampere{32, 32})
	about(t, "two points", r.Total, 96)
}

// TestTwoShowersAloneExceed: a diversity sum easily passes 100 A with two
// showers, which is why a measured demand is allowed beside it.
func TestTwoShowersAloneExceed(t *testing.T) {
	r := Diversity([]job.Load{
		{Kind: job.Shower, Power: 10500}, {Kind: job.Shower, Power: 9500}, {Kind: job.Cooker, Power: 10000},
		{Kind: job.Sockets, Amps: 32}, {Kind: job.Lighting, Amps: 6},
	}, nil)
	if r.Without <= 100 {
		t.Errorf("%.1f A", float64(r.Without))
	}
}

func TestLinesSumToTotal(t *testing.T) {
	loads := []job.Load{{Kind: job.Lighting, Amps: 10}, {Kind: job.Cooker, Power: 9000}, {Kind: job.Sockets, Amps: 32}, {Kind: job.Heating, Power: 4600}}
	r := Diversity(loads, []quantity.Ampere{32})
	var sum float64
	for _, l := range r.Lines {
		sum += l.Counted
	}
	about(t, "sum of the lines", r.Total, sum)
}

func TestMissing(t *testing.T) {
	if r := Diversity(nil, nil); len(r.Missing) == 0 {
		t.Error("no loads, and nothing is missing")
	}
	if r := Diversity([]job.Load{{Kind: job.Shower, Name: "shower"}}, nil); len(r.Missing) != 1 || r.Missing[0] != "rating of shower" {
		t.Errorf("missing: %v", r.Missing)
	}
	if r := Existing(job.Dwelling{}, []job.Load{{Kind: job.Dryer, Power: 5000}}, nil, false); len(r.Missing) != 1 || r.Missing[0] != "floor area" {
		t.Errorf("missing: %v", r.Missing)
	}
}

// squareMetres of a floor area in ft².
func squareMetres(ft2 float64) float64 { return ft2 * 0.3048 * 0.3048 }

// TestExistingExample works 220.83(A) by hand for an existing dwelling in the
// manner of NEC annex D, example D2(c) (from memory): 1500 ft² at 3 VA, two
// small-appliance circuits, laundry, a 12 kW range and a 5 kW dryer.
//
//	4500 + 3000 + 1500 + 12000 + 5000 = 26 000 VA
//	8000 + 0.4 × 18 000 = 15 200 VA; at 240 V 63.3 A
func TestExistingExample(t *testing.T) {
	d := job.Dwelling{FloorArea: squareMetres(1500), KitchenCct: 2, LaundryCct: 1}
	loads := []job.Load{{Kind: job.Cooker, Power: 12000}, {Kind: job.Dryer, Power: 5000}}
	about(t, "without charging", Existing(d, loads, nil, false).Without, 63.33)
	// 48 A × 240 V = 11 520 VA at 100 % beside the sum: + 48 A.
	about(t, "charging at 100 %", Existing(d, loads, []quantity.Ampere{48}, false).Total, 111.33)
	// Inside the 40 % part: + 0.4 × 48 A.
	about(t, "charging in the 40 % part", Existing(d, loads, []quantity.Ampere{48}, true).Total, 82.53)
	// A 16 A point counts 7200 VA, 30 A (220.57).
	about(t, "a small point counts 7200 VA", Existing(d, loads, []quantity.Ampere{16}, false).Total, 93.33)
}

// TestExistingHeatAndCool: with nothing added, only the larger of existing
// heating and cooling is in the sum.
func TestExistingHeatAndCool(t *testing.T) {
	d := job.Dwelling{FloorArea: squareMetres(1500)}
	base := Existing(d, []job.Load{{Kind: job.Dryer, Power: 5000}}, nil, false).Without
	both := Existing(d, []job.Load{{Kind: job.Dryer, Power: 5000}, {Kind: job.Heating, Power: 6000}, {Kind: job.Cooling, Power: 4000}}, nil, false).Without
	about(t, "the larger, 6 kVA at 40 %", both-base, 0.4*6000/240)
}

// TestSmallHouseUnderEight: the first 8 kVA count in full.
func TestSmallHouseUnderEight(t *testing.T) {
	r := Existing(job.Dwelling{FloorArea: squareMetres(500)}, []job.Load{{Kind: job.Lighting, Amps: 10}}, nil, false)
	about(t, "1500 + 3000 + 1500 VA", r.Without, 6000.0/240)
}

// TestOptionalExample reproduces the NEC's annex D, example D2(a) (from
// memory): 1500 ft², 12 kW range, 2.5 kW water heater, 1.2 kW dishwasher, 9 kW
// of heat in five rooms, 5 kW dryer, 6 A of cooling at 230 V.
//
//	29 700 VA: 10 000 + 0.4 × 19 700 = 17 880 VA; heat 0.4 × 9000 = 3600 VA
//	21 480 VA at 240 V: 89.5 A, printed 90 A
func TestOptionalExample(t *testing.T) {
	d := job.Dwelling{FloorArea: squareMetres(1500), KitchenCct: 2, LaundryCct: 1}
	loads := []job.Load{{Kind: job.Cooker, Power: 12000}, {Kind: job.StoredHW, Power: 2500}, {Kind: job.OtherFixed, Power: 1200}, {Kind: job.Dryer, Power: 5000}, {Kind: job.Cooling, Power: 1380}}
	for range 5 {
		loads = append(loads, job.Load{Kind: job.Heating, Power: 1800})
	}
	r := Optional(d, loads, 200, nil, false)
	about(t, "example D2(a)", r.Without, 21480.0/240)
	about(t, "with 48 A at 100 %", Optional(d, loads, 200, []quantity.Ampere{48}, false).Total, 21480.0/240+48)
	about(t, "with 48 A in the 40 % part", Optional(d, loads, 200, []quantity.Ampere{48}, true).Total, 21480.0/240+0.4*48)
	if r := Optional(d, loads, 60, nil, false); len(r.Missing) != 1 {
		t.Errorf("a 60 A service: %v", r.Missing)
	}
	// Three units count 65 %; more cooling than counted heat counts in full.
	few := append(loads[:5:5], job.Load{Kind: job.Heating, Power: 9000})
	about(t, "one unit at 65 %", Optional(d, few, 200, nil, false).Without, (17880.0+0.65*9000)/240)
	cold := append(loads[:4:4], job.Load{Kind: job.Cooling, Power: 7000}, job.Load{Kind: job.Heating, Power: 5000})
	about(t, "cooling at 100 %", Optional(d, cold, 200, nil, false).Without, (17880.0+7000)/240)
}

// TestMeasured checks 220.87: 125 % of the peak plus the charging load.
func TestMeasured(t *testing.T) {
	r := Measured(60, 365, job.No, []quantity.Ampere{48})
	about(t, "without", r.Without, 75)
	about(t, "with", r.Total, 123)
	if len(r.Missing) != 0 {
		t.Errorf("missing: %v", r.Missing)
	}
	about(t, "a small point", Measured(60, 365, job.No, []quantity.Ampere{16}).Total, 105)
	for _, c := range []struct {
		days  int
		solar job.Answer
		bad   bool
	}{{29, job.No, true}, {30, job.No, false}, {30, job.Yes, true}, {30, job.Unasked, true}, {365, job.Yes, false}, {365, job.Unasked, false}} {
		if r := Measured(60, c.days, c.solar, nil); (len(r.Missing) > 0) != c.bad {
			t.Errorf("%d days, solar %q: missing %v", c.days, c.solar, r.Missing)
		}
	}
	if r := Measured(0, 365, job.No, nil); len(r.Missing) != 1 {
		t.Errorf("no peak: %v", r.Missing)
	}
}

// TestMeasuredUK: a peak without its record is not a demand.
func TestMeasuredUK(t *testing.T) {
	r := MeasuredUK(24, 30, []quantity.Ampere{32})
	about(t, "peak and charging", r.Total, 56)
	if len(r.Missing) != 0 {
		t.Errorf("missing: %v", r.Missing)
	}
	if r := MeasuredUK(24, 0, nil); len(r.Missing) != 1 {
		t.Errorf("no record: %v", r.Missing)
	}
	if r := MeasuredUK(0, 30, nil); len(r.Missing) != 1 {
		t.Errorf("no peak: %v", r.Missing)
	}
}

func ExampleDiversity() {
	r := Diversity([]job.Load{{Kind: job.Cooker, Amps: 30, WithSocket: job.Yes}, {Kind: job.Sockets, Amps: 32}, {Kind: job.Lighting, Amps: 6}}, []quantity.Ampere{32})
	fmt.Printf("%.1f A before, %.1f A with charging\n", float64(r.Without), float64(r.Total))
	// Output: 57.0 A before, 89.0 A with charging
}
