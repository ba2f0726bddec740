package uk

import (
	"strconv"

	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/quantity"
	"dogbolt/core/visit"
)

// asks is what a British survey asks beside the rest.
var asks = visit.Practice{
	// Common practice, no source.
	Usual: append([]visit.Usual{
		{Field: "survey.board.rating", Value: 100, Says: "main switch of the board 100 A", Others: []visit.Answer{
			{Value: 63, Says: "main switch of the board 63 A"}, {Value: 80, Says: "main switch of the board 80 A"},
		}},
		{Field: "survey.board.terminals", Value: 70, Says: "breakers' terminals for 70 °C"},
		{Field: "survey.board.breakingKa", Value: 6, Says: "breakers of 6 kA", Others: []visit.Answer{{Value: 10, Says: "breakers of 10 kA"}}},
		{Field: "survey.loads", Value: []job.Load{
			{Kind: job.Cooker, Name: "cooker", Power: 7000, WithSocket: job.Yes},
			{Kind: job.Sockets, Name: "socket ring", Amps: 32},
			{Kind: job.Lighting, Name: "lighting", Amps: 6},
		}, Says: "on the supply: cooker 7 kW, socket ring 32 A, lighting 6 A, and nothing else"},
		{Field: "survey.vehicles.0.onBoard", Value: 7400, Says: "it takes 7.4 kW on one phase"},
		{Field: "survey.places.0.holderHeight", Value: 1.1, Says: "holder 1.1 m above ground", Figure: &visit.Figure{
			Least: 0.5, Most: 1.5, Unit: quantity.InMetres, Says: "holder {} above ground",
		}},
		{Field: "survey.places.0.route.0.method", Value: job.Surface, Says: "cable clipped on the surface all the way", Others: []visit.Answer{
			{Value: job.Conduit, Says: "cable in conduit on the surface all the way"}, {Value: job.Trunking, Says: "cable in trunking all the way"},
		}},
		{Field: "survey.places.0.route.0.ambient", Value: 30, Says: "30 °C where it runs"},
		{Field: "survey.places.0.route.0.grouped", Value: 1, Says: "it runs alone"},
	}, visit.AnyHouse...),
	Supply: func(s *visit.Survey, survey *job.Survey) {
		p := &survey.Supply
		if p.System == job.TT {
			s.Ask(p.ElectrodeRA > 0, visit.Open, "survey.supply.electrodeRa", "resistance of the earth electrode")
		} else {
			if p.Own() {
				s.Ask(p.ElectrodeRA > 0, visit.Open, "survey.supply.electrodeRa", "resistance of the source's earth electrode")
			}
			s.Ask(p.DeclaredZe > 0, visit.Open, "survey.supply.declaredZe", "external loop impedance")
		}
		s.Ask(p.FaultCurrent > 0, visit.Open, "survey.supply.faultCurrent", "prospective fault current")
		s.Ask(survey.Bonding.Conductor > 0, visit.Open, "survey.bonding", "earthing conductor and main bonding")
	},
	Positions: func(s *visit.Survey, survey *job.Survey) {
		for i, p := range survey.SitePlan.Positions {
			if p.At == nil {
				s.Ask(p.Gas != "", visit.Drive, "survey.sitePlan.positions."+strconv.Itoa(i)+".gasClear", "whether position "+p.ID+" is clear of gas")
			}
		}
	},
	Board: func(s *visit.Survey, survey *job.Survey) {
		s.Ask(survey.Board.UpstreamRCDType != "", visit.Open, "survey.board.upstreamRcdType", "residual device upstream")
	},
}

