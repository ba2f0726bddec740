package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"dogbolt/internal/rooms/people"
)

// personalRoutes are about a customer's data, and jobs that were made to try.
func (s *server) personalRoutes(api huma.API) {
	huma.Register(
		api,
		sending(op(http.MethodGet, "/api/jobs/{job}/personal", "get-personal", "What is held of a job's customer, as a ZIP"), typeZIP),
		as(func(ctx context.Context, p people.Person, in *JobPath) (*download, error) {
			name, b, err := s.rooms.Jobs.Personal(ctx, p, in.ID)
			return saveAs(typeZIP, name, b), err
		}),
	)
	type eraseInput struct {
		JobPath
		Body struct {
			Reason string `json:"reason" maxLength:"500" doc:"Who asked, and when."`
		}
	}
	huma.Register(
		api,
		op(http.MethodPost, "/api/jobs/{job}/personal/erase", "erase-personal", "Take a customer's data out of a job"),
		as(func(ctx context.Context, p people.Person, in *eraseInput) (*viewOutput, error) {
			return viewOf(s.rooms.Jobs.Erase(ctx, p, in.ID, in.Body.Reason))
		}),
	)
	huma.Register(
		api,
		op(http.MethodDelete, "/api/jobs/{job}", "delete-job", "Delete a job of which nothing was logged"),
		as(func(ctx context.Context, p people.Person, in *JobPath) (*struct{}, error) {
			return nil, s.rooms.Jobs.Delete(ctx, p, in.ID)
		}),
	)
}
