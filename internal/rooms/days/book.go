package days

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"dogbolt/core/clearance"
	"dogbolt/core/job"
	"dogbolt/core/planning"
	"dogbolt/core/planning/learn"
	"dogbolt/core/rulebook"
	"dogbolt/core/schema"
	"dogbolt/core/stock"
	"dogbolt/internal/rooms/firm"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/store"
)

// DayAsk is the day, time and crew that an office wants to book for a job, by the
// site's clock, and why where reasons stand against it.
type DayAsk struct {
	Team   string  `json:"team" maxLength:"40" doc:"Id of the crew."`
	Day    string  `json:"day" maxLength:"10" doc:"Day of the work."`
	Start  string  `json:"start,omitempty" maxLength:"5" doc:"When the work begins; left out: as early as the crew can be there."`
	Hours  float64 `json:"hours,omitempty" minimum:"0" maximum:"24" doc:"How long it takes; left out: the estimate."`
	Anyway string  `json:"anyway,omitempty" maxLength:"500" doc:"Why it is booked although reasons stand against it."`
}

// DayAnswer is what speaks against a day.
type DayAnswer struct {
	DayAsk
	Reasons    []planning.Reason `json:"reasons"`
	OK         bool              `json:"ok" doc:"Nothing speaks against it."`
	ByOverride bool              `json:"byOverride" doc:"It may be booked with name and reason."`
	Estimate   float64           `json:"estimate" doc:"h"`
	Working    string            `json:"working" doc:"How the estimate comes about."`
	Learnt     int               `json:"learnt" doc:"Past jobs that the estimate has learnt from."`
	Holds      []stock.Hold      `json:"holds" doc:"What the stock would give."`
}

// Model is the estimate of durations, learnt from past jobs.
func (svc *Service) Model(ctx context.Context) (planning.Model, error) {
	var past []planning.Past
	if err := svc.settings.Get(ctx, jobs.KeyDurations, &past); err != nil {
		return planning.Model{}, err
	}
	return learn.From(past)
}

// basis is what days are judged by.
type basis struct {
	resources firm.Resources
	model     planning.Model
	bookings  []planning.Booking
	items     []stock.Ware
}

func (svc *Service) basis(ctx context.Context) (basis, error) {
	var b basis
	var err error
	if b.resources, err = svc.firm.ResourcesNow(ctx); err != nil {
		return b, err
	}
	if b.model, err = svc.Model(ctx); err != nil {
		return b, err
	}
	return b, nil
}

// look fills in bookings and stock: from a transaction where there is one.
func (b *basis) look(ctx context.Context, s Store, tx *store.Tx, but, from, to string) error {
	var err, err2 error
	if tx != nil {
		b.bookings, err = tx.Bookings(from, to)
		b.items, err2 = tx.Stock(but)
	} else {
		b.bookings, err = s.Bookings(ctx, from, to)
		b.items, err2 = s.Stock(ctx, but)
	}
	return errors.Join(err, err2)
}

// ask turns a day that is asked for into what the core judges.
func (svc *Service) ask(b *basis, id string, j *job.Job, d DayAsk) (planning.Ask, planning.Effort) {
	crew, _ := b.resources.Crew(d.Team)
	e := jobs.EffortOf(j)
	q := planning.Ask{
		Job:         j,
		ID:          id,
		Team:        crew,
		Day:         d.Day,
		Start:       d.Start,
		Hours:       d.Hours,
		Today:       svc.firm.Today(b.resources.SiteZone(j)),
		Zone:        b.resources.SiteZone(j),
		Day0:        b.resources.Hours,
		Others:      b.bookings,
		Travel:      b.resources.Travel,
		Instruments: b.resources.Instruments,
		Forecast:    svc.Forecast,
	}
	if book, err := rulebook.For(j); err == nil {
		q.Practice = &book.In.Days
	}
	if q.Hours == 0 {
		q.Hours = b.model.Estimate(e)
	}
	if q.Start == "" {
		q.Start = planning.At(quarter(planning.Clock(b.resources.Hours.From) + planning.Minutes(b.resources.Travel, crew.Base, j.Site.Town)))
	}
	q.Stock = stock.Cover(b.items, jobs.Unheld(j.Plan.Parts), crew.Van, b.resources.ReelMargin)
	return q, e
}

// quarter rounds minutes up to the quarter hour.
func quarter(minutes int) int { return (minutes + 14) / 15 * 15 }

