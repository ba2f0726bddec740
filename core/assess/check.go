package assess

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"time"

	"dogbolt/core/clearance"
	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/rulebook"
	"dogbolt/core/schema"
	"dogbolt/core/worklog"
)

// Writer is who adds an entry.
type Writer struct {
	Name     string `json:"name"`
	Verifier bool   `json:"verifier"`
}

// maxSkew is how far a device's clock may be ahead before its entries are
// refused: a clock that is wrong by more would put entries out of order.
const maxSkew = 10 * time.Minute

// Check refuses an entry that cannot be, or that comes before what it waits for.
// field is where the entry stands, for the names of the fields. An entry that comes
// late, from a device that had no signal, is also held against the log as it was
// when it was written: what others did since does not make it wrong. Work inside a board
// is held against that alone.
func Check(j *job.Job, h *WorkPolicy, by Writer, now time.Time, e job.Entry, field string) []job.FieldError {
	if errs := defined(e, field); len(errs) > 0 {
		return errs
	}
	if e.At.After(now.Add(maxSkew)) {
		return invalid(field+".at", "lies in the future: set the device's clock")
	}
	if e.Point != "" {
		if _, ok := j.Point(e.Point); !ok {
			return invalid(field+".point", "%q is not a point of this job", e.Point)
		}
	}
	if e.Replaces != "" && j.Place(e.Replaces) < 0 {
		return invalid(field+".replaces", "no entry %q in this job", e.Replaces)
	}
	book, err := rulebook.For(j)
	if err != nil {
		return invalid("rulebook", "%v", err)
	}
	if e.Imported != nil {
		return invalid(field+".imported", "is filled in where a file is read in")
	}
	c := &checker{j, h, by, book}
	errs := c.check(e, field)
	inside := book.In.Install.TouchesBoard(j, &e)
	if len(errs) == 0 && !inside || !slices.ContainsFunc(j.Log, func(x job.Entry) bool { return x.At.After(e.At) }) {
		return errs
	}
	then := *j
	then.Log = slices.DeleteFunc(slices.Clone(j.Log), func(x job.Entry) bool { return x.At.After(e.At) })
	c.j = &then
	was := c.check(e, field)
	if len(was) == 0 || inside {
		return was // nobody works on a proof that is still to come
	}
	return errs
}

// CheckUnsure is Check of an entry whose time nobody can tell: nothing shows when it was
// made, or the device's clock was set since. Work inside a board has to stand at every
// moment until now: it may have been done at any of them. Between two entries of the log a
// board only falls silent, so that the moment before the next one is the strictest.
func CheckUnsure(j *job.Job, h *WorkPolicy, by Writer, now time.Time, e job.Entry, field string) []job.FieldError {
	errs := Check(j, h, by, now, e, field)
	book, err := rulebook.For(j)
	if len(errs) > 0 || err != nil || !book.In.Install.TouchesBoard(j, &e) {
		return errs
	}
	moments := []time.Time{}
	for i := range j.Log {
		if at := j.Log[i].At; at.After(e.At) && at.Before(now) {
			moments = append(moments, at.Add(-time.Nanosecond))
		}
	}
	for _, at := range append(moments, now) {
		e.At = at
		if errs = Check(j, h, by, now, e, field); len(errs) > 0 {
			break
		}
	}
	for i := range errs {
		errs[i].Message = fmt.Sprintf("nobody can tell when this was done, so it is held against the board as it was until now, %s UTC too: %s",
			e.At.UTC().Format("15:04"), errs[i].Message)
	}
	return errs
}

// defined refuses an entry whose values are outside their limits.
func defined(e job.Entry, field string) []job.FieldError {
	definition := schema.Of[job.Entry]()
	if definition.Holds(&e) {
		return nil
	}
	data, err := json.Marshal(e)
	if err != nil {
		return invalid(field, "%v", err)
	}
	return definition.Read(field, data, &job.Entry{})
}

