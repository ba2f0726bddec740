package rooms

import (
	"errors"
	"slices"
	"strings"
	"testing"
	"time"

	"dogbolt/core/clearance"
	"dogbolt/core/job"
	"dogbolt/core/record"
	"dogbolt/internal/document"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/papers"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/rooms/records"
	"dogbolt/internal/store"
)

// post keeps what is sent; nothing goes to an address with "gone" in it.
type post struct{ sent []clearance.Message }

func (p *post) Send(m clearance.Message) error {
	if strings.Contains(m.To, "gone") {
		return errors.New("no such box")
	}
	p.sent = append(p.sent, m)
	return nil
}

// reachable is a job that is ready for the seal, whose customer and firm have addresses for mail.
func reachable(t *testing.T, a *Rooms) (id, customer string) {
	t.Helper()
	firm, err := a.Firm.ContractorNow(ctx)
	if err != nil {
		t.Fatal(err)
	}
	firm.Email = "office@quill.example"
	if err := a.Firm.SetContractor(ctx, office, firm); err != nil {
		t.Fatal(err)
	}
	v := imported(t, a, "uk-pass.json")
	site := v.Job.Site
	site.Email = "marlowe@mail.example"
	if _, err := a.Jobs.SaveSection(ctx, office, v.Summary.ID, job.SiteSection, jobs.Edit{Seen: v.Revisions["site"], Body: section(t, site)}); err != nil {
		t.Fatal(err)
	}
	return v.Summary.ID, site.Email
}

// TestWithdraw: a verifier withdraws the last issue with a reason; both stay to be read, a check says so,
// who was given papers is told, and the next issue stands.
func TestWithdraw(t *testing.T) {
	a := newApp(t)
	box := &post{}
	a.Records.Mail = box
	id, customer := reachable(t, a)
	const why = "the readings are of another job"
	if _, err := a.Records.Withdraw(ctx, verifier, id, 1, why); err == nil || !strings.Contains(err.Error(), "not the last issue") {
		t.Errorf("before there is one: %v", err)
	}
	if _, err := a.Records.Seal(ctx, verifier, id); err != nil {
		t.Fatal(err)
	}
	if _, err := a.Papers.MovePaper(ctx, office, id, papers.Move{Paper: "operator", Event: job.PaperSent, Day: time.Now().UTC().Format(time.DateOnly)}); err != nil {
		t.Fatal(err)
	}
	first, err := a.Records.Paper(ctx, verifier, id, 1, "record")
	if err != nil {
		t.Fatal(err)
	}
	s, err := record.Open(first.Data)
	if err != nil {
		t.Fatal(err)
	}
	stands := func(want records.Standing) records.Stands {
		t.Helper()
		got, err := a.Records.Standing(ctx, s.Seal.Digest)
		if err != nil || got.Standing != want {
			t.Errorf("it stands as %+v, want %s: %v", got, want, err)
		}
		return got
	}
	stands(records.Last)
	for _, c := range []struct {
		name   string
		by     people.Person
		issue  int
		reason string
		want   string
	}{
		{"an installer", installer, 1, why, "may not"}, {"the office", office, 1, why, "may not"}, {"no reason", verifier, 1, "wrong", "reason in words"},
		{"another issue", verifier, 2, why, "not the last issue"},
	} {
		if _, err := a.Records.Withdraw(ctx, c.by, id, c.issue, c.reason); err == nil || !strings.Contains(err.Error(), c.want) {
			t.Errorf("%s: %v", c.name, err)
		}
	}
	v, err := a.Records.Withdraw(ctx, verifier, id, 1, why)
	if err != nil {
		t.Fatal(err)
	}
	if e, ok := v.Job.Withdrawal(1); !ok || e.By != verifier.Name || e.Reason != why {
		t.Errorf("%+v", e)
	}
	if got := stands(records.Withdrawn); got.Reason != why || got.At.IsZero() {
		t.Errorf("%+v", got)
	}
	if len(box.sent) != 1 || box.sent[0].To != customer || !strings.Contains(box.sent[0].Body, record.Code(s.Seal.Digest)) || !strings.Contains(box.sent[0].Body, why) {
		t.Errorf("told: %+v", box.sent)
	}
	if audit := auditOf(t, a, id); !strings.Contains(audit, "told by mail: marlowe@mail.example; to be told by hand: network operator") {
		t.Errorf("the audit: %s", audit)
	}
	list, err := a.Records.Recipients(ctx, office, id)
	if err != nil || len(list) != 2 {
		t.Errorf("%+v %v", list, err)
	}
	if _, err := a.Records.Withdraw(ctx, verifier, id, 1, why); err == nil || !strings.Contains(err.Error(), "withdrawn already") {
		t.Errorf("twice: %v", err)
	}
	// It is never taken back, and nobody logs one by a device.
	last := v.Job.Log[len(v.Job.Log)-1]
	back := entryAt("device-0100", job.TakenBack, last.Subject, "", "")
	back.Replaces, back.Reason = last.ID, "it was right after all"
	if _, err := a.Journal.Append(ctx, verifier, id, []job.Entry{back}, nil); err == nil {
		t.Error("a withdrawal was taken back")
	}
	open := imported(t, a, "us-pass.json").Summary.ID
	own := entryAt("device-0101", job.Withdrawn, "1", "", "")
	if _, err := a.Journal.Append(ctx, verifier, open, []job.Entry{own}, nil); err == nil || !strings.Contains(err.Error(), "under Handover") {
		t.Errorf("by a device: %v", err)
	}
	// The issue is as it was; a right one replaces it.
	if again, err := a.Records.Paper(ctx, verifier, id, 1, "record"); err != nil || string(again.Data) != string(first.Data) {
		t.Errorf("the issue is another: %v", err)
	}
	if _, err := a.Records.Amend(ctx, verifier, id, "readings of this job entered"); err != nil {
		t.Fatal(err)
	}
	if _, err := a.Records.Withdraw(ctx, verifier, id, 1, why); err == nil {
		t.Error("withdrawn while an amendment is open")
	}
	// A withdrawal alone is no amendment.
	if d, err := a.Records.Changes(ctx, verifier, id); err != nil || d.Amends {
		t.Errorf("%+v %v", d, err)
	}
	retested(t, a, id)
	if _, err := a.Records.Seal(ctx, verifier, id); err != nil {
		t.Fatal(err)
	}
	stands(records.Replaced)
}

