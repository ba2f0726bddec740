package days

import (
	"context"
	"errors"
	"fmt"
	"maps"
	"slices"
	"strings"
	"time"

	"dogbolt/core/clearance"
	"dogbolt/core/job"
	"dogbolt/core/planning"
	"dogbolt/core/schema"
	"dogbolt/core/stock"
	"dogbolt/internal/document"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/store"
)

// OnDay is a job on a crew's day.
type OnDay struct {
	Job      string            `json:"job"`
	Number   string            `json:"number"`
	Customer string            `json:"customer"`
	Town     string            `json:"town"`
	Team     string            `json:"team"`
	Day      string            `json:"day"`
	Start    string            `json:"start"`
	End      string            `json:"end"`
	Hours    float64           `json:"hours"`
	Way      int               `json:"way" doc:"Minutes on the road before it."`
	Begun    bool              `json:"begun"`
	Over     bool              `json:"over" doc:"Booked against advice, with a reason."`
	Reasons  []planning.Reason `json:"reasons" doc:"What speaks against it now."`
}

// InLine is a job that wants a day.
type InLine struct {
	Job      string            `json:"job"`
	Number   string            `json:"number"`
	Customer string            `json:"customer"`
	Town     string            `json:"town"`
	Rulebook string            `json:"rulebook"`
	Hours    float64           `json:"hours"`
	Stops    []planning.Reason `json:"stops" doc:"What speaks against any day: papers, parts, customer."`
}

// Days are the crews' days with their jobs, and the jobs that want one.
type Days struct {
	Today   string            `json:"today" doc:"The earliest of the crews' days."`
	Todays  map[string]string `json:"todays" doc:"By the crew's id: the day that it is where it works."`
	Days    []string          `json:"days"`
	Crews   []planning.Crew   `json:"crews"`
	Jobs    []OnDay           `json:"jobs"`
	Waiting []InLine          `json:"waiting"`
}

// Days shows n working days from one on ("" for today).
func (svc *Service) Days(ctx context.Context, by people.Person, from string, n int) (Days, error) {
	out := Days{Todays: map[string]string{}, Jobs: []OnDay{}, Waiting: []InLine{}, Crews: []planning.Crew{}}
	if err := people.May(by, people.ViewJobs); err != nil {
		return out, err
	}
	b, err := svc.basis(ctx)
	if err != nil {
		return out, err
	}
	out.Crews = b.resources.Crews
	out.Today = svc.firm.Today(time.UTC)
	for i, c := range out.Crews {
		day := svc.firm.Today(b.resources.CrewZone(&c))
		if out.Todays[c.ID] = day; i == 0 || day < out.Today {
			out.Today = day
		}
	}
	if from == "" {
		from = out.Today
	}
	if out.Days = weekdays(from, n); len(out.Days) != n || n == 0 {
		return out, schema.Invalid("from", "%q is not a day such as 2027-03-28", from)
	}
	last := out.Days[n-1]
	if err := b.look(ctx, svc.store, nil, "", out.Days[0], last); err != nil {
		return out, err
	}
	only, err := svc.jobs.Only(ctx, by)
	if err != nil {
		return out, err
	}
	for _, x := range b.bookings {
		if only != "" && !named(x.People, only) {
			continue
		}
		d, err := svc.onDay(ctx, &b, x)
		if err != nil {
			return out, err
		}
		out.Jobs = append(out.Jobs, d)
	}
	if only != "" {
		return out, nil
	}
	waiting, err := svc.store.Waiting(ctx, store.MostWaiting)
	if err != nil {
		return out, err
	}
	for _, w := range waiting {
		j, err := svc.jobs.Whole(ctx, w.ID)
		if err != nil {
			return out, err
		}
		out.Waiting = append(out.Waiting, InLine{w.ID, w.Number, w.Customer, w.Town, w.Rulebook, b.model.Estimate(jobs.EffortOf(&j)), svc.anyDay(&b, w.ID, &j)})
	}
	return out, nil
}

// named reports whether a list of people has a name.
func named(list []string, name string) bool {
	return slices.ContainsFunc(list, func(n string) bool { return strings.EqualFold(n, name) })
}

func (svc *Service) onDay(ctx context.Context, b *basis, x planning.Booking) (OnDay, error) {
	j, err := svc.jobs.Whole(ctx, x.Job)
	if err != nil {
		return OnDay{}, err
	}
	d := OnDay{
		Job:      x.Job,
		Number:   x.Number,
		Customer: j.Site.Customer,
		Town:     x.Town,
		Team:     b.teamOf(x),
		Day:      x.Day,
		Start:    x.Start,
		End:      planning.At(x.End()),
		Hours:    x.Hours,
		Begun:    jobs.Begun(&j),
		Over:     j.Plan.Over.By != "",
		Reasons:  []planning.Reason{},
	}
	crew, known := b.resources.Crew(d.Team)
	d.Way = planning.Minutes(b.resources.Travel, crew.Base, x.Town)
	for _, o := range b.bookings {
		if o.Job != x.Job && o.Day == x.Day && b.teamOf(o) == d.Team && o.End() <= planning.Clock(x.Start) {
			d.Way = planning.Minutes(b.resources.Travel, o.Town, x.Town)
		}
	}
	if d.Begun || !known {
		return d, nil
	}
	q, _ := svc.ask(b, x.Job, &j, DayAsk{Team: d.Team, Day: x.Day, Start: x.Start, Hours: x.Hours})
	q.Team.People = x.People
	q.Stock = stock.Answer{} // what is held for it is its own
	for _, p := range j.Plan.Parts {
		if p.InHand != job.Yes && p.Tool != job.Yes {
			q.Stock.Shorts = append(q.Stock.Shorts, stock.Short{Part: p.Name, Message: p.Name + ": not in hand"})
		}
	}
	d.Reasons = append(d.Reasons, planning.Judge(&q)...)
	return d, nil
}

