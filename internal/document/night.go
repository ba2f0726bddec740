package document

import (
	"fmt"
	"math"
	"slices"

	"dogbolt/core/loadmgmt"
	"dogbolt/core/quantity"
)

// NightPlot draws a simulated night: the house, the charging on top of it, and
// the limit of the supply, in A over the hours.
func NightPlot(n loadmgmt.Night, o loadmgmt.Outcome) Drawing {
	d := Drawing{Width: 760, Height: 230, Title: "A cold night, " + string(o.Mode)}
	const left, right, top, bottom = 40.0, 12.0, 14.0, 26.0
	most := max(n.Limit*1.15, slices.Max(o.Total)*1.05)
	x := func(m int) float64 { return left + (d.Width-left-right)*float64(m)/float64(n.Minutes) }
	y := func(a float64) float64 { return d.Height - bottom - (d.Height-top-bottom)*a/most }
	for _, c := range []struct {
		class  string
		values []float64
	}{{"charging", o.Total}, {"house", n.House}} {
		area := []Pt{{x(0), y(0)}}
		for m := 0; m < n.Minutes; m += 3 { // the highest of three minutes: peaks must not vanish
			area = append(area, Pt{math.Round(x(m)*10) / 10, math.Round(y(slices.Max(c.values[m:min(m+3, n.Minutes)]))*10) / 10})
		}
		area = append(area, Pt{x(n.Minutes), y(0)})
		d.Shapes = append(d.Shapes, Shape{Points: area, Closed: true, Filled: true, Class: c.class})
	}
	d.line("axis", Pt{left, y(0)}, Pt{d.Width - right, y(0)})
	step := 20.0
	if most > 150 {
		step = 50
	}
	for a := 0.0; a <= most; a += step {
		d.line("tick", Pt{left - 4, y(a)}, Pt{left, y(a)})
		d.text("quiet end", left-8, y(a)+4, quantity.Say("{}", a))
	}
	for m := 0; m <= n.Minutes; m += 120 {
		d.line("tick", Pt{x(m), y(0)}, Pt{x(m), y(0) + 4})
		d.text("quiet mid", x(m), y(0)+17, fmt.Sprintf("%02d:00", (n.Start+m)/60%24))
	}
	d.line("limit", Pt{left, y(n.Limit)}, Pt{d.Width - right, y(n.Limit)})
	d.text("limit-text", left+6, y(n.Limit)-5, quantity.Say("{} A service", n.Limit))
	if n.Keep > 0 && n.Keep < n.Limit && o.Mode == loadmgmt.Managed {
		d.line("limit", Pt{left, y(n.Keep)}, Pt{d.Width - right, y(n.Keep)})
		d.text("limit-text end", d.Width-right-6, y(n.Keep)+14, quantity.Say("kept to {} A", n.Keep))
	}
	return d
}
