package clearance_test

import (
	"slices"
	"strings"
	"testing"
	"time"

	"dogbolt/core/books/uk"
	"dogbolt/core/books/us"
	"dogbolt/core/clearance"
	"dogbolt/core/job"
)

func withPapers(papers ...job.Paper) *job.Job {
	return &job.Job{Clearances: job.Clearances{Papers: papers}}
}

// TestOrderRules: which paper holds up which event. The order is the field
// guide's: a grant before buying, a permit before the start, an inspection
// before covering up, the operator's answer before energising.
func TestOrderRules(t *testing.T) {
	events := []job.Before{job.BeforeOrder, job.BeforeBooking, job.BeforeInstalling, job.BeforeCovering, job.BeforeEnergising, job.BeforeSealing}
	for _, c := range []struct {
		before job.Before
		first  int // the first event that it holds up; all later ones too
	}{{job.BeforeOrder, 0}, {job.BeforeBooking, 1}, {job.BeforeInstalling, 2}, {job.BeforeCovering, 3}, {job.BeforeEnergising, 4}, {job.BeforeSealing, 5}, {job.After, 6}} {
		j := withPapers(job.Paper{ID: "p", Title: "Paper", Before: c.before, Needed: job.Yes})
		for i, e := range events {
			if got, want := len(clearance.Blocking(j, e)) == 1, i >= c.first; got != want {
				t.Errorf("before %s: holds up %s: %t, want %t", c.before, e, got, want)
			}
		}
	}
}

func TestBlockingSaysWhy(t *testing.T) {
	paper := func(change func(*job.Paper)) *job.Job {
		p := job.Paper{ID: "grant", Title: "Grant", Before: job.BeforeOrder, Needed: job.Yes}
		change(&p)
		return withPapers(p)
	}
	for _, c := range []struct {
		name   string
		change func(*job.Paper)
		why    string // "" for nothing in the way
	}{
		{"not sent", func(*job.Paper) {}, "not sent"},
		{"undecided", func(p *job.Paper) { p.Needed = job.Unasked }, "needed or not"},
		{"not needed, without a reason", func(p *job.Paper) { p.Needed = job.No }, "is not recorded"},
		{"not needed", func(p *job.Paper) { p.Needed, p.Reason = job.No, "none is claimed" }, ""},
		{"waiting", func(p *job.Paper) { p.Sent = "2027-01-04" }, "sent 2027-01-04, not answered"},
		{"sent back", func(p *job.Paper) { p.Replies = []job.Reply{{On: "2027-01-20", Outcome: job.Bounced}} }, "came back on 2027-01-20"},
		{"acknowledged only", func(p *job.Paper) {
			p.Sent, p.Replies = "2027-01-04", []job.Reply{{On: "2027-01-05", Outcome: job.Received}}
		}, "not answered"},
		{"granted", func(p *job.Paper) { p.Sent, p.Granted = "2027-01-04", "2027-02-20" }, ""},
	} {
		t.Run(c.name, func(t *testing.T) {
			got := clearance.Blocking(paper(c.change), job.BeforeBooking)
			switch {
			case c.why == "" && len(got) > 0:
				t.Errorf("%s: %v", c.name, got)
			case c.why != "" && (len(got) != 1 || !strings.Contains(got[0].Why, c.why)):
				t.Errorf("%s: %v, want %q", c.name, got, c.why)
			}
		})
	}
	// Put aside by a qualified person, and the override taken back again.
	j := paper(func(*job.Paper) {})
	j.Log = []job.Entry{{ID: "entry-0001", Kind: job.Overridden, Subject: "paper:grant", By: "A. Nakagawa", Reason: "the customer withdrew the grant"}}
	if got := clearance.Blocking(j, job.BeforeEnergising); len(got) != 0 {
		t.Errorf("put aside: %v", got)
	}
	j.Log = append(j.Log, job.Entry{ID: "entry-0002", Kind: job.Noted, Reason: "it was not withdrawn", Replaces: "entry-0001"})
	if got := clearance.Blocking(j, job.BeforeEnergising); len(got) != 1 {
		t.Errorf("override replaced: %v", got)
	}
}

// TestGrantAfterTheWork: a grant that was offered after the day of the work is
// void (field guide, stage 3).
func TestGrantAfterTheWork(t *testing.T) {
	j := withPapers(job.Paper{ID: "grant", Title: "Grant", Before: job.BeforeOrder, Needed: job.Yes, Sent: "2027-01-04", Granted: "2027-03-02"})
	j.Plan.Day = "2027-03-01"
	if got := clearance.Misdated(j); len(got) != 1 || !strings.Contains(got[0].Why, "after the day") {
		t.Error(got)
	}
	j.Plan.Day = "2027-03-02"
	if got := clearance.Misdated(j); len(got) != 0 {
		t.Error(got)
	}
}

