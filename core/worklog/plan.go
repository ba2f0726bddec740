package worklog

import (
	"fmt"
	"slices"
	"strings"

	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/panel"
	"dogbolt/core/quantity"
)

// Plan returns the steps of a job in the order of work, as its survey and design
// have them: isolation first, then what each point's wall, route, arrangement
// and sensors ask for.
func (w *Practice) Plan(j *job.Job) []Step { return w.plan(j, false) }

// Outline is the plan without the details that are written from the design, for
// those who only count the steps.
func (w *Practice) Outline(j *job.Job) []Step { return w.plan(j, true) }

func (w *Practice) plan(j *job.Job, plain bool) []Step {
	b := Planner{Practice: w, Job: j, Points: j.Points(), plain: plain, steps: make([]Step, 0, 24+12*len(j.Survey.Places))}
	for _, part := range w.Parts {
		part(&b)
	}
	if b.shut() {
		b.steps = slices.DeleteFunc(b.steps, func(s Step) bool { return slices.Contains(opening, s.ID) })
	}
	return b.steps
}

// opening are the steps of switching off, opening and closing: a job that opens nothing has none.
var opening = []string{Protect, Announce, BranchesOff, SourcesOff, MainOff, CoverOff, ProveDead, Barrier, Rejoin, Lids, Labels}

// shut reports whether the job opens nothing: of the steps so far none is work inside a board or a charger.
func (b *Planner) shut() bool {
	return len(b.Points) > 0 && !slices.ContainsFunc(b.steps, func(s Step) bool { return s.Inside && !slices.Contains(opening, s.ID) })
}

// Planner gathers the steps of one job.
type Planner struct {
	*Practice
	Job    *job.Job
	Points []job.Point
	plain  bool // without details
	steps  []Step

	onBoard *panel.Work // work on the board's map, once it was asked for
	mapped  bool
}

// Add adds a step.
func (b *Planner) Add(s Step) { b.steps = append(b.steps, s) }

// Part is a part of the work: it adds the steps that a job needs of it.
type Part func(*Planner)

// Each makes parts of the work on one point into a part of the whole job: on
// every point in turn it does all of them.
func Each(parts ...func(*Planner, *job.Point)) Part {
	return func(b *Planner) {
		for i := range b.Points {
			for _, part := range parts {
				part(b, &b.Points[i])
			}
		}
	}
}

// What several steps say.
const (
	liveAtSupply = "Dead must stay proved. Supply side stays live."
	labelTorque  = "every terminal to its label's torque"
)

// BeginDead begins the work: floors, the customer's word, everything off and
// locked, dead proved, the supply side behind a barrier.
func BeginDead(b *Planner) {
	j, from := b.Job, b.Clauses
	protect := Step{ID: Protect, Title: "Protect floors and set out",
		Detail: "Mark the back plate, the drilling line and the route. Level, or by the brick course: note which."}
	switch {
	case j.Removes():
		protect.Title, protect.Detail = "Protect floors", ""
	case j.Lays():
		protect.Detail = "Mark where the board at the end goes, the drilling line and the route."
	}
	b.Add(protect)
	b.Add(Step{ID: Announce, Title: "Power-off agreed with the customer",
		Detail: "Freezer, medical equipment, alarms, home working.", Ask: "who agreed", Records: []Record{Name}})
	b.Add(Step{ID: BranchesOff, Title: "Branch circuits off, one by one", After: []string{Announce}, Optional: true,
		Detail: "So that nothing starts under load when the supply returns. Main switch alone is the other honest way: leave this out then." + b.listed(false)})
	off := []string{Announce}
	if j.Survey.Supply.OtherSource != job.No {
		known, caution := "Solar, battery or generator: at its own isolator, by the maker's order.",
			"Solar modules are live in daylight, a battery keeps its charge: its own side stays live."
		if j.Survey.Supply.Second.Kind == job.OtherService {
			known, caution = "Another service: at its own main switch.",
				"What the other service feeds is live with this one off: look for its conductors in the same enclosure before a hand goes in."
		}
		b.Add(Step{ID: SourcesOff, Title: "Second source off, locked, tagged", After: []string{Announce}, Detail: b.sources(known),
			Ask: "lock number and key holder", Records: []Record{Name}, Caution: caution, Clause: from.Second})
		off = append(off, SourcesOff)
	}
	where := ""
	if at := j.Survey.Supply.MainsSwitchAt; at != "" {
		where = "Main switch " + at + ". Where it is out of sight of the work, the key stays in the pocket of who works."
	}
	b.Add(Step{ID: MainOff, Title: "Main off, locked, tagged", Detail: where, Ask: "lock number and key holder", Records: []Record{Name}, After: off,
		Caution: "A switched-off main leaves its supply side live. Solar or a battery is a second source.", Clause: from.Isolate})
	before := []string{MainOff}
	if tails := b.openTails(); tails != "" {
		before = append(before, tails)
	}
	b.Add(
		Step{ID: CoverOff, Title: "Cover off, treated as live", Detail: "First look with a no-contact tester. It never proves dead.", After: before,
			Caution: "No hand or tool inside before dead is proved.", Clause: from.Isolate},
	)
	b.Add(
		Step{ID: ProveDead, Title: "Prove dead", Detail: "Known source, every pair, known source again.", Records: []Record{Reading}, After: []string{CoverOff},
			Caution: "Never rely on a label or a no-contact tester.", Clause: from.Dead},
	)
	b.Add(Step{ID: Barrier, Title: "Barrier on the supply side", Detail: "Supply-side terminals stay live with the main off.",
		Ask: "barrier fitted, or supply isolated by whom", After: []string{ProveDead}, Inside: true,
		Caution: "Line-side terminals are live with the main off.", Clause: from.Dead})
}

