package sizing

import (
	"cmp"
	"strconv"

	"dogbolt/core/conductor"
	"dogbolt/core/job"
	"dogbolt/core/protection"
	"dogbolt/core/quantity"
)

// AWG is what the NEC asks of a circuit's conductors, worked out along the
// route. The three checks of ampacity are kept apart, as they must be.
type AWG struct {
	Row       conductor.AWGRow
	Aluminium bool
	Phases    int

	TermColumn  conductor.Column // column that the terminations allow, 110.14(C)
	Termination quantity.Ampere  // ampacity in that column, not derated

	OwnColumn conductor.Column // column of the insulation
	Base      quantity.Ampere  // ampacity in that column
	Ca, Cadj  float64          // ambient, count
	Derated   quantity.Ampere  // Base·Ca·Cadj, capped by Termination where the family asks
	Worst     int              // index of the segment that rules

	MaxBreaker quantity.Ampere // 240.4(B) and 240.4(D)
	SmallMax   quantity.Ampere // the limit of 240.4(D) where it ruled; 0 otherwise

	Drop      quantity.Volt
	DropShare float64
	Voltage   float64
	Length    quantity.Metre

	GroundLeast quantity.AWG // 250.122, enlargement included
	GroundBase  quantity.AWG // 250.122 for the breaker alone
	GroundUsed  quantity.AWG
	GroundOhm   quantity.Ohm // of the equipment ground along the route, at 75 °C

	ByRaceway bool // the metal of raceway or armour is the equipment ground, 250.118

	MissingCable, MissingRoute, MissingGround string
	WetNotAllowed                             int // 1 + index of a wet segment the family may not enter; 0 for none

	// Legs are the two parts of a circuit whose cable changes at a joint box, each worked
	// out on its own. Drop, length and the ground's resistance of the whole are their
	// sums, the rest is the first part's.
	Legs []AWG
}

// smallLimit is 240.4(D): the largest overcurrent device for small conductors.
func smallLimit(g quantity.AWG, aluminium bool) quantity.Ampere {
	switch {
	case !aluminium && g == 14:
		return 15
	case !aluminium && g == 12:
		return 20
	case !aluminium && g == 10:
		return 30
	case aluminium && g == 12:
		return 15
	case aluminium && g == 10:
		return 25
	}
	return 0
}

// ForAWG works out a circuit on a route by the NEC, at the voltage of the circuit.
// A marking of the terminals that is not known counts as 60 °C for breakers of
// 100 A and less (110.14(C)(1)(a)).
func ForAWG(c *job.Circuit, p *job.Place, volts quantity.Volt, board *job.Board) AWG {
	if c.Beyond.From == 0 {
		return legAWG(c, p, volts, board)
	}
	parts := eachLeg(c, p, func(c *job.Circuit, p *job.Place) AWG { return legAWG(c, p, volts, board) })
	a := parts[0]
	if len(parts) == 1 {
		return a
	}
	a.Legs = parts
	for i := range parts[1:] {
		o := &parts[1+i]
		a.MissingCable, a.MissingRoute = cmp.Or(a.MissingCable, o.MissingCable), cmp.Or(a.MissingRoute, o.MissingRoute)
		a.MissingGround = cmp.Or(a.MissingGround, o.MissingGround)
		a.Drop, a.DropShare, a.Length = a.Drop+o.Drop, a.DropShare+o.DropShare, a.Length+o.Length
		a.GroundOhm += o.GroundOhm
	}
	if a.MissingCable != "" || a.MissingRoute != "" || a.MissingGround != "" {
		a.GroundOhm = 0 // a part alone is no path
	}
	return a
}

