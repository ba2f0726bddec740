package reach

import (
	"slices"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// Row is one candidate position in the comparison.
type Row struct {
	Position   job.Position    `json:"position"`
	Chosen     bool            `json:"chosen"`
	Straight   *quantity.Metre `json:"straight,omitempty" doc:"From the board on the plan, m: no run is shorter."`
	Extra      *float64        `json:"extra,omitempty" doc:"Material compared with the chosen position, or with the first; left out where not known."`
	Clearances []Clearance     `json:"clearances"`
	Cords      []Cord          `json:"cords" doc:"To every vehicle, parked either way."`
	Verdict    string          `json:"verdict" enum:"sound,watch,stop,open"`
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
		r := Row{Position: p, Chosen: p.ID == chosen, Clearances: Clearances(plan, p, l), Cords: []Cord{}, Verdict: "sound", Against: []string{}}
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
	against := func(verdict, what string) {
		grave := map[string]int{"sound": 0, "open": 1, "watch": 2, "stop": 3}
		if grave[verdict] > grave[r.Verdict] {
			r.Verdict = verdict
			r.Against = slices.Insert(r.Against, 0, what)
			return
		}
		r.Against = append(r.Against, what)
	}
	for _, c := range r.Clearances {
		if !c.Meets {
			against("stop", c.What+quantity.Say(" {2} m", float64(c.Value))+" not kept, "+c.Clause)
		}
	}
	if r.Straight != nil && r.Position.Run > 0 && r.Position.Run < *r.Straight-0.05 {
		against("open", "the run is shorter than the straight line from the board: measure again")
	}
	for i, v := range survey.Vehicles {
		var usual, other *Cord
		for k := range r.Cords {
			if c := &r.Cords[k]; c.Vehicle == i && c.Usual {
				usual = c
			} else if c.Vehicle == i {
				other = c
			}
		}
		if usual == nil {
			continue
		}
		short := func(c *Cord) bool { return c == nil || c.Blocked || c.Known && !c.Reaches }
		switch {
		case short(usual) && short(other):
			against("stop", "the cord does not reach the "+v.Name)
		case short(usual):
			against("watch", "reaches the "+v.Name+" only "+other.words())
		}
		if len(usual.Crosses) > 0 {
			against("watch", "the cord to the "+v.Name+" lies across "+usual.Crosses[0])
		}
	}
	switch {
	case r.Position.Drill == job.No:
		against("watch", "may not be drilled")
	case r.Position.Fixing == job.DoubtfulFixing:
		against("watch", "the fixing is doubtful")
	}
	if r.Position.Signal == job.Reach(job.SignalNone) {
		against("watch", "no network there")
	}
}

func (c *Cord) words() string {
	if c.Attitude == job.TailIn {
		return "tail in"
	}
	return "nose in"
}
