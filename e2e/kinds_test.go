//go:build e2e

package e2e

import (
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
)

// kinds are the journeys of work on what was there; docs/kinds.md tells what each asks, skips, tests and prints.
func kinds() map[string]*journey {
	replaced, mended, exchanged, moved, raised := ukJourney(), ukJourney(), ukJourney(), ukJourney(), usJourney()

	replaced.number, replaced.kind, replaced.route, replaced.walked = "E2E-UK-3", "replacement", nil, 27
	replaced.fittings, replaced.after = []string{"spd"}, append(replaced.after, pair{"design.circuits.0.isolatorFate", "kept"})
	replaced.instead = []pair{{"take-down", "WU-3310, 4821 kWh, cord worn"}}
	replaced.pdfWords = []string{"F. Ashdown", "Old charger disconnected and taken down", "WU-3310", "6 mm² armoured", "WU-7001", "charger replaced; breaker kept", "isolator kept"}
	replaced.certified = []string{"Minor electrical installation works certificate", "charger on the circuit that was there, charging point A at the corner by the drive",
		"16 mm², copper", "Zs at most"}

	mended.number, mended.kind, mended.route, mended.walked, mended.stays = "E2E-UK-4", "repair", nil, 13, true
	mended.fittings, mended.dead, mended.afterDead = nil, []entered{{"insulation", ">999"}}, nil // what is opened is tested again
	mended.electrical = []string{"insulation", "zs", "rcd-time"}
	mended.alone()
	mended.survey = append([]pair{{"design.circuits.0.mended.fault", "stops after a minute"}, {"design.circuits.0.mended.cause", "contactor welded"},
		{"design.circuits.0.mended.part", "contactor"}}, mended.survey...)
	mended.says = map[string]string{"charger": "contacts welded, new contactor"}
	mended.pdfWords = []string{"stops after a minute", "contactor welded", "contacts welded", "charger kept; breaker kept"}
	mended.certified = []string{"Minor electrical installation works certificate", "Zs at most", "contactor, charging point A"}

	set := ukJourney()
	set.number, set.kind, set.route, set.walked, set.stays, set.shut = "E2E-UK-15", "repair", nil, 4, true, true
	set.fittings, set.terminals, set.dead, set.afterDead, set.electrical = nil, nil, nil, nil, nil
	set.live = slices.DeleteFunc(set.live, func(r entered) bool {
		return slices.Contains([]string{"voltage", "polarity-live", "zs", "rcd-time"}, r[0])
	})
	set.alone()
	set.survey = append([]pair{{"design.circuits.0.mended.fault", "charges at peak hours"},
		{"design.circuits.0.mended.cause", "its schedule is lost when the power is"}, {"design.circuits.0.mended.part", "software"}}, set.survey...)
	set.says = map[string]string{"charger": "old software, new version 2.4.1"}
	set.pdfWords = []string{"charges at peak hours", "its schedule is lost", "old software, new version", "charger kept; breaker kept"}
	set.certified = []string{"Minor electrical installation works certificate", "software, settings as they were"}

	exchanged.number, exchanged.kind, exchanged.route, exchanged.walked, exchanged.stays = "E2E-UK-5", "repair", nil, 28, true
	exchanged.fittings, exchanged.terminals = []string{"spd"}, []string{"board-line", "board-neutral", "board-earth"}
	exchanged.after = append(exchanged.after, pair{"design.circuits.0.rcd.fate", "replaced"})
	exchanged.pdfWords = []string{"Residual device", "in its own ways"}
	exchanged.certified = []string{"Minor electrical installation works certificate"}

	moved.number = "E2E-UK-6"
	moved.design = append(moved.design, pair{"design.circuits.0.charger.moved", "E2E-UK-7"})
	moved.reset = "came reset, looked at its settings"
	moved.pdfWords = []string{"E2E-UK-7", "came reset", "Charger that moved"}

	raised.number, raised.kind, raised.route, raised.walked = "E2E-US-2", "replacement", nil, 11
	raised.design = append(raised.design, pair{"design.circuits.0.charger.fate", "new"}, pair{"design.circuits.0.breaker.fate", "replaced"},
		pair{"design.circuits.0.receptacle.fate", "taken-out"})
	raised.instead, raised.remark = []pair{{"receptacle", ""}}, ""
	raised.pdfWords = []string{"Breaker replaced in its own ways", "Old outlet taken out", "charger new; breaker", "outlet taken out", "60 A"}
	raised.certified = []string{"Inspection checklist and torque log", "60 A, 2 poles"}

	outlet := usJourney()
	outlet.number, outlet.kind, outlet.outlet, outlet.stays = "E2E-US-3", "outlet", true, true
	outlet.design = []pair{
		{"design.circuits.0.charger.phases", "1"}, {"design.circuits.0.charger.terminals", "75"}, {"design.circuits.0.setting", "40"}, {"design.circuits.0.breaker.rating", "50"},
		{"design.circuits.0.breaker.poles", "2"}, {"design.circuits.0.dedicated", "yes"}, {"design.circuits.0.cable.whiteIsHot", "no"},
		{"design.circuits.0.receptacle.rating", "50"}, {"design.circuits.0.receptacle.gfci", "no"}, {"design.circuits.0.receptacle.neutral", "no"},
		{"design.circuits.0.receptacle.box", "4.69-2.125"}, {"design.circuits.0.receptacle.gangs", "2"}, {"design.circuits.0.receptacle.clamps", "no"},
	}
	outlet.option, outlet.stopRule, outlet.mend = "8 AWG THWN-2 in EMT", "receptacle-gfci", []pair{{"design.circuits.0.receptacle.gfci", "yes"}}
	outlet.live = []entered{{"hot-hot", "242"}, {"hot-ground-l1", "121"}, {"hot-ground-l2", "121"}, {"gfci-trip", "5"}}
	outlet.pdfWords = []string{"cable new; outlet new; no charger", "Receptacle fitted in its box", "50 A"}
	outlet.certified = []string{"Inspection checklist and torque log", "receptacle, no", "50 A, 2 poles"}

	extended := ukJourney()
	extended.number, extended.kind, extended.carried, extended.walked = "E2E-UK-8", "extended", true, 28
	extended.after = append(extended.after, []pair{
		{"design.circuits.0.cable.family", "twin-earth"}, {"design.circuits.0.cable.size", "10 mm²"}, {"design.circuits.0.beyond.from", "2"},
		{"design.circuits.0.beyond.accessible", "yes"}, {"design.circuits.0.beyond.suited", "yes"}, {"design.circuits.0.beyond.cable.family", "armoured-70"},
		{"design.circuits.0.beyond.cable.size", "6 mm²"},
	}...)
	extended.fittings, extended.says = append(extended.fittings, "joint"), map[string]string{"joint": "utility room, by the door"}
	extended.pdfWords = []string{"Old cable cut back and joined", "10 mm² twin and earth", "6 mm² armoured", "charger new; breaker kept", "utility room, by the door"}
	extended.certified = []string{"Minor electrical installation works certificate", "circuit that was there carried on to charging point A"}

	plugged := usJourney()
	plugged.number, plugged.kind, plugged.plugged, plugged.remark = "E2E-US-4", "on-outlet", true, ""
	plugged.design = []pair{
		{"design.circuits.0.setting", "40"}, {"design.circuits.0.breaker.rating", "50"}, {"design.circuits.0.breaker.poles", "2"}, {"design.circuits.0.dedicated", "yes"},
		{"design.circuits.0.charger.fill", "wall unit 40 A, plug-in"}, {"design.circuits.0.charger.serial", "PU-7003"}, {"design.circuits.0.cable.whiteIsHot", "no"},
		{"design.circuits.0.receptacle.rating", "50"}, {"design.circuits.0.receptacle.gfci", "no"}, {"design.circuits.0.receptacle.neutral", "no"},
		{"design.circuits.0.receptacle.box", "4.69-2.125"}, {"design.circuits.0.receptacle.gangs", "2"}, {"design.circuits.0.receptacle.clamps", "no"}, {"design.circuits.0.receptacle.cordClear", "yes"},
	}
	plugged.route, plugged.option, plugged.stopRule, plugged.mend = nil, "8 AWG THWN-2 in EMT", "receptacle-gfci", []pair{{"design.circuits.0.receptacle.gfci", "yes"}}
	plugged.amps = "40"
	plugged.live = []entered{{"hot-hot", "242"}, {"hot-ground-l1", "121"}, {"hot-ground-l2", "121"}, {"pilot", "66.7"}, {"gf-self-test", "passed"}, {"gfci-trip", "5"},
		{"vehicle-states", "correct"}, {"network", "joined"}, {"firmware", "3.1.0"}, {"meter", "0.2 kWh"}}
	plugged.pdfWords = []string{"Existing outlet inspected", "Charger hung, not yet plugged in", "charger new; breaker kept", "PU-7003"}
	plugged.certified = []string{"Inspection checklist and torque log", "50 A, 2 poles"}

	// Of the site and its supply only what may have changed is asked again.
	added := ukJourney()
	added.number, added.from, added.earlier, added.site = "E2E-UK-9", "DB-0401", true, nil
	added.survey = []pair{
		{"survey.supply.ratingSeen", "yes"}, {"survey.supply.condition", "sound"}, {"survey.supply.voltage", "239"}, {"survey.supply.peakDemand", "46"}, {"survey.supply.peakDays", "30"},
		{"survey.supply.otherSource", "no"}, {"survey.bonding.conductor", "16"}, {"survey.bonding.size", "10"}, {"survey.bonding.gas", "bonded"}, {"survey.bonding.water", "plastic"},
		{"survey.bonding.oil", "none"}, {"survey.bonding.steel", "none"}, {"survey.bonding.other", "none"}, {"survey.board.waysFree", "2"}, {"survey.board.upstreamRcdType", "none"},
		{"survey.consent.landlord", "no"}, {"survey.places.0.name", "gable by the second bay"}, {"survey.places.0.outdoors", "yes"}, {"survey.places.0.holderHeight", "1.1"},
	}
	added.pdfWords = []string{"DB-0401", "E. Marlowe", "gable by the second bay"}
	added.certified = []string{"Electrical installation certificate", "gable by the second bay"}

	small := ukJourney()
	small.number, small.takes = "E2E-UK-10", "Fit a small board beside it"
	small.fill()
	small.boards = []pair{{"beside-fixed", ""}, {"beside", "25 mm², 16 mm² earth"}}
	small.design = append([]pair{
		{"design.beside.where", "meter cupboard"}, {"design.beside.outdoors", "no"}, {"design.beside.made", "steel"}, {"design.beside.ways", "4"}, {"design.beside.rating", "63"}, {"design.beside.breakingKa", "6"},
		{"design.beside.tails", "25"}, {"design.beside.length", "0.8"}, {"design.beside.blocks", "100"}, {"design.beside.earth", "16"}, {"design.beside.opens", "isolator"},
	}, small.design...)
	small.pdfWords = []string{"Small board of the points", "meter cupboard", "connector blocks 100 A", "Tails opened, locked", "K. Osei, lock 8"}
	small.certified = []string{"Electrical installation certificate", "Small board of the points", "main switch 63 A, tails 25 mm²"}

	renewed := ukJourney()
	renewed.number, renewed.takes = "E2E-UK-16", "Replace the board"
	renewed.fill()
	renewed.survey = append(renewed.survey, pair{"survey.board.fedFrom", "service"})
	renewed.design = append([]pair{
		{"design.beside.where", "under the stairs"}, {"design.beside.outdoors", "no"}, {"design.beside.made", "steel"}, {"design.beside.ways", "14"},
		{"design.beside.taken", "9"}, {"design.beside.rating", "100"}, {"design.beside.breakingKa", "6"}, {"design.beside.tails", "25"},
		{"design.beside.length", "1.2"}, {"design.beside.earth", "16"}, {"design.beside.opens", "operator"}, {"design.beside.ahead", "none"},
		{"design.beside.protected", "yes"}, {"design.beside.tried", "yes"},
	}, renewed.design...)
	renewed.boards = []pair{{"board-out", "nine, with what each feeds"}, {"beside-fixed", ""}, {"beside", "nine, each on its own device"}}
	renewed.live = append(slices.Clip(renewed.live), entered{"behind", "sound"})
	renewed.afterLive = []pair{{"schedule", "schedule 2, K. Osei"}}
	renewed.pdfWords = []string{"New board in its place", "of 14 ways 9 are of circuits moved over", "Old board out, its circuits marked", "Circuits moved over, tested again", "Tails opened, locked"}
	renewed.certified = []string{"Electrical installation certificate", "consumer unit replaced, 9 ways of circuits moved over", "schedule 2, K. Osei",
		"under the stairs, main switch 100 A, 14 ways, 9 of them circuits moved over"}

	// A board on a sub-main that stays: nothing is asked of tails, and the installation's main switch is another.
	subBoard := ukJourney()
	subBoard.number, subBoard.takes, subBoard.boards, subBoard.live, subBoard.afterLive = "E2E-UK-17", renewed.takes, renewed.boards, renewed.live, renewed.afterLive
	subBoard.fill()
	subBoard.survey = append(subBoard.survey, []pair{
		{"survey.board.fedFrom", "sub-main"}, {"survey.board.otherDemand", "8"}, {"survey.board.loop", "0.30"}, {"survey.board.drop", "0.8"},
		{"press", "Add what lies between"}, {"survey.board.links.0.kind", "feeder-device"}, {"survey.board.links.0.rating", "63"},
	}...)
	subBoard.design = append([]pair{{"design.beside.opens", "isolator"}}, without(renewed.design, "beside.tails", "beside.length", "beside.earth", "beside.opens")...)
	subBoard.pdfWords = []string{"New board in its place", "Sub-main opened, locked", "Circuits moved over, sub-main connected", "of 14 ways 9 are of circuits moved over"}
	subBoard.certified = []string{"Electrical installation certificate", "board on its sub-main replaced, 9 ways", "on the sub-main that was there", "schedule 2, K. Osei"}

	paneled := usJourney()
	paneled.number, paneled.takes, paneled.tails, paneled.full = "E2E-US-9", "Replace the panel", "supply", true
	for i, f := range paneled.survey {
		if f[0] == "survey.board.freePair" {
			paneled.survey[i][1] = "no"
		}
	}
	paneled.survey = append(paneled.survey, pair{"survey.board.fedFrom", "service"})
	paneled.design = append([]pair{
		{"design.beside.where", "garage, north wall"}, {"design.beside.outdoors", "no"}, {"design.beside.ways", "40"}, {"design.beside.taken", "30"},
		{"design.beside.rating", "200"}, {"design.beside.breakingKa", "22"}, {"design.beside.terminals", "75"}, {"design.beside.opens", "operator"},
		{"design.beside.space", "yes"}, {"design.beside.handle", "66"}, {"design.beside.grounded", "yes"}, {"design.beside.surge", "yes"}, {"design.beside.outside", "yes"},
	}, paneled.design...)
	paneled.boards = []pair{{"board-out", "fourteen, by the directory"}, {"beside-fixed", ""}, {"beside", "as the directory has them"}}
	paneled.live = append(slices.Clip(paneled.live), entered{"behind", "sound"})
	paneled.pdfWords = []string{"New panel in its place", "of 40 spaces 30 are of circuits moved over", "Old panel out, its circuits marked", "Service conductors opened, locked", "Circuits moved over, tested again"}
	paneled.certified = []string{"Inspection checklist and torque log", "garage, north wall", "40 spaces, 30 of them circuits moved over, tested again: sound"}

	backed := ukJourney()
	backed.number, backed.backed, backed.walked = "E2E-UK-11", true, 27
	for i, f := range backed.survey {
		if f[0] == "survey.supply.otherSource" {
			backed.survey[i][1] = "yes"
		}
	}
	backed.survey = append(backed.survey, []pair{
		{"survey.supply.second.kind", "backs-up"}, {"survey.supply.second.isolator", "battery in the garage"}, {"survey.supply.second.rating", "43"},
		{"survey.supply.second.other", "11"}, {"survey.supply.second.earthed", "yes"},
	}...)
	backed.after = append(backed.after, pair{"design.circuits.0.side", "backed-up"})
	backed.pairs = append(backed.pairs, "2nd source L–N", "2nd source L–E", "2nd source N–E")
	backed.live = slices.Insert(backed.live, slices.IndexFunc(backed.live, func(e entered) bool { return e[0] == "dc-trip" }), entered{"grid-out", "both"})
	backed.pdfWords = []string{"Second source off, locked, tagged", "K. Osei, lock 8", "goes on when the grid is out", "32 A charging + 11 A besides = 43 A", "With the grid out"}
	backed.certified = []string{"yes: carries circuits on, 43 A, switched off: battery in the garage"}

	// A sub-main asks nothing of vehicles, cords and charging; its charger is a job of its own on the board at its end.
	laid, fed, onBoard := ukJourney(), usJourney(), ukJourney()
	laid.number, laid.kind, laid.laid, laid.stays, laid.fittings = "E2E-UK-12", "sub-main", true, true, []string{"spd"}
	laid.survey = append(without(laid.survey, "vehicle", "holderHeight"), pair{"survey.places.0.detached", "yes"}, pair{"survey.places.0.otherSupply", "no"})
	laid.design = []pair{
		{"design.circuits.0.charger.phases", "1"}, {"design.circuits.0.charger.terminals", "70"}, {"design.circuits.0.setting", "40"}, {"design.circuits.0.breaker.rating", "50"},
		{"design.circuits.0.breaker.poles", "2"}, {"design.circuits.0.breaker.curve", "B"}, {"design.circuits.0.end.ways", "6"}, {"design.circuits.0.end.rating", "40"},
		{"design.circuits.0.end.breakingKa", "6"}, {"design.circuits.0.end.other", "8"}, {"design.circuits.0.end.space", "yes"}, {"design.circuits.0.end.ip", "IP65"},
		{"design.circuits.0.end.metal", "no"},
	}
	laid.option, laid.after = "10 mm² armoured, 70 °C, core as earth", []pair{{"design.circuits.0.rcd.fitted", "no"}, {"design.circuits.0.spd", "fitted"}}
	laid.stopRule, laid.mend = "sub-main", []pair{{"design.circuits.0.end.rating", "63"}}
	laid.live = []entered{{"voltage", "240"}, {"polarity-live", "correct"}, {"zs", "0.37"}, {"pfc-end", "0.62"}}
	laid.pdfWords = []string{"breaker new; cable new; board at its end", "Sub-main connected at the board", "6 ways, 63 A, 6 kA, IP65", "of which 8 A are no charging", "B50 A", "10 mm² armoured"}
	laid.certified = []string{"Electrical installation certificate", "Board at the end of the", "Zs at that board", "0.37 Ω", "sub-main to the", "a new board at the corner by the drive",
		"BS EN 60898-1, no", "what is drawn over the sub-main", "Fault current at that board"}

	fed.number, fed.kind, fed.laid, fed.stays = "E2E-US-5", "sub-main", true, true
	fed.survey = append(without(fed.survey, "vehicle", "holderHeight", "detached"), pair{"survey.places.0.detached", "yes"}, pair{"survey.places.0.otherSupply", "no"})
	fed.design = []pair{
		{"design.circuits.0.charger.phases", "1"}, {"design.circuits.0.charger.terminals", "75"}, {"design.circuits.0.setting", "48"}, {"design.circuits.0.breaker.rating", "60"},
		{"design.circuits.0.breaker.poles", "2"}, {"design.circuits.0.cable.whiteIsHot", "no"}, {"design.circuits.0.end.ways", "12"}, {"design.circuits.0.end.rating", "125"},
		{"design.circuits.0.end.breakingKa", "10"}, {"design.circuits.0.end.other", "0"}, {"design.circuits.0.end.space", "yes"}, {"design.circuits.0.end.handle", "60"},
		{"design.circuits.0.end.neutralApart", "yes"}, {"design.circuits.0.end.disconnect", "yes"}, {"design.circuits.0.end.electrode", "yes"},
	}
	fed.terminals = append(fed.terminals, "board-neutral", "charger-neutral")
	fed.live = fed.live[:3]
	fed.pdfWords = []string{"board at its end new", "Sub-main connected at the board", "12 ways, 125 A, 10 kA", "of which 0 A are no charging", "215.3", "Torque, board at the end, neutral"}
	fed.certified = []string{"Inspection checklist and torque log", "panel of 12", "60 A, 2 poles", "a feeder"}

	onBoard.number, onBoard.from, onBoard.site, onBoard.walked = "E2E-UK-13", "DB-0450", nil, 27
	onBoard.survey = append(slices.Clone(added.survey), []pair{
		{"press", "Add a vehicle"}, {"survey.vehicles.0.name", "hatchback"}, {"survey.vehicles.0.onBoard", "7.4"}, {"survey.vehicles.0.phases", "1"}, {"survey.vehicles.0.inlet", "rear-right"},
	}...)
	for i, f := range onBoard.survey {
		switch f[0] {
		case "survey.supply.peakDemand":
			onBoard.survey[i][1] = "24"
		case "survey.board.waysFree":
			onBoard.survey[i][1] = "6"
		}
	}
	onBoard.live = slices.Clone(onBoard.live)
	onBoard.live[2][1] = "0.44"
	onBoard.pdfWords = []string{"DB-0450", "H. Brackenbury", "2.10 % of", "Zs = 0.37 +"}
	onBoard.certified = []string{"Electrical installation certificate", "gable by the second bay"}

	// Behind an inverter that was never joined to the network the inverter is the supply, and the residual device protects against faults.
	island := ukJourney()
	island.number, island.walked = "E2E-UK-14", 28
	island.survey = slices.Insert(without(island.survey, "supply.system", "supply.rating 100", "declaredZe", "faultCurrent", "peakDemand"), 0,
		pair{"survey.supply.system", "island"}, pair{"survey.supply.sourceEarthed", "yes"}, pair{"survey.supply.rating", "45"}, pair{"survey.supply.declaredZe", "0.6"},
		pair{"survey.supply.electrodeRa", "60"}, pair{"survey.supply.faultCurrent", "0.5"}, pair{"survey.supply.peakDemand", "8"})
	island.after = append(without(island.after, "openPen"), pair{"design.circuits.0.faultByRcd", "no"})
	island.stopRule, island.mend = "zs-design", []pair{{"design.circuits.0.faultByRcd", "yes"}}
	island.live = slices.DeleteFunc(slices.Clone(island.live), func(e entered) bool { return e[0] == "open-neutral" })
	for i, e := range island.live {
		if e[0] == "zs" {
			island.live[i][1] = "0.64"
		}
	}
	island.dead = slices.Clone(island.dead)
	for i, e := range island.dead {
		switch e[0] {
		case "ze":
			island.dead[i][1] = "0.50"
		case "pfc":
			island.dead[i][1] = "0.42"
		}
	}
	island.stated = map[string]string{"electrode-at": "two rods by the barn, 60 ohm"}
	island.pdfWords = []string{"own source, apart from the network", "50 V ÷ 30 mA", "never joined"}
	island.certified = []string{"Electrical installation certificate", "own source, apart from the network", "the source's own electrode", "two rods by the barn"}

	for _, j := range []*journey{island, replaced, mended, exchanged, moved, raised, outlet, extended, plugged, added, small, renewed, subBoard, paneled, backed, laid, fed, onBoard} {
		j.electrical = nil
	}
	return map[string]*journey{"replacement": replaced, "repair": mended, "setting": set, "device exchanged": exchanged, "moved here": moved, "raised": raised, "outlet": outlet,
		"extended": extended, "on an outlet": plugged, "addition": added, "small board": small, "board replaced": renewed, "board on its sub-main": subBoard, "panel replaced": paneled, "second supply": backed,
		"sub-main": laid, "feeder": fed, "on the sub-main": onBoard, "source apart": island}
}

