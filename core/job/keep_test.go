package job

import (
	"encoding/json"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"
)

// keepCase edits the survey of the example and says what is kept of it and what is held back.
type keepCase struct {
	name string
	edit func(*Survey)
	kept func(*Survey) bool // nil: nothing of it
	held []string           // place: message, in part
}

var keepCases = []keepCase{
	{"all of it", func(s *Survey) { s.Supply.Rating = 80 }, func(s *Survey) bool { return s.Supply.Rating == 80 }, nil},
	{
		"a wall without its thickness, beside a rating",
		func(s *Survey) {
			s.Supply.Rating = 80
			s.Places[0].Route = append(s.Places[0].Route, Segment{Method: ThroughWall})
		},
		func(s *Survey) bool { return s.Supply.Rating == 80 && len(s.Places[0].Route) == 2 },
		[]string{"survey.places[0].route[2].wall: how thick is the wall?"},
	},
	{
		"a length that is not believed, beside another in the same place",
		func(s *Survey) { s.Places[0].Route[0].Length, s.Places[0].HolderHeight = 11000, 1.1 },
		func(s *Survey) bool { return s.Places[0].Route[0].Length == 11 && s.Places[0].HolderHeight == 1.1 },
		[]string{"survey.places[0].route[0].length: 11000 m"},
	},
	{
		"a vehicle in a bay that comes with it",
		func(s *Survey) {
			s.SitePlan.Bays = append(s.SitePlan.Bays, Bay{ID: "new", Length: 5, Width: 2.5})
			s.Vehicles[0].Bay = "new"
			s.Supply.Rating = -1
		},
		func(s *Survey) bool {
			return s.Vehicles[0].Bay == "new" && s.SitePlan.Bays[len(s.SitePlan.Bays)-1].ID == "new" && s.Supply.Rating == 100
		},
		[]string{"survey.supply.rating: -1 A"},
	},
	{
		"a place at a position that comes after it",
		func(s *Survey) {
			s.SitePlan.Positions = append(s.SitePlan.Positions, Position{ID: "Q", At: &XY{X: 20}})
			s.Places[0].Position, s.Supply.Rating = "Q", -1
		},
		func(s *Survey) bool { return s.Places[0].Position == "Q" && len(s.SitePlan.Positions) == 1 },
		[]string{"survey.supply.rating: -1 A"},
	},
	{
		"a vehicle in a bay that is not there, beside its name",
		func(s *Survey) { s.Vehicles[0].Bay, s.Vehicles[0].Name = "nowhere", "the van" },
		func(s *Survey) bool { return s.Vehicles[0].Bay != "nowhere" && s.Vehicles[0].Name == "the van" },
		[]string{`survey.vehicles[0].bay: the site plan has no bay "nowhere"`},
	},
	{
		"two wrong at once, of two kinds",
		func(s *Survey) {
			s.Supply.Rating, s.Vehicles[0].Bay, s.Supply.MainsSwitchAt = -1, "nowhere", "under the stairs"
		},
		func(s *Survey) bool { return s.Supply.Rating == 100 && s.Supply.MainsSwitchAt == "under the stairs" },
		[]string{"survey.supply.rating: -1 A", "survey.vehicles[0].bay: the site plan has no bay"},
	},
	{
		"a row without a key after one that is held",
		func(s *Survey) {
			s.Places[0].Route = append(s.Places[0].Route, Segment{Method: ThroughWall}, Segment{Method: Surface, Length: 3})
		},
		func(s *Survey) bool { return len(s.Places[0].Route) == 2 },
		[]string{"survey.places[0].route[2].wall: how thick", "survey.places[0].route[3]: comes after a row that could not be kept"},
	},
}

// TestKeep: what can be kept of an edit is kept, field by field, and what cannot be is named
// where it stands.
func TestKeep(t *testing.T) {
	part, _ := FindSection(SurveySection)
	for _, c := range keepCases {
		t.Run(c.name, func(t *testing.T) {
			j := exampleJob(t)
			if len(j.Survey.SitePlan.Bays) == 0 {
				j.Survey.SitePlan.Bays = []Bay{{ID: "b1", Length: 5, Width: 2.5}}
			}
			base := written(t, &j)
			edited := j
			if err := json.Unmarshal(base, &edited.Survey); err != nil {
				t.Fatal(err)
			}
			c.edit(&edited.Survey)
			body, held, err := part.Keep(&j, base, written(t, &edited))
			if err != nil {
				t.Fatal(err)
			}
			if len(held) != len(c.held) {
				t.Errorf("held back %v, want %v", held, c.held)
			}
			for _, want := range c.held {
				if !slices.ContainsFunc(held, func(e FieldError) bool { return strings.HasPrefix(e.Error(), want) }) {
					t.Errorf("held back %v, want %q", held, want)
				}
			}
			if errs := part.Read(&j, body); len(errs) > 0 {
				t.Fatalf("what is kept is not valid: %v", errs)
			}
			if errs := j.Validate(); len(errs) > 0 || !c.kept(&j.Survey) {
				t.Errorf("kept %s, errors %v", body, errs)
			}
		})
	}
}

