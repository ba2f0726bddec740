package people

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"time"

	"dogbolt/core/clearance"
	"dogbolt/core/schema"
	"dogbolt/internal/store"
)

// linkLasts is how long a one-time link can be used: over a weekend. Common practice, no source.
const linkLasts = 72 * time.Hour

// resetLasts is how long a link can be used that somebody asked for by mail. Common
// practice, no source.
const resetLasts = time.Hour

// Mailer sends mails.
type Mailer interface {
	Send(clearance.Message) error
}

// link makes a one-time link for an account and returns its token. Only a digest is kept,
// and the newest alone is good.
func (svc *Service) link(tx *store.Tx, userID string) (string, error) {
	return svc.linkFor(tx, userID, linkLasts)
}

func (svc *Service) linkFor(tx *store.Tx, userID string, lasts time.Duration) (string, error) {
	token := rand.Text()
	return token, errors.Join(
		tx.DropTickets(userID),
		tx.AddTicket(store.Ticket{Digest: digest(token), UserID: userID, Expiry: svc.now().Add(lasts)}),
	)
}

// NewLink makes a one-time link by which a person chooses a new password; nobody else
// learns it. The old password is good until then.
func (svc *Service) NewLink(ctx context.Context, by Person, id string) (token string, err error) {
	if err := May(by, ManageUsers); err != nil {
		return "", err
	}
	return token, svc.change(ctx, by.Name, id, "make a link", func(tx *store.Tx, u *store.User) (_ string, err error) {
		if u.Disabled {
			return "", schema.Invalid("id", "the account is closed: open it first")
		}
		token, err = svc.link(tx, id)
		return "", err
	})
}

// NewLinkLocally is NewLink from the command line of the machine that holds the database.
func (svc *Service) NewLinkLocally(ctx context.Context, username string) (token string, err error) {
	u, err := svc.store.UserByName(ctx, signName(username))
	if err != nil {
		return "", fmt.Errorf("%q: %w", username, err)
	}
	return token, svc.change(ctx, commandLine, u.ID, "make a link", func(tx *store.Tx, u *store.User) (_ string, err error) {
		token, err = svc.link(tx, u.ID)
		return "", err
	})
}

// AskReset mails a link to the person of an account, where the account has an address and
// the program a mail drop and an address of its own. The answer is the same for everybody:
// it does not say who has an account.
func (svc *Service) AskReset(ctx context.Context, username string) error {
	u, err := svc.store.UserByName(ctx, signName(username))
	if errors.Is(err, store.ErrNotFound) || err == nil && (u.Disabled || u.Mail == "") || svc.Mail == nil || svc.PublicURL == "" {
		return nil
	}
	if err != nil {
		return err
	}
	return svc.change(ctx, u.Name, u.ID, "ask for a link", func(tx *store.Tx, u *store.User) (string, error) {
		token, err := svc.linkFor(tx, u.ID, resetLasts)
		if err != nil {
			return "", err
		}
		return "", svc.Mail.Send(clearance.Message{
			ID: "link-" + digest(token)[:12], From: "dogbolt@" + mailHost(svc.PublicURL), To: u.Mail, Subject: "A new password for Dogbolt", Date: svc.now(),
			Body: "Somebody asked for a new password for " + u.Username + ".\nChoose it here, within an hour:\n\n" + svc.PublicURL + "/link?token=" + token +
				"\n\nIf it was not you, do nothing: the old password stays.",
		})
	})
}

// MailsLinks reports whether a link can be asked for by mail.
func (svc *Service) MailsLinks() bool { return svc.Mail != nil && svc.PublicURL != "" }

// Linked returns whose a link is, to greet them; ErrForbidden where it is used or too old.
func (svc *Service) Linked(ctx context.Context, token string) (Person, error) {
	var p Person
	err := svc.store.Write(ctx, func(tx *store.Tx) error {
		u, err := svc.linked(tx, token)
		p = person(u)
		return err
	})
	return p, err
}

