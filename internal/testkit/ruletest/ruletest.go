// Package ruletest checks rules by changing one thing of a job that meets them
// all.
package ruletest

import (
	"encoding/json"
	"fmt"
	"maps"
	"os"
	"slices"
	"strings"
	"testing"
	"time"

	"dogbolt/core/demand"
	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/quantity"
	"dogbolt/core/rulebook"
	"dogbolt/core/verdict"
	"dogbolt/core/worklog"
)

// Case is one change and what a rule must say of it.
type Case struct {
	Name    string
	Change  Change
	Rule    string
	Verdict rulebook.Verdict // "" where the rule must not apply
	Says    string           // part of the working, the missing or the remedy
}

// Change is what a case changes in the job.
type Change = func(*job.Job)

// OnSupply changes the supply.
func OnSupply(f func(*job.Supply)) Change { return func(j *job.Job) { f(&j.Survey.Supply) } }

// OnBoard changes the board or panel.
func OnBoard(f func(*job.Board)) Change { return func(j *job.Job) { f(&j.Survey.Board) } }

// OnPlace changes the place of the first point.
func OnPlace(f func(*job.Place)) Change { return func(j *job.Job) { f(&j.Survey.Places[0]) } }

// OnCircuit changes the circuit of the first point.
func OnCircuit(f func(*job.Circuit)) Change { return func(j *job.Job) { f(&j.Design.Circuits[0]) } }

// OnRoute gives the first point another route.
// A temperature or a company that a segment leaves out is 30 °C, or two loaded
// conductors alone.
func OnRoute(segments ...job.Segment) Change {
	return OnPlace(func(p *job.Place) { p.Route = Known(segments) })
}

// Known fills in the conditions that segments leave out, see OnRoute.
func Known(segments []job.Segment) []job.Segment {
	out := slices.Clone(segments)
	for i := range out {
		g := &out[i]
		if g.Ambient == nil {
			g.Ambient = Celsius(30)
			if g.Method == job.Buried {
				g.Ambient = Celsius(20)
			}
		}
		if g.Grouped == 0 {
			g.Grouped = 1
		}
		if g.Wires == 0 {
			g.Wires = 2
		}
	}
	return out
}

// Both makes several changes, one after the other.
func Both(changes ...Change) Change {
	return func(j *job.Job) {
		for _, c := range changes {
			c(j)
		}
	}
}

// Calibrated gives the readings of a test an instrument with a last day.
func Calibrated(test, until string) Change {
	return func(j *job.Job) {
		for i := range j.Log {
			if j.Log[i].Subject == test {
				j.Log[i].Calibrated = until
			}
		}
	}
}

// Paper returns the paper with the id.
func Paper(j *job.Job, id string) *job.Paper {
	return &j.Clearances.Papers[slices.IndexFunc(j.Clearances.Papers, func(p job.Paper) bool { return p.ID == id })]
}

// Example reads a published example job.
func Example(t testing.TB, path string) job.Job {
	t.Helper()
	b, err := os.ReadFile(path)
	if err != nil {
		t.Fatal(err)
	}
	j, err := job.Read(b)
	if err != nil {
		t.Fatal(err)
	}
	return j
}

// Run checks every case against a fresh copy of the job, and that every rule
// of the job's rulebook has a case that is not sound.
func Run(t *testing.T, base job.Job, cases []Case) {
	t.Helper()
	challenged := Rows(t, base, cases)
	book, err := rulebook.For(&base)
	if err != nil {
		t.Fatal(err)
	}
	for _, r := range book.Rules {
		if !challenged[r.ID] {
			t.Errorf("no case makes rule %s anything but sound", r.ID)
		}
	}
}

// Offered checks what a rule offers on a job, by the titles.
func Offered(t *testing.T, j *job.Job, rule string, want ...string) {
	t.Helper()
	list, err := rulebook.Check(j)
	if err != nil {
		t.Fatal(err)
	}
	var offered []string
	for _, f := range list {
		if f.Rule == rule {
			for _, o := range f.Offers {
				offered = append(offered, o.Title)
			}
		}
	}
	if !slices.Equal(offered, want) {
		t.Errorf("%s offers %v, want %v", rule, offered, want)
	}
}

