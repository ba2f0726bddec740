package rooms

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"testing"
	"time"

	"dogbolt/core/job"
	"dogbolt/internal/document"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/rooms/records"
	"dogbolt/internal/standin"
)

// meanwhile is a time authority in whose time something else happens.
type meanwhile struct {
	*standin.TimeAuthority
	asked int
	does  func(n int) error
}

func (m *meanwhile) Answer(ctx context.Context, query []byte) ([]byte, error) {
	m.asked++
	if err := m.does(m.asked); err != nil {
		return nil, err
	}
	return m.TimeAuthority.Answer(ctx, query)
}

// TestSealWhileOthersWork: a seal takes its time outside of the database's lock, and never
// seals what is no longer so.
func TestSealWhileOthersWork(t *testing.T) {
	clock, err := standin.NewTimeAuthority(time.Now)
	if err != nil {
		t.Fatal(err)
	}
	for _, c := range []struct {
		name    string
		changes int  // how often the job is changed while it is sealed
		section bool // by a section, else by an entry
		sealed  bool
	}{{"nobody", 0, false, true}, {"an entry", 1, false, true}, {"a section", 1, true, true}, {"always", 100, false, false}} {
		t.Run(c.name, func(t *testing.T) {
			a := newApp(t)
			v := imported(t, a, "uk-pass.json")
			noted := 0
			m := &meanwhile{TimeAuthority: clock, does: func(n int) error {
				if n%2 == 0 || noted == c.changes { // the first paper of each try
					return nil
				}
				noted++
				if c.section {
					site := v.Job.Site
					site.Phone = "00000 555 0199"
					body, err := json.Marshal(site)
					if err != nil {
						return err
					}
					_, err = a.Jobs.SaveSection(ctx, office, v.Summary.ID, "site", jobs.Edit{Seen: v.Revisions["site"], Body: body})
					return err
				}
				e := job.Entry{ID: fmt.Sprintf("meanwhile-%d", noted), Kind: job.Noted, Reason: "the gate is painted", At: time.Now()}
				_, err := a.Journal.Append(ctx, installer, v.Summary.ID, []job.Entry{e}, nil)
				return err
			}}
			a.Records.Time = m
			sealed, err := a.Records.Seal(ctx, verifier, v.Summary.ID)
			if (err == nil) != c.sealed || err != nil && !errors.Is(err, people.ErrBlocked) {
				t.Fatal(err)
			}
			if !c.sealed {
				if now, err := a.Jobs.Open(ctx, verifier, v.Summary.ID); err != nil || now.Summary.Sealed || len(now.Records) > 0 {
					t.Errorf("%v %+v", err, now.Summary)
				}
				return
			}
			p, err := a.Records.Paper(ctx, verifier, v.Summary.ID, 1, "inspection")
			if err != nil {
				t.Fatal(err)
			}
			file, err := document.Verify(p.Data)
			if err != nil || file.Stamp == nil {
				t.Fatalf("%v, stamp %v", err, file.Stamp)
			}
			if c.section && file.Sealed.Record.Job.Site.Phone != "00000 555 0199" {
				t.Error("the site is sealed as it was before")
			}
			if got, want := len(file.Sealed.Record.Job.Log), len(sealed.Job.Log); got != want || !sealed.Summary.Sealed {
				t.Errorf("%d entries are sealed, the job has %d", got, want)
			}
			if got := strings.Count(auditOf(t, a, v.Summary.ID), "without a time stamp"); got != 0 {
				t.Error("the audit says that there is no time stamp")
			}
		})
	}
}

// TestSealWithoutItsTime: a time authority that does not answer holds no seal back, and the
// audit says so.
func TestSealWithoutItsTime(t *testing.T) {
	a := newApp(t)
	v := imported(t, a, "uk-pass.json")
	m := &meanwhile{does: func(int) error { return errors.New("nobody there") }}
	a.Records.Time = m
	if _, err := a.Records.Seal(ctx, verifier, v.Summary.ID); err != nil {
		t.Fatal(err)
	}
	if m.asked != 1 {
		t.Errorf("asked %d times", m.asked)
	}
	p, err := a.Records.Paper(ctx, verifier, v.Summary.ID, 1, "inspection")
	if err != nil {
		t.Fatal(err)
	}
	if file, err := document.Verify(p.Data); err != nil || file.Stamp != nil {
		t.Errorf("%v, stamp %v", err, file.Stamp)
	}
	if said := auditOf(t, a, v.Summary.ID); !strings.Contains(said, "without a time stamp: time stamp: the authority cannot be asked: nobody there") {
		t.Error(said)
	}
}

func auditOf(t *testing.T, a *Rooms, id string) string {
	t.Helper()
	lines, err := a.Jobs.Audit(ctx, verifier, id)
	if err != nil {
		t.Fatal(err)
	}
	var b strings.Builder
	for _, l := range lines {
		b.WriteString(l.Action + " " + l.Detail + "\n")
	}
	return b.String()
}

// TestPhotosInTheRecord: photos of steps and of the survey are printed in the inspection record with what
// they show and who took them; the other papers do not carry them.
func TestPhotosInTheRecord(t *testing.T) {
	a := newApp(t)
	v := imported(t, a, "uk-pass.json")
	id := v.Summary.ID
	kept, err := a.Jobs.AddPhoto(ctx, installer, id, picture(t, 400, 300))
	if err != nil {
		t.Fatal(err)
	}
	e := job.Entry{ID: "photo-0001", Kind: job.PhotoTaken, Subject: "lids", Value: kept.Digest, At: time.Now().UTC()}
	if _, err := a.Journal.Append(ctx, installer, id, []job.Entry{e}, nil); err != nil {
		t.Fatal(err)
	}
	doc, err := a.Records.Preview(ctx, verifier, id, records.Inspection)
	if err != nil {
		t.Fatal(err)
	}
	shown := ""
	for _, b := range doc.Blocks {
		for _, p := range b.Pictures {
			shown += p.Digest + " " + p.Caption
		}
	}
	if !strings.Contains(shown, kept.Digest+" Lids, seals and making good; K. Osei") {
		t.Errorf("shown: %s", shown)
	}
	if _, err := a.Records.Seal(ctx, verifier, id); err != nil {
		t.Fatal(err)
	}
	for kind, want := range map[records.SealedKind]int{"inspection": 1, "certificate": 0, "handover": 0} {
		p, err := a.Records.Paper(ctx, verifier, id, 1, kind)
		if err != nil {
			t.Fatal(err)
		}
		if got := strings.Count(string(p.Data), "/Subtype /Image"); got != want {
			t.Errorf("%s has %d pictures, want %d", kind, got, want)
		}
		if _, err := document.Verify(p.Data); err != nil {
			t.Errorf("%s: %v", kind, err)
		}
	}
}
