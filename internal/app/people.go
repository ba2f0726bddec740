package app

import (
	"context"
	"crypto/ed25519"
	"crypto/rand"
	"crypto/sha256"
	"crypto/subtle"
	"encoding/base64"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"sync"

	"github.com/alexedwards/argon2id"
	"github.com/google/uuid"

	"dogbolt/core/record"
	"dogbolt/internal/store"
)

// hashing is argon2id with the second of the two choices of RFC 9106: 64 MiB,
// three passes.
var hashing = &argon2id.Params{Memory: 64 * 1024, Iterations: 3, Parallelism: 2, SaltLength: 16, KeyLength: 32}

// MinPassword is the least length of a password (NIST SP 800-63B asks for 8;
// a longer one costs nothing).
const MinPassword = 10

// Settings of the firm in the store.
const (
	keySetUp      = "setup-token"
	keyContractor = "contractor"
	keySealing    = "sealing-key"
)

// SignIn checks a name and a password. Wrong names take as long as wrong
// passwords.
func (a *App) SignIn(ctx context.Context, username, password string) (Person, error) {
	u, err := a.store.UserByName(ctx, strings.ToLower(strings.TrimSpace(username)))
	hash := u.Hash
	if err != nil {
		if !errors.Is(err, store.ErrNotFound) {
			return Person{}, err
		}
		hash = decoy()
	}
	ok, hashErr := argon2id.ComparePasswordAndHash(password, hash)
	if err != nil || hashErr != nil || !ok || u.Disabled {
		a.log.WarnContext(ctx, "sign-in refused", "user", username)
		return Person{}, ErrSignIn
	}
	return person(u), nil
}

// decoy is the hash that a wrong name is compared with.
var decoy = sync.OnceValue(func() string {
	hash, err := argon2id.CreateHash("no such person", hashing)
	if err != nil {
		panic(err) // no randomness: nothing can go on
	}
	return hash
})

func person(u store.User) Person { return Person{u.ID, u.Name, Role(u.Role)} }

// Person returns the person of a session; ErrNotFound where the account is
// gone or disabled.
func (a *App) Person(ctx context.Context, id string) (Person, error) {
	u, err := a.store.User(ctx, id)
	if err != nil {
		return Person{}, err
	}
	if u.Disabled {
		return Person{}, store.ErrNotFound
	}
	return person(u), nil
}

// NewUser is an account to be made.
type NewUser struct {
	Username string
	Name     string
	Role     Role
	Password string
}

func (n NewUser) check() error {
	var errs FieldErrors
	add := func(e FieldErrors) { errs = append(errs, e...) }
	if n.Username = strings.ToLower(strings.TrimSpace(n.Username)); len(n.Username) < 2 {
		add(invalid("username", "has at least two characters"))
	}
	if strings.TrimSpace(n.Name) == "" {
		add(invalid("name", "missing"))
	}
	if _, ok := allowedRole(n.Role); !ok {
		add(invalid("role", "%q is not office, surveyor, installer or verifier", n.Role))
	}
	if len(n.Password) < MinPassword {
		add(invalid("password", "has at least %d characters", MinPassword))
	}
	if errs != nil {
		return errs
	}
	return nil
}

func allowedRole(r Role) (Role, bool) {
	for _, x := range Roles {
		if x == r {
			return x, true
		}
	}
	return "", false
}

func (n NewUser) row(a *App) (store.User, error) {
	if err := n.check(); err != nil {
		return store.User{}, err
	}
	hash, err := argon2id.CreateHash(n.Password, hashing)
	if err != nil {
		return store.User{}, err
	}
	return store.User{ID: uuid.NewString(), Username: strings.ToLower(strings.TrimSpace(n.Username)), Name: strings.TrimSpace(n.Name), Role: string(n.Role), Hash: hash, Created: a.now()}, nil
}

// AddUser makes an account.
func (a *App) AddUser(ctx context.Context, by Person, n NewUser) (Person, error) {
	if err := a.may(by, ManageUsers); err != nil {
		return Person{}, err
	}
	return a.addUser(ctx, by.Name, n)
}

func (a *App) addUser(ctx context.Context, by string, n NewUser) (Person, error) {
	u, err := n.row(a)
	if err != nil {
		return Person{}, err
	}
	err = a.store.Write(ctx, func(tx *store.Tx) error {
		if err := tx.AddUser(u); err != nil {
			return err
		}
		return tx.Note(a.now(), by, "add person", "", u.Username+" as "+u.Role)
	})
	if errors.Is(err, store.ErrTaken) {
		return Person{}, invalid("username", "%q is already taken", u.Username)
	}
	return person(u), err
}

// AddUserLocally makes an account from the command line of the machine that
// holds the database, which needs no permission of its own.
func (a *App) AddUserLocally(ctx context.Context, n NewUser) (Person, error) {
	return a.addUser(ctx, "command line", n)
}

