// Package worklog holds the installation steps, what each waits for, and the
// state of isolation that follows from the log. It never removes an entry: the
// state is read off the log each time.
package worklog

import (
	"slices"

	"dogbolt/core/clearance"
	"dogbolt/core/job"
)

// Step is one installation step of a job, on one of its points or on the whole.
type Step struct {
	ID       string   `json:"id"`
	Point    string   `json:"point,omitempty" doc:"Charging point, where the step is one of several alike."`
	Title    string   `json:"title"`
	Detail   string   `json:"detail,omitempty"`
	After    []string `json:"after,omitempty" doc:"Steps that must be done first."`
	Inside   bool     `json:"inside" doc:"Hands or tools inside the board or on its conductors: shut until dead is proved, and for a qualified person."`
	Optional bool     `json:"optional,omitempty" doc:"One of two honest schools: may be left out."`
	Ask      string   `json:"ask,omitempty" doc:"What the step records, in words; empty where being done is all."`
	Unit     string   `json:"unit,omitempty" doc:"What it records is a number in this unit, or in the one that stands behind it."`
	Choice   []string `json:"choice,omitempty" doc:"The words that it records, or its setting's lock, are one of these."`
	Records  []Record `json:"records,omitempty" doc:"What else it records."`
	Changes  []string `json:"changes,omitempty" doc:"What of the circuit as built it may change, by the ids of variations."`
	Caution  string   `json:"caution,omitempty"`
	Clause   string   `json:"clause,omitempty" doc:"Where the caution comes from."`
}

// Record is a kind of thing that a step records beside its word.
type Record string

// What steps record.
const (
	Photo   Record = "photo"
	Reading Record = "reading"
	Torque  Record = "torque"
	Setting Record = "setting"
	Length  Record = "length"
	Name    Record = "name"
)

// Ids of steps that rules and pages refer to.
const (
	Protect     = "protect"
	Announce    = "announce"
	BranchesOff = "branches-off"
	SourcesOff  = "sources-off"
	MainOff     = "main-off"
	CoverOff    = "cover-off"
	ProveDead   = "prove-dead"
	Barrier     = "barrier"
	BackPlate   = "backplate"
	Drill       = "drill"
	OnWay       = "way:" // and the method of the route's stretches
	Electrode   = "electrode"
	RunCable    = "cable"
	JointBox    = "joint"
	Remark      = "remark"
	Isolator    = "isolator"
	SurgeDevice = "spd"
	BoardWork   = "board"
	AheadWork   = "ahead"
	BoardMoves  = "moves"
	BondsRun    = "bonds"
	Earthing    = "earthing"
	BesideFixed = "beside-fixed"
	TailsOpen   = "tails-open"
	TailsDead   = "tails-dead" // of jobs from before tails had pairs of their own
	BesideFed   = "beside"
	BoardOut    = "board-out"
	Scheduled   = "schedule" // of the test results of circuits moved over
	Sensors     = "sensors"
	Link        = "link"
	Outlet      = "receptacle"
	TakeDown    = "take-down"
	Release     = "release"
	Reset       = "reset"
	PointEnd    = "point-end"
	OldFeed     = "old-feed"
	EndFixed    = "end-fixed"
	EndFed      = "end-fed"
	ChargerEnd  = "charger"
	Settings    = "settings"
	DeadTests   = "dead-tests"
	Rejoin      = "rejoin"
	Lids        = "lids"
	Labels      = "labels"
	Energise    = job.SwitchedOn
	Restore     = "restore"
	LockedSet   = "locked"
	SetAmps     = "amps"
)

// Locks are the ways in which a charger's setting is kept from change; the last is none.
var Locks = []string{"cover sealed, installer's code", "installer's code", "cover sealed", "switches under the sealed cover", NotLocked}

// NotLocked is what is recorded of a setting that anyone may change.
const NotLocked = "not locked, anyone may change it"

// Subjects of step entries that are no steps: an answer before switching on, and
// the clock of the work.
const (
	Answer = "answer"
	Clock  = "clock"
)

// Status is a step with what the log says about it.
type Status struct {
	Step
	Done     bool                `json:"done"`
	Entry    *job.Entry          `json:"entry,omitempty" doc:"The entry that says it is done."`
	WaitsFor []string            `json:"waitsFor,omitempty" doc:"Titles of what must come first."`
	Papers   []clearance.Blocker `json:"papers,omitempty" doc:"Papers that must be there first."`
}

// Progress returns every step of a plan with what it waits for. deadTested
// reports whether a point's dead tests all have a reading.
func Progress(j *job.Job, plan []Step, iso Isolation, deadTested func(point string) bool) []Status {
	out := make([]Status, len(plan))
	title := ""
	for i, st := range plan {
		out[i].Step = st
		switch st.ID {
		case ProveDead:
			out[i].Done, title = iso.Proved || iso.Once && iso.Energised, st.Title
		case DeadTests:
			out[i].Done = deadTested(st.Point)
		default:
			if e, ok := j.Latest(job.StepDone, st.Point, st.ID); ok {
				out[i].Done, out[i].Entry = true, &e
			}
		}
	}
	for i := range out {
		st := &out[i]
		if st.Done {
			continue
		}
		waits := func(t string) {
			if !slices.Contains(st.WaitsFor, t) {
				st.WaitsFor = append(st.WaitsFor, t)
			}
		}
		for k := range out {
			// A step on a point waits for steps on that point, one on the whole
			// job for those of every point.
			first := &out[k]
			if !first.Done && slices.Contains(st.After, first.ID) && (first.Point == "" || st.Point == "" || first.Point == st.Point) {
				waits(first.Title)
			}
		}
		if st.Inside && !iso.Proved {
			waits(title)
		}
	}
	return out
}

// Terminal is a terminal whose torque is recorded.
type Terminal struct {
	ID    string `json:"id"`
	Point string `json:"point"`
	Title string `json:"title"`
}
