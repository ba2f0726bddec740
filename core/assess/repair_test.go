package assess

import (
	"testing"

	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/worklog"
)

// TestRepairOfASetting: nothing is opened, so the charger is tried before it is in use again; nobody works inside, proves dead or tests
// dead on such a job.
func TestRepairOfASetting(t *testing.T) {
	s := begun(t)
	c := &s.j.Design.Circuits[0]
	c.Existing, c.Charger.Fate, c.SPD = job.Yes, job.FateKept, job.SPDPresent
	c.Mended = job.Mended{Fault: "charges at peak hours", Cause: "schedule lost", Part: job.MendedSoftware}
	for _, e := range []job.Entry{step(worklog.MainOff, "", "lock 3"), step(worklog.BoardWork, "A", "")} {
		s.refused(lead, e, "is not a step of this job")
	}
	s.refused(lead, job.Entry{Kind: job.ReadingMade, Subject: worklog.SourceBefore, Value: "238"}, "cover off")
	s.refused(lead, job.Entry{Kind: job.TorqueMade, Point: "A", Subject: "board-line", Value: "2.5", Target: "2.5", Unit: "N·m"}, "is not a terminal")
	s.must(lead, step(worklog.ChargerEnd, "A", "new version of its software"))
	s.must(lead, reading(commission.Functions, "correct"))
	s.must(lead, reading(commission.Zs, "0.4")) // nobody asks for it, and it is judged
	s.refused(lead, reading(commission.Insulation, "999"), "follows a proof of dead")
	s.refused(lead, step(worklog.Energise, "", ""), "waits for: Charger set and locked")
}