// sources is what is said of a second source: one that is not known of is looked for.
func (b *Planner) sources(known string) string {
	if at := b.Job.Survey.Supply.Second.Isolator; at != "" {
		known += " It is switched off at: " + at + "."
	}
	if b.Job.Survey.Supply.OtherSource == job.Unasked {
		return "The survey does not say whether there is one: look for it, and write “none” where there is none. " + known
	}
	return known
}

// listed names the circuits of the board, in the order they are switched off, or
// back to front, in which they come on again.
func (b *Planner) listed(back bool) string {
	if b.plain {
		return ""
	}
	var names []string
	for _, s := range b.Job.Survey.Board.Slots {
		if s.Circuit != "" && s.Fixed != job.Yes {
			names = append(names, s.Circuit)
		}
	}
	if len(names) == 0 {
		return ""
	}
	if back {
		slices.Reverse(names)
	}
	return " In order: " + strings.Join(names, ", ") + "."
}

// fixings are what a unit's back plate asks for by what it is fixed to. Common
// practice, no source.
var fixings = map[job.Fixing]string{
	"brick":    "Into sound brick, not the joint: plugs and screws of the maker's size.",
	"stud":     "Into a stud, or a board across two: find them, and check for cables first.",
	"concrete": "Into concrete: hammer drill, dust taken off, anchors of the maker's size.",
	"timber":   "Into sound timber: screws that do not rust, pilot holes.",
	"post":     "On the post: plumb, its foundation set hard before the unit hangs.",
	"doubtful": "What it is fixed to is doubtful: a board behind it, or another place.",
}

// BackPlates fixes the unit's back plate, by what stands at its position.
func BackPlates(b *Planner, p *job.Point) {
	if !p.Circuit.Fates().Charger.Comes() {
		return
	}
	detail := ""
	for _, q := range b.Job.Survey.SitePlan.Positions {
		if q.ID == p.Place.Position {
			detail = fixings[q.Fixing]
		}
	}
	b.Add(
		Step{
			ID:      BackPlate,
			Point:   p.ID,
			Title:   "Back plate fixed",
			Detail:  detail,
			After:   []string{Protect},
			Changes: []string{"place.name", "holder.height"},
		},
	)
}

// walls counts what the route goes through, and the deepest of it, m.
func walls(route []job.Segment) (n int, deepest float64) {
	for _, s := range route {
		if s.Wall > 0 || s.Method == job.ThroughWall {
			n, deepest = n+1, max(deepest, float64(s.Wall))
		}
	}
	return n, deepest
}

