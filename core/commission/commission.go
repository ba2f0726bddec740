// Package commission holds the test sequences: which readings a circuit needs,
// in which order, and in what unit they are entered.
package commission

import (
	"math"
	"slices"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/schema"
)

// Group is a part of the sequence. Dead tests come before live ones.
type Group string

// The groups in order.
const (
	Dead    Group = "dead"
	Origin  Group = "origin" // on the supply side, the main switch off and the circuit dead
	Live    Group = "live"
	Charger Group = "charger"
)

// Values lists the groups in order.
func (Group) Values() []string { return schema.Words(Dead, Origin, Live, Charger) }

// BeforeLive reports whether the tests of a group are made after dead is proved and
// before anything is switched on.
func (g Group) BeforeLive() bool { return g == Dead || g == Origin }

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

	When func(*job.Circuit) bool `json:"-"` // which circuits have it; nil for every one

	// Spared is set in the sequence of a circuit where the work does not touch what the test looks at: it may be left out then.
	Spared bool `json:"-"`
}

// untouched are the tests before switching on and at the origin that look at nothing inside a charger: that its conductors are whole
// is read live, at the charger.
var untouched = []string{Bonding, R1R2, R1R2L2, R1R2L3, InsulationLive, PolarityDead, ElectrodeRA, PolarityOrigin, Ze, FaultCurrent, Ground}