func (c *checker) check(e job.Entry, field string) []job.FieldError {
	if errs := misplaced(&e, field); errs != nil {
		return errs
	}
	switch e.Kind {
	case job.StepDone:
		return c.step(e, field)
	case job.ReadingMade:
		return c.reading(e, field)
	case job.TorqueMade:
		return c.torque(e, field)
	case job.PhotoTaken:
		return c.photo(e, field)
	case job.SettingMade:
		if e.Value == "" || e.Point == "" {
			return invalid(field+".value", "a setting has a point and a value")
		}
		switch {
		case e.Subject == worklog.SetAmps:
			return c.amps(e, field)
		case e.Subject == worklog.LockedSet && !slices.Contains(worklog.Locks, e.Value):
			return invalid(field+".value", "%q is not one of %s", e.Value, strings.Join(worklog.Locks, "; "))
		}
		if words := job.AgreedWords(e.Subject); len(words) > 0 && !slices.ContainsFunc(words, func(w job.Word) bool { return w.Value == e.Value }) {
			return invalid(field+".value", "%q is no answer of it", e.Value)
		}
	case job.Varied:
		if err := c.j.TryVariation(e); err != nil {
			return invalid(field+".value", "%v", err)
		}
		if len(strings.TrimSpace(e.Reason)) < 10 {
			return invalid(field+".reason", "a variation needs a reason in words")
		}
	case job.Overridden:
		return c.override(e, field)
	case job.Withdrawn:
		return invalid(field+".kind", "a record is withdrawn under Handover")
	case job.PaperMoved:
		return invalid(field+".kind", "what becomes of a paper after the seal is entered under Clearances")
	case job.SignedOff:
		return c.signature(e, field)
	case job.Inspected:
		return c.inspection(e, field)
	case job.CorrectionAsked:
		return c.correction(e, field)
	case job.PutRight:
		return c.putRight(e, field)
	case job.HandedOver:
		if len([]rune(strings.TrimSpace(e.Value))) < 2 {
			return invalid(field+".value", "a receipt says who signed it")
		}
		if e.Strokes == "" {
			return invalid(field+".strokes", "a receipt is signed")
		}
	case job.TakenBack:
		return c.takenBack(e, field)
	case job.Noted:
		if strings.TrimSpace(e.Reason) == "" {
			return invalid(field+".reason", "a note has words")
		}
	}
	return nil
}

// misplaced refuses what an entry of its kind does not have.
func misplaced(e *job.Entry, field string) []job.FieldError {
	switch {
	case e.Strokes != "" && e.Kind != job.HandedOver:
		return invalid(field+".strokes", "only a receipt of the pack is drawn")
	case e.Day != "" && e.Kind != job.CorrectionAsked && e.Kind != job.PaperMoved:
		return invalid(field+".day", "only what becomes of a paper has a day of its own")
	}
	return nil
}

// signature refuses a signature for what nobody signs, and one for the test by who did the work,
// where the firm asks for another.
func (c *checker) signature(e job.Entry, field string) []job.FieldError {
	if !slices.Contains(job.Roles, e.Subject) {
		return invalid(field+".subject", "%q is not %s", e.Subject, strings.Join(job.Roles, ", "))
	}
	if e.Subject == "testing" {
		return c.apart(field)
	}
	return nil
}

// inspection refuses an answer that an item of the country's schedule does not have, and one
// without its words.
func (c *checker) inspection(e job.Entry, field string) []job.FieldError {
	item := c.book.In.Inspect.Find(e.Subject)
	switch {
	case item == nil:
		return invalid(field+".subject", "%q is not in the schedule of inspections", e.Subject)
	case e.Point != "":
		return invalid(field+".point", "the schedule is of the whole work")
	case !slices.Contains(item.Allowed(), e.Value):
		return invalid(field+".value", "%s: %q is not one of %s", item.Title, e.Value, strings.Join(item.Allowed(), ", "))
	case item.NeedsWords(e.Value) && len(strings.TrimSpace(e.Reason)) < 10:
		return invalid(field+".reason", "%s: says it in words", item.Title)
	case item.Words && e.Value == string(job.NothingToSay) && strings.TrimSpace(e.Reason) != "":
		return invalid(field+".reason", "%s: none, and words: which of both?", item.Title)
	}
	return c.apart(field)
}

