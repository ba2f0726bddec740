package inspect_test

import (
	"testing"
	"time"

	"dogbolt/core/books/uk"
	"dogbolt/core/books/us"
	"dogbolt/core/inspect"
	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/rulebook"
)

// TestOffers: what nobody knows is not offered, and what is offered says from what.
func TestOffers(t *testing.T) {
	none := inspect.Known{Sound: func(string) bool { return false }, Done: func(string) bool { return false }, Title: func(s string) string { return s }}
	all := none
	all.Sound, all.Done = func(string) bool { return true }, func(string) bool { return true }
	clipped := job.Job{Survey: job.Survey{Places: []job.Place{{Point: "A", Name: "the drive", Route: []job.Segment{{Method: job.Surface, Length: 4}}}}}}
	designed := clipped
	designed.Design.Circuits = []job.Circuit{{Point: "A", SPD: job.SPDDeclined, Connection: job.HardWired, Charger: job.Charger{Rating: 60}}}
	buried := clipped
	buried.Survey.Places = []job.Place{{Point: "A", Route: []job.Segment{{Method: job.Surface, Length: 4}, {Method: job.Buried, Length: 4}}}}
	half := clipped
	half.Survey.Places = []job.Place{{Point: "A", Route: []job.Segment{{Method: job.Surface}}}}
	two := designed
	two.Survey.Places = append(two.Survey.Places[:1:1], job.Place{Point: "B", Route: two.Survey.Places[0].Route})
	fitted := designed
	fitted.Design.Circuits = []job.Circuit{{Point: "A", SPD: job.SPDFitted}}
	large := designed
	large.Design.Circuits = []job.Circuit{{Point: "A", Connection: job.HardWired, Charger: job.Charger{Rating: 80}}}
	for _, c := range []struct {
		name   string
		in     *jurisdiction.Jurisdiction
		j      job.Job
		known  inspect.Known
		item   string
		offers string
		why    string
	}{
		{"an empty job knows nothing buried", uk.Practice, job.Job{}, none, "cable-ground", "", ""},
		{"a route that is not measured", uk.Practice, half, none, "cable-ground", "", ""},
		{"all clipped", uk.Practice, clipped, none, "cable-ground", "not-there", "no cable is buried"},
		{"buried, judged sound", uk.Practice, buried, all, "cable-ground", "as-it-should-be", "buried"},
		{"buried, not judged", uk.Practice, buried, none, "cable-ground", "", ""},
		{"a second source was not asked for", uk.Practice, job.Job{}, all, "sources", "", ""},
		{"surge protection declined", uk.Practice, designed, none, "unit-surge", "not-there", "declined by the owner"},
		{"surge protection of one point of two is not known", uk.Practice, two, none, "unit-surge", "", ""},
		{"surge protection fitted: a person looks", uk.Practice, fitted, all, "unit-surge", "", ""},
		{"next inspection where nobody asked whose the house is", uk.Practice, designed, all, "next-inspection", "", ""},
		{"next inspection of a landlord's", uk.Practice, let(designed, job.Yes), all, "next-inspection", "", ""},
		{"next inspection of the owner's", uk.Practice, let(designed, job.No), none, "next-inspection", "10 years", "dwelling lived in by its owner; sooner at a change of occupier"},
		{"limitations are never offered", uk.Practice, designed, all, "limits", "", ""},
		{"labels of bonding are never offered", uk.Practice, designed, all, "earth-labels", "", ""},
		{"a directory by its rule", us.Practice, designed, all, "panel-directory", "as-it-should-be", "directory"},
		{"an earth of its own is not known", uk.Practice, job.Job{}, all, "charger-pen", "as-it-should-be", "open-pen"},
		{"nobody looks for a person", uk.Practice, designed, all, "intake", "", ""},
		{"extent without a position's name", uk.Practice, buried, all, "extent", "", ""},
		{"extent", uk.Practice, clipped, none, "extent", "said", "new circuit from the consumer unit to charging point A at the drive"},
		{"departures where a stop was accepted", uk.Practice, job.Job{Log: []job.Entry{{ID: "o", Kind: job.Overridden}}}, none, "departures", "", ""},
		{"existing defects are never offered", uk.Practice, designed, all, "existing", "", ""},
		{"a disconnect up to 60 A", us.Practice, designed, none, "unit-disconnect", "not-there", "not more than 60 A and 150 V to ground"},
		{"a disconnect above 60 A", us.Practice, large, all, "unit-disconnect", "", ""},
		{"a box where nobody asked for pull points", us.Practice, designed, none, "run-boxes", "", ""},
		{"no box where there is no pull point", us.Practice, pulled(designed, job.No), none, "run-boxes", "not-there", "one length from the panel to the unit, no box between"},
		{"a pull point", us.Practice, pulled(designed, job.Yes), none, "run-boxes", "", ""},
		{"a box where the unit is plugged in", us.Practice, fitted, none, "run-boxes", "", ""},
	} {
		offers := c.in.Inspect.Offers(&c.j, c.known)
		var got inspect.Offer
		for _, o := range offers {
			if o.Item == c.item {
				got = o
			}
		}
		if got.Value != c.offers || got.Why != c.why {
			t.Errorf("%s: %+v", c.name, got)
		}
		for _, o := range offers {
			if i := c.in.Inspect.Find(o.Item); i.NeedsWords(o.Value) && len(o.Why) < 10 {
				t.Errorf("%s: %s is offered as %s without words: %q", c.name, o.Item, o.Value, o.Why)
			}
		}
	}
}

// let is a job at a dwelling that a landlord has a say in, or not.
func let(j job.Job, landlord job.Answer) job.Job {
	j.Survey.Consent.Landlord = landlord
	return j
}

// pulled is a job whose route says whether it ends at a pull point.
func pulled(j job.Job, end job.Answer) job.Job {
	p := j.Survey.Places[0]
	p.Route = []job.Segment{{Method: job.Conduit, Length: 4, Pull: end}}
	j.Survey.Places = []job.Place{p}
	return j
}

// TestNextBy: so many years on; a leap day comes to the first of March.
func TestNextBy(t *testing.T) {
	day := func(s string) time.Time { d, _ := time.Parse(time.DateOnly, s); return d }
	for _, c := range []struct{ stated, from, by string }{
		{"10 years", "2026-11-28", "2036-11-28"}, {"1 year", "2028-02-29", "2029-03-01"}, {"soon", "2026-11-28", "0001-01-01"}, {"", "2026-11-28", "0001-01-01"},
	} {
		if got := inspect.NextBy(c.stated, day(c.from)).Format(time.DateOnly); got != c.by {
			t.Errorf("%q from %s: %s", c.stated, c.from, got)
		}
	}
}

// TestItems: ids are unique, and every item names its clause.
func TestItems(t *testing.T) {
	for _, book := range rulebook.All() {
		rules := map[string]bool{}
		for i := range book.Rules {
			rules[book.Rules[i].ID] = true
		}
		for _, i := range book.In.Inspect.Items {
			for _, id := range i.Rules {
				if !rules[id] {
					t.Errorf("%s, %s: there is no rule %s", book.ID, i.ID, id)
				}
			}
		}
	}
	for _, in := range []*jurisdiction.Jurisdiction{uk.Practice, us.Practice} {
		seen := map[string]bool{}
		for _, i := range in.Inspect.Items {
			if seen[i.ID] || i.Clause == "" || i.Title == "" || i.Part == "" {
				t.Errorf("%s: %+v", in.ID, i)
			}
			seen[i.ID] = true
		}
	}
}
