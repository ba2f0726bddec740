package app

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"dogbolt/core/clearance"
	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/rulebook"
	"dogbolt/core/worklog"
	"dogbolt/internal/store"
)

// maxSkew is how far a device's clock may be ahead before its entries are
// refused: a clock that is wrong by more would put entries out of order.
const maxSkew = 10 * time.Minute

// Append adds entries to a job's log: all of them, or none. Entries that the
// log has already are passed over, so that a device may send them twice.
func (a *App) Append(ctx context.Context, by Person, id string, entries []job.Entry) (View, error) {
	if len(entries) == 0 || len(entries) > 500 {
		return View{}, invalid("entries", "send 1 to 500 entries at a time, not %d", len(entries))
	}
	for i := range entries {
		e := &entries[i]
		e.By, e.At = by.Name, e.At.UTC()
		if err := a.may(by, actionOf(*e)); err != nil {
			return View{}, err
		}
	}
	yard, err := a.yard(ctx)
	if err != nil {
		return View{}, err
	}
	return a.change(ctx, id, func(tx *store.Tx, w *store.Whole, j *job.Job) error {
		book, err := rulebook.For(j)
		if err != nil {
			return err
		}
		known := make(map[string]bool, len(j.Log))
		for _, e := range j.Log {
			known[e.ID] = true
		}
		for i, e := range entries {
			if known[e.ID] {
				continue
			}
			if w.Job.Sealed {
				return ErrSealed
			}
			field := fmt.Sprintf("entries[%d]", i)
			if e.Calibrated = ""; e.Kind == job.ReadingMade || e.Kind == job.TorqueMade {
				e.Calibrated = yard.calibrated(e.Instrument)
			}
			if e.Kind == job.SignedOff && e.Subject == "design" {
				e.Value = j.DesignDigest() // what is signed is what the server holds
			}
			if errs := a.checkEntry(j, book, e, field); len(errs) > 0 {
				return errs
			}
			if err := a.addEntry(tx, id, e); err != nil {
				if errors.Is(err, store.ErrTaken) {
					return invalid(field+".id", "%q belongs to another job", e.ID)
				}
				return err
			}
			known[e.ID] = true
			j.Log = append(j.Log, e)
			if err := tx.Note(a.now(), by.Name, "log "+string(e.Kind), id, strings.TrimSpace(e.Subject+" "+e.Point+" "+e.Value)); err != nil {
				return err
			}
		}
		// The log is read in the order of the devices' clocks.
		slices.SortStableFunc(j.Log, func(a, b job.Entry) int { return a.At.Compare(b.At) })
		return nil
	})
}

func actionOf(e job.Entry) Action {
	switch {
	case e.Kind == job.Overridden:
		return Override
	case e.Kind == job.SignedOff && e.Subject == "design":
		return SignDesign
	case e.Kind == job.SignedOff:
		return SignWork
	case e.Kind == job.Noted:
		return ViewJobs
	}
	return WriteLog
}

// checkEntry refuses an entry that cannot be, or that comes before what it
// waits for.
func (a *App) checkEntry(j *job.Job, book *rulebook.Book, e job.Entry, field string) FieldErrors {
	if len(e.ID) < 8 || len(e.ID) > 64 {
		return invalid(field+".id", "has 8 to 64 characters")
	}
	if e.At.IsZero() || e.At.After(a.now().Add(maxSkew)) {
		return invalid(field+".at", "is missing or lies in the future: set the device's clock")
	}
	if e.Point != "" {
		if _, ok := j.Point(e.Point); !ok {
			return invalid(field+".point", "%q is not a point of this job", e.Point)
		}
	}
	if e.Replaces != "" && !slices.ContainsFunc(j.Log, func(x job.Entry) bool { return x.ID == e.Replaces }) {
		return invalid(field+".replaces", "no entry %q in this job", e.Replaces)
	}
	switch e.Kind {
	case job.StepDone:
		return a.checkStep(j, book, e, field)
	case job.ReadingMade:
		return checkReadingEntry(j, book, e, field)
	case job.TorqueMade:
		return checkTorqueEntry(book, e, field)
	case job.SettingMade:
		if e.Value == "" || e.Point == "" {
			return invalid(field+".value", "a setting has a point and a value")
		}
		if e.Subject == worklog.SetAmps {
			return checkAmps(j, book, e, field)
		}
	case job.Varied:
		if err := j.TryVariation(e); err != nil {
			return invalid(field+".value", "%v", err)
		}
		if len(strings.TrimSpace(e.Reason)) < 10 {
			return invalid(field+".reason", "a variation needs a reason in words")
		}
	case job.Overridden:
		return checkOverride(j, book, e, field)
	case job.SignedOff:
		if e.Subject != "design" && e.Subject != "construction" {
			return invalid(field+".subject", "%q is not design or construction", e.Subject)
		}
	case job.Noted:
		if strings.TrimSpace(e.Reason) == "" {
			return invalid(field+".reason", "a note has words")
		}
	default:
		return invalid(field+".kind", "%q is not a kind of entry", e.Kind)
	}
	return nil
}

