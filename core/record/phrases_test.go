package record

import (
	"encoding/json"
	"go/ast"
	"go/parser"
	"go/token"
	"os"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	_ "dogbolt/core/books" // the countries register themselves
	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/rulebook"
	"dogbolt/core/worklog"
)

var verb = regexp.MustCompile(`%(\[\d+\])?s`)

// TestPhrases: every text of the pack, in whatever job, is in the catalogue of each language that a country offers,
// takes the same values, and the catalogue has no text that nobody says.
func TestPhrases(t *testing.T) {
	said := map[string]bool{}
	for _, file := range []string{"pack.go", "../../internal/document/pdf.go"} {
		for _, s := range literals(t, file) {
			said[s] = true
		}
	}
	for _, country := range []string{"us"} {
		in := countryOf(t, country)
		if len(in.Languages) < 2 {
			t.Fatalf("%s: languages %v", country, in.Languages)
		}
		for _, s := range append(heard(t, in), in.Date) {
			said[s] = true
		}
	}
	for _, s := range []string{"not recorded", "not sealed yet"} { // values that are told where there is none
		said[s] = true
	}
	for _, m := range months {
		said[m] = true
	}
	catalogue := PhrasesOf(job.Spanish)
	for s := range said {
		told, ok := catalogue[s]
		if !ok {
			t.Errorf("no Spanish for %q", s)
			continue
		}
		if was, is := len(verb.FindAllString(s, -1)), len(verb.FindAllString(told, -1)); was != is {
			t.Errorf("%q takes %d values, %q takes %d", s, was, told, is)
		}
	}
	for s := range catalogue {
		if !said[s] {
			t.Errorf("nobody says %q", s)
		}
	}
}

// TestNothingRecordedInSpanish: what was not recorded is told in the language too, also inside a line.
func TestNothingRecordedInSpanish(t *testing.T) {
	r := Record{Job: job.Job{Rulebook: "nec:2023", Site: job.Site{Language: job.Spanish}, Survey: job.Survey{Places: []job.Place{{Point: "A"}}}}}
	told := 0
	for _, b := range Pack(&r).Blocks {
		for _, p := range b.Pairs {
			if strings.Contains(p[1], "not recorded") {
				t.Errorf("%s: %s", p[0], p[1])
			}
			told += strings.Count(p[1], "sin anotar")
		}
	}
	if told < 3 {
		t.Errorf("only %d lines say that nothing was recorded", told)
	}
}

// literals are the texts that a file may say: strings of two words or more, and those given to say.
func literals(t *testing.T, file string) []string {
	t.Helper()
	tree, err := parser.ParseFile(token.NewFileSet(), file, nil, 0)
	if err != nil {
		t.Fatal(err)
	}
	var out []string
	ast.Inspect(tree, func(n ast.Node) bool {
		call, ok := n.(*ast.CallExpr)
		if !ok || len(call.Args) == 0 {
			return true
		}
		name := ""
		switch f := call.Fun.(type) {
		case *ast.SelectorExpr:
			name = f.Sel.Name
		case *ast.Ident:
			name = f.Name
		}
		if !strings.EqualFold(name, "say") {
			return true
		}
		if lit, ok := call.Args[0].(*ast.BasicLit); ok {
			if s, err := strconv.Unquote(lit.Value); err == nil && s != "{}" {
				out = append(out, s)
			}
		}
		return true
	})
	return out
}

