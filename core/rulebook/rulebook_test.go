package rulebook_test

import (
	"encoding/json"
	"math"
	"os"
	"strings"
	"testing"

	"dogbolt/core/books/uk"
	"dogbolt/core/books/us"
	"dogbolt/core/demand"
	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/quantity"
	"dogbolt/core/route"
	"dogbolt/core/rulebook"
	"dogbolt/core/schema"
	"dogbolt/internal/testkit/fullplan"
	"dogbolt/internal/testkit/ruletest"
)

const examples = "../../docs/formats/examples/"

func check(t testing.TB, j *job.Job) []rulebook.Finding {
	t.Helper()
	f, err := rulebook.Check(j)
	if err != nil {
		t.Fatal(err)
	}
	return f
}

// TestExamples: the passing examples pass, the failing ones fail for the
// reasons that they were made for.
func TestExamples(t *testing.T) {
	for name, want := range map[string][]string{
		"uk-pass.json": nil, "us-pass.json": nil,
		"uk-fail.json": {"in-iz", "open-pen"},
		"us-fail.json": {"coupling-height", "terminal-ampacity"},
	} {
		t.Run(name, func(t *testing.T) {
			j := ruletest.Example(t, examples+name)
			var stops []string
			for _, f := range check(t, &j) {
				if f.Verdict == rulebook.Stop {
					stops = append(stops, f.Rule)
				}
				if want == nil && f.Verdict == rulebook.Open {
					t.Errorf("%s: %s is open: %s", name, f.Rule, f.Missing)
				}
			}
			if strings.Join(stops, " ") != strings.Join(want, " ") {
				t.Errorf("%s stops at %v, want %v", name, stops, want)
			}
		})
	}
}

// TestNothingUnknownIsSound: of an empty job, no rule about the job's own
// facts may say that it meets; what is not known is open.
func TestNothingUnknownIsSound(t *testing.T) {
	for _, id := range []string{uk.ID, us.ID} {
		j := job.Job{Format: job.Format, Number: "1", Rulebook: id, Survey: job.Survey{Places: []job.Place{{Point: "A"}}}, Design: job.Design{Circuits: []job.Circuit{{Point: "A"}}}}
		for _, f := range check(t, &j) {
			if f.Verdict != rulebook.Open && f.Rule != "points" {
				t.Errorf("%s: nothing is known, and %s says %s: %s", id, f.Rule, f.Verdict, f.Working)
			}
			if f.Verdict == rulebook.Open && f.Missing == "" {
				t.Errorf("%s: %s is open and does not say what is missing", id, f.Rule)
			}
		}
	}
}

// TestTakingAwayNeverMakesSound: leaving out any one field of a passing job
// never turns a finding that was not sound into a sound one, and something
// that a rule needs turns open.
func TestTakingAwayNeverMakesSound(t *testing.T) {
	for _, name := range []string{"uk-fail.json", "us-fail.json"} {
		j := ruletest.Example(t, examples+name)
		before := map[string]rulebook.Verdict{}
		for _, f := range check(t, &j) {
			before[f.Rule+f.Point] = f.Verdict
		}
		raw, err := json.Marshal(j)
		if err != nil {
			t.Fatal(err)
		}
		var doc map[string]any
		if err := json.Unmarshal(raw, &doc); err != nil {
			t.Fatal(err)
		}
		for _, section := range []string{"supply", "board", "dwelling"} {
			part := doc["survey"].(map[string]any)[section].(map[string]any)
			for field, old := range part {
				delete(part, field)
				b, _ := json.Marshal(doc)
				part[field] = old
				var less job.Job
				if err := json.Unmarshal(b, &less); err != nil {
					t.Fatal(err)
				}
				for _, f := range check(t, &less) {
					was := before[f.Rule+f.Point]
					if f.Verdict == rulebook.Sound && (was == rulebook.Open || was == rulebook.Stop) && f.Rule != "demand" && f.Rule != "loads" {
						t.Errorf("%s without %s.%s: %s turns from %s to sound", name, section, field, f.Rule, was)
					}
				}
			}
		}
	}
}

