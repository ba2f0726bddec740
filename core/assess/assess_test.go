package assess

import (
	"encoding/json"
	"fmt"
	"reflect"
	"slices"
	"strings"
	"testing"
	"time"

	"dogbolt/core/books/uk"
	_ "dogbolt/core/books/us"
	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/rulebook"
	"dogbolt/core/worklog"
	"dogbolt/internal/testkit/ruletest"
)

var (
	morning = time.Date(2026, 5, 4, 8, 0, 0, 0, time.UTC)
	lead    = Writer{Name: "K. Osei"}
	mate    = Writer{Name: "T. Brandt"}
	tester  = Writer{Name: "A. Nakagawa", Verifier: true}
)

// site is a job under way: what is written is checked, and added where it may be.
type site struct {
	t      *testing.T
	j      *job.Job
	policy WorkPolicy
	now    time.Time
	n      int
}

func begun(t *testing.T) *site {
	j := ruletest.Example(t, "../../docs/formats/examples/uk-pass.json")
	j.Log = nil
	return &site{t: t, j: &j, now: morning}
}

func (s *site) try(w Writer, e job.Entry) string {
	s.n++
	s.now = s.now.Add(time.Minute)
	e.ID, e.At, e.By = fmt.Sprintf("device-%04d", s.n), s.now, w.Name
	errs := Check(s.j, &s.policy, w, s.now, e, "entry")
	if len(errs) > 0 {
		return errs[0].Message
	}
	s.j.Log = append(s.j.Log, e)
	return ""
}

func (s *site) must(w Writer, e job.Entry) {
	s.t.Helper()
	if why := s.try(w, e); why != "" {
		s.t.Fatalf("%s %s: %s", e.Kind, e.Subject, why)
	}
}

func (s *site) refused(w Writer, e job.Entry, want string) {
	s.t.Helper()
	if why := s.try(w, e); why == "" || !strings.Contains(why, want) {
		s.t.Errorf("%s %s by %s: %q, want %q", e.Kind, e.Subject, w.Name, why, want)
	}
}

func step(id, point, value string) job.Entry {
	return job.Entry{Kind: job.StepDone, Subject: id, Point: point, Value: value}
}

func reading(test, value string) job.Entry {
	return job.Entry{Kind: job.ReadingMade, Subject: test, Point: "A", Value: value, Instrument: "7F"}
}

func (s *site) isolate() {
	for _, e := range []job.Entry{step("protect", "", ""), step("announce", "", "the customer"), step(worklog.MainOff, "", "lock 3"), step(worklog.CoverOff, "", "")} {
		s.must(lead, e)
	}
	dead := func(subject, v string) {
		s.must(lead, job.Entry{Kind: job.ReadingMade, Subject: subject, Value: v})
	}
	dead(worklog.SourceBefore, "238")
	for _, p := range uk.Practice.Install.PairsOf(s.j) {
		dead(worklog.DeadPair+p, "0")
	}
	dead(worklog.SourceAfter, "238")
}

