package record

import (
	"cmp"
	"strings"

	"dogbolt/core/job"
)

// Permissions, notices and inspections, and what inspectors wanted put right.

// permissions prints the permissions, notices and inspections of the job, with every answer that came back.
func (b *builder) permissions() {
	t := &Table{Columns: []Column{{"Paper", 0.30, false}, {"Who", 0.20, false}, {"Sent", 0.12, false}, {"Answers", 0.38, false}}}
	for _, p := range b.j.PapersNow() {
		var answers []string
		for _, r := range p.Replies {
			answers = append(answers, strings.Join(nonEmpty(b.day(r.On)+" "+r.Outcome.Said(), r.Reference, strings.Join(r.Reasons, "; ")), ", "))
		}
		switch {
		case p.Needed == job.No:
			answers = append(answers, "not needed: "+p.Reason)
		case p.Granted != "":
			answers = append(answers, strings.Join(nonEmpty("answered or passed "+b.day(p.Granted), p.Reference), ", "))
		case p.Noticed != "":
			answers = append(answers, "acknowledged "+b.day(p.Noticed))
		case len(answers) == 0:
			answers = append(answers, "none yet")
		}
		t.Rows = append(t.Rows, []string{p.Title, p.Who, b.day(p.Sent), strings.Join(answers, ". ")})
	}
	if len(t.Rows) > 0 {
		b.add(Block{Heading: "Permissions, notices and inspections", Table: t})
	}
	b.corrections()
}

// corrections prints what inspectors wanted put right, and when it was.
func (b *builder) corrections() {
	t := &Table{Columns: []Column{{"Inspection", 0.18, false}, {"To be put right", 0.40, false}, {"Put right", 0.42, false}}}
	for _, c := range b.j.Corrections("") {
		paper, _ := b.j.PaperNow(c.Asked.Subject)
		done := "not yet"
		if c.Done != nil {
			done = c.Done.Reason + ", " + c.Done.By + ", " + b.moment(c.Done.At)
		}
		t.Rows = append(t.Rows, []string{
			cmp.Or(paper.Title, c.Asked.Subject) + ", " + b.day(c.Asked.Day),
			strings.Join(nonEmpty(b.looked(c.Asked.Value), c.Asked.Reason+" (noted by "+c.Asked.By+")"), ": "), done,
		})
	}
	if len(t.Rows) > 0 {
		b.add(Block{Heading: "Asked by inspectors", Table: t})
	}
}

// looked is the title of an item of the schedule of inspections; "" where it is none.
func (b *builder) looked(id string) string {
	if item := b.in.Inspect.Find(id); item != nil {
		return item.Title
	}
	return ""
}
