package rooms

import (
	"encoding/json"
	"errors"
	"maps"
	"slices"
	"strings"
	"testing"

	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/schema"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/people"
)

// TestMapping: a file with its own heading is read once its columns are told
// apart, and from then on by itself; every line's fate is shown before.
func TestMapping(t *testing.T) {
	a := newApp(t)
	v := tested(t, a, "uk-fail.json")
	id, proof := v.Summary.ID, len(v.Job.Log)
	file := []byte("When,Test,Result,Serial\n04/05/2026 10:10,R1+R2,0.19,7F\n04/05/2026 10:20,Zs,220m,\n04/05/2026 10:13,Mood,1,7F\n")
	p, err := a.Journal.PreviewReadings(ctx, installer, id, file)
	if err != nil || !slices.Equal(p.Heading, []string{"When", "Test", "Result", "Serial"}) || len(p.Lines) != 0 {
		t.Fatalf("%+v %v", p, err)
	}
	if _, err := a.Journal.ImportReadings(ctx, installer, id, file); err == nil || !strings.Contains(err.Error(), "line 1: the heading") {
		t.Errorf("taken without a mapping: %v", err)
	}
	m := commission.Mapping{Instrument: "7F", Columns: map[string]string{"test": "Test", "value": "Result", "instrument": "Serial", "at": "When"}, Point: "A", Layout: "day-first",
		Tests: map[string]string{"r1+r2": "r1r2"}}
	for name, c := range map[string]struct {
		change func(*commission.Mapping)
		want   string
	}{
		"no value":  {func(m *commission.Mapping) { delete(m.Columns, "value") }, "columns.value"},
		"no point":  {func(m *commission.Mapping) { m.Point = "" }, "point"},
		"no test":   {func(m *commission.Mapping) { m.Tests["r1+r2"] = "mood" }, "tests.r1+r2"},
		"no layout": {func(m *commission.Mapping) { m.Layout = "stars" }, "layout"},
		"no name":   {func(m *commission.Mapping) { m.Instrument = " " }, "instrument"},
	} {
		t.Run(name, func(t *testing.T) {
			x := m
			x.Columns, x.Tests = maps.Clone(m.Columns), maps.Clone(m.Tests)
			c.change(&x)
			var fields schema.Errors
			if _, err := a.Journal.SaveMapping(ctx, installer, x); !errors.As(err, &fields) || fields[0].Field != c.want {
				t.Errorf("%s: %v", name, err)
			}
		})
	}
	if _, err := a.Journal.SaveMapping(ctx, surveyor, m); !errors.Is(err, people.ErrForbidden) {
		t.Errorf("a surveyor: %v", err)
	}
	for range 2 { // saved again, it stands once
		if list, err := a.Journal.SaveMapping(ctx, installer, m); err != nil || len(list) != 1 {
			t.Fatalf("%v %v", list, err)
		}
	}
	p, err = a.Journal.PreviewReadings(ctx, installer, id, file)
	if err != nil || p.Taken != 1 || p.Refused != 2 || p.Lines[0].At != "2026-05-04T09:10:00Z" || p.Lines[1].Instrument != "7F" || !strings.Contains(p.Lines[2].Why, "not a test") {
		t.Fatalf("%+v %v", p, err)
	}
	if _, err := a.Journal.ImportReadings(ctx, installer, id, file); err == nil || !strings.Contains(err.Error(), "line 4") {
		t.Errorf("a file with a bad line: %v", err)
	}
	file = []byte(strings.Replace(string(file), "04/05/2026 10:13,Mood,1", "04/05/2026 10:13,Ze,0.1", 1))
	m.Tests["zs"], m.Tests["ze"] = "zs", "ze"
	if _, err := a.Journal.SaveMapping(ctx, installer, m); err != nil {
		t.Fatal(err)
	}
	w, err := a.Journal.ImportReadings(ctx, installer, id, file)
	if err != nil || len(w.Job.Log) != proof+3 {
		t.Fatalf("%d entries, %v", len(w.Job.Log), err)
	}
	if p, err = a.Journal.PreviewReadings(ctx, installer, id, file); err != nil || p.There != 3 || p.Taken != 0 {
		t.Errorf("read again: %+v %v", p, err)
	}
	if w, err = a.Journal.ImportReadings(ctx, installer, id, file); err != nil || len(w.Job.Log) != proof+3 {
		t.Errorf("taken twice: %d entries, %v", len(w.Job.Log), err)
	}
}

