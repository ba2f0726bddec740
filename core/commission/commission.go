// Package commission holds the test sequences: which readings a circuit needs,
// in which order, and in what unit they are entered.
package commission

import (
	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/worklog"
)

// Group is a part of the sequence. Dead tests come before live ones.
type Group string

// The groups in order.
const (
	Dead    Group = "dead"
	Live    Group = "live"
	Charger Group = "charger"
)

// Test is one line of the sequence.
type Test struct {
	ID     string   `json:"id"`
	Title  string   `json:"title"`
	Group  Group    `json:"group"`
	Unit   string   `json:"unit,omitempty"`
	Choice []string `json:"choice,omitempty" doc:"Words to choose from, where the test has no number. The first is the one that meets."`
	Hint   string   `json:"hint,omitempty" doc:"Conditions of the test."`
}

// Ids of the tests that rules refer to.
const (
	R1R2         = "r1r2"
	Insulation   = "insulation"
	PolarityDead = "polarity-dead"
	VoltageLN    = "voltage"
	PolarityLive = "polarity-live"
	Ze           = "ze"
	Zs           = "zs"
	FaultCurrent = "pfc"
	RCDTime      = "rcd-time"
	DCTrip       = "dc-trip"
	Pilot        = "pilot"
	Functions    = "functions"

	Ground      = "ground-continuity"
	HotHot      = "hot-hot"
	HotGround1  = "hot-ground-l1"
	HotGround2  = "hot-ground-l2"
	SelfTest    = "gf-self-test"
	GFCITrip    = "gfci-trip"
	VehicleTest = "vehicle-states"
	Management  = "load-management"
)

var uk = []Test{
	{ID: R1R2, Title: "R1 + R2, line to earth", Group: Dead, Unit: "Ω", Hint: "leads nulled"},
	{ID: Insulation, Title: "Insulation, live conductors to earth", Group: Dead, Unit: "MΩ", Hint: "500 V d.c.; 250 V with line and neutral together where electronics stay connected"},
	{ID: PolarityDead, Title: "Polarity, dead", Group: Dead, Choice: []string{"correct", "wrong"}},
	{ID: VoltageLN, Title: "Voltage, line to neutral", Group: Live, Unit: "V", Hint: "at the board"},
	{ID: PolarityLive, Title: "Polarity, live", Group: Live, Choice: []string{"correct", "wrong"}},
	{ID: Ze, Title: "Earth loop at the origin, Ze", Group: Live, Unit: "Ω", Hint: "main earth disconnected, supply isolated"},
	{ID: Zs, Title: "Earth loop at the charger, Zs", Group: Live, Unit: "Ω", Hint: "conductors at ambient"},
	{ID: FaultCurrent, Title: "Prospective fault current", Group: Live, Unit: "kA", Hint: "the larger of line-neutral and line-earth, at the board"},
	{ID: RCDTime, Title: "Residual current, 1 × IΔn a.c.", Group: Live, Unit: "ms", Hint: "the lights go out: warn the house"},
	{ID: DCTrip, Title: "Residual direct current, 6 mA", Group: Charger, Unit: "s", Hint: "by the maker's method"},
	{ID: Pilot, Title: "Current offered, control pilot", Group: Charger, Unit: "%", Hint: "simulated vehicle, duty cycle"},
	{ID: Functions, Title: "States A, B, C and stop on earth loss", Group: Charger, Choice: []string{"correct", "wrong"}, Hint: "simulated vehicle"},
}

var us = []Test{
	{ID: Ground, Title: "Equipment ground, charger to panel", Group: Dead, Unit: "Ω", Hint: "leads nulled"},
	{ID: Insulation, Title: "Insulation, hots to ground", Group: Dead, Unit: "MΩ", Hint: "500 V DC, charger not connected"},
	{ID: HotHot, Title: "Hot to hot", Group: Live, Unit: "V", Hint: "at the charger or receptacle"},
	{ID: HotGround1, Title: "L1 to ground", Group: Live, Unit: "V"},
	{ID: HotGround2, Title: "L2 to ground", Group: Live, Unit: "V"},
	{ID: GFCITrip, Title: "Receptacle ground-fault trip", Group: Live, Unit: "mA", Hint: "class A"},
	{ID: Pilot, Title: "Current offered, control pilot", Group: Charger, Unit: "%", Hint: "simulated vehicle, duty cycle"},
	{ID: SelfTest, Title: "Charger ground-fault self-test", Group: Charger, Choice: []string{"passed", "failed"}},
	{ID: VehicleTest, Title: "States A, B and C, contactor opens", Group: Charger, Choice: []string{"correct", "wrong"}, Hint: "simulated vehicle"},
}

// management is added to either sequence where the design counts on it.
var management = Test{ID: Management, Title: "Load management proved", Group: Charger, Choice: []string{"current falls", "current stays"}, Hint: "turn on a big load: the charger backs off"}

// Sequence returns the tests of a point's circuit in order.
func Sequence(s worklog.School, c job.Circuit) []Test {
	all := uk
	if s == worklog.US {
		all = us
	}
	tests := make([]Test, 0, len(all))
	for _, t := range all {
		if t.ID == GFCITrip && c.Connection != "receptacle" {
			continue
		}
		if t.ID == DCTrip && c.RCD.Type == "B" && c.Charger.DCDetection != job.Yes {
			continue
		}
		tests = append(tests, t)
	}
	if c.ManagedTo > 0 || c.Shares {
		tests = append(tests, management)
	}
	return tests
}

// Find returns the test with the id in either school.
func Find(id string) (Test, bool) {
	for _, t := range uk {
		if t.ID == id {
			return t, true
		}
	}
	for _, t := range us {
		if t.ID == id {
			return t, true
		}
	}
	if id == Management {
		return management, true
	}
	return Test{}, false
}

// DeadTested reports whether every dead test of the point has a reading.
func DeadTested(j *job.Job, s worklog.School, c job.Circuit) bool {
	for _, t := range Sequence(s, c) {
		if t.Group != Dead {
			continue
		}
		if _, ok := j.Latest(job.ReadingMade, c.Point, t.ID); !ok {
			return false
		}
	}
	return true
}

// Duty returns the control-pilot duty cycle, %, that offers a current, A:
// I = 0.6·d up to 51 A, I = 2.5·(d − 64) above (IEC 61851-1 annex A, SAE
// J1772). Below 6 A nothing may be offered and it returns 0.
func Duty(current quantity.Ampere) float64 {
	switch i := float64(current); {
	case i < 6:
		return 0
	case i <= 51:
		return i / 0.6
	case i <= 80:
		return i/2.5 + 64
	}
	return 0
}

// Offered returns the current, A, that a duty cycle in % offers; 0 where the
// duty is not allowed or is kept for digital communication.
func Offered(duty float64) quantity.Ampere {
	switch {
	case duty < 8 || duty > 97:
		return 0
	case duty < 10:
		return 6
	case duty <= 85:
		return quantity.Ampere(0.6 * duty)
	case duty <= 96:
		return quantity.Ampere(2.5 * (duty - 64))
	}
	return 80
}
