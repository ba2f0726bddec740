// Package workings holds what is worked out from a job and changes nothing in it:
// how complete a survey is, cords and routes, conductors, arrangements, a night, costs,
// parts and the charger's switches.
package workings

import (
	"dogbolt/internal/rooms/firm"
	"dogbolt/internal/rooms/jobs"
)

// Service is this room. It needs nothing of the database but what the jobs give it.
type Service struct {
	firm *firm.Service
	jobs *jobs.Service
}

// New returns the room.
func New(firm *firm.Service, jobs *jobs.Service) *Service {
	return &Service{firm: firm, jobs: jobs}
}
