package planning_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"
	"time"
	_ "time/tzdata" // the zones, wherever the tests run

	"dogbolt/core/books/uk"
	"dogbolt/core/books/us"
	"dogbolt/core/job"
	"dogbolt/core/planning"
	"dogbolt/core/planning/learn"
	"dogbolt/core/stock"
)

func zone(t *testing.T, name string) *time.Location {
	t.Helper()
	l, err := time.LoadLocation(name)
	if err != nil {
		t.Fatal(err)
	}
	return l
}

// TestClockChanges: a job at 08:00 stays at 08:00 on both sides of a change of
// the clock. Changes of 2027: 28 March and 31 October in Great Britain, 14 March
// and 7 November in the United States, where Arizona has none (published).
func TestClockChanges(t *testing.T) {
	for _, c := range []struct{ zone, day, start, utc string }{
		{"Europe/London", "2027-03-27", "08:00", "2027-03-27T08:00:00Z"},
		{"Europe/London", "2027-03-28", "08:00", "2027-03-28T07:00:00Z"},
		{"Europe/London", "2027-10-30", "08:00", "2027-10-30T07:00:00Z"},
		{"Europe/London", "2027-10-31", "08:00", "2027-10-31T08:00:00Z"},
		{"America/New_York", "2027-03-13", "08:00", "2027-03-13T13:00:00Z"},
		{"America/New_York", "2027-03-14", "08:00", "2027-03-14T12:00:00Z"},
		{"America/New_York", "2027-11-07", "08:00", "2027-11-07T13:00:00Z"},
		{"America/Phoenix", "2027-03-14", "08:00", "2027-03-14T15:00:00Z"},
		{"America/Phoenix", "2027-12-14", "08:00", "2027-12-14T15:00:00Z"},
	} {
		b := planning.Booking{Day: c.day, Start: c.start, Hours: 4.25}
		from, to, err := b.Moments(zone(t, c.zone))
		if err != nil || from.UTC().Format(time.RFC3339) != c.utc || to.Sub(from) != 4*time.Hour+15*time.Minute {
			t.Errorf("%s %s in %s: %s to %s %v, want %s", c.day, c.start, c.zone, from.UTC(), to, err, c.utc)
		}
	}
	if _, _, err := (planning.Booking{Day: "2027-03-28", Start: "soon"}).Moments(time.UTC); err == nil {
		t.Error("a time of day in words")
	}
}

func TestClash(t *testing.T) {
	travel := []planning.Travel{{"Quillmouth", "Aldermoor", 35}}
	have := planning.Booking{Job: "1", Number: "DB-1", Team: "north", People: []string{"K. Osei", "T. Brandt"}, Day: "2027-03-09", Start: "09:00", Hours: 3, Town: "Quillmouth"}
	for _, c := range []struct {
		name   string
		change func(*planning.Booking)
		clash  bool
	}{
		{"the same time", func(*planning.Booking) {}, true},
		{"another day", func(b *planning.Booking) { b.Day = "2027-03-10" }, false},
		{"another crew", func(b *planning.Booking) { b.Team, b.People = "south", []string{"A. Nakagawa"} }, false},
		{"another crew that borrows the mate", func(b *planning.Booking) { b.Team, b.People = "south", []string{"T. Brandt"} }, true},
		{"the crew with other people", func(b *planning.Booking) { b.People = []string{"X"} }, true},
		{"at once afterwards: no time for the way", func(b *planning.Booking) { b.Start = "12:00" }, true},
		{"after the way of 35 min", func(b *planning.Booking) { b.Start = "12:35" }, false},
		{"before, with the way", func(b *planning.Booking) { b.Start, b.Hours = "07:25", 1 }, false},
		{"before, without the way", func(b *planning.Booking) { b.Start, b.Hours = "07:30", 1 }, true},
		{"the job itself, moved", func(b *planning.Booking) { b.Job = "1" }, false},
	} {
		t.Run(c.name, func(t *testing.T) {
			b := planning.Booking{Job: "2", Number: "DB-2", Team: "north", People: []string{"K. Osei"}, Day: "2027-03-09", Start: "10:00", Hours: 2, Town: "Aldermoor"}
			c.change(&b)
			if _, why := planning.Clash(b, []planning.Booking{have}, travel); (why != "") != c.clash {
				t.Errorf("%s: %q", c.name, why)
			}
		})
	}
}

