package httpapi

import (
	"bytes"
	"crypto/sha256"
	"io"

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

// packed are the answers that were packed last, by the digest of what is in them.
var packed, _ = lru.New[[sha256.Size]byte, []byte](mostPacked) // never fails for a size above 0

// packer is gzip that packs an answer once: a job that nobody changed goes out as it was packed
// before, whoever opens it.
type packer struct {
	to      io.Writer
	level   int
	plain   bytes.Buffer
	through writer.GzipWriter // of what is too large to be kept, or is sent bit by bit; else nil
}

func newPacker(to io.Writer, level int) writer.GzipWriter { return &packer{to: to, level: level} }

// Write takes a part of an answer.
func (p *packer) Write(b []byte) (int, error) {
	if p.through == nil && p.plain.Len()+len(b) <= largestPacked {
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
	sum := sha256.Sum256(p.plain.Bytes())
	small, ok := packed.Get(sum)
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
		packed.Add(sum, small)
	}
	_, err := p.to.Write(small)
	return err
}
