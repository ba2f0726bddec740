package us

import (
	"fmt"
	"testing"
)

// TestHoles: each cutter lies within the limits of its knock-out (NEMA OS 1, in,
// from memory).
func TestHoles(t *testing.T) {
	limits := map[string][2]float64{"½": {0.859, 0.906}, "¾": {1.094, 1.141}, "1": {1.359, 1.406}, "1¼": {1.719, 1.766}}
	if len(limits) != len(tradeHoles) {
		t.Fatalf("%d of %d sizes", len(limits), len(tradeHoles))
	}
	for size, l := range limits {
		whole, num, den := 0.0, 0.0, 1.0
		if _, err := fmt.Sscanf(tradeHoles[size], "%f %f/%f", &whole, &num, &den); err != nil {
			if _, err := fmt.Sscanf(tradeHoles[size], "%f/%f", &num, &den); err != nil {
				t.Fatal(err)
			}
			whole = 0
		}
		if in := whole + num/den; in < l[0] || in > l[1] {
			t.Errorf("trade %s: %s in is not within %v", size, tradeHoles[size], l)
		}
	}
}
