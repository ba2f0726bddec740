package rooms

import (
	"bytes"
	"encoding/base32"
	"encoding/base64"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"mime"
	"mime/multipart"
	"net/mail"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/pquerna/otp/totp"

	"dogbolt/core/assess"
	"dogbolt/core/job"
	"dogbolt/core/schema"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/standin"
	"dogbolt/internal/store"
)

const passphrase = "seven bolts and a lid"

// firmOf returns a firm whose first account was made, the clock that it goes by, and the
// first person.
func firmOf(t *testing.T, roles ...people.Role) (*Rooms, *time.Time, people.Person) {
	t.Helper()
	s, err := store.Open(filepath.Join(t.TempDir(), "test.db"))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { s.Close() })
	now := time.Now().UTC()
	a := New(s, slog.New(slog.DiscardHandler), standin.Instruments{})
	a.now = func() time.Time { return now }
	token, err := a.People.SetUpToken(ctx)
	if err != nil {
		t.Fatal(err)
	}
	p, err := a.People.SetUp(ctx, token, people.NewUser{Username: "ada", Name: "Ada Quill", Roles: roles, Password: passphrase})
	if err != nil {
		t.Fatal(err)
	}
	return a, &now, p
}

// field is the field that an error names, "" for none.
func field(err error) string {
	var fields schema.Errors
	if errors.As(err, &fields) {
		return fields[0].Field
	}
	return ""
}

// TestOneAccountForAll: a one-person firm works with one account from the first page on.
func TestOneAccountForAll(t *testing.T) {
	a, _, p := firmOf(t, people.AllRoles...)
	for _, act := range people.Actions() {
		if err := people.May(p, act); err != nil {
			t.Error(err)
		}
	}
	again, err := a.People.SignIn(ctx, "ada", passphrase, "", "here")
	if err != nil || !slices.Equal(again.Roles, p.Roles) {
		t.Error(again, err)
	}
	// Two people who do not have one role do not have it together.
	if (people.Roles{people.Surveyor, people.Installer}).May(people.SealJobs) {
		t.Error("a surveyor who installs seals")
	}
}

// TestNobodyBearsAnothersName: records print names, so no two accounts have one, however it
// is written.
func TestNobodyBearsAnothersName(t *testing.T) {
	a, _, p := firmOf(t)
	for _, name := range []string{"Ada Quill", " ada  QUILL ", "ＡＤＡ Quill"} {
		if _, _, err := a.People.AddUser(ctx, p, people.NewUser{Username: "two", Name: name, Roles: people.Roles{people.Verifier}}); field(err) != "name" {
			t.Errorf("%q: %v", name, err)
		}
	}
	if _, _, err := a.People.AddUser(ctx, p, people.NewUser{Username: "two", Name: "Ada Quill of Mesa", Roles: people.Roles{people.Verifier}}); err != nil {
		t.Error(err)
	}
}

// TestLinks: a link works once, for its person, until it is too old, and the newest only.
func TestLinks(t *testing.T) {
	a, now, p := firmOf(t)
	mate, token, err := a.People.AddUser(ctx, p, people.NewUser{Username: "mate", Name: "T. Brandt", Roles: people.Roles{people.Installer}})
	if err != nil || token == "" {
		t.Fatal(token, err)
	}
	for _, guess := range []string{"", passphrase} {
		if _, err := a.People.SignIn(ctx, "mate", guess, "", "here"); !errors.Is(err, people.ErrSignIn) {
			t.Errorf("an account without a password: %v", err)
		}
	}
	if who, err := a.People.Linked(ctx, token); err != nil || who.Name != "T. Brandt" {
		t.Error(who, err)
	}
	newer, err := a.People.NewLink(ctx, p, mate.ID)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := a.People.UseLink(ctx, token, passphrase); !errors.Is(err, people.ErrForbidden) {
		t.Errorf("the older link: %v", err)
	}
	if _, err := a.People.UseLink(ctx, newer, "short"); field(err) != "password" {
		t.Errorf("a short password by link: %v", err)
	}
	if _, err := a.People.UseLink(ctx, newer, passphrase); err != nil {
		t.Errorf("after a password that was refused: %v", err)
	}
	if _, err := a.People.UseLink(ctx, newer, passphrase); !errors.Is(err, people.ErrForbidden) {
		t.Errorf("a second time: %v", err)
	}
	if _, err := a.People.SignIn(ctx, "mate", passphrase, "", "here"); err != nil {
		t.Error(err)
	}
	late, err := a.People.NewLinkLocally(ctx, " MATE")
	if err != nil {
		t.Fatal(err)
	}
	*now = now.Add(73 * time.Hour)
	if _, err := a.People.UseLink(ctx, late, passphrase); !errors.Is(err, people.ErrForbidden) {
		t.Errorf("after three days: %v", err)
	}
	if _, err := a.People.NewLink(ctx, mate, p.ID); !errors.Is(err, people.ErrForbidden) {
		t.Errorf("an installer makes the office a link: %v", err)
	}
}