// Certified checks what a country's certificate of a job says, by the titles of its lines.
func Certified(t *testing.T, in *jurisdiction.Jurisdiction, j *job.Job, want map[string]string) {
	t.Helper()
	facts, said := rulebook.FactsOf(in, j, demand.Result{}), map[string]string{}
	for _, g := range in.CertificateOf(j).Groups {
		for _, c := range g.Lines {
			if c.Only == nil || c.Only(facts) {
				said[c.Title] = c.Says(facts)
			}
		}
	}
	for title, w := range want {
		if said[title] != w {
			t.Errorf("the certificate says of %s %q, want %q", title, said[title], w)
		}
	}
}

// takeable takes over whatever a finding offers, into the design as it is and into one of which nothing is there yet: what comes of it
// is a document that the program keeps, and the finding stops no more.
func takeable(t *testing.T, j *job.Job, f *rulebook.Finding) {
	t.Helper()
	for _, offer := range f.Offers {
		bare := *j
		bare.Design = job.Design{}
		for _, from := range []*job.Job{j, &bare} {
			with, _, err := offer.Apply(from, f.Point)
			if err != nil {
				t.Errorf("“%s” of %s: %v", offer.Title, f.Rule, err)
				continue
			}
			if errs := with.Check(); len(errs) > 0 {
				t.Errorf("“%s” of %s: %v", offer.Title, f.Rule, errs)
			}
			after, err := rulebook.Check(&with)
			if err != nil || slices.ContainsFunc(after, func(o rulebook.Finding) bool {
				return o.Rule == f.Rule && o.Point == f.Point && o.Verdict == rulebook.Stop && from == j
			}) {
				t.Errorf("“%s” of %s was taken over, and it stops still: %v", offer.Title, f.Rule, err)
			}
		}
	}
}

// Rows checks every case against a fresh copy of the job, each in a subtest of its
// own name, and returns the rules that some case makes anything but sound.
func Rows(t *testing.T, base job.Job, cases []Case) map[string]bool {
	t.Helper()
	original, err := json.Marshal(base)
	if err != nil {
		t.Fatal(err)
	}
	challenged := map[string]bool{}
	for _, c := range cases {
		switch c.Verdict {
		case rulebook.Open, rulebook.Stop, rulebook.Watch:
			challenged[c.Rule] = true
		}
		t.Run(c.Name, func(t *testing.T) {
			var j job.Job
			if err := json.Unmarshal(original, &j); err != nil {
				t.Fatal(err)
			}
			c.Change(&j)
			findings, err := rulebook.Check(&j)
			if err != nil {
				t.Fatal(err)
			}
			i := slices.IndexFunc(findings, func(f rulebook.Finding) bool { return f.Rule == c.Rule })
			if i < 0 {
				if c.Verdict != "" {
					t.Errorf("rule %s says nothing, want %s", c.Rule, c.Verdict)
				}
				return
			}
			f := findings[i]
			takeable(t, &j, &f)
			if l := rulebook.Lines(findings[i : i+1])[0]; f.Verdict == rulebook.Stop && l.Value != "" && strings.TrimLeft(l.Limit, "≤≥ ") == l.Value {
				t.Errorf("rule %s refuses %s against %s", c.Rule, l.Value, l.Limit)
			}
			if said := f.Working + f.Missing + f.Remedy; f.Verdict != c.Verdict || !strings.Contains(said, c.Says) {
				t.Errorf("rule %s says %s, %q; want %s, %q", c.Rule, f.Verdict, said, c.Verdict, c.Says)
			}
		})
	}
	return challenged
}

