package httpapi

import (
	"context"
	"net/http"
	"net/url"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"

	"dogbolt/core/clearance"
	"dogbolt/core/job"
	"dogbolt/core/planning"
	"dogbolt/core/stock"
	"dogbolt/internal/rooms/days"
	"dogbolt/internal/rooms/firm"
	"dogbolt/internal/rooms/papers"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/rooms/stockroom"
)

// PapersView is what the program says about the papers of a job.
type PapersView struct {
	Today     string                             `json:"today"`
	Proposals []clearance.Advice                 `json:"proposals"`
	Blocking  map[job.Before][]clearance.Blocker `json:"blocking" doc:"By event: what holds it up."`
	Timeline  []clearance.Span                   `json:"timeline"`
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

// download is a file to be saved.
type download struct {
	ContentType string `header:"Content-Type"`
	Disposition string `header:"Content-Disposition"`
	Cache       string `header:"Cache-Control"`
	Body        []byte
}

func saveAs(kind, name string, data []byte) *download {
	return &download{kind, `attachment; filename="` + strings.NewReplacer(`"`, "", "\n", "", "\r", "").Replace(name) + `"`, "no-store", data}
}

// Media types of tables.
var tableTypes = map[string]string{"csv": "text/csv; charset=utf-8", "xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"}

// PaperPath names a paper of a job.
type PaperPath struct {
	JobPath
	Paper string `path:"paper" maxLength:"40"`
}

func (s *server) paperRoutes(api huma.API) {
	type papersOutput struct{ Body PapersView }
	huma.Register(api, op(http.MethodGet, "/api/jobs/{job}/papers", "judge-papers", "Which papers the job needs, what they hold up, and whether their forms would bounce"), as(func(ctx context.Context, p people.Person, in *JobPath) (*papersOutput, error) {
		v, err := s.rooms.Papers.Papers(ctx, p, in.ID)
		return &papersOutput{PapersView(v)}, err
	}))
	type takeInput struct {
		JobPath
		Body struct {
			Revision int `json:"revision" minimum:"0" doc:"Revision of the clearances that the person has seen."`
		}
	}
	huma.Register(api, op(http.MethodPost, "/api/jobs/{job}/papers", "take-papers", "Take over what the rulebook proposes"), as(func(ctx context.Context, p people.Person, in *takeInput) (*viewOutput, error) {
		return viewOf(s.rooms.Papers.TakePapers(ctx, p, in.ID, in.Body.Revision))
	}))
	type sendInput struct {
		PaperPath
		Body struct {
			Anyway string `json:"anyway,omitempty" maxLength:"500" doc:"Why it is sent although it would bounce."`
		}
	}
	huma.Register(api, op(http.MethodPost, "/api/jobs/{job}/papers/{paper}/send", "send-paper", "Send a paper's package by mail"), as(func(ctx context.Context, p people.Person, in *sendInput) (*viewOutput, error) {
		return viewOf(s.rooms.Papers.SendPaper(ctx, p, in.ID, in.Paper, in.Body.Anyway))
	}))
	type formInput struct {
		PaperPath
		Kind string `path:"kind" enum:"pdf,json,csv,zip"`
	}
	huma.Register(api, sending(op(http.MethodGet, "/api/jobs/{job}/papers/{paper}/form/{kind}", "get-form", "The filled form, or with all its files as a package"), typePDF, typeJSON, typeCSV, typeZIP), as(func(ctx context.Context, p people.Person, in *formInput) (*download, error) {
		f, err := s.rooms.Papers.PaperForm(ctx, p, in.ID, in.Paper, in.Kind)
		return saveAs(f.Type, f.Name, f.Data), err
	}))
	type fileInput struct {
		JobPath
		Name    string `query:"name" minLength:"1" maxLength:"120"`
		RawBody []byte `contentType:"application/octet-stream"`
	}
	type fileOutput struct{ Body FileFacts }
	huma.Register(api, op(http.MethodPost, "/api/jobs/{job}/files", "add-file", "Keep a file that goes with a paper"), as(func(ctx context.Context, p people.Person, in *fileInput) (*fileOutput, error) {
		f, err := s.rooms.Papers.AddFile(ctx, p, in.ID, in.Name, in.RawBody)
		return &fileOutput{FileFacts{f.Digest, f.Name, f.Type, f.Width, f.Height, f.Pages, f.Bytes, f.Fault}}, err
	}))
	type digestInput struct {
		JobPath
		Digest string `path:"digest" pattern:"^[0-9a-f]{64}$"`
	}
	huma.Register(api, sending(op(http.MethodGet, "/api/jobs/{job}/files/{digest}", "get-file", "A file of a job"), typePDF, typeJPEG, typePNG), as(func(ctx context.Context, p people.Person, in *digestInput) (*download, error) {
		f, b, err := s.rooms.Papers.File(ctx, p, in.ID, in.Digest)
		return saveAs(f.Type, f.Name, b), err
	}))
	type answersOutput struct {
		Body struct {
			Answered int `json:"answered"`
		}
	}
	huma.Register(api, op(http.MethodPost, "/api/papers/answers", "fetch-answers", "Ask for the answers to papers that were sent"), as(func(ctx context.Context, p people.Person, _ *struct{}) (*answersOutput, error) {
		out := &answersOutput{}
		var err error
		out.Body.Answered, err = s.rooms.Papers.FetchAnswers(ctx, p)
		return out, err
	}))
	type dueInput struct {
		Days int `query:"days" minimum:"0" maximum:"366" default:"7"`
	}
	type dueOutput struct{ Body []papers.Due }
	huma.Register(api, op(http.MethodGet, "/api/papers/due", "list-due", "What is late or due about papers, over all jobs"), as(func(ctx context.Context, p people.Person, in *dueInput) (*dueOutput, error) {
		l, err := s.rooms.Papers.DuePapers(ctx, p, in.Days)
		return &dueOutput{append([]papers.Due{}, l...)}, err
	}))
	type formsOutput struct{ Body []clearance.Definition }
	huma.Register(api, op(http.MethodGet, "/api/forms", "list-forms", "Definitions of papers"), as(func(ctx context.Context, p people.Person, _ *struct{}) (*formsOutput, error) {
		l, err := s.rooms.Papers.Forms(ctx, p)
		return &formsOutput{append([]clearance.Definition{}, l...)}, err
	}))
	type definitionInput struct {
		RawBody []byte `contentType:"application/octet-stream"`
	}
	huma.Register(api, op(http.MethodPut, "/api/forms", "add-form", "Read in the definition of a paper"), as(func(ctx context.Context, p people.Person, in *definitionInput) (*formsOutput, error) {
		l, err := s.rooms.Papers.AddForm(ctx, p, in.RawBody)
		return &formsOutput{append([]clearance.Definition{}, l...)}, err
	}))
}

func (s *server) dayRoutes(api huma.API) {
	type yardBody struct{ Body firm.Yard }
	huma.Register(api, op(http.MethodGet, "/api/yard", "get-yard", "Crews, instruments, registrations, ways and hours"), as(func(ctx context.Context, p people.Person, _ *struct{}) (*yardBody, error) {
		y, err := s.rooms.Firm.Yard(ctx, p)
		return &yardBody{y}, err
	}))
	huma.Register(api, op(http.MethodPut, "/api/yard", "set-yard", "Change crews, instruments, registrations, ways and hours"), as(func(ctx context.Context, p people.Person, in *yardBody) (*struct{}, error) {
		return nil, s.rooms.Firm.SetYard(ctx, p, in.Body)
	}))
	type dayInput struct {
		JobPath
		Body days.DayAsk
	}
	type dayOutput struct{ Body days.DayAnswer }
	huma.Register(api, op(http.MethodPost, "/api/jobs/{job}/day", "judge-day", "What speaks against a day"), as(func(ctx context.Context, p people.Person, in *dayInput) (*dayOutput, error) {
		d, err := s.rooms.Days.JudgeDay(ctx, p, in.ID, in.Body)
		return &dayOutput{d}, err
	}))
	huma.Register(api, op(http.MethodPut, "/api/jobs/{job}/booking", "book-day", "Book a day, or move it: holds the crew and the parts"), as(func(ctx context.Context, p people.Person, in *dayInput) (*viewOutput, error) {
		return viewOf(s.rooms.Days.Book(ctx, p, in.ID, in.Body))
	}))
	huma.Register(api, op(http.MethodDelete, "/api/jobs/{job}/booking", "free-day", "Free the day, the crew and the parts"), as(func(ctx context.Context, p people.Person, in *JobPath) (*viewOutput, error) {
		return viewOf(s.rooms.Days.Unbook(ctx, p, in.ID))
	}))
	type firstOutput struct{ Body days.FirstDay }
	huma.Register(api, op(http.MethodGet, "/api/jobs/{job}/first-day", "propose-day", "First day that meets everything"), as(func(ctx context.Context, p people.Person, in *JobPath) (*firstOutput, error) {
		d, err := s.rooms.Days.FirstDay(ctx, p, in.ID)
		return &firstOutput{d}, err
	}))
	type sheetOutput struct{ Body planning.Sheet }
	huma.Register(api, op(http.MethodGet, "/api/jobs/{job}/day-sheet", "day-sheet", "What the van takes along"), as(func(ctx context.Context, p people.Person, in *JobPath) (*sheetOutput, error) {
		d, err := s.rooms.Days.DaySheet(ctx, p, in.ID)
		return &sheetOutput{d}, err
	}))
	type daysInput struct {
		From  string `query:"from" maxLength:"10" doc:"First day; left out: today."`
		Count int    `query:"count" minimum:"1" maximum:"30" default:"10"`
	}
	type daysOutput struct{ Body days.Days }
	huma.Register(api, op(http.MethodGet, "/api/days", "list-days", "Crews by days, and the jobs that want a day"), as(func(ctx context.Context, p people.Person, in *daysInput) (*daysOutput, error) {
		d, err := s.rooms.Days.Days(ctx, p, in.From, in.Count)
		return &daysOutput{d}, err
	}))
	type planInput struct {
		Body struct {
			Jobs  []string `json:"jobs" minItems:"1" maxItems:"60"`
			From  string   `json:"from" maxLength:"10"`
			Count int      `json:"count" minimum:"1" maximum:"30"`
		}
	}
	type planOutput struct{ Body days.WeekPlan }
	huma.Register(api, op(http.MethodPost, "/api/days/proposal", "propose-days", "Plan jobs over some days; books nothing"), as(func(ctx context.Context, p people.Person, in *planInput) (*planOutput, error) {
		d, err := s.rooms.Days.ProposeDays(ctx, p, in.Body.Jobs, in.Body.From, in.Body.Count)
		return &planOutput{d}, err
	}))
	type feedsOutput struct {
		Body struct {
			Path string `json:"path" doc:"Beginning of the calendars' addresses; deadlines.ics and crew-ID.ics follow."`
		}
	}
	huma.Register(api, op(http.MethodGet, "/api/feeds", "get-feeds", "Addresses of the calendars"), as(func(ctx context.Context, p people.Person, _ *struct{}) (*feedsOutput, error) {
		out := &feedsOutput{}
		token, err := s.rooms.Days.FeedToken(ctx, p)
		out.Body.Path = "/feeds/" + token + "/"
		return out, err
	}))
}

func (s *server) stockRoutes(api huma.API) {
	type stockOutput struct{ Body []stock.Ware }
	huma.Register(api, op(http.MethodGet, "/api/stock", "list-stock", "What van, store and suppliers have"), as(func(ctx context.Context, p people.Person, _ *struct{}) (*stockOutput, error) {
		l, err := s.rooms.Stock.Stock(ctx, p)
		return &stockOutput{append([]stock.Ware{}, l...)}, err
	}))
	type itemInput struct{ Body stock.Ware }
	huma.Register(api, op(http.MethodPut, "/api/stock", "put-item", "Add or change an item"), as(func(ctx context.Context, p people.Person, in *itemInput) (*struct{}, error) {
		return nil, s.rooms.Stock.PutItem(ctx, p, in.Body)
	}))
	type dropInput struct {
		Item string `path:"item" maxLength:"40"`
	}
	huma.Register(api, op(http.MethodDelete, "/api/stock/{item}", "drop-item", "Remove an item of which nothing is held"), as(func(ctx context.Context, p people.Person, in *dropInput) (*struct{}, error) {
		return nil, s.rooms.Stock.DropItem(ctx, p, in.Item)
	}))
	type rawInput struct {
		RawBody []byte `contentType:"application/octet-stream"`
	}
	type importOutput struct {
		Body struct {
			Items int `json:"items"`
		}
	}
	huma.Register(api, op(http.MethodPost, "/api/stock/import", "import-stock", "Read in a stock file, CSV or XLSX: all rows or none"), as(func(ctx context.Context, p people.Person, in *rawInput) (*importOutput, error) {
		out := &importOutput{}
		var err error
		out.Body.Items, err = s.rooms.Stock.ImportStock(ctx, p, in.RawBody)
		return out, err
	}))
	type kindInput struct {
		Kind string `path:"kind" enum:"csv,xlsx"`
	}
	huma.Register(api, sending(op(http.MethodGet, "/api/stock/export/{kind}", "export-stock", "The stock as a file"), typeCSV, typeXLSX), as(func(ctx context.Context, p people.Person, in *kindInput) (*download, error) {
		b, err := s.rooms.Stock.ExportStock(ctx, p, in.Kind)
		return saveAs(tableTypes[in.Kind], "stock."+in.Kind, b), err
	}))
	type ordersOutput struct{ Body stockroom.Orders }
	huma.Register(api, op(http.MethodGet, "/api/orders", "list-orders", "What to order, by supplier"), as(func(ctx context.Context, p people.Person, _ *struct{}) (*ordersOutput, error) {
		o, err := s.rooms.Stock.Orders(ctx, p)
		return &ordersOutput{o}, err
	}))
	huma.Register(api, sending(op(http.MethodGet, "/api/orders/export/{kind}", "export-orders", "The order list as a file"), typeCSV, typeXLSX), as(func(ctx context.Context, p people.Person, in *kindInput) (*download, error) {
		b, err := s.rooms.Stock.ExportOrders(ctx, p, in.Kind)
		return saveAs(tableTypes[in.Kind], "orders."+in.Kind, b), err
	}))
}

// feed serves a calendar to a program that cannot sign in: its address is the
// secret.
func (s *server) feed(w http.ResponseWriter, r *http.Request) {
	name, err := url.PathUnescape(chi.URLParam(r, "name"))
	if err != nil {
		http.NotFound(w, r)
		return
	}
	b, err := s.rooms.Days.Feed(r.Context(), chi.URLParam(r, "token"), strings.TrimSuffix(name, ".ics"))
	if err != nil {
		// A wrong address and a calendar that is not there look the same.
		http.NotFound(w, r)
		return
	}
	w.Header().Set("Content-Type", "text/calendar; charset=utf-8")
	w.Header().Set("Cache-Control", "no-store")
	w.Write(b)
}
