package rulebook

import (
	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// End asks what every country asks of a sub-main and the board at its end; ok is false where something is missing or wrong, and then
// the finding says what. The zero finding with false is that of a circuit that is none.
func (s *Subject) End() (f Finding, ok bool) {
	c := &s.Point.Circuit
	if !c.EndsInBoard() {
		return Finding{}, false
	}
	e, p := &c.End, &s.Point.Place
	switch {
	case len(s.Job.Survey.Places) > 1:
		return Fails("a sub-main in one job with other points: they would hang on another board, and are judged by this one",
			"a job of its own for the sub-main, first"), false
	case p.Name == "":
		return Missing("where the board at the end is fixed"), false
	case p.Outdoors == job.Unasked:
		return Missing("whether the board at the end is outdoors"), false
	case p.Detached == job.Unasked:
		return Missing("whether the board at the end is in a building apart from the supply’s"), false
	case p.Detached == job.Yes && p.OtherSupply == job.Unasked:
		return Missing("whether that building has a circuit or a sub-main already"), false
	case c.Setting == 0:
		return Missing(c.Unset()), false
	case c.Breaker.Rating == 0:
		return Missing("breaker rating"), false
	case e.Other == nil:
		return Missing("what of it is no charging"), false
	case e.Ways == 0:
		return Missing("ways of the board at the end"), false
	case e.Rating == 0:
		return Missing("rating of the board at the end"), false
	case e.BreakingKA == 0:
		return Missing("breaking capacity of its devices"), false
	case *e.Other > c.Setting:
		return Fails(quantity.Say("{} A are no charging, {} A are drawn in all", float64(*e.Other), float64(c.Setting)),
			"a sub-main for both, or less on its board"), false
	case e.Rating < c.Breaker.Rating:
		return Fails(quantity.Say("board of {} A behind a breaker of {} A", float64(e.Rating), float64(c.Breaker.Rating)),
			"a larger board at the end, or a smaller breaker"), false
	}
	return Answered(Question{Answer: e.Space, Missing: "whether there is room to work in front of the board at the end",
		Fails: "no room to work in front of the board at the end", Remedy: "another place for it, or clear the space and keep it clear"})
}
