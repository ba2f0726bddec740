package rooms

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"dogbolt/core/clearance"
	"dogbolt/core/job"
	"dogbolt/core/planning"
	"dogbolt/core/record"
	"dogbolt/core/route"
	"dogbolt/core/schema"
	"dogbolt/core/stock"
	"dogbolt/internal/rooms/days"
	"dogbolt/internal/rooms/firm"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/papers"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/rooms/stockroom"
	"dogbolt/internal/standin"
	"dogbolt/internal/store"
)

func clock(at string) func() time.Time {
	return func() time.Time {
		x, err := time.Parse(time.RFC3339, at)
		if err != nil {
			panic(err)
		}
		return x
	}
}

const swa = "6 mm² armoured XLPE 90 °C"

// resources is a firm with two crews and everything in calibration.
func resources() firm.Resources {
	y := firm.UsualResources()
	y.Crews = []planning.Crew{
		{ID: "north", Name: "North van", Van: "van 1", People: []string{"K. Osei", "T. Brandt"}, Books: []string{"bs7671"}, Base: "Quillmouth"},
		{ID: "south", Name: "South van", Van: "van 2", People: []string{"A. Nakagawa"}, Books: []string{"bs7671", "nec"}, Base: "Saltbeck"},
	}
	y.Instruments = []planning.Instrument{{ID: "T1", What: "installation tester", Until: "2027-12-31"}, {ID: "D1", What: "torque driver", Until: "2027-12-31"}}
	y.Registrations = []clearance.Registered{{Scheme: "Register of charge point installers", Number: "R 77", From: "2026-01-01", Until: "2027-12-31"}}
	return y
}

// cleared is the job with every paper answered as not needed.
func cleared(t testing.TB, a *Rooms, v jobs.View) jobs.View {
	t.Helper()
	return withPapers(t, a, v, func(p *job.Paper) { p.Needed, p.Reason = job.No, "none is asked for here" })
}

func withPapers(t testing.TB, a *Rooms, v jobs.View, change func(*job.Paper)) jobs.View {
	t.Helper()
	for i := range v.Job.Clearances.Papers {
		change(&v.Job.Clearances.Papers[i])
	}
	return saved(t, a, v, "clearances", v.Job.Clearances)
}

func saved(t testing.TB, a *Rooms, v jobs.View, name job.SectionName, section any) jobs.View {
	t.Helper()
	body, err := json.Marshal(section)
	if err != nil {
		t.Fatal(err)
	}
	if v, err = a.Jobs.SaveSection(ctx, office, v.Summary.ID, name, jobs.Edit{Seen: v.Revisions[string(name)], Body: body}); err != nil {
		t.Fatal(err)
	}
	return v
}

// shop is a program with crews, and a way to make jobs that want a day.
func shop(t testing.TB) *Rooms {
	t.Helper()
	a := newApp(t)
	a.now = clock("2027-03-01T09:00:00Z")
	if err := a.Firm.SetResources(ctx, office, resources()); err != nil {
		t.Fatal(err)
	}
	return a
}

// wanting is a job that nothing but the stock can stand against: 14 m of cable,
// and a clip.
func wanting(t testing.TB, a *Rooms, number string) jobs.View {
	t.Helper()
	var j job.Job
	if err := json.Unmarshal(exampleFile(t, "uk-fail.json"), &j); err != nil {
		t.Fatal(err)
	}
	j.Number, j.Log = number, nil
	j.Survey.Network = job.Network{Kind: "none"}
	j.Site.Town = "Quillmouth"
	j.Plan = job.Plan{Notice: job.Yes, Parts: []job.Part{{Name: swa + ", A", Item: swa, Quantity: 14, Unit: "m"}, {Name: "label", Quantity: 1, InHand: job.Yes}}}
	b, err := json.Marshal(j)
	if err != nil {
		t.Fatal(err)
	}
	v, err := a.Jobs.Import(ctx, verifier, b)
	if err != nil {
		t.Fatal(err)
	}
	return cleared(t, a, v)
}

func reel(id string, metres float64) stock.Ware {
	return stock.Ware{ID: id, Name: swa, Unit: "m", Place: "store", State: stock.InHand, Reel: true, Quantity: metres}
}

func stocked(t testing.TB, a *Rooms, items ...stock.Ware) {
	t.Helper()
	for _, i := range items {
		if err := a.Stock.PutItem(ctx, office, i); err != nil {
			t.Fatal(err)
		}
	}
}

func held(t testing.TB, a *Rooms) map[string]float64 {
	t.Helper()
	items, err := a.Stock.Stock(ctx, office)
	if err != nil {
		t.Fatal(err)
	}
	out := map[string]float64{}
	for _, i := range items {
		out[i.ID] = i.Held
	}
	return out
}