// Users lists the accounts.
func (a *App) Users(ctx context.Context, by Person) ([]store.User, error) {
	if err := a.may(by, ViewFirm); err != nil {
		return nil, err
	}
	return a.store.Users(ctx)
}

// SetDisabled opens or closes an account. Nobody closes their own.
func (a *App) SetDisabled(ctx context.Context, by Person, id string, disabled bool) error {
	if err := a.may(by, ManageUsers); err != nil {
		return err
	}
	if id == by.ID {
		return invalid("id", "you cannot close your own account")
	}
	u, err := a.store.User(ctx, id)
	if err != nil {
		return err
	}
	u.Disabled = disabled
	return a.store.Write(ctx, func(tx *store.Tx) error {
		if err := tx.SaveUser(u); err != nil {
			return err
		}
		return tx.Note(a.now(), by.Name, "set disabled", "", fmt.Sprintf("%s %t", u.Username, disabled))
	})
}

// SetUpToken returns a new one-time token for the first account; "" where
// there are accounts already. Only its hash is kept.
func (a *App) SetUpToken(ctx context.Context) (string, error) {
	token := rand.Text()
	err := a.store.Write(ctx, func(tx *store.Tx) error {
		n, err := tx.CountUsers()
		if err != nil {
			return err
		}
		if n > 0 {
			token = ""
			return nil
		}
		sum := sha256.Sum256([]byte(token))
		return tx.SetSetting(keySetUp, []byte(hex.EncodeToString(sum[:])))
	})
	return token, err
}

// SetUp makes the first account, of role office, with the one-time token.
func (a *App) SetUp(ctx context.Context, token string, n NewUser) (Person, error) {
	n.Role = Office
	u, err := n.row(a)
	if err != nil {
		return Person{}, err
	}
	err = a.store.Write(ctx, func(tx *store.Tx) error {
		want, err := tx.Setting(keySetUp)
		if err != nil {
			return fmt.Errorf("%w: this link was used already", ErrForbidden)
		}
		sum := sha256.Sum256([]byte(token))
		if subtle.ConstantTimeCompare(want, []byte(hex.EncodeToString(sum[:]))) != 1 {
			return fmt.Errorf("%w: this set-up link is not the newest; use the one printed last", ErrForbidden)
		}
		if err := tx.AddUser(u); err != nil {
			return err
		}
		if err := tx.DropSetting(keySetUp); err != nil {
			return err
		}
		return tx.Note(a.now(), u.Name, "set up", "", u.Username)
	})
	return person(u), err
}

// Contractor returns the firm's data.
func (a *App) Contractor(ctx context.Context, by Person) (record.Contractor, error) {
	if err := a.may(by, ViewFirm); err != nil {
		return record.Contractor{}, err
	}
	return a.contractor(ctx)
}

func (a *App) contractor(ctx context.Context) (record.Contractor, error) {
	var c record.Contractor
	b, err := a.store.Setting(ctx, keyContractor)
	if errors.Is(err, store.ErrNotFound) {
		return c, nil
	}
	if err == nil {
		err = json.Unmarshal(b, &c)
	}
	return c, err
}

// SetContractor writes the firm's data.
func (a *App) SetContractor(ctx context.Context, by Person, c record.Contractor) error {
	if err := a.may(by, ManageFirm); err != nil {
		return err
	}
	if strings.TrimSpace(c.Name) == "" {
		return invalid("name", "missing")
	}
	b, err := json.Marshal(c)
	if err != nil {
		return err
	}
	return a.store.Write(ctx, func(tx *store.Tx) error {
		if err := tx.SetSetting(keyContractor, b); err != nil {
			return err
		}
		return tx.Note(a.now(), by.Name, "change firm", "", c.Name)
	})
}

// sealingKey returns the firm's key, made on first use.
func (a *App) sealingKey(ctx context.Context) (ed25519.PrivateKey, error) {
	seed, err := a.store.Setting(ctx, keySealing)
	if err == nil {
		return ed25519.NewKeyFromSeed(seed), nil
	}
	if !errors.Is(err, store.ErrNotFound) {
		return nil, err
	}
	err = a.store.Write(ctx, func(tx *store.Tx) error {
		if seed, err = tx.Setting(keySealing); err == nil {
			return nil
		}
		_, key, err := ed25519.GenerateKey(rand.Reader)
		if err != nil {
			return err
		}
		seed = key.Seed()
		return tx.SetSetting(keySealing, seed)
	})
	if err != nil {
		return nil, err
	}
	return ed25519.NewKeyFromSeed(seed), nil
}

// PublicKey returns the key that records are checked with, and its fingerprint.
func (a *App) PublicKey(ctx context.Context) (key, fingerprint string, err error) {
	k, err := a.sealingKey(ctx)
	if err != nil {
		return "", "", err
	}
	key = base64.StdEncoding.EncodeToString(k.Public().(ed25519.PublicKey))
	return key, record.Fingerprint(key), nil
}
