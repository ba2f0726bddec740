// Package httpapi serves the program over HTTP: typed operations described by
// OpenAPI 3.1, sessions, and the pages.
package httpapi

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"net/netip"
	"strconv"
	"strings"
	"time"

	"github.com/alexedwards/scs/v2"
	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humachi"
	"github.com/go-chi/chi/v5"
	"github.com/go-chi/chi/v5/middleware"
	"github.com/go-chi/httprate"

	"dogbolt/core/job"
	"dogbolt/core/schema"
	"dogbolt/internal/rooms"
	"dogbolt/internal/rooms/days"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/papers"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/store"
	"dogbolt/internal/version"
	"dogbolt/internal/webui"
)

func (s *server) routes(api huma.API) {
	s.peopleRoutes(api)
	s.jobRoutes(api)
	saveRoute[job.Site](s, api, job.SiteSection)
	saveRoute[job.Survey](s, api, job.SurveySection)
	saveRoute[job.Design](s, api, job.DesignSection)
	saveRoute[job.Clearances](s, api, job.ClearancesSection)
	saveRoute[job.Plan](s, api, job.PlanSection)
	s.surveyRoutes(api)
	s.designRoutes(api)
	s.answerRoutes(api)
	s.paperRoutes(api)
	s.dayRoutes(api)
	s.stockRoutes(api)
	s.practiceRoutes(api)
	s.policyRoutes(api)
	s.journalRoutes(api)
	s.recordRoutes(api)
	s.pageRoutes(api)
	s.personalRoutes(api)
}

func init() {
	// Lists are never null in what the program sends or takes.
	huma.DefaultArrayNullable = false
}

// Options of the server.
type Options struct {
	// TLS says that browsers come by TLS, to this server or to a proxy in front of it:
	// cookies are marked Secure.
	TLS bool
	// BasePath is the folder of the host that the program is under, such as /dogbolt; "" for
	// the whole host.
	BasePath string
	// TrustedProxies are the addresses of proxies whose word about a request counts.
	TrustedProxies []netip.Prefix
	// SignInsPerMinute limits sign-ins from one address. 0 takes 10.
	SignInsPerMinute int
	// AddressHeader names the header in which a proxy in front says the client's address;
	// "" where there is none. No other header is believed: anybody can send them.
	AddressHeader string
	// Instruments let pages work with a tester and a charger. A firm's own server has
	// no simulated ones: their readings do not belong on a real record.
	Instruments Instruments
}

// Limits of a request.
const (
	maxBody    = 8 << 20 // bytes
	sessionAge = 12 * time.Hour
	idle       = 2 * time.Hour    // without a request a session ends
	idleSeen   = 10 * time.Minute // how often a session notes that it is used. Common practice, no source.
)

type server struct {
	rooms    *rooms.Rooms
	log      *slog.Logger
	sessions *scs.SessionManager
	opened   *opened

	instruments Instruments
}

// checksPerMinute is how many sealed files an address may have checked in a minute: no account is
// asked for. Common practice, no source.
const checksPerMinute = 20

