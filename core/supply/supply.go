// Package supply holds the nominal systems of supply that a country has, with
// their voltages.
package supply

import (
	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// System is a nominal system of supply.
type System struct {
	ID   job.EarthingSystem
	Name string // as records print it

	ToEarth quantity.Volt // of a line
	Circuit quantity.Volt // at which a circuit of one phase, or of two legs, works
	Three   quantity.Volt // between lines, at which a circuit of three phases works
	Phases  []int         // that it comes with
}

// Systems are the systems of a country, the usual one first.
type Systems []System

// Of returns the system of a supply; while it is not known, or is not one of the
// country's, the usual one.
func (s Systems) Of(p *job.Supply) System {
	for i := range s {
		if s[i].ID == p.System {
			return s[i]
		}
	}
	if len(s) == 0 {
		return System{}
	}
	return s[0]
}

// Has reports whether the system is one of the country's.
func (s Systems) Has(id job.EarthingSystem) bool {
	for i := range s {
		if s[i].ID == id {
			return true
		}
	}
	return false
}

// Voltage returns the nominal voltage at which a circuit of so many phases works
// on a supply, V: between lines for three.
func (s Systems) Voltage(p *job.Supply, phases int) quantity.Volt {
	if phases == 3 {
		return s.Of(p).Three
	}
	return s.Of(p).Circuit
}
