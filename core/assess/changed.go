package assess

import (
	"maps"
	"reflect"
	"slices"

	"dogbolt/core/charging"
	"dogbolt/core/commission"
	"dogbolt/core/demand"
	"dogbolt/core/inspect"
	"dogbolt/core/job"
	"dogbolt/core/rulebook"
	"dogbolt/core/worklog"
)

// Changed is what of an assessment is otherwise than in the one before. What is left out is
// as it was.
type Changed struct {
	Whole     bool                          `json:"whole" doc:"Nothing is left out: findings and steps are all of them."`
	Lines     []rulebook.Line               `json:"findings,omitzero" required:"false" doc:"Those that are otherwise, each in place of the one of its rule and point."`
	Kinds     map[string]job.Kind           `json:"kinds,omitzero" required:"false"`
	Steps     []worklog.Status              `json:"steps,omitzero" required:"false" doc:"Those that are otherwise, each in place of the one of its id and point."`
	Spine     []rulebook.Bolt               `json:"spine,omitzero" required:"false"`
	Isolation *worklog.Isolation            `json:"isolation,omitzero" required:"false"`
	Roll      []worklog.Answered            `json:"roll,omitzero" required:"false"`
	Time      *worklog.Time                 `json:"time,omitzero" required:"false"`
	Pairs     []string                      `json:"pairs,omitzero" required:"false"`
	Terminals []worklog.Terminal            `json:"terminals,omitzero" required:"false"`
	Sequences map[string]Sequence           `json:"sequences,omitzero" required:"false"`
	Demand    *demand.Result                `json:"demand,omitzero" required:"false"`
	Ceilings  map[string][]charging.Ceiling `json:"ceilings,omitzero" required:"false"`
	Told      []Told                        `json:"told,omitzero" required:"false"`
	Gone      []string                      `json:"gone,omitzero" required:"false"`
	Offers    []inspect.Offer               `json:"offers,omitzero" required:"false"`
}

// Since returns what of an assessment is otherwise than before; all of it where nobody knows
// what was before, or there are other rules or steps than there were.
func (a *Assessment) Since(before *Assessment) Changed {
	b := before
	if b == nil || !slices.EqualFunc(a.Lines, b.Lines, ofOneRule) || !slices.EqualFunc(a.Steps, b.Steps, ofOneStep) {
		return Changed{
			Whole: true, Lines: a.Lines, Steps: a.Steps, Spine: a.Spine, Isolation: &a.Isolation, Roll: a.Roll, Time: &a.Time, Pairs: a.Pairs,
			Terminals: a.Terminals, Sequences: a.Sequences, Demand: &a.Demand, Ceilings: a.Ceilings, Told: a.Told, Gone: a.Gone, Offers: a.Offers, Kinds: a.Kinds,
		}
	}
	c := Changed{
		Spine: other(a.Spine, b.Spine), Roll: other(a.Roll, b.Roll), Pairs: other(a.Pairs, b.Pairs),
		Terminals: other(a.Terminals, b.Terminals), Told: other(a.Told, b.Told), Gone: other(a.Gone, b.Gone),
	}
	for i := range a.Lines {
		if !sameLine(&a.Lines[i], &b.Lines[i]) {
			c.Lines = append(c.Lines, a.Lines[i])
		}
	}
	for i := range a.Steps {
		if !sameStep(&a.Steps[i], &b.Steps[i]) {
			c.Steps = append(c.Steps, a.Steps[i])
		}
	}
	if !reflect.DeepEqual(&a.Isolation, &b.Isolation) {
		c.Isolation = &a.Isolation
	}
	if a.Time != b.Time {
		c.Time = &a.Time
	}
	if !maps.EqualFunc(a.Sequences, b.Sequences, sameSequence) {
		c.Sequences = a.Sequences
	}
	if !reflect.DeepEqual(&a.Demand, &b.Demand) {
		c.Demand = &a.Demand
	}
	if !maps.Equal(a.Kinds, b.Kinds) {
		c.Kinds = a.Kinds
	}
	if !slices.Equal(a.Offers, b.Offers) {
		c.Offers = a.Offers
	}
	if !reflect.DeepEqual(a.Ceilings, b.Ceilings) {
		c.Ceilings = a.Ceilings
	}
	return c
}

func ofOneRule(a, b rulebook.Line) bool { return a.Rule == b.Rule && a.Point == b.Point }
func ofOneStep(a, b worklog.Status) bool {
	return a.ID == b.ID && a.Point == b.Point
}

// These are compared for every entry that is logged, field by field: reflection takes ten
// times as long. TestSame holds them to the fields that there are.
func sameLine(a, b *rulebook.Line) bool {
	return a.Rule == b.Rule && a.Point == b.Point && a.Stage == b.Stage && a.Title == b.Title && a.Clause == b.Clause && a.Verdict == b.Verdict &&
		a.Value == b.Value && a.Limit == b.Limit && a.Margin == b.Margin && a.Working == b.Working && a.Remedy == b.Remedy && a.Missing == b.Missing && a.Clash == b.Clash &&
		slices.Equal(a.Fields, b.Fields) && slices.Equal(a.Offers, b.Offers) && a.Fixed == b.Fixed && a.By == b.By && a.Reason == b.Reason && sameGauge(a.Bar, b.Bar)
}

func sameGauge(a, b *rulebook.Gauge) bool {
	if a == nil || b == nil {
		return a == b
	}
	return same(a.Value, b.Value) && same(a.Low, b.Low) && same(a.High, b.High) && a.Unit == b.Unit
}

func same[T comparable](a, b *T) bool {
	if a == nil || b == nil {
		return a == b
	}
	return *a == *b
}

func sameStep(a, b *worklog.Status) bool {
	return a.ID == b.ID && a.Point == b.Point && a.Title == b.Title && a.Detail == b.Detail && slices.Equal(a.After, b.After) && a.Inside == b.Inside &&
		a.Optional == b.Optional && a.Ask == b.Ask && a.Unit == b.Unit && slices.Equal(a.Choice, b.Choice) && slices.Equal(a.Records, b.Records) &&
		slices.Equal(a.Changes, b.Changes) && a.Caution == b.Caution && a.Clause == b.Clause &&
		a.Done == b.Done && same(a.Entry, b.Entry) && slices.Equal(a.WaitsFor, b.WaitsFor) && slices.Equal(a.Papers, b.Papers)
}

func sameTest(a, b *commission.Test) bool { // but for When and Spared: no part of what is told
	return a.ID == b.ID && a.Title == b.Title && a.Group == b.Group && a.Unit == b.Unit && slices.Equal(a.Choice, b.Choice) && a.Words == b.Words &&
		a.Optional == b.Optional && a.Hint == b.Hint
}

func sameSequence(a, b Sequence) bool {
	return reflect.DeepEqual(a.Derived, b.Derived) && slices.EqualFunc(a.Tests, b.Tests, func(x, y commission.Test) bool { return sameTest(&x, &y) })
}

// other returns a list where it is another than before, nil where it is not.
func other[T any](now, before []T) []T {
	switch {
	case reflect.DeepEqual(now, before):
		return nil
	case now == nil:
		return []T{}
	}
	return now
}
