package record

import (
	"strings"
	"testing"
	"time"

	"dogbolt/core/job"
)

// TestSiteClock: times are told by the clock of the site, with the letters of its zone, days as
// its country writes them; older records name no zone and are told by UTC.
func TestSiteClock(t *testing.T) {
	noon := time.Date(2026, 7, 4, 23, 30, 0, 0, time.UTC)
	for _, c := range []struct{ rulebook, zone, moment, day string }{
		{"bs7671:2018+A2:2022", "Europe/London", "5 Jul 2026 00:30 BST", "4 Jul 2026"},
		{"nec:2023", "America/Phoenix", "Jul 4, 2026 16:30 MST", "Jul 4, 2026"},
		{"nec:2023", "", "Jul 4, 2026 23:30 UTC", "Jul 4, 2026"},
	} {
		b := build(&Record{Zone: c.zone, Job: job.Job{Rulebook: c.rulebook}}, "")
		if got := b.moment(noon); got != c.moment {
			t.Errorf("%s: %q, want %q", c.zone, got, c.moment)
		}
		if got := b.day("2026-07-04"); got != c.day {
			t.Errorf("%s: %q, want %q", c.rulebook, got, c.day)
		}
	}
}

// TestNoRawWords: every word of a design that a record tells has a text of its own.
func TestNoRawWords(t *testing.T) {
	check := func(kind string, values []string, said func(string) string) {
		for _, v := range values {
			if s := said(v); s == v && strings.Contains(v, "-") || s == "" {
				t.Errorf("%s %q is told as %q", kind, v, s)
			}
		}
	}
	check("open-PEN", job.OpenPEN("").Values(), func(v string) string { return job.OpenPEN(v).Said() })
	check("surge", job.SPD("").Values(), func(v string) string { return job.SPD(v).Said() })
	check("earth", job.EarthBy("").Values(), func(v string) string { return job.EarthBy(v).Said() })
	check("photo", job.PhotoKind("").Values(), func(v string) string { return job.PhotoKind(v).Said() })
}