// TestWithdrawnByFile: a file that says that an issue was withdrawn withdraws nothing.
func TestWithdrawnByFile(t *testing.T) {
	j := job.Job{Log: []job.Entry{{ID: "claimed-1", Kind: job.Withdrawn, Subject: "1", Reason: "says a file", Imported: &job.Import{By: "M. Farrant"}}}}
	if _, ok := j.Withdrawal(1); ok {
		t.Error("a file withdrew an issue")
	}
}

// TestCustomersPage: a page is opened of a sealed job alone, by who may, at an address that nobody can guess; a
// new address ends the old one, and one that is closed leads nowhere.
func TestCustomersPage(t *testing.T) {
	a := newApp(t)
	id := imported(t, a, "uk-pass.json").Summary.ID
	early, err := a.Records.OpenPage(ctx, office, id, "https://firm.example/")
	if err != nil || early.Address != "https://firm.example/open/"+early.Token {
		t.Fatal(early, err)
	}
	if _, err := a.Records.Public(ctx, early.Token); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("a page of no record yet: %v", err)
	}
	if _, err := a.Records.OpenPage(ctx, office, id, "javascript:alert(1)"); err == nil {
		t.Error("an address that is none")
	}
	if _, err := a.Records.Seal(ctx, verifier, id); err != nil {
		t.Fatal(err)
	}
	second, err := a.Records.OpenPage(ctx, office, id, "https://firm.example")
	if err != nil || second.Token == early.Token {
		t.Fatal(second, err)
	}
	file, err := a.Records.Paper(ctx, office, id, 1, "record")
	if err != nil {
		t.Fatal(err)
	}
	sealed, err := record.Open(file.Data)
	if err != nil || sealed.Record.Page != early.Address {
		t.Errorf("the record prints %q: %v", sealed.Record.Page, err)
	}
	for name, doc := range map[string]record.Document{"pack": record.Pack(&sealed.Record), "certificate": record.Certificate(&sealed.Record), "inspection": record.Inspection(&sealed.Record)} {
		if !slices.ContainsFunc(doc.Blocks, func(b record.Block) bool { return b.Code == early.Address }) {
			t.Errorf("the %s has no code", name)
		}
	}
	_, labels, _, err := a.Records.Labels(ctx, office, id)
	if err != nil || labels[len(labels)-1].Code != second.Address {
		t.Errorf("the label: %+v, %v", labels, err)
	}
	if _, err := a.Records.OpenPage(ctx, installer, id, "https://firm.example"); !errors.Is(err, people.ErrForbidden) {
		t.Errorf("by an installer: %v", err)
	}
	first, err := a.Records.OpenPage(ctx, office, id, "https://firm.example")
	if err != nil || len(first.Token) != 26 {
		t.Fatal(first, err)
	}
	second, err = a.Records.OpenPage(ctx, office, id, "https://firm.example")
	if err != nil || second.Token == first.Token {
		t.Fatal(second, err)
	}
	for _, token := range []string{first.Token, "", strings.ToLower(second.Token)} {
		if _, err := a.Records.Public(ctx, token); !errors.Is(err, store.ErrNotFound) {
			t.Errorf("the page with %q: %v", token, err)
		}
	}
	shown, err := a.Records.Public(ctx, second.Token)
	if err != nil || shown.Number != "EX-UK-0001" || shown.Issue != 1 || shown.Certified == "" || shown.Stands.Standing != records.Last || len(shown.Notices) == 0 {
		t.Errorf("%+v %v", shown, err)
	}
	// What is given to anyone says nothing of the job that the paper does not print.
	for _, kind := range []records.PublicKind{"handover", "certificate"} {
		p, err := a.Records.PublicPaper(ctx, second.Token, kind)
		if err != nil {
			t.Fatal(err)
		}
		if v, err := document.Verify(p.Data); err != nil || !v.Part || strings.Contains(p.Name, "EX-UK") {
			t.Errorf("%s, %s: %+v %v", kind, p.Name, v.Part, err)
		}
	}
	if _, err := a.Records.PublicPaper(ctx, second.Token, "inspection"); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("the inspection record: %v", err)
	}
	if err := a.Records.ClosePage(ctx, office, id); err != nil {
		t.Fatal(err)
	}
	if _, err := a.Records.Public(ctx, second.Token); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("closed: %v", err)
	}
	if err := a.Records.ClosePage(ctx, office, id); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("closed twice: %v", err)
	}
}

