package job

import (
	"encoding/json"
	"errors"
	"os"
	"strings"
	"testing"
	"time"
)

// example reads one of the published example files.
func example(t testing.TB, name string) []byte {
	t.Helper()
	b, err := os.ReadFile("../../docs/formats/examples/" + name)
	if err != nil {
		t.Fatal(err)
	}
	return b
}

func TestReadExamples(t *testing.T) {
	for _, name := range []string{"uk-pass.json", "uk-fail.json", "us-pass.json", "us-fail.json"} {
		j, err := Read(example(t, name))
		if err != nil {
			t.Errorf("%s: %v", name, err)
			continue
		}
		if len(j.Points()) != 1 || j.Points()[0].Circuit.Setting == 0 {
			t.Errorf("%s: points %+v", name, j.Points())
		}
		// What is read is what is written.
		back, err := json.Marshal(j)
		if err != nil {
			t.Fatal(err)
		}
		again, err := Read(back)
		if err != nil {
			t.Fatalf("%s read, written and read again: %v", name, err)
		}
		a, _ := json.Marshal(again)
		if string(a) != string(back) {
			t.Errorf("%s changes when it is written and read again", name)
		}
	}
}

// changed returns the passing UK example with one text replaced.
func changed(t *testing.T, old, new string) []byte {
	t.Helper()
	s := string(example(t, "uk-pass.json"))
	if !strings.Contains(s, old) {
		t.Fatalf("the example has no %q", old)
	}
	return []byte(strings.Replace(s, old, new, 1))
}

// TestReadRefuses: each mistake is named by its field or its line.
func TestReadRefuses(t *testing.T) {
	for _, c := range []struct{ name, old, new, want string }{
		{"newer format", `"dogbolt.job/2"`, `"dogbolt.job/3"`, "format: version 3 is newer than this program reads (2): update the program"},
		{"other format", `"dogbolt.job/2"`, `"invoice/1"`, `format: "invoice/1" is not a job file`},
		{"no format", `"dogbolt.job/2"`, `""`, "format: missing"},
		{"odd version", `"dogbolt.job/2"`, `"dogbolt.job/x"`, `format: version "x" is not known`},
		{"no number", `"EX-UK-0001"`, `" "`, "number: missing"},
		{"negative length", `"length": 11`, `"length": -11`, "survey.places[0].route[0].length: -11 m: cannot be negative"},
		{"absurd length", `"length": 11`, `"length": 11000`, "survey.places[0].route[0].length: 11000 m: more than 1000 m is not believed"},
		{"a board of a billion poles", `"board": {`, `"board": {"slots": [{"at": 1, "poles": 1000000000}],`, "survey.board.slots[0].poles: 1e+09 is not one of 1 2 3"},
		{"absurd amps", `"setting": 32`, `"setting": 3200`, "design.circuits[0].setting: 3200 A: more than 200 A"},
		{"unknown method", `"method": "surface"`, `"method": "levitating"`, `survey.places[0].route[0].method: "levitating" is not one of`},
		{"unknown system", `"system": "tn-c-s"`, `"system": "tn-x"`, `survey.supply.system: "tn-x" is not one of`},
		{"unknown answer", `"ratingSeen": "yes"`, `"ratingSeen": "maybe"`, `survey.supply.ratingSeen: "maybe" is not one of yes, no`},
		{"phases", `"phases": 1`, `"phases": 2`, "survey.supply.phases: 2 is not one of 1 3"},
		{"hot as an oven", `"ambient": 35`, `"ambient": 350`, "survey.places[0].route[1].ambient: 350 °C: more than 80 °C is not believed"},
		{"misspelt field", `"setting": 32`, `"seting": 32`, "design.circuits[0].seting: is not a field"},
		{"wrong type", `"setting": 32`, `"setting": "32"`, "design.circuits[0].setting: is text, not a number"},
		{"broken", `"survey": {`, `"survey": {{`, "line "},
		{"no kind of entry", `"kind": "step"`, `"kind": ""`, `log[0].kind: "" is not one of`},
		{"unknown kind of entry", `"kind": "step"`, `"kind": "dance"`, `log[0].kind: "dance" is not one of`},
		{"id twice", `"demo-EX-UK-0001-002"`, `"demo-EX-UK-0001-001"`, `log[1].id: "demo-EX-UK-0001-001" is used twice`},
		{"short id", `"demo-EX-UK-0001-002"`, `"x"`, "log[1].id: has 1 characters; it has at least 8"},
		{"answered before sent", `"granted": "2026-04-25"`, `"granted": "2020-01-01"`, ""},
		{"point twice", `"places": [`, `"places": [{"point": "A"},`, `survey.places[1].point: "A" is used twice`},
		{"no time of day", `"departure": "07:00"`, `"departure": "7 am"`, `survey.vehicles[0].departure: "7 am" is not a time of day`},
		{"circuit twice", `"circuits": [`, `"circuits": [{"point": "A"},`, `design.circuits[1].point: "A" is used twice`},
	} {
		t.Run(c.name, func(t *testing.T) {
			if c.want == "" {
				return
			}
			_, err := Read(changed(t, c.old, c.new))
			if err == nil || !strings.Contains(err.Error(), c.want) {
				t.Errorf("%s: %v, want %q", c.name, err, c.want)
			}
		})
	}
}