func (svc *Service) linked(tx *store.Tx, token string) (store.User, error) {
	t, err := tx.Ticket(digest(token))
	if errors.Is(err, store.ErrNotFound) || err == nil && svc.now().After(t.Expiry) {
		return store.User{}, fmt.Errorf("%w: this link was used already, or is too old; ask the office for a new one", ErrForbidden)
	}
	if err != nil {
		return store.User{}, err
	}
	u, err := tx.User(t.UserID)
	if err == nil && u.Disabled {
		return u, fmt.Errorf("%w: the account is closed", ErrForbidden)
	}
	return u, err
}

// UseLink gives an account the password that its person chose by a link. Sessions end: who
// was in is out.
func (svc *Service) UseLink(ctx context.Context, token, password string) (Person, error) {
	var u store.User
	err := svc.store.Write(ctx, func(tx *store.Tx) (err error) {
		if u, err = svc.linked(tx, token); err != nil {
			return err
		}
		return svc.setPassword(tx, &u, password, "choose a password by link")
	})
	if err == nil {
		svc.tell(ctx, u, passwordChanged)
	}
	return person(u), err
}

const passwordChanged = "the password was changed"

// setPassword writes a password, ends every session, and drops links.
func (svc *Service) setPassword(tx *store.Tx, u *store.User, password, action string) error {
	if errs := passwordFault(password, u.Username, u.Name); errs != nil {
		return errs
	}
	var err error
	if u.Hash, err = hashOf(password); err != nil {
		return err
	}
	svc.guard.succeeded("account " + u.Username)
	return errors.Join(tx.EndSessions(u.ID), tx.DropTickets(u.ID), tx.SaveUser(*u), tx.Note(svc.now(), u.Name, action, "", about(*u)))
}

// ChangePassword changes one's own password. Every session ends; the caller begins a new one.
func (svc *Service) ChangePassword(ctx context.Context, by Person, old, password string) error {
	u, err := svc.store.User(ctx, by.ID)
	if err != nil {
		return err
	}
	if err := svc.confirm(u, old); err != nil {
		return err
	}
	err = svc.store.Write(ctx, func(tx *store.Tx) error {
		return svc.setPassword(tx, &u, password, "change password")
	})
	if err == nil {
		svc.tell(ctx, u, passwordChanged)
	}
	return err
}

// SetMail says where an account's links go.
func (svc *Service) SetMail(ctx context.Context, by Person, id, mail string) error {
	if id != by.ID {
		if err := May(by, ManageUsers); err != nil {
			return err
		}
	}
	if errs := (NewUser{Username: "xx", Name: "x", Roles: Roles{Office}, Mail: mail}).check(); errs != nil {
		return errs
	}
	return svc.change(ctx, by.Name, id, "change mail address", func(_ *store.Tx, u *store.User) (string, error) {
		u.Mail = mail
		return "", nil
	})
}

// Sessions lists where a person is signed in, newest first.
func (svc *Service) Sessions(ctx context.Context, by Person) ([]store.Session, error) {
	return svc.store.SessionsOf(ctx, by.ID)
}

// EndSessions signs a person out everywhere.
func (svc *Service) EndSessions(ctx context.Context, by Person) error {
	return svc.store.Write(ctx, func(tx *store.Tx) error {
		return errors.Join(tx.EndSessions(by.ID), tx.Note(svc.now(), by.Name, "sign out everywhere", "", ""))
	})
}

// Feed returns the secret part of a person's calendar addresses: calendar programs cannot
// sign in. It is made on first use; anew takes the old one back.
func (svc *Service) Feed(ctx context.Context, by Person, anew bool) (string, error) {
	u, err := svc.store.User(ctx, by.ID)
	if err != nil || u.Feed != "" && !anew {
		return u.Feed, err
	}
	token := rand.Text()
	return token, svc.change(ctx, by.Name, by.ID, "make calendar addresses", func(_ *store.Tx, u *store.User) (string, error) {
		u.Feed = token
		return "", nil
	})
}

// ByFeed returns the person whose calendar addresses have the secret; ErrNotFound where
// nobody's has, or the account is closed.
func (svc *Service) ByFeed(ctx context.Context, token string) (Person, error) {
	u, err := svc.store.UserByFeed(ctx, token)
	if err == nil && u.Disabled {
		err = store.ErrNotFound
	}
	return person(u), err
}