// TestGates goes through an installation and tries at each gate what may not be.
func TestGates(t *testing.T) {
	s := begun(t)
	s.refused(lead, step(worklog.BoardWork, "A", ""), "waits for")
	s.refused(lead, job.Entry{Kind: job.ReadingMade, Subject: worklog.DeadPair + "L-N", Value: "0"}, "cover off")
	s.isolate()
	s.refused(mate, step(worklog.Barrier, "", "fitted"), "for the lead of the crew, K. Osei, or a verifier")
	s.must(tester, step(worklog.Barrier, "", "fitted"))
	s.refused(lead, reading(commission.Zs, "0.38"), "waits until everyone has answered")
	s.must(lead, reading(commission.R1R2, "0.10"))
	s.refused(lead, reading("mood", "1"), "not a test")
	s.must(lead, step(worklog.BackPlate, "A", ""))
	s.must(mate, step(worklog.Drill, "A", ""))
	s.refused(mate, step(worklog.RunCable, "A", "about 15"), `"about 15" is not the length run: a number in m`)
	s.must(mate, step(worklog.RunCable, "A", "15.6 m"))
	s.must(lead, step(worklog.Isolator, "A", ""))
	s.must(lead, step(worklog.SurgeDevice, "", ""))

	// A silence, and the board is shut again.
	s.now = s.now.Add(worklog.Sleep + time.Hour)
	torque := job.Entry{Kind: job.TorqueMade, Subject: "board-line", Point: "A", Value: "2.5", Target: "2.5", Unit: "N·m", Instrument: "torque driver 4"}
	s.refused(lead, torque, "nothing is tightened before dead is proved")
	s.refused(lead, step(worklog.BoardWork, "A", ""), "Prove dead")
	s.must(lead, job.Entry{Kind: job.ReadingMade, Subject: worklog.SourceBefore, Value: "238"})
	for _, p := range uk.Practice.Install.PairsOf(s.j) {
		s.must(lead, job.Entry{Kind: job.ReadingMade, Subject: worklog.DeadPair + p, Value: "0"})
	}
	s.must(lead, job.Entry{Kind: job.ReadingMade, Subject: worklog.SourceAfter, Value: "238"})
	s.must(lead, torque)
	s.refused(mate, torque, "for the lead of the crew, K. Osei, or a verifier")
	s.policy.Second = true
	s.refused(lead, torque, "second person")
	torque.Second = lead.Name
	s.refused(lead, torque, "second person")
	torque.Second = mate.Name
	s.must(lead, torque)
	s.must(lead, step(worklog.BoardWork, "A", ""))
	s.must(lead, step(worklog.ChargerEnd, "A", ""))
	s.must(lead, reading(commission.Insulation, ">999"))
	s.must(lead, reading(commission.InsulationLive, ">999"))
	s.must(lead, reading(commission.Bonding, "0.03"))
	s.must(lead, reading(commission.PolarityDead, "correct"))
	s.must(lead, reading(commission.PolarityOrigin, "correct"))
	s.must(lead, reading(commission.FaultCurrent, "0.86"))
	s.refused(lead, step(worklog.Rejoin, "", "K. Osei"), "Dead tests entered")
	s.must(lead, reading(commission.Ze, "0.27"))
	s.must(lead, step(worklog.Rejoin, "", "K. Osei"))
	s.must(lead, step(worklog.Lids, "", ""))

	s.refused(mate, step(worklog.Answer, "", "K. Osei"), "recorded by the lead")
	s.refused(Writer{Name: "Passer-by"}, step(worklog.Answer, "", ""), "not on this job")
	s.must(mate, step(worklog.Answer, "", ""))
	s.refused(lead, step(worklog.Energise, "", ""), "K. Osei, A. Nakagawa")
	s.must(lead, step(worklog.Answer, "", ""))
	s.refused(mate, step(worklog.Energise, "", "A. Nakagawa"), "for the lead")
	// Nothing is switched on over a failed test: three that were taken once.
	for test, bad := range map[string]string{commission.PolarityDead: "wrong", commission.Insulation: "0.01", commission.R1R2: ">99.9"} {
		was, _ := s.j.Latest(job.ReadingMade, "A", test)
		s.must(lead, reading(test, bad))
		s.refused(lead, step(worklog.Energise, "", "A. Nakagawa"), "over a failed test")
		s.must(lead, reading(test, was.Value))
	}
	s.must(lead, step(worklog.Energise, "", "A. Nakagawa"))
	s.refused(lead, step(worklog.Isolator, "A", ""), "prove dead again")
	torque.Second = mate.Name
	s.refused(lead, torque, "before dead is proved")
	corrected := step(worklog.Barrier, "", "supply isolated by the operator")
	i := slices.IndexFunc(s.j.Log, func(e job.Entry) bool { return e.Subject == worklog.Barrier })
	corrected.Replaces, corrected.Reason = s.j.Log[i].ID, "written down wrong"
	s.must(lead, corrected)

	s.refused(lead, reading(commission.Ze, "0.27"), "follows a proof of dead")
	calculated := reading(commission.Zs, "0.37")
	calculated.Instrument = commission.Calculated
	s.must(lead, calculated)
	calculated.Value = "0.36"
	s.refused(lead, calculated, "not what the readings give")
	s.refused(lead, reading(commission.Firmware, " "), "nothing was written")
	s.must(lead, step(worklog.Clock, "", string(worklog.Started)))
	s.refused(lead, step(worklog.Clock, "", "lunch"), "started, paused or done")
}

