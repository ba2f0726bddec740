package planning

import (
	"strings"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/worklog"
)

// DaySheet is what a van takes along for a job: where, what, and what to beware of.
type DaySheet struct {
	Number   string   `json:"number"`
	Customer string   `json:"customer"`
	Phone    string   `json:"phone,omitempty"`
	Address  []string `json:"address"`
	Day      string   `json:"day,omitempty"`
	Start    string   `json:"start,omitempty"`
	Hours    float64  `json:"hours,omitempty"`
	Crew     []string `json:"crew"`
	Work     []string `json:"work" doc:"What is to be installed, a line a point."`
	Access   []string `json:"access"`
	Pick     []Pick   `json:"pick"`
	Tools    []Pick   `json:"tools"`
	Isolate  []string `json:"isolate" doc:"Isolation of this supply."`
	Cautions []string `json:"cautions" doc:"Each with its clause or where it comes from."`
	Against  []string `json:"against" doc:"What stood against the day, where it was booked all the same."`
	Over     string   `json:"over,omitempty" doc:"Who booked it all the same, and why."`
}

// Pick is a line of the pick list.
type Pick struct {
	Name     string  `json:"name"`
	Quantity float64 `json:"quantity"`
	Unit     string  `json:"unit,omitempty"`
	From     string  `json:"from,omitempty"`
	InHand   bool    `json:"inHand"`

	Says []string `json:"says,omitempty" doc:"What is written on them, of labels."`
}

// SheetOf gathers the day sheet of a job. Cautions are those of the steps that
// the job has, of a second source, of buried cable and of drilling; what is not
// known is said to be so.
func SheetOf(j *job.Job, work *worklog.Practice) DaySheet {
	s := DaySheet{Number: j.Number, Customer: j.Site.Customer, Phone: j.Site.Phone, Address: nonEmpty(j.Site.Street, j.Site.Town, j.Site.Postcode),
		Day: j.Plan.Day, Start: j.Plan.Start, Hours: j.Plan.Hours, Crew: append([]string{}, j.Plan.Crew...), Against: append([]string{}, j.Plan.Over.Against...),
		Work: []string{}, Pick: []Pick{}, Tools: []Pick{}}
	if j.Plan.Over.By != "" {
		s.Over = j.Plan.Over.By + ": " + j.Plan.Over.Reason
	}
	for _, p := range j.Points() {
		c := p.Circuit
		s.Work = append(
			s.Work,
			strings.Join(
				nonEmpty(
					"Point "+p.ID,
					p.Place.Name,
					c.Charger.Type,
					amps(float64(c.Setting), "set to "),
					amps(float64(c.Breaker.Rating), "breaker "),
					c.Cable.Size,
				),
				", ",
			),
		)
	}
	for _, p := range j.Plan.Parts {
		line := Pick{p.Name, p.Quantity, p.Unit, p.From, p.InHand == job.Yes, p.Says}
		if p.Tool == job.Yes {
			s.Tools = append(s.Tools, line)
		} else {
			s.Pick = append(s.Pick, line)
		}
	}
	s.access(j)
	s.isolation(j, work)
	s.cautions(j, work)
	return s
}

func (s *DaySheet) access(j *job.Job) {
	home := map[job.Answer]string{
		job.Yes:     "Customer at home.",
		job.No:      "Nobody at home: how the crew gets in has to be agreed.",
		job.Unasked: "Not asked whether anybody is at home.",
	}
	s.Access = nonEmpty(home[j.Plan.Home], j.Site.Note)
	if n := j.Survey.Network; n.Password != "" {
		s.Access = append(s.Access, "Network password: with "+n.Password+".")
	}
	if r := j.Survey.Consent.Refused; r != "" {
		s.Access = append(s.Access, "The customer will not have: "+r+".")
	}
}

func (s *DaySheet) isolation(j *job.Job, work *worklog.Practice) {
	if !work.Opens(j) {
		s.Isolate = append(s.Isolate, "Nothing is opened: the charger is set, and its cover stays shut.")
		return
	}
	p := &j.Survey.Supply
	where := "Main switch: place not recorded."
	if p.MainsSwitchAt != "" {
		where = "Main switch: " + p.MainsSwitchAt + "."
	}
	s.Isolate = append(s.Isolate, where, "Pairs to prove dead: "+strings.Join(work.PairsOf(j), ", ")+".")
	switch p.OtherSource {
	case job.Yes:
		s.Isolate = append(s.Isolate, "Second source on site, solar, battery, generator or another service: isolate and prove it too.")
	case job.Unasked:
		s.Isolate = append(s.Isolate, "Whether there is a second source was not recorded: look before anything is opened.")
	}
	if j.Plan.Notice == job.Yes {
		s.Isolate = append(s.Isolate, "The customer has been told when the power is off.")
	} else {
		s.Isolate = append(s.Isolate, "The customer has not been told when the power is off: freezer, medical equipment, alarms.")
	}
}

func (s *DaySheet) cautions(j *job.Job, work *worklog.Practice) {
	seen := map[string]bool{}
	for _, st := range work.Plan(j) {
		if st.Caution == "" || seen[st.Caution] {
			continue
		}
		seen[st.Caution] = true
		s.Cautions = append(s.Cautions, st.Caution+" ("+st.Clause+")")
	}
	for _, p := range j.Survey.Places {
		for _, g := range p.Route {
			if g.Method == job.Buried && !seen["trench"] {
				seen["trench"] = true
				s.Cautions = append(s.Cautions, "Open trench: locate services first, keep children and public away from it. ("+work.Ways[job.Buried].Clause+")")
			}
		}
	}
	s.Cautions = append(s.Cautions, "National rules, the makers' instructions and the judgement of a licensed person prevail.")
}

func amps(a float64, before string) string {
	if a == 0 {
		return ""
	}
	return before + quantity.Say("{} A", a)
}

func nonEmpty(list ...string) []string {
	out := []string{}
	for _, s := range list {
		if strings.TrimSpace(s) != "" {
			out = append(out, s)
		}
	}
	return out
}
