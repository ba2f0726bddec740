package records

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"reflect"
	"strings"
	"time"

	"dogbolt/core/assess"
	"dogbolt/core/job"
	"dogbolt/core/record"
	"dogbolt/core/rulebook"
	"dogbolt/core/schema"
	"dogbolt/internal/document"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/stamp"
	"dogbolt/internal/store"
	"dogbolt/internal/version"
)

// mostTries is how often a seal is made anew because somebody changed the job meanwhile.
// Common practice, no source.
const mostTries = 3

// errMoved says that a job is no longer what was printed.
var errMoved = errors.New("the job was changed while it was sealed")

// Seal seals a job: it freezes the job, its findings and the papers as a new
// issue. It refuses while anything stops or is open.
//
// What takes long, judging, printing and the time stamps, is done before the database is
// locked; then the job must be as it was read.
func (svc *Service) Seal(ctx context.Context, by people.Person, id string) (jobs.View, error) {
	if err := people.May(by, people.SealJobs); err != nil {
		return jobs.View{}, err
	}
	for range mostTries {
		s, err := svc.prepare(ctx, by, id)
		if err != nil {
			return jobs.View{}, err
		}
		v, err := svc.jobs.Change(ctx, id, func(tx *store.Tx, w *store.Whole, j *job.Job) error {
			return svc.keep(tx, by, w, j, s)
		})
		if !errors.Is(err, errMoved) {
			return v, err
		}
	}
	return jobs.View{}, fmt.Errorf("%w: %w, %d times; try again", people.ErrBlocked, errMoved, mostTries)
}

// prepared is a new issue that is not kept yet, and what it was made from.
type prepared struct {
	job    job.Job
	record record.Record
	noTime error // why there is no time stamp, nil where there is one or nobody asked for it
	kept   store.Record
}

// prepare judges a job and makes a new issue of it.
func (svc *Service) prepare(ctx context.Context, by people.Person, id string) (prepared, error) {
	contractor, err := svc.firm.ContractorNow(ctx)
	if err != nil {
		return prepared{}, err
	}
	if contractor.Name == "" {
		return prepared{}, fmt.Errorf("%w: the firm's name and address are not entered yet (People and firm)", people.ErrBlocked)
	}
	key, err := svc.firm.SealingKey(ctx)
	if err != nil {
		return prepared{}, err
	}
	w, err := svc.store.Whole(ctx, id)
	if err != nil {
		return prepared{}, err
	}
	if w.Job.Sealed {
		return prepared{}, people.ErrSealed
	}
	head, last, err := svc.store.Head(ctx, id)
	if err != nil {
		return prepared{}, err
	}
	j, err := jobs.Assemble(w)
	if err != nil {
		return prepared{}, err
	}
	v, err := svc.sealable(ctx, by, w, &j)
	if err != nil {
		return prepared{}, err
	}
	zone, err := svc.zone(ctx, &v.Job)
	if err != nil {
		return prepared{}, err
	}
	r := record.Record{
		Format: record.Format, Issue: last + 1, Replaces: w.Job.Amends, Reason: w.Job.Reason, Contractor: contractor,
		Edition: v.Book.Name, Program: version.String(), SealedAt: svc.now(), SealedBy: by.Name, Account: by.ID, Zone: zone, Chain: &head,
		Job: v.Job, Findings: rulebook.Lines(v.Findings),
	}
	if r.Page, err = svc.address(ctx, id); err != nil {
		return prepared{}, err
	}
	if r.Changes, err = svc.changes(ctx, id, &r); err != nil {
		return prepared{}, err
	}
	if last > 0 && w.Job.Amends != "" && !record.Amends(r.Changes) {
		return prepared{}, fmt.Errorf("%w: the amendment changes nothing of issue %d", people.ErrBlocked, last)
	}
	file, seal, err := record.Sign(r, key)
	if err != nil {
		return prepared{}, err
	}
	sealed := record.Sealed{Record: r, Seal: seal}
	asked := svc.stamper(ctx)
	with := document.With{Stamp: asked.stamp}
	doc := record.Inspection(&r)
	if with.Pictures, err = svc.pictures(ctx, id, &doc); err != nil {
		return prepared{}, err
	}
	inspection, err := document.PDF(doc, sealed, file, key, with)
	if err != nil {
		return prepared{}, err
	}
	customers := document.With{Stamp: asked.stamp, Customer: true}
	var certificate []byte
	if doc := record.Certificate(&r); doc.Title != "" {
		if certificate, err = document.PDF(doc, sealed, file, key, customers); err != nil {
			return prepared{}, err
		}
	}
	handover, err := document.PDF(record.Pack(&r), sealed, file, key, customers)
	if err != nil {
		return prepared{}, err
	}
	return prepared{j, r, asked.err, store.Record{
		JobID: id, Issue: r.Issue, Digest: seal.Digest, Replaces: r.Replaces, SealedAt: r.SealedAt, SealedBy: r.SealedBy,
		File: file, Inspection: inspection, Certificate: certificate, Certified: certificate != nil, Handover: handover,
	}}, nil
}

