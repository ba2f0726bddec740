package rooms

import (
	"bytes"
	"crypto/sha256"
	"encoding/json"
	"errors"
	"fmt"
	"image"
	"image/jpeg"
	"strings"
	"testing"

	"dogbolt/core/job"
	"dogbolt/core/schema"
	"dogbolt/internal/rooms/firm"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/store"
)

func picture(t testing.TB, w, h int) []byte {
	t.Helper()
	var b bytes.Buffer
	if err := jpeg.Encode(&b, image.NewGray(image.Rect(0, 0, w, h)), nil); err != nil {
		t.Fatal(err)
	}
	return b.Bytes()
}

func saveSurvey(t testing.TB, a *Rooms, v jobs.View, change func(*job.Survey)) (jobs.View, error) {
	t.Helper()
	v, err := a.Jobs.Open(ctx, surveyor, v.Summary.ID)
	if err != nil {
		t.Fatal(err)
	}
	change(&v.Job.Survey)
	body, err := json.Marshal(v.Job.Survey)
	if err != nil {
		t.Fatal(err)
	}
	return a.Jobs.SaveSection(ctx, surveyor, v.Summary.ID, "survey", jobs.Edit{Seen: v.Revisions["survey"], Body: body})
}

// TestPhotos: a picture is kept once, served only with its job, and a survey
// cannot name one that was never kept.
func TestPhotos(t *testing.T) {
	a := newApp(t)
	v := imported(t, a, "uk-fail.json")
	other := imported(t, a, "us-fail.json")
	p, err := a.Jobs.AddPhoto(ctx, installer, v.Summary.ID, picture(t, 40, 40))
	if err != nil || p.Width != 40 || len(p.Digest) != 64 {
		t.Fatalf("%+v %v", p, err)
	}
	if again, err := a.Jobs.AddPhoto(ctx, installer, v.Summary.ID, picture(t, 40, 40)); err != nil || again.Digest != p.Digest {
		t.Errorf("the same picture again: %+v %v", again, err)
	}
	if b, err := a.Jobs.Photo(ctx, office, v.Summary.ID, p.Digest); err != nil || len(b) != p.Bytes {
		t.Errorf("%d bytes of %d, %v", len(b), p.Bytes, err)
	}
	// The device knows it by the digest of what it sent, and may name it so.
	source := fmt.Sprintf("%x", sha256.Sum256(picture(t, 40, 40)))
	if b, err := a.Jobs.Photo(ctx, office, v.Summary.ID, source); err != nil || len(b) != p.Bytes || source == p.Digest {
		t.Errorf("by the digest of the file: %d bytes, %v", len(b), err)
	}
	if _, err := saveSurvey(t, a, v, func(s *job.Survey) { s.Photos = []job.Photo{{Digest: source, Kind: "label"}} }); err != nil {
		t.Errorf("a photo by the digest of the file: %v", err)
	}
	if v, err = a.Jobs.Open(ctx, office, v.Summary.ID); err != nil {
		t.Fatal(err)
	}
	if _, err := a.Jobs.Photo(ctx, office, other.Summary.ID, p.Digest); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("another job's picture: %v", err)
	}
	if _, err := a.Jobs.AddPhoto(ctx, installer, v.Summary.ID, []byte("no picture")); err == nil || !strings.Contains(err.Error(), "not a JPEG or PNG") {
		t.Errorf("no picture: %v", err)
	}
	photo := job.Photo{Digest: p.Digest, Kind: "label"}
	if _, err := saveSurvey(t, a, v, func(s *job.Survey) { s.Photos = []job.Photo{photo} }); err != nil {
		t.Errorf("a kept photo: %v", err)
	}
	photo.Digest = strings.Repeat("0", 64)
	if _, err := saveSurvey(t, a, v, func(s *job.Survey) { s.Photos = []job.Photo{photo} }); err == nil || !strings.Contains(err.Error(), "survey.photos: 1 photos are not kept") {
		t.Errorf("a photo that was never kept: %v", err)
	}
	// A job file names pictures that do not come along: its survey can be saved all the same.
	j, err := a.Jobs.Export(ctx, office, v.Summary.ID)
	if err != nil {
		t.Fatal(err)
	}
	j.Number = "EX-COPY"
	for i := range j.Log {
		j.Log[i].ID = "copy-" + j.Log[i].ID
	}
	file, err := json.Marshal(j)
	if err != nil {
		t.Fatal(err)
	}
	moved, err := a.Jobs.Import(ctx, verifier, file)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := saveSurvey(t, a, moved, func(s *job.Survey) { s.Supply.MainsSwitchAt = "elsewhere" }); err != nil {
		t.Errorf("a survey with pictures that did not come along: %v", err)
	}
	visit, err := a.Workings.Visit(ctx, surveyor, v.Summary.ID)
	if err != nil || len(visit.Sections) != 9 || len(visit.Fits) != 1 || visit.Fits[0].Mapped {
		t.Errorf("visit: %+v %v", visit, err)
	}
}

