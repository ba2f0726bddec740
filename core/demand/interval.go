package demand

import (
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"strconv"
	"strings"
	"time"

	"dogbolt/core/quantity"
	"dogbolt/core/text"
)

// Interval is what a meter's interval data say about a supply.
type Interval struct {
	Peak    quantity.Ampere `json:"peak" doc:"Highest demand of one interval, A."`
	PeakAt  time.Time       `json:"peakAt"`
	Minutes int             `json:"minutes" doc:"Length of an interval."`
	Rows    int             `json:"rows"`
	From    time.Time       `json:"from"`
	To      time.Time       `json:"to" doc:"End of the last interval."`
	Days    int             `json:"days" doc:"Whole days between the first and the last interval."`
	Gaps    []Gap           `json:"gaps" doc:"Intervals that are missing."`
	Day     []float64       `json:"day,omitempty" doc:"Demand of the day of the peak from midnight, A; left out where the day has a gap."`
}

// Gap is a stretch without data.
type Gap struct {
	From time.Time `json:"from"`
	To   time.Time `json:"to"`
}

// intervalLayouts are the ways that a time may be written.
var intervalLayouts = []string{time.RFC3339, "2006-01-02 15:04:05", "2006-01-02 15:04", "2006-01-02T15:04"}

// ReadInterval reads interval data: a CSV with the heading "start,W", "start,kW",
// "start,kWh" or "start,A", rows every 15, 30 or 60 minutes in order of time, at
// the voltage u for all but A. Broken rows are named by their line, and then
// nothing is returned; gaps are reported, not filled.
func ReadInterval(file io.Reader, u quantity.Volt) (Interval, error) {
	r, err := text.NewReader(file)
	if err != nil {
		return Interval{}, err
	}
	r.FieldsPerRecord = 2
	r.TrimLeadingSpace = true
	head, err := r.Read()
	if err != nil {
		return Interval{}, errors.New("line 1: no heading; it is start,W or start,kW or start,kWh or start,A")
	}
	unit := strings.TrimSpace(head[1])
	if strings.TrimSpace(head[0]) != "start" || unit != "W" && unit != "kW" && unit != "kWh" && unit != "A" {
		return Interval{}, fmt.Errorf("line 1: the heading is %q; it is start,W or start,kW or start,kWh or start,A", strings.Join(head, ","))
	}
	var times []time.Time
	var values []float64
	var errs []error
	for {
		row, err := r.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		var line int
		var broken *csv.ParseError
		if errors.As(err, &broken) {
			line, err = broken.Line, broken.Err
		} else if err != nil {
			return Interval{}, err
		} else {
			line, _ = r.FieldPos(0)
			var t time.Time
			var v float64
			if t, v, err = intervalRow(row); err == nil && len(times) > 0 && !t.After(times[len(times)-1]) {
				err = errors.New("is not after the line before it")
			}
			times, values = append(times, t), append(values, v)
		}
		if err != nil {
			if errs = append(errs, fmt.Errorf("line %d: %w", line, err)); len(errs) == 20 {
				break
			}
		}
	}
	if len(errs) > 0 {
		return Interval{}, errors.Join(errs...)
	}
	if len(times) < 2 {
		return Interval{}, errors.New("the file has fewer than two rows")
	}
	return intervalOf(times, values, unit, u)
}

func intervalRow(row []string) (time.Time, float64, error) {
	v, err := strconv.ParseFloat(strings.TrimSpace(row[1]), 64)
	if err != nil || v != v || v > 1e7 {
		return time.Time{}, 0, fmt.Errorf("%q is not a number", row[1])
	}
	if v < 0 {
		return time.Time{}, 0, fmt.Errorf("%q: a demand cannot be negative; leave export out", row[1])
	}
	for _, layout := range intervalLayouts {
		if t, err := time.Parse(layout, strings.TrimSpace(row[0])); err == nil {
			return t, v, nil
		}
	}
	return time.Time{}, 0, fmt.Errorf("%q is not a time such as 2026-01-31 17:30", row[0])
}

// intervalOf finds the step, the peak and the gaps of rows in order.
func intervalOf(times []time.Time, values []float64, unit string, u quantity.Volt) (Interval, error) {
	step := times[1].Sub(times[0])
	for i := 1; i < len(times); i++ {
		step = min(step, times[i].Sub(times[i-1]))
	}
	out := Interval{Minutes: int(step / time.Minute), Rows: len(times), From: times[0], To: times[len(times)-1].Add(step), Gaps: []Gap{}}
	if out.Minutes != 15 && out.Minutes != 30 && out.Minutes != 60 {
		return Interval{}, fmt.Errorf("rows are %d minutes apart; 15, 30 or 60 are read", out.Minutes)
	}
	list := make([]float64, len(values))
	for i, v := range values {
		switch unit {
		case "W":
			v /= float64(u)
		case "kW":
			v *= 1000 / float64(u)
		case "kWh":
			v *= 1000 / step.Hours() / float64(u)
		}
		list[i] = v
		if quantity.Ampere(v) > out.Peak {
			out.Peak, out.PeakAt = quantity.Ampere(v), times[i]
		}
		if i > 0 && times[i].Sub(times[i-1]) > step {
			out.Gaps = append(out.Gaps, Gap{times[i-1].Add(step), times[i]})
		}
	}
	y, m, d := out.PeakAt.Date()
	for i, t := range times {
		if ty, tm, td := t.Date(); ty == y && tm == m && td == d {
			out.Day = append(out.Day, quantity.Round(list[i], 2))
		}
	}
	if len(out.Day) != 24*60/out.Minutes {
		out.Day = nil
	}
	out.Days = int(out.To.Sub(out.From).Hours() / 24)
	return out, nil
}
