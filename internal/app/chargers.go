package app

import (
	"context"

	"dogbolt/core/charger"
	"dogbolt/core/job"
	"dogbolt/core/rulebook"
)

// ChargerType is a made-up type of charger that fills the design's fields. The
// contractor's own figures always win: they come from the maker's label.
type ChargerType struct {
	job.Charger
	OpenPEN string `json:"openPen" doc:"Way of open-PEN protection that is built in, if any."`
	School  string `json:"school" enum:"uk,us"`
}

// ChargerTypes lists the sample types.
func ChargerTypes() []ChargerType {
	var list []ChargerType
	for _, t := range charger.Types() {
		list = append(list, ChargerType{t.Charger, t.OpenPEN, t.School})
	}
	return list
}

// SettingSheet is how a point's charger is set to its designed current, by the
// sheet of its type where it is known.
type SettingSheet struct {
	Known     bool             `json:"known" doc:"The charger's type is among those with a sheet."`
	Wanted    float64          `json:"wanted" doc:"Designed setting, A; 0 where it is not chosen."`
	Limit     float64          `json:"limit" doc:"Most that the breaker allows, A; 0 where it is not known."`
	How       string           `json:"how" doc:"Where the limit comes from."`
	Kind      string           `json:"kind,omitempty" enum:"switches,app"`
	Positions []charger.Switch `json:"positions" doc:"How the switches stand for it."`
	Menu      string           `json:"menu,omitempty"`
	Problem   string           `json:"problem,omitempty" doc:"Why it cannot be set so."`
	Torque    float64          `json:"torque,omitempty"`
	Unit      string           `json:"torqueUnit,omitempty"`
	Strip     float64          `json:"strip,omitempty" doc:"mm"`
	Entries   []string         `json:"entries"`
	Firmware  string           `json:"firmware,omitempty"`
	Source    string           `json:"source,omitempty"`
}

// SettingSheet works out how a point's charger is set.
func (a *App) SettingSheet(ctx context.Context, by Person, id, point string) (SettingSheet, error) {
	v, p, err := a.point(ctx, by, id, point)
	if err != nil {
		return SettingSheet{}, err
	}
	c := p.Circuit
	out := SettingSheet{Wanted: float64(c.Setting), Positions: []charger.Switch{}, Entries: []string{}}
	out.Limit, out.How = rulebook.SettingLimit(v.Book.School, &c)
	t, ok := charger.Of(c.Charger)
	if !ok {
		return out, nil
	}
	out.Known, out.Kind, out.Menu, out.Torque, out.Unit, out.Strip, out.Firmware, out.Source = true, t.Setting.Kind, t.Setting.Menu, t.Torque, t.TorqueUnit, t.Strip, t.Firmware, t.Source
	out.Entries = append(out.Entries, t.Entries...)
	if out.Wanted == 0 {
		return out, nil
	}
	if t.Setting.Kind == "app" {
		if lower, found := t.Nearest(out.Wanted); !found || lower != out.Wanted {
			out.Problem = "the app does not offer this current"
		}
		return out, nil
	}
	pos, err := t.Positions(out.Wanted)
	if err != nil {
		out.Problem = err.Error()
	}
	out.Positions = append(out.Positions, pos...)
	return out, nil
}
