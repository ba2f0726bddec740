// Package demand computes the service demand by the published methods and
// shows every line of the sum.
package demand

import (
	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// Item is one line of a demand sum.
type Item struct {
	Name    string  `json:"name"`
	Rated   float64 `json:"rated" doc:"Connected load, in the result's unit."`
	Factor  string  `json:"factor" doc:"How the line is counted, in words."`
	Counted float64 `json:"counted" doc:"What it adds to the sum, in the result's unit."`
}

// Result is a demand with its working. Unit is "A" or "VA".
type Result struct {
	Method  string          `json:"method"`
	Clause  string          `json:"clause"`
	Unit    string          `json:"unit"`
	Lines   []Item          `json:"lines"`
	Without quantity.Ampere `json:"without" doc:"Demand before the charging points, A."`
	Total   quantity.Ampere `json:"total" doc:"Demand with the charging points, A."`
	Missing []string        `json:"missing,omitempty" doc:"What the method still needs to know."`
}

// amps returns the rated current of a load at the voltage: its amps where
// given, or power over voltage.
func amps(l job.Load, v quantity.Volt) float64 {
	if l.Amps > 0 {
		return float64(l.Amps)
	}
	return float64(l.Power) / float64(v)
}

// power returns the rated power of a load at the voltage, VA.
func power(l job.Load, v quantity.Volt) float64 {
	if l.Power > 0 {
		return float64(l.Power)
	}
	return float64(l.Amps) * float64(v)
}

func name(l job.Load) string {
	if l.Name != "" {
		return l.Name
	}
	return string(l.Kind)
}

// Diversity returns the demand of one dwelling by the On-Site Guide, appendix
// A, in A at 230 V single phase, with the charging points at 100 % and no
// diversity (722.311.201). From memory.
func Diversity(loads []job.Load, points []quantity.Ampere) Result {
	r := Result{Method: "diversity", Clause: "OSG appendix A", Unit: "A"}
	const v = 230
	largestShower, secondShower := largestTwo(loads, job.Shower, v)
	largestSocket, _ := largestTwo(loads, job.Sockets, v)
	for i, l := range loads {
		a := amps(l, v)
		if a <= 0 {
			r.Missing = append(r.Missing, "rating of "+name(l))
			continue
		}
		counted, how := a, "100 %"
		switch l.Kind {
		case job.Lighting:
			counted, how = 0.66*a, "66 %"
		case job.Heating:
			counted, how = min(a, 10)+0.5*max(a-10, 0), "10 A + 50 % of the rest"
		case job.Cooker:
			counted, how = min(a, 10)+0.3*max(a-10, 0), "10 A + 30 % of the rest"
			if l.WithSocket == job.Yes {
				counted, how = counted+5, how+" + 5 A socket"
			}
		case job.Shower, job.TanklessHW:
			if i != largestShower && i != secondShower {
				counted, how = 0.25*a, "25 %, third shower"
			}
		case job.Sockets:
			if i != largestSocket {
				counted, how = 0.4*a, "40 %, not the largest"
			}
		}
		r.Lines = append(r.Lines, Item{name(l), a, how, counted})
		r.Without += quantity.Ampere(counted)
	}
	r.Total = r.Without
	for _, p := range points {
		r.Lines = append(r.Lines, Item{"charging point", float64(p), "100 %, no diversity", float64(p)})
		r.Total += p
	}
	if len(loads) == 0 {
		r.Missing = append(r.Missing, "appliances on the supply")
	}
	return r
}

// largestTwo returns the indices of the two largest loads of the kind (for
// showers, instantaneous water heaters too); −1 where there is none.
func largestTwo(loads []job.Load, kind job.LoadKind, v quantity.Volt) (first, second int) {
	first, second = -1, -1
	for i, l := range loads {
		if l.Kind != kind && (kind != job.Shower || l.Kind != job.TanklessHW) {
			continue
		}
		switch a := amps(l, v); {
		case first < 0 || a > amps(loads[first], v):
			first, second = i, first
		case second < 0 || a > amps(loads[second], v):
			second = i
		}
	}
	return first, second
}

// MinimumEV is the least load of one charging point in a service calculation,
// VA (NEC 2023, 220.57); the nameplate where that is larger.
const MinimumEV = 7200

// SquareFeet converts m² to ft².
func SquareFeet(m2 float64) float64 { return m2 / (0.3048 * 0.3048) }

// Existing returns the demand of an existing dwelling by NEC 220.83(A), no
// heating or cooling being added: the first 8 kVA at 100 % and the rest at
// 40 %, at 240 V. The charging points are counted at 100 % beside the sum, or
// inside the 40 % part where inBucket is set; both are in use and the result
// says which. From memory.
func Existing(d job.Dwelling, loads []job.Load, points []quantity.Ampere, inBucket bool) Result {
	const v = 240
	r := Result{Method: "220.83", Clause: "220.83(A)", Unit: "VA"}
	sum, heat, _, cool := r.general(d, loads, v)
	if larger := max(heat, cool); larger > 0 {
		r.Lines = append(r.Lines, Item{"larger of heating and cooling", larger, "existing, inside the sum", larger})
		sum += larger
	}
	counted := func(s float64) float64 { return min(s, 8000) + 0.4*max(s-8000, 0) }
	without := counted(sum)
	r.Lines = append(r.Lines, Item{"first 8 kVA at 100 %, rest at 40 %", sum, "220.83(A)", without})
	r.Without = quantity.Ampere(without / v)
	r.Total = quantity.Ampere(r.addPoints(points, inBucket, sum, without, counted) / v)
	return r
}

// largeService is the least rating of a service to which 220.82 applies, A.
const largeService = 100

// Optional returns the demand of a dwelling by NEC 220.82, at 240 V: 100 % of
// the first 10 kVA and 40 % of the rest of the general load, plus the larger of
// heating and cooling by its own percentage. Electric room heaters are counted
// as separately controlled units, one for each load: 65 % of fewer than four,
// 40 % of four or more. It applies to services of 100 A or more. From memory.
func Optional(d job.Dwelling, loads []job.Load, rating quantity.Ampere, points []quantity.Ampere, inBucket bool) Result {
	const v = 240
	r := Result{Method: "220.82", Clause: "220.82", Unit: "VA"}
	if rating > 0 && rating < largeService {
		r.Missing = append(r.Missing, "a service of 100 A or more: 220.82 does not apply to a smaller one")
	}
	sum, heat, units, cool := r.general(d, loads, v)
	counted := func(s float64) float64 { return min(s, 10000) + 0.4*max(s-10000, 0) }
	total := counted(sum)
	r.Lines = append(r.Lines, Item{"first 10 kVA at 100 %, rest at 40 %", sum, "220.82(B)", total})
	share, how := 0.65, "65 %, fewer than four units"
	if units >= 4 {
		share, how = 0.40, "40 %, four or more units"
	}
	switch heating := share * heat; {
	case heating > cool:
		r.Lines = append(r.Lines, Item{"heating", heat, how + ", 220.82(C)", heating})
		total += heating
	case cool > 0:
		r.Lines = append(r.Lines, Item{"cooling or heat pump", cool, "100 %, 220.82(C)", cool})
		total += cool
	}
	r.Without = quantity.Ampere(total / v)
	r.Total = quantity.Ampere(r.addPoints(points, inBucket, sum, total, counted) / v)
	return r
}

// general adds the general load of 220.82(B) and 220.83 to the result's lines:
// lighting and receptacles, small-appliance and laundry circuits, fastened
// appliances. Heating and cooling are returned apart.
func (r *Result) general(d job.Dwelling, loads []job.Load, v quantity.Volt) (sum, heat float64, units int, cool float64) {
	add := func(n string, va float64, how string) {
		r.Lines = append(r.Lines, Item{n, va, how, va})
		sum += va
	}
	if d.FloorArea > 0 {
		add("general lighting and receptacles", 3*SquareFeet(d.FloorArea), "3 VA/ft²")
	} else {
		r.Missing = append(r.Missing, "floor area")
	}
	add("small-appliance circuits", 1500*float64(max(d.KitchenCct, 2)), "1500 VA each, at least two")
	add("laundry circuit", 1500*float64(max(d.LaundryCct, 1)), "1500 VA each")
	for _, l := range loads {
		va := power(l, v)
		if va <= 0 {
			r.Missing = append(r.Missing, "rating of "+name(l))
			continue
		}
		switch l.Kind {
		case job.Heating, job.StorageHeat:
			heat += va
			units++
		case job.Cooling, job.HeatPump:
			cool += va
		case job.Lighting, job.Sockets: // inside the 3 VA/ft²
		default:
			add(name(l), va, "nameplate")
		}
	}
	if len(loads) == 0 {
		r.Missing = append(r.Missing, "fastened appliances")
	}
	return sum, heat, units, cool
}

// addPoints adds the charging points to a sum whose general part is counted by
// a function: at 100 % beside it, or inside the 40 % part. It returns the new
// total, VA.
func (r *Result) addPoints(points []quantity.Ampere, inBucket bool, sum, total float64, counted func(float64) float64) float64 {
	const v = 240
	for _, p := range points {
		va := max(MinimumEV, float64(p)*v)
		if inBucket {
			more := counted(sum+va) - counted(sum)
			sum += va
			r.Lines = append(r.Lines, Item{"charging point", va, "inside the 40 % part", more})
			total += more
			continue
		}
		r.Lines = append(r.Lines, Item{"charging point", va, "100 %, larger of 7200 VA and nameplate", va})
		total += va
	}
	return total
}

// Measured returns the demand by NEC 220.87: 125 % of the highest 15-minute
// demand of a year, or of a 30-day record, plus the charging points at 100 %.
// A 30-day record is not allowed where there is solar or another peak-shaving
// source. From memory.
func Measured(peak quantity.Ampere, days int, otherSource job.Answer, points []quantity.Ampere) Result {
	r := Result{Method: "220.87", Clause: "220.87", Unit: "A"}
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
	r.Lines = append(r.Lines, Item{"highest 15-minute demand", float64(peak), "125 %", float64(r.Without)})
	r.Total = r.Without
	for _, p := range points {
		counted := max(p, quantity.Ampere(MinimumEV/240.0))
		r.Lines = append(r.Lines, Item{"charging point", float64(p), "100 %, at least 7200 VA", float64(counted)})
		r.Total += counted
	}
	return r
}

// MeasuredUK returns a UK demand from a measured peak, which is allowed beside
// diversity because the diversity sum easily overstates a dwelling: the peak
// itself plus the points at 100 %. Common practice, no source.
func MeasuredUK(peak quantity.Ampere, days int, points []quantity.Ampere) Result {
	r := Result{Method: "measured", Clause: "311.1", Unit: "A", Without: peak, Total: peak}
	switch {
	case peak <= 0:
		r.Missing = append(r.Missing, "highest measured demand")
	case days <= 0:
		r.Missing = append(r.Missing, "length of the record behind the measured demand")
	}
	r.Lines = append(r.Lines, Item{"highest measured demand", float64(peak), "as measured", float64(peak)})
	for _, p := range points {
		r.Lines = append(r.Lines, Item{"charging point", float64(p), "100 %, no diversity", float64(p)})
		r.Total += p
	}
	return r
}