// New returns the handler of the whole program.
func New(a *rooms.Rooms, sessionStore scs.Store, log *slog.Logger, o Options) http.Handler {
	s := &server{rooms: a, log: log, sessions: scs.New(), opened: newOpened(), instruments: o.Instruments}
	s.sessions.Store = sessionStore
	s.sessions.Codec = store.SessionCodec{}
	s.sessions.Lifetime = sessionAge
	s.sessions.HashTokenInStore = true
	s.sessions.Cookie.Name = "dogbolt"
	s.sessions.Cookie.HttpOnly = true
	s.sessions.Cookie.SameSite = http.SameSiteLaxMode
	s.sessions.Cookie.Path = o.BasePath + "/"
	if s.sessions.Cookie.Secure = o.TLS; o.TLS {
		s.sessions.Cookie.Name = "__Host-dogbolt" // browsers take it from this host by TLS alone (RFC 6265bis)
		if o.BasePath != "" {
			s.sessions.Cookie.Name = "__Secure-dogbolt" // the same, but for a folder of the host
		}
	}
	s.sessions.ErrorFunc = func(w http.ResponseWriter, r *http.Request, err error) {
		log.ErrorContext(r.Context(), "session", "error", err)
		http.Error(w, "the session cannot be read", http.StatusInternalServerError)
	}
	if o.SignInsPerMinute == 0 {
		o.SignInsPerMinute = 10
	}

	r := chi.NewRouter()
	address := clientAddress(o.AddressHeader)
	r.Use(forwarded(o.TrustedProxies), ownRequestID, middleware.RequestID, s.logRequests, middleware.Recoverer, securityHeaders, limitBody, composed, crossOrigin)
	r.Get("/healthz", s.health)
	r.Group(func(r chi.Router) {
		r.Use(s.sessions.LoadAndSave, s.loadPerson, samePerson)
		r.With(withAddress(address), httprate.LimitBy(o.SignInsPerMinute, time.Minute, byAddress,
			httprate.WithLimitHandler(func(w http.ResponseWriter, _ *http.Request) {
				problem(w, http.StatusTooManyRequests, "too many sign-ins from this address; wait a minute")
			}))).Group(func(r chi.Router) { s.signInRoutes(API(r)) })
		r.With(withAddress(address), httprate.LimitBy(checksPerMinute, time.Minute, byAddress,
			httprate.WithLimitHandler(func(w http.ResponseWriter, _ *http.Request) {
				problem(w, http.StatusTooManyRequests, "too many files from this address; wait a minute")
			}))).Group(func(r chi.Router) { s.openRoutes(API(r)) })
		r.Group(func(r chi.Router) {
			r.Use(compress, tagged, s.sees)
			s.routes(API(r))
		})
		if o.Instruments != nil {
			s.streams(r)
		}
	})
	r.Get("/api/docs", docsPage)
	r.Get("/api/openapi.json", func(w http.ResponseWriter, _ *http.Request) {
		w.Header().Set("Content-Type", "application/openapi+json")
		w.Write(OpenAPI())
	})
	for name, schema := range map[string]func() []byte{"job": JobSchema, "paper": PaperSchema, "charger": ChargerSchema, "readings": ReadingsSchema} {
		r.Get("/api/formats/"+name+".schema.json", func(w http.ResponseWriter, _ *http.Request) {
			w.Header().Set("Content-Type", "application/schema+json")
			w.Write(schema())
		})
	}
	r.Get("/feeds/{token}/{name}", s.feed)
	r.NotFound(webui.Handler(o.BasePath).ServeHTTP)
	return inFolder(o.BasePath, r)
}

// inFolder serves a handler under a folder of the host. What is outside of it is not there.
func inFolder(base string, h http.Handler) http.Handler {
	if base == "" {
		return h
	}
	inside := http.StripPrefix(base, h)
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.URL.Path == base {
			http.Redirect(w, r, base+"/", http.StatusPermanentRedirect)
			return
		}
		if !strings.HasPrefix(r.URL.Path, base+"/") {
			http.NotFound(w, r)
			return
		}
		inside.ServeHTTP(w, r)
	})
}

// clientAddress returns how a request's client is found: by the peer's address, by what a
// trusted proxy says, or by what the proxy in front added last to its header.
func clientAddress(header string) func(*http.Request) string {
	return func(r *http.Request) string {
		if w, ok := r.Context().Value(wordKey{}).(word); ok && w.client != "" {
			return w.client
		}
		if said := r.Header.Values(header); header != "" && len(said) > 0 {
			return last(said)
		}
		host, _, err := net.SplitHostPort(r.RemoteAddr)
		if err != nil {
			return r.RemoteAddr
		}
		return host
	}
}

type addressKey struct{}

// withAddress puts the client's address into the request's context.
func withAddress(of func(*http.Request) string) func(http.Handler) http.Handler {
	return func(next http.Handler) http.Handler {
		return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			next.ServeHTTP(w, r.WithContext(context.WithValue(r.Context(), addressKey{}, of(r))))
		})
	}
}

// byAddress counts sign-ins by the client's address.
func byAddress(r *http.Request) (string, error) {
	return httprate.CanonicalizeIP(addressOf(r.Context())), nil
}

// addressOf is the client's address of a request that signs in.
func addressOf(ctx context.Context) string {
	a, _ := ctx.Value(addressKey{}).(string)
	return a
}

// API returns an empty API on the router, without pages of its own.
func API(r chi.Router) huma.API {
	c := huma.DefaultConfig("Dogbolt", version.String())
	c.Info.Description = "What the pages of Dogbolt ask the server. Sign in first: the session is a cookie."
	c.DocsPath, c.OpenAPIPath, c.SchemasPath = "", "", ""
	c.CreateHooks = nil
	c.Components.SecuritySchemes = map[string]*huma.SecurityScheme{
		session: {Type: "apiKey", In: "cookie", Name: "dogbolt", Description: "Set by signing in."},
	}
	c.OnAddOperation = append(c.OnAddOperation, described)
	c.Servers = []*huma.Server{{URL: "/", Description: "This server"}}
	enums(c.Components.Schemas)
	return humachi.New(r, c)
}

// OpenAPI returns the description of all operations as JSON.
func OpenAPI() []byte {
	s := &server{}
	api := API(chi.NewRouter())
	s.signInRoutes(api)
	s.openRoutes(api)
	s.routes(api)
	settled(api.OpenAPI())
	b, err := api.OpenAPI().MarshalJSON()
	if err != nil {
		panic(fmt.Sprintf("describe the operations: %v", err)) // a mistake in the program
	}
	return indent(b)
}

