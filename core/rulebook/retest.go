package rulebook

import (
	"slices"
	"strconv"
	"strings"

	"dogbolt/core/commission"
	"dogbolt/core/job"
)

// JudgeThen judges a reading as it stood when it was the newest of its test: what
// came after it in the log is left out. The verdict is "" where no rule looks at
// the test.
func JudgeThen(j *job.Job, entry int) (Verdict, error) {
	b, err := For(j)
	if err != nil {
		return "", err
	}
	e := &j.Log[entry]
	then := *j.Built()
	then.Log = then.Log[:entry+1]
	p, _ := then.Point(e.Point)
	s := Subject{Job: &then, Designed: j, Point: p, Book: b}
	b.Prepare(&s)
	return b.judge(&s, e.Subject), nil
}

// judge runs the rules that look at a test on a subject and returns the worst
// verdict.
func (b *Book) judge(s *Subject, test string) Verdict {
	worst := Verdict("")
	for i := range b.Rules {
		r := &b.Rules[i]
		if !r.PerPoint || !slices.Contains(r.Fields, "commission."+test) {
			continue
		}
		switch v := r.Check(s).Verdict; {
		case v == Stop:
			return Stop
		case worst == "" || v == Watch:
			worst = v
		}
	}
	return worst
}

// checkRetests watches for failed readings that were replaced without a word about
// the cause and the remedy: the three are one chain.
func checkRetests(s *Subject) Finding {
	chains, silent := []string{}, []string{}
	for i, e := range s.Job.Of(job.ReadingMade) {
		if e.Point != s.Point.ID || e.Replaces == "" {
			continue
		}
		k := s.Job.Place(e.Replaces)
		if k < 0 || k >= i {
			continue
		}
		then := *s
		copied := *s.Job
		copied.Log = copied.Log[:k+1]
		then.Job = &copied
		if s.Book.judge(&then, e.Subject) != Stop {
			continue // corrected, not failed
		}
		t, _ := s.Book.In.Tests.Of(&s.Point.Circuit, e.Subject)
		chain := t.Title + ": " + s.Job.Log[k].Value + " failed, " + e.Value + " after"
		if strings.TrimSpace(e.Reason) == "" {
			silent = append(silent, chain)
			continue
		}
		chains = append(chains, chain+" “"+e.Reason+"”")
	}
	switch {
	case len(silent) > 0:
		return Advise(strings.Join(silent, "; ")+", without cause and remedy", "write down what was wrong and what was done about it, with the next reading")
	case len(chains) > 0:
		return Meets(strings.Join(chains, "; "))
	}
	return Finding{}
}

// What has to be tested again after the device, its residual part or the cable was
// changed, and after the charger was: in the words of both countries' sequences.
var (
	deviceTests = []string{
		commission.R1R2,
		commission.R1R2L2,
		commission.R1R2L3,
		commission.Insulation,
		commission.Zs,
		commission.ZsL2,
		commission.ZsL3,
		commission.EndFault,
		commission.RCDTime,
		commission.Ground,
		commission.HotHot,
		commission.GFCITrip,
		commission.GridOut,
	}
	chargerTests = []string{commission.DCTrip, commission.Pilot, commission.Functions, commission.OpenNeutral, commission.SelfTest, commission.VehicleTest}
)

// checkTestedAgain asks for the tests of what was changed after they were made: by a
// variation, or by a design that was signed anew. A test that a repair spared is asked for then.
func checkTestedAgain(s *Subject) Finding {
	device, charger := s.changed()
	if device < 0 && charger < 0 {
		return Finding{}
	}
	var again []string
	done := 0
	for _, t := range s.sequence() {
		since := -1
		if slices.Contains(deviceTests, t.ID) {
			since = device
		} else if slices.Contains(chargerTests, t.ID) {
			since = charger
		}
		e, ok := s.Job.Latest(job.ReadingMade, s.Point.ID, t.ID)
		if since < 0 || !ok && !t.Spared {
			continue
		}
		if !ok || s.Job.Place(e.ID) < since {
			again = append(again, t.Title)
		} else {
			done++
		}
	}
	switch {
	case len(again) > 0:
		return Missing("tests again after the change: " + strings.Join(again, ", "))
	case done == 0:
		return Finding{}
	}
	return Meets(strconv.Itoa(done) + " tests were made after the change")
}

// changed returns the places in the log from which a point's device and cable, and its
// charger, are others than before; −1 where they never were.
func (s *Subject) changed() (device, charger int) {
	device, charger = -1, -1
	wasDevice, wasCharger := "", ""
	for i, e := range s.Job.Of(job.Varied, job.SignedOff) {
		switch {
		case e.Kind == job.Varied && e.Point == s.Point.ID && (strings.HasPrefix(e.Subject, "breaker.") || strings.HasPrefix(e.Subject, "cable.")):
			device = i
		case e.Kind == job.SignedOff:
			d, c := e.Covered(s.Point.ID)
			if d == "" {
				continue
			}
			if wasDevice != "" && d != wasDevice {
				device = i
			}
			if wasCharger != "" && c != wasCharger {
				charger = i
			}
			wasDevice, wasCharger = d, c
		}
	}
	return device, charger
}
