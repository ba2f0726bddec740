package uk

import (
	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// usualCover is the depth at which cable is usually buried: 0.45 m in a garden, 0.6 m under a drive or a street. 522.8.10 asks
// for a depth that avoids foreseeable disturbance and names no figure; common
// practice, no source.
func usualCover(under job.Under) quantity.Metre {
	if under == "drive" || under == "street" {
		return 0.6
	}
	return 0.45
}
