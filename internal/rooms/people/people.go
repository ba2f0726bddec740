package people

import (
	"context"
	"crypto/rand"
	"crypto/subtle"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/google/uuid"

	"dogbolt/core/clearance"
	"dogbolt/core/schema"
	"dogbolt/internal/store"
)

// Settings of the firm in the store.
const (
	keySetUp = "setup-token"
)

// SignIn checks a name and a password that come from an address. Wrong names take as long
// as wrong passwords, and wait as long after too many.
func (svc *Service) SignIn(ctx context.Context, username, password, code, address string) (Person, error) {
	username = signName(username)
	account, from := "account "+username, "address "+address
	if d := svc.guard.wait(svc.now(), account, from); d > 0 {
		return Person{}, WaitError{d}
	}
	u, err := svc.store.UserByName(ctx, username)
	hash := u.Hash
	if err != nil {
		if !errors.Is(err, store.ErrNotFound) {
			return Person{}, err
		}
		hash = decoy()
	}
	if hash == "" { // its link was not used yet
		hash = decoy()
	}
	if ok := matches(password, hash); err != nil || !ok || u.Disabled || u.Hash == "" {
		svc.guard.failed(svc.now(), account, freeOfAccount)
		svc.guard.failed(svc.now(), from, freeOfAddress)
		svc.log.WarnContext(ctx, "sign-in refused", "user", username)
		return Person{}, errors.Join(ErrSignIn, svc.note(ctx, shortened(username), "sign-in refused", "from "+address))
	}
	if u.TOTP != "" {
		if err := svc.second(ctx, u, code); err != nil {
			if errors.Is(err, ErrSignIn) {
				svc.guard.failed(svc.now(), account, freeOfAccount)
				svc.guard.failed(svc.now(), from, freeOfAddress)
				err = errors.Join(err, svc.note(ctx, u.Name, "code refused", "from "+address))
			}
			return Person{}, err
		}
	}
	svc.guard.succeeded(account)
	p, err := svc.held(ctx, u, false)
	return p, errors.Join(err, svc.note(ctx, u.Name, "sign in", "from "+address))
}

// signName is a sign-in name as it is kept.
func signName(s string) string { return strings.ToLower(strings.TrimSpace(s)) }

// shortened is what the audit keeps of a name that anybody can type.
func shortened(s string) string {
	if r := []rune(s); len(r) > 40 {
		return string(r[:40]) + "…"
	}
	return s
}

// note adds a line about people to the audit.
func (svc *Service) note(ctx context.Context, who, action, detail string) error {
	return svc.store.Write(ctx, func(tx *store.Tx) error { return tx.Note(svc.now(), who, action, "", detail) })
}

func person(u store.User) Person {
	return Person{ID: u.ID, Username: u.Username, Name: u.Name, Roles: RolesOf(u), Factor: u.TOTP != ""}
}

// Person returns the person of a session, which began with a passkey or without; ErrNotFound
// where the account is gone or closed.
func (svc *Service) Person(ctx context.Context, id string, passkey bool) (Person, error) {
	u, err := svc.store.User(ctx, id)
	if err != nil {
		return Person{}, err
	}
	if u.Disabled {
		return Person{}, store.ErrNotFound
	}
	return svc.held(ctx, u, passkey)
}

// NewUser is an account to be made. Without a password it gets one by a link.
type NewUser struct {
	Username string
	Name     string
	Roles    Roles
	Mail     string
	Password string
}

func (n NewUser) check() error {
	var errs schema.Errors
	add := func(e schema.Errors) { errs = append(errs, e...) }
	if utf8.RuneCountInString(signName(n.Username)) < 2 {
		add(schema.Invalid("username", "has at least two characters"))
	}
	if strings.TrimSpace(n.Name) == "" {
		add(schema.Invalid("name", "missing"))
	}
	add(n.Roles.check())
	if n.Mail != "" && !strings.Contains(strings.Trim(n.Mail, "@"), "@") {
		add(schema.Invalid("mail", "%q is not a mail address", n.Mail))
	}
	if n.Password != "" {
		add(passwordFault(n.Password, n.Username, n.Name))
	}
	if errs != nil {
		return errs
	}
	return nil
}

