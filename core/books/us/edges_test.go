package us

import (
	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/rulebook"
	"dogbolt/internal/testkit/ruletest"
)

// edge is one case at the edge of a rule, with the sum or the clause that says so.
type edge struct {
	Name    string
	Change  func(*job.Job)
	Rule    string
	Verdict rulebook.Verdict
	Says    string
	Why     string // worked out by hand, from memory of the clause that is named
}

func outside(f func(*job.Circuit)) func(*job.Job) {
	return both(place(func(p *job.Place) { p.Outdoors = job.Yes }), circuit(f))
}

func load(kind job.LoadKind, watts quantity.Watt) func(*job.Job) {
	return func(j *job.Job) {
		j.Survey.Loads = append(j.Survey.Loads, job.Load{Kind: kind, Name: string(kind), Power: watts})
	}
}

func method(m job.DemandMethod) func(*job.Job) { return func(j *job.Job) { j.Design.DemandMethod = m } }

func managed(limit quantity.Ampere) func(*job.Job) {
	return circuit(func(c *job.Circuit) { c.ManagedTo = limit })
}

// joined is NM-B to a joint box, and wires in tubing for the last 4 ft.
var joined = circuit(func(c *job.Circuit) {
	tubing := c.Cable
	c.Cable = job.Cable{Family: job.NMB, Size: "4 AWG", Material: job.Copper, EarthSize: "8 AWG", WhiteIsHot: job.No}
	c.Beyond = job.Beyond{From: 2, Cable: tubing, Accessible: job.Yes, Suited: job.Yes}
})

func beyond(f func(*job.Beyond)) func(*job.Job) {
	return circuit(func(c *job.Circuit) { f(&c.Beyond) })
}

// wetFrom makes the route wet from a segment on.
func wetFrom(n int) func(*job.Job) {
	return place(func(p *job.Place) {
		for i := n - 1; i < len(p.Route); i++ {
			p.Route[i].Wet = job.Yes
		}
	})
}

// arranged is a panel of eight spaces with five circuits, and a person's arrangement.
func arranged(a job.Rearrangement) func(*job.Job) {
	return panel(func(b *job.Board) {
		b.WaysFree, b.Layout, b.Ways, b.CircuitsMax, b.Rearrangement = nil, job.Columns, 8, 0, a
		b.Slots = []job.Slot{{At: 1, Circuit: "a"}, {At: 2, Circuit: "b"}, {At: 3, Circuit: "c"}, {At: 4, Circuit: "d"}, {At: 5, Circuit: "e"}}
	})
}

func onRoof(roof job.Answer, air float64) func(*job.Job) {
	return onRoute(job.Segment{Method: job.Conduit, Length: 12, Wet: job.Yes, Roof: roof, Ambient: ruletest.Celsius(air)})
}

func framed(f job.Family, edges job.Answer) func(*job.Job) {
	return both(circuit(func(c *job.Circuit) { c.Cable.Family = f }), onRoute(job.Segment{Method: job.StudWall, Length: 12, Wet: job.No, Edges: edges}))
}

func leaving(riser, slack job.Answer) func(*job.Job) {
	return both(circuit(func(c *job.Circuit) { c.Cable.Family = job.ThwnPVC }),
		onRoute(job.Segment{Method: job.Buried, Length: 12, Wet: job.Yes, Cover: quantity.Inches(20), Under: "garden", Taped: job.Yes, Riser: riser, Slack: slack}))
}

func cord(inches float64, clear job.Answer) func(*job.Job) {
	return circuit(func(c *job.Circuit) {
		c.Connection, c.Charger.SupplyCord, c.Receptacle.Clear = job.PluggedIn, quantity.Inches(inches), clear
	})
}

func apart(other, disconnect job.Answer) func(*job.Job) {
	return both(place(func(p *job.Place) { p.Detached, p.OtherSupply = job.Yes, other }), circuit(func(c *job.Circuit) { c.Disconnect = disconnect }))
}

// putting puts something right at the building.
func putting(b job.Building) change { return func(j *job.Job) { j.Design.Building = b } }

func outbuilding(o job.Outbuilding) func(*job.Job) {
	return panel(func(b *job.Board) { b.FedFrom, b.Outbuilding = job.FromSubMain, o })
}

var wet = onRoute(with(dry, func(s *job.Segment) { s.Wet = job.Yes }))

