package us

import (
	"math"

	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/rulebook"
	"dogbolt/core/worklog"
)

// checkWhite: a white conductor used as a hot is re-marked at every visible
// end, and only in cable assemblies.
func checkWhite(s *rulebook.Subject) rulebook.Finding {
	c := &s.Point.Circuit
	switch {
	case c.Cable.WhiteIsHot == job.Unasked:
		return rulebook.Missing("whether a white conductor is used as a hot")
	case c.Cable.WhiteIsHot == job.No:
		return rulebook.Meets("no white conductor is used as a hot")
	case c.Cable.Family != job.NMB && c.Cable.Family != job.MC:
		return rulebook.Fails("a single white wire in conduit as a hot", "pull a conductor of another colour: re-marking is for cable assemblies only")
	}
	e, ok := s.Job.Latest(job.StepDone, s.Point.ID, worklog.Remark)
	switch {
	case !ok:
		return rulebook.Missing("re-marking of the white conductor at every visible end")
	case e.Value == remarkNone:
		return rulebook.Fails("the design has a white hot, the log says none was re-marked", "re-mark it at every visible end")
	case e.Value == remarkOneEnd:
		return rulebook.Fails("re-marked at one end only", "re-mark it at every visible end, 200.7(C)")
	case e.Value != remarkBoth:
		return rulebook.Missing("re-marking at every visible end: “" + e.Value + "” is not “" + remarkBoth + "”")
	}
	return rulebook.Meets("re-marked at every visible end")
}

// torqueTolerance is how far a recorded torque may lie from the label, as a
// share: ±6 % of hand torque tools, ISO 6789 (from memory).
const torqueTolerance = 0.06

func checkTorque(s *rulebook.Subject) rulebook.Finding {
	terminals := s.Book.In.Install.Terminals(s.Point)
	done, next := 0, ""
	for _, t := range terminals {
		e, ok := s.Job.Latest(job.TorqueMade, s.Point.ID, t.ID)
		if !ok {
			if next == "" {
				next = t.Title
			}
			continue
		}
		got, err1 := quantity.ParseReading(e.Value, "")
		want, err2 := quantity.ParseReading(e.Target, "")
		if err1 != nil || err2 != nil || want.Value == 0 {
			return rulebook.Missing("torque and label figure of " + t.Title)
		}
		if math.Abs(got.Value-want.Value) > torqueTolerance*want.Value {
			return rulebook.Fails(
				t.Title+quantity.Say(": {} ", got.Value)+e.Unit+quantity.Say(", label {} ", want.Value)+e.Unit,
				"loosen, inspect, tighten to the label",
			)
		}
		done++
	}
	if len(terminals) == 0 {
		return rulebook.Finding{}
	}
	if next != "" {
		return rulebook.Missing(quantity.Say("{} of {} terminals; next: ", float64(done), float64(len(terminals))) + next)
	}
	return rulebook.Meets(quantity.Say("{} terminals at their labels' figure", float64(done)))
}

func checkDirectory(s *rulebook.Subject) rulebook.Finding {
	if !s.Plans(worklog.Labels) {
		return rulebook.Finding{}
	}
	e, ok := s.Job.Latest(job.StepDone, "", worklog.Labels)
	if !ok || e.Value == "" {
		return rulebook.Missing("what was written in the circuit directory")
	}
	return rulebook.Meets("“" + e.Value + "”")
}

// Band of a continuity reading about the computed one: 30 % operating
// uncertainty (IEC 61557-4, from memory) and 0.05 Ω for leads and terminals. Common
// practice, no source.
const (
	continuityShare = 0.30
	continuityOhm   = 0.05
)

func checkContinuity(s *rulebook.Subject) rulebook.Finding {
	if wires(s).GroundOhm == 0 {
		return rulebook.Missing("size of the equipment ground and length of the route, to know what to expect")
	}
	want := float64(wires(s).GroundOhm)
	high := want*(1+continuityShare) + continuityOhm
	r, f, ok := s.Reading(commission.Ground)
	if !ok {
		return f.Against(rulebook.Number{}, rulebook.Num(high), "Ω")
	}
	f = rulebook.Judge(r.AtMost(high), r, rulebook.Number{}, rulebook.Num(high),
		wires(s).GroundUsed.String()+quantity.Say(" over {0} ft: {2} Ω, up to {2} Ω expected; ", wires(s).Length.Feet(), want, high)+r.String()+" read",
		"the ground path is open or badly joined: find it before anything is switched on")
	if f.Verdict == rulebook.Stop && r.AtMost(commission.ContinuityMost(want)) == quantity.Yes {
		f.Verdict, f.Remedy = rulebook.Watch, "higher than computed: look for a loose joint or a longer route"
	}
	return rulebook.NotZero(r, f)
}

// insulation: 1 MΩ at 500 V DC, advice under 25 MΩ. Common practice
// beside 110.7.
func insulation(test string) func(*rulebook.Subject) rulebook.Finding {
	return rulebook.Asked(test, func(s *rulebook.Subject) rulebook.Finding { return checkInsulation(s, test) })
}

