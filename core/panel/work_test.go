package panel

import (
	"reflect"
	"testing"

	"dogbolt/core/job"
)

// TestWork: the work on a map is what makes room for each point, one after the other, and the map that is left when it is done.
// Spaces and doubles: NEC 408.54 and the board's label (from memory); the rest is common practice.
func TestWork(t *testing.T) {
	full := columns(4, []int{2, 4}, single(1, "a"), single(2, "b"), single(3, "c"), single(4, "d"))
	full.Slots[1].Rating = 20
	apart := columns(8, nil, single(1, "a"), single(2, "b"), pair(4, "range"), single(5, "c"))
	own := columns(8, nil, single(2, "b"), pair(3, "dryer"))
	own.Rearrangement = job.Rearrangement{At: 1, Moves: []job.Shift{{From: 3, To: 6}}}
	tooFull := columns(4, nil, single(1, "a"), single(2, "b"), single(3, "c"), single(4, "d"))
	for _, c := range []struct {
		name  string
		board *job.Board
		does  bool
		said  []string
		freed []int
		at    map[int]string // what is in some spaces after the work
	}{
		{"two share doubles", full, true, []string{"a from 1 to 2, on a double with b", "c from 3 to 4, on a double with d"}, nil,
			map[int]string{1: "charging point A", 2: "a/b", 4: "c/d"}},
		{"one moves, its space is taken", apart, true, []string{"a from 1 to 7"}, nil, map[int]string{1: "charging point A", 7: "a"}},
		{"a two-pole moves, one of its spaces stays free", own, true, []string{"dryer from 3 to 6"}, []int{5}, map[int]string{1: "charging point A", 6: "dryer"}},
		{"no room", tooFull, false, nil, nil, nil},
		{"no map", &job.Board{}, false, nil, nil, nil},
	} {
		j := job.Job{Survey: job.Survey{Board: *c.board, Places: []job.Place{{Point: "A"}}}, Design: job.Design{Circuits: []job.Circuit{{Point: "A"}}}}
		w, does := WorkOf(&j)
		if does != c.does {
			t.Errorf("%s: %t, %s", c.name, does, w.Fits[0].Why)
			continue
		}
		var said []string
		for i := range w.Moves {
			said = append(said, w.Moves[i].Said())
		}
		if !reflect.DeepEqual(said, c.said) || !reflect.DeepEqual(w.Freed, c.freed) {
			t.Errorf("%s: %q, freed %v; want %q, %v", c.name, said, w.Freed, c.said, c.freed)
		}
		for at, want := range c.at {
			is := ""
			for _, s := range w.After.Slots {
				if s.At == at {
					if is = s.Circuit; s.Double != "" {
						is += "/" + s.Double
					}
				}
			}
			if is != want {
				t.Errorf("%s: in %d %q, want %q", c.name, at, is, want)
			}
		}
	}
	if Rating(full, "b") != 20 || Rating(full, "nobody") != 0 {
		t.Error("rating of a circuit")
	}
	// On a small board beside it, or on a circuit that is there, nothing is moved.
	j := job.Job{Survey: job.Survey{Board: *full, Places: []job.Place{{Point: "A"}}}, Design: job.Design{Circuits: []job.Circuit{{Point: "A", Existing: job.Yes}}}}
	if _, does := WorkOf(&j); does {
		t.Error("circuits are moved for a breaker that is there")
	}
	j.Design.Circuits[0].Existing, j.Design.Beside.Fitted = "", job.Yes
	if _, does := WorkOf(&j); does {
		t.Error("circuits are moved for a small board beside")
	}
}
