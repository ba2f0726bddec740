package stamp_test

import (
	"context"
	"crypto"
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/rand"
	"crypto/x509"
	"crypto/x509/pkix"
	"encoding/pem"
	"errors"
	"math/big"
	"net/http"
	"net/http/httptest"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/digitorus/timestamp"

	"dogbolt/internal/stamp"
	"dogbolt/internal/standin"
)

var (
	ctx       = context.Background()
	signature = []byte("a signature")
	noon      = time.Date(2026, 5, 4, 12, 0, 0, 0, time.UTC)
)

func authority(t *testing.T) *standin.TimeAuthority {
	t.Helper()
	a, err := standin.NewTimeAuthority(func() time.Time { return noon })
	if err != nil {
		t.Fatal(err)
	}
	return a
}

// TestOverHTTP: a stamp is asked for over HTTP (RFC 3161, 3.4) and says the authority's time.
func TestOverHTTP(t *testing.T) {
	srv := httptest.NewServer(authority(t))
	defer srv.Close()
	token, err := stamp.Of(ctx, stamp.At(srv.URL), signature)
	if err != nil {
		t.Fatal(err)
	}
	s, err := stamp.Read(token, signature)
	if err != nil || !s.At.Equal(noon) || s.By.Subject.CommonName != "simulated time authority" {
		t.Errorf("%+v %v", s, err)
	}
	if _, err := stamp.Read(token, []byte("another signature")); err == nil {
		t.Error("it is taken for another signature")
	}
}

// TestOpenSSL: another program verifies the token. Source: openssl ts, RFC 3161.
func TestOpenSSL(t *testing.T) {
	path, err := exec.LookPath("openssl")
	if err != nil {
		t.Skip("openssl is not here")
	}
	a, err := standin.NewTimeAuthority(time.Now) // openssl asks whether the certificate is good today
	if err != nil {
		t.Fatal(err)
	}
	token, err := stamp.Of(ctx, a, signature)
	if err != nil {
		t.Fatal(err)
	}
	s, err := stamp.Read(token, signature)
	if err != nil {
		t.Fatal(err)
	}
	dir := t.TempDir()
	file := func(name string, b []byte) string {
		p := filepath.Join(dir, name)
		if err := os.WriteFile(p, b, 0o600); err != nil {
			t.Fatal(err)
		}
		return p
	}
	in, ca := file("token.der", token), file("ca.pem", pem.EncodeToMemory(&pem.Block{Type: "CERTIFICATE", Bytes: s.By.Raw}))
	for data, want := range map[string]string{"a signature": "Verification: OK", "another": "Verification: FAILED"} {
		out, _ := exec.Command(path, "ts", "-verify", "-data", file("data", []byte(data)), "-in", in, "-token_in", "-CAfile", ca).CombinedOutput()
		if !strings.Contains(string(out), want) {
			t.Errorf("%s: openssl does not say %q:\n%s", data, want, out)
		}
	}
}

// answers is an authority that answers in its own way.
type answers func(query []byte) ([]byte, error)

func (a answers) Answer(_ context.Context, query []byte) ([]byte, error) { return a(query) }

// signed is an authority with a certificate of a given use and time, whose reply is changed by f.
func signed(t *testing.T, usage []x509.ExtKeyUsage, from, until time.Time, f func(*timestamp.Timestamp)) answers {
	t.Helper()
	private, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		t.Fatal(err)
	}
	template := x509.Certificate{SerialNumber: big.NewInt(1), Subject: pkix.Name{CommonName: "somebody"}, NotBefore: from, NotAfter: until, ExtKeyUsage: usage}
	raw, err := x509.CreateCertificate(rand.Reader, &template, &template, private.Public(), private)
	if err != nil {
		t.Fatal(err)
	}
	certificate, err := x509.ParseCertificate(raw)
	if err != nil {
		t.Fatal(err)
	}
	return func(query []byte) ([]byte, error) {
		q, err := timestamp.ParseRequest(query)
		if err != nil {
			return nil, err
		}
		ts := &timestamp.Timestamp{HashAlgorithm: q.HashAlgorithm, HashedMessage: q.HashedMessage, Nonce: q.Nonce, Policy: []int{2, 999, 1}, Time: noon, AddTSACertificate: true}
		f(ts)
		return ts.CreateResponseWithOpts(certificate, private, crypto.SHA256)
	}
}

// TestRefused: what is no stamp of this signature by an authority for time stamps.
func TestRefused(t *testing.T) {
	forStamps := []x509.ExtKeyUsage{x509.ExtKeyUsageTimeStamping}
	before, later := noon.AddDate(-2, 0, 0), time.Now().AddDate(1, 0, 0)
	as := func(*timestamp.Timestamp) {}
	if _, err := stamp.Of(ctx, signed(t, forStamps, before, later, as), signature); err != nil {
		t.Fatalf("the sound one: %v", err)
	}
	cases := []struct {
		name string
		by   stamp.Authority
		says string
	}{
		{"of another signature", signed(t, forStamps, before, later, func(s *timestamp.Timestamp) { s.HashedMessage[0]++ }), "another signature"},
		{"an old answer", signed(t, forStamps, before, later, func(s *timestamp.Timestamp) { s.Nonce = big.NewInt(7) }), "another question"},
		{"no nonce", signed(t, forStamps, before, later, func(s *timestamp.Timestamp) { s.Nonce = nil }), "another question"},
		{"without its certificate", signed(t, forStamps, before, later, func(s *timestamp.Timestamp) { s.AddTSACertificate = false }), "certificate"},
		{"a certificate for mail", signed(t, []x509.ExtKeyUsage{x509.ExtKeyUsageEmailProtection}, before, later, as), "not for time stamps"},
		{"a certificate for stamps and more", signed(t, []x509.ExtKeyUsage{x509.ExtKeyUsageTimeStamping, x509.ExtKeyUsageCodeSigning}, before, later, as), "not for time stamps"},
		{"a certificate that ended", signed(t, forStamps, before, noon.AddDate(-1, 0, 0), as), "validity"},
		{"a certificate of later", signed(t, forStamps, time.Now().Add(-time.Hour), later, as), "not valid then"},
		{"a refusal", answers(func([]byte) ([]byte, error) {
			return timestamp.CreateErrorResponse(timestamp.Rejection, timestamp.BadAlgorithm)
		}), "refuses"},
		{"no answer", answers(func([]byte) ([]byte, error) { return nil, errors.New("nobody there") }), "nobody there"},
		{"nonsense", answers(func([]byte) ([]byte, error) { return []byte("<html>"), nil }), "refuses"},
	}
	for _, c := range cases {
		if _, err := stamp.Of(ctx, c.by, signature); err == nil || !strings.Contains(err.Error(), c.says) {
			t.Errorf("%s: %v", c.name, err)
		}
	}
	srv := httptest.NewServer(http.NotFoundHandler())
	defer srv.Close()
	if _, err := stamp.Of(ctx, stamp.At(srv.URL), signature); err == nil || !strings.Contains(err.Error(), "404") {
		t.Errorf("no such page: %v", err)
	}
}
