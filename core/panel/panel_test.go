package panel

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"dogbolt/core/job"
)

func columns(ways int, doubles []int, slots ...job.Slot) *job.Board {
	return &job.Board{Layout: "columns", Ways: ways, DoublesAt: doubles, Slots: slots}
}

func single(at int, circuit string) job.Slot { return job.Slot{At: at, Poles: 1, Circuit: circuit} }
func pair(at int, circuit string) job.Slot   { return job.Slot{At: at, Poles: 2, Circuit: circuit} }

// TestHandMade are boards as a surveyor meets them. What a two-pole breaker and
// a half-width double may do is NEC 408.54, 210.4 and the board's label (from
// memory); the rest is common practice.
func TestHandMade(t *testing.T) {
	multiwire := single(2, "kitchen left")
	multiwire.Multiwire = job.Yes
	main := job.Slot{At: 1, Poles: 2, Circuit: "main switch", Fixed: job.Yes}
	cases := []struct {
		name  string
		board *job.Board
		poles int
		fits  bool
		moves int
		says  string
	}{
		{"a free pair", columns(8, nil, single(1, "a"), single(2, "b"), single(3, "c"), single(4, "d")), 2, true, 0, "in 5 and 7 as it is"},
		{"two free on one row are no pair", columns(4, nil, single(1, "a"), single(2, "b")), 2, true, 1, "after one move"},
		{"full, no doubles allowed", columns(4, nil, single(1, "a"), single(2, "b"), single(3, "c"), single(4, "d")), 2, false, 0, "no room"},
		{"full, two doubles allowed", columns(4, []int{2, 4}, single(1, "a"), single(2, "b"), single(3, "c"), single(4, "d")), 2, true, 2, "on a double with"},
		{"full, one double allowed", columns(4, []int{4}, single(1, "a"), single(2, "b"), single(3, "c"), single(4, "d")), 2, false, 0, "no room"},
		{"a multiwire circuit does not go on a double", columns(4, []int{2, 4}, single(1, "a"), multiwire, single(3, "c"), single(4, "d")), 2, false, 0, "no room"},
		{"a two-pole makes way", columns(8, nil, single(1, "a"), pair(3, "dryer"), pair(4, "range")), 2, true, 1, ""},
		{"UK: a gap of two in one row", &job.Board{Layout: "rows", Rows: 1, Ways: 6, Slots: []job.Slot{main, single(3, "ring"), single(4, "lights")}}, 2, true, 0, "in 5 and 6"},
		{"UK: the gap is split by the row's end", &job.Board{Layout: "rows", Rows: 2, Ways: 8, Slots: []job.Slot{main, single(3, "ring"), pair(6, "shower"), single(8, "lights")}}, 2, true, 1, "after one move"},
		{"UK: one way for a single-module device", &job.Board{Layout: "rows", Rows: 1, Ways: 4, Slots: []job.Slot{main, single(3, "ring")}}, 1, true, 0, "in 4 as it is"},
		{"UK: full", &job.Board{Layout: "rows", Rows: 1, Ways: 4, Slots: []job.Slot{main, single(3, "ring"), single(4, "lights")}}, 2, false, 0, "no room"},
	}
	for _, c := range cases {
		f := For(c.board, c.poles)
		if f.Fits != c.fits || len(f.Moves) != c.moves || !strings.Contains(f.Why, c.says) {
			t.Errorf("%s: fits %t with %d moves, %q; want %t with %d, %q", c.name, f.Fits, len(f.Moves), f.Why, c.fits, c.moves, c.says)
		}
	}
}

// TestCircuitsAndLabel keeps the two questions apart: room, and the circuits
// that the label allows. A two-pole breaker counts as two (408.54).
func TestCircuitsAndLabel(t *testing.T) {
	b := columns(12, nil, single(1, "a"), pair(2, "range"))
	b.Slots[0].Double = "a2"
	b.CircuitsMax = 6
	if f := For(b, 2); !f.Fits || f.Circuits != 6 || len(f.Odd) != 1 || !strings.Contains(f.Odd[0], "space 1") {
		t.Errorf("1 double + 1 two-pole + 1 new two-pole: %+v, want 6 circuits and the double named", f)
	}
	b.CircuitsMax = 5
	if f := For(b, 2); f.Fits || !strings.Contains(f.Why, "allows 5 circuits, with the new breaker there are 6") {
		t.Errorf("over the label's circuits: %+v", f)
	}
	if f := For(&job.Board{Ways: 12}, 2); f.Mapped || f.Why == "" {
		t.Errorf("no map: %+v", f)
	}
}

