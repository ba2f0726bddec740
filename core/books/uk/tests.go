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
	if f.Verdict != rulebook.Stop {
		return rulebook.NotZero(r, f)
	}
	most := commission.ContinuityMost(want)
	if r.AtMost(most) == quantity.Yes {
		f.Verdict, f.Remedy = rulebook.Watch, "higher: a loose joint or a longer route; lower: a parallel path or leads not nulled"
		return rulebook.NotZero(r, f)
	}
	f.Working += quantity.Say(", more than {2} Ω", most)
	f.Remedy = "the protective conductor is open or badly joined, or the route is another one: find it before anything is switched on"
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

// bondMost is the most that an earthing or a bonding conductor reads from end to end, Ω:
// 25 m of 10 mm² copper are 0.046 Ω at 20 °C (BS EN 60228), a joint 0.05 Ω (GN3).
const bondMost = 0.10

func checkBondContinuity(s *rulebook.Subject) rulebook.Finding {
	r, f, ok := s.Reading(commission.Bonding)
	if !ok {
		return f.Against(rulebook.Number{}, rulebook.Num(bondMost), "Ω")
	}
	f = rulebook.Judge(r.AtMost(bondMost), r, rulebook.Number{}, rulebook.Num(bondMost), r.String()+" read, at most 0.10 Ω end to end",
		"a joint is loose, or a conductor is broken: find it before anything is switched on")
	if f.Verdict == rulebook.Stop && r.AtMost(10*bondMost) == quantity.Yes {
		f.Verdict, f.Remedy = rulebook.Watch, "high for a bonding conductor: a long one, or a poor joint; say which in the log"
	}
	return rulebook.NotZero(r, f)
}

func checkPolarityOrigin(s *rulebook.Subject) rulebook.Finding {
	return s.Choice(commission.PolarityOrigin, "leave everything off and call the network operator")
}

// checkElectrodeRead judges the point's own electrode as it was measured: by the
// residual device, or by way (ii) of 722.411.4.1 at the demand.
func checkElectrodeRead(s *rulebook.Subject) rulebook.Finding {
	c := &s.Point.Circuit
	var (
		limit float64
		how   string
	)
	switch {
	case c.Earthing.OpenPEN == job.PENElectrode && s.Demand.Total > 0:
		limit = float64(protection.ElectrodeLimit(s.Demand.Total))
		how = quantity.Say("way (ii) at {1} A", float64(s.Demand.Total))
	case c.Earthing.OpenPEN == job.PENTT && c.RCD.TripMA > 0:
		limit = float64(protection.MaxZsRCD(c.RCD.TripMA))
		how = quantity.Say("50 V ÷ {} mA", c.RCD.TripMA)
	default:
		return rulebook.Missing("demand or rated residual current, to judge the electrode by")
	}
	r, f, ok := s.Reading(commission.ElectrodeRA)
	if !ok {
		return f.Against(rulebook.Number{}, rulebook.Num(limit), "Ω")
	}
	f = rulebook.Judge(r.AtMost(limit), r, rulebook.Number{}, rulebook.Num(limit), r.String()+quantity.Say(" read, at most {2} Ω, ", limit)+how,
		"drive it deeper or add another, and measure again")
	if f.Verdict == rulebook.Sound && r.AtMost(raStable) != quantity.Yes {
		f.Verdict, f.Remedy = rulebook.Watch, "above 200 Ω an electrode may not be stable"
	}
	return rulebook.NotZero(r, f)
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
	return rulebook.NotZero(r, tight(r.AtMost(limit), r, limit, working+r.String()+quantity.Say(" read, at most {2} Ω", limit), remedy))
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
	if limit == 0 {
		return rulebook.Missing("breaker rating and type")
	}
	working, remedy := limitText(s)+disconnects(s)+"; ", "lower the loop impedance"
	hot := limit
	if !byElectrode(s) && s.Point.Circuit.FaultByRCD != job.Yes {
		limit *= protection.ColdFactor
		working = limitText(s) + disconnects(s) + quantity.Say(" hot × 0.8 = {2} Ω cold; ", limit)
		remedy = "look for a loose joint or a longer route; else a larger protective conductor"
	}
	r, f, ok := s.Reading(test)
	if !ok {
		return f.Against(rulebook.Number{}, rulebook.Num(limit), "Ω")
	}
	if joined := stillJoined(s, r); joined.Verdict != "" {
		return joined
	}
	f = tight(r.AtMost(limit), r, limit, working+r.String()+" read", remedy)
	// Above the hot limit itself nothing disconnects in time: nobody accepts that.
	f.Fixed = f.Verdict == rulebook.Stop && r.AtMost(hot) == quantity.No
	return rulebook.NotZero(r, f)
}

