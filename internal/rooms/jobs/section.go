package jobs

import (
	"context"
	"errors"
	"fmt"
	"reflect"
	"slices"
	"time"

	"dogbolt/core/clearance"
	"dogbolt/core/job"
	"dogbolt/core/reach"
	"dogbolt/core/rulebook"
	"dogbolt/core/schema"
	"dogbolt/core/worklog"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/store"
)

var sectionAction = map[job.SectionName]people.Action{
	job.SiteSection: people.SaveSite, job.SurveySection: people.SaveSurvey, job.DesignSection: people.SaveDesign,
	job.ClearancesSection: people.SavePapers, job.PlanSection: people.SavePlan,
}

// keep runs write in a write transaction, then writes the summary of the job that it returns,
// which follows from its findings, and returns the job as it now is. expected is that job, as
// far as it is known before: it is judged while others write, and the job anew only where it
// became another. last runs once, before all of it is kept.
func (svc *Service) keep(ctx context.Context, expected job.Job, write func(*store.Tx) (store.Whole, job.Job, error), last ...func() error) (View, error) {
	policy, err := svc.firm.OnSite(ctx)
	if err != nil {
		return View{}, err
	}
	v, err := Judge(store.Whole{}, expected, policy.WorkPolicy, svc.now())
	if err != nil {
		return View{}, err
	}
	err = svc.store.Write(ctx, func(tx *store.Tx) error {
		w, j, err := write(tx)
		if err != nil {
			return err
		}
		if schema.Same(&j, &expected) {
			v.of(w, j)
		} else if v, err = Judge(w, j, policy.WorkPolicy, svc.now()); err != nil {
			return err
		}
		law := policy.Law(&j)
		row := summed(w.Job, &v, &j, law, svc.now())
		v.Summary = summary(row)
		if err := indexes(tx, row.ID, &v.Job, law); err != nil {
			return err
		}
		if err := tx.SaveJob(row); err != nil {
			return err
		}
		for _, f := range last {
			if err := f(); err != nil {
				return err
			}
		}
		return nil
	})
	if err != nil {
		return View{}, err
	}
	return v, nil
}

// summed is a job's row with the summary of what follows from the job.
func summed(row store.Job, v *View, j *job.Job, law clearance.Law, now time.Time) store.Job {
	row.Customer, row.Address, row.Town = j.Site.Customer, j.Site.Street, j.Site.Town
	row.Stops, row.Watches, row.Opens, row.Blocker = 0, 0, 0, ""
	for _, b := range v.Spine {
		row.Stops, row.Watches, row.Opens = row.Stops+b.Stops, row.Watches+b.Watch, row.Opens+b.Open
	}
	row.Stage = string(rulebook.CurrentStage(v.Spine))
	for _, verdict := range []rulebook.Verdict{rulebook.Open, rulebook.Stop} {
		if i := slices.IndexFunc(v.Findings, func(f rulebook.Finding) bool { return f.Verdict == verdict && f.Blocks() }); i >= 0 {
			row.Blocker = v.Findings[i].Title // a stop overwrites an open one
		}
	}
	row.NextDate, row.NextWhat = nextDate(j, law)
	row.Updated = now
	return row
}

// nextDate returns the earliest date that someone waits for: a paper that is
// due, or the day of the work while it has not begun.
func nextDate(j *job.Job, law clearance.Law) (date, what string) {
	date = noDate
	for _, p := range j.PapersNow() {
		if p.Due != "" && p.Granted == "" && p.Needed != job.No && p.Due < date {
			date, what = p.Due, p.Title
		}
		if _, last := law.Of(j, &p); last != "" && p.Needed == job.Yes && last < date {
			date, what = last, p.Title
		}
	}
	if j.Plan.Day != "" && j.Plan.Day < date && !energised(j) {
		date, what = j.Plan.Day, "installation"
	}
	return date, what
}

func energised(j *job.Job) bool {
	for _, e := range j.Of(job.StepDone) {
		if e.Subject == worklog.Energise {
			return true
		}
	}
	return false
}