func TestReadNamesTheLine(t *testing.T) {
	_, err := Read([]byte("{\n\"format\": \"dogbolt.job/2\",\n\"number\": oops\n}"))
	if err == nil || !strings.Contains(err.Error(), "line 3") {
		t.Errorf("%v", err)
	}
	if _, err := Read(make([]byte, MaxFile+1)); err == nil || !strings.Contains(err.Error(), "at most 8 MB") {
		t.Errorf("a large file: %v", err)
	}
	if _, err := Read(nil); err == nil {
		t.Error("an empty file is a job")
	}
}

// TestValidateAll: every mistake is reported, not only the first.
func TestValidateAll(t *testing.T) {
	j := Job{Format: Format, Number: "x", Rulebook: "y"}
	j.Survey.Supply = Supply{Rating: -1, DeclaredZe: -2}
	j.Design.Circuits = []Circuit{{Point: "A", Setting: -3}}
	errs := j.Check()
	if len(errs) != 3 {
		t.Errorf("%d mistakes found: %v", len(errs), errs)
	}
	var f FieldError
	if !errors.As(error(errs[0]), &f) || f.Field != "survey.supply.rating" {
		t.Errorf("first mistake: %v", errs[0])
	}
}

func TestSentBeforeGranted(t *testing.T) {
	j := Job{Number: "x", Rulebook: "y", Clearances: Clearances{Papers: []Paper{{ID: "p", Sent: "2026-05-04", Granted: "2026-05-03"}}}}
	if errs := j.Validate(); len(errs) != 1 || errs[0].Field != "clearances.papers[0].granted" {
		t.Errorf("%v", errs)
	}
}

func TestPoints(t *testing.T) {
	j := Job{
		Survey: Survey{Places: []Place{{Point: "A"}, {Point: "B"}}},
		Design: Design{Circuits: []Circuit{{Point: "B", Setting: 16}}},
	}
	points := j.Points()
	if len(points) != 2 || points[0].Circuit.Setting != 0 || points[1].Circuit.Setting != 16 {
		t.Errorf("%+v", points)
	}
	if p, ok := j.Point("B"); !ok || p.Circuit.Setting != 16 {
		t.Errorf("point B: %+v %t", p, ok)
	}
	if _, ok := j.Point("C"); ok {
		t.Error("there is a point C")
	}
}

func TestPlace(t *testing.T) {
	p := Place{Route: []Segment{{Method: Surface, Length: 3}, {Method: Buried, Length: 4.5}}}
	if p.Length() != 7.5 || !p.Surveyed() {
		t.Errorf("%g m, surveyed %t", float64(p.Length()), p.Surveyed())
	}
	for _, bad := range []Place{{}, {Route: []Segment{{Method: Surface}}}, {Route: []Segment{{Length: 3}}}} {
		if bad.Surveyed() {
			t.Errorf("%+v counts as surveyed", bad)
		}
	}
}

// TestLatest: the newest entry counts; a replaced one does not, even where its
// replacement is about something else.
func TestLatest(t *testing.T) {
	at := time.Date(2026, 5, 4, 9, 0, 0, 0, time.UTC)
	e := func(id, subject, value, replaces string) Entry {
		at = at.Add(time.Minute)
		return Entry{ID: id, Kind: ReadingMade, Point: "A", Subject: subject, Value: value, Replaces: replaces, At: at}
	}
	j := Job{Log: []Entry{e("1", "zs", "0.9", ""), e("2", "zs", "0.5", "1"), e("3", "ze", "0.3", "")}}
	if got, ok := j.Latest(ReadingMade, "A", "zs"); !ok || got.Value != "0.5" {
		t.Errorf("zs: %+v", got)
	}
	if _, ok := j.Latest(ReadingMade, "B", "zs"); ok {
		t.Error("point B has a reading")
	}
	if _, ok := j.Latest(TorqueMade, "A", "zs"); ok {
		t.Error("a reading counts as a torque")
	}
	j.Log = append(j.Log, e("4", "note", "wrong point", "3"))
	if _, ok := j.Latest(ReadingMade, "A", "ze"); ok {
		t.Error("a replaced reading still counts")
	}
}

func TestPaperDone(t *testing.T) {
	for _, c := range []struct {
		p    Paper
		want bool
	}{
		{Paper{}, false}, {Paper{Needed: Yes}, false}, {Paper{Needed: Yes, Sent: "2026-05-04"}, false}, {Paper{Needed: Yes, Granted: "2026-05-09"}, true},
		{Paper{Needed: No}, false}, {Paper{Needed: No, Reason: "owner lives there"}, true}, {Paper{Granted: "2026-05-09"}, false},
	} {
		if c.p.Done() != c.want {
			t.Errorf("%+v done: %t", c.p, c.p.Done())
		}
	}
}

// FuzzRead: no file makes the reader panic, and what it accepts is valid.
func FuzzRead(f *testing.F) {
	for _, name := range []string{"uk-pass.json", "us-fail.json"} {
		f.Add(example(f, name))
	}
	f.Add([]byte(`{"format":"dogbolt.job/2"}`))
	f.Add([]byte(`{"format":"dogbolt.job/2","number":"1","rulebook":"nec:2023","survey":{"places":[{"point":"A","route":[{"length":1e999}]}]}}`))
	f.Add([]byte(`[]`))
	f.Fuzz(func(t *testing.T, data []byte) {
		j, err := Read(data)
		if err == nil {
			if errs := j.Validate(); len(errs) > 0 {
				t.Fatalf("accepted with %v", errs)
			}
		}
	})
}
