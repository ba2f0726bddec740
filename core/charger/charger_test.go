package charger

import (
	"encoding/json"
	"slices"
	"strings"
	"testing"

	"dogbolt/core/job"
)

func TestTypes(t *testing.T) {
	schools := map[string]int{}
	for _, x := range Types() {
		schools[x.Country]++
		if !strings.Contains(x.Source, "made up") || x.Torque == 0 || x.Strip == 0 || len(x.Entries) == 0 || x.Firmware == "" {
			t.Errorf("%+v", x)
		}
		if a, ok := x.Nearest(float64(x.Charger.Rating)); !ok || a != float64(x.Charger.Rating) {
			t.Errorf("%s cannot be set to its rating: %g", x.ID, a)
		}
		// Every line of a table gives its own positions back.
		for _, r := range x.Setting.Table {
			pos, err := x.Positions(r.Amps)
			if err != nil || len(pos) != len(x.Setting.Names) {
				t.Fatal(x.ID, err)
			}
			for _, p := range pos {
				if p.On != slices.Contains(r.On, p.Name) {
					t.Errorf("%s, %g A: %+v", x.ID, r.Amps, pos)
				}
			}
		}
	}
	if schools["uk"] < 3 || schools["us"] < 3 {
		t.Errorf("%v", schools)
	}
}

func TestPositions(t *testing.T) {
	x, ok := Of(job.Charger{Type: "wall unit 48 A, hard-wired"}, nil)
	if !ok {
		t.Fatal("no such type")
	}
	if pos, err := x.Positions(40); err != nil || pos[0].On || pos[1].On || !pos[2].On {
		t.Errorf("%+v %v", pos, err)
	}
	if _, err := x.Positions(44); err == nil || !strings.Contains(err.Error(), "next lower is 40 A") {
		t.Error(err)
	}
	if _, err := x.Positions(6); err == nil || !strings.Contains(err.Error(), "below everything") {
		t.Error(err)
	}
	if a, ok := x.Nearest(47.9); !ok || a != 40 {
		t.Errorf("%g %t", a, ok)
	}
	if _, ok := Of(job.Charger{Type: "our own words"}, nil); ok {
		t.Error("a type that there is not")
	}
}

func TestParse(t *testing.T) {
	for name, change := range map[string]func(*Type){
		"switch that there is not": func(x *Type) { x.Setting.Table[1].On = []string{"9"} },
		"by the same switches":     func(x *Type) { x.Setting.Table[1].On = x.Setting.Table[0].On },
		"more than its rating":     func(x *Type) { x.Setting.Table[0].Amps = 63 },
		"[0].id: missing":          func(x *Type) { x.ID = "" },
	} {
		t.Run(name, func(t *testing.T) {
			list, err := Parse(typesJSON) // the shared list stays as it is
			if err != nil {
				t.Fatal(err)
			}
			change(&list[0])
			b, err := json.Marshal(list)
			if err != nil {
				t.Fatal(err)
			}
			if _, err := Parse(b); err == nil || !strings.Contains(err.Error(), name) {
				t.Errorf("%s: %v", name, err)
			}
		})
	}
	if _, err := Parse([]byte("{")); err == nil {
		t.Error("half a file")
	}
}