// Shared checks that a job is judged alike by another edition, but for the rules that
// are named.
func Shared(t *testing.T, j job.Job, edition string, but ...string) {
	t.Helper()
	judged := func(id string) map[string]rulebook.Verdict {
		j.Rulebook = id
		j.Log = slices.DeleteFunc(slices.Clone(j.Log), func(e job.Entry) bool { return e.Kind == job.SignedOff }) // the signature names its edition
		findings, err := rulebook.Check(&j)
		if err != nil {
			t.Fatal(err)
		}
		out := map[string]rulebook.Verdict{}
		for _, f := range findings {
			if !slices.Contains(but, f.Rule) {
				out[f.Rule+" "+f.Point] = f.Verdict
			}
		}
		return out
	}
	if here, there := judged(j.Rulebook), judged(edition); !maps.Equal(here, there) {
		t.Errorf("the editions differ in more than %v:\n%v\n%v", but, here, there)
	}
}

// Log removes the entries about a subject and, where value is not empty, puts
// one of the kind in their place.
func Log(j *job.Job, kind job.EntryKind, point, subject, value string) {
	var like job.Entry
	j.Log = slices.DeleteFunc(j.Log, func(e job.Entry) bool {
		if e.Kind == kind && e.Subject == subject {
			like = e
			return true
		}
		return false
	})
	if value == "" {
		return
	}
	if like.ID == "" {
		like = j.Log[len(j.Log)-1]
		like.ID = "test-" + subject
	}
	like.Kind, like.Point, like.Subject, like.Value = kind, point, subject, value
	j.Log = append(j.Log, like)
}

