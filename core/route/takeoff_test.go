package route_test

import (
	"slices"
	"strings"
	"testing"

	"dogbolt/core/books/uk"
	"dogbolt/core/books/us"
	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/route"
)

func find(parts []job.Part, prefix string) job.Part {
	if i := slices.IndexFunc(parts, func(p job.Part) bool { return strings.HasPrefix(p.Name, prefix) }); i >= 0 {
		return parts[i]
	}
	return job.Part{}
}

// TestTakeOffUK counts by hand: 16.5 m of route are 19.4 m to cut, 20 m in whole
// metres; 21 clips of the first segment (OSG appendix D, from memory).
func TestTakeOffUK(t *testing.T) {
	c, p, s := british()
	p.Point, c.Point, p.Position = "A", "A", "A"
	c.RCD, c.SPD, c.Isolator, c.Breaker = job.RCD{Fitted: job.Yes, Type: "A", TripMA: 30}, "fitted", job.Yes, job.Breaker{Rating: 40, Curve: "B"}
	s.Places = []job.Place{*p}
	s.SitePlan.Positions = []job.Position{{ID: "A", Fixing: "brick"}}
	j := &job.Job{Survey: *s, Design: job.Design{Circuits: []job.Circuit{*c}}}
	j.Plan.Parts = []job.Part{{Name: "lock and tag", InHand: job.Yes}}
	parts := uk.Practice.Laying.TakeOff(j, route.Default)
	for prefix, want := range map[string]float64{
		"6 mm² armoured": 20, "breaker B40": 1, "residual device type A": 1, "surge": 1, "isolator": 1, "armoured gland": 2, "cable clip": 21,
		"marking tape": 8, "sealant": 1, "screw 6 × 60 mm": 4, "wall plug 8 mm": 4, "earth link": 1, "drill bit, at least 400 mm": 1, "torque driver, 1 to 6 N·m": 1, "labels": 1,
		"hole cutter 20 mm": 1,
	} {
		t.Run(prefix, func(t *testing.T) {
			if got := find(parts, prefix); got.Quantity != want || got.Why == "" {
				t.Errorf("%s: %g, because %q; want %g", prefix, got.Quantity, got.Why, want)
			}
		})
	}
	if find(parts, "lock and tag").InHand != job.Yes || find(parts, "breaker").InHand == job.Yes {
		t.Error("what was in hand stays so, and nothing else becomes so")
	}
	// What the stock calls it has no point; a tool comes back.
	if p := find(parts, "6 mm² armoured"); p.Item+", 3-core, point A" != p.Name || p.Tool == job.Yes {
		t.Errorf("%+v", p)
	}
	if p := find(parts, "drill bit"); p.Tool != job.Yes || p.Item != "" {
		t.Errorf("%+v", p)
	}
	for i, p := range parts {
		if slices.ContainsFunc(parts[i+1:], func(o job.Part) bool { return o.Name == p.Name }) {
			t.Errorf("%s is listed twice", p.Name)
		}
	}
}

