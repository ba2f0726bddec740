// Package us is the practice of the United States and its rulebook, NFPA 70 (NEC) 2023, with
// OSHA 1910.333 and ANSI C84.1 where the work leans on them. Clauses and
// figures are from memory.
package us

import (
	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/rulebook"
	"dogbolt/core/sizing"
)

// ID names the edition.
const ID = "nec:2023"

// E2023 is the edition of 2023.
var E2023 = &rulebook.Book{ID: ID, Name: "NEC 2023", Short: "NEC 2023", In: Practice, Rules: rules, Prepare: prepare, Decisions: decisions, Clauses: clauses,
	SubMain: feederClauses}

// clauses are where the rules that every rulebook shares stand in this one.
var clauses = map[string]string{
	"phases":          "240.15(B), 210.18",
	"links":           "230.79, 408.36, 215.2",
	"own-source":      "250.30, 710.15",
	"second-source":   "702.4, 702.5, 705.10, 250.30",
	"grid-out":        "702.5, 250.30",
	"sharing":         "625.42(A)",
	"dead-proved":     "OSHA 1910.333(b)(2)(iv)",
	"setting":         "625.42",
	"load-management": "625.42(A), 750.30",
	"calibration":     "common practice",
	"retests":         "common practice",
	"doubtful":        "common practice",
	"pilot":           "SAE J1772",
	"pilot-low":       "SAE J1772",
	"pilot-mid":       "SAE J1772",
	"pilot-fault":     "SAE J1772",
}

func init() {
	rulebook.Register(E2023)
	rulebook.Register(E2020)
}

// prepare works out the circuit along its route.
func prepare(s *rulebook.Subject) {
	w := sizing.ForAWG(&s.Point.Circuit, &s.Point.Place, volts(&s.Job.Survey.Supply, &s.Point.Circuit), s.Job.Board())
	s.Work = &w
}

// wires is what prepare worked out.
func wires(s *rulebook.Subject) *sizing.AWG {
	w, _ := s.Work.(*sizing.AWG)
	if w == nil {
		w = new(sizing.AWG)
	}
	return w
}

