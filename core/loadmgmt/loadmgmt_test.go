package loadmgmt

import (
	"math"
	"slices"
	"testing"

	"dogbolt/core/charging"
	"dogbolt/core/job"
	"dogbolt/core/supply"
)

func near(t *testing.T, what string, got, want, tolerance float64) {
	t.Helper()
	if math.Abs(got-want) > tolerance {
		t.Errorf("%s: %.3f, want %.3f", what, got, want)
	}
}

// flat is a night whose house draws the same all the time.
func flat(house, limit float64, cars ...Car) Night {
	n := Night{Start: 0, Minutes: 600, Limit: limit, House: make([]float64, 600), Shower: make([]float64, 600), Cars: cars}
	for i := range n.House {
		n.House[i] = house
	}
	return n
}

var hatchback = Car{Name: "hatchback", Setting: 32, Takes: 32, Watts: 230, Wanted: 100, Battery: 120, From: 0, To: 600}

// TestPlainNight: 32 A at 230 V for ten hours at 90 % puts 66.2 kWh in.
func TestPlainNight(t *testing.T) {
	for _, mode := range []Mode{Unmanaged, Managed, Priority} {
		o := Run(flat(10, 100, hatchback), mode, Default)
		near(t, string(mode)+", energy", o.Cars[0].Got, 32*230*10*charging.Efficiency/1000, 0.01)
		near(t, string(mode)+", peak", o.Peak, 42, 1e-9)
		if o.Over != 0 || o.Throttled != 0 || o.Pauses != 0 {
			t.Errorf("%s: %+v", mode, o)
		}
	}
	o := Run(flat(10, 100, hatchback), Managed, Default)
	near(t, "state of charge", o.Cars[0].Charge, (20+o.Cars[0].Got)/120, 1e-9)
}

// TestManagedNeverPasses: whatever the house does below the limit, a managed
// charger never takes the supply above it; unmanaged it would.
func TestManagedNeverPasses(t *testing.T) {
	for seed := range uint64(40) {
		n := flat(0, 80, hatchback)
		r := random(seed)
		for i := range n.House {
			n.House[i] = 78 * r.next()
		}
		managed, plain := Run(n, Managed, Default), Run(n, Unmanaged, Default)
		if managed.Over != 0 || managed.Peak > n.Limit {
			t.Errorf("seed %d: %d minutes over, peak %.1f A", seed, managed.Over, managed.Peak)
		}
		if plain.Over == 0 || managed.Cars[0].Got >= plain.Cars[0].Got {
			t.Errorf("seed %d: unmanaged is over for %d minutes", seed, plain.Over)
		}
	}
}

// TestFloorAndResume: with less than 6 A of room the charger pauses; it starts
// again only after the room has lasted for the delay.
func TestFloorAndResume(t *testing.T) {
	n := flat(10, 60, hatchback)
	for m := 100; m < 130; m++ {
		n.House[m] = 54 // room for 4 A
	}
	o := Run(n, Managed, Default)
	if o.Pauses != 1 {
		t.Errorf("%d pauses", o.Pauses)
	}
	for m := 100; m < 130+Default.Resume; m++ {
		if o.Total[m] != n.House[m] {
			t.Fatalf("minute %d: charges at %g A", m, o.Total[m]-n.House[m])
		}
	}
	if m := 130 + Default.Resume; o.Total[m] != n.House[m]+32 {
		t.Errorf("minute %d: %g A, should have resumed", m, o.Total[m]-n.House[m])
	}
	if o.Throttled != 30+Default.Resume {
		t.Errorf("%d minutes throttled", o.Throttled)
	}
	for m := range o.Total {
		if c := o.Total[m] - n.House[m]; c > 1e-9 && c < Floor-1e-9 {
			t.Fatalf("minute %d: %g A is below the floor", m, c)
		}
	}
}

