package uk

import (
	"strconv"
	"strings"

	"dogbolt/core/job"
	"dogbolt/core/panel"
	"dogbolt/core/quantity"
	"dogbolt/core/rulebook"
	"dogbolt/core/sizing"
)

// Statutory range of the supply voltage: 230 V +10 % / −6 % (ESQCR 2002, reg. 27).
const (
	VoltageLow  = 216.2
	VoltageHigh = 253.0
)

func checkSupply(s *rulebook.Subject) rulebook.Finding {
	p := &s.Job.Survey.Supply
	switch {
	case p.System == "":
		return rulebook.Missing("earthing system")
	case !systems.Has(p.System):
		return rulebook.Fails("“"+string(p.System)+"” is not an earthing system of this rulebook", "choose TN-C-S, TN-S or TT, or a source of its own")
	case p.Phases == 0:
		return rulebook.Missing("number of phases")
	case p.Rating == 0:
		return rulebook.Missing("rating of the cutout fuse")
	case p.RatingSeen == job.Unasked:
		return rulebook.Missing("whether the rating was read off the fuse itself")
	}
	working := strings.ToUpper(string(p.System)) + quantity.Say(", {} phase, cutout {} A", float64(p.Phases), float64(p.Rating))
	if p.Own() {
		working = ownName + quantity.Say(", {} phase, {} A", float64(p.Phases), float64(p.Rating))
	}
	if p.RatingSeen == job.No {
		return rulebook.Advise(working+", not read off the fuse", "read the fuse carrier or ask the operator: a board's rating is often not the service's")
	}
	return rulebook.Meets(working)
}

// voltageFinding judges a voltage against the statutory range.
func voltageFinding(r quantity.Reading) rulebook.Finding {
	return rulebook.Judge(r.Within(VoltageLow, VoltageHigh), r, rulebook.Num(VoltageLow), rulebook.Num(VoltageHigh),
		"230 V +10 % / −6 % is 216.2 V to 253.0 V; "+r.String()+" read", "tell the network operator; many chargers refuse to work outside it")
}

func checkVoltage(s *rulebook.Subject) rulebook.Finding {
	r, err := quantity.ParseReading(s.Job.Survey.Supply.Voltage, "V")
	if err != nil {
		return rulebook.Missing("measured voltage, line to neutral")
	}
	return voltageFinding(r)
}

// typicalZe is the greatest declared loop impedance of OSG 1.1, Ω.
func typicalZe(sys job.EarthingSystem) float64 {
	switch sys {
	case job.TNCS:
		return 0.35
	case job.TNS:
		return 0.80
	}
	return 0
}

func checkDeclaredZe(s *rulebook.Subject) rulebook.Finding {
	p := &s.Job.Survey.Supply
	limit := typicalZe(p.System)
	switch {
	case p.System == job.TT && p.ElectrodeRA == 0:
		return rulebook.Missing("resistance of the earth electrode")
	case p.System == job.TT:
		return rulebook.Meets(quantity.Say("TT: own electrode {} Ω", float64(p.ElectrodeRA)))
	case p.Own() && p.ElectrodeRA == 0:
		return rulebook.Missing("resistance of the source's earth electrode")
	case p.Own() && p.DeclaredZe == 0:
		return rulebook.Missing("loop impedance measured at the source's board")
	case p.Own() && p.ElectrodeRA > raStable:
		return rulebook.Advise(quantity.Say("electrode {} Ω", float64(p.ElectrodeRA)), "above 200 Ω an electrode may not be stable")
	case p.Own():
		return rulebook.Meets(quantity.Say("own source: loop {2} Ω at its board, electrode {} Ω", float64(p.DeclaredZe), float64(p.ElectrodeRA)))
	case p.DeclaredZe == 0:
		return rulebook.Missing("declared external loop impedance")
	case limit > 0 && float64(p.DeclaredZe) > limit:
		f := rulebook.Advise(
			quantity.Say("{2} Ω declared, {2} Ω is the usual most", float64(p.DeclaredZe), limit),
			"ask the network operator; check the earthing system",
		)
		f.Value, f.High, f.Unit = rulebook.Num(float64(p.DeclaredZe)), rulebook.Num(limit), "Ω"
		return f
	}
	return rulebook.Meets(quantity.Say("{2} Ω, usual most {2} Ω", float64(p.DeclaredZe), limit))
}

