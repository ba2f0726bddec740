// Package commission holds the test sequences: which readings a circuit needs,
// in which order, and in what unit they are entered.
package commission

import (
	"strings"

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
	ID       string   `json:"id"`
	Title    string   `json:"title"`
	Group    Group    `json:"group"`
	Unit     string   `json:"unit,omitempty"`
	Choice   []string `json:"choice,omitempty" doc:"Words to choose from, where the test has no number. The first is the one that meets."`
	Words    bool     `json:"words,omitempty" doc:"Answered in words: a version, a meter's reading."`
	Optional bool     `json:"optional,omitempty" doc:"Good practice, or done where the maker allows it: judged where it was read, not asked for."`
	Hint     string   `json:"hint,omitempty" doc:"Conditions of the test."`

	when func(*job.Circuit) bool // nil for every circuit
}

// Ids of the tests that rules refer to.
const (
	R1R2           = "r1r2"
	R1R2L2         = "r1r2-l2"
	R1R2L3         = "r1r2-l3"
	Ambient        = "ambient"
	Insulation     = "insulation"
	InsulationLive = "insulation-live"
	PolarityDead   = "polarity-dead"
	VoltageLN      = "voltage"
	VoltageL2N     = "voltage-l2"
	VoltageL3N     = "voltage-l3"
	VoltageL1L2    = "voltage-l1l2"
	VoltageL2L3    = "voltage-l2l3"
	VoltageL1L3    = "voltage-l1l3"
	PhaseSequence  = "phase-sequence"
	PolarityLive   = "polarity-live"
	Ze             = "ze"
	Zs             = "zs"
	ZsL2           = "zs-l2"
	ZsL3           = "zs-l3"
	FaultCurrent   = "pfc"
	RCDHalf        = "rcd-half"
	RCDTime        = "rcd-time"
	RCDFive        = "rcd-5x"
	RCDRamp        = "rcd-ramp"
	DCTrip         = "dc-trip"
	Pilot          = "pilot"
	PilotLow       = "pilot-low"
	PilotMid       = "pilot-mid"
	Functions      = "functions"
	PilotFault     = "pilot-fault"
	OpenNeutral    = "open-neutral"
	Schedule       = "schedule"
	StartDelay     = "start-delay"
	Network        = "network"
	Firmware       = "firmware"
	Meter          = "meter"

	Ground         = "ground-continuity"
	HotHot         = "hot-hot"
	HotGround1     = "hot-ground-l1"
	HotGround2     = "hot-ground-l2"
	Stray          = "stray"
	SelfTest       = "gf-self-test"
	GFCITrip       = "gfci-trip"
	VehicleTest    = "vehicle-states"
	Management     = "load-management"
	ManagementTime = "management-time"
)

// Calculated stands as the instrument of a value that was not read but worked out
// from other readings.
const Calculated = "calculated"

// Conditions under which a test is part of a sequence.
func threePhase(c *job.Circuit) bool { return c.Charger.Phases == 3 }
func onePhase(c *job.Circuit) bool   { return c.Charger.Phases != 3 }
func managed(c *job.Circuit) bool    { return c.ManagedTo > 0 || c.Shares }
func penDevice(c *job.Circuit) bool  { return strings.HasPrefix(c.Earthing.OpenPEN, "device-") }
func pluggedIn(c *job.Circuit) bool  { return c.Connection == "receptacle" }
func detectsDC(c *job.Circuit) bool  { return c.RCD.Type != "B" || c.Charger.DCDetection == job.Yes }
func aboveFloor(c *job.Circuit) bool { return c.Setting > 6 }
func farAbove(c *job.Circuit) bool   { return c.Setting >= 16 }
func residual(c *job.Circuit) bool   { return c.RCD.Fitted != job.No }
func threeWires(c *job.Circuit) bool {
	return c.Receptacle.Neutral == job.Yes || c.Charger.NeedsNeutral == job.Yes
}

