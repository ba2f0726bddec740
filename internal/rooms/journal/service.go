// Package journal holds what is written into the log of a job: by hand, from a
// device without signal, or from a file of readings.
package journal

import (
	"context"
	"sync"
	"time"

	"dogbolt/internal/contact"
	"dogbolt/internal/rooms/firm"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/settings"
	"dogbolt/internal/store"
)

// Store is what this room needs of the database.
type Store interface {
	LinkAt(ctx context.Context, link, person string) (time.Time, bool, error)
	NearMisses(ctx context.Context, limit int) ([]store.NearMissRow, error)
}

// Service is this room over a database.
type Service struct {
	store    Store
	now      func() time.Time
	settings *settings.Settings
	firm     *firm.Service
	jobs     *jobs.Service

	contact struct { // made when it is first needed
		sync.Mutex
		marks *contact.Marks
	}
}

// New returns the room.
func New(s Store, now func() time.Time, settings *settings.Settings, firm *firm.Service, jobs *jobs.Service) *Service {
	return &Service{store: s, now: now, settings: settings, firm: firm, jobs: jobs}
}