// CommonEdges are cases at the edges of the rules that every country shares, on a job
// of one phase that meets them all.
func CommonEdges() []Case {
	limit := func(kind job.LinkKind, a quantity.Ampere) Change {
		return OnBoard(func(b *job.Board) { b.Links = []job.Link{{Kind: kind, Rating: a}} })
	}
	onSub := func(other *quantity.Ampere) Change {
		return OnBoard(func(b *job.Board) { b.FedFrom, b.OtherDemand = job.FromSubMain, other })
	}
	four := quantity.Ampere(4)
	return []Case{
		{"customer and address", func(*job.Job) {}, "customer", rulebook.Sound, ""},
		{"no customer", func(j *job.Job) { j.Site.Customer = " " }, "customer", rulebook.Open, "customer's name"},
		{"no address", func(j *job.Job) { j.Site.Street, j.Site.Town = "", "" }, "customer", rulebook.Open, "street, town"},
		{"phases of the charger not known", OnCircuit(func(c *job.Circuit) { c.Charger.Phases = 0 }), "phases", rulebook.Open, "phases of the charger"},
		{"phases of the supply not known", OnSupply(func(s *job.Supply) { s.Phases = 0 }), "phases", rulebook.Open, "phases of the supply"},
		{"three phases on one", OnCircuit(func(c *job.Circuit) { c.Charger.Phases = 3 }), "phases", rulebook.Stop, "3 phases on a supply of 1"},
		{"poles not known", OnCircuit(func(c *job.Circuit) { c.Breaker.Poles = 0 }), "phases", rulebook.Open, "poles"},
		{"a breaker of three poles for one phase", OnCircuit(func(c *job.Circuit) { c.Breaker.Poles = 3 }), "phases", rulebook.Stop, "breaker: 3"},
		{"two poles for three phases", Both(OnSupply(func(s *job.Supply) { s.Phases = 3 }), OnCircuit(func(c *job.Circuit) { c.Charger.Phases, c.Breaker.Poles = 3, 2 })), "phases", rulebook.Stop, "breaker: 2"},
		{"two loaded conductors for three phases", Both(OnSupply(func(s *job.Supply) { s.Phases = 3 }), OnCircuit(func(c *job.Circuit) {
			c.Charger.Phases, c.Breaker.Poles, c.Cable.Loaded = 3, 3, 2
		})), "phases", rulebook.Stop, "count three"},
		{"every link carries the demand", func(*job.Job) {}, "links", rulebook.Sound, "main switch or busbar"},
		{"solar that stops with the grid", source(job.Second{Kind: job.FeedsIn, Isolator: "the loft"}, ""), "second-source", rulebook.Sound, "switched off: the loft"},
		{"another service", source(job.Second{Kind: job.OtherService, Isolator: "the annexe"}, ""), "second-source", rulebook.Sound, "no part of this job"},
		{"another service, its main switch not known", source(job.Second{Kind: job.OtherService}, ""), "second-source", rulebook.Open, "switched off"},
		{"backed up by another service", source(job.Second{Kind: job.OtherService, Isolator: "the annexe"}, job.BackedSide), "second-source", rulebook.Stop, "take one of both back"},
		{"a second source of which nothing is known", source(job.Second{}, ""), "second-source", rulebook.Open, "what the second source does"},
		{"no isolator known", source(job.Second{Kind: job.FeedsIn}, ""), "second-source", rulebook.Open, "where the second source is switched off"},
		{"none, and one is told", Both(source(battery, job.BackedSide), OnSupply(func(s *job.Supply) { s.OtherSource = job.No })), "second-source", rulebook.Stop, "there is none"},
		{"a point behind one that nobody looked for", Both(source(job.Second{}, job.BackedSide), OnSupply(func(s *job.Supply) { s.OtherSource = "" })), "second-source", rulebook.Open, "whether there is"},
		{"which side is not said", source(battery, ""), "second-source", rulebook.Open, "which side"},
		{"off when the grid is out", source(job.Second{Kind: job.BacksUp, Isolator: "the loft"}, job.GridSide), "second-source", rulebook.Sound, "off when the grid is out"},
		{"backed up by solar alone", source(job.Second{Kind: job.FeedsIn, Isolator: "the loft"}, job.BackedSide), "second-source", rulebook.Stop, "goes on when the grid is out"},
		{"backed up, within the source", source(battery, job.BackedSide), "second-source", rulebook.Sound, "+ 12 A besides"},
		{"backed up, just within the source", behind(battery, func(s *job.Second, draws float64) { s.Rating = quantity.Ampere(draws + 12) }), "second-source", rulebook.Sound, ""},
		{"backed up, an ampere too much", behind(battery, func(s *job.Second, draws float64) { s.Rating = quantity.Ampere(draws + 11) }), "second-source", rulebook.Stop, "set the charger lower"},
		{"what it gives is not known", behind(battery, func(s *job.Second, _ float64) { s.Rating = 0 }), "second-source", rulebook.Open, "give for hours"},
		{"what it carries is not known", behind(battery, func(s *job.Second, _ float64) { s.Other = 0 }), "second-source", rulebook.Open, "besides charging"},
		{"its earth is not known", behind(battery, func(s *job.Second, _ float64) { s.Earthed = "" }), "second-source", rulebook.Open, "an earth of its own"},
		{"joined to no earth", behind(battery, func(s *job.Second, _ float64) { s.Earthed = job.No }), "second-source", rulebook.Stop, "does not open"},
		{"the setting behind it is not known", Both(source(battery, job.BackedSide), OnCircuit(func(c *job.Circuit) { c.Setting = 0 })), "second-source", rulebook.Open, "setting of every point"},
		{"on an inverter of its own", source(job.Second{Kind: job.Apart, Isolator: "the barn"}, job.ApartSide), "second-source", rulebook.Stop, "not judged here"},
		{"beside an inverter of its own", source(job.Second{Kind: job.Apart, Isolator: "the barn"}, job.GridSide), "second-source", rulebook.Sound, "off when the grid is out"},
		{"with the grid out, not tried", source(battery, job.BackedSide), "grid-out", rulebook.Open, "one answer"},
		{"with the grid out, both", Both(source(battery, job.BackedSide), Read("grid-out", "both")), "grid-out", rulebook.Sound, ""},
		{"with the grid out, it does not open", Both(source(battery, job.BackedSide), Read("grid-out", "not both")), "grid-out", rulebook.Stop, "grid alone"},
		{"main switch not read", OnBoard(func(b *job.Board) { b.Rating = 0 }), "links", rulebook.Open, "main switch or busbar"},
		{"a board of 40 A on a large service", OnBoard(func(b *job.Board) { b.Rating = 40 }), "links", rulebook.Stop, "40 A is the least"},
		{"a residual device of 40 A ahead of it", limit(job.ResidualLink, 40), "links", rulebook.Stop, "the residual device"},
		{"a link that was not read", limit(job.Tails, 0), "links", rulebook.Open, "rating of the tails"},
		{"a link of 200 A", limit(job.Tails, 200), "links", rulebook.Sound, ""},
		{"a sub-main whose board's demand is not known", onSub(nil), "links", rulebook.Open, "without charging"},
		{"a sub-main whose device is not known", onSub(&four), "links", rulebook.Open, "the device that the sub-main hangs on"},
		{"a sub-main whose cable is known, and not its device", Both(onSub(&four), limit(job.FeederCable, 200)), "links", rulebook.Open, "the device that the sub-main hangs on"},
		{"a board on the service has nothing ahead but its fuse", func(*job.Job) {}, "in-turn", "", ""},
		{"a breaker behind one of its own rating", onFeeder(1), "in-turn", rulebook.Watch, "goes dark"},
		{"a breaker behind one of four times its rating", onFeeder(4), "in-turn", rulebook.Sound, "makers' tables"},
		{"a breaker behind a device that was not read", onFeeder(0), "in-turn", rulebook.Open, "rating of the device"},
		{"no breaker behind a sub-main's", Both(onFeeder(4), OnCircuit(func(c *job.Circuit) { c.Breaker.Rating = 0 })), "in-turn", rulebook.Open, "breaker rating"},
		{"a breaker that was there behind one of its own rating", Both(onFeeder(1), mended(job.Mended{})), "in-turn", "", ""},
		{"a breaker in its place behind one of its own rating", Both(onFeeder(1), mended(job.Mended{}), OnCircuit(func(c *job.Circuit) { c.Breaker.Fate = job.FateReplaced })),
			"in-turn", rulebook.Watch, ""},
		{"a sub-main of 10 A", Both(onSub(&four), limit(job.FeederDevice, 10)), "links", rulebook.Stop, "the feeder device"},
		{"a sub-main of 200 A", Both(onSub(&four), limit(job.FeederDevice, 200)), "links", rulebook.Sound, ""},
		{"tests in their order", func(*job.Job) {}, "test-order", rulebook.Sound, ""},
		{"nothing was changed", func(*job.Job) {}, "tested-again", "", ""},
		{"a breaker changed after the tests", func(j *job.Job) {
			e := j.Log[len(j.Log)-1]
			e.ID, e.Kind, e.Point, e.Subject, e.Value, e.Reason = "vary-0001", job.Varied, "A", "breaker.rating", "63", "the other was not in stock"
			j.Log = append(j.Log, e)
		}, "tested-again", rulebook.Open, "tests again after the change"},
		{"a breaker changed after the trial with the grid out", Both(source(battery, job.BackedSide), Read("grid-out", "both"),
			func(j *job.Job) { Log(j, job.Varied, "A", "breaker.rating", "63") }), "tested-again", rulebook.Open, "With the grid out"},
		{"a charger changed and signed anew", func(j *job.Job) {
			j.Design.Circuits[0].Charger.Type = "another unit"
			e := job.Entry{ID: "sign-0001", Kind: job.SignedOff, Subject: "design", By: "M. Farrant", At: j.Log[len(j.Log)-1].At}
			j.Sign(&e)
			j.Log = append(j.Log, e)
		}, "tested-again", rulebook.Open, "Current offered"},
		{"another load after the design was signed", func(j *job.Job) {
			j.Survey.Loads = append(j.Survey.Loads, job.Load{Kind: job.OtherFixed, Power: 100})
		}, "signed-design", rulebook.Open, "the design was changed after"},
		{"built as signed", func(*job.Job) {}, "signed-construction", rulebook.Sound, ""},
		{"a step after the construction was signed", func(j *job.Job) {
			e := j.Log[len(j.Log)-1]
			e.ID, e.Kind, e.Subject, e.Value = "step-9999", job.StepDone, worklog.Labels, "space 14"
			j.Log = append(j.Log, e)
		}, "signed-construction", rulebook.Open, "was changed after"},
		{"another charger after the construction was signed", OnCircuit(func(c *job.Circuit) { c.Charger.Serial = "other" }), "signed-construction", rulebook.Open, "was changed after"},
		{"signed by who tested", func(*job.Job) {}, "signed-testing", rulebook.Sound, ""},
		{"a tool that nobody ticked belongs to the van", func(j *job.Job) {
			j.Plan.Parts = append(j.Plan.Parts, job.Part{Name: "torque driver", Tool: job.Yes})
		}, "parts-in-hand", rulebook.Sound, ""},
		{"a tool that is not in the van", func(j *job.Job) {
			j.Plan.Parts = append(j.Plan.Parts, job.Part{Name: "torque driver", Tool: job.Yes, InHand: job.No})
		}, "parts-in-hand", rulebook.Open, "torque driver"},
		{"a charger of the customer's that nobody has seen", func(j *job.Job) {
			j.Plan.Parts = append(j.Plan.Parts, job.Part{Name: "wall unit", By: job.ByCustomer})
		}, "parts-in-hand", rulebook.Open, "wall unit"},
		{"nothing is taken away", func(*job.Job) {}, "left", "", ""},
		{"taken away, of the breaker nothing is said", Removed("", job.FateKept), "left", rulebook.Open, "whether the breaker stays"},
		{"taken away, of the cable nothing is said", Removed(job.FateKept, ""), "left", rulebook.Open, "whether the cable stays"},
		{"taken away, the cable stays on its breaker", Removed(job.FateKept, job.FateKept), "left", rulebook.Watch, "counts as live"},
		{"taken away, the cable stays off its breaker", Removed(job.FateTakenOut, job.FateKept), "left", rulebook.Sound, "the breaker is taken out; the cable stays"},
		{"taken away with breaker and cable", Removed(job.FateTakenOut, job.FateTakenOut), "left", rulebook.Sound, "are taken out"},
		{"taken away: nothing offers a current", Removed(job.FateTakenOut, job.FateTakenOut), "pilot", "", ""},
		{"taken away: nobody schedules", Removed(job.FateTakenOut, job.FateTakenOut), "scheduler", "", ""},
		{"taken away: what stays connected is tested", Both(Removed(job.FateKept, job.FateKept), Read("insulation", "0.4")), "insulation", rulebook.Stop, "at least"},
		{"taken away: what is cut off is not", Both(Removed(job.FateTakenOut, job.FateKept), Read("insulation", "0.4")), "insulation", "", ""},
		{"taken away, not written down how it was left", Removed(job.FateTakenOut, job.FateKept), "certificate", rulebook.Open, "How it was left"},
		{"a charger that was bought", func(*job.Job) {}, "moved", "", ""},
		{"a charger that moves, which one is not known", OnCircuit(func(c *job.Circuit) { c.Charger.Moved, c.Charger.Serial = "DB-1", "" }), "moved", rulebook.Open, "serial number"},
		{"a charger that moves", OnCircuit(func(c *job.Circuit) { c.Charger.Moved, c.Charger.Serial = "DB-1", "WU-1" }), "moved", rulebook.Sound, "WU-1 comes from job DB-1"},
		{"a new circuit has nothing mended", func(*job.Job) {}, "mended", "", ""},
		{"the charger stays, and nothing is done", mended(job.Mended{}), "mended", rulebook.Open, "what is wrong"},
		{"a fault without a cause", mended(job.Mended{Fault: "does not start"}), "mended", rulebook.Open, "what it comes from"},
		{"a cause, and nothing mended", mended(job.Mended{Fault: "does not start", Cause: "contactor welded"}), "mended", rulebook.Open, "what is mended"},
		{"a device that is not exchanged", mended(job.Mended{Fault: "trips", Cause: "worn", Part: job.MendedBreaker}), "mended", rulebook.Open, "is replaced"},
		{"a contactor", mended(job.Mended{Fault: "does not start", Cause: "contactor welded", Part: job.MendedContactor}), "mended", rulebook.Sound, "contactor welded"},
		{"the breaker alone is exchanged", Both(mended(job.Mended{}), OnCircuit(func(c *job.Circuit) { c.Breaker.Fate = job.FateReplaced })), "mended", rulebook.Sound, "device of its circuit"},
		{"taken away, nothing to test: nobody signs for tests", Both(Removed(job.FateTakenOut, job.FateKept), func(j *job.Job) { Log(j, job.SignedOff, "", "testing", "") }),
			"signed-testing", "", ""},
		{"taken away, what stays connected is signed for", Both(Removed(job.FateKept, job.FateKept), func(j *job.Job) { Log(j, job.SignedOff, "", "testing", "") }),
			"signed-testing", rulebook.Open, "signature for testing"},
		{"nobody signed for the tests", func(j *job.Job) { Log(j, job.SignedOff, "", "testing", "") }, "signed-testing", rulebook.Open, "signature for testing"},
		{"a reading after the tests were signed", func(j *job.Job) {
			i := slices.IndexFunc(j.Log, func(e job.Entry) bool { return e.Kind == job.ReadingMade && e.Point == "A" })
			e := j.Log[i]
			e.ID = "read-9999"
			j.Log = append(j.Log, e)
		}, "signed-testing", rulebook.Open, "read or inspected was changed after"},
		{"everything was looked at", func(*job.Job) {}, "inspected", rulebook.Sound, "items looked at or stated"},
		{"switched on before anything was tested", first(worklog.Energise), "test-order", rulebook.Stop, "first read after the board was switched on"},
		{"never switched on, and read live", func(j *job.Job) { Log(j, job.StepDone, "", worklog.Energise, "") }, "test-order", rulebook.Watch, "read before the board was switched on"},
	}
}