// TestBookMoveFree: booking holds the crew and the reel, moving frees the one
// and takes the other, freeing frees all.
func TestBookMoveFree(t *testing.T) {
	a := shop(t)
	stocked(t, a, reel("R1", 50))
	v := wanting(t, a, "DB-1")
	id := v.Summary.ID
	v, err := a.Days.Book(ctx, office, id, days.DayAsk{Team: "north", Day: "2027-03-09"})
	if err != nil {
		t.Fatal(err)
	}
	p := v.Job.Plan
	if p.Start != "08:15" || p.Team != "north" || len(p.Crew) != 2 || p.Hours < 1 || p.Over.By != "" {
		t.Errorf("booked: %+v", p)
	}
	if p.Parts[0].From != "store reel R1" || p.Parts[0].InHand != job.Yes || held(t, a)["R1"] != 14 {
		t.Errorf("held: %+v %v", p.Parts[0], held(t, a))
	}
	other := wanting(t, a, "DB-2")
	if _, err := a.Days.Book(ctx, office, other.Summary.ID, days.DayAsk{Team: "north", Day: "2027-03-09"}); !errors.Is(err, people.ErrBlocked) || !strings.Contains(err.Error(), "DB-1") {
		t.Errorf("the crew is taken: %v", err)
	}
	if v, err = a.Days.Book(ctx, office, id, days.DayAsk{Team: "south", Day: "2027-03-10", Start: "10:00"}); err != nil {
		t.Fatal(err)
	}
	if held(t, a)["R1"] != 14 || v.Job.Plan.Crew[0] != "A. Nakagawa" {
		t.Errorf("moved: %v %+v", held(t, a), v.Job.Plan)
	}
	if _, err := a.Days.Book(ctx, office, other.Summary.ID, days.DayAsk{Team: "north", Day: "2027-03-09"}); err != nil {
		t.Errorf("the crew is free again: %v", err)
	}
	if v, err = a.Days.Unbook(ctx, office, id); err != nil {
		t.Fatal(err)
	}
	if p := v.Job.Plan; p.Day != "" || p.Crew != nil || p.Parts[0].From != "" || p.Parts[0].InHand == job.Yes || p.Parts[1].InHand != job.Yes || p.Notice != job.Yes {
		t.Errorf("freed: %+v", p)
	}
	if held(t, a)["R1"] != 14 { // the other's
		t.Errorf("freed: %v", held(t, a))
	}
}

// TestTwoPlannersAtOnce: many planners book the same crew, day and reel at once;
// one of them gets it.
func TestTwoPlannersAtOnce(t *testing.T) {
	a := shop(t)
	const planners = 8
	var ids []string
	for i := range planners {
		ids = append(ids, wanting(t, a, fmt.Sprint("DB-", i)).Summary.ID)
	}
	stocked(t, a, reel("R1", 30)) // for two jobs, but one crew
	var wait sync.WaitGroup
	won := make([]bool, planners)
	for i, id := range ids {
		wait.Go(func() {
			_, err := a.Days.Book(ctx, office, id, days.DayAsk{Team: "north", Day: "2027-03-09", Start: "09:00"})
			won[i] = err == nil
			if err != nil && !errors.Is(err, people.ErrBlocked) {
				t.Error(err)
			}
		})
	}
	wait.Wait()
	n := 0
	for _, w := range won {
		if w {
			n++
		}
	}
	list, err := a.store.Bookings(ctx, "2027-03-09", "2027-03-09")
	if err != nil || n != 1 || len(list) != 1 || held(t, a)["R1"] != 14 {
		t.Errorf("%d planners won, %d bookings, held %v %v", n, len(list), held(t, a), err)
	}
	// On different days the reel still serves two jobs only.
	for i, id := range ids {
		if won[i] {
			continue
		}
		wait.Go(func() {
			if _, err := a.Days.Book(ctx, office, id, days.DayAsk{Team: "south", Day: fmt.Sprintf("2027-03-%02d", 8+i%5), Start: fmt.Sprintf("%02d:00", 9+4*(i/5))}); err == nil {
				won[i] = true
			}
		})
	}
	wait.Wait()
	if h := held(t, a)["R1"]; h > 30 || h != 28 {
		t.Errorf("%g m of 30 m are held for pieces of 14 m", h)
	}
}

// TestNoDayWithoutPapers: a job with missing papers is booked by no route:
// not by booking, not with a reason, not by saving the plan, not by a file.
func TestNoDayWithoutPapers(t *testing.T) {
	a := shop(t)
	stocked(t, a, reel("R1", 50))
	v := wanting(t, a, "DB-1")
	v = withPapers(t, a, v, func(p *job.Paper) {
		if p.ID == "grant" {
			p.Needed, p.Reason = job.Yes, "the customer claims it"
		}
	})
	id := v.Summary.ID
	for _, anyway := range []string{"", "the customer insists on it"} {
		if _, err := a.Days.Book(ctx, verifier, id, days.DayAsk{Team: "north", Day: "2027-03-09", Anyway: anyway}); !errors.Is(err, people.ErrBlocked) || !strings.Contains(err.Error(), "must come before order") {
			t.Errorf("booked with reason %q: %v", anyway, err)
		}
	}
	for name, change := range map[string]func(*job.Plan){
		"day":      func(p *job.Plan) { p.Day = "2027-03-09" },
		"crew":     func(p *job.Plan) { p.Crew = []string{"K. Osei"} },
		"team":     func(p *job.Plan) { p.Team = "north" },
		"start":    func(p *job.Plan) { p.Start = "09:00" },
		"override": func(p *job.Plan) { p.Over = job.Override{By: "me", Reason: "because"} },
	} {
		t.Run(name, func(t *testing.T) {
			p := v.Job.Plan
			change(&p)
			body, _ := json.Marshal(p)
			var fields schema.Errors
			if _, err := a.Jobs.SaveSection(ctx, office, id, "plan", jobs.Edit{Seen: v.Revisions["plan"], Body: body}); !errors.As(err, &fields) {
				t.Errorf("%s was written with the plan: %v", name, err)
			}
		})
	}
	file := v.Job
	file.Number, file.Plan.Day, file.Plan.Crew = "DB-2", "2027-03-09", []string{"K. Osei"}
	b, _ := json.Marshal(file)
	if _, err := a.Jobs.Import(ctx, verifier, b); err == nil || !strings.Contains(err.Error(), "cannot be booked") {
		t.Errorf("came in by a file: %v", err)
	}
	// Nor by a file that pretends that the work has begun.
	file.Log = []job.Entry{{ID: "device-0001", Kind: job.StepDone, Subject: "announce", At: a.now()}}
	b, _ = json.Marshal(file)
	if _, err := a.Jobs.Import(ctx, verifier, b); err == nil || !strings.Contains(err.Error(), "cannot be booked") {
		t.Errorf("came in by a file with a step: %v", err)
	}
	if list, _ := a.store.Bookings(ctx, "2027-01-01", "2027-12-31"); len(list) != 0 {
		t.Errorf("%+v", list)
	}
	if d, err := a.Days.ProposeDays(ctx, office, []string{id}, "2027-03-08", 5); err != nil || len(d.Placed) != 0 || len(d.Left) != 1 || !strings.Contains(d.Left[0].Why, "Grant") {
		t.Errorf("proposed: %+v %v", d, err)
	}
	// A verifier puts the paper aside, by name and with a reason; then it goes.
	e := job.Entry{ID: "override-01", Kind: job.Overridden, Subject: "paper:grant", Reason: "the customer withdrew the claim", At: a.now()}
	if _, err := a.Journal.Append(ctx, office, id, []job.Entry{e}, nil); !errors.Is(err, people.ErrForbidden) {
		t.Errorf("put aside by the office: %v", err)
	}
	if _, err := a.Journal.Append(ctx, verifier, id, []job.Entry{e}, nil); err != nil {
		t.Fatal(err)
	}
	if _, err := a.Days.Book(ctx, office, id, days.DayAsk{Team: "north", Day: "2027-03-09"}); err != nil {
		t.Error(err)
	}
	for _, bad := range []job.Entry{{ID: "override-02", Subject: "paper:none", Reason: "a good long reason"}, {ID: "override-03", Subject: "paper:grant", Reason: "so"}} {
		bad.Kind, bad.At = job.Overridden, a.now()
		if _, err := a.Journal.Append(ctx, verifier, id, []job.Entry{bad}, nil); err == nil {
			t.Errorf("%+v was taken", bad)
		}
	}
}