// without leaves out the fields of a list that have any of the parts.
func without(list []pair, part ...string) []pair {
	return slices.DeleteFunc(slices.Clone(list), func(f pair) bool {
		return slices.ContainsFunc(part, func(p string) bool { return strings.Contains(f[0]+" "+f[1], p) })
	})
}

// fill makes the board full.
func (j *journey) fill() {
	j.full = true
	for i, f := range j.survey {
		if f[0] == "survey.board.waysFree" {
			j.survey[i][1] = "0"
		}
	}
}

// alone leaves out what nobody asks where a repair touches the charger alone: how its circuit was made, and what is drawn.
func (j *journey) alone() {
	j.segments, j.option = nil, ""
	beside := []string{"survey.supply.peak", "survey.supply.declaredZe", "survey.supply.faultCurrent", "survey.bonding", "survey.board.rating", "survey.board.ways",
		"survey.board.breakingKa", "survey.board.terminals", "press", "survey.vehicles", "survey.places.0.holderHeight", "design.circuits.0.spd", "design.circuits.0.isolator"}
	is := func(p pair) bool {
		return slices.ContainsFunc(beside, func(b string) bool { return strings.HasPrefix(p[0], b) })
	}
	j.survey, j.after = slices.DeleteFunc(j.survey, is), slices.DeleteFunc(j.after, is)
}

