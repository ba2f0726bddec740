package uk

import (
	"strconv"
	"strings"

	"dogbolt/core/commission"
	"dogbolt/core/inspect"
	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/protection"
	"dogbolt/core/quantity"
	"dogbolt/core/sizing"
	"dogbolt/core/worklog"
)

// Ids of the statements that the certificate takes its words from.
const (
	fuseStandard   = "fuse-standard"
	switchStandard = "switch-standard"
	deviceStandard = "device-standard"
	earthMetal     = "earth-metal"
	insulatedAt    = "insulation-voltage"
	electrodeAt    = "electrode-at"
	lightning      = "lightning"
)

// earthed are the lines of earthing and bonding, which new and minor works both tell.
var earthed = jurisdiction.Group{Title: "Earthing and bonding", Lines: []jurisdiction.Cell{
	{Title: "Means of earthing", Says: func(f *jurisdiction.Facts) string {
		switch f.Survey.Supply.System {
		case job.TNCS, job.TNS:
			return "the distributor's"
		case job.TT:
			return "the installation's electrode"
		case job.Island:
			return "the source's own electrode"
		}
		return ""
	}},
	{Title: "Earth electrode", Says: func(f *jurisdiction.Facts) string {
		if f.Survey.Supply.System == job.TT || f.Survey.Supply.Own() {
			if f.Survey.Supply.ElectrodeRA == 0 {
				return ""
			}
			return quantity.Say("{} Ω", float64(f.Survey.Supply.ElectrodeRA))
		}
		return anyPoint(func(f *jurisdiction.Facts) string { return f.Read(commission.ElectrodeRA) })(f)
	}},
	{Title: "Electrode: type, place", Made: true, Says: func(f *jurisdiction.Facts) string {
		if job.Statement(f.Stated(electrodeAt)) == job.NothingToSay {
			return notApplicable
		}
		return f.Words(electrodeAt)
	}},
	{Title: "Lightning protection", Made: true, Says: func(f *jurisdiction.Facts) string { return f.Stated(lightning) }},
	{Title: "Maximum demand", Made: true, Says: func(f *jurisdiction.Facts) string { return f.Demand }},
	{Title: "Earthing conductor", Made: true, Says: conductorOf(func(b *job.Bonding) float64 { return float64(b.Conductor) })},
	{Title: "Main bonding conductors", Made: true, Says: conductorOf(func(b *job.Bonding) float64 { return float64(b.Size) })},
	{Title: "Bonded", Made: true, Says: bonded},
}}

// minor says what BS 7671 appendix 6 asks of the certificate of minor works: an addition, an alteration or a replacement that
// makes no new circuit. From memory.
var minor = jurisdiction.Certificate{
	Title:  "Minor electrical installation works certificate",
	Notice: "No new circuit: work on one that was there and is kept. By the content of BS 7671 appendix 6.",
	Groups: []jurisdiction.Group{earthed}, Circuits: certificate.Circuits, Tests: certificate.Tests,
}

