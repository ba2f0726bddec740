// Package firm holds what the firm has settled: its name and key, margins and costs,
// crews and instruments, prices, and its own types of charger.
package firm

import (
	"context"
	"path/filepath"
	"sync"
	"time"

	"dogbolt/core/record"
	"dogbolt/internal/keyring"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/rooms/settings"
	"dogbolt/internal/store"
)

// Store is what this room needs of the database.
type Store interface {
	Setting(ctx context.Context, key string) ([]byte, error)
	SealingKeys(ctx context.Context) ([]store.SealingKey, error)
	Users(ctx context.Context) ([]store.User, error)
	Folder() string
	Write(ctx context.Context, f func(*store.Tx) error) error
}

// Service is this room over a database.
type Service struct {
	store    Store
	now      func() time.Time
	settings *settings.Settings
	onSite   settings.Memo[Work]
	openJobs settings.Memo[bool]

	// confirm asks for the present password of a person; its error says what is wrong.
	confirm func(ctx context.Context, by people.Person, password string) error

	Ring  keyring.Ring // where the sealing key is
	keyMu sync.Mutex   // held while the key is read or made
	key   *record.Key
}

// KeyFile is the name of the sealing key's file, beside the database where nobody said
// another place.
const KeyFile = "sealing-key.p12"

// New returns the room.
func New(s Store, now func() time.Time, settings *settings.Settings, confirm func(context.Context, people.Person, string) error) *Service {
	return &Service{store: s, now: now, settings: settings, confirm: confirm, Ring: keyring.Ring{File: filepath.Join(s.Folder(), KeyFile)}}
}
