package httpapi

import (
	"bytes"
	"context"
	"crypto/tls"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"net/url"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/santhosh-tekuri/jsonschema/v6"

	"dogbolt/core/job"
	"dogbolt/core/record"
	"dogbolt/internal/rooms"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/rooms/records"
	"dogbolt/internal/standin"
	"dogbolt/internal/store"
)

var ctx = context.Background()

const password = "a long password"

// site is a server with one account of each role.
type site struct {
	t     testing.TB
	url   string
	rooms *rooms.Rooms

	handler http.Handler
}

// withAccounts is a database with one account of each role: their passwords take long to
// digest, so that it is made once.
var withAccounts = sync.OnceValues(func() ([]byte, error) {
	folder, err := os.MkdirTemp("", "accounts")
	if err != nil {
		return nil, err
	}
	defer os.RemoveAll(folder)
	s, err := store.Open(filepath.Join(folder, "test.db"))
	if err != nil {
		return nil, err
	}
	a := rooms.New(s, slog.New(slog.DiscardHandler), standin.Instruments{})
	for _, r := range people.AllRoles {
		if _, _, err := a.People.AddUserLocally(ctx, people.NewUser{Username: string(r), Name: "The " + string(r), Roles: people.Roles{r}, Password: password}); err != nil {
			return nil, err
		}
	}
	copied := filepath.Join(folder, "copy.db")
	if err := errors.Join(s.Backup(ctx, copied), s.Close()); err != nil {
		return nil, err
	}
	return os.ReadFile(copied)
})

func newSite(t testing.TB, o Options) *site {
	t.Helper()
	path := filepath.Join(t.TempDir(), "test.db")
	b, err := withAccounts()
	if err != nil {
		t.Fatal(err)
	}
	if err := os.WriteFile(path, b, 0o600); err != nil {
		t.Fatal(err)
	}
	s, err := store.Open(path)
	if err != nil {
		t.Fatal(err)
	}
	a := rooms.New(s, slog.New(slog.NewTextHandler(io.Discard, nil)), standin.Instruments{})
	if _, measured := t.(*testing.B); !measured {
		a.Jobs.Doubt(func(err error) { t.Error(err) })
	}
	if o.SignInsPerMinute == 0 {
		o.SignInsPerMinute = 1000
	}
	h := New(a, s.Sessions(), slog.New(slog.NewTextHandler(io.Discard, nil)), o)
	srv := httptest.NewServer(h)
	t.Cleanup(func() { srv.Close(); s.Close() })
	return &site{t, srv.URL, a, h}
}

// openJobs lets everybody see every job.
func (s *site) openJobs() {
	s.t.Helper()
	policy, err := s.rooms.Firm.PolicyNow(ctx)
	if err != nil {
		s.t.Fatal(err)
	}
	policy.OpenJobs = true
	if err := s.rooms.Firm.SetPolicy(ctx, people.Person{Roles: people.Roles{people.Office}}, policy); err != nil {
		s.t.Fatal(err)
	}
}

// client is a browser's worth of cookies.
type client struct {
	*site
	http *http.Client
}

func (s *site) visitor() *client {
	jar, _ := cookiejar.New(nil)
	return &client{s, &http.Client{Jar: jar}}
}

func (s *site) as(role people.Role) *client {
	s.t.Helper()
	c := s.visitor()
	if status, body := c.do("POST", "/api/session", fmt.Sprintf(`{"username":%q,"password":%q}`, role, password)); status != 200 {
		s.t.Fatalf("sign in as %s: %d %s", role, status, body)
	}
	return c
}

func (c *client) send(method, path, body string, header ...string) *http.Response {
	c.t.Helper()
	req, err := http.NewRequest(method, c.url+path, strings.NewReader(body))
	if err != nil {
		c.t.Fatal(err)
	}
	if body != "" {
		req.Header.Set("Content-Type", "application/json")
	}
	for i := 0; i+1 < len(header); i += 2 {
		req.Header.Set(header[i], header[i+1])
	}
	res, err := c.http.Do(req)
	if err != nil {
		c.t.Fatal(err)
	}
	c.t.Cleanup(func() { res.Body.Close() })
	return res
}

func (c *client) do(method, path, body string, header ...string) (int, string) {
	c.t.Helper()
	res := c.send(method, path, body, header...)
	b, err := io.ReadAll(res.Body)
	if err != nil {
		c.t.Fatal(err)
	}
	return res.StatusCode, string(b)
}

func example(t testing.TB, name string) string {
	t.Helper()
	b, err := os.ReadFile("../../docs/formats/examples/" + name)
	if err != nil {
		t.Fatal(err)
	}
	return string(b)
}

// imported reads in an example as the verifier and returns its id.
func (s *site) imported(name string) string {
	s.t.Helper()
	return s.put(example(s.t, name))
}

// put makes a job of a file, with its log as if it had been written here.
func (s *site) put(file string) string {
	s.t.Helper()
	j, err := job.Read([]byte(file))
	if err != nil {
		s.t.Fatal(err)
	}
	v, err := s.rooms.Jobs.Put(ctx, people.Person{Name: "A. Nakagawa", Roles: people.Roles{people.Verifier}}, j)
	if err != nil {
		s.t.Fatal(err)
	}
	return v.Summary.ID
}

