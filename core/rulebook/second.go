package rulebook

import (
	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// checkSecond judges a point beside a second source: on which side it hangs, and what carries it when the grid is out.
func checkSecond(s *Subject) Finding {
	p, side := &s.Job.Survey.Supply, s.Point.Circuit.Side
	source := &p.Second
	told := *source != (job.Second{}) || side != "" && side != job.GridSide
	switch {
	case p.OtherSource == job.No && told:
		return Fails("a second source is told, and the survey says that there is none", "take one of both back")
	case p.OtherSource == job.Unasked && told:
		return Missing("whether there is a second source")
	case p.OtherSource != job.Yes:
		return Finding{}
	case source.Kind == "":
		return Missing("what the second source does when the grid is out")
	case source.Isolator == "":
		return Missing("where the second source is switched off and locked")
	case (source.Kind == job.FeedsIn || source.Kind == job.OtherService) && side != "" && side != job.GridSide, source.Kind == job.BacksUp && side == job.ApartSide,
		source.Kind == job.Apart && side == job.BackedSide:
		return Fails("the point is said to be “"+side.Said()+"”, and the second source “"+source.Kind.Said()+"”", "take one of both back")
	case source.Kind == job.FeedsIn:
		return Meets("it stops with the grid; switched off: " + source.Isolator)
	case source.Kind == job.OtherService:
		return Meets("another service: what it feeds is no part of this job, and is proved dead with this one; switched off: " + source.Isolator)
	case side == "":
		return Missing("on which side of the second source the point hangs")
	case side == job.GridSide:
		return Meets("the point is off when the grid is out; the second source is switched off: " + source.Isolator)
	case side == job.ApartSide:
		return Fails("loop, fault current and earth of a source apart from the grid are its own, and not judged here",
			"a job of its own for the point, whose supply is that source; or put it on the grid")
	}
	return s.backed(source)
}

// checkOwnSource judges condition and earth of a source of its own: without it no residual device opens, and nothing else gives the current.
func checkOwnSource(s *Subject) Finding {
	p := &s.Job.Survey.Supply
	switch {
	case !p.Own():
		return Finding{}
	case p.Condition == "":
		return Missing("condition of the source, its cable and its earth, as seen")
	case p.Earthed == job.Unasked:
		return Missing("whether the source’s neutral is joined to earth, at an electrode of its own")
	case p.Earthed == job.No:
		return Fails("the source’s neutral is joined to no earth: a residual device does not open", "have it joined by the maker's instructions, at an electrode")
	}
	if p.Condition == job.Doubtful {
		return Fails("the source, its cable or its earth look doubtful", "have it put right by who answers for the source, before anything hangs on it")
	}
	return Meets("its neutral is joined to earth at an electrode of its own")
}

// backed judges a source that carries the point when the grid is out.
func (s *Subject) backed(source *job.Second) Finding {
	draws, known := s.Job.BackedUp()
	switch {
	case source.Rating == 0:
		return Missing("what the second source can give for hours")
	case source.Other == 0:
		return Missing("what the second source carries besides charging")
	case !known:
		return Missing("setting of every point that it carries")
	case source.Earthed == job.Unasked:
		return Missing("whether its neutral is joined to an earth of its own when the grid is out")
	case source.Earthed == job.No:
		return Fails("with the grid out its neutral is joined to no earth: a residual device does not open",
			"have it joined by the maker's instructions, at an electrode of the building, or hang the point on the grid alone")
	}
	working := quantity.Say("{} A charging + {} A besides = {} A; ", float64(draws), float64(source.Other), float64(draws+source.Other)) +
		quantity.Say("the second source gives {} A", float64(source.Rating))
	if draws+source.Other > source.Rating {
		return Fails(working, "set the charger lower, or hang the point on the grid alone")
	}
	return Meets(working)
}

func checkGridOut(s *Subject) Finding {
	return s.Choice(commission.GridOut, "hang the point on the grid alone, or have the second source put right by who answers for it")
}
