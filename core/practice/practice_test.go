package practice

import (
	"strings"
	"testing"

	"dogbolt/core/commission"
	"dogbolt/core/worklog"
)

func TestCases(t *testing.T) {
	ids, schools := map[string]bool{}, map[worklog.School]int{}
	for _, c := range Cases {
		f, ok := Find(c.Fault)
		if !ok || ids[c.ID] || c.Title == "" || c.Story == "" {
			t.Errorf("%+v", c)
		}
		ids[c.ID] = true
		schools[c.School]++
		// Some test of the case shows the fault, and the story does not name it.
		if len(f.Shows) > 0 && names(f.Shows, c) == "" {
			t.Errorf("%s: no test shows %s", c.ID, c.Fault)
		}
		if strings.Contains(strings.ToLower(c.Title+c.Story), strings.ToLower(f.Title)) {
			t.Errorf("%s gives its fault away", c.ID)
		}
	}
	if len(Cases) < 12 || schools[worklog.UK] < 6 || schools[worklog.US] < 6 {
		t.Errorf("%d cases, %v", len(Cases), schools)
	}
	for _, s := range []worklog.School{worklog.UK, worklog.US} {
		j := Job(s)
		if errs := j.Validate(); len(errs) > 0 || len(j.Log) > 0 || len(j.Design.Circuits) != 1 {
			t.Errorf("%s: %v", s, errs)
		}
	}
}

// TestScore: dead before live, nothing over a failed test, no idle reading, and
// the right name and remedy.
func TestScore(t *testing.T) {
	damp, _ := FindCase("uk-1")
	slow, _ := FindCase("uk-3")
	fine, _ := FindCase("us-6")
	dead := []string{commission.R1R2, commission.Insulation, commission.PolarityDead}
	all := func(c Case) (ids []string) {
		for _, x := range c.Tests() {
			ids = append(ids, x.ID)
		}
		return ids
	}
	for _, c := range []struct {
		name                       string
		c                          Case
		try                        Try
		safety, economy, diagnosis int
		words                      string
	}{
		{"found dead, and left dead", damp, Try{Tests: dead[:2], Failed: []string{commission.Insulation}, Fault: "damp-insulation", Remedy: "damp-insulation"}, 40, 20, 40, "Dead came before live"},
		{"switched on over it", damp, Try{Tests: append(dead, commission.Ze), Failed: []string{commission.Insulation}, Fault: "damp-insulation", Remedy: "damp-insulation"}, 0, 16, 40, "although a dead test had failed"},
		{"live first", slow, Try{Tests: []string{commission.RCDTime}, Fault: "slow-rcd", Remedy: "slow-rcd"}, 25, 20, 40, "before all dead tests"},
		{"in order", slow, Try{Tests: append(dead, commission.RCDTime), Fault: "slow-rcd", Remedy: "slow-rcd"}, 40, 20, 40, "643.8"},
		{"read twice", slow, Try{Tests: append(dead, commission.RCDTime, commission.RCDTime, commission.Ze), Fault: "slow-rcd", Remedy: "slow-rcd"}, 40, 12, 40, "2 of 6"},
		{"named wrong, remedy wrong", slow, Try{Tests: append(dead, commission.RCDTime), Fault: "loose-neutral", Remedy: "loose-neutral"}, 40, 20, 0, "Replace the device"},
		{"guessed", slow, Try{Tests: dead, Fault: "slow-rcd", Remedy: "slow-rcd"}, 40, 0, 0, "A guess is no diagnosis"},
		{"guessed without a test", slow, Try{Fault: "slow-rcd", Remedy: "slow-rcd"}, 0, 0, 0, "Nothing was tested"},
		{"nothing wrong, after all tests", fine, Try{Tests: all(fine), Fault: "none", Remedy: "none"}, 40, 20, 40, "agrees with the others"},
		{"nothing wrong, after one test", fine, Try{Tests: []string{commission.Ground}, Fault: "none", Remedy: "none"}, 40, 0, 40, "whole sequence"},
		{"named nothing", slow, Try{Tests: append(dead, commission.RCDTime)}, 40, 20, 0, "Named was: nothing"},
	} {
		r := Score(c.c, c.try)
		if r.Safety != c.safety || r.Economy != c.economy || r.Diagnosis != c.diagnosis || r.Total != c.safety+c.economy+c.diagnosis || !strings.Contains(strings.Join(r.Why, " "), c.words) {
			t.Errorf("%s: %+v; want %d %d %d with %q", c.name, r, c.safety, c.economy, c.diagnosis, c.words)
		}
	}
}

func TestChoices(t *testing.T) {
	list := Choices(worklog.UK, []string{"none", "open-pe", "gremlins"})
	if len(list) != 2 || list[0].ID != "none" || list[1].Remedy == "" {
		t.Errorf("%+v", list)
	}
	if _, ok := FindCase("uk-99"); ok {
		t.Error("a case that there is not")
	}
}
