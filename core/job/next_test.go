package job

import (
	"encoding/json"
	"testing"
)

// TestNext: a job at the same site begins from what the one before left, and nothing that a person must see again counts as seen.
func TestNext(t *testing.T) {
	for _, file := range []string{"uk-pass.json", "us-pass.json"} {
		var was Job
		if err := json.Unmarshal(example(t, file), &was); err != nil {
			t.Fatal(err)
		}
		read := Measured{Serial: func(*Circuit) string { return "WU-9" }}
		barn := was
		barn.Survey.Board.Outbuilding, barn.Design.Building = Outbuilding{Apart: Yes, Electrode: No, Disconnect: No}, Building{Electrode: Yes}
		if o := barn.Next(Repair, read).Survey.Board.Outbuilding; o.Electrode != Yes || o.Disconnect != No {
			t.Errorf("%s: what was put right at the building: %+v", file, o)
		}
		small := was
		small.Design.Beside = Beside{Fitted: Yes, Where: "meter cupboard", Rating: 63}
		if b := small.Next(Repair, read).Survey.Board; b.Label != "meter cupboard" || b.Rating != 63 || b.WaysFree != nil {
			t.Errorf("%s: a circuit of the small board is judged by %+v", file, b)
		}
		if b := small.Next(NewCircuit, read).Survey.Board; b.Label != was.Survey.Board.Label {
			t.Errorf("%s: a new circuit leaves from %+v", file, b)
		}
		small.Design.Beside.Instead = Yes
		if b := small.Next(NewCircuit, read).Survey.Board; b.Label != "meter cupboard" || b.Rating != 63 || small.Next(Repair, read).Survey.Supply.MainsSwitchAt != "meter cupboard" {
			t.Errorf("%s: a new circuit leaves from the board that is gone: %+v", file, b)
		}
		was.Survey.Supply.Earthed = Yes
		for _, k := range []Kind{OutletOnly, SubMain} { // make a circuit of their own: they take over none
			next := was.Next(k, read)
			last := next.Survey.Loads[len(next.Survey.Loads)-1]
			if len(next.Design.Circuits)+len(next.Survey.Places) > 0 || last.Kind != ExistingEV || last.Amps != was.Design.Circuits[0].Setting {
				t.Errorf("%s, %s: circuits %+v, last load %+v", file, k, next.Design.Circuits, last)
			}
		}
		for _, k := range []Kind{NewCircuit, Replacement, Extension, OnOutlet, Repair, Removal} {
			next := was.Next(k, read)
			next.Number, next.Survey.Places = "DB-9", append([]Place{}, next.Survey.Places...)
			if errs := next.Check(); len(errs) > 0 {
				t.Errorf("%s, %s: %v", file, k, errs)
			}
			p, b := &next.Survey.Supply, &next.Survey.Board
			if p.RatingSeen != "" || p.Earthed != "" || p.OtherSource != "" || p.Condition != "" || p.Voltage != "" || p.PeakDemand != 0 || len(p.Monthly) > 0 ||
				b.WaysFree != nil || b.UpstreamRCDType != "" || len(next.Log) > 0 || next.Site.Follows != was.Number || next.Survey.Consent != (Consent{}) || next.Survey.Bonding != (Bonding{}) {
				t.Errorf("%s, %s: %+v %+v", file, k, p, b)
			}
			if k == NewCircuit {
				last := next.Survey.Loads[len(next.Survey.Loads)-1]
				if len(next.Design.Circuits) > 0 || last.Kind != ExistingEV || last.Amps != was.Design.Circuits[0].Setting {
					t.Errorf("%s: the point that is there: %+v, circuits %v", file, last, next.Design.Circuits)
				}
				continue
			}
			c := next.Design.Circuits[0]
			if got := c.Kind(); got != k {
				t.Errorf("%s: %s begins as %s", file, k, got)
			}
			if keeps := c.Breaker.Rating > 0; keeps != (k != Removal) || c.Cable.Size != was.Design.Circuits[0].Cable.Size {
				t.Errorf("%s, %s: breaker %+v, cable %+v", file, k, c.Breaker, c.Cable)
			}
			if known := c.Charger.Serial == "WU-9"; known != k.There() || (c.Setting > 0) != (k == Repair) {
				t.Errorf("%s, %s: charger %+v, set to %v", file, k, c.Charger, c.Setting)
			}
			isolated := c.Isolator == Yes || c.Disconnect == Yes
			if (c.IsolatorFate == FateKept) != (isolated && k != Extension) {
				t.Errorf("%s, %s: isolator %s %s", file, k, c.Isolator, c.IsolatorFate)
			}
			if (c.Charger.Closes == was.Number) != (k == Removal) {
				t.Errorf("%s, %s closes %q", file, k, c.Charger.Closes)
			}
		}
	}
}