func TestMinutes(t *testing.T) {
	table := []planning.Travel{{"Quillmouth", "Aldermoor", 35}}
	for _, c := range []struct {
		from, to string
		want     int
	}{{"Quillmouth", "Aldermoor", 35}, {"aldermoor", "Quillmouth", 35}, {"Saltbeck", "saltbeck", planning.WithinTown}, {"Saltbeck", "Aldermoor", planning.BetweenTwo}, {"", "Aldermoor", planning.WithinTown}} {
		if got := planning.Minutes(table, c.from, c.to); got != c.want {
			t.Errorf("%s to %s: %d min, want %d", c.from, c.to, got, c.want)
		}
	}
}

// sky is the same weather everywhere, but for hours that are listed.
type sky struct {
	usual planning.Weather
	at    map[string]planning.Weather // by RFC 3339 hour, UTC
	until time.Time
}

func (s sky) At(_ string, hour time.Time) (planning.Weather, bool) {
	if w, ok := s.at[hour.UTC().Format(time.RFC3339)]; ok {
		return w, true
	}
	return s.usual, s.until.IsZero() || hour.Before(s.until)
}

// ask is a day that nothing speaks against.
func ask() *planning.Ask {
	j := &job.Job{Number: "DB-1", Rulebook: "bs7671:2018+A2:2022", Site: job.Site{Town: "Quillmouth"}}
	j.Survey.Places = []job.Place{{Point: "A", Outdoors: job.Yes, Route: []job.Segment{{Method: job.Surface, Length: 12}}}}
	j.Survey.Network = job.Network{Kind: "wifi", Password: "the customer"}
	j.Design.Circuits = []job.Circuit{{Point: "A", Cable: job.Cable{Family: job.Armoured90, Size: "6 mm²"}}}
	j.Plan = job.Plan{Notice: job.Yes, Home: job.Yes, Parts: []job.Part{{Name: "cable", Quantity: 14, Unit: "m"}, {Name: "torque driver", Quantity: 1, Tool: job.Yes, InHand: job.Yes}}}
	return &planning.Ask{Job: j, Practice: &uk.Practice.Days, ID: "1", Day: "2027-03-09", Start: "09:00", Hours: 4, Today: "2027-03-01", Zone: time.UTC, Day0: planning.UsualHours,
		Team:        planning.Crew{ID: "north", Name: "North van", People: []string{"K. Osei"}, Books: []string{"bs7671"}, Base: "Quillmouth"},
		Instruments: []planning.Instrument{{"T1", "installation tester", "north", "2027-12-31"}, {"D1", "Torque driver", "", "2027-12-31"}},
		Forecast:    sky{usual: planning.Weather{Temperature: 8}},
	}
}

