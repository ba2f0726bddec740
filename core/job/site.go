package job

import (
	"fmt"

	"dogbolt/core/quantity"
)

// XY is a place on the site plan, m from its lower left corner: X to the right,
// Y upwards.
type XY struct {
	X quantity.Metre `json:"x" minimum:"-200" maximum:"200"`
	Y quantity.Metre `json:"y" minimum:"-200" maximum:"200"`
}

// SitePlan is the parking and what stands round it, drawn from measures.
type SitePlan struct {
	Walls     []Wall     `json:"walls,omitempty" maxItems:"40" doc:"Walls and fences that a cord has to go round."`
	Doors     []Opening  `json:"doors,omitempty" maxItems:"20" doc:"Doors and gates that people use."`
	Paths     []Walkway  `json:"paths,omitempty" maxItems:"10" doc:"Paths that people walk on."`
	Bays      []Bay      `json:"bays,omitempty" maxItems:"12" doc:"Parking bays."`
	Obstacles []Obstacle `json:"obstacles,omitempty" maxItems:"20" doc:"Anything else a cord has to go round: planter, post, steps."`
	Gas       []Gas      `json:"gas,omitempty" maxItems:"10" doc:"Gas pipes and meters."`
	Meter     *XY        `json:"meter,omitempty" doc:"Electricity meter."`
	Board     *XY        `json:"board,omitempty" doc:"Board or panel."`
	Positions []Position `json:"positions,omitempty" maxItems:"8" doc:"Candidate positions of chargers."`
}

// Wall is a wall by its centre line.
type Wall struct {
	From  XY             `json:"from"`
	To    XY             `json:"to"`
	Thick quantity.Metre `json:"thick,omitempty" minimum:"0" maximum:"1.5" doc:"Thickness, m. 0: 0.1 m is drawn."`
}

// Opening is a door, by the two sides of its opening.
type Opening struct {
	From XY     `json:"from"`
	To   XY     `json:"to"`
	Name string `json:"name,omitempty" maxLength:"40"`
}

// Walkway is a path by its centre line and its width.
type Walkway struct {
	From  XY             `json:"from"`
	To    XY             `json:"to"`
	Width quantity.Metre `json:"width,omitempty" minimum:"0" maximum:"20" doc:"Width, m."`
	Name  string         `json:"name,omitempty" maxLength:"40"`
}

// Bay is a parking bay. A vehicle that is parked nose in points along Heading.
type Bay struct {
	ID      string         `json:"id" minLength:"1" maxLength:"8" doc:"Name of the bay: 1, 2."`
	Centre  XY             `json:"centre"`
	Length  quantity.Metre `json:"length,omitempty" minimum:"0" maximum:"20" doc:"Along the vehicle, m."`
	Width   quantity.Metre `json:"width,omitempty" minimum:"0" maximum:"10" doc:"Across the vehicle, m."`
	Heading float64        `json:"heading,omitempty" minimum:"-360" maximum:"360" doc:"Direction in which a vehicle drives in, degrees anticlockwise from the X axis."`
}

// Obstacle is a rectangle that a cord has to go round, by its lower left corner.
type Obstacle struct {
	At     XY             `json:"at"`
	Width  quantity.Metre `json:"width,omitempty" minimum:"0" maximum:"60" doc:"Along X, m."`
	Height quantity.Metre `json:"height,omitempty" minimum:"0" maximum:"60" doc:"Along Y, m."`
	Name   string         `json:"name,omitempty" maxLength:"40"`
}

// Gas is a gas pipe by its two ends, or a gas meter by its place.
type Gas struct {
	Kind GasKind `json:"kind"`
	From XY      `json:"from"`
	To   *XY     `json:"to,omitempty" doc:"Other end of a pipe."`
}

