package books

import (
	"encoding/json"
	"maps"
	"slices"
	"strconv"
	"strings"
	"testing"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/rulebook"
	"dogbolt/core/schema"
	"dogbolt/core/worklog"
	"dogbolt/internal/testkit/ruletest"
)

const uk2024 = "bs7671:2018+A3:2024"

const examples = "../../docs/formats/examples/"

// extended carries an old circuit on to the point.
func extended(j *job.Job) {
	c := &j.Design.Circuits[0]
	c.Existing, c.Cable = job.Yes, job.Cable{Family: job.TwinEarth, Size: "10 mm²"}
	c.Beyond = job.Beyond{From: 2, Cable: job.Cable{Fate: job.FateNew, Family: job.Multicore, Size: "10 mm²", Material: job.Copper}, Accessible: job.Yes, Suited: job.Yes}
	ruletest.Log(j, job.StepDone, "A", worklog.JointBox, "behind the meter cupboard")
}

// sound are jobs that meet their rules, one of each kind of supply and of work.
func sound(t testing.TB) map[string]job.Job {
	uk := func(change ruletest.Change) job.Job {
		return signed(t, ruletest.Example(t, examples+"uk-pass.json"), change)
	}
	us := func(change ruletest.Change) job.Job {
		return signed(t, ruletest.Example(t, examples+"us-pass.json"), change)
	}
	on := ruletest.OnCircuit
	return map[string]job.Job{
		"uk TN-C-S": uk(func(*job.Job) {}),
		"uk TN-S":   uk(ruletest.OnSupply(func(s *job.Supply) { s.System, s.DeclaredZe = job.TNS, 0.8 })),
		"uk TT": uk(func(j *job.Job) {
			j.Survey.Supply.System, j.Survey.Supply.DeclaredZe, j.Survey.Supply.ElectrodeRA = job.TT, 0, 80
			j.Survey.Supply.EarthFault = 0.3
		}),
		"uk point made TT": uk(on(func(c *job.Circuit) {
			c.Earthing = job.PointEarthing{OpenPEN: job.PENTT, RA: 80, Separation: 3, ArmourApart: job.Yes}
		})),
		"uk way (ii)": uk(on(func(c *job.Circuit) { c.Earthing = job.PointEarthing{OpenPEN: job.PENElectrode, RA: 1} })),
		"uk way (i)": uk(func(j *job.Job) {
			three(j)
			j.Design.Circuits[0].Earthing = job.PointEarthing{OpenPEN: job.PENImbalance, Loads: []quantity.Ampere{40, 30, 30}}
		}),
		"uk three phases": uk(three),
		"uk type B":       uk(on(func(c *job.Circuit) { c.RCD.Type, c.Charger.DCDetection = job.TypeB, job.No })),
		"uk fault protection by the residual device": uk(func(j *job.Job) {
			j.Design.Circuits[0].FaultByRCD, j.Survey.Supply.System, j.Survey.Supply.DeclaredZe = job.Yes, job.TNS, 1.5
			ruletest.Read("ze", "")(j) // the declared figure holds
		}),
		"uk armour": uk(on(func(c *job.Circuit) { c.Cable.Earth = job.EarthArmour })),
		"uk twin and earth, low Ze": uk(func(j *job.Job) {
			j.Survey.Supply.DeclaredZe = 0.05
			j.Design.Circuits[0].Cable = job.Cable{Family: job.TwinEarth, Size: "6 mm²"}
			j.Design.Circuits[0].Breaker.Class = 3
		}),
		"uk by diversity": uk(func(j *job.Job) {
			j.Survey.Supply.PeakDemand, j.Survey.Supply.PeakDays, j.Design.DemandMethod = 0, 0, job.ByDiversity
			j.Survey.Loads = []job.Load{{Kind: job.Cooker, Name: "cooker", Power: 7000, WithSocket: job.No}, {Kind: job.Sockets, Name: "ring", Amps: 32}, {Kind: job.Sockets, Name: "kitchen", Amps: 32}}
		}),
		"uk managed": uk(func(j *job.Job) { j.Survey.Supply.PeakDemand, j.Design.Circuits[0].ManagedTo = 75, 90 }),
		"uk A3": uk(func(j *job.Job) {
			j.Rulebook, j.Design.Circuits[0].Charger.Exports, j.Design.Circuits[0].Breaker.BothWays = uk2024, job.Yes, job.Yes
		}),
		"uk two points":    uk(two),
		"uk feeding back":  uk(on(func(c *job.Circuit) { c.Charger.Exports, c.Breaker.BothWays = job.Yes, job.Yes })),
		"uk in the ground": uk(ruletest.OnRoute(job.Segment{Method: job.Buried, Length: 16, Cover: 0.6, Under: "garden", Taped: job.Yes, Soil: 1, Ducted: job.No, Grouped: 2})),
		"uk in conduit": uk(func(j *job.Job) {
			j.Design.Circuits[0].Cable = job.Cable{Family: job.Multicore, Size: "10 mm²"}
			ruletest.OnRoute(job.Segment{Method: job.Conduit, Length: 10, Bends: 180, Pull: job.Yes, Size: "32 mm"}, job.Segment{Method: job.Conduit, Length: 6, Bends: 270, Size: "32 mm"})(j)
		}),
		"uk positions by their lengths": uk(func(j *job.Job) {
			j.Survey.SitePlan = job.SitePlan{Positions: []job.Position{{ID: "A", Run: 16, Cord: 3, Gas: job.Yes}, {ID: "B", Run: 9, Cord: 5, Gas: job.Yes}}}
			j.Survey.Places[0].Position = "A"
		}),
		"uk joint box": uk(func(j *job.Job) {
			c := &j.Design.Circuits[0]
			c.Cable = job.Cable{Family: job.TwinEarth, Size: "10 mm²"}
			c.Beyond = job.Beyond{From: 2, Cable: job.Cable{Family: job.Multicore, Size: "10 mm²", Material: job.Copper}, Accessible: job.Yes, Suited: job.Yes}
			ruletest.Log(j, job.StepDone, "A", worklog.JointBox, "behind the meter cupboard")
		}),
		"uk clipped in one layer": uk(ruletest.OnRoute(job.Segment{Method: job.Surface, Length: 16, Grouped: 2, OneLayer: job.Yes, Insulated: 0})),
		"uk drawn":                uk(drawn),
		"uk board mapped": uk(ruletest.OnBoard(func(b *job.Board) {
			b.Layout, b.Rows, b.Ways, b.WaysFree = "rows", 1, 4, nil
			b.Slots = []job.Slot{{At: 1, Poles: 1, Circuit: "lights", Rating: 6}, {At: 2, Poles: 1, Circuit: "ring", Rating: 32}}
		})),
		"uk on a sub-main": uk(ruletest.OnBoard(func(b *job.Board) {
			four := quantity.Ampere(4)
			b.FedFrom, b.OtherDemand, b.Links = job.FromSubMain, &four, []job.Link{{Kind: job.FeederDevice, Rating: 40}}
			b.Loop, b.Drop = 0.5, 1
		})),
		"uk taken away":        uk(away(job.FateTakenOut, job.FateKept)),
		"uk taken away, whole": uk(away(job.FateTakenOut, job.FateTakenOut)),
		"uk mended": uk(on(func(c *job.Circuit) {
			c.Existing, c.Charger.Fate, c.Mended = job.Yes, job.FateKept, job.Mended{Fault: "stops", Cause: "welded", Part: job.MendedContactor}
		})),
		"uk residual device exchanged": uk(on(func(c *job.Circuit) { c.Existing, c.Charger.Fate, c.RCD.Fate = job.Yes, job.FateKept, job.FateReplaced })),
		"uk replaced upstream": uk(func(j *job.Job) {
			j.Survey.Board.UpstreamRCDType = "AC"
			j.Design.Ahead = job.Ahead{Type: job.TypeA, Rating: 63, TripMA: 30, Delayed: job.No, Feeds: "sockets"}
			ruletest.Log(j, job.ReadingMade, "A", "behind", "sound")
			ruletest.Log(j, job.ReadingMade, "A", "ahead-time", "24")
		}),
		"uk extended": uk(extended),
		"uk small board": uk(func(j *job.Job) {
			j.Design.Circuits[0].Breaker.BreakingKA = 0 // the board's holds
			j.Design.Beside = job.Beside{Fitted: job.Yes, Where: "meter cupboard", Outdoors: job.Yes, IP: "IP65", Ways: 4, Rating: 63, BreakingKA: 6, Tails: 25,
				Length: 1.5, Blocks: 100, Earth: 16, Opens: job.OpensIsolator}
		}),
		"uk board replaced": uk(func(j *job.Job) {
			j.Survey.Board.FedFrom = job.FromService
			j.Design.Beside = job.Beside{Fitted: job.Yes, Instead: job.Yes, Where: "under the stairs", Outdoors: job.No, Made: job.OfSteel, Ways: 14, Taken: 10, Rating: 100,
				BreakingKA: 6, Tails: 25, Length: 1.5, Earth: 16, Opens: job.OpensIsolator, Ahead: "A", AheadRating: 80, Protected: job.Yes, Tried: job.Yes}
			ruletest.Log(j, job.ReadingMade, "A", "behind", "sound")
		}),
		"uk bonded with this work": uk(func(j *job.Job) {
			j.Survey.Bonding.Gas, j.Survey.Bonding.Size, j.Survey.Bonding.Conductor = job.NotBonded, 0, 4
			j.Design.Bonds = job.Bonds{Run: job.BondMissing, Size: 10, Length: 6, Conductor: 16}
		}),
		"uk backed up": uk(func(j *job.Job) {
			j.Survey.Supply.OtherSource, j.Survey.Supply.Second = job.Yes, job.Second{Kind: job.BacksUp, Isolator: "the garage", Rating: 50, Other: 12, Earthed: job.Yes}
			j.Design.Circuits[0].Side = job.BackedSide
		}),
		"uk own source": uk(func(j *job.Job) {
			p, c := &j.Survey.Supply, &j.Design.Circuits[0]
			p.System, p.DeclaredZe, p.ElectrodeRA, p.Earthed, c.FaultByRCD, c.Earthing = job.Island, 0.6, 60, job.Yes, job.Yes, job.PointEarthing{}
		}),
		"us panel replaced": us(func(j *job.Job) {
			j.Survey.Board.FedFrom = job.FromService
			j.Design.Circuits[0].Breaker.BreakingKA = 0 // the panel's holds
			j.Design.Beside = job.Beside{Fitted: job.Yes, Instead: job.Yes, Where: "garage, north wall", Outdoors: job.Yes, Case: "3R", Ways: 40, Taken: 30, Rating: 200, BreakingKA: 22,
				Terminals: 75, Space: job.Yes, Handle: quantity.Inches(66), Grounded: job.Yes, Surge: job.Yes, Outside: job.Yes, Opens: job.OpensIsolator}
			ruletest.Log(j, job.ReadingMade, "A", "behind", "sound")
		}),
		"us own source":             us(ruletest.OnSupply(func(p *job.Supply) { p.System, p.Earthed = job.IslandSplit, job.Yes })),
		"uk sub-main":               uk(subMain(job.No)),
		"uk sub-main to a building": uk(subMain(job.Yes)),
		"us feeder":                 us(feeder(job.No)),
		"us feeder to a building":   us(feeder(job.Yes)),
		"uk moved here":             uk(on(func(c *job.Circuit) { c.Charger.Moved, c.Charger.Serial = "DB-1", "WU-1" })),
		"us taken away":             us(away(job.FateKept, job.FateTakenOut)),
		"us raised": us(on(func(c *job.Circuit) {
			c.Existing, c.Charger.Fate, c.Breaker.Fate, c.Receptacle.Fate = job.Yes, job.FateNew, job.FateReplaced, job.FateTakenOut
		})),
		"us split": us(func(*job.Job) {}),
		"us 208Y": us(func(j *job.Job) {
			j.Survey.Supply.System, j.Survey.Supply.Voltage = job.Wye208, "208"
			ruletest.Read("hot-hot", "207")(j)
		}),
		"us plugged in": us(plugged),
		"us outdoors, plugged in": us(func(j *job.Job) {
			plugged(j)
			c := &j.Design.Circuits[0]
			j.Survey.Places[0].Outdoors, c.Receptacle.Cover = job.Yes, job.Yes
			c.Charger.NeedsNeutral, c.Receptacle.Neutral, c.Receptacle.Box, c.Receptacle.Gangs = job.No, job.No, "4-2.125", 1
		}),
		"us outlet alone": us(func(j *job.Job) {
			plugged(j)
			j.Survey.Places[0].Outdoors = job.Yes
			c := &j.Design.Circuits[0]
			c.Charger, c.Receptacle.Cover = job.Charger{Fate: job.FateNone, Phases: 1, Terminals: 75}, job.Yes
		}),
		"us measured": us(ruletest.OnSupply(func(s *job.Supply) {
			s.Rating, s.PeakDemand, s.PeakDays, s.PeakMinutes, s.PeakSeason = 125, 60, 60, 15, job.Yes
		})),
		"us by months": us(ruletest.OnSupply(func(s *job.Supply) {
			s.Monthly, s.PeakMinutes = []float64{60, 61, 62, 63, 64, 65, 64, 63, 62, 61, 60, 59}, 15
		})),
		"us by 220.82":     us(func(j *job.Job) { j.Design.DemandMethod = job.By22082 }),
		"us large service": us(ruletest.OnSupply(func(s *job.Supply) { s.Rating, s.Transformer, s.Impedance = 400, 50, 3 })),
		"us managed":       us(on(func(c *job.Circuit) { c.ManagedTo = 150 })),
		"us turned down": us(on(func(c *job.Circuit) {
			c.Setting, c.Breaker.Rating, c.Guarded, c.Cable.EarthSize = 32, 40, job.Yes, "8 AWG"
		})),
		"us metal-clad in the wet": us(func(j *job.Job) {
			c := &j.Design.Circuits[0]
			c.Cable = job.Cable{Family: job.MC, Size: "4 AWG", Material: job.Copper, EarthSize: "8 AWG", WhiteIsHot: job.Yes, WetMarked: job.Yes}
			ruletest.OnRoute(job.Segment{Method: job.Surface, Length: 12, Wet: job.Yes, Roof: job.No})(j)
			ruletest.Log(j, job.StepDone, "A", worklog.Remark, "every visible end")
		}),
		"us aluminium": us(on(func(c *job.Circuit) {
			c.Cable.Material, c.Cable.Size, c.Cable.EarthSize, c.Cable.AlMarked = job.Aluminium, "4 AWG", "8 AWG", job.Yes
		})),
		"us PVC on a wall": us(func(j *job.Job) {
			j.Design.Circuits[0].Cable = job.Cable{Family: job.ThwnPVC, Size: "4 AWG", Material: job.Copper, EarthSize: "8 AWG", WhiteIsHot: job.No}
			ruletest.OnRoute(job.Segment{Method: job.Conduit, Length: 12, Wet: job.No, Size: "¾", Schedule: 40})(j)
		}),
		"us NM-B": us(func(j *job.Job) {
			j.Design.Circuits[0].Cable.Family, j.Design.Circuits[0].Cable.Size, j.Design.Circuits[0].Cable.EarthSize = job.NMB, "4 AWG", "8 AWG"
		}),
		"us joint box": us(func(j *job.Job) {
			c := &j.Design.Circuits[0]
			c.Beyond = job.Beyond{From: 2, Cable: c.Cable, Accessible: job.Yes, Suited: job.Yes}
			c.Beyond.Cable.Family = job.ThwnPVC
			j.Survey.Places[0].Route[1].Schedule, j.Survey.Places[0].Route[1].Size = 80, "1"
			ruletest.Log(j, job.StepDone, "A", worklog.JointBox, "beside the garage door")
		}),
		"us EMT as the ground": us(on(func(c *job.Circuit) { c.Cable.Earth, c.Cable.EarthSize = job.EarthArmour, "" })),
		"us 80 A": us(on(func(c *job.Circuit) {
			c.Charger.Rating, c.Setting, c.Breaker.Rating, c.Cable.Size, c.Cable.EarthSize, c.Disconnect = 80, 80, 100, "1 AWG", "6 AWG", job.Yes
		})),
		"us long cord": us(on(func(c *job.Circuit) { c.Charger.CordLength, c.Charger.CordManaged = quantity.Feet(30), job.Yes })),
		"us two points that share": us(func(j *job.Job) {
			two(j)
			j.Design.Sharing, j.Design.SharedTo = job.LoadSharing, 60
		}),
		"us buried": us(func(j *job.Job) {
			j.Design.Circuits[0].Cable = job.Cable{Family: job.ThwnPVC, Size: "4 AWG", Material: job.Copper, EarthSize: "8 AWG", WhiteIsHot: job.No}
			ruletest.OnRoute(job.Segment{Method: job.Buried, Length: 12, Wet: job.Yes, Cover: quantity.Inches(20), Under: "garden", Taped: job.Yes, Riser: job.Yes, Slack: job.Yes})(j)
		}),
		"us in framing": us(func(j *job.Job) {
			j.Design.Circuits[0].Cable = job.Cable{Family: job.NMB, Size: "4 AWG", Material: job.Copper, EarthSize: "8 AWG", WhiteIsHot: job.No}
			ruletest.OnRoute(job.Segment{Method: job.StudWall, Length: 12, Wet: job.No, Edges: job.Yes})(j)
		}),
		"us over a roof": us(ruletest.OnRoute(job.Segment{Method: job.Conduit, Length: 12, Wet: job.Yes, Roof: job.No, Ambient: ruletest.Celsius(40)})),
		"us at another building": us(func(j *job.Job) {
			p := &j.Survey.Places[0]
			p.Detached, p.OtherSupply, j.Design.Circuits[0].Disconnect = job.Yes, job.No, job.Yes
		}),
		"us rearranged": us(ruletest.OnBoard(func(b *job.Board) {
			b.WaysFree, b.Layout, b.Ways, b.Rearrangement = nil, job.Columns, 8, job.Rearrangement{At: 5, Moves: []job.Shift{{From: 5, To: 6}}}
			b.Slots = []job.Slot{{At: 1, Circuit: "a"}, {At: 2, Circuit: "b"}, {At: 3, Circuit: "c"}, {At: 4, Circuit: "d"}, {At: 5, Circuit: "e"}}
		})),
		"us on a sub-main": us(ruletest.OnBoard(func(b *job.Board) {
			four := quantity.Ampere(4)
			b.FedFrom, b.OtherDemand, b.Links = job.FromSubMain, &four, []job.Link{{Kind: job.FeederDevice, Rating: 100}}
			b.Outbuilding = job.Outbuilding{Apart: job.Yes, Disconnect: job.Yes, Electrode: job.Yes, Neutral: job.Yes}
		})),
	}
}

