package job

import (
	"testing"
)

// TestDiffer: each field that differs is told once, by what it is and where, with both values;
// things of a list belong together by their id, point or place.
func TestDiffer(t *testing.T) {
	read := func() *Job {
		j, err := Read(example(t, "uk-pass.json"))
		if err != nil {
			t.Fatal(err)
		}
		return &j
	}
	for _, c := range []struct {
		name   string
		change func(*Job)
		want   []Difference
	}{
		{"nothing", func(*Job) {}, nil},
		{"a number", func(j *Job) { j.Design.Circuits[0].Setting = 16 }, []Difference{{Field: "design.circuits.A.setting",
			Title: "Largest current that the charger is set to draw, A per phase (design, circuit A)", Was: "32", Now: "16"}}},
		{"words that a record tells otherwise", func(j *Job) { j.Design.Circuits[0].Earthing.OpenPEN = PENTT }, []Difference{{Field: "design.circuits.A.earthing.openPen",
			Title: "Way by which open-PEN protection is given, as listed in 722.411.4.1, or the point made TT (design, circuit A, earthing)",
			Was:   PENVoltage.Said(), Now: "point made TT"}}},
		{"what was not there", func(j *Job) { j.Site.Note = "ring twice" }, []Difference{{Field: "site.note", Title: "Anything the crew should know before they arrive (site)", Now: "ring twice"}}},
		{"what is no more", func(j *Job) { j.Design.Circuits[0].Why = "" }, nil},
		{"a thing of a list", func(j *Job) { j.Survey.Places[0].Route = j.Survey.Places[0].Route[:1] }, nil},
		{"the log", func(j *Job) { j.Log = nil }, nil},
	} {
		was, now := read(), read()
		was.Design.Circuits[0].Earthing.OpenPEN = PENVoltage
		now.Design.Circuits[0].Earthing.OpenPEN = PENVoltage
		c.change(now)
		got, err := Differ(was, now)
		if err != nil {
			t.Fatal(err)
		}
		switch c.name {
		case "what is no more", "a thing of a list":
			for _, d := range got {
				if d.Now != "" || d.Was == "" {
					t.Errorf("%s: %+v", c.name, d)
				}
			}
			continue
		}
		if len(got) != len(c.want) {
			t.Errorf("%s: %+v", c.name, got)
			continue
		}
		for i := range got {
			if got[i] != c.want[i] {
				t.Errorf("%s: %+v, want %+v", c.name, got[i], c.want[i])
			}
		}
	}
	// The other way round everything is swapped, and a job does not differ from itself.
	a, b := read(), read()
	b.Survey.Vehicles = append(b.Survey.Vehicles, Vehicle{Name: "van", OnBoard: 7400})
	b.Survey.Supply.Rating = 80
	there, err := Differ(a, b)
	if err != nil || len(there) != 3 {
		t.Fatal(there, err)
	}
	back, err := Differ(b, a)
	if err != nil || len(back) != len(there) {
		t.Fatal(back, err)
	}
	for i := range there {
		if there[i].Was != back[i].Now || there[i].Now != back[i].Was || there[i].Title != back[i].Title {
			t.Errorf("%+v against %+v", there[i], back[i])
		}
	}
}