// legAWG is ForAWG of a circuit of one cable.
func legAWG(c *job.Circuit, p *job.Place, volts quantity.Volt, board *job.Board) AWG {
	a := AWG{Aluminium: c.Cable.Material == job.Aluminium, Phases: max(c.Charger.Phases, 1), Voltage: float64(volts)}
	row, ok := conductor.AWGSize(c.Cable.Size)
	if !ok || !IsAWG(c.Cable.Family) {
		a.MissingCable = "conductor family and size"
		return a
	}
	a.Row = row
	marked := min(board.Terminals, c.Charger.Terminals)
	a.TermColumn = conductor.ColumnFor(marked)
	if a.TermColumn == conductor.C90 {
		a.TermColumn = conductor.C75 // 110.14(C): equipment is not listed at 90 °C
	}
	a.OwnColumn = conductor.C90
	if c.Cable.Family == job.NMB {
		a.TermColumn = conductor.C60 // 334.80
	}
	if a.Termination, ok = row.Ampacity(a.Aluminium, a.TermColumn); !ok {
		a.MissingCable = "this size is not tabulated in aluminium"
		return a
	}
	a.Base, _ = row.Ampacity(a.Aluminium, a.OwnColumn)
	a.Ca, a.Cadj = 1, 1
	if !p.Surveyed() {
		a.ground(c)
		a.MissingRoute = "route with method and length of each segment"
		return a
	}
	a.Length = p.Length()
	for i := range p.Route {
		s := &p.Route[i]
		ca, cadj, ok := factorsAWG(s, a.OwnColumn, a.Phases)
		if !ok {
			a.MissingRoute = "segment " + strconv.Itoa(p.First+i+1) + ": ambient is past the table's end"
			a.Derated = 0
			return a
		}
		if d := quantity.Ampere(float64(a.Base) * ca * cadj); i == 0 || d < a.Derated {
			a.Derated, a.Ca, a.Cadj, a.Worst = d, ca, cadj, p.First+i
		}
		if !wetAllowed(c.Cable.Family) && a.WetNotAllowed == 0 && (s.Wet == job.Yes || s.Method == job.Buried) {
			a.WetNotAllowed = p.First + i + 1
		}
	}
	if c.Cable.Family == job.NMB {
		a.Derated = min(a.Derated, a.Termination) // 334.80
	}
	a.limitBreaker()
	a.ground(c)
	r := row.OhmPerMetre(a.Aluminium)
	a.Drop = conductor.DropTwoWire(r, a.Length, c.Setting, a.Phases)
	a.DropShare = float64(a.Drop) / a.Voltage
	if a.ByRaceway {
		a.GroundOhm = quantity.Ohm(r * float64(a.Length)) // steel of a listed raceway: no more than a hot
	} else if g, ok := conductor.AWGSize(a.GroundUsed.String()); ok && a.MissingGround == "" {
		a.GroundOhm = quantity.Ohm(g.OhmPerMetre(false) * float64(a.Length))
	}
	return a
}

// wetAllowed reports whether a family may enter wet places. NM-B may not (334.12);
// metal-clad cable only with a jacket listed for it (330.10(A)(11)), which is not
// assumed.
func wetAllowed(f job.Family) bool { return f != job.NMB && f != job.MC }

// roofAdder is added to the air's temperature close above a sunny roof, NEC 310.15(B)(2),
// K: 33 °C, 60 °F. From memory.
const roofAdder quantity.Celsius = 33

// factorsAWG returns the ambient and count factors of a segment; false where the
// ambient is past the table.
func factorsAWG(s *job.Segment, own conductor.Column, phases int) (ca, cadj float64, ok bool) {
	ca, ok = 1, true
	if s.Ambient != nil {
		t := *s.Ambient
		if s.Roof == job.Yes {
			t += roofAdder
		}
		ca, ok = conductor.AWGAmbient(own, t)
	}
	wires := s.Wires
	if wires == 0 {
		wires = max(phases, 2) // three hots, or two: the ground is not counted, 310.15(F)
	}
	return ca, conductor.AWGAdjustment(wires), ok
}

