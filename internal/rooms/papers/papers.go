package papers

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strings"

	"github.com/google/uuid"

	"dogbolt/core/clearance"
	"dogbolt/core/job"
	"dogbolt/core/rulebook"
	"dogbolt/core/schema"
	"dogbolt/core/worklog"
	"dogbolt/internal/document"
	"dogbolt/internal/photo"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/store"
)

// Forms lists the definitions of papers.
func (svc *Service) Forms(ctx context.Context, by people.Person) ([]clearance.Definition, error) {
	if err := people.May(by, people.ViewFirm); err != nil {
		return nil, err
	}
	return svc.firm.FormsNow(ctx)
}

// AddForm reads the definition of a paper; it replaces one of the same id.
func (svc *Service) AddForm(ctx context.Context, by people.Person, data []byte) ([]clearance.Definition, error) {
	if err := people.May(by, people.ManageFirm); err != nil {
		return nil, err
	}
	d, err := clearance.Parse(data)
	if err != nil {
		return nil, schema.Invalid("file", "%v", err)
	}
	if err := svc.firm.AddForm(ctx, by, d); err != nil {
		return nil, err
	}
	return svc.firm.FormsNow(ctx)
}

// Papers is what the program says about the papers of a job.
type Papers struct {
	Today     string
	Proposals []clearance.Advice
	Blocking  map[job.Before][]clearance.Blocker
	Timeline  []clearance.Span
	ToCome    []clearance.Coming            // what comes after the work and is not done
	Checks    map[string]clearance.Check    // by paper, of those that have a form
	Forms     map[string][]clearance.Titled // by paper: forms that there are for it
	Mail      bool                          // whether mails can be sent
	Desk      bool                          // whether answers can be fetched
}

// Papers judges the papers of a job.
func (svc *Service) Papers(ctx context.Context, by people.Person, id string) (Papers, error) {
	v, facts, err := svc.paperFacts(ctx, by, id)
	if err != nil {
		return Papers{}, err
	}
	forms, err := svc.firm.FormsNow(ctx)
	if err != nil {
		return Papers{}, err
	}
	work, err := svc.firm.OnSite(ctx)
	if err != nil {
		return Papers{}, err
	}
	j := &v.Job
	law := work.Law(j)
	p := Papers{
		Today:     facts.Today,
		Proposals: v.Book.Proposals(j, v.Demand),
		Blocking:  map[job.Before][]clearance.Blocker{},
		Timeline:  clearance.Timeline(j, facts.Today, law),
		ToCome:    clearance.ToCome(j, facts.Today, law),
		Checks:    map[string]clearance.Check{},
		Forms:     map[string][]clearance.Titled{},
		Mail:      svc.Mail != nil,
		Desk:      svc.Desk != nil,
	}
	for _, e := range job.Befores[:len(job.Befores)-1] {
		p.Blocking[e] = append([]clearance.Blocker{}, clearance.Blocking(j, e)...)
	}
	for _, paper := range j.PapersNow() {
		for _, d := range forms {
			if d.Paper == paper.ID && d.For(j.Rulebook) {
				p.Forms[paper.ID] = append(p.Forms[paper.ID], clearance.Titled{ID: d.ID, Title: d.Title})
			}
		}
		if d, ok := formOf(forms, &paper); ok {
			p.Checks[paper.ID] = clearance.Preflight(&d, &paper, &facts)
		}
	}
	return p, nil
}

func formOf(forms []clearance.Definition, p *job.Paper) (clearance.Definition, bool) {
	i := slices.IndexFunc(forms, func(d clearance.Definition) bool { return d.ID == p.Form })
	if p.Form == "" || i < 0 {
		return clearance.Definition{}, false
	}
	return forms[i], true
}

// paperFacts opens a job with what its forms are filled and judged from.
func (svc *Service) paperFacts(ctx context.Context, by people.Person, id string) (jobs.View, clearance.Facts, error) {
	v, err := svc.jobs.Open(ctx, by, id)
	if err != nil {
		return v, clearance.Facts{}, err
	}
	resources, err := svc.firm.ResourcesNow(ctx)
	if err != nil {
		return v, clearance.Facts{}, err
	}
	firm, err := svc.firm.ContractorNow(ctx)
	if err != nil {
		return v, clearance.Facts{}, err
	}
	files, err := svc.store.Files(ctx, id)
	if err != nil {
		return v, clearance.Facts{}, err
	}
	f := clearance.Facts{
		Job:           &v.Job,
		Firm:          clearance.Firm{Name: firm.Name, Address: firm.Address, Phone: firm.Phone, Email: firm.Email},
		Registrations: resources.Registrations,
		Files:         map[string]clearance.File{},
		Today:         svc.firm.Today(resources.SiteZone(&v.Job)),
		Demand:        float64(v.Demand.Total),
	}
	for _, x := range files {
		f.Files[x.Digest] = clearance.File{Type: x.Type, Width: x.Width, Height: x.Height, Pages: x.Pages, Bytes: x.Bytes, Fault: x.Fault}
	}
	if e, ok := v.Job.Latest(job.StepDone, "", worklog.Energise); ok {
		f.Commissioned = e.At.In(resources.SiteZone(&v.Job)).Format("2006-01-02")
	}
	return v, f, nil
}

