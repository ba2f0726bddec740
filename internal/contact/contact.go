// Package contact dates what devices bring that had no signal: each answer of the
// server carries a mark with its time, which nobody else can make, and what a device
// keeps from then on is linked to it.
package contact

import (
	"crypto/hmac"
	"crypto/rand"
	"crypto/sha256"
	"encoding/base64"
	"encoding/hex"
	"fmt"
	"strconv"
	"strings"
	"time"

	"dogbolt/core/job"
)

// Marks makes marks and dates them.
type Marks struct{ secret []byte }

// SecretSize is the length of the secret that marks are made with, bytes.
const SecretSize = 32

// New returns the marks of a secret.
func New(secret []byte) *Marks { return &Marks{secret} }

// Mark returns a mark of a time for a person. No two are the same.
func (m *Marks) Mark(person string, at time.Time) string {
	text := strconv.FormatInt(at.UnixMilli(), 36) + "." + rand.Text()[:12]
	return text + "." + m.sum(person, text)
}

// When returns the time of a mark; false where it is not this server's, or not the
// person's.
func (m *Marks) When(person, mark string) (time.Time, bool) {
	i := strings.LastIndexByte(mark, '.')
	if i < 0 || !hmac.Equal([]byte(m.sum(person, mark[:i])), []byte(mark[i+1:])) {
		return time.Time{}, false
	}
	at, _, _ := strings.Cut(mark, ".")
	ms, err := strconv.ParseInt(at, 36, 64)
	return time.UnixMilli(ms).UTC(), err == nil
}

func (m *Marks) sum(person, text string) string {
	h := hmac.New(sha256.New, m.secret)
	fmt.Fprintf(h, "%s %s", person, text)
	return base64.RawURLEncoding.EncodeToString(h.Sum(nil)[:18])
}

// Link is the SHA-256 of what was kept before, a mark or a link, and the entries that
// follow it, in hex. Devices make the same.
func Link(before string, entries []job.Entry) string {
	h := sha256.New()
	h.Write([]byte(before))
	for i := range entries {
		h.Write([]byte("\n" + entries[i].Said()))
	}
	return hex.EncodeToString(h.Sum(nil))
}
