package rulebook

import (
	"slices"
	"strings"

	"dogbolt/core/demand"
	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/route"
)

// PartsOf lists what the van must hold for a job, its labels with what is written on them.
func PartsOf(in *jurisdiction.Jurisdiction, j *job.Job, d demand.Result, m route.Margins) []job.Part {
	parts := in.Laying.TakeOff(j, m)
	k := slices.IndexFunc(parts, func(p job.Part) bool { return p.Name == route.LabelSet })
	if k < 0 || in.Labels == nil {
		return parts
	}
	for _, l := range in.Labels(FactsOf(in, j, d)) {
		parts[k].Says = append(parts[k].Says, l.Where+": "+strings.Join(l.Lines, ". "))
	}
	return parts
}