// Drilling drills the walls and floors of the route. A surveyed route indoors
// that goes through none asks for nothing.
func Drilling(b *Planner, p *job.Point) {
	n, deepest := walls(p.LaidRoute())
	if p.Circuit.Kept() && !p.Circuit.Extended() || n == 0 && p.Place.Surveyed() && p.Place.Outdoors == job.No {
		return
	}
	detail := "From the side whose face must not break. Measured to the same datum on both sides, the wall's thickness added."
	if n > 0 && !b.plain {
		detail = fmt.Sprintf("%s Walls and floors on the route: %d", detail, n)
		if deepest > 0 {
			detail += fmt.Sprintf(", up to %.2g m thick", deepest)
		}
		detail += "."
	}
	b.Add(Step{ID: Drill, Point: p.ID, Title: "Drilled, sloping down to outside", Detail: detail, After: []string{Protect},
		Caution: "Check for cables, gas and water before drilling. Stop on metal.", Clause: "common practice"})
}

// Way is what the stretches of one method ask for besides the cable.
type Way struct {
	Title, Detail, Ask, Caution, Clause string
	Photo                               bool // before it is covered
}

// UsualWays are the ways that every country has, with the clauses of their
// cautions: work on ladders, and services in the ground.
func UsualWays(ladder, dig string) map[job.Method]Way {
	const (
		bends  = "Ends without burrs, bends within the limit between pull points, supports by spacing, bushings fitted."
		joists = "Ladder and joists: footed, three points of contact, nobody alone in a loft."
		above  = "Way above the ceiling made ready"
	)
	return map[job.Method]Way{
		job.Buried: {Title: "Trench dug, cable laid, taped", Detail: "Bed and cover without stones, tape or tiles above, photo before it is filled.",
			Ask: "depth to the top of the cable", Caution: "Locate services first. Keep children and the public from an open trench.", Clause: dig, Photo: true},
		job.Conduit:       {Title: "Conduit fixed", Detail: bends},
		job.ConduitInWall: {Title: "Conduit set in the wall", Detail: "Ends without burrs, bushings fitted, photo before it is closed.", Photo: true},
		job.Trunking:      {Title: "Trunking fixed", Detail: "Lid off until the cable lies, edges rounded off, fill as designed."},
		job.CeilingThin: {
			Title:   above,
			Detail:  "Insulation as thick as surveyed: where it is thicker, it is another method.",
			Caution: joists,
			Clause:  ladder,
		},
		job.CeilingThick: {Title: above, Detail: "Insulation as thick as surveyed; cable on top of it where it can be.", Caution: joists, Clause: ladder},
		job.FreeAir:      {Title: "Tray or ladder fixed", Detail: "Edges rounded off where the cable leaves it."},
		job.Catenary: {Title: "Catenary wire strung", Detail: "Height over drives and paths as agreed, wire earthed where it must be.",
			Caution: "Ladder: footed, three points of contact, nobody alone.", Clause: ladder},
	}
}

// MakeWays adds a step for every method of the route that asks for more than the
// cable, with its stretches.
func MakeWays(b *Planner, p *job.Point) {
	var seen []job.Method
	for _, s := range p.LaidRoute() {
		m, ok := b.Ways[s.Method]
		if !ok || slices.Contains(seen, s.Method) {
			continue
		}
		seen = append(seen, s.Method)
		st := Step{ID: OnWay + string(s.Method), Point: p.ID, Title: m.Title, Detail: b.stretches(p, s.Method) + m.Detail, Ask: m.Ask,
			Caution: m.Caution, Clause: m.Clause, After: []string{Protect}}
		if !p.Circuit.Extended() {
			st.Changes = []string{"route.length"}
		}
		st.Unit = b.Measure(st.ID).Unit
		if m.Photo {
			st.Records = []Record{Photo}
		}
		b.Add(st)
	}
}

// stretches says where a method is used: "14 m, 25 mm, 2 stretches. ".
func (b *Planner) stretches(p *job.Point, m job.Method) string {
	if b.plain {
		return ""
	}
	n, size, notes := 0, "", []string{}
	var length quantity.Metre
	for _, s := range p.LaidRoute() {
		if s.Method != m {
			continue
		}
		n++
		length += s.Run()
		size = s.Size
		if s.Note != "" {
			notes = append(notes, s.Note)
		}
	}
	out := b.Length.Say(float64(length))
	if size != "" {
		out += ", " + size
	}
	if n > 1 {
		out += fmt.Sprintf(", %d stretches", n)
	}
	if len(notes) > 0 {
		out += ": " + strings.Join(notes, "; ")
	}
	return out + ". "
}