// asked counts the fields that a journey fills in before the work.
func (j *journey) asked() int {
	n := len(j.site) + len(j.survey) + len(j.design) + len(j.after)
	for _, s := range j.segments {
		n += len(s)
	}
	return n
}

// TestKinds carries jobs of each kind from new to sealed, and finds in their records what became of each thing.
func TestKinds(t *testing.T) {
	if os.Getenv("DOGBOLT_KINDS") == "" {
		t.Skip("in make test-all: DOGBOLT_KINDS=all")
	}
	for name, j := range kinds() {
		t.Run(name, func(t *testing.T) {
			t.Logf("%d fields", j.asked())
			files := j.run(t, start(t, "demo", t.TempDir()))
			b, err := os.ReadFile(files["record"])
			if err != nil {
				t.Fatal(err)
			}
			if name == "moved here" || name == "addition" || name == "on the sub-main" || j.full || j.backed || j.outlet || j.carried || j.laid || len(j.stated) > 0 {
				return
			}
			for _, bought := range []string{"6 mm² armoured", "armoured gland", "THWN-2"} {
				if strings.Contains(string(b), `"name":"`+bought) {
					t.Errorf("the parts have %s", bought)
				}
			}
			if printed := text(t, files["inspection"]); strings.Contains(printed, "Cable run and secured") {
				t.Error("a cable was run for a circuit that is kept")
			}
		})
	}
}