// operations lists every operation with what it needs to be tried, and the
// roles that may do it. "any" marks operations of everybody who is signed in.
var operations = []struct {
	id, method, path, body, kind string
	roles                        string // initials: o s i v
}{
	{"who-am-i", "GET", "/api/session", "", "", "osiv"},
	{"list-users", "GET", "/api/users", "", "", "osiv"},
	{"add-user", "POST", "/api/users", `{"username":"u%d","name":"New","roles":["installer"],"password":"a long password"}`, "", "o"},
	{"disable-user", "PUT", "/api/users/none/disabled", `{"disabled":true}`, "", "o"},
	{"get-firm", "GET", "/api/firm", "", "", "osiv"},
	{"set-firm", "PUT", "/api/firm", `{"name":"Quill and Beacon Electrical"}`, "", "o"},
	{"list-rulebooks", "GET", "/api/rulebooks", "", "", "osiv"},
	{"list-chargers", "GET", "/api/chargers", "", "", "osiv"},
	{"list-jobs", "GET", "/api/jobs", "", "", "osiv"},
	{"create-job", "POST", "/api/jobs", `{"rulebook":"nec:2023","points":1,"site":{}}`, "", "osv"},
	{"import-job", "POST", "/api/jobs/import", `{}`, "application/octet-stream", "osv"},
	{"open-job", "GET", "/api/jobs/JOB", "", "", "osiv"},
	{"set-rulebook", "PUT", "/api/jobs/JOB/rulebook", `{"rulebook":"bs7671:2018+A2:2022"}`, "", "osv"},
	{"settle-refused", "POST", "/api/jobs/JOB/refused", `{"field":"survey.x"}`, "", "osv"},
	{"export-job", "GET", "/api/jobs/JOB/export", "", "", "osiv"},
	{"audit-job", "GET", "/api/jobs/JOB/audit", "", "", "osiv"},
	{"save-site", "PUT", "/api/jobs/JOB/site", `{"revision":0,"section":{}}`, "", "osv"},
	{"save-survey", "PUT", "/api/jobs/JOB/survey", `{"revision":0,"section":{}}`, "", "osv"},
	{"save-design", "PUT", "/api/jobs/JOB/design", `{"revision":0,"section":{}}`, "", "osv"},
	{"save-clearances", "PUT", "/api/jobs/JOB/clearances", `{"revision":0,"section":{}}`, "", "osv"},
	{"save-plan", "PUT", "/api/jobs/JOB/plan", `{"revision":0,"section":{}}`, "", "osiv"},
	{"list-options", "GET", "/api/jobs/JOB/points/A/options", "", "", "osiv"},
	{"one-line", "GET", "/api/jobs/JOB/points/A/one-line", "", "", "osiv"},
	{"read-interval", "POST", "/api/jobs/JOB/interval", "x", "text/csv", "osiv"},
	{"simulate-night", "GET", "/api/jobs/JOB/night", "", "", "osiv"},
	{"propose-parts", "GET", "/api/jobs/JOB/parts", "", "", "osiv"},
	{"judge-visit", "GET", "/api/jobs/JOB/visit", "", "", "osiv"},
	{"work-out-site", "GET", "/api/jobs/JOB/points/A/site?position=A&cord=7.5", "", "", "osiv"},
	{"draw-site-plan", "GET", "/api/jobs/JOB/site-plan.svg", "", "", "osiv"},
	{"work-out-route", "GET", "/api/jobs/JOB/points/A/route", "", "", "osiv"},
	{"add-photo", "POST", "/api/jobs/JOB/photos", "x", "image/jpeg", "osiv"},
	{"look-at-upload", "GET", "/api/jobs/JOB/photos/0000000000000000000000000000000000000000000000000000000000000000/upload", "", "", "osiv"},
	{"upload-piece", "PUT", "/api/jobs/JOB/photos/0000000000000000000000000000000000000000000000000000000000000000/upload?from=0&size=9", "x", "application/octet-stream", "osiv"},
	{"get-photo", "GET", "/api/jobs/JOB/photos/0000000000000000000000000000000000000000000000000000000000000000", "", "", "osiv"},
	{"list-arrangements", "GET", "/api/jobs/JOB/points/A/arrangements", "", "", "osiv"},
	{"compare-costs", "GET", "/api/jobs/JOB/points/A/costs", "", "", "osiv"},
	{"get-policy", "GET", "/api/firm/policy", "", "", "osiv"},
	{"set-policy", "PUT", "/api/firm/policy", `{"openJobs":true,"margins":{"end":0.5,"share":0.05},"photos":[],"costs":{"uk":{"sensor":{"low":1,"high":2},"switch":{"low":1,"high":2},"upgrade":{"low":1,"high":2},"wait":{"low":1,"high":2}},"us":{"sensor":{"low":1,"high":2},"switch":{"low":1,"high":2},"upgrade":{"low":1,"high":2},"wait":{"low":1,"high":2}}}}`, "", "o"},
	{"list-prices", "GET", "/api/prices", "", "", "osiv"},
	{"set-prices", "PUT", "/api/prices", "x", "text/csv", "o"},
	{"export-prices", "GET", "/api/prices.csv", "", "", "osiv"},
	{"judge-papers", "GET", "/api/jobs/JOB/papers", "", "", "osiv"},
	{"take-papers", "POST", "/api/jobs/JOB/papers", `{"revision":0}`, "", "osv"},
	{"send-paper", "POST", "/api/jobs/JOB/papers/grant/send", `{}`, "", "osv"},
	{"move-paper", "POST", "/api/jobs/JOB/papers/grant/after", `{"event":"sent","day":"2026-05-12"}`, "", "osv"},
	{"get-form", "GET", "/api/jobs/JOB/papers/grant/form/pdf", "", "", "osiv"},
	{"add-file", "POST", "/api/jobs/JOB/files?name=a.pdf", "x", "application/octet-stream", "osv"},
	{"withdraw-record", "POST", "/api/jobs/JOB/records/1/withdraw", `{"reason": "a reason in words"}`, "application/json", "v"},
	{"list-recipients", "GET", "/api/jobs/JOB/recipients", "", "", "osiv"},
	{"get-customer-page", "GET", "/api/jobs/JOB/page", "", "", "osiv"},
	{"open-customer-page", "POST", "/api/jobs/JOB/page", `{"at":"https://firm.example"}`, "", "osv"},
	{"close-customer-page", "DELETE", "/api/jobs/JOB/page", "", "", "osv"},
	{"draw-customer-page", "GET", "/api/jobs/JOB/page/qr.png", "", "", "osiv"},
	{"print-labels", "GET", "/api/jobs/JOB/labels.pdf", "", "", "osiv"},
	{"print-receipt", "GET", "/api/jobs/JOB/receipt.pdf", "", "", "osiv"},
	{"mail-pack", "POST", "/api/jobs/JOB/mail-pack", "", "", "osv"},
	{"draw-labels", "GET", "/api/jobs/JOB/labels.svg", "", "", "osiv"},
	{"keep-package", "POST", "/api/jobs/JOB/package", "", "", "osv"},
	{"get-package", "GET", "/api/jobs/JOB/package", "", "", "osiv"},
	{"get-file", "GET", "/api/jobs/JOB/files/0000000000000000000000000000000000000000000000000000000000000000", "", "", "osiv"},
	{"fetch-answers", "POST", "/api/papers/answers", "", "", "osv"},
	{"list-due", "GET", "/api/papers/due", "", "", "osiv"},
	{"list-forms", "GET", "/api/forms", "", "", "osiv"},
	{"add-form", "PUT", "/api/forms", `{}`, "application/octet-stream", "o"},
	{"get-resources", "GET", "/api/firm/resources", "", "", "osiv"},
	{"set-resources", "PUT", "/api/firm/resources", `{"crews":[],"instruments":[],"registrations":[],"travel":[],"hours":{"from":"08:00","to":"17:00"},"reelMargin":2,"zones":{"uk":"Europe/London","us":"America/Phoenix"}}`, "", "o"},
	{"judge-day", "POST", "/api/jobs/JOB/day", `{"team":"north","day":"2027-03-09"}`, "", "osiv"},
	{"book-day", "PUT", "/api/jobs/JOB/booking", `{"team":"north","day":"2027-03-09"}`, "", "osv"},
	{"free-day", "DELETE", "/api/jobs/JOB/booking", "", "", "osv"},
	{"propose-day", "GET", "/api/jobs/JOB/first-day", "", "", "osiv"},
	{"day-sheet", "GET", "/api/jobs/JOB/day-sheet", "", "", "osiv"},
	{"list-days", "GET", "/api/days", "", "", "osiv"},
	{"propose-days", "POST", "/api/days/proposal", `{"jobs":["JOB"],"from":"2027-03-09","count":5}`, "", "osv"},
	{"renew-feeds", "POST", "/api/feeds", "", "", "osiv"},
	{"get-feeds", "GET", "/api/feeds", "", "", "osiv"},
	{"list-stock", "GET", "/api/stock", "", "", "osiv"},
	{"put-item", "PUT", "/api/stock", `{"id":"R1","name":"6 mm²","unit":"m","state":"in-hand","reel":true,"quantity":50,"held":0}`, "", "osiv"},
	{"import-stock", "POST", "/api/stock/import", "x", "application/octet-stream", "osiv"},
	{"export-stock", "GET", "/api/stock/export/csv", "", "", "osiv"},
	{"drop-item", "DELETE", "/api/stock/R1", "", "", "osv"},
	{"list-orders", "GET", "/api/orders", "", "", "osiv"},
	{"export-orders", "GET", "/api/orders/export/xlsx", "", "", "osiv"},
	{"work-out-setting", "GET", "/api/jobs/JOB/points/A/setting", "", "", "osiv"},
	{"compare-as-built", "GET", "/api/jobs/JOB/as-built", "", "", "osiv"},
	{"list-near-misses", "GET", "/api/near-misses", "", "", "osiv"},
	{"list-practice", "GET", "/api/practice", "", "", "osiv"},
	{"start-practice", "POST", "/api/practice/cases/uk-1", "", "", "osiv"},
	{"practice-measure", "POST", "/api/practice/runs/none/tests/ze", "", "", "osiv"},
	{"practice-answer", "POST", "/api/practice/runs/none/answer", `{"fault":"none","remedy":"none"}`, "", "osiv"},
	{"append-entries", "POST", "/api/jobs/JOB/entries", `{"entries":[{"id":"device-%04d","kind":"step","at":"2026-05-04T09:00:00Z","subject":"protect"}]}`, "", "iv"},
	{"grow-log", "POST", "/api/jobs/JOB/log", `{"entries":[{"id":"device-log-%04d","kind":"step","at":"2026-05-04T09:00:00Z","subject":"protect"}]}`, "", "iv"},
	{"preview-readings", "POST", "/api/jobs/JOB/readings/preview", "x", "text/csv", "osiv"},
	{"list-mappings", "GET", "/api/mappings", "", "", "osiv"},
	{"save-mapping", "POST", "/api/mappings", `{"instrument":"7F","columns":{"test":"Test","value":"Result","at":"When"},"point":"A"}`, "", "iv"},
	{"list-mine", "GET", "/api/mine", "", "", "osiv"},
	{"list-own-chargers", "GET", "/api/charger-types", "", "", "osiv"},
	{"read-chargers", "PUT", "/api/charger-types", "[]", "application/octet-stream", "o"},
	{"import-readings", "POST", "/api/jobs/JOB/readings", "x", "text/csv", "iv"},
	{"seal-job", "POST", "/api/jobs/JOB/seal", "", "", "v"},
	{"amend-job", "POST", "/api/jobs/JOB/amend", `{"reason":"a reason in words"}`, "", "v"},
	{"take-over", "POST", "/api/jobs/JOB/take-over", `{"rule":"rcd-upstream","point":"A","answer":"Replace it by type A"}`, "", "osv"},
	{"drop-amendment", "DELETE", "/api/jobs/JOB/amend", "", "", "v"},
	{"list-changes", "GET", "/api/jobs/JOB/changes", "", "", "osiv"},
	{"preview-paper", "GET", "/api/jobs/JOB/preview/inspection", "", "", "osiv"},
	{"get-paper", "GET", "/api/jobs/JOB/records/1/record", "", "", "osiv"},
	{"set-roles", "PUT", "/api/users/none/roles", `{"roles":["office"]}`, "", "o"},
	{"set-mail", "PUT", "/api/users/none/mail", `{"mail":""}`, "", "o"},
	{"make-link", "POST", "/api/users/none/link", "", "", "o"},
	{"get-personal", "GET", "/api/jobs/JOB/personal", "", "", "o"},
	{"erase-personal", "POST", "/api/jobs/JOB/personal/erase", `{"reason":"short"}`, "", "o"},
	{"delete-job", "DELETE", "/api/jobs/JOB", "", "", "o"},
	{"get-health", "GET", "/api/doctor", "", "", "ov"},
	{"look", "POST", "/api/doctor", "", "", "ov"},
	{"propose-key", "POST", "/api/firm/key", `{"why":"x","old":"x"}`, "", "ov"},
	{"agree-key", "POST", "/api/firm/key/agree", `{"old":"x"}`, "", "ov"},
	{"drop-key-proposal", "DELETE", "/api/firm/key", "", "", "ov"},
	{"firm-audit", "GET", "/api/audit", "", "", "ov"},
	{"change-password", "PUT", "/api/session/password", `{"old":"x","password":"another password"}`, "", "osiv"},
	{"make-factor", "POST", "/api/session/factor", "", "", "osiv"},
	{"take-factor", "PUT", "/api/session/factor", `{"old":"x","secret":"x","code":"x"}`, "", "osiv"},
	{"end-factor", "POST", "/api/session/factor/end", `{"old":"x"}`, "", "osiv"},
	{"list-passkeys", "GET", "/api/session/passkeys", "", "", "osiv"},
	{"make-passkey", "POST", "/api/session/passkeys/options", `{"old":"x"}`, "", "osiv"},
	{"take-passkey", "POST", "/api/session/passkeys", `{"name":"x","answer":{}}`, "", "osiv"},
	{"end-passkey", "POST", "/api/session/passkeys/none/end", `{"old":"x"}`, "", "osiv"},
	{"end-factor-of", "DELETE", "/api/users/none/factor", "", "", "o"},
	{"get-demand", "GET", "/api/firm/factor", "", "", "osiv"},
	{"set-demand", "PUT", "/api/firm/factor", `{"demand":false}`, "", "o"},
	{"list-sessions", "GET", "/api/session/all", "", "", "osiv"},
	{"sign-out-everywhere", "DELETE", "/api/session/all", "", "", "osiv"},
	{"sign-out", "DELETE", "/api/session", "", "", "osiv"},
}

