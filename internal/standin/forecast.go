// Package standin holds what stands in for services and instruments outside the
// program: a forecast, a mail drop and the desk of a scheme. Nothing of it leaves
// the machine.
package standin

import (
	_ "embed" // the sample
	"encoding/csv"
	"fmt"
	"io"
	"strconv"
	"strings"
	"time"

	"dogbolt/core/planning"
	"dogbolt/core/text"
)

// SampleForecast is the forecast that ships: made-up towns, hour by hour.
//
//go:embed forecast-sample.csv
var SampleForecast []byte

// ForecastColumns are the columns of a forecast file. The hour is RFC 3339 with
// its offset, so that a change of the clock leaves nothing in doubt.
var ForecastColumns = []string{"place", "hour", "temperature", "rain"}

// Forecast is a forecast from a file, by place and hour.
type Forecast struct {
	hours map[string]map[int64]planning.Weather // by lower-case place and Unix hour
}

// ReadForecast reads a forecast: all rows, or an error that names every bad one.
func ReadForecast(r io.Reader) (*Forecast, error) {
	c, err := text.NewReader(r)
	if err != nil {
		return nil, fmt.Errorf("forecast: %w", err)
	}
	c.FieldsPerRecord = -1
	rows, err := c.ReadAll()
	if err != nil {
		return nil, fmt.Errorf("forecast: %w", err)
	}
	if len(rows) == 0 || strings.Join(rows[0], ",") != strings.Join(ForecastColumns, ",") {
		return nil, fmt.Errorf("forecast: the heading is %s", strings.Join(ForecastColumns, ","))
	}
	f := &Forecast{hours: map[string]map[int64]planning.Weather{}}
	var bad []string
	for n, row := range rows[1:] {
		if err := f.row(row); err != nil {
			bad = append(bad, fmt.Sprintf("row %d: %v", n+2, err))
		}
	}
	if len(bad) > 0 {
		return nil, fmt.Errorf("forecast: %s", strings.Join(bad, "; "))
	}
	return f, nil
}

func (f *Forecast) row(row []string) error {
	if len(row) != len(ForecastColumns) {
		return fmt.Errorf("has %d fields, %d are wanted", len(row), len(ForecastColumns))
	}
	at, err := time.Parse(time.RFC3339, row[1])
	if err != nil {
		return fmt.Errorf("hour: %q is not a time such as 2027-03-28T08:00:00+01:00", row[1])
	}
	warm, err := strconv.ParseFloat(row[2], 64)
	if err != nil || warm < -70 || warm > 60 {
		return fmt.Errorf("temperature: %q is not °C", row[2])
	}
	rain, err := strconv.ParseFloat(row[3], 64)
	if err != nil || rain < 0 || rain > 300 {
		return fmt.Errorf("rain: %q is not mm in the hour", row[3])
	}
	place := strings.ToLower(strings.TrimSpace(row[0]))
	if place == "" {
		return fmt.Errorf("place: missing")
	}
	if f.hours[place] == nil {
		f.hours[place] = map[int64]planning.Weather{}
	}
	f.hours[place][at.Unix()/3600] = planning.Weather{Temperature: warm, Rain: rain}
	return nil
}

// At tells the weather of a place in the hour of a time.
func (f *Forecast) At(place string, hour time.Time) (planning.Weather, bool) {
	w, ok := f.hours[strings.ToLower(place)][hour.Unix()/3600]
	return w, ok
}

// Shifted writes a forecast anew so that its first day is another one, by days
// of the calendar: the sample stays a forecast.
func Shifted(data []byte, first time.Time) ([]byte, error) {
	rows, err := csv.NewReader(strings.NewReader(string(data))).ReadAll()
	if err != nil || len(rows) < 2 {
		return nil, fmt.Errorf("forecast: nothing to shift: %w", err)
	}
	start, err := time.Parse(time.RFC3339, rows[1][1])
	if err != nil {
		return nil, fmt.Errorf("forecast: %w", err)
	}
	days := int(first.UTC().Truncate(24*time.Hour).Sub(start.UTC().Truncate(24*time.Hour)).Hours() / 24)
	var out strings.Builder
	w := csv.NewWriter(&out)
	for i, row := range rows {
		if i > 0 {
			at, err := time.Parse(time.RFC3339, row[1])
			if err != nil {
				return nil, fmt.Errorf("forecast: row %d: %w", i+1, err)
			}
			row[1] = at.AddDate(0, 0, days).Format(time.RFC3339)
		}
		if err := w.Write(row); err != nil {
			return nil, err
		}
	}
	w.Flush()
	return []byte(out.String()), w.Error()
}
