// Package jobs holds what is done with a job in the office: made, read in, opened,
// surveyed, designed, saved section by section, and exported.
package jobs

import (
	"context"
	"time"

	"dogbolt/core/planning"
	"dogbolt/internal/rooms/firm"
	"dogbolt/internal/store"
)

// Store is what this room needs of the database.
type Store interface {
	AddPart(jobID, personID, digest string, from int64, piece []byte) (int64, error)
	AuditOf(ctx context.Context, jobID string, limit int) ([]store.Audit, error)
	BookedFor(ctx context.Context, jobID, name string) (bool, error)
	Bookings(ctx context.Context, from, to string) ([]planning.Booking, error)
	DropPart(jobID, personID, digest string) error
	FileData(ctx context.Context, jobID, digest string) (store.File, []byte, error)
	Files(ctx context.Context, jobID string) ([]store.File, error)
	HasPhoto(ctx context.Context, jobID, digest string) (bool, error)
	Job(ctx context.Context, id string) (store.Job, error)
	Jobs(ctx context.Context, f store.Filter) (store.Page, error)
	Part(jobID, personID, digest string) ([]byte, error)
	PartSize(jobID, personID, digest string) (int64, error)
	Photo(ctx context.Context, jobID, digest string) ([]byte, error)
	Pictures(ctx context.Context, jobID string) ([]store.Photo, error)
	PutPhoto(digest string, data []byte) error
	Record(ctx context.Context, jobID string, issue int) (store.Record, error)
	Records(ctx context.Context, jobID string) ([]store.Record, error)
	Whole(ctx context.Context, id string) (store.Whole, error)
	Write(ctx context.Context, f func(*store.Tx) error) error
}

// Service is this room over a database.
type Service struct {
	store Store
	now   func() time.Time
	firm  *firm.Service
	desk  *desk
}

// New returns the room.
func New(s Store, now func() time.Time, firm *firm.Service) *Service {
	return &Service{store: s, now: now, firm: firm, desk: newDesk()}
}
