package httpapi

import (
	"bytes"
	"context"
	"crypto/rand"
	"net/http"
	"reflect"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	lru "github.com/hashicorp/golang-lru/v2"

	"dogbolt/core/assess"
	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/record"
	"dogbolt/core/rulebook"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/store"
)

// JobView is a job opened, with everything that follows from it.
type JobView struct {
	Row       jobs.Summary           `json:"row"`
	Job       job.Job                `json:"job"`
	Revisions map[string]int         `json:"revisions" doc:"Revision of each section, to be sent back when saving it."`
	Editors   map[string]jobs.Editor `json:"editors"`
	Book      Book                   `json:"book"`
	assess.Assessment
	Policy   assess.WorkPolicy `json:"policy" doc:"What the firm has settled about work on site, for judging on a device without signal."`
	Records  []Issue           `json:"records"`
	Amending string            `json:"amending" doc:"Reason of the amendment that is open, if one is."`
	Held     []HeldField       `json:"held,omitempty" doc:"After saving a section in part: the fields that could not be kept."`
	State    string            `json:"state" doc:"Mark of what the assessment follows from."`
}

// HeldField is a field that could not be kept with the rest of its section.
type HeldField struct {
	Field   string `json:"field" doc:"Its place in the job document."`
	Title   string `json:"title" doc:"What it is, in words."`
	Message string `json:"message" doc:"Why it could not be kept."`
}

// Book is a rulebook as pages name it.
type Book struct {
	ID      string            `json:"id"`
	Name    string            `json:"name"`
	Short   string            `json:"short" doc:"As lists name it."`
	Country string            `json:"country" doc:"Name of the country."`
	Notice  string            `json:"notice"`
	Page    jurisdiction.Page `json:"practice" doc:"What pages take from the country."`
}

func book(b *rulebook.Book) Book {
	return Book{ID: b.ID, Name: b.Name, Short: b.Short, Country: b.In.Name, Notice: strings.Join(b.Editions(), " "), Page: b.In.Page()}
}

type viewOutput struct{ Body JobView }

func viewOf(v jobs.View, err error) (*viewOutput, error) {
	if err != nil {
		return nil, err
	}
	out := JobView{
		Row: v.Summary, Job: v.Job, Revisions: v.Revisions, Editors: v.Editors, Book: book(v.Book),
		Assessment: v.Assessment, Policy: v.Policy, Records: []Issue{}, Amending: v.Amending, State: v.State,
	}
	out.Book.Page.Usual = v.Book.In.Survey.UsualBy(v.Policy.Answers[v.Book.In.ID])
	for _, e := range v.Held {
		out.Held = append(out.Held, HeldField{e.Field, job.Named(e.Field), e.Message})
	}
	for _, r := range v.Records {
		i := Issue{Issue: r.Issue, Digest: r.Digest, Code: record.Code(r.Digest), SealedAt: r.SealedAt, SealedBy: r.SealedBy, Certified: r.Certified}
		if r.Replaces != "" {
			i.Replaces = record.Code(r.Replaces)
		}
		out.Records = append(out.Records, i)
	}
	return &viewOutput{out}, nil
}

// openOutput is a job opened, as it goes out.
type openOutput struct {
	Type string `header:"Content-Type" hidden:"true"`
	Tag  string `header:"ETag" hidden:"true"`
	Body []byte
}

// mostOpened is how many jobs stay encoded in memory. Common practice, no source.
const mostOpened = 24

// opened are the jobs that were opened last, encoded, by the mark of what they follow from.
type opened struct {
	run    string // of this run of the program: another encodes otherwise
	bodies *lru.Cache[string, []byte]
}

func newOpened() *opened {
	bodies, _ := lru.New[string, []byte](mostOpened) // never fails for a size above 0
	return &opened{rand.Text()[:8], bodies}
}

// answer returns a job as it goes out. What nobody changed is not encoded again.
func (o *opened) answer(v jobs.View, err error) (*openOutput, error) {
	view, err := viewOf(v, err)
	if err != nil {
		return nil, err
	}
	out := &openOutput{Type: "application/json", Tag: `W/"` + o.run + v.State + `"`}
	var ok bool
	if out.Body, ok = o.bodies.Get(v.State); ok {
		return out, nil
	}
	var b bytes.Buffer
	if err := huma.DefaultJSONFormat.Marshal(&b, view.Body); err != nil {
		return nil, err
	}
	out.Body = b.Bytes()
	o.bodies.Add(v.State, out.Body)
	return out, nil
}

// JobPath names a job by its id.
type JobPath struct {
	ID string `path:"job" maxLength:"64"`
}

// PointPath names a charging point of a job.
type PointPath struct {
	JobPath
	Point string `path:"point" maxLength:"8"`
}