// printed is what a paper of a job's first record prints, with single spaces; it has all the words.
func printed(t *testing.T, api *client, id, kind string, words []string) string {
	t.Helper()
	status, b := api.do("GET", "/api/jobs/"+id+"/records/1/"+kind, "", "")
	file := filepath.Join(t.TempDir(), kind)
	if err := os.WriteFile(file, b, 0o600); err != nil || status != 200 {
		t.Fatalf("%s: %d %v", kind, status, err)
	}
	printed := strings.Join(strings.Fields(text(t, file)), " ")
	for _, w := range words {
		if !strings.Contains(printed, w) {
			t.Errorf("%s does not print %q", kind, w)
		}
	}
	return printed
}

// text is what a PDF prints.
func text(t *testing.T, file string) string {
	t.Helper()
	out, err := exec.Command("pdftotext", "-layout", file, "-").Output()
	if err != nil {
		t.Fatal(err)
	}
	return string(out)
}

// TestRemoval carries a charger that is taken away from new to its record, its circuit off the breaker and closed off: nothing is
// asked of vehicles, loads or cable, nothing is tested that is not there, and the notice to the operator stands among the papers.
func TestRemoval(t *testing.T) {
	if os.Getenv("DOGBOLT_KINDS") == "" {
		t.Skip("in make test-all: DOGBOLT_KINDS=all")
	}
	srv := start(t, "demo", t.TempDir())
	j := &journey{
		rulebook: "bs7671:2018+A2:2022", number: "E2E-UK-7", kind: "removal",
		site: map[string]string{"customer": "F. Ashdown", "street": "12 Ropewalk", "town": "Quillmouth", "postcode": "QM4 2AB"},
		survey: []pair{
			{"survey.supply.system", "tn-c-s"}, {"survey.supply.phases", "1"}, {"survey.supply.otherSource", "no"}, {"survey.supply.mainSwitchAt", "at the board"},
			{"survey.board.label", "hall cupboard"}, {"survey.places.0.name", "corner by the drive"}, {"survey.consent.landlord", "no"},
		},
		design: []pair{
			{"design.circuits.0.breaker.fate", "taken-out"}, {"design.circuits.0.cable.fate", "kept"}, {"design.circuits.0.charger.type", "wall unit 32 A"},
			{"design.circuits.0.charger.serial", "WU-7001"}, {"design.circuits.0.charger.moved", "E2E-UK-6"},
		},
		names: []string{"K. Osei", "T. Brandt"}, team: "harbour", source: "238", pairs: []string{"L–N", "L–E", "N–E"},
	}
	t.Logf("%d fields", j.asked())
	office := open(t, srv.base, 1280, 800)
	office.signIn("surveyor")
	id := j.create(office)
	office.is(`document.querySelectorAll('[data-section]').length > 0 && !document.querySelector('[data-section="vehicles"], [data-section="loads"], [data-section="route"]')`)
	office.fillAll(j.survey)
	office.saved()
	office.visit("/jobs/" + id + "/design")
	office.is(`document.querySelector('[data-field="design.circuits.0.breaker.fate"]') && !document.querySelector('[data-field="design.circuits.0.setting"]')`)
	office.fillAll(j.design)
	office.saved()
	office.is(`document.querySelector('.tally').innerText.includes('nothing in the way')`)
	office.visit("/jobs/" + id + "/clearances")
	office.is(`document.body.innerText.includes('Network operator: notice of removal')`)
	j.doPapers(office, id)
	j.doPlan(office, id)

	phone := open(t, srv.base, 390, 844)
	phone.signIn("installer")
	phone.visit("/jobs/" + id + "/install")
	phone.is(`!document.querySelector('li[data-step="settings"], li[data-step="backplate"], li[data-step="dead-tests"]')`)
	phone.step("release", "reset, off the account, load management forgotten")
	phone.step("protect", "")
	phone.step("announce", "the customer")
	phone.step("main-off", "lock 7, key with the lead")
	phone.step("cover-off", "")
	j.proveDead(phone)
	phone.step("barrier", "fitted")
	phone.step("take-down", "works, undamaged")
	phone.step("point-end", "grey box by the drive")
	phone.step("board", "")
	phone.step("lids", "")
	phone.step("labels", "way 3 blank")
	phone.openStep("energise")
	for _, name := range j.names {
		phone.click(fmt.Sprintf(`[data-answer=%q]`, name))
		phone.is(fmt.Sprintf(`document.querySelector('[data-answered=%q]')`, name))
	}
	phone.click(".roll .btn.main")
	phone.is(`document.querySelector('[data-field="install.isolation"]').innerText.includes('Energised')`)
	phone.visit("/jobs/" + id + "/commission")
	phone.is(`document.querySelectorAll('[data-entry]').length === 1`) // the meter: what is cut off is not tested
	phone.read([]entered{{"meter", "4821 kWh"}})
	phone.is(`!document.querySelector('[data-item], [data-confirm-known]')`)
	phone.visit("/jobs/" + id + "/handover")
	phone.is(`document.querySelector('[data-sign="construction"]') && !document.querySelector('[data-field="handover.scheduler"], [data-sign="design"], [data-sign="testing"]')`)
	phone.click(`[data-sign="construction"]`)
	phone.is(`!document.querySelector('[data-sign="construction"]')`)

	open(t, srv.base, 1280, 800).seal(id, "Network operator: notice of removal") // to come, with its day
	api := signedIn(t, srv.base, "verifier")
	for kind, words := range map[string][]string{
		"certificate": {"Record of removal", "WU-7001", "4821 kWh", "works, undamaged", "reset, off the account", "to E2E-UK-6", "taken out", "grey box by the drive"},
		"inspection":  {"charger taken out; breaker taken out; cable kept", "Charger disconnected and taken down"},
		"handover":    {"Your charging point was taken away", "counts as live", "4821 kWh", "At the next address"},
	} {
		printed := printed(t, api, id, kind, words)
		for _, w := range []string{"not recorded", "To start", "Set to"} {
			if strings.Contains(printed, w) && kind != "inspection" {
				t.Errorf("%s prints %q", kind, w)
			}
		}
	}
}