// bodyOf is the text of a mail that the program dropped.
func bodyOf(t *testing.T, b []byte) string {
	t.Helper()
	m, err := mail.ReadMessage(bytes.NewReader(b))
	if err != nil {
		t.Fatal(err)
	}
	_, params, err := mime.ParseMediaType(m.Header.Get("Content-Type"))
	if err != nil {
		t.Fatal(err)
	}
	part, err := multipart.NewReader(m.Body, params["boundary"]).NextPart()
	if err != nil {
		t.Fatal(err)
	}
	text, err := io.ReadAll(base64.NewDecoder(base64.StdEncoding, part))
	if err != nil {
		t.Fatal(err)
	}
	return string(text)
}

// TestLinkByMail: who asks gets it by mail where the account has an address; the answer does
// not say who has an account.
func TestLinkByMail(t *testing.T) {
	a, _, p := firmOf(t)
	folder := t.TempDir()
	a.Connect(Outside{Mail: standin.MailDrop{Folder: folder}})
	a.People.PublicURL = "https://bolts.example"
	mails := func() []string {
		list, _ := filepath.Glob(folder + "/*.eml")
		return list
	}
	for _, who := range []string{"ada", "nobody"} {
		if err := a.People.AskReset(ctx, who); err != nil || len(mails()) != 0 {
			t.Errorf("%s without an address: %v, %v", who, err, mails())
		}
	}
	if err := a.People.SetMail(ctx, p, p.ID, "nonsense"); field(err) != "mail" {
		t.Error(err)
	}
	if err := a.People.SetMail(ctx, p, p.ID, "ada@quill.example"); err != nil {
		t.Fatal(err)
	}
	if err := a.People.AskReset(ctx, "ada"); err != nil || len(mails()) != 1 {
		t.Fatal(err, mails())
	}
	b, err := os.ReadFile(mails()[0])
	if err != nil || !strings.Contains(string(b), "To: ada@quill.example") {
		t.Fatalf("%v %s", err, b)
	}
	token := regexp.MustCompile(`https://bolts\.example/link\?token=(\w+)`).FindStringSubmatch(bodyOf(t, b))
	if token == nil {
		t.Fatalf("no link in %s", b)
	}
	if _, err := a.People.UseLink(ctx, token[1], "another good phrase"); err != nil {
		t.Error(err)
	}
}

