package uk

import (
	"slices"
	"testing"
	"time"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/rulebook"
	"dogbolt/core/verdict"
	"dogbolt/core/worklog"
	"dogbolt/internal/testkit/ruletest"
)

const examples = "../../../docs/formats/examples/"

// row is a ruletest.Case written without its field names, a line each.
type row struct {
	Name    string
	Change  func(*job.Job)
	Rule    string
	Verdict rulebook.Verdict
	Says    string
}

// Shorthands for changes of the example job.
type change = ruletest.Change

var (
	onSupply   = ruletest.OnSupply
	board      = ruletest.OnBoard
	place      = ruletest.OnPlace
	circuit    = ruletest.OnCircuit
	onRoute    = ruletest.OnRoute
	both       = ruletest.Both
	calibrated = ruletest.Calibrated
	paper      = ruletest.Paper
)

var read = ruletest.Read

func pointTT(ra quantity.Ohm, separation quantity.Metre) change {
	return circuit(func(c *job.Circuit) {
		c.Earthing = job.PointEarthing{OpenPEN: "tt", RA: ra, Separation: separation, ArmourApart: job.Yes}
	})
}

// What takes the place of a residual device upstream.
var (
	ahead = job.Ahead{Type: job.TypeA, Rating: 63, TripMA: 30, Delayed: job.No, Feeds: "sockets, shower"}
	slow  = job.Ahead{Type: job.TypeA, Rating: 63, TripMA: 100, Delayed: job.Yes, Feeds: "the board"}
)

// onSub feeds the board over a sub-main with the loop at its end, Ω, and its drop, %. That the drop counts from the origin: appendix 4
// section 6.4; the loop at the end of a distribution circuit: GN3.
func onSub(loop quantity.Ohm, drop float64) change {
	return board(func(b *job.Board) {
		four := quantity.Ampere(4)
		b.FedFrom, b.OtherDemand, b.Loop, b.Drop = job.FromSubMain, &four, loop, drop
	})
}

// carriedOn carries an old circuit on over the last 5 m of its route, of which so much was run.
func carriedOn(run string) change {
	return func(j *job.Job) {
		c := &j.Design.Circuits[0]
		c.Existing, c.Beyond = job.Yes, job.Beyond{From: 2, Cable: c.Cable, Accessible: job.Yes, Suited: job.Yes}
		c.Beyond.Cable.Fate = job.FateNew
		ruletest.Log(j, job.StepDone, "A", worklog.RunCable, run)
	}
}

// upstream finds a residual device upstream, and replaces it.
func upstream(found job.Upstream, by job.Ahead) change {
	return func(j *job.Job) { j.Survey.Board.UpstreamRCDType, j.Design.Ahead = found, by }
}

// aheadRead reads a test that the example's job does not have.
func aheadRead(test, value string) change {
	return func(j *job.Job) { ruletest.Log(j, job.ReadingMade, "A", test, value) }
}

// threePhases makes the charger one of three phases, at which more is read.
var threePhases = circuit(func(c *job.Circuit) { c.Charger.Phases = 3 })

// retest puts a reading before that of a test, which replaces it for a reason.
func retest(test, before, reason string) change {
	return func(j *job.Job) {
		for i := range j.Log {
			if e := &j.Log[i]; e.Kind == job.ReadingMade && e.Subject == test {
				old := *e
				old.ID, old.Value = "reading-before", before
				e.Replaces, e.Reason = old.ID, reason
				j.Log = slices.Insert(j.Log, i, old)
				return
			}
		}
	}
}

var none = func(*job.Job) {}

const (
	sound = rulebook.Sound
	watch = rulebook.Watch
	stop  = rulebook.Stop
	open  = rulebook.Open
)

// mapped draws the board: ways in one row.
func mapped(ways int, slots ...job.Slot) change {
	return board(func(b *job.Board) { b.Layout, b.Rows, b.Ways, b.WaysFree, b.Slots = "rows", 1, ways, nil, slots })
}

// stepped records what a step of the point says.
func stepped(step, value string) change {
	return func(j *job.Job) { ruletest.Log(j, job.StepDone, "A", step, value) }
}

func laid(deep string) change {
	return both(onRoute(buried("garden", 0.5, job.Yes)), stepped("way:buried", deep))
}

func buried(under string, depth quantity.Metre, taped job.Answer) job.Segment {
	return job.Segment{Method: job.Buried, Length: 16, Under: job.Under(under), Cover: depth, Taped: taped}
}

var singles = circuit(func(c *job.Circuit) { c.Cable = job.Cable{Family: job.Singles, Size: "6 mm²"} })

// drawn draws a site plan: a wall with two positions, a gas meter 1.25 m away, and a bay
// beside it with the vehicle in it. Then it makes the change.
func drawn(f func(*job.Survey)) change {
	return func(j *job.Job) {
		s := &j.Survey
		s.SitePlan = job.SitePlan{
			Walls:     []job.Wall{{From: job.XY{X: 0, Y: 0}, To: job.XY{X: 0, Y: 6}, Thick: 0.2}},
			Gas:       []job.Gas{{Kind: "meter", From: job.XY{X: 0.1, Y: 4.25}}},
			Bays:      []job.Bay{{ID: "1", Centre: job.XY{X: 2.6, Y: 3}, Length: 5, Width: 2.6, Heading: 90}},
			Positions: []job.Position{{ID: "A", At: &job.XY{X: 0.1, Y: 3}, Height: 1.1}, {ID: "B", At: &job.XY{X: 0.1, Y: 5}, Height: 1.1}},
			Board:     &job.XY{X: -6, Y: 3},
		}
		s.Vehicles[0].Bay, s.Vehicles[0].Inlet, s.Places[0].Position = "1", "rear-left", "A"
		if f != nil {
			f(s)
		}
	}
}

// undrawn takes the positions off the plan: the way of the cord is measured, m, and whether it is
// clear of gas is asked.
func undrawn(cord quantity.Metre, gas job.Answer) func(*job.Survey) {
	return func(s *job.Survey) {
		for i := range s.SitePlan.Positions {
			p := &s.SitePlan.Positions[i]
			p.At, p.Cord, p.Gas = nil, cord, gas
		}
	}
}

// TestRules changes one thing at a time of a job that meets every rule.
func TestRules(t *testing.T) {
	var list []ruletest.Case
	for _, c := range slices.Concat(cases, subMains, islands, smallBoards) {
		list = append(list, ruletest.Case(c))
	}
	for _, c := range slices.Concat(edges, renewals) {
		list = append(list, ruletest.Case{Name: c.Name, Change: c.Change, Rule: c.Rule, Verdict: c.Verdict, Says: c.Says})
	}
	list = append(list, ruletest.CommonEdges()...)
	ruletest.Run(t, ruletest.Example(t, examples+"uk-pass.json"), list)
}

