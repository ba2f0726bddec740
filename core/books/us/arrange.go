package us

import (
	"dogbolt/core/job"
	"dogbolt/core/rulebook"
)

type set = map[string]any

// outlet returns the values of a plug-in charger on a receptacle.
func outlet(amps float64, neutral string) set {
	return set{"connection": "receptacle", "receptacle.rating": amps, "receptacle.neutral": neutral, "receptacle.gfci": "yes"}
}

// decisions are the arrangements of an American point.
var decisions = []rulebook.Decision{
	{ID: "connection", Title: "Connection", Rules: []string{"receptacle", "receptacle-gfci", "neutral", "box-fill"}, Answers: []rulebook.Answer{
		{Title: "hard-wired", Set: set{"connection": "hard-wired"}},
		{Title: "50 A receptacle, four-wire with neutral", Set: outlet(50, "yes")},
		{Title: "50 A receptacle, three-wire without neutral", Set: outlet(50, "no")},
		{Title: "30 A receptacle, three-wire without neutral", Set: outlet(30, "no")},
	}},
	{ID: "gfci", Title: "Ground-fault protection of the outlet", Rules: []string{"receptacle-gfci"},
		Asked: func(_ *job.Job, p job.Point) bool { return p.Circuit.Connection == job.PluggedIn }, Answers: []rulebook.Answer{
			{Title: "ground-fault breaker", Set: set{"receptacle.gfci": "yes"}},
			{Title: "none", Set: set{"receptacle.gfci": "no"}},
		}},
	{ID: "disconnect", Title: "Disconnect", Rules: []string{"disconnect"}, Answers: []rulebook.Answer{
		{Title: "at the charger, lockable open", Set: set{"disconnect": "yes"}},
		{Title: "none but the breaker", Set: set{"disconnect": "no"}},
	}},
	{ID: "spd", Title: "Surge protection", Rules: []string{"spd"}, Answers: []rulebook.Answer{
		{Title: "fitted with this work", Set: set{"spd": "fitted"}},
		{Title: "already present", Set: set{"spd": "present"}},
		{Title: "declined by the owner", Set: set{"spd": "declined"}},
	}},
	rulebook.Sharing,
}

// checkSPD: 230.67 asks for surge protection where a dwelling's service is new
// or replaced, which a charger's circuit is not: advice (from memory).
func checkSPD(s *rulebook.Subject) rulebook.Finding {
	switch spd := s.Point.Circuit.SPD; {
	case spd.There():
		return rulebook.Meets("surge protection " + string(spd))
	case spd == job.SPDDeclined:
		return rulebook.Advise("declined; required where the service is new or replaced", "ask whether the service is part of the work")
	}
	return rulebook.Finding{}
}
