package jurisdiction

import (
	"slices"

	"dogbolt/core/job"
)

// Certificate is what the paper that certifies new work says in one country: its lines and the
// columns of its schedules. Each is a title and where the job has it; what the job does not know is
// "", and is missing.
type Certificate struct {
	Title  string // of the paper; "" where the country has none
	Notice string // by the content of which form, and what else stands on the paper
	// Removal says that it is about points whose charger is taken away: its rows are those, and others' are the rest.
	Removal bool
	// Groups are lines of the whole installation, under headings.
	Groups []Group
	// Circuits and Tests are the columns of the two schedules, with a row for each point.
	Circuits, Tests []Cell
}

// CertificateOf is the paper that certifies the work of a job.
func (j *Jurisdiction) CertificateOf(w *job.Job) *Certificate {
	if w.Removes() {
		return &Removal
	}
	if j.Minor.Title == "" || w.Makes() {
		return &j.Certificate
	}
	return &j.Minor
}

// Rows are the points that the paper is about.
func (c *Certificate) Rows(w *job.Job) []job.Point {
	return slices.DeleteFunc(w.Points(), func(p job.Point) bool { return (p.Circuit.Kind() == job.Removal) != c.Removal })
}

// NotApplicable is what a certificate says of what a circuit does not have, or was not asked for.
const NotApplicable = "n/a"

// Group is some lines of a certificate under a heading.
type Group struct {
	Title string
	Lines []Cell
}

// Cell is a line of a certificate, or a column of a schedule.
type Cell struct {
	Title string
	Share float64 // of a column: its part of the width
	Says  func(*Facts) string
	Only  func(*Facts) bool // of a line: the jobs that have it; nil: every one
	Made  bool              // tells how the installation is made: of a repair of the charger alone it may be left out
}

// Text is what the cell says; "" while something is missing.
func (c *Cell) Text(f *Facts) string {
	said := c.Says(f)
	if said == "" && c.Made && f.Touched() > job.TouchedAll {
		return NotApplicable
	}
	return said
}

// OfCharger is what a cell says of a charger: of a sub-main, on which none hangs, that it does not apply.
func OfCharger(says func(*Facts) string) func(*Facts) string {
	return func(f *Facts) string {
		if f.Point.Circuit.EndsInBoard() {
			return NotApplicable
		}
		return says(f)
	}
}

// On reports whether a certificate of the facts has the line.
func (c *Cell) On(f *Facts) bool { return c.Only == nil || c.Only(f) }

// Facts are what a certificate takes its words from.
type Facts struct {
	*job.Job
	Point  job.Point // of a row; zero for lines of the whole installation
	Demand string    // with charging, and by which method
	// Read is the last reading of a test, as it was entered, with its unit once; "" where it was not read.
	Read func(test string) string
	// Stated is the answer of an item of the schedule of inspections.
	Stated func(item string) string
	// Words are the words of an answer to it.
	Words  func(item string) string
	Length func(metres float64) string
	// Row are the facts of a point.
	Row func(job.Point) *Facts
}

// Reads lists the readings of tests of a point, each once; nothing while one that the circuit has is
// not read, and NotApplicable where it has none of them.
func (f *Facts) Reads(tests ...string) []string {
	var said []string
	for _, t := range tests {
		switch r := f.Read(t); {
		case r == "":
			return nil
		case r != NotApplicable && !slices.Contains(said, r):
			said = append(said, r)
		}
	}
	if len(said) == 0 {
		return []string{NotApplicable}
	}
	return said
}

// Lacking is what a certificate lacks: by heading and title.
func (c *Certificate) Lacking(whole *Facts) []string {
	var out []string
	for _, g := range c.Groups {
		for _, l := range g.Lines {
			if l.On(whole) && l.Text(whole) == "" {
				out = append(out, g.Title+": "+l.Title)
			}
		}
	}
	for _, p := range c.Rows(whole.Job) {
		f := whole.Row(p)
		for _, cells := range [][]Cell{c.Circuits, c.Tests} {
			for _, l := range cells {
				if l.Text(f) == "" {
					out = append(out, l.Title+", "+f.Point.ID)
				}
			}
		}
	}
	return out
}
