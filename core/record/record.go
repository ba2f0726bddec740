// Package record makes the sealed record of a job: its canonical form, digest
// and signature, and what the inspection record and the handover pack say.
package record

import (
	"bytes"
	"crypto/sha256"
	"encoding/base64"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/gowebpki/jcs"

	"dogbolt/core/chain"
	"dogbolt/core/job"
	"dogbolt/core/rulebook"
)

// Format names the format of a sealed record and its version.
const Format = "dogbolt.record/1"

// Contractor is the firm that does the work.
type Contractor struct {
	Name    string `json:"name" doc:"Name of the firm."`
	Address string `json:"address,omitempty"`
	Phone   string `json:"phone,omitempty"`
	Email   string `json:"email,omitempty"`
	Scheme  string `json:"scheme,omitempty" doc:"Registration or licence."`
}

// Record is what is sealed: the job and its findings as they were, with the
// edition that judged them and the version of the program.
type Record struct {
	Format     string          `json:"format"`
	Issue      int             `json:"issue"`
	Replaces   string          `json:"replaces,omitempty"` // digest of the issue that this one amends
	Reason     string          `json:"reason,omitempty"`   // of the amendment
	Contractor Contractor      `json:"contractor"`
	Edition    string          `json:"edition"`
	Program    string          `json:"program"`
	SealedAt   time.Time       `json:"sealedAt"`
	SealedBy   string          `json:"sealedBy"`
	Zone       string          `json:"zone,omitempty"`    // of the site, by which times are printed; UTC where older records name none
	Page       string          `json:"page,omitempty"`    // address of the customer's page, where one was open when it was sealed
	Account    string          `json:"account,omitempty"` // of who sealed it, by its id on the firm's server
	Chain      *chain.Head     `json:"chain,omitempty"`   // of the job, before this record
	Job        job.Job         `json:"job"`
	Findings   []rulebook.Line `json:"findings"`
	Changes    []IssueChange   `json:"changes,omitempty"` // from the issue that this one replaces
}

// Seal is the digest of a record's canonical form and its signature.
type Seal struct {
	Digest      string `json:"digest"`                // SHA-256 of the canonical record, hex
	JWS         string `json:"jws,omitempty"`         // over the canonical record, detached (RFC 7515, appendix F)
	Certificate string `json:"certificate,omitempty"` // of the key, X.509, base64
	Signature   string `json:"signature,omitempty"`   // of older records, in place of both: Ed25519 over the 32 digest bytes, base64
	Key         string `json:"key"`                   // public key, base64: SubjectPublicKeyInfo, of older records the 32 bytes alone
}

// Sealed is the file: a record and its seal, itself in canonical form.
type Sealed struct {
	Record Record `json:"record"`
	Seal   Seal   `json:"seal"`
}

// ErrBlocked is wrapped by errors that say why a job cannot be sealed.
var ErrBlocked = errors.New("the job cannot be sealed")

// Blocking returns the findings that stand in the way of sealing.
func Blocking(findings []rulebook.Finding) []rulebook.Finding {
	var out []rulebook.Finding
	for _, f := range findings {
		if f.Blocks() {
			out = append(out, f)
		}
	}
	return out
}

// Canonical returns v as canonical JSON (RFC 8785).
func Canonical(v any) ([]byte, error) {
	b, err := json.Marshal(v)
	if err != nil {
		return nil, fmt.Errorf("canonical form: %w", err)
	}
	return jcs.Transform(b)
}

// Sign seals a record with the contractor's key and returns the sealed file in
// canonical form.
func Sign(r Record, key Key) ([]byte, Seal, error) {
	body, err := Canonical(r)
	if err != nil {
		return nil, Seal{}, err
	}
	seal, err := key.SealBytes(body)
	if err != nil {
		return nil, Seal{}, err
	}
	file, err := Canonical(Sealed{r, seal})
	return file, seal, err
}

// decode reads base64 as this package writes it and no other spelling of the
// same bytes: the library passes over line ends.
func decode(s string) ([]byte, bool) {
	b, err := base64.StdEncoding.Strict().DecodeString(s)
	return b, err == nil && base64.StdEncoding.EncodeToString(b) == s
}

// Fingerprint returns a short form of a public key that people can compare:
// the first eight bytes of its SHA-256, in groups of four digits.
func Fingerprint(key string) string {
	raw, err := base64.StdEncoding.DecodeString(key)
	if err != nil {
		return "unreadable key"
	}
	d := sha256.Sum256(raw)
	h := hex.EncodeToString(d[:8])
	return h[0:4] + " " + h[4:8] + " " + h[8:12] + " " + h[12:16]
}

// Code returns the short code of a digest that a record prints, for comparing
// by eye: its first sixteen digits in groups of four.
func Code(digest string) string {
	if len(digest) < 16 {
		return digest
	}
	return digest[0:4] + " " + digest[4:8] + " " + digest[8:12] + " " + digest[12:16]
}

// Open checks a sealed file, byte for byte, and returns what it holds. The
// error says what is not intact.
func Open(file []byte) (Sealed, error) {
	var parts struct {
		Record json.RawMessage `json:"record"`
		Seal   Seal            `json:"seal"`
	}
	if err := json.Unmarshal(file, &parts); err != nil {
		return Sealed{}, fmt.Errorf("not a sealed record: %w", err)
	}
	if parts.Record == nil || parts.Seal.Digest == "" {
		return Sealed{}, errors.New("not a sealed record: it has no record or no seal")
	}
	canonical, err := jcs.Transform(file)
	if err != nil {
		return Sealed{}, fmt.Errorf("not a sealed record: %w", err)
	}
	if !bytes.Equal(canonical, file) {
		return Sealed{}, errors.New("the file is not in the form in which it was sealed: it was changed or saved again by another program")
	}
	body, err := jcs.Transform(parts.Record)
	if err != nil {
		return Sealed{}, fmt.Errorf("record: %w", err)
	}
	if err := parts.Seal.Check(body); err != nil {
		return Sealed{}, fmt.Errorf("the record was changed after it was sealed: %w", err)
	}
	s := Sealed{Seal: parts.Seal}
	if err := json.Unmarshal(parts.Record, &s.Record); err != nil {
		return Sealed{}, fmt.Errorf("record: %w", err)
	}
	if s.Record.Format != Format {
		return Sealed{}, fmt.Errorf("the record's format is %q, this program reads %q", s.Record.Format, Format)
	}
	return s, nil
}
