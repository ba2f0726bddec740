package record

import (
	"cmp"
	"strings"

	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/rulebook"
	"dogbolt/core/verdict"
	"dogbolt/core/worklog"
)

// What was logged: readings, steps, and who wrote each entry.

// said is who made an entry and when, when it arrived where a device kept it, who read it in
// where a file says so, and who took it back.
func (b *builder) said(e job.Entry) string {
	who := e.By + " " + b.moment(e.At)
	if !e.Arrived.IsZero() {
		who += ", kept on the device, arrived " + b.moment(e.Arrived)
	}
	if e.Imported != nil {
		who += "; by a file that " + e.Imported.By + " read in " + b.moment(e.Imported.At)
	}
	if b.j.Gone(&e) {
		for _, t := range b.j.Of(job.TakenBack) {
			if t.Replaces == e.ID {
				who += "; taken back by " + strings.Join(nonEmpty(t.By+" "+b.moment(t.At), t.Reason), ": ")
			}
		}
	}
	return who
}

// setting is what was set, in words.
func (b *builder) setting(subject string) string {
	switch subject {
	case worklog.SetAmps:
		return "Set on site to"
	case worklog.LockedSet:
		return "Setting locked by"
	case job.Scheduler:
		return "Who decides when it charges"
	case job.Account:
		return "Whose the account of its app is"
	case job.Access:
		return "Who may start it"
	}
	if test, ok := b.in.Tests.Find(subject); ok {
		return test.Title
	}
	return "Setting, " + subject
}

// readings lists every reading of a point, failed ones and their retests too.
func (b *builder) readings(p job.Point) {
	t := &Table{
		Columns: []Column{{"Test", 0.30, false}, {"Reading", 0.13, true}, {"Limit", 0.17, false}, {"Instrument", 0.13, false}, {"By, when", 0.27, false}},
	}
	for _, test := range b.in.Tests.Sequence(p.Circuit) {
		last, _ := b.j.Latest(job.ReadingMade, p.ID, test.ID)
		for i, e := range b.j.Log {
			if e.Kind != job.ReadingMade || e.Point != p.ID || e.Subject != test.ID {
				continue
			}
			judged, limit := b.verdictOf(test.ID, p.ID)
			title := test.Title
			// A failed reading, its cause and remedy, and the retest are one chain.
			if e.Replaces != "" {
				title += ", tested again"
			}
			if e.ID != last.ID {
				then, err := rulebook.JudgeThen(b.j, i)
				if err != nil {
					then = ""
				}
				judged = then
				how := ", replaced"
				if b.j.Gone(&e) {
					how = ", taken back"
				}
				if title += how; then == rulebook.Stop {
					title += ": failed"
				}
			}
			value := quantity.Entered(e.Value, test.Unit)
			who := b.said(e)
			switch {
			case e.Instrument == commission.Calculated:
				who += ": by calculation, " + e.Reason
			case e.Reason != "":
				who += ". Cause and remedy: " + e.Reason
			}
			t.Rows = append(t.Rows, []string{title, value, limit, strings.Join(nonEmpty(e.Instrument, b.calibrated(e)), ", "), who})
			t.Verdicts = append(t.Verdicts, judged)
		}
	}
	b.add(Block{Heading: "Readings, point " + p.ID, Table: t})
}

// verdictOf returns the verdict and limit of the rule that judges a test.
func (b *builder) verdictOf(test, point string) (v verdict.Verdict, limit string) {
	for _, f := range b.r.Findings {
		for _, field := range f.Fields {
			if f.Point == point && field == "commission."+test {
				return f.Verdict, f.Limit
			}
		}
	}
	return "", ""
}

// names are the titles of the steps and of the terminals, by their ids.
func (b *builder) names() (steps, terminals map[string]string) {
	steps = map[string]string{worklog.Answer: "Answered: clear to switch on", worklog.Clock: "Clock of the work"}
	for _, s := range b.in.Install.Plan(b.j) {
		steps[s.ID] = s.Title
	}
	terminals = map[string]string{}
	for _, p := range b.j.Points() {
		for _, t := range b.in.Install.Terminals(p) {
			terminals[t.ID] = t.Title
		}
	}
	return steps, terminals
}

