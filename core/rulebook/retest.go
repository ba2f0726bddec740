package rulebook

import (
	"slices"
	"strings"

	"dogbolt/core/job"
)

// JudgeThen judges a reading as it stood when it was the newest of its test: what
// came after it in the log is left out. The verdict is "" where no rule looks at
// the test.
func JudgeThen(j *job.Job, entry int) (Verdict, error) {
	b, err := For(j)
	if err != nil {
		return "", err
	}
	e := &j.Log[entry]
	then := *j.Built()
	then.Log = then.Log[:entry+1]
	p, _ := then.Point(e.Point)
	s := Subject{Job: &then, Designed: j, Point: p, Book: b}
	b.Prepare(&s)
	return b.judge(&s, e.Subject), nil
}

// judge runs the rules that look at a test on a subject and returns the worst
// verdict.
func (b *Book) judge(s *Subject, test string) Verdict {
	worst := Verdict("")
	for i := range b.Rules {
		r := &b.Rules[i]
		if !r.PerPoint || !slices.Contains(r.Fields, "commission."+test) {
			continue
		}
		switch v := r.Check(s).Verdict; {
		case v == Stop:
			return Stop
		case worst == "" || v == Watch:
			worst = v
		}
	}
	return worst
}

// checkRetests watches for failed readings that were replaced without a word about
// the cause and the remedy: the three are one chain.
func checkRetests(s *Subject) Finding {
	chains, silent := []string{}, []string{}
	for i := range s.Job.Log {
		e := &s.Job.Log[i]
		if e.Kind != job.ReadingMade || e.Point != s.Point.ID || e.Replaces == "" {
			continue
		}
		k := slices.IndexFunc(s.Job.Log[:i], func(x job.Entry) bool { return x.ID == e.Replaces })
		if k < 0 {
			continue
		}
		then := *s
		copied := *s.Job
		copied.Log = copied.Log[:k+1]
		then.Job = &copied
		if s.Book.judge(&then, e.Subject) != Stop {
			continue // corrected, not failed
		}
		t, _ := s.Book.In.Tests.Find(e.Subject)
		chain := t.Title + ": " + s.Job.Log[k].Value + " failed, " + e.Value + " after"
		if strings.TrimSpace(e.Reason) == "" {
			silent = append(silent, chain)
			continue
		}
		chains = append(chains, chain+" “"+e.Reason+"”")
	}
	switch {
	case len(silent) > 0:
		return Advise(strings.Join(silent, "; ")+", without cause and remedy", "write down what was wrong and what was done about it, with the next reading")
	case len(chains) > 0:
		return Meets(strings.Join(chains, "; "))
	}
	return Finding{}
}
