package us

import (
	"fmt"
	"math"
	"slices"
	"testing"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/rulebook"
	"dogbolt/core/verdict"
	"dogbolt/internal/testkit/ruletest"
)

// row is a ruletest.Case written without its field names, a line each.
type row struct {
	Name    string
	Change  func(*job.Job)
	Rule    string
	Verdict rulebook.Verdict
	Says    string
}

type change = ruletest.Change

var (
	onSupply   = ruletest.OnSupply
	panel      = ruletest.OnBoard
	place      = ruletest.OnPlace
	circuit    = ruletest.OnCircuit
	onRoute    = ruletest.OnRoute
	both       = ruletest.Both
	calibrated = ruletest.Calibrated
	paper      = ruletest.Paper
)

// receptacle makes the point a plug-in one.
func receptacle(rating, breaker, setting quantity.Ampere, gfci job.Answer) change {
	return circuit(func(c *job.Circuit) {
		c.Connection, c.Setting, c.Breaker.Rating = "receptacle", setting, breaker
		c.Receptacle = job.Receptacle{Rating: rating, GFCI: gfci, Neutral: job.Yes}
	})
}

// boxed makes the point a 50 A plug-in one on 6 AWG, two gangs wide, in a box.
func boxed(box string, clamps job.Answer) change {
	return both(receptacle(50, 50, 40, job.Yes), circuit(func(c *job.Circuit) {
		c.Receptacle.Box, c.Receptacle.Gangs, c.Receptacle.Clamps = job.Box(box), 2, clamps
	}))
}

// trench is the whole route in the ground, in PVC, inches deep.
func trench(under string, inches float64) job.Segment {
	return job.Segment{Method: job.Buried, Length: quantity.Feet(40), Wet: job.Yes, Under: job.Under(under), Cover: quantity.Inches(inches), Taped: job.Yes}
}

var read = ruletest.Read
var none = func(*job.Job) {}

func entry(kind job.EntryKind, point, subject, value string) change {
	return func(j *job.Job) { ruletest.Log(j, kind, point, subject, value) }
}

const (
	sound = rulebook.Sound
	watch = rulebook.Watch
	stop  = rulebook.Stop
	open  = rulebook.Open
)

// outletAlone is an outlet of 50 A for a charger to come.
var outletAlone = circuit(func(c *job.Circuit) {
	c.Connection, c.Setting, c.Breaker.Rating, c.Cable.EarthSize = job.PluggedIn, 40, 50, "8 AWG"
	c.Charger = job.Charger{Fate: job.FateNone, Phases: 1, Terminals: 75}
	c.Receptacle = job.Receptacle{Rating: 50, GFCI: job.Yes, Neutral: job.No, Box: "4.69-2.125", Gangs: 2, Clamps: job.No}
})

// TestRules changes one thing at a time of a job that meets every rule.
func TestRules(t *testing.T) {
	var list []ruletest.Case
	for _, c := range slices.Concat(cases, feeders, islands, renewals) {
		list = append(list, ruletest.Case(c))
	}
	for _, c := range edges {
		list = append(list, ruletest.Case{Name: c.Name, Change: c.Change, Rule: c.Rule, Verdict: c.Verdict, Says: c.Says})
	}
	list = append(list, ruletest.CommonEdges()...)
	ruletest.Run(t, ruletest.Example(t, "../../../docs/formats/examples/us-pass.json"), list)
}

var dry = job.Segment{Method: job.Conduit, Length: 12, Wet: job.No}

func with(s job.Segment, f func(*job.Segment)) job.Segment { f(&s); return s }

