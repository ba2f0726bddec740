package us

import (
	"strconv"

	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/quantity"
	"dogbolt/core/visit"
)

// asks is what an American survey asks beside the rest.
var asks = visit.Practice{
	// Common practice, no source.
	Usual: append([]visit.Usual{
		{Field: "survey.board.terminals", Value: 75, Says: "breakers' terminals for 75 °C"},
		{Field: "survey.board.breakingKa", Value: 10, Says: "breakers of 10 kA", Others: []visit.Answer{{Value: 22, Says: "breakers of 22 kA"}}},
		{Field: "survey.vehicles.0.onBoard", Value: 7700, Says: "it takes 7.7 kW on one phase"},
		{Field: "survey.places.0.holderHeight", Value: 1.1, Says: "holder 1.1 m (3 ft 7 in) above ground", Figure: &visit.Figure{
			Least: 0.5, Most: 1.5, Unit: quantity.InInches, Says: "holder {} above ground",
		}},
		{Field: "survey.places.0.detached", Value: job.No, Says: "at the building that the panel is in"},
		{Field: "survey.places.0.route.0.method", Value: job.Conduit, Says: "in conduit on the surface all the way", Others: []visit.Answer{
			{Value: job.Surface, Says: "cable on the surface all the way"},
		}},
		{Field: "survey.places.0.route.0.ambient", Value: 35, Says: "35 °C where it runs"},
		{Field: "survey.places.0.route.0.wires", Value: 2, Says: "nothing else in the conduit"},
	}, visit.AnyHouse...),
	Board: func(s *visit.Survey, survey *job.Survey) {
		s.Ask(survey.Board.CircuitsMax > 0, visit.Drive, "survey.board.circuitsMax", "circuits that the label allows")
		s.Ask(survey.Board.WorkingSpace != "", visit.Drive, "survey.board.workingSpace", "whether the space in front of the panel is clear")
		s.Ask(survey.Board.HandleHeight > 0, visit.Drive, "survey.board.handleHeight", "height of the highest breaker handle")
		if survey.Board.FedFrom == job.FromSubMain {
			s.Ask(survey.Board.Outbuilding.Apart != "", visit.Drive, "survey.board.outbuilding.apart", "whether the panel is in a building of its own")
		}
	},
	Loads: func(s *visit.Survey, survey *job.Survey) {
		s.Ask(survey.Dwelling.FloorArea > 0, visit.Call, "survey.dwelling.floorArea", "floor area")
	},
	Positions: func(s *visit.Survey, survey *job.Survey) {
		for i, p := range survey.Places {
			s.Ask(p.Detached != "", visit.Call, "survey.places."+strconv.Itoa(i)+".detached", "whether point "+p.Point+" is at a building apart from the panel's")
		}
	},
	Segment: func(s *visit.Survey, g *job.Segment, at, what string) {
		s.Ask(g.Wet != "", visit.Drive, at+".wet", "wet or dry, "+what)
		if g.Wet == job.Yes && g.Method != job.Buried && g.Method != job.ThroughWall {
			s.Ask(g.Roof != "", visit.Drive, at+".roof", "close above a sunny roof or not, "+what)
		}
		if g.Method == job.Buried {
			s.Ask(g.Riser != "" && g.Slack != "", visit.Drive, at+".riser", "how it leaves the ground, and room to move, "+what)
		}
	},
}

