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
}

// States reports whether the item is a statement and not a thing that is looked at.
func (i *Item) States() bool { return i.Words || len(i.Choice) > 0 }

// Allowed lists the answers of an item.
func (i *Item) Allowed() []string {
	switch {
	case i.Words:
		return []string{string(job.NothingToSay), string(job.SaidSo)}
	case len(i.Choice) > 0:
		return i.Choice
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

// Open lists the items that nobody has answered.
func (s *Schedule) Open(j *job.Job) []*Item {
	var out []*Item
	for i := range s.Items {
		if _, ok := j.Latest(job.Inspected, "", s.Items[i].ID); !ok {
			out = append(out, &s.Items[i])
		}
	}
	return out
}

// Stale names the items that were looked at before the work on them was done.
func (s *Schedule) Stale(j *job.Job) []*Item {
	done := map[string]int{} // by step, where it was done last
	for at, e := range j.Of(job.StepDone) {
		done[e.Subject] = at
	}
	var out []*Item
	for n := range s.Items {
		i := &s.Items[n]
		e, ok := j.Latest(job.Inspected, "", i.ID)
		if !ok || e.Value == string(job.NotThere) {
			continue
		}
		at := j.Place(e.ID)
		if slices.ContainsFunc(slices.Concat(i.Steps, i.After), func(step string) bool { return done[step] > at }) {
			out = append(out, i)
		}
	}
	return out
}

// Known is what a job knows beside its document: how its rules judge it, and what was done.
type Known struct {
	Sound func(rule string) bool // judged sound wherever it applies, and applies somewhere
	Done  func(step string) bool // on every point that has it, and one has
	Title func(rule string) string
}

// Asked is an item as pages ask it.
type Asked struct {
	ID     string   `json:"id"`
	Part   string   `json:"part"`
	Title  string   `json:"title"`
	Clause string   `json:"clause"`
	Choice []string `json:"choice,omitempty" doc:"Answers of a statement."`
	Words  bool     `json:"words,omitempty" doc:"A statement in words."`
	Reason bool     `json:"reason,omitempty" doc:"An answer of the choice says why."`
}

// Asked lists the items as pages ask them.
func (s *Schedule) Asked() []Asked {
	out := make([]Asked, len(s.Items))
	for n := range s.Items {
		i := &s.Items[n]
		out[n] = Asked{ID: i.ID, Part: i.Part, Title: i.Title, Clause: i.Clause, Choice: i.Choice, Words: i.Words, Reason: i.Reasoned}
	}
	return out
}

// Offer is what a job knows of an item, to be confirmed.
type Offer struct {
	Item  string `json:"item"`
	Value string `json:"value" doc:"An answer of the item."`
	Why   string `json:"why,omitempty" doc:"Where the job knows it from; of a statement and of what is not there, the words that go with it."`
}

// Offers lists what a job knows of the items.
func (s *Schedule) Offers(j *job.Job, k Known) []Offer {
	out := []Offer{}
	for n := range s.Items {
		i := &s.Items[n]
		if value, why := i.offer(j, k); value != "" {
			out = append(out, Offer{i.ID, value, why})
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
