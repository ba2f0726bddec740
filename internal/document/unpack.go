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
	aStream  = regexp.MustCompile(`stream[ \t]*\r?\n`)
	anEscape = regexp.MustCompile(`#[0-9A-Fa-f]{2}`)
	// What hides how a stream is packed, wherever it stands: a filter elsewhere, two of them,
	// or one that is not tried here.
	unusual = regexp.MustCompile(`/Filter[\s\x00]*(%|\d+[\s\x00]+\d+[\s\x00]+R|\[[^\]]*(%|\bR\b|/(Fl|LZW|Run)[^\]]*/(Fl|LZW|Run)))|/LZWDecode|/RunLengthDecode`)
)

// longestDictionary is how far before a stream it is looked for whether it is a picture, bytes.
const longestDictionary = 4 << 10

// leastStream is what any stream may unpack to, bytes. Common practice, no source.
const leastStream = 64 << 10

var errUnusual = errors.New("the PDF is packed in a way that is not read here; print it to a new PDF")

// takes returns the memory that reading a PDF takes at most, bytes, and the most that one
// stream may unpack to: streams of a few hundred bytes can unpack to gigabytes, so they are
// unpacked here first, into nothing. Pictures stay packed when a PDF is read. What only says
// that it is a picture, or cannot be unpacked, counts as the largest of the others, which is
// what the library is held to. The error says that it cannot be told.
func takes(pdf []byte) (need, limit int64, err error) {
	plain := unescaped(pdf)
	if bytes.Contains(plain, []byte("/Encrypt")) {
		return 0, 0, errors.New("the PDF is encrypted; save it without a password")
	}
	if unusual.Match(plain) {
		return 0, 0, errUnusual
	}
	var sum, others int64
	limit = leastStream
	for _, at := range aStream.FindAllIndex(pdf, -1) {
		if bytes.HasSuffix(pdf[:at[0]], []byte("end")) {
			continue
		}
		head := pdf[max(0, at[0]-longestDictionary):at[0]]
		if i := bytes.LastIndex(head, []byte(" obj")); i >= 0 {
			head = head[i:]
		}
		z, err := zlib.NewReader(bytes.NewReader(pdf[at[1]:]))
		if err != nil || bytes.Contains(unescaped(head), []byte("/Image")) {
			others++
			continue
		}
		n, _ := io.Copy(io.Discard, io.LimitReader(z, mostUnpacked+1)) // broken at its end: it takes what came before
		limit = max(limit, n)
		if sum += n; sum > mostUnpacked {
			break
		}
	}
	return besides + int64(heldTimes*float64(sum+others*limit)), limit, nil
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