// Removed returns a change that takes the first charger away, with what becomes of its breaker and cable.
func Removed(breaker, cable job.Fate) Change {
	return OnCircuit(func(c *job.Circuit) {
		c.Existing, c.Charger.Fate, c.Setting, c.ManagedTo = job.Yes, job.FateTakenOut, 0, 0
		c.Breaker.Fate, c.Cable.Fate = breaker, cable
	})
}

// onFeeder returns a change that puts the board on a sub-main whose device has so many times the breaker's rating.
func onFeeder(times quantity.Ampere) Change {
	return func(j *job.Job) {
		four := quantity.Ampere(4)
		b := &j.Survey.Board
		b.FedFrom, b.OtherDemand = job.FromSubMain, &four
		b.Links = []job.Link{{Kind: job.FeederDevice, Rating: times * j.Design.Circuits[0].Breaker.Rating}}
	}
}

// mended returns a change that keeps the first charger and mends it.
func mended(m job.Mended) Change {
	return OnCircuit(func(c *job.Circuit) { c.Existing, c.Charger.Fate, c.Mended = job.Yes, job.FateKept, m })
}

// Inspected returns a change that answers an item of the schedule of inspections otherwise; an empty
// answer takes it away.
func Inspected(item, value, reason string) Change {
	return func(j *job.Job) {
		at := slices.IndexFunc(j.Log, func(e job.Entry) bool { return e.Kind == job.Inspected && e.Subject == item })
		if value == "" {
			j.Log = slices.Delete(j.Log, at, at+1)
			return
		}
		j.Log[at].Value, j.Log[at].Reason = value, reason
	}
}

