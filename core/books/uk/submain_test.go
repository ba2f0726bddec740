package uk

import (
	"slices"
	"strings"
	"testing"

	"dogbolt/core/clearance"
	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/route"
	"dogbolt/core/rulebook"
	"dogbolt/core/worklog"
	"dogbolt/internal/testkit/ruletest"
)

// toBoard makes the point's circuit a sub-main to a board in the same building, with its changes.
func toBoard(changes ...func(c *job.Circuit, p *job.Place, j *job.Job)) change {
	return func(j *job.Job) {
		c, p, none := &j.Design.Circuits[0], &j.Survey.Places[0], quantity.Ampere(8)
		c.Connection, c.Charger, c.Setting = job.IntoBoard, job.Charger{Fate: job.FateNone, Phases: 1, Terminals: 70}, 40
		c.Dedicated, c.Isolator, c.Earthing, c.RCD = "", "", job.PointEarthing{}, job.RCD{Fitted: job.No}
		c.End = job.End{Ways: 6, Rating: 63, BreakingKA: 6, IP: "IP65", Other: &none, Space: job.Yes}
		p.Name, p.Detached = "garage wall", job.No
		for _, f := range changes {
			f(c, p, j)
		}
	}
}

func endIs(f func(e *job.End)) func(*job.Circuit, *job.Place, *job.Job) {
	return func(c *job.Circuit, _ *job.Place, _ *job.Job) { f(&c.End) }
}

func laidRCD(r job.RCD) func(*job.Circuit, *job.Place, *job.Job) {
	return func(c *job.Circuit, _ *job.Place, _ *job.Job) { c.RCD = r }
}

func laidAlong(segments ...job.Segment) func(*job.Circuit, *job.Place, *job.Job) {
	return func(c *job.Circuit, p *job.Place, _ *job.Job) { p.Route = ruletest.Known(segments) }
}

// garage puts the board into a building of its own.
func garage(c *job.Circuit, p *job.Place, _ *job.Job) {
	p.Detached, p.OtherSupply, c.End.Metal = job.Yes, job.No, job.No
}

var slow100 = job.RCD{Fitted: job.Yes, Type: job.TypeA, TripMA: 100, AllPoles: job.Yes, Delayed: job.Yes}

