package uk

import (
	"strings"
	"time"

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

// country is the id of the United Kingdom.
const country = "uk"

// Practice is the practice of the United Kingdom.
var Practice = jurisdiction.Register(&jurisdiction.Jurisdiction{
	ID: country, Name: "United Kingdom", Lang: "en-GB",
	Units: quantity.Units{
		Length:      quantity.InMetres,
		Height:      quantity.InMetres,
		Size:        quantity.InMillimetres,
		Spacing:     quantity.InMillimetres,
		Section:     quantity.InSquareMM,
		Floor:       quantity.InSquareMetre,
		Temperature: quantity.InCelsius,
		Bar:         1,
		Torque:      quantity.InNewtonMetre,
	},
	Money: jurisdiction.Currency{Symbol: "£", Minor: "p", Fuel: "p/litre", FuelScale: 0.01, Gallon: 4.54609},
	Paper: jurisdiction.A4, Zone: "Europe/London", Date: "2 Jan 2006",

	Systems: systems,
	Demand:  Demand,
	// 722.311.201: load curtailment counts in full.
	ManagedShare: 1,
	// 433.1.1: Ib ≤ In.
	Poles: func(phases int) []int {
		if phases == 3 {
			return []int{3, 4}
		}
		return []int{1, 2}
	},
	SettingLimit: func(c *job.Circuit) (float64, string) { return float64(c.Breaker.Rating), "breaker" },
	Overload:     jurisdiction.Overload{Breaker: protection.Breaker60898, Service: protection.FuseGG},

	Asked:  asked,
	Survey: asks,
	Photos: []string{"label", "board-closed", "board-open", "meter", "position", "route", "parking"},
	// BS 6891 and 722.55, from memory.
	Reach:   reach.Limits{GasPipe: clearOfGas, GasMeter: clearOfGas, Low: holderLow, High: holderHigh, Clause: "722.55", GasClause: "BS 6891"},
	Sizing:  sizing.Practice{Solve: sizing.SolveMetric, Devices: &sizing.MetricDevices, Drop: DropLimit},
	Laying:  laying,
	Install: work,
	Tests:   sequence,
	Papers:  papers,
	After:   after,
	Button:  button,
	Inspect: inspections, Certificate: certificate, Minor: minor, Package: application, Labels: labels,
	Days: planning.Practice{Temperature: quantity.InCelsius, Moment: "15:04 on 2 January", Cold: cold},
	// Pounds; cutouts met in homes. Common practice, no source.
	Night: loadmgmt.Practice{
		Usual: loadmgmt.Costs{
			Sensor:  loadmgmt.Band{Low: 60, High: 180},
			Switch:  loadmgmt.Band{Low: 80, High: 220},
			Upgrade: loadmgmt.Band{Low: 0, High: 2500},
			Wait:    loadmgmt.Band{Low: 4, High: 14},
			Point:   loadmgmt.Band{Low: 800, High: 1150},
			Metre:   loadmgmt.Band{Low: 12, High: 35},
		},
		Services: []float64{60, 80, 100},
	},
	Cases: exercises,

	Drawn: jurisdiction.Drawn{Service: "cutout", Supply: func(p *job.Supply) string {
		if p.System == job.TT {
			return "TT, electrode " + measured(float64(p.ElectrodeRA))
		}
		if p.Own() {
			return "own source, loop " + measured(float64(p.DeclaredZe))
		}
		return strings.ToUpper(string(p.System)) + ", Ze " + measured(float64(p.DeclaredZe))
	}},
	Supply: func(p *job.Supply) [][2]string {
		return [][2]string{
			{"Ze declared", quantity.Recorded(float64(p.DeclaredZe), "Ω")},
			{"Prospective fault current declared", quantity.Recorded(p.FaultCurrent, "kA")},
		}
	},
})

// measured writes a resistance, or a question mark for one that is not known.
func measured(ohm float64) string {
	if ohm == 0 {
		return "? Ω"
	}
	return quantity.Say("{} Ω", ohm)
}

// systems are the earthing systems of a British supply at U0 230 V, 400 V between
// lines (BS 7671 part 2, appendix 2).
var systems = supply.Systems{
	{ID: job.TNCS, Name: "TN-C-S (PME)", ToEarth: 230, Circuit: 230, Three: 400, Phases: []int{1, 3}},
	{ID: job.TNS, Name: "TN-S", ToEarth: 230, Circuit: 230, Three: 400, Phases: []int{1, 3}},
	{ID: job.TT, Name: "TT", ToEarth: 230, Circuit: 230, Three: 400, Phases: []int{1, 3}},
	{ID: job.Island, Name: ownName, ToEarth: 230, Circuit: 230, Three: 400, Phases: []int{1, 3}},
}

// ownName is what records call a source that was never joined to the network.
const ownName = "own source, apart from the network"

// cold is what sheaths bear while they are bent. PVC: not below 0 °C, nor within 24
// hours of it (BS 7540-3 and makers' sheets, from memory); XLPE armoured cable has a
// PVC sheath. The sheet of the cable at hand prevails.
var cold = map[job.Family]planning.Cold{
	job.TwinEarth: pvc, job.Multicore: pvc, job.Singles: pvc, job.Armoured70: pvc, job.Armoured90: pvc,
}

var pvc = planning.Cold{Least: 0, Before: 24 * time.Hour, Clause: "BS 7540-3, maker's sheet"}

// sequence is how circuits are tested.
var sequence = commission.Practice{
	Tests: append(tests, commission.ManagementTests...),
	Derive: func(read map[string]quantity.Reading, p *job.Supply) []commission.Derivation {
		return commission.Derive(read, p, float64(systems.Of(p).ToEarth))
	},
	Loop: loop,
}

// loop is a point's loop as it was designed: the split between line and earth follows
// their areas, the supply's part is usually some three quarters of what is declared.
func loop(j *job.Job, p *job.Point) commission.Loop {
	at := j.AtBoard()
	m := sizing.ForMetric(&p.Circuit, &p.Place, &at, j.Board())
	share := 0.5
	if m.EarthArea > 0 {
		share = float64(m.EarthArea) / float64(m.EarthArea+m.Row.Area)
	}
	return commission.Loop{Voltage: 238, Ze: 0.75 * float64(j.Survey.Supply.DeclaredZe), R1: float64(m.R1R2Cold) * share, R2: float64(m.R1R2Cold) * (1 - share)}
}
