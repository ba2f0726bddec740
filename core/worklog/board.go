package worklog

import (
	"fmt"
	"slices"
	"strings"

	"dogbolt/core/job"
	"dogbolt/core/panel"
)

// Surge fits surge protection at the board where one of the points asks for it.
func Surge(b *Planner) {
	has := func(spd job.SPD) bool {
		return slices.ContainsFunc(b.Points, func(p job.Point) bool { return p.Circuit.SPD == spd })
	}
	title := "Surge protection fitted at the "
	switch {
	case has(job.SPDReplaced):
		title = "Surge protection replaced at the "
	case !has(job.SPDFitted):
		return
	}
	at := b.Words.Board
	if d := &b.Job.Design.Beside; d.Renews() {
		at = d.Name(at, b.Words.Short)
	}
	b.Add(Step{ID: SurgeDevice, Title: title + at,
		Detail: "Leads short, its own backup as the maker says, window green.", Inside: true, After: b.atBoard(),
		Caution: liveAtSupply, Clause: b.Clauses.Isolate})
}

// atBoard is what work inside the board or at its tails waits for: dead proved, and the new board where the old one is replaced.
func (b *Planner) atBoard() []string {
	after := []string{ProveDead, Barrier}
	if b.Job.Design.Beside.Renews() {
		after = append(after, BesideFed)
	}
	return after
}

// Ahead replaces a residual device that was found ahead of the circuits.
func Ahead(b *Planner) {
	a := &b.Job.Design.Ahead
	if a.Type == "" {
		return
	}
	detail := "Every neutral of what it feeds on its own bar, its way and busbar as the board's label allows, " + labelTorque + "."
	if a.Rating > 0 && !b.plain {
		detail = fmt.Sprintf("%g A, %g mA. %s", float64(a.Rating), a.TripMA, detail)
	}
	b.Add(Step{ID: AheadWork, Title: "Residual device upstream replaced by type " + string(a.Type), Detail: detail,
		Inside: true, After: []string{ProveDead, Barrier}, Caution: liveAtSupply, Clause: b.Clauses.Isolate})
}

// spaces says where on the board's map a point's breaker goes, "" where there is none.
func (b *Planner) spaces(point string) string {
	w, ok := b.board()
	for i, p := range panel.Needed(b.Job) {
		if ok && p.ID == point {
			return "In " + panel.Numbers(w.Fits[i].At) + " of the map. "
		}
	}
	return ""
}

// board is the work on the board's map, worked out once.
func (b *Planner) board() (*panel.Work, bool) {
	if b.onBoard == nil {
		w, ok := panel.WorkOf(b.Job)
		b.onBoard, b.mapped = &w, ok
	}
	return b.onBoard, b.mapped
}

// MoveCircuits moves circuits on the board to make room, as its map says. Where a breaker was fitted before this step was known of,
// they were moved with it.
func MoveCircuits(b *Planner) {
	w, ok := b.board()
	if !ok || len(w.Moves) == 0 {
		return
	}
	if _, moved := b.Job.Latest(job.StepDone, "", BoardMoves); !moved {
		for _, p := range panel.Needed(b.Job) {
			if _, fitted := b.Job.Latest(job.StepDone, p.ID, BoardWork); fitted {
				return
			}
		}
	}
	said := make([]string, len(w.Moves))
	for i := range w.Moves {
		said[i] = w.Moves[i].Said()
	}
	b.Add(Step{ID: BoardMoves, Title: "Circuits moved on the " + b.Words.Board, Ask: "as planned, or what differs",
		Detail:  "In this order: " + strings.Join(said, "; ") + ". Every conductor long enough without a strain, neutral with its line, " + labelTorque + ".",
		Records: []Record{Name}, Inside: true, After: []string{ProveDead, Barrier}, Caution: liveAtSupply, Clause: b.Clauses.Isolate})
}