// TestImportedClash: a file cannot bring in a day on which the crew is taken.
func TestImportedClash(t *testing.T) {
	a := shop(t)
	stocked(t, a, reel("R1", 50))
	v := wanting(t, a, "DB-1")
	v, err := a.Days.Book(ctx, office, v.Summary.ID, days.DayAsk{Team: "north", Day: "2027-03-09"})
	if err != nil {
		t.Fatal(err)
	}
	file := v.Job
	file.Number = "DB-2"
	b, _ := json.Marshal(file)
	if _, err := a.Jobs.Import(ctx, verifier, b); err == nil || !strings.Contains(err.Error(), "K. Osei is at DB-1") {
		t.Errorf("%v", err)
	}
	file.Plan.Day = "2027-03-10"
	b, _ = json.Marshal(file)
	w, err := a.Jobs.Import(ctx, verifier, b)
	if err != nil || w.Job.Plan.Parts[0].From != "" {
		t.Errorf("what is held in another stock is not held here: %+v %v", w.Job.Plan, err)
	}
}

// TestOverride: what may be decided against is, with name and reason, and the
// rule that watches the day says so.
func TestBookAgainstAdvice(t *testing.T) {
	a := shop(t)
	stocked(t, a, reel("R1", 12))
	v := wanting(t, a, "DB-1")
	ask := days.DayAsk{Team: "north", Day: "2027-03-09"}
	d, err := a.Days.JudgeDay(ctx, installer, v.Summary.ID, ask)
	if err != nil || d.OK || !d.ByOverride || !slices.ContainsFunc(d.Reasons, func(r planning.Reason) bool { return strings.Contains(r.What, "2.0 m too short") }) {
		t.Fatalf("%+v %v", d, err)
	}
	if _, err := a.Days.Book(ctx, office, v.Summary.ID, ask); !errors.Is(err, people.ErrBlocked) {
		t.Errorf("without a reason: %v", err)
	}
	ask.Anyway = "a reel comes by the counter at seven"
	if _, err := a.Days.Book(ctx, installer, v.Summary.ID, ask); !errors.Is(err, people.ErrForbidden) {
		t.Errorf("by the crew: %v", err)
	}
	v, err = a.Days.Book(ctx, office, v.Summary.ID, ask)
	if err != nil || v.Job.Plan.Over.By != "P. Lindqvist" || len(v.Job.Plan.Over.Against) == 0 || len(held(t, a)) != 1 || held(t, a)["R1"] != 0 {
		t.Errorf("%+v %v", v.Job.Plan, err)
	}
	for _, f := range v.Findings {
		if f.Rule == "day-and-crew" && (f.Verdict != "watch" || !strings.Contains(f.Working, "P. Lindqvist")) {
			t.Errorf("%+v", f)
		}
	}
}

// TestPlanKeepsHolds: parts that are changed while the day is booked are held
// anew, and a part that is no longer in hand is freed.
func TestPlanKeepsHolds(t *testing.T) {
	a := shop(t)
	stocked(t, a, reel("R1", 50), stock.Ware{ID: "C", Name: "clip", Place: "van 1", State: stock.InHand, Quantity: 100})
	v, err := a.Days.Book(ctx, office, wanting(t, a, "DB-1").Summary.ID, days.DayAsk{Team: "north", Day: "2027-03-09"})
	if err != nil {
		t.Fatal(err)
	}
	p := v.Job.Plan
	p.Parts[0].Quantity = 20
	p.Parts = append(p.Parts, job.Part{Name: "clip", Quantity: 40})
	p.Notice = job.No
	v = saved(t, a, v, "plan", p)
	if h := held(t, a); h["R1"] != 20 || h["C"] != 40 || v.Job.Plan.Parts[2].From != "van 1" || v.Job.Plan.Notice != job.No {
		t.Errorf("%v %+v", h, v.Job.Plan)
	}
	p = v.Job.Plan
	p.Parts = slices.Clone(p.Parts)[:2]
	p.Parts[1].From = "the moon" // nobody writes where a part is held
	v = saved(t, a, v, "plan", p)
	if h := held(t, a); h["C"] != 0 || v.Job.Plan.Parts[1].From != "" {
		t.Errorf("%v %+v", h, v.Job.Plan)
	}
}

