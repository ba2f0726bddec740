package firm

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"dogbolt/core/schema"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/store"
)

// keyProposal is the setting of a new key that one person asked for.
const keyProposal = "proposed-seal"

// proposalLasts is how long the second person has. Common practice, no source.
const proposalLasts = 24 * time.Hour

// KeyProposal is a new key that one of the office or a verifier asks for, and that waits for
// one of the other.
type KeyProposal struct {
	By      string       `json:"by"`
	Account string       `json:"account"`
	Roles   people.Roles `json:"roles" doc:"What the person was when they asked."`
	Why     string       `json:"why"`
	At      time.Time    `json:"at"`
}

// keyParts are who makes a new key, together.
var keyParts = [2]people.Role{people.Office, people.Verifier}

// ProposeKey asks for a new key, in place of one that is lost or is to rest. It needs a reason
// and the person's present password.
func (svc *Service) ProposeKey(ctx context.Context, by people.Person, password, why string) error {
	if err := people.May(by, people.ChangeKey); err != nil {
		return err
	}
	if err := checkWhy(why); err != nil {
		return err
	}
	if err := svc.confirm(ctx, by, password); err != nil {
		return err
	}
	b, err := json.Marshal(KeyProposal{by.Name, by.ID, by.Roles, strings.TrimSpace(why), svc.now()})
	if err != nil {
		return err
	}
	return svc.store.Write(ctx, func(tx *store.Tx) error {
		return errors.Join(tx.Settings().Set(keyProposal, b), tx.Note(svc.now(), by.Name, "ask for a new sealing key", "", strings.TrimSpace(why)))
	})
}

// ProposedKey returns the new key that waits for its second person; nil for none.
func (svc *Service) ProposedKey(ctx context.Context) (*KeyProposal, error) {
	var p KeyProposal
	b, err := svc.store.Setting(ctx, keyProposal)
	if errors.Is(err, store.ErrNotFound) {
		return nil, nil
	}
	if err == nil {
		err = json.Unmarshal(b, &p)
	}
	if err != nil || svc.now().Sub(p.At) > proposalLasts {
		return nil, err
	}
	return &p, nil
}

// AgreeKey makes the new key that was asked for: one of the office and a verifier do it
// together. Where nobody else is there to agree, the one person of both roles does.
func (svc *Service) AgreeKey(ctx context.Context, by people.Person, password string) error {
	if err := people.May(by, people.ChangeKey); err != nil {
		return err
	}
	p, err := svc.ProposedKey(ctx)
	if err != nil {
		return err
	}
	if p == nil {
		return schema.Invalid("key", "nobody asked for a new one, or it is more than a day ago")
	}
	if err := svc.second(ctx, by, p); err != nil {
		return err
	}
	if err := svc.confirm(ctx, by, password); err != nil {
		return err
	}
	if err := svc.takeProposal(ctx, p); err != nil {
		return err
	}
	who := by.Name
	if p.Account != by.ID {
		who = p.By + " and " + by.Name
	}
	_, err = svc.NewKey(ctx, who, p.Why)
	return err
}

// second reports why a person is not the one who agrees to a proposal, or nil. Who asked must
// still be what they were: an account that was closed meanwhile asks for nothing.
func (svc *Service) second(ctx context.Context, by people.Person, p *KeyProposal) error {
	users, err := svc.store.Users(ctx)
	if err != nil {
		return err
	}
	if by.ID != p.Account {
		i := slices.IndexFunc(users, func(u store.User) bool { return u.ID == p.Account && !u.Disabled })
		if i < 0 {
			return fmt.Errorf("%w: the account of %s, who asked for it, is closed", people.ErrForbidden, p.By)
		}
		now := people.RolesOf(users[i])
		for i, role := range keyParts {
			if p.Roles.Has(role) && now.Has(role) && by.Roles.Has(keyParts[1-i]) {
				return nil
			}
		}
		return fmt.Errorf("%w: one of the office and a verifier make a new key together, and %s asked for it as %s", people.ErrForbidden, p.By, p.Roles)
	}
	for _, u := range users {
		if r := people.RolesOf(u); u.ID != by.ID && !u.Disabled && (r.Has(people.Office) || r.Has(people.Verifier)) {
			return fmt.Errorf("%w: another person agrees to it", people.ErrForbidden)
		}
	}
	if !by.Roles.Has(people.Office) || !by.Roles.Has(people.Verifier) {
		return fmt.Errorf("%w: one of the office and a verifier make a new key together", people.ErrForbidden)
	}
	return nil
}

// DropProposal takes back that a new key was asked for.
func (svc *Service) DropProposal(ctx context.Context, by people.Person) error {
	if err := people.May(by, people.ChangeKey); err != nil {
		return err
	}
	if err := svc.dropProposal(ctx); err != nil {
		return err
	}
	return svc.store.Write(ctx, func(tx *store.Tx) error { return tx.Note(svc.now(), by.Name, "ask for no new sealing key", "", "") })
}

// takeProposal drops a proposal that is agreed to: it is good for one key, though two agree
// at once, and for the one that was read.
func (svc *Service) takeProposal(ctx context.Context, p *KeyProposal) error {
	return svc.store.Write(ctx, func(tx *store.Tx) error {
		var now KeyProposal
		b, err := tx.Settings().Get(keyProposal)
		if err == nil {
			err = json.Unmarshal(b, &now)
		}
		if errors.Is(err, store.ErrNotFound) || err == nil && (now.Account != p.Account || !now.At.Equal(p.At)) {
			return schema.Invalid("key", "another one was agreed to, or asked for, meanwhile")
		}
		return errors.Join(err, tx.Settings().Drop(keyProposal))
	})
}

func (svc *Service) dropProposal(ctx context.Context) error {
	return svc.store.Write(ctx, func(tx *store.Tx) error { return tx.Settings().Drop(keyProposal) })
}

func checkWhy(why string) error {
	if len([]rune(strings.TrimSpace(why))) < 10 {
		return schema.Invalid("why", "a new key needs a reason in words")
	}
	return nil
}
