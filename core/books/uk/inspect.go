package uk

import (
	"slices"
	"strings"

	"dogbolt/core/inspect"
	"dogbolt/core/job"
	"dogbolt/core/worklog"
)

// Parts of the schedule.
const (
	intake     = "Intake equipment, as seen from outside"
	other      = "Other sources of supply"
	earthing   = "Earthing, bonding and disconnection"
	basic      = "Protection against touch"
	unit       = "Consumer unit"
	circuits   = "Circuit"
	isolating  = "Isolation and switching"
	equipment  = "Charging equipment and its location"
	statements = "For the certificate"
)

// inspections is the schedule of inspections of new work at a dwelling's supply to 100 A: the subjects
// of BS 7671 appendix 6 and GN3 that may bear on a charging point, in our words and from memory. What
// the schedule has of things that no charging point has (FELV, location by a bath, separated
// supplies) is one item.
var inspections = inspect.Schedule{Title: "Schedule of inspections", Items: append(looked, certified...)}

var looked = []inspect.Item{
	{ID: "intake", Part: intake, Title: "Service cable, cutout, meter and tails: no damage, no heat", Clause: "642.2, 132.12"},
	{ID: "intake-secure", Part: intake, Title: "Tails and their clamps secure, no basic insulation in sight", Clause: "521.10.1"},
	{ID: "sources", Part: other, Title: "A second source: isolation, notice and interlock", Clause: "551.6, 551.7, 514.15.1", Not: oneSource},
	{ID: "earth-means", Part: earthing, Title: "Means of earthing there and marked", Clause: "542.1, 514.13.1", Rules: []string{"supply", "polarity-origin"}},
	{ID: "earth-bond", Part: earthing, Title: "Earthing conductor and main bonding: size, connections, labels in sight", Clause: "542.3, 544.1, 514.13.1", Rules: []string{"bonding", "bonding-continuity"}},
	{ID: "earth-joined", Part: earthing, Title: "Earthing conductor tight again after the test at the origin", Clause: "542.4.2, 643.7.3", Steps: []string{worklog.Rejoin}},
	{ID: "electrode", Part: earthing, Title: "Earth electrode: connection, label, apart from other earths", Clause: "542.2, 722.411.4.1", Not: noElectrode, Rules: []string{"tt"}},
	{ID: "disconnection", Part: earthing, Title: "Automatic disconnection: protective conductor and device as designed", Clause: "411.3, 543.1", Rules: []string{"earth-size", "zs-design", "zs"}},
	{ID: "extra", Part: earthing, Title: "Additional protection at 30 mA", Clause: "415.1, 722.531.3.1", Rules: []string{"rcd", "rcd-trip", "rcd-time"}},
	{ID: "barriers", Part: basic, Title: "Insulation, barriers and enclosures of live parts", Clause: "416.1, 416.2", After: []string{worklog.Lids}},
	{ID: "other-ways", Part: basic, Title: "Obstacles, separation, reduced or functional low voltage", Clause: "410.3.5, 413, 414, 411.7",
		Not: func(*job.Job) string { return "a charging point does not use them" }},
	{ID: "unit-place", Part: unit, Title: "Room to work, fixing, enclosure and cover whole, entries closed", Clause: "132.12, 134.1.1, 416.2, 421.1.201", After: []string{worklog.BoardWork, worklog.Lids}},
	{ID: "unit-switch", Part: unit, Title: "Main switch linked, works by hand, marked", Clause: "462.1.201, 537", After: []string{worklog.BoardWork}},
	{ID: "unit-devices", Part: unit, Title: "Devices of right type and rating, made for this board, work by hand", Clause: "536.4.203, 643.10", Rules: []string{"breaking", "ib-in"}, Steps: []string{worklog.BoardWork}},
	{ID: testButton, Part: unit, Title: "Test button of the residual device works", Clause: "643.10", Not: noResidual, After: []string{worklog.BoardWork}},
	{ID: "unit-poles", Part: unit, Title: "Single-pole devices in the line alone", Clause: "132.14.1, 530.3.3", Rules: []string{"polarity-dead", "polarity-live"}},
	{ID: "unit-tight", Part: unit, Title: "Connections tight and by their torque", Clause: "526.1, 134.1.1", Steps: []string{worklog.BoardWork}},
	{ID: "unit-labels", Part: unit, Title: "Chart, test-button notice and warnings in place", Clause: "514.8, 514.9, 514.12", Steps: []string{worklog.Labels}},
	{ID: "unit-surge", Part: unit, Title: "Surge protection: type, leads, indicator", Clause: "534.4, 443.4", Not: noSurge, Rules: []string{"spd"}, After: []string{worklog.SurgeDevice}},
	{ID: "cable-marked", Part: circuits, Title: "Conductors identified at both ends", Clause: "514.3", After: []string{worklog.BoardWork, worklog.ChargerEnd}},
	{ID: "cable-fixed", Part: circuits, Title: "Cables supported, undamaged, bends not too tight", Clause: "522.8, 521.10.202", Steps: []string{worklog.RunCable}},
	{ID: "cable-hidden", Part: circuits, Title: "Hidden cables in their zones, at depth or guarded", Clause: "522.6.201 to 204", Not: inSight, After: []string{worklog.RunCable}},
	{ID: "cable-ground", Part: circuits, Title: "Buried cable deep enough, marked and guarded", Clause: "522.8.10", Not: notBuried, Rules: []string{"buried"}, After: []string{worklog.RunCable}},
	{ID: "cable-size", Part: circuits, Title: "Conductors for their current and voltage drop", Clause: "523, 525", Rules: []string{"in-iz", "drop", "run"}},
	{ID: "cable-guarded", Part: circuits, Title: "Overcurrent protection agrees with the conductors", Clause: "433.1, 434.5", Rules: []string{"ib-in", "in-iz", "breaking"}},
	{ID: "cable-apart", Part: circuits, Title: "Apart from data cables, pipes and heat", Clause: "528", After: []string{worklog.RunCable}},
	{ID: "cable-around", Part: circuits, Title: "Fit for sun, water, impact and other influences", Clause: "522", After: []string{worklog.RunCable}},
	{ID: "cable-joint", Part: circuits, Title: "Joints: enclosed, secure, in reach", Clause: "526.3, 526.5", Not: oneLength, Steps: []string{worklog.JointBox}},
	{ID: "cable-fire", Part: circuits, Title: "Holes sealed, cables held where fire could let them fall", Clause: "527.2, 521.10.202", After: []string{worklog.Lids}},
	{ID: "isolator", Part: isolating, Title: "Means of isolation: all live poles, locks, marked, in reach", Clause: "537.2, 722.537", Rules: []string{"isolation-device"}, After: []string{worklog.BoardWork}},
	{ID: "charger-sound", Part: equipment, Title: "Equipment undamaged, marked to its standard, by its maker's instructions", Clause: "133.1.3, 722.55.101, 134.1.1", After: []string{worklog.ChargerEnd}},
	{ID: "charger-fixed", Part: equipment, Title: "Fixed, sealed at its entries, guarded from vehicles", Clause: "134.1.1, 722.512.2", After: []string{worklog.ChargerEnd}},
	{ID: "charger-water", Part: equipment, Title: "Protection against water and bodies for its place", Clause: "722.512.2, 512.2", Rules: []string{"ip"}},
	{ID: "charger-height", Part: equipment, Title: "Height and place of the socket or holder", Clause: "722.55", Rules: []string{"holder-height"}, After: []string{worklog.ChargerEnd}},
	{ID: "charger-own", Part: equipment, Title: "A circuit of its own", Clause: "722.533", Rules: []string{"own-circuit"}},
	{ID: "charger-pen", Part: equipment, Title: "Protection where the supply's neutral breaks", Clause: "722.411.4.1", Not: ownEarth, Rules: []string{"open-pen"}},
	{ID: "charger-direct", Part: equipment, Title: "Direct residual current: type of device, detection", Clause: "722.531.3.101", Rules: []string{"rcd-type", "rcd-upstream"}},
	{ID: "charger-load", Part: equipment, Title: "Load management: limit, sensors, what happens when it fails", Clause: "722.311.201", Not: notManaged, Rules: []string{"load-management"}},

	{ID: "extent", Part: statements, Title: "What this certificate covers", Clause: "appendix 6", Words: true, Offer: extent},
	{ID: "limits", Part: statements, Title: "Limitations agreed, with whom", Clause: "appendix 6, GN3", Words: true, Offer: nothing},
	{ID: "departures", Part: statements, Title: "Departures from BS 7671", Clause: "120.3, 133.1.3, 133.5", Words: true, Offer: departures},
	{ID: "existing", Part: statements, Title: "Defects seen in the existing installation", Clause: "644.1.2", Words: true},
	// GN3 table 3.2: domestic ten years or at a change of occupancy. From memory.
	{ID: inspect.Next, Part: statements, Title: "Next inspection not later than", Clause: "644.4, GN3 table 3.2", Reasoned: true,
		Choice: []string{"10 years", "5 years", "3 years", "1 year"},
		Offer: func(*job.Job) (string, string) {
			return "10 years", "dwelling lived in by its owner; sooner at a change of occupier"
		}},
}

