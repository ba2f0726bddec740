package worklog

import (
	"slices"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// Practice is what the work on site consists of in one country: what things are
// called, the parts of the work with the steps that they ask for, what has to read
// dead, and the terminals of a circuit. A country's folder fills it; this package
// never asks which country it is.
type Practice struct {
	Words   Words
	Clauses Clauses
	Length  quantity.Unit // in which lengths along a route are told
	Depth   quantity.Unit // in which depths in the ground are told

	Parts []Part             // of the work, in its order
	Ways  map[job.Method]Way // what the stretches of a method ask for besides the cable

	Dead       DeadPairs
	Conductors func(*job.Circuit) []Conductor // of a circuit, in the order of its terminals
}

// Words are what a country calls things.
type Words struct {
	Earth     string // the protective conductor
	Board     string // in full, as steps name it: consumer unit
	Short     string // as a terminal's name has it: board
	EndDetail string // how a sub-main is connected at the board at its end
	Tails     string // what a board on the service is connected to: tails
	Feeder    string // a sub-main
	Withdrawn string // how the operator makes the tails dead, a sentence with a space after it
	Back      string // that they are live again: the fuse first, put back
	Renewed   string // what else is done at a board in place of the old one, with a space before it
	// Isolator is the step that fits a local isolator or disconnect, and that which puts one in the place of another.
	IsolatorTitle, IsolatorDetail, IsolatorReplaced string
}

// Clauses are where cautions come from.
type Clauses struct {
	Isolate string // switching off and locking
	Dead    string // proving dead
	Second  string // a second source
	Dig     string // services in the ground
	Joint   string // joints in their boxes
	Bond    string // main bonding that is run; "" where none is
	Rejoin  string // the earthing conductor, joined again; "" where it is not taken off
	Certify string // test results of circuits that moved over to another board; "" where none does
}

// DeadPairs are the pairs of conductors that must read dead, by the phases of the
// supply, those of a second source's isolator, on the building's side, and the word before those of what a new board is connected to.
type DeadPairs struct {
	One, Three, Second []string
	Tails              string
}

// Conductor is one conductor of a circuit at its terminals.
type Conductor struct {
	ID, Name string
	Line     bool // ends at the breaker, not at a bar of the board
}

// Pairs returns the pairs that must read dead at a supply. While it is not known
// to have no second source, it counts as having one.
func (w *Practice) Pairs(supply *job.Supply) []string {
	pairs := w.Dead.One
	if supply.Phases == 3 {
		pairs = w.Dead.Three
	}
	if supply.OtherSource != job.No {
		return append(pairs[:len(pairs):len(pairs)], w.Dead.Second...)
	}
	return pairs
}

// PairsOf returns the pairs that must read dead on a job: those of its supply, and at the tails where a new board is connected to
// them, which the old board's main switch does not make dead.
func (w *Practice) PairsOf(j *job.Job) []string {
	return append(slices.Clip(w.Pairs(&j.Survey.Supply)), w.Tails(j)...)
}

// Tails returns the pairs at the tails that a new board is connected to; none on a job without one.
func (w *Practice) Tails(j *job.Job) []string {
	if j.Design.Beside.Fitted != job.Yes || inWords(j) {
		return nil
	}
	base := w.Dead.One
	if j.Survey.Supply.Phases == 3 {
		base = w.Dead.Three
	}
	out := make([]string, len(base))
	for i, p := range base {
		out[i] = w.Dead.Tails + " " + p
	}
	return out
}

// Opens reports whether anything is opened on a job, and dead proved first.
func (w *Practice) Opens(j *job.Job) bool {
	return slices.ContainsFunc(w.Outline(j), func(s Step) bool { return s.ID == ProveDead })
}

// Terminals returns the terminals of a point's circuit whose torque is recorded:
// at the board, and at the charger or its outlet; where a charger is taken away or set none,
// where it stays shut those at the board alone.
func (w *Practice) Terminals(p job.Point) []Terminal {
	if p.Circuit.Kind() == job.Removal || p.Circuit.Touched() == job.TouchedSetting {
		return nil
	}
	conductors := w.Conductors(&p.Circuit)
	end := "charger"
	switch p.Circuit.Connection {
	case job.PluggedIn:
		end = "outlet"
	case job.IntoBoard:
		end = "board at the end"
	}
	list := make([]Terminal, 0, 2*len(conductors))
	for _, c := range conductors {
		at := w.Words.Short
		if c.Line {
			at = "breaker"
		}
		list = append(list, Terminal{"board-" + c.ID, p.ID, at + ", " + c.Name})
	}
	if p.Circuit.Kind() == job.Repair && !p.Circuit.Mended.Part.InCharger() && !p.Circuit.Fates().Receptacle.Comes() {
		return list
	}
	for _, c := range conductors {
		list = append(list, Terminal{"charger-" + c.ID, p.ID, end + ", " + c.Name})
	}
	return list
}
