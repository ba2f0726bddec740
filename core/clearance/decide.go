package clearance

import (
	"slices"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// Advice is a paper that a rulebook proposes for a job, with what the survey
// and the design already decide about it.
type Advice struct {
	Paper  job.Paper `json:"paper"`
	Route  string    `json:"route,omitempty" enum:"notify-after,apply-before" doc:"Whether the network operator is told after the work or asked before it."`
	Change string    `json:"change,omitempty" doc:"How it differs from what the job has; empty where it does not."`
}

// Demand is what the decision about the network operator rests on, in A a
// phase.
type Demand struct {
	Total   float64 // with charging
	Cutout  float64
	Known   bool // nothing of the demand is missing
	Sound   job.Answer
	Largest float64 // setting of the largest charger
}

// NotifyUpTo is the greatest demand, A a phase, with which a network operator in
// Great Britain is told after the work: 60 A, 13.8 kVA. Common practice of the
// operators, from memory.
const NotifyUpTo = 60

// ChargerUpTo is the largest charger, A a phase, that is told after the work.
// Common practice of the operators, from memory.
const ChargerUpTo = 32

// Operator decides whether the network operator is told after the work or asked
// before it. An unknown is "": the reason says what is missing.
func Operator(d Demand) (route, reason string) {
	switch {
	case !d.Known || d.Cutout == 0:
		return "", "demand, cutout and charger setting are not known yet"
	case d.Sound == job.No:
		return "apply-before", "cutout, service cable or earthing terminal look doubtful: the operator looks at them first"
	case d.Total > d.Cutout:
		return "apply-before", quantity.Say("{1} A per phase is more than the {} A cutout", d.Total, d.Cutout)
	case d.Total > NotifyUpTo:
		return "apply-before", quantity.Say("{1} A per phase is more than {} A (13.8 kVA)", d.Total, NotifyUpTo)
	case d.Largest > ChargerUpTo:
		return "apply-before", quantity.Say("a charger of {} A per phase is more than {} A", d.Largest, ChargerUpTo)
	case d.Sound == job.Unasked:
		return "", quantity.Say("{1} A per phase is within {} A and the cutout, but the condition of the service is not recorded", d.Total, NotifyUpTo)
	}
	return "notify-after", quantity.Say("{1} A per phase ≤ {} A and within the {} A cutout, service sound: notify within 28 days of commissioning", d.Total, NotifyUpTo, d.Cutout)
}

// UK proposes the papers of a job in Great Britain. Waits are usual ranges:
// common practice, no source; a grant's 6 to 12 weeks by the field guide.
func UK(j *job.Job, d Demand) []Advice {
	operator := job.Paper{ID: "operator", Title: "Network operator: notice or application", Who: "network operator", Before: job.After, WaitLow: 1, WaitHigh: 28}
	route, why := Operator(d)
	operator.Reason = why
	switch route {
	case "apply-before":
		operator.Title, operator.Needed, operator.Before = "Network operator: application", job.Yes, job.BeforeEnergising
		operator.WaitLow, operator.WaitHigh = 14, 65
	case "notify-after":
		operator.Title, operator.Needed = "Network operator: notice", job.Yes
	}
	list := []Advice{{Paper: operator, Route: route},
		{Paper: owner(j)},
		{Paper: grant("Grant for a charge point, where one is claimed", "grant body")},
		{Paper: job.Paper{ID: "installer", Title: "Registered installer: registration looked up", Who: "the scheme's public register", Before: job.BeforeInstalling, Needed: job.Yes,
			Reason: "self-certification and most grants ask for a registration that is valid on the day", WaitHigh: 1}},
		{Paper: job.Paper{ID: "building-control", Title: "Building control notice (Part P, within 30 days)", Who: "registered installer's scheme", Before: job.After, Needed: job.Yes,
			Reason: "a new circuit in a dwelling in England: notice within 30 days", WaitHigh: 30}},
		{Paper: tariff()},
	}
	return compare(j, list)
}

// US proposes the papers of a job in the United States. Waits are usual ranges:
// common practice, no source.
func US(j *job.Job, d Demand) []Advice {
	rough := job.Paper{ID: "rough-in", Title: "Rough-in inspection", Who: "building department", Before: job.BeforeCovering, WaitLow: 1, WaitHigh: 7}
	if where := concealed(j); where != "" {
		rough.Needed, rough.Reason = job.Yes, "wiring is covered up: "+where
	} else if surveyed(j) {
		rough.Needed, rough.Reason = job.No, "all of the route stays in sight"
	}
	utility := job.Paper{ID: "utility", Title: "Utility notice, where asked", Who: "utility", Before: job.BeforeEnergising, WaitLow: 5, WaitHigh: 30}
	switch {
	case d.Known && d.Total > d.Cutout && d.Cutout > 0:
		utility.Needed, utility.Reason = job.Yes, quantity.Say("{1} A is more than the {} A service", d.Total, d.Cutout)
	case d.Known:
		utility.Reason = quantity.Say("{1} A of {} A: many utilities still ask to be told of a charger", d.Total, d.Cutout)
	}
	list := []Advice{
		{Paper: job.Paper{ID: "permit", Title: "Electrical permit", Who: "building department", Before: job.BeforeInstalling, Needed: job.Yes, Reason: "a new branch circuit", WaitLow: 1, WaitHigh: 15}},
		{Paper: owner(j)},
		{Paper: grant("Rebate, where one is claimed", "utility or state")},
		{Paper: rough},
		{Paper: utility},
		{Paper: job.Paper{ID: "final", Title: "Final inspection", Who: "building department", Before: job.After, Needed: job.Yes, Reason: "closes the permit", WaitLow: 1, WaitHigh: 7}},
		{Paper: tariff()},
	}
	return compare(j, list)
}

func owner(j *job.Job) job.Paper {
	p := job.Paper{ID: "owner", Title: "Consent of owner or landlord", Who: "owner", Before: job.BeforeInstalling, WaitLow: 7, WaitHigh: 42}
	switch j.Survey.Consent.Landlord {
	case job.Yes:
		p.Needed, p.Reason = job.Yes, "the survey says that a landlord or a residents' company must agree"
	case job.No:
		p.Needed, p.Reason = job.No, "nobody but the customer must agree, by the survey"
	}
	return p
}

// grant is asked before anything is bought: most are void when the order or the
// work comes first.
func grant(title, who string) job.Paper {
	return job.Paper{ID: "grant", Title: title, Who: who, Before: job.BeforeOrder, WaitLow: 42, WaitHigh: 84}
}

func tariff() job.Paper {
	return job.Paper{ID: "tariff", Title: "Tariff change, where the customer wants one", Who: "energy supplier", Before: job.After, WaitLow: 7, WaitHigh: 28}
}

// concealed names the first segment of a route that will be out of sight.
func concealed(j *job.Job) string {
	hidden := map[job.Method]string{job.StudWall: "in a wall", job.CeilingThin: "above a ceiling", job.CeilingThick: "above a ceiling", job.InInsulation: "in insulation", job.ConduitInWall: "in a wall", job.Buried: "in the ground"}
	for _, p := range j.Survey.Places {
		for _, s := range p.Route {
			if where, ok := hidden[s.Method]; ok {
				return "point " + p.Point + ", " + where
			}
		}
	}
	return ""
}

func surveyed(j *job.Job) bool {
	for _, p := range j.Survey.Places {
		if !p.Surveyed() {
			return false
		}
	}
	return len(j.Survey.Places) > 0
}

// compare says how each proposal differs from the paper that the job has.
func compare(j *job.Job, list []Advice) []Advice {
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
