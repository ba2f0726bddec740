package us

import (
	"strconv"

	"dogbolt/core/job"
	"dogbolt/core/protection"
	"dogbolt/core/quantity"
	"dogbolt/core/rulebook"
	"dogbolt/core/sizing"
)

func checkBreaker(s *rulebook.Subject) rulebook.Finding {
	c := &s.Point.Circuit
	set, in := float64(c.Setting), float64(c.Breaker.Rating)
	switch {
	case set == 0:
		return rulebook.Missing(c.Unset())
	case in == 0:
		return rulebook.Missing("breaker rating")
	case !protection.IsListed(protection.Standard, c.Breaker.Rating):
		return rulebook.Fails(quantity.Say("{} A is not a standard rating of 240.6(A)", in), "choose a standard rating")
	case c.Breaker.Poles != 0 && c.Breaker.Poles < 2:
		return rulebook.Fails("one pole on a 240 V circuit", "fit a two-pole breaker")
	}
	return rulebook.AtLeast(in, 1.25*set, "A", quantity.Say("{} A × 1.25 = {} A ≤ {} A", set, 1.25*set, in), "a larger breaker or a lower setting")
}

// ready returns what is still missing before a conductor can be judged.
func ready(s *rulebook.Subject) string {
	c := &s.Point.Circuit
	switch {
	case wires(s).MissingCable != "":
		return wires(s).MissingCable
	case c.Cable.Material == "":
		return "metal of the conductors"
	case c.Setting == 0:
		return c.Unset()
	}
	return ""
}

func checkTermination(s *rulebook.Subject) rulebook.Finding {
	if m := ready(s); m != "" {
		return rulebook.Missing(m)
	}
	a, set := wires(s), float64(s.Point.Circuit.Setting)
	why := "by the terminals"
	switch {
	case s.Point.Circuit.Cable.Family == job.NMB:
		why = "NM-B is held to 60 °C, 334.80"
	case s.Job.Board().Terminals == 0 || s.Point.Circuit.Charger.Terminals == 0:
		return rulebook.Missing("temperature that the terminals of the breaker and at the " + s.Point.Circuit.EndSaid() + " are marked for")
	}
	return rulebook.AtLeast(float64(a.Termination), 1.25*set, "A",
		a.Row.Size.String()+quantity.Say(": {} A in the {} °C column (", float64(a.Termination), a.TermColumn.Degrees())+why+
			quantity.Say("); {} A × 1.25 = {} A", set, 1.25*set),
		"a larger conductor, another wiring method, or a lower setting")
}

func checkDerated(s *rulebook.Subject) rulebook.Finding {
	if m := ready(s); m != "" {
		return rulebook.Missing(m)
	}
	a, set := wires(s), float64(s.Point.Circuit.Setting)
	if a.MissingRoute != "" {
		return rulebook.Missing(a.MissingRoute)
	}
	if m := s.Conditions(func(g *job.Segment) int { return g.Wires }, "current-carrying conductors together, this circuit's included,"); m != "" {
		return rulebook.Missing(m)
	}
	if m := roof(s); m != "" {
		return rulebook.Missing(m)
	}
	sum := quantity.Say("{} A at 90 °C × {2} × {2} = {1} A in segment {}", float64(a.Base), a.Ca, a.Cadj, float64(a.Base)*a.Ca*a.Cadj, float64(a.Worst+1))
	if s.Point.Circuit.Cable.Family == job.NMB {
		sum += quantity.Say(", at most {} A", float64(a.Termination))
	}
	return rulebook.AtLeast(
		float64(a.Derated),
		set,
		"A",
		sum+"; the "+s.Point.Circuit.EndSaid()+quantity.Say(" draws {} A", set),
		"a larger conductor, a cooler route, or fewer wires together",
	)
}

