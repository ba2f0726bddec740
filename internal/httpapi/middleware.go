package httpapi

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"strings"
	"time"

	"github.com/go-chi/chi/v5/middleware"
	"github.com/klauspost/compress/gzhttp"
	"github.com/klauspost/compress/gzhttp/writer"
	"github.com/klauspost/compress/gzhttp/writer/gzkp"
	"golang.org/x/text/unicode/norm"
)

// csp lets pages load only what the program ships. Styles may be set inline,
// because Vuetify writes its theme into the page; scripts never. The rules for
// work without signal are WebAssembly, which has to be allowed by name.
const csp = "default-src 'none'; script-src 'self' 'wasm-unsafe-eval'; style-src 'self'; style-src-attr 'unsafe-inline'; img-src 'self' data: blob:; font-src 'self'; connect-src 'self'; manifest-src 'self'; worker-src 'self'; base-uri 'self'; form-action 'self'; frame-ancestors 'none'"

// hsts asks browsers to come by TLS alone for two years (RFC 6797).
const hsts = "max-age=63072000"

func securityHeaders(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		h := w.Header()
		if byTLS(r) {
			h.Set("Strict-Transport-Security", hsts)
		}
		if strings.HasPrefix(r.URL.Path, "/api/") {
			h.Set("Cache-Control", "no-store") // but for what says otherwise
		}
		h.Set("Content-Security-Policy", csp)
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "same-origin")
		h.Set("Cross-Origin-Opener-Policy", "same-origin")
		next.ServeHTTP(w, r)
	})
}

// longestID is the longest name of a request that is taken from outside, characters.
const longestID = 64

// ownRequestID drops a request's name from outside that would fill the log, or write
// lines of its own into it.
func ownRequestID(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		id := r.Header.Get(middleware.RequestIDHeader)
		if len(id) > longestID || strings.ContainsFunc(id, func(c rune) bool { return c <= ' ' || c > '~' }) {
			r.Header.Del(middleware.RequestIDHeader)
		}
		next.ServeHTTP(w, r)
	})
}

// crossOrigin refuses changes that another site's page asks for.
func crossOrigin(next http.Handler) http.Handler {
	p := http.NewCrossOriginProtection()
	p.SetDenyHandler(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
		problem(w, http.StatusForbidden, "this request comes from another site")
	}))
	return p.Handler(next)
}

// limitBody refuses bodies that are larger than any operation takes.
func limitBody(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.ContentLength > maxBody {
			w.Header().Set("Connection", "close")
			problem(w, http.StatusRequestEntityTooLarge, fmt.Sprintf("the upload has %d MB; at most %d MB are taken", r.ContentLength>>20, maxBody>>20))
			return
		}
		r.Body = http.MaxBytesReader(w, r.Body, maxBody)
		next.ServeHTTP(w, r)
	})
}

// composed brings text that is entered into one form (Unicode's NFC): é is one character,
// whichever keyboard it came from, so that the same word is found and compared as the same.
func composed(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if strings.HasPrefix(r.Header.Get("Content-Type"), "application/json") {
			r.Body = readCloser{norm.NFC.Reader(r.Body), r.Body}
		}
		next.ServeHTTP(w, r)
	})
}

type readCloser struct {
	io.Reader
	io.Closer
}

// onePacket is what an answer may have and still leave in one packet: making it smaller only
// takes time. Bytes; Ethernet's 1,500 less the headers.
const onePacket = 1400

// compress makes answers smaller for browsers that take it, files that are compressed
// already left as they are.
var compress = func() func(http.Handler) http.Handler {
	wrap, err := gzhttp.NewWrapper(gzhttp.MinSize(onePacket), gzhttp.CompressionLevel(6), gzhttp.EnableZstd(false),
		gzhttp.Implementation(writer.GzipWriterFactory{Levels: gzkp.Levels, New: newPacker}),
		gzhttp.ContentTypes([]string{"application/json", "application/problem+json", "text/csv", "text/calendar", "image/svg+xml"}))
	if err != nil {
		panic(err) // the options are constants
	}
	return func(next http.Handler) http.Handler { return wrap(next) }
}()

// tagged answers 304 where a page asks again for what it has: an open job that nobody
// changed is not sent every time that it is looked at. Only JSON is held back to be
// compared, files are passed on as they come.
func tagged(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.Method != http.MethodGet {
			next.ServeHTTP(w, r)
			return
		}
		t := &tagger{ResponseWriter: w}
		next.ServeHTTP(t, r)
		t.finish(r.Header.Get("If-None-Match"))
	})
}

// tagger holds a JSON answer back until it is whole.
type tagger struct {
	http.ResponseWriter
	status int
	held   bool
	body   bytes.Buffer
}

// WriteHeader decides what is held back.
func (t *tagger) WriteHeader(status int) {
	if t.status != 0 {
		return
	}
	t.status = status
	if t.held = status == http.StatusOK && t.Header().Get("Content-Type") == "application/json"; !t.held {
		t.ResponseWriter.WriteHeader(status)
	}
}

func (t *tagger) Write(b []byte) (int, error) {
	t.WriteHeader(http.StatusOK)
	if t.held {
		return t.body.Write(b)
	}
	return t.ResponseWriter.Write(b)
}

// finish sends what was held back, or that it is what the page has.
func (t *tagger) finish(has string) {
	if !t.held {
		return
	}
	tag := t.Header().Get("ETag")
	if tag == "" {
		sum := sha256.Sum256(t.body.Bytes())
		tag = `W/"` + hex.EncodeToString(sum[:12]) + `"`
		t.Header().Set("ETag", tag)
	}
	t.Header().Set("Cache-Control", "private, no-cache")
	t.Header().Add("Vary", "Cookie")
	if has == tag {
		t.ResponseWriter.WriteHeader(http.StatusNotModified)
		return
	}
	t.ResponseWriter.WriteHeader(http.StatusOK)
	t.ResponseWriter.Write(t.body.Bytes())
}

// problem writes an error in the form of the operations' own errors (RFC 9457).
func problem(w http.ResponseWriter, status int, detail string) {
	w.Header().Set("Content-Type", "application/problem+json")
	w.WriteHeader(status)
	json.NewEncoder(w).Encode(map[string]any{"title": http.StatusText(status), "status": status, "detail": detail})
}

func (s *server) logRequests(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		ww := middleware.NewWrapResponseWriter(w, r.ProtoMajor)
		start := time.Now()
		next.ServeHTTP(ww, r)
		path := r.URL.Path
		if strings.HasPrefix(path, "/feeds/") {
			path = "/feeds/…" // the address of a calendar is its secret
		}
		s.log.InfoContext(r.Context(), "request", "method", r.Method, "path", path, "status", ww.Status(),
			"bytes", ww.BytesWritten(), "took", time.Since(start), "id", middleware.GetReqID(r.Context()))
	})
}

func indent(b []byte) []byte {
	var out bytes.Buffer
	if err := json.Indent(&out, b, "", "  "); err != nil {
		return b
	}
	out.WriteByte('\n')
	return out.Bytes()
}
