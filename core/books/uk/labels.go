package uk

import (
	"strings"

	"dogbolt/core/inspect"
	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/quantity"
)

// labels are the labels and notices of a job: those of BS 7671 section 514 and part 722 that bear on it. What a
// clause prescribes word for word is from memory: the printed standard prevails.
func labels(f *jurisdiction.Facts) []jurisdiction.Label {
	var out []jurisdiction.Label
	residual, chart := f.Design.Beside.Renews(), "circuit chart at the board" // circuits moved over have residual devices
	if d := &f.Design.Beside; d.Fitted == job.Yes {
		chart = "circuit chart at the " + d.Name("", "board")
	}
	out = append(out, jurisdiction.MovedLabels(f, chart, "514.9.1", "way")...)
	for _, p := range f.Points() {
		c := &p.Circuit
		if !c.Charges() {
			out = append(out, jurisdiction.LeftLabels(f, &p)...)
			continue
		}
		what := "Charging point " + p.ID
		if c.EndsInBoard() {
			what = "Sub-main to " + strings.TrimSpace(p.Place.Name)
			out = append(out, endLabels(f, &p)...)
		}
		if c.Breaker.Rating > 0 && c.Cable.Size != "" {
			line := string(c.Breaker.Curve) + quantity.Say("{} A", float64(c.Breaker.Rating)) + ", " + c.Cable.Size
			if c.RCD.Fitted == job.Yes {
				line += quantity.Say(", {} mA type ", c.RCD.TripMA) + string(c.RCD.Type)
				residual = true
			}
			out = append(out, jurisdiction.Label{Where: chart, Clause: "514.9.1", Lines: []string{what, line, strings.TrimSpace(p.Place.Name)}})
		}
		if c.Isolator == job.Yes {
			out = append(out, jurisdiction.Label{Where: "isolator of point " + p.ID, Clause: "537.2.7", Lines: []string{
				"Charging point " + p.ID, "isolator, all live conductors",
			}})
		}
		switch c.Earthing.OpenPEN {
		case job.PENVoltage, job.PENTouch:
			out = append(out, jurisdiction.Label{Where: "charging point " + p.ID, Clause: "722.411.4.1", Warns: true, Lines: []string{
				"Open-PEN protection fitted", "It disconnects the protective conductor too. Do not bridge it, and earth nothing else from this circuit.",
			}})
		case job.PENTT, job.PENElectrode:
			out = append(out, jurisdiction.Label{Where: "earth electrode of point " + p.ID, Clause: "514.13.1", Warns: true, Lines: notRemoved})
		}
	}
	switch d := &f.Design.Beside; {
	case d.Renews():
		out = append(out, jurisdiction.Label{Where: chart, Clause: "514.9.1", Lines: []string{
			"Circuits moved over", quantity.Say("{} ways: each with its device, its conductors and what it feeds", float64(d.Taken)),
		}}, jurisdiction.Label{Where: "new board", Clause: "514.1.1", Lines: []string{
			"Main switch", quantity.Say("{} A, isolates ", float64(d.Rating)) + isolated(f),
		}})
	case d.Small():
		out = append(out, jurisdiction.Label{Where: "small board", Clause: "514.1.1", Lines: []string{
			"Main switch: charging", quantity.Say("{} A, isolates the charging points and nothing else", float64(d.Rating)),
		}}, jurisdiction.Label{Where: "old board and cutout", Clause: "514.1.1, 537.3", Lines: []string{
			"Two main switches", strings.TrimSpace("The charging points have a board of their own: " + d.Where),
		}})
	}
	for _, what := range f.Bonds() {
		out = append(out, jurisdiction.Label{Where: "bonding clamp: " + what, Clause: "514.13.1", Warns: true, Lines: notRemoved})
	}
	if f.Survey.Supply.OtherSource == job.Yes {
		out = append(out, jurisdiction.Label{Where: "cutout, board and isolators", Clause: "514.15.1", Warns: true, Lines: []string{
			"Warning: multiple supplies", "Isolate all electrical supplies before carrying out work.",
		}})
	}
	if residual {
		out = append(out, jurisdiction.Label{Where: "board", Clause: "514.12.2", Lines: []string{
			"Test six-monthly", "This installation, or part of it, is protected by a device which automatically switches off the supply if an earth fault develops. " +
				"Press the button marked T or Test. The device should switch off the supply and should then be switched on to restore it. " +
				"If it does not switch off the supply, seek expert advice.",
		}})
	}
	if e, ok := f.Latest(job.Inspected, "", inspect.Next); ok {
		if by := inspect.NextBy(e.Value, e.At); !by.IsZero() {
			out = append(out, jurisdiction.Label{Where: "board", Clause: "514.12.1", Lines: []string{
				"Periodic inspection and test", "Last: " + e.At.Format("2 Jan 2006") + ". Next by: " + by.Format("2 Jan 2006") + ", or at a change of occupier.",
			}})
		}
	}
	return out
}

// endLabels are those of the board at the end of a sub-main: what feeds it and from where, and its own chart.
func endLabels(f *jurisdiction.Facts, p *job.Point) []jurisdiction.Label {
	from := strings.TrimSpace(f.Board().Label)
	if from == "" {
		from = "the main board"
	}
	return []jurisdiction.Label{
		{Where: "board at the end of the sub-main", Clause: "514.1.1, 514.9.1", Lines: []string{
			strings.TrimSpace(p.Place.Name), "Fed from " + from + quantity.Say(" by {} A. ", float64(p.Circuit.Breaker.Rating)) +
				"Isolate there for work before its main switch.",
		}},
		{Where: "circuit chart at the board at the end", Clause: "514.9.1", Lines: []string{"Ways free", "Written by whoever connects a circuit"}},
	}
}

// notRemoved is the label of an earth electrode and of a bonding clamp.
var notRemoved = []string{"Safety electrical connection", "Do not remove"}

// isolated is what the main switch of a board in place of the old one isolates.
func isolated(f *jurisdiction.Facts) string {
	if f.NewMains() {
		return "the whole installation"
	}
	return "this board; its sub-main stays live"
}
