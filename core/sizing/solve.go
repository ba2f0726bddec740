package sizing

import (
	"cmp"
	"slices"

	"dogbolt/core/conductor"
	"dogbolt/core/job"
	"dogbolt/core/protection"
	"dogbolt/core/quantity"
)

// Bar is one limit of an option, ready to draw: a value against a least or a
// greatest value.
type Bar struct {
	Title string  `json:"title"`
	Value float64 `json:"value"`
	Limit float64 `json:"limit"`
	Least bool    `json:"least" doc:"True where the value must be at least the limit, false where at most."`
	Unit  string  `json:"unit"`
	Meets bool    `json:"meets"`
}

// Option is one conductor tried on the route, with every check.
type Option struct {
	Cable   job.Cable `json:"cable"`
	Label   string    `json:"label"`
	Note    string    `json:"note" doc:"Segment and factors that rule the capacity."`
	Bars    []Bar     `json:"bars"`
	Fails   []string  `json:"fails,omitempty" doc:"Why it does not meet the rules."`
	Advice  []string  `json:"advice,omitempty" doc:"Meets the rules, but worth a thought."`
	Missing []string  `json:"missing,omitempty" doc:"What is needed to judge it."`

	Device   string          `json:"device" doc:"Overcurrent device that it is tried with."`
	Breaker  quantity.Ampere `json:"breaker" doc:"Its rating, A."`
	Curve    job.Curve       `json:"curve,omitempty" doc:"Its type (UK)."`
	Own      bool            `json:"own" doc:"The device is the circuit's own, or the least that the setting allows."`
	Cost     float64         `json:"cost" doc:"Material by the price list."`
	Priced   bool            `json:"priced"`
	Unpriced string          `json:"unpriced,omitempty" doc:"First item that the price list lacks."`
	Far      quantity.Metre  `json:"far" doc:"How far the size can go, m; 0 where not known."`
	FarBy    string          `json:"farBy,omitempty" doc:"What ends there: drop or loop impedance."`
	Smallest bool            `json:"smallest" doc:"Smallest of its family that meets."`
	OneUp    bool            `json:"oneUp" doc:"One size above the smallest."`
	Chosen   bool            `json:"chosen"`
}

// rank orders options: those that meet first, then those that cannot be judged.
func (o Option) rank() int {
	switch {
	case len(o.Fails) > 0:
		return 2
	case len(o.Missing) > 0:
		return 1
	}
	return 0
}

// familyNames are the families as the lists show them.
var familyNames = map[job.Family]string{
	job.TwinEarth: "twin and earth", job.Multicore: "multicore", job.Singles: "single-core", job.MC: "metal-clad cable", job.Armoured70: "armoured, 70 °C",
	job.Armoured90: "armoured, 90 °C", job.NMB: "NM-B cable", job.ThwnEMT: "THWN-2 in EMT", job.ThwnPVC: "THWN-2 in PVC",
}

// FamilyName returns the family in the trade's words.
func FamilyName(f job.Family) string { return familyNames[f] }

// Devices are the overcurrent devices that a country's circuits are tried with.
type Devices struct {
	Ratings []quantity.Ampere // rising
	Curves  []job.Curve       // types of trip, the usual one first; "" where a rating is all
	Factor  float64           // of the setting that the rating must reach
	Name    func(job.Breaker) string
}

// MetricDevices are circuit-breakers of types B and C at the next preferred
// rating (433.1.1), named B40; AWGDevices have the next standard rating at 125 %
// of the setting (625.41), named 60 A 2-pole.
var (
	MetricDevices = Devices{Ratings: protection.Preferred, Curves: []job.Curve{job.CurveB, job.CurveC}, Factor: 1,
		Name: func(b job.Breaker) string { return string(b.Curve) + quantity.Say("{}", float64(b.Rating)) }}
	AWGDevices = Devices{Ratings: protection.Standard, Curves: []job.Curve{""}, Factor: 1.25,
		Name: func(b job.Breaker) string {
			return quantity.Say("{} A {}-pole", float64(b.Rating), float64(max(b.Poles, 2)))
		}}
)

// For returns the smallest device for a charger setting; false where there is none.
func (d *Devices) For(setting quantity.Ampere) (quantity.Ampere, bool) {
	return protection.NextAtLeast(d.Ratings, quantity.Ampere(d.Factor*float64(setting)))
}

