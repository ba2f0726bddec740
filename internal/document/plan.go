package document

import (
	"fmt"
	"math"
	"strings"

	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/quantity"
	"dogbolt/core/reach"
)

// planStyle is the look of a plan that stands alone: ink on paper.
const planStyle = `text{font:16px 'Plex Sans',sans-serif;fill:#17212b}.quiet{fill:#5b6873}.wall{fill:#d9d3c6;stroke:#17212b;stroke-width:1.5}` +
	`.door{stroke:#17212b;stroke-width:3}.path{fill:#f0ebe0;stroke:none}.bay{fill:none;stroke:#62707c;stroke-dasharray:8 5}.car{fill:#e4e7ea;stroke:#62707c;stroke-width:1.5}` +
	`.nose{stroke:#62707c;stroke-width:3}.obstacle{fill:#e4e0d6;stroke:#62707c}.gas{stroke:#a5342b;stroke-width:2;fill:none}.board{fill:#17212b}.position{fill:#fffdf9;stroke:#17212b;stroke-width:2}` +
	`.chosen{fill:#a65a2a;stroke:#a65a2a}.chosen-text{fill:#ffffff}.cord{fill:none;stroke:#2c7a68;stroke-width:3}.short{stroke:#b97a12;stroke-dasharray:9 6}.inlet{fill:#a65a2a}.scale{stroke:#17212b;stroke-width:3}.mid{text-anchor:middle}`

// planScale is how many units of the drawing a metre is.
const planScale = 60.0

// plan gathers the shapes of a site plan, placed in metres, Y upwards, in the units of a drawing.
type plan struct {
	shapes            []Shape
	left, top, margin float64
	right, bottom     float64
}

func (p *plan) at(q job.XY) Pt {
	return Pt{(float64(q.X)-p.left)*planScale + p.margin, (p.top-float64(q.Y))*planScale + p.margin}
}

func (p *plan) polygon(class string, pts []job.XY) { p.shape(true, class, pts) }

func (p *plan) line(class string, pts ...job.XY) { p.shape(false, class, pts) }

func (p *plan) shape(closed bool, class string, pts []job.XY) {
	out := make([]Pt, len(pts))
	for i, q := range pts {
		out[i] = p.at(q)
	}
	p.shapes = append(p.shapes, Shape{Class: class, Points: out, Closed: closed})
}

func (p *plan) text(class string, q job.XY, up float64, s string) {
	at := p.at(q)
	p.shapes = append(p.shapes, Shape{Class: class, Points: []Pt{{at.X, at.Y - up}}, Text: s})
}

// middle returns the place half way between two.
func middle(a, b job.XY) job.XY { return job.XY{X: (a.X + b.X) / 2, Y: (a.Y + b.Y) / 2} }

func around(c job.XY, half float64) []job.XY {
	h := quantity.Metre(half)
	return []job.XY{{X: c.X - h, Y: c.Y - h}, {X: c.X + h, Y: c.Y - h}, {X: c.X + h, Y: c.Y + h}, {X: c.X - h, Y: c.Y + h}}
}

func bolt(c job.XY, r float64) []job.XY {
	var out []job.XY
	for i := range 6 {
		s, k := math.Sincos(float64(i) * math.Pi / 3)
		out = append(out, job.XY{X: c.X + quantity.Metre(r*k), Y: c.Y + quantity.Metre(r*s)})
	}
	return out
}

// SitePlan draws a job's site plan as an SVG file: walls, parking, positions,
// the cords from the chosen positions, and a bar of a round length in the country's
// unit. An empty plan has no shapes but the bar.
func SitePlan(j *job.Job, in *jurisdiction.Jurisdiction) []byte {
	d := drawPlan(j, in)
	var b strings.Builder
	for _, s := range d.Shapes {
		if s.Text != "" {
			fmt.Fprintf(&b, `<text class="%s" x="%.1f" y="%.1f">%s</text>`, s.Class, s.Points[0].X, s.Points[0].Y, escaped(s.Text))
			continue
		}
		tag := "polyline"
		if s.Closed {
			tag = "polygon"
		}
		var pts []string
		for _, q := range s.Points {
			pts = append(pts, fmt.Sprintf("%.1f,%.1f", q.X, q.Y))
		}
		fmt.Fprintf(&b, `<%s class="%s" points="%s"/>`, tag, s.Class, strings.Join(pts, " "))
	}
	return fmt.Appendf(
		nil,
		`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %.0f %.0f" width="%.0f" height="%.0f"><title>Site plan, %s</title><style>%s</style><rect width="100%%" height="100%%" fill="#fffdf9"/>%s</svg>`+"\n",
		d.Width,
		d.Height,
		d.Width,
		d.Height,
		escaped(j.Number),
		planStyle,
		b.String(),
	)
}