// Electrodes drives the earth electrode of a point that has its own.
func Electrodes(b *Planner, p *job.Point) {
	if way := p.Circuit.Earthing.OpenPEN; way != "electrode" && way != "tt" {
		return
	}
	b.Add(Step{ID: Electrode, Point: p.ID, Title: "Earth electrode driven and connected",
		Detail: "Clamp with its label, conductor guarded. Apart from metalwork on the supply's earth, as designed.",
		Ask:    "resistance", Unit: b.Measure(Electrode).Unit, Records: []Record{Reading}, After: []string{Protect},
		Caution: "Locate services before a rod is driven.", Clause: b.Clauses.Dig})
}

// Cables runs the cable or the conductors of a new circuit, or those that carry an old one on.
func Cables(b *Planner, p *job.Point) {
	if p.Circuit.Kept() && !p.Circuit.Extended() {
		return
	}
	after := []string{Drill}
	for _, s := range p.LaidRoute() {
		if _, ok := b.Ways[s.Method]; ok {
			if way := OnWay + string(s.Method); !slices.Contains(after, way) {
				after = append(after, way)
			}
		}
	}
	detail := "Leave length before cutting. Grommet or bushing in metal, tape over buried cable."
	if c := p.Circuit.Cable; c.Size != "" && !b.plain {
		length := func(l *job.Point) string {
			return l.Circuit.Cable.Size + ", " + b.Length.Say(float64(l.Place.Length()))
		}
		var said []string
		for _, l := range p.Laid() {
			if l.Place.First > 0 {
				said = append(said, "beyond the joint box "+length(&l))
			} else {
				said = append(said, length(&l))
			}
		}
		if len(said) > 0 {
			detail = strings.Join(said, "; ") + " by the route with its drops. " + detail
		}
	}
	run := Step{
		ID:      RunCable,
		Point:   p.ID,
		Title:   "Cable run and secured",
		Detail:  detail,
		Ask:     "length run",
		Unit:    b.Measure(RunCable).Unit,
		Records: []Record{Length},
		After:   after,
		Changes: []string{"route.length", "cable.size", "cable.family"},
		Caution: "A full reel is heavy: two people, or wheels.",
		Clause:  "common practice",
	}
	if p.Circuit.Extended() {
		run.Changes = nil // what is varied as built is of the cable at the board, which stays
	}
	b.Add(run)
	if p.Joined() {
		st := Step{ID: JointBox, Point: p.ID, Title: "Cables joined in their box", Ask: "where the box is",
			Detail: fmt.Sprintf("Box fixed where segment %d of the route begins, as designed. ", p.Circuit.Beyond.From) +
				"Protective conductor first; connectors as their maker says, each wire tugged; entries closed, lid on.",
			After: []string{RunCable}, Clause: b.Clauses.Joint}
		if p.Circuit.Extended() { // one of the cables is connected at the board
			st.Title, st.Inside, st.After = "Old cable cut back and joined to the new one in its box", true, []string{RunCable, ProveDead}
		}
		b.Add(st)
	}
}

// Isolators fits a local isolator or disconnect where the design has one.
func Isolators(b *Planner, p *job.Point) {
	fate := p.Circuit.Fates().Isolator
	if p.Circuit.Kind() == job.Removal || p.Circuit.Isolator != job.Yes && p.Circuit.Disconnect != job.Yes || !fate.Comes() {
		return
	}
	title := b.Words.IsolatorTitle
	if fate == job.FateReplaced {
		title = b.Words.IsolatorReplaced
	}
	b.Add(Step{ID: Isolator, Point: p.ID, Title: title, Detail: b.Words.IsolatorDetail, Inside: true, After: []string{RunCable, ProveDead}})
}