// asked is what American pages ask and call in their own way.
var asked = jurisdiction.Asked{
	Words: map[string]string{
		"residual": "ground-fault protection",
		"supply":   "Service", "service": "Service", "board": "Panel", "space": "Space", "poles": "Poles", "newDevice": "Two-pole breaker", "supports": "supports", "board.clearSpace": clearSpace,
	},
	Fields: map[string]string{
		"site.language": "Handover pack in", "supply.rating": "Service disconnect", "supply.condition": "Service equipment looks", "supply.voltage": "Voltage, hot to hot, V",
		"supply.faultCurrent": "Available fault current", "supply.peakMinutes": "Its intervals",
		"supply.peakSeason": "Heating or cooling in it?", "supply.transformerKva": "Utility's transformer",
		"circuit.charger.enclosure": "Enclosure type", "circuit.charger.listing": "Listing mark on the nameplate", "circuit.settingGuarded": "Setting guarded?",
		"circuit.cable.wetMarked": "Marked for wet places?", "circuit.cable.earth": "Grounded by",
		"board.rating": "Bus rating", "board.ways": "Spaces", "board.waysFree": "Spaces free", "board.freePair": "A pair free, on both legs?",
		"board.circuitsMax": "Circuits label allows", "board.circuitsFitted": "Circuits fitted", "board.doublesAt": "Doubles allowed in spaces",
		"board.outbuilding": "In a building of its own?", "design.building": "At the building", "place.detached": "At another building?",
		"circuit.charger.supplyCord": "Cord to its plug", "circuit.receptacle.cordClear": "Cord clear of the floor?",
		"route.roof": "Close above a sunny roof?", "route.edges": "Edges kept, or plates?",
		"route.riser": "Guarded out of the ground?", "route.slack": "Free to move with the ground?",
		"board.workingSpace": "Space in front clear?", "board.handleHeight": "Highest breaker handle",
		"board.slots.double": "Double: second circuit", "board.slots.multiwire": "Shares its neutral?",
		"dwelling.floorArea": "Floor area", "dwelling.kitchenCircuits": "Small-appliance circuits", "dwelling.laundryCircuits": "Laundry circuits",
		"route.size": "Trade size", "route.schedule": "PVC schedule", "route.wires": "Live wires", "route.wet": "Wet?",
		"circuit.cable.earthSize": "Equipment ground", "circuit.cable.material": "Metal", "circuit.cable.alMarked": "Both ends marked for it?", "circuit.cable.whiteIsHot": "White used as a hot?",
		"circuit.charger.cordManaged": "Cord managed?", "circuit.charger.needsNeutral": "Needs a neutral?",
		"circuit.end.ways": "Spaces", "circuit.end.rating": "Its bus", "circuit.end.enclosure": "Enclosure type", "circuit.end.handle": "Highest breaker handle",
		"circuit.end.neutralApart": "Neutral apart from ground?", "circuit.end.disconnect": "Disconnect at the building?", "circuit.end.electrode": "Electrode at the building?",
		"circuit.receptacle": "Receptacle", "circuit.disconnect": "Disconnect, lockable open?", "circuit.protection": "Outlet and disconnect",
		"design.evInBucket": "Charging load",
		"design.beside":     "New panel", "beside.ways": "Spaces", "beside.taken": "Spaces of the circuits moved over",
		"beside.rating": "Main breaker or bus, the lesser",
		"beside.case":   "Enclosure type", "beside.space": "Space in front clear?", "beside.handle": "Highest breaker handle",
		"beside.grounded": "Bonded and grounded as its place asks?", "beside.surge": "Surge protection?", "beside.outside": "Emergency disconnect outdoors?",
		"beside.opens": "What feeds it is made dead by",
	},
	Methods: []jurisdiction.Term{
		{Value: "surface", Text: "on the surface"}, {Value: "stud-wall", Text: "in framing"}, {Value: "ceiling-thin", Text: "above a ceiling, attic"},
		{Value: "conduit", Text: "in conduit"}, {Value: "through-wall", Text: "through a wall"}, {Value: "buried", Text: "in the ground"},
	},
	Families: []jurisdiction.Term{
		{Value: "nm-b", Text: "NM-B cable"}, {Value: "mc", Text: "metal-clad cable"},
		{Value: "thwn-emt", Text: "THWN-2 in EMT"}, {Value: "thwn-pvc", Text: "THWN-2 in PVC"},
	},
	Terminals: []int{60, 75},
	DemandMethods: []jurisdiction.Term{
		{Value: "220.82", Text: "by calculation, 220.82"}, {Value: "220.83", Text: "by calculation, 220.83"}, {Value: "220.87", Text: "by measurement, 220.87"},
	},
}
