package document

import (
	"bytes"
	"crypto/sha256"
	"crypto/x509"
	"encoding/asn1"
	"encoding/hex"
	"errors"
	"fmt"
	"reflect"
	"regexp"
	"slices"
	"strconv"
	"time"
	"unicode/utf16"

	"github.com/smallstep/pkcs7"

	"dogbolt/core/record"
	"dogbolt/internal/stamp"
)

// How much room a PDF has for its signature, bytes: with a chain of four certificates about
// 6,000 are used, and an authority's time stamp with its chain takes as much.
const (
	roomForCMS     = 12_000
	roomForStamped = 24_000
)

// Stamper returns the time stamp of a signature, a TimeStampToken (RFC 3161); nil where there
// is none.
type Stamper func(signature []byte) []byte

// oidTimeStamp is the unsigned attribute that holds the token (RFC 3161, appendix A).
var oidTimeStamp = asn1.ObjectIdentifier{1, 2, 840, 113549, 1, 9, 16, 2, 14}

// oidSigningCertificate is the signed attribute that names the certificate by its digest
// (ESS signing-certificate-v2, RFC 5035).
var oidSigningCertificate = asn1.ObjectIdentifier{1, 2, 840, 113549, 1, 9, 16, 2, 47}

// signingCertificate is the value of that attribute: SHA-256 is the default of its algorithm.
type signingCertificate struct{ Certs []struct{ Hash []byte } }

// Parts of a PDF as the printer writes it.
var (
	atStart   = regexp.MustCompile(`startxref\n(\d+)\n%%EOF\n?$`)
	sizeOf    = regexp.MustCompile(`/Size (\d+)`)
	rootOf    = regexp.MustCompile(`/Root (\d+) 0 R`)
	infoOf    = regexp.MustCompile(`/Info (\d+) 0 R`)
	firstPage = regexp.MustCompile(`/Kids \[(\d+) 0 R`)
	byteRange = regexp.MustCompile(`/ByteRange \[0 (\d{10}) (\d{10}) (\d{10})\]`)
)

// sign adds a signature to a PDF that any reader knows (PAdES baseline B-B, with a time stamp
// B-T, ETSI EN 319 142-1): as an incremental update (ISO 32000-1, 7.5.6) that leaves every
// byte before it as it was.
func sign(pdf []byte, key record.Key, stamp Stamper, by string, at time.Time) ([]byte, error) {
	room := roomForCMS
	if stamp != nil {
		room = roomForStamped
	}
	from := atStart.FindSubmatch(pdf)
	size, root, info, page := number(sizeOf, pdf), number(rootOf, pdf), number(infoOf, pdf), number(firstPage, pdf)
	if from == nil || size == 0 || root == 0 || info == 0 || page == 0 {
		return nil, errors.New("sign the PDF: it is not as the printer writes it")
	}
	if pdf[len(pdf)-1] != '\n' {
		pdf = append(pdf, '\n')
	}
	signature, field := size, size+1
	catalogue, err := object(pdf, root)
	if err != nil {
		return nil, err
	}
	sheet, err := object(pdf, page)
	if err != nil {
		return nil, err
	}
	out := bytes.NewBuffer(bytes.Clone(pdf))
	places := map[int]int{}
	put := func(n int, body string) {
		places[n] = out.Len()
		fmt.Fprintf(out, "%d 0 obj\n%s\nendobj\n", n, body)
	}
	put(root, with(catalogue, fmt.Sprintf("/AcroForm <</Fields [%d 0 R] /SigFlags 3>>", field)))
	put(page, with(sheet, fmt.Sprintf("/Annots [%d 0 R]", field)))
	put(field, fmt.Sprintf("<</Type /Annot /Subtype /Widget /FT /Sig /T (seal) /V %d 0 R /F 132 /Rect [0 0 0 0] /P %d 0 R>>", signature, page))
	put(signature, fmt.Sprintf("<</Type /Sig /Filter /Adobe.PPKLite /SubFilter /ETSI.CAdES.detached /Name %s /M (D:%s+00'00') %s /Contents <%s>>>",
		textString(by), at.UTC().Format("20060102150405"), rangeOf(0, 0, 0), bytes.Repeat([]byte("0"), 2*room)))
	start := out.Len()
	fmt.Fprint(out, "xref\n")
	for _, n := range []int{min(page, root), max(page, root)} {
		fmt.Fprintf(out, "%d 1\n%010d 00000 n \n", n, places[n])
	}
	fmt.Fprintf(out, "%d 2\n%010d 00000 n \n%010d 00000 n \n", signature, places[signature], places[field])
	fmt.Fprintf(out, "trailer\n<<\n/Size %d\n/Root %d 0 R\n/Info %d 0 R\n/Prev %s\n>>\nstartxref\n%d\n%%%%EOF\n", field+1, root, info, from[1], start)
	return fill(out.Bytes(), places[signature], room, key, stamp)
}

// rangeOf says which bytes a signature is over: up to its room, and so many from its end on.
func rangeOf(open, end, rest int) string {
	return fmt.Sprintf("/ByteRange [0 %010d %010d %010d]", open, end, rest)
}