func TestJudge(t *testing.T) {
	if got := planning.Judge(ask()); len(got) != 0 {
		t.Fatalf("a day without fault: %+v", got)
	}
	paper := func(before job.Before) func(*planning.Ask) {
		return func(a *planning.Ask) {
			a.Job.Clearances.Papers = []job.Paper{{ID: "p", Title: "Grant", Before: before, Needed: job.Yes}}
		}
	}
	for _, c := range []struct {
		name    string
		change  func(*planning.Ask)
		kind    planning.Kind
		verdict planning.Verdict
		words   string
	}{
		{"grant before the order", paper(job.BeforeOrder), "papers", planning.Never, "Grant must come before order"},
		{"permit before the start", paper(job.BeforeInstalling), "papers", planning.Never, "not sent"},
		{"operator before energising", paper(job.BeforeEnergising), "papers", planning.Against, "nothing is switched on"},
		{"grant offered after the day", func(a *planning.Ask) {
			a.Job.Clearances.Papers = []job.Paper{{ID: "p", Title: "Grant", Before: job.BeforeOrder, Needed: job.Yes, Granted: "2027-03-10"}}
		}, "papers", planning.Never, "voids it"},
		{"a day that is over", func(a *planning.Ask) { a.Day = "2027-02-26" }, "day", planning.Never, "is over"},
		{"no day", func(a *planning.Ask) { a.Day = "soon" }, "day", planning.Never, "not a day"},
		{"no time", func(a *planning.Ask) { a.Start = "early" }, "day", planning.Never, "time of day"},
		{"nobody", func(a *planning.Ask) { a.Team.People = nil }, "crew", planning.Never, "no crew"},
		{"not qualified", func(a *planning.Ask) { a.Team.Books = []string{"nec"} }, "crew", planning.Never, "not qualified"},
		{"elsewhere", func(a *planning.Ask) {
			a.Others = []planning.Booking{{Job: "2", Number: "DB-2", Team: "north", Day: "2027-03-09", Start: "11:00", Hours: 2, Town: "Quillmouth"}}
		}, "crew", planning.Never, "DB-2"},
		{"Saturday", func(a *planning.Ask) { a.Day = "2027-03-06" }, "crew", planning.Against, "Saturday"},
		{"day off", func(a *planning.Ask) { a.Team.Off = []string{"2027-03-09"} }, "crew", planning.Against, "day off"},
		{"no parts list", func(a *planning.Ask) { a.Job.Plan.Parts = nil }, "parts", planning.Against, "no parts"},
		{"reel too short", func(a *planning.Ask) {
			a.Stock.Shorts = []stock.Short{{Part: "cable", Message: "cable: the longest reel has 12.0 m"}}
		}, "parts", planning.Against, "longest reel"},
		{"reel left short", func(a *planning.Ask) { a.Stock.Thin = []string{"reel R1 would be left with 0.4 m"} }, "parts", planning.Note, "0.4 m"},
		{"tool not in the van", func(a *planning.Ask) { a.Job.Plan.Parts[1].InHand = job.No }, "parts", planning.Against, "torque driver"},
		{"tester out of calibration", func(a *planning.Ask) { a.Instruments[0].Until = "2027-03-08" }, "instruments", planning.Against, "2027-03-08"},
		{"tester of another crew", func(a *planning.Ask) { a.Instruments[0].Crew = "south" }, "instruments", planning.Against, "no installation tester"},
		{"not told", func(a *planning.Ask) { a.Job.Plan.Notice = "" }, "customer", planning.Against, "told"},
		{"nobody at home", func(a *planning.Ask) { a.Job.Plan.Home = job.No }, "customer", planning.Against, "at home"},
		{"password with nobody", func(a *planning.Ask) { a.Job.Survey.Network.Password = "" }, "customer", planning.Against, "password"},
		{"too long for the day", func(a *planning.Ask) { a.Hours = 8 }, "length", planning.Against, "17:00"},
		{"too early for the way", func(a *planning.Ask) { a.Start = "08:10" }, "length", planning.Against, "way takes 15 min"},
		{"frost while working", func(a *planning.Ask) {
			a.Forecast = sky{planning.Weather{Temperature: 8}, map[string]planning.Weather{"2027-03-09T10:00:00Z": {Temperature: -0.5}}, time.Time{}}
		}, "weather", planning.Against, "−0.5 °C at 10:00 on 9 March"},
		{"frost in the night before", func(a *planning.Ask) {
			a.Forecast = sky{planning.Weather{Temperature: 8}, map[string]planning.Weather{"2027-03-08T23:00:00Z": {Temperature: -2}}, time.Time{}}
		}, "weather", planning.Against, "within 24 h"},
		{"rain on an open enclosure", func(a *planning.Ask) { a.Forecast = sky{usual: planning.Weather{Temperature: 8, Rain: 1.2}} }, "weather", planning.Against, "1.2 mm"},
		{"no forecast", func(a *planning.Ask) { a.Forecast = nil }, "weather", planning.Note, "no forecast"},
		{"forecast ends before", func(a *planning.Ask) {
			a.Forecast = sky{usual: planning.Weather{Temperature: 8}, until: time.Date(2027, 3, 9, 0, 0, 0, 0, time.UTC)}
		}, "weather", planning.Note, "does not reach"},
	} {
		t.Run(c.name, func(t *testing.T) {
			a := ask()
			c.change(a)
			got := planning.Judge(a)
			if len(got) != 1 || got[0].Kind != c.kind || got[0].Verdict != c.verdict || !strings.Contains(got[0].What, c.words) || got[0].Remedy == "" {
				t.Errorf("%s: %+v, want one %s %s with %q", c.name, got, c.verdict, c.kind, c.words)
			}
			ok, over := planning.Bookable(got)
			if ok != (c.verdict == planning.Note) || over != (c.verdict != planning.Never) {
				t.Errorf("%s: bookable %t, by override %t", c.name, ok, over)
			}
		})
	}
}

