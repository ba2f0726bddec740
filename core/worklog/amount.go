package worklog

import (
	"math"
	"strconv"
	"strings"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// lengths are the units that a length may be recorded in.
var lengths = []quantity.Unit{quantity.InMillimetres, {Symbol: "cm", Size: 0.01}, quantity.InMetres, quantity.InFeet, quantity.InInches}

// Measure is the number that a step records.
type Measure struct {
	Unit string  // symbol; "" where the step records words or nothing
	Most float64 // more cannot be, in SI; 0 for no end
}

// Measure returns the number that a step of the plan records. A depth and a length end where those
// of the survey do.
func (w *Practice) Measure(step string) Measure {
	switch step {
	case OnWay + string(job.Buried):
		return Measure{Unit: w.Depth.Symbol, Most: 3}
	case RunCable:
		return Measure{Unit: w.Length.Symbol, Most: 1000}
	case Electrode:
		return Measure{Unit: "Ω"}
	}
	return Measure{}
}

// Amount reads what a step recorded, in SI: a number with the unit that stands behind it, or
// else with the measure's own. False where it is no such number.
func (m Measure) Amount(value string) (float64, bool) {
	if m.Unit == "Ω" {
		r, err := quantity.ParseReading(value, m.Unit)
		return r.Value, err == nil && r.Bound == quantity.Exact
	}
	number := strings.TrimSpace(value)
	unit := m.Unit
	if i := strings.IndexFunc(number, func(c rune) bool { return !strings.ContainsRune("0123456789.", c) }); i >= 0 {
		number, unit = number[:i], strings.TrimSpace(number[i:])
	}
	v, err := strconv.ParseFloat(number, 64)
	if err != nil || v <= 0 || math.IsInf(v, 0) {
		return 0, false
	}
	for _, u := range lengths {
		if u.Symbol == unit {
			return u.SI(v), m.Most == 0 || u.SI(v) <= m.Most
		}
	}
	return 0, false
}