func (s *server) jobRoutes(api huma.API) {
	type listInput struct {
		Search string      `query:"search" maxLength:"120" doc:"Words of number, customer or address."`
		Stage  job.Stage   `query:"stage"`
		InWay  store.InWay `query:"inWay" doc:"What stands in the way of sealing."`
		Limit  int         `query:"limit" minimum:"1" maximum:"200" default:"50"`
		After  string      `query:"after" maxLength:"64" doc:"Where the list goes on: next of the part before."`
	}
	type listOutput struct{ Body jobs.List }
	huma.Register(
		api,
		op(http.MethodGet, "/api/jobs", "list-jobs", "List jobs by next date"),
		as(func(ctx context.Context, p people.Person, in *listInput) (*listOutput, error) {
			list, err := s.rooms.Jobs.Jobs(
				ctx,
				p,
				store.Filter{Search: in.Search, Stage: string(in.Stage), InWay: in.InWay, Limit: in.Limit, After: store.ParsePlace(in.After)},
			)
			return &listOutput{list}, err
		}),
	)
	type newInput struct {
		Body struct {
			Number   string   `json:"number,omitempty" maxLength:"40" doc:"Left out: the next free one."`
			Rulebook string   `json:"rulebook"`
			Points   int      `json:"points" doc:"Charging points."`
			From     string   `json:"from,omitempty" maxLength:"40" doc:"Id of a job at the same site that it begins from, as that one left it; points and site are that one's then."`
			Kind     job.Kind `json:"kind,omitempty" doc:"What the work on each of them is. Left out: a charger on a circuit of its own."`
			Site     job.Site `json:"site"`
		}
	}
	huma.Register(
		api,
		op(http.MethodPost, "/api/jobs", "create-job", "Make a job"),
		as(func(ctx context.Context, p people.Person, in *newInput) (*viewOutput, error) {
			return viewOf(
				s.rooms.Jobs.CreateJob(ctx, p, jobs.NewJob{
					Number: in.Body.Number, Rulebook: in.Body.Rulebook, Points: in.Body.Points, Kind: in.Body.Kind, From: in.Body.From, Site: in.Body.Site,
				}),
			)
		}),
	)
	type importInput struct {
		RawBody []byte `contentType:"application/octet-stream"`
	}
	huma.Register(
		api,
		op(http.MethodPost, "/api/jobs/import", "import-job", "Make a job from a job file"),
		as(func(ctx context.Context, p people.Person, in *importInput) (*viewOutput, error) {
			return viewOf(s.rooms.Jobs.Import(ctx, p, in.RawBody))
		}),
	)
	open := op(http.MethodGet, "/api/jobs/{job}", "open-job", "Open a job with its findings")
	view := api.OpenAPI().Components.Schemas.Schema(reflect.TypeFor[JobView](), true, open.OperationID)
	open.Responses = map[string]*huma.Response{"200": {Content: map[string]*huma.MediaType{"application/json": {Schema: view}}}}
	huma.Register(
		api,
		open,
		as(func(ctx context.Context, p people.Person, in *JobPath) (*openOutput, error) {
			return s.opened.answer(s.rooms.Jobs.Open(ctx, p, in.ID))
		}),
	)
	type mineOutput struct{ Body []jobs.Summary }
	huma.Register(
		api,
		op(http.MethodGet, "/api/mine", "list-mine", "Jobs that this person's device should carry"),
		as(func(ctx context.Context, p people.Person, _ *struct{}) (*mineOutput, error) {
			list, err := s.rooms.Jobs.Mine(ctx, p)
			return &mineOutput{list}, err
		}),
	)
	type bookInput struct {
		JobPath
		Body struct {
			Rulebook string `json:"rulebook"`
		}
	}
	huma.Register(
		api,
		op(http.MethodPut, "/api/jobs/{job}/rulebook", "set-rulebook", "Judge a job by another edition"),
		as(func(ctx context.Context, p people.Person, in *bookInput) (*viewOutput, error) {
			return viewOf(s.rooms.Jobs.SetRulebook(ctx, p, in.ID, in.Body.Rulebook))
		}),
	)
	type settleInput struct {
		JobPath
		Body struct {
			Field string `json:"field" minLength:"1" maxLength:"200" doc:"Path of the value, as the job lists it."`
		}
	}
	huma.Register(
		api,
		op(http.MethodPost, "/api/jobs/{job}/refused", "settle-refused", "A value of an older program was entered anew, or is not needed"),
		as(func(ctx context.Context, p people.Person, in *settleInput) (*viewOutput, error) {
			return viewOf(s.rooms.Jobs.SettleRefused(ctx, p, in.ID, in.Body.Field))
		}),
	)
	type exportOutput struct {
		Disposition string `header:"Content-Disposition"`
		Body        job.Job
	}
	huma.Register(
		api,
		op(http.MethodGet, "/api/jobs/{job}/export", "export-job", "Export a job file"),
		as(func(ctx context.Context, p people.Person, in *JobPath) (*exportOutput, error) {
			j, err := s.rooms.Jobs.Export(ctx, p, in.ID)
			return &exportOutput{attachment(j.Number + ".json"), j}, err
		}),
	)
	type auditOutput struct{ Body []AuditLine }
	huma.Register(
		api,
		op(http.MethodGet, "/api/jobs/{job}/audit", "audit-job", "Who changed what"),
		as(func(ctx context.Context, p people.Person, in *JobPath) (*auditOutput, error) {
			list, err := s.rooms.Jobs.Audit(ctx, p, in.ID)
			out := &auditOutput{Body: make([]AuditLine, len(list))}
			for i, a := range list {
				out.Body[i] = AuditLine{a.At, a.Who, a.Action, a.Detail}
			}
			return out, err
		}),
	)
}

// AuditLine is one line of who changed what.
type AuditLine struct {
	At     time.Time `json:"at"`
	Who    string    `json:"who"`
	Action string    `json:"action"`
	Detail string    `json:"detail"`
}
