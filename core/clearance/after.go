package clearance

import (
	"fmt"
	"time"

	"dogbolt/core/job"
)

// Start is from when the days of a paper count.
type Start string

// From when days count.
const (
	FromSwitchingOn Start = "switching on"
	FromCompletion  Start = "completion" // the signature for the construction
)

// Statutory is how long a paper that comes after the work may take.
type Statutory struct {
	Paper  string // its id
	Days   int    // from the day after
	From   Start
	Asked  bool   // by then it is passed or answered; else it is sent by then
	Late   string // what happens when it is late
	Source string
}

// Law is what a country says of papers after the work, and the clock that its days go by.
type Law struct {
	Days []Statutory
	Zone *time.Location // of the site; nil for UTC
}

// Of is what the law says of a paper, and the last day for it; "" while its days do not count
// yet, or it is done, or the law says nothing. A day that was agreed for the paper itself is for
// the caller.
func (l Law) Of(j *job.Job, p *job.Paper) (s Statutory, last string) {
	for _, s = range l.Days {
		if s.Paper != p.ID || p.Before != job.After {
			continue
		}
		if p.Needed == job.No || p.Granted != "" || p.Sent != "" && !s.Asked {
			return s, ""
		}
		if from, ok := s.From.at(j); ok {
			zone := l.Zone
			if zone == nil {
				zone = time.UTC
			}
			return s, AddDays(from.In(zone).Format(time.DateOnly), s.Days)
		}
		return s, ""
	}
	return Statutory{}, ""
}

// By is the last day for a paper: the day that was agreed for it, or the law's where that is
// earlier; "" where there is neither.
func (l Law) By(j *job.Job, p *job.Paper) (s Statutory, day string) {
	s, day = l.Of(j, p)
	if day == "" || p.Due != "" && p.Due < day {
		day = p.Due
	}
	return s, day
}

// at is when days begin to count.
func (s Start) at(j *job.Job) (time.Time, bool) {
	on, ok := j.Latest(job.StepDone, "", job.SwitchedOn)
	if done, signed := j.Latest(job.SignedOff, "", "construction"); s == FromCompletion && signed {
		return done.At, true
	}
	return on.At, ok
}

// Says is the rule in words: "28 days from switching on".
func (s Statutory) Says() string { return fmt.Sprintf("%d days from %s", s.Days, s.From) }

// Coming is a paper that comes after the work and is not done.
type Coming struct {
	Paper string `json:"paper"`
	Title string `json:"title"`
	Who   string `json:"who,omitempty"`
	State State  `json:"state"`
	By    string `json:"by,omitempty" format:"date" doc:"Last day for it; left out where nobody counts one."`
	Says  string `json:"says,omitempty" doc:"From what the day is counted."`
	Late  string `json:"late,omitempty" doc:"What happens when it is late."`
}

// ToCome lists the papers that come after the work and are not done, in their order.
func ToCome(j *job.Job, today string, law Law) []Coming {
	out := []Coming{}
	for _, p := range j.PapersNow() {
		state := StateOf(j, p, today)
		if p.Before != job.After || state == Answered || state == NotNeeded || state == Aside {
			continue
		}
		s, by := law.By(j, &p)
		c := Coming{Paper: p.ID, Title: p.Title, Who: p.Who, State: state, By: by}
		if s.Days > 0 {
			c.Says, c.Late = s.Says(), s.Late
			if _, last := law.Of(j, &p); by != last {
				c.Says = "agreed for this one; else " + c.Says
			}
		}
		out = append(out, c)
	}
	return out
}
