// Package clearance works out which papers a job needs, what each holds up,
// when its answer may be expected, and whether its form would bounce.
package clearance

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"time"

	"dogbolt/core/job"
	"dogbolt/core/schema"
)

// Blocker is a paper that holds something up.
type Blocker struct {
	Paper string     `json:"paper" doc:"Id of the paper."`
	Title string     `json:"title"`
	Event job.Before `json:"before" doc:"What it must come before."`
	Why   string     `json:"why"`
}

// Blocking lists the papers that hold up an event: those that must come before
// it, or before anything that precedes it, and are neither answered nor put
// aside by a qualified person. A paper whose need is not decided holds up too.
func Blocking(j *job.Job, event job.Before) []Blocker {
	limit := slices.Index(job.Befores, event)
	var out []Blocker
	for _, p := range j.PapersNow() {
		at := slices.Index(job.Befores, p.Before)
		if p.Before == job.After || at < 0 || at > limit || p.Done() {
			continue
		}
		if _, aside := j.PutAside(p.ID); aside {
			continue
		}
		b := Blocker{Paper: p.ID, Title: p.Title, Event: p.Before}
		switch {
		case p.Needed == job.Unasked:
			b.Why = "needed or not has not been decided"
		case p.Needed == job.No:
			b.Why = "why it is not needed is not recorded"
		case p.SentBack():
			b.Why = "came back on " + p.Replies[len(p.Replies)-1].On + " to be mended"
		case p.Sent != "":
			b.Why = "sent " + p.Sent + ", not answered"
		default:
			b.Why = "not sent"
		}
		out = append(out, b)
	}
	return out
}

// Misdated lists papers whose answer came too late for what it had to precede:
// a grant that was offered after the day of the work is void. The order's day is
// not recorded; the day of the work stands for it.
func Misdated(j *job.Job) []Blocker {
	var out []Blocker
	for _, p := range j.PapersNow() {
		if p.Before == job.After && p.Needed == job.Yes && p.Granted != "" && j.Plan.Day != "" && p.Granted < j.Plan.Day {
			out = append(out, Blocker{p.ID, p.Title, p.Before, "answered " + p.Granted + ", before the day of the work, " + j.Plan.Day + ", which it comes after"})
			continue
		}
		early := p.Before == job.BeforeOrder || p.Before == job.BeforeBooking || p.Before == job.BeforeInstalling
		if !early || p.Needed != job.Yes || j.Plan.Day == "" || p.Granted <= j.Plan.Day {
			continue
		}
		if _, aside := j.PutAside(p.ID); !aside {
			out = append(out, Blocker{p.ID, p.Title, p.Before, "answered " + p.Granted + ", after the day of the work, " + j.Plan.Day})
		}
	}
	return out
}

// State is how far a paper has come.
type State string

// States of a paper.
const (
	Undecided State = "undecided"
	NotNeeded State = "not-needed"
	ToSend    State = "to-send"
	Back      State = "sent-back"
	Waiting   State = "waiting"
	Overdue   State = "overdue" // the usual wait is over
	Answered  State = "answered"
	Aside     State = "put-aside"
)

// Values lists how far papers come.
func (State) Values() []string {
	return schema.Words(Undecided, NotNeeded, ToSend, Back, Waiting, Overdue, Answered, Aside)
}

// Span is a paper on the line of time. Days are days of the calendar.
type Span struct {
	Paper string     `json:"paper"`
	Title string     `json:"title"`
	Event job.Before `json:"before,omitempty"`
	State State      `json:"state"`
	From  string     `json:"from,omitempty" format:"date" doc:"Day it was sent; where it has not been, today."`
	Low   string     `json:"low,omitempty" format:"date" doc:"Answer expected from here,"`
	High  string     `json:"high,omitempty" format:"date" doc:"to here."`
	Done  string     `json:"done,omitempty" format:"date" doc:"Day of the answer."`
	Due   string     `json:"due,omitempty" format:"date"`
	Back  []string   `json:"back" doc:"Days on which it came back."`
	Note  string     `json:"note,omitempty"`
}

