package httpapi

import (
	"context"
	"net/http"
	"net/url"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"

	"dogbolt/core/planning"
	"dogbolt/internal/rooms/days"
	"dogbolt/internal/rooms/firm"
	"dogbolt/internal/rooms/people"
)

func (s *server) dayRoutes(api huma.API) {
	type resourcesBody struct{ Body firm.Resources }
	huma.Register(
		api,
		op(http.MethodGet, "/api/firm/resources", "get-resources", "Crews, instruments, registrations, ways and hours"),
		as(func(ctx context.Context, p people.Person, _ *struct{}) (*resourcesBody, error) {
			y, err := s.rooms.Firm.Resources(ctx, p)
			return &resourcesBody{y}, err
		}),
	)
	huma.Register(
		api,
		op(http.MethodPut, "/api/firm/resources", "set-resources", "Change crews, instruments, registrations, ways and hours"),
		as(func(ctx context.Context, p people.Person, in *resourcesBody) (*struct{}, error) {
			return nil, s.rooms.Firm.SetResources(ctx, p, in.Body)
		}),
	)
	type dayInput struct {
		JobPath
		Body days.DayAsk
	}
	type dayOutput struct{ Body days.DayAnswer }
	huma.Register(
		api,
		op(http.MethodPost, "/api/jobs/{job}/day", "judge-day", "What speaks against a day"),
		as(func(ctx context.Context, p people.Person, in *dayInput) (*dayOutput, error) {
			d, err := s.rooms.Days.JudgeDay(ctx, p, in.ID, in.Body)
			return &dayOutput{d}, err
		}),
	)
	huma.Register(
		api,
		op(http.MethodPut, "/api/jobs/{job}/booking", "book-day", "Book a day, or move it: holds the crew and the parts"),
		as(func(ctx context.Context, p people.Person, in *dayInput) (*viewOutput, error) {
			return viewOf(s.rooms.Days.Book(ctx, p, in.ID, in.Body))
		}),
	)
	huma.Register(
		api,
		op(http.MethodDelete, "/api/jobs/{job}/booking", "free-day", "Free the day, the crew and the parts"),
		as(func(ctx context.Context, p people.Person, in *JobPath) (*viewOutput, error) {
			return viewOf(s.rooms.Days.Unbook(ctx, p, in.ID))
		}),
	)
	type firstOutput struct{ Body days.FirstDay }
	huma.Register(
		api,
		op(http.MethodGet, "/api/jobs/{job}/first-day", "propose-day", "First day that meets everything"),
		as(func(ctx context.Context, p people.Person, in *JobPath) (*firstOutput, error) {
			d, err := s.rooms.Days.FirstDay(ctx, p, in.ID)
			return &firstOutput{d}, err
		}),
	)
	type sheetOutput struct{ Body planning.DaySheet }
	huma.Register(
		api,
		op(http.MethodGet, "/api/jobs/{job}/day-sheet", "day-sheet", "What the van takes along"),
		as(func(ctx context.Context, p people.Person, in *JobPath) (*sheetOutput, error) {
			d, err := s.rooms.Days.DaySheet(ctx, p, in.ID)
			return &sheetOutput{d}, err
		}),
	)
	type daysInput struct {
		From  string `query:"from" maxLength:"10" doc:"First day; left out: today."`
		Count int    `query:"count" minimum:"1" maximum:"30" default:"10"`
	}
	type daysOutput struct{ Body days.Days }
	huma.Register(
		api,
		op(http.MethodGet, "/api/days", "list-days", "Crews by days, and the jobs that want a day"),
		as(func(ctx context.Context, p people.Person, in *daysInput) (*daysOutput, error) {
			d, err := s.rooms.Days.Days(ctx, p, in.From, in.Count)
			return &daysOutput{d}, err
		}),
	)
	type planInput struct {
		Body struct {
			Jobs  []string `json:"jobs" minItems:"1" maxItems:"60"`
			From  string   `json:"from" maxLength:"10"`
			Count int      `json:"count" minimum:"1" maximum:"30"`
		}
	}
	type planOutput struct{ Body days.WeekPlan }
	huma.Register(
		api,
		op(http.MethodPost, "/api/days/proposal", "propose-days", "Plan jobs over some days; books nothing"),
		as(func(ctx context.Context, p people.Person, in *planInput) (*planOutput, error) {
			d, err := s.rooms.Days.ProposeDays(ctx, p, in.Body.Jobs, in.Body.From, in.Body.Count)
			return &planOutput{d}, err
		}),
	)
	type feedsOutput struct {
		Body struct {
			Path string `json:"path" doc:"Beginning of the calendars' addresses; deadlines.ics and crew-ID.ics follow."`
		}
	}
	huma.Register(
		api,
		op(http.MethodGet, "/api/feeds", "get-feeds", "Addresses of the calendars"),
		as(func(ctx context.Context, p people.Person, _ *struct{}) (*feedsOutput, error) {
			out := &feedsOutput{}
			token, err := s.rooms.People.Feed(ctx, p, false)
			out.Body.Path = "/feeds/" + token + "/"
			return out, err
		}),
	)
	huma.Register(
		api,
		op(http.MethodPost, "/api/feeds", "renew-feeds", "Take one's addresses of the calendars back, for new ones"),
		as(func(ctx context.Context, p people.Person, _ *struct{}) (*feedsOutput, error) {
			out := &feedsOutput{}
			token, err := s.rooms.People.Feed(ctx, p, true)
			out.Body.Path = "/feeds/" + token + "/"
			return out, err
		}),
	)
}

// feed serves a calendar to a program that cannot sign in: its address is the
// secret.
func (s *server) feed(w http.ResponseWriter, r *http.Request) {
	name, err := url.PathUnescape(chi.URLParam(r, "name"))
	if err != nil {
		http.NotFound(w, r)
		return
	}
	p, err := s.rooms.People.ByFeed(r.Context(), chi.URLParam(r, "token"))
	var b []byte
	if err == nil {
		b, err = s.rooms.Days.Feed(r.Context(), p, strings.TrimSuffix(name, ".ics"))
	}
	if err != nil {
		// A wrong address and a calendar that is not there look the same.
		http.NotFound(w, r)
		return
	}
	w.Header().Set("Content-Type", "text/calendar; charset=utf-8")
	w.Header().Set("Cache-Control", "no-store")
	w.Write(b)
}
