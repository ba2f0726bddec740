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
	Part   bool         // it carries an extract of the record: of the job, the number alone
	Stamp  *stamp.Stamp // of the PDF's signature, nil for none
}

// Verify checks a sealed JSON file or a PDF with one attached, without the
// database. The error says what is not intact.
func Verify(file []byte) (Verified, error) {
	if !bytes.HasPrefix(file, []byte(isPDF)) {
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
	s, part, err := attachedRecord(file)
	if err != nil {
		return Verified{}, err
	}
	if base64.StdEncoding.EncodeToString(certificate.RawSubjectPublicKeyInfo) != s.Seal.Key {
		return Verified{}, errors.New("the PDF is signed with another key than the record attached to it")
	}
	return Verified{Sealed: s, PDF: true, Part: part, Stamp: at}, nil
}

// olderMark starts the comment after a PDF's end by which programs before there were
// certificates signed every byte before it.
const olderMark = "%dogbolt-seal "

// verifyOlder checks a PDF that ends with such a comment.
func verifyOlder(body, trailer []byte) (Verified, error) {
	if len(trailer) == 0 || trailer[len(trailer)-1] != '\n' {
		return Verified{}, errors.New("the seal at the end of the PDF is damaged")
	}
	s, _, err := attachedRecord(body)
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

// attachedRecord opens the record that is attached to a PDF, or the part of it that an extract has.
func attachedRecord(pdf []byte) (s record.Sealed, part bool, err error) {
	name, attached, err := attachment(pdf)
	if err != nil {
		return s, false, err
	}
	if part = name == anExtract; part {
		s, err = record.OpenExtract(attached)
	} else {
		s, err = record.Open(attached)
	}
	if err != nil {
		return s, part, fmt.Errorf("attached record: %w", err)
	}
	return s, part, nil
}

// noConfigDir keeps the PDF library from writing a folder of its own.
var noConfigDir = sync.OnceFunc(api.DisableConfigDir)

// isPDF is how a PDF begins.
const isPDF = "%PDF-"

// reading is how a PDF from outside is read: no stream of it may unpack to more than was
// reckoned with. The error says that it cannot be told. The limits are common practice, no
// source.
func reading(pdf []byte) (*model.Configuration, error) {
	_, limit, err := takes(pdf)
	if err != nil {
		return nil, err
	}
	noConfigDir()
	conf := model.NewDefaultConfiguration()
	conf.ValidationMode = model.ValidationRelaxed
	conf.Limits.MaxStreamBytes, conf.Limits.MaxDecodeBytes = 8<<20, limit
	conf.Limits.MaxObjectCount, conf.Limits.MaxXRefEntries = 100_000, 100_000
	conf.Limits.MaxObjectStreamCount, conf.Limits.MaxObjectStreamFirst = 10_000, 1<<20
	return conf, nil
}

// Pages counts the pages of a PDF from outside. It waits for the memory that reading takes,
// and for the account's turn.
func Pages(ctx context.Context, account string, pdf []byte) (int, error) {
	give, err := room(ctx, account, pdf)
	if err != nil {
		return 0, err
	}
	defer give()
	conf, err := reading(pdf)
	if err != nil {
		return 0, err
	}
	return api.PageCount(bytes.NewReader(pdf), conf)
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
	need := int64(besides)
	if bytes.HasPrefix(file, []byte(isPDF)) {
		if need, _, err = takes(file); err != nil {
			return nil, err
		}
	}
	return memory.Take(ctx, account, need)
}

// attachment returns the record.json or extract.json of a PDF.
func attachment(pdf []byte) (name string, data []byte, err error) {
	conf, err := reading(pdf)
	if err != nil {
		return "", nil, err
	}
	list, err := api.ExtractAttachmentsRaw(bytes.NewReader(pdf), "", nil, conf)
	if err != nil {
		return "", nil, fmt.Errorf("the PDF cannot be read: it was damaged or changed: %w", err)
	}
	for _, a := range list {
		if a.FileName == wholeRecord || a.FileName == anExtract {
			data, err := io.ReadAll(a)
			return a.FileName, data, err
		}
	}
	return "", nil, errors.New("the PDF has no record attached")
}
