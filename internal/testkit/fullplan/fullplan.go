// Package fullplan is a site plan with as much on it as the schema takes.
package fullplan

import (
	"math/rand/v2"
	"strconv"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// Of returns a survey with a full plan, in disorder. Where it is enclosed, four of its walls
// go round all bays.
func Of(enclosed bool) *job.Survey {
	r := rand.New(rand.NewPCG(1, 2))
	at := func() job.XY { return job.XY{X: quantity.Metre(r.Float64() * 40), Y: quantity.Metre(r.Float64() * 40)} }
	s := &job.Survey{}
	for range 40 {
		from := at()
		s.SitePlan.Walls = append(
			s.SitePlan.Walls,
			job.Wall{From: from, To: job.XY{X: from.X + 1 + quantity.Metre(r.Float64()), Y: from.Y + quantity.Metre(r.Float64())}},
		)
	}
	for range 20 {
		s.SitePlan.Obstacles = append(s.SitePlan.Obstacles, job.Obstacle{At: at(), Width: 1, Height: 1})
	}
	for i := range 12 {
		id := strconv.Itoa(i + 1)
		s.SitePlan.Bays = append(s.SitePlan.Bays, job.Bay{ID: id, Centre: job.XY{X: quantity.Metre(2 + 3*i), Y: 20}, Length: 5, Width: 2.6, Heading: 90})
		s.Vehicles = append(s.Vehicles, job.Vehicle{Name: "car " + id, Bay: id, Inlet: "front-left", Attitude: job.NoseIn})
	}
	for i := range 8 {
		s.SitePlan.Positions = append(s.SitePlan.Positions, job.Position{ID: string(rune('A' + i)), At: &job.XY{X: quantity.Metre(5 * i), Y: 41}})
	}
	if enclosed {
		corner := []job.XY{{X: -1, Y: 16}, {X: 38, Y: 16}, {X: 38, Y: 24}, {X: -1, Y: 24}}
		for i, from := range corner {
			s.SitePlan.Walls[i] = job.Wall{From: from, To: corner[(i+1)%len(corner)]}
		}
	}
	return s
}
