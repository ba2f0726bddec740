package commission_test

import (
	"math"
	"strings"
	"testing"

	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

func TestDerive(t *testing.T) {
	read := func(v float64) quantity.Reading { return quantity.Reading{Value: v, Unit: "Ω"} }
	supply := &job.Supply{Phases: 1, System: job.TNCS}
	if list := commission.Derive(map[string]quantity.Reading{commission.R1R2: read(0.1)}, supply, 230); len(list) != 0 {
		t.Errorf("without Ze: %+v", list)
	}
	// OSG worked example, from memory: Ze 0.35 Ω and R1 + R2 0.52 Ω give Zs 0.87 Ω.
	list := commission.Derive(map[string]quantity.Reading{commission.Ze: read(0.35), commission.R1R2: read(0.52)}, supply, 230)
	if len(list) != 2 || list[0].Test != commission.Zs || list[0].Value != "0.87" || list[1].Test != commission.FaultCurrent || list[1].Value != "0.66" {
		t.Errorf("%+v", list)
	}
	supply.Phases = 3
	list = commission.Derive(map[string]quantity.Reading{commission.Ze: read(0.23), commission.R1R2: read(0.1), commission.R1R2L2: read(0.11), commission.R1R2L3: read(0.12)}, supply, 230)
	if len(list) != 4 || list[2].Test != commission.ZsL3 || list[2].Value != "0.35" || list[3].Value != "2.00" || !strings.Contains(list[3].Working, "× 2 for three phases") {
		t.Errorf("%+v", list)
	}
	// TN-S: Ze 0.80 Ω gives 0.29 kA to earth, the loop to neutral of 0.25 Ω 0.92 kA.
	supply = &job.Supply{Phases: 1, System: job.TNS}
	if list := commission.Derive(map[string]quantity.Reading{commission.Ze: read(0.8)}, supply, 230); len(list) != 0 {
		t.Errorf("TN-S without the loop to neutral: %+v", list)
	}
	if list := commission.Derive(map[string]quantity.Reading{commission.Ze: read(0.8), commission.LoopLN: read(0.25)}, supply, 230); len(list) != 1 || list[0].Value != "0.92" {
		t.Errorf("TN-S: %+v", list)
	}
	if list := commission.Derive(map[string]quantity.Reading{commission.Ze: {Value: 0.3, Bound: quantity.Above}, commission.R1R2: read(0.1)}, supply, 230); len(list) != 0 {
		t.Errorf("from a bound: %+v", list)
	}
}

// TestR20: copper at 70 °C has 1.20 times its resistance at 20 °C (OSG table I3,
// from memory).
func TestR20(t *testing.T) {
	if got := float64(commission.R20(1.2, 70)); math.Abs(got-1) > 1e-9 {
		t.Errorf("1.2 Ω at 70 °C: %g Ω at 20 °C", got)
	}
	if got := float64(commission.R20(0.5, 20)); got != 0.5 {
		t.Errorf("at 20 °C it stays: %g", got)
	}
}

// TestLineVoltage: 230 V to neutral are 400 V between lines, nominally (IEC 60038).
func TestLineVoltage(t *testing.T) {
	if got := commission.LineVoltage(230); math.Abs(got-398.4) > 0.05 {
		t.Errorf("%g V", got)
	}
}