// TestToldByMail: whoever changes an account, its person hears of it, at the address of before.
func TestToldByMail(t *testing.T) {
	a, now, p := firmOf(t, people.AllRoles...)
	folder := t.TempDir()
	a.Connect(Outside{Mail: standin.MailDrop{Folder: folder}})
	mate, token, err := a.People.AddUser(ctx, p, people.NewUser{Username: "bea", Name: "Bea Marl", Roles: people.Roles{people.Installer}, Mail: "bea@quill.example"})
	if err != nil {
		t.Fatal(err)
	}
	for _, c := range []struct {
		says string
		do   func() error
	}{
		{"the password was changed", func() error { _, err := a.People.UseLink(ctx, token, passphrase); return err }},
		{"the password was changed", func() error { return a.People.ChangePassword(ctx, mate, passphrase, "another good phrase") }},
		{"the roles were changed from installer to verifier", func() error { return a.People.SetRoles(ctx, p, mate.ID, people.Roles{people.Verifier}) }},
		{"the second factor was ended", func() error { return a.People.DropFactorOf(ctx, p, mate.ID) }},
		{"a one-time link for a new password was made", func() error { _, err := a.People.NewLink(ctx, p, mate.ID); return err }},
		{"this mail address was exchanged", func() error { return a.People.SetMail(ctx, p, mate.ID, "else@quill.example") }},
	} {
		*now = now.Add(time.Minute)
		before, _ := filepath.Glob(folder + "/*.eml")
		if err := c.do(); err != nil {
			t.Fatalf("%s: %v", c.says, err)
		}
		after, _ := filepath.Glob(folder + "/*.eml")
		fresh := slices.DeleteFunc(after, func(f string) bool { return slices.Contains(before, f) })
		if len(fresh) != 1 {
			t.Errorf("%s: %d mails", c.says, len(fresh))
			continue
		}
		b, err := os.ReadFile(fresh[0])
		if err != nil || !strings.Contains(string(b), "To: bea@quill.example") || !strings.Contains(bodyOf(t, b), c.says) {
			t.Errorf("%s: %v %s", c.says, err, bodyOf(t, b))
		}
	}
}

// TestPasswords: length in characters, the common ones and the own name refused, no rules of
// composition.
func TestPasswords(t *testing.T) {
	a, _, p := firmOf(t)
	for password, good := range map[string]bool{
		"zwölfzehn ":             true,  // ten characters, eleven bytes
		"ßßäöüßäöü":              false, // nine characters, eighteen bytes
		"алмазный болт":          true,
		"qwertyuiop":             false, // of the list
		"Password123":            false, // of the list, in other letters
		"aaaaaaaaaaaa":           false,
		"ada quill 2026":         false,
		strings.Repeat("ab", 65): false, // more than anybody types
		"correct horse bolt":     true,
	} {
		err := a.People.ChangePassword(ctx, p, passphrase, password)
		if good != (err == nil) || !good && field(err) != "password" {
			t.Errorf("%q: %v", password, err)
		}
		if good {
			if err := a.People.ChangePassword(ctx, p, password, passphrase); err != nil {
				t.Fatal(err)
			}
		}
	}
	if err := a.People.ChangePassword(ctx, p, "not the present one", "correct horse bolt"); field(err) != "old" {
		t.Error(err)
	}
}

// TestGuard: failures make the next try wait, longer with each one, by account and by
// address, whether there is such an account or not. OWASP ASVS 4.0.3, 2.2.1: no more than
// 100 failures an hour on one account.
func TestGuard(t *testing.T) {
	a, now, _ := firmOf(t)
	for _, who := range []string{"ada", "nobody"} {
		var wait people.WaitError
		tried, begin := 0, *now
		for now.Sub(begin) < time.Hour {
			_, err := a.People.SignIn(ctx, who, "a wrong password", "", who+"'s desk")
			switch {
			case errors.As(err, &wait):
				*now = now.Add(wait.For)
			case errors.Is(err, people.ErrSignIn):
				tried++
			default:
				t.Fatal(err)
			}
		}
		if tried < 5 || tried > 20 {
			t.Errorf("%d failures of %s in an hour", tried, who)
		}
	}
	// The right password waits too, and ends the waiting.
	*now = now.Add(time.Hour)
	if _, err := a.People.SignIn(ctx, "ada", passphrase, "", "home"); err != nil {
		t.Fatal(err)
	}
	if _, err := a.People.SignIn(ctx, "ada", "a wrong password", "", "home"); !errors.Is(err, people.ErrSignIn) {
		t.Errorf("counted on after a success: %v", err)
	}
	// One address, many names.
	var wait people.WaitError
	for i := range 40 {
		_, err := a.People.SignIn(ctx, strings.Repeat("x", i+2), "a wrong password", "", "one desk")
		if errors.As(err, &wait) {
			return
		}
	}
	t.Error("forty names from one address, and no wait")
}

