package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"dogbolt/core/charger"
	"dogbolt/core/record"
	"dogbolt/core/rulebook"
	"dogbolt/core/sizing"
	"dogbolt/internal/rooms/firm"
	"dogbolt/internal/rooms/people"
)

// Firm is the contractor's data.
type Firm struct {
	record.Contractor
	Key         string `json:"key" readOnly:"true" required:"false" doc:"Public key that records are checked with."`
	Fingerprint string `json:"fingerprint" readOnly:"true" required:"false"`
}

func (s *server) firmRoutes(api huma.API) {
	type firmOutput struct{ Body Firm }
	huma.Register(
		api,
		op(http.MethodGet, "/api/firm", "get-firm", "The firm's data"),
		as(func(ctx context.Context, p people.Person, _ *struct{}) (*firmOutput, error) {
			c, err := s.rooms.Firm.Contractor(ctx, p)
			if err != nil {
				return nil, err
			}
			key, fp, err := s.rooms.Firm.PublicKey(ctx)
			return &firmOutput{Firm{c, key, fp}}, err
		}),
	)
	type firmInput struct{ Body record.Contractor }
	huma.Register(
		api,
		op(http.MethodPut, "/api/firm", "set-firm", "Change the firm's data"),
		as(func(ctx context.Context, p people.Person, in *firmInput) (*struct{}, error) {
			return nil, s.rooms.Firm.SetContractor(ctx, p, in.Body)
		}),
	)
	type booksOutput struct{ Body []Book }
	huma.Register(
		api,
		op(http.MethodGet, "/api/rulebooks", "list-rulebooks", "Editions that jobs can be judged by"),
		as(func(context.Context, people.Person, *struct{}) (*booksOutput, error) {
			out := &booksOutput{}
			for _, b := range rulebook.All() {
				out.Body = append(out.Body, book(b))
			}
			return out, nil
		}),
	)
	type chargersOutput struct{ Body []firm.ChargerType }
	huma.Register(
		api,
		op(http.MethodGet, "/api/chargers", "list-chargers", "Charger types: the firm's own, and samples"),
		as(func(ctx context.Context, p people.Person, _ *struct{}) (*chargersOutput, error) {
			list, err := s.rooms.Firm.ChargerTypes(ctx, p)
			return &chargersOutput{list}, err
		}),
	)
	type typesOutput struct{ Body []charger.Type }
	huma.Register(
		api,
		op(http.MethodGet, "/api/charger-types", "list-own-chargers", "The firm's own charger types"),
		as(func(ctx context.Context, p people.Person, _ *struct{}) (*typesOutput, error) {
			list, err := s.rooms.Firm.OwnTypes(ctx, p)
			return &typesOutput{list}, err
		}),
	)
	type typesInput struct {
		RawBody []byte `contentType:"application/octet-stream"`
	}
	huma.Register(
		api,
		op(http.MethodPut, "/api/charger-types", "read-chargers", "Read in the firm's own charger types: all or none"),
		as(func(ctx context.Context, p people.Person, in *typesInput) (*typesOutput, error) {
			list, err := s.rooms.Firm.ReadTypes(ctx, p, in.RawBody)
			return &typesOutput{list}, err
		}),
	)
}

func (s *server) policyRoutes(api huma.API) {
	type policyBody struct{ Body firm.Policy }
	huma.Register(
		api,
		op(http.MethodGet, "/api/firm/policy", "get-policy", "What the firm has settled"),
		as(func(ctx context.Context, p people.Person, _ *struct{}) (*policyBody, error) {
			h, err := s.rooms.Firm.Policy(ctx, p)
			return &policyBody{h}, err
		}),
	)
	huma.Register(
		api,
		op(http.MethodPut, "/api/firm/policy", "set-policy", "Change what the firm has settled"),
		as(func(ctx context.Context, p people.Person, in *policyBody) (*struct{}, error) {
			return nil, s.rooms.Firm.SetPolicy(ctx, p, in.Body)
		}),
	)
	type pricesOutput struct{ Body []sizing.PriceList }
	huma.Register(
		api,
		op(http.MethodGet, "/api/prices", "list-prices", "The contractor's price lists"),
		as(func(ctx context.Context, p people.Person, _ *struct{}) (*pricesOutput, error) {
			l, err := s.rooms.Firm.Prices(ctx, p)
			return &pricesOutput{append([]sizing.PriceList{}, l...)}, err
		}),
	)
	type csvInput struct {
		RawBody []byte `contentType:"text/csv"`
	}
	huma.Register(
		api,
		op(http.MethodPut, "/api/prices", "set-prices", "Read in a price list: all rows or none"),
		as(func(ctx context.Context, p people.Person, in *csvInput) (*pricesOutput, error) {
			l, err := s.rooms.Firm.SetPrices(ctx, p, in.RawBody)
			return &pricesOutput{l}, err
		}),
	)
	type csvOutput struct {
		ContentType string `header:"Content-Type"`
		Disposition string `header:"Content-Disposition"`
		Body        []byte
	}
	type currencyInput struct {
		Currency string `query:"currency" maxLength:"3"`
	}
	huma.Register(
		api,
		sending(op(http.MethodGet, "/api/prices.csv", "export-prices", "A price list as CSV"), typeCSV),
		as(func(ctx context.Context, p people.Person, in *currencyInput) (*csvOutput, error) {
			b, err := s.rooms.Firm.ExportPrices(ctx, p, in.Currency)
			return &csvOutput{"text/csv; charset=utf-8", `attachment; filename="prices.csv"`, b}, err
		}),
	)
}
