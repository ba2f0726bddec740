package rooms

import (
	"archive/zip"
	"bytes"
	"errors"
	"log/slog"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"dogbolt/core/job"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/rooms/records"
	"dogbolt/internal/standin"
	"dogbolt/internal/store"
)

// TestErase: a customer's data go from the job, lists, search, pictures and the database's own
// bytes; the sealed record and the log stay, and the doctor finds all as it was written.
func TestErase(t *testing.T) {
	w := newWard(t)
	a, id := w.a, w.job.Summary.ID
	was := w.job.Job.Site
	if was.Customer == "" || was.Street == "" {
		t.Fatalf("%+v", was)
	}
	name, data, err := a.Jobs.Personal(ctx, office, id)
	if err != nil || !strings.HasSuffix(name, ".zip") {
		t.Fatal(name, err)
	}
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		t.Fatal(err)
	}
	var inside []string
	for _, f := range z.File {
		inside = append(inside, strings.Split(f.Name, "/")[0])
	}
	if got := strings.Join(inside, " "); got != "job.json photos record-1.json" {
		t.Errorf("in the ZIP: %s", got)
	}
	policy, err := a.Firm.PolicyNow(ctx)
	if err != nil {
		t.Fatal(err)
	}
	policy.KeepYears = 6
	if err := a.Firm.SetPolicy(ctx, office, policy); err != nil {
		t.Fatal(err)
	}
	const reason = "asked by letter of 3 May"
	if _, err := a.Jobs.Erase(ctx, office, id, reason); !errors.Is(err, people.ErrBlocked) || !strings.Contains(err.Error(), "for 6 years") {
		t.Errorf("before the time: %v", err)
	}
	a.now = func() time.Time { return time.Now().UTC().AddDate(7, 0, 0).Truncate(time.Millisecond) }
	if _, err := a.Jobs.Erase(ctx, office, id, "asked"); field(err) != "reason" {
		t.Errorf("without a reason: %v", err)
	}
	if _, err := a.Jobs.Erase(ctx, verifier, id, reason); !errors.Is(err, people.ErrForbidden) {
		t.Errorf("a verifier: %v", err)
	}
	v, err := a.Jobs.Erase(ctx, office, id, reason)
	if err != nil {
		t.Fatal(err)
	}
	if s := v.Job.Site; s.Customer != "taken out on request" || s.Street+s.Phone+s.Email+s.Town+s.Postcode+s.Note != "" || v.Summary.Address != "" {
		t.Errorf("%+v %+v", s, v.Summary)
	}
	for _, word := range []string{was.Customer, was.Street} {
		if list, err := a.Jobs.Jobs(ctx, office, store.Filter{Search: word, Limit: 5}); err != nil || list.Total != 0 {
			t.Errorf("found by %q: %+v %v", word, list, err)
		}
	}
	if list, _ := filepath.Glob(w.folder + "/test.db.photos/*/*.jpg"); len(list) != 0 {
		t.Errorf("pictures: %v", list)
	}
	if p, err := a.Records.Paper(ctx, office, id, 1, records.SealedKind("record")); err != nil || !strings.Contains(string(p.Data), was.Customer) {
		t.Errorf("the sealed record: %v", err)
	}
	if len(v.Job.Log) != len(w.job.Job.Log) {
		t.Errorf("%d entries, %d before", len(v.Job.Log), len(w.job.Job.Log))
	}
	if said := w.found(); said != "" {
		t.Errorf("the doctor: %s", said)
	}
}

// TestErasedFromTheFile: what was taken out is not in the database's file either. No record
// has it here.
func TestErasedFromTheFile(t *testing.T) {
	folder := t.TempDir()
	s, err := store.Open(filepath.Join(folder, "test.db"))
	if err != nil {
		t.Fatal(err)
	}
	a := New(s, slog.New(slog.DiscardHandler), standin.Instruments{})
	const name = "Thistlewick-Ramsbottom"
	v, err := a.Jobs.CreateJob(ctx, office, jobs.NewJob{Rulebook: "nec:2023", Points: 1, Site: job.Site{Customer: name, Street: "9 Nowhere Lane"}})
	if err != nil {
		t.Fatal(err)
	}
	// The customer stands on forms too, and in what an older program left.
	withPapers(t, a, v, func(p *job.Paper) {
		p.Answers, p.SignedBy = map[string]string{"applicant": name}, name
		p.Replies = []job.Reply{{On: "2026-05-04", Outcome: job.Bounced, Reasons: []string{"the bill says Thistlewick"}}}
	})
	err = s.Write(ctx, func(tx *store.Tx) error {
		body := []byte(`{"open":[],"settled":[{"field":"site.bill.name","value":"` + name + `"}]}`)
		_, err := tx.SaveSection(store.Section{JobID: v.Summary.ID, Name: string(job.RefusedSection), Body: body}, 0)
		return err
	})
	if err != nil {
		t.Fatal(err)
	}
	if _, err := a.Jobs.Erase(ctx, office, v.Summary.ID, "asked by letter of 3 May"); err != nil {
		t.Fatal(err)
	}
	copied := filepath.Join(folder, "copy.db")
	if err := errors.Join(s.Backup(ctx, copied), s.Close()); err != nil { // the write-ahead log is through
		t.Fatal(err)
	}
	for _, file := range []string{"test.db", "copy.db"} {
		b, err := os.ReadFile(filepath.Join(folder, file))
		if err != nil {
			t.Fatal(err)
		}
		if i := bytes.Index(bytes.ToLower(b), []byte("thistlewick")); i >= 0 {
			t.Errorf("%s has the name: %q", file, b[max(i-40, 0):i+40])
		}
	}
}

// TestDeleteEmptyJob: a job that was made to try is deleted; one that something was done for
// is not.
func TestDeleteEmptyJob(t *testing.T) {
	a := newApp(t)
	v, err := a.Jobs.CreateJob(ctx, office, jobs.NewJob{Rulebook: "nec:2023", Points: 1, Site: job.Site{Customer: "Nobody at all"}})
	if err != nil {
		t.Fatal(err)
	}
	if err := a.Jobs.Delete(ctx, surveyor, v.Summary.ID); !errors.Is(err, people.ErrForbidden) {
		t.Errorf("a surveyor: %v", err)
	}
	if err := a.Jobs.Delete(ctx, office, v.Summary.ID); err != nil {
		t.Fatal(err)
	}
	if _, err := a.Jobs.Open(ctx, office, v.Summary.ID); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("still there: %v", err)
	}
	if list, err := a.Jobs.Jobs(ctx, office, store.Filter{Search: "Nobody", Limit: 5}); err != nil || list.Total != 0 {
		t.Errorf("found: %d %v", list.Total, err)
	}
	v, err = a.Jobs.CreateJob(ctx, office, jobs.NewJob{Rulebook: "nec:2023", Points: 1})
	if err != nil {
		t.Fatal(err)
	}
	if _, err := a.Journal.Append(ctx, verifier, v.Summary.ID, []job.Entry{{ID: "note-00001", Kind: job.Noted, At: time.Now(), Reason: "a word"}}, nil); err != nil {
		t.Fatal(err)
	}
	if err := a.Jobs.Delete(ctx, office, v.Summary.ID); !errors.Is(err, people.ErrBlocked) {
		t.Errorf("a job with a log: %v", err)
	}
}
