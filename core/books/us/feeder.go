package us

import (
	"math"
	"strings"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/rulebook"
)

// feederClauses are the clauses of rules where they are asked of a feeder. From memory.
var feederClauses = map[string]string{
	"breaker": "215.3, 240.6(A)", "terminal-ampacity": "215.2(A)(1), 110.14(C)",
	"derated-ampacity": "215.2(A)(1), 310.15", "drop": "215.2(A)(2) informational note",
}

// checkFeeder judges a feeder and the panel at its end. Conductors, ground and drop have rules of their own.
func checkFeeder(s *rulebook.Subject) rulebook.Finding {
	f, ok := s.End()
	if !ok {
		return f
	}
	e, p := &s.Point.Circuit.End, &s.Point.Place
	switch {
	case e.Handle == 0:
		return rulebook.Missing("height of the highest breaker handle of the panel at the end")
	case p.Outdoors == job.Yes && e.Enclosure == "":
		return rulebook.Missing("type of the panel’s enclosure, such as 3R")
	case p.Outdoors == job.Yes && !e.Enclosure.Outdoors():
		return rulebook.Fails("panel of type "+string(e.Enclosure)+" outdoors", "an enclosure for outdoors: 3R, 4X (110.28)")
	case p.Detached == job.Yes && p.OtherSupply == job.Yes && !s.Point.Circuit.EndWasThere(): // its old feed goes
		return rulebook.Fails("a second supply to a building that has one", "take the old one out, and feed its loads from the new panel (225.30)")
	}
	if f := handles(e.Handle, "the panel at the end lower"); f.Verdict != rulebook.Sound {
		return f
	}
	questions := []rulebook.Question{{Answer: e.Neutral, Missing: "whether the neutral is kept apart from the ground in the panel at the end",
		Fails:  "neutral and ground joined in a panel on a feeder",
		Remedy: "leave the bonding screw or strap out, the neutral on its own bar (250.24(A)(5), 250.32(B)(1))"}}
	if p.Detached == job.Yes {
		questions = append(questions,
			rulebook.Question{Answer: e.Disconnect, Missing: "whether the building has a disconnect where the feeder comes in",
				Fails:  "a building on a feeder without a disconnect of its own",
				Remedy: "a main breaker in the panel, or a disconnect suitable as service equipment where the feeder comes in (225.31, 225.36)"},
			rulebook.Question{Answer: e.Electrode, Missing: "whether the building has a grounding electrode of its own",
				Fails:  "a building on a feeder without a grounding electrode",
				Remedy: "rods or another electrode, joined to the panel’s ground bar (250.32(A))"})
	}
	if f, ok := rulebook.Answered(questions...); !ok {
		return f
	}
	have, how, missing := available(s)
	if missing != "" {
		return rulebook.Missing(missing)
	}
	fault := quantity.Say("{2} kA ", have) + how
	if f := rulebook.AtMost(quantity.Round(have, 2), e.BreakingKA, "kA", fault+quantity.Say("; the panel’s breakers interrupt {} kA", e.BreakingKA),
		"breakers of a higher rating in the panel at the end, or a calculation of what is left there").Exactly(); f.Verdict != rulebook.Sound {
		return f
	}
	says := []string{quantity.Say("panel of {} spaces, {} A bus behind {} A", float64(e.Ways), float64(e.Rating), float64(s.Point.Circuit.Breaker.Rating)),
		quantity.Say("its breakers interrupt {} kA, ", e.BreakingKA) + fault, "neutral apart from the ground"}
	if p.Detached == job.Yes {
		says = append(says, "disconnect and electrode at the building")
	}
	return rulebook.Meets(strings.Join(says, "; "))
}

// available is the fault current that is available at the panel, kA, with where it is from; missing says what has to be known for it.
func available(s *rulebook.Subject) (have float64, how, missing string) {
	p := &s.Job.Survey.Supply
	have, how = p.FaultCurrent, "available by the utility"
	switch {
	case have > 0:
	case p.Transformer > 0 && p.Impedance > 0:
		v := float64(systems.Voltage(p, 1))
		have = p.Transformer / v / (p.Impedance / 100)
		if p.Phases == 3 {
			have /= math.Sqrt(3)
		}
		how = quantity.Say("{} kVA ÷ {} V ÷ {} %, no conductors counted", p.Transformer, v, p.Impedance)
	case p.Rating == 0:
		return 0, "", "rating of the service"
	case p.Rating <= 200:
		have, how = usualFault, "usual most of a dwelling's service to 200 A, common practice"
	default:
		return 0, "", "available fault current: ask the utility, or read the transformer's kVA and impedance"
	}
	return have, how, ""
}
