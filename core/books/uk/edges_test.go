package uk

import (
	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/rulebook"
	"dogbolt/internal/testkit/ruletest"
	"testing"
)

// edge is one case at the edge of a rule, with the sum or the clause that says so.
type edge struct {
	Name    string
	Change  change
	Rule    string
	Verdict rulebook.Verdict
	Says    string
	Why     string // worked out by hand, from memory of the clause that is named
}

func beyond(f func(*job.Beyond)) change { return circuit(func(c *job.Circuit) { f(&c.Beyond) }) }

// unbonded finds gas without bonding, and nothing else of metal, and plans bonding.
func unbonded(with job.Bonds) change {
	return func(j *job.Job) {
		j.Survey.Bonding.Gas, j.Survey.Bonding.Size, j.Design.Bonds = job.NotBonded, 0, with
	}
}

func bonding(f func(*job.Bonding)) change { return func(j *job.Job) { f(&j.Survey.Bonding) } }

var (
	twinEarth = circuit(func(c *job.Circuit) { c.Cable = job.Cable{Family: job.TwinEarth, Size: "6 mm²"} })
	// joined is twin and earth for 11 m indoors, and armoured cable for 5 m outside.
	joined = both(twinEarth, circuit(func(c *job.Circuit) {
		c.Beyond = job.Beyond{From: 2, Cable: job.Cable{Family: job.Armoured90, Size: "6 mm²"}, Accessible: job.Yes, Suited: job.Yes}
	}))
	armoured6 = circuit(func(c *job.Circuit) { c.Cable = job.Cable{Family: job.Armoured90, Size: "6 mm²"} })
)

