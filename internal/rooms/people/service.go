// Package people holds who may do what: accounts, sign-in, roles and permissions.
package people

import (
	"context"
	"log/slog"
	"time"

	"dogbolt/internal/store"
)

// Store is what this room needs of the database.
type Store interface {
	User(ctx context.Context, id string) (store.User, error)
	UserByName(ctx context.Context, username string) (store.User, error)
	Users(ctx context.Context) ([]store.User, error)
	Write(ctx context.Context, f func(*store.Tx) error) error
}

// Service is this room over a database.
type Service struct {
	store Store
	log   *slog.Logger
	now   func() time.Time
}

// New returns the room.
func New(s Store, log *slog.Logger, now func() time.Time) *Service {
	return &Service{store: s, log: log, now: now}
}
