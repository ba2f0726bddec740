package job

import (
	"cmp"
	"slices"

	"dogbolt/core/quantity"
	"dogbolt/core/schema"
)

// Beside is a new board on the service's tails: a small one of the points' own beside the board that was found, through connector
// blocks, or one in its place, to which its circuits move over. The survey keeps what was found.
type Beside struct {
	Fitted        Answer                    `json:"fitted,omitempty" doc:"Is a new board fitted, where the service or the sub-main comes in?"`
	Instead       Answer                    `json:"instead,omitempty" doc:"Is it in place of the one that was found, whose circuits move over? Left out: a small one beside it, for the points (UK)."`
	Where         string                    `json:"where,omitempty" maxLength:"80" doc:"Where it is fixed."`
	Outdoors      Answer                    `json:"outdoors,omitempty" doc:"Is it outdoors?"`
	IP            string                    `json:"ip,omitempty" pattern:"^IP[0-6X][0-9X][A-D]?$" doc:"Ingress protection of one that is outdoors, as IP65."`
	Ways          int                       `json:"ways,omitempty" minimum:"0" maximum:"84" doc:"Ways beside its main switch."`
	Rating        quantity.Ampere           `json:"rating,omitempty" minimum:"0" maximum:"200" doc:"Rating of its main switch, A."`
	BreakingKA    float64                   `json:"breakingKa,omitempty" minimum:"0" maximum:"200" doc:"Breaking capacity of its devices, kA."`
	ConditionalKA float64                   `json:"conditionalKa,omitempty" minimum:"0" maximum:"200" doc:"Conditional short-circuit rating that its label declares behind the service's fuse, kA."`
	Terminals     quantity.Celsius          `json:"terminals,omitempty" enum:"60,70,75,90" doc:"Temperature that its breakers' terminals are marked for, °C. Left out, of a small board: 70."`
	Tails         quantity.SquareMillimetre `json:"tails,omitempty" minimum:"0" maximum:"120" doc:"Its tails, mm²."`
	Length        quantity.Metre            `json:"length,omitempty" minimum:"0" maximum:"50" doc:"Length of its tails, m."`
	Blocks        quantity.Ampere           `json:"blocks,omitempty" minimum:"0" maximum:"400" doc:"Rating of the connector blocks in the tails of a small board, A."`
	Earth         quantity.SquareMillimetre `json:"earth,omitempty" minimum:"0" maximum:"120" doc:"Conductor from the main earthing terminal to its earth bar, mm²."`
	Opens         Opener                    `json:"opens,omitempty" doc:"What makes the service's tails dead for the work."`
	Made          Casing                    `json:"made,omitempty" doc:"What its enclosure is made of, where it is indoors."`
	Taken         int                       `json:"taken,omitempty" minimum:"0" maximum:"84" doc:"Ways that the circuits moved over take, of a board in place of the old one."`
	Ahead         Upstream                  `json:"ahead,omitempty" doc:"Type of a residual current device that stands ahead of the points' circuits after the work, of a board in place of the old one (UK)."`
	AheadRating   quantity.Ampere           `json:"aheadRating,omitempty" minimum:"0" maximum:"125" doc:"Rated current of that device, A."`
	Protected     Answer                    `json:"protected,omitempty" doc:"Has every circuit moved over the residual device that its use asks for (sockets, lighting of a household, cables in walls; UK)?"`
	Tried         Answer                    `json:"tried,omitempty" doc:"Were the circuits that move over tested before the change, and what is wrong with them agreed with the customer (UK)?"`
	Case          Enclosure                 `json:"case,omitempty" doc:"Type of its enclosure by its marking, outdoors (US)."`
	Space         Answer                    `json:"space,omitempty" doc:"Is the working space in front of it as large as the rules ask, and nothing kept there (US)?"`
	Handle        quantity.Metre            `json:"handle,omitempty" minimum:"0" maximum:"6" doc:"Height of its highest breaker handle above the floor, m (US)."`
	Grounded      Answer                    `json:"grounded,omitempty" doc:"Is it grounded as its place asks: at the service by the main bonding jumper and the electrodes, on a feeder with the neutral apart (US)?"`
	Surge         Answer                    `json:"surge,omitempty" doc:"Has the service surge protection (US)?"`
	Outside       Answer                    `json:"outside,omitempty" doc:"Has the dwelling a disconnect outdoors for emergencies (US)?"`
}

// Small reports whether a small board of the points' own is fitted, which feeds them and nothing else.
func (d *Beside) Small() bool { return d.Fitted == Yes && d.Instead != Yes }

// Renews reports whether a new board takes the place of the one that was found.
func (d *Beside) Renews() bool { return d.Fitted == Yes && d.Instead == Yes }

// Name is what pages, plans and labels call the board that a circuit leaves from: a new or a small one by the country's word for a
// board, or the one that was found.
func (d *Beside) Name(found, word string) string {
	switch {
	case d.Renews():
		return "new " + word
	case d.Small():
		return "small " + word
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
	OpensOperator Opener = "operator" // the network operator or utility, or whom it lets
)

// Values lists what makes tails dead.
func (Opener) Values() []string { return schema.Words(OpensIsolator, OpensOperator) }

// openerWords are what pages call it.
var openerWords = []Word{{string(OpensIsolator), "a switch on its supply side"}, {string(OpensOperator), "the operator or utility"}}

// NewMains reports whether a new board takes the place of the service's own: its main switch is then the installation's.
func (j *Job) NewMains() bool {
	return j.Design.Beside.Renews() && j.Survey.Board.FedFrom != FromSubMain
}

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
		Label: cmp.Or(d.Where, "the "+d.Name("", "board")), Rating: d.Rating, Ways: d.Ways, WaysFree: &free, BreakingKA: d.BreakingKA, ConditionalKA: d.ConditionalKA,
		Terminals: d.Terminals, UpstreamRCDType: NoUpstream, FedFrom: FromService,
	}
	if d.Small() {
		b.Terminals = cmp.Or(d.Terminals, 70)
		return b
	}
	was := &j.Survey.Board
	b.UpstreamRCDType, b.WorkingSpace, b.HandleHeight = d.Ahead, d.Space, d.Handle
	if was.FedFrom == FromSubMain { // which stays
		b.FedFrom, b.OtherDemand, b.Loop, b.Drop, b.Outbuilding = was.FedFrom, was.OtherDemand, was.Loop, was.Drop, was.Outbuilding
		if d.Grounded == Yes {
			b.Outbuilding.Neutral = Yes // apart, in the new one
		}
		b.Links = slices.DeleteFunc(slices.Clone(was.Links), func(l Link) bool { return l.Kind != FeederDevice && l.Kind != FeederCable })
	}
	if d.Ahead.There() {
		b.Links = append(b.Links, Link{Kind: ResidualLink, Rating: d.AheadRating})
	}
	return b
}
