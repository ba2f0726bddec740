package job

import (
	"cmp"
	"slices"
	"strings"

	"dogbolt/core/quantity"
	"dogbolt/core/schema"
)

// Fate is what becomes of a thing by the work.
type Fate string

// What becomes of a thing.
const (
	FateNew      Fate = "new"       // it was not there, and is fitted
	FateKept     Fate = "kept"      // it was there, and stays
	FateReplaced Fate = "replaced"  // it was there, and another of its kind takes its place
	FateTakenOut Fate = "taken-out" // it was there, and nothing takes its place
	FateNone     Fate = "none"      // of a charger: there was none, and none comes with this work; the outlet or the board is for one to come
)

// Values lists what can become of a thing.
func (Fate) Values() []string {
	return schema.Words(FateNew, FateKept, FateReplaced, FateTakenOut, FateNone)
}

// Fates are what becomes of the things of one circuit.
type Fates struct {
	Charger, Breaker, RCD, Cable, Receptacle, Isolator Fate
}

// Fates returns what becomes of the circuit's things: as the design says, else as the circuit is: all of a new one is new; of
// one that was there all is kept but the charger, which takes the place of another, or is new where it is plugged in, and an isolator,
// which stays where the charger does and is new elsewhere. Of a circuit whose charger is taken away nothing else follows by itself: what is left is said, and "" until then.
func (c *Circuit) Fates() Fates {
	f := Fates{FateNew, FateNew, FateNew, FateNew, FateNew, FateNew}
	switch {
	case c.Charger.Fate == FateTakenOut:
		f = Fates{Charger: FateTakenOut}
	case c.Kept():
		f = Fates{FateReplaced, FateKept, FateKept, FateKept, FateKept, FateNew}
		if c.Charger.Fate == FateKept {
			f.Isolator = FateKept
		}
		if c.Connection == PluggedIn || c.Extended() {
			f.Charger = FateNew
		}
		if c.Connection == PluggedIn && c.Extended() {
			f.Receptacle = FateNew // at the new end
		}
	}
	return Fates{
		Charger: cmp.Or(c.Charger.Fate, f.Charger), Breaker: cmp.Or(c.Breaker.Fate, f.Breaker), RCD: cmp.Or(c.RCD.Fate, f.RCD),
		Cable: cmp.Or(c.Cable.Fate, f.Cable), Receptacle: cmp.Or(c.Receptacle.Fate, f.Receptacle),
		Isolator: cmp.Or(c.IsolatorFate, f.Isolator),
	}
}

// Extended reports whether the circuit was there and is carried on to the point: from a joint box on its route the cable is new.
func (c *Circuit) Extended() bool { return c.Kept() && c.Beyond.Cable.Fate == FateNew }

// Laid returns the legs of the point's circuit that this work lays: all of a new circuit, what lies beyond the joint box where an
// old one is extended, else none.
func (p *Point) Laid() []Point {
	switch legs := p.Legs(); {
	case !p.Circuit.Kept():
		return legs
	case p.Circuit.Extended() && len(legs) > 1:
		return legs[1:]
	}
	return nil
}

// LaidRoute returns the segments of the route on which this work lays a cable.
func (p *Point) LaidRoute() []Segment {
	switch {
	case !p.Circuit.Kept():
		return p.Place.Route
	case p.Circuit.Extended() && p.Joined():
		return p.Place.Route[p.Circuit.Beyond.From-1:]
	}
	return nil
}

// LaidLength is the length of the route on which this work lays a cable.
func (p *Point) LaidLength() quantity.Metre {
	var l quantity.Metre
	for _, s := range p.LaidRoute() {
		l += s.Run()
	}
	return l
}

// Comes reports whether a thing is brought: it is new or takes the place of another.
func (f Fate) Comes() bool { return f == FateNew || f == FateReplaced }

// Mended is what was wrong with a charger or its circuit, and what was done about it.
type Mended struct {
	Fault string     `json:"fault,omitempty" maxLength:"300" doc:"What was wrong, as the customer or the charger told it."`
	Cause string     `json:"cause,omitempty" maxLength:"300" doc:"What it came from, as found."`
	Part  MendedPart `json:"part,omitempty" doc:"What is mended or exchanged."`
}

// MendedPart is what of a charger or its circuit is mended.
type MendedPart string

