// Package demo makes the made-up firm, people and jobs that the program shows
// itself with. Towns, streets and names are invented.
package demo

import (
	"crypto/sha256"
	"fmt"
	"slices"
	"strings"
	"time"

	"dogbolt/core/assess"
	"dogbolt/core/books/us"
	"dogbolt/core/commission"
	"dogbolt/core/demand"
	"dogbolt/core/inspect"
	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/quantity"
	"dogbolt/core/route"
	"dogbolt/core/rulebook"
	"dogbolt/core/worklog"
)

// builder makes one job, with a clock that moves on as it logs.
type builder struct {
	job.Job
	in    *jurisdiction.Jurisdiction
	clock time.Time
	count int
	crew  []string
}

func celsius(t float64) *quantity.Celsius { c := quantity.Celsius(t); return &c }

func count(n int) *int { return &n }

// ukJob is a surveyed and designed British job that meets every rule of those
// stages: 32 A on B40 in 6 mm² armoured cable.
func ukJob(number string, site job.Site, now time.Time) *builder {
	book, _ := rulebook.Find("bs7671:2018+A2:2022")
	b := &builder{in: book.In, clock: now, crew: []string{"K. Osei", "T. Brandt"}}
	b.Job = job.Job{
		Format: job.Format, Number: number, Rulebook: book.ID, Site: site,
		Survey: job.Survey{
			Supply: job.Supply{System: job.TNCS, Phases: 1, Rating: 100, RatingSeen: job.Yes, Condition: "sound", Voltage: "238", DeclaredZe: 0.35, FaultCurrent: 1.8,
				PeakDemand: 24, PeakDays: 30, OtherSource: job.No, MainsSwitchAt: "at the board"},
			Consent:  job.Consent{Landlord: job.No},
			Bonding:  job.Bonding{Conductor: 16, Size: 10, Gas: job.IsBonded, Water: job.Plastic, Oil: job.NotPresent, Steel: job.NotPresent, Other: job.NotPresent},
			Board:    job.Board{Label: "consumer unit in the hall cupboard", Rating: 100, Ways: 12, WaysFree: count(3), BreakingKA: 6, Terminals: 70, UpstreamRCDType: "none"},
			Loads:    []job.Load{{Kind: job.Cooker, Name: "cooker", Power: 7000, WithSocket: job.Yes}, {Kind: job.Sockets, Name: "ring circuit", Amps: 32}, {Kind: job.Lighting, Name: "lighting", Amps: 6}},
			Vehicles: []job.Vehicle{{Name: "hatchback", OnBoard: 7400, Phases: 1, Battery: 58, Energy: 30, Arrival: "19:00", Departure: "07:00", Inlet: "rear-right", Attitude: "nose-in"}},
			Places: []job.Place{{Point: "A", Name: "corner by the drive", Outdoors: job.Yes, HolderHeight: 1.1, Why: "shortest cord for the car used daily, clear of the door and the gas meter",
				Route: []job.Segment{{Method: job.Surface, Length: 11, Note: "hall and garage wall"}, {Method: job.Surface, Length: 5, Ambient: celsius(35), Note: "south wall outside"}}}},
		},
		Design: job.Design{Circuits: []job.Circuit{{
			Point: "A", Setting: 32, Dedicated: job.Yes, Connection: "hard-wired",
			Charger: job.Charger{Type: "wall unit 32 A, tethered, with open-PEN device", Serial: "WU-" + number[len(number)-4:], Rating: 32, Phases: 1, Outlet: "tethered", CordLength: 7.5, DCDetection: job.Yes, IP: "IP54", Terminals: 70,
				Warranty: 3, Manual: "https://manuals.example/hearth-32t"},
			Breaker:  job.Breaker{Rating: 40, Curve: "B", Poles: 2, BreakingKA: 6},
			RCD:      job.RCD{Fitted: job.Yes, Type: "A", TripMA: 30, AllPoles: job.Yes, Delayed: job.No},
			Cable:    job.Cable{Family: job.Armoured90, Size: "6 mm²", Material: "copper", Earth: "core"},
			Earthing: job.PointEarthing{OpenPEN: "device-voltage"}, SPD: "fitted", Isolator: job.Yes,
		}}},
	}
	b.conditions()
	b.propose()
	return b
}

