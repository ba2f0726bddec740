package httpapi

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"dogbolt/internal/rooms/people"
	"dogbolt/internal/store"
)

// Me is the signed-in person and what they may do.
type Me struct {
	ID       string       `json:"id"`
	Username string       `json:"username"`
	Name     string       `json:"name"`
	Roles    people.Roles `json:"roles"`
	May      []string     `json:"may" doc:"Permissions, in words."`
	Factor   bool         `json:"factor" doc:"Has the account a second factor?"`
	Passkey  bool         `json:"passkey" doc:"Did the session begin with a passkey?"`
	Lacks    bool         `json:"lacks" doc:"Is the person no verifier now, because the firm asks for a second factor?"`
	// StandIns is the server's, not the person's: pages learn it on the way in.
	StandIns bool `json:"standIns" doc:"Has this server a simulated tester and charger?"`
}

type meOutput struct{ Body Me }

func (s *server) me(p people.Person) *meOutput {
	out := &meOutput{Me{
		ID: p.ID, Username: p.Username, Name: p.Name, Roles: p.Roles, Factor: p.Factor, Passkey: p.Passkey, Lacks: p.Lacks, May: []string{},
		StandIns: s.instruments != nil,
	}}
	for _, a := range people.Actions() {
		if p.Roles.May(a) {
			out.Body.May = append(out.Body.May, string(a))
		}
	}
	return out
}

type signInInput struct {
	Agent string `header:"User-Agent"`
	Body  struct {
		Username string `json:"username" minLength:"1" maxLength:"80"`
		Password string `json:"password" minLength:"1" maxLength:"200"`
		Code     string `json:"code,omitempty" maxLength:"20" doc:"Of the second factor, where the account has one, or a recovery code."`
	}
}

type setUpInput struct {
	Agent string `header:"User-Agent"`
	Body  struct {
		Token    string       `json:"token" minLength:"1" maxLength:"80" doc:"From the link that the program printed."`
		Username string       `json:"username" maxLength:"80"`
		Name     string       `json:"name" maxLength:"80"`
		Roles    people.Roles `json:"roles,omitempty" maxItems:"4" doc:"What the person is besides the office."`
		Password string       `json:"password" maxLength:"200"`
	}
}

type whoseInput struct {
	Body struct {
		Token string `json:"token" minLength:"1" maxLength:"80" doc:"From the link."`
	}
}

type linkInput struct {
	Agent string `header:"User-Agent"`
	Body  struct {
		Token    string `json:"token" minLength:"1" maxLength:"80" doc:"From the link."`
		Password string `json:"password" maxLength:"200"`
	}
}

type resetInput struct {
	Body struct {
		Username string `json:"username" minLength:"1" maxLength:"80"`
	}
}

type whoseOutput struct {
	Body struct {
		Username string `json:"username"`
		Name     string `json:"name"`
	}
}

// signInRoutes are the operations that the rate limit guards.
func (s *server) signInRoutes(api huma.API) {
	huma.Register(api, op(http.MethodPost, "/api/session", "sign-in", "Sign in"), func(ctx context.Context, in *signInInput) (*meOutput, error) {
		p, err := s.rooms.People.SignIn(ctx, in.Body.Username, in.Body.Password, in.Body.Code, addressOf(ctx))
		if err != nil {
			return nil, answer(ctx, err)
		}
		return s.begin(ctx, p, in.Agent)
	})
	huma.Register(api, op(http.MethodPost, "/api/setup", "set-up", "Make the first account"), func(ctx context.Context, in *setUpInput) (*meOutput, error) {
		b := in.Body
		first := people.NewUser{Username: b.Username, Name: b.Name, Roles: b.Roles, Password: b.Password}
		p, err := s.rooms.People.SetUp(ctx, b.Token, first)
		if err != nil {
			return nil, answer(ctx, err)
		}
		return s.begin(ctx, p, in.Agent)
	})
	s.passkeySignIn(api)
	whose := op(http.MethodPost, "/api/link/whose", "whose-link", "Whose a one-time link is")
	huma.Register(api, whose, func(ctx context.Context, in *whoseInput) (*whoseOutput, error) {
		p, err := s.rooms.People.Linked(ctx, in.Body.Token)
		out := &whoseOutput{}
		out.Body.Username, out.Body.Name = p.Username, p.Name
		return out, answer(ctx, err)
	})
	use := op(http.MethodPost, "/api/link", "use-link", "Choose a password by a one-time link")
	huma.Register(api, use, func(ctx context.Context, in *linkInput) (*meOutput, error) {
		p, err := s.rooms.People.UseLink(ctx, in.Body.Token, in.Body.Password)
		if err != nil {
			return nil, answer(ctx, err)
		}
		return s.begin(ctx, p, in.Agent)
	})
	mail := op(http.MethodPost, "/api/link/mail", "ask-link", "Ask for a one-time link by mail")
	huma.Register(api, mail, func(ctx context.Context, in *resetInput) (*struct{}, error) {
		return nil, answer(ctx, s.rooms.People.AskReset(ctx, in.Body.Username))
	})
}