// heard are the texts of packs of a country's jobs: the example with each answer that changes what the pack says.
func heard(t *testing.T, in *jurisdiction.Jurisdiction) []string {
	t.Helper()
	data, err := os.ReadFile("../../docs/formats/examples/" + in.ID + "-pass.json")
	if err != nil {
		t.Fatal(err)
	}
	changes := []func(*job.Job){func(*job.Job) {}}
	circuit := func(change func(*job.Circuit)) {
		changes = append(changes, func(j *job.Job) { change(&j.Design.Circuits[0]) })
	}
	reading := func(test, value string) {
		changes = append(changes, func(j *job.Job) {
			j.Log = append(j.Log, job.Entry{ID: "said-" + test, Kind: job.ReadingMade, Point: "A", Subject: test, Value: value})
		})
	}
	reading(commission.Schedule, "00:30 to 06:30")
	reading(commission.StartDelay, "600")
	setting := func(subject, value string) {
		changes = append(changes, func(j *job.Job) {
			for i := range j.Log {
				if j.Log[i].Subject == subject {
					j.Log[i].Value = value
				}
			}
		})
	}
	circuit(func(c *job.Circuit) { c.Charger.Outlet = job.Socket })
	circuit(func(c *job.Circuit) { c.Disconnect = job.Yes })
	circuit(func(c *job.Circuit) { c.ManagedTo, c.Shares = 60, true })
	circuit(func(c *job.Circuit) { c.Connection, c.Receptacle.GFCI = job.PluggedIn, job.Yes })
	for _, subject := range []string{job.Scheduler, job.Account, job.Access} {
		for _, w := range job.AgreedWords(subject) {
			changes = append(changes, func(j *job.Job) {
				j.Log = append(j.Log, job.Entry{ID: "agreed-" + w.Value, Kind: job.SettingMade, Point: "A", Subject: subject, Value: w.Value})
			})
		}
	}
	gone := func(breaker, cable job.Fate, subject, value string) {
		changes = append(changes, func(j *job.Job) {
			c := &j.Design.Circuits[0]
			c.Existing, c.Charger.Fate, c.Breaker.Fate, c.Cable.Fate = job.Yes, job.FateTakenOut, breaker, cable
			j.Log = append(j.Log, job.Entry{ID: "gone-1", Kind: job.StepDone, Point: "A", Subject: subject, Value: value})
		})
	}
	circuit(func(c *job.Circuit) {
		c.Connection, c.Charger, c.Receptacle.GFCI = job.PluggedIn, job.Charger{Fate: job.FateNone}, job.Yes
	})
	circuit(func(c *job.Circuit) {
		c.Connection, c.Charger, c.End = job.IntoBoard, job.Charger{Fate: job.FateNone}, job.End{Ways: 12, Rating: 125}
	})
	for _, how := range worklog.Releases {
		gone(job.FateKept, job.FateKept, worklog.Release, how)
	}
	for _, is := range worklog.Conditions {
		gone(job.FateTakenOut, job.FateTakenOut, worklog.TakeDown, is)
	}
	for _, lock := range worklog.Locks {
		setting(worklog.LockedSet, lock)
	}
	changes = append(changes, func(j *job.Job) {
		j.Design.Circuits = append(j.Design.Circuits, j.Design.Circuits[0])
		j.Survey.Places = append(j.Survey.Places, j.Survey.Places[0])
		j.Design.Circuits[1].Point, j.Survey.Places[1].Point = "B", "B"
	}, func(j *job.Job) { j.Clearances.Papers = nil }, priced(9000), priced(0), unsent(""), unsent("2026-06-01"))
	var all []string
	for _, change := range changes {
		var j job.Job
		if err := json.Unmarshal(data, &j); err != nil {
			t.Fatal(err)
		}
		change(&j)
		r := Record{Job: j, Issue: 2, Page: "https://firm.example/open/1", Replaces: strings.Repeat("0a", 32), Reason: "a reason", Edition: "an edition", Contractor: Contractor{Name: "a firm", Phone: "1", Email: "2", Scheme: "3"}}
		doc := pack(&r, func(s string) { all = append(all, s) })
		for _, b := range doc.Blocks {
			for _, s := range b.Text {
				if strings.Contains(s, "not recorded") {
					t.Errorf("%s: %s", b.Heading, s)
				}
			}
		}
	}
	return slices.DeleteFunc(all, func(s string) bool { return s == "" })
}

// unsent lets no paper be sent yet and the work not be done, with the day by which it must be.
func unsent(due string) func(*job.Job) {
	return func(j *job.Job) {
		j.Log = nil
		for i := range j.Clearances.Papers {
			p := &j.Clearances.Papers[i]
			*p = job.Paper{ID: p.ID, Title: p.Title, Before: p.Before, Needed: job.Yes, Due: due}
		}
	}
}

// priced gives a job what a year costs by, with so many kWh of the house.
func priced(house float64) func(*job.Job) {
	return func(j *job.Job) {
		j.Design.Money = job.Money{Flat: 0.3, Day: 0.35, Night: 0.1, NightFrom: "00:00", NightTo: "07:00", House: house, HouseNight: 0.2, Distance: 15000, KmPerKWh: 6}
	}
}

func countryOf(t *testing.T, id string) *jurisdiction.Jurisdiction {
	t.Helper()
	for _, b := range rulebook.All() {
		if b.In.ID == id {
			return b.In
		}
	}
	t.Fatalf("no country %s", id)
	return nil
}
