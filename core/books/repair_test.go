package books_test

import (
	"slices"
	"strings"
	"testing"

	"dogbolt/core/commission"
	"dogbolt/core/inspect"
	"dogbolt/core/job"
	"dogbolt/core/rulebook"
	"dogbolt/core/worklog"
	"dogbolt/internal/testkit/ruletest"
)

// repaired is an example whose charger stays and has a part mended; what the repair spares was not read, and nothing was done that
// its plan does not have.
func repaired(t *testing.T, example string, part job.MendedPart) (*job.Job, *rulebook.Book) {
	t.Helper()
	j := ruletest.Example(t, "../../docs/formats/examples/"+example)
	c := &j.Design.Circuits[0]
	c.Existing, c.Charger.Fate, c.SPD = job.Yes, job.FateKept, job.SPDPresent
	c.Mended = job.Mended{Fault: "stops after a minute", Cause: "worn", Part: part}
	if part == job.MendedBreaker {
		c.Breaker.Fate = job.FateReplaced
	}
	b, err := rulebook.For(&j)
	if err != nil {
		t.Fatal(err)
	}
	plan := b.In.Install.Plan(&j)
	j.Log = slices.DeleteFunc(j.Log, func(e job.Entry) bool {
		switch e.Kind {
		case job.ReadingMade:
			if strings.HasPrefix(e.Subject, worklog.DeadPair) {
				return !slices.ContainsFunc(plan, func(s worklog.Step) bool { return s.ID == worklog.ProveDead })
			}
			in, optional := b.In.Tests.In(c, e.Subject)
			return !in || optional
		case job.StepDone:
			return !slices.ContainsFunc(plan, func(s worklog.Step) bool { return s.ID == e.Subject })
		case job.TorqueMade:
			return len(b.In.Install.Terminals(j.Points()[0])) == 0
		}
		return false
	})
	return &j, b
}

// TestRepairTestsWhatItTouched: of a repair nothing is open or stopped in installing and testing while what it does not touch was
// not read; what was read all the same is judged; and a device changed on the way brings all tests of the circuit back. Which tests
// a repair asks is common practice, no source: the charger's own after any, the loop, polarity, insulation and residual device of
// its circuit where it was opened, all where wiring or a device was touched.
func TestRepairTestsWhatItTouched(t *testing.T) {
	asked := map[string]map[job.MendedPart]string{ // how many tests are asked, and one that is not
		"uk-pass.json": {
			job.MendedSetting: commission.Zs, job.MendedSoftware: commission.Zs,
			job.MendedCord: commission.R1R2, job.MendedContactor: commission.Ze, job.MendedBoard: commission.Bonding,
		},
		"us-pass.json": {
			job.MendedSetting: commission.HotHot, job.MendedSoftware: commission.Ground,
			job.MendedCord: commission.Ground, job.MendedContactor: commission.Ground, job.MendedBoard: commission.Ground,
		},
	}
	for example, spared := range asked {
		for _, word := range job.MendedPart("").Values() {
			part := job.MendedPart(word)
			t.Run(example+" "+word, func(t *testing.T) {
				j, b := repaired(t, example, part)
				findings, err := rulebook.Check(j)
				if err != nil {
					t.Fatal(err)
				}
				for _, f := range findings {
					late := f.Stage == job.StageInstall || f.Stage == job.StageCommission
					if late && (f.Verdict == rulebook.Open || f.Verdict == rulebook.Stop) && f.Rule != "inspected" && f.Rule != "charger-notes" {
						t.Errorf("%s: %s %s", f.Rule, f.Missing, f.Working)
					}
				}
				test := spared[part]
				if test == "" {
					for _, x := range b.In.Tests.Sequence(j.Design.Circuits[0]) {
						if usual, _ := b.In.Tests.Find(x.ID); x.Spared && !usual.Optional {
							t.Errorf("%s is spared", x.ID)
						}
					}
					return
				}
				rule := test
				if test == commission.Bonding {
					rule = "bonding-continuity"
				}
				if f := of(t, j, rule); f.Verdict != "" {
					t.Errorf("%s is asked: %+v", test, f)
				}
				ruletest.Read(test, "900")(j)
				if f := of(t, j, rule); f.Verdict != rulebook.Stop {
					t.Errorf("%s read as 900 Ω: %+v", test, f)
				}
				ruletest.Log(j, job.ReadingMade, "A", test, "")
				ruletest.Log(j, job.Varied, "A", "breaker.rating", "20")
				if f := of(t, j, "tested-again"); f.Verdict != rulebook.Open {
					t.Errorf("a breaker was changed on the way: %+v", f)
				}
			})
		}
	}
}

