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

// TestIsolationEdges: each row is a wrong verdict that a change of one line would
// give.
func TestIsolationEdges(t *testing.T) {
	pairs := uk.Practice.Install.Pairs(&onePhase)
	zeros := func(d *diary) *diary {
		for _, p := range pairs {
			d.reads(worklog.DeadPair+p, "0")
		}
		return d
	}
	off := func() *diary { return new(diary).step(worklog.MainOff) }
	for _, c := range []struct {
		name   string
		d      *diary
		proved bool
	}{
		{"12 V are left on a pair", off().reads(worklog.SourceBefore, "238").reads(worklog.DeadPair+"L-N", "12").reads(worklog.DeadPair+"L-E", "0").reads(worklog.DeadPair+"N-E", "0").reads(worklog.SourceAfter, "238"), false},
		{"pairs read before the known source", zeros(off()).reads(worklog.SourceBefore, "238").reads(worklog.SourceAfter, "238"), false},
		{"a battery of 12 V as known source", zeros(off().reads(worklog.SourceBefore, "12")).reads(worklog.SourceAfter, "12"), false},
		{"a known source of 50 V", zeros(off().reads(worklog.SourceBefore, "50")).reads(worklog.SourceAfter, "50"), true},
		{"the known source read only between the pairs", off().reads(worklog.SourceBefore, "238").reads(worklog.DeadPair+"L-N", "0").reads(worklog.SourceAfter, "238").reads(worklog.DeadPair+"L-E", "0").reads(worklog.DeadPair+"N-E", "0"), false},
		{"read dead while the main is on", new(diary).step(worklog.MainOff).dead(pairs).step(worklog.Energise).dead(pairs), false},
		{"proved before the main was off", zeros(new(diary).reads(worklog.SourceBefore, "238")).reads(worklog.SourceAfter, "238").step(worklog.MainOff), false},
	} {
		t.Run(c.name, func(t *testing.T) {
			if iso := worklog.StateOf(&job.Job{Log: c.d.log}, pairs, time.Time{}, 0); iso.Proved != c.proved {
				t.Errorf("%+v", iso)
			}
		})
	}
	// Switched on, everything is to be read again.
	on := off().dead(pairs).step(worklog.Energise)
	if iso := worklog.StateOf(&job.Job{Log: on.log}, pairs, time.Time{}, 0); iso.From != len(on.log) || len(iso.Missing) != len(pairs)+2 {
		t.Errorf("after switching on: %+v", iso)
	}
	// Notes do not show that somebody is at work.
	d := off().dead(pairs)
	for range 3 {
		d.at = d.at.Add(2 * time.Hour)
		d.add(job.Noted, "", "", "")
	}
	if iso := worklog.StateOf(&job.Job{Log: d.log}, pairs, d.at, 0); iso.Proved {
		t.Errorf("six hours with notes alone: %+v", iso)
	}
}

// TestWorkBetween: between two pieces of work inside, anything that may have brought
// the board to life asks for a new proof.
func TestWorkBetween(t *testing.T) {
	pairs := uk.Practice.Install.Pairs(&onePhase)
	plan := uk.Practice.Install.Plan(twoPoints())
	for _, c := range []struct {
		name    string
		between func(*diary)
		bad     bool
	}{
		{"nothing", func(*diary) {}, false},
		{"a pair read live", func(d *diary) { d.reads(worklog.DeadPair+"L-N", "112") }, true},
		{"the main switched on", func(d *diary) { d.step(worklog.Energise) }, true},
		{"the main switched off again", func(d *diary) { d.step(worklog.MainOff) }, true},
		{"a silence of five hours, then a torque", func(d *diary) {
			d.at = d.at.Add(5 * time.Hour)
			d.add(job.TorqueMade, "A", "board-line", "2.5")
		}, true},
		{"a silence of five hours, then a step outside", func(d *diary) {
			d.at = d.at.Add(5 * time.Hour)
			d.at2(worklog.BackPlate)
		}, true},
		{"a step outside", func(d *diary) { d.at2(worklog.BackPlate) }, false},
		{"a silence of five hours", func(d *diary) { d.at = d.at.Add(5 * time.Hour) }, true},
		{"a torque", func(d *diary) { d.add(job.TorqueMade, "A", "board-line", "2.5") }, false},
	} {
		t.Run(c.name, func(t *testing.T) {
			d := new(diary).step(worklog.MainOff).dead(pairs).at2(worklog.BoardWork)
			c.between(d)
			d.at2(worklog.ChargerEnd)
			if e, bad := worklog.InsideWhileLive(&job.Job{Log: d.log}, plan, pairs, nil, 0); bad != c.bad {
				t.Errorf("%+v", e)
			}
		})
	}
	// A correction of such a step, written when the board is live again, is no work.
	d := new(diary).step(worklog.MainOff).dead(pairs).at2(worklog.BoardWork).step(worklog.Energise)
	done := d.log[len(d.log)-2].ID
	d.at2(worklog.BoardWork)
	d.log[len(d.log)-1].Replaces = done
	if e, bad := worklog.InsideWhileLive(&job.Job{Log: d.log}, plan, pairs, nil, 0); bad {
		t.Errorf("a correction counts as work: %+v", e)
	}
}

