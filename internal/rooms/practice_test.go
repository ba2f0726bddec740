package rooms

import (
	"encoding/json"
	"errors"
	"strings"
	"testing"

	"dogbolt/core/jurisdiction"
	"dogbolt/core/practice"
	"dogbolt/core/schema"
	"dogbolt/internal/store"
)

// TestPracticeSolvedAndFailed: a case is solved by testing, another failed by
// going live over a failed test and guessing; both are scored, per person.
func TestPracticeSolvedAndFailed(t *testing.T) {
	a := newApp(t)
	b, err := a.Practice.StartPractice(ctx, installer, "uk-1")
	if err != nil {
		t.Fatal(err)
	}
	sent, _ := json.Marshal(b)
	if f, _ := practice.Find("damp-insulation"); strings.Contains(string(sent), f.Why) || strings.Count(string(sent), "damp-insulation") != 1 {
		t.Error("the bench gives the fault away")
	}
	for _, test := range []string{"r1r2", "insulation"} {
		if b, err = a.Practice.Measure(ctx, installer, b.Run, test); err != nil {
			t.Fatal(err)
		}
	}
	if r := b.Taken[1]; r.Verdict != "stop" || r.Value != "0.42" || b.Taken[0].Verdict != "sound" {
		t.Errorf("%+v", b.Taken)
	}
	if b, err = a.Practice.AnswerPractice(ctx, installer, b.Run, "damp-insulation", "damp-insulation"); err != nil || b.Result.Total != 100 {
		t.Errorf("%+v %v", b.Result, err)
	}
	if _, err := a.Practice.Measure(ctx, installer, b.Run, "ze"); err == nil {
		t.Error("measured after the answer")
	}
	c, err := a.Practice.StartPractice(ctx, installer, "us-8")
	if err != nil {
		t.Fatal(err)
	}
	for _, test := range []string{"ground-continuity", "insulation", "hot-hot"} {
		if c, err = a.Practice.Measure(ctx, installer, c.Run, test); err != nil {
			t.Fatal(err)
		}
	}
	if c, err = a.Practice.AnswerPractice(ctx, installer, c.Run, "loose-neutral", "loose-neutral"); err != nil || c.Result.Safety != 0 || c.Result.Diagnosis != 0 {
		t.Errorf("%+v %v", c.Result, err)
	}
	v, err := a.Practice.Practice(ctx, installer)
	if err != nil || v.Best["uk-1"] != 100 || len(v.Results) != 1 || v.Results[0].Cases != 2 || v.Results[0].Name != "K. Osei" {
		t.Errorf("%+v %v", v, err)
	}
	if v, _ := a.Practice.Practice(ctx, verifier); len(v.Best) != 0 || len(v.Results) != 1 {
		t.Errorf("another person's best: %+v", v)
	}
}

func TestPracticeRefuses(t *testing.T) {
	a := newApp(t)
	if _, err := a.Practice.StartPractice(ctx, installer, "uk-99"); !errors.Is(err, store.ErrNotFound) {
		t.Error(err)
	}
	b, err := a.Practice.StartPractice(ctx, installer, "uk-1")
	if err != nil {
		t.Fatal(err)
	}
	if _, err := a.Practice.Measure(ctx, verifier, b.Run, "ze"); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("another person's run: %v", err)
	}
	for _, f := range []func() error{
		func() error { _, err := a.Practice.Measure(ctx, installer, b.Run, "hot-hot"); return err },
		func() error {
			_, err := a.Practice.AnswerPractice(ctx, installer, b.Run, "gremlins", "none")
			return err
		},
	} {
		var fields schema.Errors
		if err := f(); !errors.As(err, &fields) {
			t.Error(err)
		}
	}
}

// TestEveryCaseCanBeSolved: testing in order until something shows, then naming
// it, reaches full marks in every case.
func TestEveryCaseCanBeSolved(t *testing.T) {
	a := newApp(t)
	for _, c := range jurisdiction.Cases() {
		truth, _ := practice.Find(c.Fault)
		b, err := a.Practice.StartPractice(ctx, installer, c.ID)
		if err != nil {
			t.Fatal(err)
		}
		for _, test := range b.Tests {
			if b, err = a.Practice.Measure(ctx, installer, b.Run, test.ID); err != nil {
				t.Fatal(err)
			}
			if shows := len(truth.Shows) > 0 && strings.Contains(strings.Join(truth.Shows, " "), test.ID); shows && (test.Group != "dead" || b.Taken[len(b.Taken)-1].Verdict != "sound") {
				break
			}
		}
		if b, err = a.Practice.AnswerPractice(ctx, installer, b.Run, c.Fault, c.Fault); err != nil || b.Result.Total != 100 {
			t.Errorf("%s: %+v %v", c.ID, b.Result, err)
		}
	}
}
