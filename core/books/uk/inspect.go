package uk

import (
	"cmp"
	"slices"
	"strings"

	"dogbolt/core/inspect"
	"dogbolt/core/job"
	"dogbolt/core/quantity"
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
var inspections = inspect.Schedule{Title: "Schedule of inspections", Items: append(looked, certified...), By: []inspect.Visit{{Paper: "building-control", Unless: job.After}}}

var looked = []inspect.Item{
	{ID: "intake", Part: intake, Clause: "642.2, 132.12", Title: "Service cable, cutout, meter and tails: no damage, no heat"},
	{ID: "intake-secure", Part: intake, Clause: "521.10.1", Title: "Tails and their clamps secure, no basic insulation in sight"},

	{ID: "sources", Part: other, Clause: "551.6, 551.7, 514.15.1", Title: "A second source: isolation, notice and interlock", Not: oneSource},

	{ID: "earth-means", Part: earthing, Clause: "542.1, 514.13.1", Title: "Means of earthing there and marked"},
	{ID: "earth-bond", Part: earthing, Clause: "542.3, 544.1", Title: "Earthing conductor and main bonding: size and continuity",
		Rules: []string{"bonding", "bonding-continuity"}},
	{ID: "earth-labels", Part: earthing, Clause: "526, 514.13.1", Title: "Their connections sound and in reach, labels in sight",
		After: []string{worklog.Rejoin}},
	{ID: "earth-joined", Part: earthing, Clause: "542.4.2, 643.7.3", Title: "Earthing conductor tight again after the test at the origin",
		Steps: []string{worklog.Rejoin}},
	{ID: "electrode", Part: earthing, Clause: "542.2, 722.411.4.1", Title: "Earth electrode: connection, label, apart from other earths",
		Not: noElectrode, After: []string{worklog.Electrode}},
	{ID: "disconnection", Least: job.TouchedInside, Part: earthing, Clause: "411.3, 543.1", Title: "Automatic disconnection: protective conductor, device and loop",
		Rules: []string{"earth-size", "zs-design", "zs"}},
	{ID: "extra", Least: job.TouchedInside, Part: earthing, Clause: "415.1, 722.531.3.1", Title: "Additional protection at 30 mA", Not: noExtra, Rules: []string{"rcd", "rcd-trip", "rcd-time"}},

	{ID: "barriers", Least: job.TouchedInside, Part: basic, Clause: "416.1, 416.2", Title: "Insulation, barriers and enclosures of live parts", After: []string{worklog.Lids}},
	{ID: "other-ways", Part: basic, Clause: "410.3.5, 413, 414, 411.7", Title: "Obstacles, separation, reduced or functional low voltage",
		Not: func(*job.Job) string { return "a charging point does not use them" }},

	{ID: "unit-place", Least: job.TouchedInside, Part: unit, Clause: "132.12, 134.1.1, 416.2, 421.1.201", Title: "Room to work, fixing, enclosure and cover whole, entries closed",
		After: []string{worklog.BoardWork, worklog.EndFed, worklog.Lids}},
	{ID: "unit-switch", Least: job.TouchedInside, Part: unit, Clause: "462.1.201, 536.4.203, 643.10", Title: "Main switch and devices: made for this board, marked, work by hand",
		After: []string{worklog.BoardWork, worklog.EndFed}},
	{ID: testButton, Least: job.TouchedInside, Part: unit, Clause: "643.10", Title: "Test button of the residual device works", Not: noResidual, After: []string{worklog.BoardWork}},
	{ID: "unit-devices", Part: unit, Clause: "432.1, 434.5", Title: "Devices of right rating and breaking capacity", Rules: []string{"breaking", "ib-in"}},
	{ID: "unit-poles", Part: unit, Clause: "132.14.1, 530.3.3", Title: "Single-pole devices in the line alone", Rules: []string{"polarity-dead", "polarity-live"}},
	{ID: "unit-tight", Least: job.TouchedInside, Part: unit, Clause: "526.1, 134.1.1", Title: "Connections tight and by their torque", Steps: []string{worklog.BoardWork, worklog.ChargerEnd}, After: []string{worklog.EndFed}},
	{ID: "unit-labels", Least: job.TouchedInside, Part: unit, Clause: "514.8, 514.9, 514.12", Title: "Chart, test-button notice and warnings in place", Steps: []string{worklog.Labels}},
	{ID: "unit-surge", Part: unit, Clause: "534.4, 443.4", Title: "Surge protection: type, leads, indicator", Not: noSurge, After: []string{worklog.SurgeDevice}},

	{ID: "cable-marked", Part: circuits, Clause: "514.3", Title: "Conductors identified at both ends", After: []string{worklog.BoardWork, worklog.ChargerEnd, worklog.EndFed}},
	{ID: "cable-fixed", Part: circuits, Clause: "522.8, 521.10.202", Title: "Cables supported, undamaged, bends not too tight", After: []string{worklog.RunCable}},
	{ID: "cable-hidden", Part: circuits, Clause: "522.6.201 to 204", Title: "Hidden cables in their zones, at depth or guarded", Not: inSight,
		After: []string{worklog.RunCable}},
	{ID: "cable-ground", Part: circuits, Clause: "522.8.10", Title: "Buried cable deep enough and marked", Not: notBuried, Rules: []string{"buried"},
		After: []string{worklog.RunCable}},
	{ID: "cable-size", Part: circuits, Clause: "523, 525", Title: "Conductors for their current and voltage drop", Rules: []string{"in-iz", "drop", "run"}},
	{ID: "cable-guarded", Part: circuits, Clause: "433.1, 434.5", Title: "Overcurrent protection agrees with the conductors",
		Rules: []string{"ib-in", "in-iz", "breaking"}},
	{ID: "cable-apart", Part: circuits, Clause: "528", Title: "Apart from data cables, pipes and heat", After: []string{worklog.RunCable}},
	{ID: "cable-around", Part: circuits, Clause: "522", Title: "Fit for sun, water, impact and other influences", After: []string{worklog.RunCable}},
	{ID: "cable-joint", Part: circuits, Clause: "526.3, 526.5", Title: "Joints: enclosed, secure, in reach", Not: oneLength, Rules: []string{"joint"},
		Steps: []string{worklog.JointBox}},
	{ID: "cable-fire", Part: circuits, Clause: "527.2, 521.10.202", Title: "Holes sealed, cables held where fire could let them fall", After: []string{worklog.Lids}},

	{ID: "isolator", Least: job.TouchedInside, Part: isolating, Clause: "537.2, 722.537", Title: "Means of isolation: all live poles, locks, marked, in reach",
		After: []string{worklog.BoardWork, worklog.Isolator}},

	{ID: "charger-sound", Least: job.TouchedSetting, Part: equipment, Clause: "133.1.3, 722.55.101, 134.1.1", Title: "Equipment undamaged, marked to its standard, by its maker's instructions",
		Not: aboard, After: []string{worklog.ChargerEnd}},
	{ID: "charger-fixed", Least: job.TouchedInside, Part: equipment, Clause: "134.1.1, 722.512.2", Title: "Fixed, sealed at its entries, guarded from vehicles", Not: aboard, After: []string{worklog.ChargerEnd}},
	{ID: "charger-water", Least: job.TouchedInside, Part: equipment, Clause: "722.512.2, 512.2", Title: "IP code for its place", Not: aboard, Rules: []string{"ip"}},
	{ID: "charger-height", Part: equipment, Clause: "722.55", Title: "Height of the socket or holder", Not: aboard, Rules: []string{"holder-height"}, After: []string{worklog.ChargerEnd}},
	{ID: "charger-own", Part: equipment, Clause: "722.533", Title: "A circuit of its own", Not: aboard, Rules: []string{"own-circuit"}},
	{ID: "charger-pen", Least: job.TouchedInside, Part: equipment, Clause: "722.411.4.1", Title: "Protection where the supply's neutral breaks", Not: inspect.Either(ownEarth, aboard), Rules: []string{"open-pen"}},
	{ID: "charger-direct", Least: job.TouchedInside, Part: equipment, Clause: "722.531.3.101", Title: "Direct residual current: type of device, detection",
		Not: aboard, Rules: []string{"rcd-type", "rcd-upstream"}},
	{ID: "charger-load", Least: job.TouchedSetting, Part: equipment, Clause: "722.311.201", Title: "Load management set and proved", Not: notManaged, Rules: []string{"load-management"}},

	{ID: "extent", Least: job.TouchedSetting, Part: statements, Clause: "appendix 6", Title: "What this certificate covers", Words: true, Offer: extent},
	{ID: "limits", Least: job.TouchedSetting, Part: statements, Clause: "appendix 6, GN3", Title: "Limitations agreed, with whom", Words: true, Against: inspect.Limits},
	{ID: "departures", Least: job.TouchedSetting, Part: statements, Clause: "120.3, 133.1.3, 133.5", Title: "Departures from BS 7671", Words: true, Offer: departures, Against: accepted},
	{ID: "existing", Least: job.TouchedSetting, Part: statements, Clause: "644.1.2", Title: "Defects seen in the existing installation", Words: true},
	{ID: inspect.Next, Least: job.TouchedSetting, Part: statements, Clause: "644.4, GN3 table 3.2", Title: "Next inspection not later than", Reasoned: true,
		Choice: []string{"10 years", "5 years", "3 years", "1 year"}, Offer: next},
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
	if s := j.Survey.Supply.System; s == "" || s == job.TT || j.Survey.Supply.Own() || slices.ContainsFunc(j.Design.Circuits, own) {
		return ""
	}
	return "earthed by the supply"
}

// electrode is offered as none where the supply earths the installation.
func electrode(j *job.Job) (string, string) {
	if noElectrode(j) == "" {
		return "", ""
	}
	return string(job.NothingToSay), ""
}

// earthedHere says that the job has an electrode of which there is something to say.
func earthedHere(_ *inspect.Schedule, j *job.Job) string {
	if j.Survey.Supply.System != "" && noElectrode(j) == "" {
		return "the design has an electrode"
	}
	return ""
}

// ownEarth: only a supply with neutral and earth in one conductor can lose both.
func ownEarth(j *job.Job) string {
	if j.Survey.Supply.System == job.TT || j.Survey.Supply.Own() {
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
	notManaged = inspect.Either(aboard, inspect.NoPoint("the charger's full current is counted", inspect.Managed))
	aboard     = inspect.NoPoint("a sub-main to a board: charging points on it are jobs of their own", func(p *job.Point) bool { return !p.Circuit.EndsInBoard() })
	noExtra    = inspect.NoPoint("a sub-main without it: the final circuits of its board have their own", func(p *job.Point) bool {
		return !p.Circuit.EndsInBoard() || p.Circuit.RCD.Fitted != job.No
	})
)

// boards are what a sub-main ends in, by what becomes of it.
var boards = map[job.Fate]string{
	job.FateNew: "a new board", job.FateKept: "the board that was there", job.FateReplaced: "a new board in place of the old one",
}

// extent is what the work consists of, as designed.
func extent(j *job.Job) (string, string) {
	var made, kept, extended, mended []string
	for _, p := range j.Points() {
		at := p.Place.Name
		if at == "" {
			return "", ""
		}
		if p.Circuit.EndsInBoard() {
			made = append(made, boards[p.Circuit.End.Becomes()]+" at the "+strings.TrimPrefix(at, "the ")+", as a sub-main")
			continue
		}
		at = "charging point " + p.ID + " at the " + strings.TrimPrefix(at, "the ")
		switch {
		case p.Circuit.Extended():
			extended = append(extended, at)
		case p.Circuit.Kind() == job.Repair:
			mended = append(mended, cmp.Or(p.Circuit.Mended.Part.Said(), "device of its circuit")+", "+at)
		case p.Circuit.Kept():
			kept = append(kept, at)
		default:
			made = append(made, at)
		}
	}
	var parts []string
	if len(made) > 0 {
		from := "the consumer unit"
		switch d := &j.Design.Beside; {
		case d.Renews():
			what := "consumer unit replaced"
			if from = "a new consumer unit"; !j.NewMains() {
				what, from = "board on its sub-main replaced", "the new board on its sub-main"
			}
			parts = append(parts, what+quantity.Say(", {} ways of circuits moved over to the new one", float64(d.Taken)))
		case d.Small():
			from = "a small board beside the consumer unit, fitted and fed with this work,"
		}
		parts = append(parts, "new circuit from "+from+" to "+strings.Join(made, " and "))
	}
	if len(extended) > 0 {
		parts = append(parts, "circuit that was there carried on to "+strings.Join(extended, " and "))
	}
	if len(kept) > 0 {
		parts = append(parts, "charger on the circuit that was there, "+strings.Join(kept, " and "))
	}
	if len(mended) > 0 {
		parts = append(parts, "repair or exchange: "+strings.Join(mended, "; "))
	}
	if list := j.Bonds(); len(list) > 0 {
		parts = append(parts, "main bonding of "+strings.Join(list, " and "))
	}
	if j.Design.Bonds.Conductor > 0 {
		parts = append(parts, "earthing conductor replaced")
	}
	if len(parts) == 0 {
		return "", ""
	}
	return string(job.SaidSo), strings.Join(parts, "; ")
}

// standardOf is the standard of the devices, where one alone is right: a sub-main without a residual device.
func standardOf(j *job.Job) (string, string) {
	for _, p := range j.Points() {
		if !p.Circuit.EndsInBoard() || p.Circuit.RCD.Fitted != job.No {
			return "", ""
		}
	}
	return plainBreaker, ""
}

// plainBreaker is the standard of a breaker alone.
const plainBreaker = "BS EN 60898-1, no residual device"

// departures are offered as none where nobody accepted a stop.
func departures(j *job.Job) (string, string) {
	if accepted(nil, j) != "" {
		return "", ""
	}
	return string(job.NothingToSay), ""
}

// accepted says that a stop was accepted, which is a departure.
func accepted(_ *inspect.Schedule, j *job.Job) string {
	if j.Has(job.Overridden) {
		return "a stop was accepted"
	}
	return ""
}

// next is when a dwelling that its owner lives in is usually inspected next: after 10 years (GN3 table 3.2, from
// memory). Whether somebody else's is let is not known, and then a person says.
func next(j *job.Job) (string, string) {
	if j.Survey.Consent.Landlord != job.No {
		return "", ""
	}
	return "10 years", "dwelling lived in by its owner; sooner at a change of occupier"
}