// subMains are cases of a sub-main. Table 54.8, 434.5.1, 522.6.202, 411.3.1.2 and 411.5.2 of BS 7671: from memory.
var subMains = []row{
	{"a charger's circuit is none", none, "sub-main", "", ""},
	{"a sub-main in the house", toBoard(), "sub-main", sound, "board of 6 ways, 63 A behind 40 A; its devices break 6 kA, 1.8 kA at the origin"},
	{"beside another point", both(toBoard(), func(j *job.Job) { j.Survey.Places = append(j.Survey.Places, job.Place{Point: "B"}) }), "sub-main", stop, "a job of its own"},
	{"where the board goes is not known", toBoard(func(_ *job.Circuit, p *job.Place, _ *job.Job) { p.Name = "" }), "sub-main", open, "where the board"},
	{"indoors or out is not known", toBoard(func(_ *job.Circuit, p *job.Place, _ *job.Job) { p.Outdoors = "" }), "sub-main", open, "outdoors"},
	{"which building is not known", toBoard(func(_ *job.Circuit, p *job.Place, _ *job.Job) { p.Detached = "" }), "sub-main", open, "building apart"},
	{"another supply is not asked", toBoard(garage, func(_ *job.Circuit, p *job.Place, _ *job.Job) { p.OtherSupply = "" }), "sub-main", open, "already"},
	{"another supply to the building", toBoard(garage, func(_ *job.Circuit, p *job.Place, _ *job.Job) { p.OtherSupply = job.Yes }), "sub-main", watch, "a notice at each isolator"},
	{"load not known", toBoard(func(c *job.Circuit, _ *job.Place, _ *job.Job) { c.Setting = 0 }), "sub-main", open, "drawn over the sub-main"},
	{"breaker not known", toBoard(func(c *job.Circuit, _ *job.Place, _ *job.Job) { c.Breaker.Rating = 0 }), "sub-main", open, "breaker rating"},
	{"the rest is not known", toBoard(endIs(func(e *job.End) { e.Other = nil })), "sub-main", open, "no charging"},
	{"the rest alone is more", toBoard(func(c *job.Circuit, _ *job.Place, _ *job.Job) { c.Setting = 7 }), "sub-main", stop, "8 A are no charging, 7 A"},
	{"ways not known", toBoard(endIs(func(e *job.End) { e.Ways = 0 })), "sub-main", open, "ways"},
	{"rating not known", toBoard(endIs(func(e *job.End) { e.Rating = 0 })), "sub-main", open, "rating of the board"},
	{"breaking capacity not known", toBoard(endIs(func(e *job.End) { e.BreakingKA = 0 })), "sub-main", open, "breaking capacity"},
	{"main switch of 40 A behind 40 A", toBoard(endIs(func(e *job.End) { e.Rating = 40 })), "sub-main", sound, ""},
	{"main switch of 39 A behind 40 A", toBoard(endIs(func(e *job.End) { e.Rating = 39 })), "sub-main", stop, "larger board"},
	{"room in front not asked", toBoard(endIs(func(e *job.End) { e.Space = "" })), "sub-main", open, "room to work"},
	{"no room in front", toBoard(endIs(func(e *job.End) { e.Space = job.No })), "sub-main", stop, "keep it clear"},
	{"outdoors, no IP code", toBoard(endIs(func(e *job.End) { e.IP = "" })), "sub-main", open, "IP code of the board"},
	{"outdoors, IP43", toBoard(endIs(func(e *job.End) { e.IP = "IP43" })), "sub-main", stop, "IP44 at least"},
	{"indoors, no IP code", toBoard(endIs(func(e *job.End) { e.IP = "" }), func(_ *job.Circuit, p *job.Place, _ *job.Job) { p.Outdoors = job.No }), "sub-main", sound, ""},
	{"residual device not asked", toBoard(laidRCD(job.RCD{})), "sub-main", open, "residual device stands"},
	{"100 mA, delayed", toBoard(laidRCD(slow100)), "sub-main", sound, ""},
	{"its type not known", toBoard(laidRCD(job.RCD{Fitted: job.Yes, TripMA: 100, AllPoles: job.Yes, Delayed: job.Yes})), "sub-main", open, "type"},
	{"its current not known", toBoard(laidRCD(job.RCD{Fitted: job.Yes, Type: job.TypeA, AllPoles: job.Yes, Delayed: job.Yes})), "sub-main", open, "rated residual"},
	{"delayed or not is not known", toBoard(laidRCD(job.RCD{Fitted: job.Yes, Type: job.TypeA, TripMA: 100, AllPoles: job.Yes})), "sub-main", open, "delayed"},
	{"poles not known", toBoard(laidRCD(job.RCD{Fitted: job.Yes, Type: job.TypeA, TripMA: 100, Delayed: job.Yes})), "sub-main", open, "neutral too"},
	{"type AC ahead of chargers", toBoard(laidRCD(job.RCD{Fitted: job.Yes, Type: "AC", TripMA: 100, AllPoles: job.Yes, Delayed: job.Yes})), "sub-main", stop, "531.3.3"},
	{"30 mA, not delayed", toBoard(laidRCD(job.RCD{Fitted: job.Yes, Type: job.TypeA, TripMA: 30, AllPoles: job.Yes, Delayed: job.No})), "sub-main", watch, "darkens the building"},
	{"the neutral stays", toBoard(laidRCD(job.RCD{Fitted: job.Yes, Type: job.TypeA, TripMA: 100, AllPoles: job.No, Delayed: job.Yes})), "sub-main", watch, "462.1.201"},
	{"fault protection by a device that is not there", toBoard(func(c *job.Circuit, _ *job.Place, _ *job.Job) { c.FaultByRCD = job.Yes }), "sub-main", stop, "none is fitted"},
	{"the loop behind a device that is not there", toBoard(func(c *job.Circuit, _ *job.Place, _ *job.Job) { c.FaultByRCD, c.RCD.TripMA = job.Yes, 30 }), "zs-design", open, ""},
	{"TT without a residual device", toBoard(func(_ *job.Circuit, _ *job.Place, j *job.Job) {
		j.Survey.Supply.System, j.Survey.Supply.ElectrodeRA = job.TT, 80
	}), "sub-main", stop, "411.5.2"},
	{"TT with one, delayed", toBoard(laidRCD(slow100), func(_ *job.Circuit, _ *job.Place, j *job.Job) {
		j.Survey.Supply.System, j.Survey.Supply.ElectrodeRA = job.TT, 80
	}), "sub-main", sound, ""},
	{"hidden, armoured", toBoard(laidAlong(job.Segment{Method: job.StudWall, Length: 16})), "sub-main", sound, ""},
	{"hidden, not armoured", toBoard(laidAlong(job.Segment{Method: job.StudWall, Length: 16}), func(c *job.Circuit, _ *job.Place, _ *job.Job) { c.Cable.Family = job.TwinEarth }), "sub-main", stop, "522.6.202"},
	{"hidden, with 30 mA", toBoard(laidAlong(job.Segment{Method: job.StudWall, Length: 16}), laidRCD(job.RCD{Fitted: job.Yes, Type: job.TypeA, TripMA: 30, AllPoles: job.Yes, Delayed: job.No}),
		func(c *job.Circuit, _ *job.Place, _ *job.Job) { c.Cable.Family = job.TwinEarth }), "sub-main", watch, ""},
	{"hidden, with 30 mA that is delayed", toBoard(laidAlong(job.Segment{Method: job.ConduitInWall, Length: 16}), laidRCD(job.RCD{Fitted: job.Yes, Type: job.TypeA, TripMA: 30, AllPoles: job.Yes, Delayed: job.Yes}),
		func(c *job.Circuit, _ *job.Place, _ *job.Job) { c.Cable.Family = job.Multicore }), "sub-main", stop, "522.6.202"},
	{"hidden, with 100 mA", toBoard(laidAlong(job.Segment{Method: job.InInsulation, Length: 16}), laidRCD(slow100),
		func(c *job.Circuit, _ *job.Place, _ *job.Job) { c.Cable.Family = job.Multicore }), "sub-main", stop, "522.6.202"},
	{"hidden, with 100 mA that is not delayed", toBoard(laidAlong(job.Segment{Method: job.StudWall, Length: 16}), laidRCD(job.RCD{Fitted: job.Yes, Type: job.TypeA, TripMA: 100, AllPoles: job.Yes, Delayed: job.No}),
		func(c *job.Circuit, _ *job.Place, _ *job.Job) { c.Cable.Family = job.Multicore }), "sub-main", stop, "522.6.202"},
	{"garage on PME, no metal", toBoard(garage), "sub-main", watch, "411.3.1.2"},
	{"garage on TN-S", toBoard(garage, func(_ *job.Circuit, _ *job.Place, j *job.Job) { j.Survey.Supply.System = job.TNS }), "sub-main", sound, ""},
	{"metal not asked", toBoard(garage, endIs(func(e *job.End) { e.Metal = "" })), "sub-main", open, "metal"},
	{"metal, 6 mm² protective", toBoard(garage, endIs(func(e *job.End) { e.Metal = job.Yes })), "sub-main", stop, "6 mm², main bonding asks 10 mm²"},
	{"metal, 10 mm² protective", toBoard(garage, endIs(func(e *job.End) { e.Metal = job.Yes }), func(c *job.Circuit, _ *job.Place, _ *job.Job) { c.Cable.Size = "10 mm²" }), "sub-main", watch, "411.3.1.2"},
	{"metal, by the armour", toBoard(garage, endIs(func(e *job.End) { e.Metal = job.Yes }), func(c *job.Circuit, _ *job.Place, _ *job.Job) {
		c.Cable.Size, c.Cable.Earth = "10 mm²", job.EarthArmour
	}), "sub-main", stop, "steel"},
	{"metal, cable not chosen", toBoard(garage, endIs(func(e *job.End) { e.Metal = job.Yes }), func(c *job.Circuit, _ *job.Place, _ *job.Job) { c.Cable.Size = "" }), "sub-main", open, ""},
	// 16 kA at the origin are 14.4 mΩ; 16 m of 6 mm² are 49.3 mΩ a conductor: at most 4.48 kA whatever the source's angle and the way back.
	{"16 kA at the origin", toBoard(func(_ *job.Circuit, _ *job.Place, j *job.Job) { j.Survey.Supply.FaultCurrent = 16 }), "sub-main", sound, "4.48 kA at its end at most"},
	{"16 kA, and a short way", toBoard(laidAlong(job.Segment{Method: job.Surface, Length: 2}), func(_ *job.Circuit, _ *job.Place, j *job.Job) { j.Survey.Supply.FaultCurrent = 16 }), "sub-main", stop, "14.71 kA"},
	{"fault current not known", toBoard(func(_ *job.Circuit, _ *job.Place, j *job.Job) { j.Survey.Supply.FaultCurrent = 0 }), "sub-main", open, "prospective"},
	{"16 kA, and no route", toBoard(func(_ *job.Circuit, p *job.Place, j *job.Job) { j.Survey.Supply.FaultCurrent, p.Route = 16, nil }), "sub-main", open, "route"},
	{"joined from 6 to 10 mm²", toBoard(func(c *job.Circuit, p *job.Place, j *job.Job) {
		j.Survey.Supply.FaultCurrent, c.Beyond = 16, job.Beyond{From: 2, Cable: job.Cable{Family: job.Armoured90, Size: "10 mm²"}, Accessible: job.Yes, Suited: job.Yes}
	}), "sub-main", sound, "0.043 Ω of line conductor"},
	{"a board that was there, with its old feed", toBoard(garage, func(c *job.Circuit, p *job.Place, j *job.Job) {
		p.OtherSupply, c.End.Fate, j.Survey.Supply.System = job.Yes, job.FateKept, job.TNS
	}), "sub-main", sound, ""},
	{"what a new board feeds", toBoard(), "behind", "", ""},
	{"what a board that was there feeds, not tested", toBoard(endIs(func(e *job.End) { e.Fate = job.FateKept })), "behind", open, ""},
	{"what a board that was there feeds, not sound", both(toBoard(endIs(func(e *job.End) { e.Fate = job.FateReplaced })), ruletest.Read(commission.Behind, "not sound")), "behind", stop, "tell the customer"},
	{"what a board that was there feeds, sound", both(toBoard(endIs(func(e *job.End) { e.Fate = job.FateReplaced })), ruletest.Read(commission.Behind, "sound")), "behind", sound, ""},
	{"a device upstream and a feed replaced", both(toBoard(endIs(func(e *job.End) { e.Fate = job.FateKept })), func(j *job.Job) { j.Design.Ahead.Type = job.TypeA }), "behind", open, ""},
	// BS EN 60898-1: opens for certain at 1.45 times; a fuse of type gG holds 1.25 times (BS 88-1). From memory.
	{"40 A behind a fuse of 100 A", toBoard(), "in-turn", sound, "40 A: opens for certain at 58.0 A (× 1.45); the service's device, 100 A, holds 125.0 A"},
	{"63 A behind a fuse of 60 A", toBoard(func(c *job.Circuit, _ *job.Place, j *job.Job) { c.Breaker.Rating, j.Survey.Supply.Rating = 63, 60 }), "in-turn", watch, "the service's device may open first"},
	{"50 A behind a fuse of 58 A, to the ampere", toBoard(func(c *job.Circuit, _ *job.Place, j *job.Job) { c.Breaker.Rating, j.Survey.Supply.Rating = 50, 58 }), "in-turn", sound, ""},
	{"50 A behind a fuse of 57 A", toBoard(func(c *job.Circuit, _ *job.Place, j *job.Job) { c.Breaker.Rating, j.Survey.Supply.Rating = 50, 57 }), "in-turn", watch, ""},
	{"a sub-main, the fuse not known", toBoard(func(_ *job.Circuit, _ *job.Place, j *job.Job) { j.Survey.Supply.Rating = 0 }), "in-turn", open, "the service's device"},
	{"a sub-main of a source of its own", toBoard(func(_ *job.Circuit, _ *job.Place, j *job.Job) { j.Survey.Supply.System = job.Island }), "in-turn", "", ""},
	{"a sub-main on a board behind another", toBoard(func(_ *job.Circuit, _ *job.Place, j *job.Job) {
		j.Survey.Board.FedFrom, j.Survey.Board.Links = job.FromSubMain, []job.Link{{Kind: job.FeederDevice, Rating: 50}}
	}), "in-turn", watch, "the device of the sub-main that feeds the board may open first"},
	// Other rules of a sub-main.
	{"type AC upstream of a sub-main", both(toBoard(), board(func(b *job.Board) { b.UpstreamRCDType = "AC" })), "rcd-upstream", stop, "blinded"},
	{"upstream of a sub-main not asked", both(toBoard(), board(func(b *job.Board) { b.UpstreamRCDType = "" })), "rcd-upstream", open, ""},
	{"its breaker changed after the tests", both(toBoard(), ruletest.Read(commission.EndFault, "0.6"), func(j *job.Job) { ruletest.Log(j, job.Varied, "A", "breaker.rating", "50") }),
		"tested-again", open, "Prospective fault current at the board at the end"},
	{"no rule of charging points: residual device", toBoard(), "rcd", "", ""},
	{"no rule of charging points: PME", toBoard(), "open-pen", "", ""},
	{"no rule of charging points: height", toBoard(), "holder-height", "", ""},
	{"no rule of charging points: vehicle", both(toBoard(), func(j *job.Job) { j.Survey.Vehicles = nil }), "vehicles", "", ""},
	{"no residual device to time", toBoard(), "rcd-time", "", ""},
	{"a residual device is timed", both(toBoard(laidRCD(slow100)), ruletest.Read(commission.RCDTime, "")), "rcd-time", open, ""},
	{"delayed, 200 ms", both(toBoard(laidRCD(slow100)), ruletest.Read(commission.RCDTime, "200")), "rcd-time", sound, "130 ms to 500 ms"},
	{"disconnected within 5 s, and not 0.4 s", toBoard(), "zs", sound, "5 s by 411.3.2.3"},
	{"no fault current is read at a charger", none, "pfc-end", "", ""},
	{"fault current at the end, not read", toBoard(), "pfc-end", open, ""},
	{"fault current at the end, 0.6 kA", both(toBoard(), ruletest.Read(commission.EndFault, "0.6")), "pfc-end", sound, "0.6 kA, its devices break 6 kA"},
	{"fault current at the end, past the range", both(toBoard(), ruletest.Read(commission.EndFault, ">5")), "pfc-end", open, ""},
	{"fault current at the end, none", both(toBoard(), ruletest.Read(commission.EndFault, "0")), "pfc-end", watch, "hardly ever"},
	{"fault current at the end, 6 kA", both(toBoard(), ruletest.Read(commission.FaultCurrent, "6"), ruletest.Read(commission.EndFault, "6")), "pfc-end", sound, ""},
	{"fault current at the end, 6.01 kA", both(toBoard(), ruletest.Read(commission.EndFault, "6.01")), "pfc-end", stop, "higher"},
	{"more than at the origin", both(toBoard(), ruletest.Read(commission.EndFault, "1.2")), "pfc-end", watch, "0.86 kA"},
	{"as much as 30 % more", both(toBoard(), ruletest.Read(commission.EndFault, "1.11")), "pfc-end", sound, ""},
	{"breaking capacity of the end not known", toBoard(endIs(func(e *job.End) { e.BreakingKA = 0 })), "pfc-end", open, "breaking capacity"},
	{"the load is asked, not a setting", toBoard(func(c *job.Circuit, _ *job.Place, _ *job.Job) { c.Setting = 0 }), "ib-in", open, "drawn over the sub-main"},
	{"drop leaves the rest", toBoard(), "drop", sound, "left for the circuits of its board"},
	{"drop leaves nothing for lights", toBoard(laidAlong(job.Segment{Method: job.Surface, Length: 25}), func(c *job.Circuit, _ *job.Place, _ *job.Job) { c.Setting = 40 }), "drop", watch, "lighting"},
	{"demand says what it is", toBoard(), "demand", sound, "over the sub-main"},
	{"the operator hears by the charger's job", toBoard(), "operator-route", sound, "told by the job of each point"},
	{"the service is doubtful", both(toBoard(), onSupply(func(s *job.Supply) { s.Condition = "doubtful" })), "operator-route", open, "the operator's answer"},
	{"the service is not looked at", both(toBoard(), onSupply(func(s *job.Supply) { s.Condition = "" })), "operator-route", open, ""},
}

