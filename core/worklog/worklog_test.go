package worklog_test

import (
	"slices"
	"strings"
	"testing"
	"time"

	"dogbolt/core/books/uk"
	"dogbolt/core/books/us"
	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/worklog"
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
	d.reads(worklog.SourceBefore, "238")
	for _, p := range pairs {
		d.reads(worklog.DeadPair+p, "0")
	}
	return d.reads(worklog.SourceAfter, "238")
}

var onePhase = job.Supply{Phases: 1, OtherSource: job.No}

func TestPairs(t *testing.T) {
	for _, c := range []struct {
		in     *jurisdiction.Jurisdiction
		supply job.Supply
		want   string
	}{
		{uk.Practice, onePhase, "L-N L-E N-E"},
		{uk.Practice, job.Supply{}, "L-N L-E N-E second L-N second L-E second N-E"}, // not known: it counts as there
		{uk.Practice, job.Supply{Phases: 3, OtherSource: job.No}, "L1-L2 L2-L3 L1-L3 L1-N L2-N L3-N L1-E L2-E L3-E N-E"},
		{us.Practice, onePhase, "L1-L2 L1-N L2-N L1-G L2-G N-G"},
		{us.Practice, job.Supply{Phases: 3, OtherSource: job.No}, "L1-L2 L2-L3 L1-L3 L1-N L2-N L3-N L1-G L2-G L3-G N-G"},
		{uk.Practice, job.Supply{OtherSource: job.Yes}, "L-N L-E N-E second L-N second L-E second N-E"},
		{us.Practice, job.Supply{OtherSource: job.Yes}, "L1-L2 L1-N L2-N L1-G L2-G N-G second L1-L2 second L1-G second L2-G"},
		{us.Practice, job.Supply{OtherSource: job.No}, "L1-L2 L1-N L2-N L1-G L2-G N-G"},
	} {
		if got := strings.Join(c.in.Install.Pairs(&c.supply), " "); got != c.want {
			t.Errorf("%s, %+v: %s", c.in.ID, c.supply, got)
		}
	}
}

func TestIsolation(t *testing.T) {
	pairs := uk.Practice.Install.Pairs(&onePhase)
	for _, c := range []struct {
		name   string
		d      *diary
		proved bool
		live   int
	}{
		{"nothing", &diary{}, false, 0},
		{"proved", new(diary).step(worklog.MainOff).step(worklog.CoverOff).dead(pairs), true, 0},
		{"source not proved before", new(diary).step(worklog.MainOff).reads(worklog.DeadPair+"L-N", "0").reads(worklog.DeadPair+"L-E", "0").reads(worklog.DeadPair+"N-E", "0").reads(worklog.SourceAfter, "238"), false, 0},
		{"source not proved after", new(diary).step(worklog.MainOff).reads(worklog.SourceBefore, "238").reads(worklog.DeadPair+"L-N", "0").reads(worklog.DeadPair+"L-E", "0").reads(worklog.DeadPair+"N-E", "0"), false, 0},
		{"a pair left out", new(diary).step(worklog.MainOff).reads(worklog.SourceBefore, "238").reads(worklog.DeadPair+"L-N", "0").reads(worklog.DeadPair+"L-E", "0").reads(worklog.SourceAfter, "238"), false, 0},
		{"a pair read live", new(diary).step(worklog.MainOff).reads(worklog.SourceBefore, "238").reads(worklog.DeadPair+"L-N", "0").reads(worklog.DeadPair+"L-E", "112").reads(worklog.DeadPair+"N-E", "0").reads(worklog.SourceAfter, "238"), false, 1},
		{"a pair read past range", new(diary).step(worklog.MainOff).reads(worklog.SourceBefore, "238").reads(worklog.DeadPair+"L-N", "OL").reads(worklog.DeadPair+"L-E", "0").reads(worklog.DeadPair+"N-E", "0").reads(worklog.SourceAfter, "238"), false, 1},
		{"a dead meter", new(diary).step(worklog.MainOff).reads(worklog.SourceBefore, "0").reads(worklog.DeadPair+"L-N", "0").reads(worklog.DeadPair+"L-E", "0").reads(worklog.DeadPair+"N-E", "0").reads(worklog.SourceAfter, "0"), false, 0},
		{"the meter died meanwhile", new(diary).step(worklog.MainOff).reads(worklog.SourceBefore, "238").reads(worklog.DeadPair+"L-N", "0").reads(worklog.DeadPair+"L-E", "0").reads(worklog.DeadPair+"N-E", "0").reads(worklog.SourceAfter, "0"), false, 0},
		{"a pair read again after the source", new(diary).step(worklog.MainOff).dead(pairs).reads(worklog.DeadPair+"L-N", "0"), false, 0},
		{"residue below one volt", new(diary).step(worklog.MainOff).reads(worklog.SourceBefore, "238").reads(worklog.DeadPair+"L-N", "0.4").reads(worklog.DeadPair+"L-E", "<1").reads(worklog.DeadPair+"N-E", "0").reads(worklog.SourceAfter, "238"), true, 0},
		{"energised since", new(diary).step(worklog.MainOff).dead(pairs).step(worklog.Energise), false, 0},
		{"switched off again, not proved again", new(diary).step(worklog.MainOff).dead(pairs).step(worklog.Energise).step(worklog.MainOff), false, 0},
		{"switched off and proved again", new(diary).step(worklog.MainOff).dead(pairs).step(worklog.Energise).step(worklog.MainOff).dead(pairs), true, 0},
	} {
		t.Run(c.name, func(t *testing.T) {
			iso := worklog.StateOf(&job.Job{Log: c.d.log}, pairs, time.Time{}, 0)
			if iso.Proved != c.proved || len(iso.Live) != c.live {
				t.Errorf("%s: %+v", c.name, iso)
			}
			if iso.Proved && (iso.By != "K. Osei" || iso.At.IsZero()) {
				t.Errorf("%s: proved by %q at %v", c.name, iso.By, iso.At)
			}
			if !iso.Proved && len(iso.Missing) == 0 && len(iso.Live) == 0 && !iso.Energised {
				t.Errorf("%s: not proved, and nothing says why", c.name)
			}
		})
	}
}

