package jurisdiction

import (
	"strconv"

	"dogbolt/core/panel"
)

// MovedLabels are the lines of a board's chart for the circuits that move on it with the work: each with its new way or space, by the
// country's word for it.
func MovedLabels(f *Facts, where, clause, way string) []Label {
	w, ok := panel.WorkOf(f.Job)
	if !ok {
		return nil
	}
	var out []Label
	for i := range w.Moves {
		m := &w.Moves[i]
		said := way + " " + strconv.Itoa(m.To) + ", moved from " + strconv.Itoa(m.From)
		out = append(out, Label{Where: where, Clause: clause, Lines: []string{m.Circuit, said}})
	}
	return out
}
