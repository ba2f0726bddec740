package jobs

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"golang.org/x/text/unicode/norm"

	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/planning"
	"dogbolt/core/quantity"
	"dogbolt/core/reach"
	"dogbolt/core/record"
	"dogbolt/core/rulebook"
	"dogbolt/core/schema"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/store"
)

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

// List is a part of the list of jobs.
type List struct {
	Jobs  []Summary `json:"jobs"`
	Total int64     `json:"total" doc:"How many match, from the beginning."`
	More  bool      `json:"more" doc:"There are more than the total: they were not counted."`
	Next  string    `json:"next" doc:"To be sent as after, for what follows; empty at the end."`
}

// Jobs lists jobs, sorted by next date.
func (svc *Service) Jobs(ctx context.Context, by people.Person, f store.Filter) (List, error) {
	if err := people.May(by, people.ViewJobs); err != nil {
		return List{}, err
	}
	only, err := svc.Only(ctx, by)
	if err != nil {
		return List{}, err
	}
	f.Only = only
	p, err := svc.store.Jobs(ctx, f)
	out := List{Jobs: make([]Summary, len(p.Jobs)), Total: p.Total, More: p.More}
	for i, r := range p.Jobs {
		out.Jobs[i] = summary(r)
	}
	if p.Next != (store.Place{}) {
		out.Next = p.Next.String()
	}
	return out, err
}

// Only returns the name of a person who sees none but the jobs that they are booked for; ""
// for one who sees all.
func (svc *Service) Only(ctx context.Context, by people.Person) (string, error) {
	if by.Roles.May(people.ViewAll) {
		return "", nil
	}
	open, err := svc.firm.OpenJobs(ctx)
	if err != nil || open {
		return "", err
	}
	return by.Name, nil
}

// Sees reports why a person does not see a job, or nil: to who does not, it is not there.
func (svc *Service) Sees(ctx context.Context, by people.Person, id string) error {
	only, err := svc.Only(ctx, by)
	if err != nil || only == "" {
		return err
	}
	booked, err := svc.store.BookedFor(ctx, id, only)
	if err == nil && !booked {
		err = fmt.Errorf("job %q: %w", id, store.ErrNotFound)
	}
	return err
}

// NewJob is a job to be made.
type NewJob struct {
	Number   string // "" takes the next free one
	Rulebook string
	Site     job.Site
	Points   int
	Kind     job.Kind // "" for NewCircuit
	From     string   // id of a job at the same site that it begins from, "" for none
}

// CreateJob makes a job, pinned to a rulebook, with the papers that the rulebook proposes and
// what the firm usually begins with.
func (svc *Service) CreateJob(ctx context.Context, by people.Person, n NewJob) (View, error) {
	if err := people.May(by, people.CreateJobs); err != nil {
		return View{}, err
	}
	book, ok := rulebook.Find(n.Rulebook)
	if !ok {
		return View{}, schema.Invalid("rulebook", "%q is not an edition this program knows", n.Rulebook)
	}
	if n.From != "" {
		return svc.next(ctx, by, book, n)
	}
	if n.Points < 1 || n.Points > 12 {
		return View{}, schema.Invalid("points", "a job has 1 to 12 charging points, not %d", n.Points)
	}
	j := job.Job{Format: job.Format, Number: strings.TrimSpace(n.Number), Rulebook: book.ID, Site: n.Site}
	begin, err := svc.firm.Beginning(ctx, book.In.ID)
	if err != nil {
		return View{}, err
	}
	for i := range n.Points {
		id := string(rune('A' + i))
		j.Survey.Places = append(j.Survey.Places, job.Place{Point: id})
		c := job.Circuit{Point: id}
		if !n.Kind.There() {
			c = begin.Design(id)
		}
		n.Kind.Begin(&c)
		j.Design.Circuits = append(j.Design.Circuits, c)
	}
	if j.Clearances.Papers = book.NewPapers(&j); !n.Kind.There() {
		j.Clearances.Papers = begin.With(j.Clearances.Papers, book.ID)
	}
	return svc.insert(ctx, by, j, "create job")
}

// next makes a job at the site of another, as that one left it. Its customer and address come along: they are corrected in the
// new job where somebody else lives there now.
func (svc *Service) next(ctx context.Context, by people.Person, book *rulebook.Book, n NewJob) (View, error) {
	if err := svc.Sees(ctx, by, n.From); err != nil {
		return View{}, err
	}
	from, err := svc.Open(ctx, by, n.From)
	switch {
	case err != nil:
		return View{}, err
	case n.Site != job.Site{}:
		return View{}, schema.Invalid("site", "is that of the job before; it is corrected in the new one")
	case n.Points > 1:
		return View{}, schema.Invalid("points", "are those of the job before; more are added in the survey")
	case from.Book.In != book.In:
		return View{}, schema.Invalid("rulebook", "the job before was judged by rules of another country, %s", from.Book.Name)
	}
	j := from.Job.Next(n.Kind, measured(&from))
	j.Number, j.Rulebook = strings.TrimSpace(n.Number), book.ID
	if len(j.Survey.Places) == 0 {
		begin, err := svc.firm.Beginning(ctx, book.In.ID)
		if err != nil {
			return View{}, err
		}
		j.Survey.Places, j.Design.Circuits = []job.Place{{Point: "A"}}, []job.Circuit{begin.Design("A")}
		n.Kind.Begin(&j.Design.Circuits[0])
	}
	j.Clearances.Papers = book.NewPapers(&j)
	return svc.insert(ctx, by, j, "create job")
}