// TestSleep: a log that was silent for longer than the firm allows shuts the
// board again, until dead is proved anew.
func TestSleep(t *testing.T) {
	pairs := uk.Practice.Install.Pairs(&onePhase)
	d := new(diary).step(worklog.MainOff).dead(pairs)
	end := d.at
	for _, c := range []struct {
		later  time.Duration
		sleep  time.Duration
		proved bool
	}{{time.Hour, 0, true}, {worklog.Sleep, 0, true}, {worklog.Sleep + time.Minute, 0, false}, {time.Hour, 30 * time.Minute, false}} {
		iso := worklog.StateOf(&job.Job{Log: d.log}, pairs, end.Add(c.later), c.sleep)
		if iso.Proved != c.proved || iso.Slept == c.proved {
			t.Errorf("%s later, sleep %s: %+v", c.later, c.sleep, iso)
		}
	}
	// A night, then work goes on: what was proved yesterday counts no more.
	d.at = d.at.Add(14 * time.Hour)
	if iso := worklog.StateOf(&job.Job{Log: d.step(worklog.Barrier).log}, pairs, time.Time{}, 0); iso.Proved || !iso.Slept || !iso.Once {
		t.Errorf("the next morning: %+v", iso)
	}
	if iso := worklog.StateOf(&job.Job{Log: d.dead(pairs).log}, pairs, time.Time{}, 0); !iso.Proved || iso.Slept {
		t.Errorf("proved again: %+v", iso)
	}
	// A board that was switched on does not sleep: it is shut for that.
	on := new(diary).step(worklog.MainOff).dead(pairs).step(worklog.Energise)
	if iso := worklog.StateOf(&job.Job{Log: on.log}, pairs, on.at.Add(20*time.Hour), 0); iso.Proved || iso.Slept || !iso.Energised {
		t.Errorf("switched on, the next day: %+v", iso)
	}
	// A note from the office does not keep the board open.
	d.at = d.at.Add(5 * time.Hour)
	d.add(job.Noted, "", "", "call the customer")
	if iso := worklog.StateOf(&job.Job{Log: d.log}, pairs, d.at, 0); iso.Proved {
		t.Errorf("a note kept it open: %+v", iso)
	}
}