func checkBoard(s *rulebook.Subject) rulebook.Finding {
	if s.Job.Design.Beside.Fitted == job.Yes {
		if own := &s.Job.Survey.Board.Rearrangement; own.At+len(own.Moves) > 0 {
			return rulebook.Missing("why circuits are moved on the old board: the points are on the " + s.NewBoardName())
		}
		return s.NewWays()
	}
	b := &s.Job.Survey.Board
	need := len(panel.Needed(s.Job))
	if f, mapped := s.CheckMap("another board, or a small board beside it"); mapped {
		return offered(f)
	}
	switch {
	case b.WaysFree == nil:
		return rulebook.Missing("how many are free of the ways on the board")
	case b.Ways > 0 && *b.WaysFree > b.Ways:
		return rulebook.Fails(strconv.Itoa(*b.WaysFree)+" free of "+strconv.Itoa(b.Ways)+" ways", "count again")
	}
	working := strconv.Itoa(*b.WaysFree) + " ways free"
	if b.Ways > 0 {
		working = strconv.Itoa(*b.WaysFree) + " of " + strconv.Itoa(b.Ways) + " ways free"
	}
	return offered(rulebook.AtLeast(float64(*b.WaysFree), float64(max(need, 1)), "ways", working, "make room, or fit a small board beside it"))
}

// offered offers a small board where a board has no room, and another in its place.
func offered(f rulebook.Finding) rulebook.Finding {
	if f.Verdict == rulebook.Stop {
		return f.Offering(fitBeside, renew)
	}
	return f
}

func checkRoute(s *rulebook.Subject) rulebook.Finding {
	p := &s.Point.Place
	if !p.Surveyed() {
		return rulebook.Missing("cable route: method and length of every segment")
	}
	if f := rulebook.CheckConnects(s); f.Verdict != "" {
		return f
	}
	var parts []string
	for _, g := range p.Route {
		parts = append(parts, quantity.Say("{1} m ", float64(g.Run()))+sizing.MethodName(g.Method))
	}
	return rulebook.Meets(quantity.Say("{1} m: ", float64(p.Length())) + strings.Join(parts, ", "))
}

// clearOfGas is how far a charger keeps from gas meters and pipes, m (BS 6891, from memory).
const clearOfGas = 0.150

// Height limits of a socket-outlet or connector holder, m: 722.55, and the
// accessible range that is commonly asked for (BS 8300, from memory).
const (
	holderLow, holderHigh         = 0.5, 1.5
	accessibleLow, accessibleHigh = 0.75, 1.2
)

func checkHeight(s *rulebook.Subject) rulebook.Finding {
	h := float64(s.Point.Place.HolderHeight)
	if h == 0 {
		return rulebook.Missing("height of the socket or holder above ground")
	}
	f := rulebook.Finding{Verdict: rulebook.Sound, Value: rulebook.Num(h), Low: rulebook.Num(holderLow), High: rulebook.Num(holderHigh), Unit: "m",
		Working: quantity.Say("{2} m, 0.5 m to 1.5 m wanted", h)}
	switch {
	case h < holderLow || h > holderHigh:
		f.Verdict, f.Remedy = rulebook.Stop, "move the holder to between 0.5 m and 1.5 m"
	case h < accessibleLow || h > accessibleHigh:
		f.Verdict, f.Remedy = rulebook.Watch, "0.75 m to 1.2 m is easier for everyone to reach"
	}
	return f
}

// Sizes of earthing and bonding conductors of copper, mm²: the earthing conductor by
// table 54.7 beside tails of 16 to 35 mm², less by the adiabatic equation but never
// below that of a buried one's (6, table 54.1); bonding on PME by table 54.8 beside a
// supply neutral to 35 mm², elsewhere half of the earthing conductor, 6 at least, and
// never more than 25 (544.1.1). From memory.
const (
	earthingUsual = 16
	earthingLeast = 6
	bondPME       = 10
	bondLeast     = 6
	bondEnough    = 25
)

