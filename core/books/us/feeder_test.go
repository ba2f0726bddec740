package us

import (
	"slices"
	"testing"

	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/route"
	"dogbolt/core/worklog"
	"dogbolt/internal/testkit/ruletest"
)

// fed makes the point's circuit a feeder to a panel in the same building, with its changes.
func fed(changes ...func(c *job.Circuit, p *job.Place, j *job.Job)) change {
	return func(j *job.Job) {
		c, p, none := &j.Design.Circuits[0], &j.Survey.Places[0], quantity.Ampere(0)
		c.Connection, c.Charger = job.IntoBoard, job.Charger{Fate: job.FateNone, Phases: 1, Terminals: 75}
		c.Dedicated, c.Guarded = "", ""
		c.End = job.End{Ways: 12, Rating: 125, BreakingKA: 10, Other: &none, Space: job.Yes, Handle: quantity.Inches(66), Neutral: job.Yes}
		p.Name = "workshop wall"
		for _, f := range changes {
			f(c, p, j)
		}
	}
}

func endIs(f func(e *job.End)) func(*job.Circuit, *job.Place, *job.Job) {
	return func(c *job.Circuit, _ *job.Place, _ *job.Job) { f(&c.End) }
}

// workshop puts the panel into a building of its own.
func workshop(c *job.Circuit, p *job.Place, _ *job.Job) {
	p.Detached, p.OtherSupply, c.End.Disconnect, c.End.Electrode = job.Yes, job.No, job.Yes, job.Yes
}

// feeders are cases of a feeder. 215, 225, 250.32, 404.8 and 408.36 of NEC 2023: from memory.
var feeders = []row{
	{"a charger's circuit is none", none, "feeder", "", ""},
	{"a feeder in the house", fed(), "feeder", sound, "panel of 12 spaces, 125 A bus behind 60 A"},
	{"which building is not known", fed(func(_ *job.Circuit, p *job.Place, _ *job.Job) { p.Detached = "" }), "feeder", open, "building apart"},
	{"load not known", fed(func(c *job.Circuit, _ *job.Place, _ *job.Job) { c.Setting = 0 }), "feeder", open, "drawn over"},
	{"bus of 60 A behind 60 A", fed(endIs(func(e *job.End) { e.Rating = 60 })), "feeder", sound, ""},
	{"bus of 59 A behind 60 A", fed(endIs(func(e *job.End) { e.Rating = 59 })), "feeder", stop, "larger board"},
	{"room in front not asked", fed(endIs(func(e *job.End) { e.Space = "" })), "feeder", open, "room to work"},
	{"no room in front", fed(endIs(func(e *job.End) { e.Space = job.No })), "feeder", stop, ""},
	{"handle not measured", fed(endIs(func(e *job.End) { e.Handle = 0 })), "feeder", open, "handle"},
	{"handle at 79 in", fed(endIs(func(e *job.End) { e.Handle = quantity.Inches(79) })), "feeder", sound, ""},
	{"handle at 80 in", fed(endIs(func(e *job.End) { e.Handle = quantity.Inches(80) })), "feeder", stop, "at the end lower"},
	{"outdoors, type not known", fed(func(_ *job.Circuit, p *job.Place, _ *job.Job) { p.Outdoors = job.Yes }), "feeder", open, "3R"},
	{"outdoors, type 1", fed(func(c *job.Circuit, p *job.Place, _ *job.Job) { p.Outdoors, c.End.Enclosure = job.Yes, "1" }), "feeder", stop, "110.28"},
	{"outdoors, type 3R", fed(func(c *job.Circuit, p *job.Place, _ *job.Job) { p.Outdoors, c.End.Enclosure = job.Yes, "3R" }), "feeder", sound, ""},
	{"neutral not asked", fed(endIs(func(e *job.End) { e.Neutral = "" })), "feeder", open, "neutral"},
	{"neutral on the ground", fed(endIs(func(e *job.End) { e.Neutral = job.No })), "feeder", stop, "bonding screw"},
	{"workshop", fed(workshop), "feeder", sound, "disconnect and electrode"},
	{"workshop, another supply not asked", fed(workshop, func(_ *job.Circuit, p *job.Place, _ *job.Job) { p.OtherSupply = "" }), "feeder", open, "already"},
	{"workshop, another supply", fed(workshop, func(_ *job.Circuit, p *job.Place, _ *job.Job) { p.OtherSupply = job.Yes }), "feeder", stop, "225.30"},
	{"workshop, disconnect not asked", fed(workshop, endIs(func(e *job.End) { e.Disconnect = "" })), "feeder", open, "disconnect"},
	{"workshop, no disconnect", fed(workshop, endIs(func(e *job.End) { e.Disconnect = job.No })), "feeder", stop, "225.31"},
	{"workshop, electrode not asked", fed(workshop, endIs(func(e *job.End) { e.Electrode = "" })), "feeder", open, "electrode"},
	{"workshop, no electrode", fed(workshop, endIs(func(e *job.End) { e.Electrode = job.No })), "feeder", stop, "250.32(A)"},
	{"in the house neither is asked", fed(endIs(func(e *job.End) { e.Disconnect, e.Electrode = "", "" })), "feeder", sound, ""},
	{"10 kA breakers at 22 kA", fed(func(_ *job.Circuit, _ *job.Place, j *job.Job) { j.Survey.Supply.FaultCurrent = 22 }), "feeder", stop, "22.00 kA available by the utility"},
	{"22 kA breakers at 22 kA", fed(endIs(func(e *job.End) { e.BreakingKA = 22 }), func(_ *job.Circuit, _ *job.Place, j *job.Job) { j.Survey.Supply.FaultCurrent = 22 }), "feeder", sound, ""},
	{"a service of 400 A, fault current not known", fed(func(_ *job.Circuit, _ *job.Place, j *job.Job) { j.Survey.Supply.Rating = 400 }), "feeder", open, "ask the utility"},
	{"workshop, its old panel stays and its old feeder goes", fed(workshop, func(c *job.Circuit, p *job.Place, _ *job.Job) { p.OtherSupply, c.End.Fate = job.Yes, job.FateKept }), "feeder", sound, ""},
	{"what a new panel feeds", fed(), "behind", "", ""},
	{"what a panel that was there feeds, not tested", fed(endIs(func(e *job.End) { e.Fate = job.FateReplaced })), "behind", open, ""},
	{"what a panel that was there feeds, not sound", both(fed(endIs(func(e *job.End) { e.Fate = job.FateKept })), ruletest.Read(commission.Behind, "not sound")), "behind", stop, ""},
	// UL 489: carries its rating, opens for certain at 1.35 times. From memory.
	{"60 A behind 200 A", fed(), "in-turn", sound, "60 A: opens for certain at 81.0 A (× 1.35); the service's device, 200 A, holds 200.0 A"},
	{"60 A behind 81 A, to the ampere", fed(func(_ *job.Circuit, _ *job.Place, j *job.Job) { j.Survey.Supply.Rating = 81 }), "in-turn", sound, ""},
	{"60 A behind 80 A", fed(func(_ *job.Circuit, _ *job.Place, j *job.Job) { j.Survey.Supply.Rating = 80 }), "in-turn", watch, "may open first"},
	// Other rules of a feeder.
	{"breaker at 125 % of the load", fed(func(c *job.Circuit, _ *job.Place, _ *job.Job) { c.Setting = 49 }), "breaker", stop, "61.25 A"},
	{"the load is asked, not a setting", fed(func(c *job.Circuit, _ *job.Place, _ *job.Job) { c.Setting = 0 }), "breaker", open, "drawn over the sub-main"},
	{"terminals at its end not known", fed(func(c *job.Circuit, _ *job.Place, _ *job.Job) { c.Charger.Terminals = 0 }), "terminal-ampacity", open, "at the board at the end"},
	{"no rule of charging points: load", fed(), "ev-load", "", ""},
	{"no rule of charging points: disconnect", fed(), "disconnect", "", ""},
	{"no rule of charging points: ground-fault protection", fed(), "receptacle-gfci", "", ""},
	{"no rule of charging points: another building", fed(workshop), "detached", "", ""},
	{"no rule of charging points: vehicle", both(fed(), func(j *job.Job) { j.Survey.Vehicles = nil }), "vehicles", "", ""},
	{"demand says what it is", fed(), "demand", sound, "over the sub-main"},
	{"three wires of 4 AWG and the ground are too much for ¾ in", fed(func(c *job.Circuit, p *job.Place, _ *job.Job) {
		c.Cable.Size, c.Cable.EarthSize = "4 AWG", "8 AWG"
		p.Route[0].Size = "¾"
	}), "fill", stop, ""},
}

