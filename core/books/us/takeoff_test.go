package us

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"dogbolt/core/job"
	"dogbolt/core/worklog"
	"dogbolt/internal/testkit/ruletest"
)

// TestHoles: each cutter lies within the limits of its knock-out (NEMA OS 1, in,
// from memory).
func TestHoles(t *testing.T) {
	limits := map[string][2]float64{"½": {0.859, 0.906}, "¾": {1.094, 1.141}, "1": {1.359, 1.406}, "1¼": {1.719, 1.766}}
	if len(limits) != len(tradeHoles) {
		t.Fatalf("%d of %d sizes", len(limits), len(tradeHoles))
	}
	for size, l := range limits {
		whole, num, den := 0.0, 0.0, 1.0
		if _, err := fmt.Sscanf(tradeHoles[size], "%f %f/%f", &whole, &num, &den); err != nil {
			if _, err := fmt.Sscanf(tradeHoles[size], "%f/%f", &num, &den); err != nil {
				t.Fatal(err)
			}
			whole = 0
		}
		if in := whole + num/den; in < l[0] || in > l[1] {
			t.Errorf("trade %s: %s in is not within %v", size, tradeHoles[size], l)
		}
	}
}

// TestFraming: a cable through framing gets a step of its own, with the distance of
// NEC 300.4(A)(1), and one in the ground names what it needs where it comes up,
// 300.5(D)(1).
func TestFraming(t *testing.T) {
	j := ruletest.Example(t, "../../../docs/formats/examples/us-pass.json")
	for method, want := range map[job.Method]string{job.StudWall: "1¼ in", job.Buried: "18 in below ground to 8 ft above"} {
		j.Survey.Places[0].Route = []job.Segment{{Method: method, Length: 6, Wet: job.No}}
		plan := work.Plan(&j)
		i := slices.IndexFunc(plan, func(s worklog.Step) bool { return s.ID == worklog.OnWay+string(method) })
		if i < 0 || !strings.Contains(plan[i].Detail, want) {
			t.Errorf("%s: %q is in no step", method, want)
		}
	}
}
