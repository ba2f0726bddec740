package record

import (
	"slices"
	"strconv"
	"strings"

	"dogbolt/core/demand"
	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/panel"
	"dogbolt/core/quantity"
	"dogbolt/core/rulebook"
	"dogbolt/core/verdict"
)

// Package returns what whoever decides before the work is given beside a form: the sum of the demand, the
// one-line diagrams, the site plan, the board before and after, the equipment, and the workings of the
// design; one without blocks where the country has none. Findings of what was not judged yet say so.
func Package(r *Record) Document {
	b := build(r, "")
	p := &b.in.Package
	if b.doc.Title = p.Title; p.Title == "" {
		return b.doc
	}
	b.designHead(p.Notice)
	d := b.demand()
	b.worksheet(&d)
	b.equipment(p.Equipment, &d)
	for _, pt := range b.j.Points() {
		b.add(Block{Heading: "One-line diagram, point " + pt.ID, Diagram: pt.ID, Pairs: [][2]string{
			{"Position", text(pt.Place.Name)}, {"Cable", cableText(&pt.Circuit.Cable)}, {"Route", b.length(pt.Place.Length())},
		}})
	}
	b.sitePlan()
	b.board()
	b.space(&p.Space)
	for _, part := range p.Parts {
		b.workings(part)
	}
	b.add(Block{Heading: "Editions and limits", Text: b.editions()})
	return b.doc
}

// demand is the service demand by the edition's method.
func (b *builder) demand() demand.Result {
	if b.book == nil {
		return demand.Result{}
	}
	return b.book.Demand(b.j)
}

func (b *builder) designHead(notice string) {
	signed := "not signed as it stands"
	if e, ok := b.j.Latest(job.SignedOff, "", "design"); ok && b.r.Job.SignsDesign(&e) {
		signed = e.By + ", " + b.moment(e.At)
	}
	b.add(Block{Heading: "Installation", Text: nonEmpty(notice), Pairs: append(b.who(), [2]string{"Design signed", signed})})
}

// worksheet prints the sum of the demand, line by line.
func (b *builder) worksheet(d *demand.Result) {
	t := &Table{Columns: []Column{{"Load", 0.34, false}, {"Counted as", 0.36, false}, {"Connected", 0.15, true}, {"Counts", 0.15, true}}}
	in := func(v float64) string { return quantity.Say("{1} ", v) + d.Unit }
	for _, l := range d.Lines {
		t.Rows = append(t.Rows, []string{l.Name, l.Factor, in(l.Rated), in(l.Counted)})
	}
	b.add(Block{Heading: "Demand by " + d.Clause, Table: t})
	with, without, what := "Demand with charging", "Without charging", "Charging"
	if b.j.Lays() {
		with, without, what = "Demand with the sub-main", "Without the sub-main", "Drawn over the sub-main"
	}
	sum := Block{Heading: with}
	if len(d.Missing) > 0 {
		sum.Caution, sum.Text = true, []string{"Not worked out, missing: " + strings.Join(d.Missing, "; ")}
	} else {
		sum.Pairs = [][2]string{
			{without, quantity.Say("{1} A", float64(d.Without))},
			{what, quantity.Say("{1} A", float64(d.Total-d.Without))},
			{"Together", quantity.Say("{1} A", float64(d.Total))},
			{"Rating of the service", quantity.Recorded(float64(b.j.Survey.Supply.Rating), "A")},
		}
	}
	b.add(sum)
}

// equipment prints the list of equipment.
func (b *builder) equipment(cells []jurisdiction.Cell, d *demand.Result) {
	b.add(Block{Heading: "Equipment", Table: b.schedule(&b.in.Certificate, cells, rulebook.FactsOf(b.in, b.j, *d))})
}

// board prints what is on the board, space by space, and what is once the work is done.
func (b *builder) board() {
	bd := &b.j.Survey.Board
	block := Block{Heading: "Board before and after", Pairs: [][2]string{
		{"Board", text(bd.Label)}, {"Rating", quantity.Recorded(float64(bd.Rating), "A")}, {"Devices break", quantity.Recorded(bd.BreakingKA, "kA")},
	}}
	if d := &b.j.Design.Beside; d.Renews() {
		block.Pairs = append(block.Pairs, [2]string{"In its place", b.renewed(d)})
	}
	if len(bd.Slots) == 0 {
		free := "not recorded"
		if bd.WaysFree != nil {
			free = strconv.Itoa(*bd.WaysFree)
		}
		block.Pairs = append(block.Pairs, [2]string{"In all", quantity.Recorded(float64(bd.Ways), "")}, [2]string{"Free", free})
		block.Text = []string{"The survey has no map of it."}
		b.add(block)
		return
	}
	points := panel.Needed(b.j)
	w, _ := panel.WorkOf(b.j)
	for i, f := range w.Fits {
		if i == len(points) || points[i].ID == "" { // nothing new comes onto it, or nothing is surveyed yet
			break
		}
		block.Pairs = append(block.Pairs, [2]string{"Point " + points[i].ID, f.Why})
	}
	block.Table = &Table{Columns: []Column{
		{b.in.Asked.Words["space"], 0.12, false}, {"Before", 0.32, false}, {"A", 0.12, true}, {"After", 0.32, false}, {"A", 0.12, true},
	}}
	for n := 1; n <= bd.Ways; n++ {
		was, wasA := slotAt(bd, n)
		is, isA := slotAt(&w.After, n)
		if was != "" || is != "" {
			block.Table.Rows = append(block.Table.Rows, []string{strconv.Itoa(n), was, wasA, is, isA})
		}
	}
	b.add(block)
}

// space prints the working space that the country asks for in front of a board, with what the survey says of it.
func (b *builder) space(s *jurisdiction.Space) {
	if s.Clause == "" {
		return
	}
	b.add(Block{Heading: "Working space", Space: true, Pairs: [][2]string{
		{"Depth", b.length(s.Depth) + ", from the front of the enclosure"},
		{"Width", b.length(s.Width) + ", or the width of the equipment where that is more"},
		{"Height", b.length(s.Height) + ", or the height of the equipment where that is more"},
		{"By", s.Clause},
		{"Surveyed as large, nothing kept there", text(string(b.j.Board().WorkingSpace))},
	}})
}

// slotAt says what takes a space of a board, and its rating, A.
func slotAt(bd *job.Board, n int) (circuit, amps string) {
	for i := range bd.Slots {
		s := &bd.Slots[i]
		for k := range max(s.Poles, 1) {
			if s.At+k*bd.Step() != n {
				continue
			}
			if s.Rating > 0 {
				amps = quantity.Say("{}", float64(s.Rating))
			}
			return append(nonEmpty(strings.Join(nonEmpty(s.Circuit, s.Double), " and ")), "in use")[0], amps
		}
	}
	return "", ""
}

// workings prints findings with their workings; nothing where none of the rules judges anything.
func (b *builder) workings(part jurisdiction.Part) {
	t := &Table{Columns: []Column{{"What", 0.30, false}, {"Clause", 0.20, false}, {"Working", 0.50, false}}}
	for _, f := range b.r.Findings {
		if !slices.Contains(part.Rules, f.Rule) {
			continue
		}
		working := f.Working
		if f.Verdict == verdict.Open {
			working = "not judged, missing: " + f.Missing
		}
		t.Rows = append(t.Rows, []string{strings.Join(nonEmpty(f.Title, f.Point), ", "), f.Clause, working})
		t.Verdicts = append(t.Verdicts, f.Verdict)
	}
	if len(t.Rows) > 0 {
		b.add(Block{Heading: part.Title, Table: t})
	}
}
