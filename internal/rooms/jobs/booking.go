package jobs

import (
	"context"
	"encoding/json"
	"errors"
	"slices"
	"strings"
	_ "time/tzdata" // the zones, wherever the program runs

	"dogbolt/core/clearance"
	"dogbolt/core/job"
	"dogbolt/core/panel"
	"dogbolt/core/planning"
	"dogbolt/core/schema"
	"dogbolt/core/stock"
	"dogbolt/internal/store"
)

const KeyDurations = "durations"

// keptDurations is how many past jobs are remembered.
const keptDurations = 400

// Remember adds a finished job to those that durations are learnt from.
func Remember(tx *store.Tx, j *job.Job) error {
	hours, ok := planning.Logged(j)
	if !ok || !j.Makes() { // a repair or a removal says nothing of how long a circuit takes
		return nil
	}
	var past []planning.Past
	if b, err := tx.Settings().Get(KeyDurations); err == nil {
		if err := json.Unmarshal(b, &past); err != nil {
			return err
		}
	} else if !errors.Is(err, store.ErrNotFound) {
		return err
	}
	past = append(past, planning.Past{Effort: EffortOf(j), Hours: hours})
	b, err := json.Marshal(past[max(0, len(past)-keptDurations):])
	if err != nil {
		return err
	}
	return tx.Settings().Set(KeyDurations, b)
}

// EffortOf counts what makes a job long, board moves included.
func EffortOf(j *job.Job) planning.Effort {
	moves := 0
	for _, f := range panel.Of(j) {
		moves += len(f.Moves)
		if f.Mapped && !f.Fits {
			moves++ // an enclosure beside the board
		}
	}
	return planning.EffortOf(j, moves)
}

// Unheld are the parts of a plan as if nothing were held for it.
func Unheld(parts []job.Part) []job.Part {
	out := slices.Clone(parts)
	for i := range out {
		if out[i].From != "" {
			out[i].From, out[i].InHand = "", job.Unasked
		}
	}
	return out
}

// Begun reports whether a step of the work is logged.
func Begun(j *job.Job) bool {
	return j.Has(job.StepDone)
}

// Hold frees what is held for a job and holds anew what its parts take.
func Hold(tx *store.Tx, id string, p *job.Plan, van string, margin float64) error {
	if err := tx.Free(id); err != nil {
		return err
	}
	p.Parts = Unheld(p.Parts)
	items, err := tx.Stock("")
	if err != nil {
		return err
	}
	a := stock.Cover(items, p.Parts, van, margin)
	if err := tx.Hold(id, a.Holds); err != nil {
		return err
	}
	for i := range p.Parts {
		var from []string
		for _, h := range a.Holds {
			if h.Part == p.Parts[i].Name && h.Reel {
				from = append(from, strings.TrimSpace(h.Place+" reel "+h.Item))
			} else if h.Part == p.Parts[i].Name {
				from = append(from, h.Place)
			}
		}
		if len(from) > 0 {
			p.Parts[i].InHand, p.Parts[i].Supply, p.Parts[i].From = job.Yes, "", strings.Join(from, ", ")
		}
	}
	return nil
}

// keepBooking sees to it that a saved plan neither sets nor moves a day: that is
// booking, where everything that speaks against it is looked at. What is left out
// stays, with what is held for it.
func (svc *Service) keepBooking(ctx context.Context, tx *store.Tx, id string, j *job.Job, was job.Plan) error {
	p := &j.Plan
	if moves(p, &was) {
		return schema.Invalid("plan.day", "day and crew are booked, moved and freed, not written: book the day")
	}
	p.Day, p.Start, p.Hours, p.Team, p.Crew, p.Over = was.Day, was.Start, was.Hours, was.Team, was.Crew, was.Over
	if same := keepHeld(p.Parts, was.Parts); same || !p.Booked() || Begun(j) {
		return nil
	}
	resources, err := svc.firm.ResourcesNow(ctx)
	if err != nil {
		return err
	}
	crew, _ := resources.Crew(p.Team)
	return Hold(tx, id, p, crew.Van, resources.ReelMargin)
}