// certificate says what BS 7671 appendix 6 asks of the certificate of a new circuit and of its schedules,
// in our words and order. From memory.
var certificate = jurisdiction.Certificate{
	Title:  "Electrical installation certificate",
	Notice: "New circuit. By the content of BS 7671 appendix 6; the schedules of inspections, circuit details and test results are part of it.",
	Groups: []jurisdiction.Group{
		{Title: "Supply", Lines: []jurisdiction.Cell{
			{Title: "Earthing system", Says: func(f *jurisdiction.Facts) string {
				if !systems.Has(f.Survey.Supply.System) {
					return ""
				}
				return systems.Of(&f.Survey.Supply).Name
			}},
			{Title: "Live conductors", Says: func(f *jurisdiction.Facts) string {
				switch f.Survey.Supply.Phases {
				case 1:
					return "a.c., single phase, two wires"
				case 3:
					return "a.c., three phases, four wires"
				}
				return ""
			}},
			// 50 Hz: ESQCR 2002, regulation 27; from memory.
			{Title: "Nominal voltage U0 / U, frequency", Says: func(f *jurisdiction.Facts) string {
				if s := &f.Survey.Supply; systems.Has(s.System) && s.Phases == 3 {
					return quantity.Say("{} V / {} V, 50 Hz", float64(systems.Of(s).ToEarth), float64(systems.Of(s).Three))
				} else if systems.Has(s.System) {
					return quantity.Say("{} V, 50 Hz", float64(systems.Of(s).ToEarth))
				}
				return ""
			}},
			{Title: "Prospective fault current", Says: had(commission.FaultCurrent, func(s *job.Supply) (float64, string) { return s.FaultCurrent, "kA" })},
			{Title: "External loop impedance Ze", Says: had(commission.Ze, func(s *job.Supply) (float64, string) { return float64(s.DeclaredZe), "Ω" })},
			{Title: "Polarity of the supply", Says: anyPoint(func(f *jurisdiction.Facts) string { return f.Read(commission.PolarityOrigin) })},
			{Title: "Supply device", Says: func(f *jurisdiction.Facts) string {
				if f.Survey.Supply.Rating == 0 || f.Stated(fuseStandard) == "" {
					return ""
				}
				return f.Stated(fuseStandard) + quantity.Say(", {} A", float64(f.Survey.Supply.Rating))
			}},
			{Title: "Other sources", Says: func(f *jurisdiction.Facts) string {
				said := f.Survey.Supply.OtherSaid()
				if f.Survey.Supply.OtherSource != job.Yes {
					return said
				}
				// Whether it is isolated and marked, its item of the schedule says.
				seen := f.Stated("sources")
				if seen == "" {
					return ""
				}
				return said + "; isolation, notice and interlock " + job.Inspection(seen).Said()
			}},
		}},
		earthed,
		{Title: "Main switch", Lines: []jurisdiction.Cell{
			{Title: "Where", Says: func(f *jurisdiction.Facts) string {
				if f.NewMains() {
					return f.Design.Beside.Where
				}
				return f.Survey.Supply.MainsSwitchAt
			}},
			{Title: "Standard, poles", Says: func(f *jurisdiction.Facts) string { return f.Stated(switchStandard) }},
			{Title: "Rated current", Says: func(f *jurisdiction.Facts) string {
				b := &f.Survey.Board
				if f.NewMains() {
					b = f.Board()
				}
				if b.Rating == 0 {
					return ""
				}
				return quantity.Say("{} A", float64(b.Rating))
			}},
			{Title: "Board in place of the old one", Only: renewed, Says: func(f *jurisdiction.Facts) string {
				d := &f.Design.Beside
				if d.Where == "" || d.Ways == 0 || d.Taken == 0 || d.Rating == 0 || d.BreakingKA == 0 {
					return ""
				}
				says := d.Where + quantity.Say(", main switch {} A, {} ways, {} of them circuits moved over, ", float64(d.Rating), float64(d.Ways), float64(d.Taken)) +
					quantity.Say("devices break {} kA, ", d.BreakingKA)
				switch {
				case !f.NewMains():
					return says + "on the sub-main that was there"
				case d.Tails == 0 || d.Earth == 0:
					return ""
				}
				return says + quantity.Say("tails {} mm², earth {} mm²", float64(d.Tails), float64(d.Earth))
			}},
			{Title: "Circuits moved over", Only: renewed, Says: anyPoint(reads(commission.Behind))},
			{Title: "Their schedule of test results", Only: renewed, Says: func(f *jurisdiction.Facts) string {
				e, _ := f.Latest(job.StepDone, "", worklog.Scheduled)
				return e.Value
			}},
			{Title: "Small board of the points", Says: func(f *jurisdiction.Facts) string {
				d := &f.Design.Beside
				switch {
				case !d.Small():
					return notApplicable
				case d.Where == "" || d.Rating == 0 || d.Tails == 0 || d.Blocks == 0 || d.Earth == 0:
					return ""
				}
				return d.Where + quantity.Say(", main switch {} A, tails {} mm², ", float64(d.Rating), float64(d.Tails)) +
					quantity.Say("blocks {} A, earth {} mm²", float64(d.Blocks), float64(d.Earth))
			}},
			{Title: "Board at the end of the sub-main", Only: aboardOnly, Says: func(f *jurisdiction.Facts) string {
				return anyPoint(func(f *jurisdiction.Facts) string {
					e := &f.Point.Circuit.End
					if f.Point.Place.Name == "" || e.Ways == 0 || e.Rating == 0 || e.BreakingKA == 0 {
						return ""
					}
					return f.Point.Place.Name + quantity.Say(", {} ways, main switch {} A, devices break {} kA", float64(e.Ways), float64(e.Rating), e.BreakingKA)
				})(f)
			}},
			{Title: "Fault current at that board", Only: aboardOnly, Says: anyPoint(reads(commission.EndFault))},
			{Title: "Zs at that board", Only: aboardOnly, Says: anyPoint(reads(commission.Zs, commission.ZsL2, commission.ZsL3))},
			{Title: "Residual device ahead of the circuit", Says: func(f *jurisdiction.Facts) string {
				found := f.Survey.Board.UpstreamRCDType
				if f.Design.Beside.Renews() {
					found = f.Board().UpstreamRCDType
				}
				switch u := found; u {
				case "":
					return ""
				case job.NoUpstream:
					return "none"
				default:
					if by := f.Design.Ahead.Type; by != "" {
						return "type " + string(by) + ", in place of type " + string(u)
					}
					return "type " + string(u)
				}
			}},
		}},
	},
	Circuits: []jurisdiction.Cell{
		{Title: "Circuit", Share: 0.05, Says: func(f *jurisdiction.Facts) string { return f.Point.ID }},
		{Title: "Points served", Share: 0.11, Says: func(f *jurisdiction.Facts) string {
			if f.Point.Place.Name == "" {
				return ""
			}
			if f.Point.Circuit.EndsInBoard() {
				return "sub-main to the board, " + f.Point.Place.Name
			}
			return "1: charging point, " + f.Point.Place.Name
		}},
		{Title: "Wiring", Made: true, Share: 0.09, Says: func(f *jurisdiction.Facts) string { return sizing.FamilyName(f.Point.Circuit.Cable.Family) }},
		{Title: "Reference method", Made: true, Share: 0.07, Says: methods},
		{Title: "Length", Made: true, Share: 0.06, Says: func(f *jurisdiction.Facts) string {
			if !f.Point.Place.Surveyed() {
				return ""
			}
			return f.Length(float64(f.Point.Place.Length()))
		}},
		{Title: "Live", Made: true, Share: 0.06, Says: func(f *jurisdiction.Facts) string { return f.Point.Circuit.Cable.Size }},
		{Title: "Protective", Made: true, Share: 0.08, Says: protective},
		{Title: "Device: standard", Made: true, Share: 0.12, Says: func(f *jurisdiction.Facts) string { return f.Stated(deviceStandard) }},
		{Title: "Type", Share: 0.04, Says: func(f *jurisdiction.Facts) string { return string(f.Point.Circuit.Breaker.Curve) }},
		{Title: "Rating", Share: 0.05, Says: amps(func(c *job.Circuit) float64 { return float64(c.Breaker.Rating) }, "A")},
		{Title: "Breaks", Made: true, Share: 0.05, Says: func(f *jurisdiction.Facts) string {
			if f.Point.Circuit.Breaker.BreakingKA == 0 { // the board's own figure holds
				f.Point.Circuit.Breaker.BreakingKA = f.Board().BreakingKA
			}
			return amps(func(c *job.Circuit) float64 { return c.Breaker.BreakingKA }, "kA")(f)
		}},
		{Title: "Residual: type", Share: 0.07, Says: func(f *jurisdiction.Facts) string {
			if c := &f.Point.Circuit; c.RCD.Fitted == job.No {
				return notApplicable
			} else if c.RCD.Delayed == job.Yes {
				return string(c.RCD.Type) + ", S"
			}
			return string(f.Point.Circuit.RCD.Type)
		}},
		{Title: "IΔn", Share: 0.06, Says: func(f *jurisdiction.Facts) string {
			if f.Point.Circuit.RCD.Fitted == job.No {
				return notApplicable
			}
			return amps(func(c *job.Circuit) float64 { return c.RCD.TripMA }, "mA")(f)
		}},
		{Title: "Zs at most, cold", Share: 0.09, Says: zsMost},
	},
	Tests: []jurisdiction.Cell{
		{Title: "Circuit", Share: 0.05, Says: func(f *jurisdiction.Facts) string { return f.Point.ID }},
		{Title: "Ring r1, rn, r2", Share: 0.06, Says: func(*jurisdiction.Facts) string { return notApplicable }},
		{Title: "R1 + R2", Share: 0.08, Says: reads(commission.R1R2, commission.R1R2L2, commission.R1R2L3)},
		{Title: "Insulation at", Made: true, Share: 0.07, Says: func(f *jurisdiction.Facts) string {
			at, _, _ := strings.Cut(f.Stated(insulatedAt), ":")
			return at
		}},
		{Title: "Live to live", Share: 0.08, Says: reads(commission.InsulationLive)},
		{Title: "Live to earth", Share: 0.08, Says: reads(commission.Insulation)},
		{Title: "Polarity", Share: 0.08, Says: reads(commission.PolarityDead, commission.PolarityLive)},
		{Title: "Zs", Share: 0.08, Says: reads(commission.Zs, commission.ZsL2, commission.ZsL3)},
		{Title: "Residual, IΔn", Share: 0.08, Says: reads(commission.RCDTime)},
		{Title: "Test button", Share: 0.08, Says: func(f *jurisdiction.Facts) string {
			if f.Point.Circuit.RCD.Fitted == job.No || f.Job.Touched() > job.TouchedInside {
				return notApplicable
			}
			switch e, _ := f.Latest(job.Inspected, "", testButton); job.Inspection(e.Value) {
			case job.AsItShould:
				return "works"
			case job.Limited:
				return "not pressed: " + e.Reason
			}
			return ""
		}},
		{Title: "6 mA direct", Share: 0.07, Says: reads(commission.DCTrip)},
		{Title: "Arc-fault button", Share: 0.06, Says: func(*jurisdiction.Facts) string { return notApplicable }},
		{Title: "Remarks", Share: 0.13, Says: remarks},
	},
}

