package people

import (
	"context"
	"encoding/base64"
	"encoding/json"
	"errors"
	"fmt"
	"net/url"
	"strings"
	"sync"
	"time"

	"github.com/go-webauthn/webauthn/protocol"
	"github.com/go-webauthn/webauthn/webauthn"

	"dogbolt/core/schema"
	"dogbolt/internal/store"
)

// Limits of passkeys. Common practice, no source.
const (
	ceremonyLasts  = 5 * time.Minute
	mostPasskeys   = 10 // of one account
	longestKeyName = 60 // characters
)

// relying is what passkeys are bound to, for a page of an address (scheme, host and port): the
// program's own name, or localhost. No other name is taken from a request.
func (svc *Service) relying(origin string) (*webauthn.WebAuthn, error) {
	u, err := url.Parse(origin)
	if err != nil {
		return nil, schema.Invalid("origin", "is not an address")
	}
	if svc.PublicURL != "" {
		own, err := url.Parse(svc.PublicURL)
		if err != nil {
			return nil, err
		}
		if own.Scheme != u.Scheme || own.Host != u.Host {
			return nil, fmt.Errorf("%w: passkeys work on %s://%s; open the pages there", ErrBlocked, own.Scheme, own.Host)
		}
	} else if u.Hostname() != "localhost" {
		return nil, fmt.Errorf("%w: passkeys are bound to a name, and the program was not told its own (--public-url)", ErrBlocked)
	}
	return webauthn.New(&webauthn.Config{
		RPID: u.Hostname(), RPDisplayName: "Dogbolt", RPOrigins: []string{u.Scheme + "://" + u.Host},
		AuthenticatorSelection: protocol.AuthenticatorSelection{
			ResidentKey: protocol.ResidentKeyRequirementRequired, UserVerification: protocol.VerificationRequired,
		},
	})
}

// ceremonies are what was asked of browsers and not yet answered, by the challenge. Each is
// good once.
type ceremonies struct {
	mu   sync.Mutex
	open map[string]webauthn.SessionData
}

func (c *ceremonies) begin(now time.Time, s webauthn.SessionData) {
	c.mu.Lock()
	defer c.mu.Unlock()
	if c.open == nil {
		c.open = map[string]webauthn.SessionData{}
	}
	for k, o := range c.open {
		if now.After(o.Expires) || len(c.open) >= mostCounted {
			delete(c.open, k)
		}
	}
	s.Expires = now.Add(ceremonyLasts)
	c.open[s.Challenge] = s
}

func (c *ceremonies) take(now time.Time, challenge string) (webauthn.SessionData, bool) {
	c.mu.Lock()
	defer c.mu.Unlock()
	s, ok := c.open[challenge]
	delete(c.open, challenge)
	// The library asks the machine's clock for the expiry; what is taken here is in time.
	expires := s.Expires
	s.Expires = time.Time{}
	return s, ok && now.Before(expires)
}

// holder is an account as the library of passkeys sees it.
type holder struct {
	store.User
	keys []webauthn.Credential
}

func (h holder) WebAuthnID() []byte                         { return []byte(h.ID) }
func (h holder) WebAuthnName() string                       { return h.Username }
func (h holder) WebAuthnDisplayName() string                { return h.Name }
func (h holder) WebAuthnCredentials() []webauthn.Credential { return h.keys }

func (svc *Service) holder(ctx context.Context, id string) (holder, error) {
	u, err := svc.store.User(ctx, id)
	if err != nil {
		return holder{}, err
	}
	list, err := svc.store.Passkeys(ctx, id)
	h := holder{u, make([]webauthn.Credential, len(list))}
	for i, k := range list {
		err = errors.Join(err, json.Unmarshal([]byte(k.Credential), &h.keys[i]))
	}
	return h, err
}

func keyID(raw []byte) string { return base64.RawURLEncoding.EncodeToString(raw) }

// Passkeys lists one's own.
func (svc *Service) Passkeys(ctx context.Context, by Person) ([]store.Passkey, error) {
	return svc.store.Passkeys(ctx, by.ID)
}

// NewPasskey begins a passkey of one's own account, with the present password, and returns
// what the browser is asked for (WebAuthn, PublicKeyCredentialCreationOptionsJSON).
func (svc *Service) NewPasskey(ctx context.Context, by Person, origin, password string) (json.RawMessage, error) {
	party, err := svc.relying(origin)
	if err != nil {
		return nil, err
	}
	h, err := svc.holder(ctx, by.ID)
	if err != nil {
		return nil, err
	}
	if err := svc.confirm(h.User, password); err != nil {
		return nil, err
	}
	if len(h.keys) >= mostPasskeys {
		return nil, schema.Invalid("name", "an account has at most %d passkeys: end one that is not used", mostPasskeys)
	}
	options, session, err := party.BeginRegistration(h, webauthn.WithExclusions(webauthn.Credentials(h.keys).CredentialDescriptors()))
	if err != nil {
		return nil, err
	}
	svc.asked.begin(svc.now(), *session)
	return json.Marshal(options.Response)
}

