// Package stamp asks a time-stamping authority (RFC 3161) to say when a signature was there,
// and reads what it said.
package stamp

import (
	"bytes"
	"context"
	"crypto"
	"crypto/rand"
	"crypto/sha1"
	"crypto/sha256"
	"crypto/x509"
	"crypto/x509/pkix"
	"encoding/asn1"
	"errors"
	"fmt"
	"io"
	"math/big"
	"net/http"
	"slices"
	"time"

	"github.com/digitorus/timestamp"
	"github.com/smallstep/pkcs7"
)

// Limits of an authority over HTTP: a longer answer has no room in a PDF's signature.
// Common practice, no source.
const (
	longestWait  = 10 * time.Second
	longestReply = 16 << 10 // bytes
)

// Authority is what answers queries for time stamps.
type Authority interface {
	// Answer answers a TimeStampReq with a TimeStampResp, both DER.
	Answer(ctx context.Context, query []byte) (reply []byte, err error)
}

// At is an authority at an address (RFC 3161, 3.4).
type At string

// Answer implements Authority.
func (a At) Answer(ctx context.Context, query []byte) ([]byte, error) {
	ctx, cancel := context.WithTimeout(ctx, longestWait)
	defer cancel()
	r, err := http.NewRequestWithContext(ctx, http.MethodPost, string(a), bytes.NewReader(query))
	if err != nil {
		return nil, err
	}
	r.Header.Set("Content-Type", "application/timestamp-query")
	res, err := http.DefaultClient.Do(r)
	if err != nil {
		return nil, err
	}
	defer res.Body.Close()
	if res.StatusCode != http.StatusOK {
		return nil, fmt.Errorf("it answers %s", res.Status)
	}
	return io.ReadAll(io.LimitReader(res.Body, longestReply))
}

// Stamp is when an authority saw a signature, by its own clock.
type Stamp struct {
	At time.Time
	By *x509.Certificate // of the authority: whether it is to be trusted, the reader decides
}

// Of asks for a stamp of a signature, and returns its TimeStampToken (DER).
func Of(ctx context.Context, a Authority, signature []byte) ([]byte, error) {
	nonce, err := rand.Int(rand.Reader, new(big.Int).Lsh(big.NewInt(1), 63))
	if err != nil {
		return nil, err
	}
	sum := sha256.Sum256(signature)
	query, err := (&timestamp.Request{HashAlgorithm: crypto.SHA256, HashedMessage: sum[:], Certificates: true, Nonce: nonce}).Marshal()
	if err != nil {
		return nil, fmt.Errorf("time stamp: %w", err)
	}
	reply, err := a.Answer(ctx, query)
	if err != nil {
		return nil, fmt.Errorf("time stamp: the authority cannot be asked: %w", err)
	}
	t, err := timestamp.ParseResponse(reply)
	if err != nil {
		return nil, fmt.Errorf("time stamp: the authority refuses: %w", err)
	}
	if t.Nonce == nil || t.Nonce.Cmp(nonce) != 0 {
		return nil, errors.New("time stamp: the authority answered another question")
	}
	_, err = Read(t.RawToken, signature)
	return t.RawToken, err
}

// Read checks that a token is an authority's over a signature, and says what it says.
func Read(token, signature []byte) (Stamp, error) {
	t, err := timestamp.Parse(token)
	if err != nil {
		return Stamp{}, fmt.Errorf("time stamp: %w", err)
	}
	p, err := pkcs7.Parse(token)
	if err != nil {
		return Stamp{}, fmt.Errorf("time stamp: %w", err)
	}
	by := p.GetOnlySigner()
	sum := sha256.Sum256(signature)
	switch {
	case by == nil || p.Verify() != nil || !names(p, by):
		return Stamp{}, errors.New("time stamp: it is not signed with the certificate that it brings")
	case t.HashAlgorithm != crypto.SHA256 || !bytes.Equal(t.HashedMessage, sum[:]):
		return Stamp{}, errors.New("time stamp: it is of another signature")
	case !slices.Equal(by.ExtKeyUsage, []x509.ExtKeyUsage{x509.ExtKeyUsageTimeStamping}): // RFC 3161, 2.3
		return Stamp{}, errors.New("time stamp: its certificate is not for time stamps")
	case t.Time.Before(by.NotBefore) || t.Time.After(by.NotAfter):
		return Stamp{}, errors.New("time stamp: its certificate was not valid then")
	}
	return Stamp{t.Time.UTC(), by}, nil
}

// Signed attributes that name a token's certificate by its digest: nobody else signs what the
// token brings beside (RFC 3161, 2.4.2; RFC 5816).
var (
	oidSigningCertificate   = asn1.ObjectIdentifier{1, 2, 840, 113549, 1, 9, 16, 2, 12} // SHA-1
	oidSigningCertificateV2 = asn1.ObjectIdentifier{1, 2, 840, 113549, 1, 9, 16, 2, 47}
)

// names reports whether a token's signer says by which certificate it signed.
func names(p *pkcs7.PKCS7, by *x509.Certificate) bool {
	var v2 struct {
		Certs []struct {
			Algorithm pkix.AlgorithmIdentifier `asn1:"optional"` // SHA-256 where it is left out
			Hash      []byte
			Issuer    asn1.RawValue `asn1:"optional"`
		}
		Policies asn1.RawValue `asn1:"optional"`
	}
	if p.UnmarshalSignedAttribute(oidSigningCertificateV2, &v2) == nil && len(v2.Certs) > 0 {
		sum := sha256.Sum256(by.Raw)
		algorithm := v2.Certs[0].Algorithm.Algorithm
		return (len(algorithm) == 0 || algorithm.Equal(pkcs7.OIDDigestAlgorithmSHA256)) && bytes.Equal(v2.Certs[0].Hash, sum[:])
	}
	var v1 struct {
		Certs []struct {
			Hash   []byte
			Issuer asn1.RawValue `asn1:"optional"`
		}
		Policies asn1.RawValue `asn1:"optional"`
	}
	if p.UnmarshalSignedAttribute(oidSigningCertificate, &v1) == nil && len(v1.Certs) > 0 {
		sum := sha1.Sum(by.Raw) //nolint:gosec // the older attribute has no other, and a second certificate of one digest is not known to be possible
		return bytes.Equal(v1.Certs[0].Hash, sum[:])
	}
	return false
}
