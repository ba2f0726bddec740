// Package sizing works out what a circuit's conductors carry, drop and let
// flow in a fault along the surveyed route, and tries every conductor for a
// charging point.
package sizing

import (
	"cmp"
	"strconv"

	"dogbolt/core/conductor"
	"dogbolt/core/job"
	"dogbolt/core/protection"
	"dogbolt/core/quantity"
)

// Metric is what BS 7671 asks of a circuit, worked out along its route. A zero
// value with text in Missing could not be worked out.
type Metric struct {
	Row    conductor.MetricRow
	Loaded int // loaded conductors, 2 or 3

	// Capacity along the worst segment: Iz = It·Ca·Cg·Ci·Cs·Cc.
	Iz, It quantity.Ampere
	Factors
	Worst int // index of the segment that rules

	Drop      quantity.Volt // at Ib over the whole route
	DropShare float64       // of the nominal voltage
	Length    quantity.Metre

	R1R2Cold quantity.Ohm // at 20 °C
	R1R2Hot  quantity.Ohm // at operating temperature
	ZsHot    quantity.Ohm // Ze + R1R2Hot; 0 when Ze is not known
	ZsLimit  quantity.Ohm // 411.4.4, or table 41.5 where the RCD protects

	EarthArea    quantity.SquareMillimetre // what the cable offers
	EarthByTable quantity.SquareMillimetre // what table 54.7 asks
	EarthByFault quantity.SquareMillimetre // what 543.1.3 asks; 0 when Ze is not known
	Fault        quantity.Ampere           // earth fault current used for 543.1.3

	// Missing names what could not be worked out and why; "" when all was.
	MissingCable, MissingRoute string

	// Legs are the two parts of a circuit whose cable changes at a joint box, each worked
	// out on its own. Drop, length and resistances of the whole are their sums, the rest
	// is the part's that rules.
	Legs []Metric
}

// Factors are the correction factors of a segment: ambient, grouping, thermal
// insulation, soil, and overload of buried cable.
type Factors struct{ Ca, Cg, Ci, Cs, Cc float64 }

// Product returns what the tabulated capacity is multiplied by.
func (f Factors) Product() float64 { return f.Ca * f.Cg * f.Ci * f.Cs * f.Cc }

// factorsFor returns a segment's factors, or why there are none.
func factorsFor(family job.Family, s *job.Segment) (f Factors, missing string) {
	buried := s.Method == job.Buried
	f = Factors{1, 1, 1, 1, 1}
	var ok bool
	if s.Ambient != nil {
		if f.Ca, ok = conductor.AmbientFactor(family, buried, *s.Ambient); !ok {
			return f, "ambient is past the table's end"
		}
	}
	if f.Cg, ok = conductor.GroupFactor(s); !ok {
		return f, "more circuits together than the table has"
	}
	switch {
	case s.Method.Reference() == job.Surface:
		f.Ci = conductor.InsulationFactor(s.Insulated)
	case s.Insulated > 0:
		return f, "insulation around a stretch is counted for clipped cable only: choose the method that the table has for insulation"
	}
	if buried {
		f.Cc = conductor.BuriedOverload
		if f.Cs, ok = conductor.SoilFactor(s.Soil, s.Ducted); !ok {
			return f, "soil is past the table's end"
		}
	}
	return f, ""
}

// ForMetric works out a circuit on a route by BS 7671, with the external loop
// impedance ze (0 when not known). The terminals' temperature holds a 90 °C
// cable to the 70 °C figures unless both ends are rated 90 °C (512.1.5).
func ForMetric(c *job.Circuit, p *job.Place, supply *job.Supply, board *job.Board) Metric {
	if c.Beyond.From == 0 {
		return metricLeg(c, p, supply, board)
	}
	return joinMetric(eachLeg(c, p, func(c *job.Circuit, p *job.Place) Metric { return metricLeg(c, p, supply, board) }))
}

// eachLeg works out each stretch of a route that has one cable.
func eachLeg[T any](c *job.Circuit, p *job.Place, one func(*job.Circuit, *job.Place) T) []T {
	whole := job.Point{Circuit: *c, Place: *p}
	legs := whole.Legs()
	parts := make([]T, len(legs))
	for i := range legs {
		parts[i] = one(&legs[i].Circuit, &legs[i].Place)
	}
	return parts
}

