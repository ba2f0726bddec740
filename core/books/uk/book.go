// Package uk is the practice of the United Kingdom and its rulebook, BS 7671:2018+A2:2022,
// with the On-Site Guide, Guidance Note 3 and the supply regulations where the
// wiring regulations lean on them. Clauses and figures are from memory.
package uk

import (
	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/rulebook"
	"dogbolt/core/sizing"
)

// ID names the edition.
const ID = "bs7671:2018+A2:2022"

// A2 is the edition with amendment 2.
var A2 = &rulebook.Book{
	ID: ID, Name: "BS 7671:2018+A2:2022", Short: "BS 7671", In: Practice,
	Rules: rules, Prepare: prepare, Expected: expected, Decisions: decisions, Clauses: clauses,
	SubMain: subMain,
}

// clauses are where the rules that every rulebook shares stand in this one.
var clauses = map[string]string{
	"phases":          "722.533.101, 431.2",
	"links":           "311.1, 536.4.202",
	"in-turn":         "536.4.1.2, 314.1",
	"own-source":      "551.4.3.2",
	"second-source":   "551.4, 551.6, 551.7",
	"grid-out":        "551.4.2, 551.4.3.2",
	"test-order":      "643.1, part 6",
	"sharing":         "722.311.201",
	"dead-proved":     "EAWR 13 and 14; HSE HSG85",
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

func init() {
	rulebook.Register(A2)
	rulebook.Register(A3)
}

// a2Rule is the rule about devices fed from both sides, before amendment 3.
var a2Rule = func() rulebook.Rule {
	r := bothSides(a2BothSides)
	r.Clause = "134.1.1, makers' instructions"
	return r
}()

// prepare works out the circuit along its route.
func prepare(s *rulebook.Subject) { s.Work = metricOf(s) }

// metricOf takes the external loop impedance that was measured where there is one, and
// the declared one else.
func metricOf(s *rulebook.Subject) *sizing.Metric {
	p := s.Job.AtBoard()
	origin := p.System != job.TT && p.DeclaredZe > 0 && s.Job.Board().FedFrom != job.FromSubMain // where Ze is read
	if e, ok := s.Job.Latest(job.ReadingMade, s.Point.ID, commission.Ze); ok && origin {
		if r, err := quantity.ParseReading(e.Value, "Ω"); err == nil && r.Bound == quantity.Exact && r.Value > 0 {
			p.DeclaredZe = quantity.Ohm(r.Value)
		}
	}
	m := sizing.ForMetric(&s.Point.Circuit, &s.Point.Place, &p, s.Job.Board())
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
	e.OwnEarth = s.Point.Circuit.Earthing.OpenPEN == job.PENTT && s.Job.Survey.Supply.System != job.TT
	if s.Job.Survey.Supply.System == job.TNCS {
		e.Supply, e.ZeMost = "TN-C-S", typicalZe(job.TNCS)
	}
	return e
}

var rules = []rulebook.Rule{
	// Survey.
	{ID: "supply", Title: "Supply is known", Clause: "313.1", Stage: job.StageSurvey,
		Fields: []string{"survey.supply.system", "survey.supply.rating"}, Check: checkSupply,
		Numbers: "none"},
	{ID: "supply-voltage", Title: "Supply voltage in range", Clause: "ESQCR 27", Stage: job.StageSurvey,
		Fields: []string{"survey.supply.voltage"}, Check: checkVoltage,
		Numbers: "ESQCR 2002 reg. 27: 216.2 V to 253.0 V"},
	{ID: "declared-ze", Title: "External loop impedance is plausible", Clause: "OSG 1.1", Stage: job.StageSurvey, Made: true,
		Fields: []string{"survey.supply.declaredZe"}, Check: checkDeclaredZe,
		Numbers: "OSG 1.1: 0.35 Ω, 0.80 Ω"},
	{ID: "bonding", Title: "Earthing conductor and main bonding", Clause: "411.3.1.2, 542.3, 544.1, tables 54.7, 54.8", Stage: job.StageSurvey, Made: true,
		Fields: []string{"survey.bonding"}, Check: checkBonding,
		Numbers: "544.1.1; table 54.8: 10 mm²; table 54.7: 16 mm²"},
	{ID: "board", Title: "Room on the board", Clause: "314.1", Stage: job.StageSurvey, Made: true,
		Fields: []string{"survey.board.waysFree"}, Check: checkBoard,
		Numbers: "counts of the board itself", Tests: "core/panel TestAgainstEveryRearrangement"},
	{ID: "loads", Title: "Loads on the supply", Clause: "311.1", Stage: job.StageSurvey, Draws: true,
		Fields: []string{"survey.loads"}, Check: rulebook.CheckLoads,
		Numbers: "OSG appendix A", Tests: "core/books/uk TestDiversityLines"},
	{ID: "vehicles", Title: "Vehicle and its on-board charger", Clause: "common practice", Stage: job.StageSurvey, Draws: true, Charging: true,
		Fields: []string{"survey.vehicles"}, Check: rulebook.CheckVehicles,
		Numbers: "none"},
	{ID: "route", Title: "Cable route", Clause: "522", Stage: job.StageSurvey, Made: true, PerPoint: true,
		Fields: []string{"survey.places.{p}.route"}, Check: checkRoute,
		Numbers: "measures of the survey", Tests: "core/route TestConnects"},
	{ID: "route-bends", Title: "Bends between draw-in points", Clause: "522.8.5; 360° is common practice", Stage: job.StageSurvey, Made: true, PerPoint: true,
		Fields: []string{"survey.places.{p}.route"}, Check: rulebook.CheckBends(rulebook.Watch),
		Numbers: "common practice: 360°", Tests: "core/route TestBends"},
	{ID: "buried", Title: "Buried cable deep enough and marked", Clause: "522.8.10", Stage: job.StageSurvey, Made: true, PerPoint: true,
		Fields: []string{"survey.places.{p}.route"}, Check: rulebook.CheckDepth(rulebook.Watch),
		Numbers: "common practice: 0.45 m, 0.6 m", Tests: "core/books/uk TestCover"},
	{ID: "position", Title: "Position chosen, clear of gas", Clause: "BS 6891; common practice", Stage: job.StageSurvey, Made: true, Charging: true, PerPoint: true,
		Fields: []string{"survey.sitePlan.positions"}, Check: rulebook.CheckPosition,
		Numbers: "BS 6891: 150 mm", Tests: "core/reach TestClearances"},
	{ID: "cord-reach", Title: "Cord reaches, across nothing", Clause: "common practice", Stage: job.StageSurvey, Made: true, Unit: true, PerPoint: true,
		Fields: []string{"survey.sitePlan.positions"}, Check: rulebook.CheckReach,
		Numbers: "geometry of the site plan; slack by common practice", Tests: "core/reach TestAgainstBruteForce, TestCords"},
	{ID: "holder-height", Title: "Height of the socket or holder", Clause: "722.55", Stage: job.StageSurvey, Made: true, Charging: true, PerPoint: true,
		Fields: []string{"survey.places.{p}.holderHeight"}, Check: checkHeight,
		Numbers: "722.55: 0.5 m to 1.5 m; BS 8300", Tests: "core/reach TestClearances"},

	// Design.
	{ID: "own-circuit", Title: "Own final circuit", Clause: "722.533", Stage: job.StageDesign, Charging: true, PerPoint: true,
		Fields: []string{"design.circuits.{p}.dedicated"}, Check: rulebook.CheckOwnCircuit,
		Numbers: "none"},
	{ID: "setting-charger", Title: "Setting within the charger's rating", Clause: "512.1.2", Stage: job.StageDesign, Unit: true, PerPoint: true,
		Fields: []string{"design.circuits.{p}.setting", "design.circuits.{p}.charger.rating"}, Check: rulebook.CheckSettingCharger,
		Numbers: "IEC 61851-1 annex A: 6 A"},
	{ID: "vehicle-use", Title: "What the vehicle can use", Clause: "advice", Stage: job.StageDesign, Draws: true, Unit: true, PerPoint: true,
		Fields: []string{"design.circuits.{p}.setting"}, Check: checkVehicleUse,
		Numbers: "the vehicle's own figures", Tests: "core/charging TestPowerDrawn"},
	{ID: "connection", Title: "Connection", Clause: "722.55.101", Stage: job.StageDesign, Made: true, Charging: true, PerPoint: true,
		Fields: []string{"design.circuits.{p}.connection"}, Check: checkConnection,
		Numbers: "none"},
	{ID: "ib-in", Title: "Breaker not below the load", Clause: "433.1.1(i)", Stage: job.StageDesign, PerPoint: true,
		Fields: []string{"design.circuits.{p}.breaker.rating"}, Check: checkIbIn,
		Numbers: "BS EN 60898 preferred ratings", Tests: "core/protection TestIsListed"},
	{ID: "in-iz", Title: "Cable carries the breaker's rating", Clause: "433.1.1(ii), 523, appendix 4", Stage: job.StageDesign, Draws: true, PerPoint: true,
		Fields: []string{"design.circuits.{p}.cable.size", "survey.places.{p}.route"}, Check: rulebook.EachCable(checkInIz),
		Numbers: "tables 4D1, 4D2, 4D4, 4D5, 4E4, 4B1 to 4C3, 52.2", Tests: "core/conductor TestMetricTables, TestAmbient; core/sizing TestCapacityAlongRoute"},
	{ID: "demand", Title: "Demand against the cutout", Clause: "311.1, 722.311.201", Stage: job.StageDesign, Draws: true,
		Fields: []string{"survey.supply.rating", "survey.loads"}, Check: checkDemand,
		Numbers: "OSG appendix A", Tests: "core/books/uk TestDiversityLines"},
	{ID: "drop", Title: "Voltage drop", Clause: "525, appendix 4 section 6.4", Stage: job.StageDesign, Draws: true, PerPoint: true,
		Fields: []string{"design.circuits.{p}.cable.size"}, Check: checkDrop,
		Numbers: "appendix 4, 5 %", Tests: "core/sizing TestDropAgainstSimulator"},
	{ID: "zs-design", Title: "Earth fault loop, designed, hot", Clause: "411.4.4, 411.5.3", Stage: job.StageDesign, Made: true, PerPoint: true,
		Fields: []string{"survey.supply.declaredZe", "design.circuits.{p}.breaker.curve"}, Check: checkZsDesign,
		Numbers: "411.4.4, tables 41.3 and 41.5", Tests: "core/protection TestTable413, TestTable415; core/sizing TestLoopAgainstSimulator"},
	{ID: "fill", Title: "Conduit and trunking not too full", Clause: "522.8.1, OSG appendix E", Stage: job.StageDesign, Made: true, PerPoint: true,
		Fields: []string{"survey.places.{p}.route"}, Check: rulebook.CheckFill(rulebook.Watch),
		Numbers: "OSG appendix E", Tests: "core/books/uk TestFill"},
	{ID: "joint", Title: "Joint box on the route", Clause: "526.3, 512.2, 526.5", Stage: job.StageDesign, Made: true, PerPoint: true,
		Fields: []string{"design.circuits.{p}.beyond.from"}, Check: rulebook.CheckJoint,
		Numbers: "none"},
	{ID: "earth-size", Title: "Protective conductor", Clause: "543.1, table 54.7", Stage: job.StageDesign, Made: true, PerPoint: true,
		Fields: []string{"design.circuits.{p}.cable.earth"}, Check: rulebook.EachCable(checkEarthSize),
		Numbers: "tables 54.2 to 54.4, 54.7; BS EN 60898-1 annex ZA", Tests: "core/conductor TestProtectiveByTable, TestAdiabatic; core/protection TestLetThrough"},
	{ID: "breaking", Title: "Breaker breaks the fault current", Clause: "434.5.1", Stage: job.StageDesign, Made: true, PerPoint: true,
		Fields: []string{"design.circuits.{p}.breaker.breakingKa", "survey.supply.faultCurrent"}, Check: checkBreaking,
		Numbers: "the devices' own figures"},
	{ID: "rcd", Title: "Residual current device of its own", Clause: "722.531.3.1, 722.531.3.101", Stage: job.StageDesign, Charging: true, PerPoint: true, Fixed: true,
		Fields: []string{"design.circuits.{p}.rcd.fitted"}, Check: checkRCD,
		Numbers: "none"},
	{ID: "rcd-trip", Title: "Residual current at most 30 mA", Clause: "722.531.3.1, 415.1.1", Stage: job.StageDesign, Charging: true, PerPoint: true, Fixed: true,
		Fields: []string{"design.circuits.{p}.rcd.tripMa"}, Check: checkRCDTrip,
		Numbers: "415.1.1: 30 mA"},
	{ID: "rcd-type", Title: "Residual device type and direct current", Clause: "722.531.3.101, 531.3.3", Stage: job.StageDesign, Charging: true, PerPoint: true, Fixed: true,
		Fields: []string{"design.circuits.{p}.rcd.type", "design.circuits.{p}.charger.dcDetection"}, Check: checkRCDType,
		Numbers: "none"},
	{ID: "rcd-poles", Title: "Residual device opens all live conductors", Clause: "722.531.3.1", Stage: job.StageDesign, Charging: true, PerPoint: true,
		Fields: []string{"design.circuits.{p}.rcd.allPoles"}, Check: checkRCDPoles,
		Numbers: "none"},
	{ID: "rcd-upstream", Title: "Residual device upstream", Clause: "531.3.3", Stage: job.StageDesign, PerPoint: true,
		Fields: []string{"survey.board.upstreamRcdType"}, Check: checkRCDUpstream,
		Numbers: "none"},
	{ID: "ahead", Title: "Residual device that is replaced upstream", Clause: "531.3.3, 642.2", Stage: job.StageDesign,
		Fields: []string{"design.ahead.rating", "design.ahead.tripMa", "design.ahead.feeds"}, Check: checkAhead,
		Numbers: "none"},
	{ID: "beside", Title: "New board", Clause: "132.15, 411.3.3, 411.3.4, 421.1.201, 433.2.2, 434.2.1, 536.4.202, 543.1; OSG section 2", Stage: job.StageDesign,
		Fields: []string{"design.beside"}, Check: checkBeside,
		Numbers: "OSG section 2: 16 mm² to 80 A, 25 mm² to 100 A; 433.2.2: 3 m; table 54.7; from memory"},
	{ID: "sub-main", Title: "Sub-main and the board at its end", Clause: "411.3.1.2, 411.5.2, 434.5.1, 512.2, 522.6.202, 536.4; table 54.8", Stage: job.StageDesign, PerPoint: true,
		Fields: []string{"design.circuits.{p}.end", "design.circuits.{p}.rcd", "survey.places.{p}.detached", "survey.places.{p}.otherSupply"}, Check: checkSubMain,
		Numbers: "table 54.8: 10 mm²; BS EN 60228", Tests: "core/protection TestFaultAtEnd"},
	{ID: "not-here", Title: "Work that is done otherwise here", Clause: "542, 537", Stage: job.StageDesign, Fixed: true,
		Fields: []string{"design.building"}, Check: checkNotHere,
		Numbers: "none"},
	{ID: "open-pen", Title: "Open-PEN protection", Clause: "722.411.4.1", Stage: job.StageDesign, Charging: true, PerPoint: true, Fixed: true,
		Fields: []string{"design.circuits.{p}.earthing.openPen", "survey.places.{p}.outdoors"}, Check: checkOpenPEN,
		Numbers: "722.411.4.1: 70 V, 207 V to 253 V; annex A722", Tests: "core/protection TestImbalance, TestElectrodeLimit"},
	{ID: "tt", Title: "Earth electrode and separation", Clause: "411.5.3, table 41.5, part 2", Stage: job.StageDesign, PerPoint: true,
		Fields: []string{"design.circuits.{p}.earthing.ra", "survey.supply.electrodeRa"}, Check: checkTT,
		Numbers: "table 41.5; part 2, 2.5 m", Tests: "core/protection TestTable415"},
	{ID: "ip", Title: "Protection against water and bodies", Clause: "722.512.2", Stage: job.StageDesign, Made: true, Unit: true, PerPoint: true,
		Fields: []string{"design.circuits.{p}.charger.ip"}, Check: checkIP,
		Numbers: "722.512.2: IPX4, IP4X"},
	{ID: "spd", Title: "Surge protection decided", Clause: "443.4.1", Stage: job.StageDesign, Made: true, PerPoint: true,
		Fields: []string{"design.circuits.{p}.spd"}, Check: checkSPD,
		Numbers: "none"},
	{ID: "isolation-device", Title: "Means of isolation", Clause: "722.537, 537.2", Stage: job.StageDesign, Made: true, Charging: true, PerPoint: true,
		Fields: []string{"design.circuits.{p}.isolator"}, Check: checkIsolator,
		Numbers: "none"},

	// Clearances.
	{ID: "operator-route", Title: "Network operator: notify or apply", Clause: "operator's terms", Stage: job.StageClearances, Draws: true,
		Fields: []string{"clearances.papers"}, Check: checkOperator,
		Numbers: "operators' terms: 60 A a phase, chargers to 32 A", Tests: "core/books/uk TestOperator"},

	a2Rule,

	// Commission.
	{ID: "run", Title: "Length run as judged", Clause: "common practice", Stage: job.StageInstall, PerPoint: true,
		Fields: []string{"install.cable"}, Check: rulebook.CheckRun,
		Numbers: "5 %: common practice, no source"},
	{ID: "bonding-continuity", Title: "Earthing and bonding conductors are whole", Clause: "643.2.1, GN3", Stage: job.StageCommission, PerPoint: true, Fixed: true,
		Fields: []string{"commission.bonding"}, Check: rulebook.Asked(commission.Bonding, checkBondContinuity),
		Numbers: "GN3: 0.05 Ω at joints; conductors to 25 m of 10 mm², common practice"},
	{ID: "r1r2", Title: "R1 + R2 against design", Clause: "643.2.1, GN3", Stage: job.StageCommission, PerPoint: true, Fixed: true,
		Fields: []string{"commission.r1r2"}, Check: r1r2(commission.R1R2),
		Numbers: "BS EN 60228; 0.004 per K, GN3", Tests: "core/conductor TestR1R2PerMetre; core/commission TestR20"},
	{ID: "r1r2-l2", Title: "R1 + R2 of L2 against design", Clause: "643.2.1, GN3", Stage: job.StageCommission, PerPoint: true, Fixed: true,
		Fields: []string{"commission.r1r2-l2"}, Check: r1r2(commission.R1R2L2),
		Numbers: "BS EN 60228", Tests: "core/conductor TestR1R2PerMetre"},
	{ID: "r1r2-l3", Title: "R1 + R2 of L3 against design", Clause: "643.2.1, GN3", Stage: job.StageCommission, PerPoint: true, Fixed: true,
		Fields: []string{"commission.r1r2-l3"}, Check: r1r2(commission.R1R2L3),
		Numbers: "BS EN 60228", Tests: "core/conductor TestR1R2PerMetre"},
	{ID: "insulation", Title: "Insulation resistance", Clause: "643.3, table 64", Stage: job.StageCommission, Removals: true, PerPoint: true, Fixed: true,
		Fields: []string{"commission.insulation"}, Check: insulation(commission.Insulation),
		Numbers: "table 64: 1 MΩ"},
	{ID: "insulation-live", Title: "Insulation between live conductors", Clause: "643.3, table 64", Stage: job.StageCommission, Removals: true, PerPoint: true, Fixed: true,
		Fields: []string{"commission.insulation-live"}, Check: insulation(commission.InsulationLive),
		Numbers: "table 64: 1 MΩ"},
	{ID: "polarity-dead", Title: "Polarity, dead", Clause: "643.6", Stage: job.StageCommission, PerPoint: true, Fixed: true,
		Fields: []string{"commission.polarity-dead"}, Check: rulebook.Asked(commission.PolarityDead, checkPolarityDead),
		Numbers: "none"},
	{ID: "polarity-origin", Title: "Polarity of the supply", Clause: "643.6", Stage: job.StageCommission, PerPoint: true, Fixed: true,
		Fields: []string{"commission.polarity-origin"}, Check: rulebook.Asked(commission.PolarityOrigin, checkPolarityOrigin),
		Numbers: "none"},
	{ID: "electrode", Title: "Earth electrode of the point, measured", Clause: "643.7.2, 411.5.3, table 41.5; 722.411.4.1(ii)",
		Stage: job.StageCommission, PerPoint: true, Fixed: true,
		Fields: []string{"commission.electrode"}, Check: rulebook.Asked(commission.ElectrodeRA, checkElectrodeRead),
		Numbers: "table 41.5; annex A722; 200 Ω", Tests: "core/protection TestTable415, TestElectrodeLimit"},
	{ID: "voltage", Title: "Voltage at the board", Clause: "ESQCR 27", Stage: job.StageCommission, PerPoint: true,
		Fields: []string{"commission.voltage"}, Check: voltage(commission.VoltageLN),
		Numbers: "ESQCR 2002 reg. 27"},
	{ID: "voltage-l2", Title: "Voltage at the board, L2", Clause: "ESQCR 27", Stage: job.StageCommission, PerPoint: true,
		Fields: []string{"commission.voltage-l2"}, Check: voltage(commission.VoltageL2N),
		Numbers: "ESQCR 2002 reg. 27"},
	{ID: "voltage-l3", Title: "Voltage at the board, L3", Clause: "ESQCR 27", Stage: job.StageCommission, PerPoint: true,
		Fields: []string{"commission.voltage-l3"}, Check: voltage(commission.VoltageL3N),
		Numbers: "ESQCR 2002 reg. 27"},
	{ID: "voltage-l1l2", Title: "Voltage between L1 and L2", Clause: "ESQCR 27", Stage: job.StageCommission, PerPoint: true,
		Fields: []string{"commission.voltage-l1l2"}, Check: lineVoltage(commission.VoltageL1L2),
		Numbers: "ESQCR 2002 reg. 27, × √3", Tests: "core/commission TestLineVoltage"},
	{ID: "voltage-l2l3", Title: "Voltage between L2 and L3", Clause: "ESQCR 27", Stage: job.StageCommission, PerPoint: true,
		Fields: []string{"commission.voltage-l2l3"}, Check: lineVoltage(commission.VoltageL2L3),
		Numbers: "ESQCR 2002 reg. 27, × √3", Tests: "core/commission TestLineVoltage"},
	{ID: "voltage-l1l3", Title: "Voltage between L1 and L3", Clause: "ESQCR 27", Stage: job.StageCommission, PerPoint: true,
		Fields: []string{"commission.voltage-l1l3"}, Check: lineVoltage(commission.VoltageL1L3),
		Numbers: "ESQCR 2002 reg. 27, × √3", Tests: "core/commission TestLineVoltage"},
	{ID: "phase-sequence", Title: "Phase sequence", Clause: "643.9", Stage: job.StageCommission, PerPoint: true,
		Fields: []string{"commission.phase-sequence"}, Check: rulebook.Asked(commission.PhaseSequence, checkSequence),
		Numbers: "none"},
	{ID: "polarity-live", Title: "Polarity, live", Clause: "643.6", Stage: job.StageCommission, PerPoint: true, Fixed: true,
		Fields: []string{"commission.polarity-live"}, Check: rulebook.Asked(commission.PolarityLive, checkPolarityLive),
		Numbers: "none"},
	{ID: "ze", Title: "Ze against the declared figure", Clause: "313.1, 643.7.3", Stage: job.StageCommission, PerPoint: true,
		Fields: []string{"commission.ze"}, Check: rulebook.Asked(commission.Ze, checkZe),
		Numbers: "the declared figure"},
	{ID: "zs", Title: "Earth fault loop, measured cold", Clause: "643.7.3, appendix 3", Stage: job.StageCommission, PerPoint: true,
		Fields: []string{"commission.zs"}, Check: zs(commission.Zs),
		Numbers: "0.80 × table 41.3, appendix 3", Tests: "core/protection TestColdLimits"},
	{ID: "zs-l2", Title: "Earth fault loop of L2, measured cold", Clause: "643.7.3, appendix 3", Stage: job.StageCommission, PerPoint: true,
		Fields: []string{"commission.zs-l2"}, Check: zs(commission.ZsL2),
		Numbers: "0.80 × table 41.3, appendix 3", Tests: "core/protection TestColdLimits"},
	{ID: "zs-l3", Title: "Earth fault loop of L3, measured cold", Clause: "643.7.3, appendix 3", Stage: job.StageCommission, PerPoint: true,
		Fields: []string{"commission.zs-l3"}, Check: zs(commission.ZsL3),
		Numbers: "0.80 × table 41.3, appendix 3", Tests: "core/protection TestColdLimits"},
	{ID: "pfc", Title: "Prospective fault current", Clause: "643.7.3.201, 434.5.1", Stage: job.StageCommission, PerPoint: true,
		Fields: []string{"commission.pfc"}, Check: rulebook.Asked(commission.FaultCurrent, checkPFC),
		Numbers: "the devices' own figures"},
	{ID: "pfc-end", Title: "Prospective fault current at the end of a sub-main", Clause: "643.7.3.201, 434.5.1", Stage: job.StageCommission, PerPoint: true,
		Fields: []string{"commission.pfc-end"}, Check: rulebook.Asked(commission.EndFault, checkEndFault),
		Numbers: "the devices' own figures; IEC 61557-3: 30 %"},
	{ID: "rcd-time", Title: "Residual device trips in time", Clause: "643.8", Stage: job.StageCommission, PerPoint: true, Fixed: true,
		Fields: []string{"commission.rcd-time"}, Check: rulebook.Asked(commission.RCDTime, checkRCDTime),
		Numbers: "643.8: 300 ms, 130 to 500 ms"},
	{ID: "ahead-time", Title: "Residual device upstream trips in time", Clause: "643.8, BS EN 61008-1", Stage: job.StageCommission, PerPoint: true, Fixed: true,
		Fields: []string{"commission.ahead-time"}, Check: rulebook.Asked(commission.AheadTime, checkAheadTime),
		Numbers: "BS EN 61008-1: 300 ms, delayed 130 ms to 500 ms"},
	{ID: "behind", Title: "What else is fed anew", Clause: "642.2, 643", Stage: job.StageCommission, PerPoint: true,
		Fields: []string{"commission.behind"}, Check: rulebook.Asked(commission.Behind, rulebook.CheckBehind),
		Numbers: "none"},
	{ID: "rcd-half", Title: "Residual device holds at half", Clause: "GN3, good practice", Stage: job.StageCommission, PerPoint: true,
		Fields: []string{"commission.rcd-half"}, Check: rulebook.Asked(commission.RCDHalf, checkRCDHalf),
		Numbers: "none"},
	{ID: "rcd-5x", Title: "Residual device at five times", Clause: "GN3, good practice", Stage: job.StageCommission, PerPoint: true,
		Fields: []string{"commission.rcd-5x"}, Check: rulebook.Asked(commission.RCDFive, checkRCDFive),
		Numbers: "BS EN 61008-1 table 1: 40 ms"},
	{ID: "rcd-ramp", Title: "Residual device, where it trips", Clause: "GN3, good practice", Stage: job.StageCommission, PerPoint: true,
		Fields: []string{"commission.rcd-ramp"}, Check: rulebook.Asked(commission.RCDRamp, checkRCDRamp),
		Numbers: "BS EN 61008-1: ½ to 1 × IΔn"},
	{ID: "dc-trip", Title: "Direct-current detection trips", Clause: "722.531.3.101, IEC 62955", Stage: job.StageCommission, Unit: true, PerPoint: true,
		Fields: []string{"commission.dc-trip"}, Check: checkDCTrip,
		Numbers: "IEC 62955: 6 mA within 10 s"},
	{ID: "functions", Title: "Charger functions", Clause: "643.10, IEC 61851-1", Stage: job.StageCommission, Unit: true, PerPoint: true,
		Fields: []string{"commission.functions"}, Check: checkFunctions,
		Numbers: "none"},
	{ID: "open-neutral", Title: "Stop on an open neutral", Clause: "722.411.4.1", Stage: job.StageCommission, Unit: true, PerPoint: true,
		Fields: []string{"commission.open-neutral"}, Check: rulebook.Asked(commission.OpenNeutral, checkOpenNeutral),
		Numbers: "none"},
	{ID: "schedule", Title: "Default schedule on", Clause: "Smart Charge Points Regulations 2021", Stage: job.StageCommission, Unit: true, PerPoint: true,
		Fields: []string{"commission.schedule"}, Check: checkSchedule,
		Numbers: "none"},
	{ID: "start-delay", Title: "Random start delay on", Clause: "Smart Charge Points Regulations 2021", Stage: job.StageCommission, Unit: true, PerPoint: true,
		Fields: []string{"commission.start-delay"}, Check: checkStartDelay,
		Numbers: "Smart Charge Points Regulations 2021: 600 s, 1800 s"},
}
