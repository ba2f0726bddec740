package job

import (
	"slices"
	"strings"
	"testing"
)

// TestFates: what becomes of a circuit's things follows from what is said, and the kind of work from that. What crews do:
// field guide, "Work that is not one new charger on one board".
func TestFates(t *testing.T) {
	for _, c := range []struct {
		name    string
		circuit Circuit
		kind    Kind
		said    string
	}{
		{"nothing is said", Circuit{}, NewCircuit, "charger new; breaker new; cable new"},
		{"a circuit that was there", Circuit{Existing: Yes, RCD: RCD{Fitted: Yes}}, Replacement, "charger replaced; breaker kept; residual device kept; cable kept"},
		{"an outlet that was there", Circuit{Existing: Yes, Connection: PluggedIn}, OnOutlet, "charger new; breaker kept; cable kept; outlet kept"},
		{"a breaker in its own ways, the outlet out", Circuit{Existing: Yes, Connection: HardWired, Charger: Charger{Fate: FateNew}, Breaker: Breaker{Fate: FateReplaced},
			Receptacle: Receptacle{Fate: FateTakenOut}}, Replacement, "charger new; breaker replaced; cable kept; outlet taken out"},
		{"carried on from a box", Circuit{Existing: Yes, Connection: HardWired, Beyond: Beyond{From: 2, Cable: Cable{Fate: FateNew}}}, Extension,
			"charger new; breaker kept; cable kept; cable beyond the joint box new"},
		{"carried on to an outlet", Circuit{Existing: Yes, Connection: PluggedIn, Beyond: Beyond{From: 2, Cable: Cable{Fate: FateNew}}}, Extension,
			"charger new; breaker kept; cable kept; cable beyond the joint box new; outlet new"},
		{"an isolator that stays", Circuit{Existing: Yes, Isolator: Yes, IsolatorFate: FateKept}, Replacement, "charger replaced; breaker kept; cable kept; isolator kept"},
		{"a repair", Circuit{Existing: Yes, Charger: Charger{Fate: FateKept}}, Repair, "charger kept; breaker kept; cable kept"},
		{"an outlet for a charger to come", Circuit{Connection: PluggedIn, Charger: Charger{Fate: FateNone}}, OutletOnly, "breaker new; cable new; outlet new; no charger"},
		{"taken away, nothing said of the rest", Circuit{Existing: Yes, Charger: Charger{Fate: FateTakenOut}}, Removal, "charger taken out; breaker not said; cable not said"},
		{"taken away, the cable stays", Circuit{Existing: Yes, Charger: Charger{Fate: FateTakenOut}, Breaker: Breaker{Fate: FateTakenOut}, Cable: Cable{Fate: FateKept}},
			Removal, "charger taken out; breaker taken out; cable kept"},
	} {
		if kind, said := c.circuit.Kind(), c.circuit.Said(); kind != c.kind || said != c.said {
			t.Errorf("%s: %s, %q, want %s, %q", c.name, kind, said, c.kind, c.said)
		}
	}
}

// TestKindsBegin: a job that begins as a kind of work is of that kind.
func TestKindsBegin(t *testing.T) {
	for _, k := range Kind("").Values() {
		var c Circuit
		Kind(k).Begin(&c)
		if c.Kind() != Kind(k) {
			t.Errorf("%s begins as %s", k, c.Kind())
		}
		if !slices.ContainsFunc(kindWords, func(w Word) bool { return w.Value == k }) {
			t.Errorf("%s has no words", k)
		}
	}
}

