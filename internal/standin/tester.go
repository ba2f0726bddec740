package standin

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strconv"

	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
)

// Fault is something hidden in a circuit that a tester finds.
type Fault string

// The faults.
const (
	NoFault         Fault = "none"
	LooseNeutral    Fault = "loose-neutral"
	Reversed        Fault = "reversed-polarity"
	SlowRCD         Fault = "slow-rcd"
	WrongRCD        Fault = "wrong-rcd-type"
	DampInsulation  Fault = "damp-insulation"
	OpenPE          Fault = "open-pe"
	BorrowedNeutral Fault = "borrowed-neutral"
	LongRoute       Fault = "long-route"
	ParallelPath    Fault = "parallel-earth-path"
	NoDCDetection   Fault = "missing-dc-detection"
	SwappedSensor   Fault = "swapped-sensor"
)

// Circuit is a circuit as physics knows it: what is true of it, whatever the
// tester shows. Impedances in Ω, insulation in MΩ, times in ms.
type Circuit struct {
	Legs         bool    // two legs, which a loose neutral moves apart
	Voltage      float64 // line to earth, or leg to ground
	Ze, R1, R2   float64 // R1 + R2 in series with Ze make the loop
	Parallel     float64 // of a second way to earth; 0 for none
	Insulation   float64
	TripTime     float64 // of the residual device; +Inf where it does not trip
	DCTrip       float64 // s, at 6 mA; +Inf where nothing detects it
	Reversed     bool
	LegShift     float64 // of a loose neutral: share by which the legs move apart
	Duty         float64 // of the control pilot, %
	SensorBack   bool    // the load-management sensor is the wrong way round
	EarthToPilot bool    // the charger stops on loss of earth
}

// Loop is the earth fault loop at the point, Zs = Ze + R1 + R2. A parallel path
// leads past R2 and the supply's own way to earth, which is half of Ze.
func (c Circuit) Loop() float64 {
	if c.Parallel == 0 {
		return c.Ze + c.R1 + c.R2
	}
	return c.Ze/2 + c.R1 + 1/(1/(c.Ze/2+c.R2)+1/c.Parallel)
}

// AsBuilt is the circuit of a point as it was designed and routed by a country's
// practice, with a hidden fault in it. rng varies what varies between houses.
func AsBuilt(j *job.Job, in *jurisdiction.Jurisdiction, point string, f Fault, rng *rand.Rand) (Circuit, error) {
	p, ok := j.Point(point)
	if !ok {
		return Circuit{}, fmt.Errorf("job %s has no point %q", j.Number, point)
	}
	if !slices.Contains(in.Cases.Faults, string(f)) {
		return Circuit{}, fmt.Errorf("fault %q is not one of %v", f, in.Cases.Faults)
	}
	vary := func(v, share float64) float64 { return v * (1 + share*(2*rng.Float64()-1)) }
	l := in.Tests.Loop(j, &p)
	c := Circuit{Insulation: 400 + 4000*rng.Float64(), TripTime: 18 + 14*rng.Float64(), DCTrip: 0.4 + 0.9*rng.Float64(), Duty: commission.Duty(p.Circuit.Setting), EarthToPilot: true, Legs: l.Legs}
	c.Voltage, c.Ze, c.R1, c.R2 = vary(l.Voltage, 0.01), vary(l.Ze, 0.1), vary(l.R1, 0.05), vary(l.R2, 0.05)
	c.hide(f)
	return c, nil
}

// hide puts a fault into the circuit.
func (c *Circuit) hide(f Fault) {
	switch f {
	case LooseNeutral:
		c.LegShift = 0.14
		if !c.Legs {
			c.Voltage *= 0.88
		}
	case Reversed:
		c.Reversed = true
	case SlowRCD:
		c.TripTime = 342
	case WrongRCD, NoDCDetection:
		c.DCTrip = math.Inf(1)
	case DampInsulation:
		c.Insulation = 0.42
	case OpenPE:
		c.R2, c.EarthToPilot = math.Inf(1), false
	case BorrowedNeutral:
		// The neutral of another circuit is joined to this one's: with live
		// conductors together to earth the tester finds the supply's own bond.
		c.Insulation, c.TripTime = 0.01, 0
	case LongRoute:
		c.R1, c.R2 = c.R1*4, c.R2*4
	case ParallelPath:
		c.Parallel = 0.03
	case SwappedSensor:
		c.SensorBack = true
	}
}

// Tester shows what a test instrument would of a circuit: with its resolution,
// the noise of its last digits, and the ends of its ranges.
type Tester struct {
	Circuit
	rng *rand.Rand
}

// NewTester returns a tester on a circuit; the same seed shows the same.
func NewTester(c Circuit, rng *rand.Rand) *Tester { return &Tester{c, rng} }

// Resolution of the loop and continuity ranges, Ω: usual of such testers, from
// memory.
const Resolution = 0.01

