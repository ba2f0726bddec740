// Package demand holds what a service demand is, with every line of its sum, and
// reads a meter's interval data. The methods are in each country's folder.
package demand

import (
	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// Item is one line of a demand sum.
type Item struct {
	Name    string  `json:"name"`
	Rated   float64 `json:"rated" doc:"Connected load, in the result's unit."`
	Factor  string  `json:"factor" doc:"How the line is counted, in words."`
	Counted float64 `json:"counted" doc:"What it adds to the sum, in the result's unit."`
}

// Result is a demand with its working. Unit is "A" or "VA".
type Result struct {
	Method  string          `json:"method"`
	Clause  string          `json:"clause"`
	Unit    string          `json:"unit"`
	Lines   []Item          `json:"lines"`
	Without quantity.Ampere `json:"without" doc:"Demand before the charging points, A."`
	Total   quantity.Ampere `json:"total" doc:"Demand with the charging points, A."`
	Missing []string        `json:"missing,omitempty" doc:"What the method still needs to know."`
}

// Add adds a line to the sum that is shown: what it is, its connected load, how it is
// counted in words, and what it adds, both in the result's unit.
func (r *Result) Add(name string, rated float64, how string, counted float64) {
	r.Lines = append(r.Lines, Item{name, rated, how, counted})
}

// Rename calls the lines of a name otherwise.
func (r *Result) Rename(name, to string) {
	for i := range r.Lines {
		if r.Lines[i].Name == name {
			r.Lines[i].Name = to
		}
	}
}

// Amps returns the rated current of a load at the voltage: its amps where
// given, or power over voltage.
func Amps(l job.Load, v quantity.Volt) float64 {
	if l.Amps > 0 {
		return float64(l.Amps)
	}
	return float64(l.Power) / float64(v)
}

// Power returns the rated power of a load at the voltage, VA.
func Power(l job.Load, v quantity.Volt) float64 {
	if l.Power > 0 {
		return float64(l.Power)
	}
	return float64(l.Amps) * float64(v)
}

// Name is what a line calls a load: its name, or its kind.
func Name(l job.Load) string {
	if l.Name != "" {
		return l.Name
	}
	return string(l.Kind)
}

// SquareFeet converts m² to ft².
func SquareFeet(m2 float64) float64 { return m2 / (0.3048 * 0.3048) }
