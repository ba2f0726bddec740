package worklog_test

import (
	"slices"
	"strings"
	"testing"
	"time"

	"dogbolt/core/books/uk"
	"dogbolt/core/job"
	"dogbolt/core/worklog"
)

// beside is a job with a small board on the service's tails.
func beside(phases int) *job.Job {
	j := twoPoints()
	j.Survey.Supply = job.Supply{Phases: phases, OtherSource: job.No}
	j.Design.Beside = job.Beside{Fitted: job.Yes}
	return j
}

// TestTailsAreProved: a small board's tails have pairs of their own, which read dead before anybody works on them; work from before they
// were opened stands, and so does a job whose tails were proved in words, from before they had pairs.
func TestTailsAreProved(t *testing.T) {
	in := &uk.Practice.Install
	base := []string{"L-N", "L-E", "N-E"}
	all := append(slices.Clip(base), "tails L-N", "tails L-E", "tails N-E")
	if got := in.PairsOf(beside(1)); !slices.Equal(got, all) {
		t.Errorf("pairs %v", got)
	}
	if got := in.PairsOf(beside(3)); len(got) != 20 || got[10] != "tails L1-L2" {
		t.Errorf("pairs of three phases %v", got)
	}
	if got := in.PairsOf(twoPoints()); slices.ContainsFunc(got, func(p string) bool { return strings.HasPrefix(p, "tails") }) {
		t.Errorf("pairs without a small board: %v", got)
	}
	for _, c := range []struct {
		name string
		log  *diary
		bad  string // the step that was done while dead was not proved
		now  bool   // dead is proved
	}{
		{"opened, all proved", new(diary).step(worklog.MainOff).step(worklog.TailsOpen).dead(all).step(worklog.Barrier).step(worklog.BesideFed), "", true},
		{"opened, the tails not proved", new(diary).step(worklog.MainOff).step(worklog.TailsOpen).dead(base).step(worklog.Barrier), worklog.Barrier, false},
		{"a tail reads 230 V", new(diary).step(worklog.MainOff).step(worklog.TailsOpen).dead(all).reads(worklog.DeadPair+"tails L-N", "230").step(worklog.BesideFed), worklog.BesideFed, false},
		{"found full on the way, then all proved", new(diary).step(worklog.MainOff).dead(base).step(worklog.Barrier).step(worklog.TailsOpen).dead(all).step(worklog.BesideFed), "", true},
		{"found full on the way, the tails not proved", new(diary).step(worklog.MainOff).dead(base).step(worklog.Barrier).step(worklog.TailsOpen).step(worklog.BesideFed), worklog.BesideFed, false},
		{"connected, and nobody opened the tails", new(diary).step(worklog.MainOff).dead(base).step(worklog.Barrier).step(worklog.BesideFed), worklog.BesideFed, false},
		{"proved in words", new(diary).step(worklog.MainOff).dead(base).step(worklog.Barrier).step(worklog.TailsDead).step(worklog.BesideFed), "", true},
	} {
		j := beside(1)
		j.Log = c.log.log
		e, bad := worklog.InsideWhileLive(j, in.Plan(j), in.Pairs(&j.Survey.Supply), in.Tails(j), 0)
		if bad != (c.bad != "") || e.Subject != c.bad {
			t.Errorf("%s: %v %q, want %q", c.name, bad, e.Subject, c.bad)
		}
		if iso := worklog.StateOf(j, in.PairsOf(j), time.Time{}, 0); iso.Proved != c.now {
			t.Errorf("%s: proved %v, missing %v, live %v", c.name, iso.Proved, iso.Missing, iso.Live)
		}
	}
	// A board in place of the old one: nothing of the old one is touched before the tails are proved, in words neither.
	for _, c := range []struct {
		name string
		log  *diary
		bad  string
	}{
		{"all proved, old board out", new(diary).step(worklog.MainOff).step(worklog.TailsOpen).dead(all).step(worklog.Barrier).step(worklog.BoardOut).step(worklog.BesideFed), ""},
		{"out, and nobody opened the tails", new(diary).step(worklog.MainOff).dead(base).step(worklog.Barrier).step(worklog.BoardOut), worklog.BoardOut},
		{"proved in words", new(diary).step(worklog.MainOff).dead(base).step(worklog.Barrier).step(worklog.TailsDead).step(worklog.BoardOut), worklog.BoardOut},
	} {
		j := beside(1)
		j.Design.Beside.Instead, j.Log = job.Yes, c.log.log
		if e, bad := worklog.InsideWhileLive(j, in.Plan(j), in.Pairs(&j.Survey.Supply), in.Tails(j), 0); bad != (c.bad != "") || e.Subject != c.bad {
			t.Errorf("%s: %v %q, want %q", c.name, bad, e.Subject, c.bad)
		}
	}
	old := beside(1)
	old.Log = new(diary).step(worklog.TailsDead).log
	plans := func(id string) bool {
		return slices.ContainsFunc(in.Plan(old), func(s worklog.Step) bool { return s.ID == id })
	}
	if !plans(worklog.TailsDead) || plans(worklog.TailsOpen) {
		t.Error("a job whose tails were proved in words has another plan now")
	}
}

// TestNothingSurveyed: of a job whose points nobody knows yet it is not known that nothing is opened.
func TestNothingSurveyed(t *testing.T) {
	j := &job.Job{Rulebook: twoPoints().Rulebook}
	if in := &uk.Practice.Install; !in.Opens(j) {
		t.Errorf("the plan opens nothing: %+v", in.Plan(j))
	}
}
