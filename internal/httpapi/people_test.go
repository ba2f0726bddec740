package httpapi

import (
	"cmp"
	"encoding/json"
	"fmt"
	"net/http"
	"strings"
	"testing"

	"dogbolt/core/job"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/testkit/ruletest"
)

// signedIn reports whether a client has a session.
func (c *client) signedIn() bool {
	status, _ := c.do("GET", "/api/session", "")
	return status == http.StatusOK
}

// TestSessionsEnd: a new password, signing out everywhere and a closed account end sessions,
// and the one that asked goes on.
func TestSessionsEnd(t *testing.T) {
	s := newSite(t, Options{})
	here, there, office := s.as(people.Installer), s.as(people.Installer), s.as(people.Office)
	var list []Session
	_, body := here.do("GET", "/api/session/all", "")
	if err := json.Unmarshal([]byte(body), &list); err != nil || len(list) != 2 || list[0].Here == list[1].Here || list[0].Agent == "" {
		t.Fatalf("%v %s", err, body)
	}
	change := fmt.Sprintf(`{"old":%q,"password":"another good phrase"}`, password)
	if status, body := here.do("PUT", "/api/session/password", change); status != 200 {
		t.Fatalf("%d %s", status, body)
	}
	if !here.signedIn() || there.signedIn() {
		t.Errorf("after a new password: here %t, there %t", here.signedIn(), there.signedIn())
	}
	back := fmt.Sprintf(`{"old":"another good phrase","password":%q}`, password)
	if status, body := here.do("PUT", "/api/session/password", back); status != 200 {
		t.Fatalf("%d %s", status, body)
	}
	there = s.as(people.Installer)
	if status, body := here.do("DELETE", "/api/session/all", ""); status != 200 || !here.signedIn() || there.signedIn() {
		t.Errorf("signed out everywhere: %d %s, here %t, there %t", status, body, here.signedIn(), there.signedIn())
	}
	var me Me
	_, body = here.do("GET", "/api/session", "")
	if err := json.Unmarshal([]byte(body), &me); err != nil {
		t.Fatal(err)
	}
	for _, disabled := range []bool{true, false} {
		if status, body := office.do("PUT", "/api/users/"+me.ID+"/disabled", fmt.Sprintf(`{"disabled":%t}`, disabled)); status != 204 {
			t.Fatalf("%d %s", status, body)
		}
		if here.signedIn() {
			t.Errorf("signed in, and the account was closed (closed now: %t)", disabled)
		}
		// A device that has no session any more learns why.
		if said := s.visitor().send("GET", "/api/session", "", PersonHeader, me.ID).Header.Get(AccountHeader); (said == "closed") != disabled {
			t.Errorf("closed %t, and the device hears %q", disabled, said)
		}
	}
}

// TestLinkOverHTTP: the office adds a person and never knows the password.
func TestLinkOverHTTP(t *testing.T) {
	s := newSite(t, Options{})
	office, mate := s.as(people.Office), s.visitor()
	status, body := office.do("POST", "/api/users", `{"username":"new","name":"T. Brandt","roles":["surveyor","installer"]}`)
	var u User
	if err := json.Unmarshal([]byte(body), &u); err != nil || status != 200 || u.Link == "" || !u.Waits {
		t.Fatalf("%d %v %s", status, err, body)
	}
	if status, body := mate.do("POST", "/api/link/whose", fmt.Sprintf(`{"token":%q}`, u.Link)); status != 200 || body == "" {
		t.Errorf("%d %s", status, body)
	}
	use := fmt.Sprintf(`{"token":%q,"password":"another good phrase"}`, u.Link)
	if status, body := mate.do("POST", "/api/link", use); status != 200 || !mate.signedIn() {
		t.Errorf("%d %s", status, body)
	}
	if status, _ := s.visitor().do("POST", "/api/link", use); status != 403 {
		t.Errorf("a second time: %d", status)
	}
	for _, who := range []string{"new", "nobody"} {
		if status, body := s.visitor().do("POST", "/api/link/mail", fmt.Sprintf(`{"username":%q}`, who)); status != 204 || body != "" {
			t.Errorf("%s asks for a link: %d %s", who, status, body)
		}
	}
}

