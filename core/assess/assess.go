// Package assess is a job as the people at work on it see it: what follows from the
// document and the log, and which entries may be added now. It runs where the
// job is: on the server, and, compiled to WebAssembly, on a device without signal.
package assess

import (
	"strings"
	"time"

	"dogbolt/core/charger"
	"dogbolt/core/charging"
	"dogbolt/core/clearance"
	"dogbolt/core/commission"
	"dogbolt/core/demand"
	"dogbolt/core/inspect"
	"dogbolt/core/job"
	"dogbolt/core/loadmgmt"
	"dogbolt/core/quantity"
	"dogbolt/core/rulebook"
	"dogbolt/core/worklog"
)

// WorkPolicy is what the firm has settled about work on site. A zero
// value is usable: the published and usual figures hold.
type WorkPolicy struct {
	Instruments map[string]string `json:"instruments,omitempty" doc:"Last day of each instrument's calibration, by its serial or inventory number in lower case."`
	SleepHours  float64           `json:"sleepHours,omitempty" doc:"How long the log may be silent before dead is proved again, h; 0 for the usual."`
	Second      bool              `json:"secondPerson,omitempty" doc:"Does a second person see every torque?"`
	Apart       bool              `json:"testApart,omitempty" doc:"Is the test by another person than the work?"`
	Types       []charger.Type    `json:"types,omitempty" doc:"The firm's own types of charger."`
	// Costs are in the country's money, by its id.
	Costs map[string]loadmgmt.Costs `json:"costs,omitempty" doc:"What a point costs, and the ways out of a small supply, by the id of the country."`
	// Answers judge nothing: a survey offers them to be confirmed.
	Answers map[string]map[string]any `json:"answers,omitempty" doc:"Usual answers of the firm's own, by the id of the country and the field."`
}

// Calibrated is the last day of an instrument's calibration, "" where the firm's
// register does not have it.
func (h *WorkPolicy) Calibrated(instrument string) string {
	return h.Instruments[strings.ToLower(strings.TrimSpace(instrument))]
}

// Sleep is the firm's limit of the log's silence. A firm can only tighten it.
func (h *WorkPolicy) Sleep() time.Duration {
	d := time.Duration(h.SleepHours * float64(time.Hour))
	if d <= 0 || d > worklog.Sleep {
		return worklog.Sleep
	}
	return d
}

// Assessment is what follows from a job.
type Assessment struct {
	Lines     []rulebook.Line               `json:"findings"`
	Spine     []rulebook.Bolt               `json:"spine"`
	Kinds     map[string]job.Kind           `json:"kinds" doc:"What the work on each point is."`
	Steps     []worklog.Status              `json:"steps"`
	Isolation worklog.Isolation             `json:"isolation"`
	Roll      []worklog.Answered            `json:"roll" doc:"Everyone on the job, and whether they answered before switching on."`
	Time      worklog.Time                  `json:"time" doc:"How long the work has taken by its clock."`
	Pairs     []string                      `json:"pairs" doc:"Pairs that must read dead."`
	Terminals []worklog.Terminal            `json:"terminals"`
	Sequences map[string]Sequence           `json:"sequences" doc:"Test sequence of each point."`
	Demand    demand.Result                 `json:"demand"`
	Ceilings  map[string][]charging.Ceiling `json:"ceilings" doc:"What bounds the setting of each point."`
	Told      []Told                        `json:"told" doc:"What is said on the doorstep of each position that was measured and not drawn."`
	Offers    []inspect.Offer               `json:"offers" doc:"What the job knows of the items of the schedule of inspections."`
	Gone      []string                      `json:"gone" doc:"Ids of the entries that were taken back: they stay on the record and count no more."`
}

// Sequence is the test sequence of one point.
type Sequence struct {
	Tests   []commission.Test       `json:"tests"`
	Derived []commission.Derivation `json:"derived" doc:"What may stand by calculation."`
}