// checkStep refuses a step whose turn has not come.
func (a *App) checkStep(j *job.Job, book *rulebook.Book, e job.Entry, field string) FieldErrors {
	for _, s := range worklog.Progress(j, book.School, func(point string) bool {
		p, _ := j.Point(point)
		p.Circuit.Point = point
		return commission.DeadTested(j, book.School, p.Circuit)
	}) {
		if s.ID != e.Subject || s.Point != e.Point {
			continue
		}
		switch {
		case s.ID == worklog.ProveDead || s.ID == worklog.DeadTests:
			return invalid(field+".subject", "“%s” follows from the readings", s.Title)
		case len(s.WaitsFor) > 0:
			return invalid(field+".subject", "“%s” waits for: %s", s.Title, strings.Join(s.WaitsFor, ", "))
		case s.Ask != "" && strings.TrimSpace(e.Value) == "":
			return invalid(field+".value", "“%s” records %s", s.Title, s.Ask)
		}
		if held := heldUp(j, s.ID); len(held) > 0 {
			return invalid(field+".subject", "“%s” waits for papers: %s (%s)", s.Title, held[0].Title, held[0].Why)
		}
		if s.ID == worklog.Energise {
			if un := worklog.Unanswered(j.Plan.Crew, e.Value); len(un) > 0 {
				return invalid(field+".value", "nobody switches on before everyone has answered: %s", strings.Join(un, ", "))
			}
		}
		return nil
	}
	return invalid(field+".subject", "%q is not a step of this job", e.Subject)
}

// heldUp lists the papers that a step waits for: the permit holds up every step
// but the talk with the customer, the inspection the lids, the operator's answer
// the switching on.
func heldUp(j *job.Job, step string) []clearance.Blocker {
	switch step {
	case "announce":
		return nil
	case worklog.Lids:
		return clearance.Blocking(j, job.BeforeCovering)
	case worklog.Energise:
		return clearance.Blocking(j, job.BeforeEnergising)
	}
	return clearance.Blocking(j, job.BeforeInstalling)
}

func checkReadingEntry(j *job.Job, book *rulebook.Book, e job.Entry, field string) FieldErrors {
	if strings.HasPrefix(e.Subject, worklog.DeadPair) {
		return checkDeadReading(j, book, e, field)
	}
	p, ok := j.Point(e.Point)
	if !ok {
		return invalid(field+".point", "a reading belongs to a point")
	}
	tests := commission.Sequence(book.School, p.Circuit)
	i := slices.IndexFunc(tests, func(t commission.Test) bool { return t.ID == e.Subject })
	if i < 0 {
		return invalid(field+".subject", "%q is not a test of this circuit", e.Subject)
	}
	t := tests[i]
	if t.Choice != nil {
		if !slices.Contains(t.Choice, e.Value) {
			return invalid(field+".value", "%s: %q is not one of %s", t.Title, e.Value, strings.Join(t.Choice, ", "))
		}
		return nil
	}
	if _, err := quantity.ParseReading(e.Value, t.Unit); err != nil {
		return invalid(field+".value", "%s: %v", t.Title, err)
	}
	return nil
}

func checkDeadReading(j *job.Job, book *rulebook.Book, e job.Entry, field string) FieldErrors {
	pairs := worklog.Pairs(book.School, j.Survey.Supply.Phases)
	if e.Subject != worklog.SourceBefore && e.Subject != worklog.SourceAfter &&
		!slices.Contains(pairs, strings.TrimPrefix(e.Subject, worklog.DeadPair)) {
		return invalid(field+".subject", "%q is not a pair of this system", e.Subject)
	}
	if _, ok := j.Latest(job.StepDone, "", worklog.CoverOff); !ok {
		return invalid(field+".subject", "proving dead waits for: cover off, treated as live")
	}
	if _, err := quantity.ParseReading(e.Value, "V"); err != nil {
		return invalid(field+".value", "%v", err)
	}
	return nil
}