// TestFirstDay: the days before it are named with what speaks against them.
func TestFirstDay(t *testing.T) {
	a := shop(t)
	stocked(t, a, reel("R1", 50))
	v := wanting(t, a, "DB-1")
	// Frost on the 2nd and the 3rd, until noon.
	frost := cold{from: "2027-03-02T00:00:00Z", to: "2027-03-03T12:00:00Z"}
	a.Connect(Outside{Forecast: frost})
	d, err := a.Days.FirstDay(ctx, office, v.Summary.ID)
	if err != nil || !d.Found {
		t.Fatalf("%+v %v", d, err)
	}
	// The 4th is within 24 hours of the frost in the morning.
	if d.Ask.Day != "2027-03-05" || d.Ask.Team != "north" {
		t.Errorf("%+v", d.Ask)
	}
	days := 0
	for _, p := range d.Passed {
		days += p.Days
		if p.Reason.Kind != "weather" || len(p.Teams) != 2 {
			t.Errorf("%+v", p)
		}
	}
	if days != 3 || d.Passed[0].From != "2027-03-02" {
		t.Errorf("%d days passed over: %+v", days, d.Passed)
	}
	if _, err := a.Days.Book(ctx, office, v.Summary.ID, d.Ask); err != nil {
		t.Errorf("the proposed day is not bookable: %v", err)
	}
}

type cold struct{ from, to string }

func (c cold) At(_ string, hour time.Time) (planning.Weather, bool) {
	h := hour.UTC().Format(time.RFC3339)
	if h >= c.from && h < c.to {
		return planning.Weather{Temperature: -3}, true
	}
	return planning.Weather{Temperature: 9}, true
}

// TestProposeDays: what is proposed can be booked, one after the other, and one
// reel is not promised to two jobs.
func TestProposeDays(t *testing.T) {
	a := shop(t)
	stocked(t, a, reel("R1", 30), reel("R2", 31)) // four pieces of 14 m
	var ids []string
	for i := range 6 {
		ids = append(ids, wanting(t, a, fmt.Sprint("DB-", i)).Summary.ID)
	}
	w, err := a.Days.ProposeDays(ctx, office, ids, "2027-03-06", 5) // a Saturday: Monday is the first
	if err != nil || len(w.Placed) != 4 || len(w.Left) != 2 || w.Cost > w.Greedy || w.Cost < w.Bound {
		t.Fatalf("%+v %v", w, err)
	}
	for _, p := range w.Placed {
		if p.Day < "2027-03-08" || p.Day > "2027-03-12" {
			t.Errorf("%+v", p)
		}
		if _, err := a.Days.Book(ctx, office, p.Job, p.DayAsk); err != nil {
			t.Errorf("%s on %s: %v", p.Number, p.Day, err)
		}
	}
	for _, l := range w.Left {
		if !strings.Contains(l.Why, "after the other jobs") {
			t.Errorf("%+v", l)
		}
	}
	days, err := a.Days.Days(ctx, surveyor, "2027-03-08", 5)
	if err != nil || len(days.Jobs) != 4 || len(days.Waiting) != 2 || len(days.Days) != 5 || len(days.Crews) != 2 {
		t.Errorf("%+v %v", days, err)
	}
	// A crew sees its own days.
	if own, err := a.Days.Days(ctx, installer, "2027-03-08", 5); err != nil || len(own.Jobs) != 3 || len(own.Waiting) != 0 {
		t.Errorf("%+v %v", own, err)
	}
	for _, d := range days.Jobs {
		if d.Way < planning.WithinTown || slices.ContainsFunc(d.Reasons, func(r planning.Reason) bool { return r.Verdict != planning.Note }) {
			t.Errorf("%+v", d)
		}
	}
	for _, bad := range []struct {
		from string
		ids  []string
	}{{"soon", ids}, {"2027-03-08", nil}} {
		if _, err := a.Days.ProposeDays(ctx, office, bad.ids, bad.from, 5); err == nil {
			t.Errorf("%+v is planned", bad)
		}
	}
}

// TestDurationsLearn: sealing a job teaches how long jobs take.
func TestDurationsLearn(t *testing.T) {
	a := shop(t)
	a.now = func() time.Time { return time.Now().UTC() }
	v := imported(t, a, "uk-pass.json")
	if _, err := a.Records.Seal(ctx, verifier, v.Summary.ID); err != nil {
		t.Fatal(err)
	}
	m, err := a.Days.Model(ctx)
	if err != nil || m.Jobs != 1 || slices.Equal(m.Hours, planning.Usual.Hours) {
		t.Errorf("%+v %v", m, err)
	}
}

