package firm

import (
	"context"
	"fmt"
	"maps"
	"slices"
	"strings"
	"unicode/utf8"

	"dogbolt/core/charger"
	"dogbolt/core/clearance"
	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/rulebook"
	"dogbolt/core/schema"
)

// Habits is what the firm usually does in one country.
type Habits struct {
	Charger string         `json:"charger,omitempty" maxLength:"80" doc:"Type of charger that a new job begins with, by its name."`
	Family  job.Family     `json:"family,omitempty" doc:"Cable or conductors that a new job begins with."`
	Papers  []string       `json:"papers,omitempty" maxItems:"12" doc:"Forms that a new job begins with, by their ids."`
	Tools   []string       `json:"tools,omitempty" maxItems:"20" doc:"Tools that go to every job besides those of its parts."`
	Answers map[string]any `json:"answers,omitempty" doc:"Usual answers of its own, by their field in the job document; null for one that is asked every time."`
}

// check says what of a firm's habits cannot be; at is where they stand.
func (h *Habits) check(at string, in *jurisdiction.Jurisdiction, types []charger.Type, forms []clearance.Definition) schema.Errors {
	errs := in.Survey.CheckUsual(at+".answers", h.Answers)
	if _, ok := h.chargerOf(in.ID, types); !ok && h.Charger != "" {
		errs = append(errs, schema.Invalid(at+".charger", "%q is no type of charger for %s that you have", h.Charger, in.Name)...)
	}
	if h.Family != "" && !slices.ContainsFunc(in.Asked.Families, func(t jurisdiction.Term) bool { return t.Value == string(h.Family) }) {
		errs = append(errs, schema.Invalid(at+".family", "%q is not laid in %s", h.Family, in.Name)...)
	}
	for i, id := range h.Papers {
		if !slices.ContainsFunc(forms, func(d clearance.Definition) bool { return d.ID == id && formIn(&d, in) }) {
			errs = append(errs, schema.Invalid(fmt.Sprintf("%s.papers[%d]", at, i), "%q is no form for %s that you have", id, in.Name)...)
		}
	}
	for i, name := range h.Tools {
		if n := utf8.RuneCountInString(strings.TrimSpace(name)); n == 0 || n > 80 {
			errs = append(errs, schema.Invalid(fmt.Sprintf("%s.tools[%d]", at, i), "has a name of 1 to 80 characters")...)
		}
	}
	return errs
}

// formIn reports whether a form is for jobs of a country.
func formIn(d *clearance.Definition, in *jurisdiction.Jurisdiction) bool {
	return slices.ContainsFunc(rulebook.All(), func(b *rulebook.Book) bool { return b.In.ID == in.ID && d.For(b.ID) })
}

func (h *Habits) chargerOf(country string, types []charger.Type) (charger.Type, bool) {
	k := slices.IndexFunc(types, func(t charger.Type) bool { return t.Country == country && t.Charger.Type == h.Charger })
	if k < 0 {
		return charger.Type{}, false
	}
	return types[k], true
}

// Beginning is what a job begins with.
type Beginning struct {
	Habits
	country string
	types   []charger.Type
	forms   []clearance.Definition
}

// Beginning returns what a job begins with in a country, for the program itself.
func (svc *Service) Beginning(ctx context.Context, country string) (Beginning, error) {
	v, err := svc.settings.Read(ctx, keyPolicy, keyTypes, keyForms)
	if err != nil {
		return Beginning{}, err
	}
	policy, err := policyOf(v)
	if err != nil {
		return Beginning{}, err
	}
	h := Beginning{Habits: policy.Habits[country], country: country}
	if h.types, err = typesOf(v); err != nil {
		return h, err
	}
	h.types = slices.Concat(h.types, charger.Types())
	h.forms, err = formsOf(v)
	return h, err
}

// Design is a circuit that begins with the usual charger and cable. Each figure is a choice that
// the design shows and judges; a charger's serial number is the unit's own.
func (h *Beginning) Design(point string) job.Circuit {
	c := job.Circuit{Point: point}
	c.Cable.Family = h.Family
	if t, ok := h.chargerOf(h.country, h.types); ok {
		c.Charger, c.Earthing.OpenPEN = t.Charger, t.OpenPEN
	}
	return c
}

// With adds the usual forms to a job's papers: to the paper that each answers where the job has
// it, else as a paper of its own.
func (h *Beginning) With(papers []job.Paper, rulebook string) []job.Paper {
	for _, d := range h.forms {
		if !slices.Contains(h.Papers, d.ID) || !d.For(rulebook) {
			continue
		}
		k := slices.IndexFunc(papers, func(p job.Paper) bool { return p.ID == d.Paper })
		if k < 0 {
			k = len(papers)
			papers = append(papers, job.Paper{ID: d.Paper})
		}
		if p := &papers[k]; p.Form == "" {
			p.Form, p.Title, p.Who, p.Before, p.WaitLow, p.WaitHigh = d.ID, d.Title, d.Who, d.Before, d.WaitLow, d.WaitHigh
			p.Needed, p.Reason = job.Yes, "the firm asks for it with every job"
		}
	}
	return papers
}

// Along adds the usual tools to what a job needs in the van.
func (h *Habits) Along(parts []job.Part) []job.Part {
	for _, name := range h.Tools {
		if !slices.ContainsFunc(parts, func(p job.Part) bool { return p.Name == name }) {
			parts = append(parts, job.Part{Name: name, Quantity: 1, Tool: job.Yes, Why: "the firm takes it to every job"})
		}
	}
	return parts
}

// checkHabits says what of the firm's habits in each country cannot be.
func (svc *Service) checkHabits(ctx context.Context, habits map[string]Habits) error {
	v, err := svc.settings.Read(ctx, keyTypes, keyForms)
	if err != nil {
		return err
	}
	types, err := typesOf(v)
	if err != nil {
		return err
	}
	types = slices.Concat(types, charger.Types())
	forms, err := formsOf(v)
	if err != nil {
		return err
	}
	var errs schema.Errors
	for _, id := range slices.Sorted(maps.Keys(habits)) {
		in, ok := jurisdiction.Find(id)
		if !ok {
			errs = append(errs, schema.Invalid("habits."+id, "is not a country that this program knows")...)
			continue
		}
		h := habits[id]
		errs = append(errs, h.check("habits."+id, in, types, forms)...)
	}
	if len(errs) > 0 {
		return errs
	}
	return nil
}