// checkBonding judges the earthing conductor, and that every metal service and
// structure is bonded: a fault on the point raises them all.
func checkBonding(s *rulebook.Subject) rulebook.Finding {
	b, with := s.Job.Bonded(), &s.Job.Design.Bonds
	var open, unbonded, bonded []string
	for _, x := range b.Services() {
		switch *x.Is {
		case "":
			open = append(open, x.Name)
		case job.NotBonded:
			unbonded = append(unbonded, x.Name)
		case job.IsBonded:
			bonded = append(bonded, x.Name)
		}
	}
	least := bondingLeast(float64(b.Conductor), s.Job.Survey.Supply.System)
	size := standardFrom(least)
	switch {
	case len(unbonded) > 0:
		return rulebook.Fails("not bonded: "+strings.Join(unbonded, ", "), "bond it before anything is switched on").
			Offering(rulebook.Answer{Title: "Bond it with this work", Set: set{"/bonds.run": string(job.BondMissing), "/bonds.size": size}})
	case with.Run == "" && (with.Size > 0 || with.Length > 0):
		return rulebook.Missing("which main bonding is run with this work")
	case with.Run != "" && len(s.Job.Bonds()) == 0:
		return rulebook.Missing("what is bonded with this work: the survey found nothing that is")
	case with.Run != "" && with.Size == 0:
		return rulebook.Missing("size of the main bonding that is run with this work")
	case with.Run != "" && with.Length == 0:
		return rulebook.Missing("length of the main bonding that is run with this work")
	case len(open) > 0:
		return rulebook.Missing("whether bonded, in plastic or not there: " + strings.Join(open, ", "))
	case b.Conductor == 0:
		return rulebook.Missing("size of the earthing conductor")
	case b.Conductor < earthingLeast:
		return rulebook.AtLeast(
			float64(b.Conductor),
			earthingLeast,
			"mm²",
			quantity.Say("earthing conductor {} mm²", float64(b.Conductor)),
			"a larger earthing conductor",
		).Offering(newEarthing(&b, len(bonded) > 0, s.Job.Survey.Supply.System))
	case len(bonded) > 0 && b.Size == 0:
		return rulebook.Missing("size of the main bonding conductors")
	case len(bonded) > 0 && float64(b.Size) < least:
		return rulebook.AtLeast(
			float64(b.Size),
			least,
			"mm²",
			quantity.Say("main bonding {} mm², at least {} mm²", float64(b.Size), least),
			"larger bonding conductors",
		).Offering(rulebook.Answer{Title: quantity.Say("Run it anew, {} mm²", size), Set: set{"/bonds.run": string(job.BondAll), "/bonds.size": size}})
	case b.Conductor < earthingUsual:
		return rulebook.Advise(
			quantity.Say("earthing conductor {} mm², {} mm² by table 54.7 beside tails of 16 to 35 mm²", float64(b.Conductor), float64(earthingUsual)),
			"show by 543.1.3 that it does, or replace it",
		).Offering(newEarthing(&b, len(bonded) > 0, s.Job.Survey.Supply.System))
	}
	said := quantity.Say("earthing conductor {} mm²", float64(b.Conductor))
	if len(bonded) > 0 {
		said += quantity.Say(", bonding {} mm²: ", float64(b.Size)) + strings.Join(bonded, ", ")
	}
	if list := s.Job.Bonds(); len(list) > 0 {
		said += "; with this work: " + strings.Join(list, ", ")
	}
	if with.Conductor > 0 {
		said += quantity.Say("; with this work the earthing conductor, {} mm² found", float64(s.Job.Survey.Bonding.Conductor))
	}
	return rulebook.Meets(said)
}

// newEarthing plans an earthing conductor in place of the one that was found, and bonding anew where that asks for larger.
func newEarthing(b *job.Bonding, bonded bool, system job.EarthingSystem) rulebook.Answer {
	a := rulebook.Answer{Title: quantity.Say("Replace it by {} mm²", earthingUsual), Set: set{"/bonds.conductor": float64(earthingUsual)}}
	if size := standardFrom(bondingLeast(earthingUsual, system)); bonded && float64(b.Size) < bondingLeast(earthingUsual, system) {
		a.Title += quantity.Say(", and bond anew in {} mm²", size)
		a.Set["/bonds.run"], a.Set["/bonds.size"] = string(job.BondAll), size
	}
	return a
}

// bondingLeast is the least size of main bonding beside an earthing conductor, mm².
func bondingLeast(conductor float64, system job.EarthingSystem) float64 {
	if system == job.TNCS {
		return bondPME
	}
	return min(max(conductor/2, bondLeast), bondEnough)
}

// standardFrom is the next standard size of main bonding from an area on, mm² (BS EN 60228).
func standardFrom(least float64) float64 {
	for _, size := range []float64{bondLeast, bondPME, earthingUsual, bondEnough} {
		if size >= least {
			return size
		}
	}
	return bondEnough
}