// usJob is a surveyed and designed American job that meets every rule of those
// stages: 48 A on 60 A in 6 AWG THWN-2 in EMT.
func usJob(number string, site job.Site, now time.Time) *builder {
	book, _ := rulebook.Find("nec:2023")
	b := &builder{in: book.In, clock: now, crew: []string{"R. Delacroix", "J. Whitlock"}}
	b.Job = job.Job{
		Format: job.Format, Number: number, Rulebook: book.ID, Site: site,
		Survey: job.Survey{
			Supply:   job.Supply{System: job.Split240, Phases: 1, Rating: 200, RatingSeen: job.Yes, Condition: "sound", Voltage: "243", OtherSource: job.No, MainsSwitchAt: "at the panel"},
			Board:    job.Board{Label: "panel on the garage wall", Rating: 200, Ways: 40, WaysFree: count(8), FreePair: job.Yes, WorkingSpace: job.Yes, HandleHeight: quantity.Inches(66), CircuitsMax: 42, CircuitsFitted: 30, BreakingKA: 10, Terminals: 75},
			Dwelling: job.Dwelling{FloorArea: 170, KitchenCct: 2, LaundryCct: 1},
			Loads: []job.Load{{Kind: job.Cooker, Name: "range", Power: 10000}, {Kind: job.Dryer, Name: "dryer", Power: 5000},
				{Kind: job.StoredHW, Name: "water heater", Power: 4500}, {Kind: job.Cooling, Name: "air conditioner", Power: 4200}},
			Vehicles: []job.Vehicle{{Name: "sedan", OnBoard: 11500, Phases: 1, Battery: 75, Energy: 40, Arrival: "18:30", Departure: "07:00", Inlet: "rear-left", Attitude: "nose-in"}},
			Places: []job.Place{{Point: "A", Name: "garage wall beside the door", Outdoors: job.No, Detached: job.No, HolderHeight: quantity.Inches(48), Why: "beside the panel, clear of the door track",
				Route: []job.Segment{{Method: job.Conduit, Length: quantity.Feet(36), Wet: job.No, Ambient: celsius(38), Note: "garage wall"}, {Method: job.Conduit, Length: quantity.Feet(4), Wet: job.No, Note: "down to the unit"}}}},
		},
		Design: job.Design{Circuits: []job.Circuit{{
			Point: "A", Setting: 48, Guarded: job.Yes, Dedicated: job.Yes, Connection: "hard-wired",
			Charger: job.Charger{Type: "wall unit 48 A, hard-wired", Serial: "HW-" + number[len(number)-4:], Rating: 48, Phases: 1, Outlet: "tethered", CordLength: quantity.Feet(25), Enclosure: "4X", Terminals: 75, NeedsNeutral: job.No,
				Listing: "mark of a recognized laboratory, UL 2594", Warranty: 3, Manual: "https://manuals.example/garage-48"},
			Breaker: job.Breaker{Rating: 60, Poles: 2, BreakingKA: 10},
			Cable:   job.Cable{Family: job.ThwnEMT, Size: "6 AWG", Material: "copper", EarthSize: "10 AWG", WhiteIsHot: job.No},
		}}},
	}
	b.conditions()
	b.propose()
	return b
}

// propose takes the papers that the rulebook proposes for the job as it stands.
func (b *builder) propose() {
	if book, err := rulebook.For(&b.Job); err == nil {
		b.Clearances.Papers = book.NewPapers(&b.Job)
	}
}

// conditions fills in what the survey found along the routes where a job does not say:
// 30 °C of air or 20 °C of ground, and nothing beside the circuit.
func (b *builder) conditions() {
	for i := range b.Survey.Places {
		for k := range b.Survey.Places[i].Route {
			g := &b.Survey.Places[i].Route[k]
			if g.Ambient == nil {
				g.Ambient = celsius(30)
				if g.Method == job.Buried {
					g.Ambient = celsius(20)
				}
			}
			if g.Grouped == 0 {
				g.Grouped = 1
			}
			if g.Wires == 0 {
				g.Wires = 2
			}
		}
	}
}

func day(t time.Time, days int) string { return t.AddDate(0, 0, days).Format(time.DateOnly) }

