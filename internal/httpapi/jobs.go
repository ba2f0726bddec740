package httpapi

import (
	"context"
	"encoding/json"
	"net/http"
	"reflect"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"dogbolt/core/commission"
	"dogbolt/core/demand"
	"dogbolt/core/desk"
	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/loadmgmt"
	"dogbolt/core/quantity"
	"dogbolt/core/record"
	"dogbolt/core/rulebook"
	"dogbolt/core/schema"
	"dogbolt/core/sizing"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/journal"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/store"
)

// JobRow is a job as the list shows it.
type JobRow struct {
	ID       string `json:"id"`
	Number   string `json:"number"`
	Rulebook string `json:"rulebook"`
	Customer string `json:"customer"`
	Address  string `json:"address"`
	Town     string `json:"town"`
	Stage    string `json:"stage" enum:"survey,design,clearances,plan,install,commission,handover"`
	NextDate string `json:"nextDate" doc:"Next date that someone waits for; empty for none."`
	NextWhat string `json:"nextWhat"`
	Blocker  string `json:"blocker" doc:"First thing in the way."`
	Stops    int    `json:"stops"`
	Watches  int    `json:"watches"`
	Opens    int    `json:"opens"`
	Sealed   bool   `json:"sealed"`
}

func row(s jobs.Summary) JobRow {
	return JobRow{s.ID, s.Number, s.Rulebook, s.Customer, s.Address, s.Town, s.Stage, s.NextDate, s.NextWhat, s.Blocker, s.Stops, s.Watches, s.Opens, s.Sealed}
}

// JobView is a job opened, with everything that follows from it.
type JobView struct {
	Row       JobRow            `json:"row"`
	Job       job.Job           `json:"job"`
	Revisions map[string]int    `json:"revisions" doc:"Revision of each section, to be sent back when saving it."`
	Editors   map[string]Editor `json:"editors"`
	Book      Book              `json:"book"`
	desk.Desk
	House    desk.Settled `json:"house" doc:"What the house has settled about work on site, for judging on a device without signal."`
	Records  []Issue      `json:"records"`
	Amending string       `json:"amending" doc:"Reason of the amendment that is open, if one is."`
}

