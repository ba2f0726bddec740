package firm

import (
	"context"
	"crypto/ed25519"
	"crypto/rand"
	"encoding/base64"
	"encoding/json"
	"errors"
	"strings"

	"dogbolt/core/record"
	"dogbolt/core/schema"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/store"
)

// Keys of the firm's name and of its sealing key.
const (
	keyContractor = "contractor"
	keySealing    = "sealing-key"
)

// Contractor returns the firm's data.
func (svc *Service) Contractor(ctx context.Context, by people.Person) (record.Contractor, error) {
	if err := people.May(by, people.ViewFirm); err != nil {
		return record.Contractor{}, err
	}
	return svc.ContractorNow(ctx)
}

// ContractorNow returns the firm's data, for the program itself; empty where there is
// none yet.
func (svc *Service) ContractorNow(ctx context.Context) (record.Contractor, error) {
	var c record.Contractor
	b, err := svc.store.Setting(ctx, keyContractor)
	if errors.Is(err, store.ErrNotFound) {
		return c, nil
	}
	if err == nil {
		err = json.Unmarshal(b, &c)
	}
	return c, err
}

// SetContractor writes the firm's data.
func (svc *Service) SetContractor(ctx context.Context, by people.Person, c record.Contractor) error {
	if err := people.May(by, people.ManageFirm); err != nil {
		return err
	}
	if strings.TrimSpace(c.Name) == "" {
		return schema.Invalid("name", "missing")
	}
	b, err := json.Marshal(c)
	if err != nil {
		return err
	}
	return svc.store.Write(ctx, func(tx *store.Tx) error {
		if err := tx.Settings().Set(keyContractor, b); err != nil {
			return err
		}
		return tx.Note(svc.now(), by.Name, "change firm", "", c.Name)
	})
}

// SealingKey returns the firm's key, made on first use.
func (svc *Service) SealingKey(ctx context.Context) (ed25519.PrivateKey, error) {
	seed, err := svc.store.Setting(ctx, keySealing)
	if err == nil {
		return ed25519.NewKeyFromSeed(seed), nil
	}
	if !errors.Is(err, store.ErrNotFound) {
		return nil, err
	}
	err = svc.store.Write(ctx, func(tx *store.Tx) error {
		if seed, err = tx.Settings().Get(keySealing); err == nil {
			return nil
		}
		_, key, err := ed25519.GenerateKey(rand.Reader)
		if err != nil {
			return err
		}
		seed = key.Seed()
		return tx.Settings().Set(keySealing, seed)
	})
	if err != nil {
		return nil, err
	}
	return ed25519.NewKeyFromSeed(seed), nil
}

// PublicKey returns the key that records are checked with, and its fingerprint.
func (svc *Service) PublicKey(ctx context.Context) (key, fingerprint string, err error) {
	k, err := svc.SealingKey(ctx)
	if err != nil {
		return "", "", err
	}
	key = base64.StdEncoding.EncodeToString(k.Public().(ed25519.PublicKey))
	return key, record.Fingerprint(key), nil
}