// TestPlanProblems: what only geometry shows is refused at the field, and
// nothing of the file is written.
func TestPlanProblems(t *testing.T) {
	a := newApp(t)
	v := imported(t, a, "uk-fail.json")
	bad := func(s *job.Survey) {
		s.SitePlan.Walls = []job.Wall{{From: job.XY{}, To: job.XY{Y: 6}, Thick: 0.3}}
		s.SitePlan.Positions = []job.Position{{ID: "A", At: &job.XY{X: 0.05, Y: 3}}}
	}
	_, err := saveSurvey(t, a, v, bad)
	var fields schema.Errors
	if !errors.As(err, &fields) || fields[0].Field != "survey.sitePlan.positions[0].at" || !strings.Contains(fields[0].Message, "inside wall 1, 0.10 m from its face") {
		t.Fatalf("%v", err)
	}
	good := func(s *job.Survey) { bad(s); s.SitePlan.Positions[0].At.X = 0.15 }
	if _, err := saveSurvey(t, a, v, good); err != nil {
		t.Fatal(err)
	}
	svg, err := a.Workings.SitePlanSVG(ctx, office, v.Summary.ID)
	if err != nil || !bytes.Contains(svg, []byte(">1 m<")) || !bytes.Contains(svg, []byte(`class="wall"`)) {
		t.Errorf("%v %.200s", err, svg)
	}
}

