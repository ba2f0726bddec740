// Package worklog holds the installation steps, what each waits for, and the
// state of isolation that follows from the log. It never removes an entry: the
// state is read off the log each time.
package worklog

import (
	"strings"
	"time"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// School is which country's wording and conductors a step plan uses.
type School string

// The schools.
const (
	UK School = "uk"
	US School = "us"
)

// Step is one installation step.
type Step struct {
	ID       string   `json:"id"`
	Title    string   `json:"title"`
	Detail   string   `json:"detail,omitempty"`
	After    []string `json:"after,omitempty" doc:"Steps that must be done first."`
	Inside   bool     `json:"inside" doc:"Hands or tools inside the board or on its conductors: shut until dead is proved."`
	PerPoint bool     `json:"perPoint"`
	Optional bool     `json:"optional,omitempty" doc:"One of two honest schools: may be left out."`
	Ask      string   `json:"ask,omitempty" doc:"What the step records, in words; empty where being done is all."`
	Caution  string   `json:"caution,omitempty"`
	Clause   string   `json:"clause,omitempty" doc:"Where the caution comes from."`
}

// Ids of steps that rules and pages refer to.
const (
	MainOff    = "main-off"
	CoverOff   = "cover-off"
	ProveDead  = "prove-dead"
	Barrier    = "barrier"
	RunCable   = "cable"
	BoardWork  = "board"
	ChargerEnd = "charger"
	Settings   = "settings"
	Remark     = "remark"
	Lids       = "lids"
	Labels     = "labels"
	DeadTests  = "dead-tests"
	Energise   = "energise"
	LockedSet  = "locked"
	SetAmps    = "amps"
)

// Steps returns the plan of a school in the order of work: isolation first.
func Steps(s School) []Step {
	earth, board, isolate, elv := "earth", "consumer unit", "BS 7671 462.2; HSE GS38", "common practice; HSE GS38"
	if s == US {
		earth, board, isolate, elv = "equipment ground", "panel", "OSHA 1910.333(b)(2); NFPA 70E 120", "OSHA 1910.333(b)(2)(iv)"
	}
	steps := []Step{
		{ID: "protect", Title: "Protect floors and set out", Detail: "Mark the back plate, the drilling line and the route. Level, or by the brick course: note which."},
		{ID: "announce", Title: "Power-off agreed with the customer", Detail: "Freezer, medical equipment, alarms, home working.", Ask: "who agreed"},
		{ID: "branches-off", Title: "Branch circuits off, one by one", Detail: "So that nothing starts under load when the supply returns. Main switch alone is the other honest way: leave this out then.", After: []string{"announce"}, Optional: true},
		{ID: MainOff, Title: "Main off, locked, tagged", Ask: "lock number and key holder", After: []string{"announce"}, Caution: "A switched-off main leaves its supply side live. Solar or a battery is a second source.", Clause: isolate},
		{ID: CoverOff, Title: "Cover off, treated as live", Detail: "First look with a no-contact tester. It never proves dead.", After: []string{MainOff}, Caution: "No hand or tool inside before dead is proved.", Clause: isolate},
		{ID: ProveDead, Title: "Prove dead", Detail: "Known source, every pair, known source again.", After: []string{CoverOff}, Caution: "Never rely on a label or a no-contact tester.", Clause: elv},
		{ID: Barrier, Title: "Barrier on the supply side", Detail: "Supply-side terminals stay live with the main off.", Ask: "barrier fitted, or supply isolated by whom", After: []string{ProveDead}, Inside: true, Caution: "Line-side terminals are live with the main off.", Clause: elv},
		{ID: "backplate", Title: "Back plate fixed", PerPoint: true, After: []string{"protect"}},
		{ID: "drill", Title: "Drilled, sloping down to outside", PerPoint: true, After: []string{"protect"}, Caution: "Check for cables, gas and water before drilling. Stop on metal.", Clause: "common practice"},
		{ID: RunCable, Title: "Cable run and secured", Detail: "Leave length before cutting. Grommet or bushing in metal, tape over buried cable.", PerPoint: true, Ask: "length run, with unit", After: []string{"drill"}},
	}
	if s == US {
		steps = append(steps, Step{ID: Remark, Title: "White re-marked where it is a hot", Detail: "At every visible end, in cable assemblies only. Answer “none” where no white is a hot.", PerPoint: true, Ask: "where, or none", After: []string{RunCable}, Clause: "NEC 200.7(C)"})
	}
	return append(steps,
		Step{ID: BoardWork, Title: "Breaker fitted, circuit connected at the " + board, Detail: "Allowed position, cable secured at its clamp, stripped to the gauge, every terminal to its label's torque, " + earth + " first.", PerPoint: true, Inside: true, After: []string{ProveDead, Barrier, RunCable}, Caution: "Dead must stay proved. Supply side stays live.", Clause: isolate},
		Step{ID: ChargerEnd, Title: "Charger connected", Detail: "Service loop, gland, no debris, gasket seated. Torque to the label.", PerPoint: true, Inside: true, After: []string{"backplate", RunCable, ProveDead}},
		Step{ID: Settings, Title: "Charger set and locked", Detail: "Amps by the maker's instructions, then locked against change.", PerPoint: true, After: []string{ChargerEnd}},
		Step{ID: DeadTests, Title: "Dead tests entered", Detail: "On the Commission page, before anything is switched on.", PerPoint: true, After: []string{BoardWork, ChargerEnd}},
		Step{ID: Lids, Title: "Lids, seals and making good", After: []string{BoardWork, ChargerEnd}},
		Step{ID: Labels, Title: "Labels and circuit chart", Ask: "what was written in the chart", After: []string{BoardWork}},
		Step{ID: Energise, Title: "Everyone answers, then switch on", Detail: "Nobody switches on until everyone on the job has answered. Restore in reverse order.", Ask: "who answered", After: []string{DeadTests, Lids}, Caution: "Energising is a spoken agreement between people.", Clause: "common practice"},
	)
}

// Pairs returns the conductor pairs that must read dead, for the school and
// the number of phases.
func Pairs(s School, phases int) []string {
	switch {
	case s == US && phases == 3:
		return []string{"L1-L2", "L2-L3", "L1-L3", "L1-N", "L2-N", "L3-N", "L1-G", "L2-G", "L3-G", "N-G"}
	case s == US:
		return []string{"L1-L2", "L1-N", "L2-N", "L1-G", "L2-G", "N-G"}
	case phases == 3:
		return []string{"L1-L2", "L2-L3", "L1-L3", "L1-N", "L2-N", "L3-N", "L1-E", "L2-E", "L3-E", "N-E"}
	}
	return []string{"L-N", "L-E", "N-E"}
}

// Subjects of the readings that prove dead. A pair's reading has the subject
// DeadPair followed by the pair.
const (
	SourceBefore = "dead:source before"
	SourceAfter  = "dead:source after"
	DeadPair     = "dead:"
)

// DeadBelow is the voltage under which a pair counts as dead, V: a two-pole
// tester shows nothing. Common practice, no source.
const DeadBelow = 1.0

// SourceAtLeast is the least voltage that counts as a known source, V: the
// highest extra-low voltage, which every two-pole tester to BS EN 61243-3 must
// indicate.
const SourceAtLeast = 50.0

// Isolation is what the log says about the board at its end.
type Isolation struct {
	Proved    bool      `json:"proved" doc:"Every pair read dead between two proofs of the meter, and the board has not been energised since."`
	Energised bool      `json:"energised" doc:"The board was energised after the last proof."`
	Missing   []string  `json:"missing,omitempty" doc:"Readings still to be made."`
	Live      []string  `json:"live,omitempty" doc:"Pairs that did not read dead."`
	At        time.Time `json:"at,omitempty" doc:"When the proof was completed."`
	By        string    `json:"by,omitempty" doc:"Who completed it."`
}

// StateOf reads the isolation state off the first n entries of the log.
func StateOf(log []job.Entry, pairs []string) Isolation {
	var iso Isolation
	start := 0
	for i := range log {
		switch e := &log[i]; {
		case e.Kind == job.StepDone && e.Subject == Energise:
			start, iso.Energised = i+1, true
		case e.Kind == job.StepDone && e.Subject == MainOff:
			iso.Energised = false
			start = i
		}
	}
	window := log[start:]
	before := lastReading(window, SourceBefore)
	for _, p := range pairs {
		i := lastReading(window, DeadPair+p)
		switch {
		case i < 0 || before < 0 || i < before:
			iso.Missing = append(iso.Missing, p)
		case volts(window[i]).AtMost(DeadBelow) != quantity.Yes:
			iso.Live = append(iso.Live, p)
		default:
			iso.At, iso.By = window[i].At, window[i].By
		}
	}
	after := lastReading(window, SourceAfter)
	if before < 0 || volts(window[before]).AtLeast(SourceAtLeast) != quantity.Yes {
		iso.Missing = append(iso.Missing, "known source before")
	}
	if after < 0 || after < lastPair(window) || volts(window[after]).AtLeast(SourceAtLeast) != quantity.Yes {
		iso.Missing = append(iso.Missing, "known source after")
	}
	iso.Proved = len(iso.Missing) == 0 && len(iso.Live) == 0 && !iso.Energised
	return iso
}

func volts(e job.Entry) quantity.Reading {
	r, err := quantity.ParseReading(e.Value, "V")
	if err != nil {
		r.Bound = quantity.Beyond // decides nothing
	}
	return r
}

func lastReading(log []job.Entry, subject string) int {
	for i := len(log) - 1; i >= 0; i-- {
		if log[i].Kind == job.ReadingMade && log[i].Subject == subject {
			return i
		}
	}
	return -1
}

func lastPair(log []job.Entry) int {
	for i := len(log) - 1; i >= 0; i-- {
		if s := log[i].Subject; log[i].Kind == job.ReadingMade && strings.HasPrefix(s, DeadPair) &&
			s != SourceBefore && s != SourceAfter {
			return i
		}
	}
	return -1
}

// InsideWhileLive returns the first entry that records work inside the board
// while dead was not proved at that place in the log.
func InsideWhileLive(log []job.Entry, steps []Step, pairs []string) (job.Entry, bool) {
	for i, e := range log {
		if e.Kind == job.StepDone && inside(steps, e.Subject) && !StateOf(log[:i], pairs).Proved {
			return e, true
		}
	}
	return job.Entry{}, false
}

func inside(steps []Step, id string) bool {
	for _, s := range steps {
		if s.ID == id {
			return s.Inside
		}
	}
	return false
}

// Status is a step with what the log says about it.
type Status struct {
	Step
	Point    string     `json:"point,omitempty"`
	Done     bool       `json:"done"`
	Entry    *job.Entry `json:"entry,omitempty" doc:"The entry that says it is done."`
	WaitsFor []string   `json:"waitsFor,omitempty" doc:"Titles of what must come first."`
}

// Progress returns every step, point by point, with what it waits for.
// deadTested reports whether a point's dead tests all have a reading.
func Progress(j *job.Job, s School, deadTested func(point string) bool) []Status {
	pairs := Pairs(s, j.Survey.Supply.Phases)
	iso := StateOf(j.Log, pairs)
	steps := Steps(s)
	points := j.Points()
	done := func(st Step, point string) (bool, *job.Entry) {
		switch st.ID {
		case ProveDead:
			return iso.Proved || iso.Energised && everProved(j.Log, pairs), nil
		case DeadTests:
			return deadTested(point), nil
		}
		if e, ok := j.Latest(job.StepDone, point, st.ID); ok {
			return true, &e
		}
		return false, nil
	}
	byID := map[string]Step{}
	for _, st := range steps {
		byID[st.ID] = st
	}
	doneFor := func(id, point string) bool {
		st := byID[id]
		if !st.PerPoint {
			ok, _ := done(st, "")
			return ok
		}
		if point != "" {
			ok, _ := done(st, point)
			return ok
		}
		for _, p := range points {
			if ok, _ := done(st, p.ID); !ok {
				return false
			}
		}
		return true
	}
	var out []Status
	add := func(st Step, point string) {
		stat := Status{Step: st, Point: point}
		stat.Done, stat.Entry = done(st, point)
		if !stat.Done {
			for _, id := range st.After {
				if !doneFor(id, point) {
					stat.WaitsFor = append(stat.WaitsFor, byID[id].Title)
				}
			}
			if st.Inside && !iso.Proved && !contains(stat.WaitsFor, byID[ProveDead].Title) {
				stat.WaitsFor = append(stat.WaitsFor, byID[ProveDead].Title)
			}
		}
		out = append(out, stat)
	}
	for _, st := range steps {
		if !st.PerPoint {
			add(st, "")
			continue
		}
		for _, p := range points {
			add(st, p.ID)
		}
	}
	return out
}

// everProved reports whether dead was proved at some place in the log.
func everProved(log []job.Entry, pairs []string) bool {
	for i := range log {
		if log[i].Subject == SourceAfter && StateOf(log[:i+1], pairs).Proved {
			return true
		}
	}
	return false
}

func contains(list []string, s string) bool {
	for _, x := range list {
		if x == s {
			return true
		}
	}
	return false
}

// Unanswered returns the members of the crew that an energising entry does not
// name: nobody switches on until everyone has answered.
func Unanswered(crew []string, answered string) []string {
	var missing []string
	for _, c := range crew {
		if !strings.Contains(answered, c) {
			missing = append(missing, c)
		}
	}
	return missing
}

// Terminal is a terminal whose torque is recorded.
type Terminal struct {
	ID    string `json:"id"`
	Title string `json:"title"`
}

// Terminals returns the terminals of a point's circuit, by school.
func Terminals(s School) []Terminal {
	if s == US {
		return []Terminal{
			{"board-l1", "breaker, L1"}, {"board-l2", "breaker, L2"}, {"board-ground", "panel ground bar"},
			{"charger-l1", "charger, L1"}, {"charger-l2", "charger, L2"}, {"charger-ground", "charger ground"},
		}
	}
	return []Terminal{
		{"board-line", "breaker, line"}, {"board-neutral", "board, neutral"}, {"board-earth", "board, earth"},
		{"charger-line", "charger, line"}, {"charger-neutral", "charger, neutral"}, {"charger-earth", "charger, earth"},
	}
}
