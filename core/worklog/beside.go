package worklog

import (
	"fmt"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// Beside fits a small board of the points' own and connects it to the service's tails. Dead proved at the old board says nothing
// of the tails before its main switch: they are opened and proved apart.
func Beside(b *Planner) {
	d := &b.Job.Design.Beside
	if d.Fitted != job.Yes {
		return
	}
	fixed := "Level, entries from below where it is outdoors, gland or grommet for the tails."
	if d.Where != "" && !b.plain {
		fixed = "At " + d.Where + ". " + fixed
	}
	b.Add(Step{ID: BesideFixed, Title: "Small board fixed", Detail: fixed, After: []string{Protect}})
	opened := "The switch before them off, locked, tagged. "
	if d.Opens == job.OpensOperator {
		opened = "The fuse withdrawn by the network operator, or by whom it lets; its seals are its own. "
	}
	b.Add(Step{ID: TailsDead, Title: "Tails opened, and proved dead at the connectors", Detail: opened + "Known source, every pair, known source again.",
		Ask: "who opened them, lock number", Records: []Record{Name}, After: []string{ProveDead}, Inside: true,
		Caution: "The old board’s main switch does not make the tails dead. Never cut a seal or draw a fuse that is not yours.", Clause: b.Clauses.Isolate})
	joined := "Line and neutral through the connector blocks, earth to its own bar, " + labelTorque + ". Each conductor tugged, no copper outside a block."
	if d.Tails > 0 && !b.plain {
		joined = quantity.Say("{} mm² tails", float64(d.Tails)) + fmt.Sprintf(", %s. ", b.Length.Say(float64(d.Length))) + joined
	}
	b.Add(Step{ID: BesideFed, Title: "Small board connected to the tails", Detail: joined, Ask: "conductors as fitted", Records: []Record{Name},
		After: []string{BesideFixed, TailsDead, Barrier}, Inside: true, Caution: "Dead must stay proved at the connectors.", Clause: b.Clauses.Isolate})
}
