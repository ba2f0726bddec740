package uk

import (
	"strings"

	"dogbolt/core/conductor"
	"dogbolt/core/job"
	"dogbolt/core/panel"
	"dogbolt/core/quantity"
	"dogbolt/core/rulebook"
)

// Limits of a small board's tails: how long they may be without a device of their own (433.2.2 and 434.2.1, 3 m), and the fuse that
// tails of a size stand behind (OSG section 2; from memory). The network operator may ask for less and larger.
const tailsMost = 3.0

var tailsBehind = []struct {
	area quantity.SquareMillimetre
	fuse quantity.Ampere
}{{16, 80}, {25, 100}}

// fitBeside plans a small board where the old one has no room.
var fitBeside = rulebook.Answer{Title: "Fit a small board beside it", Set: set{"/beside.fitted": "yes"}}

// besideFull judges the ways of the small board: those that the points' devices take.
func besideFull(j *job.Job) rulebook.Finding {
	d := &j.Design.Beside
	need := len(panel.Needed(j)) * panel.Modules(j)
	if d.Ways == 0 {
		return rulebook.Missing("ways of the small board")
	}
	says := quantity.Say("small board of {} ways, the devices of the points take {}", float64(d.Ways), float64(need))
	return rulebook.AtLeast(float64(d.Ways), float64(need), "ways", says, "a small board of more ways").Exactly()
}

// checkBeside judges a small board of the points' own: its main switch, its tails and what connects them, its earth, and who makes
// the service's tails dead.
func checkBeside(s *rulebook.Subject) rulebook.Finding {
	d, service := &s.Job.Design.Beside, s.Job.Survey.Supply.Rating
	if d.Fitted != job.Yes {
		if *d != (job.Beside{Fitted: d.Fitted}) {
			return rulebook.Missing("whether the small board is fitted, of which something is entered")
		}
		return rulebook.Finding{}
	}
	for _, p := range s.Job.Points() {
		if p.Circuit.Kept() {
			return rulebook.Fails("the circuit of point "+p.ID+" was there: it hangs on the old board", "a job of its own for it, or no small board")
		}
	}
	switch {
	case d.Where == "":
		return rulebook.Missing("where the small board is fixed")
	case d.Outdoors == job.Unasked:
		return rulebook.Missing("whether the small board is outdoors")
	case d.Rating == 0:
		return rulebook.Missing("rating of the small board's main switch")
	case !s.AllSet():
		return rulebook.Missing(s.Job.Unset())
	case service == 0:
		return rulebook.Missing("rating of the service's fuse, which the tails stand behind")
	case d.Tails == 0:
		return rulebook.Missing("size of the small board's tails")
	case d.Length == 0:
		return rulebook.Missing("length of the small board's tails")
	case d.Blocks == 0:
		return rulebook.Missing("rating of the connector blocks")
	case d.Earth == 0:
		return rulebook.Missing("size of the conductor to the small board's earth bar")
	case d.Opens == "":
		return rulebook.Missing("what makes the service's tails dead: a switch before them, or the operator's fuse")
	}
	if f := againstWeather(d.IP, "small board"); d.Outdoors == job.Yes && f.Verdict != rulebook.Sound {
		return f
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
	case d.Blocks < service:
		return rulebook.Fails(quantity.Say("connector blocks of {} A behind a fuse of {} A", float64(d.Blocks), float64(service)), "blocks for the fuse's rating")
	case d.Earth < earth:
		return rulebook.Fails(quantity.Say("{} mm² to its earth bar, {} mm² by table 54.7", float64(d.Earth), float64(earth)),
			"a larger conductor to the earth bar")
	}
	says := quantity.Say("main switch {} A, tails of {} mm² and {1} m ", float64(d.Rating), float64(d.Tails), float64(d.Length)) +
		quantity.Say("behind the fuse of {} A, blocks of {} A, {} mm² to its earth bar", float64(service), float64(d.Blocks), float64(d.Earth))
	var advice []string
	if s.Job.Survey.Supply.System == job.TT {
		advice = append(advice, "TT: nothing opens a fault before its residual devices: an enclosure of insulating material, "+
			"tails double insulated up to them (411.5, 412; from memory)")
	}
	if d.Opens == job.OpensOperator {
		advice = append(advice, "the network operator, or whom it lets, withdraws the fuse and seals it again: agree on it before the day")
	}
	if len(advice) > 0 {
		return rulebook.Advise(says, strings.Join(advice, "; "))
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
