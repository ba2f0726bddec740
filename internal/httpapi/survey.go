package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"dogbolt/core/job"
	"dogbolt/core/panel"
	"dogbolt/core/quantity"
	"dogbolt/core/reach"
	"dogbolt/core/route"
	"dogbolt/core/rulebook"
	"dogbolt/core/visit"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/people"
)

// VisitView is how complete a survey is, and what follows from it.
type VisitView struct {
	Sections     []visit.Section  `json:"sections"`
	Leave        []visit.Lack     `json:"leave" doc:"What is open before the surveyor leaves, most costly to come back for first."`
	Photos       []string         `json:"photos" doc:"Kinds of photo that are asked for."`
	Fits         []panel.Fit      `json:"fits" doc:"Whether a breaker for each point fits the board, one after the other."`
	Frees        []rulebook.Freed `json:"frees" doc:"What would free more of the service."`
	ServiceSpare float64          `json:"serviceSpare" doc:"Service less the demand with charging, A."`
	BoardSpare   float64          `json:"boardSpare" doc:"Board less the demand with charging, A."`
}

// SitePlanView is the site plan worked out.
type SitePlanView struct {
	Cars []reach.Car `json:"cars"`
	Rows []reach.Row `json:"rows" doc:"Candidate positions side by side."`
	Area [][]job.XY  `json:"area" doc:"Ground that the cord reaches, in pieces that overlap."`
	Cord float64     `json:"cord" doc:"Length of the cord, m; 0 where not known."`
}

// PicturePath names a picture of a job.
type PicturePath struct {
	JobPath
	Digest string `path:"digest" pattern:"^[0-9a-f]{64}$" doc:"SHA-256 of the picture, or of the file as the device has it."`
}

func (s *server) surveyRoutes(api huma.API) {
	type visitOutput struct{ Body VisitView }
	huma.Register(
		api,
		op(http.MethodGet, "/api/jobs/{job}/visit", "judge-visit", "How complete the survey is"),
		as(func(ctx context.Context, p people.Person, in *JobPath) (*visitOutput, error) {
			v, err := s.rooms.Workings.Visit(ctx, p, in.ID)
			return &visitOutput{VisitView{
				Sections: append([]visit.Section{}, v.Sections...), Leave: append([]visit.Lack{}, v.Leave...), Photos: append([]string{}, v.Photos...),
				Fits: append([]panel.Fit{}, v.Fits...), Frees: append([]rulebook.Freed{}, v.Frees...),
				ServiceSpare: float64(v.Service), BoardSpare: float64(v.Board),
			}}, err
		}),
	)
	type siteInput struct {
		PointPath
		Position string  `query:"position" maxLength:"8" doc:"Position whose cord's area is wanted."`
		Cord     float64 `query:"cord" minimum:"0" maximum:"30" doc:"Length of the cord, m; 0 takes the charger's."`
	}
	type siteOutput struct{ Body SitePlanView }
	huma.Register(
		api,
		op(http.MethodGet, "/api/jobs/{job}/points/{point}/site", "work-out-site", "Cords from every position, and what they cross"),
		as(func(ctx context.Context, p people.Person, in *siteInput) (*siteOutput, error) {
			v, err := s.rooms.Workings.SitePlan(ctx, p, in.ID, in.Point, in.Position, quantity.Metre(in.Cord))
			return &siteOutput{
				SitePlanView{
					Cars: append([]reach.Car{}, v.Cars...),
					Rows: append([]reach.Row{}, v.Rows...),
					Area: append([][]job.XY{}, v.Area...),
					Cord: float64(v.Cord),
				},
			}, err
		}),
	)
	type fileOutput struct {
		ContentType string `header:"Content-Type"`
		Disposition string `header:"Content-Disposition"`
		Cache       string `header:"Cache-Control"`
		Body        []byte
	}
	huma.Register(
		api,
		sending(op(http.MethodGet, "/api/jobs/{job}/site-plan.svg", "draw-site-plan", "Site plan as SVG with a scale bar"), typeSVG),
		as(func(ctx context.Context, p people.Person, in *JobPath) (*fileOutput, error) {
			svg, err := s.rooms.Workings.SitePlanSVG(ctx, p, in.ID)
			return &fileOutput{"image/svg+xml", `attachment; filename="site-plan.svg"`, "no-store", svg}, err
		}),
	)
	type routeOutput struct{ Body route.Laying }
	huma.Register(
		api,
		op(http.MethodGet, "/api/jobs/{job}/points/{point}/route", "work-out-route", "Length to cut, supports, bends, fill, depth and derating"),
		as(func(ctx context.Context, p people.Person, in *PointPath) (*routeOutput, error) {
			r, err := s.rooms.Workings.Route(ctx, p, in.ID, in.Point)
			return &routeOutput{r}, err
		}),
	)
	type photoInput struct {
		JobPath
		RawBody []byte `contentType:"image/jpeg"`
	}
	type photoOutput struct {
		Body struct {
			Digest string `json:"digest"`
			Width  int    `json:"width"`
			Height int    `json:"height"`
			Bytes  int    `json:"bytes"`
		}
	}
	huma.Register(
		api,
		op(http.MethodPost, "/api/jobs/{job}/photos", "add-photo", "Keep a picture: upright, without what the camera wrote"),
		as(func(ctx context.Context, p people.Person, in *photoInput) (*photoOutput, error) {
			f, err := s.rooms.Jobs.AddPhoto(ctx, p, in.ID, in.RawBody)
			out := &photoOutput{}
			out.Body.Digest, out.Body.Width, out.Body.Height, out.Body.Bytes = f.Digest, f.Width, f.Height, f.Bytes
			return out, err
		}),
	)
	type uploadOutput struct{ Body jobs.Upload }
	huma.Register(
		api,
		op(http.MethodGet, "/api/jobs/{job}/photos/{digest}/upload", "look-at-upload", "How much of a picture has come"),
		as(func(ctx context.Context, p people.Person, in *PicturePath) (*uploadOutput, error) {
			u, err := s.rooms.Jobs.Uploaded(ctx, p, in.ID, in.Digest)
			return &uploadOutput{u}, err
		}),
	)
	type pieceInput struct {
		PicturePath
		From    int64  `query:"from" minimum:"0" required:"true" doc:"How much came before this piece, bytes."`
		Size    int64  `query:"size" minimum:"1" required:"true" doc:"Size of the whole file, bytes."`
		RawBody []byte `contentType:"application/octet-stream"`
	}
	huma.Register(
		api,
		op(
			http.MethodPut,
			"/api/jobs/{job}/photos/{digest}/upload",
			"upload-piece",
			"A piece of a picture, from where the one before ended; with the last it is kept as add-photo does",
		),
		as(func(ctx context.Context, p people.Person, in *pieceInput) (*uploadOutput, error) {
			u, err := s.rooms.Jobs.AddPiece(ctx, p, in.ID, in.Digest, in.From, in.Size, in.RawBody)
			return &uploadOutput{u}, err
		}),
	)
	huma.Register(
		api,
		sending(op(http.MethodGet, "/api/jobs/{job}/photos/{digest}", "get-photo", "A picture of a job"), typeJPEG),
		as(func(ctx context.Context, p people.Person, in *PicturePath) (*fileOutput, error) {
			b, err := s.rooms.Jobs.Photo(ctx, p, in.ID, in.Digest)
			return &fileOutput{"image/jpeg", "inline", "private, max-age=31536000, immutable", b}, err
		}),
	)
}