// correction refuses what an inspector wants put right on what is no inspection, of no day, about no
// item, and without words.
func (c *checker) correction(e job.Entry, field string) []job.FieldError {
	schedule := &c.book.In.Inspect
	paper, there := c.j.PaperNow(e.Subject)
	item := schedule.Find(e.Value)
	switch {
	case !there || !schedule.Inspects(&paper):
		return invalid(field+".subject", "%q is no inspection by the authority on this job", e.Subject)
	case paper.Needed != job.Yes:
		return invalid(field+".subject", "%s is not needed by this job: say first that it is", paper.Title)
	case e.Value != job.OtherThing && (item == nil || item.States()):
		return invalid(field+".value", "%q is not looked at by the schedule: choose what it is about, or %q", e.Value, job.OtherThing)
	case e.Day == "":
		return invalid(field+".day", "say on which day the inspector was there")
	case e.Day > e.At.AddDate(0, 0, 1).UTC().Format(time.DateOnly): // the site's day is at most one on
		return invalid(field+".day", "%s has not come yet", e.Day)
	case len(strings.TrimSpace(e.Reason)) < 10:
		return invalid(field+".reason", "say in the inspector's words what is to be put right")
	}
	return c.bare(e, field)
}

// putRight refuses to put right what no inspector asked for, or what was put right.
func (c *checker) putRight(e job.Entry, field string) []job.FieldError {
	asked := c.j.Corrections("")
	k := slices.IndexFunc(asked, func(o job.Correction) bool { return o.Asked.ID == e.Subject })
	switch {
	case k < 0:
		return invalid(field+".subject", "names no correction that stands")
	case asked[k].Done != nil:
		return invalid(field+".subject", "%s put this right already", asked[k].Done.By)
	case len(strings.TrimSpace(e.Reason)) < 10:
		return invalid(field+".reason", "say in words what was done")
	case e.Value != "" || e.Day != "":
		return invalid(field+".value", "what was done is said in words")
	}
	return c.bare(e, field)
}

// bare refuses what an entry about an inspector's correction does not use.
func (c *checker) bare(e job.Entry, field string) []job.FieldError {
	switch {
	case e.Point != "":
		return invalid(field+".point", "the inspection is of the whole work")
	case e.Unit != "" || e.Target != "" || e.Instrument != "" || e.Second != "":
		return invalid(field+".unit", "a correction has no reading")
	case e.Replaces != "":
		return invalid(field+".replaces", "take the other back, and write this one anew")
	}
	return nil
}

// apart refuses a test by who did the work, where the firm asks for another.
func (c *checker) apart(field string) []job.FieldError {
	if c.h.Apart && Worked(c.j, c.by.Name) {
		return invalid(field+".by", "the firm asks that the test is by another person than the work, and %s logged work on this job", c.by.Name)
	}
	return nil
}

// Slip is how long an entry can be taken back without a word: a slip of the finger. Common
// practice, no source.
const Slip = 2 * time.Minute

// takenBack refuses to take back what is not there or does not count any more, the switching
// on, work inside a board that was not proved dead, what work inside stands on, and what another
// person wrote.
func (c *checker) takenBack(e job.Entry, field string) []job.FieldError {
	if e.Value != "" || e.Unit != "" || e.Target != "" || e.Instrument != "" || e.Second != "" {
		return invalid(field+".value", "what is taken back has no value: write the right one as its correction")
	}
	k := c.j.Place(e.Replaces)
	if k < 0 {
		return invalid(field+".replaces", "names the entry that is taken back")
	}
	was := &c.j.Log[k]
	switch {
	case !was.MayGo():
		return invalid(field+".replaces", "switching on and taking back are never taken back: what follows is isolation, or the entry made anew")
	case c.j.Gone(was):
		return invalid(field+".replaces", "this was taken back already")
	case slices.ContainsFunc(c.j.Log, func(o job.Entry) bool { return o.Replaces == was.ID && !c.j.Gone(&o) }):
		return invalid(field+".replaces", "a later entry stands in its place: take that one back")
	case e.Subject != was.Subject || e.Point != was.Point:
		return invalid(field+".subject", "is another than that of the entry that is taken back")
	case e.At.Before(was.At):
		return invalid(field+".at", "lies before the entry that is taken back")
	}
	if why := needsWords(c.j, k, e.At); why != "" && len(strings.TrimSpace(e.Reason)) < 10 {
		return invalid(field+".reason", "taking back needs a reason in words: %s", why)
	}
	if !c.mayTakeBack(was, &e) {
		return invalid(field+".replaces", "%s wrote this: it is taken back by who wrote it, the lead of the crew, or a verifier", was.By)
	}
	if why := c.standsOn(k); why != "" {
		return invalid(field+".replaces", "%s", why)
	}
	return nil
}

