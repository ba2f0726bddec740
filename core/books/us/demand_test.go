package us

import (
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

// squareMetres of a floor area in ft².
func squareMetres(ft2 float64) float64 { return ft2 * 0.3048 * 0.3048 }

// legs is a service of 120/240 V.
var legs = Service{Volts: 240, Phases: 1}

// ev is one charging point of so many amperes at 240 V.
func ev(a quantity.Ampere) []Point {
	return []Point{point(&job.Supply{System: job.Split240}, a, 1, MinimumEV)}
}

// TestExistingExample works 220.83(A) by hand for an existing dwelling in the
// manner of NEC annex D, example D2(c) (from memory): 1500 ft² at 3 VA, two
// small-appliance circuits, laundry, a 12 kW range and a 5 kW dryer.
//
//	4500 + 3000 + 1500 + 12000 + 5000 = 26 000 VA
//	8000 + 0.4 × 18 000 = 15 200 VA; at 240 V 63.3 A
func TestExistingExample(t *testing.T) {
	d := job.Dwelling{FloorArea: squareMetres(1500), KitchenCct: 2, LaundryCct: 1}
	loads := []job.Load{{Kind: job.Cooker, Power: 12000}, {Kind: job.Dryer, Power: 5000}}
	about(t, "without charging", Existing(d, loads, legs, nil, false).Without, 63.33)
	// 48 A × 240 V = 11 520 VA at 100 % beside the sum: + 48 A.
	about(t, "charging at 100 %", Existing(d, loads, legs, ev(48), false).Total, 111.33)
	// Inside the 40 % part: + 0.4 × 48 A.
	about(t, "charging in the 40 % part", Existing(d, loads, legs, ev(48), true).Total, 82.53)
	// A 16 A point counts 7200 VA, 30 A (220.57).
	about(t, "a small point counts 7200 VA", Existing(d, loads, legs, ev(16), false).Total, 93.33)
}

// TestExistingHeatAndCool: with nothing added, only the larger of existing
// heating and cooling is in the sum.
func TestExistingHeatAndCool(t *testing.T) {
	d := job.Dwelling{FloorArea: squareMetres(1500)}
	base := Existing(d, []job.Load{{Kind: job.Dryer, Power: 5000}}, legs, nil, false).Without
	both := Existing(d, []job.Load{{Kind: job.Dryer, Power: 5000}, {Kind: job.Heating, Power: 6000}, {Kind: job.Cooling, Power: 4000}}, legs, nil, false).Without
	about(t, "the larger, 6 kVA at 40 %", both-base, 0.4*6000/240)
}

// TestSmallHouseUnderEight: the first 8 kVA count in full.
func TestSmallHouseUnderEight(t *testing.T) {
	r := Existing(job.Dwelling{FloorArea: squareMetres(500)}, []job.Load{{Kind: job.Lighting, Amps: 10}}, legs, nil, false)
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
	r := Optional(d, loads, 200, legs, nil, false)
	about(t, "example D2(a)", r.Without, 21480.0/240)
	about(t, "with 48 A at 100 %", Optional(d, loads, 200, legs, ev(48), false).Total, 21480.0/240+48)
	about(t, "with 48 A in the 40 % part", Optional(d, loads, 200, legs, ev(48), true).Total, 21480.0/240+0.4*48)
	if r := Optional(d, loads, 60, legs, nil, false); len(r.Missing) != 1 {
		t.Errorf("a 60 A service: %v", r.Missing)
	}
	// Three units count 65 %; more cooling than counted heat counts in full.
	few := append(loads[:5:5], job.Load{Kind: job.Heating, Power: 9000})
	about(t, "one unit at 65 %", Optional(d, few, 200, legs, nil, false).Without, (17880.0+0.65*9000)/240)
	four := loads[:5:5]
	for range 4 {
		four = append(four, job.Load{Kind: job.Heating, Power: 2250})
	}
	about(t, "four units at 40 %", Optional(d, four, 200, legs, nil, false).Without, (17880.0+0.40*9000)/240)
	three := four[:8:8]
	about(t, "three units at 65 %", Optional(d, three, 200, legs, nil, false).Without, (17880.0+0.65*6750)/240)
	if r := Optional(d, loads, 100, legs, nil, false); len(r.Missing) != 0 {
		t.Errorf("a service of exactly 100 A: %v", r.Missing)
	}
	if r := Optional(d, loads, 99, legs, nil, false); len(r.Missing) != 1 {
		t.Errorf("a service of 99 A: %v", r.Missing)
	}
	two := append(ev(48), ev(32)...)
	about(t, "two points in the 40 % part", Optional(d, loads, 200, legs, two, true).Total, 21480.0/240+0.4*(48+32))
	cold := append(loads[:4:4], job.Load{Kind: job.Cooling, Power: 7000}, job.Load{Kind: job.Heating, Power: 5000})
	about(t, "cooling at 100 %", Optional(d, cold, 200, legs, nil, false).Without, (17880.0+7000)/240)
}

// TestHeatPumpExample reproduces the NEC's annex D, example D2(c) (from memory):
// 2000 ft², 12 kW range, 4.5 kW water heater, 1.2 kW dishwasher, 5 kW dryer, a heat pump
// of 24 A at 240 V with 15 kW of supplementary heat, which runs beside it.
//
//	33 200 VA: 10 000 + 0.4 × 23 200 = 19 280 VA; heat 5760 + 0.65 × 15 000 = 15 510 VA
//	34 790 VA at 240 V: 145 A
func TestHeatPumpExample(t *testing.T) {
	d := job.Dwelling{FloorArea: squareMetres(2000), KitchenCct: 2, LaundryCct: 1}
	loads := []job.Load{{Kind: job.Cooker, Power: 12000}, {Kind: job.StoredHW, Power: 4500}, {Kind: job.OtherFixed, Power: 1200}, {Kind: job.Dryer, Power: 5000}, {Kind: job.HeatPump, Power: 5760}, {Kind: job.Heating, Power: 15000}}
	about(t, "example D2(c)", Optional(d, loads, 200, legs, nil, false).Without, 34790.0/240)
	about(t, "the pump alone", Optional(d, loads[:5], 200, legs, nil, false).Without, (19280.0+5760)/240)
	// By 220.83 both are inside the sum: 53 960 VA, 8000 + 0.4 × 45 960.
	about(t, "an existing house", Existing(d, loads, legs, nil, false).Without, (8000+0.4*45960)/240)
}

// TestMeasured checks 220.87: 125 % of the peak plus the charging load.
func TestMeasured(t *testing.T) {
	r := Measured(60, 365, job.No, legs, ev(48))
	about(t, "without", r.Without, 75)
	about(t, "with", r.Total, 123)
	if len(r.Missing) != 0 {
		t.Errorf("missing: %v", r.Missing)
	}
	about(t, "a small point", Measured(60, 365, job.No, legs, ev(16)).Total, 105)
	for _, c := range []struct {
		days  int
		solar job.Answer
		bad   bool
	}{{29, job.No, true}, {30, job.No, false}, {30, job.Yes, true}, {30, job.Unasked, true}, {365, job.Yes, false}, {365, job.Unasked, false}} {
		if r := Measured(60, c.days, c.solar, legs, nil); (len(r.Missing) > 0) != c.bad {
			t.Errorf("%d days, solar %q: missing %v", c.days, c.solar, r.Missing)
		}
	}
	if r := Measured(0, 365, job.No, legs, nil); len(r.Missing) != 1 {
		t.Errorf("no peak: %v", r.Missing)
	}
}

func TestMissing(t *testing.T) {
	if r := Existing(job.Dwelling{}, []job.Load{{Kind: job.Dryer, Power: 5000}}, legs, nil, false); len(r.Missing) != 1 || r.Missing[0] != "floor area" {
		t.Errorf("missing: %v", r.Missing)
	}
}

// TestServiceOf208: VA ÷ 208 on two legs of a 208Y/120 V service, and ÷ (√3 × 208) on
// its three phases (arithmetic). 15 200 VA are 73.1 A and 42.2 A; a point of 48 A at
// 208 V is 9984 VA, 48 A and 27.7 A.
func TestServiceOf208(t *testing.T) {
	j := &job.Job{}
	j.Survey.Dwelling = job.Dwelling{FloorArea: squareMetres(1500), KitchenCct: 2, LaundryCct: 1}
	j.Survey.Loads = []job.Load{{Kind: job.Cooker, Power: 12000}, {Kind: job.Dryer, Power: 5000}}
	j.Design.Circuits = []job.Circuit{{Point: "A", Setting: 48, Charger: job.Charger{Phases: 1}}}
	for _, c := range []struct {
		name           string
		supply         job.Supply
		charger        int
		without, total float64
	}{
		{"split phase", job.Supply{System: job.Split240, Phases: 1}, 1, 15200.0 / 240, 15200.0/240 + 48},
		{"not known: as split phase", job.Supply{}, 1, 15200.0 / 240, 15200.0/240 + 48},
		{"two legs of a wye", job.Supply{System: job.Wye208, Phases: 1}, 1, 15200.0 / 208, 15200.0/208 + 48},
		{"three phases", job.Supply{System: job.Wye208, Phases: 3}, 1, 15200.0 / 360.27, (15200.0 + 9984) / 360.27},
		{"a charger of three phases", job.Supply{System: job.Wye208, Phases: 3}, 3, 15200.0 / 360.27, 15200.0/360.27 + 48},
	} {
		t.Run(c.name, func(t *testing.T) {
			j.Survey.Supply, j.Design.Circuits[0].Charger.Phases = c.supply, c.charger
			r := Demand(j)
			about(t, "without", r.Without, c.without)
			about(t, "total", r.Total, c.total)
		})
	}
	// A measured peak is in amperes; the point still counts by its voltage.
	j.Survey.Supply = job.Supply{System: job.Wye208, Phases: 1, PeakDemand: 60, PeakDays: 365, PeakMinutes: 15, OtherSource: job.No}
	j.Design.Circuits[0] = job.Circuit{Point: "A", Setting: 16, Charger: job.Charger{Phases: 1}}
	about(t, "7200 VA at 208 V", Demand(j).Total, 75+7200.0/208)
}

// TestOutletCounts: an outlet without a charger counts what its breaker carries for long, whatever it is said to be for: nothing else
// bounds what will hang on it (210.20(A): 80 %).
func TestOutletCounts(t *testing.T) {
	for _, c := range []struct {
		fate         job.Fate
		set, breaker quantity.Ampere
		want         quantity.Ampere
	}{
		{job.FateNone, 16, 50, 40}, {job.FateNone, 40, 50, 40}, {job.FateNone, 48, 50, 48}, {"", 16, 50, 16},
	} {
		circuit := job.Circuit{Connection: job.PluggedIn, Guarded: job.Yes, Setting: c.set, Breaker: job.Breaker{Rating: c.breaker}, Charger: job.Charger{Fate: c.fate}}
		if got := counts(&circuit); got != c.want {
			t.Errorf("set to %g on %g A, %q: counts %g, want %g", float64(c.set), float64(c.breaker), c.fate, float64(got), float64(c.want))
		}
	}
}
