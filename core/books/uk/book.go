// Package uk is the practice of the United Kingdom and its rulebook, BS 7671:2018+A2:2022,
// with the On-Site Guide, Guidance Note 3 and the supply regulations where the
// wiring regulations lean on them. Clauses and figures are from memory.
package uk

import (
	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/rulebook"
	"dogbolt/core/sizing"
)

// ID names the edition.
const ID = "bs7671:2018+A2:2022"

// A2 is the edition with amendment 2.
var A2 = &rulebook.Book{
	ID: ID, Name: "BS 7671:2018+A2:2022", Short: "BS 7671", In: Practice,
	Rules: rules, Prepare: prepare, Expected: expected, Decisions: decisions, Clauses: clauses,
}

// clauses are where the rules that every rulebook shares stand in this one.
var clauses = map[string]string{
	"sharing":         "722.311.201",
	"dead-proved":     "HSE HSR25",
	"setting":         "722.311.201",
	"load-management": "722.311.201",
	"calibration":     "643.1, GN3",
	"retests":         "GN3",
	"doubtful":        "GN3; common practice",
	"pilot":           "IEC 61851-1 annex A",
	"pilot-low":       "IEC 61851-1 annex A",
	"pilot-mid":       "IEC 61851-1 annex A",
	"pilot-fault":     "IEC 61851-1 annex A",
}

func init() { rulebook.Register(A2) }

// prepare works out the circuit along its route.
func prepare(s *rulebook.Subject) { s.Work = metricOf(s) }

func metricOf(s *rulebook.Subject) *sizing.Metric {
	m := sizing.ForMetric(&s.Point.Circuit, &s.Point.Place, &s.Job.Survey.Supply, &s.Job.Survey.Board)
	return &m
}

// metric is what prepare worked out.
func metric(s *rulebook.Subject) *sizing.Metric {
	m, _ := s.Work.(*sizing.Metric)
	if m == nil {
		m = new(sizing.Metric)
	}
	return m
}

// expected is what the design says of a circuit, to doubt its readings by.
func expected(s *rulebook.Subject) commission.Expected {
	e := commission.Expected{R1R2: float64(metric(s).R1R2Cold), Nominal: float64(systems.Of(&s.Job.Survey.Supply).ToEarth)}
	if s.Job.Survey.Supply.System == job.TNCS {
		e.Supply, e.ZeMost = "TN-C-S", typicalZe(job.TNCS)
	}
	return e
}