// TestSealUsesStock: what was held for a job is built in when it is sealed.
func TestSealUsesStock(t *testing.T) {
	a := shop(t)
	a.now = func() time.Time { return time.Now().UTC() }
	stocked(t, a, reel("R1", 50))
	v := imported(t, a, "uk-pass.json")
	if err := a.store.Write(ctx, func(tx *store.Tx) error {
		return tx.Hold(v.Summary.ID, []stock.Hold{{Item: "R1", Part: "cable", Quantity: 14}})
	}); err != nil {
		t.Fatal(err)
	}
	if _, err := a.Records.Seal(ctx, verifier, v.Summary.ID); err != nil {
		t.Fatal(err)
	}
	items, _ := a.Stock.Stock(ctx, office)
	if items[0].Quantity != 36 || items[0].Held != 0 {
		t.Errorf("%+v", items)
	}
}

// TestStockFiles: out and in again as CSV and as a workbook, all rows or none.
func TestStockFiles(t *testing.T) {
	a := shop(t)
	stocked(t, a, reel("R1", 48.5), stock.Ware{ID: "g", Name: "gland, 20 mm", Place: "van 1", State: stock.InHand, Quantity: 12})
	before, _ := a.Stock.Stock(ctx, office)
	for _, kind := range []stockroom.TableKind{stockroom.CSV, stockroom.XLSX} {
		b, err := a.Stock.ExportStock(ctx, office, kind)
		if err != nil {
			t.Fatal(err)
		}
		if n, err := a.Stock.ImportStock(ctx, office, b); err != nil || n != 2 {
			t.Errorf("%s: %d %v", kind, n, err)
		}
		if after, _ := a.Stock.Stock(ctx, office); !slices.Equal(before, after) {
			t.Errorf("%s: %+v, was %+v", kind, after, before)
		}
	}
	bad := strings.Join(stock.Columns, ",") + "\nR1," + swa + ",m,store,in-hand,yes,99,,\nR9,,m,store,in-hand,yes,many,,\nR8,x,m,store,lost,,1,,\n"
	var fields schema.Errors
	if _, err := a.Stock.ImportStock(ctx, office, []byte(bad)); !errors.As(err, &fields) || len(fields) != 2 {
		t.Errorf("%v", err)
	}
	if after, _ := a.Stock.Stock(ctx, office); !slices.Equal(before, after) {
		t.Errorf("good rows of a bad file were taken: %+v", after)
	}
	if _, err := a.Stock.ImportStock(ctx, office, []byte("PK not a workbook")); err == nil {
		t.Error("not a workbook")
	}
	if err := a.Stock.PutItem(ctx, office, stock.Ware{ID: "x"}); err == nil {
		t.Error("an item without a name")
	}
	if err := a.Stock.DropItem(ctx, office, "gone"); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("%v", err)
	}
}

// TestOrders: nothing is bought for a job whose grant is not offered yet.
func TestOrders(t *testing.T) {
	a := shop(t)
	stocked(t, a, stock.Ware{ID: "L", Name: swa, Unit: "m", State: stock.Listed, Quantity: 1000, Supplier: "Harbour Electrical Counter"})
	wanting(t, a, "DB-1")
	withPapers(t, a, wanting(t, a, "DB-2"), func(p *job.Paper) {
		if p.ID == "grant" {
			p.Needed = job.Yes
		}
	})
	o, err := a.Stock.Orders(ctx, office)
	if err != nil || len(o.Orders) != 1 || o.Orders[0].Supplier != "Harbour Electrical Counter" || o.Orders[0].Lines[0].Quantity != 14 {
		t.Errorf("%+v %v", o, err)
	}
	if len(o.Held) != 1 || o.Held[0].Job != "DB-2" || !strings.Contains(o.Held[0].Why, "Grant") {
		t.Errorf("%+v", o.Held)
	}
	if b, err := a.Stock.ExportOrders(ctx, office, "csv"); err != nil || !bytes.Contains(b, []byte("Harbour Electrical Counter,6 mm²")) {
		t.Errorf("%s %v", b, err)
	}
}

