package reach

import (
	"slices"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/verdict"
)

// Row is one candidate position in the comparison.
type Row struct {
	Position   job.Position    `json:"position"`
	Chosen     bool            `json:"chosen"`
	Straight   *quantity.Metre `json:"straight,omitempty" doc:"From the board on the plan, m: no run is shorter."`
	Extra      *float64        `json:"extra,omitempty" doc:"Material compared with the chosen position, or with the first; left out where not known."`
	Clearances []Clearance     `json:"clearances"`
	Cords      []Cord          `json:"cords" doc:"To every vehicle, parked either way."`
	Verdict    verdict.Verdict `json:"verdict"`
	Against    []string        `json:"against" doc:"What speaks against it, gravest first."`
}

// Compare sets the candidate positions side by side. cost returns the material
// of a run of a length, and whether it is known.
func (s *Ground) Compare(chosen string, cord quantity.Metre, l Limits, cost func(quantity.Metre) (float64, bool)) []Row {
	plan := &s.survey.SitePlan
	cords := s.Cords(cord)
	base := slices.IndexFunc(plan.Positions, func(p job.Position) bool { return p.ID == chosen })
	rows := make([]Row, 0, len(plan.Positions))
	for _, p := range plan.Positions {
		r := Row{Position: p, Chosen: p.ID == chosen, Clearances: Clearances(plan, p, l), Cords: []Cord{}, Verdict: verdict.Sound, Against: []string{}}
		if d, ok := Straight(plan, p.ID); ok {
			r.Straight = &d
		}
		if from := plan.Positions[max(base, 0)]; p.Run > 0 && from.Run > 0 {
			if mine, ok := cost(p.Run); ok {
				if theirs, ok := cost(from.Run); ok {
					d := mine - theirs
					r.Extra = &d
				}
			}
		}
		for _, c := range cords {
			if c.Position == p.ID {
				r.Cords = append(r.Cords, c)
			}
		}
		r.judge(s.survey)
		rows = append(rows, r)
	}
	return rows
}

// judge gathers what speaks against a position. Clearances stop; a cord that
// does not reach a vehicle either way stops, one way is to be weighed.
func (r *Row) judge(survey *job.Survey) {
	for _, c := range r.Clearances {
		if !c.Meets {
			r.against(verdict.Stop, c.What+quantity.Say(" {2} m", float64(c.Value))+" not kept, "+c.Clause)
		}
	}
	if r.Position.At == nil && r.Position.Gas == job.No {
		r.against(verdict.Stop, "too near to gas")
	}
	if r.Straight != nil && r.Position.Run > 0 && r.Position.Run < *r.Straight-0.05 {
		r.against(verdict.Open, "the run is shorter than the straight line from the board: measure again")
	}
	for i, v := range survey.Vehicles {
		r.judgeCords(i, v.Name)
	}
	switch {
	case r.Position.Drill == job.No:
		r.against(verdict.Watch, "may not be drilled")
	case r.Position.Fixing == job.DoubtfulFixing:
		r.against(verdict.Watch, "the fixing is doubtful")
	}
	if r.Position.Signal == job.Reach(job.SignalNone) {
		r.against(verdict.Watch, "no network there")
	}
}

// judgeCords gathers what speaks against the cords to a vehicle.
func (r *Row) judgeCords(vehicle int, name string) {
	var usual, other *Cord
	for k := range r.Cords {
		if c := &r.Cords[k]; c.Vehicle == vehicle && c.Usual {
			usual = c
		} else if c.Vehicle == vehicle {
			other = c
		}
	}
	if usual == nil {
		return
	}
	switch {
	case usual.Unjudged || other != nil && other.Unjudged:
		r.against(verdict.Open, "the cord to the "+name+" is not judged: the plan has too much on it")
	case usual.short() && other == nil:
		r.against(verdict.Watch, "the cord does not reach the "+name+" as it is parked")
	case usual.short() && other.short():
		r.against(verdict.Stop, "the cord does not reach the "+name)
	case usual.short():
		r.against(verdict.Watch, "reaches the "+name+" only "+other.words())
	}
	if len(usual.Crosses) > 0 {
		r.against(verdict.Watch, "the cord to the "+name+" lies across "+usual.Crosses[0])
	}
}

// against adds what speaks against a position, the gravest first.
func (r *Row) against(v verdict.Verdict, what string) {
	if v.Graver(r.Verdict) {
		r.Verdict = v
		r.Against = slices.Insert(r.Against, 0, what)
		return
	}
	r.Against = append(r.Against, what)
}

// short reports whether a cord is missing, blocked, or known not to reach.
func (c *Cord) short() bool { return c == nil || c.Blocked || c.Known && !c.Reaches }

func (c *Cord) words() string {
	if c.Attitude == job.TailIn {
		return "tail in"
	}
	return "nose in"
}