// asked is what British pages ask and call in their own way.
var asked = jurisdiction.Asked{
	Words: map[string]string{
		"residual": "residual device",
		"supply":   "Supply", "service": "Cutout", "board": "Board", "space": "Way", "poles": "Ways", "newDevice": "Device of {} ways", "supports": "clips",
	},
	Fields: map[string]string{
		"supply.rating": "Cutout fuse", "supply.condition": "Cutout, cable, earth terminal look", "supply.voltage": "Voltage, line to neutral, V",
		"position.gasClear": quantity.Say("Gas {} mm away, or more?", 1000*clearOfGas),
		"supply.declaredZe": "Ze declared", "supply.electrodeRa": "Earth electrode",
		"supply.faultCurrent": "Prospective fault current", "supply.earthFault": "Earth fault current",
		"bonding": "Earthing and bonding", "board.rating": "Main switch", "board.conditionalKa": "Conditional rating",
		"board.loop": "Loop impedance at it", "board.drop": "Drop of its sub-main",
		"board.ways": "Ways", "board.waysFree": "Ways free", "board.upstreamRcdType": "Residual device upstream",
		"loads.withSocket": "Socket on its unit?", "design.beside": "New board",
		"beside.instead": "In place of the old board?", "beside.ways": "Ways beside its main switch", "beside.taken": "Ways of the circuits moved over",
		"beside.rating": "Main switch", "beside.ip": "IP code", "beside.made": "Its enclosure is of", "beside.conditionalKa": "Conditional rating",
		"beside.tails": "Tails", "beside.ahead": "Residual device ahead of the points",
		"beside.protected": "Residual device for every circuit moved over?", "beside.tried": "Those circuits tested before the change?",
		"beside.opens": "Tails are made dead by", "design.bonds": "Earthing and bonding",
		"route.size": "Size", "route.grouped": "Circuits together", "route.insulated": "In insulation", "route.soil": "Soil, K·m/W",
		"circuit.breaker.curve": "Breaker type", "circuit.breaker.energyClass": "Energy class",
		"circuit.breaker.letThrough": "Let-through", "circuit.cable.earth": "Protective conductor",
		"circuit.charger.dcDetection": "6 mA direct-current detection?", "circuit.charger.ip": "IP code",
		"circuit.charger.exports": "Can it feed back?", "circuit.breaker.bothWays": "Made to be fed from both sides?",
		"circuit.rcd": "Residual device of its own?", "circuit.earthing.openPen": "Open-PEN protection", "circuit.faultByRcd": "Fault protection by it?",
		"circuit.spdReason": "Who declined, when, why", "circuit.isolator": "Local isolator?",
		"circuit.end.ways": "Ways beside its main switch", "circuit.end.rating": "Its main switch", "circuit.end.ip": "IP code",
		"circuit.end.metal": "Metal from the ground comes in?", "circuit.protection": "Protection and earthing",
	},
	Methods: []jurisdiction.Term{
		{Value: "surface", Text: "clipped to the surface (C)"}, {Value: "stud-wall", Text: "in a stud wall, touching (102)"},
		{Value: "ceiling-thin", Text: "above ceiling, to 100 mm (100)"}, {Value: "ceiling-thick", Text: "above ceiling, over 100 mm (101)"},
		{Value: "in-insulation", Text: "surrounded by insulation (103)"}, {Value: "conduit-in-wall", Text: "conduit in insulated wall (A)"},
		{Value: "conduit", Text: "conduit (B)"}, {Value: "trunking", Text: "trunking (B)"}, {Value: "through-wall", Text: "through a wall (C)"},
		{Value: "free-air", Text: "tray or free air (E)"}, {Value: "catenary", Text: "hung from a catenary (E)"}, {Value: "buried", Text: "in the ground (D)"},
	},
	Families: []jurisdiction.Term{
		{Value: "twin-earth", Text: "twin and earth"}, {Value: "multicore", Text: "multicore"}, {Value: "singles", Text: "single-core"},
		{Value: "armoured-70", Text: "armoured, 70 °C"}, {Value: "armoured-90", Text: "armoured, 90 °C"},
	},
	Terminals:     []int{70, 90},
	DemandMethods: []jurisdiction.Term{{Value: "diversity", Text: "by diversity"}, {Value: "220.87", Text: "by measurement"}},
}