// Edit is a section as somebody changed it.
type Edit struct {
	Seen    int          // revision that it began from
	Body    []byte       // the section's JSON
	Base    []byte       // what it began from, to be joined with what came meanwhile; nil: not to be joined
	Choices []job.Choice // of fields that clashed before
	Partly  bool         // what cannot be kept is left as it was, and the rest is kept
}

// ClashError lists the fields of a section that two people changed differently.
type ClashError struct {
	Section string
	Editor
	Clashes []job.Clash
}

// Error names who changed the fields.
func (c ClashError) Error() string {
	return fmt.Sprintf("%s changed %d of the same fields of the %s at %s UTC; choose field by field", c.By, len(c.Clashes), c.Section, c.At.Format("15:04:05"))
}

// Unwrap makes the error an ErrConflict.
func (c ClashError) Unwrap() error { return store.ErrConflict }

// merge joins an edit with what was saved since it began, and reports whether there
// was anything to join it with.
func (e *Edit) merge(w *store.Whole, name job.SectionName, shape any) (joined bool, err error) {
	i := slices.IndexFunc(w.Sections, func(s store.Section) bool { return s.Name == string(name) })
	if e.Base == nil || i < 0 || w.Sections[i].Revision == e.Seen {
		return false, nil
	}
	now := w.Sections[i]
	body, clashes, err := job.Merge(e.Base, e.Body, now.Body, e.Choices)
	if err != nil {
		return false, err
	}
	if len(clashes) > 0 {
		for k := range clashes {
			clashes[k].Title = job.Describe(shape, clashes[k].Field)
		}
		return false, ClashError{string(name), Editor{now.By, now.Updated}, clashes}
	}
	e.Body, e.Seen = body, now.Revision
	return true, nil
}

// SaveSection writes one section of a job as it was edited. Where somebody else
// saved first, the two are joined field by field, if the edit says what it began
// from; ErrConflict means that they cannot be, and nothing was written. Where it may be kept in
// part, the view says what is held back.
func (svc *Service) SaveSection(ctx context.Context, by people.Person, id string, name job.SectionName, e Edit) (View, error) {
	part, ok := job.FindSection(name)
	if !ok {
		return View{}, fmt.Errorf("section %q: %w", name, store.ErrNotFound)
	}
	if err := people.May(by, sectionAction[name]); err != nil {
		return View{}, err
	}
	var held schema.Errors
	v, err := svc.Change(ctx, id, func(tx *store.Tx, w *store.Whole, j *job.Job) (err error) {
		e := e // as it was sent, each time
		if w.Job.Sealed && name != job.ClearancesSection {
			return people.ErrSealed
		}
		photos, plan, papers := j.Survey.Photos, j.Plan, j.Clearances.Papers
		if e.Partly {
			if held, err = e.keep(part, j); err != nil {
				return err
			}
		}
		// What is sent is valid before it is joined with anything, and so is the outcome.
		if errs := part.Read(j, e.Body); len(errs) > 0 {
			return errs
		}
		joined, err := e.merge(w, name, part.Part(j))
		if err != nil {
			return err
		}
		if joined {
			if errs := part.Read(j, e.Body); len(errs) > 0 {
				return errs
			}
		}
		if errs := j.Validate(); len(errs) > 0 {
			return errs
		}
		switch name {
		case job.SiteSection:
			if errs := spoken(j); len(errs) > 0 {
				return errs
			}
		case job.ClearancesSection:
			if w.Job.Sealed && !onlyForms(papers, j.Clearances.Papers) {
				return people.ErrSealed
			}
		case job.SurveySection:
			if err := checkSurvey(tx, id, &j.Survey, photos); err != nil {
				return err
			}
		case job.PlanSection:
			if err := svc.keepBooking(ctx, tx, id, j, plan); err != nil {
				return err
			}
		}
		body, err := part.Write(j)
		if err != nil {
			return err
		}
		if err := svc.keepRefused(tx, w, by, j.Refused, nil); err != nil {
			return err
		}
		return svc.PutSection(tx, w, by, name, e.Seen, body)
	})
	v.Held = held
	return v, err
}