// sealable judges a job, and refuses while anything stops or is open, or the person may not
// seal this one.
func (svc *Service) sealable(ctx context.Context, by people.Person, w store.Whole, j *job.Job) (jobs.View, error) {
	policy, err := svc.firm.OnSite(ctx)
	if err != nil {
		return jobs.View{}, err
	}
	v, err := jobs.Judge(w, *j, policy.WorkPolicy, svc.now())
	if err != nil {
		return jobs.View{}, err
	}
	if blocking := record.Blocking(v.Findings); len(blocking) > 0 {
		titles := make([]string, len(blocking))
		for i, f := range blocking {
			titles[i] = f.Title
		}
		const what = "%w: the record cannot be sealed while %d findings stop or are open: %s"
		return jobs.View{}, fmt.Errorf(what, people.ErrBlocked, len(blocking), strings.Join(titles, "; "))
	}
	if policy.Apart && assess.Worked(j, by.Name) {
		const what = "%w: the firm asks that the seal is by another person than the work, and %s logged work on this job"
		return jobs.View{}, fmt.Errorf(what, people.ErrBlocked, by.Name)
	}
	return v, nil
}

// keep writes a prepared issue, where the job is still what it was made from: every entry and
// issue is in the chain, every section in the job.
func (svc *Service) keep(tx *store.Tx, by people.Person, w *store.Whole, j *job.Job, s prepared) error {
	if w.Job.Sealed {
		return people.ErrSealed
	}
	head, err := tx.Head(w.Job.ID)
	if err != nil {
		return err
	}
	if head != *s.record.Chain || w.Job.Amends != s.record.Replaces || !reflect.DeepEqual(*j, s.job) {
		return errMoved
	}
	if err := tx.AddRecord(s.kept); err != nil {
		return err
	}
	if err := tx.Use(w.Job.ID); err != nil { // what was held is built in
		return err
	}
	if s.record.Issue == 1 {
		if err := jobs.Remember(tx, j); err != nil {
			return err
		}
	}
	w.Job.Sealed, w.Job.Amends, w.Job.Reason = true, "", ""
	detail := fmt.Sprintf("issue %d, %s", s.record.Issue, record.Code(s.kept.Digest))
	if s.noTime != nil {
		detail += ", without a time stamp: " + s.noTime.Error()
	}
	return tx.Note(svc.now(), by.Name, "seal", w.Job.ID, detail)
}

// stamping asks the time authority for the papers of one issue. A seal does not wait for an
// authority that does not answer: the papers are then without its stamp, and the audit says so.
type stamping struct {
	stamp document.Stamper // nil without an authority
	err   error
}

