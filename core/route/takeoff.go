package route

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"dogbolt/core/conductor"
	"dogbolt/core/job"
	"dogbolt/core/panel"
	"dogbolt/core/quantity"
	"dogbolt/core/sizing"
)

// Parts is what is taken off a route in one country.
type Parts struct {
	Clip, ClipRule     string                // what holds a cable, and by which rule it is spaced
	Glands             map[job.Family]string // what ends a cable or a raceway
	Long               quantity.Unit         // in which drill bits are bought
	Boxes              map[job.Box]float64   // volumes of outlet boxes by their kind, in³
	Torque, TorqueRule string                // the torque driver
	// Hole names the cutter of the charger's entry for a circuit, with the parts that
	// are listed so far; "" where there is none to cut.
	Hole func(c *job.Circuit, parts []job.Part) string
	// Entry is the size of the entry that a circuit's gland is for, M20; "" where nobody knows. Nil where glands are of the
	// raceway's own size.
	Entry func(c *job.Circuit) string
	// Cores are how many cores a circuit's cable has; nil where cables are not asked for by their cores.
	Cores func(c *job.Circuit) int
	// Colours are those of so many single live conductors of a circuit, in words.
	Colours func(c *job.Circuit, wires int) string
	// Pattern is how a receptacle is asked for: rating and configuration.
	Pattern func(r *job.Receptacle) string
	// Fasteners are what fixes a unit to a thing, four of each.
	Fasteners map[job.Fixing][]string
	// Links join the tag of a gland to earth, by the family of the cable.
	Links map[job.Family]string
	From  PartClauses
}

// PartClauses are what single parts follow from.
type PartClauses struct {
	Residual, Box, Joint, Surge, Isolator, Labels, Pull, Tape, Wall, Lock string
}

// takeoff gathers lines. Lines of the same name add up.
type takeoff struct {
	parts []job.Part
	held  []job.Part // what the plan has in hand already
	w     *Practice
	point string // whose lines these are, which the stock does not ask
}

// add adds a line; why says what it follows from, with its rule where it has one.
func (t *takeoff) add(n float64, unit, why, format string, args ...any) {
	p := job.Part{Name: strings.TrimSpace(fmt.Sprintf(format, args...)), Quantity: n, Unit: unit, Why: why}
	if n <= 0 {
		return
	}
	if item, own := strings.CutSuffix(p.Name, ", "+t.point); own && t.point != "" {
		p.Item, p.Name = item, item+", point "+t.point
	}
	if k := slices.IndexFunc(t.parts, func(o job.Part) bool { return o.Name == p.Name }); k >= 0 {
		if t.parts[k].Tool != job.Yes { // one tool serves every point
			t.parts[k].Quantity += n
		}
		return
	}
	if k := slices.IndexFunc(t.held, func(o job.Part) bool { return o.Name == p.Name }); k >= 0 {
		p.InHand, p.Supply, p.From = t.held[k].InHand, t.held[k].Supply, t.held[k].From
	}
	t.parts = append(t.parts, p)
}

// detailed adds a line of the point that says more than the stock's name of it.
func (t *takeoff) detailed(n float64, unit, why, item, detail string) {
	k := len(t.parts)
	t.add(n, unit, why, "%s, %s, %s", item, detail, t.point)
	t.item(k, item)
}

// item says by which name the stock knows line k, where it was added.
func (t *takeoff) item(k int, name string) {
	if len(t.parts) > k {
		t.parts[k].Item = name
	}
}

// tool adds something that comes back from the job.
func (t *takeoff) tool(why, format string, args ...any) {
	n := len(t.parts)
	t.add(1, "", why, format, args...)
	if len(t.parts) > n {
		t.parts[n].Tool = job.Yes
	}
}

// pieces adds a length that is cut into equal pieces.
func (t *takeoff) pieces(each float64, n int, unit, why, format string, args ...any) {
	k := len(t.parts)
	t.add(each*float64(n), unit, why, format, args...)
	if len(t.parts) > k && n > 1 {
		t.parts[k].Pieces = n
	}
}

