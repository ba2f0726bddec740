package panel

import (
	"strconv"

	"dogbolt/core/job"
)

// Work is what a job does on its board's map.
type Work struct {
	Fits  []Fit     // for each point of Needed, in its order
	Moves []Move    // of all of them, in the order of work
	After job.Board // the map when the work is done
	Freed []int     // spaces that had a device before and have none after
}

// WorkOf returns the work on a job's board, and whether there is a map on which it can be done.
func WorkOf(j *job.Job) (Work, bool) {
	bd, points := &j.Survey.Board, Needed(j)
	w := Work{Fits: Of(j), After: *bd}
	last := w.Fits[len(w.Fits)-1]
	if len(bd.Slots) == 0 || len(points) == 0 || points[0].ID == "" || j.Design.Beside.Fitted == job.Yes || !last.Mapped || !last.Fits {
		return w, false
	}
	for i, f := range w.Fits {
		w.Moves = append(w.Moves, f.Moves...)
		w.After = With(&w.After, f)
		fitted := &w.After.Slots[len(w.After.Slots)-1]
		fitted.Circuit, fitted.Rating = "charging point "+points[i].ID, points[i].Circuit.Breaker.Rating
	}
	was, is := newBoard(bd), newBoard(&w.After)
	for n := 1; n <= bd.Ways; n++ {
		if was.holds[n][0] != 0 && is.holds[n][0] == 0 {
			w.Freed = append(w.Freed, n)
		}
	}
	return w, true
}

// Rating is the rating of a circuit's device on a board, A; 0 where nobody knows.
func Rating(b *job.Board, circuit string) float64 {
	for _, s := range b.Slots {
		if called(s.Circuit, s.At) == circuit || s.Double == circuit {
			return float64(s.Rating)
		}
	}
	return 0
}

// Said is a move in words: "cooker from 3 to 5, on a double with lights".
func (m *Move) Said() string {
	said := m.Circuit + " from " + strconv.Itoa(m.From) + " to " + strconv.Itoa(m.To)
	if m.With != "" {
		said += ", on a double with " + m.With
	}
	return said
}
