package us

import (
	"strconv"
	"strings"

	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	boards "dogbolt/core/panel"
	"dogbolt/core/quantity"
	"dogbolt/core/rulebook"
)

func checkSupply(s *rulebook.Subject) rulebook.Finding {
	p := &s.Job.Survey.Supply
	switch {
	case p.System == "":
		return rulebook.Missing("service system")
	case !systems.Has(p.System):
		return rulebook.Fails("“"+string(p.System)+"” is not a system of this rulebook", "choose 120/240 V split phase, 208Y/120 V, or a source of its own")
	case p.Phases == 0:
		return rulebook.Missing("number of phases")
	case p.Rating == 0:
		return rulebook.Missing("rating of the service disconnect")
	case p.RatingSeen == job.Unasked:
		return rulebook.Missing("whether the rating was read off the service itself")
	}
	working := quantity.Say("{} V service, {} A", float64(systems.Voltage(p, 1)), float64(p.Rating))
	if p.Own() {
		working = quantity.Say("{} V source of its own, {} A", float64(systems.Voltage(p, 1)), float64(p.Rating))
	}
	if p.RatingSeen == job.No {
		return rulebook.Advise(
			working+", not read off the service",
			"the panel's rating is often not the service's: look at the service conductors and the meter base",
		)
	}
	return rulebook.Meets(working)
}

// rangeB returns the range B of ANSI C84.1 for utilization, V: chargers work in it, and
// the utility is told.
func rangeB(p *job.Supply) (low, high, lowG, highG float64) {
	if p.System == job.Wye208 {
		return 191, 220, 110, 127
	}
	return 220, 254, 110, 127
}

// rangeA returns the service voltage range A of ANSI C84.1, ±5 %, V: hot to
// hot and hot to ground.
func rangeA(p *job.Supply) (low, high, lowG, highG float64) {
	if p.System == job.Wye208 {
		return 197, 218, 114, 126
	}
	return 228, 252, 114, 126
}

func hotToHot(s *rulebook.Subject, r quantity.Reading) rulebook.Finding {
	low, high, _, _ := rangeA(&s.Job.Survey.Supply)
	f := rulebook.Judge(r.Within(low, high), r, rulebook.Num(low), rulebook.Num(high),
		r.String()+quantity.Say(" read, {} V to {} V wanted", low, high), remedyHotHot(r.Value))
	lowB, highB, _, _ := rangeB(&s.Job.Survey.Supply)
	if f.Verdict == rulebook.Stop && r.Within(lowB, highB) == quantity.Yes {
		f.Verdict, f.Remedy = rulebook.Watch, "range B of ANSI C84.1: the charger works, but tell the utility, and look at the drop of the circuit"
	}
	return f
}

// remedyHotHot reads the usual patterns of a wrong hot-to-hot voltage (common
// practice).
func remedyHotHot(v float64) string {
	switch {
	case v < 20:
		return "both poles on the same leg: move the breaker to spaces on both legs"
	case v > 197 && v < 218:
		return "two legs of a 208 V service: set the system to 208Y/120 and design again"
	case v > 100 && v < 140:
		return "one hot and neutral or ground: trace both conductors"
	}
	return "measure at the service; call the utility if it is out there too"
}

func checkSupplyVoltage(s *rulebook.Subject) rulebook.Finding {
	r, err := quantity.ParseReading(s.Job.Survey.Supply.Voltage, "V")
	if err != nil {
		return rulebook.Missing("measured voltage, hot to hot")
	}
	return hotToHot(s, r)
}

// checkSpaces keeps two questions apart: a pair of spaces on both legs, and
// the circuits that the label allows; a two-pole breaker counts as two.
func checkSpaces(s *rulebook.Subject) rulebook.Finding {
	if s.Job.Design.Beside.Renews() {
		if own := &s.Job.Survey.Board.Rearrangement; own.At+len(own.Moves) > 0 {
			return rulebook.Missing("why circuits are moved on the old panel: they move over to the new one")
		}
		return s.NewWays()
	}
	b := &s.Job.Survey.Board
	need := 2 * len(boards.Needed(s.Job))
	if f, mapped := s.CheckMap("a sub-panel, or a panel with more spaces"); mapped {
		return roomier(f)
	}
	switch {
	case b.FreePair == job.Unasked:
		return rulebook.Missing("whether a pair of spaces on both legs is free")
	case b.CircuitsMax == 0 || b.CircuitsFitted == 0:
		return rulebook.Missing("circuits that the label allows, and circuits fitted")
	case b.FreePair == job.No:
		return roomier(rulebook.Fails("no pair of spaces on both legs", "move singles, use doubles where the label allows them, or fit a sub-panel"))
	}
	total := b.CircuitsFitted + need
	return roomier(rulebook.AtMost(float64(total), float64(b.CircuitsMax), "circuits",
		strconv.Itoa(b.CircuitsFitted)+" fitted + "+strconv.Itoa(need)+" = "+strconv.Itoa(total)+"; the label allows "+strconv.Itoa(b.CircuitsMax),
		"a sub-panel, or a panel that allows more circuits").Exactly())
}