// papers grants every paper that must come before the work.
func (b *builder) papers() *builder {
	for i := range b.Clearances.Papers {
		p := &b.Clearances.Papers[i]
		switch {
		case p.ID == "owner":
			p.Needed, p.Reason = job.No, "the customer owns the house"
		case p.ID == "grant" || p.ID == "tariff":
			p.Needed, p.Reason = job.No, "the customer claims none"
		case p.Needed == job.No:
		case p.Before == job.After:
			p.Needed, p.Due = job.Yes, day(b.clock, 28)
		default:
			p.Needed, p.Sent, p.Granted, p.Reference = job.Yes, day(b.clock, -30), day(b.clock, -9), "ref "+b.Number
		}
	}
	return b
}

// due sets the day by which a paper must be done.
func (b *builder) due(paper string, t time.Time) *builder {
	b.Paper(paper).Due = t.Format(time.DateOnly)
	return b
}

// plan takes the parts from the design, all in hand or all but the breaker,
// and sets the day and the crew.
func (b *builder) plan(inDays int, inHand bool) *builder {
	team := "harbour"
	if b.in.ID == us.Practice.ID {
		team = "mesa"
	}
	b.Plan = job.Plan{Day: day(b.clock, inDays), Start: "09:00", Hours: 4, Team: team, Crew: b.crew, Home: job.Yes, Notice: job.Yes, Parts: b.parts()}
	for i := range b.Plan.Parts {
		p := &b.Plan.Parts[i]
		p.InHand = job.Yes
		if !inHand && strings.HasPrefix(p.Name, "breaker") {
			p.InHand = job.No
		}
	}
	return b
}

func (b *builder) add(e job.Entry) *builder {
	b.count++
	b.clock = b.clock.Add(4 * time.Minute)
	e.ID = fmt.Sprintf("demo-%s-%03d", b.Number, b.count)
	e.At = b.clock.UTC().Truncate(time.Second)
	if e.By == "" {
		e.By = b.crew[0]
	}
	b.Log = append(b.Log, e)
	return b
}

func (b *builder) step(id, point, value string) *builder {
	return b.add(job.Entry{Kind: job.StepDone, Subject: id, Point: point, Value: value})
}

// words that steps record, by step.
func (b *builder) word(st worklog.Step) string {
	switch st.ID {
	case "announce":
		return "the customer"
	case worklog.MainOff, worklog.SourcesOff:
		return "lock 3, key with " + b.crew[0]
	case worklog.Barrier:
		return "barrier fitted over the supply terminals"
	case worklog.RunCable:
		p, _ := b.Point(st.Point)
		return b.in.Install.Length.SayTo(float64(p.LaidLength()), 1)
	case worklog.TailsOpen:
		if b.Design.Beside.Opens == job.OpensOperator {
			return "the network operator's meter fitter, fuse in its van, seal to come"
		}
		return b.crew[0] + ", lock 8 on the switch before it"
	case worklog.BesideFed:
		if b.Design.Beside.Renews() {
			if b.in.ID == us.Practice.ID {
				return "as the directory has them, neutrals with their circuits, bonding screw out"
			}
			return "nine circuits, each on a device of its own, neutrals with their lines"
		}
		return "25 mm² line and neutral, 16 mm² earth"
	case worklog.BoardOut:
		if b.in.ID == us.Practice.ID {
			return "fourteen, by the directory: range, dryer, water heater, air handler, lights and outlets"
		}
		return "nine: cooker, shower, two rings, kitchen, lights up and down, boiler, garage"
	case worklog.Scheduled:
		return "schedule 2 of this certificate, " + b.crew[0]
	case worklog.JointBox:
		return "box in the utility room, by the door"
	case worklog.BondsRun:
		return "gas, clamped after the meter, 0.4 m from it"
	case worklog.Remark:
		return "none"
	case worklog.Labels:
		if b.Removes() {
			return "way 9: blank; cable of point A closed off in its box"
		}
		if b.Lays() {
			return "space 12, sub-main; at its end a chart of free ways"
		}
		return "space 12, EV charger, point A"
	case worklog.Electrode:
		return "64"
	case worklog.Sensors:
		return "both mains, arrow to the house"
	case worklog.Energise:
		return strings.Join(b.crew, ", ")
	case worklog.OnWay + string(job.Buried):
		return "0.6 m"
	}
	switch {
	case st.ID == worklog.ChargerEnd && st.Ask != "":
		return b.circuit(st.Point).Mended.Cause + ", put right and tried"
	case st.ID == worklog.PointEnd && st.Ask != "":
		return "grey box beside the drive, 0.4 m above ground"
	case len(st.Choice) > 0 && st.ID != worklog.Settings:
		return st.Choice[0]
	case st.Ask != "":
		return "as designed"
	}
	return ""
}

