package record

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/gowebpki/jcs"

	"dogbolt/core/job"
)

// ExtractFormat names the format of an extract of a sealed record and its version.
const ExtractFormat = "dogbolt.extract/1"

// Extract is what a paper for a customer carries of a sealed record: what the paper prints, and the digest
// of the record itself, which is a file of the firm's. It has its own seal by the same key.
type Extract struct {
	Format     string     `json:"format"`
	Number     string     `json:"number"`
	Issue      int        `json:"issue"`
	Record     string     `json:"record"` // digest of the whole record
	Replaces   string     `json:"replaces,omitempty"`
	Contractor Contractor `json:"contractor"`
	Edition    string     `json:"edition"`
	SealedAt   time.Time  `json:"sealedAt"`
	SealedBy   string     `json:"sealedBy"`
	Paper      Document   `json:"paper"`
}

// SignExtract seals the extract of a record that a paper carries.
func SignExtract(doc *Document, s *Sealed, key Key) ([]byte, error) {
	r := &s.Record
	e := Extract{ExtractFormat, r.Job.Number, r.Issue, s.Seal.Digest, r.Replaces, r.Contractor, r.Edition, r.SealedAt, r.SealedBy, *doc}
	body, err := Canonical(e)
	if err != nil {
		return nil, err
	}
	seal, err := key.SealBytes(body)
	if err != nil {
		return nil, err
	}
	return Canonical(struct {
		Extract Extract `json:"extract"`
		Seal    Seal    `json:"seal"`
	}{e, seal})
}

// OpenExtract checks an extract and returns what it says of its record: whose it is, which issue, sealed
// when and by whom. Digest and key are those of the record; its job has the number alone.
func OpenExtract(file []byte) (Sealed, error) {
	var parts struct {
		Extract json.RawMessage `json:"extract"`
		Seal    Seal            `json:"seal"`
	}
	if err := json.Unmarshal(file, &parts); err != nil {
		return Sealed{}, fmt.Errorf("not an extract of a record: %w", err)
	}
	if parts.Extract == nil || parts.Seal.Digest == "" {
		return Sealed{}, errors.New("not an extract of a record: it has no extract or no seal")
	}
	canonical, err := jcs.Transform(file)
	if err != nil || !bytes.Equal(canonical, file) {
		return Sealed{}, errors.New("the extract is not in the form in which it was sealed: it was changed or saved again by another program")
	}
	body, err := jcs.Transform(parts.Extract)
	if err != nil {
		return Sealed{}, fmt.Errorf("extract: %w", err)
	}
	if err := parts.Seal.Check(body); err != nil {
		return Sealed{}, fmt.Errorf("the extract was changed after it was sealed: %w", err)
	}
	var e Extract
	if err := json.Unmarshal(parts.Extract, &e); err != nil {
		return Sealed{}, fmt.Errorf("extract: %w", err)
	}
	if e.Format != ExtractFormat {
		return Sealed{}, fmt.Errorf("the extract's format is %q, this program reads %q", e.Format, ExtractFormat)
	}
	return Sealed{
		Record: Record{
			Issue: e.Issue, Replaces: e.Replaces, Contractor: e.Contractor, Edition: e.Edition, SealedAt: e.SealedAt, SealedBy: e.SealedBy,
			Job: job.Job{Number: e.Number},
		},
		Seal: Seal{Digest: e.Record, Key: parts.Seal.Key},
	}, nil
}
