package document

import "dogbolt/core/jurisdiction"

// workingSpace draws the working space in front of a board from the side and from above, dashed, with its sizes
// in the country's units.
func workingSpace(s *jurisdiction.Space, in *jurisdiction.Jurisdiction) Drawing {
	const perMetre, board, thick = 60, 22, 8 // units of the drawing
	depth, width, height := float64(s.Depth)*perMetre, float64(s.Width)*perMetre, float64(s.Height)*perMetre
	d := Drawing{Width: 270, Height: height + 40, Title: "Working space"}
	says := func(m float64) string { return in.Units.Length.SayTo(m, in.Units.Length.Exact) }

	wall, floor := 14.0, height+10
	d.box("line", wall-thick, 10, thick, height)
	d.box("line", wall, floor-height*0.85, board, height*0.4)
	d.box("earth", wall+board, 10, depth, height)
	d.line("line", Pt{2, floor}, Pt{wall + board + depth + 12, floor})
	d.text("text", wall+board+depth+5, 10+height/2, "height "+says(float64(s.Height)))
	d.text("text", wall+board+2, floor+12, "depth "+says(float64(s.Depth)))
	d.text("quiet", 2, floor+24, "from the side")

	left, top := 160.0, 10.0+board
	d.box("line", left-6, top-board-thick, width+12, thick)
	d.box("line", left+(width-2*board)/2, top-board, 2*board, board)
	d.box("earth", left, top, width, depth)
	d.text("text", left+width+5, top+depth/2, "depth "+says(float64(s.Depth)))
	d.text("text", left+2, top+depth+12, "width "+says(float64(s.Width)))
	d.text("quiet", left+2, floor+24, "from above")
	return d
}
