package route_test

import (
	"math"
	"strings"
	"testing"

	"dogbolt/core/books/uk"
	"dogbolt/core/books/us"
	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/route"
)

func british() (*job.Circuit, *job.Place, *job.Survey) {
	c := &job.Circuit{Setting: 32, Charger: job.Charger{Phases: 1, Terminals: 70}, Cable: job.Cable{Family: job.Armoured90, Size: "6 mm²", Earth: "core"}}
	p := &job.Place{Loop: 1, Route: []job.Segment{
		{Method: job.Surface, Length: 6, Drop: 2.2},
		{Method: job.ThroughWall, Wall: 0.3},
		{Method: job.Buried, Length: 8, Cover: 0.5, Under: "garden", Taped: job.Yes},
	}}
	return c, p, &job.Survey{Board: job.Board{Terminals: 70}}
}

func near(a quantity.Metre, b float64) bool { return math.Abs(float64(a)-b) < 1e-9 }

// TestBritish works a route out by hand: the datum of a wall adds its thickness
// and drops count (field practice); clips of 16.6 mm armoured cable every 0.4 m
// level and 0.55 m upright (OSG appendix D, from memory).
func TestBritish(t *testing.T) {
	c, p, s := british()
	r := uk.Practice.Laying.Of(c, p, &s.Board, 9, route.Default)
	if !near(r.Length, 16.5) || !near(r.Ends, 1) || !near(r.Spare, 0.825) || !near(r.Cut, 19.4) || r.Problem != "" {
		t.Errorf("lengths: %+v", r)
	}
	if g := r.Stretches[0]; g.Supports != 16+5 || !near(g.Spacing, 0.4) {
		t.Errorf("clips %d at %.2f m, want 16 level and 5 upright at 0.40", g.Supports, float64(g.Spacing))
	}
	if g := r.Stretches[1]; !near(g.Cable, 0.3) || g.Capacity != 49 {
		t.Errorf("through the wall: %+v", g)
	}
	// 6 mm² two-core 70 °C in the ground: 46 × 0.9 = 41.4 A rules.
	if g := r.Stretches[2]; math.Abs(float64(g.Capacity)-41.4) > 1e-9 || !g.Rules || !strings.Contains(g.How, "0.90 buried overload") && !strings.Contains(g.How, "0.9 buried overload") || !g.Depth.Meets {
		t.Errorf("buried: %+v", g)
	}
	if !near(r.Radius, 6*0.0166) {
		t.Errorf("bending radius %.4f m, want 6 × 16.6 mm", float64(r.Radius))
	}
	p.Route[2].Under = "drive"
	if g := uk.Practice.Laying.Of(c, p, &s.Board, 9, route.Default).Stretches[2]; g.Depth.Meets || !near(g.Depth.Least, 0.6) {
		t.Errorf("0.5 m under a drive: %+v", g.Depth)
	}
}

func TestConnects(t *testing.T) {
	c, p, s := british()
	if r := uk.Practice.Laying.Of(c, p, &s.Board, 16.6, route.Default); !strings.Contains(r.Problem, "measures 16.5 m, board and position are 16.6 m apart") {
		t.Errorf("shorter than the straight line: %q", r.Problem)
	}
	p.Route[1] = job.Segment{Method: job.Conduit}
	if r := uk.Practice.Laying.Of(c, p, &s.Board, 0, route.Default); !strings.Contains(r.Problem, "segment 2 has no length") {
		t.Errorf("a segment without length: %q", r.Problem)
	}
}