// TestTakeOver: a device of type AC upstream stops the design; the finding's remedy is taken over with one press, the survey keeps
// what was found, and parts, steps and tests of the exchange follow.
func TestTakeOver(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	api := signedIn(t, srv.base, "surveyor")
	id := jobID(t, api, "DB-0425")
	office := open(t, srv.base, 1280, 800)
	office.signIn("surveyor")
	office.visit("/jobs/" + id + "/survey")
	office.fill("survey.board.upstreamRcdType", "AC")
	office.saved()
	office.visit("/jobs/" + id + "/design")
	office.is(`document.querySelector('[data-rule="rcd-upstream"][data-verdict="stop"] [data-take]')`)
	office.eval(`document.querySelector('[data-rule="rcd-upstream"]').scrollIntoView({block: 'center'})`)
	office.shot("take-over")
	office.click(`[data-rule="rcd-upstream"] [data-take]`)
	office.is(`!document.querySelector('[data-rule="rcd-upstream"][data-verdict="stop"]') && document.querySelector('[data-rule="ahead"][data-verdict="open"]')`)
	office.fillAll([]pair{{"design.ahead.rating", "63"}, {"design.ahead.tripMa", "30"}, {"design.ahead.delayed", "no"}, {"design.ahead.feeds", "sockets, shower"}})
	office.saved()
	office.is(`!document.querySelector('[data-rule="ahead"][data-verdict="open"]')`)
	office.eval(`document.querySelector('[data-panel="ahead"]').scrollIntoView({block: 'center'})`)
	office.shot("ahead")
	office.visit("/jobs/" + id + "/plan")
	office.press("Take the parts from the design")
	office.is(`document.querySelector('[data-part="residual device type A, 30 mA, 63 A, upstream"]')`)
	office.visit("/jobs/" + id + "/install")
	office.is(`document.querySelector('li[data-step="ahead"]')?.innerText.includes('replaced by type A')`)
	office.visit("/jobs/" + id + "/commission")
	office.is(`document.querySelector('[data-entry="ahead-time"]') && document.querySelector('[data-entry="behind"]')`)
	// What was found without bonding is bonded with this work, by the same press.
	office.visit("/jobs/" + id + "/survey")
	office.fill("survey.bonding.gas", "not-bonded")
	office.saved()
	office.click(`[data-rule="bonding"][data-verdict="stop"] [data-take]`)
	office.is(`document.querySelector('[data-rule="bonding"][data-verdict="open"]')`) // its length
	office.visit("/jobs/" + id + "/design")
	office.fill("design.bonds.length", "6")
	office.saved()
	office.is(`!document.querySelector('[data-rule="bonding"]:is([data-verdict="stop"], [data-verdict="open"])')`)
	office.eval(`document.querySelector('[data-panel="bonds"]').scrollIntoView({block: 'center'})`)
	office.shot("bonds")
	office.visit("/jobs/" + id + "/install")
	office.is(`document.querySelector('li[data-step="bonds"]')?.innerText.includes('Main bonding run')`)
	_, job := api.do("GET", "/api/jobs/"+id+"/export", "", "")
	if !strings.Contains(string(job), `"upstreamRcdType":"AC"`) || !strings.Contains(string(job), `"gas":"not-bonded"`) {
		t.Error("the survey does not say any more what was found")
	}
}

