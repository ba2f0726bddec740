package us

import (
	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// supportSpacing is the greatest spacing of supports, m:
// NM-B 4½ ft (334.30), MC 6 ft (330.30), EMT 10 ft (358.30), PVC by trade size
// 3 ft to 1 in, 5 ft to 2 in (352.30). From memory.
func supportSpacing(f job.Family, trade string) quantity.Metre {
	switch f {
	case job.NMB:
		return quantity.Feet(4.5)
	case job.MC:
		return quantity.Feet(6)
	case job.ThwnPVC:
		if trade == "½" || trade == "¾" || trade == "1" || trade == "" {
			return quantity.Feet(3)
		}
		return quantity.Feet(5)
	}
	return quantity.Feet(10)
}

// leastCover is the least depth of a buried wiring method by NEC table 300.5 for
// what lies above, to the top of the raceway or cable: direct cable 24 in, PVC
// and other raceways 18 in; a dwelling's drive 18 in, a street 24 in for every
// method. From memory.
func leastCover(f job.Family, under job.Under) quantity.Metre {
	inches := 18.0
	switch {
	case under == "street":
		inches = 24
	case under == "drive":
	case f == job.NMB || f == job.MC:
		inches = 24
	}
	return quantity.Inches(inches)
}

// boxVolume is the volume of usual square boxes, in³ (NEC table 314.16(A), from
// memory), by side and depth in inches.
var boxVolume = map[job.Box]float64{"4-1.5": 21.0, "4-2.125": 30.3, "4.69-1.5": 29.5, "4.69-2.125": 42.0}

// wireVolume is table 314.16(B), in³ for each conductor. From memory.
var wireVolume = map[quantity.AWG]float64{14: 2.00, 12: 2.25, 10: 2.50, 8: 3.00, 6: 5.00}

// boxFill returns the volume that 314.16(B) asks of a box, in³: each conductor
// once, inside clamps once the largest, equipment grounds once the largest up to
// four, and a device twice its conductor for each gang that it is wide
// (314.16(B)(1) to (5)). ok is false for conductors of 4 AWG and larger, which
// 314.28 sizes.
func boxFill(conductors int, size, ground quantity.AWG, gangs int, clamps bool) (volume float64, ok bool) {
	v, ok1 := wireVolume[size]
	g, ok2 := wireVolume[ground]
	if !ok1 || !ok2 {
		return 0, false
	}
	volume = float64(conductors)*v + g + 2*float64(max(gangs, 1))*v
	if clamps {
		volume += v
	}
	return volume, true
}
