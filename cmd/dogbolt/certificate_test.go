package main

import (
	"crypto/x509"
	"encoding/pem"
	"errors"
	"os"
	"path/filepath"
	"testing"
	"time"

	"dogbolt/internal/keyring"
)

// TestCertificateRenewed: a certificate that was renewed is taken without a restart, and one
// that is half written is not.
func TestCertificateRenewed(t *testing.T) {
	folder := t.TempDir()
	file, key := filepath.Join(folder, "cert.pem"), filepath.Join(folder, "key.pem")
	written := time.Now().Add(-time.Hour)
	write := func(name string) {
		t.Helper()
		made, err := keyring.New(name, time.Now())
		if err != nil {
			t.Fatal(err)
		}
		secret, err := x509.MarshalPKCS8PrivateKey(made.Private)
		if err != nil {
			t.Fatal(err)
		}
		written = written.Add(time.Minute)
		err = errors.Join(
			os.WriteFile(file, pem.EncodeToMemory(&pem.Block{Type: "CERTIFICATE", Bytes: made.Certificate.Raw}), 0o600),
			os.WriteFile(key, pem.EncodeToMemory(&pem.Block{Type: "PRIVATE KEY", Bytes: secret}), 0o600),
			os.Chtimes(file, written, written), os.Chtimes(key, written, written),
		)
		if err != nil {
			t.Fatal(err)
		}
	}
	if _, err := newCertificate(file, key); err == nil {
		t.Error("no certificate is there")
	}
	write("first")
	c, err := newCertificate(file, key)
	if err != nil {
		t.Fatal(err)
	}
	is := func(want string) {
		t.Helper()
		got, err := c.get(nil)
		if err != nil || got.Leaf.Subject.CommonName != want {
			t.Errorf("%v %v, want %s", got.Leaf.Subject, err, want)
		}
	}
	is("first")
	write("second")
	is("second")
	if err := os.WriteFile(file, []byte("half"), 0o600); err != nil {
		t.Fatal(err)
	}
	is("second")
	if err := os.Remove(key); err != nil {
		t.Fatal(err)
	}
	is("second")
	write("third")
	is("third")
}
