package panel

import (
	"slices"
	"strconv"
	"strings"

	"dogbolt/core/job"
)

// own answers for an arrangement that a person has worked out at the board: each circuit
// moves once, all of them before anything is put in its place, as on a board that is
// dead. What does not hold is named, all of it.
func (p *board) own(a *job.Rearrangement, poles int) (at []int, moves []Move, wrong []string) {
	say := func(parts ...string) { wrong = append(wrong, strings.Join(parts, "")) }
	var lifted []int
	for _, s := range a.Moves {
		i := p.begins(s)
		switch {
		case i < 0:
			say("no such circuit begins in space ", strconv.Itoa(s.From))
			continue
		case slices.Contains(lifted, i):
			say(p.items[i].circuit, " is moved twice")
			continue
		case p.items[i].fixed:
			say(p.items[i].circuit, " is fixed where it is")
		case p.items[i].alone:
			say(p.items[i].circuit, " shares its neutral: it stays with its partner")
		}
		lifted = append(lifted, i)
		moves = append(moves, Move{Circuit: p.items[i].circuit, From: s.From, To: s.To})
	}
	for _, i := range lifted {
		p.lift(i)
	}
	for k, i := range lifted {
		spaces, ok := p.room(moves[k].To, p.items[i].poles)
		if !ok {
			say("no room for ", p.items[i].circuit, " from space ", strconv.Itoa(moves[k].To), " on")
			continue
		}
		in := p.standing(spaces[:p.items[i].poles], nil)
		switch {
		case len(in) == 1 && p.shares(i, in[0], moves[k].To):
			moves[k].With = p.items[in[0]].circuit
		case len(in) > 0:
			say("space ", strconv.Itoa(moves[k].To), " is taken by ", p.items[in[0]].circuit)
			continue
		}
		p.put(i, moves[k].To)
	}
	target, ok := p.room(a.At, poles)
	if !ok {
		say("no room for the new breaker from space ", strconv.Itoa(a.At), " on")
		return nil, moves, wrong
	}
	at = slices.Clone(target[:poles])
	for _, i := range p.standing(at, nil) {
		say(p.items[i].circuit, " stands where the new breaker goes")
	}
	return at, moves, wrong
}

// begins finds the circuit that a move is of; -1 where there is none.
func (p *board) begins(s job.Shift) int {
	first := slices.IndexFunc(p.items, func(it item) bool { return it.at == s.From })
	if s.Second != job.Yes || first < 0 {
		return first
	}
	second := slices.IndexFunc(p.items[first+1:], func(it item) bool { return it.at == s.From })
	if second < 0 {
		return -1
	}
	return first + 1 + second
}
