package httpapi

import (
	"context"
	_ "embed" // the page
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"dogbolt/core/record"
	"dogbolt/core/verdict"
	"dogbolt/internal/document"
	"dogbolt/internal/rooms"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/rooms/records"
	"dogbolt/internal/store"
)

// Issue is a sealed issue of a job.
type Issue struct {
	Issue    int       `json:"issue"`
	Digest   string    `json:"digest"`
	Code     string    `json:"code"`
	Replaces string    `json:"replaces,omitempty"`
	SealedAt time.Time `json:"sealedAt"`
	SealedBy string    `json:"sealedBy"`

	Certified bool `json:"certified,omitempty" doc:"The issue has the country's certificate."`
}

// VerifyResult says what a check of a sealed file found.
type VerifyResult struct {
	Intact      bool   `json:"intact"`
	Kind        string `json:"kind,omitempty" doc:"PDF or JSON."`
	Message     string `json:"message"`
	Number      string `json:"number,omitempty"`
	Issue       int    `json:"issue,omitempty"`
	Code        string `json:"code,omitempty"`
	Fingerprint string `json:"fingerprint,omitempty"`
	OurKey      bool   `json:"ourKey" doc:"Sealed with this firm's key."`

	SealedAt   *time.Time `json:"sealedAt,omitempty"`
	SealedBy   string     `json:"sealedBy,omitempty"`
	Contractor string     `json:"contractor,omitempty" doc:"The firm, as the record names it."`

	Standing     records.Standing `json:"standing,omitempty" doc:"Whether the issue is the last of its job, by this firm's books."`
	ReplacedBy   int              `json:"replacedBy,omitempty" doc:"The issue that replaces it."`
	ReplacedCode string           `json:"replacedCode,omitempty"`

	WithdrawnAt *time.Time `json:"withdrawnAt,omitempty" doc:"When the firm withdrew it."`
	Reason      string     `json:"reason,omitempty" doc:"Why it was withdrawn."`

	StampedAt *time.Time `json:"stampedAt,omitempty" doc:"When a time-stamping authority saw the PDF's signature, by its clock."`
	StampedBy string     `json:"stampedBy,omitempty" doc:"The authority, as its certificate names it. Whether it is to be trusted, the reader decides."`
}

func verify(ctx context.Context, a *rooms.Rooms, who string, file []byte) VerifyResult {
	v, err := document.VerifyFor(ctx, who, file)
	if err != nil {
		return VerifyResult{Message: err.Error()}
	}
	r := VerifyResult{Intact: true, Kind: "JSON", Message: "every byte is as it was sealed", Number: v.Sealed.Record.Job.Number,
		Issue: v.Sealed.Record.Issue, Code: record.Code(v.Sealed.Seal.Digest), Fingerprint: record.Fingerprint(v.Sealed.Seal.Key)}
	if v.PDF {
		r.Kind = "PDF"
	}
	if v.Stamp != nil {
		r.StampedAt, r.StampedBy = &v.Stamp.At, v.Stamp.By.Subject.String()
	}
	rec := &v.Sealed.Record
	r.SealedAt, r.SealedBy, r.Contractor = &rec.SealedAt, rec.SealedBy, rec.Contractor.Name
	if ours, err := a.Firm.Known(ctx, v.Sealed.Seal.Key); err == nil {
		r.OurKey = ours
	}
	r.Standing = records.Unknown
	if r.OurKey {
		if by, err := a.Records.Standing(ctx, v.Sealed.Seal.Digest); err == nil {
			r.Standing, r.ReplacedBy, r.ReplacedCode, r.Reason = by.Standing, by.Issue, by.Code, by.Reason
			if !by.At.IsZero() {
				r.WithdrawnAt = &by.At
			}
		}
	}
	return r
}

// Preview is a paper as it would be sealed now.
type Preview struct {
	Title  string         `json:"title"`
	Lang   string         `json:"lang,omitempty" doc:"Language that it is in, where it is not English."`
	Blocks []PreviewBlock `json:"blocks"`
	Named  []string       `json:"named,omitempty" doc:"Characters that the fonts of the paper do not have, each with the name that is printed in its place."`
}

