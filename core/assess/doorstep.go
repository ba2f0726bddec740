package assess

import (
	"cmp"
	"math"
	"slices"
	"strconv"

	"dogbolt/core/charging"
	"dogbolt/core/job"
	"dogbolt/core/loadmgmt"
	"dogbolt/core/quantity"
	"dogbolt/core/reach"
	"dogbolt/core/rulebook"
	"dogbolt/core/verdict"
)

// Told is what the customer on the doorstep is told of one position that was measured and not
// drawn: yes, no, or what it depends on, and a band of prices.
type Told struct {
	Point    string          `json:"point"`
	Position string          `json:"position"`
	Verdict  verdict.Verdict `json:"verdict"`
	Says     string          `json:"says" doc:"Yes, no, or what it depends on, in words."`
	Cord     string          `json:"cord" doc:"What cord it takes, and whether the firm's chargers have it."`
	Price    loadmgmt.Band   `json:"price,omitzero" doc:"In the country's money; left out where the firm has none, or the run is not known."`
}

// told works out what can be said on the doorstep of every point and position.
func told(j *job.Job, h *WorkPolicy, book *rulebook.Book, findings []rulebook.Finding, ceilings map[string][]charging.Ceiling) []Told {
	out := []Told{}
	for _, point := range j.Points() {
		for _, p := range j.Survey.SitePlan.Positions {
			if p.At != nil {
				continue
			}
			// Each is judged as if it had been taken, by its own answers.
			own := append(ofSite(point.ID, findings), book.AtPosition(j, point, p.ID)...)
			a := Told{Point: point.ID, Position: p.ID, Price: price(h.Costs[book.In.ID], p.Run)}
			a.Verdict, a.Says = comesTo(own, ceilings[point.ID])
			a.cord(j, point, p, h.longest(book.In.ID), book.In.Units.Length)
			out = append(out, a)
		}
	}
	return out
}

// ofSite are the findings of the survey about a point, whichever position is taken for it.
func ofSite(point string, findings []rulebook.Finding) []rulebook.Finding {
	var out []rulebook.Finding
	for _, f := range findings {
		if f.Stage == job.StageSurvey && (f.Point == "" || f.Point == point) && !f.OfPosition() {
			out = append(out, f)
		}
	}
	return out
}

// comesTo says what findings and the ceilings of a point come to.
func comesTo(findings []rulebook.Finding, ceilings []charging.Ceiling) (verdict.Verdict, string) {
	open, watch, stop := 0, 0, ""
	for _, f := range findings {
		switch {
		case f.Verdict == verdict.Stop && f.Blocks() && stop == "":
			stop = f.Title
		case f.Verdict == verdict.Open:
			open++
		case f.Verdict == verdict.Watch:
			watch++
		}
	}
	rules := charging.Ceiling{}
	for _, c := range ceilings {
		if c.ID != charging.ByNeed && !c.Known {
			open++
		}
		if c.Rules {
			rules = c
		}
	}
	amps := quantity.Say("{} A", math.Floor(rules.Amps)) // whole amperes, never more than there are
	switch {
	case stop != "":
		return verdict.Stop, "not as it is: " + stop
	case open == 1:
		return verdict.Open, "depends on one question that is open"
	case open > 0:
		return verdict.Open, "depends on " + strconv.Itoa(open) + " questions that are open"
	case rules.Amps < 1:
		return verdict.Stop, "not as it is: nothing left by " + rules.Title
	case watch > 0:
		return verdict.Watch, "yes, up to " + amps + ", with something to weigh"
	}
	return verdict.Sound, "yes, up to " + amps + ": " + rules.Title + " rules"
}

// longest is the longest cord of the firm's own types for a country, m; 0 where it has none.
func (h *WorkPolicy) longest(country string) quantity.Metre {
	var most quantity.Metre
	for _, t := range h.Types {
		if t.Country == country {
			most = max(most, t.Charger.CordLength)
		}
	}
	return most
}

// cord says what cord a position takes. A charger that is chosen has its own; before that the
// longest of the firm's types counts.
func (a *Told) cord(j *job.Job, point job.Point, p job.Position, longest quantity.Metre, unit quantity.Unit) {
	length, whose := point.Circuit.Charger.CordLength, "the charger chosen has "
	if length == 0 {
		length, whose = longest, "the longest of yours has "
	}
	cords := reach.On(&j.Survey).CordsOf(p.ID, length)
	if len(cords) == 0 {
		a.Cord = "way of the cord not measured yet"
		if p.Cord > 0 {
			a.Cord = "no vehicle yet that the cord goes to"
		}
		a.Verdict = verdict.Worse(a.Verdict, verdict.Open)
		return
	}
	far := slices.MaxFunc(cords, func(a, b reach.Cord) int { return cmp.Compare(a.Needed, b.Needed) })
	a.Cord = "takes a cord of " + unit.SayTo(float64(far.Needed), 1)
	if length > 0 {
		a.Cord += ", " + whose + unit.SayTo(float64(length), 1)
	}
	if far.Known && !far.Reaches {
		a.Verdict = verdict.Worse(a.Verdict, verdict.Watch)
	}
}

// price is the band of a point at the end of a run; none where it is not known.
func price(c loadmgmt.Costs, run quantity.Metre) loadmgmt.Band {
	if c.Point.High <= 0 || run <= 0 {
		return loadmgmt.Band{}
	}
	more := float64(max(run-loadmgmt.Included, 0))
	return loadmgmt.Band{Low: c.Point.Low + more*c.Metre.Low, High: c.Point.High + more*c.Metre.High}
}