// testButton is the item of the residual device's test button.
const testButton = "unit-button"

const notApplicable = jurisdiction.NotApplicable

// certified are the statements that the certificate takes its words from.
var certified = []inspect.Item{
	// Standards of devices met in homes: common practice.
	{ID: fuseStandard, Part: statements, Title: "Supply fuse: standard and type", Clause: "appendix 6", Choice: []string{
		"BS 88-3", "BS 1361 type II", "BS 88-2", "BS 3036", "not to be seen, sealed",
	}},
	{ID: switchStandard, Part: statements, Title: "Main switch: standard and poles", Clause: "appendix 6, 462.1.201", Choice: []string{
		"BS EN 60947-3, 2 poles", "BS EN 61008-1, 2 poles", "BS EN 60947-3, 3 poles and neutral", "BS EN 60947-3, 4 poles",
	}},
	{ID: earthMetal, Part: statements, Title: "Earthing and bonding conductors: metal", Clause: "appendix 6", Choice: []string{"copper", "copper and aluminium", "steel among them"}},
	{ID: electrodeAt, Part: statements, Clause: "542.2, appendix 6", Title: "Earth electrode: type and place", Words: true,
		Offer: electrode, Against: earthedHere},
	{ID: lightning, Part: statements, Clause: "411.3.1.2, 541.3", Title: "Bonded to lightning protection",
		Choice: []string{"none at the building", "bonded"}},
	{ID: deviceStandard, Part: statements, Title: "Devices of the new circuit: standard", Clause: "appendix 6", Choice: []string{
		"BS EN 61009-1", "BS EN 60898-1, residual BS EN 61008-1", "BS EN 60898-1, residual BS EN 62423", plainBreaker,
	}, Offer: standardOf},
	{ID: insulatedAt, Least: job.TouchedInside, Part: statements, Title: "Insulation was tested at", Clause: "643.3, table 64", Choice: []string{
		"500 V", "250 V: what is vulnerable could not be disconnected",
	}},
}

