package papers

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"

	"dogbolt/core/job"
	"dogbolt/core/schema"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/store"
)

// Move is what became of a paper after the record was sealed.
type Move struct {
	Paper string
	Event job.PaperEvent
	Day   string // of the calendar of the site
	Words string // its reference; why it was sent back or is not needed
}

// MovePaper notes what became of a paper of a sealed job, as an entry beside the issue. While a
// job is not sealed its papers are edited themselves.
func (svc *Service) MovePaper(ctx context.Context, by people.Person, id string, m Move) (jobs.View, error) {
	v, err := svc.jobs.Open(ctx, by, id)
	if err != nil {
		return v, err
	}
	resources, err := svc.firm.ResourcesNow(ctx)
	if err != nil {
		return v, err
	}
	if today := svc.firm.Today(resources.SiteZone(&v.Job)); m.Day > today {
		return v, schema.Invalid("day", "%s has not come yet: it is %s on site", m.Day, today)
	}
	return svc.move(ctx, by, id, m, func(*store.Tx) error { return nil })
}

// reasoned are the events that need a reason in words.
var reasoned = []job.PaperEvent{job.PaperNotNeeded, job.PaperBack}

// move writes an entry about a paper of a sealed job; also is written with it, last runs when all
// is.
func (svc *Service) move(ctx context.Context, by people.Person, id string, m Move, also func(*store.Tx) error, last ...func() error) (jobs.View, error) {
	if err := people.May(by, people.SavePapers); err != nil {
		return jobs.View{}, err
	}
	m.Words = strings.TrimSpace(m.Words)
	if !slices.Contains(m.Event.Values(), string(m.Event)) {
		return jobs.View{}, schema.Invalid("event", "%q is not one of %s", m.Event, strings.Join(m.Event.Values(), ", "))
	}
	if slices.Contains(reasoned, m.Event) && len(m.Words) < 5 {
		return jobs.View{}, schema.Invalid("words", "say why in words")
	}
	e := job.Entry{ID: uuid.NewString(), Kind: job.PaperMoved, At: svc.now().UTC(), By: by.Name, Person: by.ID,
		Subject: m.Paper, Value: string(m.Event), Day: m.Day, Reason: m.Words}
	return svc.jobs.Change(ctx, id, func(tx *store.Tx, w *store.Whole, j *job.Job) error {
		if !w.Job.Sealed {
			return schema.Invalid("job", "is not sealed: enter it on the paper itself")
		}
		p, ok := j.PaperNow(m.Paper)
		if !ok {
			return fmt.Errorf("paper %q: %w", m.Paper, store.ErrNotFound)
		}
		if p.Before != job.After {
			return schema.Invalid("paper", "%s came before the work: the sealed record has it as it was", p.Title)
		}
		j.Log = append(j.Log, e)
		j.Index()
		if errs := j.Validate(); len(errs) > 0 {
			return errs
		}
		if err := svc.jobs.AddEntry(tx, id, e); err != nil {
			return err
		}
		detail := strings.TrimSpace(p.Title + ": " + string(m.Event) + " " + m.Day + " " + m.Words)
		if err := tx.Note(svc.now(), by.Name, "paper after the seal", id, detail); err != nil {
			return err
		}
		return also(tx)
	}, last...)
}

// moveOf is what an answer of a desk says of a paper.
func moveOf(paper string, r job.Reply) Move {
	m := Move{Paper: paper, Day: r.On, Words: r.Reference}
	switch r.Outcome {
	case job.Received:
		m.Event = job.PaperNoticed
	case job.Accepted:
		m.Event = job.PaperAnswered
	case job.Bounced:
		m.Event, m.Words = job.PaperBack, strings.Join(r.Reasons, "; ")
	}
	return m
}