// TestPermissions tries every operation as every role and as nobody: who may
// not is told so, and who may is never.
func TestPermissions(t *testing.T) {
	s := newSite(t, Options{})
	s.openJobs()
	id := s.imported("uk-fail.json")
	n := 0
	clients := map[people.Role]*client{}
	for _, r := range people.AllRoles {
		clients[r] = s.as(r)
	}
	// Signing out comes last: the clients are used for every operation.
	for _, o := range operations {
		path := strings.ReplaceAll(o.path, "JOB", id)
		try := func(c *client) (int, string) {
			n++
			body := o.body
			if strings.Contains(body, "%") {
				body = fmt.Sprintf(body, n)
			}
			kind := o.kind
			if kind == "" {
				kind = "application/json"
			}
			return c.do(o.method, path, body, "Content-Type", kind)
		}
		if status, _ := try(s.visitor()); status != http.StatusUnauthorized {
			t.Errorf("%s by nobody: %d, want 401", o.id, status)
		}
		for _, r := range people.AllRoles {
			status, body := try(clients[r])
			may := strings.Contains(o.roles, string(r[0]))
			switch {
			case may && (status == http.StatusForbidden || status == http.StatusUnauthorized):
				t.Errorf("%s by %s: %d %s, is allowed", o.id, r, status, body)
			case !may && status != http.StatusForbidden:
				t.Errorf("%s by %s: %d %.100s, want 403", o.id, r, status, body)
			case status >= 500:
				t.Errorf("%s by %s: %d %s", o.id, r, status, body)
			}
		}
	}
}