// moves reports whether a plan says another day, crew or override than was booked;
// what it leaves out says nothing.
func moves(p, was *job.Plan) bool {
	return p.Day != "" && p.Day != was.Day || p.Start != "" && p.Start != was.Start || p.Hours != 0 && p.Hours != was.Hours ||
		p.Team != "" && p.Team != was.Team ||
		len(p.Crew) > 0 && !slices.Equal(p.Crew, was.Crew) ||
		p.Over.By != "" && (p.Over.By != was.Over.By || p.Over.Reason != was.Over.Reason)
}

// keepHeld puts back where parts are held, which nobody writes by hand, and reports
// whether the parts are the same as they were.
func keepHeld(parts, was []job.Part) (same bool) {
	same = len(parts) == len(was)
	for i := range parts {
		p := &parts[i]
		p.From = ""
		k := slices.IndexFunc(was, func(o job.Part) bool { return o.Name == p.Name })
		switch {
		case k < 0:
			same = false
		case was[k].From != "" && p.InHand != job.Yes:
			same = false
		default:
			p.From = was[k].From
			same = same && was[k].Quantity == p.Quantity
		}
	}
	return same
}

// importedDay refuses a job file whose day could not be booked here, and takes
// what it says is held in another stock out of it.
func (svc *Service) importedDay(ctx context.Context, tx *store.Tx, id string, j *job.Job) error {
	if !j.Plan.Booked() {
		return nil
	}
	if !Begun(j) {
		j.Plan.Parts = Unheld(j.Plan.Parts)
	}
	resources, err := svc.firm.ResourcesNow(ctx)
	if err != nil {
		return err
	}
	// What is over, or is being done today, is no booking any more.
	if today := svc.firm.Today(resources.SiteZone(j)); j.Plan.Day < today || j.Plan.Day == today && Begun(j) {
		return nil
	}
	if held := clearance.Blocking(j, job.BeforeInstalling); len(held) > 0 {
		return schema.Invalid("plan.day", "%s cannot be booked: %s: %s", j.Plan.Day, held[0].Title, held[0].Why)
	}
	others, err := tx.Bookings(j.Plan.Day, j.Plan.Day)
	if err != nil {
		return err
	}
	if _, why := planning.Clash(BookingOf(id, j), others, resources.Travel); why != "" {
		return schema.Invalid("plan.day", "%s cannot be booked: %s", j.Plan.Day, why)
	}
	return nil
}

// indexes writes what is kept beside a job so that all jobs can be looked
// through: its booking and its deadlines.
func indexes(tx *store.Tx, id string, j *job.Job, law clearance.Law) error {
	b := planning.Booking{Job: id}
	if j.Plan.Booked() {
		b = BookingOf(id, j)
	}
	if err := tx.SetBooking(b); err != nil {
		return err
	}
	return setDeadlines(tx, id, clearance.Deadlines(j, law))
}

func setDeadlines(tx *store.Tx, id string, deadlines []clearance.Deadline) error {
	var list []store.Deadline
	for _, d := range deadlines {
		list = append(list, store.Deadline{JobID: id, Paper: d.Paper, What: d.What, Title: d.Title, Day: d.Day})
	}
	return tx.SetDeadlines(id, list)
}

// BookingOf is the booking that a job's plan holds. A plan of old without a time
// takes the day.
func BookingOf(id string, j *job.Job) planning.Booking {
	b := planning.Booking{
		Job:    id,
		Number: j.Number,
		Team:   j.Plan.Team,
		People: j.Plan.Crew,
		Day:    j.Plan.Day,
		Start:  j.Plan.Start,
		Hours:  j.Plan.Hours,
		Town:   j.Site.Town,
	}
	if b.Start == "" {
		b.Start = planning.UsualHours.From
	}
	if b.Hours == 0 {
		b.Hours = 8
	}
	return b
}
