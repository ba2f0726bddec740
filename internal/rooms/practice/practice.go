package practice

import (
	"context"
	"crypto/rand"
	"encoding/binary"
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"

	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/practice"
	"dogbolt/core/rulebook"
	"dogbolt/core/schema"
	"dogbolt/core/verdict"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/store"
)

// PracticeView is the list of cases with what people reached.
type PracticeView struct {
	Cases   []practice.Case `json:"cases"`
	Best    map[string]int  `json:"best" doc:"By case: the person's own best total."`
	Results []PracticeScore `json:"results" doc:"Per person."`
}

// PracticeScore is what a person reached over all cases.
type PracticeScore struct {
	Name  string `json:"name"`
	Cases int    `json:"cases" doc:"Cases that were answered."`
	Mean  int    `json:"mean" doc:"Mean of the best totals."`
}

// Practice lists the cases and the results per person.
func (svc *Service) Practice(ctx context.Context, by people.Person) (PracticeView, error) {
	out := PracticeView{Cases: jurisdiction.Cases(), Best: map[string]int{}, Results: []PracticeScore{}}
	if err := people.May(by, people.ViewJobs); err != nil {
		return out, err
	}
	runs, err := svc.store.PracticeRuns(ctx)
	if err != nil {
		return out, err
	}
	best := map[string]map[string]int{}
	for _, r := range runs {
		if r.PersonID == by.ID {
			out.Best[r.Case] = max(out.Best[r.Case], r.Total)
		}
		if best[r.Name] == nil {
			best[r.Name] = map[string]int{}
		}
		best[r.Name][r.Case] = max(best[r.Name][r.Case], r.Total)
	}
	for name, cases := range best {
		s := PracticeScore{Name: name, Cases: len(cases)}
		for _, total := range cases {
			s.Mean += total
		}
		s.Mean /= len(cases)
		out.Results = append(out.Results, s)
	}
	slices.SortFunc(out.Results, func(x, y PracticeScore) int {
		if x.Mean != y.Mean {
			return y.Mean - x.Mean
		}
		return strings.Compare(x.Name, y.Name)
	})
	return out, nil
}

// RunView is a run as the learner sees it: never its fault before it is
// answered.
type RunView struct {
	Run     string            `json:"run"`
	Case    practice.Case     `json:"case"`
	Tests   []commission.Test `json:"tests"`
	Faults  []practice.Fault  `json:"faults" doc:"What it may be, with the remedy of each."`
	Taken   []PracticeReading `json:"taken" doc:"Readings in the order they were taken."`
	Result  *practice.Marks   `json:"result,omitempty" doc:"Once it is answered."`
	Circuit []string          `json:"circuit" doc:"What is known of the circuit."`
}

// PracticeReading is one reading, judged as on a job.
type PracticeReading struct {
	Test    string          `json:"test"`
	Value   string          `json:"value"`
	Unit    string          `json:"unit,omitempty"`
	Verdict verdict.Verdict `json:"verdict,omitempty"`
	Working string          `json:"working,omitempty"`
}

// StartPractice begins a case with a circuit of its own.
func (svc *Service) StartPractice(ctx context.Context, by people.Person, id string) (RunView, error) {
	if err := people.May(by, people.ViewJobs); err != nil {
		return RunView{}, err
	}
	c, _, ok := jurisdiction.FindCase(id)
	if !ok {
		return RunView{}, fmt.Errorf("case %q: %w", id, store.ErrNotFound)
	}
	var b [8]byte
	if _, err := rand.Read(b[:]); err != nil {
		return RunView{}, err
	}
	r := store.PracticeRun{
		ID:       uuid.NewString(),
		PersonID: by.ID,
		Name:     by.Name,
		Case:     c.ID,
		Seed:     binary.LittleEndian.Uint64(b[:]) >> 1,
		Tests:    []byte("[]"),
		Started:  svc.now(),
	}
	if err := svc.store.Write(ctx, func(tx *store.Tx) error { return tx.PutPracticeRun(r) }); err != nil {
		return RunView{}, err
	}
	return runView(c, r, nil, nil), nil
}

func runView(c practice.Case, r store.PracticeRun, taken []PracticeReading, result *practice.Marks) RunView {
	_, k := c.Circuit()
	out := RunView{Run: r.ID, Case: c, Tests: c.Tests(), Faults: c.Choices(), Taken: append([]PracticeReading{}, taken...), Result: result}
	out.Circuit = []string{
		k.Charger.Type,
		fmt.Sprintf("breaker %s%g A", k.Breaker.Curve, float64(k.Breaker.Rating)),
		k.Cable.Size + " " + string(k.Cable.Family),
		fmt.Sprintf("set to %g A", float64(k.Setting)),
	}
	return out
}