// measured tells what was read on a job: loop and drop of a sub-main where the country asks them of a board.
func measured(from *View) job.Measured {
	asks := from.Book.In.Asked.Fields
	return job.Measured{
		Serial: func(c *job.Circuit) string { return commission.SerialOf(&from.Job, c) },
		Loop: func(point string) quantity.Ohm {
			if asks["board.loop"] == "" {
				return 0
			}
			return commission.LoopAt(&from.Job, point)
		},
		Drop: func(point string) float64 {
			for _, f := range from.Findings {
				if asks["board.drop"] != "" && f.Rule == "drop" && f.Point == point && f.Value.Set {
					return quantity.Round(f.Value.V, 2)
				}
			}
			return 0
		},
	}
}

// Import makes a job from a job file. The log comes along, where the person may
// write each of its entries: nobody brings in by a file what they may not do. Each entry
// says from then on who read it in: what it claims binds nobody.
func (svc *Service) Import(ctx context.Context, by people.Person, data []byte) (View, error) {
	if err := people.May(by, people.CreateJobs); err != nil {
		return View{}, err
	}
	j, err := job.Read(norm.NFC.Bytes(data))
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
		claim, err := record.Canonical(e)
		if err != nil {
			return View{}, err
		}
		sum := sha256.Sum256(claim)
		j.Log[i].Person = "" // an account of another server, if any
		j.Log[i].Imported = &job.Import{By: by.Name, At: svc.now(), Digest: hex.EncodeToString(sum[:])}
	}
	return svc.insert(ctx, by, j, "import job")
}

// Put makes a job that the program itself put together, with its log as it is: the demo's
// and the tests'. No operation offers it.
func (svc *Service) Put(ctx context.Context, by people.Person, j job.Job) (View, error) {
	return svc.insert(ctx, by, j, "create job")
}

// spoken refuses a language for the pack that the country's customers are not asked for.
func spoken(j *job.Job) schema.Errors {
	book, ok := rulebook.Find(j.Rulebook)
	if l := j.Site.Language; !ok || l == "" || l == job.English || slices.Contains(book.In.Languages, l) {
		return nil
	}
	return schema.Invalid("site.language", "the pack of a customer in %s is in English alone", book.In.Name)
}

// insert writes a whole job: all of it, or nothing.
func (svc *Service) insert(ctx context.Context, by people.Person, j job.Job, action string) (View, error) {
	expected := j
	if expected.Number == "" {
		expected.Number = "the next" // which it is, is known when it is written
	}
	if errs := slices.Concat(expected.Check(), reach.Problems(&expected.Survey), spoken(&expected)); len(errs) > 0 {
		return View{}, errs
	}
	made := store.Job{ID: uuid.NewString(), Number: j.Number, Rulebook: j.Rulebook, Created: svc.now()}
	v, err := svc.keep(ctx, expected, func(tx *store.Tx) (store.Whole, job.Job, error) {
		return svc.write(ctx, tx, by, made, j, action)
	})
	if errors.Is(err, store.ErrTaken) {
		return View{}, schema.Invalid("number", "%q is already a job's, or one of the file's entries belongs to another job", made.Number)
	}
	return v, err
}

// write writes a new job, and returns it as it is read again.
func (svc *Service) write(
	ctx context.Context,
	tx *store.Tx,
	by people.Person,
	row store.Job,
	j job.Job,
	action string,
) (w store.Whole, read job.Job, err error) {
	if row.Number == "" {
		if row.Number, err = tx.NextNumber("DB-"); err != nil {
			return w, read, err
		}
		j.Number = row.Number
	}
	if err := svc.importedDay(ctx, tx, row.ID, &j); err != nil {
		return w, read, err
	}
	if err := tx.CreateJob(row); err != nil {
		return w, read, err
	}
	for _, part := range job.Sections {
		body, err := part.Write(&j)
		if err != nil {
			return w, read, err
		}
		saved := store.Section{JobID: row.ID, Name: string(part.Name), Body: body, Updated: svc.now(), By: by.Name}
		if _, err := tx.SaveSection(saved, 0); err != nil {
			return w, read, err
		}
	}
	if err := svc.keepRefused(tx, &store.Whole{Job: row}, by, j.Refused, nil); err != nil {
		return w, read, err
	}
	for _, e := range j.Log {
		if err := svc.AddEntry(tx, row.ID, e); err != nil {
			return w, read, err
		}
	}
	if err := tx.Note(svc.now(), by.Name, action, row.ID, row.Number); err != nil {
		return w, read, err
	}
	if w, err = tx.Whole(row.ID); err != nil {
		return w, read, err
	}
	read, err = Assemble(w)
	return w, read, err
}

// AddEntry appends an entry to the log of a job; the same id twice is one.
func (svc *Service) AddEntry(tx *store.Tx, jobID string, e job.Entry) error {
	e.At = e.At.UTC()
	body, err := record.Canonical(e)
	if err != nil {
		return err
	}
	_, err = tx.AddEntry(store.Entry{ID: e.ID, JobID: jobID, At: e.At, Body: body, Received: svc.now()})
	return err
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
	list, err := svc.Jobs(ctx, by, store.Filter{Limit: carried})
	return list.Jobs, err
}

// Audit lists who changed what on a job.
func (svc *Service) Audit(ctx context.Context, by people.Person, id string) ([]store.Audit, error) {
	if err := people.May(by, people.ViewJobs); err != nil {
		return nil, err
	}
	return svc.store.AuditOf(ctx, id, 200)
}
