package visit_test

import (
	"encoding/json"
	"slices"
	"strings"
	"testing"

	"dogbolt/core/books/uk"
	_ "dogbolt/core/books/us"
	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/rulebook"
	"dogbolt/core/visit"
	"dogbolt/internal/testkit/ruletest"
)

const examples = "../../docs/formats/examples/"

// usual are the photos that both rulebooks ask for.
var usual = []string{"label", "board-closed", "board-open", "meter", "position", "route", "parking"}

func TestEmptyVisit(t *testing.T) {
	for _, in := range jurisdiction.All() {
		v := in.Survey.Of(&job.Survey{Places: []job.Place{{Point: "A"}}}, usual)
		var ids []string
		for _, s := range v.Sections {
			ids = append(ids, string(s.ID))
			if s.Done != 0 || s.Total == 0 {
				t.Errorf("%s: section %s is %d of %d", in.ID, s.ID, s.Done, s.Total)
			}
		}
		if got := strings.Join(ids, " "); got != "supply board loads vehicles positions route connectivity consents photos" {
			t.Errorf("sections: %s", got)
		}
		if v.Leave[0].Cost != visit.Open || v.Leave[len(v.Leave)-1].Cost != visit.Call || !slices.IsSortedFunc(v.Leave, func(a, b visit.Lack) int { return int(b.Cost - a.Cost) }) {
			t.Errorf("%s: not most costly first: %+v", in.ID, v.Leave)
		}
	}
}

// TestAnsweringCloses: every item names a field, and answering everything of a
// section closes it.
func TestAnsweringCloses(t *testing.T) {
	j := ruletest.Example(t, examples+"uk-pass.json")
	s := &j.Survey
	before := len(uk.Practice.Survey.Of(s, usual).Leave)
	s.Network = job.Network{Kind: "wifi", Signal: "good", Password: "the customer", Without: job.Yes}
	s.Consent = job.Consent{Asked: job.Yes, Landlord: job.No, OwnBay: job.Yes}
	for _, k := range usual {
		s.Photos = append(s.Photos, job.Photo{Kind: job.PhotoKind(k), Digest: strings.Repeat(k[:1], 64)})
	}
	v := uk.Practice.Survey.Of(s, visit.Photos(usual, []string{"other", "selfie", "label"}))
	if len(v.Leave) >= before {
		t.Errorf("%d open before, %d after answering", before, len(v.Leave))
	}
	for _, sec := range v.Sections {
		if slices.Contains([]visit.SectionID{"supply", "board", "loads", "vehicles", "route", "connectivity", "consents"}, sec.ID) && sec.Done != sec.Total {
			t.Errorf("%s: %d of %d; open: %+v", sec.ID, sec.Done, sec.Total, v.Leave)
		}
	}
	// The firm asks for one more photo; a kind that does not exist is not asked for.
	i := slices.IndexFunc(v.Leave, func(i visit.Lack) bool { return i.Section == "photos" })
	if i < 0 || !strings.Contains(v.Leave[i].What, "something else") || slices.ContainsFunc(v.Leave[i+1:], func(i visit.Lack) bool { return i.Section == "photos" }) {
		t.Errorf("photos open: %+v", v.Leave)
	}
	for _, it := range v.Leave {
		if !strings.HasPrefix(it.Field, "survey.") || it.What == "" || it.Takes == "" {
			t.Errorf("item without field or words: %+v", it)
		}
	}
	s.Places[0].Route = []job.Segment{{Method: job.Buried, Length: 4}, {Method: job.ThroughWall, Length: 1}}
	n := 0
	for _, it := range uk.Practice.Survey.Of(s, usual).Leave {
		if it.Section == "route" {
			n++
		}
	}
	if n != 2 {
		t.Errorf("%d open of the route, want depth and wall", n)
	}
}

// oneByOne are the fields that are never confirmed with others: earthing, bonding, a second source,
// a device upstream, the service's rating and condition, gas, and what a tester read.
var oneByOne = []string{
	"survey.supply.system", "survey.supply.rating", "survey.supply.ratingSeen", "survey.supply.condition", "survey.supply.otherSource",
	"survey.supply.declaredZe", "survey.supply.electrodeRa", "survey.supply.faultCurrent", "survey.supply.earthFault", "survey.supply.voltage",
	"survey.supply.peakDemand", "survey.board.upstreamRcdType", "survey.board.waysFree", "survey.bonding", "survey.sitePlan",
}

