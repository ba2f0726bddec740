package store

import (
	"context"
	"errors"
	"fmt"
	"maps"
	"slices"
	"sync"
	"testing"
	"time"

	"github.com/alexedwards/scs/v2"
)

// TestTogether: writers that wait together are committed together, and each still happens as a
// whole or not at all: one fails, one panics, one has gone away, one gives its job's number twice.
func TestTogether(t *testing.T) {
	s := open(t)
	refused := errors.New("refused")
	gone, leave := context.WithCancel(ctx)
	leave()
	add := func(tx *Tx, id string) error { return tx.CreateJob(Job{ID: id, Number: "N-" + id, Rulebook: "x"}) }
	writers := map[string]func() error{
		"fails": func() error {
			return s.Write(ctx, func(tx *Tx) error { return errors.Join(add(tx, "fails"), refused) })
		},
		"panics": func() (err error) {
			defer func() { err = fmt.Errorf("%v", recover()) }()
			return s.Write(ctx, func(tx *Tx) error { add(tx, "panics"); panic("lost") })
		},
		"gone":  func() error { return s.Write(gone, func(tx *Tx) error { return add(tx, "gone") }) },
		"twice": func() error { return s.Write(ctx, func(tx *Tx) error { return add(tx, "ok-0") }) },
	}
	for i := range 20 {
		id := fmt.Sprint("ok-", i)
		writers[id] = func() error { return s.Write(ctx, func(tx *Tx) error { return add(tx, id) }) }
	}
	var before, after int64
	count := func(n *int64) {
		if err := s.read.Raw("SELECT COUNT(*) FROM jobs").Scan(n).Error; err != nil {
			t.Fatal(err)
		}
	}
	count(&before)

	// All of them wait behind one.
	hold, held := make(chan struct{}), make(chan struct{})
	var all sync.WaitGroup
	all.Go(func() {
		s.Write(ctx, func(*Tx) error { close(held); <-hold; return nil })
	})
	<-held
	var mu sync.Mutex
	errs := map[string]error{}
	for name, write := range writers {
		all.Go(func() {
			err := write()
			mu.Lock()
			errs[name] = err
			mu.Unlock()
		})
	}
	for {
		s.line.Lock()
		n := len(s.line.waiting)
		s.line.Unlock()
		if n == len(writers) {
			break
		}
		time.Sleep(time.Millisecond)
	}
	close(hold)
	all.Wait()

	count(&after)
	if after-before != 20 {
		t.Errorf("%d jobs more", after-before)
	}
	taken := 0
	for name, err := range errs {
		switch {
		case name == "fails" && errors.Is(err, refused), name == "gone" && errors.Is(err, context.Canceled), name == "panics" && err.Error() == "lost":
		case errors.Is(err, ErrTaken) && (name == "twice" || name == "ok-0"):
			taken++
		case err != nil:
			t.Errorf("%s: %v", name, err)
		case !slices.Contains([]string{"twice", "ok-0"}, name):
			if _, err := s.Job(ctx, name); err != nil {
				t.Errorf("%s was acknowledged: %v", name, err)
			}
		}
	}
	if taken != 1 {
		t.Errorf("%d of the two with one number were refused", taken)
	}
	for _, id := range []string{"fails", "panics", "gone"} {
		if _, err := s.Job(ctx, id); !errors.Is(err, ErrNotFound) {
			t.Errorf("%s is there: %v", id, err)
		}
	}
	if err := s.Write(ctx, func(tx *Tx) error { return add(tx, "later") }); err != nil {
		t.Errorf("afterwards: %v", err)
	}
}

