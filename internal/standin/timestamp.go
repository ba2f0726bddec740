package standin

import (
	"context"
	"crypto"
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/rand"
	"crypto/x509"
	"crypto/x509/pkix"
	"encoding/asn1"
	"io"
	"math/big"
	"net/http"
	"time"

	"github.com/digitorus/timestamp"
)

// TimeAuthority is a time-stamping authority (RFC 3161) by the clock of this machine, with a
// certificate that it makes itself.
type TimeAuthority struct {
	certificate *x509.Certificate
	private     crypto.Signer
	now         func() time.Time
}

// policy of this authority: made up, under the arc for examples.
var timePolicy = asn1.ObjectIdentifier{2, 999, 1}

// NewTimeAuthority returns an authority that goes by a clock.
func NewTimeAuthority(now func() time.Time) (*TimeAuthority, error) {
	private, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		return nil, err
	}
	usage, err := asn1.Marshal([]asn1.ObjectIdentifier{{1, 3, 6, 1, 5, 5, 7, 3, 8}}) // timeStamping
	if err != nil {
		return nil, err
	}
	at := now()
	template := x509.Certificate{
		SerialNumber: big.NewInt(at.UnixNano()), Subject: pkix.Name{CommonName: "simulated time authority"},
		NotBefore: at.Add(-time.Hour), NotAfter: at.AddDate(10, 0, 0), KeyUsage: x509.KeyUsageDigitalSignature, BasicConstraintsValid: true,
		ExtraExtensions: []pkix.Extension{{Id: asn1.ObjectIdentifier{2, 5, 29, 37}, Critical: true, Value: usage}}, // critical by RFC 3161, 2.3
	}
	raw, err := x509.CreateCertificate(rand.Reader, &template, &template, private.Public(), private)
	if err != nil {
		return nil, err
	}
	certificate, err := x509.ParseCertificate(raw)
	return &TimeAuthority{certificate, private, now}, err
}

// Answer answers a TimeStampReq with a TimeStampResp.
func (a *TimeAuthority) Answer(_ context.Context, query []byte) ([]byte, error) {
	q, err := timestamp.ParseRequest(query)
	if err != nil {
		return timestamp.CreateErrorResponse(timestamp.Rejection, timestamp.BadDataFormat)
	}
	t := timestamp.Timestamp{
		HashAlgorithm: q.HashAlgorithm, HashedMessage: q.HashedMessage, Nonce: q.Nonce, Policy: timePolicy,
		Time: a.now(), AddTSACertificate: q.Certificates,
	}
	return t.CreateResponseWithOpts(a.certificate, a.private, crypto.SHA256)
}

// ServeHTTP answers queries over HTTP (RFC 3161, 3.4).
func (a *TimeAuthority) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	query, err := io.ReadAll(http.MaxBytesReader(w, r.Body, 4096))
	if err != nil {
		http.Error(w, err.Error(), http.StatusBadRequest)
		return
	}
	reply, err := a.Answer(r.Context(), query)
	if err != nil {
		http.Error(w, err.Error(), http.StatusInternalServerError)
		return
	}
	w.Header().Set("Content-Type", "application/timestamp-reply")
	w.Write(reply)
}
