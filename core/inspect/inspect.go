// Package inspect is the schedule of inspections: what a person looks at on the finished work,
// thing by thing, and states for the certificate. What the job knows of a thing is offered to be
// confirmed; nothing is answered by itself.
package inspect

import (
	"slices"
	"strconv"
	"strings"
	"time"

	"dogbolt/core/job"
)

// Item is one thing that is looked at, or stated.
type Item struct {
	ID     string // stands in logs: never changed
	Part   string // of the schedule
	Title  string
	Clause string
	// Not says why the thing is not there on a job, "" where it is or nobody knows; nil where it
	// is on every job.
	Not func(*job.Job) string
	// Least is the least that work touches for the thing to be looked at after it: its zero value is the circuit itself.
	Least job.Touched
	// Rules are the ids of what must be judged sound, and Steps of what must be done, on every point
	// that has it, for the job to know that the thing is as it should be. With neither, a person looks.
	Rules, Steps []string
	// After are steps that change the thing: what was seen before the last of them, or of Steps,
	// is looked at again.
	After []string
	// Choice are the answers of a statement, Words one in words. A thing that is looked at has neither.
	Choice   []string
	Words    bool
	Reasoned bool // an answer of the choice says why
	// Offer is what a statement usually is on a job, with its reason; nil where a person writes it.
	Offer func(*job.Job) (value, reason string)
	// Against says why a statement in words cannot be that there is nothing, "" where it can.
	Against func(*Schedule, *job.Job) string
}

// Spared reports whether the work of a job does not touch the thing: nobody is asked to look at it, or to state what it is.
func (i *Item) Spared(j *job.Job) bool { return j.Touched() > i.Least }

// States reports whether the item is a statement and not a thing that is looked at.
func (i *Item) States() bool { return i.Words || len(i.Choice) > 0 }

// Allowed lists the answers of an item. What is on every job cannot be said not to be there.
func (i *Item) Allowed() []string {
	switch {
	case i.Words:
		return []string{string(job.NothingToSay), string(job.SaidSo)}
	case len(i.Choice) > 0:
		return i.Choice
	case i.Not == nil:
		return []string{string(job.AsItShould), string(job.Limited), string(job.NotRight)}
	}
	return job.Inspection("").Values()
}

// NeedsWords reports whether an answer of the item has to say why or what.
func (i *Item) NeedsWords(value string) bool {
	switch {
	case i.Words:
		return value == string(job.SaidSo)
	case len(i.Choice) > 0:
		return i.Reasoned
	}
	return value != string(job.AsItShould)
}

// Schedule is the schedule of inspections of one country.
type Schedule struct {
	Title string // of the schedule: Schedule of inspections
	Items []Item
	// By are the papers that are an inspection of the work by the authority: who inspects may want something put right.
	By []Visit
}

// Visit is a paper by which somebody of the authority looks at the work.
type Visit struct {
	Paper  string     `json:"paper" doc:"Its id."`
	Unless job.Before `json:"unless,omitempty" doc:"What it comes before where nobody comes: then it is a notice."`
}

// Inspects reports whether somebody of the authority looks at the work by a paper.
func (s *Schedule) Inspects(p *job.Paper) bool {
	return slices.ContainsFunc(s.By, func(v Visit) bool { return v.Paper == p.ID && (v.Unless == "" || v.Unless != p.Before) })
}

// Find returns the item with the id; nil where there is none.
func (s *Schedule) Find(id string) *Item {
	for i := range s.Items {
		if s.Items[i].ID == id {
			return &s.Items[i]
		}
	}
	return nil
}

// Of lists the items of a job: what its work spares is none of them, unless somebody looked at it all the same.
func (s *Schedule) Of(j *job.Job) []*Item {
	out := make([]*Item, 0, len(s.Items))
	for n := range s.Items {
		i := &s.Items[n]
		if _, looked := j.Latest(job.Inspected, "", i.ID); looked || !i.Spared(j) {
			out = append(out, i)
		}
	}
	return out
}

// Open lists the items of a job that nobody has answered.
func (s *Schedule) Open(j *job.Job) []*Item {
	return slices.DeleteFunc(s.Of(j), func(i *Item) bool {
		_, answered := j.Latest(job.Inspected, "", i.ID)
		return answered
	})
}

// Stale names the items that were looked at before the work on them was done, was varied, or was put right for an
// inspector: step is the one that a variation changes, by its id.
func (s *Schedule) Stale(j *job.Job, step func(variation string) string) []*Item {
	done := map[string]int{} // by step, where it was done or varied last
	for at, e := range j.Of(job.StepDone, job.Varied) {
		if e.Kind == job.Varied {
			done[step(e.Subject)] = at
		} else {
			done[e.Subject] = at
		}
	}
	right := map[string]int{} // by item, where it was put right last
	for _, c := range j.Corrections("") {
		if c.Done != nil {
			right[c.Asked.Value] = max(right[c.Asked.Value], j.Place(c.Done.ID))
		}
	}
	return s.answered(j, func(i *Item, e *job.Entry) bool {
		at := j.Place(e.ID)
		if right[i.ID] > at {
			return true
		}
		return job.Inspection(e.Value) != job.NotThere &&
			slices.ContainsFunc(slices.Concat(i.Steps, i.After), func(step string) bool { return done[step] > at })
	})
}

