package rulebook

import (
	"slices"
	"strconv"
	"strings"
	"time"

	"dogbolt/core/clearance"
	"dogbolt/core/job"
	"dogbolt/core/worklog"
)

// The checks of papers, parts and day that every rulebook shares.

func papersBefore(when ...job.Before) func(*Subject) Finding {
	return func(s *Subject) Finding {
		var waiting, aside, done []string
		papers := s.Job.PapersNow()
		for i := range papers {
			p := &papers[i]
			if !slices.Contains(when, p.Before) {
				continue
			}
			if p.Done() {
				done = append(done, p.Title)
			} else if e, put := s.Job.PutAside(p.ID); put {
				aside = append(aside, p.Title+", put aside by "+e.By+": "+e.Reason)
			} else {
				waiting = append(waiting, p.Title)
			}
		}
		if owner := clearance.Owner(s.Job); owner.Needed == job.Yes && slices.Contains(when, owner.Before) {
			for _, a := range clearance.Compare(s.Job, []clearance.Advice{{Paper: owner}}) {
				if a.Change != "" {
					waiting = append(waiting, owner.Title+", "+a.Change)
				}
			}
		}
		switch {
		case len(waiting) > 0:
			return Missing(strings.Join(waiting, "; "))
		case len(aside) > 0:
			return Advise(strings.Join(aside, "; "), "printed on the record, with name and reason")
		case len(done) > 0:
			return Meets(strings.Join(done, "; "))
		}
		return Finding{}
	}
}

// checkPaperDates stops where an answer came after the work that had to wait for
// it: a grant that was offered afterwards is void.
func checkPaperDates(s *Subject) Finding {
	if list := clearance.Misdated(s.Job); len(list) > 0 {
		return Fails(list[0].Title+" "+list[0].Why, "move the day, or ask whoever grants it what still holds")
	}
	return Finding{}
}

func checkParts(s *Subject) Finding {
	if len(s.Job.Plan.Parts) == 0 {
		return Missing("parts list")
	}
	var lacking []string
	for _, p := range s.Job.Plan.Parts {
		if p.Lacks() {
			lacking = append(lacking, p.Name)
		}
	}
	if len(lacking) > 0 {
		return Missing(strings.Join(lacking, "; "))
	}
	return Meets(strconv.Itoa(len(s.Job.Plan.Parts)) + " of " + strconv.Itoa(len(s.Job.Plan.Parts)) + " in hand")
}

func checkDay(s *Subject) Finding {
	p := s.Job.Plan
	began := s.Job.Has(job.StepDone)
	switch {
	case p.Booked() && !began && len(clearance.Blocking(s.Job, job.BeforeInstalling)) > 0:
		b := clearance.Blocking(s.Job, job.BeforeInstalling)[0]
		return Fails("booked for "+s.day(p.Day)+", but "+b.Title+": "+b.Why, "free the day, or bring the paper in")
	case p.Day == "":
		return Missing("a day")
	case len(p.Crew) == 0:
		return Missing("a crew")
	case p.Notice != job.Yes && s.Plans(worklog.MainOff):
		return Missing("power-off notice to the customer")
	case p.Over.By != "":
		return Advise(s.day(p.Day)+", booked by "+p.Over.By+" against advice: "+p.Over.Reason, strings.Join(p.Over.Against, "; "))
	}
	return Meets(s.day(p.Day) + ", " + strings.Join(p.Crew, " and "))
}

// day writes a day of the calendar as the country does; what is none, as it is.
func (s *Subject) day(d string) string {
	t, err := time.Parse(time.DateOnly, d)
	if err != nil {
		return d
	}
	return t.Format(s.Book.In.Date)
}
