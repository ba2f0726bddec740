// Package chain holds the log and the records of a job together: each is linked to the one
// that came before it, by digests, so that one that was changed, taken out, put in or dated
// back is found.
package chain

import (
	"cmp"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"time"

	"github.com/gowebpki/jcs"
)

// Kind is what a link holds.
type Kind string

// What links hold.
const (
	Entry  Kind = "entry"  // an entry of the log, by its id
	Record Kind = "record" // a sealed issue, by its number
)

// Link is one link of a job's chain. Its digest is what the next one begins with.
type Link struct {
	Job      string    `json:"job"`
	N        int64     `json:"n"`    // 1 for the first of the job
	Prev     string    `json:"prev"` // digest of the link before, "" for the first
	Kind     Kind      `json:"kind"`
	Ref      string    `json:"ref"`
	Content  string    `json:"content"`  // SHA-256 of what it holds, hex
	Received time.Time `json:"received"` // by the server's clock
}

// Digest is the SHA-256 of the link in canonical JSON (RFC 8785), hex.
func (l Link) Digest() (string, error) {
	l.Received = l.Received.UTC()
	b, err := json.Marshal(l)
	if err != nil {
		return "", fmt.Errorf("link %d: %w", l.N, err)
	}
	if b, err = jcs.Transform(b); err != nil {
		return "", fmt.Errorf("link %d: %w", l.N, err)
	}
	return Content(b), nil
}

// Content is the digest of what a link holds: SHA-256, hex.
func Content(b []byte) string {
	sum := sha256.Sum256(b)
	return hex.EncodeToString(sum[:])
}

// Head is how far the chain of a job has come: the number of its links, and the digest of the
// last one; the zero value of one that has none.
type Head struct {
	N      int64  `json:"n"`
	Digest string `json:"digest"`
}

// Held is a link with the digest that was kept of it.
type Held struct {
	Link
	Digest string
}

// Name is what one link of a chain is known by.
type Name struct {
	Kind Kind
	Ref  string
}

// Check says what is wrong with a job's chain, given what is there and each one's digest:
// nothing where all is as it was written.
func Check(links []Held, there map[Name]string) []string {
	var faults []string
	add := func(format string, args ...any) { faults = append(faults, fmt.Sprintf(format, args...)) }
	known := map[Name]bool{}
	prev := ""
	for i, l := range links {
		what := Name{l.Kind, l.Ref}
		known[what] = true
		if l.N != int64(i+1) {
			add("link %d of the chain stands where %d belongs: links are missing or out of order", l.N, i+1)
		}
		if l.Prev != prev {
			add("link %d of the chain (%s) does not follow from the one before it", l.N, what)
		}
		if d, err := l.Link.Digest(); err != nil || d != l.Digest {
			add("link %d of the chain (%s) is not as it was written", l.N, what)
		}
		switch content, ok := there[what]; {
		case !ok:
			add("%s is gone", what)
		case content != l.Content:
			add("%s is not as it was written", what)
		}
		prev = l.Digest
	}
	for _, what := range slices.SortedFunc(maps.Keys(there), func(a, b Name) int { return cmp.Compare(a.String(), b.String()) }) {
		if !known[what] {
			add("%s is there, and the chain does not know it", what)
		}
	}
	return faults
}

// String names what a link holds.
func (n Name) String() string { return string(n.Kind) + " " + n.Ref }
