package rooms

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"testing"
	"time"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/internal/rooms/firm"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/store"
)

// between is a database of which something is seen after each write transaction.
type between struct {
	jobs.Store
	n    int
	then func(n int)
}

func (b *between) Write(ctx context.Context, f func(*store.Tx) error) error {
	err := b.Store.Write(ctx, f)
	b.n++
	b.then(b.n)
	return err
}

// TestJudgedBeforeItIsKept: a section that is saved is tried and judged before the database
// is locked to keep it; the trial leaves nothing behind, and what others saved meanwhile counts.
func TestJudgedBeforeItIsKept(t *testing.T) {
	design := func(v jobs.View, rating quantity.Ampere) []byte {
		d := v.Job.Design
		d.Circuits = slices.Clone(d.Circuits)
		d.Circuits[0].Breaker.Rating = rating
		return section(t, d)
	}
	for _, c := range []struct {
		name   string
		change func(a *Rooms, v jobs.View) error // meanwhile
	}{
		{"nobody", func(*Rooms, jobs.View) error { return nil }},
		{"the survey", func(a *Rooms, v jobs.View) error {
			s := v.Job.Survey
			s.Supply.Rating = 40
			_, err := a.Jobs.SaveSection(ctx, surveyor, v.Summary.ID, job.SurveySection, jobs.Edit{Seen: v.Revisions["survey"], Body: section(t, s)})
			return err
		}},
		{"the rulebook's edition", func(a *Rooms, v jobs.View) error {
			_, err := a.Jobs.SetRulebook(ctx, surveyor, v.Summary.ID, v.Job.Rulebook)
			return err
		}},
	} {
		t.Run(c.name, func(t *testing.T) {
			a := newApp(t)
			v := imported(t, a, "uk-pass.json")
			before, err := a.Jobs.Audit(ctx, office, v.Summary.ID)
			if err != nil {
				t.Fatal(err)
			}
			seen := &between{Store: a.store, then: func(n int) {
				if n > 1 {
					return
				}
				now, err := a.Jobs.Open(ctx, office, v.Summary.ID)
				audit, err2 := a.Jobs.Audit(ctx, office, v.Summary.ID)
				if err != nil || err2 != nil || now.State != v.State || len(audit) != len(before) {
					t.Errorf("the trial left something: %v %v, %d lines of the audit, before %d", err, err2, len(audit), len(before))
				}
				if err := c.change(a, v); err != nil {
					t.Error(err)
				}
			}}
			opened, err := a.Jobs.Open(ctx, office, v.Summary.ID)
			if err != nil {
				t.Fatal(err)
			}
			v = opened
			got, err := jobs.New(seen, a.now, a.Firm).SaveSection(ctx, surveyor, v.Summary.ID, job.DesignSection, jobs.Edit{Seen: v.Revisions["design"], Body: design(v, 16)})
			if err != nil {
				t.Fatal(err)
			}
			if seen.n != 2 {
				t.Errorf("%d transactions: it is tried, judged, and kept", seen.n)
			}
			now, err := a.Jobs.Open(ctx, office, v.Summary.ID)
			if err != nil {
				t.Fatal(err)
			}
			if now.Job.Design.Circuits[0].Breaker.Rating != 16 {
				t.Errorf("breaker %v", now.Job.Design.Circuits[0].Breaker.Rating)
			}
			for _, x := range []struct {
				what string
				a, b any
			}{{"findings", got.Findings, now.Findings}, {"job", got.Job, now.Job}, {"revisions", got.Revisions, now.Revisions}, {"row", got.Summary, now.Summary}} {
				one, _ := json.Marshal(x.a)
				two, _ := json.Marshal(x.b)
				if string(one) != string(two) {
					t.Errorf("%s of the answer:\n%s\nof the job opened anew:\n%s", x.what, one, two)
				}
			}
		})
	}
}

// TestOpenedAsItIsNow: a job that nobody changed is judged anew where the time, or what the
// firm settles, made another of it.
func TestOpenedAsItIsNow(t *testing.T) {
	a := newApp(t)
	id := atTheBoard(t, a)
	marks := map[string]string{}
	for _, c := range []struct {
		at     string
		sleep  float64 // h, settled before
		proved bool
	}{{"09:20", 0, true}, {"09:30", 0, true}, {"15:00", 0, false}, {"09:30", 0, true}, {"10:30", 0.5, false}, {"10:30", 0, true}} {
		if err := a.Firm.SetPolicy(ctx, office, firm.Policy{SleepHours: c.sleep}); err != nil {
			t.Fatal(err)
		}
		a.now = clock("2026-05-04T" + c.at + ":00Z")
		v, err := a.Jobs.Open(ctx, office, id)
		if err != nil || v.Isolation.Proved != c.proved {
			t.Errorf("at %s, silent for %g h at most: proved %t, %v", c.at, c.sleep, v.Isolation.Proved, err)
		}
		mark := fmt.Sprint(c.sleep, c.proved)
		if before, ok := marks[mark]; ok && before != v.State {
			t.Errorf("at %s the mark is %s, of the same it was %s", c.at, v.State, before)
		}
		marks[mark] = v.State
	}
	if len(marks) != 3 || marks["0 true"] == marks["0 false"] || marks["0 false"] == marks["0.5 false"] {
		t.Errorf("%v", marks)
	}
}

// TestJudgedAsItWasTried: the judgement that is kept is the one from before the lock, as the
// time that it was made at shows, unless the job became another.
func TestJudgedAsItWasTried(t *testing.T) {
	for _, c := range []struct {
		name   string
		moved  bool
		proved bool
	}{{"nobody came between", false, true}, {"a section came between", true, false}} {
		t.Run(c.name, func(t *testing.T) {
			a := newApp(t)
			id := atTheBoard(t, a)
			v, err := a.Jobs.Open(ctx, office, id)
			if err != nil {
				t.Fatal(err)
			}
			tried, asked := false, 0
			now := func() time.Time { // once the change was tried it is asked once before the lock, then under it
				if tried {
					asked++
				}
				if asked > 1 {
					return onDay("15:00") // too late for the proof of dead
				}
				return onDay("09:20")
			}
			seen := &between{Store: a.store, then: func(n int) {
				if tried = n == 1; tried && c.moved {
					site := v.Job.Site
					site.Phone = "00000 555 0199"
					if _, err := a.Jobs.SaveSection(ctx, surveyor, id, job.SiteSection, jobs.Edit{Seen: v.Revisions["site"], Body: section(t, site)}); err != nil {
						t.Error(err)
					}
				}
			}}
			got, err := jobs.New(seen, now, a.Firm).SaveSection(ctx, surveyor, id, job.DesignSection, jobs.Edit{Seen: v.Revisions["design"], Body: section(t, v.Job.Design)})
			if err != nil || got.Isolation.Proved != c.proved {
				t.Errorf("judged under the lock: %t, should be %t, %v", !got.Isolation.Proved, c.moved, err)
			}
		})
	}
}

// section is a section as it is sent.
func section(t *testing.T, part any) []byte {
	t.Helper()
	b, err := json.Marshal(part)
	if err != nil {
		t.Fatal(err)
	}
	return b
}
