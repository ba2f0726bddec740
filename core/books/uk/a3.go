package uk

import (
	"dogbolt/core/job"
	"dogbolt/core/rulebook"
)

// A3 is the edition with amendment 3 of 2024, told from A2. It came out as a few
// pages about devices that may be fed from both sides (530.3.201). From memory.
var A3 = A2.Edition(rulebook.Delta{
	ID: "bs7671:2018+A3:2024", Name: "BS 7671:2018+A3:2024", Short: "BS 7671 A3",
	Rules: []rulebook.Rule{bothSides(a3BothSides)},
	Unknown: []string{
		"the definitions of part 2 and the notes that amendment 3 may have moved",
		"what the On-Site Guide and Guidance Note 3 printed for it changed",
	},
})

// bothSides is the rule about devices that a charger may feed from the load side.
func bothSides(check func(*rulebook.Subject) rulebook.Finding) rulebook.Rule {
	return rulebook.Rule{ID: "both-sides", Title: "Devices made to be fed from both sides", Clause: "530.3.201", Stage: job.StageDesign, Made: true, PerPoint: true,
		Fields: []string{"design.circuits.{p}.charger.exports", "design.circuits.{p}.breaker.bothWays"}, Check: check,
		Numbers: "none"}
}

const (
	fedBack   = "the charger can feed back into the circuit"
	otherKind = "devices marked for supply from either side"
)

// a3BothSides: a device that may be fed from both sides must be made for it.
func a3BothSides(s *rulebook.Subject) rulebook.Finding {
	c := &s.Point.Circuit
	switch {
	case c.Charger.Exports == job.Unasked:
		return rulebook.Missing("whether the charger can feed back into the circuit")
	case c.Charger.Exports == job.No:
		return rulebook.Meets("fed from the board alone")
	case c.Breaker.BothWays == job.Unasked:
		return rulebook.Missing("whether breaker and residual device are marked as made to be fed from either side")
	case c.Breaker.BothWays == job.No:
		return rulebook.Fails(fedBack+", and its devices are not made for that", otherKind)
	}
	return rulebook.Meets(fedBack + ", its devices are made for that")
}

// a2BothSides: before amendment 3 no regulation names it, but a device that is fed
// from its load side may burn out all the same (makers' instructions, 134.1.1).
func a2BothSides(s *rulebook.Subject) rulebook.Finding {
	c := &s.Point.Circuit
	switch {
	case c.Charger.Exports != job.Yes:
		return rulebook.Finding{}
	case c.Breaker.BothWays != job.Yes:
		return rulebook.Advise(
			fedBack+", and its devices are not known to be made for that",
			"ask the makers of breaker and residual device; amendment 3 asks for "+otherKind,
		)
	}
	return rulebook.Meets(fedBack + ", its devices are made for that")
}
