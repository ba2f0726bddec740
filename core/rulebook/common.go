package rulebook

import (
	"slices"
	"strconv"
	"strings"
	"time"

	"dogbolt/core/clearance"
	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/worklog"
)

// common are the rules that every rulebook shares: papers, plan, the log and
// the signatures. They come after the book's own.
var common = []Rule{
	{ID: "points", Title: "Charging points", Clause: "this program", Stage: job.StageSurvey,
		Fields: []string{"survey.places"}, Check: checkPoints,
		Numbers: "none"},
	{ID: "customer", Title: "Customer and address", Clause: "common practice", Stage: job.StageSurvey,
		Fields: []string{"site.customer", "site.street", "site.town"}, Check: checkCustomer,
		Numbers: "none"},
	{ID: "phases", Title: "Phases and poles agree", Clause: "common practice", Stage: job.StageDesign, PerPoint: true,
		Fields: []string{"design.circuits.{p}.charger.phases", "design.circuits.{p}.breaker.poles", "design.circuits.{p}.cable.loaded", "survey.supply.phases"}, Check: checkPhases,
		Numbers: "none"},
	{ID: "links", Title: "Demand at every link to the board", Clause: "common practice", Stage: job.StageDesign,
		Fields: []string{"survey.board.rating", "survey.board.links"}, Check: checkLinks,
		Numbers: "the links' own figures"},
	{ID: "sharing", Title: "How two or more points share", Clause: "load curtailment", Stage: job.StageDesign,
		Fields: []string{"design.sharing"}, Check: checkSharing,
		Numbers: "IEC 61851-1 annex A: 6 A", Tests: "core/loadmgmt TestSharing"},
	{ID: "papers-order", Title: "Papers needed before ordering and booking", Clause: "as each paper says", Stage: job.StageClearances,
		Fields: []string{"clearances.papers"}, Check: papersBefore(job.BeforeOrder, job.BeforeBooking),
		Numbers: "none", Tests: "core/clearance TestOrderRules"},
	{ID: "papers-installing", Title: "Papers needed before installing", Clause: "as each paper says", Stage: job.StageClearances,
		Fields: []string{"clearances.papers"}, Check: papersBefore(job.BeforeInstalling),
		Numbers: "none", Tests: "core/clearance TestOrderRules"},
	{ID: "papers-covering", Title: "Papers needed before covering up", Clause: "as each paper says", Stage: job.StageClearances,
		Fields: []string{"clearances.papers"}, Check: papersBefore(job.BeforeCovering),
		Numbers: "none", Tests: "core/clearance TestOrderRules"},
	{ID: "papers-energising", Title: "Papers needed before energising", Clause: "as each paper says", Stage: job.StageClearances,
		Fields: []string{"clearances.papers"}, Check: papersBefore(job.BeforeEnergising),
		Numbers: "none"},
	{ID: "papers-sealing", Title: "Papers needed before sealing", Clause: "as each paper says", Stage: job.StageClearances,
		Fields: []string{"clearances.papers"}, Check: papersBefore(job.BeforeSealing),
		Numbers: "none"},
	{ID: "paper-dates", Title: "Answers came before the work", Clause: "as each paper says", Stage: job.StageClearances,
		Fields: []string{"clearances.papers"}, Check: checkPaperDates,
		Numbers: "none", Tests: "core/clearance TestGrantAfterTheWork"},
	{ID: "parts-in-hand", Title: "Parts in hand", Clause: "common practice", Stage: job.StagePlan,
		Fields: []string{"plan.parts"}, Check: checkParts,
		Numbers: "none"},
	{ID: "day-and-crew", Title: "Day, crew and power-off notice", Clause: "common practice", Stage: job.StagePlan,
		Fields: []string{"plan.day"}, Check: checkDay,
		Numbers: "none"},
	{ID: "dead-proved", Title: "Dead proved before inside work", Clause: "common practice", Stage: job.StageInstall, Fixed: true,
		Fields: []string{"install.prove-dead"}, Check: checkDead,
		Numbers: "none", Tests: "core/worklog"},
	{ID: "steps-done", Title: "Installation steps", Clause: "common practice", Stage: job.StageInstall,
		Fields: []string{"install.steps"}, Check: checkSteps,
		Numbers: "none", Tests: "core/worklog"},
	{ID: "energised-agreed", Title: "Everyone answered before energising", Clause: "common practice", Stage: job.StageInstall,
		Fields: []string{"install.energise"}, Check: checkEnergise,
		Numbers: "none", Tests: "core/worklog"},
	{ID: "setting", Title: "Charger set as designed and locked", Clause: "the design", Stage: job.StageInstall, PerPoint: true,
		Fields: []string{"install.settings"}, Check: checkSetting,
		Numbers: "the design's own figures"},
	{ID: "pilot", Title: "Current offered to the vehicle", Clause: "IEC 61851-1 annex A; SAE J1772", Stage: job.StageCommission, PerPoint: true,
		Fields: []string{"commission.pilot"}, Check: Asked(commission.Pilot, checkPilot),
		Numbers: "IEC 61851-1 annex A, SAE J1772", Tests: "core/commission TestDuty, TestOffered"},
	{ID: "pilot-low", Title: "Duty at the lowest setting", Clause: "IEC 61851-1 annex A; SAE J1772", Stage: job.StageCommission, PerPoint: true,
		Fields: []string{"commission.pilot-low"}, Check: Asked(commission.PilotLow, dutyAt(commission.PilotLow, func(quantity.Ampere) quantity.Ampere { return 6 })),
		Numbers: "IEC 61851-1 annex A; SAE J1772", Tests: "core/commission TestDuty"},
	{ID: "pilot-mid", Title: "Duty at half of the setting", Clause: "IEC 61851-1 annex A; SAE J1772", Stage: job.StageCommission, PerPoint: true,
		Fields: []string{"commission.pilot-mid"}, Check: Asked(commission.PilotMid, dutyAt(commission.PilotMid, func(a quantity.Ampere) quantity.Ampere { return a / 2 })),
		Numbers: "IEC 61851-1 annex A; SAE J1772", Tests: "core/commission TestDuty"},
	{ID: "pilot-fault", Title: "States D, E and F", Clause: "IEC 61851-1 annex A; SAE J1772", Stage: job.StageCommission, PerPoint: true,
		Fields: []string{"commission.pilot-fault"}, Check: Asked(commission.PilotFault, checkPilotFault),
		Numbers: "none"},
	{ID: "load-management", Title: "Load management proved", Clause: "common practice", Stage: job.StageCommission, PerPoint: true,
		Fields: []string{"commission.load-management"}, Check: checkManagement,
		Numbers: "none", Tests: "core/commission TestSequence"},
	{ID: "management-time", Title: "Time until the current falls", Clause: "common practice", Stage: job.StageCommission, PerPoint: true,
		Fields: []string{"commission.management-time"}, Check: Asked(commission.ManagementTime, checkManagementTime),
		Numbers: "common practice: 10 s"},
	{ID: "charger-notes", Title: "Firmware, meter and network noted", Clause: "common practice", Stage: job.StageCommission, PerPoint: true,
		Fields: []string{"commission.network", "commission.firmware", "commission.meter"}, Check: checkNotes,
		Numbers: "none"},
	{ID: "instrument", Title: "Every reading names its instrument", Clause: "common practice", Stage: job.StageCommission, PerPoint: true,
		Fields: []string{"commission"}, Check: checkInstruments,
		Numbers: "none"},
	{ID: "calibration", Title: "Instruments in calibration", Clause: "common practice", Stage: job.StageCommission, PerPoint: true,
		Fields: []string{"commission"}, Check: checkCalibration,
		Numbers: "none", Tests: "internal/rooms TestCalibration"},
	{ID: "retests", Title: "Failed readings have cause and remedy", Clause: "common practice", Stage: job.StageCommission, PerPoint: true,
		Fields: []string{"commission"}, Check: checkRetests,
		Numbers: "none"},
	{ID: "doubtful", Title: "Readings agree with each other", Clause: "common practice", Stage: job.StageCommission, PerPoint: true,
		Fields: []string{"commission"}, Check: checkDoubts,
		Numbers: "IEC 61557-3: 30 %; bands by common practice", Tests: "core/commission TestDoubts; internal/standin TestFaultsAreFound"},
	{ID: "test-order", Title: "Tests in their order", Clause: "common practice", Stage: job.StageCommission, PerPoint: true,
		Fields: []string{"commission"}, Check: checkOrder,
		Numbers: "none"},
	{ID: "tested-again", Title: "What was changed is tested again", Clause: "common practice", Stage: job.StageCommission, PerPoint: true,
		Fields: []string{"commission"}, Check: checkTestedAgain,
		Numbers: "none"},
	{ID: "signed-design", Title: "Design signed", Clause: "common practice", Stage: job.StageHandover,
		Fields: []string{"handover.design"}, Check: signed("design"),
		Numbers: "none"},
	{ID: "signed-construction", Title: "Construction signed", Clause: "common practice", Stage: job.StageHandover,
		Fields: []string{"handover.construction"}, Check: signed("construction"),
		Numbers: "none"},
	{ID: "scheduler", Title: "One scheduler chosen: car or charger", Clause: "common practice", Stage: job.StageHandover, PerPoint: true,
		Fields: []string{"handover.scheduler"}, Check: checkScheduler,
		Numbers: "none"},
}

