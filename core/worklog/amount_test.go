package worklog

import (
	"fmt"
	"math"
	"reflect"
	"strconv"
	"testing"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// TestAmount: a step's number is read in its unit or in the one behind it; 1 in is 25.4 mm
// exactly (the international yard, 1959).
func TestAmount(t *testing.T) {
	for _, c := range []struct {
		unit, value string
		want        float64 // SI; NaN: it is no amount
	}{
		{"m", "15.6", 15.6}, {"m", "15.6 m", 15.6}, {"m", "15600mm", 15.6}, {"ft", "39", 11.8872}, {"ft", "39 ft", 11.8872},
		{"mm", "450", 0.45}, {"in", "18", 0.4572}, {"in", "1.5 ft", 0.4572}, {"mm", "45 cm", 0.45},
		{"Ω", "38", 38}, {"Ω", "1.2k", 1200}, {"Ω", "38 Ω", 38},
		{"m", "", math.NaN()}, {"m", "0", math.NaN()}, {"m", "-3", math.NaN()}, {"m", "3 km", math.NaN()}, {"m", "about 15", math.NaN()}, {"m", "1.2.3", math.NaN()},
		{"m", "15 m or so", math.NaN()}, {"m", "3 Ω", math.NaN()}, {"Ω", "3 km", math.NaN()}, {"Ω", ">999", math.NaN()}, {"Ω", "LIM", math.NaN()}, {"Ω", "low", math.NaN()},
	} {
		got, ok := Measure{Unit: c.unit}.Amount(c.value)
		if ok == math.IsNaN(c.want) || ok && math.Abs(got-c.want) > 1e-9 {
			t.Errorf("%q asked in %s: %g %t, want %g", c.value, c.unit, got, ok, c.want)
		}
	}
}

// TestMostAsSurveyed: a depth and a length on site end where the survey's fields do, so that none
// that cannot be counts in one's favour.
func TestMostAsSurveyed(t *testing.T) {
	w := &Practice{Length: quantity.InMetres, Depth: quantity.InMillimetres}
	for step, field := range map[string]string{OnWay + "buried": "Cover", RunCable: "Length"} {
		f, _ := reflect.TypeFor[job.Segment]().FieldByName(field)
		m := w.Measure(step)
		if most, err := strconv.ParseFloat(f.Tag.Get("maximum"), 64); err != nil || m.Most != most {
			t.Errorf("%s: %g on site, %g surveyed, %v", step, m.Most, most, err)
		}
		if _, ok := m.Amount(fmt.Sprintf("%g m", m.Most)); !ok {
			t.Errorf("%s: the most is refused", step)
		}
		if _, ok := m.Amount(fmt.Sprintf("%g m", m.Most+0.1)); ok {
			t.Errorf("%s: more than the most is taken", step)
		}
	}
}