// TestBends: 360° between pull points (NEC 358.26, 352.26, from memory); a pull
// point begins anew.
func TestBends(t *testing.T) {
	c, p, s := british()
	c.Cable = job.Cable{Family: job.Singles, Size: "6 mm²"}
	p.Route = []job.Segment{{Method: job.Conduit, Length: 3, Bends: 270}, {Method: job.Conduit, Length: 3, Bends: 90, Pull: job.Yes}, {Method: job.Conduit, Length: 3, Bends: 91}, {Method: job.Conduit, Length: 1, Bends: 270}}
	r := uk.Practice.Laying.Of(c, p, &s.Board, 0, route.Default)
	for i, want := range []struct {
		bends float64
		over  bool
	}{{270, false}, {360, false}, {91, false}, {361, true}} {
		if g := r.Stretches[i]; g.Bends != want.bends || g.Over != want.over {
			t.Errorf("segment %d: %g° over %t, want %g° %t", i+1, g.Bends, g.Over, want.bends, want.over)
		}
	}
}

// TestFill: two 6 AWG and one 10 AWG THHN are 0.1225 in², just over ½ in EMT
// (0.122; chapter 9 tables 1, 4 and 5, from memory).
func TestFill(t *testing.T) {
	c := &job.Circuit{Charger: job.Charger{Phases: 1, Terminals: 75, NeedsNeutral: job.No}, Cable: job.Cable{Family: job.ThwnEMT, Size: "6 AWG", EarthSize: "10 AWG"}}
	s := &job.Survey{Board: job.Board{Terminals: 75}}
	p := &job.Place{Route: []job.Segment{{Method: job.Conduit, Length: quantity.Feet(40), Size: "½"}, {Method: job.Conduit, Length: quantity.Feet(10)}, {Method: job.Buried, Length: 3, Cover: quantity.Inches(17), Under: "garden"}}}
	r := us.Practice.Laying.Of(c, p, &s.Board, 0, route.Default)
	const in2 = 25.4 * 25.4
	if f := r.Stretches[0].Fill; f.Meets || math.Abs(f.Used/in2-0.1225) > 1e-9 || math.Abs(f.Allowed/in2-0.122) > 1e-9 {
		t.Errorf("½ in: %+v", f)
	}
	if f := r.Stretches[1].Fill; f.Size != "¾" || !f.Meets || f.Chosen {
		t.Errorf("smallest that fits: %+v", f)
	}
	if d := r.Stretches[2].Depth; d.Meets || !near(d.Least, 18*0.0254) {
		t.Errorf("17 in of cover over PVC or EMT: %+v", d)
	}
	if g := r.Stretches[0]; g.Supports != 5 || math.Abs(g.Spacing.Feet()-10) > 1e-9 {
		t.Errorf("40 ft of EMT: %d supports at %.1f ft, want 5 at 10", g.Supports, g.Spacing.Feet())
	}
}

// TestSegmentsRule: the worst segment rules, with its factors shown.
func TestSegmentsRule(t *testing.T) {
	hot := quantity.Celsius(38)
	c := &job.Circuit{Charger: job.Charger{Phases: 1, Terminals: 75}, Cable: job.Cable{Family: job.ThwnEMT, Size: "6 AWG", EarthSize: "10 AWG"}}
	s := &job.Survey{Board: job.Board{Terminals: 75}}
	p := &job.Place{Route: []job.Segment{{Method: job.Conduit, Length: 3}, {Method: job.Conduit, Length: 3, Ambient: &hot, Wires: 6}, {Method: job.Conduit}}}
	r := us.Practice.Laying.Of(c, p, &s.Board, 0, route.Default)
	// 75 A × 0.91 × 0.80 = 54.6 A: the published example of reference B1.
	if g := r.Stretches[1]; math.Abs(float64(g.Capacity)-54.6) > 1e-9 || !g.Rules || r.Stretches[0].Rules {
		t.Errorf("hot and full: %+v", g)
	}
	if g := r.Stretches[2]; g.Capacity != 0 || g.How == "" {
		t.Errorf("no length: %+v", g)
	}
	c.Cable = job.Cable{}
	if g := us.Practice.Laying.Of(c, p, &s.Board, 0, route.Default).Stretches[0]; g.Capacity != 0 || g.How != "conductor not chosen" {
		t.Errorf("no conductor: %+v", g)
	}
}