// TestTakeOffUS: 40 ft of EMT with two elbows; two hots and a ground.
func TestTakeOffUS(t *testing.T) {
	c := job.Circuit{Point: "A", Charger: job.Charger{Phases: 1, Terminals: 75, NeedsNeutral: job.No}, Breaker: job.Breaker{Rating: 60}, Cable: job.Cable{Family: job.ThwnEMT, Size: "6 AWG", EarthSize: "10 AWG"}}
	p := job.Place{Point: "A", Route: []job.Segment{{Method: job.Conduit, Length: quantity.Feet(30), Bends: 180}, {Method: job.Conduit, Length: quantity.Feet(10), Pull: job.Yes}}}
	j := &job.Job{Survey: job.Survey{Places: []job.Place{p}}, Design: job.Design{Circuits: []job.Circuit{c}}}
	parts := us.Practice.Laying.TakeOff(j, route.Margins{End: quantity.Feet(2)})
	for prefix, want := range map[string]float64{
		"6 AWG THWN-2 conductor": 2 * 45, "10 AWG THWN-2 ground": 45, "¾ in EMT, 90°": 0, "¾ in EMT elbow": 2, "EMT connector": 2, "strap": 4 + 2, "pull box": 1,
	} {
		t.Run(prefix, func(t *testing.T) {
			if got := find(parts, prefix); got.Quantity != want {
				t.Errorf("%s: %g %s, want %g", prefix, got.Quantity, got.Unit, want)
			}
		})
	}
	if p := find(parts, "6 AWG THWN-2 conductor"); p.Pieces != 2 {
		t.Errorf("two hots are %d pieces", p.Pieces)
	}
	if find(parts, "hole cutter 1 1/8 in").Tool != job.Yes {
		t.Error("no cutter for a ¾ in connector")
	}
	if got := find(parts, "¾ in EMT"); got.Quantity != 40 || got.Unit != "ft" || !strings.Contains(got.Why, "chapter 9") {
		t.Errorf("raceway: %+v", got)
	}
}

// TestEnclosure: a board whose map has no room takes an enclosure beside it, and
// a unit on a stud wall asks for a stud finder.
func TestEnclosure(t *testing.T) {
	c, p, s := british()
	p.Point, c.Point, p.Position = "A", "A", "A"
	s.Places, s.SitePlan.Positions = []job.Place{*p}, []job.Position{{ID: "A", Fixing: "stud"}}
	s.Board.Layout, s.Board.Ways = "rows", 2
	s.Board.Slots = []job.Slot{{At: 1, Circuit: "cooker", Rating: 32, Poles: 1}, {At: 2, Circuit: "ring", Rating: 32, Poles: 1}}
	j := &job.Job{Survey: *s, Design: job.Design{Circuits: []job.Circuit{*c}}}
	parts := uk.Practice.Laying.TakeOff(j, route.Default)
	if find(parts, "enclosure").Quantity != 1 || find(parts, "stud finder").Tool != job.Yes {
		t.Errorf("%+v", parts)
	}
	j.Survey.Board.Ways = 6
	if find(uk.Practice.Laying.TakeOff(j, route.Default), "enclosure").Quantity != 0 {
		t.Error("an enclosure although there is room")
	}
}

// TestCounterLines: a line has what a counter asks for, and the stock's own name where that is shorter; what nobody knows is not said.
// Common practice, no source; M20 by makers' tables of glands for cable of this size, from memory.
func TestCounterLines(t *testing.T) {
	circuit, at, s := british()
	c, p := *circuit, *at
	c.Point, p.Point = "A", "A"
	c.Breaker = job.Breaker{Rating: 40, Curve: job.CurveB, Poles: 2}
	c.RCD = job.RCD{Fitted: job.Yes, Type: job.TypeA, TripMA: 30, AllPoles: job.Yes}
	j := &job.Job{Survey: job.Survey{Places: []job.Place{p}, SitePlan: s.SitePlan, Board: job.Board{BreakingKA: 6}}, Design: job.Design{Circuits: []job.Circuit{c}}}
	lines := func() map[string]string {
		out := map[string]string{}
		for _, part := range uk.Practice.Laying.TakeOff(j, route.Margins{}) {
			out[part.Name] = part.Item
		}
		return out
	}
	got := lines()
	for name, item := range map[string]string{
		"breaker B40 A, 2-pole, 6 kA, point A":                    "breaker B40 A, 2-pole, 6 kA",
		"residual device type A, 30 mA, 40 A, all poles, point A": "residual device type A, 30 mA, 40 A, all poles",
		"6 mm² armoured, 90 °C, 3-core, point A":                  "6 mm² armoured, 90 °C",
		"armoured gland with earth tag M20 for 6 mm²":             "",
	} {
		if was, ok := got[name]; !ok || was != item {
			t.Errorf("%q: %t, in the stock %q; lines %v", name, ok, was, got)
		}
	}
	j.Survey.Board.BreakingKA, j.Design.Circuits[0].Cable.Earth = 0, job.EarthArmour
	j.Design.Circuits[0].Charger.EntryDepth = 35
	got = lines()
	for _, name := range []string{"breaker B40 A, 2-pole, point A", "6 mm² armoured, 90 °C, 2-core, point A", "hole cutter 20 mm, at least 35 mm deep"} {
		if _, ok := got[name]; !ok {
			t.Errorf("no %q among %v", name, got)
		}
	}
	if parts := uk.Practice.Laying.TakeOff(j, route.Margins{}); find(parts, "earth link").Quantity != 2 {
		t.Error("armour that is the protective conductor is joined at both ends")
	}
	second := j.Design.Circuits[0]
	second.Point = "B"
	p.Point = "B"
	j.Design.Circuits, j.Survey.Places = append(j.Design.Circuits, second), append(j.Survey.Places, p)
	if tool := find(uk.Practice.Laying.TakeOff(j, route.Margins{}), "hole cutter"); tool.Quantity != 1 || tool.Tool != job.Yes {
		t.Errorf("one cutter serves both points: %+v", tool)
	}
}

