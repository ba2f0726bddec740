// Package route turns a surveyed cable route into what it takes: the length to
// cut, supports, bends between pull points, fill, depth, and what each stretch
// does to the capacity of the cable.
package route

import (
	"math"
	"slices"
	"strconv"

	"dogbolt/core/conductor"
	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/sizing"
)

// Margins are what is added to the measured route, by the house. Common
// practice, no source.
type Margins struct {
	End   quantity.Metre `json:"end" minimum:"0" maximum:"5" doc:"For connecting, at each end, m."`
	Share float64        `json:"share" minimum:"0" maximum:"0.5" doc:"Spare, as a share of the measured length."`
}

// Default is 0.5 m at each end and 5 % to spare.
var Default = Margins{End: 0.5, Share: 0.05}

// MostBends is the greatest sum of bends between two pull points, degrees (NEC
// 358.26, 352.26). In the United Kingdom it is common practice, no source.
const MostBends = 360

// Fill is how full a raceway is, mm².
type Fill struct {
	Size    string  `json:"size,omitempty" doc:"Size that was surveyed or is the smallest that holds the circuit."`
	Chosen  bool    `json:"chosen" doc:"The size was surveyed; else it is the smallest that fits."`
	Used    float64 `json:"used" doc:"mm²"`
	Allowed float64 `json:"allowed" doc:"mm²; 0 where the size is not known."`
	Meets   bool    `json:"meets"`
	Clause  string  `json:"clause"`
}

// Depth is how deep a buried stretch lies.
type Depth struct {
	Value  quantity.Metre `json:"value" doc:"0 where not measured."`
	Least  quantity.Metre `json:"least"`
	Meets  bool           `json:"meets"`
	Clause string         `json:"clause"`
}

// Stretch is one segment of the route, worked out.
type Stretch struct {
	Method   string          `json:"method"`
	Measured quantity.Metre  `json:"measured"`
	Drop     quantity.Metre  `json:"drop"`
	Wall     quantity.Metre  `json:"wall"`
	Cable    quantity.Metre  `json:"cable" doc:"Measure, drop and wall together."`
	Bends    float64         `json:"bends" doc:"Sum of the bends since the last pull point, degrees; raceways only."`
	Over     bool            `json:"overBent" doc:"More than 360° between pull points."`
	Supports int             `json:"supports" doc:"Clips or supports."`
	Spacing  quantity.Metre  `json:"spacing" doc:"Greatest spacing of them, m."`
	Capacity quantity.Ampere `json:"capacity" doc:"What the cable carries here, A; 0 where it cannot be told."`
	How      string          `json:"how" doc:"Tabulated figure and factors, or what is missing."`
	Rules    bool            `json:"rules" doc:"This segment rules the capacity."`
	Fill     *Fill           `json:"fill,omitempty"`
	Depth    *Depth          `json:"depth,omitempty"`
}

// Laying is a route worked out: what laying the cable takes.
type Laying struct {
	Stretches []Stretch      `json:"stretches"`
	Length    quantity.Metre `json:"length" doc:"Along the route, drops and walls included."`
	Ends      quantity.Metre `json:"ends" doc:"Connecting at both ends."`
	Loop      quantity.Metre `json:"loop" doc:"Service loop."`
	Spare     quantity.Metre `json:"spare"`
	Cut       quantity.Metre `json:"cut" doc:"Length to cut, rounded up to 0.1 m."`
	Radius    quantity.Metre `json:"radius" doc:"Least bending radius of the cable (UK); 0 where not known."`
	Working   string         `json:"working"`
	Problem   string         `json:"problem,omitempty" doc:"Why the route does not connect."`
}

// Of works a point's route out for the circuit that is designed on it. straight
// is the distance from board to position on the plan, 0 where not drawn.
func Of(c *job.Circuit, p *job.Place, s *job.SurveySheet, straight quantity.Metre, us bool, m Margins) Laying {
	r := Laying{Stretches: make([]Stretch, len(p.Route)), Length: p.Length(), Ends: 2 * m.End, Loop: p.Loop}
	r.Spare = quantity.Metre(m.Share * float64(r.Length))
	if r.Length > 0 {
		r.Cut = quantity.Metre(math.Ceil(float64(r.Length+r.Ends+r.Loop+r.Spare)*10-1e-6) / 10)
	}
	r.Working = quantity.Say("{1} m route + {1} m ends + {1} m loop + {1} m spare, rounded up: {1} m", float64(r.Length), float64(r.Ends), float64(r.Loop), float64(r.Spare), float64(r.Cut))
	if us {
		r.Working = quantity.Say("{1} ft route + {1} ft ends + {1} ft loop + {1} ft spare, rounded up: {1} ft", r.Length.Feet(), r.Ends.Feet(), r.Loop.Feet(), r.Spare.Feet(), r.Cut.Feet())
	}
	r.Problem = problem(p, r.Length, straight, us)
	bends, worst := 0.0, -1
	for i := range p.Route {
		g := &p.Route[i]
		t := &r.Stretches[i]
		*t = Stretch{Method: sizing.MethodName(g.Method), Measured: g.Length, Drop: g.Drop, Wall: g.Wall, Cable: g.Run()}
		if us {
			t.Capacity, t.How = sizing.OnSegmentAWG(c, &s.Board, g)
			t.american(c, g, s)
		} else {
			t.Capacity, t.How = sizing.OnSegment(c, &s.Board, g)
			t.british(c, g)
			r.Radius = radius(c)
		}
		if g.Method.Enclosed() || us && conductor.InRaceway(c.Cable.Family) {
			bends += g.Bends
			t.Bends, t.Over = bends, bends > MostBends
		}
		if !g.Method.Enclosed() || g.Pull == job.Yes {
			bends = 0
		}
		if t.Capacity > 0 && (worst < 0 || t.Capacity < r.Stretches[worst].Capacity) {
			worst = i
		}
	}
	if worst >= 0 {
		r.Stretches[worst].Rules = true
	}
	return r
}