// roof names a stretch outside of which it is not known whether it lies close above a
// sunny roof; "" where there is none.
func roof(s *rulebook.Subject) string {
	p := &s.Point.Place
	for i := range p.Route {
		g := &p.Route[i]
		if g.Wet == job.Yes && g.Method != job.Buried && g.Method != job.ThroughWall && g.Roof == job.Unasked {
			return "whether segment " + strconv.Itoa(p.First+i+1) + " lies in sunlight less than 7/8 in above a roof"
		}
	}
	return ""
}

func checkProtection(s *rulebook.Subject) rulebook.Finding {
	if m := ready(s); m != "" {
		return rulebook.Missing(m)
	}
	a, in := wires(s), float64(s.Point.Circuit.Breaker.Rating)
	switch {
	case a.MissingRoute != "":
		return rulebook.Missing(a.MissingRoute)
	case in == 0:
		return rulebook.Missing("breaker rating")
	}
	working := quantity.Say("lesser of {} A and {1} A: breaker up to {} A", float64(a.Termination), float64(a.Derated), float64(a.MaxBreaker))
	if a.SmallMax > 0 {
		working = a.Row.Size.String() + quantity.Say(" ends at {} A, 240.4(D)", float64(a.SmallMax))
	}
	return rulebook.AtMost(in, float64(a.MaxBreaker), "A", working+quantity.Say("; {} A chosen", in), "a larger conductor, or a smaller breaker and setting").
		Exactly()
}

// checkMetal judges whether the terminals take the metal of the conductors; copper fits all.
func checkMetal(s *rulebook.Subject) rulebook.Finding {
	c := &s.Point.Circuit.Cable
	switch {
	case c.Size == "":
		return rulebook.Missing("conductor size")
	case c.Material != job.Aluminium:
		return rulebook.Meets("copper")
	case c.AlMarked == job.Unasked:
		return rulebook.Missing("whether the terminals at both ends are marked for aluminium")
	case c.AlMarked == job.No:
		return rulebook.Fails("aluminium, and not every terminal is marked AL", "copper conductors, or connectors that are listed for both metals")
	}
	return rulebook.Meets("aluminium, both ends marked for it")
}

func checkWet(s *rulebook.Subject) rulebook.Finding {
	c := &s.Point.Circuit
	switch {
	case c.Cable.Family == "":
		return rulebook.Missing("conductor family")
	case c.Cable.Family != job.NMB && c.Cable.Family != job.MC:
		return rulebook.Meets(sizing.FamilyName(c.Cable.Family) + " is allowed in wet locations")
	case !s.Point.Place.Surveyed():
		return rulebook.Missing("route")
	case wires(s).WetNotAllowed > 0 && c.Cable.Family == job.MC && c.Cable.WetMarked == job.Yes:
		return rulebook.Meets("metal-clad cable that is marked for wet places, 330.10")
	case wires(s).WetNotAllowed > 0 && c.Cable.Family == job.MC && c.Cable.WetMarked == job.Unasked:
		return rulebook.Missing("whether the metal-clad cable is marked for wet places")
	case wires(s).WetNotAllowed > 0:
		return rulebook.Fails(
			sizing.FamilyName(c.Cable.Family)+quantity.Say(" in segment {}, a wet location", float64(wires(s).WetNotAllowed)),
			"change to wet-rated conductors there; the inside of an outdoor raceway is wet",
		)
	}
	return rulebook.Meets(sizing.FamilyName(c.Cable.Family) + " in dry places only")
}

func checkGround(s *rulebook.Subject) rulebook.Finding {
	a := wires(s)
	if a.MissingCable != "" {
		return rulebook.Missing(a.MissingCable)
	}
	if a.MissingGround != "" {
		return rulebook.Missing(a.MissingGround)
	}
	working := a.GroundUsed.String() + " used, " + a.GroundLeast.String() + " asked"
	if a.GroundLeast != a.GroundBase {
		working += ": " + a.GroundBase.String() + " enlarged in proportion, 250.122(B)"
	}
	// A smaller gauge number is a larger conductor.
	switch c := &s.Point.Circuit; {
	case a.ByRaceway:
		return rulebook.Meets(sizing.FamilyName(c.Cable.Family) + ": its metal is the equipment ground, 250.118")
	case a.GroundUsed > a.GroundLeast && a.GroundUsed <= a.GroundBase && (c.Cable.Family == job.NMB || c.Cable.Family == job.MC):
		return rulebook.Advise(
			working+"; it is the cable's factory ground",
			"250.122(B), exception: a qualified person determines that the path is effective; say so in the log",
		)
	}
	if a.GroundUsed > a.GroundLeast {
		return rulebook.Fails(working, "a larger equipment grounding conductor")
	}
	return rulebook.Meets(working)
}

