package store

import (
	"context"
	"slices"
	"sync"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Users lists the accounts by name.
func (s *Store) Users(ctx context.Context) ([]User, error) {
	var list []User
	return list, s.read.WithContext(ctx).Order("name").Find(&list).Error
}

// UserByName returns the account with the sign-in name.
func (s *Store) UserByName(ctx context.Context, username string) (User, error) {
	var u User
	err := s.read.WithContext(ctx).Take(&u, "username = ?", username).Error
	return u, notFound(err)
}

// User returns the account with the id.
func (s *Store) User(ctx context.Context, id string) (User, error) {
	var u User
	// Field by field, which is quicker: it is read with every request.
	err := s.read.WithContext(ctx).Raw(`SELECT id, username, name, role, mail, feed, totp, totp_step, recovery, hash,
		disabled, created FROM users WHERE id = ?`, id).
		Row().Scan(&u.ID, &u.Username, &u.Name, &u.Roles, &u.Mail, &u.Feed, &u.TOTP, &u.TOTPStep, &u.Recovery, &u.Hash, &u.Disabled, &u.Created)
	if err != nil { // it is not there, or an older program left some of it empty
		err = notFound(s.read.WithContext(ctx).Take(&u, "id = ?", id).Error)
	}
	return u, err
}

// UserByFeed returns the account whose calendar addresses have the secret.
func (s *Store) UserByFeed(ctx context.Context, feed string) (User, error) {
	var u User
	if feed == "" {
		return u, ErrNotFound
	}
	return u, notFound(s.read.WithContext(ctx).Take(&u, "feed = ?", feed).Error)
}

// CountUsers returns the number of accounts, as this transaction sees it.
func (t *Tx) CountUsers() (int64, error) {
	var n int64
	return n, t.db.Model(&User{}).Count(&n).Error
}

// Users lists the accounts as this transaction sees them.
func (t *Tx) Users() ([]User, error) {
	var list []User
	return list, t.db.Find(&list).Error
}

// User returns the account with the id, as this transaction sees it.
func (t *Tx) User(id string) (User, error) {
	var u User
	return u, notFound(t.db.Take(&u, "id = ?", id).Error)
}

// AddTicket adds a one-time link.
func (t *Tx) AddTicket(k Ticket) error { return t.db.Create(&k).Error }

// Ticket returns the one-time link with the digest.
func (t *Tx) Ticket(digest string) (Ticket, error) {
	var k Ticket
	return k, notFound(t.db.Take(&k, "digest = ?", digest).Error)
}

// DropTickets removes the links of an account.
func (t *Tx) DropTickets(userID string) error {
	return t.db.Delete(&Ticket{}, "user_id = ?", userID).Error
}

// AddUser adds an account. A sign-in name that is in use is ErrTaken.
func (t *Tx) AddUser(u User) error {
	err := t.db.Create(&u).Error
	if err != nil && unique(err) {
		return ErrTaken
	}
	return err
}

// SaveUser writes an account.
func (t *Tx) SaveUser(u User) error { return t.db.Save(&u).Error }

// Setting returns a value of the firm; ErrNotFound where it was never set.
func (s *Store) Setting(ctx context.Context, key string) ([]byte, error) {
	return Settings{s.read.WithContext(ctx)}.Get(key)
}

// settled is what the firm has settled, as it was read; nil for what was not there.
type settled struct {
	sync.Mutex
	revision int64
	values   map[string][]byte
}

// SettingsOf returns those values of the firm that are there. They are read again when the
// database's revision of them is another. Nobody changes the bytes.
func (s *Store) SettingsOf(ctx context.Context, keys ...string) (map[string][]byte, error) {
	var revision int64
	if err := s.read.WithContext(ctx).Raw("SELECT n FROM settings_revision").Row().Scan(&revision); err != nil {
		return nil, err
	}
	s.settled.Lock()
	defer s.settled.Unlock()
	if s.settled.revision != revision || s.settled.values == nil {
		s.settled.revision, s.settled.values = revision, map[string][]byte{}
	}
	known := s.settled.values
	if slices.ContainsFunc(keys, func(k string) bool { _, ok := known[k]; return !ok }) {
		var rows []Setting
		if err := s.read.WithContext(ctx).Find(&rows, "key IN ?", keys).Error; err != nil {
			return nil, err
		}
		for _, k := range keys {
			known[k] = nil
		}
		for _, r := range rows {
			known[r.Key] = r.Value
		}
	}
	values := make(map[string][]byte, len(keys))
	for _, k := range keys {
		if v := known[k]; v != nil {
			values[k] = v
		}
	}
	return values, nil
}

// Settings are the values of the firm as a transaction sees and writes them.
type Settings struct{ db *gorm.DB }

// Settings returns the values of the firm.
func (t *Tx) Settings() Settings { return Settings{t.db} }

// Get returns a value; ErrNotFound where it was never set.
func (s Settings) Get(key string) ([]byte, error) {
	var v Setting
	err := s.db.Take(&v, "key = ?", key).Error
	return v.Value, notFound(err)
}

// Set writes a value.
func (s Settings) Set(key string, value []byte) error {
	return s.db.Clauses(clause.OnConflict{UpdateAll: true}).Create(&Setting{key, value}).Error
}

// Drop removes a value.
func (s Settings) Drop(key string) error {
	return s.db.Delete(&Setting{}, "key = ?", key).Error
}
