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
var inspections = inspect.Schedule{Title: "Inspection checklist", By: []inspect.Visit{{Paper: "rough-in"}, {Paper: "final"}}, Items: []inspect.Item{
	{ID: "run-secured", Part: roughIn, Clause: "300.11, 334.30, 358.30, 352.30", Title: "Cable or raceway secured and supported by spacing",
		Not: circuitThere, After: []string{worklog.RunCable}},
	{ID: "run-framing", Part: roughIn, Clause: "300.4, 334.24", Title: "In framing: edge distance or plates, no sharp bends",
		Not: noFraming, After: []string{worklog.RunCable}},
	{ID: "run-bends", Part: roughIn, Clause: "358.26, chapter 9", Title: "Bends between pull points, fill",
		Not: noRaceway, Rules: []string{"route-bends", "fill"}, After: []string{worklog.RunCable}},
	{ID: "run-buried", Part: roughIn, Clause: "300.5", Title: "Trench open: depth, warning ribbon, risers, bushings",
		Not: notBuried, After: []string{worklog.RunCable}},
	{ID: "run-boxes", Part: roughIn, Clause: "314.16, 314.17, 314.29", Title: "Boxes: size, fill, clamps, in reach",
		Not: noBox, After: []string{worklog.RunCable}},
	{ID: "run-ground", Part: roughIn, Clause: "250.118, 250.122", Title: "Equipment ground run with the circuit, sized by the breaker",
		Rules: []string{"ground-size"}, After: []string{worklog.RunCable}},
	{ID: "run-holes", Part: roughIn, Clause: "300.21, 300.7", Title: "Holes sealed against fire, water and draught; raceway ends reamed",
		Not: circuitThere, After: []string{worklog.RunCable}},

	{ID: "panel-space", Least: job.TouchedInside, Part: atPanel, Clause: "110.26, 110.12(A)", Title: "Working space clear, cover and filler plates in place",
		After: []string{worklog.EndFed, worklog.Lids}},
	{ID: "panel-work", Least: job.TouchedInside, Part: atPanel, Clause: "110.12, 110.14(A), 312.5(C), 110.3(B)",
		Title: "Breaker listed for the panel, cable clamped, nothing double under one screw", After: []string{worklog.BoardWork, worklog.EndFed}},
	{ID: "panel-torque", Least: job.TouchedInside, Part: atPanel, Clause: "110.14(D)", Title: "Terminals tightened by their labels", Rules: []string{"torque"}},
	{ID: "panel-breaker", Part: atPanel, Clause: "625.41, 240.4", Title: "Breaker sized at 125 %, protects the conductor",
		Rules: []string{"breaker", "conductor-protection"}, Steps: []string{worklog.BoardWork}},
	{ID: "panel-white", Part: atPanel, Clause: "200.7(C)", Title: "White conductors that are hots re-marked", Rules: []string{"white"}},
	{ID: "panel-directory", Least: job.TouchedInside, Part: atPanel, Clause: "408.4(A)", Title: "Directory says what and where", Rules: []string{"directory"}},
	{ID: "panel-fault", Part: atPanel, Clause: "110.9, 110.10", Title: "Devices interrupt the available fault current", Rules: []string{"interrupting"}},

	{ID: "unit-listed", Least: job.TouchedSetting, Part: atUnit, Clause: "110.3(B), 625.6", Title: "Listed, undamaged, by its instructions",
		Not: noUnit, After: []string{worklog.ChargerEnd}},
	{ID: "unit-outside", Least: job.TouchedInside, Part: atUnit, Clause: "110.28, 300.6, 406.9", Title: "Enclosure, entries and cover for its place",
		After: []string{worklog.ChargerEnd, worklog.EndFed}},
	{ID: "unit-height", Part: atUnit, Clause: "625.50", Title: "Height of the coupling or holder",
		Not: noUnit, Rules: []string{"coupling-height"}, After: []string{worklog.ChargerEnd}},
	{ID: "unit-outlet", Part: atUnit, Clause: "625.40, 625.54", Title: "Receptacle: rating, ground-fault protection",
		Not: inspect.Either(feeds, wired), Rules: []string{"receptacle", "receptacle-gfci"}, Steps: []string{worklog.Outlet}},
	{ID: "unit-disconnect", Least: job.TouchedInside, Part: atUnit, Clause: "625.43, 110.25", Title: "Disconnecting means in sight or locks, plaque where remote",
		Not: inspect.Either(feeds, small), After: []string{worklog.ChargerEnd}},
	{ID: "unit-setting", Least: job.TouchedSetting, Part: atUnit, Clause: "625.42(B)", Title: "Charger set and locked as designed", Not: noUnit, Rules: []string{"setting"}},
	{ID: "unit-managed", Least: job.TouchedSetting, Part: atUnit, Clause: "750.30, 625.42(A)", Title: "Energy management listed, its setting marked",
		Not: inspect.Either(feeds, notManaged), After: []string{worklog.ChargerEnd}},
	{ID: "unit-guarded", Part: atUnit, Clause: "110.27(B)", Title: "Guarded from vehicles where one can hit it",
		Not: noUnit, After: []string{worklog.ChargerEnd}},

	{ID: "papers-there", Least: job.TouchedSetting, Part: papered, Clause: "local rules; 110.3(B)", Title: "Permit, approved drawings and makers' instructions on site"},
	{ID: "papers-load", Least: job.TouchedSetting, Part: papered, Clause: "220 parts III to V", Title: "Service load as in the permit's worksheet", Rules: []string{"demand"}},
}}

// Why things are not there.
var (
	// An outlet that was there already has no new wiring.
	circuitThere = inspect.NoPoint("the circuit was there already", func(p *job.Point) bool { return !p.Circuit.Kept() || p.Circuit.Extended() })
	noFraming    = inspect.NoRoute("nothing runs in framing", job.StudWall, job.CeilingThin, job.CeilingThick, job.InInsulation)
	noRaceway    = inspect.NoRoute("no raceway", job.Conduit, job.ConduitInWall, job.Trunking, job.Buried)
	notBuried    = inspect.NoRoute("nothing is buried", job.Buried)
	noBox        = inspect.NoPoint("one length from the panel to the unit, no box between", func(p *job.Point) bool {
		pulls := func(s job.Segment) bool { return s.Pull != job.No } // or nobody looked
		return p.Joined() || p.Circuit.Connection != job.HardWired && !p.Circuit.EndsInBoard() || !p.Place.Surveyed() || slices.ContainsFunc(p.Place.Route, pulls)
	})
	wired = inspect.NoPoint("the unit is wired in", func(p *job.Point) bool { return p.Circuit.Connection != job.HardWired })
	// 625.43 asks for a disconnecting means above 60 A or 150 V to ground.
	small = inspect.NoPoint("not more than 60 A and 150 V to ground", func(p *job.Point) bool {
		c := &p.Circuit
		return rated(c) == 0 || rated(c) > 60 || c.Disconnect == job.Yes
	})
	noUnit     = inspect.Either(feeds, inspect.NoPoint("an outlet, and no charger comes with this work", func(p *job.Point) bool { return p.Circuit.Unit() }))
	feeds      = inspect.NoPoint("a feeder to a panel: chargers on it are jobs of their own", func(p *job.Point) bool { return !p.Circuit.EndsInBoard() })
	notManaged = inspect.NoPoint("the charger's full load is counted", inspect.Managed)
)
