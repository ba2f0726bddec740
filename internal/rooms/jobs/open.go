package jobs

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"time"

	"dogbolt/core/assess"
	"dogbolt/core/job"
	"dogbolt/core/rulebook"
	"dogbolt/core/schema"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/store"
)

// Whole reads a job without judging it.
func (svc *Service) Whole(ctx context.Context, id string) (job.Job, error) {
	w, err := svc.store.Whole(ctx, id)
	if err != nil {
		return job.Job{}, err
	}
	return Assemble(w)
}

// View is a job opened: the document, its revisions, and everything that
// follows from it.
type View struct {
	Summary   Summary
	Job       job.Job
	Revisions map[string]int
	Editors   map[string]Editor
	assess.Assessment
	Findings []rulebook.Finding
	Policy   assess.WorkPolicy // what judged it
	Book     *rulebook.Book
	Records  []store.Record
	Amending string        // reason of the amendment that is open
	Held     schema.Errors // fields of a section that could not be kept with the rest of it

	State string      // mark of what the assessment follows from
	Prior *Judged     // how it was judged before it grew; nil where nobody knows
	Added []job.Entry // what its log grew by
}

// Editor is who saved a section last, and when.
type Editor struct {
	By string    `json:"by"`
	At time.Time `json:"at"`
}

// Open returns a job with its findings.
func (svc *Service) Open(ctx context.Context, by people.Person, id string) (View, error) {
	if err := people.May(by, people.ViewJobs); err != nil {
		return View{}, err
	}
	policy, err := svc.firm.OnSite(ctx)
	if err != nil {
		return View{}, err
	}
	var v View
	err = svc.use(ctx, id, func(u *inUse) error {
		now := svc.now()
		if v, err = u.judge(policy, now); err == nil {
			svc.desk.checkJudged(u, &v, now)
		}
		return err
	})
	if err != nil {
		return View{}, err
	}
	v.Records, err = svc.store.Records(ctx, id)
	return v, err
}

// Judge checks an assembled job.
func Judge(w store.Whole, j job.Job, policy assess.WorkPolicy, now time.Time) (View, error) {
	v := View{Policy: policy}
	v.of(w, j)
	var err error
	if v.Book, err = rulebook.For(&j); err != nil {
		return v, err
	}
	v.Assessment, v.Findings, err = assess.Of(&j, &v.Policy, now)
	return v, err
}

// of makes the view one of a job, whatever it is judged as.
func (v *View) of(w store.Whole, j job.Job) {
	v.Summary, v.Job, v.Amending, v.Revisions, v.Editors = summary(w.Job), j, w.Job.Reason, map[string]int{}, map[string]Editor{}
	for _, s := range w.Sections {
		v.Revisions[s.Name] = s.Revision
		v.Editors[s.Name] = Editor{s.By, s.Updated}
	}
}

// Assemble puts the sections and the log together.
func Assemble(w store.Whole) (job.Job, error) {
	j := job.Job{Format: job.Format, Number: w.Job.Number, Rulebook: w.Job.Rulebook}
	var refused []schema.Refused
	var kept refusedRow
	for _, s := range w.Sections {
		if job.SectionName(s.Name) == job.RefusedSection {
			if err := json.Unmarshal(s.Body, &kept); err != nil {
				return j, fmt.Errorf("job %s, refused values: %w", w.Job.Number, err)
			}
			continue
		}
		part, ok := job.FindSection(job.SectionName(s.Name))
		if !ok {
			return j, fmt.Errorf("job %s has an unknown section %q", w.Job.Number, s.Name)
		}
		found, errs := part.ReadOld(&j, s.Body)
		if len(errs) > 0 {
			return j, fmt.Errorf("job %s: %w", w.Job.Number, errs)
		}
		refused = append(refused, found...)
	}
	j.Log = make([]job.Entry, 0, len(w.Entries))
	entries := schema.Of[job.Entry]()
	for _, e := range w.Entries {
		var entry job.Entry
		// Named by its id: its place changes when an earlier one comes late.
		found, errs := entries.ReadOld("log["+e.ID+"]", e.Body, &entry)
		refused = append(refused, found...)
		switch {
		case len(errs) > 0 && len(found) == 0:
			return j, fmt.Errorf("job %s, entry %s: %w", w.Job.Number, e.ID, errs)
		case entry.ID != "": // else it is set aside whole
			j.Log = append(j.Log, entry)
		}
	}
	j.Refused = kept.Open
	for _, r := range refused {
		if !slices.Contains(kept.Open, r) && !slices.Contains(kept.Settled, r) {
			j.Refused = append(j.Refused, r)
		}
	}
	return j, nil
}

// Export returns the job document as a job file.
func (svc *Service) Export(ctx context.Context, by people.Person, id string) (job.Job, error) {
	if err := people.May(by, people.ViewJobs); err != nil {
		return job.Job{}, err
	}
	return svc.Whole(ctx, id)
}

// Point opens a job and returns it with one of its points; ErrNotFound where it has no
// such point.
func (svc *Service) Point(ctx context.Context, by people.Person, id, point string) (View, job.Point, error) {
	v, err := svc.Open(ctx, by, id)
	if err != nil {
		return v, job.Point{}, err
	}
	p, ok := v.Job.Point(point)
	if !ok {
		return v, p, fmt.Errorf("point %q: %w", point, store.ErrNotFound)
	}
	p.Circuit.Point = point
	return v, p, nil
}