// Of assesses a job at a time, with the findings that its lines
// come from.
func Of(j *job.Job, h *WorkPolicy, now time.Time) (Assessment, []rulebook.Finding, error) {
	indexed := *j
	indexed.Index()
	j = &indexed
	book, err := rulebook.For(j)
	if err != nil {
		return Assessment{}, nil, err
	}
	findings, err := rulebook.CheckFor(j, rulebook.Stricter{Sleep: h.Sleep()})
	if err != nil {
		return Assessment{}, nil, err
	}
	work, tests := &book.In.Install, &book.In.Tests
	plan := work.Plan(j)
	d := Assessment{
		Lines: rulebook.Lines(findings), Spine: rulebook.Spine(findings), Demand: book.Demand(j),
		Ceilings: map[string][]charging.Ceiling{}, Sequences: map[string]Sequence{}, Kinds: j.Kinds(),
		Pairs: work.PairsOf(j), Roll: worklog.Roll(j, plan), Time: worklog.Worked(j), Terminals: []worklog.Terminal{},
	}
	d.Isolation = isolation(j, d.Pairs, h, now)
	d.Steps = progress(j, tests, plan, d.Isolation)
	for _, p := range j.Points() {
		d.Ceilings[p.ID] = charging.Ceilings(j, p, d.Demand, book.In.Systems)
		d.Terminals = append(d.Terminals, work.Terminals(p)...)
		p.Circuit.Point = p.ID
		d.Sequences[p.ID] = Sequence{tests.Sequence(p.Circuit), derive(j, tests, &p.Circuit)}
	}
	d.Offers = book.In.Inspect.Offers(j, knownOf(j, book, findings, plan))
	d.Gone = gone(j)
	d.Told = told(j, h, book, findings, d.Ceilings)
	return d, findings, nil
}

// knownOf is what a schedule of inspections may take from a job: what is judged sound wherever it is
// judged, and what was done on every point.
func knownOf(j *job.Job, book *rulebook.Book, findings []rulebook.Finding, plan []worklog.Step) inspect.Known {
	sound, titles, done := map[string]bool{}, map[string]string{}, map[string]bool{}
	for i := range findings {
		f := &findings[i]
		titles[f.Rule] = f.Title
		before, judged := sound[f.Rule]
		sound[f.Rule] = f.Verdict == rulebook.Sound && (before || !judged)
	}
	for i := range plan {
		s := &plan[i]
		_, ok := j.Latest(job.StepDone, s.Point, s.ID)
		before, met := done[s.ID]
		done[s.ID] = ok && (before || !met)
	}
	return inspect.Known{
		Sound: func(rule string) bool { return sound[rule] },
		Done:  func(step string) bool { return done[step] },
		Title: func(rule string) string { return titles[rule] },
	}
}

// gone lists the entries of a job that were taken back.
func gone(j *job.Job) []string {
	ids := []string{}
	for _, e := range j.Of(job.TakenBack) {
		if k := j.Place(e.Replaces); k >= 0 && j.Gone(&j.Log[k]) {
			ids = append(ids, e.Replaces)
		}
	}
	return ids
}

// IsolationOf is the one part of a job's assessment that the time changes: how isolated it is.
func IsolationOf(j *job.Job, h *WorkPolicy, now time.Time) (worklog.Isolation, error) {
	book, err := rulebook.For(j)
	if err != nil {
		return worklog.Isolation{}, err
	}
	return isolation(j, book.In.Install.PairsOf(j), h, now), nil
}

func isolation(j *job.Job, pairs []string, h *WorkPolicy, now time.Time) worklog.Isolation {
	return worklog.StateOf(j, pairs, now, h.Sleep())
}

func progress(j *job.Job, tests *commission.Practice, plan []worklog.Step, iso worklog.Isolation) []worklog.Status {
	steps := worklog.Progress(j, plan, iso, func(point string) bool {
		p, _ := j.Point(point)
		p.Circuit.Point = point
		return tests.DeadTested(j, p.Circuit)
	})
	if len(j.Clearances.Papers) == 0 {
		return steps
	}
	held := map[job.Before][]clearance.Blocker{"": nil}
	for i := range steps {
		if steps[i].Done {
			continue
		}
		event := waitsOn(steps[i].ID)
		list, known := held[event]
		if !known {
			list = clearance.Blocking(j, event)
			held[event] = list
		}
		steps[i].Papers = list
	}
	return steps
}

// derive works out what of a point's sequence may stand by calculation.
func derive(j *job.Job, tests *commission.Practice, c *job.Circuit) []commission.Derivation {
	if tests.Derive == nil {
		return []commission.Derivation{}
	}
	read := map[string]quantity.Reading{}
	for _, id := range []string{commission.Ze, commission.LoopLN, commission.R1R2, commission.R1R2L2, commission.R1R2L3} {
		e, ok := j.Latest(job.ReadingMade, c.Point, id)
		if !ok {
			continue
		}
		if r, err := quantity.ParseReading(e.Value, "Ω"); err == nil {
			read[id] = r
		}
	}
	if list := tests.Derive(read, &j.Survey.Supply); list != nil {
		return list
	}
	return []commission.Derivation{}
}
