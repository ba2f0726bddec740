package us

import (
	"strings"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/rulebook"
)

// renew plans another panel where the old one has no room.
var renew = rulebook.Answer{Title: "Replace the panel", Set: set{"/beside.fitted": "yes", "/beside.instead": "yes"}}

// roomier offers another panel where one has no room.
func roomier(f rulebook.Finding) rulebook.Finding {
	if f.Verdict == rulebook.Stop {
		return f.Offering(renew)
	}
	return f
}

// checkRenewed judges a panel in place of the one that was found: its enclosure, its bus by the whole demand (as a link), its grounding,
// and at a service surge protection and the emergency disconnect of a dwelling. Space in front and height of handles have rules of
// their own. Clauses from memory.
func checkRenewed(s *rulebook.Subject) rulebook.Finding {
	d, atService := &s.Job.Design.Beside, s.Job.Survey.Board.FedFrom == job.FromService
	if !d.Renews() {
		return rulebook.Finding{}
	}
	british := job.Beside{IP: d.IP, ConditionalKA: d.ConditionalKA, Tails: d.Tails, Length: d.Length, Earth: d.Earth, Made: d.Made, Ahead: d.Ahead,
		AheadRating: d.AheadRating, Protected: d.Protected, Tried: d.Tried}
	if british != (job.Beside{}) {
		return rulebook.Missing("what is asked of a board in Britain is for: " +
			"IP code, conditional rating, tails, earth, enclosure, residual devices or tests before are entered")
	}
	if f := s.NewBoard(); f.Verdict != rulebook.Sound {
		return f
	}
	switch {
	case d.Terminals == 0:
		return rulebook.Missing("temperature that the new panel's terminals are marked for")
	case d.Outdoors == job.Yes && d.Case == "":
		return rulebook.Missing("type of the new panel's enclosure, as 3R")
	case d.Outdoors == job.No && d.Case != "":
		return rulebook.Missing("whether the new panel is outdoors: the type of its enclosure is entered")
	case d.Outdoors == job.Yes && !d.Case.Outdoors():
		return rulebook.Fails("panel of type "+string(d.Case)+" outdoors", "an enclosure for outdoors: 3R, 4X (110.28)")
	case !atService && (d.Surge != "" || d.Outside != ""):
		return rulebook.Missing("whether the old panel is the service's: surge protection or a disconnect outdoors is entered")
	case atService && d.Surge == job.Unasked:
		return rulebook.Missing("whether the service has surge protection")
	case atService && d.Outside == job.Unasked:
		return rulebook.Missing("whether the dwelling has a disconnect outdoors for emergencies")
	}
	grounded := rulebook.Question{Answer: d.Grounded, Missing: "whether the neutral is apart from the ground in the new panel",
		Fails:  "neutral and ground joined in a panel on a feeder",
		Remedy: "leave the bonding screw or strap out, the neutral on its own bar (250.24(A)(5), 250.32(B)(1))"}
	says := "on the feeder that is there, neutral apart from the ground"
	if atService {
		grounded = rulebook.Question{Answer: d.Grounded, Missing: "whether the main bonding jumper and the electrodes are connected at the new panel",
			Fails:  "a service without its main bonding jumper or electrodes",
			Remedy: "the jumper in, the conductor of every electrode that is there connected (250.24(B), 250.28, 250.50)"}
		says = "main bonding jumper and electrodes connected"
	}
	if f, ok := rulebook.Answered(grounded); !ok {
		return f
	}
	says = quantity.Say("in place of the old panel, {} spaces of its circuits moved over: ", float64(d.Taken)) +
		quantity.Say("{} A, breakers interrupt {} kA; ", float64(d.Rating), d.BreakingKA) + says
	var advice []string
	if d.Surge == job.No {
		advice = append(advice, "a dwelling's service that is replaced has surge protection (230.67)")
	}
	if d.Outside == job.No {
		advice = append(advice, "a one- or two-family dwelling's service that is replaced has a disconnect outdoors for emergencies (230.85)")
	}
	if d.Opens == job.OpensOperator {
		advice = append(advice, "the utility opens the service and closes it after the inspection: agree on both before the day")
	}
	if len(advice) > 0 {
		return rulebook.Advise(says, strings.Join(advice, "; "))
	}
	return rulebook.Meets(says)
}