// record is a measured demand of 60 A over some days.
func record(days, minutes int, season job.Answer) func(*job.Job) {
	return onSupply(func(s *job.Supply) { s.PeakDemand, s.PeakDays, s.PeakMinutes, s.PeakSeason = 60, days, minutes, season })
}

// edges are the cases in which something dangerous was called sound, or a good job was
// stopped. They are made of the job that meets every rule: 200 A at 120/240 V, 48 A on
// 60 A, 6 AWG THWN-2 in EMT, indoors.
var edges = []edge{
	// Available fault current, 110.9.
	{"10 kA breaker in an ordinary house", none, "interrupting", sound, "usual most of a dwelling", "10 kA to 200 A by common practice"},
	{"interrupting rating not read", both(panel(func(b *job.Board) { b.BreakingKA = 0 }), circuit(func(c *job.Circuit) { c.Breaker.BreakingKA = 0 })), "interrupting", open, "label", "unknown"},
	{"14 kA by the utility", onSupply(func(s *job.Supply) { s.FaultCurrent = 14 }), "interrupting", stop, "14.00 kA", "14 > 10"},
	{"22 kA breaker for it", both(onSupply(func(s *job.Supply) { s.FaultCurrent = 14 }), circuit(func(c *job.Circuit) { c.Breaker.BreakingKA = 22 })), "interrupting", sound, "", "14 ≤ 22"},
	{"75 kVA of 1.5 %", onSupply(func(s *job.Supply) { s.Transformer, s.Impedance = 75, 1.5 }), "interrupting", stop, "20.83 kA", "75 000 ÷ 240 ÷ 0.015 = 20 833 A"},
	{"25 kVA of 2 %", onSupply(func(s *job.Supply) { s.Transformer, s.Impedance = 25, 2 }), "interrupting", sound, "5.21 kA", "25 000 ÷ 240 ÷ 0.02 = 5208 A"},
	{"service of 400 A, nothing known", onSupply(func(s *job.Supply) { s.Rating = 400 }), "interrupting", open, "transformer", "no usual most is stated above 200 A"},

	// The panel in its room.
	{"boxes kept in front of the panel", panel(func(b *job.Board) { b.WorkingSpace = job.No }), "working-space", stop, "cleared", "110.26(A), (B)"},
	{"nobody looked at the space", panel(func(b *job.Board) { b.WorkingSpace = "" }), "working-space", open, "clear", "unknown"},
	{"highest handle at 6 ft 7 in", panel(func(b *job.Board) { b.HandleHeight = quantity.Inches(79) }), "handle-height", sound, "79.0 in", "404.8(A) prints 6 ft 7 in"},
	{"highest handle at 2.0 m", panel(func(b *job.Board) { b.HandleHeight = 2 }), "handle-height", sound, "78.7 in", "404.8(A) prints 2.0 m"},
	{"highest handle at 6 ft 8 in", panel(func(b *job.Board) { b.HandleHeight = quantity.Inches(80) }), "handle-height", stop, "80.0 in", "80 > 79"},
	{"height not taken", panel(func(b *job.Board) { b.HandleHeight = 0 }), "handle-height", open, "handle", "unknown"},

	// Demand.
	{"48 A charger turned down to 32 A, not guarded", circuit(func(c *job.Circuit) { c.Setting, c.Guarded = 32, job.No }), "ev-load", sound, "48 A × 240 V = 11520 VA", "625.42(B): the nameplate, unless the setting is restricted and marked"},
	{"guarded and marked", circuit(func(c *job.Circuit) { c.Setting = 32 }), "ev-load", sound, "32 A × 240 V = 7680 VA", "625.42(B)"},
	{"a record of 30 days, season shown", record(30, 15, job.Yes), "demand", sound, "75.0 A by 220.87 + 48.0 A", "1.25 × 60 + 48 = 123 A"},
	{"a record of 30 days, cooling not in it", record(30, 15, job.No), "demand", sound, "92.5 A by 220.87", "1.25 × 60 + 4200 ÷ 240 = 92.5 A"},
	{"a heat pump and its supplement not in it", both(record(30, 15, job.No), func(j *job.Job) {
		j.Survey.Loads = append(j.Survey.Loads, job.Load{Kind: job.HeatPump, Power: 4800}, job.Load{Kind: job.Heating, Power: 10000})
	}), "demand", sound, "136.7 A by 220.87", "1.25 × 60 + 14 800 ÷ 240 = 136.7 A: they heat together"},
	{"a record of 30 days, season not asked", record(30, 15, ""), "demand", open, "heating and cooling", "220.87, exception"},
	{"a record of hours", record(365, 60, ""), "demand", open, "15-minute values", "220.87: 15-minute demand"},
	{"intervals not known", record(365, 0, ""), "demand", open, "length of the intervals", "likewise"},
	{"thermal storage at 100 %", both(method(job.By22082), load(job.StorageHeat, 24000)), "loads", sound, "174.1 A",
		"3 × 1829.9 + 4500 + 19 500 = 29 489.7: 10 000 + 0.4 × 19 489.7 = 17 795.9; + 24 000 = 41 795.9 VA ÷ 240 = 174.1 A"},
	{"a charging point that is there", load(job.ExistingEV, 3840), "loads", sound, "106.1 A", "220.83: 8000 + 0.4 × 25 689.7 = 18 275.9; + 7200 (220.57) = 25 475.9 VA ÷ 240 = 106.1 A"},
	{"a full house with management", both(load(job.OtherFixed, 60000), managed(160)), "demand", watch, "below the house's own", "house 177 A ≤ 200 A, limit 160 A = 80 %: it passes, and may wait"},
	{"a house above its service", both(load(job.OtherFixed, 90000), managed(160)), "demand", stop, "larger service", "the house alone passes 200 A"},
	{"a limit above 80 %", both(load(job.OtherFixed, 60000), managed(170)), "demand", stop, "lower limit", "170 > 0.8 × 200 = 160 A"},
	{"a limit that is not needed", managed(190), "demand", sound, "at 100 %", "the sum is within the service without it"},

	// Metals.
	{"aluminium, terminals not asked", circuit(func(c *job.Circuit) { c.Cable.Material = job.Aluminium }), "terminal-metal", open, "both ends", "110.14: unlike metals; unknown does not count"},
	{"aluminium, an end not marked", circuit(func(c *job.Circuit) { c.Cable.Material, c.Cable.AlMarked = job.Aluminium, job.No }), "terminal-metal", stop, "copper conductors", "110.14"},
	{"aluminium, both ends marked", circuit(func(c *job.Circuit) { c.Cable.Material, c.Cable.AlMarked = job.Aluminium, job.Yes }), "terminal-metal", sound, "marked", "110.14"},
	{"copper", none, "terminal-metal", sound, "copper", "110.14"},

	// Places.
	{"metal-clad cable in the wet, not marked", both(wet, circuit(func(c *job.Circuit) { c.Cable.Family, c.Cable.WetMarked = job.MC, job.No })), "wet", stop, "wet location", "330.10(A)(11)"},
	{"metal-clad cable in the wet, not asked", both(wet, circuit(func(c *job.Circuit) { c.Cable.Family = job.MC })), "wet", open, "marked for wet", "likewise"},
	{"metal-clad cable marked for the wet", both(wet, circuit(func(c *job.Circuit) { c.Cable.Family, c.Cable.WetMarked = job.MC, job.Yes })), "wet", sound, "330.10", "likewise"},
	{"outdoors in type 4X", outside(func(*job.Circuit) {}), "enclosure", sound, "4X", "table 110.28"},
	{"outdoors in type 12", outside(func(c *job.Circuit) { c.Charger.Enclosure = "12" }), "enclosure", stop, "type 12", "table 110.28: 12 is for indoors"},
	{"outdoors, type not known", outside(func(c *job.Circuit) { c.Charger.Enclosure = "" }), "enclosure", open, "3R", "unknown"},
	{"an outlet outdoors, cover not asked", outside(func(c *job.Circuit) { c.Connection = job.PluggedIn }), "enclosure", open, "cover", "406.9(B)"},
	{"an outlet outdoors without a cover", outside(func(c *job.Circuit) { c.Connection, c.Receptacle.Cover = job.PluggedIn, job.No }), "enclosure", stop, "weatherproof", "406.9(B), 625.56"},
	{"40 A hard-wired in a garage", circuit(func(c *job.Circuit) { c.Setting, c.Breaker.Rating = 32, 40 }), "receptacle-gfci", watch, "at or below grade", "210.8(F) of 2023"},
	{"holder at 450 mm indoors", place(func(p *job.Place) { p.HolderHeight = 0.450 }), "coupling-height", sound, "450 mm", "625.50 prints 450 mm beside 18 in"},
	{"holder at 440 mm indoors", place(func(p *job.Place) { p.HolderHeight = 0.440 }), "coupling-height", stop, "17.3 in", "17.3 < 18"},
	{"holder at 600 mm outdoors", place(func(p *job.Place) { p.Outdoors, p.HolderHeight = job.Yes, 0.600 }), "coupling-height", sound, "600 mm", "625.50 prints 600 mm beside 24 in"},

	// Conductors.
	{"64 °C above a roof", onRoute(job.Segment{Method: job.Conduit, Length: 12, Wet: job.No, Ambient: ruletest.Celsius(64)}), "derated-ampacity", sound, "75 A at 90 °C × 0.65", "75 × 0.65 = 48.75 A ≥ 48 A"},
	{"69 °C above a roof", onRoute(job.Segment{Method: job.Conduit, Length: 12, Wet: job.No, Ambient: ruletest.Celsius(69)}), "derated-ampacity", stop, "× 0.58", "75 × 0.58 = 43.5 A < 48 A"},
	{"three hots count three", both(onSupply(func(s *job.Supply) { s.System, s.Phases = job.Wye208, 3 }), circuit(func(c *job.Circuit) { c.Charger.Phases = 3 })), "derated-ampacity", sound, "× 1.00 =", "310.15(C)(1): no adjustment to three; the ground is not counted"},
	{"EMT as the equipment ground", circuit(func(c *job.Circuit) { c.Cable.Earth, c.Cable.EarthSize = job.EarthArmour, "" }), "ground-size", sound, "250.118", "250.118(A)(4)"},
	{"PVC is none", circuit(func(c *job.Circuit) {
		c.Cable.Family, c.Cable.Earth, c.Cable.EarthSize = job.ThwnPVC, job.EarthArmour, ""
	}), "ground-size", open, "grounding conductor", "250.118 has no plastic"},
	{"6/2 cable on 40 A, factory ground", circuit(func(c *job.Circuit) {
		c.Setting, c.Breaker.Rating, c.Cable.Family, c.Cable.EarthSize = 32, 40, job.NMB, "10 AWG"
	}), "ground-size", watch, "qualified person", "10 × 26 240 ÷ 16 510 (8 AWG would do) = 8 AWG asked; 250.122(B), exception"},
	{"6 AWG in EMT on 40 A, 10 AWG pulled", circuit(func(c *job.Circuit) { c.Setting, c.Breaker.Rating = 32, 40 }), "ground-size", stop, "8 AWG asked", "250.122(B): 10 380 × 26 240 ÷ 16 510 = 16 498 cmil, 8 AWG"},

	// Roofs, framing, the ground, other buildings.
	{"EMT close above a roof, 36 °C of air", onRoof(job.Yes, 36), "derated-ampacity", stop, "× 0.58", "310.15(B)(2): 36 + 33 = 69 °C: 75 A × 0.58 = 43.5 A < 48 A"},
	{"EMT close above a roof, 32 °C of air", onRoof(job.Yes, 32), "derated-ampacity", sound, "× 0.65", "32 + 33 = 65 °C: 75 A × 0.65 = 48.75 A"},
	{"EMT close above a roof, 33 °C of air", onRoof(job.Yes, 33), "derated-ampacity", stop, "× 0.58", "33 + 33 = 66 °C: 75 A × 0.58 = 43.5 A"},
	{"EMT a foot above a roof", onRoof(job.No, 36), "derated-ampacity", sound, "× 0.91", "36 °C: 0.91"},
	{"outdoors, and nobody says whether on a roof", onRoof("", 36), "derated-ampacity", open, "above a roof", "unknown never counts in one's favour"},
	{"NM-B near the edge of a stud", framed(job.NMB, job.No), "framing", stop, "steel plate", "300.4(A)(1), 300.4(D)"},
	{"NM-B in studs, not looked at", framed(job.NMB, ""), "framing", open, "1¼ in", "300.4(A)(1)"},
	{"NM-B behind plates", framed(job.NMB, job.Yes), "framing", sound, "", "300.4(A)(1)"},
	{"EMT in studs", framed(job.ThwnEMT, ""), "framing", "", "", "300.4(A)(1), exception 1: EMT needs no plate"},
	{"out of the ground without a raceway", leaving(job.No, job.Yes), "ground-exit", stop, "18 in below ground to 8 ft", "300.5(D)(1)"},
	{"out of the ground, not looked at", leaving("", job.Yes), "ground-exit", open, "leaves the ground", "300.5(D)(1)"},
	{"nothing to give in frost", leaving(job.Yes, job.No), "ground-exit", stop, "expansion fitting", "300.5(J)"},
	{"frost, not looked at", leaving(job.Yes, ""), "ground-exit", open, "the ground may move", "300.5(J)"},
	{"guarded and free", leaving(job.Yes, job.Yes), "ground-exit", sound, "", "300.5(D), (J)"},
	{"6 ft 1 in to the plug", cord(73, job.Yes), "supply-cord", stop, "6.1 ft", "625.17(A)(3): 6 ft for a unit that is fastened in place"},
	{"6 ft to the plug", cord(72, job.Yes), "supply-cord", sound, "6.0 ft", "625.17(A)(3)"},
	{"the cord to the plug on the floor", cord(40, job.No), "supply-cord", stop, "floor", "625.17(A)(3)"},
	{"the cord to the plug not measured", cord(0, job.Yes), "supply-cord", open, "cord to its plug", "unknown"},
	{"the cord to the plug not looked at", cord(40, ""), "supply-cord", open, "clear of the floor", "unknown"},
	{"hard-wired: no cord to a plug", func(*job.Job) {}, "supply-cord", "", "", "nothing is plugged in"},
	{"a garage apart that has a circuit", apart(job.Yes, job.Yes), "detached", stop, "second supply", "225.30"},
	{"a garage apart, its supply not known", apart("", job.Yes), "detached", open, "already", "225.30"},
	{"a garage apart without a disconnect", apart(job.No, job.No), "detached", stop, "without a disconnect", "225.31, 225.32"},
	{"a garage apart, disconnect not known", apart(job.No, ""), "detached", open, "disconnect at the building", "225.31"},
	{"a garage apart with one circuit and its disconnect", apart(job.No, job.Yes), "detached", sound, "no electrode", "250.32(A), exception"},
	{"apart or not", place(func(p *job.Place) { p.Detached = "" }), "detached", open, "apart from the panel's", "unknown"},
	{"panel on a feeder, where it is not known", outbuilding(job.Outbuilding{}), "outbuilding", open, "apart from the service's", "unknown"},
	{"panel on a feeder in the house", outbuilding(job.Outbuilding{Apart: job.No}), "outbuilding", sound, "own building", "225 and 250.32 are of other buildings"},
	{"panel in a barn without a disconnect", outbuilding(job.Outbuilding{Apart: job.Yes, Disconnect: job.No, Electrode: job.Yes, Neutral: job.Yes}), "outbuilding", stop, "without a disconnect", "225.31, 225.36"},
	{"panel in a barn without an electrode", outbuilding(job.Outbuilding{Apart: job.Yes, Disconnect: job.Yes, Electrode: job.No, Neutral: job.Yes}), "outbuilding", stop, "without an electrode", "250.32(A)"},
	{"panel in a barn, neutral joined to ground", outbuilding(job.Outbuilding{Apart: job.Yes, Disconnect: job.Yes, Electrode: job.Yes, Neutral: job.No}), "outbuilding", stop, "bonding screw", "250.32(B)(1)"},
	{"panel in a barn without an electrode, driven with this work", both(outbuilding(job.Outbuilding{Apart: job.Yes, Disconnect: job.Yes, Electrode: job.No, Neutral: job.Yes}),
		putting(job.Building{Electrode: job.Yes})), "outbuilding", sound, "with this work: grounding electrode", "250.32(A)"},
	{"panel in a barn without anything, one thing put right", both(outbuilding(job.Outbuilding{Apart: job.Yes, Disconnect: job.No, Electrode: job.No, Neutral: job.No}),
		putting(job.Building{Electrode: job.Yes})), "outbuilding", stop, "without a disconnect", "225.31"},
	{"panel in a barn, an electrode is driven beside the one that is there", both(outbuilding(job.Outbuilding{Apart: job.Yes, Disconnect: job.Yes, Electrode: job.Yes, Neutral: job.Yes}),
		putting(job.Building{Electrode: job.Yes})), "outbuilding", open, "nothing of it wrong", "unknown"},
	{"a panel on a feeder in the house, and an electrode is driven", both(outbuilding(job.Outbuilding{Apart: job.No, Electrode: job.No}), putting(job.Building{Electrode: job.Yes})),
		"outbuilding", open, "nothing of it wrong", "unknown"},
	{"a panel on the service, and an electrode is driven", putting(job.Building{Electrode: job.Yes}), "outbuilding", open, "nothing of it wrong", "unknown"},
	{"panel in a barn, disconnect not known", outbuilding(job.Outbuilding{Apart: job.Yes, Electrode: job.Yes, Neutral: job.Yes}), "outbuilding", open, "disconnect", "unknown"},
	{"panel in a barn, electrode not known", outbuilding(job.Outbuilding{Apart: job.Yes, Disconnect: job.Yes, Neutral: job.Yes}), "outbuilding", open, "electrode", "unknown"},
	{"panel in a barn, neutral not known", outbuilding(job.Outbuilding{Apart: job.Yes, Disconnect: job.Yes, Electrode: job.Yes}), "outbuilding", open, "neutral and ground", "unknown"},
	{"panel in a barn, all there", outbuilding(job.Outbuilding{Apart: job.Yes, Disconnect: job.Yes, Electrode: job.Yes, Neutral: job.Yes}), "outbuilding", sound, "", "225.31, 250.32"},

	// A joint box.
	{"NM-B of 4 AWG to a box, wires in tubing beyond", joined, "terminal-ampacity", sound, "to the joint box: 4 AWG: 70 A", "334.80, table 310.16 at 60 °C: 70 A ≥ 60 A"},
	{"NM-B of 6 AWG to the box", both(joined, circuit(func(c *job.Circuit) { c.Cable.Size = "6 AWG" })), "terminal-ampacity", stop, "to the joint box: 6 AWG: 55 A", "55 A < 1.25 × 48 = 60 A"},
	{"8 AWG beyond the box", both(joined, beyond(func(b *job.Beyond) { b.Cable.Size = "8 AWG" })), "terminal-ampacity", stop, "beyond the joint box: 8 AWG: 50 A", "50 A < 60 A"},
	{"wires in tubing past 60 A", both(joined, beyond(func(b *job.Beyond) { b.Cable.Size = "8 AWG" })), "conductor-protection", stop, "beyond the joint box: lesser of 50 A", "240.4(B)"},
	{"ground of 12 AWG beyond the box", both(joined, beyond(func(b *job.Beyond) { b.Cable.EarthSize = "12 AWG" })), "ground-size", stop, "beyond the joint box: 12 AWG used, 10 AWG asked", "table 250.122: 10 AWG for 60 A"},
	{"NM-B ends before the wet part", both(joined, wetFrom(2)), "wet", sound, "", "334.12: the wires in tubing may be wet"},
	{"NM-B in the wet part", both(joined, wetFrom(1)), "wet", stop, "to the joint box: NM-B cable in segment 1", "334.12(B)(4)"},
	{"voltage drop over both", joined, "drop", sound, "= 1.25 V", "2 × (1.0105 mΩ/m × 10.97 m + 1.6109 mΩ/m × 1.22 m) × 48 A = 1.25 V (chapter 9 table 8: 0.308 and 0.491 Ω/kft)"},
	{"ground path over both", joined, "ground-continuity", sound, "0.03 Ω, up to", "2.552 mΩ/m × 10.97 m + 4.068 mΩ/m × 1.22 m = 33 mΩ (0.778 and 1.24 Ω/kft)"},
	{"metal beyond the box not known", both(joined, beyond(func(b *job.Beyond) { b.Cable.Material = "" })), "drop", open, "beyond the joint box", "unknown never counts in one's favour"},
	{"a box behind the drywall", both(joined, beyond(func(b *job.Beyond) { b.Accessible = job.No })), "joint", stop, "cannot be reached", "314.29"},
	{"a box too small", both(joined, beyond(func(b *job.Beyond) { b.Suited = job.No })), "joint", stop, "not made for its place", "314.16, 314.28"},
	{"a box that nobody looked at", both(joined, beyond(func(b *job.Beyond) { b.Suited = "" })), "joint", open, "made for its place", "314.16, 314.28"},

	// Readings.
	{"6 V of ground to neutral", both(circuit(func(c *job.Circuit) { c.Charger.NeedsNeutral = job.Yes }), read("stray", "6")), "stray", watch, "", "above 2 V, below 10 V"},
	{"12 V of ground to neutral", both(circuit(func(c *job.Circuit) { c.Charger.NeedsNeutral = job.Yes }), read("stray", "12")), "stray", stop, "", "3 × 3 % of 120 V = 10.8 V: no neutral drops so much"},
	{"0.9 Ω of ground where 0.05 Ω are computed", read("ground-continuity", "0.9"), "ground-continuity", stop, "", "3 × 0.05 + 0.1 = 0.25 Ω"},
	{"0 Ω of ground", read("ground-continuity", "0"), "ground-continuity", watch, "0 is hardly ever read", "nothing connected"},
	{"range B at the charger", read("hot-hot", "224"), "hot-hot", watch, "range B", "ANSI C84.1: 220 V to 254 V"},
	{"below range B", read("hot-hot", "219"), "hot-hot", stop, "", "ANSI C84.1"},

	// The panel's map.
	{"a person's own arrangement", arranged(job.Rearrangement{At: 5, Moves: []job.Shift{{From: 5, To: 6}}}), "spaces", watch, "in 5 and 7 after one move: e from 5 to 6, by the arrangement", "5 and 7 are a pair on both legs once e is in 6"},
	{"an arrangement onto a circuit that stays", arranged(job.Rearrangement{At: 5, Moves: []job.Shift{{From: 5, To: 4}}}), "spaces", stop, "space 4 is taken by d", "one circuit to a space, 408.54"},
	{"a circuit that is kept takes no space", circuit(func(c *job.Circuit) { c.Existing = job.Yes }), "spaces", sound, "no space is taken", "it is there already"},
	{"circuits moved for one that is kept", func(j *job.Job) {
		arranged(job.Rearrangement{At: 5, Moves: []job.Shift{{From: 5, To: 6}}})(j)
		j.Design.Circuits[0].Existing = job.Yes
	}, "spaces", open, "why circuits are moved", "what is entered bears weight or is refused"},
	{"moves, and no space for the new breaker", arranged(job.Rearrangement{Moves: []job.Shift{{From: 5, To: 6}}}), "spaces", open, "where the new breaker goes", "unknown"},
	{"an arrangement without a map", panel(func(b *job.Board) { b.Rearrangement.At = 5 }), "spaces", open, "the board's map", "what is entered bears weight"},
	{"a tandem where the label forbids it stays named beside moves", panel(func(b *job.Board) {
		b.WaysFree, b.Layout, b.Ways, b.DoublesAt, b.CircuitsMax = nil, job.Columns, 6, []int{5, 6}, 0
		b.Slots = []job.Slot{{At: 1, Circuit: "a", Double: "b"}, {At: 2, Circuit: "c"}, {At: 3, Circuit: "d"}, {At: 4, Circuit: "e"}, {At: 5, Circuit: "f"}, {At: 6, Circuit: "g"}}
	}), "spaces", watch, "does not allow", "408.54 and the label: doubles in 5 and 6 alone"},

	// Words.
	{"white re-marked at one end", both(circuit(func(c *job.Circuit) { c.Cable.WhiteIsHot, c.Cable.Family = job.Yes, job.NMB }), entry(job.StepDone, "A", "remark", "one end")), "white", stop, "one end only", "200.7(C): every visible end"},
	{"white re-marked, panel only", both(circuit(func(c *job.Circuit) { c.Cable.WhiteIsHot, c.Cable.Family = job.Yes, job.NMB }), entry(job.StepDone, "A", "remark", "panel only")), "white", open, "every visible end", "likewise: the words are choices"},
	{"white of a metal-clad cable", both(circuit(func(c *job.Circuit) { c.Cable.WhiteIsHot, c.Cable.Family = job.Yes, job.MC }), entry(job.StepDone, "A", "remark", "every visible end")), "white", sound, "", "200.7(C)(1): a cable assembly"},
	{"setting not locked", entry(job.SettingMade, "A", "locked", "not locked, anyone may change it"), "setting", stop, "not locked", "625.42"},
	{"setting locked: no", entry(job.SettingMade, "A", "locked", "no"), "setting", open, "not one of", "the words are choices"},
}