// until logs every step up to and with the one named, as the plan has them.
func (b *builder) until(last string) *builder {
	for _, st := range b.in.Install.Plan(&b.Job) {
		if _, done := b.Latest(job.StepDone, st.Point, st.ID); done {
			continue
		}
		switch st.ID {
		case worklog.ProveDead:
			b.dead()
		case worklog.DeadTests:
			continue
		case worklog.Settings:
			c := b.circuit(st.Point)
			b.add(job.Entry{Kind: job.SettingMade, Subject: worklog.SetAmps, Point: st.Point, Value: fmt.Sprint(float64(c.Setting)), Unit: "A"})
			b.add(job.Entry{Kind: job.SettingMade, Subject: worklog.LockedSet, Point: st.Point, Value: "cover sealed, installer's code"})
		}
		if slices.Contains(st.Records, worklog.Photo) {
			b.add(job.Entry{Kind: job.PhotoTaken, Subject: st.ID, Point: st.Point, Value: fmt.Sprintf("%x", sha256.Sum256(stepPhoto()))})
		}
		if slices.Contains(st.Records, worklog.Torque) {
			b.torque(st)
		}
		if st.ID != worklog.ProveDead {
			b.step(st.ID, st.Point, b.word(st))
		}
		if st.ID == last {
			break
		}
	}
	return b
}

func (b *builder) circuit(point string) job.Circuit {
	p, _ := b.Point(point)
	p.Circuit.Point = point
	return p.Circuit
}

// dead logs the proof of dead: a known source, every pair, the source again.
func (b *builder) dead() {
	volts := "238"
	if b.in.ID == us.Practice.ID {
		volts = "121"
	}
	read := func(subject, v string) {
		b.add(job.Entry{Kind: job.ReadingMade, Subject: subject, Value: v, Unit: "V", Instrument: "tester 12"})
	}
	read(worklog.SourceBefore, volts)
	for _, p := range b.in.Install.PairsOf(&b.Job) {
		read(worklog.DeadPair+p, "0")
	}
	read(worklog.SourceAfter, volts)
}

// torque logs the terminals at the end of a circuit where a step works.
func (b *builder) torque(st worklog.Step) {
	p, _ := b.Point(st.Point)
	for _, t := range b.in.Install.Terminals(p) {
		if (st.ID == worklog.BoardWork) != strings.HasPrefix(t.ID, "board-") {
			continue
		}
		value, unit := "2.5", "N·m"
		if b.in.ID == us.Practice.ID {
			value, unit = "36", "in·lb"
		}
		b.add(job.Entry{Kind: job.TorqueMade, Subject: t.ID, Point: st.Point, Value: value, Target: value, Unit: unit, Instrument: "torque driver 4"})
	}
}

// isolate logs the work up to the barrier on the supply side.
func (b *builder) isolate() *builder { return b.until(worklog.Barrier) }

// install logs everything up to the chargers' settings.
func (b *builder) install() *builder {
	b.add(job.Entry{Kind: job.StepDone, Subject: worklog.Clock, Value: string(worklog.Started)})
	return b.until(worklog.Settings)
}

