package document

import (
	"bytes"
	"context"
	"crypto/ed25519"
	"crypto/sha256"
	"encoding/base64"
	"errors"
	"fmt"
	"io"
	"sync"

	"github.com/pdfcpu/pdfcpu/pkg/api"
	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/model"

	"dogbolt/core/record"
	"dogbolt/internal/memory"
	"dogbolt/internal/stamp"
)

// Verified is what a check of a file found intact.
type Verified struct {
	Sealed record.Sealed
	PDF    bool         // the file is a PDF, and all of its bytes are as they were signed
	Stamp  *stamp.Stamp // of the PDF's signature, nil for none
}

// Verify checks a sealed JSON file or a PDF with one attached, without the
// database. The error says what is not intact.
func Verify(file []byte) (Verified, error) {
	if !bytes.HasPrefix(file, []byte("%PDF-")) {
		s, err := record.Open(file)
		return Verified{Sealed: s}, err
	}
	if i := bytes.LastIndex(file, []byte(olderMark)); i >= 0 && !byteRange.Match(file) {
		return verifyOlder(file[:i], file[i+len(olderMark):])
	}
	certificate, at, err := checkSigned(file)
	if err != nil {
		return Verified{}, err
	}
	s, err := attachedRecord(file)
	if err != nil {
		return Verified{}, err
	}
	if base64.StdEncoding.EncodeToString(certificate.RawSubjectPublicKeyInfo) != s.Seal.Key {
		return Verified{}, errors.New("the PDF is signed with another key than the record attached to it")
	}
	return Verified{Sealed: s, PDF: true, Stamp: at}, nil
}

// olderMark starts the comment after a PDF's end by which programs before there were
// certificates signed every byte before it.
const olderMark = "%dogbolt-seal "

// verifyOlder checks a PDF that ends with such a comment.
func verifyOlder(body, trailer []byte) (Verified, error) {
	if len(trailer) == 0 || trailer[len(trailer)-1] != '\n' {
		return Verified{}, errors.New("the seal at the end of the PDF is damaged")
	}
	s, err := attachedRecord(body)
	if err != nil {
		return Verified{}, err
	}
	key, err := base64.StdEncoding.Strict().DecodeString(s.Seal.Key)
	if err != nil || len(key) != ed25519.PublicKeySize {
		return Verified{}, errChanged
	}
	text := string(trailer[:len(trailer)-1])
	sig, err := base64.StdEncoding.Strict().DecodeString(text)
	digest := sha256.Sum256(body)
	if err != nil || base64.StdEncoding.EncodeToString(sig) != text || !ed25519.Verify(key, digest[:], sig) {
		return Verified{}, errors.New("the PDF was changed after it was sealed; the record attached to it is intact")
	}
	return Verified{Sealed: s, PDF: true}, nil
}

// attachedRecord opens the record that is attached to a PDF.
func attachedRecord(pdf []byte) (record.Sealed, error) {
	attached, err := attachment(pdf)
	if err != nil {
		return record.Sealed{}, err
	}
	s, err := record.Open(attached)
	if err != nil {
		return s, fmt.Errorf("attached record: %w", err)
	}
	return s, nil
}

// noConfigDir keeps the PDF library from writing a folder of its own.
var noConfigDir = sync.OnceFunc(api.DisableConfigDir)

// reading is how PDFs from outside are read: nothing in them unpacks to more than a long
// record or a large page takes. Common practice, no source.
func reading() *model.Configuration {
	noConfigDir()
	conf := model.NewDefaultConfiguration()
	conf.ValidationMode = model.ValidationRelaxed
	conf.Limits.MaxStreamBytes, conf.Limits.MaxDecodeBytes = 8<<20, 16<<20
	conf.Limits.MaxObjectCount, conf.Limits.MaxXRefEntries = 100_000, 100_000
	conf.Limits.MaxObjectStreamCount, conf.Limits.MaxObjectStreamFirst = 10_000, 1<<20
	return conf
}

// Pages counts the pages of a PDF from outside. It waits for the memory that reading takes,
// and for the account's turn.
func Pages(ctx context.Context, account string, pdf []byte) (int, error) {
	give, err := room(ctx, account, pdf)
	if err != nil {
		return 0, err
	}
	defer give()
	return api.PageCount(bytes.NewReader(pdf), reading())
}

// VerifyFor is Verify of what an account sent: it waits for the memory that reading takes, and
// for the account's turn.
func VerifyFor(ctx context.Context, account string, file []byte) (Verified, error) {
	give, err := room(ctx, account, file)
	if err != nil {
		return Verified{}, err
	}
	defer give()
	return Verify(file)
}

// room waits for the memory that reading a file takes.
func room(ctx context.Context, account string, file []byte) (give func(), err error) {
	need, err := takes(file)
	if err != nil {
		return nil, err
	}
	return memory.Take(ctx, account, need)
}

// attachment returns the record.json of a PDF.
func attachment(pdf []byte) ([]byte, error) {
	list, err := api.ExtractAttachmentsRaw(bytes.NewReader(pdf), "", nil, reading())
	if err != nil {
		return nil, fmt.Errorf("the PDF cannot be read: it was damaged or changed: %w", err)
	}
	for _, a := range list {
		if a.FileName == "record.json" {
			return io.ReadAll(a)
		}
	}
	return nil, errors.New("the PDF has no record attached")
}
