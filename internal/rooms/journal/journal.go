package journal

import (
	"context"
	"encoding/json"
	"fmt"
	"time"

	"dogbolt/core/assess"
	"dogbolt/core/job"
	"dogbolt/core/schema"
	"dogbolt/core/worklog"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/store"
)

// Append adds entries to a job's log: all of them, or none, and returns the job without its
// sealed issues, which they do not change. Entries that the
// log has already are passed over, so that a device may send them twice. kept is what
// the device knows of their time; without it, a time that has passed is anybody's word.
func (svc *Service) Append(ctx context.Context, by people.Person, id string, entries []job.Entry, kept *Kept) (jobs.View, error) {
	marks, err := svc.marks(ctx)
	if err != nil {
		return jobs.View{}, err
	}
	return svc.add(ctx, by, id, entries, func(now time.Time) (span, error) {
		return svc.spanOf(ctx, marks, by, entries, kept, now)
	})
}

// add is Append, with what is known of the entries' times.
func (svc *Service) add(ctx context.Context, by people.Person, id string, entries []job.Entry, known func(time.Time) (span, error)) (jobs.View, error) {
	if len(entries) == 0 || len(entries) > 500 {
		return jobs.View{}, schema.Invalid("entries", "send 1 to 500 entries at a time, not %d", len(entries))
	}
	for i := range entries {
		e := &entries[i]
		e.By, e.Person, e.At = by.Name, by.ID, e.At.UTC()
		if err := people.May(by, people.ActionOf(*e)); err != nil {
			return jobs.View{}, err
		}
	}
	policy, err := svc.firm.OnSite(ctx)
	if err != nil {
		return jobs.View{}, err
	}
	return svc.jobs.Grow(ctx, id, by.Name, func(w *store.Whole, j *job.Job) (jobs.Growth, error) {
		now := svc.now()
		when, err := known(now)
		if err != nil {
			return jobs.Growth{}, err
		}
		out, begin := jobs.Growth{Links: when.links}, beginOf(w, j)
		writer := assess.Writer{Name: by.Name, Verifier: by.Roles.Has(people.Verifier)}
		for i, e := range entries {
			if j.Place(e.ID) >= 0 {
				continue
			}
			if w.Job.Sealed && !ofLater(j, &e) {
				return out, people.ErrSealed
			}
			field := fmt.Sprintf("entries[%d]", i)
			if k := j.Place(e.Replaces); k >= 0 && e.Kind == job.TakenBack {
				if err := people.May(by, people.ActionOf(j.Log[k])); err != nil {
					return out, err
				}
			}
			if e.Calibrated = ""; e.Kind == job.ReadingMade || e.Kind == job.TorqueMade {
				e.Calibrated = policy.Calibrated(e.Instrument)
			}
			j.Sign(&e) // what is signed is what the server holds
			check, err := when.judge(&e, field)
			if err != nil {
				return out, err
			}
			if errs := check(j, &policy.WorkPolicy, writer, now, e, field); len(errs) > 0 {
				return out, schema.Errors(errs)
			}
			if !when.own && begin.Sub(e.At) > near { // an instrument goes by a clock of its own
				return out, schema.Invalid(field+".at", "lies before the job was made here, %s UTC: set the device's clock, or enter it anew with its time",
					begin.Format("2 January 2006 15:04"))
			}
			out.Entries = append(out.Entries, jobs.Added{Entry: e, Field: field})
			j.Log = append(j.Log, e)
			j.Index()
		}
		return out, nil
	})
}

// ofLater reports whether an entry is a receipt, or takes one or what became of a paper after the seal back: nothing
// else is logged on a sealed job.
func ofLater(j *job.Job, e *job.Entry) bool {
	if e.Kind == job.HandedOver {
		return true
	}
	k := j.Place(e.Replaces)
	return e.Kind == job.TakenBack && k >= 0 && (j.Log[k].Kind == job.PaperMoved || j.Log[k].Kind == job.HandedOver)
}

// beginOf is the moment before which nothing can have been logged on a job: when it was made
// here, or where a file brought a log, that log's first entry.
func beginOf(w *store.Whole, j *job.Job) time.Time {
	if len(j.Log) > 0 && j.Log[0].At.Before(w.Job.Created) { // the log is in the order of its times
		return j.Log[0].At
	}
	return w.Job.Created
}

// NearMissList is what happened, or nearly, over all jobs.
type NearMissList struct {
	Kinds []worklog.NearMiss `json:"kinds" doc:"Kinds that are written down with one press."`
	List  []NearMissLine     `json:"list" doc:"Newest first."`
}

// NearMissLine is one near miss. Who and which job are left out unless the office
// asks for them.
type NearMissLine struct {
	Day    string `json:"day" format:"date"`
	Kind   string `json:"kind,omitempty"`
	Words  string `json:"words"`
	Town   string `json:"town"`
	Number string `json:"number,omitempty"`
	By     string `json:"by,omitempty"`
}

// NearMisses lists near misses for the firm to learn from, without names; named
// asks for them, which the office alone may.
func (svc *Service) NearMisses(ctx context.Context, by people.Person, named bool) (NearMissList, error) {
	out := NearMissList{Kinds: worklog.NearMisses, List: []NearMissLine{}}
	act := people.ViewJobs
	if named {
		act = people.ManageUsers
	}
	if err := people.May(by, act); err != nil {
		return out, err
	}
	rows, err := svc.store.NearMisses(ctx, 200)
	if err != nil {
		return out, err
	}
	for _, r := range rows {
		var e job.Entry
		if err := json.Unmarshal(r.Body, &e); err != nil {
			return out, err
		}
		if e.Kind == job.TakenBack { // under the subject of what it takes back
			continue
		}
		l := NearMissLine{Day: e.At.Format(time.DateOnly), Kind: e.Value, Words: e.Reason, Town: r.Town}
		if named {
			l.Number, l.By = r.Number, e.By
		}
		out.List = append(out.List, l)
	}
	return out, nil
}

// AsBuilt compares a job as designed with the job as built.
func (svc *Service) AsBuilt(ctx context.Context, by people.Person, id string) (assess.AsBuilt, error) {
	v, err := svc.jobs.Open(ctx, by, id)
	if err != nil {
		return assess.AsBuilt{}, err
	}
	return assess.Built(&v.Job)
}