// Ohms shows a low resistance: 0.01 Ω and two digits of noise, to 99.9 Ω.
func (t *Tester) ohms(v float64) string {
	v += Resolution * (2*t.rng.Float64() - 1)
	switch {
	case v > 99.9:
		return ">99.9"
	case v < 0:
		v = 0
	}
	return strconv.FormatFloat(v, 'f', 2, 64)
}

func (t *Tester) volts(v float64) string {
	return strconv.FormatFloat(max(0, v+0.4*(2*t.rng.Float64()-1)), 'f', 1, 64)
}

// Read shows the reading of a test as the instrument shows it, "" where the
// test is not one that it knows.
func (t *Tester) Read(test string) string {
	choose := func(good bool, words ...string) string {
		if good {
			return words[0]
		}
		return words[1]
	}
	switch test {
	case commission.R1R2, commission.Ground:
		return t.ohms(t.R1 + t.R2)
	case commission.Insulation:
		if t.Circuit.Insulation > 998 {
			return ">999"
		}
		// Three figures, as such a display has them.
		decimals := 2
		switch {
		case t.Circuit.Insulation >= 100:
			decimals = 0
		case t.Circuit.Insulation >= 10:
			decimals = 1
		}
		return strconv.FormatFloat(t.Circuit.Insulation, 'f', decimals, 64)
	case commission.R1R2L2, commission.R1R2L3:
		return t.ohms(t.R1 + t.R2)
	case commission.ZsL2, commission.ZsL3:
		return t.ohms(t.Loop())
	case commission.VoltageL2N, commission.VoltageL3N:
		return t.volts(t.Voltage)
	case commission.VoltageL1L2, commission.VoltageL2L3, commission.VoltageL1L3:
		return t.volts(commission.LineVoltage(t.Voltage))
	case commission.InsulationLive:
		return ">999" // the faults are to earth
	case commission.Ambient:
		return "20"
	// A device trips faster at 5 × IΔn, and at some two thirds of it on a ramp.
	// Common practice, no source.
	case commission.RCDHalf:
		return choose(t.TripTime > 0, "holds", "trips")
	case commission.RCDFive:
		return strconv.FormatFloat(t.TripTime*0.6, 'f', 0, 64)
	case commission.RCDRamp:
		return strconv.FormatFloat(21+2*t.rng.Float64(), 'f', 1, 64)
	case commission.PolarityDead, commission.PolarityLive:
		return choose(!t.Circuit.Reversed, "correct", "wrong")
	case commission.VoltageLN:
		return t.volts(t.Voltage)
	case commission.Ze:
		return t.ohms(t.Circuit.Ze)
	case commission.Zs:
		return t.ohms(t.Loop())
	case commission.FaultCurrent:
		return strconv.FormatFloat(t.Voltage/t.Circuit.Ze/1000, 'f', 2, 64)
	case commission.RCDTime:
		return strconv.FormatFloat(t.TripTime, 'f', 0, 64)
	case commission.DCTrip:
		if math.IsInf(t.Circuit.DCTrip, 1) {
			return ">10"
		}
		return strconv.FormatFloat(t.Circuit.DCTrip, 'f', 1, 64)
	case commission.Pilot:
		return strconv.FormatFloat(t.Duty+0.2*(2*t.rng.Float64()-1), 'f', 1, 64)
	case commission.PilotLow:
		return strconv.FormatFloat(commission.Duty(6)+0.2*(2*t.rng.Float64()-1), 'f', 1, 64)
	case commission.PilotMid:
		return strconv.FormatFloat(commission.Duty(commission.Offered(t.Duty)/2)+0.2*(2*t.rng.Float64()-1), 'f', 1, 64)
	case commission.ManagementTime:
		return strconv.FormatFloat(2+3*t.rng.Float64(), 'f', 1, 64)
	case commission.StartDelay:
		return "600"
	case commission.Firmware:
		return "2.4.1"
	case commission.Meter:
		return "0.3 kWh"
	case commission.OpenNeutral, commission.Schedule, commission.Network, commission.PilotFault, commission.PhaseSequence:
		test, _ := jurisdiction.FindTest(test)
		return test.Choice[0] // no fault shows here
	case commission.Stray:
		return t.volts(0.3)
	case commission.Functions, commission.VehicleTest:
		return choose(t.EarthToPilot, "correct", "wrong")
	case commission.SelfTest:
		return choose(t.TripTime < 300, "passed", "failed")
	case commission.GFCITrip:
		return "5"
	case commission.Management:
		return choose(!t.SensorBack, "current falls", "current stays")
	}
	return t.legs(test)
}

// legs shows the voltages of a split phase.
func (t *Tester) legs(test string) string {
	l1, l2 := t.Voltage*(1-t.LegShift), t.Voltage*(1+t.LegShift)
	if t.Circuit.Reversed { // a hot and the ground are exchanged
		l1, l2 = 0.2, 2*t.Voltage
	}
	switch test {
	case commission.HotHot:
		if t.Circuit.Reversed {
			return t.volts(t.Voltage)
		}
		return t.volts(2 * t.Voltage)
	case commission.HotGround1:
		return t.volts(l1)
	case commission.HotGround2:
		return t.volts(l2)
	}
	return ""
}
