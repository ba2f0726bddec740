// Package charging works out power, time and the four ceilings of a charger's
// setting.
package charging

import (
	"math"
	"strconv"
	"strings"

	"dogbolt/core/demand"
	"dogbolt/core/job"
	"dogbolt/core/panel"
	"dogbolt/core/quantity"
	"dogbolt/core/schema"
	"dogbolt/core/supply"
)

// Efficiency is the share of the energy drawn that reaches the battery: 0.90.
// Common practice, no source; every result that uses it says so.
const Efficiency = 0.90

// Power returns the power, W, of a current at a voltage: U·I for single or
// split phase, √3·U·I for three phases with U line to line.
func Power(i quantity.Ampere, u quantity.Volt, phases int) quantity.Watt {
	return quantity.Watt(float64(i) * float64(u) * phaseFactor(phases))
}

// Current returns the current per phase, A, of a power at a voltage; the
// inverse of Power.
func Current(p quantity.Watt, u quantity.Volt, phases int) quantity.Ampere {
	return quantity.Ampere(float64(p) / (float64(u) * phaseFactor(phases)))
}

func phaseFactor(phases int) float64 {
	if phases == 3 {
		return math.Sqrt(3)
	}
	return 1
}

// CeilingID names what bounds a charger's setting.
type CeilingID string

// What bounds a charger's setting.
const (
	ByService CeilingID = "service"
	ByBoard   CeilingID = "board"
	ByVehicle CeilingID = "vehicle"
	ByNeed    CeilingID = "need"
)

// Values lists what bounds a charger's setting.
func (CeilingID) Values() []string { return schema.Words(ByService, ByBoard, ByVehicle, ByNeed) }

// Ceiling is one of the four that bound a charger's setting.
type Ceiling struct {
	ID    CeilingID `json:"id"`
	Title string    `json:"title"`
	Amps  float64   `json:"amps" doc:"Most that this ceiling lets through, A per phase; the need is a least, not a most."`
	Known bool      `json:"known" doc:"False where something is missing to tell; then the note says what."`
	Rules bool      `json:"rules" doc:"This ceiling is the lowest of those that bound the setting."`
	Note  string    `json:"note" doc:"How it was worked out, or what is missing."`
}

// Ceilings returns the four ceilings of a point: what the service can spare,
// what the board can take, what the vehicles can use, and what they need by
// the time they leave. The first three bound the setting from above and the
// lowest rules; the need says how much of that is wanted. A sub-main has the first two.
func Ceilings(j *job.Job, p job.Point, d demand.Result, systems supply.Systems) []Ceiling {
	phases := max(p.Circuit.Charger.Phases, 1)
	u, one := systems.Voltage(&j.Survey.Supply, phases), systems.Voltage(&j.Survey.Supply, 1)
	list := []Ceiling{service(j, p, d), board(j, p, d)}
	if !p.Circuit.EndsInBoard() { // over a sub-main nobody knows yet who charges
		list = append(list, vehicle(j, u, one, phases), need(j, u, phases))
	}
	lowest := -1
	for i, c := range list {
		if c.Known && c.ID != ByNeed && (lowest < 0 || c.Amps < list[lowest].Amps) {
			lowest = i
		}
	}
	if lowest >= 0 {
		list[lowest].Rules = true
	}
	return list
}

// others returns what the job's other charging points draw, A.
func others(j *job.Job, p job.Point) float64 {
	if _, shared := j.SharedLimit(); shared {
		return 0 // each may have all of the limit while the others wait
	}
	var sum float64
	for _, c := range j.Design.Circuits {
		if c.Point != p.ID {
			sum += float64(c.Draws())
		}
	}
	return sum
}

func service(j *job.Job, p job.Point, d demand.Result) Ceiling {
	c := Ceiling{ID: ByService, Title: "Service spare"}
	rating := float64(j.Survey.Supply.Rating)
	switch {
	case rating == 0:
		c.Note = "needs: rating of the service"
	case len(d.Missing) > 0:
		c.Note = "needs: " + strings.Join(d.Missing, "; ")
	default:
		c.Known = true
		c.Amps = max(rating-float64(d.Without)-others(j, p), 0)
		c.Note = quantity.Say("{} A service less {1} A by ", rating, float64(d.Without)) + d.Clause
		if o := others(j, p); o > 0 {
			c.Note += quantity.Say(" and {} A at the other points", o)
		}
	}
	return c
}