// had is a figure of the supply with how it was had: as measured at the origin, or by enquiry.
func had(test string, declared func(*job.Supply) (float64, string)) func(*jurisdiction.Facts) string {
	return func(f *jurisdiction.Facts) string {
		for _, p := range f.Points() {
			e, ok := f.Latest(job.ReadingMade, p.ID, test)
			t, _ := sequence.Find(test)
			switch {
			case !ok:
			case e.Instrument == commission.Calculated:
				return quantity.Entered(e.Value, t.Unit) + ", by calculation"
			default:
				return quantity.Entered(e.Value, t.Unit) + ", by measurement"
			}
		}
		if v, unit := declared(&f.Survey.Supply); v > 0 {
			return quantity.Say("{} ", v) + unit + ", by enquiry"
		}
		return ""
	}
}

// anyPoint is what is read at the origin, on whichever point it was entered.
func anyPoint(says func(*jurisdiction.Facts) string) func(*jurisdiction.Facts) string {
	return func(f *jurisdiction.Facts) string {
		said := ""
		for _, p := range f.Points() {
			if said = says(f.Row(p)); said != "" && said != notApplicable {
				break
			}
		}
		return said
	}
}

// What lines of a certificate stand for: a sub-main that is run to a board, and a board in place of the old one.
func aboardOnly(f *jurisdiction.Facts) bool { return f.Lays() }
func renewed(f *jurisdiction.Facts) bool    { return f.Design.Beside.Renews() }

