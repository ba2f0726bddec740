package assess

import (
	"testing"
	"time"

	"dogbolt/core/books/uk"
	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/rulebook"
	"dogbolt/core/worklog"
	"dogbolt/internal/testkit/ruletest"
)

// back takes the newest entry about a subject back, with a reason.
func (s *site) back(kind job.EntryKind, point, subject, reason string) job.Entry {
	s.t.Helper()
	was, ok := s.j.Latest(kind, point, subject)
	if !ok {
		s.t.Fatalf("no %s %s to take back", kind, subject)
	}
	return job.Entry{Kind: job.TakenBack, Point: point, Subject: subject, Replaces: was.ID, Reason: reason}
}

func (s *site) state() worklog.Isolation {
	return worklog.StateOf(s.j, uk.Practice.Install.PairsOf(s.j), s.now, 0)
}

const slipped = "the wrong line was pressed"

// TestTakenBack: what may be taken back by whom and how, and what it does. Each row begins
// with the board proved dead, and no work inside.
func TestTakenBack(t *testing.T) {
	for _, c := range []struct {
		name string
		do   func(*site)
	}{
		{"a step of one's own, at once, without a word: it is to do again", func(s *site) {
			s.must(mate, step(worklog.BackPlate, "A", ""))
			s.must(mate, s.back(job.StepDone, "A", worklog.BackPlate, ""))
			if _, done := s.j.Latest(job.StepDone, "A", worklog.BackPlate); done {
				t.Error("it is still done")
			}
			s.must(mate, step(worklog.BackPlate, "A", ""))
			if _, done := s.j.Latest(job.StepDone, "A", worklog.BackPlate); !done {
				t.Error("it cannot be done again")
			}
		}},
		{"later it needs words", func(s *site) {
			s.must(mate, step(worklog.BackPlate, "A", ""))
			s.now = s.now.Add(Slip)
			s.refused(mate, s.back(job.StepDone, "A", worklog.BackPlate, ""), "more than 2 minutes have gone")
			s.refused(mate, s.back(job.StepDone, "A", worklog.BackPlate, "oops"), "reason in words")
			s.must(mate, s.back(job.StepDone, "A", worklog.BackPlate, slipped))
		}},
		{"another person's is for the lead or a verifier", func(s *site) {
			s.must(lead, step(worklog.BackPlate, "A", ""))
			s.refused(mate, s.back(job.StepDone, "A", worklog.BackPlate, slipped), "K. Osei wrote this")
			s.must(tester, s.back(job.StepDone, "A", worklog.BackPlate, slipped))
		}},
		{"nor is it for another account of the same name", func(s *site) {
			done := step(worklog.BackPlate, "A", "")
			done.Person = "account-1"
			s.must(mate, done)
			back := s.back(job.StepDone, "A", worklog.BackPlate, slipped)
			back.Person = "account-2"
			s.refused(mate, back, "T. Brandt wrote this")
			back.Person = "account-1"
			s.must(mate, back)
		}},
		{"a proof of dead shuts the board, and nothing of it opens it again", func(s *site) {
			if !s.state().Proved {
				t.Fatal("not proved at first")
			}
			s.must(lead, s.back(job.ReadingMade, "", worklog.DeadPair+"L-N", slipped))
			s.refused(lead, step(worklog.Barrier, "", "fitted"), "Prove dead")
			s.must(lead, job.Entry{Kind: job.ReadingMade, Subject: worklog.DeadPair + "L-N", Value: "0"})
			if s.state().Proved {
				t.Error("one pair of it proves all")
			}
		}},
		{"the main switch likewise, although every pair was read", func(s *site) {
			s.must(lead, s.back(job.StepDone, "", worklog.MainOff, "it was the wrong switch"))
			if s.state().Proved {
				t.Error("dead is still proved")
			}
		}},
		{"not what work inside stands on", func(s *site) {
			s.must(lead, step(worklog.Barrier, "", "fitted"))
			s.refused(lead, s.back(job.ReadingMade, "", worklog.SourceAfter, slipped), "K. Osei logged work inside the board on it since")
			s.must(lead, s.back(job.StepDone, "", worklog.Barrier, ""))
			s.must(lead, s.back(job.ReadingMade, "", worklog.SourceAfter, slipped))
		}},
		{"not work inside that was done while dead was not proved", func(s *site) {
			s.must(lead, step(worklog.Barrier, "", "fitted"))
			// Another phone brings late that the main was switched on before it.
			on := step(worklog.Energise, "", "")
			on.ID, on.At, on.By = "device-9001", s.now.Add(-30*time.Second), mate.Name
			s.j.Log = append(s.j.Log, on)
			Sort(s.j.Log)
			s.refused(lead, s.back(job.StepDone, "", worklog.Barrier, slipped), "while dead was not proved: it stays")
		}},
		{"a setting: its amps are asked for again", func(s *site) {
			s.must(lead, job.Entry{Kind: job.SettingMade, Point: "A", Subject: worklog.SetAmps, Value: "6", Unit: "A"})
			s.must(lead, s.back(job.SettingMade, "A", worklog.SetAmps, ""))
			if _, ok := s.j.Latest(job.SettingMade, "A", worklog.SetAmps); ok {
				t.Error("it is still set")
			}
		}},
		{"a variation: as designed again", func(s *site) {
			s.must(lead, job.Entry{Kind: job.Varied, Point: "A", Subject: "route.length", Value: "90", Reason: "round the new extension"})
			before := s.j.Built().Survey.Places[0].Length()
			s.must(lead, s.back(job.Varied, "A", "route.length", ""))
			if after := s.j.Built().Survey.Places[0].Length(); after >= before {
				t.Errorf("%v as before, %v", after, before)
			}
		}},
		{"a correction: what it replaced does not come back", func(s *site) {
			s.must(lead, step(worklog.Barrier, "", "fitted"))
			again := step(worklog.Barrier, "", "supply isolated by the operator")
			was, _ := s.j.Latest(job.StepDone, "", worklog.Barrier)
			again.Replaces, again.Reason = was.ID, "written down wrong"
			s.must(lead, again)
			old := s.back(job.StepDone, "", worklog.Barrier, "")
			old.Replaces = was.ID
			s.refused(lead, old, "a later entry stands in its place")
			s.must(lead, s.back(job.StepDone, "", worklog.Barrier, ""))
			if e, ok := s.j.Latest(job.StepDone, "", worklog.Barrier); ok {
				t.Errorf("%q counts", e.Value)
			}
		}},
		{"a test that failed, with words alone", func(s *site) {
			s.must(lead, reading(commission.R1R2, ">99.9"))
			s.refused(lead, s.back(job.ReadingMade, "A", commission.R1R2, ""), "the test failed")
			s.must(lead, s.back(job.ReadingMade, "A", commission.R1R2, "the lead was not plugged in"))
		}},
		{"twice, of nothing, of another subject, with a value, of itself", func(s *site) {
			s.must(mate, step(worklog.BackPlate, "A", ""))
			e := s.back(job.StepDone, "A", worklog.BackPlate, slipped)
			other, valued, earlier := e, e, e
			other.Subject, valued.Value, earlier.Replaces = worklog.Drill, "3", ""
			s.refused(mate, other, "is another than that of the entry")
			s.refused(mate, valued, "has no value")
			s.refused(mate, earlier, "names the entry")
			s.must(mate, e)
			s.refused(mate, e, "taken back already")
			e.Replaces = s.j.Log[len(s.j.Log)-1].ID
			s.refused(mate, e, "never taken back")
		}},
	} {
		t.Run(c.name, func(t *testing.T) {
			s := begun(t)
			s.isolate()
			c.do(s)
		})
	}
}

