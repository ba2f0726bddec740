package charging

import (
	"math"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/supply"
)

// Drawn returns what a vehicle draws from a charger, W: the least of the
// charger's setting and the vehicle's on-board charger, on the phases that both
// have.
func Drawn(v job.Vehicle, c *job.Circuit, s *job.Supply, systems supply.Systems) quantity.Watt {
	phases := min(max(c.Charger.Phases, 1), max(v.Phases, 1))
	power := Power(c.Setting, systems.Voltage(s, phases), phases)
	onBoard := v.OnBoard
	if v.Phases == 3 && phases == 1 {
		onBoard /= 3 // one of its three parts works
	}
	return min(power, onBoard)
}

// Hours returns how long an energy into the battery takes, kWh, at a power
// drawn: energy / (power × Efficiency).
func Hours(energy float64, drawn quantity.Watt) float64 {
	return energy * 1000 / (float64(drawn) * Efficiency)
}

// Tariff is a price by time of day. The zero night is a flat tariff.
type Tariff struct {
	Day, Night float64 // per kWh
	From, To   int     // minutes of the day of the night rate
}

// At returns the price of a minute of the day.
func (t Tariff) At(minute int) float64 {
	if t.Night == 0 || t.From == t.To {
		return t.Day
	}
	m := minute % 1440
	in := m >= t.From && m < t.To
	if t.From > t.To {
		in = m >= t.From || m < t.To
	}
	if in {
		return t.Night
	}
	return t.Day
}

// Cost returns the price of an energy into the battery, kWh, drawn at a power
// between two minutes of the day, the second after midnight where it is less. It
// charges at once, or in the cheapest minutes where it waits. short is the energy
// that the time does not give, kWh.
func (t Tariff) Cost(energy float64, drawn quantity.Watt, from, to int, wait bool) (cost, short float64) {
	if to <= from {
		to += 1440
	}
	perMinute := float64(drawn) / 1000 / 60 // kWh drawn
	left := energy / Efficiency
	rates := []float64{math.Inf(1)} // one pass at any price
	if wait {
		rates = []float64{t.Night, math.Inf(1)}
	}
	used := make([]bool, to-from)
	for _, most := range rates {
		for m := range used {
			if left <= 0 {
				break
			}
			if p := t.At(from + m); !used[m] && p <= most {
				part := min(perMinute, left)
				cost += part * p
				left -= part
				used[m] = true
			}
		}
	}
	return cost, max(left, 0) * Efficiency
}

// BreakEven returns the share of the home charging that has to fall into the
// night rate for a two-rate tariff to cost no more than a flat one. car and house
// are kWh a year, houseNight the share of the house's use in the night. From
// night·(x·car + h) + day·((1−x)·car + house − h) = flat·(car + house):
//
//	x = ((day − flat)·(car + house) − (day − night)·h) / ((day − night)·car)
//
// A result below 0 pays always, above 1 never. It is +Inf for a car that charges
// nothing at home where the tariff does not pay without it.
func BreakEven(flat, day, night, car, house, houseNight float64) float64 {
	over := (day-flat)*(car+house) - (day-night)*houseNight*house
	if car == 0 || day == night {
		return math.Inf(int(math.Copysign(1, over)))
	}
	return over / ((day - night) * car)
}

// Sum is what charging a vehicle means.
type Sum struct {
	Vehicle  string  `json:"vehicle"`
	Power    float64 `json:"power" doc:"Drawn, kW."`
	Limit    string  `json:"limit" doc:"What limits it: charger setting or vehicle."`
	Hours    float64 `json:"hours" doc:"For the energy of a usual night; 0 where not known."`
	Energy   float64 `json:"energy" doc:"Of a usual night, kWh into the battery."`
	Gain     float64 `json:"gain" doc:"Distance gained in an hour, km; 0 where the vehicle's use is not known."`
	Flat     float64 `json:"flat" doc:"Cost of a usual night on the flat tariff."`
	AtOnce   float64 `json:"atOnce" doc:"On the two-rate tariff, charging as soon as plugged in."`
	Waiting  float64 `json:"waiting" doc:"On the two-rate tariff, waiting for the night rate."`
	Shortage float64 `json:"shortage" doc:"Energy that the time between arrival and departure does not give, kWh."`
}