// PreviewBlock is one part of a previewed paper.
type PreviewBlock struct {
	Heading  string            `json:"heading"`
	Text     []string          `json:"text,omitempty"`
	Caution  bool              `json:"caution,omitempty"`
	Pairs    [][2]string       `json:"pairs,omitempty"`
	Columns  []string          `json:"columns,omitempty"`
	Rows     [][]string        `json:"rows,omitempty"`
	Verdicts []verdict.Verdict `json:"verdicts,omitempty"`
	Across   bool              `json:"across,omitempty" doc:"Printed on a page that lies across."`
	Plan     bool              `json:"plan,omitempty" doc:"The site plan goes here."`
	Pictures []PreviewPicture  `json:"pictures,omitempty"`
	Diagram  string            `json:"diagram,omitempty" doc:"Point whose one-line diagram goes here."`
}

// PreviewPicture is a photo of a previewed paper.
type PreviewPicture struct {
	Digest  string `json:"digest"`
	Caption string `json:"caption"`
}

func preview(d record.Document) Preview {
	p := Preview{Title: d.Title, Lang: d.Lang, Blocks: make([]PreviewBlock, len(d.Blocks)), Named: document.Named(d)}
	for i, b := range d.Blocks {
		pb := PreviewBlock{Heading: b.Heading, Text: b.Text, Caution: b.Caution, Pairs: b.Pairs, Diagram: b.Diagram, Across: b.Across, Plan: b.Plan}
		for _, pic := range b.Pictures {
			pb.Pictures = append(pb.Pictures, PreviewPicture(pic))
		}
		if b.Table != nil {
			for _, c := range b.Table.Columns {
				pb.Columns = append(pb.Columns, c.Title)
			}
			pb.Rows, pb.Verdicts = b.Table.Rows, b.Table.Verdicts
		}
		p.Blocks[i] = pb
	}
	return p
}

