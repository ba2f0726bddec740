package us

import (
	"math"

	"dogbolt/core/demand"
	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// MinimumEV is the least load of one charging point in a service calculation,
// VA (220.57 of 2023); the nameplate where that is larger.
const MinimumEV = 7200

// Service is what a calculation in VA is turned into amperes by: the voltage of its
// circuits, V, and its phases.
type Service struct {
	Volts  quantity.Volt
	Phases int
}

// Amps returns the current of a load on a service, A: VA ÷ V, or VA ÷ (√3 × V) on
// three phases.
func (s Service) Amps(va float64) quantity.Ampere {
	if s.Phases == 3 {
		return quantity.Ampere(va / (math.Sqrt(3) * float64(s.Volts)))
	}
	return quantity.Ampere(va / float64(s.Volts))
}

// Point is one charging point in a service calculation, or all that share a limit.
type Point struct {
	Amps  quantity.Ampere // nameplate, per phase
	VA    float64
	Least float64 // that it counts at least, VA; 0 where the nameplate is all
}

func (p Point) counted() string {
	if p.Least == 0 {
		return "100 %, nameplate"
	}
	return quantity.Say("100 %, larger of {} VA and nameplate", p.Least)
}

func (p Point) atLeast() string {
	if p.Least == 0 {
		return "100 %"
	}
	return quantity.Say("100 %, at least {} VA", p.Least)
}

// points are the charging loads of a job, each at the voltage and phases of its
// circuit; all together where they keep to a shared limit. least is what each counts
// at least, VA.
func points(j *job.Job, least float64) []Point {
	list := make([]Point, 0, len(j.Design.Circuits))
	for i := range j.Design.Circuits {
		if c := &j.Design.Circuits[i]; c.Charges() {
			list = append(list, point(&j.Survey.Supply, counts(c), c.Charger.Phases, least))
		}
	}
	if loads := j.EVLoads(); len(loads) != len(list) {
		return []Point{point(&j.Survey.Supply, loads[0], j.Survey.Supply.Phases, least)}
	}
	return list
}

// counts is the current that a charger counts at, A per phase: its nameplate, or the
// setting where that is behind restricted access and on the label (625.42(B)).
func counts(c *job.Circuit) quantity.Ampere {
	if c.Kind() == job.OutletOnly { // 210.20(A): a load that lasts is at most 80 % of its breaker
		return max(c.Setting, 0.8*c.Breaker.Rating)
	}
	if c.Guarded == job.Yes || c.Setting == 0 {
		return c.Setting
	}
	return max(c.Setting, c.Charger.Rating)
}

// point is the load of a current, A per phase, on so many phases of a supply.
func point(p *job.Supply, a quantity.Ampere, phases int, least float64) Point {
	va := float64(a) * float64(systems.Voltage(p, phases))
	if phases == 3 {
		va *= math.Sqrt(3)
	}
	return Point{a, va, least}
}

// Demand returns the service demand: by 220.87 where a measurement is given
// or chosen, by 220.82 where that is chosen, by 220.83(A) otherwise.
func Demand(j *job.Job) demand.Result { return demandWith(j, MinimumEV) }

// demandWith is Demand with another least load of a charging point, VA.
func demandWith(j *job.Job, least float64) demand.Result {
	p := &j.Survey.Supply
	service := Service{systems.Voltage(p, 1), max(p.Phases, 1)}
	loads, inBucket := points(j, least), j.Design.EVInBucket == job.Yes
	if peak, days := p.Peak(); j.Design.DemandMethod == job.ByMeasuredDemand || j.Design.DemandMethod == "" && peak > 0 {
		r := Measured(peak, days, p.Generates(), service, loads)
		season(&r, j, service)
		return r
	}
	if j.Design.DemandMethod == job.By22082 {
		return Optional(j.Survey.Dwelling, j.Survey.Loads, p.Rating, service, loads, inBucket)
	}
	return Existing(j.Survey.Dwelling, j.Survey.Loads, service, loads, inBucket)
}

// season completes a measured demand: its intervals have to be of 15 minutes, and a
// record of less than a year adds the larger of heating and cooling that it did not
// show (220.87, exception; from memory).
func season(r *demand.Result, j *job.Job, service Service) {
	p := &j.Survey.Supply
	_, days := p.Peak()
	switch {
	case p.PeakMinutes == 0:
		r.Missing = append(r.Missing, "length of the intervals of the record")
	case p.PeakMinutes > 15:
		r.Missing = append(r.Missing, quantity.Say("15-minute values: the highest of {} minutes hides shorter peaks", float64(p.PeakMinutes)))
	}
	switch {
	case days >= 365 || days < 30 || p.PeakSeason == job.Yes:
		return
	case p.PeakSeason == job.Unasked:
		r.Missing = append(r.Missing, "whether the larger of heating and cooling ran during the record")
		return
	}
	var heat, cool float64
	for _, l := range j.Survey.Loads {
		switch l.Kind {
		case job.Heating, job.StorageHeat:
			heat += demand.Power(l, service.Volts)
		case job.Cooling:
			cool += demand.Power(l, service.Volts)
		case job.HeatPump: // it heats and it cools
			heat += demand.Power(l, service.Volts)
			cool += demand.Power(l, service.Volts)
		}
	}
	if larger := max(heat, cool); larger > 0 {
		a := service.Amps(larger)
		r.Add("larger of heating and cooling, not in the record", larger, "100 %, 220.87", float64(a))
		r.Without, r.Total = r.Without+a, r.Total+a
		return
	}
	r.Missing = append(r.Missing, "heating and cooling among the loads: the record did not show them")
}

// Existing returns the demand of an existing dwelling by NEC 220.83(A), no
// heating or cooling being added: the first 8 kVA at 100 % and the rest at
// 40 %. The charging points are counted at 100 % beside the sum, or
// inside the 40 % part where inBucket is set; both are in use and the result
// says which. From memory.
func Existing(d job.Dwelling, loads []job.Load, service Service, points []Point, inBucket bool) demand.Result {
	r := demand.Result{Method: "220.83", Clause: "220.83(A)", Unit: "VA"}
	g := general(&r, d, loads, service.Volts)
	sum, present := g.sum, g.present
	points = append(present, points...)
	if larger := max(g.heat+g.storage, g.cool) + g.pump; larger > 0 {
		r.Add("larger of heating and cooling", larger, "existing, inside the sum", larger)
		sum += larger
	}
	counted := func(s float64) float64 { return min(s, 8000) + 0.4*max(s-8000, 0) }
	without := counted(sum)
	r.Add("first 8 kVA at 100 %, rest at 40 %", sum, "220.83(A)", without)
	for _, p := range present {
		without += max(p.VA, p.Least)
	}
	r.Without = service.Amps(without)
	r.Total = service.Amps(addPoints(&r, points, inBucket, sum, counted(sum), counted))
	return r
}

// largeService is the least rating of a service to which 220.82 applies, A.
const largeService = 100

// Optional returns the demand of a dwelling by NEC 220.82: 100 % of
// the first 10 kVA and 40 % of the rest of the general load, plus the larger of
// heating and cooling by its own percentage. Electric room heaters are counted
// as separately controlled units, one for each load: 65 % of fewer than four,
// 40 % of four or more. Beside a heat pump they are its supplement: both run at once,
// the pump at 100 % and they at 65 %, 220.82(C)(3). It applies to services of 100 A or
// more. From memory.
func Optional(d job.Dwelling, loads []job.Load, rating quantity.Ampere, service Service, points []Point, inBucket bool) demand.Result {
	r := demand.Result{Method: "220.82", Clause: "220.82", Unit: "VA"}
	if rating > 0 && rating < largeService {
		r.Missing = append(r.Missing, "a service of 100 A or more: 220.82 does not apply to a smaller one")
	}
	g := general(&r, d, loads, service.Volts)
	sum, present := g.sum, g.present
	points = append(present, points...)
	counted := func(s float64) float64 { return min(s, 10000) + 0.4*max(s-10000, 0) }
	total := counted(sum)
	r.Add("first 10 kVA at 100 %, rest at 40 %", sum, "220.82(B)", total)
	share, how := 0.65, "65 %, fewer than four units"
	switch {
	case g.pump > 0:
		how = "65 % beside a heat pump"
	case g.units >= 4:
		share, how = 0.40, "40 %, four or more units"
	}
	if g.pump > 0 {
		r.Add("heat pump", g.pump, "100 %, 220.82(C)", g.pump)
		total += g.pump
	}
	switch heating := share*g.heat + g.storage; {
	case heating > g.cool && g.storage > 0:
		r.Add("heating", g.heat+g.storage, how+", thermal storage 100 %, 220.82(C)", heating)
		total += heating
	case heating > g.cool:
		r.Add("heating", g.heat, how+", 220.82(C)", heating)
		total += heating
	case g.cool > 0:
		r.Add("cooling", g.cool, "100 %, 220.82(C)", g.cool)
		total += g.cool
	}
	without := total
	for _, p := range present {
		without += max(p.VA, p.Least)
	}
	r.Without = service.Amps(without)
	r.Total = service.Amps(addPoints(&r, points, inBucket, sum, total, counted))
	return r
}

// dwelling is the load of a dwelling by its parts, VA.
type dwelling struct {
	sum     float64 // general load
	heat    float64 // room heating
	units   int     // separately controlled, of the room heating
	pump    float64 // heat pumps, which heat and cool
	cool    float64
	storage float64 // heating that runs at its full nameplate
	present []Point // charging points that are there already
}

// general adds the general load of 220.82(B) and 220.83 to the result's lines:
// lighting and receptacles, small-appliance and laundry circuits, fastened
// appliances. The rest is returned apart.
func general(r *demand.Result, d job.Dwelling, loads []job.Load, v quantity.Volt) (g dwelling) {
	add := func(n string, va float64, how string) {
		r.Add(n, va, how, va)
		g.sum += va
	}
	if d.FloorArea > 0 {
		add("general lighting and receptacles", 3*demand.SquareFeet(d.FloorArea), "3 VA/ft²")
	} else {
		r.Missing = append(r.Missing, "floor area")
	}
	add("small-appliance circuits", 1500*float64(max(d.KitchenCct, 2)), "1500 VA each, at least two")
	add("laundry circuit", 1500*float64(max(d.LaundryCct, 1)), "1500 VA each")
	for _, l := range loads {
		va := demand.Power(l, v)
		if va <= 0 {
			r.Missing = append(r.Missing, "rating of "+demand.Name(l))
			continue
		}
		switch l.Kind {
		case job.Heating:
			g.heat += va
			g.units++
		case job.StorageHeat:
			g.storage += va
		case job.ExistingEV:
			g.present = append(g.present, Point{quantity.Ampere(va / float64(v)), va, MinimumEV})
		case job.HeatPump:
			g.pump += va
		case job.Cooling:
			g.cool += va
		case job.Lighting, job.Sockets: // inside the 3 VA/ft²
		default:
			add(demand.Name(l), va, "nameplate")
		}
	}
	if len(loads) == 0 {
		r.Missing = append(r.Missing, "fastened appliances")
	}
	return g
}

// addPoints adds the charging points to a sum whose general part is counted by
// a function: at 100 % beside it, or inside the 40 % part. It returns the new
// total, VA.
func addPoints(r *demand.Result, points []Point, inBucket bool, sum, total float64, counted func(float64) float64) float64 {
	for _, p := range points {
		va := max(p.Least, p.VA)
		if inBucket {
			more := counted(sum+va) - counted(sum)
			sum += va
			r.Add("charging point", va, "inside the 40 % part", more)
			total += more
			continue
		}
		r.Add("charging point", va, p.counted(), va)
		total += va
	}
	return total
}

// Measured returns the demand by NEC 220.87: 125 % of the highest 15-minute
// demand of a year, or of a 30-day record, plus the charging points at 100 %.
// A 30-day record is not allowed where there is solar or another peak-shaving
// source. From memory.
func Measured(peak quantity.Ampere, days int, otherSource job.Answer, service Service, points []Point) demand.Result {
	r := demand.Result{Method: "220.87", Clause: "220.87", Unit: "A"}
	switch {
	case peak <= 0:
		r.Missing = append(r.Missing, "highest 15-minute demand")
	case days < 30:
		r.Missing = append(r.Missing, "a record of at least 30 days")
	case days < 365 && otherSource == job.Yes:
		r.Missing = append(r.Missing, "a year's record: a 30-day record is not allowed with solar or storage")
	case days < 365 && otherSource == job.Unasked:
		r.Missing = append(r.Missing, "whether solar or storage is present")
	}
	r.Without = 1.25 * peak
	r.Add("highest 15-minute demand", float64(peak), "125 %", float64(r.Without))
	r.Total = r.Without
	for _, p := range points {
		counted := service.Amps(max(p.Least, p.VA))
		r.Add("charging point", float64(p.Amps), p.atLeast(), float64(counted))
		r.Total += counted
	}
	return r
}
