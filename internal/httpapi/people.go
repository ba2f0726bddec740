package httpapi

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"dogbolt/internal/rooms/people"
)

// Me is the signed-in person and what they may do.
type Me struct {
	ID   string      `json:"id"`
	Name string      `json:"name"`
	Role people.Role `json:"role"`
	May  []string    `json:"may" doc:"Permissions, in words."`
	// StandIns is the server's, not the person's: pages learn it on the way in.
	StandIns bool `json:"standIns" doc:"Has this server a simulated tester and charger?"`
}

type meOutput struct{ Body Me }

func (s *server) me(p people.Person) *meOutput {
	out := &meOutput{Me{ID: p.ID, Name: p.Name, Role: p.Role, May: []string{}, StandIns: s.instruments != nil}}
	for _, a := range people.Actions() {
		if p.Role.May(a) {
			out.Body.May = append(out.Body.May, string(a))
		}
	}
	return out
}

type signInInput struct {
	Body struct {
		Username string `json:"username" minLength:"1" maxLength:"80"`
		Password string `json:"password" minLength:"1" maxLength:"200"`
	}
}

type setUpInput struct {
	Body struct {
		Token    string `json:"token" minLength:"1" maxLength:"80" doc:"From the link that the program printed."`
		Username string `json:"username" maxLength:"80"`
		Name     string `json:"name" maxLength:"80"`
		Password string `json:"password" maxLength:"200"`
	}
}

// signInRoutes are the operations that the rate limit guards.
func (s *server) signInRoutes(api huma.API) {
	huma.Register(api, op(http.MethodPost, "/api/session", "sign-in", "Sign in"), func(ctx context.Context, in *signInInput) (*meOutput, error) {
		p, err := s.rooms.People.SignIn(ctx, in.Body.Username, in.Body.Password)
		if err != nil {
			return nil, answer(ctx, err)
		}
		return s.begin(ctx, p)
	})
	huma.Register(api, op(http.MethodPost, "/api/setup", "set-up", "Make the first account"), func(ctx context.Context, in *setUpInput) (*meOutput, error) {
		p, err := s.rooms.People.SetUp(ctx, in.Body.Token, people.NewUser{Username: in.Body.Username, Name: in.Body.Name, Password: in.Body.Password})
		if err != nil {
			return nil, answer(ctx, err)
		}
		return s.begin(ctx, p)
	})
}

// begin starts a session with a new token.
func (s *server) begin(ctx context.Context, p people.Person) (*meOutput, error) {
	if err := s.sessions.RenewToken(ctx); err != nil {
		return nil, err
	}
	s.sessions.Put(ctx, "person", p.ID)
	s.sessions.Put(ctx, seen, time.Now().Unix())
	return s.me(p), nil
}

// User is an account as the list shows it.
type User struct {
	ID       string      `json:"id"`
	Username string      `json:"username"`
	Name     string      `json:"name"`
	Role     people.Role `json:"role"`
	Disabled bool        `json:"disabled"`
}

func (s *server) peopleRoutes(api huma.API) {
	huma.Register(
		api,
		op(http.MethodGet, "/api/session", "who-am-i", "Who is signed in"),
		as(func(_ context.Context, p people.Person, _ *struct{}) (*meOutput, error) {
			return s.me(p), nil
		}),
	)
	huma.Register(
		api,
		op(http.MethodDelete, "/api/session", "sign-out", "Sign out"),
		as(func(ctx context.Context, _ people.Person, _ *struct{}) (*struct{}, error) {
			return nil, s.sessions.Destroy(ctx)
		}),
	)
	type usersOutput struct{ Body []User }
	huma.Register(
		api,
		op(http.MethodGet, "/api/users", "list-users", "List people"),
		as(func(ctx context.Context, p people.Person, _ *struct{}) (*usersOutput, error) {
			list, err := s.rooms.People.Users(ctx, p)
			out := &usersOutput{Body: make([]User, len(list))}
			for i, u := range list {
				out.Body[i] = User{u.ID, u.Username, u.Name, people.Role(u.Role), u.Disabled}
			}
			return out, err
		}),
	)
	type addInput struct {
		Body struct {
			Username string      `json:"username" maxLength:"80"`
			Name     string      `json:"name" maxLength:"80"`
			Role     people.Role `json:"role"`
			Password string      `json:"password" maxLength:"200"`
		}
	}
	type userOutput struct{ Body User }
	huma.Register(
		api,
		op(http.MethodPost, "/api/users", "add-user", "Add a person"),
		as(func(ctx context.Context, p people.Person, in *addInput) (*userOutput, error) {
			u, err := s.rooms.People.AddUser(
				ctx,
				p,
				people.NewUser{Username: in.Body.Username, Name: in.Body.Name, Role: in.Body.Role, Password: in.Body.Password},
			)
			return &userOutput{User{ID: u.ID, Username: in.Body.Username, Name: u.Name, Role: u.Role}}, err
		}),
	)
	type disableInput struct {
		ID   string `path:"user"`
		Body struct {
			Disabled bool `json:"disabled"`
		}
	}
	huma.Register(
		api,
		op(http.MethodPut, "/api/users/{user}/disabled", "disable-user", "Close or open an account"),
		as(func(ctx context.Context, p people.Person, in *disableInput) (*struct{}, error) {
			return nil, s.rooms.People.SetDisabled(ctx, p, in.ID, in.Body.Disabled)
		}),
	)
	s.firmRoutes(api)
}
