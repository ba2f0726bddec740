// Package records holds sealed records: sealing, amending, and their papers.
package records

import (
	"context"
	"time"

	"dogbolt/internal/rooms/firm"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/store"
)

// Store is what this room needs of the database.
type Store interface {
	Record(ctx context.Context, jobID string, issue int) (store.Record, error)
	Records(ctx context.Context, jobID string) ([]store.Record, error)
}

// Service is this room over a database.
type Service struct {
	store Store
	now   func() time.Time
	firm  *firm.Service
	jobs  *jobs.Service
}

// New returns the room.
func New(s Store, now func() time.Time, firm *firm.Service, jobs *jobs.Service) *Service {
	return &Service{store: s, now: now, firm: firm, jobs: jobs}
}
