package document

import (
	"bytes"
	"compress/zlib"
	"errors"
	"io"
	"regexp"
	"strconv"
)

// What reading a PDF takes besides what its streams unpack to, bytes, and how often the
// library holds what it unpacked (measured: 3 times).
const (
	besides   = 20 << 20
	heldTimes = 10.0 / 3
)

var (
	aStream   = regexp.MustCompile(`stream[ \t]*\r?\n`)
	anEscape  = regexp.MustCompile(`#[0-9A-Fa-f]{2}`)
	packing   = regexp.MustCompile(`/(FlateDecode|Fl|LZWDecode|LZW|RunLengthDecode|RL)\b`)
	elsewhere = regexp.MustCompile(`/(Filter|Type|F)\s+\d+\s+\d+\s+R`)
	// Streams that reading unpacks, whatever else they say that they are.
	unpackedToo = regexp.MustCompile(`/(ObjStm|First|XRef|EmbeddedFile|Metadata)\b`)
)

// longestDictionary is how far before a stream its dictionary is looked for, bytes.
const longestDictionary = 16 << 10

var errUnusual = errors.New("the PDF is packed in a way that is not read here; print it to a new PDF")

// takes returns the memory that reading a PDF takes at most, bytes: streams of a few hundred
// bytes can unpack to gigabytes, so they are unpacked here first, into nothing. Pictures stay
// packed when a PDF is read. The error says that it cannot be told.
func takes(pdf []byte) (int64, error) {
	if bytes.Contains(unescaped(pdf), []byte("/Encrypt")) {
		return 0, errors.New("the PDF is encrypted; save it without a password")
	}
	var sum int64
	for _, at := range aStream.FindAllIndex(pdf, -1) {
		if bytes.HasSuffix(pdf[:at[0]], []byte("end")) {
			continue
		}
		head := pdf[max(0, at[0]-longestDictionary):at[0]]
		if i := bytes.LastIndex(head, []byte(" obj")); i >= 0 {
			head = head[i:]
		}
		head = unescaped(head)
		if bytes.Contains(head, []byte("/Image")) && !unpackedToo.Match(head) {
			continue
		}
		filters := packing.FindAll(head, -1)
		if len(filters) > 1 || elsewhere.Match(head) || len(filters) == 1 && !bytes.HasPrefix(filters[0], []byte("/Fl")) {
			return 0, errUnusual
		}
		z, err := zlib.NewReader(bytes.NewReader(pdf[at[1]:]))
		if err != nil {
			continue // not packed so; the library finds it broken, or takes it as it is
		}
		n, _ := io.Copy(io.Discard, io.LimitReader(z, mostUnpacked+1)) // broken at its end: it takes what came before
		if sum += n; sum > mostUnpacked {
			break
		}
	}
	return besides + int64(heldTimes*float64(sum)), nil
}

// mostUnpacked is where unpacking stops: it takes more than there is then.
const mostUnpacked = 64 << 20

// unescaped are bytes of a PDF whose names have no escapes (ISO 32000-1, 7.3.5).
func unescaped(b []byte) []byte {
	return anEscape.ReplaceAllFunc(b, func(e []byte) []byte {
		c, _ := strconv.ParseUint(string(e[1:]), 16, 8)
		return []byte{byte(c)}
	})
}