func TestReadingsJSON(t *testing.T) {
	a := newApp(t)
	v := tested(t, a, "uk-fail.json")
	proof := len(v.Job.Log)
	f := commission.File{Format: commission.FileFormat, Readings: []commission.Row{{Point: "A", Test: commission.Zs, Value: "220m", Instrument: "7F", At: "2026-05-04T09:20:00Z"}}}
	send := func(f commission.File) (jobs.View, error) {
		b, err := json.Marshal(f)
		if err != nil {
			t.Fatal(err)
		}
		return a.Journal.ImportReadings(ctx, installer, v.Summary.ID, b)
	}
	if w, err := send(f); err != nil || len(w.Job.Log) != proof+1 || w.Job.Log[len(w.Job.Log)-1].Value != "220m" {
		t.Fatalf("%+v %v", w.Job.Log, err)
	}
	f.Format = "dogbolt.readings/9"
	if _, err := send(f); err == nil || !strings.Contains(err.Error(), "format") {
		t.Errorf("another format: %v", err)
	}
	if _, err := a.Journal.ImportReadings(ctx, installer, v.Summary.ID, []byte(`{"format":"dogbolt.readings/1","readings":[],"more":1}`)); err == nil {
		t.Error("an unknown field is taken")
	}
}

// TestClash: two who change different fields are joined, the same field has to be
// chosen, and a choice holds only for what was seen.
func TestClash(t *testing.T) {
	a := newApp(t)
	v := imported(t, a, "uk-fail.json")
	id := v.Summary.ID
	base, err := json.Marshal(v.Job.Survey)
	if err != nil {
		t.Fatal(err)
	}
	edit := func(change func(*job.Survey)) []byte {
		var s job.Survey
		if err := json.Unmarshal(base, &s); err != nil {
			t.Fatal(err)
		}
		change(&s)
		b, err := json.Marshal(s)
		if err != nil {
			t.Fatal(err)
		}
		return b
	}
	seen := v.Revisions["survey"]
	theirs := edit(func(s *job.Survey) { s.Supply.Rating, s.Supply.Condition = 60, "doubtful" })
	if _, err := a.Jobs.SaveSection(ctx, office, id, "survey", jobs.Edit{Seen: seen, Body: theirs, Base: base}); err != nil {
		t.Fatal(err)
	}
	apart := edit(func(s *job.Survey) { s.Board.Label = "in the cellar" })
	w, err := a.Jobs.SaveSection(ctx, surveyor, id, "survey", jobs.Edit{Seen: seen, Body: apart, Base: base})
	if err != nil || w.Job.Survey.Supply.Rating != 60 || w.Job.Survey.Board.Label != "in the cellar" {
		t.Fatalf("%+v %v", w.Job.Survey.Supply, err)
	}
	mine := edit(func(s *job.Survey) { s.Supply.Rating = 80 })
	var clash jobs.ClashError
	if _, err := a.Jobs.SaveSection(ctx, surveyor, id, "survey", jobs.Edit{Seen: seen, Body: mine, Base: base}); !errors.As(err, &clash) || len(clash.Clashes) != 1 {
		t.Fatalf("%+v %v", clash, err)
	}
	c := clash.Clashes[0]
	if c.Field != "supply.rating" || string(c.Mine) != "80" || string(c.Theirs) != "60" || !strings.Contains(c.Title, "cutout") {
		t.Errorf("%+v", c)
	}
	choose := []job.Choice{{Field: c.Field, Take: "mine", Seen: c.Theirs}}
	if w, err = a.Jobs.SaveSection(ctx, surveyor, id, "survey", jobs.Edit{Seen: seen, Body: mine, Base: base, Choices: choose}); err != nil || w.Job.Survey.Supply.Rating != 80 || w.Job.Survey.Supply.Condition != "doubtful" || w.Job.Survey.Board.Label != "in the cellar" {
		t.Errorf("%+v %v", w.Job.Survey.Supply, err)
	}
	// Without a base nobody is overwritten.
	if _, err := a.Jobs.SaveSection(ctx, surveyor, id, "survey", jobs.Edit{Seen: seen, Body: mine}); err == nil {
		t.Error("an old revision without its base is taken")
	}
}

// TestMine: a device carries what its person's crew is booked for, and what comes
// next where that is nothing.
func TestMine(t *testing.T) {
	a := newApp(t)
	v := imported(t, a, "uk-pass.json")
	list, err := a.Jobs.Mine(ctx, installer)
	if err != nil || len(list) != 1 || list[0].ID != v.Summary.ID {
		t.Fatalf("%+v %v", list, err)
	}
	list, err = a.Jobs.Mine(ctx, people.Person{Name: "Nobody", Roles: people.Roles{people.Installer}})
	if err != nil || len(list) != 0 {
		t.Errorf("without a crew, and crews see their own alone: %+v %v", list, err)
	}
	policy, err := a.Firm.PolicyNow(ctx)
	if err != nil {
		t.Fatal(err)
	}
	policy.OpenJobs = true
	if err := a.Firm.SetPolicy(ctx, office, policy); err != nil {
		t.Fatal(err)
	}
	list, err = a.Jobs.Mine(ctx, people.Person{Name: "Nobody", Roles: people.Roles{people.Installer}})
	if err != nil || len(list) != 1 {
		t.Errorf("without a crew: %+v %v", list, err)
	}
}
