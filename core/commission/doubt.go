package commission

import (
	"math"
	"slices"

	"dogbolt/core/quantity"
)

// Doubt is something that readings say together and that is possible, but
// unlikely: a mistake in measuring or writing down comes first to mind.
type Doubt struct {
	Tests  []string `json:"tests"`
	What   string   `json:"what"`
	Causes []string `json:"causes" doc:"Likely causes, the likeliest first."`
}

// Expected is what is known of a circuit before it is tested. A zero is not
// known.
type Expected struct {
	Supply  string  // what the kind of supply is called: TN-C-S
	ZeMost  float64 // what its Ze seldom exceeds, Ω
	R1R2    float64 // designed, cold, Ω
	Nominal float64 // line to earth, V
	// OwnEarth says that the point's loop closes through an electrode of its own, and not
	// through the supply's earth: Zs is not Ze + R1 + R2.
	OwnEarth bool
}

// Bands of what is taken for the same, or for likely. Common practice, no source,
// but for the loop testers' 30 % (BS EN 61557-3, from memory), of which a gap
// between two loop readings uses most.
const (
	loopGap     = 0.10 // Ω
	loopShare   = 0.25
	legGap      = 0.05 // of the mean of the two legs
	currentLow  = 0.70 // of U ÷ Ze
	designTimes = 2.0
)

// roundBounds are the ends of insulation testers' ranges, MΩ: as an exact
// reading one of them is a bound whose sign was lost.
var roundBounds = []float64{1, 2, 20, 50, 99.9, 100, 199, 200, 299, 300, 500, 999, 1000, 2000}

// Doubts lists what is unlikely about the readings of a point, by test id.
// Causes are ranked by common practice, no source.
func Doubts(read map[string]quantity.Reading, e Expected) []Doubt {
	d := doubter{read: read}
	d.loops(e)
	d.design(e)
	d.same()
	d.voltages()
	d.insulation()
	d.current(e)
	return d.list
}

type doubter struct {
	read map[string]quantity.Reading
	list []Doubt
}

func (d *doubter) add(what string, tests []string, causes ...string) {
	d.list = append(d.list, Doubt{tests, what, causes})
}

// exact returns a reading that shows a number without a bound.
func (d *doubter) exact(test string) (float64, bool) {
	r, ok := d.read[test]
	return r.Value, ok && r.Bound == quantity.Exact
}

// loops compares Ze, Zs and R1 + R2: in series, Zs is their sum.
func (d *doubter) loops(e Expected) {
	ze, okE := d.exact(Ze)
	zs, okS := d.exact(Zs)
	r, okR := d.exact(R1R2)
	if okE && e.ZeMost > 0 && ze > e.ZeMost {
		d.add(
			quantity.Say("Ze {2} Ω is more than a ", ze)+e.Supply+quantity.Say(" supply usually has ({2} Ω)", e.ZeMost),
			[]string{Ze},
			"the supply is not "+e.Supply+": look at the earthing terminal",
			"a bad joint in the supply: tell the network operator",
			"measured at the board, not at the origin",
		)
	}
	if !okE || !okS || e.OwnEarth {
		return
	}
	if zs < ze-0.02 {
		d.add(
			quantity.Say("Zs {2} Ω is below Ze {2} Ω, although the circuit adds to it", zs, ze),
			[]string{Ze, Zs},
			"a parallel earth path, through bonding or the fixing of the charger, while Zs was read",
			"leads were not nulled for Ze",
			"the two readings were exchanged",
		)
		return
	}
	if !okR {
		return
	}
	sum := ze + r
	gap := zs - sum
	if math.Abs(gap) <= max(loopGap, loopShare*sum) {
		return
	}
	if gap > 0 {
		d.add(
			quantity.Say("Zs {2} Ω is {2} Ω more than Ze + (R1 + R2) = {2} Ω", zs, gap, sum),
			[]string{Ze, R1R2, Zs},
			"a loose joint that opens under the tester's current",
			"another route or cable than was measured dead",
			"a residual device in the loop: the low-current test reads high",
		)
		return
	}
	d.add(quantity.Say("Zs {2} Ω is {2} Ω less than Ze + (R1 + R2) = {2} Ω", zs, -gap, sum), []string{Ze, R1R2, Zs},
		"a parallel earth path while Zs was read", "leads were not nulled for R1 + R2", "measured at the board, not at the charger")
}