func conductorOf(size func(*job.Bonding) float64) func(*jurisdiction.Facts) string {
	return func(f *jurisdiction.Facts) string {
		after := f.Bonded()
		mm := size(&after)
		read := anyPoint(func(f *jurisdiction.Facts) string { return f.Read(commission.Bonding) })(f)
		if mm == 0 || f.Stated(earthMetal) == "" || read == "" {
			return ""
		}
		return quantity.Say("{} mm²", mm) + ", " + f.Stated(earthMetal) + "; continuity " + read
	}
}

// bonded says what is bonded, and what enters in plastic or is not there; "" while one is not known.
func bonded(f *jurisdiction.Facts) string {
	b := f.Bonded()
	var said []string
	for _, x := range []struct {
		what string
		is   job.Bonded
	}{{"water", b.Water}, {"gas", b.Gas}, {"oil", b.Oil}, {"structural steel", b.Steel}, {"other", b.Other}} {
		switch x.is {
		case "":
			return ""
		case job.IsBonded:
			said = append(said, x.what+" yes")
		case job.NotBonded:
			said = append(said, x.what+" not")
		case job.Plastic:
			said = append(said, x.what+" enters in plastic")
		case job.NotPresent:
			said = append(said, x.what+" none")
		}
	}
	return strings.Join(said, ", ")
}

func amps(of func(*job.Circuit) float64, unit string) func(*jurisdiction.Facts) string {
	return func(f *jurisdiction.Facts) string {
		if v := of(&f.Point.Circuit); v > 0 {
			return quantity.Say("{} ", v) + unit
		}
		return ""
	}
}

// reads joins the readings of tests; "" while one that the circuit has is not read.
func reads(tests ...string) func(*jurisdiction.Facts) string {
	return func(f *jurisdiction.Facts) string { return strings.Join(f.Reads(tests...), ", ") }
}

// methods are the reference methods along the route, in order. Table 4A2, from memory.
func methods(f *jurisdiction.Facts) string {
	letters := map[job.Method]string{
		job.Surface: "C", job.StudWall: "102", job.CeilingThin: "100", job.CeilingThick: "101", job.InInsulation: "103",
		job.ConduitInWall: "A", job.Conduit: "B", job.FreeAir: "E", job.Buried: "D",
	}
	var said []string
	for _, s := range f.Point.Place.Route {
		letter := letters[s.Method.Reference()]
		if letter == "" {
			return ""
		}
		if len(said) == 0 || said[len(said)-1] != letter {
			said = append(said, letter)
		}
	}
	return strings.Join(said, ", ")
}

// protective is the protective conductor by what it is and its area.
func protective(f *jurisdiction.Facts) string {
	c := &f.Point.Circuit.Cable
	if c.EarthSize != "" {
		return c.EarthSize
	}
	at := f.AtBoard()
	m := sizing.ForMetric(&f.Point.Circuit, &f.Point.Place, &at, f.Board())
	if m.EarthArea == 0 {
		return ""
	}
	what := ""
	if c.Earth == job.EarthArmour {
		what = ", armour"
	}
	return quantity.Say("{1} mm²", float64(m.EarthArea)) + what
}