func (b *basis) answer(q planning.Ask, e planning.Effort) DayAnswer {
	out := DayAnswer{
		DayAsk:   DayAsk{Team: q.Team.ID, Day: q.Day, Start: q.Start, Hours: q.Hours},
		Reasons:  append([]planning.Reason{}, planning.Judge(&q)...),
		Estimate: b.model.Estimate(e),
		Working:  b.model.Working(e),
		Learnt:   b.model.Jobs,
		Holds:    q.Stock.Holds,
	}
	out.OK, out.ByOverride = planning.Bookable(out.Reasons)
	return out
}

// JudgeDay says what speaks against a day for a job.
func (svc *Service) JudgeDay(ctx context.Context, by people.Person, id string, d DayAsk) (DayAnswer, error) {
	v, err := svc.jobs.Open(ctx, by, id)
	if err != nil {
		return DayAnswer{}, err
	}
	b, err := svc.basis(ctx)
	if err != nil {
		return DayAnswer{}, err
	}
	if err := b.look(ctx, svc.store, nil, id, d.Day, d.Day); err != nil {
		return DayAnswer{}, err
	}
	return b.answer(svc.ask(&b, id, &v.Job, d)), nil
}

// ReasonsError says what speaks against a day.
type ReasonsError []planning.Reason

// Error joins the reasons.
func (e ReasonsError) Error() string {
	var list []string
	for _, r := range e {
		if r.Verdict != planning.Note {
			list = append(list, r.What)
		}
	}
	return "not bookable: " + strings.Join(list, "; ")
}

// Book sets the day of a job, or moves it: it holds the crew and the parts. The
// day is judged in the transaction that writes it, so that of two planners at
// once one is refused. Reasons that someone may decide against need why.
func (svc *Service) Book(ctx context.Context, by people.Person, id string, d DayAsk) (jobs.View, error) {
	if err := people.May(by, people.BookDays); err != nil {
		return jobs.View{}, err
	}
	b, err := svc.basis(ctx)
	if err != nil {
		return jobs.View{}, err
	}
	return svc.jobs.Change(ctx, id, func(tx *store.Tx, w *store.Whole, j *job.Job) error {
		if w.Job.Sealed {
			return people.ErrSealed
		}
		if jobs.Begun(j) {
			return schema.Invalid("plan.day", "the work has begun: its day stays")
		}
		if err := b.look(ctx, svc.store, tx, id, d.Day, d.Day); err != nil {
			return err
		}
		q, e := svc.ask(&b, id, j, d)
		answer := b.answer(q, e)
		why := strings.TrimSpace(d.Anyway)
		if !answer.ByOverride || !answer.OK && len(why) < 10 {
			return fmt.Errorf("%w: %w", people.ErrBlocked, ReasonsError(answer.Reasons))
		}
		p := &j.Plan
		p.Day, p.Start, p.Hours, p.Team, p.Crew, p.Over = q.Day, q.Start, q.Hours, q.Team.ID, slices.Clone(q.Team.People), job.Override{}
		if !answer.OK {
			p.Over = job.Override{By: by.Name, Reason: why, Against: []string{}}
			for _, r := range answer.Reasons {
				if r.Verdict != planning.Note {
					p.Over.Against = append(p.Over.Against, r.What)
				}
			}
		}
		if err := jobs.Hold(tx, id, p, q.Team.Van, b.resources.ReelMargin); err != nil {
			return err
		}
		if err := svc.putPlan(tx, w, by, p); err != nil {
			return err
		}
		return tx.Note(svc.now(), by.Name, "book", id, q.Day+" "+q.Start+", "+q.Team.Name+", "+why)
	})
}

// Unbook frees the day of a job, its crew and what is held for it.
func (svc *Service) Unbook(ctx context.Context, by people.Person, id string) (jobs.View, error) {
	if err := people.May(by, people.BookDays); err != nil {
		return jobs.View{}, err
	}
	return svc.jobs.Change(ctx, id, func(tx *store.Tx, w *store.Whole, j *job.Job) error {
		if w.Job.Sealed {
			return people.ErrSealed
		}
		if jobs.Begun(j) {
			return schema.Invalid("plan.day", "the work has begun: its day stays")
		}
		p := &j.Plan
		was := p.Day
		*p = job.Plan{Parts: jobs.Unheld(p.Parts), Notice: p.Notice, Home: p.Home}
		if err := tx.Free(id); err != nil {
			return err
		}
		if err := svc.putPlan(tx, w, by, p); err != nil {
			return err
		}
		return tx.Note(svc.now(), by.Name, "free the day", id, was)
	})
}

