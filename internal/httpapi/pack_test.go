package httpapi

import (
	"bytes"
	"compress/gzip"
	"fmt"
	"io"
	"math/rand/v2"
	"net/http/httptest"
	"sync"
	"testing"
)

// TestPacker: what is packed is what came, in whatever parts it came and however large it is,
// by another program's gzip; and an answer with a tag is packed once.
func TestPacker(t *testing.T) {
	pack := func(tag string, parts [][]byte, flushed int) []byte {
		to := httptest.NewRecorder()
		to.Header().Set("ETag", tag)
		out := to.Body
		w := newPacker(to, 6)
		for i, b := range parts {
			if n, err := w.Write(b); n != len(b) || err != nil {
				t.Fatal(n, err)
			}
			if i == flushed {
				if err := w.Flush(); err != nil || out.Len() == 0 {
					t.Fatalf("%d bytes are out, %v", out.Len(), err)
				}
			}
		}
		if err := w.Close(); err != nil {
			t.Fatal(err)
		}
		return out.Bytes()
	}
	var all sync.WaitGroup
	for seed := range uint64(40) {
		all.Go(func() {
			r := rand.New(rand.NewPCG(seed, 0))
			sizes := []int{0, 1, 1400, 90_000, largestPacked - 1, largestPacked, largestPacked + 1, 3 * largestPacked}
			whole := bytes.Repeat([]byte{byte(seed)}, sizes[seed%8])
			var parts [][]byte
			for rest := whole; len(rest) > 0; {
				n := 1 + r.IntN(len(rest))
				parts, rest = append(parts, rest[:n]), rest[n:]
			}
			for i, flushed := range []int{-1, -1, 0, -1} {
				tag := fmt.Sprint(seed)
				if i == 3 {
					tag = ""
				}
				z, err := gzip.NewReader(bytes.NewReader(pack(tag, parts, flushed)))
				if err != nil {
					t.Error(err)
					return
				}
				if got, err := io.ReadAll(z); err != nil || !bytes.Equal(got, whole) {
					t.Errorf("seed %d: %d bytes of %d, %v", seed, len(got), len(whole), err)
				}
			}
		})
	}
	all.Wait()
	packed.Purge()
	once := [][]byte{[]byte("the same answer")}
	pack("one", once, -1)
	pack("one", once, -1)
	pack("two", [][]byte{[]byte("another")}, -1)
	pack("three", [][]byte{make([]byte, largestPacked+1)}, -1)
	pack("", once, -1)
	if packed.Len() != 2 {
		t.Errorf("%d answers are kept, of two small ones with a tag", packed.Len())
	}
	for i := range 3 * mostPacked {
		pack(fmt.Sprint("tag ", i), once, -1)
	}
	if packed.Len() != mostPacked {
		t.Errorf("%d answers are kept, at most %d should be", packed.Len(), mostPacked)
	}
}