// TestRolesAndClosing: roles change and are in the audit; the office is never empty; who is
// closed is out, and has no session when the account is opened again.
func TestRolesAndClosing(t *testing.T) {
	a, _, p := firmOf(t)
	mate, _, err := a.People.AddUser(ctx, p, people.NewUser{Username: "mate", Name: "T. Brandt", Roles: people.Roles{people.Installer}, Password: passphrase})
	if err != nil {
		t.Fatal(err)
	}
	for _, c := range []struct {
		roles people.Roles
		want  string
	}{{nil, "roles"}, {people.Roles{"king"}, "roles[0]"}, {people.Roles{people.Office, people.Office}, "roles[1]"}} {
		if err := a.People.SetRoles(ctx, p, mate.ID, c.roles); field(err) != c.want {
			t.Errorf("%v: %v", c.roles, err)
		}
	}
	if err := a.People.SetRoles(ctx, p, p.ID, people.Roles{people.Surveyor}); field(err) != "roles" {
		t.Errorf("the last of the office: %v", err)
	}
	if err := a.People.SetRoles(ctx, p, mate.ID, people.Roles{people.Installer, people.Verifier}); err != nil {
		t.Fatal(err)
	}
	if now, _ := a.People.Person(ctx, mate.ID, false); !now.Roles.May(people.SealJobs) {
		t.Errorf("%+v", now)
	}
	if err := a.People.SetRoles(ctx, mate, mate.ID, people.Roles{people.Office}); !errors.Is(err, people.ErrForbidden) {
		t.Errorf("one's own role: %v", err)
	}
	if err := a.People.SetDisabled(ctx, p, mate.ID, true); err != nil {
		t.Fatal(err)
	}
	if _, err := a.People.NewLink(ctx, p, mate.ID); field(err) != "id" {
		t.Errorf("a link into a closed account: %v", err)
	}
	said, err := a.People.Audit(ctx, people.Person{Roles: people.Roles{people.Verifier}}, 0, 50)
	if err != nil {
		t.Fatal(err)
	}
	var lines []string
	for _, l := range said {
		lines = append(lines, l.Who+": "+l.Action+" "+l.Detail)
	}
	for _, want := range []string{
		"Ada Quill: close account T. Brandt (mate)",
		"Ada Quill: change roles T. Brandt (mate) from installer to installer, verifier",
		"Ada Quill: add person T. Brandt (mate) as installer",
		"Ada Quill: set up Ada Quill (ada) as office",
	} {
		if !slices.Contains(lines, want) {
			t.Errorf("not in the audit: %s\n%s", want, strings.Join(lines, "\n"))
		}
	}
	if _, err := a.People.SignIn(ctx, "mate", passphrase, "", "a desk"); err == nil {
		t.Error("a closed account")
	}
	if said, _ = a.People.Audit(ctx, p, 0, 1); said[0].Action != "sign-in refused" || said[0].Who != "mate" {
		t.Errorf("%+v", said[0])
	}
	if older, _ := a.People.Audit(ctx, p, said[0].ID, 1); len(older) != 1 || older[0].ID >= said[0].ID {
		t.Errorf("%+v", older)
	}
	if _, err := a.People.Audit(ctx, mate, 0, 1); !errors.Is(err, people.ErrForbidden) {
		t.Errorf("an installer reads the audit: %v", err)
	}
}

