package rulebook

import "dogbolt/core/job"

// The checks of what becomes of things that every rulebook shares.

// checkLeft asks what becomes of the circuit of a charger that is taken away.
func checkLeft(s *Subject) Finding {
	c := &s.Point.Circuit
	if c.Kind() != job.Removal {
		return Finding{}
	}
	breaker, cable := "the breaker stays, held off and marked", "the cable stays, its end closed off"
	switch f := c.Fates(); {
	case f.Breaker == "":
		return Missing("whether the breaker stays or is taken out")
	case f.Cable == "":
		return Missing("whether the cable stays or is taken out")
	case f.Breaker == job.FateTakenOut && f.Cable == job.FateTakenOut:
		return Meets("breaker and cable are taken out")
	case f.Breaker == job.FateTakenOut:
		breaker = "the breaker is taken out"
	case f.Cable == job.FateTakenOut:
		cable = "the cable is taken out"
	default:
		return Advise(breaker+"; "+cable, "the cable counts as live: off the breaker it would not")
	}
	return Meets(breaker + "; " + cable)
}

// checkMended asks what is wrong with a charger that is kept, where it is not an exchange of devices alone.
func checkMended(s *Subject) Finding {
	c := &s.Point.Circuit
	if c.Kind() != job.Repair {
		return Finding{}
	}
	f, m := c.Fates(), c.Mended
	devices := f.Breaker == job.FateReplaced || f.RCD.Comes() || f.Receptacle == job.FateReplaced
	isolator := f.Isolator.Comes() && (c.Isolator == job.Yes || c.Disconnect == job.Yes)
	switch {
	case m == job.Mended{} && (devices || isolator):
		return Meets("the charger stays; a device of its circuit is exchanged")
	case m.Fault == "":
		return Missing("what is wrong, or which device of its circuit is exchanged")
	case m.Cause == "":
		return Missing("what it comes from: “" + m.Fault + "”")
	case m.Part == "":
		return Missing("what is mended or exchanged")
	case m.Part == job.MendedBreaker && !devices:
		return Missing("whether the breaker or the residual device is replaced")
	}
	return Meets(m.Fault + ": " + m.Cause)
}

// checkMoved asks for the number of a charger that comes from another address: nothing else tells that it is the same.
func checkMoved(s *Subject) Finding {
	c := &s.Point.Circuit.Charger
	switch {
	case c.Moved == "":
		return Finding{}
	case c.Serial == "":
		return Missing("the serial number of the charger that comes from job " + c.Moved)
	}
	return Meets(c.Serial + " comes from job " + c.Moved + ": it is set afresh for this supply")
}