func checkPoints(s *Subject) Finding {
	if len(s.Job.Survey.Places) == 0 {
		return Missing("at least one charging point")
	}
	return Meets(strconv.Itoa(len(s.Job.Survey.Places)) + " surveyed")
}

// checkCustomer asks whose job it is and where: a record that does not say so is none.
func checkCustomer(s *Subject) Finding {
	p := &s.Job.Site
	var missing []string
	for _, f := range []struct{ name, value string }{{"customer's name", p.Customer}, {"street", p.Street}, {"town", p.Town}} {
		if strings.TrimSpace(f.value) == "" {
			missing = append(missing, f.name)
		}
	}
	if len(missing) > 0 {
		return Missing(strings.Join(missing, ", "))
	}
	return Meets(p.Customer + ", " + p.Street + ", " + p.Town)
}

// checkPhases holds charger, supply, breaker and cable to one number of phases.
func checkPhases(s *Subject) Finding {
	c, supply := &s.Point.Circuit, s.Job.Survey.Supply.Phases
	phases, poles := c.Charger.Phases, c.Breaker.Poles
	switch {
	case phases == 0:
		return Missing("phases of the charger")
	case supply == 0:
		return Missing("phases of the supply")
	case phases > supply:
		return Fails(quantity.Say("a charger of {} phases on a supply of {}", float64(phases), float64(supply)), "a charger of one phase, or ask for another supply")
	case c.Cable.Loaded == 2 && phases == 3:
		return Fails("two loaded conductors for a charger of three phases", "count three, and take a cable of four cores")
	case poles == 0:
		return Missing("poles of the breaker")
	}
	allowed := s.Book.In.Poles(phases)
	if !slices.Contains(allowed, poles) {
		return Fails(quantity.Say("a breaker of {} poles for a charger of {} phases", float64(poles), float64(phases)),
			quantity.Say("a breaker of {} poles", float64(allowed[len(allowed)-1])))
	}
	return Meets(quantity.Say("charger of {} phases, breaker of {} poles, supply of {} phases", float64(phases), float64(poles), float64(supply)))
}

