package job_test

import (
	"strings"
	"testing"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// TestBackedUp: what hangs on a second source adds up, an outlet with all that its breaker carries; one setting that nobody knows
// makes the sum unknown.
func TestBackedUp(t *testing.T) {
	on := func(setting quantity.Ampere, side job.Side) job.Circuit {
		return job.Circuit{Setting: setting, Side: side}
	}
	outlet := job.Circuit{Side: job.BackedSide, Charger: job.Charger{Fate: job.FateNone}, Breaker: job.Breaker{Rating: 40}}
	for _, c := range []struct {
		name  string
		of    []job.Circuit
		sum   quantity.Ampere
		known bool
	}{
		{"none", []job.Circuit{on(32, job.GridSide), on(0, "")}, 0, true},
		{"one of two", []job.Circuit{on(32, job.BackedSide), on(16, job.GridSide)}, 32, true},
		{"two", []job.Circuit{on(32, job.BackedSide), on(16, job.BackedSide)}, 48, true},
		{"an outlet", []job.Circuit{outlet}, 40, true},
		{"one unknown", []job.Circuit{on(32, job.BackedSide), on(0, job.BackedSide)}, 0, false},
	} {
		j := job.Job{}
		for i := range c.of {
			c.of[i].Point = string(rune('A' + i))
			j.Survey.Places = append(j.Survey.Places, job.Place{Point: c.of[i].Point})
		}
		j.Design.Circuits = c.of
		if sum, known := j.BackedUp(); sum != c.sum || known != c.known {
			t.Errorf("%s: %g, %t", c.name, float64(sum), known)
		}
	}
}

// TestOtherSaid: what a certificate says of a second source; nothing while nobody knows.
func TestOtherSaid(t *testing.T) {
	battery := job.Second{Kind: job.BacksUp, Rating: 43, Isolator: "garage"}
	for _, c := range []struct {
		other  job.Answer
		second job.Second
		want   string
	}{
		{"", battery, ""}, {job.No, job.Second{}, "none"}, {job.Yes, job.Second{}, "yes"}, {job.Yes, battery, "yes: carries circuits on, 43 A, switched off: garage"},
		{job.Yes, job.Second{Kind: job.FeedsIn}, "yes: stops too (solar alone)"},
	} {
		p := job.Supply{OtherSource: c.other, Second: c.second}
		if got := p.OtherSaid(); got != c.want {
			t.Errorf("%q, %+v: %q", c.other, c.second, got)
		}
	}
}

// TestOwnSource: the earth of a source of its own is told of such a one alone.
func TestOwnSource(t *testing.T) {
	for system, refused := range map[job.EarthingSystem]bool{"": false, job.TNCS: true, job.Wye208: true, job.Island: false, job.IslandSplit: false} {
		j := job.Job{Survey: job.Survey{Supply: job.Supply{System: system, Earthed: job.Yes}}}
		if errs := j.Validate(); (len(errs) == 1 && errs[0].Field == "survey.supply.sourceEarthed") != refused {
			t.Errorf("%s: %v", system, errs)
		}
	}
}

// TestSecondIsRefused: a source that stops with the grid, or is apart from it, gives and carries nothing here.
func TestSecondIsRefused(t *testing.T) {
	for _, c := range []struct {
		second  job.Second
		refused bool
	}{
		{job.Second{}, false}, {job.Second{Kind: job.FeedsIn, Isolator: "loft"}, false}, {job.Second{Rating: 40}, false},
		{job.Second{Kind: job.BacksUp, Rating: 40, Other: 8, Earthed: job.Yes}, false},
		{job.Second{Kind: job.FeedsIn, Rating: 40}, true}, {job.Second{Kind: job.Apart, Other: 4}, true}, {job.Second{Kind: job.Apart, Earthed: job.No}, true},
	} {
		j := job.Job{Format: job.Format, Survey: job.Survey{Supply: job.Supply{Second: c.second}}}
		refused := false
		for _, e := range j.Validate() {
			refused = refused || strings.HasPrefix(e.Field, "survey.supply.second")
		}
		if refused != c.refused {
			t.Errorf("%+v: refused %t", c.second, refused)
		}
	}
}
