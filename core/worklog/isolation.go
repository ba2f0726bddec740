package worklog

import (
	"slices"
	"strings"
	"time"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

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

// Sleep is how long the log may be silent before dead has to be proved again:
// nobody knows who was at the board meanwhile. A firm may set less. Common
// practice, no source.
const Sleep = 4 * time.Hour

// Isolation is what the log says about the board at its end.
type Isolation struct {
	Proved    bool      `json:"proved" doc:"Every pair read dead between two proofs of the meter, and since then the board was not energised and the log did not sleep."`
	Energised bool      `json:"energised" doc:"The board was energised after the last proof."`
	Slept     bool      `json:"slept" doc:"The log was silent for longer than the firm allows: prove dead again."`
	Once      bool      `json:"once" doc:"Dead was proved at some time before."`
	Missing   []string  `json:"missing,omitempty" doc:"Readings still to be made."`
	Live      []string  `json:"live,omitempty" doc:"Pairs that did not read dead."`
	From      int       `json:"from" doc:"Place in the log from which readings count."`
	At        time.Time `json:"at,omitempty" doc:"When the proof was completed."`
	By        string    `json:"by,omitempty" doc:"Who completed it."`
}

// StateOf reads the isolation state off a job's log at a time. A zero time is the
// time of the log's last entry. sleep is how long the log may be silent; 0 takes
// Sleep.
//
// A proof that came in by a file opens nothing: nobody puts hands into a board because a
// file says that it is dead.
func StateOf(j *job.Job, pairs []string, at time.Time, sleep time.Duration) Isolation {
	w := onSite(j)
	iso := w.state(len(w.at), pairs, at, sleep, false)
	if iso.From < len(w.at) {
		iso.From = int(w.at[iso.From])
	} else {
		iso.From = len(j.Log)
	}
	return iso
}

// site are the entries of a log that show that somebody is at work: all that isolation
// follows from.
type site struct {
	job *job.Job
	at  []int32 // their places in the log, in order
}

func onSite(j *job.Job) site {
	return site{j, j.Places(job.StepDone, job.ReadingMade, job.TorqueMade, job.SettingMade, job.TakenBack)}
}

func (w site) entry(i int) *job.Entry { return &w.job.Log[w.at[i]] }

// state is StateOf of the first n entries on site, with From as a number of entries on site;
// for work that the file itself claims where claimed is set.
func (w site) state(n int, pairs []string, at time.Time, sleep time.Duration, claimed bool) Isolation {
	if sleep == 0 {
		sleep = Sleep
	}
	w.at = w.at[:n]
	b := board{pairs: pairs, sleep: sleep}
	for i := range w.at {
		b.take(w, i)
	}
	if !at.IsZero() && b.rested(at) {
		b.start, b.iso.Slept = n, true
	}
	if !claimed {
		b.start = max(b.start, w.ownFrom())
	}
	now := w.proof(b.start, n, pairs)
	now.From = b.start
	now.Energised, now.Slept, now.Once = b.iso.Energised, b.iso.Slept, b.iso.Once || now.Proved
	now.Proved = now.Proved && !now.Energised
	return now
}

// ownFrom is the number of the entry after the last that came in by a file.
func (w site) ownFrom() int {
	for i := len(w.at) - 1; i >= 0; i-- {
		if w.entry(i).Imported != nil {
			return i + 1
		}
	}
	return 0
}

// board follows the isolation through the log.
type board struct {
	pairs []string
	sleep time.Duration
	iso   Isolation
	start int       // number of the entry on site from which readings count
	last  time.Time // when somebody was last at work
}

// rested reports whether the log slept before a time, after dead was proved once. A
// board that is switched on is shut anyway.
func (b *board) rested(now time.Time) bool {
	return b.iso.Once && !b.iso.Energised && !b.last.IsZero() && now.Sub(b.last) > b.sleep
}

// take reads one entry of work on site.
func (b *board) take(w site, i int) {
	e := w.entry(i)
	if e.Kind == job.TakenBack {
		if k := w.job.Place(e.Replaces); k < 0 || Isolates(&w.job.Log[k]) {
			b.start = i + 1 // nothing that was read before opens the board
		}
		return
	}
	if b.rested(e.At) {
		b.start, b.iso.Slept = i, true
	}
	b.last = e.At
	switch {
	case e.Kind == job.StepDone && e.Replaces != "":
		// A correction of what was written: nobody touched the board.
	case e.Kind == job.StepDone && e.Subject == Energise:
		b.start, b.iso.Energised, b.iso.Slept = i+1, true, false
	case e.Kind == job.StepDone && e.Subject == MainOff:
		b.start, b.iso.Energised, b.iso.Slept = i, false, false
	case e.Kind == job.ReadingMade && e.Subject == SourceAfter && (!b.iso.Once || b.iso.Slept):
		now := w.proof(b.start, i+1, b.pairs)
		b.iso.Once, b.iso.Slept = b.iso.Once || now.Proved, b.iso.Slept && !now.Proved
	}
}

// proof reads the proof of dead in a stretch of the entries on site.
func (w site) proof(from, to int, pairs []string) Isolation {
	w.at = w.at[from:to]
	var iso Isolation
	before := w.lastReading(SourceBefore)
	for _, p := range pairs {
		i := w.lastPairReading(p)
		switch {
		case i < 0 || before < 0 || i < before:
			iso.Missing = append(iso.Missing, p)
		case volts(w.entry(i)).AtMost(DeadBelow) != quantity.Yes:
			iso.Live = append(iso.Live, p)
		default:
			iso.At, iso.By = w.entry(i).At, w.entry(i).By
		}
	}
	after := w.lastReading(SourceAfter)
	if before < 0 || volts(w.entry(before)).AtLeast(SourceAtLeast) != quantity.Yes {
		iso.Missing = append(iso.Missing, "known source before")
	}
	if after < 0 || after < w.lastPair() || volts(w.entry(after)).AtLeast(SourceAtLeast) != quantity.Yes {
		iso.Missing = append(iso.Missing, "known source after")
	}
	iso.Proved = len(iso.Missing) == 0 && len(iso.Live) == 0
	return iso
}

// Isolates reports whether an entry is part of what a proof of dead stands on: taken back, it
// shuts the board.
func Isolates(e *job.Entry) bool {
	return e.Kind == job.ReadingMade && strings.HasPrefix(e.Subject, DeadPair) ||
		e.Kind == job.StepDone && (e.Subject == MainOff || e.Subject == SourcesOff || e.Subject == TailsOpen || e.Subject == CoverOff)
}

func volts(e *job.Entry) quantity.Reading {
	r, err := quantity.ParseReading(e.Value, "V")
	if err != nil {
		r.Bound = quantity.Beyond // decides nothing
	}
	return r
}

// last returns the number of the last reading whose subject is one, -1 for none.
func (w site) last(is func(subject string) bool) int {
	for i := len(w.at) - 1; i >= 0; i-- {
		if e := w.entry(i); e.Kind == job.ReadingMade && is(e.Subject) {
			return i
		}
	}
	return -1
}

func (w site) lastReading(subject string) int {
	return w.last(func(s string) bool { return s == subject })
}

// lastPairReading is lastReading of a pair, without putting its subject together.
func (w site) lastPairReading(pair string) int {
	return w.last(func(s string) bool {
		return len(s) == len(DeadPair)+len(pair) && strings.HasPrefix(s, DeadPair) && s[len(DeadPair):] == pair
	})
}

func (w site) lastPair() int {
	return w.last(func(s string) bool { return strings.HasPrefix(s, DeadPair) && s != SourceBefore && s != SourceAfter })
}

// InsideWhileLive returns the first entry that records work inside the board, a step or
// a torque, while dead was not proved at that place in the log: by the pairs, and by those of the
// tails too once these were opened, or are worked on. A correction of what such a
// step recorded is no work. sleep is how long the log may be silent; 0 takes Sleep.
func InsideWhileLive(j *job.Job, plan []Step, pairs, tails []string, sleep time.Duration) (job.Entry, bool) {
	if sleep == 0 {
		sleep = Sleep
	}
	w := onSite(j)
	proved := false // at the last place that was looked at
	seen := 0       // up to there nothing has touched the board since
	for i := range w.at {
		e := w.entry(i)
		if len(tails) > 0 && e.Kind == job.StepDone && (e.Subject == TailsOpen || e.Subject == BoardOut || e.Subject == BesideFed) {
			pairs, tails, seen = append(slices.Clip(pairs), tails...), nil, 0
		}
		work := e.Kind == job.TorqueMade || e.Kind == job.StepDone && inside(plan, e.Subject, e.Point)
		if !work || e.Replaces != "" {
			continue
		}
		claimed := e.Imported != nil
		if seen == 0 || !proved || claimed != (w.entry(seen-1).Imported != nil) || w.touched(seen-1, i, e.At, sleep) {
			proved = w.state(i, pairs, e.At, sleep, claimed).Proved
		}
		if seen = i + 1; !proved {
			return *e, true
		}
	}
	return job.Entry{}, false
}

// TouchesBoard reports whether an entry records work inside a board: a step there or a
// torque, and no correction of one.
func (w *Practice) TouchesBoard(j *job.Job, e *job.Entry) bool {
	return e.Replaces == "" && (e.Kind == job.TorqueMade || e.Kind == job.StepDone && inside(w.Outline(j), e.Subject, e.Point))
}

// touched reports whether a stretch of the entries on site, up to a time, may change whether
// dead is proved: pairs read, the main switched, or a silence.
func (w site) touched(from, to int, at time.Time, sleep time.Duration) bool {
	last := w.entry(from).At
	for i := from; i < to; i++ {
		e := w.entry(i)
		proves := e.Kind == job.ReadingMade && strings.HasPrefix(e.Subject, DeadPair)
		switches := e.Kind == job.StepDone && (e.Subject == MainOff || e.Subject == Energise)
		if e.Kind == job.TakenBack || proves || switches {
			return true
		}
		if e.At.Sub(last) > sleep {
			return true
		}
		last = e.At
	}
	return at.Sub(last) > sleep
}

func inside(plan []Step, id, point string) bool {
	for i := range plan {
		if plan[i].ID == id && plan[i].Point == point {
			return plan[i].Inside
		}
	}
	return false
}
