// Package loadmgmt simulates a night of a house with chargers, minute by
// minute: with and without a charger that backs off when the house draws more.
package loadmgmt

import "dogbolt/core/job"

// random is a small deterministic generator (splitmix64), so that the same seed
// gives the same night.
type random uint64

// next returns a number in [0, 1).
func (r *random) next() float64 {
	*r += 0x9E3779B97F4A7C15
	z := uint64(*r)
	z = (z ^ z>>30) * 0xBF58476D1CE4E5B9
	z = (z ^ z>>27) * 0x94D049BB133111EB
	return float64((z^z>>31)>>11) / (1 << 53)
}

// habit is when an appliance runs: from a time of day, for some minutes, the
// share of that time that its thermostat or user has it on, in spells, and the
// share of its rating that it then draws.
type habit struct {
	start, length int // minutes
	jitter        int // minutes that the start may move either way
	duty          float64
	spell         int // minutes of one on-or-off spell
	share         float64
}

// habits of appliances on a cold working-day night. Common practice, no
// source: they show the shape of a night, they are no forecast.
var habits = map[job.LoadKind][]habit{
	job.Lighting:    {{17 * 60, 360, 20, 1, 1, 0.5}, {6*60 + 15, 75, 10, 1, 1, 0.4}},
	job.Sockets:     {{12 * 60, 1440, 0, 1, 1, 0.06}, {18 * 60, 270, 30, 0.5, 9, 0.15}},
	job.Cooker:      {{18 * 60, 70, 25, 0.55, 4, 0.8}},
	job.Shower:      {{22 * 60, 9, 40, 1, 1, 1}, {6*60 + 40, 9, 20, 1, 1, 1}},
	job.TanklessHW:  {{21*60 + 30, 10, 40, 1, 1, 1}, {6*60 + 30, 10, 20, 1, 1, 1}},
	job.StoredHW:    {{22*60 + 45, 110, 15, 1, 1, 1}, {7 * 60, 40, 10, 1, 1, 1}},
	job.Heating:     {{16 * 60, 420, 0, 0.65, 8, 1}, {23 * 60, 360, 0, 0.4, 8, 1}, {5 * 60, 180, 0, 0.75, 8, 1}},
	job.StorageHeat: {{30, 390, 5, 1, 1, 1}},
	job.HeatPump:    {{12 * 60, 1440, 0, 0.6, 14, 0.8}},
	job.Cooling:     {{18 * 60, 330, 0, 0.55, 11, 1}},
	job.Dryer:       {{19*60 + 40, 65, 35, 0.8, 6, 1}},
	job.Motor:       {{20 * 60, 150, 20, 1, 1, 1}},
	job.OtherFixed:  {{19 * 60, 120, 60, 0.4, 10, 0.7}},
	job.ExistingEV:  {{23*60 + 30, 300, 20, 1, 1, 1}},
}

// Profile returns what an appliance draws, A, in each minute of a night that
// begins at a minute of the day, from its rating and a seed.
func Profile(kind job.LoadKind, rated float64, seed uint64, start, minutes int) []float64 {
	out := make([]float64, minutes)
	r := random(seed)
	for _, h := range habits[kind] {
		from := h.start
		if h.jitter > 0 {
			from += int((2*r.next() - 1) * float64(h.jitter))
		}
		at := ((from-start)%1440 + 1440) % 1440
		on := true
		for m := range h.length {
			if m%max(h.spell, 1) == 0 {
				on = r.next() < h.duty
			}
			// A habit that began before the night's first minute counts from there.
			if k := (at + m) % 1440; on && k < minutes {
				out[k] += rated * h.share
			}
		}
	}
	for i := range out {
		out[i] = min(out[i], rated)
	}
	return out
}
