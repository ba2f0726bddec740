package replica

import (
	"context"
	"fmt"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/johannesboyne/gofakes3"
	"github.com/johannesboyne/gofakes3/backend/s3mem"

	"dogbolt/internal/store"
)

var ctx = context.Background()

// targets are a folder, and a bucket of a service that speaks S3's protocol.
func targets(t *testing.T) map[string]string {
	return map[string]string{"folder": filepath.Join(t.TempDir(), "replica"), "bucket": rented(t, func(*http.Request) {})}
}

// rented is a service that speaks S3's protocol, on a line that each thing sent has to pass.
func rented(t *testing.T, line func(*http.Request)) string {
	t.Helper()
	backend := s3mem.New()
	if err := backend.CreateBucket("firm"); err != nil {
		t.Fatal(err)
	}
	service := gofakes3.New(backend).Server()
	srv := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.Method == http.MethodPut {
			line(r)
		}
		service.ServeHTTP(w, r)
	}))
	t.Cleanup(srv.Close)
	t.Setenv("AWS_ACCESS_KEY_ID", "of-the-test")
	t.Setenv("AWS_SECRET_ACCESS_KEY", "of-the-test")
	t.Setenv("AWS_CA_BUNDLE", "") // of the machine
	return "s3://firm/dogbolt?endpoint=" + srv.URL
}

func open(t *testing.T, folder string) *store.Store {
	t.Helper()
	s, err := store.Open(filepath.Join(folder, "dogbolt.db"))
	if err != nil {
		t.Fatal(err)
	}
	return s
}

// site is a database with a replica.
type site struct {
	t      *testing.T
	store  *store.Store
	target *Target
	kept   *Replica
	n      int
}

func begin(t *testing.T, address string) *site {
	t.Helper()
	s := &site{t: t, store: open(t, t.TempDir())}
	var err error
	if s.target, err = At(address); err != nil {
		t.Fatal(err)
	}
	if err := s.store.LeaveCheckpoints(ctx); err != nil {
		t.Fatal(err)
	}
	if s.kept, err = Start(s.store.Path(), s.target, 0); err != nil {
		t.Fatal(err)
	}
	if st := s.kept.State(); st.Behind == 0 {
		t.Errorf("nobody has looked, and it has all: %+v", st)
	}
	s.store.OnFile = s.kept.Picture
	s.write(func(tx *store.Tx) error { return tx.CreateJob(store.Job{ID: "j", Number: "DB-1", Rulebook: "x"}) })
	return s
}

func (s *site) write(f func(*store.Tx) error) {
	s.t.Helper()
	if err := s.store.Write(ctx, f); err != nil {
		s.t.Fatal(err)
	}
}

func (s *site) log(n int) {
	s.t.Helper()
	for range n {
		s.n++
		id := fmt.Sprintf("device-%06d", s.n)
		s.write(func(tx *store.Tx) error {
			now := time.Now().UTC()
			_, err := tx.AddEntry(store.Entry{ID: id, JobID: "j", At: now, Body: []byte("{}"), Received: now})
			return err
		})
	}
}

// had is when the last pass began.
func (s *site) had() time.Time {
	s.kept.mu.Lock()
	defer s.kept.mu.Unlock()
	return s.kept.had
}

func (s *site) caughtUp() {
	s.t.Helper()
	for began := time.Now(); time.Since(began) < 20*time.Second; time.Sleep(20 * time.Millisecond) {
		if s.had().After(began) && s.kept.State().Waiting == 0 {
			return
		}
	}
	s.t.Fatalf("it does not catch up: %+v", s.kept.State())
}

// restored gets a target back and returns how many entries it has.
func restored(t *testing.T, target *Target, at time.Time) (entries int64, files []string, err error) {
	t.Helper()
	m, err := store.RestoreFrom(ctx, Past{target, at}, filepath.Join(t.TempDir(), "dogbolt.db"))
	return m.Entries, m.Files, err
}

