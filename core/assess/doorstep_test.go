package assess

import (
	"strings"
	"testing"

	"dogbolt/core/charger"
	"dogbolt/core/job"
	"dogbolt/core/loadmgmt"
	"dogbolt/core/verdict"
	"dogbolt/internal/testkit/ruletest"
)

// TestTold: what a customer is told of a position that was measured follows from the survey's
// findings, the ceilings, the cord and the firm's prices; nothing that is open counts as yes.
func TestTold(t *testing.T) {
	for _, c := range []struct {
		name    string
		change  func(*job.Job, *WorkPolicy)
		verdict verdict.Verdict
		says    string
		cord    string
		price   loadmgmt.Band
	}{
		// 3 m over the ground + 1.1 m drop + 0.8 m rise (usual inlet) + 0.5 m slack.
		{"all known", func(*job.Job, *WorkPolicy) {}, verdict.Sound, "yes, up to 32", "takes a cord of 5.4 m, the longest of yours has 7.5 m", loadmgmt.Band{Low: 840, High: 1250}},
		{"a short run", func(j *job.Job, _ *WorkPolicy) { j.Survey.SitePlan.Positions[0].Run = 6 }, verdict.Sound, "yes", "5.4 m", loadmgmt.Band{Low: 800, High: 1150}},
		{"no price set", func(_ *job.Job, h *WorkPolicy) { h.Costs = nil }, verdict.Sound, "yes", "5.4 m", loadmgmt.Band{}},
		{"no run", func(j *job.Job, _ *WorkPolicy) { j.Survey.SitePlan.Positions[0].Run = 0 }, verdict.Sound, "yes", "5.4 m", loadmgmt.Band{}},
		{"cord not measured", func(j *job.Job, _ *WorkPolicy) { j.Survey.SitePlan.Positions[0].Cord = 0 }, verdict.Open, "depends on one question", "not measured yet", loadmgmt.Band{Low: 840, High: 1250}},
		{"no vehicle", func(j *job.Job, _ *WorkPolicy) { j.Survey.Vehicles = nil }, verdict.Open, "depends on", "no vehicle yet", loadmgmt.Band{Low: 840, High: 1250}},
		{"service not known", func(j *job.Job, _ *WorkPolicy) { j.Survey.Supply.Rating = 0 }, verdict.Open, "depends on", "5.4 m", loadmgmt.Band{Low: 840, High: 1250}},
		{"gas not bonded", func(j *job.Job, _ *WorkPolicy) { j.Survey.Bonding.Gas = job.NotBonded }, verdict.Stop, "not as it is: ", "5.4 m", loadmgmt.Band{Low: 840, High: 1250}},
		{"gas not asked", func(j *job.Job, _ *WorkPolicy) { j.Survey.SitePlan.Positions[0].Gas = job.Unasked }, verdict.Open, "depends on one question", "5.4 m", loadmgmt.Band{Low: 840, High: 1250}},
		{"too near to gas", func(j *job.Job, _ *WorkPolicy) { j.Survey.SitePlan.Positions[0].Gas = job.No }, verdict.Stop, "not as it is: Position", "5.4 m", loadmgmt.Band{Low: 840, High: 1250}},
		{"nothing to spare", func(j *job.Job, _ *WorkPolicy) { j.Survey.Supply.Rating = 20 }, verdict.Stop, "not as it is: ", "5.4 m", loadmgmt.Band{Low: 840, High: 1250}},
		{"a cord of another country", func(_ *job.Job, h *WorkPolicy) { h.Types[0].Country = "us" }, verdict.Sound, "yes", "takes a cord of 5.4 m", loadmgmt.Band{Low: 840, High: 1250}},
		{"a cord of just that", func(_ *job.Job, h *WorkPolicy) { h.Types[0].Charger.CordLength = 5.4 }, verdict.Sound, "yes", "of yours has 5.4 m", loadmgmt.Band{Low: 840, High: 1250}},
		{"a cord too short", func(_ *job.Job, h *WorkPolicy) { h.Types[0].Charger.CordLength = 5.3 }, verdict.Watch, "yes", "of yours has 5.3 m", loadmgmt.Band{Low: 840, High: 1250}},
		{"the charger's own cord", func(j *job.Job, _ *WorkPolicy) { j.Design.Circuits[0].Charger.CordLength = 5 }, verdict.Watch, "yes, up to 32 A, with something to weigh", "the charger chosen has 5.0 m", loadmgmt.Band{Low: 840, High: 1250}},
		{"drawn", func(j *job.Job, _ *WorkPolicy) {
			j.Survey.SitePlan.Positions[0].At, j.Survey.SitePlan.Positions[1].At = &job.XY{}, &job.XY{}
		}, "", "", "", loadmgmt.Band{}},
	} {
		j := ruletest.Example(t, "../../docs/formats/examples/uk-pass.json")
		j.Design.Circuits = []job.Circuit{{Point: "A"}}
		j.Survey.SitePlan.Positions = []job.Position{{ID: "A", Run: 12, Cord: 3, Height: 1.1, Gas: job.Yes}, {ID: "B", Run: 12, Cord: 3, Gas: job.Yes}}
		j.Survey.Places[0].Position, j.Survey.Places[0].Why = "A", "nearer"
		h := WorkPolicy{
			Types: []charger.Type{{Country: "uk", Charger: job.Charger{CordLength: 7.5}}},
			Costs: map[string]loadmgmt.Costs{"uk": {Point: loadmgmt.Band{Low: 800, High: 1150}, Metre: loadmgmt.Band{Low: 20, High: 50}}},
		}
		c.change(&j, &h)
		a, _, err := Of(&j, &h, morning)
		if err != nil {
			t.Fatal(err)
		}
		if c.verdict == "" {
			if len(a.Told) != 0 {
				t.Errorf("%s: told %+v", c.name, a.Told)
			}
			continue
		}
		got := a.Told[0]
		if got.Verdict != c.verdict || !strings.HasPrefix(got.Says, c.says) || !strings.Contains(got.Cord, c.cord) {
			t.Errorf("%s: %+v, want %s %q %q", c.name, got, c.verdict, c.says, c.cord)
		}
		if got.Price != c.price {
			t.Errorf("%s: price %v, want %v", c.name, got.Price, c.price)
		}
	}
}

