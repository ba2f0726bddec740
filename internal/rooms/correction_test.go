package rooms

import (
	"strings"
	"testing"
	"time"

	"dogbolt/core/assess"
	"dogbolt/core/books/uk"
	"dogbolt/core/books/us"
	"dogbolt/core/clearance"
	"dogbolt/core/job"
)

// TestNobodyInspectsByANotice: a paper that tells of the work after it brings nobody who could want something put right; the same
// paper before the work does.
func TestNobodyInspectsByANotice(t *testing.T) {
	a := newApp(t)
	id := imported(t, a, "uk-fail.json").Summary.ID
	e := job.Entry{ID: "asked-0001", Kind: job.CorrectionAsked, Subject: "building-control", Value: "intake", Day: "2026-05-04", Reason: "tails not clipped at the meter", At: time.Now()}
	if _, err := a.Journal.Append(ctx, installer, id, []job.Entry{e}, nil); err == nil || !strings.Contains(err.Error(), "no inspection by the authority") {
		t.Errorf("by a notice: %v", err)
	}
	for _, c := range []struct {
		before job.Before
		want   bool
	}{{job.After, false}, {job.BeforeInstalling, true}, {"", true}} {
		p := job.Paper{ID: "building-control", Before: c.before}
		if got := uk.Practice.Inspect.Inspects(&p); got != c.want {
			t.Errorf("before %q: %t", c.before, got)
		}
	}
	if rough := (job.Paper{ID: "rough-in"}); !us.Practice.Inspect.Inspects(&rough) || us.Practice.Inspect.Inspects(&job.Paper{ID: "permit"}) {
		t.Error("the rough-in is an inspection, the permit is none")
	}
}

// TestInspectorAsks: what an inspector wants put right is written down once, about an inspection of this job, by
// thing, day and words; the inspection is then sent back until it was put right and passed on another day, and
// what was put right by somebody stays.
func TestInspectorAsks(t *testing.T) {
	a := newApp(t)
	v := imported(t, a, "us-fail.json")
	id := v.Summary.ID
	now := time.Now()
	today := now.UTC().Format(time.DateOnly)
	asks := func(change func(*job.Entry)) job.Entry {
		e := job.Entry{ID: "asked-0001", Kind: job.CorrectionAsked, Subject: "final", Value: "panel-work", Day: today, Reason: "two grounds under one screw", At: now}
		change(&e)
		return e
	}
	right := func(change func(*job.Entry)) job.Entry {
		e := job.Entry{ID: "right-0001", Kind: job.PutRight, Subject: "asked-0001", Reason: "each on its own screw", At: now}
		change(&e)
		return e
	}
	refused := func(name string, e job.Entry, want string) {
		t.Helper()
		if _, err := a.Journal.Append(ctx, installer, id, []job.Entry{e}, nil); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%s: %v, want %q", name, err, want)
		}
	}
	for _, c := range []struct {
		name   string
		change func(*job.Entry)
		want   string
	}{
		{"of no inspection", func(e *job.Entry) { e.Subject = "permit" }, "no inspection by the authority"},
		{"of a paper that is not there", func(e *job.Entry) { e.Subject = "roof" }, "no inspection by the authority"},
		{"about nothing", func(e *job.Entry) { e.Value = "" }, "choose what it is about"},
		{"about a statement", func(e *job.Entry) { e.Value = "extent" }, "choose what it is about"},
		{"of no day", func(e *job.Entry) { e.Day = "" }, "on which day"},
		{"of a day to come", func(e *job.Entry) { e.Day = now.AddDate(0, 0, 3).Format(time.DateOnly) }, "has not come yet"},
		{"without words", func(e *job.Entry) { e.Reason = " fix it " }, "in the inspector's words"},
		{"of one point", func(e *job.Entry) { e.Point = "A" }, "of the whole work"},
		{"with a reading", func(e *job.Entry) { e.Unit = "V" }, "has no reading"},
	} {
		refused(c.name, asks(c.change), c.want)
	}
	refused("a day on a note", job.Entry{ID: "noted-0001", Kind: job.Noted, Reason: "it rains", Day: today, At: now}, "has a day of its own")
	refused("put right before it was asked", right(func(*job.Entry) {}), "no correction that stands")

	if _, err := a.Journal.Append(ctx, installer, id, []job.Entry{asks(func(*job.Entry) {})}, nil); err != nil {
		t.Fatal(err)
	}
	state := func(want clearance.State) {
		t.Helper()
		var err error
		if v, err = a.Jobs.Open(ctx, installer, id); err != nil {
			t.Fatal(err)
		}
		p, _ := v.Job.PaperNow("final")
		if got := clearance.StateOf(&v.Job, p, today); got != want {
			t.Errorf("the inspection is %s, want %s: %+v", got, want, p)
		}
	}
	state(clearance.Back)
	refused("put right without words", right(func(e *job.Entry) { e.Reason = "done" }), "say in words what was done")
	refused("put right with a value", right(func(e *job.Entry) { e.Value = "yes" }), "said in words")
	refused("in place of another", right(func(e *job.Entry) { e.Replaces = "asked-0001" }), "take the other back")
	if _, err := a.Journal.Append(ctx, installer, id, []job.Entry{right(func(*job.Entry) {})}, nil); err != nil {
		t.Fatal(err)
	}
	if v, err := a.Jobs.Open(ctx, installer, id); err != nil || !assess.Worked(&v.Job, installer.Name) {
		t.Error("who put something right did no work")
	}
	refused("put right twice", right(func(e *job.Entry) { e.ID = "right-0002" }), "K. Osei put this right already")
	refused("taken back after it was put right", job.Entry{ID: "backs-0001", Kind: job.TakenBack, Subject: "final", Replaces: "asked-0001", Reason: "it was another house", At: now}, "take that back first")
	state(clearance.Back) // put right, and not inspected again
}