// WorkOnBoard fits the breaker and connects the circuit, or inspects the one that
// was there.
func WorkOnBoard(b *Planner, p *job.Point) {
	c, laid := &p.Circuit, RunCable
	fates := c.Fates()
	if fates.Charger == job.FateTakenOut || c.Touched() == job.TouchedSetting {
		return // MadeSafe has it, once the charger is off; or nothing is opened
	}
	if p.Joined() {
		laid = JointBox
	}
	at := b.Job.Design.Beside.Name(b.Words.Board, b.Words.Short)
	st := Step{ID: BoardWork, Point: p.ID, Title: "Breaker fitted, circuit connected at the " + at,
		Detail:  "Allowed position, cable secured at its clamp, stripped to the gauge, " + labelTorque + ", " + b.Words.Earth + " first.",
		Records: []Record{Torque}, Inside: true, After: []string{ProveDead, Barrier, BesideFed, BoardMoves, laid},
		Changes: []string{"breaker.rating", "breaker.curve"}, Caution: liveAtSupply, Clause: b.Clauses.Isolate}
	if c.Kept() {
		st.Title, st.After = "Existing circuit inspected at the "+b.Words.Board, []string{ProveDead, Barrier}
		st.Detail = "Breaker, conductor and terminals as the design has them, no heat marks, " + labelTorque + "."
		if fates.Breaker == job.FateReplaced || fates.RCD.Comes() {
			st.Title = deviceOf(fates) + " replaced in its own ways at the " + b.Words.Board
			st.Detail = "Of a type that the board's label allows. Conductors no smaller than the design has them, no heat marks, " + labelTorque + "."
		}
	}
	if !b.plain {
		st.Detail = b.spaces(p.ID) + st.Detail
	}
	if fates.Breaker.Comes() && c.Breaker.Rating > 0 && !b.plain {
		poles := ""
		if c.Breaker.Poles > 0 {
			poles = fmt.Sprintf(", %d-pole", c.Breaker.Poles)
		}
		st.Detail = fmt.Sprintf("%s%g A%s. %s", c.Breaker.Curve, float64(c.Breaker.Rating), poles, st.Detail)
	}
	b.Add(st)
}

// deviceOf names what is replaced at the board.
func deviceOf(f job.Fates) string {
	if f.Breaker == job.FateReplaced {
		return "Breaker"
	}
	return "Residual device"
}

// FitSensors fits the sensors of load management on the mains.
func FitSensors(b *Planner, p *job.Point) {
	if p.Circuit.ManagedTo == 0 || p.Circuit.Kind() == job.Removal || p.Circuit.Touched() != job.TouchedAll {
		return
	}
	b.Add(Step{ID: Sensors, Point: p.ID, Title: "Load-management sensors on the mains",
		Detail: fmt.Sprintf("One to each line, arrow by the maker's drawing, its cable apart from the mains. Limit %g A.", float64(p.Circuit.ManagedTo)),
		Ask:    "which conductors, which way the arrow points", Inside: true, After: b.atBoard(),
		Caution: "The sensors go round supply conductors, which stay live where the main is beyond them.", Clause: b.Clauses.Isolate})
}

// Outlets fits the receptacle of a unit that is plugged in, or inspects the one
// that was there.
func Outlets(b *Planner, p *job.Point) {
	fate := p.Circuit.Fates().Receptacle
	if p.Circuit.Connection != job.PluggedIn || p.Circuit.Kind() == job.Removal {
		if p.Circuit.Kept() && fate == job.FateTakenOut {
			b.Add(Step{ID: Outlet, Point: p.ID, Title: "Old outlet taken out, its box closed", Inside: true, After: []string{ProveDead},
				Detail: "Conductors carried on in connectors that fit their size, or drawn out; a blank plate over the box.", Clause: b.Clauses.Joint})
		}
		return
	}
	st := Step{ID: Outlet, Point: p.ID, Title: "Receptacle fitted in its box",
		Detail:  "Industrial grade, box as designed, strain relief, " + labelTorque + ".",
		Records: []Record{Torque}, Inside: true, After: []string{RunCable, ProveDead}}
	switch {
	case fate == job.FateReplaced:
		st.Title, st.After = "Receptacle replaced in its box", []string{ProveDead}
	case p.Circuit.Kept() && fate == job.FateKept:
		st.Title, st.Detail = "Existing outlet inspected", "Contacts hold, no heat marks, box and conductors as the design has them, "+labelTorque+"."
	}
	b.Add(st)
}