// cases change one thing of a job that meets every rule. Limits are those of
// NEC 2023 and of the sources that each rule names.
var cases = []row{
	{"no small board", none, "not-here", "", ""},
	{"a small board on the service's conductors", func(j *job.Job) { j.Design.Beside.Fitted = job.Yes }, "not-here", stop, "a small board on the service's own conductors"},
	{"something of a small board", func(j *job.Job) { j.Design.Beside.Tails = 25 }, "not-here", stop, ""},
	{"bonding as in Britain", func(j *job.Job) { j.Design.Bonds.Run = job.BondMissing }, "not-here", stop, "main bonding"},
	// Survey.
	{"as surveyed", none, "supply", sound, "240 V service, 200 A"},
	{"no system", onSupply(func(s *job.Supply) { s.System = "" }), "supply", open, "system"},
	{"a British system", onSupply(func(s *job.Supply) { s.System = job.TNS }), "supply", stop, "not a system"},
	{"no phases", onSupply(func(s *job.Supply) { s.Phases = 0 }), "supply", open, "phases"},
	{"no rating", onSupply(func(s *job.Supply) { s.Rating = 0 }), "supply", open, "disconnect"},
	{"rating not asked", onSupply(func(s *job.Supply) { s.RatingSeen = "" }), "supply", open, "read off"},
	{"the panel's rating", onSupply(func(s *job.Supply) { s.RatingSeen = job.No }), "supply", watch, "often not the service's"},
	{"243 V", none, "supply-voltage", sound, "228 V to 252 V"},
	{"227 V", onSupply(func(s *job.Supply) { s.Voltage = "227" }), "supply-voltage", watch, "range B"},
	{"208 V on a split-phase job", onSupply(func(s *job.Supply) { s.Voltage = "208" }), "supply-voltage", stop, "208Y/120"},
	{"208 V on a wye", onSupply(func(s *job.Supply) { s.System, s.Voltage = job.Wye208, "208" }), "supply-voltage", sound, "197 V to 218 V"},
	{"no voltage", onSupply(func(s *job.Supply) { s.Voltage = "" }), "supply-voltage", open, ""},
	{"32 of 42 circuits", none, "spaces", sound, "30 fitted + 2 = 32; the label allows 42"},
	{"an outlet, no charger: no setting of one", outletAlone, "setting-charger", "", ""},
	{"an outlet, no charger: nothing offers a current", outletAlone, "pilot", "", ""},
	{"an outlet, no charger: nobody schedules", outletAlone, "scheduler", "", ""},
	{"an outlet, no charger, not protected", both(outletAlone, circuit(func(c *job.Circuit) { c.Receptacle.GFCI = job.No })), "receptacle-gfci", stop, "without ground-fault"},
	{"an outlet, no charger, outdoors without a cover", both(outletAlone, circuit(func(c *job.Circuit) { c.Receptacle.Cover = job.No }),
		place(func(p *job.Place) { p.Outdoors = job.Yes })), "enclosure", stop, "without a cover"},
	{"an outlet, no charger, outdoors with a cover", both(outletAlone, circuit(func(c *job.Circuit) { c.Receptacle.Cover = job.Yes }),
		place(func(p *job.Place) { p.Outdoors = job.Yes })), "enclosure", sound, "the outlet's cover"},
	{"an outlet, no charger, of 50 A", outletAlone, "disconnect", sound, "50 A ≤ 60 A"},
	{"one of two circuits was there", both(ruletest.Twice(func(d *job.Design) { d.Circuits[0].Existing = job.Yes }),
		panel(func(b *job.Board) { b.CircuitsFitted = 40 })), "spaces", sound, "40 fitted + 2 = 42"},
	{"two new circuits", both(ruletest.Twice(func(*job.Design) {}), panel(func(b *job.Board) { b.CircuitsFitted = 40 })), "spaces", stop, "40 fitted + 4 = 44"},
	{"no pair", panel(func(b *job.Board) { b.FreePair = job.No }), "spaces", stop, "doubles"},
	{"pair not looked for", panel(func(b *job.Board) { b.FreePair = "" }), "spaces", open, "both legs"},
	{"circuits not counted", panel(func(b *job.Board) { b.CircuitsFitted = 0 }), "spaces", open, "circuits"},
	{"42 circuits of 42", panel(func(b *job.Board) { b.CircuitsFitted = 40 }), "spaces", sound, ""},
	{"43 circuits of 42", panel(func(b *job.Board) { b.CircuitsFitted = 41 }), "spaces", stop, "sub-panel"},
	{"no floor area", func(j *job.Job) { j.Survey.Dwelling.FloorArea = 0 }, "loads", open, "floor area"},
	{"no loads", func(j *job.Job) { j.Survey.Loads = nil }, "loads", open, "appliances"},
	{"no vehicle", func(j *job.Job) { j.Survey.Vehicles = nil }, "vehicles", open, ""},
	{"no route", onRoute(), "route", open, ""},
	{"wet or not", onRoute(with(dry, func(s *job.Segment) { s.Wet = "" })), "route", open, "segment 1 is in a wet location"},
	{"40 ft", none, "route", sound, "40 ft"},
	{"48 in indoors", none, "coupling-height", sound, "48.0 in"},
	{"17 in indoors", place(func(p *job.Place) { p.HolderHeight = quantity.Inches(17) }), "coupling-height", stop, "18 in indoors"},
	{"18 in indoors", place(func(p *job.Place) { p.HolderHeight = quantity.Inches(18) }), "coupling-height", sound, ""},
	{"18 in outdoors", place(func(p *job.Place) { p.HolderHeight, p.Outdoors = quantity.Inches(18), job.Yes }), "coupling-height", stop, "24 in outdoors"},
	{"24 in outdoors", place(func(p *job.Place) { p.HolderHeight, p.Outdoors = quantity.Inches(24), job.Yes }), "coupling-height", sound, ""},
	{"no height", place(func(p *job.Place) { p.HolderHeight = 0 }), "coupling-height", open, ""},
	{"in or out", place(func(p *job.Place) { p.Outdoors = "" }), "coupling-height", open, ""},

	// The circuit.
	{"shared circuit", circuit(func(c *job.Circuit) { c.Dedicated = job.No }), "own-circuit", stop, ""},
	{"set above the charger", circuit(func(c *job.Circuit) { c.Setting = 50 }), "setting-charger", stop, "charger rated 48 A"},
	{"48 A on 60 A", none, "breaker", sound, "48 A × 1.25 = 60 A ≤ 60 A"},
	{"48 A on 50 A", circuit(func(c *job.Circuit) { c.Breaker.Rating = 50 }), "breaker", stop, ""},
	{"55 A is no standard rating", circuit(func(c *job.Circuit) { c.Breaker.Rating = 55 }), "breaker", stop, "240.6(A)"},
	{"one pole", circuit(func(c *job.Circuit) { c.Breaker.Poles = 1 }), "breaker", stop, "two-pole"},
	{"no breaker", circuit(func(c *job.Circuit) { c.Breaker.Rating = 0 }), "breaker", open, ""},
	{"no setting", circuit(func(c *job.Circuit) { c.Setting = 0 }), "breaker", open, ""},
	{"6 AWG THWN-2 on 75 °C terminals", none, "terminal-ampacity", sound, "6 AWG: 65 A in the 75 °C column"},
	{"6 AWG NM-B on 60 A", circuit(func(c *job.Circuit) { c.Cable.Family = job.NMB }), "terminal-ampacity", stop, "55 A in the 60 °C column (NM-B is held to 60 °C, 334.80); 48 A × 1.25 = 60 A"},
	{"4 AWG NM-B on 60 A", circuit(func(c *job.Circuit) { c.Cable.Family, c.Cable.Size = job.NMB, "4 AWG" }), "terminal-ampacity", sound, "70 A"},
	{"6 AWG NM-B at 40 A on 50 A", circuit(func(c *job.Circuit) { c.Cable.Family, c.Setting, c.Breaker.Rating = job.NMB, 40, 50 }), "terminal-ampacity", sound, "55 A"},
	{"terminals not read", panel(func(b *job.Board) { b.Terminals = 0 }), "terminal-ampacity", open, "temperature"},
	{"no conductor", circuit(func(c *job.Circuit) { c.Cable.Size = "" }), "terminal-ampacity", open, ""},
	{"at 38 °C", none, "derated-ampacity", sound, "75 A at 90 °C × 0.91 × 1.00 = 68.2 A in segment 1"},
	{"six wires at 40 °C carry 54.6 A", onRoute(with(dry, func(s *job.Segment) { s.Ambient, s.Wires = ruletest.Celsius(40), 6 })), "derated-ampacity", sound, "54.6 A"},
	{"and pass on 60 A", onRoute(with(dry, func(s *job.Segment) { s.Ambient, s.Wires = ruletest.Celsius(40), 6 })), "conductor-protection", sound, "breaker up to 60 A"},
	{"six wires at 50 °C carry 49.2 A", onRoute(with(dry, func(s *job.Segment) { s.Ambient, s.Wires = ruletest.Celsius(50), 6 })), "derated-ampacity", sound, "49.2 A"},
	{"but fail on 60 A", onRoute(with(dry, func(s *job.Segment) { s.Ambient, s.Wires = ruletest.Celsius(50), 6 })), "conductor-protection", stop, "breaker up to 50 A; 60 A chosen"},
	{"ten wires at 50 °C do not carry it", onRoute(with(dry, func(s *job.Segment) { s.Ambient, s.Wires = ruletest.Celsius(50), 10 })), "derated-ampacity", stop, ""},
	{"no route", onRoute(), "derated-ampacity", open, ""},
	{"10 AWG ends at 30 A", circuit(func(c *job.Circuit) { c.Cable.Size, c.Setting, c.Breaker.Rating = "10 AWG", 28, 35 }), "conductor-protection", stop, "10 AWG ends at 30 A, 240.4(D)"},
	{"no breaker to protect with", circuit(func(c *job.Circuit) { c.Breaker.Rating = 0 }), "conductor-protection", open, ""},
	{"THWN-2 is wet-rated", none, "wet", sound, "allowed in wet"},
	{"NM-B in a wet place", both(circuit(func(c *job.Circuit) { c.Cable.Family = job.NMB }), onRoute(with(dry, func(s *job.Segment) { s.Wet = job.Yes }))), "wet", stop, "segment 1"},
	{"NM-B in the ground", both(circuit(func(c *job.Circuit) { c.Cable.Family = job.NMB }), onRoute(with(dry, func(s *job.Segment) { s.Method = job.Buried }))), "wet", stop, ""},
	{"no family", circuit(func(c *job.Circuit) { c.Cable.Family = "" }), "wet", open, ""},
	{"10 AWG ground for 60 A", none, "ground-size", sound, "10 AWG used, 10 AWG asked"},
	{"12 AWG ground for 60 A", circuit(func(c *job.Circuit) { c.Cable.EarthSize = "12 AWG" }), "ground-size", stop, ""},
	{"enlarged to 4 AWG", circuit(func(c *job.Circuit) { c.Cable.Size = "4 AWG" }), "ground-size", stop, "8 AWG asked: 10 AWG enlarged in proportion, 250.122(B)"},
	{"enlarged to 4 AWG with 8 AWG ground", circuit(func(c *job.Circuit) { c.Cable.Size, c.Cable.EarthSize = "4 AWG", "8 AWG" }), "ground-size", sound, ""},
	{"no ground", circuit(func(c *job.Circuit) { c.Cable.EarthSize = "" }), "ground-size", open, "equipment grounding"},
	{"drop over 40 ft", none, "drop", sound, "= 0.79 %"},
	{"drop over 200 ft is advice", onRoute(with(dry, func(s *job.Segment) { s.Length = quantity.Feet(200) })), "drop", watch, "not a violation"},
	{"drop without route", onRoute(), "drop", open, ""},
	{"service load, 220.83", none, "demand", sound, "by 220.83(A) + 48.0 A charging at 100 %"},
	{"inside the 40 % part", func(j *job.Job) { j.Design.EVInBucket = job.Yes }, "demand", sound, "+ 19.2 A charging inside the 40 % part"},
	{"by 220.82", func(j *job.Job) { j.Design.DemandMethod = "220.82" }, "demand", sound, "by 220.82 + 48.0 A"},
	{"220.82 on a 60 A service", both(onSupply(func(s *job.Supply) { s.Rating = 60 }), func(j *job.Job) { j.Design.DemandMethod = "220.82" }), "demand", open, "does not apply"},
	{"100 A service", onSupply(func(s *job.Supply) { s.Rating = 100 }), "demand", stop, "energy management"},
	{"100 A service managed to 80 A", both(onSupply(func(s *job.Supply) { s.Rating = 100 }), circuit(func(c *job.Circuit) { c.ManagedTo = 80 })), "demand", sound, "at most 80 A of the service 100 A"},
	{"100 A service managed to 90 A", both(onSupply(func(s *job.Supply) { s.Rating = 100 }), circuit(func(c *job.Circuit) { c.ManagedTo = 90 })), "demand", stop, "lower limit"},
	{"management not proved", circuit(func(c *job.Circuit) { c.ManagedTo = 160 }), "load-management", open, ""},
	{"measured, a year", onSupply(func(s *job.Supply) { s.PeakDemand, s.PeakDays, s.PeakMinutes = 60, 365, 15 }), "demand", sound, "75.0 A by 220.87 + 48.0 A"},
	{"measured, two weeks", onSupply(func(s *job.Supply) { s.PeakDemand, s.PeakDays = 60, 14 }), "demand", open, "30 days"},
	{"measured, 30 days beside another service", onSupply(func(s *job.Supply) {
		s.PeakDemand, s.PeakDays, s.PeakMinutes, s.PeakSeason, s.OtherSource, s.Second.Kind = 60, 30, 15, job.Yes, job.Yes, job.OtherService
	}), "demand", sound, ""},
	{"measured, 30 days with solar", onSupply(func(s *job.Supply) { s.PeakDemand, s.PeakDays, s.OtherSource = 60, 30, job.Yes }), "demand", open, "solar"},
	{"no service rating", onSupply(func(s *job.Supply) { s.Rating = 0 }), "demand", open, ""},
	{"48 A is 11 520 VA", none, "ev-load", sound, "11520 VA counted"},
	{"16 A counts 7200 VA", circuit(func(c *job.Circuit) { c.Setting = 16 }), "ev-load", sound, "3840 VA: 7200 VA counted"},
	{"no setting for the load", circuit(func(c *job.Circuit) { c.Setting = 0 }), "ev-load", open, ""},
	// A 50 A receptacle two gangs wide with 6 AWG takes 20 in³ for itself; with three
	// conductors and a 10 AWG ground 37.5 in³ (314.16(B), from memory).
	{"37.5 of 42 in³", boxed("4.69-2.125", job.No), "box-fill", sound, "37.5"},
	{"with clamps, 42.5 of 42 in³", boxed("4.69-2.125", job.Yes), "box-fill", stop, "42.5"},
	{"in a box of 30.3 in³", boxed("4-2.125", job.No), "box-fill", stop, "30.3"},
	{"no box", boxed("", job.No), "box-fill", open, "side and depth"},
	{"clamps not known", boxed("4.69-2.125", ""), "box-fill", open, "clamps"},
	{"4 AWG", both(boxed("4.69-2.125", job.No), circuit(func(c *job.Circuit) { c.Cable.Size = "4 AWG" })), "box-fill", watch, "314.28"},
	{"no receptacle, no box", none, "box-fill", "", ""},

	// The panel's map, the site plan and the route as drawn.
	{"mapped, full", panel(func(b *job.Board) {
		b.WaysFree, b.Layout, b.Ways, b.Slots = nil, "columns", 4, []job.Slot{{At: 1, Circuit: "a"}, {At: 2, Circuit: "b"}, {At: 3, Circuit: "c"}, {At: 4, Circuit: "d"}}
	}), "spaces", stop, "no room"},
	{"mapped, doubles allowed", panel(func(b *job.Board) {
		b.WaysFree, b.Layout, b.Ways, b.DoublesAt, b.Slots = nil, "columns", 4, []int{2, 4}, []job.Slot{{At: 1, Circuit: "a"}, {At: 2, Circuit: "b"}, {At: 3, Circuit: "c"}, {At: 4, Circuit: "d"}}
	}), "spaces", watch, "on a double with"},
	{"mapped, a pair free", panel(func(b *job.Board) {
		b.WaysFree, b.Layout, b.Ways, b.Slots = nil, "columns", 8, []job.Slot{{At: 1, Circuit: "a"}}
	}), "spaces", sound, "as it is"},
	{"360° between pull points", onRoute(with(dry, func(s *job.Segment) { s.Bends = 360 })), "route-bends", sound, "360°"},
	{"five right angles", onRoute(with(dry, func(s *job.Segment) { s.Bends = 450 })), "route-bends", stop, "pull point"},
	{"18 in in the garden", onRoute(trench("garden", 18)), "cover", sound, "table 300.5"},
	{"17 in in the garden", onRoute(trench("garden", 17)), "cover", stop, "18.00 in wanted"},
	{"18 in under the drive", onRoute(trench("drive", 18)), "cover", sound, ""},
	{"18 in under a street", onRoute(trench("street", 18)), "cover", stop, "24.00 in"},
	{"metal-clad cable, 20 in", both(onRoute(trench("garden", 20)), circuit(func(c *job.Circuit) { c.Cable.Family = job.MC })), "cover", stop, "24.00 in"},
	{"depth not measured", onRoute(trench("garden", 0)), "cover", open, "depth of segment 1"},
	{"laid at 17 of the 18 in surveyed", both(onRoute(trench("garden", 18)), entry(job.StepDone, "A", "way:buried", "17 in")), "cover", stop, "17.00 in deep as laid"},
	{"laid at 1.5 ft", both(onRoute(trench("garden", 17)), entry(job.StepDone, "A", "way:buried", "1.5 ft")), "cover", sound, "18.00 in deep as laid"},
	{"run as surveyed", entry(job.StepDone, "A", "cable", "39 ft"), "run", sound, "39.0 ft were run"},
	{"run 5 % longer", entry(job.StepDone, "A", "cable", "42 ft"), "run", sound, "42.0 ft were run"},
	{"run 3 ft longer", entry(job.StepDone, "A", "cable", "43 ft"), "run", watch, "43.0 ft were run"},
	{"½ in EMT", onRoute(with(dry, func(s *job.Segment) { s.Size = "½" })), "fill", stop, "larger raceway"},
	{"¾ in EMT", onRoute(with(dry, func(s *job.Segment) { s.Size = "¾" })), "fill", sound, "¾"},
	{"position not chosen", func(j *job.Job) { j.Survey.SitePlan.Positions = []job.Position{{ID: "A"}, {ID: "B"}} }, "position", open, "which"},
	{"the cord is short", func(j *job.Job) {
		s := &j.Survey
		s.SitePlan.Positions = []job.Position{{ID: "A", At: &job.XY{}}, {ID: "B", At: &job.XY{}}}
		s.SitePlan.Bays = []job.Bay{{ID: "1", Centre: job.XY{X: 12}, Length: 5, Width: 2.6}}
		s.Places[0].Position, s.Vehicles[0].Bay = "A", "1"
	}, "cord-reach", watch, "of 25.0 ft"},

	{"hard-wired", none, "receptacle", sound, "hard-wired"},
	{"connection not chosen", circuit(func(c *job.Circuit) { c.Connection = "" }), "receptacle", open, ""},
	{"40 A on a 50 A receptacle", receptacle(50, 50, 40, job.Yes), "receptacle", sound, ""},
	{"32 A on a 40 A circuit and a 50 A receptacle", receptacle(50, 40, 32, job.Yes), "receptacle", sound, ""},
	{"60 A receptacle", receptacle(60, 60, 48, job.Yes), "receptacle", stop, "at most 50 A"},
	{"30 A receptacle on 40 A", receptacle(30, 40, 24, job.Yes), "receptacle", stop, "30 A receptacle on a 40 A circuit"},
	{"48 A on a 50 A receptacle", receptacle(50, 50, 48, job.Yes), "receptacle", stop, "carries 40 A continuously"},
	{"receptacle not rated", receptacle(0, 50, 40, job.Yes), "receptacle", open, ""},
	{"receptacle without ground-fault protection", receptacle(50, 50, 40, job.No), "receptacle-gfci", stop, "without ground-fault"},
	{"receptacle, not asked", receptacle(50, 50, 40, ""), "receptacle-gfci", open, ""},
	{"receptacle, protected", receptacle(50, 50, 40, job.Yes), "receptacle-gfci", sound, ""},
	{"hard-wired indoors", none, "receptacle-gfci", "", ""},
	{"hard-wired outdoors at 50 A is argued", both(place(func(p *job.Place) { p.Outdoors = job.Yes }), circuit(func(c *job.Circuit) { c.Breaker.Rating = 50 })), "receptacle-gfci", watch, "inspector"},
	{"25 ft cord", none, "cord", sound, "25.0 ft"},
	{"28 ft cord", circuit(func(c *job.Circuit) { c.Charger.CordLength = quantity.Feet(28) }), "cord", stop, "cable-management"},
	{"28 ft cord, managed", circuit(func(c *job.Circuit) { c.Charger.CordLength, c.Charger.CordManaged = quantity.Feet(28), job.Yes }), "cord", sound, ""},
	{"socket", circuit(func(c *job.Circuit) { c.Charger.Outlet = "socket" }), "cord", sound, "no fixed cord"},
	{"cord not measured", circuit(func(c *job.Circuit) { c.Charger.CordLength = 0 }), "cord", open, ""},
	{"cord or socket", circuit(func(c *job.Circuit) { c.Charger.Outlet = "" }), "cord", open, ""},
	{"48 A charger needs no disconnect", none, "disconnect", sound, "not required"},
	{"60 A charger needs none", circuit(func(c *job.Circuit) { c.Charger.Rating = 60 }), "disconnect", sound, ""},
	{"80 A charger without one", circuit(func(c *job.Circuit) { c.Charger.Rating, c.Disconnect = 80, job.No }), "disconnect", stop, "lockable open"},
	{"80 A charger, not asked", circuit(func(c *job.Circuit) { c.Charger.Rating = 80 }), "disconnect", open, ""},
	{"80 A charger with one", circuit(func(c *job.Circuit) { c.Charger.Rating, c.Disconnect = 80, job.Yes }), "disconnect", sound, ""},
	{"hard-wired has no pattern", none, "neutral", "", ""},
	{"pattern has a neutral", receptacle(50, 50, 40, job.Yes), "neutral", sound, ""},
	{"pattern lacks the neutral", both(receptacle(50, 50, 40, job.Yes), circuit(func(c *job.Circuit) { c.Charger.NeedsNeutral, c.Receptacle.Neutral = job.Yes, job.No })), "neutral", stop, "four-wire"},
	{"pattern not asked", both(receptacle(50, 50, 40, job.Yes), circuit(func(c *job.Circuit) { c.Receptacle.Neutral = "" })), "neutral", open, ""},

	// On site.
	{"no white hot", none, "white", sound, ""},
	{"white not asked", circuit(func(c *job.Circuit) { c.Cable.WhiteIsHot = "" }), "white", open, ""},
	{"white hot in conduit", circuit(func(c *job.Circuit) { c.Cable.WhiteIsHot = job.Yes }), "white", stop, "another colour"},
	{"white hot in NM-B, none re-marked", circuit(func(c *job.Circuit) { c.Cable.WhiteIsHot, c.Cable.Family = job.Yes, job.NMB }), "white", stop, "every visible end"},
	{"white hot in NM-B, not logged", both(circuit(func(c *job.Circuit) { c.Cable.WhiteIsHot, c.Cable.Family = job.Yes, job.NMB }), entry(job.StepDone, "A", "remark", "")), "white", open, ""},
	{"white hot in NM-B, re-marked", both(circuit(func(c *job.Circuit) { c.Cable.WhiteIsHot, c.Cable.Family = job.Yes, job.NMB }), entry(job.StepDone, "A", "remark", "every visible end")), "white", sound, "every visible end"},
	{"torque recorded", none, "torque", sound, "6 terminals"},
	{"one terminal left", entry(job.TorqueMade, "A", "charger-l2", ""), "torque", open, "5 of 6 terminals; next: charger, L2"},
	{"tightened to 30 of 36", entry(job.TorqueMade, "A", "board-l1", "30"), "torque", stop, "label 36"},
	{"tightened to 35 of 36", entry(job.TorqueMade, "A", "board-l1", "35"), "torque", sound, ""},
	{"directory written", none, "directory", sound, "EV charger"},
	{"directory not written", entry(job.StepDone, "", "labels", ""), "directory", open, ""},

	// Readings.
	{"ground 0.06 Ω", none, "ground-continuity", sound, "10 AWG over 40 ft"},
	{"ground 0.4 Ω", read("ground-continuity", "0.2"), "ground-continuity", watch, "loose joint"},
	{"ground 3 Ω", read("ground-continuity", "3"), "ground-continuity", stop, "open or badly joined"},
	{"ground >20 Ω", read("ground-continuity", ">20"), "ground-continuity", stop, ""},
	{"ground OL", read("ground-continuity", "OL"), "ground-continuity", open, ""},
	{"ground not read", read("ground-continuity", ""), "ground-continuity", open, ""},
	{"insulation >999", none, "insulation", sound, ""},
	{"insulation 20", read("insulation", "20"), "insulation", watch, "25 MΩ"},
	{"insulation 0.9", read("insulation", "0.9"), "insulation", stop, ""},
	{"hot to hot 243", none, "hot-hot", sound, "243 V read"},
	{"same leg", read("hot-hot", "0"), "hot-hot", stop, "same leg"},
	{"two legs of 208", read("hot-hot", "208"), "hot-hot", stop, "208Y/120"},
	{"hot and neutral", read("hot-hot", "121"), "hot-hot", stop, "one hot and neutral"},
	{"out of range", read("hot-hot", "260"), "hot-hot", stop, "utility"},
	{"not read", read("hot-hot", ""), "hot-hot", open, ""},
	{"121 and 121", none, "hot-ground", sound, "114 V to 126 V each"},
	{"one leg not read", read("hot-ground-l2", ""), "hot-ground", open, ""},
	{"ground at L1's potential: 0 and 240", both(read("hot-ground-l1", "0"), read("hot-ground-l2", "240")), "hot-ground", stop, "potential"},
	{"line and ground exchanged: 120 and 240", both(read("hot-ground-l1", "120"), read("hot-ground-l2", "240")), "hot-ground", stop, "exchanged"},
	{"floating neutral: 180 and 60", both(read("hot-ground-l1", "180"), read("hot-ground-l2", "60")), "hot-ground", stop, "floating neutral"},
	{"high leg: 208 and 120", both(read("hot-ground-l1", "208"), read("hot-ground-l2", "120")), "hot-ground", stop, "high leg"},
	{"hard-wired has no receptacle trip", none, "gfci-trip", "", ""},
	{"trip at 5 mA", both(receptacle(50, 50, 40, job.Yes), read("gfci-trip", "5")), "gfci-trip", sound, "4 mA to 6 mA"},
	{"trip at 7 mA", both(receptacle(50, 50, 40, job.Yes), read("gfci-trip", "7")), "gfci-trip", stop, ""},
	{"trip not tested", receptacle(50, 50, 40, job.Yes), "gfci-trip", open, ""},
	{"self-test failed", read("gf-self-test", "failed"), "gf-self-test", stop, ""},
	{"states wrong", read("vehicle-states", "wrong"), "vehicle-states", stop, ""},
	{"pilot 80 % is 48 A", none, "pilot", sound, "48 A ÷ 0.6 = 80.0 %"},
	{"64 A by the second formula", both(circuit(func(c *job.Circuit) { c.Setting, c.Charger.Rating = 64, 80 }), read("pilot", "89.6")), "pilot", sound, "64 A ÷ 2.5 + 64 = 89.6 %"},
	{"pilot 60 %", read("pilot", "60"), "pilot", stop, "offers 36.0 A"},

	// Shared rules, by this book's terms.
	{"set above breaker ÷ 1.25", entry(job.SettingMade, "A", "amps", "50"), "setting", stop, "50 A set > 48 A, breaker ÷ 1.25"},
	{"rebate not decided", func(j *job.Job) { paper(j, "grant").Needed = job.Unasked }, "papers-order", open, "Rebate"},
	{"rough-in not passed", func(j *job.Job) { paper(j, "rough-in").Needed, paper(j, "rough-in").Granted = job.Yes, "" }, "papers-covering", open, "Rough-in"},
	{"permit after the work", func(j *job.Job) { paper(j, "permit").Granted = "2027-01-01" }, "paper-dates", stop, "after the day"},
	{"permit not granted", func(j *job.Job) { paper(j, "permit").Granted = "" }, "papers-installing", open, "permit"},
	{"utility not answered", func(j *job.Job) { paper(j, "utility").Granted = "" }, "papers-energising", open, "Utility"},
	{"paper before sealing", func(j *job.Job) { paper(j, "permit").Before, paper(j, "permit").Granted = "sealing", "" }, "papers-sealing", open, ""},
	{"no parts", func(j *job.Job) { j.Plan.Parts = nil }, "parts-in-hand", open, ""},
	{"instrument out of calibration", calibrated("hot-hot", "2020-01-31"), "calibration", stop, "2020-01-31"},
	{"instrument in calibration", calibrated("hot-hot", "2040-01-31"), "calibration", sound, "1 readings"},
	{"readings that do not agree", read("hot-ground-l1", "104"), "doubtful", watch, "legs differ"},
	{"insulation hot to hot 0.5", read("insulation-live", "0.5"), "insulation-live", stop, "at least 1 MΩ"},
	{"ground at 6 V to neutral", both(circuit(func(c *job.Circuit) { c.Charger.NeedsNeutral = job.Yes }), read("stray", "6")), "stray", watch, "loaded or loose neutral"},
	{"lowest setting offers 10 A", read("pilot-low", "16.7"), "pilot-low", stop, "6 A wants 10.0 % duty"},
	{"half of the setting stays", read("pilot-mid", "80"), "pilot-mid", stop, ""},
	{"pilot shorted, charges on", read("pilot-fault", "wrong"), "pilot-fault", stop, "does not stop"},
	{"load management slow", both(circuit(func(c *job.Circuit) { c.ManagedTo = 80 }), read("management-time", "25")), "management-time", watch, "at most 10 s"},
	{"nothing noted", both(read("network", ""), read("firmware", ""), read("meter", "")), "charger-notes", open, ""},
	{"serial number not known", circuit(func(c *job.Circuit) { c.Charger.Serial = "" }), "charger-notes", watch, "Serial number"},
	{"firmware not noted", read("firmware", ""), "charger-notes", watch, "Firmware"},
	{"failed, tested again, not a word", func(j *job.Job) {
		for i := range j.Log {
			if e := &j.Log[i]; e.Subject == "gf-self-test" {
				old := *e
				old.ID, old.Value, e.Replaces = "reading-before", "failed", "reading-before"
				j.Log = slices.Insert(j.Log, i, old)
				return
			}
		}
	}, "retests", watch, "without cause and remedy"},
	{"no day", func(j *job.Job) { j.Plan.Day = "" }, "day-and-crew", open, ""},
	{"a pair not proved dead", read("dead:L1-G", ""), "dead-proved", stop, ""},
	{"lids left off", entry(job.StepDone, "", "lids", ""), "steps-done", open, ""},
	{"energised alone", entry(job.StepDone, "", "energise", "R. Delacroix"), "energised-agreed", stop, "J. Whitlock"},
	{"no instrument", func(j *job.Job) {
		for i := range j.Log {
			j.Log[i].Instrument = ""
		}
	}, "instrument", open, ""},
	{"design not signed", entry(job.SignedOff, "", "design", ""), "signed-design", open, ""},
	{"workmanship not looked at", ruletest.Inspected("panel-work", "", ""), "inspected", open, "1 of 24 items: Breaker listed"},
	{"two wires under one screw", ruletest.Inspected("panel-work", "not-right", "two grounds under one screw"), "inspected", stop, "two grounds"},
	{"an outlet that a battery carries, not tried with the grid out", both(outletAlone, circuit(func(c *job.Circuit) { c.Side = job.BackedSide })), "grid-out", open, "one answer"},
	{"an inspector wants something", atFinal("panel-work", ""), "inspected", open, "not put right for the inspector: two grounds"},
	{"put right for an inspector, and not looked at since", atFinal("panel-work", "split them onto two screws"), "inspected", open, "work was done since: Breaker listed"},
	{"put right, of no thing on the list", atFinal(job.OtherThing, "swept the driveway and hauled it off"), "inspected", sound, ""},
	{"an inspector wants something at the rough-in", rough("", ""), "papers-covering", open, "Rough-in"},
	{"passed, and not said to be put right", rough("", "2026-05-06"), "papers-covering", open, "Rough-in"},
	{"put right, and not inspected again", rough("stapled at eight inches", "2026-05-02"), "papers-covering", open, "Rough-in"},
	{"put right, and passed the same day", rough("stapled at eight inches", "2026-05-04"), "papers-covering", sound, ""},
	{"no listing mark", circuit(func(c *job.Circuit) { c.Charger.Listing = "" }), "certificate", open, "Equipment, A"},
	{"equipment not named", circuit(func(c *job.Circuit) { c.Charger.Type = "" }), "certificate", open, "Equipment, A"},
	{"ground not read, for the inspector", read("ground-continuity", ""), "certificate", open, "Ground, to panel"},
	{"construction not signed", entry(job.SignedOff, "", "construction", ""), "signed-construction", open, ""},
	{"no scheduler", entry(job.SettingMade, "A", "scheduler", ""), "scheduler", open, ""},
	{"no point", func(j *job.Job) { j.Survey.Places = nil }, "points", open, ""},

	{"surge protection declined", circuit(func(c *job.Circuit) { c.SPD = "declined" }), "spd", watch, "new or replaced"},
	{"surge protection replaced", circuit(func(c *job.Circuit) { c.SPD = job.SPDReplaced }), "spd", sound, "replaced"},
	{"surge protection fitted", circuit(func(c *job.Circuit) { c.SPD = "fitted" }), "spd", sound, ""},

	// 220.87: 125 % of the highest of twelve monthly peaks (from memory).
	{"twelve monthly peaks", onSupply(func(s *job.Supply) {
		s.Monthly, s.PeakMinutes = []float64{30, 31, 32, 33, 34, 40, 36, 35, 34, 33, 32, 31}, 15
	}), "loads", sound, "50.0 A"},
	{"eleven monthly peaks do not count", onSupply(func(s *job.Supply) { s.Monthly = []float64{30, 31, 32, 33, 34, 40, 36, 35, 34, 33, 32} }), "loads", sound, "220.83"},
	{"a month that is not known", onSupply(func(s *job.Supply) { s.Monthly = []float64{30, 31, 32, 33, 34, 40, 36, 35, 34, 33, 32, 0} }), "loads", sound, "220.83"},

	// Two points.
	{"two points, not decided", ruletest.Twice(func(*job.Design) {}), "sharing", open, "separate circuits"},
	{"two points, separate", ruletest.Twice(func(d *job.Design) { d.Sharing = "separate" }), "sharing", sound, "at its setting"},
	{"two points, no limit", ruletest.Twice(func(d *job.Design) { d.Sharing = "load-sharing" }), "sharing", open, "limit of all points"},
	{"10 A in two parts", ruletest.Twice(func(d *job.Design) { d.Sharing, d.SharedTo = "shared-limit", 10 }), "sharing", stop, "5.0 A each"},
	{"10 A shared out", ruletest.Twice(func(d *job.Design) { d.Sharing, d.SharedTo = "load-sharing", 10 }), "sharing", sound, ""},
	{"a shared limit is proved", ruletest.Twice(func(d *job.Design) { d.Sharing, d.SharedTo = "load-sharing", 40 }), "load-management", open, ""},
	{"one point shares with nobody", none, "sharing", "", ""},
}

