package loadmgmt

import (
	"math"
	"slices"

	"dogbolt/core/charging"
	"dogbolt/core/demand"
	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/schema"
	"dogbolt/core/supply"
)

// Mode is how the chargers behave.
type Mode string

// The modes that are put side by side.
const (
	Unmanaged Mode = "unmanaged" // always the setting
	Managed   Mode = "managed"   // backs off to keep the supply under the limit
	Priority  Mode = "priority"  // a switch: off while a shower or tankless heater runs
)

// Floor is the least current that a vehicle can be offered, A (IEC 61851-1,
// SAE J1772): below it a charger pauses.
const Floor = 6

// Values lists the modes.
func (Mode) Values() []string { return schema.Words(Unmanaged, Managed, Priority) }

// Algorithm is how a managed charger follows the house. The zero value is not
// useful; see Default.
type Algorithm struct {
	Headroom   float64 // kept free below the limit, A
	Hysteresis float64 // more room than this before the current rises, A
	Rise       int     // minutes that the room must last before the current rises
	Resume     int     // minutes of room before a paused charger starts again
}

// Default is an ordinary algorithm: 2 A kept free, 2 A of hysteresis, one
// minute to rise, five to resume. Common practice, no source.
var Default = Algorithm{Headroom: 2, Hysteresis: 2, Rise: 1, Resume: 5}

// Car is a vehicle on one charger.
type Car struct {
	Name     string
	Setting  float64 // of its charger, A per phase
	Takes    float64 // most that the vehicle draws, A per phase
	Watts    float64 // power per ampere, W/A: 230, 240, or 692.8 for three phases at 400 V
	Wanted   float64 // kWh into the battery
	Battery  float64 // kWh; 0 when not known
	From, To int     // minutes of the night between which it is plugged in
}

// Night is what is simulated.
type Night struct {
	Start   int // minute of the day
	Minutes int
	Limit   float64   // of the supply, A per phase
	Keep    float64   // what the management keeps the supply to, A per phase; 0 takes Limit
	House   []float64 // without charging, A per phase, a value a minute
	Shower  []float64 // part of House that the priority switch watches, A
	Cars    []Car
	// Shared is what all chargers may draw together, A per phase; 0 for no such
	// limit. Even splits it in fixed parts, else those that charge share it out.
	Shared float64
	Even   bool
}

// Outcome is what one mode makes of a night.
type Outcome struct {
	Mode      Mode      `json:"mode"`
	Peak      float64   `json:"peak" doc:"Highest minute of the supply, A."`
	Over      int       `json:"over" doc:"Minutes above the limit."`
	HouseOver int       `json:"houseOver" doc:"Minutes in which the house alone is above the limit."`
	Throttled int       `json:"throttled" doc:"Minutes in which a charger gave less than it was asked for."`
	Pauses    int       `json:"pauses" doc:"Times that a charger stopped and started again."`
	Cars      []CarEnd  `json:"cars"`
	Total     []float64 `json:"-"`
}

// CarEnd is what a car has when it leaves.
type CarEnd struct {
	Name   string  `json:"name"`
	Wanted float64 `json:"wanted" doc:"kWh into the battery."`
	Got    float64 `json:"got" doc:"kWh into the battery by departure."`
	Charge float64 `json:"charge" doc:"State of charge at departure, share of the battery; 0 when the battery is not known."`
}

// charger is the state of one charger between minutes.
type charger struct {
	car     Car
	current float64
	roomFor int // minutes that there has been room to rise or resume
	paused  bool
	got     float64
}

// Run simulates a night in one mode. Chargers that are plugged in and not done
// share the room equally.
func Run(n Night, mode Mode, a Algorithm) Outcome {
	out := Outcome{Mode: mode, Total: make([]float64, n.Minutes)}
	keep := n.Limit
	if n.Keep > 0 {
		keep = min(n.Keep, n.Limit)
	}
	chargers := make([]charger, len(n.Cars))
	for i, c := range n.Cars {
		chargers[i].car = c
	}
	for m := range n.Minutes {
		active := 0
		for i := range chargers {
			if chargers[i].wants(m) {
				active++
			}
		}
		total := n.House[m]
		for i := range chargers {
			c := &chargers[i]
			if !c.wants(m) {
				c.current = 0
				continue
			}
			asked := n.asked(&c.car, active)
			was := c.paused
			switch mode {
			case Unmanaged:
				c.current = asked
			case Managed:
				c.follow((keep-a.Headroom-n.House[m])/float64(active), asked, a)
			case Priority:
				c.current, c.paused = asked, n.Shower[m] > 0
				if c.paused {
					c.current = 0
				}
			}
			if c.current < asked {
				out.Throttled++
			}
			if c.paused && !was {
				out.Pauses++
			}
			c.got += c.current * c.car.Watts / 1000 / 60 * charging.Efficiency
			total += c.current
		}
		out.Total[m] = total
		out.Peak = max(out.Peak, total)
		if total > n.Limit {
			out.Over++
		}
		if n.House[m] > n.Limit {
			out.HouseOver++
		}
	}
	for _, c := range chargers {
		end := CarEnd{Name: c.car.Name, Wanted: c.car.Wanted, Got: min(c.got, c.car.Wanted)}
		if c.car.Battery > 0 {
			end.Charge = min((c.car.Battery-c.car.Wanted+end.Got)/c.car.Battery, 1)
		}
		out.Cars = append(out.Cars, end)
	}
	return out
}

