// Package ruletest checks rules by changing one thing of a job that meets them
// all.
package ruletest

import (
	"encoding/json"
	"fmt"
	"maps"
	"os"
	"slices"
	"strings"
	"testing"
	"time"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/rulebook"
	"dogbolt/core/verdict"
	"dogbolt/core/worklog"
)

// Case is one change and what a rule must say of it.
type Case struct {
	Name    string
	Change  Change
	Rule    string
	Verdict rulebook.Verdict // "" where the rule must not apply
	Says    string           // part of the working, the missing or the remedy
}

// Change is what a case changes in the job.
type Change = func(*job.Job)

// OnSupply changes the supply.
func OnSupply(f func(*job.Supply)) Change { return func(j *job.Job) { f(&j.Survey.Supply) } }

// OnBoard changes the board or panel.
func OnBoard(f func(*job.Board)) Change { return func(j *job.Job) { f(&j.Survey.Board) } }

// OnPlace changes the place of the first point.
func OnPlace(f func(*job.Place)) Change { return func(j *job.Job) { f(&j.Survey.Places[0]) } }

// OnCircuit changes the circuit of the first point.
func OnCircuit(f func(*job.Circuit)) Change { return func(j *job.Job) { f(&j.Design.Circuits[0]) } }

// OnRoute gives the first point another route.
func OnRoute(segments ...job.Segment) Change {
	return OnPlace(func(p *job.Place) { p.Route = segments })
}

// Both makes several changes, one after the other.
func Both(changes ...Change) Change {
	return func(j *job.Job) {
		for _, c := range changes {
			c(j)
		}
	}
}

// Calibrated gives the readings of a test an instrument with a last day.
func Calibrated(test, until string) Change {
	return func(j *job.Job) {
		for i := range j.Log {
			if j.Log[i].Subject == test {
				j.Log[i].Calibrated = until
			}
		}
	}
}

// Paper returns the paper with the id.
func Paper(j *job.Job, id string) *job.Paper {
	return &j.Clearances.Papers[slices.IndexFunc(j.Clearances.Papers, func(p job.Paper) bool { return p.ID == id })]
}

// Example reads a published example job.
func Example(t testing.TB, path string) job.Job {
	t.Helper()
	b, err := os.ReadFile(path)
	if err != nil {
		t.Fatal(err)
	}
	j, err := job.Read(b)
	if err != nil {
		t.Fatal(err)
	}
	return j
}

// Run checks every case against a fresh copy of the job, and that every rule
// of the job's rulebook has a case that is not sound.
func Run(t *testing.T, base job.Job, cases []Case) {
	t.Helper()
	challenged := Rows(t, base, cases)
	book, err := rulebook.For(&base)
	if err != nil {
		t.Fatal(err)
	}
	for _, r := range book.Rules {
		if !challenged[r.ID] {
			t.Errorf("no case makes rule %s anything but sound", r.ID)
		}
	}
}

// Rows checks every case against a fresh copy of the job, each in a subtest of its
// own name, and returns the rules that some case makes anything but sound.
func Rows(t *testing.T, base job.Job, cases []Case) map[string]bool {
	t.Helper()
	original, err := json.Marshal(base)
	if err != nil {
		t.Fatal(err)
	}
	challenged := map[string]bool{}
	for _, c := range cases {
		switch c.Verdict {
		case rulebook.Open, rulebook.Stop, rulebook.Watch:
			challenged[c.Rule] = true
		}
		t.Run(c.Name, func(t *testing.T) {
			var j job.Job
			if err := json.Unmarshal(original, &j); err != nil {
				t.Fatal(err)
			}
			c.Change(&j)
			findings, err := rulebook.Check(&j)
			if err != nil {
				t.Fatal(err)
			}
			i := slices.IndexFunc(findings, func(f rulebook.Finding) bool { return f.Rule == c.Rule })
			if i < 0 {
				if c.Verdict != "" {
					t.Errorf("rule %s says nothing, want %s", c.Rule, c.Verdict)
				}
				return
			}
			f := findings[i]
			if said := f.Working + f.Missing + f.Remedy; f.Verdict != c.Verdict || !strings.Contains(said, c.Says) {
				t.Errorf("rule %s says %s, %q; want %s, %q", c.Rule, f.Verdict, said, c.Verdict, c.Says)
			}
		})
	}
	return challenged
}