// subMain makes the circuit a sub-main to a board outdoors, in a building of its own or not.
func subMain(apart job.Answer) ruletest.Change {
	return func(j *job.Job) {
		c, p, other := &j.Design.Circuits[0], &j.Survey.Places[0], quantity.Ampere(8)
		c.Connection, c.Charger, c.Cable.Size = job.IntoBoard, job.Charger{Fate: job.FateNone, Phases: 1, Terminals: 70}, "10 mm²"
		c.Dedicated, c.Isolator, c.Earthing = "", "", job.PointEarthing{}
		c.RCD = job.RCD{Fitted: job.Yes, Type: job.TypeA, TripMA: 100, AllPoles: job.Yes, Delayed: job.Yes}
		c.End = job.End{Ways: 6, Rating: 63, BreakingKA: 6, IP: "IP65", Other: &other, Space: job.Yes}
		p.Name, p.Detached = "garage wall", apart
		if apart == job.Yes {
			p.OtherSupply, c.End.Metal = job.No, job.Yes
		}
		ruletest.Read("rcd-time", "200")(j)
		ruletest.Read("pfc-end", "0.6")(j)
	}
}

// feeder makes the circuit a feeder to a panel outdoors, at a building of its own or not.
func feeder(apart job.Answer) ruletest.Change {
	return func(j *job.Job) {
		c, p, other := &j.Design.Circuits[0], &j.Survey.Places[0], quantity.Ampere(8)
		c.Connection, c.Charger = job.IntoBoard, job.Charger{Fate: job.FateNone, Phases: 1, Terminals: 75}
		c.Dedicated, c.Guarded = "", ""
		c.End = job.End{Ways: 12, Rating: 125, BreakingKA: 10, Enclosure: "3R", Other: &other, Space: job.Yes, Handle: 1.6, Neutral: job.Yes}
		p.Name, p.Detached, p.Outdoors = "workshop wall", apart, job.Yes
		if apart == job.Yes {
			p.OtherSupply, c.End.Disconnect, c.End.Electrode = job.No, job.Yes, job.Yes
		}
	}
}