// TestUsual: the usual answers of every country are fields of a survey, in words, are kept by it,
// close their questions, and are none that is asked one by one.
func TestUsual(t *testing.T) {
	part, _ := job.FindSection(job.SurveySection)
	for _, in := range jurisdiction.All() {
		if len(in.Survey.Usual) < 10 {
			t.Errorf("%s: %d usual answers", in.ID, len(in.Survey.Usual))
		}
		doc := map[string]any{"places": []any{map[string]any{"point": "A", "route": []any{map[string]any{"length": 8}}}}, "vehicles": []any{map[string]any{}}}
		for _, u := range in.Survey.Usual {
			if slices.ContainsFunc(oneByOne, func(f string) bool { return strings.HasPrefix(u.Field, f) }) {
				t.Errorf("%s: %s is asked one by one", in.ID, u.Field)
			}
			if u.Says == "" || !strings.Contains(job.Named(u.Field), "(") {
				t.Errorf("%s: %s says %q and is %q", in.ID, u.Field, u.Says, job.Named(u.Field))
			}
			put(doc, strings.Split(u.Field, ".")[1:], u.Value)
		}
		data, err := json.Marshal(doc)
		if err != nil {
			t.Fatal(err)
		}
		var j job.Job
		if errs := part.Read(&j, data); len(errs) > 0 {
			t.Fatalf("%s: %v", in.ID, errs)
		}
		// Whatever a firm may have as its usual answer instead is kept by a survey too.
		for _, u := range in.Survey.Usual {
			others := u.Others
			if u.Figure != nil {
				others = append(others, visit.Answer{Value: u.Figure.Least}, visit.Answer{Value: u.Figure.Most})
			}
			for _, other := range others {
				own := map[string]any{u.Field: other.Value}
				if errs := in.Survey.CheckUsual("answers", own); len(errs) > 0 {
					t.Errorf("%s: %v", in.ID, errs)
				}
				k := slices.IndexFunc(in.Survey.UsualBy(own), func(o visit.Usual) bool { return o.Field == u.Field })
				mine := in.Survey.UsualBy(own)[k]
				if mine.Value != other.Value || mine.Says == u.Says || strings.Contains(mine.Says, "{") {
					t.Errorf("%s: %s of the firm's own is %v, says %q", in.ID, u.Field, mine.Value, mine.Says)
				}
				put(doc, strings.Split(u.Field, ".")[1:], other.Value)
				data, err := json.Marshal(doc)
				if err != nil {
					t.Fatal(err)
				}
				if errs := part.Read(&job.Job{}, data); len(errs) > 0 {
					t.Errorf("%s: %s %v: %v", in.ID, u.Field, other.Value, errs)
				}
			}
			put(doc, strings.Split(u.Field, ".")[1:], u.Value)
		}
		for _, lack := range in.Survey.Of(&j.Survey, nil).Leave {
			if slices.ContainsFunc(in.Survey.Usual, func(u visit.Usual) bool { return u.Field == lack.Field }) {
				t.Errorf("%s: still open: %+v", in.ID, lack)
			}
		}
	}
}