// of is the finding of a rule, the zero one where it is not asked.
func of(t *testing.T, j *job.Job, rule string) rulebook.Finding {
	t.Helper()
	findings, err := rulebook.Check(j)
	if err != nil {
		t.Fatal(err)
	}
	i := slices.IndexFunc(findings, func(f rulebook.Finding) bool { return f.Rule == rule })
	if i < 0 {
		return rulebook.Finding{}
	}
	return findings[i]
}

// TestSettingOpensNothing: the repair of a setting has no step that switches off, opens or closes, no torque and no dead test; one that
// also replaces a device, or that is one of two points of which another is opened, has them.
func TestSettingOpensNothing(t *testing.T) {
	for _, example := range []string{"uk-pass.json", "us-pass.json"} {
		j, b := repaired(t, example, job.MendedSetting)
		var ids []string
		for _, s := range b.In.Install.Plan(j) {
			ids = append(ids, s.ID)
		}
		if want := []string{worklog.ChargerEnd, worklog.Settings, worklog.Energise}; !slices.Equal(ids, want) {
			t.Errorf("%s: steps %v, want %v", example, ids, want)
		}
		if list := b.In.Install.Terminals(j.Points()[0]); len(list) > 0 {
			t.Errorf("%s: torque of %v", example, list)
		}
		if p := j.Points()[0]; p.Circuit.Touched() != job.TouchedSetting {
			t.Errorf("%s: touched %d", example, p.Circuit.Touched())
		}
		for name, more := range map[string]func(*job.Circuit){
			"breaker":      func(c *job.Circuit) { c.Breaker.Fate = job.FateReplaced },
			"surge device": func(c *job.Circuit) { c.SPD = job.SPDFitted },
			"nothing said": func(c *job.Circuit) { c.Mended = job.Mended{} },
			"new circuit":  func(c *job.Circuit) { c.Existing, c.Charger.Fate, c.Mended = "", "", job.Mended{} },
			"isolator":     func(c *job.Circuit) { c.Isolator, c.IsolatorFate = job.Yes, job.FateReplaced },
		} {
			other := j.Design.Circuits[0]
			more(&other)
			if other.Touched() != job.TouchedAll {
				t.Errorf("%s, %s: touched %d", example, name, other.Touched())
			}
			both := *j
			other.Point = "B"
			both.Survey.Places = append(slices.Clone(j.Survey.Places), job.Place{Point: "B"})
			both.Design.Circuits = []job.Circuit{j.Design.Circuits[0], other}
			plan := b.In.Install.Plan(&both)
			has := func(id, point string) bool {
				return slices.ContainsFunc(plan, func(s worklog.Step) bool { return s.ID == id && s.Point == point })
			}
			if !has(worklog.ProveDead, "") || !has(worklog.Lids, "") || !has(worklog.BoardWork, "B") || has(worklog.BoardWork, "A") {
				t.Errorf("%s beside %s: %+v", example, name, plan)
			}
		}
	}
}

