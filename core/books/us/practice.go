package us

import (
	_ "embed" // the made-up circuit

	"dogbolt/core/practice"
)

//go:embed practice.json
var practiceJob []byte

// exercises are the practice cases.
var exercises = practice.Set{
	Country: country, Circuit: practiceJob, Tests: &sequence, DeadFirst: "OSHA 1910.333",
	Faults: []string{"none", "loose-neutral", "reversed-polarity", "slow-rcd", "damp-insulation", "open-pe", "long-route", "swapped-sensor"},
	Cases: []practice.Case{
		{ID: "us-1", Title: "Garage wall", Story: "EMT from the panel to the unit, pulled yesterday in the rain.", Fault: "damp-insulation"},
		{ID: "us-2", Title: "Half a house is bright", Story: "The owner has lost two light bulbs this week.", Fault: "loose-neutral"},
		{ID: "us-3", Title: "Pulled in a hurry", Story: "Three wires, one color of tape left.", Fault: "reversed-polarity"},
		{ID: "us-4", Title: "A long way round", Story: "The raceway goes where the joists allowed it.", Fault: "long-route"},
		{ID: "us-5", Title: "The unit from the shelf", Story: "It had been opened before.", Fault: "slow-rcd"},
		{ID: "us-6", Title: "A tidy job", Story: "Nothing to complain of. Is there?", Fault: "none"},
		{ID: "us-7", Title: "Sensors on the mains", Story: "The dryer runs in the evening, and so does the car.", Fault: "swapped-sensor"},
		{ID: "us-8", Title: "Somebody was here", Story: "A ground wire looks cut short at the box.", Fault: "open-pe"},
	},
}
