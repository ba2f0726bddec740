package rooms

import (
	"bytes"
	"database/sql"
	"encoding/base64"
	"encoding/json"
	"errors"
	"io"
	"log/slog"
	"mime"
	"mime/multipart"
	"net/mail"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"dogbolt/core/job"
	"dogbolt/core/record"
	"dogbolt/internal/keyring"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/rooms/records"
	"dogbolt/internal/standin"
	"dogbolt/internal/store"
)

// ward is a firm with a job that was sealed and noted, and a way to write its database as
// somebody would who has the file.
type ward struct {
	t      *testing.T
	a      *Rooms
	job    jobs.View
	folder string
	raw    *sql.DB
}

func newWard(t *testing.T) *ward {
	t.Helper()
	folder := t.TempDir()
	s, err := store.Open(filepath.Join(folder, "test.db"))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { s.Close() })
	a := New(s, slog.New(slog.DiscardHandler), standin.Instruments{})
	if err := a.Firm.SetContractor(ctx, office, record.Contractor{Name: "Quill and Beacon Electrical"}); err != nil {
		t.Fatal(err)
	}
	w := &ward{t: t, a: a, folder: folder, job: imported(t, a, "uk-pass.json")}
	if _, err := a.Jobs.AddPhoto(ctx, verifier, w.job.Summary.ID, picture(t, 320, 240)); err != nil {
		t.Fatal(err)
	}
	if w.job, err = a.Records.Seal(ctx, verifier, w.job.Summary.ID); err != nil {
		t.Fatal(err)
	}
	if err := a.Doctor.Note(ctx); err != nil {
		t.Fatal(err)
	}
	if w.raw, err = sql.Open("sqlite", filepath.Join(folder, "test.db")); err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { w.raw.Close() })
	for _, trigger := range []string{"entries_no_update", "entries_no_delete", "records_no_update", "records_no_delete", "chain_no_update", "chain_no_delete"} {
		w.do("DROP TRIGGER " + trigger)
	}
	return w
}

func (w *ward) do(statement string) {
	w.t.Helper()
	if _, err := w.raw.Exec(statement); err != nil {
		w.t.Fatalf("%s: %v", statement, err)
	}
}

// found is what the doctor says, all in one line.
func (w *ward) found() string {
	w.t.Helper()
	r, err := w.a.Doctor.Look(ctx)
	if err != nil {
		w.t.Fatal(err)
	}
	var said []string
	for _, f := range r.Faults {
		said = append(said, f.String())
	}
	return strings.Join(said, "; ")
}

// relinked makes the chain of every job anew, as somebody would who has the program.
func (w *ward) relinked() {
	w.t.Helper()
	w.do("DELETE FROM chain")
	w.do("DROP TABLE chain")
	w.do("DELETE FROM migrations WHERE id = '0010-chain'")
	s, err := store.Open(filepath.Join(w.folder, "test.db"))
	if err != nil {
		w.t.Fatal(err)
	}
	s.Close()
}

// first is the log's first entry, in SQL.
const first = "(SELECT id FROM entries ORDER BY seq LIMIT 1)"

