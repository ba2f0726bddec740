package uk

import (
	"strings"

	"dogbolt/core/commission"
	"dogbolt/core/conductor"
	"dogbolt/core/job"
	"dogbolt/core/protection"
	"dogbolt/core/quantity"
	"dogbolt/core/rulebook"
	"dogbolt/core/sizing"
)

// subMain are the clauses of rules where they are asked of a sub-main. From memory.
var subMain = map[string]string{
	"zs-design": "411.4.4, 411.3.2.3, 411.5.3", "zs": measuredZs, "zs-l2": measuredZs, "zs-l3": measuredZs,
}

const measuredZs = "643.7.3, appendix 3, 411.3.2.3"

// hidden are the ways in which a cable lies in a wall less than 50 mm deep, as far as anybody knows: 522.6.202.
var hidden = []job.Method{job.StudWall, job.InInsulation, job.ConduitInWall}

// checkSubMain judges a sub-main and the board at its end. Cable, loop and drop have rules of their own.
func checkSubMain(s *rulebook.Subject) rulebook.Finding {
	f, ok := s.End()
	if !ok {
		return f
	}
	for _, judge := range []func(*rulebook.Subject) rulebook.Finding{endWeather, endResidual, endHidden, endBonding, endFault} {
		if f := judge(s); f.Verdict != rulebook.Sound {
			return f
		}
	}
	c, p := &s.Point.Circuit, &s.Point.Place
	says := quantity.Say("board of {} ways, {} A behind {} A; ", float64(c.End.Ways), float64(c.End.Rating), float64(c.Breaker.Rating)) + endFault(s).Working +
		"; whether its devices open in turn is by their makers’ tables (536.4.1)"
	var advice []string
	if p.Detached == job.Yes && p.OtherSupply == job.Yes && !c.EndWasThere() { // its old feed goes
		advice = append(advice, "the building has another supply: a notice at each isolator, and all of them off for work there (514.11, 537.2; from memory)")
	}
	if r := &c.RCD; r.Fitted == job.Yes && r.Delayed == job.No {
		advice = append(advice, quantity.Say("a residual device of {} mA that is not delayed opens with those behind it: ", r.TripMA)+
			"one fault darkens the building (531.3.2, 536.4.1.4; from memory)")
	}
	if c.RCD.Fitted == job.Yes && c.RCD.AllPoles == job.No {
		advice = append(advice, "the residual device leaves the neutral: the main switch at the end has to open it (462.1.201)")
	}
	if p.Detached == job.Yes && s.Job.Survey.Supply.System == job.TNCS {
		advice = append(advice, "the PME earth goes to another building: all metal that comes in there is bonded, "+
			"and a point outdoors asks for protection where the neutral breaks (411.3.1.2, 722.411.4.1)")
	}
	if len(advice) > 0 {
		return rulebook.Advise(says, strings.Join(advice, "; "))
	}
	return rulebook.Meets(says)
}

// endWeather judges the enclosure of a board that is outdoors.
func endWeather(s *rulebook.Subject) rulebook.Finding {
	if s.Point.Place.Outdoors == job.No {
		return rulebook.Meets("indoors")
	}
	return againstWeather(s.Point.Circuit.End.IP, "board")
}

// endResidual judges a residual device at the sub-main's origin: chargers hang behind it.
func endResidual(s *rulebook.Subject) rulebook.Finding {
	switch r := &s.Point.Circuit.RCD; {
	case r.Fitted == job.Unasked:
		return rulebook.Missing("whether a residual device stands at the sub-main’s origin")
	case r.Fitted == job.No && s.Job.Survey.Supply.System == job.TT:
		return rulebook.Fails("TT supply without a residual device: nothing opens an earth fault on the sub-main",
			"one at its origin, delayed, 100 mA or more as the electrode allows (411.5.2)")
	case r.Fitted == job.No && s.Point.Circuit.FaultByRCD == job.Yes:
		return rulebook.Fails("fault protection by a residual device, and none is fitted", "one at the sub-main’s origin, or fault protection by the breaker")
	case r.Fitted == job.No:
		return rulebook.Meets("none")
	case r.Type == "":
		return rulebook.Missing("type of the residual device")
	case r.TripMA == 0:
		return rulebook.Missing("rated residual current")
	case r.Delayed == job.Unasked:
		return rulebook.Missing("whether the residual device is delayed")
	case r.AllPoles == job.Unasked:
		return rulebook.Missing("whether the device opens the neutral too")
	case r.Type == "AC":
		return rulebook.Fails("type AC ahead of charging points may be blinded by up to 6 mA of direct current each", "type A, F or B (531.3.3)")
	}
	return rulebook.Meets("residual device")
}