// TestHandedOver: the customer's papers are mailed to them alone, of a sealed job; who took the pack signs for it, also
// after the seal, and the receipt is printed. What a file says of a receipt is no signature.
func TestHandedOver(t *testing.T) {
	a := newApp(t)
	box := &post{}
	a.Records.Mail = box
	v := imported(t, a, "uk-pass.json")
	id := v.Summary.ID
	mails := func(want string) {
		t.Helper()
		if _, err := a.Records.MailPack(ctx, office, id); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("mailed: %v, want %q", err, want)
		}
	}
	mails("no sealed record yet")
	if _, err := a.Records.Receipt(ctx, office, id); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("a receipt that nobody signed: %v", err)
	}
	site := v.Job.Site
	site.Language = job.Spanish
	if _, err := a.Jobs.SaveSection(ctx, office, id, job.SiteSection, jobs.Edit{Seen: v.Revisions["site"], Body: section(t, site)}); err == nil || !strings.Contains(err.Error(), "in English alone") {
		t.Errorf("a language that the country does not ask for: %v", err)
	}
	site.Language, site.Email = "", ""
	if _, err := a.Jobs.SaveSection(ctx, office, id, job.SiteSection, jobs.Edit{Seen: v.Revisions["site"], Body: section(t, site)}); err != nil {
		t.Fatal(err)
	}
	if _, err := a.Records.Seal(ctx, verifier, id); err != nil {
		t.Fatal(err)
	}
	mails("mail address is not entered")
	receipt := job.Entry{ID: "receipt-1", Kind: job.HandedOver, Value: "E. Marlowe", Strokes: "M10 20L30 40L50 20M60 60", At: time.Now()}
	for _, c := range []struct {
		name   string
		change func(*job.Entry)
		want   string
	}{
		{"nobody", func(e *job.Entry) { e.Value = " " }, "says who signed it"},
		{"not drawn", func(e *job.Entry) { e.Strokes = "" }, "is signed"},
		{"something else than strokes", func(e *job.Entry) { e.Strokes = "M10 20<script>" }, "strokes"},
		{"strokes of a note", func(e *job.Entry) { e.Kind, e.Reason = job.Noted, "a note" }, "sealed"},
	} {
		e := receipt
		c.change(&e)
		if _, err := a.Journal.Append(ctx, installer, id, []job.Entry{e}, nil); err == nil || !strings.Contains(err.Error(), c.want) {
			t.Errorf("%s: %v", c.name, err)
		}
	}
	if _, err := a.Journal.Append(ctx, installer, id, []job.Entry{receipt}, nil); err != nil {
		t.Fatal(err)
	}
	p, err := a.Records.Receipt(ctx, office, id)
	if err != nil || !strings.HasPrefix(string(p.Data), "%PDF-") || !strings.HasSuffix(p.Name, "-receipt.pdf") {
		t.Fatal(p.Name, err)
	}
	j, err := a.Jobs.Whole(ctx, id)
	if err != nil {
		t.Fatal(err)
	}
	doc := record.Receipt(&record.Record{Job: j}, []string{"Handover pack"})
	if at := len(doc.Blocks) - 1; at < 0 || doc.Blocks[at].Strokes != receipt.Strokes || doc.Blocks[at].Pairs[0][1] != "E. Marlowe" {
		t.Errorf("%+v", doc.Blocks)
	}
	// What is sealed after it is not what was signed for.
	early := []store.Record{{Issue: 2, Digest: strings.Repeat("2b", 32), SealedAt: receipt.At.Add(time.Hour)}, {Issue: 1, Digest: strings.Repeat("1a", 32), SealedAt: receipt.At.Add(-time.Hour)}}
	if given := records.GivenAt(early, receipt.At); len(given) != 1 || !strings.Contains(given[0], "issue 1,") {
		t.Errorf("%q", given)
	}
	if given := records.GivenAt(early[:1], receipt.At); len(given) != 1 || !strings.Contains(given[0], "before it was sealed") {
		t.Errorf("%q", given)
	}
	for i := range j.Log {
		if j.Log[i].Kind == job.HandedOver {
			j.Log[i].Imported = &job.Import{By: "M. Farrant"}
		}
	}
	if _, ok := j.Receipt(); ok {
		t.Error("a file signed for the pack")
	}
}

