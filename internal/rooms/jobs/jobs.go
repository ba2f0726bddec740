package jobs

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"dogbolt/core/desk"
	"dogbolt/core/job"
	"dogbolt/core/planning"
	"dogbolt/core/reach"
	"dogbolt/core/rulebook"
	"dogbolt/core/schema"
	"dogbolt/core/worklog"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/store"
)

// wholeJob reads a job without judging it.
func (svc *Service) Whole(ctx context.Context, id string) (job.Job, error) {
	w, err := svc.store.Whole(ctx, id)
	if err != nil {
		return job.Job{}, err
	}
	return Assemble(w)
}

// noDate sorts jobs without a date last.
const noDate = "9999-12-31"

// Summary is a job as lists show it.
type Summary struct {
	ID       string    `json:"id"`
	Number   string    `json:"number"`
	Rulebook string    `json:"rulebook"`
	Customer string    `json:"customer"`
	Address  string    `json:"address"`
	Town     string    `json:"town"`
	Stage    job.Stage `json:"stage"`
	NextDate string    `json:"nextDate" doc:"Next date that someone waits for; empty for none."`
	NextWhat string    `json:"nextWhat"`
	Blocker  string    `json:"blocker" doc:"First thing in the way."`
	Stops    int       `json:"stops"`
	Watches  int       `json:"watches"`
	Opens    int       `json:"opens"`
	Sealed   bool      `json:"sealed"`
}

func summary(j store.Job) Summary {
	s := Summary{
		ID: j.ID, Number: j.Number, Rulebook: j.Rulebook, Customer: j.Customer, Address: j.Address, Town: j.Town,
		Stage: job.Stage(j.Stage), NextDate: j.NextDate, NextWhat: j.NextWhat, Blocker: j.Blocker,
		Stops: j.Stops, Watches: j.Watches, Opens: j.Opens, Sealed: j.Sealed,
	}
	if s.NextDate == noDate {
		s.NextDate = ""
	}
	return s
}

// Jobs lists jobs, sorted by next date.
func (svc *Service) Jobs(ctx context.Context, by people.Person, f store.Filter) ([]Summary, int64, error) {
	if err := people.May(by, people.ViewJobs); err != nil {
		return nil, 0, err
	}
	rows, total, err := svc.store.Jobs(ctx, f)
	out := make([]Summary, len(rows))
	for i, r := range rows {
		out[i] = summary(r)
	}
	return out, total, err
}

// View is a job opened: the document, its revisions, and everything that
// follows from it.
type View struct {
	Summary   Summary
	Job       job.Job
	Revisions map[string]int
	Editors   map[string]Editor
	desk.Desk
	Findings []rulebook.Finding
	House    desk.Settled // what judged it
	Book     *rulebook.Book
	Records  []store.Record
	Amending string // reason of the amendment that is open
}

// Editor is who saved a section last, and when.
type Editor struct {
	By string    `json:"by"`
	At time.Time `json:"at"`
}

// Open returns a job with its findings.
func (svc *Service) Open(ctx context.Context, by people.Person, id string) (View, error) {
	if err := people.May(by, people.ViewJobs); err != nil {
		return View{}, err
	}
	w, err := svc.store.Whole(ctx, id)
	if err != nil {
		return View{}, err
	}
	j, err := Assemble(w)
	if err != nil {
		return View{}, err
	}
	house, err := svc.firm.OnSite(ctx)
	if err != nil {
		return View{}, err
	}
	v, err := Judge(w, j, house, svc.now())
	if err != nil {
		return View{}, err
	}
	v.Records, err = svc.store.Records(ctx, id)
	return v, err
}

// view checks an assembled job.
func Judge(w store.Whole, j job.Job, house desk.Settled, now time.Time) (View, error) {
	v := View{House: house, Summary: summary(w.Job), Job: j, Revisions: map[string]int{}, Editors: map[string]Editor{}, Amending: w.Job.Reason}
	for _, s := range w.Sections {
		v.Revisions[s.Name] = s.Revision
		v.Editors[s.Name] = Editor{s.By, s.Updated}
	}
	var err error
	if v.Book, err = rulebook.For(&j); err != nil {
		return v, err
	}
	v.Desk, v.Findings, err = desk.Of(&j, &v.House, now)
	return v, err
}