var uk = []Test{
	{ID: R1R2, Title: "R1 + R2, line to earth", Group: Dead, Unit: "Ω", Hint: "leads nulled; L1 where there are three phases"},
	{ID: R1R2L2, Title: "R1 + R2, L2 to earth", Group: Dead, Unit: "Ω", when: threePhase},
	{ID: R1R2L3, Title: "R1 + R2, L3 to earth", Group: Dead, Unit: "Ω", when: threePhase},
	{ID: Ambient, Title: "Temperature of the conductors", Group: Dead, Unit: "°C", Optional: true, Hint: "where it is far from 20 °C: R1 + R2 is corrected to 20 °C"},
	{ID: Insulation, Title: "Insulation, live conductors to earth", Group: Dead, Unit: "MΩ", Hint: "500 V d.c.; 250 V with line and neutral together where electronics stay connected"},
	{ID: InsulationLive, Title: "Insulation, every pair of live conductors", Group: Dead, Unit: "MΩ", Hint: "500 V d.c., charger not connected; the lowest of the pairs", when: threePhase},
	{ID: InsulationLive, Title: "Insulation, line to neutral", Group: Dead, Unit: "MΩ", Optional: true, Hint: "500 V d.c., charger not connected", when: onePhase},
	{ID: PolarityDead, Title: "Polarity, dead", Group: Dead, Choice: []string{"correct", "wrong"}},
	{ID: VoltageLN, Title: "Voltage, line to neutral", Group: Live, Unit: "V", Hint: "at the board; L1 where there are three phases"},
	{ID: VoltageL2N, Title: "Voltage, L2 to neutral", Group: Live, Unit: "V", when: threePhase},
	{ID: VoltageL3N, Title: "Voltage, L3 to neutral", Group: Live, Unit: "V", when: threePhase},
	{ID: VoltageL1L2, Title: "Voltage, L1 to L2", Group: Live, Unit: "V", when: threePhase},
	{ID: VoltageL2L3, Title: "Voltage, L2 to L3", Group: Live, Unit: "V", when: threePhase},
	{ID: VoltageL1L3, Title: "Voltage, L1 to L3", Group: Live, Unit: "V", when: threePhase},
	{ID: PhaseSequence, Title: "Phase sequence at the charger", Group: Live, Choice: []string{"L1 L2 L3", "L1 L3 L2"}, when: threePhase},
	{ID: PolarityLive, Title: "Polarity, live", Group: Live, Choice: []string{"correct", "wrong"}},
	{ID: Ze, Title: "Earth loop at the origin, Ze", Group: Live, Unit: "Ω", Hint: "main earth disconnected, supply isolated"},
	{ID: Zs, Title: "Earth loop at the charger, Zs", Group: Live, Unit: "Ω", Hint: "conductors at ambient; L1 where there are three phases"},
	{ID: ZsL2, Title: "Earth loop at the charger, Zs of L2", Group: Live, Unit: "Ω", when: threePhase},
	{ID: ZsL3, Title: "Earth loop at the charger, Zs of L3", Group: Live, Unit: "Ω", when: threePhase},
	{ID: FaultCurrent, Title: "Prospective fault current", Group: Live, Unit: "kA", Hint: "the largest at the board; three phases: 2 × line to neutral, or √3 × it exactly"},
	{ID: RCDHalf, Title: "Residual current, ½ × IΔn", Group: Live, Optional: true, Choice: []string{"holds", "trips"}, Hint: "good practice: nothing else on the circuit", when: residual},
	{ID: RCDTime, Title: "Residual current, 1 × IΔn a.c.", Group: Live, Unit: "ms", Hint: "the lights go out: warn the house"},
	{ID: RCDFive, Title: "Residual current, 5 × IΔn a.c.", Group: Live, Unit: "ms", Optional: true, Hint: "good practice", when: residual},
	{ID: RCDRamp, Title: "Residual current, ramp", Group: Live, Unit: "mA", Optional: true, Hint: "good practice: where it trips", when: residual},
	{ID: DCTrip, Title: "Residual direct current, 6 mA", Group: Charger, Unit: "s", Hint: "by the maker's method", when: detectsDC},
	{ID: Pilot, Title: "Current offered, control pilot", Group: Charger, Unit: "%", Hint: "simulated vehicle, duty cycle"},
	{ID: PilotLow, Title: "Duty at the lowest setting, 6 A", Group: Charger, Unit: "%", Optional: true, Hint: "turned down, and up again after", when: aboveFloor},
	{ID: PilotMid, Title: "Duty at half of the setting", Group: Charger, Unit: "%", Optional: true, Hint: "turned down, and up again after", when: farAbove},
	{ID: Functions, Title: "States A, B, C and stop on earth loss", Group: Charger, Choice: []string{"correct", "wrong"}, Hint: "simulated vehicle"},
	{ID: PilotFault, Title: "States D, E and F", Group: Charger, Optional: true, Choice: []string{"correct", "wrong"}, Hint: "D: by its sheet; E, pilot to earth: stops; F, fault of the charger: does not close"},
	{ID: OpenNeutral, Title: "Stop on an open neutral", Group: Charger, Choice: []string{"opens within 5 s", "stays on"}, Hint: "by the maker's method, or with a simulated voltage", when: penDevice},
	{ID: Schedule, Title: "Default schedule", Group: Charger, Choice: []string{"on, away from peak hours", "off"}, Hint: "not 08:00 to 11:00 and 16:00 to 22:00 on weekdays"},
	{ID: StartDelay, Title: "Random start delay, as set", Group: Charger, Unit: "s", Hint: "up to 600 s by default, to 1800 s"},
	{ID: Network, Title: "The owner's network", Group: Charger, Choice: []string{"joined", "not joined"}},
	{ID: Firmware, Title: "Firmware", Group: Charger, Words: true, Hint: "as the charger or its app shows it"},
	{ID: Meter, Title: "Meter of the charger", Group: Charger, Words: true, Hint: "with its unit"},
}

