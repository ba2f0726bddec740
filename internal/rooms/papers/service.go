// Package papers holds permissions, notices and inspections: forms, files, what is
// sent and what comes back.
package papers

import (
	"context"
	"time"

	"dogbolt/internal/rooms/firm"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/store"
)

// Store is what this room needs of the database.
type Store interface {
	Deadlines(ctx context.Context, until string) ([]store.DeadlineRow, error)
	FileData(ctx context.Context, jobID, digest string) (store.File, []byte, error)
	Files(ctx context.Context, jobID string) ([]store.File, error)
	OpenMails(ctx context.Context) ([]store.Mail, error)
	PutFile(digest string, data []byte) error
	Write(ctx context.Context, f func(*store.Tx) error) error
}

// Service is this room over a database.
type Service struct {
	store Store
	now   func() time.Time
	firm  *firm.Service
	jobs  *jobs.Service

	Mail Mailer     // nil: papers are sent by hand
	Desk SchemeDesk // nil: answers are entered by hand
}

// New returns the room.
func New(s Store, now func() time.Time, firm *firm.Service, jobs *jobs.Service) *Service {
	return &Service{store: s, now: now, firm: firm, jobs: jobs}
}