// away takes the charger away, with what was written down of it.
func away(breaker, cable job.Fate) ruletest.Change {
	return func(j *job.Job) {
		ruletest.Removed(breaker, cable)(j)
		ruletest.Read("meter", "4821 kWh")(j)
		for _, s := range [][2]string{{worklog.Release, worklog.Releases[0]}, {worklog.TakeDown, worklog.Conditions[0]}, {worklog.PointEnd, "box by the drive"}} {
			ruletest.Log(j, job.StepDone, "A", s[0], s[1])
		}
	}
}

// three makes supply, charger, breaker and cable those of three phases.
func three(j *job.Job) {
	c := &j.Design.Circuits[0]
	j.Survey.Supply.Phases, c.Charger.Phases, c.Breaker.Poles, c.Cable.Loaded, c.Cable.Size = 3, 3, 4, 3, "10 mm²"
	c.Earthing.OpenPEN = job.PENTouch
}

// two puts a second point like the first beside it.
func two(j *job.Job) {
	ruletest.Twice(func(d *job.Design) { d.Sharing = job.Separate })(j)
	n := len(j.Log)
	for _, e := range j.Log[:n] {
		if e.Point == "A" {
			e.ID, e.Point = e.ID+"-b", "B"
			j.Log = append(j.Log, e)
		}
	}
	free := 6
	j.Survey.Board.WaysFree, j.Survey.Board.CircuitsFitted = &free, min(j.Survey.Board.CircuitsFitted, 28)
}