func (n NewUser) row(now time.Time) (store.User, error) {
	if err := n.check(); err != nil {
		return store.User{}, err
	}
	u := store.User{
		ID:       uuid.NewString(),
		Username: signName(n.Username),
		Name:     strings.Join(strings.Fields(n.Name), " "),
		Roles:    n.Roles.String(),
		Mail:     strings.TrimSpace(n.Mail),
		Created:  now,
	}
	var err error
	if n.Password != "" {
		u.Hash, err = hashOf(n.Password)
	}
	return u, err
}

// add writes a new account. No two have one name: what is logged and sealed is printed
// with the name, and a crew's lead is known by it.
func add(tx *store.Tx, u store.User) error {
	users, err := tx.Users()
	if err != nil {
		return err
	}
	for _, o := range users {
		if o.Username == u.Username {
			return schema.Invalid("username", "%q is already taken", u.Username)
		}
		if folded(o.Name) == folded(u.Name) {
			return schema.Invalid("name", "%q has an account already; two people of one name need what tells them apart on records, such as the town", o.Name)
		}
	}
	return tx.AddUser(u)
}

// AddUser makes an account. Without a password it answers with the token of a link by
// which the person chooses one.
func (svc *Service) AddUser(ctx context.Context, by Person, n NewUser) (p Person, token string, err error) {
	if err := May(by, ManageUsers); err != nil {
		return Person{}, "", err
	}
	return svc.addUser(ctx, by.Name, n)
}

func (svc *Service) addUser(ctx context.Context, by string, n NewUser) (p Person, token string, err error) {
	u, err := n.row(svc.now())
	if err != nil {
		return Person{}, "", err
	}
	err = svc.store.Write(ctx, func(tx *store.Tx) error {
		if err := add(tx, u); err != nil {
			return err
		}
		if u.Hash == "" {
			if token, err = svc.link(tx, u.ID); err != nil {
				return err
			}
		}
		return tx.Note(svc.now(), by, "add person", "", about(u)+" as "+u.Roles)
	})
	return person(u), token, err
}

// about names an account in the audit.
func about(u store.User) string { return u.Name + " (" + u.Username + ")" }

// AddUserLocally makes an account from the command line of the machine that
// holds the database, which needs no permission of its own.
func (svc *Service) AddUserLocally(ctx context.Context, n NewUser) (p Person, token string, err error) {
	return svc.addUser(ctx, commandLine, n)
}

// commandLine is who did what was done on the machine itself.
const commandLine = "command line"

// Users lists the accounts.
func (svc *Service) Users(ctx context.Context, by Person) ([]store.User, error) {
	if err := May(by, ViewFirm); err != nil {
		return nil, err
	}
	return svc.store.Users(ctx)
}

// change writes one account in a transaction, and a line of the audit.
func (svc *Service) change(ctx context.Context, by, id, action string, f func(tx *store.Tx, u *store.User) (detail string, err error)) error {
	var was store.User
	var detail string
	err := svc.store.Write(ctx, func(tx *store.Tx) error {
		u, err := tx.User(id)
		if err != nil {
			return err
		}
		was = u
		if detail, err = f(tx, &u); err != nil {
			return err
		}
		return errors.Join(tx.SaveUser(u), tx.Note(svc.now(), by, action, "", strings.TrimSpace(about(u)+" "+detail)))
	})
	if words, told := toldOf[action]; told && err == nil {
		svc.tell(ctx, was, words+" "+detail)
	}
	return err
}

// toldOf are the changes of an account that its person hears of by mail, whoever made them.
var toldOf = map[string]string{
	"begin second factor": "a second factor was begun", "end second factor": "the second factor was ended",
	"add a passkey": "a passkey was added:", "end a passkey": "a passkey was ended:",
	"change roles": "the roles were changed", "make a link": "a one-time link for a new password was made",
	"change mail address": "this mail address was exchanged for another",
}

