package worklog

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"dogbolt/core/job"
)

// words are what a school calls things, and where its cautions come from.
type words struct{ earth, board, isolate, dead, second string }

var wording = map[bool]words{
	false: {"earth", "consumer unit", "BS 7671 462.2; HSE GS38", "common practice; HSE GS38", "BS 7671 712.537.2, 551.7; from memory"},
	true:  {"equipment ground", "panel", "OSHA 1910.333(b)(2); NFPA 70E 120", "OSHA 1910.333(b)(2)(iv)", "NEC 690.13, 706.15; from memory"},
}

// Plan returns the steps of a job in the order of work, as its survey and design
// have them: isolation first, then what each point's wall, route, arrangement
// and sensors ask for.
func Plan(j *job.Job, s School) []Step { return plan(j, s, false) }

// Outline is the plan without the details that are written from the design, for
// those who only count the steps.
func Outline(j *job.Job, s School) []Step { return plan(j, s, true) }

func plan(j *job.Job, s School, plain bool) []Step {
	b := planner{w: wording[s == US], us: s == US, plain: plain, steps: make([]Step, 0, 24+12*len(j.Survey.Places))}
	points := j.Points()
	b.begin(j)
	each := func(f func(*job.Point)) {
		for i := range points {
			f(&points[i])
		}
	}
	each(func(p *job.Point) { b.backplate(p, fixing(&j.Survey.SitePlan, p.Place.Position)) })
	each(b.drill)
	each(b.ways)
	each(b.electrode)
	each(b.cable)
	each(b.isolator)
	b.surge(points)
	each(b.boardWork)
	each(b.sensors)
	each(b.outlet)
	each(b.chargerEnd)
	if _, shares := j.SharedLimit(); shares {
		b.add(Step{ID: Link, Title: "Chargers joined to share the limit", Detail: "Data cable or radio between the points, the leading one set, the shared limit entered.", Ask: "which one leads", After: []string{ChargerEnd}})
	}
	each(func(p *job.Point) {
		b.add(Step{ID: Settings, Point: p.ID, Title: "Charger set and locked", Detail: "Amps by the maker's instructions, then locked against change.", Records: []Record{Setting}, After: []string{ChargerEnd}})
	})
	each(func(p *job.Point) {
		b.add(Step{ID: DeadTests, Point: p.ID, Title: "Dead tests entered", Detail: "On the Commission page, before anything is switched on.", Records: []Record{Reading}, After: []string{BoardWork, ChargerEnd}})
	})
	b.end(j, points)
	return b.steps
}

type planner struct {
	w     words
	us    bool
	plain bool // without details
	steps []Step
}

func (b *planner) add(s Step) { b.steps = append(b.steps, s) }

func (b *planner) begin(j *job.Job) {
	w := b.w
	b.add(Step{ID: "protect", Title: "Protect floors and set out", Detail: "Mark the back plate, the drilling line and the route. Level, or by the brick course: note which."})
	b.add(Step{ID: "announce", Title: "Power-off agreed with the customer", Detail: "Freezer, medical equipment, alarms, home working.", Ask: "who agreed", Records: []Record{Name}})
	b.add(Step{ID: BranchesOff, Title: "Branch circuits off, one by one", Detail: "So that nothing starts under load when the supply returns. Main switch alone is the other honest way: leave this out then." + b.listed(&j.Survey.Board, false), After: []string{"announce"}, Optional: true})
	off := []string{"announce"}
	if j.Survey.Supply.OtherSource == job.Yes {
		b.add(Step{ID: SourcesOff, Title: "Second source off, locked, tagged", Detail: "Solar, battery or generator: at its own isolator, by the maker's order.", Ask: "lock number and key holder", Records: []Record{Name}, After: []string{"announce"},
			Caution: "Solar modules are live in daylight, a battery keeps its charge: its own side stays live.", Clause: w.second})
		off = append(off, SourcesOff)
	}
	where := ""
	if at := j.Survey.Supply.MainsSwitchAt; at != "" {
		where = "Main switch " + at + ". Where it is out of sight of the work, the key stays in the pocket of who works."
	}
	b.add(Step{ID: MainOff, Title: "Main off, locked, tagged", Detail: where, Ask: "lock number and key holder", Records: []Record{Name}, After: off, Caution: "A switched-off main leaves its supply side live. Solar or a battery is a second source.", Clause: w.isolate})
	b.add(Step{ID: CoverOff, Title: "Cover off, treated as live", Detail: "First look with a no-contact tester. It never proves dead.", After: []string{MainOff}, Caution: "No hand or tool inside before dead is proved.", Clause: w.isolate})
	b.add(Step{ID: ProveDead, Title: "Prove dead", Detail: "Known source, every pair, known source again.", Records: []Record{Reading}, After: []string{CoverOff}, Caution: "Never rely on a label or a no-contact tester.", Clause: w.dead})
	b.add(Step{ID: Barrier, Title: "Barrier on the supply side", Detail: "Supply-side terminals stay live with the main off.", Ask: "barrier fitted, or supply isolated by whom", After: []string{ProveDead}, Inside: true, Caution: "Line-side terminals are live with the main off.", Clause: w.dead})
}