// TestDoctor: what somebody does who can write the database and the files is found.
func TestDoctor(t *testing.T) {
	for _, c := range []struct {
		name string
		do   func(*ward)
		want string // "" for sound
	}{
		{"nothing", func(*ward) {}, ""},
		{"an entry is changed", func(w *ward) {
			w.do(`UPDATE entries SET body = CAST(replace(CAST(body AS TEXT), '"value":"0.', '"value":"0.0') AS BLOB)`)
		}, "is not as it was written"},
		{"an entry is replaced", func(w *ward) {
			w.do(`INSERT OR REPLACE INTO entries(seq, id, job_id, at, body, received) SELECT seq, id, job_id, at, CAST('{"id":"00000000","kind":"note","at":"2026-05-04T09:00:00Z"}' AS BLOB), received FROM entries WHERE id = ` + first)
		}, "is not as it was written"},
		{"an entry is taken out", func(w *ward) { w.do(`DELETE FROM entries WHERE id = ` + first) }, "is gone"},
		{"an entry is put in", func(w *ward) {
			w.do(`INSERT INTO entries(id, job_id, at, body, received) SELECT 'forged-0001', job_id, at, replace(CAST(body AS TEXT), id, 'forged-0001'), received FROM entries WHERE id = ` + first)
		}, "entry forged-0001 is there, and the chain does not know it"},
		{"an entry is dated back", func(w *ward) {
			w.do(`UPDATE entries SET received = '2020-01-01 00:00:00+00:00' WHERE id = ` + first)
		}, "by the log"},
		{"a link is taken out", func(w *ward) { w.do(`DELETE FROM chain WHERE n = 3`) }, "does not follow"},
		{"a record is replaced", func(w *ward) { w.do(`UPDATE records SET inspection = CAST('%PDF-' AS BLOB)`) }, "record 1 is not as it was written"},
		{"a record is changed", func(w *ward) {
			w.do(`UPDATE records SET file = CAST(replace(CAST(file AS TEXT), '"issue":1', '"issue":2') AS BLOB)`)
		}, "was changed after it was sealed"},
		{"the log and its chain are made anew", func(w *ward) {
			w.do(`UPDATE entries SET body = CAST(replace(CAST(body AS TEXT), '"by":"', '"by":"Not ') AS BLOB)`)
			w.relinked()
		}, "was sealed over another log than is there"},
		{"the chain is made anew before anything was sealed", func(w *ward) {
			w.do(`DELETE FROM records`)
			w.do(`UPDATE entries SET body = CAST(replace(CAST(body AS TEXT), '"by":"', '"by":"Not ') AS BLOB)`)
			w.relinked()
		}, "when it was noted, and has fewer now"},
		{"a log and its chain are made anew that no record was sealed over", func(w *ward) {
			v := imported(w.t, w.a, "us-pass.json")
			if err := w.a.Doctor.Note(ctx); err != nil {
				w.t.Fatal(err)
			}
			w.do(`UPDATE entries SET body = CAST(replace(CAST(body AS TEXT), '"by":"', '"by":"Not ') AS BLOB) WHERE job_id = '` + v.Summary.ID + `'`)
			w.relinked()
		}, "is not the one that was noted"},
		{"a job is gone", func(w *ward) {
			w.do(`PRAGMA foreign_keys = OFF`)
			w.do(`DELETE FROM jobs`)
		}, "a job is gone"},
		{"a picture is replaced", func(w *ward) {
			list, _ := filepath.Glob(w.folder + "/test.db.photos/*/*.jpg")
			if err := os.WriteFile(list[0], []byte("another"), 0o600); err != nil || len(list) != 1 {
				w.t.Fatal(list, err)
			}
		}, "is not as it was kept"},
		{"a picture is gone", func(w *ward) { os.RemoveAll(w.folder + "/test.db.photos") }, "is gone"},
		{"a job cannot be opened", func(w *ward) { w.do(`UPDATE sections SET body = CAST('{' AS BLOB) WHERE name = 'plan'`) }, "cannot be opened"},
		{"a note is changed", func(w *ward) {
			file := w.folder + "/heads/heads-000001.json"
			b, err := os.ReadFile(file)
			if err != nil {
				w.t.Fatal(err)
			}
			if err := os.WriteFile(file, []byte(strings.Replace(string(b), `"n":1,`, `"n":2,`, 1)), 0o600); err != nil {
				w.t.Fatal(err)
			}
		}, "heads-000001.json is not as it was signed"},
		{"a note is signed by somebody else, who is in the register", func(w *ward) {
			k, err := keyring.New("Somebody else", time.Now())
			if err != nil {
				w.t.Fatal(err)
			}
			old := w.a.Firm.Ring
			w.a.Firm.Ring = keyring.Ring{File: w.folder + "/other.p12"}
			if err := w.a.Firm.Ring.Save(k, time.Now()); err != nil {
				w.t.Fatal(err)
			}
			again := New(w.a.store, slog.New(slog.DiscardHandler), standin.Instruments{})
			again.Firm.Ring = w.a.Firm.Ring
			if err := os.RemoveAll(w.folder + "/heads"); err != nil {
				w.t.Fatal(err)
			}
			if err := again.Doctor.Note(ctx); err != nil {
				w.t.Fatal(err)
			}
			w.a.Firm.Ring = old
		}, "signed with a key that is not the firm's"},
	} {
		t.Run(c.name, func(t *testing.T) {
			t.Parallel()
			w := newWard(t)
			c.do(w)
			if said := w.found(); (c.want == "") != (said == "") || !strings.Contains(said, c.want) {
				t.Errorf("found %q, want %q", said, c.want)
			}
		})
	}
}