// tell mails the person of an account what was changed in it, to the address that it had
// before. A mail that cannot be sent undoes nothing.
func (svc *Service) tell(ctx context.Context, u store.User, what string) {
	if svc.Mail == nil || u.Mail == "" {
		return
	}
	now := svc.now()
	err := svc.Mail.Send(clearance.Message{
		ID: "told-" + digest(u.ID + what + now.String())[:12], From: "dogbolt@" + mailHost(svc.PublicURL), To: u.Mail,
		Subject: "A change of your account", Date: now,
		Body: "In the account " + u.Username + ", " + strings.TrimSpace(what) + ", " + now.Format("2006-01-02 15:04 MST") + ".\nIf it was not you, or is news to you, call the office.",
	})
	if err != nil {
		svc.log.ErrorContext(ctx, "tell of a changed account", "error", err)
	}
}

// SetDisabled opens or closes an account. Nobody closes their own. A closed account has no
// session, no link and no passkey, also when it is opened again.
func (svc *Service) SetDisabled(ctx context.Context, by Person, id string, disabled bool) error {
	if err := May(by, ManageUsers); err != nil {
		return err
	}
	if id == by.ID {
		return schema.Invalid("id", "you cannot close your own account")
	}
	action := "open account"
	if disabled {
		action = "close account"
	}
	return svc.change(ctx, by.Name, id, action, func(tx *store.Tx, u *store.User) (string, error) {
		u.Disabled = disabled
		return "", errors.Join(tx.EndSessions(id), tx.DropTickets(id), tx.DropPasskey(id, ""), svc.someOffice(tx, *u))
	})
}

// SetRoles says what a person is in the firm. One of the office stays.
func (svc *Service) SetRoles(ctx context.Context, by Person, id string, roles Roles) error {
	if err := May(by, ManageUsers); err != nil {
		return err
	}
	if errs := roles.check(); errs != nil {
		return errs
	}
	return svc.change(ctx, by.Name, id, "change roles", func(tx *store.Tx, u *store.User) (string, error) {
		was := u.Roles
		u.Roles = roles.String()
		return "from " + was + " to " + u.Roles, svc.someOffice(tx, *u)
	})
}

// someOffice refuses a change that leaves the firm without anybody who manages people.
func (svc *Service) someOffice(tx *store.Tx, changed store.User) error {
	users, err := tx.Users()
	if err != nil {
		return err
	}
	if i := slices.IndexFunc(users, func(u store.User) bool { return u.ID == changed.ID }); i >= 0 {
		users[i] = changed
	}
	if !slices.ContainsFunc(users, func(u store.User) bool { return !u.Disabled && RolesOf(u).Has(Office) }) {
		return schema.Invalid("roles", "nobody would be left in the office, to manage people")
	}
	return nil
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
		return tx.Settings().Set(keySetUp, []byte(digest(token)))
	})
	return token, err
}

// SetUp makes the first account with the one-time token. It is of the office, and what else
// its person is in the firm: where there is one person, all.
func (svc *Service) SetUp(ctx context.Context, token string, n NewUser) (Person, error) {
	if !n.Roles.Has(Office) {
		n.Roles = append(Roles{Office}, n.Roles...)
	}
	if n.Password == "" {
		return Person{}, schema.Invalid("password", "missing")
	}
	u, err := n.row(svc.now())
	if err != nil {
		return Person{}, err
	}
	err = svc.store.Write(ctx, func(tx *store.Tx) error {
		want, err := tx.Settings().Get(keySetUp)
		if err != nil {
			return fmt.Errorf("%w: this link was used already", ErrForbidden)
		}
		if subtle.ConstantTimeCompare(want, []byte(digest(token))) != 1 {
			return fmt.Errorf("%w: this set-up link is not the newest; use the one printed last", ErrForbidden)
		}
		if err := add(tx, u); err != nil {
			return err
		}
		if err := tx.Settings().Drop(keySetUp); err != nil {
			return err
		}
		return tx.Note(svc.now(), u.Name, "set up", "", about(u)+" as "+u.Roles)
	})
	return person(u), err
}