// TestOwnUsual: a firm's own usual answers, as they come from a file.
func TestOwnUsual(t *testing.T) {
	uk, _ := jurisdiction.Find("uk")
	for _, c := range []struct {
		field string
		value any
		want  string // said; "" where it is asked, "× " and a word where it is refused
	}{
		{"survey.places.0.holderHeight", 0.9, "holder 0.9 m above ground"},
		{"survey.places.0.holderHeight", 1.15, "holder 1.15 m above ground"},
		{"survey.places.0.holderHeight", 0.1, "× holder 0.5 m to 1.5 m above ground"},
		{"survey.places.0.holderHeight", "low", "× holder"},
		{"survey.places.0.holderHeight", nil, ""},
		{"survey.board.breakingKa", 10.0, "breakers of 10 kA"},
		{"survey.board.breakingKa", 25.0, "× breakers of 6 kA; breakers of 10 kA"},
		{"survey.vehicles.0.arrival", "22:00", "plugged in at 22:00"},
		{"survey.supply.system", "tn-s", "× one by one"},
		{"survey.bonding.conductor", 16.0, "× one by one"},
	} {
		own := map[string]any{c.field: c.value}
		errs := uk.Survey.CheckUsual("answers", own)
		if why, refused := strings.CutPrefix(c.want, "× "); refused {
			if len(errs) != 1 || errs[0].Field != "answers."+c.field || !strings.Contains(errs[0].Message, why) {
				t.Errorf("%s %v: %v", c.field, c.value, errs)
			}
			continue
		}
		said := ""
		for _, u := range uk.Survey.UsualBy(own) {
			if u.Field == c.field {
				said = u.Says
			}
		}
		if len(errs) > 0 || said != c.want {
			t.Errorf("%s %v: says %q, %v", c.field, c.value, said, errs)
		}
	}
	if got, want := len(uk.Survey.UsualBy(nil)), len(uk.Survey.Usual); got != want {
		t.Errorf("%d usual answers of the country's %d", got, want)
	}
}

func put(doc any, path []string, v any) {
	switch d := doc.(type) {
	case map[string]any:
		if len(path) == 1 {
			d[path[0]] = v
			return
		}
		if d[path[0]] == nil {
			d[path[0]] = map[string]any{}
		}
		put(d[path[0]], path[1:], v)
	case []any:
		put(d[0], path[1:], v)
	}
}

// TestMeasured: a survey whose position is known by its lengths is not asked for a plan, nor for
// a reason where there is one position only.
func TestMeasured(t *testing.T) {
	s := job.Survey{Places: []job.Place{{Point: "A", Position: "A"}}, SitePlan: job.SitePlan{Positions: []job.Position{{ID: "A", Run: 8}}}}
	fields := func() string {
		var out []string
		for _, l := range uk.Practice.Survey.Of(&s, nil).Leave {
			if l.Section == visit.InPositions {
				out = append(out, strings.TrimPrefix(l.Field, "survey."))
			}
		}
		return strings.Join(out, " ")
	}
	for _, c := range []struct {
		name   string
		change func()
		want   string
	}{
		{"one that is not drawn", func() {}, "sitePlan.positions.0.cord places.0.holderHeight sitePlan.positions.0.gasClear places.0.outdoors"},
		{"its cord measured", func() { s.SitePlan.Positions[0].Cord, s.SitePlan.Positions[0].Gas = 3, job.Yes }, "places.0.holderHeight places.0.outdoors"},
		{"a second", func() {
			s.SitePlan.Positions = append(s.SitePlan.Positions, job.Position{ID: "B", Run: 4, Cord: 9, Gas: job.No})
		}, "places.0.holderHeight places.0.why places.0.outdoors"},
		{"a plan begun", func() { s.SitePlan.Walls = []job.Wall{{}} }, "sitePlan.bays sitePlan.positions.0 sitePlan.positions.1 places.0.holderHeight places.0.why places.0.outdoors"},
	} {
		c.change()
		if got := fields(); got != c.want {
			t.Errorf("%s: asks %q, want %q", c.name, got, c.want)
		}
	}
}