// design compares R1 + R2 with what the route and the cable give.
func (d *doubter) design(e Expected) {
	r, ok := d.exact(R1R2)
	if !ok || e.R1R2 == 0 {
		return
	}
	switch {
	case r > designTimes*e.R1R2+0.1:
		d.add(quantity.Say("R1 + R2 {2} Ω is more than twice the design's {2} Ω", r, e.R1R2), []string{R1R2},
			"a loose joint", "a longer route, or a smaller protective conductor", "leads were not nulled")
	case r < e.R1R2/designTimes-0.03:
		d.add(quantity.Say("R1 + R2 {2} Ω is less than half of the design's {2} Ω", r, e.R1R2), []string{R1R2},
			"a parallel earth path: the charger's fixing, or bonding left connected", "a shorter route than designed", "read between the wrong conductors")
	}
}

// same finds one number in three loop readings: written down once and copied.
func (d *doubter) same() {
	a, okA := d.exact(R1R2)
	b, okB := d.exact(Ze)
	c, okC := d.exact(Zs)
	if okA && okB && okC && a == b && b == c {
		d.add(quantity.Say("{2} Ω stands for R1 + R2, Ze and Zs alike", a), []string{R1R2, Ze, Zs},
			"one reading was written down three times", "the instrument was in hold")
	}
}

// voltages compares the legs of a split phase: hot to hot is their sum, and
// each is half of it.
func (d *doubter) voltages() {
	hh, ok := d.exact(HotHot)
	l1, ok1 := d.exact(HotGround1)
	l2, ok2 := d.exact(HotGround2)
	if !ok || !ok1 || !ok2 {
		return
	}
	tests := []string{HotHot, HotGround1, HotGround2}
	switch mean := (l1 + l2) / 2; {
	case hh < 0.7*mean:
		d.add(quantity.Say("hot to hot {} V, but hot to ground {} V and {} V: the wrong way round", hh, l1, l2), tests,
			"the readings were exchanged", "both hots are on the same leg")
	case mean > 0 && math.Abs(l1-l2) > legGap*2*mean:
		d.add(
			quantity.Say("the legs differ: {} V and {} V", l1, l2),
			tests,
			"a loose neutral of the service: switch off and call the utility",
			"a hot and the ground are exchanged",
			"a heavy load on one leg while it was read",
		)
	case math.Abs(hh-(l1+l2)) > legGap*hh && hh > 1.9*mean-0.01:
		d.add(
			quantity.Say("hot to hot {} V is not {} V + {} V", hh, l1, l2),
			tests,
			"read at different times, under different loads",
			"one of them is written down wrong",
		)
	case mean > 0 && hh < 1.8*mean:
		d.add(quantity.Say("hot to hot {} V is √3 times {} V, not twice", hh, mean), tests, "the supply is 208Y/120 V: design again for 208 V")
	}
}

// insulation doubts an exact reading on the end of a tester's range.
func (d *doubter) insulation() {
	if v, ok := d.exact(Insulation); ok && slices.Contains(roundBounds, v) {
		d.add(quantity.Say("insulation is exactly {} MΩ, the end of a tester's range", v), []string{Insulation},
			quantity.Say("the tester showed >{} MΩ, and the sign was left out", v), "the figure was rounded, or not read at all")
	}
}

// current compares the prospective current with U ÷ Ze, below which it cannot
// lie: it is the larger of two.
func (d *doubter) current(e Expected) {
	kA, ok := d.exact(FaultCurrent)
	ze, okE := d.exact(Ze)
	if !ok || !okE || ze == 0 || e.Nominal == 0 {
		return
	}
	if least := e.Nominal / ze / 1000; kA < currentLow*least {
		d.add(quantity.Say("prospective current {2} kA, but {} V ÷ Ze {2} Ω = {2} kA", kA, e.Nominal, ze, least), []string{FaultCurrent, Ze},
			"only line to earth was read at the charger, not at the board", "Ze was read too low: a parallel earth path", "kA and A were confused")
	}
}