// TestLateEntries: what was written without signal while the board was dead is
// taken after others have switched it on; what was written later is not.
func TestLateEntries(t *testing.T) {
	s := begun(t)
	s.isolate()
	s.must(lead, step(worklog.Barrier, "", "fitted"))
	for _, e := range []job.Entry{step(worklog.BackPlate, "A", ""), step(worklog.Drill, "A", ""), step(worklog.RunCable, "A", "15 m")} {
		s.must(lead, e)
	}
	then := s.now.Add(30 * time.Second)
	s.j.Log = append(s.j.Log, job.Entry{ID: "device-switch", Kind: job.StepDone, Subject: worklog.Energise, Value: "K. Osei, T. Brandt", At: s.now.Add(time.Minute), By: lead.Name})
	late := step(worklog.BoardWork, "A", "")
	late.ID, late.At, late.By = "device-late", then, lead.Name
	if errs := Check(s.j, &s.policy, lead, s.now.Add(time.Hour), late, "entry"); len(errs) > 0 {
		t.Errorf("written before it was switched on: %v", errs)
	}
	late.At = s.now.Add(2 * time.Minute)
	if errs := Check(s.j, &s.policy, lead, s.now.Add(time.Hour), late, "entry"); len(errs) == 0 {
		t.Error("written after it was switched on, and taken")
	}
}

// TestPhotoAsked: a trench is not filled in the log without its photo.
func TestPhotoAsked(t *testing.T) {
	s := begun(t)
	s.j.Survey.Places[0].Route = []job.Segment{{Method: job.Buried, Length: 6, Cover: 0.6}}
	s.must(lead, step("protect", "", ""))
	way := worklog.OnWay + string(job.Buried)
	s.refused(lead, step(way, "A", "0.6 m"), "records a photo")
	s.refused(lead, job.Entry{Kind: job.PhotoTaken, Subject: way, Point: "A", Value: "a nice one"}, "SHA-256")
	s.refused(lead, job.Entry{Kind: job.PhotoTaken, Subject: "holiday", Value: strings.Repeat("ab", 32)}, "not a step")
	s.must(lead, job.Entry{Kind: job.PhotoTaken, Subject: way, Point: "A", Value: strings.Repeat("ab", 32)})
	s.must(lead, step(way, "A", "0.6 m"))
}

// TestRuleHoldsToTheFirmsSilence: the rule about dead proof counts the silence that
// the firm allows, as the log does.
func TestRuleHoldsToTheFirmsSilence(t *testing.T) {
	s := begun(t)
	s.isolate()
	s.must(tester, step(worklog.Barrier, "", "fitted"))
	s.now = s.now.Add(3 * time.Hour)
	for hours, want := range map[float64]rulebook.Verdict{0: rulebook.Sound, 2: rulebook.Stop} {
		s.policy.SleepHours = hours
		j := *s.j
		j.Log = append(slices.Clone(j.Log), job.Entry{ID: "after-three-hours", Kind: job.StepDone, Subject: worklog.SurgeDevice, At: s.now, By: lead.Name})
		_, findings, err := Of(&j, &s.policy, s.now)
		if err != nil {
			t.Fatal(err)
		}
		i := slices.IndexFunc(findings, func(f rulebook.Finding) bool { return f.Rule == "dead-proved" })
		if got := findings[i]; got.Verdict != want {
			t.Errorf("%g h: %s %s%s", hours, got.Verdict, got.Working, got.Missing)
		}
	}
}

func TestSleepIsTightenedOnly(t *testing.T) {
	for hours, want := range map[float64]time.Duration{0: worklog.Sleep, 1.5: 90 * time.Minute, 4: worklog.Sleep, 9: worklog.Sleep, -1: worklog.Sleep} {
		if got := (&WorkPolicy{SleepHours: hours}).Sleep(); got != want {
			t.Errorf("%g h: %s", hours, got)
		}
	}
}

func answer(t *testing.T, r Request) Reply {
	t.Helper()
	b, err := json.Marshal(r)
	if err != nil {
		t.Fatal(err)
	}
	var reply Reply
	if err := json.Unmarshal(Answer(b), &reply); err != nil {
		t.Fatal(err)
	}
	return reply
}

