package planning

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"dogbolt/core/clearance"
	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/schema"
	"dogbolt/core/stock"
)

// Verdict is how much a reason weighs.
type Verdict string

// Verdicts of a reason.
const (
	Never   Verdict = "never"   // no one books against it: papers, people who are elsewhere, a day that is over
	Against Verdict = "against" // booked against it only with name and reason
	Note    Verdict = "note"    // to know
)

// Values lists the weights of a reason.
func (Verdict) Values() []string { return schema.Words(Never, Against, Note) }

// Kind is what a reason is about.
type Kind string

// What reasons are about.
const (
	AboutDay         Kind = "day"
	AboutPapers      Kind = "papers"
	AboutParts       Kind = "parts"
	AboutCrew        Kind = "crew"
	AboutInstruments Kind = "instruments"
	AboutWeather     Kind = "weather"
	AboutCustomer    Kind = "customer"
	AboutLength      Kind = "length"
)

// Values lists what reasons are about.
func (Kind) Values() []string {
	return schema.Words(AboutDay, AboutPapers, AboutParts, AboutCrew, AboutInstruments, AboutWeather, AboutCustomer, AboutLength)
}

// Reason speaks against a day, or is to be known about it.
type Reason struct {
	Kind    Kind    `json:"kind"`
	Verdict Verdict `json:"verdict"`
	What    string  `json:"what"`
	Remedy  string  `json:"remedy"`
	Field   string  `json:"field,omitempty" doc:"Where to mend it, where that is a field of the job."`
}

// Ask is everything that Judge looks at before a crew is booked on a job for a day.
type Ask struct {
	Job         *job.Job
	ID          string    // of the job
	Practice    *Practice // of the job's country; nil where its rulebook is not known
	Team        Crew
	Day         string  // 2027-03-28
	Start       string  // 08:30, by the site's clock
	Hours       float64 // on site, h
	Today       string  // by the site's zone
	Zone        *time.Location
	Day0        Workday      // usual working hours of the firm
	Others      []Booking    // of every crew on that day
	Travel      []Travel     // ways between towns, min
	Instruments []Instrument // of the firm, with their calibration
	Forecast    Forecast     // nil: the weather is noted as not known
	Stock       stock.Answer // what the stock says of the job's parts
}

// Booking is the booking that the ask would become.
func (a *Ask) Booking() Booking {
	return Booking{Job: a.ID, Number: a.Job.Number, Team: a.Team.ID, People: a.Team.People, Day: a.Day, Start: a.Start, Hours: a.Hours, Town: a.Job.Site.Town}
}

// Judge lists every reason that speaks against a day, the weightiest first.
// None of weight Never or Against means that it is bookable.
func Judge(a *Ask) []Reason {
	var out []Reason
	add := func(kind Kind, v Verdict, field, remedy, format string, args ...any) {
		out = append(out, Reason{kind, v, fmt.Sprintf(format, args...), remedy, field})
	}
	j := a.Job
	for _, b := range clearance.Blocking(j, job.BeforeInstalling) {
		add(
			AboutPapers,
			Never,
			"clearances.papers",
			"bring it in first; a verifier may put it aside with a reason",
			"%s must come before %s: %s",
			b.Title,
			b.Event,
			b.Why,
		)
	}
	for _, b := range clearance.Blocking(j, job.BeforeEnergising) {
		if b.Event == job.BeforeEnergising {
			add(
				AboutPapers,
				Against,
				"clearances.papers",
				"wait for the answer, or the crew comes twice",
				"%s: %s; nothing is switched on before it",
				b.Title,
				b.Why,
			)
		}
	}
	if a.day(add) {
		a.crew(add)
		a.instruments(add)
	}
	a.parts(add)
	a.customer(add)
	if from, to, err := a.Booking().Moments(a.zone()); err == nil {
		out = append(out, a.Practice.weather(j, a.Forecast, from, to)...)
	}
	rank := []Verdict{Never, Against, Note}
	slices.SortStableFunc(out, func(x, y Reason) int { return slices.Index(rank, x.Verdict) - slices.Index(rank, y.Verdict) })
	return out
}

func (a *Ask) zone() *time.Location {
	if a.Zone == nil {
		return time.UTC
	}
	return a.Zone
}

type adder = func(kind Kind, v Verdict, field, remedy, format string, args ...any)

// day judges day and time; false where they are none.
func (a *Ask) day(add adder) bool {
	if _, err := time.Parse(time.DateOnly, a.Day); err != nil {
		add(AboutDay, Never, "plan.day", "a day such as 2027-03-28", "%q is not a day", a.Day)
		return false
	}
	if a.Day < a.Today {
		add(AboutDay, Never, "plan.day", "a day to come", "%s is over", a.Day)
	}
	if Clock(a.Start) < 0 {
		add(AboutDay, Never, "plan.start", "a time such as 08:30", "%q is not a time of day", a.Start)
		return false
	}
	for _, p := range a.Job.Clearances.Papers {
		if p.Needed == job.Yes && p.Before == job.BeforeOrder && p.Granted > a.Day {
			add(AboutPapers, Never, "clearances.papers", "a day after the answer", "%s was answered %s: work before that day voids it", p.Title, p.Granted)
		}
	}
	way := Minutes(a.Travel, a.Team.Base, a.Job.Site.Town)
	from, to := Clock(a.Day0.From), Clock(a.Day0.To)
	if from >= 0 && Clock(a.Start) < from+way {
		add(AboutLength, Against, "plan.start", "a later start", "the crew leaves at %s, and the way takes %d min", a.Day0.From, way)
	}
	if end := a.Booking().End(); to >= 0 && end+way > to {
		add(
			AboutLength,
			Against,
			"plan.start",
			"an earlier start, or two days",
			"%.1f h from %s end at %s, and the way home takes %d min: after %s",
			a.Hours,
			a.Start,
			At(end),
			way,
			a.Day0.To,
		)
	}
	return true
}