// Comparison sets tariffs and fuel side by side, by the customer's own figures.
type Comparison struct {
	Missing    []string `json:"missing,omitempty" doc:"Figures that are still needed."`
	Sums       []Sum    `json:"sums"`
	Car        float64  `json:"car" doc:"Charged at home in a year, kWh drawn."`
	BreakEven  *float64 `json:"breakEven,omitempty" doc:"Share of home charging in the night rate from which two rates pay; below 0 always, above 1 never."`
	FlatYear   float64  `json:"flatYear" doc:"A year on the flat tariff, house and car."`
	NightYear  float64  `json:"nightYear" doc:"A year on two rates, all charging at night."`
	FlatPerKm  float64  `json:"flatPerKm"`
	NightPerKm float64  `json:"nightPerKm"`
	FuelPerKm  float64  `json:"fuelPerKm"`
	Working    string   `json:"working"`
}

// Compare works out power, time and cost of a point's charging, for every
// surveyed vehicle. The energy drawn is what the battery gets over Efficiency.
func Compare(j *job.Job, p job.Point, systems supply.Systems) Comparison {
	m := j.Design.Money
	out := Comparison{Sums: []Sum{}}
	need := func(ok bool, what string) {
		if !ok {
			out.Missing = append(out.Missing, what)
		}
	}
	need(p.Circuit.Setting > 0, "charger setting")
	need(m.Flat > 0, "flat price")
	need(m.Day > 0 && m.Night > 0, "day and night price")
	from, ok1 := Minutes(m.NightFrom)
	to, ok2 := Minutes(m.NightTo)
	need(ok1 && ok2, "hours of the night rate")
	need(m.Distance > 0, "distance a year")
	need(m.KmPerKWh > 0, "how far the vehicle goes on a kWh")
	two := Tariff{Day: m.Day, Night: m.Night, From: from, To: to}
	known := m.Day > 0 && m.Night > 0 && ok1 && ok2
	for _, v := range j.Survey.Vehicles {
		if v.OnBoard == 0 || p.Circuit.Setting == 0 {
			continue
		}
		drawn := Drawn(v, &p.Circuit, &j.Survey.Supply, systems)
		s := Sum{
			Vehicle: v.Name,
			Power:   float64(drawn) / 1000,
			Energy:  v.Energy,
			Limit:   "charger setting",
			Gain:    float64(drawn) / 1000 * Efficiency * m.KmPerKWh,
		}
		phases := max(p.Circuit.Charger.Phases, 1)
		if drawn < Power(p.Circuit.Setting, systems.Voltage(&j.Survey.Supply, phases), phases) {
			s.Limit = "vehicle"
		}
		if v.Energy > 0 {
			s.Hours = Hours(v.Energy, drawn)
		}
		s.night(&v, drawn, Tariff{Day: m.Flat}, two, known)
		out.Sums = append(out.Sums, s)
	}
	if m.KmPerKWh > 0 {
		out.Car = m.Distance / m.KmPerKWh / Efficiency
		out.FlatPerKm, out.NightPerKm = m.Flat/m.KmPerKWh/Efficiency, m.Night/m.KmPerKWh/Efficiency
	}
	if m.KmPerLitre > 0 {
		out.FuelPerKm = m.Fuel / m.KmPerLitre
	}
	if m.Flat > 0 && m.Day > 0 && m.Night > 0 && out.Car > 0 {
		out.year(&m)
	}
	return out
}

// night works out what the usual night costs, where arrival, departure and energy are
// known; on the two-rate tariff where its prices and hours are known too.
func (s *Sum) night(v *job.Vehicle, drawn quantity.Watt, flat, two Tariff, known bool) {
	a, okA := Minutes(v.Arrival)
	d, okD := Minutes(v.Departure)
	if !okA || !okD || v.Energy <= 0 {
		return
	}
	s.Flat, s.Shortage = flat.Cost(v.Energy, drawn, a, d, false)
	if known {
		s.AtOnce, _ = two.Cost(v.Energy, drawn, a, d, false)
		s.Waiting, _ = two.Cost(v.Energy, drawn, a, d, true)
	}
}

// year works out what a year costs on either tariff, and the share at night from which
// the two-rate one is cheaper. All prices and the car's energy are known.
func (out *Comparison) year(m *job.Money) {
	x := BreakEven(m.Flat, m.Day, m.Night, out.Car, m.House, m.HouseNight)
	out.BreakEven = &x
	h := m.House * m.HouseNight
	out.FlatYear = m.Flat * (out.Car + m.House)
	out.NightYear = m.Night*(out.Car+h) + m.Day*(m.House-h)
	out.Working = quantity.Say("(({3} − {3}) × ({0} + {0})", m.Day, m.Flat, out.Car, m.House) + quantity.Say(" − ({3} − {3}) × {0})", m.Day, m.Night, h) +
		quantity.Say(" ÷ (({3} − {3}) × {0}) = {2}", m.Day, m.Night, out.Car, x)
}