// TestKeep: the management keeps to its own limit where it is lower.
func TestKeep(t *testing.T) {
	n := flat(10, 100, hatchback)
	n.Keep = 40
	o := Run(n, Managed, Default)
	near(t, "peak", o.Peak, 38, 1e-9)
	if o := Run(n, Unmanaged, Default); o.Peak != 42 {
		t.Errorf("unmanaged peak %g A", o.Peak)
	}
}

func TestPrioritySwitch(t *testing.T) {
	n := flat(10, 60, hatchback)
	for m := 200; m < 209; m++ {
		n.Shower[m], n.House[m] = 40, 50
	}
	o := Run(n, Priority, Default)
	if o.Over != 0 || o.Pauses != 1 || o.Throttled != 9 {
		t.Errorf("%+v", o)
	}
	if plain := Run(n, Unmanaged, Default); plain.Over != 9 {
		t.Errorf("unmanaged: %d minutes over", plain.Over)
	}
}

// TestTwoShare: two chargers share the room equally, and the second takes all
// of it when the first is done.
func TestTwoShare(t *testing.T) {
	small := hatchback
	small.Name, small.Wanted = "van", 5
	n := flat(10, 50, hatchback, small) // 38 A of room
	o := Run(n, Managed, Default)
	near(t, "together", o.Total[10]-n.House[10], 38, 1e-9)
	near(t, "alone", o.Total[500]-n.House[500], 32, 1e-9)
	near(t, "the small one is full", o.Cars[1].Got, 5, 1e-9)
	if o.Over != 0 {
		t.Errorf("%d minutes over", o.Over)
	}
}

func TestCarStopsWhenFull(t *testing.T) {
	c := hatchback
	c.Wanted, c.From, c.To = 10, 60, 400
	n := flat(5, 100, c)
	o := Run(n, Unmanaged, Default)
	near(t, "full", o.Cars[0].Got, 10, 1e-9)
	if o.Total[59] != 5 || o.Total[60] != 37 || o.Total[399] != 5 {
		t.Errorf("%g, %g, %g A", o.Total[59], o.Total[60], o.Total[399])
	}
}

// TestProfile: the same seed is the same night; nothing draws more than its
// rating, and every kind draws something.
func TestProfile(t *testing.T) {
	for kind := range habits {
		a, b := Profile(kind, 20, 7, nightStart, nightMinutes), Profile(kind, 20, 7, nightStart, nightMinutes)
		if !slices.Equal(a, b) {
			t.Errorf("%s: the same seed gives another night", kind)
		}
		if m := slices.Max(a); m <= 0 || m > 20 || slices.Min(a) < 0 {
			t.Errorf("%s: at most %g A of 20", kind, m)
		}
		if kind != job.Sockets && kind != job.HeatPump && kind != job.Heating && kind != job.Cooling {
			continue
		}
		if slices.Equal(a, Profile(kind, 20, 8, nightStart, nightMinutes)) {
			t.Errorf("%s: another seed gives the same night", kind)
		}
	}
	if p := Profile("nothing", 20, 1, nightStart, nightMinutes); slices.Max(p) != 0 {
		t.Error("an unknown kind draws")
	}
}

// A supply of 230 V, cutouts met in homes, and costs of the country's own.
var (
	systems  = supply.Systems{{ID: job.TNCS, ToEarth: 230, Circuit: 230, Three: 400}}
	services = []float64{60, 80, 100}
	costs    = Costs{Sensor: Band{60, 180}, Switch: Band{80, 220}, Upgrade: Band{0, 2500}, Wait: Band{4, 14}}
)

func house() job.Job {
	return job.Job{
		Survey: job.Survey{
			Supply:   job.Supply{System: job.TNCS, Rating: 60},
			Loads:    []job.Load{{Kind: job.Shower, Power: 9500}, {Kind: job.Cooker, Power: 9000}, {Kind: job.Sockets, Amps: 32}, {Kind: job.Heating, Power: 3000}},
			Vehicles: []job.Vehicle{{Name: "hatchback", OnBoard: 7400, Phases: 1, Battery: 58, Energy: 35, Arrival: "18:00", Departure: "07:00"}},
			Places:   []job.Place{{Point: "A"}},
		},
		Design: job.Design{Circuits: []job.Circuit{{Point: "A", Setting: 32}}},
	}
}