// TestFeederWork: a feeder has a neutral, steps, parts and terminals of its own, and none of a charger.
func TestFeederWork(t *testing.T) {
	j := ruletest.Example(t, "../../../docs/formats/examples/us-pass.json")
	fed(workshop)(&j)
	if errs := j.Check(); len(errs) > 0 {
		t.Fatal(errs)
	}
	var ids, terminals, names []string
	for _, s := range work.Plan(&j) {
		ids = append(ids, s.ID)
	}
	if !slices.Contains(ids, worklog.EndFed) || slices.Contains(ids, worklog.ChargerEnd) || slices.Contains(ids, worklog.Settings) {
		t.Errorf("steps %v", ids)
	}
	p, _ := j.Point("A")
	for _, x := range work.Terminals(p) {
		terminals = append(terminals, x.Title)
	}
	if len(terminals) != 8 || !slices.Contains(terminals, "board at the end, neutral") {
		t.Errorf("terminals %v", terminals)
	}
	for _, x := range sequence.Sequence(p.Circuit) {
		if x.Group == commission.Charger {
			t.Errorf("test %s", x.ID)
		}
	}
	for _, part := range laying.TakeOff(&j, route.Default) {
		names = append(names, part.Name)
	}
	for _, want := range []string{"6 AWG THWN-2 conductor, black, red and white, point A", "ground rod, 8 ft, with its clamp",
		"board of 12 ways, 125 A, 10 kA, main breaker or disconnect for the feeder, suitable as service equipment, point A"} {
		if !slices.Contains(names, want) {
			t.Errorf("no %q among %v", want, names)
		}
	}
}
