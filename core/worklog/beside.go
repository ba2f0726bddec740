package worklog

import (
	"fmt"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// inWords reports whether the tails of a job were proved dead in words, from before they had pairs of their own.
func inWords(j *job.Job) bool {
	_, done := j.Latest(job.StepDone, "", TailsDead)
	return done
}

// openTails makes the tails dead that a small board is connected to, before anything is proved: dead proved at the old board alone
// says nothing of the tails before its main switch. It returns the step that the cover waits for, "" where there is none.
func (b *Planner) openTails() string {
	d := &b.Job.Design.Beside
	if d.Fitted != job.Yes || inWords(b.Job) {
		return ""
	}
	b.Add(Step{ID: TailsOpen, Title: "Tails opened, locked", Detail: opened(d), After: []string{MainOff},
		Ask: "who opened them, lock number", Records: []Record{Name},
		Caution: tailsStayLive, Clause: b.Clauses.Isolate})
	return TailsOpen
}

const tailsStayLive = "The old board’s main switch does not make the tails dead. Never cut a seal or draw a fuse that is not yours."

// opened says how tails are made dead.
func opened(d *job.Beside) string {
	if d.Opens == job.OpensOperator {
		return "The fuse withdrawn by the network operator, or by whom it lets; its seals are its own. "
	}
	return "The switch before them off, locked, tagged. "
}

// Beside fits a small board of the points' own and connects it to the service's tails, once they are proved dead at the connectors.
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
	if inWords(b.Job) {
		b.Add(Step{ID: TailsDead, Title: "Tails opened, and proved dead at the connectors", Detail: opened(d) + "Known source, every pair, known source again.",
			Ask: "who opened them, lock number", Records: []Record{Name}, After: []string{ProveDead}, Inside: true,
			Caution: tailsStayLive, Clause: b.Clauses.Isolate})
	}
	joined := "Line and neutral through the connector blocks, earth to its own bar, " + labelTorque + ". Each conductor tugged, no copper outside a block."
	if d.Tails > 0 && !b.plain {
		joined = quantity.Say("{} mm² tails", float64(d.Tails)) + fmt.Sprintf(", %s. ", b.Length.Say(float64(d.Length))) + joined
	}
	b.Add(Step{ID: BesideFed, Title: "Small board connected to the tails", Detail: joined, Ask: "conductors as fitted", Records: []Record{Name},
		After: []string{BesideFixed, TailsOpen, TailsDead, Barrier}, Inside: true, Caution: "Dead must stay proved at the connectors.", Clause: b.Clauses.Isolate})
}