func checkTorqueEntry(book *rulebook.Book, e job.Entry, field string) FieldErrors {
	if !slices.ContainsFunc(worklog.Terminals(book.School), func(t worklog.Terminal) bool { return t.ID == e.Subject }) {
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
	return nil
}

// checkAmps refuses a setting above the design or above what the breaker allows:
// it is not to be left so, and is not written down as done.
func checkAmps(j *job.Job, book *rulebook.Book, e job.Entry, field string) FieldErrors {
	r, err := quantity.ParseReading(e.Value, "A")
	if err != nil {
		return invalid(field+".value", "%v", err)
	}
	p, _ := j.Built().Point(e.Point)
	if limit, how := rulebook.SettingLimit(book.School, &p.Circuit); limit > 0 && r.Value > limit {
		return invalid(field+".value", "%g A is more than %g A, the %s: set it lower", r.Value, limit, how)
	}
	if design := float64(p.Circuit.Setting); design > 0 && r.Value > design {
		return invalid(field+".value", "%g A is more than the %g A that were designed: set it lower, or change the design", r.Value, design)
	}
	return nil
}

// checkOverride: only rules that can be overridden and papers of the job, always
// with a reason.
func checkOverride(j *job.Job, book *rulebook.Book, e job.Entry, field string) FieldErrors {
	if id, paper := strings.CutPrefix(e.Subject, job.PaperOverride); paper {
		switch {
		case !slices.ContainsFunc(j.Clearances.Papers, func(p job.Paper) bool { return p.ID == id }):
			return invalid(field+".subject", "%q is not a paper of this job", id)
		case len(strings.TrimSpace(e.Reason)) < 10:
			return invalid(field+".reason", "putting a paper aside needs a reason in words")
		}
		return nil
	}
	i := slices.IndexFunc(book.Rules, func(r rulebook.Rule) bool { return r.ID == e.Subject })
	switch {
	case i < 0:
		return invalid(field+".subject", "%q is not a rule of this rulebook", e.Subject)
	case book.Rules[i].Fixed:
		return invalid(field+".subject", "“%s” can never be overridden", book.Rules[i].Title)
	case len(strings.TrimSpace(e.Reason)) < 10:
		return invalid(field+".reason", "an override needs a reason in words")
	}
	return nil
}

// NearMissList is what happened, or nearly, over all jobs.
type NearMissList struct {
	Kinds []worklog.NearMiss `json:"kinds" doc:"Kinds that are written down with one press."`
	List  []NearMissLine     `json:"list" doc:"Newest first."`
}

// NearMissLine is one near miss. Who and which job are left out unless the office
// asks for them.
type NearMissLine struct {
	Day    string `json:"day" format:"date"`
	Kind   string `json:"kind,omitempty"`
	Words  string `json:"words"`
	Town   string `json:"town"`
	Number string `json:"number,omitempty"`
	By     string `json:"by,omitempty"`
}

// NearMisses lists near misses for the firm to learn from, without names; named
// asks for them, which the office alone may.
func (a *App) NearMisses(ctx context.Context, by Person, named bool) (NearMissList, error) {
	out := NearMissList{Kinds: worklog.NearMisses, List: []NearMissLine{}}
	act := ViewJobs
	if named {
		act = ManageUsers
	}
	if err := a.may(by, act); err != nil {
		return out, err
	}
	rows, err := a.store.NearMisses(ctx, 200)
	if err != nil {
		return out, err
	}
	for _, r := range rows {
		var e job.Entry
		if err := json.Unmarshal(r.Body, &e); err != nil {
			return out, err
		}
		l := NearMissLine{Day: e.At.Format(time.DateOnly), Kind: e.Value, Words: e.Reason, Town: r.Town}
		if named {
			l.Number, l.By = r.Number, e.By
		}
		out.List = append(out.List, l)
	}
	return out, nil
}

// AsBuilt sets the design beside what was built.
type AsBuilt struct {
	Kinds   []job.Variation   `json:"kinds" doc:"What may be built otherwise."`
	Rows    []BuiltRow        `json:"rows" doc:"What was."`
	Changes []rulebook.Change `json:"changes" doc:"Verdicts that it changed."`
	Designs map[string]string `json:"designs" doc:"As designed, by point and kind: A cable.size."`
}

// BuiltRow is one thing that was built otherwise.
type BuiltRow struct {
	Point    string `json:"point"`
	Title    string `json:"title"`
	Unit     string `json:"unit,omitempty"`
	Designed string `json:"designed"`
	Built    string `json:"built"`
	By       string `json:"by"`
	Reason   string `json:"reason"`
}

// AsBuilt compares a job as designed with the job as built.
func (a *App) AsBuilt(ctx context.Context, by Person, id string) (AsBuilt, error) {
	out := AsBuilt{Kinds: job.Variations, Rows: []BuiltRow{}, Designs: map[string]string{}}
	v, err := a.Open(ctx, by, id)
	if err != nil {
		return out, err
	}
	for _, p := range v.Job.Points() {
		for _, k := range job.Variations {
			out.Designs[p.ID+" "+k.ID] = k.Value(p)
			if e, ok := v.Job.Latest(job.Varied, p.ID, k.ID); ok {
				out.Rows = append(out.Rows, BuiltRow{p.ID, k.Title, k.Unit, k.Value(p), e.Value, e.By, e.Reason})
			}
		}
	}
	out.Changes, err = rulebook.Changes(&v.Job)
	return out, err
}
