package books_test

import (
	"testing"

	"dogbolt/core/clearance"
	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/rulebook"
)

// TestAfter: how long papers after the work may take. Great Britain: 28 days for the form to the
// network operator (common practice of the operators, from memory), 30 for the notice to building
// control (Building Regulations 2010, regulation 20). United States: 180 days of a permit (IRC
// R105.5, from memory). Each is about a paper that the country proposes, names its source, and says
// what happens when it is late.
func TestAfter(t *testing.T) {
	want := map[string]clearance.Statutory{
		"uk operator":         {Days: 28, From: clearance.FromSwitchingOn},
		"uk building-control": {Days: 30, From: clearance.FromCompletion},
		"us final":            {Days: 180, From: clearance.FromSwitchingOn, Asked: true},
	}
	seen := 0
	for _, in := range jurisdiction.All() {
		proposed := map[string]bool{}
		for _, b := range rulebook.All() {
			if b.In.ID == in.ID {
				for _, p := range b.NewPapers(&job.Job{Rulebook: b.ID}) {
					proposed[p.ID] = true
				}
			}
		}
		for _, s := range in.After {
			w, ok := want[in.ID+" "+s.Paper]
			if seen++; !ok || s.Days != w.Days || s.From != w.From || s.Asked != w.Asked {
				t.Errorf("%s %s: %s, asked for %v", in.ID, s.Paper, s.Says(), s.Asked)
			}
			if s.Source == "" || s.Late == "" || !proposed[s.Paper] {
				t.Errorf("%s %s: source %q, late %q, proposed %v", in.ID, s.Paper, s.Source, s.Late, proposed[s.Paper])
			}
		}
	}
	if seen != len(want) {
		t.Errorf("%d papers have days, want %d", seen, len(want))
	}
}
