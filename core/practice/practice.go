// Package practice holds cases to learn fault finding on: a made-up circuit with
// a hidden fault, which the learner tests in any order, names and mends, and how
// that is scored.
package practice

import (
	"fmt"
	"slices"
	"strings"

	"dogbolt/core/commission"
	"dogbolt/core/job"
)

// Set is what one country has to practise on: a made-up circuit, the cases that are
// told about it, and the faults that it may have. A country's folder fills it.
type Set struct {
	Country string // id of the jurisdiction
	Circuit []byte // a job file with one point, A
	Tests   *commission.Practice
	Cases   []Case
	Faults  []string // ids, as Find has them
	// DeadFirst is the clause by which dead tests come before live ones.
	DeadFirst string
}

// Job returns the made-up job of the set.
func (s *Set) Job() (job.Job, error) { return job.Read(s.Circuit) }

// Own fills in what the cases of the set belong to, and refuses a set that cannot be
// practised on: a broken circuit, a fault that there is not.
func (s *Set) Own() error {
	if _, err := s.Job(); err != nil {
		return fmt.Errorf("practice job of %s: %w", s.Country, err)
	}
	for i := range s.Cases {
		c := &s.Cases[i]
		c.Country, c.set = s.Country, s
		if _, ok := Find(c.Fault); !ok || !slices.Contains(s.Faults, c.Fault) {
			return fmt.Errorf("practice case %s has the fault %q, which is not one of %v", c.ID, c.Fault, s.Faults)
		}
	}
	return nil
}

// Fault is what may be wrong, with what a good hand knows of it.
type Fault struct {
	ID     string   `json:"id"`
	Title  string   `json:"title"`
	Remedy string   `json:"remedy"`
	Shows  []string `json:"-"` // tests that show it
	Why    string   `json:"-"`
}

// faults by id, as the tester stand-in names them. What shows them and the
// remedies: GN3 and common practice, from memory.
var faults = []Fault{
	{"none", "Nothing is wrong", "Hand it over", nil, "every reading meets its limit and agrees with the others"},
	{"loose-neutral", "A loose neutral", "Switch off, leave it off, and call the network operator or utility", []string{commission.VoltageLN, commission.HotGround1, commission.HotGround2},
		"the voltage is off while the loops are plain: the neutral wanders under load, and everything in the house with it"},
	{"reversed-polarity", "Conductors are exchanged", "Isolate, exchange them, and test from the beginning", []string{commission.PolarityDead, commission.PolarityLive, commission.HotHot, commission.HotGround1},
		"polarity is read dead first because a reversed circuit leaves the charger live with its breaker open"},
	{"slow-rcd", "The residual device is slow", "Replace the device, and test again", []string{commission.RCDTime, commission.SelfTest},
		"the time at the rated current is over 300 ms (643.8), or the self-test fails: nothing else can show it"},
	{"wrong-rcd-type", "The residual device is of the wrong type", "Fit a device that knows direct current, or a charger that detects it", []string{commission.DCTrip},
		"alternating current trips it in time, 6 mA of direct current never does (722.531.3.101)"},
	{"damp-insulation", "Damp insulation", "Find the damp, dry or replace, and test again", []string{commission.Insulation},
		"the insulation is below 1 MΩ (table 64), while continuity is plain"},
	{"open-pe", "The protective conductor is open", "Isolate, find the break, and test from the beginning", []string{commission.R1R2, commission.Ground, commission.Zs},
		"continuity runs past the tester's range; whoever went live first had a charger without earth"},
	{"borrowed-neutral", "A neutral borrowed from another circuit", "Give the circuit its own neutral, and test from the beginning", []string{commission.Insulation, commission.RCDTime},
		"live conductors to earth read next to nothing, through the other circuit's neutral to a neutral-earth bond that the main switch leaves closed; " +
			"where it opens the neutral too, the residual device alone tells"},
	{"long-route", "A longer route than designed", "Measure what was laid, and design again for it", []string{commission.R1R2, commission.Zs, commission.Ground},
		"continuity and loop are high by the same amount: resistance, not a joint"},
	{"parallel-earth-path", "A second way to earth", "Read it again with the path taken off", []string{commission.Zs, commission.Ze},
		"Zs lies below Ze + (R1 + R2): current finds another way, and the loop is not what the circuit alone gives"},
	{"missing-dc-detection", "Nothing detects direct current", "Replace the charger, or fit a device of type B", []string{commission.DCTrip},
		"6 mA of direct current are let through for longer than 10 s (IEC 62955)"},
	{"swapped-sensor", "The load-management sensor is the wrong way round", "Turn the sensor, and prove it again with a big load", []string{commission.Management},
		"the current stays while a big load is on: the charger takes import for export"},
}

