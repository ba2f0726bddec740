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
			r.Standing, r.ReplacedBy, r.ReplacedCode = by.Standing, by.Issue, by.Code
		}
	}
	return r
}

// Preview is a paper as it would be sealed now.
type Preview struct {
	Title  string         `json:"title"`
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
	p := Preview{Title: d.Title, Blocks: make([]PreviewBlock, len(d.Blocks)), Named: document.Named(d)}
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

// openRoutes are the operations that no account is asked for, beside those of signing in.
func (s *server) openRoutes(api huma.API) {
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
