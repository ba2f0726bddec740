package standin

import (
	"fmt"
	"math"
	"slices"

	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// State is a state of the control pilot, by its upper level (IEC 61851-1 annex A).
type State string

// Levels are the upper levels of the pilot in each state, V (IEC 61851-1 annex A,
// SAE J1772; from memory). F is steady at −12 V.
var Levels = map[State]float64{"A": 12, "B": 9, "C": 6, "D": 3, "E": 0, "F": -12}

// BenchFault is something hidden in a charger.
type BenchFault string

// The faults of a charger.
const (
	BenchSound     BenchFault = "none"
	WrongDuty      BenchFault = "wrong-duty"       // offers more than it is set to
	EarthIgnored   BenchFault = "earth-ignored"    // goes on without earth
	NeutralIgnored BenchFault = "neutral-ignored"  // goes on with an open neutral
	NoDCStop       BenchFault = "no-dc-stop"       // no direct current is detected
	StuckContactor BenchFault = "stuck-contactor"  // does not open
	SensorTurned   BenchFault = "sensor-turned"    // the sensor counts the house backwards
	SlowAnswer     BenchFault = "slow-management"  // the limit is kept, but late
	ShortedPilot   BenchFault = "pilot-not-judged" // charges on with the pilot at earth
)

// BenchFaults lists the faults of a charger.
var BenchFaults = []BenchFault{BenchSound, WrongDuty, EarthIgnored, NeutralIgnored, NoDCStop, StuckContactor, SensorTurned, SlowAnswer, ShortedPilot}

// Times of the stand-in, s. The standards give upper ends: 100 ms to open on a
// lost earth, 10 s at 6 mA and 0.3 s at 60 mA (IEC 62955), 5 s on an open neutral
// (722.411.4.1), 5 s for a vehicle to obey a duty (IEC 61851-1), 6 A the floor. From
// memory. How fast a contactor, a vehicle's ramp, a sensor and the management are
// within those ends: common practice, no source.
const (
	closeAfter   = 0.6
	earthAfter   = 0.05
	neutralAfter = 2.0
	leakAfter    = 1.2 // at 6 mA
	leakFast     = 0.1 // at 60 mA and more
	obeyAfter    = 1.0
	rampUp       = 6.0  // A/s
	rampDown     = 15.0 // A/s
	lookEvery    = 1.0  // between readings of the sensor
	actAfter     = 2.0  // of the management
	actSlow      = 25.0
	floorAmps    = 6.0
)

// Order is what is done on the bench. Only what is given is changed.
type Order struct {
	State   State    `json:"state,omitempty"`   // what the vehicle, or a fault of the pilot, makes of it
	Setting *float64 `json:"setting,omitempty"` // A
	House   *float64 `json:"house,omitempty"`   // load of the house, A
	Leak    *float64 `json:"leak,omitempty"`    // residual direct current, mA
	Volts   *float64 `json:"volts,omitempty"`   // line to neutral, as an open neutral would have it
	Earth   *bool    `json:"earth,omitempty"`   // is the protective conductor there?
	Reset   bool     `json:"reset,omitempty"`   // after a stop
}

// Sight is what is to be seen on the bench at a moment.
type Sight struct {
	T         float64 `json:"t"` // s since the bench was set up
	State     State   `json:"state"`
	High      float64 `json:"high"` // upper level of the pilot, V
	Low       float64 `json:"low"`  // lower level, V; the same as high where it is steady
	Duty      float64 `json:"duty"` // %; 0 where the pilot is steady
	Offered   float64 `json:"offered"`
	Contactor bool    `json:"contactor"`
	Amps      float64 `json:"amps"` // of the vehicle
	House     float64 `json:"house"`
	Total     float64 `json:"total"`
	Limit     float64 `json:"limit"`             // of the supply; 0 where nothing is managed
	Fall      float64 `json:"fall"`              // s from the limit being passed until it was kept again
	Stopped   string  `json:"stopped,omitempty"` // why the charger stopped
}

// Bench is a charger with a vehicle and a house, as they would behave.
type Bench struct {
	Setting float64 // A
	OnBoard float64 // most that the vehicle takes, A
	Limit   float64 // of the supply, A; 0 where nothing is managed
	Volts   float64
	Fault   BenchFault

	state    State
	house    float64
	leak     float64
	earth    bool
	contact  bool
	amps     float64
	allowed  float64 // by the management
	stopped  string
	t        float64
	closing  float64 // how long the contactor has been asked for
	bad      map[string]float64
	looked   float64
	noticed  float64 // when the management saw that less is free; 0 while it does not
	over     float64 // when the limit was passed
	fall     float64
	obeyed   float64 // what the vehicle has understood
	offerAge float64
}

// NewBench is the charger of a point as it was designed, with a hidden fault.
func NewBench(j *job.Job, point string, f BenchFault) (*Bench, error) {
	p, ok := j.Point(point)
	if !ok {
		return nil, fmt.Errorf("job %s has no point %q", j.Number, point)
	}
	if !slices.Contains(BenchFaults, f) {
		return nil, fmt.Errorf("fault %q is not one of %v", f, BenchFaults)
	}
	b := &Bench{
		Setting: float64(p.Circuit.Setting),
		OnBoard: 32,
		Limit:   float64(p.Circuit.ManagedTo),
		Volts:   230,
		Fault:   f,
		state:   "A",
		earth:   true,
		bad:     map[string]float64{},
	}
	if b.Setting == 0 {
		return nil, fmt.Errorf("point %s has no setting yet", point)
	}
	for _, v := range j.Survey.Vehicles {
		if v.OnBoard > 0 {
			b.OnBoard = float64(v.OnBoard) / 230 / float64(max(v.Phases, 1))
			break
		}
	}
	b.allowed = b.Setting
	return b, nil
}

// Do carries out an order, or says why it cannot be.
func (b *Bench) Do(o Order) error {
	if _, ok := Levels[o.State]; o.State != "" && !ok {
		return fmt.Errorf("state: %q is not A to F", o.State)
	}
	for _, v := range []struct {
		name      string
		v         *float64
		low, high float64
	}{{"setting", o.Setting, floorAmps, 80}, {"house", o.House, 0, 400}, {"leak", o.Leak, 0, 300}, {"volts", o.Volts, 0, 420}} {
		if v.v != nil && (math.IsNaN(*v.v) || *v.v < v.low || *v.v > v.high) {
			return fmt.Errorf("%s: %g is not between %g and %g", v.name, *v.v, v.low, v.high)
		}
	}
	if o.State != "" {
		b.state = o.State
	}
	if o.Setting != nil {
		b.Setting = *o.Setting
		b.allowed = min(b.allowed, b.Setting)
		if b.Limit == 0 {
			b.allowed = b.Setting
		}
	}
	if o.House != nil {
		b.house = *o.House
	}
	if o.Leak != nil {
		b.leak = *o.Leak
	}
	if o.Volts != nil {
		b.Volts = *o.Volts
	}
	if o.Earth != nil {
		b.earth = *o.Earth
	}
	if o.Reset {
		b.stopped, b.bad = "", map[string]float64{}
	}
	return nil
}

// offered is the current that the pilot offers, A; 0 where it is steady.
func (b *Bench) offered() float64 {
	if b.stopped != "" || b.state == "A" || b.state == "E" || b.state == "F" {
		return 0
	}
	a := min(b.Setting, b.allowed)
	if b.Fault == WrongDuty {
		a = min(1.25*b.Setting, 80)
	}
	if a < floorAmps {
		return 0
	}
	return a
}

// Step lets a time pass, s.
func (b *Bench) Step(dt float64) {
	b.t += dt
	b.judge(dt)
	b.manage()
	want := (b.state == "C" || b.state == "D" || b.state == "E" && b.Fault == ShortedPilot && b.contact) && b.stopped == "" &&
		(b.offered() > 0 || b.state == "E")
	switch {
	case want:
		if b.closing += dt; b.closing >= closeAfter {
			b.contact = true
		}
	case b.Fault != StuckContactor || !b.contact:
		b.contact, b.closing = false, 0
	}
	// A vehicle obeys a new duty after a moment, then by its own ramp.
	if o := b.offered(); o != b.obeyed {
		if b.offerAge += dt; b.offerAge >= obeyAfter || o == 0 {
			b.obeyed, b.offerAge = o, 0
		}
	} else {
		b.offerAge = 0
	}
	target := 0.0
	if b.contact {
		target = min(b.obeyed, b.OnBoard)
		if b.state == "E" || b.stopped != "" {
			target = b.amps // the vehicle knows nothing of it
		}
	}
	switch {
	case !b.contact:
		b.amps = 0
	case target > b.amps:
		b.amps = min(target, b.amps+rampUp*dt)
	default:
		b.amps = max(target, b.amps-rampDown*dt)
	}
	b.measure()
}

// judge stops the charger where something has been wrong for too long.
func (b *Bench) judge(dt float64) {
	leak := leakAfter
	if b.leak >= 60 {
		leak = leakFast
	}
	for _, c := range []struct {
		name   string
		bad    bool
		after  float64
		unseen BenchFault
	}{
		{"earth is lost", !b.earth, earthAfter, EarthIgnored},
		{"voltage out of 207 V to 253 V: open neutral", b.Volts < 207 || b.Volts > 253, neutralAfter, NeutralIgnored},
		{"residual direct current", b.leak >= 6, leak, NoDCStop},
	} {
		if !c.bad || b.Fault == c.unseen {
			delete(b.bad, c.name)
			continue
		}
		if b.bad[c.name] += dt; b.bad[c.name] >= c.after && b.stopped == "" {
			b.stopped = c.name
		}
	}
}

// manage lets the load management look at its sensor and act.
func (b *Bench) manage() {
	if b.Limit == 0 {
		return
	}
	if b.t-b.looked < lookEvery {
		return
	}
	b.looked = b.t
	house := b.house
	if b.Fault == SensorTurned {
		house = -house
	}
	free := min(b.Setting, max(0, b.Limit-house))
	delay := actAfter
	if b.Fault == SlowAnswer {
		delay = actSlow
	}
	switch {
	case free >= b.allowed:
		b.noticed, b.allowed = 0, free
	case b.noticed == 0:
		b.noticed = b.t
	case b.t-b.noticed >= delay:
		b.noticed, b.allowed = 0, free
	}
}

// measure times how long the supply's limit is passed.
func (b *Bench) measure() {
	if b.Limit == 0 {
		return
	}
	switch over := b.house+b.amps > b.Limit+0.5; {
	case over && b.over == 0:
		b.over, b.fall = b.t, 0
	case !over && b.over > 0:
		b.fall, b.over = b.t-b.over, 0
	}
}

// See returns what is to be seen now.
func (b *Bench) See() Sight {
	s := Sight{
		T:         b.t,
		State:     b.state,
		High:      Levels[b.state],
		Offered:   b.offered(),
		Contactor: b.contact,
		Amps:      b.amps,
		House:     b.house,
		Total:     b.house + b.amps,
		Limit:     b.Limit,
		Fall:      b.fall,
		Stopped:   b.stopped,
	}
	s.Low = s.High
	if s.Offered > 0 {
		s.Duty, s.Low = commission.Duty(quantity.Ampere(s.Offered)), -12
	}
	if b.stopped != "" && b.state != "A" {
		s.High, s.Low = -12, -12 // the charger says F
	}
	return s
}
