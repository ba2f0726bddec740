package job

import (
	"fmt"
	"math"

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
	Kind string `json:"kind" enum:"pipe,meter"`
	From XY     `json:"from"`
	To   *XY    `json:"to,omitempty" doc:"Other end of a pipe."`
}

// Position is a candidate for a charger.
type Position struct {
	ID     string         `json:"id" minLength:"1" maxLength:"8" doc:"Letter of the position on the plan."`
	Name   string         `json:"name,omitempty" maxLength:"80" doc:"In words: corner by the drive."`
	At     XY             `json:"at"`
	Height quantity.Metre `json:"height,omitempty" minimum:"0" maximum:"5" doc:"Height of the socket or connector holder above ground, m."`
	Run    quantity.Metre `json:"run,omitempty" minimum:"0" maximum:"1000" doc:"Cable run from the board to here, m, drops included."`
	Walls  int            `json:"walls,omitempty" minimum:"0" maximum:"40" doc:"Walls and floors that the run goes through."`
	Cover  string         `json:"cover,omitempty" enum:"open,porch,indoors" doc:"Weather cover."`
	Road   Answer         `json:"road,omitempty" enum:"yes,no" doc:"Seen from the road?"`
	Fixing string         `json:"fixing,omitempty" enum:"brick,stud,concrete,timber,post,doubtful" doc:"What the unit is fixed to."`
	Drill  Answer         `json:"drill,omitempty" enum:"yes,no" doc:"May it be drilled?"`
	Signal string         `json:"signal,omitempty" enum:"good,weak,none,wired" doc:"Network at the position."`
}

// Network is how the charger will be reached.
type Network struct {
	Kind     string `json:"kind,omitempty" enum:"wifi,wired,mobile,none" doc:"How the charger joins."`
	Signal   string `json:"signal,omitempty" enum:"good,weak,none" doc:"As tried at the position."`
	Password string `json:"passwordWith,omitempty" maxLength:"80" doc:"Who holds the password, and will be there."`
	Without  Answer `json:"setUpWithout,omitempty" enum:"yes,no" doc:"Can the charger be set up without network?"`
}

// Consent is what the customer refuses and who must agree.
type Consent struct {
	Asked    Answer `json:"asked,omitempty" enum:"yes,no" doc:"Was the customer asked what they will not have?"`
	Refused  string `json:"refused,omitempty" maxLength:"500" doc:"What they will not have: holes in the hall, trunking in sight."`
	Landlord Answer `json:"landlord,omitempty" enum:"yes,no" doc:"Must a landlord or a residents' company agree?"`
	OwnBay   Answer `json:"ownBay,omitempty" enum:"yes,no" doc:"Is the parking the customer's own? If not, the charger needs access control."`
}

// Photo is a picture, kept outside the document by its digest.
type Photo struct {
	Digest string `json:"digest" minLength:"64" maxLength:"64" pattern:"^[0-9a-f]{64}$" doc:"SHA-256 of the file."`
	Kind   string `json:"kind" enum:"label,board-open,board-closed,meter,position,route,parking,other" doc:"What it shows."`
	Point  string `json:"point,omitempty" maxLength:"8"`
	Note   string `json:"note,omitempty" maxLength:"200"`
}

// PhotoKinds lists what a photo can show.
var PhotoKinds = []string{"label", "board-open", "board-closed", "meter", "position", "route", "parking", "other"}

// Slot is one device on the board, from the place that it begins at.
type Slot struct {
	At        int             `json:"at" minimum:"1" maximum:"120" doc:"Number of its first way or space."`
	Poles     int             `json:"poles,omitempty" enum:"1,2,3" doc:"Ways or spaces that it takes; 1 where left out."`
	Circuit   string          `json:"circuit,omitempty" maxLength:"60" doc:"What it feeds."`
	Rating    quantity.Ampere `json:"rating,omitempty" minimum:"0" maximum:"400" doc:"A."`
	Double    string          `json:"double,omitempty" maxLength:"60" doc:"Second circuit of a half-width double in the same space."`
	Multiwire Answer          `json:"multiwire,omitempty" enum:"yes,no" doc:"Shares its neutral with another circuit (US): never on a double, and not moved alone."`
	Fixed     Answer          `json:"fixed,omitempty" enum:"yes,no" doc:"Cannot be moved: main switch, back-feed, surge device."`
}

// distance returns the distance between two places, m.
func (p XY) distance(q XY) float64 { return math.Hypot(float64(p.X-q.X), float64(p.Y-q.Y)) }

func (p *SitePlan) check(c *checker) {
	const f = "survey.sitePlan"
	for i, w := range p.Walls {
		if w.From.distance(w.To) == 0 {
			c.fail(fmt.Sprintf("%s.walls[%d].to", f, i), "is where the wall begins: a wall has a length")
		}
		c.number(fmt.Sprintf("%s.walls[%d].thick", f, i), float64(w.Thick), 1.5, "m")
	}
	for i, d := range p.Doors {
		if d.From.distance(d.To) == 0 {
			c.fail(fmt.Sprintf("%s.doors[%d].to", f, i), "is where the door begins: an opening has a width")
		}
	}
	for i, b := range p.Paths {
		g := fmt.Sprintf("%s.paths[%d]", f, i)
		if b.From.distance(b.To) == 0 {
			c.fail(g+".to", "is where the path begins: a path has a length")
		}
		c.positive(g+".width", float64(b.Width), 20, "m")
	}
	ids := map[string]bool{}
	for i, b := range p.Bays {
		g := fmt.Sprintf("%s.bays[%d]", f, i)
		if ids[b.ID] {
			c.fail(g+".id", fmt.Sprintf("%q is used twice", b.ID))
		}
		ids[b.ID] = true
		c.positive(g+".length", float64(b.Length), 20, "m")
		c.positive(g+".width", float64(b.Width), 10, "m")
	}
	for i, o := range p.Obstacles {
		g := fmt.Sprintf("%s.obstacles[%d]", f, i)
		c.positive(g+".width", float64(o.Width), 60, "m")
		c.positive(g+".height", float64(o.Height), 60, "m")
	}
	seen := map[string]bool{}
	for i, q := range p.Positions {
		g := fmt.Sprintf("%s.positions[%d]", f, i)
		if q.ID == "" {
			c.fail(g+".id", "missing")
		}
		if seen[q.ID] {
			c.fail(g+".id", fmt.Sprintf("%q is used twice", q.ID))
		}
		seen[q.ID] = true
		c.number(g+".height", float64(q.Height), 5, "m")
		c.number(g+".run", float64(q.Run), 1000, "m")
	}
}

func (b *Board) check(c *checker) {
	const f = "survey.board"
	c.word(f+".layout", b.Layout, "rows", "columns")
	if b.Rows < 0 || b.Rows > 6 {
		c.fail(f+".rows", "a board has 1 to 6 rows")
	}
	taken := map[int]string{}
	for i, s := range b.Slots {
		g := fmt.Sprintf("%s.slots[%d]", f, i)
		if s.Poles < 0 || s.Poles > 3 {
			c.fail(g+".poles", "is 1, 2 or 3")
		}
		c.number(g+".rating", float64(s.Rating), 400, "A")
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
		if n < 1 || b.Ways > 0 && n > b.Ways {
			c.fail(fmt.Sprintf("%s.doublesAt[%d]", f, i), fmt.Sprintf("the board has no place %d", n))
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
	if b.Layout == "columns" {
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
