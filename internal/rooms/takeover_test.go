package rooms

import (
	"errors"
	"testing"

	"dogbolt/core/books/uk"
	"dogbolt/core/job"
	"dogbolt/core/rulebook"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/people"
)

// TestTakeOver: what a finding offers becomes planned work of the design, what the survey found stays, and the finding says both;
// what is not offered is refused, and so is who may not design.
func TestTakeOver(t *testing.T) {
	a := newApp(t)
	v, err := saveSurvey(t, a, imported(t, a, "uk-pass.json"), func(s *job.Survey) { s.Board.UpstreamRCDType = "AC" })
	if err != nil {
		t.Fatal(err)
	}
	said := func(v jobs.View) rulebook.Finding {
		for _, f := range v.Findings {
			if f.Rule == "rcd-upstream" {
				return f
			}
		}
		t.Fatal("nothing is said of the device upstream")
		return rulebook.Finding{}
	}
	if f := said(v); f.Verdict != rulebook.Stop || len(f.Offers) == 0 {
		t.Fatalf("%+v", f)
	}
	id, offer := v.Summary.ID, said(v).Offers[0].Title
	if _, err := a.Jobs.TakeOver(ctx, installer, id, "rcd-upstream", "A", offer); err == nil {
		t.Error("an installer designs")
	}
	if _, err := a.Jobs.TakeOver(ctx, surveyor, id, "rcd-upstream", "A", "Replace it by a wish"); err == nil {
		t.Error("what is not offered was taken over")
	}
	if _, err := a.Jobs.TakeOver(ctx, surveyor, id, "rcd-upstream", "Z", offer); err == nil {
		t.Error("a remedy of a point that there is not was taken over")
	}
	v, err = a.Jobs.TakeOver(ctx, surveyor, id, "rcd-upstream", "A", offer)
	if err != nil {
		t.Fatal(err)
	}
	if v.Job.Design.Ahead.Type != job.TypeA || v.Job.Survey.Board.UpstreamRCDType != "AC" || said(v).Verdict != rulebook.Sound {
		t.Errorf("%+v, found %s: %+v", v.Job.Design.Ahead, v.Job.Survey.Board.UpstreamRCDType, said(v))
	}
	if _, err := a.Jobs.TakeOver(ctx, surveyor, id, "rcd-upstream", "A", offer); err == nil {
		t.Error("it is offered still")
	}
	if _, err := a.Jobs.TakeOver(ctx, surveyor, "none", "rcd-upstream", "A", offer); err == nil || errors.Is(err, people.ErrSealed) {
		t.Errorf("a job that there is not: %v", err)
	}
}

// TestTakeOverBeforeDesign: what is offered of the whole job is taken where nothing is designed yet.
func TestTakeOverBeforeDesign(t *testing.T) {
	a := newApp(t)
	v, err := a.Jobs.CreateJob(ctx, surveyor, jobs.NewJob{Rulebook: uk.ID, Number: "R-77", Points: 1})
	if err != nil {
		t.Fatal(err)
	}
	none := 0
	if v, err = saveSurvey(t, a, v, func(s *job.Survey) { s.Board.Ways, s.Board.WaysFree = 12, &none }); err != nil {
		t.Fatal(err)
	}
	if v, err = a.Jobs.TakeOver(ctx, surveyor, v.Summary.ID, "board", "", "Fit a small board beside it"); err != nil {
		t.Fatal(err)
	}
	if v.Job.Design.Beside.Fitted != job.Yes || *v.Job.Survey.Board.WaysFree != 0 {
		t.Errorf("%+v", v.Job.Design)
	}
}

// TestNextJob: a job begins where another at the same site ended; not by rules of another country, nor from a job that one does not see.
func TestNextJob(t *testing.T) {
	a := newApp(t)
	was := imported(t, a, "uk-pass.json")
	next, err := a.Jobs.CreateJob(ctx, surveyor, jobs.NewJob{Rulebook: was.Job.Rulebook, Kind: job.Removal, From: was.Summary.ID})
	if err != nil {
		t.Fatal(err)
	}
	if next.Job.Site.Customer != was.Job.Site.Customer || next.Job.Site.Follows != was.Job.Number || !next.Job.Removes() || next.Job.Number == was.Job.Number {
		t.Errorf("%+v, %v", next.Job.Site, next.Job.Kinds())
	}
	more, err := a.Jobs.CreateJob(ctx, surveyor, jobs.NewJob{Rulebook: was.Job.Rulebook, From: was.Summary.ID})
	if err != nil || len(more.Job.Survey.Places) != 1 || more.Job.Survey.Loads[len(more.Job.Survey.Loads)-1].Kind != job.ExistingEV {
		t.Errorf("%+v %v", more.Job.Survey.Loads, err)
	}
	for name, n := range map[string]jobs.NewJob{
		"another country":         {Rulebook: "nec:2023", From: was.Summary.ID},
		"a job that there is not": {Rulebook: was.Job.Rulebook, From: "none"},
		"another site":            {Rulebook: was.Job.Rulebook, From: was.Summary.ID, Site: job.Site{Customer: "another"}},
		"more points":             {Rulebook: was.Job.Rulebook, From: was.Summary.ID, Points: 2},
	} {
		if _, err := a.Jobs.CreateJob(ctx, surveyor, n); err == nil {
			t.Errorf("made from %s", name)
		}
	}
}
