package us

import (
	"strings"

	"dogbolt/core/conductor"
	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/route"
	"dogbolt/core/sizing"
)

// laying is how routes are laid and what is taken off them: articles 300, 330,
// 334, 352 and 358, chapter 9.
var laying = route.Practice{
	Length: quantity.InFeet, Carries: sizing.OnSegmentAWG, Lay: lay, Bent: conductor.InRaceway,
	Parts: route.Parts{
		Clip: "strap", ClipRule: "334.30, 330.30, 358.30, 352.30", Long: quantity.InInches, Hole: hole, Boxes: boxVolume,
		Colours: colours, Pattern: pattern, Fasteners: fasteners,
		Glands: map[job.Family]string{
			job.NMB: "cable clamp", job.MC: "metal-clad connector with bushing",
			job.ThwnEMT: "EMT connector with bushing and locknut", job.ThwnPVC: "PVC terminal adapter with locknut",
		},
		Torque: "torque driver, 10 to 50 in·lb", TorqueRule: "110.14(D); the terminals' labels, 10 to 50 in·lb by common practice",
		From: partClauses,
	},
}

// fasteners fix a unit of usual weight: common practice, no source.
var fasteners = map[job.Fixing][]string{
	"brick": {"screw no. 14 × 2½ in, stainless", "wall anchor for no. 14"}, "concrete": {"concrete screw ¼ × 2¼ in, coated"},
	"stud": {"lag screw ¼ × 2½ in, coated"}, "timber": {"lag screw ¼ × 2½ in, coated"},
	"post": {"bolt ¼ × 2 in with washers and nut, stainless"},
}

// colours are those of single ungrounded conductors, with a white neutral where there is one: 200.6 and 210.5(C), which leave
// the ungrounded ones free but for white, gray and green; black, red and blue are common practice.
func colours(c *job.Circuit, wires int) string {
	hots := []string{"black", "red"}
	if c.Charger.Phases == 3 {
		hots = append(hots, "blue")
	}
	if wires > len(hots) {
		hots = append(hots, "white")
	}
	return strings.Join(hots[:len(hots)-1], ", ") + " and " + hots[len(hots)-1]
}

// patterns are the configurations of receptacles for 240 V by rating, without and with a neutral: NEMA WD 6, from memory.
var patterns = map[quantity.Ampere][2]string{20: {"6-20R", "14-20R"}, 30: {"6-30R", "14-30R"}, 50: {"6-50R", "14-50R"}, 60: {"", "14-60R"}}

// pattern is a receptacle by rating and configuration, as far as both are known.
func pattern(r *job.Receptacle) string {
	name := quantity.Say("receptacle {} A", float64(r.Rating))
	says := map[job.Answer]string{job.No: patterns[r.Rating][0], job.Yes: patterns[r.Rating][1]}[r.Neutral]
	if says != "" {
		says = " (" + says + ")"
	}
	switch r.Neutral {
	case job.Yes:
		return name + ", with neutral" + says
	case job.No:
		return name + ", without neutral" + says
	}
	return name
}

// lay spaces supports by method and size, and works out fill and cover.
func lay(t *route.Stretch, c *job.Circuit, g *job.Segment) {
	row, ok := conductor.AWGSize(c.Cable.Size)
	if !ok {
		return
	}
	if conductor.InRaceway(c.Cable.Family) {
		t.Fill = fill(c, row, g)
		t.Spacing = supportSpacing(c.Cable.Family, t.Fill.Size)
	} else if g.Method != job.Buried {
		t.Spacing = supportSpacing(c.Cable.Family, "")
	}
	if g.Method == job.Buried {
		least := leastCover(c.Cable.Family, g.Under)
		t.Depth = &route.Depth{Value: g.Cover, Least: least, Meets: g.Cover >= least-1e-9, Clause: "table 300.5"}
		return
	}
	t.Supports = route.Supports(g.Run(), t.Spacing)
}

func fill(c *job.Circuit, row conductor.AWGRow, g *job.Segment) *route.Fill {
	const mm2 = 25.4 * 25.4
	wires := sizing.WiresAWG(c, row)
	f := &route.Fill{Used: conductor.WireArea(wires...)*mm2 + g.Others, Size: g.Size, Chosen: g.Size != "", Clause: "chapter 9 table 1, 40 %"}
	allowed, ok := conductor.FillAllowed(c.Cable.Family, g.Schedule, g.Size)
	if !f.Chosen {
		f.Size, allowed, ok = conductor.RacewayFor(c.Cable.Family, g.Schedule, f.Used/mm2)
	}
	if ok {
		f.Allowed = allowed * mm2
		f.Meets = f.Used <= f.Allowed+1e-6
	}
	return f
}

// tradeHoles are the holes that connectors of a trade size need, in: the cutter
// whose hole lies within the knock-out's limits (NEMA OS 1). From memory.
var tradeHoles = map[string]string{"½": "7/8", "¾": "1 1/8", "1": "1 3/8", "1¼": "1 3/4"}

// hole is the cutter of the charger's entry for the raceway among the parts; ""
// where there is none to cut.
func hole(_ *job.Circuit, parts []job.Part) string {
	size := ""
	for _, p := range parts {
		for _, kind := range []string{" in EMT", " in PVC conduit"} {
			if name, ok := strings.CutSuffix(p.Name, kind); ok {
				size = name
			}
		}
	}
	cutter := tradeHoles[size]
	if cutter == "" {
		return ""
	}
	return "hole cutter " + cutter + " in, for " + size + " in trade size"
}

// partClauses are what single parts follow from.
var partClauses = route.PartClauses{
	Residual: "the design", Box: "314.16(B)", Joint: "300.15, 314.16", Surge: "230.67 where it applies", Isolator: "625.43",
	Labels: "408.4", Pull: "358.26, 352.26", Tape: "300.5(D)(3); common practice", Wall: "300.7, 300.21; the route", Lock: "OSHA 1910.333",
}
