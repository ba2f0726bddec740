package job

import (
	"slices"
	"strings"
	"testing"

	"dogbolt/core/quantity"
)

// TestSiteValues: measures that cannot be are named by their field.
func TestSiteValues(t *testing.T) {
	digest := strings.Repeat("0a", 32)
	at := func(x, y quantity.Metre) XY { return XY{X: x, Y: y} }
	cases := []struct {
		name   string
		change func(*Survey)
		field  string // "" where nothing is wrong
		says   string
	}{
		{"an empty plan", func(*Survey) {}, "", ""},
		{"a wall without length", func(s *Survey) { s.SitePlan.Walls = []Wall{{From: at(1, 1), To: at(1, 1)}} }, "survey.sitePlan.walls[0].to", "has a length"},
		{"a wall of 2 m", func(s *Survey) { s.SitePlan.Walls = []Wall{{To: at(1, 1), Thick: 2}} }, "survey.sitePlan.walls[0].thick", "not believed"},
		{"a door without width", func(s *Survey) { s.SitePlan.Doors = []Opening{{}} }, "survey.sitePlan.doors[0].to", "has a width"},
		{"a path without width", func(s *Survey) { s.SitePlan.Paths = []Walkway{{To: at(1, 0)}} }, "survey.sitePlan.paths[0].width", "measure it"},
		{"a bay of 0 m", func(s *Survey) { s.SitePlan.Bays = []Bay{{ID: "1", Width: 2.5}} }, "survey.sitePlan.bays[0].length", "measure it"},
		{"a bay of −1 m", func(s *Survey) { s.SitePlan.Bays = []Bay{{ID: "1", Width: -1, Length: 5}} }, "survey.sitePlan.bays[0].width", "negative"},
		{"two bays of one name", func(s *Survey) {
			s.SitePlan.Bays = []Bay{{ID: "1", Width: 2, Length: 5}, {ID: "1", Width: 2, Length: 5}}
		}, "survey.sitePlan.bays[1].id", "used twice"},
		{"an obstacle of 0 m", func(s *Survey) { s.SitePlan.Obstacles = []Obstacle{{Height: 1}} }, "survey.sitePlan.obstacles[0].width", "measure it"},
		{"two positions of one letter", func(s *Survey) { s.SitePlan.Positions = []Position{{ID: "A"}, {ID: "A"}} }, "survey.sitePlan.positions[1].id", "used twice"},
		{"a position without a letter", func(s *Survey) { s.SitePlan.Positions = []Position{{}} }, "survey.sitePlan.positions[0].id", "missing"},
		{"a bay that is not there", func(s *Survey) { s.Vehicles = []Vehicle{{Bay: "7"}} }, "survey.vehicles[0].bay", "no bay"},
		{"a position that is not there", func(s *Survey) { s.Places = []Place{{Point: "A", Position: "Z"}} }, "survey.places[0].position", "no position"},
		{"a wall that is not measured", func(s *Survey) { s.Places = []Place{{Point: "A", Route: []Segment{{Method: ThroughWall}}}} }, "survey.places[0].route[0].wall", "datum"},
		{"the same photo twice", func(s *Survey) {
			s.Photos = []Photo{{Digest: digest, Kind: "label"}, {Digest: digest, Kind: "meter"}}
		}, "survey.photos[1].digest", "twice"},
		{"a photo of what", func(s *Survey) { s.Photos = []Photo{{Digest: digest, Kind: "cat"}} }, "survey.photos[0].kind", "not one of"},
		{"a day of 25 values", func(s *Survey) { s.Supply.Profile = make([]float64, 25) }, "survey.supply.profile", "24, 48 or 96"},
		{"a loop at the end of no sub-main", func(s *Survey) { s.Board = Board{FedFrom: FromService, Loop: 0.5} }, "survey.board.loop", "on a sub-main"},
		{"the drop of no sub-main", func(s *Survey) { s.Board = Board{Drop: 1} }, "survey.board.drop", "on a sub-main"},
		{"a device past the board's end", func(s *Survey) { s.Board = Board{Layout: "columns", Ways: 4, Slots: []Slot{{At: 3, Poles: 2}}} }, "survey.board.slots[0].at", "the board has 4"},
		{"two devices in one place", func(s *Survey) {
			s.Board = Board{Layout: "rows", Ways: 4, Slots: []Slot{{At: 1, Poles: 2, Circuit: "main"}, {At: 2}}}
		}, "survey.board.slots[1].at", "holds main already"},
		{"a double of two poles", func(s *Survey) { s.Board = Board{Ways: 4, Slots: []Slot{{At: 1, Poles: 2, Double: "b"}}} }, "survey.board.slots[0].double", "one space"},
		{"doubles past the end", func(s *Survey) { s.Board = Board{Ways: 4, DoublesAt: []int{5}} }, "survey.board.doublesAt[0]", "no place 5"},
	}
	for _, c := range cases {
		j := Job{Format: Format, Number: "T", Rulebook: "r"}
		c.change(&j.Survey)
		errs := j.Check()
		if c.field == "" {
			if len(errs) > 0 {
				t.Errorf("%s: %v", c.name, errs)
			}
			continue
		}
		if !slices.ContainsFunc(errs, func(e FieldError) bool { return e.Field == c.field && strings.Contains(e.Message, c.says) }) {
			t.Errorf("%s: %v, want %s: %s", c.name, errs, c.field, c.says)
		}
	}
}

// TestMoneyValues: a night price is below the day's.
func TestMoneyValues(t *testing.T) {
	j := Job{Format: Format, Number: "T", Rulebook: "r"}
	j.Design.Money = Money{Day: 0.2, Night: 0.3}
	if errs := j.Check(); len(errs) != 1 || errs[0].Field != "design.money.night" {
		t.Errorf("%v", errs)
	}
	j.Design.Money = Money{NightFrom: "25:00"}
	if errs := j.Check(); len(errs) != 1 || errs[0].Field != "design.money.nightFrom" {
		t.Errorf("%v", errs)
	}
}

// TestSharedLimit: a limit counts only where two or more points keep to it.
func TestSharedLimit(t *testing.T) {
	j := Job{Design: Design{Sharing: "load-sharing", SharedTo: 40, Circuits: []Circuit{{Point: "A", Setting: 32}}}}
	if list := j.EVLoads(); len(list) != 1 || list[0] != 32 {
		t.Errorf("one point: %v", list)
	}
	j.Design.Circuits = append(j.Design.Circuits, Circuit{Point: "B", Setting: 32})
	if list := j.EVLoads(); len(list) != 1 || list[0] != 40 {
		t.Errorf("two under 40 A: %v", list)
	}
	j.Design.Sharing = "separate"
	if list := j.EVLoads(); len(list) != 2 {
		t.Errorf("separate: %v", list)
	}
	j.Survey.Places = []Place{{Point: "A"}, {Point: "B"}}
	j.Design.Sharing = "shared-limit"
	if p := j.Points(); !p[0].Circuit.Shares || !p[1].Circuit.Shares {
		t.Error("the points do not know that they share")
	}
}