// TestPatterns: receptacles by rating and neutral (NEMA WD 6, from memory), conductors by colour (NEC 200.6, 210.5(C); BS 7671 table 51).
func TestPatterns(t *testing.T) {
	for _, c := range []struct {
		r    job.Receptacle
		want string
	}{
		{job.Receptacle{Rating: 50, Neutral: job.Yes}, "receptacle 50 A, with neutral (14-50R)"},
		{job.Receptacle{Rating: 50, Neutral: job.No}, "receptacle 50 A, without neutral (6-50R)"},
		{job.Receptacle{Rating: 50}, "receptacle 50 A"},
		{job.Receptacle{Rating: 40, Neutral: job.No}, "receptacle 40 A, without neutral"},
	} {
		if got := us.Practice.Laying.Parts.Pattern(&c.r); got != c.want {
			t.Errorf("%+v: %q", c.r, got)
		}
	}
	one, three := &job.Circuit{Charger: job.Charger{Phases: 1}}, &job.Circuit{Charger: job.Charger{Phases: 3}}
	for _, c := range []struct {
		got, want string
	}{
		{us.Practice.Laying.Parts.Colours(one, 2), "black and red"}, {us.Practice.Laying.Parts.Colours(one, 3), "black, red and white"},
		{us.Practice.Laying.Parts.Colours(three, 3), "black, red and blue"}, {us.Practice.Laying.Parts.Colours(three, 4), "black, red, blue and white"},
		{uk.Practice.Laying.Parts.Colours(one, 3), "brown, blue, green-and-yellow"},
		{uk.Practice.Laying.Parts.Colours(three, 5), "brown, black, grey, blue, green-and-yellow"},
	} {
		if c.got != c.want {
			t.Errorf("%q, want %q", c.got, c.want)
		}
	}
}

