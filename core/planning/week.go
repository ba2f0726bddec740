package planning

import (
	"cmp"
	"math"
	"math/rand/v2"
	"slices"
)

// Task is a job that wants a day.
type Task struct {
	ID    string
	Town  string
	Hours float64
	Due   string // day by which it should be done; empty for none
	// May says whether the job may go to a crew on a day. It is asked once.
	May func(crew, day int) bool
}

// Slot is a crew on a day with what it has to do already.
type Slot struct {
	Busy []Booking
}

// Problem is a set of jobs, crews and days to plan.
type Problem struct {
	Tasks  []Task
	Crews  []Crew
	Days   []string
	Slots  [][]Slot // by crew and day; nil for all free
	Travel []Travel
	Hours  Workday
}

// Placed is where a job goes.
type Placed struct {
	Task  string  `json:"job"`
	Crew  int     `json:"-"`
	Day   int     `json:"-"`
	Start string  `json:"start"`
	Hours float64 `json:"hours"`
}

// Schedule is a plan with its cost: lower is better.
type Schedule struct {
	Placed []Placed
	Left   []string // jobs that found no day
	Cost   float64
	Greedy float64 // cost of placing one job after the other
	Bound  float64 // no plan costs less
}

// Costs of a plan. A job without a day costs more than any day; a day later
// costs one; a day after the due day five; an hour on the road a half. Chosen
// so that a week is filled from the front and vans do not cross the county.
const (
	costLeft = 100.0
	costLate = 5.0
	costRoad = 0.5
)

// state is a plan while it is worked on: the tasks of each crew and day in
// order.
type state struct {
	p     *Problem
	may   [][][]bool // by task, crew, day
	slots [][][]int  // by crew, day: tasks
	left  []int
	cost  [][]float64 // of the slots' roads
}

func newState(p *Problem) *state {
	s := &state{p: p, may: make([][][]bool, len(p.Tasks)), slots: make([][][]int, len(p.Crews)), cost: make([][]float64, len(p.Crews))}
	for t := range p.Tasks {
		s.may[t] = make([][]bool, len(p.Crews))
		for c := range p.Crews {
			s.may[t][c] = make([]bool, len(p.Days))
			for d := range p.Days {
				s.may[t][c][d] = p.Tasks[t].May(c, d)
			}
		}
	}
	for c := range p.Crews {
		s.slots[c], s.cost[c] = make([][]int, len(p.Days)), make([]float64, len(p.Days))
		for d := range p.Days {
			s.reckon(c, d)
		}
	}
	return s
}

// starts lays the tasks of a slot one after the other round what the crew has
// to do already. It returns when each begins, minutes, and the minutes on the
// road; ok is false where they do not fit.
func (s *state) starts(c, d int, tasks []int) (at []int, road int, ok bool) {
	p := s.p
	town, now := p.Crews[c].Base, Clock(p.Hours.From)
	var busy []Booking
	if p.Slots != nil {
		busy = p.Slots[c][d].Busy
	}
	next := 0
	pass := func() {
		b := busy[next]
		road += Minutes(p.Travel, town, b.Town)
		town, now = b.Town, b.End()
		next++
	}
	at = make([]int, 0, len(tasks))
	for _, t := range tasks {
		task := &p.Tasks[t]
		length := int(math.Round(task.Hours * 60))
		for {
			way := Minutes(p.Travel, town, task.Town)
			begin := (now + way + 14) / 15 * 15 // to the quarter hour
			if next < len(busy) && begin+length+Minutes(p.Travel, task.Town, busy[next].Town) > Clock(busy[next].Start) {
				pass()
				continue
			}
			at = append(at, begin)
			road += way
			town, now = task.Town, begin+length
			break
		}
	}
	for next < len(busy) {
		pass()
	}
	home := Minutes(p.Travel, town, p.Crews[c].Base)
	if len(tasks)+len(busy) == 0 {
		return at, 0, true
	}
	return at, road + home, now+home <= Clock(p.Hours.To)
}

// dayCost is the cost cost of a task on a slot, roads left out.
func (s *state) dayCost(t, d int) float64 {
	cost := float64(d)
	if due := s.p.Tasks[t].Due; due != "" && s.p.Days[d] > due {
		cost += costLate
	}
	return cost
}