var rules = []rulebook.Rule{
	// Survey.
	{ID: "supply", Title: "Service is known", Clause: "230.79", Stage: job.StageSurvey,
		Fields: []string{"survey.supply.system", "survey.supply.rating"}, Check: checkSupply,
		Numbers: "none"},
	{ID: "supply-voltage", Title: "Service voltage in range", Clause: "ANSI C84.1 range A", Stage: job.StageSurvey,
		Fields: []string{"survey.supply.voltage"}, Check: checkSupplyVoltage,
		Numbers: "ANSI C84.1 range A"},
	{ID: "spaces", Title: "Two-pole space and circuits allowed", Clause: "408.54, panel label", Stage: job.StageSurvey, Made: true,
		Fields: []string{"survey.board.freePair", "survey.board.circuitsMax"}, Check: checkSpaces,
		Numbers: "counts of the panel and its label", Tests: "core/panel TestAgainstEveryRearrangement"},
	{ID: "working-space", Title: "Working space in front of the panel", Clause: "110.26(A)", Stage: job.StageSurvey, Made: true,
		Fields: []string{"survey.board.workingSpace"}, Check: checkWorkingSpace,
		Numbers: "NEC 110.26(A): 3 ft, 30 in, 6 ft 6 in"},
	{ID: "handle-height", Title: "Height of the breaker's handle", Clause: "404.8(A)", Stage: job.StageSurvey, Made: true,
		Fields: []string{"survey.board.handleHeight"}, Check: checkHandleHeight,
		Numbers: "NEC 404.8(A): 2.0 m, 6 ft 7 in"},
	{ID: "not-here", Title: "Work that is done otherwise here", Clause: "230.40, 230.71, 250 parts III and V", Stage: job.StageDesign, Fixed: true,
		Fields: []string{"design.beside", "design.bonds"}, Check: checkNotHere,
		Numbers: "none"},
	{ID: "panel-new", Title: "Panel in place of the old one", Clause: "110.26, 110.28, 230.67, 230.85, 250.24, 250.50, 408.36", Stage: job.StageDesign,
		Fields: []string{"design.beside"}, Check: checkRenewed,
		Numbers: "none"},
	{ID: "outbuilding", Title: "Panel in a building of its own", Clause: "225.31, 225.32, 250.32", Stage: job.StageSurvey, Made: true,
		Fields: []string{"survey.board.outbuilding.apart"}, Check: checkOutbuilding,
		Numbers: "none"},
	{ID: "loads", Title: "Loads on the service", Clause: "220.83, 220.87", Stage: job.StageSurvey, Draws: true,
		Fields: []string{"survey.loads"}, Check: rulebook.CheckLoads,
		Numbers: "NEC 220.82, 220.83, 220.87", Tests: "core/books/us TestExistingExample, TestOptionalExample"},
	{ID: "vehicles", Title: "Vehicle and its on-board charger", Clause: "common practice", Stage: job.StageSurvey, Draws: true, Charging: true,
		Fields: []string{"survey.vehicles"}, Check: rulebook.CheckVehicles,
		Numbers: "none"},
	{ID: "route", Title: "Route", Clause: "300.4, 300.5", Stage: job.StageSurvey, Made: true, PerPoint: true,
		Fields: []string{"survey.places.{p}.route"}, Check: checkRoute,
		Numbers: "measures of the survey", Tests: "core/route TestConnects"},
	{ID: "route-bends", Title: "Bends between pull points", Clause: "358.26, 352.26", Stage: job.StageSurvey, Made: true, PerPoint: true,
		Fields: []string{"survey.places.{p}.route"}, Check: rulebook.CheckBends(rulebook.Stop),
		Numbers: "NEC 358.26, 352.26: 360°", Tests: "core/route TestBends"},
	{ID: "cover", Title: "Cover of buried wiring", Clause: "300.5(A)", Stage: job.StageSurvey, Made: true, PerPoint: true,
		Fields: []string{"survey.places.{p}.route"}, Check: rulebook.CheckDepth(rulebook.Stop),
		Numbers: "NEC table 300.5", Tests: "core/books/us TestCover"},
	{ID: "framing", Title: "Cable in framing kept from screws", Clause: "300.4(A), 300.4(D)", Stage: job.StageSurvey, Made: true, PerPoint: true,
		Fields: []string{"survey.places.{p}.route"}, Check: checkFraming,
		Numbers: "NEC 300.4: 1¼ in, 1/16 in"},
	{ID: "ground-exit", Title: "Wiring where it leaves the ground", Clause: "300.5(D), 300.5(J)", Stage: job.StageSurvey, Made: true, PerPoint: true,
		Fields: []string{"survey.places.{p}.route"}, Check: checkGroundExit,
		Numbers: "NEC 300.5(D): 18 in, 8 ft"},
	{ID: "position", Title: "Position chosen, with a reason", Clause: "common practice", Stage: job.StageSurvey, Made: true, Charging: true, PerPoint: true,
		Fields: []string{"survey.sitePlan.positions"}, Check: rulebook.CheckPosition,
		Numbers: "none", Tests: "core/reach TestClearances"},
	{ID: "cord-reach", Title: "Cord reaches, across nothing", Clause: "common practice", Stage: job.StageSurvey, Made: true, Unit: true, PerPoint: true,
		Fields: []string{"survey.sitePlan.positions"}, Check: rulebook.CheckReach,
		Numbers: "geometry of the site plan; slack by common practice", Tests: "core/reach TestAgainstBruteForce, TestCords"},
	{ID: "coupling-height", Title: "Height of the coupling or holder", Clause: "625.50", Stage: job.StageSurvey, Made: true, Unit: true, PerPoint: true,
		Fields: []string{"survey.places.{p}.holderHeight", "survey.places.{p}.outdoors"}, Check: checkHeight,
		Numbers: "NEC 625.50: 18 in, 24 in", Tests: "core/reach TestClearances"},

	// Design.
	{ID: "own-circuit", Title: "Individual branch circuit", Clause: "625.40", Stage: job.StageDesign, Charging: true, PerPoint: true,
		Fields: []string{"design.circuits.{p}.dedicated"}, Check: rulebook.CheckOwnCircuit,
		Numbers: "none"},
	{ID: "setting-charger", Title: "Setting within the charger's rating", Clause: "625.42, 110.3(B)", Stage: job.StageDesign, Unit: true, PerPoint: true,
		Fields: []string{"design.circuits.{p}.setting"}, Check: rulebook.CheckSettingCharger,
		Numbers: "IEC 61851-1 annex A: 6 A"},
	{ID: "breaker", Title: "Breaker at 125 % of the setting", Clause: "625.41, 210.20(A)", Stage: job.StageDesign, PerPoint: true,
		Fields: []string{"design.circuits.{p}.breaker.rating"}, Check: checkBreaker,
		Numbers: "NEC 240.6(A), 125 %", Tests: "core/protection TestNECBreakers"},
	{ID: "terminal-ampacity", Title: "Conductor at the terminals, 125 %", Clause: "210.19(A)(1), 110.14(C), 334.80",
		Stage: job.StageDesign, Draws: true, PerPoint: true,
		Fields: []string{"design.circuits.{p}.cable.size", "survey.board.terminals"}, Check: rulebook.EachCable(checkTermination),
		Numbers: "NEC table 310.16", Tests: "core/conductor TestAWGTable; core/sizing TestThreeChecks"},
	{ID: "derated-ampacity", Title: "Conductor as it is run", Clause: "310.15, 310.16", Stage: job.StageDesign, Draws: true, PerPoint: true,
		Fields: []string{"design.circuits.{p}.cable.size", "survey.places.{p}.route"}, Check: rulebook.EachCable(checkDerated),
		Numbers: "NEC tables 310.16, 310.15(B)(1), 310.15(C)(1); 310.15(B)(2): 33 °C",
		Tests:   "core/conductor TestAWGAmbient, TestAdjustment; core/sizing TestThreeChecks"},
	{ID: "conductor-protection", Title: "Breaker protects the conductor", Clause: "240.4(B), 240.4(D)", Stage: job.StageDesign, Draws: true, PerPoint: true,
		Fields: []string{"design.circuits.{p}.breaker.rating", "design.circuits.{p}.cable.size"}, Check: rulebook.EachCable(checkProtection),
		Numbers: "NEC 240.4(B), 240.4(D), 240.6(A)", Tests: "core/sizing TestThreeChecks"},
	{ID: "terminal-metal", Title: "Terminals take the conductor's metal", Clause: "110.14", Stage: job.StageDesign, Draws: true, PerPoint: true,
		Fields: []string{"design.circuits.{p}.cable.material", "design.circuits.{p}.cable.alMarked"}, Check: rulebook.EachCable(checkMetal),
		Numbers: "none"},
	{ID: "wet", Title: "Cable allowed where it runs", Clause: "334.12, 300.9", Stage: job.StageDesign, Made: true, PerPoint: true,
		Fields: []string{"design.circuits.{p}.cable.family", "survey.places.{p}.route"}, Check: rulebook.EachCable(checkWet),
		Numbers: "none", Tests: "core/sizing TestNMBInWetPlaces"},
	{ID: "fill", Title: "Raceway fill", Clause: "chapter 9 table 1", Stage: job.StageDesign, Made: true, PerPoint: true,
		Fields: []string{"survey.places.{p}.route"}, Check: rulebook.CheckFill(rulebook.Stop),
		Numbers: "NEC chapter 9 tables 1, 4, 5", Tests: "core/route TestFill; core/conductor TestRaceway"},
	{ID: "joint", Title: "Joint box on the route", Clause: "300.15, 314.29, 314.16, 314.28", Stage: job.StageDesign, Made: true, PerPoint: true,
		Fields: []string{"design.circuits.{p}.beyond.from"}, Check: rulebook.CheckJoint,
		Numbers: "none"},
	{ID: "ground-size", Title: "Equipment grounding conductor", Clause: "250.122", Stage: job.StageDesign, Made: true, PerPoint: true,
		Fields: []string{"design.circuits.{p}.cable.earthSize"}, Check: rulebook.EachCable(checkGround),
		Numbers: "NEC table 250.122, chapter 9 table 8", Tests: "core/conductor TestEquipmentGround, TestEnlargedGround"},
	{ID: "drop", Title: "Voltage drop", Clause: "210.19 informational note", Stage: job.StageDesign, Draws: true, PerPoint: true,
		Fields: []string{"design.circuits.{p}.cable.size"}, Check: checkDrop,
		Numbers: "NEC chapter 9 table 8, 3 %", Tests: "core/sizing TestNECDrop"},
	{ID: "demand", Title: "Service load", Clause: "220.83, 220.87, 220.57", Stage: job.StageDesign, Draws: true,
		Fields: []string{"survey.supply.rating", "survey.loads"}, Check: checkDemand,
		Numbers: "NEC 220.82, 220.83, 220.87", Tests: "core/books/us TestExistingExample, TestOptionalExample, TestServiceOf208"},
	{ID: "ev-load", Title: "Charging load at least 7200 VA", Clause: "220.57", Stage: job.StageDesign, Draws: true, Charging: true, PerPoint: true,
		Fields: []string{"design.circuits.{p}.setting"}, Check: checkEVLoad,
		Numbers: "NEC 220.57: 7200 VA"},
	{ID: "receptacle", Title: "Receptacle", Clause: "625.44, 210.21(B)(1)", Stage: job.StageDesign, Draws: true, Charging: true, PerPoint: true,
		Fields: []string{"design.circuits.{p}.connection", "design.circuits.{p}.receptacle.rating"}, Check: checkReceptacle,
		Numbers: "NEC 625.44: 50 A; 80 %"},
	{ID: "box-fill", Title: "Box large enough for the receptacle", Clause: "314.16(B)", Stage: job.StageDesign, Made: true, Charging: true, PerPoint: true,
		Fields: []string{"design.circuits.{p}.receptacle.box"}, Check: rulebook.LastCable(checkBox),
		Numbers: "NEC tables 314.16(A) and (B)", Tests: "core/books/us TestBoxFill"},
	{ID: "receptacle-gfci", Title: "Ground-fault protection of the outlet", Clause: "625.54, 210.8(F)", Stage: job.StageDesign, Charging: true, PerPoint: true,
		Fields: []string{"design.circuits.{p}.receptacle.gfci"}, Check: checkGFCI,
		Numbers: "NEC 210.8(F): 50 A, 150 V"},
	{ID: "interrupting", Title: "Breaker interrupts the available fault current", Clause: "110.9, 110.24", Stage: job.StageDesign, Made: true, PerPoint: true,
		Fields: []string{"design.circuits.{p}.breaker.breakingKa", "survey.board.breakingKa", "survey.supply.faultCurrent"}, Check: checkInterrupting,
		Numbers: "the utility's or the transformer's; common practice: 10 kA"},
	{ID: "enclosure", Title: "Enclosure and cover outdoors", Clause: "110.28, 406.9(B), 625.56", Stage: job.StageDesign, Made: true, Charging: true, PerPoint: true,
		Fields: []string{"design.circuits.{p}.charger.enclosure", "design.circuits.{p}.receptacle.inUseCover"}, Check: checkEnclosure,
		Numbers: "table 110.28"},
	{ID: "cord", Title: "Cord length", Clause: "625.17", Stage: job.StageDesign, Made: true, Unit: true, PerPoint: true,
		Fields: []string{"design.circuits.{p}.charger.outlet", "design.circuits.{p}.charger.cordLength"}, Check: checkCord,
		Numbers: "NEC 625.17: 25 ft"},
	{ID: "supply-cord", Title: "Cord of a unit that is plugged in", Clause: "625.17(A), 625.44(B)", Stage: job.StageDesign, Made: true, Unit: true, PerPoint: true,
		Fields: []string{"design.circuits.{p}.charger.supplyCord", "design.circuits.{p}.receptacle.cordClear"}, Check: checkSupplyCord,
		Numbers: "NEC 625.17(A)(3): 6 ft"},
	{ID: "detached", Title: "Building apart from the panel's", Clause: "225.30, 225.31, 225.32, 250.32(A)", Stage: job.StageDesign, Made: true, Charging: true, PerPoint: true,
		Fields: []string{"survey.places.{p}.detached", "design.circuits.{p}.disconnect"}, Check: checkDetached,
		Numbers: "none"},
	{ID: "feeder", Title: "Feeder and the panel at its end", Clause: "215, 225.30 to 225.36, 250.32, 408.36, 110.26, 404.8", Stage: job.StageDesign, PerPoint: true,
		Fields: []string{"design.circuits.{p}.end", "survey.places.{p}.detached", "survey.places.{p}.otherSupply"}, Check: checkFeeder,
		Numbers: "NEC 404.8(A): 2.0 m, 6 ft 7 in; the utility's or the transformer's fault current; common practice: 10 kA"},
	{ID: "spd", Title: "Surge protection", Clause: "230.67", Stage: job.StageDesign, Made: true, PerPoint: true,
		Fields: []string{"design.circuits.{p}.spd"}, Check: checkSPD,
		Numbers: "none"},
	{ID: "disconnect", Title: "Disconnecting means", Clause: "625.43", Stage: job.StageDesign, Draws: true, Charging: true, PerPoint: true,
		Fields: []string{"design.circuits.{p}.disconnect"}, Check: checkDisconnect,
		Numbers: "NEC 625.43: 60 A, 150 V"},
	{ID: "neutral", Title: "Neutral where the charger needs one", Clause: "110.3(B)", Stage: job.StageDesign, Made: true, Unit: true, PerPoint: true,
		Fields: []string{"design.circuits.{p}.receptacle.neutral"}, Check: checkNeutral,
		Numbers: "none"},

	// Install.
	{ID: "white", Title: "White conductor used as a hot", Clause: "200.7(C)", Stage: job.StageInstall, Made: true, PerPoint: true,
		Fields: []string{"install.remark", "design.circuits.{p}.cable.whiteIsHot"}, Check: rulebook.EachCable(checkWhite),
		Numbers: "none"},
	{ID: "run", Title: "Length run as judged", Clause: "common practice", Stage: job.StageInstall, PerPoint: true,
		Fields: []string{"install.cable"}, Check: rulebook.CheckRun,
		Numbers: "5 %: common practice, no source"},
	{ID: "torque", Title: "Torque of every terminal", Clause: "110.14(D)", Stage: job.StageInstall, PerPoint: true,
		Fields: []string{"install.torque"}, Check: checkTorque,
		Numbers: "the terminal's label; ISO 6789: 6 %"},
	{ID: "directory", Title: "Circuit directory", Clause: "408.4(A)", Stage: job.StageInstall, Removals: true,
		Fields: []string{"install.labels"}, Check: checkDirectory,
		Numbers: "none"},

	// Commission.
	{ID: "ground-continuity", Title: "Equipment ground continuity", Clause: "250.4(A)(5)", Stage: job.StageCommission, PerPoint: true, Fixed: true,
		Fields: []string{"commission.ground-continuity"}, Check: rulebook.Asked(commission.Ground, checkContinuity),
		Numbers: "NEC chapter 9 table 8; IEC 61557-4: 30 %", Tests: "core/conductor TestResistanceFollowsArea"},
	{ID: "insulation", Title: "Insulation resistance", Clause: "110.7", Stage: job.StageCommission, Removals: true, PerPoint: true, Fixed: true,
		Fields: []string{"commission.insulation"}, Check: insulation(commission.Insulation),
		Numbers: "common practice: 1 MΩ"},
	{ID: "insulation-live", Title: "Insulation, hot to hot", Clause: "110.7", Stage: job.StageCommission, Removals: true, PerPoint: true, Fixed: true,
		Fields: []string{"commission.insulation-live"}, Check: insulation(commission.InsulationLive),
		Numbers: "common practice: 1 MΩ"},
	{ID: "hot-hot", Title: "Voltage, hot to hot", Clause: "ANSI C84.1 range A", Stage: job.StageCommission, PerPoint: true,
		Fields: []string{"commission.hot-hot"}, Check: rulebook.Asked(commission.HotHot, checkHotHot),
		Numbers: "ANSI C84.1 range A"},
	{ID: "hot-ground", Title: "Voltage, each hot to ground", Clause: "ANSI C84.1; common practice", Stage: job.StageCommission, PerPoint: true, Fixed: true,
		Fields: []string{"commission.hot-ground-l1", "commission.hot-ground-l2"}, Check: rulebook.Asked(commission.HotGround1, checkHotGround, commission.HotGround2),
		Numbers: "ANSI C84.1 range A; common practice"},
	{ID: "stray", Title: "Voltage of ground to neutral", Clause: "common practice", Stage: job.StageCommission, PerPoint: true,
		Fields: []string{"commission.stray"}, Check: rulebook.Asked(commission.Stray, checkStray),
		Numbers: "common practice: 2 V"},
	{ID: "behind", Title: "What else is fed anew", Clause: "110.7, 110.3(B)", Stage: job.StageCommission, PerPoint: true,
		Fields: []string{"commission.behind"}, Check: rulebook.Asked(commission.Behind, rulebook.CheckBehind),
		Numbers: "none"},
	{ID: "gfci-trip", Title: "Receptacle ground-fault trip", Clause: "UL 943 class A", Stage: job.StageCommission, PerPoint: true, Fixed: true,
		Fields: []string{"commission.gfci-trip"}, Check: rulebook.Asked(commission.GFCITrip, checkGFCITrip),
		Numbers: "UL 943: 4 to 6 mA"},
	{ID: "gf-self-test", Title: "Charger ground-fault self-test", Clause: "625.22, 110.3(B)", Stage: job.StageCommission, Unit: true, PerPoint: true,
		Fields: []string{"commission.gf-self-test"}, Check: checkSelfTest,
		Numbers: "none"},
	{ID: "vehicle-states", Title: "Vehicle states and contactor", Clause: "SAE J1772", Stage: job.StageCommission, Unit: true, PerPoint: true,
		Fields: []string{"commission.vehicle-states"}, Check: checkStates,
		Numbers: "none"},
}