// TestAnswersLapse: a torque lapses answers as work inside does; a correction does
// not; names are the same in any capitals; switching on ends them.
func TestAnswersLapse(t *testing.T) {
	pairs := uk.Practice.Install.Pairs(&onePhase)
	for _, c := range []struct {
		name  string
		after func(*diary)
		want  string // who has to answer
	}{
		{"nothing", func(*diary) {}, ""},
		{"a torque", func(d *diary) { d.add(job.TorqueMade, "A", "board-line", "2.5") }, "K. Osei, T. Brandt"},
		{"work inside", func(d *diary) { d.at2(worklog.ChargerEnd) }, "K. Osei, T. Brandt"},
		{"work outside", func(d *diary) { d.step(worklog.Barrier + "-photo") }, ""},
		{"a correction of work inside", func(d *diary) {
			d.at2(worklog.BoardWork)
			d.log[len(d.log)-1].Replaces = d.log[len(d.log)-4].ID
		}, ""},
		{"switching on", func(d *diary) { d.step(worklog.Energise) }, "K. Osei, T. Brandt"},
	} {
		t.Run(c.name, func(t *testing.T) {
			j := twoPoints()
			j.Plan.Crew = []string{"K. Osei", "T. Brandt"}
			d := new(diary).step(worklog.MainOff).dead(pairs).at2(worklog.BoardWork)
			d.add(job.StepDone, "", worklog.Answer, "k. osei").add(job.StepDone, "", worklog.Answer, "T. Brandt")
			c.after(d)
			j.Log = d.log
			roll := worklog.Roll(j, uk.Practice.Install.Plan(j))
			if got := strings.Join(worklog.Unanswered(roll, ""), ", "); got != c.want {
				t.Errorf("to answer: %q, want %q", got, c.want)
			}
		})
	}
}

// TestFileOpensNoBoard: a proof of dead that came in by a file opens nothing for hands of now;
// what the file says was done on it is judged by it.
func TestFileOpensNoBoard(t *testing.T) {
	pairs := uk.Practice.Install.Pairs(&onePhase)
	of := func(log []job.Entry) []job.Entry {
		out := slices.Clone(log)
		for i := range out {
			out[i].Imported = &job.Import{By: "P. Lindqvist", At: out[len(out)-1].At}
		}
		return out
	}
	file := new(diary).step(worklog.MainOff).dead(pairs).step(worklog.BoardWork)
	if iso := worklog.StateOf(&job.Job{Log: of(file.log)}, pairs, time.Time{}, 0); iso.Proved || len(iso.Missing) != len(pairs)+2 {
		t.Errorf("a file's proof: %+v", iso)
	}
	plan := []worklog.Step{{ID: worklog.BoardWork, Inside: true}}
	if e, bad := worklog.InsideWhileLive(&job.Job{Log: of(file.log)}, plan, pairs, nil, 0); bad {
		t.Errorf("what a file says that it did on its own proof: %+v", e)
	}
	on := *file
	on.log = of(file.log)
	on.step(worklog.BoardWork)
	if _, bad := worklog.InsideWhileLive(&job.Job{Log: on.log}, plan, pairs, nil, 0); !bad {
		t.Error("work of now on a file's proof is taken")
	}
	own := *file
	own.log = of(file.log)
	own.dead(pairs)
	if iso := worklog.StateOf(&job.Job{Log: own.log}, pairs, time.Time{}, 0); !iso.Proved {
		t.Errorf("proved anew: %+v", iso)
	}
	if e, bad := worklog.InsideWhileLive(&job.Job{Log: own.step(worklog.BoardWork).log}, plan, pairs, nil, 0); bad {
		t.Errorf("work on a proof of one's own: %+v", e)
	}
}