// TestHabits: a new job begins as the firm usually does it in its country, and what it cannot
// have as a habit is refused by name.
func TestHabits(t *testing.T) {
	a := newApp(t)
	h, err := a.Firm.Policy(ctx, office)
	if err != nil {
		t.Fatal(err)
	}
	var mine string
	types, err := a.Firm.ChargerTypes(ctx, office)
	if err != nil {
		t.Fatal(err)
	}
	for _, c := range types {
		if c.Country == "uk" && c.OpenPEN != "" {
			mine = c.Type
		}
	}
	for _, c := range []struct{ house, field string }{
		{`{"charger":"no such type"}`, "habits.uk.charger"}, {`{"family":"nm-b"}`, "habits.uk.family"},
		{`{"papers":["lunar-permit"]}`, "habits.uk.papers[0]"}, {`{"tools":[" "]}`, "habits.uk.tools[0]"},
		{`{"papers":["lake-orrin-electrical-permit"]}`, "habits.uk.papers[0]"},
		{`{"answers":{"survey.supply.rating":100}}`, "habits.uk.answers.survey.supply.rating"},
	} {
		var house firm.Habits
		if err := json.Unmarshal([]byte(c.house), &house); err != nil {
			t.Fatal(err)
		}
		h.Habits = map[string]firm.Habits{"uk": house}
		if err := a.Firm.SetPolicy(ctx, office, h); err == nil || !strings.Contains(err.Error(), c.field+":") {
			t.Errorf("%s: %v", c.house, err)
		}
	}
	h.Habits = map[string]firm.Habits{"atlantis": {}}
	if err := a.Firm.SetPolicy(ctx, office, h); err == nil || !strings.Contains(err.Error(), "habits.atlantis:") {
		t.Errorf("a country that is none: %v", err)
	}
	h.Habits = map[string]firm.Habits{"uk": {
		Charger: mine, Family: job.Armoured90, Papers: []string{"coastal-home-charging"}, Tools: []string{"cable sheave"},
		Answers: map[string]any{"survey.places.0.holderHeight": 0.9, "survey.consent.ownBay": nil},
	}}
	if err := a.Firm.SetPolicy(ctx, office, h); err != nil {
		t.Fatal(err)
	}
	made := func(rulebook string) jobs.View {
		v, err := a.Jobs.CreateJob(ctx, office, jobs.NewJob{Rulebook: rulebook, Points: 2, Site: job.Site{Customer: "P. Wren", Street: "3 Tern Row", Town: "Saltbeck"}})
		if err != nil {
			t.Fatal(err)
		}
		return v
	}
	v := made("bs7671:2018+A2:2022")
	for _, c := range v.Job.Design.Circuits {
		if c.Charger.Type != mine || c.Charger.Rating == 0 || c.Charger.Serial != "" || c.Earthing.OpenPEN == "" || c.Cable.Family != job.Armoured90 || c.Cable.Size != "" {
			t.Errorf("begins with %+v", c)
		}
	}
	papers := 0
	for _, p := range v.Job.Clearances.Papers {
		if p.Form == "coastal-home-charging" {
			papers++
			if p.Needed != job.Yes || p.Before != job.BeforeOrder || p.Title != "Coastal Counties home charging grant" {
				t.Errorf("begins with %+v", p)
			}
		}
	}
	if papers != 1 {
		t.Errorf("the form is on %d papers", papers)
	}
	if own := v.Policy.Answers["uk"]; own["survey.places.0.holderHeight"] != 0.9 {
		t.Errorf("the survey is offered %v", own)
	}
	for _, c := range made("nec:2023").Job.Design.Circuits {
		if c.Charger.Type != "" || c.Cable.Family != "" {
			t.Errorf("another country begins with %+v", c)
		}
	}
	parts, err := a.Workings.ProposeParts(ctx, office, imported(t, a, "uk-fail.json").Summary.ID)
	if err != nil {
		t.Fatal(err)
	}
	if last := parts[len(parts)-1]; last.Name != "cable sheave" || last.Tool != job.Yes {
		t.Errorf("the van ends with %+v", last)
	}
}

// TestHouse: prices and margins are the office's to change, and they reach the
// solver, the route and the night.
func TestHouse(t *testing.T) {
	a := newApp(t)
	v := imported(t, a, "uk-fail.json")
	file := "item,size,unit,price,currency\ntwin-earth,16 mm²,m,10,£\ndevice,B40,each,38,£\n"
	if _, err := a.Firm.SetPrices(ctx, surveyor, []byte(file)); !errors.Is(err, people.ErrForbidden) {
		t.Errorf("by a surveyor: %v", err)
	}
	if _, err := a.Firm.SetPrices(ctx, office, []byte(strings.Replace(file, "10", "free", 1))); err == nil || !strings.Contains(err.Error(), "line 2") {
		t.Errorf("a bad row: %v", err)
	}
	if lists, err := a.Firm.SetPrices(ctx, office, []byte(file)); err != nil || len(lists) != 1 {
		t.Fatalf("%v %v", lists, err)
	}
	h, err := a.Firm.Policy(ctx, surveyor)
	if err != nil {
		t.Fatal(err)
	}
	h.Margins.End, h.Margins.Share = 1, 0
	if err := a.Firm.SetPolicy(ctx, office, h); err != nil {
		t.Fatal(err)
	}
	r, err := a.Workings.Route(ctx, surveyor, v.Summary.ID, "A")
	if err != nil || r.Cut != 17 {
		t.Errorf("15 m and a metre at each end: %+v %v", r, err)
	}
	list, currency, err := a.Workings.Options(ctx, surveyor, v.Summary.ID, "A", 0, 0, 0)
	if err != nil || currency != "£" || !list[0].Priced || list[0].Cost != 17*10+38 {
		t.Errorf("%s %+v %v", currency, list[0], err)
	}
	if b, err := a.Firm.ExportPrices(ctx, office, "£"); err != nil || string(b) != file {
		t.Errorf("%q %v", b, err)
	}
	h.Photos = []string{"selfie"}
	if err := a.Firm.SetPolicy(ctx, office, h); err == nil || !strings.Contains(err.Error(), "selfie") {
		t.Errorf("a kind of photo that does not exist: %v", err)
	}
	wait := h.Costs["uk"]
	wait.Wait.High = 1
	h.Photos, h.Costs["uk"] = nil, wait
	if err := a.Firm.SetPolicy(ctx, office, h); err == nil || !strings.Contains(err.Error(), "costs.uk.wait") {
		t.Errorf("a band that ends before it begins: %v", err)
	}
	if list, err := a.Workings.Arrangements(ctx, office, v.Summary.ID, "A"); err != nil || len(list) < 5 {
		t.Errorf("%d decisions, %v", len(list), err)
	}
	if c, err := a.Workings.Costs(ctx, office, v.Summary.ID, "A"); err != nil || len(c.Missing) == 0 {
		t.Errorf("%+v %v", c, err)
	}
	if n, err := a.Workings.Night(ctx, office, v.Summary.ID, "managed"); err != nil || len(n.Ways) != 5 {
		t.Errorf("%d ways, %v", len(n.Ways), err)
	}
}

