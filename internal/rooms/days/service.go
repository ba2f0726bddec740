// Package days holds when the work is done: days judged, booked and freed, the week,
// and the calendars.
package days

import (
	"context"
	"time"

	"dogbolt/core/planning"
	"dogbolt/core/stock"
	"dogbolt/internal/rooms/firm"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/papers"
	"dogbolt/internal/rooms/settings"
	"dogbolt/internal/store"
)

// Store is what this room needs of the database.
type Store interface {
	Bookings(ctx context.Context, from, to string) ([]planning.Booking, error)
	Stock(ctx context.Context, but string) ([]stock.Ware, error)
	Waiting(ctx context.Context, limit int) ([]store.Job, error)
}

// Service is this room over a database.
type Service struct {
	store    Store
	now      func() time.Time
	settings *settings.Settings
	firm     *firm.Service
	jobs     *jobs.Service
	papers   *papers.Service

	Forecast planning.Forecast // nil: days are judged without weather
}

// New returns the room.
func New(s Store, now func() time.Time, settings *settings.Settings, firm *firm.Service, jobs *jobs.Service, papers *papers.Service) *Service {
	return &Service{store: s, now: now, settings: settings, firm: firm, jobs: jobs, papers: papers}
}