// TestKeepAtRandom: whatever is edited, what is kept is valid; an edit that is valid is kept
// whole; and an edit of two fields of which one is wrong loses nothing but that.
func TestKeepAtRandom(t *testing.T) {
	part, _ := FindSection(SurveySection)
	j := exampleJob(t)
	base := written(t, &j)
	r := rand.New(rand.NewPCG(16, 2))
	places := leaves("", mustDecode(t, base))
	wrong := 0
	for range 300 {
		doc := mustDecode(t, base)
		var edited []string
		for range 1 + r.IntN(4) {
			place := places[r.IntN(len(places))]
			edited = append(edited, place)
			set(doc, strings.Split(place, "/")[1:], []any{nil, "", "x", json.Number("-5"), json.Number("0"), json.Number("1e9"), []any{}, map[string]any{}}[r.IntN(8)])
		}
		data, err := json.Marshal(doc)
		if err != nil {
			t.Fatal(err)
		}
		whole := j
		valid := len(part.Read(&whole, data)) == 0 && len(whole.Validate()) == 0
		k := j
		body, held, err := part.Keep(&k, base, data)
		if err != nil {
			t.Fatalf("%v: %v", edited, err)
		}
		if errs := part.Read(&k, body); len(errs) > 0 || len(k.Validate()) > 0 {
			t.Errorf("%v: what is kept is not valid: %v", edited, errs)
		}
		if valid != (len(held) == 0) || valid && string(body) != string(data) {
			t.Errorf("%v: valid %v, held back %v", edited, valid, held)
		}
		if !valid {
			wrong++
		}
		// What was not edited is as it was.
		kept := leavesOf("", mustDecode(t, body))
		for at, v := range leavesOf("", mustDecode(t, base)) {
			if kept[at] != v && !slices.ContainsFunc(edited, func(e string) bool { return strings.HasPrefix(at, e) }) {
				t.Errorf("%v: %s was %s and is %q", edited, at, v, kept[at])
			}
		}
	}
	if wrong < 100 {
		t.Errorf("only %d of 300 edits were wrong: this tests little", wrong)
	}
}

func exampleJob(t *testing.T) Job {
	t.Helper()
	j, err := Read(example(t, "uk-pass.json"))
	if err != nil {
		t.Fatal(err)
	}
	return j
}

func written(t *testing.T, j *Job) []byte {
	t.Helper()
	data, err := json.Marshal(j.Survey)
	if err != nil {
		t.Fatal(err)
	}
	return data
}

func mustDecode(t *testing.T, data []byte) any {
	t.Helper()
	v, err := decoded(data)
	if err != nil {
		t.Fatal(err)
	}
	return v
}

// leaves lists the places of a document's values: /supply/rating, /places/0/route/1/length.
func leaves(at string, v any) []string {
	var out []string
	for place := range leavesOf(at, v) {
		out = append(out, place)
	}
	slices.Sort(out)
	return out
}

func leavesOf(at string, v any) map[string]string {
	out := map[string]string{}
	add := func(name string, v any) {
		for place, text := range leavesOf(at+"/"+name, v) {
			out[place] = text
		}
	}
	switch v := v.(type) {
	case map[string]any:
		for name, x := range v {
			add(name, x)
		}
	case []any:
		for i, x := range v {
			add(string(rune('0'+i)), x)
		}
	default:
		text, _ := json.Marshal(v)
		out[at] = string(text)
	}
	return out
}

func set(doc any, path []string, to any) {
	for i, name := range path {
		last := i == len(path)-1
		switch v := doc.(type) {
		case map[string]any:
			if last {
				v[name] = to
			}
			doc = v[name]
		case []any:
			n := int(name[0] - '0')
			if n >= len(v) {
				return
			}
			if last {
				v[n] = to
			}
			doc = v[n]
		}
	}
}