// TestNextJob: a removal at a site where we put the charger up begins from that job's sealed record: what it knows is not asked
// again, what a person must see again is.
func TestNextJob(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	api := signedIn(t, srv.base, "surveyor")
	id := jobID(t, api, "DB-0401")
	office := open(t, srv.base, 1280, 800)
	office.signIn("surveyor")
	office.visit("/jobs/" + id + "/handover")
	office.click(`[data-next]`)
	office.is(`document.querySelector('[data-before]')?.innerText.includes("3 Sailmaker's Row") && !document.querySelector('[data-field="site.customer"]')`)
	office.is(`document.querySelector('[data-field="rulebook"] select')?.value === 'bs7671:2018+A2:2022'`)
	office.fill("kind", "removal")
	office.shot("next-job")
	office.press("Make the job")
	office.is(`location.pathname.endsWith('/survey') && !location.pathname.includes('new')`)
	asked := []pair{{"survey.supply.otherSource", "no"}, {"survey.consent.landlord", "no"}}
	office.fillAll(asked)
	office.saved()
	office.is(`(s => s.length === 5 && s.every(s => s.dataset.section === 'photos' || s.dataset.complete === 'true'))([...document.querySelectorAll('[data-section]')])`)
	here, err := chromedp.Run(office.ctx, chromedp.Evaluate[string](`location.pathname.split('/')[2]`))
	if err != nil {
		t.Fatal(err)
	}
	office.visit("/jobs/" + here + "/design")
	office.is(`document.querySelector('[data-field="design.circuits.0.charger.serial"] input')?.value === 'WU-0401'`)
	office.is(`document.querySelector('[data-field="design.circuits.0.charger.closes"] input')?.value === 'DB-0401'`)
	asked = append(asked, pair{"design.circuits.0.breaker.fate", "taken-out"}, pair{"design.circuits.0.cable.fate", "taken-out"})
	office.fillAll(asked[2:])
	office.saved()
	office.is(`document.querySelector('.tally').innerText.includes('nothing in the way')`)
	t.Logf("%d fields of a removal where we put it up", len(asked))
	_, job := api.do("GET", "/api/jobs/"+here+"/export", "", "")
	if !strings.Contains(string(job), `"follows":"DB-0401"`) {
		t.Error("the job does not say which it follows")
	}
}

