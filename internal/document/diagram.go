// Package document prints core values: PDF papers and SVG drawings.
package document

import (
	"fmt"
	"slices"
	"strings"

	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/quantity"
	"dogbolt/core/sizing"
)

// Drawing is a list of shapes in a box of Width × Height units, which the SVG
// and the PDF writer both draw.
type Drawing struct {
	Width, Height float64
	Title         string
	Shapes        []Shape
	Parts         []Element
}

// Element is an element of a drawing that leads to what it is drawn from.
type Element struct {
	ID     string   `json:"id"`
	Title  string   `json:"title" doc:"What it is, in words."`
	X      float64  `json:"x" doc:"Its frame, in the drawing's units."`
	Y      float64  `json:"y"`
	Width  float64  `json:"width"`
	Height float64  `json:"height"`
	Field  string   `json:"field" doc:"The field that it leads to."`
	Fields []string `json:"fields" doc:"Beginnings of the fields that it is drawn from."`
}

// Shape is a line through points, closed or not, or a text at a point.
type Shape struct {
	Points []Pt
	Closed bool
	Filled bool
	Class  string // "line", "supply", "earth", "text", "quiet"
	Text   string
}

// Pt is a point of a drawing.
type Pt struct{ X, Y float64 }

func (d *Drawing) line(class string, pts ...Pt) {
	d.Shapes = append(d.Shapes, Shape{Points: pts, Class: class})
}

func (d *Drawing) box(class string, x, y, w, h float64) {
	d.Shapes = append(d.Shapes, Shape{Points: []Pt{{x, y}, {x + w, y}, {x + w, y + h}, {x, y + h}}, Closed: true, Class: class})
}

func (d *Drawing) text(class string, x, y float64, s string) {
	if s != "" {
		d.Shapes = append(d.Shapes, Shape{Points: []Pt{{x, y}}, Class: class, Text: s})
	}
}

// OneLine draws the one-line diagram of a point's circuit in a country's words: supply, service
// device, board, breaker, cable and charger, each labelled with its data.
func OneLine(j *job.Job, p job.Point, in *jurisdiction.Jurisdiction) Drawing {
	d := Drawing{Width: 270, Height: 330, Title: "One-line diagram, point " + p.ID}
	s, c := j.Survey.Supply, p.Circuit
	x := 44.0
	d.line("line", Pt{x, 14}, Pt{x, 46})
	d.text("quiet", x+18, 26, supplyText(&s, in))
	d.box("line", x-8, 46, 16, 24)
	d.line("line", Pt{x, 46}, Pt{x, 70})
	d.text("text", x+18, 62, known(float64(s.Rating), "A ")+in.Drawn.Service)
	d.line("line", Pt{x, 70}, Pt{x, 104})
	bx := 116.0
	if b := &j.Design.Beside; b.Small() { // on its own tails, from before the board that was found
		d.line("line", Pt{16, 104}, Pt{72, 104})
		d.line("line", Pt{x, 84}, Pt{bx, 84}, Pt{bx, 104})
		d.text("quiet", bx+18, 88, "tails of "+known(float64(b.Tails), "mm²"))
		d.line("line", Pt{88, 104}, Pt{170, 104})
		d.text("text", 178, 108, "small board")
	} else {
		d.line("line", Pt{16, 104}, Pt{170, 104})
		d.text("text", 178, 108, j.Design.Beside.Name("board", "board"))
	}
	if c.Kind() == job.Removal {
		d.left(bx, &p, in)
		return d
	}
	residualFate := ""
	if c.RCD.Fitted == job.Yes {
		residualFate = becomes(&c, c.Fates().RCD)
	}
	d.line("line", Pt{bx, 104}, Pt{bx, 128})
	d.box("line", bx-9, 128, 18, 28)
	d.line("line", Pt{bx, 128}, Pt{bx, 156})
	d.text("text", bx+18, 138, string(c.Breaker.Curve)+known(float64(c.Breaker.Rating), "A breaker")+becomes(&c, c.Fates().Breaker))
	d.text("quiet", bx+18, 153, residualText(&c)+residualFate)
	d.line("supply", Pt{bx, 156}, Pt{bx, 252})
	d.line("earth", Pt{bx + 7, 156}, Pt{bx + 7, 252})
	if p.Joined() {
		d.text("text", bx+18, 178, cableText(c.Cable)+becomes(&c, c.Fates().Cable))
		d.box("line", bx-8, 190, 20, 20)
		d.text("quiet", bx+18, 204, "joint box")
		d.text("text", bx+18, 230, cableText(c.Beyond.Cable)+becomes(&c, c.Beyond.Cable.Fate))
		d.text("quiet", bx+18, 245, routeText(p.Place, in)+" in all")
	} else {
		d.text("text", bx+18, 196, cableText(c.Cable))
		d.text("quiet", bx+18, 211, routeText(p.Place, in)+becomes(&c, c.Fates().Cable))
	}
	if c.EndsInBoard() {
		d.line("line", Pt{bx - 32, 256}, Pt{bx + 40, 256})
		d.line("line", Pt{bx, 252}, Pt{bx, 256})
		d.text("text", bx-32, 272, p.Place.Name)
		d.text("quiet", bx-32, 287, endText(&c))
		d.text("quiet", bx-32, 302, known(float64(c.Setting), "A drawn over it at most"))
		d.Parts = oneLineParts(j, &p, in)
		return d
	}
	d.Shapes = append(
		d.Shapes,
		Shape{Closed: true, Class: "line", Points: []Pt{{bx - 20, 272}, {bx - 10, 252}, {bx + 12, 252}, {bx + 22, 272}, {bx + 12, 292}, {bx - 10, 292}}},
	)
	d.text("text", bx+30, 266, "point "+p.ID+", "+known(float64(c.Setting), "A set"))
	d.text("quiet", bx+30, 281, chargerText(&c))
	d.text("quiet", bx+30, 296, penText(c.Earthing.OpenPEN))
	if c.Kept() {
		d.text("quiet", bx+30, 311, "charger "+string(c.Fates().Charger))
	}
	d.Parts = oneLineParts(j, &p, in)
	return d
}