// plugged makes the charger one that is plugged in.
func plugged(j *job.Job) {
	c := &j.Design.Circuits[0]
	c.Connection, c.Setting, c.Guarded, c.Breaker.Rating, c.Cable.EarthSize = job.PluggedIn, 40, job.Yes, 50, "8 AWG"
	c.Charger.NeedsNeutral = job.Yes
	c.Charger.SupplyCord = quantity.Feet(1.5)
	c.Receptacle = job.Receptacle{Rating: 50, GFCI: job.Yes, Neutral: job.Yes, Box: "4.69-2.125", Gangs: 2, Clear: job.Yes, Clamps: job.No}
	ruletest.Read("gfci-trip", "5")(j)
	ruletest.Read("pilot", "66.7")(j)
	ruletest.Log(j, job.SettingMade, "A", worklog.SetAmps, "40")
}

// drawn draws a site plan on which the chosen position reaches the vehicle.
func drawn(j *job.Job) {
	s := &j.Survey
	s.SitePlan = job.SitePlan{
		Walls:     []job.Wall{{From: job.XY{}, To: job.XY{Y: 6}, Thick: 0.2}},
		Gas:       []job.Gas{{Kind: "meter", From: job.XY{X: 0.1, Y: 4.25}}},
		Bays:      []job.Bay{{ID: "1", Centre: job.XY{X: 2.6, Y: 3}, Length: 5, Width: 2.6, Heading: 90}},
		Positions: []job.Position{{ID: "A", At: &job.XY{X: 0.1, Y: 3}, Height: 1.1, Fixing: "brick", Drill: job.Yes}, {ID: "B", At: &job.XY{X: 0.1, Y: 5}, Height: 1.1}},
		Board:     &job.XY{X: -6, Y: 3},
	}
	s.Vehicles[0].Bay, s.Vehicles[0].Inlet, s.Vehicles[0].Attitude = "1", "rear-left", "nose-in"
	s.Places[0].Position = "A"
}

