package job

import (
	"cmp"
	"slices"

	"dogbolt/core/quantity"
)

// End is the board that a sub-main ends in: in America a panel on a feeder.
type End struct {
	Fate       Fate             `json:"fate,omitempty" doc:"What becomes of the board there: new, which it is where nothing is said; or it was there, and is kept or replaced. Its old feed is taken off then."`
	Ways       int              `json:"ways,omitempty" minimum:"0" maximum:"120" doc:"Ways or spaces, beside its main switch."`
	Rating     quantity.Ampere  `json:"rating,omitempty" minimum:"0" maximum:"1200" doc:"Rating of its main switch or, in America, of its bus, A."`
	BreakingKA float64          `json:"breakingKa,omitempty" minimum:"0" maximum:"200" doc:"Breaking capacity of its devices, kA."`
	IP         string           `json:"ip,omitempty" pattern:"^IP[0-6X][0-9X][A-D]?$" doc:"Ingress protection of one that is outdoors, as IP65 (UK)."`
	Enclosure  Enclosure        `json:"enclosure,omitempty" doc:"Type of its enclosure by its marking, outdoors (US)."`
	Other      *quantity.Ampere `json:"other,omitempty" minimum:"0" maximum:"1200" doc:"Of what is drawn over the sub-main: what is no charging, at most, A per phase."`
	Metal      Answer           `json:"metal,omitempty" doc:"In a building of its own: does metal that is in touch with the ground come in there, as a water pipe or steel (UK)?"`
	Disconnect Answer           `json:"disconnect,omitempty" doc:"In a building of its own: is there a disconnect where the feeder comes in, the panel's main breaker for one (US)?"`
	Electrode  Answer           `json:"electrode,omitempty" doc:"In a building of its own: is a grounding electrode driven and joined (US)?"`
	Neutral    Answer           `json:"neutralApart,omitempty" doc:"Is the neutral kept apart from the ground in it (US)?"`
	Space      Answer           `json:"space,omitempty" doc:"Is there room to work in front of it, and nothing kept there?"`
	Handle     quantity.Metre   `json:"handle,omitempty" minimum:"0" maximum:"6" doc:"Height of its highest breaker handle above the floor, m (US)."`
}

// Becomes is what becomes of the board.
func (e *End) Becomes() Fate { return cmp.Or(e.Fate, FateNew) }

// EndWasThere reports whether the circuit ends in a board that was there before: it fed things already, from elsewhere.
func (c *Circuit) EndWasThere() bool { return c.EndsInBoard() && c.End.Becomes() != FateNew }

// EndsInBoard reports whether the circuit is a sub-main: it ends in a board.
func (c *Circuit) EndsInBoard() bool { return c.Connection == IntoBoard }

// EndSaid is what hangs on the end of the circuit, in words.
func (c *Circuit) EndSaid() string {
	if c.EndsInBoard() {
		return "board at the end"
	}
	return "charger"
}

// Neutral reports whether the circuit has a neutral beside two or three hots (US).
func (c *Circuit) Neutral() bool {
	return c.Charger.NeedsNeutral == Yes || c.Connection == PluggedIn && c.Receptacle.Neutral == Yes || c.EndsInBoard()
}

// Lays reports whether all that the job does is running sub-mains to boards.
func (j *Job) Lays() bool { return j.only(SubMain) }

// Unset names the current that a job's circuits lack while their load is not known.
func (j *Job) Unset() string {
	for i := range j.Design.Circuits {
		if c := &j.Design.Circuits[i]; c.EndsInBoard() {
			return c.Unset()
		}
	}
	return unsetCharger
}

// Unset names the current that a circuit lacks while its load is not known.
func (c *Circuit) Unset() string {
	if c.EndsInBoard() {
		return "what is drawn over the sub-main"
	}
	return unsetCharger
}

const unsetCharger = "charger setting"

// Left is the board at the end of the job's sub-main, as a job after it finds it: loop is what was measured there, drop what the
// sub-main drops at its full load.
func (p *Point) Left(loop quantity.Ohm, drop float64) Board {
	c := &p.Circuit
	ways := &c.End.Ways
	if c.EndWasThere() {
		ways = nil // its old circuits take some
	}
	b := Board{
		Label: p.Place.Name, Rating: c.End.Rating, Ways: c.End.Ways, WaysFree: ways, BreakingKA: c.End.BreakingKA, Terminals: c.Charger.Terminals,
		FedFrom: FromSubMain, OtherDemand: c.End.Other, Loop: loop, Drop: drop, WorkingSpace: c.End.Space, HandleHeight: c.End.Handle,
		Links: []Link{{Kind: FeederDevice, Rating: c.Breaker.Rating}},
	}
	if p.Place.Detached != Unasked {
		b.Outbuilding = Outbuilding{Apart: p.Place.Detached}
	}
	if p.Place.Detached == Yes {
		b.Outbuilding.Disconnect, b.Outbuilding.Electrode, b.Outbuilding.Neutral = c.End.Disconnect, c.End.Electrode, c.End.Neutral
	}
	return b
}

// checkEnd refuses what is no part of a sub-main, and a board at the end of what is none.
func (c *Circuit) checkEnd(to *checker, f string) {
	if !c.EndsInBoard() {
		if c.End != (End{}) {
			to.fail(f+".end", "is of a sub-main: say that the cable ends in a board")
		}
		return
	}
	unit := c.Charger
	unit.Fate, unit.Phases, unit.Terminals = "", 0, 0
	switch {
	case c.Charger.Fate != FateNone:
		to.fail(f+".charger.fate", "a sub-main ends in a board: the charger comes with a job of its own, on that board")
	case c.End.Fate != "" && !slices.Contains(may["end"], c.End.Fate):
		to.fail(f+".end.fate", "cannot be "+string(c.End.Fate)+": a sub-main ends in it")
	case c.Kept():
		to.fail(f+".existing", "a sub-main that is there is the survey’s: the board is fed from it")
	}
	for _, x := range []struct {
		field   string
		entered bool
	}{
		{"charger", unit != Charger{}}, {"managedTo", c.ManagedTo != 0}, {"receptacle", c.Receptacle != Receptacle{}},
		{"mended", c.Mended != Mended{}}, {"settingGuarded", c.Guarded != ""}, {"dedicated", c.Dedicated != ""}, {"isolator", c.Isolator != ""},
		{"disconnect", c.Disconnect != ""}, {"earthing.openPen", c.Earthing.OpenPEN != ""}, {"breaker.bothWays", c.Breaker.BothWays != ""},
	} {
		if x.entered {
			to.fail(f+"."+x.field, "is no part of a sub-main: it is asked of the charger on its board")
		}
	}
}