// battery is an inverter that carries circuits when the grid is out, and no charger on the example is too much for.
var battery = job.Second{Kind: job.BacksUp, Isolator: "the garage", Rating: 100, Other: 12, Earthed: job.Yes}

// source puts a second source beside the grid, and the point on a side of it.
func source(second job.Second, side job.Side) Change {
	return Both(OnSupply(func(s *job.Supply) { s.OtherSource, s.Second = job.Yes, second }), OnCircuit(func(c *job.Circuit) { c.Side = side }))
}

// behind puts the point behind a second source that is changed, by what the point draws.
func behind(second job.Second, change func(s *job.Second, draws float64)) Change {
	return func(j *job.Job) {
		own := second
		change(&own, float64(j.Design.Circuits[0].Setting))
		source(own, job.BackedSide)(j)
	}
}

// Corrected puts what an inspector wants put right at the end of the log, and that it was where done says how.
func Corrected(asked job.Entry, done string) Change {
	return func(j *job.Job) {
		at := j.Log[len(j.Log)-1].At
		asked.ID, asked.Kind, asked.At, asked.By = "asked-0001", job.CorrectionAsked, at, "R. Delacroix"
		if j.Log = append(j.Log, asked); done != "" {
			j.Log = append(j.Log, job.Entry{ID: "right-0001", Kind: job.PutRight, At: at, By: asked.By, Subject: asked.ID, Reason: done})
		}
	}
}