// dropAdvice is the share of the voltage that 210.19's informational note advises.
const dropAdvice = 0.03

// checkDrop is advice: the 3 % of 210.19 is an informational note.
func checkDrop(s *rulebook.Subject) rulebook.Finding {
	if m := ready(s); m != "" {
		return rulebook.Missing(m)
	}
	a := wires(s)
	switch {
	case !s.Point.Place.Surveyed():
		return rulebook.Missing("route")
	case s.Point.Joined() && s.Point.Circuit.Beyond.Cable.Material == "":
		return rulebook.Missing("metal of the conductors beyond the joint box")
	}
	term := func(a *sizing.AWG) string {
		return quantity.Say("{4} Ω/m × {1} m", a.Row.OhmPerMetre(a.Aluminium), float64(a.Length))
	}
	sum := "2 × "
	if a.Legs == nil {
		sum += term(a)
	} else {
		sum += "(" + term(&a.Legs[0]) + " + " + term(&a.Legs[1]) + ")"
	}
	f := rulebook.AtMost(
		100*a.DropShare,
		100*dropAdvice,
		"%",
		sum+quantity.Say(" × {} A = {2} V of {} V = {2} %", float64(s.Point.Circuit.Setting), float64(a.Drop), a.Voltage, 100*a.DropShare),
		"",
	).Exactly()
	if f.Verdict == rulebook.Stop {
		f.Verdict, f.Remedy = rulebook.Watch, "advice, not a violation: a larger conductor wastes less"
	}
	return f
}

func checkDemand(s *rulebook.Subject) rulebook.Finding {
	counted := " at 100 %"
	if s.Demand.Method != "220.87" && s.Job.Design.EVInBucket == job.Yes {
		counted = " inside the 40 % part"
	}
	return rulebook.CheckDemand(s, "service", counted, "a lower setting, energy management (625.42(A), 750.30), or a larger service")
}

// loadSum is the working of a charging load: "48 A × 240 V = 11520 VA".
func loadSum(s *rulebook.Subject, p Point) string {
	c := &s.Point.Circuit
	sum := "{} A × {} V = {0} VA"
	if c.Charger.Phases == 3 {
		sum = "√3 × " + sum
	}
	return quantity.Say(sum, float64(counts(c)), float64(volts(&s.Job.Survey.Supply, c)), p.VA)
}

func checkEVLoad(s *rulebook.Subject) rulebook.Finding {
	c := &s.Point.Circuit
	if c.Setting == 0 {
		return rulebook.Missing("charger setting")
	}
	p := point(&s.Job.Survey.Supply, counts(c), c.Charger.Phases, MinimumEV)
	va := max(p.VA, p.Least)
	f := rulebook.Meets("larger of 7200 VA and " + loadSum(s, p) + quantity.Say(": {0} VA counted", va))
	f.Value, f.Low, f.Unit = rulebook.Num(va), rulebook.Num(MinimumEV), "VA"
	return f
}