func find(list []clearance.Advice, id string) clearance.Advice {
	return list[slices.IndexFunc(list, func(p clearance.Advice) bool { return p.Paper.ID == id })]
}

func TestProposals(t *testing.T) {
	j := &job.Job{}
	j.Survey.Consent.Landlord = job.Yes
	j.Survey.Places = []job.Place{{Point: "A", Route: []job.Segment{{Method: job.Conduit, Length: 4}}}}
	apply := clearance.Demand{Total: 80, Cutout: 100, Known: true, Sound: job.Yes}
	british := uk.Practice.Papers(j, apply)
	if p := find(british, "operator"); p.Paper.Before != job.BeforeEnergising || p.Paper.Needed != job.Yes || p.Route != "apply-before" {
		t.Errorf("operator: %+v", p)
	}
	if p := find(british, "owner").Paper; p.Needed != job.Yes || p.Before != job.BeforeInstalling {
		t.Errorf("owner: %+v", p)
	}
	if p := find(british, "grant").Paper; p.Needed != job.Unasked || p.Before != job.BeforeOrder || p.WaitLow != 42 || p.WaitHigh != 84 {
		t.Errorf("grant, 6 to 12 weeks by the field guide: %+v", p)
	}
	american := us.Practice.Papers(j, clearance.Demand{Total: 120, Cutout: 100, Known: true})
	if p := find(american, "rough-in").Paper; p.Needed != job.No {
		t.Errorf("conduit in sight needs no rough-in: %+v", p)
	}
	if p := find(american, "utility").Paper; p.Needed != job.Yes || p.Before != job.BeforeEnergising {
		t.Errorf("utility: %+v", p)
	}
	j.Survey.Places[0].Route[0].Method = job.Buried
	if p := find(us.Practice.Papers(j, clearance.Demand{}), "rough-in").Paper; p.Needed != job.Yes || p.Before != job.BeforeCovering || !strings.Contains(p.Reason, "in the ground") {
		t.Errorf("buried: %+v", p)
	}
	if p := find(us.Practice.Papers(&job.Job{}, clearance.Demand{}), "rough-in").Paper; p.Needed != job.Unasked {
		t.Errorf("no route: %+v", p)
	}
}

// TestTake: the proposals are taken over without losing what people entered.
func TestTake(t *testing.T) {
	j := withPapers(
		job.Paper{ID: "operator", Title: "Network operator: notice or application", Before: job.After, Needed: job.Yes, Sent: "2027-01-04", Reference: "N 41"},
		job.Paper{ID: "grant", Title: "Grant", Before: job.BeforeOrder, Needed: job.No, Reason: "none is claimed"},
		job.Paper{ID: "own", Title: "Our own", Before: job.BeforeSealing, Needed: job.Yes},
	)
	list := uk.Practice.Papers(j, clearance.Demand{Total: 80, Cutout: 100, Known: true, Sound: job.Yes})
	if c := find(list, "operator").Change; !strings.Contains(c, "must come earlier") {
		t.Errorf("operator: %q", c)
	}
	if c := find(list, "grant").Change; c != "" {
		t.Errorf("grant is decided: %q", c)
	}
	if c := find(list, "installer").Change; !strings.Contains(c, "not among") {
		t.Errorf("installer: %q", c)
	}
	out := clearance.Take(j.Clearances.Papers, list)
	if p := out[0]; p.Before != job.BeforeEnergising || p.Sent != "2027-01-04" || p.Reference != "N 41" || p.WaitHigh != 65 {
		t.Errorf("operator: %+v", p)
	}
	if p := out[1]; p.Needed != job.No || p.Reason != "none is claimed" {
		t.Errorf("grant: %+v", p)
	}
	if out[2].ID != "own" || len(out) != 7 {
		t.Errorf("%d papers: %+v", len(out), out)
	}
	j.Clearances.Papers = out
	for _, p := range uk.Practice.Papers(j, clearance.Demand{Total: 80, Cutout: 100, Known: true, Sound: job.Yes}) {
		if p.Change != "" && p.Paper.ID != "owner" {
			t.Errorf("%s still differs after taking all: %s", p.Paper.ID, p.Change)
		}
	}
	// A paper that was marked as not needed, against the figures, is named and left.
	out[0].Needed, out[0].Reason = job.No, "too small"
	j.Clearances.Papers = out
	list = uk.Practice.Papers(j, clearance.Demand{Total: 80, Cutout: 100, Known: true, Sound: job.Yes})
	if c := find(list, "operator").Change; !strings.Contains(c, "not needed, but") {
		t.Errorf("operator: %q", c)
	}
	if clearance.Take(out, list)[0].Needed != job.No {
		t.Error("a person's decision was overwritten")
	}
}