// Again puts a step at the end of the log: it was done once more.
func Again(step string) Change {
	return func(j *job.Job) {
		i := slices.IndexFunc(j.Log, func(e job.Entry) bool { return e.Kind == job.StepDone && e.Subject == step })
		e := j.Log[i]
		e.ID = "again-0001"
		j.Log = append(j.Log, e)
	}
}

// first puts a step at the beginning of the log.
func first(step string) Change {
	return func(j *job.Job) {
		i := slices.IndexFunc(j.Log, func(e job.Entry) bool { return e.Kind == job.StepDone && e.Subject == step })
		e := j.Log[i]
		j.Log = slices.Insert(slices.Delete(j.Log, i, i+1), 0, e)
	}
}

// SwitchedOn writes into a log that everything was switched off and proved dead from a
// time, and switched on at another.
func SwitchedOn(j *job.Job, off, on time.Time) {
	at := off
	add := func(kind job.EntryKind, subject, value string) {
		at = at.Add(time.Second)
		j.Log = append(j.Log, job.Entry{ID: fmt.Sprintf("proof-%04d", len(j.Log)), Kind: kind, Subject: subject, Value: value, At: at, By: "K. Osei"})
	}
	add(job.StepDone, worklog.MainOff, "lock 3, K. Osei")
	add(job.StepDone, worklog.CoverOff, "")
	add(job.ReadingMade, worklog.SourceBefore, "238")
	if book, err := rulebook.For(j); err == nil {
		for _, p := range book.In.Install.PairsOf(j) {
			add(job.ReadingMade, worklog.DeadPair+p, "0")
		}
	}
	add(job.ReadingMade, worklog.SourceAfter, "238")
	at = on
	add(job.StepDone, worklog.Energise, "K. Osei, T. Brandt")
}

