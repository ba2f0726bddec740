package uk

import (
	"math"
	"slices"
	"strings"
	"testing"

	"dogbolt/core/demand"
	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/route"
	"dogbolt/core/rulebook"
	"dogbolt/core/worklog"
	"dogbolt/internal/testkit/ruletest"
)

// TestFill: in trunking, three 6 mm² singles of 4.7 mm fill 52 mm² of 45 % (OSG
// appendix E, from memory).
func TestFill(t *testing.T) {
	if f := fill(job.Trunking, 3*math.Pi/4*4.7*4.7, ""); f.Size != "16x16" || !f.Meets {
		t.Errorf("three 6 mm² singles: %+v", f)
	}
	if f := fill(job.Trunking, 1000, "50x50"); f.Meets || !f.Chosen {
		t.Errorf("1000 mm² in 50x50, 45 %% of 46² is 952: %+v", f)
	}
	if f := fill(job.Conduit, 1e6, ""); f.Meets || f.Size != "" {
		t.Errorf("nothing holds a square metre: %+v", f)
	}
}

// TestHoles: each gland passes its thread: M20, M25, M32 by the diameters that
// makers of glands give, mm (from memory).
func TestHoles(t *testing.T) {
	for _, c := range []struct {
		family job.Family
		size   string
		hole   string
	}{{job.Armoured90, "6 mm²", "20"}, {job.Armoured90, "10 mm²", "20"}, {job.Armoured90, "16 mm²", "25"}, {job.Armoured90, "25 mm²", "25"},
		{job.Multicore, "2.5 mm²", "20"}, {job.Multicore, "6 mm²", "25"}, {job.Multicore, "16 mm²", "32"}} {
		if got := hole(&job.Circuit{Cable: job.Cable{Family: c.family, Size: c.size}}, nil); got != "hole cutter "+c.hole+" mm" {
			t.Errorf("%s %s: %q, want %s mm", c.family, c.size, got, c.hole)
		}
	}
}

// TestJointTakenOff: two cables of a route are cut apart, each with its ends and its
// spare, and joined in a box that is its own step before the work at the board.
func TestJointTakenOff(t *testing.T) {
	j := ruletest.Example(t, "../../../docs/formats/examples/uk-pass.json")
	joined(&j)
	got := map[string]float64{}
	for _, p := range Practice.Laying.TakeOff(&j, route.Default) {
		got[p.Name] = p.Quantity
	}
	for name, want := range map[string]float64{
		"6 mm² twin and earth, point A":                       13, // 11 + 2 × 0.5 + 5 % = 12.55
		"6 mm² armoured, 90 °C, 3-core, point A":              7,  // 5 + 2 × 0.5 + 5 % = 6.25
		"joint box with connectors, 6 mm² and 6 mm², point A": 1,
		"gland or grommet for 6 mm²":                          2,
		"armoured gland with earth tag M20 for 6 mm²":         2,
		"hole cutter 20 mm":                                   1, // of what reaches the charger
	} {
		if got[name] != want {
			t.Errorf("%s: %g, want %g", name, got[name], want)
		}
	}
	p, _ := j.Point("A")
	laid := Practice.Laying.Of(&p.Circuit, &p.Place, &j.Survey.Board, 0, route.Default)
	if laid.Stretches[0].Capacity != 47 || math.Abs(float64(laid.Stretches[1].Capacity)-46.06) > 0.01 || laid.Ends != 2 {
		t.Errorf("each stretch by its own cable: %+v", laid)
	}
	steps := Practice.Install.Outline(&j)
	box := slices.IndexFunc(steps, func(s worklog.Step) bool { return s.ID == worklog.JointBox })
	board := slices.IndexFunc(steps, func(s worklog.Step) bool { return s.ID == worklog.BoardWork })
	run := slices.IndexFunc(steps, func(s worklog.Step) bool { return s.ID == worklog.RunCable })
	if want := "6 mm², 11.0 m; beyond the joint box 6 mm², 5.0 m"; !strings.Contains(Practice.Install.Plan(&j)[run].Detail, want) {
		t.Errorf("%q, without %q", steps[run].Detail, want)
	}
	if box < 0 || !strings.Contains(steps[box].Detail, "segment 2") || !slices.Contains(steps[board].After, worklog.JointBox) {
		t.Errorf("step %d before step %d", box, board)
	}
}

