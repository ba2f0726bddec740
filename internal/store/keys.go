package store

import (
	"context"
	"path/filepath"
	"time"
)

// SealingKey is a key that the firm seals or sealed with: its public half, and why it came.
type SealingKey struct {
	Public      string    `gorm:"primaryKey"` // base64
	Certificate string    `gorm:"not null"`   // X.509, base64; "" of a program before there were certificates
	Since       time.Time `gorm:"not null"`
	By          string    `gorm:"not null"`
	Why         string    `gorm:"not null"`
	Endorsement string    `gorm:"not null"` // seal of the key that followed it, JSON; "" of the newest
}

// SealingKeys lists the keys of the firm, the first one first.
func (s *Store) SealingKeys(ctx context.Context) ([]SealingKey, error) {
	var list []SealingKey
	return list, s.read.WithContext(ctx).Order("since, rowid").Find(&list).Error
}

// SealingKeys lists the keys of the firm as this transaction sees them.
func (t *Tx) SealingKeys() ([]SealingKey, error) {
	var list []SealingKey
	return list, t.db.Order("since, rowid").Find(&list).Error
}

// SaveSealingKey writes a line of the register of keys.
func (t *Tx) SaveSealingKey(k SealingKey) error { return t.db.Save(&k).Error }

// Folder is where the database is.
func (s *Store) Folder() string { return filepath.Dir(s.path) }
