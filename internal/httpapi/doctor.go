package httpapi

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"dogbolt/internal/rooms/doctor"
	"dogbolt/internal/rooms/people"
)

// Health is what the doctor found last, and the keys that the firm seals and sealed with.
type Health struct {
	Looked bool            `json:"looked" doc:"Has the doctor looked since the program began?"`
	At     time.Time       `json:"at,omitempty,omitzero"`
	Jobs   int             `json:"jobs"`
	Faults []doctor.Damage `json:"faults" doc:"What is not as it was written; empty where all is."`
	Keys   []KeyLine       `json:"keys"`
}

// KeyLine is a line of the register of keys.
type KeyLine struct {
	Fingerprint string    `json:"fingerprint"`
	Since       time.Time `json:"since"`
	By          string    `json:"by"`
	Why         string    `json:"why"`
}

func (s *server) doctorRoutes(api huma.API) {
	type healthOutput struct{ Body Health }
	health := func(ctx context.Context, p people.Person) (*healthOutput, error) {
		r, ok, err := s.rooms.Doctor.Last(p)
		if err != nil {
			return nil, err
		}
		out := &healthOutput{Health{Looked: ok, At: r.At, Jobs: r.Jobs, Faults: append([]doctor.Damage{}, r.Faults...), Keys: []KeyLine{}}}
		list, err := s.rooms.Firm.Keys(ctx)
		for _, k := range list {
			out.Body.Keys = append(out.Body.Keys, KeyLine{k.Fingerprint, k.Since, k.By, k.Why})
		}
		return out, err
	}
	huma.Register(
		api,
		op(http.MethodGet, "/api/doctor", "get-health", "What the doctor found last"),
		as(func(ctx context.Context, p people.Person, _ *struct{}) (*healthOutput, error) { return health(ctx, p) }),
	)
	huma.Register(
		api,
		op(http.MethodPost, "/api/doctor", "look", "Have the doctor look now"),
		as(func(ctx context.Context, p people.Person, _ *struct{}) (*healthOutput, error) {
			if err := people.May(p, people.ViewAudit); err != nil {
				return nil, err
			}
			if _, err := s.rooms.Doctor.Look(ctx); err != nil {
				return nil, err
			}
			return health(ctx, p)
		}),
	)
}