// cases change one thing of a job that meets every rule. Limits are those of
// BS 7671:2018+A2:2022 and of the sources that each rule names.
var cases = []row{
	// Supply.
	{"as surveyed", none, "supply", sound, "TN-C-S, 1 phase, cutout 100 A"},
	{"no system", onSupply(func(s *job.Supply) { s.System = "" }), "supply", open, "earthing system"},
	{"an American system", onSupply(func(s *job.Supply) { s.System = job.Split240 }), "supply", stop, "not an earthing system"},
	{"no phases", onSupply(func(s *job.Supply) { s.Phases = 0 }), "supply", open, "number of phases"},
	{"no cutout", onSupply(func(s *job.Supply) { s.Rating = 0 }), "supply", open, "cutout"},
	{"rating not asked", onSupply(func(s *job.Supply) { s.RatingSeen = "" }), "supply", open, "read off the fuse"},
	{"rating assumed", onSupply(func(s *job.Supply) { s.RatingSeen = job.No }), "supply", watch, "often not the service's"},
	{"238 V", none, "supply-voltage", sound, "216.2 V to 253.0 V"},
	{"no voltage", onSupply(func(s *job.Supply) { s.Voltage = "" }), "supply-voltage", open, "measured voltage"},
	{"216.1 V", onSupply(func(s *job.Supply) { s.Voltage = "216.1" }), "supply-voltage", stop, "216.1 V read"},
	{"216.2 V", onSupply(func(s *job.Supply) { s.Voltage = "216.2" }), "supply-voltage", sound, ""},
	{"253.1 V", onSupply(func(s *job.Supply) { s.Voltage = "253.1" }), "supply-voltage", stop, ""},
	{"253 V", onSupply(func(s *job.Supply) { s.Voltage = "253" }), "supply-voltage", sound, ""},
	{"Ze 0.35 on TN-C-S", none, "declared-ze", sound, "0.35 Ω"},
	{"Ze 0.40 on TN-C-S", onSupply(func(s *job.Supply) { s.DeclaredZe = 0.40 }), "declared-ze", watch, "usual most"},
	{"Ze 0.80 on TN-S", onSupply(func(s *job.Supply) { s.System, s.DeclaredZe = job.TNS, 0.80 }), "declared-ze", sound, "0.80"},
	{"Ze 0.85 on TN-S", onSupply(func(s *job.Supply) { s.System, s.DeclaredZe = job.TNS, 0.85 }), "declared-ze", watch, ""},
	{"no Ze", onSupply(func(s *job.Supply) { s.DeclaredZe = 0 }), "declared-ze", open, "declared"},
	{"TT without electrode", onSupply(func(s *job.Supply) { s.System = job.TT }), "declared-ze", open, "electrode"},
	{"TT with electrode", onSupply(func(s *job.Supply) { s.System, s.ElectrodeRA = job.TT, 80 }), "declared-ze", sound, "80 Ω"},
	{"three ways free", none, "board", sound, "3 of 12"},
	{"no way free", board(func(b *job.Board) { *b.WaysFree = 0 }), "board", stop, "0 of 12"},
	{"one of two circuits was there, one way free", both(ruletest.Twice(func(d *job.Design) { d.Circuits[0].Existing = job.Yes }),
		board(func(b *job.Board) { *b.WaysFree = 1 })), "board", sound, "1 of 12"},
	{"two new circuits, one way free", both(ruletest.Twice(func(*job.Design) {}), board(func(b *job.Board) { *b.WaysFree = 1 })), "board", stop, "1 of 12"},
	{"ways not counted", board(func(b *job.Board) { b.WaysFree = nil }), "board", open, "how many are free"},
	{"more free than there are", board(func(b *job.Board) { *b.WaysFree = 13 }), "board", stop, "count again"},
	{"measured demand", none, "loads", sound, "24.0 A"},
	{"no loads and no measurement", func(j *job.Job) { j.Survey.Loads, j.Survey.Supply.PeakDemand = nil, 0 }, "loads", open, "appliances"},
	{"a load without rating", func(j *job.Job) { j.Survey.Supply.PeakDemand = 0; j.Survey.Loads[0].Power = 0 }, "loads", open, "rating of cooker"},
	{"no vehicle", func(j *job.Job) { j.Survey.Vehicles = nil }, "vehicles", open, "vehicle"},
	{"no on-board charger", func(j *job.Job) { j.Survey.Vehicles[0].OnBoard = 0 }, "vehicles", open, "on-board charger of hatchback"},
	{"no inlet", func(j *job.Job) { j.Survey.Vehicles[0].Inlet = "" }, "vehicles", open, "inlet"},
	{"no route", onRoute(), "route", open, "method and length"},
	{"segment without method", onRoute(job.Segment{Length: 3}), "route", open, ""},
	{"a route", none, "route", sound, "16.0 m"},
	{"no point", func(j *job.Job) { j.Survey.Places = nil }, "points", open, "at least one"},
	{"1.1 m", none, "holder-height", sound, "1.10 m"},
	{"0.49 m", place(func(p *job.Place) { p.HolderHeight = 0.49 }), "holder-height", stop, "0.5 m and 1.5 m"},
	{"0.5 m", place(func(p *job.Place) { p.HolderHeight = 0.5 }), "holder-height", watch, "easier"},
	{"1.5 m", place(func(p *job.Place) { p.HolderHeight = 1.5 }), "holder-height", watch, ""},
	{"60 in is 1.524 m", place(func(p *job.Place) { p.HolderHeight = 1.524 }), "holder-height", stop, ""},
	{"no height", place(func(p *job.Place) { p.HolderHeight = 0 }), "holder-height", open, "height"},

	// The board's map, the site plan and the route as drawn.
	{"mapped, a gap of two", mapped(8, job.Slot{At: 1, Poles: 2, Circuit: "main switch", Fixed: job.Yes}), "board", sound, "fits in 3 and 4 as it is"},
	{"mapped, after a move", mapped(5, job.Slot{At: 1, Poles: 2, Circuit: "main switch", Fixed: job.Yes}, job.Slot{At: 4, Circuit: "ring"}), "board", watch, "ring from 4 to"},
	{"mapped, full", mapped(4, job.Slot{At: 1, Poles: 2, Circuit: "main switch", Fixed: job.Yes}, job.Slot{At: 3, Poles: 2, Circuit: "shower"}), "board", stop, "no room"},
	{"a segment without length", onRoute(job.Segment{Method: job.Surface, Length: 3}, job.Segment{Method: job.ThroughWall}), "route", open, ""},
	{"shorter than the straight line", both(drawn(nil), place(func(p *job.Place) { p.Route = p.Route[:1]; p.Route[0].Length = 2 })), "route", stop, "a stretch is missing"},
	{"360° between draw-in points", onRoute(job.Segment{Method: job.Conduit, Length: 3, Bends: 360}), "route-bends", sound, "360°"},
	{"450° between draw-in points", onRoute(job.Segment{Method: job.Conduit, Length: 3, Bends: 450}), "route-bends", watch, "450°"},
	{"0.5 m in the garden, taped", onRoute(buried("garden", 0.5, job.Yes)), "buried", sound, "0.50 m deep"},
	{"0.5 m in the garden, no tape", onRoute(buried("garden", 0.5, job.No)), "buried", watch, "tape"},
	{"0.5 m under the drive", onRoute(buried("drive", 0.5, job.Yes)), "buried", watch, "0.60 m wanted"},
	{"depth not measured", onRoute(buried("garden", 0, job.Yes)), "buried", open, "depth of segment 1"},
	{"laid at 400 of the 500 mm surveyed", laid("400 mm"), "buried", watch, "0.40 m deep as laid"},
	{"laid at 0.5 m", laid("0.5 m"), "buried", sound, "0.50 m deep as laid"},
	{"laid, in words of an earlier version", laid("two spades"), "buried", sound, "0.50 m deep under"},
	{"run as surveyed", stepped("cable", "15.6 m"), "run", sound, "15.6 m were run"},
	{"run 5 % longer", stepped("cable", "16.8 m"), "run", sound, "judged by 16.0 m"},
	{"run more than 5 % longer", stepped("cable", "16.9 m"), "run", watch, "16.9 m were run"},
	{"run half of it", stepped("cable", "8 m"), "run", sound, "8.0 m were run"},
	{"run less than half of it", stepped("cable", "7.9 m"), "run", watch, "7.9 m were run"},
	{"laid deeper than can be", laid("600 m"), "buried", sound, "0.50 m deep under"},
	{"run in millimetres", stepped("cable", "20000 mm"), "run", watch, "20.0 m were run"},
	{"under what", onRoute(buried("", 0.5, job.Yes)), "buried", open, "garden, drive or street"},
	{"two positions, one chosen", drawn(nil), "position", sound, "A of 2; 1250 mm from the gas meter"},
	{"150 mm from the gas meter", drawn(func(s *job.Survey) { s.SitePlan.Gas[0].From = job.XY{X: 0.1, Y: 3.149} }), "position", stop, "149 mm"},
	{"none chosen", drawn(func(s *job.Survey) { s.Places[0].Position = "" }), "position", open, "which of the positions"},
	{"no reason", drawn(func(s *job.Survey) { s.Places[0].Why = " " }), "position", open, "why position A"},
	{"one position alone", drawn(func(s *job.Survey) { s.SitePlan.Positions = s.SitePlan.Positions[:1] }), "position", watch, "at least two"},
	{"a doubtful fixing", drawn(func(s *job.Survey) { s.SitePlan.Positions[0].Fixing = "doubtful" }), "position", watch, "fixing"},
	{"nothing drawn", none, "position", "", ""},
	{"the cord reaches", drawn(nil), "cord-reach", sound, "of 7.5 m"},
	{"a short cord", both(drawn(nil), circuit(func(c *job.Circuit) { c.Charger.CordLength = 2.5 })), "cord-reach", watch, "of 2.5 m"},
	{"across the side door", drawn(func(s *job.Survey) {
		s.SitePlan.Doors = []job.Opening{{From: job.XY{X: 0, Y: 2}, To: job.XY{X: 0, Y: 2.9}, Name: "side door"}}
	}), "cord-reach", watch, "across side door"},
	{"a measured cord", drawn(undrawn(3, job.Yes)), "cord-reach", sound, "of 7.5 m"},
	{"a measured cord that is short", both(drawn(undrawn(3, job.Yes)), circuit(func(c *job.Circuit) { c.Charger.CordLength = 5.3 })), "cord-reach", watch, "needs 5.4 m of 5.3 m"},
	{"a cord that was not measured", drawn(undrawn(0, job.Yes)), "cord-reach", open, "way of the cord from position A"},
	{"measured, gas not asked", drawn(undrawn(3, "")), "position", open, "at least 150 mm from gas"},
	{"measured, near to gas", drawn(undrawn(3, job.No)), "position", stop, "not 150 mm from gas"},
	{"measured, clear of gas", drawn(undrawn(3, job.Yes)), "position", sound, "at least 150 mm from gas meters and pipes (BS 6891)"},
	{"cord not known", both(drawn(nil), circuit(func(c *job.Circuit) { c.Charger.CordLength = 0 })), "cord-reach", sound, "not known yet"},
	{"walled in", drawn(func(s *job.Survey) {
		s.SitePlan.Obstacles = []job.Obstacle{{At: job.XY{X: 0.1, Y: 2}, Width: 0.2, Height: 0.9}, {At: job.XY{X: 0.1, Y: 3.1}, Width: 0.2, Height: 0.9}, {At: job.XY{X: 0.3, Y: 2}, Width: 0.2, Height: 2}}
	}), "cord-reach", watch, "no way over the ground"},
	{"6 mm² singles in 20 mm conduit", both(onRoute(job.Segment{Method: job.Conduit, Length: 16, Size: "20 mm"}), singles), "fill", sound, "20 mm"},
	{"with a lighting circuit in it", both(onRoute(job.Segment{Method: job.Conduit, Length: 16, Size: "20 mm", Others: 60}), singles), "fill", watch, "larger raceway"},
	{"a size that is none", both(onRoute(job.Segment{Method: job.Conduit, Length: 16, Size: "21 mm"}), singles), "fill", open, "21 mm is not one"},

	// The circuit.
	{"own circuit not asked", circuit(func(c *job.Circuit) { c.Dedicated = "" }), "own-circuit", open, ""},
	{"shared circuit", circuit(func(c *job.Circuit) { c.Dedicated = job.No }), "own-circuit", stop, "circuit of its own"},
	{"no setting", circuit(func(c *job.Circuit) { c.Setting = 0 }), "setting-charger", open, "setting"},
	{"no charger rating", circuit(func(c *job.Circuit) { c.Charger.Rating = 0 }), "setting-charger", open, "rating"},
	{"set above the charger", circuit(func(c *job.Circuit) { c.Setting = 40 }), "setting-charger", stop, "40 A set, charger rated 32 A"},
	{"set below 6 A", circuit(func(c *job.Circuit) { c.Setting = 5 }), "setting-charger", stop, "6 A"},
	{"set at its rating", none, "setting-charger", sound, ""},
	{"7.4 kW takes 32 A", none, "vehicle-use", sound, "32.2 A"},
	{"3.6 kW takes 16 A", func(j *job.Job) { j.Survey.Vehicles[0].OnBoard = 3600 }, "vehicle-use", watch, "gain nothing today"},
	{"11 kW in three phases takes 16 A", func(j *job.Job) { j.Survey.Vehicles[0].OnBoard, j.Survey.Vehicles[0].Phases = 11000, 3 }, "vehicle-use", watch, "15.9 A"},
	{"breaker below the load", circuit(func(c *job.Circuit) { c.Breaker.Rating = 25 }), "ib-in", stop, "Ib 32 A ≤ In 25 A"},
	{"breaker equal to the load", circuit(func(c *job.Circuit) { c.Breaker.Rating = 32 }), "ib-in", sound, ""},
	{"no breaker", circuit(func(c *job.Circuit) { c.Breaker.Rating = 0 }), "ib-in", open, "breaker"},
	{"45 A is no preferred rating", circuit(func(c *job.Circuit) { c.Breaker.Rating = 45 }), "ib-in", stop, "not a preferred rating"},
	{"6 mm² armoured at 35 °C", none, "in-iz", sound, "It 49 A × Ca 0.94 × Cg 1.00 = 46.1 A in segment 2; In 40 A"},
	{"fine in the table but not in insulation", both(circuit(func(c *job.Circuit) { c.Cable = job.Cable{Family: job.TwinEarth, Size: "6 mm²"} }), onRoute(job.Segment{Method: job.Surface, Length: 6}, job.Segment{Method: job.InInsulation, Length: 5})), "in-iz", stop, "23.5 A in segment 2"},
	{"4 mm² on B40", circuit(func(c *job.Circuit) { c.Cable.Size = "4 mm²" }), "in-iz", stop, "38 A"},
	{"0.3 m through insulation", onRoute(job.Segment{Method: job.Surface, Length: 9, Insulated: 0.3}), "in-iz", stop, "Ci 0.51"},
	{"buried in dry soil", both(onRoute(job.Segment{Method: job.Buried, Length: 9, Soil: 3}), circuit(func(c *job.Circuit) { c.Cable.Size = "10 mm²" })), "in-iz", sound, "Cs 0.90 × Cc 0.90"},
	{"soil past the table", onRoute(job.Segment{Method: job.Buried, Length: 9, Soil: 4}), "in-iz", open, "soil"},
	{"no cable", circuit(func(c *job.Circuit) { c.Cable = job.Cable{} }), "in-iz", open, "cable family"},
	{"too many together", onRoute(job.Segment{Method: job.Surface, Length: 6, Grouped: 11}), "in-iz", open, "segment 1"},
	{"measured demand and charging", none, "demand", sound, "24.0 A by 311.1 + 32.0 A charging at 100 % = 56.0 A; cutout 100 A"},
	{"56 A on a 60 A cutout", onSupply(func(s *job.Supply) { s.Rating = 60 }), "demand", sound, ""},
	{"56 A on a 57 A cutout is thin", onSupply(func(s *job.Supply) { s.Rating = 57 }), "demand", watch, "little to spare"},
	{"service too small", onSupply(func(s *job.Supply) { s.PeakDemand = 70 }), "demand", stop, "load management"},
	{"by diversity", both(onSupply(func(s *job.Supply) { s.PeakDemand = 0 }), none), "demand", sound, "OSG appendix A"},
	{"measurement chosen, none made", func(j *job.Job) { j.Survey.Supply.PeakDemand = 0; j.Design.DemandMethod = "220.87" }, "demand", open, "measured demand"},
	{"measured over no known time", onSupply(func(s *job.Supply) { s.PeakDays = 0 }), "demand", open, "record"},
	{"managed to the cutout's rating", both(onSupply(func(s *job.Supply) { s.PeakDemand = 75 }), circuit(func(c *job.Circuit) { c.ManagedTo = 100 })), "demand", sound, "keeps the supply to 100 A"},
	{"managed above the cutout", both(onSupply(func(s *job.Supply) { s.PeakDemand = 75 }), circuit(func(c *job.Circuit) { c.ManagedTo = 110 })), "demand", stop, "lower limit"},
	{"the house alone is too much", both(onSupply(func(s *job.Supply) { s.PeakDemand = 105 }), circuit(func(c *job.Circuit) { c.ManagedTo = 100 })), "demand", stop, ""},
	{"management not proved", circuit(func(c *job.Circuit) { c.ManagedTo = 100 }), "load-management", open, "one answer"},
	{"management does not work", both(circuit(func(c *job.Circuit) { c.ManagedTo = 100 }), read("load-management", "current stays")), "load-management", stop, "direction"},
	{"management proved", both(circuit(func(c *job.Circuit) { c.ManagedTo = 100 }), read("load-management", "current falls")), "load-management", sound, ""},
	{"no cutout rating", onSupply(func(s *job.Supply) { s.Rating = 0 }), "demand", open, ""},
	{"no setting yet", circuit(func(c *job.Circuit) { c.Setting = 0 }), "demand", open, "charger setting"},
	{"drop, 16 m of 6 mm²", none, "drop", sound, "7.90 mV/A/m × 32 A × 16.0 m = 4.04 V = 1.76 %"},
	{"drop, 50 m of 6 mm²", onRoute(job.Segment{Method: job.Surface, Length: 50}), "drop", stop, "5.50 %"},
	{"drop, 45 m of 6 mm²", onRoute(job.Segment{Method: job.Surface, Length: 45}), "drop", watch, "4.95 %"},
	{"drop over 100 m has 0.005 % a metre more", both(onRoute(job.Segment{Method: job.Surface, Length: 150}), circuit(func(c *job.Circuit) { c.Cable.Size, c.Setting = "16 mm²", 27 })), "drop", watch, "5.11 %"},
	{"no route for the drop", onRoute(), "drop", open, "route"},
	{"Zs designed", none, "zs-design", sound, "218.5 V ÷ (5 × 40 A) = 1.09 Ω"},
	{"Zs on a C40", circuit(func(c *job.Circuit) { c.Breaker.Curve, c.Cable.Size = "C", "2.5 mm²" }), "zs-design", stop, "218.5 V ÷ (10 × 40 A) = 0.55 Ω"},
	{"C40, fault protection by the residual device", circuit(func(c *job.Circuit) { c.Breaker.Curve, c.Cable.Size, c.FaultByRCD = "C", "2.5 mm²", job.Yes }), "zs-design", sound, "50 V ÷ 30 mA"},
	{"no curve", circuit(func(c *job.Circuit) { c.Breaker.Curve = "" }), "zs-design", open, "type"},
	{"no Ze for Zs", onSupply(func(s *job.Supply) { s.DeclaredZe = 0 }), "zs-design", open, "external loop"},
	{"Zs on TT", onSupply(func(s *job.Supply) { s.System, s.ElectrodeRA = job.TT, 80 }), "zs-design", sound, "50 V ÷ 30 mA = 1667 Ω"},
	{"core as earth", none, "earth-size", sound, "6 mm² ≥ 6 mm² by table 54.7"},
	{"twin and earth by the adiabatic", circuit(func(c *job.Circuit) { c.Cable, c.Breaker.Class = job.Cable{Family: job.TwinEarth, Size: "6 mm²"}, 3 }), "earth-size", sound, "543.1.3"},
	{"4 mm² with 1.5 earth does not withstand", circuit(func(c *job.Circuit) {
		c.Cable = job.Cable{Family: job.TwinEarth, Size: "4 mm²"}
		c.Breaker.Rating = 32
	}), "earth-size", open, "543.1.3"},
	{"earth without Ze", both(circuit(func(c *job.Circuit) { c.Cable = job.Cable{Family: job.TwinEarth, Size: "6 mm²"} }), onSupply(func(s *job.Supply) { s.DeclaredZe = 0 })), "earth-size", open, "adiabatic"},
	{"6 kA against 1.8 kA", none, "breaking", sound, "1.8 kA"},
	{"6 kA against 16 kA", onSupply(func(s *job.Supply) { s.FaultCurrent = 16 }), "breaking", stop, "measure at the board"},
	{"no fault current", onSupply(func(s *job.Supply) { s.FaultCurrent = 0 }), "breaking", open, "fault current"},
	{"no breaking capacity", both(board(func(b *job.Board) { b.BreakingKA = 0 }), circuit(func(c *job.Circuit) { c.Breaker.BreakingKA = 0 })), "breaking", open, "breaking capacity"},

	// Shock.
	{"no residual device", circuit(func(c *job.Circuit) { c.RCD.Fitted = job.No }), "rcd", stop, "no residual current device"},
	{"residual device not asked", circuit(func(c *job.Circuit) { c.RCD.Fitted = "" }), "rcd", open, ""},
	{"100 mA", circuit(func(c *job.Circuit) { c.RCD.TripMA = 100 }), "rcd-trip", stop, "at most 30 mA"},
	{"30 mA", none, "rcd-trip", sound, ""},
	{"no trip current", circuit(func(c *job.Circuit) { c.RCD.TripMA = 0 }), "rcd-trip", open, ""},
	{"no device, no trip current", circuit(func(c *job.Circuit) { c.RCD = job.RCD{Fitted: job.No} }), "rcd-trip", "", ""},
	{"type AC never", circuit(func(c *job.Circuit) { c.RCD.Type = "AC" }), "rcd-type", stop, "type AC"},
	{"type A with 6 mA detection", none, "rcd-type", sound, "6 mA detection"},
	{"type F with 6 mA detection", circuit(func(c *job.Circuit) { c.RCD.Type = "F" }), "rcd-type", sound, ""},
	{"type A without detection", circuit(func(c *job.Circuit) { c.Charger.DCDetection = job.No }), "rcd-type", stop, "type A without"},
	{"type A, detection not asked", circuit(func(c *job.Circuit) { c.Charger.DCDetection = "" }), "rcd-type", open, "6 mA"},
	{"type B alone", circuit(func(c *job.Circuit) { c.RCD.Type, c.Charger.DCDetection = "B", job.No }), "rcd-type", sound, "by itself"},
	{"no type", circuit(func(c *job.Circuit) { c.RCD.Type = "" }), "rcd-type", open, "type of"},
	{"neutral not switched", circuit(func(c *job.Circuit) { c.RCD.AllPoles = job.No }), "rcd-poles", stop, "neutral is not switched"},
	{"poles not asked", circuit(func(c *job.Circuit) { c.RCD.AllPoles = "" }), "rcd-poles", open, ""},
	{"a charger that feeds back", circuit(func(c *job.Circuit) { c.Charger.Exports = job.Yes }), "both-sides", watch, "amendment 3"},
	{"it feeds back, on devices made for it", circuit(func(c *job.Circuit) { c.Charger.Exports, c.Breaker.BothWays = job.Yes, job.Yes }), "both-sides", sound, ""},
	{"a charger that does not feed back", circuit(func(c *job.Circuit) { c.Charger.Exports = job.No }), "both-sides", "", ""},
	{"type AC upstream", board(func(b *job.Board) { b.UpstreamRCDType = "AC" }), "rcd-upstream", stop, "blinded"},
	{"type A upstream", board(func(b *job.Board) { b.UpstreamRCDType = "A" }), "rcd-upstream", sound, ""},
	{"type A upstream of type B", both(board(func(b *job.Board) { b.UpstreamRCDType = "A" }), circuit(func(c *job.Circuit) { c.RCD.Type, c.Charger.DCDetection = "B", job.No })), "rcd-upstream", stop, "blinded"},
	{"type AC upstream, replaced by type A", upstream("AC", job.Ahead{Type: job.TypeA}), "rcd-upstream", sound, "type AC found upstream, replaced with this work"},
	{"type AC upstream, replaced by type AC", upstream("AC", job.Ahead{Type: job.TypeAC}), "rcd-upstream", stop, "blinded"},
	{"nothing upstream, and it is replaced", upstream("none", job.Ahead{Type: job.TypeA}), "rcd-upstream", open, "found none upstream"},
	{"on a sub-main, its loop is not measured", onSub(0, 1), "zs-design", open, "at the end of its sub-main"},
	{"on a sub-main of 0.5 Ω, whatever Ze is", onSub(0.5, 1), "zs-design", sound, "Zs = 0.50 +"},
	{"on a sub-main of 1.3 Ω", onSub(1.3, 1), "zs-design", stop, ""},
	{"on a sub-main, its drop is not known", onSub(0.5, 0), "drop", open, "from the origin"},
	{"on a sub-main that drops 2 %", onSub(0.5, 2), "drop", sound, "and 2.00 % of the sub-main"},
	{"on a sub-main that drops 3.2 %", onSub(0.5, 3.2), "drop", watch, "and 3.20 % of the sub-main"},
	{"on a sub-main that drops 3.3 %", onSub(0.5, 3.3), "drop", stop, "and 3.30 % of the sub-main"},
	{"an old circuit carried on over 5 m, 5 m were run", carriedOn("5 m"), "run", sound, "judged by 5.0 m"},
	{"an old circuit carried on over 5 m, 5.3 m were run", carriedOn("5.3 m"), "run", watch, "judged by 5.0 m"},
	{"nothing of another country", none, "not-here", "", ""},
	{"an American building put right", func(j *job.Job) { j.Design.Building.Electrode = job.Yes }, "not-here", stop, "as in America"},
	{"type AC upstream, the small board is ahead of it", both(upstream("AC", job.Ahead{}), smallBut(func(*job.Beside) {})), "rcd-upstream", sound, "none upstream"},
	{"nothing is replaced upstream", none, "ahead", "", ""},
	{"replaced by one of no rating", upstream("AC", job.Ahead{Type: job.TypeA}), "ahead", open, "rated current"},
	{"replaced by one of no residual current", upstream("AC", job.Ahead{Type: job.TypeA, Rating: 63}), "ahead", open, "rated residual current"},
	{"replaced by one that may be delayed", upstream("AC", job.Ahead{Type: job.TypeA, Rating: 63, TripMA: 30}), "ahead", open, "delayed"},
	{"replaced, and what else hangs on it is not known", upstream("AC", job.Ahead{Type: job.TypeA, Rating: 63, TripMA: 30, Delayed: job.No}), "ahead", open, "what else it feeds"},
	{"replaced by one of 16 A", upstream("AC", job.Ahead{Type: job.TypeA, Rating: 16, TripMA: 30, Delayed: job.No, Feeds: "sockets"}), "ahead", stop, "charging alone is 32 A"},
	{"replaced by one below the whole demand", upstream("AC", job.Ahead{Type: job.TypeA, Rating: 40, TripMA: 30, Delayed: job.No, Feeds: "sockets"}), "ahead", watch, "the whole demand"},
	{"replaced by one of 31 mA", upstream("AC", job.Ahead{Type: job.TypeA, Rating: 63, TripMA: 31, Delayed: job.No, Feeds: "sockets"}), "ahead", watch, "additional protection"},
	{"replaced, and the demand is not known", both(upstream("AC", ahead), onSupply(func(s *job.Supply) { s.PeakDemand, s.PeakDays = 0, 0 }),
		func(j *job.Job) { j.Survey.Loads = nil }), "ahead", open, "the demand that it may carry"},
	{"replaced, all of it known", upstream("AC", ahead), "ahead", sound, "type A, 63 A, 30 mA; tested again with it: sockets, shower"},
	{"nothing was replaced upstream: nothing more is read", none, "ahead-time", "", ""},
	{"replaced, and not read", upstream("AC", ahead), "ahead-time", open, ""},
	{"replaced, opens in 300 ms", both(upstream("AC", ahead), aheadRead("ahead-time", "300")), "ahead-time", sound, ""},
	{"replaced, opens in 301 ms", both(upstream("AC", ahead), aheadRead("ahead-time", "301")), "ahead-time", stop, ""},
	{"replaced, does not open", both(upstream("AC", ahead), aheadRead("ahead-time", ">300")), "ahead-time", stop, ""},
	{"delayed, opens in 129 ms", both(upstream("AC", slow), aheadRead("ahead-time", "129")), "ahead-time", stop, ""},
	{"delayed, opens in 130 ms", both(upstream("AC", slow), aheadRead("ahead-time", "130")), "ahead-time", sound, ""},
	{"delayed, opens in 501 ms", both(upstream("AC", slow), aheadRead("ahead-time", "501")), "ahead-time", stop, ""},
	{"what else it feeds, not looked at", upstream("AC", ahead), "behind", open, "one answer"},
	{"what else it feeds is sound", both(upstream("AC", ahead), aheadRead("behind", "sound")), "behind", sound, ""},
	{"what else it feeds is not sound", both(upstream("AC", ahead), aheadRead("behind", "not sound")), "behind", stop, "leave off"},
	{"an outlet, no charger: nobody knows of direct current from it", circuit(func(c *job.Circuit) {
		c.Connection, c.Charger = job.PluggedIn, job.Charger{Fate: job.FateNone, Phases: 1}
	}), "rcd-type", stop, ""},
	{"the isolator alone is exchanged", circuit(func(c *job.Circuit) {
		c.Existing, c.Charger.Fate, c.IsolatorFate = job.Yes, job.FateKept, job.FateReplaced
	}), "mended", sound, "a device of its circuit"},
	{"the isolator stays, and nothing is done", circuit(func(c *job.Circuit) { c.Existing, c.Charger.Fate = job.Yes, job.FateKept }), "mended", open, "what is wrong"},
	{"upstream not asked", board(func(b *job.Board) { b.UpstreamRCDType = "" }), "rcd-upstream", open, ""},
	{"no open-PEN protection", circuit(func(c *job.Circuit) { c.Earthing.OpenPEN = "none" }), "open-pen", stop, "broken neutral"},
	{"open-PEN not chosen", circuit(func(c *job.Circuit) { c.Earthing.OpenPEN = "" }), "open-pen", open, "way of"},
	{"device that leaves the earth connected", circuit(func(c *job.Circuit) { c.Earthing.OpenPEN = "device-live-only" }), "open-pen", stop, "protective conductor"},
	{"device by voltage, single phase", none, "open-pen", sound, "way (iv)"},
	{"device by voltage, three phase", onSupply(func(s *job.Supply) { s.Phases = 3 }), "open-pen", stop, "single-phase"},
	{"device by touch voltage", circuit(func(c *job.Circuit) { c.Earthing.OpenPEN = "device-touch" }), "open-pen", sound, "way (iii)"},
	{"device declared effective", circuit(func(c *job.Circuit) { c.Earthing.OpenPEN = "device-other" }), "open-pen", watch, "declaration"},
	{"electrode of 1 Ω, 56 A", circuit(func(c *job.Circuit) { c.Earthing.OpenPEN, c.Earthing.RA = "electrode", 1 }), "open-pen", sound, "way (ii)"},
	{"electrode of 21 Ω", circuit(func(c *job.Circuit) { c.Earthing.OpenPEN, c.Earthing.RA = "electrode", 21 }), "open-pen", stop, "hardly ever"},
	{"electrode not measured", circuit(func(c *job.Circuit) { c.Earthing.OpenPEN, c.Earthing.RA = "electrode", 0 }), "open-pen", open, ""},
	{"imbalance on single phase", circuit(func(c *job.Circuit) { c.Earthing.OpenPEN = "imbalance" }), "open-pen", stop, "three-phase"},
	{"imbalance without currents", both(onSupply(func(s *job.Supply) { s.Phases = 3 }), circuit(func(c *job.Circuit) { c.Earthing.OpenPEN = "imbalance" })), "open-pen", open, "each phase"},
	{"imbalance of 40, 25 and 20 A", both(onSupply(func(s *job.Supply) { s.Phases = 3 }), circuit(func(c *job.Circuit) {
		c.Earthing.OpenPEN, c.Earthing.Loads, c.Charger.Phases = "imbalance", []quantity.Ampere{40, 25, 20}, 3
	})), "open-pen", sound, "48.8 V"},
	{"imbalance of one phase", both(onSupply(func(s *job.Supply) { s.Phases = 3 }), circuit(func(c *job.Circuit) { c.Earthing.OpenPEN, c.Earthing.Loads = "imbalance", []quantity.Ampere{40, 5, 5} })), "open-pen", stop, "balance"},
	{"indoors", place(func(p *job.Place) { p.Outdoors = job.No }), "open-pen", sound, "indoors"},
	{"outdoors not asked", place(func(p *job.Place) { p.Outdoors = "" }), "open-pen", open, "outdoors"},
	{"TN-S needs none", both(onSupply(func(s *job.Supply) { s.System = job.TNS }), circuit(func(c *job.Circuit) { c.Earthing.OpenPEN = "none" })), "open-pen", watch, "PEN lies upstream"},
	{"no TT here", none, "tt", "", ""},
	{"TT point, 80 Ω, 3 m", pointTT(80, 3), "tt", sound, "80 Ω × 30 mA = 2.40 V"},
	{"TT point, 2 m apart", pointTT(80, 2), "tt", stop, "2.50 m wanted"},
	{"TT point, distance not measured", pointTT(80, 0), "tt", open, "separation"},
	{"TT point, electrode not measured", pointTT(0, 3), "tt", open, "electrode"},
	{"TT point, 250 Ω may not be stable", pointTT(250, 3), "tt", watch, "200 Ω"},
	{"TT supply, 1700 Ω", onSupply(func(s *job.Supply) { s.System, s.ElectrodeRA = job.TT, 1700 }), "tt", stop, "51.00 V"},
	{"IP54", none, "ip", sound, "IP54 ≥ IP44"},
	{"IP44", circuit(func(c *job.Circuit) { c.Charger.IP = "ip44" }), "ip", sound, ""},
	{"IP34: bodies", circuit(func(c *job.Circuit) { c.Charger.IP = "IP34" }), "ip", stop, ""},
	{"IP53: water", circuit(func(c *job.Circuit) { c.Charger.IP = "IP53" }), "ip", stop, "IP53 outdoors"},
	{"IPX4: half a code", circuit(func(c *job.Circuit) { c.Charger.IP = "IPX4" }), "ip", open, "both digits"},
	{"no IP code", circuit(func(c *job.Circuit) { c.Charger.IP = "" }), "ip", open, "IP code"},
	{"surge protection undecided", circuit(func(c *job.Circuit) { c.SPD = "" }), "spd", open, ""},
	{"surge protection replaced", circuit(func(c *job.Circuit) { c.SPD = job.SPDReplaced }), "spd", sound, "replaced"},
	{"surge protection declined without reason", circuit(func(c *job.Circuit) { c.SPD = "declined" }), "spd", open, "why"},
	{"surge protection declined", circuit(func(c *job.Circuit) { c.SPD, c.SPDReason = "declined", "owner, 4 May" }), "spd", watch, "owner, 4 May"},
	{"isolation not asked", circuit(func(c *job.Circuit) { c.Isolator = "" }), "isolation-device", open, ""},
	{"isolated at the board", circuit(func(c *job.Circuit) { c.Isolator = job.No }), "isolation-device", watch, "board"},

	// Papers, plan, installation.
	{"56 A: notify after", none, "operator-route", sound, "notify within 28 days"},
	{"condition of the service not looked at", onSupply(func(s *job.Supply) { s.Condition = "" }), "operator-route", open, "condition"},
	{"service looks doubtful", onSupply(func(s *job.Supply) { s.Condition = "doubtful" }), "operator-route", open, "apply before"},
	{"61 A, answered", func(j *job.Job) {
		j.Survey.Supply.PeakDemand = 29
		paper(j, "operator").Granted = "2026-04-20"
	}, "operator-route", sound, "answered 2026-04-20"},
	{"61 A, put aside", func(j *job.Job) {
		j.Survey.Supply.PeakDemand = 29
		putAside(j, "operator")
	}, "operator-route", watch, "by word of mouth"},
	{"grant not decided", func(j *job.Job) { *paper(j, "grant") = job.Paper{ID: "grant", Title: "Grant", Before: job.BeforeOrder} }, "papers-order", open, "Grant"},
	{"grant put aside", func(j *job.Job) {
		*paper(j, "grant") = job.Paper{ID: "grant", Title: "Grant", Before: job.BeforeOrder}
		putAside(j, "grant")
	}, "papers-order", watch, "by word of mouth"},
	{"grant offered after the day", func(j *job.Job) {
		*paper(j, "grant") = job.Paper{ID: "grant", Title: "Grant", Before: job.BeforeOrder, Needed: job.Yes, Sent: "2026-01-02", Granted: "2027-01-02"}
	}, "paper-dates", stop, "after the day of the work"},
	{"inspection before covering", func(j *job.Job) { *paper(j, "owner") = job.Paper{ID: "p", Title: "Trench", Before: job.BeforeCovering} }, "papers-covering", open, "Trench"},
	{"booked without a paper, work not begun", func(j *job.Job) {
		j.Log = nil
		*paper(j, "owner") = job.Paper{ID: "owner", Title: "Consent", Before: job.BeforeInstalling, Needed: job.Yes}
	}, "day-and-crew", stop, "Consent: not sent"},
	{"booked against advice", func(j *job.Job) { j.Plan.Over = job.Override{By: "P. Lindqvist", Reason: "the customer flies out"} }, "day-and-crew", watch, "flies out"},
	{"61 A: apply before", onSupply(func(s *job.Supply) { s.PeakDemand = 29 }), "operator-route", open, "apply before"},
	{"consent not answered", func(j *job.Job) {
		*paper(j, "owner") = job.Paper{ID: "owner", Title: "Consent", Before: "installing", Needed: job.Yes}
	}, "papers-installing", open, "Consent"},
	{"paper before energising", func(j *job.Job) {
		*paper(j, "owner") = job.Paper{ID: "p", Title: "Inspection", Before: "energising"}
	}, "papers-energising", open, "Inspection"},
	{"paper before sealing", func(j *job.Job) { *paper(j, "owner") = job.Paper{ID: "p", Title: "Serials", Before: "sealing"} }, "papers-sealing", open, "Serials"},
	{"no parts", func(j *job.Job) { j.Plan.Parts = nil }, "parts-in-hand", open, "parts list"},
	{"part on order", func(j *job.Job) { j.Plan.Parts[1].InHand = job.No }, "parts-in-hand", open, "mm²"},
	{"instrument out of calibration", calibrated("zs", "2020-01-31"), "calibration", stop, "2020-01-31"},
	{"instrument in calibration", calibrated("zs", "2040-01-31"), "calibration", sound, "1 readings"},
	{"the last day of the calibration", calibrated("zs", "2026-05-04"), "calibration", sound, "1 readings"},
	{"torque driver out of calibration", torqueBy("2020-01-31"), "calibration", stop, "2020-01-31"},
	{"a reading out of calibration that was replaced", replacedReading("zs", "2020-01-31"), "calibration", "", ""},
	{"readings that do not agree", read("zs", "0.05"), "doubtful", watch, "below Ze"},
	{"R1 + R2 warm: 0.13 Ω at 40 °C is 0.12 Ω at 20 °C", both(read("r1r2", "0.13"), read("ambient", "40")), "r1r2", sound, "÷ (1 + 0.004 × (40 − 20)) = 0.12 Ω"},
	{"one phase has no second line", none, "r1r2-l2", "", ""},
	{"R1 + R2 of L2 not read", threePhases, "r1r2-l2", open, "one reading"},
	{"R1 + R2 of L3 open", both(threePhases, read("r1r2-l3", ">20")), "r1r2-l3", stop, "open or badly joined"},
	{"insulation between lines 0.6", both(threePhases, read("insulation-live", "0.6")), "insulation-live", stop, "at least 1.0 MΩ"},
	{"insulation between line and neutral not read", read("insulation-live", ""), "insulation-live", open, "one reading"},
	{"insulation line to neutral, one phase, read", read("insulation-live", "0.5"), "insulation-live", stop, ""},
	{"voltage of L2 lost", both(threePhases, read("voltage-l2", "12")), "voltage-l2", stop, "12 V read"},
	{"voltage of L3 not read", threePhases, "voltage-l3", open, ""},
	{"L1 to L2 of the same phase", both(threePhases, read("voltage-l1l2", "0")), "voltage-l1l2", stop, "374.5 V to 438.2 V"},
	{"L2 to L3 413 V", both(threePhases, read("voltage-l2l3", "413")), "voltage-l2l3", sound, ""},
	{"L2 to L3 239 V", both(threePhases, read("voltage-l2l3", "239")), "voltage-l2l3", stop, ""},
	{"L1 to L3 not read", threePhases, "voltage-l1l3", open, ""},
	{"phases turn the other way", both(threePhases, read("phase-sequence", "L1 L3 L2")), "phase-sequence", stop, "exchange two lines"},
	{"Zs of L2 high", both(threePhases, read("zs-l2", "3.1")), "zs-l2", stop, ""},
	{"Zs of L3 not read", threePhases, "zs-l3", open, ""},
	{"half the residual current trips", read("rcd-half", "trips"), "rcd-half", watch, "standing leakage"},
	{"five times: 55 ms", read("rcd-5x", "55"), "rcd-5x", watch, "at most 40 ms"},
	{"ramp at 34 mA", read("rcd-ramp", "34"), "rcd-ramp", stop, "above its rated current"},
	{"ramp at 21 mA", read("rcd-ramp", "21"), "rcd-ramp", sound, ""},
	{"ramp at 14 mA", read("rcd-ramp", "14"), "rcd-ramp", watch, "standing leakage"},
	{"open neutral not tested", read("open-neutral", ""), "open-neutral", open, "one answer"},
	{"open neutral: stays on", read("open-neutral", "stays on"), "open-neutral", stop, "does not work"},
	{"schedule off", read("schedule", "off"), "schedule", stop, "switch it on"},
	{"no start delay", read("start-delay", "0"), "start-delay", stop, "600 s by default"},
	{"start delay 1800 s", read("start-delay", "1800"), "start-delay", sound, ""},
	{"start delay 30 min", read("start-delay", "1801"), "start-delay", stop, ""},
	{"lowest setting offers 10 A", read("pilot-low", "16.7"), "pilot-low", stop, "6 A wants 10.0 % duty"},
	{"half of the setting", read("pilot-mid", "26.7"), "pilot-mid", sound, "16 A wants 26.7 %"},
	{"half of the setting stays", read("pilot-mid", "53.3"), "pilot-mid", stop, ""},
	{"pilot shorted, charges on", read("pilot-fault", "wrong"), "pilot-fault", stop, "does not stop"},
	{"load management in 10 s", both(circuit(func(c *job.Circuit) { c.ManagedTo = 80 }), read("management-time", "10")), "management-time", sound, ""},
	{"load management in 10.5 s", both(circuit(func(c *job.Circuit) { c.ManagedTo = 80 }), read("management-time", "10.5")), "management-time", watch, "at most 10 s"},
	{"load management slow", both(circuit(func(c *job.Circuit) { c.ManagedTo = 80 }), read("management-time", "25")), "management-time", watch, "at most 10 s"},
	{"nothing noted", both(read("network", ""), read("firmware", ""), read("meter", "")), "charger-notes", open, "firmware, meter and network"},
	{"serial number not known", circuit(func(c *job.Circuit) { c.Charger.Serial = "" }), "charger-notes", watch, "Serial number"},
	{"serial number off the plate", both(circuit(func(c *job.Circuit) { c.Charger.Serial = "" }), read("serial", "WU-7001")), "charger-notes", sound, "Serial number: WU-7001"},
	{"network not joined", read("network", "not joined"), "charger-notes", watch, "not joined"},
	{"failed, mended, tested again", retest("rcd-time", "342", "device 7 was slow, replaced by a new one"), "retests", sound, "342 failed, 24 after “device 7 was slow"},
	{"failed, tested again, not a word", retest("rcd-time", "342", ""), "retests", watch, "without cause and remedy"},
	{"written down wrong and corrected", retest("rcd-time", "25", ""), "retests", "", ""},
	{"no day", func(j *job.Job) { j.Plan.Day = "" }, "day-and-crew", open, "day"},
	{"no crew", func(j *job.Job) { j.Plan.Crew = nil }, "day-and-crew", open, "crew"},
	{"no notice", func(j *job.Job) { j.Plan.Notice = "" }, "day-and-crew", open, "notice"},
	{"dead not proved", read("dead:L-N", ""), "dead-proved", stop, "was logged by"},
	{"a step left out", func(j *job.Job) { ruletest.Log(j, job.StepDone, "", "lids", "") }, "steps-done", open, "next: Lids"},
	{"branches left off is the other school", func(j *job.Job) { ruletest.Log(j, job.StepDone, "", "branches-off", "") }, "steps-done", sound, ""},
	{"energised without the mate", func(j *job.Job) { ruletest.Log(j, job.StepDone, "", "energise", "K. Osei") }, "energised-agreed", stop, "T. Brandt"},
	{"answered after it was switched on", answersAfter, "energised-agreed", stop, "T. Brandt"},
	{"not energised", func(j *job.Job) { ruletest.Log(j, job.StepDone, "", "energise", "") }, "energised-agreed", open, ""},
	{"set as designed", none, "setting", sound, "32 A set = design"},
	{"set above the breaker", func(j *job.Job) { ruletest.Log(j, job.SettingMade, "A", "amps", "45") }, "setting", stop, "45 A set > 40 A"},
	{"set otherwise than designed", func(j *job.Job) { ruletest.Log(j, job.SettingMade, "A", "amps", "16") }, "setting", stop, "32 A designed"},
	{"not set", func(j *job.Job) { ruletest.Log(j, job.SettingMade, "A", "amps", "") }, "setting", open, ""},
	{"not locked", func(j *job.Job) { ruletest.Log(j, job.SettingMade, "A", "locked", "") }, "setting", open, "locked"},

	// Readings.
	{"R1+R2 0.10, design 0.10", none, "r1r2", sound, "design 0.10 Ω"},
	{"R1+R2 far above", read("r1r2", "0.38"), "r1r2", watch, "loose joint"},
	{"R1+R2 open", read("r1r2", ">20"), "r1r2", stop, "open or badly joined"},
	{"R1+R2 past range", read("r1r2", "OL"), "r1r2", open, "enter the end of the range"},
	{"R1+R2 not read", read("r1r2", ""), "r1r2", open, "one reading"},
	{"insulation >999", none, "insulation", sound, ">999 MΩ"},
	{"insulation 1.0", read("insulation", "1.0"), "insulation", watch, "far higher"},
	{"insulation 0.99", read("insulation", "0.99"), "insulation", stop, "damp"},
	{"insulation <0.05", read("insulation", "<0.05"), "insulation", stop, ""},
	{"insulation >0.5", read("insulation", ">0.5"), "insulation", open, "decides"},
	{"insulation 200k", read("insulation", "200k"), "insulation", stop, ""},
	{"polarity wrong, dead", read("polarity-dead", "wrong"), "polarity-dead", stop, "exchange"},
	{"polarity not answered", read("polarity-dead", ""), "polarity-dead", open, ""},
	{"polarity wrong, live", read("polarity-live", "wrong"), "polarity-live", stop, "operator"},
	{"voltage at the board", read("voltage", "255"), "voltage", stop, ""},
	{"Ze 0.27 of 0.35", none, "ze", sound, ""},
	{"Ze 0.31 of 0.35 is close", read("ze", "0.31"), "ze", watch, "close"},
	{"Ze above the declared", read("ze", "0.36"), "ze", stop, "tell the network operator"},
	{"Zs 0.38 cold", none, "zs", sound, "1.09 Ω, 5 s by 411.3.2.3 hot × 0.8 = 0.87 Ω cold"},
	{"Zs 0.87 cold", read("zs", "0.87"), "zs", watch, ""},
	{"Zs 0.88 cold", read("zs", "0.88"), "zs", stop, "loose joint"},
	{"Zs not read", read("zs", ""), "zs", open, ""},
	{"fault current 6.1 kA", read("pfc", "6.1"), "pfc", stop, "breaks 6 kA"},
	{"breaker 10 kA on a board of 6 kA", both(circuit(func(c *job.Circuit) { c.Breaker.BreakingKA = 10 }), board(func(b *job.Board) { b.BreakingKA = 6 }), read("pfc", "7")), "pfc", sound, "breaks 10 kA"},
	{"breaker 6 kA on a board of 10 kA", both(circuit(func(c *job.Circuit) { c.Breaker.BreakingKA = 6 }), board(func(b *job.Board) { b.BreakingKA = 10 }), read("pfc", "7")), "pfc", stop, "breaks 6 kA"},
	{"fault current 740 A", read("pfc", "740 A"), "pfc", sound, ""},
	{"residual device 300 ms", read("rcd-time", "300"), "rcd-time", sound, ""},
	{"residual device 342 ms", read("rcd-time", "342"), "rcd-time", stop, "at most 300 ms"},
	{"residual device >300 ms", read("rcd-time", ">300"), "rcd-time", stop, ""},
	{"delayed device 342 ms", both(circuit(func(c *job.Circuit) { c.RCD.Delayed = job.Yes }), read("rcd-time", "342")), "rcd-time", sound, "130 ms to 500 ms"},
	{"delayed device 90 ms", both(circuit(func(c *job.Circuit) { c.RCD.Delayed = job.Yes }), read("rcd-time", "90")), "rcd-time", stop, ""},
	{"direct current trips after 11 s", read("dc-trip", "11"), "dc-trip", stop, "10 s at 6 mA"},
	{"direct current not tested", read("dc-trip", ""), "dc-trip", open, ""},
	{"type B has no 6 mA test", circuit(func(c *job.Circuit) { c.RCD.Type, c.Charger.DCDetection = "B", job.No }), "dc-trip", "", ""},
	{"pilot 53.3 %", none, "pilot", sound, "32 A ÷ 0.6 = 53.3 %"},
	{"pilot 54.3 %", read("pilot", "54.3"), "pilot", sound, ""},
	{"pilot 54.5 %", read("pilot", "54.5"), "pilot", stop, "another current"},
	{"pilot 66.7 % offers 40 A", read("pilot", "66.7"), "pilot", stop, "offers 40.0 A"},
	{"functions wrong", read("functions", "wrong"), "functions", stop, ""},
	{"reading without instrument", func(j *job.Job) {
		for i := range j.Log {
			if j.Log[i].Subject == "zs" {
				j.Log[i].Instrument = ""
			}
		}
	}, "instrument", open, "Earth loop at the charger"},
	{"design not signed", func(j *job.Job) { ruletest.Log(j, job.SignedOff, "", "design", "") }, "signed-design", open, ""},
	{"design changed after it was signed", onSupply(func(s *job.Supply) { s.Rating = 80 }), "signed-design", open, "changed after M. Farrant signed"},
	{"tails not looked at", ruletest.Inspected("intake-secure", "", ""), "inspected", open, "1 of 51 items: Tails"},
	{"a loose tail", ruletest.Inspected("intake-secure", "not-right", "the clamp of the tails has come off"), "inspected", stop, "the clamp of the tails"},
	{"tails behind a kitchen, and no limitation", ruletest.Inspected("intake-secure", "limited", "boxed in, agreed with E. Marlowe"), "inspected", open, "“none”, and limited: Tails"},
	{"tails behind a kitchen", both(ruletest.Inspected("intake-secure", "limited", "boxed in"), ruletest.Inspected("limits", "said", "tails boxed in, agreed with E. Marlowe")), "inspected", watch, "limited: Tails and their clamps secure, no basic insulation in sight: boxed in"},
	{"no departure, and a stop accepted", func(j *job.Job) {
		e := j.Log[len(j.Log)-1]
		e.ID, e.Kind, e.Subject, e.Value, e.Reason = "over-0001", job.Overridden, "spd", "", "owner declares the loss tolerable"
		j.Log = append(j.Log, e)
	}, "inspected", open, "“none”, and a stop was accepted"},
	{"a stop accepted, and told as a departure", both(ruletest.Inspected("departures", "said", "surge protection declined by the owner"), func(j *job.Job) {
		e := j.Log[len(j.Log)-1]
		e.ID, e.Kind, e.Subject, e.Value, e.Reason = "over-0001", job.Overridden, "spd", "", "owner declares the loss tolerable"
		j.Log = append(j.Log, e)
	}), "inspected", sound, ""},
	{"an electrode of the charger, and none on the certificate", circuit(func(c *job.Circuit) { c.Earthing.OpenPEN = job.PENElectrode }), "inspected", open, "“none”, and the design has an electrode"},
	{"a landlord who must agree, and no paper of it", both(onConsent(job.Yes), dropPaper("owner")), "papers-installing", open, "Consent of owner or landlord, not among the job's papers"},
	{"a landlord who must agree, by the paper not needed", both(onConsent(job.Yes), func(j *job.Job) {
		dropPaper("owner")(j)
		j.Clearances.Papers = append(j.Clearances.Papers, job.Paper{ID: "owner", Title: "Consent", Needed: job.No, Reason: "own house", Before: job.BeforeInstalling})
	}), "papers-installing", open, "marked as not needed"},
	{"not applicable by the job", ruletest.Inspected("cable-ground", "not-there", "no cable is buried"), "inspected", sound, ""},
	{"not applicable, and the job does not say so", ruletest.Inspected("unit-button", "not-there", "there is no such button"), "inspected", watch, "which the job does not say: Test button"},
	{"not applicable, buried since", both(ruletest.Inspected("cable-ground", "not-there", "no cable is buried"), onRoute(buried("garden", 0.6, job.Yes))), "inspected", watch, "Buried cable deep enough"},
	{"another cable since", func(j *job.Job) {
		e := j.Log[len(j.Log)-1]
		e.ID, e.Kind, e.Point, e.Subject, e.Value, e.Reason = "vary-0001", job.Varied, "A", "cable.size", "10 mm²", "the other was not in stock"
		j.Log = append(j.Log, e)
	}, "inspected", open, "work was done since: Cables supported"},
	{"a limitation of a statement is none", ruletest.Inspected("limits", "said", "loft not entered, agreed with E. Marlowe"), "inspected", sound, ""},
	{"the charger hung again since", ruletest.Again(worklog.ChargerEnd), "inspected", open, "work was done since: Connections tight"},
	{"what is not there does not grow old", ruletest.Again(worklog.SurgeDevice), "inspected", open, "Surge protection"},
	{"declined, and the step again", both(circuit(func(c *job.Circuit) { c.SPD, c.SPDReason = job.SPDDeclined, "loss tolerable" }), ruletest.Inspected("unit-surge", "not-there", "declined by the owner"), ruletest.Again(worklog.SurgeDevice)), "inspected", sound, ""},
	{"main switch not stated", ruletest.Inspected("switch-standard", "", ""), "certificate", open, "Main switch: Standard, poles"},
	{"one of what is bonded not known", func(j *job.Job) { j.Survey.Bonding.Oil = "" }, "certificate", open, "Bonded"},
	{"where the main switch is, not known", onSupply(func(s *job.Supply) { s.MainsSwitchAt = "" }), "certificate", open, "Main switch: Where"},
	{"breaking capacity not known", both(circuit(func(c *job.Circuit) { c.Breaker.BreakingKA = 0 }), board(func(b *job.Board) { b.BreakingKA = 0 })), "certificate", open, "Breaks, A"},
	{"test button not pressed, agreed", ruletest.Inspected("unit-button", "limited", "freezers on it, agreed with E. Marlowe"), "certificate", sound, ""},
	{"test button does nothing", ruletest.Inspected("unit-button", "not-right", "nothing happens when it is pressed"), "certificate", open, "Test button"},
	{"R1 + R2 not read", read("r1r2", ""), "certificate", open, "R1 + R2, A"},
	{"construction not signed", func(j *job.Job) { ruletest.Log(j, job.SignedOff, "", "construction", "") }, "signed-construction", open, ""},
	{"no scheduler", func(j *job.Job) { ruletest.Log(j, job.SettingMade, "A", "scheduler", "") }, "scheduler", open, ""},
	{"both schedule", func(j *job.Job) { ruletest.Log(j, job.SettingMade, "A", "scheduler", "both") }, "scheduler", open, "car or charger"},

	{"an industrial socket", circuit(func(c *job.Circuit) { c.Connection = "receptacle" }), "connection", watch, "no smart functions"},
	{"connection not chosen", circuit(func(c *job.Circuit) { c.Connection = "" }), "connection", open, ""},

	// Two points.
	{"two points, not decided", ruletest.Twice(func(*job.Design) {}), "sharing", open, "separate circuits"},
	{"two points, separate", ruletest.Twice(func(d *job.Design) { d.Sharing = "separate" }), "sharing", sound, "at its setting"},
	{"two points, no limit", ruletest.Twice(func(d *job.Design) { d.Sharing = "load-sharing" }), "sharing", open, "limit of all points"},
	{"10 A in two parts", ruletest.Twice(func(d *job.Design) { d.Sharing, d.SharedTo = "shared-limit", 10 }), "sharing", stop, "5.0 A each"},
	{"10 A shared out", ruletest.Twice(func(d *job.Design) { d.Sharing, d.SharedTo = "load-sharing", 10 }), "sharing", sound, ""},
	{"a shared limit is proved", ruletest.Twice(func(d *job.Design) { d.Sharing, d.SharedTo = "load-sharing", 40 }), "load-management", open, ""},
	{"one point shares with nobody", none, "sharing", "", ""},
}

