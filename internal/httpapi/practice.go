package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"dogbolt/core/assess"
	"dogbolt/internal/rooms/journal"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/rooms/practice"
)

func (s *server) practiceRoutes(api huma.API) {
	type listOutput struct{ Body practice.PracticeView }
	huma.Register(
		api,
		op(http.MethodGet, "/api/practice", "list-practice", "Practice cases and results"),
		as(func(ctx context.Context, p people.Person, _ *struct{}) (*listOutput, error) {
			v, err := s.rooms.Practice.Practice(ctx, p)
			return &listOutput{v}, err
		}),
	)
	type runOutput struct{ Body practice.RunView }
	type caseInput struct {
		Case string `path:"case" maxLength:"20"`
	}
	huma.Register(
		api,
		op(http.MethodPost, "/api/practice/cases/{case}", "start-practice", "Begin a practice case"),
		as(func(ctx context.Context, p people.Person, in *caseInput) (*runOutput, error) {
			b, err := s.rooms.Practice.StartPractice(ctx, p, in.Case)
			return &runOutput{b}, err
		}),
	)
	type measureInput struct {
		Run  string `path:"run" maxLength:"64"`
		Test string `path:"test" maxLength:"40"`
	}
	huma.Register(
		api,
		op(http.MethodPost, "/api/practice/runs/{run}/tests/{test}", "practice-measure", "Take a reading on a practice case"),
		as(func(ctx context.Context, p people.Person, in *measureInput) (*runOutput, error) {
			b, err := s.rooms.Practice.Measure(ctx, p, in.Run, in.Test)
			return &runOutput{b}, err
		}),
	)
	type answerInput struct {
		Run  string `path:"run" maxLength:"64"`
		Body struct {
			Fault  string `json:"fault" maxLength:"40" doc:"Id of the fault."`
			Remedy string `json:"remedy" maxLength:"40" doc:"Id of the fault whose remedy it is."`
		}
	}
	huma.Register(
		api,
		op(http.MethodPost, "/api/practice/runs/{run}/answer", "practice-answer", "Name fault and remedy of a practice case"),
		as(func(ctx context.Context, p people.Person, in *answerInput) (*runOutput, error) {
			b, err := s.rooms.Practice.AnswerPractice(ctx, p, in.Run, in.Body.Fault, in.Body.Remedy)
			return &runOutput{b}, err
		}),
	)
	type settingOutput struct{ Body assess.SettingGuide }
	huma.Register(
		api,
		op(
			http.MethodGet,
			"/api/jobs/{job}/points/{point}/setting",
			"work-out-setting",
			"Switches or menu for the designed current, by the sheet of the charger's type",
		),
		as(func(ctx context.Context, p people.Person, in *PointPath) (*settingOutput, error) {
			b, err := s.rooms.Workings.SettingSheet(ctx, p, in.ID, in.Point)
			return &settingOutput{b}, err
		}),
	)
	type builtOutput struct{ Body assess.AsBuilt }
	huma.Register(
		api,
		op(http.MethodGet, "/api/jobs/{job}/as-built", "compare-as-built", "Design beside what was built, and the verdicts that changed"),
		as(func(ctx context.Context, p people.Person, in *JobPath) (*builtOutput, error) {
			b, err := s.rooms.Journal.AsBuilt(ctx, p, in.ID)
			return &builtOutput{b}, err
		}),
	)
	type nearInput struct {
		Named bool `query:"named" doc:"With names and job numbers; the office alone may."`
	}
	type nearOutput struct{ Body journal.NearMissList }
	huma.Register(
		api,
		op(http.MethodGet, "/api/near-misses", "list-near-misses", "Near misses over all jobs, without names"),
		as(func(ctx context.Context, p people.Person, in *nearInput) (*nearOutput, error) {
			l, err := s.rooms.Journal.NearMisses(ctx, p, in.Named)
			return &nearOutput{l}, err
		}),
	)
}
