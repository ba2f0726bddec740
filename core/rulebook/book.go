package rulebook

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"dogbolt/core/clearance"
	"dogbolt/core/commission"
	"dogbolt/core/demand"
	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/quantity"
	"dogbolt/core/route"
	"dogbolt/core/schema"
	"dogbolt/core/worklog"
)

// Rule judges one thing of a job, or of each of its points, against one clause.
type Rule struct {
	ID       string // stands in files and in the log: never changed
	Title    string // what it judges, as lists show it
	Clause   string // where the edition has it, or "common practice"
	Stage    job.Stage
	PerPoint bool     // Check is asked for every point, else once for the job
	Fields   []string // what it looks at, as paths of the job document; "{p}" stands for the point's place in the list
	Fixed    bool     // never overridable
	Removals bool     // asked too where a charger is taken away
	Unit     bool     // looks at the charger: not asked of an outlet without one, nor of a sub-main
	Charging bool     // looks at the circuit that a vehicle is charged from: not asked of a sub-main, which ends in a board
	Made     bool     // looks at how a circuit is made and where its charger stands: a repair that touches the charger alone spares it
	Draws    bool     // looks at what is drawn, or at what has to carry it: such a repair spares it where it lets no more be drawn
	Check    func(*Subject) Finding
	Numbers  string // the source of its figures, "none" where it judges words alone; all are from memory
	Tests    string // the tests that check them besides its rulebook's TestRules
}

// Book is one edition of one country's wiring rules.
type Book struct {
	ID    string // "bs7671:2018+A2:2022"
	Name  string // "BS 7671:2018+A2:2022"
	Short string // as lists name it: BS 7671
	In    *jurisdiction.Jurisdiction
	// Rules are the edition's own; Register adds those that every rulebook has.
	Rules []Rule
	// Prepare works out once per point what several rules need, into Subject.Work.
	Prepare func(*Subject)
	// Demand works out the service demand once per job; nil takes the country's.
	Demand func(*job.Job) demand.Result
	// Expected is what is known of a point's circuit before it is tested, to doubt
	// readings by; nil where nothing is.
	Expected func(*Subject) commission.Expected
	// Decisions are the questions of a design that have a few answers.
	Decisions []Decision
	// Clauses are where the edition has the rules that every rulebook shares, by their
	// ids; a rule that is not among them keeps its general clause.
	Clauses map[string]string
	// SubMain are the clauses of rules where they are asked of a sub-main, by their ids; a rule that is not among them keeps its own.
	SubMain map[string]string
	// Unknown names what is not known to be the same as in the edition that this one
	// is told from.
	Unknown []string
}

// Editions is what every page and record says about the edition: the notice, and what
// of it is not known.
func (b *Book) Editions() []string {
	out := []string{Notice}
	if len(b.Unknown) > 0 {
		out = append(out, "Not known to be the same as in the edition that this one is told from: "+strings.Join(b.Unknown, "; ")+".")
	}
	return out
}

// Notice is what every page and record says about editions.
const Notice = "A later edition or amendment may be in force where the work is done. Local rules, the maker's instructions and the judgement of a licensed person prevail."

// Subject is what a rule looks at: the job, one of its points, and what was
// worked out about it. For rules that are not per point, Point is zero.
type Subject struct {
	Job      *job.Job // as built
	Point    job.Point
	Index    int // of the point
	Book     *Book
	Stricter Stricter
	// Designed is the job as it was designed and signed for.
	Designed *job.Job
	Demand   demand.Result
	Work     any // what the book's Prepare worked out

	route *route.Laying  // worked out when first asked for
	plan  []worklog.Step // likewise
	tests []commission.Test
}

// sequence is the tests of the point's circuit.
func (s *Subject) sequence() []commission.Test {
	if s.tests == nil {
		s.tests = s.Book.In.Tests.Sequence(s.Point.Circuit)
	}
	return s.tests
}