// TakePapers brings a job's papers in line with what its rulebook proposes.
func (svc *Service) TakePapers(ctx context.Context, by people.Person, id string, seen int) (jobs.View, error) {
	return svc.editPapers(ctx, by, id, seen, func(_ *store.Tx, j *job.Job) error {
		book, err := rulebook.For(j)
		if err != nil {
			return err
		}
		j.Clearances.Papers = clearance.Take(j.Clearances.Papers, book.Proposals(j, book.Demand(j)))
		return nil
	})
}

// editPapers changes the papers of a job as one revision. seen is the revision
// that the person has seen, or -1 for any; last runs when all is written.
func (svc *Service) editPapers(
	ctx context.Context,
	by people.Person,
	id string,
	seen int,
	f func(*store.Tx, *job.Job) error,
	last ...func() error,
) (jobs.View, error) {
	if err := people.May(by, people.SavePapers); err != nil {
		return jobs.View{}, err
	}
	return svc.jobs.Change(ctx, id, func(tx *store.Tx, w *store.Whole, j *job.Job) error {
		if w.Job.Sealed {
			return people.ErrSealed
		}
		if err := f(tx, j); err != nil {
			return err
		}
		if errs := j.Validate(); len(errs) > 0 {
			return errs
		}
		body, err := json.Marshal(j.Clearances)
		if err != nil {
			return err
		}
		return svc.jobs.PutSection(tx, w, by, "clearances", seen, body)
	}, last...)
}

// AddFile keeps a file of a job as it came, with what can be told of it.
func (svc *Service) AddFile(ctx context.Context, by people.Person, id, name string, data []byte) (store.File, error) {
	if err := people.May(by, people.SavePapers); err != nil {
		return store.File{}, err
	}
	if len(data) == 0 || strings.TrimSpace(name) == "" {
		return store.File{}, schema.Invalid("file", "is empty, or has no name")
	}
	if _, err := svc.jobs.Open(ctx, by, id); err != nil {
		return store.File{}, err
	}
	f, err := lookInto(ctx, by, data)
	if err != nil {
		return store.File{}, err
	}
	if f.Type != "application/pdf" && !strings.HasPrefix(f.Type, "image/") {
		return store.File{}, schema.Invalid("file", "%s is neither a PDF nor a picture", name)
	}
	sum := sha256.Sum256(data)
	f.JobID, f.Digest, f.Name, f.Bytes, f.By, f.At = id, hex.EncodeToString(sum[:]), name, len(data), by.Name, svc.now()
	if err := svc.store.PutFile(f.Digest, data); err != nil {
		return store.File{}, err
	}
	return f, svc.store.Write(ctx, func(tx *store.Tx) error {
		if err := tx.AddFile(f); err != nil {
			return err
		}
		return tx.Note(svc.now(), by.Name, "add file", id, name)
	})
}

// lookInto tells the kind of a file, its size in pixels or pages, and whether
// it can be read. The error says that nobody waits any longer.
func lookInto(ctx context.Context, by people.Person, data []byte) (f store.File, err error) {
	f.Type = http.DetectContentType(data)
	switch f.Type {
	case "application/pdf":
		if f.Pages, err = document.Pages(ctx, by.ID, data); err != nil || f.Pages == 0 {
			f.Fault = "no page of it can be opened"
		}
	case "image/jpeg", "image/png":
		if f.Width, f.Height, err = photo.Size(ctx, by.ID, data); err != nil {
			f.Fault = err.Error()
		}
	}
	return f, ctx.Err()
}

// File returns a file of a job.
func (svc *Service) File(ctx context.Context, by people.Person, id, digest string) (store.File, []byte, error) {
	if err := people.May(by, people.ViewJobs); err != nil {
		return store.File{}, nil, err
	}
	return svc.store.FileData(ctx, id, digest)
}

// Form is one of the shapes in which a paper's form leaves the program.
type Form struct {
	Name, Type string
	Data       []byte
}

// FormKind is the kind of file that a form is written as; a package has all its files.
type FormKind string

// The kinds of file.
const (
	FormPDF  FormKind = "pdf"
	FormJSON FormKind = "json"
	FormCSV  FormKind = "csv"
	Package  FormKind = "zip"
)