func (s *server) recordRoutes(api huma.API) {
	huma.Register(
		api,
		op(http.MethodPost, "/api/jobs/{job}/seal", "seal-job", "Seal a job as a new issue"),
		as(func(ctx context.Context, p people.Person, in *JobPath) (*viewOutput, error) {
			return viewOf(s.rooms.Records.Seal(ctx, p, in.ID))
		}),
	)
	type amendInput struct {
		JobPath
		Body struct {
			Reason string `json:"reason" maxLength:"1000"`
		}
	}
	huma.Register(
		api,
		op(http.MethodPost, "/api/jobs/{job}/amend", "amend-job", "Open a sealed job for a new issue"),
		as(func(ctx context.Context, p people.Person, in *amendInput) (*viewOutput, error) {
			return viewOf(s.rooms.Records.Amend(ctx, p, in.ID, in.Body.Reason))
		}),
	)
	huma.Register(
		api,
		op(http.MethodDelete, "/api/jobs/{job}/amend", "drop-amendment", "Close an amendment that changed nothing"),
		as(func(ctx context.Context, p people.Person, in *JobPath) (*viewOutput, error) {
			return viewOf(s.rooms.Records.DropAmendment(ctx, p, in.ID))
		}),
	)
	type withdrawInput struct {
		JobPath
		Issue int `path:"issue" minimum:"1"`
		Body  struct {
			Reason string `json:"reason" maxLength:"1000"`
		}
	}
	huma.Register(
		api,
		op(http.MethodPost, "/api/jobs/{job}/records/{issue}/withdraw", "withdraw-record", "Withdraw the last sealed issue, and tell who was given it"),
		as(func(ctx context.Context, p people.Person, in *withdrawInput) (*viewOutput, error) {
			return viewOf(s.rooms.Records.Withdraw(ctx, p, in.ID, in.Issue, in.Body.Reason))
		}),
	)
	type givenOutput struct{ Body records.Recipient }
	huma.Register(
		api,
		op(http.MethodPost, "/api/jobs/{job}/mail-pack", "mail-pack", "Send the customer the papers of the last issue"),
		as(func(ctx context.Context, p people.Person, in *JobPath) (*givenOutput, error) {
			given, err := s.rooms.Records.MailPack(ctx, p, in.ID)
			return &givenOutput{given}, err
		}),
	)
	type recipientsOutput struct{ Body []records.Recipient }
	huma.Register(
		api,
		op(http.MethodGet, "/api/jobs/{job}/recipients", "list-recipients", "Who was given papers of a job"),
		as(func(ctx context.Context, p people.Person, in *JobPath) (*recipientsOutput, error) {
			list, err := s.rooms.Records.Recipients(ctx, p, in.ID)
			return &recipientsOutput{list}, err
		}),
	)
	type changesOutput struct{ Body records.Differing }
	huma.Register(
		api,
		op(http.MethodGet, "/api/jobs/{job}/changes", "list-changes", "What differs between a job as it is and its last issue"),
		as(func(ctx context.Context, p people.Person, in *JobPath) (*changesOutput, error) {
			d, err := s.rooms.Records.Changes(ctx, p, in.ID)
			return &changesOutput{d}, err
		}),
	)
	type previewInput struct {
		JobPath
		Kind records.PaperKind `path:"kind"`
	}
	type previewOutput struct{ Body Preview }
	huma.Register(
		api,
		op(http.MethodGet, "/api/jobs/{job}/preview/{kind}", "preview-paper", "A paper as it would be sealed now"),
		as(func(ctx context.Context, p people.Person, in *previewInput) (*previewOutput, error) {
			d, err := s.rooms.Records.Preview(ctx, p, in.ID, in.Kind)
			return &previewOutput{preview(d)}, err
		}),
	)
	for _, l := range []struct {
		name, id, summary, kind string
		made                    func(*records.Service, context.Context, people.Person, string) (records.Paper, error)
	}{
		{"labels.pdf", "print-labels", "Labels and plaques of a job in actual size, to be cut out", typePDF, (*records.Service).LabelsPDF},
		{"receipt.pdf", "print-receipt", "Who signed for the pack, with the signature", typePDF, (*records.Service).Receipt},
		{"labels.svg", "draw-labels", "Labels and plaques of a job for a label printer", typeSVG, (*records.Service).LabelsSVG},
	} {
		huma.Register(
			api,
			sending(op(http.MethodGet, "/api/jobs/{job}/"+l.name, l.id, l.summary), l.kind),
			as(func(ctx context.Context, p people.Person, in *JobPath) (*download, error) {
				f, err := l.made(s.rooms.Records, ctx, p, in.ID)
				return saveAs(f.Type, f.Name, f.Data), err
			}),
		)
	}
	type paperInput struct {
		JobPath
		Issue int                `path:"issue" minimum:"1"`
		Kind  records.SealedKind `path:"kind"`
	}
	type paperOutput struct {
		ContentType string `header:"Content-Type"`
		Disposition string `header:"Content-Disposition"`
		Body        []byte
	}
	huma.Register(
		api,
		sending(op(http.MethodGet, "/api/jobs/{job}/records/{issue}/{kind}", "get-paper", "A file of a sealed issue"), typePDF, typeJSON),
		as(func(ctx context.Context, p people.Person, in *paperInput) (*paperOutput, error) {
			f, err := s.rooms.Records.Paper(ctx, p, in.ID, in.Issue, in.Kind)
			return &paperOutput{f.Type, attachment(f.Name), f.Data}, err
		}),
	)
}

// CustomerPage is what a customer's page shows.
type CustomerPage struct {
	Number    string           `json:"number"`
	Issue     int              `json:"issue"`
	SealedAt  time.Time        `json:"sealedAt"`
	SealedBy  string           `json:"sealedBy"`
	Code      string           `json:"code"`
	Certified string           `json:"certified,omitempty" doc:"Title of the certificate, where the issue has one."`
	Pack      Preview          `json:"pack"`
	Notices   []records.Notice `json:"notices" doc:"Notices and claims after the work, as they stand."`
	Withdrawn *time.Time       `json:"withdrawnAt,omitempty"`
	Reason    string           `json:"reason,omitempty" doc:"Why it was withdrawn."`
}

// TokenPath names a customer's page by its token.
type TokenPath struct {
	Token string `path:"token" minLength:"26" maxLength:"26" pattern:"^[A-Z2-7]{26}$"`
}

