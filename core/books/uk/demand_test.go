package uk

import (
	"fmt"
	"math"
	"testing"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

func about(t *testing.T, what string, got quantity.Ampere, want float64) {
	t.Helper()
	if math.Abs(float64(got)-want) > 0.05 {
		t.Errorf("%s: %.2f A, want %.2f", what, float64(got), want)
	}
}

// TestDiversityLines checks each line of the On-Site Guide's appendix A for one
// dwelling (from memory), at 230 V.
func TestDiversityLines(t *testing.T) {
	for _, c := range []struct {
		name  string
		loads []job.Load
		want  float64
	}{
		{"lighting 66 %", []job.Load{{Kind: job.Lighting, Amps: 6}}, 3.96},
		{"heating 10 A + 50 %", []job.Load{{Kind: job.Heating, Amps: 30}}, 20},
		{"heating below 10 A", []job.Load{{Kind: job.Heating, Amps: 8}}, 8},
		{"cooker 10 A + 30 %", []job.Load{{Kind: job.Cooker, Amps: 43.5, WithSocket: job.No}}, 20.05},
		{"cooker with socket + 5 A", []job.Load{{Kind: job.Cooker, Amps: 43.5, WithSocket: job.Yes}}, 25.05},
		{"one shower 100 %", []job.Load{{Kind: job.Shower, Amps: 40}}, 40},
		{"two showers 100 %", []job.Load{{Kind: job.Shower, Amps: 40}, {Kind: job.Shower, Amps: 36}}, 76},
		{"third shower 25 %", []job.Load{{Kind: job.Shower, Amps: 20}, {Kind: job.Shower, Amps: 40}, {Kind: job.Shower, Amps: 36}}, 81},
		{"stored water 100 %", []job.Load{{Kind: job.StoredHW, Power: 3000}}, 13.04},
		{"storage heaters 100 %", []job.Load{{Kind: job.StorageHeat, Power: 6900}}, 30},
		{"two rings 100 % + 40 %", []job.Load{{Kind: job.Sockets, Amps: 32}, {Kind: job.Sockets, Amps: 32}}, 44.8},
		{"radial and ring", []job.Load{{Kind: job.Sockets, Amps: 20}, {Kind: job.Sockets, Amps: 32}}, 40},
		{"another charging point 100 %", []job.Load{{Kind: job.ExistingEV, Amps: 32}}, 32},
	} {
		t.Run(c.name, func(t *testing.T) {
			r := Diversity(c.loads, nil)
			about(t, c.name, r.Without, c.want)
			if r.Total != r.Without {
				t.Errorf("%s: charging adds %g A without a point", c.name, float64(r.Total-r.Without))
			}
			if len(r.Lines) != len(c.loads) {
				t.Errorf("%s: %d lines for %d loads", c.name, len(r.Lines), len(c.loads))
			}
		})
	}
}

// TestTwoShowersAloneExceed: a diversity sum easily passes 100 A with two
// showers, which is why a measured demand is allowed beside it.
func TestTwoShowersAloneExceed(t *testing.T) {
	r := Diversity([]job.Load{
		{Kind: job.Shower, Power: 10500}, {Kind: job.Shower, Power: 9500}, {Kind: job.Cooker, Power: 10000},
		{Kind: job.Sockets, Amps: 32}, {Kind: job.Lighting, Amps: 6},
	}, nil)
	if r.Without <= 100 {
		t.Errorf("%.1f A", float64(r.Without))
	}
}

func TestLinesSumToTotal(t *testing.T) {
	loads := []job.Load{{Kind: job.Lighting, Amps: 10}, {Kind: job.Cooker, Power: 9000}, {Kind: job.Sockets, Amps: 32}, {Kind: job.Heating, Power: 4600}}
	r := Diversity(loads, []quantity.Ampere{32})
	var sum float64
	for _, l := range r.Lines {
		sum += l.Counted
	}
	about(t, "sum of the lines", r.Total, sum)
}

// TestMeasured: a peak without its record is not a demand.
func TestMeasured(t *testing.T) {
	r := Measured(24, 30, []quantity.Ampere{32})
	about(t, "peak and charging", r.Total, 56)
	if len(r.Missing) != 0 {
		t.Errorf("missing: %v", r.Missing)
	}
	if r := Measured(24, 0, nil); len(r.Missing) != 1 {
		t.Errorf("no record: %v", r.Missing)
	}
	if r := Measured(0, 30, nil); len(r.Missing) != 1 {
		t.Errorf("no peak: %v", r.Missing)
	}
}

func ExampleDiversity() {
	r := Diversity([]job.Load{{Kind: job.Cooker, Amps: 30, WithSocket: job.Yes}, {Kind: job.Sockets, Amps: 32}, {Kind: job.Lighting, Amps: 6}}, []quantity.Ampere{32})
	fmt.Printf("%.1f A before, %.1f A with charging\n", float64(r.Without), float64(r.Total))
	// Output: 57.0 A before, 89.0 A with charging
}

func TestMissing(t *testing.T) {
	if r := Diversity(nil, nil); len(r.Missing) == 0 {
		t.Error("no loads, and nothing is missing")
	}
	if r := Diversity([]job.Load{{Kind: job.Shower, Name: "shower"}}, nil); len(r.Missing) != 1 || r.Missing[0] != "rating of shower" {
		t.Errorf("missing: %v", r.Missing)
	}
}

// TestChargingHasNoDiversity: points are counted at 100 % (722.311.201).
func TestChargingHasNoDiversity(t *testing.T) {
	r := Diversity([]job.Load{{Kind: job.Sockets, Amps: 32}}, []quantity.Ampere{32, 32})
	about(t, "two points", r.Total, 96)
}