// Plans reports whether the installation has a step, on whichever point.
func (s *Subject) Plans(step string) bool {
	return slices.ContainsFunc(s.steps(), func(st worklog.Step) bool { return st.ID == step })
}

// steps is the installation's plan as it was designed.
func (s *Subject) steps() []worklog.Step {
	if s.plan == nil {
		s.plan = s.Book.In.Install.Outline(s.Designed)
	}
	return s.plan
}

// Delta is what an edition has otherwise than another: only what is known to differ.
type Delta struct {
	ID, Name, Short string
	// Rules stand in place of those with the same ids, where those are; others come
	// last.
	Rules []Rule
	// Without are the ids of rules that the edition does not have.
	Without []string
	// Demand takes the place of the other edition's where it is not nil.
	Demand func(*job.Job) demand.Result
	// Unknown names what is not known to be the same in both editions. It is shown
	// wherever the edition is named.
	Unknown []string
}

// Edition returns another edition of a book that is not registered yet: all that the
// delta does not name is shared.
func (b *Book) Edition(d Delta) *Book {
	e := *b
	e.ID, e.Name, e.Short, e.Unknown = d.ID, d.Name, d.Short, d.Unknown
	e.Rules = slices.DeleteFunc(slices.Clone(b.Rules), func(r Rule) bool { return slices.Contains(d.Without, r.ID) })
	for _, r := range d.Rules {
		if i := slices.IndexFunc(e.Rules, func(o Rule) bool { return o.ID == r.ID }); i >= 0 {
			e.Rules[i] = r
		} else {
			e.Rules = append(e.Rules, r)
		}
	}
	if d.Demand != nil {
		e.Demand = d.Demand
	}
	return &e
}

var books []*Book

// Register adds a rulebook. It is called by the packages below this one when
// they are initialised, and panics if the id is taken.
func Register(b *Book) {
	if _, ok := Find(b.ID); ok {
		panic("rulebook " + b.ID + " registered twice")
	}
	b.Rules = slices.Concat(b.Rules, common)
	for i := range b.Rules {
		if c, ok := b.Clauses[b.Rules[i].ID]; ok {
			b.Rules[i].Clause = c
		}
	}
	if b.Demand == nil {
		b.Demand = b.In.Demand
	}
	of := b.Demand
	b.Demand = func(j *job.Job) demand.Result {
		r := of(j)
		if j.Lays() {
			r.Rename("charging point", "drawn over the sub-main")
		}
		return r
	}
	books = append(books, b)
}

// All lists the registered rulebooks.
func All() []*Book { return books }

// Find returns the rulebook with the id.
func Find(id string) (*Book, bool) {
	for _, b := range books {
		if b.ID == id {
			return b, true
		}
	}
	return nil, false
}

// For returns the rulebook that the job is pinned to.
func For(j *job.Job) (*Book, error) {
	b, ok := Find(j.Rulebook)
	if !ok {
		return nil, fmt.Errorf("rulebook: %q is not an edition this program knows", j.Rulebook)
	}
	return b, nil
}

// Proposals lists the papers that the book proposes for a job.
func (b *Book) Proposals(j *job.Job, d demand.Result) []clearance.Advice {
	return b.In.Papers(j, OperatorDemand(j, d))
}

// NewPapers are the papers of a job as its survey and design stand.
func (b *Book) NewPapers(j *job.Job) []job.Paper {
	return clearance.Take(nil, b.Proposals(j, b.Demand(j)))
}

// OperatorDemand is what the decision about the network operator rests on.
func OperatorDemand(j *job.Job, d demand.Result) clearance.Demand {
	p := &j.Survey.Supply
	out := clearance.Demand{Total: float64(d.Total), Cutout: float64(p.Rating), Known: len(d.Missing) == 0 && allSet(j)}
	if limit, all := managed(j); all {
		out.Total = min(out.Total, max(limit, float64(d.Without)))
	}
	switch p.Condition {
	case "sound":
		out.Sound = job.Yes
	case "doubtful":
		out.Sound = job.No
	}
	for i := range j.Design.Circuits {
		out.Largest = max(out.Largest, float64(j.Design.Circuits[i].Draws()))
	}
	return out
}

