package inspect

import (
	"slices"

	"dogbolt/core/job"
)

// Reasons why a thing is not there that several countries have. Each says nothing while nobody
// knows.

// NoRoute gives the reason where every route is surveyed and none has one of the methods.
func NoRoute(why string, methods ...job.Method) func(*job.Job) string {
	has := func(s job.Segment) bool { return slices.Contains(methods, s.Method) }
	return func(j *job.Job) string {
		for _, p := range j.Survey.Places {
			if !p.Surveyed() || slices.ContainsFunc(p.Route, has) {
				return ""
			}
		}
		if len(j.Survey.Places) == 0 {
			return ""
		}
		return why
	}
}

// NoPoint gives the reason where there are points with circuits and none is as has says.
func NoPoint(why string, has func(*job.Point) bool) func(*job.Job) string {
	return func(j *job.Job) string {
		points := j.Points()
		if len(points) == 0 || slices.ContainsFunc(points, func(p job.Point) bool { return p.Circuit.Point == "" || has(&p) }) {
			return ""
		}
		return why
	}
}

// Either gives the first of several reasons.
func Either(reasons ...func(*job.Job) string) func(*job.Job) string {
	return func(j *job.Job) string {
		for _, why := range reasons {
			if says := why(j); says != "" {
				return says
			}
		}
		return ""
	}
}

// Joined reports whether a point's cable changes at a joint box.
func Joined(p *job.Point) bool { return p.Joined() }

// Managed reports whether load management or a shared limit keeps a point's current down.
func Managed(p *job.Point) bool { return p.Circuit.ManagedTo > 0 || p.Circuit.Shares }
