package rulebook

import (
	"slices"
	"strings"
	"time"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/worklog"
)

// The checks of the installation's log that every rulebook shares.

func checkDead(s *Subject) Finding {
	install := &s.Book.In.Install
	if e, bad := worklog.InsideWhileLive(s.Job, s.steps(), install.Pairs(&s.Job.Survey.Supply), install.Tails(s.Job), s.Stricter.Sleep); bad {
		return Fails("“"+e.Subject+"” was logged by "+e.By+" while dead was not proved",
			"prove dead, inspect the work again, and log both")
	}
	for _, e := range s.Job.Of(job.StepDone) {
		if e.Subject == worklog.BoardWork {
			return Meets("every step inside the board was logged while all pairs read dead")
		}
	}
	if !s.Plans(worklog.ProveDead) {
		return Finding{}
	}
	iso := worklog.StateOf(s.Job, install.PairsOf(s.Job), time.Time{}, s.Stricter.Sleep)
	if iso.Proved {
		return Meets("all pairs read dead, known source before and after")
	}
	if len(iso.Live) > 0 {
		return Fails("not dead: "+strings.Join(iso.Live, ", "), "find the source; treat everything as live")
	}
	return Missing(strings.Join(iso.Missing, ", "))
}

func checkSteps(s *Subject) Finding {
	todo, total, left := "", 0, 0
	for i := range s.steps() {
		st := &s.steps()[i]
		if st.ID == worklog.ProveDead || st.ID == worklog.DeadTests || st.Optional {
			continue
		}
		total++
		if _, ok := s.Job.Latest(job.StepDone, st.Point, st.ID); !ok {
			left++
			if todo == "" {
				todo = st.Title
			}
		}
	}
	switch {
	case left == total:
		return Missing("the first step: " + todo)
	case left > 0:
		return Missing(quantity.Say("{} of {} steps; next: ", float64(left), float64(total)) + todo)
	}
	return Meets(quantity.Say("{} steps done", float64(total)))
}

func checkEnergise(s *Subject) Finding {
	e, ok := s.Job.Latest(job.StepDone, "", worklog.Energise)
	if !ok {
		return Missing("agreement of everyone on the job")
	}
	// Who was on the job, and had answered, when it was switched on.
	before := *s.Job
	before.Log = before.Log[:before.Place(e.ID)]
	roll := worklog.Roll(&before, s.steps())
	if un := worklog.Unanswered(roll, e.Value); len(un) > 0 {
		return Fails("energised without an answer from "+strings.Join(un, ", "), "switch off, ask everyone, log it again")
	}
	names := make([]string, len(roll))
	for i, a := range roll {
		names[i] = a.Name
	}
	return Meets("answered: " + strings.Join(names, ", "))
}

func checkSetting(s *Subject) Finding {
	c := &s.Point.Circuit
	e, ok := s.Job.Latest(job.SettingMade, s.Point.ID, worklog.SetAmps)
	if !ok {
		return Missing("the amps that the charger was set to")
	}
	r, err := quantity.ParseReading(e.Value, "A")
	if err != nil || r.Bound != quantity.Exact {
		return Missing("the set amps as a number")
	}
	limit, how := s.Book.In.SettingLimit(c)
	switch {
	case c.Setting == 0 || c.Breaker.Rating == 0:
		return Missing("design setting and breaker")
	case r.Value > limit:
		return Finding{Verdict: Stop, Value: Num(r.Value), High: Num(limit), Unit: "A",
			Working: quantity.Say("{} A set > {} A, ", r.Value, limit) + how, Remedy: "lower the setting"}
	case r.Value != float64(c.Setting):
		return Finding{Verdict: Stop, Value: Num(r.Value), Low: Num(float64(c.Setting)), High: Num(float64(c.Setting)), Unit: "A",
			Working: quantity.Say("{} A set, {} A designed", r.Value, float64(c.Setting)), Remedy: "set it as designed, or change the design and check again"}
	}
	lock, ok := s.Job.Latest(job.SettingMade, s.Point.ID, worklog.LockedSet)
	switch {
	case !ok || lock.Value == "":
		return Missing("how the setting is locked, and who may change it")
	case lock.Value == worklog.NotLocked:
		return Fails("the setting is "+lock.Value, "lock it by its maker's instructions")
	case !slices.Contains(worklog.Locks, lock.Value):
		return Missing("how the setting is locked: “" + lock.Value + "” is not one of " + strings.Join(worklog.Locks, "; "))
	}
	return Finding{Verdict: Sound, Value: Num(r.Value), High: Num(limit), Unit: "A",
		Working: quantity.Say("{} A set = design, ≤ {} A, ", r.Value, limit) + how + "; locked: " + lock.Value}
}
