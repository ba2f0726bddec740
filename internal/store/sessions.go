package store

import (
	"context"
	"time"

	"gorm.io/gorm/clause"
)

// Sessions keeps signed-in browsers; it is an scs.Store.
type Sessions struct{ store *Store }

// Sessions returns the sessions of the database.
func (s *Store) Sessions() Sessions { return Sessions{s} }

// Find implements scs.Store: the session's data, and whether it is alive.
func (s Sessions) Find(token string) ([]byte, bool, error) {
	var v []Session
	err := s.store.read.Limit(1).Find(&v, "token = ? AND expiry > ?", token, time.Now().UTC()).Error
	if err != nil || len(v) == 0 {
		return nil, false, err
	}
	return v[0].Data, true, nil
}

// Commit implements scs.Store.
func (s Sessions) Commit(token string, data []byte, expiry time.Time) error {
	return s.store.write.Clauses(clause.OnConflict{UpdateAll: true}).Create(&Session{token, data, expiry.UTC()}).Error
}

// Delete implements scs.Store.
func (s Sessions) Delete(token string) error {
	return s.store.write.Delete(&Session{}, "token = ?", token).Error
}

// DropExpired removes sessions that have ended.
func (s Sessions) DropExpired(ctx context.Context) error {
	return s.store.write.WithContext(ctx).Delete(&Session{}, "expiry <= ?", time.Now().UTC()).Error
}