// signed makes a change and signs the design anew.
func signed(t testing.TB, j job.Job, change ruletest.Change) job.Job {
	t.Helper()
	change(&j)
	for i := range j.Log {
		if j.Log[i].Kind == job.SignedOff && j.Log[i].Subject == "design" {
			j.Log[i].Value = j.DesignDigest()
		}
	}
	return j
}

// verdicts are what the rules say of a job, by rule and point. Signatures, which
// follow every change of the design, are left out: they say nothing of a field.
func verdicts(t testing.TB, j *job.Job) map[string]rulebook.Verdict {
	t.Helper()
	findings, err := rulebook.Check(j)
	if err != nil {
		t.Fatal(err)
	}
	out := map[string]rulebook.Verdict{}
	for _, f := range findings {
		if !strings.HasPrefix(f.Rule, "signed-") {
			out[f.Rule+" "+f.Point] = f.Verdict
		}
	}
	return out
}

// worse returns what turned graver, "" where nothing did.
func worse(before, after map[string]rulebook.Verdict) string {
	for _, k := range slices.Sorted(maps.Keys(after)) {
		b, ok := before[k]
		if !ok {
			b = rulebook.Sound
		}
		if after[k].Graver(b) {
			return k + " " + string(after[k])
		}
	}
	return ""
}

// leaf is a value of the job's document that is no object and no list.
type leaf struct {
	path []any // names and places
	name string
	node map[string]any
	has  bool
}

// leaves lists the leaves of the published schema in a document, those that it leaves
// out too.
func leaves(t testing.TB, doc any) []leaf {
	t.Helper()
	var root map[string]any
	if err := json.Unmarshal(schema.Of[job.Job]().Publish("", ""), &root); err != nil {
		t.Fatal(err)
	}
	var out []leaf
	var walk func(node map[string]any, path []any, value any, has bool)
	walk = func(node map[string]any, path []any, value any, has bool) {
		if ref, ok := node["$ref"].(string); ok {
			node = root["$defs"].(map[string]any)[strings.TrimPrefix(ref, "#/$defs/")].(map[string]any)
		}
		switch node["type"] {
		case "object":
			members, _ := value.(map[string]any)
			props, _ := node["properties"].(map[string]any)
			for _, name := range slices.Sorted(maps.Keys(props)) {
				v, in := members[name]
				walk(props[name].(map[string]any), append(slices.Clone(path), name), v, has && in)
			}
		case "array":
			list, _ := value.([]any)
			for i, v := range list {
				walk(node["items"].(map[string]any), append(slices.Clone(path), i), v, true)
			}
			if len(list) == 0 && has {
				out = append(out, leaf{path, plain(path), node, true})
			}
		default:
			out = append(out, leaf{path, plain(path), node, has})
		}
	}
	walk(root, nil, doc, true)
	return out
}

// plain names a path without its places: survey.loads.kind.
func plain(path []any) string {
	var parts []string
	for _, p := range path {
		if s, ok := p.(string); ok {
			parts = append(parts, s)
		}
	}
	return strings.Join(parts, ".")
}

