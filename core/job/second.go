package job

import (
	"strings"

	"dogbolt/core/quantity"
	"dogbolt/core/schema"
)

// Second is a source of supply beside the grid.
type Second struct {
	Kind     SourceKind      `json:"kind,omitempty" doc:"What it does when the grid is out."`
	Isolator string          `json:"isolator,omitempty" maxLength:"80" doc:"Where it is switched off and locked."`
	Rating   quantity.Ampere `json:"rating,omitempty" minimum:"0" maximum:"1200" doc:"Of one that carries circuits when the grid is out: what it can give for hours, A per phase."`
	Other    quantity.Ampere `json:"other,omitempty" minimum:"0" maximum:"1200" doc:"What it carries then besides charging, at most, A per phase."`
	Earthed  Answer          `json:"earthed,omitempty" doc:"Is its neutral joined to earth then, at an electrode that does not depend on the network's?"`
}

// check refuses what is told of a source of its own, where the supply is the network's.
func (p *Supply) check(c *checker) {
	if p.Earthed != "" && p.System != "" && !p.Own() {
		c.fail("survey.supply.sourceEarthed", "is told of a source of its own: the network’s neutral is not ours to join")
	}
}

// check refuses what is told of a source that carries nothing here when the grid is out.
func (s *Second) check(c *checker) {
	if s.Kind != BacksUp && s.Kind != "" && (s.Rating != 0 || s.Other != 0 || s.Earthed != "") {
		c.fail("survey.supply.second", "what it gives, carries and how it is earthed are told of a source that carries circuits when the grid is out")
	}
}

// OtherSaid is the second source of a supply in words: that there is none, or what it does, what it gives and where it is switched off;
// "" while nobody knows.
func (p *Supply) OtherSaid() string {
	switch s := &p.Second; {
	case p.OtherSource == No:
		return "none"
	case p.OtherSource != Yes:
		return ""
	case *s == (Second{}):
		return "yes"
	default:
		return "yes: " + s.said()
	}
}

func (s *Second) said() string {
	var says []string
	if s.Kind != "" {
		says = append(says, s.Kind.Said())
	}
	if s.Rating > 0 {
		says = append(says, quantity.Say("{} A", float64(s.Rating)))
	}
	if s.Isolator != "" {
		says = append(says, "switched off: "+s.Isolator)
	}
	return strings.Join(says, ", ")
}

// SourceKind is what a second source does when the grid is out.
type SourceKind string

// What a second source does when the grid is out.
const (
	FeedsIn      SourceKind = "feeds-in" // stops with the grid
	BacksUp      SourceKind = "backs-up" // carries circuits behind a changeover: battery inverter, generator
	Apart        SourceKind = "apart"    // was never joined to the grid: an inverter with circuits of its own
	OtherService SourceKind = "service"  // another service from the network, with a meter and a cutout of its own
)

// Values lists what a second source does.
func (SourceKind) Values() []string { return schema.Words(FeedsIn, BacksUp, Apart, OtherService) }

var sourceWords = []Word{
	{string(FeedsIn), "stops too (solar alone)"}, {string(BacksUp), "carries circuits on"}, {string(Apart), "apart from the grid"},
	{string(OtherService), "another service, with its own meter"},
}

// Own reports whether the supply is a source of its own, which was never joined to the network.
func (p *Supply) Own() bool { return p.System == Island || p.System == IslandSplit }

// Generates reports whether something beside the network feeds the installation; unasked while nobody knows what there is.
func (p *Supply) Generates() Answer {
	if p.OtherSource == Yes && p.Second.Kind == OtherService {
		return No
	}
	return p.OtherSource
}

// Said is what a second source does, in words.
func (k SourceKind) Said() string { return said(sourceWords, string(k)) }

// Side is the side of a second source that a charging point hangs on.
type Side string

// Sides of a second source.
const (
	GridSide   Side = "grid"      // off when the grid is out
	BackedSide Side = "backed-up" // charges on when the grid is out
	ApartSide  Side = "apart"     // on a source that was never joined to the grid
)

// Values lists the sides.
func (Side) Values() []string { return schema.Words(GridSide, BackedSide, ApartSide) }

var sideWords = []Word{
	{string(GridSide), "grid alone"}, {string(BackedSide), "goes on when the grid is out"}, {string(ApartSide), "on the source apart"},
}

// Said is the side of a second source, in words.
func (s Side) Said() string { return said(sideWords, string(s)) }

// BackedUp is what the points together may draw when the grid is out, A per phase; false while the setting of one of them is not known.
func (j *Job) BackedUp() (quantity.Ampere, bool) {
	sum := quantity.Ampere(0)
	for _, p := range j.Points() {
		c := &p.Circuit
		if c.Side != BackedSide {
			continue
		}
		draws := c.Setting
		if c.Kind() == OutletOnly { // whatever is plugged in
			draws = c.Breaker.Rating
		}
		if draws == 0 {
			return 0, false
		}
		sum += draws
	}
	return sum, true
}
