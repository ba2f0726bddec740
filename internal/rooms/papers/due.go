package papers

import (
	"context"
	"errors"
	"time"

	"dogbolt/core/clearance"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/store"
)

// Due is a deadline of a job.
type Due struct {
	Job      string `json:"job"`
	Number   string `json:"number"`
	Customer string `json:"customer"`
	Paper    string `json:"paper"`
	Title    string `json:"title"`
	What     string `json:"what"`
	Day      string `json:"day"`
	Late     bool   `json:"late"`
}

// DuePapers lists what is late or due about papers up to so many days from
// today, over all jobs.
func (svc *Service) DuePapers(ctx context.Context, by people.Person, days int) ([]Due, error) {
	if err := people.May(by, people.ViewJobs); err != nil {
		return nil, err
	}
	list, err := svc.DueNow(ctx, days)
	if err != nil {
		return nil, err
	}
	only, err := svc.jobs.Only(ctx, by)
	if err != nil || only == "" {
		return list, err
	}
	seen := []Due{}
	for _, d := range list {
		switch err := svc.jobs.Sees(ctx, by, d.Job); {
		case err == nil:
			seen = append(seen, d)
		case !errors.Is(err, store.ErrNotFound):
			return nil, err
		}
	}
	return seen, nil
}

// furthestZone is the offset of the zone whose day begins first (UTC+14, Kiribati).
const furthestZone = 14 * time.Hour

// DueNow is DuePapers for the program itself: calendars have no person.
func (svc *Service) DueNow(ctx context.Context, days int) ([]Due, error) {
	resources, err := svc.firm.ResourcesNow(ctx)
	if err != nil {
		return nil, err
	}
	// No site's day is further on than this; each row is then held to its own.
	latest := svc.now().Add(furthestZone).Format(time.DateOnly)
	rows, err := svc.store.Deadlines(ctx, clearance.AddDays(latest, days))
	out := make([]Due, 0, len(rows))
	for _, r := range rows {
		today := svc.firm.Today(resources.Zone(r.Zone, r.Rulebook))
		if r.Day > clearance.AddDays(today, days) {
			continue
		}
		out = append(
			out,
			Due{Job: r.JobID, Number: r.Number, Customer: r.Customer, Paper: r.Paper, Title: r.Title, What: r.What, Day: r.Day, Late: r.Day < today},
		)
	}
	return out, err
}
