package us

import (
	"strings"

	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/loadmgmt"
	"dogbolt/core/planning"
	"dogbolt/core/protection"
	"dogbolt/core/quantity"
	"dogbolt/core/reach"
	"dogbolt/core/sizing"
	"dogbolt/core/supply"
)

// usGallon is the US liquid gallon of 231 in³, l.
const usGallon = 3.785411784

// country is the id of the United States.
const country = "us"

// Practice is the practice of the United States.
var Practice = jurisdiction.Register(&jurisdiction.Jurisdiction{
	ID: country, Name: "United States", Lang: "en-US", Languages: []job.Language{job.English, job.Spanish},
	Units: quantity.Units{
		Length:      quantity.InFeet,
		Height:      quantity.InInches,
		Size:        quantity.InInches,
		Spacing:     quantity.Unit{Symbol: "ft", Size: quantity.InFeet.Size, Decimals: 1},
		Section:     quantity.InSquareInch,
		Floor:       quantity.InSquareFeet,
		Temperature: quantity.InFahrenheit,
		Bar:         5,
		Torque:      quantity.InInchPounds,
	},
	Money: jurisdiction.Currency{Symbol: "$", Minor: "¢", Fuel: "$/gal", FuelScale: 1 / usGallon, Gallon: usGallon},
	Paper: jurisdiction.Letter, Zone: "America/New_York", Date: "Jan 2, 2006",

	Systems: systems,
	Demand:  Demand,
	// 625.42(A), 750.30: the limit is itself a continuous load.
	ManagedShare: 0.8,
	// 625.41: a continuous load.
	Poles: func(phases int) []int {
		if phases == 3 {
			return []int{3}
		}
		return []int{2} // 240 V or 208 V between two hots
	},
	SharedCircuit: "625.40, exception: under energy management; the management is proved at commissioning",
	SettingLimit:  func(c *job.Circuit) (float64, string) { return float64(c.Breaker.Rating) / 1.25, "breaker ÷ 1.25" },
	Overload:      jurisdiction.Overload{Breaker: protection.BreakerUL489, Service: protection.BreakerUL489},

	Asked:  asked,
	Survey: asks,
	Photos: []string{"label", "board-closed", "board-open", "meter", "position", "route", "parking"},
	// 625.50, from memory. Clearances from gas are the utility's and the gas code's.
	Reach:   reach.Limits{Low: quantity.Inches(18), LowOutside: quantity.Inches(24), Clause: "625.50", GasClause: "gas code"},
	Sizing:  sizing.Practice{Solve: sizing.SolveAWG, Devices: &sizing.AWGDevices, Drop: dropAdvice},
	Laying:  laying,
	Install: work,
	Tests:   sequence,
	Papers:  papers,
	After:   after,
	Button:  button,
	Inspect: inspections, Certificate: certificate, Package: permit, Labels: labels,
	Days: planning.Practice{Temperature: quantity.InFahrenheit, Moment: "3:04 pm on January 2", Cold: cold},
	// Dollars; usual services. Common practice, no source.
	Night: loadmgmt.Practice{
		Usual: loadmgmt.Costs{
			Sensor:  loadmgmt.Band{Low: 200, High: 500},
			Switch:  loadmgmt.Band{Low: 300, High: 700},
			Upgrade: loadmgmt.Band{Low: 2000, High: 6000},
			Wait:    loadmgmt.Band{Low: 4, High: 16},
			Point:   loadmgmt.Band{Low: 1100, High: 2000},
			Metre:   loadmgmt.Band{Low: 40, High: 110},
		},
		Services: []float64{100, 125, 150, 200, 400},
	},
	Cases: exercises,
	Drawn: jurisdiction.Drawn{Service: "service", Supply: func(p *job.Supply) string {
		name, _, _ := strings.Cut(systems.Of(p).Name, " split")
		return name
	}},
})

// systems are the nominal systems of a dwelling's service (ANSI C84.1). A circuit has
// two hots.
var systems = supply.Systems{
	{ID: job.Split240, Name: "120/240 V split phase", ToEarth: 120, Circuit: 240, Three: 240, Phases: []int{1}},
	{ID: job.Wye208, Name: "208Y/120 V", ToEarth: 120, Circuit: 208, Three: 208, Phases: []int{1, 3}},
	{ID: job.IslandSplit, Name: "own source of 120/240 V, apart from the utility", ToEarth: 120, Circuit: 240, Three: 240, Phases: []int{1}},
}

// volts is the nominal voltage of a circuit, V.
func volts(p *job.Supply, c *job.Circuit) quantity.Volt {
	return systems.Voltage(p, max(c.Charger.Phases, 1))
}

// cold is what North American sheaths and conductors bear while they are bent:
// −10 °C, 14 °F, makers' sheets, from memory. The sheet of the cable at hand prevails.
var cold = map[job.Family]planning.Cold{job.NMB: sheath, job.MC: sheath, job.ThwnEMT: sheath, job.ThwnPVC: sheath}

var sheath = planning.Cold{Least: -10, Clause: "maker's sheet"}

// sequence is how circuits are tested. Nothing stands by calculation.
var sequence = commission.Practice{Tests: append(tests, commission.ManagementTests...), Loop: loop}

// loop is a point's ground path as it was designed: as long as the route, at ambient,
// on a leg of 120 V.
func loop(j *job.Job, p *job.Point) commission.Loop {
	w := sizing.ForAWG(&p.Circuit, &p.Place, volts(&j.Survey.Supply, &p.Circuit), j.Board())
	return commission.Loop{Voltage: 121, Ze: 0.05, R1: float64(w.GroundOhm) / 2, R2: float64(w.GroundOhm) / 2, Legs: true}
}
