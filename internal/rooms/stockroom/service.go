// Package stockroom holds what lies in vans, on shelves and on reels, and what is to
// be ordered.
package stockroom

import (
	"context"
	"time"

	"dogbolt/core/planning"
	"dogbolt/core/stock"
	"dogbolt/internal/rooms/firm"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/store"
)

// Store is what this room needs of the database.
type Store interface {
	Bookings(ctx context.Context, from, to string) ([]planning.Booking, error)
	Stock(ctx context.Context, but string) ([]stock.Ware, error)
	Waiting(ctx context.Context, limit int) ([]store.Job, error)
	Write(ctx context.Context, f func(*store.Tx) error) error
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
