// Package keyring keeps the key that a firm seals with: in a file of its own, outside the
// database, as PKCS#12 (RFC 7292), which programs for certificates read and write.
package keyring

import (
	"crypto"
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/rand"
	"crypto/x509"
	"crypto/x509/pkix"
	"errors"
	"fmt"
	"io/fs"
	"math/big"
	"os"
	"path/filepath"
	"time"

	"software.sslmate.com/src/go-pkcs12"

	"dogbolt/core/record"
)

// lasts is how long a certificate is good that the program makes: longer than records are
// kept. Common practice, no source.
const lasts = 30 * 365 * 24 * time.Hour

// Ring is where a firm's key is.
type Ring struct {
	File       string
	Passphrase string
}

// Load reads the key; fs.ErrNotExist where there is none.
func (r Ring) Load() (record.Key, error) {
	b, err := os.ReadFile(r.File)
	if err != nil {
		return record.Key{}, err
	}
	return Read(b, r.Passphrase)
}

// Read reads a key from PKCS#12.
func Read(b []byte, passphrase string) (record.Key, error) {
	private, certificate, chain, err := pkcs12.DecodeChain(b, passphrase)
	if errors.Is(err, pkcs12.ErrIncorrectPassword) {
		return record.Key{}, errors.New("the passphrase of the sealing key is wrong")
	}
	if err != nil {
		return record.Key{}, fmt.Errorf("the sealing key cannot be read: %w", err)
	}
	signer, ok := private.(crypto.Signer)
	if !ok {
		return record.Key{}, errors.New("the sealing key cannot sign")
	}
	return record.Key{Private: signer, Certificate: certificate, Chain: chain}, nil
}

// New makes a key on P-256 with a certificate that it signs itself.
func New(firm string, now time.Time) (record.Key, error) {
	private, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		return record.Key{}, err
	}
	serial, err := rand.Int(rand.Reader, new(big.Int).Lsh(big.NewInt(1), 127))
	if err != nil {
		return record.Key{}, err
	}
	name := pkix.Name{CommonName: firm, Organization: []string{firm}}
	template := x509.Certificate{
		SerialNumber: serial.Add(serial, big.NewInt(1)), Subject: name, NotBefore: now.Add(-time.Hour), NotAfter: now.Add(lasts),
		KeyUsage: x509.KeyUsageDigitalSignature | x509.KeyUsageContentCommitment, BasicConstraintsValid: true,
	}
	raw, err := x509.CreateCertificate(rand.Reader, &template, &template, private.Public(), private)
	if err != nil {
		return record.Key{}, err
	}
	certificate, err := x509.ParseCertificate(raw)
	return record.Key{Private: private, Certificate: certificate}, err
}

// Save writes a key, whole or not at all. One that is there is kept beside it, with the time.
func (r Ring) Save(k record.Key, now time.Time) error {
	b, err := pkcs12.Modern.Encode(k.Private, k.Certificate, k.Chain, r.Passphrase)
	if err != nil {
		return fmt.Errorf("the sealing key: %w", err)
	}
	if err := os.MkdirAll(filepath.Dir(r.File), 0o700); err != nil {
		return err
	}
	if _, err := os.Stat(r.File); !errors.Is(err, fs.ErrNotExist) {
		if err := os.Rename(r.File, r.File+now.UTC().Format(".20060102T150405")); err != nil {
			return err
		}
	}
	part := r.File + ".part"
	if err := os.WriteFile(part, b, 0o600); err != nil {
		return err
	}
	return os.Rename(part, r.File)
}
