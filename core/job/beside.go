package job

import (
	"cmp"

	"dogbolt/core/quantity"
	"dogbolt/core/schema"
)

// Beside is a new board on the service's tails: a small one of the points' own beside the board that was found, through connector
// blocks, or one in its place, to which its circuits move over. The survey keeps what was found.
type Beside struct {
	Fitted        Answer                    `json:"fitted,omitempty" doc:"Is a new board fitted on the service's tails (UK)?"`
	Instead       Answer                    `json:"instead,omitempty" doc:"Does it take the place of the board that was found, whose circuits move over? Left out: it is a small one beside it, for the points alone."`
	Where         string                    `json:"where,omitempty" maxLength:"80" doc:"Where it is fixed."`
	Outdoors      Answer                    `json:"outdoors,omitempty" doc:"Is it outdoors?"`
	IP            string                    `json:"ip,omitempty" pattern:"^IP[0-6X][0-9X][A-D]?$" doc:"Ingress protection of one that is outdoors, as IP65."`
	Ways          int                       `json:"ways,omitempty" minimum:"0" maximum:"24" doc:"Ways beside its main switch."`
	Rating        quantity.Ampere           `json:"rating,omitempty" minimum:"0" maximum:"200" doc:"Rating of its main switch, A."`
	BreakingKA    float64                   `json:"breakingKa,omitempty" minimum:"0" maximum:"200" doc:"Breaking capacity of its devices, kA."`
	ConditionalKA float64                   `json:"conditionalKa,omitempty" minimum:"0" maximum:"200" doc:"Conditional short-circuit rating that its label declares behind the service's fuse, kA."`
	Terminals     quantity.Celsius          `json:"terminals,omitempty" enum:"70,90" doc:"Temperature that its breakers' terminals are marked for, °C. Left out: 70."`
	Tails         quantity.SquareMillimetre `json:"tails,omitempty" minimum:"0" maximum:"120" doc:"Its tails, mm²."`
	Length        quantity.Metre            `json:"length,omitempty" minimum:"0" maximum:"50" doc:"Length of its tails, m."`
	Blocks        quantity.Ampere           `json:"blocks,omitempty" minimum:"0" maximum:"400" doc:"Rating of the connector blocks in the tails of a small board, A."`
	Earth         quantity.SquareMillimetre `json:"earth,omitempty" minimum:"0" maximum:"120" doc:"Conductor from the main earthing terminal to its earth bar, mm²."`
	Opens         Opener                    `json:"opens,omitempty" doc:"What makes the service's tails dead for the work."`
	Made          Casing                    `json:"made,omitempty" doc:"What its enclosure is made of, where it is indoors."`
	Taken         int                       `json:"taken,omitempty" minimum:"0" maximum:"60" doc:"Ways that the circuits moved over take, of a board in place of the old one."`
	Ahead         Upstream                  `json:"ahead,omitempty" doc:"Type of a residual current device in it ahead of the points' circuits, of a board in place of the old one."`
	AheadRating   quantity.Ampere           `json:"aheadRating,omitempty" minimum:"0" maximum:"125" doc:"Rated current of that device, A."`
	Protected     Answer                    `json:"protected,omitempty" doc:"Has every circuit moved over the residual device that its use asks for (sockets, lighting of a household, cables in walls)?"`
	Tried         Answer                    `json:"tried,omitempty" doc:"Were the circuits that move over tested before the change, and what is wrong with them agreed with the customer?"`
}

// Small reports whether a small board of the points' own is fitted, which feeds them and nothing else.
func (d *Beside) Small() bool { return d.Fitted == Yes && d.Instead != Yes }

// Renews reports whether a new board takes the place of the one that was found.
func (d *Beside) Renews() bool { return d.Fitted == Yes && d.Instead == Yes }

// Name is what pages, plans and labels call the board that a circuit leaves from; found is the country's word for the one that was found.
func (d *Beside) Name(found string) string {
	switch {
	case d.Renews():
		return "new board"
	case d.Small():
		return "small board"
	}
	return found
}

// Casing is what the enclosure of a board is made of.
type Casing string

// What it is made of.
const (
	OfSteel     Casing = "steel"
	InCabinet   Casing = "cabinet"
	OfPlastic   Casing = "plastic"
	NoHousehold Casing = "plastic-no-household"
)

// Values lists what an enclosure is made of.
func (Casing) Values() []string { return schema.Words(OfSteel, InCabinet, OfPlastic, NoHousehold) }

// casingWords are what pages call it.
var casingWords = []Word{
	{string(OfSteel), "steel, or other that does not burn"}, {string(InCabinet), "in a cabinet of steel"},
	{string(OfPlastic), "insulating material"}, {string(NoHousehold), "insulating material, in no household"},
}

// Opener is what makes a service's tails dead.
type Opener string

// What makes them dead.
const (
	OpensIsolator Opener = "isolator" // a switch between the meter and the tails
	OpensOperator Opener = "operator" // the fuse, withdrawn by the network operator or whom it lets
)

// Values lists what makes tails dead.
func (Opener) Values() []string { return schema.Words(OpensIsolator, OpensOperator) }

// openerWords are what pages call it.
var openerWords = []Word{{string(OpensIsolator), "a switch before them"}, {string(OpensOperator), "the operator’s fuse, by whom it lets"}}

// AtBoard returns the supply as the circuits find it at their board: at the end of a sub-main the loop is what was measured there, and
// nobody's where it was not.
func (j *Job) AtBoard() Supply {
	p, b := j.Survey.Supply, j.Board()
	if b.FedFrom == FromSubMain {
		p.DeclaredZe = b.Loop
	}
	return p
}

// Board returns the board that the circuits leave from after the work: the one that was found, the small one beside it, or the one in
// its place.
func (j *Job) Board() *Board {
	d := &j.Design.Beside
	if d.Fitted != Yes {
		return &j.Survey.Board
	}
	free := max(d.Ways-d.Taken, 0)
	b := &Board{
		Label: cmp.Or(d.Where, "the "+d.Name("")), Rating: d.Rating, Ways: d.Ways, WaysFree: &free, BreakingKA: d.BreakingKA, ConditionalKA: d.ConditionalKA,
		Terminals: cmp.Or(d.Terminals, 70), UpstreamRCDType: NoUpstream, FedFrom: FromService,
	}
	if d.Renews() {
		b.UpstreamRCDType = d.Ahead
		if d.Ahead.There() {
			b.Links = []Link{{Kind: ResidualLink, Rating: d.AheadRating}}
		}
	}
	return b
}
