package firm

import (
	"context"
	"slices"

	"dogbolt/core/charger"
	"dogbolt/core/job"
	"dogbolt/core/schema"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/rooms/settings"
)

// ChargerType is a made-up type of charger that fills the design's fields. The
// contractor's own figures always win: they come from the maker's label.
type ChargerType struct {
	job.Charger
	OpenPEN job.OpenPEN `json:"openPen" doc:"Way of open-PEN protection that is built in, if any."`
	Country string      `json:"country" doc:"Id of the country whose practice it is made for."`
}

// ChargerTypes lists the firm's own types, and those that ship.
func (svc *Service) ChargerTypes(ctx context.Context, by people.Person) ([]ChargerType, error) {
	own, err := svc.OwnTypes(ctx, by)
	if err != nil {
		return nil, err
	}
	list := []ChargerType{}
	for _, t := range slices.Concat(own, charger.Types()) {
		list = append(list, ChargerType{t.Charger, t.OpenPEN, t.Country})
	}
	return list, nil
}

const keyTypes = "charger-types"

// TypesNow returns the firm's own types, for the program itself: nobody's permission
// is asked.
func (svc *Service) TypesNow(ctx context.Context) ([]charger.Type, error) {
	v, err := svc.settings.Read(ctx, keyTypes)
	if err != nil {
		return nil, err
	}
	return typesOf(v)
}

func typesOf(v settings.Values) ([]charger.Type, error) {
	if v[keyTypes] == nil {
		return []charger.Type{}, nil
	}
	return charger.Kept(v[keyTypes])
}

// OwnTypes lists the firm's own types of charger.
func (svc *Service) OwnTypes(ctx context.Context, by people.Person) ([]charger.Type, error) {
	if err := people.May(by, people.ViewFirm); err != nil {
		return nil, err
	}
	return svc.TypesNow(ctx)
}

// ReadTypes takes a file of charger types (docs/formats/charger.md) in place of
// the firm's own: all of it, or none.
func (svc *Service) ReadTypes(ctx context.Context, by people.Person, data []byte) ([]charger.Type, error) {
	if err := people.May(by, people.ManageFirm); err != nil {
		return nil, err
	}
	list, err := charger.Parse(data)
	if err != nil {
		return nil, schema.Invalid("file", "%v", err)
	}
	return list, svc.settings.Set(ctx, by.Name, keyTypes, "read in charger types", list)
}