// TestEveryOperationIsListed: an operation that is added must be added to the
// table above, with its roles.
func TestEveryOperationIsListed(t *testing.T) {
	var doc struct {
		OpenAPI string
		Paths   map[string]map[string]struct{ OperationID string }
	}
	if err := json.Unmarshal(OpenAPI(), &doc); err != nil {
		t.Fatal(err)
	}
	if !strings.HasPrefix(doc.OpenAPI, "3.1") {
		t.Errorf("OpenAPI %s", doc.OpenAPI)
	}
	for path, methods := range doc.Paths {
		for method, o := range methods {
			if slices.Contains([]string{"sign-in", "set-up", "whose-link", "use-link", "ask-link", "ask-passkey", "sign-in-passkey", "verify-file", "show-customer-page", "get-customer-paper"}, o.OperationID) {
				continue // the door: tested below
			}
			i := slices.IndexFunc(operations, func(x struct{ id, method, path, body, kind, roles string }) bool { return x.id == o.OperationID })
			if i < 0 {
				t.Errorf("%s %s, %s, is not in the table of permissions", method, path, o.OperationID)
			}
		}
	}
}

func TestSignInAndOut(t *testing.T) {
	s := newSite(t, Options{TLS: false})
	c := s.visitor()
	res := c.send("POST", "/api/session", fmt.Sprintf(`{"username":"office","password":%q}`, password))
	if res.StatusCode != 200 || len(res.Cookies()) != 1 {
		t.Fatalf("%d, %d cookies", res.StatusCode, len(res.Cookies()))
	}
	cookie := res.Cookies()[0]
	if !cookie.HttpOnly || cookie.SameSite != http.SameSiteLaxMode || cookie.Secure {
		t.Errorf("cookie %+v", cookie)
	}
	if status, body := c.do("GET", "/api/session", ""); status != 200 || !strings.Contains(body, `"roles":["office"]`) {
		t.Errorf("%d %s", status, body)
	}
	if status, _ := c.do("DELETE", "/api/session", ""); status != 204 && status != 200 {
		t.Errorf("sign out: %d", status)
	}
	if status, _ := c.do("GET", "/api/session", ""); status != 401 {
		t.Errorf("after signing out: %d", status)
	}
	// The old cookie is dead on the server too.
	if status, _ := s.visitor().do("GET", "/api/session", "", "Cookie", cookie.Name+"="+cookie.Value); status != 401 {
		t.Errorf("the old cookie: %d", status)
	}
	if status, body := c.do("POST", "/api/session", `{"username":"office","password":"wrong"}`); status != 401 || !strings.Contains(body, "name or password is wrong") {
		t.Errorf("%d %s", status, body)
	}
}

func TestCookieIsSecureWithTLS(t *testing.T) {
	s := newSite(t, Options{TLS: true})
	res := s.visitor().send("POST", "/api/session", fmt.Sprintf(`{"username":"office","password":%q}`, password))
	if c := res.Cookies(); len(c) != 1 || !c[0].Secure {
		t.Errorf("%+v", c)
	}
}

// TestClosedAccountLosesSession: closing an account ends what it had open.
func TestClosedAccountLosesSession(t *testing.T) {
	s := newSite(t, Options{})
	mate, office := s.as(people.Installer), s.as(people.Office)
	_, body := office.do("GET", "/api/users", "")
	var users []User
	if err := json.Unmarshal([]byte(body), &users); err != nil {
		t.Fatal(err)
	}
	i := slices.IndexFunc(users, func(u User) bool { return u.Roles.Has(people.Installer) })
	if status, body := office.do("PUT", "/api/users/"+users[i].ID+"/disabled", `{"disabled":true}`); status >= 300 {
		t.Fatal(status, body)
	}
	if status, _ := mate.do("GET", "/api/jobs", ""); status != 401 {
		t.Errorf("a closed account still reads: %d", status)
	}
}

func TestSignInRate(t *testing.T) {
	s := newSite(t, Options{SignInsPerMinute: 3})
	for i := range 5 {
		status, body := s.visitor().do("POST", "/api/session", `{"username":"office","password":"wrong"}`)
		want := 401
		if i >= 3 {
			want = 429
		}
		if status != want {
			t.Errorf("try %d: %d %s", i+1, status, body)
		}
	}
}

func TestHeaders(t *testing.T) {
	s := newSite(t, Options{})
	for _, path := range []string{"/", "/jobs", "/api/session", "/healthz", "/api/docs", "/no/such/page"} {
		h := s.visitor().send("GET", path, "").Header
		policy := h.Get("Content-Security-Policy")
		if !strings.Contains(policy, "script-src 'self' 'wasm-unsafe-eval';") || !strings.Contains(policy, "default-src 'none'") || !strings.Contains(policy, "frame-ancestors 'none'") {
			t.Errorf("%s: policy %q", path, policy)
		}
		if h.Get("X-Content-Type-Options") != "nosniff" {
			t.Errorf("%s: %v", path, h)
		}
	}
}

// TestTLSHeaders: with TLS a browser keeps to it, and the cookie cannot be set from
// elsewhere; answers that are nobody else's are not stored.
func TestTLSHeaders(t *testing.T) {
	s := newSite(t, Options{TLS: true})
	r := httptest.NewRequest("POST", "/api/session", strings.NewReader(`{"username":"verifier","password":"`+password+`"}`))
	r.Header.Set("Content-Type", "application/json")
	r.TLS = &tls.ConnectionState{}
	w := httptest.NewRecorder()
	s.handler.ServeHTTP(w, r)
	if c := w.Header().Get("Set-Cookie"); w.Code != 200 || !strings.HasPrefix(c, "__Host-dogbolt=") || !strings.Contains(c, "Path=/; ") || !strings.Contains(c, "Secure") || strings.Contains(c, "Domain") {
		t.Errorf("%d, cookie %q", w.Code, c)
	}
	if h := w.Header(); h.Get("Strict-Transport-Security") != hsts || h.Get("Cache-Control") != "no-store" {
		t.Errorf("%v", h)
	}
	if h := newSite(t, Options{}).visitor().send("GET", "/jobs", "").Header; h.Get("Strict-Transport-Security") != "" {
		t.Error("TLS is asked for where there is none")
	}
}