// checkLinks holds the demand against everything that it passes on the way to the
// board: a service that is large enough is of no use behind a small main switch.
func checkLinks(s *Subject) Finding {
	b := &s.Job.Survey.Board
	switch {
	case b.Rating == 0:
		return Missing("rating of the board's main switch or busbar")
	case len(s.Demand.Missing) > 0:
		return Missing(strings.Join(s.Demand.Missing, "; "))
	case !s.AllSet():
		return Missing("charger setting")
	case b.FedFrom == job.FromSubMain && b.OtherDemand == nil:
		return Missing("demand of the board on the sub-main without charging")
	}
	total, without := float64(s.Demand.Total), float64(s.Demand.Without)
	if b.FedFrom == job.FromSubMain {
		total += float64(*b.OtherDemand) - without
	} else if limit, all := s.managed(); all {
		total = min(total, max(limit, without))
	}
	least, name := float64(b.Rating), "the board's main switch or busbar"
	for _, l := range b.Links {
		switch {
		case l.Rating == 0:
			return Missing("rating of the " + strings.ReplaceAll(string(l.Kind), "-", " "))
		case float64(l.Rating) < least:
			least, name = float64(l.Rating), "the "+strings.ReplaceAll(string(l.Kind), "-", " ")
		}
	}
	return AtMost(total, least, "A", quantity.Say("{1} A with charging; {} A is the least of {} links, ", total, least, float64(len(b.Links)+1))+name,
		"a larger link, a lower setting, load management, or another board").Exactly()
}