// Parts that are mended.
const (
	MendedCord      MendedPart = "cord"          // the cord or the socket for the vehicle
	MendedContactor MendedPart = "contactor"     // its contactor
	MendedBoard     MendedPart = "control-board" // its electronics
	MendedEnd       MendedPart = "terminals"     // its terminals, and the conductors in them
	MendedBreaker   MendedPart = "device"        // breaker or residual device of its circuit
	MendedSetting   MendedPart = "setting"       // a setting, or its software with settings anew
	MendedSoftware  MendedPart = "software"      // its software, settings as they were
)

// Values lists the parts that are mended.
func (MendedPart) Values() []string {
	return schema.Words(MendedCord, MendedContactor, MendedBoard, MendedEnd, MendedBreaker, MendedSetting, MendedSoftware)
}

// mendedWords are what pages and records call them.
var mendedWords = []Word{
	{string(MendedCord), "cord or socket for the vehicle"}, {string(MendedContactor), "contactor"}, {string(MendedBoard), "electronics"},
	{string(MendedEnd), "terminals and the conductors in them"}, {string(MendedBreaker), "breaker or residual device"},
	{string(MendedSetting), "setting, or software with settings anew"}, {string(MendedSoftware), "software, settings as they were"},
}

// Said is what the part is called.
func (p MendedPart) Said() string { return said(mendedWords, string(p)) }

// InCharger reports whether the charger is opened for it.
func (p MendedPart) InCharger() bool {
	return p == MendedCord || p == MendedContactor || p == MendedBoard || p == MendedEnd
}

// Kind is what the work on a point is. It has no field of its own: it follows from what becomes of the circuit's things.
type Kind string

// Kinds of work.
const (
	NewCircuit  Kind = "new-circuit" // a charger on a circuit of its own that is made for it
	Replacement Kind = "replacement" // a charger in place of an old one, on its circuit
	Extension   Kind = "extended"    // a charger on an old circuit that is carried on to it from a joint box
	OnOutlet    Kind = "on-outlet"   // a unit that is plugged into an outlet that is there
	Repair      Kind = "repair"      // the charger stays: something of it or of its circuit is mended or replaced
	Removal     Kind = "removal"     // the charger is taken away
	OutletOnly  Kind = "outlet"      // an outlet is made, and no charger comes with this work
	SubMain     Kind = "sub-main"    // a sub-main or feeder with the board at its end; chargers are jobs of their own on that board
)

// Values lists the kinds of work.
func (Kind) Values() []string {
	return schema.Words(NewCircuit, Replacement, Extension, OnOutlet, Repair, Removal, OutletOnly, SubMain)
}

// kindWords are what pages call the kinds of work.
var kindWords = []Word{
	{string(NewCircuit), "charger, new circuit"}, {string(Replacement), "charger replaced"},
	{string(Extension), "old circuit extended to a charger"}, {string(OnOutlet), "unit on an old outlet"}, {string(Repair), "repair or exchange"},
	{string(Removal), "charger taken away"}, {string(OutletOnly), "outlet, no charger"},
	{string(SubMain), "sub-main or feeder with a board"},
}

// fateWords are what pages call what becomes of a thing.
var fateWords = []Word{
	{string(FateNew), "new"}, {string(FateKept), "stays"}, {string(FateReplaced), "replaced"}, {string(FateTakenOut), "taken out"},
	{string(FateNone), "none comes"},
}

// Begin says of a circuit what its kind of work says by itself.
func (k Kind) Begin(c *Circuit) {
	switch k {
	case "", NewCircuit:
		return
	case OutletOnly:
		c.Connection, c.Charger = PluggedIn, Charger{Fate: FateNone}
		return
	case SubMain:
		*c = Circuit{Point: c.Point, Connection: IntoBoard, Charger: Charger{Fate: FateNone}, Breaker: Breaker{Curve: c.Breaker.Curve}, Cable: c.Cable, SPD: c.SPD}
		return
	}
	c.Existing = Yes
	switch k {
	case Extension:
		c.Beyond.Cable.Fate = FateNew
	case OnOutlet:
		c.Connection = PluggedIn
	case Repair:
		c.Charger.Fate = FateKept
	case Removal:
		c.Charger.Fate = FateTakenOut
	}
}

// Makes reports whether the kind makes a circuit of its own, on a board.
func (k Kind) Makes() bool { return k == "" || k == NewCircuit || k == OutletOnly || k == SubMain }

// There reports whether the kind is about a charger that is there: its type and cable are not chosen.
func (k Kind) There() bool { return k == Repair || k == Removal }