// Stricter is what a contractor tightens of the rules. The zero Stricter tightens nothing.
type Stricter struct {
	Sleep time.Duration // how long the log may be silent before dead is proved again; 0 for the usual
}

// Check is CheckFor without a house of its own.
func Check(j *job.Job) ([]Finding, error) { return CheckFor(j, Stricter{}) }

// CheckFor runs every rule of the job's rulebook, with what the firm tightens, and returns the findings that
// apply, in the order of the rules, points in order within each rule.
//
// What is judged is the job as it was built: the design with the variations of
// the log in it.
func CheckFor(j *job.Job, h Stricter) ([]Finding, error) {
	b, err := For(j)
	if err != nil {
		return nil, err
	}
	designed := j
	j = j.Built()
	points := j.Points()
	whole := &Subject{Job: j, Designed: designed, Book: b, Stricter: h, Demand: b.Demand(j)}
	subjects := make([]Subject, len(points))
	for i, p := range points {
		subjects[i] = Subject{Job: j, Designed: designed, Point: p, Index: i, Book: b, Stricter: h, Demand: whole.Demand}
		b.Prepare(&subjects[i])
	}
	n := len(b.Rules)
	for i := range b.Rules {
		if b.Rules[i].PerPoint {
			n += len(points) - 1
		}
	}
	findings, removes, lays, repairs := make([]Finding, 0, n), j.Removes(), j.Lays(), j.Touched() > job.TouchedAll
	for i := range b.Rules {
		r := &b.Rules[i]
		if !r.PerPoint {
			if (r.Removals || !removes) && !(r.Charging && lays) {
				findings = r.appendTo(findings, whole, repairs && r.spared(j.Raises()))
			}
			continue
		}
		for k := range subjects {
			if p := &subjects[k].Point; r.asks(p) {
				findings = r.appendTo(findings, &subjects[k], r.spared(p.Circuit.Raises()) && p.Circuit.Touched() > job.TouchedAll)
			}
		}
	}
	contradict(findings)
	doubt(findings, designed.Refused)
	return append(findings, refused(designed)...), nil
}

// asks reports whether the rule is asked of a point.
func (r *Rule) asks(p *job.Point) bool {
	switch p.Circuit.Kind() {
	case job.Removal:
		return r.Removals
	case job.OutletOnly:
		return !r.Unit
	case job.SubMain:
		return !r.Unit && !r.Charging
	}
	return true
}

// spared reports whether a repair that touches the charger alone spares the rule: it may let more be drawn or not. What is not known
// is not asked then; what is known and does not meet is for the customer to hear.
func (r *Rule) spared(raises bool) bool { return r.Made || r.Draws && !raises }

// tell is added to what a repair finds and does not touch.
const tell = "not touched by this repair: tell the customer, and write it under the defects seen"

// doubt opens what was judged without a value that is refused: a load that was set
// aside counts in nobody's favour.
func doubt(findings []Finding, list []schema.Refused) {
	for _, r := range list {
		at := plainPath(r.Field)
		for i := range findings {
			f := &findings[i]
			meets := f.Verdict == Sound || f.Verdict == Watch
			if meets && slices.ContainsFunc(f.Fields, func(field string) bool { return within(at, plainPath(field)) }) {
				f.Verdict, f.Missing = Open, r.Field+" is refused: "+r.Why
			}
		}
	}
}