// TestRequestID: a name from outside is taken where it is one, and nothing else gets into
// the log.
func TestRequestID(t *testing.T) {
	for name, taken := range map[string]bool{"from-a-proxy-77": true, strings.Repeat("x", longestID+1): false, "two\nlines": false, "Ω": false} {
		r := httptest.NewRequest("GET", "/", nil)
		r.Header.Set("X-Request-Id", name)
		ownRequestID(http.HandlerFunc(func(_ http.ResponseWriter, r *http.Request) {
			if got := r.Header.Get("X-Request-Id") == name; got != taken {
				t.Errorf("%.20q is taken: %v", name, got)
			}
		})).ServeHTTP(httptest.NewRecorder(), r)
	}
}

// TestCrossOrigin: another site's page changes nothing.
func TestCrossOrigin(t *testing.T) {
	s := newSite(t, Options{})
	c := s.as(people.Office)
	status, body := c.do("PUT", "/api/firm", `{"name":"Someone Else"}`, "Sec-Fetch-Site", "cross-site", "Origin", "https://elsewhere.example")
	if status != 403 || !strings.Contains(body, "another site") {
		t.Errorf("%d %s", status, body)
	}
	if status, _ := c.do("PUT", "/api/firm", `{"name":"Ours"}`, "Sec-Fetch-Site", "same-origin"); status >= 300 {
		t.Errorf("our own page: %d", status)
	}
}

// endless is a body of a given size that is never held in memory.
type endless struct{ left int64 }

func (e *endless) Read(p []byte) (int, error) {
	if e.left <= 0 {
		return 0, io.EOF
	}
	n := min(int64(len(p)), e.left)
	for i := range p[:n] {
		p[i] = ' '
	}
	e.left -= n
	return int(n), nil
}

// TestLargeUpload: 200 MB are refused with a word, with and without a length.
func TestLargeUpload(t *testing.T) {
	s := newSite(t, Options{})
	c := s.as(people.Office)
	for _, announced := range []bool{true, false} {
		req, _ := http.NewRequest("POST", s.url+"/api/jobs/import", &endless{200 << 20})
		req.Header.Set("Content-Type", "application/octet-stream")
		if announced {
			req.ContentLength = 200 << 20
		}
		res, err := c.http.Do(req)
		if err != nil {
			// The server may close the connection before all is sent.
			continue
		}
		b, _ := io.ReadAll(res.Body)
		res.Body.Close()
		if res.StatusCode != 413 {
			t.Errorf("announced %t: %d %s", announced, res.StatusCode, b)
		}
	}
	// A small request still works afterwards.
	if status, _ := c.do("GET", "/api/jobs", ""); status != 200 {
		t.Errorf("afterwards: %d", status)
	}
	res := c.send("POST", "/api/jobs/import", strings.Repeat(" ", 9<<20), "Content-Type", "application/octet-stream")
	b, _ := io.ReadAll(res.Body)
	if res.StatusCode != 413 || !bytes.Contains(b, []byte("9 MB; at most 8 MB")) {
		t.Errorf("%d %s", res.StatusCode, b)
	}
}

// TestErrorsNameTheField: bad input of every kind says what, where.
func TestErrorsNameTheField(t *testing.T) {
	s := newSite(t, Options{})
	id := s.imported("uk-pass.json")
	c := s.as(people.Verifier)
	for _, x := range []struct {
		method, path, body string
		status             int
		want               string
	}{
		{"PUT", "/survey", `{"revision":1,"section":{"supply":{"rating":-80}}}`, 422, "rating"},
		{"PUT", "/survey", `{"revision":1,"section":{"places":[{"point":"A","route":[{"method":"surface","length":-3}]}]}}`, 422, "length"},
		{"PUT", "/design", `{"revision":1,"section":{"circuits":[{"point":"A","setting":32000}]}}`, 422, "setting"},
		{"PUT", "/design", `{"revision":1,"section":{"circuits":[{"point":"A","seting":32}]}}`, 422, "seting"},
		{"PUT", "/design", `{"revision":1,"section":{"circuits":[{"point":"A","setting":"many"}]}}`, 422, "setting"},
		{"PUT", "/survey", `{"revision":1,"section":`, 422, "line 1 is not JSON"},
		{"PUT", "/survey", `{"revision":7,"section":{}}`, 409, "saved the survey"},
		{"PUT", "/survey", `{"revision":7,"sheet":{}}`, 409, "saved the survey"}, // a page from before the upgrade
		{"PUT", "/survey", `{"revision":7}`, 422, "section"},
		{"POST", "/entries", `{"entries":[{"id":"device-0001","kind":"reading","at":"2026-05-04T09:00:00Z","subject":"zs","point":"A","value":"abc"}]}`, 422, "entries[0].value"},
		{"POST", "/entries", `{"entries":[{"id":"device-0001","kind":"reading","at":"not a time","subject":"zs"}]}`, 422, "at"},
		{"POST", "/amend", `{"reason":"a reason in words"}`, 422, "not sealed"},
		{"PUT", "/site", `{"revision":1,"section":{"customer":"L.\u0000 Whitcombe"}}`, 422, "site.customer"},
		{"POST", "/entries", `{"entries":[{"id":"device-0002","kind":"note","at":"2026-05-04T09:00:00Z","reason":"100\u202e52"}]}`, 422, "entries[0].reason"},
		{"GET", "/points/Q/options", "", 404, "point"},
		{"GET", "/preview/poem", "", 422, "kind"},
	} {
		status, body := c.do(x.method, "/api/jobs/"+id+x.path, x.body)
		if status != x.status || !strings.Contains(body, x.want) {
			t.Errorf("%s %s %.60s: %d %s; want %d, %q", x.method, x.path, x.body, status, body, x.status, x.want)
		}
	}
	if status, _ := c.do("GET", "/api/jobs/nothing", ""); status != 404 {
		t.Errorf("no such job: %d", status)
	}
	if status, body := c.do("POST", "/api/jobs/import", strings.Replace(example(t, "us-pass.json"), "dogbolt.job/2", "dogbolt.job/3", 1), "Content-Type", "application/octet-stream"); status != 422 || !strings.Contains(body, "newer") {
		t.Errorf("a newer file: %d %s", status, body)
	}
}