func TestTimeline(t *testing.T) {
	const today = "2027-03-27"
	j := withPapers(
		job.Paper{ID: "a", Needed: job.Yes, Sent: "2027-03-01", WaitLow: 7, WaitHigh: 42},
		job.Paper{ID: "b", Needed: job.Yes, Sent: "2027-01-01", WaitLow: 7, WaitHigh: 42},
		job.Paper{ID: "c", Needed: job.Yes, WaitLow: 1, WaitHigh: 2},
		job.Paper{ID: "d", Needed: job.Yes, WaitLow: 1, WaitHigh: 2, Replies: []job.Reply{{On: "2027-03-20", Outcome: job.Bounced}}},
		job.Paper{ID: "e", Needed: job.Yes, Sent: "2027-01-01", Granted: "2027-02-01"},
		job.Paper{ID: "f", Needed: job.No}, job.Paper{ID: "g"},
		job.Paper{ID: "h", Needed: job.Yes},
	)
	j.Log = []job.Entry{{ID: "entry-0001", Kind: job.Overridden, Subject: "paper:h", Reason: "by word of mouth"}}
	want := []clearance.Span{
		{Paper: "a", State: clearance.Waiting, From: "2027-03-01", Low: "2027-03-08", High: "2027-04-12"},
		{Paper: "b", State: clearance.Overdue, From: "2027-01-01", Low: "2027-01-08", High: "2027-02-12"},
		{Paper: "c", State: clearance.ToSend, From: today, Low: "2027-03-28", High: "2027-03-29"}, // over the change of the clock
		{Paper: "d", State: clearance.Back, From: today, Low: "2027-03-28", High: "2027-03-29"},
		{Paper: "e", State: clearance.Answered, From: "2027-01-01"},
		{Paper: "f", State: clearance.NotNeeded}, {Paper: "g", State: clearance.Undecided}, {Paper: "h", State: clearance.Aside},
	}
	for i, b := range clearance.Timeline(j, today, clearance.Law{}) {
		w := want[i]
		if b.Paper != w.Paper || b.State != w.State || b.From != w.From || b.Low != w.Low || b.High != w.High {
			t.Errorf("%+v, want %+v", b, w)
		}
	}
}

func TestDeadlines(t *testing.T) {
	j := withPapers(
		job.Paper{ID: "operator", Needed: job.Yes, Before: job.After, Due: "2027-05-01"},
		job.Paper{ID: "grant", Needed: job.Yes, Before: job.BeforeOrder, Sent: "2027-01-04", WaitLow: 42, WaitHigh: 84},
		job.Paper{ID: "permit", Needed: job.Yes, Before: job.BeforeInstalling, WaitHigh: 15},
		job.Paper{ID: "back", Needed: job.Yes, Replies: []job.Reply{{On: "2027-02-02", Outcome: job.Bounced}}},
		job.Paper{ID: "done", Needed: job.Yes, Granted: "2027-02-02", Due: "2027-02-03"},
		job.Paper{ID: "no", Needed: job.No, Due: "2027-02-03"},
	)
	j.Plan.Day = "2027-04-10"
	var got []string
	for _, d := range clearance.Deadlines(j, clearance.Law{}) {
		got = append(got, d.Day+" "+d.Paper+" "+d.What)
	}
	want := []string{"2027-02-02 back mend and send again", "2027-03-26 permit send, for an answer by 2027-04-10", "2027-03-29 grant ask for the answer", "2027-05-01 operator due"}
	if !slices.Equal(got, want) {
		t.Errorf("%q", got)
	}
}