// TestReplacedIsNotServed: a picture or a record that is not the one that was kept is never
// sent.
func TestReplacedIsNotServed(t *testing.T) {
	w := newWard(t)
	list, err := filepath.Glob(w.folder + "/test.db.photos/*/*.jpg")
	if err != nil || len(list) != 1 {
		t.Fatal(list, err)
	}
	digest := strings.TrimSuffix(filepath.Base(list[0]), ".jpg")
	if _, err := w.a.Jobs.Photo(ctx, verifier, w.job.Summary.ID, digest); err != nil {
		t.Fatal(err)
	}
	if err := os.WriteFile(list[0], []byte("another"), 0o600); err != nil {
		t.Fatal(err)
	}
	if b, err := w.a.Jobs.Photo(ctx, verifier, w.job.Summary.ID, digest); !errors.Is(err, store.ErrReplaced) {
		t.Errorf("%d bytes, %v", len(b), err)
	}
	w.do(`UPDATE records SET handover = CAST('%PDF-' AS BLOB)`)
	for _, kind := range []records.SealedKind{"handover", "record"} {
		if p, err := w.a.Records.Paper(ctx, verifier, w.job.Summary.ID, 1, kind); !errors.Is(err, store.ErrReplaced) {
			t.Errorf("%s: %d bytes, %v", kind, len(p.Data), err)
		}
	}
}

// TestSealNamesItsLog: a record holds the head of the chain that it was sealed over, and the
// account that sealed it; entries hold the account that wrote them.
func TestSealNamesItsLog(t *testing.T) {
	w := newWard(t)
	p, err := w.a.Records.Paper(ctx, verifier, w.job.Summary.ID, 1, records.SealedKind("record"))
	if err != nil {
		t.Fatal(err)
	}
	s, err := record.Open(p.Data)
	if err != nil {
		t.Fatal(err)
	}
	if s.Record.Chain == nil || s.Record.Chain.N != int64(len(s.Record.Job.Log)) || s.Record.Account != verifier.ID {
		t.Errorf("%+v, account %q, %d entries", s.Record.Chain, s.Record.Account, len(s.Record.Job.Log))
	}
	v := imported(t, w.a, "us-pass.json")
	v, err = w.a.Journal.Append(ctx, verifier, v.Summary.ID, []job.Entry{{ID: "note-00001", Kind: job.Noted, At: time.Now(), Reason: "a word"}}, nil)
	if err != nil {
		t.Fatal(err)
	}
	if e := v.Job.Log[len(v.Job.Log)-1]; e.Person != verifier.ID || e.By != verifier.Name {
		t.Errorf("%+v", e)
	}
}

// TestKeys: the key is a file, not in the database; one that is lost is not replaced without
// a word; a new one vouches for the old, and what the old sealed and noted stays good.
func TestKeys(t *testing.T) {
	w := newWard(t)
	file := w.a.Firm.Ring.File
	if info, err := os.Stat(file); err != nil || info.Mode().Perm() != 0o600 {
		t.Fatal(info, err)
	}
	var inside int
	if err := w.raw.QueryRow(`SELECT COUNT(*) FROM settings WHERE key LIKE '%key%'`).Scan(&inside); err != nil || inside != 0 {
		t.Errorf("%d keys in the database, %v", inside, err)
	}
	old, _, err := w.a.Firm.PublicKey(ctx)
	if err != nil {
		t.Fatal(err)
	}
	again := func() *Rooms { return New(w.a.store, slog.New(slog.DiscardHandler), standin.Instruments{}) }
	if now, _, err := again().Firm.PublicKey(ctx); now != old {
		t.Errorf("after a restart %q, before %q, %v", now, old, err)
	}
	if err := os.Remove(file); err != nil {
		t.Fatal(err)
	}
	lost := again()
	if _, err := lost.Firm.SealingKey(ctx); !errors.Is(err, people.ErrBlocked) || !strings.Contains(err.Error(), "is gone") {
		t.Errorf("a lost key: %v", err)
	}
	if said, err := lost.Doctor.Look(ctx); err != nil || len(said.Faults) != 1 || !strings.Contains(said.Faults[0].What, "sealing key is gone") {
		t.Errorf("%+v %v", said.Faults, err)
	}
	if _, err := lost.Firm.NewKey(ctx, "command line", "lost"); field(err) != "why" {
		t.Errorf("without a reason: %v", err)
	}
	if _, err := lost.Firm.NewKey(ctx, "command line", "the disk of the office is gone"); err != nil {
		t.Fatal(err)
	}
	for _, a := range []*Rooms{lost, again()} {
		if known, err := a.Firm.Known(ctx, old); err != nil || !known {
			t.Errorf("the old key is not known: %v", err)
		}
		if said, err := a.Doctor.Look(ctx); err != nil || len(said.Faults) != 0 {
			t.Errorf("%+v %v", said.Faults, err)
		}
	}
	list, err := lost.Firm.Keys(ctx)
	if err != nil || len(list) != 2 || list[1].Why != "the disk of the office is gone" || list[0].Endorsement == "" {
		t.Errorf("%+v %v", list, err)
	}
	// A stranger's key that was put into the register is nobody's.
	stranger, err := keyring.New("Somebody else", time.Now())
	if err != nil {
		t.Fatal(err)
	}
	body, err := record.Canonical(map[string]string{"format": "dogbolt.key/1", "follows": stranger.Public()})
	if err != nil {
		t.Fatal(err)
	}
	own, err := stranger.SealBytes(body)
	if err != nil {
		t.Fatal(err)
	}
	vouched, err := json.Marshal(own)
	if err != nil {
		t.Fatal(err)
	}
	for _, endorsement := range []string{"", string(vouched)} {
		w.do(`INSERT OR REPLACE INTO sealing_keys(public, certificate, since, by, why, endorsement) VALUES ('` + stranger.Public() + `', 'x', '2020-01-01 00:00:00+00:00', 'x', 'x', '` + endorsement + `')`)
		if known, _ := lost.Firm.Known(ctx, stranger.Public()); known {
			t.Error("a stranger's key is the firm's")
		}
	}
}