// fill puts the signature into the room that was left for it, in the object at a place.
func fill(pdf []byte, place, room int, key record.Key, stamp Stamper) ([]byte, error) {
	open := place + bytes.Index(pdf[place:], []byte("/Contents <")) + len("/Contents ")
	end := open + 2*room + 2
	r := byteRange.FindIndex(pdf[place:])
	copy(pdf[place+r[0]:], rangeOf(open, end, len(pdf)-end))
	cms, err := cmsOver(append(bytes.Clone(pdf[:open]), pdf[end:]...), key, stamp)
	if err != nil {
		return nil, err
	}
	if len(cms) > room {
		return nil, fmt.Errorf("sign the PDF: the signature has %d bytes, there is room for %d", len(cms), room)
	}
	copy(pdf[open+1:], hex.EncodeToString(cms))
	return pdf, nil
}

// cmsOver is a detached signature over bytes (CMS, RFC 5652), with the signer's certificates
// and a time stamp of it.
func cmsOver(signed []byte, key record.Key, stamp Stamper) ([]byte, error) {
	data, err := pkcs7.NewSignedData(signed)
	if err != nil {
		return nil, fmt.Errorf("sign the PDF: %w", err)
	}
	data.SetDigestAlgorithm(pkcs7.OIDDigestAlgorithmSHA256)
	sum := sha256.Sum256(key.Certificate.Raw)
	own := pkcs7.Attribute{Type: oidSigningCertificate, Value: signingCertificate{[]struct{ Hash []byte }{{sum[:]}}}}
	if err := data.AddSignerChain(key.Certificate, key.Private, key.Chain, pkcs7.SignerInfoConfig{ExtraSignedAttributes: []pkcs7.Attribute{own}}); err != nil {
		return nil, fmt.Errorf("sign the PDF: %w", err)
	}
	if stamp != nil {
		signer := &data.GetSignedData().SignerInfos[0]
		if token := stamp(signer.EncryptedDigest); token != nil {
			held := pkcs7.Attribute{Type: oidTimeStamp, Value: asn1.RawValue{FullBytes: token}}
			if err := signer.SetUnauthenticatedAttributes([]pkcs7.Attribute{held}); err != nil {
				return nil, fmt.Errorf("sign the PDF: %w", err)
			}
		}
	}
	data.Detach()
	return data.Finish()
}

// checkSigned returns the certificate of the signature over the whole of a PDF, and its time
// stamp, nil for none. The error says why there is none that is good.
func checkSigned(pdf []byte) (*x509.Certificate, *stamp.Stamp, error) {
	all := byteRange.FindAllSubmatch(pdf, -1)
	if all == nil {
		return nil, nil, errors.New("this PDF carries no seal, or its seal was cut off or damaged")
	}
	r := all[len(all)-1]
	open, _ := strconv.Atoi(string(r[1]))
	end, _ := strconv.Atoi(string(r[2]))
	rest, _ := strconv.Atoi(string(r[3]))
	fits := end == open+2*roomForCMS+2 || end == open+2*roomForStamped+2
	if open < 1 || !fits || end > len(pdf) || end+rest != len(pdf) || pdf[open] != '<' || pdf[end-1] != '>' {
		return nil, nil, errors.New("the PDF was changed after it was sealed: its seal is not over the whole of it")
	}
	written := pdf[open+1 : end-1]
	room, err := hex.DecodeString(string(written))
	if err != nil || hex.EncodeToString(room) != string(written) {
		return nil, nil, errChanged
	}
	var der asn1.RawValue
	after, err := asn1.Unmarshal(room, &der)
	if err != nil || len(bytes.Trim(after, "\x00")) > 0 {
		return nil, nil, errChanged
	}
	return checkCMS(der.FullBytes, append(bytes.Clone(pdf[:open]), pdf[end:]...))
}

var errChanged = errors.New("the PDF was changed after it was sealed")

// checkCMS returns the certificate of a detached signature over bytes, as cmsOver makes it,
// and its time stamp, nil for none.
func checkCMS(cms, signed []byte) (*x509.Certificate, *stamp.Stamp, error) {
	p, err := pkcs7.Parse(cms)
	if err != nil {
		return nil, nil, errChanged
	}
	p.Content = signed
	if len(p.Signers) != 1 || p.Verify() != nil {
		return nil, nil, errChanged
	}
	certificate := p.GetOnlySigner()
	var own signingCertificate
	if certificate == nil || p.UnmarshalSignedAttribute(oidSigningCertificate, &own) != nil || len(own.Certs) != 1 {
		return nil, nil, errChanged
	}
	unsigned, ok := asMade(cms, p.Certificates)
	if sum := sha256.Sum256(certificate.Raw); !bytes.Equal(sum[:], own.Certs[0].Hash) || !ok {
		return nil, nil, errChanged
	}
	if len(unsigned) == 0 {
		return certificate, nil, nil
	}
	at, err := stampOf(unsigned, p.Signers[0].EncryptedDigest)
	return certificate, at, err
}

