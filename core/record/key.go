package record

import (
	"bytes"
	"crypto"
	"crypto/ecdsa"
	"crypto/ed25519"
	"crypto/rsa"
	"crypto/sha256"
	"crypto/x509"
	"encoding/base64"
	"encoding/hex"
	"errors"
	"fmt"

	"github.com/go-jose/go-jose/v4"
)

// Key is what a firm seals with: a private key on P-256, or RSA, and its certificate, which
// readers of PDF know. Others that sign it follow.
type Key struct {
	Private     crypto.Signer
	Certificate *x509.Certificate
	Chain       []*x509.Certificate
}

// Public is the key that a record is checked with: its SubjectPublicKeyInfo (RFC 5280),
// base64.
func (k Key) Public() string {
	return base64.StdEncoding.EncodeToString(k.Certificate.RawSubjectPublicKeyInfo)
}

// algorithms are those that this program signs with and takes (RFC 7518).
var algorithms = []jose.SignatureAlgorithm{jose.ES256, jose.RS256}

// algorithm is what the key signs with.
func (k Key) algorithm() (jose.SignatureAlgorithm, error) {
	switch p := k.Private.Public().(type) {
	case *ecdsa.PublicKey:
		if p.Curve.Params().BitSize == 256 {
			return jose.ES256, nil
		}
	case *rsa.PublicKey:
		if p.N.BitLen() >= 2048 {
			return jose.RS256, nil
		}
	}
	return "", errors.New("the sealing key is neither on P-256 nor RSA of 2048 bits and more: readers of PDF do not know it")
}

// thumbprint is the name of the header that holds a certificate's digest (RFC 7515, 4.1.8).
const thumbprint = "x5t#S256"

func thumbprintOf(certificate []byte) string {
	sum := sha256.Sum256(certificate)
	return base64.RawURLEncoding.EncodeToString(sum[:])
}

// SealBytes seals bytes in canonical form: their digest, and a detached JSON Web Signature
// over them (RFC 7515, appendix F) whose header names the certificate by its digest.
func (k Key) SealBytes(canonical []byte) (Seal, error) {
	alg, err := k.algorithm()
	if err != nil {
		return Seal{}, err
	}
	options := (&jose.SignerOptions{}).WithHeader(thumbprint, thumbprintOf(k.Certificate.Raw))
	signer, err := jose.NewSigner(jose.SigningKey{Algorithm: alg, Key: k.Private}, options)
	if err != nil {
		return Seal{}, fmt.Errorf("seal: %w", err)
	}
	signed, err := signer.Sign(canonical)
	if err != nil {
		return Seal{}, fmt.Errorf("seal: %w", err)
	}
	jws, err := signed.DetachedCompactSerialize()
	if err != nil {
		return Seal{}, fmt.Errorf("seal: %w", err)
	}
	digest := sha256.Sum256(canonical)
	return Seal{Digest: hex.EncodeToString(digest[:]), JWS: jws, Key: k.Public(), Certificate: base64.StdEncoding.EncodeToString(k.Certificate.Raw)}, nil
}

// Check reports why a seal is not of bytes in canonical form, or nil. It does not say whose
// key it is.
func (s Seal) Check(canonical []byte) error {
	digest := sha256.Sum256(canonical)
	if hex.EncodeToString(digest[:]) != s.Digest {
		return errors.New("its digest does not agree")
	}
	public, ok := decode(s.Key)
	if !ok {
		return errNotSigned
	}
	if s.JWS == "" { // of a program before there were certificates
		if sig, ok := decode(s.Signature); !ok || len(public) != ed25519.PublicKeySize || !ed25519.Verify(public, digest[:], sig) {
			return errNotSigned
		}
		return nil
	}
	raw, ok := decode(s.Certificate)
	if !ok || s.Signature != "" {
		return errNotSigned
	}
	certificate, err := x509.ParseCertificate(raw)
	if err != nil || !bytes.Equal(certificate.RawSubjectPublicKeyInfo, public) {
		return errors.New("the seal's certificate is of another key")
	}
	signed, err := jose.ParseDetached(s.JWS, canonical, algorithms)
	if err != nil {
		return errNotSigned
	}
	// The same signature in another spelling is not what was sealed.
	if again, err := signed.DetachedCompactSerialize(); err != nil || again != s.JWS {
		return errNotSigned
	}
	if signed.Signatures[0].Protected.ExtraHeaders[thumbprint] != thumbprintOf(raw) {
		return errors.New("the seal's certificate is not the one that it was signed with")
	}
	if _, err := signed.Verify(certificate.PublicKey); err != nil {
		return errNotSigned
	}
	return nil
}

var errNotSigned = errors.New("the seal's signature does not agree with its key")