// TestWhoseAddress: sign-ins are counted by the peer, and by a header only where the firm
// named it; then by what the proxy added last.
func TestWhoseAddress(t *testing.T) {
	wrong := `{"username":"office","password":"a wrong password"}`
	for _, c := range []struct {
		header string
		vary   func(i int) string
		want   int
	}{
		{"", func(i int) string { return fmt.Sprintf("10.0.0.%d", i) }, 429},
		{"X-Forwarded-For", func(i int) string { return fmt.Sprintf("10.0.0.%d", i) }, 401},
		{"X-Forwarded-For", func(i int) string { return fmt.Sprintf("10.0.0.%d, 192.0.2.1", i) }, 429},
	} {
		s := newSite(t, Options{SignInsPerMinute: 3, AddressHeader: c.header})
		last := 0
		for i := range 4 {
			last, _ = s.visitor().do("POST", "/api/session", wrong, "X-Forwarded-For", c.vary(i))
		}
		if last != c.want {
			t.Errorf("header %q, %s: %d, want %d", c.header, c.vary(0), last, c.want)
		}
	}
}

// TestWaitIsSaid: who must wait is told for how long.
func TestWaitIsSaid(t *testing.T) {
	s := newSite(t, Options{})
	for range 6 {
		res := s.visitor().send("POST", "/api/session", `{"username":"office","password":"a wrong password"}`)
		if res.StatusCode == http.StatusTooManyRequests && res.Header.Get("Retry-After") != "" {
			return
		}
	}
	t.Error("six failures, and no wait")
}

// TestWhoSeesWhat: every operation about a job × role × relation: whoever is booked for it,
// and whoever is not. Crews see their own; the others, and all where the firm opens it up,
// see every one.
func TestWhoSeesWhat(t *testing.T) {
	s := newSite(t, Options{})
	own, other := s.bookedFor("The installer"), s.imported("us-fail.json")
	number := s.wanting()
	office := s.as(people.Office)
	if status, body := office.do("PUT", "/api/firm/resources", `{"crews":[{"id":"north","name":"North","people":["The installer"],"van":"van 1","books":["bs7671","nec"],"base":"Quillmouth","off":[]}],"instruments":[],"registrations":[],"travel":[],"hours":{"from":"08:00","to":"17:00"},"reelMargin":2,"zones":{"uk":"Europe/London","us":"America/Phoenix"}}`); status != 204 {
		t.Fatalf("%d %s", status, body)
	}
	_, body := office.do("GET", "/api/firm/policy", "")
	for _, open := range []bool{false, true} {
		if open {
			if status, said := office.do("PUT", "/api/firm/policy", `{"openJobs":true,`+body[1:]); status != 204 {
				t.Fatalf("%d %s", status, said)
			}
		}
		for _, r := range people.AllRoles {
			c := s.as(r)
			for _, id := range []string{own, other} {
				sees := r != people.Installer || id == own || open
				for _, o := range operations {
					// What writes is tried by who does not see the job: it is not there for them.
					if !strings.Contains(o.path, "/JOB") || o.method != "GET" && sees {
						continue
					}
					kind := cmp.Or(o.kind, "application/json")
					status, said := c.do(o.method, strings.ReplaceAll(o.path, "JOB", id), o.body, "Content-Type", kind)
					if hidden := strings.Contains(said, "you are not booked for it"); hidden == sees || hidden && status != 404 {
						t.Errorf("%s by %s, open %t, own %t: %d %.120s", o.id, r, open, id == own, status, said)
					}
				}
				_, list := c.do("GET", "/api/jobs", "")
				if strings.Contains(list, id) != sees {
					t.Errorf("the list of %s, open %t, own %t: %.200s", r, open, id == own, list)
				}
			}
			_, days := c.do("GET", "/api/days?from="+bookedDay, "")
			if !strings.Contains(days, own) {
				t.Errorf("the days of %s: %.200s", r, days)
			}
			if waits := strings.Contains(days, `"waiting":[{`); waits && r == people.Installer && !open {
				t.Errorf("an installer sees what waits for a day: %.200s", days)
			}
			for _, path := range []string{"/api/orders", "/api/orders/export/csv"} {
				_, orders := c.do("GET", path, "")
				if sees := r != people.Installer || open; strings.Contains(orders, number) != sees || !strings.Contains(orders, "charger") {
					t.Errorf("%s of %s, open %t: %.400s", path, r, open, orders)
				}
			}
		}
	}
}

