// Package rulebook turns a job into findings: reasoned verdicts, each naming
// its clause, its numbers, its working and its remedy.
//
// A rulebook is one edition of one country's wiring rules. The rules
// themselves live in the packages below this one; those that follow from the
// trade rather than from one country's book are here.
package rulebook

import (
	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/verdict"
)

// Verdict is the outcome of a rule.
type Verdict = verdict.Verdict

// The verdicts.
const (
	Sound = verdict.Sound
	Watch = verdict.Watch
	Stop  = verdict.Stop
	Open  = verdict.Open
)

// ThinMargin is the share of a limit under which a value that meets it is
// watched. Common practice, no source.
const ThinMargin = 0.05

// Number is a value that may not be known.
type Number struct {
	V   float64
	Set bool
}

// Num returns a known number.
func Num(v float64) Number { return Number{v, true} }

// Finding is what a rule says about a job or one of its points. The zero
// finding means that the rule does not apply.
type Finding struct {
	Rule, Title, Clause string
	Stage               job.Stage
	Point               string
	Verdict             Verdict

	Value     Number // what was found, in Unit
	Shown     string // the value as its instrument showed it, where that is a bound: >300 ms
	Low, High Number // least and greatest value that meets
	Unit      string

	Working string   // the sum or the reasoning with its numbers put in
	Remedy  string   // what to do about a stop or a watch
	Missing string   // what is missing, for an open finding
	Cap     Cap      // what it allows a field to be at most, where that is not its own value
	Clash   string   // which other limit on the same field cannot be met together with its own
	Fields  []string // where in the job document the screen jumps to

	// Offers are answers of the design that would remedy it, each to be taken over with one press.
	Offers []Answer

	Fixed                    bool   // never overridable
	OverriddenBy, OverReason string // set where a qualified person accepted a stop
}

// Cap is the most that a rule allows another field than the one that it judges, in the
// finding's unit.
type Cap struct {
	Field string
	Most  float64
}

// Margin returns how much of the limit is left, as a share of it: positive
// where the value meets it. It is not set where there is no number to compare.
func (f Finding) Margin() Number {
	switch {
	case !f.Value.Set:
		return Number{}
	case f.High.Set && f.Low.Set:
		// A band: the share of its half-width left to the nearer end.
		half := (f.High.V - f.Low.V) / 2
		if half <= 0 {
			return Number{}
		}
		return Num(min(f.High.V-f.Value.V, f.Value.V-f.Low.V) / half)
	case f.High.Set && f.High.V != 0:
		return Num((f.High.V - f.Value.V) / f.High.V)
	case f.Low.Set && f.Low.V != 0:
		return Num((f.Value.V - f.Low.V) / f.Low.V)
	}
	return Number{}
}

// Blocks reports whether the finding stands in the way of sealing: a stop that
// nobody qualified has accepted, or anything open.
func (f Finding) Blocks() bool {
	return f.Verdict == Open || f.Verdict == Stop && f.OverriddenBy == ""
}

// Missing returns an open finding that names what is missing.
func Missing(what string) Finding { return Finding{Verdict: Open, Missing: what} }

// Against adds the limits that a value still to come will be held to.
func (f Finding) Against(low, high Number, unit string) Finding {
	f.Low, f.High, f.Unit = low, high, unit
	return f
}

// Meets returns a sound finding with its working.
func Meets(working string) Finding { return Finding{Verdict: Sound, Working: working} }

// Fails returns a stop with its working and remedy.
func Fails(working, remedy string) Finding {
	return Finding{Verdict: Stop, Working: working, Remedy: remedy}
}

// Advise returns a watch with its working and remedy.
func Advise(working, remedy string) Finding {
	return Finding{Verdict: Watch, Working: working, Remedy: remedy}
}

// Offering adds answers of the design that would remedy what the finding says.
func (f Finding) Offering(answers ...Answer) Finding {
	f.Offers = answers
	return f
}

// tolerance absorbs the rounding of binary fractions at a limit.
const tolerance = 1e-9

// AtMost judges value ≤ limit. A value within ThinMargin of the limit is watched.
func AtMost(value, limit float64, unit, working, remedy string) Finding {
	f := Finding{Verdict: Sound, Value: Num(value), High: Num(limit), Unit: unit, Working: working}
	switch {
	case value > limit+tolerance*limit:
		f.Verdict, f.Remedy = Stop, remedy
	case value > limit*(1-ThinMargin):
		f.Verdict, f.Remedy = Watch, "meets, with little to spare"
	}
	return f
}

// AtLeast judges value ≥ limit without watching a thin margin: ratings come in
// steps, and equal is as good as above.
func AtLeast(value, limit float64, unit, working, remedy string) Finding {
	f := Finding{Verdict: Sound, Value: Num(value), Low: Num(limit), Unit: unit, Working: working}
	if value < limit-tolerance*limit {
		f.Verdict, f.Remedy = Stop, remedy
	}
	return f
}

// Exactly turns a thin-margin watch of AtMost into sound, for limits where
// equal is as good as below.
func (f Finding) Exactly() Finding {
	if f.Verdict == Watch {
		f.Verdict, f.Remedy = Sound, ""
	}
	return f
}

// NotZero watches a reading of nothing that meets: a lead that was not connected, or a
// figure that was not written down, reads 0.
func NotZero(r quantity.Reading, f Finding) Finding {
	if f.Verdict == Sound && r.Bound == quantity.Exact && r.Value == 0 {
		f.Verdict, f.Remedy = Watch, "0 is hardly ever read: were the leads connected, and is it the right figure? Read it again"
	}
	return f
}

// Judge turns a comparison of a reading into a finding: an undecided one is
// open and says what to enter.
func Judge(t quantity.Truth, r quantity.Reading, low, high Number, working, remedy string) Finding {
	f := Finding{Value: Num(r.Value), Low: low, High: high, Unit: r.Unit, Working: working}
	switch r.Bound {
	case quantity.Exact:
	case quantity.Beyond:
		f.Value = Number{}
	default:
		f.Shown = r.String()
	}
	switch t {
	case quantity.Yes:
		f.Verdict = Sound
	case quantity.No:
		f.Verdict, f.Remedy = Stop, remedy
	default:
		f.Verdict, f.Missing = Open, "a reading that decides: "+r.Text+" could lie on either side; enter the end of the range, such as >200"
	}
	return f
}