// longestAgent is how much is kept of what a browser calls itself, characters.
const longestAgent = 160

// begin starts a session with a new token.
func (s *server) begin(ctx context.Context, p people.Person, agent string) (*meOutput, error) {
	if err := s.sessions.RenewToken(ctx); err != nil {
		return nil, err
	}
	now := time.Now()
	s.sessions.Put(ctx, store.PersonOf, p.ID)
	s.sessions.Put(ctx, store.AgentOf, agent[:min(len(agent), longestAgent)])
	s.sessions.Put(ctx, store.BeganAt, now.UnixMilli())
	s.sessions.Put(ctx, seen, now.Unix())
	s.sessions.Put(ctx, passkey, p.Passkey)
	return s.me(p), nil
}

// Session is where a person is signed in.
type Session struct {
	Began  time.Time `json:"began"`
	Expiry time.Time `json:"expiry" doc:"When it ends at the latest."`
	Agent  string    `json:"agent" doc:"What the browser calls itself."`
	Here   bool      `json:"here" doc:"Is it this one?"`
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
	s.ownRoutes(api)
	s.factorRoutes(api)
	s.passkeyRoutes(api)
	s.accountRoutes(api)
	s.firmRoutes(api)
}

// ownRoutes are what a person does with their own account.
func (s *server) ownRoutes(api huma.API) {
	type passwordInput struct {
		Agent string `header:"User-Agent"`
		Body  struct {
			Old      string `json:"old" minLength:"1" maxLength:"200" doc:"The present password."`
			Password string `json:"password" maxLength:"200"`
		}
	}
	huma.Register(
		api,
		op(http.MethodPut, "/api/session/password", "change-password", "Change one's own password; every other session ends"),
		as(func(ctx context.Context, p people.Person, in *passwordInput) (*meOutput, error) {
			if err := s.rooms.People.ChangePassword(ctx, p, in.Body.Old, in.Body.Password); err != nil {
				return nil, err
			}
			return s.begin(ctx, p, in.Agent)
		}),
	)
	type sessionsOutput struct{ Body []Session }
	huma.Register(
		api,
		op(http.MethodGet, "/api/session/all", "list-sessions", "Where one is signed in"),
		as(func(ctx context.Context, p people.Person, _ *struct{}) (*sessionsOutput, error) {
			list, err := s.rooms.People.Sessions(ctx, p)
			out := &sessionsOutput{Body: make([]Session, len(list))}
			for i, v := range list {
				here := v.Began.UnixMilli() == s.sessions.GetInt64(ctx, store.BeganAt)
				out.Body[i] = Session{v.Began, v.Expiry, v.Agent, here}
			}
			return out, err
		}),
	)
	type everywhereInput struct {
		Agent string `header:"User-Agent"`
	}
	huma.Register(
		api,
		op(http.MethodDelete, "/api/session/all", "sign-out-everywhere", "Sign out everywhere else"),
		as(func(ctx context.Context, p people.Person, in *everywhereInput) (*meOutput, error) {
			if err := s.rooms.People.EndSessions(ctx, p); err != nil {
				return nil, err
			}
			return s.begin(ctx, p, in.Agent)
		}),
	)
}