// Measure takes a reading on a run, and judges it as on a job.
func (svc *Service) Measure(ctx context.Context, by people.Person, run, test string) (RunView, error) {
	return svc.practising(ctx, by, run, func(c practice.Case, r *store.PracticeRun, taken *[]PracticeReading) (*practice.Marks, error) {
		if !slices.ContainsFunc(c.Tests(), func(t commission.Test) bool { return t.ID == test }) {
			return nil, schema.Invalid("test", "%q is not a test of this case", test)
		}
		if len(*taken) >= 60 {
			return nil, schema.Invalid("test", "sixty readings are enough")
		}
		j, _ := c.Circuit()
		_, in, _ := jurisdiction.FindCase(c.ID)
		value, err := svc.instruments.Read(&j, in, "A", c.Fault, r.Seed, len(*taken), test)
		if err != nil {
			return nil, err
		}
		t, _ := in.Tests.Find(test)
		*taken = append(*taken, PracticeReading{Test: test, Value: value, Unit: t.Unit})
		return nil, judge(&j, *taken)
	})
}

// judge gives the newest reading the verdict that a job would.
func judge(j *job.Job, taken []PracticeReading) error {
	for i, x := range taken {
		j.Log = append(
			j.Log,
			job.Entry{
				ID:         fmt.Sprintf("practice-%03d", i),
				Kind:       job.ReadingMade,
				Point:      "A",
				Subject:    x.Test,
				Value:      x.Value,
				Unit:       x.Unit,
				Instrument: "practice",
			},
		)
	}
	findings, err := rulebook.Check(j)
	if err != nil {
		return err
	}
	last := &taken[len(taken)-1]
	for _, f := range findings {
		if slices.Contains(f.Fields, "commission."+last.Test) {
			last.Verdict, last.Working = f.Verdict, f.Working
		}
	}
	return nil
}

// AnswerPractice names the fault and the remedy of a run, and scores it.
func (svc *Service) AnswerPractice(ctx context.Context, by people.Person, run, fault, remedy string) (RunView, error) {
	return svc.practising(ctx, by, run, func(c practice.Case, r *store.PracticeRun, taken *[]PracticeReading) (*practice.Marks, error) {
		for field, id := range map[string]string{"fault": fault, "remedy": remedy} {
			if _, ok := practice.Find(id); !ok {
				return nil, schema.Invalid(field, "choose one")
			}
		}
		t := practice.Try{Fault: fault, Remedy: remedy}
		for _, x := range *taken {
			t.Tests = append(t.Tests, x.Test)
			if test, _ := c.Test(x.Test); test.Group == commission.Dead && x.Verdict == rulebook.Stop {
				t.Failed = append(t.Failed, x.Test)
			}
		}
		result := practice.Score(c, t)
		now := svc.now()
		r.Finished, r.Total = &now, result.Total
		return &result, nil
	})
}

// practising runs f on a run of the person that is not answered yet.
func (svc *Service) practising(
	ctx context.Context,
	by people.Person,
	run string,
	f func(practice.Case, *store.PracticeRun, *[]PracticeReading) (*practice.Marks, error),
) (RunView, error) {
	if err := people.May(by, people.ViewJobs); err != nil {
		return RunView{}, err
	}
	var out RunView
	err := svc.store.Write(ctx, func(tx *store.Tx) error {
		r, err := tx.PracticeRun(run, by.ID)
		if err != nil {
			return err
		}
		if r.Finished != nil {
			return schema.Invalid("run", "is answered already: begin the case again")
		}
		c, _, ok := jurisdiction.FindCase(r.Case)
		if !ok {
			return store.ErrNotFound
		}
		var taken []PracticeReading
		if err := json.Unmarshal(r.Tests, &taken); err != nil {
			return err
		}
		result, err := f(c, &r, &taken)
		if err != nil {
			return err
		}
		if r.Tests, err = json.Marshal(taken); err != nil {
			return err
		}
		if result != nil {
			if r.Result, err = json.Marshal(result); err != nil {
				return err
			}
		}
		out = runView(c, r, taken, result)
		return tx.PutPracticeRun(r)
	})
	return out, err
}