// mayTakeBack reports whether an entry is one's own, or may be taken back for its writer.
func (c *checker) mayTakeBack(was, back *job.Entry) bool {
	another := was.Person != "" && back.Person != "" && was.Person != back.Person // of the same name
	own := was.Signs() && strings.EqualFold(was.By, c.by.Name) && !another
	crew := c.j.Plan.Crew
	leads := len(crew) > 0 && strings.EqualFold(crew[0], c.by.Name) && !slices.Contains(job.Binding, was.Kind)
	return own || leads || c.by.Verifier
}

// standsOn says why entry k stays for what was done inside the board, "" where it may go.
func (c *checker) standsOn(k int) string {
	was, work := &c.j.Log[k], &c.book.In.Install
	if live, bad := worklog.InsideWhileLive(c.j, work.Plan(c.j), work.Pairs(&c.j.Survey.Supply), work.Tails(c.j), c.h.Sleep()); bad && live.ID == was.ID {
		return "this was logged while dead was not proved: it stays. Prove dead, look at the work again, and write down what happened"
	}
	for _, a := range c.j.Corrections("") {
		if a.Asked.ID == was.ID && a.Done != nil {
			return a.Done.By + " put this right: take that back first"
		}
	}
	if !worklog.Isolates(was) {
		return ""
	}
	for i := k + 1; i < len(c.j.Log); i++ {
		if o := &c.j.Log[i]; work.TouchesBoard(c.j, o) && !c.j.Gone(o) {
			return o.By + " logged work inside the board on it since: switch off and prove dead again, and write down what happened"
		}
	}
	return ""
}

// needsWords says why taking back entry k asks for words, "" where it was a slip: a test that
// failed is none.
func needsWords(j *job.Job, k int, at time.Time) string {
	was := &j.Log[k]
	if was.Kind == job.ReadingMade {
		if v, err := rulebook.JudgeThen(j, k); err != nil || v == rulebook.Stop {
			return "the test failed"
		}
	}
	if at.Sub(was.At) > Slip {
		return fmt.Sprintf("more than %g minutes have gone", Slip.Minutes())
	}
	return ""
}

// checker is a job at a time, with who writes.
type checker struct {
	j    *job.Job
	h    *WorkPolicy
	by   Writer
	book *rulebook.Book
}

func invalid(field, format string, args ...any) []job.FieldError {
	return []job.FieldError{{Field: field, Message: fmt.Sprintf(format, args...)}}
}

// step refuses a step whose turn has not come, or that is not for who writes it.
func (c *checker) step(e job.Entry, field string) []job.FieldError {
	plan := c.book.In.Install.Plan(c.j)
	switch e.Subject {
	case worklog.Answer:
		return c.answer(e, plan, field)
	case worklog.Clock:
		if !slices.Contains(worklog.Started.Values(), e.Value) {
			return invalid(field+".value", "the clock is started, paused or done, not %q", e.Value)
		}
		return nil
	}
	iso := worklog.StateOf(c.j, c.book.In.Install.PairsOf(c.j), e.At, c.h.Sleep())
	steps := progress(c.j, &c.book.In.Tests, plan, iso)
	i := slices.IndexFunc(steps, func(s worklog.Status) bool { return s.ID == e.Subject && s.Point == e.Point })
	if i < 0 {
		return invalid(field+".subject", "%q is not a step of this job", e.Subject)
	}
	s := steps[i]
	if errs := c.turn(e, s, iso, field); len(errs) > 0 {
		return errs
	}
	if held := clearance.Blocking(c.j, waitsOn(s.ID)); len(held) > 0 { // also where it is done, and corrected
		return invalid(field+".subject", "“%s” waits for papers: %s (%s)", s.Title, held[0].Title, held[0].Why)
	}
	if s.ID == worklog.Energise {
		if failed := c.failed(); failed != "" {
			return invalid(field+".subject", "nothing is switched on over a failed test: %s", failed)
		}
		if un := worklog.Unanswered(worklog.Roll(c.j, plan), e.Value); len(un) > 0 {
			return invalid(field+".value", "nobody switches on before everyone has answered: %s", strings.Join(un, ", "))
		}
	}
	return nil
}

