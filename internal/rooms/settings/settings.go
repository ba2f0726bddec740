// Package settings keeps values of the firm by their key, as JSON.
package settings

import (
	"bytes"
	"context"
	"encoding/json"
	"sync"
	"time"

	"dogbolt/internal/store"
)

// Store is what settings need of the database.
type Store interface {
	SettingsOf(ctx context.Context, keys ...string) (map[string][]byte, error)
	Write(ctx context.Context, f func(*store.Tx) error) error
}

// Settings reads and writes values of the firm.
type Settings struct {
	store Store
	now   func() time.Time
}

// New returns the settings of a database.
func New(s Store, now func() time.Time) *Settings { return &Settings{s, now} }

// Values are values of the firm that were read together, by their key.
type Values map[string][]byte

// Read reads the values of some keys in one go.
func (s *Settings) Read(ctx context.Context, keys ...string) (Values, error) {
	return s.store.SettingsOf(ctx, keys...)
}

// Get reads one of the values; into stays as it is where none was set.
func (v Values) Get(key string, into any) error {
	if b, ok := v[key]; ok {
		return json.Unmarshal(b, into)
	}
	return nil
}

// Get reads a value; into stays as it is where none was set.
func (s *Settings) Get(ctx context.Context, key string, into any) error {
	v, err := s.Read(ctx, key)
	if err != nil {
		return err
	}
	return v.Get(key, into)
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

// Memo keeps what was last made of values of the firm.
type Memo[T any] struct {
	mu   sync.Mutex
	from [][]byte
	made T
}

// Of returns what make makes of the values under some keys, made anew only where they are
// others than the last time. Nobody changes what it returns.
func (m *Memo[T]) Of(v Values, make func(Values) (T, error), keys ...string) (T, error) {
	m.mu.Lock()
	defer m.mu.Unlock()
	same := len(m.from) == len(keys)
	from := [][]byte{}
	for i, k := range keys {
		same = same && bytes.Equal(m.from[i], v[k])
		from = append(from, v[k])
	}
	if same {
		return m.made, nil
	}
	made, err := make(v)
	if err == nil {
		m.from, m.made = from, made
	}
	return made, err
}
