package uk

import (
	"fmt"
	"strings"
	"testing"

	"dogbolt/core/clearance"
	"dogbolt/core/job"
)

// TestOperator: 60 A a phase and the cutout, by the operators' common terms
// (reference values A5, from memory).
func TestOperator(t *testing.T) {
	sound := clearance.Demand{Total: 56, Cutout: 100, Known: true, Sound: job.Yes, Largest: 32}
	for _, c := range []struct {
		name   string
		change func(*clearance.Demand)
		route  clearance.Route
		words  string
	}{
		{"56 A of 100 A", func(*clearance.Demand) {}, "notify-after", "28 days"},
		{"60 A exactly", func(d *clearance.Demand) { d.Total = 60 }, "notify-after", "60.0 A"},
		{"just above", func(d *clearance.Demand) { d.Total = 60.1 }, "apply-before", "13.8 kVA"},
		{"above a small cutout", func(d *clearance.Demand) { d.Total, d.Cutout = 58, 40 }, "apply-before", "40 A cutout"},
		{"service looks doubtful", func(d *clearance.Demand) { d.Sound = job.No }, "apply-before", "doubtful"},
		{"charger of 63 A", func(d *clearance.Demand) { d.Largest = 63; d.Total = 60 }, "apply-before", "63 A"},
		{"condition not looked at", func(d *clearance.Demand) { d.Sound = job.Unasked }, "", "condition"},
		{"doubtful decides even where the demand is high", func(d *clearance.Demand) { d.Sound, d.Total = job.No, 90 }, "apply-before", "doubtful"},
		{"not known", func(d *clearance.Demand) { d.Known = false }, "", "not known"},
		{"no cutout", func(d *clearance.Demand) { d.Cutout = 0 }, "", "not known"},
	} {
		t.Run(c.name, func(t *testing.T) {
			d := sound
			c.change(&d)
			if route, why := operatorRoute(d); route != c.route || !strings.Contains(why, c.words) {
				t.Errorf("%s: %q, %q; want %q, %q", c.name, route, why, c.route, c.words)
			}
		})
	}
}

func Example_operatorRoute() {
	route, reason := operatorRoute(clearance.Demand{Total: 61, Cutout: 100, Known: true, Sound: job.Yes})
	fmt.Println(route+":", reason)
	// Output: apply-before: 61.0 A per phase is more than 60 A (13.8 kVA)
}

// TestBuildingControl: who is not registered tells building control before the work (Building Regulations 2010,
// regulation 12(6) and (6A), from memory), who is has 30 days after it.
func TestBuildingControl(t *testing.T) {
	for needed, want := range map[job.Answer]job.Before{job.Unasked: job.After, job.Yes: job.After, job.No: job.BeforeInstalling} {
		j := job.Job{Clearances: job.Clearances{Papers: []job.Paper{{ID: "installer", Needed: needed, Reason: "not registered"}}}}
		p := buildingControl(&j)
		if p.Before != want || p.Needed != job.Yes {
			t.Errorf("look-up needed %q: %+v", needed, p)
		}
		if want == job.BeforeInstalling && (p.WaitLow != 2 || p.WaitHigh != 5*7) { // two clear days, five weeks
			t.Errorf("it waits %d to %d days", p.WaitLow, p.WaitHigh)
		}
	}
	board := job.Job{Design: job.Design{Beside: job.Beside{Fitted: job.Yes, Instead: job.Yes}}}
	if p := buildingControl(&board); p.Needed != job.Yes || !strings.Contains(p.Reason, "another consumer unit") { // regulation 12(6A)(b), from memory
		t.Errorf("a board replaced: %+v", p)
	}
	kept := job.Job{Design: job.Design{Circuits: []job.Circuit{{Point: "A", Existing: job.Yes}, {Point: "B"}}}}
	if p := buildingControl(&kept); p.Needed != job.Yes {
		t.Errorf("one new circuit beside one that is kept: %+v", p)
	}
	kept.Design.Circuits = kept.Design.Circuits[:1]
	if p := buildingControl(&kept); p.Needed != job.No || p.Reason == "" {
		t.Errorf("a replacement: %+v", p)
	}
}

// TestOperatorByKind: a removal is told; a repair that may let more be drawn is asked or told as any charger, of one that does not a person
// says whether the operator knows of it. Common practice of the operators, from memory.
func TestOperatorByKind(t *testing.T) {
	high := clearance.Demand{Total: 80, Cutout: 100, Known: true, Sound: job.Yes, Largest: 32}
	there := job.Circuit{Point: "A", Existing: job.Yes, Setting: 32}
	for _, c := range []struct {
		name   string
		change func(*job.Circuit)
		needed job.Answer
		before job.Before
	}{
		{"a replacement", func(*job.Circuit) {}, job.Yes, job.BeforeEnergising},
		{"a contactor", func(c *job.Circuit) { c.Charger.Fate, c.Mended.Part = job.FateKept, job.MendedContactor }, job.Unasked, job.After},
		{"another setting", func(c *job.Circuit) { c.Charger.Fate, c.Mended.Part = job.FateKept, job.MendedSetting }, job.Yes, job.BeforeEnergising},
		{"another breaker", func(c *job.Circuit) { c.Charger.Fate, c.Breaker.Fate = job.FateKept, job.FateReplaced }, job.Yes, job.BeforeEnergising},
		{"taken away", func(c *job.Circuit) { c.Charger.Fate, c.Setting = job.FateTakenOut, 0 }, job.Yes, job.After},
	} {
		k := there
		c.change(&k)
		j := &job.Job{Survey: job.Survey{Places: []job.Place{{Point: "A"}}}, Design: job.Design{Circuits: []job.Circuit{k}}}
		for _, a := range papers(j, high) {
			if p := a.Paper; p.ID == "operator" && (p.Needed != c.needed || p.Before != c.before) {
				t.Errorf("%s: needed %q, before %s: %s", c.name, p.Needed, p.Before, p.Reason)
			}
		}
	}
}