// TestAnyText: what people type is kept whole and in one form, and what no paper can
// print stops no seal. The forms of é: Unicode Standard Annex 15, figure 3.
func TestAnyText(t *testing.T) {
	s := newSite(t, Options{})
	if err := s.rooms.Firm.SetContractor(ctx, people.Person{Roles: people.Roles{people.Office}}, record.Contractor{Name: "Quill and Beacon Electrical"}); err != nil {
		t.Fatal(err)
	}
	file := strings.Replace(example(t, "us-pass.json"), `"customer": "`, `"customer": "🔌 Rene\u0301e of René`+"e\u0301"+`e, `, 1)
	if !strings.Contains(file, "🔌") {
		t.Fatal("the example has no customer")
	}
	id := s.put(file)
	c := s.as(people.Verifier)
	if status, body := newSite(t, Options{}).as(people.Verifier).do("POST", "/api/jobs/import", file, "Content-Type", "application/octet-stream"); status != 200 || !strings.Contains(body, "of Renéée") {
		t.Errorf("a file's customer is not in one form: %d %.300s", status, body)
	}
	note := `{"entries":[{"id":"device-0009","kind":"note","at":"2026-05-04T18:00:00Z","reason":"cafe` + "\u0301" + `"}]}`
	if status, body := c.do("POST", "/api/jobs/"+id+"/entries", note); status != 200 || !strings.Contains(body, "café") {
		t.Errorf("a note is not in one form: %d %.300s", status, body)
	}
	if status, body := c.do("GET", "/api/jobs/"+id+"/preview/inspection", ""); status != 200 || !strings.Contains(body, `"named":["🔌 [electric plug]"]`) {
		t.Errorf("the preview does not warn: %d %.300s", status, body)
	}
	if status, body := c.do("POST", "/api/jobs/"+id+"/seal", ""); status != 200 {
		t.Fatal(status, body)
	}
	for _, kind := range []string{"inspection", "handover", "record"} {
		if status, body := c.do("GET", "/api/jobs/"+id+"/records/1/"+kind, ""); status != 200 || kind == "record" && !strings.Contains(body, "🔌") {
			t.Errorf("%s: %d", kind, status)
		}
	}
	if status, body := c.do("GET", "/api/jobs?search=a%00b", ""); status != 400 || !strings.Contains(body, "search") {
		t.Errorf("a search with NUL: %d %s", status, body)
	}
	latin := "id,name,unit,place,state,reel,quantity,supplier,expected\ncable-6,cable 6 mm\xb2,m,van 1,in stock,,40,,\n"
	if status, body := s.as(people.Office).do("POST", "/api/stock/import", latin, "Content-Type", "text/csv"); status != 422 || !strings.Contains(body, "not UTF-8") {
		t.Errorf("a stock file in Latin-1: %d %s", status, body)
	}
}

// TestSealOverHTTP: sealed, its papers come as files that verify.
func TestSealOverHTTP(t *testing.T) {
	s := newSite(t, Options{})
	if err := s.rooms.Firm.SetContractor(ctx, people.Person{Roles: people.Roles{people.Office}}, record.Contractor{Name: "Quill and Beacon Electrical"}); err != nil {
		t.Fatal(err)
	}
	id := s.imported("us-pass.json")
	c := s.as(people.Verifier)
	if status, body := c.do("POST", "/api/jobs/"+id+"/seal", ""); status != 200 {
		t.Fatal(status, body)
	}
	for kind, want := range map[string]string{"inspection": "application/pdf", "handover": "application/pdf", "record": "application/json"} {
		t.Run(kind, func(t *testing.T) {
			res := c.send("GET", "/api/jobs/"+id+"/records/1/"+kind, "")
			b, _ := io.ReadAll(res.Body)
			if res.Header.Get("Content-Type") != want || !strings.Contains(res.Header.Get("Content-Disposition"), "attachment") {
				t.Errorf("%s: %v", kind, res.Header)
			}
			_, body := c.do("POST", "/api/verify", string(b), "Content-Type", "application/octet-stream")
			var v VerifyResult
			if err := json.Unmarshal([]byte(body), &v); err != nil || !v.Intact || !v.OurKey || v.Number != "EX-US-0001" {
				t.Errorf("%s: %s", kind, body)
			}
			b[len(b)/2] ^= 1
			if _, body := c.do("POST", "/api/verify", string(b), "Content-Type", "application/octet-stream"); strings.Contains(body, `"intact":true`) {
				t.Errorf("%s, changed: %s", kind, body)
			}
		})
	}
	status, body := c.do("PUT", "/api/jobs/"+id+"/survey", `{"revision":1,"section":{}}`)
	if status != 409 || !strings.Contains(body, "sealed record cannot be edited") {
		t.Errorf("a stale page: %d %s", status, body)
	}
}

// TestVerifyForAnyone: no account is asked for; the books say whether the issue was replaced, and
// nothing of an issue that they do not have. An address that sends file after file has to wait.
func TestVerifyForAnyone(t *testing.T) {
	s := newSite(t, Options{})
	if err := s.rooms.Firm.SetContractor(ctx, people.Person{Roles: people.Roles{people.Office}}, record.Contractor{Name: "Quill and Beacon Electrical"}); err != nil {
		t.Fatal(err)
	}
	id := s.imported("uk-pass.json")
	verifier, anyone := s.as(people.Verifier), s.visitor()
	if status, body := verifier.do("POST", "/api/jobs/"+id+"/seal", ""); status != 200 {
		t.Fatal(status, body)
	}
	_, first := verifier.do("GET", "/api/jobs/"+id+"/records/1/record", "")
	check := func(file string) (v VerifyResult) {
		t.Helper()
		status, body := anyone.do("POST", "/api/verify", file, "Content-Type", "application/octet-stream")
		if err := json.Unmarshal([]byte(body), &v); err != nil || status != 200 {
			t.Fatalf("%d %s", status, body)
		}
		return v
	}
	if v := check(first); !v.Intact || v.Standing != records.Last || v.Issue != 1 || v.SealedBy == "" || v.Contractor != "Quill and Beacon Electrical" {
		t.Errorf("%+v", v)
	}
	if status, body := verifier.do("POST", "/api/jobs/"+id+"/amend", `{"reason":"a reason in words"}`); status != 200 {
		t.Fatal(status, body)
	}
	if v := check(first); v.Standing != records.Last {
		t.Errorf("while an amendment is open: %+v", v)
	}
	note := `{"entries":[{"id":"device-0001","kind":"note","at":"` + time.Now().UTC().Format(time.RFC3339) + `","reason":"what is amended"}]}`
	for _, step := range [][2]string{{"/log", note}, {"/seal", ""}} {
		if status, body := verifier.do("POST", "/api/jobs/"+id+step[0], step[1]); status != 200 {
			t.Fatal(status, body)
		}
	}
	if v := check(first); !v.Intact || v.Standing != records.Replaced || v.ReplacedBy != 2 || v.ReplacedCode == "" {
		t.Errorf("after the second issue: %+v", v)
	}
	other := newSite(t, Options{})
	if _, body := other.visitor().do("POST", "/api/verify", first, "Content-Type", "application/octet-stream"); !strings.Contains(body, `"standing":"unknown"`) || !strings.Contains(body, `"ourKey":false`) {
		t.Errorf("by another firm's books: %s", body)
	}
	last := 0
	for range checksPerMinute {
		last, _ = anyone.do("POST", "/api/verify", first, "Content-Type", "application/octet-stream")
	}
	if last != 429 {
		t.Errorf("file after file: %d", last)
	}
}