// TestThereAndBack: what was written is elsewhere within moments, with its pictures, and comes
// back as it was last, or at a time.
func TestThereAndBack(t *testing.T) {
	for name, address := range targets(t) {
		t.Run(name, func(t *testing.T) {
			s := begin(t, address)
			s.log(10)
			if info, err := os.Stat(address); name == "folder" && (err != nil || info.Mode().Perm() != 0o700) {
				t.Errorf("the folder is %v, %v", info.Mode(), err)
			}
			data := []byte("a picture")
			digest := "7f2b4f2c7d1b6a3f5f5e6d6c8b9a0f1e2d3c4b5a69788796a5b4c3d2e1f00112"
			if err := s.store.PutPhoto(digest, data); err != nil {
				t.Fatal(err)
			}
			s.caughtUp()
			time.Sleep(1100 * time.Millisecond) // times of files are whole seconds in some places
			ten := time.Now()
			time.Sleep(1100 * time.Millisecond)
			s.log(15)
			s.caughtUp()
			if n, _, err := restored(t, s.target, time.Time{}); err != nil || n != 25 {
				t.Errorf("%d entries of 25: %v", n, err)
			}
			if n, _, err := restored(t, s.target, ten); err != nil || n != 10 {
				t.Errorf("at that time: %d entries of 10: %v", n, err)
			}
			if _, _, err := restored(t, s.target, ten.Add(-time.Hour)); err == nil || !strings.Contains(err.Error(), "the replica goes from") {
				t.Errorf("before it began: %v", err)
			}
			to := filepath.Join(t.TempDir(), "back", "x")
			if err := (Past{Target: s.target}).Picture(ctx, digest+".jpg", to); err != nil {
				t.Fatal(err)
			}
			if b, _ := os.ReadFile(to); string(b) != string(data) {
				t.Errorf("the picture came back as %q", b)
			}
			if err := (Past{Target: s.target}).Picture(ctx, strings.Repeat("0", 64)+".jpg", to+"-none"); err == nil {
				t.Error("a picture that nobody sent came back")
			}

			// It goes on after a restart, and sends the pictures that came meanwhile.
			path := s.store.Path()
			if err := s.kept.Close(); err != nil {
				t.Fatal(err)
			}
			s.store.OnFile = nil
			other := strings.Repeat("ab", 32)
			if err := s.store.PutFile(other, data); err != nil {
				t.Fatal(err)
			}
			s.log(5)
			var err error
			if s.kept, err = Start(path, s.target, 0); err != nil {
				t.Fatal(err)
			}
			s.log(5)
			s.caughtUp()
			if n, _, err := restored(t, s.target, time.Time{}); err != nil || n != 35 {
				t.Errorf("after a restart: %d entries of 35: %v", n, err)
			}
			if err := (Past{Target: s.target}).Picture(ctx, other+".file", to+"-other"); err != nil {
				t.Error(err)
			}
			s.log(1)
			if err := s.kept.Close(); err != nil { // what is still to be sent is sent
				t.Fatal(err)
			}
			if n, _, err := restored(t, s.target, time.Time{}); err != nil || n != 36 {
				t.Errorf("at its end: %d entries of 36: %v", n, err)
			}
			s.store.Close()

			// Another folder's database does not get mixed with it.
			second := open(t, t.TempDir())
			defer second.Close()
			if r, err := Start(second.Path(), s.target, 0); err == nil || !strings.Contains(err.Error(), "another folder") {
				r.Close()
				t.Errorf("another database: %v", err)
			}
		})
	}
}

// TestSlowLine: over a line that takes half a second for whatever is sent, a replica under load
// does not fall further and further behind: what is there has all that was written before the last
// pass began. That is counted by passes and not by the clock, so that a slow machine changes
// nothing; a pass is more than one thing sent where the database was written back between.
func TestSlowLine(t *testing.T) {
	s := begin(t, rented(t, func(*http.Request) { time.Sleep(500 * time.Millisecond) }))
	defer s.store.Close()
	s.caughtUp()
	var ended []int // of each pass: how many entries were written when it was seen to have ended
	had := s.had()
	for began := time.Now(); time.Since(began) < 6*time.Second; time.Sleep(10 * time.Millisecond) {
		s.log(1)
		if now := s.had(); now != had {
			had, ended = now, append(ended, s.n)
		}
	}
	if len(ended) < 4 {
		t.Fatalf("only %d passes went over the line", len(ended))
	}
	due := int64(ended[len(ended)-2]) - 1 // the last entry may be later than the pass's end
	if n, _, err := restored(t, s.target, time.Time{}); err != nil || n < due {
		t.Errorf("%d entries are there, %d were written before the last pass began: %v", n, due, err)
	}
	if err := s.kept.Close(); err != nil {
		t.Fatal(err)
	}
}

