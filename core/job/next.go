package job

import "slices"

// Next returns the site, survey and design of a job of a kind at the same site, as this one left them. What may have changed since,
// and what a person has to see again before anybody relies on it, is not known again: the supply's rating and condition, its voltage
// and measured demand, bonding, a second source, gas by the positions, what is free on the board, a residual device upstream. Of what
// hung on the circuits a repair keeps all, a replacement all but the charger, a removal what the charger was; for a new circuit what is there is another load.
// serial tells a charger's number as designed or as read.
func (j *Job) Next(k Kind, serial func(*Circuit) string) Job {
	was := j.Built()
	next := Job{Format: Format, Rulebook: j.Rulebook, Site: j.Site, Survey: was.Survey}
	next.Site.Follows = j.Number
	s := &next.Survey
	p := &s.Supply
	p.RatingSeen, p.Condition, p.OtherSource, p.Second, p.Voltage, p.EarthFault = "", "", "", Second{}, "", 0
	p.PeakDemand, p.PeakDays, p.PeakMinutes, p.PeakSeason, p.Monthly, p.Profile = 0, 0, 0, "", nil, nil
	if k != NewCircuit && k != "" {
		s.Board = *was.Board() // that the circuits leave from
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
	if k == NewCircuit || k == "" {
		s.Places, s.SitePlan.Positions = nil, nil
		for i := range was.Design.Circuits {
			if c := &was.Design.Circuits[i]; c.Charges() {
				s.Loads = append(s.Loads, Load{Kind: ExistingEV, Name: "charging point " + c.Point + " of job " + j.Number, Amps: c.Setting})
			}
		}
		return next
	}
	for _, at := range was.Points() {
		c := at.Circuit
		if c.Point == "" || !c.Charges() {
			s.Places = slices.DeleteFunc(slices.Clone(s.Places), func(o Place) bool { return o.Point == at.ID })
			continue
		}
		unit := Charger{Type: c.Charger.Type, Serial: serial(&c)}
		of := Circuit{Point: c.Point, Connection: c.Connection, Cable: c.Cable, Beyond: c.Beyond}
		if k != Removal {
			of.Dedicated, of.Breaker, of.RCD, of.FaultByRCD, of.Earthing, of.Receptacle = c.Dedicated, c.Breaker, c.RCD, c.FaultByRCD, c.Earthing, c.Receptacle
			of.Isolator, of.Disconnect = c.Isolator, c.Disconnect
			if c.SPD == SPDFitted || c.SPD == SPDPresent {
				of.SPD = SPDPresent
			}
		}
		of.Breaker.Fate, of.RCD.Fate, of.Cable.Fate, of.Receptacle.Fate = "", "", "", ""
		switch k {
		case Repair:
			of.Setting, of.Guarded, of.ManagedTo = c.Setting, c.Guarded, c.ManagedTo
			unit = c.Charger
			unit.Serial, unit.Moved, unit.Closes = serial(&c), "", ""
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