// measured reports whether a value is a number that a step can record.
func (c *checker) measured(step, value string) bool {
	_, ok := c.book.In.Install.Measure(step).Amount(value)
	return ok
}

// turn refuses a step before its turn, without what it records, or by the wrong person.
func (c *checker) turn(e job.Entry, s worklog.Status, iso worklog.Isolation, field string) []job.FieldError {
	switch {
	case s.ID == worklog.ProveDead || s.ID == worklog.DeadTests:
		return invalid(field+".subject", "“%s” follows from the readings", s.Title)
	case s.Inside && !iso.Proved && s.Done && e.Replaces == "":
		return invalid(field+".subject", "“%s” is done; to go on inside, prove dead again", s.Title)
	case len(s.WaitsFor) > 0:
		return invalid(field+".subject", "“%s” waits for: %s", s.Title, strings.Join(s.WaitsFor, ", "))
	case s.Ask != "" && strings.TrimSpace(e.Value) == "" && s.ID != worklog.Energise:
		return invalid(field+".value", "“%s” records %s", s.Title, s.Ask)
	case s.Unit != "" && !c.measured(s.ID, e.Value):
		return invalid(field+".value", "%q is not the %s: a number in %s", e.Value, s.Ask, s.Unit)
	case s.ID != worklog.Settings && len(s.Choice) > 0 && !slices.Contains(s.Choice, e.Value):
		return invalid(field+".value", "“%s” is answered by one of %s", s.Title, strings.Join(s.Choice, ", "))
	case (s.Inside || s.ID == worklog.Energise) && !c.qualified():
		return invalid(field+".subject", "“%s” is for the lead of the crew, %s, or a verifier", s.Title, c.j.Plan.Crew[0])
	case slices.Contains(s.Records, worklog.Photo) && !c.pictured(s):
		return invalid(field+".subject", "“%s” records a photo: take it first", s.Title)
	}
	return nil
}

// failed names a test before switching on that the rules stop, "" where there is none.
// Nobody accepts such a stop: it is mended and tested again.
func (c *checker) failed() string {
	findings, err := rulebook.CheckFor(c.j, rulebook.Stricter{Sleep: c.h.Sleep()})
	if err != nil {
		return err.Error()
	}
	for _, f := range findings {
		if f.Verdict != rulebook.Stop || f.Stage != job.StageCommission {
			continue
		}
		for _, field := range f.Fields {
			id := strings.TrimPrefix(field, "commission.")
			if t, ok := c.book.In.Tests.Find(id); ok && t.Group.BeforeLive() {
				return strings.TrimSpace(f.Title + " " + f.Point + ": " + f.Working)
			}
		}
	}
	return ""
}

// qualified reports whether who writes may do work inside the board: the lead of
// the crew, a verifier, or anybody of the firm while the plan has no crew.
func (c *checker) qualified() bool {
	crew := c.j.Plan.Crew
	return c.by.Verifier || len(crew) == 0 || strings.EqualFold(crew[0], c.by.Name)
}

// pictured reports whether the log has a photo of a step.
func (c *checker) pictured(s worklog.Status) bool {
	_, ok := c.j.Latest(job.PhotoTaken, s.Point, s.ID)
	return ok
}

// answer takes a person's own answer, or one that the lead heard in person.
func (c *checker) answer(e job.Entry, plan []worklog.Step, field string) []job.FieldError {
	roll := worklog.Roll(c.j, plan)
	name := e.By
	if e.Value != "" {
		if name = e.Value; !c.qualified() {
			return invalid(field+".value", "an answer given in person is recorded by the lead of the crew, %s, or a verifier", c.j.Plan.Crew[0])
		}
	}
	if !slices.ContainsFunc(roll, func(a worklog.Answered) bool { return strings.EqualFold(a.Name, name) }) {
		return invalid(field+".value", "%s is not on this job", name)
	}
	return nil
}