// length returns a length in whole units, rounded up, and its unit.
func (t *takeoff) length(l quantity.Metre) (float64, string) {
	return math.Ceil(t.w.Length.Of(float64(l)) - 1e-6), t.w.Length.Symbol
}

// LabelSet is the line of the labels of a job.
const LabelSet = "labels and circuit chart"

// TakeOff lists what the van must hold for a job, from its design and routes,
// each line with what it follows from. Parts of the same name that the plan has
// in hand stay so. Quantities without a rule are common practice, no source.
func (w *Practice) TakeOff(j *job.Job, m Margins) []job.Part {
	t := &takeoff{held: j.Plan.Parts, w: w}
	from := &w.Parts.From
	for _, p := range j.Points() {
		c, fates := p.Circuit, p.Circuit.Fates()
		t.point = p.ID
		switch {
		case fates.Charger.Comes() && c.Charger.Moved != "":
			t.add(1, "", "comes from job "+c.Charger.Moved, "%s, %s", cmp.Or(c.Charger.Type, "charger"), p.ID)
			t.parts[len(t.parts)-1].By = job.ByCustomer
		case fates.Charger.Comes():
			t.add(1, "", "the design", "%s, %s", cmp.Or(c.Charger.Type, "charger"), p.ID)
		}
		if part := c.Mended.Part; part.InCharger() {
			t.add(1, "", "mended, the maker's own part", "%s of %s, %s", part.Said(), cmp.Or(c.Charger.Type, "the charger"), p.ID)
		}
		if fates.Charger == job.FateTakenOut {
			t.left(fates, p.ID)
			continue
		}
		legs := p.Laid() // of a circuit that is kept no cable is bought
		for i := range legs {
			laid := w.Of(&legs[i].Circuit, &legs[i].Place, j.Board(), 0, m)
			n, unit := t.length(laid.Cut)
			t.cable(&legs[i].Circuit, p.ID, n, unit, laid.Working)
		}
		if p.Joined() && len(legs) > 0 {
			t.add(1, "", from.Joint, "joint box with connectors, %s and %s, %s", c.Cable.Size, c.Beyond.Cable.Size, p.ID)
		}
		t.devices(&c, j.Board(), fates, p.ID)
		t.ends(&c, p.ID)
		t.end(&p)
		for i := range legs {
			l := &legs[i]
			t.segments(&l.Circuit, &l.Place, w.Of(&l.Circuit, &l.Place, j.Board(), 0, m).Stretches)
		}
		if len(legs) > 0 || fates.Charger.Comes() {
			t.fixings(j, p.Place)
		}
		if len(legs) == 0 {
			continue
		}
		// Whether it fits the depth of the charger's entry is the maker's to say.
		if cutter := w.Parts.Hole(&legs[len(legs)-1].Circuit, t.parts); cutter == "" {
			continue
		} else if c.EndsInBoard() {
			t.tool("the entry of the board at the end; look at its depth", "%s", cutter)
		} else if deep := float64(c.Charger.EntryDepth); deep > 0 {
			t.tool("the entry's size, and its depth by the maker's sheet", "%s", cutter+quantity.Say(", at least {} mm deep", deep))
		} else {
			t.tool("the entry's size; look at the depth on the maker's sheet", "%s", cutter)
		}
	}
	t.point = ""
	if a := &j.Design.Ahead; a.Type != "" {
		name := quantity.Say("residual device type "+string(a.Type)+", {} mA, {} A, upstream", a.TripMA, float64(a.Rating))
		t.add(1, "", "in place of the one that was found upstream", "%s", name)
	}
	if fits := panel.Of(j); slices.ContainsFunc(fits, func(f panel.Fit) bool { return f.Mapped && !f.Fits }) {
		t.add(1, "", "the board's map has no room", "enclosure for the breaker, beside the board")
	}
	t.beside(j)
	t.moved(j)
	t.bonds(j)
	t.building(j)
	t.add(1, "", from.Labels, LabelSet)
	t.tools(j)
	return t.parts
}

