package store

import (
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"
)

// copied returns a whole copy of a database with a job, an entry and a picture.
func copied(t *testing.T) (file, digest string) {
	t.Helper()
	s := open(t)
	bytes := []byte("as a picture")
	sum := sha256.Sum256(bytes)
	digest = hex.EncodeToString(sum[:])
	if err := s.PutPhoto(digest, bytes); err != nil {
		t.Fatal(err)
	}
	err := s.Write(t.Context(), func(tx *Tx) error {
		err := tx.CreateJob(Job{ID: "a", Number: "1", Created: time.Now()})
		_, e := tx.AddEntry(Entry{ID: "e", JobID: "a", At: time.Now(), Body: []byte(`{}`), Received: time.Now()})
		return errors.Join(err, e, tx.AddPhoto(Photo{JobID: "a", Digest: digest, At: time.Now()}))
	})
	if err != nil {
		t.Fatal(err)
	}
	file = filepath.Join(t.TempDir(), "copy.db")
	if err := s.Backup(t.Context(), file); err != nil {
		t.Fatal(err)
	}
	return file, digest
}

// left lists what is in a folder.
func left(t *testing.T, folder string) (names []string) {
	t.Helper()
	err := filepath.WalkDir(folder, func(path string, e fs.DirEntry, err error) error {
		if err == nil && !e.IsDir() {
			names = append(names, strings.TrimPrefix(path, folder+"/"))
		}
		return err
	})
	if err != nil && !errors.Is(err, fs.ErrNotExist) {
		t.Fatal(err)
	}
	return names
}

// TestRestoreWhole: a copy on a medium that is only read is put back, whole.
func TestRestoreWhole(t *testing.T) {
	file, digest := copied(t)
	folder := filepath.Dir(file)
	if got := left(t, folder); strings.Contains(strings.Join(got, " "), ".part") || len(got) != 3 {
		t.Errorf("beside the copy: %v", got)
	}
	for _, n := range left(t, folder) {
		if err := os.Chmod(filepath.Join(folder, n), 0o400); err != nil {
			t.Fatal(err)
		}
	}
	before := left(t, folder)
	target := filepath.Join(t.TempDir(), "dogbolt.db")
	m, err := Restore(t.Context(), file, target)
	if err != nil || m.Jobs != 1 || m.Entries != 1 || len(m.Files) != 1 {
		t.Fatalf("%+v %v", m, err)
	}
	if after := left(t, folder); strings.Join(after, " ") != strings.Join(before, " ") {
		t.Errorf("written beside the copy: %v", after)
	}
	s, err := Open(target)
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	if b, err := s.Photo(t.Context(), "a", digest); err != nil || string(b) != "as a picture" {
		t.Errorf("%q %v", b, err)
	}
}

// TestRestoreRefuses: each row is a copy that is not whole, or not one of ours. It is refused
// in words, and nothing is left where it was to go.
func TestRestoreRefuses(t *testing.T) {
	for _, c := range []struct {
		name  string
		spoil func(t *testing.T, file, digest string) error
		says  string
	}{
		{"cut off", func(_ *testing.T, file, _ string) error { return os.Truncate(file, 20_000) }, "no whole database"},
		{"empty", func(_ *testing.T, file, _ string) error { return os.Truncate(file, 0) }, "no database of this program"},
		{"a text", func(_ *testing.T, file, _ string) error { return os.WriteFile(file, []byte("hello"), 0o600) }, "no whole database"},
		{"not there", func(_ *testing.T, file, _ string) error { return os.Remove(file) }, "no such file"},
		{"a picture is missing", func(_ *testing.T, file, digest string) error { return os.Remove(kept(file, digest, picture)) }, "is gone"},
		{"a picture was exchanged", func(_ *testing.T, file, digest string) error {
			return os.WriteFile(kept(file, digest, picture), []byte("another"), 0o600)
		}, "not as it was kept"},
		{"another copy's manifest", func(t *testing.T, file, _ string) error {
			other, _ := copied(t)
			b, err := os.ReadFile(manifestOf(other))
			return errors.Join(err, os.WriteFile(manifestOf(file), b, 0o600))
		}, "its manifest is of"},
		{"another program's database", func(_ *testing.T, file, _ string) error {
			return errors.Join(os.Remove(file), change(file, "CREATE TABLE x (y)"))
		}, "no database of this program"},
		{"of a newer program", func(_ *testing.T, file, _ string) error {
			return change(file, "INSERT INTO migrations (id) VALUES ('9999-moon')")
		}, "newer version"},
		{"still written to", func(_ *testing.T, file, _ string) error { return os.WriteFile(file+"-wal", []byte("x"), 0o600) }, "has not ended"},
	} {
		t.Run(c.name, func(t *testing.T) {
			file, digest := copied(t)
			if err := c.spoil(t, file, digest); err != nil {
				t.Fatal(err)
			}
			folder := t.TempDir()
			if _, err := Restore(t.Context(), file, filepath.Join(folder, "dogbolt.db")); err == nil || !strings.Contains(err.Error(), c.says) {
				t.Errorf("%v, want %q", err, c.says)
			}
			if got := left(t, folder); len(got) > 0 {
				t.Errorf("left behind: %v", got)
			}
		})
	}
}