// TestNothingAgainst: what only looks like a reason.
func TestNothingAgainst(t *testing.T) {
	for name, change := range map[string]func(*planning.Ask){
		"drizzle": func(a *planning.Ask) { a.Forecast = sky{usual: planning.Weather{Temperature: 8, Rain: 0.1}} },
		"rain under a porch": func(a *planning.Ask) {
			a.Job.Survey.SitePlan.Positions = []job.Position{{ID: "A", Cover: "porch"}}
			a.Job.Survey.Places[0].Position = "A"
			a.Forecast = sky{usual: planning.Weather{Temperature: 8, Rain: 2}}
		},
		"rain, indoors": func(a *planning.Ask) {
			a.Job.Survey.Places[0].Outdoors = job.No
			a.Forecast = sky{usual: planning.Weather{Temperature: 8, Rain: 2}}
		},
		"0 °C exactly": func(a *planning.Ask) { a.Forecast = sky{usual: planning.Weather{Temperature: 0}} },
		"frost two days before": func(a *planning.Ask) {
			a.Forecast = sky{planning.Weather{Temperature: 8}, map[string]planning.Weather{"2027-03-07T08:00:00Z": {Temperature: -9}}, time.Time{}}
		},
		"set up without network": func(a *planning.Ask) { a.Job.Plan.Home = ""; a.Job.Survey.Network.Without = job.Yes },
		"paper that comes afterwards": func(a *planning.Ask) {
			a.Job.Clearances.Papers = []job.Paper{{ID: "p", Before: job.After, Needed: job.Yes}}
		},
		"a tester whose last day it is": func(a *planning.Ask) { a.Instruments[0].Until = a.Day },
	} {
		t.Run(name, func(t *testing.T) {
			a := ask()
			change(a)
			if got := planning.Judge(a); len(got) != 0 {
				t.Errorf("%s: %+v", name, got)
			}
		})
	}
}

// TestColdInFahrenheit: an American cable bears −10 °C, 14 °F, and the night
// before does not count.
func TestColdInFahrenheit(t *testing.T) {
	a := ask()
	a.Practice, a.Job.Rulebook, a.Team.Books = &us.Practice.Days, "nec:2023", []string{"nec"}
	a.Job.Design.Circuits[0].Cable.Family = job.NMB
	a.Zone = zone(t, "America/Phoenix")
	a.Forecast = sky{planning.Weather{Temperature: -9.9}, map[string]planning.Weather{"2027-03-09T13:00:00Z": {Temperature: -20}}, time.Time{}}
	if got := planning.Judge(a); len(got) != 0 {
		t.Errorf("06:00 is before the work: %+v", got)
	}
	a.Forecast = sky{usual: planning.Weather{Temperature: -12}}
	if got := planning.Judge(a); len(got) != 1 || !strings.Contains(got[0].What, "10 °F") || !strings.Contains(got[0].What, "below 14 °F") {
		t.Errorf("%+v", got)
	}
}

func TestNeverComesFirst(t *testing.T) {
	a := ask()
	a.Forecast, a.Job.Plan.Notice, a.Team.Books = nil, "", nil
	got := planning.Judge(a)
	if len(got) != 3 || got[0].Verdict != planning.Never || got[2].Verdict != planning.Note {
		t.Errorf("%+v", got)
	}
}

// TestLearn: figures that made past jobs come back, and few jobs move little.
func TestLearn(t *testing.T) {
	truth := []float64{2, 1.5, 0.4, 0.06, 0.8, 0.5, 0.6}
	r := rand.New(rand.NewPCG(1, 2))
	var past []planning.Past
	for range 400 {
		e := planning.Effort{Points: float64(1 + r.IntN(3)), Segments: float64(1 + r.IntN(6)), Metres: float64(5 + r.IntN(40)), Walls: float64(r.IntN(4)), Buried: float64(r.IntN(12)), Board: float64(r.IntN(3))}
		h := 0.0
		for i, v := range []float64{1, e.Points, e.Segments, e.Metres, e.Walls, e.Buried, e.Board} {
			h += v * truth[i]
		}
		past = append(past, planning.Past{e, h + 0.1*r.NormFloat64()})
	}
	m, err := learn.From(past)
	if err != nil || m.Jobs != 400 || m.Error > 0.4 {
		t.Fatalf("%+v %v", m, err)
	}
	for i, h := range m.Hours {
		if math.Abs(h-truth[i]) > 0.12 {
			t.Errorf("figure %d: %g, the jobs were made with %g", i, h, truth[i])
		}
	}
	none, err := learn.From(nil)
	if err != nil || !slices.Equal(none.Hours, planning.Usual.Hours) {
		t.Errorf("nothing learnt: %+v %v", none, err)
	}
	e := past[0].Effort
	one, err := learn.From([]planning.Past{{e, planning.Usual.Estimate(e) + 6}})
	if moved := one.Estimate(e) - planning.Usual.Estimate(e); err != nil || moved <= 0 || moved >= 6 {
		t.Errorf("one job moved the estimate by %g h of 6 %v", moved, err)
	}
	quick, err := learn.From(slices.Repeat([]planning.Past{{planning.Effort{Points: 1}, 0.1}}, 50))
	if err != nil || slices.Min(quick.Hours) < 0 || quick.Estimate(planning.Effort{}) < 1 {
		t.Errorf("%+v %v", quick, err)
	}
}