// plainPath is a path without the places in lists: survey.loads[0].kind and
// survey.places.{p}.route become survey.loads.kind and survey.places.route.
func plainPath(field string) string {
	parts := strings.FieldsFunc(field, func(r rune) bool { return r == '.' || r == '[' || r == ']' })
	return strings.Join(slices.DeleteFunc(parts, func(s string) bool {
		_, err := strconv.Atoi(s)
		return err == nil || s == "{p}"
	}), ".")
}

// within reports whether one of two paths is part of the other.
func within(a, b string) bool {
	return strings.HasPrefix(a+".", b+".") || strings.HasPrefix(b+".", a+".")
}

// refused names each value of an older program that this one refuses: what it said
// is not known until a person has entered it anew.
func refused(j *job.Job) []Finding {
	out := make([]Finding, len(j.Refused))
	for i, r := range j.Refused {
		f := Missing(r.Field + " was " + r.Value + ": " + r.Why + "; enter it anew, then settle it")
		f.Rule, f.Title, f.Clause, f.Fixed = "refused-value", "Value that an older version took", "common practice", true
		f.Stage, f.Fields = stageOf(r.Field), []string{r.Field}
		out[i] = f
	}
	return out
}

// stageOf returns the stage that a field of the document belongs to.
func stageOf(field string) job.Stage {
	section, _, _ := strings.Cut(field, ".")
	section, _, _ = strings.Cut(section, "[")
	switch {
	case section == "log":
		return job.StageInstall
	case slices.Contains(job.Stages, job.Stage(section)):
		return job.Stage(section)
	}
	return job.StageSurvey
}

// appendTo runs the rule on a subject and appends what it says, completed.
func (r *Rule) appendTo(findings []Finding, s *Subject, spared bool) []Finding {
	f := r.Check(s)
	switch {
	case f.Verdict == "" || spared && f.Verdict == Open:
		return findings
	case spared && f.Verdict == Stop:
		f.Verdict, f.Remedy, f.Fixed = Watch, strings.TrimPrefix(f.Remedy+"; "+tell, "; "), false
	}
	f.Rule, f.Title, f.Clause, f.Stage, f.Fields, f.Fixed = r.ID, r.Title, r.Clause, r.Stage, r.Fields, r.Fixed || f.Fixed
	if r.PerPoint {
		f.Point = s.Point.ID
		if clause := s.Book.SubMain[r.ID]; clause != "" && s.Point.Circuit.EndsInBoard() {
			f.Clause = clause
		}
	}
	if f.Verdict == Stop && !f.Fixed {
		if e, ok := s.Job.Latest(job.Overridden, f.Point, r.ID); ok {
			f.OverriddenBy, f.OverReason = e.By, e.Reason
		}
	}
	return append(findings, f)
}

// Reading returns the newest reading of a test on the subject's point. Where
// there is none, or it cannot be read, the finding says so and ok is false.
func (s *Subject) Reading(test string) (r quantity.Reading, f Finding, ok bool) {
	t, found := s.Book.In.Tests.Find(test)
	if !found {
		panic("no test " + test)
	}
	e, has := s.Job.Latest(job.ReadingMade, s.Point.ID, test)
	if !has {
		return r, Missing("one reading"), false
	}
	unit := t.Unit
	r, err := quantity.ParseReading(e.Value, unit)
	if err != nil {
		return r, Missing(err.Error()), false
	}
	return r, f, true
}

// Asked runs a check of a test where the circuit's sequence has it, and where one
// that may be left out was done; or one of those beside it that the check looks at too.
func Asked(test string, check func(*Subject) Finding, beside ...string) func(*Subject) Finding {
	return func(s *Subject) Finding {
		in, optional := s.Book.In.Tests.In(&s.Point.Circuit, test)
		if !in {
			return Finding{}
		}
		done := func(test string) bool {
			_, ok := s.Job.Latest(job.ReadingMade, s.Point.ID, test)
			return ok
		}
		if optional && !done(test) && !slices.ContainsFunc(beside, done) {
			return Finding{}
		}
		return check(s)
	}
}

