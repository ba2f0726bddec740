package job

import (
	"reflect"
	"strconv"
	"strings"
	"unicode"
)

// Named says in words which field of the document, or of the entries that are sent to its log,
// a path names: "Length as measured, m (survey, place 1, route 2)" for
// survey.places[0].route[1].length. A path of something else is only taken apart.
func Named(path string) string {
	parts := strings.FieldsFunc(path, func(r rune) bool { return r == '.' || r == '[' || r == ']' })
	t, title := reflect.TypeFor[Job](), ""
	if len(parts) > 0 && parts[0] == "entries" {
		t = reflect.TypeFor[struct {
			Entries []Entry `json:"entries"`
		}]()
	}
	var where []string
	for _, part := range parts {
		if n, err := strconv.Atoi(part); err == nil {
			if len(where) > 0 {
				where[len(where)-1] = one(where[len(where)-1]) + " " + strconv.Itoa(n+1) // people count from one
			}
			continue
		}
		t, title = field(t, part)
		where = append(where, apart(part))
	}
	if t == nil || title == "" {
		return strings.Join(where, ", ")
	}
	if where = where[:len(where)-1]; len(where) == 0 {
		return title
	}
	return title + " (" + strings.Join(where, ", ") + ")"
}

// field is the type of a struct's field, and what its doc comment says first; nil where there
// is none.
func field(t reflect.Type, name string) (reflect.Type, string) {
	for t != nil && (t.Kind() == reflect.Pointer || t.Kind() == reflect.Slice) {
		t = t.Elem()
	}
	if t == nil || t.Kind() != reflect.Struct {
		return nil, ""
	}
	for i := range t.NumField() {
		f := t.Field(i)
		if tag, _, _ := strings.Cut(f.Tag.Get("json"), ","); tag == name {
			words, _, _ := strings.Cut(f.Tag.Get("doc"), ". ")
			return f.Type, strings.TrimSuffix(words, ".")
		}
	}
	return nil, ""
}

// one is the singular of a list's name.
func one(list string) string {
	if s, ok := strings.CutSuffix(list, "ies"); ok {
		return s + "y"
	}
	return strings.TrimSuffix(list, "s")
}

// apart takes a name such as loopImpedance apart: loop impedance.
func apart(name string) string {
	var out strings.Builder
	for _, r := range name {
		if unicode.IsUpper(r) {
			out.WriteByte(' ')
		}
		out.WriteRune(unicode.ToLower(r))
	}
	return strings.TrimSpace(out.String())
}

// Describe says in words what a field of a section is, by its doc comment:
// "Rating of the cutout fuse or service disconnect, A". Numbers and keys of lists
// are passed over.
func Describe(section any, path string) string {
	t, words := reflect.TypeOf(section), ""
	for _, part := range strings.Split(path, ".") {
		in, doc := field(t, part)
		if in == nil {
			continue // a number or a key of a list
		}
		if t = in; doc != "" {
			words = doc
		}
	}
	return words
}