// TestRulesAreComplete: every rule has what its doc comment promises.
func TestRulesAreComplete(t *testing.T) {
	if len(rulebook.All()) < 4 {
		t.Fatalf("%d rulebooks, two editions of two countries are wanted", len(rulebook.All()))
	}
	for _, b := range rulebook.All() {
		seen := map[string]bool{}
		for _, r := range b.Rules {
			if r.ID == "" || r.Title == "" || r.Clause == "" || r.Stage == "" || r.Check == nil || len(r.Fields) == 0 {
				t.Errorf("%s: rule %+v lacks something", b.ID, r.ID)
			}
			if seen[r.ID] {
				t.Errorf("%s: rule %s is there twice", b.ID, r.ID)
			}
			seen[r.ID] = true
			if strings.Contains(strings.ToLower(r.Title), "safe") {
				t.Errorf("%s: %s says safe", b.ID, r.ID)
			}
		}
		if len(b.NewPapers(&job.Job{})) == 0 || b.Name == "" || b.In.ID == "" {
			t.Errorf("%s lacks papers or a name", b.ID)
		}
	}
}

func TestUnknownRulebook(t *testing.T) {
	if _, err := rulebook.Check(&job.Job{Rulebook: "nec:1897"}); err == nil || !strings.Contains(err.Error(), "nec:1897") {
		t.Errorf("%v", err)
	}
}

// TestOverride: a qualified person's reason lets a stop be sealed; a fixed
// rule takes no override.
func TestOverride(t *testing.T) {
	j := ruletest.Example(t, examples+"uk-fail.json")
	j.Design.Circuits[0].RCD.Fitted = job.No
	for _, rule := range []string{"in-iz", "rcd"} {
		j.Log = append(j.Log, job.Entry{ID: "override-" + rule, Kind: job.Overridden, Point: "A", Subject: rule, By: "A. Nakagawa", Reason: "loft insulation is lifted along the run"})
	}
	for _, f := range check(t, &j) {
		switch f.Rule {
		case "in-iz":
			if f.Verdict != rulebook.Stop || f.Blocks() || f.OverriddenBy != "A. Nakagawa" {
				t.Errorf("in-iz: %+v", f)
			}
		case "rcd":
			if !f.Blocks() || f.OverriddenBy != "" || !f.Fixed {
				t.Errorf("rcd: %+v", f)
			}
		}
	}
}

func TestLimits(t *testing.T) {
	for _, c := range []struct {
		name   string
		f      rulebook.Finding
		want   rulebook.Verdict
		margin float64
	}{
		{"well below", rulebook.AtMost(1, 2, "A", "", "r"), rulebook.Sound, 0.5},
		{"thin", rulebook.AtMost(1.95, 2, "A", "", "r"), rulebook.Watch, 0.025},
		{"equal", rulebook.AtMost(2, 2, "A", "", "r"), rulebook.Watch, 0},
		{"equal is as good", rulebook.AtMost(2, 2, "A", "", "r").Exactly(), rulebook.Sound, 0},
		{"above", rulebook.AtMost(2.1, 2, "A", "", "r"), rulebook.Stop, -0.05},
		{"binary fraction at the limit", rulebook.AtMost(0.1+0.2, 0.3, "A", "", "r").Exactly(), rulebook.Sound, 0},
		{"at least, equal", rulebook.AtLeast(60, 60, "A", "", "r"), rulebook.Sound, 0},
		{"at least, below", rulebook.AtLeast(55, 60, "A", "", "r"), rulebook.Stop, -1.0 / 12},
	} {
		t.Run(c.name, func(t *testing.T) {
			if c.f.Verdict != c.want || math.Abs(c.f.Margin().V-c.margin) > 1e-9 {
				t.Errorf("%s: %s, margin %g; want %s, %g", c.name, c.f.Verdict, c.f.Margin().V, c.want, c.margin)
			}
			if c.f.Verdict == rulebook.Stop && c.f.Remedy != "r" || c.f.Verdict == rulebook.Sound && c.f.Remedy != "" {
				t.Errorf("%s: remedy %q", c.name, c.f.Remedy)
			}
		})
	}
}

func TestJudge(t *testing.T) {
	r, _ := quantity.ParseReading("LIM", "Ω")
	f := rulebook.Judge(r.AtMost(1), r, rulebook.Number{}, rulebook.Num(1), "w", "r")
	if f.Verdict != rulebook.Open || f.Value.Set || !strings.Contains(f.Missing, "LIM") {
		t.Errorf("%+v", f)
	}
}