// TestSeveral carries a job of two points from new to its record, each with its own route, circuit, steps, torques and tests.
func TestSeveral(t *testing.T) {
	if os.Getenv("DOGBOLT_KINDS") == "" {
		t.Skip("in make test-all: DOGBOLT_KINDS=all")
	}
	for name, way := range map[string]*several{
		"each at its setting": {answer: 1},
		"one limit": {answer: 3, to: "40", steps: []pair{{"link", "A leads"}}, tests: []entered{{"load-management", "current falls"}},
			words: []string{"Chargers joined to share the limit", "Load management proved", "40 A for whoever charges"}},
	} {
		t.Run(name, way.run)
	}
}

// several is how the points of a job share the supply: the answer by its place among the arrangements, the shared limit, and what is done,
// tested and printed besides.
type several struct {
	answer int
	to     string
	steps  []pair
	tests  []entered
	words  []string
}

func (way *several) run(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	j := ukJourney()
	j.number, j.points, j.earlier = "E2E-UK-11", "2", true
	second := func(list []pair) []pair { // the same of point B
		var of []pair
		for _, f := range list {
			if strings.Contains(f[0], ".0.") {
				of = append(of, pair{strings.Replace(f[0], ".0.", ".1.", 1), strings.Replace(f[1], "WU-7001", "WU-7002", 1)})
			}
		}
		return of
	}
	office := open(t, srv.base, 1280, 800)
	office.signIn("surveyor")
	id := j.create(office)
	var places []pair
	for _, f := range j.survey {
		if strings.HasPrefix(f[0], "survey.places.") {
			places = append(places, f)
		}
	}
	office.fillAll(append(j.survey, second(places)...))
	for place := range 2 {
		for i, seg := range j.segments {
			route := fmt.Sprintf("survey.places.%d.route", place)
			office.openSection(route)
			office.click(fmt.Sprintf(`[data-field=%q] .foot button`, route))
			for _, f := range seg {
				office.fill(fmt.Sprintf("%s.%d.%s", route, i, f[0]), f[1])
			}
		}
	}
	office.saved()
	office.is(`document.querySelector('.tally').innerText.includes('nothing in the way')`)
	for _, point := range []string{"A", "B"} {
		list := func(l []pair) []pair {
			if point == "B" {
				return second(l)
			}
			return l
		}
		office.visit("/jobs/" + id + "/design?point=" + point)
		office.is(`document.querySelector('[aria-selected="true"]')?.innerText === '` + point + `'`)
		office.unfold()
		office.fillAll(list(j.design))
		office.saved()
		office.click(fmt.Sprintf(`[data-option=%q]`, j.option))
		office.saved()
		office.is(`document.querySelector('tr.chosen .is')`)
		office.fillAll(append(list(j.after), list(j.mend)...))
		office.saved()
	}
	office.unfold()
	office.is(`document.querySelector('[data-field="design.sharing"]')`)
	office.eval(`document.querySelector('[data-field="design.sharing"]').open = true`)
	office.eval(fmt.Sprintf(`document.querySelectorAll('[data-field="design.sharing"] [data-answer]')[%d].click()`, way.answer-1))
	office.is(`document.querySelector('[data-field="design.sharing"] .is')`)
	if way.to != "" {
		office.fill("design.sharedTo", way.to)
		office.saved()
	}
	office.is(`document.querySelector('.tally').innerText.includes('nothing in the way')`)
	n := j.asked() + len(second(places)) + len(second(j.design)) + len(second(j.after))
	for _, s := range j.segments {
		n += len(s)
	}
	t.Logf("%d fields", n)
	j.doPapers(office, id)
	j.doPlan(office, id)
	office.visit("/jobs/" + id + "/handover")
	office.click(`[data-sign="design"]`)
	office.is(`!document.querySelector('[data-sign="design"]')`)

	phone := open(t, srv.base, 390, 844)
	phone.signIn("installer")
	phone.visit("/jobs/" + id + "/install")
	each := func(do func()) {
		for _, point := range []string{"A", "B"} {
			phone.point = point
			do()
		}
		phone.point = ""
	}
	for _, s := range []pair{{"protect", ""}, {"announce", "the customer"}, {"main-off", "lock 7, key with the lead"}, {"cover-off", ""}} {
		phone.step(s[0], s[1])
	}
	j.proveDead(phone)
	phone.step("barrier", "fitted")
	phone.step("spd", "")
	each(func() {
		for _, s := range []pair{{"backplate", ""}, {"drill", ""}, {"cable", "15 m"}, {"isolator", ""}} {
			phone.step(s[0], s[1])
		}
		for _, end := range []string{"board", "charger"} {
			j.tighten(phone, end, end)
			phone.step(end, "")
		}
		j.set(phone)
	})
	for _, s := range way.steps {
		phone.step(s[0], s[1])
	}
	phone.step("lids", "")
	phone.step("labels", "ways 9 and 11, charging points A and B")
	tests := func(list []entered) {
		phone.visit("/jobs/" + id + "/commission")
		j.setInstrument(phone)
		for n := range 2 {
			phone.click(fmt.Sprintf(`[role="tablist"] [role="tab"]:nth-child(%d)`, n+1))
			phone.taps = nil
			phone.read(list)
		}
	}
	tests(j.dead)
	phone.visit("/jobs/" + id + "/install")
	phone.step("rejoin", "K. Osei")
	phone.openStep("energise")
	for _, name := range j.names {
		phone.click(fmt.Sprintf(`[data-answer=%q]`, name))
		phone.is(fmt.Sprintf(`document.querySelector('[data-answered=%q]')`, name))
	}
	phone.click(".roll .btn.main")
	phone.is(`document.querySelector('[data-field="install.isolation"]').innerText.includes('Energised')`)
	live := []entered{}
	for _, r := range j.live {
		if r[0] != "rcd-time" {
			live = append(live, r)
		} else if r[2] == "" {
			live = append(live, entered{"rcd-time", "24"})
		}
	}
	tests(append(live, way.tests...))
	t.Logf("%d presses for the schedule of inspections", phone.inspect(nil))
	phone.visit("/jobs/" + id + "/handover")
	for n := range 2 {
		at := fmt.Sprintf(`[data-field="handover.scheduler"]:nth-of-type(%d) [data-value="charger"]`, 3*n+1)
		phone.click(at)
		phone.is(fmt.Sprintf(`document.querySelector(%q).getAttribute('aria-pressed') === 'true'`, at))
	}
	for _, role := range []string{"construction", "testing"} {
		phone.click(fmt.Sprintf(`[data-sign=%q]`, role))
		phone.is(fmt.Sprintf(`!document.querySelector('[data-sign=%q]')`, role))
	}
	open(t, srv.base, 1280, 800).seal(id)
	api := signedIn(t, srv.base, "verifier")
	for kind, words := range map[string][]string{
		"certificate": {"Electrical installation certificate", "charging point A", "charging point B"},
		"inspection":  append([]string{"WU-7001", "WU-7002", "point A", "point B"}, way.words...),
	} {
		printed(t, api, id, kind, words)
	}
}