// Ask is what the solver is asked: a circuit with its setting on a surveyed
// route. The circuit's device, where it is chosen, is tried first.
type Ask struct {
	Circuit job.Circuit
	Place   *job.Place
	Supply  *job.Supply
	Volts   quantity.Volt // of the circuit
	Board   *job.Board
	Prices  *PriceList     // nil: nothing is priced
	Cut     quantity.Metre // length to cut; 0 takes the route's
	MaxDrop float64        // share of the voltage; 0 takes the country's
}

// devices lists the overcurrent devices to try: the chosen one first, then the
// least that the setting allows and the next, of each type.
func (a *Ask) devices(d *Devices) []job.Breaker {
	least, _ := d.For(a.Circuit.Setting)
	next, ok := protection.NextAtLeast(d.Ratings, least+0.5)
	ratings := []quantity.Ampere{least}
	if ok {
		ratings = append(ratings, next)
	}
	chosen := a.Circuit.Breaker
	if chosen.Rating == 0 {
		chosen.Rating = least
	}
	if chosen.Curve == "" {
		chosen.Curve = d.Curves[0]
	}
	out := []job.Breaker{chosen}
	for _, c := range d.Curves {
		for _, r := range ratings {
			if r > 0 && (r != chosen.Rating || c != chosen.Curve) {
				b := a.Circuit.Breaker
				b.Rating, b.Curve = r, c
				out = append(out, b)
			}
		}
	}
	return out
}

// SolveMetric tries every device, metric family and size on the whole route, from the
// board to the point without a joint box: those that meet first, cheapest first where
// they are priced, else smallest first.
func SolveMetric(a Ask) []Option {
	a.Circuit.Beyond = job.Beyond{}
	if a.MaxDrop == 0 {
		a.MaxDrop = 0.05
	}
	options := make([]Option, 0, 256)
	for n, device := range a.devices(&MetricDevices) {
		c := a.Circuit
		c.Breaker = device
		for _, f := range conductor.MetricFamilies {
			if c.Charger.Phases == 3 && f == job.TwinEarth {
				continue
			}
			for _, earth := range earths(f) {
				for k, row := range conductor.Metric(f) {
					c.Cable = job.Cable{Family: f, Size: row.Label(), Earth: earth, Material: job.Copper}
					m := ForMetric(&c, a.Place, a.Supply, a.Board)
					if m.Iz == 0 {
						if k > 0 {
							break // the table ends here
						}
						// No size of the family has a figure for a part of the route: said once.
						options = append(
							options,
							a.finish(
								Option{Cable: c.Cable, Label: familyNames[f] + earthName(f, earth), Bars: []Bar{}, Fails: []string{m.MissingRoute}},
								&c,
								n,
								&MetricDevices,
							),
						)
						break
					}
					options = append(options, a.finish(m.option(&c, &a), &c, n, &MetricDevices))
				}
			}
		}
	}
	return rankOptions(options, a.Circuit.Cable)
}

// finish adds what every option has: its device and its cost.
func (a *Ask) finish(o Option, c *job.Circuit, device int, d *Devices) Option {
	o.Breaker, o.Device, o.Own = c.Breaker.Rating, d.Name(c.Breaker), device == 0
	o.Curve = c.Breaker.Curve
	if a.Prices != nil && len(o.Bars) > 0 {
		cut := a.Cut
		if cut == 0 {
			cut = a.Place.Length()
		}
		o.Cost, o.Unpriced = a.Prices.Cost(c, a.Place, cut, o.Device)
		o.Priced = o.Unpriced == ""
	}
	return o
}

// earths lists what may serve as protective conductor in a family.
func earths(f job.Family) []job.EarthBy {
	if f == job.Armoured70 || f == job.Armoured90 {
		return []job.EarthBy{job.EarthCore, job.EarthArmour}
	}
	return []job.EarthBy{job.EarthCore}
}

// earthName says what an armoured cable's protective conductor is.
func earthName(f job.Family, earth job.EarthBy) string {
	switch {
	case earth == "armour":
		return ", armour as earth"
	case f == job.Armoured70 || f == job.Armoured90:
		return ", core as earth"
	}
	return ""
}

