package uk

import "testing"

// TestCover: common practice, no source.
func TestCover(t *testing.T) {
	if usualCover("garden") != 0.45 || usualCover("drive") != 0.6 || usualCover("street") != 0.6 {
		t.Error("0.45 m in a garden, 0.6 m under a drive or street")
	}
}
