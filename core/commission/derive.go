package commission

import (
	"math"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// Derivation is a value that is worked out instead of read.
type Derivation struct {
	Test    string `json:"test"`
	Value   string `json:"value"`
	Unit    string `json:"unit"`
	Working string `json:"working"`
}

// Derive works out, from the readings of a point, what may stand by calculation:
// Zs = Ze + (R1 + R2) for each line (GN3), and the prospective current at the
// board, doubled where the supply has three phases, whatever the charger has (GN3, from
// memory). U0 ÷ Ze is the short-circuit current too only where neutral and earth are
// one conductor (TN-C-S); elsewhere the loop of line and neutral is read, and the
// larger counts. voltage is the nominal voltage to earth, V.
func Derive(read map[string]quantity.Reading, supply *job.Supply, voltage float64) []Derivation {
	exact := func(test string) (float64, bool) {
		r, ok := read[test]
		return r.Value, ok && r.Bound == quantity.Exact
	}
	var list []Derivation
	ze, ok := exact(Ze)
	if !ok || ze <= 0 {
		return list
	}
	for _, p := range []struct{ zs, r string }{{Zs, R1R2}, {ZsL2, R1R2L2}, {ZsL3, R1R2L3}} {
		if r, ok := exact(p.r); ok {
			list = append(list, Derivation{p.zs, quantity.Say("{2}", ze+r), "Ω", quantity.Say("Ze {2} Ω + (R1 + R2) {2} Ω = {2} Ω", ze, r, ze+r)})
		}
	}
	times, kA := 1.0, voltage/ze/1000
	working := quantity.Say("{} V ÷ Ze {2} Ω = {2} kA", voltage, ze, kA)
	if supply.System != job.TNCS {
		ln, ok := exact(LoopLN)
		if !ok || ln <= 0 {
			return list
		}
		working += quantity.Say("; {} V ÷ {2} Ω line to neutral = {2} kA", voltage, ln, voltage/ln/1000)
		kA = max(kA, voltage/ln/1000)
	}
	if supply.Phases == 3 {
		times = 2
		working += quantity.Say(" × 2 for three phases = {2} kA", times*kA)
	}
	return append(list, Derivation{FaultCurrent, quantity.Say("{2}", times*kA), "kA", working})
}

// R20 corrects a resistance of copper, measured at a temperature in °C, to 20 °C:
// R20 = R / (1 + 0.004·(T − 20)) (BS EN 60228, GN3; from memory).
func R20(r quantity.Ohm, t quantity.Celsius) quantity.Ohm {
	return quantity.Ohm(float64(r) / (1 + 0.004*(float64(t)-20)))
}

// LineVoltage is the voltage between two lines of a three-phase supply, V: √3
// times that to neutral.
func LineVoltage(toNeutral float64) float64 { return math.Sqrt(3) * toNeutral }
