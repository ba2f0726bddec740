package rulebook

import (
	"slices"
	"strconv"
	"strings"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// The checks of survey and design that every rulebook shares.

func checkPoints(s *Subject) Finding {
	if len(s.Job.Survey.Places) == 0 {
		return Missing("at least one charging point")
	}
	return Meets(strconv.Itoa(len(s.Job.Survey.Places)) + " surveyed")
}

// checkCustomer asks whose job it is and where: a record that does not say so is none.
func checkCustomer(s *Subject) Finding {
	p := &s.Job.Site
	var missing []string
	for _, f := range []struct{ name, value string }{{"customer's name", p.Customer}, {"street", p.Street}, {"town", p.Town}} {
		if strings.TrimSpace(f.value) == "" {
			missing = append(missing, f.name)
		}
	}
	if len(missing) > 0 {
		return Missing(strings.Join(missing, ", "))
	}
	return Meets(p.Customer + ", " + p.Street + ", " + p.Town)
}

// checkPhases holds charger, supply, breaker and cable to one number of phases.
func checkPhases(s *Subject) Finding {
	c, supply := &s.Point.Circuit, s.Job.Survey.Supply.Phases
	phases, poles := c.Charger.Phases, c.Breaker.Poles
	switch {
	case phases == 0:
		return Missing("phases of the " + c.EndSaid())
	case supply == 0:
		return Missing("phases of the supply")
	case phases > supply:
		return Fails("a "+c.EndSaid()+quantity.Say(" of {} phases on a supply of {}", float64(phases), float64(supply)),
			"a "+c.EndSaid()+" of one phase, or ask for another supply")
	case phases == 3 && (c.Cable.Loaded == 2 || c.Beyond.Cable.Loaded == 2):
		return Fails("two loaded conductors for a "+c.EndSaid()+" of three phases", "count three, and take a cable of four cores")
	case poles == 0:
		return Missing("poles of the breaker")
	}
	allowed := s.Book.In.Poles(phases)
	if !slices.Contains(allowed, poles) {
		return Fails(quantity.Say("poles of the breaker: {}, phases of the "+c.EndSaid()+": {}", float64(poles), float64(phases)),
			quantity.Say("a breaker of {} poles", float64(allowed[len(allowed)-1])))
	}
	return Meets(quantity.Say("phases of the "+c.EndSaid()+": {}, of the supply: {}; poles of the breaker: {}", float64(phases), float64(supply), float64(poles)))
}

// checkLinks holds the demand against everything that it passes on the way to the
// board: a service that is large enough is of no use behind a small main switch.
func checkLinks(s *Subject) Finding {
	b := s.Job.Board()
	switch {
	case b.Rating == 0:
		return Missing("rating of the board's main switch or busbar")
	case len(s.Demand.Missing) > 0:
		return Missing(strings.Join(s.Demand.Missing, "; "))
	case !s.AllSet():
		return Missing(s.Job.Unset())
	case b.FedFrom == job.FromSubMain && b.OtherDemand == nil:
		return Missing("demand of the board on the sub-main without charging")
	case b.FedFrom == job.FromSubMain && !slices.ContainsFunc(b.Links, func(l job.Link) bool { return l.Kind == job.FeederDevice }):
		return Missing("rating of the device that the sub-main hangs on, as a link")
	}
	total, without := float64(s.Demand.Total), float64(s.Demand.Without)
	if s.Job.Design.Beside.Small() {
		total, without = total-without, 0 // it feeds the points and nothing else
	}
	if b.FedFrom == job.FromSubMain {
		total += float64(*b.OtherDemand) - without
	} else if limit, all := s.managed(); all {
		total = min(total, max(limit, without))
	}
	least, name := float64(b.Rating), "the board's main switch or busbar"
	for _, l := range b.Links {
		switch {
		case l.Rating == 0:
			return Missing("rating of the " + strings.ReplaceAll(string(l.Kind), "-", " "))
		case float64(l.Rating) < least:
			least, name = float64(l.Rating), "the "+strings.ReplaceAll(string(l.Kind), "-", " ")
		}
	}
	says := quantity.Say("{1} A with ", total) + with(s.Job) + quantity.Say("; {} A is the least of {} links, ", least, float64(len(b.Links)+1)) + name
	return AtMost(total, least, "A", says,
		"a larger link, a lower setting, load management, or another board").Exactly()
}

// checkSharing asks how two or more points share the supply: each on its own at
// its setting, all in fixed parts of one limit, or the limit shared out among
// those that charge. A part below 6 A charges nothing.
func checkSharing(s *Subject) Finding {
	d := &s.Job.Design
	n := len(d.Circuits)
	if n < 2 {
		return Finding{}
	}
	switch {
	case d.Sharing == "":
		return Missing("separate circuits, a shared limit, or load sharing")
	case d.Sharing == job.Separate:
		return Meets("each point counts at its setting")
	case d.SharedTo == 0:
		return Missing("the limit of all points together")
	}
	part := float64(d.SharedTo)
	working := quantity.Say("{} A for whoever charges", part)
	if d.Sharing == job.SharedLimit {
		part /= float64(n)
		working = quantity.Say("{} A ÷ {} points = {1} A each", float64(d.SharedTo), float64(n), part)
	}
	return AtLeast(part, LeastCharge, "A", working+quantity.Say(", at least {} A", LeastCharge), "a larger limit, or load sharing")
}