// insertion returns the cheapest place for a task.
func (s *state) insertion(t int) (best spot, second float64) {
	best, second = spot{cost: costLeft}, costLeft
	for c := range s.slots {
		for d := range s.slots[c] {
			if !s.may[t][c][d] {
				continue
			}
			here := math.Inf(1)
			old := s.slots[c][d]
			for i := 0; i <= len(old); i++ {
				_, road, ok := s.starts(c, d, slices.Insert(slices.Clone(old), i, t))
				if !ok {
					continue
				}
				cost := s.dayCost(t, d) + costRoad*float64(road)/60 - s.cost[c][d]
				here = min(here, cost)
				if cost < best.cost {
					best = spot{c, d, i, cost, true}
				}
			}
			if here < second && (c != best.crew || d != best.day) {
				second = here
			}
		}
	}
	return best, second
}

type spot struct {
	crew, day, at int
	cost          float64
	ok            bool
}

func (s *state) put(t int, b spot) {
	s.slots[b.crew][b.day] = slices.Insert(slices.Clone(s.slots[b.crew][b.day]), b.at, t)
	s.reckon(b.crew, b.day)
}

func (s *state) take(c, d int, t int) {
	s.slots[c][d] = slices.DeleteFunc(slices.Clone(s.slots[c][d]), func(o int) bool { return o == t })
	s.reckon(c, d)
}

// reckon works out what the road of a slot costs beyond what it costs anyway.
func (s *state) reckon(c, d int) {
	_, road, _ := s.starts(c, d, s.slots[c][d])
	_, anyway, _ := s.starts(c, d, nil)
	s.cost[c][d] = costRoad * float64(road) / 60
	if len(s.slots[c][d]) == 0 {
		s.cost[c][d] = costRoad * float64(anyway) / 60
	}
}

func (s *state) total() float64 {
	sum := costLeft * float64(len(s.left))
	for c := range s.slots {
		for d, tasks := range s.slots[c] {
			sum += s.cost[c][d]
			for _, t := range tasks {
				sum += s.dayCost(t, d)
			}
		}
	}
	return sum
}

func (s *state) copy() *state {
	c := *s
	c.left = slices.Clone(s.left)
	c.slots, c.cost = make([][][]int, len(s.slots)), make([][]float64, len(s.cost))
	for i := range s.slots {
		c.slots[i], c.cost[i] = slices.Clone(s.slots[i]), slices.Clone(s.cost[i])
	}
	return &c
}

// byDue is the order in which a planner with a pencil goes through the jobs.
func byDue(p *Problem) []int {
	order := make([]int, len(p.Tasks))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int {
		x, y := &p.Tasks[a], &p.Tasks[b]
		return cmp.Or(cmp.Compare(cmp.Or(x.Due, "9999"), cmp.Or(y.Due, "9999")), cmp.Compare(y.Hours, x.Hours))
	})
	return order
}

// pencil puts every task in, the most urgent first.
func (s *state) pencil() {
	for _, t := range byDue(s.p) {
		if b, _ := s.insertion(t); b.ok {
			s.put(t, b)
		} else {
			s.left = append(s.left, t)
		}
	}
}

// regret puts tasks in, the one first that would lose most by waiting.
func (s *state) regret(tasks []int) {
	for len(tasks) > 0 {
		pick, most := -1, math.Inf(-1)
		var where spot
		for i, t := range tasks {
			b, second := s.insertion(t)
			if !b.ok {
				continue
			}
			if r := second - b.cost; r > most || r == most && b.cost < where.cost {
				pick, most, where = i, r, b
			}
		}
		if pick < 0 {
			s.left = append(s.left, tasks...)
			return
		}
		s.put(tasks[pick], where)
		tasks = slices.Delete(tasks, pick, pick+1)
	}
}

