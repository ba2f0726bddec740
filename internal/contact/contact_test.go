package contact_test

import (
	"bytes"
	"testing"
	"time"

	"dogbolt/core/job"
	"dogbolt/internal/contact"
)

// TestMarks: a mark says its time to the server that made it, for the person that it was
// made for, and to nobody who changed a letter of it.
func TestMarks(t *testing.T) {
	at := time.Date(2026, 5, 4, 9, 30, 0, 250e6, time.UTC)
	m := contact.New(bytes.Repeat([]byte{7}, contact.SecretSize))
	mark := m.Mark("p1", at)
	if got, ok := m.When("p1", mark); !ok || !got.Equal(at) {
		t.Errorf("%v %t", got, ok)
	}
	if mark == m.Mark("p1", at) {
		t.Error("two marks are the same")
	}
	if _, ok := m.When("p2", mark); ok {
		t.Error("another person's mark is taken")
	}
	if _, ok := contact.New(bytes.Repeat([]byte{8}, contact.SecretSize)).When("p1", mark); ok {
		t.Error("another server's mark is taken")
	}
	for i := range mark {
		changed := []byte(mark)
		changed[i] ^= 1
		if _, ok := m.When("p1", string(changed)); ok {
			t.Errorf("taken with letter %d changed: %s", i, changed)
		}
	}
	for _, bad := range []string{"", ".", "..", "x", mark[:5]} {
		if _, ok := m.When("p1", bad); ok {
			t.Errorf("%q is taken", bad)
		}
	}
}

// TestLink: the chain that a device makes. The figure was worked out with sha256sum over
// the text, tabs between the fields.
func TestLink(t *testing.T) {
	entries := []job.Entry{{ID: "device-0001", Kind: job.ReadingMade, At: time.UnixMilli(1764208800123), Point: "A", Subject: "zs", Value: "0.52"}}
	const want = "bc0d37e100c40cff11189c1515c0f90043f6259a3e27cee1d3ef720c9066741a"
	if got := contact.Link("mark", entries); got != want {
		t.Errorf("%s, want %s", got, want)
	}
	entries[0].Value = "0.25"
	if contact.Link("mark", entries) == want {
		t.Error("another value gives the same link")
	}
}
