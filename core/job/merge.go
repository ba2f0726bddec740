package job

import (
	"bytes"
	"encoding/json"
	"fmt"
	"reflect"
	"slices"
)

// Clash is a field that two people changed to different values.
type Clash struct {
	Field  string          `json:"field" doc:"Place in the section: supply.rating, loads.2.power."`
	Title  string          `json:"title" doc:"What the field is, in words."`
	Base   json.RawMessage `json:"base" doc:"What both began with; null where it was not there."`
	Mine   json.RawMessage `json:"mine"`
	Theirs json.RawMessage `json:"theirs"`
}

// Choice settles a clash.
type Choice struct {
	Field string          `json:"field" maxLength:"200"`
	Take  Take            `json:"take"`
	Seen  json.RawMessage `json:"seen" doc:"Their value as it was when the choice was made."`
}

// Merge joins two versions of a section that began from the same base, field by
// field: what one person changed is taken, what both changed alike too, and what
// they changed to different values is a clash, settled by a choice or returned.
// Things of a list belong together by their id, point, place or digest; lists of
// things without one are joined where both only added. All three are JSON of the
// same section.
func Merge(base, mine, theirs []byte, choices []Choice) ([]byte, []Clash, error) {
	var b, m, t any
	for _, x := range []struct {
		name string
		data []byte
		into *any
	}{{"base", base, &b}, {"yours", mine, &m}, {"theirs", theirs, &t}} {
		v, err := decoded(x.data)
		if err != nil {
			return nil, nil, fmt.Errorf("the version %s cannot be read: %w", x.name, err)
		}
		*x.into = v
	}
	g := merger{choices: choices}
	out := g.value("", b, m, t)
	data, err := json.Marshal(out)
	return data, g.clashes, err
}

// decoded is a document with its numbers as they were written.
func decoded(data []byte) (v any, err error) {
	d := json.NewDecoder(bytes.NewReader(data))
	d.UseNumber()
	err = d.Decode(&v)
	return v, err
}

type merger struct {
	choices []Choice
	clashes []Clash
}

// none stands for what is not there.
var none any = struct{}{}

func raw(v any) json.RawMessage {
	if v == none {
		return json.RawMessage("null")
	}
	b, _ := json.Marshal(v) // came from JSON
	return b
}

func (g *merger) value(path string, base, mine, theirs any) any {
	switch {
	case reflect.DeepEqual(mine, theirs), reflect.DeepEqual(theirs, base):
		return mine
	case reflect.DeepEqual(mine, base):
		return theirs
	}
	bm, _ := base.(map[string]any)
	mm, okM := mine.(map[string]any)
	tm, okT := theirs.(map[string]any)
	if okM && okT {
		return g.object(path, bm, mm, tm)
	}
	bl, _ := base.([]any)
	ml, okM := mine.([]any)
	tl, okT := theirs.([]any)
	if okM && okT {
		if out, ok := g.list(path, bl, ml, tl); ok {
			return out
		}
	}
	return g.clash(path, base, mine, theirs)
}

func (g *merger) clash(path string, base, mine, theirs any) any {
	for _, c := range g.choices {
		if c.Field == path && jsonEqual(c.Seen, raw(theirs)) {
			if c.Take == "mine" {
				return mine
			}
			return theirs
		}
	}
	g.clashes = append(g.clashes, Clash{Field: path, Base: raw(base), Mine: raw(mine), Theirs: raw(theirs)})
	return theirs
}

func jsonEqual(a, b json.RawMessage) bool {
	var x, y any
	return json.Unmarshal(a, &x) == nil && json.Unmarshal(b, &y) == nil && reflect.DeepEqual(x, y)
}

func join(path, name string) string {
	if path == "" {
		return name
	}
	return path + "." + name
}

func get(m map[string]any, k string) any {
	if v, ok := m[k]; ok {
		return v
	}
	return none
}

func (g *merger) object(path string, base, mine, theirs map[string]any) map[string]any {
	keys := map[string]bool{}
	for _, m := range []map[string]any{base, mine, theirs} {
		for k := range m {
			keys[k] = true
		}
	}
	sorted := make([]string, 0, len(keys))
	for k := range keys {
		sorted = append(sorted, k)
	}
	slices.Sort(sorted)
	out := map[string]any{}
	for _, k := range sorted {
		if v := g.value(join(path, k), get(base, k), get(mine, k), get(theirs, k)); v != none {
			out[k] = v
		}
	}
	return out
}

// list joins two lists: by the keys of their things, or where both only added.
func (g *merger) list(path string, base, mine, theirs []any) ([]any, bool) {
	if k := key(base, mine, theirs); k != "" {
		return g.keyed(path, k, base, mine, theirs), true
	}
	same := func(l []any) bool {
		return len(l) >= len(base) && reflect.DeepEqual(l[:len(base):len(base)], append([]any{}, base...))
	}
	if same(mine) && same(theirs) {
		out := append([]any{}, theirs...)
		for _, v := range mine[len(base):] {
			if !slices.ContainsFunc(theirs[len(base):], func(x any) bool { return reflect.DeepEqual(x, v) }) {
				out = append(out, v)
			}
		}
		return out, true
	}
	if len(base) == len(mine) && len(base) == len(theirs) {
		out := make([]any, len(base))
		for i := range base {
			out[i] = g.value(join(path, fmt.Sprint(i)), base[i], mine[i], theirs[i])
		}
		return out, true
	}
	return nil, false
}

// key names the field by which the things of lists are told apart, "" where there
// is none.
func key(lists ...[]any) string {
	for _, k := range []string{"id", "point", "digest", "at"} {
		fits, some := true, false
		for _, l := range lists {
			seen := map[string]bool{}
			for _, v := range l {
				m, ok := v.(map[string]any)
				id := fmt.Sprint(get(m, k))
				if _, thing := get(m, k).(map[string]any); !ok || get(m, k) == none || thing || seen[id] {
					fits = false
				}
				seen[id], some = true, true
			}
		}
		if fits && some {
			return k
		}
	}
	return ""
}

func (g *merger) keyed(path, k string, base, mine, theirs []any) []any {
	find := func(l []any, id any) any {
		for _, v := range l {
			if reflect.DeepEqual(v.(map[string]any)[k], id) {
				return v
			}
		}
		return none
	}
	var out []any
	take := func(id any) {
		if v := g.value(join(path, fmt.Sprint(id)), find(base, id), find(mine, id), find(theirs, id)); v != none {
			out = append(out, v)
		}
	}
	for _, v := range theirs {
		take(v.(map[string]any)[k])
	}
	for _, v := range mine {
		if id := v.(map[string]any)[k]; find(theirs, id) == none {
			take(id)
		}
	}
	return out
}
