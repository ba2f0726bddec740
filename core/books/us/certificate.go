package us

import (
	"cmp"
	"strings"

	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/quantity"
	"dogbolt/core/sizing"
)

// certificate is what an inspector of the authority is shown of finished work: by what NEC 2023 asks of a
// branch circuit for charging, in our words and order. From memory.
var certificate = jurisdiction.Certificate{
	Title:  "Inspection checklist and torque log",
	Notice: "For the inspector of the authority having jurisdiction. What was looked at, tightened and measured before the inspection.",
	Groups: []jurisdiction.Group{
		{Title: "Service and panel", Lines: []jurisdiction.Cell{
			{Title: "System", Says: func(f *jurisdiction.Facts) string {
				if !systems.Has(f.Survey.Supply.System) {
					return ""
				}
				return systems.Of(&f.Survey.Supply).Name
			}},
			{Title: "Service rating", Says: func(f *jurisdiction.Facts) string { return amperes(float64(f.Survey.Supply.Rating)) }},
			{Title: "Calculated load", Made: true, Says: func(f *jurisdiction.Facts) string { return f.Demand }},
			{Title: "Panel", Says: func(f *jurisdiction.Facts) string { return f.Board().Label }},
			{Title: "Panel rating", Made: true, Says: func(f *jurisdiction.Facts) string { return amperes(float64(f.Board().Rating)) }},
			{Title: "Devices interrupt", Made: true, Says: func(f *jurisdiction.Facts) string {
				if f.Board().BreakingKA == 0 {
					return ""
				}
				return quantity.Say("{} kA", f.Board().BreakingKA)
			}},
			{Title: "In place of the old panel", Only: func(f *jurisdiction.Facts) bool { return f.Design.Beside.Renews() }, Says: func(f *jurisdiction.Facts) string {
				d, read := &f.Design.Beside, ""
				for _, p := range f.Points() {
					read = cmp.Or(read, f.Row(p).Read(commission.Behind))
				}
				if d.Ways == 0 || d.Taken == 0 || d.Grounded == "" || read == "" {
					return ""
				}
				return quantity.Say("{} spaces, {} of them circuits moved over, tested again: ", float64(d.Ways), float64(d.Taken)) + read
			}},
			{Title: "Second source", Says: func(f *jurisdiction.Facts) string {
				said := f.Survey.Supply.OtherSaid()
				if f.Survey.Supply.OtherSource == job.Yes {
					said += ", marked at the service (" + markedBy(f) + ")"
				}
				return said
			}},
		}},
	},
	Circuits: []jurisdiction.Cell{
		{Title: "Point", Share: 0.05, Says: func(f *jurisdiction.Facts) string { return f.Point.ID }},
		{Title: "Outlet", Share: 0.13, Says: func(f *jurisdiction.Facts) string { return f.Point.Place.Name }},
		{Title: "Equipment", Share: 0.17, Says: listed},
		{Title: "Rated", Share: 0.06, Says: func(f *jurisdiction.Facts) string { return amperes(float64(rated(&f.Point.Circuit))) }},
		{Title: "Set to", Share: 0.06, Says: func(f *jurisdiction.Facts) string { return amperes(float64(f.Point.Circuit.Setting)) }},
		{Title: "Breaker", Share: 0.08, Says: func(f *jurisdiction.Facts) string {
			b := &f.Point.Circuit.Breaker
			if b.Rating == 0 || b.Poles == 0 {
				return ""
			}
			return quantity.Say("{} A, {} poles", float64(b.Rating), float64(b.Poles))
		}},
		{Title: "Conductors", Made: true, Share: 0.16, Says: func(f *jurisdiction.Facts) string {
			c := &f.Point.Circuit.Cable
			if c.Size == "" || c.Family == "" {
				return ""
			}
			metal := string(c.Material)
			if metal == "" {
				metal = "copper"
			}
			return c.Size + " " + metal + ", " + sizing.FamilyName(c.Family)
		}},
		{Title: "Ground", Made: true, Share: 0.10, Says: func(f *jurisdiction.Facts) string {
			switch c := &f.Point.Circuit.Cable; {
			case c.EarthSize != "":
				return c.EarthSize
			case c.Earth == job.EarthArmour:
				return "the raceway or armor"
			case c.Family == job.NMB, c.Family == job.MC: // has its own, sized with it
				return "in the cable"
			}
			return ""
		}},
		{Title: "Length", Made: true, Share: 0.08, Says: func(f *jurisdiction.Facts) string {
			if !f.Point.Place.Surveyed() {
				return ""
			}
			return f.Length(float64(f.Point.Place.Length()))
		}},
		{Title: "Ground-fault protection", Share: 0.11, Says: func(f *jurisdiction.Facts) string {
			switch f.Point.Circuit.Connection {
			case job.HardWired:
				return "in the equipment (625.22)"
			case job.IntoBoard:
				return jurisdiction.NotApplicable
			}
			if f.Point.Circuit.Receptacle.GFCI == job.Yes {
				return "of the receptacle (625.54)"
			}
			return ""
		}},
	},
	Tests: []jurisdiction.Cell{
		{Title: "Point", Share: 0.05, Says: func(f *jurisdiction.Facts) string { return f.Point.ID }},
		{Title: "Ground, to panel", Share: 0.12, Says: reads(commission.Ground)},
		{Title: "Insulation to ground", Share: 0.13, Says: reads(commission.Insulation)},
		{Title: "Hot to hot", Share: 0.10, Says: reads(commission.HotHot)},
		{Title: "L1, L2 to ground", Share: 0.17, Says: reads(commission.HotGround1, commission.HotGround2)},
		{Title: "Receptacle trips at", Share: 0.11, Says: reads(commission.GFCITrip)},
		{Title: "Self-test", Share: 0.10, Says: reads(commission.SelfTest)},
		{Title: "Vehicle states", Share: 0.11, Says: reads(commission.VehicleTest)},
		{Title: "Current offered", Share: 0.11, Says: reads(commission.Pilot)},
	},
}