// Position is a candidate for a charger.
type Position struct {
	ID     string         `json:"id" minLength:"1" maxLength:"8" doc:"Letter of the position on the plan."`
	Name   string         `json:"name,omitempty" maxLength:"80" doc:"In words: corner by the drive."`
	At     *XY            `json:"at,omitempty" doc:"On the plan. Left out: it is not drawn, and the way of the cord is measured."`
	Cord   quantity.Metre `json:"cord,omitempty" minimum:"0" maximum:"60" doc:"Way over the ground from under the holder to under the farthest inlet, m, as measured on site; for a position that is not drawn."`
	Gas    Answer         `json:"gasClear,omitempty" doc:"Is it clear of gas meters and pipes by what the rules ask? For a position that is not drawn."`
	Height quantity.Metre `json:"height,omitempty" minimum:"0" maximum:"5" doc:"Height of the socket or connector holder above ground, m."`
	Run    quantity.Metre `json:"run,omitempty" minimum:"0" maximum:"1000" doc:"Cable run from the board to here, m, drops included."`
	Walls  int            `json:"walls,omitempty" minimum:"0" maximum:"40" doc:"Walls and floors that the run goes through."`
	Cover  Cover          `json:"cover,omitempty" doc:"Weather cover."`
	Road   Answer         `json:"road,omitempty" doc:"Seen from the road?"`
	Fixing Fixing         `json:"fixing,omitempty" doc:"What the unit is fixed to."`
	Drill  Answer         `json:"drill,omitempty" doc:"May it be drilled?"`
	Signal Reach          `json:"signal,omitempty" doc:"Network at the position."`
}

// Network is how the charger will be reached.
type Network struct {
	Kind     Joining `json:"kind,omitempty" doc:"How the charger joins."`
	Signal   Signal  `json:"signal,omitempty" doc:"As tried at the position."`
	Password string  `json:"passwordWith,omitempty" maxLength:"80" doc:"Who holds the password, and will be there."`
	Without  Answer  `json:"setUpWithout,omitempty" doc:"Can the charger be set up without network?"`
}

// Consent is what the customer refuses and who must agree.
type Consent struct {
	Asked    Answer `json:"asked,omitempty" doc:"Was the customer asked what they will not have?"`
	Refused  string `json:"refused,omitempty" maxLength:"500" doc:"What they will not have: holes in the hall, trunking in sight."`
	Landlord Answer `json:"landlord,omitempty" doc:"Must a landlord or a residents' company agree?"`
	OwnBay   Answer `json:"ownBay,omitempty" doc:"Is the parking the customer's own? If not, the charger needs access control."`
}

// Photo is a picture, kept outside the document by its digest.
type Photo struct {
	Digest string    `json:"digest" minLength:"64" maxLength:"64" pattern:"^[0-9a-f]{64}$" doc:"SHA-256 of the file."`
	Kind   PhotoKind `json:"kind" doc:"What it shows."`
	Point  string    `json:"point,omitempty" maxLength:"8"`
	Note   string    `json:"note,omitempty" maxLength:"200"`
}

// Slot is one device on the board, from the place that it begins at.
type Slot struct {
	At        int             `json:"at" minimum:"1" maximum:"120" doc:"Number of its first way or space."`
	Poles     int             `json:"poles,omitempty" enum:"1,2,3" doc:"Ways or spaces that it takes; 1 where left out."`
	Circuit   string          `json:"circuit,omitempty" maxLength:"60" doc:"What it feeds."`
	Rating    quantity.Ampere `json:"rating,omitempty" minimum:"0" maximum:"400" doc:"A."`
	Double    string          `json:"double,omitempty" maxLength:"60" doc:"Second circuit of a half-width double in the same space."`
	Multiwire Answer          `json:"multiwire,omitempty" doc:"Shares its neutral with another circuit (US): never on a double, and not moved alone."`
	Fixed     Answer          `json:"fixed,omitempty" doc:"Cannot be moved: main switch, back-feed, surge device."`
}

