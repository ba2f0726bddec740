package records

import (
	"context"
	"fmt"
	"strings"

	"dogbolt/core/assess"
	"dogbolt/core/job"
	"dogbolt/core/record"
	"dogbolt/core/rulebook"
	"dogbolt/core/schema"
	"dogbolt/internal/document"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/store"
	"dogbolt/internal/version"
)

// Seal seals a job: it freezes the job, its findings and the papers as a new
// issue. It refuses while anything stops or is open.
func (svc *Service) Seal(ctx context.Context, by people.Person, id string) (jobs.View, error) {
	if err := people.May(by, people.SealJobs); err != nil {
		return jobs.View{}, err
	}
	contractor, err := svc.firm.ContractorNow(ctx)
	if err != nil {
		return jobs.View{}, err
	}
	if contractor.Name == "" {
		return jobs.View{}, fmt.Errorf("%w: the firm's name and address are not entered yet (People and firm)", people.ErrBlocked)
	}
	key, err := svc.firm.SealingKey(ctx)
	if err != nil {
		return jobs.View{}, err
	}
	policy, err := svc.firm.OnSite(ctx)
	if err != nil {
		return jobs.View{}, err
	}
	return svc.jobs.Change(ctx, id, func(tx *store.Tx, w *store.Whole, j *job.Job) error {
		if w.Job.Sealed {
			return people.ErrSealed
		}
		v, err := jobs.Judge(*w, *j, policy, svc.now())
		if err != nil {
			return err
		}
		if blocking := record.Blocking(v.Findings); len(blocking) > 0 {
			titles := make([]string, len(blocking))
			for i, f := range blocking {
				titles[i] = f.Title
			}
			return fmt.Errorf(
				"%w: the record cannot be sealed while %d findings stop or are open: %s",
				people.ErrBlocked,
				len(blocking),
				strings.Join(titles, "; "),
			)
		}
		if policy.Apart && assess.Worked(j, by.Name) {
			return fmt.Errorf("%w: the firm asks that the seal is by another person than the work, and %s logged work on this job", people.ErrBlocked, by.Name)
		}
		last, err := tx.LastIssue(id)
		if err != nil {
			return err
		}
		head, err := tx.Head(id)
		if err != nil {
			return err
		}
		r := record.Record{
			Format: record.Format, Issue: last + 1, Replaces: w.Job.Amends, Reason: w.Job.Reason, Contractor: contractor,
			Edition: v.Book.Name, Program: version.String(), SealedAt: svc.now(), SealedBy: by.Name, Account: by.ID, Chain: &head,
			Job: v.Job, Findings: rulebook.Lines(v.Findings),
		}
		file, seal, err := record.Sign(r, key)
		if err != nil {
			return err
		}
		sealed := record.Sealed{Record: r, Seal: seal}
		inspection, err := document.PDF(record.Inspection(&r), sealed, file, key)
		if err != nil {
			return err
		}
		handover, err := document.PDF(record.Pack(&r), sealed, file, key)
		if err != nil {
			return err
		}
		if err := tx.AddRecord(store.Record{JobID: id, Issue: r.Issue, Digest: seal.Digest, Replaces: r.Replaces, SealedAt: r.SealedAt, SealedBy: r.SealedBy, File: file, Inspection: inspection, Handover: handover}); err != nil {
			return err
		}
		if err := tx.Use(id); err != nil { // what was held is built in
			return err
		}
		if r.Issue == 1 {
			if err := jobs.Remember(tx, j); err != nil {
				return err
			}
		}
		w.Job.Sealed, w.Job.Amends, w.Job.Reason = true, "", ""
		return tx.Note(svc.now(), by.Name, "seal", id, fmt.Sprintf("issue %d, %s", r.Issue, record.Code(seal.Digest)))
	})
}

// Amend opens a sealed job again, for a new issue that names the old.
func (svc *Service) Amend(ctx context.Context, by people.Person, id, reason string) (jobs.View, error) {
	if err := people.May(by, people.SealJobs); err != nil {
		return jobs.View{}, err
	}
	if len(strings.TrimSpace(reason)) < 10 {
		return jobs.View{}, schema.Invalid("reason", "an amendment needs a reason in words")
	}
	records, err := svc.store.Records(ctx, id)
	if err != nil {
		return jobs.View{}, err
	}
	return svc.jobs.Change(ctx, id, func(tx *store.Tx, w *store.Whole, _ *job.Job) error {
		if !w.Job.Sealed || len(records) == 0 {
			return schema.Invalid("job", "is not sealed: there is nothing to amend")
		}
		w.Job.Sealed, w.Job.Amends, w.Job.Reason = false, records[0].Digest, strings.TrimSpace(reason)
		return tx.Note(svc.now(), by.Name, "amend", id, reason)
	})
}

// Paper is one file of a sealed issue.
type Paper struct {
	Name string
	Type string
	Data []byte
}

// PaperKind is a paper that is printed of a job.
type PaperKind string

// The papers.
const (
	Inspection PaperKind = "inspection"
	Handover   PaperKind = "handover"
)

// Values lists the papers.
func (PaperKind) Values() []string { return schema.Words(Inspection, Handover) }

// SealedKind is a file of a sealed issue: a paper as PDF, or the record as JSON.
type SealedKind string

const sealedRecord SealedKind = "record"

// Values lists the files of a sealed issue.
func (SealedKind) Values() []string { return append(Inspection.Values(), string(sealedRecord)) }

// Paper returns a file of a sealed issue.
func (svc *Service) Paper(ctx context.Context, by people.Person, id string, issue int, kind SealedKind) (Paper, error) {
	if err := people.May(by, people.ViewJobs); err != nil {
		return Paper{}, err
	}
	r, err := svc.store.Record(ctx, id, issue)
	if err != nil {
		return Paper{}, err
	}
	switch kind {
	case SealedKind(Inspection):
		return Paper{fmt.Sprintf("inspection-%d.pdf", issue), "application/pdf", r.Inspection}, nil
	case SealedKind(Handover):
		return Paper{fmt.Sprintf("handover-%d.pdf", issue), "application/pdf", r.Handover}, nil
	case sealedRecord:
		return Paper{fmt.Sprintf("record-%d.json", issue), "application/json", r.File}, nil
	}
	return Paper{}, fmt.Errorf("paper %q: %w", kind, store.ErrNotFound)
}

// Preview returns a paper as it would be sealed now.
func (svc *Service) Preview(ctx context.Context, by people.Person, id string, kind PaperKind) (record.Document, error) {
	v, err := svc.jobs.Open(ctx, by, id)
	if err != nil {
		return record.Document{}, err
	}
	contractor, err := svc.firm.ContractorNow(ctx)
	if err != nil {
		return record.Document{}, err
	}
	r := &record.Record{Format: record.Format, Issue: len(v.Records) + 1, Contractor: contractor, Edition: v.Book.Name, Program: version.String(),
		Job: v.Job, Findings: rulebook.Lines(v.Findings)}
	switch kind {
	case Inspection:
		return record.Inspection(r), nil
	case Handover:
		return record.Pack(r), nil
	}
	return record.Document{}, fmt.Errorf("paper %q: %w", kind, store.ErrNotFound)
}