func checkReceptacle(s *rulebook.Subject) rulebook.Finding {
	c := &s.Point.Circuit
	switch {
	case c.Connection == "":
		return rulebook.Missing("hard-wired or receptacle")
	case c.Connection == job.HardWired:
		return rulebook.Meets("hard-wired")
	case c.Receptacle.Rating == 0 || c.Breaker.Rating == 0:
		return rulebook.Missing("rating of the receptacle and the breaker")
	case c.Receptacle.Rating > 50:
		return rulebook.Fails(quantity.Say("{} A receptacle, at most 50 A", float64(c.Receptacle.Rating)), "hard-wire the charger")
	case c.Receptacle.Rating < c.Breaker.Rating:
		return rulebook.Fails(
			quantity.Say("{} A receptacle on a {} A circuit", float64(c.Receptacle.Rating), float64(c.Breaker.Rating)),
			"a receptacle rated at least as the circuit",
		)
	case c.Setting > 0.8*c.Receptacle.Rating:
		return rulebook.Fails(
			quantity.Say(
				"{} A set, a {} A receptacle carries {} A continuously",
				float64(c.Setting),
				float64(c.Receptacle.Rating),
				0.8*float64(c.Receptacle.Rating),
			),
			"lower the setting, or hard-wire the charger",
		)
	}
	return rulebook.Meets(quantity.Say("{} A receptacle, {} A circuit, {} A set", float64(c.Receptacle.Rating), float64(c.Breaker.Rating), float64(c.Setting)))
}

// checkBox: volume of the receptacle's box by 314.16(B). Conductors of 4 AWG and
// larger are for 314.28.
func checkBox(s *rulebook.Subject) rulebook.Finding {
	c := &s.Point.Circuit
	if c.Connection != job.PluggedIn || wires(s).MissingCable != "" {
		return rulebook.Finding{}
	}
	have, ok := boxVolume[c.Receptacle.Box]
	switch {
	case !ok:
		return rulebook.Missing("box of the receptacle: side and depth")
	case c.Receptacle.Gangs == 0 || c.Receptacle.Clamps == job.Unasked:
		return rulebook.Missing("gangs of the receptacle, and whether the box has clamps inside")
	case wires(s).MissingGround != "":
		return rulebook.Missing(wires(s).MissingGround)
	}
	hots := len(sizing.WiresAWG(c, wires(s).Row)) - 1
	want, ok := boxFill(hots, wires(s).Row.Size, wires(s).GroundUsed, c.Receptacle.Gangs, c.Receptacle.Clamps == job.Yes)
	if !ok {
		return rulebook.Advise(wires(s).Row.Size.String()+" in a box", "314.28 sizes boxes for conductors of 4 AWG and larger: check it by hand")
	}
	f := rulebook.AtMost(want, have, "in³", quantity.Say("{} conductors, ground, device of {} gangs: ", float64(hots), float64(c.Receptacle.Gangs))+
		quantity.Say("{2} in³ of {1} in³", want, have), "a larger or deeper box")
	return f.Exactly()
}

// usualFault is the most that is usually available at a dwelling's service of 200 A and
// less, kA. Common practice, no source; 110.24(A) exempts dwellings from the label.
const usualFault = 10.0

// checkInterrupting holds the breaker's interrupting rating against the available fault
// current: the utility's figure, the transformer's behind no conductors, or what is
// usual for a dwelling.
func checkInterrupting(s *rulebook.Subject) rulebook.Finding {
	kA := s.Breaks()
	have, how, missing := available(s)
	switch {
	case kA == 0:
		return rulebook.Missing("interrupting rating of the breaker, from its label")
	case missing != "":
		return rulebook.Missing(missing)
	}
	return rulebook.AtMost(quantity.Round(have, 2), kA, "kA", quantity.Say("{2} kA ", have)+how+quantity.Say("; the breaker interrupts {} kA", kA),
		"a breaker, or a listed series combination, of a higher rating").Exactly()
}