// TestAnswer: through JSON a device says the same as the server.
func TestAnswer(t *testing.T) {
	for _, file := range []string{"uk-pass.json", "us-fail.json"} {
		j := ruletest.Example(t, "../../docs/formats/examples/"+file)
		want, err := rulebook.Check(&j)
		if err != nil {
			t.Fatal(err)
		}
		r := answer(t, Request{Op: "assess", Job: &j, Now: morning})
		if r.Error != "" || !reflect.DeepEqual(r.Assessment.Lines, rulebook.Lines(want)) {
			t.Errorf("%s: %q, other findings than the server's", file, r.Error)
		}
		if len(r.Assessment.Steps) < 12 || len(r.Assessment.Sequences["A"].Tests) < 8 || r.Assessment.Spine == nil {
			t.Errorf("%s: %d steps, %d tests", file, len(r.Assessment.Steps), len(r.Assessment.Sequences["A"].Tests))
		}
	}
	j := ruletest.Example(t, "../../docs/formats/examples/uk-pass.json")
	if r := answer(t, Request{Op: "setting", Job: &j, Point: "A"}); r.Error != "" || !r.Setting.Known || len(r.Setting.Positions) == 0 {
		t.Errorf("setting: %+v", r)
	}
	if r := answer(t, Request{Op: "built", Job: &j}); r.Error != "" || len(r.Built.Kinds) == 0 {
		t.Errorf("built: %+v", r)
	}
	for name, r := range map[string]Request{"no op": {Job: &j}, "no job": {Op: "assess"}, "no point": {Op: "setting", Job: &j, Point: "Q"}, "no rulebook": {Op: "assess", Job: &job.Job{}}} {
		t.Run(name, func(t *testing.T) {
			if got := answer(t, r); got.Error == "" {
				t.Errorf("%s: %+v", name, got)
			}
		})
	}
	var broken Reply
	if err := json.Unmarshal(Answer([]byte("{")), &broken); err != nil || broken.Error == "" {
		t.Errorf("half a request: %+v", broken)
	}
}

// TestAdd: entries are tried one after the other, filled in, and put in the order
// of the clocks.
// written is entries as a device sends them.
func written(t *testing.T, entries ...job.Entry) []json.RawMessage {
	t.Helper()
	out := make([]json.RawMessage, len(entries))
	for i, e := range entries {
		b, err := json.Marshal(e)
		if err != nil {
			t.Fatal(err)
		}
		out[i] = b
	}
	return out
}

func TestAdd(t *testing.T) {
	s := begun(t)
	s.isolate()
	policy := WorkPolicy{Instruments: map[string]string{"7f": "2026-01-31"}}
	early := reading(commission.R1R2, "0.10")
	early.ID, early.At, early.Instrument = "device-early", morning.Add(30*time.Minute), " 7F"
	late := step("announce", "", "the customer")
	late.ID, late.At = "device-late", morning.Add(time.Hour)
	r := answer(t, Request{Op: "add", Job: s.j, Policy: policy, Writer: lead, Now: morning.Add(2 * time.Hour), Entries: written(t, late, early)})
	if r.Error != "" || len(r.Errors) > 0 || len(r.Log) < 3 {
		t.Errorf("%+v", r)
	}
	if last := r.Log[len(r.Log)-2:]; last[0].ID != "device-early" || last[0].Calibrated != "2026-01-31" || last[0].By != "K. Osei" || last[1].ID != "device-late" {
		t.Errorf("%+v", last)
	}
	bad := step(worklog.Energise, "", "all")
	bad.ID, bad.At = "device-bad", morning
	refused, err := json.Marshal(answer(t, Request{Op: "add", Job: s.j, Writer: lead, Now: morning.Add(time.Hour), Entries: written(t, late, bad)}))
	if err != nil || !strings.Contains(string(refused), `"errors":[{"field":"entries[1].subject","message":"`) {
		t.Errorf("what pages read of a refusal: %s %v", refused, err)
	}
	if r := answer(t, Request{Op: "add", Job: s.j, Writer: lead, Now: morning.Add(time.Hour), Entries: written(t, late, bad)}); len(r.Errors) != 1 || r.Errors[0].Field != "entries[1].subject" || r.Log != nil {
		t.Errorf("one of two cannot be: %+v", r)
	}
}

