package uk

import (
	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/protection"
	"dogbolt/core/quantity"
	"dogbolt/core/rulebook"
)

// continuityBand is how far a measured R1+R2 may lie from the design before it
// is questioned: the 30 % operating uncertainty of BS EN 61557-4 (from memory),
// and 0.05 Ω for leads and terminals (common practice).
const (
	continuityShare = 0.30
	continuityOhm   = 0.05
)

// r1r2 judges the continuity of one line with the protective conductor, corrected
// to 20 °C where the temperature was taken.
func r1r2(test string) func(*rulebook.Subject) rulebook.Finding {
	return rulebook.Asked(test, func(s *rulebook.Subject) rulebook.Finding { return checkR1R2(s, test) })
}

func checkR1R2(s *rulebook.Subject, test string) rulebook.Finding {
	m := metric(s)
	if m.MissingCable != "" {
		return rulebook.Missing(m.MissingCable)
	}
	if m.R1R2Cold == 0 {
		return rulebook.Missing("cable route, to know what to expect")
	}
	want := float64(m.R1R2Cold)
	slack := continuityShare*want + continuityOhm
	low, high := max(want-slack, 0), want+slack
	r, f, ok := s.Reading(test)
	if !ok {
		return f.Against(rulebook.Num(low), rulebook.Num(high), "Ω")
	}
	working := quantity.Say("design {2} Ω at 20 °C over {1} m; {2} Ω to {2} Ω expected; ", want, float64(m.Length), low, high) + r.String() + " read"
	if t, _, ok := s.Reading(commission.Ambient); ok && t.Bound == quantity.Exact {
		r.Value = float64(commission.R20(quantity.Ohm(r.Value), quantity.Celsius(t.Value)))
		working += quantity.Say(" at {} °C, ÷ (1 + 0.004 × ({} − 20)) = {2} Ω at 20 °C", t.Value, t.Value, r.Value)
	}
	f = rulebook.Judge(r.Within(low, high), r, rulebook.Num(low), rulebook.Num(high), working, "")
	if f.Verdict == rulebook.Stop {
		f.Verdict, f.Remedy = rulebook.Watch, "higher: a loose joint or a longer route; lower: a parallel path or leads not nulled"
		// An open protective conductor is no advice: it does not meet.
		if r.Bound != quantity.Below && m.ZsLimit > 0 && r.Value > float64(m.ZsLimit) {
			f.Verdict, f.Remedy = rulebook.Stop, "the protective conductor is open or badly joined: find it before anything is switched on"
		}
	}
	return f
}

func insulation(test string) func(*rulebook.Subject) rulebook.Finding {
	return rulebook.Asked(test, func(s *rulebook.Subject) rulebook.Finding { return checkInsulation(s, test) })
}

func checkInsulation(s *rulebook.Subject, test string) rulebook.Finding {
	r, f, ok := s.Reading(test)
	if !ok {
		return f.Against(rulebook.Num(1), rulebook.Number{}, "MΩ")
	}
	f = rulebook.Judge(r.AtLeast(1), r, rulebook.Num(1), rulebook.Number{}, r.String()+", at least 1.0 MΩ",
		"damp, damage or a connected load: find it, mend it, test again")
	if f.Verdict == rulebook.Sound && r.AtLeast(2) != quantity.Yes {
		f.Verdict, f.Remedy = rulebook.Watch, "meets, but a new circuit should read far higher: look for damp (GN3)"
	}
	return f
}

func checkPolarityDead(s *rulebook.Subject) rulebook.Finding {
	return s.Choice(commission.PolarityDead, "exchange the conductors, test again")
}

func checkPolarityLive(s *rulebook.Subject) rulebook.Finding {
	return s.Choice(commission.PolarityLive, "switch off, exchange the conductors, test again; at the origin call the operator")
}

func voltage(test string) func(*rulebook.Subject) rulebook.Finding {
	return rulebook.Asked(test, func(s *rulebook.Subject) rulebook.Finding {
		r, f, ok := s.Reading(test)
		if !ok {
			return f.Against(rulebook.Num(VoltageLow), rulebook.Num(VoltageHigh), "V")
		}
		return voltageFinding(r)
	})
}