// Editor is who saved a section last.
type Editor struct {
	By string    `json:"by"`
	At time.Time `json:"at"`
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

// Issue is a sealed issue of a job.
type Issue struct {
	Issue    int       `json:"issue"`
	Digest   string    `json:"digest"`
	Code     string    `json:"code"`
	Replaces string    `json:"replaces,omitempty"`
	SealedAt time.Time `json:"sealedAt"`
	SealedBy string    `json:"sealedBy"`
}

type viewOutput struct{ Body JobView }

func viewOf(v jobs.View, err error) (*viewOutput, error) {
	if err != nil {
		return nil, err
	}
	out := JobView{
		Row: row(v.Summary), Job: v.Job, Revisions: v.Revisions, Editors: map[string]Editor{}, Book: book(v.Book),
		Desk: v.Desk, House: v.House, Records: []Issue{}, Amending: v.Amending,
	}
	for name, e := range v.Editors {
		out.Editors[name] = Editor{e.By, e.At}
	}
	for _, r := range v.Records {
		i := Issue{Issue: r.Issue, Digest: r.Digest, Code: record.Code(r.Digest), SealedAt: r.SealedAt, SealedBy: r.SealedBy}
		if r.Replaces != "" {
			i.Replaces = record.Code(r.Replaces)
		}
		out.Records = append(out.Records, i)
	}
	return &viewOutput{out}, nil
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

func (s *server) routes(api huma.API) {
	s.peopleRoutes(api)
	s.jobRoutes(api)
	saveRoute[job.Site](s, api, job.SiteSection)
	saveRoute[job.SurveySheet](s, api, job.SurveySection)
	saveRoute[job.DesignSheet](s, api, job.DesignSection)
	saveRoute[job.ClearanceSheet](s, api, job.ClearancesSection)
	saveRoute[job.PlanSheet](s, api, job.PlanSection)
	s.surveyRoutes(api)
	s.designRoutes(api)
	s.answerRoutes(api)
	s.paperRoutes(api)
	s.dayRoutes(api)
	s.stockRoutes(api)
	s.crewRoutes(api)
	s.houseRoutes(api)
	s.logRoutes(api)
	s.recordRoutes(api)
}

func (s *server) jobRoutes(api huma.API) {
	type listInput struct {
		Search string `query:"search" maxLength:"120" doc:"Words of number, customer or address."`
		Stage  string `query:"stage" enum:"survey,design,clearances,plan,install,commission,handover"`
		InWay  string `query:"inWay" enum:"stop,open,nothing" doc:"What stands in the way of sealing."`
		Limit  int    `query:"limit" minimum:"1" maximum:"200" default:"50"`
		Offset int    `query:"offset" minimum:"0"`
	}
	type listOutput struct {
		Body struct {
			Jobs  []JobRow `json:"jobs"`
			Total int64    `json:"total"`
		}
	}
	huma.Register(api, op(http.MethodGet, "/api/jobs", "list-jobs", "List jobs by next date"), as(func(ctx context.Context, p people.Person, in *listInput) (*listOutput, error) {
		list, total, err := s.rooms.Jobs.Jobs(ctx, p, store.Filter{Search: in.Search, Stage: in.Stage, InWay: in.InWay, Limit: in.Limit, Offset: in.Offset})
		out := &listOutput{}
		out.Body.Jobs, out.Body.Total = make([]JobRow, len(list)), total
		for i, j := range list {
			out.Body.Jobs[i] = row(j)
		}
		return out, err
	}))
	type newInput struct {
		Body struct {
			Number   string   `json:"number,omitempty" maxLength:"40" doc:"Left out: the next free one."`
			Rulebook string   `json:"rulebook"`
			Points   int      `json:"points" doc:"Charging points."`
			Site     job.Site `json:"site"`
		}
	}
	huma.Register(api, op(http.MethodPost, "/api/jobs", "create-job", "Make a job"), as(func(ctx context.Context, p people.Person, in *newInput) (*viewOutput, error) {
		return viewOf(s.rooms.Jobs.CreateJob(ctx, p, jobs.NewJob{Number: in.Body.Number, Rulebook: in.Body.Rulebook, Points: in.Body.Points, Site: in.Body.Site}))
	}))
	type importInput struct {
		RawBody []byte `contentType:"application/octet-stream"`
	}
	huma.Register(api, op(http.MethodPost, "/api/jobs/import", "import-job", "Make a job from a job file"), as(func(ctx context.Context, p people.Person, in *importInput) (*viewOutput, error) {
		return viewOf(s.rooms.Jobs.Import(ctx, p, in.RawBody))
	}))
	huma.Register(api, op(http.MethodGet, "/api/jobs/{job}", "open-job", "Open a job with its findings"), as(func(ctx context.Context, p people.Person, in *JobPath) (*viewOutput, error) {
		return viewOf(s.rooms.Jobs.Open(ctx, p, in.ID))
	}))
	type mineOutput struct{ Body []JobRow }
	huma.Register(api, op(http.MethodGet, "/api/mine", "list-mine", "Jobs that this person's device should carry"), as(func(ctx context.Context, p people.Person, _ *struct{}) (*mineOutput, error) {
		list, err := s.rooms.Jobs.Mine(ctx, p)
		out := &mineOutput{Body: make([]JobRow, len(list))}
		for i, j := range list {
			out.Body[i] = row(j)
		}
		return out, err
	}))
	type bookInput struct {
		JobPath
		Body struct {
			Rulebook string `json:"rulebook"`
		}
	}
	huma.Register(api, op(http.MethodPut, "/api/jobs/{job}/rulebook", "set-rulebook", "Judge a job by another edition"), as(func(ctx context.Context, p people.Person, in *bookInput) (*viewOutput, error) {
		return viewOf(s.rooms.Jobs.SetRulebook(ctx, p, in.ID, in.Body.Rulebook))
	}))
	type settleInput struct {
		JobPath
		Body struct {
			Field string `json:"field" minLength:"1" maxLength:"200" doc:"Path of the value, as the job lists it."`
		}
	}
	huma.Register(api, op(http.MethodPost, "/api/jobs/{job}/refused", "settle-refused", "A value of an older program was entered anew, or is not needed"), as(func(ctx context.Context, p people.Person, in *settleInput) (*viewOutput, error) {
		return viewOf(s.rooms.Jobs.SettleRefused(ctx, p, in.ID, in.Body.Field))
	}))
	type exportOutput struct {
		Disposition string `header:"Content-Disposition"`
		Body        job.Job
	}
	huma.Register(api, op(http.MethodGet, "/api/jobs/{job}/export", "export-job", "Export a job file"), as(func(ctx context.Context, p people.Person, in *JobPath) (*exportOutput, error) {
		j, err := s.rooms.Jobs.Export(ctx, p, in.ID)
		return &exportOutput{`attachment; filename="job.json"`, j}, err
	}))
	type auditOutput struct{ Body []AuditLine }
	huma.Register(api, op(http.MethodGet, "/api/jobs/{job}/audit", "audit-job", "Who changed what"), as(func(ctx context.Context, p people.Person, in *JobPath) (*auditOutput, error) {
		list, err := s.rooms.Jobs.Audit(ctx, p, in.ID)
		out := &auditOutput{Body: make([]AuditLine, len(list))}
		for i, a := range list {
			out.Body[i] = AuditLine{a.At, a.Who, a.Action, a.Detail}
		}
		return out, err
	}))
}

// AuditLine is one line of who changed what.
type AuditLine struct {
	At     time.Time `json:"at"`
	Who    string    `json:"who"`
	Action string    `json:"action"`
	Detail string    `json:"detail"`
}

// SaveBody is a section with the revision that its writer has seen.
type SaveBody[T any] struct {
	Revision int          `json:"revision" minimum:"0" maximum:"1000000000" doc:"Revision of the section when it was read."`
	Sheet    T            `json:"sheet" doc:"The section."`
	Base     *T           `json:"base,omitempty" doc:"The section as it was read: what somebody else saved meanwhile is joined field by field."`
	Choices  []job.Choice `json:"choices,omitempty" maxItems:"200" doc:"How fields that clashed before are settled."`
}

// saveParts is a SaveBody whose section is read by the definition of the job.
type saveParts struct {
	Revision int             `json:"revision" minimum:"0" maximum:"1000000000"`
	Sheet    json.RawMessage `json:"sheet"`
	Base     json.RawMessage `json:"base,omitempty"`
	Choices  []job.Choice    `json:"choices,omitempty" maxItems:"200"`
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
		return viewOf(s.rooms.Jobs.SaveSection(ctx, p, in.ID, section, jobs.Edit{
			Seen: body.Revision, Body: body.Sheet, Base: body.Base, Choices: body.Choices,
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
	huma.Register(api, op(http.MethodGet, "/api/jobs/{job}/points/{point}/options", "list-options", "Try every conductor"), as(func(ctx context.Context, p people.Person, in *optionsInput) (*optionsOutput, error) {
		list, currency, err := s.rooms.Jobs.Options(ctx, p, in.ID, in.Point, quantity.Ampere(in.Setting), quantity.Ampere(in.Breaker), in.Drop)
		out := &optionsOutput{}
		out.Body.Currency = currency
		out.Body.Options = append([]sizing.Option{}, list...)
		return out, err
	}))
	type svgOutput struct {
		Body struct {
			SVG string `json:"svg"`
		}
	}
	huma.Register(api, op(http.MethodGet, "/api/jobs/{job}/points/{point}/one-line", "one-line", "One-line diagram as SVG"), as(func(ctx context.Context, p people.Person, in *PointPath) (*svgOutput, error) {
		svg, err := s.rooms.Jobs.OneLine(ctx, p, in.ID, in.Point)
		out := &svgOutput{}
		out.Body.SVG = svg
		return out, err
	}))
	type intervalInput struct {
		JobPath
		RawBody []byte `contentType:"text/csv"`
	}
	type intervalOutput struct{ Body demand.Interval }
	huma.Register(api, op(http.MethodPost, "/api/jobs/{job}/interval", "read-interval", "Highest demand of a meter's interval data"), as(func(ctx context.Context, p people.Person, in *intervalInput) (*intervalOutput, error) {
		d, err := s.rooms.Jobs.ReadInterval(ctx, p, in.ID, in.RawBody)
		return &intervalOutput{d}, err
	}))
	type nightInput struct {
		JobPath
		Mode string `query:"mode" enum:"unmanaged,managed,priority" default:"managed"`
	}
	type nightOutput struct {
		Body struct {
			Ways    []loadmgmt.Way `json:"ways" doc:"Ways to live with the supply, side by side."`
			Metered bool           `json:"metered" doc:"The house is the meter's own day, not habits of appliances."`
			Plot    string         `json:"plot" doc:"SVG of the mode that was asked for."`
			Missing string         `json:"missing" doc:"What is needed to simulate the night, where something is."`
		}
	}
	huma.Register(api, op(http.MethodGet, "/api/jobs/{job}/night", "simulate-night", "A cold night with and without load management"), as(func(ctx context.Context, p people.Person, in *nightInput) (*nightOutput, error) {
		n, err := s.rooms.Jobs.Night(ctx, p, in.ID, loadmgmt.Mode(in.Mode))
		out := &nightOutput{}
		out.Body.Ways, out.Body.Metered = append([]loadmgmt.Way{}, n.Ways...), n.Metered
		out.Body.Plot, out.Body.Missing = n.Plot, n.Missing
		return out, err
	}))
	type partsOutput struct{ Body []job.Part }
	huma.Register(api, op(http.MethodGet, "/api/jobs/{job}/parts", "propose-parts", "Parts that the design needs"), as(func(ctx context.Context, p people.Person, in *JobPath) (*partsOutput, error) {
		list, err := s.rooms.Jobs.ProposeParts(ctx, p, in.ID)
		return &partsOutput{append([]job.Part{}, list...)}, err
	}))
}

// EntriesBody is what is added to a log.
type EntriesBody struct {
	Entries []job.Entry `json:"entries" minItems:"1" maxItems:"500"`
}

func (s *server) logRoutes(api huma.API) {
	type entriesInput struct {
		JobPath
		Document
	}
	appendOp := op(http.MethodPost, "/api/jobs/{job}/entries", "append-entries", "Add to the log")
	register[EntriesBody](api, appendOp, as(func(ctx context.Context, p people.Person, in *entriesInput) (*viewOutput, error) {
		var body EntriesBody
		if errs := schema.Of[EntriesBody]().Read("", in.RawBody, &body); len(errs) > 0 {
			return nil, errs
		}
		return viewOf(s.rooms.Journal.Append(ctx, p, in.ID, body.Entries))
	}))
	type fileInput struct {
		JobPath
		RawBody []byte `contentType:"text/csv"`
	}
	huma.Register(api, op(http.MethodPost, "/api/jobs/{job}/readings", "import-readings", "Read in a readings file: all lines or none"), as(func(ctx context.Context, p people.Person, in *fileInput) (*viewOutput, error) {
		return viewOf(s.rooms.Journal.ImportReadings(ctx, p, in.ID, in.RawBody))
	}))
	type previewOutput struct{ Body journal.FileView }
	huma.Register(api, op(http.MethodPost, "/api/jobs/{job}/readings/preview", "preview-readings", "What would become of each line of a readings file"), as(func(ctx context.Context, p people.Person, in *fileInput) (*previewOutput, error) {
		v, err := s.rooms.Journal.PreviewReadings(ctx, p, in.ID, in.RawBody)
		return &previewOutput{v}, err
	}))
	type mappingsOutput struct{ Body []commission.Mapping }
	huma.Register(api, op(http.MethodGet, "/api/mappings", "list-mappings", "How instruments' own files are read"), as(func(ctx context.Context, p people.Person, _ *struct{}) (*mappingsOutput, error) {
		list, err := s.rooms.Journal.Mappings(ctx, p)
		return &mappingsOutput{list}, err
	}))
	type mappingInput struct{ Body commission.Mapping }
	huma.Register(api, op(http.MethodPost, "/api/mappings", "save-mapping", "Keep how an instrument's own file is read"), as(func(ctx context.Context, p people.Person, in *mappingInput) (*mappingsOutput, error) {
		list, err := s.rooms.Journal.SaveMapping(ctx, p, in.Body)
		return &mappingsOutput{list}, err
	}))
}
