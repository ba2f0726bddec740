package rooms

import (
	"bytes"
	"encoding/json"
	"errors"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"dogbolt/core/job"
	"dogbolt/core/record"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/papers"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/standin"
)

// TestAfterTheSeal: what comes after the work stays open on a sealed job, counts its days, and is
// moved by entries beside the issue, which stays as it was.
func TestAfterTheSeal(t *testing.T) {
	a := newApp(t)
	v := imported(t, a, "uk-pass.json")
	id := v.Summary.ID
	today := time.Now().UTC().Format(time.DateOnly)
	move := func(by people.Person, paper string, event job.PaperEvent, day, words string) (jobs.View, error) {
		return a.Papers.MovePaper(ctx, by, id, papers.Move{Paper: paper, Event: event, Day: day, Words: words})
	}
	due := func() string {
		t.Helper()
		list, err := a.Papers.DueNow(ctx, 366)
		if err != nil {
			t.Fatal(err)
		}
		var ids []string
		for _, d := range list {
			what, _, _ := strings.Cut(d.What, " ")
			ids = append(ids, d.Paper+" "+what)
		}
		slices.Sort(ids)
		return strings.Join(ids, ", ")
	}
	if _, err := move(office, "operator", job.PaperSent, today, ""); err == nil || !strings.Contains(err.Error(), "not sealed") {
		t.Errorf("before the seal: %v", err)
	}
	if _, err := a.Records.Seal(ctx, verifier, id); err != nil {
		t.Fatal(err)
	}
	sealed, err := a.Records.Paper(ctx, office, id, 1, "record")
	if err != nil {
		t.Fatal(err)
	}
	if got := due(); got != "building-control due, operator due" {
		t.Errorf("due on a sealed job: %q", got)
	}
	for _, c := range []struct {
		who   people.Person
		paper string
		event job.PaperEvent
		day   string
		words string
		want  string
	}{
		{installer, "operator", job.PaperSent, today, "", "may not"},
		{office, "installer", job.PaperSent, today, "", "came before the work"},
		{office, "moon", job.PaperSent, today, "", "not found"},
		{office, "operator", job.PaperSent, "2199-01-01", "", "has not come yet"},
		{office, "operator", "lost", today, "", "lost"},
		{office, "operator", job.PaperSent, "yesterday", "", "day"},
		{office, "operator", job.PaperNotNeeded, today, "no", "say why"},
		{office, "operator", job.PaperBack, today, "", "say why"},
	} {
		if _, err := move(c.who, c.paper, c.event, c.day, c.words); err == nil || !strings.Contains(err.Error(), c.want) {
			t.Errorf("%s %s %s: %v", c.paper, c.event, c.day, err)
		}
	}
	v, err = move(office, "operator", job.PaperSent, today, "N-4711")
	if err != nil {
		t.Fatal(err)
	}
	if p, _ := v.Job.PaperNow("operator"); p.Sent != today || p.Reference != "N-4711" {
		t.Errorf("%+v", p)
	}
	if e := v.Job.Log[len(v.Job.Log)-1]; e.By != office.Name || e.Kind != job.PaperMoved {
		t.Errorf("written by %+v", e)
	}
	if got := due(); got != "building-control due, operator ask, operator due" {
		t.Errorf("due after the notice was sent: %q", got)
	}
	if still, err := a.Records.Paper(ctx, office, id, 1, "record"); err != nil || !bytes.Equal(still.Data, sealed.Data) {
		t.Errorf("the issue is another: %v", err)
	}
	// Nothing else is logged, but that it is taken back.
	note := job.Entry{ID: "device-0001", Kind: job.Noted, Reason: "a note", At: time.Now()}
	if _, err := a.Journal.Append(ctx, office, id, []job.Entry{note}, nil); !errors.Is(err, people.ErrSealed) {
		t.Errorf("a note on a sealed job: %v", err)
	}
	byHand := job.Entry{ID: "device-0002", Kind: job.PaperMoved, Subject: "operator", Value: "sent", Day: today, At: time.Now()}
	if _, err := a.Journal.Append(ctx, office, imported(t, a, "us-pass.json").Summary.ID, []job.Entry{byHand}, nil); err == nil || !strings.Contains(err.Error(), "under Clearances") {
		t.Errorf("by a device: %v", err)
	}
	back := job.Entry{ID: "device-0003", Kind: job.TakenBack, Subject: "operator", Replaces: v.Job.Log[len(v.Job.Log)-1].ID, Reason: "it was another job's", At: time.Now()}
	if _, err := a.Journal.Append(ctx, installer, id, []job.Entry{back}, nil); !errors.Is(err, people.ErrForbidden) {
		t.Errorf("taken back by an installer: %v", err)
	}
	if _, err := a.Journal.Append(ctx, office, id, []job.Entry{back}, nil); err != nil {
		t.Error(err)
	}
	if got := due(); got != "building-control due, final due, operator due" { // with the other job's
		t.Errorf("due after it was taken back: %q", got)
	}
	// Of the papers themselves only the forms of what comes after are still filled in.
	for _, c := range []struct {
		name   string
		change func(*job.Clearances)
		sealed bool
	}{
		{"an answer of a form after the work", func(c *job.Clearances) { c.Papers[0].Answers = map[string]string{"meter": "0417"} }, false},
		{"a day", func(c *job.Clearances) { c.Papers[0].Sent = today }, true},
		{"a form before the work", func(c *job.Clearances) { c.Papers[2].Form = "coastal-home-charging" }, true},
		{"a paper that is gone", func(c *job.Clearances) { c.Papers = c.Papers[1:] }, true},
	} {
		v, err := a.Jobs.Open(ctx, office, id)
		if err != nil {
			t.Fatal(err)
		}
		part := v.Job.Clearances
		part.Papers = append([]job.Paper{}, part.Papers...)
		c.change(&part)
		body, err := json.Marshal(part)
		if err != nil {
			t.Fatal(err)
		}
		_, err = a.Jobs.SaveSection(ctx, office, id, job.ClearancesSection, jobs.Edit{Seen: v.Revisions["clearances"], Body: body})
		if errors.Is(err, people.ErrSealed) != c.sealed || err != nil && !c.sealed {
			t.Errorf("%s: %v", c.name, err)
		}
	}
	// The next issue has what came after the first.
	if _, err := move(office, "building-control", job.PaperAnswered, today, "BC-9"); err != nil {
		t.Fatal(err)
	}
	if _, err := a.Records.Amend(ctx, verifier, id, "the serial number was misread"); err != nil {
		t.Fatal(err)
	}
	if _, err := a.Records.Seal(ctx, verifier, id); err != nil {
		t.Fatal(err)
	}
	second, err := a.Records.Paper(ctx, office, id, 2, "record")
	if err != nil {
		t.Fatal(err)
	}
	s, err := record.Open(second.Data)
	if err != nil {
		t.Fatal(err)
	}
	if p, _ := s.Record.Job.PaperNow("building-control"); p.Granted != today || p.Reference != "BC-9" {
		t.Errorf("the second issue says %+v", p)
	}
	text, _ := json.Marshal(record.Pack(&s.Record))
	if !strings.Contains(string(text), "BC-9") {
		t.Error("the second issue's pack does not tell the answer")
	}
}

