package quantity

import (
	"errors"
	"fmt"
	"math"
	"strconv"
	"strings"
)

// Bound tells how a reading relates to the number it shows.
type Bound uint8

// A reading is exact, or it says only that the true value lies above or below
// the number shown, or it ran past a range whose end is not known.
const (
	Exact  Bound = iota
	Above        // ">999": the true value is greater than the number
	Below        // "<0.01": the true value is less than the number
	Beyond       // "LIM", "OL": past the instrument's range, whose end is not shown
)

// Truth is the answer to a comparison that a reading may not decide.
type Truth uint8

// Unknown is the zero value: nothing undecided is ever taken for yes.
const (
	Unknown Truth = iota
	Yes
	No
)

// Reading is what a test instrument shows, in the unit asked for.
type Reading struct {
	Value float64 // the number shown, in Unit; 0 when Bound is Beyond
	Bound Bound
	Unit  string // "Ω", "MΩ", "ms", "V", …
	Text  string // as entered, for the record
}

// ErrEmpty is returned for a reading with nothing in it.
var ErrEmpty = errors.New("no reading entered")

var prefixes = map[string]float64{
	"p": 1e-12, "n": 1e-9, "u": 1e-6, "µ": 1e-6, "μ": 1e-6, "m": 1e-3,
	"k": 1e3, "K": 1e3, "M": 1e6, "G": 1e9,
}

var baseUnits = []string{"°C", "ohms", "ohm", "Ohm", "Ω", "Ω", "R", "Hz", "V", "A", "s", "W", "%"}

// splitUnit returns the scale and base of a unit: "MΩ" is 1e6 and "Ω".
func splitUnit(unit string) (scale float64, base string, ok bool) {
	u := strings.TrimSpace(unit)
	for _, b := range baseUnits {
		if head, found := strings.CutSuffix(u, b); found {
			switch b {
			case "ohms", "ohm", "Ohm", "Ω", "R":
				b = "Ω"
			}
			if head == "" {
				return 1, b, true
			}
			s, known := prefixes[head]
			return s, b, known
		}
	}
	if s, known := prefixes[u]; known {
		return s, "", true
	}
	return 1, "", u == ""
}

// ParseReading reads text as an instrument shows it, to be kept in unit.
//
// A number may carry a bound ("<", ">", "≤", "≥"), a scale letter that takes
// the place of the unit's own ("1.2k" asked in Ω is 1200 Ω, "200k" asked in MΩ
// is 0.2 MΩ) or a whole unit ("740 A" asked in kA is 0.74 kA). "LIM", "OL" and
// "O.L" say that the range was passed without telling where it ends.
func ParseReading(text, unit string) (Reading, error) {
	t := strings.TrimSpace(text)
	r := Reading{Unit: unit, Text: t}
	if t == "" {
		return r, ErrEmpty
	}
	askScale, askBase, ok := splitUnit(unit)
	if !ok {
		return r, fmt.Errorf("unknown unit %q", unit)
	}
	switch strings.ToUpper(strings.TrimPrefix(t, ">")) {
	case "LIM", "OL", "O.L", "0.L":
		r.Bound = Beyond
		return r, nil
	}
	for sign, b := range map[string]Bound{">": Above, "≥": Above, "<": Below, "≤": Below} {
		if rest, found := strings.CutPrefix(t, sign); found {
			r.Bound, t = b, strings.TrimSpace(rest)
			break
		}
	}
	end := strings.IndexFunc(t, func(c rune) bool {
		return !strings.ContainsRune("0123456789.-+", c)
	})
	number, suffix := t, ""
	if end >= 0 {
		number, suffix = t[:end], strings.TrimSpace(t[end:])
	}
	v, err := strconv.ParseFloat(number, 64)
	if err != nil || math.IsInf(v, 0) {
		return r, fmt.Errorf("%q is not a reading: enter what the tester shows, such as 0.52, >999 or LIM", text)
	}
	if suffix != "" {
		scale, base, known := splitUnit(suffix)
		if !known || (base != "" && base != askBase) {
			return r, fmt.Errorf("%q has the unit %q where %s is wanted", text, suffix, unit)
		}
		v *= scale / askScale
	}
	if v < 0 {
		return r, fmt.Errorf("%q: a reading cannot be negative", text)
	}
	r.Value = v
	return r, nil
}

// AtMost tells whether the true value is ≤ limit.
func (r Reading) AtMost(limit float64) Truth {
	switch {
	case r.Bound == Exact && r.Value <= limit, r.Bound == Below && r.Value <= limit:
		return Yes
	case r.Bound == Exact, r.Bound == Above && r.Value >= limit:
		return No
	}
	return Unknown
}

// AtLeast tells whether the true value is ≥ limit.
func (r Reading) AtLeast(limit float64) Truth {
	switch {
	case r.Bound == Exact && r.Value >= limit, r.Bound == Above && r.Value >= limit:
		return Yes
	case r.Bound == Exact, r.Bound == Below && r.Value <= limit:
		return No
	}
	return Unknown
}

// Within tells whether low ≤ the true value ≤ high.
func (r Reading) Within(low, high float64) Truth {
	a, b := r.AtLeast(low), r.AtMost(high)
	switch {
	case a == No || b == No:
		return No
	case a == Yes && b == Yes:
		return Yes
	}
	return Unknown
}

// String returns the reading with its bound and unit: ">999 MΩ".
func (r Reading) String() string {
	switch r.Bound {
	case Beyond:
		return "past range"
	case Above:
		return ">" + r.number()
	case Below:
		return "<" + r.number()
	}
	return r.number()
}

func (r Reading) number() string {
	s := string(AppendNumber(nil, r.Value, -1))
	if r.Unit == "" {
		return s
	}
	return s + " " + r.Unit
}