func oneSource(j *job.Job) string {
	if j.Survey.Supply.OtherSource == job.No {
		return "the supply is the only source"
	}
	return ""
}

// noElectrode: a supply with its own earth, and points that keep it.
func noElectrode(j *job.Job) string {
	own := func(c job.Circuit) bool {
		return c.Earthing.OpenPEN == job.PENElectrode || c.Earthing.OpenPEN == job.PENTT
	}
	if s := j.Survey.Supply.System; s == "" || s == job.TT || slices.ContainsFunc(j.Design.Circuits, own) {
		return ""
	}
	return "earthed by the supply"
}

// ownEarth: only a supply with neutral and earth in one conductor can lose both.
func ownEarth(j *job.Job) string {
	if j.Survey.Supply.System == job.TT {
		return "the installation has its own electrode"
	}
	return ""
}

// Why things are not there.
var (
	noResidual = inspect.NoPoint("no residual device at the board", func(p *job.Point) bool { return p.Circuit.RCD.Fitted != job.No })
	noSurge    = inspect.NoPoint("declined by the owner", func(p *job.Point) bool { return p.Circuit.SPD != job.SPDDeclined })
	inSight    = inspect.NoRoute("no cable is hidden in a wall, ceiling or floor",
		job.StudWall, job.CeilingThin, job.CeilingThick, job.InInsulation, job.ConduitInWall, job.ThroughWall)
	notBuried  = inspect.NoRoute("no cable is buried", job.Buried)
	oneLength  = inspect.NoPoint("the cable is of one length", inspect.Joined)
	notManaged = inspect.NoPoint("the charger's full current is counted", inspect.Managed)
)

// extent is what the work consists of, as designed.
func extent(j *job.Job) (string, string) {
	var parts []string
	for _, p := range j.Points() {
		at := p.Place.Name
		if at == "" {
			return "", ""
		}
		parts = append(parts, "charging point "+p.ID+" at the "+strings.TrimPrefix(at, "the "))
	}
	if len(parts) == 0 {
		return "", ""
	}
	return string(job.SaidSo), "new circuit from the consumer unit to " + strings.Join(parts, " and ")
}

func nothing(*job.Job) (string, string) { return string(job.NothingToSay), "" }

// departures are offered as none where nobody accepted a stop.
func departures(j *job.Job) (string, string) {
	if j.Has(job.Overridden) {
		return "", ""
	}
	return string(job.NothingToSay), ""
}
