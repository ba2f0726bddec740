package planning

import (
	"math"
	"strings"
	"time"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// Weather is one hour at a place.
type Weather struct {
	Temperature float64 // °C
	Rain        float64 // mm in the hour
}

// Forecast tells the weather of a place at an hour; ok is false where it does
// not reach. A real service can stand behind it as well as a file.
type Forecast interface {
	At(place string, hour time.Time) (w Weather, ok bool)
}

// Cold is what a cable's sheath bears while it is bent.
type Cold struct {
	Least  float64       // °C
	Before time.Duration // for so long before too, because the cable is as cold as it was kept
	Clause string
}

// Practice is what a day's weather depends on in one country.
type Practice struct {
	Temperature quantity.Unit
	Moment      string              // layout of a time on a day, as time.Format has it
	Cold        map[job.Family]Cold // what the country's families bear
}

// RainFrom is the rain, mm an hour, from which an enclosure is not opened in
// the open: more than a drizzle. Common practice, no source.
const RainFrom = 0.2

// weather judges the day for a job.
func (w *Practice) weather(j *job.Job, f Forecast, from, to time.Time) []Reason {
	if f == nil {
		return []Reason{{Kind: AboutWeather, Verdict: Note, What: "no forecast is read in", Remedy: "look at the forecast before the crew leaves"}}
	}
	coldest, when, wettest, reaches := math.Inf(1), from, 0.0, true
	for t := from.Truncate(time.Hour); t.Before(to); t = t.Add(time.Hour) {
		now, ok := f.At(j.Site.Town, t)
		reaches = reaches && ok
		if ok && now.Temperature < coldest {
			coldest, when = now.Temperature, t
		}
		if ok {
			wettest = max(wettest, now.Rain)
		}
	}
	if !reaches {
		return []Reason{{Kind: AboutWeather, Verdict: Note, What: "the forecast does not reach so far", Remedy: "look again nearer the day"}}
	}
	var out []Reason
	limit, known := Cold{Least: math.Inf(-1)}, false
	for i := range j.Design.Circuits {
		if c, ok := w.Cold[j.Design.Circuits[i].Cable.Family]; ok && c.Least > limit.Least {
			limit, known = c, true
		}
	}
	if known {
		for t := from.Add(-limit.Before).Truncate(time.Hour); t.Before(from); t = t.Add(time.Hour) {
			if then, ok := f.At(j.Site.Town, t); ok && then.Temperature < coldest {
				coldest, when = then.Temperature, t
			}
		}
		if coldest < limit.Least {
			say := w.Temperature.Say(
				coldest,
			) + " at " + when.In(
				from.Location(),
			).Format(
				w.Moment,
			) + ": the cable is not bent below " + w.Temperature.SayTo(
				limit.Least,
				0,
			)
			if limit.Before > 0 {
				say += quantity.Say(", nor within {} h of it", limit.Before.Hours())
			}
			out = append(
				out,
				Reason{
					Kind:    AboutWeather,
					Verdict: Against,
					What:    strings.ReplaceAll(say, "-", "−") + " (" + limit.Clause + ")",
					Remedy:  "another day, or keep the cable warm and bend it where it is warm",
				},
			)
		}
	}
	if open := openEnclosure(j); open != "" && wettest >= RainFrom {
		out = append(
			out,
			Reason{
				Kind:    AboutWeather,
				Verdict: Against,
				What:    quantity.Say("rain of {1} mm an hour on the open enclosure of point ", wettest) + open,
				Remedy:  "another day, or put up a cover (common practice)",
			},
		)
	}
	return out
}

// openEnclosure names a point whose enclosure is opened in the open.
func openEnclosure(j *job.Job) string {
	for _, p := range j.Survey.Places {
		if p.Outdoors != job.Yes {
			continue
		}
		cover := job.InOpen
		for _, q := range j.Survey.SitePlan.Positions {
			if q.ID == p.Position && q.Cover != "" {
				cover = q.Cover
			}
		}
		if cover == job.InOpen {
			return p.Point
		}
	}
	return ""
}