// Twice returns a change that puts a second point like the first beside it, then
// changes the design.
func Twice(f func(*job.Design)) func(*job.Job) {
	return func(j *job.Job) {
		p, c := j.Survey.Places[0], j.Design.Circuits[0]
		p.Point, c.Point = "B", "B"
		j.Survey.Places = append(j.Survey.Places, p)
		j.Design.Circuits = append(j.Design.Circuits, c)
		f(&j.Design)
	}
}

// Read returns a change that sets the reading of a test on point A; an empty
// value takes the reading away.
func Read(test, value string) func(*job.Job) {
	return func(j *job.Job) { Log(j, job.ReadingMade, "A", test, value) }
}

// Celsius returns a temperature that a segment can hold.
func Celsius(t float64) *quantity.Celsius { c := quantity.Celsius(t); return &c }

// Arranged checks the verdicts of answers to decisions of point A, by their
// titles, and that each says which clause it is judged by.
func Arranged(t *testing.T, j *job.Job, want map[string]verdict.Verdict) {
	t.Helper()
	list, err := rulebook.Arrange(j, "A")
	if err != nil {
		t.Fatal(err)
	}
	got := map[string]rulebook.Judged{}
	for _, d := range list {
		for _, a := range d.Answers {
			got[a.Title] = a
		}
	}
	for title, verdict := range want {
		a, ok := got[title]
		if !ok || a.Verdict != verdict || len(a.Says) == 0 {
			t.Errorf("%s: %s (%t), %v; want %s", title, a.Verdict, ok, a.Says, verdict)
		}
	}
}
