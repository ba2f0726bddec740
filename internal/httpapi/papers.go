package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"dogbolt/core/clearance"
	"dogbolt/core/job"
	"dogbolt/internal/rooms/papers"
	"dogbolt/internal/rooms/people"
)

// PapersView is what the program says about the papers of a job.
type PapersView struct {
	Today     string                             `json:"today"`
	Proposals []clearance.Advice                 `json:"proposals"`
	Blocking  map[job.Before][]clearance.Blocker `json:"blocking" doc:"By event: what holds it up."`
	Timeline  []clearance.Span                   `json:"timeline"`
	ToCome    []clearance.Coming                 `json:"toCome" doc:"What comes after the work and is not done."`
	Checks    map[string]clearance.Check         `json:"checks" doc:"By paper: its form filled and judged."`
	Forms     map[string][]clearance.Titled      `json:"forms" doc:"By paper: forms that there are for it."`
	Mail      bool                               `json:"mail" doc:"Mails can be sent."`
	Desk      bool                               `json:"desk" doc:"Answers can be fetched."`
}

// FileFacts is what is known about a file.
type FileFacts struct {
	Digest string `json:"digest"`
	Name   string `json:"name"`
	Type   string `json:"type"`
	Width  int    `json:"width"`
	Height int    `json:"height"`
	Pages  int    `json:"pages"`
	Bytes  int    `json:"bytes"`
	Fault  string `json:"fault,omitempty" doc:"Why it cannot be read."`
}

// PaperPath names a paper of a job.
type PaperPath struct {
	JobPath
	Paper string `path:"paper" maxLength:"40"`
}

