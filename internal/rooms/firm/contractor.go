package firm

import (
	"context"
	"encoding/json"
	"errors"
	"strings"

	"dogbolt/core/record"
	"dogbolt/core/schema"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/store"
)

// keyContractor is the setting of the firm's name.
const keyContractor = "contractor"

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