// TestKeptInPart: what can be kept of a section is, with what others saved meanwhile, and the view
// names what is held back; without being asked for so, one wrong field still refuses all.
func TestKeptInPart(t *testing.T) {
	a := newApp(t)
	v := imported(t, a, "uk-fail.json")
	seen, base := v.Revisions["survey"], section(t, v.Job.Survey)
	if _, err := saveSurvey(t, a, v, func(s *job.Survey) { s.Board.Label = "by somebody else" }); err != nil {
		t.Fatal(err)
	}
	mine := v.Job.Survey
	mine.Supply.MainsSwitchAt = "in the porch"
	mine.SitePlan.Walls = []job.Wall{{From: job.XY{}, To: job.XY{Y: 6}, Thick: 0.3}}
	mine.SitePlan.Positions = []job.Position{{ID: "Z", At: &job.XY{X: 0.05, Y: 3}}}
	edit := jobs.Edit{Seen: seen, Base: base, Body: section(t, mine)}
	if _, err := a.Jobs.SaveSection(ctx, surveyor, v.Summary.ID, "survey", edit); err == nil {
		t.Fatal("a position inside a wall was kept")
	}
	edit.Partly = true
	got, err := a.Jobs.SaveSection(ctx, surveyor, v.Summary.ID, "survey", edit)
	if err != nil {
		t.Fatal(err)
	}
	s := got.Job.Survey
	if s.Supply.MainsSwitchAt != "in the porch" || s.Board.Label != "by somebody else" {
		t.Errorf("%q, %q", s.Supply.MainsSwitchAt, s.Board.Label)
	}
	if len(got.Held) == 0 || got.Held[0].Field != "survey.sitePlan.positions[0].at" || len(s.SitePlan.Walls)+len(s.SitePlan.Positions) != 1 {
		t.Errorf("held back %v, kept %d walls and %d positions", got.Held, len(s.SitePlan.Walls), len(s.SitePlan.Positions))
	}
	now, err := a.Jobs.Open(ctx, surveyor, v.Summary.ID)
	if err != nil || now.Held != nil || now.Job.Survey.Supply.MainsSwitchAt != "in the porch" {
		t.Errorf("opened: %v %v", now.Held, err)
	}
	// A whole that is valid holds nothing back.
	mine.SitePlan.Positions[0].At.X = 0.15
	got, err = a.Jobs.SaveSection(ctx, surveyor, v.Summary.ID, "survey", jobs.Edit{Seen: now.Revisions["survey"], Base: section(t, now.Job.Survey), Body: section(t, mine), Partly: true})
	if err != nil || got.Held != nil || len(got.Job.Survey.SitePlan.Walls)+len(got.Job.Survey.SitePlan.Positions) != 2 {
		t.Errorf("%v %v", got.Held, err)
	}
}
