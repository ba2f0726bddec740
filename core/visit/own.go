package visit

import (
	"maps"
	"slices"
	"strings"

	"dogbolt/core/schema"
)

// UsualBy returns the usual answers as a firm has them: own are its values by their field, null
// for what it wants asked every time. What the practice does not allow as usual is left out of
// own: the country's answer stands.
func (w *Practice) UsualBy(own map[string]any) []Usual {
	out := make([]Usual, 0, len(w.Usual))
	for _, u := range w.Usual {
		value, ok := own[u.Field]
		if ok && value == nil {
			continue
		}
		if says, allowed := u.says(value); ok && allowed {
			u.Value, u.Says = value, says
		}
		out = append(out, u)
	}
	return out
}

// CheckUsual says what of a firm's own usual answers is none; at is where they stand.
func (w *Practice) CheckUsual(at string, own map[string]any) schema.Errors {
	var errs schema.Errors
	for _, field := range slices.Sorted(maps.Keys(own)) {
		k := slices.IndexFunc(w.Usual, func(u Usual) bool { return u.Field == field })
		if k < 0 {
			errs = append(errs, schema.Invalid(at+"."+field, "is not a question with a usual answer: it is asked one by one")...)
			continue
		}
		u := w.Usual[k]
		if _, allowed := u.says(own[field]); own[field] != nil && !allowed {
			errs = append(errs, schema.Invalid(at+"."+field, "is none of the usual answers: %s", strings.Join(u.choices(), "; "))...)
		}
	}
	return errs
}

// says puts a value in words, and tells whether it may be the usual answer.
func (u *Usual) says(value any) (string, bool) {
	if schema.Same(u.Value, value) {
		return u.Says, true
	}
	for _, a := range u.Others {
		if schema.Same(a.Value, value) {
			return a.Says, true
		}
	}
	if v, ok := value.(float64); ok && u.Figure != nil && v >= u.Figure.Least && v <= u.Figure.Most {
		return strings.ReplaceAll(u.Figure.Says, "{}", u.Figure.in(v)), true
	}
	return "", false
}

// choices are the answers that may be usual, in words.
func (u *Usual) choices() []string {
	out := []string{u.Says}
	for _, a := range u.Others {
		out = append(out, a.Says)
	}
	if f := u.Figure; f != nil {
		out = append(out, strings.ReplaceAll(f.Says, "{}", f.in(f.Least)+" to "+f.in(f.Most)))
	}
	return out
}

func (f *Figure) in(si float64) string { return f.Unit.SayTo(si, f.Unit.Exact) }