// beside adds the small board of the points' own with what connects it: a block and a tail for every live conductor. Common practice,
// no source.
func (t *takeoff) beside(j *job.Job) {
	d := &j.Design.Beside
	if d.Fitted != job.Yes {
		return
	}
	why := "the small board beside the one that was found"
	says := []string{quantity.Say(d.Name("", "board")+" of {} ways", float64(d.Ways)), quantity.Say("main switch {} A", float64(d.Rating))}
	switch {
	case d.IP != "" && d.Outdoors == job.Yes:
		says = append(says, d.IP)
	case d.Case != "" && d.Outdoors == job.Yes:
		says = append(says, "type "+string(d.Case))
	case d.Made == job.OfSteel:
		says = append(says, "steel")
	}
	if d.Renews() {
		why = "in place of the board that was found"
	}
	t.add(1, "", why, "%s", strings.Join(says, ", "))
	if d.Made == job.InCabinet {
		t.add(1, "", why, "cabinet of steel round the board")
	}
	if d.Renews() {
		device := "device for a circuit moved over"
		if d.Protected == job.Yes {
			device += ", with a residual device where its use asks for one"
		}
		t.add(float64(d.Taken), "", "one for each of its ways, by what each conductor allows", "%s", device)
		if d.Ahead.There() {
			t.add(1, "", "ahead of the points, in the new board", "%s", quantity.Say("residual device type "+string(d.Ahead)+", {} A", float64(d.AheadRating)))
		}
	}
	live := 2
	if j.Survey.Supply.Phases == 3 {
		live = 4
	}
	n, unit := t.length(d.Length)
	if d.Tails > 0 {
		t.pieces(n, live, unit, why+", each live conductor", "tail, double insulated, %g mm²", float64(d.Tails))
	}
	if d.Earth > 0 {
		t.add(n, unit, why, "green-and-yellow conductor %g mm²", float64(d.Earth))
	}
	if d.Small() {
		t.add(float64(live), "", why+", one for each live conductor", "connector block %g A, enclosed", float64(d.Blocks))
	}
	if d.Tails > 0 {
		t.add(1, "", why, "gland or grommet for the tails")
	}
}

// end adds the board that a sub-main ends in, and blanks for its ways.
func (t *takeoff) end(p *job.Point) {
	if !p.Circuit.EndsInBoard() {
		return
	}
	const why = "the board at the end of the sub-main"
	e := &p.Circuit.End
	says := []string{quantity.Say("board of {} ways", float64(e.Ways)), quantity.Say("{} A", float64(e.Rating)), quantity.Say("{} kA", e.BreakingKA)}
	switch {
	case e.IP != "" && p.Place.Outdoors == job.Yes:
		says = append(says, e.IP)
	case e.Enclosure != "" && p.Place.Outdoors == job.Yes:
		says = append(says, "type "+string(e.Enclosure))
	}
	if e.Disconnect == job.Yes {
		says = append(says, "main breaker or disconnect for the feeder, suitable as service equipment")
	}
	switch e.Becomes() {
	case job.FateNew:
		t.add(1, "", why, "%s, %s", strings.Join(says, ", "), p.ID)
		t.add(float64(e.Ways), "", why+", until circuits are connected", "blank for a way of it")
	case job.FateReplaced:
		t.add(1, "", why+", in place of the old one", "%s, with a device for each of its old circuits, %s", strings.Join(says, ", "), p.ID)
	}
	if e.Electrode == job.Yes {
		t.rods()
	}
}

