// Package charger holds what makers' sheets say about types of charger: ratings,
// terminals, entries, and how the current is set. The types that ship are made
// up; a contractor's own are read in the same format.
package charger

import (
	_ "embed" // the made-up types
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"sync"

	"dogbolt/core/job"
	"dogbolt/core/schema"
)

// Format names the file format of a type and its version.
const Format = "dogbolt.charger/2"

// MaxTypes is how many types a file has at most.
const MaxTypes = 200

// Type is one type of charger.
type Type struct {
	Format     string      `json:"format" enum:"dogbolt.charger/2"`
	ID         string      `json:"id" minLength:"2" maxLength:"40" pattern:"^[a-z0-9][a-z0-9-]*$"`
	Country    string      `json:"country" minLength:"2" maxLength:"8" doc:"Id of the country whose practice it is made for: uk, us."`
	Charger    job.Charger `json:"charger" doc:"What fills the design's fields."`
	OpenPEN    job.OpenPEN `json:"openPen,omitempty" doc:"Way of open-PEN protection that is built in, if any."`
	Setting    Setting     `json:"setting" doc:"How the current is set."`
	Torque     float64     `json:"torque,omitempty" minimum:"0" maximum:"500" doc:"Torque of the supply terminals."`
	TorqueUnit TorqueUnit  `json:"torqueUnit,omitempty" doc:"Unit of the torque."`
	Strip      float64     `json:"strip,omitempty" minimum:"0" maximum:"60" doc:"Length to strip, mm."`
	Holder     float64     `json:"holderHeight,omitempty" minimum:"0" maximum:"3" doc:"Height of the socket or holder above the fixing's lower edge, m, where the sheet gives it."`
	Changer    string      `json:"changer,omitempty" maxLength:"120" doc:"Who may change the current, and how it is locked, by the sheet."`
	Entries    []string    `json:"entries,omitempty" maxItems:"8" maxLength:"120" doc:"Entries for the cable."`
	Firmware   string      `json:"firmware,omitempty" maxLength:"40" doc:"Version that the sheet was read for."`
	Source     string      `json:"source" minLength:"2" maxLength:"300" doc:"Where the figures were read."`
}

// SettingKind is what a current is set with.
type SettingKind string

// Ways of setting a current.
const (
	BySwitches SettingKind = "switches"
	ByApp      SettingKind = "app" // the maker's
)

// Values lists the ways of setting a current.
func (SettingKind) Values() []string { return []string{string(BySwitches), string(ByApp)} }

// TorqueUnit is the unit that a sheet gives torque in.
type TorqueUnit string

// Values lists the units of torque.
func (TorqueUnit) Values() []string { return []string{"N·m", "in·lb"} }

// Setting is how a type's current is set: by switches, or in the maker's app.
type Setting struct {
	Kind  SettingKind `json:"kind" doc:"By switches, or in an app."`
	Names []string    `json:"names,omitempty" maxItems:"12" maxLength:"20" doc:"Switches, in the order they stand in."`
	Table []SwitchRow `json:"table,omitempty" maxItems:"40" doc:"The maker's table."`
	Menu  string      `json:"menu,omitempty" maxLength:"120" doc:"Way through the app's menus."`
	Steps []float64   `json:"steps,omitempty" minimum:"1" maximum:"200" maxItems:"200" doc:"Currents that the app offers, A."`
}

// SwitchRow is a line of a switch table: the current, A, and the switches that are on.
type SwitchRow struct {
	Amps float64  `json:"amps" minimum:"1" maximum:"200"`
	On   []string `json:"on" maxItems:"12" maxLength:"20"`
}

// Switch is a switch and where it stands.
type Switch struct {
	Name string `json:"name"`
	On   bool   `json:"on"`
}

//go:embed types.json
var typesJSON []byte

// Types lists the types that ship.
var Types = sync.OnceValue(func() []Type {
	list, err := Parse(typesJSON)
	if err != nil {
		panic(err) // embedded, and tested
	}
	return list
})

