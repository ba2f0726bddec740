package people

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"crypto/subtle"
	"encoding/hex"
	"errors"
	"fmt"
	"strings"
	"sync"
	"time"

	"github.com/alexedwards/argon2id"
	"github.com/google/uuid"

	"dogbolt/core/schema"
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
	keySetUp = "setup-token"
)

// SignIn checks a name and a password. Wrong names take as long as wrong
// passwords.
func (svc *Service) SignIn(ctx context.Context, username, password string) (Person, error) {
	u, err := svc.store.UserByName(ctx, strings.ToLower(strings.TrimSpace(username)))
	hash := u.Hash
	if err != nil {
		if !errors.Is(err, store.ErrNotFound) {
			return Person{}, err
		}
		hash = decoy()
	}
	ok, hashErr := argon2id.ComparePasswordAndHash(password, hash)
	if err != nil || hashErr != nil || !ok || u.Disabled {
		svc.log.WarnContext(ctx, "sign-in refused", "user", username)
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
func (svc *Service) Person(ctx context.Context, id string) (Person, error) {
	u, err := svc.store.User(ctx, id)
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
	var errs schema.Errors
	add := func(e schema.Errors) { errs = append(errs, e...) }
	if n.Username = strings.ToLower(strings.TrimSpace(n.Username)); len(n.Username) < 2 {
		add(schema.Invalid("username", "has at least two characters"))
	}
	if strings.TrimSpace(n.Name) == "" {
		add(schema.Invalid("name", "missing"))
	}
	if _, ok := allowedRole(n.Role); !ok {
		add(schema.Invalid("role", "%q is not office, surveyor, installer or verifier", n.Role))
	}
	if len(n.Password) < MinPassword {
		add(schema.Invalid("password", "has at least %d characters", MinPassword))
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

func (n NewUser) row(now time.Time) (store.User, error) {
	if err := n.check(); err != nil {
		return store.User{}, err
	}
	hash, err := argon2id.CreateHash(n.Password, hashing)
	if err != nil {
		return store.User{}, err
	}
	return store.User{
		ID:       uuid.NewString(),
		Username: strings.ToLower(strings.TrimSpace(n.Username)),
		Name:     strings.TrimSpace(n.Name),
		Role:     string(n.Role),
		Hash:     hash,
		Created:  now,
	}, nil
}

// AddUser makes an account.
func (svc *Service) AddUser(ctx context.Context, by Person, n NewUser) (Person, error) {
	if err := May(by, ManageUsers); err != nil {
		return Person{}, err
	}
	return svc.addUser(ctx, by.Name, n)
}

func (svc *Service) addUser(ctx context.Context, by string, n NewUser) (Person, error) {
	u, err := n.row(svc.now())
	if err != nil {
		return Person{}, err
	}
	err = svc.store.Write(ctx, func(tx *store.Tx) error {
		if err := tx.AddUser(u); err != nil {
			return err
		}
		return tx.Note(svc.now(), by, "add person", "", u.Username+" as "+u.Role)
	})
	if errors.Is(err, store.ErrTaken) {
		return Person{}, schema.Invalid("username", "%q is already taken", u.Username)
	}
	return person(u), err
}

// AddUserLocally makes an account from the command line of the machine that
// holds the database, which needs no permission of its own.
func (svc *Service) AddUserLocally(ctx context.Context, n NewUser) (Person, error) {
	return svc.addUser(ctx, "command line", n)
}

// Users lists the accounts.
func (svc *Service) Users(ctx context.Context, by Person) ([]store.User, error) {
	if err := May(by, ViewFirm); err != nil {
		return nil, err
	}
	return svc.store.Users(ctx)
}

// SetDisabled opens or closes an account. Nobody closes their own.
func (svc *Service) SetDisabled(ctx context.Context, by Person, id string, disabled bool) error {
	if err := May(by, ManageUsers); err != nil {
		return err
	}
	if id == by.ID {
		return schema.Invalid("id", "you cannot close your own account")
	}
	u, err := svc.store.User(ctx, id)
	if err != nil {
		return err
	}
	u.Disabled = disabled
	return svc.store.Write(ctx, func(tx *store.Tx) error {
		if err := tx.SaveUser(u); err != nil {
			return err
		}
		return tx.Note(svc.now(), by.Name, "set disabled", "", fmt.Sprintf("%s %t", u.Username, disabled))
	})
}

// SetUpToken returns a new one-time token for the first account; "" where
// there are accounts already. Only its hash is kept.
func (svc *Service) SetUpToken(ctx context.Context) (string, error) {
	token := rand.Text()
	err := svc.store.Write(ctx, func(tx *store.Tx) error {
		n, err := tx.CountUsers()
		if err != nil {
			return err
		}
		if n > 0 {
			token = ""
			return nil
		}
		sum := sha256.Sum256([]byte(token))
		return tx.Settings().Set(keySetUp, []byte(hex.EncodeToString(sum[:])))
	})
	return token, err
}

// SetUp makes the first account, of role office, with the one-time token.
func (svc *Service) SetUp(ctx context.Context, token string, n NewUser) (Person, error) {
	n.Role = Office
	u, err := n.row(svc.now())
	if err != nil {
		return Person{}, err
	}
	err = svc.store.Write(ctx, func(tx *store.Tx) error {
		want, err := tx.Settings().Get(keySetUp)
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
		if err := tx.Settings().Drop(keySetUp); err != nil {
			return err
		}
		return tx.Note(svc.now(), u.Name, "set up", "", u.Username)
	})
	return person(u), err
}
