package httpapi

import (
	"crypto/tls"
	"fmt"
	"net/http"
	"net/http/httptest"
	"net/netip"
	"strings"
	"testing"
)

// TestTrustedProxy: what is said about who asks, and how they came, counts where a trusted
// proxy says it, and then as far as the proxies before it are trusted too.
func TestTrustedProxy(t *testing.T) {
	trusted := []netip.Prefix{netip.MustParsePrefix("192.0.2.0/28"), netip.MustParsePrefix("::1/128")}
	for _, c := range []struct {
		peer, way, proto string
		client           string
		tls              bool
	}{
		{"192.0.2.1:4000", "203.0.113.9", "https", "203.0.113.9", true},
		{"192.0.2.1:4000", "203.0.113.9, 192.0.2.2", "https", "203.0.113.9", true},
		{"192.0.2.1:4000", "198.51.100.1, 203.0.113.9", "https", "203.0.113.9", true}, // the first is anybody's word
		{"[::1]:4000", "203.0.113.9", "http", "203.0.113.9", false},
		{"[::ffff:192.0.2.1]:4000", "203.0.113.9", "https", "203.0.113.9", true},
		{"192.0.2.1:4000", "203.0.113.9", "https, http", "203.0.113.9", false},
		{"192.0.2.1:4000", "", "", "192.0.2.1", false},
		{"192.0.2.16:4000", "203.0.113.9", "https", "192.0.2.16", false}, // outside of the network
		{"198.51.100.7:4000", "203.0.113.9", "https", "198.51.100.7", false},
	} {
		r := httptest.NewRequest("GET", "/", nil)
		r.RemoteAddr = c.peer
		if c.way != "" {
			r.Header.Set("X-Forwarded-For", c.way)
		}
		if c.proto != "" {
			r.Header.Set("X-Forwarded-Proto", c.proto)
		}
		forwarded(trusted)(http.HandlerFunc(func(_ http.ResponseWriter, r *http.Request) {
			if got := clientAddress("")(r); got != c.client || byTLS(r) != c.tls {
				t.Errorf("%+v: %s, TLS %t", c, got, byTLS(r))
			}
		})).ServeHTTP(httptest.NewRecorder(), r)
	}
	r := httptest.NewRequest("GET", "/", nil)
	r.Header.Set("X-Forwarded-For", "203.0.113.9")
	r.Header.Set("X-Forwarded-Proto", "https")
	forwarded(nil)(http.HandlerFunc(func(_ http.ResponseWriter, r *http.Request) {
		if byTLS(r) || clientAddress("")(r) != "192.0.2.1" {
			t.Error("without a trusted proxy somebody's word counts")
		}
	})).ServeHTTP(httptest.NewRecorder(), r)
}

// TestUnderAFolder: the program under a folder of a host: pages, files, operations, and the
// cookie are within it, and nothing is beside it.
func TestUnderAFolder(t *testing.T) {
	s := newSite(t, Options{BasePath: "/firm/dogbolt"})
	v := s.visitor()
	v.http.CheckRedirect = func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }
	for path, want := range map[string]int{
		"/": 404, "/jobs": 404, "/api/session": 404, "/firm/dogbolted": 404, "/firm/dogbolt": 308, "/firm/dogbolt/": 200, "/firm/dogbolt/jobs/x": 200,
		"/firm/dogbolt/healthz": 200, "/firm/dogbolt/api/openapi.json": 200, "/firm/dogbolt/api/docs": 200, "/firm/dogbolt/assets/gone-1.js": 404,
	} {
		if res := v.send("GET", path, ""); res.StatusCode != want {
			t.Errorf("%s: %d, want %d", path, res.StatusCode, want)
		}
	}
	res := v.send("POST", "/firm/dogbolt/api/session", fmt.Sprintf(`{"username":"verifier","password":%q}`, password))
	if c := res.Header.Get("Set-Cookie"); res.StatusCode != 200 || !strings.Contains(c, "Path=/firm/dogbolt/;") {
		t.Errorf("%d, cookie %q", res.StatusCode, c)
	}
	if status, body := v.do("GET", "/firm/dogbolt/api/jobs", ""); status != 200 {
		t.Errorf("the list: %d %s", status, body)
	}
	r := httptest.NewRequest("POST", "/firm/dogbolt/api/session", strings.NewReader(fmt.Sprintf(`{"username":"verifier","password":%q}`, password)))
	r.Header.Set("Content-Type", "application/json")
	r.TLS = &tls.ConnectionState{}
	w := httptest.NewRecorder()
	newSite(t, Options{BasePath: "/firm/dogbolt", TLS: true}).handler.ServeHTTP(w, r)
	if c := w.Header().Get("Set-Cookie"); !strings.HasPrefix(c, "__Secure-dogbolt=") || !strings.Contains(c, "Path=/firm/dogbolt/;") || !strings.Contains(c, "Secure") {
		t.Errorf("with TLS: %d, cookie %q", w.Code, c)
	}
}
