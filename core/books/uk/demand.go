package uk

import (
	"dogbolt/core/demand"
	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// Demand returns the service demand per phase: the measured peak where a
// measurement is given and chosen, the diversity sum otherwise. Points are
// counted at their setting, without diversity.
func Demand(j *job.Job) demand.Result {
	points := j.EVLoads()
	if peak, days := j.Survey.Supply.Peak(); j.Design.DemandMethod == job.ByMeasuredDemand || j.Design.DemandMethod == "" && peak > 0 {
		return Measured(peak, days, points)
	}
	return Diversity(j.Survey.Loads, points)
}

// Diversity returns the demand of one dwelling by the On-Site Guide, appendix
// A, in A at 230 V single phase, with the charging points at 100 % and no
// diversity (722.311.201). From memory.
func Diversity(loads []job.Load, points []quantity.Ampere) demand.Result {
	r := demand.Result{Method: "diversity", Clause: "OSG appendix A", Unit: "A"}
	const v = 230
	largestShower, secondShower := largestTwo(loads, job.Shower, v)
	largestSocket, _ := largestTwo(loads, job.Sockets, v)
	var heating, cooking float64
	socket := false
	for i, l := range loads {
		a := demand.Amps(l, v)
		if a <= 0 {
			r.Missing = append(r.Missing, "rating of "+demand.Name(l))
			continue
		}
		counted, how := a, "100 %"
		switch l.Kind {
		case job.Lighting:
			counted, how = 0.66*a, "66 %"
		case job.Heating:
			before := heating
			heating += a
			counted, how = beyondTen(heating, 0.5)-beyondTen(before, 0.5), "10 A + 50 % of the rest of all heating"
		case job.Cooker:
			before := cooking
			cooking += a
			counted, how = beyondTen(cooking, 0.3)-beyondTen(before, 0.3), "10 A + 30 % of the rest of all cooking"
			if l.WithSocket != job.No && !socket {
				socket = true
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
		r.Add(demand.Name(l), a, how, counted)
		r.Without += quantity.Ampere(counted)
	}
	r.Total = r.Without
	for _, p := range points {
		r.Add("charging point", float64(p), "100 %, no diversity", float64(p))
		r.Total += p
	}
	if len(loads) == 0 {
		r.Missing = append(r.Missing, "appliances on the supply")
	}
	return r
}

// beyondTen counts the first 10 A in full and a share of the rest, A.
func beyondTen(a, share float64) float64 { return min(a, 10) + share*max(a-10, 0) }

// largestTwo returns the indices of the two largest loads of the kind (for
// showers, instantaneous water heaters too); −1 where there is none.
func largestTwo(loads []job.Load, kind job.LoadKind, v quantity.Volt) (first, second int) {
	first, second = -1, -1
	for i, l := range loads {
		if l.Kind != kind && (kind != job.Shower || l.Kind != job.TanklessHW) {
			continue
		}
		switch a := demand.Amps(l, v); {
		case first < 0 || a > demand.Amps(loads[first], v):
			first, second = i, first
		case second < 0 || a > demand.Amps(loads[second], v):
			second = i
		}
	}
	return first, second
}

// leastDays is the shortest record of a demand that is called measured, days: a week
// has every day's habits. It has to be one of the heating season. Common practice, no
// source.
const leastDays = 7

// Measured returns the demand from a measured peak, which is allowed beside
// diversity because the diversity sum easily overstates a dwelling: the peak
// itself plus the points at 100 %. Common practice, no source.
func Measured(peak quantity.Ampere, days int, points []quantity.Ampere) demand.Result {
	r := demand.Result{Method: "measured", Clause: "311.1", Unit: "A", Without: peak, Total: peak}
	switch {
	case peak <= 0:
		r.Missing = append(r.Missing, "highest measured demand")
	case days <= 0:
		r.Missing = append(r.Missing, "length of the record behind the measured demand")
	case days < leastDays:
		r.Missing = append(r.Missing, quantity.Say("a longer record: {} days tell little, at least {} in the heating season", float64(days), leastDays))
	}
	r.Add("highest measured demand", float64(peak), "as measured", float64(peak))
	for _, p := range points {
		r.Add("charging point", float64(p), "100 %, no diversity", float64(p))
		r.Total += p
	}
	return r
}
