package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"dogbolt/core/charging"
	"dogbolt/core/demand"
	"dogbolt/core/job"
	"dogbolt/core/loadmgmt"
	"dogbolt/core/quantity"
	"dogbolt/core/rulebook"
	"dogbolt/core/sizing"
	"dogbolt/internal/document"
	"dogbolt/internal/rooms/people"
)

func (s *server) designRoutes(api huma.API) {
	type optionsInput struct {
		PointPath
		Setting float64 `query:"setting" minimum:"0" maximum:"200"`
		Breaker float64 `query:"breaker" minimum:"0" maximum:"400"`
		Drop    float64 `query:"drop" minimum:"0" maximum:"0.1" doc:"Greatest drop, share of the voltage; 0 takes the rulebook's."`
	}
	type optionsOutput struct {
		Body struct {
			Options  []sizing.Option `json:"options"`
			Currency string          `json:"currency" doc:"Of the price list; empty where nothing is priced."`
		}
	}
	huma.Register(
		api,
		op(http.MethodGet, "/api/jobs/{job}/points/{point}/options", "list-options", "Try every conductor"),
		as(func(ctx context.Context, p people.Person, in *optionsInput) (*optionsOutput, error) {
			list, currency, err := s.rooms.Workings.Options(ctx, p, in.ID, in.Point, quantity.Ampere(in.Setting), quantity.Ampere(in.Breaker), in.Drop)
			out := &optionsOutput{}
			out.Body.Currency = currency
			out.Body.Options = append([]sizing.Option{}, list...)
			return out, err
		}),
	)
	type oneLineOutput struct {
		Body struct {
			SVG    string             `json:"svg"`
			Width  float64            `json:"width" doc:"Of the drawing, in its own units."`
			Height float64            `json:"height"`
			Parts  []document.Element `json:"parts" doc:"Its elements, from the supply to the charger."`
		}
	}
	huma.Register(
		api,
		op(http.MethodGet, "/api/jobs/{job}/points/{point}/one-line", "one-line", "One-line diagram as SVG"),
		as(func(ctx context.Context, p people.Person, in *PointPath) (*oneLineOutput, error) {
			d, err := s.rooms.Workings.OneLine(ctx, p, in.ID, in.Point)
			if err != nil {
				return nil, err
			}
			out := &oneLineOutput{}
			out.Body.SVG, out.Body.Width, out.Body.Height, out.Body.Parts = d.SVG(), d.Width, d.Height, d.Parts
			return out, nil
		}),
	)
	type intervalInput struct {
		JobPath
		RawBody []byte `contentType:"text/csv"`
	}
	type intervalOutput struct{ Body demand.Interval }
	huma.Register(
		api,
		op(http.MethodPost, "/api/jobs/{job}/interval", "read-interval", "Highest demand of a meter's interval data"),
		as(func(ctx context.Context, p people.Person, in *intervalInput) (*intervalOutput, error) {
			d, err := s.rooms.Workings.ReadInterval(ctx, p, in.ID, in.RawBody)
			return &intervalOutput{d}, err
		}),
	)
	type nightInput struct {
		JobPath
		Mode loadmgmt.Mode `query:"mode" default:"managed"`
	}
	type nightOutput struct {
		Body struct {
			Ways    []loadmgmt.Way `json:"ways" doc:"Ways to live with the supply, side by side."`
			Metered bool           `json:"metered" doc:"The house is the meter's own day, not habits of appliances."`
			Plot    string         `json:"plot" doc:"SVG of the mode that was asked for."`
			Missing string         `json:"missing" doc:"What is needed to simulate the night, where something is."`
		}
	}
	huma.Register(
		api,
		op(http.MethodGet, "/api/jobs/{job}/night", "simulate-night", "A cold night with and without load management"),
		as(func(ctx context.Context, p people.Person, in *nightInput) (*nightOutput, error) {
			n, err := s.rooms.Workings.Night(ctx, p, in.ID, in.Mode)
			out := &nightOutput{}
			out.Body.Ways, out.Body.Metered = append([]loadmgmt.Way{}, n.Ways...), n.Metered
			out.Body.Plot, out.Body.Missing = n.Plot, n.Missing
			return out, err
		}),
	)
	type partsOutput struct{ Body []job.Part }
	huma.Register(
		api,
		op(http.MethodGet, "/api/jobs/{job}/parts", "propose-parts", "Parts that the design needs"),
		as(func(ctx context.Context, p people.Person, in *JobPath) (*partsOutput, error) {
			list, err := s.rooms.Workings.ProposeParts(ctx, p, in.ID)
			return &partsOutput{append([]job.Part{}, list...)}, err
		}),
	)
}

func (s *server) answerRoutes(api huma.API) {
	type arrangementsOutput struct{ Body []rulebook.Arrangement }
	huma.Register(
		api,
		op(http.MethodGet, "/api/jobs/{job}/points/{point}/arrangements", "list-arrangements", "Answers to the design's decisions, judged by their rules"),
		as(func(ctx context.Context, p people.Person, in *PointPath) (*arrangementsOutput, error) {
			l, err := s.rooms.Workings.Arrangements(ctx, p, in.ID, in.Point)
			return &arrangementsOutput{append([]rulebook.Arrangement{}, l...)}, err
		}),
	)
	type takeOverInput struct {
		JobPath
		Body struct {
			Rule   string `json:"rule" minLength:"1" maxLength:"60" doc:"Rule whose finding offers it."`
			Point  string `json:"point,omitempty" maxLength:"8" doc:"Its point, where it is of one."`
			Answer string `json:"answer" minLength:"1" maxLength:"200" doc:"The offer, in its words."`
		}
	}
	huma.Register(
		api,
		op(http.MethodPost, "/api/jobs/{job}/take-over", "take-over", "Take a finding's remedy into the design"),
		as(func(ctx context.Context, p people.Person, in *takeOverInput) (*viewOutput, error) {
			return viewOf(s.rooms.Jobs.TakeOver(ctx, p, in.ID, in.Body.Rule, in.Body.Point, in.Body.Answer))
		}),
	)
	type costsOutput struct{ Body charging.Comparison }
	huma.Register(
		api,
		op(http.MethodGet, "/api/jobs/{job}/points/{point}/costs", "compare-costs", "Power, time and cost of charging"),
		as(func(ctx context.Context, p people.Person, in *PointPath) (*costsOutput, error) {
			c, err := s.rooms.Workings.Costs(ctx, p, in.ID, in.Point)
			return &costsOutput{c}, err
		}),
	)
}
