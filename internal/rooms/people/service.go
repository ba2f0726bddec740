// Package people holds who may do what: accounts, sign-in, roles and permissions.
package people

import (
	"context"
	"log/slog"
	"net/url"
	"time"

	"dogbolt/internal/store"
)

// Store is what this room needs of the database.
type Store interface {
	User(ctx context.Context, id string) (store.User, error)
	UserByFeed(ctx context.Context, feed string) (store.User, error)
	UserByName(ctx context.Context, username string) (store.User, error)
	Setting(ctx context.Context, key string) ([]byte, error)
	Users(ctx context.Context) ([]store.User, error)
	Passkeys(ctx context.Context, userID string) ([]store.Passkey, error)
	SessionsOf(ctx context.Context, person string) ([]store.Session, error)
	FirmAudit(ctx context.Context, before int64, limit int) ([]store.Audit, error)
	Write(ctx context.Context, f func(*store.Tx) error) error
}

// Service is this room over a database.
type Service struct {
	store Store
	log   *slog.Logger
	now   func() time.Time
	guard guard
	asked ceremonies

	Mail      Mailer // nil: links are not sent by mail
	PublicURL string // where the pages are for people, without a last slash; "" where nobody said
}

// New returns the room.
func New(s Store, log *slog.Logger, now func() time.Time) *Service {
	return &Service{store: s, log: log, now: now}
}

// mailHost is the host of an address, for mails from it.
func mailHost(address string) string {
	u, err := url.Parse(address)
	if err != nil || u.Hostname() == "" {
		return "localhost"
	}
	return u.Hostname()
}