// problem says why a route does not connect.
func problem(p *job.Place, length, straight quantity.Metre, us bool) string {
	for i, g := range p.Route {
		if g.Run() <= 0 && (g.Method != "" || i < len(p.Route)-1) {
			return "segment " + strconv.Itoa(i+1) + " has no length: the route does not connect"
		}
	}
	if length > 0 && straight > length+0.05 {
		if us {
			return quantity.Say("the route measures {1} ft, board and position are {1} ft apart on the plan: a stretch is missing", length.Feet(), straight.Feet())
		}
		return quantity.Say("the route measures {1} m, board and position are {1} m apart on the plan: a stretch is missing", float64(length), float64(straight))
	}
	return ""
}

func radius(c *job.Circuit) quantity.Metre {
	row, ok := conductor.MetricSize(c.Cable.Family, c.Cable.Size)
	if !ok {
		return 0
	}
	d, _ := conductor.Diameter(c.Cable.Family, row.Area)
	return conductor.BendRadius(c.Cable.Family, d)
}

// supports counts clips over a length at a spacing, one at its start too.
func supports(l, spacing quantity.Metre) int {
	if l <= 0 || spacing <= 0 {
		return 0
	}
	return int(math.Ceil(float64(l/spacing)-1e-9)) + 1
}

// clipped lists the methods whose cable is clipped along its length.
var clipped = []job.Method{job.Surface, job.StudWall}

func (t *Stretch) british(c *job.Circuit, g *job.Segment) {
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
			t.Supports = supports(g.Length, level) + supports(g.Drop, upright)
		}
	}
	if g.Method.Enclosed() {
		area, _ := conductor.Section(c.Cable.Family, row.Area, sizing.Cores(c))
		t.Fill = MetricFill(g.Method, area+g.Others, g.Size)
	}
	if g.Method == job.Buried {
		least := conductor.UKCover(g.Under)
		t.Depth = &Depth{Value: g.Cover, Least: least, Meets: g.Cover >= least, Clause: "522.8.10; the figure is common practice"}
	}
}

// MetricFill judges a British raceway of a size, or finds the smallest that
// holds the area, mm².
func MetricFill(m job.Method, used float64, size string) *Fill {
	f := &Fill{Used: used, Size: size, Chosen: size != "", Clause: "OSG appendix E, space factor 45 %"}
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

func (t *Stretch) american(c *job.Circuit, g *job.Segment, s *job.SurveySheet) {
	row, ok := conductor.AWGSize(c.Cable.Size)
	if !ok {
		return
	}
	if conductor.InRaceway(c.Cable.Family) {
		t.Fill = awgFill(c, row, g)
		t.Spacing = conductor.Support(c.Cable.Family, t.Fill.Size)
	} else if g.Method != job.Buried {
		t.Spacing = conductor.Support(c.Cable.Family, "")
	}
	if g.Method == job.Buried {
		least := conductor.Cover(c.Cable.Family, g.Under)
		t.Depth = &Depth{Value: g.Cover, Least: least, Meets: g.Cover >= least-1e-9, Clause: "table 300.5"}
		return
	}
	t.Supports = supports(g.Run(), t.Spacing)
}

func awgFill(c *job.Circuit, row conductor.AWGRow, g *job.Segment) *Fill {
	const mm2 = 25.4 * 25.4
	wires := sizing.WiresAWG(c, row)
	f := &Fill{Used: conductor.WireArea(wires...)*mm2 + g.Others, Size: g.Size, Chosen: g.Size != "", Clause: "chapter 9 table 1, 40 %"}
	allowed, ok := conductor.FillAllowed(c.Cable.Family, g.Size)
	if !f.Chosen {
		f.Size, allowed, ok = conductor.RacewayFor(c.Cable.Family, f.Used/mm2)
	}
	if ok {
		f.Allowed = allowed * mm2
		f.Meets = f.Used <= f.Allowed+1e-6
	}
	return f
}
