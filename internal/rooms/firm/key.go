package firm

import (
	"context"
	"crypto/ed25519"
	"encoding/base64"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"slices"
	"strings"

	"dogbolt/core/record"
	"dogbolt/internal/keyring"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/store"
)

// keyOlder is where programs before there were certificates kept the private key, in the
// database.
const keyOlder = "sealing-key"

// KeyLine is a line of the register of keys.
type KeyLine struct {
	store.SealingKey
	Fingerprint string
}

// SealingKey returns the firm's key. The first one is made where there was none; one that is
// gone is never replaced without a word.
func (svc *Service) SealingKey(ctx context.Context) (record.Key, error) {
	svc.keyMu.Lock()
	defer svc.keyMu.Unlock()
	if svc.key != nil {
		return *svc.key, nil
	}
	k, err := svc.Ring.Load()
	if errors.Is(err, fs.ErrNotExist) {
		k, err = svc.firstKey(ctx)
	}
	if err != nil {
		return record.Key{}, err
	}
	if err := svc.register(ctx, k, "the program", "came with its file"); err != nil {
		return record.Key{}, err
	}
	svc.key = &k
	return k, nil
}

// firstKey makes the firm's first key.
func (svc *Service) firstKey(ctx context.Context) (record.Key, error) {
	list, err := svc.store.SealingKeys(ctx)
	if err != nil {
		return record.Key{}, err
	}
	if slices.ContainsFunc(list, func(k store.SealingKey) bool { return k.Certificate != "" }) {
		const how = "the file of the sealing key is gone. Put it back, or make a new key: the office and a verifier together (People and firm), or on the server, dogbolt key new --why …"
		return record.Key{}, fmt.Errorf("%w: %s", people.ErrBlocked, how)
	}
	k, err := svc.makeKey(ctx)
	if err != nil {
		return record.Key{}, err
	}
	return k, svc.register(ctx, k, "the program", "the first key")
}

// makeKey makes a key and writes its file.
func (svc *Service) makeKey(ctx context.Context) (record.Key, error) {
	c, err := svc.ContractorNow(ctx)
	if err != nil {
		return record.Key{}, err
	}
	if c.Name == "" {
		return record.Key{}, fmt.Errorf("%w: the firm's name is not entered yet, and stands in the certificate of its key (People and firm)", people.ErrBlocked)
	}
	k, err := keyring.New(c.Name, svc.now())
	if err != nil {
		return k, err
	}
	return k, svc.Ring.Save(k, svc.now())
}

// endorsed is what a key says of the one that it follows.
func endorsed(public string) ([]byte, error) {
	return record.Canonical(map[string]string{"format": "dogbolt.key/1", "follows": public})
}

// register adds a key to the register, where it is not there: it vouches for the one before.
// The private half that an older program kept in the database is taken out of it.
func (svc *Service) register(ctx context.Context, k record.Key, by, why string) error {
	return svc.store.Write(ctx, func(tx *store.Tx) error {
		if err := svc.takeOlder(tx); err != nil {
			return err
		}
		list, err := tx.SealingKeys()
		if err != nil {
			return err
		}
		if slices.ContainsFunc(list, func(o store.SealingKey) bool { return o.Public == k.Public() }) {
			return nil
		}
		if len(list) > 0 {
			last := list[len(list)-1]
			body, err := endorsed(last.Public)
			if err != nil {
				return err
			}
			seal, err := k.SealBytes(body)
			if err != nil {
				return err
			}
			b, err := json.Marshal(seal)
			if err != nil {
				return err
			}
			last.Endorsement = string(b)
			if err := tx.SaveSealingKey(last); err != nil {
				return err
			}
		}
		line := store.SealingKey{Public: k.Public(), Certificate: base64.StdEncoding.EncodeToString(k.Certificate.Raw), Since: svc.now(), By: by, Why: why}
		return errors.Join(tx.SaveSealingKey(line), tx.Note(svc.now(), by, "new sealing key", "", record.Fingerprint(line.Public)+", "+why))
	})
}

// takeOlder registers the public half of an older program's key, and drops the private one.
func (svc *Service) takeOlder(tx *store.Tx) error {
	seed, err := tx.Settings().Get(keyOlder)
	if errors.Is(err, store.ErrNotFound) {
		return nil
	}
	if err != nil {
		return err
	}
	if len(seed) != ed25519.SeedSize {
		return fmt.Errorf("the key in the database has %d bytes", len(seed))
	}
	public := ed25519.NewKeyFromSeed(seed).Public().(ed25519.PublicKey)
	line := store.SealingKey{
		Public: base64.StdEncoding.EncodeToString(public), Since: svc.now(),
		By: "the program", Why: "of an older program, which kept it in the database",
	}
	return errors.Join(tx.SaveSealingKey(line), tx.Settings().Drop(keyOlder))
}

// NewKey makes a new key, in place of one that is to rest, or is lost: from the command line of
// the machine that holds it, or for two who agreed. Records of before stay as they are, and are checked with
// the public half, which the register keeps.
func (svc *Service) NewKey(ctx context.Context, by, why string) (record.Key, error) {
	if err := checkWhy(why); err != nil {
		return record.Key{}, err
	}
	svc.keyMu.Lock()
	defer svc.keyMu.Unlock()
	k, err := svc.makeKey(ctx)
	if err != nil {
		return k, err
	}
	svc.key = &k
	return k, svc.register(ctx, k, by, strings.TrimSpace(why))
}

// Keys lists the register of keys, the first one first.
func (svc *Service) Keys(ctx context.Context) ([]KeyLine, error) {
	list, err := svc.store.SealingKeys(ctx)
	out := make([]KeyLine, len(list))
	for i, k := range list {
		out[i] = KeyLine{k, record.Fingerprint(k.Public)}
	}
	return out, err
}

// Known reports whether a public key is the firm's: the one that it seals with, or one that
// the next vouches for, back from there. The register alone is not believed: whoever writes
// the database could add to it.
func (svc *Service) Known(ctx context.Context, public string) (bool, error) {
	k, err := svc.SealingKey(ctx)
	if err != nil {
		return false, err
	}
	list, err := svc.store.SealingKeys(ctx)
	if err != nil {
		return false, err
	}
	by := k.Public()
	for i := len(list) - 1; i >= 0; i-- {
		line := list[i]
		if line.Public == by {
			if by == public {
				return true, nil
			}
			continue
		}
		if line.Endorsement == "" {
			continue
		}
		if !vouched(line, by) {
			return false, nil
		}
		if by = line.Public; by == public {
			return true, nil
		}
	}
	return false, nil
}

// vouched reports whether a key says that it follows the one of a line of the register.
func vouched(line store.SealingKey, by string) bool {
	body, err := endorsed(line.Public)
	var seal record.Seal
	return err == nil && json.Unmarshal([]byte(line.Endorsement), &seal) == nil && seal.Key == by && seal.Check(body) == nil
}

// PublicKey returns the key that records are checked with, and its fingerprint; "" while the
// firm has no name.
func (svc *Service) PublicKey(ctx context.Context) (key, fingerprint string, err error) {
	if c, err := svc.ContractorNow(ctx); err != nil || c.Name == "" {
		return "", "", err
	}
	k, err := svc.SealingKey(ctx)
	if errors.Is(err, people.ErrBlocked) {
		return "", "", nil
	}
	if err != nil {
		return "", "", err
	}
	return k.Public(), record.Fingerprint(k.Public()), nil
}