// wanting makes a job that waits for a day and lacks its parts, and returns its number.
func (s *site) wanting() string {
	return s.like(func(j *job.Job) { j.Plan = job.Plan{Parts: []job.Part{{Name: "charger, wall, 7.4 kW", Quantity: 1}}} }).Number
}

// bookedDay is a day that is never past.
const bookedDay = "2099-03-09"

// bookedFor makes a job that a person goes to, and returns its id.
func (s *site) bookedFor(name string) string {
	return s.like(func(j *job.Job) { j.Plan.Day, j.Plan.Crew, j.Plan.Team = bookedDay, []string{name}, "north" }).ID
}

// like makes a job of an example, without its log, but for a change.
func (s *site) like(change func(*job.Job)) jobs.Summary {
	s.t.Helper()
	j := ruletest.Example(s.t, "../../docs/formats/examples/uk-pass.json")
	j.Number, j.Log = "", nil
	change(&j)
	v, err := s.rooms.Jobs.Put(ctx, people.Person{Name: "A. Nakagawa", Roles: people.Roles{people.Verifier}}, j)
	if err != nil {
		s.t.Fatal(err)
	}
	return v.Summary
}

// TestOwnCalendars: each person's addresses are their own, can be taken back, and are dead
// when the account is closed; a crew sees its own calendar alone.
func TestOwnCalendars(t *testing.T) {
	s := newSite(t, Options{})
	office, mate := s.as(people.Office), s.as(people.Installer)
	if status, body := office.do("PUT", "/api/firm/resources", `{"crews":[{"id":"north","name":"North","people":["The installer"],"van":"van 1","books":["bs7671","nec"],"base":"Quillmouth","off":[]},{"id":"south","name":"South","people":["Somebody else"],"van":"van 1","books":["bs7671","nec"],"base":"Quillmouth","off":[]}],"instruments":[],"registrations":[],"travel":[],"hours":{"from":"08:00","to":"17:00"},"reelMargin":2,"zones":{"uk":"Europe/London","us":"America/Phoenix"}}`); status != 204 {
		t.Fatalf("%d %s", status, body)
	}
	path := func(c *client, method string) string {
		var f struct{ Path string }
		_, body := c.do(method, "/api/feeds", "")
		if err := json.Unmarshal([]byte(body), &f); err != nil || f.Path == "" {
			t.Fatalf("%v %s", err, body)
		}
		return f.Path
	}
	reads := func(address string) int { status, _ := s.visitor().do("GET", address, ""); return status }
	boss, own := path(office, "GET"), path(mate, "GET")
	if boss == own {
		t.Fatal("two people have one address")
	}
	for address, want := range map[string]int{
		boss + "deadlines.ics": 200, boss + "crew-south.ics": 200,
		own + "crew-north.ics": 200, own + "crew-south.ics": 404, own + "deadlines.ics": 404,
	} {
		if got := reads(address); got != want {
			t.Errorf("%s: %d, want %d", address, got, want)
		}
	}
	anew := path(mate, "POST")
	if reads(own+"crew-north.ics") != 404 || reads(anew+"crew-north.ics") != 200 || path(mate, "GET") != anew {
		t.Error("an address that was taken back is read")
	}
	var me Me
	_, body := mate.do("GET", "/api/session", "")
	if err := json.Unmarshal([]byte(body), &me); err != nil {
		t.Fatal(err)
	}
	if status, _ := office.do("PUT", "/api/users/"+me.ID+"/disabled", `{"disabled":true}`); status != 204 || reads(anew+"crew-north.ics") != 404 {
		t.Error("the address of a closed account is read")
	}
}