// listed names the circuits of a board, in the order they are switched off, or
// back to front, in which they come on again.
func (b *planner) listed(board *job.Board, back bool) string {
	if b.plain {
		return ""
	}
	var names []string
	for _, s := range board.Slots {
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
var fixings = map[string]string{
	"brick":    "Into sound brick, not the joint: plugs and screws of the maker's size.",
	"stud":     "Into a stud, or a board across two: find them, and check for cables first.",
	"concrete": "Into concrete: hammer drill, dust taken off, anchors of the maker's size.",
	"timber":   "Into sound timber: screws that do not rust, pilot holes.",
	"post":     "On the post: plumb, its foundation set hard before the unit hangs.",
	"doubtful": "What it is fixed to is doubtful: a board behind it, or another place.",
}

// fixing is what stands at a position of the site plan for a unit to be fixed to.
func fixing(plan *job.SitePlan, position string) string {
	for i := range plan.Positions {
		if plan.Positions[i].ID == position {
			return fixings[plan.Positions[i].Fixing]
		}
	}
	return ""
}

func (b *planner) backplate(p *job.Point, detail string) {
	b.add(Step{ID: BackPlate, Point: p.ID, Title: "Back plate fixed", Detail: detail, After: []string{"protect"}, Changes: []string{"place.name", "holder.height"}})
}

// walls counts what the route goes through, and the deepest of it, m.
func walls(p *job.Place) (n int, deepest float64) {
	for _, s := range p.Route {
		if s.Wall > 0 || s.Method == job.ThroughWall {
			n, deepest = n+1, max(deepest, float64(s.Wall))
		}
	}
	return n, deepest
}

func (b *planner) drill(p *job.Point) {
	n, deepest := walls(&p.Place)
	if n == 0 && p.Place.Surveyed() && p.Place.Outdoors == job.No {
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
	b.add(Step{ID: Drill, Point: p.ID, Title: "Drilled, sloping down to outside", Detail: detail, After: []string{"protect"}, Caution: "Check for cables, gas and water before drilling. Stop on metal.", Clause: "common practice"})
}

// methods are what the stretches of a method ask for, each in the order of the
// work. An empty title is one with the cable itself.
var methods = map[job.Method]struct {
	title, detail, ask, caution, clause string
	photo                               bool
}{
	job.Buried:        {"Trench dug, cable laid, taped", "Bed and cover without stones, tape or tiles above, photo before it is filled.", "depth to the top of the cable, with unit", "Locate services first. Keep children and the public from an open trench.", "HSE HSG47; local call-before-digging rules", true},
	job.Conduit:       {"Conduit fixed", "Ends without burrs, bends within the limit between pull points, supports by spacing, bushings fitted.", "", "", "", false},
	job.ConduitInWall: {"Conduit set in the wall", "Ends without burrs, bushings fitted, photo before it is closed.", "", "", "", true},
	job.Trunking:      {"Trunking fixed", "Lid off until the cable lies, edges rounded off, fill as designed.", "", "", "", false},
	job.CeilingThin:   {"Way above the ceiling made ready", "Insulation as thick as surveyed: where it is thicker, it is another method.", "", "Ladder and joists: footed, three points of contact, nobody alone in a loft.", "HSE INDG455; OSHA 1926.1053; from memory", false},
	job.CeilingThick:  {"Way above the ceiling made ready", "Insulation as thick as surveyed; cable on top of it where it can be.", "", "Ladder and joists: footed, three points of contact, nobody alone in a loft.", "HSE INDG455; OSHA 1926.1053; from memory", false},
	job.FreeAir:       {"Tray or ladder fixed", "Edges rounded off where the cable leaves it.", "", "", "", false},
	job.Catenary:      {"Catenary wire strung", "Height over drives and paths as agreed, wire earthed where it must be.", "", "Ladder: footed, three points of contact, nobody alone.", "HSE INDG455; OSHA 1926.1053; from memory", false},
}

// ways adds a step for every method of the route that asks for more than the
// cable, with its stretches.
func (b *planner) ways(p *job.Point) {
	if p.Circuit.Existing == job.Yes {
		return
	}
	var seen []job.Method
	for _, s := range p.Place.Route {
		m, ok := methods[s.Method]
		if !ok || slices.Contains(seen, s.Method) {
			continue
		}
		seen = append(seen, s.Method)
		st := Step{ID: Way + string(s.Method), Point: p.ID, Title: m.title, Detail: b.stretches(p, s.Method) + m.detail, Ask: m.ask, Caution: m.caution, Clause: m.clause, After: []string{"protect"}, Changes: []string{"route.length"}}
		if m.photo {
			st.Records = []Record{Photo}
		}
		b.add(st)
	}
}

// stretches says where a method is used: "14 m, 25 mm, 2 stretches. ".
func (b *planner) stretches(p *job.Point, m job.Method) string {
	if b.plain {
		return ""
	}
	n, length, size, notes := 0, 0.0, "", []string{}
	for _, s := range p.Place.Route {
		if s.Method != m {
			continue
		}
		n++
		length += float64(s.Run())
		size = s.Size
		if s.Note != "" {
			notes = append(notes, s.Note)
		}
	}
	out := b.length(length)
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

// length prints a length as the school measures.
func (b *planner) length(m float64) string {
	if b.us {
		return fmt.Sprintf("%.0f ft", m/0.3048)
	}
	return fmt.Sprintf("%.1f m", m)
}

func (b *planner) electrode(p *job.Point) {
	if w := p.Circuit.Earthing.OpenPEN; w != "electrode" && w != "tt" {
		return
	}
	b.add(Step{ID: Electrode, Point: p.ID, Title: "Earth electrode driven and connected", Detail: "Clamp with its label, conductor guarded. Apart from metalwork on the supply's earth, as designed.", Ask: "resistance, Ω", Records: []Record{Reading}, After: []string{"protect"}, Caution: "Locate services before a rod is driven.", Clause: "HSE HSG47"})
}

func (b *planner) cable(p *job.Point) {
	if p.Circuit.Existing == job.Yes {
		return
	}
	after := []string{Drill}
	for _, s := range p.Place.Route {
		if _, ok := methods[s.Method]; ok {
			if way := Way + string(s.Method); !slices.Contains(after, way) {
				after = append(after, way)
			}
		}
	}
	detail := "Leave length before cutting. Grommet or bushing in metal, tape over buried cable."
	if c := p.Circuit.Cable; c.Size != "" && !b.plain {
		detail = fmt.Sprintf("%s, %s by the route with its drops. %s", c.Size, b.length(float64(p.Place.Length())), detail)
	}
	b.add(Step{ID: RunCable, Point: p.ID, Title: "Cable run and secured", Detail: detail, Ask: "length run, with unit", Records: []Record{Length}, After: after, Changes: []string{"route.length", "cable.size", "cable.family"},
		Caution: "A full reel is heavy: two people, or wheels.", Clause: "common practice"})
	if b.us {
		b.add(Step{ID: Remark, Point: p.ID, Title: "White re-marked where it is a hot", Detail: "At every visible end, in cable assemblies only. Answer “none” where no white is a hot.", Ask: "where, or none", After: []string{RunCable}, Clause: "NEC 200.7(C)"})
	}
}

func (b *planner) isolator(p *job.Point) {
	if p.Circuit.Isolator != job.Yes && p.Circuit.Disconnect != job.Yes {
		return
	}
	title, detail := "Isolator fitted at the point", "All live poles, lockable, marked for what it isolates."
	if b.us {
		title, detail = "Disconnect fitted", "Readily accessible, lockable open in place, a plaque where it is remote."
	}
	b.add(Step{ID: Isolator, Point: p.ID, Title: title, Detail: detail, Inside: true, After: []string{RunCable, ProveDead}})
}

func (b *planner) surge(points []job.Point) {
	if !slices.ContainsFunc(points, func(p job.Point) bool { return p.Circuit.SPD == "fitted" }) {
		return
	}
	b.add(Step{ID: SurgeDevice, Title: "Surge protection fitted at the " + b.w.board, Detail: "Leads short, its own backup as the maker says, window green.", Inside: true, After: []string{ProveDead, Barrier}, Caution: "Dead must stay proved. Supply side stays live.", Clause: b.w.isolate})
}

func (b *planner) boardWork(p *job.Point) {
	w, c := b.w, &p.Circuit
	st := Step{ID: BoardWork, Point: p.ID, Title: "Breaker fitted, circuit connected at the " + w.board, Detail: "Allowed position, cable secured at its clamp, stripped to the gauge, every terminal to its label's torque, " + w.earth + " first.", Records: []Record{Torque}, Inside: true, After: []string{ProveDead, Barrier, RunCable},
		Changes: []string{"breaker.rating", "breaker.curve"}, Caution: "Dead must stay proved. Supply side stays live.", Clause: w.isolate}
	switch {
	case c.Existing == job.Yes:
		st.Title, st.After = "Existing circuit inspected at the "+w.board, []string{ProveDead, Barrier}
		st.Detail = "Breaker, conductor and terminals as the design has them, no heat marks, every terminal to its label's torque."
	case c.Breaker.Rating > 0 && !b.plain:
		st.Detail = fmt.Sprintf("%s%g A, %d-pole. %s", c.Breaker.Curve, float64(c.Breaker.Rating), max(c.Breaker.Poles, 1), st.Detail)
	}
	b.add(st)
}

func (b *planner) sensors(p *job.Point) {
	if p.Circuit.ManagedTo == 0 {
		return
	}
	b.add(Step{ID: Sensors, Point: p.ID, Title: "Load-management sensors on the mains", Detail: "One to each line, arrow by the maker's drawing, its cable apart from the mains. Limit " + strconv.FormatFloat(float64(p.Circuit.ManagedTo), 'f', -1, 64) + " A.", Ask: "which conductors, which way the arrow points", Inside: true, After: []string{ProveDead, Barrier},
		Caution: "The sensors go round supply conductors, which stay live where the main is beyond them.", Clause: b.w.isolate})
}

func (b *planner) outlet(p *job.Point) {
	if p.Circuit.Connection != "receptacle" {
		return
	}
	st := Step{ID: Outlet, Point: p.ID, Title: "Receptacle fitted in its box", Detail: "Industrial grade, box as designed, strain relief, every terminal to its label's torque.", Records: []Record{Torque}, Inside: true, After: []string{RunCable, ProveDead}}
	if p.Circuit.Existing == job.Yes {
		st.Title, st.Detail = "Existing outlet inspected", "Contacts hold, no heat marks, box and conductors as the design has them, every terminal to its label's torque."
	}
	b.add(st)
}

func (b *planner) chargerEnd(p *job.Point) {
	if p.Circuit.Connection == "receptacle" {
		b.add(Step{ID: ChargerEnd, Point: p.ID, Title: "Charger hung, not yet plugged in", Detail: "Cord free of the path and of strain. It is plugged in after the dead tests.", After: []string{BackPlate, Outlet}})
		return
	}
	b.add(Step{ID: ChargerEnd, Point: p.ID, Title: "Charger connected", Detail: "Service loop, gland, no debris, gasket seated. Torque to the label. The special driver bit kept, its place noted.", Records: []Record{Torque}, Inside: true, After: []string{BackPlate, RunCable, ProveDead}})
}

func (b *planner) end(j *job.Job, points []job.Point) {
	closed := []string{BoardWork, ChargerEnd, Isolator, SurgeDevice, Sensors}
	b.add(Step{ID: Lids, Title: "Lids, seals and making good", Detail: "Nothing left inside, seals seated, photo of the board before its cover.", After: closed})
	b.add(Step{ID: Labels, Title: "Labels and circuit chart", Ask: "what was written in the chart", After: []string{BoardWork}})
	b.add(Step{ID: Energise, Title: "Everyone answers, then switch on", Detail: "Nobody switches on until everyone on the job has answered. Main first, then the circuits in reverse order.", Ask: "who answered", Records: []Record{Name}, After: []string{DeadTests, Lids}, Caution: "Energising is a spoken agreement between people.", Clause: "common practice"})
	if _, off := j.Latest(job.StepDone, "", BranchesOff); off || j.Survey.Supply.OtherSource == job.Yes {
		b.add(Step{ID: Restore, Title: "Circuits on again, in reverse order", Detail: "One by one, then the second source if there is one." + b.listed(&j.Survey.Board, true), After: []string{Energise}, Optional: true})
	}
}