// TestApart: where the firm asks for it, who worked neither tests nor seals.
func TestApart(t *testing.T) {
	a := newApp(t)
	policy, err := a.Firm.PolicyNow(ctx)
	if err != nil {
		t.Fatal(err)
	}
	policy.Apart = true
	if err := a.Firm.SetPolicy(ctx, office, policy); err != nil {
		t.Fatal(err)
	}
	v := imported(t, a, "uk-pass.json")
	lead := v.Job.Plan.Crew[0]
	worker := people.Person{ID: "9", Name: lead, Roles: people.Roles{people.Verifier}}
	reading := func(id string) job.Entry {
		return job.Entry{ID: id, Kind: job.ReadingMade, Point: "A", Subject: "zs", Value: "0.5", Unit: "Ω", Instrument: "7F", At: time.Now()}
	}
	var fields schema.Errors
	if _, err := a.Journal.Append(ctx, worker, v.Summary.ID, []job.Entry{reading("reading-001")}, nil); !errors.As(err, &fields) || fields[0].Field != "entries[0].by" {
		t.Errorf("who worked tests: %v", err)
	}
	if _, err := a.Records.Seal(ctx, worker, v.Summary.ID); !errors.Is(err, people.ErrBlocked) || !strings.Contains(err.Error(), "another person") {
		t.Errorf("who worked seals: %v", err)
	}
	other := people.Person{ID: "10", Name: "P. Okafor", Roles: people.Roles{people.Verifier}}
	if _, err := a.Journal.Append(ctx, other, v.Summary.ID, []job.Entry{reading("reading-002")}, nil); err != nil {
		t.Errorf("another tests: %v", err)
	}
	if _, err := a.Journal.Append(ctx, worker, v.Summary.ID, []job.Entry{entryAt("tested-001", job.SignedOff, "testing", "", "")}, nil); !errors.As(err, &fields) || fields[0].Field != "entries[0].by" {
		t.Errorf("who worked signs the tests: %v", err)
	}
	if _, err := a.Journal.Append(ctx, worker, v.Summary.ID, []job.Entry{entryAt("looked-001", job.Inspected, "intake", "", "as-it-should-be")}, nil); !errors.As(err, &fields) || fields[0].Field != "entries[0].by" {
		t.Errorf("who worked inspects: %v", err)
	}
	if _, err := a.Journal.Append(ctx, other, v.Summary.ID, []job.Entry{entryAt("tested-002", job.SignedOff, "testing", "", "")}, nil); err != nil {
		t.Errorf("another signs the tests: %v", err)
	}
	if _, err := a.Records.Seal(ctx, other, v.Summary.ID); err != nil {
		t.Errorf("another seals: %v", err)
	}
}

// TestApartOfAFile: nobody comes by a file from their own work to its test.
func TestApartOfAFile(t *testing.T) {
	a := newApp(t)
	v, err := a.Jobs.Import(ctx, verifier, exampleFile(t, "uk-pass.json"))
	if err != nil {
		t.Fatal(err)
	}
	for name, worked := range map[string]bool{v.Job.Plan.Crew[0]: true, verifier.Name: true, "P. Okafor": false} {
		if got := assess.Worked(&v.Job, name); got != worked {
			t.Errorf("%s worked: %t, want %t", name, got, worked)
		}
	}
}

// TestNotBeforeTheJob: nothing was logged before there was a job.
func TestNotBeforeTheJob(t *testing.T) {
	a := newApp(t)
	v, err := a.Jobs.CreateJob(ctx, office, jobs.NewJob{Rulebook: "nec:2023", Points: 1})
	if err != nil {
		t.Fatal(err)
	}
	note := func(id string, at time.Time) error {
		_, err := a.Journal.Append(ctx, verifier, v.Summary.ID, []job.Entry{{ID: id, Kind: job.Noted, At: at, Reason: "a word"}}, nil)
		return err
	}
	if err := note("note-00001", time.Now().Add(-time.Hour)); field(err) != "entries[0].at" || !strings.Contains(err.Error(), "before the job") {
		t.Errorf("an hour before the job: %v", err)
	}
	if err := note("note-00002", time.Now()); err != nil {
		t.Error(err)
	}
	// A job that came with its log began with it.
	v = imported(t, a, "uk-pass.json")
	if err := note("note-00003", v.Job.Log[0].At.Add(time.Minute)); err != nil {
		t.Error(err)
	}
	if err := note("note-00004", v.Job.Log[0].At.Add(-time.Hour)); field(err) != "entries[0].at" {
		t.Error(err)
	}
}