// zsMost is the most that the loop may read cold, by 411.4.4 or table 41.5.
func zsMost(f *jurisdiction.Facts) string {
	c := &f.Point.Circuit
	limit := float64(sizing.ZsLimit(c, &f.Survey.Supply))
	if limit == 0 {
		return ""
	}
	if f.Survey.Supply.System == job.TT || c.Earthing.OpenPEN == job.PENTT || c.FaultByRCD == job.Yes {
		return quantity.Say("{} Ω, by the residual device", limit)
	}
	return quantity.Say("{2} Ω", limit*protection.ColdFactor)
}

// remarks are what bears on a test: surge protection, electronics, what was corrected for.
func remarks(f *jurisdiction.Facts) string {
	said := []string{"vulnerable to insulation tests: charger"}
	if f.Point.Circuit.EndsInBoard() {
		said = []string{"vulnerable to insulation tests: nothing on the board"}
	}
	if f.Point.Circuit.SPD.There() {
		said = append(said, "surge device")
	}
	out := strings.Join(said, ", ")
	if t := f.Read(commission.Ambient); t != "" && t != notApplicable {
		out += "; conductors at " + t
	}
	if n := len(f.Point.Legs()); n > 1 {
		out += "; " + strconv.Itoa(n) + " cables joined in a box"
	}
	return out
}

// application is what the network operator or a landlord is given beside a form.
var application = jurisdiction.Package{
	Title:  "Design and demand",
	Notice: "For the network operator, building control or the owner: demand with charging, one-line diagram, site plan, board, equipment, and the workings of the design.",
	Equipment: []jurisdiction.Cell{
		{Title: "Point", Share: 0.06, Says: func(f *jurisdiction.Facts) string { return f.Point.ID }},
		{Title: "Equipment", Share: 0.30, Says: func(f *jurisdiction.Facts) string {
			if f.Point.Circuit.EndsInBoard() {
				return "board on a sub-main: chargers come later"
			}
			return f.Point.Circuit.Charger.Type
		}},
		{Title: "Rated", Share: 0.08, Says: amps(func(c *job.Circuit) float64 {
			if c.EndsInBoard() {
				return float64(c.End.Rating)
			}
			return float64(c.Charger.Rating)
		}, "A")},
		{Title: "Phases", Share: 0.08, Says: func(f *jurisdiction.Facts) string {
			if n := f.Point.Circuit.Charger.Phases; n > 0 {
				return strconv.Itoa(n)
			}
			return ""
		}},
		{Title: "Set to", Share: 0.08, Says: amps(func(c *job.Circuit) float64 { return float64(c.Setting) }, "A")},
		{Title: "Protection", Share: 0.10, Says: func(f *jurisdiction.Facts) string {
			if c := &f.Point.Circuit; c.EndsInBoard() && f.Point.Place.Outdoors == job.No {
				return notApplicable
			} else if c.EndsInBoard() {
				return c.End.IP
			}
			return f.Point.Circuit.Charger.IP
		}},
		{Title: "Open-PEN protection", Share: 0.18, Says: jurisdiction.OfCharger(func(f *jurisdiction.Facts) string { return f.Point.Circuit.Earthing.OpenPEN.Said() })},
		{Title: "Can feed back", Share: 0.12, Says: jurisdiction.OfCharger(func(f *jurisdiction.Facts) string { return string(f.Point.Circuit.Charger.Exports) })},
	},
	Parts: []jurisdiction.Part{
		{Title: "Supply and demand", Rules: []string{"demand", "links", "operator-route"}},
		{Title: "Load management", Rules: []string{"sharing", "load-management"}},
		{Title: "Circuit", Rules: []string{"ib-in", "in-iz", "drop", "zs-design", "earth-size", "breaking", "fill", "buried", "joint", "sub-main"}},
		{Title: "Protection and earthing", Rules: []string{"bonding", "rcd", "rcd-trip", "rcd-type", "rcd-upstream", "open-pen", "tt", "spd", "isolation-device", "ip"}},
	},
}