// Kind returns what the work on the circuit's point is.
func (c *Circuit) Kind() Kind {
	switch { // asked for every rule and test of a point: without the other things
	case c.Charger.Fate == FateTakenOut:
		return Removal
	case c.EndsInBoard():
		return SubMain
	case c.Charger.Fate == FateNone:
		return OutletOnly
	case !c.Kept():
		return NewCircuit
	case c.Charger.Fate == FateKept:
		return Repair
	case c.Beyond.Cable.Fate == FateNew:
		return Extension
	case c.Connection == PluggedIn:
		return OnOutlet
	}
	return Replacement
}

// Unit reports whether a charger hangs on the circuit after the work.
func (c *Circuit) Unit() bool { return c.Charger.Fate != FateTakenOut && c.Charger.Fate != FateNone }

// Draws is what may be drawn on the circuit, A per phase: the setting, and from an outlet without a charger whatever its breaker
// carries, which nothing else bounds. Over a sub-main it is what its board draws, and the breaker's rating until that is known.
func (c *Circuit) Draws() quantity.Ampere {
	if c.EndsInBoard() {
		return cmp.Or(c.Setting, c.Breaker.Rating)
	}
	if c.Charger.Fate == FateNone {
		return max(c.Setting, c.Breaker.Rating)
	}
	return c.Setting
}

// Charges reports whether a vehicle is charged on the circuit after the work.
func (c *Circuit) Charges() bool { return c.Charger.Fate != FateTakenOut }

// StaysConnected reports whether the cable of a charger that goes stays on its breaker.
func (c *Circuit) StaysConnected() bool {
	f := c.Fates()
	return f.Breaker != FateTakenOut && f.Cable != FateTakenOut
}

// Kinds returns what the work on each point is, in the order of the survey.
func (j *Job) Kinds() map[string]Kind {
	kinds := map[string]Kind{}
	for _, p := range j.Points() {
		kinds[p.ID] = p.Circuit.Kind()
	}
	return kinds
}

// Removes reports whether all that the job does is taking chargers away.
func (j *Job) Removes() bool { return j.only(Removal) }

// Mends reports whether all that the job does is mending chargers or exchanging devices of their circuits.
func (j *Job) Mends() bool { return j.only(Repair) }

// Raises reports whether repairs may let more be drawn than before: by another breaker, or another setting.
func (j *Job) Raises() bool {
	return slices.ContainsFunc(j.Design.Circuits, func(c Circuit) bool { return c.Raises() })
}

// Raises reports whether a repair may let more be drawn than before.
func (c *Circuit) Raises() bool {
	return c.Breaker.Fate == FateReplaced || c.Mended.Part == MendedSetting
}

// Units reports whether a charger hangs on some point after the work.
func (j *Job) Units() bool {
	return len(j.Design.Circuits) == 0 || slices.ContainsFunc(j.Design.Circuits, func(c Circuit) bool { return c.Unit() })
}

// only reports whether every point has work of one kind.
func (j *Job) only(k Kind) bool {
	for i := range j.Design.Circuits {
		if j.Design.Circuits[i].Kind() != k {
			return false
		}
	}
	return len(j.Design.Circuits) > 0 && len(j.Design.Circuits) >= len(j.Survey.Places)
}

// Makes reports whether the job makes a new circuit, or may: of some point nothing is designed yet.
func (j *Job) Makes() bool {
	return len(j.Design.Circuits) == 0 || slices.ContainsFunc(j.Design.Circuits, func(c Circuit) bool { return !c.Kept() })
}

// may are the words that can be said of each thing of a circuit that was there.
var may = map[string][]Fate{
	"charger":    {FateNew, FateReplaced, FateKept, FateTakenOut},
	"breaker":    {FateKept, FateReplaced, FateTakenOut},
	"rcd":        {FateNew, FateKept, FateReplaced},
	"cable":      {FateKept, FateTakenOut},
	"receptacle": {FateKept, FateReplaced, FateTakenOut},
	"isolator":   {FateNew, FateKept, FateReplaced},
	"end":        {FateNew, FateKept, FateReplaced},
}