// TestAmendmentOfNothing: an amendment that changes nothing is no issue; it is closed, and the
// last issue stands. One that changes something is not closed so.
func TestAmendmentOfNothing(t *testing.T) {
	a := newApp(t)
	id := imported(t, a, "uk-pass.json").Summary.ID
	if _, err := a.Records.DropAmendment(ctx, verifier, id); err == nil || !strings.Contains(err.Error(), "no amendment open") {
		t.Errorf("of a job without one: %v", err)
	}
	if _, err := a.Records.Seal(ctx, verifier, id); err != nil {
		t.Fatal(err)
	}
	v, err := a.Records.Amend(ctx, verifier, id, "somebody thought of something")
	if err != nil {
		t.Fatal(err)
	}
	if _, err := a.Records.Seal(ctx, verifier, id); !errors.Is(err, people.ErrBlocked) || !strings.Contains(err.Error(), "changes nothing of issue 1") {
		t.Errorf("sealed with nothing changed: %v", err)
	}
	if d, err := a.Records.Changes(ctx, installer, id); err != nil || d.Issue != 1 || d.Amends || len(d.Changes) > 0 {
		t.Errorf("%+v %v", d, err)
	}
	if _, err := a.Records.DropAmendment(ctx, installer, id); !errors.Is(err, people.ErrForbidden) {
		t.Errorf("by the crew: %v", err)
	}
	site := v.Job.Site
	site.Phone = "00000 555 0199"
	body, err := json.Marshal(site)
	if err != nil {
		t.Fatal(err)
	}
	if _, err = a.Jobs.SaveSection(ctx, office, id, job.SiteSection, jobs.Edit{Seen: v.Revisions["site"], Body: body}); err != nil {
		t.Fatal(err)
	}
	if d, err := a.Records.Changes(ctx, installer, id); err != nil || !d.Amends || len(d.Changes) != 1 || d.Changes[0].Now != "00000 555 0199" {
		t.Errorf("%+v %v", d, err)
	}
	if _, err := a.Records.DropAmendment(ctx, verifier, id); !errors.Is(err, people.ErrBlocked) {
		t.Errorf("dropped with a change: %v", err)
	}
	if v, err = a.Records.Seal(ctx, verifier, id); err != nil || len(v.Records) != 2 {
		t.Fatal(err)
	}
	p, err := a.Records.Paper(ctx, office, id, 2, "record")
	if err != nil {
		t.Fatal(err)
	}
	if s, err := record.Open(p.Data); err != nil || len(s.Record.Changes) != 1 {
		t.Errorf("the second issue says %+v %v", s.Record.Changes, err)
	}
	if _, err := a.Records.Amend(ctx, verifier, id, "somebody thought of something"); err != nil {
		t.Fatal(err)
	}
	if v, err = a.Records.DropAmendment(ctx, verifier, id); err != nil || !v.Summary.Sealed || v.Amending != "" || len(v.Records) != 2 {
		t.Errorf("%+v %v", v.Summary, err)
	}
}