// TestBounceLoop: a grant is sent with a fault, bounces, is mended, and is
// accepted; meanwhile no day can be booked.
func TestBounceLoop(t *testing.T) {
	a := shop(t)
	drop := standin.MailDrop{Folder: t.TempDir()}
	a.Connect(Outside{Mail: drop, Desk: standin.SchemeDesk{Drop: drop}})
	if err := a.Firm.SetContractor(ctx, office, contractor()); err != nil {
		t.Fatal(err)
	}
	stocked(t, a, reel("R1", 50))
	v := wanting(t, a, "DB-1")
	id := v.Summary.ID
	site := v.Job.Site
	site.Customer, site.Phone, site.Postcode = "Anne Dunmore", "0100 555 0188", "AM1 3QP"
	site.Bill = job.Bill{Name: "A. Dunmore", Street: site.Street, Postcode: "AM1 3QP", Account: "2200042424242"}
	v = saved(t, a, v, "site", site)
	var attached []job.Attachment
	if _, err := a.Papers.PaperForm(ctx, office, id, "grant", "pdf"); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("a paper without a form: %v", err)
	}
	v = withPapers(t, a, v, func(p *job.Paper) {
		if p.ID == "grant" {
			p.Needed, p.Form = job.Yes, "coastal-home-charging"
		}
	})
	quote, err := a.Papers.PaperForm(ctx, office, id, "grant", "pdf") // any PDF will do for a quotation
	if err != nil {
		t.Fatal(err)
	}
	for kind, data := range map[string][]byte{"bill": picture(t, 1000, 1200), "parking": picture(t, 1000, 950), "position": picture(t, 1000, 1000), "quote": quote.Data} {
		t.Run(kind, func(t *testing.T) {
			f, err := a.Papers.AddFile(ctx, office, id, kind, data)
			if err != nil {
				t.Fatal(err)
			}
			attached = append(attached, job.Attachment{Kind: kind, Digest: f.Digest, Name: kind})
		})
	}
	fill := func(p *job.Paper) {
		if p.ID == "grant" {
			p.Attached, p.SignedBy, p.SignedOn = attached, "Anne Dunmore", "2027-03-01"
			p.Answers = map[string]string{"vehicle-ordered": "2027-01-20", "quote": "940", "quote-day": "2027-02-20"}
		}
	}
	v = withPapers(t, a, v, fill)
	view, err := a.Papers.Papers(ctx, office, id)
	if c := view.Checks["grant"]; err != nil || len(c.Lacks) != 1 || !strings.Contains(c.Lacks[0].What, "A. Dunmore") {
		t.Fatalf("%+v %v", view.Checks["grant"], err)
	}
	if _, err := a.Papers.SendPaper(ctx, office, id, "grant", ""); !errors.Is(err, people.ErrBlocked) {
		t.Errorf("sent with a lack, without a reason: %v", err)
	}
	if v, err = a.Papers.SendPaper(ctx, office, id, "grant", "the office says they take it"); err != nil || v.Job.Paper("grant").Sent != "2027-03-01" {
		t.Fatalf("%+v %v", v.Job.Paper("grant"), err)
	}
	if _, err := a.Papers.SendPaper(ctx, office, id, "grant", "once more to be sure"); err == nil {
		t.Error("sent twice")
	}
	// Slow by its own account: acknowledged, then bounced. Four ask at once, and
	// each answer is entered once.
	for i, want := range []job.Outcome{job.Received, job.Bounced} {
		var wait sync.WaitGroup
		desk := gated{SchemeDesk: standin.SchemeDesk{Drop: drop}, open: make(chan struct{}), there: &sync.WaitGroup{}}
		desk.there.Add(4)
		a.Connect(Outside{Mail: drop, Desk: desk})
		for range 4 {
			wait.Go(func() {
				if _, err := a.Papers.FetchAnswers(ctx, office); err != nil {
					t.Error(err)
				}
			})
		}
		desk.there.Wait() // all four have seen the same mail before one writes
		close(desk.open)
		wait.Wait()
		a.Connect(Outside{Mail: drop, Desk: standin.SchemeDesk{Drop: drop}})
		v, _ = a.Jobs.Open(ctx, office, id)
		if r := v.Job.Paper("grant").Replies; len(r) != i+1 || r[i].Outcome != want {
			t.Fatalf("%+v", r)
		}
	}
	p := v.Job.Paper("grant")
	if !p.SentBack() || !strings.Contains(p.Replies[1].Reasons[0], "does not agree") {
		t.Errorf("%+v", p)
	}
	if _, err := a.Days.Book(ctx, office, id, days.DayAsk{Team: "north", Day: "2027-03-09"}); err == nil || !strings.Contains(err.Error(), "came back") {
		t.Errorf("%v", err)
	}
	due, err := a.Papers.DuePapers(ctx, office, 7)
	if err != nil || len(due) != 1 || due[0].What != "mend and send again" {
		t.Errorf("%+v %v", due, err)
	}
	site.Bill.Name = "Anne Dunmore"
	v = saved(t, a, v, "site", site)
	if _, err = a.Papers.SendPaper(ctx, office, id, "grant", ""); err != nil {
		t.Fatal(err)
	}
	for range 2 {
		if _, err := a.Papers.FetchAnswers(ctx, office); err != nil {
			t.Fatal(err)
		}
	}
	v, _ = a.Jobs.Open(ctx, office, id)
	if p := v.Job.Paper("grant"); p.Granted != "2027-03-01" || !strings.HasPrefix(p.Reference, "CCGO-") || len(p.Replies) != 4 {
		t.Errorf("%+v", p)
	}
	if n, err := a.Papers.FetchAnswers(ctx, office); n != 0 || err != nil {
		t.Errorf("asked about what is settled: %d %v", n, err)
	}
	if _, err := a.Days.Book(ctx, office, id, days.DayAsk{Team: "north", Day: "2027-03-09"}); err != nil {
		t.Errorf("with the grant: %v", err)
	}
	mails, err := filepath.Glob(filepath.Join(drop.Folder, "*"))
	if err != nil || len(mails) != 2 { // two were sent; the refused tries left none
		t.Errorf("%v %v", mails, err)
	}
	audit, _ := a.Jobs.Audit(ctx, office, id)
	if !slices.ContainsFunc(audit, func(x store.Audit) bool { return strings.Contains(x.Detail, "the office says they take it") }) {
		t.Error("the audit does not say why it was sent with a lack")
	}
}

// gated is a desk that answers once everybody is there and it is opened.
type gated struct {
	papers.SchemeDesk
	open  chan struct{}
	there *sync.WaitGroup
}

func (g gated) Answer(mail string, form clearance.Definition, asked int, today string) (job.Reply, error) {
	g.there.Done()
	<-g.open
	return g.SchemeDesk.Answer(mail, form, asked, today)
}

