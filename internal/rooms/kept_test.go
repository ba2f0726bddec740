package rooms

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"image"
	"image/jpeg"
	"iter"
	"slices"
	"strings"
	"testing"
	"time"

	"dogbolt/core/job"
	"dogbolt/core/worklog"
	"dogbolt/internal/contact"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/journal"
	"dogbolt/internal/rooms/people"
)

// atTheBoard is a job whose board was proved dead and is about to be worked in: the log
// ends at 09:08 on 4 May 2026.
func atTheBoard(t testing.TB, a *Rooms) string {
	t.Helper()
	var j job.Job
	if err := json.Unmarshal(exampleFile(t, "uk-pass.json"), &j); err != nil {
		t.Fatal(err)
	}
	j.Log = j.Log[:slices.IndexFunc(j.Log, func(e job.Entry) bool { return e.Kind == job.TorqueMade })]
	v, err := a.Jobs.Put(ctx, verifier, j)
	if err != nil {
		t.Fatal(err)
	}
	return v.Summary.ID
}

// onDay is a time of the day of the work.
func onDay(at string) time.Time {
	t, err := time.Parse(time.RFC3339, "2026-05-04T"+at+":00Z")
	if err != nil {
		panic(err)
	}
	return t
}

// torqueAt is work inside the board.
func torqueAt(at string) job.Entry {
	return job.Entry{ID: "torque-" + at, Kind: job.TorqueMade, Point: "A", Subject: "board-line", Value: "2.5", Target: "2.5", Unit: "N·m", At: onDay(at)}
}

// TestKeptTimes: what arrives at three in the afternoon for a board that a silence since
// nine has shut. Work inside is taken for an earlier time only where the device shows
// that it was in contact before, not after, and that its clock ran on since.
func TestKeptTimes(t *testing.T) {
	const arrives = "15:00"
	for _, c := range []struct {
		name    string
		e       job.Entry
		contact string // time of the device's last contact; "" without one
		clock   time.Duration
		by      people.Person // whose mark it is
		spoil   func(*journal.Kept)
		want    string // part of the refusal; "" where it is taken
	}{
		{"no word of when", torqueAt("09:20"), "", 0, installer, nil, "nobody can tell when this was done"},
		{"after a contact at 09:10", torqueAt("09:20"), "09:10", 0, installer, nil, ""},
		{"a contact after the time it claims", torqueAt("09:20"), "10:30", 0, installer, nil, "in contact at 10:30"},
		{"its clock is three hours slow since", torqueAt("09:20"), "09:10", -3 * time.Hour, installer, nil, "nobody can tell when this was done"},
		{"its clock is three hours fast since", torqueAt("09:20"), "09:10", 3 * time.Hour, installer, nil, "nobody can tell when this was done"},
		{"its clock is a minute slow", torqueAt("09:20"), "09:10", -time.Minute, installer, nil, ""},
		{"another person's mark", torqueAt("09:20"), "09:10", 0, verifier, nil, "nobody can tell when this was done"},
		{"a mark made up", torqueAt("09:20"), "09:10", 0, installer, func(k *journal.Kept) {
			k.Contact = "mf3k2." + k.Contact[6:]
			k.Before = k.Contact
		}, "nobody can tell"},
		{"a link of other entries", torqueAt("09:20"), "09:10", 0, installer, func(k *journal.Kept) { k.Link = strings.Repeat("0", 64) }, "does not follow"},
		{"at three, when the board is shut", torqueAt("15:00"), "09:10", 0, installer, nil, "before dead is proved"},
		{"the clock of the work, no word of when", job.Entry{ID: "clock-0001", Kind: job.StepDone, Subject: "clock", Value: "paused", At: onDay("09:20")}, "", 0, installer, nil, ""},
		{"a note, no word of when", job.Entry{ID: "note-0001", Kind: job.Noted, Reason: "the dog is loose", At: onDay("09:20")}, "", 0, installer, nil, ""},
		{"a note from before the contact", job.Entry{ID: "note-0001", Kind: job.Noted, Reason: "the dog is loose", At: onDay("09:20")}, "10:30", 0, installer, nil, "enter it anew"},
	} {
		t.Run(c.name, func(t *testing.T) {
			a := newApp(t)
			id := atTheBoard(t, a)
			var kept *journal.Kept
			if c.contact != "" {
				a.now = clock("2026-05-04T" + c.contact + ":00Z")
				mark, err := a.Journal.Contact(ctx, c.by)
				if err != nil {
					t.Fatal(err)
				}
				kept = &journal.Kept{Contact: mark, Before: mark, Sent: onDay(arrives).Add(c.clock)}
				kept.Link = contact.Link(mark, []job.Entry{c.e})
				if c.spoil != nil {
					before := kept.Link
					c.spoil(kept)
					if kept.Link == before {
						kept.Link = contact.Link(kept.Before, []job.Entry{c.e})
					}
				}
			}
			a.now = clock("2026-05-04T" + arrives + ":00Z")
			v, err := a.Journal.Append(ctx, installer, id, []job.Entry{c.e}, kept)
			switch {
			case c.want == "" && err != nil:
				t.Error(err)
			case c.want != "" && (err == nil || !strings.Contains(err.Error(), c.want)):
				t.Errorf("%v, want %q", err, c.want)
			case c.want == "":
				for e := range of(v.Job.Log, c.e.ID) {
					if !e.Arrived.Equal(onDay(arrives)) {
						t.Errorf("not marked as late: arrived %v", e.Arrived)
					}
				}
			}
		})
	}
}