// TestArrange judges answers to decisions by the rules themselves: on a PME
// supply outdoors, single phase (722.411.4.1, 722.531.3, from memory).
func TestArrange(t *testing.T) {
	j := ruletest.Example(t, examples+"uk-pass.json")
	want := map[string]verdict.Verdict{
		"type A, all live poles, 6 mA d.c. detection in the charger": "sound", "type AC": "stop", "type A with a solid neutral": "stop", "type A, no d.c. detection": "stop", "type B, all live poles": "sound",
		"(iv) device by line-neutral voltage": "sound", "(i) three-phase loads in balance": "stop", "point made TT, apart from PME metalwork": "open", "nothing": "stop",
		"hard-wired charging point": "sound", "industrial socket-outlet, unit plugged in": "watch", "at the board": "watch", "fitted with this work": "sound",
	}
	ruletest.Arranged(t, &j, want)
	j.Survey.Supply.Phases, j.Design.Circuits[0].Earthing.Loads, j.Design.Circuits[0].Charger.Phases = 3, []quantity.Ampere{40, 25, 20}, 3
	ruletest.Arranged(t, &j, map[string]verdict.Verdict{"(i) three-phase loads in balance": "sound", "(iv) device by line-neutral voltage": "stop"})
	j.Survey.Supply.System = job.TT
	list, _ := rulebook.Arrange(&j, "A")
	for _, d := range list {
		if d.ID == "open-pen" || d.ID == "sharing" {
			t.Errorf("%s is asked of one point on a TT supply", d.ID)
		}
	}
}