// checkOrder names tests that were made before or after their time: those before
// switching on after it, live ones before it.
func checkOrder(s *Subject) Finding {
	on := slices.IndexFunc(s.Job.Log, func(e job.Entry) bool { return e.Kind == job.StepDone && e.Subject == worklog.Energise })
	var early, late []string
	read := 0
	for _, t := range s.sequence() {
		first := slices.IndexFunc(s.Job.Log, func(e job.Entry) bool {
			return e.Kind == job.ReadingMade && e.Point == s.Point.ID && e.Subject == t.ID
		})
		switch {
		case first < 0:
			continue
		case t.Group.BeforeLive() && on >= 0 && first > on:
			late = append(late, t.Title)
		case !t.Group.BeforeLive() && (on < 0 || first < on):
			early = append(early, t.Title)
		}
		read++
	}
	switch {
	case len(late) > 0:
		return Fails("first read after the board was switched on: "+strings.Join(late, ", "), "switch off, prove dead, and test again; a verifier may accept it with a reason")
	case len(early) > 0:
		return Advise("read before the board was switched on: "+strings.Join(early, ", "), "read them again, or correct what the log says")
	case read == 0:
		return Finding{}
	}
	return Meets(strconv.Itoa(read) + " tests, each in its time")
}

// What has to be tested again after the device, its residual part or the cable was
// changed, and after the charger was: in the words of both countries' sequences.
var (
	deviceTests = []string{commission.R1R2, commission.R1R2L2, commission.R1R2L3, commission.Insulation, commission.Zs, commission.ZsL2, commission.ZsL3, commission.RCDTime,
		commission.Ground, commission.HotHot, commission.GFCITrip}
	chargerTests = []string{commission.DCTrip, commission.Pilot, commission.Functions, commission.OpenNeutral, commission.SelfTest, commission.VehicleTest}
)

// checkTestedAgain asks for the tests of what was changed after they were made: by a
// variation, or by a design that was signed anew.
func checkTestedAgain(s *Subject) Finding {
	device, charger := s.changed()
	if device < 0 && charger < 0 {
		return Finding{}
	}
	var again []string
	done := 0
	for _, t := range s.sequence() {
		since := -1
		if slices.Contains(deviceTests, t.ID) {
			since = device
		} else if slices.Contains(chargerTests, t.ID) {
			since = charger
		}
		e, ok := s.Job.Latest(job.ReadingMade, s.Point.ID, t.ID)
		if since < 0 || !ok {
			continue
		}
		if slices.IndexFunc(s.Job.Log, func(x job.Entry) bool { return x.ID == e.ID }) < since {
			again = append(again, t.Title)
		} else {
			done++
		}
	}
	switch {
	case len(again) > 0:
		return Missing("tests again after the change: " + strings.Join(again, ", "))
	case done == 0:
		return Finding{}
	}
	return Meets(strconv.Itoa(done) + " tests were made after the change")
}

// changed returns the places in the log from which a point's device and cable, and its
// charger, are others than before; −1 where they never were.
func (s *Subject) changed() (device, charger int) {
	device, charger = -1, -1
	wasDevice, wasCharger := "", ""
	for i := range s.Job.Log {
		e := &s.Job.Log[i]
		switch {
		case e.Kind == job.Varied && e.Point == s.Point.ID && (strings.HasPrefix(e.Subject, "breaker.") || strings.HasPrefix(e.Subject, "cable.")):
			device = i
		case e.Kind == job.SignedOff:
			d, c := e.Covered(s.Point.ID)
			if d == "" {
				continue
			}
			if wasDevice != "" && d != wasDevice {
				device = i
			}
			if wasCharger != "" && c != wasCharger {
				charger = i
			}
			wasDevice, wasCharger = d, c
		}
	}
	return device, charger
}

