package visit_test

import (
	"slices"
	"strings"
	"testing"

	"dogbolt/core/books/uk"
	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/visit"
	"dogbolt/internal/testkit/ruletest"
)

const examples = "../../docs/formats/examples/"

// usual are the photos that both rulebooks ask for.
var usual = []string{"label", "board-closed", "board-open", "meter", "position", "route", "parking"}

func TestEmptyVisit(t *testing.T) {
	for _, in := range jurisdiction.All() {
		v := in.Survey.Of(&job.Survey{Places: []job.Place{{Point: "A"}}}, usual)
		var ids []string
		for _, s := range v.Sections {
			ids = append(ids, string(s.ID))
			if s.Done != 0 || s.Total == 0 {
				t.Errorf("%s: section %s is %d of %d", in.ID, s.ID, s.Done, s.Total)
			}
		}
		if got := strings.Join(ids, " "); got != "supply board loads vehicles positions route connectivity consents photos" {
			t.Errorf("sections: %s", got)
		}
		if v.Leave[0].Cost != visit.Open || v.Leave[len(v.Leave)-1].Cost != visit.Call || !slices.IsSortedFunc(v.Leave, func(a, b visit.Lack) int { return int(b.Cost - a.Cost) }) {
			t.Errorf("%s: not most costly first: %+v", in.ID, v.Leave)
		}
	}
}

// TestAnsweringCloses: every item names a field, and answering everything of a
// section closes it.
func TestAnsweringCloses(t *testing.T) {
	j := ruletest.Example(t, examples+"uk-pass.json")
	s := &j.Survey
	before := len(uk.Practice.Survey.Of(s, usual).Leave)
	s.Network = job.Network{Kind: "wifi", Signal: "good", Password: "the customer", Without: job.Yes}
	s.Consent = job.Consent{Asked: job.Yes, Landlord: job.No, OwnBay: job.Yes}
	for _, k := range usual {
		s.Photos = append(s.Photos, job.Photo{Kind: job.PhotoKind(k), Digest: strings.Repeat(k[:1], 64)})
	}
	v := uk.Practice.Survey.Of(s, visit.Photos(usual, []string{"other", "selfie", "label"}))
	if len(v.Leave) >= before {
		t.Errorf("%d open before, %d after answering", before, len(v.Leave))
	}
	for _, sec := range v.Sections {
		if slices.Contains([]visit.SectionID{"supply", "board", "loads", "vehicles", "route", "connectivity", "consents"}, sec.ID) && sec.Done != sec.Total {
			t.Errorf("%s: %d of %d; open: %+v", sec.ID, sec.Done, sec.Total, v.Leave)
		}
	}
	// The firm asks for one more photo; a kind that does not exist is not asked for.
	i := slices.IndexFunc(v.Leave, func(i visit.Lack) bool { return i.Section == "photos" })
	if i < 0 || !strings.Contains(v.Leave[i].What, "something else") || slices.ContainsFunc(v.Leave[i+1:], func(i visit.Lack) bool { return i.Section == "photos" }) {
		t.Errorf("photos open: %+v", v.Leave)
	}
	for _, it := range v.Leave {
		if !strings.HasPrefix(it.Field, "survey.") || it.What == "" || it.Takes == "" {
			t.Errorf("item without field or words: %+v", it)
		}
	}
	s.Places[0].Route = []job.Segment{{Method: job.Buried, Length: 4}, {Method: job.ThroughWall, Length: 1}}
	n := 0
	for _, it := range uk.Practice.Survey.Of(s, usual).Leave {
		if it.Section == "route" {
			n++
		}
	}
	if n != 2 {
		t.Errorf("%d open of the route, want depth and wall", n)
	}
}
