package job

import (
	"encoding/json"
	"strings"
	"testing"

	"dogbolt/core/quantity"
)

// subMain is a circuit that ends in a board.
func subMain() Circuit {
	other := quantity.Ampere(8)
	return Circuit{Point: "A", Connection: IntoBoard, Setting: 40, Charger: Charger{Fate: FateNone, Phases: 1, Terminals: 70}, Breaker: Breaker{Rating: 50},
		End: End{Ways: 6, Rating: 63, BreakingKA: 6, Other: &other, Space: Yes, Handle: 1.6, Disconnect: Yes, Electrode: Yes, Neutral: Yes}}
}

// TestEnd: a sub-main is a kind of its own, draws what its board draws, and takes nothing of a charger.
func TestEnd(t *testing.T) {
	c := subMain()
	if c.Kind() != SubMain || c.Unit() || !c.Charges() || !c.Neutral() || c.Draws() != 40 {
		t.Errorf("%s, draws %v", c.Kind(), c.Draws())
	}
	if c.Setting = 0; c.Draws() != 50 {
		t.Errorf("nobody knows what is drawn: %v", c.Draws())
	}
	if got := c.Said(); got != "breaker new; cable new; board at its end new" {
		t.Error(got)
	}
	for field, change := range map[string]func(*Circuit){
		"":                 func(*Circuit) {},
		"charger":          func(c *Circuit) { c.Charger.Rating = 32 },
		"existing":         func(c *Circuit) { c.Existing = Yes },
		"managedTo":        func(c *Circuit) { c.ManagedTo = 80 },
		"receptacle":       func(c *Circuit) { c.Receptacle.Rating = 50 },
		"settingGuarded":   func(c *Circuit) { c.Guarded = Yes },
		"dedicated":        func(c *Circuit) { c.Dedicated = No },
		"isolator":         func(c *Circuit) { c.Isolator = No },
		"disconnect":       func(c *Circuit) { c.Disconnect = Yes },
		"earthing.openPen": func(c *Circuit) { c.Earthing.OpenPEN = PENTT },
		"breaker.bothWays": func(c *Circuit) { c.Breaker.BothWays = Yes },
		"charger.fate":     func(c *Circuit) { c.Charger.Fate = "" },
		"end":              func(c *Circuit) { c.Connection, c.Charger.Fate = HardWired, "" },
		"end.fate":         func(c *Circuit) { c.End.Fate = FateTakenOut },
	} {
		c := subMain()
		change(&c)
		var found checker
		(&Design{Circuits: []Circuit{c}}).check(&found)
		switch {
		case field == "" && len(found.errs) > 0:
			t.Error(found.errs)
		case field != "" && (len(found.errs) != 1 || !strings.HasSuffix(found.errs[0].Field, "]."+field)):
			t.Errorf("%s: %v", field, found.errs)
		}
	}
	c = subMain()
	c.End.Fate = FateKept
	if p := (Point{Circuit: c}); p.Left(0.37, 2.1).WaysFree != nil || !c.EndWasThere() || !strings.HasSuffix(c.Said(), "board at its end kept") {
		t.Errorf("a board that was there has the ways %v, %s", p.Left(0.37, 2.1).WaysFree, c.Said())
	}
	c.End.Fate = ""
	if p := (Point{Circuit: c}); *p.Left(0.37, 2.1).WaysFree != 6 {
		t.Errorf("a new board has %d ways free", *p.Left(0.37, 2.1).WaysFree)
	}
	c = Circuit{Point: "A", Dedicated: Yes, Isolator: Yes, RCD: RCD{Fitted: Yes}, Earthing: PointEarthing{OpenPEN: PENVoltage}, Cable: Cable{Family: Armoured90}, SPD: SPDFitted}
	if SubMain.Begin(&c); c.Kind() != SubMain || c.Dedicated != "" || c.RCD.Fitted != "" || c.Cable.Family != Armoured90 {
		t.Errorf("a firm's habits of charging points: %+v", c)
	}
	var found checker
	if (&Design{Circuits: []Circuit{c}}).check(&found); len(found.errs) > 0 {
		t.Error(found.errs)
	}
}

// TestNextOnSubMain: the job after a sub-main finds its board, with the loop that was read there, the drop before it and what else
// it feeds, and nothing of it counts as a charging point.
func TestNextOnSubMain(t *testing.T) {
	for file, apart := range map[string]Answer{"uk-pass.json": No, "us-pass.json": Yes} {
		var was Job
		if err := json.Unmarshal(example(t, file), &was); err != nil {
			t.Fatal(err)
		}
		was.Design.Circuits[0], was.Survey.Places[0].Name, was.Survey.Places[0].Detached = subMain(), "the garage", apart
		read := Measured{Loop: func(string) quantity.Ohm { return 0.37 }, Drop: func(string) float64 { return 2.1 }, Serial: func(*Circuit) string { return "" }}
		for _, k := range []Kind{NewCircuit, Repair, Removal, OutletOnly} {
			next := was.Next(k, read)
			b := next.Survey.Board
			if b.FedFrom != FromSubMain || b.Label != "the garage" || b.Loop != 0.37 || b.Drop != 2.1 || *b.OtherDemand != 8 || b.Ways != 6 || b.Rating != 63 ||
				b.WaysFree != nil || len(b.Links) != 1 || b.Links[0] != (Link{Kind: FeederDevice, Rating: 50}) {
				t.Errorf("%s, %s: board %+v", file, k, b)
			}
			if o := b.Outbuilding; (o == Outbuilding{Apart: Yes, Disconnect: Yes, Electrode: Yes, Neutral: Yes}) != (apart == Yes) || o.Apart != apart {
				t.Errorf("%s, %s: %+v", file, k, o)
			}
			if last := next.Survey.Loads[len(next.Survey.Loads)-1]; last.Kind != OtherFixed || last.Amps != 8 || len(next.Survey.Loads) != len(was.Survey.Loads)+1 {
				t.Errorf("%s, %s: loads %+v", file, k, next.Survey.Loads)
			}
			if len(next.Design.Circuits)+len(next.Survey.Places) > 0 {
				t.Errorf("%s, %s: %+v", file, k, next.Design.Circuits)
			}
		}
	}
}
