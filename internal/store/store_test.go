package store

import (
	"context"
	"errors"
	"fmt"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"
)

var ctx = context.Background()

func open(t testing.TB) *Store {
	t.Helper()
	s, err := Open(filepath.Join(t.TempDir(), "test.db"))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { s.Close() })
	return s
}

func write(t testing.TB, s *Store, f func(*Tx) error) {
	t.Helper()
	if err := s.Write(ctx, f); err != nil {
		t.Fatal(err)
	}
}

func addJob(t testing.TB, s *Store, id string) {
	t.Helper()
	write(t, s, func(tx *Tx) error {
		return tx.CreateJob(Job{ID: id, Number: "N-" + id, Rulebook: "nec:2023", Customer: "customer " + id, NextDate: "9999-12-31"})
	})
}

func entry(jobID, id string) Entry {
	return Entry{ID: id, JobID: jobID, At: time.Now().UTC(), Body: []byte("{}"), Received: time.Now().UTC()}
}

// TestSameEntryTwice: the same id twice is one entry; for another job it is an
// error.
func TestSameEntryTwice(t *testing.T) {
	s := open(t)
	addJob(t, s, "a")
	addJob(t, s, "b")
	for i, want := range []bool{true, false, false} {
		write(t, s, func(tx *Tx) error {
			added, err := tx.AddEntry(entry("a", "device-1"))
			if added != want {
				t.Errorf("time %d: added %t", i+1, added)
			}
			return err
		})
	}
	err := s.Write(ctx, func(tx *Tx) error { _, err := tx.AddEntry(entry("b", "device-1")); return err })
	if !errors.Is(err, ErrTaken) {
		t.Errorf("the id of another job's entry: %v", err)
	}
	if w, _ := s.Whole(ctx, "a"); len(w.Entries) != 1 {
		t.Errorf("%d entries", len(w.Entries))
	}
}

// TestConcurrentWriters: many writers send overlapping entries; none is lost,
// none doubled, none fails.
func TestConcurrentWriters(t *testing.T) {
	s := open(t)
	addJob(t, s, "a")
	const writers, each = 16, 40
	var wg sync.WaitGroup
	errs := make(chan error, writers)
	for w := range writers {
		wg.Go(func() {
			for i := range each {
				// Every entry is sent by two writers.
				id := fmt.Sprintf("entry-%d-%d", w/2, i)
				if err := s.Write(ctx, func(tx *Tx) error { _, err := tx.AddEntry(entry("a", id)); return err }); err != nil {
					errs <- err
					return
				}
			}
		})
	}
	wg.Wait()
	close(errs)
	for err := range errs {
		t.Fatal(err)
	}
	w, err := s.Whole(ctx, "a")
	if err != nil || len(w.Entries) != writers/2*each {
		t.Errorf("%d entries, %d wanted (%v)", len(w.Entries), writers/2*each, err)
	}
}

// TestAppendOnly: the database itself refuses to change what only grows.
func TestAppendOnly(t *testing.T) {
	s := open(t)
	addJob(t, s, "a")
	write(t, s, func(tx *Tx) error {
		_, err := tx.AddEntry(entry("a", "device-1"))
		return errors.Join(err, tx.AddRecord(Record{JobID: "a", Issue: 1, Digest: "d"}), tx.Note(time.Now(), "x", "y", "a", "z"))
	})
	for _, statement := range []string{
		"UPDATE entries SET body = 'x'", "DELETE FROM entries", "UPDATE records SET digest = 'e'", "DELETE FROM records",
		"UPDATE audits SET who = 'z'", "DELETE FROM audits",
	} {
		if err := s.write.Exec(statement).Error; err == nil || !strings.Contains(err.Error(), "append-only") && !strings.Contains(err.Error(), "never") {
			t.Errorf("%s: %v", statement, err)
		}
	}
	if err := s.write.Exec("DELETE FROM jobs").Error; err == nil {
		t.Error("a job with entries can be deleted")
	}
	if err := s.read.Exec("DELETE FROM jobs").Error; err == nil {
		t.Error("a reading connection writes")
	}
}

