package job

import (
	"cmp"

	"dogbolt/core/quantity"
	"dogbolt/core/schema"
)

// Beside is a small board of their own for the points, beside the board that was found: fed from the service's tails through
// connector blocks. The survey keeps what was found.
type Beside struct {
	Fitted        Answer                    `json:"fitted,omitempty" doc:"Is a small board fitted for the points, on the service's tails beside the board that was found (UK)?"`
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
	Blocks        quantity.Ampere           `json:"blocks,omitempty" minimum:"0" maximum:"400" doc:"Rating of the connector blocks in the tails, A."`
	Earth         quantity.SquareMillimetre `json:"earth,omitempty" minimum:"0" maximum:"120" doc:"Conductor from the main earthing terminal to its earth bar, mm²."`
	Opens         Opener                    `json:"opens,omitempty" doc:"What makes the service's tails dead for the work."`
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

// Board returns the board that the circuits leave from after the work: the one that was found, or the small one beside it.
func (j *Job) Board() *Board {
	d := &j.Design.Beside
	if d.Fitted != Yes {
		return &j.Survey.Board
	}
	ways := d.Ways
	return &Board{
		Label: cmp.Or(d.Where, "the small board"), Rating: d.Rating, Ways: d.Ways, WaysFree: &ways, BreakingKA: d.BreakingKA, ConditionalKA: d.ConditionalKA,
		Terminals: cmp.Or(d.Terminals, 70), UpstreamRCDType: NoUpstream, FedFrom: FromService,
	}
}