func TestLines(t *testing.T) {
	f := rulebook.AtMost(0.584, 1.0925, "Ω", "working", "remedy")
	f.Rule, f.Point, f.Fields = "zs", "B", []string{"survey.places.{p}.route"}
	first := rulebook.Meets("x")
	first.Point = "A"
	lines := rulebook.Lines([]rulebook.Finding{first, f})
	l := lines[1]
	if l.Value != "0.58 Ω" || l.Limit != "≤ 1.09 Ω" || l.Margin != "47 %" || l.Fields[0] != "survey.places.1.route" || *l.Bar.High != 1.0925 || l.Bar.Low != nil {
		t.Errorf("%+v", l)
	}
	band := rulebook.Finding{Low: rulebook.Num(216.2), High: rulebook.Num(253), Value: rulebook.Num(238), Unit: "V"}
	if l := rulebook.Lines([]rulebook.Finding{band})[0]; l.Limit != "216.2 V to 253 V" || l.Value != "238 V" {
		t.Errorf("%+v", l)
	}
	if l := rulebook.Lines([]rulebook.Finding{rulebook.Missing("one reading").Against(rulebook.Num(1), rulebook.Number{}, "MΩ")})[0]; l.Limit != "≥ 1 MΩ" || l.Value != "" {
		t.Errorf("%+v", l)
	}
}

func TestSpine(t *testing.T) {
	f := func(s job.Stage, v rulebook.Verdict) rulebook.Finding { return rulebook.Finding{Stage: s, Verdict: v} }
	accepted := f(job.StageCommission, rulebook.Stop)
	accepted.OverriddenBy = "A. Nakagawa"
	bolts := rulebook.Spine([]rulebook.Finding{
		f(job.StageSurvey, rulebook.Sound), f(job.StageDesign, rulebook.Stop), f(job.StageDesign, rulebook.Open), f(job.StageClearances, rulebook.Open),
		f(job.StagePlan, rulebook.Open), f(job.StagePlan, rulebook.Sound), f(job.StageInstall, rulebook.Watch), accepted,
	})
	want := []rulebook.SpineState{rulebook.Tight, rulebook.Cross, rulebook.Hollow, rulebook.Part, rulebook.Eyed, rulebook.Eyed, rulebook.Tight}
	for i, b := range bolts {
		if b.State != want[i] || b.Stage != job.Stages[i] {
			t.Errorf("%s: %s, want %s", b.Stage, b.State, want[i])
		}
	}
	if s := rulebook.CurrentStage(bolts); s != job.StageDesign {
		t.Errorf("current stage %s", s)
	}
}

// twoPoints doubles the point of an example.
func twoPoints(t testing.TB, name string) job.Job {
	j := ruletest.Example(t, examples+name)
	p, c := j.Survey.Places[0], j.Design.Circuits[0]
	p.Point, c.Point = "B", "B"
	j.Survey.Places = append(j.Survey.Places, p)
	j.Design.Circuits = append(j.Design.Circuits, c)
	return j
}

func TestTwoPointsAreJudgedApart(t *testing.T) {
	j := twoPoints(t, "uk-pass.json")
	j.Design.Circuits[1].Cable.Size = "2.5 mm²"
	for _, f := range check(t, &j) {
		if f.Rule == "in-iz" && (f.Verdict == rulebook.Stop) != (f.Point == "B") {
			t.Errorf("point %s: %s", f.Point, f.Verdict)
		}
	}
}

func benchmarkCheck(b *testing.B, name string) {
	j := twoPoints(b, name)
	b.ReportAllocs()
	for b.Loop() {
		if _, err := rulebook.Check(&j); err != nil {
			b.Fatal(err)
		}
	}
}

func BenchmarkCheckUK(b *testing.B) { benchmarkCheck(b, "uk-pass.json") }
func BenchmarkCheckUS(b *testing.B) { benchmarkCheck(b, "us-pass.json") }

