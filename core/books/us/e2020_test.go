package us

import (
	"testing"

	"dogbolt/core/job"
	"dogbolt/core/rulebook"
	"dogbolt/internal/testkit/ruletest"
)

// TestE2020 checks what 2020 has otherwise than 2023: no 220.57, so that a small point
// counts its nameplate and not 7200 VA (from memory). 16 A × 240 V = 3840 VA.
func TestE2020(t *testing.T) {
	j := ruletest.Example(t, "../../../docs/formats/examples/us-pass.json")
	small := circuit(func(c *job.Circuit) { c.Setting = 16 })
	for id, counted := range map[string]float64{E2023.ID: 7200, E2020.ID: 3840} {
		t.Run(id, func(t *testing.T) {
			j.Rulebook = id
			k := j
			k.Design.Circuits = []job.Circuit{j.Design.Circuits[0]}
			small(&k)
			book, err := rulebook.For(&k)
			if err != nil {
				t.Fatal(err)
			}
			if r := book.Demand(&k); float64(r.Total-r.Without) < counted/240-0.01 || float64(r.Total-r.Without) > counted/240+0.01 {
				t.Errorf("%s: 16 A adds %.2f A, want %.2f", id, float64(r.Total-r.Without), counted/240)
			}
		})
	}
	j.Rulebook = E2020.ID
	ruletest.Rows(t, j, []ruletest.Case{
		{Name: "a small point", Change: small, Rule: "ev-load", Verdict: rulebook.Sound, Says: "16 A × 240 V = 3840 VA by the nameplate"},
		{Name: "no setting", Change: circuit(func(c *job.Circuit) { c.Setting = 0 }), Rule: "ev-load", Verdict: rulebook.Open, Says: "charger setting"},
	})
	ruletest.Shared(t, j, E2023.ID, "ev-load", "receptacle-gfci")
	if len(E2020.Editions()) != 2 {
		t.Errorf("the edition does not say what of it is not known: %v", E2020.Editions())
	}
}