func putAside(j *job.Job, id string) {
	j.Log = append(j.Log, job.Entry{ID: "override-1", Kind: job.Overridden, Subject: job.PaperOverride + id, By: "A. Nakagawa", Reason: "granted by word of mouth"})
}

// torqueBy gives the torques a driver with a last day of calibration.
func torqueBy(until string) change {
	return func(j *job.Job) {
		for i := range j.Log {
			if j.Log[i].Kind == job.TorqueMade && j.Log[i].Point == "A" {
				j.Log[i].Calibrated = until
			}
		}
	}
}

// replacedReading puts a reading by an instrument out of calibration before the one
// that counts, which replaces it.
func replacedReading(test, until string) change {
	return func(j *job.Job) {
		retest(test, "9.99", "leads were not nulled; nulled again")(j)
		i := slices.IndexFunc(j.Log, func(e job.Entry) bool { return e.ID == "reading-before" })
		j.Log[i].Calibrated = until
	}
}

// answersAfter has the mate's answer come once the board was switched on.
func answersAfter(j *job.Job) {
	ruletest.Log(j, job.StepDone, "", "energise", "K. Osei")
	e, _ := j.Latest(job.StepDone, "", "energise")
	j.Log = append(j.Log, job.Entry{ID: "answer-late", Kind: job.StepDone, Subject: worklog.Answer, Value: "T. Brandt", By: "K. Osei", At: e.At.Add(time.Minute)})
}

func onConsent(a job.Answer) ruletest.Change {
	return func(j *job.Job) { j.Survey.Consent.Landlord = a }
}

func dropPaper(id string) ruletest.Change {
	return func(j *job.Job) {
		j.Clearances.Papers = slices.DeleteFunc(slices.Clone(j.Clearances.Papers), func(p job.Paper) bool { return p.ID == id })
	}
}
