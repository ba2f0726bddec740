package uk

import (
	"slices"

	"dogbolt/core/conductor"
	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/route"
	"dogbolt/core/sizing"
)

// laying is how routes are laid and what is taken off them: On-Site Guide appendix
// D and E, 522.8.10.
var laying = route.Practice{
	Length: quantity.InMetres, Carries: sizing.OnSegment, Lay: lay, Radius: radius,
	Parts: route.Parts{
		Clip: "cable clip", ClipRule: "OSG appendix D", Long: quantity.InMillimetres, Hole: hole, Entry: entry, Cores: cores,
		Colours: colours, Pattern: outlet, Fasteners: fasteners,
		Links: map[job.Family]string{job.Armoured70: earthLink, job.Armoured90: earthLink},
		Glands: map[job.Family]string{
			job.TwinEarth: "gland or grommet", job.Multicore: "compression gland", job.Singles: "conduit adaptor and bush",
			job.Armoured70: "armoured gland with earth tag", job.Armoured90: "armoured gland with earth tag",
		},
		Torque: "torque driver, 1 to 6 N·m", TorqueRule: "BS 7671 526.1; the terminals' labels, 1 to 6 N·m by common practice",
		From: partClauses,
	},
}

// earthLink joins the tag of an armoured gland to the earth terminal.
const earthLink = "earth link with lugs, green-and-yellow, for the gland's tag"

// fasteners fix a unit of usual weight: common practice, no source.
var fasteners = map[job.Fixing][]string{
	"brick": {"screw 6 × 60 mm, stainless", "wall plug 8 mm"}, "concrete": {"screw 6 × 60 mm, stainless", "concrete plug 8 mm"},
	"stud": {"coach screw 6 × 70 mm, stainless"}, "timber": {"coach screw 6 × 70 mm, stainless"},
	"post": {"bolt M6 × 40 mm with washers and nut, stainless"},
}

// colours are those of single cores, protective conductor among them: BS 7671 table 51.
func colours(c *job.Circuit, _ int) string {
	if c.Charger.Phases == 3 {
		return "brown, black, grey, blue, green-and-yellow"
	}
	return "brown, blue, green-and-yellow"
}

// outlet is a socket-outlet by its rating.
func outlet(r *job.Receptacle) string { return quantity.Say("socket-outlet {} A", float64(r.Rating)) }

// radius is the least bending radius of the circuit's cable, m (OSG appendix D).
func radius(c *job.Circuit) quantity.Metre {
	row, ok := conductor.MetricSize(c.Cable.Family, c.Cable.Size)
	if !ok {
		return 0
	}
	d, _ := conductor.Diameter(c.Cable.Family, row.Area)
	return conductor.BendRadius(c.Cable.Family, d)
}

// clipped lists the methods whose cable is clipped along its length.
var clipped = []job.Method{job.Surface, job.StudWall}

// lay counts clips by diameter, and works out fill and depth.
func lay(t *route.Stretch, c *job.Circuit, g *job.Segment) {
	row, ok := conductor.MetricSize(c.Cable.Family, c.Cable.Size)
	if !ok {
		return
	}
	d, _ := conductor.Diameter(c.Cable.Family, row.Area)
	if slices.Contains(clipped, g.Method) {
		level, ok1 := conductor.ClipSpacing(c.Cable.Family, d, false)
		upright, ok2 := conductor.ClipSpacing(c.Cable.Family, d, true)
		if ok1 && ok2 {
			t.Spacing = level
			t.Supports = route.Supports(g.Length, level) + route.Supports(g.Drop, upright)
		}
	}
	if g.Method.Enclosed() {
		area, _ := conductor.Section(c.Cable.Family, row.Area, sizing.Cores(c))
		t.Fill = fill(g.Method, area+g.Others, g.Size)
	}
	if g.Method == job.Buried {
		least := usualCover(g.Under)
		t.Depth = &route.Depth{Value: g.Cover, Least: least, Meets: g.Cover >= least, Clause: "522.8.10; the figure is common practice"}
	}
}

// fill judges a British raceway of a size, or finds the smallest that
// holds the area, mm².
func fill(m job.Method, used float64, size string) *route.Fill {
	f := &route.Fill{Used: used, Size: size, Chosen: size != "", Clause: "OSG appendix E, space factor 45 %"}
	if m != job.Trunking {
		f.Clause = "common practice, 40 %"
	}
	if f.Chosen {
		f.Allowed, _ = conductor.ChannelAllowed(m, size)
		f.Meets = f.Allowed > 0 && used <= f.Allowed
		return f
	}
	f.Size, f.Allowed, f.Meets = conductor.SmallestChannel(m, used)
	return f
}

// holes are the holes that glands need, mm, by the diameter of the cable that they
// take, mm: M20 to M32 of armoured cable, and compression glands (BS EN 62444, by
// makers' tables). From memory.
var (
	armourHoles = [][2]float64{{20.9, 20}, {26.2, 25}, {33.9, 32}}
	glandHoles  = [][2]float64{{14, 20}, {18, 25}, {25, 32}}
)

// cores are those of a cable: where its armour is the protective conductor it has none for it.
func cores(c *job.Circuit) int {
	if c.Cable.Earth == job.EarthArmour {
		return sizing.Cores(c) - 1
	}
	return sizing.Cores(c)
}

// hole is the cutter of the charger's entry, mm; "" where there is none to cut.
func hole(c *job.Circuit, _ []job.Part) string {
	if mm := entryOf(c); mm > 0 {
		return quantity.Say("hole cutter {} mm", mm)
	}
	return ""
}

// entry is the size of the entry of a circuit's gland: M20 for a hole of 20 mm.
func entry(c *job.Circuit) string {
	if mm := entryOf(c); mm > 0 {
		return quantity.Say("M{}", mm)
	}
	return ""
}

// entryOf is the hole of the gland that takes a circuit's cable, mm; 0 where nobody knows, or there is none.
func entryOf(c *job.Circuit) float64 {
	table := glandHoles
	switch c.Cable.Family {
	case job.Armoured70, job.Armoured90:
		table = armourHoles
	case job.Singles, job.TwinEarth: // enter in their conduit, or by a grommet of their own shape
		return 0
	}
	row, ok := conductor.MetricSize(c.Cable.Family, c.Cable.Size)
	d, known := conductor.Diameter(c.Cable.Family, row.Area)
	for _, h := range table {
		if ok && known && d <= h[0] {
			return h[1]
		}
	}
	return 0
}

// partClauses are what single parts follow from.
var partClauses = route.PartClauses{
	Residual: "722.531.3: its own, at most 30 mA", Box: "the outlet's maker", Joint: "526.3, 512.2", Surge: "443.4.1", Isolator: "722.537",
	Labels: "514", Pull: "522.8; common practice", Tape: "522.8.10; common practice", Wall: "527.2, 522.3; the route", Lock: "HSE HSR25",
}