// TestArrange: a plug-in charger has its caps and its ground-fault rule, and the
// four-wire pattern where it needs a neutral (625.44, 625.54, from memory).
func TestArrange(t *testing.T) {
	j := ruletest.Example(t, "../../../docs/formats/examples/us-pass.json")
	c := &j.Design.Circuits[0]
	c.Setting, c.Breaker.Rating, c.Charger.NeedsNeutral = 40, 50, job.Yes
	c.Receptacle = job.Receptacle{Box: "4.69-2.125", Gangs: 2, Clamps: job.No}
	ruletest.Arranged(t, &j, map[string]verdict.Verdict{
		"hard-wired": "watch", "50 A receptacle, four-wire with neutral": "sound", "50 A receptacle, three-wire without neutral": "stop", "30 A receptacle, three-wire without neutral": "stop",
		"at the charger, lockable open": "sound",
	})
}

// TestWorkingSpaceDrawn: the sizes that are drawn are those that the rule tells, NEC 110.26(A)(1) to (3) to 150 V to ground: 3 ft,
// 30 in, 6 1/2 ft; from memory.
func TestWorkingSpaceDrawn(t *testing.T) {
	var feet, wide, tall, over float64
	if _, err := fmt.Sscanf(clearSpace, "%f ft deep, %f in wide and as wide as the panel, %f ft %f in high", &feet, &wide, &tall, &over); err != nil {
		t.Fatal(err)
	}
	for name, is := range map[string][3]float64{
		"depth":  {workingSpace.Depth.Inches(), feet * 12, 36},
		"width":  {workingSpace.Width.Inches(), wide, 30},
		"height": {workingSpace.Height.Inches(), tall*12 + over, 78},
	} {
		if math.Abs(is[0]-is[2]) > 1e-9 || math.Abs(is[1]-is[2]) > 1e-9 {
			t.Errorf("%s: drawn %g in, told %g in, want %g in", name, is[0], is[1], is[2])
		}
	}
}

// atFinal returns a change by which an inspector wants something put right, which it was where done says how.
func atFinal(thing, done string) ruletest.Change {
	return ruletest.Corrected(job.Entry{Subject: "final", Value: thing, Day: "2026-05-04", Reason: "two grounds under one screw at the bar"}, done)
}

// rough is one at the rough-in, which passed on a day.
func rough(done, passed string) ruletest.Change {
	return both(ruletest.Corrected(job.Entry{Subject: "rough-in", Value: job.OtherThing, Day: "2026-05-04", Reason: "no staple within eight inches of the box"}, done),
		func(j *job.Job) {
			p := paper(j, "rough-in")
			p.Needed, p.Sent, p.Granted = job.Yes, "2026-05-01", passed
		})
}
