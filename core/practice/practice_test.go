package practice_test

import (
	"slices"
	"strings"
	"testing"

	_ "dogbolt/core/books" // the countries register themselves
	"dogbolt/core/books/us"
	"dogbolt/core/commission"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/practice"
)

func TestCases(t *testing.T) {
	ids, countries := map[string]bool{}, map[string]int{}
	for _, c := range jurisdiction.Cases() {
		f, ok := practice.Find(c.Fault)
		if !ok || ids[c.ID] || c.Title == "" || c.Story == "" {
			t.Errorf("%+v", c)
		}
		ids[c.ID] = true
		countries[c.Country]++
		// Some test of the case shows the fault, and the story does not name it.
		if len(f.Shows) > 0 && !slices.ContainsFunc(c.Tests(), func(x commission.Test) bool { return slices.Contains(f.Shows, x.ID) }) {
			t.Errorf("%s: no test shows %s", c.ID, c.Fault)
		}
		if strings.Contains(strings.ToLower(c.Title+c.Story), strings.ToLower(f.Title)) {
			t.Errorf("%s gives its fault away", c.ID)
		}
	}
	for _, in := range jurisdiction.All() {
		if countries[in.ID] < 6 {
			t.Errorf("%s: %d cases", in.ID, countries[in.ID])
		}
		j, err := in.Cases.Job()
		if err != nil {
			t.Fatal(err)
		}
		if errs := j.Validate(); len(errs) > 0 || len(j.Log) > 0 || len(j.Design.Circuits) != 1 {
			t.Errorf("%s: %v", in.ID, errs)
		}
	}
}

// TestScore: dead before live, nothing over a failed test, no idle reading, and
// the right name and remedy.
func TestScore(t *testing.T) {
	damp, _, _ := jurisdiction.FindCase("uk-1")
	slow, _, _ := jurisdiction.FindCase("uk-3")
	fine, _, _ := jurisdiction.FindCase("us-6")
	dead := []string{commission.Bonding, commission.R1R2, commission.Insulation, commission.InsulationLive, commission.PolarityDead}
	all := func(c practice.Case) (ids []string) {
		for _, x := range c.Tests() {
			ids = append(ids, x.ID)
		}
		return ids
	}
	for _, c := range []struct {
		name                       string
		c                          practice.Case
		try                        practice.Try
		safety, economy, diagnosis int
		words                      string
	}{
		{"found dead, and left dead", damp, practice.Try{Tests: dead[:3], Failed: []string{commission.Insulation}, Fault: "damp-insulation", Remedy: "damp-insulation"}, 40, 20, 40, "Dead came before live"},
		{"switched on over it", damp, practice.Try{Tests: append(dead, commission.Zs), Failed: []string{commission.Insulation}, Fault: "damp-insulation", Remedy: "damp-insulation"}, 0, 16, 40, "although a dead test had failed"},
		{"live first", slow, practice.Try{Tests: []string{commission.RCDTime}, Fault: "slow-rcd", Remedy: "slow-rcd"}, 25, 20, 40, "before all dead tests"},
		{"in order", slow, practice.Try{Tests: append(dead, commission.RCDTime), Fault: "slow-rcd", Remedy: "slow-rcd"}, 40, 20, 40, "643.8"},
		{"read twice", slow, practice.Try{Tests: append(dead, commission.RCDTime, commission.RCDTime, commission.Zs), Fault: "slow-rcd", Remedy: "slow-rcd"}, 40, 12, 40, "2 of 8"},
		{"named wrong, remedy wrong", slow, practice.Try{Tests: append(dead, commission.RCDTime), Fault: "loose-neutral", Remedy: "loose-neutral"}, 40, 20, 0, "Replace the device"},
		{"guessed", slow, practice.Try{Tests: dead, Fault: "slow-rcd", Remedy: "slow-rcd"}, 40, 0, 0, "A guess is no diagnosis"},
		{"guessed without a test", slow, practice.Try{Fault: "slow-rcd", Remedy: "slow-rcd"}, 0, 0, 0, "Nothing was tested"},
		{"nothing wrong, after all tests", fine, practice.Try{Tests: all(fine), Fault: "none", Remedy: "none"}, 40, 20, 40, "agrees with the others"},
		{"nothing wrong, after one test", fine, practice.Try{Tests: []string{commission.Ground}, Fault: "none", Remedy: "none"}, 40, 0, 40, "whole sequence"},
		{"named nothing", slow, practice.Try{Tests: append(dead, commission.RCDTime)}, 40, 20, 0, "Named was: nothing"},
	} {
		t.Run(c.name, func(t *testing.T) {
			r := practice.Score(c.c, c.try)
			if r.Safety != c.safety || r.Economy != c.economy || r.Diagnosis != c.diagnosis || r.Total != c.safety+c.economy+c.diagnosis || !strings.Contains(strings.Join(r.Why, " "), c.words) {
				t.Errorf("%s: %+v; want %d %d %d with %q", c.name, r, c.safety, c.economy, c.diagnosis, c.words)
			}
		})
	}
}

func TestChoices(t *testing.T) {
	c, _, _ := jurisdiction.FindCase("us-1")
	list := c.Choices()
	if len(list) != len(us.Practice.Cases.Faults) || list[0].ID != "none" || list[1].Remedy == "" {
		t.Errorf("%+v", list)
	}
	if _, _, ok := jurisdiction.FindCase("uk-99"); ok {
		t.Error("a case that there is not")
	}
}