// edges are the cases in which something dangerous was called sound, or a good job was
// stopped. They are made of the job that meets every rule: TN-C-S, one phase, 32 A on
// B40, 6 mm² armoured cable.
var edges = []edge{
	// Residual devices.
	{"delayed 30 mA device", circuit(func(c *job.Circuit) { c.RCD.Delayed = job.Yes }), "rcd-trip", stop, "no additional protection",
		"415.1.1: additional protection wants 40 ms at 5 × IΔn; S types may take 130 to 500 ms and are made above 30 mA"},
	{"41 ms at five times", read("rcd-5x", "41"), "rcd-5x", watch, "sticky", "643.8 since A2: the one test at 1 × IΔn governs; 40 ms is the product's"},
	{"300 ms at five times", read("rcd-5x", "300"), "rcd-5x", watch, "", "opened within the 300 ms that 1 × IΔn allows"},
	{"310 ms at five times", read("rcd-5x", "310"), "rcd-5x", stop, "not opened within 300 ms", "slower at 5 × IΔn than BS EN 61008-1 allows at 1 × IΔn"},
	{"not opened at five times", read("rcd-5x", ">300"), "rcd-5x", stop, "", "the tester's own end of the test"},
	{"ramp of 45 mA", read("rcd-ramp", "45"), "rcd-ramp", stop, "above its rated current", "BS EN 61008-1: trips at most at IΔn, 30 mA"},
	{"ramp of 30 mA", read("rcd-ramp", "30"), "rcd-ramp", sound, "", "BS EN 61008-1: at IΔn it trips"},
	{"ramp of 12 mA", read("rcd-ramp", "12"), "rcd-ramp", watch, "early", "BS EN 61008-1: not below ½ IΔn, 15 mA"},
	{"ramp without an end", read("rcd-ramp", ">33"), "rcd-ramp", stop, "", "33 > 30"},
	{"trip time of 0 ms", read("rcd-time", "0"), "rcd-time", watch, "0 is hardly ever read", "no mechanism opens in no time"},
	{"direct current trip in 0 s", read("dc-trip", "0"), "dc-trip", watch, "0 is hardly ever read", "likewise"},
	{"residual device upstream not known", board(func(b *job.Board) { b.UpstreamRCDType = "" }), "rcd-upstream", open, "", "unknown never counts in one's favour"},
	{"not known, detection neither", func(j *job.Job) {
		j.Survey.Board.UpstreamRCDType, j.Design.Circuits[0].Charger.DCDetection = "", ""
	}, "rcd-upstream", open, "", "likewise"},
	{"type B behind type F, no detection", func(j *job.Job) {
		j.Survey.Board.UpstreamRCDType, j.Design.Circuits[0].RCD.Type, j.Design.Circuits[0].Charger.DCDetection = "F", "B", job.No
	}, "rcd-upstream", stop, "blinded", "531.3.3: F bears 10 mA of direct current, B lets more pass"},
	{"type B behind type B, no detection", func(j *job.Job) {
		j.Survey.Board.UpstreamRCDType, j.Design.Circuits[0].RCD.Type, j.Design.Circuits[0].Charger.DCDetection = "B", "B", job.No
	}, "rcd-upstream", sound, "type B upstream", "531.3.3: B bears any"},
	{"type A behind type F, detection", board(func(b *job.Board) { b.UpstreamRCDType = "F" }), "rcd-upstream", sound, "", "IEC 62955 keeps it to 6 mA, F bears 10 mA"},

	// A broken neutral, and points made TT.
	{"way (i) with a charger of one phase", func(j *job.Job) {
		j.Survey.Supply.Phases = 3
		j.Design.Circuits[0].Earthing = job.PointEarthing{OpenPEN: "imbalance", Loads: []quantity.Ampere{40, 25, 20}}
	}, "open-pen", stop, "97.7 V", "|72 + 25a² + 20a| = √(72² + 25² + 20² − 72·25 − 25·20 − 20·72) = 49.69; 230 × 49.69 ÷ 117 = 97.7 V > 70 V"},
	{"way (i) with a charger of three phases", func(j *job.Job) {
		j.Survey.Supply.Phases = 3
		j.Design.Circuits[0].Charger.Phases = 3
		j.Design.Circuits[0].Earthing = job.PointEarthing{OpenPEN: "imbalance", Loads: []quantity.Ampere{40, 25, 20}}
	}, "open-pen", sound, "48.8 V", "without the charger √(40² + 25² + 20² − 1000 − 500 − 800) = 18.03; 230 × 18.03 ÷ 85 = 48.8 V, less with it"},
	{"TN-S", onSupply(func(s *job.Supply) { s.System = job.TNS }), "open-pen", watch, "PEN lies upstream", "722.411.4.1 is for PME; a TN-S service may be fed from a network with combined conductors"},
	{"armour on a TT point, not asked", both(pointTT(80, 3), circuit(func(c *job.Circuit) { c.Earthing.ArmourApart = "" })), "tt", open, "armour", "the armour is on the PME earth at the board"},
	{"armour joined at a TT point", both(pointTT(80, 3), circuit(func(c *job.Circuit) { c.Earthing.ArmourApart = job.No })), "tt", stop, "brings the PME earth", "likewise"},
	{"twin and earth to a TT point", both(pointTT(80, 3), circuit(func(c *job.Circuit) {
		c.Earthing.ArmourApart, c.Cable = "", job.Cable{Family: job.TwinEarth, Size: "6 mm²"}
	})), "tt", sound, "", "no armour"},
	{"a TT point that reads 0.38 Ω", pointTT(80, 3), "zs", stop, "still joined to the PME earth", "its loop closes through 80 Ω of electrode: about 80 Ω is right"},
	{"a TT point that reads 78 Ω", both(pointTT(80, 3), read("zs", "78")), "zs", sound, "", "50 V ÷ 30 mA = 1667 Ω, and about its electrode"},
	{"a TT point's electrode not read", pointTT(80, 3), "electrode", open, "one reading", "643.7.2"},
	{"a TT point's electrode of 78 Ω", both(pointTT(80, 3), read("electrode", "78")), "electrode", sound, "1666.67 Ω", "table 41.5: 50 V ÷ 30 mA"},
	{"a TT point's electrode of 1700 Ω", both(pointTT(80, 3), read("electrode", "1700")), "electrode", stop, "deeper", "1700 > 1667"},
	{"a TT point's electrode of 250 Ω", both(pointTT(80, 3), read("electrode", "250")), "electrode", watch, "may not be stable", "table 41.5, note: 200 Ω"},
	{"way (ii), electrode of 3 Ω read", both(circuit(func(c *job.Circuit) {
		c.Earthing = job.PointEarthing{OpenPEN: "electrode", RA: 1}
	}), read("electrode", "3")), "electrode", stop, "way (ii) at 56.0 A", "70 × 230 ÷ (56 × (253 − 70)) = 1.57 Ω"},

	// Continuity and the origin.
	{"500 Ω of protective conductor on TT", func(j *job.Job) {
		j.Survey.Supply.System, j.Survey.Supply.ElectrodeRA = job.TT, 80
		read("r1r2", "500")(j)
	}, "r1r2", stop, "open or badly joined", "0.10 Ω designed: 3 × 0.10 + 0.1 = 0.40 Ω"},
	{"880 Ω, fault protection by the residual device", both(circuit(func(c *job.Circuit) { c.FaultByRCD = job.Yes }), read("r1r2", "880")), "r1r2", stop, "", "likewise"},
	{"0.39 Ω where 0.10 Ω is designed", read("r1r2", "0.39"), "r1r2", watch, "longer route", "3 × 0.10 + 0.1 = 0.40 Ω"},
	{"0.41 Ω where 0.10 Ω is designed", read("r1r2", "0.41"), "r1r2", stop, "more than 0.40 Ω", "likewise"},
	{"0 Ω of continuity", read("r1r2", "0"), "r1r2", watch, "", "leads nulled into the circuit, or nothing connected"},
	{"bonding 0.03 Ω", none, "bonding-continuity", sound, "", "15 m of 10 mm²: 0.027 Ω (BS EN 60228)"},
	{"bonding not read", read("bonding", ""), "bonding-continuity", open, "one reading", "643.2.1"},
	{"bonding 0.4 Ω", read("bonding", "0.4"), "bonding-continuity", watch, "poor joint", "220 m of 10 mm²"},
	{"bonding broken", read("bonding", ">20"), "bonding-continuity", stop, "broken", "no bond"},
	{"supply the wrong way round", read("polarity-origin", "wrong"), "polarity-origin", stop, "call the network operator", "643.6"},
	{"insulation line to neutral 0.4 MΩ", read("insulation-live", "0.4"), "insulation-live", stop, "at least 1.0 MΩ", "table 64"},

	// Cables.
	{"6/2.5 twin and earth on B40 of class 3, Ze 0.05 Ω", both(twinEarth, onSupply(func(s *job.Supply) { s.DeclaredZe = 0.05 }), read("ze", ""), circuit(func(c *job.Circuit) {
		c.Breaker.Rating, c.Breaker.Class = 40, 3
	})), "earth-size", sound, "2.02 mm²", "1.1 × 230 ÷ 0.05 = 5060 A; class 3 lets 1.2 × 45 000 = 54 000 A²s through; √54 000 ÷ 115 = 2.02 mm² ≤ 2.5 mm²"},
	{"the same, its class not read", both(twinEarth, onSupply(func(s *job.Supply) { s.DeclaredZe = 0.05 }), read("ze", ""), circuit(func(c *job.Circuit) { c.Breaker.Rating, c.Breaker.Class = 40, 0 })),
		"earth-size", open, "maker's table", "√(5060² × 0.1) ÷ 115 = 13.9 mm²: it would do by class 3, and that is to be read"},
	{"4/1.5 twin and earth, 40 000 A²s by the maker", both(twinEarth, circuit(func(c *job.Circuit) { c.Cable.Size, c.Breaker.LetThrough = "4 mm²", 40000 })), "earth-size", stop, "1.74 mm²", "√40 000 ÷ 115 = 1.74 mm² > 1.5 mm²"},
	{"4/1.5 twin and earth, 25 000 A²s by the maker", both(twinEarth, circuit(func(c *job.Circuit) { c.Cable.Size, c.Breaker.LetThrough = "4 mm²", 25000 })), "earth-size", sound, "1.37 mm²", "√25 000 ÷ 115 = 1.37 mm²"},
	{"armour of 6 mm², two cores", both(armoured6, circuit(func(c *job.Circuit) { c.Cable.Earth = job.EarthArmour })), "earth-size", sound, "22 mm² ≥ 13.5 mm²",
		"BS 5467: 22 mm²; table 54.7 with 70 °C terminals: 6 × 115 ÷ 51 = 13.5 mm²"},
	{"armour of 10 mm² at 90 °C", both(armoured6, board(func(b *job.Board) { b.Terminals = 90 }), circuit(func(c *job.Circuit) {
		c.Cable.Earth, c.Cable.Size, c.Charger.Terminals = job.EarthArmour, "10 mm²", 90
	})), "earth-size", sound, "543.1.3", "26 mm² < 10 × 143 ÷ 46 = 31.1 mm² by table 54.7; 1.1 × 230 ÷ 0.27 = 937 A: √(937² × 0.1) ÷ 46 = 6.4 mm²"},
	{"two circuits clipped in one layer", onRoute(job.Segment{Method: job.Surface, Length: 16, Grouped: 2, OneLayer: job.Yes}), "in-iz", sound, "Cg 0.85", "table 4C1, single layer"},
	{"two circuits bunched", onRoute(job.Segment{Method: job.Surface, Length: 16, Grouped: 2}), "in-iz", stop, "Cg 0.80", "table 4C1, bunched: 49 × 0.80 = 39.2 A < 40 A, where one layer carries 49 × 0.85 = 41.7 A"},
	{"armoured cable in trunking", both(armoured6, onRoute(job.Segment{Method: job.Trunking, Length: 16})), "in-iz", stop, "38.0 A", "70 °C terminals: as multicore, method B: 38 A < 40 A"},
	{"armoured cable of 10 mm² in trunking", both(armoured6, circuit(func(c *job.Circuit) { c.Cable.Size = "10 mm²" }), onRoute(job.Segment{Method: job.Trunking, Length: 16})), "in-iz", sound, "52.0 A", "as multicore, method B"},
	{"twin and earth to a joint box, armoured beyond", joined, "in-iz", sound, "to the joint box: Iz = It 47 A", "table 4D5, method C: 47 A; beyond 49 × 0.94 = 46.1 A (70 °C terminals); In 40 A"},
	{"4 mm² beyond the joint box", both(joined, beyond(func(b *job.Beyond) { b.Cable.Size = "4 mm²" })), "in-iz", stop, "beyond the joint box: Iz = It 38 A × Ca 0.94 × Cg 1.00 = 35.7 A in segment 2",
		"table 4D4, method C at 70 °C: 38 A × 0.94 = 35.7 A < 40 A"},
	{"4 mm² to the joint box", both(joined, circuit(func(c *job.Circuit) { c.Cable.Size = "4 mm²" })), "in-iz", stop, "to the joint box: Iz = It 37 A", "table 4D5, method C: 37 A < 40 A"},
	{"voltage drop over both cables", joined, "drop", sound, "7.30 mV/A/m × 32 A × 11.0 m + 7.90 mV/A/m × 32 A × 5.0 m = 3.83 V = 1.67 %", "0.0073 × 32 × 11 + 0.0079 × 32 × 5 = 2.570 + 1.264 = 3.834 V of 230 V"},
	{"loop over both cables", joined, "zs-design", sound, "+ 0.178 hot", "(3.08 + 7.41) × 11 × 1.20 + (3.08 + 3.08) × 5 × 1.28 = 138.5 + 39.4 = 178 mΩ"},
	{"the lesser protective conductor counts", both(joined, circuit(func(c *job.Circuit) { c.Cable.Size, c.Breaker.LetThrough = "4 mm²", 40000 })), "earth-size", stop, "to the joint box: 1.5 mm²",
		"√40 000 ÷ 115 = 1.74 mm² > 1.5 mm²; beyond it are 6 mm²"},
	{"a cable beyond the box that is not chosen", both(joined, beyond(func(b *job.Beyond) { b.Cable = job.Cable{} })), "drop", open, "cable family and size", "unknown never counts in one's favour"},
	{"the same, for the loop", both(joined, beyond(func(b *job.Beyond) { b.Cable = job.Cable{} })), "zs-design", open, "cable family and size", "likewise"},
	{"the same, for R1+R2", both(joined, beyond(func(b *job.Beyond) { b.Cable = job.Cable{} })), "r1r2", open, "cable family and size", "likewise"},
	{"armour beyond the box on a TT point", both(pointTT(80, 3), joined, circuit(func(c *job.Circuit) { c.Earthing.ArmourApart = job.No })), "tt", stop, "brings the PME earth", "it is the armour that reaches the point"},
	{"a joint box under the floor", both(joined, beyond(func(b *job.Beyond) { b.Accessible = job.No })), "joint", stop, "cannot be reached", "526.3"},
	{"a joint box that nobody looked at", both(joined, beyond(func(b *job.Beyond) { b.Accessible = "" })), "joint", open, "can be reached", "526.3"},
	{"a joint box of the wrong kind", both(joined, beyond(func(b *job.Beyond) { b.Suited = job.No })), "joint", stop, "not made for its place", "512.2, 526.5"},
	{"a joint box beyond the route", both(joined, beyond(func(b *job.Beyond) { b.From = 3 })), "joint", open, "no segment 3", "the route has two"},
	{"insulation around a conduit", both(armoured6, onRoute(job.Segment{Method: job.Trunking, Length: 16, Insulated: 0.5})), "in-iz", open, "clipped cable only", "table 52.2 is for method C"},
	{"soil of 1 K·m/W, direct", both(armoured6, onRoute(job.Segment{Method: job.Buried, Length: 16, Soil: 1, Ducted: job.No})), "in-iz", sound, "Cs 1.50", "table 4B3"},
	{"soil of 1 K·m/W, in a duct", both(armoured6, onRoute(job.Segment{Method: job.Buried, Length: 16, Soil: 1, Ducted: job.Yes})), "in-iz", sound, "Cs 1.18", "table 4B3"},
	{"aluminium", circuit(func(c *job.Circuit) { c.Cable.Material = job.Aluminium }), "in-iz", open, "copper conductors", "appendix 4 begins aluminium at 16 mm²"},
	{"a protective conductor that the cable does not have", both(twinEarth, circuit(func(c *job.Circuit) { c.Cable.EarthSize = "6 mm²" })), "earth-size", open, "2.5 mm², not 6 mm²", "BS 6004: 6/2.5"},
	{"a breaker of 80 A", both(circuit(func(c *job.Circuit) { c.Breaker.Rating, c.Setting, c.Charger.Rating = 80, 63, 63 })), "ib-in", sound, "In 80 A", "BS EN 60898-1 reaches 125 A"},
	{"a record of one day", onSupply(func(s *job.Supply) { s.PeakDemand, s.PeakDays = 24, 1 }), "loads", open, "at least 7", "common practice: every day of a week, in the heating season"},
	{"a record of a week", onSupply(func(s *job.Supply) { s.PeakDemand, s.PeakDays = 24, 7 }), "loads", sound, "", "likewise"},
	{"a pipe 30 mm away", drawn(func(s *job.Survey) {
		s.SitePlan.Gas = []job.Gas{{Kind: "pipe", From: job.XY{X: 0.13, Y: 3}, To: &job.XY{X: 0.13, Y: 3.5}}}
		s.Places[0].Why = "near the board"
	}), "position", stop, "150 mm",
		"BS 6891: 150 mm from boards, switches, controls and a charging point; 25 mm is for cables"},

	// Fault current.
	{"16 kA declared, conditional rating read off the board", both(onSupply(func(s *job.Supply) { s.FaultCurrent = 16 }), board(func(b *job.Board) { b.ConditionalKA = 16 })), "breaking", sound, "within the 16 kA",
		"434.5.1, BS EN 61439-3: the unit is tested behind the cutout's fuse of 100 A"},
	{"16 kA declared, no conditional rating", onSupply(func(s *job.Supply) { s.FaultCurrent = 16 }), "breaking", stop, "breaks 6 kA", "16 > 6"},
	{"conditional rating behind a larger fuse", both(onSupply(func(s *job.Supply) { s.FaultCurrent, s.Rating = 16, 160 }), board(func(b *job.Board) { b.ConditionalKA = 16 })), "breaking", stop, "", "it holds behind 100 A"},
	{"17 kA measured, conditional 16 kA", both(read("pfc", "17"), board(func(b *job.Board) { b.ConditionalKA = 16 })), "pfc", stop, "", "17 > 16"},
	{"9 kA measured, conditional 16 kA", both(read("pfc", "9"), board(func(b *job.Board) { b.ConditionalKA = 16 })), "pfc", sound, "within the 16 kA", "likewise"},
	{"the measured Ze is taken", both(onSupply(func(s *job.Supply) { s.DeclaredZe = 0.35 }), read("ze", "0.27")), "zs-design", sound, "0.27", "Zs = 0.27 + 0.100 × 1.28"},
	{"a TT point's loop is not doubted against the PME", both(pointTT(80, 3), read("zs", "78")), "doubtful", sound, "", "about RA is right"},
	{"a building control notice answered before the work", func(j *job.Job) {
		p := paper(j, "building-control")
		p.Needed, p.Granted, j.Plan.Day = job.Yes, "2026-01-02", "2026-05-04"
	}, "paper-dates", stop, "before the day of the work", "it comes after the work"},

	// Earthing and bonding.
	{"bonded gas, plastic water", none, "bonding", sound, "bonding 10 mm²: gas", "table 54.8 on PME: 10 mm²"},
	{"bonding not looked at", func(j *job.Job) { j.Survey.Bonding = job.Bonding{} }, "bonding", open, "gas, water, oil, structural steel", "unknown"},
	{"gas not bonded", bonding(func(b *job.Bonding) { b.Gas = job.NotBonded }), "bonding", stop, "not bonded: gas", "411.3.1.2"},
	{"gas not bonded, run with this work", unbonded(job.Bonds{Run: job.BondMissing, Size: 10, Length: 6}), "bonding", sound, "with this work: gas", "the survey says what was found"},
	{"gas not bonded, run with this work in no size", unbonded(job.Bonds{Run: job.BondMissing, Length: 6}), "bonding", open, "size of the main bonding", "unknown"},
	{"gas not bonded, run with this work in no length", unbonded(job.Bonds{Run: job.BondMissing, Size: 10}), "bonding", open, "length of the main bonding", "unknown"},
	{"gas not bonded, run with this work in 6 mm²", unbonded(job.Bonds{Run: job.BondMissing, Size: 6, Length: 6}), "bonding", stop, "at least 10 mm²", "table 54.8"},
	{"a size of bonding, and not which is run", unbonded(job.Bonds{Size: 10}), "bonding", stop, "not bonded: gas", "unknown"},
	{"all bonded, a length of bonding, and not which is run", func(j *job.Job) { j.Design.Bonds.Length = 6 }, "bonding", open, "which main bonding", "unknown"},
	{"nothing is without, and it is bonded", func(j *job.Job) { j.Design.Bonds = job.Bonds{Run: job.BondMissing, Size: 10, Length: 6} }, "bonding", open, "nothing that is", "unknown"},
	{"water without beside gas of 6 mm²", func(j *job.Job) {
		j.Survey.Bonding.Size, j.Survey.Bonding.Water = 6, job.NotBonded
		j.Design.Bonds = job.Bonds{Run: job.BondMissing, Size: 10, Length: 6}
	}, "bonding", stop, "main bonding 6 mm²", "the smallest counts"},
	{"gas of 6 mm² run anew in 10", both(bonding(func(b *job.Bonding) { b.Size = 6 }), func(j *job.Job) { j.Design.Bonds = job.Bonds{Run: job.BondAll, Size: 10, Length: 6} }),
		"bonding", sound, "bonding 10 mm²: gas; with this work: gas", "table 54.8"},
	{"an earthing conductor of 4 mm² replaced by 16", both(bonding(func(b *job.Bonding) { b.Conductor = 4 }), func(j *job.Job) { j.Design.Bonds.Conductor = 16 }),
		"bonding", sound, "earthing conductor 16 mm²", "table 54.7"},
	{"an earthing conductor of 4 mm² replaced by 5", both(bonding(func(b *job.Bonding) { b.Conductor = 4 }), func(j *job.Job) { j.Design.Bonds.Conductor = 5 }),
		"bonding", stop, "5 mm²", "table 54.1 and 543.1: 6 mm²"},
	{"bonding of 6 mm² on PME", bonding(func(b *job.Bonding) { b.Size = 6 }), "bonding", stop, "at least 10 mm²", "table 54.8"},
	{"bonding of 6 mm² on TN-S", both(onSupply(func(s *job.Supply) { s.System = job.TNS }), bonding(func(b *job.Bonding) { b.Size, b.Conductor = 6, 10 })), "bonding", watch, "16 mm² by table 54.7", "544.1.1: half of 10 mm², 6 at least; the earthing conductor below table 54.7"},
	{"bonding of 6 mm² beside 16 mm² on TN-S", both(onSupply(func(s *job.Supply) { s.System = job.TNS }), bonding(func(b *job.Bonding) { b.Size = 6 })), "bonding", stop, "at least 8 mm²", "544.1.1: half of 16 mm²"},
	{"bonding of 16 mm² beside 70 mm² on TN-S", both(onSupply(func(s *job.Supply) { s.System = job.TNS }), bonding(func(b *job.Bonding) { b.Size, b.Conductor = 16, 70 })), "bonding", stop, "at least 25 mm²", "544.1.1: half of 70 mm², 25 at most"},
	{"bonding of 25 mm² beside 70 mm² on TN-S", both(onSupply(func(s *job.Supply) { s.System = job.TNS }), bonding(func(b *job.Bonding) { b.Size, b.Conductor = 25, 70 })), "bonding", sound, "bonding 25 mm²", "544.1.1: 25 at most"},
	{"bonding's size not read", bonding(func(b *job.Bonding) { b.Size = 0 }), "bonding", open, "main bonding conductors", "unknown"},
	{"earthing conductor not read", bonding(func(b *job.Bonding) { b.Conductor = 0 }), "bonding", open, "earthing conductor", "unknown"},
	{"earthing conductor of 4 mm²", bonding(func(b *job.Bonding) { b.Conductor = 4 }), "bonding", stop, "4 mm²", "table 54.1 and 543.1: 6 mm²"},
	{"nothing to bond", bonding(func(b *job.Bonding) { b.Gas, b.Size = job.NotPresent, 0 }), "bonding", sound, "", "no extraneous-conductive-part"},

	// The board's map.
	{"a map of one space of a full board", board(func(b *job.Board) {
		b.Layout, b.Rows, *b.WaysFree, b.Slots = "rows", 1, 0, []job.Slot{{At: 1, Poles: 1, Circuit: "lights", Rating: 6}}
	}), "board", open, "the map shows 11, 0 were counted", "12 ways less one"},
	{"a map that agrees with the count", board(func(b *job.Board) {
		b.Layout, b.Rows, *b.WaysFree, b.Slots = "rows", 1, 11, []job.Slot{{At: 1, Poles: 1, Circuit: "lights", Rating: 6}}
	}), "board", sound, "fits", "likewise"},

	// Words.
	{"IP4X without the second digit", circuit(func(c *job.Circuit) { c.Charger.IP = "IP4X" }), "ip", open, "both digits", "722.512.2: digit by digit"},
}