// checkEnclosure: the charger's enclosure outdoors, and the cover of an outlet there.
func checkEnclosure(s *rulebook.Subject) rulebook.Finding {
	c := &s.Point.Circuit
	switch {
	case s.Point.Place.Outdoors == job.Unasked:
		return rulebook.Missing("indoors or outdoors")
	case s.Point.Place.Outdoors == job.No:
		return rulebook.Meets("indoors")
	case c.Unit() && c.Charger.Enclosure == "":
		return rulebook.Missing("type of the charger's enclosure, such as 3R")
	case c.Unit() && !c.Charger.Enclosure.Outdoors():
		return rulebook.Fails("type "+string(c.Charger.Enclosure)+" outdoors", "a charger with an enclosure for outdoors: 3R, 4X")
	case c.Connection == job.PluggedIn && c.Receptacle.Cover == job.Unasked:
		return rulebook.Missing("whether the outlet's cover keeps it weatherproof while plugged in")
	case c.Connection == job.PluggedIn && c.Receptacle.Cover == job.No:
		return rulebook.Fails("an outlet in a wet place without a cover for use", "a listed cover that is weatherproof while plugged in")
	}
	if !c.Unit() {
		return rulebook.Meets("the outlet's cover keeps it weatherproof while plugged in")
	}
	return rulebook.Meets("type " + string(c.Charger.Enclosure) + " is for outdoors")
}

// checkGFCIOutdoors: receptacles for charging need ground-fault protection (625.54).
// Whether 210.8(F) reaches an outdoor hard-wired charger is argued: advice.
func checkGFCIOutdoors(s *rulebook.Subject) rulebook.Finding {
	c := &s.Point.Circuit
	switch {
	case c.Connection == job.PluggedIn && c.Receptacle.GFCI == job.Unasked:
		return rulebook.Missing("ground-fault protection of the receptacle")
	case c.Connection == job.PluggedIn && c.Receptacle.GFCI == job.No:
		return rulebook.Fails("receptacle without ground-fault protection for personnel", "a ground-fault breaker for the circuit")
	case c.Connection == job.PluggedIn:
		return rulebook.Meets("protected")
	case c.Connection == job.HardWired && s.Point.Place.Outdoors == job.Yes && c.Breaker.Rating > 0 && c.Breaker.Rating <= 50:
		return rulebook.Advise("outdoors, hard-wired, ≤ 50 A: whether 210.8(F) reaches it is argued", "ask the inspector before the work")
	}
	return rulebook.Finding{}
}

// checkGFCI is checkGFCIOutdoors with the places that 2023 added to 210.8(F): garages
// with floors at or below grade, and accessory buildings.
func checkGFCI(s *rulebook.Subject) rulebook.Finding {
	c := &s.Point.Circuit
	if f := checkGFCIOutdoors(s); f.Verdict != "" || c.Connection != job.HardWired || c.Breaker.Rating == 0 || c.Breaker.Rating > 50 {
		return f
	}
	return rulebook.Advise("hard-wired, ≤ 50 A: 210.8(F) names garages at or below grade and accessory buildings too; whether it reaches a charger is argued",
		"ask the inspector before the work")
}

// cordLimit is 25 ft, 7.5 m as printed beside it.
const cordLimit = 25.0

func checkCord(s *rulebook.Subject) rulebook.Finding {
	c := &s.Point.Circuit.Charger
	switch {
	case c.Outlet == "":
		return rulebook.Missing("fixed cord or socket")
	case c.Outlet == job.Socket:
		return rulebook.Meets("no fixed cord")
	case c.CordLength == 0:
		return rulebook.Missing("length of the cord")
	case c.CordManaged == job.Yes:
		return rulebook.Meets(quantity.Say("{1} ft with a cable-management system", c.CordLength.Feet()))
	}
	return rulebook.AtMost(
		quantity.Round(c.CordLength.Feet(), 1),
		cordLimit,
		"ft",
		quantity.Say("{1} ft, at most 25 ft", c.CordLength.Feet()),
		"a shorter cord, or a listed cable-management system",
	).
		Exactly()
}

// supplyCordMost is the longest cord to the plug of a unit that is fastened in place, ft:
// 625.17(A)(3). From memory.
const supplyCordMost = 6.0