func TestOf(t *testing.T) {
	j := house()
	n, missing := Of(&j, 1, systems)
	if missing != "" || len(n.Cars) != 1 {
		t.Fatal(missing)
	}
	if c := n.Cars[0]; c.From != 60 || c.To != 840 || math.Abs(c.Takes-32.17) > 0.01 {
		t.Errorf("%+v", c)
	}
	managed, plain := Run(n, Managed, Default), Run(n, Unmanaged, Default)
	if plain.Over <= plain.HouseOver || managed.Over != managed.HouseOver || managed.Cars[0].Got < 30 {
		t.Errorf("unmanaged over for %d minutes; managed %d, %.1f kWh", plain.Over, managed.Over, managed.Cars[0].Got)
	}
	for what, spoil := range map[string]func(*job.Job){
		"rating":   func(j *job.Job) { j.Survey.Supply.Rating = 0 },
		"loads":    func(j *job.Job) { j.Survey.Loads = nil },
		"setting":  func(j *job.Job) { j.Design.Circuits[0].Setting = 0 },
		"arrival":  func(j *job.Job) { j.Survey.Vehicles[0].Arrival = "" },
		"vehicles": func(j *job.Job) { j.Survey.Vehicles = nil },
	} {
		t.Run(what, func(t *testing.T) {
			j := house()
			spoil(&j)
			if _, missing := Of(&j, 1, systems); missing == "" {
				t.Errorf("without %s, nothing is missing", what)
			}
		})
	}
}

// TestGeneralLoad: a floor area adds the house's lights and receptacles.
func TestGeneralLoad(t *testing.T) {
	j := house()
	bare, _ := Of(&j, 1, systems)
	j.Survey.Dwelling.FloorArea = 170
	full, _ := Of(&j, 1, systems)
	for m := range full.House {
		if full.House[m] <= bare.House[m] {
			t.Fatalf("minute %d: %g A with the general load, %g without", m, full.House[m], bare.House[m])
		}
	}
}

func TestThreePhaseCar(t *testing.T) {
	j := house()
	j.Survey.Vehicles[0].Phases, j.Survey.Vehicles[0].OnBoard = 3, 11000
	n, _ := Of(&j, 1, systems)
	near(t, "three-phase car on one phase", n.Cars[0].Takes, 15.94, 0.01)
	j.Design.Circuits[0].Charger.Phases = 3
	n, _ = Of(&j, 1, systems)
	near(t, "on three", n.Cars[0].Takes, 15.94, 0.01)
	near(t, "watts per ampere", n.Cars[0].Watts, 690, 1e-9)
}

func BenchmarkNight24Hours(b *testing.B) {
	j := house()
	n, _ := Of(&j, 1, systems)
	n.House, n.Shower = append(n.House, n.House[:540]...), append(n.Shower, n.Shower[:540]...)
	n.Minutes, n.Cars[0].To = 1440, 1440
	for b.Loop() {
		Run(n, Managed, Default)
	}
}

// small is a house of 60 A whose shower and cooker leave little beside 32 A.
func small() Night {
	n := Night{Start: 17 * 60, Minutes: 600, Limit: 60, House: make([]float64, 600), Shower: make([]float64, 600)}
	for m := range n.House {
		n.House[m] = 8
		if m >= 60 && m < 120 {
			n.House[m] = 36
		}
		if m >= 240 && m < 250 {
			n.House[m] += 40
			n.Shower[m] = 40
		}
	}
	n.Cars = []Car{{Name: "hatchback", Setting: 32, Takes: 32, Watts: 230, Wanted: 60, Battery: 70, From: 0, To: 600}}
	return n
}

