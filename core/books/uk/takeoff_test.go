package uk

import (
	"math"
	"testing"

	"dogbolt/core/job"
)

// TestFill: in trunking, three 6 mm² singles of 4.7 mm fill 52 mm² of 45 % (OSG
// appendix E, from memory).
func TestFill(t *testing.T) {
	if f := fill(job.Trunking, 3*math.Pi/4*4.7*4.7, ""); f.Size != "16x16" || !f.Meets {
		t.Errorf("three 6 mm² singles: %+v", f)
	}
	if f := fill(job.Trunking, 1000, "50x50"); f.Meets || !f.Chosen {
		t.Errorf("1000 mm² in 50x50, 45 %% of 46² is 952: %+v", f)
	}
	if f := fill(job.Conduit, 1e6, ""); f.Meets || f.Size != "" {
		t.Errorf("nothing holds a square metre: %+v", f)
	}
}

// TestHoles: each gland passes its thread: M20, M25, M32 by the diameters that
// makers of glands give, mm (from memory).
func TestHoles(t *testing.T) {
	for _, c := range []struct {
		family job.Family
		size   string
		hole   string
	}{{job.Armoured90, "6 mm²", "20"}, {job.Armoured90, "10 mm²", "20"}, {job.Armoured90, "16 mm²", "25"}, {job.Armoured90, "25 mm²", "25"},
		{job.Multicore, "2.5 mm²", "20"}, {job.Multicore, "6 mm²", "25"}, {job.Multicore, "16 mm²", "32"}} {
		if got := hole(&job.Circuit{Cable: job.Cable{Family: c.family, Size: c.size}}, nil); got != "hole cutter "+c.hole+" mm" {
			t.Errorf("%s %s: %q, want %s mm", c.family, c.size, got, c.hole)
		}
	}
}