func (s *server) health(w http.ResponseWriter, r *http.Request) {
	if err := s.rooms.Healthy(r.Context()); err != nil {
		http.Error(w, "database does not answer", http.StatusServiceUnavailable)
		return
	}
	if err := s.rooms.Writable(r.Context()); err != nil {
		s.log.ErrorContext(r.Context(), "nothing can be written", "error", err)
		http.Error(w, "reading works, writing fails: is the disk full?", http.StatusServiceUnavailable)
		return
	}
	if v := s.replica(); v != nil && v.Failing {
		w.WriteHeader(http.StatusServiceUnavailable)
		fmt.Fprintln(w, "the replica fails:", v.Problem)
	} else {
		fmt.Fprintln(w, "ok", version.String())
	}
	if r, ok := s.rooms.Doctor.Found(); ok {
		fmt.Fprintf(w, "doctor %s: %d faults\n", r.At.Format(time.RFC3339), len(r.Faults))
	}
	if v := s.replica(); v != nil {
		fmt.Fprintf(w, "replica: %.0f s behind, %d pictures and files to go\n", v.Behind, v.Waiting)
	}
}

type personKey struct{}

// loadPerson puts the signed-in person into the request's context.
func (s *server) loadPerson(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		ctx := r.Context()
		if id := s.sessions.GetString(ctx, store.PersonOf); id != "" && s.alive(ctx) {
			p, err := s.rooms.People.Person(ctx, id, s.sessions.GetBool(ctx, passkey))
			switch {
			case err == nil:
				ctx = context.WithValue(ctx, personKey{}, p)
				if mark, err := s.rooms.Journal.Contact(ctx, p); err != nil {
					s.log.ErrorContext(ctx, "mark the contact", "error", err)
				} else {
					w.Header().Set(ContactHeader, mark)
				}
			case errors.Is(err, store.ErrNotFound):
				w.Header().Set(AccountHeader, "closed")
			default:
				s.log.ErrorContext(ctx, "load person", "error", err)
			}
		} else if of := r.Header.Get(PersonHeader); of != "" {
			// The sessions of an account that was closed are gone, and its devices have to learn why.
			if _, err := s.rooms.People.Person(ctx, of, false); errors.Is(err, store.ErrNotFound) {
				w.Header().Set(AccountHeader, "closed")
			}
		}
		next.ServeHTTP(w, r.WithContext(ctx))
	})
}

// seen is the session's value of when it was last noted that it is used, Unix time.
const seen = "seen"

// passkey is the session's value of whether it began with one.
const passkey = "passkey"

// alive reports whether a session was used lately, and notes now and then that it is. A
// session is not written, and its cookie not set, by every request: one that was on its
// way while somebody signed in would bring the old session back.
func (s *server) alive(ctx context.Context) bool {
	now := time.Now()
	last := time.Unix(s.sessions.GetInt64(ctx, seen), 0)
	switch {
	case last.Unix() == 0 || now.Sub(last) > idleSeen && now.Sub(last) <= idle:
		s.sessions.Put(ctx, seen, now.Unix())
	case now.Sub(last) > idle:
		return false
	}
	return true
}

// PersonHeader names the account that a device makes a request for. The session is the
// authority: the header says whose page or whose kept entry it is.
const PersonHeader = "Dogbolt-Person"

// ContactHeader has the mark of the contact, for what a device keeps from now on.
const ContactHeader = "Dogbolt-Contact"

// AccountHeader says that the account of a session was closed: a device then shuts its
// pages, with signal or without.
const AccountHeader = "Dogbolt-Account"

// samePerson refuses what a device asks for one person while another is signed in: a
// page that was left open, an entry that was kept for its author. It stays on the
// device for the author. Nothing is refused here while nobody is signed in: that is
// 401, for any of them.
func samePerson(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		p, in := r.Context().Value(personKey{}).(people.Person)
		if of := r.Header.Get(PersonHeader); in && of != "" && of != p.ID {
			problem(w, http.StatusPreconditionFailed, "another person is signed in on this device: this was not taken, and stays with who entered it")
			return
		}
		next.ServeHTTP(w, r)
	})
}

// sees refuses what is asked about a job to who does not see it: to them it is not there.
func (s *server) sees(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		p, in := r.Context().Value(personKey{}).(people.Person)
		rest, about := strings.CutPrefix(r.URL.Path, "/api/jobs/")
		id, _, _ := strings.Cut(rest, "/")
		if in && about && id != "import" {
			switch err := s.rooms.Jobs.Sees(r.Context(), p, id); {
			case errors.Is(err, store.ErrNotFound):
				problem(w, http.StatusNotFound, "there is no such job, or you are not booked for it")
				return
			case err != nil:
				s.log.ErrorContext(r.Context(), "who sees the job", "error", err)
				problem(w, http.StatusInternalServerError, "something went wrong on the server; nothing was written")
				return
			}
		}
		next.ServeHTTP(w, r)
	})
}