func TestFiles(t *testing.T) {
	a := shop(t)
	id := wanting(t, a, "DB-1").Summary.ID
	good, err := a.Papers.AddFile(ctx, office, id, "bill.jpg", picture(t, 640, 480))
	if err != nil || good.Width != 640 || good.Fault != "" {
		t.Errorf("%+v %v", good, err)
	}
	half, err := a.Papers.AddFile(ctx, office, id, "half.jpg", picture(t, 640, 480)[:900])
	if err != nil || half.Fault == "" {
		t.Errorf("half a picture: %+v %v", half, err)
	}
	broken, err := a.Papers.AddFile(ctx, office, id, "broken.pdf", []byte("%PDF-1.7\nnothing"))
	if err != nil || broken.Type != "application/pdf" || broken.Fault == "" {
		t.Errorf("%+v %v", broken, err)
	}
	for name, data := range map[string][]byte{"words.txt": []byte("only words"), "empty.pdf": nil} {
		t.Run(name, func(t *testing.T) {
			if _, err := a.Papers.AddFile(ctx, office, id, name, data); err == nil {
				t.Errorf("%s was taken", name)
			}
		})
	}
	if _, b, err := a.Papers.File(ctx, installer, id, good.Digest); err != nil || len(b) != good.Bytes {
		t.Errorf("%d bytes %v", len(b), err)
	}
	v := imported(t, a, "us-fail.json")
	if _, _, err := a.Papers.File(ctx, installer, v.Summary.ID, good.Digest); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("another job's file: %v", err)
	}
}

func TestResources(t *testing.T) {
	a := shop(t)
	for name, change := range map[string]func(*firm.Resources){
		"crews[1].id":            func(y *firm.Resources) { y.Crews[1].ID = "north" },
		"crews[1].people":        func(y *firm.Resources) { y.Crews[1].People = []string{"K. Osei"} },
		"crews[0].off[0]":        func(y *firm.Resources) { y.Crews[0].Off = []string{"Christmas"} },
		"instruments[0].until":   func(y *firm.Resources) { y.Instruments[0].Until = "" },
		"instruments[0].crew":    func(y *firm.Resources) { y.Instruments[0].Crew = "west" },
		"registrations[0].until": func(y *firm.Resources) { y.Registrations[0].Until = "2020-01-01" },
		"hours":                  func(y *firm.Resources) { y.Hours.To = "07:00" },
		"zones.uk":               func(y *firm.Resources) { y.Zones["uk"] = "Atlantis/Capital" },
	} {
		t.Run(name, func(t *testing.T) {
			y := resources()
			change(&y)
			var fields schema.Errors
			if err := a.Firm.SetResources(ctx, office, y); !errors.As(err, &fields) || fields[0].Field != name {
				t.Errorf("%s: %v", name, err)
			}
		})
	}
	v := wanting(t, a, "DB-1")
	site := v.Job.Site
	site.Zone = "Atlantis/Capital"
	b, _ := json.Marshal(site)
	if _, err := a.Jobs.SaveSection(ctx, office, v.Summary.ID, "site", jobs.Edit{Seen: v.Revisions["site"], Body: b}); err == nil || !strings.Contains(err.Error(), "time zone") {
		t.Errorf("%v", err)
	}
}

// TestDayAtTheSite: late in the evening in London it is still the day before in
// New York, and a day there is not over yet.
func TestDayAtTheSite(t *testing.T) {
	a := shop(t)
	a.now = clock("2027-03-09T02:00:00Z")
	v := cleared(t, a, imported(t, a, "us-fail.json"))
	d, err := a.Days.JudgeDay(ctx, office, v.Summary.ID, days.DayAsk{Team: "south", Day: "2027-03-08"})
	if err != nil || slices.ContainsFunc(d.Reasons, func(r planning.Reason) bool { return r.Kind == "day" }) {
		t.Errorf("%+v %v", d.Reasons, err)
	}
	uk := wanting(t, a, "DB-1")
	d, err = a.Days.JudgeDay(ctx, office, uk.Summary.ID, days.DayAsk{Team: "south", Day: "2027-03-08"})
	if err != nil || !slices.ContainsFunc(d.Reasons, func(r planning.Reason) bool { return r.Kind == "day" }) {
		t.Errorf("%+v %v", d.Reasons, err)
	}
}

// TestCalibration: the register's last day goes onto the entry when it comes, a
// reading by an instrument out of calibration stops, and a verifier may accept it.
func TestCalibration(t *testing.T) {
	a := shop(t)
	a.now = func() time.Time { return time.Now().UTC() }
	y := resources()
	y.Instruments = append(y.Instruments, planning.Instrument{ID: "tester 7F-2208", What: "installation tester", Until: "2020-12-31"})
	if err := a.Firm.SetResources(ctx, office, y); err != nil {
		t.Fatal(err)
	}
	v := imported(t, a, "uk-pass.json")
	id := v.Summary.ID
	e := entryAt("device-9001", job.ReadingMade, "zs", "A", "0.39")
	e.Instrument, e.Calibrated = "TESTER 7F-2208", "2099-01-01" // the device's own word does not count
	v, err := a.Journal.Append(ctx, verifier, id, []job.Entry{e}, nil)
	if err != nil {
		t.Fatal(err)
	}
	stops := func() bool {
		for _, f := range v.Findings {
			if f.Rule == "calibration" {
				return f.Blocks()
			}
		}
		t.Fatal("no finding")
		return false
	}
	if !stops() {
		t.Error("out of calibration, and nothing stops")
	}
	over := job.Entry{ID: "override-91", Kind: job.Overridden, Subject: "calibration", Point: "A", Reason: "compared with a second tester on the day", At: time.Now()}
	if v, err = a.Journal.Append(ctx, verifier, id, []job.Entry{over}, nil); err != nil || stops() {
		t.Errorf("accepted by a verifier: %v", err)
	}
}