// markedBy is where the edition has the mark of a second source, or of another service.
func markedBy(f *jurisdiction.Facts) string {
	if f.Survey.Supply.Second.Kind == job.OtherService {
		return "230.2(E)"
	}
	return "705.10"
}

func amperes(v float64) string {
	if v == 0 {
		return ""
	}
	return quantity.Say("{} A", v)
}

// reads joins the readings of tests; "" while one that the circuit has is not read.
func reads(tests ...string) func(*jurisdiction.Facts) string {
	return func(f *jurisdiction.Facts) string { return strings.Join(f.Reads(tests...), ", ") }
}

// listed is a charger with its listing mark, which 110.3(C) and 625.6 ask of it.
func listed(f *jurisdiction.Facts) string {
	switch f.Point.Circuit.Kind() {
	case job.OutletOnly:
		return "receptacle, no charger with this work"
	case job.SubMain:
		e := &f.Point.Circuit.End
		if e.Ways == 0 || e.Rating == 0 {
			return ""
		}
		return quantity.Say("panel of {} spaces, {} A", float64(e.Ways), float64(e.Rating))
	}
	c := &f.Point.Circuit.Charger
	if c.Type == "" || c.Listing == "" {
		return ""
	}
	return c.Type + "; " + c.Listing
}

// permit is what the building department is given beside its form.
var permit = jurisdiction.Package{
	Title:  "Permit package",
	Notice: "For the electrical permit of a branch circuit for charging: load calculation, one-line diagram, site plan, panel schedule, equipment, and the workings of the design.",
	Equipment: []jurisdiction.Cell{
		{Title: "Point", Share: 0.05, Says: func(f *jurisdiction.Facts) string { return f.Point.ID }},
		{Title: "Equipment", Share: 0.16, Says: func(f *jurisdiction.Facts) string {
			if f.Point.Circuit.EndsInBoard() {
				return listed(f)
			}
			return f.Point.Circuit.Charger.Type
		}},
		{Title: "Listing", Share: 0.13, Says: jurisdiction.OfCharger(func(f *jurisdiction.Facts) string { return f.Point.Circuit.Charger.Listing })},
		{Title: "Rated", Share: 0.08, Says: func(f *jurisdiction.Facts) string { return amperes(float64(rated(&f.Point.Circuit))) }},
		{Title: "Set to", Share: 0.08, Says: func(f *jurisdiction.Facts) string { return amperes(float64(f.Point.Circuit.Setting)) }},
		{Title: "Connected by", Share: 0.11, Says: func(f *jurisdiction.Facts) string {
			if f.Point.Circuit.Connection == job.PluggedIn {
				return "receptacle, " + amperes(float64(f.Point.Circuit.Receptacle.Rating))
			}
			if f.Point.Circuit.EndsInBoard() {
				return "feeder to a panel"
			}
			return string(f.Point.Circuit.Connection)
		}},
		{Title: "Enclosure", Share: 0.10, Says: func(f *jurisdiction.Facts) string {
			if e := f.Point.Circuit.End.Enclosure; e != "" {
				return "type " + string(e)
			} else if f.Point.Circuit.EndsInBoard() && f.Point.Place.Outdoors == job.No {
				return jurisdiction.NotApplicable
			}
			if f.Point.Circuit.Charger.Enclosure == "" {
				return ""
			}
			return "type " + string(f.Point.Circuit.Charger.Enclosure)
		}},
		{Title: "Breaker", Share: 0.11, Says: func(f *jurisdiction.Facts) string {
			b := &f.Point.Circuit.Breaker
			if b.Rating == 0 {
				return ""
			}
			return quantity.Say("{} A, {} poles", float64(b.Rating), float64(b.Poles))
		}},
		{Title: "Cord", Share: 0.08, Says: jurisdiction.OfCharger(func(f *jurisdiction.Facts) string {
			if c := &f.Point.Circuit.Charger; c.CordLength > 0 {
				return f.Length(float64(c.CordLength))
			} else if c.Outlet != "" && c.Outlet != job.Tethered {
				return jurisdiction.NotApplicable
			}
			return ""
		})},
		{Title: "Feeds back", Share: 0.10, Says: jurisdiction.OfCharger(func(f *jurisdiction.Facts) string { return string(f.Point.Circuit.Charger.Exports) })},
	},
	Space: workingSpace,
	Parts: []jurisdiction.Part{
		{Title: "Service load", Rules: []string{"demand", "ev-load", "links"}},
		{Title: "Energy management (750)", Rules: []string{"sharing", "load-management"}},
		{Title: "Conductors and raceway", Rules: []string{
			"breaker", "terminal-ampacity", "derated-ampacity", "conductor-protection", "terminal-metal", "ground-size", "fill", "box-fill", "route-bends", "cover", "wet", "drop", "joint",
		}},
		{Title: "Outlet and equipment", Rules: []string{"setting-charger", "receptacle", "receptacle-gfci", "disconnect", "enclosure", "coupling-height", "neutral", "detached", "feeder"}},
		{Title: "Panel and working space", Rules: []string{"spaces", "working-space", "handle-height", "interrupting", "outbuilding"}},
	},
}
