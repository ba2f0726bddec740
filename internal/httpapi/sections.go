package httpapi

import (
	"context"
	"encoding/json"
	"net/http"
	"reflect"

	"github.com/danielgtaylor/huma/v2"

	"dogbolt/core/job"
	"dogbolt/core/schema"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/people"
)

// SaveBody is a section with the revision that its writer has seen.
type SaveBody[T any] struct {
	Revision int          `json:"revision" minimum:"0" maximum:"1000000000" doc:"Revision of the section when it was read."`
	Section  T            `json:"section" doc:"The section."`
	Base     *T           `json:"base,omitempty" doc:"The section as it was read: what somebody else saved meanwhile is joined field by field."`
	Choices  []job.Choice `json:"choices,omitempty" maxItems:"200" doc:"How fields that clashed before are settled."`
	Partly   bool         `json:"partly,omitempty" doc:"Keep the fields that can be kept, and answer with those that cannot; else all is refused where one is."`
}

// saveParts is a SaveBody whose section is read by the definition of the job.
type saveParts struct {
	Revision int             `json:"revision" minimum:"0" maximum:"1000000000"`
	Section  json.RawMessage `json:"section,omitempty"`
	Sheet    json.RawMessage `json:"sheet,omitempty" doc:"What a page that was opened before the upgrade calls the section."`
	Base     json.RawMessage `json:"base,omitempty"`
	Choices  []job.Choice    `json:"choices,omitempty" maxItems:"200"`
	Partly   bool            `json:"partly,omitempty"`
}

func saveRoute[T any](s *server, api huma.API, section job.SectionName) {
	type input struct {
		JobPath
		Document
	}
	name := string(section)
	o := op(http.MethodPut, "/api/jobs/{job}/"+name, "save-"+name, "Save the "+name)
	register[SaveBody[T]](api, o, as(func(ctx context.Context, p people.Person, in *input) (*viewOutput, error) {
		var body saveParts
		if errs := schema.Of[saveParts]().Read("", in.RawBody, &body); len(errs) > 0 {
			return nil, errs
		}
		if body.Section == nil {
			body.Section = body.Sheet
		}
		if body.Section == nil {
			return nil, schema.Invalid("section", "is missing")
		}
		return viewOf(s.rooms.Jobs.SaveSection(ctx, p, in.ID, section, jobs.Edit{
			Seen: body.Revision, Body: body.Section, Base: body.Base, Choices: body.Choices, Partly: body.Partly,
		}))
	}))
}

// Document is the body of an operation that is read by the definition of the job,
// so that it refuses what a job file would be refused for, in the same words.
type Document struct {
	RawBody []byte `contentType:"application/json"`
}

// register registers an operation with a Document as its body and describes it as
// the type T.
func register[T, In, Out any](api huma.API, o huma.Operation, f func(context.Context, *In) (*Out, error)) {
	o.SkipValidateBody = true
	huma.Register(api, o, f)
	item := api.OpenAPI().Paths[o.Path]
	for _, known := range []*huma.Operation{item.Put, item.Post} {
		if known != nil && known.OperationID == o.OperationID {
			known.RequestBody.Content["application/json"].Schema = api.OpenAPI().Components.Schemas.Schema(reflect.TypeFor[T](), true, o.OperationID)
		}
	}
}
