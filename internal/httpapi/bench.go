package httpapi

import (
	"net/http"
	"strconv"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"

	"dogbolt/internal/app"
	"dogbolt/internal/standin"
)

// streams are the stand-ins that pages and programs talk to over a WebSocket
// (docs/formats/bench.md).
func (s *server) streams(r chi.Router) {
	r.Get("/api/jobs/{job}/points/{point}/tester", s.stream(func(w http.ResponseWriter, r *http.Request, p app.Person) error {
		seed, _ := strconv.ParseUint(r.URL.Query().Get("seed"), 10, 64) // left out: 0
		t, unit, err := s.app.Tester(r.Context(), p, chi.URLParam(r, "job"), chi.URLParam(r, "point"), fault(r), seed)
		if err == nil {
			standin.ServeTester(w, r, t, unit)
		}
		return err
	}))
	r.Get("/api/jobs/{job}/points/{point}/bench", s.stream(func(w http.ResponseWriter, r *http.Request, p app.Person) error {
		b, err := s.app.Bench(r.Context(), p, chi.URLParam(r, "job"), chi.URLParam(r, "point"), fault(r))
		if err == nil {
			standin.ServeBench(w, r, b)
		}
		return err
	}))
}

func fault(r *http.Request) string {
	if f := r.URL.Query().Get("fault"); f != "" {
		return f
	}
	return string(standin.NoFault)
}

// stream wraps a WebSocket of a signed-in person: what goes wrong before it opens
// is an answer as of any operation.
func (s *server) stream(f func(http.ResponseWriter, *http.Request, app.Person) error) http.HandlerFunc {
	return func(w http.ResponseWriter, r *http.Request) {
		p, err := signedIn(r.Context())
		if err == nil {
			err = answer(r.Context(), f(w, r, p))
		}
		if e, ok := err.(huma.StatusError); ok {
			problem(w, e.GetStatus(), e.Error())
		}
	}
}
