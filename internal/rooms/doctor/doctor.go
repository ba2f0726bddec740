// Package doctor looks whether all that was written is still there as it was written.
package doctor

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"dogbolt/core/chain"
	"dogbolt/core/clearance"
	"dogbolt/core/job"
	"dogbolt/core/record"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/store"
)

// Store is what this room needs of the database.
type Store interface {
	Folder() string
	Integrity(ctx context.Context) ([]string, error)
	JobNames(ctx context.Context) (map[string]string, error)
	Unlinked(ctx context.Context) ([]string, error)
	CheckChain(ctx context.Context, jobID string) ([]string, error)
	FileFaults(ctx context.Context, jobID string) ([]string, error)
	LinkedTo(ctx context.Context, jobID string, n int64) (string, error)
	Heads(ctx context.Context) (map[string]chain.Head, error)
	Records(ctx context.Context, jobID string) ([]store.Record, error)
	Record(ctx context.Context, jobID string, issue int) (store.Record, error)
}

// Jobs opens jobs.
type Jobs interface {
	Whole(ctx context.Context, id string) (job.Job, error)
}

// Service is this room over a database.
type Service struct {
	store Store
	jobs  Jobs
	keys  Keys
	now   func() time.Time
	last  atomic.Pointer[Report]

	noting     sync.Mutex            // held while a note is written
	lastN      int                   // of the last note
	lastDigest string                // of the last note
	known      map[string]chain.Head // that were noted; nil before the notes were read

	// Notes is the folder to which the heads of all chains are written, outside the
	// database; "" for nowhere. Whoever can write the database and make its chains anew
	// cannot make these anew without the key, nor at all where the folder is on another
	// machine.
	Notes string

	Mail   Mailer // sends each note, where somebody is to have it
	MailTo string
}

// Mailer sends mails.
type Mailer interface {
	Send(clearance.Message) error
}

// New returns the room.
func New(s Store, now func() time.Time, jobs Jobs, keys Keys) *Service {
	return &Service{store: s, now: now, jobs: jobs, keys: keys, Notes: filepath.Join(s.Folder(), "heads")}
}

// Report is what the doctor found.
type Report struct {
	At     time.Time     `json:"at" doc:"When the doctor looked."`
	Jobs   int           `json:"jobs" doc:"Jobs that were looked at."`
	Took   time.Duration `json:"took" doc:"How long it took, ns."`
	Faults []Damage      `json:"faults" doc:"What is not as it was written; empty where all is."`
}

// Damage is one thing that is not as it was written.
type Damage struct {
	Job    string `json:"job,omitempty" doc:"Id of the job; left out where it is none's."`
	Number string `json:"number,omitempty" doc:"Number of the job."`
	What   string `json:"what"`
}

func (f Damage) String() string {
	if f.Number == "" {
		return f.What
	}
	return "job " + f.Number + ": " + f.What
}

// Look checks the database, every job with its log, records and files, and the heads that
// were noted outside the database.
func (svc *Service) Look(ctx context.Context) (Report, error) {
	began := time.Now()
	r := Report{At: svc.now(), Faults: []Damage{}}
	said, err := svc.store.Integrity(ctx)
	if err != nil {
		return r, err
	}
	for _, s := range said {
		r.Faults = append(r.Faults, Damage{What: "the database: " + s})
	}
	names, err := svc.store.JobNames(ctx)
	if err != nil {
		return r, err
	}
	r.Jobs = len(names)
	gone, err := svc.store.Unlinked(ctx)
	if err != nil {
		return r, err
	}
	for _, id := range gone {
		r.Faults = append(r.Faults, Damage{Job: id, What: "a job is gone: its chain is there (" + id + ")"})
	}
	for id, number := range names {
		faults, err := svc.ofJob(ctx, id)
		if err != nil {
			return r, fmt.Errorf("job %s: %w", number, err)
		}
		for _, what := range faults {
			r.Faults = append(r.Faults, Damage{id, number, what})
		}
	}
	faults, err := svc.noted(ctx, names)
	if err != nil {
		return r, err
	}
	r.Faults = append(r.Faults, faults...)
	slices.SortStableFunc(r.Faults, func(a, b Damage) int { return strings.Compare(a.Number, b.Number) })
	r.Took = time.Since(began)
	svc.last.Store(&r)
	return r, nil
}

// ofJob says what is wrong with one job.
func (svc *Service) ofJob(ctx context.Context, id string) ([]string, error) {
	faults, err := svc.store.CheckChain(ctx, id)
	if err != nil {
		return nil, err
	}
	if _, err := svc.jobs.Whole(ctx, id); err != nil {
		faults = append(faults, "cannot be opened: "+err.Error())
	}
	files, err := svc.store.FileFaults(ctx, id)
	if err != nil {
		return nil, err
	}
	faults = append(faults, files...)
	issues, err := svc.store.Records(ctx, id)
	if err != nil {
		return nil, err
	}
	for _, issue := range issues {
		r, err := svc.store.Record(ctx, id, issue.Issue)
		if err != nil && !errors.Is(err, store.ErrReplaced) { // which the chain says
			return nil, err
		}
		sealed, err := record.Open(r.File)
		if err != nil {
			faults = append(faults, fmt.Sprintf("record, issue %d: %v", r.Issue, err))
			continue
		}
		if head := sealed.Record.Chain; head != nil {
			digest, err := svc.store.LinkedTo(ctx, id, head.N)
			if err != nil {
				return nil, err
			}
			if head.N > 0 && digest != head.Digest {
				const what = "record, issue %d, was sealed over another log than is there: link %d of the chain is not the one that it names"
				faults = append(faults, fmt.Sprintf(what, r.Issue, head.N))
			}
		}
	}
	return faults, nil
}

// Last returns what the doctor found last, for people of the firm; false where nobody has
// looked yet.
func (svc *Service) Last(by people.Person) (Report, bool, error) {
	if err := people.May(by, people.ViewAudit); err != nil {
		return Report{}, false, err
	}
	r, ok := svc.Found()
	return r, ok, nil
}

// Found is Last, for the program itself.
func (svc *Service) Found() (Report, bool) {
	if r := svc.last.Load(); r != nil {
		return *r, true
	}
	return Report{}, false
}

// every is how often the doctor looks by itself. Common practice, no source.
const every = 24 * time.Hour

// Run looks at once and then every day, and notes the heads of the chains as often as there
// are new ones, until the context ends.
func (svc *Service) Run(ctx context.Context, log *slog.Logger) {
	next := time.Now()
	t := time.NewTicker(noteEvery)
	defer t.Stop()
	for {
		if !time.Now().Before(next) {
			next = time.Now().Add(every)
			switch r, err := svc.Look(ctx); {
			case errors.Is(err, context.Canceled):
				return
			case err != nil:
				log.ErrorContext(ctx, "doctor", "error", err)
			default:
				for _, f := range r.Faults {
					log.ErrorContext(ctx, "doctor", "fault", f.String())
				}
			}
		}
		if err := svc.Note(ctx); err != nil && !errors.Is(err, context.Canceled) {
			log.ErrorContext(ctx, "note the heads of the chains", "error", err)
		}
		select {
		case <-ctx.Done():
			return
		case <-t.C:
		}
	}
}
