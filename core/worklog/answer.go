package worklog

import (
	"slices"
	"strings"
	"time"

	"dogbolt/core/job"
	"dogbolt/core/schema"
)

// Answered is one person on the job, and whether they have said that the board
// may be switched on.
type Answered struct {
	Name string    `json:"name"`
	How  Heard     `json:"how,omitempty" doc:"By their own phone, or in person and recorded by somebody else; left out while they have not answered."`
	At   time.Time `json:"at,omitempty,omitzero"`
}

// Heard is how a person answered.
type Heard string

// How people answer.
const (
	ByPhone  Heard = "phone"
	InPerson Heard = "person"
)

// Values lists how people answer.
func (Heard) Values() []string { return schema.Words(ByPhone, InPerson) }

// Roll lists everyone on the job, with their answer: the crew of the plan and
// whoever logged work since the main was switched off. An answer lapses when
// work inside is logged after it, or the board is switched on.
func Roll(j *job.Job, plan []Step) []Answered {
	list := make([]Answered, 0, len(j.Plan.Crew)+2)
	for _, n := range j.Plan.Crew {
		list = append(list, Answered{Name: n})
	}
	find := func(name string) *Answered {
		i := slices.IndexFunc(list, func(a Answered) bool { return strings.EqualFold(a.Name, name) })
		if i < 0 {
			return nil
		}
		return &list[i]
	}
	off := false
	for _, e := range j.Of(job.StepDone, job.TorqueMade, job.TakenBack) {
		if e.Replaces != "" && e.Kind == job.StepDone {
			continue // a correction is no work
		}
		switch {
		case e.Kind == job.TakenBack: // who takes something back is there
		case e.Subject == MainOff:
			off, list = true, list[:len(j.Plan.Crew)]
			lapse(list)
		case e.Subject == Energise:
			off, list = false, list[:len(j.Plan.Crew)]
			lapse(list)
		case e.Kind == job.TorqueMade || inside(plan, e.Subject, e.Point):
			lapse(list)
		}
		if off && e.By != "" && find(e.By) == nil {
			list = append(list, Answered{Name: e.By})
		}
		if e.Kind == job.StepDone && e.Subject == Answer && e.Signs() {
			name, how := e.By, ByPhone
			if e.Value != "" {
				name, how = e.Value, InPerson
			}
			if a := find(name); a != nil {
				a.How, a.At = how, e.At
			}
		}
	}
	return list
}

func lapse(list []Answered) {
	for i := range list {
		list[i].How, list[i].At = "", time.Time{}
	}
}

// Unanswered returns who on the roll has neither answered nor is named in an
// energising entry, where the lead records answers given in person: nobody
// switches on until everyone has answered.
func Unanswered(roll []Answered, named string) []string {
	var missing []string
	for _, a := range roll {
		if a.How == "" && !strings.Contains(named, a.Name) {
			missing = append(missing, a.Name)
		}
	}
	return missing
}