// becomes is what becomes of a thing of a circuit that was there, behind its own words; of a new circuit nothing is said.
func becomes(c *job.Circuit, f job.Fate) string {
	if !c.Kept() || f == "" {
		return ""
	}
	return ", " + string(f)
}

// left draws what is left of a circuit whose charger is taken away: what is out has no line.
func (d *Drawing) left(x float64, p *job.Point, in *jurisdiction.Jurisdiction) {
	c := &p.Circuit
	f := c.Fates()
	switch f.Breaker {
	case job.FateTakenOut:
		d.text("text", x+18, 138, "breaker taken out")
	default:
		d.line("line", Pt{x, 104}, Pt{x, 128})
		d.box("line", x-9, 128, 18, 28)
		d.line("line", Pt{x - 9, 156}, Pt{x + 9, 128}) // held off
		d.text("text", x+18, 138, "breaker held off")
	}
	if f.Cable == job.FateTakenOut {
		d.text("text", x+18, 196, "cable taken out")
		return
	}
	d.line("supply", Pt{x, 156}, Pt{x, 252})
	d.line("earth", Pt{x + 7, 156}, Pt{x + 7, 252})
	d.text("text", x+18, 196, "cable stays")
	d.text("quiet", x+18, 211, routeText(p.Place, in))
	d.box("line", x-10, 252, 24, 24)
	d.text("text", x+30, 266, "closed off, point "+p.ID)
}

