package worklog

import (
	"slices"
	"strings"
	"testing"
	"time"

	"dogbolt/core/job"
)

// diary builds a log, a minute an entry.
type diary struct {
	log []job.Entry
	at  time.Time
}

func (d *diary) add(kind job.EntryKind, point, subject, value string) *diary {
	d.at = d.at.Add(time.Minute)
	d.log = append(d.log, job.Entry{ID: "entry-" + d.at.Format("150405"), Kind: kind, Point: point, Subject: subject, Value: value, At: d.at, By: "K. Osei"})
	return d
}

func (d *diary) step(id string) *diary { return d.add(job.StepDone, "", id, "x") }
func (d *diary) reads(subject, value string) *diary {
	return d.add(job.ReadingMade, "", subject, value)
}

// dead logs a whole proof of dead for the pairs.
func (d *diary) dead(pairs []string) *diary {
	d.reads(SourceBefore, "238")
	for _, p := range pairs {
		d.reads(DeadPair+p, "0")
	}
	return d.reads(SourceAfter, "238")
}

func TestPairs(t *testing.T) {
	for _, c := range []struct {
		school School
		phases int
		want   string
	}{
		{UK, 1, "L-N L-E N-E"},
		{UK, 0, "L-N L-E N-E"},
		{UK, 3, "L1-L2 L2-L3 L1-L3 L1-N L2-N L3-N L1-E L2-E L3-E N-E"},
		{US, 1, "L1-L2 L1-N L2-N L1-G L2-G N-G"},
		{US, 3, "L1-L2 L2-L3 L1-L3 L1-N L2-N L3-N L1-G L2-G L3-G N-G"},
	} {
		if got := strings.Join(Pairs(c.school, c.phases), " "); got != c.want {
			t.Errorf("%s, %d phases: %s", c.school, c.phases, got)
		}
	}
}

func TestIsolation(t *testing.T) {
	pairs := Pairs(UK, 1)
	for _, c := range []struct {
		name   string
		d      *diary
		proved bool
		live   int
	}{
		{"nothing", &diary{}, false, 0},
		{"proved", new(diary).step(MainOff).step(CoverOff).dead(pairs), true, 0},
		{"source not proved before", new(diary).step(MainOff).reads(DeadPair+"L-N", "0").reads(DeadPair+"L-E", "0").reads(DeadPair+"N-E", "0").reads(SourceAfter, "238"), false, 0},
		{"source not proved after", new(diary).step(MainOff).reads(SourceBefore, "238").reads(DeadPair+"L-N", "0").reads(DeadPair+"L-E", "0").reads(DeadPair+"N-E", "0"), false, 0},
		{"a pair left out", new(diary).step(MainOff).reads(SourceBefore, "238").reads(DeadPair+"L-N", "0").reads(DeadPair+"L-E", "0").reads(SourceAfter, "238"), false, 0},
		{"a pair read live", new(diary).step(MainOff).reads(SourceBefore, "238").reads(DeadPair+"L-N", "0").reads(DeadPair+"L-E", "112").reads(DeadPair+"N-E", "0").reads(SourceAfter, "238"), false, 1},
		{"a pair read past range", new(diary).step(MainOff).reads(SourceBefore, "238").reads(DeadPair+"L-N", "OL").reads(DeadPair+"L-E", "0").reads(DeadPair+"N-E", "0").reads(SourceAfter, "238"), false, 1},
		{"a dead meter", new(diary).step(MainOff).reads(SourceBefore, "0").reads(DeadPair+"L-N", "0").reads(DeadPair+"L-E", "0").reads(DeadPair+"N-E", "0").reads(SourceAfter, "0"), false, 0},
		{"the meter died meanwhile", new(diary).step(MainOff).reads(SourceBefore, "238").reads(DeadPair+"L-N", "0").reads(DeadPair+"L-E", "0").reads(DeadPair+"N-E", "0").reads(SourceAfter, "0"), false, 0},
		{"a pair read again after the source", new(diary).step(MainOff).dead(pairs).reads(DeadPair+"L-N", "0"), false, 0},
		{"residue below one volt", new(diary).step(MainOff).reads(SourceBefore, "238").reads(DeadPair+"L-N", "0.4").reads(DeadPair+"L-E", "<1").reads(DeadPair+"N-E", "0").reads(SourceAfter, "238"), true, 0},
		{"energised since", new(diary).step(MainOff).dead(pairs).step(Energise), false, 0},
		{"switched off again, not proved again", new(diary).step(MainOff).dead(pairs).step(Energise).step(MainOff), false, 0},
		{"switched off and proved again", new(diary).step(MainOff).dead(pairs).step(Energise).step(MainOff).dead(pairs), true, 0},
	} {
		iso := StateOf(c.d.log, pairs)
		if iso.Proved != c.proved || len(iso.Live) != c.live {
			t.Errorf("%s: %+v", c.name, iso)
		}
		if iso.Proved && (iso.By != "K. Osei" || iso.At.IsZero()) {
			t.Errorf("%s: proved by %q at %v", c.name, iso.By, iso.At)
		}
		if !iso.Proved && len(iso.Missing) == 0 && len(iso.Live) == 0 && !iso.Energised {
			t.Errorf("%s: not proved, and nothing says why", c.name)
		}
	}
}

