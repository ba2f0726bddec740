package record

import (
	"strings"
	"testing"
	"time"

	"dogbolt/core/job"
)

// TestInUnit: a unit stands once, what was typed in another is told in the one that is asked for.
func TestInUnit(t *testing.T) {
	for _, c := range []struct{ entered, unit, want string }{
		{"0.10", "Ω", "0.10 Ω"}, {">999", "MΩ", ">999 MΩ"}, {"0.74 kA", "kA", "0.74 kA"}, {"24", "ms", "24 ms"},
		{"1100 A", "kA", "1.1 kA (entered as 1100 A)"}, {"1200 mΩ", "Ω", "1.2 Ω (entered as 1200 mΩ)"}, {"200k", "MΩ", "0.2 MΩ (entered as 200k)"},
		{">2 GΩ", "MΩ", ">2000 MΩ (entered as >2 GΩ)"}, {"LIM", "MΩ", "LIM"}, {"correct", "", "correct"}, {"", "V", "not recorded"}, {"3.1.0", "", "3.1.0"},
		{"200 Wh", "kWh", "200 Wh"}, {"0.2", "kWh", "0.2 kWh"}, {"0.2 kWh", "kWh", "0.2 kWh"}, {"not in 5 s", "s", "not in 5 s"}, {"0 V", "V", "0 V"},
	} {
		if got := inUnit(c.entered, c.unit); got != c.want {
			t.Errorf("%q in %q: %q, want %q", c.entered, c.unit, got, c.want)
		}
	}
}

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