// photo refuses a picture that is not named by its digest, or that shows no step.
func (c *checker) photo(e job.Entry, field string) []job.FieldError {
	if b, err := hex.DecodeString(e.Value); err != nil || len(b) != sha256.Size {
		return invalid(field+".value", "a photo is named by its SHA-256")
	}
	for _, s := range c.book.In.Install.Plan(c.j) {
		if s.ID == e.Subject && s.Point == e.Point {
			return nil
		}
	}
	return invalid(field+".subject", "%q is not a step of this job", e.Subject)
}

// waitsOn is what a step is to the papers that must come before it: the permit holds up every
// step but the talk with the customer ("", which none does), the inspection the lids, the
// operator's answer the switching on.
func waitsOn(step string) job.Before {
	switch step {
	case worklog.Announce:
		return ""
	case worklog.Lids:
		return job.BeforeCovering
	case worklog.Energise:
		return job.BeforeEnergising
	}
	return job.BeforeInstalling
}

func (c *checker) reading(e job.Entry, field string) []job.FieldError {
	if strings.HasPrefix(e.Subject, worklog.DeadPair) {
		return c.deadReading(e, field)
	}
	p, ok := c.j.Point(e.Point)
	if !ok {
		return invalid(field+".point", "a reading belongs to a point")
	}
	tests := c.book.In.Tests.Sequence(p.Circuit)
	i := slices.IndexFunc(tests, func(t commission.Test) bool { return t.ID == e.Subject })
	if i < 0 {
		return invalid(field+".subject", "%q is not a test of this circuit", e.Subject)
	}
	t := tests[i]
	if errs := c.readingValue(e, &p, &t, field); len(errs) > 0 {
		return errs
	}
	if why := c.shut(t.Group, e.At); why != "" {
		return invalid(field+".subject", "“%s” is a %s", t.Title, why)
	}
	return c.apart(field)
}

// Worked reports whether a person logged work on a job: steps, torques, settings, what was put right. What a file
// says of them counts against them, and against who read it in: it may say what it likes.
func Worked(j *job.Job, name string) bool {
	return slices.ContainsFunc(j.Log, func(e job.Entry) bool {
		work := e.Kind == job.TorqueMade || e.Kind == job.SettingMade || e.Kind == job.PutRight || e.Kind == job.StepDone && e.Subject != worklog.Answer && e.Subject != worklog.Clock
		return work && (strings.EqualFold(e.By, name) || e.Imported != nil && strings.EqualFold(e.Imported.By, name))
	})
}

// readingValue refuses what is no reading of a test.
func (c *checker) readingValue(e job.Entry, p *job.Point, t *commission.Test, field string) []job.FieldError {
	switch {
	case t.Words && strings.TrimSpace(e.Value) == "":
		return invalid(field+".value", "%s: nothing was written", t.Title)
	case t.Words:
		return nil
	case t.Choice != nil && !slices.Contains(t.Choice, e.Value):
		return invalid(field+".value", "%s: %q is not one of %s", t.Title, e.Value, strings.Join(t.Choice, ", "))
	case t.Choice != nil:
		return nil
	}
	if _, err := quantity.ParseReading(e.Value, t.Unit); err != nil {
		return invalid(field+".value", "%s: %v", t.Title, err)
	}
	if e.Instrument == commission.Calculated {
		p.Circuit.Point = p.ID
		list := derive(c.j, &c.book.In.Tests, &p.Circuit)
		k := slices.IndexFunc(list, func(d commission.Derivation) bool { return d.Test == t.ID })
		if k < 0 || list[k].Value != e.Value {
			return invalid(field+".value", "%s: this is not what the readings give by calculation", t.Title)
		}
	}
	return nil
}

// shut says why a group of tests is locked, "" where it is not: those before switching
// on follow a proof of dead of this board, live ones the switching on.
func (c *checker) shut(g commission.Group, at time.Time) string {
	iso := worklog.StateOf(c.j, c.book.In.Install.PairsOf(c.j), at, c.h.Sleep())
	switch {
	case g.BeforeLive() && !iso.Proved:
		return "test before switching on: it follows a proof of dead of this board"
	case !g.BeforeLive() && !iso.Energised && c.book.In.Install.Opens(c.j):
		return "live test: it waits until everyone has answered and the board is switched on"
	}
	return ""
}