// onlyForms reports whether papers differ in nothing but what the forms of those that come after
// the work say, and what goes with them: a sealed record has all the rest.
func onlyForms(was, now []job.Paper) bool {
	return slices.EqualFunc(was, now, func(a, b job.Paper) bool {
		if a.Before == job.After && b.Before == job.After {
			b.Form, b.Answers, b.Attached, b.SignedBy, b.SignedOn = a.Form, a.Answers, a.Attached, a.SignedBy, a.SignedOn
		}
		return reflect.DeepEqual(a, b)
	})
}

// keep leaves of an edit what can be kept, and returns what cannot. Where nothing can be, as
// where what it began from is not valid today, it fails with what is wrong.
func (e *Edit) keep(part job.Section, j *job.Job) (schema.Errors, error) {
	base := e.Base
	if base == nil {
		var err error
		if base, err = part.Write(j); err != nil {
			return nil, err
		}
	}
	body, held, err := part.Keep(j, base, e.Body, func(j *job.Job) schema.Errors { return reach.Problems(&j.Survey) })
	if err != nil {
		return nil, err
	}
	if body == nil {
		return nil, held
	}
	e.Body = body
	return held, nil
}

// PutSection writes a section and notes it. seen is the revision that the
// person has seen, or -1 for whatever there is.
func (svc *Service) PutSection(tx *store.Tx, w *store.Whole, by people.Person, name job.SectionName, seen int, body []byte) error {
	if part, ok := job.FindSection(name); ok {
		var scratch job.Job
		if errs := part.Read(&scratch, body); len(errs) > 0 {
			return errs
		}
	}
	i := slices.IndexFunc(w.Sections, func(s store.Section) bool { return s.Name == string(name) })
	if seen < 0 {
		seen = 0
		if i >= 0 {
			seen = w.Sections[i].Revision
		}
	}
	saved := store.Section{JobID: w.Job.ID, Name: string(name), Body: body, Updated: svc.now(), By: by.Name}
	var err error
	saved.Revision, err = tx.SaveSection(saved, seen)
	if errors.Is(err, store.ErrConflict) {
		return conflictOn(*w, string(name))
	}
	if err != nil {
		return err
	}
	if i >= 0 {
		w.Sections[i] = saved
	} else {
		w.Sections = append(w.Sections, saved)
	}
	return tx.Note(svc.now(), by.Name, "save "+string(name), w.Job.ID, fmt.Sprintf("revision %d", saved.Revision))
}

// errTried takes back what was only tried.
var errTried = errors.New("tried")

// Change runs f on a job in a write transaction, then checks the job as f left
// it, writes its summary, and returns it. f is run twice, and what it did the first time is
// taken back, so it does nothing outside of the database: that is for last, which runs once, when
// all the rest is written.
func (svc *Service) Change(ctx context.Context, id string, f func(*store.Tx, *store.Whole, *job.Job) error, last ...func() error) (View, error) {
	write := func(tx *store.Tx) (w store.Whole, j job.Job, err error) {
		if w, err = tx.Whole(id); err != nil {
			return w, j, err
		}
		if j, err = Assemble(w); err != nil {
			return w, j, err
		}
		return w, j, f(tx, &w, &j)
	}
	var expected job.Job
	err := svc.store.Write(ctx, func(tx *store.Tx) (err error) {
		if _, expected, err = write(tx); err != nil {
			return err
		}
		return errTried
	})
	if !errors.Is(err, errTried) {
		return View{}, err
	}
	v, err := svc.keep(ctx, expected, write, last...)
	if err != nil {
		return View{}, err
	}
	v.Records, err = svc.store.Records(ctx, id)
	return v, err
}

// ConflictError says who saved a section first, and when.
type ConflictError struct {
	Section  string
	Revision int
	Editor
}

// Error returns the message for the person who came second.
func (c ConflictError) Error() string {
	return fmt.Sprintf("%s saved the %s at %s UTC, after you opened it; nothing of yours was written", c.By, c.Section, c.At.Format("15:04:05"))
}

// Unwrap makes the error an ErrConflict.
func (c ConflictError) Unwrap() error { return store.ErrConflict }

func conflictOn(w store.Whole, name string) error {
	for _, s := range w.Sections {
		if s.Name == name {
			return ConflictError{name, s.Revision, Editor{s.By, s.Updated}}
		}
	}
	return store.ErrConflict
}