var rules = []rulebook.Rule{
	// Survey.
	{ID: "supply", Title: "Supply is known", Clause: "313.1", Stage: job.Survey, Fields: []string{"survey.supply.system", "survey.supply.rating"}, Check: checkSupply},
	{ID: "supply-voltage", Title: "Supply voltage in range", Clause: "ESQCR 27", Stage: job.Survey, Fields: []string{"survey.supply.voltage"}, Check: checkVoltage},
	{ID: "declared-ze", Title: "External loop impedance is plausible", Clause: "OSG 1.1", Stage: job.Survey, Fields: []string{"survey.supply.declaredZe"}, Check: checkDeclaredZe},
	{ID: "board", Title: "Room on the board", Clause: "314.1", Stage: job.Survey, Fields: []string{"survey.board.waysFree"}, Check: checkBoard},
	{ID: "loads", Title: "Loads on the supply", Clause: "311.1", Stage: job.Survey, Fields: []string{"survey.loads"}, Check: rulebook.CheckLoads},
	{ID: "vehicles", Title: "Vehicle and its on-board charger", Clause: "common practice", Stage: job.Survey, Fields: []string{"survey.vehicles"}, Check: rulebook.CheckVehicles},
	{ID: "route", Title: "Cable route", Clause: "522", Stage: job.Survey, PerPoint: true, Fields: []string{"survey.places.{p}.route"}, Check: checkRoute},
	{ID: "route-bends", Title: "Bends between draw-in points", Clause: "522.8.5; 360° is common practice", Stage: job.Survey, PerPoint: true, Fields: []string{"survey.places.{p}.route"}, Check: rulebook.CheckBends(rulebook.Watch)},
	{ID: "buried", Title: "Buried cable deep enough and marked", Clause: "522.8.10", Stage: job.Survey, PerPoint: true, Fields: []string{"survey.places.{p}.route"}, Check: rulebook.CheckDepth(rulebook.Watch)},
	{ID: "position", Title: "Position chosen, clear of gas", Clause: "BS 6891; common practice", Stage: job.Survey, PerPoint: true, Fields: []string{"survey.sitePlan.positions"}, Check: rulebook.CheckPosition},
	{ID: "cord-reach", Title: "Cord reaches, across nothing", Clause: "common practice", Stage: job.Survey, PerPoint: true, Fields: []string{"survey.sitePlan.positions"}, Check: rulebook.CheckReach},
	{ID: "holder-height", Title: "Height of the socket or holder", Clause: "722.55", Stage: job.Survey, PerPoint: true, Fields: []string{"survey.places.{p}.holderHeight"}, Check: checkHeight},

	// Design.
	{ID: "own-circuit", Title: "Own final circuit", Clause: "722.533", Stage: job.Design, PerPoint: true, Fields: []string{"design.circuits.{p}.dedicated"}, Check: rulebook.CheckOwnCircuit},
	{ID: "setting-charger", Title: "Setting within the charger's rating", Clause: "512.1.2", Stage: job.Design, PerPoint: true, Fields: []string{"design.circuits.{p}.setting", "design.circuits.{p}.charger.rating"}, Check: rulebook.CheckSettingCharger},
	{ID: "vehicle-use", Title: "What the vehicle can use", Clause: "advice", Stage: job.Design, PerPoint: true, Fields: []string{"design.circuits.{p}.setting"}, Check: checkVehicleUse},
	{ID: "connection", Title: "Connection", Clause: "722.55.101", Stage: job.Design, PerPoint: true, Fields: []string{"design.circuits.{p}.connection"}, Check: checkConnection},
	{ID: "ib-in", Title: "Breaker not below the load", Clause: "433.1.1(i)", Stage: job.Design, PerPoint: true, Fields: []string{"design.circuits.{p}.breaker.rating"}, Check: checkIbIn},
	{ID: "in-iz", Title: "Cable carries the breaker's rating", Clause: "433.1.1(ii), 523, appendix 4", Stage: job.Design, PerPoint: true, Fields: []string{"design.circuits.{p}.cable.size", "survey.places.{p}.route"}, Check: checkInIz},
	{ID: "demand", Title: "Demand against the cutout", Clause: "311.1, 722.311.201", Stage: job.Design, Fields: []string{"survey.supply.rating", "survey.loads"}, Check: checkDemand},
	{ID: "drop", Title: "Voltage drop", Clause: "525, appendix 4 section 6.4", Stage: job.Design, PerPoint: true, Fields: []string{"design.circuits.{p}.cable.size"}, Check: checkDrop},
	{ID: "zs-design", Title: "Earth fault loop, designed, hot", Clause: "411.4.4, 411.5.3", Stage: job.Design, PerPoint: true, Fields: []string{"survey.supply.declaredZe", "design.circuits.{p}.breaker.curve"}, Check: checkZsDesign},
	{ID: "fill", Title: "Conduit and trunking not too full", Clause: "522.8.1, OSG appendix E", Stage: job.Design, PerPoint: true, Fields: []string{"survey.places.{p}.route"}, Check: rulebook.CheckFill(rulebook.Watch)},
	{ID: "earth-size", Title: "Protective conductor", Clause: "543.1, table 54.7", Stage: job.Design, PerPoint: true, Fields: []string{"design.circuits.{p}.cable.earth"}, Check: checkEarthSize},
	{ID: "breaking", Title: "Breaker breaks the fault current", Clause: "434.5.1", Stage: job.Design, PerPoint: true, Fields: []string{"design.circuits.{p}.breaker.breakingKa", "survey.supply.faultCurrent"}, Check: checkBreaking},
	{ID: "rcd", Title: "Residual current device of its own", Clause: "722.531.3.1", Stage: job.Design, PerPoint: true, Fixed: true, Fields: []string{"design.circuits.{p}.rcd.fitted"}, Check: checkRCD},
	{ID: "rcd-trip", Title: "Residual current at most 30 mA", Clause: "722.531.3.1, 415.1.1", Stage: job.Design, PerPoint: true, Fixed: true, Fields: []string{"design.circuits.{p}.rcd.tripMa"}, Check: checkRCDTrip},
	{ID: "rcd-type", Title: "Residual device type and direct current", Clause: "722.531.3.101, 531.3.3", Stage: job.Design, PerPoint: true, Fixed: true, Fields: []string{"design.circuits.{p}.rcd.type", "design.circuits.{p}.charger.dcDetection"}, Check: checkRCDType},
	{ID: "rcd-poles", Title: "Residual device opens all live conductors", Clause: "722.531.3.1", Stage: job.Design, PerPoint: true, Fields: []string{"design.circuits.{p}.rcd.allPoles"}, Check: checkRCDPoles},
	{ID: "rcd-upstream", Title: "Residual device upstream", Clause: "531.3.3", Stage: job.Design, PerPoint: true, Fields: []string{"survey.board.upstreamRcdType"}, Check: checkRCDUpstream},
	{ID: "open-pen", Title: "Open-PEN protection", Clause: "722.411.4.1", Stage: job.Design, PerPoint: true, Fields: []string{"design.circuits.{p}.earthing.openPen", "survey.places.{p}.outdoors"}, Check: checkOpenPEN},
	{ID: "tt", Title: "Earth electrode and separation", Clause: "411.5.3, table 41.5, part 2", Stage: job.Design, PerPoint: true, Fields: []string{"design.circuits.{p}.earthing.ra", "survey.supply.electrodeRa"}, Check: checkTT},
	{ID: "ip", Title: "Protection against water and bodies", Clause: "722.512.2", Stage: job.Design, PerPoint: true, Fields: []string{"design.circuits.{p}.charger.ip"}, Check: checkIP},
	{ID: "spd", Title: "Surge protection decided", Clause: "443.4.1", Stage: job.Design, PerPoint: true, Fields: []string{"design.circuits.{p}.spd"}, Check: checkSPD},
	{ID: "isolation-device", Title: "Means of isolation", Clause: "722.537, 537.2", Stage: job.Design, PerPoint: true, Fields: []string{"design.circuits.{p}.isolator"}, Check: checkIsolator},

	// Clearances.
	{ID: "operator-route", Title: "Network operator: notify or apply", Clause: "operator's terms", Stage: job.Clearances, Fields: []string{"clearances.papers"}, Check: checkOperator},

	// Commission.
	{ID: "r1r2", Title: "R1 + R2 against design", Clause: "643.2.1, GN3", Stage: job.Commission, PerPoint: true, Fields: []string{"commission.r1r2"}, Check: r1r2(commission.R1R2)},
	{ID: "r1r2-l2", Title: "R1 + R2 of L2 against design", Clause: "643.2.1, GN3", Stage: job.Commission, PerPoint: true, Fields: []string{"commission.r1r2-l2"}, Check: r1r2(commission.R1R2L2)},
	{ID: "r1r2-l3", Title: "R1 + R2 of L3 against design", Clause: "643.2.1, GN3", Stage: job.Commission, PerPoint: true, Fields: []string{"commission.r1r2-l3"}, Check: r1r2(commission.R1R2L3)},
	{ID: "insulation", Title: "Insulation resistance", Clause: "643.3, table 64", Stage: job.Commission, PerPoint: true, Fields: []string{"commission.insulation"}, Check: insulation(commission.Insulation)},
	{ID: "insulation-live", Title: "Insulation between live conductors", Clause: "643.3, table 64", Stage: job.Commission, PerPoint: true, Fields: []string{"commission.insulation-live"}, Check: insulation(commission.InsulationLive)},
	{ID: "polarity-dead", Title: "Polarity, dead", Clause: "643.6", Stage: job.Commission, PerPoint: true, Fixed: true, Fields: []string{"commission.polarity-dead"}, Check: checkPolarityDead},
	{ID: "voltage", Title: "Voltage at the board", Clause: "ESQCR 27", Stage: job.Commission, PerPoint: true, Fields: []string{"commission.voltage"}, Check: voltage(commission.VoltageLN)},
	{ID: "voltage-l2", Title: "Voltage at the board, L2", Clause: "ESQCR 27", Stage: job.Commission, PerPoint: true, Fields: []string{"commission.voltage-l2"}, Check: voltage(commission.VoltageL2N)},
	{ID: "voltage-l3", Title: "Voltage at the board, L3", Clause: "ESQCR 27", Stage: job.Commission, PerPoint: true, Fields: []string{"commission.voltage-l3"}, Check: voltage(commission.VoltageL3N)},
	{ID: "voltage-l1l2", Title: "Voltage between L1 and L2", Clause: "ESQCR 27", Stage: job.Commission, PerPoint: true, Fields: []string{"commission.voltage-l1l2"}, Check: lineVoltage(commission.VoltageL1L2)},
	{ID: "voltage-l2l3", Title: "Voltage between L2 and L3", Clause: "ESQCR 27", Stage: job.Commission, PerPoint: true, Fields: []string{"commission.voltage-l2l3"}, Check: lineVoltage(commission.VoltageL2L3)},
	{ID: "voltage-l1l3", Title: "Voltage between L1 and L3", Clause: "ESQCR 27", Stage: job.Commission, PerPoint: true, Fields: []string{"commission.voltage-l1l3"}, Check: lineVoltage(commission.VoltageL1L3)},
	{ID: "phase-sequence", Title: "Phase sequence", Clause: "643.9", Stage: job.Commission, PerPoint: true, Fields: []string{"commission.phase-sequence"}, Check: rulebook.Asked(commission.PhaseSequence, checkSequence)},
	{ID: "polarity-live", Title: "Polarity, live", Clause: "643.6", Stage: job.Commission, PerPoint: true, Fixed: true, Fields: []string{"commission.polarity-live"}, Check: checkPolarityLive},
	{ID: "ze", Title: "Ze against the declared figure", Clause: "313.1, 643.7.2", Stage: job.Commission, PerPoint: true, Fields: []string{"commission.ze"}, Check: checkZe},
	{ID: "zs", Title: "Earth fault loop, measured cold", Clause: "643.7.3, appendix 3", Stage: job.Commission, PerPoint: true, Fields: []string{"commission.zs"}, Check: zs(commission.Zs)},
	{ID: "zs-l2", Title: "Earth fault loop of L2, measured cold", Clause: "643.7.3, appendix 3", Stage: job.Commission, PerPoint: true, Fields: []string{"commission.zs-l2"}, Check: zs(commission.ZsL2)},
	{ID: "zs-l3", Title: "Earth fault loop of L3, measured cold", Clause: "643.7.3, appendix 3", Stage: job.Commission, PerPoint: true, Fields: []string{"commission.zs-l3"}, Check: zs(commission.ZsL3)},
	{ID: "pfc", Title: "Prospective fault current", Clause: "643.7.3.201, 434.5.1", Stage: job.Commission, PerPoint: true, Fields: []string{"commission.pfc"}, Check: checkPFC},
	{ID: "rcd-time", Title: "Residual device trips in time", Clause: "643.8", Stage: job.Commission, PerPoint: true, Fields: []string{"commission.rcd-time"}, Check: checkRCDTime},
	{ID: "rcd-half", Title: "Residual device holds at half", Clause: "GN3, good practice", Stage: job.Commission, PerPoint: true, Fields: []string{"commission.rcd-half"}, Check: rulebook.Asked(commission.RCDHalf, checkRCDHalf)},
	{ID: "rcd-5x", Title: "Residual device at five times", Clause: "GN3, good practice", Stage: job.Commission, PerPoint: true, Fields: []string{"commission.rcd-5x"}, Check: rulebook.Asked(commission.RCDFive, checkRCDFive)},
	{ID: "rcd-ramp", Title: "Residual device, where it trips", Clause: "GN3, good practice", Stage: job.Commission, PerPoint: true, Fields: []string{"commission.rcd-ramp"}, Check: rulebook.Asked(commission.RCDRamp, checkRCDRamp)},
	{ID: "dc-trip", Title: "Direct-current detection trips", Clause: "722.531.3.101, IEC 62955", Stage: job.Commission, PerPoint: true, Fields: []string{"commission.dc-trip"}, Check: checkDCTrip},
	{ID: "functions", Title: "Charger functions", Clause: "643.10, IEC 61851-1", Stage: job.Commission, PerPoint: true, Fields: []string{"commission.functions"}, Check: checkFunctions},
	{ID: "open-neutral", Title: "Stop on an open neutral", Clause: "722.411.4.1", Stage: job.Commission, PerPoint: true, Fields: []string{"commission.open-neutral"}, Check: rulebook.Asked(commission.OpenNeutral, checkOpenNeutral)},
	{ID: "schedule", Title: "Default schedule on", Clause: "Smart Charge Points Regulations 2021", Stage: job.Commission, PerPoint: true, Fields: []string{"commission.schedule"}, Check: checkSchedule},
	{ID: "start-delay", Title: "Random start delay on", Clause: "Smart Charge Points Regulations 2021", Stage: job.Commission, PerPoint: true, Fields: []string{"commission.start-delay"}, Check: checkStartDelay},
}