// TestRevisions: who saves a section without having seen the newest revision
// comes second, and nothing of theirs is written.
func TestRevisions(t *testing.T) {
	s := open(t)
	addJob(t, s, "a")
	save := func(seen int, body string) (rev int, err error) {
		err = s.Write(ctx, func(tx *Tx) error {
			rev, err = tx.SaveSection(Section{JobID: "a", Name: "survey", Body: []byte(body), By: "x"}, seen)
			return err
		})
		return rev, err
	}
	if rev, err := save(0, "one"); err != nil || rev != 1 {
		t.Fatalf("first: %d %v", rev, err)
	}
	if _, err := save(0, "two"); !errors.Is(err, ErrConflict) {
		t.Errorf("a second first: %v", err)
	}
	if rev, err := save(1, "three"); err != nil || rev != 2 {
		t.Errorf("next: %d %v", rev, err)
	}
	if _, err := save(1, "four"); !errors.Is(err, ErrConflict) {
		t.Errorf("a stale page: %v", err)
	}
	w, _ := s.Whole(ctx, "a")
	if string(w.Sections[0].Body) != "three" || w.Sections[0].Revision != 2 {
		t.Errorf("kept %q at %d", w.Sections[0].Body, w.Sections[0].Revision)
	}
}

// TestOneOfManySaves: of many who save the same revision at once, exactly one
// comes first.
func TestOneOfManySaves(t *testing.T) {
	s := open(t)
	addJob(t, s, "a")
	write(t, s, func(tx *Tx) error {
		_, err := tx.SaveSection(Section{JobID: "a", Name: "plan", Body: []byte("0")}, 0)
		return err
	})
	var wg sync.WaitGroup
	var mu sync.Mutex
	won := 0
	for i := range 12 {
		wg.Go(func() {
			err := s.Write(ctx, func(tx *Tx) error {
				_, err := tx.SaveSection(Section{JobID: "a", Name: "plan", Body: fmt.Append(nil, i)}, 1)
				return err
			})
			mu.Lock()
			defer mu.Unlock()
			switch {
			case err == nil:
				won++
			case !errors.Is(err, ErrConflict):
				t.Error(err)
			}
		})
	}
	wg.Wait()
	if won != 1 {
		t.Errorf("%d came first", won)
	}
}

func TestWriteIsAllOrNothing(t *testing.T) {
	s := open(t)
	fail := errors.New("no")
	err := s.Write(ctx, func(tx *Tx) error {
		if err := tx.CreateJob(Job{ID: "a", Number: "1", Rulebook: "x"}); err != nil {
			return err
		}
		return fail
	})
	if !errors.Is(err, fail) {
		t.Fatal(err)
	}
	if _, err := s.Whole(ctx, "a"); !errors.Is(err, ErrNotFound) {
		t.Errorf("half a transaction is there: %v", err)
	}
}

func TestSearchAndFilter(t *testing.T) {
	s := open(t)
	for i, j := range []Job{
		{ID: "1", Number: "DB-0401", Customer: "E. Marlowe", Address: "3 Sailmaker's Row", Town: "Quillmouth", Stage: "survey", Stops: 1, NextDate: "2026-05-09"},
		{ID: "2", Number: "DB-0402", Customer: "G. Ferreira", Address: "41 Juniper Bend", Town: "Copper Flats", Stage: "design", Opens: 2, NextDate: "2026-05-04"},
		{ID: "3", Number: "DB-0403", Customer: "N. Rowntree-Vale", Address: "1 Lighthouse Terrace", Town: "Saltbeck", Stage: "design", NextDate: "9999-12-31"},
	} {
		j.Rulebook = "x"
		write(t, s, func(tx *Tx) error { return tx.CreateJob(j) })
		_ = i
	}
	for _, c := range []struct {
		f    Filter
		want string
	}{
		{Filter{}, "2 1 3"},
		{Filter{Search: "marl"}, "1"},
		{Filter{Search: "DB-04"}, "2 1 3"},
		{Filter{Search: "DB-0403"}, "3"},
		{Filter{Search: "quill sail"}, "1"},
		{Filter{Search: "sailmaker's"}, "1"},
		{Filter{Search: "rowntree-v"}, "3"},
		{Filter{Search: `"; DROP TABLE jobs --`}, ""},
		{Filter{Search: `* OR (NEAR`}, ""},
		{Filter{Search: "nobody"}, ""},
		{Filter{Stage: "design"}, "2 3"},
		{Filter{InWay: "stop"}, "1"},
		{Filter{InWay: "open"}, "2"},
		{Filter{InWay: "nothing"}, "3"},
		{Filter{Stage: "design", InWay: "nothing", Search: "salt"}, "3"},
	} {
		c.f.Limit = 50
		list, err := s.Jobs(ctx, c.f)
		if err != nil {
			t.Errorf("%+v: %v", c.f, err)
			continue
		}
		var ids []string
		for _, j := range list.Jobs {
			ids = append(ids, j.ID)
		}
		if got := strings.Join(ids, " "); got != c.want || int(list.Total) != len(ids) || list.More {
			t.Errorf("%+v: %q of %d, want %q", c.f, got, list.Total, c.want)
		}
	}
	// A changed address is found by its new name only.
	write(t, s, func(tx *Tx) error {
		w, err := tx.Whole("3")
		if err != nil {
			return err
		}
		w.Job.Town = "Tarn Hollow"
		return tx.SaveJob(w.Job)
	})
	if list, _ := s.Jobs(ctx, Filter{Search: "tarn", Limit: 5}); len(list.Jobs) != 1 {
		t.Error("the new town is not found")
	}
	if list, _ := s.Jobs(ctx, Filter{Search: "saltbeck", Limit: 5}); len(list.Jobs) != 0 {
		t.Error("the old town is still found")
	}
}