// assemble puts the sections and the log together.
func Assemble(w store.Whole) (job.Job, error) {
	j := job.Job{Format: job.Format, Number: w.Job.Number, Rulebook: w.Job.Rulebook}
	var refused []schema.Refused
	var kept refusedRow
	for _, s := range w.Sections {
		if job.SectionName(s.Name) == job.RefusedSection {
			if err := json.Unmarshal(s.Body, &kept); err != nil {
				return j, fmt.Errorf("job %s, refused values: %w", w.Job.Number, err)
			}
			continue
		}
		part, ok := job.FindSection(job.SectionName(s.Name))
		if !ok {
			return j, fmt.Errorf("job %s has an unknown section %q", w.Job.Number, s.Name)
		}
		found, errs := part.ReadOld(&j, s.Body)
		if len(errs) > 0 {
			return j, fmt.Errorf("job %s: %w", w.Job.Number, errs)
		}
		refused = append(refused, found...)
	}
	j.Log = make([]job.Entry, 0, len(w.Entries))
	for i, e := range w.Entries {
		var entry job.Entry
		found, errs := schema.Of[job.Entry]().ReadOld(fmt.Sprintf("log[%d]", i), e.Body, &entry)
		refused = append(refused, found...)
		switch {
		case len(errs) > 0 && len(found) == 0:
			return j, fmt.Errorf("job %s, entry %s: %w", w.Job.Number, e.ID, errs)
		case entry.ID != "": // else it is set aside whole
			j.Log = append(j.Log, entry)
		}
	}
	j.Refused = kept.Open
	for _, r := range refused {
		if !slices.Contains(kept.Open, r) && !slices.Contains(kept.Settled, r) {
			j.Refused = append(j.Refused, r)
		}
	}
	return j, nil
}

// refusedRow is how the store keeps what an older program took and this one
// refuses. What is settled stays: rows of an old database may hold it still.
type refusedRow struct {
	Open    []schema.Refused `json:"open"`
	Settled []schema.Refused `json:"settled"`
}

func refusedOf(w *store.Whole) (row refusedRow, body []byte, err error) {
	i := slices.IndexFunc(w.Sections, func(s store.Section) bool { return s.Name == string(job.RefusedSection) })
	if i < 0 {
		return row, nil, nil
	}
	return row, w.Sections[i].Body, json.Unmarshal(w.Sections[i].Body, &row)
}

var sectionAction = map[job.SectionName]people.Action{
	job.SiteSection: people.SaveSite, job.SurveySection: people.SaveSurvey, job.DesignSection: people.SaveDesign,
	job.ClearancesSection: people.SavePapers, job.PlanSection: people.SavePlan,
}

// NewJob is a job to be made.
type NewJob struct {
	Number   string // "" takes the next free one
	Rulebook string
	Site     job.Site
	Points   int
}

// CreateJob makes a job, pinned to a rulebook, with the papers that the
// rulebook proposes.
func (svc *Service) CreateJob(ctx context.Context, by people.Person, n NewJob) (View, error) {
	if err := people.May(by, people.CreateJobs); err != nil {
		return View{}, err
	}
	book, ok := rulebook.Find(n.Rulebook)
	if !ok {
		return View{}, schema.Invalid("rulebook", "%q is not an edition this program knows", n.Rulebook)
	}
	if n.Points < 1 || n.Points > 12 {
		return View{}, schema.Invalid("points", "a job has 1 to 12 charging points, not %d", n.Points)
	}
	j := job.Job{Format: job.Format, Number: strings.TrimSpace(n.Number), Rulebook: book.ID, Site: n.Site}
	for i := range n.Points {
		id := string(rune('A' + i))
		j.Survey.Places = append(j.Survey.Places, job.Place{Point: id})
		j.Design.Circuits = append(j.Design.Circuits, job.Circuit{Point: id})
	}
	j.Clearances.Papers = book.NewPapers(&j)
	return svc.insert(ctx, by, j, "create job")
}

