package people

import (
	"errors"
	"testing"

	"dogbolt/core/job"
)

// TestWhoMay: the whole table of permissions, written a second time: o(ffice),
// s(urveyor), i(nstaller), v(erifier).
func TestWhoMay(t *testing.T) {
	want := map[Action]string{
		ViewJobs: "osiv", ViewFirm: "osiv", TakePhotos: "osiv", SavePlan: "osiv", KeepStock: "osiv",
		CreateJobs: "osv", SaveSite: "osv", SaveSurvey: "osv", SaveDesign: "osv", SavePapers: "osv", BookDays: "osv", ViewAll: "osv", DropStock: "osv", SignDesign: "osv",
		WriteLog: "iv", SignWork: "iv",
		Override: "v", SealJobs: "v",
		ManageUsers: "o", ManageFirm: "o", Personal: "o", ViewAudit: "ov", ChangeKey: "ov",
	}
	if len(want) != len(Actions()) {
		t.Errorf("%d permissions in this table, the program has %d", len(want), len(Actions()))
	}
	for action, roles := range want {
		for _, r := range AllRoles {
			may := false
			for _, initial := range roles {
				may = may || string(r)[0] == byte(initial)
			}
			if (Roles{r}).May(action) != may {
				t.Errorf("may %s %s: %t, want %t", r, action, (Roles{r}).May(action), may)
			}
			if err := May(Person{Roles: Roles{r}}, action); may != (err == nil) || !may && !errors.Is(err, ErrForbidden) {
				t.Errorf("%s, %s: %v", r, action, err)
			}
		}
	}
}

// TestActionOf: which permission an entry of the log needs.
func TestActionOf(t *testing.T) {
	for _, c := range []struct {
		e    job.Entry
		want Action
	}{
		{job.Entry{Kind: job.Overridden}, Override},
		{job.Entry{Kind: job.SignedOff, Subject: "design"}, SignDesign},
		{job.Entry{Kind: job.SignedOff, Subject: "construction"}, SignWork},
		{job.Entry{Kind: job.Noted}, ViewJobs},
		{job.Entry{Kind: job.TakenBack}, ViewJobs},
		{job.Entry{Kind: job.PhotoTaken}, TakePhotos},
		{job.Entry{Kind: job.StepDone}, WriteLog},
		{job.Entry{Kind: job.ReadingMade}, WriteLog},
		{job.Entry{Kind: job.TorqueMade}, WriteLog},
		{job.Entry{Kind: job.SettingMade}, WriteLog},
		{job.Entry{Kind: job.Varied}, WriteLog},
	} {
		if got := ActionOf(c.e); got != c.want {
			t.Errorf("%s %s: %s, want %s", c.e.Kind, c.e.Subject, got, c.want)
		}
	}
}
