package rooms

import (
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/rand"
	"crypto/x509"
	"encoding/json"
	"errors"
	"testing"
	"time"

	"github.com/descope/virtualwebauthn"

	"dogbolt/internal/rooms/people"
)

// onSite is where the pages are in these tests, and what a browser binds passkeys to there.
const onSite = "http://localhost:8080"

var party = virtualwebauthn.RelyingParty{ID: "localhost", Name: "Dogbolt", Origin: onSite}

// device is a simulated authenticator with one passkey of an account.
type device struct {
	virtualwebauthn.Authenticator
	key virtualwebauthn.Credential
}

// passkeyOf makes a passkey on a new device, and has it kept.
func passkeyOf(t *testing.T, a *Rooms, p people.Person) *device {
	t.Helper()
	d := &device{
		virtualwebauthn.NewAuthenticatorWithOptions(virtualwebauthn.AuthenticatorOptions{UserHandle: []byte(p.ID)}),
		newKey(t),
	}
	if err := a.People.TakePasskey(ctx, p, onSite, "my phone", d.made(t, a, p)); err != nil {
		t.Fatal(err)
	}
	return d
}

// newKey makes the key of a passkey. The simulated authenticator writes a coordinate without
// the zeros it begins with, one key in 128; such a key is refused, rightly, since a coordinate
// has the length of its field (RFC 9053, 7.1.1), so none of those is taken.
func newKey(t *testing.T) virtualwebauthn.Credential {
	t.Helper()
	for {
		key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
		if err != nil {
			t.Fatal(err)
		}
		point, err := key.PublicKey.Bytes()
		if err != nil {
			t.Fatal(err)
		}
		if point[1] == 0 || point[33] == 0 { // uncompressed: 4, X of 32 bytes, Y of 32 bytes
			continue
		}
		der, err := x509.MarshalPKCS8PrivateKey(key)
		if err != nil {
			t.Fatal(err)
		}
		return virtualwebauthn.NewCredentialWithImportedKey(virtualwebauthn.KeyTypeEC2, der)
	}
}

// made is what the device answers when it is asked for a new passkey.
func (d *device) made(t *testing.T, a *Rooms, p people.Person) []byte {
	t.Helper()
	raw, err := a.People.NewPasskey(ctx, p, onSite, passphrase)
	if err != nil {
		t.Fatal(err)
	}
	options, err := virtualwebauthn.ParseAttestationOptions(wrapped(t, raw))
	if err != nil {
		t.Fatal(err)
	}
	return []byte(virtualwebauthn.CreateAttestationResponse(party, d.Authenticator, d.key, *options))
}

// answer is what the device answers when it is asked to sign in, on pages of a party.
func (d *device) answer(t *testing.T, a *Rooms, at virtualwebauthn.RelyingParty) []byte {
	t.Helper()
	raw, err := a.People.AskPasskey(onSite)
	if err != nil {
		t.Fatal(err)
	}
	options, err := virtualwebauthn.ParseAssertionOptions(wrapped(t, raw))
	if err != nil {
		t.Fatal(err)
	}
	return []byte(virtualwebauthn.CreateAssertionResponse(at, d.Authenticator, d.key, *options))
}

// wrapped are options as the simulated authenticator reads them.
func wrapped(t *testing.T, options json.RawMessage) string {
	t.Helper()
	b, err := json.Marshal(map[string]json.RawMessage{"publicKey": options})
	if err != nil {
		t.Fatal(err)
	}
	return string(b)
}

// TestPasskey: a passkey signs in as its account, and is two factors where the firm asks
// verifiers for them (W3C Web Authentication Level 3, 7.1 and 7.2).
func TestPasskey(t *testing.T) {
	a, now, p := firmOf(t, people.AllRoles...)
	if err := a.People.SetDemand(ctx, p, true); err != nil {
		t.Fatal(err)
	}
	d := passkeyOf(t, a, p)
	in, err := a.People.SignInWithPasskey(ctx, onSite, d.answer(t, a, party), "here")
	if err != nil || in.ID != p.ID || !in.Passkey || in.Lacks || !in.Roles.May(people.SealJobs) {
		t.Fatalf("%+v %v", in, err)
	}
	if again, err := a.People.Person(ctx, p.ID, true); err != nil || !again.Roles.May(people.SealJobs) {
		t.Errorf("the session that it began: %+v %v", again, err)
	}
	if again, err := a.People.Person(ctx, p.ID, false); err != nil || again.Roles.May(people.SealJobs) {
		t.Errorf("a session that a password alone began seals: %+v %v", again, err)
	}
	list, err := a.People.Passkeys(ctx, p)
	if err != nil || len(list) != 1 || list[0].Name != "my phone" || list[0].Used == nil || !list[0].Used.Equal(*now) {
		t.Errorf("%+v %v", list, err)
	}
	if err := a.People.DropPasskey(ctx, p, list[0].ID, "not the password"); field(err) != "old" {
		t.Errorf("ended without the password: %v", err)
	}
	if err := a.People.DropPasskey(ctx, p, list[0].ID, passphrase); err != nil {
		t.Fatal(err)
	}
	if _, err := a.People.SignInWithPasskey(ctx, onSite, d.answer(t, a, party), "here"); !errors.Is(err, people.ErrSignIn) {
		t.Errorf("after it was ended: %v", err)
	}
}