// change runs a statement on a database as another program would.
func change(file, statement string) error {
	db, _, err := connect(file, "", 1)
	if err != nil {
		return err
	}
	sql, err := db.DB()
	if err != nil {
		return err
	}
	return errors.Join(db.Exec(statement).Error, db.Exec("PRAGMA wal_checkpoint(TRUNCATE)").Error, sql.Close())
}

// TestBackupIsWholeOrNotThere: a copy of a database whose picture is gone gets no name, and
// what an interrupted one left is no hindrance.
func TestBackupIsWholeOrNotThere(t *testing.T) {
	file, digest := copied(t)
	s, err := Open(file)
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	folder := t.TempDir()
	again := filepath.Join(folder, "again.db")
	if err := errors.Join(os.WriteFile(again+".part", []byte("half"), 0o600), os.Mkdir(photoFolder(again+".part"), 0o700)); err != nil {
		t.Fatal(err)
	}
	if err := s.Backup(t.Context(), again); err != nil {
		t.Fatal(err)
	}
	if err := os.Remove(kept(file, digest, picture)); err != nil {
		t.Fatal(err)
	}
	worse := t.TempDir()
	if err := s.Backup(t.Context(), filepath.Join(worse, "worse.db")); err == nil || !strings.Contains(err.Error(), "is gone") {
		t.Errorf("a copy without a picture: %v", err)
	}
	if got := left(t, worse); len(got) > 0 {
		t.Errorf("left behind: %v", got)
	}
}

// TestOlderProgram: a database that a newer version wrote is not opened.
func TestOlderProgram(t *testing.T) {
	file, _ := copied(t)
	if err := change(file, "INSERT INTO migrations (id) VALUES ('9999-moon')"); err != nil {
		t.Fatal(err)
	}
	if s, err := Open(file); !errors.Is(err, ErrNewer) {
		s.Close()
		t.Errorf("opened: %v", err)
	}
}

// TestCopyBeforeUpgrade: what an older program wrote is copied before it is changed, once.
func TestCopyBeforeUpgrade(t *testing.T) {
	file := filepath.Join(t.TempDir(), "old.db")
	files, err := fs.Glob(migrations, "migrations/*.sql")
	if err != nil {
		t.Fatal(err)
	}
	db, pool, err := connect(file, "", 1)
	if err != nil {
		t.Fatal(err)
	}
	const revision = 14 // the step after it gives jobs one
	err = errors.Join(migrateBy(db, files[:revision]), db.Exec("INSERT INTO jobs (id, number, rulebook, customer, stage, stops, opens, next_date) VALUES ('a', 'N-a', 'x', 'Zoë Ångström', 'design', 0, 2, '2026-05-04')").Error,
		db.Exec(`INSERT INTO bookings (job_id, number, people, day) VALUES ('a', 'N-a', CAST('["K. Osei"]' AS BLOB), '2026-05-04')`).Error,
		db.Exec("INSERT INTO settings (key, value) VALUES ('k', 'v')").Error, pool.Close())
	if err != nil {
		t.Fatal(err)
	}
	for range 2 {
		s, err := Open(file)
		if err != nil {
			t.Fatal(err)
		}
		// What the new version keeps beside is there for what was there before.
		for _, f := range []Filter{{}, {Search: "zoe ang"}, {Stage: "design", InWay: Opens}, {Only: "k. osei", Search: "n-a"}} {
			f.Limit = 5
			if list, err := s.Jobs(t.Context(), f); err != nil || list.Total != 1 || len(list.Jobs) != 1 {
				t.Errorf("%+v after the upgrade: %+v %v", f, list, err)
			}
		}
		if v, err := s.SettingsOf(t.Context(), "k"); err != nil || string(v["k"]) != "v" {
			t.Errorf("what was settled: %q %v", v, err)
		}
		before, err := s.Job(t.Context(), "a")
		if err != nil {
			t.Fatal(err)
		}
		write(t, s, func(tx *Tx) error {
			_, err := tx.AddEntry(entry("a", fmt.Sprint("device-", before.Revision)))
			return err
		})
		if now, err := s.Job(t.Context(), "a"); err != nil || now.Revision != before.Revision+1 {
			t.Errorf("revision %d after %d, %v", now.Revision, before.Revision, err)
		}
		s.Close()
	}
	before := file + ".before-0015-revision"
	s, end, err := look(t.Context(), before)
	if err != nil {
		t.Fatal(err)
	}
	defer end()
	var jobs, revisions int64
	if err := s.read.Table("jobs").Count(&jobs).Error; err != nil || jobs != 1 {
		t.Errorf("%d jobs, %v", jobs, err)
	}
	if err := s.read.Table("jobs").Select("SUM(revision)").Scan(&revisions).Error; err == nil {
		t.Error("the copy was changed too")
	}
	if others, _ := filepath.Glob(file + ".before-*"); len(others) != 1 {
		t.Errorf("copies: %v", others)
	}
	if s, err := Open(filepath.Join(t.TempDir(), "new.db")); err != nil || s.Close() != nil {
		t.Fatal(err)
	} else if others, _ := filepath.Glob(s.path + ".before-*"); len(others) != 0 {
		t.Errorf("of a new database: %v", others)
	}
}