// lineVoltage judges a voltage between two lines: √3 times the statutory range.
func lineVoltage(test string) func(*rulebook.Subject) rulebook.Finding {
	return rulebook.Asked(test, func(s *rulebook.Subject) rulebook.Finding {
		low, high := commission.LineVoltage(VoltageLow), commission.LineVoltage(VoltageHigh)
		r, f, ok := s.Reading(test)
		if !ok {
			return f.Against(rulebook.Num(low), rulebook.Num(high), "V")
		}
		return rulebook.Judge(
			r.Within(low, high),
			r,
			rulebook.Num(low),
			rulebook.Num(high),
			quantity.Say("√3 × (216.2 V to 253.0 V) is {1} V to {1} V; ", low, high)+r.String()+" read",
			"two lines of the same phase, or a lost one: tell the network operator",
		)
	})
}

func checkSequence(s *rulebook.Subject) rulebook.Finding {
	return s.Choice(commission.PhaseSequence, "exchange two lines at the charger, test again")
}

func checkZe(s *rulebook.Subject) rulebook.Finding {
	p := &s.Job.Survey.Supply
	limit, working, remedy := float64(p.DeclaredZe), "", "higher than declared: tell the network operator, design again with the measured figure"
	if p.System == job.TT {
		if s.Point.Circuit.RCD.TripMA == 0 {
			return rulebook.Missing("rated residual current")
		}
		limit, working, remedy = float64(protection.MaxZsRCD(s.Point.Circuit.RCD.TripMA)), "50 V ÷ IΔn, table 41.5; ", "lower the electrode resistance"
	}
	if limit == 0 {
		return rulebook.Missing("declared external loop impedance")
	}
	r, f, ok := s.Reading(commission.Ze)
	if !ok {
		return f.Against(rulebook.Number{}, rulebook.Num(limit), "Ω")
	}
	return tight(r.AtMost(limit), r, limit, working+r.String()+quantity.Say(" read, at most {2} Ω", limit), remedy)
}

// tight is Judge against a greatest value, watching a reading within 15 % of
// it: a loop reading drifts with the season's load (common practice).
func tight(t quantity.Truth, r quantity.Reading, limit float64, working, remedy string) rulebook.Finding {
	f := rulebook.Judge(t, r, rulebook.Number{}, rulebook.Num(limit), working, remedy)
	if f.Verdict == rulebook.Sound && r.Bound == quantity.Exact && r.Value > 0.85*limit {
		f.Verdict, f.Remedy = rulebook.Watch, "meets, close to the limit"
	}
	return f
}

// zs compares the reading of one line, taken cold, with 0.80 of the limit.
func zs(test string) func(*rulebook.Subject) rulebook.Finding {
	return rulebook.Asked(test, func(s *rulebook.Subject) rulebook.Finding { return checkZs(s, test) })
}

func checkZs(s *rulebook.Subject, test string) rulebook.Finding {
	limit := float64(metric(s).ZsLimit)
	if metric(s).MissingCable != "" || limit == 0 {
		return rulebook.Missing("breaker rating and type")
	}
	working, remedy := limitText(s)+"; ", "lower the loop impedance"
	if !byElectrode(s) && s.Point.Circuit.FaultByRCD != job.Yes {
		limit *= protection.ColdFactor
		working = limitText(s) + quantity.Say(" hot × 0.8 = {2} Ω cold; ", limit)
		remedy = "look for a loose joint or a longer route; else a larger protective conductor"
	}
	r, f, ok := s.Reading(test)
	if !ok {
		return f.Against(rulebook.Number{}, rulebook.Num(limit), "Ω")
	}
	return tight(r.AtMost(limit), r, limit, working+r.String()+" read", remedy)
}

func checkPFC(s *rulebook.Subject) rulebook.Finding {
	kA := s.Point.Circuit.Breaker.BreakingKA
	if kA == 0 {
		kA = s.Job.Survey.Board.BreakingKA
	}
	if kA == 0 {
		return rulebook.Missing("breaking capacity of the breaker")
	}
	r, f, ok := s.Reading(commission.FaultCurrent)
	if !ok {
		return f.Against(rulebook.Number{}, rulebook.Num(kA), "kA")
	}
	return rulebook.Judge(r.AtMost(kA), r, rulebook.Number{}, rulebook.Num(kA), r.String()+quantity.Say(", device breaks {} kA", kA),
		"a device or a board of higher rating")
}