// TestCorrections: correcting what was written about switching off neither opens
// nor shuts the board.
func TestCorrections(t *testing.T) {
	pairs := uk.Practice.Install.Pairs(&onePhase)
	d := new(diary).step(worklog.MainOff).dead(pairs)
	d.step(worklog.MainOff)
	d.log[len(d.log)-1].Replaces = d.log[0].ID
	if iso := worklog.StateOf(&job.Job{Log: d.log}, pairs, time.Time{}, 0); !iso.Proved {
		t.Errorf("a correction shuts the board: %+v", iso)
	}
	d.step(worklog.Energise).step(worklog.MainOff)
	d.log[len(d.log)-1].Replaces = d.log[0].ID
	if iso := worklog.StateOf(&job.Job{Log: d.log}, pairs, time.Time{}, 0); iso.Proved || !iso.Energised {
		t.Errorf("a correction opens the board: %+v", iso)
	}
}

func TestInsideWhileLive(t *testing.T) {
	pairs := uk.Practice.Install.Pairs(&onePhase)
	plan := uk.Practice.Install.Plan(twoPoints())
	fine := new(diary).step(worklog.MainOff).dead(pairs).step(worklog.Barrier).at2(worklog.BoardWork)
	if e, bad := worklog.InsideWhileLive(&job.Job{Log: fine.log}, plan, pairs, nil, 0); bad {
		t.Errorf("work after the proof is blamed: %+v", e)
	}
	early := new(diary).step(worklog.MainOff).at2(worklog.BoardWork).dead(pairs)
	if e, bad := worklog.InsideWhileLive(&job.Job{Log: early.log}, plan, pairs, nil, 0); !bad || e.Subject != worklog.BoardWork {
		t.Errorf("work before the proof: %+v %t", e, bad)
	}
	late := new(diary).step(worklog.MainOff).dead(pairs).step(worklog.Energise).at2(worklog.ChargerEnd)
	if _, bad := worklog.InsideWhileLive(&job.Job{Log: late.log}, plan, pairs, nil, 0); !bad {
		t.Error("work after energising is not seen")
	}
	tight := new(diary).step(worklog.MainOff).add(job.TorqueMade, "A", "board-line", "2.5").dead(pairs)
	if e, bad := worklog.InsideWhileLive(&job.Job{Log: tight.log}, plan, pairs, nil, 0); !bad || e.Kind != job.TorqueMade {
		t.Errorf("a torque before the proof: %+v %t", e, bad)
	}
	slept := new(diary).step(worklog.MainOff).dead(pairs)
	slept.at = slept.at.Add(worklog.Sleep + time.Hour)
	if _, bad := worklog.InsideWhileLive(&job.Job{Log: slept.at2(worklog.BoardWork).log}, plan, pairs, nil, 0); !bad {
		t.Error("work after a silence is not seen")
	}
	// Three hours are no silence by the usual figure, and are by a firm's two.
	paused := new(diary).step(worklog.MainOff).dead(pairs)
	paused.at = paused.at.Add(3 * time.Hour)
	paused = paused.at2(worklog.BoardWork)
	if _, bad := worklog.InsideWhileLive(&job.Job{Log: paused.log}, plan, pairs, nil, 0); bad {
		t.Error("three hours count as a silence of four")
	}
	if _, bad := worklog.InsideWhileLive(&job.Job{Log: paused.log}, plan, pairs, nil, 2*time.Hour); !bad {
		t.Error("a firm's two hours are not held to")
	}
}

// at2 logs a step on point A.
func (d *diary) at2(id string) *diary { return d.add(job.StepDone, "A", id, "x") }

// everything is a job with all that makes steps: two points, one hard-wired through
// a wall, a trench and a conduit, with sensors and an electrode, one plugged in.
func everything() *job.Job {
	j := twoPoints()
	s := &j.Survey
	s.Supply.OtherSource = job.Yes
	s.Board.Slots = []job.Slot{{At: 1, Circuit: "main", Fixed: job.Yes}, {At: 2, Circuit: "shower"}, {At: 3, Circuit: "cooker"}}
	s.SitePlan.Positions = []job.Position{{ID: "P", Fixing: "brick"}}
	s.Places[0] = job.Place{Point: "A", Outdoors: job.Yes, Position: "P", Route: []job.Segment{{Method: job.Conduit, Length: 4, Size: "25 mm"}, {Method: job.Surface, Length: 2, Wall: 0.3}, {Method: job.Buried, Length: 6, Note: "under the lawn"}, {Method: job.Conduit, Length: 1, Size: "25 mm"}}}
	s.Places[1] = job.Place{Point: "B", Outdoors: job.No, Route: []job.Segment{{Method: job.Surface, Length: 3}}}
	j.Design = job.Design{Sharing: "shared-limit", SharedTo: 40, Circuits: []job.Circuit{
		{Point: "A", Connection: "hard-wired", ManagedTo: 80, Isolator: job.Yes, SPD: "fitted", Earthing: job.PointEarthing{OpenPEN: "electrode"}, Breaker: job.Breaker{Rating: 40, Curve: "B", Poles: 2}, Cable: job.Cable{Size: "6 mm²"}},
		{Point: "B", Connection: "receptacle", Existing: job.Yes},
	}}
	return j
}

