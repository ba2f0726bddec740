package job

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"dogbolt/core/quantity"
)

// Varied is an entry of the log about work that departs from the design: what it
// is about is the subject, what was built is the value, why is the reason.
const Varied EntryKind = "variation"

// Variation is something of a point that may be built otherwise than designed.
type Variation struct {
	ID    string `json:"id"`
	Title string `json:"title"`
	Unit  string `json:"unit,omitempty" doc:"Unit of the value, where it is a number."`
	get   func(*Circuit, *Place) string
	set   func(*Circuit, *Place, string) error
}

// Variations lists what may be built otherwise.
var Variations = []Variation{
	{"route.length", "Length of the route", "m", func(_ *Circuit, p *Place) string { return number(float64(p.Length())) }, setLength},
	{
		"cable.size",
		"Line conductor",
		"",
		func(c *Circuit, _ *Place) string { return c.Cable.Size },
		func(c *Circuit, _ *Place, v string) error { c.Cable.Size = v; return nil },
	},
	{
		"cable.family",
		"Cable or conductors",
		"",
		func(c *Circuit, _ *Place) string { return string(c.Cable.Family) },
		func(c *Circuit, _ *Place, v string) error {
			if !slices.Contains(Families, Family(v)) {
				return fmt.Errorf("%q is not a family of cable", v)
			}
			c.Cable.Family = Family(v)
			return nil
		},
	},
	{
		"breaker.rating",
		"Breaker",
		"A",
		func(c *Circuit, _ *Place) string { return number(float64(c.Breaker.Rating)) },
		func(c *Circuit, _ *Place, v string) error {
			a, err := positive(v, 400)
			c.Breaker.Rating = quantity.Ampere(a)
			return err
		},
	},
	{
		"breaker.curve",
		"Trip type of the breaker",
		"",
		func(c *Circuit, _ *Place) string { return string(c.Breaker.Curve) },
		func(c *Circuit, _ *Place, v string) error {
			if !slices.Contains(Curves, Curve(v)) {
				return fmt.Errorf("%q is not B, C or D", v)
			}
			c.Breaker.Curve = Curve(v)
			return nil
		},
	},
	{
		"holder.height",
		"Height of the socket or holder",
		"m",
		func(_ *Circuit, p *Place) string { return number(float64(p.HolderHeight)) },
		func(_ *Circuit, p *Place, v string) error {
			h, err := positive(v, 5)
			p.HolderHeight = quantity.Metre(h)
			return err
		},
	},
	{
		"place.name",
		"Place of the point",
		"",
		func(_ *Circuit, p *Place) string { return p.Name },
		func(_ *Circuit, p *Place, v string) error { p.Name = v; return nil },
	},
}

// Families lists the families of cables and conductors.
var Families = []Family{TwinEarth, Multicore, Singles, Armoured70, Armoured90, NMB, MC, ThwnEMT, ThwnPVC}

func number(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }

func positive(s string, most float64) (float64, error) {
	v, err := strconv.ParseFloat(strings.TrimSpace(s), 64)
	if err != nil || !(v > 0 && v <= most) {
		return 0, fmt.Errorf("%q is not a number above 0, up to %g", s, most)
	}
	return v, nil
}

// setLength makes a route longer or shorter, each segment by its share: the
// conditions along it stay.
func setLength(_ *Circuit, p *Place, v string) error {
	length, err := positive(v, 1000)
	if err != nil {
		return err
	}
	was := float64(p.Length())
	if was == 0 {
		return fmt.Errorf("the route was not surveyed: survey it first")
	}
	for i := range p.Route {
		s := &p.Route[i]
		s.Length, s.Drop = s.Length*quantity.Metre(length/was), s.Drop*quantity.Metre(length/was)
		s.Insulated *= quantity.Metre(length / was)
	}
	// Walls keep their thickness; what is lacking goes onto the longest segment.
	longest := 0
	for i := range p.Route {
		if p.Route[i].Length > p.Route[longest].Length {
			longest = i
		}
	}
	p.Route[longest].Length += quantity.Metre(length) - p.Length()
	return nil
}

// FindVariation returns what may be varied by its id.
func FindVariation(id string) (Variation, bool) {
	i := slices.IndexFunc(Variations, func(v Variation) bool { return v.ID == id })
	if i < 0 {
		return Variation{}, false
	}
	return Variations[i], true
}

// Value returns what a point has of a variation's subject.
func (v Variation) Value(p Point) string { return v.get(&p.Circuit, &p.Place) }

// Built returns the job as it was built: the design with the variations of the
// log in it, by the newest entry about each. Where there is none it is the job
// itself. A value that cannot be is left as designed; the log refuses such.
func (j *Job) Built() *Job {
	if !j.Has(Varied) {
		return j
	}
	b := *j
	b.Survey.Places = slices.Clone(j.Survey.Places)
	for i := range b.Survey.Places {
		b.Survey.Places[i].Route = slices.Clone(b.Survey.Places[i].Route)
	}
	b.Design.Circuits = slices.Clone(j.Design.Circuits)
	for i := range b.Survey.Places {
		p := &b.Survey.Places[i]
		for k := range b.Design.Circuits {
			c := &b.Design.Circuits[k]
			if c.Point != p.Point {
				continue
			}
			for _, v := range Variations {
				if e, ok := j.Latest(Varied, p.Point, v.ID); ok {
					// Tried when the entry came.
					_ = v.set(c, p, e.Value)
				}
			}
		}
	}
	return &b
}

// TryVariation reports why a variation cannot be, or nil.
func (j *Job) TryVariation(e Entry) error {
	v, ok := FindVariation(e.Subject)
	if !ok {
		return fmt.Errorf("%q is not something that is varied", e.Subject)
	}
	p, ok := j.Point(e.Point)
	if !ok {
		return fmt.Errorf("%q is not a point of this job", e.Point)
	}
	p.Place.Route = slices.Clone(p.Place.Route)
	if strings.TrimSpace(e.Value) == "" {
		return fmt.Errorf("what was built is missing")
	}
	if err := v.set(&p.Circuit, &p.Place, strings.TrimSpace(e.Value)); err != nil {
		return fmt.Errorf("%s: %w", strings.ToLower(v.Title), err)
	}
	return nil
}