// Shared checks that a job is judged alike by another edition, but for the rules that
// are named.
func Shared(t *testing.T, j job.Job, edition string, but ...string) {
	t.Helper()
	judged := func(id string) map[string]rulebook.Verdict {
		j.Rulebook = id
		j.Log = slices.DeleteFunc(slices.Clone(j.Log), func(e job.Entry) bool { return e.Kind == job.SignedOff }) // the signature names its edition
		findings, err := rulebook.Check(&j)
		if err != nil {
			t.Fatal(err)
		}
		out := map[string]rulebook.Verdict{}
		for _, f := range findings {
			if !slices.Contains(but, f.Rule) {
				out[f.Rule+" "+f.Point] = f.Verdict
			}
		}
		return out
	}
	if here, there := judged(j.Rulebook), judged(edition); !maps.Equal(here, there) {
		t.Errorf("the editions differ in more than %v:\n%v\n%v", but, here, there)
	}
}

// Log removes the entries about a subject and, where value is not empty, puts
// one of the kind in their place.
func Log(j *job.Job, kind job.EntryKind, point, subject, value string) {
	var like job.Entry
	j.Log = slices.DeleteFunc(j.Log, func(e job.Entry) bool {
		if e.Kind == kind && e.Subject == subject {
			like = e
			return true
		}
		return false
	})
	if value == "" {
		return
	}
	if like.ID == "" {
		like = j.Log[len(j.Log)-1]
		like.ID = "test-" + subject
	}
	like.Kind, like.Point, like.Subject, like.Value = kind, point, subject, value
	j.Log = append(j.Log, like)
}

// SwitchedOn writes into a log that everything was switched off and proved dead from a
// time, and switched on at another.
func SwitchedOn(j *job.Job, off, on time.Time) {
	at := off
	add := func(kind job.EntryKind, subject, value string) {
		at = at.Add(time.Second)
		j.Log = append(j.Log, job.Entry{ID: fmt.Sprintf("proof-%04d", len(j.Log)), Kind: kind, Subject: subject, Value: value, At: at, By: "K. Osei"})
	}
	add(job.StepDone, worklog.MainOff, "lock 3, K. Osei")
	add(job.StepDone, worklog.CoverOff, "")
	add(job.ReadingMade, worklog.SourceBefore, "238")
	if book, err := rulebook.For(j); err == nil {
		for _, p := range book.In.Install.Pairs(&j.Survey.Supply) {
			add(job.ReadingMade, worklog.DeadPair+p, "0")
		}
	}
	add(job.ReadingMade, worklog.SourceAfter, "238")
	at = on
	add(job.StepDone, worklog.Energise, "K. Osei, T. Brandt")
}

// Twice returns a change that puts a second point like the first beside it, then
// changes the design.
func Twice(f func(*job.Design)) func(*job.Job) {
	return func(j *job.Job) {
		p, c := j.Survey.Places[0], j.Design.Circuits[0]
		p.Point, c.Point = "B", "B"
		j.Survey.Places = append(j.Survey.Places, p)
		j.Design.Circuits = append(j.Design.Circuits, c)
		f(&j.Design)
	}
}

// Read returns a change that sets the reading of a test on point A; an empty
// value takes the reading away.
func Read(test, value string) func(*job.Job) {
	return func(j *job.Job) { Log(j, job.ReadingMade, "A", test, value) }
}

// Celsius returns a temperature that a segment can hold.
func Celsius(t float64) *quantity.Celsius { c := quantity.Celsius(t); return &c }

// Arranged checks the verdicts of answers to decisions of point A, by their
// titles, and that each says which clause it is judged by.
func Arranged(t *testing.T, j *job.Job, want map[string]verdict.Verdict) {
	t.Helper()
	list, err := rulebook.Arrange(j, "A")
	if err != nil {
		t.Fatal(err)
	}
	got := map[string]rulebook.Judged{}
	for _, d := range list {
		for _, a := range d.Answers {
			got[a.Title] = a
		}
	}
	for title, verdict := range want {
		a, ok := got[title]
		if !ok || a.Verdict != verdict || len(a.Says) == 0 {
			t.Errorf("%s: %s (%t), %v; want %s", title, a.Verdict, ok, a.Says, verdict)
		}
	}
}