// pageRoutes are the firm's side of customers' pages.
func (s *server) pageRoutes(api huma.API) {
	type pageOutput struct{ Body records.OpenedPage }
	huma.Register(
		api,
		op(http.MethodGet, "/api/jobs/{job}/page", "get-customer-page", "The customer's page of a job"),
		as(func(ctx context.Context, p people.Person, in *JobPath) (*pageOutput, error) {
			page, err := s.rooms.Records.PageNow(ctx, p, in.ID)
			return &pageOutput{page}, err
		}),
	)
	type openInput struct {
		JobPath
		Body struct {
			At string `json:"at" maxLength:"300" format:"uri" doc:"Address at which the firm's pages are reached."`
		}
	}
	huma.Register(
		api,
		op(http.MethodPost, "/api/jobs/{job}/page", "open-customer-page", "Give a job a page that needs no account, at a new address"),
		as(func(ctx context.Context, p people.Person, in *openInput) (*pageOutput, error) {
			page, err := s.rooms.Records.OpenPage(ctx, p, in.ID, in.Body.At)
			return &pageOutput{page}, err
		}),
	)
	huma.Register(
		api,
		op(http.MethodDelete, "/api/jobs/{job}/page", "close-customer-page", "Take the customer's page of a job away"),
		as(func(ctx context.Context, p people.Person, in *JobPath) (*struct{}, error) {
			return nil, s.rooms.Records.ClosePage(ctx, p, in.ID)
		}),
	)
	type qrOutput struct {
		ContentType string `header:"Content-Type"`
		Cache       string `header:"Cache-Control"`
		Body        []byte
	}
	huma.Register(
		api,
		sending(op(http.MethodGet, "/api/jobs/{job}/page/qr.png", "draw-customer-page", "The address of the customer's page as a QR code"), typePNG),
		as(func(ctx context.Context, p people.Person, in *JobPath) (*qrOutput, error) {
			page, err := s.rooms.Records.PageNow(ctx, p, in.ID)
			if err != nil {
				return nil, err
			}
			if page.Address == "" { // opened before addresses were kept: its page draws none
				return nil, store.ErrNotFound
			}
			code, err := document.QR(page.Address)
			return &qrOutput{"image/png", "no-store", code}, err
		}),
	)
}

// openRoutes are the operations that no account is asked for, beside those of signing in.
func (s *server) openRoutes(api huma.API) {
	type shownOutput struct {
		Robots string `header:"X-Robots-Tag"`
		Cache  string `header:"Cache-Control"`
		Body   CustomerPage
	}
	shown := op(http.MethodGet, "/api/open/{token}", "show-customer-page", "What a customer's page shows")
	huma.Register(api, shown, func(ctx context.Context, in *TokenPath) (*shownOutput, error) {
		p, err := s.rooms.Records.Public(ctx, in.Token)
		if err != nil {
			return nil, answer(ctx, err)
		}
		body := CustomerPage{
			Number: p.Number, Issue: p.Issue, SealedAt: p.SealedAt, SealedBy: p.SealedBy, Code: p.Code, Certified: p.Certified,
			Pack: preview(p.Pack), Notices: p.Notices, Reason: p.Stands.Reason,
		}
		if !p.Stands.At.IsZero() {
			body.Withdrawn = &p.Stands.At
		}
		return &shownOutput{"noindex", "no-store", body}, nil
	})
	type publicInput struct {
		TokenPath
		Kind records.PublicKind `path:"kind"`
	}
	type publicOutput struct {
		ContentType string `header:"Content-Type"`
		Disposition string `header:"Content-Disposition"`
		Robots      string `header:"X-Robots-Tag"`
		Cache       string `header:"Cache-Control"`
		Body        []byte
	}
	get := sending(op(http.MethodGet, "/api/open/{token}/{kind}", "get-customer-paper", "A paper of a customer's page"), typePDF)
	huma.Register(api, get, func(ctx context.Context, in *publicInput) (*publicOutput, error) {
		f, err := s.rooms.Records.PublicPaper(ctx, in.Token, in.Kind)
		if err != nil {
			return nil, answer(ctx, err)
		}
		return &publicOutput{f.Type, attachment(f.Name), "noindex", "no-store", f.Data}, nil
	})
	type verifyInput struct {
		RawBody []byte `contentType:"application/octet-stream"`
	}
	type verifyOutput struct{ Body VerifyResult }
	check := op(http.MethodPost, "/api/verify", "verify-file", "Check a sealed PDF or JSON file")
	huma.Register(api, check, func(ctx context.Context, in *verifyInput) (*verifyOutput, error) {
		who := addressOf(ctx)
		if p, err := signedIn(ctx); err == nil {
			who = p.ID
		}
		return &verifyOutput{verify(ctx, s.rooms, who, in.RawBody)}, nil
	})
}