// Ends fixes the board that a sub-main ends in, and connects the sub-main there.
func Ends(b *Planner, p *job.Point) {
	if !p.Circuit.EndsInBoard() {
		return
	}
	fixed, after := "Level, its entries made and closed, no water into them.", RunCable
	if at := p.Place.Name; at != "" && !b.plain {
		fixed = "At " + at + ". " + fixed
	}
	if p.Joined() {
		after = JointBox
	}
	if p.Circuit.EndWasThere() {
		b.Add(Step{ID: OldFeed, Point: p.ID, Title: "Old feed of the board at the end taken off", Ask: "what became of the old cable, and where it was fed from",
			Detail:  "At both ends, each once it is proved dead there. The cable out, or each conductor in a connector of its own, in a closed box, marked.",
			Records: []Record{Name}, Inside: true, After: []string{ProveDead, Barrier}, Clause: b.Clauses.Dead,
			Caution: "It may come from another board or another supply than the one that was proved dead: look where it goes before a hand goes in."})
	}
	switch p.Circuit.End.Becomes() {
	case job.FateNew:
		b.Add(Step{ID: EndFixed, Point: p.ID, Title: "Board at the end fixed", Detail: fixed, After: []string{Protect}, Changes: []string{"place.name"}})
	case job.FateReplaced:
		b.Add(Step{ID: EndFixed, Point: p.ID, Title: "Old board at the end out, new one fixed, its circuits moved over",
			Ask:     "its old circuits, each with its device",
			Detail:  "Each circuit marked before it is loose, a device of its own that its conductors allow, neutral with its line. " + fixed,
			Records: []Record{Name}, Inside: true, After: []string{Protect, OldFeed}, Changes: []string{"place.name"}, Clause: b.Clauses.Isolate})
	}
	b.Add(Step{ID: EndFed, Point: p.ID, Title: "Sub-main connected at the board at its end",
		Detail:  b.Words.EndDetail + " " + labelTorque + ".",
		Records: []Record{Torque}, Inside: true, After: []string{EndFixed, OldFeed, after, ProveDead}, Clause: b.Clauses.Isolate,
		Caution: "Its main switch stays off, and every way that is free is blanked, until the live tests are done."})
}

// TakenDown takes down what hung on a circuit that was there.
func TakenDown(b *Planner, p *job.Point) {
	switch fate := p.Circuit.Fates().Charger; {
	case fate == job.FateTakenOut:
		b.Add(Step{ID: TakeDown, Point: p.ID, Title: "Charger disconnected and taken down", Ask: "its condition", Choice: Conditions, Inside: true,
			Detail: "Cord and conductors looked at for heat and damage. Bracket, screws, key and driver bit stay with the unit.",
			After:  []string{Release, ProveDead}, Clause: b.Clauses.Dead})
		return
	case !p.Circuit.Kept() || fate != job.FateReplaced:
		return
	}
	b.Add(Step{ID: TakeDown, Point: p.ID, Title: "Old charger disconnected and taken down",
		Detail: "Its meter read before the power went off, settings noted, cord and conductors looked at for heat and damage. “None” where nothing hung there.",
		Ask:    "serial number, last meter reading, condition", Records: []Record{Name}, Inside: true, After: []string{ProveDead}, Clause: b.Clauses.Dead})
}

// Chargers connects the charger, or hangs one that is plugged in later.
func Chargers(b *Planner, p *job.Point) {
	if !p.Circuit.Fates().Charger.Comes() {
		return
	}
	if p.Circuit.Connection == job.PluggedIn {
		b.Add(Step{ID: ChargerEnd, Point: p.ID, Title: "Charger hung, not yet plugged in",
			Detail: "Cord free of the path and of strain. It is plugged in after the dead tests.", After: []string{BackPlate, Outlet}})
		return
	}
	after := []string{BackPlate, RunCable, ProveDead}
	if p.Circuit.Kept() {
		after = []string{BackPlate, TakeDown, ProveDead}
	}
	if p.Circuit.Extended() {
		after = append(after, RunCable, JointBox)
	}
	b.Add(Step{ID: ChargerEnd, Point: p.ID, Title: "Charger connected",
		Detail:  "Service loop, gland, no debris, gasket seated. Torque to the label. The special driver bit kept, its place noted.",
		Records: []Record{Torque}, Inside: true, After: after})
}