// checkSupplyCord: the cord between a unit that is plugged in and its outlet.
func checkSupplyCord(s *rulebook.Subject) rulebook.Finding {
	c := &s.Point.Circuit
	switch {
	case c.Connection != job.PluggedIn:
		return rulebook.Finding{}
	case c.Charger.SupplyCord == 0:
		return rulebook.Missing("length of the unit's cord to its plug")
	}
	f, ok := rulebook.Answered(rulebook.Question{Answer: c.Receptacle.Clear, Missing: "whether the unit's cord hangs clear of the floor",
		Fails: "the unit's cord lies on the floor when it is plugged in", Remedy: "hang the unit or the outlet so that it does not"})
	if !ok {
		return f
	}
	return rulebook.AtMost(quantity.Round(c.Charger.SupplyCord.Feet(), 1), supplyCordMost, "ft",
		quantity.Say("{1} ft to the plug, at most {} ft", c.Charger.SupplyCord.Feet(), supplyCordMost), "the outlet nearer to the unit, or hard-wire it").Exactly()
}

// checkDetached: a building apart from the panel's has one supply, and a disconnect where
// it comes in. One circuit with its equipment ground needs no electrode there (250.32(A),
// exception).
func checkDetached(s *rulebook.Subject) rulebook.Finding {
	p, c := &s.Point.Place, &s.Point.Circuit
	switch {
	case p.Detached == job.Unasked:
		return rulebook.Missing("whether the point is at a building or structure apart from the panel's")
	case p.Detached == job.No:
		return rulebook.Meets("at the panel's own building")
	case p.OtherSupply == job.Unasked:
		return rulebook.Missing("whether that building has a circuit or a feeder already")
	case p.OtherSupply == job.Yes:
		return rulebook.Fails("a second supply to a building that has one", "feed the charger from that building's own panel, by a feeder that carries both")
	}
	f, ok := rulebook.Answered(rulebook.Question{
		Answer:  c.Disconnect,
		Missing: "a disconnect at the building, where the circuit comes in",
		Fails:   "a building supplied from another without a disconnect of its own",
		Remedy:  "a readily accessible disconnect where the circuit comes in, marked as such",
	})
	if !ok {
		return f
	}
	return rulebook.Meets("its one circuit, with an equipment ground and a disconnect; 250.32(A), exception, asks no electrode")
}

// rated is the rated current of what hangs on a circuit: of the charger, of an outlet without one, or of a panel's bus.
func rated(c *job.Circuit) quantity.Ampere {
	switch c.Kind() {
	case job.OutletOnly:
		return c.Receptacle.Rating
	case job.SubMain:
		return c.End.Rating
	}
	return c.Charger.Rating
}

// checkDisconnect: equipment rated over 60 A or over 150 V to ground.
func checkDisconnect(s *rulebook.Subject) rulebook.Finding {
	c := &s.Point.Circuit
	switch {
	case rated(c) == 0:
		return rulebook.Missing("charger rating")
	case rated(c) <= 60:
		return rulebook.Meets(quantity.Say("charger rated {} A ≤ 60 A, 120 V to ground: not required", float64(rated(c))))
	case c.Disconnect == job.Yes:
		return rulebook.Meets("readily accessible, lockable open")
	case c.Disconnect == job.No:
		return rulebook.Fails(
			quantity.Say("charger rated {} A > 60 A without a disconnect", float64(rated(c))),
			"a readily accessible disconnect, lockable open; a plaque if remote",
		)
	}
	return rulebook.Missing("disconnect for a charger rated over 60 A")
}

func checkNeutral(s *rulebook.Subject) rulebook.Finding {
	c := &s.Point.Circuit
	switch {
	case c.Connection != job.PluggedIn:
		return rulebook.Finding{}
	case c.Charger.NeedsNeutral == job.Unasked || c.Receptacle.Neutral == job.Unasked:
		return rulebook.Missing("whether charger and receptacle pattern have a neutral")
	case c.Charger.NeedsNeutral == job.Yes && c.Receptacle.Neutral == job.No:
		return rulebook.Fails("the charger needs a neutral, the pattern has none", "a four-wire receptacle")
	}
	return rulebook.Meets("pattern suits the charger")
}