func TestNumbers(t *testing.T) {
	s := open(t)
	addJob(t, s, "a")
	if err := s.Write(ctx, func(tx *Tx) error { return tx.CreateJob(Job{ID: "b", Number: "N-a", Rulebook: "x"}) }); !errors.Is(err, ErrTaken) {
		t.Errorf("a number twice: %v", err)
	}
	write(t, s, func(tx *Tx) error {
		n, err := tx.NextNumber("DB-")
		if n != "DB-0002" {
			t.Errorf("next number %q", n)
		}
		return err
	})
}

func TestBackup(t *testing.T) {
	s := open(t)
	addJob(t, s, "a")
	// Copy while writers are at work: the copy opens and is consistent.
	stop := make(chan struct{})
	var wg sync.WaitGroup
	wg.Go(func() {
		for i := 0; ; i++ {
			select {
			case <-stop:
				return
			default:
				s.Write(ctx, func(tx *Tx) error { _, err := tx.AddEntry(entry("a", fmt.Sprintf("e-%08d", i))); return err })
			}
		}
	})
	copyPath := filepath.Join(t.TempDir(), "copy.db")
	err := s.Backup(ctx, copyPath)
	close(stop)
	wg.Wait()
	if err != nil {
		t.Fatal(err)
	}
	c, err := Open(copyPath)
	if err != nil {
		t.Fatal(err)
	}
	defer c.Close()
	if _, err := c.Whole(ctx, "a"); err != nil {
		t.Error(err)
	}
	var ok string
	if err := c.read.Raw("PRAGMA integrity_check").Scan(&ok).Error; err != nil || ok != "ok" {
		t.Errorf("the copy: %q %v", ok, err)
	}
}

func TestSessions(t *testing.T) {
	s := open(t)
	if err := s.Sessions().Commit("tok", []byte("data"), time.Now().Add(time.Hour)); err != nil {
		t.Fatal(err)
	}
	if err := s.Sessions().Commit("old", []byte("data"), time.Now().Add(-time.Hour)); err != nil {
		t.Fatal(err)
	}
	if b, ok, err := s.Sessions().Find("tok"); err != nil || !ok || string(b) != "data" {
		t.Errorf("%q %t %v", b, ok, err)
	}
	if _, ok, _ := s.Sessions().Find("old"); ok {
		t.Error("an ended session is alive")
	}
	if err := s.Sessions().DropExpired(ctx); err != nil {
		t.Fatal(err)
	}
	var n int64
	s.read.Model(&Session{}).Count(&n)
	if n != 1 {
		t.Errorf("%d sessions kept", n)
	}
	if err := s.Sessions().Delete("tok"); err != nil {
		t.Fatal(err)
	}
	if _, ok, _ := s.Sessions().Find("tok"); ok {
		t.Error("a signed-out session is alive")
	}
}

func TestPragmas(t *testing.T) {
	s := open(t)
	for name, want := range map[string]string{"journal_mode": "wal", "foreign_keys": "1", "busy_timeout": "10000", "synchronous": "2"} {
		t.Run(name, func(t *testing.T) {
			var got string
			if err := s.write.Raw("PRAGMA " + name).Scan(&got).Error; err != nil || got != want {
				t.Errorf("%s is %q, want %q (%v)", name, got, want, err)
			}
		})
	}
}

// TestOpenTwice: migrations that have run are not run again.
func TestOpenTwice(t *testing.T) {
	path := filepath.Join(t.TempDir(), "x.db")
	for range 2 {
		s, err := Open(path)
		if err != nil {
			t.Fatal(err)
		}
		s.Close()
	}
}