// TestPlan: every step waits only for steps that come before it or are not part of
// the job, and the board's inside is never reached before dead is proved.
func TestPlan(t *testing.T) {
	for _, in := range jurisdiction.All() {
		for name, j := range map[string]*job.Job{"two bare points": twoPoints(), "everything": everything()} {
			school, plan := in.ID, in.Install.Plan(j)
			all, seen := map[string]bool{}, map[string]bool{}
			for _, s := range plan {
				all[s.ID] = true
			}
			for _, s := range plan {
				for _, a := range s.After {
					if all[a] && !seen[a] {
						t.Errorf("%s, %s: %s waits for %s, which comes later", school, name, s.ID, a)
					}
				}
				if seen[s.ID+" "+s.Point] {
					t.Errorf("%s, %s: %s comes twice", school, name, s.ID)
				}
				seen[s.ID], seen[s.ID+" "+s.Point] = true, true
				if s.Inside && !slices.Contains(s.After, worklog.ProveDead) {
					t.Errorf("%s, %s: %s is inside the board and does not wait for the proof of dead", school, name, s.ID)
				}
				if s.Caution != "" && s.Clause == "" {
					t.Errorf("%s, %s: the caution of %s names no source", school, name, s.ID)
				}
				if strings.Contains(strings.ToLower(s.Title+s.Detail+s.Caution), "safe") {
					t.Errorf("%s, %s: %s says safe", school, name, s.ID)
				}
				for _, c := range s.Changes {
					if _, ok := job.FindVariation(c); !ok {
						t.Errorf("%s, %s: %s changes %q, which is no variation", school, name, s.ID, c)
					}
				}
			}
		}
	}
}

// TestPlanFollowsDesign: what the design has makes its steps, and nothing else.
func TestPlanFollowsDesign(t *testing.T) {
	ids := func(plan []worklog.Step, point string) string {
		out := ""
		for _, s := range plan {
			if s.Point == point {
				out += s.ID + " "
			}
		}
		return out
	}
	plan := uk.Practice.Install.Plan(everything())
	for point, want := range map[string]string{
		"":  "protect announce branches-off sources-off main-off cover-off prove-dead barrier spd link rejoin lids labels energise restore ",
		"A": "backplate drill way:conduit way:buried electrode cable isolator board sensors charger settings dead-tests ",
		"B": "backplate board receptacle charger settings dead-tests ",
	} {
		t.Run(point, func(t *testing.T) {
			if got := ids(plan, point); got != want {
				t.Errorf("point %q: %s\nwant %s", point, got, want)
			}
		})
	}
	say := map[string]string{worklog.BackPlate: "sound brick", worklog.Drill: "up to 0.3 m", worklog.OnWay + "buried": "6.0 m: under the lawn", worklog.OnWay + "conduit": "5.0 m, 25 mm, 2 stretches", worklog.RunCable: "6 mm², 13.3 m",
		worklog.BoardWork: "B40 A, 2-pole", worklog.Sensors: "Limit 80 A", worklog.BranchesOff: "shower, cooker", worklog.Restore: "cooker, shower"}
	for _, s := range plan {
		if want, ok := say[s.ID]; ok && s.Point != "B" && !strings.Contains(s.Detail, want) {
			t.Errorf("%s says %q, without %q", s.ID, s.Detail, want)
		}
		if s.ID == worklog.OnWay+"buried" && !slices.Contains(s.Records, worklog.Photo) {
			t.Error("a trench is filled without a photo")
		}
	}
	if us := ids(us.Practice.Install.Plan(everything()), "A"); !strings.Contains(us, "remark") {
		t.Errorf("US: %s", us)
	}
	bare := twoPoints()
	bare.Survey.Places[0] = job.Place{Point: "A", Outdoors: job.No, Route: []job.Segment{{Method: job.Surface, Length: 3}}}
	if got := ids(uk.Practice.Install.Plan(bare), "A"); strings.Contains(got, worklog.Drill) {
		t.Errorf("no wall, and it is drilled: %s", got)
	}
}

