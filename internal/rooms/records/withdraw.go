package records

import (
	"context"
	"fmt"
	"strconv"
	"strings"
	"time"

	"github.com/google/uuid"

	"dogbolt/core/clearance"
	"dogbolt/core/job"
	"dogbolt/core/record"
	"dogbolt/core/schema"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/store"
)

// Mailer sends mails.
type Mailer interface {
	Send(clearance.Message) error
}

// Recipient is who was given a paper of a job, and when.
type Recipient struct {
	What    string `json:"what" doc:"The paper."`
	Who     string `json:"who"`
	Day     string `json:"day" format:"date"`
	Address string `json:"address,omitempty" doc:"Mail address that it went to; left out where it was sent by hand."`
}

// Recipients lists who was given papers of a job: they are told where its record is withdrawn.
func (svc *Service) Recipients(ctx context.Context, by people.Person, id string) ([]Recipient, error) {
	v, err := svc.jobs.Open(ctx, by, id)
	if err != nil {
		return nil, err
	}
	return svc.recipients(ctx, id, &v.Job)
}

func (svc *Service) recipients(ctx context.Context, id string, j *job.Job) ([]Recipient, error) {
	mails, err := svc.store.MailsOf(ctx, id)
	if err != nil {
		return nil, err
	}
	out := []Recipient{}
	mailed := map[string]bool{}
	for _, m := range mails {
		mailed[m.Paper] = true
		if m.Paper == thePack {
			out = append(out, Recipient{"Handover pack", j.Site.Customer, m.Day, m.To})
			continue
		}
		p, _ := j.PaperNow(m.Paper)
		out = append(out, Recipient{p.Title, p.Who, m.Day, m.To})
	}
	for _, p := range j.PapersNow() {
		if p.Before == job.After && p.Sent != "" && !mailed[p.ID] {
			out = append(out, Recipient{p.Title, p.Who, p.Sent, ""})
		}
	}
	if j.Site.Email != "" && !mailed[thePack] {
		issues, err := svc.store.Records(ctx, id)
		if err != nil || len(issues) == 0 {
			return out, err
		}
		resources, err := svc.firm.ResourcesNow(ctx)
		if err != nil {
			return nil, err
		}
		day := issues[0].SealedAt.In(resources.SiteZone(j)).Format(time.DateOnly)
		out = append(out, Recipient{"Handover pack", j.Site.Customer, day, j.Site.Email})
	}
	return out, nil
}

// Withdraw says that the last sealed issue of a job is wrong, with the reason, as an entry beside it, and
// tells who was given papers of the job by mail. The issue stays to be read; a right one follows by an
// amendment.
func (svc *Service) Withdraw(ctx context.Context, by people.Person, id string, issue int, reason string) (jobs.View, error) {
	if err := people.May(by, people.SealJobs); err != nil {
		return jobs.View{}, err
	}
	if reason = strings.TrimSpace(reason); len(reason) < 10 {
		return jobs.View{}, schema.Invalid("reason", "a withdrawal needs a reason in words")
	}
	issues, err := svc.store.Records(ctx, id)
	if err != nil {
		return jobs.View{}, err
	}
	e := job.Entry{ID: uuid.NewString(), Kind: job.Withdrawn, At: svc.now().UTC(), By: by.Name, Person: by.ID, Subject: strconv.Itoa(issue), Reason: reason}
	v, err := svc.jobs.Change(ctx, id, func(tx *store.Tx, w *store.Whole, j *job.Job) error {
		switch _, done := j.Withdrawal(issue); {
		case len(issues) == 0 || issues[0].Issue != issue:
			return schema.Invalid("issue", "%d is not the last issue: the one that replaced it stands", issue)
		case !w.Job.Sealed:
			return schema.Invalid("job", "has an amendment open: seal it or close it first")
		case done:
			return schema.Invalid("issue", "%d was withdrawn already", issue)
		}
		j.Log = append(j.Log, e)
		j.Index()
		if errs := j.Validate(); len(errs) > 0 {
			return errs
		}
		if err := svc.jobs.AddEntry(tx, id, e); err != nil {
			return err
		}
		return tx.Note(svc.now(), by.Name, "withdraw", id, fmt.Sprintf("issue %d: %s", issue, reason))
	})
	if err != nil {
		return v, err
	}
	to, err := svc.recipients(ctx, id, &v.Job)
	if err != nil {
		return v, err
	}
	return v, svc.tell(ctx, by, &v, to, e, issues[0].Digest)
}

// tell mails who was given papers of a job that its record was withdrawn. Who cannot be reached stands in
// the audit, to be told by hand.
func (svc *Service) tell(ctx context.Context, by people.Person, v *jobs.View, to []Recipient, e job.Entry, digest string) error {
	firm, err := svc.firm.ContractorNow(ctx)
	if err != nil {
		return err
	}
	resources, err := svc.firm.ResourcesNow(ctx)
	if err != nil {
		return err
	}
	day := e.At.In(resources.SiteZone(&v.Job)).Format(v.Book.In.Date)
	var mailed, byHand []string
	for _, r := range to {
		m := clearance.Message{
			ID: uuid.NewString(), From: firm.Email, To: r.Address, Date: svc.now(),
			Subject: "Record withdrawn, job " + v.Job.Number,
			Body: fmt.Sprintf("Issue %s of job %s, code %s, was withdrawn on %s by %s.\nReason: %s\n\nWhat it was sent with: %s, %s.\nPlease do not rely on it. A right record follows.\n\n%s\n%s\n",
				e.Subject, v.Job.Number, record.Code(digest), day, e.By, e.Reason, r.What, r.Day, firm.Name, firm.Phone),
		}
		if r.Address == "" || svc.Mail == nil || firm.Email == "" {
			byHand = append(byHand, r.Who)
		} else if err := svc.Mail.Send(m); err != nil {
			byHand = append(byHand, r.Who+" ("+err.Error()+")")
		} else {
			mailed = append(mailed, r.Address)
		}
	}
	detail := strings.Trim(list("told by mail", mailed)+"; "+list("to be told by hand", byHand), "; ")
	if detail == "" {
		return nil
	}
	return svc.store.Write(ctx, func(tx *store.Tx) error { return tx.Note(svc.now(), by.Name, "withdraw", v.Summary.ID, detail) })
}

func list(what string, names []string) string {
	if len(names) == 0 {
		return ""
	}
	return what + ": " + strings.Join(names, ", ")
}
