package record

import (
	"slices"
	"strings"

	"dogbolt/core/commission"
	"dogbolt/core/inspect"
	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/rulebook"
	"dogbolt/core/verdict"
)

// Certificate returns the paper that certifies new work in the country of a job, with its schedules of
// inspections, circuits and test results; one without blocks where the country has none.
func Certificate(r *Record) Document {
	b := build(r, "")
	c := b.in.CertificateOf(b.j)
	if b.doc.Title = c.Title; c.Title == "" {
		return b.doc
	}
	b.head()
	b.overrides()
	b.variations()
	b.changes()
	facts := rulebook.FactsOf(b.in, b.j, b.demand())
	if c.Removal {
		b.add(Block{Heading: "What was done", Text: []string{c.Notice}})
		b.removed(facts)
		b.instruments()
		b.signatures()
		b.online()
		b.add(Block{Heading: "Editions and limits", Text: b.editions()})
		return b.doc
	}
	b.stated(c.Notice)
	for _, g := range c.Groups {
		block := Block{Heading: g.Title}
		for _, l := range g.Lines {
			if l.On(facts) {
				block.Pairs = append(block.Pairs, [2]string{l.Title, text(l.Text(facts))})
			}
		}
		b.add(block)
	}
	b.inspections()
	b.add(Block{Heading: "Circuit details", Table: b.schedule(c, c.Circuits, facts), Across: true})
	b.add(Block{Heading: "Test results", Table: b.schedule(c, c.Tests, facts), Across: true})
	b.removed(facts)
	b.torques()
	b.instruments()
	b.signatures()
	b.online()
	b.add(Block{Heading: "Editions and limits", Text: b.editions()})
	return b.doc
}

// stated prints the statements for the certificate: extent, limitations, departures and the rest, and
// when the next inspection is.
func (b *builder) stated(notice string) {
	block := Block{Heading: "What is certified", Text: []string{notice}}
	for _, item := range b.in.Inspect.Of(b.j) {
		if item.Words || item.Reasoned { // the others stand in the lines that take their words from them
			block.Pairs = append(block.Pairs, [2]string{item.Title, b.statement(item)})
		}
	}
	b.add(block)
}

// statement is a statement in words.
func (b *builder) statement(item *inspect.Item) string {
	e, ok := b.j.Latest(job.Inspected, "", item.ID)
	switch {
	case !ok:
		return "not recorded"
	case item.Words && e.Value == string(job.SaidSo):
		return e.Reason
	case item.ID == inspect.Next:
		if by := inspect.NextBy(e.Value, e.At.In(b.zone)); !by.IsZero() {
			return by.Format(b.date()) + " (" + strings.Join(nonEmpty(e.Value, e.Reason), "; ") + ")"
		}
	}
	return strings.Join(nonEmpty(e.Value, e.Reason), ": ")
}

// inspections prints the schedule of inspections, a table for each part.
func (b *builder) inspections() {
	var table *Table
	part := ""
	for _, item := range b.in.Inspect.Of(b.j) {
		if item.States() {
			continue
		}
		if item.Part != part {
			part = item.Part
			table = &Table{Columns: []Column{
				{Title: "Looked at", Share: 0.40}, {Title: "Clause", Share: 0.20}, {Title: "Seen", Share: 0.20}, {Title: "By, when", Share: 0.20},
			}}
			b.add(Block{Heading: b.in.Inspect.Title + ": " + part, Table: table})
		}
		seen, who := "not recorded", ""
		v := verdict.Open
		if e, ok := b.j.Latest(job.Inspected, "", item.ID); ok {
			seen, who = job.Inspection(e.Value).Said(), b.said(e)
			switch job.Inspection(e.Value) {
			case job.AsItShould:
				v = verdict.Sound
			case job.NotThere:
				v = "" // nothing to judge, and no mark
			case job.Limited:
				v = verdict.Watch
			case job.NotRight:
				v = verdict.Stop
			}
			if e.Value != string(job.AsItShould) {
				seen += ": " + e.Reason
			}
		}
		table.Rows = append(table.Rows, []string{item.Title, item.Clause, seen, who})
		table.Verdicts = append(table.Verdicts, v)
	}
}

// removed prints what was taken away and what is left, where the job did so.
func (b *builder) removed(facts *jurisdiction.Facts) {
	c := &jurisdiction.Removal
	if len(c.Rows(b.j)) == 0 {
		return
	}
	b.add(Block{Heading: "Chargers taken away", Table: b.schedule(c, c.Circuits, facts)})
	b.add(Block{Heading: "What is left of their circuits", Table: b.schedule(c, c.Tests, facts)})
}

// schedule is a table with a row for each point.
func (b *builder) schedule(of *jurisdiction.Certificate, cells []jurisdiction.Cell, facts *jurisdiction.Facts) *Table {
	t := &Table{}
	for _, c := range cells {
		t.Columns = append(t.Columns, Column{Title: c.Title, Share: c.Share})
	}
	for _, p := range of.Rows(b.j) {
		row := facts.Row(p)
		var cols []string
		for _, c := range cells {
			cols = append(cols, text(c.Text(row)))
		}
		t.Rows = append(t.Rows, cols)
	}
	return t
}

// torques prints what was tightened, terminal by terminal.
func (b *builder) torques() {
	_, terminals := b.names()
	t := &Table{Columns: []Column{
		{Title: "Terminal", Share: 0.34}, {Title: "Point", Share: 0.08}, {Title: "Tightened to", Share: 0.16, Right: true},
		{Title: "Label", Share: 0.14, Right: true}, {Title: "By, when, with what", Share: 0.28},
	}}
	for _, e := range b.j.Of(job.TorqueMade) {
		who := b.said(*e)
		if e.Second != "" {
			who += ", seen by " + e.Second
		}
		t.Rows = append(t.Rows, []string{
			terminals[e.Subject], e.Point, e.Value + " " + e.Unit, e.Target + " " + e.Unit, strings.Join(nonEmpty(who, e.Instrument), "; "),
		})
	}
	b.add(Block{Heading: "Torque log", Table: t})
}

// instruments prints what was read and tightened with, each once, with its last day of calibration.
func (b *builder) instruments() {
	var rows [][]string
	for _, e := range b.j.Of(job.ReadingMade, job.TorqueMade) {
		row := []string{e.Instrument, b.day(e.Calibrated)}
		if e.Calibrated == "" {
			row[1] = "not in the firm's register"
		}
		if e.Instrument != "" && e.Instrument != commission.Calculated && !slices.ContainsFunc(rows, func(r []string) bool { return slices.Equal(r, row) }) {
			rows = append(rows, row)
		}
	}
	columns := []Column{{Title: "Serial or inventory number", Share: 0.5}, {Title: "Calibrated until", Share: 0.5}}
	b.add(Block{Heading: "Instruments", Table: &Table{Columns: columns, Rows: rows}})
}
