package rulebook

import (
	"slices"

	"dogbolt/core/quantity"
)

// contradict says at a field that no value of it can meet every rule: one wants more than
// another allows. Which of them gives way is the designer's choice. It stands with the one that
// wants more, so that a page says it once.
func contradict(findings []Finding) {
	if !slices.ContainsFunc(findings, func(f Finding) bool { return f.Verdict == Stop }) {
		return // whatever the value is, one of the two does not meet
	}
	for i := range findings {
		least := &findings[i]
		if !least.Value.Set || !least.Low.Set || least.High.Set || len(least.Fields) == 0 {
			continue
		}
		for k := range findings {
			most := &findings[k]
			limit, caps := most.caps(least)
			if !caps || least.Low.V <= limit*(1+tolerance) {
				continue
			}
			least.Clash = quantity.Say("at least {} ", quantity.Round(least.Low.V, 2)) + least.Unit + " is asked by “" + least.Title +
				quantity.Say("”, at most {} ", quantity.Round(limit, 2)) + most.Unit + " allowed by “" + most.Title + "”: one must give way"
		}
	}
}

// caps returns the most that a finding allows the value of another one; false where it does not
// bound it.
func (f *Finding) caps(other *Finding) (most float64, caps bool) {
	switch {
	case f.Point != other.Point || f.Unit != other.Unit:
		return 0, false
	case f.Cap.Field == other.Fields[0]:
		return f.Cap.Most, true
	case f.Value == other.Value && f.High.Set && !f.Low.Set && len(f.Fields) > 0 && f.Fields[0] == other.Fields[0]:
		return f.High.V, true
	}
	return 0, false
}