// TestKeptJustBefore: a clock that is a little slow puts no work inside a board back
// before a contact that came after the board was opened anew. A random history found it.
func TestKeptJustBefore(t *testing.T) {
	for name, arrives := range map[string]string{"at once": "09:21", "late": "09:25"} {
		t.Run(name, func(t *testing.T) {
			a := newApp(t)
			id := atTheBoard(t, a)
			a.now = clock("2026-05-04T09:20:00Z")
			off := job.Entry{ID: "off-again", Kind: job.StepDone, Subject: worklog.MainOff, Value: "lock 7", At: onDay("09:20")}
			if _, err := a.Journal.Append(ctx, installer, id, []job.Entry{off}, nil); err != nil {
				t.Fatal(err)
			}
			a.now = clock("2026-05-04T09:21:00Z")
			mark, err := a.Journal.Contact(ctx, installer)
			if err != nil {
				t.Fatal(err)
			}
			e := torqueAt("09:19")
			e.At = e.At.Add(30 * time.Second)
			a.now = clock("2026-05-04T" + arrives + ":20Z")
			kept := &journal.Kept{Contact: mark, Before: mark, Link: contact.Link(mark, []job.Entry{e}), Sent: onDay(arrives).Add(20 * time.Second)}
			if _, err := a.Journal.Append(ctx, installer, id, []job.Entry{e}, kept); err == nil || !strings.Contains(err.Error(), "before dead is proved") {
				t.Errorf("work on a board that was opened anew: %v", err)
			}
		})
	}
}

// TestKeptInOrder: an entry cannot be made before what the device kept before it, and one
// that comes at once is not marked as late, whatever the device says of it.
func TestKeptInOrder(t *testing.T) {
	a := newApp(t)
	id := atTheBoard(t, a)
	a.now = clock("2026-05-04T09:10:00Z")
	mark, err := a.Journal.Contact(ctx, installer)
	if err != nil {
		t.Fatal(err)
	}
	send := func(before, arrives string, e job.Entry) (string, jobs.View, error) {
		a.now = clock("2026-05-04T" + arrives + ":00Z")
		link := contact.Link(before, []job.Entry{e})
		v, err := a.Journal.Append(ctx, installer, id, []job.Entry{e}, &journal.Kept{Contact: mark, Before: before, Link: link, Sent: onDay(arrives)})
		return link, v, err
	}
	early := torqueAt("09:12")
	early.Arrived = onDay("23:00")
	first, v, err := send(mark, "09:13", early)
	if err != nil || !v.Job.Log[len(v.Job.Log)-1].Arrived.IsZero() {
		t.Fatalf("%v %+v", err, v.Job.Log[len(v.Job.Log)-1])
	}
	next := torqueAt("11:00")
	next.Subject = "board-neutral"
	second, _, err := send(first, "11:30", next)
	if err != nil {
		t.Fatal(err)
	}
	back := torqueAt("10:00")
	back.Subject = "board-earth"
	if _, _, err := send(second, "11:40", back); err == nil || !strings.Contains(err.Error(), "enter it anew") {
		t.Errorf("made before what was kept before it: %v", err)
	}
	// The same again is one entry.
	_, v, err = send(first, "11:45", next)
	if twice := slices.Collect(of(v.Job.Log, next.ID)); err != nil || len(twice) != 1 {
		t.Errorf("%v %+v", err, twice)
	}
}