// Values lists the kinds of file.
func (FormKind) Values() []string { return schema.Words(FormPDF, FormJSON, FormCSV, Package) }

// PaperForm returns the form of a paper as a file.
func (svc *Service) PaperForm(ctx context.Context, by people.Person, id, paper string, kind FormKind) (Form, error) {
	v, sub, check, err := svc.submission(ctx, by, id, paper)
	if err != nil {
		return Form{}, err
	}
	name := v.Job.Number + "-" + sub.Form + "." + string(kind)
	switch kind {
	case FormJSON:
		b, err := json.MarshalIndent(sub, "", "  ")
		return Form{name, "application/json", b}, err
	case FormCSV:
		b, err := document.CSV(sub.Rows())
		return Form{name, "text/csv; charset=utf-8", b}, err
	case FormPDF:
		b, err := document.Form(&sub, check.Lacks, v.Book.In.Paper.Name, svc.now())
		return Form{name, "application/pdf", b}, err
	case Package:
		b, err := svc.pack(ctx, &v, &sub, &check)
		return Form{name, "application/zip", b}, err
	}
	return Form{}, fmt.Errorf("form as %q: %w", kind, store.ErrNotFound)
}

func (svc *Service) pack(ctx context.Context, v *jobs.View, sub *clearance.Submission, check *clearance.Check) ([]byte, error) {
	pdf, err := document.Form(sub, check.Lacks, v.Book.In.Paper.Name, svc.now())
	if err != nil {
		return nil, err
	}
	return document.Package(sub, pdf, func(digest string) ([]byte, error) {
		_, b, err := svc.store.FileData(ctx, v.Summary.ID, digest)
		return b, err
	}, svc.now())
}

// submission fills the form of a paper.
func (svc *Service) submission(ctx context.Context, by people.Person, id, paper string) (jobs.View, clearance.Submission, clearance.Check, error) {
	var sub clearance.Submission
	var check clearance.Check
	v, facts, err := svc.paperFacts(ctx, by, id)
	if err != nil {
		return v, sub, check, err
	}
	forms, err := svc.firm.FormsNow(ctx)
	if err != nil {
		return v, sub, check, err
	}
	now, ok := v.Job.PaperNow(paper)
	if !ok {
		return v, sub, check, fmt.Errorf("paper %q: %w", paper, store.ErrNotFound)
	}
	p := &now
	d, ok := formOf(forms, p)
	if !ok {
		return v, sub, check, fmt.Errorf("form of paper %q: %w", paper, store.ErrNotFound)
	}
	check = clearance.Preflight(&d, p, &facts)
	sub = clearance.Submit(&check, p, v.Job.Number, func(digest string) string {
		switch facts.Files[digest].Type {
		case "application/pdf":
			return ".pdf"
		case "image/png":
			return ".png"
		}
		return ".jpg"
	})
	return v, sub, check, nil
}

// LacksError says what a form would bounce for.
type LacksError []clearance.Trifle

// Error joins what is lacking.
func (e LacksError) Error() string {
	list := make([]string, len(e))
	for i, l := range e {
		list[i] = l.What
	}
	return fmt.Sprintf("it would bounce for %d things: %s", len(e), strings.Join(list, "; "))
}

