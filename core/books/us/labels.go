package us

import (
	"strings"

	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	boards "dogbolt/core/panel"
	"dogbolt/core/quantity"
)

// labels are the labels and plaques of a job by NEC 2023, from memory; 110.21(B) asks that they last where
// they are, and are not written by hand but for what changes.
func labels(f *jurisdiction.Facts) []jurisdiction.Label {
	var out []jurisdiction.Label
	fits := boards.Of(f.Job)
	made := 0 // of the circuits so far: one that was there has no space in the fits
	const directory, clause = "circuit directory of the panel", "408.4(A)"
	out = append(out, jurisdiction.MovedLabels(f, directory, clause, "space")...)
	for _, p := range f.Points() {
		c := &p.Circuit
		if !c.Charges() {
			out = append(out, jurisdiction.LeftLabels(f, &p)...)
			continue
		}
		if c.Breaker.Rating > 0 {
			space := "space ____"
			if !c.Kept() && made < len(fits) && len(fits[made].At) > 0 {
				space = "spaces " + boards.Numbers(fits[made].At)
			}
			if !c.Kept() {
				made++
			}
			what := "EV charger " + p.ID
			if c.EndsInBoard() {
				what = "Feeder " + p.ID
				out = append(out, endLabels(f, &p)...)
			}
			out = append(out, jurisdiction.Label{Where: directory, Clause: clause, Lines: []string{
				what, strings.Join([]string{space, quantity.Say("{} A", float64(c.Breaker.Rating)), p.Place.Name}, ", "),
			}})
		}
		if c.Guarded == job.Yes && c.Setting > 0 && c.Setting < c.Charger.Rating { // else the nameplate counts
			out = append(out, jurisdiction.Label{Where: "charger " + p.ID, Clause: "625.42(B)", Lines: []string{
				quantity.Say("Adjusted to {} A", float64(c.Setting)),
				quantity.Say("Nameplate {} A. The setting is behind restricted access; a qualified person alone changes it.", float64(c.Charger.Rating)),
			}})
		}
		if c.ManagedTo > 0 || c.Shares {
			out = append(out, jurisdiction.Label{Where: "energy management system, and panel", Clause: "750.50, 625.42(A)", Lines: []string{
				"Load controlled by energy management", quantity.Say("Limit {} A. Do not defeat it or change its setting.", limitOf(f.Job, c)),
			}})
		}
		if c.Disconnect == job.Yes {
			out = append(out, jurisdiction.Label{Where: "disconnect of charger " + p.ID, Clause: "625.43, 110.22(A)", Lines: []string{
				"EV charger " + p.ID + " disconnect", strings.TrimSpace(quantity.Say("{} V, supplied from ", float64(volts(&f.Survey.Supply, c))) + f.Board().Label),
			}})
		}
	}
	if d := &f.Design.Beside; d.Renews() {
		out = append(out, jurisdiction.Label{Where: directory, Clause: clause, Lines: []string{
			"Circuits moved over", quantity.Say("{} spaces: each with its breaker and what it feeds", float64(d.Taken)),
		}})
		if f.NewMains() {
			out = append(out, jurisdiction.Label{Where: "main of the new panel", Clause: "230.70(B)", Lines: []string{"Service disconnect", amperes(float64(d.Rating))}})
		}
		if d.Outside == job.Yes {
			out = append(out, jurisdiction.Label{Where: "disconnect outdoors", Clause: "230.85", Lines: []string{
				"Emergency disconnect", "By hand beside it: service disconnect, meter disconnect, or not service equipment",
			}})
		}
	}
	if f.Survey.Supply.OtherSource == job.Yes {
		where := "service disconnect"
		if f.Survey.Supply.Second.Kind == job.OtherService {
			where = "each service disconnect"
		}
		out = append(out, jurisdiction.Label{Where: where, Clause: markedBy(f), Warns: true, Lines: []string{
			"Caution: more than one source", "Disconnect every source, and prove dead, before working inside.",
		}})
	}
	return out
}

// endLabels are those of the panel at the end of a feeder: what feeds it and from where, a directory of its own, and of a building of
// its own what the disconnect is.
func endLabels(f *jurisdiction.Facts, p *job.Point) []jurisdiction.Label {
	from := strings.TrimSpace(f.Board().Label)
	if from == "" {
		from = "the service panel"
	}
	out := []jurisdiction.Label{
		{Where: "panel at the end of feeder " + p.ID, Clause: "408.4(B)", Lines: []string{
			strings.TrimSpace(p.Place.Name), quantity.Say("Fed from {} A in ", float64(p.Circuit.Breaker.Rating)) + from,
		}},
		{Where: "directory of the panel at the end", Clause: "408.4(A)", Lines: []string{"Spaces free", "Written by whoever connects a circuit"}},
	}
	if p.Place.Detached == job.Yes {
		out = append(out, jurisdiction.Label{Where: "disconnect of the building", Clause: "225.37, 110.22(A)", Lines: []string{
			"Building disconnect", "The feeder before it is switched off in " + from,
		}})
	}
	return out
}

// limitOf is the limit that a circuit is kept to, A.
func limitOf(j *job.Job, c *job.Circuit) float64 {
	if limit, shared := j.SharedLimit(); shared && c.Shares {
		return float64(limit)
	}
	return float64(c.ManagedTo)
}
