package rooms

import (
	"errors"
	"strings"
	"sync"
	"testing"
	"time"

	"dogbolt/core/record"
	"dogbolt/internal/rooms/people"
)

// TestNewKeyTogether: one of the office and a verifier make a new key together, with a reason
// and both passwords; one person alone only where there is nobody else.
func TestNewKeyTogether(t *testing.T) {
	a, now, boss := firmOf(t, people.AllRoles...)
	if err := a.Firm.SetContractor(ctx, boss, record.Contractor{Name: "Quill and Beacon Electrical"}); err != nil {
		t.Fatal(err)
	}
	const why = "the laptop with the old key was sold"
	count := func() int {
		t.Helper()
		list, err := a.Firm.Keys(ctx)
		if err != nil {
			t.Fatal(err)
		}
		return len(list)
	}
	if _, err := a.Firm.SealingKey(ctx); err != nil || count() != 1 {
		t.Fatal(count(), err)
	}
	if err := a.Firm.AgreeKey(ctx, boss, passphrase); field(err) != "key" {
		t.Errorf("nobody asked: %v", err)
	}
	if err := a.Firm.ProposeKey(ctx, boss, passphrase, "lost"); field(err) != "why" {
		t.Errorf("without a reason: %v", err)
	}
	if err := a.Firm.ProposeKey(ctx, boss, "not the password", why); field(err) != "old" {
		t.Errorf("without the password: %v", err)
	}
	// Alone in the firm, with both roles.
	for range 2 {
		if err := a.Firm.ProposeKey(ctx, boss, passphrase, why); err != nil {
			t.Fatal(err)
		}
	}
	if err := a.Firm.AgreeKey(ctx, boss, passphrase); err != nil || count() != 2 {
		t.Fatalf("%d keys, %v", count(), err)
	}
	if err := a.Firm.AgreeKey(ctx, boss, passphrase); field(err) != "key" || count() != 2 {
		t.Errorf("one proposal, two keys: %v", err)
	}

	person := func(name string, role people.Role) people.Person {
		t.Helper()
		p, _, err := a.People.AddUser(ctx, boss, people.NewUser{Username: strings.ToLower(name), Name: name, Roles: people.Roles{role}, Password: passphrase})
		if err != nil {
			t.Fatal(err)
		}
		return p
	}
	clerk, second, tester, mate := person("Bea", people.Office), person("Cy", people.Office), person("Dee", people.Verifier), person("Eve", people.Installer)
	if err := a.Firm.ProposeKey(ctx, mate, passphrase, why); !errors.Is(err, people.ErrForbidden) {
		t.Errorf("asked for by an installer: %v", err)
	}
	if err := a.Firm.ProposeKey(ctx, clerk, passphrase, why); err != nil {
		t.Fatal(err)
	}
	for _, p := range []people.Person{clerk, second, mate} {
		if err := a.Firm.AgreeKey(ctx, p, passphrase); !errors.Is(err, people.ErrForbidden) {
			t.Errorf("%s agrees: %v", p.Name, err)
		}
	}
	if err := a.Firm.AgreeKey(ctx, tester, "not the password"); field(err) != "old" {
		t.Errorf("agreed without the password: %v", err)
	}
	*now = now.Add(25 * time.Hour)
	if err := a.Firm.AgreeKey(ctx, tester, passphrase); field(err) != "key" {
		t.Errorf("a day later: %v", err)
	}
	for _, by := range [][2]people.Person{{clerk, tester}, {tester, clerk}, {boss, tester}, {boss, clerk}} {
		before := count()
		if err := errors.Join(a.Firm.ProposeKey(ctx, by[0], passphrase, why), a.Firm.AgreeKey(ctx, by[1], passphrase)); err != nil {
			t.Errorf("%s and %s: %v", by[0].Name, by[1].Name, err)
		}
		list, err := a.Firm.Keys(ctx)
		if err != nil || len(list) != before+1 || list[before].By != by[0].Name+" and "+by[1].Name || list[before].Why != why {
			t.Errorf("%d keys, %+v %v", len(list), list[len(list)-1], err)
		}
		if known, err := a.Firm.Known(ctx, list[0].Public); err != nil || !known {
			t.Errorf("the first key is not known any longer: %v", err)
		}
	}
	before := count()
	if err := errors.Join(a.Firm.ProposeKey(ctx, clerk, passphrase, why), a.People.SetDisabled(ctx, boss, clerk.ID, true)); err != nil {
		t.Fatal(err)
	}
	if err := a.Firm.AgreeKey(ctx, tester, passphrase); !errors.Is(err, people.ErrForbidden) || count() != before {
		t.Errorf("asked for by somebody who was closed since: %v", err)
	}
	if err := errors.Join(a.People.SetDisabled(ctx, boss, clerk.ID, false), a.People.SetRoles(ctx, boss, clerk.ID, people.Roles{people.Surveyor})); err != nil {
		t.Fatal(err)
	}
	if err := a.Firm.AgreeKey(ctx, tester, passphrase); !errors.Is(err, people.ErrForbidden) || count() != before {
		t.Errorf("asked for by somebody who is no longer of the office: %v", err)
	}
	if err := a.People.SetRoles(ctx, boss, clerk.ID, people.Roles{people.Office}); err != nil {
		t.Fatal(err)
	}
	var both sync.WaitGroup
	for range 2 {
		both.Go(func() { _ = a.Firm.AgreeKey(ctx, tester, passphrase) }) // one of them is refused
	}
	if both.Wait(); count() != before+1 {
		t.Errorf("two agreed at once: %d keys more", count()-before)
	}
	if err := errors.Join(a.Firm.ProposeKey(ctx, clerk, passphrase, why), a.Firm.DropProposal(ctx, tester)); err != nil {
		t.Fatal(err)
	}
	if p, err := a.Firm.ProposedKey(ctx); p != nil || err != nil {
		t.Errorf("taken back: %+v %v", p, err)
	}
	if said, err := a.Doctor.Look(ctx); err != nil || len(said.Faults) != 0 {
		t.Errorf("%+v %v", said.Faults, err)
	}
}
