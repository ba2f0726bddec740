package route

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"dogbolt/core/conductor"
	"dogbolt/core/job"
	"dogbolt/core/panel"
	"dogbolt/core/quantity"
	"dogbolt/core/sizing"
)

// takeoff gathers lines. Lines of the same name add up.
type takeoff struct {
	parts []job.Part
	held  []job.Part // what the plan has in hand already
	us    bool
	point string // whose lines these are, which the stock does not ask
}

// add adds a line; why says what it follows from, with its rule where it has one.
func (t *takeoff) add(n float64, unit, why, format string, args ...any) {
	p := job.Part{Name: strings.TrimSpace(fmt.Sprintf(format, args...)), Quantity: n, Unit: unit, Why: why}
	if n <= 0 {
		return
	}
	if item, own := strings.CutSuffix(p.Name, ", "+t.point); own && t.point != "" {
		p.Item = item
	}
	if k := slices.IndexFunc(t.parts, func(o job.Part) bool { return o.Name == p.Name }); k >= 0 {
		t.parts[k].Quantity += n
		return
	}
	if k := slices.IndexFunc(t.held, func(o job.Part) bool { return o.Name == p.Name }); k >= 0 {
		p.InHand, p.Supply, p.From = t.held[k].InHand, t.held[k].Supply, t.held[k].From
	}
	t.parts = append(t.parts, p)
}

// tool adds something that comes back from the job.
func (t *takeoff) tool(why, format string, args ...any) {
	n := len(t.parts)
	t.add(1, "", why, format, args...)
	if len(t.parts) > n {
		t.parts[n].Tool = job.Yes
	}
}

// pieces adds a length that is cut into equal pieces.
func (t *takeoff) pieces(each float64, n int, unit, why, format string, args ...any) {
	k := len(t.parts)
	t.add(each*float64(n), unit, why, format, args...)
	if len(t.parts) > k && n > 1 {
		t.parts[k].Pieces = n
	}
}

// length returns a length in whole metres or feet, rounded up, and its unit.
func (t *takeoff) length(l quantity.Metre) (float64, string) {
	if t.us {
		return math.Ceil(l.Feet() - 1e-6), "ft"
	}
	return math.Ceil(float64(l) - 1e-6), "m"
}

// TakeOff lists what the van must hold for a job, from its design and routes,
// each line with what it follows from. Parts of the same name that the plan has
// in hand stay so. Quantities without a rule are common practice, no source.
func TakeOff(j *job.Job, us bool, m Margins) []job.Part {
	t := &takeoff{held: j.Plan.Parts, us: us}
	for _, p := range j.Points() {
		c := p.Circuit
		t.point = p.ID
		laid := Of(&c, &p.Place, &j.Survey, 0, us, m)
		t.add(1, "", "the design", "%s, %s", cmp.Or(c.Charger.Type, "charger"), p.ID)
		n, unit := t.length(laid.Cut)
		t.cable(&c, p.ID, n, unit, laid.Working)
		device := "breaker " + c.Breaker.Curve + strconv.FormatFloat(float64(c.Breaker.Rating), 'f', -1, 64) + " A, " + p.ID
		t.add(1, "", "the design", "%s", device)
		if c.RCD.Fitted == job.Yes {
			t.add(1, "", "722.531.3: its own, at most 30 mA", "residual device type %s, %g mA, %s", c.RCD.Type, c.RCD.TripMA, p.ID)
		}
		if c.Connection == "receptacle" {
			t.add(1, "", "the design", "receptacle %g A, %s", float64(c.Receptacle.Rating), p.ID)
			if v, ok := conductor.BoxVolume[c.Receptacle.Box]; ok {
				t.add(1, "", "314.16(B)", "box of %g in³ for the receptacle, %s", v, p.ID)
			}
		}
		if c.SPD == "fitted" {
			t.add(1, "", "443.4.1; NEC 230.67 where it applies", "surge protective device, %s", p.ID)
		}
		if c.Isolator == job.Yes || c.Disconnect == job.Yes {
			t.add(1, "", "722.537; NEC 625.43", "isolator, lockable, %s", p.ID)
		}
		t.segments(&c, &p.Place, laid.Stretches)
		t.fixings(j, p.Place)
		t.hole(&c)
	}
	t.point = ""
	if fits := panel.Of(j); slices.ContainsFunc(fits, func(f panel.Fit) bool { return f.Mapped && !f.Fits }) {
		t.add(1, "", "the board's map has no room", "enclosure for the breaker, beside the board")
	}
	t.add(1, "", "514; NEC 408.4", "labels and circuit chart")
	t.tools(j)
	return t.parts
}