// put sets or, with nil, removes the value at a path of a document.
func put(doc any, path []any, v any) {
	for _, p := range path[:len(path)-1] {
		switch k := p.(type) {
		case string:
			m := doc.(map[string]any)
			if m[k] == nil {
				m[k] = map[string]any{}
			}
			doc = m[k]
		case int:
			doc = doc.([]any)[k]
		}
	}
	switch k := path[len(path)-1].(type) {
	case string:
		if v == nil {
			delete(doc.(map[string]any), k)
		} else {
			doc.(map[string]any)[k] = v
		}
	case int:
		doc.([]any)[k] = v
	}
}

// worst are the values that a leaf may have and that could be worse than its own.
func worst(l leaf, now any) []any {
	if list, ok := l.node["enum"].([]any); ok {
		return slices.DeleteFunc(slices.Clone(list), func(v any) bool { return v == now })
	}
	switch l.node["type"] {
	case "number", "integer":
		var out []any
		for _, k := range []string{"minimum", "maximum"} {
			if v, ok := l.node[k]; ok && v != now {
				out = append(out, v)
			}
		}
		n, ok := now.(float64)
		if !ok {
			n = 30
		}
		for _, v := range []float64{n / 10, n / 2, n * 2, n * 10} {
			if l.node["type"] == "integer" {
				v = float64(int(v))
			}
			out = append(out, v)
		}
		return out
	case "string":
		return []any{"?", "no", "none"}
	}
	return nil
}

// quiet is why nothing is said of a field: when it is left out (away), whatever it says
// (worst), or either way (both).
type quiet struct{ kind, why string }

