package record

import (
	"fmt"
	"slices"
	"strings"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/rulebook"
)

// IssueChange is one line of what differs between an issue and the one that it replaces.
type IssueChange struct {
	What string     `json:"what"`
	Was  string     `json:"was,omitempty" doc:"Left out where it was not there."`
	Now  string     `json:"now,omitempty" doc:"Left out where it is not there any more."`
	Kind ChangeKind `json:"kind"`
}

// ChangeKind is what a change is about.
type ChangeKind string

// What changes are about.
const (
	OfJob       ChangeKind = "job"       // a field of the document, or of the firm's data
	OfLog       ChangeKind = "log"       // an entry that was added
	OfSignature ChangeKind = "signature" // an entry by which somebody signs, or what became of a paper
	OfFinding   ChangeKind = "finding"
)

// Values lists what changes are about.
func (ChangeKind) Values() []string {
	return []string{string(OfJob), string(OfLog), string(OfSignature), string(OfFinding)}
}

// Changes lists what differs between an issue and a later one: fields of the document, what was
// logged since, findings.
func Changes(was, now *Record) ([]IssueChange, error) {
	var out []IssueChange
	fields, err := job.Differ(&was.Job, &now.Job)
	if err != nil {
		return nil, fmt.Errorf("compare issue %d with issue %d: %w", was.Issue, now.Issue, err)
	}
	for _, f := range fields {
		out = append(out, IssueChange{f.Title, f.Was, f.Now, OfJob})
	}
	for _, f := range []struct{ what, was, now string }{
		{"Judged by", was.Edition, now.Edition}, {"Contractor", was.Contractor.said(), now.Contractor.said()},
	} {
		if f.was != f.now {
			out = append(out, IssueChange{f.what, f.was, f.now, OfJob})
		}
	}
	b := build(now, "")
	steps, terminals := b.names()
	for _, e := range now.Job.Log {
		if was.Job.Place(e.ID) >= 0 {
			continue
		}
		kind := OfLog
		if e.Kind == job.SignedOff || e.Kind == job.PaperMoved || e.Kind == job.Withdrawn || e.Kind == job.HandedOver {
			kind = OfSignature
		}
		value := ""
		switch {
		case e.Kind == job.CorrectionAsked:
			value = b.looked(e.Value)
		case e.Kind == job.Inspected:
			value = job.Inspection(e.Value).Said()
		case e.Value != "":
			value = quantity.Entered(e.Value, e.Unit)
		}
		out = append(out, IssueChange{
			What: "Logged: " + b.entry(&e, steps, terminals),
			Now:  strings.Join(nonEmpty(value, e.Reason, b.said(e)), ", "),
			Kind: kind,
		})
	}
	return append(out, findings(was.Findings, now.Findings)...), nil
}

func (c *Contractor) said() string {
	return strings.Join(nonEmpty(c.Name, c.Address, c.Phone, c.Email, c.Scheme), ", ")
}

// entry says what an entry of the log is about, by the titles of steps and terminals.
func (b *builder) entry(e *job.Entry, steps, terminals map[string]string) string {
	point := ""
	if e.Point != "" {
		point = ", " + e.Point
	}
	var title string
	switch e.Kind {
	case job.StepDone:
		title = steps[e.Subject]
	case job.PhotoTaken:
		title = steps[e.Subject] + ", photo"
	case job.TakenBack:
		title = "taken back, " + append(nonEmpty(steps[e.Subject], terminals[e.Subject]), b.titled(*e))[0]
	case job.TorqueMade:
		title = "torque, " + terminals[e.Subject]
	case job.SettingMade:
		title = b.setting(e.Subject)
	case job.Withdrawn:
		title = "withdrawal of issue " + e.Subject
	case job.PaperMoved:
		p, _ := b.j.PaperNow(e.Subject)
		title = p.Title
	default:
		title = b.about(e)
	}
	return title + point
}

// findings lists those that are judged otherwise, are new, or are no more.
func findings(was, now []rulebook.Line) []IssueChange {
	var out []IssueChange
	find := func(list []rulebook.Line, l rulebook.Line) (rulebook.Line, bool) {
		k := slices.IndexFunc(list, func(o rulebook.Line) bool { return o.Rule == l.Rule && o.Point == l.Point })
		if k < 0 {
			return rulebook.Line{}, false
		}
		return list[k], true
	}
	title := func(l rulebook.Line) string {
		return "Finding: " + strings.Join(nonEmpty(l.Title, l.Point), ", ")
	}
	said := func(l rulebook.Line) string {
		s := strings.Join(nonEmpty(string(l.Verdict), l.Value), ", ")
		if l.Limit != "" {
			s += " against " + l.Limit
		}
		if l.By != "" {
			s += ", accepted by " + l.By
		}
		return s
	}
	for _, l := range now {
		switch old, there := find(was, l); {
		case !there:
			out = append(out, IssueChange{title(l), "", said(l), OfFinding})
		case said(old) != said(l):
			out = append(out, IssueChange{title(l), said(old), said(l), OfFinding})
		}
	}
	for _, l := range was {
		if _, there := find(now, l); !there {
			out = append(out, IssueChange{title(l), said(l), "", OfFinding})
		}
	}
	return out
}

// Amends reports whether changes are worth an issue of their own: something of the job or of its
// log is another. Signatures alone, and what became of papers, are not.
func Amends(changes []IssueChange) bool {
	return slices.ContainsFunc(changes, func(c IssueChange) bool { return c.Kind == OfJob || c.Kind == OfLog })
}

// changes prints what differs from the issue that this one replaces.
func (b *builder) changes() {
	if len(b.r.Changes) == 0 {
		return
	}
	t := &Table{Columns: []Column{{"What", 0.36, false}, {"Was", 0.28, false}, {"Is", 0.36, false}}}
	for _, c := range b.r.Changes {
		was, now := c.Was, c.Now
		if was == "" {
			was = "not there"
		}
		if now == "" {
			now = "not there any more"
		}
		t.Rows = append(t.Rows, []string{c.What, was, now})
	}
	b.add(Block{Heading: "What differs from the issue before", Table: t})
}
