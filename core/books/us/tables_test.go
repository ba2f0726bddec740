package us

import (
	"math"
	"testing"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// TestCover: NEC table 300.5 in inches (from memory).
func TestCover(t *testing.T) {
	for _, c := range []struct {
		f     job.Family
		under string
		want  float64
	}{
		{job.ThwnPVC, "garden", 18}, {job.ThwnPVC, "drive", 18}, {job.ThwnPVC, "street", 24},
		{job.MC, "garden", 24}, {job.MC, "drive", 18}, {job.MC, "street", 24},
	} {
		if got := leastCover(c.f, job.Under(c.under)).Inches(); math.Abs(got-c.want) > 1e-9 {
			t.Errorf("%s under a %s: %.1f in, want %g", c.f, job.Under(c.under), got, c.want)
		}
	}
}

// TestBoxFill: 314.16(B), in³ (from memory). A 50 A receptacle two gangs wide
// with 6 AWG takes 20 for itself.
func TestBoxFill(t *testing.T) {
	for _, c := range []struct {
		n            int
		size, ground quantity.AWG
		gangs        int
		clamps       bool
		want         float64
	}{
		{0, 6, 10, 2, false, 20 + 2.5}, {3, 6, 10, 2, false, 37.5}, {3, 6, 10, 2, true, 42.5},
		{2, 10, 10, 1, false, 2*2.5 + 2.5 + 5}, {2, 12, 12, 1, true, 2*2.25 + 2.25 + 4.5 + 2.25}, {2, 14, 14, 0, false, 4 + 2 + 4},
	} {
		if got, ok := boxFill(c.n, c.size, c.ground, c.gangs, c.clamps); !ok || math.Abs(got-c.want) > 1e-9 {
			t.Errorf("%d × %s: %.2f in³, want %g", c.n, c.size, got, c.want)
		}
	}
	if _, ok := boxFill(2, 4, 8, 2, false); ok {
		t.Error("4 AWG is sized by 314.28")
	}
}

// TestSupports: NEC 334.30, 330.30, 358.30, 352.30 in feet (from memory).
func TestSupports(t *testing.T) {
	for _, c := range []struct {
		f     job.Family
		trade string
		want  float64
	}{{job.NMB, "", 4.5}, {job.MC, "", 6}, {job.ThwnEMT, "¾", 10}, {job.ThwnPVC, "1", 3}, {job.ThwnPVC, "1¼", 5}} {
		if got := supportSpacing(c.f, c.trade).Feet(); math.Abs(got-c.want) > 1e-9 {
			t.Errorf("%s %s: %.1f ft, want %g", c.f, c.trade, got, c.want)
		}
	}
}