// signedIn returns the person of the request, or the error that says to sign in.
func signedIn(ctx context.Context) (people.Person, error) {
	p, ok := ctx.Value(personKey{}).(people.Person)
	if !ok {
		return p, huma.Error401Unauthorized("sign in first")
	}
	return p, nil
}

// as wraps an operation of a signed-in person: who asks comes first, and
// errors of the program become answers.
func as[In, Out any](f func(context.Context, people.Person, *In) (*Out, error)) func(context.Context, *In) (*Out, error) {
	return func(ctx context.Context, in *In) (*Out, error) {
		p, err := signedIn(ctx)
		if err != nil {
			return nil, err
		}
		if errs := untyped(in); len(errs) > 0 {
			return nil, huma.Error400BadRequest(errs.Error(), detailsOf(errs)...)
		}
		out, err := f(ctx, p, in)
		return out, answer(ctx, err)
	}
}

// inWords says what is wrong as people say it: pages mark the fields by their paths.
func inWords(fields schema.Errors) string {
	said := make([]string, len(fields))
	for i, f := range fields {
		said[i] = job.Named(f.Field) + ": " + f.Message
	}
	return strings.Join(said, "; ")
}

// detailsOf is what is wrong with fields, as an answer names it.
func detailsOf(fields schema.Errors) []error {
	details := make([]error, len(fields))
	for i, f := range fields {
		details[i] = &huma.ErrorDetail{Location: f.Field, Message: f.Message}
	}
	return details
}

// answer turns an error of the program into one that the page understands.
func answer(ctx context.Context, err error) error {
	var fields schema.Errors
	var reasons days.ReasonsError
	var lacks papers.LacksError
	var clashes jobs.ClashError
	var wait people.WaitError
	switch {
	case err == nil:
		return nil
	case errors.Is(err, context.Canceled) && ctx.Err() != nil:
		return huma.Error503ServiceUnavailable("nobody waits for the answer any longer")
	case errors.As(err, &fields):
		return huma.Error422UnprocessableEntity(inWords(fields), detailsOf(fields)...)
	case errors.As(err, &reasons):
		details := make([]error, len(reasons))
		for i, r := range reasons {
			details[i] = &huma.ErrorDetail{Location: "booking." + string(r.Kind), Message: r.What, Value: r.Verdict}
		}
		return huma.Error409Conflict(reasons.Error(), details...)
	case errors.As(err, &lacks):
		details := make([]error, len(lacks))
		for i, l := range lacks {
			details[i] = &huma.ErrorDetail{Location: l.Field, Message: l.What}
		}
		return huma.Error409Conflict(lacks.Error(), details...)
	case errors.As(err, &clashes):
		details := make([]error, len(clashes.Clashes))
		for i, c := range clashes.Clashes {
			details[i] = &huma.ErrorDetail{Location: clashes.Section + "." + c.Field, Message: c.Title, Value: c}
		}
		return huma.Error409Conflict(clashes.Error(), details...)
	case errors.As(err, &wait):
		return huma.ErrorWithHeaders(huma.Error429TooManyRequests(err.Error()), http.Header{"Retry-After": {strconv.Itoa(int(wait.For.Seconds()) + 1)}})
	case errors.Is(err, people.ErrForbidden):
		return huma.Error403Forbidden(err.Error())
	case errors.Is(err, people.ErrCode):
		const what = "the six digits that your authenticator shows, or a recovery code"
		return huma.Error401Unauthorized(err.Error(), &huma.ErrorDetail{Location: "code", Message: what})
	case errors.Is(err, people.ErrSignIn):
		return huma.Error401Unauthorized(err.Error())
	case errors.Is(err, store.ErrNotFound):
		return huma.Error404NotFound("there is no such thing: " + err.Error())
	case errors.Is(err, store.ErrReplaced):
		const what = "a file or record on the server is not as it was kept, and is not sent: %v. The doctor says more (People and firm)"
		return huma.Error500InternalServerError(fmt.Sprintf(what, err))
	case errors.Is(err, store.ErrConflict), errors.Is(err, people.ErrBlocked):
		return huma.Error409Conflict(err.Error())
	case errors.Is(err, people.ErrSealed):
		return huma.Error409Conflict("the job was sealed; a sealed record cannot be edited. Open an amendment: it becomes a new issue that names the old")
	}
	slog.ErrorContext(ctx, "operation failed", "error", err)
	return huma.Error500InternalServerError("something went wrong on the server; nothing was written")
}

func op(method, path, id, title string) huma.Operation {
	return huma.Operation{OperationID: id, Method: method, Path: path, Summary: title, MaxBodyBytes: maxBody}
}
