package demand

import (
	"fmt"
	"math"
	"strings"
	"testing"
	"time"
)

// rows writes interval data of a constant load with one higher row.
func rows(head string, step time.Duration, n int, low, high float64, peakAt int) string {
	var b strings.Builder
	b.WriteString(head + "\n")
	t := time.Date(2026, 1, 5, 0, 0, 0, 0, time.UTC)
	for i := range n {
		v := low
		if i == peakAt {
			v = high
		}
		fmt.Fprintf(&b, "%s,%g\n", t.Add(time.Duration(i)*step).Format("2006-01-02 15:04"), v)
	}
	return b.String()
}

// TestUnits: the same hour in every unit and step is the same current. 11.5 kW
// at 230 V is 50 A; over half an hour 5.75 kWh, over a quarter 2.875.
func TestUnits(t *testing.T) {
	for _, c := range []struct {
		head string
		step time.Duration
		high float64
	}{
		{"start,W", 15 * time.Minute, 11500}, {"start,kW", 30 * time.Minute, 11.5}, {"start,A", time.Hour, 50},
		{"start,kWh", 30 * time.Minute, 5.75}, {"start,kWh", 15 * time.Minute, 2.875}, {"start,kWh", time.Hour, 11.5},
	} {
		got, err := ReadInterval(strings.NewReader(rows(c.head, c.step, 3000, c.high/10, c.high, 77)), 230)
		if err != nil {
			t.Errorf("%s every %v: %v", c.head, c.step, err)
			continue
		}
		if math.Abs(float64(got.Peak)-50) > 1e-9 || got.Minutes != int(c.step.Minutes()) || len(got.Gaps) != 0 || got.Rows != 3000 {
			t.Errorf("%s every %v: %+v", c.head, c.step, got)
		}
		if want := time.Date(2026, 1, 5, 0, 0, 0, 0, time.UTC).Add(77 * c.step); !got.PeakAt.Equal(want) {
			t.Errorf("%s: peak at %v, want %v", c.head, got.PeakAt, want)
		}
		if want := int(3000 * c.step.Hours() / 24); got.Days != want {
			t.Errorf("%s: %d days, want %d", c.head, got.Days, want)
		}
	}
}

func TestGaps(t *testing.T) {
	file := "start,kW\n2026-01-05 00:00,1\n2026-01-05 00:30,1\n2026-01-05 02:00,1\n2026-01-05 02:30,1\n"
	got, err := ReadInterval(strings.NewReader(file), 230)
	if err != nil || len(got.Gaps) != 1 {
		t.Fatalf("%+v %v", got, err)
	}
	if g := got.Gaps[0]; g.From.Format("15:04") != "01:00" || g.To.Format("15:04") != "02:00" {
		t.Errorf("%+v", g)
	}
}

func TestIntervalRefuses(t *testing.T) {
	good := "start,kW\n2026-01-05 00:00,1\n2026-01-05 00:30,1\n"
	for name, c := range map[string]struct{ file, want string }{
		"empty":         {"", "line 1"},
		"unit":          {"start,horsepower\n", "line 1"},
		"heading":       {"time,kW\n", "line 1"},
		"one row":       {"start,kW\n2026-01-05 00:00,1\n", "fewer than two"},
		"words":         {good + "2026-01-05 01:00,lots\n", `line 4: "lots" is not a number`},
		"negative":      {good + "2026-01-05 01:00,-2\n", "line 4"},
		"time":          {good + "yesterday,2\n", "line 4"},
		"columns":       {good + "2026-01-05 01:00\n", "line 4"},
		"back in time":  {good + "2026-01-04 01:00,2\n", "line 4: is not after"},
		"several":       {good + "a,1\nb,1\n", "line 5"},
		"odd steps":     {"start,kW\n2026-01-05 00:00,1\n2026-01-05 00:07,1\n", "7 minutes apart"},
		"not a number":  {good + "2026-01-05 01:00,NaN\n", "line 4"},
		"beyond belief": {good + "2026-01-05 01:00,1e300\n", "line 4"},
	} {
		t.Run(name, func(t *testing.T) {
			if _, err := ReadInterval(strings.NewReader(c.file), 230); err == nil || !strings.Contains(err.Error(), c.want) {
				t.Errorf("%s: %v, want %q", name, err, c.want)
			}
		})
	}
}

func FuzzReadInterval(f *testing.F) {
	f.Add("start,kW\n2026-01-05 00:00,1\n2026-01-05 00:30,1\n")
	f.Add("start,A\n\"")
	f.Fuzz(func(t *testing.T, file string) {
		got, err := ReadInterval(strings.NewReader(file), 230)
		if err == nil && (got.Rows < 2 || got.Peak < 0) {
			t.Fatalf("%+v", got)
		}
	})
}

// TestIntervalDay: the day of the peak is given whole, or not at all.
func TestIntervalDay(t *testing.T) {
	var b strings.Builder
	b.WriteString("start,A\n")
	for h := range 36 {
		fmt.Fprintf(&b, "2026-01-%02d %02d:00,%d\n", 1+h/24, h%24, h%20)
	}
	got, err := ReadInterval(strings.NewReader(b.String()), 230)
	if err != nil || len(got.Day) != 24 || got.Day[19] != 19 || got.Day[0] != 0 {
		t.Errorf("%v: %d values %v", err, len(got.Day), got.Day)
	}
	short := strings.Replace(b.String(), "2026-01-01 05:00,5\n", "", 1)
	if got, err = ReadInterval(strings.NewReader(short), 230); err != nil || got.Day != nil || len(got.Gaps) != 1 {
		t.Errorf("with a gap: %v %v", err, got.Day)
	}
}