// teamOf is the crew of a booking; one of old names people alone.
func (b *basis) teamOf(x planning.Booking) string {
	if x.Team != "" {
		return x.Team
	}
	for _, c := range b.resources.Crews {
		if slices.ContainsFunc(x.People, func(p string) bool { return slices.Contains(c.People, p) }) {
			return c.ID
		}
	}
	return ""
}

// anyDay lists what speaks against every day of a job, whatever the crew.
func (svc *Service) anyDay(b *basis, id string, j *job.Job) []planning.Reason {
	d := DayAsk{Day: clearance.AddDays(svc.firm.Today(b.resources.SiteZone(j)), 1)}
	if i := slices.IndexFunc(b.resources.Crews, func(c planning.Crew) bool { return c.Qualified(j.Rulebook) }); i >= 0 {
		d.Team = b.resources.Crews[i].ID
	}
	q, _ := svc.ask(b, id, j, d)
	q.Others, q.Forecast = nil, nil
	out := []planning.Reason{}
	for _, r := range planning.Judge(&q) {
		if r.Verdict != planning.Note && (r.Kind == planning.AboutPapers || r.Kind == planning.AboutParts || r.Kind == planning.AboutCustomer) {
			out = append(out, r)
		}
	}
	return out
}

// WeekPlan is a plan for a set of jobs.
type WeekPlan struct {
	Placed []Placement `json:"placed"`
	Left   []LeftBy    `json:"left"`
	Cost   float64     `json:"cost" doc:"Lower is better: a day later is 1, a job left 100."`
	Greedy float64     `json:"greedy" doc:"Cost of placing one job after the other, for comparison."`
	Bound  float64     `json:"bound" doc:"No plan costs less."`
}

// Placement is where a job goes.
type Placement struct {
	DayAsk
	Job    string `json:"job"`
	Number string `json:"number"`
	Town   string `json:"town"`
}

// LeftBy is a job that found no day, and why.
type LeftBy struct {
	Job    string `json:"job"`
	Number string `json:"number"`
	Why    string `json:"why"`
}

// ProposeDays plans jobs over n working days: it says where each goes and books
// nothing.
func (svc *Service) ProposeDays(ctx context.Context, by people.Person, ids []string, from string, n int) (WeekPlan, error) {
	out := WeekPlan{Placed: []Placement{}, Left: []LeftBy{}}
	if err := people.May(by, people.BookDays); err != nil {
		return out, err
	}
	if len(ids) == 0 || len(ids) > store.MostWaiting {
		return out, schema.Invalid("jobs", "name 1 to %d jobs, not %d", store.MostWaiting, len(ids))
	}
	b, err := svc.basis(ctx)
	if err != nil {
		return out, err
	}
	days := weekdays(from, n)
	if len(days) != n || n == 0 {
		return out, schema.Invalid("from", "%q is not a day such as 2027-03-28", from)
	}
	if err := b.look(ctx, svc.store, nil, "", days[0], days[n-1]); err != nil {
		return out, err
	}
	p := b.problem(days)
	wanted := map[string]*job.Job{}
	why := map[string]map[string]int{} // by job: how often each reason stood in the way
	for _, id := range ids {
		j, err := svc.jobs.Whole(ctx, id)
		if err != nil {
			return out, err
		}
		wanted[id], why[id] = &j, map[string]int{}
		p.Tasks = append(
			p.Tasks,
			planning.Task{ID: id, Town: j.Site.Town, Hours: b.model.Estimate(jobs.EffortOf(&j)), Due: dueOf(&j), May: func(c, d int) bool {
				q, _ := svc.ask(&b, id, &j, DayAsk{Team: p.Crews[c].ID, Day: days[d]})
				q.Others = nil // the slots know them
				reasons := planning.Judge(&q)
				if p.Crews[c].Qualified(j.Rulebook) {
					tally(why[id], reasons)
				}
				ok, _ := planning.Bookable(reasons)
				return ok
			}},
		)
	}
	best := planning.Solve(&p, planning.Rounds)
	out.Cost, out.Bound, out.Greedy = best.Cost, best.Bound, best.Greedy
	slices.SortStableFunc(best.Placed, func(x, y planning.Placed) int { return x.Day - y.Day })
	for _, x := range best.Placed {
		j := wanted[x.Task]
		// One reel is not promised to two jobs of the plan.
		s := stock.Cover(b.items, jobs.Unheld(j.Plan.Parts), p.Crews[x.Crew].Van, b.resources.ReelMargin)
		if len(s.Shorts) > 0 {
			out.Left = append(out.Left, LeftBy{x.Task, j.Number, "after the other jobs of this plan: " + s.Shorts[0].Message})
			continue
		}
		for _, h := range s.Holds {
			k := slices.IndexFunc(b.items, func(i stock.Ware) bool { return i.ID == h.Item })
			b.items[k].Held += h.Quantity
		}
		out.Placed = append(
			out.Placed,
			Placement{DayAsk{Team: p.Crews[x.Crew].ID, Day: days[x.Day], Start: x.Start, Hours: x.Hours}, x.Task, j.Number, j.Site.Town},
		)
	}
	for _, id := range best.Left {
		out.Left = append(out.Left, LeftBy{id, wanted[id].Number, mostly(why[id])})
	}
	return out, nil
}