// oneLineParts are the elements of the one-line diagram, each a row of the drawing.
func oneLineParts(j *job.Job, p *job.Point, in *jurisdiction.Jurisdiction) []Element {
	c := &p.Circuit
	place := slices.IndexFunc(j.Survey.Places, func(o job.Place) bool { return o.Point == p.ID })
	of := fmt.Sprintf("design.circuits.%d.", place) // as findings name the fields of a point
	row := func(id, name, says, field string, y, height float64, fields ...string) Element {
		if says != "" {
			name += ": " + says
		}
		return Element{ID: id, Title: name, X: 4, Y: y, Width: 262, Height: height, Field: field, Fields: fields}
	}
	s := &j.Survey.Supply
	unit := strings.Trim(chargerText(c)+", "+penText(c.Earthing.OpenPEN), ", ")
	last := []Element{
		row("setting", "point "+p.ID, known(float64(c.Setting), "A set"), of+"setting", 250, 20, of+"setting"),
		row("charger", "charger", unit, of+"charger.type", 270, 40, of+"charger", of+"earthing"),
	}
	if c.EndsInBoard() {
		last = []Element{row("end", "board at the end", endText(c), of+"end.ways", 250, 48, of+"end", of+"setting", of+"charger")}
	}
	return append([]Element{
		row("supply", "supply", supplyText(s, in), "survey.supply.system", 10, 32,
			"survey.supply.system", "survey.supply.declaredZe", "survey.bonding"),
		row("service", "service", known(float64(s.Rating), "A ")+in.Drawn.Service, "survey.supply.rating", 44, 36,
			"survey.supply.rating", "survey.supply.condition"),
		row("board", "board", "", "survey.board.rating", 90, 28, "survey.board", "design.beside"),
		row("breaker", "breaker", string(c.Breaker.Curve)+known(float64(c.Breaker.Rating), "A"), of+"breaker.rating", 124, 20, of+"breaker"),
		row("residual", "protection", residualText(c), of+"rcd.type", 144, 20, of+"rcd", of+"receptacle", of+"connection"),
		row("cable", "cable", cableText(c.Cable), of+"cable.size", 166, 78, of+"cable", of+"beyond", fmt.Sprintf("survey.places.%d.route", place)),
	}, last...)
}

// endText is the board at the end of a sub-main.
func endText(c *job.Circuit) string {
	return known(float64(c.End.Ways), "ways, ") + known(float64(c.End.Rating), "A")
}

func known(v float64, unit string) string {
	if v == 0 {
		return "? " + unit
	}
	return quantity.Say("{} ", v) + unit
}

func supplyText(s *job.Supply, in *jurisdiction.Jurisdiction) string {
	if s.System == "" {
		return "supply not surveyed"
	}
	return in.Drawn.Supply(s)
}

func residualText(c *job.Circuit) string {
	switch {
	case c.RCD.Fitted == job.Yes:
		return known(c.RCD.TripMA, "mA type ") + string(c.RCD.Type)
	case c.Connection == job.PluggedIn:
		return known(float64(c.Receptacle.Rating), "A receptacle")
	}
	switch {
	case !c.EndsInBoard():
		return string(c.Connection)
	case c.RCD.Fitted == job.No:
		return "no residual device"
	}
	return ""
}

func cableText(c job.Cable) string {
	if c.Size == "" {
		return "cable not chosen"
	}
	name, _, _ := strings.Cut(sizing.FamilyName(c.Family), ",")
	return c.Size + " " + name
}

func routeText(p job.Place, in *jurisdiction.Jurisdiction) string {
	if l := p.Length(); l > 0 {
		return in.Units.Length.Say(float64(l))
	}
	return "route not surveyed"
}

func chargerText(c *job.Circuit) string {
	if c.Charger.DCDetection == job.Yes {
		return "6 mA d.c. detection"
	}
	return string(c.Charger.Outlet)
}

func penText(way job.OpenPEN) string {
	switch way {
	case job.PENTouch, job.PENVoltage, job.PENOther:
		return "open-PEN device"
	case job.PENTT:
		return "TT point"
	}
	return ""
}

// SVG writes the drawing as an SVG that takes its colours from the page.
func (d Drawing) SVG() string {
	var b strings.Builder
	fmt.Fprintf(
		&b,
		`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %g %g" role="img" class="drawing"><title>%s</title>`,
		d.Width,
		d.Height,
		escaped(d.Title),
	)
	for _, s := range d.Shapes {
		if s.Text != "" {
			fmt.Fprintf(&b, `<text class="%s" x="%g" y="%g">%s</text>`, s.Class, s.Points[0].X, s.Points[0].Y, escaped(s.Text))
			continue
		}
		var pts []string
		for _, p := range s.Points {
			pts = append(pts, fmt.Sprintf("%g,%g", p.X, p.Y))
		}
		tag := "polyline"
		if s.Closed {
			tag = "polygon"
		}
		fill := ` fill="none"`
		if s.Filled {
			fill = ""
		}
		fmt.Fprintf(&b, `<%s class="%s"%s points="%s"/>`, tag, s.Class, fill, strings.Join(pts, " "))
	}
	b.WriteString("</svg>")
	return b.String()
}
