package store

import (
	"context"
	"database/sql"
	"errors"
	"time"

	"gorm.io/gorm/clause"
)

// Sessions keeps signed-in browsers; it is an scs.Store.
type Sessions struct{ store *Store }

// Sessions returns the sessions of the database.
func (s *Store) Sessions() Sessions { return Sessions{s} }

// Find implements scs.Store: the session's data, and whether it is alive.
func (s Sessions) Find(token string) ([]byte, bool, error) {
	var data []byte
	err := s.store.read.Raw("SELECT data FROM sessions WHERE token = ? AND expiry > ?", token, time.Now().UTC()).Row().Scan(&data)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, false, nil
	}
	return data, err == nil, err
}

// Commit implements scs.Store. A session that has ended stays so, though a request that
// began before writes it again.
func (s Sessions) Commit(token string, data []byte, expiry time.Time) error {
	if _, ended := s.store.ended.Load(token); ended {
		return nil
	}
	row := Session{Token: token, Data: data, Expiry: expiry.UTC()}
	if _, values, err := (SessionCodec{}).Decode(data); err == nil {
		row.PersonID, _ = values[PersonOf].(string)
		row.Agent, _ = values[AgentOf].(string)
		began, _ := values[BeganAt].(int64)
		row.Began = time.UnixMilli(began).UTC()
	}
	err := s.store.Write(context.Background(), func(tx *Tx) error {
		return tx.db.Clauses(clause.OnConflict{UpdateAll: true}).Create(&row).Error
	})
	if err == nil {
		return nil
	}
	// Where nothing can be written, on a full disk, who is signed in goes on reading: the
	// session only misses when it was used last.
	if old, there, found := s.Find(token); found == nil && there && whose(old) == row.PersonID {
		return nil
	}
	return err
}

// whose is the account of a session's data.
func whose(data []byte) string {
	_, values, err := SessionCodec{}.Decode(data)
	if err != nil {
		return ""
	}
	id, _ := values[PersonOf].(string)
	return id
}

// What is known of a session, by its names in the session's data.
const (
	PersonOf = "person" // id of the account
	AgentOf  = "agent"  // what the browser calls itself
	BeganAt  = "began"  // Unix time, ms
)

// SessionsOf lists the living sessions of an account, newest first.
func (s *Store) SessionsOf(ctx context.Context, person string) ([]Session, error) {
	var list []Session
	return list, s.read.WithContext(ctx).Order("began DESC").Find(&list, "person_id = ? AND expiry > ?", person, time.Now().UTC()).Error
}

// EndSessions ends the sessions of an account.
func (t *Tx) EndSessions(person string) error {
	var list []Session
	if err := t.db.Find(&list, "person_id = ?", person).Error; err != nil {
		return err
	}
	for _, v := range list {
		t.ended.Store(v.Token, time.Now())
		if err := t.db.Delete(&Session{}, "token = ?", v.Token).Error; err != nil {
			return err
		}
	}
	return nil
}

// Delete implements scs.Store.
func (s Sessions) Delete(token string) error {
	s.store.ended.Store(token, time.Now())
	return s.store.Write(context.Background(), func(tx *Tx) error { return tx.db.Delete(&Session{}, "token = ?", token).Error })
}

// endedKept is how long it is remembered that a session has ended: longer than any
// request takes.
const endedKept = time.Hour

// DropExpired removes sessions that have ended.
func (s Sessions) DropExpired(ctx context.Context) error {
	s.store.ended.Range(func(token, at any) bool {
		if time.Since(at.(time.Time)) > endedKept {
			s.store.ended.Delete(token)
		}
		return true
	})
	return s.store.Write(ctx, func(tx *Tx) error { return tx.db.Delete(&Session{}, "expiry <= ?", time.Now().UTC()).Error })
}