// TestFatesRefused: what cannot become of a thing is refused, with the field's name.
func TestFatesRefused(t *testing.T) {
	for _, c := range []struct {
		circuit Circuit
		field   string
	}{
		{Circuit{Charger: Charger{Fate: FateTakenOut}}, "charger.fate"},
		{Circuit{Breaker: Breaker{Fate: FateReplaced}}, "breaker.fate"},
		{Circuit{Existing: Yes, Breaker: Breaker{Fate: FateTakenOut}}, "breaker.fate"},
		{Circuit{Existing: Yes, Cable: Cable{Fate: FateTakenOut}}, "cable.fate"},
		{Circuit{Existing: Yes, Cable: Cable{Fate: FateReplaced}}, "cable.fate"},
		{Circuit{Existing: Yes, Breaker: Breaker{Fate: FateNew}}, "breaker.fate"},
		{Circuit{Existing: Yes, Charger: Charger{Fate: FateTakenOut}, Setting: 32}, "setting"},
		{Circuit{Existing: Yes, Charger: Charger{Fate: FateTakenOut}, ManagedTo: 60}, "managedTo"},
		{Circuit{Existing: Yes, Mended: Mended{Fault: "stops"}}, "mended"},
		{Circuit{Charger: Charger{Closes: "DB-1"}}, "charger.closes"},
		{Circuit{Existing: Yes, Charger: Charger{Fate: FateKept, Moved: "DB-1"}}, "charger.moved"},
		{Circuit{Existing: Yes, Beyond: Beyond{Cable: Cable{Fate: FateKept}}}, "beyond.cable.fate"},
		{Circuit{Beyond: Beyond{Cable: Cable{Fate: FateNew}}}, "beyond.cable.fate"},
		{Circuit{Existing: Yes, Charger: Charger{Fate: FateKept}, Beyond: Beyond{Cable: Cable{Fate: FateNew}}}, "beyond.cable.fate"},
		{Circuit{Existing: Yes, Charger: Charger{Fate: FateTakenOut}, Beyond: Beyond{Cable: Cable{Fate: FateNew}}}, "beyond.cable.fate"},
		{Circuit{Existing: Yes, IsolatorFate: FateKept}, "isolatorFate"},
		{Circuit{Existing: Yes, Isolator: Yes, IsolatorFate: FateTakenOut}, "isolatorFate"},
		{Circuit{Disconnect: Yes, IsolatorFate: FateKept}, "isolatorFate"},
		{Circuit{Connection: HardWired, Charger: Charger{Fate: FateNone}}, "charger.fate"},
		{Circuit{Existing: Yes, Connection: PluggedIn, Receptacle: Receptacle{Fate: FateTakenOut}}, "receptacle.fate"},
	} {
		c.circuit.Point = "A"
		d := Design{Circuits: []Circuit{c.circuit}}
		var found checker
		d.check(&found)
		if len(found.errs) != 1 || !strings.HasSuffix(found.errs[0].Field, "]."+c.field) {
			t.Errorf("%s: %v", c.field, found.errs)
		}
	}
}

// TestNothingChargesWhereItWasTakenAway: a charger that is taken away is no load, and alone it makes the job a removal.
func TestNothingChargesWhereItWasTakenAway(t *testing.T) {
	gone := Circuit{Point: "B", Existing: Yes, Charger: Charger{Fate: FateTakenOut}}
	j := Job{Survey: Survey{Places: []Place{{Point: "A"}, {Point: "B"}}}, Design: Design{Circuits: []Circuit{{Point: "A", Setting: 32}, gone}}}
	if loads := j.EVLoads(); len(loads) != 1 || loads[0] != 32 {
		t.Errorf("loads %v", loads)
	}
	if j.Removes() || !j.Makes() {
		t.Error("one of two is taken away: the job makes a circuit too")
	}
	j.Design.Circuits = j.Design.Circuits[1:]
	if j.Removes() {
		t.Error("of point A nothing is designed yet")
	}
	j.Survey.Places = j.Survey.Places[1:]
	if !j.Removes() || j.Makes() || j.Mends() {
		t.Error("all that there is is taken away")
	}
	for field, d := range map[string]Design{
		"design.beside": {Beside: Beside{Fitted: Yes}}, "design.bonds": {Bonds: Bonds{Run: BondAll}}, "design.building": {Building: Building{Electrode: Yes}},
	} {
		d.Circuits = j.Design.Circuits
		if errs := (&Job{Survey: j.Survey, Design: d}).Validate(); len(errs) != 1 || errs[0].Field != field {
			t.Errorf("%s: %v", field, errs)
		}
	}
}