// TestMailPack: pack and certificate of the last issue go to the customer's address, and they are told of a withdrawal.
func TestMailPack(t *testing.T) {
	a := newApp(t)
	box := &post{}
	a.Records.Mail = box
	id, customer := reachable(t, a)
	if _, err := a.Records.Seal(ctx, verifier, id); err != nil {
		t.Fatal(err)
	}
	if _, err := a.Records.MailPack(ctx, installer, id); !errors.Is(err, people.ErrForbidden) {
		t.Errorf("by an installer: %v", err)
	}
	given, err := a.Records.MailPack(ctx, office, id)
	if err != nil || given.Address != customer || len(box.sent) != 1 {
		t.Fatal(given, err, box.sent)
	}
	for i, kind := range []records.SealedKind{"handover", "certificate"} {
		p, err := a.Records.Paper(ctx, office, id, 1, kind)
		if err != nil || len(box.sent[0].Files) != 2 || string(box.sent[0].Files[i].Data) != string(p.Data) {
			t.Errorf("%s is not in the mail: %v", kind, err)
		}
	}
	list, err := a.Records.Recipients(ctx, office, id)
	if err != nil || !slices.ContainsFunc(list, func(r records.Recipient) bool { return r.Address == customer && r.Day == given.Day }) {
		t.Errorf("%+v: %v", list, err)
	}
	if _, err := a.Records.Withdraw(ctx, verifier, id, 1, "the readings are of another job"); err != nil {
		t.Fatal(err)
	}
	if n := len(box.sent); n != 2 || box.sent[1].To != customer {
		t.Errorf("%d mails", n)
	}
	if _, err := a.Records.MailPack(ctx, office, id); !errors.Is(err, people.ErrBlocked) {
		t.Errorf("a withdrawn issue: %v", err)
	}
}