// factorRoutes are those of the second factor.
func (s *server) factorRoutes(api huma.API) {
	type factorOutput struct{ Body people.Factor }
	huma.Register(
		api,
		op(http.MethodPost, "/api/session/factor", "make-factor", "Make the secret of a second factor"),
		as(func(_ context.Context, p people.Person, _ *struct{}) (*factorOutput, error) {
			f, err := s.rooms.People.NewFactor(p)
			return &factorOutput{f}, err
		}),
	)
	type beginFactorInput struct {
		Body struct {
			Old    string `json:"old" minLength:"1" maxLength:"200" doc:"The present password."`
			Secret string `json:"secret" maxLength:"80"`
			Code   string `json:"code" maxLength:"20" doc:"A code that the authenticator shows."`
		}
	}
	type codesOutput struct {
		Body struct {
			Codes []string `json:"codes" doc:"Recovery codes, each good once; they are shown now only."`
		}
	}
	huma.Register(
		api,
		op(http.MethodPut, "/api/session/factor", "take-factor", "Begin a second factor with its first code"),
		as(func(ctx context.Context, p people.Person, in *beginFactorInput) (*codesOutput, error) {
			codes, err := s.rooms.People.TakeFactor(ctx, p, in.Body.Old, in.Body.Secret, in.Body.Code)
			out := &codesOutput{}
			out.Body.Codes = codes
			return out, err
		}),
	)
	type endFactorInput struct {
		Body struct {
			Old string `json:"old" minLength:"1" maxLength:"200" doc:"The present password."`
		}
	}
	huma.Register(
		api,
		op(http.MethodPost, "/api/session/factor/end", "end-factor", "End one's second factor"),
		as(func(ctx context.Context, p people.Person, in *endFactorInput) (*struct{}, error) {
			return nil, s.rooms.People.DropFactor(ctx, p, in.Body.Old)
		}),
	)
	type factorOfInput struct {
		ID string `path:"user"`
	}
	huma.Register(
		api,
		op(http.MethodDelete, "/api/users/{user}/factor", "end-factor-of", "End the second factor of somebody who lost it"),
		as(func(ctx context.Context, p people.Person, in *factorOfInput) (*struct{}, error) {
			return nil, s.rooms.People.DropFactorOf(ctx, p, in.ID)
		}),
	)
	type demandBody struct {
		Demand bool `json:"demand" doc:"Do verifiers sign in with a second factor?"`
	}
	type demandOutput struct{ Body demandBody }
	huma.Register(
		api,
		op(http.MethodGet, "/api/firm/factor", "get-demand", "Do verifiers need a second factor?"),
		as(func(ctx context.Context, _ people.Person, _ *struct{}) (*demandOutput, error) {
			d, err := s.rooms.People.Demand(ctx)
			return &demandOutput{demandBody{d}}, err
		}),
	)
	type demandInput struct{ Body demandBody }
	huma.Register(
		api,
		op(http.MethodPut, "/api/firm/factor", "set-demand", "Say whether verifiers need a second factor"),
		as(func(ctx context.Context, p people.Person, in *demandInput) (*struct{}, error) {
			return nil, s.rooms.People.SetDemand(ctx, p, in.Body.Demand)
		}),
	)
}

// User is an account as the list shows it.
type User struct {
	ID       string       `json:"id"`
	Username string       `json:"username"`
	Name     string       `json:"name"`
	Roles    people.Roles `json:"roles"`
	Mail     string       `json:"mail,omitempty" doc:"Where links go."`
	Disabled bool         `json:"disabled"`
	Waits    bool         `json:"waits" doc:"Has its person not chosen a password yet?"`
	Factor   bool         `json:"factor" doc:"Has it a second factor?"`
	Link     string       `json:"link,omitempty" doc:"Token of the one-time link that was made; it is shown once."`
}