func (svc *Service) putPlan(tx *store.Tx, w *store.Whole, by people.Person, p *job.Plan) error {
	body, err := json.Marshal(p)
	if err != nil {
		return err
	}
	return svc.jobs.PutSection(tx, w, by, "plan", -1, body)
}

// Refusal is one reason for which days were passed over.
type Refusal struct {
	Reason planning.Reason `json:"reason"`
	Teams  []string        `json:"teams" doc:"Ids of the crews."`
	From   string          `json:"from" format:"date"`
	To     string          `json:"to" format:"date"`
	Days   int             `json:"days" doc:"Days passed over for it."`
}

// FirstDay is the first day that meets everything, and what was passed over on
// the way to it.
type FirstDay struct {
	Found   bool      `json:"found"`
	Ask     DayAsk    `json:"ask"`
	Passed  []Refusal `json:"passed"`
	Through string    `json:"through" doc:"Last day that was looked at."`
}

// daysAhead is how far a first day is looked for.
const daysAhead = 60

// FirstDay proposes the first day and crew that nothing speaks against.
func (svc *Service) FirstDay(ctx context.Context, by people.Person, id string) (FirstDay, error) {
	out := FirstDay{Passed: []Refusal{}}
	v, err := svc.jobs.Open(ctx, by, id)
	if err != nil {
		return out, err
	}
	b, err := svc.basis(ctx)
	if err != nil {
		return out, err
	}
	day := svc.firm.Today(b.resources.SiteZone(&v.Job))
	if err := b.look(ctx, svc.store, nil, id, day, clearance.AddDays(day, daysAhead)); err != nil {
		return out, err
	}
	for n := 1; n <= daysAhead; n++ { // not today: the vans have left
		out.Through = clearance.AddDays(day, n)
		for _, c := range b.resources.Crews {
			if works, _ := c.Works(out.Through); !works || !c.Qualified(v.Job.Rulebook) {
				continue
			}
			for _, start := range b.starts(c, &v.Job, out.Through) {
				q, _ := svc.ask(&b, id, &v.Job, DayAsk{Team: c.ID, Day: out.Through, Start: start})
				reasons := planning.Judge(&q)
				if ok, _ := planning.Bookable(reasons); ok {
					out.Found, out.Ask = true, DayAsk{Team: c.ID, Day: q.Day, Start: q.Start, Hours: q.Hours}
					return out, nil
				}
				out.pass(c.ID, q.Day, reasons)
			}
		}
	}
	return out, nil
}

// pass notes what speaks against a day, one line for each reason.
func (f *FirstDay) pass(team, day string, reasons []planning.Reason) {
	for _, r := range reasons {
		if r.Verdict == planning.Note {
			continue
		}
		k := slices.IndexFunc(f.Passed, func(o Refusal) bool { return o.Reason.What == r.What })
		if k < 0 {
			f.Passed = append(f.Passed, Refusal{Reason: r, From: day})
			k = len(f.Passed) - 1
		}
		p := &f.Passed[k]
		if p.To != day {
			p.To = day
			p.Days++
		}
		if !slices.Contains(p.Teams, team) {
			p.Teams = append(p.Teams, team)
		}
	}
}

// starts are the times at which a crew could begin a job: first thing, and
// after each job that it has.
func (b *basis) starts(c planning.Crew, j *job.Job, day string) []string {
	out := []string{""}
	for _, o := range b.bookings {
		at := quarter(o.End() + planning.Minutes(b.resources.Travel, o.Town, j.Site.Town))
		if o.Day == day && b.teamOf(o) == c.ID && at < planning.Clock(b.resources.Hours.To) {
			out = append(out, planning.At(at))
		}
	}
	return out
}

// DaySheet is what the van takes along for a job.
func (svc *Service) DaySheet(ctx context.Context, by people.Person, id string) (planning.DaySheet, error) {
	v, err := svc.jobs.Open(ctx, by, id)
	if err != nil {
		return planning.DaySheet{}, err
	}
	return planning.SheetOf(&v.Job, &v.Book.In.Install), nil
}

// weekdays are the days from one on, Saturdays and Sundays left out.
func weekdays(from string, n int) []string {
	var out []string
	for d := from; len(out) < n; d = clearance.AddDays(d, 1) {
		t, err := time.Parse(time.DateOnly, d)
		if err != nil {
			return out
		}
		if t.Weekday() != time.Saturday && t.Weekday() != time.Sunday {
			out = append(out, d)
		}
	}
	return out
}