// TestPasskeyRefused: what is no answer of now, of here, of this account and of its own device.
func TestPasskeyRefused(t *testing.T) {
	a, now, p := firmOf(t, people.AllRoles...)
	d := passkeyOf(t, a, p)
	once := d.answer(t, a, party)
	if _, err := a.People.SignInWithPasskey(ctx, onSite, once, "here"); err != nil {
		t.Fatal(err)
	}
	mate, _, err := a.People.AddUser(ctx, p, people.NewUser{Username: "bea", Name: "Bea Marl", Roles: people.Roles{people.Verifier}, Password: passphrase})
	if err != nil {
		t.Fatal(err)
	}
	stranger := &device{virtualwebauthn.NewAuthenticatorWithOptions(virtualwebauthn.AuthenticatorOptions{UserHandle: []byte(p.ID)}), newKey(t)}
	asMate := &device{virtualwebauthn.NewAuthenticatorWithOptions(virtualwebauthn.AuthenticatorOptions{UserHandle: []byte(mate.ID)}), d.key}
	noFinger := &device{virtualwebauthn.NewAuthenticatorWithOptions(virtualwebauthn.AuthenticatorOptions{UserHandle: []byte(p.ID), UserNotVerified: true}), d.key}
	late := d.answer(t, a, party)
	cases := []struct {
		name   string
		answer []byte
		want   func(error) bool
	}{
		{"a second time", once, tooLate},
		{"of another page", d.answer(t, a, virtualwebauthn.RelyingParty{ID: "localhost", Name: "Dogbolt", Origin: "http://localhost:9999"}), refused},
		{"of another name", d.answer(t, a, virtualwebauthn.RelyingParty{ID: "bolts.example", Name: "Dogbolt", Origin: onSite}), refused},
		{"a key that nobody kept", stranger.answer(t, a, party), refused},
		{"the key of another account", asMate.answer(t, a, party), refused},
		{"without a finger, a face or a number", noFinger.answer(t, a, party), refused},
		{"no answer", []byte(`{"id":1}`), refused},
	}
	for _, c := range cases {
		if p, err := a.People.SignInWithPasskey(ctx, onSite, c.answer, "address of "+c.name); !c.want(err) {
			t.Errorf("%s: %+v %v", c.name, p, err)
		}
	}
	// Devices that count their answers: a copy falls behind.
	d.key.Counter = 7
	if _, err := a.People.SignInWithPasskey(ctx, onSite, d.answer(t, a, party), "here"); err != nil {
		t.Fatal(err)
	}
	d.key.Counter = 5
	if _, err := a.People.SignInWithPasskey(ctx, onSite, d.answer(t, a, party), "here"); !refused(err) {
		t.Errorf("a copy, whose count is behind: %v", err)
	}
	*now = now.Add(6 * time.Minute)
	if _, err := a.People.SignInWithPasskey(ctx, onSite, late, "here"); !tooLate(err) {
		t.Errorf("after six minutes: %v", err)
	}
	made := stranger.made(t, a, p)
	if err := a.People.TakePasskey(ctx, mate, onSite, "her phone", made); field(err) != "answer" {
		t.Errorf("a passkey that was begun for another: %v", err)
	}
	if _, err := a.People.NewPasskey(ctx, p, onSite, "not the password"); field(err) != "old" {
		t.Errorf("begun without the password: %v", err)
	}
}

func refused(err error) bool { return errors.Is(err, people.ErrSignIn) }
func tooLate(err error) bool { return field(err) == "answer" }

// TestWherePasskeysWork: they are bound to the program's own name, never to one that a
// request brings.
func TestWherePasskeysWork(t *testing.T) {
	a, _, _ := firmOf(t)
	cases := []struct {
		public, origin string
		works          bool
	}{
		{"", "http://localhost:8080", true},
		{"", "http://127.0.0.1:8080", false},
		{"", "https://bolts.example", false},
		{"", "", false},
		{"https://bolts.example", "https://bolts.example", true},
		{"https://bolts.example", "https://b0lts.example", false},
		{"https://bolts.example", "http://bolts.example", false},
		{"https://bolts.example/app", "https://bolts.example", true},
		{"https://bolts.example", "http://localhost:8080", false},
	}
	for _, c := range cases {
		a.People.PublicURL = c.public
		if _, err := a.People.AskPasskey(c.origin); (err == nil) != c.works || err != nil && !errors.Is(err, people.ErrBlocked) {
			t.Errorf("the program is at %q, the page at %q: %v", c.public, c.origin, err)
		}
	}
}

// TestLostPasskeys: the office ends the passkeys of somebody who lost the device, and closing
// an account ends them for good.
func TestLostPasskeys(t *testing.T) {
	a, _, p := firmOf(t, people.Office)
	mate, _, err := a.People.AddUser(ctx, p, people.NewUser{Username: "bea", Name: "Bea Marl", Roles: people.Roles{people.Verifier}, Password: passphrase})
	if err != nil {
		t.Fatal(err)
	}
	for name, end := range map[string]func() error{
		"lost": func() error { return a.People.DropFactorOf(ctx, p, mate.ID) },
		"closed and opened": func() error {
			return errors.Join(a.People.SetDisabled(ctx, p, mate.ID, true), a.People.SetDisabled(ctx, p, mate.ID, false))
		},
	} {
		d := passkeyOf(t, a, mate)
		if err := end(); err != nil {
			t.Fatal(err)
		}
		if _, err := a.People.SignInWithPasskey(ctx, onSite, d.answer(t, a, party), "here"); !refused(err) {
			t.Errorf("%s: %v", name, err)
		}
	}
}
