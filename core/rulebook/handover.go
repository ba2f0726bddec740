package rulebook

import (
	"slices"

	"dogbolt/core/job"
)

// The checks of signatures and handover that every rulebook shares.

func signed(role string) func(*Subject) Finding {
	return func(s *Subject) Finding {
		if role == "testing" && !tested(s.Job) {
			return Finding{}
		}
		e, ok := s.Job.Latest(job.SignedOff, "", role)
		if !ok {
			return Missing("signature for " + role)
		}
		switch {
		case role == "design" && !s.Designed.SignsDesign(&e):
			return Missing("a new signature: the design was changed after " + e.By + " signed it")
		case role == "construction" && !s.Designed.SignsConstruction(&e):
			return Missing("a new signature: what was built, set or tightened was changed after " + e.By + " signed it")
		case role == "testing" && !s.Job.SignsTesting(&e):
			return Missing("a new signature: what was read or inspected was changed after " + e.By + " signed it")
		}
		return Meets("signed by " + e.By) // when, by the clock of the site, stands with the signature
	}
}

// tested reports whether a job has anything to test: where all chargers are taken away only what stays on its breaker.
func tested(j *job.Job) bool {
	return !j.Removes() || slices.ContainsFunc(j.Design.Circuits, func(c job.Circuit) bool { return c.StaysConnected() })
}

func checkScheduler(s *Subject) Finding {
	e, ok := s.Job.Latest(job.SettingMade, s.Point.ID, job.Scheduler)
	if !ok {
		return Missing("which one schedules, car or charger: both together fight")
	}
	if e.Value != "car" && e.Value != "charger" {
		return Missing("car or charger")
	}
	return Meets("the " + e.Value + " schedules")
}