// TestWorkBeforeItsProof: work inside a board that claims a time before dead was proved
// is refused, though it arrives after; what is no such work is taken by either state.
func TestWorkBeforeItsProof(t *testing.T) {
	s := begun(t)
	before := s.now
	s.isolate()
	torque := job.Entry{ID: "torque-early", Kind: job.TorqueMade, Subject: "board-line", Point: "A", Value: "2.5", Target: "2.5", Unit: "N·m", At: before}
	for name, check := range map[string]func(*job.Job, *WorkPolicy, Writer, time.Time, job.Entry, string) []job.FieldError{"sure": Check, "unsure": CheckUnsure} {
		if errs := check(s.j, &s.policy, lead, s.now, torque, "e"); len(errs) != 1 || !strings.Contains(errs[0].Message, "before dead is proved") {
			t.Errorf("%s: %v", name, errs)
		}
		paused := step(worklog.Clock, "", "paused")
		paused.ID, paused.At = "clock-0001", before
		if errs := check(s.j, &s.policy, lead, s.now, paused, "e"); len(errs) > 0 {
			t.Errorf("%s: %v", name, errs)
		}
	}
	torque.At = s.now
	if errs := CheckUnsure(s.j, &s.policy, lead, s.now, torque, "e"); len(errs) > 0 {
		t.Errorf("after the proof: %v", errs)
	}
	// Hours later the board is shut: nobody can tell that it was still open.
	late := s.now.Add(worklog.Sleep + time.Hour)
	if errs := Check(s.j, &s.policy, lead, late, torque, "e"); len(errs) > 0 {
		t.Errorf("its time is known: %v", errs)
	}
	if errs := CheckUnsure(s.j, &s.policy, lead, late, torque, "e"); len(errs) != 1 || !strings.Contains(errs[0].Message, "as it was until now") {
		t.Errorf("its time is not known: %v", errs)
	}
	// Proved anew meanwhile: it was shut in between. A random history found it.
	again := *s.j
	again.Log = slices.Clone(s.j.Log)
	for i, x := range s.j.Log {
		if !strings.HasPrefix(x.Subject, "dead:") {
			continue
		}
		x.ID, x.At = fmt.Sprintf("again-%04d", i), late.Add(time.Duration(i)*time.Second)
		again.Log = append(again.Log, x)
	}
	later := late.Add(time.Minute)
	now := torque
	now.At = later
	if errs := Check(&again, &s.policy, lead, later, now, "e"); len(errs) > 0 {
		t.Fatalf("it is not proved anew: %v", errs)
	}
	if errs := CheckUnsure(&again, &s.policy, lead, later, torque, "e"); len(errs) != 1 || !strings.Contains(errs[0].Message, "as it was until now") {
		t.Errorf("proved before and after, shut in between: %v", errs)
	}
	// A correction of it is no work.
	torque.Replaces = s.j.Log[0].ID
	if errs := CheckUnsure(s.j, &s.policy, lead, late, torque, "e"); len(errs) > 0 {
		t.Errorf("a correction: %v", errs)
	}
}

// TestNewerFormat: rules that are older than the job's format do not judge it.
func TestNewerFormat(t *testing.T) {
	s := begun(t)
	s.j.Format = "dogbolt.job/99"
	if r := answer(t, Request{Op: "assess", Job: s.j, Now: morning}); !strings.Contains(r.Error, "take the new version") || r.Assessment != nil {
		t.Errorf("%+v", r)
	}
}

// TestWaitsAreShown: in every state of a job, and whatever its papers must come before, a step is
// refused for its turn or for a paper exactly where its status says what it waits for.
func TestWaitsAreShown(t *testing.T) {
	shown := map[string]bool{}
	for _, before := range append([]job.Before{""}, job.Befores...) {
		s := begun(t)
		s.j.Clearances.Papers = nil
		look := func(state string) {
			plan := uk.Practice.Install.Plan(s.j)
			for _, st := range progress(s.j, &uk.Practice.Tests, plan, s.state()) {
				if st.Done || st.ID == worklog.ProveDead || st.ID == worklog.DeadTests {
					continue
				}
				value := "as written"
				if len(st.Choice) > 0 {
					value = st.Choice[0]
				}
				e := step(st.ID, st.Point, value)
				e.ID, e.At, e.By = "device-9999", s.now, lead.Name
				said := ""
				if errs := Check(s.j, &s.policy, lead, s.now, e, "entry"); len(errs) > 0 && strings.Contains(errs[0].Message, "waits for") {
					said = errs[0].Message
				}
				if waits := len(st.WaitsFor)+len(st.Papers) > 0; waits != (said != "") {
					t.Errorf("a paper before %q, %s, %s: it shows %v %v, and is refused with %q", before, state, st.ID, st.WaitsFor, st.Papers, said)
				}
				if len(st.Papers) > 0 {
					shown[st.ID] = true
				}
			}
		}
		look("nothing done")
		s.isolate()
		if before != "" {
			s.j.Clearances.Papers = []job.Paper{{ID: "permit", Title: "Permit", Before: before, Needed: job.Yes}}
		}
		look("proved dead")
		s.j.Clearances.Papers = nil
		s.must(lead, step(worklog.Barrier, "", "fitted"))
		s.must(lead, step(worklog.BackPlate, "A", ""))
		if before != "" {
			s.j.Clearances.Papers = []job.Paper{{ID: "permit", Title: "Permit", Before: before, Needed: job.Yes}}
		}
		look("begun")
	}
	if len(shown) < 5 || !shown[worklog.Energise] || shown["announce"] {
		t.Errorf("papers are shown at %v", shown)
	}
}