// stands reports whether a board holds with its circuits in the places and a new breaker
// from a space on, with nothing of the search that it checks.
func stands(p *board, places []int, at, poles int) bool {
	count := make([]int, p.ways+1)
	for i, at := range places {
		s, ok := p.room(at, p.items[i].poles)
		if !ok {
			return false
		}
		for _, n := range s[:p.items[i].poles] {
			if count[n] += 3 - min(p.items[i].poles, 2); p.items[i].poles > 1 || p.items[i].alone || p.items[i].fixed {
				count[n] += 10
			}
		}
	}
	for n := 1; n <= p.ways; n++ {
		// One two-pole or lone single, or one single, or two singles where allowed.
		if c := count[n]; c > 12 || c == 4 && !p.doubles[n] && !wasDouble(p, places, n) || c > 4 && c < 11 {
			return false
		}
	}
	s, ok := p.room(at, poles)
	for _, n := range s[:poles] {
		ok = ok && count[n] == 0
	}
	return ok
}

// leastMoves tries every set of circuits and every way to put them back, with
// nothing of the search that it checks.
func leastMoves(b *job.Board, poles int) int {
	p := newBoard(b)
	fill := func(places []int) bool {
		for at := 1; at <= p.ways; at++ {
			if stands(p, places, at, poles) {
				return true
			}
		}
		return false
	}
	places := make([]int, len(p.items))
	for i := range p.items {
		places[i] = p.items[i].at
	}
	var try func(from, left int) bool
	try = func(from, left int) bool {
		if left == 0 {
			return fill(places)
		}
		for i := from; i < len(p.items); i++ {
			if p.items[i].fixed || p.items[i].alone {
				continue
			}
			was := places[i]
			for at := 1; at <= p.ways; at++ {
				if places[i] = at; at != was && try(i+1, left-1) {
					return true
				}
			}
			places[i] = was
		}
		return false
	}
	for k := range MostMoves + 1 {
		if try(0, k) {
			return k
		}
	}
	return -1
}

// wasDouble reports whether both items of a space stood there before: a double
// that is where it should not be is reported, not taken apart.
func wasDouble(p *board, places []int, n int) bool {
	for i, at := range places {
		if at == n && p.items[i].at != n {
			return false
		}
	}
	return true
}

// arrange enters the plan that was found as a person's own, and twenty at random: each is
// judged as the board itself says. It returns how many of them held.
func arrange(t *testing.T, r *rand.Rand, b *job.Board, f Fit) (held int) {
	t.Helper()
	p := newBoard(b)
	try := func(a job.Rearrangement, want bool) {
		own := *b
		own.Rearrangement = a
		got := For(&own, 2)
		if got.Fits != want || !got.Own || want && (got.At[0] != a.At || len(got.Moves) != len(a.Moves)) {
			t.Fatalf("board %+v: %v, fits %t wanted", own, got, want)
		}
		if want {
			held++
		}
	}
	if f.Fits {
		a := job.Rearrangement{At: f.At[0]}
		for _, m := range f.Moves {
			a.Moves = append(a.Moves, job.Shift{From: m.From, To: m.To})
		}
		try(a, true)
	}
	for range 20 {
		a := job.Rearrangement{At: 1 + r.IntN(p.ways)}
		places, want := make([]int, len(p.items)), true
		for i := range p.items {
			places[i] = p.items[i].at
			if r.IntN(3) == 0 {
				places[i] = 1 + r.IntN(p.ways)
				want = want && !p.items[i].fixed && !p.items[i].alone
				a.Moves = append(a.Moves, job.Shift{From: p.items[i].at, To: places[i]})
			}
		}
		try(a, want && stands(p, places, a.At, 2))
	}
	return held
}