// TestLaw: days count from the work by themselves, by the clock of the site, until the paper is
// sent, or passed where it has to be; a day that was agreed stands where it is earlier.
func TestLaw(t *testing.T) {
	phoenix, err := time.LoadLocation("America/Phoenix")
	if err != nil {
		t.Fatal(err)
	}
	law := clearance.Law{Zone: phoenix, Days: []clearance.Statutory{
		{Paper: "operator", Days: 28, From: clearance.FromSwitchingOn, Late: "tell it all the same"},
		{Paper: "notice", Days: 30, From: clearance.FromCompletion, Late: "say so"},
		{Paper: "final", Days: 180, From: clearance.FromSwitchingOn, Asked: true, Late: "ask"},
	}}
	papers := func(list ...job.Paper) *job.Job {
		for i := range list {
			list[i].Needed, list[i].Before = job.Yes, job.After
		}
		return withPapers(list...)
	}
	// Three in the morning of the 5th by UTC is the evening of the 4th in Phoenix.
	on := job.Entry{ID: "entry-0001", Kind: job.StepDone, Subject: job.SwitchedOn, At: time.Date(2026, 5, 5, 3, 0, 0, 0, time.UTC)}
	signed := job.Entry{ID: "entry-0002", Kind: job.SignedOff, Subject: "construction", At: time.Date(2026, 5, 6, 18, 0, 0, 0, time.UTC)}
	for _, c := range []struct {
		name  string
		paper job.Paper
		log   []job.Entry
		want  string // the days that it is due on
	}{
		{"not switched on", job.Paper{ID: "operator"}, nil, ""},
		{"switched on", job.Paper{ID: "operator"}, []job.Entry{on}, "2026-06-01"},
		{"an earlier day was agreed", job.Paper{ID: "operator", Due: "2026-05-20"}, []job.Entry{on}, "2026-05-20"},
		{"a later day was agreed", job.Paper{ID: "operator", Due: "2026-06-20"}, []job.Entry{on}, "2026-06-01 2026-06-20"},
		{"sent", job.Paper{ID: "operator", Sent: "2026-05-10"}, []job.Entry{on}, ""},
		{"not signed", job.Paper{ID: "notice"}, []job.Entry{on}, "2026-06-03"},
		{"signed", job.Paper{ID: "notice"}, []job.Entry{on, signed}, "2026-06-05"},
		{"asked for, not passed", job.Paper{ID: "final", Sent: "2026-05-10"}, []job.Entry{on}, "2026-10-31"},
		{"passed", job.Paper{ID: "final", Sent: "2026-05-10", Granted: "2026-05-12"}, []job.Entry{on}, ""},
		{"another paper", job.Paper{ID: "tariff"}, []job.Entry{on}, ""},
		{"after the seal, sent", job.Paper{ID: "operator"}, []job.Entry{on, moved("operator", job.PaperSent, "2026-05-11", "")}, ""},
		{"after the seal, sent back", job.Paper{ID: "operator", Sent: "2026-05-10"}, []job.Entry{on, moved("operator", job.PaperBack, "2026-05-11", "no demand")}, "2026-05-11 2026-06-01"},
		{"after the seal, taken back", job.Paper{ID: "operator"}, []job.Entry{on, moved("operator", job.PaperSent, "2026-05-11", ""),
			{ID: "entry-0009", Kind: job.TakenBack, Subject: "operator", Replaces: "moved-operator", Reason: "another job's"}}, "2026-06-01"},
	} {
		j := papers(c.paper)
		j.Log = c.log
		j.Index()
		var days []string
		for _, d := range clearance.Deadlines(j, law) {
			days = append(days, d.Day)
		}
		if got := strings.Join(days, " "); got != c.want {
			t.Errorf("%s: due %q, want %q", c.name, got, c.want)
		}
	}
	j := papers(job.Paper{ID: "operator"}, job.Paper{ID: "tariff"}, job.Paper{ID: "final", Granted: "2026-05-12"})
	j.Log = []job.Entry{on}
	coming := clearance.ToCome(j, "2026-05-10", law)
	if len(coming) != 2 || coming[0].By != "2026-06-01" || coming[0].Says != "28 days from switching on" || coming[0].Late == "" || coming[1].By != "" {
		t.Errorf("to come: %+v", coming)
	}
	if spans := clearance.Timeline(j, "2026-05-10", law); spans[0].Due != "2026-06-01" || !strings.Contains(spans[0].Note, "late: tell it") || spans[2].Due != "" {
		t.Errorf("%+v", spans)
	}
}

// moved is what became of a paper after the seal.
func moved(paper string, event job.PaperEvent, day, words string) job.Entry {
	return job.Entry{ID: "moved-" + paper, Kind: job.PaperMoved, Subject: paper, Value: string(event), Day: day, Reason: words}
}

// TestDays: days of the calendar are not moved by a change of the clock. The
// changes are published: 28 March and 31 October 2027 in Europe, 14 March and
// 7 November 2027 in the United States.
func TestDays(t *testing.T) {
	for _, change := range []string{"2027-03-28", "2027-10-31", "2027-03-14", "2027-11-07"} {
		d, err := time.Parse(time.DateOnly, change)
		if err != nil {
			t.Fatal(err)
		}
		for n := -3; n <= 3; n++ {
			to := d.AddDate(0, 0, n).Format(time.DateOnly)
			if got := clearance.AddDays(change, n); got != to {
				t.Errorf("%s + %d = %s", change, n, got)
			}
			if got, err := clearance.DaysBetween(change, to); got != n || err != nil {
				t.Errorf("from %s to %s: %d %v", change, to, got, err)
			}
		}
	}
	if clearance.AddDays("soon", 3) != "soon" {
		t.Error("a day that is none was moved")
	}
	for _, bad := range [][2]string{{"soon", "2027-01-01"}, {"2027-01-01", "2027-02-30"}} {
		if _, err := clearance.DaysBetween(bad[0], bad[1]); err == nil {
			t.Errorf("%v is taken for days", bad)
		}
	}
}