// TestSwitchedOnStays: switching on is not taken back, whatever stands in a file.
func TestSwitchedOnStays(t *testing.T) {
	s := begun(t)
	s.isolate()
	on := step(worklog.Energise, "", "")
	on.ID, on.At, on.By = "device-9001", s.now, lead.Name
	s.j.Log = append(s.j.Log, on)
	s.refused(lead, s.back(job.StepDone, "", worklog.Energise, slipped), "never taken back")
	s.j.Log = append(s.j.Log, job.Entry{ID: "device-9002", Kind: job.TakenBack, Subject: worklog.Energise, Replaces: on.ID, At: s.now, Imported: &job.Import{}})
	if !s.state().Energised {
		t.Error("the board is no longer live")
	}
	if _, ok := s.j.Latest(job.StepDone, "", worklog.Energise); !ok {
		t.Error("nobody switched on")
	}
}

// TestTakenBackIsNeverBetter: whichever entry of a finished job is taken back, no verdict
// gets better: what is not known counts in nobody's favour.
func TestTakenBackIsNeverBetter(t *testing.T) {
	for _, name := range []string{"uk-pass", "us-pass"} {
		t.Run(name, func(t *testing.T) { neverBetter(t, ruletest.Example(t, "../../docs/formats/examples/"+name+".json")) })
	}
}

func neverBetter(t *testing.T, whole job.Job) {
	rank := map[rulebook.Verdict]int{rulebook.Sound: 0, rulebook.Watch: 1, rulebook.Open: 2, rulebook.Stop: 3}
	before, err := rulebook.Check(&whole)
	if err != nil {
		t.Fatal(err)
	}
	was := map[string]rulebook.Verdict{}
	for _, f := range before {
		was[f.Rule+f.Point] = f.Verdict
	}
	for i, e := range whole.Log {
		if e.Kind == job.Varied || e.Kind == job.Overridden || !e.MayGo() {
			continue // as designed again
		}
		j := whole
		at := whole.Log[len(whole.Log)-1].At.Add(time.Minute)
		j.Log = append(whole.Log[:len(whole.Log):len(whole.Log)], job.Entry{ID: "device-back", Kind: job.TakenBack, Point: e.Point, Subject: e.Subject, Replaces: e.ID, Reason: slipped, At: at, By: e.By})
		after, err := rulebook.Check(&j)
		if err != nil {
			t.Fatal(err)
		}
		for _, f := range after {
			if v, ok := was[f.Rule+f.Point]; ok && rank[f.Verdict] < rank[v] {
				t.Errorf("entry %d, %s %s, taken back: %s %s instead of %s", i, e.Kind, e.Subject, f.Rule, f.Verdict, v)
			}
		}
	}
}