// TakePasskey keeps the passkey that a browser made.
func (svc *Service) TakePasskey(ctx context.Context, by Person, origin, name string, answer []byte) error {
	name = strings.TrimSpace(name)
	if n := len([]rune(name)); n == 0 || n > longestKeyName {
		return schema.Invalid("name", "names the device, in 1 to %d characters", longestKeyName)
	}
	party, err := svc.relying(origin)
	if err != nil {
		return err
	}
	parsed, err := protocol.ParseCredentialCreationResponseBytes(answer)
	if err != nil {
		return schema.Invalid("answer", "is not a passkey's")
	}
	session, ok := svc.asked.take(svc.now(), parsed.Response.CollectedClientData.Challenge)
	if !ok {
		return schema.Invalid("answer", "came too late; begin again")
	}
	h, err := svc.holder(ctx, by.ID)
	if err != nil {
		return err
	}
	made, err := party.CreateCredential(h, session, parsed)
	if err != nil {
		svc.log.WarnContext(ctx, "passkey refused", "user", by.Username, "error", err)
		return schema.Invalid("answer", "does not agree with what was asked")
	}
	b, err := json.Marshal(made)
	if err != nil {
		return err
	}
	return svc.change(ctx, by.Name, by.ID, "add a passkey", func(tx *store.Tx, _ *store.User) (string, error) {
		return name, tx.SavePasskey(store.Passkey{ID: keyID(made.ID), UserID: by.ID, Name: name, Credential: string(b), Created: svc.now()})
	})
}

// DropPasskey ends a passkey of one's own, with the present password.
func (svc *Service) DropPasskey(ctx context.Context, by Person, id, password string) error {
	if err := svc.Confirm(ctx, by, password); err != nil {
		return err
	}
	return svc.change(ctx, by.Name, by.ID, "end a passkey", func(tx *store.Tx, _ *store.User) (string, error) {
		k, err := tx.Passkey(by.ID, id)
		if err != nil {
			return "", err
		}
		return k.Name, tx.DropPasskey(by.ID, id)
	})
}

// AskPasskey begins a sign-in with a passkey, and returns what the browser is asked for
// (WebAuthn, PublicKeyCredentialRequestOptionsJSON). It names no account.
func (svc *Service) AskPasskey(origin string) (json.RawMessage, error) {
	party, err := svc.relying(origin)
	if err != nil {
		return nil, err
	}
	options, session, err := party.BeginDiscoverableLogin()
	if err != nil {
		return nil, err
	}
	svc.asked.begin(svc.now(), *session)
	return json.Marshal(options.Response)
}

// passkeyError is ErrSignIn in the words of a passkey.
type passkeyError struct{}

func (passkeyError) Error() string {
	return "no account here has this passkey (any longer); use the password"
}
func (passkeyError) Is(e error) bool { return e == ErrSignIn }

// SignInWithPasskey signs in by what a passkey answered. The device has asked its person for
// a finger, a face or a number: that is two factors.
func (svc *Service) SignInWithPasskey(ctx context.Context, origin string, answer []byte, address string) (Person, error) {
	party, err := svc.relying(origin)
	if err != nil {
		return Person{}, err
	}
	from := "address " + address
	if d := svc.guard.wait(svc.now(), from); d > 0 {
		return Person{}, WaitError{d}
	}
	p, err := svc.withPasskey(ctx, party, answer)
	if errors.Is(err, ErrSignIn) {
		svc.guard.failed(svc.now(), from, freeOfAddress)
		svc.log.WarnContext(ctx, "passkey refused", "error", err)
		return Person{}, errors.Join(passkeyError{}, svc.note(ctx, "somebody", "passkey refused", "from "+address))
	}
	if err != nil {
		return Person{}, err
	}
	return p, svc.note(ctx, p.Name, "sign in", "with a passkey, from "+address)
}

// withPasskey checks a passkey's answer, and notes that it was used.
func (svc *Service) withPasskey(ctx context.Context, party *webauthn.WebAuthn, answer []byte) (Person, error) {
	parsed, err := protocol.ParseCredentialRequestResponseBytes(answer)
	if err != nil {
		return Person{}, fmt.Errorf("%w: %w", ErrSignIn, err)
	}
	session, ok := svc.asked.take(svc.now(), parsed.Response.CollectedClientData.Challenge)
	if !ok {
		return Person{}, schema.Invalid("answer", "came too late; begin again")
	}
	var whose holder
	used, err := party.ValidateDiscoverableLogin(func(_, id []byte) (_ webauthn.User, err error) {
		whose, err = svc.holder(ctx, string(id))
		return whose, err
	}, session, parsed)
	if err != nil {
		return Person{}, fmt.Errorf("%w: %w", ErrSignIn, err)
	}
	if whose.Disabled || used.Authenticator.CloneWarning {
		return Person{}, fmt.Errorf("%w: account closed, or the key was copied", ErrSignIn)
	}
	b, err := json.Marshal(used)
	if err != nil {
		return Person{}, err
	}
	err = svc.store.Write(ctx, func(tx *store.Tx) error {
		k, err := tx.Passkey(whose.ID, keyID(used.ID))
		if err != nil {
			return fmt.Errorf("%w: %w", ErrSignIn, err)
		}
		now := svc.now()
		k.Credential, k.Used = string(b), &now
		return tx.SavePasskey(k)
	})
	if err != nil {
		return Person{}, err
	}
	return svc.held(ctx, whose.User, true)
}
