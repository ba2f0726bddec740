package worklog

import (
	"time"

	"dogbolt/core/job"
	"dogbolt/core/schema"
)

// ClockState is what the clock of the work says.
type ClockState string

// What the clock of the work says.
const (
	Started ClockState = "started"
	Paused  ClockState = "paused"
	Done    ClockState = "done"
)

// Values lists what the clock of the work says.
func (ClockState) Values() []string { return schema.Words(Started, Paused, Done) }

// Time is how long the work has taken by its clock, and whether it runs.
type Time struct {
	State ClockState    `json:"state,omitempty" doc:"What was last said; left out where nothing was."`
	Since time.Time     `json:"since,omitempty,omitzero" doc:"When it was said."`
	Spent time.Duration `json:"-"` // until Since, pauses left out
	Hours float64       `json:"hours" doc:"Worked until then, pauses left out, h."`
}

// Worked adds up the times between started and paused or done. A start that
// follows a start, and a pause of what does not run, change nothing.
func Worked(j *job.Job) Time {
	var t Time
	for _, e := range j.Of(job.StepDone) {
		if e.Subject != Clock || ClockState(e.Value) == t.State {
			continue
		}
		if t.State == Started {
			t.Spent += e.At.Sub(t.Since)
		}
		t.State, t.Since = ClockState(e.Value), e.At
	}
	t.Hours = t.Spent.Hours()
	return t
}
