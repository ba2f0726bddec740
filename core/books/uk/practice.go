package uk

import (
	_ "embed" // the made-up circuit

	"dogbolt/core/practice"
)

//go:embed practice.json
var practiceJob []byte

// exercises are the practice cases.
var exercises = practice.Set{
	Country: country, Circuit: practiceJob, Tests: &sequence, DeadFirst: "part 6",
	Faults: []string{
		"none",
		"loose-neutral",
		"reversed-polarity",
		"slow-rcd",
		"wrong-rcd-type",
		"damp-insulation",
		"open-pe",
		"borrowed-neutral",
		"long-route",
		"parallel-earth-path",
		"missing-dc-detection",
		"swapped-sensor",
	},
	Cases: []practice.Case{
		{
			ID:    "uk-1",
			Title: "New circuit to a drive",
			Story: "Armoured cable, new board device, the charger is on the wall. You test before it is switched on for the first time.",
			Fault: "damp-insulation",
		},
		{ID: "uk-2", Title: "Behind the garage", Story: "The cable was drawn by one crew and connected by another.", Fault: "reversed-polarity"},
		{ID: "uk-3", Title: "A device from the van", Story: "The residual device came out of another job's box.", Fault: "slow-rcd"},
		{
			ID:    "uk-4",
			Title: "The lights dim",
			Story: "The customer says that every lamp dims and flickers when the kettle is on, and the charger stops by itself.",
			Fault: "loose-neutral",
		},
		{ID: "uk-5", Title: "Round the garden", Story: "The route was changed on the day because of a flower bed.", Fault: "long-route"},
		{ID: "uk-6", Title: "An old board", Story: "The device was already there and the customer wanted it kept.", Fault: "wrong-rcd-type"},
		{ID: "uk-7", Title: "After the plasterer", Story: "Everything was made good before anybody tested.", Fault: "open-pe"},
		{ID: "uk-8", Title: "A shared way", Story: "Two circuits leave an old board through one hole. Its main switch opens the line and leaves the neutral linked.", Fault: "borrowed-neutral"},
		{ID: "uk-9", Title: "On the steel frame", Story: "The charger is bolted to the frame of a barn.", Fault: "parallel-earth-path"},
		{ID: "uk-10", Title: "A quiet job", Story: "All went as planned. Did it?", Fault: "none"},
		{ID: "uk-11", Title: "Big loads", Story: "The charger backs off for the shower, says the design.", Fault: "swapped-sensor"},
	},
}