func board(j *job.Job, p job.Point, d demand.Result) Ceiling {
	c := Ceiling{ID: ByBoard, Title: "Board"}
	b := j.Board()
	without := float64(d.Without)
	if j.Design.Beside.Small() {
		without = 0 // it feeds the points and nothing else
	}
	fits := panel.Of(j)
	room := fits[len(fits)-1]
	if !room.Mapped && b.WaysFree != nil {
		room = panel.Fit{Mapped: true, Fits: *b.WaysFree > 0 && b.FreePair != job.No, Why: strconv.Itoa(*b.WaysFree) + " ways free"}
	}
	if n := len(room.Moves); n > 0 {
		room.Why = "room after moving circuits: " + strconv.Itoa(n)
	}
	switch {
	case !room.Mapped || b.Rating == 0:
		c.Note = "needs: rating of the board and ways free"
	case !room.Fits:
		c.Known, c.Note = true, "no room for the breaker"
	case len(d.Missing) > 0:
		c.Note = "needs: " + strings.Join(d.Missing, "; ")
	default:
		c.Known = true
		c.Amps = max(float64(b.Rating)-without-others(j, p), 0)
		c.Note = quantity.Say("{} A board less what it feeds; ", float64(b.Rating)) + room.Why
	}
	return c
}

// vehicle is the most that any of the vehicles can use, at the voltage u of the
// circuit, and one of a circuit of one phase.
func vehicle(j *job.Job, u, one quantity.Volt, phases int) Ceiling {
	c := Ceiling{ID: ByVehicle, Title: "Vehicle", Note: "needs: on-board charger of a vehicle"}
	for _, v := range j.Survey.Vehicles {
		if v.OnBoard == 0 {
			continue
		}
		// A single-phase vehicle on three phases draws from one; a three-phase
		// vehicle on one phase has a third of its rating.
		volts, n, power := u, phases, v.OnBoard
		if vp := max(v.Phases, 1); vp < phases {
			volts, n = one, 1
		} else if vp > phases {
			if power /= 3; v.OnePhase > 0 {
				power = Power(v.OnePhase, one, 1)
			}
		}
		if a := float64(Current(power, volts, n)); a > c.Amps {
			c.Known, c.Amps = true, a
			c.Note = v.Name + quantity.Say(", on-board {1} kW", float64(v.OnBoard)/1000)
		}
	}
	return c
}

// need is the current that gives every vehicle its energy by its departure.
func need(j *job.Job, u quantity.Volt, phases int) Ceiling {
	c := Ceiling{ID: ByNeed, Title: "Needed by departure", Note: "needs: energy and departure of a vehicle"}
	for _, v := range j.Survey.Vehicles {
		h := Window(v)
		if v.Energy == 0 || h == 0 {
			continue
		}
		a := float64(Current(quantity.Watt(v.Energy*1000/(h*Efficiency)), u, phases))
		if a > c.Amps {
			c.Known, c.Amps = true, a
			c.Note = quantity.Say("{} kWh in {1} h at 90 % efficiency, by ", v.Energy, h) + v.Departure
		}
	}
	return c
}

// Window returns the hours between a vehicle's arrival and departure, across
// midnight where the departure is earlier; 0 where either is not known.
func Window(v job.Vehicle) float64 {
	from, ok1 := Minutes(v.Arrival)
	to, ok2 := Minutes(v.Departure)
	if !ok1 || !ok2 {
		return 0
	}
	if to <= from {
		to += 24 * 60
	}
	return float64(to-from) / 60
}

// Minutes reads a time of day such as 07:30 as minutes after midnight.
func Minutes(clock string) (int, bool) {
	h, m, ok := strings.Cut(clock, ":")
	hh, err1 := strconv.Atoi(h)
	mm, err2 := strconv.Atoi(m)
	if !ok || err1 != nil || err2 != nil || hh < 0 || hh > 23 || mm < 0 || mm > 59 || len(m) != 2 {
		return 0, false
	}
	return hh*60 + mm, true
}
