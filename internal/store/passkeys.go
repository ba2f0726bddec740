package store

import (
	"context"
	"time"
)

// Passkey is a key of a device that signs in to an account.
type Passkey struct {
	ID         string `gorm:"primaryKey"` // of the credential, base64url
	UserID     string `gorm:"not null"`
	Name       string `gorm:"not null"` // what its person calls the device
	Credential string `gorm:"not null"` // the credential record of WebAuthn, JSON
	Created    time.Time
	Used       *time.Time // nil before the first sign-in with it
}

// Passkeys lists the keys of an account, the oldest first.
func (s *Store) Passkeys(ctx context.Context, userID string) ([]Passkey, error) {
	var list []Passkey
	return list, s.read.WithContext(ctx).Order("created").Find(&list, "user_id = ?", userID).Error
}

// SavePasskey writes a key.
func (t *Tx) SavePasskey(k Passkey) error { return t.db.Save(&k).Error }

// Passkey returns a key of an account, as this transaction sees it.
func (t *Tx) Passkey(userID, id string) (Passkey, error) {
	var k Passkey
	return k, notFound(t.db.Take(&k, "user_id = ? AND id = ?", userID, id).Error)
}

// DropPasskey removes one key of an account, or all of them where the id is "".
func (t *Tx) DropPasskey(userID, id string) error {
	if id == "" {
		return t.db.Delete(&Passkey{}, "user_id = ?", userID).Error
	}
	return t.db.Delete(&Passkey{}, "user_id = ? AND id = ?", userID, id).Error
}