func TestWays(t *testing.T) {
	ways := Ways(small(), services, costs)
	by := map[WayID]Way{}
	for _, w := range ways {
		by[w.ID] = w
	}
	if w := by["as-set"]; w.Within || w.Outcome.Peak != 80 {
		t.Errorf("as set: %+v", w)
	}
	// 60 − 48 = 12 A beside the shower is the greatest that never passes the limit.
	if w := by["lower"]; !w.Within || w.Setting != 12 || w.Outcome.Cars[0].Got >= by["managed"].Outcome.Cars[0].Got {
		t.Errorf("lower: %+v", w)
	}
	if w := by["managed"]; !w.Within || w.Cost.High == 0 || w.Wait.High != 0 {
		t.Errorf("managed: %+v", w)
	}
	if w := by["priority"]; w.Within || w.Outcome.Pauses != 1 {
		t.Errorf("a switch watches the shower, not the cooker: %+v", w)
	}
	if w := by["upgrade"]; w.Limit != 80 || !w.Within || w.Wait.Low == 0 {
		t.Errorf("upgrade: %+v", w)
	}
	n := small()
	n.Limit, n.Shower = 100, make([]float64, 600)
	ways = Ways(n, services, costs)
	if ways[3].Note == "" || ways[4].Note == "" || ways[1].Setting != 32 {
		t.Errorf("100 A without a shower: %+v", ways)
	}
	n.House[300] = 98
	if w := Ways(n, services, costs)[1]; w.Within || w.Note == "" {
		t.Errorf("no setting is low enough: %+v", w)
	}
}

// TestSharing: two cars under one limit. In fixed parts each has half of it all
// night; shared out, the one that is left has all of it.
func TestSharing(t *testing.T) {
	n := Night{Minutes: 600, Limit: 100, House: make([]float64, 600), Shower: make([]float64, 600), Shared: 32}
	n.Cars = []Car{{Name: "a", Setting: 32, Takes: 32, Watts: 230, Wanted: 10, From: 0, To: 600}, {Name: "b", Setting: 32, Takes: 32, Watts: 230, Wanted: 60, From: 0, To: 600}}
	out := Run(n, Unmanaged, Default)
	n.Even = true
	even := Run(n, Unmanaged, Default)
	if out.Peak > 32+1e-9 || even.Peak > 32+1e-9 {
		t.Errorf("peaks %.1f A and %.1f A of 32", out.Peak, even.Peak)
	}
	// 16 A for ten hours: 16 × 230 × 10 × 0.9 = 33.1 kWh.
	if got := even.Cars[1].Got; math.Abs(got-33.12) > 0.01 || out.Cars[1].Got <= got+5 {
		t.Errorf("b has %.2f kWh in fixed parts, %.2f shared out", got, out.Cars[1].Got)
	}
	n.Shared = 10
	if got := Run(n, Unmanaged, Default).Cars[0].Got; got != 0 {
		t.Errorf("5 A each charges %.2f kWh; below 6 A nothing is offered", got)
	}
}

// TestMeterProfile: the meter's own day takes the place of the habits.
func TestMeterProfile(t *testing.T) {
	j := job.Job{}
	j.Survey.Supply = job.Supply{System: job.TNCS, Rating: 60, Profile: make([]float64, 48)}
	for i := range j.Survey.Supply.Profile {
		j.Survey.Supply.Profile[i] = float64(i)
	}
	j.Survey.Places = []job.Place{{Point: "A"}}
	j.Survey.Vehicles = []job.Vehicle{{Name: "car", OnBoard: 7400, Phases: 1, Energy: 20, Arrival: "19:00", Departure: "07:00"}}
	j.Design.Circuits = []job.Circuit{{Point: "A", Setting: 32}}
	n, missing := Of(&j, 1, systems)
	if missing != "" || n.House[0] != 34 || n.House[6*60+59] != 47 || n.House[7*60] != 0 || n.House[14*60+30] != 15 {
		t.Errorf("%s; 17:00 %g, 23:59 %g, 00:00 %g, 07:30 %g", missing, n.House[0], n.House[419], n.House[420], n.House[870])
	}
}
