package rulebook

import (
	"slices"
	"strconv"
	"strings"
	"time"

	"dogbolt/core/commission"
	"dogbolt/core/inspect"
	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/worklog"
)

// The checks of the readings that every rulebook shares.

// checkOrder names tests that were made before or after their time: those before
// switching on after it, live ones before it.
func checkOrder(s *Subject) Finding {
	on, first := -1, map[string]int{} // where it was switched on, and each test read, at first
	for i, e := range s.Job.Of(job.StepDone, job.ReadingMade) {
		_, seen := first[e.Subject]
		switch {
		case e.Kind == job.StepDone && e.Subject == worklog.Energise && on < 0:
			on = i
		case e.Kind == job.ReadingMade && e.Point == s.Point.ID && !seen:
			first[e.Subject] = i
		}
	}
	var early, late []string
	read := 0
	for _, t := range s.sequence() {
		at, ok := first[t.ID]
		switch {
		case !ok:
			continue
		case t.Group.BeforeLive() && on >= 0 && at > on:
			late = append(late, t.Title)
		case !t.Group.BeforeLive() && (on < 0 || at < on):
			early = append(early, t.Title)
		}
		read++
	}
	switch {
	case len(late) > 0:
		return Fails(
			"first read after the board was switched on: "+strings.Join(late, ", "),
			"switch off, prove dead, and test again; a verifier may accept it with a reason",
		)
	case len(early) > 0 && s.Plans(worklog.ProveDead):
		return Advise("read before the board was switched on: "+strings.Join(early, ", "), "read them again, or correct what the log says")
	case read == 0:
		return Finding{}
	}
	return Meets(strconv.Itoa(read) + " tests, each in its time")
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
		return Judge(
			r.Within(low, high),
			r,
			Num(low),
			Num(high),
			quantity.Say("{} A wants {1} % duty, {1} % read, offers {1} A", float64(amps), want, r.Value, float64(commission.Offered(r.Value))),
			"the charger offers another current than it is set to: check the setting and the duty again",
		)
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
	f = Judge(
		r.AtMost(managementSlow),
		r,
		Number{},
		Num(managementSlow),
		r.String()+", at most 10 s",
		"slow: look at the sensor's link and the maker's averaging",
	)
	if f.Verdict == Stop {
		f.Verdict = Watch
	}
	return f
}

// checkNotes watches for what the customer and the next electrician will ask, as far
// as the country's sequence has it.
func checkNotes(s *Subject) Finding {
	var missing, noted, asked []string
	for _, id := range []string{commission.Network, commission.Serial, commission.Firmware, commission.Meter} {
		t, found := s.Book.In.Tests.Find(id)
		if !found || t.When != nil && !t.When(&s.Point.Circuit) {
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

// CheckBehind judges what else a device or a feed that was replaced feeds, as it was tested again.
func CheckBehind(s *Subject) Finding {
	return s.Choice(commission.Behind, "leave off what is not sound, and tell the customer")
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
	for _, e := range s.Job.Of(job.ReadingMade) {
		if e.Point != s.Point.ID || e.Point == "" {
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
	for _, e := range s.Job.Of(job.ReadingMade, job.TorqueMade) {
		if e.Point != s.Point.ID || e.Calibrated == "" {
			continue
		}
		if latest, ok := s.Job.Latest(e.Kind, e.Point, e.Subject); !ok || latest.ID != e.ID {
			continue
		}
		judged++
		if day := e.At.Format(time.DateOnly); day > e.Calibrated {
			return Fails(
				e.Instrument+" was used on "+day+", its calibration ended "+e.Calibrated,
				"test again with an instrument in calibration; a verifier may accept it with a reason",
			)
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

// checkInspected asks that every item of the country's schedule was looked at or stated, after the
// work on it was done.
func checkInspected(s *Subject) Finding {
	schedule := &s.Book.In.Inspect
	if len(schedule.Items) == 0 {
		return Finding{}
	}
	for _, c := range s.Job.Corrections("") {
		if c.Done == nil {
			return Missing("not put right for the inspector: " + c.Asked.Reason)
		}
	}
	if open := schedule.Open(s.Job); len(open) > 0 {
		return Missing(quantity.Say("{} of {} items: ", float64(len(open)), float64(len(schedule.Of(s.Job)))) + titled(open))
	}
	if stale := schedule.Stale(s.Job, s.changing); len(stale) > 0 {
		return Missing("another look, work was done since: " + titled(stale))
	}
	if none := schedule.Contradicted(s.Job); len(none) > 0 {
		return Missing(none[0].Title + ": “none”, and " + none[0].Against(schedule, s.Job))
	}
	if wrong := schedule.Seen(s.Job, job.NotRight); len(wrong) > 0 {
		return Fails(s.reasons(wrong), "mend it, look again, and answer it anew")
	}
	if limited := schedule.Seen(s.Job, job.Limited); len(limited) > 0 {
		return Advise("limited: "+s.reasons(limited), "the certificate says so, with whom it was agreed")
	}
	if absent := schedule.Seen(s.Job, job.NotThere); len(absent) > 0 {
		return Advise("not applicable, which the job does not say: "+s.reasons(absent), "answer it anew, or see that survey and design say so")
	}
	return Meets(strconv.Itoa(len(schedule.Of(s.Job))) + " items looked at or stated")
}

// changing is the step that a variation changes, by its id; "" where none does.
func (s *Subject) changing(variation string) string {
	for _, st := range s.steps() {
		if slices.Contains(st.Changes, variation) {
			return st.ID
		}
	}
	return ""
}

// reasons tells items with the words of their answers.
func (s *Subject) reasons(list []*inspect.Item) string {
	said := make([]string, len(list))
	for i, item := range list {
		e, _ := s.Job.Latest(job.Inspected, "", item.ID)
		said[i] = item.Title + ": " + e.Reason
	}
	return strings.Join(said, "; ")
}

// mostNamed is how many items a finding names. Common practice, no source.
const mostNamed = 3

// titled names the first of some items.
func titled(list []*inspect.Item) string {
	var names []string
	for _, i := range list[:min(len(list), mostNamed)] {
		names = append(names, i.Title)
	}
	if more := len(list) - len(names); more > 0 {
		names = append(names, quantity.Say("and {} more", float64(more)))
	}
	return strings.Join(names, "; ")
}
