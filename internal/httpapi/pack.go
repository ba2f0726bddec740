package httpapi

import (
	"bytes"
	"io"
	"net/http"

	lru "github.com/hashicorp/golang-lru/v2"
	"github.com/klauspost/compress/gzhttp/writer"
	"github.com/klauspost/compress/gzhttp/writer/gzkp"
)

// Bounds of the answers that stay packed in memory: how many, and how many bytes one may have
// before it is packed. Common practice, no source.
const (
	mostPacked    = 64
	largestPacked = 256 << 10
)

// packed are the answers that were packed last, by their tags.
var packed, _ = lru.New[string, []byte](mostPacked) // never fails for a size above 0

// packer is gzip that packs an answer with a tag once: a job that nobody changed goes out as it
// was packed before, whoever opens it.
type packer struct {
	to      io.Writer
	tag     string
	level   int
	plain   bytes.Buffer
	through writer.GzipWriter // of what has no tag, is too large to be kept, or is sent bit by bit; else nil
}

func newPacker(to io.Writer, level int) writer.GzipWriter {
	p := &packer{to: to, level: level}
	if w, ok := to.(http.ResponseWriter); ok {
		p.tag = w.Header().Get("ETag")
	}
	return p
}

// Write takes a part of an answer.
func (p *packer) Write(b []byte) (int, error) {
	if p.through == nil && p.tag != "" && p.plain.Len()+len(b) <= largestPacked {
		return p.plain.Write(b)
	}
	if err := p.passOn(); err != nil {
		return 0, err
	}
	return p.through.Write(b)
}

// passOn packs what came until now and whatever comes, without keeping it.
func (p *packer) passOn() error {
	if p.through != nil {
		return nil
	}
	p.through = gzkp.NewWriter(p.to, p.level)
	_, err := p.through.Write(p.plain.Bytes())
	p.plain = bytes.Buffer{}
	return err
}

// Flush sends what came until now.
func (p *packer) Flush() error {
	if err := p.passOn(); err != nil {
		return err
	}
	return p.through.Flush()
}

// Close sends the rest.
func (p *packer) Close() error {
	if p.through != nil {
		return p.through.Close()
	}
	small, ok := packed.Get(p.tag)
	if !ok {
		var out bytes.Buffer
		w := gzkp.NewWriter(&out, p.level)
		if _, err := w.Write(p.plain.Bytes()); err != nil {
			return err
		}
		if err := w.Close(); err != nil {
			return err
		}
		small = out.Bytes()
		packed.Add(p.tag, small)
	}
	_, err := p.to.Write(small)
	return err
}