// Import makes a job from a job file. The log comes along, where the person may
// write each of its entries: nobody brings in by a file what they may not do.
func (svc *Service) Import(ctx context.Context, by people.Person, data []byte) (View, error) {
	if err := people.May(by, people.CreateJobs); err != nil {
		return View{}, err
	}
	j, err := job.Read(data)
	var errs schema.Errors
	switch {
	case errors.As(err, &errs):
		return View{}, errs
	case err != nil:
		return View{}, schema.Invalid("file", "%v", err)
	}
	if _, err := rulebook.For(&j); err != nil {
		return View{}, schema.Errors{{Field: "rulebook", Message: err.Error()}}
	}
	for i, e := range j.Log {
		if err := people.May(by, people.ActionOf(e)); err != nil {
			return View{}, fmt.Errorf("log[%d] of the file: %w", i, err)
		}
	}
	return svc.insert(ctx, by, j, "import job")
}

// insert writes a whole job: all of it, or nothing.
func (svc *Service) insert(ctx context.Context, by people.Person, j job.Job, action string) (View, error) {
	house, err := svc.firm.OnSite(ctx)
	if err != nil {
		return View{}, err
	}
	row := store.Job{ID: uuid.NewString(), Number: j.Number, Rulebook: j.Rulebook, Created: svc.now()}
	var v View
	err = svc.store.Write(ctx, func(tx *store.Tx) error {
		if row.Number == "" {
			n, err := tx.NextNumber("DB-")
			if err != nil {
				return err
			}
			row.Number, j.Number = n, n
		}
		if errs := append(j.Check(), reach.Problems(&j.Survey)...); len(errs) > 0 {
			return errs
		}
		if err := svc.importedDay(ctx, tx, row.ID, &j); err != nil {
			return err
		}
		if err := tx.CreateJob(row); err != nil {
			return err
		}
		for _, part := range job.Sections {
			body, err := part.Write(&j)
			if err != nil {
				return err
			}
			saved := store.Section{JobID: row.ID, Name: string(part.Name), Body: body, Updated: svc.now(), By: by.Name}
			if _, err := tx.SaveSection(saved, 0); err != nil {
				return err
			}
		}
		if err := svc.keepRefused(tx, &store.Whole{Job: row}, by, j.Refused, nil); err != nil {
			return err
		}
		for _, e := range j.Log {
			if err := svc.AddEntry(tx, row.ID, e); err != nil {
				return err
			}
		}
		if err := tx.Note(svc.now(), by.Name, action, row.ID, row.Number); err != nil {
			return err
		}
		w, err := tx.Whole(row.ID)
		if err != nil {
			return err
		}
		if j, err = Assemble(w); err != nil {
			return err
		}
		v, err = svc.refresh(tx, w, j, house)
		return err
	})
	if errors.Is(err, store.ErrTaken) {
		return View{}, schema.Invalid("number", "%q is already a job's, or one of the file's entries belongs to another job", row.Number)
	}
	return v, err
}

func (svc *Service) AddEntry(tx *store.Tx, jobID string, e job.Entry) error {
	e.At = e.At.UTC()
	body, err := json.Marshal(e)
	if err != nil {
		return err
	}
	_, err = tx.AddEntry(store.Entry{ID: e.ID, JobID: jobID, At: e.At, Body: body, Received: svc.now()})
	return err
}

// refresh writes the summary columns of a changed job anew from its findings,
// and returns the job as it now is.
func (svc *Service) refresh(tx *store.Tx, w store.Whole, j job.Job, house desk.Settled) (View, error) {
	v, err := Judge(w, j, house, svc.now())
	if err != nil {
		return v, err
	}
	row := w.Job
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
	row.NextDate, row.NextWhat = nextDate(&j)
	row.Updated = svc.now()
	v.Summary = summary(row)
	if err := indexes(tx, row.ID, &v.Job); err != nil {
		return v, err
	}
	return v, tx.SaveJob(row)
}