// Contradicted names the statements that there is nothing to say, where there is.
func (s *Schedule) Contradicted(j *job.Job) []*Item {
	return s.answered(j, func(i *Item, e *job.Entry) bool {
		return i.Against != nil && job.Statement(e.Value) == job.NothingToSay && i.Against(s, j) != ""
	})
}

// Seen names the things that were seen as one says; of those that are said not to be there, the ones of which
// the job does not say so.
func (s *Schedule) Seen(j *job.Job, as job.Inspection) []*Item {
	return s.answered(j, func(i *Item, e *job.Entry) bool {
		return !i.States() && job.Inspection(e.Value) == as && (as != job.NotThere || i.Not == nil || i.Not(j) == "")
	})
}

// answered lists the items whose answer is as has says.
func (s *Schedule) answered(j *job.Job, has func(*Item, *job.Entry) bool) []*Item {
	var out []*Item
	for n := range s.Items {
		i := &s.Items[n]
		if e, ok := j.Latest(job.Inspected, "", i.ID); ok && has(i, &e) {
			out = append(out, i)
		}
	}
	return out
}

// Limits says that something was not, or not wholly, looked at.
func Limits(s *Schedule, j *job.Job) string {
	if list := s.Seen(j, job.Limited); len(list) > 0 {
		return "limited: " + list[0].Title
	}
	return ""
}

// Known is what a job knows beside its document: how its rules judge it, and what was done.
type Known struct {
	Sound func(rule string) bool // judged sound wherever it applies, and applies somewhere
	Done  func(step string) bool // on every point that has it, and one has
	Title func(rule string) string
}

// Asked is an item as pages ask it.
type Asked struct {
	ID      string       `json:"id"`
	Part    string       `json:"part"`
	Title   string       `json:"title"`
	Clause  string       `json:"clause"`
	Answers []ItemAnswer `json:"answers" doc:"What may be said of it, the usual answer first."`
}

// ItemAnswer is what may be said of an item.
type ItemAnswer struct {
	Value string `json:"value"`
	Words bool   `json:"words,omitempty" doc:"It says why or what, in words."`
}

// Asked lists the items as pages ask them.
func (s *Schedule) Asked() []Asked {
	out := make([]Asked, len(s.Items))
	for n := range s.Items {
		i := &s.Items[n]
		out[n] = Asked{ID: i.ID, Part: i.Part, Title: i.Title, Clause: i.Clause}
		for _, v := range i.Allowed() {
			out[n].Answers = append(out[n].Answers, ItemAnswer{v, i.NeedsWords(v)})
		}
	}
	return out
}

// Offer is what a job knows of an item, to be confirmed.
type Offer struct {
	Item  string `json:"item"`
	Value string `json:"value" doc:"An answer of the item."`
	Why   string `json:"why,omitempty" doc:"Where the job knows it from; of a statement and of what is not there, the words that go with it."`

	Spared bool `json:"spared,omitempty" doc:"The work does not touch it: it is not asked for, and nothing is confirmed."`
}

// Offers lists what a job knows of the items.
func (s *Schedule) Offers(j *job.Job, k Known) []Offer {
	out := []Offer{}
	for n := range s.Items {
		i := &s.Items[n]
		if i.Spared(j) {
			out = append(out, Offer{Item: i.ID, Value: string(job.NotThere), Spared: true})
		} else if value, why := i.offer(j, k); value != "" {
			out = append(out, Offer{Item: i.ID, Value: value, Why: why})
		}
	}
	return out
}

// offer is the answer that a job gives of an item, and from what; "" where a person looks.
func (i *Item) offer(j *job.Job, k Known) (value, why string) {
	if i.Not != nil {
		if why := i.Not(j); why != "" {
			return string(job.NotThere), why
		}
	}
	if i.Offer != nil {
		return i.Offer(j)
	}
	if len(i.Rules)+len(i.Steps) == 0 {
		return "", ""
	}
	var from []string
	for _, id := range i.Rules {
		if !k.Sound(id) {
			return "", ""
		}
		from = append(from, k.Title(id))
	}
	for _, id := range i.Steps {
		if !k.Done(id) {
			return "", ""
		}
	}
	if len(i.Steps) > 0 {
		from = append(from, "the step was done")
	}
	return string(job.AsItShould), strings.Join(from, "; ")
}

// Next is the id of the statement of when the installation is inspected next.
const Next = "next-inspection"

// NextBy is the day by which the installation is inspected next, from the day that it was
// inspected: so many years on as the statement begins with. The zero time for one that does not.
func NextBy(stated string, from time.Time) time.Time {
	first, _, _ := strings.Cut(stated, " ")
	years, err := strconv.Atoi(first)
	if err != nil || years < 1 {
		return time.Time{}
	}
	return from.AddDate(years, 0, 0)
}