var silent = map[string]quiet{
	"clearances.papers.before":              {"away", "left out it comes before nothing; the rulebook proposes it again"},
	"clearances.papers.due":                 {"away", "a date to be reminded of"},
	"clearances.papers.form":                {"worst", "the id of a form: one that is not known has no pre-flight"},
	"clearances.papers.id":                  {"worst", "a name"},
	"clearances.papers.reason":              {"worst", "a person's words"},
	"clearances.papers.reference":           {"both", "the other party's number"},
	"clearances.papers.sent":                {"away", "a paper that was granted was sent"},
	"clearances.papers.signedBy":            {"worst", "a name; the pre-flight of the form compares it"},
	"clearances.papers.title":               {"both", "words"},
	"clearances.papers.waitLow":             {"away", "an estimate of waiting"},
	"clearances.papers.who":                 {"both", "words"},
	"plan.home":                             {"both", "weighs when a day is booked, core/planning"},
	"plan.hours":                            {"away", "weighs when a day is booked"},
	"plan.start":                            {"away", "weighs when a day is booked"},
	"plan.team":                             {"both", "weighs when a day is booked"},
	"plan.override.reason":                  {"worst", "a person's words, printed"},
	"plan.parts.from":                       {"worst", "filled in by the stock"},
	"site.follows":                          {"worst", "a number of ours, printed"},
	"plan.parts.by":                         {"worst", "the stock and the order list pass it over; it is ticked once somebody has seen it"},
	"plan.parts.item":                       {"both", "a number of the stock"},
	"plan.parts.name":                       {"worst", "words"},
	"plan.parts.pieces":                     {"away", "a hint for who cuts"},
	"plan.parts.quantity":                   {"both", "what is missing is in hand or not; the stock compares quantities"},
	"plan.parts.supply":                     {"worst", "where it is to be had; what counts is whether it is in hand"},
	"plan.parts.tool":                       {"both", "a tool is packed like a part"},
	"plan.parts.unit":                       {"both", "the stock compares units"},
	"plan.parts.why":                        {"both", "words"},
	"plan.parts.says":                       {"both", "what is written on labels, for who prints them"},
	"design.circuits.charger.entryDepth":    {"both", "names the cutter among the parts, core/route"},
	"design.circuits.breaker.breakingKa":    {"away", "the board's own figure holds where the breaker has none"},
	"design.circuits.cable.loaded":          {"away", "follows the charger's phases"},
	"design.circuits.charger.outlet":        {"worst", "both words are right; it decides the time of disconnection that is printed, and whether a cord has a length"},
	"design.ahead.feeds":                    {"worst", "words; printed, and tested again"},
	"design.circuits.charger.moved":         {"away", "left out it is bought, and counts as any other"},
	"design.circuits.receptacle.fate":       {"away", "left out no outlet is known of where the charger is wired in"},
	"design.circuits.charger.listing":       {"worst", "words; the certificate asks for them"},
	"design.circuits.charger.manual":        {"both", "where the customer reads on; the pack"},
	"design.circuits.charger.warrantyYears": {"both", "the pack"},
	"design.circuits.charger.serial":        {"both", "a number of the unit; printed, and compared by nobody"},
	"design.circuits.charger.type":          {"both", "words"},
	"design.circuits.rcd.delayed":           {"away", "S types are made above 30 mA, which is a stop of its own; the trip time tells"},
	"design.circuits.settingGuarded":        {"both", "left out or no, the nameplate counts, which is never less"},
	"design.circuits.spdReason":             {"worst", "a person's words, printed"},
	"design.circuits.why":                   {"worst", "a person's words, printed"},
	"design.demandMethod":                   {"away", "left out the measured demand or the country's first method holds, and is named"},
	"design.evInBucket":                     {"worst", "either school is allowed; which was used is printed"},
	"design.money.distance":                 {"worst", "cost, not wiring"},
	"design.money.house":                    {"worst", "cost, not wiring"},
	"format":                                {"worst", "another format is refused by the reader before"},
	"number":                                {"worst", "a name"},
	"site.bill.account":                     {"worst", "compared by the pre-flight of forms, core/clearance"},
	"site.bill.name":                        {"worst", "compared by the pre-flight of forms"},
	"site.bill.postcode":                    {"worst", "compared by the pre-flight of forms"},
	"site.bill.street":                      {"worst", "compared by the pre-flight of forms"},
	"site.customer":                         {"worst", "a name"},
	"site.language":                         {"both", "the pack's language"},
	"site.email":                            {"worst", "an address"},
	"site.note":                             {"worst", "words"},
	"site.phone":                            {"both", "a number"},
	"site.postcode":                         {"both", "an address; forms compare it"},
	"site.street":                           {"worst", "an address"},
	"site.town":                             {"worst", "an address; the ways of the days know it or not"},
	"survey.board.breakingKa":               {"both", "the breaker's own figure holds where it has one"},
	"survey.board.label":                    {"both", "words"},
	"survey.board.links.kind":               {"worst", "names what the rating is of"},
	"survey.board.outbuilding.apart":        {"worst", "in the service's own building nothing else is asked; yes asks the rest"},
	"survey.board.rows":                     {"away", "the drawing's rows; the count of ways holds"},
	"survey.board.slots.circuit":            {"both", "words of the circuit chart"},
	"survey.board.slots.fixed":              {"worst", "a device that may not be moved takes freedom away only where it is full: core/panel"},
	"survey.board.slots.multiwire":          {"worst", "likewise; it is named where it stands on a double"},
	"survey.board.slots.poles":              {"away", "the drawing shows one space; the count of free ways has to agree"},
	"survey.board.slots.rating":             {"both", "words of the circuit chart"},
	"survey.consent.asked":                  {"worst", "completeness of the survey, core/visit"},
	"survey.consent.landlord":               {"away", "completeness of the survey"},
	"survey.consent.ownBay":                 {"worst", "completeness of the survey"},
	"survey.consent.refused":                {"worst", "words"},
	"survey.dwelling.kitchenCircuits":       {"away", "at least two are counted"},
	"survey.dwelling.laundryCircuits":       {"away", "at least one is counted"},
	"survey.loads.name":                     {"both", "words"},
	"survey.network.kind":                   {"worst", "completeness of the survey; booking asks for the password"},
	"survey.network.passwordWith":           {"worst", "booking asks for it"},
	"survey.network.setUpWithout":           {"worst", "booking asks for it"},
	"survey.network.signal":                 {"worst", "a position without a network is watched in the table of positions"},
	"survey.places.name":                    {"both", "words"},
	"survey.places.route.bends":             {"away", "only raceways have bends, and none is counted for none: the take-off asks for pull points"},
	"survey.places.route.ducted":            {"worst", "left out the worse of both holds"},
	"survey.places.route.note":              {"both", "words"},
	"survey.places.route.schedule":          {"away", "left out it counts as 80, the narrower"},
	"survey.places.route.size":              {"away", "the smallest raceway that holds the circuit is proposed"},
	"survey.places.why":                     {"worst", "a person's words, printed"},
	"survey.sitePlan.gas.from.x":            {"worst", "geometry: core/reach has tests of its own against brute force"},
	"survey.sitePlan.gas.from.y":            {"worst", "geometry: core/reach has tests of its own against brute force"},
	"survey.sitePlan.gas.kind":              {"worst", "both keep 150 mm from a charger"},
	"survey.sitePlan.walls.from.x":          {"worst", "geometry: core/reach has tests of its own against brute force"},
	"survey.sitePlan.walls.from.y":          {"worst", "geometry: core/reach has tests of its own against brute force"},
	"survey.sitePlan.walls.to.x":            {"worst", "geometry: core/reach has tests of its own against brute force"},
	"survey.sitePlan.walls.to.y":            {"worst", "geometry: core/reach has tests of its own against brute force"},
	"survey.sitePlan.bays.heading":          {"away", "0 is a heading"},
	"survey.sitePlan.positions.cover":       {"worst", "weighs in the table of positions"},
	"survey.sitePlan.positions.drill":       {"away", "weighs in the table of positions"},
	"survey.sitePlan.positions.fixing":      {"away", "weighs in the table of positions"},
	"survey.sitePlan.positions.height":      {"away", "the holder's own height has its rule"},
	"survey.sitePlan.positions.name":        {"worst", "words"},
	"survey.sitePlan.positions.road":        {"worst", "weighs in the table of positions"},
	"survey.sitePlan.positions.run":         {"both", "compared on the page, and the price; the route is measured"},
	"survey.sitePlan.positions.signal":      {"worst", "weighs in the table of positions"},
	"survey.sitePlan.walls.thick":           {"away", "drawn thin where it was not measured"},
	"survey.supply.earthFault":              {"away", "left out it is computed from Ze, which gives more"},
	"survey.supply.mainSwitchAt":            {"both", "words of a step"},
	"survey.vehicles.arrival":               {"away", "advice on time and cost, core/charging"},
	"survey.vehicles.attitude":              {"away", "the cord is tried both ways"},
	"survey.vehicles.battery":               {"away", "advice on time and cost"},
	"survey.vehicles.bay":                   {"away", "the cord is not drawn without it; it advises"},
	"survey.vehicles.departure":             {"away", "advice on time and cost"},
	"survey.vehicles.energy":                {"both", "advice on time and cost"},
	"survey.vehicles.name":                  {"both", "words"},
	"survey.vehicles.phases":                {"away", "advice on time and cost"},
}

func clone(t testing.TB, doc any) any {
	t.Helper()
	b, err := json.Marshal(doc)
	if err != nil {
		t.Fatal(err)
	}
	var out any
	if err := json.Unmarshal(b, &out); err != nil {
		t.Fatal(err)
	}
	return out
}

