// Package learn fits how long jobs take to those that are done. It stands apart from
// planning because the linear algebra that it needs is no business of a device that
// judges without signal.
package learn

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/mat"

	"dogbolt/core/planning"
)

// pull is how strongly learning holds on to Usual, by hours: a past job counts
// as much as 1/pull of it. Chosen so that about five jobs move a figure half way.
const pull = 5

// scale is the usual size of each effort, which makes the pull alike for all.
var scale = []float64{1, 1, 3, 15, 2, 6, 1}

// From fits the hours to past jobs by least squares, held to the usual figures
// (ridge regression: Hoerl and Kennard, Technometrics 12, 1970, from memory), so
// that few jobs move them little. No figure becomes negative.
func From(past []planning.Past) (planning.Model, error) {
	n := len(planning.Usual.Hours)
	m := planning.Model{Hours: append([]float64{}, planning.Usual.Hours...), Jobs: len(past)}
	if len(past) == 0 {
		return m, nil
	}
	a, b := mat.NewSymDense(n, nil), mat.NewVecDense(n, nil)
	for i, s := range scale {
		a.SetSym(i, i, pull*s*s)
		b.SetVec(i, pull*s*s*planning.Usual.Hours[i])
	}
	for _, p := range past {
		x := p.Effort.List()
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
