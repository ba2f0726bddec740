package firm

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"sync"
	"time"
	_ "time/tzdata" // the zones, wherever the program runs

	"dogbolt/core/assess"
	"dogbolt/core/clearance"
	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/planning"
	"dogbolt/core/rulebook"
	"dogbolt/core/schema"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/rooms/settings"
)

// Resources is what the firm works with: crews, vans and instruments, its
// registrations, ways and hours.
type Resources struct {
	Crews         []planning.Crew        `json:"crews" maxItems:"40"`
	Instruments   []planning.Instrument  `json:"instruments" maxItems:"200"`
	Registrations []clearance.Registered `json:"registrations" maxItems:"40"`
	Travel        []planning.Travel      `json:"travel" maxItems:"400"`
	Hours         planning.Workday       `json:"hours"`
	ReelMargin    float64                `json:"reelMargin" minimum:"0" maximum:"50" doc:"What should stay on a reel after a cut, m."`
	Zones         map[string]string      `json:"zones" doc:"Time zone of sites that name none, and of crews, by the id of the country."`
}

const keyResources = "resources"

// UsualResources has no crews. 2 m on a reel: common practice, no source.
func UsualResources() Resources {
	zones := map[string]string{}
	for _, in := range jurisdiction.All() {
		zones[in.ID] = in.Zone
	}
	return Resources{Crews: []planning.Crew{}, Instruments: []planning.Instrument{}, Registrations: []clearance.Registered{}, Travel: []planning.Travel{},
		Hours: planning.UsualHours, ReelMargin: 2, Zones: zones}
}

// Resources returns what the firm works with.
func (svc *Service) Resources(ctx context.Context, by people.Person) (Resources, error) {
	if err := people.May(by, people.ViewFirm); err != nil {
		return Resources{}, err
	}
	return svc.ResourcesNow(ctx)
}

// ResourcesNow returns what the firm works with, for the program itself, as today's program
// names it.
func (svc *Service) ResourcesNow(ctx context.Context) (Resources, error) {
	v, err := svc.settings.Read(ctx, keyResources)
	if err != nil {
		return Resources{}, err
	}
	return resourcesOf(v)
}

func resourcesOf(v settings.Values) (Resources, error) {
	y := UsualResources()
	if err := v.Get(keyResources, &y); err != nil {
		return y, err
	}
	// As the first program wrote it: zoneUk, zoneUs.
	var old map[string]any
	if err := v.Get(keyResources, &old); err != nil {
		return y, err
	}
	for _, in := range jurisdiction.All() {
		if z, ok := old["zone"+strings.ToUpper(in.ID[:1])+in.ID[1:]].(string); ok && old["zones"] == nil {
			y.Zones[in.ID] = z
		}
	}
	return y, nil
}

// SetResources writes what the firm works with.
func (svc *Service) SetResources(ctx context.Context, by people.Person, y Resources) error {
	if err := people.May(by, people.ManageFirm); err != nil {
		return err
	}
	if errs := y.check(); len(errs) > 0 {
		return errs
	}
	return svc.settings.Set(ctx, by.Name, keyResources, "change crews and instruments", y)
}

// faults gathers what is wrong with resources.
type faults struct{ schema.Errors }

func (e *faults) fail(field, format string, args ...any) {
	e.Errors = append(e.Errors, schema.Invalid(field, format, args...)...)
}

func (e *faults) day(field, d string) {
	if _, err := time.Parse(time.DateOnly, d); err != nil {
		e.fail(field, "%q is not a day such as 2027-03-28", d)
	}
}

// check looks at what one field cannot say by itself.
func (y *Resources) check() schema.Errors {
	var e faults
	ids := y.checkCrews(&e)
	for i, t := range y.Instruments {
		e.day(fmt.Sprintf("instruments[%d].until", i), t.Until)
		if t.Crew != "" && !ids[t.Crew] {
			e.fail(fmt.Sprintf("instruments[%d].crew", i), "%q is not a crew", t.Crew)
		}
	}
	for i, r := range y.Registrations {
		e.day(fmt.Sprintf("registrations[%d].from", i), r.From)
		e.day(fmt.Sprintf("registrations[%d].until", i), r.Until)
		if r.Until < r.From {
			e.fail(fmt.Sprintf("registrations[%d].until", i), "is before its first day")
		}
	}
	if from, to := planning.Clock(y.Hours.From), planning.Clock(y.Hours.To); from < 0 || to <= from {
		e.fail("hours", "%s to %s is not a working day", y.Hours.From, y.Hours.To)
	}
	for _, in := range jurisdiction.All() {
		if z := y.Zones[in.ID]; !isZone(z) {
			e.fail("zones."+in.ID, "%q is not a time zone such as %s", z, in.Zone)
		}
	}
	for id := range y.Zones {
		if _, ok := jurisdiction.Find(id); !ok {
			e.fail("zones."+id, "is not a country that this program knows")
		}
	}
	return e.Errors
}