// Rearrangement is where a person wants the new breaker, and what moves for it.
type Rearrangement struct {
	At    int     `json:"at,omitempty" minimum:"0" maximum:"120" doc:"First way or space of the new breaker; of the first point, where there are several."`
	Moves []Shift `json:"moves,omitempty" maxItems:"20" doc:"Circuits that move, each once."`
}

// Shift is a circuit that moves to another way or space.
type Shift struct {
	From   int    `json:"from" minimum:"1" maximum:"120" doc:"First way or space that it leaves."`
	Second Answer `json:"second,omitempty" doc:"Is it the second circuit of a half-width double?"`
	To     int    `json:"to" minimum:"1" maximum:"120" doc:"First way or space that it goes to."`
}

// check refuses what has no size: walls, doors and paths whose ends are one place,
// and things that were drawn and not measured.
func (p *SitePlan) check(c *checker) {
	const f = "survey.sitePlan"
	size := func(field string, v quantity.Metre) {
		if v == 0 {
			c.fail(field, "is 0 m: measure it")
		}
	}
	for i, w := range p.Walls {
		if w.From == w.To {
			c.fail(item(f+".walls", i)+".to", "is where the wall begins: a wall has a length")
		}
	}
	for i, d := range p.Doors {
		if d.From == d.To {
			c.fail(item(f+".doors", i)+".to", "is where the door begins: an opening has a width")
		}
	}
	for i, b := range p.Paths {
		g := item(f+".paths", i)
		if b.From == b.To {
			c.fail(g+".to", "is where the path begins: a path has a length")
		}
		size(g+".width", b.Width)
	}
	bays := map[string]bool{}
	for i, b := range p.Bays {
		g := item(f+".bays", i)
		c.once(bays, g+".id", b.ID)
		size(g+".length", b.Length)
		size(g+".width", b.Width)
	}
	for i, o := range p.Obstacles {
		g := item(f+".obstacles", i)
		size(g+".width", o.Width)
		size(g+".height", o.Height)
	}
	positions := map[string]bool{}
	for i, q := range p.Positions {
		c.once(positions, item(f+".positions", i)+".id", q.ID)
	}
}

// check refuses devices that stand in each other's place or outside the board.
func (b *Board) check(c *checker) {
	const f = "survey.board"
	if b.FedFrom != FromSubMain && b.Loop > 0 {
		c.fail(f+".loop", "is of a board on a sub-main: say that it is fed from one")
	}
	if b.FedFrom != FromSubMain && b.Drop > 0 {
		c.fail(f+".drop", "is of a board on a sub-main: say that it is fed from one")
	}
	taken := map[int]string{}
	for i, s := range b.Slots {
		g := item(f+".slots", i)
		for _, n := range b.Spaces(s) {
			switch other, used := taken[n]; {
			case n < 1 || b.Ways > 0 && n > b.Ways:
				c.fail(g+".at", fmt.Sprintf("takes place %d, the board has %d", n, b.Ways))
			case used:
				c.fail(g+".at", fmt.Sprintf("place %d holds %s already", n, other))
			}
			taken[n] = name(s)
		}
		if s.Double != "" && s.Poles > 1 {
			c.fail(g+".double", "a double takes one space")
		}
	}
	for i, n := range b.DoublesAt {
		if b.Ways > 0 && n > b.Ways {
			c.fail(item(f+".doublesAt", i), fmt.Sprintf("the board has no place %d", n))
		}
	}
}

func name(s Slot) string {
	if s.Circuit != "" {
		return s.Circuit
	}
	return "a device"
}

// Step is from one way or space to the next on the same bar: 1 along a row, 2
// down a column, where odd numbers stand left and even ones right.
func (b *Board) Step() int {
	if b.Layout == Columns {
		return 2
	}
	return 1
}

// Spaces lists the ways or spaces that a device takes.
func (b *Board) Spaces(s Slot) []int {
	out := make([]int, max(s.Poles, 1))
	for i := range out {
		out[i] = s.At + i*b.Step()
	}
	return out
}
