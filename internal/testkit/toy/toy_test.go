// Package toy_test holds a country that there is not: a place with units, one system
// of supply, two rules, three steps and two tests of its own. A job of it goes through
// every stage of the program and prints both records, which shows that nothing outside
// core/books needs to know a country.
package toy_test

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"dogbolt/core/clearance"
	"dogbolt/core/commission"
	"dogbolt/core/demand"
	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/loadmgmt"
	"dogbolt/core/planning"
	"dogbolt/core/practice"
	"dogbolt/core/quantity"
	"dogbolt/core/reach"
	"dogbolt/core/record"
	"dogbolt/core/route"
	"dogbolt/core/rulebook"
	"dogbolt/core/sizing"
	"dogbolt/core/supply"
	"dogbolt/core/visit"
	"dogbolt/core/worklog"
	"dogbolt/internal/rooms"
	"dogbolt/internal/rooms/days"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/rooms/records"
	"dogbolt/internal/standin"
	"dogbolt/internal/store"
)

// A span is the arm of a grown person there, 0.7 m.
var span = quantity.Unit{Symbol: "sp", Size: 0.7, Decimals: 1, Exact: 1}

const (
	bond = "bond" // the dead test
	glow = "glow" // the live one
)

var toyland = jurisdiction.Register(&jurisdiction.Jurisdiction{
	ID: "toy", Name: "Toyland",
	Units: quantity.Units{Length: span, Height: span, Size: span, Spacing: span, Section: quantity.InSquareMM, Floor: quantity.InSquareMetre, Temperature: quantity.InCelsius, Torque: quantity.InNewtonMetre, Bar: 1},
	Money: jurisdiction.Currency{Symbol: "¤", Minor: "m", Fuel: "m/litre", FuelScale: 0.01, Gallon: 1},
	Paper: jurisdiction.A4, Zone: "Pacific/Auckland", Date: "2006-01-02",

	Systems:      supply.Systems{{ID: job.TT, Name: "one wire and the ground", ToEarth: 100, Circuit: 100, Three: 173, Phases: []int{1}}},
	Demand:       sum,
	ManagedShare: 1,
	Poles:        func(int) []int { return []int{1} },
	SettingLimit: func(c *job.Circuit) (float64, string) { return float64(c.Breaker.Rating), "device" },

	Asked: jurisdiction.Asked{Words: map[string]string{"board": "Chest"}, Fields: map[string]string{}, Methods: []jurisdiction.Term{{Value: "surface", Text: "nailed up"}}, Families: []jurisdiction.Term{{Value: "multicore", Text: "rope"}}, Terminals: []int{70}, DemandMethods: []jurisdiction.Term{}},
	Survey: visit.Practice{Supply: func(s *visit.Survey, survey *job.Survey) {
		s.Ask(survey.Supply.ElectrodeRA > 0, visit.Drive, "survey.supply.electrodeRa", "how deep the rod is")
	}},
	Photos: []string{"position"},
	Reach:  reach.Limits{Clause: "toy 3"},
	Sizing: sizing.Practice{Devices: &sizing.Devices{Ratings: []quantity.Ampere{20, 40}, Curves: []job.Curve{""}, Factor: 1, Name: func(b job.Breaker) string { return "fuse" }}, Drop: 0.1,
		Solve: func(a sizing.Ask) []sizing.Option {
			return []sizing.Option{{Cable: job.Cable{Family: job.Multicore, Size: "rope"}, Label: "rope", Bars: []sizing.Bar{}, Chosen: true}}
		}},
	Laying: route.Practice{Length: span,
		Carries: func(*job.Circuit, *job.Board, *job.Segment) (quantity.Ampere, string) { return 30, "30 A, rope" },
		Lay: func(s *route.Stretch, _ *job.Circuit, g *job.Segment) {
			s.Spacing, s.Supports = 0.7, route.Supports(g.Length, 0.7)
		},
		Parts: route.Parts{Clip: "nail", ClipRule: "toy 4", Long: span, Torque: "key", TorqueRule: "toy 5",
			Hole: func(*job.Circuit, []job.Part) string { return "" }, From: route.PartClauses{Labels: "toy 6", Lock: "toy 7"}}},
	Install: worklog.Practice{
		Words: worklog.Words{Earth: "ground", Board: "chest", Short: "chest"}, Clauses: worklog.Clauses{Isolate: "toy 7", Dead: "toy 8", Second: "toy 9", Dig: "toy 10"}, Length: span,
		Parts: []worklog.Part{func(b *worklog.Planner) {
			b.Add(worklog.Step{ID: worklog.CoverOff, Title: "Lid off", Caution: "It may be live.", Clause: b.Clauses.Isolate})
			b.Add(worklog.Step{ID: worklog.BoardWork, Point: "A", Title: "Rope tied to the chest", Inside: true, After: []string{worklog.CoverOff}, Records: []worklog.Record{worklog.Torque}})
			b.Add(worklog.Step{ID: worklog.Energise, Title: "Let it flow", After: []string{worklog.BoardWork}})
		}},
		Dead: worklog.DeadPairs{One: []string{"W-G"}},
		Conductors: func(*job.Circuit) []worklog.Conductor {
			return []worklog.Conductor{{ID: "wire", Name: "wire", Line: true}}
		},
	},
	Tests: commission.Practice{Tests: []commission.Test{
		{ID: bond, Title: "Bond of the rope", Group: commission.Dead, Unit: "Ω"},
		{ID: glow, Title: "Glow of the lamp", Group: commission.Live, Choice: []string{"bright", "dark"}},
	}},
	Papers: func(j *job.Job, _ clearance.Demand) []clearance.Advice {
		return clearance.Compare(j, []clearance.Advice{{Paper: job.Paper{ID: "mayor", Title: "Nod of the mayor", Before: job.BeforeInstalling, Needed: job.Yes}}})
	},
	Days:  planning.Practice{Temperature: quantity.InCelsius, Moment: "15:04"},
	Night: loadmgmt.Practice{Services: []float64{40}},
	Cases: practice.Set{Country: "toy", Circuit: circuit(), Faults: []string{}},
	Drawn: jurisdiction.Drawn{Service: "fuse", Supply: func(*job.Supply) string { return "one wire" }},
})

