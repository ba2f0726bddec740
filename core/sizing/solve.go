package sizing

import (
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
	job.TwinEarth: "twin and earth", job.Multicore: "multicore", job.Armoured70: "armoured, 70 °C",
	job.Armoured90: "armoured, 90 °C", job.NMB: "NM-B cable", job.ThwnEMT: "THWN-2 in EMT", job.ThwnPVC: "THWN-2 in PVC",
}

// FamilyName returns the family in the trade's words.
func FamilyName(f job.Family) string { return familyNames[f] }

// BreakerFor returns the smallest device for a charger setting: the next
// preferred rating by BS 7671 (433.1.1), or the next standard rating at 125 %
// of the setting by the NEC (625.41).
func BreakerFor(setting quantity.Ampere, awg bool) (quantity.Ampere, bool) {
	if awg {
		return protection.NextAtLeast(protection.Standard, quantity.Ampere(1.25*float64(setting)))
	}
	return protection.NextAtLeast(protection.Preferred, setting)
}

// SolveMetric tries every metric family and size for the circuit on the
// route. Options that meet come first, smallest conductor first.
func SolveMetric(c job.Circuit, p *job.Place, supply *job.Supply, board *job.Board) []Option {
	if c.Breaker.Rating == 0 {
		c.Breaker.Rating, _ = BreakerFor(c.Setting, false)
	}
	if c.Breaker.Curve == "" {
		c.Breaker.Curve = "B"
	}
	var options []Option
	for _, f := range conductor.MetricFamilies {
		if c.Charger.Phases == 3 && f == job.TwinEarth {
			continue
		}
		for _, row := range conductor.Metric(f) {
			for _, earth := range earths(f) {
				c.Cable = job.Cable{Family: f, Size: row.Label(), Earth: earth, Material: "copper"}
				if m := ForMetric(&c, p, supply, board); m.Iz > 0 {
					options = append(options, m.option(&c, p))
				}
			}
		}
	}
	sortOptions(options)
	return options
}

// earths lists what may serve as protective conductor in a family.
func earths(f job.Family) []string {
	if f == job.Armoured70 || f == job.Armoured90 {
		return []string{"core", "armour"}
	}
	return []string{"core"}
}

func (m *Metric) option(c *job.Circuit, p *job.Place) Option {
	o := Option{Cable: c.Cable, Label: m.Row.Label() + " " + familyNames[c.Cable.Family]}
	if c.Cable.Earth == "armour" {
		o.Label += ", armour as earth"
	} else if c.Cable.Family == job.Armoured70 || c.Cable.Family == job.Armoured90 {
		o.Label += ", core as earth"
	}
	o.Note = MethodName(p.Route[m.Worst].Method)
	if f := m.Product(); f != 1 {
		o.Note += quantity.Say(" rules: {} A × {2}", float64(m.It), f)
	}
	in := float64(c.Breaker.Rating)
	carry := Bar{Title: "carries", Value: float64(m.Iz), Limit: in, Least: true, Unit: "A", Meets: float64(m.Iz) >= in}
	drop := Bar{Title: "drop", Value: 100 * m.DropShare, Limit: 5, Unit: "%", Meets: m.DropShare <= 0.05}
	o.Bars = []Bar{carry, drop}
	if !carry.Meets {
		o.Fails = append(o.Fails, quantity.Say("carries {1} A, the breaker needs {} A", carry.Value, in))
	}
	if !drop.Meets {
		o.Fails = append(o.Fails, quantity.Say("drops {1} %, at most 5 %", drop.Value))
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

// SolveAWG tries every AWG family and size, copper, for the circuit on the
// route, each with the equipment ground that table 250.122 asks.
func SolveAWG(c job.Circuit, p *job.Place, supply *job.Supply, board *job.Board) []Option {
	if c.Breaker.Rating == 0 {
		c.Breaker.Rating, _ = BreakerFor(c.Setting, true)
	}
	var options []Option
	for _, f := range []job.Family{job.NMB, job.ThwnEMT, job.ThwnPVC} {
		for _, row := range conductor.AWGTable() {
			c.Cable = job.Cable{Family: f, Size: row.Size.String(), Material: "copper", EarthSize: "14 AWG"}
			a := ForAWG(&c, p, supply, board)
			c.Cable.EarthSize = a.GroundLeast.String()
			if a = ForAWG(&c, p, supply, board); a.Derated > 0 {
				options = append(options, a.option(&c, p))
			}
		}
	}
	sortOptions(options)
	return options
}

func (a *AWG) option(c *job.Circuit, p *job.Place) Option {
	o := Option{Cable: c.Cable, Label: a.Row.Size.String() + " " + familyNames[c.Cable.Family], Note: c.Cable.EarthSize + " ground"}
	if f := a.Ca * a.Cadj; f != 1 {
		o.Note += quantity.Say(", {} A × {2}", float64(a.Base), f)
	}
	set, in := float64(c.Setting), float64(c.Breaker.Rating)
	term := Bar{Title: "at terminals", Value: float64(a.Termination), Limit: 1.25 * set, Least: true, Unit: "A", Meets: float64(a.Termination) >= 1.25*set}
	der := Bar{Title: "derated", Value: float64(a.Derated), Limit: set, Least: true, Unit: "A", Meets: float64(a.Derated) >= set}
	brk := Bar{Title: "breaker to", Value: float64(a.MaxBreaker), Limit: in, Least: true, Unit: "A", Meets: float64(a.MaxBreaker) >= in}
	drop := Bar{Title: "drop", Value: 100 * a.DropShare, Limit: 3, Unit: "%", Meets: a.DropShare <= 0.03}
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
		o.Advice = append(o.Advice, quantity.Say("drops {1} %, advice is 3 %", drop.Value))
	}
	if c.Cable.Family != job.NMB {
		if trade, _, _, ok := conductor.Raceway(c.Cable.Family, a.Row.Size, a.Row.Size, a.GroundUsed); ok {
			o.Note += ", " + trade + " in raceway"
		}
	}
	return o
}

// sortOptions puts options that meet first, keeping the order of sizes within.
func sortOptions(options []Option) {
	slices.SortStableFunc(options, func(x, y Option) int { return x.rank() - y.rank() })
}

// methodNames are the installation methods in the trade's words.
var methodNames = map[job.Method]string{
	job.Surface: "clipped to the surface", job.StudWall: "in a stud wall", job.CeilingThin: "above a ceiling, insulation to 100 mm",
	job.CeilingThick: "above a ceiling, insulation over 100 mm", job.InInsulation: "surrounded by insulation",
	job.ConduitInWall: "in conduit in an insulated wall", job.Conduit: "in conduit or trunking", job.FreeAir: "in free air",
	job.Buried: "in the ground",
}

// MethodName returns the method in the trade's words.
func MethodName(m job.Method) string { return methodNames[m] }
