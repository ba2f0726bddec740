package planning

import (
	"fmt"
	"math"
	"time"

	"gonum.org/v1/gonum/mat"

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

// pull is how strongly learning holds on to Usual, by hours: a past job counts
// as much as 1/pull of it. Chosen so that about five jobs move a figure half way.
const pull = 5

// scale is the usual size of each effort, which makes the pull alike for all.
var scale = []float64{1, 1, 3, 15, 2, 6, 1}

func (e Effort) list() []float64 {
	return []float64{1, e.Points, e.Segments, e.Metres, e.Walls, e.Buried, e.Board}
}

// Estimate returns the hours of a job, to the next quarter, at least one.
func (m Model) Estimate(e Effort) float64 {
	h := 0.0
	for i, v := range e.list() {
		h += v * m.Hours[i]
	}
	return max(1, math.Round(h*4)/4)
}

// Past is a job that is done, with the hours it took.
type Past struct {
	Effort Effort
	Hours  float64
}

// Learn fits the hours to past jobs by least squares, held to the usual figures
// (ridge regression: Hoerl and Kennard, Technometrics 12, 1970, from memory), so
// that few jobs move them little. No figure becomes negative.
func Learn(past []Past) (Model, error) {
	n := len(Usual.Hours)
	m := Model{Hours: append([]float64{}, Usual.Hours...), Jobs: len(past)}
	if len(past) == 0 {
		return m, nil
	}
	a, b := mat.NewSymDense(n, nil), mat.NewVecDense(n, nil)
	for i, s := range scale {
		a.SetSym(i, i, pull*s*s)
		b.SetVec(i, pull*s*s*Usual.Hours[i])
	}
	for _, p := range past {
		x := p.Effort.list()
		for i := range n {
			for k := i; k < n; k++ {
				a.SetSym(i, k, a.At(i, k)+x[i]*x[k])
			}
			b.SetVec(i, b.AtVec(i)+x[i]*p.Hours)
		}
	}
	var chol mat.Cholesky
	if !chol.Factorize(a) {
		return m, fmt.Errorf("durations of %d past jobs cannot be fitted", len(past))
	}
	var out mat.VecDense
	if err := chol.SolveVecTo(&out, b); err != nil {
		return m, fmt.Errorf("durations of %d past jobs: %w", len(past), err)
	}
	for i := range n {
		m.Hours[i] = max(0, out.AtVec(i))
	}
	sum := 0.0
	for _, p := range past {
		d := p.Hours - m.Estimate(p.Effort)
		sum += d * d
	}
	m.Error = math.Sqrt(sum / float64(len(past)))
	return m, nil
}

// longestPause is the gap in a log above which nobody was at work. Common
// practice, no source.
const longestPause = 3 * time.Hour

// Logged returns the hours that the crew was at work: by the clock that it kept,
// or else from the first step of the log to its last entry, without gaps above
// three hours. ok is false
// where the job was not brought to its end, or no time passed.
func Logged(j *job.Job) (hours float64, ok bool) {
	if t := worklog.Worked(j.Log); t.State == worklog.Done && t.Hours > 0 {
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
