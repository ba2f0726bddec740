package assess

import (
	"fmt"

	"dogbolt/core/charger"
	"dogbolt/core/job"
	"dogbolt/core/rulebook"
)

// SettingGuide is how a point's charger is set to its designed current, by the
// maker's sheet of its type where it is known.
type SettingGuide struct {
	Known     bool                `json:"known" doc:"The charger's type is among those with a sheet."`
	Wanted    float64             `json:"wanted" doc:"Designed setting, A; 0 where it is not chosen."`
	Limit     float64             `json:"limit" doc:"Most that the breaker allows, A; 0 where it is not known."`
	How       string              `json:"how" doc:"Where the limit comes from."`
	Kind      charger.SettingKind `json:"kind,omitempty"`
	Positions []charger.Switch    `json:"positions" doc:"How the switches stand for it."`
	Menu      string              `json:"menu,omitempty"`
	Problem   string              `json:"problem,omitempty" doc:"Why it cannot be set so."`
	Changer   string              `json:"changer,omitempty" doc:"Who may change it, by the sheet."`
	Torque    float64             `json:"torque,omitempty"`
	Unit      charger.TorqueUnit  `json:"torqueUnit,omitempty"`
	Strip     float64             `json:"strip,omitempty" doc:"mm"`
	Entries   []string            `json:"entries"`
	Firmware  string              `json:"firmware,omitempty"`
	Source    string              `json:"source,omitempty"`
}

// Setting works out how a point's charger is set.
func Setting(j *job.Job, h *WorkPolicy, point string) (SettingGuide, error) {
	book, err := rulebook.For(j)
	if err != nil {
		return SettingGuide{}, err
	}
	p, ok := j.Point(point)
	if !ok {
		return SettingGuide{}, fmt.Errorf("%q is not a point of this job", point)
	}
	c := p.Circuit
	out := SettingGuide{Wanted: float64(c.Setting), Positions: []charger.Switch{}, Entries: []string{}}
	out.Limit, out.How = book.In.SettingLimit(&c)
	t, ok := charger.Of(c.Charger, h.Types)
	if !ok {
		return out, nil
	}
	out.Known, out.Kind, out.Menu = true, t.Setting.Kind, t.Setting.Menu
	out.Torque, out.Unit, out.Strip = t.Torque, t.TorqueUnit, t.Strip
	out.Firmware, out.Source, out.Changer = t.Firmware, t.Source, t.Changer
	out.Entries = append(out.Entries, t.Entries...)
	if out.Wanted == 0 {
		return out, nil
	}
	if t.Setting.Kind == charger.ByApp {
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

// AsBuilt sets the design beside what was built.
type AsBuilt struct {
	Kinds   []job.Variation   `json:"kinds" doc:"What may be built otherwise."`
	Rows    []BuiltRow        `json:"rows" doc:"What was."`
	Changes []rulebook.Change `json:"changes" doc:"Verdicts that it changed."`
	Designs map[string]string `json:"designs" doc:"As designed, by point and kind: A cable.size."`
}

// BuiltRow is one thing that was built otherwise.
type BuiltRow struct {
	Point    string `json:"point"`
	Title    string `json:"title"`
	Unit     string `json:"unit,omitempty"`
	Designed string `json:"designed"`
	Built    string `json:"built"`
	By       string `json:"by"`
	Reason   string `json:"reason"`
}

// Built compares a job as designed with the job as built.
func Built(j *job.Job) (AsBuilt, error) {
	out := AsBuilt{Kinds: job.Variations, Rows: []BuiltRow{}, Designs: map[string]string{}}
	for _, p := range j.Points() {
		for _, k := range job.Variations {
			out.Designs[p.ID+" "+k.ID] = k.Value(p)
			if e, ok := j.Latest(job.Varied, p.ID, k.ID); ok {
				out.Rows = append(out.Rows, BuiltRow{p.ID, k.Title, k.Unit, k.Value(p), e.Value, e.By, e.Reason})
			}
		}
	}
	var err error
	out.Changes, err = rulebook.Changes(j)
	return out, err
}
