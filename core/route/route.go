// Package route turns a surveyed cable route into what it takes: the length to
// cut, supports, bends between pull points, fill, depth, and what each stretch
// does to the capacity of the cable.
package route

import (
	"math"
	"strconv"

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

// Practice is what laying a cable depends on in one country. A country's folder
// fills it; this package never asks which country it is.
type Practice struct {
	Length quantity.Unit // in which lengths are told and cut

	// Carries says what a circuit's cable carries on a stretch of its route, A, and
	// how; 0 with the reason where it cannot be told.
	Carries func(*job.Circuit, *job.Board, *job.Segment) (quantity.Ampere, string)
	// Lay works out supports, fill and depth of a stretch.
	Lay func(*Stretch, *job.Circuit, *job.Segment)
	// Bent reports whether a family is drawn into a raceway along the whole route, so
	// that bends count wherever it runs; nil where none is.
	Bent func(job.Family) bool
	// Radius is the least bending radius of a circuit's cable, m; nil where none is
	// told.
	Radius func(*job.Circuit) quantity.Metre

	Parts Parts
}

// Of works a point's route out for the circuit that is designed on it. straight
// is the distance from board to position on the plan, 0 where not drawn.
func (w *Practice) Of(c *job.Circuit, p *job.Place, board *job.Board, straight quantity.Metre, m Margins) Laying {
	var beyond *job.Circuit // with the cable of the route from the joint box on
	box := len(p.Route)
	r := Laying{Stretches: make([]Stretch, len(p.Route)), Length: p.Length(), Ends: 2 * m.End, Loop: p.Loop}
	if whole := (job.Point{Circuit: *c, Place: *p}); whole.Joined() {
		last := whole.Last()
		beyond, box = &last.Circuit, last.Place.First
		r.Ends *= 2
	}
	r.Spare = quantity.Metre(m.Share * float64(r.Length))
	if r.Length > 0 {
		r.Cut = quantity.Metre(math.Ceil(float64(r.Length+r.Ends+r.Loop+r.Spare)*10-1e-6) / 10)
	}
	say := func(l quantity.Metre) string { return w.Length.SayTo(float64(l), 1) }
	r.Working = say(r.Length) + " route + " + say(r.Ends) + " ends + " + say(r.Loop) + " loop + " + say(r.Spare) + " spare, rounded up: " + say(r.Cut)
	r.Problem = w.problem(p, r.Length, straight)
	if w.Radius != nil && len(p.Route) > 0 {
		r.Radius = w.Radius(c)
		if beyond != nil {
			r.Radius = max(r.Radius, w.Radius(beyond))
		}
	}
	bends, worst := 0.0, -1
	for i := range p.Route {
		g := &p.Route[i]
		if i == box {
			c, bends = beyond, 0 // the box is a pull point
		}
		t := &r.Stretches[i]
		*t = Stretch{Method: sizing.MethodName(g.Method), Measured: g.Length, Drop: g.Drop, Wall: g.Wall, Cable: g.Run()}
		t.Capacity, t.How = w.Carries(c, board, g)
		w.Lay(t, c, g)
		if g.Method.Enclosed() || w.Bent != nil && w.Bent(c.Cable.Family) {
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
func (w *Practice) problem(p *job.Place, length, straight quantity.Metre) string {
	for i, g := range p.Route {
		if g.Run() <= 0 && (g.Method != "" || i < len(p.Route)-1) {
			return "segment " + strconv.Itoa(i+1) + " has no length: the route does not connect"
		}
	}
	if length > 0 && straight > length+0.05 {
		return "the route measures " + w.Length.SayTo(float64(length), 1) +
			", board and position are " + w.Length.SayTo(float64(straight), 1) + " apart on the plan: a stretch is missing"
	}
	return ""
}

// Supports counts clips over a length at a spacing, one at its start too.
func Supports(l, spacing quantity.Metre) int {
	if l <= 0 || spacing <= 0 {
		return 0
	}
	return int(math.Ceil(float64(l/spacing)-1e-9)) + 1
}
