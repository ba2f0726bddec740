package job_test

import (
	"fmt"
	"testing"

	"dogbolt/core/job"
)

// TestPapersNow: what became of a paper after the seal stands beside what the clearances have.
// What an amendment entered of a later day stays.
func TestPapersNow(t *testing.T) {
	sent := job.Paper{ID: "notice", Needed: job.Yes, Before: job.After, Sent: "2026-05-10"}
	for _, c := range []struct {
		name  string
		was   job.Paper
		event job.PaperEvent
		day   string
		words string
		want  string // needed, sent, noticed, granted, reference, replies
	}{
		{"needed", job.Paper{ID: "notice"}, job.PaperNeeded, "2026-05-12", "the customer wants it", "yes    0"},
		{"not needed", job.Paper{ID: "notice"}, job.PaperNotNeeded, "2026-05-12", "no new circuit", "no    0"},
		{"sent", job.Paper{ID: "notice"}, job.PaperSent, "2026-05-12", "", "yes 2026-05-12   0"},
		{"acknowledged", sent, job.PaperNoticed, "2026-05-12", "N-1", "yes 2026-05-10 2026-05-12  N-1 1"},
		{"answered", sent, job.PaperAnswered, "2026-05-12", "N-2", "yes 2026-05-10  2026-05-12 N-2 1"},
		{"sent back", sent, job.PaperBack, "2026-05-12", "no demand", "yes    1"},
		{"sent back before it was sent again", job.Paper{ID: "notice", Needed: job.Yes, Sent: "2026-05-20"}, job.PaperBack, "2026-05-12", "no demand", "yes 2026-05-20   1"},
		{"sent, and answered since", job.Paper{ID: "notice", Needed: job.Yes, Sent: "2026-05-12", Granted: "2026-05-14"}, job.PaperSent, "2026-05-12", "", "yes 2026-05-12  2026-05-14 0"},
	} {
		j := job.Job{Clearances: job.Clearances{Papers: []job.Paper{{ID: "other"}, c.was}}}
		j.Log = []job.Entry{{ID: "entry-0001", Kind: job.PaperMoved, Subject: "notice", Value: string(c.event), Day: c.day, Reason: c.words}}
		j.Index()
		p, _ := j.PaperNow("notice")
		got := fmt.Sprintf("%s %s %s %s %s %d", p.Needed, p.Sent, p.Noticed, p.Granted, p.Reference, len(p.Replies))
		if p.Reference == "" {
			got = fmt.Sprintf("%s %s %s %s %d", p.Needed, p.Sent, p.Noticed, p.Granted, len(p.Replies))
		}
		if got != c.want {
			t.Errorf("%s: %q, want %q", c.name, got, c.want)
		}
		if was := j.Clearances.Papers[1]; was.Sent != c.was.Sent || len(was.Replies) != len(c.was.Replies) {
			t.Errorf("%s: the clearances themselves became %+v", c.name, was)
		}
	}
}
