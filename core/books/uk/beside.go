package uk

import (
	"strings"

	"dogbolt/core/conductor"
	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/rulebook"
)

// Limits of a new board's tails: how long they may be without a device of their own (433.2.2 and 434.2.1, 3 m), and the fuse that
// tails of a size stand behind (OSG section 2; from memory). The network operator may ask for less and larger.
const tailsMost = 3.0

var tailsBehind = []struct {
	area quantity.SquareMillimetre
	fuse quantity.Ampere
}{{16, 80}, {25, 100}}

// What makes room on a board without any: a small board, or another in its place.
var (
	fitBeside = rulebook.Answer{Title: "Fit a small board beside it", Set: set{"/beside.fitted": "yes"}}
	renew     = rulebook.Answer{Title: "Replace the board", Set: set{"/beside.fitted": "yes", "/beside.instead": "yes"}}
)

// checkBeside judges a new board on the service's tails, beside the one that was found or in its place: its main switch, its
// tails and what connects them, its earth and enclosure, and who makes the service's tails dead.
func checkBeside(s *rulebook.Subject) rulebook.Finding {
	d := &s.Job.Design.Beside
	if d.Fitted != job.Yes {
		if *d != (job.Beside{Fitted: d.Fitted}) {
			return rulebook.Missing("whether the new board is fitted, of which something is entered")
		}
		return rulebook.Finding{}
	}
	if f := besideKnown(s); f.Verdict != rulebook.Sound {
		return f
	}
	says, advice := "", []string(nil)
	if d.Renews() {
		f := checkRenewed(s)
		if f.Verdict != rulebook.Sound && f.Verdict != rulebook.Watch {
			return f
		}
		says = f.Working + ": "
		if f.Remedy != "" {
			advice = append(advice, f.Remedy)
		}
	}
	f := checkTails(s)
	if f.Verdict != rulebook.Sound {
		return f
	}
	says += f.Working
	if s.Job.Survey.Supply.System == job.TT {
		advice = append(advice, "TT: nothing opens a fault before its residual devices: double or reinforced insulation from the tails up to them, "+
			"in an enclosure of steel too (411.5, 412; from memory)")
	}
	if d.Opens == job.OpensOperator {
		advice = append(advice, "the network operator, or whom it lets, withdraws the fuse and seals it again: agree on it before the day")
	}
	if len(advice) > 0 {
		return rulebook.Advise(says, strings.Join(advice, "; "))
	}
	return rulebook.Meets(says)
}

// besideKnown asks for what any new board is judged by.
func besideKnown(s *rulebook.Subject) rulebook.Finding {
	d, name := &s.Job.Design.Beside, s.NewBoardName()
	american := job.Beside{Case: d.Case, Space: d.Space, Handle: d.Handle, Grounded: d.Grounded, Surge: d.Surge, Outside: d.Outside}
	if american != (job.Beside{}) {
		return rulebook.Missing("what is asked of a panel in America is for: type of enclosure, space, handle, grounding, surge or disconnect outdoors is entered")
	}
	if f := s.NewBoard(); f.Verdict != rulebook.Sound {
		return f
	}
	switch {
	case d.Outdoors == job.Yes && d.Made != "":
		return rulebook.Missing("whether the " + name + " is outdoors: what it is made of indoors is entered")
	case d.Outdoors == job.Yes:
		return againstWeather(d.IP, name)
	case d.IP != "":
		return rulebook.Missing("whether the " + name + " is outdoors: its IP code is entered")
	case d.Made == "":
		return rulebook.Missing("what the enclosure of the " + name + " is made of")
	case d.Made == job.OfPlastic:
		return rulebook.Fails("a "+name+" indoors in an enclosure of insulating material (421.1.201)",
			"one of steel, or a cabinet of steel round it; in no household: say so")
	}
	return rulebook.Meets("indoors")
}

