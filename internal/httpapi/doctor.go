package httpapi

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"dogbolt/internal/rooms"
	"dogbolt/internal/rooms/doctor"
	"dogbolt/internal/rooms/firm"
	"dogbolt/internal/rooms/people"
)

// Health is what the doctor found last, and the keys that the firm seals and sealed with.
type Health struct {
	Looked bool            `json:"looked" doc:"Has the doctor looked since the program began?"`
	At     time.Time       `json:"at,omitempty,omitzero"`
	Jobs   int             `json:"jobs"`
	Faults []doctor.Damage `json:"faults" doc:"What is not as it was written; empty where all is."`
	Keys   []KeyLine       `json:"keys"`

	Proposed *firm.KeyProposal `json:"proposed,omitempty" doc:"A new key that one person asked for; left out where nobody did."`
	Replica  *rooms.Replica    `json:"replica,omitempty" doc:"How the replica stands; left out where none is kept."`
}

// KeyLine is a line of the register of keys.
type KeyLine struct {
	Fingerprint string    `json:"fingerprint"`
	Since       time.Time `json:"since"`
	By          string    `json:"by"`
	Why         string    `json:"why"`
}

// replica is how the replica stands; nil where none is kept.
func (s *server) replica() *rooms.Replica {
	if s.rooms.Replica == nil {
		return nil
	}
	r := s.rooms.Replica()
	return &r
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
		if err != nil {
			return nil, err
		}
		out.Body.Replica = s.replica()
		out.Body.Proposed, err = s.rooms.Firm.ProposedKey(ctx)
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
	type proposeInput struct {
		Body struct {
			Why string `json:"why" maxLength:"400"`
			Old string `json:"old" minLength:"1" maxLength:"200" doc:"The present password."`
		}
	}
	huma.Register(
		api,
		op(http.MethodPost, "/api/firm/key", "propose-key", "Ask for a new sealing key; another person agrees"),
		as(func(ctx context.Context, p people.Person, in *proposeInput) (*struct{}, error) {
			return nil, s.rooms.Firm.ProposeKey(ctx, p, in.Body.Old, in.Body.Why)
		}),
	)
	type agreeInput struct {
		Body struct {
			Old string `json:"old" minLength:"1" maxLength:"200" doc:"The present password."`
		}
	}
	huma.Register(
		api,
		op(http.MethodPost, "/api/firm/key/agree", "agree-key", "Make the new sealing key that another person asked for"),
		as(func(ctx context.Context, p people.Person, in *agreeInput) (*struct{}, error) {
			return nil, s.rooms.Firm.AgreeKey(ctx, p, in.Body.Old)
		}),
	)
	huma.Register(
		api,
		op(http.MethodDelete, "/api/firm/key", "drop-key-proposal", "Take back that a new sealing key was asked for"),
		as(func(ctx context.Context, p people.Person, _ *struct{}) (*struct{}, error) {
			return nil, s.rooms.Firm.DropProposal(ctx, p)
		}),
	)
}
