package rulebook

import (
	"cmp"
	"slices"
	"strings"

	"dogbolt/core/job"
	"dogbolt/core/panel"
	"dogbolt/core/quantity"
)

// NewBoardName is what findings call the new board of a job, in its country's words.
func (s *Subject) NewBoardName() string {
	return s.Job.Design.Beside.Name("", s.Book.In.Install.Words.Short)
}

// NewWays judges the ways of a new board: those that the points' devices take, and those of the circuits that move over.
func (s *Subject) NewWays() Finding {
	d := &s.Job.Design.Beside
	points, name, ways := len(panel.Needed(s.Job))*panel.Modules(s.Job), s.NewBoardName(), strings.ToLower(s.Book.In.Asked.Words["space"])+"s"
	switch {
	case d.Ways == 0:
		return Missing(ways + " of the " + name)
	case d.Renews() && d.Taken == 0:
		return Missing(ways + " that the circuits moved over take")
	}
	says := quantity.Say(name+" of {} "+ways+", the devices of the points take {}", float64(d.Ways), float64(points))
	if d.Renews() {
		says += quantity.Say(" and the circuits moved over {}", float64(d.Taken))
	}
	return AtLeast(float64(d.Ways), float64(points+d.Taken), ways, says, "a "+name+" of more "+ways).Exactly()
}

// NewBoard asks for what a new board is judged by in any country, beside the old one or in its place; it is sound where all of that is known.
func (s *Subject) NewBoard() Finding {
	d, name, word := &s.Job.Design.Beside, s.NewBoardName(), s.Book.In.Install.Words.Short
	for _, p := range s.Job.Points() {
		switch {
		case p.Circuit.Kept() && d.Renews():
			return Fails("the circuit of point "+p.ID+" was there: it is one of those that move over", "a job of its own for its charger")
		case p.Circuit.Kept():
			return Fails("the circuit of point "+p.ID+" was there: it hangs on the old "+word, "a job of its own for it, or no "+name)
		}
	}
	switch {
	case d.Where == "":
		return Missing("where the " + name + " is fixed")
	case d.Outdoors == job.Unasked:
		return Missing("whether the " + name + " is outdoors")
	case d.Rating == 0:
		return Missing("rating of the " + name + "'s main switch or busbar")
	case !s.AllSet():
		return Missing(s.Job.Unset())
	case d.Opens == "":
		return Missing("what makes dead what the " + name + " is connected to: a switch before it, or the operator or utility")
	case d.Renews():
		return s.renewed()
	case d.Taken > 0 || d.Ahead != "" || d.AheadRating > 0 || d.Protected != "" || d.Tried != "":
		return Missing("whether the new " + word + " takes the place of the old one: something is entered of circuits that move over")
	}
	return Meets("")
}

// renewed asks how the old board was fed, of one whose place another takes.
func (s *Subject) renewed() Finding {
	d, from, word := &s.Job.Design.Beside, s.Job.Survey.Board.FedFrom, s.Book.In.Install.Words.Short
	switch {
	case from == "":
		return Missing("whether the old " + word + " is fed from the service itself or over a " + s.Book.In.Install.Words.Feeder)
	case from == job.FromSubMain && d.Opens == job.OpensOperator:
		return Fails("a "+s.Book.In.Install.Words.Feeder+" made dead by the operator or utility", "the device that it hangs on, off and locked")
	case d.BreakingKA == 0:
		return Missing("breaking capacity of the " + s.NewBoardName() + "'s devices")
	case d.Blocks > 0:
		return Missing("what the connector blocks are for: the new " + word + " itself is connected")
	case s.Job.Design.Ahead != (job.Ahead{}):
		return Missing("which device ahead is replaced: the new " + word + " has its own, or none")
	case slices.ContainsFunc(s.Job.Points(), func(p job.Point) bool { return p.Circuit.EndWasThere() }):
		return Fails("the "+word+" at the end of a "+s.Book.In.Install.Words.Feeder+" was there, and the one that feeds it is replaced",
			"one of them in a job of its own")
	}
	return Meets("")
}

// Breaks is the breaking capacity that a fault current at the board is held against, kA: that of the circuit's device, or what the board
// says of its devices; of a board in place of the old one the lesser, since those of the other circuits are new too.
func (s *Subject) Breaks() float64 {
	own, board := s.Point.Circuit.Breaker.BreakingKA, s.Job.Board().BreakingKA
	if s.Point.Circuit.Renewed && own > 0 {
		return min(own, board)
	}
	return cmp.Or(own, board)
}