func (m *Metric) option(c *job.Circuit, a *Ask) Option {
	p := a.Place
	o := Option{Cable: c.Cable, Label: m.Row.Label() + " " + familyNames[c.Cable.Family] + earthName(c.Cable.Family, c.Cable.Earth)}
	o.Far, o.FarBy = m.far(a.MaxDrop)
	o.Note = MethodName(p.Route[m.Worst].Method)
	if f := m.Product(); f != 1 {
		o.Note += quantity.Say(" rules: {} A × {2}", float64(m.It), f)
	}
	if c.Cable.Family == job.Singles {
		o.Note += ", in " + m.channel(c, p)
	}
	in := float64(c.Breaker.Rating)
	carry := Bar{Title: "carries", Value: float64(m.Iz), Limit: in, Least: true, Unit: "A", Meets: float64(m.Iz) >= in}
	drop := Bar{Title: "drop", Value: 100 * m.DropShare, Limit: 100 * a.MaxDrop, Unit: "%", Meets: m.DropShare <= a.MaxDrop}
	o.Bars = []Bar{carry, drop}
	if !carry.Meets {
		o.Fails = append(o.Fails, quantity.Say("carries {1} A, the breaker needs {} A", carry.Value, in))
	}
	if !drop.Meets {
		o.Fails = append(o.Fails, quantity.Say("drops {1} %, at most {} %", drop.Value, drop.Limit))
	}
	switch {
	case m.ZsHot == 0:
		o.Missing = append(o.Missing, "external loop impedance")
	case m.ZsLimit == 0:
		o.Missing = append(o.Missing, "breaker type or residual device")
	default:
		zs := Bar{Title: "Zs hot", Value: float64(m.ZsHot), Limit: float64(m.ZsLimit), Unit: "Ω", Meets: m.ZsHot <= m.ZsLimit}
		o.Bars = append(o.Bars, zs)
		if !zs.Meets {
			o.Fails = append(o.Fails, quantity.Say("Zs {2} Ω, at most {2} Ω", zs.Value, zs.Limit))
		}
		if m.EarthArea < m.EarthByTable && m.EarthArea < m.EarthByFault {
			o.Fails = append(o.Fails, quantity.Say("protective conductor {} mm², the fault asks {2} mm²", float64(m.EarthArea), float64(m.EarthByFault)))
		}
	}
	if carry.Meets && carry.Value < 1.05*in {
		o.Advice = append(o.Advice, "little capacity to spare")
	}
	return o
}

// channel returns the size of the first raceway on the route that the single
// cores need, with what it is.
func (m *Metric) channel(c *job.Circuit, p *job.Place) string {
	used, _ := conductor.Section(c.Cable.Family, m.Row.Area, Cores(c))
	for _, g := range p.Route {
		if g.Method.Enclosed() {
			what := conduitPipe
			if g.Method == job.Trunking {
				what = trunking
			}
			return smallestChannel(g, used) + " " + what
		}
	}
	return conduitPipe
}

// Cores returns the single cores of a circuit, the protective one included.
func Cores(c *job.Circuit) int {
	if c.Charger.Phases == 3 {
		return 5
	}
	return 3
}

// far returns how far the size can go: until the drop or the loop impedance
// reaches its limit, m, and which of the two it is. It is 0 where neither is known.
func (m *Metric) far(maxDrop float64) (quantity.Metre, string) {
	if m.DropShare <= 0 || m.Length <= 0 {
		return 0, ""
	}
	far, by := maxDrop/m.DropShare*float64(m.Length), "drop"
	if m.ZsHot > 0 && m.ZsLimit > 0 && m.R1R2Hot > 0 {
		if l := float64((m.ZsLimit - (m.ZsHot - m.R1R2Hot)) / m.R1R2Hot * quantity.Ohm(m.Length)); l < far {
			far, by = max(l, 0), "loop impedance"
		}
	}
	return quantity.Metre(far), by
}

// familiesAWG are the families that the surveyed ways of the route are made for: conductors
// where a part is in conduit, only in PVC where one is in the ground, else cables.
func familiesAWG(p *job.Place) []job.Family {
	families := []job.Family{job.NMB, job.MC}
	for i := range p.Route {
		switch p.Route[i].Method {
		case job.Buried:
			return []job.Family{job.ThwnPVC}
		case job.Conduit:
			families = []job.Family{job.ThwnEMT, job.ThwnPVC}
		}
	}
	return families
}