// problem is what days are planned by: what the crews are booked for already.
func (b *basis) problem(days []string) planning.Problem {
	p := planning.Problem{
		Crews:  b.resources.Crews,
		Days:   days,
		Travel: b.resources.Travel,
		Hours:  b.resources.Hours,
		Slots:  make([][]planning.Slot, len(b.resources.Crews)),
	}
	for c, crew := range p.Crews {
		p.Slots[c] = make([]planning.Slot, len(days))
		for _, x := range b.bookings {
			if d := slices.Index(days, x.Day); d >= 0 && b.teamOf(x) == crew.ID {
				p.Slots[c][d].Busy = append(p.Slots[c][d].Busy, x)
			}
		}
	}
	return p
}

// tally counts the reasons that stand in the way.
func tally(counts map[string]int, reasons []planning.Reason) {
	for _, r := range reasons {
		if r.Verdict != planning.Note {
			counts[r.What]++
		}
	}
}

// mostly is the reason that stood in the way most often.
func mostly(counts map[string]int) string {
	best := "no crew has room for it on these days"
	for _, reason := range slices.Sorted(maps.Keys(counts)) {
		if counts[reason] > counts[best] {
			best = reason
		}
	}
	return best
}

// dueOf is the first day by which something that waits for the work is due.
func dueOf(j *job.Job) string {
	due := ""
	for _, p := range j.PapersNow() {
		if p.Needed == job.Yes && p.Granted == "" && p.Due != "" && (due == "" || p.Due < due) {
			due = p.Due
		}
	}
	return due
}

// Feed returns a calendar of a person: "deadlines", or "crew-" with a crew's id. Whoever does
// not see every job has their own crew's alone.
func (svc *Service) Feed(ctx context.Context, by people.Person, name string) ([]byte, error) {
	only, err := svc.jobs.Only(ctx, by)
	if err != nil {
		return nil, err
	}
	if name == "deadlines" && only != "" {
		return nil, store.ErrNotFound
	}
	if name == "deadlines" {
		list, err := svc.papers.DueNow(ctx, 366)
		if err != nil {
			return nil, err
		}
		events := make([]document.Event, len(list))
		for i, d := range list {
			events[i] = document.Event{
				ID:    d.Job + "-" + d.Paper + "-" + d.Day + "@dogbolt",
				Day:   d.Day,
				Title: d.Number + " " + d.Title + ": " + d.What,
				Note:  d.Customer,
			}
		}
		return document.Calendar("Papers due", events, svc.now())
	}
	b, err := svc.basis(ctx)
	if err != nil {
		return nil, err
	}
	i := slices.IndexFunc(b.resources.Crews, func(c planning.Crew) bool { return "crew-"+c.ID == name })
	if i < 0 || only != "" && !named(b.resources.Crews[i].People, only) {
		return nil, store.ErrNotFound
	}
	today := svc.firm.Today(b.resources.CrewZone(&b.resources.Crews[i]))
	if b.bookings, err = svc.store.Bookings(ctx, clearance.AddDays(today, -31), clearance.AddDays(today, 366)); err != nil {
		return nil, err
	}
	var events []document.Event
	var errs []error
	for _, x := range b.bookings {
		if b.teamOf(x) != b.resources.Crews[i].ID {
			continue
		}
		j, err := svc.jobs.Whole(ctx, x.Job)
		if err != nil {
			return nil, err
		}
		from, to, err := x.Moments(b.resources.SiteZone(&j))
		errs = append(errs, err)
		events = append(
			events,
			document.Event{
				ID:    x.Job + "@dogbolt",
				From:  from,
				To:    to,
				Title: x.Number + " " + j.Site.Customer,
				Place: fmt.Sprintf("%s, %s %s", j.Site.Street, j.Site.Town, j.Site.Postcode),
				Note:  "Telephone " + j.Site.Phone,
			},
		)
	}
	if err := errors.Join(errs...); err != nil {
		return nil, err
	}
	return document.Calendar(b.resources.Crews[i].Name, events, svc.now())
}