// checkSharing asks how two or more points share the supply: each on its own at
// its setting, all in fixed parts of one limit, or the limit shared out among
// those that charge. A part below 6 A charges nothing.
func checkSharing(s *Subject) Finding {
	d := &s.Job.Design
	n := len(d.Circuits)
	if n < 2 {
		return Finding{}
	}
	switch {
	case d.Sharing == "":
		return Missing("separate circuits, a shared limit, or load sharing")
	case d.Sharing == job.Separate:
		return Meets("each point counts at its setting")
	case d.SharedTo == 0:
		return Missing("the limit of all points together")
	}
	part := float64(d.SharedTo)
	working := quantity.Say("{} A for whoever charges", part)
	if d.Sharing == job.SharedLimit {
		part /= float64(n)
		working = quantity.Say("{} A ÷ {} points = {1} A each", float64(d.SharedTo), float64(n), part)
	}
	return AtLeast(part, LeastCharge, "A", working+quantity.Say(", at least {} A", LeastCharge), "a larger limit, or load sharing")
}

func papersBefore(when ...job.Before) func(*Subject) Finding {
	return func(s *Subject) Finding {
		var waiting, aside, done []string
		for i := range s.Job.Clearances.Papers {
			p := &s.Job.Clearances.Papers[i]
			if !slices.Contains(when, p.Before) {
				continue
			}
			if p.Done() {
				done = append(done, p.Title)
			} else if e, put := s.Job.PutAside(p.ID); put {
				aside = append(aside, p.Title+", put aside by "+e.By+": "+e.Reason)
			} else {
				waiting = append(waiting, p.Title)
			}
		}
		switch {
		case len(waiting) > 0:
			return Missing(strings.Join(waiting, "; "))
		case len(aside) > 0:
			return Advise(strings.Join(aside, "; "), "printed on the record, with name and reason")
		case len(done) > 0:
			return Meets(strings.Join(done, "; "))
		}
		return Finding{}
	}
}

// checkPaperDates stops where an answer came after the work that had to wait for
// it: a grant that was offered afterwards is void.
func checkPaperDates(s *Subject) Finding {
	if list := clearance.Misdated(s.Job); len(list) > 0 {
		return Fails(list[0].Title+" "+list[0].Why, "move the day, or ask whoever grants it what still holds")
	}
	return Finding{}
}

func checkParts(s *Subject) Finding {
	if len(s.Job.Plan.Parts) == 0 {
		return Missing("parts list")
	}
	var lacking []string
	for _, p := range s.Job.Plan.Parts {
		if p.InHand != job.Yes {
			lacking = append(lacking, p.Name)
		}
	}
	if len(lacking) > 0 {
		return Missing(strings.Join(lacking, "; "))
	}
	return Meets(strconv.Itoa(len(s.Job.Plan.Parts)) + " of " + strconv.Itoa(len(s.Job.Plan.Parts)) + " in hand")
}

func checkDay(s *Subject) Finding {
	p := s.Job.Plan
	began := slices.ContainsFunc(s.Job.Log, func(e job.Entry) bool { return e.Kind == job.StepDone })
	switch {
	case p.Booked() && !began && len(clearance.Blocking(s.Job, job.BeforeInstalling)) > 0:
		b := clearance.Blocking(s.Job, job.BeforeInstalling)[0]
		return Fails("booked for "+p.Day+", but "+b.Title+": "+b.Why, "free the day, or bring the paper in")
	case p.Day == "":
		return Missing("a day")
	case len(p.Crew) == 0:
		return Missing("a crew")
	case p.Notice != job.Yes:
		return Missing("power-off notice to the customer")
	case p.Over.By != "":
		return Advise(p.Day+", booked by "+p.Over.By+" against advice: "+p.Over.Reason, strings.Join(p.Over.Against, "; "))
	}
	return Meets(p.Day + ", " + strings.Join(p.Crew, " and "))
}