func twoPoints() *job.Job {
	return &job.Job{Survey: job.Survey{Supply: onePhase, Places: []job.Place{{Point: "A"}, {Point: "B"}}}}
}

func find(list []worklog.Status, id, point string) worklog.Status {
	i := slices.IndexFunc(list, func(s worklog.Status) bool { return s.ID == id && s.Point == point })
	if i < 0 {
		return worklog.Status{}
	}
	return list[i]
}

func progress(j *job.Job, tested func(string) bool) []worklog.Status {
	return worklog.Progress(j, uk.Practice.Install.Plan(j), worklog.StateOf(j, uk.Practice.Install.PairsOf(j), time.Time{}, 0), tested)
}

func TestProgress(t *testing.T) {
	j := twoPoints()
	no := func(string) bool { return false }
	list := progress(j, no)
	if s := find(list, "protect", ""); s.Done || len(s.WaitsFor) != 0 {
		t.Errorf("the first step: %+v", s)
	}
	if s := find(list, worklog.BoardWork, "A"); len(s.WaitsFor) == 0 || !slices.Contains(s.WaitsFor, "Prove dead") {
		t.Errorf("board work waits for %v", s.WaitsFor)
	}
	pairs := uk.Practice.Install.Pairs(&onePhase)
	d := new(diary).step("protect").step("announce").step(worklog.MainOff).step(worklog.CoverOff).dead(pairs).step(worklog.Barrier)
	d.add(job.StepDone, "A", "drill", "").add(job.StepDone, "A", worklog.RunCable, "12 m")
	j.Log = d.log
	list = progress(j, no)
	if s := find(list, worklog.ProveDead, ""); !s.Done {
		t.Errorf("proved, and the step says %+v", s)
	}
	if s := find(list, worklog.BoardWork, "A"); len(s.WaitsFor) != 0 {
		t.Errorf("point A waits for %v", s.WaitsFor)
	}
	if s := find(list, worklog.BoardWork, "B"); len(s.WaitsFor) != 1 || s.WaitsFor[0] != "Cable run and secured" {
		t.Errorf("point B waits for %v", s.WaitsFor)
	}
	// Re-energised: inside work is shut again.
	j.Log = append(j.Log, new(diary).step(worklog.Energise).log...)
	if s := find(progress(j, no), worklog.BoardWork, "A"); !slices.Contains(s.WaitsFor, "Prove dead") {
		t.Errorf("after energising, board work waits for %v", s.WaitsFor)
	}
	if s := find(progress(j, no), worklog.ProveDead, ""); !s.Done {
		t.Error("the proof that was is forgotten after energising")
	}
}

// TestEnergiseWaitsForAllPoints: nothing is switched on before the dead tests
// of every point.
func TestEnergiseWaitsForAllPoints(t *testing.T) {
	j := twoPoints()
	s := find(progress(j, func(p string) bool { return p == "A" }), worklog.Energise, "")
	if !slices.Contains(s.WaitsFor, "Dead tests entered") {
		t.Errorf("waits for %v", s.WaitsFor)
	}
	s = find(progress(j, func(string) bool { return true }), worklog.Energise, "")
	if slices.Contains(s.WaitsFor, "Dead tests entered") {
		t.Errorf("all tested, waits for %v", s.WaitsFor)
	}
}

