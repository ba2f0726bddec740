package people

import (
	"bytes"
	"context"
	"crypto/rand"
	"encoding/base64"
	"errors"
	"fmt"
	"image/png"
	"slices"
	"strings"
	"time"

	"github.com/pquerna/otp"
	"github.com/pquerna/otp/totp"

	"dogbolt/core/schema"
	"dogbolt/internal/store"
)

// Codes of a second factor: RFC 6238 as every authenticator has it, 30 s and six digits,
// and one step early or late.
const (
	codeStep    = 30 * time.Second
	codeSkew    = 1
	codesOfHand = 10 // recovery codes, each good once. Common practice, no source.
)

// ErrCode says that an account wants the code of its second factor too.
var ErrCode = errors.New("the code of the second factor is missing")

// keyDemand is the setting that verifiers sign in with a second factor.
const keyDemand = "second-factor"

// Factor is what an authenticator is set up with.
type Factor struct {
	Secret string `json:"secret" doc:"To be typed where the picture cannot be read."`
	URI    string `json:"uri"`
	QR     string `json:"qr" doc:"The same as a picture: a data address of a PNG."`
}

// NewFactor makes the secret of a second factor. It counts when a code of it was shown.
func (svc *Service) NewFactor(by Person) (Factor, error) {
	key, err := totp.Generate(totp.GenerateOpts{Issuer: "Dogbolt", AccountName: by.Username, Period: uint(codeStep.Seconds())})
	if err != nil {
		return Factor{}, err
	}
	picture, err := key.Image(232, 232)
	if err != nil {
		return Factor{}, err
	}
	var b bytes.Buffer
	if err := png.Encode(&b, picture); err != nil {
		return Factor{}, err
	}
	return Factor{key.Secret(), key.URL(), "data:image/png;base64," + base64.StdEncoding.EncodeToString(b.Bytes())}, nil
}

// TakeFactor begins a second factor with its first code, and returns the recovery codes:
// they are shown once.
func (svc *Service) TakeFactor(ctx context.Context, by Person, password, secret, code string) ([]string, error) {
	if len(secret) < 32 { // 20 bytes, base32
		return nil, schema.Invalid("secret", "is not one that the program made")
	}
	step, ok := svc.stepOf(secret, code, 0)
	if !ok {
		return nil, schema.Invalid("code", "is not the code of now: is the clock of the phone right?")
	}
	var codes []string
	var digests []string
	for range codesOfHand {
		c := strings.ToLower(rand.Text()[:10])
		codes, digests = append(codes, c), append(digests, digest(c))
	}
	return codes, svc.withPassword(ctx, by, password, "begin second factor", func(u *store.User) {
		u.TOTP, u.TOTPStep, u.Recovery = secret, step, strings.Join(digests, " ")
	})
}

// DropFactor ends one's own second factor.
func (svc *Service) DropFactor(ctx context.Context, by Person, password string) error {
	return svc.withPassword(ctx, by, password, "end second factor", dropFactor)
}

func dropFactor(u *store.User) { u.TOTP, u.TOTPStep, u.Recovery = "", 0, "" }

// DropFactorOf ends the second factor and the passkeys of somebody who lost them. The office
// does it, and it is in the audit.
func (svc *Service) DropFactorOf(ctx context.Context, by Person, id string) error {
	if err := May(by, ManageUsers); err != nil {
		return err
	}
	return svc.change(ctx, by.Name, id, "end second factor", func(tx *store.Tx, u *store.User) (string, error) {
		dropFactor(u)
		return "", errors.Join(tx.EndSessions(id), tx.DropPasskey(id, ""))
	})
}

// withPassword changes one's own account, with the present password.
func (svc *Service) withPassword(ctx context.Context, by Person, password, action string, f func(*store.User)) error {
	if err := svc.Confirm(ctx, by, password); err != nil {
		return err
	}
	return svc.change(ctx, by.Name, by.ID, action, func(_ *store.Tx, u *store.User) (string, error) {
		f(u)
		return "", nil
	})
}