// clearSpace is the working space in front of a panel, NEC 110.26(A); to 150 V to ground
// the depth is the same in all three conditions of table 110.26(A)(1). From memory.
const clearSpace = "3 ft deep, 30 in wide and as wide as the panel, 6 ft 6 in high"

// workingSpace are the sizes of clearSpace, to be drawn: 110.26(A)(1) to (3), from memory.
var workingSpace = jurisdiction.Space{Depth: quantity.Feet(3), Width: quantity.Inches(30), Height: quantity.Feet(6.5), Clause: "110.26(A)"}

// checkWorkingSpace: a panel is worked on where one can stand back from it.
func checkWorkingSpace(s *rulebook.Subject) rulebook.Finding {
	switch s.Job.Board().WorkingSpace {
	case job.Yes:
		return rulebook.Meets("clear, " + clearSpace)
	case job.No:
		return rulebook.Fails(
			"the space in front of the panel is not clear, "+clearSpace,
			"have it cleared and kept clear, or feed the charger from a sub-panel that has the space",
		)
	}
	return rulebook.Missing("whether the space in front of the panel is clear")
}

// handleMost is the greatest height of a handle, 6 ft 7 in, in; NEC 404.8(A), which prints
// 2.0 m beside it. From memory.
const handleMost = 79.0

// checkHandleHeight: a breaker serves as a switch, and is reached from the floor.
func checkHandleHeight(s *rulebook.Subject) rulebook.Finding {
	h := s.Job.Board().HandleHeight
	if h == 0 {
		return rulebook.Missing("height of the highest breaker handle")
	}
	return handles(h, "a lower space for the new breaker, or a sub-panel within reach")
}

// handles judges the height of the highest handle of a panel.
func handles(h quantity.Metre, remedy string) rulebook.Finding {
	return rulebook.AtMost(quantity.Round(h.Inches(), 1), handleMost, "in", quantity.Say("{1} in, at most {1} in", h.Inches(), handleMost), remedy).Exactly()
}

// checkNotHere: tails with connectors are not how a panel is fed here, and main bonding by the British sizes is no grounding by
// article 250, which this program does not judge.
func checkNotHere(s *rulebook.Subject) rulebook.Finding {
	switch d := &s.Job.Design; {
	case d.Bonds != job.Bonds{}:
		return rulebook.Fails("main bonding as in Britain", "leave it out: grounding and bonding by article 250 are for a licensed person to judge")
	case d.Beside == job.Beside{} || d.Beside.Renews():
		return rulebook.Finding{}
	}
	return rulebook.Fails("a small board on the service's own conductors",
		"a panel there is service equipment with its disconnect and grounding (230.40, 230.71): leave it out, and make room on the panel or have a larger one")
}

// checkOutbuilding: a panel on a feeder in a building apart from the service's.
func checkOutbuilding(s *rulebook.Subject) rulebook.Finding {
	b := s.Job.Board()
	put := &s.Job.Design.Building
	o, with := put.Mends(b.Outbuilding)
	switch {
	case put.Idle(b.Outbuilding) || b.FedFrom != job.FromSubMain && *put != (job.Building{}):
		return rulebook.Missing("what is put right at the building with this work: the survey found nothing of it wrong")
	case b.FedFrom != job.FromSubMain:
		return rulebook.Finding{}
	case o.Apart == job.Unasked:
		return rulebook.Missing("whether the panel is in a building apart from the service's")
	case o.Apart == job.No:
		return rulebook.Meets("in the service's own building")
	}
	f, ok := rulebook.Answered(
		rulebook.Question{Answer: o.Disconnect, Missing: "a disconnect where the feeder comes into the building",
			Fails:  "a feeder to another building without a disconnect there",
			Remedy: "a disconnect, suitable as service equipment, where the feeder comes in"},
		rulebook.Question{Answer: o.Electrode, Missing: "a grounding electrode at the building",
			Fails: "a building on a feeder without an electrode", Remedy: "a grounding electrode, joined to the panel's ground"},
		rulebook.Question{Answer: o.Neutral, Missing: "whether neutral and ground are apart at that panel",
			Fails: "neutral and ground are joined at a panel on a feeder", Remedy: "take the bonding screw or strap out; ground by the feeder's own conductor"},
	)
	switch {
	case f.Verdict == rulebook.Stop:
		return f.Offering(putRight(&o))
	case !ok:
		return f
	}
	says := "disconnect and electrode there, neutral apart from ground"
	if len(with) > 0 {
		says += "; with this work: " + strings.Join(with, ", ")
	}
	return rulebook.Meets(says)
}