// TestRepairLooksAtWhatItTouched: what a repair does not touch is no item of its schedule, unless somebody looked at it all the same;
// the circuit is looked at after work on it, the charger after any, and what the certificate covers is always said.
func TestRepairLooksAtWhatItTouched(t *testing.T) {
	looked := map[string]map[job.MendedPart]string{ // an item that is looked at after the repair, and not after less
		"uk-pass.json": {job.MendedSetting: "charger-sound", job.MendedContactor: "barriers", job.MendedEnd: "intake"},
		"us-pass.json": {job.MendedSetting: "unit-listed", job.MendedContactor: "panel-space", job.MendedEnd: "panel-fault"},
	}
	touches := map[job.MendedPart]job.Touched{
		"": job.TouchedAll, job.MendedEnd: job.TouchedAll, job.MendedBreaker: job.TouchedAll, job.MendedCord: job.TouchedInside,
		job.MendedBoard: job.TouchedInside, job.MendedContactor: job.TouchedInside, job.MendedSetting: job.TouchedSetting, job.MendedSoftware: job.TouchedSetting,
	}
	for example, items := range looked {
		for part, touched := range touches {
			j, b := repaired(t, example, part)
			if got := j.Touched(); got != touched {
				t.Errorf("%s %q: touched %d, want %d", example, part, got, touched)
			}
			j.Log = slices.DeleteFunc(j.Log, func(e job.Entry) bool { return e.Kind == job.Inspected })
			schedule := &b.In.Inspect
			for least, id := range items {
				asked := slices.Contains(schedule.Of(j), schedule.Find(id))
				if want := touched <= touches[least]; asked != want {
					t.Errorf("%s %q: %s is asked %v, want %v", example, part, id, asked, want)
				}
				offers := schedule.Offers(j, inspect.Known{Sound: func(string) bool { return false }, Done: func(string) bool { return false }})
				at := slices.IndexFunc(offers, func(o inspect.Offer) bool { return o.Item == id && o.Spared })
				if asked == (at >= 0) {
					t.Errorf("%s %q: %s is asked %v, offers %+v", example, part, id, asked, offers)
				}
			}
			for i := range schedule.Items {
				if i := &schedule.Items[i]; i.Words && i.Least == job.TouchedSetting && !slices.Contains(schedule.Open(j), i) {
					t.Errorf("%s %q: %s is not stated", example, part, i.ID)
				}
			}
			all := len(schedule.Items) == len(schedule.Of(j))
			if all != (touched == job.TouchedAll) {
				t.Errorf("%s %q: all of %d items are asked: %v", example, part, len(schedule.Items), all)
			}
			id := items[job.MendedEnd]
			j.Log = append(j.Log, job.Entry{ID: "look-0001", Kind: job.Inspected, Subject: id, Value: string(job.NotRight), Reason: "a burnt terminal"})
			if !slices.Contains(schedule.Of(j), schedule.Find(id)) {
				t.Errorf("%s %q: %s was looked at, and is no item", example, part, id)
			}
			j.Design.Bonds.Run = job.BondAll
			if got := j.Touched(); got != job.TouchedAll {
				t.Errorf("%s %q with bonding: touched %d", example, part, got)
			}
		}
	}
}

