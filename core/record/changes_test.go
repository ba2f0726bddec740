package record_test

import (
	"strings"
	"testing"

	"dogbolt/core/job"
	"dogbolt/core/record"
	"dogbolt/core/rulebook"
)

// TestChanges: an issue says line by line what differs from the one before, with both values, and
// which findings are judged otherwise; signatures and papers alone are no amendment.
func TestChanges(t *testing.T) {
	for _, c := range []struct {
		name   string
		change func(*record.Record)
		want   []string // what: was → now
		amends bool
	}{
		{"nothing", func(*record.Record) {}, nil, false},
		{"a serial number", func(r *record.Record) { r.Job.Design.Circuits[0].Charger.Serial = "WU-0010" },
			[]string{"Serial number (design, circuit A, charger): WU-0001 → WU-0010"}, true},
		{"the firm's address", func(r *record.Record) { r.Contractor.Address = "12 Wharf Street" }, []string{"Contractor: "}, true},
		{"a reading", func(r *record.Record) {
			r.Job.Log = append(r.Job.Log, job.Entry{ID: "again-0001", Kind: job.ReadingMade, Point: "A", Subject: "zs", Value: "0.61", Unit: "Ω", By: "K. Osei"})
		}, []string{"Logged: Earth loop at the charger, Zs, A:  → 0.61 Ω, K. Osei"}, true},
		{"a step that was taken back", func(r *record.Record) {
			k := r.Job.Log[0]
			for _, e := range r.Job.Log {
				if e.Kind == job.StepDone && e.Subject == "labels" {
					k = e
				}
			}
			r.Job.Log = append(r.Job.Log, job.Entry{ID: "back-0001", Kind: job.TakenBack, Point: k.Point, Subject: k.Subject, Replaces: k.ID, By: "K. Osei", Reason: "not yet"})
		}, []string{"Logged: taken back, "}, true},
		{"a signature", func(r *record.Record) {
			r.Job.Log = append(r.Job.Log, job.Entry{ID: "sign-0001", Kind: job.SignedOff, Subject: "design", By: "M. Farrant"})
		}, []string{"Logged: signature, design:  → "}, false},
		{"a paper after the seal", func(r *record.Record) {
			r.Job.Log = append(r.Job.Log, job.Entry{ID: "paper-001", Kind: job.PaperMoved, Subject: "operator", Value: "sent", Day: "2026-05-12", By: "Office"})
		}, []string{"Logged: Network operator: notice:  → sent, "}, false},
		{"a finding", func(r *record.Record) {
			r.Findings = append([]rulebook.Line{}, r.Findings...)
			r.Findings[0].Verdict = "stop"
		}, []string{"Finding: "}, false},
	} {
		was, now := sample(t, "uk-pass.json"), sample(t, "uk-pass.json")
		c.change(&now)
		now.Job.Index()
		list, err := record.Changes(&was, &now)
		if err != nil {
			t.Fatal(err)
		}
		if len(list) != len(c.want) || record.Amends(list) != c.amends {
			t.Errorf("%s: amends %v: %+v", c.name, record.Amends(list), list)
			continue
		}
		for i, l := range list {
			if got := l.What + ": " + l.Was + " → " + l.Now; !strings.HasPrefix(got, c.want[i]) {
				t.Errorf("%s: %q, want %q", c.name, got, c.want[i])
			}
		}
		now.Issue, now.Replaces, now.Changes = 2, "8b63fe951194ae83ffff", list
		if text := all(record.Inspection(&now)); len(list) > 0 && !strings.Contains(text, "What differs from the issue before") {
			t.Errorf("%s: it is not printed", c.name)
		}
	}
}
