// Package panel answers whether a breaker can be fitted to a board as it
// stands: at once, after moving what is there, or not at all.
package panel

import (
	"slices"
	"strconv"
	"strings"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// MostMoves is the greatest number of circuits that a plan moves. More is a new
// board, not a rearrangement. Common practice, no source.
const MostMoves = 4

// mostTries bounds the search; a board that needs more is reported as such.
const mostTries = 400_000

// Move is one circuit moved to another space.
type Move struct {
	Circuit string `json:"circuit"`
	From    int    `json:"from" doc:"First space that it leaves."`
	To      int    `json:"to" doc:"First space that it goes to."`
	With    string `json:"with,omitempty" doc:"Circuit that it shares a half-width double with in its new space."`
}

// Fit is the answer for one new breaker.
type Fit struct {
	Mapped      bool     `json:"mapped" doc:"The board has a map: without one nothing is computed."`
	Fits        bool     `json:"fits"`
	Poles       int      `json:"poles" doc:"Ways or spaces that the new breaker takes."`
	At          []int    `json:"at,omitempty" doc:"Spaces that it takes."`
	Moves       []Move   `json:"moves,omitempty" doc:"Fewest moves that make room."`
	Free        []int    `json:"free,omitempty" doc:"Spaces that are free now."`
	Circuits    int      `json:"circuits" doc:"Circuits on the board with the new breaker; a pole is one."`
	CircuitsMax int      `json:"circuitsMax,omitempty" doc:"Circuits that the label allows; 0 where it does not say."`
	Own         bool     `json:"own,omitempty" doc:"It is the arrangement that a person entered, judged; else the program's own."`
	Why         string   `json:"why" doc:"The answer in words."`
	Odd         []string `json:"odd,omitempty" doc:"What is not as the label allows now."`
}

// item is one circuit on the board. A double is two items in one space.
type item struct {
	circuit string
	at      int // first space
	poles   int
	fixed   bool
	alone   bool // may not share a space: a multiwire circuit
	rating  quantity.Ampere
}

// board is a panel while it is rearranged.
type board struct {
	ways, step, row int    // row: ways in a row; 0 for columns
	doubles         []bool // by space
	items           []item
	holds           [][2]int // by space: up to two items plus one, 0 for none
	moved           []bool   // items that a plan has placed already
	target          []bool   // spaces that the new breaker takes
	tries           int
}

func newBoard(b *job.Board) *board {
	p := &board{ways: b.Ways, step: b.Step(), doubles: make([]bool, b.Ways+1), holds: make([][2]int, b.Ways+1), target: make([]bool, b.Ways+1)}
	if b.Layout != job.Columns {
		p.row = (b.Ways + max(b.Rows, 1) - 1) / max(b.Rows, 1)
	}
	for _, n := range b.DoublesAt {
		if n >= 1 && n <= b.Ways {
			p.doubles[n] = true
		}
	}
	p.items = make([]item, 0, 2*len(b.Slots))
	for _, s := range b.Slots {
		p.items = append(p.items, item{called(s.Circuit, s.At), s.At, max(s.Poles, 1), s.Fixed == job.Yes, s.Multiwire == job.Yes, s.Rating})
		if s.Double != "" {
			p.items = append(p.items, item{s.Double, s.At, 1, s.Fixed == job.Yes, s.Multiwire == job.Yes, s.Rating})
		}
	}
	p.moved = make([]bool, len(p.items))
	for i := range p.items {
		p.put(i, p.items[i].at)
	}
	return p
}

// put puts an item into its spaces from a first one on; lift takes it out.
func (p *board) put(i, at int) {
	p.items[i].at = at
	for k := range p.items[i].poles {
		if n := at + k*p.step; n <= p.ways {
			h := &p.holds[n]
			h[min(h[0], 1)] = i + 1
		}
	}
}

func (p *board) lift(i int) {
	for k := range p.items[i].poles {
		if n := p.items[i].at + k*p.step; n <= p.ways {
			h := &p.holds[n]
			if h[0] == i+1 {
				h[0] = h[1]
			}
			h[1] = 0
		}
	}
}

func called(circuit string, at int) string {
	if circuit != "" {
		return circuit
	}
	return "the circuit in " + strconv.Itoa(at)
}

// room returns the spaces of an item of the poles from a first one on; false
// where it would run off the bar.
func (p *board) room(at, poles int) (spaces [4]int, ok bool) {
	last := at + (poles-1)*p.step
	if at < 1 || last > p.ways || poles > len(spaces) || p.row > 0 && (at-1)/p.row != (last-1)/p.row {
		return spaces, false
	}
	for i := range poles {
		spaces[i] = at + i*p.step
	}
	return spaces, true
}

// For answers whether a new breaker of the poles fits the board: with no moves
// where a run of spaces is free, else with the fewest moves of singles to free
// spaces, of two-poles to free pairs, and of two singles onto a half-width
// double where the label allows one (NEC 408.54, and the board's label). A
// two-pole breaker counts as two circuits. Fixed devices and circuits that share
// a neutral stay where they are: a multiwire circuit keeps its two legs and its
// common trip (210.4). Where a person has entered an arrangement of their own, that one
// is judged.
func For(b *job.Board, poles int) Fit {
	f := Fit{Poles: poles, CircuitsMax: b.CircuitsMax}
	if b.Layout == "" || b.Ways == 0 || len(b.Slots) == 0 {
		f.Why = "the board has no map yet"
		return f
	}
	f.Mapped = true
	p := newBoard(b)
	for n := 1; n <= p.ways; n++ {
		switch on := p.holds[n]; {
		case on[0] == 0:
			f.Free = append(f.Free, n)
		case on[1] != 0 && !p.doubles[n]:
			f.Odd = append(f.Odd, "a double in space "+strconv.Itoa(n)+", where the label does not allow one")
		case on[1] != 0 && p.items[on[0]-1].alone:
			f.Odd = append(f.Odd, "a circuit that shares its neutral is on the double in space "+strconv.Itoa(n))
		}
	}
	for _, it := range p.items {
		f.Circuits += it.poles
	}
	f.Circuits += poles
	if f.CircuitsMax > 0 && f.Circuits > f.CircuitsMax {
		f.Why = "the label allows " + strconv.Itoa(f.CircuitsMax) + " circuits, with the new breaker there are " + strconv.Itoa(f.Circuits) +
			": no move helps, it takes a sub-board or another board"
		return f
	}
	if b.Rearrangement.At > 0 {
		at, moves, wrong := p.own(&b.Rearrangement, poles)
		f.Own, f.Fits = true, len(wrong) == 0
		if !f.Fits {
			f.Why = "the arrangement does not hold: " + strings.Join(wrong, "; ")
			return f
		}
		f.At, f.Moves, f.Why = at, moves, sentence(at, moves)+", by the arrangement that was entered"
		return f
	}
	for most := range MostMoves + 1 {
		for at := 1; at <= p.ways; at++ {
			target, ok := p.room(at, poles)
			if !ok {
				continue
			}
			if moves, ok := p.clear(target[:poles], most); ok {
				f.Fits, f.At, f.Moves = true, slices.Clone(target[:poles]), moves
				f.Why = sentence(f.At, moves)
				return f
			}
		}
	}
	f.Why = "no room, not even after " + strconv.Itoa(MostMoves) + " moves: it takes a sub-board or another board"
	if p.tries >= mostTries {
		f.Why = "no room found within the search: look for it on the board itself"
	}
	return f
}

// Modules returns the ways or spaces that a point's protective device takes: in
// the United States two, on both legs; in the United Kingdom two for a device that
// opens line and neutral, four for a three-phase one, and one for a single module
// that opens both poles.
func Modules(j *job.Job) int {
	if s := j.Survey.Supply.System; s == job.Split240 || s == job.Wye208 || s == job.IslandSplit {
		return 2
	}
	for _, c := range j.Design.Circuits {
		if c.Charger.Phases == 3 {
			return 4
		}
		if c.Breaker.Poles == 1 && c.RCD.AllPoles == job.Yes {
			return 1
		}
	}
	return 2
}

// Needed lists the points of a job whose circuit asks for a new device; one where nothing is surveyed yet.
func Needed(j *job.Job) []job.Point {
	points := slices.DeleteFunc(j.Points(), func(p job.Point) bool { return p.Circuit.Kept() })
	if len(j.Survey.Places) == 0 {
		return []job.Point{{}}
	}
	return points
}

// Of answers for a device for each point of Needed; for a job that needs none that there is room.
func Of(j *job.Job) []Fit {
	n := len(Needed(j))
	if j.Design.Beside.Fitted == job.Yes {
		return []Fit{{Mapped: true, Fits: true, Why: "on a new one: no space of it is taken"}}
	}
	if n == 0 {
		return []Fit{{Mapped: true, Fits: true, Why: "the circuit is there already: no space is taken"}}
	}
	return ForAll(&j.Survey.Board, Modules(j), n)
}

// ForAll answers for several new breakers of the poles, one after the other,
// each with those before it in place; it ends with the first that does not fit.
func ForAll(b *job.Board, poles, n int) []Fit {
	var out []Fit
	for range n {
		f := For(b, poles)
		out = append(out, f)
		if !f.Fits || len(out) == n {
			break
		}
		next := With(b, f)
		b = &next
	}
	return out
}

// With returns a board with the moves of a fit made and its new breaker in place, as the last of its slots; as it
// is where it does not fit.
func With(b *job.Board, f Fit) job.Board {
	if !f.Fits || len(f.At) == 0 {
		return *b
	}
	out := *b
	p := newBoard(b)
	for _, m := range f.Moves {
		for i := range p.items {
			if p.items[i].at == m.From && p.items[i].circuit == m.Circuit {
				p.items[i].at = m.To
				break
			}
		}
	}
	out.Slots, out.Rearrangement = nil, job.Rearrangement{}
	for _, it := range p.items {
		s := job.Slot{At: it.at, Poles: it.poles, Circuit: it.circuit, Rating: it.rating}
		if it.fixed {
			s.Fixed = job.Yes
		}
		if it.alone {
			s.Multiwire = job.Yes
		}
		if k := slices.IndexFunc(out.Slots, func(o job.Slot) bool { return o.At == it.at }); k >= 0 {
			out.Slots[k].Double = it.circuit
			continue
		}
		out.Slots = append(out.Slots, s)
	}
	out.Slots = append(out.Slots, job.Slot{At: f.At[0], Poles: f.Poles, Circuit: "the new circuit", Fixed: job.Yes})
	return out
}

func sentence(target []int, moves []Move) string {
	where := "in " + Numbers(target)
	if len(moves) == 0 {
		return "fits " + where + " as it is"
	}
	said := make([]string, len(moves))
	for i := range moves {
		said[i] = moves[i].Said()
	}
	return "fits " + where + " after " + count(len(moves), "move") + ": " + strings.Join(said, "; ")
}

func count(n int, word string) string {
	if n == 1 {
		return "one " + word
	}
	return strconv.Itoa(n) + " " + word + "s"
}

// Numbers writes spaces as people say them: "3 and 5".
func Numbers(list []int) string {
	words := make([]string, len(list))
	for i, n := range list {
		words[i] = strconv.Itoa(n)
	}
	if len(words) < 2 {
		return strings.Join(words, "")
	}
	return strings.Join(words[:len(words)-1], ", ") + " and " + words[len(words)-1]
}

// clear tries to empty the target with at most the given moves. The order of
// moves does not matter: the board is dead while breakers change places, so a
// plan is a set of circuits with new places, and each moves once.
func (p *board) clear(target []int, most int) ([]Move, bool) {
	var waiting [MostMoves + 4]int
	lift := waiting[:0]
	for _, n := range target {
		for _, h := range p.holds[n] {
			if h == 0 || slices.Contains(lift, h-1) {
				continue
			}
			if i := h - 1; p.items[i].fixed || p.items[i].alone || len(lift) == most {
				return nil, false
			}
			lift = append(lift, h-1)
		}
	}
	var from [MostMoves + 4]int
	for k, i := range lift {
		from[k] = p.items[i].at
		p.lift(i)
	}
	for _, n := range target {
		p.target[n] = true
	}
	moves, ok := p.place(lift, most-len(lift), make([]Move, 0, MostMoves+1))
	for _, n := range target {
		p.target[n] = false
	}
	for k, i := range lift {
		p.put(i, from[k])
	}
	return moves, ok
}

// place finds places for items that have been lifted off the board; spare is how
// many more may be lifted. It leaves the board as it found it.
func (p *board) place(lifted []int, spare int, done []Move) ([]Move, bool) {
	if len(lifted) == 0 {
		return slices.Clone(done), true
	}
	if p.tries++; p.tries > mostTries {
		return nil, false
	}
	i, rest := lifted[0], lifted[1:]
	it := p.items[i]
	defer func() { p.items[i].at = it.at }()
	for at := 1; at <= p.ways; at++ {
		spaces, ok := p.room(at, it.poles)
		if !ok || at == it.at || !p.free(spaces[:it.poles]) {
			continue
		}
		var there [6]int
		in := p.standing(spaces[:it.poles], there[:0])
		m := Move{Circuit: it.circuit, From: it.at, To: at}
		if len(in) == 0 || len(in) == 1 && p.shares(i, in[0], at) {
			if len(in) == 1 {
				m.With = p.items[in[0]].circuit
			}
			if found, ok := p.try(i, at, rest, spare, append(done, m)); ok {
				return found, true
			}
			if len(in) == 0 {
				continue
			}
			m.With = ""
		}
		if len(in) > spare || slices.ContainsFunc(in, p.stays) {
			continue
		}
		var from [6]int
		for k, other := range in {
			from[k] = p.items[other].at
			p.lift(other)
		}
		found, ok := p.try(i, at, append(slices.Clone(rest), in...), spare-len(in), append(done, m))
		for k, other := range in {
			p.put(other, from[k])
		}
		if ok {
			return found, true
		}
	}
	return nil, false
}

// standing appends what stands in the spaces, each item once.
func (p *board) standing(spaces, in []int) []int {
	for _, n := range spaces {
		for _, h := range p.holds[n] {
			if h != 0 && !slices.Contains(in, h-1) {
				in = append(in, h-1)
			}
		}
	}
	return in
}

// stays reports whether an item may not be lifted, or not again.
func (p *board) stays(k int) bool { return p.items[k].fixed || p.items[k].alone || p.moved[k] }

// try puts an item into a place and goes on with the rest, then takes it out.
func (p *board) try(i, at int, rest []int, spare int, done []Move) ([]Move, bool) {
	p.put(i, at)
	p.moved[i] = true
	found, ok := p.place(rest, spare, done)
	p.moved[i] = false
	p.lift(i)
	return found, ok
}

// free reports whether none of the spaces is wanted for the new breaker.
func (p *board) free(spaces []int) bool {
	for _, n := range spaces {
		if p.target[n] {
			return false
		}
	}
	return true
}

// shares reports whether two one-pole circuits may stand on a double in a space.
func (p *board) shares(i, k, at int) bool {
	a, b := p.items[i], p.items[k]
	return p.doubles[at] && a.poles == 1 && b.poles == 1 && !a.alone && !b.alone && !b.fixed
}
