package uk

import (
	"dogbolt/core/job"
	"dogbolt/core/rulebook"
)

type set = map[string]any

// residual returns the values of a residual current device.
func residual(kind string, poles string, detection string) set {
	v := set{"rcd.fitted": "yes", "rcd.type": kind, "rcd.tripMa": 30.0, "rcd.allPoles": poles, "rcd.delayed": "no"}
	if detection != "" {
		v["charger.dcDetection"] = detection
	}
	return v
}

// onPME reports whether the point stands outdoors on a PME supply.
func onPME(j *job.Job, p job.Point) bool {
	return j.Survey.Supply.System == job.TNCS && p.Place.Outdoors != job.No
}

// decisions are the arrangements of a British point.
var decisions = []rulebook.Decision{
	{ID: "connection", Title: "Connection", Rules: []string{"connection"}, Answers: []rulebook.Answer{
		{Title: "hard-wired charging point", Set: set{"connection": "hard-wired"}},
		{Title: "industrial socket-outlet, unit plugged in", Set: set{"connection": "receptacle"}},
	}},
	{ID: "residual", Title: "Residual current device", Rules: []string{"rcd", "rcd-trip", "rcd-type", "rcd-poles", "rcd-upstream"}, Answers: []rulebook.Answer{
		{Title: "type A, all live poles, 6 mA d.c. detection in the charger", Set: residual("A", "yes", "yes")},
		{Title: "type F, all live poles, 6 mA d.c. detection in the charger", Set: residual("F", "yes", "yes")},
		{Title: "type B, all live poles", Set: residual("B", "yes", "")},
		{Title: "type A with a solid neutral", Set: residual("A", "no", "yes")},
		{Title: "type A, no d.c. detection", Set: residual("A", "yes", "no")},
		{Title: "type AC", Set: residual("AC", "yes", "yes")},
	}},
	{ID: "open-pen", Title: "A broken neutral on the PME supply", Rules: []string{"open-pen", "tt"}, Asked: onPME, Answers: []rulebook.Answer{
		{Title: "(iv) device by line-neutral voltage", Set: set{"earthing.openPen": "device-voltage"}},
		{Title: "(iii) device by voltage to Earth", Set: set{"earthing.openPen": "device-touch"}},
		{Title: "(v) device declared no less effective", Set: set{"earthing.openPen": "device-other"}},
		{Title: "(i) three-phase loads in balance", Set: set{"earthing.openPen": "imbalance"}},
		{Title: "(ii) electrode that holds 70 V", Set: set{"earthing.openPen": "electrode"}},
		{Title: "point made TT, apart from PME metalwork", Set: set{"earthing.openPen": "tt"}},
		{Title: "device that leaves the protective conductor", Set: set{"earthing.openPen": "device-live-only"}},
		{Title: "nothing", Set: set{"earthing.openPen": "none"}},
	}},
	{ID: "fault", Title: "Fault protection", Rules: []string{"zs-design"}, Answers: []rulebook.Answer{
		{Title: "by the overcurrent device", Set: set{"faultByRcd": "no"}},
		{Title: "by the residual device (411.4.204)", Set: set{"faultByRcd": "yes"}},
	}},
	{ID: "spd", Title: "Surge protection", Rules: []string{"spd"}, Answers: []rulebook.Answer{
		{Title: "fitted with this work", Set: set{"spd": "fitted"}},
		{Title: "already present", Set: set{"spd": "present"}},
		{Title: "declined by the owner, in writing", Set: set{"spd": "declined"}},
	}},
	{ID: "isolator", Title: "Isolation", Rules: []string{"isolation-device"}, Answers: []rulebook.Answer{
		{Title: "local isolator at the point", Set: set{"isolator": "yes"}},
		{Title: "at the board", Set: set{"isolator": "no"}},
	}},
	rulebook.Sharing,
}

// checkConnection: a fixed charging point, or an industrial socket-outlet of
// BS EN 60309 (722.55.101, from memory), which has no functions of its own.
func checkConnection(s *rulebook.Subject) rulebook.Finding {
	switch s.Point.Circuit.Connection {
	case "":
		return rulebook.Missing("hard-wired, or an industrial socket-outlet")
	case job.PluggedIn:
		return rulebook.Advise("an industrial socket-outlet has no smart functions and needs every protection of a charging point",
			"fit a charging point, or record why not; many firms refuse it")
	}
	return rulebook.Meets("hard-wired charging point")
}