// SendPaper sends a paper's package by mail. A form that would bounce is sent
// only with a reason, which the audit keeps.
func (svc *Service) SendPaper(ctx context.Context, by people.Person, id, paper, anyway string) (jobs.View, error) {
	if err := people.May(by, people.SavePapers); err != nil {
		return jobs.View{}, err
	}
	if svc.Mail == nil {
		return jobs.View{}, schema.Invalid("mail", "no mail is connected: save the package and send it yourself")
	}
	v, sub, check, err := svc.submission(ctx, by, id, paper)
	if err != nil {
		return jobs.View{}, err
	}
	if len(check.Lacks) > 0 && len(strings.TrimSpace(anyway)) < 10 {
		return jobs.View{}, fmt.Errorf("%w: %w", people.ErrBlocked, LacksError(check.Lacks))
	}
	if p, _ := v.Job.PaperNow(paper); p.Sent != "" && p.Granted == "" && !p.SentBack() {
		return jobs.View{}, schema.Invalid("paper", "was sent %s and is not answered yet", p.Sent)
	}
	firm, err := svc.firm.ContractorNow(ctx)
	if err != nil {
		return jobs.View{}, err
	}
	if firm.Email == "" {
		return jobs.View{}, schema.Invalid("firm.email", "the firm has no mail address yet (People and firm)")
	}
	pack, err := svc.pack(ctx, &v, &sub, &check)
	if err != nil {
		return jobs.View{}, err
	}
	m := store.Mail{ID: uuid.NewString(), JobID: id, Paper: paper, Form: sub.Form, To: sub.To}
	message := clearance.Message{ID: m.ID, From: firm.Email, To: sub.To, Subject: sub.Title + ", job " + sub.Job, Date: svc.now(),
		Body:  "Form and files are in the package, the files in the order that the form asks for.\n\n" + firm.Name + "\n" + firm.Phone + "\n",
		Files: []clearance.Attached{{Name: sub.Job + "-" + sub.Form + ".zip", Type: "application/zip", Data: pack}}}
	resources, err := svc.firm.ResourcesNow(ctx)
	if err != nil {
		return jobs.View{}, err
	}
	m.Day = svc.firm.Today(resources.SiteZone(&v.Job))
	note := func(tx *store.Tx) error {
		detail := sub.Title + " to " + sub.To
		if len(check.Lacks) > 0 {
			detail += ", although " + LacksError(check.Lacks).Error() + ": " + strings.TrimSpace(anyway)
		}
		return errors.Join(tx.PutMail(m), tx.Note(svc.now(), by.Name, "send paper", id, detail))
	}
	// Sent last: what cannot be saved is not sent either.
	send := func() error { return svc.Mail.Send(message) }
	if v.Summary.Sealed {
		return svc.move(ctx, by, id, Move{Paper: paper, Event: job.PaperSent, Day: m.Day}, note, send)
	}
	return svc.editPapers(ctx, by, id, v.Revisions["clearances"], func(tx *store.Tx, j *job.Job) error {
		p := j.Paper(paper)
		if p == nil {
			return fmt.Errorf("paper %q: %w", paper, store.ErrNotFound)
		}
		p.Sent, p.Granted, p.Noticed = m.Day, "", ""
		return note(tx)
	}, send)
}

// errAnswered says that someone else has fetched an answer in the meantime.
var errAnswered = errors.New("answered already")

// FetchAnswers asks the desk about every paper that waits for an answer, and
// enters what it says, each answer once. It returns how many answered.
func (svc *Service) FetchAnswers(ctx context.Context, by people.Person) (int, error) {
	if err := people.May(by, people.SavePapers); err != nil {
		return 0, err
	}
	if svc.Desk == nil {
		return 0, schema.Invalid("desk", "no desk is connected: enter answers by hand")
	}
	mails, err := svc.store.OpenMails(ctx)
	if err != nil {
		return 0, err
	}
	forms, err := svc.firm.FormsNow(ctx)
	if err != nil {
		return 0, err
	}
	n := 0
	for _, m := range mails {
		d, ok := formOf(forms, &job.Paper{Form: m.Form})
		if !ok {
			continue
		}
		v, err := svc.jobs.Open(ctx, by, m.JobID)
		if err != nil {
			return n, err
		}
		resources, err := svc.firm.ResourcesNow(ctx)
		if err != nil {
			return n, err
		}
		reply, err := svc.Desk.Answer(m.ID, d, m.Asked, svc.firm.Today(resources.SiteZone(&v.Job)))
		if err != nil {
			return n, err
		}
		before := m.Asked
		m.Asked++
		m.Settled = reply.Outcome != job.Received
		note := func(tx *store.Tx) error {
			if now, err := tx.Mail(m.ID); err != nil || now.Asked != before {
				return errors.Join(err, errAnswered)
			}
			return errors.Join(
				tx.PutMail(m),
				tx.Note(svc.now(), by.Name, "answer to paper", m.JobID, d.Title+": "+string(reply.Outcome)+" "+strings.Join(reply.Reasons, "; ")),
			)
		}
		if _, there := v.Job.PaperNow(m.Paper); v.Summary.Sealed && there {
			_, err = svc.move(ctx, by, m.JobID, moveOf(m.Paper, reply), note)
		} else if v.Summary.Sealed {
			err = svc.store.Write(ctx, note)
		} else {
			_, err = svc.editPapers(ctx, by, m.JobID, -1, func(tx *store.Tx, j *job.Job) error {
				if p := j.Paper(m.Paper); p != nil {
					answered(p, reply)
				}
				return note(tx)
			})
		}
		if errors.Is(err, errAnswered) {
			continue
		}
		if err != nil {
			return n, err
		}
		n++
	}
	return n, nil
}

// answered enters a reply on a paper.
func answered(p *job.Paper, r job.Reply) {
	p.Replies = append(p.Replies, r)
	if r.Reference != "" {
		p.Reference = r.Reference
	}
	switch r.Outcome {
	case job.Received:
		p.Noticed = r.On
	case job.Accepted:
		p.Granted = r.On
	case job.Bounced:
		p.Sent, p.Noticed = "", ""
	}
}