// Trip times of 643.8 at 1 × IΔn a.c., ms: general at most 300; delayed (S)
// 130 to 500.
func checkRCDTime(s *rulebook.Subject) rulebook.Finding {
	if s.Point.Circuit.RCD.Fitted == job.No {
		return rulebook.Finding{}
	}
	low, high, what := rulebook.Number{}, 300.0, "at most 300 ms"
	if s.Point.Circuit.RCD.Delayed == job.Yes {
		low, high, what = rulebook.Num(130), 500, "delayed type: 130 ms to 500 ms"
	}
	r, f, ok := s.Reading(commission.RCDTime)
	if !ok {
		return f.Against(low, rulebook.Num(high), "ms")
	}
	t := r.AtMost(high)
	if low.Set {
		t = r.Within(low.V, high)
	}
	return rulebook.Judge(t, r, low, rulebook.Num(high), r.String()+", "+what, "replace the device, then test again")
}

// checkDCTrip: IEC 62955 allows 10 s at 6 mA.
func checkDCTrip(s *rulebook.Subject) rulebook.Finding {
	c := &s.Point.Circuit
	if c.RCD.Type == job.TypeB && c.Charger.DCDetection != job.Yes {
		return rulebook.Finding{}
	}
	r, f, ok := s.Reading(commission.DCTrip)
	if !ok {
		return f.Against(rulebook.Number{}, rulebook.Num(10), "s")
	}
	return rulebook.Judge(
		r.AtMost(10),
		r,
		rulebook.Number{},
		rulebook.Num(10),
		r.String()+", at most 10 s at 6 mA",
		"the detection does not work: replace the charger, then test again",
	)
}

func checkFunctions(s *rulebook.Subject) rulebook.Finding {
	return s.Choice(commission.Functions, "by the maker's fault list; replace the charger if it stays")
}

// The ½ × and 5 × IΔn tests of older practice: a miss is advice (GN3). 5 × IΔn
// within 40 ms, BS EN 61008-1 table 1, from memory.
func checkRCDHalf(s *rulebook.Subject) rulebook.Finding {
	return advised(s.Choice(commission.RCDHalf, "it may trip for nothing: look for standing leakage, or replace the device"))
}

func checkRCDFive(s *rulebook.Subject) rulebook.Finding {
	r, f, ok := s.Reading(commission.RCDFive)
	if !ok {
		return f
	}
	return advised(
		rulebook.Judge(
			r.AtMost(40),
			r,
			rulebook.Number{},
			rulebook.Num(40),
			r.String()+", at most 40 ms",
			"slow at 5 × IΔn: replace the device, and test again",
		),
	)
}

// checkRCDRamp: a device trips between half of its rated current and all of it
// (BS EN 61008-1, from memory).
func checkRCDRamp(s *rulebook.Subject) rulebook.Finding {
	mA := s.Point.Circuit.RCD.TripMA
	if mA == 0 {
		return rulebook.Missing("rated residual current")
	}
	r, f, ok := s.Reading(commission.RCDRamp)
	if !ok {
		return f
	}
	return advised(
		rulebook.Judge(
			r.Within(mA/2, mA),
			r,
			rulebook.Num(mA/2),
			rulebook.Num(mA),
			r.String()+quantity.Say(", between {} mA and {} mA", mA/2, mA),
			"below: standing leakage of the circuit; above: replace the device",
		),
	)
}

// advised turns a stop of good practice into advice.
func advised(f rulebook.Finding) rulebook.Finding {
	if f.Verdict == rulebook.Stop {
		f.Verdict = rulebook.Watch
	}
	return f
}

func checkOpenNeutral(s *rulebook.Subject) rulebook.Finding {
	return s.Choice(commission.OpenNeutral, "the open-PEN device does not work: leave the point off, replace the device or the charger")
}

func checkSchedule(s *rulebook.Subject) rulebook.Finding {
	return s.Choice(commission.Schedule, "switch it on; the owner may change it later")
}

// Random start delay of the smart charge point regulations, s: up to 600 by
// default, settable to 1800. From memory.
const (
	delayDefault = 600.0
	delayMost    = 1800.0
)

func checkStartDelay(s *rulebook.Subject) rulebook.Finding {
	r, f, ok := s.Reading(commission.StartDelay)
	if !ok {
		return f.Against(rulebook.Num(delayDefault), rulebook.Num(delayMost), "s")
	}
	return rulebook.Judge(
		r.Within(delayDefault, delayMost),
		r,
		rulebook.Num(delayDefault),
		rulebook.Num(delayMost),
		r.String()+", 600 s by default, up to 1800 s",
		"set the random start delay",
	)
}