func checkDead(s *Subject) Finding {
	pairs := s.Book.In.Install.Pairs(&s.Job.Survey.Supply)
	if e, bad := worklog.InsideWhileLive(s.Job.Log, s.steps(), pairs, s.Stricter.Sleep); bad {
		return Fails("“"+e.Subject+"” was logged by "+e.By+" while dead was not proved",
			"prove dead, inspect the work again, and log both")
	}
	for _, e := range s.Job.Log {
		if e.Kind == job.StepDone && e.Subject == worklog.BoardWork {
			return Meets("every step inside the board was logged while all pairs read dead")
		}
	}
	iso := worklog.StateOf(s.Job.Log, pairs, time.Time{}, s.Stricter.Sleep)
	if iso.Proved {
		return Meets("all pairs read dead, known source before and after")
	}
	if len(iso.Live) > 0 {
		return Fails("not dead: "+strings.Join(iso.Live, ", "), "find the source; treat everything as live")
	}
	return Missing(strings.Join(iso.Missing, ", "))
}

func checkSteps(s *Subject) Finding {
	todo, total, left := "", 0, 0
	for i := range s.steps() {
		st := &s.steps()[i]
		if st.ID == worklog.ProveDead || st.ID == worklog.DeadTests || st.Optional {
			continue
		}
		total++
		if _, ok := s.Job.Latest(job.StepDone, st.Point, st.ID); !ok {
			left++
			if todo == "" {
				todo = st.Title
			}
		}
	}
	switch {
	case left == total:
		return Missing("the first step: " + todo)
	case left > 0:
		return Missing(quantity.Say("{} of {} steps; next: ", float64(left), float64(total)) + todo)
	}
	return Meets(quantity.Say("{} steps done", float64(total)))
}

func checkEnergise(s *Subject) Finding {
	e, ok := s.Job.Latest(job.StepDone, "", worklog.Energise)
	if !ok {
		return Missing("agreement of everyone on the job")
	}
	// Who was on the job, and had answered, when it was switched on.
	before := *s.Job
	before.Log = before.Log[:slices.IndexFunc(before.Log, func(x job.Entry) bool { return x.ID == e.ID })]
	roll := worklog.Roll(&before, s.steps())
	if un := worklog.Unanswered(roll, e.Value); len(un) > 0 {
		return Fails("energised without an answer from "+strings.Join(un, ", "), "switch off, ask everyone, log it again")
	}
	names := make([]string, len(roll))
	for i, a := range roll {
		names[i] = a.Name
	}
	return Meets("answered: " + strings.Join(names, ", "))
}

func checkSetting(s *Subject) Finding {
	c := &s.Point.Circuit
	e, ok := s.Job.Latest(job.SettingMade, s.Point.ID, worklog.SetAmps)
	if !ok {
		return Missing("the amps that the charger was set to")
	}
	r, err := quantity.ParseReading(e.Value, "A")
	if err != nil || r.Bound != quantity.Exact {
		return Missing("the set amps as a number")
	}
	limit, how := s.Book.In.SettingLimit(c)
	switch {
	case c.Setting == 0 || c.Breaker.Rating == 0:
		return Missing("design setting and breaker")
	case r.Value > limit:
		return Finding{Verdict: Stop, Value: Num(r.Value), High: Num(limit), Unit: "A",
			Working: quantity.Say("{} A set > {} A, ", r.Value, limit) + how, Remedy: "lower the setting"}
	case r.Value != float64(c.Setting):
		return Finding{Verdict: Stop, Value: Num(r.Value), Low: Num(float64(c.Setting)), High: Num(float64(c.Setting)), Unit: "A",
			Working: quantity.Say("{} A set, {} A designed", r.Value, float64(c.Setting)), Remedy: "set it as designed, or change the design and check again"}
	}
	lock, ok := s.Job.Latest(job.SettingMade, s.Point.ID, worklog.LockedSet)
	switch {
	case !ok || lock.Value == "":
		return Missing("how the setting is locked, and who may change it")
	case lock.Value == worklog.NotLocked:
		return Fails("the setting is "+lock.Value, "lock it by its maker's instructions")
	case !slices.Contains(worklog.Locks, lock.Value):
		return Missing("how the setting is locked: “" + lock.Value + "” is not one of " + strings.Join(worklog.Locks, "; "))
	}
	return Finding{Verdict: Sound, Value: Num(r.Value), High: Num(limit), Unit: "A",
		Working: quantity.Say("{} A set = design, ≤ {} A, ", r.Value, limit) + how + "; locked: " + lock.Value}
}