func (s *server) paperRoutes(api huma.API) {
	type papersOutput struct{ Body PapersView }
	huma.Register(
		api,
		op(http.MethodGet, "/api/jobs/{job}/papers", "judge-papers", "Which papers the job needs, what they hold up, and whether their forms would bounce"),
		as(func(ctx context.Context, p people.Person, in *JobPath) (*papersOutput, error) {
			v, err := s.rooms.Papers.Papers(ctx, p, in.ID)
			return &papersOutput{PapersView(v)}, err
		}),
	)
	type takeInput struct {
		JobPath
		Body struct {
			Revision int `json:"revision" minimum:"0" doc:"Revision of the clearances that the person has seen."`
		}
	}
	huma.Register(
		api,
		op(http.MethodPost, "/api/jobs/{job}/papers", "take-papers", "Take over what the rulebook proposes"),
		as(func(ctx context.Context, p people.Person, in *takeInput) (*viewOutput, error) {
			return viewOf(s.rooms.Papers.TakePapers(ctx, p, in.ID, in.Body.Revision))
		}),
	)
	type sendInput struct {
		PaperPath
		Body struct {
			Anyway string `json:"anyway,omitempty" maxLength:"500" doc:"Why it is sent although it would bounce."`
		}
	}
	huma.Register(
		api,
		op(http.MethodPost, "/api/jobs/{job}/papers/{paper}/send", "send-paper", "Send a paper's package by mail"),
		as(func(ctx context.Context, p people.Person, in *sendInput) (*viewOutput, error) {
			return viewOf(s.rooms.Papers.SendPaper(ctx, p, in.ID, in.Paper, in.Body.Anyway))
		}),
	)
	type moveInput struct {
		PaperPath
		Body struct {
			Event job.PaperEvent `json:"event"`
			Day   string         `json:"day" format:"date" doc:"When it happened, by the calendar of the site."`
			Words string         `json:"words,omitempty" maxLength:"500" doc:"Its reference; why it was sent back or is not needed."`
		}
	}
	huma.Register(
		api,
		op(http.MethodPost, "/api/jobs/{job}/papers/{paper}/after", "move-paper", "What became of a paper after the record was sealed"),
		as(func(ctx context.Context, p people.Person, in *moveInput) (*viewOutput, error) {
			return viewOf(s.rooms.Papers.MovePaper(ctx, p, in.ID, papers.Move{Paper: in.Paper, Event: in.Body.Event, Day: in.Body.Day, Words: in.Body.Words}))
		}),
	)
	type formInput struct {
		PaperPath
		Kind papers.FormKind `path:"kind"`
	}
	huma.Register(
		api,
		sending(
			op(http.MethodGet, "/api/jobs/{job}/papers/{paper}/form/{kind}", "get-form", "The filled form, or with all its files as a package"),
			typePDF,
			typeJSON,
			typeCSV,
			typeZIP,
		),
		as(func(ctx context.Context, p people.Person, in *formInput) (*download, error) {
			f, err := s.rooms.Papers.PaperForm(ctx, p, in.ID, in.Paper, in.Kind)
			return saveAs(f.Type, f.Name, f.Data), err
		}),
	)
	type fileInput struct {
		JobPath
		Name    string `query:"name" minLength:"1" maxLength:"120"`
		RawBody []byte `contentType:"application/octet-stream"`
	}
	type fileOutput struct{ Body FileFacts }
	huma.Register(
		api,
		op(http.MethodPost, "/api/jobs/{job}/files", "add-file", "Keep a file that goes with a paper"),
		as(func(ctx context.Context, p people.Person, in *fileInput) (*fileOutput, error) {
			f, err := s.rooms.Papers.AddFile(ctx, p, in.ID, in.Name, in.RawBody)
			return &fileOutput{FileFacts{f.Digest, f.Name, f.Type, f.Width, f.Height, f.Pages, f.Bytes, f.Fault}}, err
		}),
	)
	huma.Register(
		api,
		op(http.MethodPost, "/api/jobs/{job}/package", "keep-package", "Print the package of the design, and keep it as a file that goes with a paper"),
		as(func(ctx context.Context, p people.Person, in *JobPath) (*fileOutput, error) {
			made, err := s.rooms.Records.DesignPackage(ctx, p, in.ID)
			if err != nil {
				return nil, err
			}
			f, err := s.rooms.Papers.AddFile(ctx, p, in.ID, made.Name, made.Data)
			return &fileOutput{FileFacts{f.Digest, f.Name, f.Type, f.Width, f.Height, f.Pages, f.Bytes, f.Fault}}, err
		}),
	)
	huma.Register(
		api,
		sending(op(http.MethodGet, "/api/jobs/{job}/package", "get-package", "The package of the design, for who decides before the work"), typePDF),
		as(func(ctx context.Context, p people.Person, in *JobPath) (*download, error) {
			made, err := s.rooms.Records.DesignPackage(ctx, p, in.ID)
			return saveAs(made.Type, made.Name, made.Data), err
		}),
	)
	type digestInput struct {
		JobPath
		Digest string `path:"digest" pattern:"^[0-9a-f]{64}$"`
	}
	huma.Register(
		api,
		sending(op(http.MethodGet, "/api/jobs/{job}/files/{digest}", "get-file", "A file of a job"), typePDF, typeJPEG, typePNG),
		as(func(ctx context.Context, p people.Person, in *digestInput) (*download, error) {
			f, b, err := s.rooms.Papers.File(ctx, p, in.ID, in.Digest)
			return saveAs(f.Type, f.Name, b), err
		}),
	)
	type answersOutput struct {
		Body struct {
			Answered int `json:"answered"`
		}
	}
	huma.Register(
		api,
		op(http.MethodPost, "/api/papers/answers", "fetch-answers", "Ask for the answers to papers that were sent"),
		as(func(ctx context.Context, p people.Person, _ *struct{}) (*answersOutput, error) {
			out := &answersOutput{}
			var err error
			out.Body.Answered, err = s.rooms.Papers.FetchAnswers(ctx, p)
			return out, err
		}),
	)
	type dueInput struct {
		Days int `query:"days" minimum:"0" maximum:"366" default:"7"`
	}
	type dueOutput struct{ Body []papers.Due }
	huma.Register(
		api,
		op(http.MethodGet, "/api/papers/due", "list-due", "What is late or due about papers, over all jobs"),
		as(func(ctx context.Context, p people.Person, in *dueInput) (*dueOutput, error) {
			l, err := s.rooms.Papers.DuePapers(ctx, p, in.Days)
			return &dueOutput{append([]papers.Due{}, l...)}, err
		}),
	)
	type formsOutput struct{ Body []clearance.Definition }
	huma.Register(
		api,
		op(http.MethodGet, "/api/forms", "list-forms", "Definitions of papers"),
		as(func(ctx context.Context, p people.Person, _ *struct{}) (*formsOutput, error) {
			l, err := s.rooms.Papers.Forms(ctx, p)
			return &formsOutput{append([]clearance.Definition{}, l...)}, err
		}),
	)
	type definitionInput struct {
		RawBody []byte `contentType:"application/octet-stream"`
	}
	huma.Register(
		api,
		op(http.MethodPut, "/api/forms", "add-form", "Read in the definition of a paper"),
		as(func(ctx context.Context, p people.Person, in *definitionInput) (*formsOutput, error) {
			l, err := s.rooms.Papers.AddForm(ctx, p, in.RawBody)
			return &formsOutput{append([]clearance.Definition{}, l...)}, err
		}),
	)
}
