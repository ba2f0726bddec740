package uk

import (
	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/worklog"
)

// What cautions come from.
const (
	dig    = "HSE HSG47"
	ladder = "HSE INDG455; from memory"
)

// work is what installing consists of.
var work = worklog.Practice{
	Words: worklog.Words{Earth: "earth", Board: "consumer unit", Short: "board", Tails: "tails", Feeder: "sub-main",
		Withdrawn:     "The fuse withdrawn by the network operator, or by whom it lets; its seals are its own. ",
		Back:          "The fuse first, put back and sealed by whoever drew it",
		EndDetail:     "Earth first, armour by its gland and link, neutral on its own bar, lines into the main switch;",
		IsolatorTitle: "Isolator fitted at the point", IsolatorReplaced: "Isolator at the point replaced", IsolatorDetail: "All live poles, lockable, marked for what it isolates."},
	Clauses: worklog.Clauses{
		Isolate: "BS 7671 462.2; EAWR 13, 14",
		Dead:    "HSE HSG85, GS38; EAWR 13",
		Second:  "BS 7671 712.537.2, 551.7; from memory",
		Dig:     dig,
		Joint:   "526.1, 526.3",
		Bond:    "BS 7671 544.1.2, 514.13.1; from memory",
		Rejoin:  "BS 7671 542.4.2, 643.7.3; GN3",
		Certify: "BS 7671 643, 644; GN3",
	},
	Length: quantity.InMetres, Depth: quantity.InMillimetres,
	Parts: []worklog.Part{
		worklog.Each(worklog.Released), worklog.BeginDead,
		worklog.Each(worklog.BackPlates), worklog.Each(worklog.Drilling), worklog.Each(worklog.MakeWays), worklog.Each(worklog.Electrodes),
		worklog.Each(worklog.Cables), worklog.Each(worklog.Isolators), worklog.Beside, worklog.Surge, worklog.Bonds, worklog.Ahead, worklog.MoveCircuits,
		worklog.Each(worklog.WorkOnBoard), worklog.Each(worklog.FitSensors),
		worklog.Each(worklog.Ends), worklog.Each(worklog.Outlets), worklog.Each(worklog.TakenDown), worklog.Each(worklog.MadeSafe),
		worklog.Each(worklog.Mended, worklog.Chargers),
		worklog.Joining, worklog.Each(worklog.Moved, worklog.MakeSettings), worklog.Each(worklog.TestDead),
		worklog.JoinEarth, worklog.EndLive,
	},
	Ways: worklog.UsualWays(ladder, dig),
	Dead: worklog.DeadPairs{
		One:    []string{"L-N", "L-E", "N-E"},
		Three:  []string{"L1-L2", "L2-L3", "L1-L3", "L1-N", "L2-N", "L3-N", "L1-E", "L2-E", "L3-E", "N-E"},
		Second: []string{"second L-N", "second L-E", "second N-E"},
		Tails:  "tails",
	},
	Conductors: func(c *job.Circuit) []worklog.Conductor {
		if c.Charger.Phases == 3 {
			return threePhase
		}
		return onePhase
	},
}

// The conductors of a circuit at its terminals.
var (
	onePhase   = []worklog.Conductor{{ID: "line", Name: "line", Line: true}, {ID: "neutral", Name: "neutral"}, {ID: "earth", Name: "earth"}}
	threePhase = []worklog.Conductor{
		{ID: "l1", Name: "L1", Line: true}, {ID: "l2", Name: "L2", Line: true}, {ID: "l3", Name: "L3", Line: true},
		{ID: "neutral", Name: "neutral"}, {ID: "earth", Name: "earth"},
	}
)