// pilotTolerance is how far a measured duty cycle may lie from the wanted one,
// in percentage points: ±0.5 in the generator plus the reading of the adapter.
// IEC 61851-1 annex A, from memory.
const pilotTolerance = 1.0

func checkPilot(s *Subject) Finding {
	set := s.Point.Circuit.Setting
	if set == 0 {
		return Missing("charger setting")
	}
	want := commission.Duty(set)
	if want == 0 {
		return Missing("a setting between 6 A and 80 A")
	}
	low, high := want-pilotTolerance, want+pilotTolerance
	r, f, ok := s.Reading(commission.Pilot)
	if !ok {
		return f.Against(Num(low), Num(high), "%")
	}
	sum := "{} A ÷ 0.6"
	switch {
	case set > 52.5:
		sum = "{} A ÷ 2.5 + 64"
	case set > 51:
		sum = "{} A lies between the formulas, 51 A is below it"
	}
	return Judge(r.Within(low, high), r, Num(low), Num(high),
		quantity.Say(sum+" = {1} % duty, {1} % read, offers {1} A", float64(set), want, r.Value, float64(commission.Offered(r.Value))),
		"the charger offers another current than it is set to: check the setting and the duty again")
}

// dutyAt judges the duty cycle at another current than the setting.
func dutyAt(test string, at func(quantity.Ampere) quantity.Ampere) func(*Subject) Finding {
	return func(s *Subject) Finding {
		amps := at(s.Point.Circuit.Setting)
		want := commission.Duty(amps)
		low, high := want-pilotTolerance, want+pilotTolerance
		r, f, ok := s.Reading(test)
		if !ok {
			return f
		}
		return Judge(r.Within(low, high), r, Num(low), Num(high), quantity.Say("{} A wants {1} % duty, {1} % read, offers {1} A", float64(amps), want, r.Value, float64(commission.Offered(r.Value))),
			"the charger offers another current than it is set to: check the setting and the duty again")
	}
}

func checkPilotFault(s *Subject) Finding {
	return s.Choice(commission.PilotFault, "the charger does not stop on a fault of the pilot: by the maker's fault list; replace it if it stays")
}

// managementSlow is the time after which load management is slow, s: a sensor's
// averaging, and 5 s within which a vehicle obeys a new duty. Common practice, no
// source.
const managementSlow = 10.0

func checkManagementTime(s *Subject) Finding {
	r, f, ok := s.Reading(commission.ManagementTime)
	if !ok {
		return f
	}
	f = Judge(r.AtMost(managementSlow), r, Number{}, Num(managementSlow), r.String()+", at most 10 s", "slow: look at the sensor's link and the maker's averaging")
	if f.Verdict == Stop {
		f.Verdict = Watch
	}
	return f
}

// checkNotes watches for what the customer and the next electrician will ask, as far
// as the country's sequence has it.
func checkNotes(s *Subject) Finding {
	var missing, noted, asked []string
	for _, id := range []string{commission.Network, commission.Firmware, commission.Meter} {
		t, found := s.Book.In.Tests.Find(id)
		if !found {
			continue
		}
		asked = append(asked, id)
		e, ok := s.Job.Latest(job.ReadingMade, s.Point.ID, id)
		switch {
		case !ok:
			missing = append(missing, t.Title)
		case t.Choice != nil && e.Value != t.Choice[0]:
			missing = append(missing, t.Title+": "+e.Value)
		default:
			noted = append(noted, t.Title+": "+e.Value)
		}
	}
	switch {
	case len(asked) == 0:
		return Finding{}
	case len(noted) == 0 && len(missing) == len(asked):
		// What is read off the unit first, then what has to be done.
		return Missing(strings.TrimPrefix(strings.Join(asked[1:], ", ")+" and "+asked[0], " and "))
	case len(missing) > 0:
		return Advise("not noted: "+strings.Join(missing, ", "), "note it, or say why it has to wait")
	}
	return Meets(strings.Join(noted, "; "))
}

