// Package records holds sealed records: sealing, amending, and their papers.
package records

import (
	"context"
	"time"

	"dogbolt/core/chain"
	"dogbolt/internal/rooms/firm"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/stamp"
	"dogbolt/internal/store"
)

// Store is what this room needs of the database.
type Store interface {
	Whole(ctx context.Context, id string) (store.Whole, error)
	Head(ctx context.Context, jobID string) (head chain.Head, lastIssue int, err error)
	IssuesWith(ctx context.Context, digest string) ([]store.Record, error)
	Job(ctx context.Context, id string) (store.Job, error)
	PageOf(ctx context.Context, jobID string) (store.CustomerPage, error)
	PageWith(ctx context.Context, token string) (store.CustomerPage, error)
	MailsOf(ctx context.Context, jobID string) ([]store.Mail, error)
	Write(ctx context.Context, f func(*store.Tx) error) error
	Photo(ctx context.Context, jobID, digest string) ([]byte, error)
	Record(ctx context.Context, jobID string, issue int) (store.Record, error)
	Records(ctx context.Context, jobID string) ([]store.Record, error)
}

// Service is this room over a database.
type Service struct {
	store Store
	now   func() time.Time
	firm  *firm.Service
	jobs  *jobs.Service

	Time stamp.Authority // stamps the papers; nil for none
	Mail Mailer          // tells of withdrawals; nil: they are told by hand
}

// New returns the room.
func New(s Store, now func() time.Time, firm *firm.Service, jobs *jobs.Service) *Service {
	return &Service{store: s, now: now, firm: firm, jobs: jobs}
}
