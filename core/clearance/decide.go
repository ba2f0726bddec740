package clearance

import (
	"slices"

	"dogbolt/core/job"
	"dogbolt/core/schema"
)

// Advice is a paper that a rulebook proposes for a job, with what the survey
// and the design already decide about it.
type Advice struct {
	Paper  job.Paper `json:"paper"`
	Route  Route     `json:"route,omitempty" doc:"Whether the network operator is told after the work or asked before it."`
	Change string    `json:"change,omitempty" doc:"How it differs from what the job has; empty where it does not."`
}

// Route is when the network operator is told.
type Route string

// When the network operator is told.
const (
	NotifyAfter Route = "notify-after"
	ApplyBefore Route = "apply-before"
)

// Values lists when the network operator is told.
func (Route) Values() []string { return schema.Words(NotifyAfter, ApplyBefore) }

// Demand is what the decision about the network operator rests on, in A a
// phase.
type Demand struct {
	Total   float64 // with charging
	Cutout  float64
	Known   bool // nothing of the demand is missing
	Sound   job.Answer
	Largest float64 // setting of the largest charger
}

// Owner is the consent of an owner or landlord, as the survey has it.
func Owner(j *job.Job) job.Paper {
	p := job.Paper{ID: "owner", Title: "Consent of owner or landlord", Who: "owner", Before: job.BeforeInstalling, WaitLow: 7, WaitHigh: 42}
	switch j.Survey.Consent.Landlord {
	case job.Yes:
		p.Needed, p.Reason = job.Yes, "the survey says that a landlord or a residents' company must agree"
	case job.No:
		p.Needed, p.Reason = job.No, "nobody but the customer must agree, by the survey"
	}
	return p
}

// Grant is asked before anything is bought: most are void when the order or the
// work comes first.
func Grant(title, who string) job.Paper {
	return job.Paper{ID: "grant", Title: title, Who: who, Before: job.BeforeOrder, WaitLow: 42, WaitHigh: 84}
}

// Tariff is a change of the energy supplier's tariff.
func Tariff() job.Paper {
	return job.Paper{ID: "tariff", Title: "Tariff change, where the customer wants one", Who: "energy supplier", Before: job.After, WaitLow: 7, WaitHigh: 28}
}

// Concealed names the first segment of a route that will be out of sight.
func Concealed(j *job.Job) string {
	hidden := map[job.Method]string{
		job.StudWall:      "in a wall",
		job.CeilingThin:   "above a ceiling",
		job.CeilingThick:  "above a ceiling",
		job.InInsulation:  "in insulation",
		job.ConduitInWall: "in a wall",
		job.Buried:        "in the ground",
	}
	for _, p := range j.Survey.Places {
		for _, s := range p.Route {
			if where, ok := hidden[s.Method]; ok {
				return "point " + p.Point + ", " + where
			}
		}
	}
	return ""
}

// Surveyed reports whether every point's route is.
func Surveyed(j *job.Job) bool {
	for _, p := range j.Survey.Places {
		if !p.Surveyed() {
			return false
		}
	}
	return len(j.Survey.Places) > 0
}

// Compare says how each proposal differs from the paper that the job has.
func Compare(j *job.Job, list []Advice) []Advice {
	for i := range list {
		p := &list[i]
		k := slices.IndexFunc(j.Clearances.Papers, func(o job.Paper) bool { return o.ID == p.Paper.ID })
		if k < 0 {
			p.Change = "not among the job's papers"
			continue
		}
		have := j.Clearances.Papers[k]
		switch at, want := slices.Index(job.Befores, have.Before), slices.Index(job.Befores, p.Paper.Before); {
		case have.Needed == job.No && p.Paper.Needed == job.Yes:
			p.Change = "marked as not needed, but: " + p.Paper.Reason
		case have.Needed == job.Unasked && p.Paper.Needed != job.Unasked:
			p.Change = "not decided yet: " + p.Paper.Reason
		case have.Needed != job.No && want < at:
			p.Change = "must come earlier, before " + string(p.Paper.Before) + ": " + p.Paper.Reason
		}
	}
	return list
}

// Take brings a job's papers in line with the proposals: what is missing is
// added, what is undecided takes the decision, and what must come earlier does.
// Dates, answers and reasons that people entered stay; a decision of theirs that
// a paper is not needed stays too and is left to them.
func Take(papers []job.Paper, list []Advice) []job.Paper {
	out := slices.Clone(papers)
	for _, p := range list {
		k := slices.IndexFunc(out, func(o job.Paper) bool { return o.ID == p.Paper.ID })
		if k < 0 {
			out = append(out, p.Paper)
			continue
		}
		have := &out[k]
		if have.Needed == job.Unasked && p.Paper.Needed != job.Unasked {
			have.Needed = p.Paper.Needed
			if have.Reason == "" {
				have.Reason = p.Paper.Reason
			}
		}
		if have.Needed != job.No && slices.Index(job.Befores, p.Paper.Before) < slices.Index(job.Befores, have.Before) {
			have.Before, have.Title, have.Reason = p.Paper.Before, p.Paper.Title, p.Paper.Reason
		}
		if have.WaitHigh == 0 {
			have.WaitLow, have.WaitHigh = p.Paper.WaitLow, p.Paper.WaitHigh
		}
	}
	return out
}