// TestRevision: whatever is written about a job raises its revision, and what does not change
// it leaves it.
func TestRevision(t *testing.T) {
	s := open(t)
	write := func(f func(*Tx) error) {
		t.Helper()
		if err := s.Write(ctx, f); err != nil {
			t.Fatal(err)
		}
	}
	write(func(tx *Tx) error { return tx.CreateJob(Job{ID: "r", Number: "N-r", Rulebook: "x"}) })
	row := func() Job {
		t.Helper()
		j, err := s.Job(ctx, "r")
		if err != nil {
			t.Fatal(err)
		}
		return j
	}
	last := row().Revision
	for name, c := range map[string]struct {
		rises bool
		write func(*Tx) error
	}{
		"an entry": {true, func(tx *Tx) error { _, err := tx.AddEntry(entry("r", "device-r")); return err }},
		"a new section": {true, func(tx *Tx) error {
			_, err := tx.SaveSection(Section{JobID: "r", Name: "site", Body: []byte("{}")}, 0)
			return err
		}},
		"a record":        {true, func(tx *Tx) error { return tx.AddRecord(Record{JobID: "r", Issue: 1, Digest: "d"}) }},
		"a seal":          {true, func(tx *Tx) error { j := row(); j.Sealed = !j.Sealed; return tx.SaveJob(j) }},
		"an edition":      {true, func(tx *Tx) error { j := row(); j.Rulebook += "x"; return tx.SaveJob(j) }},
		"a summary":       {false, func(tx *Tx) error { j := row(); j.Stops++; return tx.SaveJob(j) }},
		"a line of audit": {false, func(tx *Tx) error { return tx.Note(time.Now(), "x", "y", "r", "z") }},
	} {
		write(c.write)
		now := row().Revision
		if rises := now > last; rises != c.rises {
			t.Errorf("%s: revision %d after %d", name, now, last)
		}
		last = now
	}
	write(func(tx *Tx) error {
		_, err := tx.SaveSection(Section{JobID: "r", Name: "site", Body: []byte("{}")}, 1)
		return err
	})
	if now := row().Revision; now <= last {
		t.Errorf("a section saved again: revision %d after %d", now, last)
	}
}

// TestSessionCodec: what a session holds comes back as it was put, of this program's sessions
// and of an older program's.
func TestSessionCodec(t *testing.T) {
	until := time.Now().Add(time.Hour).UTC()
	values := map[string]any{PersonOf: "one", AgentOf: "a browser, née é", BeganAt: time.Now().UnixMilli(), "seen": int64(-3), "passkey": true}
	for name, codec := range map[string]scs.Codec{"this": SessionCodec{}, "older": scs.GobCodec{}} {
		b, err := codec.Encode(until, values)
		if err != nil {
			t.Fatal(err)
		}
		at, got, err := SessionCodec{}.Decode(b)
		if err != nil || !at.Equal(until) || !maps.Equal(got, values) {
			t.Errorf("%s: %v %v %v", name, at, got, err)
		}
	}
	if _, _, err := (SessionCodec{}).Decode([]byte("no session")); err == nil {
		t.Error("nonsense is a session")
	}
}

// TestSettledIsAsItIs: a value of the firm is read as it is now, whoever changed it: this
// program, a transaction of it that was undone, or another program.
func TestSettledIsAsItIs(t *testing.T) {
	s := open(t)
	read := func(key string) string {
		t.Helper()
		v, err := s.SettingsOf(ctx, key, "never")
		if err != nil {
			t.Fatal(err)
		}
		return string(v[key])
	}
	set := func(value string) func(*Tx) error {
		return func(tx *Tx) error { return tx.Settings().Set("k", []byte(value)) }
	}
	if got := read("k"); got != "" {
		t.Errorf("%q before it was set", got)
	}
	write(t, s, set("one"))
	if got := read("k"); got != "one" {
		t.Errorf("%q", got)
	}
	s.Write(ctx, func(tx *Tx) error { return errors.Join(set("two")(tx), errors.New("undone")) })
	if got := read("k"); got != "one" {
		t.Errorf("%q after what was undone", got)
	}
	if err := change(s.path, "UPDATE settings SET value = 'other' WHERE key = 'k'"); err != nil {
		t.Fatal(err)
	}
	if got := read("k"); got != "other" {
		t.Errorf("%q after another program's change", got)
	}
	write(t, s, func(tx *Tx) error { return tx.Settings().Drop("k") })
	if got := read("k"); got != "" {
		t.Errorf("%q after it was dropped", got)
	}
}
