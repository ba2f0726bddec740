package httpapi

import (
	"errors"
	"net/http"
	"strconv"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"

	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/schema"
	"dogbolt/internal/rooms/jobs"
)

// Instruments are a test instrument and a charger with a vehicle, on a point of a job,
// as streams (docs/formats/bench.md). An error comes before the stream begins.
type Instruments interface {
	Tester(w http.ResponseWriter, r *http.Request, j *job.Job, in *jurisdiction.Jurisdiction, p job.Point, fault string, seed uint64) error
	Charger(w http.ResponseWriter, r *http.Request, j *job.Job, p job.Point, fault string) error
}

// streams are what pages and programs talk to over a WebSocket.
func (s *server) streams(r chi.Router) {
	r.Get("/api/jobs/{job}/points/{point}/tester", s.stream(func(w http.ResponseWriter, r *http.Request, v *jobs.View, p job.Point) error {
		seed, _ := strconv.ParseUint(r.URL.Query().Get("seed"), 10, 64) // left out: 0
		return s.instruments.Tester(w, r, &v.Job, v.Book.In, p, r.URL.Query().Get("fault"), seed)
	}))
	r.Get("/api/jobs/{job}/points/{point}/bench", s.stream(func(w http.ResponseWriter, r *http.Request, v *jobs.View, p job.Point) error {
		return s.instruments.Charger(w, r, &v.Job, p, r.URL.Query().Get("fault"))
	}))
}

// stream wraps a WebSocket of a signed-in person on a point of a job: what goes
// wrong before it opens is an answer as of any operation.
func (s *server) stream(f func(http.ResponseWriter, *http.Request, *jobs.View, job.Point) error) http.HandlerFunc {
	return func(w http.ResponseWriter, r *http.Request) {
		err := func() error {
			by, err := signedIn(r.Context())
			if err != nil {
				return err
			}
			v, p, err := s.rooms.Jobs.Point(r.Context(), by, chi.URLParam(r, "job"), chi.URLParam(r, "point"))
			if err != nil {
				return answer(r.Context(), err)
			}
			if err := f(w, r, &v, p); err != nil {
				return answer(r.Context(), schema.Invalid("fault", "%v", err))
			}
			return nil
		}()
		var e huma.StatusError
		if errors.As(err, &e) {
			problem(w, e.GetStatus(), e.Error())
		}
	}
}
