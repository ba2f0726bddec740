// Package rooms puts the program together: one room for each thing that people do,
// over one database, with one clock.
package rooms

import (
	"context"
	"log/slog"
	"time"

	_ "dogbolt/core/books" // the countries register themselves
	"dogbolt/core/planning"
	"dogbolt/internal/rooms/days"
	"dogbolt/internal/rooms/doctor"
	"dogbolt/internal/rooms/firm"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/journal"
	"dogbolt/internal/rooms/papers"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/rooms/practice"
	"dogbolt/internal/rooms/records"
	"dogbolt/internal/rooms/settings"
	"dogbolt/internal/rooms/stockroom"
	"dogbolt/internal/rooms/workings"
	"dogbolt/internal/stamp"
	"dogbolt/internal/store"
)

// Rooms is the program behind its pages.
type Rooms struct {
	People   *people.Service
	Firm     *firm.Service
	Jobs     *jobs.Service
	Workings *workings.Service
	Journal  *journal.Service
	Papers   *papers.Service
	Days     *days.Service
	Stock    *stockroom.Service
	Practice *practice.Service
	Records  *records.Service
	Doctor   *doctor.Service

	// Replica says how the replica stands; nil where none is kept.
	Replica func() Replica

	store *store.Store
	now   func() time.Time
}

// Replica is how the replica of the database stands.
type Replica struct {
	Behind  float64 `json:"behind" doc:"How long it has not had all, s."`
	Waiting int     `json:"waiting" doc:"Pictures and files that are not in it yet."`
	Problem string  `json:"problem,omitempty" doc:"What went wrong last; left out where it went well since."`
	Failing bool    `json:"failing" doc:"It is so far behind that a person has to look."`
}

// Outside is what stands outside the program. Each may be nil: without a forecast
// days are judged without weather; without a time authority papers have no time stamp; without mail and desk papers are sent and answered
// by hand.
type Outside struct {
	Forecast planning.Forecast
	Mail     papers.Mailer
	Desk     papers.SchemeDesk
	Time     stamp.Authority // stamps sealed papers
}

// New returns the program over a database, with the instruments that practice cases
// are measured with.
func New(s *store.Store, log *slog.Logger, instruments practice.Instruments) *Rooms {
	r := &Rooms{store: s, now: func() time.Time { return time.Now().UTC().Truncate(time.Millisecond) }}
	now := func() time.Time { return r.now() }
	values := settings.New(s, now)
	r.People = people.New(s, log, now)
	r.Firm = firm.New(s, now, values, r.People.Confirm)
	r.Jobs = jobs.New(s, now, r.Firm)
	r.Workings = workings.New(r.Firm, r.Jobs)
	r.Journal = journal.New(s, now, values, r.Firm, r.Jobs)
	r.Papers = papers.New(s, now, r.Firm, r.Jobs)
	r.Days = days.New(s, now, values, r.Firm, r.Jobs, r.Papers)
	r.Stock = stockroom.New(s, now, r.Firm, r.Jobs)
	r.Practice = practice.New(s, now, instruments)
	r.Records = records.New(s, now, r.Firm, r.Jobs)
	r.Doctor = doctor.New(s, now, r.Jobs, r.Firm)
	return r
}

// Connect gives the program what stands outside of it. It is called before the
// first request.
func (r *Rooms) Connect(o Outside) {
	r.Days.Forecast, r.Papers.Mail, r.Papers.Desk = o.Forecast, o.Mail, o.Desk
	r.People.Mail = o.Mail
	r.Records.Time, r.Records.Mail = o.Time, o.Mail
	r.Doctor.Mail = o.Mail
}

// Healthy reports whether the database answers.
func (r *Rooms) Healthy(ctx context.Context) error { return r.store.Ping(ctx) }

// Writable reports why nothing can be written, nil where something can.
func (r *Rooms) Writable(ctx context.Context) error { return r.store.Probe(ctx, r.now()) }