// TestRepairAsksItsOwn: a repair of the charger alone is not asked how its circuit was made, where the charger stands or what else the
// supply feeds; one of a setting is asked what is drawn and over which cable, since it may let more be drawn; one of terminals is asked all of it.
func TestRepairAsksItsOwn(t *testing.T) {
	blank := func(j *job.Job) {
		s, c, p := &j.Survey, &j.Design.Circuits[0], &j.Survey.Places[0]
		s.Loads, s.Vehicles, s.SitePlan, s.Dwelling, s.Bonding, s.Photos, s.Network = nil, nil, job.SitePlan{}, job.Dwelling{}, job.Bonding{}, nil, job.Network{}
		s.Supply.PeakDemand, s.Supply.FaultCurrent, s.Supply.DeclaredZe, s.Supply.Transformer = 0, 0, 0, 0
		s.Board = job.Board{Label: s.Board.Label, UpstreamRCDType: s.Board.UpstreamRCDType}
		*p = job.Place{Point: p.Point, Name: p.Name, Outdoors: p.Outdoors}
		c.Cable = job.Cable{}
		c.Charger = job.Charger{
			Fate: c.Charger.Fate, Type: c.Charger.Type, Phases: c.Charger.Phases, Rating: c.Charger.Rating, Outlet: c.Charger.Outlet, Serial: c.Charger.Serial,
			DCDetection: c.Charger.DCDetection, Listing: c.Charger.Listing,
		}
		c.SPD, c.Isolator, c.Disconnect, c.Breaker.BreakingKA = "", "", "", 0
	}
	j, b := repaired(t, "uk-pass.json", job.MendedContactor)
	blank(j)
	j.Design.Circuits[0].Breaker.Curve = "" // is no matter of how the circuit was made: the loop is judged by it
	if f := of(t, j, "certificate"); f.Verdict != rulebook.Open || !strings.Contains(f.Missing, "Type") {
		t.Errorf("the breaker's type is not known: %+v", f)
	}
	rejoins := func(j *job.Job) bool {
		return slices.ContainsFunc(b.In.Install.Plan(j), func(s worklog.Step) bool { return s.ID == worklog.Rejoin })
	}
	if rejoins(j) {
		t.Error("the earthing conductor was never off, and is joined again")
	}
	ruletest.Read(commission.Ze, "0.3")(j)
	if !rejoins(j) {
		t.Error("the loop at the origin was read all the same, and the earthing conductor stays off")
	}
	whole := ruletest.Example(t, "../../docs/formats/examples/uk-pass.json")
	if whole.Log = nil; !rejoins(&whole) {
		t.Error("on a new circuit the earthing conductor is not joined again")
	}
	// What is known all the same bears weight: a gas pipe that is not bonded is told, and stops nothing.
	j, _ = repaired(t, "uk-pass.json", job.MendedContactor)
	if f := of(t, j, "bonding"); f.Verdict != rulebook.Sound {
		t.Errorf("bonding that is there: %+v", f)
	}
	j.Survey.Bonding.Gas = job.NotBonded
	if f := of(t, j, "bonding"); f.Verdict != rulebook.Watch || !strings.Contains(f.Remedy, "tell the customer") {
		t.Errorf("a gas pipe that is not bonded: %+v", f)
	}
	j.Design.Circuits[0].Mended.Part = job.MendedEnd
	if f := of(t, j, "bonding"); f.Verdict != rulebook.Stop {
		t.Errorf("a gas pipe that is not bonded, and terminals are mended: %+v", f)
	}
	// Of what is drawn, and of what carries it: a cable that nobody knows is in nobody's favour.
	drawn := map[string][]string{"uk-pass.json": {"loads", "demand", "in-iz", "drop"}, "us-pass.json": {"loads", "demand", "terminal-ampacity", "derated-ampacity", "drop"}}
	with := []string{"vehicles", "links", "operator-route", "conductor-protection", "terminal-metal", "disconnect"}
	for _, example := range []string{"uk-pass.json", "us-pass.json"} {
		for part, open := range map[job.MendedPart][]string{
			job.MendedCord: {}, job.MendedContactor: {}, job.MendedBoard: {}, job.MendedSoftware: {}, job.MendedSetting: drawn[example],
			job.MendedEnd: append([]string{"route"}, drawn[example]...),
		} {
			j, _ := repaired(t, example, part)
			blank(j)
			findings, err := rulebook.Check(j)
			if err != nil {
				t.Fatal(err)
			}
			var got []string
			for _, f := range findings {
				if f.Verdict != rulebook.Open && f.Verdict != rulebook.Stop || strings.HasPrefix(f.Rule, "signed-") {
					continue
				}
				if got = append(got, f.Rule); part != job.MendedEnd && !slices.Contains(open, f.Rule) && (len(open) == 0 || !slices.Contains(with, f.Rule)) {
					t.Errorf("%s %s: %s asks: %s%s", example, part, f.Rule, f.Missing, f.Working)
				}
			}
			for _, rule := range open {
				if !slices.Contains(got, rule) {
					t.Errorf("%s %s: %s is not open", example, part, rule)
				}
			}
		}
	}
}
