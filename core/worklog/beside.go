package worklog

import (
	"fmt"
	"strings"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// inWords reports whether the tails of a job were proved dead in words, from before they had pairs of their own.
func inWords(j *job.Job) bool {
	_, done := j.Latest(job.StepDone, "", TailsDead)
	return done && j.Design.Beside.Small()
}

// openTails makes the tails dead that a new board is connected to, before anything is proved: dead proved at the old board alone
// says nothing of the tails before its main switch. It returns the step that the cover waits for, "" where there is none.
func (b *Planner) openTails() string {
	d := &b.Job.Design.Beside
	if d.Fitted != job.Yes || inWords(b.Job) {
		return ""
	}
	b.Add(Step{ID: TailsOpen, Title: sentence(b.feed() + " opened, locked"), Detail: b.opened(d), After: []string{MainOff},
		Ask: "who opened them, lock number", Records: []Record{Name},
		Caution: b.staysLive(), Clause: b.Clauses.Isolate})
	return TailsOpen
}

// feed is what a new board is connected to, in the country's words: the tails, or the sub-main that feeds it.
func (b *Planner) feed() string {
	if b.Job.Design.Beside.Renews() && !b.Job.NewMains() {
		return b.Words.Feeder
	}
	return b.Words.Tails
}

// sentence begins words with a capital.
func sentence(words string) string { return strings.ToUpper(words[:1]) + words[1:] }

func (b *Planner) staysLive() string {
	return "The old " + b.Words.Short + "’s main switch does not make the " + b.feed() + " dead. Never cut a seal or draw a fuse that is not yours."
}

// opened says how what a new board is connected to is made dead.
func (b *Planner) opened(d *job.Beside) string {
	if d.Opens == job.OpensOperator {
		return b.Words.Withdrawn
	}
	return "The switch before them off, locked, tagged. "
}

// Beside fits a small board of the points' own and connects it to the service's tails, once they are proved dead at the connectors; or a
// board in place of the one that was found.
func Beside(b *Planner) {
	d := &b.Job.Design.Beside
	if d.Fitted != job.Yes {
		return
	}
	fixed := "Level, entries from below where it is outdoors, gland or grommet for the tails."
	if d.Where != "" && !b.plain {
		fixed = "Where: " + d.Where + ". " + fixed
	}
	if d.Renews() {
		b.renew(d, fixed)
		return
	}
	b.Add(Step{ID: BesideFixed, Title: "Small board fixed", Detail: fixed, After: []string{Protect}})
	if inWords(b.Job) {
		b.Add(Step{ID: TailsDead, Title: "Tails opened, and proved dead at the connectors", Detail: b.opened(d) + "Known source, every pair, known source again.",
			Ask: "who opened them, lock number", Records: []Record{Name}, After: []string{ProveDead}, Inside: true,
			Caution: b.staysLive(), Clause: b.Clauses.Isolate})
	}
	joined := b.tails(d) + "Line and neutral through the connector blocks, earth to its own bar, " + labelTorque +
		". Each conductor tugged, no copper outside a block."
	b.Add(Step{ID: BesideFed, Title: "Small board connected to the tails", Detail: joined, Ask: "conductors as fitted", Records: []Record{Name},
		After: []string{BesideFixed, TailsOpen, TailsDead, Barrier}, Inside: true, Caution: "Dead must stay proved at the connectors.", Clause: b.Clauses.Isolate})
}

// first says what is switched on first: where tails were opened, what opened them.
func (b *Planner) first() string {
	switch d := &b.Job.Design.Beside; {
	case d.Fitted != job.Yes:
		return "Main first"
	case d.Opens == job.OpensOperator:
		return b.Words.Back + ", with every main switch off; then the main"
	}
	return "The switch before the " + b.feed() + " first, with every main switch off; then the main"
}

// tails says which a new board is connected by: "25 mm² tails, 0.8 m. ".
func (b *Planner) tails(d *job.Beside) string {
	if d.Tails == 0 || b.plain {
		return ""
	}
	return quantity.Say("{} mm² tails", float64(d.Tails)) + fmt.Sprintf(", %s. ", b.Length.Say(float64(d.Length)))
}

// renew takes the old board out and puts another in its place, to which its circuits move over. Common practice, no source.
func (b *Planner) renew(d *job.Beside, fixed string) {
	short := b.Words.Short
	b.Add(Step{ID: BoardOut, Title: "Old " + short + " out, its circuits marked", Ask: "its circuits, each with what it feeds",
		Detail:  "The conductors of a circuit marked together before any of them is loose. What is burnt or brittle is told to the customer.",
		Records: []Record{Name}, Inside: true, After: []string{ProveDead, TailsOpen, Barrier}, Clause: b.Clauses.Isolate,
		Caution: "Dead must stay proved at the " + b.feed() + ": the main switch goes with the " + short + "."})
	b.Add(Step{ID: BesideFixed, Title: "New " + short + " fixed", Detail: fixed, Inside: true, After: []string{Protect, BoardOut}})
	b.Add(Step{ID: BesideFed, Title: "Circuits moved over, " + b.feed() + " connected", Ask: "each circuit with its device",
		Detail: b.tails(d) + "Each circuit on a device that its conductors allow, its neutral with it, " + labelTorque +
			". Each conductor tugged, what is free blanked." + b.Words.Renewed,
		Records: []Record{Name}, Inside: true, After: []string{BesideFixed, TailsOpen, Barrier}, Clause: b.Clauses.Isolate,
		Caution: "A neutral that two circuits share belongs to both: find it before they are switched on."})
}

// schedule asks for the test results of the circuits that moved over, once they are read, where the country has a schedule for them.
func (b *Planner) schedule() {
	if b.Job.Design.Beside.Renews() && b.Clauses.Certify != "" {
		b.Add(Step{ID: Scheduled, Title: "Circuits moved over: their schedule of test results", Ask: "its number, and who tested",
			Detail:  "A row for each: continuity, insulation, polarity, loop, residual device. It goes with the certificate.",
			Records: []Record{Name}, After: []string{Energise}, Clause: b.Clauses.Certify})
	}
}