// sum is the demand: what there is and what is added.
func sum(j *job.Job) demand.Result {
	r := demand.Result{Method: "sum", Clause: "toy 1", Unit: "A"}
	for _, l := range j.Survey.Loads {
		r.Add(demand.Name(l), float64(l.Amps), "all", float64(l.Amps))
		r.Without += l.Amps
	}
	r.Total = r.Without
	for _, a := range j.EVLoads() {
		r.Total += a
	}
	return r
}

var book = &rulebook.Book{
	ID: "toy:1", Name: "Toy book, first edition", Short: "Toy", In: toyland,
	Prepare: func(*rulebook.Subject) {},
	Rules: []rulebook.Rule{
		{ID: "fuse", Title: "Fuse of the house", Clause: "toy 1", Stage: job.StageDesign, Fields: []string{"survey.supply.rating"}, Numbers: "none",
			Check: func(s *rulebook.Subject) rulebook.Finding {
				return rulebook.CheckDemand(s, "fuse", "", "a larger one")
			}},
		{ID: "bond", Title: "Rope is bonded", Clause: "toy 2", Stage: job.StageCommission, PerPoint: true, Fields: []string{"commission." + bond}, Numbers: "toy 2: 1 Ω",
			Check: rulebook.Asked(bond, func(s *rulebook.Subject) rulebook.Finding {
				r, f, ok := s.Reading(bond)
				if !ok {
					return f
				}
				return rulebook.Judge(r.AtMost(1), r, rulebook.Number{}, rulebook.Num(1), r.String(), "tie it again")
			})},
	},
}

func init() { rulebook.Register(book) }

// circuit is the job that is practised on there.
func circuit() []byte {
	return []byte(`{"format":"dogbolt.job/2","number":"TOY","rulebook":"toy:1","site":{},"survey":{"places":[{"point":"A"}]},"design":{"circuits":[{"point":"A","setting":10}]}}`)
}

var ctx = context.Background()

// journey is one job on its way through the program.
type journey struct {
	t     *testing.T
	rooms *rooms.Rooms
	by    people.Person
	view  jobs.View
	n     int
}

func (g *journey) must(v jobs.View, err error) {
	g.t.Helper()
	if err != nil {
		g.t.Fatal(err)
	}
	g.view = v
}

func (g *journey) save(name job.SectionName, survey any) {
	g.t.Helper()
	body, err := json.Marshal(survey)
	if err != nil {
		g.t.Fatal(err)
	}
	g.must(g.rooms.Jobs.SaveSection(ctx, g.by, g.view.Summary.ID, name, jobs.Edit{Seen: g.view.Revisions[string(name)], Body: body}))
}