// TestBetterSupply: no job passes at a worse supply and is stopped at a better one, by
// thermal withstand or by disconnection (the breaking capacity rightly runs the other
// way).
func TestBetterSupply(t *testing.T) {
	for name, change := range map[string]change{"twin and earth": twinEarth, "armour": both(armoured6, circuit(func(c *job.Circuit) { c.Cable.Earth = job.EarthArmour }))} {
		for _, class := range []int{0, 1, 2, 3} {
			for _, rating := range []quantity.Ampere{16, 32, 40, 50} {
				passed := map[string]float64{}
				for _, ze := range []quantity.Ohm{0.35, 0.3, 0.2, 0.1, 0.05, 0.02, 0.01} {
					j := ruletest.Example(t, examples+"uk-pass.json")
					both(change, read("ze", ""), onSupply(func(s *job.Supply) { s.DeclaredZe = ze }), circuit(func(c *job.Circuit) {
						c.Breaker.Class, c.Breaker.Rating, c.Setting = class, rating, 16
					}))(&j)
					findings, err := rulebook.Check(&j)
					if err != nil {
						t.Fatal(err)
					}
					for _, f := range findings {
						if f.Rule != "earth-size" && f.Rule != "zs-design" {
							continue
						}
						if f.Verdict != rulebook.Stop {
							passed[f.Rule] = float64(ze)
						} else if at := passed[f.Rule]; at > 0 {
							t.Errorf("%s, class %d, %g A: %s passes at Ze %g Ω and stops at %g Ω: %s", name, class, float64(rating), f.Rule, at, float64(ze), f.Working)
						}
					}
				}
			}
		}
	}
}
