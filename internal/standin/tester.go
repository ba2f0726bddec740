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
	c := Circuit{
		Insulation:   400 + 4000*rng.Float64(),
		TripTime:     18 + 14*rng.Float64(),
		DCTrip:       0.4 + 0.9*rng.Float64(),
		Duty:         commission.Duty(p.Circuit.Setting),
		EarthToPilot: true,
		Legs:         l.Legs,
	}
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
	if show, ok := shows[test]; ok {
		return show(t)
	}
	if noFault[test] {
		known, _ := jurisdiction.FindTest(test)
		return known.Choice[0]
	}
	return t.legs(test)
}

// noFault are the tests on which none of the faults shows.
var noFault = map[string]bool{
	commission.OpenNeutral: true, commission.Schedule: true, commission.Network: true,
	commission.PilotFault: true, commission.PhaseSequence: true,
}

// shows are what a tester shows of each test. A device trips faster at 5 × IΔn, and at
// some two thirds of it on a ramp: common practice, no source.
var shows = map[string]func(*Tester) string{
	commission.Bonding:        fixed("0.03"),
	commission.PolarityOrigin: fixed("correct"),
	commission.ElectrodeRA:    func(t *Tester) string { return t.ohms(t.Circuit.Ze) },
	commission.LoopLN:         func(t *Tester) string { return t.ohms(t.Circuit.Ze) },
	commission.R1R2:           (*Tester).circuitOhms,
	commission.Ground:         (*Tester).circuitOhms,
	commission.R1R2L2:         (*Tester).circuitOhms,
	commission.R1R2L3:         (*Tester).circuitOhms,
	commission.Insulation:     (*Tester).insulation,
	commission.InsulationLive: fixed(">999"), // the faults are to earth
	commission.Ambient:        fixed("20"),
	commission.Ze:             func(t *Tester) string { return t.ohms(t.Circuit.Ze) },
	commission.Zs:             (*Tester).loopOhms,
	commission.ZsL2:           (*Tester).loopOhms,
	commission.ZsL3:           (*Tester).loopOhms,
	commission.FaultCurrent:   func(t *Tester) string { return shown(t.Voltage/t.Circuit.Ze/1000, 2) },
	commission.EndFault:       func(t *Tester) string { return shown(t.Voltage/t.Circuit.Loop()/1000, 2) },
	commission.VoltageLN:      (*Tester).toNeutral,
	commission.VoltageL2N:     (*Tester).toNeutral,
	commission.VoltageL3N:     (*Tester).toNeutral,
	commission.VoltageL1L2:    (*Tester).betweenLines,
	commission.VoltageL2L3:    (*Tester).betweenLines,
	commission.VoltageL1L3:    (*Tester).betweenLines,
	commission.Stray:          func(t *Tester) string { return t.volts(0.3) },
	commission.PolarityDead:   func(t *Tester) string { return choose(!t.Reversed, "correct", "wrong") },
	commission.PolarityLive:   func(t *Tester) string { return choose(!t.Reversed, "correct", "wrong") },
	commission.RCDTime:        func(t *Tester) string { return shown(t.TripTime, 0) },
	commission.RCDHalf:        func(t *Tester) string { return choose(t.TripTime > 0, "holds", "trips") },
	commission.RCDFive:        func(t *Tester) string { return shown(t.TripTime*0.6, 0) },
	commission.RCDRamp:        func(t *Tester) string { return shown(21+2*t.rng.Float64(), 1) },
	commission.DCTrip:         (*Tester).dcTrip,
	commission.SelfTest:       func(t *Tester) string { return choose(t.TripTime < 300, "passed", "failed") },
	commission.GFCITrip:       fixed("5"),
	commission.Pilot:          func(t *Tester) string { return t.percent(t.Duty) },
	commission.PilotLow:       func(t *Tester) string { return t.percent(commission.Duty(6)) },
	commission.PilotMid:       func(t *Tester) string { return t.percent(commission.Duty(commission.Offered(t.Duty) / 2)) },
	commission.Functions:      func(t *Tester) string { return choose(t.EarthToPilot, "correct", "wrong") },
	commission.VehicleTest:    func(t *Tester) string { return choose(t.EarthToPilot, "correct", "wrong") },
	commission.Management:     func(t *Tester) string { return choose(!t.SensorBack, "current falls", "current stays") },
	commission.ManagementTime: func(t *Tester) string { return shown(2+3*t.rng.Float64(), 1) },
	commission.StartDelay:     fixed("600"),
	commission.Firmware:       fixed("2.4.1"),
	commission.Meter:          fixed("0.3 kWh"),
}

func fixed(text string) func(*Tester) string { return func(*Tester) string { return text } }

func shown(v float64, decimals int) string { return strconv.FormatFloat(v, 'f', decimals, 64) }

func choose(good bool, yes, no string) string {
	if good {
		return yes
	}
	return no
}

func (t *Tester) circuitOhms() string  { return t.ohms(t.R1 + t.R2) }
func (t *Tester) loopOhms() string     { return t.ohms(t.Loop()) }
func (t *Tester) toNeutral() string    { return t.volts(t.Voltage) }
func (t *Tester) betweenLines() string { return t.volts(commission.LineVoltage(t.Voltage)) }

// percent shows a duty cycle.
func (t *Tester) percent(duty float64) string { return shown(duty+0.2*(2*t.rng.Float64()-1), 1) }

// insulation shows MΩ in three figures, as such a display has them.
func (t *Tester) insulation() string {
	switch v := t.Circuit.Insulation; {
	case v > 998:
		return ">999"
	case v >= 100:
		return shown(v, 0)
	case v >= 10:
		return shown(v, 1)
	default:
		return shown(v, 2)
	}
}

// dcTrip shows seconds, as far as such a tester waits.
func (t *Tester) dcTrip() string {
	if math.IsInf(t.Circuit.DCTrip, 1) {
		return ">10"
	}
	return shown(t.Circuit.DCTrip, 1)
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
