package jobs

import (
	"archive/zip"
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"dogbolt/core/job"
	"dogbolt/core/schema"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/store"
)

// Personal returns what the program holds of a job's customer, as a ZIP: the job with site,
// papers and log, the pictures and files, and the sealed records.
func (svc *Service) Personal(ctx context.Context, by people.Person, id string) (name string, data []byte, err error) {
	if err := people.May(by, people.Personal); err != nil {
		return "", nil, err
	}
	j, err := svc.Whole(ctx, id)
	if err != nil {
		return "", nil, err
	}
	var b bytes.Buffer
	w := zip.NewWriter(&b)
	put := func(name string, data []byte) error {
		f, err := w.Create(name)
		if err != nil {
			return err
		}
		_, err = f.Write(data)
		return err
	}
	body, err := json.MarshalIndent(j, "", "  ")
	if err != nil {
		return "", nil, err
	}
	errs := []error{put("job.json", body)}
	photos, err := svc.store.Pictures(ctx, id)
	errs = append(errs, err)
	for _, p := range photos {
		data, err := svc.store.Photo(ctx, id, p.Digest)
		errs = append(errs, err, put("photos/"+p.Digest[:16]+".jpg", data))
	}
	files, err := svc.store.Files(ctx, id)
	errs = append(errs, err)
	for _, f := range files {
		if slices.ContainsFunc(photos, func(p store.Photo) bool { return p.Digest == f.Digest }) {
			continue
		}
		_, data, err := svc.store.FileData(ctx, id, f.Digest)
		errs = append(errs, err, put("files/"+f.Digest[:16], data))
	}
	records, err := svc.store.Records(ctx, id)
	errs = append(errs, err)
	for _, r := range records {
		whole, err := svc.store.Record(ctx, id, r.Issue)
		errs = append(errs, err, put(fmt.Sprintf("record-%d.json", r.Issue), whole.File))
	}
	if err := errors.Join(append(errs, w.Close())...); err != nil {
		return "", nil, err
	}
	return j.Number + "-customer.zip", b.Bytes(), nil
}

// Erase takes a customer's personal data out of a job, on request and after the time that
// the firm keeps them: name, address, telephone, mail, notes about the site, pictures, files,
// what was entered on forms, and the addresses of mails; from lists, search and calendars with
// them. What law and trade
// ask to be kept stays: sealed records, and the log, which names no customer in its fields.
func (svc *Service) Erase(ctx context.Context, by people.Person, id, reason string) (View, error) {
	if err := people.May(by, people.Personal); err != nil {
		return View{}, err
	}
	if len([]rune(strings.TrimSpace(reason))) < 10 {
		return View{}, schema.Invalid("reason", "taking data out needs a reason in words: who asked, and when")
	}
	policy, err := svc.firm.PolicyNow(ctx)
	if err != nil {
		return View{}, err
	}
	var after func() error
	v, err := svc.Change(ctx, id, func(tx *store.Tx, w *store.Whole, j *job.Job) error {
		if len(j.Log) > 0 && !w.Job.Sealed {
			return fmt.Errorf("%w: the work is not sealed yet, and its record needs the customer", people.ErrBlocked)
		}
		if until := w.Job.Updated.AddDate(policy.KeepYears, 0, 0); policy.KeepYears > 0 && svc.now().Before(until) {
			return fmt.Errorf("%w: the firm keeps a customer's data for %d years after the last change, until %s",
				people.ErrBlocked, policy.KeepYears, until.Format("2 January 2006"))
		}
		anonymous(j)
		for _, name := range []job.SectionName{job.SiteSection, job.SurveySection, job.ClearancesSection} {
			part, _ := job.FindSection(name)
			body, err := part.Write(j)
			if err != nil {
				return err
			}
			if err := svc.PutSection(tx, w, by, name, -1, body); err != nil {
				return err
			}
		}
		if err := svc.forgetRefused(tx, w, by); err != nil {
			return err
		}
		if after, err = tx.DropPictures(id); err != nil {
			return err
		}
		return tx.Note(svc.now(), by.Name, "take out customer's data", id, strings.TrimSpace(reason))
	})
	if err != nil {
		return v, err
	}
	// The words are gone from the job now, and with this from the index.
	return v, errors.Join(svc.store.Write(ctx, func(tx *store.Tx) error { return tx.SearchAnew() }), after())
}

// anonymous takes out of a job what is about its customer: the site but for its zone, the
// survey's pictures, what was entered on forms and what was attached to them.
func anonymous(j *job.Job) {
	j.Site = job.Site{Customer: erased, Zone: j.Site.Zone}
	j.Survey.Photos = nil
	for i := range j.Clearances.Papers {
		p := &j.Clearances.Papers[i]
		p.Answers, p.Attached, p.SignedBy = nil, nil, ""
		for k := range p.Replies {
			p.Replies[k].Reasons = nil
		}
	}
}

// erased stands where a customer's name was.
const erased = "taken out on request"

// Delete removes a job of which nothing was logged, sealed or photographed: one that was made
// to try.
func (svc *Service) Delete(ctx context.Context, by people.Person, id string) error {
	if err := people.May(by, people.Personal); err != nil {
		return err
	}
	row, err := svc.store.Job(ctx, id)
	if err != nil {
		return err
	}
	err = svc.store.Write(ctx, func(tx *store.Tx) error {
		return errors.Join(tx.DropJob(id), tx.Note(svc.now(), by.Name, "delete job", id, row.Number+", made "+row.Created.Format(time.DateOnly)))
	})
	if errors.Is(err, store.ErrTaken) {
		return fmt.Errorf("%w: something was logged, photographed or sent for this job; what was done is not deleted", people.ErrBlocked)
	}
	return err
}