// TestPictureIsMissing: a replica whose picture is gone is not restored, and leaves nothing.
func TestPictureIsMissing(t *testing.T) {
	s := begin(t, filepath.Join(t.TempDir(), "replica"))
	defer s.store.Close()
	digest := strings.Repeat("cd", 32)
	s.write(func(tx *store.Tx) error {
		return tx.AddPhoto(store.Photo{JobID: "j", Digest: digest, At: time.Now()})
	})
	s.caughtUp()
	if err := s.kept.Close(); err != nil {
		t.Fatal(err)
	}
	folder := t.TempDir()
	_, err := store.RestoreFrom(ctx, Past{Target: s.target}, filepath.Join(folder, "dogbolt.db"))
	if err == nil || !strings.Contains(err.Error(), "missing") {
		t.Errorf("restored: %v", err)
	}
	if left, _ := os.ReadDir(folder); len(left) > 0 {
		t.Errorf("left behind: %v", left)
	}
}

// TestPlaceFails: a replica whose place cannot be written to says so and how far it is behind,
// nobody's work waits for it, and it catches up.
func TestPlaceFails(t *testing.T) {
	folder := filepath.Join(t.TempDir(), "replica")
	s := begin(t, folder)
	defer s.store.Close()
	s.log(3)
	s.caughtUp()
	away := folder + "-away"
	if err := os.Rename(folder, away); err != nil {
		t.Fatal(err)
	}
	if err := os.WriteFile(folder, nil, 0o600); err != nil { // a file stands in its place
		t.Fatal(err)
	}
	picture := strings.Repeat("ef", 32)
	if err := s.store.PutPhoto(picture, []byte("a picture")); err != nil {
		t.Fatal(err)
	}
	began := time.Now()
	s.log(20)
	if took := time.Since(began); took > 10*time.Second {
		t.Errorf("twenty entries took %s", took)
	}
	deadline := time.Now().Add(20 * time.Second)
	for s.kept.State().Behind < time.Second || s.kept.State().Problem == "" || s.kept.State().Waiting != 1 {
		if time.Now().After(deadline) {
			t.Fatalf("%+v", s.kept.State())
		}
		time.Sleep(50 * time.Millisecond)
	}
	if (State{Behind: Late - time.Second}).Failing() || !(State{Behind: Late + time.Second}).Failing() {
		t.Error("when a person has to look")
	}
	if err := os.Remove(folder); err != nil {
		t.Fatal(err)
	}
	if err := os.Rename(away, folder); err != nil {
		t.Fatal(err)
	}
	s.caughtUp()
	if st := s.kept.State(); st.Problem != "" || st.Behind > time.Second {
		t.Errorf("after it caught up: %+v", st)
	}
	if err := (Past{Target: s.target}).Picture(ctx, picture+".jpg", filepath.Join(t.TempDir(), "x")); err != nil {
		t.Errorf("the picture that waited: %v", err)
	}
	if err := s.kept.Close(); err != nil {
		t.Fatal(err)
	}
	if n, _, err := restored(t, s.target, time.Time{}); err != nil || n != 23 {
		t.Errorf("%d entries of 23: %v", n, err)
	}
}

// TestAddresses: what is no place is refused.
func TestAddresses(t *testing.T) {
	for _, a := range []string{"ftp://host/x", "s3://", "s3:///prefix"} {
		if _, err := At(a); err == nil {
			t.Errorf("%s is taken", a)
		}
	}
}
