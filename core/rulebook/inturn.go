package rulebook

import (
	"fmt"
	"strings"

	"dogbolt/core/job"
	"dogbolt/core/protection"
	"dogbolt/core/quantity"
)

// ahead is an overcurrent device that a circuit hangs behind.
type ahead struct {
	name   string
	rating quantity.Ampere
	of     protection.Conventional
}

// devicesAhead are those ahead of a point's circuit that darken more than the circuit when they open in its place: the sub-main's
// that its board is fed from, and of a sub-main the service's.
func devicesAhead(s *Subject) []ahead {
	board, supply, opens := s.Job.Board(), &s.Job.Survey.Supply, &s.Book.In.Overload
	var list []ahead
	for _, l := range board.Links {
		if l.Kind == job.FeederDevice {
			list = append(list, ahead{"the device of the sub-main that feeds the board", l.Rating, opens.Breaker})
		}
	}
	if s.Point.Circuit.EndsInBoard() && board.FedFrom != job.FromSubMain && !supply.Own() {
		list = append(list, ahead{"the service's device", supply.Rating, opens.Service})
	}
	return list
}

// checkInTurn asks of a breaker on a board that a sub-main feeds, and of a sub-main's own, whether it opens on an overload for
// certain before what stands ahead of it. On a short circuit that is for their makers' tables.
func checkInTurn(s *Subject) Finding {
	list := devicesAhead(s)
	c, of := &s.Point.Circuit, s.Book.In.Overload.Breaker
	if len(list) == 0 || !c.Fates().Breaker.Comes() {
		return Finding{}
	}
	if c.Breaker.Rating == 0 {
		return Missing("breaker rating")
	}
	says := []string{quantity.Say("{} A: opens for certain at {1} A (× {2})", float64(c.Breaker.Rating), of.Opens*float64(c.Breaker.Rating), of.Opens)}
	var late []string
	for _, a := range list {
		if a.rating == 0 {
			return Missing("rating of " + a.name)
		}
		says = append(says, a.name+quantity.Say(", {} A, holds {1} A (× {2})", float64(a.rating), a.of.Holds*float64(a.rating), a.of.Holds))
		if !protection.OpensFirst(c.Breaker.Rating, of, a.rating, a.of) {
			late = append(late, a.name)
		}
	}
	working := strings.Join(says, "; ")
	if len(late) > 0 {
		return Advise(working, fmt.Sprintf("on an overload %s may open first, and all behind it goes dark: a smaller breaker here, a larger one there, "+
			"or say so to the customer", strings.Join(late, " or ")))
	}
	return Meets(working + "; on a short circuit both may open: their makers' tables say")
}
