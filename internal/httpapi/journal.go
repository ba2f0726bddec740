package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"dogbolt/core/assess"
	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/schema"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/journal"
	"dogbolt/internal/rooms/people"
)

// EntriesBody is what is added to a log.
type EntriesBody struct {
	Entries []job.Entry   `json:"entries" minItems:"1" maxItems:"500"`
	Kept    *journal.Kept `json:"kept,omitempty" doc:"What the device knows of their time, where it kept them. Without it a time that has passed is not believed for work inside a board."`
}

// Grown is what became of a job whose log grew: only what is otherwise than before.
type Grown struct {
	Row     jobs.Summary   `json:"row"`
	Before  string         `json:"before" doc:"State of the job that this is to be put over: whoever has another opens the job anew."`
	State   string         `json:"state" doc:"State of the job now."`
	Added   []job.Entry    `json:"added" doc:"Entries as the log has them; those that it had already are left out."`
	Changed assess.Changed `json:"changed"`
}

type grownOutput struct{ Body Grown }

func grownOf(v jobs.View, err error) (*grownOutput, error) {
	if err != nil {
		return nil, err
	}
	out := Grown{Row: v.Summary, Before: v.Prior.State, State: v.State, Added: v.Added, Changed: v.Since(&v.Prior.Assessment)}
	if out.Added == nil {
		out.Added = []job.Entry{}
	}
	return &grownOutput{out}, nil
}

func (s *server) journalRoutes(api huma.API) {
	type entriesInput struct {
		JobPath
		Document
	}
	grow := func(ctx context.Context, p people.Person, in *entriesInput) (jobs.View, error) {
		var body EntriesBody
		if errs := schema.Of[EntriesBody]().Read("", in.RawBody, &body); len(errs) > 0 {
			return jobs.View{}, errs
		}
		return s.rooms.Journal.Append(ctx, p, in.ID, body.Entries, body.Kept)
	}
	growOp := op(http.MethodPost, "/api/jobs/{job}/log", "grow-log", "Add to the log, and tell what that changed")
	register[EntriesBody](api, growOp, as(func(ctx context.Context, p people.Person, in *entriesInput) (*grownOutput, error) {
		return grownOf(grow(ctx, p, in))
	}))
	// Pages of an older version are open for a while after an upgrade, and take the job.
	appendOp := op(http.MethodPost, "/api/jobs/{job}/entries", "append-entries", "Add to the log, and open the job")
	register[EntriesBody](api, appendOp, as(func(ctx context.Context, p people.Person, in *entriesInput) (*viewOutput, error) {
		if _, err := grow(ctx, p, in); err != nil {
			return nil, err
		}
		return viewOf(s.rooms.Jobs.Open(ctx, p, in.ID))
	}))
	type fileInput struct {
		JobPath
		RawBody []byte `contentType:"text/csv"`
	}
	huma.Register(
		api,
		op(http.MethodPost, "/api/jobs/{job}/readings", "import-readings", "Read in a readings file: all lines or none"),
		as(func(ctx context.Context, p people.Person, in *fileInput) (*viewOutput, error) {
			return viewOf(s.rooms.Journal.ImportReadings(ctx, p, in.ID, in.RawBody))
		}),
	)
	type previewOutput struct{ Body journal.FileView }
	huma.Register(
		api,
		op(http.MethodPost, "/api/jobs/{job}/readings/preview", "preview-readings", "What would become of each line of a readings file"),
		as(func(ctx context.Context, p people.Person, in *fileInput) (*previewOutput, error) {
			v, err := s.rooms.Journal.PreviewReadings(ctx, p, in.ID, in.RawBody)
			return &previewOutput{v}, err
		}),
	)
	type mappingsOutput struct{ Body []commission.Mapping }
	huma.Register(
		api,
		op(http.MethodGet, "/api/mappings", "list-mappings", "How instruments' own files are read"),
		as(func(ctx context.Context, p people.Person, _ *struct{}) (*mappingsOutput, error) {
			list, err := s.rooms.Journal.Mappings(ctx, p)
			return &mappingsOutput{list}, err
		}),
	)
	type mappingInput struct{ Body commission.Mapping }
	huma.Register(
		api,
		op(http.MethodPost, "/api/mappings", "save-mapping", "Keep how an instrument's own file is read"),
		as(func(ctx context.Context, p people.Person, in *mappingInput) (*mappingsOutput, error) {
			list, err := s.rooms.Journal.SaveMapping(ctx, p, in.Body)
			return &mappingsOutput{list}, err
		}),
	)
}