// BenchmarkProposeDays: the whole of a proposal, days judged and all, for 40
// jobs, 4 crews and 15 days.
func BenchmarkProposeDays(b *testing.B) {
	a := shop(b)
	y := resources()
	for _, name := range []string{"east", "west"} {
		y.Crews = append(y.Crews, planning.Crew{ID: name, Name: name, People: []string{name}, Books: []string{"bs7671"}, Base: "Aldermoor"})
	}
	if err := a.Firm.SetResources(ctx, office, y); err != nil {
		b.Fatal(err)
	}
	var ids []string
	for i := range 40 {
		stocked(b, a, reel(fmt.Sprint("R", i), 50))
		ids = append(ids, wanting(b, a, fmt.Sprint("DB-", i)).Summary.ID)
	}
	for b.Loop() {
		if w, err := a.Days.ProposeDays(ctx, office, ids, "2027-03-08", 15); err != nil || len(w.Placed) != 40 {
			b.Fatal(len(w.Placed), err)
		}
	}
}

func TestFeeds(t *testing.T) {
	a := shop(t)
	stocked(t, a, reel("R1", 50))
	v := wanting(t, a, "DB-1")
	withPapers(t, a, v, func(p *job.Paper) {
		if p.ID == "building-control" {
			p.Needed, p.Due = job.Yes, "2027-04-02"
		}
	})
	// The 28th is the first Sunday of summer time.
	if _, err := a.Days.Book(ctx, office, v.Summary.ID, days.DayAsk{Team: "north", Day: "2027-03-28", Start: "09:00", Anyway: "the customer is at home on Sundays only"}); err != nil {
		t.Fatal(err)
	}
	b, err := a.Days.Feed(ctx, office, "crew-north")
	if err != nil || !bytes.Contains(b, []byte("DTSTART:20270328T080000Z")) || !bytes.Contains(b, []byte("DB-1")) {
		t.Errorf("%s %v", b, err)
	}
	if b, err = a.Days.Feed(ctx, office, "deadlines"); err != nil || !bytes.Contains(b, []byte("DTSTART;VALUE=DATE:20270402")) {
		t.Errorf("%s %v", b, err)
	}
	if b, err = a.Days.Feed(ctx, office, "crew-south"); err != nil || bytes.Contains(b, []byte("VEVENT")) {
		t.Errorf("another crew's: %s %v", b, err)
	}
	if _, err := a.Days.Feed(ctx, office, "crew-west"); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("a crew that is not there: %v", err)
	}
	for _, token := range []string{"wrong", ""} {
		if _, err := a.People.ByFeed(ctx, token); !errors.Is(err, store.ErrNotFound) {
			t.Errorf("%q: %v", token, err)
		}
	}
}

// TestFormsOfTheFirm: a firm's own definition is added, and takes the place of
// one with the same id.
func TestFormsOfTheFirm(t *testing.T) {
	a := shop(t)
	d := clearance.Samples()[0]
	d.Title = "As amended"
	b, _ := json.Marshal(d)
	list, err := a.Papers.AddForm(ctx, office, b)
	if err != nil || len(list) != len(clearance.Samples()) || list[0].Title != "As amended" {
		t.Errorf("%+v %v", list, err)
	}
	if _, err := a.Papers.AddForm(ctx, office, []byte(`{"format":"dogbolt.paper/1","id":"x"}`)); err == nil {
		t.Error("half a definition was taken")
	}
}

// TestTakePapers: the proposals are taken over as one revision.
func TestTakePapers(t *testing.T) {
	a := shop(t)
	v := imported(t, a, "us-fail.json")
	v = saved(t, a, v, "clearances", job.Clearances{})
	w, err := a.Papers.TakePapers(ctx, office, v.Summary.ID, v.Revisions["clearances"])
	if err != nil || len(w.Job.Clearances.Papers) != 7 || w.Revisions["clearances"] != v.Revisions["clearances"]+1 {
		t.Errorf("%d papers %v", len(w.Job.Clearances.Papers), err)
	}
	if _, err := a.Papers.TakePapers(ctx, office, v.Summary.ID, v.Revisions["clearances"]); !errors.Is(err, store.ErrConflict) {
		t.Errorf("over someone else's change: %v", err)
	}
}

// TestPermitHoldsTheWork: no step of the work is logged before the permit, and
// nothing is switched on before the operator's answer.
func TestPermitHoldsTheWork(t *testing.T) {
	a := shop(t)
	a.now = func() time.Time { return time.Now().UTC() }
	v := imported(t, a, "uk-fail.json")
	v = withPapers(t, a, v, func(p *job.Paper) {
		p.Needed, p.Reason = job.No, "none is asked for here"
		if p.ID == "owner" {
			p.Needed = job.Yes
		}
	})
	id := v.Summary.ID
	step := func(n int, subject, value string) error {
		_, err := a.Journal.Append(ctx, installer, id, []job.Entry{entryAt(fmt.Sprintf("device-%04d", n), job.StepDone, subject, "", value)}, nil)
		return err
	}
	if err := step(1, "announce", "the customer"); err != nil {
		t.Errorf("talking to the customer needs no permit: %v", err)
	}
	if err := step(2, "protect", ""); err == nil || !strings.Contains(err.Error(), "Consent") {
		t.Errorf("%v", err)
	}
}

func TestDaySheet(t *testing.T) {
	a := shop(t)
	v := wanting(t, a, "DB-1")
	v.Job.Plan.Parts = v.Book.In.Laying.TakeOff(&v.Job, route.Default)
	v = saved(t, a, v, "plan", v.Job.Plan)
	s, err := a.Days.DaySheet(ctx, installer, v.Summary.ID)
	if err != nil || len(s.Pick) < 5 || len(s.Tools) < 3 || len(s.Cautions) < 3 {
		t.Errorf("%+v %v", s, err)
	}
}

func contractor() (c record.Contractor) {
	c.Name, c.Email, c.Phone = "Quill and Beacon Electrical", "office@quillbeacon.example", "0100 555 0142"
	return c
}
