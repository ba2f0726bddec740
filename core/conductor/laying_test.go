package conductor

import (
	"fmt"
	"math"
	"testing"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// TestSingles: table 4D1A, method B (from memory).
func TestSingles(t *testing.T) {
	for area, want := range map[quantity.SquareMillimetre][2]float64{2.5: {24, 21}, 4: {32, 28}, 6: {41, 36}, 10: {57, 50}, 16: {76, 68}, 25: {101, 89}} {
		for _, r := range Metric(job.Singles) {
			if r.Area != area {
				continue
			}
			for k, loaded := range []int{2, 3} {
				for _, m := range []job.Method{job.Conduit, job.Trunking} {
					if got, ok := r.Capacity(m, loaded); !ok || float64(got) != want[k] {
						t.Errorf("%g mm², %s, %d loaded: %g A, want %g", float64(area), m, loaded, float64(got), want[k])
					}
				}
			}
			if _, ok := r.Capacity(job.Surface, 2); ok {
				t.Error("single cores are not clipped direct")
			}
		}
	}
	if k := EarthK(job.Singles, false); k != 143 {
		t.Errorf("k of a separate PVC conductor: %g, want 143", k)
	}
}

// TestClips: On-Site Guide appendix D, mm (from memory).
func TestClips(t *testing.T) {
	for _, c := range []struct {
		family   job.Family
		diameter float64
		upright  bool
		want     float64
	}{
		{job.TwinEarth, 8.2, false, 250}, {job.TwinEarth, 9, true, 400}, {job.TwinEarth, 9.1, false, 300}, {job.TwinEarth, 13.5, true, 400},
		{job.TwinEarth, 17.1, false, 350}, {job.TwinEarth, 17.1, true, 450}, {job.Multicore, 25, false, 400}, {job.Multicore, 25, true, 550},
		{job.Armoured90, 14.1, false, 350}, {job.Armoured90, 14.1, true, 450}, {job.Armoured70, 16.6, false, 400}, {job.Armoured70, 16.6, true, 550},
		{job.Armoured70, 25, false, 450}, {job.Armoured70, 25, true, 600}, {job.Armoured70, 8, false, 0}, {job.Multicore, 41, false, 0},
	} {
		got, ok := ClipSpacing(c.family, c.diameter, c.upright)
		if math.Abs(float64(got)*1000-c.want) > 1e-6 || ok != (c.want > 0) {
			t.Errorf("%s of %g mm, upright %t: %.0f mm, want %g", c.family, c.diameter, c.upright, float64(got)*1000, c.want)
		}
	}
}

// TestBendRadius: 3, 4 or 6 diameters (OSG appendix D, from memory).
func TestBendRadius(t *testing.T) {
	for _, c := range []struct {
		f    job.Family
		d, k float64
	}{{job.Multicore, 10, 3}, {job.Multicore, 10.1, 4}, {job.Multicore, 25, 4}, {job.Multicore, 25.1, 6}, {job.Armoured90, 16.6, 6}} {
		if got := float64(BendRadius(c.f, c.d)); math.Abs(got-c.k*c.d/1000) > 1e-9 {
			t.Errorf("%s of %g mm: %.4f m, want %g diameters", c.f, c.d, got, c.k)
		}
	}
}

// TestSizesHoldTogether: usual diameters have no published table here, so they are
// held to what must be: they grow with the conductor, a cable is wider than its
// cores' copper, and a raceway's inside is smaller than its name.
func TestSizesHoldTogether(t *testing.T) {
	for f, sizes := range diameters {
		last := 0.0
		for _, r := range Metric(f) {
			d, ok := sizes[float64(r.Area)]
			if !ok {
				t.Errorf("%s %s has no diameter", f, r.Label())
				continue
			}
			copper := math.Sqrt(4 * float64(r.Area) / math.Pi)
			least := 2 * copper // two cores side by side
			if f == job.Singles {
				least = copper
			}
			if d[0] <= last || d[0] < least || d[1] < copper || d[0] > 5*copper+8 {
				t.Errorf("%s %s: %g × %g mm after %g, copper %.1f mm", f, r.Label(), d[0], d[1], last, copper)
			}
			last = d[0]
		}
	}
	for _, c := range MetricConduits {
		var nominal float64
		fmt.Sscanf(c.Name, "%f mm", &nominal)
		if inside := math.Sqrt(4 * c.Area / math.Pi); inside < 0.8*nominal || inside > 0.92*nominal {
			t.Errorf("%s conduit: %.1f mm inside", c.Name, inside)
		}
	}
	for _, c := range MetricTrunkings {
		var w, h float64
		fmt.Sscanf(c.Name, "%fx%f", &w, &h)
		if c.Area != (w-4)*(h-4) {
			t.Errorf("%s trunking: %g mm² inside, want walls of 2 mm", c.Name, c.Area)
		}
	}
}