// metals are copper, and aluminium where the firm buys the family in it: its price list has it.
func (a *Ask) metals(f job.Family) []job.Material {
	item := WireAl
	switch {
	case f == job.NMB: // not made of aluminium in the sizes of a charging circuit
		return []job.Material{job.Copper}
	case f == job.MC:
		item = mcAl
	}
	if a.Prices.lists(item) {
		return []job.Material{job.Copper, job.Aluminium}
	}
	return []job.Material{job.Copper}
}

// SolveAWG tries every device, and every family that the route is made for in every size and
// metal, each with the copper equipment ground that table 250.122 asks. The order is that of
// SolveMetric, copper first.
func SolveAWG(a Ask) []Option {
	a.Circuit.Beyond = job.Beyond{}
	if a.MaxDrop == 0 {
		a.MaxDrop = 0.03
	}
	options := make([]Option, 0, 256)
	for n, device := range a.devices(&AWGDevices) {
		c := a.Circuit
		c.Breaker = device
		for _, f := range familiesAWG(a.Place) {
			for _, metal := range a.metals(f) {
				for _, row := range conductor.AWGTable() {
					if metal == job.Aluminium && row.OhmAl == 0 {
						continue
					}
					c.Cable = job.Cable{Family: f, Size: row.Size.String(), Material: metal, EarthSize: "14 AWG"}
					w := ForAWG(&c, a.Place, a.Volts, a.Board)
					c.Cable.EarthSize = w.GroundLeast.String()
					if w = ForAWG(&c, a.Place, a.Volts, a.Board); w.Derated > 0 {
						options = append(options, a.finish(w.option(&c, &a), &c, n, &AWGDevices))
					}
				}
			}
		}
	}
	return rankOptions(options, a.Circuit.Cable)
}

func (a *AWG) option(c *job.Circuit, ask *Ask) Option {
	o := Option{Cable: c.Cable, Label: a.Row.Size.String() + " " + familyNames[c.Cable.Family], Note: c.Cable.EarthSize + " ground"}
	if a.Aluminium {
		o.Label += ", aluminium"
		o.Advice = append(o.Advice, "terminals at both ends must be marked for aluminium (110.14)")
	}
	if a.DropShare > 0 {
		o.Far, o.FarBy = quantity.Metre(ask.MaxDrop/a.DropShare*float64(a.Length)), "drop"
	}
	if f := a.Ca * a.Cadj; f != 1 {
		o.Note += quantity.Say(", {} A × {2}", float64(a.Base), f)
	}
	set, in := float64(c.Setting), float64(c.Breaker.Rating)
	term := Bar{Title: "at terminals", Value: float64(a.Termination), Limit: 1.25 * set, Least: true, Unit: "A", Meets: float64(a.Termination) >= 1.25*set}
	der := Bar{Title: "derated", Value: float64(a.Derated), Limit: set, Least: true, Unit: "A", Meets: float64(a.Derated) >= set}
	brk := Bar{Title: "breaker to", Value: float64(a.MaxBreaker), Limit: in, Least: true, Unit: "A", Meets: float64(a.MaxBreaker) >= in}
	drop := Bar{Title: "drop", Value: 100 * a.DropShare, Limit: 100 * ask.MaxDrop, Unit: "%", Meets: a.DropShare <= ask.MaxDrop}
	o.Bars = []Bar{term, der, brk, drop}
	if !term.Meets {
		o.Fails = append(o.Fails, quantity.Say("{} A in the {} °C column, 125 % is {} A", term.Value, a.TermColumn.Degrees(), term.Limit))
	}
	if !der.Meets {
		o.Fails = append(o.Fails, quantity.Say("derated to {1} A, the charger draws {} A", der.Value, set))
	}
	if !brk.Meets {
		o.Fails = append(o.Fails, quantity.Say("allows a breaker of {} A, {} A is chosen", brk.Value, in))
	}
	if a.WetNotAllowed > 0 {
		o.Fails = append(o.Fails, "not allowed in the wet part of the route")
	}
	if !drop.Meets {
		o.Advice = append(o.Advice, quantity.Say("drops {1} %, advice is {} %", drop.Value, drop.Limit))
	}
	if conductor.InRaceway(c.Cable.Family) {
		if trade, _, _, ok := conductor.Raceway(c.Cable.Family, WiresAWG(c, a.Row)...); ok {
			o.Note += ", " + trade + " in raceway"
		}
	}
	return o
}

