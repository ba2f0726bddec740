package rulebook

import (
	"strconv"
	"strings"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// The checks below are the same in every country; each rulebook lists them
// under its own clause.

// CheckLoads reports whether the demand method has all that it needs.
func CheckLoads(s *Subject) Finding {
	if len(s.Demand.Missing) > 0 {
		return Missing(strings.Join(s.Demand.Missing, "; "))
	}
	return Meets(quantity.Say("{1} A before the charging point, by ", float64(s.Demand.Without)) + s.Demand.Clause)
}

// CheckVehicles asks for each vehicle's on-board charger and inlet corner.
func CheckVehicles(s *Subject) Finding {
	if len(s.Job.Survey.Vehicles) == 0 {
		return Missing("vehicle to be charged")
	}
	for _, v := range s.Job.Survey.Vehicles {
		switch {
		case v.OnBoard == 0:
			return Missing("on-board charger of " + v.Name)
		case v.Inlet == "":
			return Missing("which corner the inlet is on: " + v.Name)
		}
	}
	return Meets(strconv.Itoa(len(s.Job.Survey.Vehicles)) + " known")
}

// Question is one that a rule asks of the site: what is missing while nobody has answered
// it, and what no means.
type Question struct {
	Answer                 job.Answer
	Missing, Fails, Remedy string
}

// Answered judges questions that all have to be answered with yes; ok is false where one
// is not, and then the finding says which. What nobody has answered comes first.
func Answered(questions ...Question) (f Finding, ok bool) {
	for _, q := range questions {
		if q.Answer == job.Unasked {
			return Missing(q.Missing), false
		}
	}
	for _, q := range questions {
		if q.Answer == job.No {
			return Fails(q.Fails, q.Remedy), false
		}
	}
	return Finding{}, true
}

// Conditions says what of the conditions along a route is not known, "" where all is: a
// temperature that was left out is not the table's own, and nobody running beside it was
// not looked for. together names the count, of a segment.
func (s *Subject) Conditions(together func(*job.Segment) int, name string) string {
	for i := range s.Point.Place.Route {
		g := &s.Point.Place.Route[i]
		switch {
		case g.Ambient == nil:
			return "hottest expected temperature along segment " + strconv.Itoa(s.Point.Place.First+i+1)
		case together(g) == 0:
			return name + " in segment " + strconv.Itoa(s.Point.Place.First+i+1)
		}
	}
	return ""
}

// CheckOwnCircuit judges that the circuit feeds its point alone.
func CheckOwnCircuit(s *Subject) Finding {
	switch s.Point.Circuit.Dedicated {
	case job.Yes:
		return Meets("the circuit feeds this point and nothing else")
	case job.No:
		if s.Point.Circuit.Shares && s.Book.In.SharedCircuit != "" {
			return Advise("one circuit feeds several points under a shared limit", s.Book.In.SharedCircuit)
		}
		return Fails("the circuit feeds other things too", "run a circuit of its own from the board")
	}
	return Missing("whether the circuit is the point's own")
}

// LeastCharge is the least current that a control pilot can offer, A (IEC
// 61851-1 annex A, SAE J1772).
const LeastCharge = 6

// CheckSettingCharger judges 6 A ≤ setting ≤ the charger's rating.
func CheckSettingCharger(s *Subject) Finding {
	c := &s.Point.Circuit
	switch {
	case c.Setting == 0:
		return Missing("charger setting")
	case c.Charger.Rating == 0:
		return Missing("charger rating")
	case c.Setting < LeastCharge:
		return Fails(quantity.Say("{} A is below the 6 A that a vehicle needs", float64(c.Setting)), "set at least 6 A")
	}
	return AtMost(float64(c.Setting), float64(c.Charger.Rating), "A",
		quantity.Say("{} A set, charger rated {} A", float64(c.Setting), float64(c.Charger.Rating)), "lower the setting").Exactly()
}

// CheckDemand judges the demand with charging against the service's rating.
// counted is added to the working; remedy says what to do.
func CheckDemand(s *Subject, service, counted, remedy string) Finding {
	rating := float64(s.Job.Survey.Supply.Rating)
	switch {
	case rating == 0:
		return Missing("rating of the " + service)
	case len(s.Demand.Missing) > 0:
		return Missing(strings.Join(s.Demand.Missing, "; "))
	case !s.AllSet():
		return Missing(s.Job.Unset())
	}
	total, without := float64(s.Demand.Total), float64(s.Demand.Without)
	limit, all := s.managed()
	switch most := rating * s.Book.In.ManagedShare; {
	case !all || total <= rating:
		// What needs no management is not made worse by one.
	case without > rating:
		return AtMost(without, rating, "A", quantity.Say("{1} A by ", without)+s.Demand.Clause+" without charging; "+service+quantity.Say(" {} A", rating),
			"a larger service: no management of the charger helps the house")
	case limit > most:
		return AtMost(limit, most, "A", s.managedText(service, limit, most), "a lower limit of the load management")
	case without > limit:
		return Advise(s.managedText(service, limit, most),
			quantity.Say("the limit is below the house's own {1} A: while that lasts nothing is charged", without))
	default:
		f := AtMost(limit, most, "A", s.managedText(service, limit, most), "a lower limit of the load management")
		return f.Exactly()
	}
	return AtMost(total, rating, "A",
		quantity.Say("{1} A by ", without)+s.Demand.Clause+quantity.Say(" + {1} A ", total-without)+s.drawn()+counted+
			quantity.Say(" = {1} A; ", total)+service+quantity.Say(" {} A", rating), remedy)
}

// drawn is what the job adds to a demand, in words.
func (s *Subject) drawn() string {
	if s.Job.Lays() {
		return "over the sub-main"
	}
	return "charging"
}

// with is what a job adds to a demand, after “with”.
func with(j *job.Job) string {
	if j.Lays() {
		return "what is drawn over the sub-main"
	}
	return "charging"
}

func (s *Subject) managedText(service string, limit, most float64) string {
	return quantity.Say("{1} A by ", float64(s.Demand.Without)) + s.Demand.Clause +
		quantity.Say("; load management keeps the supply to {} A, at most {} A of the ", limit, most) +
		service + quantity.Say(" {} A", float64(s.Job.Survey.Supply.Rating))
}

// managed returns the limit that load management keeps the supply to, and
// whether every charging point keeps to it.
func (s *Subject) managed() (limit float64, all bool) { return managed(s.Job) }

func managed(j *job.Job) (limit float64, all bool) {
	for _, c := range j.Design.Circuits {
		if c.ManagedTo == 0 && c.Charges() {
			return 0, false
		}
		limit = max(limit, float64(c.ManagedTo))
	}
	return limit, limit > 0
}

// AllSet reports whether every charging point has a circuit with a setting.
func (s *Subject) AllSet() bool { return allSet(s.Job) }

func allSet(j *job.Job) bool {
	for _, c := range j.Design.Circuits {
		if c.Setting == 0 && c.Charges() {
			return false
		}
	}
	return len(j.Design.Circuits) > 0
}