// FaultIDs lists the ids of all faults.
func FaultIDs() []string {
	out := make([]string, len(faults))
	for i, f := range faults {
		out[i] = f.ID
	}
	return out
}

// Find returns the fault with the id.
func Find(id string) (Fault, bool) {
	i := slices.IndexFunc(faults, func(f Fault) bool { return f.ID == id })
	if i < 0 {
		return Fault{}, false
	}
	return faults[i], true
}

// Case is one exercise.
type Case struct {
	ID      string `json:"id"`
	Country string `json:"country" doc:"Id of the country whose practice it follows."`
	Title   string `json:"title"`
	Story   string `json:"story"`
	Fault   string `json:"-"`
	set     *Set
}

// Circuit is the circuit of a case. The proof of load management belongs to the
// sequence of every case, so that its presence gives nothing away.
func (c Case) Circuit() (job.Job, job.Circuit) {
	j, err := c.set.Job()
	if err != nil {
		panic(err) // Own has read it
	}
	j.Design.Circuits[0].ManagedTo = 80
	return j, j.Design.Circuits[0]
}

// Tests are what may be read in a case: what the circuit needs, without what is
// only set or noted.
func (c Case) Tests() []commission.Test {
	_, circuit := c.Circuit()
	return slices.DeleteFunc(c.set.Tests.Sequence(circuit), func(t commission.Test) bool {
		return t.Optional || t.Words || slices.Contains(settled, t.ID)
	})
}

var settled = []string{commission.Schedule, commission.StartDelay, commission.Network, commission.OpenNeutral}

// Test returns the country's test with the id.
func (c Case) Test(id string) (commission.Test, bool) { return c.set.Tests.Find(id) }

// Choices are the faults that the learner of a case chooses among.
func (c Case) Choices() []Fault {
	var out []Fault
	for _, f := range faults {
		if slices.Contains(c.set.Faults, f.ID) {
			out = append(out, f)
		}
	}
	return out
}

// Try is what a learner did.
type Try struct {
	Tests  []string // in order, repeats included
	Failed []string // dead tests that showed something that must not go live
	Fault  string
	Remedy string // id of the fault whose remedy was chosen
}

// Marks are how a try is scored, of 100, with the reasons.
type Marks struct {
	Safety    int      `json:"safety" doc:"Of 40: dead before live, and nothing switched on over a failed dead test."`
	Economy   int      `json:"economy" doc:"Of 20: no test that tells nothing new."`
	Diagnosis int      `json:"diagnosis" doc:"Of 40: the fault 30, its remedy 10."`
	Total     int      `json:"total"`
	Truth     string   `json:"truth" doc:"What was wrong."`
	Why       []string `json:"why" doc:"The reasoning, step by step."`
}

// Points of the score. Our own, no source.
const (
	safetyMost, economyMost, faultMost, remedyMost = 40, 20, 30, 10
	earlyLive, overFailed, wasted                  = 15, 40, 4
)