// TestRoll: everyone who logged work is asked, by phone or in person, and an
// answer lapses when work goes on.
func TestRoll(t *testing.T) {
	j := twoPoints()
	j.Plan.Crew = []string{"K. Osei", "T. Brandt"}
	plan := uk.Practice.Install.Plan(j)
	d := new(diary).step(worklog.MainOff).dead(uk.Practice.Install.Pairs(&onePhase))
	by := func(name, subject, value string) {
		d.step(subject)
		e := &d.log[len(d.log)-1]
		e.By, e.Value = name, value
	}
	missing := func(named string) string {
		j.Log = d.log
		return strings.Join(worklog.Unanswered(worklog.Roll(j, plan), named), ", ")
	}
	if got := missing(""); got != "K. Osei, T. Brandt" {
		t.Errorf("at the beginning: %s", got)
	}
	by("P. Lindqvist", worklog.Barrier, "")
	if got := missing("K. Osei, T. Brandt"); got != "P. Lindqvist" {
		t.Errorf("a third one worked: %s", got)
	}
	by("T. Brandt", worklog.Answer, "")
	by("K. Osei", worklog.Answer, "P. Lindqvist")
	if got := missing(""); got != "K. Osei" {
		t.Errorf("one by phone, one in person: %s", got)
	}
	if got := missing("K. Osei"); got != "" {
		t.Errorf("the lead's own word: %s", got)
	}
	d.at2(worklog.BoardWork)
	if got := missing(""); got != "K. Osei, T. Brandt, P. Lindqvist" {
		t.Errorf("work went on after the answers: %s", got)
	}
	by("K. Osei", worklog.Energise, "")
	if got := missing(""); got != "K. Osei, T. Brandt" {
		t.Errorf("after switching on: %s", got)
	}
}

func TestWorked(t *testing.T) {
	d := new(diary)
	say := func(after time.Duration, word worklog.ClockState) {
		d.at = d.at.Add(after - time.Minute)
		d.add(job.StepDone, "", worklog.Clock, string(word))
	}
	say(time.Hour, worklog.Started)
	say(2*time.Hour, worklog.Paused)
	say(30*time.Minute, worklog.Paused)
	say(time.Hour, worklog.Started)
	say(10*time.Minute, worklog.Started)
	say(80*time.Minute, worklog.Done)
	if w := worklog.Worked(&job.Job{Log: d.log}); w.State != worklog.Done || w.Spent != 3*time.Hour+30*time.Minute || w.Hours != 3.5 {
		t.Errorf("%+v", w)
	}
	if w := worklog.Worked(&job.Job{}); w.State != "" || w.Hours != 0 {
		t.Errorf("no clock: %+v", w)
	}
}

func TestTerminals(t *testing.T) {
	for _, c := range []struct {
		in      *jurisdiction.Jurisdiction
		circuit job.Circuit
		n       int
		has     string
	}{
		{uk.Practice, job.Circuit{}, 6, "breaker, line"},
		{us.Practice, job.Circuit{}, 6, "panel, ground"},
		{uk.Practice, job.Circuit{Charger: job.Charger{Phases: 3}}, 10, "charger, L3"},
		{us.Practice, job.Circuit{Connection: "receptacle", Receptacle: job.Receptacle{Neutral: job.Yes}}, 8, "outlet, neutral"},
	} {
		seen := map[string]bool{}
		found := false
		for _, term := range c.in.Install.Terminals(job.Point{ID: "A", Circuit: c.circuit}) {
			if seen[term.ID] || !strings.HasPrefix(term.ID, "board-") && !strings.HasPrefix(term.ID, "charger-") {
				t.Errorf("%s: terminal %q", c.in.ID, term.ID)
			}
			seen[term.ID] = true
			found = found || term.Title == c.has
		}
		if len(seen) != c.n || !found {
			t.Errorf("%s, %+v: %d terminals, %q among them %t", c.in.ID, c.circuit, len(seen), c.has, found)
		}
	}
}