func checkInsulation(s *rulebook.Subject, test string) rulebook.Finding {
	r, f, ok := s.Reading(test)
	if !ok {
		return f.Against(rulebook.Num(1), rulebook.Number{}, "MΩ")
	}
	f = rulebook.Judge(
		r.AtLeast(1),
		r,
		rulebook.Num(1),
		rulebook.Number{},
		r.String()+", at least 1 MΩ",
		"damp, damage or a connected load: find it, mend it, test again",
	)
	if f.Verdict == rulebook.Sound && r.AtLeast(25) != quantity.Yes {
		f.Verdict, f.Remedy = rulebook.Watch, "meets, but new wiring should read over 25 MΩ"
	}
	return f
}

func checkHotHot(s *rulebook.Subject) rulebook.Finding {
	r, f, ok := s.Reading(commission.HotHot)
	if !ok {
		low, high, _, _ := rangeA(&s.Job.Survey.Supply)
		return f.Against(rulebook.Num(low), rulebook.Num(high), "V")
	}
	return hotToHot(s, r)
}

// checkHotGround reads both legs together, since their pattern names the
// mistake (common practice).
func checkHotGround(s *rulebook.Subject) rulebook.Finding {
	_, _, low, high := rangeA(&s.Job.Survey.Supply)
	l1, f, ok := s.Reading(commission.HotGround1)
	if !ok {
		return f.Against(rulebook.Num(low), rulebook.Num(high), "V")
	}
	l2, f, ok := s.Reading(commission.HotGround2)
	if !ok {
		return f.Against(rulebook.Num(low), rulebook.Num(high), "V")
	}
	working := "L1 " + l1.String() + ", L2 " + l2.String() + quantity.Say("; {} V to {} V each", low, high)
	t, r := l1.Within(low, high), l1
	if t == quantity.Yes {
		t, r = l2.Within(low, high), l2
	}
	f = rulebook.Judge(t, r, rulebook.Num(low), rulebook.Num(high), working, patternHotGround(l1.Value, l2.Value))
	_, _, lowB, highB := rangeB(&s.Job.Survey.Supply)
	if f.Verdict == rulebook.Stop && l1.Within(lowB, highB) == quantity.Yes && l2.Within(lowB, highB) == quantity.Yes {
		f.Verdict, f.Remedy = rulebook.Watch, "range B of ANSI C84.1: tell the utility, and look at the drop of the circuit"
	}
	return f
}

func patternHotGround(a, b float64) string {
	lo, hi := min(a, b), max(a, b)
	switch {
	case lo < 20 && hi > 200:
		return "the ground sits at one leg's potential: switch off, trace the ground"
	case lo > 100 && lo < 140 && hi > 200 && hi < 220:
		return "a high leg: this charger may not be connected to it"
	case lo > 100 && lo < 140 && hi > 220:
		return "a line and the ground are exchanged: switch off, correct"
	case lo > 50 && hi > 140:
		return "floating neutral: switch off, find the open neutral, call the utility if it is theirs"
	}
	return "trace both hots and the ground"
}

// checkGFCITrip: class A trips between 4 mA and 6 mA (UL 943).
func checkGFCITrip(s *rulebook.Subject) rulebook.Finding {
	r, f, ok := s.Reading(commission.GFCITrip)
	if !ok {
		return f.Against(rulebook.Num(4), rulebook.Num(6), "mA")
	}
	return rulebook.Judge(r.Within(4, 6), r, rulebook.Num(4), rulebook.Num(6), r.String()+", 4 mA to 6 mA", "replace the ground-fault device, test again")
}

func checkSelfTest(s *rulebook.Subject) rulebook.Finding {
	return s.Choice(commission.SelfTest, "by the maker's fault list; replace the charger if it stays")
}

func checkStates(s *rulebook.Subject) rulebook.Finding {
	return s.Choice(commission.VehicleTest, "by the maker's fault list; replace the charger if it stays")
}

// strayMost is the voltage between ground and neutral, or the enclosure, above
// which a neutral carries another load or is loose, V. Common practice, no source.
const strayMost = 2.0

// strayStop is the voltage of ground to neutral, V, at which nothing is left on: three
// times the 3 % of 120 V that a neutral under its full load drops (210.19, note). Above
// it the neutral is open, or a hot is on the ground.
const strayStop = 10.0

func checkStray(s *rulebook.Subject) rulebook.Finding {
	r, f, ok := s.Reading(commission.Stray)
	if !ok {
		return f
	}
	f = rulebook.Judge(r.AtMost(strayMost), r, rulebook.Number{}, rulebook.Num(strayMost), r.String()+", at most 2 V", "a loaded or loose neutral: find it")
	if f.Verdict == rulebook.Stop && r.AtMost(strayStop) == quantity.Yes {
		f.Verdict = rulebook.Watch
	}
	return f
}