// stampOf reads the time stamp of a signature from its unsigned attributes, which hold
// nothing else.
func stampOf(attributes, signature []byte) (*stamp.Stamp, error) {
	var held struct {
		Type  asn1.ObjectIdentifier
		Value []asn1.RawValue `asn1:"set"`
	}
	if rest, err := asn1.Unmarshal(attributes, &held); err != nil || len(rest) > 0 || !held.Type.Equal(oidTimeStamp) || len(held.Value) != 1 {
		return nil, errChanged
	}
	at, err := stamp.Read(held.Value[0].FullBytes, signature)
	if err != nil {
		return nil, errChanged
	}
	return &at, nil
}

// Parts of a CMS that no signature is over, as cmsOver makes them: SHA-256, its digests, and
// content that is elsewhere.
var (
	sha256Alone  = []byte("\x30\x0b\x06\x09\x60\x86\x48\x01\x65\x03\x04\x02\x01")
	sha256Set    = append([]byte("\x31\x0d"), sha256Alone...)
	noData       = []byte("\x30\x0b\x06\x09\x2a\x86\x48\x86\xf7\x0d\x01\x07\x01")
	ecdsaSHA256  = []byte("\x30\x0a\x06\x08\x2a\x86\x48\xce\x3d\x04\x03\x02")
	rsaWithNull  = []byte("\x30\x0d\x06\x09\x2a\x86\x48\x86\xf7\x0d\x01\x01\x0b\x05\x00")
	rsaPlain     = []byte("\x30\x0b\x06\x09\x2a\x86\x48\x86\xf7\x0d\x01\x01\x0b")
	oidSignedCMS = asn1.ObjectIdentifier{1, 2, 840, 113549, 1, 7, 2}
)

// asMade reports whether what no signature is over is as cmsOver makes it, so that one changed
// byte of a CMS is found wherever it is, and returns the unsigned attributes.
func asMade(cms []byte, certificates []*x509.Certificate) (unsigned []byte, ok bool) {
	var outer struct {
		Type    asn1.ObjectIdentifier
		Content asn1.RawValue
	}
	var data struct {
		Version               int
		Digests, Content      asn1.RawValue
		Certificates, Signers asn1.RawValue
	}
	var signer struct {
		Version                               int
		Issuer, Digest, Attributes, Algorithm asn1.RawValue
		Signature                             []byte
		Unsigned                              asn1.RawValue `asn1:"optional,tag:1"`
	}
	var chain []byte
	for i, c := range certificates {
		if i > 0 && certificates[i-1].CheckSignatureFrom(c) != nil {
			return nil, false
		}
		chain = append(chain, c.Raw...)
	}
	exact := func(b []byte, into any) bool {
		rest, err := asn1.Unmarshal(b, into)
		if err != nil || len(rest) > 0 {
			return false
		}
		again, err := asn1.Marshal(reflect.ValueOf(into).Elem().Interface())
		return err == nil && bytes.Equal(again, b)
	}
	ok = exact(cms, &outer) && outer.Type.Equal(oidSignedCMS) &&
		exact(outer.Content.Bytes, &data) && data.Version == 1 && bytes.Equal(data.Digests.FullBytes, sha256Set) &&
		bytes.Equal(data.Content.FullBytes, noData) && bytes.Equal(data.Certificates.Bytes, chain) &&
		exact(data.Signers.Bytes, &signer) && signer.Version == 1 && bytes.Equal(signer.Digest.FullBytes, sha256Alone) &&
		slices.ContainsFunc([][]byte{ecdsaSHA256, rsaWithNull, rsaPlain}, func(a []byte) bool { return bytes.Equal(a, signer.Algorithm.FullBytes) })
	if u := signer.Unsigned; len(u.FullBytes) > 0 {
		ok = ok && u.Class == asn1.ClassContextSpecific && u.Tag == 1 && u.IsCompound
	}
	return signer.Unsigned.Bytes, ok
}

// number is the first number that an expression finds at the end of a PDF or in it; 0 for none.
func number(re *regexp.Regexp, pdf []byte) int {
	m := re.FindSubmatch(pdf)
	if m == nil {
		return 0
	}
	n, _ := strconv.Atoi(string(m[1]))
	return n
}

// object returns the dictionary of an object of a PDF.
func object(pdf []byte, n int) (string, error) {
	begin := []byte(fmt.Sprintf("\n%d 0 obj\n", n))
	i := bytes.Index(pdf, begin)
	if i < 0 {
		return "", fmt.Errorf("sign the PDF: it has no object %d", n)
	}
	body := pdf[i+len(begin):]
	end := bytes.Index(body, []byte("\nendobj"))
	if end < 0 {
		return "", fmt.Errorf("sign the PDF: object %d has no end", n)
	}
	return string(body[:end]), nil
}

// with adds an entry to a dictionary.
func with(dictionary, entry string) string {
	i := len(dictionary) - len(">>")
	return dictionary[:i] + entry + "\n" + dictionary[i:]
}

// textString is text as a PDF has it: UTF-16, in hex.
func textString(s string) string {
	out := "<FEFF"
	for _, u := range utf16.Encode([]rune(s)) {
		out += fmt.Sprintf("%04X", u)
	}
	return out + ">"
}