// rankOptions puts options that meet first, then those that cannot be judged;
// among equals the circuit's own device first, then by cost where priced, else
// by size. Then it marks what is shown side by side: of the family that was
// chosen, or where none of it meets of the best option, the smallest size that
// meets and the next; and the chosen one.
func rankOptions(tried []Option, chosen job.Cable) []Option {
	order := make([]*Option, len(tried)) // options are large: their places are sorted
	for i := range tried {
		order[i] = &tried[i]
	}
	slices.SortStableFunc(order, func(x, y *Option) int {
		if d := x.rank() - y.rank(); d != 0 {
			return d
		}
		if x.Own != y.Own {
			return map[bool]int{true: -1, false: 1}[x.Own]
		}
		if x.Cable.Material != y.Cable.Material {
			return cmp.Compare(y.Cable.Material, x.Cable.Material) // copper
		}
		switch {
		case x.Priced && y.Priced:
			return cmp.Compare(x.Cost, y.Cost)
		case x.Priced != y.Priced:
			return map[bool]int{true: -1, false: 1}[x.Priced]
		}
		return 0
	})
	options := make([]Option, len(order))
	for i, o := range order {
		options[i] = *o
	}
	for i := range options {
		o := &options[i]
		o.Chosen = o.Own && chosen.Size != "" && o.Cable.Size == chosen.Size && sameFamily(o.Cable, chosen)
	}
	if !markSmallest(options, chosen) && len(options) > 0 {
		markSmallest(options, options[0].Cable)
	}
	return options
}

// sameFamily reports whether two cables differ in size alone.
func sameFamily(a, b job.Cable) bool {
	return a.Family == b.Family && cmp.Or(a.Earth, job.EarthCore) == cmp.Or(b.Earth, job.EarthCore) &&
		cmp.Or(a.Material, job.Copper) == cmp.Or(b.Material, job.Copper)
}

// markSmallest marks the smallest size of a cable's family that meets with the
// circuit's own device, and the next; false where none meets.
func markSmallest(options []Option, of job.Cable) bool {
	var same []*Option // smallest first
	for i := range options {
		if o := &options[i]; o.Own && len(o.Bars) > 0 && sameFamily(o.Cable, of) {
			same = append(same, o)
		}
	}
	slices.SortStableFunc(same, func(x, y *Option) int { return cmp.Compare(area(x.Cable), area(y.Cable)) })
	for k, o := range same {
		if o.rank() > 0 {
			continue
		}
		o.Smallest = true
		if k+1 < len(same) {
			same[k+1].OneUp = true
		}
		return true
	}
	return false
}

// area returns the size of a line conductor, mm².
func area(c job.Cable) quantity.SquareMillimetre {
	if r, ok := conductor.MetricSize(c.Family, c.Size); ok {
		return r.Area
	}
	if g, err := quantity.ParseAWG(c.Size); err == nil {
		return g.Area()
	}
	return 0
}

// methodNames are the installation methods in the trade's words.
var methodNames = map[job.Method]string{
	job.Surface: "clipped to the surface", job.StudWall: "in a stud wall", job.CeilingThin: "above a ceiling, insulation to 100 mm",
	job.CeilingThick: "above a ceiling, insulation over 100 mm", job.InInsulation: "surrounded by insulation",
	job.ConduitInWall: "in conduit in an insulated wall", job.Conduit: "in conduit or trunking", job.FreeAir: "in free air",
	job.Buried: "in the ground", job.Trunking: "in trunking", job.ThroughWall: "through a wall", job.Catenary: "hung from a catenary",
}

// MethodName returns the method in the trade's words.
func MethodName(m job.Method) string { return methodNames[m] }

// Practice is how conductors are sized in one country.
type Practice struct {
	Solve   func(Ask) []Option
	Devices *Devices
	Drop    float64 // advised or allowed voltage drop, as a share
}
