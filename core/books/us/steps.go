package us

import (
	"strings"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/worklog"
)

// What cautions come from.
const (
	dig    = "call 811 before digging; OSHA 1926.651; from memory"
	ladder = "OSHA 1926.1053; from memory"
)

// work is what installing consists of.
var work = worklog.Practice{
	Words: worklog.Words{Earth: "equipment ground", Board: "panel", Short: "panel", Tails: "service conductors", Feeder: "feeder",
		Withdrawn:     "Opened by the utility, at the meter or the transformer; its seals are its own. ",
		Back:          "The utility first, with its own seals",
		Renewed:       " At a service the main bonding jumper in and the electrode conductor connected; on a feeder the bonding screw or strap out.",
		EndDetail:     "Ground on the ground bar, neutral on its own bar with no bonding screw or strap, hots into the main breaker or lugs;",
		IsolatorTitle: "Disconnect fitted", IsolatorReplaced: "Disconnect replaced", IsolatorDetail: "Readily accessible, lockable open in place, a plaque where it is remote."},
	Clauses: worklog.Clauses{
		Isolate: "OSHA 1910.333(b)(2); NFPA 70E:2024 120",
		Dead:    "OSHA 1910.333(b)(2)(iv); NFPA 70E:2024 120.6",
		Second:  "NEC 690.13, 706.15; from memory",
		Dig:     dig,
		Joint:   "300.15, 110.14(D), 314.29",
	},
	Length: quantity.InFeet, Depth: quantity.InInches,
	Parts: []worklog.Part{
		worklog.Each(worklog.Released), worklog.BeginDead,
		worklog.Each(worklog.BackPlates), worklog.Each(worklog.Drilling), worklog.Each(worklog.MakeWays), worklog.Each(worklog.Electrodes),
		worklog.Each(worklog.Cables, remark), worklog.Each(worklog.Isolators), worklog.Beside, worklog.Surge, building, worklog.MoveCircuits,
		worklog.Each(worklog.WorkOnBoard), worklog.Each(worklog.FitSensors),
		worklog.Each(worklog.Ends), worklog.Each(worklog.Outlets), worklog.Each(worklog.TakenDown), worklog.Each(worklog.MadeSafe),
		worklog.Each(worklog.Mended, worklog.Chargers),
		worklog.Joining, worklog.Each(worklog.Moved, worklog.MakeSettings), worklog.Each(worklog.TestDead),
		worklog.EndLive,
	},
	Ways: ways(),
	Dead: worklog.DeadPairs{
		One:    []string{"L1-L2", "L1-N", "L2-N", "L1-G", "L2-G", "N-G"},
		Three:  []string{"L1-L2", "L2-L3", "L1-L3", "L1-N", "L2-N", "L3-N", "L1-G", "L2-G", "L3-G", "N-G"},
		Second: []string{"second L1-L2", "second L1-G", "second L2-G"},
		Tails:  "supply",
	},
	Conductors: conductors,
}

// ways are the usual ways with what articles 300.4 and 300.5 ask of them. From memory.
func ways() map[job.Method]worklog.Way {
	all := worklog.UsualWays(ladder, dig)
	all[job.StudWall] = worklog.Way{Title: "Holes in the framing made",
		Detail: "1¼ in from hole to the nearest edge of stud or joist, or a steel plate of 1/16 in over it; notches always get one. NEC 300.4(A)."}
	buried := all[job.Buried]
	buried.Detail += " Where it comes up: rigid conduit or schedule 80 from 18 in below ground to 8 ft above, a bushing at its end, NEC 300.5(D), (H). " +
		"Slack where ground settles or freezes, 300.5(J)."
	all[job.Buried] = buried
	return all
}

// What is said of a white conductor that is a hot.
const (
	remarkBoth   = "every visible end"
	remarkOneEnd = "one end"
	remarkNone   = "none"
)

// conductors are two hots and the ground, and the neutral where the charger or the
// receptacle has one, or where a feeder goes to a panel.
func conductors(c *job.Circuit) []worklog.Conductor {
	list := []worklog.Conductor{{ID: "l1", Name: "L1", Line: true}, {ID: "l2", Name: "L2", Line: true}, {ID: "ground", Name: "ground"}}
	if threeWires(c) {
		list = append(list, worklog.Conductor{ID: "neutral", Name: "neutral"})
	}
	return list
}

// building puts right what was found wrong at a building of its own that the panel stands in.
func building(b *worklog.Planner) {
	_, with := b.Job.Design.Building.Mends(b.Job.Survey.Board.Outbuilding)
	if len(with) == 0 {
		return
	}
	b.Add(worklog.Step{ID: worklog.Earthing, Title: "Put right at the building: " + strings.Join(with, ", "),
		Detail: "Disconnect suitable as service equipment, where the feeder comes in. Two rods 6 ft apart, or one of 25 Ω at most, " +
			"their conductor in one length to the ground bar. Bonding screw or strap out, neutral on its own bar.",
		Ask: "what was done, and where", Records: []worklog.Record{worklog.Name}, Inside: true, After: []string{worklog.ProveDead},
		Clause:  "225.31, 225.36, 250.32(A), (B)(1), 250.53(A)(2); from memory",
		Caution: "Locate services before a rod is driven. The feeder stays live unless it is off at its own end: prove it dead here too."})
}

// remark re-marks the white conductors that are hots, of a new circuit or of what carries an old one on.
func remark(b *worklog.Planner, p *job.Point) {
	if p.Circuit.Kept() && !p.Circuit.Extended() {
		return
	}
	b.Add(worklog.Step{ID: worklog.Remark, Point: p.ID, Title: "White re-marked where it is a hot",
		Detail: "At every visible end, in cable assemblies only. Answer “none” where no white is a hot.",
		Ask:    "where it was re-marked", Choice: []string{remarkBoth, remarkOneEnd, remarkNone}, After: []string{worklog.RunCable}, Clause: "NEC 200.7(C)"})
}
