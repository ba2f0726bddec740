package jurisdiction

// Package is what whoever decides before the work is given beside a form: what the design is worked out
// from, in one file.
type Package struct {
	Title  string // "" where the country has none
	Notice string
	// Equipment are the columns of the list of equipment, with a row for each point.
	Equipment []Cell
	// Parts are findings of the design under headings, with their workings.
	Parts []Part
}

// Part is some findings under a heading: of rules, by their ids, wherever they judge something.
type Part struct {
	Title string
	Rules []string
}