// TestStepsByFate: work on what was there has its own steps, and none of a new circuit. Field guide, "Work that is not one new
// charger on one board" and "Move house".
func TestStepsByFate(t *testing.T) {
	there := job.Circuit{Point: "A", Existing: job.Yes, Connection: job.HardWired, Isolator: job.Yes}
	gone := func(breaker, cable job.Fate) func(*job.Circuit) {
		return func(c *job.Circuit) { c.Charger.Fate, c.Breaker.Fate, c.Cable.Fate = job.FateTakenOut, breaker, cable }
	}
	for _, c := range []struct {
		name       string
		change     func(*job.Circuit)
		has, lacks []string // ids, or an id and words of its title: "board: replaced"
	}{
		{"breaker replaced, outlet out", func(c *job.Circuit) {
			c.Charger.Fate, c.Breaker.Fate, c.Receptacle.Fate = job.FateNew, job.FateReplaced, job.FateTakenOut
		}, []string{"board: Breaker replaced in its own ways", "receptacle: Old outlet taken out", "charger"}, []string{"take-down", "cable", "drill"}},
		{"residual device exchanged", func(c *job.Circuit) { c.Charger.Fate, c.RCD.Fate = job.FateKept, job.FateReplaced },
			[]string{"board: Residual device replaced", "settings", "dead-tests"}, []string{"charger", "backplate", "isolator", "take-down"}},
		{"a contactor", func(c *job.Circuit) {
			c.Charger.Fate, c.Mended.Part = job.FateKept, job.MendedContactor
		}, []string{"charger: Charger mended", "dead-tests"}, []string{"backplate", "take-down"}},
		{"taken away, the cable stays off its breaker", gone(job.FateTakenOut, job.FateKept),
			[]string{"release", "take-down", "point-end: closed off", "board: breaker out", "energise"},
			[]string{"charger", "settings", "backplate", "dead-tests", "rejoin", "isolator", "spd"}},
		{"taken away, the cable stays on its breaker", gone(job.FateKept, job.FateKept), []string{"board: held off", "dead-tests"}, []string{"settings"}},
		{"taken away with its cable", gone(job.FateKept, job.FateTakenOut), []string{"point-end: Cable taken out"}, []string{"dead-tests"}},
		{"a charger that moves here", func(c *job.Circuit) { c.Existing, c.Charger.Moved = job.No, "DB-7" }, []string{"reset", "charger", "cable"}, []string{"release"}},
	} {
		for _, in := range []*worklog.Practice{&uk.Practice.Install, &us.Practice.Install} {
			k := there
			c.change(&k)
			titles := map[string]string{}
			last := map[string]int{}
			for i, s := range in.Plan(&job.Job{Survey: job.Survey{Places: []job.Place{{Point: "A"}}}, Design: job.Design{Circuits: []job.Circuit{k}}}) {
				titles[s.ID], last[s.ID] = s.Title, i
				for _, a := range s.After {
					if at, ok := last[a]; ok && at >= i {
						t.Errorf("%s: %s comes before %s", c.name, s.ID, a)
					}
				}
			}
			for _, want := range c.has {
				id, words, _ := strings.Cut(want, ": ")
				if title, ok := titles[id]; !ok || !strings.Contains(title, words) {
					t.Errorf("%s: no %q, %q", c.name, want, title)
				}
			}
			for _, id := range c.lacks {
				if _, ok := titles[id]; ok {
					t.Errorf("%s: has %s", c.name, id)
				}
			}
		}
	}
}

// TestKeptCircuitSteps: nothing is drilled or run for a circuit that is kept; what hung on it is taken down, where it was wired in,
// before the new charger is connected.
func TestKeptCircuitSteps(t *testing.T) {
	wall := job.Place{Point: "A", Outdoors: job.Yes, Route: []job.Segment{{Method: job.ThroughWall, Wall: 0.3}, {Method: job.Buried, Length: 4}}}
	for _, c := range []struct {
		name    string
		in      *worklog.Practice
		circuit job.Circuit
		taken   bool
	}{
		{"wired in, uk", &uk.Practice.Install, job.Circuit{Point: "A", Existing: job.Yes, Connection: job.HardWired}, true},
		{"wired in, us", &us.Practice.Install, job.Circuit{Point: "A", Existing: job.Yes, Connection: job.HardWired}, true},
		{"plugged in, us", &us.Practice.Install, job.Circuit{Point: "A", Existing: job.Yes, Connection: job.PluggedIn}, false},
		{"new", &uk.Practice.Install, job.Circuit{Point: "A", Connection: job.HardWired}, false},
	} {
		var ids []string
		for _, s := range c.in.Plan(&job.Job{Survey: job.Survey{Places: []job.Place{wall}}, Design: job.Design{Circuits: []job.Circuit{c.circuit}}}) {
			ids = append(ids, s.ID)
			if s.ID == worklog.ChargerEnd && c.taken && !slices.Contains(s.After, worklog.TakeDown) {
				t.Errorf("%s: the charger does not wait for the old one: %v", c.name, s.After)
			}
		}
		if slices.Contains(ids, worklog.TakeDown) != c.taken {
			t.Errorf("%s: %v", c.name, ids)
		}
		laid := slices.ContainsFunc(ids, func(id string) bool {
			return id == worklog.RunCable || id == worklog.Drill || id == worklog.OnWay+string(job.Buried)
		})
		if laid == c.circuit.Kept() {
			t.Errorf("%s: laid %v: %v", c.name, laid, ids)
		}
	}
}
