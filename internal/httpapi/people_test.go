package httpapi

import (
	"encoding/json"
	"fmt"
	"net/http"
	"testing"

	"dogbolt/internal/rooms/people"
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