// Joining joins chargers that share a limit.
func Joining(b *Planner) {
	if _, shares := b.Job.SharedLimit(); shares {
		b.Add(Step{ID: Link, Title: "Chargers joined to share the limit",
			Detail: "Data cable or radio between the points, the leading one set, the shared limit entered.", Ask: "which one leads", After: []string{ChargerEnd}})
	}
}

// MakeSettings sets and locks the charger.
func MakeSettings(b *Planner, p *job.Point) {
	if !p.Circuit.Unit() {
		return
	}
	b.Add(Step{ID: Settings, Point: p.ID, Title: "Charger set and locked", Detail: "Amps by the maker's instructions, then locked against change.",
		Records: []Record{Setting}, Choice: Locks, After: []string{ChargerEnd, Reset}})
}

// TestDead asks for the dead tests.
func TestDead(b *Planner, p *job.Point) {
	if p.Circuit.Kind() == job.Removal && !p.Circuit.StaysConnected() || p.Circuit.Touched() == job.TouchedSetting {
		return
	}
	b.Add(Step{ID: DeadTests, Point: p.ID, Title: "Dead tests entered", Detail: "On the Commission page, before anything is switched on.",
		Records: []Record{Reading}, After: []string{BoardWork, AheadWork, BesideFed, BondsRun, Earthing, ChargerEnd, PointEnd, EndFed}})
}

// JoinEarth joins the earthing conductor again that was taken off for the loop at the
// origin.
func JoinEarth(b *Planner) {
	parted := slices.ContainsFunc(b.Points, func(p job.Point) bool {
		_, read := b.Job.Latest(job.ReadingMade, p.ID, commission.Ze)
		return read || p.Circuit.Touched() == job.TouchedAll
	})
	if b.Job.Removes() || !parted {
		return
	}
	b.Add(
		Step{
			ID:      Rejoin,
			Title:   "Earthing conductor joined again",
			Detail:  "It was taken off to read the loop at the origin. Tight, marked, and looked at before the supply is restored.",
			Ask:     "who looked that it is tight",
			Records: []Record{Name},
			Inside:  true,
			After:   []string{ProveDead, DeadTests},
			Caution: "Without it the whole installation has no earth.",
			Clause:  b.Clauses.Rejoin,
		},
	)
}

// EndLive ends the work: lids, labels, everyone's answer, and on again.
func EndLive(b *Planner) {
	b.Add(Step{ID: Lids, Title: "Lids, seals and making good", Detail: "Nothing left inside, seals seated, photo of the board before its cover.",
		After: []string{BoardWork, AheadWork, BesideFed, ChargerEnd, PointEnd, EndFed, Isolator, SurgeDevice, Sensors}})
	b.Add(Step{ID: Labels, Title: "Labels and circuit chart", Ask: "what was written in the chart", After: []string{BoardWork}})
	if b.shut() {
		b.Add(Step{ID: Energise, Title: "Everyone answers, then the charger is in use again", Ask: "who answered", Records: []Record{Name},
			After: []string{ChargerEnd, Settings}, Detail: "After the charger's tests under Commission."})
		return
	}
	b.Add(Step{ID: Energise, Title: "Everyone answers, then switch on",
		Detail: "Nobody switches on until everyone on the job has answered. " + b.first() + ", then the circuits in reverse order.",
		Ask:    "who answered", Records: []Record{Name}, After: []string{DeadTests, Rejoin, Lids},
		Caution: "Energising is a spoken agreement between people.", Clause: "common practice"})
	if _, off := b.Job.Latest(job.StepDone, "", BranchesOff); off || b.Job.Survey.Supply.OtherSource != job.No {
		b.Add(Step{ID: Restore, Title: "Circuits on again, in reverse order", After: []string{Energise}, Optional: true,
			Detail: "One by one, then the second source if there is one." + b.listed(true)})
	}
	b.schedule()
}
