package us

import "dogbolt/core/job"

// island makes the supply an inverter of 120 A that was never joined to the utility, with its changes.
func island(changes ...func(p *job.Supply)) change {
	return onSupply(func(p *job.Supply) {
		p.System, p.Rating, p.Earthed, p.FaultCurrent = job.IslandSplit, 120, job.Yes, 0.4
		for _, f := range changes {
			f(p)
		}
	})
}

// islands are cases of a source of its own. 250.30 and 710.15 of NEC 2023: from memory.
var islands = []row{
	{"the utility's is no source of its own", none, "own-source", "", ""},
	{"own source", island(), "own-source", sound, "joined to earth"},
	{"own source, its earth not asked", island(func(p *job.Supply) { p.Earthed = "" }), "own-source", open, "joined to earth"},
	{"own source without an earth", island(func(p *job.Supply) { p.Earthed = job.No }), "own-source", stop, "does not open"},
	{"own source is known", island(), "supply", sound, "240 V source of its own, 120 A"},
	{"a British one", onSupply(func(p *job.Supply) { p.System = job.Island }), "supply", stop, "not a system"},
	{"within what it gives", island(func(p *job.Supply) { p.Rating = 150 }), "demand", sound, ""},
	{"more than it gives", island(func(p *job.Supply) { p.Rating = 100 }), "demand", stop, ""},
	{"two spaces of a panel", island(), "spaces", sound, ""},
	{"its fault current", island(), "interrupting", sound, "0.40 kA"},
	{"its voltage", island(), "supply-voltage", sound, ""},
}