func (c *checker) deadReading(e job.Entry, field string) []job.FieldError {
	pairs := c.book.In.Install.PairsOf(c.j)
	if e.Subject != worklog.SourceBefore && e.Subject != worklog.SourceAfter &&
		!slices.Contains(pairs, strings.TrimPrefix(e.Subject, worklog.DeadPair)) {
		return invalid(field+".subject", "%q is not a pair of this system", e.Subject)
	}
	if _, ok := c.j.Latest(job.StepDone, "", worklog.CoverOff); !ok {
		return invalid(field+".subject", "proving dead waits for: cover off, treated as live")
	}
	if _, err := quantity.ParseReading(e.Value, "V"); err != nil {
		return invalid(field+".value", "%v", err)
	}
	return nil
}

func (c *checker) torque(e job.Entry, field string) []job.FieldError {
	p, _ := c.j.Point(e.Point)
	if !slices.ContainsFunc(c.book.In.Install.Terminals(p), func(t worklog.Terminal) bool { return t.ID == e.Subject }) {
		return invalid(field+".subject", "%q is not a terminal of this circuit", e.Subject)
	}
	if e.Unit != "N·m" && e.Unit != "in·lb" {
		return invalid(field+".unit", "%q is not N·m or in·lb", e.Unit)
	}
	for name, v := range map[string]string{"value": e.Value, "target": e.Target} {
		r, err := quantity.ParseReading(v, "")
		if err != nil || r.Bound != quantity.Exact || r.Value == 0 {
			return invalid(field+"."+name, "torque and the label's figure are numbers")
		}
	}
	// Tightening is work inside: on what is proved dead, by who may. A correction of what
	// was written down is no work.
	iso := worklog.StateOf(c.j, c.book.In.Install.PairsOf(c.j), e.At, c.h.Sleep())
	switch {
	case e.Replaces == "" && !iso.Proved:
		return invalid(field+".subject", "nothing is tightened before dead is proved: prove dead, then tighten and log it")
	case !c.qualified():
		return invalid(field+".subject", "tightening is for the lead of the crew, %s, or a verifier", c.j.Plan.Crew[0])
	}
	if c.h.Second && (strings.TrimSpace(e.Second) == "" || strings.EqualFold(strings.TrimSpace(e.Second), e.By)) {
		return invalid(field+".second", "the firm asks for a second person at every torque")
	}
	return nil
}

// amps refuses a setting above the design or above what the breaker allows:
// it is not to be left so, and is not written down as done.
func (c *checker) amps(e job.Entry, field string) []job.FieldError {
	r, err := quantity.ParseReading(e.Value, "A")
	if err != nil {
		return invalid(field+".value", "%v", err)
	}
	p, _ := c.j.Built().Point(e.Point)
	if limit, how := c.book.In.SettingLimit(&p.Circuit); limit > 0 && r.Value > limit {
		return invalid(field+".value", "%g A is more than %g A, the %s: set it lower", r.Value, limit, how)
	}
	if design := float64(p.Circuit.Setting); design > 0 && r.Value > design {
		return invalid(field+".value", "%g A is more than the %g A that were designed: set it lower, or change the design", r.Value, design)
	}
	return nil
}

// override: only rules that can be overridden and papers of the job, always
// with a reason.
func (c *checker) override(e job.Entry, field string) []job.FieldError {
	if id, paper := strings.CutPrefix(e.Subject, job.PaperOverride); paper {
		switch {
		case !slices.ContainsFunc(c.j.Clearances.Papers, func(p job.Paper) bool { return p.ID == id }):
			return invalid(field+".subject", "%q is not a paper of this job", id)
		case len(strings.TrimSpace(e.Reason)) < 10:
			return invalid(field+".reason", "putting a paper aside needs a reason in words")
		}
		return nil
	}
	i := slices.IndexFunc(c.book.Rules, func(r rulebook.Rule) bool { return r.ID == e.Subject })
	switch {
	case i < 0:
		return invalid(field+".subject", "%q is not a rule of this rulebook", e.Subject)
	case c.book.Rules[i].Fixed:
		return invalid(field+".subject", "“%s” can never be overridden", c.book.Rules[i].Title)
	case len(strings.TrimSpace(e.Reason)) < 10:
		return invalid(field+".reason", "an override needs a reason in words")
	}
	return nil
}
