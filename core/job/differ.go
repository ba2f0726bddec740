package job

import (
	"encoding/json"
	"fmt"
	"reflect"
	"slices"
	"strings"
)

// Difference is one field that two versions of a job's document have different values of.
type Difference struct {
	Field string `json:"field" doc:"Its place: design.circuits.A.setting."`
	Title string `json:"title" doc:"What it is, in words."`
	Was   string `json:"was,omitempty" doc:"Left out where it was not there."`
	Now   string `json:"now,omitempty" doc:"Left out where it is not there any more."`
}

// Differ lists what differs between two versions of a job's sections, in the order of the
// document, leaf by leaf. Things of a list belong together as Merge joins them. The log is not
// compared.
func Differ(was, now *Job) ([]Difference, error) {
	var out []Difference
	for _, s := range Sections {
		var versions [2]any
		for i, j := range []*Job{was, now} {
			data, err := s.Write(j)
			if err != nil {
				return nil, fmt.Errorf("%s: %w", s.Name, err)
			}
			if versions[i], err = decoded(data); err != nil {
				return nil, fmt.Errorf("%s: %w", s.Name, err)
			}
		}
		d := differ{section: s}
		d.value("", versions[0], versions[1])
		out = append(out, d.found...)
	}
	return out, nil
}

type differ struct {
	section Section
	found   []Difference
}

func (d *differ) value(path string, was, now any) {
	if reflect.DeepEqual(was, now) {
		return
	}
	a, objectA := was.(map[string]any)
	b, objectB := now.(map[string]any)
	l, listA := was.([]any)
	m, listB := now.([]any)
	switch {
	case (objectA || was == none) && (objectB || now == none) && (objectA || objectB):
		for _, k := range keysOf(a, b) {
			d.value(join(path, k), get(a, k), get(b, k))
		}
	case (listA || was == none) && (listB || now == none) && (listA || listB):
		d.list(path, l, m)
	default:
		d.found = append(d.found, Difference{Field: join(string(d.section.Name), path), Title: d.title(path), Was: d.text(path, was), Now: d.text(path, now)})
	}
}

func (d *differ) list(path string, was, now []any) {
	k := key(was, now)
	if k == "" {
		at := func(l []any, i int) any {
			if i < len(l) {
				return l[i]
			}
			return none
		}
		for i := range max(len(was), len(now)) {
			d.value(join(path, fmt.Sprint(i+1)), at(was, i), at(now, i))
		}
		return
	}
	var ids []any
	for _, v := range slices.Concat(was, now) {
		if id := v.(map[string]any)[k]; !slices.Contains(ids, id) {
			ids = append(ids, id)
		}
	}
	find := func(l []any, id any) any {
		for _, v := range l {
			if v.(map[string]any)[k] == id {
				return v
			}
		}
		return none
	}
	for _, id := range ids {
		d.value(join(path, fmt.Sprint(id)), find(was, id), find(now, id))
	}
}

func keysOf(maps ...map[string]any) []string {
	var out []string
	for _, m := range maps {
		for k := range m {
			if !slices.Contains(out, k) {
				out = append(out, k)
			}
		}
	}
	slices.Sort(out)
	return out
}

// title is what a field is and where it stands: "Rated current, A (design, circuit A, breaker)".
func (d *differ) title(path string) string {
	var where []string
	t := reflect.TypeOf(d.section.Part(new(Job)))
	words := ""
	parts := strings.Split(path, ".")
	for i, part := range parts {
		in, doc := field(t, part)
		if in == nil { // a key of a list, or its place
			if n := len(where); n > 0 {
				where[n-1] = one(where[n-1]) + " " + part
			}
			continue
		}
		t = in
		if i < len(parts)-1 {
			where = append(where, apart(part))
		}
		words = doc
		if words == "" {
			words = apart(part)
		}
	}
	return words + " (" + strings.Join(append([]string{string(d.section.Name)}, where...), ", ") + ")"
}

// text is a value as a record tells it; "" where it is not there.
func (d *differ) text(path string, v any) string {
	switch v := v.(type) {
	case struct{}:
		return ""
	case string:
		return d.said(path, v)
	case json.Number:
		return v.String()
	case bool:
		return map[bool]string{true: "yes", false: "no"}[v]
	}
	return string(raw(v))
}

// said is a word of the document as records tell it.
func (d *differ) said(path, v string) string {
	t := reflect.TypeOf(d.section.Part(new(Job)))
	for _, part := range strings.Split(path, ".") {
		if in, _ := field(t, part); in != nil {
			t = in
		}
	}
	for t.Kind() == reflect.Pointer || t.Kind() == reflect.Slice {
		t = t.Elem()
	}
	if t.Kind() != reflect.String {
		return v
	}
	if w, ok := reflect.ValueOf(v).Convert(t).Interface().(interface{ Said() string }); ok {
		return w.Said()
	}
	return v
}