// TestSoundJobs: the jobs that the audit changes meet the rules of survey and design;
// their logs are those of the examples.
func TestSoundJobs(t *testing.T) {
	early := map[string]bool{}
	for _, b := range rulebook.All() {
		for _, r := range b.Rules {
			early[r.ID] = r.Stage == job.StageSurvey || r.Stage == job.StageDesign
		}
	}
	for name, j := range sound(t) {
		for rule, v := range verdicts(t, &j) {
			if early[strings.Fields(rule)[0]] && (v == rulebook.Stop || v == rulebook.Open) {
				t.Errorf("%s: %s is %s", name, rule, v)
			}
		}
	}
}

// TestEveryFieldBearsWeight takes every leaf of the job's document away, and gives it
// every other word or the ends of its range, on jobs of every kind until one of them
// speaks: something turns graver, or reading refuses it, or the table says why not.
func TestEveryFieldBearsWeight(t *testing.T) {
	heard := map[string]map[string]bool{"away": {}, "worst": {}}
	jobs := sound(t)
	for _, name := range slices.Sorted(maps.Keys(jobs)) {
		j := jobs[name]
		b, err := json.Marshal(j)
		if err != nil {
			t.Fatal(err)
		}
		var doc any
		if err := json.Unmarshal(b, &doc); err != nil {
			t.Fatal(err)
		}
		before := verdicts(t, &j)
		speaks := func(path []any, v any) bool {
			changed := clone(t, doc)
			put(changed, path, v)
			b, err := json.Marshal(changed)
			if err != nil {
				t.Fatal(err)
			}
			k, err := job.Read(b)
			if err != nil {
				return true
			}
			if _, err := rulebook.For(&k); err != nil {
				return true
			}
			return worse(before, verdicts(t, &k)) != ""
		}
		for _, l := range leaves(t, doc) {
			if strings.HasPrefix(l.name, "log") || strings.HasPrefix(l.name, "refused") {
				continue // the readings have an audit of their own
			}
			excuse := silent[l.name]
			try := func(kind string) bool { // what is excused is tried on the plain jobs alone
				return !heard[kind][l.name] && (excuse.kind != kind && excuse.kind != "both" || name == "uk TN-C-S" || name == "us split")
			}
			if l.has && try("away") {
				heard["away"][l.name] = speaks(l.path, nil)
			}
			if try("worst") {
				heard["worst"][l.name] = slices.ContainsFunc(worst(l, at(doc, l.path)), func(v any) bool { return speaks(l.path, v) })
			}
		}
	}
	for kind, list := range heard {
		for name, spoke := range list {
			excuse, excused := silent[name]
			excused = excused && (excuse.kind == kind || excuse.kind == "both")
			switch {
			case !spoke && !excused:
				t.Errorf("%s, %s: nothing is said of it, and the table does not say why", name, kind)
			case spoke && excused && excuse.kind != "both":
				t.Errorf("%s, %s: something is said of it; the table need not", name, kind)
			}
		}
	}
}

func at(doc any, path []any) any {
	for _, p := range path {
		switch k := p.(type) {
		case string:
			m, _ := doc.(map[string]any)
			doc = m[k]
		case int:
			l, _ := doc.([]any)
			if k >= len(l) {
				return nil
			}
			doc = l[k]
		}
	}
	return doc
}

// TestEveryReadingBearsWeight takes every reading of every sequence away, and gives it
// what is wrong: past the range, a bound, nothing, ten times, a tenth, the unit of
// another instrument. At least one of the wrong ones is stopped, watched or open; none
// of them makes anything better.
func TestEveryReadingBearsWeight(t *testing.T) {
	jobs := sound(t)
	for name, point := range map[string]string{"uk TN-C-S": "A", "us split": "A", "us plugged in": "A"} {
		j := jobs[name]
		book, err := rulebook.For(&j)
		if err != nil {
			t.Fatal(err)
		}
		before := verdicts(t, &j)
		p, _ := j.Point(point)
		for _, x := range book.In.Tests.Sequence(p.Circuit) {
			t.Run(name+" "+x.ID, func(t *testing.T) {
				with := func(value string) string {
					k := j
					k.Log = slices.Clone(j.Log)
					ruletest.Log(&k, job.ReadingMade, point, x.ID, value)
					return worse(before, verdicts(t, &k))
				}
				e, read := j.Latest(job.ReadingMade, point, x.ID)
				if !read {
					if !x.Optional {
						t.Error("the job has no reading of it")
					}
					return
				}
				if with("") == "" && !x.Optional {
					t.Error("taken away, and nothing is said")
				}
				if x.Words {
					return
				}
				if x.Choice != nil {
					for _, word := range append(x.Choice[1:len(x.Choice):len(x.Choice)], "?", "") {
						if with(word) == "" {
							t.Errorf("%q, and nothing is said", word)
						}
					}
					return
				}
				r, err := quantity.ParseReading(e.Value, x.Unit)
				if err != nil {
					t.Fatal(err)
				}
				wrong := map[string]string{"past the range": "OL", "words": "lots", "zero": "0", "hundred times": strconv.FormatFloat(100*r.Value, 'g', -1, 64), "a hundredth": strconv.FormatFloat(r.Value/100, 'g', -1, 64),
					"another unit": e.Value + " furlong"}
				loud := 0
				for what, v := range wrong {
					switch said := with(v); {
					case said != "":
						loud++
					case what == "words" || what == "another unit":
						t.Errorf("%s, %q: nothing is said", what, v)
					}
				}
				if loud < 4 {
					t.Errorf("only %d of %d wrong readings say anything: %v", loud, len(wrong), wrong)
				}
			})
		}
	}
}
