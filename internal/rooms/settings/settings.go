// Package settings keeps values of the firm by their key, as JSON.
package settings

import (
	"context"
	"encoding/json"
	"errors"
	"time"

	"dogbolt/internal/store"
)

// Store is what settings need of the database.
type Store interface {
	Setting(ctx context.Context, key string) ([]byte, error)
	Write(ctx context.Context, f func(*store.Tx) error) error
}

// Settings reads and writes values of the firm.
type Settings struct {
	store Store
	now   func() time.Time
}

// New returns the settings of a database.
func New(s Store, now func() time.Time) *Settings { return &Settings{s, now} }

// Get reads a value; into stays as it is where none was set.
func (s *Settings) Get(ctx context.Context, key string, into any) error {
	b, err := s.store.Setting(ctx, key)
	if errors.Is(err, store.ErrNotFound) {
		return nil
	}
	if err != nil {
		return err
	}
	return json.Unmarshal(b, into)
}

// Set writes a value and notes in the audit who did what.
func (s *Settings) Set(ctx context.Context, who, key, action string, value any) error {
	b, err := json.Marshal(value)
	if err != nil {
		return err
	}
	return s.store.Write(ctx, func(tx *store.Tx) error {
		if err := tx.Settings().Set(key, b); err != nil {
			return err
		}
		return tx.Note(s.now(), who, action, "", "")
	})
}
