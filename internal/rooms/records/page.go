package records

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"net/url"
	"strings"
	"time"

	"dogbolt/core/job"
	"dogbolt/core/record"
	"dogbolt/core/schema"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/store"
)

// OpenedPage is the customer's page of a job, as the firm sees it.
type OpenedPage struct {
	Token   string    `json:"token" doc:"What its address ends with: random, and nobody else's."`
	Address string    `json:"address" doc:"Where it is reached, as the papers print it; empty of pages that were opened before they did."`
	At      time.Time `json:"at"`
	By      string    `json:"by"`
}

// PageNow returns the customer's page of a job; ErrNotFound where it has none.
func (svc *Service) PageNow(ctx context.Context, by people.Person, id string) (OpenedPage, error) {
	if err := people.May(by, people.ViewJobs); err != nil {
		return OpenedPage{}, err
	}
	p, err := svc.store.PageOf(ctx, id)
	return OpenedPage{p.Token, p.Address, p.At, p.By}, err
}

// OpenPage gives a job a page that needs no account, with a new address under at, where the firm's pages are
// reached: an address that it had leads nowhere any more. It shows something once a record is sealed, and what is sealed
// after it prints the address.
func (svc *Service) OpenPage(ctx context.Context, by people.Person, id, at string) (OpenedPage, error) {
	if err := people.May(by, people.SavePapers); err != nil {
		return OpenedPage{}, err
	}
	if u, err := url.Parse(at); err != nil || u.Host == "" || u.Scheme != "https" && u.Scheme != "http" {
		return OpenedPage{}, schema.Invalid("at", "is not the address of a page: https://...")
	}
	if _, err := svc.store.Job(ctx, id); err != nil {
		return OpenedPage{}, err
	}
	p := store.CustomerPage{Token: rand.Text(), JobID: id, At: svc.now(), By: by.Name}
	p.Address = strings.TrimRight(at, "/") + "/open/" + p.Token
	return OpenedPage{p.Token, p.Address, p.At, p.By}, svc.store.Write(ctx, func(tx *store.Tx) error {
		return errors.Join(tx.OpenPage(p), tx.Note(p.At, by.Name, "open customer page", id, ""))
	})
}

// address is where the customer's page of a job is reached; "" where it has none.
func (svc *Service) address(ctx context.Context, id string) (string, error) {
	p, err := svc.store.PageOf(ctx, id)
	if errors.Is(err, store.ErrNotFound) {
		return "", nil
	}
	return p.Address, err
}

// ClosePage takes the customer's page of a job away.
func (svc *Service) ClosePage(ctx context.Context, by people.Person, id string) error {
	if err := people.May(by, people.SavePapers); err != nil {
		return err
	}
	if _, err := svc.store.PageOf(ctx, id); err != nil {
		return err
	}
	return svc.store.Write(ctx, func(tx *store.Tx) error {
		return errors.Join(tx.ClosePage(id), tx.Note(svc.now(), by.Name, "close customer page", id, ""))
	})
}

// Notice is a notice or claim after the work, as it stands.
type Notice struct {
	Title    string `json:"title"`
	Who      string `json:"who"`
	Sent     string `json:"sent,omitempty" format:"date"`
	Answered string `json:"answered,omitempty" format:"date"`
}

// Public is what a customer's page shows: the pack of the last issue, what was checked of it, and the notices
// as they stand.
type Public struct {
	Pack      record.Document
	Number    string
	Issue     int
	SealedAt  time.Time
	SealedBy  string
	Code      string
	Certified string // title of the certificate; "" where the issue has none
	Notices   []Notice
	Stands    Stands
}

// Public returns what the page with a token shows. No person is asked for: who has the token may read. It
// reads the issue as it is kept and checks its seal each time.
func (svc *Service) Public(ctx context.Context, token string) (Public, error) {
	p, r, err := svc.shown(ctx, token)
	if err != nil {
		return Public{}, err
	}
	s, err := record.Open(r.File)
	if err != nil {
		return Public{}, fmt.Errorf("the record of this page is not as it was sealed: %w", err)
	}
	j, err := svc.jobs.Whole(ctx, p.JobID)
	if err != nil {
		return Public{}, err
	}
	out := Public{
		Pack: record.Pack(&s.Record), Number: s.Record.Job.Number, Issue: r.Issue, SealedAt: s.Record.SealedAt, SealedBy: s.Record.SealedBy, Code: record.Code(r.Digest),
		Notices: []Notice{},
	}
	if r.Certified {
		out.Certified = record.Certificate(&s.Record).Title
	}
	for _, paper := range j.PapersNow() {
		if paper.Before == job.After && paper.Needed != job.No {
			out.Notices = append(out.Notices, Notice{paper.Title, paper.Who, paper.Sent, paper.Granted})
		}
	}
	out.Stands, err = svc.lastStands(ctx, &r)
	return out, err
}

// shown is the last issue of the job whose page has a token.
func (svc *Service) shown(ctx context.Context, token string) (store.CustomerPage, store.Record, error) {
	p, err := svc.store.PageWith(ctx, token)
	if err != nil {
		return p, store.Record{}, err
	}
	issues, err := svc.store.Records(ctx, p.JobID)
	if err != nil {
		return p, store.Record{}, err
	}
	if len(issues) == 0 {
		return p, store.Record{}, fmt.Errorf("record: %w", store.ErrNotFound)
	}
	r, err := svc.store.Record(ctx, p.JobID, issues[0].Issue)
	return p, r, err
}

// PublicPaper returns a paper of the page with a token: the handover pack or the certificate, which carry
// what they print and no more.
func (svc *Service) PublicPaper(ctx context.Context, token string, kind PublicKind) (Paper, error) {
	_, r, err := svc.shown(ctx, token)
	if err != nil {
		return Paper{}, err
	}
	name := fmt.Sprintf("%s-issue-%d.pdf", kind, r.Issue)
	switch {
	case kind == PublicKind(Handover):
		return Paper{name, "application/pdf", r.Handover}, nil
	case kind == PublicKind(Certificate) && r.Certified:
		return Paper{name, "application/pdf", r.Certificate}, nil
	}
	return Paper{}, fmt.Errorf("paper %q: %w", kind, store.ErrNotFound)
}

// PublicKind is a paper of a customer's page.
type PublicKind string

// Values lists the papers of a customer's page.
func (PublicKind) Values() []string {
	return schema.Words(PublicKind(Handover), PublicKind(Certificate))
}