// TestSecondFactor: the code counts once, at its time, after the password; recovery codes
// count once each; the office ends it for who lost it.
func TestSecondFactor(t *testing.T) {
	a, now, p := firmOf(t, people.AllRoles...)
	// RFC 6238, appendix B: at 59 s the key 12345678901234567890 gives 94287082, whose last six
	// digits are an authenticator's.
	*now = time.Unix(59, 0).UTC()
	secret := base32.StdEncoding.WithPadding(base32.NoPadding).EncodeToString([]byte("12345678901234567890"))
	if _, err := a.People.TakeFactor(ctx, p, passphrase, secret, "287083"); field(err) != "code" {
		t.Errorf("a wrong first code: %v", err)
	}
	if _, err := a.People.TakeFactor(ctx, p, "not the password", secret, "287082"); field(err) != "old" {
		t.Errorf("without the password: %v", err)
	}
	if _, err := a.People.TakeFactor(ctx, p, passphrase, "MFRGG", "287082"); field(err) != "secret" {
		t.Errorf("a short secret: %v", err)
	}
	codes, err := a.People.TakeFactor(ctx, p, passphrase, secret, "287082")
	if err != nil || len(codes) != 10 {
		t.Fatal(codes, err)
	}
	in := func(code string) error {
		_, err := a.People.SignIn(ctx, "ada", passphrase, code, "here")
		return err
	}
	if err := in(""); !errors.Is(err, people.ErrCode) {
		t.Errorf("without a code: %v", err)
	}
	if _, err := a.People.SignIn(ctx, "ada", "a wrong password", "287082", "here"); !errors.Is(err, people.ErrSignIn) {
		t.Errorf("a code without the password: %v", err)
	}
	if err := in("287082"); !errors.Is(err, people.ErrSignIn) {
		t.Errorf("the first code a second time: %v", err)
	}
	*now = time.Unix(1111111109, 0).UTC() // gives 07081804
	if err := in("081804"); err != nil {
		t.Errorf("the code of now: %v", err)
	}
	if err := in("081804"); !errors.Is(err, people.ErrSignIn) {
		t.Errorf("the code of now a second time: %v", err)
	}
	*now = now.Add(2 * time.Minute)
	if err := in("081804"); !errors.Is(err, people.ErrSignIn) {
		t.Errorf("the code of two minutes ago: %v", err)
	}
	if err := in(" " + strings.ToUpper(codes[3])); err != nil {
		t.Errorf("a recovery code: %v", err)
	}
	if err := in(codes[3]); !errors.Is(err, people.ErrSignIn) {
		t.Errorf("a recovery code a second time: %v", err)
	}
	// Codes that are tried wait as passwords do.
	var wait people.WaitError
	for i := range 8 {
		if err := in(fmt.Sprintf("%06d", i)); errors.As(err, &wait) {
			break
		}
	}
	if wait.For == 0 {
		t.Error("eight wrong codes, and no wait")
	}
	*now = now.Add(time.Hour)
	if err := a.People.DropFactorOf(ctx, people.Person{Roles: people.Roles{people.Verifier}}, p.ID); !errors.Is(err, people.ErrForbidden) {
		t.Errorf("a verifier ends another's: %v", err)
	}
	if err := a.People.DropFactorOf(ctx, p, p.ID); err != nil {
		t.Fatal(err)
	}
	if err := in(""); err != nil {
		t.Errorf("after it was ended: %v", err)
	}
}

// TestVerifiersNeedTwo: where the firm asks for it, who has no second factor is no verifier.
func TestVerifiersNeedTwo(t *testing.T) {
	a, now, p := firmOf(t, people.AllRoles...)
	if err := a.People.SetDemand(ctx, people.Person{Roles: people.Roles{people.Verifier}}, true); !errors.Is(err, people.ErrForbidden) {
		t.Error(err)
	}
	if err := a.People.SetDemand(ctx, p, true); err != nil {
		t.Fatal(err)
	}
	if again, err := a.People.Person(ctx, p.ID, false); err != nil || again.Roles.May(people.SealJobs) || !again.Lacks || !again.Roles.May(people.ManageUsers) {
		t.Errorf("%+v %v", again, err)
	}
	f, err := a.People.NewFactor(p)
	if err != nil || !strings.HasPrefix(f.QR, "data:image/png;base64,") || !strings.Contains(f.URI, f.Secret) {
		t.Fatal(f, err)
	}
	code, err := totp.GenerateCode(f.Secret, *now)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := a.People.TakeFactor(ctx, p, passphrase, f.Secret, code); err != nil {
		t.Fatal(err)
	}
	if again, err := a.People.Person(ctx, p.ID, false); err != nil || !again.Roles.May(people.SealJobs) || again.Lacks || !again.Factor {
		t.Errorf("%+v %v", again, err)
	}
	if err := a.People.DropFactor(ctx, p, passphrase); err != nil {
		t.Fatal(err)
	}
	if again, err := a.People.Person(ctx, p.ID, false); err != nil || again.Roles.May(people.SealJobs) {
		t.Errorf("%+v %v", again, err)
	}
}