// TestExamplesMeetSchema: the published schema accepts the published examples
// and refuses what the reader refuses, by an independent validator.
func TestExamplesMeetSchema(t *testing.T) {
	c := jsonschema.NewCompiler()
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(JobSchema()))
	if err != nil {
		t.Fatal(err)
	}
	if err := c.AddResource("job.json", doc); err != nil {
		t.Fatal(err)
	}
	schema, err := c.Compile("job.json")
	if err != nil {
		t.Fatal(err)
	}
	validate := func(s string) error {
		v, err := jsonschema.UnmarshalJSON(strings.NewReader(s))
		if err != nil {
			t.Fatal(err)
		}
		return schema.Validate(v)
	}
	for _, name := range []string{"uk-pass.json", "uk-fail.json", "us-pass.json", "us-fail.json"} {
		if err := validate(example(t, name)); err != nil {
			t.Errorf("%s: %v", name, err)
		}
	}
	good := example(t, "uk-pass.json")
	for old, bad := range map[string]string{
		`"length": 11`: `"length": -11`, `"setting": 32`: `"setting": "32"`, `"method": "surface"`: `"method": "levitating"`, `"customer"`: `"custommer"`,
	} {
		t.Run(old, func(t *testing.T) {
			if !strings.Contains(good, old) {
				t.Fatalf("the example has no %s", old)
			}
			if err := validate(strings.Replace(good, old, bad, 1)); err == nil {
				t.Errorf("the schema accepts %s", bad)
			}
		})
	}
}

func TestPagesForPeopleAndPrograms(t *testing.T) {
	s := newSite(t, Options{})
	c := s.visitor()
	if status, body := c.do("GET", "/healthz", ""); status != 200 || !strings.HasPrefix(body, "ok") {
		t.Errorf("%d %s", status, body)
	}
	if status, body := c.do("GET", "/api/docs", ""); status != 200 || !strings.Contains(body, "/api/jobs/{job}/seal") || strings.Contains(body, "<script") {
		t.Errorf("docs: %d %.200s", status, body)
	}
	if status, body := c.do("GET", "/api/openapi.json", ""); status != 200 || body != string(OpenAPI()) {
		t.Errorf("openapi: %d", status)
	}
	if status, body := c.do("GET", "/api/formats/job.schema.json", ""); status != 200 || body != string(JobSchema()) {
		t.Errorf("schema: %d", status)
	}
	if status, body := c.do("GET", "/jobs/anything/design", ""); status != 200 || !strings.Contains(body, "<title>Dogbolt</title>") {
		t.Errorf("a page: %d %.200s", status, body)
	}
	if status, _ := c.do("GET", "/api/nothing", ""); status != 404 {
		t.Errorf("no such operation: %d", status)
	}
}

// TestSetUp: the first account is made with the printed token, once.
func TestSetUp(t *testing.T) {
	st, err := store.Open(filepath.Join(t.TempDir(), "empty.db"))
	if err != nil {
		t.Fatal(err)
	}
	defer st.Close()
	log := slog.New(slog.NewTextHandler(io.Discard, nil))
	a := rooms.New(st, log, standin.Instruments{})
	token, err := a.People.SetUpToken(ctx)
	if err != nil {
		t.Fatal(err)
	}
	srv := httptest.NewServer(New(a, st.Sessions(), log, Options{}))
	defer srv.Close()
	c := (&site{t: t, url: srv.URL, rooms: a}).visitor()
	body := `{"token":%q,"username":"office","name":"P. Lindqvist","password":"a long password"}`
	if status, _ := c.do("POST", "/api/setup", fmt.Sprintf(body, "wrong")); status != 403 {
		t.Errorf("a wrong token: %d", status)
	}
	if status, answer := c.do("POST", "/api/setup", fmt.Sprintf(body, token)); status != 200 || !strings.Contains(answer, `"roles":["office"]`) {
		t.Errorf("%d %s", status, answer)
	}
	if status, _ := c.do("GET", "/api/users", ""); status != 200 {
		t.Errorf("not signed in after set-up: %d", status)
	}
	if status, _ := c.do("POST", "/api/setup", fmt.Sprintf(body, token)); status != 403 {
		t.Errorf("a second time: %d", status)
	}
}

func BenchmarkOpenJobOverHTTP(b *testing.B) {
	s := newSite(b, Options{})
	id := s.imported("uk-pass.json")
	c := s.as(people.Office)
	for b.Loop() {
		if status, _ := c.do("GET", "/api/jobs/"+id, ""); status != 200 {
			b.Fatal(status)
		}
	}
}

// TestAnotherPersonsPage: what a device asks in the name of one person is not taken in
// another's session, and stays with the device; signing in is nobody's yet.
func TestAnotherPersonsPage(t *testing.T) {
	s := newSite(t, Options{})
	id := s.imported("uk-fail.json")
	c := s.as(people.Verifier)
	var me, other Me
	for c, m := range map[*client]*Me{c: &me, s.as(people.Installer): &other} {
		_, body := c.do("GET", "/api/session", "")
		if err := json.Unmarshal([]byte(body), m); err != nil {
			t.Fatal(err)
		}
	}
	note := `{"entries":[{"id":"device-%s","kind":"note","at":"` + time.Now().UTC().Format(time.RFC3339) + `","reason":"a note"}]}`
	for _, r := range []struct {
		name, method, path, body, of string
		want                         int
	}{
		{"a note of another person", "POST", "/api/jobs/" + id + "/entries", fmt.Sprintf(note, "theirs"), other.ID, 412},
		{"a section of another person", "PUT", "/api/jobs/" + id + "/site", `{}`, other.ID, 412},
		{"another person's page", "GET", "/api/jobs/" + id, "", other.ID, 412},
		{"one's own note", "POST", "/api/jobs/" + id + "/entries", fmt.Sprintf(note, "mine"), me.ID, 200},
		{"a program that names nobody", "GET", "/api/jobs/" + id, "", "", 200},
	} {
		header := []string{}
		if r.of != "" {
			header = []string{PersonHeader, r.of}
		}
		if status, body := c.do(r.method, r.path, r.body, header...); status != r.want {
			t.Errorf("%s: %d, want %d: %.200s", r.name, status, r.want, body)
		}
	}
	if _, body := c.do("GET", "/api/jobs/"+id, ""); strings.Contains(body, "device-theirs") || !strings.Contains(body, "device-mine") {
		t.Error("the log has what is not the session's")
	}
	if status, _ := s.visitor().do("GET", "/api/jobs/"+id, "", PersonHeader, me.ID); status != 401 {
		t.Errorf("nobody signed in: %d", status)
	}
}