// TestSubMainSteps: a sub-main has steps, parts and tests of its own and none of a charger.
func TestSubMainSteps(t *testing.T) {
	j := ruletest.Example(t, examples+"uk-pass.json")
	toBoard(garage)(&j)
	if errs := j.Check(); len(errs) > 0 {
		t.Fatal(errs)
	}
	// A board that was there: its old feed goes, and what is replaced is bought without blanks.
	for fate, want := range map[job.Fate][2]string{
		"": {"Board at the end fixed", "board of 6 ways, 63 A, 6 kA, IP65, point A"}, job.FateNew: {"Board at the end fixed", "board of 6 ways, 63 A, 6 kA, IP65, point A"}, job.FateKept: {},
		job.FateReplaced: {"Old board at the end out, new one fixed, its circuits moved over", "board of 6 ways, 63 A, 6 kA, IP65, with a device for each of its old circuits, point A"},
	} {
		there := j
		there.Design.Circuits = slices.Clone(j.Design.Circuits)
		there.Design.Circuits[0].End.Fate = fate
		steps := map[string]worklog.Step{}
		for _, s := range work.Plan(&there) {
			steps[s.ID] = s
		}
		old, gone := steps[worklog.OldFeed]
		if steps[worklog.EndFixed].Title != want[0] || gone != there.Design.Circuits[0].EndWasThere() || gone && (!old.Inside || !slices.Contains(steps[worklog.EndFed].After, worklog.OldFeed)) {
			t.Errorf("%s: %+v, old feed %+v", fate, steps[worklog.EndFixed], old)
		}
		bought, blanks := "", false
		for _, p := range laying.TakeOff(&there, route.Default) {
			if strings.HasPrefix(p.Name, "board of") {
				bought = p.Name
			}
			blanks = blanks || p.Name == "blank for a way of it"
		}
		if bought != want[1] || blanks != (there.Design.Circuits[0].End.Becomes() == job.FateNew) {
			t.Errorf("%s: %q, blanks %v", fate, bought, blanks)
		}
	}
	var ids []string
	for _, s := range work.Plan(&j) {
		ids = append(ids, s.ID)
	}
	for _, want := range []string{worklog.EndFixed, worklog.EndFed, worklog.RunCable, worklog.BoardWork, worklog.DeadTests} {
		if !slices.Contains(ids, want) {
			t.Errorf("no step %s in %v", want, ids)
		}
	}
	for _, never := range []string{worklog.ChargerEnd, worklog.BackPlate, worklog.Settings, worklog.Outlet} {
		if slices.Contains(ids, never) {
			t.Errorf("step %s of a charger", never)
		}
	}
	for _, x := range sequence.Sequence(j.Design.Circuits[0]) {
		if x.Group == commission.Charger || x.ID == commission.RCDTime {
			t.Errorf("test %s", x.ID)
		}
		if x.ID == commission.Zs && x.Title != "Earth loop at the board at the end, Zs" {
			t.Errorf("the loop is read: %s", x.Title)
		}
	}
	var names []string
	for _, p := range laying.TakeOff(&j, route.Default) {
		names = append(names, p.Name)
	}
	for _, want := range []string{"board of 6 ways, 63 A, 6 kA, IP65, point A", "blank for a way of it", "breaker B40 A, 2-pole, 6 kA, point A"} {
		if !slices.Contains(names, want) {
			t.Errorf("no %q among %v", want, names)
		}
	}
	for _, never := range []string{"vehicle adapter for the charger tests", "charger, point A"} {
		if slices.Contains(names, never) {
			t.Errorf("%q is of a charger", never)
		}
	}
	if list := papers(&j, rulebook.OperatorDemand(&j, Practice.Demand(&j))); slices.ContainsFunc(list, func(a clearance.Advice) bool { return a.Paper.ID == "grant" || a.Paper.ID == "tariff" }) {
		t.Errorf("papers of a charger: %v", list)
	}
}
