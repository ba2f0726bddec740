package jurisdiction

import "dogbolt/core/quantity"

// Package is what whoever decides before the work is given beside a form: what the design is worked out
// from, in one file.
type Package struct {
	Title  string // "" where the country has none
	Notice string
	// Equipment are the columns of the list of equipment, with a row for each point.
	Equipment []Cell
	// Space is the working space in front of a board; zero where the country gives no sizes.
	Space Space
	// Parts are findings of the design under headings, with their workings.
	Parts []Part
}

// Space is the least working space in front of a board.
type Space struct {
	Depth, Width, Height quantity.Metre
	Clause               string
}

// Part is some findings under a heading: of rules, by their ids, wherever they judge something.
type Part struct {
	Title string
	Rules []string
}