// rods adds a grounding electrode of a building. Two rods where nobody measured one: NEC 250.53(A)(2); their conductor: 250.66(A); from memory.
func (t *takeoff) rods() {
	t.add(2, "", "grounding electrode of the building", "ground rod, 8 ft, with its clamp")
	t.add(1, "", "in one length from the rods to the ground bar, as found", "grounding electrode conductor 6 AWG copper")
}

// bonds adds the main bonding that comes with the work, a clamp with its label for each thing, and an earthing conductor.
func (t *takeoff) bonds(j *job.Job) {
	d, list := &j.Design.Bonds, j.Bonds()
	if len(list) > 0 {
		n, unit := t.length(d.Length)
		t.add(n, unit, "main bonding with this work", "green-and-yellow conductor %g mm², bonding", float64(d.Size))
		t.add(float64(len(list)), "", strings.Join(list, ", "), "earth clamp with its label")
	}
	if d.Conductor > 0 {
		t.add(1, "", "in place of the one that was found; its length as found", "earthing conductor %g mm²", float64(d.Conductor))
	}
}

// building adds what is put right at a building of its own.
func (t *takeoff) building(j *job.Job) {
	found := j.Survey.Board.Outbuilding
	after, _ := j.Design.Building.Mends(found)
	if after.Disconnect != found.Disconnect {
		t.add(1, "", "where the feeder comes in", "disconnect suitable as service equipment, %g A", float64(j.Survey.Board.Rating))
	}
	if after.Electrode != found.Electrode {
		t.rods()
	}
}

// moved adds what circuits that move on the board ask for: a double of half width where two share a space, and a filler for each space
// that comes free.
func (t *takeoff) moved(j *job.Job) {
	w, ok := panel.WorkOf(j)
	if !ok {
		return
	}
	const why = "the board's map; of a type that its label allows"
	for i := range w.Moves {
		if m := &w.Moves[i]; m.With != "" {
			rated := func(circuit string) string { return quantity.Recorded(panel.Rating(&j.Survey.Board, circuit), "A") }
			t.add(1, "", why, "double breaker of half width, %s and %s, for %s and %s", rated(m.Circuit), rated(m.With), m.Circuit, m.With)
		}
	}
	if n := len(w.Freed); n > 0 {
		t.add(float64(n), "", "a space of the board that comes free", "filler for a free space of the board")
	}
}

// devices adds the breaker, the residual device and the outlet, where they are new or take the place of others.
func (t *takeoff) devices(c *job.Circuit, board *job.Board, fates job.Fates, point string) {
	from := &t.w.Parts.From
	if fates.Breaker.Comes() {
		t.add(1, "", instead(fates.Breaker), "%s, %s", breaker(c, board), point)
	}
	if c.RCD.Fitted == job.Yes && fates.RCD.Comes() {
		t.add(1, "", from.Residual, "%s, %s", residual(c), point)
	}
	if c.Connection == job.PluggedIn && fates.Receptacle.Comes() {
		t.add(1, "", instead(fates.Receptacle), "%s, %s", t.w.Parts.Pattern(&c.Receptacle), point)
		if v, ok := t.w.Parts.Boxes[c.Receptacle.Box]; ok && fates.Receptacle == job.FateNew {
			t.add(1, "", from.Box, "box of %g in³ for the receptacle, %s", v, point)
		}
	}
	if c.Kept() && fates.Receptacle == job.FateTakenOut {
		t.add(1, "", "the outlet is taken out", "blank plate over the outlet's box, %s", point)
	}
}

// breaker is a breaker as a counter hands it over: type and rating, poles, what it breaks, and the ground-fault protection that
// an outlet has from it. What is not known is not said.
func breaker(c *job.Circuit, board *job.Board) string {
	says := []string{"breaker " + string(c.Breaker.Curve) + strconv.FormatFloat(float64(c.Breaker.Rating), 'f', -1, 64) + " A"}
	if c.Breaker.Poles > 0 {
		says = append(says, fmt.Sprintf("%d-pole", c.Breaker.Poles))
	}
	if kA := cmp.Or(c.Breaker.BreakingKA, board.BreakingKA); kA > 0 {
		says = append(says, quantity.Say("{} kA", kA))
	}
	if c.Connection == job.PluggedIn && c.Receptacle.GFCI == job.Yes {
		says = append(says, "ground-fault protection for the outlet")
	}
	if c.Breaker.BothWays == job.Yes {
		says = append(says, "fed from either side")
	}
	return strings.Join(says, ", ")
}