// shuffled puts tasks in by chance, each to its cheapest place or, now and then,
// to any that it may have: what regret alone never tries.
func (s *state) shuffled(r *rand.Rand, tasks []int) {
	r.Shuffle(len(tasks), func(i, k int) { tasks[i], tasks[k] = tasks[k], tasks[i] })
	for _, t := range tasks {
		b, _ := s.insertion(t)
		if r.IntN(4) == 0 {
			c, d := r.IntN(len(s.slots)), r.IntN(len(s.p.Days))
			at := r.IntN(len(s.slots[c][d]) + 1)
			if _, _, ok := s.starts(c, d, slices.Insert(slices.Clone(s.slots[c][d]), at, t)); ok && s.may[t][c][d] {
				b = spot{crew: c, day: d, at: at, ok: true}
			}
		}
		if !b.ok {
			s.left = append(s.left, t)
			continue
		}
		s.put(t, b)
	}
}

// Solve plans the jobs by large neighbourhood search (Shaw 1998; Ropke and
// Pisinger, Transportation Science 40, 2006, from memory): it takes some jobs out
// and puts them back by regret, and keeps what is not worse by more than a
// falling threshold. rounds bounds the work; the same problem gives the same plan.
func Solve(p *Problem, rounds int) Schedule {
	s := newState(p)
	g := s.copy()
	g.pencil()
	s.regret(byDue(p))
	greedy := g.total()
	if greedy < s.total() {
		s = g
	}
	best, now := s.copy(), s
	bestCost := s.total()
	nowCost := bestCost
	r := rand.New(rand.NewPCG(uint64(len(p.Tasks)), uint64(rounds)))
	bound := s.bound()
	for i := 0; i < rounds && len(p.Tasks) > 0 && bestCost > bound+1e-9; i++ {
		try := now.copy()
		out := try.remove(r, 1+r.IntN(min(8, len(p.Tasks))))
		if r.IntN(2) == 0 {
			try.regret(out)
		} else {
			try.shuffled(r, out)
		}
		cost := try.total()
		heat := 2.0 * (1 - float64(i)/float64(rounds))
		if cost < nowCost+heat*r.Float64() {
			now, nowCost = try, cost
		}
		if cost < bestCost-1e-9 {
			best, bestCost = try.copy(), cost
		}
	}
	out := best.schedule()
	out.Greedy = greedy
	return out
}

// remove takes n jobs out: by chance, or of one day together; those that found
// no day are always among them.
func (s *state) remove(r *rand.Rand, n int) []int {
	out := s.left
	s.left = nil
	day := -1
	if r.IntN(2) == 0 && len(s.p.Days) > 0 {
		day = r.IntN(len(s.p.Days))
	}
	type at struct{ c, d, t int }
	var all []at
	for c := range s.slots {
		for d := range s.slots[c] {
			for _, t := range s.slots[c][d] {
				if day < 0 || d == day || d == day+1 {
					all = append(all, at{c, d, t})
				}
			}
		}
	}
	r.Shuffle(len(all), func(i, k int) { all[i], all[k] = all[k], all[i] })
	for _, a := range all[:min(n, len(all))] {
		s.take(a.c, a.d, a.t)
		out = append(out, a.t)
	}
	return out
}

// bound is a cost that no plan goes below: every job on its own cheapest day,
// as if it had the crews for itself, and the roads of what is fixed.
func (s *state) bound() float64 {
	sum := 0.0
	for c := range s.slots {
		for d := range s.slots[c] {
			_, road, _ := s.starts(c, d, nil)
			sum += costRoad * float64(road) / 60
		}
	}
	for t := range s.p.Tasks {
		least := costLeft
		for c := range s.p.Crews {
			for d := range s.p.Days {
				if s.may[t][c][d] {
					least = min(least, s.dayCost(t, d))
				}
			}
		}
		sum += least
	}
	return sum
}

func (s *state) schedule() Schedule {
	out := Schedule{Cost: s.total(), Bound: s.bound()}
	for c := range s.slots {
		for d, tasks := range s.slots[c] {
			at, _, _ := s.starts(c, d, tasks)
			for i, t := range tasks {
				out.Placed = append(out.Placed, Placed{s.p.Tasks[t].ID, c, d, At(at[i]), s.p.Tasks[t].Hours})
			}
		}
	}
	for _, t := range s.left {
		out.Left = append(out.Left, s.p.Tasks[t].ID)
	}
	slices.Sort(out.Left)
	return out
}

// Rounds is how long the search goes on for a planner who waits: about a second
// for 40 jobs, 4 crews and 15 days (docs/benchmarks.md).
const Rounds = 1000