// joinedBelow is the share of the electrode's resistance below which the loop of a TT
// point closes another way: the soil between two electrodes makes some of it, a wire
// to the PME earth nearly all. Common practice, no source.
const joinedBelow = 0.5

// stillJoined stops where a point made TT reads far below its own electrode.
func stillJoined(s *rulebook.Subject, r quantity.Reading) rulebook.Finding {
	e := &s.Point.Circuit.Earthing
	least := joinedBelow * float64(e.RA)
	if e.OpenPEN != job.PENTT || e.RA == 0 || r.AtLeast(least) == quantity.Yes {
		return rulebook.Finding{}
	}
	f := rulebook.Judge(r.AtLeast(least), r, rulebook.Num(least), rulebook.Number{},
		r.String()+quantity.Say(" read, the point's electrode has {} Ω", float64(e.RA)),
		"the point is still joined to the PME earth: by the cable's protective conductor, its armour, or a fixing; part them and read again")
	f.Fixed = true
	return f
}

// disconnects says within which time table 41.1 asks for disconnection: 0.4 s in TN and
// 0.2 s in TT for a socket-outlet to 63 A and fixed equipment to 32 A, else 5 s and 1 s; those of a sub-main too.
func disconnects(s *rulebook.Subject) string {
	c := &s.Point.Circuit
	short := !c.EndsInBoard() && (c.Breaker.Rating <= 32 || c.Breaker.Rating <= 63 && c.Charger.Outlet != job.Tethered)
	switch tt := byElectrode(s); {
	case tt && short:
		return ", 0.2 s by table 41.1"
	case tt:
		return ", 1 s by 411.3.2.4"
	case short:
		return ", 0.4 s by table 41.1"
	}
	return ", 5 s by 411.3.2.3"
}

func checkPFC(s *rulebook.Subject) rulebook.Finding {
	kA := s.Breaks()
	if kA == 0 {
		return rulebook.Missing("breaking capacity of the breaker")
	}
	r, f, ok := s.Reading(commission.FaultCurrent)
	if !ok {
		return f.Against(rulebook.Number{}, rulebook.Num(kA), "kA")
	}
	if r.Bound == quantity.Exact {
		if f, ok := conditional(s, r.Value, kA); ok {
			return f
		}
	}
	return rulebook.NotZero(r, rulebook.Judge(r.AtMost(kA), r, rulebook.Number{}, rulebook.Num(kA), r.String()+quantity.Say(", device breaks {} kA", kA),
		"a device or a board of higher rating"))
}

// rcdMost is the longest that a general device may take at its rated residual current,
// ms: BS EN 61008-1 table 1, 643.8.
const rcdMost = 300.0

// Trip times of 643.8 at 1 × IΔn a.c., ms: general at most 300; delayed (S)
// 130 to 500.
func checkRCDTime(s *rulebook.Subject) rulebook.Finding {
	if s.Point.Circuit.RCD.Fitted == job.No {
		return rulebook.Finding{}
	}
	low, high, what := rulebook.Number{}, rcdMost, "at most 300 ms"
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
	return rulebook.NotZero(r, rulebook.Judge(t, r, low, rulebook.Num(high), r.String()+", "+what, "replace the device, then test again"))
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
	return rulebook.NotZero(r, rulebook.Judge(
		r.AtMost(10),
		r,
		rulebook.Number{},
		rulebook.Num(10),
		r.String()+", at most 10 s at 6 mA",
		"the detection does not work: replace the charger, then test again",
	))
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
	if r.AtMost(rcdMost) == quantity.No {
		return rulebook.Judge(quantity.No, r, rulebook.Number{}, rulebook.Num(rcdMost), r.String()+", not opened within 300 ms at 5 × IΔn",
			"the device does not protect: replace it, and test again")
	}
	return rulebook.NotZero(r, advised(
		rulebook.Judge(
			r.AtMost(40),
			r,
			rulebook.Number{},
			rulebook.Num(40),
			r.String()+", at most 40 ms is usual at 5 × IΔn; since amendment 2 the test at 1 × IΔn governs",
			"slow: often a sticky mechanism or standing leakage; press its button, test again, or replace the device",
		),
	))
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
	working := r.String() + quantity.Say(", between {} mA and {} mA", mA/2, mA)
	if r.AtMost(mA) != quantity.Yes {
		return rulebook.Judge(
			r.AtMost(mA),
			r,
			rulebook.Num(mA/2),
			rulebook.Num(mA),
			working,
			"it trips above its rated current: replace the device, and test again",
		)
	}
	return advised(
		rulebook.Judge(r.AtLeast(mA/2), r, rulebook.Num(mA/2), rulebook.Num(mA), working, "it trips early: standing leakage of the circuit, or the device"),
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