// Confirm asks for the present password of a person.
func (svc *Service) Confirm(ctx context.Context, by Person, password string) error {
	u, err := svc.store.User(ctx, by.ID)
	if err != nil {
		return err
	}
	return svc.confirm(u, password)
}

// confirm asks for the present password of an account.
func (svc *Service) confirm(u store.User, password string) error {
	account := "account " + u.Username
	if d := svc.guard.wait(svc.now(), account); d > 0 {
		return WaitError{d}
	}
	if !matches(password, u.Hash) {
		svc.guard.failed(svc.now(), account, freeOfAccount)
		return schema.Invalid("old", "is not the present password")
	}
	return nil
}

// stepOf returns the step of a code, where it is one of now that is later than the last.
func (svc *Service) stepOf(secret, code string, last int64) (int64, bool) {
	now := svc.now()
	options := totp.ValidateOpts{Period: uint(codeStep.Seconds()), Digits: otp.DigitsSix, Algorithm: otp.AlgorithmSHA1}
	for skew := -codeSkew; skew <= codeSkew; skew++ {
		at := now.Add(time.Duration(skew) * codeStep)
		step := at.Unix() / int64(codeStep.Seconds())
		ok, err := totp.ValidateCustom(strings.TrimSpace(code), secret, at, options)
		if err == nil && ok && step > last {
			return step, true
		}
	}
	return 0, false
}

// second checks the code of a second factor, or a recovery code, which is used up by it.
func (svc *Service) second(ctx context.Context, u store.User, code string) error {
	if code = strings.ToLower(strings.TrimSpace(code)); code == "" {
		return ErrCode
	}
	return svc.store.Write(ctx, func(tx *store.Tx) error {
		u, err := tx.User(u.ID) // what another sign-in used meanwhile
		if err != nil {
			return err
		}
		if step, ok := svc.stepOf(u.TOTP, code, u.TOTPStep); ok {
			u.TOTPStep = step
			return tx.SaveUser(u)
		}
		left := strings.Fields(u.Recovery)
		i := slices.Index(left, digest(code))
		if i < 0 {
			return ErrSignIn
		}
		u.Recovery = strings.Join(slices.Delete(left, i, i+1), " ")
		return errors.Join(tx.SaveUser(u), tx.Note(svc.now(), u.Name, "use a recovery code", "", fmt.Sprintf("%s, %d left", about(u), len(left)-1)))
	})
}

// Demand says whether verifiers need a second factor.
func (svc *Service) Demand(ctx context.Context) (bool, error) {
	v, err := svc.store.Setting(ctx, keyDemand)
	if errors.Is(err, store.ErrNotFound) {
		return false, nil
	}
	return string(v) == "yes", err
}

// SetDemand says whether verifiers need a second factor: without one they are no verifiers.
func (svc *Service) SetDemand(ctx context.Context, by Person, demand bool) error {
	if err := May(by, ManageUsers); err != nil {
		return err
	}
	word := map[bool]string{true: "yes", false: "no"}[demand]
	return svc.store.Write(ctx, func(tx *store.Tx) error {
		return errors.Join(tx.Settings().Set(keyDemand, []byte(word)), tx.Note(svc.now(), by.Name, "second factor of verifiers", "", word))
	})
}

// held takes the verifier's role from whoever lacks the second factor that the firm asks for.
func (svc *Service) held(ctx context.Context, u store.User, passkey bool) (Person, error) {
	p := person(u)
	p.Passkey = passkey
	if !p.Roles.Has(Verifier) || u.TOTP != "" || passkey {
		return p, nil
	}
	demand, err := svc.Demand(ctx)
	if err == nil && demand {
		p.Lacks = true
		p.Roles = slices.DeleteFunc(p.Roles, func(r Role) bool { return r == Verifier })
	}
	return p, err
}