// residual is a residual device as a counter hands it over; it carries at least what the breaker does.
func residual(c *job.Circuit) string {
	says := []string{fmt.Sprintf("residual device type %s, %g mA", c.RCD.Type, c.RCD.TripMA)}
	if c.Breaker.Rating > 0 {
		says = append(says, quantity.Say("{} A", float64(c.Breaker.Rating)))
	}
	if c.RCD.AllPoles == job.Yes {
		says = append(says, "all poles")
	}
	if c.RCD.Delayed == job.Yes {
		says = append(says, "delayed")
	}
	return strings.Join(says, ", ")
}

// instead says what a device follows from.
func instead(f job.Fate) string {
	if f == job.FateReplaced {
		return "in place of the one that was there"
	}
	return "the design"
}

// left adds what closes off what stays where a charger was: common practice, no source.
func (t *takeoff) left(fates job.Fates, point string) {
	if fates.Cable == job.FateKept {
		t.add(1, "", "the cable stays: its ends are closed", "closed box with connectors for the cable's end, %s", point)
	}
	if fates.Breaker == job.FateTakenOut {
		t.add(1, "", "the breaker is taken out", "blank for the breaker's way, %s", point)
	}
	t.add(1, "", "the charger was fixed there", "filler and sealant for the charger's holes, %s", point)
}

// ends adds what a point asks for whether its circuit is new or kept.
func (t *takeoff) ends(c *job.Circuit, point string) {
	from := &t.w.Parts.From
	if c.SPD.Comes() {
		t.add(1, "", from.Surge, "surge protective device, %s", point)
	}
	if (c.Isolator == job.Yes || c.Disconnect == job.Yes) && c.Fates().Isolator.Comes() {
		t.add(1, "", from.Isolator, "isolator, lockable, %s", point)
	}
}

// cable adds the cable or the conductors, cut to a length.
func (t *takeoff) cable(c *job.Circuit, point string, n float64, unit, working string) {
	switch row, ok := conductor.AWGSize(c.Cable.Size); {
	case ok && conductor.InRaceway(c.Cable.Family):
		wires := sizing.WiresAWG(c, row)
		k := len(t.parts)
		t.pieces(n, len(wires)-1, unit, working+", each conductor", "%s THWN-2 conductor, %s, %s", c.Cable.Size, t.w.Parts.Colours(c, len(wires)-1), point)
		t.item(k, c.Cable.Size+" THWN-2 conductor")
		t.add(n, unit, working, "%s THWN-2 ground, %s", c.Cable.EarthSize, point)
	case c.Cable.Family == job.Singles:
		k := len(t.parts)
		t.pieces(n, sizing.Cores(c), unit, working+", each core", "%s single core, %s, %s", c.Cable.Size, t.w.Parts.Colours(c, sizing.Cores(c)), point)
		t.item(k, c.Cable.Size+" single core")
	case t.w.Parts.Cores != nil && c.Cable.Family != job.TwinEarth:
		t.detailed(n, unit, working, c.Cable.Size+" "+sizing.FamilyName(c.Cable.Family), fmt.Sprintf("%d-core", t.w.Parts.Cores(c)))
	default:
		t.add(n, unit, working, "%s %s, %s", c.Cable.Size, sizing.FamilyName(c.Cable.Family), point)
	}
}

