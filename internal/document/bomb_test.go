package document

import (
	"bytes"
	"compress/zlib"
	"fmt"
	"os"
	"strings"
	"sync"
	"testing"

	"dogbolt/internal/testkit/resident"
)

// bomb is a PDF of a few hundred kB whose streams unpack to more than there is: so many object
// streams of so many bytes each, packed as often as their filter says.
func bomb(t *testing.T, streams, each int, filter string) []byte {
	t.Helper()
	var b bytes.Buffer
	b.WriteString("%PDF-1.7\n")
	at := map[int]int{}
	put := func(n int, dictionary string, stream []byte) {
		at[n] = b.Len()
		fmt.Fprintf(&b, "%d 0 obj\n<<%s", n, dictionary)
		if stream != nil {
			fmt.Fprintf(&b, " /Length %d>>\nstream\n%s\nendstream\nendobj\n", len(stream), stream)
			return
		}
		b.WriteString(">>\nendobj\n")
	}
	packed := func(head string, size int) []byte {
		var z bytes.Buffer
		w := zlib.NewWriter(&z)
		w.Write([]byte(head))
		w.Write(bytes.Repeat([]byte(" "), size))
		w.Close()
		if strings.HasPrefix(filter, "[") {
			var twice bytes.Buffer
			w := zlib.NewWriter(&twice)
			w.Write(z.Bytes())
			w.Close()
			return twice.Bytes()
		}
		return z.Bytes()
	}
	put(1, "/Type /Catalog /Pages 2 0 R", nil)
	const first = 3
	var kids strings.Builder
	for i := range streams {
		fmt.Fprintf(&kids, "%d 0 R ", first+streams+i)
	}
	put(2, fmt.Sprintf("/Type /Pages /Count %d /Kids [%s]", streams, kids.String()), nil)
	for i := range streams { // the object stream i holds the object first+streams+i
		head := fmt.Sprintf("%d 0 ", first+streams+i)
		put(first+i, fmt.Sprintf("/Type /ObjStm /N 1 /First %d /Filter %s", len(head), filter), packed(head+"<</Type /Page /Parent 2 0 R /MediaBox [0 0 100 100]>>", each))
	}
	last := first + 2*streams
	// A cross-reference stream, 1 + 4 + 2 bytes an entry (ISO 32000-1, 7.5.8).
	start := b.Len()
	at[last] = start
	var x bytes.Buffer
	entry := func(kind byte, second, third int) {
		x.Write([]byte{kind, byte(second >> 24), byte(second >> 16), byte(second >> 8), byte(second), byte(third >> 8), byte(third)})
	}
	entry(0, 0, 65535)
	for n := 1; n <= last; n++ {
		if n >= first+streams && n < last {
			entry(2, n-streams, 0)
		} else {
			entry(1, at[n], 0)
		}
	}
	put(last, fmt.Sprintf("/Type /XRef /Size %d /W [1 4 2] /Root 1 0 R", last+1), x.Bytes())
	fmt.Fprintf(&b, "startxref\n%d\n%%%%EOF\n", start)
	return b.Bytes()
}

// honest is a stream that says what it is, and unpacks to 15 MB.
func honest(t *testing.T) []byte {
	t.Helper()
	b := bomb(t, 1, 15<<20, "/FlateDecode")
	return b[bytes.Index(b, []byte("3 0 obj")):]
}

// TestPDFMemory: PDFs of a few hundred kB that unpack to much more, four at once, take less than 200 MB
// more than the program, by the process's own figures.
func TestPDFMemory(t *testing.T) {
	piece := resident.Of(t, func(file string) {
		data, err := os.ReadFile(file)
		if err != nil {
			t.Fatal(err)
		}
		var all sync.WaitGroup
		for i := range 4 {
			all.Go(func() {
				n, err := Pages(t.Context(), fmt.Sprint(i), data)
				fmt.Println("pages:", n, err)
			})
		}
		all.Wait()
	})
	for name, c := range map[string]struct {
		pdf   []byte
		opens bool
	}{
		"ordinary":                       {bomb(t, 4, 1000, "/FlateDecode"), true},
		"as much as fits":                {bomb(t, 36, 1<<20, "/FlateDecode"), true},
		"one stream":                     {bomb(t, 1, 100<<20, "/FlateDecode"), false},
		"many":                           {bomb(t, 8, 15<<20, "/FlateDecode"), false},
		"very many":                      {bomb(t, 150, 1<<20, "/FlateDecode"), false},
		"escaped name":                   {bomb(t, 8, 15<<20, "/Fl#61teDecode"), false},
		"packed twice":                   {bomb(t, 8, 15<<20, "[/FlateDecode /FlateDecode]"), false},
		"filter elsewhere":               {bomb(t, 8, 15<<20, "9 0 R"), false},
		"as a picture":                   {bomb(t, 8, 15<<20, "/FlateDecode /Subtype/Image"), false},
		"a string like an object":        {bomb(t, 8, 15<<20, "/FlateDecode /S ( obj) /Subtype/Image"), false},
		"a picture, far from its kind":   {bomb(t, 8, 15<<20, "/FlateDecode "+strings.Repeat(" ", 20_000)+"/Subtype/Image"), false},
		"one honest, others as pictures": {append(bomb(t, 8, 15<<20, "/FlateDecode /Subtype/Image"), honest(t)...), false},
		"twice, with a comment":          {bomb(t, 8, 15<<20, "[/FlateDecode %]\n /FlateDecode]"), false},
		"encrypted":                      {bytes.Replace(bomb(t, 4, 1000, "/FlateDecode"), []byte("/Root 1 0 R"), []byte("/Root 1 0 R /Encr#79pt 1 0 R"), 1), false},
	} {
		file := t.TempDir() + "/file.pdf"
		if err := os.WriteFile(file, c.pdf, 0o600); err != nil {
			t.Fatal(err)
		}
		took, said := piece.Took(file)
		if took > 200 {
			t.Errorf("%s: %d MB", name, took)
		}
		if opens := strings.Contains(said, "<nil>"); opens != c.opens {
			t.Errorf("%s: %s", name, said)
		}
		t.Logf("%s, %d kB: %d MB; %s", name, len(c.pdf)>>10, took, strings.SplitN(said, "\n", 2)[0])
	}
}
