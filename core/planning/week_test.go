package planning

import (
	"fmt"
	"math"
	"math/rand/v2"
	"reflect"
	"slices"
	"testing"
)

var towns = []string{"Quillmouth", "Aldermoor", "Saltbeck"}

// random is a problem with some fixed work and some days shut to some jobs.
func random(seed uint64, tasks, crews, days int) *Problem {
	r := rand.New(rand.NewPCG(seed, 7))
	p := &Problem{Hours: UsualHours, Travel: []Travel{{"Quillmouth", "Aldermoor", 35}, {"Quillmouth", "Saltbeck", 50}, {"Aldermoor", "Saltbeck", 25}}}
	for c := range crews {
		p.Crews = append(p.Crews, Crew{ID: fmt.Sprint("c", c), Base: towns[c%len(towns)], People: []string{fmt.Sprint("p", c)}})
		p.Slots = append(p.Slots, make([]Slot, days))
	}
	for d := range days {
		p.Days = append(p.Days, fmt.Sprintf("2027-03-%02d", d+1))
	}
	if crews > 0 && days > 1 {
		p.Slots[0][1].Busy = []Booking{{Job: "fixed", Day: p.Days[1], Start: "10:00", Hours: 3, Town: "Saltbeck"}}
	}
	for i := range tasks {
		shut := r.Uint64()
		task := Task{ID: fmt.Sprintf("j%02d", i), Town: towns[r.IntN(3)], Hours: 2 + float64(r.IntN(16))/4}
		if r.IntN(3) == 0 && days > 0 {
			task.Due = p.Days[r.IntN(days)]
		}
		task.May = func(c, d int) bool { return shut>>((c*15+d)%64)&3 != 0 }
		p.Tasks = append(p.Tasks, task)
	}
	return p
}

// check says what is wrong with a schedule.
func check(p *Problem, s Schedule) error {
	seen := map[string]bool{}
	bySlot := map[[2]int][]Booking{}
	for _, x := range s.Placed {
		i := slices.IndexFunc(p.Tasks, func(t Task) bool { return t.ID == x.Task })
		if seen[x.Task] || i < 0 || !p.Tasks[i].May(x.Crew, x.Day) {
			return fmt.Errorf("%s is placed twice, or where it may not be", x.Task)
		}
		seen[x.Task] = true
		k := [2]int{x.Crew, x.Day}
		bySlot[k] = append(bySlot[k], Booking{Job: x.Task, Team: p.Crews[x.Crew].ID, Day: p.Days[x.Day], Start: x.Start, Hours: x.Hours, Town: p.Tasks[i].Town})
	}
	for _, id := range s.Left {
		if seen[id] {
			return fmt.Errorf("%s is placed and left", id)
		}
		seen[id] = true
	}
	if len(seen) != len(p.Tasks) {
		return fmt.Errorf("%d of %d tasks", len(seen), len(p.Tasks))
	}
	for k, list := range bySlot {
		if p.Slots != nil {
			for _, b := range p.Slots[k[0]][k[1]].Busy {
				b.Team = p.Crews[k[0]].ID
				list = append(list, b)
			}
		}
		base := p.Crews[k[0]].Base
		for _, b := range list {
			if Clock(b.Start) < Clock(p.Hours.From)+Minutes(p.Travel, base, b.Town) || b.End()+Minutes(p.Travel, b.Town, base) > Clock(p.Hours.To) {
				return fmt.Errorf("%s from %s to %s is outside of the day", b.Job, b.Start, At(b.End()))
			}
			if o, why := Clash(b, list, p.Travel); why != "" {
				return fmt.Errorf("%s and %s: %s", b.Job, o.Job, why)
			}
		}
	}
	return nil
}

// greedy plans the jobs one after the other, the most urgent first, each to its
// cheapest place.
func greedy(p *Problem) Schedule {
	s := newState(p)
	s.pencil()
	return s.schedule()
}

func TestSchedulesHold(t *testing.T) {
	for seed := range uint64(40) {
		p := random(seed, int(seed%14), 1+int(seed%3), 1+int(seed%6))
		byDueAlone, best := greedy(p), Solve(p, 200)
		for name, s := range map[string]Schedule{"greedy": byDueAlone, "solved": best} {
			if err := check(p, s); err != nil {
				t.Errorf("seed %d, %s: %v", seed, name, err)
			}
			if s.Cost < s.Bound-1e-9 {
				t.Errorf("seed %d, %s: costs %g, below the bound %g", seed, name, s.Cost, s.Bound)
			}
		}
		if best.Greedy != byDueAlone.Cost {
			t.Errorf("seed %d: the greedy plan costs %g, and %g", seed, byDueAlone.Cost, best.Greedy)
		}
		if best.Cost > byDueAlone.Cost+1e-9 {
			t.Errorf("seed %d: solved costs %g, greedy %g", seed, best.Cost, byDueAlone.Cost)
		}
		if again := Solve(p, 200); !reflect.DeepEqual(again, best) {
			t.Errorf("seed %d: the same problem gave another plan", seed)
		}
	}
}

// exact is the least cost by trying everything.
func exact(p *Problem) float64 {
	s := newState(p)
	best := math.Inf(1)
	var try func(t int)
	try = func(t int) {
		if t == len(p.Tasks) {
			best = min(best, s.total())
			return
		}
		s.left = append(s.left, t)
		try(t + 1)
		s.left = s.left[:len(s.left)-1]
		for c := range s.slots {
			for d := range s.slots[c] {
				if !s.may[t][c][d] {
					continue
				}
				old := s.slots[c][d]
				for i := 0; i <= len(old); i++ {
					list := slices.Insert(slices.Clone(old), i, t)
					// A slot that is too full in one order may do in another: only
					// the last task can tell.
					s.slots[c][d] = list
					s.reckon(c, d)
					if _, _, ok := s.starts(c, d, list); ok {
						try(t + 1)
					}
				}
				s.slots[c][d] = old
				s.reckon(c, d)
			}
		}
	}
	try(0)
	return best
}

// TestAgainstEveryPlan: on small problems the search finds what trying
// everything finds.
func TestAgainstEveryPlan(t *testing.T) {
	for seed := range uint64(30) {
		p := random(100+seed, 5, 2, 2)
		want := exact(p)
		if got := Solve(p, 400); got.Cost > want+1e-9 {
			t.Errorf("seed %d: %g, the best of all plans costs %g", seed, got.Cost, want)
		}
	}
}

// week is the size that the target names: 40 jobs, 4 crews, 15 days.
func week() *Problem { return random(2027, 40, 4, 15) }

// Rounds of a planning run are bounded so that it stays well below 2 s: see
// docs/benchmarks.md.
func BenchmarkWeek(b *testing.B) {
	p := week()
	var s Schedule
	for b.Loop() {
		s = Solve(p, Rounds)
	}
	b.ReportMetric(s.Cost, "cost")
	b.ReportMetric(float64(len(s.Left)), "left")
}

func BenchmarkWeekGreedy(b *testing.B) {
	p := week()
	var s Schedule
	for b.Loop() {
		s = greedy(p)
	}
	b.ReportMetric(s.Cost, "cost")
	b.ReportMetric(float64(len(s.Left)), "left")
}