// segments adds supports, raceway, tape and sealant.
func (t *takeoff) segments(c *job.Circuit, p *job.Place, stretches []Stretch) {
	from := &t.w.Parts.From
	if g := t.w.Parts.Glands[c.Cable.Family]; g != "" {
		if t.w.Parts.Entry != nil {
			g = strings.TrimSpace(g + " " + t.w.Parts.Entry(c))
		}
		t.add(2, "", "one at each end of the route", "%s for %s", g, c.Cable.Size)
	}
	if link := t.w.Parts.Links[c.Cable.Family]; link != "" {
		n, why := 1.0, "armour earthed at the board; common practice"
		if c.Cable.Earth == job.EarthArmour {
			n, why = 2, "armour is the protective conductor: joined at both ends"
		}
		t.add(n, "", why, "%s", link)
	}
	for i, s := range stretches {
		g := &p.Route[i]
		n, unit := t.length(s.Cable)
		if s.Supports > 0 {
			t.add(float64(s.Supports), "", t.w.Parts.ClipRule+quantity.Say(", every {2} m", float64(s.Spacing)), "%s for %s", t.w.Parts.Clip, c.Cable.Size)
		}
		if s.Fill != nil && s.Fill.Size != "" && !conductor.InRaceway(c.Cable.Family) {
			t.add(n, unit, s.Fill.Clause, "%s %s", s.Fill.Size, strings.TrimPrefix(string(g.Method), "conduit-in-wall"))
		}
		if conductor.InRaceway(c.Cable.Family) && s.Fill != nil {
			kind := "EMT"
			if c.Cable.Family == job.ThwnPVC {
				kind = "PVC conduit"
			}
			t.add(n, unit, s.Fill.Clause, "%s in %s", s.Fill.Size, kind)
			t.add(math.Ceil(g.Bends/90), "", "the route's bends", "%s in %s elbow, 90°", s.Fill.Size, kind)
		}
		if g.Pull == job.Yes {
			t.add(1, "", from.Pull, "pull box or inspection fitting")
		}
		switch g.Method {
		case job.Buried:
			t.add(n, unit, from.Tape, "marking tape")
		case job.ThroughWall:
			t.add(1, "", from.Wall, "sealant and sleeve for a wall")
		}
	}
}

// fixings adds screws and plugs for the unit by what it is fixed to, and a backboard where that is doubtful.
func (t *takeoff) fixings(j *job.Job, p job.Place) {
	for _, q := range j.Survey.SitePlan.Positions {
		if q.ID != p.Position {
			continue
		}
		why := "fixed to: " + string(q.Fixing) + "; the maker's sheet prevails"
		if q.Fixing == job.DoubtfulFixing {
			t.add(1, "", why, "backboard with its own fixings")
		}
		for _, f := range t.w.Parts.Fasteners[q.Fixing] {
			t.add(4, "", why, "%s", f)
		}
	}
}

// tools adds what the job needs besides hand tools.
func (t *takeoff) tools(j *job.Job) {
	t.tool(t.w.Parts.TorqueRule, "%s", t.w.Parts.Torque)
	t.tool("part 6; common practice", "tester in calibration, with a known source")
	if j.Units() {
		t.tool("IEC 61851-1", "vehicle adapter for the charger tests")
	}
	t.tool(t.w.Parts.From.Lock, "lock and tag")
	thick, stud := quantity.Metre(0), false
	for _, point := range j.Points() {
		p := &point.Place
		for _, g := range point.LaidRoute() {
			thick = max(thick, g.Wall)
		}
		for _, q := range j.Survey.SitePlan.Positions {
			stud = stud || q.ID == p.Position && q.Fixing == "stud"
		}
	}
	if stud {
		t.tool("fixed to a stud", "stud finder")
	}
	if thick > 0 {
		// A bit reaches through with 100 mm to spare: common practice, no source.
		long := t.w.Parts.Long
		t.tool("the thickest wall of the route", "drill bit, at least %.0f %s long", math.Ceil(long.Of(float64(thick+0.1))-1e-6), long.Symbol)
	}
}
