package document

import (
	"bytes"
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
)

// sealMark starts the comment after a PDF's end that signs every byte before it.
const sealMark = "%dogbolt-seal "

// signFile appends a comment line with a signature over the whole file. PDF
// readers pass over comments after the end of the file.
func signFile(pdf []byte, key ed25519.PrivateKey) []byte {
	if pdf[len(pdf)-1] != '\n' {
		pdf = append(pdf, '\n')
	}
	digest := sha256.Sum256(pdf)
	sig := base64.StdEncoding.EncodeToString(ed25519.Sign(key, digest[:]))
	return append(pdf, sealMark+sig+"\n"...)
}

// Verified is what a check of a file found intact.
type Verified struct {
	Sealed record.Sealed
	PDF    bool // the file is a PDF, and all of its bytes are as they were signed
}

// Verify checks a sealed JSON file or a PDF with one attached, without the
// database. The error says what is not intact.
func Verify(file []byte) (Verified, error) {
	if !bytes.HasPrefix(file, []byte("%PDF-")) {
		s, err := record.Open(file)
		return Verified{Sealed: s}, err
	}
	i := bytes.LastIndex(file, []byte(sealMark))
	if i < 0 {
		return Verified{}, errors.New("this PDF carries no seal, or its seal was cut off or damaged")
	}
	body, trailer := file[:i], file[i+len(sealMark):]
	if len(trailer) == 0 || trailer[len(trailer)-1] != '\n' {
		return Verified{}, errors.New("the seal at the end of the PDF is damaged")
	}
	sig := string(trailer[:len(trailer)-1])
	attached, err := attachment(body)
	if err != nil {
		return Verified{}, err
	}
	s, err := record.Open(attached)
	if err != nil {
		return Verified{}, fmt.Errorf("attached record: %w", err)
	}
	digest := sha256.Sum256(body)
	if !record.CheckSignature(s.Seal.Key, digest[:], sig) {
		return Verified{}, errors.New("the PDF was changed after it was sealed; the record attached to it is intact")
	}
	return Verified{Sealed: s, PDF: true}, nil
}

// noConfigDir keeps the PDF library from writing a folder of its own.
var noConfigDir = sync.OnceFunc(api.DisableConfigDir)

// attachment returns the record.json of a PDF.
func attachment(pdf []byte) ([]byte, error) {
	noConfigDir()
	conf := model.NewDefaultConfiguration()
	conf.ValidationMode = model.ValidationRelaxed
	list, err := api.ExtractAttachmentsRaw(bytes.NewReader(pdf), "", nil, conf)
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