// TestExtendedTakenOff: of an old circuit that is carried on only what lies beyond its box is bought, drilled and run, and nothing is
// joined before dead is proved.
func TestExtendedTakenOff(t *testing.T) {
	j := ruletest.Example(t, "../../../docs/formats/examples/uk-pass.json")
	joined(&j)
	c := &j.Design.Circuits[0]
	c.Existing, c.Beyond.Cable.Fate = job.Yes, job.FateNew
	j.Survey.Places[0].Route[0].Wall = 0.3 // the old cable goes through it
	var bought []string
	for _, p := range Practice.Laying.TakeOff(&j, route.Default) {
		bought = append(bought, p.Name)
	}
	for name, want := range map[string]bool{
		"6 mm² armoured, 90 °C, 3-core, point A": true, "joint box with connectors, 6 mm² and 6 mm², point A": true, "hole cutter 20 mm": true,
		"6 mm² twin and earth, point A": false, "breaker B40 A, 2-pole, 6 kA, point A": false, "drill bit, at least 400 mm long": false,
	} {
		if slices.Contains(bought, name) != want {
			t.Errorf("%s bought: %t; %v", name, !want, bought)
		}
	}
	steps := map[string]worklog.Step{}
	for _, s := range Practice.Install.Plan(&j) {
		steps[s.ID] = s
	}
	if l := j.Points()[0]; l.LaidLength() != 5 {
		t.Errorf("%v are laid", l.LaidLength())
	}
	if s := steps[worklog.RunCable]; len(s.Changes) > 0 {
		t.Errorf("what is built otherwise would be of the cable that stays: %v", s.Changes)
	}
	if s := steps[worklog.RunCable]; !strings.HasPrefix(s.Detail, "beyond the joint box 6 mm², 5.0 m by") {
		t.Errorf("cable: %q", s.Detail)
	}
	if s := steps[worklog.JointBox]; !s.Inside || !slices.Contains(s.After, worklog.ProveDead) {
		t.Errorf("joined while the circuit may be live: %+v", s)
	}
	if s := steps[worklog.ChargerEnd]; !slices.Contains(s.After, worklog.JointBox) {
		t.Errorf("charger: %+v", s)
	}
	if s := steps[worklog.BoardWork]; s.Title != "Existing circuit inspected at the consumer unit" {
		t.Errorf("board: %s", s.Title)
	}
}

// TestIsolatorThatWasThere: of a circuit that was there the isolator is bought and fitted as the design has it: one that stays is neither.
func TestIsolatorThatWasThere(t *testing.T) {
	for _, c := range []struct {
		charger, isolator job.Fate
		bought            bool
		step              string
	}{
		{"", "", true, "Isolator fitted at the point"}, // as jobs of before have it
		{"", job.FateKept, false, ""}, {"", job.FateReplaced, true, "Isolator at the point replaced"}, {"", job.FateNew, true, "Isolator fitted at the point"},
		{job.FateKept, "", false, ""}, {job.FateKept, job.FateReplaced, true, "Isolator at the point replaced"}, {job.FateTakenOut, "", false, ""},
	} {
		j := ruletest.Example(t, "../../../docs/formats/examples/uk-pass.json")
		at := &j.Design.Circuits[0]
		at.Existing, at.Charger.Fate, at.IsolatorFate = job.Yes, c.charger, c.isolator
		bought := slices.ContainsFunc(Practice.Laying.TakeOff(&j, route.Default), func(p job.Part) bool { return strings.HasPrefix(p.Name, "isolator") })
		step := ""
		for _, s := range Practice.Install.Plan(&j) {
			if s.ID == worklog.Isolator {
				step = s.Title
			}
		}
		if bought != c.bought || step != c.step {
			t.Errorf("charger %q, isolator %q: bought %t, step %q", c.charger, c.isolator, bought, step)
		}
	}
}

// TestBondedWithThisWork: bonding that is planned is bought, run after dead is proved, labelled at its clamps, and told by the
// certificate as it is after the work.
func TestBondedWithThisWork(t *testing.T) {
	j := ruletest.Example(t, "../../../docs/formats/examples/uk-pass.json")
	j.Survey.Bonding.Gas, j.Survey.Bonding.Size, j.Survey.Bonding.Conductor = job.NotBonded, 0, 4
	j.Design.Bonds = job.Bonds{Run: job.BondMissing, Size: 10, Length: 5.2, Conductor: 16}
	got := map[string]float64{}
	for _, p := range Practice.Laying.TakeOff(&j, route.Default) {
		got[p.Name] = p.Quantity
	}
	if got["green-and-yellow conductor 10 mm², bonding"] != 6 || got["earth clamp with its label"] != 1 || got["earthing conductor 16 mm²"] != 1 {
		t.Errorf("%v", got)
	}
	steps := map[string]worklog.Step{}
	for _, s := range Practice.Install.Plan(&j) {
		steps[s.ID] = s
	}
	for _, id := range []string{worklog.BondsRun, worklog.Earthing} {
		if s := steps[id]; !s.Inside || !slices.Contains(s.After, worklog.ProveDead) || !slices.Contains(steps[worklog.DeadTests].After, id) {
			t.Errorf("%s: %+v", id, s)
		}
	}
	if s := steps[worklog.BondsRun]; !strings.HasPrefix(s.Detail, "10 mm², 5.2 m in all: gas.") || s.Clause == "" {
		t.Errorf("%+v", s)
	}
	f := rulebook.FactsOf(Practice, &j, demand.Result{})
	if said := bonded(f); !strings.Contains(said, "gas yes") {
		t.Errorf("the certificate says %q", said)
	}
	if !slices.ContainsFunc(labels(f), func(l jurisdiction.Label) bool { return l.Where == "bonding clamp: gas" }) {
		t.Error("no label at the clamp")
	}
}