// TestBoughtByFate: what is replaced on a circuit that was there is bought and the rest is not; where a charger is taken away what
// closes off the rest is; a charger that moves is the customer's own. Common practice, no source.
func TestBoughtByFate(t *testing.T) {
	circuit, at, s := british()
	there := *circuit
	there.Existing = job.Yes
	for _, c := range []struct {
		name         string
		change       func(*job.Circuit)
		bought, none []string
	}{
		{"a breaker in its own ways", func(c *job.Circuit) { c.Breaker.Fate = job.FateReplaced },
			[]string{"breaker"}, []string{"residual", "gland", there.Cable.Size, "blank"}},
		{"a residual device", func(c *job.Circuit) {
			c.Charger.Fate, c.RCD = job.FateKept, job.RCD{Fate: job.FateReplaced, Fitted: job.Yes, Type: job.TypeA, TripMA: 30}
		},
			[]string{"residual device type A"}, []string{"breaker", there.Charger.Type}},
		{"the old outlet out", func(c *job.Circuit) { c.Receptacle.Fate = job.FateTakenOut }, []string{"blank plate"}, []string{"receptacle", "breaker"}},
		{"a contactor", func(c *job.Circuit) {
			c.Charger.Fate, c.Mended = job.FateKept, job.Mended{Fault: "stops", Cause: "welded", Part: job.MendedContactor}
		}, []string{"contactor of"}, []string{"breaker", "gland", "screw"}},
		{"taken away, the cable stays", func(c *job.Circuit) {
			c.Charger.Fate, c.Breaker.Fate, c.Cable.Fate = job.FateTakenOut, job.FateTakenOut, job.FateKept
		}, []string{"closed box with connectors", "blank for the breaker's way"}, []string{"breaker B", "vehicle adapter", "drill bit", "receptacle"}},
		{"taken away, the breaker stays", func(c *job.Circuit) {
			c.Charger.Fate, c.Breaker.Fate, c.Cable.Fate = job.FateTakenOut, job.FateKept, job.FateTakenOut
		}, []string{"filler and sealant"}, []string{"closed box", "blank for"}},
		{"a charger that moves here", func(c *job.Circuit) { c.Existing, c.Charger.Moved = job.No, "DB-7" }, []string{"armoured gland", "breaker"}, nil},
	} {
		k, p := there, *at
		c.change(&k)
		j := &job.Job{Survey: job.Survey{Places: []job.Place{p}, SitePlan: s.SitePlan}, Design: job.Design{Circuits: []job.Circuit{k}}}
		parts := uk.Practice.Laying.TakeOff(j, route.Margins{})
		for _, name := range c.bought {
			if find(parts, name).Quantity == 0 {
				t.Errorf("%s: no %s among %v", c.name, name, parts)
			}
		}
		for _, part := range parts {
			for _, name := range c.none {
				if name != "" && strings.HasPrefix(part.Name, name) {
					t.Errorf("%s: %s is bought", c.name, part.Name)
				}
			}
			if k.Charger.Moved != "" && strings.HasPrefix(part.Name, "charger") && part.By != job.ByCustomer {
				t.Errorf("%s: %s, %s", c.name, part.Name, part.Why)
			}
		}
	}
}

// TestKeptCircuit: for a circuit that is kept nothing of it is bought, and no bit for its walls; the charger, what it is fixed
// with and an isolator are. Beside a new circuit the new one keeps its own parts.
func TestKeptCircuit(t *testing.T) {
	circuit, at, s := british()
	c, p := *circuit, *at
	c.Isolator, c.Existing = job.Yes, job.Yes
	j := &job.Job{Survey: job.Survey{Places: []job.Place{p}, SitePlan: s.SitePlan}, Design: job.Design{Circuits: []job.Circuit{c}}}
	parts := uk.Practice.Laying.TakeOff(j, route.Margins{})
	for _, part := range parts {
		for _, bought := range []string{c.Cable.Size, "breaker", "residual", "gland", "cable clip", "drill bit", "hole cutter"} {
			if strings.Contains(part.Name, bought) {
				t.Errorf("bought for a circuit that is kept: %s", part.Name)
			}
		}
	}
	if find(parts, "isolator").Quantity != 1 {
		t.Error("no isolator")
	}
	second, place := c, p
	second.Existing, second.Point, place.Point = job.No, "B", "B"
	j.Design.Circuits, j.Survey.Places = append(j.Design.Circuits, second), append(j.Survey.Places, place)
	if got := find(uk.Practice.Laying.TakeOff(j, route.Margins{}), "breaker"); got.Quantity != 1 || !strings.HasSuffix(got.Name, "B") {
		t.Errorf("the new circuit's breaker: %+v", got)
	}
}