// cable adds the cable or the conductors, cut to a length.
func (t *takeoff) cable(c *job.Circuit, point string, n float64, unit, working string) {
	switch row, ok := conductor.AWGSize(c.Cable.Size); {
	case ok && conductor.InRaceway(c.Cable.Family):
		wires := sizing.WiresAWG(c, row)
		t.pieces(n, len(wires)-1, unit, working+", each conductor", "%s THWN-2 conductor, %s", c.Cable.Size, point)
		t.add(n, unit, working, "%s THWN-2 ground, %s", c.Cable.EarthSize, point)
	case c.Cable.Family == job.Singles:
		t.pieces(n, sizing.Cores(c), unit, working+", each core", "%s single core, %s", c.Cable.Size, point)
	default:
		t.add(n, unit, working, "%s %s, %s", c.Cable.Size, sizing.FamilyName(c.Cable.Family), point)
	}
}

// glands are what ends a cable or a raceway, by family.
var glands = map[job.Family]string{
	job.TwinEarth: "gland or grommet", job.Multicore: "compression gland", job.Singles: "conduit adaptor and bush",
	job.Armoured70: "armoured gland with earth tag", job.Armoured90: "armoured gland with earth tag",
	job.NMB: "cable clamp", job.MC: "metal-clad connector with bushing", job.ThwnEMT: "EMT connector with bushing and locknut", job.ThwnPVC: "PVC terminal adapter with locknut",
}

// segments adds supports, raceway, tape and sealant.
func (t *takeoff) segments(c *job.Circuit, p *job.Place, stretches []Stretch) {
	if g := glands[c.Cable.Family]; g != "" {
		t.add(2, "", "one at each end of the route", "%s for %s", g, c.Cable.Size)
	}
	rule := "OSG appendix D"
	if t.us {
		rule = "334.30, 330.30, 358.30, 352.30"
	}
	for i, s := range stretches {
		g := &p.Route[i]
		n, unit := t.length(s.Cable)
		if s.Supports > 0 {
			what := "cable clip"
			if t.us {
				what = "strap"
			}
			t.add(float64(s.Supports), "", rule+quantity.Say(", every {2} m", float64(s.Spacing)), "%s for %s", what, c.Cable.Size)
		}
		if s.Fill != nil && s.Fill.Size != "" && !conductor.InRaceway(c.Cable.Family) {
			t.add(n, unit, s.Fill.Clause, "%s %s", s.Fill.Size, strings.TrimPrefix(string(g.Method), "conduit-in-wall"))
		}
		if conductor.InRaceway(c.Cable.Family) && s.Fill != nil {
			kind := "EMT"
			if c.Cable.Family == job.ThwnPVC {
				kind = "PVC conduit"
			}
			t.add(n, unit, s.Fill.Clause, "%s in %s", s.Fill.Size, kind)
			t.add(math.Ceil(g.Bends/90), "", "the route's bends", "%s in %s elbow, 90°", s.Fill.Size, kind)
		}
		if g.Pull == job.Yes {
			t.add(1, "", "358.26, 352.26; common practice", "pull box or inspection fitting")
		}
		switch g.Method {
		case job.Buried:
			t.add(n, unit, "522.8.10; common practice", "marking tape")
		case job.ThroughWall:
			t.add(1, "", "527.2, 522.3; the route", "sealant and sleeve for a wall")
		}
	}
}

