package planning

import (
	"math"
	"time"

	"dogbolt/core/job"
	"dogbolt/core/worklog"
)

// Model reckons how long a job takes: so many hours to begin with, and so many
// for each point, segment, metre, wall, metre in the ground and board move.
type Model struct {
	Hours []float64 `json:"hours" doc:"To begin with, then for each point, segment, metre, wall, metre in the ground, and move on the board."`
	Jobs  int       `json:"jobs" doc:"Past jobs that it has learnt from."`
	Error float64   `json:"error" doc:"Usual error on those, h; 0 where there are none."`
}

var effortNames = []string{"points", "segments", "metres", "walls", "metres in the ground", "moves on the board"}

// Usual are the hours before anything is learnt. Common practice, no source.
var Usual = Model{Hours: []float64{1.5, 1.0, 0.2, 0.04, 0.4, 0.25, 0.3}}

// List returns what makes a job long, in the order of Model.Hours.
func (e Effort) List() []float64 {
	return []float64{1, e.Points, e.Segments, e.Metres, e.Walls, e.Buried, e.Board}
}

// Estimate returns the hours of a job, to the next quarter, at least one.
func (m Model) Estimate(e Effort) float64 {
	h := 0.0
	for i, v := range e.List() {
		h += v * m.Hours[i]
	}
	return max(1, math.Round(h*4)/4)
}

// Past is a job that is done, with the hours it took.
type Past struct {
	Effort Effort
	Hours  float64
}

// longestPause is the gap in a log above which nobody was at work. Common
// practice, no source.
const longestPause = 3 * time.Hour

// Logged returns the hours that the crew was at work: by the clock that it kept,
// or else from the first step of the log to its last entry, without gaps above
// three hours. ok is false
// where the job was not brought to its end, or no time passed.
func Logged(j *job.Job) (hours float64, ok bool) {
	if t := worklog.Worked(j); t.State == worklog.Done && t.Hours > 0 {
		return t.Hours, true // by the crew's own clock
	}
	var at []time.Time
	done := false
	for _, e := range j.Log {
		switch e.Kind {
		case job.StepDone, job.ReadingMade, job.TorqueMade, job.SettingMade:
			at = append(at, e.At)
		}
		done = done || e.Kind == job.StepDone && e.Subject == worklog.Energise
	}
	var d time.Duration
	for i := 1; i < len(at); i++ {
		if gap := at[i].Sub(at[i-1]); gap > 0 && gap <= longestPause {
			d += gap
		}
	}
	return d.Hours(), done && d > 0
}