// endHidden: a cable hidden in a wall has earthed metal about it, or additional protection (522.6.202, 522.6.204).
func endHidden(s *rulebook.Subject) rulebook.Finding {
	additional := s.Point.Circuit.RCD.Fitted == job.Yes && s.Point.Circuit.RCD.TripMA <= additionalMA && s.Point.Circuit.RCD.Delayed == job.No
	for _, l := range s.Point.Legs() {
		for _, g := range l.Place.Route {
			if armoured(l.Circuit.Cable.Family) || additional {
				continue
			}
			for _, m := range hidden {
				if g.Method == m {
					return rulebook.Fails("hidden in a wall, with no earthed metal about it and no residual device of 30 mA",
						"an armoured cable, another way, or a residual device of 30 mA that is not delayed; "+
							"one that lies deeper than 50 mm all the way is accepted with that reason (522.6.202)")
				}
			}
		}
	}
	return rulebook.Meets("in sight, armoured, or with additional protection")
}

// endBonding: where metal comes into a building of its own on PME, the sub-main's protective conductor carries what main bonding does
// (411.3.1.2).
func endBonding(s *rulebook.Subject) rulebook.Finding {
	c, m := &s.Point.Circuit, metric(s)
	switch {
	case s.Point.Place.Detached == job.No || s.Job.Survey.Supply.System != job.TNCS:
		return rulebook.Meets("no PME earth in another building")
	case c.End.Metal == job.Unasked:
		return rulebook.Missing("whether metal that is in touch with the ground comes into that building")
	case c.End.Metal == job.No:
		return rulebook.Meets("no metal comes in")
	case m.MissingCable != "":
		return rulebook.Missing(m.MissingCable)
	}
	for _, l := range s.Point.Legs() {
		if l.Circuit.Cable.Earth == job.EarthArmour {
			return rulebook.Fails("metal comes into the building, and the armour is the protective conductor: "+
				"steel is not known to be worth 10 mm² of copper (table 54.8)",
				"a core or a separate conductor of 10 mm² copper for it")
		}
	}
	says := quantity.Say("metal comes into the building: protective conductor {} mm², ", float64(m.EarthArea)) +
		quantity.Say("main bonding asks {} mm² (table 54.8)", bondPME)
	return rulebook.AtLeast(float64(m.EarthArea), bondPME, "mm²", says, "a cable whose protective conductor is of 10 mm² copper, or a separate one").Exactly()
}

// endFault holds the devices of the board at the end against the fault current there: the origin's, less what the line conductor takes
// at 20 °C. What a fault returns by, neutral, armour and bonding side by side, is not counted on.
func endFault(s *rulebook.Subject) rulebook.Finding {
	m, origin, breaks := metric(s), s.Job.Survey.Supply.FaultCurrent, s.Point.Circuit.End.BreakingKA
	switch {
	case origin == 0:
		return rulebook.Missing("prospective fault current at the origin, declared or measured")
	case breaks >= origin:
		return rulebook.Meets(quantity.Say("its devices break {} kA, {} kA at the origin", breaks, origin))
	case m.MissingCable != "":
		return rulebook.Missing(m.MissingCable)
	case !s.Point.Place.Surveyed():
		return rulebook.Missing("cable route")
	}
	r := lineOhm(m)
	there := protection.FaultAtEnd(origin, r)
	says := quantity.Say("{2} kA at its end at most ({} kA at the origin, {3} Ω of line conductor at 20 °C), ", there, origin, r) +
		quantity.Say("its devices break {} kA", breaks)
	return rulebook.AtMost(quantity.Round(there, 2), breaks, "kA", says, "devices of a higher breaking capacity").Exactly()
}

// loopDoubt is the share by which two readings of a loop may lie apart: 30 % operating uncertainty (IEC 61557-3; from memory).
const loopDoubt = 0.3

// checkEndFault holds the fault current that was read at the end of a sub-main against the devices there, and against the origin's: a
// cable never adds to it.
func checkEndFault(s *rulebook.Subject) rulebook.Finding {
	breaks := s.Point.Circuit.End.BreakingKA
	if breaks == 0 {
		return rulebook.Missing("breaking capacity of the devices of the board at the end")
	}
	r, f, ok := s.Reading(commission.EndFault)
	if !ok {
		return f.Against(rulebook.Number{}, rulebook.Num(breaks), "kA")
	}
	says := r.String() + quantity.Say(", its devices break {} kA", breaks)
	f = rulebook.NotZero(r, rulebook.Judge(r.AtMost(breaks), r, rulebook.Number{}, rulebook.Num(breaks), says,
		"devices of a higher breaking capacity at the end"))
	if origin, _, ok := s.Reading(commission.FaultCurrent); ok && f.Verdict == rulebook.Sound && r.AtMost((1+loopDoubt)*origin.Value) != quantity.Yes {
		f.Verdict, f.Remedy = rulebook.Watch, "more than was read at the origin, "+origin.String()+": read both again"
	}
	return f
}

// lineOhm is the resistance of a line conductor at 20 °C, Ω, from the board to the end.
func lineOhm(m *sizing.Metric) float64 {
	legs := m.Legs
	if legs == nil {
		legs = []sizing.Metric{*m}
	}
	var sum float64
	for i := range legs {
		per, _ := conductor.ResistanceAt20(legs[i].Row.Area)
		sum += per * float64(legs[i].Length)
	}
	return sum
}