// many fills a store with jobs.
func many(b *testing.B, n int) *Store {
	s := open(b)
	towns := []string{"Quillmouth", "Aldermoor", "Saltbeck", "Copper Flats", "Lake Orrin"}
	stages := []string{"survey", "design", "clearances", "plan", "install", "commission", "handover"}
	start := time.Date(2026, 1, 1, 0, 0, 0, 0, time.UTC)
	for at := 0; at < n; at += 5000 {
		write(b, s, func(tx *Tx) error {
			rows := make([]Job, 0, 5000)
			for i := at; i < min(at+5000, n); i++ {
				rows = append(rows, Job{ID: fmt.Sprint(i), Number: fmt.Sprintf("DB-%06d", i), Rulebook: "nec:2023", Customer: fmt.Sprintf("Customer %d", i%977), Address: fmt.Sprintf("%d Mill Lane", i%311),
					Town: towns[i%5], Stage: stages[i%7], Stops: i % 3, Opens: i % 11, NextDate: start.AddDate(0, 0, i%900).Format(time.DateOnly)})
			}
			return tx.db.CreateInBatches(rows, 500).Error
		})
	}
	return s
}

// BenchmarkList: a page of the list, plain and searched, of more and more jobs: what all have,
// what one in five has, what one in a thousand has, what none has.
func BenchmarkList(b *testing.B) {
	for _, n := range []int{5_000, 50_000, 500_000} {
		s := many(b, n)
		for name, f := range map[string]Filter{
			"plain": {}, "all": {Search: "mill"}, "fifth": {Search: "quill mill"}, "thousandth": {Search: "customer 411"}, "few": {Search: "mill 31 411"},
			"none": {Search: "nobody"}, "number": {Search: fmt.Sprintf("DB-%06d", n/3)}, "filtered": {Search: "quill mill", Stage: "design", InWay: "stop"},
		} {
			f.Limit = 50
			b.Run(fmt.Sprintf("%s/jobs=%d", name, n), func(b *testing.B) {
				for b.Loop() {
					if _, err := s.Jobs(ctx, f); err != nil {
						b.Fatal(err)
					}
				}
			})
		}
	}
}

func BenchmarkAddEntry(b *testing.B) {
	s := open(b)
	addJob(b, s, "a")
	i := 0
	for b.Loop() {
		i++
		if err := s.Write(ctx, func(tx *Tx) error { _, err := tx.AddEntry(entry("a", fmt.Sprintf("e-%08d", i))); return err }); err != nil {
			b.Fatal(err)
		}
	}
}

// TestEndedSession: a session that has ended is not written again by a request that began
// before.
func TestEndedSession(t *testing.T) {
	s := open(t).Sessions()
	if err := s.Commit("token", []byte("data"), time.Now().Add(time.Hour)); err != nil {
		t.Fatal(err)
	}
	if _, ok, err := s.Find("token"); !ok || err != nil {
		t.Fatal(ok, err)
	}
	if err := s.Delete("token"); err != nil {
		t.Fatal(err)
	}
	if err := s.Commit("token", []byte("data"), time.Now().Add(time.Hour)); err != nil {
		t.Fatal(err)
	}
	if _, ok, err := s.Find("token"); ok || err != nil {
		t.Errorf("it is back: %v", err)
	}
}

// TestNothingCanBeWritten: on a full disk the probe says so, and who is signed in goes on
// reading. A connection that may not write stands for the disk.
func TestNothingCanBeWritten(t *testing.T) {
	s := open(t)
	sessions := s.Sessions()
	data, err := SessionCodec{}.Encode(time.Now().Add(time.Hour), map[string]any{PersonOf: "one", BeganAt: time.Now().UnixMilli()})
	if err != nil {
		t.Fatal(err)
	}
	if err := sessions.Commit("token", data, time.Now().Add(time.Hour)); err != nil {
		t.Fatal(err)
	}
	now := time.Now()
	if err := s.Probe(ctx, now); err != nil {
		t.Fatal(err)
	}
	if err := s.write.Exec("PRAGMA query_only = 1").Error; err != nil {
		t.Fatal(err)
	}
	if err := s.Probe(ctx, now.Add(30*time.Second)); err != nil {
		t.Errorf("within a minute: %v", err)
	}
	if err := s.Probe(ctx, now.Add(2*time.Minute)); err == nil {
		t.Error("nothing can be written, and the probe is content")
	}
	if err := sessions.Commit("token", data, time.Now().Add(time.Hour)); err != nil {
		t.Errorf("a session that is there: %v", err)
	}
	if err := sessions.Commit("new", data, time.Now().Add(time.Hour)); err == nil {
		t.Error("a sign-in that is kept nowhere")
	}
	other, err := SessionCodec{}.Encode(time.Now().Add(time.Hour), map[string]any{PersonOf: "two"})
	if err != nil {
		t.Fatal(err)
	}
	if err := sessions.Commit("token", other, time.Now().Add(time.Hour)); err == nil {
		t.Error("another person's sign-in that is kept nowhere")
	}
	if list, err := s.SessionsOf(ctx, "one"); err != nil || len(list) != 1 {
		t.Errorf("%+v %v", list, err)
	}
}