func (b *builder) steps() {
	titles, terminals := b.names()
	t := &Table{Columns: []Column{{"Step", 0.42, false}, {"Point", 0.08, false}, {"Recorded", 0.22, false}, {"By, when", 0.28, false}}}
	for _, e := range b.j.Log {
		who := b.said(e)
		switch {
		case e.Kind == job.StepDone:
			t.Rows = append(t.Rows, []string{titles[e.Subject], e.Point, e.Value, who})
		case e.Kind == job.TakenBack:
			what := append(nonEmpty(titles[e.Subject], terminals[e.Subject]), b.titled(e))[0]
			t.Rows = append(t.Rows, []string{"Taken back: " + what, e.Point, e.Reason, who})
		case e.Kind == job.PhotoTaken:
			t.Rows = append(t.Rows, []string{titles[e.Subject] + ", photo", e.Point, "under Photos, digest " + e.Value[:min(8, len(e.Value))], who})
		case e.Kind == job.ReadingMade && strings.HasPrefix(e.Subject, worklog.DeadPair):
			t.Rows = append(t.Rows, []string{"Prove dead, " + strings.TrimPrefix(e.Subject, worklog.DeadPair), "", quantity.Entered(e.Value, "V"), who})
		case e.Kind == job.TorqueMade:
			tool := strings.Join(nonEmpty(e.Instrument, b.calibrated(e)), ", ")
			if e.Second != "" {
				who += ", seen by " + e.Second
			}
			t.Rows = append(
				t.Rows,
				[]string{"Torque, " + terminals[e.Subject], e.Point, strings.Join(nonEmpty(e.Value+" "+e.Unit+", label "+e.Target, tool), "; "), who},
			)
		}
	}
	b.add(Block{Heading: "Installation steps", Table: t})
}

// titled says what an entry that was taken back was about, where it is no step and no terminal.
func (b *builder) titled(back job.Entry) string {
	k := b.j.Place(back.Replaces)
	if k < 0 {
		return "an entry"
	}
	return b.about(&b.j.Log[k])
}

// about says what an entry is about, where it is no step and no terminal.
func (b *builder) about(e *job.Entry) string {
	switch {
	case e.Kind == job.ReadingMade && strings.HasPrefix(e.Subject, worklog.DeadPair):
		return "Prove dead, " + strings.TrimPrefix(e.Subject, worklog.DeadPair)
	case e.Kind == job.ReadingMade:
		p, _ := b.j.Point(e.Point)
		test, _ := b.in.Tests.Of(&p.Circuit, e.Subject)
		return test.Title
	case e.Kind == job.SignedOff:
		return "signature, " + e.Subject
	case e.Kind == job.HandedOver:
		return "receipt of the pack"
	case e.Kind == job.Inspected:
		if item := b.in.Inspect.Find(e.Subject); item != nil {
			return item.Title
		}
	case e.Kind == job.CorrectionAsked:
		p, _ := b.j.PaperNow(e.Subject)
		return "an inspector's correction, " + cmp.Or(p.Title, e.Subject)
	case e.Kind == job.PutRight:
		return "put right for an inspector"
	case e.Kind == job.Varied:
		v, _ := job.FindVariation(e.Subject)
		return "variation, " + v.Title
	case e.Kind == job.Overridden && b.book != nil:
		for i := range b.book.Rules {
			if b.book.Rules[i].ID == e.Subject {
				return "override, " + b.book.Rules[i].Title
			}
		}
	}
	return string(e.Kind) + ", " + strings.TrimPrefix(e.Subject, job.PaperOverride)
}

func (b *builder) calibrated(e job.Entry) string {
	if e.Calibrated == "" {
		return ""
	}
	return "calibrated until " + b.day(e.Calibrated)
}