// putRight plans whatever is still wrong at a building of its own.
func putRight(o *job.Outbuilding) rulebook.Answer {
	a := rulebook.Answer{Title: "Put it right with this work", Set: map[string]any{}}
	for _, x := range []struct {
		is    job.Answer
		field string
	}{{o.Disconnect, "disconnect"}, {o.Electrode, "electrode"}, {o.Neutral, "neutralApart"}} {
		if x.is == job.No {
			a.Set["/building."+x.field] = string(job.Yes)
		}
	}
	return a
}

// checkFraming: cable in studs and joists keeps from the screws. Tubing and conduit
// protect themselves (300.4(A)(1), exception).
func checkFraming(s *rulebook.Subject) rulebook.Finding {
	asked := false
	for _, leg := range s.Point.Legs() {
		f := leg.Circuit.Cable.Family
		for i, g := range leg.Place.Route {
			if g.Method != job.StudWall || f != job.NMB && f != job.MC {
				continue
			}
			asked = true
			at := "segment " + strconv.Itoa(leg.Place.First+i+1)
			f, ok := rulebook.Answered(rulebook.Question{Answer: g.Edges, Missing: "whether the cable of " + at + " is 1¼ in from every edge or behind steel plates",
				Fails:  at + ": cable nearer than 1¼ in to the edge of the framing, without a plate",
				Remedy: "a steel plate of 1/16 in at each place, or another bore"})
			if !ok {
				return f
			}
		}
	}
	if !asked {
		return rulebook.Finding{}
	}
	return rulebook.Meets("1¼ in from every edge, or behind plates")
}

// checkGroundExit: where buried wiring leaves the ground, and where the ground moves.
func checkGroundExit(s *rulebook.Subject) rulebook.Finding {
	asked := false
	for i, g := range s.Point.Place.Route {
		if g.Method != job.Buried {
			continue
		}
		asked = true
		at := "segment " + strconv.Itoa(i+1)
		f, ok := rulebook.Answered(
			rulebook.Question{Answer: g.Riser, Missing: "how " + at + " is guarded where it leaves the ground", Fails: at + " leaves the ground unguarded",
				Remedy: "a raceway from 18 in below ground to 8 ft above or into the enclosure, schedule 80 where it may be struck"},
			rulebook.Question{Answer: g.Slack, Missing: "whether the ground may move without harm along " + at,
				Fails: at + " has nothing to give where the ground settles or frost lifts it", Remedy: "slack in the trench, or an expansion fitting in the riser"},
		)
		if !ok {
			return f
		}
	}
	if !asked {
		return rulebook.Finding{}
	}
	return rulebook.Meets("guarded where it leaves the ground, and free to move")
}

func checkRoute(s *rulebook.Subject) rulebook.Finding {
	p := &s.Point.Place
	if !p.Surveyed() {
		return rulebook.Missing("route: method and length of every segment")
	}
	if f := rulebook.CheckConnects(s); f.Verdict != "" {
		return f
	}
	for i, g := range p.Route {
		if g.Wet == job.Unasked {
			return rulebook.Missing("whether segment " + strconv.Itoa(i+1) + " is in a wet location")
		}
	}
	return rulebook.Meets(quantity.Say("{0} ft in {} segments", p.Length().Feet(), float64(len(p.Route))))
}

// checkHeight: 450 mm (18 in) indoors, 600 mm (24 in) outdoors.
func checkHeight(s *rulebook.Subject) rulebook.Finding {
	p := &s.Point.Place
	switch {
	case p.Outdoors == job.Unasked:
		return rulebook.Missing("indoors or outdoors")
	case p.HolderHeight == 0:
		return rulebook.Missing("height of the coupling or holder")
	}
	// The code prints 450 mm beside 18 in and 600 mm beside 24 in: either meets.
	limit, metric, where := 18.0, 0.450, " indoors"
	if p.Outdoors == job.Yes {
		limit, metric, where = 24, 0.600, " outdoors"
	}
	h := p.HolderHeight.Inches()
	if float64(p.HolderHeight) >= metric-1e-9 && h < limit {
		return rulebook.Meets(quantity.Say("{} mm, at least {} mm (", 1000*float64(p.HolderHeight), 1000*metric) + quantity.Say("{0} in)", limit) + where)
	}
	return rulebook.AtLeast(h, limit, "in", quantity.Say("{1} in, at least {0} in", h, limit)+where, "mount it higher")
}
