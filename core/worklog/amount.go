package worklog

import (
	"math"
	"strconv"
	"strings"

	"dogbolt/core/quantity"
)

// lengths are the units that a length may be recorded in.
var lengths = []quantity.Unit{quantity.InMillimetres, {Symbol: "cm", Size: 0.01}, quantity.InMetres, quantity.InFeet, quantity.InInches}

// Amount reads what a step with a unit recorded, in SI: a number with the unit that stands
// behind it, or else with the step's own. False where it is no such number.
func (s *Step) Amount(value string) (float64, bool) {
	if s.Unit == "Ω" {
		r, err := quantity.ParseReading(value, s.Unit)
		return r.Value, err == nil && r.Bound == quantity.Exact
	}
	number := strings.TrimSpace(value)
	unit := s.Unit
	if i := strings.IndexFunc(number, func(c rune) bool { return !strings.ContainsRune("0123456789.", c) }); i >= 0 {
		number, unit = number[:i], strings.TrimSpace(number[i:])
	}
	v, err := strconv.ParseFloat(number, 64)
	if err != nil || v <= 0 || math.IsInf(v, 0) {
		return 0, false
	}
	for _, u := range lengths {
		if u.Symbol == unit {
			return u.SI(v), true
		}
	}
	return 0, false
}