// asked is the current that a car asks for while so many charge, A.
func (n *Night) asked(c *Car, active int) float64 {
	asked := min(c.Setting, c.Takes)
	if n.Shared <= 0 {
		return asked
	}
	among := active
	if n.Even {
		among = len(n.Cars)
	}
	if asked = min(asked, n.Shared/float64(among)); asked < Floor {
		return 0 // below the floor nothing is offered
	}
	return asked
}

func (c *charger) wants(m int) bool {
	return m >= c.car.From && m < c.car.To && c.got < c.car.Wanted
}

// follow sets the current for a minute with the given room: it falls at once,
// rises only when the room has lasted, and pauses below the floor.
func (c *charger) follow(room, asked float64, a Algorithm) {
	target := min(asked, room)
	switch {
	case target < Floor:
		c.paused, c.current, c.roomFor = true, 0, 0
	case c.paused:
		if c.roomFor++; c.roomFor > a.Resume && (room >= Floor+a.Hysteresis || target == asked) {
			c.paused, c.current, c.roomFor = false, target, 0
		}
	case c.current == 0, target < c.current:
		c.current, c.roomFor = target, 0
	case target > c.current:
		if room < c.current+a.Hysteresis && target < asked {
			c.roomFor = 0
			return
		}
		if c.roomFor++; c.roomFor > a.Rise {
			c.current, c.roomFor = target, 0
		}
	}
}

// Set returns the night with every charger set to a current, A.
func (n Night) Set(amps float64) Night {
	cars := make([]Car, len(n.Cars))
	for i, c := range n.Cars {
		c.Setting = min(c.Setting, amps)
		cars[i] = c
	}
	n.Cars = cars
	return n
}

// Band is a range of cost or of time.
type Band struct {
	Low  float64 `json:"low" minimum:"0" maximum:"100000"`
	High float64 `json:"high" minimum:"0" maximum:"100000"`
}

// Costs are the house's own figures of what each way out costs and how long it
// takes. They are defaults to be changed: common practice, no source.
type Costs struct {
	Sensor  Band `json:"sensor" doc:"Sensors and set-up of load management."`
	Switch  Band `json:"switch" doc:"Priority switch."`
	Upgrade Band `json:"upgrade" doc:"Larger service, the customer's part."`
	Wait    Band `json:"wait" doc:"For a larger service, weeks."`
	Point   Band `json:"point,omitzero" doc:"A new point with its charger and a short plain route."`
	Metre   Band `json:"metre,omitzero" doc:"Each metre of cable beyond that route."`
}

// Included is the cable run that the price of a new point covers, m. Common practice, no source.
const Included = quantity.Metre(10)

// Practice is what living with a supply depends on in one country.
type Practice struct {
	Usual    Costs     // before the house sets its own, in the country's money
	Services []float64 // usual ratings of a service, A, smallest first
}

// WayID names a way to live with the supply.
type WayID string

// The ways to live with the supply.
const (
	AsSet     WayID = "as-set"
	Lower     WayID = "lower"
	BacksOff  WayID = "managed"
	BySwitch  WayID = "priority"
	ByUpgrade WayID = "upgrade"
)

// Values lists the ways.
func (WayID) Values() []string { return schema.Words(AsSet, Lower, BacksOff, BySwitch, ByUpgrade) }

// Way is one way to live with the supply, with what the cars have at departure.
type Way struct {
	ID      WayID   `json:"id"`
	Title   string  `json:"title"`
	Setting float64 `json:"setting" doc:"Of the chargers, A."`
	Limit   float64 `json:"limit" doc:"Of the supply, A."`
	Cost    Band    `json:"cost"`
	Wait    Band    `json:"wait" doc:"Weeks."`
	Outcome Outcome `json:"outcome"`
	Within  bool    `json:"within" doc:"The supply stays within its limit wherever the house alone does."`
	Note    string  `json:"note,omitempty"`
}

