package reach

import (
	"fmt"
	"slices"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// Usual measures where the survey has none. Common practice, no source.
const (
	UsualLength = 4.5  // of a vehicle, m
	UsualWidth  = 1.9  // of a vehicle, m
	UsualInlet  = 0.8  // height of an inlet, m
	UsualHolder = 1.1  // height of a holder, m
	usualWall   = 0.1  // thickness of a wall, m
	Slack       = 0.5  // of a cord that is not pulled tight, m
	doorway     = 0.6  // before and behind a door that must stay free, m
	flank       = 0.8  // from the bumper to an inlet on the side, m
	nearCorner  = 0.35 // of the width, from the middle to an inlet on the front
)

// Limits are the clearances of a rulebook; 0 where it has none.
type Limits struct {
	GasPipe, GasMeter     quantity.Metre // least distance
	Low, High, LowOutside quantity.Metre // of the holder above ground; LowOutside where it differs outdoors
	Clause, GasClause     string
}

// Car is a vehicle as it stands on the plan.
type Car struct {
	Vehicle  int          `json:"vehicle" doc:"Its place in the survey's list."`
	Name     string       `json:"name"`
	Attitude job.Attitude `json:"attitude"`
	Outline  []job.XY     `json:"outline"`
	Nose     job.XY       `json:"nose" doc:"Middle of its front."`
	Inlet    *job.XY      `json:"inlet,omitempty"`
	inlet    Pt
	outline  Polygon
}

// Cord is the cord from a position to a vehicle.
type Cord struct {
	Position string         `json:"position"`
	Vehicle  int            `json:"vehicle"`
	Attitude job.Attitude   `json:"attitude"`
	Usual    bool           `json:"usual" doc:"The vehicle is usually parked so."`
	Blocked  bool           `json:"blocked" doc:"There is no way over the ground."`
	Unjudged bool           `json:"unjudged,omitempty" doc:"The plan has too much on it: the way was not found within the bound."`
	Way      []job.XY       `json:"way,omitempty" doc:"Over the ground, from the position to the inlet."`
	Ground   quantity.Metre `json:"ground" doc:"Length of the way over the ground."`
	Needed   quantity.Metre `json:"needed" doc:"Ground, drop from the holder, rise to the inlet, and slack."`
	Working  string         `json:"working"`
	Known    bool           `json:"known" doc:"The length of the cord is known, so that it can be judged."`
	Reaches  bool           `json:"reaches"`
	Margin   quantity.Metre `json:"margin" doc:"Cord less what is needed."`
	Crosses  []string       `json:"crosses,omitempty" doc:"Doors and paths that it lies across."`
}

// Ground is the plan ready for questions.
type Ground struct {
	survey   *job.Survey
	fixed    []Polygon // walls and obstacles
	cars     []Car     // as usually parked
	patience patience
}

// How many times it is asked whether two points of a plan see each other, before it is left
// unjudged: three times what a plan with 40 walls, 20 obstacles and 12 vehicles takes, for one
// position when a job is judged, for the comparison of all on the page (measured).
const (
	mostOfPosition = 75_000
	mostOfPlan     = 2_000_000
)

// While lets the ground be worked on for the comparison of all positions, and only while
// somebody waits for it.
func (s *Ground) While(gone func() bool) *Ground {
	s.patience = patience{mostOfPlan, gone}
	return s
}

func pt(p job.XY) Pt { return Pt{float64(p.X), float64(p.Y)} }
func xy(p Pt) job.XY {
	return job.XY{X: quantity.Metre(quantity.Round(p.X, 4)), Y: quantity.Metre(quantity.Round(p.Y, 4))}
}

// On prepares the plan of a survey.
func On(s *job.Survey) *Ground {
	site := &Ground{
		survey:   s,
		patience: patience{left: mostOfPosition},
		fixed:    make([]Polygon, 0, len(s.SitePlan.Walls)+len(s.SitePlan.Obstacles)),
		cars:     make([]Car, 0, len(s.Vehicles)),
	}
	for _, w := range s.SitePlan.Walls {
		site.fixed = append(site.fixed, wall(w))
	}
	for _, o := range s.SitePlan.Obstacles {
		site.fixed = append(site.fixed, obstacle(o))
	}
	for i := range s.Vehicles {
		attitude := s.Vehicles[i].Attitude
		if attitude == "" {
			attitude = job.NoseIn
		}
		if c, ok := site.park(i, attitude); ok {
			site.cars = append(site.cars, c)
		}
	}
	return site
}

// wall ends square, half its thickness beyond its centre line, so that two
// walls that meet at a corner close it.
func wall(w job.Wall) Polygon {
	thick := float64(w.Thick)
	if thick == 0 {
		thick = usualWall
	}
	return strip(pt(w.From), pt(w.To), thick, thick/2)
}

// Outline returns the corners of a polygon as the survey writes them.
func (g Polygon) Outline() []job.XY {
	out := make([]job.XY, len(g))
	for i, p := range g {
		out[i] = xy(p)
	}
	return out
}

// WallOutline returns a wall with its square ends, as a cord goes round it.
func WallOutline(w job.Wall) []job.XY { return wall(w).Outline() }

// ObstacleOutline returns an obstacle's corners.
func ObstacleOutline(o job.Obstacle) []job.XY { return obstacle(o).Outline() }

// BayOutline returns a bay's corners.
func BayOutline(b job.Bay) []job.XY { return bayOutline(b).Outline() }

// PathOutline returns a path's corners.
func PathOutline(b job.Walkway) []job.XY { return path(b).Outline() }

func path(b job.Walkway) Polygon { return strip(pt(b.From), pt(b.To), float64(b.Width), 0) }

func obstacle(o job.Obstacle) Polygon {
	a := pt(o.At)
	w, h := float64(o.Width), float64(o.Height)
	return Polygon{a, a.add(Pt{w, 0}), a.add(Pt{w, h}), a.add(Pt{0, h})}
}

func bayOutline(b job.Bay) Polygon {
	return box(pt(b.Centre), unit(b.Heading), float64(b.Length), float64(b.Width))
}

func or(v quantity.Metre, usual float64) float64 {
	if v > 0 {
		return float64(v)
	}
	return usual
}

// park puts a vehicle into its bay, in the middle of it.
func (s *Ground) park(i int, attitude job.Attitude) (Car, bool) {
	v := s.survey.Vehicles[i]
	k := slices.IndexFunc(s.survey.SitePlan.Bays, func(b job.Bay) bool { return b.ID == s.survey.BayOf(i) })
	if k < 0 {
		return Car{}, false
	}
	bay := s.survey.SitePlan.Bays[k]
	ahead := unit(bay.Heading)
	if attitude == job.TailIn {
		ahead = ahead.scale(-1)
	}
	length, width := or(v.Length, UsualLength), or(v.Width, UsualWidth)
	c := Car{Vehicle: i, Name: v.Name, Attitude: attitude, outline: box(pt(bay.Centre), ahead, length, width)}
	c.Outline = c.outline.Outline()
	c.Nose = xy(pt(bay.Centre).add(ahead.scale(length / 2)))
	if x, y, ok := inlet(v.Inlet, length, width); ok {
		left := Pt{-ahead.Y, ahead.X}
		c.inlet = pt(bay.Centre).add(ahead.scale(x)).add(left.scale(y))
		in := xy(c.inlet)
		c.Inlet = &in
	}
	return c, true
}

// inlet returns where an inlet is, ahead of the middle of the vehicle and to
// its left, m. Common practice, no source.
func inlet(corner job.Inlet, length, width float64) (ahead, left float64, ok bool) {
	switch corner {
	case "front-left":
		return length / 2, nearCorner * width, true
	case "front-centre":
		return length / 2, 0, true
	case "front-right":
		return length / 2, -nearCorner * width, true
	case "left-front":
		return length/2 - flank, width / 2, true
	case "right-front":
		return length/2 - flank, -width / 2, true
	case "rear-left":
		return flank - length/2, width / 2, true
	case "rear-right":
		return flank - length/2, -width / 2, true
	case "rear-centre":
		return -length / 2, 0, true
	}
	return 0, 0, false
}

// solids lists what a cord to a vehicle has to go round: walls, obstacles, the
// vehicle itself, and others in other bays.
func (s *Ground) solids(c Car) []Polygon {
	out := append(append(make([]Polygon, 0, len(s.fixed)+len(s.cars)+1), s.fixed...), c.outline)
	for _, other := range s.cars {
		if other.Vehicle != c.Vehicle && s.survey.BayOf(other.Vehicle) != s.survey.BayOf(c.Vehicle) {
			out = append(out, other.outline)
		}
	}
	return out
}

// Cars lists the vehicles as they usually stand.
func (s *Ground) Cars() []Car { return s.cars }

// Cords works out the cord from every position to every vehicle, parked either
// way, for a cord of the length (0 where it is not known yet).
func (s *Ground) Cords(length quantity.Metre) []Cord {
	var out []Cord
	for _, p := range s.survey.SitePlan.Positions {
		if p.At == nil {
			out = append(out, s.measured(p, length)...)
			continue
		}
		for i, v := range s.survey.Vehicles {
			for _, attitude := range []job.Attitude{job.NoseIn, job.TailIn} {
				if car, ok := s.park(i, attitude); ok && car.Inlet != nil {
					cord := s.cord(p, car, length)
					cord.Usual = v.Attitude == attitude
					out = append(out, cord)
				}
			}
		}
	}
	return out
}

// CordsOf works out the cord from one position to every vehicle as it is usually
// parked.
func (s *Ground) CordsOf(position string, length quantity.Metre) []Cord {
	var out []Cord
	for _, p := range s.survey.SitePlan.Positions {
		if p.ID != position {
			continue
		}
		if p.At == nil {
			return s.measured(p, length)
		}
		for _, car := range s.cars {
			if car.Inlet != nil {
				cord := s.cord(p, car, length)
				cord.Usual = true
				out = append(out, cord)
			}
		}
	}
	return out
}

// measured is the cord from a position that is not drawn to every vehicle as it is usually parked,
// by the way that was measured to the farthest inlet; none where it was not.
func (s *Ground) measured(p job.Position, length quantity.Metre) []Cord {
	if p.Cord <= 0 {
		return nil
	}
	var out []Cord
	for i, v := range s.survey.Vehicles {
		c := Cord{Position: p.ID, Vehicle: i, Attitude: v.Attitude, Usual: true, Known: length > 0}
		c.need(float64(p.Cord), p, v, length)
		out = append(out, c)
	}
	return out
}

func (s *Ground) cord(p job.Position, car Car, length quantity.Metre) Cord {
	c := Cord{Position: p.ID, Vehicle: car.Vehicle, Attitude: car.Attitude, Known: length > 0}
	way, ground, ok := shortest(&s.patience, s.solids(car), pt(*p.At), car.inlet)
	if s.patience.lost() {
		c.Unjudged = true
		return c
	}
	if !ok {
		c.Blocked = true
		return c
	}
	c.Way = Polygon(way).Outline()
	c.need(ground, p, s.survey.Vehicles[car.Vehicle], length)
	for i := 1; i < len(way); i++ {
		for _, d := range s.survey.SitePlan.Doors {
			c.cross(strip(pt(d.From), pt(d.To), 2*doorway, 0), way[i-1], way[i], orName(d.Name, "a door"))
		}
		for _, b := range s.survey.SitePlan.Paths {
			c.cross(path(b), way[i-1], way[i], orName(b.Name, "a path"))
		}
	}
	return c
}

// need works out the cord that a way over the ground takes, and whether one of the length reaches.
func (c *Cord) need(ground float64, p job.Position, v job.Vehicle, length quantity.Metre) {
	drop, rise := or(p.Height, UsualHolder), or(v.InletHeight, UsualInlet)
	c.Ground, c.Needed = quantity.Metre(ground), quantity.Metre(ground+drop+rise+Slack)
	c.Working = quantity.Say("{2} m over the ground + {2} m drop + {2} m rise + {2} m slack = {2} m", ground, drop, rise, Slack, float64(c.Needed))
	if c.Known {
		c.Margin = length - c.Needed
		c.Reaches = c.Margin >= -tiny
	}
}

func orName(name, other string) string {
	if name != "" {
		return name
	}
	return other
}

func (c *Cord) cross(g Polygon, a, b Pt, what string) {
	if g.crosses(a, b) && !slices.Contains(c.Crosses, what) {
		c.Crosses = append(c.Crosses, what)
	}
}

// Reach returns the ground that the cord of a length reaches from a position,
// what hangs and rises taken off; nil where it does not touch the ground's far
// side, or was not found within the bound. All vehicles stand as usual.
func (s *Ground) Reach(position string, length quantity.Metre) [][]job.XY {
	k := slices.IndexFunc(s.survey.SitePlan.Positions, func(p job.Position) bool { return p.ID == position })
	if k < 0 || s.survey.SitePlan.Positions[k].At == nil {
		return nil
	}
	p := s.survey.SitePlan.Positions[k]
	solids := slices.Clone(s.fixed)
	for _, c := range s.cars {
		solids = append(solids, c.outline)
	}
	var out [][]job.XY
	for _, g := range area(&s.patience, solids, pt(*p.At), float64(length)-or(p.Height, UsualHolder)-UsualInlet-Slack) {
		out = append(out, g.Outline())
	}
	return out
}

// Problems lists what of the plan cannot be, by field.
func Problems(s *job.Survey) []job.FieldError {
	const f = "survey.sitePlan"
	var out []job.FieldError
	fail := func(field, format string, args ...any) {
		out = append(out, job.FieldError{Field: field, Message: fmt.Sprintf(format, args...)})
	}
	plan := &s.SitePlan
	for i, p := range plan.Positions {
		if p.At == nil {
			continue
		}
		field := fmt.Sprintf("%s.positions[%d].at", f, i)
		for k, w := range plan.Walls {
			if g := wall(w); g.inside(pt(*p.At)) {
				fail(field, "position %s is inside wall %d, %.2f m from its face: put it on the face", p.ID, k+1, g.depth(pt(*p.At)))
			}
		}
		for k, o := range plan.Obstacles {
			if obstacle(o).inside(pt(*p.At)) {
				fail(field, "position %s is inside %s", p.ID, orName(o.Name, fmt.Sprintf("obstacle %d", k+1)))
			}
		}
	}
	for i, b := range plan.Bays {
		field := fmt.Sprintf("%s.bays[%d].centre", f, i)
		for k := range i {
			if bayOutline(b).overlaps(bayOutline(plan.Bays[k])) {
				fail(field, "bay %s overlaps bay %s", b.ID, plan.Bays[k].ID)
			}
		}
		for k, w := range plan.Walls {
			if bayOutline(b).overlaps(wall(w)) {
				fail(field, "bay %s overlaps wall %d", b.ID, k+1)
			}
		}
	}
	for i, v := range s.Vehicles {
		for _, b := range plan.Bays {
			if b.ID == s.BayOf(i) && or(v.Width, UsualWidth) > float64(b.Width) {
				fail(fmt.Sprintf("survey.vehicles[%d].bay", i), "is wider than bay %s: %.2f m in %.2f m", b.ID, or(v.Width, UsualWidth), float64(b.Width))
			}
		}
	}
	return out
}

// Clearance is one distance of a position that a rule holds to.
type Clearance struct {
	What   string         `json:"what"`
	Value  quantity.Metre `json:"value"`
	Least  quantity.Metre `json:"least"`
	Most   quantity.Metre `json:"most,omitempty"`
	Clause string         `json:"clause"`
	Meets  bool           `json:"meets"`
}

// Clearances judges a position: gas pipes and meters in plan, and the holder's
// height. A height of 0 is not known and not judged.
func Clearances(plan *job.SitePlan, p job.Position, l Limits) []Clearance {
	var out []Clearance
	for _, g := range plan.Gas {
		if p.At == nil {
			break // how near it is, the plan does not say
		}
		least, what, d := l.GasPipe, "gas pipe", pt(*p.At).distance(pt(g.From))
		if g.Kind == job.GasMeter {
			least, what = l.GasMeter, "gas meter"
		} else if g.To != nil {
			d = toLine(pt(*p.At), pt(g.From), pt(*g.To))
		}
		if least > 0 {
			out = append(out, Clearance{What: what, Value: quantity.Metre(d), Least: least, Clause: l.GasClause, Meets: d >= float64(least)-tiny})
		}
	}
	if p.Height > 0 && l.Low > 0 {
		low := l.Low
		if p.Cover != job.Indoors && l.LowOutside > 0 {
			low = l.LowOutside
		}
		c := Clearance{What: "height of the holder", Value: p.Height, Least: low, Most: l.High, Clause: l.Clause}
		c.Meets = p.Height >= low-tiny && (l.High == 0 || p.Height <= l.High+tiny)
		out = append(out, c)
	}
	return out
}

// toLine returns the distance of a point from a line between two others.
func toLine(p, a, b Pt) float64 {
	d := b.sub(a)
	if l := d.dot(d); l > 0 {
		return p.distance(along(a, b, max(0, min(1, p.sub(a).dot(d)/l))))
	}
	return p.distance(a)
}

// Straight returns the distance between the board and a position on the plan,
// m, and whether both are drawn. No route can be shorter.
func Straight(plan *job.SitePlan, position string) (quantity.Metre, bool) {
	for _, p := range plan.Positions {
		if p.ID == position && p.At != nil && plan.Board != nil {
			return quantity.Metre(pt(*p.At).distance(pt(*plan.Board))), true
		}
	}
	return 0, false
}