// Score scores a try at a case.
func Score(c Case, t Try) Marks {
	truth, _ := Find(c.Fault)
	r := Marks{Safety: safetyMost, Economy: economyMost, Truth: truth.Title}
	say := func(format string, args ...any) { r.Why = append(r.Why, fmt.Sprintf(format, args...)) }
	r.safety(c, t, say)
	r.economy(c, t, say)
	named, _ := Find(t.Fault)
	if shown := len(truth.Shows) == 0 || slices.ContainsFunc(t.Tests, func(id string) bool { return slices.Contains(truth.Shows, id) }); !shown {
		// A guess is no diagnosis.
		r.Economy = 0
		say("No reading was taken that shows it: %s would have. A guess is no diagnosis.", names(truth.Shows, c))
		say("It was: %s. The remedy is: %s.", lower(truth.Title), truth.Remedy)
		say("How it shows: %s.", truth.Why)
		r.Total = r.Safety + r.Economy
		return r
	}
	if t.Fault == c.Fault {
		r.Diagnosis += faultMost
		say("The fault is named: %s.", strings.ToLower(truth.Title))
	} else {
		say("Named was: %s. It was: %s.", lower(named.Title), lower(truth.Title))
	}
	if t.Remedy == c.Fault {
		r.Diagnosis += remedyMost
	} else {
		say("The remedy is: %s.", truth.Remedy)
	}
	say("How it shows: %s.", truth.Why)
	r.Total = r.Safety + r.Economy + r.Diagnosis
	return r
}

func lower(s string) string {
	if s == "" {
		return "nothing"
	}
	return strings.ToLower(s)
}

func (r *Marks) safety(c Case, t Try, say func(string, ...any)) {
	group := map[string]commission.Group{}
	title := map[string]string{}
	dead := map[string]bool{}
	for _, x := range c.Tests() {
		group[x.ID], title[x.ID] = x.Group, x.Title
		if x.Group == commission.Dead {
			dead[x.ID] = true
		}
	}
	done := map[string]bool{}
	early, over := "", ""
	for _, id := range t.Tests {
		if !group[id].BeforeLive() && len(done) < len(dead) && early == "" {
			early = title[id]
		}
		if !group[id].BeforeLive() && over == "" {
			for _, f := range t.Failed {
				if done[f] {
					over = title[id]
				}
			}
		}
		if dead[id] {
			done[id] = true
		}
	}
	if len(t.Tests) == 0 {
		r.Safety = 0
		say("Nothing was tested.")
		return
	}
	if early != "" {
		r.Safety -= earlyLive
		say("“%s” was read live before all dead tests were done: dead comes before live (%s).", early, c.set.DeadFirst)
	}
	if over != "" {
		r.Safety -= overFailed
		say("“%s” was read live although a dead test had failed: nothing is switched on over that.", over)
	}
	if r.Safety = max(r.Safety, 0); r.Safety == safetyMost {
		say("Dead came before live, and nothing was switched on over a failed test.")
	}
}

// economy counts the tests that told nothing new: repeats, and live tests after
// the fault had shown.
func (r *Marks) economy(c Case, t Try, say func(string, ...any)) {
	truth, _ := Find(c.Fault)
	seen := map[string]bool{}
	shown, idle := false, 0
	for _, id := range t.Tests {
		test, _ := c.set.Tests.Find(id)
		if seen[id] || shown && !test.Group.BeforeLive() {
			idle++
		}
		seen[id] = true
		shown = shown || slices.Contains(truth.Shows, id)
	}
	if r.Economy = max(0, economyMost-wasted*idle); idle > 0 {
		say("%d of %d readings told nothing new.", idle, len(t.Tests))
	}
	if c.Fault == "none" && len(seen) < len(c.Tests()) {
		r.Economy = 0
		say("That nothing is wrong is known after the whole sequence, not before: %d of %d tests were read.", len(seen), len(c.Tests()))
	}
}

func names(ids []string, c Case) string {
	var out []string
	for _, t := range c.Tests() {
		if slices.Contains(ids, t.ID) {
			out = append(out, t.Title)
		}
	}
	return strings.Join(out, ", ")
}