// readings of a job where everything is as it should be.
var good = map[string]string{
	commission.Bonding: "0.03", commission.PolarityOrigin: "correct", commission.ElectrodeRA: "62",
	commission.R1R2: "0.10", commission.Insulation: ">999", commission.PolarityDead: "correct", commission.VoltageLN: "239", commission.PolarityLive: "correct",
	commission.Ze: "0.27", commission.Zs: "0.38", commission.FaultCurrent: "0.86", commission.EndFault: "0.62", commission.RCDTime: "24", commission.DCTrip: "0.9", commission.Functions: "correct",
	commission.Ground: "0.06", commission.HotHot: "243", commission.HotGround1: "121.4", commission.HotGround2: "121.6", commission.SelfTest: "passed", commission.VehicleTest: "correct",
	commission.GFCITrip: "5", commission.OpenNeutral: "opens within 5 s", commission.Schedule: "on, away from peak hours", commission.StartDelay: "600",
	commission.Network: "joined", commission.Firmware: "2.4.1", commission.Meter: "0.3 kWh", commission.Management: "current falls", commission.Behind: "sound",
	commission.R1R2L2: "0.10", commission.R1R2L3: "0.10", commission.InsulationLive: ">999", commission.VoltageL2N: "238", commission.VoltageL3N: "240",
	commission.VoltageL1L2: "413", commission.VoltageL2L3: "414", commission.VoltageL1L3: "412", commission.PhaseSequence: "L1 L2 L3", commission.ZsL2: "0.38", commission.ZsL3: "0.37",
}

// test logs the readings of a group of tests on every point, with those in other
// instead.
func (b *builder) test(group commission.Group, other map[string]string) *builder {
	for _, p := range b.Points() {
		for _, t := range b.in.Tests.Sequence(p.Circuit) {
			if t.Group != group || t.Optional && other[t.ID] == "" {
				continue
			}
			v := good[t.ID]
			if t.ID == commission.Pilot {
				v = fmt.Sprintf("%.1f", commission.Duty(p.Circuit.Setting))
			}
			if o, ok := other[t.ID]; ok {
				v = o
			}
			if v == "" {
				continue
			}
			b.add(job.Entry{Kind: job.ReadingMade, Subject: t.ID, Point: p.ID, Value: v, Unit: t.Unit, Instrument: "tester 7F-2208"})
		}
	}
	return b
}

// finish logs dead tests, lids, labels, energising, live tests and the end of the
// work.
func (b *builder) finish(other map[string]string) *builder {
	b.test(commission.Dead, other).test(commission.Origin, other).until(worklog.Restore).test(commission.Live, other).test(commission.Charger, other)
	if b.Design.Beside.Renews() {
		b.until(worklog.Scheduled)
	}
	b.inspect()
	return b.add(job.Entry{Kind: job.StepDone, Subject: worklog.Clock, Value: string(worklog.Done)})
}

// inspect answers the schedule of inspections: what the job knows is confirmed, the rest is as it
// should be.
func (b *builder) inspect() *builder {
	a, _, err := assess.Of(&b.Job, &assess.WorkPolicy{}, b.clock)
	if err != nil {
		panic(err)
	}
	known := map[string]inspect.Offer{}
	for _, o := range a.Offers {
		known[o.Item] = o
	}
	for _, i := range b.in.Inspect.Asked() {
		e := job.Entry{Kind: job.Inspected, Subject: i.ID, Value: i.Answers[0].Value}
		if b.Survey.Supply.Own() && i.ID == "electrode-at" {
			e.Value, e.Reason = string(job.SaidSo), "two rods in line by the barn, 2.4 m each"
		}
		if o, ok := known[i.ID]; ok {
			if o.Spared {
				continue
			}
			if e.Value = o.Value; o.Value != string(job.AsItShould) {
				e.Reason = o.Why
			}
		}
		b.add(e)
	}
	return b
}

// sign adds the choice of scheduler and the signatures before the seal.
func (b *builder) sign() *builder {
	return b.add(job.Entry{Kind: job.SettingMade, Subject: "scheduler", Point: "A", Value: "charger"}).signed()
}

// signed adds the signatures before the seal.
func (b *builder) signed() *builder {
	for _, e := range []job.Entry{{Kind: job.SignedOff, Subject: "design", By: "M. Farrant"}, {Kind: job.SignedOff, Subject: "construction"}, {Kind: job.SignedOff, Subject: "testing"}} {
		b.Sign(&e)
		b.add(e)
	}
	return b
}

// parts are what the van must hold, by the firm's own margins.
func (b *builder) parts() []job.Part {
	return rulebook.PartsOf(b.in, &b.Job, demand.Result{}, route.Default)
}