// checkTails judges the main switch of a new board, its tails with what connects them, and its earth; a sub-main that feeds the board
// that was found is connected to the new one as it is.
func checkTails(s *rulebook.Subject) rulebook.Finding {
	d, service := &s.Job.Design.Beside, s.Job.Survey.Supply.Rating
	name := s.NewBoardName()
	if d.Renews() && s.Job.Survey.Board.FedFrom == job.FromSubMain {
		if d.Tails > 0 || d.Length > 0 || d.Earth > 0 {
			return rulebook.Missing("what tails or their earth are for: the sub-main goes to the new board itself")
		}
		return rulebook.Meets(quantity.Say("main switch {} A, on the sub-main that is there", float64(d.Rating)))
	}
	switch {
	case service == 0:
		return rulebook.Missing("rating of the service's fuse, which the tails stand behind")
	case d.Tails == 0:
		return rulebook.Missing("size of the " + name + "'s tails")
	case d.Length == 0:
		return rulebook.Missing("length of the " + name + "'s tails")
	case d.Blocks == 0 && d.Small():
		return rulebook.Missing("rating of the connector blocks")
	case d.Earth == 0:
		return rulebook.Missing("size of the conductor to the " + name + "'s earth bar")
	}
	var points quantity.Ampere
	for _, a := range s.Job.EVLoads() {
		points += a
	}
	behind := quantity.Ampere(0)
	for _, t := range tailsBehind {
		if d.Tails >= t.area {
			behind = t.fuse
		}
	}
	earth := conductor.EarthByTable(job.Singles, d.Tails, false)
	switch {
	case d.Rating < points:
		return rulebook.Fails(quantity.Say("main switch {} A, the points draw {} A", float64(d.Rating), float64(points)), "a larger main switch")
	case behind < service:
		return rulebook.Fails(quantity.Say("tails of {} mm² behind a fuse of {} A", float64(d.Tails), float64(service)),
			"16 mm² to 80 A, 25 mm² to 100 A; above that by calculation")
	case d.Length > tailsMost:
		return rulebook.Fails(quantity.Say("tails of {1} m without a device of their own, {} m at most", float64(d.Length), tailsMost),
			"a switch-fuse at the connectors, or the board nearer")
	case d.Small() && d.Blocks < service:
		return rulebook.Fails(quantity.Say("connector blocks of {} A behind a fuse of {} A", float64(d.Blocks), float64(service)), "blocks for the fuse's rating")
	case d.Earth < earth:
		return rulebook.Fails(quantity.Say("{} mm² to its earth bar, {} mm² by table 54.7", float64(d.Earth), float64(earth)),
			"a larger conductor to the earth bar")
	}
	blocks := ""
	if d.Small() {
		blocks = quantity.Say(", blocks of {} A", float64(d.Blocks))
	}
	return rulebook.Meets(quantity.Say("main switch {} A, tails of {} mm² and {1} m ", float64(d.Rating), float64(d.Tails), float64(d.Length)) +
		quantity.Say("behind the fuse of {} A", float64(service)) + blocks + quantity.Say(", {} mm² to its earth bar", float64(d.Earth)))
}

// checkRenewed judges what moves over to a board in place of the one that was found: what is ahead of the points then, what protects
// the old circuits, and whether they were tested before.
func checkRenewed(s *rulebook.Subject) rulebook.Finding {
	d := &s.Job.Design.Beside
	switch {
	case d.Ahead == "":
		return rulebook.Missing("whether a residual device stands ahead of the points after the work, and its type")
	case d.Ahead.There() && d.AheadRating == 0:
		return rulebook.Missing("rated current of the residual device ahead of the points")
	case !d.Ahead.There() && d.AheadRating > 0:
		return rulebook.Missing("type of the residual device ahead of the points, of which a rating is entered")
	}
	f, known := rulebook.Answered(rulebook.Question{Answer: d.Protected,
		Missing: "whether every circuit moved over has the residual device that its use asks for",
		Fails:   "a circuit moved over without the residual device that its use asks for",
		Remedy:  quantity.Say("{} mA for sockets, lighting of a household and cables hidden in walls (411.3.3, 411.3.4, 522.6.202; from memory)", additionalMA)})
	switch {
	case !known:
		return f
	case d.Tried == job.Unasked:
		return rulebook.Missing("whether the circuits that move over were tested before the change")
	}
	says := quantity.Say("in place of the old board, {} ways of its circuits moved over", float64(d.Taken))
	if d.Tried == job.No {
		return rulebook.Advise(says, "test the circuits before the old board comes out: a fault that the new devices find is the customer's to pay for "+
			"(common practice, no source)")
	}
	return rulebook.Meets(says)
}

// checkNotHere: what an American building on a feeder is given is not asked here.
func checkNotHere(s *rulebook.Subject) rulebook.Finding {
	if s.Job.Design.Building == (job.Building{}) {
		return rulebook.Finding{}
	}
	return rulebook.Fails("disconnect, electrode or neutral of a building on a feeder, as in America",
		"leave it out: isolation, earthing and bonding are planned apart here")
}
