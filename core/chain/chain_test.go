package chain

import (
	"crypto/sha256"
	"encoding/hex"
	"slices"
	"strings"
	"testing"
	"time"
)

var begin = time.Date(2026, 5, 4, 9, 0, 0, 0, time.UTC)

// made is a chain of three entries and a record, and what is there.
func made(t *testing.T) ([]Held, map[Name]string) {
	t.Helper()
	there := map[Name]string{}
	var links []Held
	for i, n := range []Name{{Entry, "one"}, {Entry, "two"}, {Record, "1"}, {Entry, "three"}} {
		there[n] = Content([]byte(n.Ref))
		links = append(links, linked(t, links, n, there[n]))
		links[i].Received = begin.Add(time.Duration(i) * time.Minute)
		links[i] = again(t, links[i])
	}
	return links, there
}

func linked(t *testing.T, before []Held, n Name, content string) Held {
	t.Helper()
	l := Held{Link: Link{Job: "j", N: int64(len(before) + 1), Kind: n.Kind, Ref: n.Ref, Content: content, Received: begin}}
	if len(before) > 0 {
		l.Prev = before[len(before)-1].Digest
	}
	return again(t, l)
}

func again(t *testing.T, l Held) Held {
	t.Helper()
	var err error
	if l.Digest, err = l.Link.Digest(); err != nil {
		t.Fatal(err)
	}
	return l
}

// TestDigest: the canonical form by RFC 8785 (keys sorted, no blanks), written out by hand.
func TestDigest(t *testing.T) {
	l := Link{Job: "j", N: 2, Prev: "p", Kind: Entry, Ref: "r", Content: "c", Received: begin}
	sum := sha256.Sum256([]byte(`{"content":"c","job":"j","kind":"entry","n":2,"prev":"p","received":"2026-05-04T09:00:00Z","ref":"r"}`))
	if d, err := l.Digest(); err != nil || d != hex.EncodeToString(sum[:]) {
		t.Error(d, err)
	}
	l.Received = begin.In(time.FixedZone("", 3600))
	if d, _ := l.Digest(); d != hex.EncodeToString(sum[:]) {
		t.Error("another zone of the same moment is another digest")
	}
}

// TestCheck: each way to tamper is found, and a chain that nobody touched is not.
func TestCheck(t *testing.T) {
	for _, c := range []struct {
		name string
		do   func(links *[]Held, there map[Name]string)
		want string // "" for sound
	}{
		{"nothing", func(*[]Held, map[Name]string) {}, ""},
		{"an entry is changed", func(_ *[]Held, there map[Name]string) { there[Name{Entry, "two"}] = Content([]byte("2")) }, "entry two is not as it was written"},
		{"an entry is gone", func(_ *[]Held, there map[Name]string) { delete(there, Name{Entry, "two"}) }, "entry two is gone"},
		{"an entry is put in", func(_ *[]Held, there map[Name]string) { there[Name{Entry, "four"}] = "x" }, "entry four is there, and the chain does not know it"},
		{"a record is replaced", func(_ *[]Held, there map[Name]string) { there[Name{Record, "1"}] = "x" }, "record 1 is not as it was written"},
		{"an entry and its link are gone", func(links *[]Held, there map[Name]string) {
			delete(there, Name{Entry, "two"})
			*links = slices.Delete(*links, 1, 2)
		}, "does not follow from the one before it"},
		{"a link is dated back", func(links *[]Held, _ map[Name]string) { (*links)[1].Received = begin.Add(-time.Hour) }, "link 2 of the chain (entry two) is not as it was written"},
		{"a link is dated back and its digest made anew", func(links *[]Held, _ map[Name]string) {
			(*links)[1].Received = begin.Add(-time.Hour)
			(*links)[1] = again(t, (*links)[1])
		}, "link 3 of the chain (record 1) does not follow"},
		{"two links change places", func(links *[]Held, _ map[Name]string) { (*links)[0], (*links)[1] = (*links)[1], (*links)[0] }, "out of order"},
	} {
		links, there := made(t)
		c.do(&links, there)
		faults := strings.Join(Check(links, there), "; ")
		if (c.want == "") != (faults == "") || !strings.Contains(faults, c.want) {
			t.Errorf("%s: %q, want %q", c.name, faults, c.want)
		}
	}
}
