package uk

import (
	"dogbolt/core/job"
	"dogbolt/internal/testkit/ruletest"
)

// island makes the supply an inverter of 45 A that was never joined to the network, with its changes.
func island(changes ...func(p *job.Supply, c *job.Circuit)) change {
	return func(j *job.Job) {
		p, c := &j.Survey.Supply, &j.Design.Circuits[0]
		p.System, p.Rating, p.DeclaredZe, p.ElectrodeRA, p.Earthed, p.PeakDemand = job.Island, 45, 0.6, 60, job.Yes, 9
		c.FaultByRCD, c.Earthing = job.Yes, job.PointEarthing{}
		for _, f := range changes {
			f(p, c)
		}
	}
}

// islands are cases of a source of its own. 551.4.3 of BS 7671: from memory.
var islands = []row{
	{"the network is no source of its own", none, "own-source", "", ""},
	{"own source", island(), "own-source", sound, "joined to earth"},
	{"own source, its earth not asked", island(func(p *job.Supply, _ *job.Circuit) { p.Earthed = "" }), "own-source", open, "joined to earth"},
	{"own source without an earth", island(func(p *job.Supply, _ *job.Circuit) { p.Earthed = job.No }), "own-source", stop, "does not open"},
	{"own source that looks doubtful", island(func(p *job.Supply, _ *job.Circuit) { p.Condition = "doubtful" }), "own-source", stop, "look doubtful"},
	{"own source that nobody looked at", island(func(p *job.Supply, _ *job.Circuit) { p.Condition = "" }), "own-source", open, "condition"},
	{"own source is known", island(), "supply", sound, "own source, apart from the network, 1 phase, 45 A"},
	{"an American one", onSupply(func(p *job.Supply) { p.System = job.IslandSplit }), "supply", stop, "not an earthing system"},
	{"its loop and electrode", island(), "declared-ze", sound, "loop 0.60 Ω at its board, electrode 60 Ω"},
	{"its electrode not measured", island(func(p *job.Supply, _ *job.Circuit) { p.ElectrodeRA = 0 }), "declared-ze", open, "electrode"},
	{"its loop not measured", island(func(p *job.Supply, _ *job.Circuit) { p.DeclaredZe = 0 }), "declared-ze", open, "loop impedance"},
	{"an electrode of 200 Ω", island(func(p *job.Supply, _ *job.Circuit) { p.ElectrodeRA = 200 }), "declared-ze", sound, ""},
	{"an electrode of 201 Ω", island(func(p *job.Supply, _ *job.Circuit) { p.ElectrodeRA = 201 }), "declared-ze", watch, "may not be stable"},
	{"fault protection by the residual device", island(), "zs-design", sound, "50 V ÷ 30 mA"},
	{"fault protection by the breaker", island(func(_ *job.Supply, c *job.Circuit) { c.FaultByRCD = job.No }), "zs-design", stop, "551.4.3.3"},
	{"fault protection not asked", island(func(_ *job.Supply, c *job.Circuit) { c.FaultByRCD = "" }), "zs-design", open, "fault protection"},
	{"no PME", island(), "open-pen", sound, "PME only"},
	{"the operator is not told", island(), "operator-route", sound, "never joined"},
	{"within what it gives", island(), "demand", sound, "source 45 A"},
	{"more than it gives", island(func(p *job.Supply, _ *job.Circuit) { p.PeakDemand = 20 }), "demand", stop, "a larger source"},
	{"the house has a service too", both(island(), ruletest.OnSupply(func(p *job.Supply) {
		p.OtherSource, p.Second = job.Yes, job.Second{Kind: job.OtherService, Isolator: "hall cupboard"}
	})), "second-source", sound, "no part of this job"},
}
