package charging_test

import (
	"fmt"
	"math"
	"slices"
	"testing"

	"dogbolt/core/books/uk"
	"dogbolt/core/books/us"
	"dogbolt/core/charging"
	"dogbolt/core/demand"
	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// systems are those of two countries: what is tested here asks neither.
var systems = slices.Concat(uk.Practice.Systems, us.Practice.Systems)

func near(t *testing.T, what string, got, want, tolerance float64) {
	t.Helper()
	if math.Abs(got-want) > tolerance {
		t.Errorf("%s: %.3f, want %.3f", what, got, want)
	}
}

// TestPower checks figures of the trade (common practice, no source): 48 A at
// 240 V is about 11.5 kW, 32 A at 230 V 7.4 kW, 3 × 32 A 22 kW, 16 A 3.6 kW.
func TestPower(t *testing.T) {
	for _, c := range []struct {
		i      quantity.Ampere
		u      quantity.Volt
		phases int
		kW     float64
	}{{48, 240, 1, 11.5}, {32, 230, 1, 7.4}, {32, 400, 3, 22}, {16, 230, 1, 3.6}, {40, 240, 1, 9.6}, {16, 400, 3, 11}} {
		near(t, fmt.Sprintf("%g A at %g V", float64(c.i), float64(c.u)), float64(charging.Power(c.i, c.u, c.phases))/1000, c.kW, 0.2)
		if back := charging.Current(charging.Power(c.i, c.u, c.phases), c.u, c.phases); math.Abs(float64(back-c.i)) > 1e-9 {
			t.Errorf("%g A comes back as %g", float64(c.i), float64(back))
		}
	}
}

func TestWindow(t *testing.T) {
	for _, c := range []struct {
		from, to string
		want     float64
	}{{"22:00", "07:00", 9}, {"18:30", "07:30", 13}, {"09:00", "17:00", 8}, {"07:00", "07:00", 24}, {"", "07:00", 0}, {"25:00", "07:00", 0}, {"22:0", "07:00", 0}, {"seven", "07:00", 0}} {
		if got := charging.Window(job.Vehicle{Arrival: c.from, Departure: c.to}); got != c.want {
			t.Errorf("%s to %s: %g h, want %g", c.from, c.to, got, c.want)
		}
	}
}

func free(n int) *int { return &n }

func example() (job.Job, job.Point, demand.Result) {
	j := job.Job{Survey: job.Survey{
		Supply:   job.Supply{System: job.TNCS, Rating: 80},
		Board:    job.Board{Rating: 100, WaysFree: free(2)},
		Vehicles: []job.Vehicle{{Name: "hatchback", OnBoard: 7400, Phases: 1, Energy: 38, Arrival: "22:00", Departure: "07:00"}},
	}}
	return j, job.Point{ID: "A"}, demand.Result{Without: 44, Clause: "OSG appendix A"}
}

func byID(list []charging.Ceiling, id charging.CeilingID) charging.Ceiling {
	for _, c := range list {
		if c.ID == id {
			return c
		}
	}
	return charging.Ceiling{}
}

// TestCeilings: 80 A cutout with 44 A of demand spares 36 A; 7.4 kW takes
// 32 A and rules; 38 kWh in 9 h at 90 % needs 20.4 A.
func TestCeilings(t *testing.T) {
	j, p, d := example()
	list := charging.Ceilings(&j, p, d, systems)
	near(t, "service", byID(list, "service").Amps, 36, 1e-9)
	near(t, "board", byID(list, "board").Amps, 56, 1e-9)
	near(t, "vehicle", byID(list, "vehicle").Amps, 32.17, 0.01)
	near(t, "need", byID(list, "need").Amps, 20.4, 0.01)
	for _, c := range list {
		if c.Rules != (c.ID == "vehicle") || !c.Known {
			t.Errorf("%+v", c)
		}
	}
}

func TestCeilingsThatRule(t *testing.T) {
	j, p, d := example()
	d.Without = 70
	if c := byID(charging.Ceilings(&j, p, d, systems), "service"); !c.Rules || c.Amps != 10 {
		t.Errorf("a full service: %+v", c)
	}
	j, p, d = example()
	j.Survey.Board.WaysFree = free(0)
	if c := byID(charging.Ceilings(&j, p, d, systems), "board"); !c.Rules || c.Amps != 0 || !c.Known {
		t.Errorf("a full board: %+v", c)
	}
	j, p, d = example()
	j.Design.Circuits = []job.Circuit{{Point: "A", Setting: 32}, {Point: "B", Setting: 20}}
	if c := byID(charging.Ceilings(&j, p, d, systems), "service"); c.Amps != 16 || !c.Rules {
		t.Errorf("beside another point: %+v", c)
	}
}

// TestCeilingsUnknown: what is not known is not a ceiling, and never rules.
func TestCeilingsUnknown(t *testing.T) {
	list := charging.Ceilings(&job.Job{}, job.Point{ID: "A"}, demand.Result{Missing: []string{"appliances"}}, systems)
	for _, c := range list {
		if c.Known || c.Rules || c.Note == "" {
			t.Errorf("%+v", c)
		}
	}
}

func TestVehiclePhases(t *testing.T) {
	j, p, d := example()
	j.Survey.Vehicles = []job.Vehicle{{Name: "van", OnBoard: 11000, Phases: 3}}
	near(t, "11 kW three-phase on one phase", byID(charging.Ceilings(&j, p, d, systems), "vehicle").Amps, 15.94, 0.01)
	p.Circuit.Charger.Phases = 3
	near(t, "11 kW three-phase on three", byID(charging.Ceilings(&j, p, d, systems), "vehicle").Amps, 15.88, 0.01)
	j.Survey.Vehicles = []job.Vehicle{{Name: "hatchback", OnBoard: 7400, Phases: 1}}
	near(t, "single-phase on three", byID(charging.Ceilings(&j, p, d, systems), "vehicle").Amps, 32.17, 0.01)
	j.Survey.Supply.System = job.Wye208
	p.Circuit.Charger.Phases = 1
	j.Survey.Vehicles = []job.Vehicle{{Name: "sedan", OnBoard: 9984, Phases: 1}}
	near(t, "on 208 V", byID(charging.Ceilings(&j, p, d, systems), "vehicle").Amps, 48, 0.01)
}

// TestPowerDrawn: the least of setting and on-board charger, on the phases both
// have (common practice; IEC 61851-1).
func TestPowerDrawn(t *testing.T) {
	plain := &job.Supply{System: job.TNCS}
	for _, c := range []struct {
		name            string
		setting         quantity.Ampere
		phases, vehicle int
		onBoard         quantity.Watt
		want            float64
	}{
		{"7.36 kW wall unit, 7.4 kW car", 32, 1, 1, 7400, 7360},
		{"the car is the limit", 32, 1, 1, 3700, 3700},
		{"11 kW car on 22 kW", 32, 3, 3, 11000, 11000},
		{"11 kW three-phase car on one phase", 32, 1, 3, 11000, 11000.0 / 3},
		{"single-phase car on three phases", 32, 3, 1, 7400, 7360},
	} {
		t.Run(c.name, func(t *testing.T) {
			ct := &job.Circuit{Setting: c.setting, Charger: job.Charger{Phases: c.phases}}
			if got := charging.Drawn(job.Vehicle{OnBoard: c.onBoard, Phases: c.vehicle}, ct, plain, systems); math.Abs(float64(got)-c.want) > 0.5 {
				t.Errorf("%s: %.0f W, want %.0f", c.name, float64(got), c.want)
			}
		})
	}
}

// TestHoursOfTheTrade: figures that the trade quotes (common practice, no source).
func TestHoursOfTheTrade(t *testing.T) {
	for _, c := range []struct {
		name      string
		energy    float64
		drawn     quantity.Watt
		low, high float64
	}{
		{"40 kWh at 2.3 kW takes about 17 h, without losses", 40 * charging.Efficiency, 2300, 17, 18},
		{"40 kWh at 7 kW takes about 6 h", 40 * charging.Efficiency, 7000, 5.5, 6.5},
		{"50 to 80 % of 82 kWh at 7.4 kW takes 3½ to 4 h", 0.3 * 82, 7400, 3.5, 4},
		{"0 to 100 % of 82 kWh at 7.4 kW: 12.3 h at 90 %", 82, 7400, 12.25, 12.35},
	} {
		t.Run(c.name, func(t *testing.T) {
			if got := charging.Hours(c.energy, c.drawn); got < c.low || got > c.high {
				t.Errorf("%s: %.2f h", c.name, got)
			}
		})
	}
}

// TestTariffCost is worked out by hand: 30 kWh into the battery are 33.33 kWh
// drawn, at 7.2 kW 4 h 37.8 min.
func TestTariffCost(t *testing.T) {
	two := charging.Tariff{Day: 0.30, Night: 0.08, From: 30, To: 330} // 00:30 to 05:30
	drawn := 30 / charging.Efficiency
	for _, c := range []struct {
		name        string
		t           charging.Tariff
		from, to    int
		wait        bool
		cost, short float64
	}{
		{"flat", charging.Tariff{Day: 0.25}, 19 * 60, 7 * 60, false, drawn * 0.25, 0},
		{"two rates, at once: all before midnight", two, 19 * 60, 7 * 60, false, drawn * 0.30, 0},
		{"two rates, waiting: all in the night", two, 19 * 60, 7 * 60, true, drawn * 0.08, 0},
		{"from 23:00: 1.5 h by day, the rest by night", two, 23 * 60, 7 * 60, false, 1.5*7.2*0.30 + (drawn-1.5*7.2)*0.08, 0},
		{"two hours only", charging.Tariff{Day: 0.25}, 60, 180, false, 14.4 * 0.25, 30 - 14.4*charging.Efficiency},
		{"waiting with too short a night", charging.Tariff{Day: 0.30, Night: 0.08, From: 0, To: 120}, 23 * 60, 7 * 60, true, 14.4*0.08 + (drawn-14.4)*0.30, 0},
	} {
		t.Run(c.name, func(t *testing.T) {
			cost, short := c.t.Cost(30, 7200, c.from, c.to, c.wait)
			if math.Abs(cost-c.cost) > 1e-9 || math.Abs(short-c.short) > 1e-9 {
				t.Errorf("%s: %.4f, short of %.3f kWh; want %.4f, %.3f", c.name, cost, short, c.cost, c.short)
			}
		})
	}
	if (charging.Tariff{Day: 1, Night: 2, From: 22 * 60, To: 6 * 60}).At(23*60+1440) != 2 {
		t.Error("a night across midnight")
	}
}

// TestBreakEven: at the break-even share both tariffs cost the same in a year.
func TestBreakEven(t *testing.T) {
	for _, c := range []struct{ flat, day, night, car, house, share float64 }{
		{0.245, 0.29, 0.08, 2500, 3100, 0.25}, {0.17, 0.21, 0.09, 4000, 9000, 0.3}, {0.25, 0.27, 0.07, 1000, 3000, 0.2},
	} {
		x := charging.BreakEven(c.flat, c.day, c.night, c.car, c.house, c.share)
		h := c.house * c.share
		two := c.night*(x*c.car+h) + c.day*((1-x)*c.car+c.house-h)
		if flat := c.flat * (c.car + c.house); math.Abs(two-flat) > 1e-9 {
			t.Errorf("%+v: at %.3f two rates cost %.2f, flat %.2f", c, x, two, flat)
		}
	}
	// Without a house the share is (day − flat) ÷ (day − night).
	if x := charging.BreakEven(0.25, 0.30, 0.10, 2000, 0, 0); math.Abs(x-0.25) > 1e-12 {
		t.Errorf("car alone: %.3f, want 0.25", x)
	}
	if !math.IsInf(charging.BreakEven(0.2, 0.3, 0.1, 0, 3000, 0), 1) {
		t.Error("no car: never")
	}
}

// TestPerDistance: 17.2 p/kWh is about 5 p a mile, 5 p about 1.5 p, and 45 mpg at
// 139 p a litre about 14 p (common practice, no source).
func TestPerDistance(t *testing.T) {
	const mile, gallon = 1.609344, 4.54609
	j := &job.Job{Design: job.Design{Money: job.Money{Flat: 0.172, Day: 0.2, Night: 0.05, NightFrom: "00:30", NightTo: "04:30", Distance: 16000, KmPerKWh: 3.8 * mile, Fuel: 1.39, KmPerLitre: 45 * mile / gallon}}}
	j.Survey.Vehicles = []job.Vehicle{{Name: "hatchback", OnBoard: 7400, Phases: 1, Energy: 19, Arrival: "18:00", Departure: "07:00"}}
	c := charging.Compare(j, job.Point{Circuit: job.Circuit{Setting: 32}}, systems)
	for what, v := range map[string][3]float64{
		"flat": {c.FlatPerKm * mile * 100, 4.8, 5.2}, "night": {c.NightPerKm * mile * 100, 1.4, 1.6}, "fuel": {c.FuelPerKm * mile * 100, 13.9, 14.2},
		"miles an hour": {c.Sums[0].Gain / mile, 21, 26},
	} {
		t.Run(what, func(t *testing.T) {
			if v[0] < v[1] || v[0] > v[2] {
				t.Errorf("%s: %.2f, want %g to %g", what, v[0], v[1], v[2])
			}
		})
	}
	if len(c.Missing) != 0 || c.BreakEven == nil || c.Working == "" || c.Sums[0].Waiting >= c.Sums[0].AtOnce {
		t.Errorf("%+v", c)
	}
	if c := charging.Compare(&job.Job{}, job.Point{}, systems); len(c.Missing) != 6 || c.BreakEven != nil {
		t.Errorf("nothing known: %+v", c)
	}
}

// TestBoardCeilingAsksTheMap: a full board that takes the breaker after moves has
// room, whatever the count of free ways says.
func TestBoardCeilingAsksTheMap(t *testing.T) {
	none := 0
	j := &job.Job{}
	j.Survey.Supply = job.Supply{System: job.Split240, Rating: 125}
	j.Survey.Board = job.Board{Rating: 125, WaysFree: &none, FreePair: job.No, Layout: "columns", Ways: 4, DoublesAt: []int{2, 4},
		Slots: []job.Slot{{At: 1, Circuit: "a"}, {At: 2, Circuit: "b"}, {At: 3, Circuit: "c"}, {At: 4, Circuit: "d"}}}
	for doubles, want := range map[int]float64{2: 85, 0: 0} {
		j.Survey.Board.DoublesAt = j.Survey.Board.DoublesAt[:doubles]
		c := charging.Ceilings(j, job.Point{}, demand.Result{Without: 40}, systems)[1]
		if !c.Known || c.Amps != want {
			t.Errorf("%d doubles allowed: %+v, want %g A", doubles, c, want)
		}
		j.Survey.Board.DoublesAt = []int{2, 4}
	}
}

// TestCeilingsOfASubMain: what is drawn over a sub-main is bounded by service and board; vehicles are those of its chargers' jobs.
func TestCeilingsOfASubMain(t *testing.T) {
	p := job.Point{ID: "A", Circuit: job.Circuit{Point: "A", Connection: job.IntoBoard}}
	j := job.Job{Design: job.Design{Circuits: []job.Circuit{p.Circuit}}, Survey: job.Survey{Places: []job.Place{{Point: "A"}}}}
	if list := charging.Ceilings(&j, p, demand.Result{}, systems); len(list) != 2 || list[0].ID != charging.ByService || list[1].ID != charging.ByBoard {
		t.Errorf("%+v", list)
	}
}