// nextDate returns the earliest date that someone waits for: a paper that is
// due, or the day of the work while it has not begun.
func nextDate(j *job.Job) (date, what string) {
	date = noDate
	for _, p := range j.Clearances.Papers {
		if p.Due != "" && p.Granted == "" && p.Needed != job.No && p.Due < date {
			date, what = p.Due, p.Title
		}
	}
	started := slices.ContainsFunc(j.Log, func(e job.Entry) bool { return e.Kind == job.StepDone && e.Subject == worklog.Energise })
	if j.Plan.Day != "" && j.Plan.Day < date && !started {
		date, what = j.Plan.Day, "installation"
	}
	return date, what
}

// Edit is a section as somebody changed it.
type Edit struct {
	Seen    int          // revision that it began from
	Body    []byte       // the section's JSON
	Base    []byte       // what it began from, to be joined with what came meanwhile; nil: not to be joined
	Choices []job.Choice // of fields that clashed before
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

// merge joins an edit with what was saved since it began.
func (e *Edit) merge(w *store.Whole, name job.SectionName, shape any) error {
	i := slices.IndexFunc(w.Sections, func(s store.Section) bool { return s.Name == string(name) })
	if e.Base == nil || i < 0 || w.Sections[i].Revision == e.Seen {
		return nil
	}
	now := w.Sections[i]
	body, clashes, err := job.Merge(e.Base, e.Body, now.Body, e.Choices)
	if err != nil {
		return err
	}
	if len(clashes) > 0 {
		for k := range clashes {
			clashes[k].Title = job.Describe(shape, clashes[k].Field)
		}
		return ClashError{string(name), Editor{now.By, now.Updated}, clashes}
	}
	e.Body, e.Seen = body, now.Revision
	return nil
}

// SaveSection writes one section of a job as it was edited. Where somebody else
// saved first, the two are joined field by field, if the edit says what it began
// from; ErrConflict means that they cannot be, and nothing was written.
func (svc *Service) SaveSection(ctx context.Context, by people.Person, id string, name job.SectionName, e Edit) (View, error) {
	part, ok := job.FindSection(name)
	if !ok {
		return View{}, fmt.Errorf("section %q: %w", name, store.ErrNotFound)
	}
	if err := people.May(by, sectionAction[name]); err != nil {
		return View{}, err
	}
	return svc.Change(ctx, id, func(tx *store.Tx, w *store.Whole, j *job.Job) error {
		if w.Job.Sealed {
			return people.ErrSealed
		}
		// What is sent is valid before it is joined with anything, and so is the outcome.
		var sent job.Job
		if errs := part.Read(&sent, e.Body); len(errs) > 0 {
			return errs
		}
		photos, plan := j.Survey.Photos, j.Plan
		if err := e.merge(w, name, part.Part(j)); err != nil {
			return err
		}
		if errs := part.Read(j, e.Body); len(errs) > 0 {
			return errs
		}
		if errs := j.Validate(); len(errs) > 0 {
			return errs
		}
		switch name {
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
}

// putSection writes a section and notes it. seen is the revision that the
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

// change runs f on a job in a write transaction, then checks the job as f left
// it, writes its summary, and returns it.
func (svc *Service) Change(ctx context.Context, id string, f func(*store.Tx, *store.Whole, *job.Job) error) (View, error) {
	house, err := svc.firm.OnSite(ctx)
	if err != nil {
		return View{}, err
	}
	var v View
	err = svc.store.Write(ctx, func(tx *store.Tx) error {
		w, err := tx.Whole(id)
		if err != nil {
			return err
		}
		j, err := Assemble(w)
		if err != nil {
			return err
		}
		if err := f(tx, &w, &j); err != nil {
			return err
		}
		v, err = svc.refresh(tx, w, j, house)
		return err
	})
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

// keepRefused writes the values of an older program that are set aside, where the
// store does not have them as they are. settled is one that is no longer open.
func (svc *Service) keepRefused(tx *store.Tx, w *store.Whole, by people.Person, open, settled []schema.Refused) error {
	row, before, err := refusedOf(w)
	if err != nil || before == nil && len(open)+len(settled) == 0 {
		return err
	}
	row.Open, row.Settled = open, append(row.Settled, settled...)
	body, err := json.Marshal(row)
	if err != nil || bytes.Equal(before, body) {
		return err
	}
	return svc.PutSection(tx, w, by, job.RefusedSection, -1, body)
}

// SettleRefused takes a value of an older program off the list of those that are
// refused, once a person has entered it anew or found that it is not needed. The
// audit keeps what it was.
func (svc *Service) SettleRefused(ctx context.Context, by people.Person, id, field string) (View, error) {
	if err := people.May(by, people.SaveSurvey); err != nil {
		return View{}, err
	}
	return svc.Change(ctx, id, func(tx *store.Tx, w *store.Whole, j *job.Job) error {
		if w.Job.Sealed {
			return people.ErrSealed
		}
		i := slices.IndexFunc(j.Refused, func(r schema.Refused) bool { return r.Field == field })
		if i < 0 {
			return fmt.Errorf("refused value %q: %w", field, store.ErrNotFound)
		}
		was := j.Refused[i]
		j.Refused = slices.Delete(slices.Clone(j.Refused), i, i+1)
		if err := tx.Note(svc.now(), by.Name, "settle refused value", id, was.Field+" was "+was.Value+": "+was.Why); err != nil {
			return err
		}
		return svc.keepRefused(tx, w, by, j.Refused, []schema.Refused{was})
	})
}

// SetRulebook pins a job to another edition, which checks everything again.
func (svc *Service) SetRulebook(ctx context.Context, by people.Person, id, edition string) (View, error) {
	if err := people.May(by, people.SaveDesign); err != nil {
		return View{}, err
	}
	if _, ok := rulebook.Find(edition); !ok {
		return View{}, schema.Invalid("rulebook", "%q is not an edition this program knows", edition)
	}
	return svc.Change(ctx, id, func(tx *store.Tx, w *store.Whole, j *job.Job) error {
		if w.Job.Sealed {
			return people.ErrSealed
		}
		old := w.Job.Rulebook
		w.Job.Rulebook, j.Rulebook = edition, edition
		return tx.Note(svc.now(), by.Name, "change rulebook", id, old+" to "+edition)
	})
}

// Export returns the job document as a job file.
func (svc *Service) Export(ctx context.Context, by people.Person, id string) (job.Job, error) {
	if err := people.May(by, people.ViewJobs); err != nil {
		return job.Job{}, err
	}
	w, err := svc.store.Whole(ctx, id)
	if err != nil {
		return job.Job{}, err
	}
	return Assemble(w)
}

// carried is how many jobs a device carries. Common practice, no source.
const carried = 8

// Mine lists the jobs that a person's device should carry: those that their crew
// is booked for in the next two weeks, or else the next ones of the list.
func (svc *Service) Mine(ctx context.Context, by people.Person) ([]Summary, error) {
	if err := people.May(by, people.ViewJobs); err != nil {
		return nil, err
	}
	now := svc.now()
	booked, err := svc.store.Bookings(ctx, now.AddDate(0, 0, -1).Format(time.DateOnly), now.AddDate(0, 0, 14).Format(time.DateOnly))
	if err != nil {
		return nil, err
	}
	slices.SortStableFunc(booked, func(x, y planning.Booking) int { return strings.Compare(x.Day+x.Start, y.Day+y.Start) })
	out := []Summary{}
	for _, b := range booked {
		if len(out) == carried || !slices.ContainsFunc(b.People, func(n string) bool { return strings.EqualFold(n, by.Name) }) {
			continue
		}
		row, err := svc.store.Job(ctx, b.Job)
		if err != nil {
			return nil, err
		}
		if !row.Sealed {
			out = append(out, summary(row))
		}
	}
	if len(out) > 0 {
		return out, nil
	}
	out, _, err = svc.Jobs(ctx, by, store.Filter{Limit: carried})
	return out, err
}

// Audit lists who changed what on a job.
func (svc *Service) Audit(ctx context.Context, by people.Person, id string) ([]store.Audit, error) {
	if err := people.May(by, people.ViewJobs); err != nil {
		return nil, err
	}
	return svc.store.AuditOf(ctx, id, 200)
}