// accountRoutes are what the office does with accounts, and the audit.
func (s *server) accountRoutes(api huma.API) {
	type usersOutput struct{ Body []User }
	huma.Register(
		api,
		op(http.MethodGet, "/api/users", "list-users", "List people"),
		as(func(ctx context.Context, p people.Person, _ *struct{}) (*usersOutput, error) {
			list, err := s.rooms.People.Users(ctx, p)
			out := &usersOutput{Body: make([]User, len(list))}
			for i, u := range list {
				out.Body[i] = User{ID: u.ID, Username: u.Username, Name: u.Name, Roles: people.RolesOf(u), Disabled: u.Disabled, Waits: u.Hash == "", Factor: u.TOTP != ""}
				if p.ID == u.ID || p.Roles.May(people.ManageUsers) {
					out.Body[i].Mail = u.Mail
				}
			}
			return out, err
		}),
	)
	type addInput struct {
		Body struct {
			Username string       `json:"username" maxLength:"80"`
			Name     string       `json:"name" maxLength:"80"`
			Roles    people.Roles `json:"roles" maxItems:"4"`
			Mail     string       `json:"mail,omitempty" maxLength:"120" doc:"Where links go."`
			Password string       `json:"password,omitempty" maxLength:"200" doc:"Left out: the person chooses one by a link."`
		}
	}
	type userOutput struct{ Body User }
	huma.Register(
		api,
		op(http.MethodPost, "/api/users", "add-user", "Add a person"),
		as(func(ctx context.Context, p people.Person, in *addInput) (*userOutput, error) {
			b := in.Body
			u, link, err := s.rooms.People.AddUser(ctx, p, people.NewUser{Username: b.Username, Name: b.Name, Roles: b.Roles, Mail: b.Mail, Password: b.Password})
			return &userOutput{User{ID: u.ID, Username: u.Username, Name: u.Name, Roles: u.Roles, Mail: b.Mail, Waits: b.Password == "", Link: link}}, err
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
	type rolesInput struct {
		ID   string `path:"user"`
		Body struct {
			Roles people.Roles `json:"roles" maxItems:"4"`
		}
	}
	huma.Register(
		api,
		op(http.MethodPut, "/api/users/{user}/roles", "set-roles", "Say what a person is in the firm"),
		as(func(ctx context.Context, p people.Person, in *rolesInput) (*struct{}, error) {
			return nil, s.rooms.People.SetRoles(ctx, p, in.ID, in.Body.Roles)
		}),
	)
	type mailInput struct {
		ID   string `path:"user"`
		Body struct {
			Mail string `json:"mail" maxLength:"120"`
		}
	}
	huma.Register(
		api,
		op(http.MethodPut, "/api/users/{user}/mail", "set-mail", "Say where links of an account go"),
		as(func(ctx context.Context, p people.Person, in *mailInput) (*struct{}, error) {
			return nil, s.rooms.People.SetMail(ctx, p, in.ID, in.Body.Mail)
		}),
	)
	type newLinkInput struct {
		ID string `path:"user"`
	}
	type newLinkOutput struct {
		Body struct {
			Link string `json:"link" doc:"Token of the link; it is shown once."`
		}
	}
	huma.Register(
		api,
		op(http.MethodPost, "/api/users/{user}/link", "make-link", "Make a one-time link, by which a person chooses a password"),
		as(func(ctx context.Context, p people.Person, in *newLinkInput) (*newLinkOutput, error) {
			token, err := s.rooms.People.NewLink(ctx, p, in.ID)
			out := &newLinkOutput{}
			out.Body.Link = token
			return out, err
		}),
	)
	s.auditRoute(api)
	s.doctorRoutes(api)
}

// FirmLine is one line of who did what in the firm.
type FirmLine struct {
	ID     int64     `json:"id"`
	At     time.Time `json:"at"`
	Who    string    `json:"who"`
	Action string    `json:"action"`
	Job    string    `json:"job,omitempty" doc:"Id of the job that it is about."`
	Detail string    `json:"detail,omitempty"`
}

func (s *server) auditRoute(api huma.API) {
	type auditInput struct {
		Before int64 `query:"before" minimum:"0" doc:"Id of the last line that was shown; left out for the newest."`
		Limit  int   `query:"limit" minimum:"1" maximum:"500" default:"100"`
	}
	type auditOutput struct{ Body []FirmLine }
	huma.Register(
		api,
		op(http.MethodGet, "/api/audit", "firm-audit", "Who did what in the firm, newest first"),
		as(func(ctx context.Context, p people.Person, in *auditInput) (*auditOutput, error) {
			list, err := s.rooms.People.Audit(ctx, p, in.Before, in.Limit)
			out := &auditOutput{Body: make([]FirmLine, len(list))}
			for i, a := range list {
				out.Body[i] = FirmLine{a.ID, a.At, a.Who, a.Action, a.JobID, a.Detail}
			}
			return out, err
		}),
	)
}