// TestSmallAnswers: answers are compressed where the browser takes it, and a page that
// has what it asks for is told so.
func TestSmallAnswers(t *testing.T) {
	s := newSite(t, Options{})
	path := "/api/jobs/" + s.imported("uk-pass.json")
	c := s.as(people.Verifier)
	plain := c.send("GET", path, "", "Accept-Encoding", "identity")
	whole, _ := io.ReadAll(plain.Body)
	small := c.send("GET", path, "", "Accept-Encoding", "gzip")
	packed, _ := io.ReadAll(small.Body)
	if plain.Header.Get("Content-Encoding") != "" || small.Header.Get("Content-Encoding") != "gzip" || len(packed)*4 > len(whole) {
		t.Errorf("%d bytes, as gzip (%q) %d", len(whole), small.Header.Get("Content-Encoding"), len(packed))
	}
	tag := plain.Header.Get("ETag")
	if tag == "" || tag != small.Header.Get("ETag") || plain.Header.Get("Cache-Control") != "private, no-cache" {
		t.Errorf("%q, %q, %q", tag, small.Header.Get("ETag"), plain.Header.Get("Cache-Control"))
	}
	if res := c.send("GET", path, "", "If-None-Match", tag); res.StatusCode != http.StatusNotModified {
		t.Errorf("asked again: %d", res.StatusCode)
	}
	note := `{"entries":[{"id":"device-0001","kind":"note","at":"2026-05-04T09:00:00Z","reason":"a note"}]}`
	if status, body := c.do("POST", path+"/entries", note); status != 200 {
		t.Fatal(status, body)
	}
	if res := c.send("GET", path, "", "If-None-Match", tag); res.StatusCode != http.StatusOK || res.Header.Get("ETag") == tag {
		t.Errorf("after a change: %d", res.StatusCode)
	}
	// Files pass as they come; what is not there is said, and is no page.
	if res := c.send("GET", path+"/inspection.pdf", "", "Accept-Encoding", "gzip"); res.Header.Get("Content-Encoding") != "" {
		t.Error("a PDF is compressed again")
	}
	if res := c.send("GET", "/assets/gone-12345678.js", ""); res.StatusCode != http.StatusNotFound {
		t.Errorf("a script of an old version: %d", res.StatusCode)
	}
	if res := c.send("GET", "/jobs/somewhere", ""); res.StatusCode != http.StatusOK || !strings.HasPrefix(res.Header.Get("Content-Type"), "text/html") {
		t.Errorf("a page's address: %d %s", res.StatusCode, res.Header.Get("Content-Type"))
	}
}

// TestLateRequestKeepsNoSession: a request that was under way while somebody signed in or
// out brings no earlier session back, neither on the server nor as a cookie.
func TestLateRequestKeepsNoSession(t *testing.T) {
	s := newSite(t, Options{})
	c := s.as(people.Installer)
	at, _ := url.Parse(s.url)
	before := c.http.Jar.Cookies(at)[0]
	late := func() *http.Response {
		req, _ := http.NewRequest("GET", s.url+"/api/session", nil)
		req.AddCookie(before)
		res, err := http.DefaultClient.Do(req)
		if err != nil {
			t.Fatal(err)
		}
		res.Body.Close()
		return res
	}
	if res := late(); res.StatusCode != 200 || len(res.Cookies()) != 0 {
		t.Errorf("an ordinary request: %d, sets %v", res.StatusCode, res.Cookies())
	}
	if status, _ := c.do("POST", "/api/session", fmt.Sprintf(`{"username":"verifier","password":%q}`, password)); status != 200 {
		t.Fatal(status)
	}
	if res := late(); res.StatusCode != 401 || len(res.Cookies()) != 0 {
		t.Errorf("with the session of before: %d, sets %v", res.StatusCode, res.Cookies())
	}
	if _, body := c.do("GET", "/api/session", ""); !strings.Contains(body, "The verifier") {
		t.Errorf("signed in is %s", body)
	}
}

// TestGrown: the answer to an entry says what changed, and what it is to be put over; whoever
// saw another state, because somebody saved meanwhile, can tell.
func TestGrown(t *testing.T) {
	s := newSite(t, Options{})
	c := s.as(people.Verifier)
	path := "/api/jobs/" + s.like(func(*job.Job) {}).ID
	type seen struct{ State string }
	get := func() (v seen) {
		t.Helper()
		_, body := c.do("GET", path, "")
		if err := json.Unmarshal([]byte(body), &v); err != nil || v.State == "" {
			t.Fatal(err, v)
		}
		return v
	}
	note := func(n int) (g Grown, size int) {
		t.Helper()
		status, body := c.do("POST", path+"/log", fmt.Sprintf(`{"entries":[{"id":"device-g%07d","kind":"note","reason":"cold","at":%q}]}`, n, time.Now().UTC().Format(time.RFC3339Nano)))
		if err := json.Unmarshal([]byte(body), &g); err != nil || status != 200 {
			t.Fatal(status, body)
		}
		return g, len(body)
	}
	before := get()
	for n := range 3 {
		g, size := note(n)
		if g.Before != before.State || g.State == g.Before || len(g.Added) != 1 || g.Changed.Whole || size > 2000 {
			t.Errorf("%d bytes: %+v, seen %v", size, g, before)
		}
		if before = get(); before.State != g.State {
			t.Errorf("state %s, the entry's answer said %s", before.State, g.State)
		}
	}
	if g, _ := note(2); len(g.Added) != 0 || g.State != before.State {
		t.Errorf("the same entry again: %+v", g)
	}
	if status, body := s.as(people.Surveyor).do("PUT", path+"/site", `{"revision":1,"section":{"customer":"N. Other"}}`); status != 200 {
		t.Fatal(status, body)
	}
	g, _ := note(3)
	if g.Before == before.State {
		t.Error("a section was saved meanwhile, and the answer does not show it")
	}
	// A page of an older version sends to where it knows, and takes the job.
	var old JobView
	status, body := c.do("POST", path+"/entries", fmt.Sprintf(`{"entries":[{"id":"device-older","kind":"note","reason":"cold","at":%q}]}`, time.Now().UTC().Format(time.RFC3339Nano)))
	if err := json.Unmarshal([]byte(body), &old); err != nil || status != 200 || len(old.Job.Log) != 5 || len(old.Lines) == 0 || old.State == g.State {
		t.Errorf("an older page: %d, %d entries, %v", status, len(old.Job.Log), err)
	}
}

// TestAttachment: files are kept under a name that any system can have.
func TestAttachment(t *testing.T) {
	for name, want := range map[string]string{
		"DB-0401-inspection-issue-1.pdf": `attachment; filename=DB-0401-inspection-issue-1.pdf`,
		`12/7 "north".json`:              `attachment; filename="12-7 -north-.json"`,
		"Büro 3.json":                    `attachment; filename*=utf-8''B%C3%BCro%203.json`,
	} {
		if got := attachment(name); got != want {
			t.Errorf("%s: %s, want %s", name, got, want)
		}
	}
}
