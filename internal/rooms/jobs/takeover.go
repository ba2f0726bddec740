package jobs

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"

	"dogbolt/core/job"
	"dogbolt/core/rulebook"
	"dogbolt/core/schema"
	"dogbolt/internal/rooms/people"
)

// TakeOver takes into the design what a finding offers as its remedy: it is planned work from then on, and what the survey found
// stays as it was found. answer is the offer's words; ErrConflict where somebody saved the design meanwhile.
func (svc *Service) TakeOver(ctx context.Context, by people.Person, id, rule, point, answer string) (View, error) {
	if err := people.May(by, people.SaveDesign); err != nil {
		return View{}, err
	}
	v, err := svc.Open(ctx, by, id)
	if err != nil {
		return View{}, err
	}
	k := slices.IndexFunc(v.Findings, func(f rulebook.Finding) bool { return f.Rule == rule && f.Point == point })
	if k < 0 {
		return View{}, schema.Invalid("rule", "%q says nothing of point %q", rule, point)
	}
	offers := v.Findings[k].Offers
	n := slices.IndexFunc(offers, func(a rulebook.Answer) bool { return a.Title == answer })
	if n < 0 {
		return View{}, schema.Invalid("answer", "%q is not offered by “%s”", answer, v.Findings[k].Title)
	}
	with, _, err := offers[n].Apply(&v.Job, point)
	if err != nil {
		return View{}, fmt.Errorf("take over “%s”: %w", answer, err)
	}
	body, err := json.Marshal(with.Design)
	if err != nil {
		return View{}, err
	}
	return svc.SaveSection(ctx, by, id, job.DesignSection, Edit{Seen: v.Revisions[string(job.DesignSection)], Body: body})
}