// Ways puts the ways side by side, services being the usual ratings of one: as set, the greatest lower setting that never
// passes the limit, the two kinds of management, and the next larger service.
func Ways(n Night, services []float64, costs Costs) []Way {
	top := 0.0
	for _, c := range n.Cars {
		top = max(top, c.Setting)
	}
	way := func(id WayID, title string, night Night, mode Mode, setting float64, cost, wait Band) Way {
		o := Run(night, mode, Default)
		return Way{ID: id, Title: title, Setting: setting, Limit: night.Limit, Cost: cost, Wait: wait, Outcome: o, Within: o.Over <= o.HouseOver}
	}
	list := []Way{way(AsSet, "as set, nothing managed", n, Unmanaged, top, Band{}, Band{})}
	lower := Way{ID: Lower, Title: "lower setting", Note: "not even 6 A stays within the supply"}
	for a := math.Floor(top); a >= Floor; a-- {
		if w := way(Lower, "lower setting", n.Set(a), Unmanaged, a, Band{}, Band{}); w.Within {
			lower = w
			break
		}
	}
	list = append(list, lower,
		way(BacksOff, "charger backs off", n, Managed, top, costs.Sensor, Band{}),
		way(BySwitch, "priority switch, shower first", n, Priority, top, costs.Switch, Band{}))
	if !slices.ContainsFunc(n.Shower, func(a float64) bool { return a > 0 }) {
		list[3].Note = "no shower or tankless heater is told apart: a switch has nothing to watch"
	}
	up := Way{ID: ByUpgrade, Title: "larger service", Note: "no larger single-phase service is usual: ask for three phases"}
	for _, rating := range services {
		if rating > n.Limit {
			larger := n
			larger.Limit, larger.Keep = rating, 0
			up = way(ByUpgrade, "larger service", larger, Unmanaged, top, costs.Upgrade, costs.Wait)
			break
		}
	}
	return append(list, up)
}

// The night that is simulated: from 17:00, for fifteen hours.
const (
	nightStart   = 17 * 60
	nightMinutes = 15 * 60
)

// Of builds the night of a job from its surveyed loads, with its points at
// their settings. missing names what is needed to simulate it.
func Of(j *job.Job, seed uint64, systems supply.Systems) (n Night, missing string) {
	n = Night{Start: nightStart, Minutes: nightMinutes, Limit: float64(j.Survey.Supply.Rating)}
	n.House, n.Shower = make([]float64, n.Minutes), make([]float64, n.Minutes)
	switch {
	case n.Limit == 0:
		return n, "rating of the service"
	case len(j.Survey.Loads) == 0 && len(j.Survey.Supply.Profile) == 0:
		return n, "loads on the supply"
	}
	if limit, shared := j.SharedLimit(); shared {
		n.Shared, n.Even = float64(limit), j.Design.Sharing == job.SharedLimit
	}
	u := systems.Voltage(&j.Survey.Supply, 1)
	n.house(j, seed, u)
	for i, p := range j.Points() {
		n.Keep = max(n.Keep, float64(p.Circuit.ManagedTo))
		if i >= len(j.Survey.Vehicles) || p.Circuit.Setting == 0 {
			continue
		}
		if c, ok := car(j.Survey.Vehicles[i], p.Circuit, u); ok {
			n.Cars = append(n.Cars, c)
		}
	}
	if len(n.Cars) == 0 {
		return n, "a setting, and a vehicle's on-board charger, energy, arrival and departure"
	}
	return n, ""
}

// house fills in what the house draws: the meter's own day of the peak where it
// was read in, else the surveyed appliances by their habits.
func (n *Night) house(j *job.Job, seed uint64, u quantity.Volt) {
	if day := j.Survey.Supply.Profile; len(day) > 0 {
		for m := range n.House {
			n.House[m] = day[(n.Start+m)%1440*len(day)/1440]
		}
		return
	}
	for i, l := range j.Survey.Loads {
		rated := float64(l.Amps)
		if rated == 0 {
			rated = float64(charging.Current(l.Power, u, 1))
		}
		p := Profile(l.Kind, rated, seed+uint64(i), n.Start, n.Minutes)
		for m := range p {
			n.House[m] += p[m]
			if l.Kind == job.Shower || l.Kind == job.TanklessHW {
				n.Shower[m] += p[m]
			}
		}
	}
	if area := j.Survey.Dwelling.FloorArea; area > 0 {
		// The general lighting and receptacles of the US sum, 3 VA/ft².
		general := float64(charging.Current(quantity.Watt(3*demand.SquareFeet(area)), u, 1))
		for k, kind := range []job.LoadKind{job.Sockets, job.Lighting} {
			for m, a := range Profile(kind, general, seed+100+uint64(k), n.Start, n.Minutes) {
				n.House[m] += a
			}
		}
	}
}

func car(v job.Vehicle, c job.Circuit, u quantity.Volt) (Car, bool) {
	from, ok1 := charging.Minutes(v.Arrival)
	to, ok2 := charging.Minutes(v.Departure)
	if !ok1 || !ok2 || v.Energy == 0 || v.OnBoard == 0 {
		return Car{}, false
	}
	phases := 1.0
	if c.Charger.Phases == 3 && v.Phases == 3 {
		phases = 3
	}
	watts := float64(u) * phases
	takes := float64(v.OnBoard) / watts
	if v.Phases == 3 && phases == 1 {
		takes /= 3
	}
	at := func(clock int) int { return ((clock-nightStart)%1440 + 1440) % 1440 }
	return Car{Name: v.Name, Setting: float64(c.Setting), Takes: takes, Watts: watts, Wanted: v.Energy, Battery: v.Battery,
		From: at(from) % nightMinutes, To: min(at(to), nightMinutes)}, true
}