// Timeline puts the papers of a job on one line of time, as of today.
func Timeline(j *job.Job, today string, law Law) []Span {
	papers := j.PapersNow()
	bars := make([]Span, 0, len(papers))
	for _, p := range papers {
		b := Span{Paper: p.ID, Title: p.Title, Event: p.Before, State: StateOf(j, p, today), From: p.Sent, Done: p.Granted, Due: p.Due, Back: []string{}}
		for _, r := range p.Replies {
			if r.Outcome == job.Bounced {
				b.Back = append(b.Back, r.On)
			}
		}
		switch b.State {
		case ToSend, Back:
			b.From = today
			b.Note = "if it is sent today"
			fallthrough
		case Waiting, Overdue:
			if p.WaitHigh > 0 {
				b.Low, b.High = AddDays(b.From, p.WaitLow), AddDays(b.From, p.WaitHigh)
			}
		}
		if s, by := law.By(j, &p); by != p.Due && b.State != Aside {
			b.Due = by
			b.Note = strings.TrimPrefix(b.Note+"; ", "; ") + s.Says() + "; late: " + s.Late
		}
		bars = append(bars, b)
	}
	return bars
}

// StateOf says how far a paper of the job has come, as of today.
func StateOf(j *job.Job, p job.Paper, today string) State {
	_, aside := j.PutAside(p.ID)
	switch {
	case aside && !p.Done():
		return Aside
	case p.Needed == job.No:
		return NotNeeded
	case p.Needed == job.Unasked:
		return Undecided
	case p.Granted != "":
		return Answered
	case p.SentBack():
		return Back
	case p.Sent == "":
		return ToSend
	case p.WaitHigh > 0 && AddDays(p.Sent, p.WaitHigh) < today:
		return Overdue
	}
	return Waiting
}

// Deadline is a day on which something about a paper is due.
type Deadline struct {
	Paper string `json:"paper"`
	Title string `json:"title"`
	What  string `json:"what" doc:"What is to be done."`
	Day   string `json:"day" format:"date"`
}

// Deadlines lists what is due about the papers of a job, earliest first: the
// day by which each must be done, the day by which it must be sent for its
// answer to be there in time for the work, the end of the usual wait, and the
// mending of what came back. What comes after the work is due by the law's days too, until it is
// sent.
func Deadlines(j *job.Job, law Law) []Deadline {
	out := []Deadline{}
	for _, p := range j.PapersNow() {
		if p.Needed != job.Yes || p.Granted != "" {
			continue
		}
		if _, aside := j.PutAside(p.ID); aside {
			continue
		}
		add := func(day, what string) { out = append(out, Deadline{p.ID, p.Title, what, day}) }
		switch {
		case p.SentBack():
			add(p.Replies[len(p.Replies)-1].On, "mend and send again")
		case p.Sent != "" && p.WaitHigh > 0:
			add(AddDays(p.Sent, p.WaitHigh), "ask for the answer")
		case p.Sent == "" && j.Plan.Day != "" && p.Before != job.After && p.Before != job.BeforeSealing:
			add(AddDays(j.Plan.Day, -p.WaitHigh), "send, for an answer by "+j.Plan.Day)
		}
		if p.Due != "" {
			add(p.Due, "due")
		}
		if s, last := law.Of(j, &p); last != "" && (p.Due == "" || last < p.Due) {
			add(last, s.Says()+"; late: "+s.Late)
		}
	}
	slices.SortStableFunc(out, func(a, b Deadline) int { return cmp.Compare(a.Day, b.Day) })
	return out
}

// AddDays returns the day n days of the calendar after a day, or the day itself
// where it is none. Days have no clock: no change of the clock moves them.
func AddDays(day string, n int) string {
	t, err := time.Parse(time.DateOnly, day)
	if err != nil {
		return day
	}
	return t.AddDate(0, 0, n).Format(time.DateOnly)
}

// DaysBetween returns how many days of the calendar lie from one day to another.
func DaysBetween(from, to string) (int, error) {
	a, err := time.Parse(time.DateOnly, from)
	if err != nil {
		return 0, fmt.Errorf("day %q: %w", from, err)
	}
	b, err := time.Parse(time.DateOnly, to)
	if err != nil {
		return 0, fmt.Errorf("day %q: %w", to, err)
	}
	return int(b.Sub(a).Hours() / 24), nil
}
