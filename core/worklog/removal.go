package worklog

import "dogbolt/core/job"

// Conditions of a charger that is taken down.
var Conditions = []string{"works, undamaged", "works, worn or damaged", "does not work"}

// Releases are how a charger that goes leaves its account.
var Releases = []string{
	"reset, off the account, load management forgotten",
	"reset; the account is the customer's to close",
	"not reset: it does not start",
}

// Released notes the last reading of a charger that goes, sets it back and takes it off its account, while it has power.
func Released(b *Planner, p *job.Point) {
	if p.Circuit.Kind() != job.Removal {
		return
	}
	b.Add(Step{ID: Release, Point: p.ID, Title: "Charger read, reset and released", Ask: "how it was left", Choice: Releases,
		Detail: "Its meter, serial number and settings under Commission first. Reset by the maker's sheet: the next house is set afresh."})
}

// Resets are how a charger that comes from another address is.
var Resets = []string{"reset here to its maker's settings", "came reset, looked at its settings"}

// Moved resets a charger that comes from another address: what was set there was for another supply.
func Moved(b *Planner, p *job.Point) {
	if c := &p.Circuit.Charger; c.Moved != "" && c.Fate != job.FateTakenOut {
		b.Add(Step{ID: Reset, Point: p.ID, Title: "Charger that moved: settings of the old address gone",
			Ask: "how it is", Choice: Resets, After: []string{ChargerEnd},
			Detail: "From job " + c.Moved + ". Amps, limit, sensors, schedule and network are set anew; the account is the customer's, for this address."})
	}
}

// Mended mends a charger that stays: opened, or by a setting or its software alone.
func Mended(b *Planner, p *job.Point) {
	part := p.Circuit.Mended.Part
	if part == job.MendedSetting || part == job.MendedSoftware {
		b.Add(Step{ID: ChargerEnd, Point: p.ID, Title: "Setting or software put right", Ask: "what was found, what was changed", Records: []Record{Name},
			Detail: "By its maker's instructions, its cover shut. Where it has to be opened, say under Design what else is mended."})
		return
	}
	if !part.InCharger() {
		return
	}
	b.Add(Step{ID: ChargerEnd, Point: p.ID, Title: "Charger mended", Ask: "what was found, what was fitted",
		Detail: "Switched off, its stored charge waited out as the maker's sheet says. The maker's own part: " + part.Said() +
			". Torque to the label, gasket seated.",
		Records: []Record{Name, Torque}, Inside: true, After: []string{ProveDead}, Clause: b.Clauses.Dead})
}

// MadeSafe closes off what stays where a charger was.
func MadeSafe(b *Planner, p *job.Point) {
	if p.Circuit.Kind() != job.Removal {
		return
	}
	st := Step{ID: PointEnd, Point: p.ID, Title: "Cable taken out", Inside: true, After: []string{TakeDown, ProveDead}, Clause: b.Clauses.Isolate,
		Detail: "Its supports too where nothing else hangs on them. Holes in walls and in the board closed."}
	if p.Circuit.Fates().Cable != job.FateTakenOut {
		st.Title, st.Ask, st.Records = "Cable's end closed off at the point", "where its box is", []Record{Name}
		st.Detail = "Each conductor in a connector of its own, in a closed box that a tool opens, marked with the board and the way that it comes from. " +
			"It counts as live, whatever the breaker says."
	}
	b.Add(st)
	b.Add(b.boardLeft(p))
}

// boardLeft is the work at the board where a charger is taken away.
func (b *Planner) boardLeft(p *job.Point) Step {
	st := Step{ID: BoardWork, Point: p.ID, Title: "Circuit disconnected, breaker out, way closed", Inside: true, After: []string{ProveDead, Barrier, TakeDown},
		Detail:  "Conductors off the breaker and the bars, ends closed and marked where the cable stays. A blank in the way; what was moved is tight.",
		Caution: liveAtSupply, Clause: b.Clauses.Isolate}
	if p.Circuit.Fates().Breaker != job.FateTakenOut {
		st.Title = "Breaker off, held off and marked as not in use"
		st.Detail = "Held by a lock or a block that a tool takes off, marked “not in use, ends at point " + p.ID + "”."
	}
	return st
}