// OnSegmentAWG returns what the conductors carry on one segment after ambient
// and count, from the insulation's own column, and how; 0 with the reason where
// it cannot be told.
func OnSegmentAWG(c *job.Circuit, board *job.Board, s *job.Segment) (capacity quantity.Ampere, how string) {
	a := ForAWG(c, &job.Place{Route: []job.Segment{*s}}, 1, board) // the voltage decides nothing here
	switch {
	case a.MissingCable != "":
		return 0, "conductor not chosen"
	case s.Run() <= 0 || s.Method == "":
		return 0, "method and length"
	case a.Derated == 0:
		return 0, "ambient is past the table's end"
	}
	how = quantity.Say("{} A in the {} °C column", float64(a.Base), a.OwnColumn.Degrees())
	if a.Ca != 1 {
		how += quantity.Say(" × {2} ambient", a.Ca)
	}
	if a.Cadj != 1 {
		how += quantity.Say(" × {2} count", a.Cadj)
	}
	if c.Cable.Family == job.NMB && a.Derated == a.Termination {
		how += quantity.Say(", held to {} A (334.80)", float64(a.Termination))
	}
	return a.Derated, how
}

// limitBreaker finds the largest breaker by 240.4(B) and 240.4(D).
func (a *AWG) limitBreaker() {
	lesser := min(a.Termination, a.Derated)
	a.MaxBreaker, _ = protection.NextAtLeast(protection.Standard, lesser)
	if s := smallLimit(a.Row.Size, a.Aluminium); s > 0 && s < a.MaxBreaker {
		a.MaxBreaker, a.SmallMax = s, s
	}
}

// ground works out the equipment ground: 250.122 by the breaker, enlarged in
// proportion where the conductors are larger than the smallest that this route
// allows, its ambient and count factors included (250.122(B)).
func (a *AWG) ground(c *job.Circuit) {
	base, ok := conductor.EquipmentGround(c.Breaker.Rating)
	if !ok || c.Breaker.Rating == 0 {
		a.MissingGround = "breaker rating"
		return
	}
	a.GroundBase, a.GroundLeast = base, base
	if c.Cable.Earth == job.EarthArmour && (c.Cable.Family == job.ThwnEMT || c.Cable.Family == job.MC) {
		a.ByRaceway, a.GroundUsed = true, base
		return
	}
	if g, err := quantity.ParseAWG(c.Cable.EarthSize); err == nil {
		a.GroundUsed = g
	} else {
		a.MissingGround = "size of the equipment grounding conductor"
	}
	if least, ok := a.least(c); ok {
		a.GroundLeast = conductor.EnlargedGround(base, least, a.Row.Size)
	}
}

// least returns the smallest size that meets all three checks under the
// route's factors: what the conductors would be if they were not enlarged.
func (a *AWG) least(c *job.Circuit) (quantity.AWG, bool) {
	for _, r := range conductor.AWGTable() {
		t := AWG{Row: r, Aluminium: a.Aluminium}
		t.Termination, _ = r.Ampacity(a.Aluminium, a.TermColumn)
		base, ok := r.Ampacity(a.Aluminium, a.OwnColumn)
		if !ok {
			continue
		}
		t.Derated = quantity.Ampere(float64(base) * a.Ca * a.Cadj)
		t.limitBreaker()
		if float64(t.Termination) >= 1.25*float64(c.Setting) && t.Derated >= c.Setting && t.MaxBreaker >= c.Breaker.Rating {
			return r.Size, true
		}
	}
	return 0, false
}

// IsAWG reports whether the family is sized in AWG.
func IsAWG(f job.Family) bool {
	return f == job.NMB || f == job.MC || f == job.ThwnEMT || f == job.ThwnPVC
}

// WiresAWG lists the conductors of an American circuit in a raceway: its hots, the
// neutral where the charger, the receptacle or a panel at the end has one, and the ground.
func WiresAWG(c *job.Circuit, row conductor.AWGRow) []quantity.AWG {
	n := 2
	if c.Charger.Phases == 3 {
		n = 3
	}
	if c.Neutral() {
		n++
	}
	wires := make([]quantity.AWG, 0, n+1)
	for range n {
		wires = append(wires, row.Size)
	}
	if g, ok := conductor.AWGSize(c.Cable.EarthSize); ok {
		wires = append(wires, g.Size)
	}
	return wires
}
