package us

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"dogbolt/core/demand"
	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/route"
	"dogbolt/core/rulebook"
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

// TestBuildingPutRight: what was found wrong at a building of its own is bought and done, after dead is proved and before the tests;
// nothing else of it is.
func TestBuildingPutRight(t *testing.T) {
	j := ruletest.Example(t, "../../../docs/formats/examples/us-pass.json")
	four := quantity.Ampere(4)
	b := &j.Survey.Board
	b.FedFrom, b.OtherDemand, b.Outbuilding = job.FromSubMain, &four, job.Outbuilding{Apart: job.Yes, Disconnect: job.No, Electrode: job.No, Neutral: job.Yes}
	j.Design.Building = job.Building{Disconnect: job.Yes, Electrode: job.Yes, Neutral: job.Yes}
	got := map[string]float64{}
	for _, p := range Practice.Laying.TakeOff(&j, route.Default) {
		got[p.Name] = p.Quantity
	}
	if got["disconnect suitable as service equipment, 200 A"] != 1 || got["ground rod, 8 ft, with its clamp"] != 2 || got["grounding electrode conductor 6 AWG copper"] != 1 {
		t.Errorf("%v", got)
	}
	plan := work.Plan(&j)
	at := slices.IndexFunc(plan, func(s worklog.Step) bool { return s.ID == worklog.Earthing })
	if at < 0 || plan[at].Title != "Put right at the building: disconnect, grounding electrode" || !plan[at].Inside || !slices.Contains(plan[at].After, worklog.ProveDead) {
		t.Errorf("step %d of %+v", at, plan)
	}
	tests := slices.IndexFunc(plan, func(s worklog.Step) bool { return s.ID == worklog.DeadTests })
	if tests < 0 || !slices.Contains(plan[tests].After, worklog.Earthing) {
		t.Error("the dead tests do not wait for it")
	}
}

// TestMovesCarriedOut: what the panel's map finds is work: circuits move in a step of its own before the breaker goes in, doubles are
// bought for those that share a space, and the directory says where each is now (408.4(A), 408.54; from memory). A job that fitted its
// breaker before this step was known of is not asked for it.
func TestMovesCarriedOut(t *testing.T) {
	j := ruletest.Example(t, "../../../docs/formats/examples/us-pass.json")
	b := &j.Survey.Board
	free := 0
	b.Layout, b.Ways, b.WaysFree, b.FreePair, b.DoublesAt = "columns", 4, &free, job.No, []int{2, 4}
	b.Slots = []job.Slot{{At: 1, Poles: 1, Circuit: "bath", Rating: 20}, {At: 2, Poles: 1, Circuit: "hall", Rating: 15}, {At: 3, Poles: 1, Circuit: "lights", Rating: 15}, {At: 4, Poles: 1, Circuit: "den"}}
	step := func() (worklog.Step, worklog.Step, bool) {
		plan := work.Plan(&j)
		i := slices.IndexFunc(plan, func(s worklog.Step) bool { return s.ID == worklog.BoardMoves })
		at := slices.IndexFunc(plan, func(s worklog.Step) bool { return s.ID == worklog.BoardWork })
		if i < 0 {
			return worklog.Step{}, plan[at], false
		}
		return plan[i], plan[at], i < at
	}
	log := j.Log
	j.Log = nil
	moves, fitted, before := step()
	if !before || !moves.Inside || !strings.Contains(moves.Detail, "bath from 1 to 2, on a double with hall; lights from 3 to 4, on a double with den") ||
		!slices.Contains(moves.After, worklog.ProveDead) || !slices.Contains(fitted.After, worklog.BoardMoves) || !strings.Contains(fitted.Detail, "In 1 and 3 of the map") {
		t.Errorf("%+v before %+v", moves, fitted)
	}
	var bought []string
	for _, p := range Practice.Laying.TakeOff(&j, route.Default) {
		bought = append(bought, p.Name)
	}
	for _, name := range []string{"double breaker of half width, 20 A and 15 A, for bath and hall", "double breaker of half width, 15 A and not recorded, for lights and den"} {
		if !slices.Contains(bought, name) {
			t.Errorf("%s is not among %v", name, bought)
		}
	}
	said := fmt.Sprint(labels(rulebook.FactsOf(Practice, &j, demand.Result{})))
	for _, line := range []string{"bath space 2, moved from 1", "lights space 4, moved from 3"} {
		if !strings.Contains(said, line) {
			t.Errorf("the directory does not say %q: %s", line, said)
		}
	}
	if j.Log = log; len(log) > 0 {
		if _, _, asked := step(); asked {
			t.Error("a job whose breaker is in is asked for moves")
		}
	}
	if _, done := j.Latest(job.StepDone, "A", worklog.BoardWork); !done {
		t.Error("the example's breaker is not in")
	}
}