// TestSmallBoard: what a small board beside the old one asks for is bought, and nothing is connected to the service's tails before
// they are opened and proved dead apart.
func TestSmallBoard(t *testing.T) {
	j := ruletest.Example(t, "../../../docs/formats/examples/uk-pass.json")
	j.Design.Beside = small
	got := map[string]float64{}
	for _, p := range Practice.Laying.TakeOff(&j, route.Default) {
		got[p.Name] = p.Quantity
	}
	for name, want := range map[string]float64{
		"small board of 4 ways, main switch 63 A, steel": 1,
		"tail, double insulated, 25 mm²":                 4, // 1.5 m rounded up, line and neutral
		"green-and-yellow conductor 16 mm²":              2,
		"connector block 100 A, enclosed":                2,
		"gland or grommet for the tails":                 1,
		"enclosure for the breaker, beside the board":    0,
		"breaker B40 A, 2-pole, 6 kA, point A":           1,
	} {
		if got[name] != want {
			t.Errorf("%s: %g, want %g in %v", name, got[name], want, got)
		}
	}
	steps := map[string]worklog.Step{}
	for _, s := range Practice.Install.Plan(&j) {
		steps[s.ID] = s
	}
	for id, after := range map[string]string{worklog.CoverOff: worklog.TailsOpen, worklog.TailsOpen: worklog.MainOff, worklog.BesideFed: worklog.Barrier, worklog.BoardWork: worklog.BesideFed,
		worklog.DeadTests: worklog.BesideFed, worklog.Lids: worklog.BesideFed} {
		if s, ok := steps[id]; !ok || !slices.Contains(s.After, after) {
			t.Errorf("%s does not wait for %s: %+v", id, after, s)
		}
	}
	if s := steps[worklog.TailsOpen]; s.Inside || !strings.Contains(s.Detail, "switch before them off") {
		t.Errorf("tails: %+v", s)
	}
	j.Design.Beside.Opens = job.OpensOperator
	for _, s := range Practice.Install.Plan(&j) {
		if s.ID == worklog.TailsOpen && !strings.Contains(s.Detail, "withdrawn by the network operator") {
			t.Errorf("tails: %s", s.Detail)
		}
	}
}

// TestBendsEndAtTheBox: a joint box is a place to draw from.
func TestBendsEndAtTheBox(t *testing.T) {
	c := job.Circuit{Cable: job.Cable{Family: job.Singles, Size: "6 mm²"}, Beyond: job.Beyond{From: 2, Cable: job.Cable{Family: job.Singles, Size: "6 mm²"}}}
	p := job.Place{Route: []job.Segment{{Method: job.Conduit, Length: 4, Bends: 270}, {Method: job.Conduit, Length: 4, Bends: 180}}}
	laid := Practice.Laying.Of(&c, &p, &job.Board{}, 0, route.Default)
	if laid.Stretches[1].Bends != 180 || laid.Stretches[1].Over {
		t.Errorf("%+v", laid.Stretches)
	}
	c.Beyond = job.Beyond{}
	if laid = Practice.Laying.Of(&c, &p, &job.Board{}, 0, route.Default); !laid.Stretches[1].Over {
		t.Errorf("without a box: %+v", laid.Stretches)
	}
}

// TestSurgeDevice: one that is fitted or takes another's place is bought and is a step that says which; one that stays is neither.
func TestSurgeDevice(t *testing.T) {
	for spd, title := range map[job.SPD]string{
		job.SPDFitted: "Surge protection fitted at the consumer unit", job.SPDReplaced: "Surge protection replaced at the consumer unit", job.SPDPresent: "", job.SPDDeclined: "",
	} {
		j := ruletest.Example(t, examples+"uk-pass.json")
		j.Design.Circuits[0].SPD = spd
		got := ""
		for _, s := range work.Plan(&j) {
			if s.ID == worklog.SurgeDevice {
				got = s.Title
			}
		}
		bought := slices.ContainsFunc(laying.TakeOff(&j, route.Default), func(p job.Part) bool { return strings.HasPrefix(p.Name, "surge protective device") })
		if got != title || bought != (title != "") {
			t.Errorf("%s: %q, bought %v", spd, got, bought)
		}
		next := j.Next(job.Repair, job.Measured{Serial: func(*job.Circuit) string { return "" }})
		if want := title != "" || spd == job.SPDPresent; (next.Design.Circuits[0].SPD == job.SPDPresent) != want {
			t.Errorf("%s: the next job finds %q", spd, next.Design.Circuits[0].SPD)
		}
	}
}