// joinMetric puts the parts of a circuit together.
func joinMetric(parts []Metric) Metric {
	m := parts[0]
	if len(parts) == 1 {
		return m
	}
	m.Legs = parts
	for i := range parts[1:] {
		o := &parts[1+i]
		m.MissingCable, m.MissingRoute = cmp.Or(m.MissingCable, o.MissingCable), cmp.Or(m.MissingRoute, o.MissingRoute)
		if o.Iz < m.Iz {
			m.Iz, m.It, m.Factors, m.Worst = o.Iz, o.It, o.Factors, o.Worst
		}
		if o.earthShare() < m.earthShare() {
			m.EarthArea, m.EarthByTable, m.EarthByFault = o.EarthArea, o.EarthByTable, o.EarthByFault
		}
		m.Drop, m.DropShare, m.Length = m.Drop+o.Drop, m.DropShare+o.DropShare, m.Length+o.Length
		m.R1R2Cold, m.R1R2Hot = m.R1R2Cold+o.R1R2Cold, m.R1R2Hot+o.R1R2Hot
		if m.ZsHot > 0 {
			m.ZsHot += o.R1R2Hot
		}
	}
	if m.MissingCable != "" || m.MissingRoute != "" {
		m.R1R2Cold, m.ZsHot = 0, 0 // a part alone is no loop
	}
	return m
}

// earthShare is the protective conductor as a share of the least of what would do.
func (m *Metric) earthShare() float64 {
	least := m.EarthByTable
	if m.EarthByFault > 0 {
		least = min(least, m.EarthByFault)
	}
	if least == 0 {
		return 0
	}
	return float64(m.EarthArea / least)
}

// metricLeg is ForMetric of a circuit of one cable.
func metricLeg(c *job.Circuit, p *job.Place, supply *job.Supply, board *job.Board) Metric {
	m := Metric{ZsLimit: ZsLimit(c, supply)}
	row, ok := conductor.MetricSize(c.Cable.Family, c.Cable.Size)
	if !ok {
		m.MissingCable = "cable family and size"
		return m
	}
	m.Row = row
	m.Loaded = loadedOf(c)
	armour := c.Cable.Earth == job.EarthArmour
	m.EarthArea = row.Earth
	if armour {
		m.EarthArea = row.Armour[m.Loaded-2]
	}
	if m.MissingCable = m.given(c, armour); m.MissingCable != "" {
		return m
	}
	// k is that of the temperature that the conductors are sized for.
	sized, _ := rated(c, board, row)
	m.EarthByTable = conductor.EarthByTable(sized, row.Area, armour)
	if !p.Surveyed() {
		m.MissingRoute = "cable route with method and length of each segment"
		return m
	}
	m.Length = p.Length()
	m.capacity(c, p, board)
	m.drop(c)
	m.fault(c, supply, sized, armour)
	return m
}

// given takes the size of a protective conductor that is a wire of its own, and says
// what of a cable the tables cannot judge.
func (m *Metric) given(c *job.Circuit, armour bool) string {
	if c.Cable.Material == job.Aluminium {
		return "copper conductors: appendix 4 has aluminium from 16 mm² in other tables, which this program does not hold"
	}
	if c.Cable.EarthSize == "" {
		return ""
	}
	area, ok := conductor.MetricArea(c.Cable.EarthSize)
	switch {
	case !ok:
		return "a protective conductor such as 6 mm², not " + c.Cable.EarthSize
	case c.Cable.Family == job.Singles:
		m.EarthArea = area
	case armour || area != m.EarthArea:
		return "the cable's own protective conductor: it is " + quantity.Say("{} mm²", float64(m.EarthArea)) + ", not " + c.Cable.EarthSize
	}
	return ""
}

// capacity finds the segment with the least Iz.
func (m *Metric) capacity(c *job.Circuit, p *job.Place, board *job.Board) {
	family, row := rated(c, board, m.Row)
	for i := range p.Route {
		it, f, missing := segment(family, row, m.Loaded, &p.Route[i])
		if missing != "" {
			m.MissingRoute = "segment " + strconv.Itoa(p.First+i+1) + ": " + missing
			m.Iz = 0
			return
		}
		if iz := quantity.Ampere(float64(it) * f.Product()); i == 0 || iz < m.Iz {
			m.Iz, m.It, m.Factors, m.Worst = iz, it, f, p.First+i
		}
	}
}

// segment returns the tabulated capacity of a row on a segment and its factors,
// or why there are none.
func segment(family job.Family, row conductor.MetricRow, loaded int, s *job.Segment) (it quantity.Ampere, f Factors, missing string) {
	it, ok := row.Capacity(s.Method, loaded)
	if f, missing = factorsFor(family, s); !ok {
		missing = "the family's table has no figure for this method"
	}
	return it, f, missing
}