func (a *Ask) crew(add adder) {
	if len(a.Team.People) == 0 {
		add(AboutCrew, Never, "plan.crew", "choose one", "no crew")
		return
	}
	if works, why := a.Team.Works(a.Day); !works && why != "" {
		add(AboutCrew, Against, "plan.day", "another day", "%s %s", a.Day, why)
	}
	if !a.Team.Qualified(a.Job.Rulebook) {
		add(AboutCrew, Never, "plan.crew", "another crew", "%s is not qualified for %s", a.Team.Name, a.Job.Rulebook)
	}
	if _, why := Clash(a.Booking(), a.Others, a.Travel); why != "" {
		add(AboutCrew, Never, "plan.crew", "another time, day or crew", "%s", why)
	}
}

func (a *Ask) parts(add adder) {
	if len(a.Job.Plan.Parts) == 0 {
		add(AboutParts, Against, "plan.parts", "take them from the design", "no parts list")
		return
	}
	for _, s := range a.Stock.Shorts {
		add(AboutParts, Against, "plan.parts", "another reel, or order it", "%s", s.Message)
	}
	for _, p := range a.Job.Plan.Parts {
		if p.Tool == job.Yes && p.Lacks() {
			add(AboutParts, Against, "plan.parts", "put it in the van and tick it", "%s: not in the van", p.Name)
		}
	}
	for _, t := range a.Stock.Thin {
		add(AboutParts, Note, "plan.parts", "cut nothing before the route is measured again", "%s", t)
	}
}

// Wanted are the instruments that every job needs. Common practice, no source.
var Wanted = []string{"installation tester", "torque driver"}

func (a *Ask) instruments(add adder) {
	for _, what := range Wanted {
		best := ""
		for _, i := range a.Instruments {
			if strings.EqualFold(i.What, what) && (i.Crew == a.Team.ID || i.Crew == "") {
				best = max(best, i.Until)
			}
		}
		switch {
		case best == "":
			add(AboutInstruments, Against, "", "enter it under People and firm, with its calibration", "%s carries no %s", a.Team.Name, what)
		case best < a.Day:
			add(AboutInstruments, Against, "", "have it calibrated, or take another", "%s of %s: calibration ends %s", what, a.Team.Name, best)
		}
	}
}

func (a *Ask) customer(add adder) {
	p, n := &a.Job.Plan, &a.Job.Survey.Network
	if p.Notice != job.Yes {
		add(
			AboutCustomer,
			Against,
			"plan.notice",
			"tell them: freezer, medical equipment, alarms, home working",
			"the customer has not been told when the power is off",
		)
	}
	if n.Kind == job.NotJoined || n.Without == job.Yes {
		return
	}
	if p.Home != job.Yes {
		add(
			AboutCustomer,
			Against,
			"plan.home",
			"ask, or set the charger up without network",
			"nobody is known to be at home to join the charger to the network",
		)
	}
	if n.Kind == job.ByWiFi && n.Password == "" {
		add(AboutCustomer, Against, "survey.network.passwordWith", "ask who holds it, and will be there", "who holds the network's password is not known")
	}
}

// Bookable reports whether a day may be booked as it is, or only by override.
func Bookable(reasons []Reason) (ok, byOverride bool) {
	ok, byOverride = true, true
	for _, r := range reasons {
		ok = ok && r.Verdict == Note
		byOverride = byOverride && r.Verdict != Never
	}
	return ok, byOverride
}

// Effort is what makes a job long.
type Effort struct {
	Points   float64 `json:"points"`
	Segments float64 `json:"segments"`
	Metres   float64 `json:"metres"`
	Walls    float64 `json:"walls"`
	Buried   float64 `json:"buried" doc:"Metres in the ground."`
	Board    float64 `json:"board" doc:"Devices to move on the board, or an enclosure beside it."`
}

// EffortOf counts what makes a job long. moves is how many devices have to be
// moved on the board.
func EffortOf(j *job.Job, moves int) Effort {
	e := Effort{Points: float64(len(j.Survey.Places)), Board: float64(moves)}
	for _, p := range j.Points() {
		laid := p.LaidRoute() // else its cable lies there
		e.Segments += float64(len(laid))
		for _, s := range laid {
			e.Metres += float64(s.Run())
			if s.Wall > 0 {
				e.Walls++
			}
			if s.Method == job.Buried {
				e.Buried += float64(s.Length)
			}
		}
	}
	return e
}

// Working says how an estimate comes about.
func (m Model) Working(e Effort) string {
	s := quantity.Say("{1} h to set up, isolate and test", m.Hours[0])
	for i, name := range effortNames {
		if v := e.List()[i+1]; v > 0 && m.Hours[i+1] != 0 {
			s += quantity.Say(" + {} × {2} h ", v, m.Hours[i+1]) + name
		}
	}
	return s + quantity.Say(" = {1} h", m.Estimate(e))
}