// checkCrews looks at the crews and returns their ids.
func (y *Resources) checkCrews(e *faults) map[string]bool {
	ids, people := map[string]bool{}, map[string]string{}
	for i, c := range y.Crews {
		f := fmt.Sprintf("crews[%d]", i)
		if strings.TrimSpace(c.ID) == "" || ids[c.ID] {
			e.fail(f+".id", "%q is missing or used twice", c.ID)
		}
		ids[c.ID] = true
		if len(c.People) == 0 || len(c.Books) == 0 {
			e.fail(f+".people", "a crew has people and rulebooks that its lead is qualified for")
		}
		for _, p := range c.People {
			if other := people[p]; other != "" {
				e.fail(f+".people", "%s is in %s already", p, other)
			}
			people[p] = c.Name
		}
		for k, d := range c.Off {
			e.day(fmt.Sprintf("%s.off[%d]", f, k), d)
		}
	}
	return ids
}

func isZone(name string) bool {
	_, err := time.LoadLocation(name)
	return name != "" && err == nil
}

// Zone is the time zone of a site: its own, or the one that the firm has for the
// country. rulebook is that of the job.
func (y *Resources) Zone(own, rules string) *time.Location {
	return zoneOf(y.zoneName(own, rules))
}

// zoneOf reads a time zone: UTC for one that there is not, which SetResources and SaveSection refuse.
func zoneOf(name string) *time.Location {
	z, err := time.LoadLocation(name)
	if err != nil {
		return time.UTC
	}
	return z
}

func (y *Resources) zoneName(own, rules string) string {
	if book, ok := rulebook.Find(rules); ok && own == "" {
		return y.Zones[book.In.ID]
	}
	return own
}

// SiteZone is the time zone of a job's site.
func (y *Resources) SiteZone(j *job.Job) *time.Location { return y.Zone(j.Site.Zone, j.Rulebook) }

// CrewZone is the time zone that a crew works by: that of the country of the first
// rulebook that its lead is qualified for.
func (y *Resources) CrewZone(c *planning.Crew) *time.Location {
	for _, b := range rulebook.All() {
		if len(c.Books) > 0 && strings.HasPrefix(b.ID, c.Books[0]) {
			return y.Zone("", b.ID)
		}
	}
	return time.UTC
}

// Today is the day in a time zone.
func (svc *Service) Today(zone *time.Location) string {
	return svc.now().In(zone).Format(time.DateOnly)
}

// Work is what the firm has settled about work on site, and a mark of it: two with one mark
// are the same.
type Work struct {
	assess.WorkPolicy
	Mark  string
	zones Resources // no more of it than its zones
	read  *sync.Map // zones that were read, by their names: a log that grows asks for them each time
}

func (w *Work) zone(name string) *time.Location {
	if z, ok := w.read.Load(name); ok {
		return z.(*time.Location)
	}
	z := zoneOf(name)
	w.read.Store(name, z)
	return z
}

// Law is what a job's country says of papers after the work, by the clock of its site.
func (w *Work) Law(j *job.Job) clearance.Law {
	book, ok := rulebook.Find(j.Rulebook)
	if !ok {
		return clearance.Law{}
	}
	return clearance.Law{Days: book.In.After, Zone: w.zone(w.zones.zoneName(j.Site.Zone, j.Rulebook))}
}

// OnSite is what the firm has settled about work on site.
func (svc *Service) OnSite(ctx context.Context) (Work, error) {
	v, err := svc.settings.Read(ctx, keyResources, keyPolicy, keyTypes)
	if err != nil {
		return Work{}, err
	}
	return svc.onSite.Of(v, onSite, keyResources, keyPolicy, keyTypes)
}

func onSite(v settings.Values) (Work, error) {
	y, err := resourcesOf(v)
	if err != nil {
		return Work{}, err
	}
	policy, err := policyOf(v)
	if err != nil {
		return Work{}, err
	}
	types, err := typesOf(v)
	if err != nil {
		return Work{}, err
	}
	h := assess.WorkPolicy{
		Instruments: make(map[string]string, len(y.Instruments)), SleepHours: policy.SleepHours,
		Second: policy.Second, Apart: policy.Apart, Types: types, Costs: policy.Costs,
	}
	for id, habits := range policy.Habits {
		if len(habits.Answers) > 0 {
			if h.Answers == nil {
				h.Answers = map[string]map[string]any{}
			}
			h.Answers[id] = habits.Answers
		}
	}
	for _, t := range y.Instruments {
		h.Instruments[strings.ToLower(t.ID)] = t.Until
	}
	b, err := json.Marshal(h)
	sum := sha256.Sum256(b)
	return Work{h, hex.EncodeToString(sum[:12]), Resources{Zones: y.Zones}, new(sync.Map)}, err
}

// Crew returns the crew with the id, and whether there is one.
func (y *Resources) Crew(id string) (planning.Crew, bool) {
	i := slices.IndexFunc(y.Crews, func(c planning.Crew) bool { return c.ID == id })
	if i < 0 {
		return planning.Crew{}, false
	}
	return y.Crews[i], true
}