// OnSegment returns what a metric circuit's cable carries on one segment of its
// route, and how; capacity 0 with the reason where it cannot be told.
func OnSegment(c *job.Circuit, board *job.Board, s *job.Segment) (capacity quantity.Ampere, how string) {
	row, ok := conductor.MetricSize(c.Cable.Family, c.Cable.Size)
	if !ok {
		return 0, "cable not chosen"
	}
	family, row := rated(c, board, row)
	it, f, missing := segment(family, row, loadedOf(c), s)
	if missing != "" {
		return 0, missing
	}
	how = quantity.Say("{} A", float64(it))
	for _, k := range []struct {
		name string
		v    float64
	}{{"ambient", f.Ca}, {"grouping", f.Cg}, {"insulation", f.Ci}, {"soil", f.Cs}, {"buried overload", f.Cc}} {
		if k.v != 1 {
			how += quantity.Say(" × {2} ", k.v) + k.name
		}
	}
	return quantity.Ampere(float64(it) * f.Product()), how
}

// rated returns the family and row whose figures hold: a 90 °C cable counts as
// 70 °C unless both ends are rated 90 °C (512.1.5).
func rated(c *job.Circuit, board *job.Board, row conductor.MetricRow) (job.Family, conductor.MetricRow) {
	if c.Cable.Family == job.Armoured90 && (c.Charger.Terminals < 90 || board.Terminals < 90) {
		row, _ = conductor.MetricSize(job.Armoured70, c.Cable.Size)
		return job.Armoured70, row
	}
	return c.Cable.Family, row
}

// loadedOf returns the loaded conductors of a circuit, 2 or 3.
func loadedOf(c *job.Circuit) int {
	switch {
	case c.Charger.Phases == 3:
		return 3
	case c.Cable.Loaded != 0:
		return c.Cable.Loaded
	}
	return 2
}

// drop is mV/A/m × Ib × L, of 230 V single phase or 400 V three phase.
func (m *Metric) drop(c *job.Circuit) {
	nominal := 230.0
	if m.Loaded == 3 {
		nominal = 400
	}
	mv := m.Row.DropPerAmpereMetre(m.Loaded)
	m.Drop = quantity.Volt(mv * float64(c.Setting) * float64(m.Length) / 1000)
	m.DropShare = float64(m.Drop) / nominal
}

// MissingDrop reports whether the table has no voltage drop for a cable of the circuit.
func (m *Metric) MissingDrop() bool {
	for i := range m.Legs {
		if m.Legs[i].MissingDrop() {
			return true
		}
	}
	return m.Row.DropPerAmpereMetre(m.Loaded) == 0
}

func (m *Metric) fault(c *job.Circuit, supply *job.Supply, sized job.Family, armour bool) {
	r1, ok1 := conductor.ResistanceAt20(m.Row.Area)
	r2, ok2 := conductor.ResistanceAt20(m.EarthArea)
	if armour && m.EarthArea > 0 {
		r2, ok2 = conductor.SteelResistivity/float64(m.EarthArea), true
	}
	if !ok1 || !ok2 {
		m.MissingCable = "resistance of the protective conductor"
		return
	}
	m.R1R2Cold = quantity.Ohm((r1 + r2) * float64(m.Length))
	m.R1R2Hot = m.R1R2Cold * quantity.Ohm(conductor.HotFactor(c.Cable.Family))
	ze := supply.DeclaredZe
	if supply.System == job.TT || c.Earthing.OpenPEN == job.PENTT {
		// The electrode, not the supply's earth, closes the loop.
		ze = supply.ElectrodeRA
		if c.Earthing.OpenPEN == job.PENTT {
			ze = c.Earthing.RA
		}
	}
	if ze <= 0 {
		return
	}
	m.ZsHot = ze + m.R1R2Hot
	m.Fault = quantity.Ampere(protection.U0 * protection.Cmax / float64(ze))
	if supply.EarthFault > 0 {
		m.Fault = quantity.Ampere(1000 * supply.EarthFault) // as measured at the board
	}
	k := conductor.EarthK(sized, armour)
	energy := c.Breaker.LetThrough
	if energy == 0 {
		energy = protection.LetThrough(m.Fault, c.Breaker.Rating, string(c.Breaker.Curve), c.Breaker.Class)
	}
	m.EarthByFault = conductor.Adiabatic(energy, k)
}

// ZsLimit returns the hot limit of the loop impedance: 50 V/IΔn of table 41.5
// for a TT supply, a TT point, or where the residual device gives fault
// protection (411.4.204), else Cmin·U0/Ia of 411.4.4; 0 while the device is not
// chosen.
func ZsLimit(c *job.Circuit, supply *job.Supply) quantity.Ohm {
	if supply.System == job.TT || c.Earthing.OpenPEN == job.PENTT || c.FaultByRCD == job.Yes {
		if c.RCD.TripMA <= 0 || c.RCD.Fitted == job.No {
			return 0
		}
		return protection.MaxZsRCD(c.RCD.TripMA)
	}
	return protection.MaxZs(c.Breaker.Rating, string(c.Breaker.Curve))
}
