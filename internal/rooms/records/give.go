package records

import (
	"context"
	"errors"
	"fmt"
	"strconv"
	"strings"
	"time"

	"github.com/google/uuid"

	"dogbolt/core/clearance"
	"dogbolt/core/record"
	"dogbolt/core/schema"
	"dogbolt/internal/document"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/store"
)

// thePack names the handover pack among the mails of a job.
const thePack = "handover"

// last is the last issue of a job, with its papers.
func (svc *Service) last(ctx context.Context, id string) (store.Record, error) {
	issues, err := svc.store.Records(ctx, id)
	if err != nil {
		return store.Record{}, err
	}
	if len(issues) == 0 {
		return store.Record{}, schema.Invalid("job", "has no sealed record yet")
	}
	return svc.store.Record(ctx, id, issues[0].Issue)
}

// MailPack sends the customer what the last issue has for them: the handover pack, and the certificate where there
// is one. Returned is who was given it.
func (svc *Service) MailPack(ctx context.Context, by people.Person, id string) (Recipient, error) {
	if err := people.May(by, people.SavePapers); err != nil {
		return Recipient{}, err
	}
	if svc.Mail == nil {
		return Recipient{}, schema.Invalid("mail", "no mail is connected: save the papers and send them yourself")
	}
	v, err := svc.jobs.Open(ctx, by, id)
	if err != nil {
		return Recipient{}, err
	}
	firm, err := svc.firm.ContractorNow(ctx)
	if err != nil {
		return Recipient{}, err
	}
	r, err := svc.last(ctx, id)
	if err != nil {
		return Recipient{}, err
	}
	site := &v.Job.Site
	switch _, withdrawn := v.Job.Withdrawal(r.Issue); {
	case site.Email == "":
		return Recipient{}, schema.Invalid("site.email", "the customer's mail address is not entered (Clearances)")
	case firm.Email == "":
		return Recipient{}, schema.Invalid("firm.email", "the firm has no mail address yet (People and firm)")
	case withdrawn:
		return Recipient{}, fmt.Errorf("%w: issue %d was withdrawn", people.ErrBlocked, r.Issue)
	}
	resources, err := svc.firm.ResourcesNow(ctx)
	if err != nil {
		return Recipient{}, err
	}
	name := func(paper string) string {
		return v.Job.Number + "-" + paper + "-issue-" + strconv.Itoa(r.Issue) + ".pdf"
	}
	files := []clearance.Attached{{Name: name("handover"), Type: "application/pdf", Data: r.Handover}}
	if r.Certified {
		files = append(files, clearance.Attached{Name: name("certificate"), Type: "application/pdf", Data: r.Certificate})
	}
	m := store.Mail{ID: uuid.NewString(), JobID: id, Paper: thePack, To: site.Email, Day: svc.firm.Today(resources.SiteZone(&v.Job)), Settled: true}
	message := clearance.Message{
		ID: m.ID, From: firm.Email, To: m.To, Date: svc.now(), Files: files,
		Subject: "Your charging point, job " + v.Job.Number,
		Body:    "The papers of your charging point are attached: keep them.\n\n" + strings.Trim(firm.Name+"\n"+firm.Phone, "\n") + "\n",
	}
	err = svc.store.Write(ctx, func(tx *store.Tx) error {
		if err := errors.Join(tx.PutMail(m), tx.Note(svc.now(), by.Name, "mail pack", id, m.To)); err != nil {
			return err // what cannot be saved is not sent either
		}
		return svc.Mail.Send(message)
	})
	return Recipient{"Handover pack", site.Customer, m.Day, m.To}, err
}

// Receipt prints who signed for the pack, with the signature.
func (svc *Service) Receipt(ctx context.Context, by people.Person, id string) (Paper, error) {
	r, err := svc.asOfNow(ctx, by, id)
	if err != nil {
		return Paper{}, err
	}
	issues, err := svc.store.Records(ctx, id)
	if err != nil {
		return Paper{}, err
	}
	signed, ok := r.Job.Receipt()
	if !ok {
		return Paper{}, fmt.Errorf("receipt: %w", store.ErrNotFound)
	}
	doc := record.Receipt(r, GivenAt(issues, signed.At))
	pdf, err := document.Plain(doc, &r.Job, svc.now(), "the sealed record stands beside it")
	return Paper{r.Job.Number + "-receipt.pdf", "application/pdf", pdf}, err
}

// GivenAt names what a customer is given at a time, of issues with the newest first: what was sealed later is not what they
// signed for.
func GivenAt(issues []store.Record, at time.Time) []string {
	for _, i := range issues {
		if i.SealedAt.After(at) {
			continue
		}
		given := []string{fmt.Sprintf("Handover pack of issue %d, code %s", i.Issue, record.Code(i.Digest))}
		if i.Certified {
			given = append(given, "Certificate of the same issue")
		}
		return given
	}
	return []string{"Handover pack, before it was sealed"}
}
