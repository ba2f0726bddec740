package jurisdiction

import (
	"strings"

	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/worklog"
)

// Removal is the paper about chargers that were taken away: what went, how it was left, and what stays. No published form
// asks for it: its content is common practice, no source.
var Removal = Certificate{
	Title:   "Record of removal",
	Notice:  "Chargers that were taken away, and what is left of their circuits. It certifies no new work.",
	Removal: true,
	Circuits: []Cell{
		{Title: "Point", Share: 0.06, Says: func(f *Facts) string { return f.Point.ID }},
		{Title: "Charger", Share: 0.16, Says: func(f *Facts) string { return f.Point.Circuit.Charger.Type }},
		{Title: "Serial number", Share: 0.14, Says: func(f *Facts) string { return commission.SerialOf(f.Job, &f.Point.Circuit) }},
		{Title: "Last reading of its meter", Share: 0.14, Says: func(f *Facts) string { return f.Read(commission.Meter) }},
		{Title: "Condition", Share: 0.16, Says: step(worklog.TakeDown)},
		{Title: "How it was left", Share: 0.20, Says: step(worklog.Release)},
		{Title: "Moves to, closes", Share: 0.14, Says: func(f *Facts) string {
			var says []string
			if to := f.Point.Circuit.Charger.Moved; to != "" {
				says = append(says, "to "+to)
			}
			if closes := f.Point.Circuit.Charger.Closes; closes != "" {
				says = append(says, "closes "+closes)
			}
			if len(says) == 0 {
				return NotApplicable
			}
			return strings.Join(says, ", ")
		}},
	},
	Tests: []Cell{
		{Title: "Point", Share: 0.06, Says: func(f *Facts) string { return f.Point.ID }},
		{Title: "Breaker", Share: 0.22, Says: func(f *Facts) string {
			return stays(f.Point.Circuit.Fates().Breaker, "stays, held off and marked")
		}},
		{Title: "Cable", Share: 0.36, Says: func(f *Facts) string {
			left := stays(f.Point.Circuit.Fates().Cable, "stays, closed off")
			if where := step(worklog.PointEnd)(f); where != "" && f.Point.Circuit.Fates().Cable == job.FateKept {
				left += ": " + where
			}
			return left
		}},
		{Title: "Insulation to earth", Share: 0.18, Says: func(f *Facts) string { return f.Read(commission.Insulation) }},
		{Title: "Insulation of live conductors", Share: 0.18, Says: func(f *Facts) string {
			return strings.Join(f.Reads(commission.InsulationLive), "; ")
		}},
	},
}

// step is what was written down at a step of a point.
func step(id string) func(*Facts) string {
	return func(f *Facts) string {
		e, _ := f.Latest(job.StepDone, f.Point.ID, id)
		return e.Value
	}
}

// stays says what became of a thing where a charger was; "" while nobody has said.
func stays(f job.Fate, kept string) string {
	switch f {
	case job.FateTakenOut:
		return "taken out"
	case job.FateKept:
		return kept
	}
	return ""
}

// LeftLabels are the labels of what stays where a charger was: at its breaker, and at its cable's end. Common practice, no source.
func LeftLabels(f *Facts, p *job.Point) []Label {
	var out []Label
	fates := p.Circuit.Fates()
	if fates.Breaker == job.FateKept {
		out = append(out, Label{Where: "breaker of point " + p.ID, Clause: "common practice", Warns: true, Lines: []string{
			"Not in use", "Its cable ends at point " + p.ID + ", " + p.Place.Name + ". A qualified person looks there before it is switched on.",
		}})
	}
	if fates.Cable == job.FateKept {
		where := step(worklog.PointEnd)(f.Row(*p))
		out = append(out, Label{Where: "cable's end, point " + p.ID, Clause: "common practice", Warns: true, Lines: []string{
			"Cable's end: counts as live", strings.TrimSpace("From " + f.Survey.Board.Label + ". " + where),
		}})
	}
	return out
}
