package worklog

import (
	"time"

	"dogbolt/core/job"
)

// The words of the clock of the work.
const (
	Started = "started"
	Paused  = "paused"
	Done    = "done"
)

// Time is how long the work has taken by its clock, and whether it runs.
type Time struct {
	State string        `json:"state,omitempty" enum:"started,paused,done" doc:"What was last said; left out where nothing was."`
	Since time.Time     `json:"since,omitempty,omitzero" doc:"When it was said."`
	Spent time.Duration `json:"-"` // until Since, pauses left out
	Hours float64       `json:"hours" doc:"Worked until then, pauses left out, h."`
}

// Worked adds up the times between started and paused or done. A start that
// follows a start, and a pause of what does not run, change nothing.
func Worked(log []job.Entry) Time {
	var t Time
	for i := range log {
		e := &log[i]
		if e.Kind != job.StepDone || e.Subject != Clock || e.Value == t.State {
			continue
		}
		if t.State == Started {
			t.Spent += e.At.Sub(t.Since)
		}
		t.State, t.Since = e.Value, e.At
	}
	t.Hours = t.Spent.Hours()
	return t
}
