package us

import (
	"slices"

	"dogbolt/core/inspect"
	"dogbolt/core/job"
	"dogbolt/core/worklog"
)

// Parts of the checklist.
const (
	roughIn = "Rough-in, before anything is covered"
	atPanel = "Final: panel"
	atUnit  = "Final: charging equipment"
	papered = "Final: papers for the inspector"
)

// inspections is what the contractor looks at before the inspector does: what rough-in and final
// inspections of a dwelling's branch circuit for charging ask by NEC 2023, in our words and from memory.
var inspections = inspect.Schedule{Title: "Inspection checklist", Items: []inspect.Item{
	{ID: "run-secured", Part: roughIn, Title: "Cable or raceway secured and supported by spacing", Clause: "300.11, 334.30, 358.30, 352.30", Not: circuitThere, After: []string{worklog.RunCable}},
	{ID: "run-framing", Part: roughIn, Title: "In framing: edge distance or plates, no sharp bends", Clause: "300.4, 334.24", Not: noFraming, Rules: []string{"framing"}, After: []string{worklog.RunCable}},
	{ID: "run-bends", Part: roughIn, Title: "Bends between pull points, ends reamed, fill", Clause: "358.26, 358.28, chapter 9", Not: noRaceway, Rules: []string{"route-bends", "fill"}, After: []string{worklog.RunCable}},
	{ID: "run-buried", Part: roughIn, Title: "Trench open: depth, risers, bushings", Clause: "300.5", Not: notBuried, Rules: []string{"cover"}, After: []string{worklog.RunCable}},
	{ID: "run-boxes", Part: roughIn, Title: "Boxes: size, fill, clamps, in reach", Clause: "314.16, 314.17, 314.29", Not: noBox, After: []string{worklog.RunCable}},
	{ID: "run-ground", Part: roughIn, Title: "Equipment ground run with the circuit, sized by the breaker", Clause: "250.118, 250.122", Rules: []string{"ground-size"}},
	{ID: "run-holes", Part: roughIn, Title: "Holes sealed against fire, water and draught", Clause: "300.21, 300.7", After: []string{worklog.RunCable}},

	{ID: "panel-space", Part: atPanel, Title: "Working space clear, cover and filler plates in place", Clause: "110.26, 110.12(A)", After: []string{worklog.Lids}},
	{ID: "panel-work", Part: atPanel, Title: "Neat and workmanlike, cable clamped, nothing double under one screw", Clause: "110.12, 110.14(A), 312.5(C)", After: []string{worklog.BoardWork}},
	{ID: "panel-torque", Part: atPanel, Title: "Terminals tightened by their labels", Clause: "110.14(D)", Rules: []string{"torque"}},
	{ID: "panel-breaker", Part: atPanel, Title: "Breaker listed for the panel, sized at 125 %", Clause: "110.3(B), 625.41", Rules: []string{"breaker", "conductor-protection"}, Steps: []string{worklog.BoardWork}},
	{ID: "panel-white", Part: atPanel, Title: "White conductors that are hots re-marked", Clause: "200.7(C)", Rules: []string{"white"}},
	{ID: "panel-directory", Part: atPanel, Title: "Directory says what and where", Clause: "408.4(A)", Rules: []string{"directory"}},
	{ID: "panel-fault", Part: atPanel, Title: "Devices interrupt the available fault current", Clause: "110.9, 110.10", Rules: []string{"interrupting"}},

	{ID: "unit-listed", Part: atUnit, Title: "Listed, undamaged, by its instructions", Clause: "110.3(B), 625.6", After: []string{worklog.ChargerEnd}},
	{ID: "unit-outside", Part: atUnit, Title: "Enclosure, entries and cover for its place", Clause: "110.28, 300.6, 406.9", Rules: []string{"enclosure"}, After: []string{worklog.ChargerEnd}},
	{ID: "unit-height", Part: atUnit, Title: "Height of the coupling or holder", Clause: "625.50", Rules: []string{"coupling-height"}, After: []string{worklog.ChargerEnd}},
	{ID: "unit-outlet", Part: atUnit, Title: "Receptacle: rating, ground-fault protection, cover", Clause: "625.40, 625.54, 406.9(B)", Not: wired, Rules: []string{"receptacle", "receptacle-gfci"}, Steps: []string{worklog.Outlet}},
	{ID: "unit-disconnect", Part: atUnit, Title: "Disconnecting means in sight or locks, plaque where remote", Clause: "625.43, 110.25", Not: small, Rules: []string{"disconnect"}},
	{ID: "unit-setting", Part: atUnit, Title: "Adjusted setting guarded and on the label", Clause: "625.42(B)", Rules: []string{"setting"}},
	{ID: "unit-managed", Part: atUnit, Title: "Energy management listed, its setting marked", Clause: "750.30, 625.42(A)", Not: notManaged, Rules: []string{"load-management"}},
	{ID: "unit-guarded", Part: atUnit, Title: "Guarded from vehicles where one can hit it", Clause: "110.27(B)", After: []string{worklog.ChargerEnd}},

	{ID: "papers-there", Part: papered, Title: "Permit, approved drawings and makers' instructions on site", Clause: "local rules; 110.3(B)"},
	{ID: "papers-load", Part: papered, Title: "Service load as in the permit's worksheet", Clause: "220 parts III to V", Rules: []string{"demand"}},
}}

// Why things are not there.
var (
	// An outlet that was there already has no new wiring.
	circuitThere = inspect.NoPoint("the circuit was there already", func(p *job.Point) bool { return p.Circuit.Existing != job.Yes })
	noFraming    = inspect.NoRoute("nothing runs in framing", job.StudWall, job.CeilingThin, job.CeilingThick, job.InInsulation)
	noRaceway    = inspect.NoRoute("no raceway", job.Conduit, job.ConduitInWall, job.Trunking, job.Buried)
	notBuried    = inspect.NoRoute("nothing is buried", job.Buried)
	noBox        = inspect.NoPoint("one length from the panel to the unit, no box between", func(p *job.Point) bool {
		pulls := func(s job.Segment) bool { return s.Pull != job.No } // or nobody looked
		return p.Joined() || p.Circuit.Connection != job.HardWired || !p.Place.Surveyed() || slices.ContainsFunc(p.Place.Route, pulls)
	})
	wired = inspect.NoPoint("the unit is wired in", func(p *job.Point) bool { return p.Circuit.Connection != job.HardWired })
	// 625.43 asks for a disconnecting means above 60 A or 150 V to ground.
	small = inspect.NoPoint("not more than 60 A and 150 V to ground", func(p *job.Point) bool {
		c := &p.Circuit
		return c.Charger.Rating == 0 || c.Charger.Rating > 60 || c.Disconnect == job.Yes
	})
	notManaged = inspect.NoPoint("the charger's full load is counted", inspect.Managed)
)
