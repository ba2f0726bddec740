package us

import (
	"dogbolt/core/demand"
	"dogbolt/core/job"
	"dogbolt/core/rulebook"
)

// E2020 is the edition of 2020, told from that of 2023: it has no 220.57, so that a
// charging load counts by its nameplate, and its 210.8(F) names outdoor outlets of
// dwellings alone. From memory.
var E2020 = E2023.Edition(rulebook.Delta{
	ID: "nec:2020", Name: "NEC 2020", Short: "NEC 2020",
	Rules: []rulebook.Rule{
		{ID: "ev-load", Title: "Charging load by its nameplate", Clause: "220.14(A), 625.42", Stage: job.StageDesign, Draws: true, PerPoint: true,
			Fields: []string{"design.circuits.{p}.setting"}, Check: checkNameplate,
			Numbers: "none"},
		{ID: "receptacle-gfci", Title: "Ground-fault protection of the outlet", Clause: "625.54, 210.8(F)", Stage: job.StageDesign, PerPoint: true,
			Fields: []string{"design.circuits.{p}.receptacle.gfci"}, Check: checkGFCIOutdoors,
			Numbers: "NEC 210.8(F): 50 A, 150 V"},
	},
	Demand: func(j *job.Job) demand.Result { return demandWith(j, 0) },
	Unknown: []string{
		"articles that 2023 renumbered or moved, energy management (220.70, 750) among them",
		"tables of ampacity, fill and grounding, which are taken to be those of 2023",
	},
})

// checkNameplate says what a charging load counts where no least load is named.
func checkNameplate(s *rulebook.Subject) rulebook.Finding {
	c := &s.Point.Circuit
	if c.Setting == 0 {
		return rulebook.Missing("charger setting")
	}
	p := point(&s.Job.Survey.Supply, counts(c), c.Charger.Phases, 0)
	f := rulebook.Meets(loadSum(s, p) + " by the nameplate")
	f.Value, f.Unit = rulebook.Num(p.VA), "VA"
	return f
}
