package firm

import (
	"context"
	"slices"

	"dogbolt/core/clearance"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/rooms/settings"
)

const keyForms = "forms"

// formsOf lists the definitions of papers: the firm's own, and those that ship where the firm
// has none with the same id.
func formsOf(v settings.Values) ([]clearance.Definition, error) {
	var own []clearance.Definition
	if err := v.Get(keyForms, &own); err != nil {
		return nil, err
	}
	for _, d := range clearance.Samples() {
		if !slices.ContainsFunc(own, func(o clearance.Definition) bool { return o.ID == d.ID }) {
			own = append(own, d)
		}
	}
	return own, nil
}

// FormsNow lists the definitions of papers, for the program itself.
func (svc *Service) FormsNow(ctx context.Context) ([]clearance.Definition, error) {
	v, err := svc.settings.Read(ctx, keyForms)
	if err != nil {
		return nil, err
	}
	return formsOf(v)
}

// AddForm takes the definition of a paper in place of the firm's own with the same id.
func (svc *Service) AddForm(ctx context.Context, by people.Person, d clearance.Definition) error {
	if err := people.May(by, people.ManageFirm); err != nil {
		return err
	}
	var own []clearance.Definition
	if err := svc.settings.Get(ctx, keyForms, &own); err != nil {
		return err
	}
	own = append(slices.DeleteFunc(own, func(o clearance.Definition) bool { return o.ID == d.ID }), d)
	return svc.settings.Set(ctx, by.Name, keyForms, "change forms", own)
}