// TestToldOfEach: each position is told by its own answers, whichever was taken: one that was not
// asked about is open, one that is too near to gas stops, beside another that is neither.
func TestToldOfEach(t *testing.T) {
	for _, c := range []struct {
		name, taken string
		a, b        job.Answer
		want        [2]verdict.Verdict
	}{
		{"both clear", "A", job.Yes, job.Yes, [2]verdict.Verdict{verdict.Sound, verdict.Sound}},
		{"the other near to gas", "A", job.Yes, job.No, [2]verdict.Verdict{verdict.Sound, verdict.Stop}},
		{"the other not asked", "A", job.Yes, job.Unasked, [2]verdict.Verdict{verdict.Sound, verdict.Open}},
		{"the one taken near to gas", "A", job.No, job.Yes, [2]verdict.Verdict{verdict.Stop, verdict.Sound}},
		{"the second taken, the first not asked", "B", job.Unasked, job.Yes, [2]verdict.Verdict{verdict.Open, verdict.Sound}},
		{"none taken", "", job.Yes, job.No, [2]verdict.Verdict{verdict.Sound, verdict.Stop}},
	} {
		j := ruletest.Example(t, "../../docs/formats/examples/uk-pass.json")
		j.Survey.SitePlan.Positions = []job.Position{{ID: "A", Run: 12, Cord: 3, Gas: c.a}, {ID: "B", Run: 9, Cord: 4, Gas: c.b}}
		j.Survey.Places[0].Position, j.Survey.Places[0].Why = c.taken, "nearer"
		a, _, err := Of(&j, &WorkPolicy{}, morning)
		if err != nil {
			t.Fatal(err)
		}
		if got := [2]verdict.Verdict{a.Told[0].Verdict, a.Told[1].Verdict}; got != c.want {
			t.Errorf("%s: %v, want %v; %+v", c.name, got, c.want, a.Told)
		}
	}
}