// checkFates refuses what cannot become of the things of a circuit: of one that is made for the charger all is new, and
// breaker and cable only go with the charger.
func (c *Circuit) checkFates(to *checker, f string) {
	for _, thing := range []struct {
		name, at string
		fate     Fate
	}{
		{"charger", "charger.fate", c.Charger.Fate}, {"breaker", "breaker.fate", c.Breaker.Fate}, {"rcd", "rcd.fate", c.RCD.Fate},
		{"cable", "cable.fate", c.Cable.Fate}, {"receptacle", "receptacle.fate", c.Receptacle.Fate}, {"isolator", "isolatorFate", c.IsolatorFate},
	} {
		at := f + "." + thing.at
		gone := thing.fate == FateTakenOut && (thing.name == "breaker" || thing.name == "cable")
		switch {
		case thing.fate == "":
		case thing.name == "charger" && thing.fate == FateNone:
			if c.Connection != PluggedIn && !c.EndsInBoard() {
				to.fail(at, "is of an outlet or a sub-main: nothing else waits for a charger")
			}
		case !c.Kept() && thing.fate != FateNew:
			to.fail(at, "is of a circuit that was there: say that this one was")
		case !c.Kept():
		case !slices.Contains(may[thing.name], thing.fate):
			to.fail(at, "cannot be "+string(thing.fate)+": the circuit was there")
		case gone && c.Charger.Fate != FateTakenOut:
			to.fail(at, "is taken out only where the charger is")
		}
	}
	if c.IsolatorFate != "" && c.Isolator != Yes && c.Disconnect != Yes {
		to.fail(f+".isolatorFate", "is of a local isolator or disconnect: say that there is one")
	}
	c.checkCharger(to, f)
	c.checkBeyond(to, f+".beyond.cable.fate")
	c.checkEnd(to, f)
	if c.Receptacle.Fate == FateTakenOut && c.Connection == PluggedIn && c.Charger.Fate != FateTakenOut {
		to.fail(f+".receptacle.fate", "the charger is plugged into it")
	}
}

// checkCharger refuses what is not told of a charger by what becomes of it.
func (c *Circuit) checkCharger(to *checker, f string) {
	if !c.Charges() && c.Setting > 0 {
		to.fail(f+".setting", "the charger is taken out: it is set to nothing")
	}
	if !c.Charges() && c.ManagedTo > 0 {
		to.fail(f+".managedTo", "the charger is taken out: nothing is managed")
	}
	if c.Mended != (Mended{}) && c.Charger.Fate != FateKept {
		to.fail(f+".mended", "is of a charger that was there and is kept")
	}
	if c.Charger.Closes != "" && c.Charger.Fate != FateTakenOut && c.Fates().Charger != FateReplaced {
		to.fail(f+".charger.closes", "is of a charger that is taken away or replaced")
	}
	if c.Charger.Moved != "" && c.Charger.Fate == FateKept {
		to.fail(f+".charger.moved", "the charger stays where it is")
	}
}

// Said is what becomes of the circuit's things, in words: "charger new; breaker replaced; cable kept".
func (c *Circuit) Said() string {
	f := c.Fates()
	things := []struct {
		name string
		fate Fate
		is   bool
	}{
		{"charger", f.Charger, f.Charger != FateNone}, {"breaker", f.Breaker, true}, {"residual device", f.RCD, c.RCD.Fitted == Yes},
		{"cable", f.Cable, true}, {"cable beyond the joint box", c.Beyond.Cable.Fate, c.Extended()},
		{"outlet", f.Receptacle, c.Connection == PluggedIn || c.Receptacle.Fate != ""}, {"isolator", f.Isolator, c.IsolatorFate != ""},
	}
	var says []string
	for _, t := range things {
		switch {
		case t.is && t.fate == FateTakenOut:
			says = append(says, t.name+" taken out")
		case t.is && t.fate != "":
			says = append(says, t.name+" "+string(t.fate))
		case t.is && c.Charger.Fate == FateTakenOut && t.name != "residual device" && t.name != "outlet" && t.name != "isolator":
			says = append(says, t.name+" not said")
		}
	}
	switch {
	case c.EndsInBoard():
		says = append(says, "board at its end "+string(c.End.Becomes()))
	case f.Charger == FateNone:
		says = append(says, "no charger")
	}
	return strings.Join(says, "; ")
}

// checkBeyond refuses what cannot become of the cable beyond a joint box.
func (c *Circuit) checkBeyond(to *checker, f string) {
	switch beyond := c.Beyond.Cable.Fate; {
	case beyond == "":
	case beyond != FateNew:
		to.fail(f, "is new, where an old circuit is extended, or goes with the cable to the joint box")
	case !c.Kept():
		to.fail(f, "is of a circuit that was there: say that this one was")
	case c.Charger.Fate == FateKept || c.Charger.Fate == FateTakenOut:
		to.fail(f, "an old circuit is extended to a charger that comes")
	}
}
