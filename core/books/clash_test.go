package books_test

import (
	"strings"
	"testing"
	"time"

	"dogbolt/core/assess"
	"dogbolt/core/job"
	"dogbolt/internal/testkit/ruletest"
)

// TestClash: where one rule wants a breaker larger than another allows, the one that wants more says
// so, once; where a value meets both, nobody does, whatever is chosen. NEC 210.20(A), 240.4(B): 48 A × 1.25 =
// 60 A, 10 AWG ends at 30 A (240.4(D)); BS 7671 433.1.1 and table 4D2, method C: 2.5 mm² carries
// 28 A, × 0.94 at 35 °C by table 4B1 (from memory).
func TestClash(t *testing.T) {
	for _, c := range []struct {
		name, file string
		change     func(*job.Circuit)
		want       string
	}{
		{"uk, as it is", "uk-pass", func(*job.Circuit) {}, ""},
		{"uk, a breaker that is too large for the cable", "uk-pass", func(c *job.Circuit) { c.Breaker.Rating = 63 }, ""},
		{"uk, a cable that is too small for the setting", "uk-pass", func(c *job.Circuit) { c.Cable.Size = "2.5 mm²" }, "at least 32 A is asked by “Breaker not below the load”, at most 26.32 A allowed"},
		{"us, as it is", "us-pass", func(*job.Circuit) {}, ""},
		{"us, a breaker that is too small", "us-pass", func(c *job.Circuit) { c.Breaker.Rating = 50 }, ""},
		{"us, conductors that are too small for the setting", "us-pass", func(c *job.Circuit) { c.Cable.Size = "10 AWG" }, "at least 60 A is asked by “Breaker at 125 % of the setting”, at most 30 A allowed"},
	} {
		t.Run(c.name, func(t *testing.T) {
			j := ruletest.Example(t, "../../docs/formats/examples/"+c.file+".json")
			c.change(&j.Design.Circuits[0])
			a, _, err := assess.Of(&j, &assess.WorkPolicy{}, time.Date(2026, 6, 1, 9, 0, 0, 0, time.UTC))
			if err != nil {
				t.Fatal(err)
			}
			said := map[string]int{}
			for _, l := range a.Lines {
				if l.Clash != "" {
					said[l.Clash]++
					if !strings.Contains(l.Clash, c.want) || c.want == "" {
						t.Errorf("%s: %s", l.Rule, l.Clash)
					}
				}
			}
			if (c.want != "") != (len(said) == 1) {
				t.Errorf("said %v, want %q", said, c.want)
			}
			for why, n := range said {
				if n != 1 {
					t.Errorf("%q is said by %d rules", why, n)
				}
			}
		})
	}
}