func TestInsideWhileLive(t *testing.T) {
	pairs := Pairs(UK, 1)
	steps := Steps(UK)
	fine := new(diary).step(MainOff).dead(pairs).step(Barrier).step(BoardWork)
	if e, bad := InsideWhileLive(fine.log, steps, pairs); bad {
		t.Errorf("work after the proof is blamed: %+v", e)
	}
	early := new(diary).step(MainOff).step(BoardWork).dead(pairs)
	if e, bad := InsideWhileLive(early.log, steps, pairs); !bad || e.Subject != BoardWork {
		t.Errorf("work before the proof: %+v %t", e, bad)
	}
	late := new(diary).step(MainOff).dead(pairs).step(Energise).step(ChargerEnd)
	if _, bad := InsideWhileLive(late.log, steps, pairs); !bad {
		t.Error("work after energising is not seen")
	}
}

// TestStepsHang: every step waits only for steps that come before it, and the
// board's inside is never reached before dead is proved.
func TestStepsHang(t *testing.T) {
	for _, school := range []School{UK, US} {
		seen := map[string]bool{}
		for _, s := range Steps(school) {
			for _, a := range s.After {
				if !seen[a] {
					t.Errorf("%s: %s waits for %s, which comes later or never", school, s.ID, a)
				}
			}
			if seen[s.ID] {
				t.Errorf("%s: %s comes twice", school, s.ID)
			}
			seen[s.ID] = true
			if s.Inside && !slices.Contains(s.After, ProveDead) && s.ID != ProveDead {
				t.Errorf("%s: %s is inside the board and does not wait for the proof of dead", school, s.ID)
			}
			if s.Caution != "" && s.Clause == "" {
				t.Errorf("%s: the caution of %s names no source", school, s.ID)
			}
			if strings.Contains(strings.ToLower(s.Title+s.Detail+s.Caution), "safe") {
				t.Errorf("%s: %s says safe", school, s.ID)
			}
		}
	}
}

func twoPoints() *job.Job {
	return &job.Job{Survey: job.SurveySheet{Supply: job.Supply{Phases: 1}, Places: []job.Place{{Point: "A"}, {Point: "B"}}}}
}

func find(list []Status, id, point string) Status {
	i := slices.IndexFunc(list, func(s Status) bool { return s.ID == id && s.Point == point })
	if i < 0 {
		return Status{}
	}
	return list[i]
}

func TestProgress(t *testing.T) {
	j := twoPoints()
	no := func(string) bool { return false }
	list := Progress(j, UK, no)
	if s := find(list, "protect", ""); s.Done || len(s.WaitsFor) != 0 {
		t.Errorf("the first step: %+v", s)
	}
	if s := find(list, BoardWork, "A"); len(s.WaitsFor) == 0 || !slices.Contains(s.WaitsFor, "Prove dead") {
		t.Errorf("board work waits for %v", s.WaitsFor)
	}
	pairs := Pairs(UK, 1)
	d := new(diary).step("protect").step("announce").step(MainOff).step(CoverOff).dead(pairs).step(Barrier)
	d.add(job.StepDone, "A", "drill", "").add(job.StepDone, "A", RunCable, "12 m")
	j.Log = d.log
	list = Progress(j, UK, no)
	if s := find(list, ProveDead, ""); !s.Done {
		t.Errorf("proved, and the step says %+v", s)
	}
	if s := find(list, BoardWork, "A"); len(s.WaitsFor) != 0 {
		t.Errorf("point A waits for %v", s.WaitsFor)
	}
	if s := find(list, BoardWork, "B"); len(s.WaitsFor) != 1 || s.WaitsFor[0] != "Cable run and secured" {
		t.Errorf("point B waits for %v", s.WaitsFor)
	}
	// Re-energised: inside work is shut again.
	j.Log = append(j.Log, new(diary).step(Energise).log...)
	if s := find(Progress(j, UK, no), BoardWork, "A"); !slices.Contains(s.WaitsFor, "Prove dead") {
		t.Errorf("after energising, board work waits for %v", s.WaitsFor)
	}
	if s := find(Progress(j, UK, no), ProveDead, ""); !s.Done {
		t.Error("the proof that was is forgotten after energising")
	}
}

// TestEnergiseWaitsForAllPoints: nothing is switched on before the dead tests
// of every point.
func TestEnergiseWaitsForAllPoints(t *testing.T) {
	j := twoPoints()
	s := find(Progress(j, UK, func(p string) bool { return p == "A" }), Energise, "")
	if !slices.Contains(s.WaitsFor, "Dead tests entered") {
		t.Errorf("waits for %v", s.WaitsFor)
	}
	s = find(Progress(j, UK, func(string) bool { return true }), Energise, "")
	if slices.Contains(s.WaitsFor, "Dead tests entered") {
		t.Errorf("all tested, waits for %v", s.WaitsFor)
	}
}

func TestUnanswered(t *testing.T) {
	crew := []string{"K. Osei", "T. Brandt"}
	for answered, want := range map[string]int{"": 2, "K. Osei": 1, "T. Brandt, K. Osei": 0} {
		if got := Unanswered(crew, answered); len(got) != want {
			t.Errorf("%q: %v have not answered", answered, got)
		}
	}
}

func TestTerminals(t *testing.T) {
	for _, s := range []School{UK, US} {
		seen := map[string]bool{}
		for _, term := range Terminals(s) {
			if seen[term.ID] || !strings.HasPrefix(term.ID, "board-") && !strings.HasPrefix(term.ID, "charger-") {
				t.Errorf("%s: terminal %q", s, term.ID)
			}
			seen[term.ID] = true
		}
		if len(seen) != 6 {
			t.Errorf("%s: %d terminals", s, len(seen))
		}
	}
}
