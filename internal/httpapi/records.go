package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"dogbolt/core/charger"
	"dogbolt/core/record"
	"dogbolt/core/rulebook"
	"dogbolt/internal/rooms/firm"
	"dogbolt/internal/rooms/people"
)

// Preview is a paper as it would be sealed now.
type Preview struct {
	Title  string         `json:"title"`
	Blocks []PreviewBlock `json:"blocks"`
}

// PreviewBlock is one part of a previewed paper.
type PreviewBlock struct {
	Heading  string      `json:"heading"`
	Text     []string    `json:"text,omitempty"`
	Caution  bool        `json:"caution,omitempty"`
	Pairs    [][2]string `json:"pairs,omitempty"`
	Columns  []string    `json:"columns,omitempty"`
	Rows     [][]string  `json:"rows,omitempty"`
	Verdicts []string    `json:"verdicts,omitempty"`
	Diagram  string      `json:"diagram,omitempty" doc:"Point whose one-line diagram goes here."`
}

func preview(d record.Document) Preview {
	p := Preview{Title: d.Title, Blocks: make([]PreviewBlock, len(d.Blocks))}
	for i, b := range d.Blocks {
		pb := PreviewBlock{Heading: b.Heading, Text: b.Text, Caution: b.Caution, Pairs: b.Pairs, Diagram: b.Diagram}
		if b.Table != nil {
			for _, c := range b.Table.Columns {
				pb.Columns = append(pb.Columns, c.Title)
			}
			pb.Rows, pb.Verdicts = b.Table.Rows, b.Table.Verdicts
		}
		p.Blocks[i] = pb
	}
	return p
}

func (s *server) recordRoutes(api huma.API) {
	huma.Register(api, op(http.MethodPost, "/api/jobs/{job}/seal", "seal-job", "Seal a job as a new issue"), as(func(ctx context.Context, p people.Person, in *JobPath) (*viewOutput, error) {
		return viewOf(s.rooms.Records.Seal(ctx, p, in.ID))
	}))
	type amendInput struct {
		JobPath
		Body struct {
			Reason string `json:"reason" maxLength:"1000"`
		}
	}
	huma.Register(api, op(http.MethodPost, "/api/jobs/{job}/amend", "amend-job", "Open a sealed job for a new issue"), as(func(ctx context.Context, p people.Person, in *amendInput) (*viewOutput, error) {
		return viewOf(s.rooms.Records.Amend(ctx, p, in.ID, in.Body.Reason))
	}))
	type previewInput struct {
		JobPath
		Kind string `path:"kind" enum:"inspection,handover"`
	}
	type previewOutput struct{ Body Preview }
	huma.Register(api, op(http.MethodGet, "/api/jobs/{job}/preview/{kind}", "preview-paper", "A paper as it would be sealed now"), as(func(ctx context.Context, p people.Person, in *previewInput) (*previewOutput, error) {
		d, err := s.rooms.Records.Preview(ctx, p, in.ID, in.Kind)
		return &previewOutput{preview(d)}, err
	}))
	type paperInput struct {
		JobPath
		Issue int    `path:"issue" minimum:"1"`
		Kind  string `path:"kind" enum:"inspection,handover,record"`
	}
	type paperOutput struct {
		ContentType string `header:"Content-Type"`
		Disposition string `header:"Content-Disposition"`
		Body        []byte
	}
	huma.Register(api, sending(op(http.MethodGet, "/api/jobs/{job}/records/{issue}/{kind}", "get-paper", "A file of a sealed issue"), typePDF, typeJSON), as(func(ctx context.Context, p people.Person, in *paperInput) (*paperOutput, error) {
		f, err := s.rooms.Records.Paper(ctx, p, in.ID, in.Issue, in.Kind)
		return &paperOutput{f.Type, `attachment; filename="` + f.Name + `"`, f.Data}, err
	}))
	type verifyInput struct {
		RawBody []byte `contentType:"application/octet-stream"`
	}
	type verifyOutput struct{ Body VerifyResult }
	huma.Register(api, op(http.MethodPost, "/api/verify", "verify-file", "Check a sealed PDF or JSON file"), as(func(ctx context.Context, p people.Person, in *verifyInput) (*verifyOutput, error) {
		return &verifyOutput{verify(ctx, s.rooms, in.RawBody)}, nil
	}))
}

// Firm is the contractor's data.
type Firm struct {
	record.Contractor
	Key         string `json:"key" readOnly:"true" required:"false" doc:"Public key that records are checked with."`
	Fingerprint string `json:"fingerprint" readOnly:"true" required:"false"`
}

func (s *server) firmRoutes(api huma.API) {
	type firmOutput struct{ Body Firm }
	huma.Register(api, op(http.MethodGet, "/api/firm", "get-firm", "The firm's data"), as(func(ctx context.Context, p people.Person, _ *struct{}) (*firmOutput, error) {
		c, err := s.rooms.Firm.Contractor(ctx, p)
		if err != nil {
			return nil, err
		}
		key, fp, err := s.rooms.Firm.PublicKey(ctx)
		return &firmOutput{Firm{c, key, fp}}, err
	}))
	type firmInput struct{ Body record.Contractor }
	huma.Register(api, op(http.MethodPut, "/api/firm", "set-firm", "Change the firm's data"), as(func(ctx context.Context, p people.Person, in *firmInput) (*struct{}, error) {
		return nil, s.rooms.Firm.SetContractor(ctx, p, in.Body)
	}))
	type booksOutput struct{ Body []Book }
	huma.Register(api, op(http.MethodGet, "/api/rulebooks", "list-rulebooks", "Editions that jobs can be judged by"), as(func(context.Context, people.Person, *struct{}) (*booksOutput, error) {
		out := &booksOutput{}
		for _, b := range rulebook.All() {
			out.Body = append(out.Body, book(b))
		}
		return out, nil
	}))
	type chargersOutput struct{ Body []firm.ChargerType }
	huma.Register(api, op(http.MethodGet, "/api/chargers", "list-chargers", "Charger types: the house's own, and samples"), as(func(ctx context.Context, p people.Person, _ *struct{}) (*chargersOutput, error) {
		list, err := s.rooms.Firm.ChargerTypes(ctx, p)
		return &chargersOutput{list}, err
	}))
	type typesOutput struct{ Body []charger.Type }
	huma.Register(api, op(http.MethodGet, "/api/charger-types", "list-own-chargers", "The house's own charger types"), as(func(ctx context.Context, p people.Person, _ *struct{}) (*typesOutput, error) {
		list, err := s.rooms.Firm.OwnTypes(ctx, p)
		return &typesOutput{list}, err
	}))
	type typesInput struct {
		RawBody []byte `contentType:"application/octet-stream"`
	}
	huma.Register(api, op(http.MethodPut, "/api/charger-types", "read-chargers", "Read in the house's own charger types: all or none"), as(func(ctx context.Context, p people.Person, in *typesInput) (*typesOutput, error) {
		list, err := s.rooms.Firm.ReadTypes(ctx, p, in.RawBody)
		return &typesOutput{list}, err
	}))
}
