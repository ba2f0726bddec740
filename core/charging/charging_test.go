package charging

import (
	"fmt"
	"math"
	"testing"

	"dogbolt/core/demand"
	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

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
		near(t, fmt.Sprintf("%g A at %g V", float64(c.i), float64(c.u)), float64(Power(c.i, c.u, c.phases))/1000, c.kW, 0.2)
		if back := Current(Power(c.i, c.u, c.phases), c.u, c.phases); math.Abs(float64(back-c.i)) > 1e-9 {
			t.Errorf("%g A comes back as %g", float64(c.i), float64(back))
		}
	}
}

func TestWindow(t *testing.T) {
	for _, c := range []struct {
		from, to string
		want     float64
	}{{"22:00", "07:00", 9}, {"18:30", "07:30", 13}, {"09:00", "17:00", 8}, {"07:00", "07:00", 24}, {"", "07:00", 0}, {"25:00", "07:00", 0}, {"22:0", "07:00", 0}, {"seven", "07:00", 0}} {
		if got := Window(job.Vehicle{Arrival: c.from, Departure: c.to}); got != c.want {
			t.Errorf("%s to %s: %g h, want %g", c.from, c.to, got, c.want)
		}
	}
}

func free(n int) *int { return &n }

func example() (job.Job, job.Point, demand.Result) {
	j := job.Job{Survey: job.SurveySheet{
		Supply:   job.Supply{System: job.TNCS, Rating: 80},
		Board:    job.Board{Rating: 100, WaysFree: free(2)},
		Vehicles: []job.Vehicle{{Name: "hatchback", OnBoard: 7400, Phases: 1, Energy: 38, Arrival: "22:00", Departure: "07:00"}},
	}}
	return j, job.Point{ID: "A"}, demand.Result{Without: 44, Clause: "OSG appendix A"}
}

func byID(list []Ceiling, id string) Ceiling {
	for _, c := range list {
		if c.ID == id {
			return c
		}
	}
	return Ceiling{}
}

// TestCeilings: 80 A cutout with 44 A of demand spares 36 A; 7.4 kW takes
// 32 A and rules; 38 kWh in 9 h at 90 % needs 20.4 A.
func TestCeilings(t *testing.T) {
	j, p, d := example()
	list := Ceilings(&j, p, d)
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
	if c := byID(Ceilings(&j, p, d), "service"); !c.Rules || c.Amps != 10 {
		t.Errorf("a full service: %+v", c)
	}
	j, p, d = example()
	j.Survey.Board.WaysFree = free(0)
	if c := byID(Ceilings(&j, p, d), "board"); !c.Rules || c.Amps != 0 || !c.Known {
		t.Errorf("a full board: %+v", c)
	}
	j, p, d = example()
	j.Design.Circuits = []job.Circuit{{Point: "A", Setting: 32}, {Point: "B", Setting: 20}}
	if c := byID(Ceilings(&j, p, d), "service"); c.Amps != 16 || !c.Rules {
		t.Errorf("beside another point: %+v", c)
	}
}

// TestCeilingsUnknown: what is not known is not a ceiling, and never rules.
func TestCeilingsUnknown(t *testing.T) {
	list := Ceilings(&job.Job{}, job.Point{ID: "A"}, demand.Result{Missing: []string{"appliances"}})
	for _, c := range list {
		if c.Known || c.Rules || c.Note == "" {
			t.Errorf("%+v", c)
		}
	}
}

func TestVehiclePhases(t *testing.T) {
	j, p, d := example()
	j.Survey.Vehicles = []job.Vehicle{{Name: "van", OnBoard: 11000, Phases: 3}}
	near(t, "11 kW three-phase on one phase", byID(Ceilings(&j, p, d), "vehicle").Amps, 15.94, 0.01)
	p.Circuit.Charger.Phases = 3
	near(t, "11 kW three-phase on three", byID(Ceilings(&j, p, d), "vehicle").Amps, 15.88, 0.01)
	j.Survey.Vehicles = []job.Vehicle{{Name: "hatchback", OnBoard: 7400, Phases: 1}}
	near(t, "single-phase on three", byID(Ceilings(&j, p, d), "vehicle").Amps, 32.17, 0.01)
	j.Survey.Supply.System = job.Wye208
	p.Circuit.Charger.Phases = 1
	j.Survey.Vehicles = []job.Vehicle{{Name: "sedan", OnBoard: 9984, Phases: 1}}
	near(t, "on 208 V", byID(Ceilings(&j, p, d), "vehicle").Amps, 48, 0.01)
}
