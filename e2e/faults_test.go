//go:build e2e

package e2e

import (
	"io"
	"maps"
	"net"
	"net/http"
	"net/http/httptest"
	"net/http/httputil"
	"net/url"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"
)

// fault is what a bad network does with one request.
type fault string

// What a bad network does.
const (
	passes    fault = ""
	delays    fault = "delays"             // the answer comes late
	refuses   fault = "refuses"            // nobody answers the call
	loses     fault = "loses the answer"   // the server did it, and the device never hears
	cutsBody  fault = "cuts the body"      // half an answer
	stalls    fault = "stalls"             // never an answer, and no end
	lags      fault = "lags"               // the answer as it was then, when others have come
	busyNow   fault = "503"                // a proxy in between
	tooMany   fault = "429"                // and another one
	timedOut  fault = "408"                // and another one
	wrongPage fault = "a page of a portal" // of a network that wants to be signed in to

	refusesForGood fault = "422" // what the program would say of a time that cannot be
)

// faults is a network between pages and the program that misbehaves as a test says.
type faults struct {
	base string

	mu      sync.Mutex
	choose  func(*http.Request) fault
	counts  map[fault]int
	proxy   *httputil.ReverseProxy
	stop    chan struct{} // ends what stalls at the test's end
	release func()        // ends what stalls now
	stalled chan struct{}
	delay   time.Duration
	harness http.Handler // serves the queue without pages
	wrap    func(http.ResponseWriter, *http.Request) http.ResponseWriter
	newer   atomic.Bool // a newer version of the pages is on the server
}

// behindFaults puts such a network in front of a program.
func behindFaults(t testing.TB, target string) *faults {
	t.Helper()
	return behindFaultsAt(t, target, "127.0.0.1:0")
}

// behindFaultsAt is behindFaults at an address.
func behindFaultsAt(t testing.TB, target, address string) *faults {
	t.Helper()
	to, err := url.Parse(target)
	if err != nil {
		t.Fatal(err)
	}
	f := &faults{counts: map[fault]int{}, stop: make(chan struct{}), delay: 300 * time.Millisecond}
	f.proxy = &httputil.ReverseProxy{
		Rewrite: func(r *httputil.ProxyRequest) {
			r.SetURL(to)
			r.Out.Host = r.In.Host // the program looks where a request comes from
		},
		ErrorHandler: func(http.ResponseWriter, *http.Request, error) { panic(http.ErrAbortHandler) },
	}
	f.stalled = make(chan struct{})
	f.release = func() {
		f.mu.Lock()
		defer f.mu.Unlock()
		close(f.stalled)
		f.stalled = make(chan struct{})
	}
	at, err := net.Listen("tcp", address)
	if err != nil {
		t.Fatal(err)
	}
	server := &httptest.Server{Listener: at, Config: &http.Server{Handler: f}}
	server.Start()
	f.base = server.URL
	t.Cleanup(func() {
		close(f.stop)
		server.CloseClientConnections()
		server.Close()
	})
	return f
}

// set says what becomes of requests from now on; nil lets all pass.
func (f *faults) set(choose func(*http.Request) fault) {
	f.mu.Lock()
	defer f.mu.Unlock()
	f.choose = choose
}

// hold keeps a request until a channel is closed, or the test ends.
func (f *faults) hold(until chan struct{}) {
	select {
	case <-until:
	case <-f.stop:
	}
}

// count is how many requests met a fault.
func (f *faults) count(of fault) int {
	f.mu.Lock()
	defer f.mu.Unlock()
	return f.counts[of]
}

func (f *faults) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	if f.wrap != nil {
		w = f.wrap(w, r)
	}
	if f.newer.Load() && r.URL.Path == "/sw.js" {
		// A version that was put on the server since.
		rec := httptest.NewRecorder()
		r.Header.Del("If-None-Match")
		r.Header.Del("Accept-Encoding")
		f.proxy.ServeHTTP(rec, r)
		w.Header().Set("Content-Type", "text/javascript")
		io.WriteString(w, rec.Body.String()+"\n// newer\n")
		return
	}
	if f.harness != nil && strings.HasPrefix(r.URL.Path, "/harness") {
		f.harness.ServeHTTP(w, r)
		return
	}
	f.mu.Lock()
	choose, stalled := f.choose, f.stalled
	f.mu.Unlock()
	what := passes
	if choose != nil {
		what = choose(r)
	}
	f.mu.Lock()
	f.counts[what]++
	f.mu.Unlock()
	switch what {
	case refuses:
		panic(http.ErrAbortHandler)
	case loses:
		f.proxy.ServeHTTP(httptest.NewRecorder(), r)
		panic(http.ErrAbortHandler)
	case stalls:
		io.Copy(io.Discard, r.Body)
		select {
		case <-f.stop:
		case <-stalled:
		case <-r.Context().Done():
		}
		panic(http.ErrAbortHandler)
	case lags:
		rec := httptest.NewRecorder()
		f.proxy.ServeHTTP(rec, r)
		f.hold(stalled)
		maps.Copy(w.Header(), rec.Header())
		w.WriteHeader(rec.Code)
		w.Write(rec.Body.Bytes())
	case cutsBody:
		rec := httptest.NewRecorder()
		f.proxy.ServeHTTP(rec, r)
		maps.Copy(w.Header(), rec.Header())
		w.Header().Set("Content-Length", "1000000")
		w.WriteHeader(rec.Code)
		w.Write(rec.Body.Bytes()[:rec.Body.Len()/2])
		panic(http.ErrAbortHandler)
	case busyNow, tooMany, timedOut:
		io.Copy(io.Discard, r.Body)
		http.Error(w, "not now", map[fault]int{busyNow: 503, tooMany: 429, timedOut: 408}[what])
	case wrongPage:
		io.Copy(io.Discard, r.Body)
		w.Header().Set("Content-Type", "text/html")
		io.WriteString(w, "<h1>Sign in to this network</h1>")
	case refusesForGood:
		io.Copy(io.Discard, r.Body)
		w.Header().Set("Content-Type", "application/problem+json")
		w.WriteHeader(http.StatusUnprocessableEntity)
		io.WriteString(w, `{"status":422,"detail":"validation failed","errors":[{"location":"entries[0].at","message":"says 08:00, but the device was in contact at 09:00: enter it anew"}]}`)
	case delays:
		time.Sleep(f.delay)
		fallthrough
	default:
		f.proxy.ServeHTTP(w, r)
	}
}

// writes reports whether a request brings what a person entered.
func writes(r *http.Request) bool { return r.Method != http.MethodGet && r.URL.Path != "/api/session" }