// fixings adds screws and plugs for the unit by what it is fixed to.
func (t *takeoff) fixings(j *job.Job, p job.Place) {
	what := map[string]string{"brick": "screw and wall plug", "concrete": "screw and concrete anchor", "stud": "coach screw", "timber": "coach screw", "post": "bolt with washer", "doubtful": "backboard with its own fixings"}
	for _, q := range j.Survey.SitePlan.Positions {
		if q.ID == p.Position && what[q.Fixing] != "" {
			t.add(4, "", "fixed to: "+q.Fixing+"; the maker's sheet prevails", "%s", what[q.Fixing])
		}
	}
}

// holes are the holes that glands and connectors need: mm by the diameter of
// the cable that they take, mm, for glands M20 to M32 of armoured cable and for
// compression glands (BS EN 62444 glands by makers' tables); in for trade ½ to 1¼,
// the cutter whose hole lies within the knock-out's limits (NEMA OS 1). From memory.
var (
	armourHoles = [][2]float64{{20.9, 20}, {26.2, 25}, {33.9, 32}}
	glandHoles  = [][2]float64{{14, 20}, {18, 25}, {25, 32}}
	tradeHoles  = map[string]string{"½": "7/8", "¾": "1 1/8", "1": "1 3/8", "1¼": "1 3/4"}
)

// hole adds the cutter of the entry. Whether it fits the depth of the
// charger's entry is the maker's to say.
func (t *takeoff) hole(c *job.Circuit) {
	const why = "the entry's size; look at the depth on the maker's sheet"
	if t.us {
		size := ""
		for _, p := range t.parts {
			if name, ok := strings.CutSuffix(p.Name, " in EMT"); ok {
				size = name
			}
			if name, ok := strings.CutSuffix(p.Name, " in PVC conduit"); ok {
				size = name
			}
		}
		if hole := tradeHoles[size]; hole != "" {
			t.tool(why, "hole cutter %s in, for %s in trade size", hole, size)
		}
		return
	}
	row, ok := conductor.MetricSize(c.Cable.Family, c.Cable.Size)
	d, known := conductor.Diameter(c.Cable.Family, row.Area)
	table := glandHoles
	switch c.Cable.Family {
	case job.Armoured70, job.Armoured90:
		table = armourHoles
	case job.Singles: // enter in their conduit
		return
	}
	for _, h := range table {
		if ok && known && d <= h[0] {
			t.tool(why, "hole cutter %g mm", h[1])
			return
		}
	}
}

// tools adds what the job needs besides hand tools.
func (t *takeoff) tools(j *job.Job) {
	if t.us {
		t.tool("110.14(D); the terminals' labels, 10 to 50 in·lb by common practice", "torque driver, 10 to 50 in·lb")
	} else {
		t.tool("BS 7671 526.1; the terminals' labels, 1 to 6 N·m by common practice", "torque driver, 1 to 6 N·m")
	}
	t.tool("part 6; common practice", "tester in calibration, with a known source")
	t.tool("IEC 61851-1", "vehicle adapter for the charger tests")
	t.tool("HSE HSR25; OSHA 1910.333", "lock and tag")
	thick, stud := quantity.Metre(0), false
	for _, p := range j.Survey.Places {
		for _, g := range p.Route {
			thick = max(thick, g.Wall)
		}
		for _, q := range j.Survey.SitePlan.Positions {
			stud = stud || q.ID == p.Position && q.Fixing == "stud"
		}
	}
	if stud {
		t.tool("fixed to a stud", "stud finder")
	}
	if thick > 0 {
		// A bit reaches through with 100 mm to spare: common practice, no source.
		long := thick + 0.1
		if t.us {
			t.tool("the thickest wall of the route", "drill bit, at least %.0f in long", math.Ceil(long.Inches()))
		} else {
			t.tool("the thickest wall of the route", "drill bit, at least %.0f mm long", math.Ceil(1000*float64(long)-1e-6))
		}
	}
}
