package demo

import (
	"slices"
	"testing"
	"time"

	"dogbolt/core/quantity"
	"dogbolt/core/reach"
	"dogbolt/core/rulebook"
)

var noon = time.Date(2026, 5, 4, 12, 0, 0, 0, time.UTC)

// TestWholeJobs: the two jobs that show everything have complete surveys, but
// for the photos that are added when the demo starts, and nothing that stops.
func TestWholeJobs(t *testing.T) {
	for _, b := range []*builder{wholeUK(ukJob("DB-1", site("A", "B", "C", "D"), noon)), wholeUS(usJob("DB-2", site("A", "B", "C", "D"), noon))} {
		j := &b.Job
		if errs := j.Validate(); len(errs) > 0 {
			t.Fatalf("%s: %v", j.Number, errs)
		}
		if errs := reach.Problems(&j.Survey); len(errs) > 0 {
			t.Errorf("%s: %v", j.Number, errs)
		}
		for _, s := range b.in.Survey.Of(&j.Survey, nil).Sections {
			if s.ID != "photos" && s.Done != s.Total {
				t.Errorf("%s: section %s is %d of %d", j.Number, s.ID, s.Done, s.Total)
			}
		}
		site := reach.On(&j.Survey)
		for _, r := range site.Compare(j.Survey.Places[0].Position, j.Design.Circuits[0].Charger.CordLength, reach.Limits{}, func(quantity.Metre) (float64, bool) { return 0, false }) {
			if r.Chosen && r.Verdict == "stop" {
				t.Errorf("%s: the chosen position has against it: %v", j.Number, r.Against)
			}
		}
		findings, err := rulebook.Check(j)
		if err != nil {
			t.Fatal(err)
		}
		for _, f := range findings {
			if f.Verdict == rulebook.Stop {
				t.Errorf("%s: %s stops: %s", j.Number, f.Rule, f.Working)
			}
		}
	}
}

// BenchmarkCheckWhole checks a job with a board map, a site plan with two
// vehicles, and a route, whose rules work geometry out.
func BenchmarkCheckWhole(b *testing.B) {
	for name, j := range map[string]*builder{"UK": wholeUK(ukJob("DB-1", site("A", "B", "C", "D"), noon)), "US": wholeUS(usJob("DB-2", site("A", "B", "C", "D"), noon))} {
		b.Run(name, func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				if _, err := rulebook.Check(&j.Job); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}

// TestBuiltJobs: the jobs on which installing and testing show everything have
// nothing that stops, and open only what is still to be read.
func TestBuiltJobs(t *testing.T) {
	for _, c := range []struct {
		b    *builder
		open []string
	}{
		{threePhase(ukJob("DB-1001", site("A", "B", "C", "D"), noon)), []string{"dc-trip", "pilot", "functions", "open-neutral", "schedule", "start-delay", "load-management", "charger-notes", "inspected", "certificate", "signed-design", "signed-construction", "signed-testing", "scheduler"}},
		{pluggedIn(usJob("DB-1002", site("A", "B", "C", "D"), noon)), []string{"signed-design", "signed-construction", "signed-testing", "scheduler"}},
	} {
		j := &c.b.Job
		if errs := j.Validate(); len(errs) > 0 {
			t.Fatalf("%s: %v", j.Number, errs)
		}
		findings, err := rulebook.Check(j)
		if err != nil {
			t.Fatal(err)
		}
		for _, f := range findings {
			if f.Verdict == rulebook.Stop || f.Verdict == rulebook.Open && !slices.Contains(c.open, f.Rule) {
				t.Errorf("%s: %s is %s: %s %s", j.Number, f.Rule, f.Verdict, f.Working, f.Missing)
			}
		}
	}
}

// TestNothingToCome: whenever the demo is begun, its logs lie in the past.
func TestNothingToCome(t *testing.T) {
	for _, hour := range []int{0, 7, 9, 11, 12, 13, 14, 20} {
		now := time.Date(2026, 5, 4, hour, 30, 0, 0, time.UTC)
		for _, d := range demoJobs(now) {
			for _, e := range d.Log {
				if e.At.After(now) {
					t.Errorf("begun at %d:30, %s logs %s at %v", hour, d.Number, e.Subject, e.At)
					break
				}
			}
		}
	}
}
