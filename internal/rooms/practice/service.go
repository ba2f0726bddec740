// Package practice holds the cases that people practise finding faults on.
package practice

import (
	"context"
	"time"

	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/internal/store"
)

// Store is what this room needs of the database.
type Store interface {
	PracticeRuns(ctx context.Context) ([]store.PracticeRun, error)
	Write(ctx context.Context, f func(*store.Tx) error) error
}

// Service is this room over a database.
type Service struct {
	store Store
	now   func() time.Time

	instruments Instruments
}

// Instruments read tests on a circuit with a hidden fault. before is how many were
// read on it.
type Instruments interface {
	Read(j *job.Job, in *jurisdiction.Jurisdiction, point, fault string, seed uint64, before int, test string) (string, error)
}

// New returns the room.
func New(s Store, now func() time.Time, instruments Instruments) *Service {
	return &Service{store: s, now: now, instruments: instruments}
}