// TestClaimAfterTheSeal: a claim is filled in, sent and answered on a sealed job: each is an entry
// beside the issue, and it is not sent twice.
func TestClaimAfterTheSeal(t *testing.T) {
	a := newApp(t)
	drop := standin.MailDrop{Folder: t.TempDir()}
	a.Connect(Outside{Mail: drop, Desk: standin.SchemeDesk{Drop: drop}})
	if err := a.Firm.SetContractor(ctx, office, record.Contractor{Name: "Quill and Beacon Electrical", Email: "office@quill.example"}); err != nil {
		t.Fatal(err)
	}
	v := imported(t, a, "us-pass.json")
	id := v.Summary.ID
	v = withPapers(t, a, v, func(p *job.Paper) {
		if p.ID == "grant" {
			p.Needed, p.Reason, p.Before, p.Form = job.Yes, "the customer claims it", job.After, "valley-charging-rebate"
		}
	})
	if _, err := a.Records.Seal(ctx, verifier, id); err != nil {
		t.Fatal(err)
	}
	if _, err := a.Papers.SendPaper(ctx, office, id, "grant", ""); !errors.Is(err, people.ErrBlocked) {
		t.Errorf("sent with what it lacks, without a reason: %v", err)
	}
	v, err := a.Papers.SendPaper(ctx, office, id, "grant", "the rest follows by post")
	if err != nil {
		t.Fatal(err)
	}
	if p, _ := v.Job.PaperNow("grant"); p.Sent == "" || v.Job.Paper("grant").Sent != "" || !v.Summary.Sealed {
		t.Errorf("sent %+v", p)
	}
	if _, err := a.Papers.SendPaper(ctx, office, id, "grant", "once more to be sure"); err == nil || !strings.Contains(err.Error(), "not answered yet") {
		t.Errorf("sent twice: %v", err)
	}
	for range 3 {
		if _, err := a.Papers.FetchAnswers(ctx, office); err != nil {
			t.Fatal(err)
		}
	}
	if v, err = a.Jobs.Open(ctx, office, id); err != nil {
		t.Fatal(err)
	}
	p, _ := v.Job.PaperNow("grant")
	if len(p.Replies) == 0 || p.Granted == "" && !p.SentBack() || len(v.Job.Paper("grant").Replies) > 0 {
		t.Errorf("answered %+v", p)
	}
	if mails, err := filepath.Glob(filepath.Join(drop.Folder, "*")); err != nil || len(mails) != 1 {
		t.Errorf("%v %v", mails, err)
	}
}
