package job

import (
	"slices"

	"dogbolt/core/quantity"
)

// Measured tells what was read on a job, for the one after it.
type Measured struct {
	Serial func(*Circuit) string           // a charger's number as designed or as read
	Loop   func(point string) quantity.Ohm // earth fault loop at the end of a sub-main; 0 where nobody read it, or where none is asked
	Drop   func(point string) float64      // what a sub-main drops at its full load, %; 0 where nobody knows, or where none is asked
}

// Next returns the site, survey and design of a job of a kind at the same site, as this one left them. What may have changed since,
// and what a person has to see again before anybody relies on it, is not known again: the supply's rating and condition, its voltage
// and measured demand, bonding, a second source, gas by the positions, what is free on the board, a residual device upstream. Of what
// hung on the circuits a repair keeps all, a replacement all but the charger, a removal what the charger was; for a new circuit what is there is another load.
// After a sub-main the work is on the board at its end, and what that draws besides charging is another load.
func (j *Job) Next(k Kind, read Measured) Job {
	was := j.Built()
	next := Job{Format: Format, Rulebook: j.Rulebook, Site: j.Site, Survey: was.Survey}
	next.Site.Follows = j.Number
	s := &next.Survey
	p := &s.Supply
	p.Earthed = ""
	p.RatingSeen, p.Condition, p.OtherSource, p.Second, p.Voltage, p.EarthFault = "", "", "", Second{}, "", 0
	p.PeakDemand, p.PeakDays, p.PeakMinutes, p.PeakSeason, p.Monthly, p.Profile = 0, 0, 0, "", nil, nil
	if !k.Makes() || was.Design.Beside.Renews() {
		s.Board = *was.Board() // that the circuits leave from; of a new circuit, the one that is there
	}
	if was.NewMains() {
		p.MainsSwitchAt = was.Design.Beside.Where
	}
	for _, p := range was.Points() {
		if p.Circuit.Kind() == SubMain {
			s.Board = p.Left(read.Loop(p.ID), read.Drop(p.ID))
			if other := p.Circuit.End.Other; other != nil && *other > 0 {
				s.Loads = append(slices.Clip(s.Loads), Load{Kind: OtherFixed, Name: "what is no charging on the sub-main of job " + j.Number, Amps: *other})
			}
		}
	}
	b := &s.Board
	b.Outbuilding, _ = was.Design.Building.Mends(b.Outbuilding)
	b.WaysFree, b.FreePair, b.CircuitsFitted, b.UpstreamRCDType, b.Rearrangement = nil, "", 0, "", Rearrangement{}
	b.Slots, b.Layout = nil, ""
	s.Photos, s.Consent, s.Bonding = nil, Consent{}, Bonding{}
	s.SitePlan.Positions = slices.Clone(s.SitePlan.Positions)
	for i := range s.SitePlan.Positions {
		s.SitePlan.Positions[i].Gas = ""
	}
	s.Loads = slices.Clone(s.Loads)
	if k.Makes() {
		s.Places, s.SitePlan.Positions = nil, nil
		for i := range was.Design.Circuits {
			if c := &was.Design.Circuits[i]; c.Charges() && !c.EndsInBoard() {
				s.Loads = append(s.Loads, Load{Kind: ExistingEV, Name: "charging point " + c.Point + " of job " + j.Number, Amps: c.Setting})
			}
		}
		return next
	}
	for _, at := range was.Points() {
		c := at.Circuit
		if c.Point == "" || !c.Charges() || c.EndsInBoard() {
			s.Places = slices.DeleteFunc(slices.Clone(s.Places), func(o Place) bool { return o.Point == at.ID })
			continue
		}
		unit := Charger{Type: c.Charger.Type, Serial: read.Serial(&c)}
		of := Circuit{Point: c.Point, Connection: c.Connection, Cable: c.Cable, Beyond: c.Beyond}
		if k != Removal {
			of.Dedicated, of.Breaker, of.RCD, of.FaultByRCD, of.Earthing, of.Receptacle = c.Dedicated, c.Breaker, c.RCD, c.FaultByRCD, c.Earthing, c.Receptacle
			of.Isolator, of.Disconnect, of.IsolatorFate = c.Isolator, c.Disconnect, ""
			if (of.Isolator == Yes || of.Disconnect == Yes) && k != Extension {
				of.IsolatorFate = FateKept
			}
			if c.SPD.There() {
				of.SPD = SPDPresent
			}
		}
		of.Breaker.Fate, of.RCD.Fate, of.Cable.Fate, of.Receptacle.Fate = "", "", "", ""
		switch k {
		case Repair:
			of.Setting, of.Guarded, of.ManagedTo = c.Setting, c.Guarded, c.ManagedTo
			unit = c.Charger
			unit.Serial, unit.Moved, unit.Closes = read.Serial(&c), "", ""
		case Replacement, OnOutlet:
			unit = Charger{}
		case Extension:
			unit, of.Beyond = Charger{}, Beyond{}
		}
		of.Charger = unit
		k.Begin(&of)
		if k == Removal {
			of.Charger.Closes = j.Number
		}
		next.Design.Circuits = append(next.Design.Circuits, of)
	}
	return next
}
