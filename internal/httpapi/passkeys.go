package httpapi

import (
	"context"
	"encoding/json"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"dogbolt/internal/rooms/people"
)

// Passkey is a key of a device that signs in to one's account.
type Passkey struct {
	ID      string     `json:"id"`
	Name    string     `json:"name" doc:"What its person calls the device."`
	Created time.Time  `json:"created"`
	Used    *time.Time `json:"used,omitempty" doc:"When it signed in last; left out before the first time."`
}

type passkeyOptions struct {
	Body struct {
		Options json.RawMessage `json:"options" doc:"What the browser is asked for, as WebAuthn has it in JSON."`
	}
}

// asked are the options of a ceremony, as the operation answers them.
func asked(options json.RawMessage, err error) (*passkeyOptions, error) {
	out := &passkeyOptions{}
	out.Body.Options = options
	return out, err
}

// passkeySignIn are the operations of a passkey that sign in.
func (s *server) passkeySignIn(api huma.API) {
	type originInput struct {
		Origin string `header:"Origin" doc:"Where the page is; browsers send it."`
	}
	begin := op(http.MethodPost, "/api/session/passkey/options", "ask-passkey", "Begin a sign-in with a passkey")
	huma.Register(api, begin, func(ctx context.Context, in *originInput) (*passkeyOptions, error) {
		options, err := asked(s.rooms.People.AskPasskey(in.Origin))
		return options, answer(ctx, err)
	})
	type passkeyInput struct {
		Agent  string `header:"User-Agent"`
		Origin string `header:"Origin"`
		Body   struct {
			Answer json.RawMessage `json:"answer" doc:"What the browser answered, as WebAuthn has it in JSON."`
		}
	}
	signIn := op(http.MethodPost, "/api/session/passkey", "sign-in-passkey", "Sign in with a passkey")
	huma.Register(api, signIn, func(ctx context.Context, in *passkeyInput) (*meOutput, error) {
		p, err := s.rooms.People.SignInWithPasskey(ctx, in.Origin, in.Body.Answer, addressOf(ctx))
		if err != nil {
			return nil, answer(ctx, err)
		}
		return s.begin(ctx, p, in.Agent)
	})
}

// passkeyRoutes are those of one's own passkeys.
func (s *server) passkeyRoutes(api huma.API) {
	type passkeysOutput struct{ Body []Passkey }
	huma.Register(
		api,
		op(http.MethodGet, "/api/session/passkeys", "list-passkeys", "One's own passkeys"),
		as(func(ctx context.Context, p people.Person, _ *struct{}) (*passkeysOutput, error) {
			list, err := s.rooms.People.Passkeys(ctx, p)
			out := &passkeysOutput{Body: make([]Passkey, len(list))}
			for i, k := range list {
				out.Body[i] = Passkey{k.ID, k.Name, k.Created, k.Used}
			}
			return out, err
		}),
	)
	type newPasskeyInput struct {
		Origin string `header:"Origin"`
		Body   struct {
			Old string `json:"old" minLength:"1" maxLength:"200" doc:"The present password."`
		}
	}
	huma.Register(
		api,
		op(http.MethodPost, "/api/session/passkeys/options", "make-passkey", "Begin a passkey of one's own"),
		as(func(ctx context.Context, p people.Person, in *newPasskeyInput) (*passkeyOptions, error) {
			return asked(s.rooms.People.NewPasskey(ctx, p, in.Origin, in.Body.Old))
		}),
	)
	type takePasskeyInput struct {
		Origin string `header:"Origin"`
		Body   struct {
			Name   string          `json:"name" maxLength:"80" doc:"What its person calls the device."`
			Answer json.RawMessage `json:"answer" doc:"What the browser answered, as WebAuthn has it in JSON."`
		}
	}
	huma.Register(
		api,
		op(http.MethodPost, "/api/session/passkeys", "take-passkey", "Keep a passkey that the browser made"),
		as(func(ctx context.Context, p people.Person, in *takePasskeyInput) (*struct{}, error) {
			return nil, s.rooms.People.TakePasskey(ctx, p, in.Origin, in.Body.Name, in.Body.Answer)
		}),
	)
	type endPasskeyInput struct {
		ID   string `path:"passkey"`
		Body struct {
			Old string `json:"old" minLength:"1" maxLength:"200" doc:"The present password."`
		}
	}
	huma.Register(
		api,
		op(http.MethodPost, "/api/session/passkeys/{passkey}/end", "end-passkey", "End a passkey of one's own"),
		as(func(ctx context.Context, p people.Person, in *endPasskeyInput) (*struct{}, error) {
			return nil, s.rooms.People.DropPasskey(ctx, p, in.ID, in.Body.Old)
		}),
	)
}