func TestLogged(t *testing.T) {
	at := func(clock string) time.Time {
		x, err := time.Parse("2006-01-02 15:04", clock)
		if err != nil {
			t.Fatal(err)
		}
		return x
	}
	j := &job.Job{Log: []job.Entry{
		{Kind: job.SignedOff, At: at("2027-03-01 08:00")},
		{Kind: job.StepDone, Subject: "protect", At: at("2027-03-09 09:00")},
		{Kind: job.TorqueMade, At: at("2027-03-09 11:30")},
		{Kind: job.StepDone, Subject: "lids", At: at("2027-03-10 09:00")}, // the night is no work
	}}
	if h, ok := planning.Logged(j); ok {
		t.Errorf("not brought to its end: %g h", h)
	}
	j.Log = append(j.Log, job.Entry{Kind: job.StepDone, Subject: "energise", At: at("2027-03-10 10:15")})
	if h, ok := planning.Logged(j); !ok || h != 3.75 {
		t.Errorf("%g h %t, want 3.75", h, ok)
	}
}

func TestEffort(t *testing.T) {
	j := &job.Job{}
	j.Survey.Places = []job.Place{{Route: []job.Segment{{Method: job.Surface, Length: 10, Drop: 2}, {Method: job.ThroughWall, Wall: 0.3}, {Method: job.Buried, Length: 6}}}, {}}
	e := planning.EffortOf(j, 2)
	if e != (planning.Effort{Points: 2, Segments: 3, Metres: 18.3, Walls: 1, Buried: 6, Board: 2}) {
		t.Errorf("%+v", e)
	}
	if w := planning.Usual.Working(e); !strings.Contains(w, "2 × 1.00 h points") || !strings.HasSuffix(w, fmt.Sprintf("= %.1f h", planning.Usual.Estimate(e))) {
		t.Errorf("%q", w)
	}
}

// TestDaySheet: the day sheet names what the crew must know, and says where
// something is not known.
func TestDaySheet(t *testing.T) {
	a := ask()
	j := a.Job
	j.Site.Customer, j.Site.Street, j.Site.Note = "S. Pemberley", "Old Forge", "gate code 4411"
	j.Survey.Consent.Refused = "holes in the hall"
	j.Survey.Supply.Phases, j.Survey.Supply.OtherSource, j.Survey.Supply.MainsSwitchAt = 1, job.Yes, "in the porch"
	j.Survey.Places[0].Route = []job.Segment{{Method: job.Buried, Length: 4}}
	j.Plan.Over = job.Override{By: "P. Lindqvist", Reason: "the customer flies out", Against: []string{"rain"}}
	s := planning.SheetOf(j, &uk.Practice.Install)
	all := fmt.Sprint(s)
	for _, want := range []string{"gate code 4411", "holes in the hall", "Second source", "in the porch", "L-N, L-E, N-E", "Open trench", "OSHA", "P. Lindqvist: the customer flies out", "with the customer"} {
		if strings.Contains(all, want) == (want == "OSHA") {
			t.Errorf("%q: not as it should be in %s", want, all)
		}
	}
	if len(s.Pick) != 1 || len(s.Tools) != 1 || !s.Tools[0].InHand || strings.Contains(strings.ToLower(all), "safe") {
		t.Errorf("%+v", s)
	}
	mended := &j.Design.Circuits[0]
	mended.Existing, mended.Charger.Fate, mended.Mended.Part = job.Yes, job.FateKept, job.MendedSoftware
	if s := planning.SheetOf(j, &uk.Practice.Install); len(s.Isolate) != 1 || !strings.Contains(s.Isolate[0], "Nothing is opened") {
		t.Errorf("its software is mended: %v", s.Isolate)
	}
	empty := fmt.Sprint(planning.SheetOf(&job.Job{}, &us.Practice.Install))
	for _, want := range []string{"not recorded", "Not asked", "has not been told", "OSHA", "L1-L2"} {
		if !strings.Contains(empty, want) {
			t.Errorf("an empty job: %q is not in %s", want, empty)
		}
	}
}

func ExampleModel_Estimate() {
	one := planning.Effort{Points: 1, Segments: 4, Metres: 16, Walls: 1}
	fmt.Println(planning.Usual.Estimate(one), "h")
	// Output: 4.25 h
}
