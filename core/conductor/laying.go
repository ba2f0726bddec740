package conductor

import (
	"math"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// diameters are the overall diameters of metric cables with three cores (two
// and the protective one), or of one single core, mm; of flat cable the two axes.
// Usual makers' figures, from memory: they serve clips and fill, not ratings. One that
// is wrong costs a clip or a conduit of the next size; the sheet at hand prevails.
var diameters = map[job.Family]map[float64][2]float64{
	job.TwinEarth:  {1.5: {8.2, 4.7}, 2.5: {10.3, 5.5}, 4: {11.9, 6.2}, 6: {13.5, 6.9}, 10: {17.1, 8.6}, 16: {19.4, 9.8}},
	job.Multicore:  {2.5: {12.5, 12.5}, 4: {14.5, 14.5}, 6: {15.5, 15.5}, 10: {18, 18}, 16: {21, 21}, 25: {25.5, 25.5}},
	job.Armoured70: {2.5: {14.1, 14.1}, 4: {15.3, 15.3}, 6: {16.6, 16.6}, 10: {19.5, 19.5}, 16: {21.6, 21.6}, 25: {25.6, 25.6}},
	job.Armoured90: {2.5: {14.1, 14.1}, 4: {15.3, 15.3}, 6: {16.6, 16.6}, 10: {19.5, 19.5}, 16: {21.6, 21.6}, 25: {25.6, 25.6}},
	job.Singles:    {2.5: {3.4, 3.4}, 4: {4.0, 4.0}, 6: {4.7, 4.7}, 10: {6.0, 6.0}, 16: {7.0, 7.0}, 25: {8.6, 8.6}},
}

// Diameter returns the overall diameter of a metric cable, mm, the larger axis
// of a flat one; false where the size is not listed.
func Diameter(f job.Family, area quantity.SquareMillimetre) (float64, bool) {
	d, ok := diameters[f][float64(area)]
	return d[0], ok
}

// Section returns the area that a circuit takes in a raceway, mm²: its cable, or
// its single cores (cores of them, the protective one included).
func Section(f job.Family, area quantity.SquareMillimetre, cores int) (float64, bool) {
	d, ok := diameters[f][float64(area)]
	s := math.Pi / 4 * d[0] * d[1]
	if f == job.Singles {
		s *= float64(cores)
	}
	return s, ok
}

// clipSpacing is On-Site Guide appendix D: overall diameter not above, mm, and
// greatest spacing of clips, mm, for cable that runs level and upright; 0 where
// the table has none. From memory.
var clipSpacing = []struct {
	upTo                                       float64
	level, upright, armourLevel, armourUpright float64
}{{9, 250, 400, 0, 0}, {15, 300, 400, 350, 450}, {20, 350, 450, 400, 550}, {40, 400, 550, 450, 600}}

// ClipSpacing returns the greatest spacing of clips for a metric cable, m;
// false where the table has none.
func ClipSpacing(f job.Family, diameter float64, upright bool) (quantity.Metre, bool) {
	for _, r := range clipSpacing {
		if diameter > r.upTo {
			continue
		}
		mm := r.level
		switch armoured := f == job.Armoured70 || f == job.Armoured90; {
		case armoured && upright:
			mm = r.armourUpright
		case armoured:
			mm = r.armourLevel
		case upright:
			mm = r.upright
		}
		return quantity.Metre(mm / 1000), mm > 0
	}
	return 0, false
}

// BendRadius returns the least internal bending radius of a metric cable, m: 3,
// 4 or 6 diameters by size, 6 for armoured (OSG appendix D; from memory).
func BendRadius(f job.Family, diameter float64) quantity.Metre {
	k := 6.0
	if f != job.Armoured70 && f != job.Armoured90 {
		switch {
		case diameter <= 10:
			k = 3
		case diameter <= 25:
			k = 4
		}
	}
	return quantity.Metre(k * diameter / 1000)
}

// Fills of raceways in the United Kingdom: trunking by the space factor of
// 45 % (OSG appendix E), conduit 40 % (common practice, no source).
const (
	TrunkingFill = 0.45
	ConduitFill  = 0.40
)

// Channel is one size of a raceway: what it is called and its inside, mm².
type Channel struct {
	Name string
	Area float64
}

// MetricConduits and MetricTrunkings are usual sizes by their inside. Conduit to
// BS EN 61386 with the usual inside diameters of heavy-gauge PVC, trunking by
// its nominal size less a 2 mm wall; from memory. One that is wrong shows when the
// cables are drawn in; no verdict on safety hangs on it.
var (
	MetricConduits  = []Channel{{"20 mm", round(16.9)}, {"25 mm", round(21.4)}, {"32 mm", round(27.8)}, {"40 mm", round(35.4)}, {"50 mm", round(44.3)}}
	MetricTrunkings = []Channel{
		{"16x16", 12 * 12},
		{"25x16", 21 * 12},
		{"38x25", 34 * 21},
		{"50x50", 46 * 46},
		{"75x50", 71 * 46},
		{"75x75", 71 * 71},
		{"100x50", 96 * 46},
		{"100x100", 96 * 96},
	}
)

func round(d float64) float64 { return math.Pi / 4 * d * d }

// MetricChannels returns the sizes of a method's raceway and the share of the
// inside that may be filled.
func MetricChannels(m job.Method) ([]Channel, float64) {
	if m == job.Trunking {
		return MetricTrunkings, TrunkingFill
	}
	return MetricConduits, ConduitFill
}

// SmallestChannel returns the smallest size of a method's raceway whose fill holds
// an area, mm², and what it may hold; false where none does.
func SmallestChannel(m job.Method, used float64) (name string, allowed float64, ok bool) {
	channels, share := MetricChannels(m)
	for _, ch := range channels {
		if used <= share*ch.Area {
			return ch.Name, share * ch.Area, true
		}
	}
	return "", 0, false
}

// ChannelAllowed returns what a size of a method's raceway may hold, mm²; false
// for a size that is not listed.
func ChannelAllowed(m job.Method, name string) (float64, bool) {
	channels, share := MetricChannels(m)
	for _, ch := range channels {
		if ch.Name == name {
			return share * ch.Area, true
		}
	}
	return 0, false
}