// Choice judges a test that is answered by a word.
func (s *Subject) Choice(test, remedy string) Finding {
	t, _ := s.Book.In.Tests.Of(&s.Point.Circuit, test)
	e, ok := s.Job.Latest(job.ReadingMade, s.Point.ID, test)
	switch {
	case !ok:
		return Missing("one answer")
	case e.Value == t.Choice[0]:
		return Meets(t.Title + ": " + e.Value)
	case slices.Contains(t.Choice, e.Value):
		return Fails(t.Title+": "+e.Value, remedy)
	}
	return Missing(fmt.Sprintf("%q is not one of the answers %v", e.Value, t.Choice))
}

// SpineState is how far a stage has come.
type SpineState string

// States of a bolt on the spine.
const (
	Hollow SpineState = "hollow" // nothing there yet
	Part   SpineState = "part"   // begun, something still open
	Tight  SpineState = "tight"  // nothing open, nothing stops
	Eyed   SpineState = "watch"  // tight, with something to watch
	Cross  SpineState = "crossed"
)

// Values lists the states of a bolt.
func (SpineState) Values() []string { return schema.Words(Hollow, Part, Tight, Eyed, Cross) }

// Bolt is one stage of the spine.
type Bolt struct {
	Stage job.Stage  `json:"stage"`
	State SpineState `json:"state"`
	Stops int        `json:"stops"`
	Watch int        `json:"watch"`
	Open  int        `json:"open"`
}

// Spine counts the findings of each stage and says how far it has come.
func Spine(findings []Finding) []Bolt {
	bolts := make([]Bolt, len(job.Stages))
	for i, st := range job.Stages {
		b := Bolt{Stage: st}
		judged := 0
		for _, f := range findings {
			if f.Stage != st {
				continue
			}
			switch f.Verdict {
			case Open:
				b.Open++
			case Stop:
				judged++
				if f.Blocks() {
					b.Stops++
				} else {
					b.Watch++
				}
			case Watch:
				judged++
				b.Watch++
			default:
				judged++
			}
		}
		switch {
		case b.Stops > 0:
			b.State = Cross
		case b.Open > 0 && judged == 0:
			b.State = Hollow
		case b.Open > 0:
			b.State = Part
		case b.Watch > 0:
			b.State = Eyed
		default:
			b.State = Tight
		}
		bolts[i] = b
	}
	return bolts
}

// CurrentStage returns the first stage that is not yet tight.
func CurrentStage(bolts []Bolt) job.Stage {
	for _, b := range bolts {
		if b.State != Tight && b.State != Eyed {
			return b.Stage
		}
	}
	return job.StageHandover
}

// Change is a verdict that variations changed.
type Change struct {
	Rule    string  `json:"rule"`
	Title   string  `json:"title"`
	Point   string  `json:"point,omitempty"`
	Before  Verdict `json:"before,omitempty" doc:"As designed."`
	After   Verdict `json:"after,omitempty" doc:"As built."`
	Working string  `json:"working,omitempty" doc:"As built."`
	Remedy  string  `json:"remedy,omitempty"`
}

// Changes lists the verdicts that are others as built than as designed.
func Changes(j *job.Job) ([]Change, error) {
	out := []Change{}
	plain := *j
	plain.Log = slices.DeleteFunc(slices.Clone(j.Log), func(e job.Entry) bool { return e.Kind == job.Varied })
	before, err := Check(&plain)
	if err != nil {
		return out, err
	}
	after, err := Check(j)
	if err != nil {
		return out, err
	}
	for _, f := range after {
		c := Change{Rule: f.Rule, Title: f.Title, Point: f.Point, After: f.Verdict, Working: f.Working, Remedy: f.Remedy}
		for _, o := range before {
			if o.Rule == f.Rule && o.Point == f.Point {
				c.Before = o.Verdict
			}
		}
		if c.Before != c.After {
			out = append(out, c)
		}
	}
	return out, nil
}