// TestFrees: two showers of 9.5 kW at 230 V count 41.3 A each in the diversity
// sum (OSG appendix A, from memory); a measured demand frees nothing.
func TestFrees(t *testing.T) {
	j := ruletest.Example(t, "../../docs/formats/examples/uk-pass.json")
	j.Design.DemandMethod, j.Survey.Supply.PeakDemand = "diversity", 0
	j.Survey.Loads = []job.Load{{Kind: job.Lighting, Amps: 6}, {Kind: job.Shower, Name: "shower", Power: 9500}, {Kind: job.Shower, Name: "guest shower", Power: 8500}}
	got := rulebook.Frees(&j)
	if len(got) != 3 || got[0].Name != "shower" || math.Abs(float64(got[0].Amps)-41.3) > 0.05 || got[2].Name != "lighting" {
		t.Errorf("frees: %+v", got)
	}
	j.Survey.Supply.PeakDemand, j.Survey.Supply.PeakDays, j.Design.DemandMethod = 24, 30, ""
	if got := rulebook.Frees(&j); len(got) != 0 {
		t.Errorf("measured: %+v", got)
	}
}

// TestSources: every rule says where its numbers come from.
func TestSources(t *testing.T) {
	for _, b := range rulebook.All() {
		for _, r := range b.Rules {
			if r.Numbers == "" {
				t.Errorf("%s: %s does not say where its numbers come from", b.ID, r.ID)
			}
		}
	}
}

// TestRefusedValues: what was judged without a value that is refused is open, and what
// has nothing to do with it stays.
func TestRefusedValues(t *testing.T) {
	for field, want := range map[string]map[string]rulebook.Verdict{
		"survey.loads[0]":                {"loads": rulebook.Open, "demand": rulebook.Open, "in-iz": rulebook.Sound},
		"survey.places[0].route[1].wall": {"loads": rulebook.Sound, "route": rulebook.Open},
		"site.town":                      {"loads": rulebook.Sound, "demand": rulebook.Sound},
	} {
		t.Run(field, func(t *testing.T) {
			data, err := os.ReadFile("../../docs/formats/examples/uk-pass.json")
			if err != nil {
				t.Fatal(err)
			}
			j, err := job.Read(data)
			if err != nil {
				t.Fatal(err)
			}
			j.Refused = []schema.Refused{{Field: field, Value: "1", Why: "a word that there is not"}}
			findings, err := rulebook.Check(&j)
			if err != nil {
				t.Fatal(err)
			}
			for _, f := range findings {
				if v, ok := want[f.Rule]; ok && f.Verdict != v {
					t.Errorf("%s refused: %s is %s, want %s", field, f.Rule, f.Verdict, v)
				}
			}
			if last := findings[len(findings)-1]; last.Rule != "refused-value" || last.Verdict != rulebook.Open || last.Fields[0] != field {
				t.Errorf("%s: %+v", field, last)
			}
		})
	}
}

// TestTooFullAPlan: a plan that takes too long to find the cords' ways is not judged, and the
// finding says so instead of counting it as reached.
func TestTooFullAPlan(t *testing.T) {
	j := ruletest.Example(t, examples+"uk-pass.json")
	full := fullplan.Of(true)
	j.Survey.SitePlan, j.Survey.Vehicles, j.Survey.Places[0].Position = full.SitePlan, full.Vehicles, "A"
	j.Design.Circuits[0].Charger.CordLength = 7.5
	for _, f := range check(t, &j) {
		if f.Rule == "cord-reach" {
			if f.Verdict != rulebook.Watch || !strings.Contains(f.Working, "too much on it") {
				t.Errorf("%s: %s %s", f.Rule, f.Verdict, f.Working)
			}
			return
		}
	}
	t.Error("no finding about the cord")
}

// TestLabelsAmongTheParts: the line of the labels says each by its text, as it is printed.
func TestLabelsAmongTheParts(t *testing.T) {
	for _, c := range []struct {
		name  string
		in    *jurisdiction.Jurisdiction
		lines []string
	}{
		{"uk-pass.json", uk.Practice, []string{"circuit chart at the board: Charging point A. B40 A, 6 mm²", "isolator of point A: Charging point A. isolator, all live conductors"}},
		{"us-pass.json", us.Practice, []string{"circuit directory of the panel: EV charger A. space"}},
	} {
		j := ruletest.Example(t, examples+c.name)
		var says []string
		for _, p := range rulebook.PartsOf(c.in, &j, demand.Result{}, route.Default) {
			if p.Name == route.LabelSet {
				says = p.Says
			}
		}
		for _, line := range c.lines {
			if !strings.Contains(strings.Join(says, "\n"), line) {
				t.Errorf("%s: no %q among %q", c.name, line, says)
			}
		}
	}
}