// TestOlderKey: the key that an older program kept in the database is taken out of it, and
// what it sealed is the firm's.
func TestOlderKey(t *testing.T) {
	a := newApp(t)
	const seed = "0123456789abcdef0123456789abcdef"
	if err := a.store.Write(ctx, func(tx *store.Tx) error { return tx.Settings().Set("sealing-key", []byte(seed)) }); err != nil {
		t.Fatal(err)
	}
	if _, err := a.Firm.SealingKey(ctx); err != nil {
		t.Fatal(err)
	}
	if _, err := a.store.Setting(ctx, "sealing-key"); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("still in the database: %v", err)
	}
	file, err := os.ReadFile("../../core/record/testdata/older-seal.json")
	if err != nil {
		t.Fatal(err)
	}
	s, err := record.Open(file)
	if err != nil {
		t.Fatal(err)
	}
	if known, err := a.Firm.Known(ctx, s.Seal.Key); err != nil || !known {
		t.Errorf("an older record is a stranger's: %v", err)
	}
}

// TestKeyWithPassphrase: a key with a passphrase opens with it alone.
func TestKeyWithPassphrase(t *testing.T) {
	k, err := keyring.New("Quill and Beacon Electrical", time.Now())
	if err != nil {
		t.Fatal(err)
	}
	ring := keyring.Ring{File: filepath.Join(t.TempDir(), "key.p12"), Passphrase: "seven bolts"}
	if err := ring.Save(k, time.Now()); err != nil {
		t.Fatal(err)
	}
	if again, err := ring.Load(); err != nil || again.Public() != k.Public() {
		t.Error(err)
	}
	if _, err := (keyring.Ring{File: ring.File}).Load(); err == nil || !strings.Contains(err.Error(), "passphrase") {
		t.Errorf("without it: %v", err)
	}
}

// TestHeadsByMail: each note of the heads goes to whoever is to have it, and a folder of
// notes that came by mail finds a chain that was made anew.
func TestHeadsByMail(t *testing.T) {
	w := newWard(t)
	drop := standin.MailDrop{Folder: t.TempDir()}
	w.a.Connect(Outside{Mail: drop})
	w.a.Doctor.MailTo = "keeper@bolts.example"
	if _, err := w.a.Records.Amend(ctx, verifier, w.job.Summary.ID, "serial number was wrong"); err != nil {
		t.Fatal(err)
	}
	if _, err := w.a.Journal.Append(ctx, installer, w.job.Summary.ID, []job.Entry{{ID: "device-0100", Kind: job.Noted, Reason: "late", At: time.Now()}}, nil); err != nil {
		t.Fatal(err)
	}
	if err := w.a.Doctor.Note(ctx); err != nil {
		t.Fatal(err)
	}
	file, err := os.Open(drop.Path("heads-000002"))
	if err != nil {
		t.Fatal(err)
	}
	defer file.Close()
	m, err := mail.ReadMessage(file)
	if err != nil || m.Header.Get("To") != "keeper@bolts.example" {
		t.Fatal(m, err)
	}
	got, err := io.ReadAll(m.Body)
	if err != nil {
		t.Fatal(err)
	}
	_, parameters, err := mime.ParseMediaType(m.Header.Get("Content-Type"))
	if err != nil {
		t.Fatal(err)
	}
	parts := multipart.NewReader(bytes.NewReader(got), parameters["boundary"])
	want, err := os.ReadFile(filepath.Join(w.a.Doctor.Notes, "heads-000002.json"))
	if err != nil {
		t.Fatal(err)
	}
	for {
		p, err := parts.NextPart()
		if err != nil {
			t.Fatalf("no such attachment: %v", err)
		}
		if p.FileName() == "heads-000002.json" {
			if b, err := io.ReadAll(base64.NewDecoder(base64.StdEncoding, p)); err != nil || !bytes.Equal(b, want) {
				t.Errorf("%v, %d bytes of %d", err, len(b), len(want))
			}
			return
		}
	}
}
