package worklog

import (
	"fmt"
	"strings"

	"dogbolt/core/quantity"
)

// Bonds runs the main bonding and replaces the earthing conductor where the design has them.
func Bonds(b *Planner) {
	d := &b.Job.Design.Bonds
	if d.Conductor > 0 {
		b.Add(Step{ID: Earthing, Title: "Earthing conductor replaced", Ask: "its size, and where it is connected", Records: []Record{Name}, Inside: true,
			Detail: quantity.Say("{} mm² from the means of earthing to the main terminal, ", float64(d.Conductor)) + labelTorque + ", a label at each clamp.",
			After:  []string{ProveDead}, Caution: "While it is off the whole installation has no earth.", Clause: b.Clauses.Rejoin})
	}
	if list := b.Job.Bonds(); len(list) > 0 {
		what := ""
		if d.Size > 0 && !b.plain {
			what = quantity.Say("{} mm²", float64(d.Size)) + fmt.Sprintf(", %s in all: ", b.Length.Say(float64(d.Length))) + strings.Join(list, ", ") + ". "
		}
		b.Add(Step{ID: BondsRun, Title: "Main bonding run and connected", Ask: "to what, and where it is clamped", Records: []Record{Name}, Inside: true,
			Detail: what + "On the consumer's side of the meter or stop tap, before any branch, within 600 mm of it where that can be; a label at each clamp.",
			After:  []string{ProveDead}, Clause: b.Clauses.Bond})
	}
}