// of is the test as a circuit has it.
func (t *Test) of(c *job.Circuit) Test {
	own := *t
	switch c.Touched() {
	case job.TouchedInside:
		own.Spared = slices.Contains(untouched, t.ID)
	case job.TouchedSetting:
		own.Spared = t.Group != Charger
	}
	if own.Spared && !own.Optional {
		own.Optional, own.Hint = true, "not touched by this repair: judged where it is read all the same"
	}
	return own
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
	Bonding        = "bonding"
	PolarityOrigin = "polarity-origin"
	LoopLN         = "loop-ln"
	ElectrodeRA    = "electrode"
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
	EndFault       = "pfc-end"
	AheadTime      = "ahead-time"
	Behind         = "behind"
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
	GridOut        = "grid-out"
	Schedule       = "schedule"
	StartDelay     = "start-delay"
	Network        = "network"
	Serial         = "serial"
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

// Practice is what testing consists of in one country. A country's folder fills
// it; this package never asks which country it is.
type Practice struct {
	Tests []Test // in order, dead ones before live ones

	// Derive works out what may stand by calculation from the readings of a point;
	// nil where nothing may.
	Derive func(read map[string]quantity.Reading, supply *job.Supply) []Derivation
	// Loop is the earth fault loop of a point as it was designed, for stand-ins of
	// test instruments.
	Loop func(j *job.Job, p *job.Point) Loop
}

// Loop is what a designed circuit's fault loop consists of: the voltage that is
// usually found to earth, V, and the resistances that make up Zs = Ze + R1 + R2, Ω.
type Loop struct {
	Voltage, Ze, R1, R2 float64
	Legs                bool // the supply has two legs: a loose neutral moves them apart
}

// Conditions under which a test is part of a sequence, as several countries have
// them.
func ThreePhase(c *job.Circuit) bool { return c.Charger.Phases == 3 }

// OnePhase is the opposite of ThreePhase.
func OnePhase(c *job.Circuit) bool { return c.Charger.Phases != 3 }

// Managed reports whether load management or a shared limit keeps the current down.
func Managed(c *job.Circuit) bool { return c.ManagedTo > 0 || c.Shares }

// Backed reports whether the point charges on when the grid is out.
func Backed(c *job.Circuit) bool { return c.Side == job.BackedSide }

// AboveFloor reports whether the setting is more than the least of 6 A.
func AboveFloor(c *job.Circuit) bool { return c.Setting > 6 }

// FarAbove reports whether half of the setting is still well above the least.
func FarAbove(c *job.Circuit) bool { return c.Setting >= 16 }

// FedAnew are the answers to whether circuits are sound that the work has fed anew.
var FedAnew = []string{"sound", "not sound"}

// ManagementTests prove load management. They end every country's sequence.
var ManagementTests = []Test{
	{
		ID:     Management,
		Title:  "Load management proved",
		Group:  Charger,
		Choice: []string{"current falls", "current stays"},
		Hint:   "turn on a big load: the charger backs off",
		When:   Managed,
	},
	{
		ID:       ManagementTime,
		Title:    "Time until the current falls",
		Group:    Charger,
		Unit:     "s",
		Optional: true,
		Hint:     "from switching the big load on",
		When:     Managed,
	},
}

// NoSerial reports whether the design does not say the charger's serial number: it is read off
// the plate then.
func NoSerial(c *job.Circuit) bool { return c.Charger.Serial == "" }

// SerialOf is the serial number of a circuit's charger, as designed or as read off its plate; ""
// where neither is there.
func SerialOf(j *job.Job, c *job.Circuit) string {
	if !NoSerial(c) {
		return c.Charger.Serial
	}
	e, _ := j.Latest(job.ReadingMade, c.Point, Serial)
	return e.Value
}

// LoopAt is the largest earth fault loop that was read at the end of a point's circuit, Ω; 0 where none was, or where one of
// the readings is only said to be more.
func LoopAt(j *job.Job, point string) quantity.Ohm {
	var most float64
	for _, test := range []string{Zs, ZsL2, ZsL3} {
		e, ok := j.Latest(job.ReadingMade, point, test)
		if !ok {
			continue
		}
		r, err := quantity.ParseReading(e.Value, "Ω")
		if err != nil || r.AtMost(math.MaxFloat64) != quantity.Yes {
			return 0
		}
		most = max(most, r.Value)
	}
	return quantity.Ohm(most)
}

// asked reports whether a circuit has the test in its sequence.
func (t *Test) asked(c *job.Circuit) bool {
	if c.Kind() == job.Removal && !(slices.Contains(left, t.ID) && c.StaysConnected() || slices.Contains(lastRead, t.ID)) {
		return false
	}
	if t.Group == Charger && c.Charges() && !c.Unit() {
		return false
	}
	return t.When == nil || t.When(c)
}

// What is read where a charger is taken away: of its circuit, where that stays on its breaker, and of the charger.
var (
	left     = []string{Insulation, InsulationLive}
	lastRead = []string{Meter, Serial}
)

// ContinuityMost is the reading, Ω, above which the continuity of a protective
// conductor is not that of the design: three times it and 0.1 Ω. A route of twice the
// length with a poor joint stays below; an open or half-broken conductor does not,
// whatever protects against the fault. Common practice, no source.
func ContinuityMost(designed float64) float64 { return quantity.Round(3*designed+0.1, 2) }

// Sequence returns the tests of a point's circuit in order.
func (p *Practice) Sequence(c job.Circuit) []Test {
	tests := make([]Test, 0, len(p.Tests))
	for i := range p.Tests {
		if p.Tests[i].asked(&c) {
			tests = append(tests, p.Tests[i].of(&c))
		}
	}
	return tests
}

// In reports whether a test is part of a circuit's sequence, and whether it may
// be left out there.
func (p *Practice) In(c *job.Circuit, id string) (in, optional bool) {
	for i := range p.Tests {
		if t := &p.Tests[i]; t.ID == id && t.asked(c) {
			return true, t.of(c).Optional
		}
	}
	return false, false
}

// Of returns the test with the id as a point's circuit has it, where several have one id and are called after what is read: a loop at the
// charger or at a board. Of a test that the circuit is not asked it is the country's first.
func (p *Practice) Of(c *job.Circuit, id string) (Test, bool) {
	for i := range p.Tests {
		if t := &p.Tests[i]; t.ID == id && t.asked(c) {
			return *t, true
		}
	}
	return p.Find(id)
}

// Find returns the country's test with the id.
func (p *Practice) Find(id string) (Test, bool) {
	for i := range p.Tests {
		if p.Tests[i].ID == id {
			return p.Tests[i], true
		}
	}
	return Test{}, false
}

// DeadTested reports whether every test that the point needs before it is switched on
// has a reading.
func (p *Practice) DeadTested(j *job.Job, c job.Circuit) bool {
	for i := range p.Tests {
		t := &p.Tests[i]
		if !t.Group.BeforeLive() || !t.asked(&c) || t.of(&c).Optional {
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