// checkManagement asks for a proof where the design counts on load management.
func checkManagement(s *Subject) Finding {
	if s.Point.Circuit.ManagedTo == 0 && !s.Point.Circuit.Shares {
		return Finding{}
	}
	return s.Choice(commission.Management, "check the sensor's direction and conductor, and the limit that was set")
}

func checkInstruments(s *Subject) Finding {
	n := 0
	for i := range s.Job.Log {
		e := &s.Job.Log[i]
		if e.Kind != job.ReadingMade || e.Point != s.Point.ID || e.Point == "" {
			continue
		}
		n++
		if t, _ := s.Book.In.Tests.Find(e.Subject); t.Choice == nil && !t.Words && e.Instrument == "" {
			if latest, ok := s.Job.Latest(job.ReadingMade, e.Point, e.Subject); ok && latest.ID == e.ID {
				return Missing("the instrument of " + t.Title)
			}
		}
	}
	if n == 0 {
		return Missing("readings")
	}
	return Meets("each reading names its instrument")
}

// checkCalibration stops where a reading that counts was taken with an instrument
// whose calibration had ended. Instruments that the firm's register does not
// have are not judged.
func checkCalibration(s *Subject) Finding {
	judged := 0
	for i := range s.Job.Log {
		e := &s.Job.Log[i]
		if e.Point != s.Point.ID || e.Calibrated == "" || e.Kind != job.ReadingMade && e.Kind != job.TorqueMade {
			continue
		}
		if latest, ok := s.Job.Latest(e.Kind, e.Point, e.Subject); !ok || latest.ID != e.ID {
			continue
		}
		judged++
		if day := e.At.Format(time.DateOnly); day > e.Calibrated {
			return Fails(e.Instrument+" was used on "+day+", its calibration ended "+e.Calibrated, "test again with an instrument in calibration; a verifier may accept it with a reason")
		}
	}
	if judged == 0 {
		return Finding{}
	}
	return Meets(strconv.Itoa(judged) + " readings by instruments in calibration")
}

// checkDoubts watches for readings that are possible but unlikely together.
func checkDoubts(s *Subject) Finding {
	read := map[string]quantity.Reading{}
	for _, t := range s.sequence() {
		if t.Choice != nil || t.Words {
			continue
		}
		if e, ok := s.Job.Latest(job.ReadingMade, s.Point.ID, t.ID); ok && e.Instrument != commission.Calculated {
			if r, err := quantity.ParseReading(e.Value, t.Unit); err == nil {
				read[t.ID] = r
			}
		}
	}
	if len(read) < 2 {
		return Finding{}
	}
	var expected commission.Expected
	if f := s.Book.Expected; f != nil {
		expected = f(s)
	}
	list := commission.Doubts(read, expected)
	if len(list) == 0 {
		return Meets(strconv.Itoa(len(read)) + " readings compared with each other and with the design")
	}
	var what, causes []string
	for _, d := range list {
		what = append(what, d.What)
		causes = append(causes, strings.Join(d.Causes, "; or "))
	}
	return Advise(strings.Join(what, ". "), "likely causes, the likeliest first: "+strings.Join(causes, ". "))
}

func signed(role string) func(*Subject) Finding {
	return func(s *Subject) Finding {
		e, ok := s.Job.Latest(job.SignedOff, "", role)
		if !ok {
			return Missing("signature for " + role)
		}
		switch {
		case role == "design" && e.Value != s.Designed.DesignDigest():
			return Missing("a new signature: the design was changed after " + e.By + " signed it")
		case role == "construction" && e.Value != s.Designed.ConstructionDigest():
			return Missing("a new signature: what was built, set or tightened was changed after " + e.By + " signed it")
		}
		return Meets(e.By + ", " + e.At.Format("2 Jan 2006 15:04"))
	}
}

func checkScheduler(s *Subject) Finding {
	e, ok := s.Job.Latest(job.SettingMade, s.Point.ID, "scheduler")
	if !ok {
		return Missing("which one schedules, car or charger: both together fight")
	}
	if e.Value != "car" && e.Value != "charger" {
		return Missing("car or charger")
	}
	return Meets("the " + e.Value + " schedules")
}
