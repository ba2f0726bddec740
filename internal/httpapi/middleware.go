package httpapi

import (
	"bytes"
	"encoding/json"
	"fmt"
	"net/http"
	"strings"
	"time"

	"github.com/go-chi/chi/v5/middleware"
)

// csp lets pages load only what the program ships. Styles may be set inline,
// because Vuetify writes its theme into the page; scripts never. The rules for
// work without signal are WebAssembly, which has to be allowed by name.
const csp = "default-src 'none'; script-src 'self' 'wasm-unsafe-eval'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; font-src 'self'; connect-src 'self'; manifest-src 'self'; worker-src 'self'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'"

func securityHeaders(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		h := w.Header()
		h.Set("Content-Security-Policy", csp)
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "same-origin")
		h.Set("Cross-Origin-Opener-Policy", "same-origin")
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