// TestOwnArrangement: what does not hold in a person's own arrangement is named.
func TestOwnArrangement(t *testing.T) {
	main := job.Slot{At: 1, Poles: 2, Circuit: "main switch", Fixed: job.Yes}
	double := single(2, "a")
	double.Double = "b"
	lone := single(4, "c")
	lone.Multiwire = job.Yes
	b := columns(8, []int{2, 6}, main, double, lone, single(5, "d"), single(6, "e"))
	for _, c := range []struct {
		name  string
		at    int
		moves []job.Shift
		says  string
	}{
		{"as it is", 7, nil, "no room for the new breaker from space 7 on"},
		{"one to make room", 5, []job.Shift{{From: 5, To: 6}}, "fits in 5 and 7 after one move: d from 5 to 6, on a double with e"},
		{"the second of a double", 5, []job.Shift{{From: 2, Second: job.Yes, To: 8}, {From: 5, To: 2}}, "b from 2 to 8; d from 5 to 2, on a double with a"},
		{"no second there", 5, []job.Shift{{From: 5, Second: job.Yes, To: 8}}, "no such circuit begins in space 5; d stands where"},
		{"the main switch", 5, []job.Shift{{From: 1, To: 6}}, "main switch is fixed where it is"},
		{"half of a multiwire circuit", 6, []job.Shift{{From: 4, To: 7}}, "c shares its neutral"},
		{"twice", 5, []job.Shift{{From: 5, To: 8}, {From: 5, To: 7}}, "d is moved twice"},
		{"onto another", 5, []job.Shift{{From: 5, To: 4}}, "space 4 is taken by c"},
		{"off the panel", 5, []job.Shift{{From: 5, To: 9}}, "no room for d from space 9 on"},
	} {
		b.Rearrangement = job.Rearrangement{At: c.at, Moves: c.moves}
		if f := For(b, 2); !strings.Contains(f.Why, c.says) || f.Fits != strings.HasPrefix(f.Why, "fits") {
			t.Errorf("%s: %q, want %q", c.name, f.Why, c.says)
		}
	}
	// The next breaker is the program's to place, on the board that comes of it.
	b.Rearrangement = job.Rearrangement{At: 5, Moves: []job.Shift{{From: 5, To: 6}}}
	if list := ForAll(b, 1, 2); len(list) != 2 || !list[1].Fits || list[1].Own {
		t.Errorf("%+v", list)
	}
}

func TestAgainstEveryRearrangement(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 5))
	fits, judged := 0, 0
	for n := range 150 {
		b := &job.Board{Layout: "columns", Ways: 6 + 2*r.IntN(2)}
		if n%3 == 0 {
			b.Layout, b.Rows = "rows", 1+r.IntN(2)
		}
		taken := map[int]bool{}
		p := newBoard(b)
		for at := 1; at <= b.Ways; at++ {
			if b.Layout == "columns" && r.IntN(4) == 0 {
				b.DoublesAt = append(b.DoublesAt, at)
			}
			poles := 1 + r.IntN(3)/2
			s, ok := p.room(at, poles)
			if !ok || taken[at] || taken[s[poles-1]] || r.IntN(8) == 0 || len(b.Slots) == 5 {
				continue
			}
			slot := job.Slot{At: at, Poles: poles, Circuit: fmt.Sprint("c", at)}
			if r.IntN(7) == 0 {
				slot.Fixed = job.Yes
			} else if poles == 1 && r.IntN(7) == 0 && b.Layout == "columns" {
				slot.Multiwire = job.Yes
			}
			for _, x := range s[:poles] {
				taken[x] = true
			}
			b.Slots = append(b.Slots, slot)
		}
		if len(b.Slots) == 0 {
			continue
		}
		want := leastMoves(b, 2)
		f := For(b, 2)
		got := -1
		if f.Fits {
			got = len(f.Moves)
			fits++
		}
		if got != want {
			t.Fatalf("board %+v: %d moves (%s), every rearrangement says %d", b, got, f.Why, want)
		}
		judged += arrange(t, r, b, f)
	}
	if judged < 30 {
		t.Errorf("only %d arrangements at random held", judged)
	}
	if fits < 30 {
		t.Errorf("only %d boards had a way: the scenes test little", fits)
	}
}

// BenchmarkFull is a full panel of 40 spaces with six doubles allowed.
func BenchmarkFull(b *testing.B) {
	board := columns(40, []int{35, 36, 37, 38, 39, 40})
	for n := 1; n <= 40; n++ {
		board.Slots = append(board.Slots, single(n, fmt.Sprint("c", n)))
	}
	for b.Loop() {
		if f := For(board, 2); !f.Fits {
			b.Fatal(f.Why)
		}
	}
}

// TestKept: a circuit that is kept takes no space, on a full board too; a new one beside it does.
func TestKept(t *testing.T) {
	full := job.Board{Ways: 2, Slots: []job.Slot{{At: 1, Poles: 2, Circuit: "shower"}}}
	j := job.Job{Survey: job.Survey{Board: full, Places: []job.Place{{Point: "A"}}}, Design: job.Design{Circuits: []job.Circuit{{Point: "A", Existing: job.Yes}}}}
	if fits := Of(&j); len(fits) != 1 || !fits[0].Fits || len(fits[0].At)+len(fits[0].Moves) > 0 {
		t.Errorf("%+v", fits)
	}
	j.Survey.Places, j.Design.Circuits = append(j.Survey.Places, job.Place{Point: "B"}), append(j.Design.Circuits, job.Circuit{Point: "B"})
	if fits := Of(&j); fits[len(fits)-1].Fits || len(Needed(&j)) != 1 || Needed(&j)[0].ID != "B" {
		t.Errorf("%+v", fits)
	}
	if n := len(Needed(&job.Job{})); n != 1 {
		t.Errorf("%d devices of a job that nobody surveyed", n)
	}
}