// TestCompleteIsJudged: where the visit says that nothing is open before leaving, no rule of the
// survey is open either: what a rule needs, the visit asks for.
func TestCompleteIsJudged(t *testing.T) {
	for _, name := range []string{"uk-pass.json", "us-pass.json"} {
		for _, c := range []struct {
			name string
			less func(*job.Survey)
		}{
			{"all of it", func(*job.Survey) {}},
			{"ways free and not in all", func(s *job.Survey) { s.Board.Ways, s.Board.Slots = 0, nil }},
			{"a label on a photo alone", func(s *job.Survey) { s.Board.Label = "" }},
			{"no reason for the only place", func(s *job.Survey) { s.Places[0].Why = "" }},
			{"not how it is parked", func(s *job.Survey) { s.Vehicles[0].Attitude = "" }},
		} {
			j := ruletest.Example(t, examples+name)
			s := &j.Survey
			s.Network = job.Network{Kind: "wifi", Signal: "good", Password: "the customer", Without: job.Yes}
			s.Consent = job.Consent{Asked: job.Yes, Landlord: job.No, OwnBay: job.Yes}
			s.SitePlan = job.SitePlan{Positions: []job.Position{{ID: "A", Run: 12, Cord: 3, Gas: job.Yes}}}
			s.Places[0].Position, s.Places[0].HolderHeight = "A", 1.1
			s.Board.WaysFree, s.Board.BreakingKA, s.Supply.MainsSwitchAt = new(3), 10, "at the board"
			for _, k := range usual {
				s.Photos = append(s.Photos, job.Photo{Kind: job.PhotoKind(k), Digest: strings.Repeat(k[:1], 64)})
			}
			c.less(s)
			findings, err := rulebook.Check(&j)
			if err != nil {
				t.Fatal(err)
			}
			book, err := rulebook.For(&j)
			if err != nil {
				t.Fatal(err)
			}
			if leave := book.In.Survey.Of(s, usual).Leave; len(leave) > 0 {
				t.Errorf("%s, %s: still asked: %+v", name, c.name, leave)
				continue
			}
			for _, f := range findings {
				if f.Stage == job.StageSurvey && f.Verdict == rulebook.Open {
					t.Errorf("%s, %s: %s is open: %s", name, c.name, f.Rule, f.Missing)
				}
			}
		}
	}
}

// TestSecondSourceIsAsked: where there is a second source, the survey is not complete before it says what it does and where
// it is switched off.
func TestSecondSourceIsAsked(t *testing.T) {
	for _, c := range []struct {
		name   string
		other  job.Answer
		second job.Second
		asked  int
	}{
		{"none", job.No, job.Second{}, 0}, {"not known", "", job.Second{}, 0}, {"one", job.Yes, job.Second{}, 2},
		{"one that stops too", job.Yes, job.Second{Kind: job.FeedsIn}, 1}, {"all is said", job.Yes, job.Second{Kind: job.FeedsIn, Isolator: "loft"}, 0},
	} {
		s := job.Survey{Supply: job.Supply{OtherSource: c.other, Second: c.second}}
		asked := 0
		for _, l := range uk.Practice.Survey.Of(&s, usual).Leave {
			if strings.HasPrefix(l.Field, "survey.supply.second") {
				asked++
			}
		}
		if asked != c.asked {
			t.Errorf("%s: %d are asked, want %d", c.name, asked, c.asked)
		}
	}
}

// TestMendedIsAskedLess: the survey of a repair of the charger alone asks of nothing that only making a circuit needs, and of loads and
// vehicles where more may be drawn after; each question's field closes it.
func TestMendedIsAskedLess(t *testing.T) {
	for _, in := range jurisdiction.All() {
		for raises, want := range map[bool]string{false: "supply board positions consents photos", true: "supply board loads vehicles positions route consents photos"} {
			s := job.Survey{Places: []job.Place{{Point: "A"}}}
			v := in.Survey.Mended(&s, raises)
			var ids []string
			for _, s := range v.Sections {
				ids = append(ids, string(s.ID))
			}
			if got := strings.Join(ids, " "); got != want {
				t.Errorf("%s, more %v: %s", in.ID, raises, got)
			}
			if whole := in.Survey.Of(&s, usual); len(v.Leave) >= len(whole.Leave) || !slices.IsSortedFunc(v.Leave, func(a, b visit.Lack) int { return int(b.Cost - a.Cost) }) {
				t.Errorf("%s, more %v: asks %d of %d: %+v", in.ID, raises, len(v.Leave), len(whole.Leave), v.Leave)
			}
		}
		s := job.Survey{
			Supply: job.Supply{System: job.TNS, Phases: 1, Rating: 100, RatingSeen: job.Yes, Voltage: "239", Condition: "sound", OtherSource: job.No, MainsSwitchAt: "at the board"},
			Board:  job.Board{Label: "the hall"}, Places: []job.Place{{Point: "A", Name: "drive", Outdoors: job.Yes}}, Consent: job.Consent{Landlord: job.No},
		}
		for _, k := range visit.LeftPhotos {
			s.Photos = append(s.Photos, job.Photo{Kind: job.PhotoKind(k)})
		}
		if v := in.Survey.Mended(&s, false); len(v.Leave) > 0 {
			t.Errorf("%s: still asked: %+v", in.ID, v.Leave)
		}
	}
}
