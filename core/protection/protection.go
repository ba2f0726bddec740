// Package protection holds overcurrent devices, residual current devices and
// the fault-loop limits that follow from them.
package protection

import (
	"math"

	"dogbolt/core/quantity"
)

// Preferred lists the preferred rated currents of circuit-breakers to
// BS EN 60898 and RCBOs to BS EN 61009, A.
var Preferred = []quantity.Ampere{6, 8, 10, 13, 16, 20, 25, 32, 40, 50, 63, 80, 100, 125}

// Standard lists the standard ampere ratings of NEC 240.6(A) up to 200 A.
var Standard = []quantity.Ampere{15, 20, 25, 30, 35, 40, 45, 50, 60, 70, 80, 90, 100, 110, 125, 150, 175, 200}

// NextAtLeast returns the smallest rating in the list that is ≥ i; false where
// there is none.
func NextAtLeast(list []quantity.Ampere, i quantity.Ampere) (quantity.Ampere, bool) {
	for _, r := range list {
		if r >= i {
			return r, true
		}
	}
	return 0, false
}

// IsListed reports whether the rating is in the list.
func IsListed(list []quantity.Ampere, i quantity.Ampere) bool {
	r, ok := NextAtLeast(list, i)
	return ok && r == i
}

// InstantMultiple returns the most that a breaker's instantaneous trip may
// need, as a multiple of its rating: B 5, C 10, D 20 (BS EN 60898). It returns
// 0 for a curve that is not known.
func InstantMultiple(curve string) float64 {
	switch curve {
	case "B":
		return 5
	case "C":
		return 10
	case "D":
		return 20
	}
	return 0
}

// Nominal voltage and the minimum and maximum voltage factors of the British
// rulebook: U0 230 V; Cmin 0.95 (411.4.4); Cmax 1.10 (BS EN 60909-0).
const (
	U0   = 230.0
	Cmin = 0.95
	Cmax = 1.10
)

// MaxZs returns the greatest earth fault loop impedance of 411.4.4 that lets a
// breaker trip at once: Zs = Cmin·U0 / Ia, with Ia the instantaneous trip.
// The values are those of table 41.3. It returns 0 for an unknown curve.
func MaxZs(rating quantity.Ampere, curve string) quantity.Ohm {
	ia := float64(rating) * InstantMultiple(curve)
	if ia == 0 {
		return 0
	}
	return quantity.Ohm(Cmin * U0 / ia)
}

// MaxZsRCD returns the greatest Zs where a residual current device gives fault
// protection: 50 V / IΔn (table 41.5), the trip current in mA. It returns +Inf
// for no device.
func MaxZsRCD(tripMA float64) quantity.Ohm {
	return quantity.Ohm(50 / (tripMA / 1000))
}

// ColdFactor is what a measured Zs is compared with: 0.80 of the tabulated
// value, the conductors being cold (BS 7671 appendix 3, GN3).
const ColdFactor = 0.80

// energyLimit is BS EN 60898-1 annex ZA at 6 kA: the greatest I²t that a breaker
// of an energy class lets through, A²s, for ratings to 16 A, to 32 A and of 40 A (120 %
// of those to 32 A). Class 1 has no limit. From memory, class 3 twice. It counts only
// where somebody read the class off the device; without it all of I² × 0.1 s counts,
// which asks for more.
var energyLimit = map[int]map[string][3]float64{
	2: {"B": {100000, 130000, 156000}, "C": {120000, 160000, 192000}},
	3: {"B": {35000, 45000, 54000}, "C": {42000, 55000, 66000}},
}

// LetThrough returns the energy I²t that an earth fault of current i can let
// through a breaker that trips at once: the lesser of I² × 0.1 s, the longest
// time of instantaneous tripping, and the limit of the energy class printed on
// the device, A²s (434.5.2). Class 0, not known, has no limit, like class 1; nor
// have ratings over 40 A and currents over 6 kA.
func LetThrough(i quantity.Ampere, rating quantity.Ampere, curve string, class int) float64 {
	e := float64(i) * float64(i) * 0.1
	limits, ok := energyLimit[class][curve]
	switch {
	case !ok || i > 6000 || rating > 40:
		return e
	case rating <= 16:
		return min(e, limits[0])
	case rating <= 32:
		return min(e, limits[1])
	}
	return min(e, limits[2])
}

// ImbalanceVoltage returns the displacement of the neutral of a three-phase
// installation with a broken PEN, V: U0·|I1 + a²·I2 + a·I3| / (I1 + I2 + I3),
// for the normal loads of the phases other than charging; way (i) of
// 722.411.4.1 holds it to 70 V. It returns U0 where there is no load. From
// memory.
func ImbalanceVoltage(i1, i2, i3 quantity.Ampere) quantity.Volt {
	sum := float64(i1 + i2 + i3)
	if sum == 0 {
		return U0
	}
	a, b, c := float64(i1), float64(i2), float64(i3)
	return quantity.Volt(U0 * math.Sqrt(a*a+b*b+c*c-a*b-b*c-c*a) / sum)
}

// ElectrodeLimit returns the greatest resistance of an electrode that holds
// the touch voltage of a PME supply with a broken neutral to 70 V, way (ii) of
// 722.411.4.1: RA ≤ 70·U0 / (I·(Cmax·U0 − 70)), annex A722. From memory.
func ElectrodeLimit(demand quantity.Ampere) quantity.Ohm {
	return quantity.Ohm(70 * U0 / (float64(demand) * (Cmax*U0 - 70)))
}

// FaultAtEnd returns the most that a fault current can be at the end of a cable, kA: from the fault current at its beginning, kA, of
// a source whose angle nobody knows, and the cable's resistance, Ω. A source of reactance alone leaves the most:
// U0 ÷ √((U0 ÷ I)² + R²).
func FaultAtEnd(origin, ohm float64) float64 {
	source := U0 / (1000 * origin)
	return U0 / math.Hypot(source, ohm) / 1000
}

// Conventional are the multiples of its rating that a device carries for an hour or more without opening, and at which it opens for
// certain within that time.
type Conventional struct{ Holds, Opens float64 }

// Conventional currents by the standards of devices. From memory.
var (
	Breaker60898 = Conventional{1.13, 1.45} // BS EN 60898-1 table 7
	BreakerUL489 = Conventional{1.00, 1.35} // UL 489
	FuseGG       = Conventional{1.25, 1.60} // BS 88-1, and BS 88-3 from 16 A
)

// OpensFirst reports whether on an overload a device opens for certain before the one ahead of it may: both ratings in A.
func OpensFirst(rating quantity.Ampere, of Conventional, ahead quantity.Ampere, aheadOf Conventional) bool {
	return quantity.Round(of.Opens*float64(rating), 3) <= quantity.Round(aheadOf.Holds*float64(ahead), 3)
}