func (svc *Service) stamper(ctx context.Context) *stamping {
	s := &stamping{}
	if svc.Time != nil {
		s.stamp = func(signature []byte) []byte {
			if s.err != nil {
				return nil
			}
			var token []byte
			token, s.err = stamp.Of(ctx, svc.Time, signature)
			return token
		}
	}
	return s
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

// Differing is what an amendment that is open changes of the issue that it is of.
type Differing struct {
	Issue   int                  `json:"issue" doc:"The issue that is compared with; 0 where the job has none."`
	Changes []record.IssueChange `json:"changes"`
	Amends  bool                 `json:"amends" doc:"They are worth an issue of their own: signatures alone are not."`
}

// Changes lists what differs between a job as it is and its last issue.
func (svc *Service) Changes(ctx context.Context, by people.Person, id string) (Differing, error) {
	r, err := svc.asOfNow(ctx, by, id)
	if err != nil {
		return Differing{}, err
	}
	return Differing{r.Issue - 1, append([]record.IssueChange{}, r.Changes...), record.Amends(r.Changes)}, nil
}

// DropAmendment closes an amendment that changed nothing: the last issue stands as it was.
func (svc *Service) DropAmendment(ctx context.Context, by people.Person, id string) (jobs.View, error) {
	if err := people.May(by, people.SealJobs); err != nil {
		return jobs.View{}, err
	}
	r, err := svc.asOfNow(ctx, by, id)
	if err != nil {
		return jobs.View{}, err
	}
	if record.Amends(r.Changes) {
		return jobs.View{}, fmt.Errorf("%w: the amendment changed the job: seal it as a new issue, or take back what it changed", people.ErrBlocked)
	}
	looked, err := record.Canonical(r.Job)
	if err != nil {
		return jobs.View{}, err
	}
	return svc.jobs.Change(ctx, id, func(tx *store.Tx, w *store.Whole, j *job.Job) error {
		if w.Job.Sealed || w.Job.Amends == "" {
			return schema.Invalid("job", "has no amendment open")
		}
		if now, err := record.Canonical(j); err != nil || !bytes.Equal(now, looked) {
			return errors.Join(err, fmt.Errorf("%w: %w; look again", people.ErrBlocked, errMoved))
		}
		detail := w.Job.Reason
		w.Job.Sealed, w.Job.Amends, w.Job.Reason = true, "", ""
		return tx.Note(svc.now(), by.Name, "drop amendment", id, detail)
	})
}

// Standing is whether a sealed issue still is the last of its job.
type Standing string

// How an issue stands.
const (
	Last      Standing = "last"
	Replaced  Standing = "replaced"
	Withdrawn Standing = "withdrawn"
	Unknown   Standing = "unknown" // these books do not have it
)

// Values lists how an issue stands.
func (Standing) Values() []string { return schema.Words(Last, Replaced, Withdrawn, Unknown) }

// Stands is how an issue stands, and what replaces it.
type Stands struct {
	Standing Standing
	Issue    int    // of what replaces it
	Code     string // likewise
	Reason   string // of a withdrawal
	At       time.Time
}

// Standing says how the issue with a digest stands. No person is asked for: who has the file has
// its digest.
func (svc *Service) Standing(ctx context.Context, digest string) (Stands, error) {
	list, err := svc.store.IssuesWith(ctx, digest)
	if err != nil {
		return Stands{}, err
	}
	for i, r := range list { // newest first
		switch {
		case r.Digest != digest:
		case i == 0:
			return svc.lastStands(ctx, &r)
		default:
			return Stands{Standing: Replaced, Issue: list[i-1].Issue, Code: record.Code(list[i-1].Digest)}, nil
		}
	}
	return Stands{Standing: Unknown}, nil
}

// lastStands is how the last issue of a job stands.
func (svc *Service) lastStands(ctx context.Context, r *store.Record) (Stands, error) {
	j, err := svc.jobs.Whole(ctx, r.JobID)
	if err != nil {
		return Stands{}, err
	}
	if e, ok := j.Withdrawal(r.Issue); ok {
		return Stands{Standing: Withdrawn, Reason: e.Reason, At: e.At}, nil
	}
	return Stands{Standing: Last}, nil
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
	Inspection  PaperKind = "inspection"
	Certificate PaperKind = "certificate"
	Handover    PaperKind = "handover"
)

// Values lists the papers.
func (PaperKind) Values() []string { return schema.Words(Inspection, Certificate, Handover) }

// SealedKind is a file of a sealed issue: a paper as PDF, or the record as JSON.
type SealedKind string

const sealedRecord SealedKind = "record"

// Values lists the files of a sealed issue.
func (SealedKind) Values() []string {
	return schema.Words(SealedKind(Inspection), SealedKind(Certificate), SealedKind(Handover), sealedRecord)
}

// Paper returns a file of a sealed issue.
func (svc *Service) Paper(ctx context.Context, by people.Person, id string, issue int, kind SealedKind) (Paper, error) {
	if err := people.May(by, people.ViewJobs); err != nil {
		return Paper{}, err
	}
	r, err := svc.store.Record(ctx, id, issue)
	if err != nil {
		return Paper{}, err
	}
	row, err := svc.store.Job(ctx, id)
	if err != nil {
		return Paper{}, err
	}
	name := fmt.Sprintf("%s-%s-issue-%d", row.Number, kind, issue)
	switch kind {
	case SealedKind(Inspection):
		return Paper{name + ".pdf", "application/pdf", r.Inspection}, nil
	case SealedKind(Certificate):
		if !r.Certified {
			return Paper{}, fmt.Errorf("certificate of issue %d: %w", issue, store.ErrNotFound)
		}
		return Paper{name + ".pdf", "application/pdf", r.Certificate}, nil
	case SealedKind(Handover):
		return Paper{name + ".pdf", "application/pdf", r.Handover}, nil
	case sealedRecord:
		return Paper{name + ".json", "application/json", r.File}, nil
	}
	return Paper{}, fmt.Errorf("paper %q: %w", kind, store.ErrNotFound)
}

// changes lists what differs between a record and the last issue of its job; none where it is the
// first.
func (svc *Service) changes(ctx context.Context, id string, r *record.Record) ([]record.IssueChange, error) {
	if r.Issue < 2 {
		return nil, nil
	}
	kept, err := svc.store.Record(ctx, id, r.Issue-1)
	if err != nil {
		return nil, err
	}
	was, err := record.Open(kept.File)
	if err != nil {
		return nil, fmt.Errorf("issue %d: %w", r.Issue-1, err)
	}
	return record.Changes(&was.Record, r)
}

// zone names the time zone of a job's site, by whose clock its record is printed.
func (svc *Service) zone(ctx context.Context, j *job.Job) (string, error) {
	resources, err := svc.firm.ResourcesNow(ctx)
	return resources.SiteZone(j).String(), err
}

// asOfNow is the record of a job as it would be sealed now.
func (svc *Service) asOfNow(ctx context.Context, by people.Person, id string) (*record.Record, error) {
	v, err := svc.jobs.Open(ctx, by, id)
	if err != nil {
		return nil, err
	}
	contractor, err := svc.firm.ContractorNow(ctx)
	if err != nil {
		return nil, err
	}
	zone, err := svc.zone(ctx, &v.Job)
	if err != nil {
		return nil, err
	}
	r := &record.Record{Format: record.Format, Issue: len(v.Records) + 1, Contractor: contractor, Edition: v.Book.Name, Program: version.String(), Zone: zone,
		Job: v.Job, Findings: rulebook.Lines(v.Findings)}
	r.Changes, err = svc.changes(ctx, id, r)
	return r, err
}

// Preview returns a paper as it would be sealed now.
func (svc *Service) Preview(ctx context.Context, by people.Person, id string, kind PaperKind) (record.Document, error) {
	r, err := svc.asOfNow(ctx, by, id)
	if err != nil {
		return record.Document{}, err
	}
	switch kind {
	case Inspection:
		return record.Inspection(r), nil
	case Certificate:
		if doc := record.Certificate(r); doc.Title != "" {
			return doc, nil
		}
	case Handover:
		return record.Pack(r), nil
	}
	return record.Document{}, fmt.Errorf("paper %q: %w", kind, store.ErrNotFound)
}
