// Package firm holds what the firm has settled: its name and key, margins and costs,
// crews and instruments, prices, and its own types of charger.
package firm

import (
	"context"
	"time"

	"dogbolt/internal/rooms/settings"
	"dogbolt/internal/store"
)

// Store is what this room needs of the database.
type Store interface {
	Setting(ctx context.Context, key string) ([]byte, error)
	Write(ctx context.Context, f func(*store.Tx) error) error
}

// Service is this room over a database.
type Service struct {
	store    Store
	now      func() time.Time
	settings *settings.Settings
}

// New returns the room.
func New(s Store, now func() time.Time, settings *settings.Settings) *Service {
	return &Service{store: s, now: now, settings: settings}
}