// of are the entries with an id.
func of(log []job.Entry, id string) iter.Seq[job.Entry] {
	return func(yield func(job.Entry) bool) {
		for _, e := range log {
			if e.ID == id && !yield(e) {
				return
			}
		}
	}
}

// TestPieces: a photo comes in pieces that go on where the one before ended, whoever cuts
// them; another person's pieces are apart; what does not make the picture is refused.
func TestPieces(t *testing.T) {
	a := newApp(t)
	id := imported(t, a, "uk-fail.json").Summary.ID
	img := image.NewGray(image.Rect(0, 0, 320, 240))
	for i := range img.Pix {
		img.Pix[i] = byte(i * i >> 7)
	}
	var file bytes.Buffer
	if err := jpeg.Encode(&file, img, nil); err != nil {
		t.Fatal(err)
	}
	data := file.Bytes()
	sum := sha256.Sum256(data)
	digest := hex.EncodeToString(sum[:])
	piece := func(by people.Person, from, to int, of string) (jobs.Upload, error) {
		return a.Jobs.AddPiece(ctx, by, id, of, int64(from), int64(len(data)), data[from:to])
	}
	for _, to := range []int{1000, 2500} {
		from, err := a.Jobs.Uploaded(ctx, installer, id, digest)
		if err != nil {
			t.Fatal(err)
		}
		if u, err := piece(installer, int(from.Have), to, digest); err != nil || u.Have != int64(to) || u.Whole {
			t.Fatalf("%+v %v", u, err)
		}
	}
	for _, c := range []struct{ from, to int }{{0, 1000}, {2400, 3000}, {2600, 3000}} {
		if u, err := piece(installer, c.from, c.to, digest); err != nil || u.Have != 2500 || u.Whole {
			t.Errorf("a piece from %d to %d: %+v %v", c.from, c.to, u, err)
		}
	}
	if _, err := piece(installer, 2500, 2500, digest); err == nil || !strings.Contains(err.Error(), "the piece ends at 2500") {
		t.Errorf("a piece of nothing: %v", err)
	}
	if u, err := a.Jobs.Uploaded(ctx, verifier, id, digest); err != nil || u.Have != 0 {
		t.Errorf("another person sees the pieces: %+v %v", u, err)
	}
	if _, err := a.Jobs.AddPiece(ctx, installer, id, digest, 2500, 9<<20, data[2500:3000]); err == nil {
		t.Error("9 MB are taken")
	}
	if u, err := piece(installer, 2500, len(data), digest); err != nil || !u.Whole {
		t.Fatalf("%+v %v", u, err)
	}
	if _, err := a.Jobs.Photo(ctx, installer, id, digest); err != nil {
		t.Error(err)
	}
	// It is there: nothing more is asked for.
	if u, err := piece(verifier, 0, 10, digest); err != nil || !u.Whole {
		t.Errorf("%+v %v", u, err)
	}
	if _, err := piece(verifier, 0, len(data), strings.Repeat("a", 64)); err == nil || !strings.Contains(err.Error(), "do not make the picture") {
		t.Errorf("other bytes than were announced: %v", err)
	}
}
