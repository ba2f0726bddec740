package job

import (
	"encoding/json"
	"fmt"
	"maps"
	"reflect"
	"slices"
	"strings"

	"dogbolt/core/schema"
)

// Keep returns as much of an edited section as a job can keep, as JSON, and what it cannot keep,
// with the fields' places in the edited section. A field is kept or left as it was by itself, a
// row of a list too where rows are told apart by a key or stay alike; other rows are taken as a
// whole, and one without a key that is added only after those before it. A list of which a row was
// taken away is one thing. j holds the rest of the job, base is the section that the edit began
// from, more checks what a document does not say of itself. An edit that is valid is returned as it
// is. Where not even base is valid the errors of the edit are returned, and no body.
func (s Section) Keep(j *Job, base, edited []byte, more ...func(*Job) schema.Errors) (body []byte, held schema.Errors, err error) {
	k := keeper{section: s, job: j, more: more}
	wrong := k.wrong(edited)
	if len(wrong) == 0 {
		return edited, nil, nil
	}
	if len(k.wrong(base)) > 0 {
		return nil, wrong, nil
	}
	from, err := decoded(base)
	if err != nil {
		return nil, nil, fmt.Errorf("what the edit began from: %w", err)
	}
	to, err := decoded(edited)
	if err != nil {
		return nil, wrong, nil
	}
	k.now = from
	left := changes(nil, string(s.Name), from, to)
	// One may need another: a bay before the vehicle that stands in it.
	for {
		before := len(left)
		if left, err = k.apply(left); err != nil {
			return nil, nil, err
		}
		if len(left) == before {
			break
		}
	}
	held = wrong
	for _, c := range left {
		if !slices.ContainsFunc(wrong, func(e FieldError) bool { return within(e.Field, c.place) || within(c.place, e.Field) }) {
			held = append(held, FieldError{Field: c.place, Message: c.why})
		}
	}
	body, err = json.Marshal(k.now)
	return body, held, err
}

// within reports whether a place is another or within it.
func within(place, in string) bool {
	rest, ok := strings.CutPrefix(place, in)
	return ok && (rest == "" || rest[0] == '.' || rest[0] == '[')
}

// change is one thing that an edit changes.
type change struct {
	path  []step
	to    any    // none: it is taken away
	place string // in the edited section
	why   string // it could not be kept
}

// step goes from a thing to a part of it: a member of an object, a row of a list by its key, or
// by its number where it has no key.
type step struct {
	member string
	key    string
	id     any
	row    int
}

type keeper struct {
	section Section
	job     *Job
	more    []func(*Job) schema.Errors
	now     any // what is kept so far
}

// wrong returns what is wrong with a section in its job.
func (k *keeper) wrong(body []byte) schema.Errors {
	scratch := *k.job
	if errs := k.section.Read(&scratch, body); len(errs) > 0 {
		return errs
	}
	errs := scratch.Validate()
	for _, f := range k.more {
		errs = append(errs, f(&scratch)...)
	}
	return errs
}

// apply makes changes, all at once where that is valid, else by halves, and returns those that
// cannot be made.
func (k *keeper) apply(list []change) (left []change, err error) {
	if len(list) == 0 {
		return nil, nil
	}
	tried := k.now
	for _, c := range list {
		var ok bool
		if tried, ok = with(tried, c.path, c.to); !ok {
			return k.halves(list, "comes after a row that could not be kept")
		}
	}
	body, err := json.Marshal(tried)
	if err != nil {
		return nil, err
	}
	if errs := k.wrong(body); len(errs) > 0 {
		return k.halves(list, errs[0].Message)
	}
	k.now = tried
	return nil, nil
}

func (k *keeper) halves(list []change, why string) ([]change, error) {
	if len(list) == 1 {
		c := list[0]
		c.why = why
		return []change{c}, nil
	}
	first, err := k.apply(list[:len(list)/2])
	if err != nil {
		return nil, err
	}
	second, err := k.apply(list[len(list)/2:])
	return append(first, second...), err
}

