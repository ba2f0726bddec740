package app

import (
	"context"
	"encoding/json"
	"slices"

	"dogbolt/core/charger"
	"dogbolt/core/desk"
	"dogbolt/core/job"
)

// ChargerType is a made-up type of charger that fills the design's fields. The
// contractor's own figures always win: they come from the maker's label.
type ChargerType struct {
	job.Charger
	OpenPEN job.OpenPEN `json:"openPen" doc:"Way of open-PEN protection that is built in, if any."`
	Country string      `json:"country" doc:"Id of the country whose practice it is made for."`
}

// ChargerTypes lists the house's own types, and those that ship.
func (a *App) ChargerTypes(ctx context.Context, by Person) ([]ChargerType, error) {
	own, err := a.OwnTypes(ctx, by)
	if err != nil {
		return nil, err
	}
	list := []ChargerType{}
	for _, t := range slices.Concat(own, charger.Types()) {
		list = append(list, ChargerType{t.Charger, t.OpenPEN, t.Country})
	}
	return list, nil
}

// SettingSheet works out how a point's charger is set.
func (a *App) SettingSheet(ctx context.Context, by Person, id, point string) (desk.SettingSheet, error) {
	v, _, err := a.point(ctx, by, id, point)
	if err != nil {
		return desk.SettingSheet{}, err
	}
	return desk.Setting(&v.Job, &v.House, point)
}

const keyTypes = "charger-types"

func (a *App) ownTypes(ctx context.Context) ([]charger.Type, error) {
	var raw json.RawMessage
	if err := a.setting(ctx, keyTypes, &raw); err != nil || raw == nil {
		return []charger.Type{}, err
	}
	return charger.Kept(raw)
}

// OwnTypes lists the house's own types of charger.
func (a *App) OwnTypes(ctx context.Context, by Person) ([]charger.Type, error) {
	if err := a.may(by, ViewFirm); err != nil {
		return nil, err
	}
	return a.ownTypes(ctx)
}

// ReadTypes takes a file of charger types (docs/formats/charger.md) in place of
// the house's own: all of it, or none.
func (a *App) ReadTypes(ctx context.Context, by Person, data []byte) ([]charger.Type, error) {
	if err := a.may(by, ManageFirm); err != nil {
		return nil, err
	}
	list, err := charger.Parse(data)
	if err != nil {
		return nil, invalid("file", "%v", err)
	}
	return list, a.set(ctx, by, keyTypes, "read in charger types", list)
}