// Parse reads a file of types and refuses what its schema refuses, and what cannot
// be: a switch that there is not, two currents by the same switches, a current above
// the rating. Errors name the field.
func Parse(data []byte) ([]Type, error) {
	var list []Type
	if errs := schema.ListOf[Type](MaxTypes).Read("", current(data), &list); len(errs) > 0 {
		return nil, fmt.Errorf("charger types: %w", errs)
	}
	ids := map[string]bool{}
	for _, t := range list {
		if ids[t.ID] || t.Charger.Type == "" {
			return nil, fmt.Errorf("charger type %q: an id of its own and a name are needed", t.ID)
		}
		if c := &t.Charger; c.Fate != "" || c.Moved != "" || c.Closes != "" {
			return nil, fmt.Errorf("charger type %s: fate, moved and closes are of one job's charger, not of a type", t.ID)
		}
		ids[t.ID] = true
		seen := map[string]float64{}
		for _, r := range t.Setting.Table {
			key := ""
			for _, n := range t.Setting.Names {
				if slices.Contains(r.On, n) {
					key += n + " "
				}
			}
			if len(strings.Fields(key)) != len(r.On) {
				return nil, fmt.Errorf("charger type %s: %g A names a switch that there is not: %v", t.ID, r.Amps, r.On)
			}
			if other, twice := seen[key]; twice {
				return nil, fmt.Errorf("charger type %s: %g A and %g A by the same switches", t.ID, other, r.Amps)
			}
			seen[key] = r.Amps
		}
		for _, a := range t.Setting.offers() {
			if a > float64(t.Charger.Rating) {
				return nil, fmt.Errorf("charger type %s: %g A is more than its rating of %g A", t.ID, a, float64(t.Charger.Rating))
			}
		}
	}
	return list, nil
}

// Kept reads types that a program has kept, whichever version it was.
func Kept(data []byte) ([]Type, error) {
	list := []Type{}
	return list, json.Unmarshal(current(data), &list)
}

// current brings types of version 1, which call the country a school, to this one.
func current(data []byte) []byte {
	var list []map[string]json.RawMessage
	if json.Unmarshal(data, &list) != nil {
		return data // said by the reader
	}
	for _, t := range list {
		if school, old := t["school"]; old && string(t["format"]) == `"dogbolt.charger/1"` {
			t["country"] = school
			delete(t, "school")
		}
		if string(t["format"]) == `"dogbolt.charger/1"` {
			t["format"] = json.RawMessage(`"` + Format + `"`)
		}
	}
	out, err := json.Marshal(list)
	if err != nil {
		return data
	}
	return out
}

// offers are the currents that can be set, A, rising.
func (s Setting) offers() []float64 {
	out := slices.Clone(s.Steps)
	for _, r := range s.Table {
		out = append(out, r.Amps)
	}
	slices.Sort(out)
	return out
}

// Of returns the type that a charger was filled from, by its name: one of the
// house's own, or one that ships.
func Of(c job.Charger, own []Type) (Type, bool) {
	for _, list := range [][]Type{own, Types()} {
		for _, t := range list {
			if t.Charger.Type == c.Type {
				return t, true
			}
		}
	}
	return Type{}, false
}

// Nearest returns the greatest current that can be set and is not above the one
// that is wanted; ok is false where there is none.
func (t Type) Nearest(amps float64) (a float64, ok bool) {
	for _, o := range t.Setting.offers() {
		if o <= amps {
			a, ok = o, true
		}
	}
	return a, ok
}

// Positions returns how the switches stand for a current, exactly as the maker's
// table has it. A current that the table does not have is an error that names the
// next lower one.
func (t Type) Positions(amps float64) ([]Switch, error) {
	for _, r := range t.Setting.Table {
		if r.Amps != amps {
			continue
		}
		out := make([]Switch, len(t.Setting.Names))
		for i, n := range t.Setting.Names {
			out[i] = Switch{n, slices.Contains(r.On, n)}
		}
		return out, nil
	}
	if lower, ok := t.Nearest(amps); ok {
		return nil, fmt.Errorf("%g A is not in the maker's table; the next lower is %g A", amps, lower)
	}
	return nil, fmt.Errorf("%g A is below everything in the maker's table", amps)
}