func (g *journey) log(e job.Entry) {
	g.t.Helper()
	g.n++
	e.ID, e.At = fmt.Sprintf("toy-entry-%03d", g.n), time.Now().UTC()
	g.must(g.rooms.Journal.Append(ctx, g.by, g.view.Summary.ID, []job.Entry{e}, nil))
}

// words is all that a document says.
func words(t *testing.T, doc record.Document) string {
	t.Helper()
	b, err := json.Marshal(doc)
	if err != nil {
		t.Fatal(err)
	}
	return string(b)
}

// TestJourney carries a job from its survey to both printed records by the practice
// of a country that only this test knows.
func TestJourney(t *testing.T) {
	s, err := store.Open(filepath.Join(t.TempDir(), "toy.db"))
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	office := people.Person{ID: "1", Name: "P. Lindqvist", Roles: people.Roles{people.Office}}
	g := &journey{t: t, rooms: rooms.New(s, slog.New(slog.NewTextHandler(io.Discard, nil)), standin.Instruments{}), by: people.Person{ID: "4", Name: "A. Nakagawa", Roles: people.Roles{people.Verifier}}}
	if err := g.rooms.Firm.SetContractor(ctx, office, record.Contractor{Name: "Toy works"}); err != nil {
		t.Fatal(err)
	}
	yard, err := g.rooms.Firm.Resources(ctx, office)
	if err != nil || yard.Zones["toy"] != toyland.Zone {
		t.Fatalf("%v %v", yard.Zones, err)
	}
	yard.Crews = []planning.Crew{{ID: "toys", Name: "Toy van", Van: "cart", People: []string{g.by.Name}, Books: []string{"toy"}}}
	if err := g.rooms.Firm.SetResources(ctx, office, yard); err != nil {
		t.Fatal(err)
	}

	// Survey and design.
	g.must(g.rooms.Jobs.CreateJob(ctx, g.by, jobs.NewJob{Rulebook: book.ID, Points: 1, Site: job.Site{Customer: "T. Bear", Street: "1 Shelf", Town: "Nursery"}}))
	survey := g.view.Job.Survey
	survey.Supply = job.Supply{System: job.TT, Phases: 1, Rating: 40, RatingSeen: job.Yes, OtherSource: job.No, ElectrodeRA: 3}
	survey.Loads = []job.Load{{Kind: job.OtherFixed, Name: "night lamp", Amps: 2}}
	survey.Places[0] = job.Place{Point: "A", Outdoors: job.No, Route: []job.Segment{{Method: job.Surface, Length: 7}}}
	survey.Board.Rating = 40
	g.save("survey", survey)
	if v, err := g.rooms.Workings.Visit(ctx, g.by, g.view.Summary.ID); err != nil || slices.ContainsFunc(v.Leave, func(l visit.Lack) bool { return l.What == "how deep the rod is" }) {
		t.Errorf("the country's own question is not answered: %v %v", v.Leave, err)
	}
	g.save("design", job.Design{Circuits: []job.Circuit{{Point: "A", Setting: 16, Charger: job.Charger{Type: "toy unit", Rating: 16, Phases: 1}, Breaker: job.Breaker{Rating: 20, Poles: 1}, Cable: job.Cable{Family: job.Multicore, Size: "rope"}}}})
	if list, _, err := g.rooms.Workings.Options(ctx, g.by, g.view.Summary.ID, "A", 0, 0, 0); err != nil || len(list) != 1 || list[0].Label != "rope" {
		t.Errorf("sized by %v %v", list, err)
	}
	if laid, err := g.rooms.Workings.Route(ctx, g.by, g.view.Summary.ID, "A"); err != nil || !strings.HasPrefix(laid.Working, "10.0 sp route") {
		t.Errorf("laid %q %v", laid.Working, err)
	}

	// Papers, parts, a day.
	papers := g.view.Job.Clearances
	if len(papers.Papers) != 1 || papers.Papers[0].ID != "mayor" {
		t.Fatalf("papers: %+v", papers.Papers)
	}
	papers.Papers[0].Granted = "2026-01-02"
	g.save("clearances", papers)
	parts, err := g.rooms.Workings.ProposeParts(ctx, g.by, g.view.Summary.ID)
	if err != nil || !slices.ContainsFunc(parts, func(p job.Part) bool { return p.Name == "nail for rope" && p.Quantity == 11 }) {
		t.Errorf("parts: %+v %v", parts, err)
	}
	for i := range parts {
		parts[i].InHand = job.Yes
	}
	g.save("plan", job.Plan{Parts: parts, Notice: job.Yes, Home: job.Yes})
	day := time.Now().AddDate(0, 0, 3).Format(time.DateOnly)
	g.must(g.rooms.Days.Book(ctx, g.by, g.view.Summary.ID, days.DayAsk{Team: "toys", Day: day, Start: "09:00", Hours: 2, Anyway: "no instrument is registered there"}))

	// Install: nothing inside before the one pair reads dead.
	inside := job.Entry{Kind: job.StepDone, Subject: worklog.BoardWork, Point: "A"}
	g.log(job.Entry{Kind: job.StepDone, Subject: worklog.CoverOff})
	if _, err := g.rooms.Journal.Append(ctx, g.by, g.view.Summary.ID, []job.Entry{{ID: "toy-too-early", Kind: inside.Kind, Subject: inside.Subject, Point: "A", At: time.Now().UTC()}}, nil); err == nil {
		t.Error("work inside a chest that was not proved dead")
	}
	for _, r := range [][2]string{{worklog.SourceBefore, "100"}, {worklog.DeadPair + "W-G", "0"}, {worklog.SourceAfter, "100"}} {
		g.log(job.Entry{Kind: job.ReadingMade, Subject: r[0], Value: r[1]})
	}
	g.log(inside)
	g.log(job.Entry{Kind: job.TorqueMade, Subject: "board-wire", Point: "A", Value: "1", Target: "1", Unit: "N·m"})
	g.log(job.Entry{Kind: job.SettingMade, Subject: worklog.SetAmps, Point: "A", Value: "16"})
	g.log(job.Entry{Kind: job.SettingMade, Subject: worklog.LockedSet, Point: "A", Value: worklog.Locks[0]})
	g.log(job.Entry{Kind: job.SettingMade, Subject: "scheduler", Point: "A", Value: "car"})
	g.log(job.Entry{Kind: job.ReadingMade, Subject: bond, Point: "A", Value: "0.2", Instrument: "toy tester"})
	g.log(job.Entry{Kind: job.StepDone, Subject: worklog.Answer})
	g.log(job.Entry{Kind: job.StepDone, Subject: worklog.Energise, Value: g.by.Name})

	// Commission: only the country's tests are tests.
	g.log(job.Entry{Kind: job.ReadingMade, Subject: glow, Point: "A", Value: "bright"})
	if _, err := g.rooms.Journal.Append(ctx, g.by, g.view.Summary.ID, []job.Entry{{ID: "toy-no-such-test", Kind: job.ReadingMade, Subject: commission.Zs, Point: "A", Value: "1", At: time.Now().UTC()}}, nil); err == nil {
		t.Error("a test of another country is taken")
	}

	// Handover.
	g.log(job.Entry{Kind: job.SignedOff, Subject: "design"})
	g.log(job.Entry{Kind: job.SignedOff, Subject: "construction"})
	g.log(job.Entry{Kind: job.SignedOff, Subject: "testing"})
	for _, l := range g.view.Lines {
		if l.Verdict == rulebook.Open || l.Verdict == rulebook.Stop {
			t.Errorf("%s is %s: %s%s", l.Rule, l.Verdict, l.Working, l.Missing)
		}
		if strings.Contains(l.Clause, "BS ") || strings.Contains(l.Clause, "NEC") || strings.Contains(l.Clause, "OSHA") || strings.Contains(l.Clause, "HSE") {
			t.Errorf("%s names a clause of another country: %s", l.Rule, l.Clause)
		}
	}
	g.must(g.rooms.Records.Seal(ctx, g.by, g.view.Summary.ID))
	r := record.Record{Job: g.view.Job, Edition: book.Name, Issue: 1}
	for _, doc := range []record.Document{record.Inspection(&r), record.Pack(&r)} {
		text := words(t, doc)
		for _, want := range []string{"Toy book, first edition", "T. Bear"} {
			if !strings.Contains(text, want) {
				t.Errorf("%s does not say %q", doc.Title, want)
			}
		}
	}
	for _, want := range []string{"one wire and the ground", "10.0 sp", "Bond of the rope", "Rope tied to the chest"} {
		if text := words(t, record.Inspection(&r)); !strings.Contains(text, want) {
			t.Errorf("the inspection record does not say %q", want)
		}
	}
	for _, kind := range []records.SealedKind{"inspection", "handover"} {
		p, err := g.rooms.Records.Paper(ctx, g.by, g.view.Summary.ID, 1, kind)
		if err != nil || !bytes.HasPrefix(p.Data, []byte("%PDF")) {
			t.Errorf("%s: %d bytes, %v", kind, len(p.Data), err)
		}
	}
}