// with returns a document with a part of it as given; what it was made from stays as it was. It
// fails where the way ends before the part, or a row would come after one that is not there.
func with(doc any, path []step, to any) (any, bool) {
	if len(path) == 0 {
		return to, true
	}
	at, rest := path[0], path[1:]
	if at.member != "" {
		m, _ := doc.(map[string]any)
		out := maps.Clone(m)
		if out == nil {
			out = map[string]any{}
		}
		v, ok := with(get(m, at.member), rest, to)
		if v == none {
			delete(out, at.member)
		} else {
			out[at.member] = v
		}
		return out, ok
	}
	old, _ := doc.([]any)
	list, i := slices.Clone(old), at.row
	if at.key != "" {
		i = slices.IndexFunc(list, func(v any) bool {
			m, _ := v.(map[string]any)
			return reflect.DeepEqual(get(m, at.key), at.id)
		})
		if i < 0 {
			i = len(list)
		}
	}
	switch {
	case i > len(list), i == len(list) && len(rest) > 0:
		return doc, false
	case i == len(list):
		return append(list, to), true
	}
	v, ok := with(list[i], rest, to)
	list[i] = v
	return list, ok
}

// changes lists what makes one document of another, in the order in which it can be done.
func changes(path []step, place string, from, to any) []change {
	if reflect.DeepEqual(from, to) {
		return nil
	}
	f, _ := from.(map[string]any)
	t, isObject := to.(map[string]any)
	if isObject && len(t)+len(f) > 0 && (from == none || f != nil) && !(len(path) > 0 && path[len(path)-1].member == "" && from == none) {
		var out []change
		for _, name := range slices.Sorted(maps.Keys(t)) {
			out = append(out, changes(further(path, step{member: name}), join(place, name), get(f, name), t[name])...)
		}
		for _, name := range slices.Sorted(maps.Keys(f)) {
			if _, kept := t[name]; !kept {
				out = append(out, change{path: further(path, step{member: name}), to: none, place: join(place, name)})
			}
		}
		return out
	}
	fl, _ := from.([]any)
	tl, isList := to.([]any)
	if !isList || (from != none && fl == nil) {
		return []change{{path: path, to: to, place: place}}
	}
	var out []change
	if by := key(fl, tl); by != "" && grown(by, fl, tl) {
		for i, v := range tl {
			id := v.(map[string]any)[by]
			out = append(out, changes(further(path, step{key: by, id: id}), item(place, i), row(fl, by, id), v)...)
		}
		return out
	}
	if len(tl) < len(fl) {
		return []change{{path: path, to: to, place: place}}
	}
	for i, v := range tl {
		switch at := further(path, step{row: i}); {
		case i < len(fl) && len(fl) == len(tl) && alike(fl[i], v):
			out = append(out, changes(at, item(place, i), fl[i], v)...)
		case i >= len(fl) || !reflect.DeepEqual(fl[i], v):
			out = append(out, change{path: at, to: v, place: item(place, i)})
		}
	}
	return out
}

// alike reports whether a row without a key is the same row as before: more of its members stay
// than change.
func alike(from, to any) bool {
	f, _ := from.(map[string]any)
	t, _ := to.(map[string]any)
	stay := 0
	for name, v := range f {
		if reflect.DeepEqual(get(t, name), v) {
			stay++
		}
	}
	return 2*stay > len(f)
}

// further is a way with one more step, and shares nothing with it.
func further(path []step, s step) []step { return append(slices.Clip(slices.Clone(path)), s) }

// row is the row of a list with a key, none where there is none.
func row(list []any, by string, id any) any {
	for _, v := range list {
		if reflect.DeepEqual(v.(map[string]any)[by], id) {
			return v
		}
	}
	return none
}

// grown reports whether a list has the rows that another has, in their order, and what is new at
// its end: only then is it made of the other row by row. A row that was taken away may be the one
// that came under another key.
func grown(by string, from, to []any) bool {
	if len(to) < len(from) {
		return false
	}
	for i, v := range from {
		if !reflect.DeepEqual(v.(map[string]any)[by], to[i].(map[string]any)[by]) {
			return false
		}
	}
	return true
}