// drawPlan draws a job's site plan.
func drawPlan(j *job.Job, in *jurisdiction.Jurisdiction) Drawing {
	s := &j.Survey
	site := reach.On(s).While(nil)
	p := &plan{margin: 80}
	p.fit(s, site)
	for _, b := range s.SitePlan.Paths {
		p.polygon("path", reach.PathOutline(b))
		p.text("quiet", b.From, 4, b.Name)
	}
	for _, b := range s.SitePlan.Bays {
		p.polygon("bay", reach.BayOutline(b))
	}
	for _, w := range s.SitePlan.Walls {
		p.polygon("wall", reach.WallOutline(w))
	}
	for _, o := range s.SitePlan.Obstacles {
		p.polygon("obstacle", reach.ObstacleOutline(o))
		p.text("quiet", o.At, -16, o.Name)
	}
	for _, d := range s.SitePlan.Doors {
		p.line("door", d.From, d.To)
		p.text("quiet mid", middle(d.From, d.To), 10, d.Name)
	}
	for _, g := range s.SitePlan.Gas {
		if g.Kind == job.GasMeter {
			p.polygon("gas", around(g.From, 0.2))
		} else if g.To != nil {
			p.line("gas", g.From, *g.To)
		}
		p.text("quiet", g.From, 16, "gas "+string(g.Kind))
	}
	if b := s.SitePlan.Board; b != nil {
		p.polygon("board", around(*b, 0.2))
		p.text("quiet", *b, 16, "board")
	}
	if m := s.SitePlan.Meter; m != nil {
		p.polygon("obstacle", around(*m, 0.15))
		p.text("quiet", *m, 12, "meter")
	}
	for _, c := range site.Cars() {
		p.polygon("car", c.Outline)
		p.line("nose", c.Outline[1], c.Outline[2])
		p.text("mid", middle(c.Outline[0], c.Outline[2]), 0, c.Name)
	}
	p.cords(j, site)
	chosen := map[string]bool{}
	for _, pl := range s.Places {
		chosen[pl.Position] = true
	}
	for _, q := range s.SitePlan.Positions {
		class, label := "position", "mid"
		if chosen[q.ID] {
			class, label = "position chosen", "mid chosen-text"
		}
		if q.At != nil {
			p.polygon(class, bolt(*q.At, 0.22))
			p.text(label, *q.At, -6, q.ID)
		}
	}
	return p.finish(in)
}

// cords draws the cords from the chosen positions to the vehicles as they stand.
func (p *plan) cords(j *job.Job, site *reach.Ground) {
	for _, pt := range j.Points() {
		for _, c := range site.CordsOf(pt.Place.Position, pt.Circuit.Charger.CordLength) {
			class := "cord"
			if c.Blocked || c.Unjudged || c.Known && !c.Reaches {
				class += " short"
			}
			p.line(class, c.Way...)
			if n := len(c.Way); n > 0 {
				p.polygon("inlet", bolt(c.Way[n-1], 0.09))
			}
		}
	}
}

// fit finds the extent of the plan, m.
func (p *plan) fit(s *job.Survey, site *reach.Ground) {
	p.left, p.bottom, p.right, p.top = math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)
	grow := func(pts ...job.XY) {
		for _, q := range pts {
			p.left, p.right = math.Min(p.left, float64(q.X)), math.Max(p.right, float64(q.X))
			p.bottom, p.top = math.Min(p.bottom, float64(q.Y)), math.Max(p.top, float64(q.Y))
		}
	}
	for _, w := range s.SitePlan.Walls {
		grow(w.From, w.To)
	}
	for _, b := range s.SitePlan.Bays {
		grow(around(b.Centre, math.Max(float64(b.Length), float64(b.Width))/2)...)
	}
	for _, c := range site.Cars() {
		grow(c.Outline...)
	}
	for _, q := range s.SitePlan.Positions {
		if q.At != nil {
			grow(*q.At)
		}
	}
	if s.SitePlan.Board != nil {
		grow(*s.SitePlan.Board)
	}
	if math.IsInf(p.left, 1) {
		grow(job.XY{}, job.XY{X: 5, Y: 3})
	}
}

// finish adds the scale bar.
func (p *plan) finish(in *jurisdiction.Jurisdiction) Drawing {
	d := Drawing{Width: (p.right-p.left)*planScale + 2*p.margin, Height: (p.top-p.bottom)*planScale + 2*p.margin + 40}
	unit := in.Units.Length
	length := unit.Size
	label := "1 " + unit.Symbol
	if unit.Size < 0.5 { // one of it is too short to be told
		length, label = 5*unit.Size, "5 "+unit.Symbol
	}
	x := d.Width - p.margin - length*planScale
	p.shapes = append(
		p.shapes,
		Shape{Class: "scale", Points: []Pt{{x, d.Height - 22}, {x + length*planScale, d.Height - 22}}},
		Shape{Class: "mid", Points: []Pt{{x + length*planScale/2, d.Height - 30}}, Text: label},
	)
	d.Shapes = p.shapes
	return d
}