var us = []Test{
	{ID: Ground, Title: "Equipment ground, charger to panel", Group: Dead, Unit: "Ω", Hint: "leads nulled"},
	{ID: Insulation, Title: "Insulation, hots to ground", Group: Dead, Unit: "MΩ", Hint: "500 V DC, charger not connected"},
	{ID: InsulationLive, Title: "Insulation, hot to hot", Group: Dead, Unit: "MΩ", Optional: true, Hint: "500 V DC, charger not connected"},
	{ID: HotHot, Title: "Hot to hot", Group: Live, Unit: "V", Hint: "at the charger or receptacle"},
	{ID: HotGround1, Title: "L1 to ground", Group: Live, Unit: "V"},
	{ID: HotGround2, Title: "L2 to ground", Group: Live, Unit: "V"},
	{ID: Stray, Title: "Ground to neutral, or to the enclosure", Group: Live, Unit: "V", Optional: true, when: threeWires},
	{ID: GFCITrip, Title: "Receptacle ground-fault trip", Group: Live, Unit: "mA", Hint: "class A", when: pluggedIn},
	{ID: Pilot, Title: "Current offered, control pilot", Group: Charger, Unit: "%", Hint: "simulated vehicle, duty cycle"},
	{ID: PilotLow, Title: "Duty at the lowest setting, 6 A", Group: Charger, Unit: "%", Optional: true, Hint: "turned down, and up again after", when: aboveFloor},
	{ID: PilotMid, Title: "Duty at half of the setting", Group: Charger, Unit: "%", Optional: true, Hint: "turned down, and up again after", when: farAbove},
	{ID: SelfTest, Title: "Charger ground-fault self-test", Group: Charger, Choice: []string{"passed", "failed"}},
	{ID: VehicleTest, Title: "States A, B and C, contactor opens", Group: Charger, Choice: []string{"correct", "wrong"}, Hint: "simulated vehicle"},
	{ID: PilotFault, Title: "States D, E and F", Group: Charger, Optional: true, Choice: []string{"correct", "wrong"}, Hint: "D: by its sheet; E, pilot to ground: stops; F, fault of the charger: does not close"},
	{ID: Network, Title: "The owner's network", Group: Charger, Choice: []string{"joined", "not joined"}},
	{ID: Firmware, Title: "Firmware", Group: Charger, Words: true, Hint: "as the charger or its app shows it"},
	{ID: Meter, Title: "Meter of the charger", Group: Charger, Words: true, Hint: "with its unit"},
}

// shared ends either sequence.
var shared = []Test{
	{ID: Management, Title: "Load management proved", Group: Charger, Choice: []string{"current falls", "current stays"}, Hint: "turn on a big load: the charger backs off", when: managed},
	{ID: ManagementTime, Title: "Time until the current falls", Group: Charger, Unit: "s", Optional: true, Hint: "from switching the big load on", when: managed},
}

// of lists the tests of a school in order.
func of(s worklog.School) [][]Test {
	if s == worklog.US {
		return [][]Test{us, shared}
	}
	return [][]Test{uk, shared}
}

// asked reports whether a circuit has the test in its sequence.
func (t *Test) asked(c *job.Circuit) bool { return t.when == nil || t.when(c) }

// Sequence returns the tests of a point's circuit in order.
func Sequence(s worklog.School, c job.Circuit) []Test {
	tests := make([]Test, 0, len(uk)+len(shared))
	for _, list := range of(s) {
		for i := range list {
			if list[i].asked(&c) {
				tests = append(tests, list[i])
			}
		}
	}
	return tests
}

// In reports whether a test is part of a circuit's sequence, and whether it may
// be left out there.
func In(s worklog.School, c *job.Circuit, id string) (in, optional bool) {
	for _, list := range of(s) {
		for i := range list {
			if t := &list[i]; t.ID == id && t.asked(c) {
				return true, t.Optional
			}
		}
	}
	return false, false
}

// Find returns the test with the id in either school.
func Find(id string) (Test, bool) {
	for _, list := range [][]Test{uk, us, shared} {
		for i := range list {
			if list[i].ID == id {
				return list[i], true
			}
		}
	}
	return Test{}, false
}

// DeadTested reports whether every dead test that the point needs has a reading.
func DeadTested(j *job.Job, s worklog.School, c job.Circuit) bool {
	for _, list := range of(s) {
		for i := range list {
			t := &list[i]
			if t.Group != Dead || t.Optional || !t.asked(&c) {
				continue
			}
			if _, ok := j.Latest(job.ReadingMade, c.Point, t.ID); !ok {
				return false
			}
		}
	}
	return true
}

// Duty returns the control-pilot duty cycle, %, that offers a current, A:
// I = 0.6·d up to 51 A, I = 2.5·(d − 64) above (IEC 61851-1 annex A, SAE
// J1772). Between 51 A and 52.5 A no duty says the current: 85 % is the nearest
// below. Under 6 A nothing may be offered and it returns 0.
func Duty(current quantity.Ampere) float64 {
	switch i := float64(current); {
	case i < 6:
		return 0
	case i <= 51:
		return i / 0.6
	case i <= 52.5:
		return 85
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
