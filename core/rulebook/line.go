package rulebook

import (
	"strconv"
	"strings"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// Line is a finding as files, pages and records show it.
type Line struct {
	Rule    string    `json:"rule"`
	Point   string    `json:"point,omitempty"`
	Stage   job.Stage `json:"stage"`
	Title   string    `json:"title"`
	Clause  string    `json:"clause"`
	Verdict Verdict   `json:"verdict"`
	Value   string    `json:"value,omitempty" doc:"What was found, with unit."`
	Limit   string    `json:"limit,omitempty" doc:"What meets, with unit."`
	Margin  string    `json:"margin,omitempty" doc:"Share of the limit that is left; negative where it is passed."`
	Working string    `json:"working,omitempty"`
	Remedy  string    `json:"remedy,omitempty"`
	Missing string    `json:"missing,omitempty" doc:"What is needed to judge, for an open finding."`
	Clash   string    `json:"clash,omitempty" doc:"Which other limit on the same field cannot be met together with this one."`
	Fields  []string  `json:"fields,omitempty" doc:"Places in the job document that the rule looks at."`
	Fixed   bool      `json:"fixed,omitempty" doc:"Can never be overridden."`
	By      string    `json:"overriddenBy,omitempty"`
	Reason  string    `json:"overrideReason,omitempty"`
	Offers  []string  `json:"offers,omitempty" doc:"What would remedy it and can be taken over into the design with one press, in words."`
	Bar     *Gauge    `json:"bar,omitempty" doc:"The numbers, to draw a bar."`
}

// Gauge is a value with its limits, for drawing.
type Gauge struct {
	Value *float64 `json:"value,omitempty"`
	Low   *float64 `json:"low,omitempty"`
	High  *float64 `json:"high,omitempty"`
	Unit  string   `json:"unit,omitempty"`
}

// Lines turns findings into lines. The fields' "{p}" becomes the point's place
// in the survey.
func Lines(findings []Finding) []Line {
	out := make([]Line, len(findings))
	place := map[string]int{}
	for _, f := range findings {
		if _, seen := place[f.Point]; f.Point != "" && !seen {
			place[f.Point] = len(place)
		}
	}
	for i, f := range findings {
		l := Line{Rule: f.Rule, Point: f.Point, Stage: f.Stage, Title: f.Title, Clause: f.Clause, Verdict: f.Verdict,
			Working: f.Working, Remedy: f.Remedy, Missing: f.Missing, Clash: f.Clash, Fixed: f.Fixed, By: f.OverriddenBy, Reason: f.OverReason}
		if len(f.Fields) > 0 {
			l.Fields = make([]string, len(f.Fields))
		}
		for _, o := range f.Offers {
			l.Offers = append(l.Offers, o.Title)
		}
		at := strconv.Itoa(place[f.Point])
		for k, field := range f.Fields {
			l.Fields[k] = strings.ReplaceAll(field, "{p}", at)
		}
		switch {
		case f.Shown != "":
			l.Value = f.Shown
		case f.Value.Set:
			l.Value = amount(f.Value.V, f.Unit)
			// A refusal never prints the limit as the value.
			atLimit := func() bool {
				return f.Low.Set && l.Value == amount(f.Low.V, f.Unit) || f.High.Set && l.Value == amount(f.High.V, f.Unit)
			}
			for more := 3; f.Verdict == Stop && more < 8 && atLimit(); more++ {
				l.Value = strings.TrimSpace(strconv.FormatFloat(quantity.Round(f.Value.V, more), 'f', -1, 64) + " " + f.Unit)
			}
		}
		l.Limit = f.limit()
		if m := f.Margin(); m.Set {
			l.Margin = strconv.FormatFloat(quantity.Round(100*m.V, 0), 'f', -1, 64) + " %"
		}
		if f.Value.Set || f.Low.Set || f.High.Set {
			l.Bar = &Gauge{Value: f.Value.pointer(), Low: f.Low.pointer(), High: f.High.pointer(), Unit: f.Unit}
		}
		out[i] = l
	}
	return out
}

func (n Number) pointer() *float64 {
	if !n.Set {
		return nil
	}
	return &n.V
}

// limit writes what meets: "≤ 1.37 Ω", "≥ 1 MΩ", "216.2 V to 253 V".
func (f Finding) limit() string {
	switch {
	case f.Low.Set && f.High.Set && f.Low.V == f.High.V:
		return "= " + amount(f.Low.V, f.Unit)
	case f.Low.Set && f.High.Set:
		return amount(f.Low.V, f.Unit) + " to " + amount(f.High.V, f.Unit)
	case f.High.Set:
		return "≤ " + amount(f.High.V, f.Unit)
	case f.Low.Set:
		return "≥ " + amount(f.Low.V, f.Unit)
	}
	return ""
}

// amount writes a number with three significant figures or more, and its unit.
func amount(v float64, unit string) string {
	decimals := 2
	switch {
	case v >= 100 || v <= -100:
		decimals = 1
	case v != 0 && v < 0.1 && v > -0.1:
		decimals = 3
	}
	s := strconv.FormatFloat(quantity.Round(v, decimals), 'f', -1, 64)
	if unit == "" {
		return s
	}
	return s + " " + unit
}
