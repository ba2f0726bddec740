package schema

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"maps"
	"math"
	"slices"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

	textrules "dogbolt/core/text"
)

// FieldError names a field of a document and what is wrong with it.
type FieldError struct {
	Field   string `json:"field"`
	Message string `json:"message"`
}

// Error returns the field and the message.
func (e FieldError) Error() string { return e.Field + ": " + e.Message }

// Errors are all mistakes of a document.
type Errors []FieldError

// Error joins the fields and messages.
func (e Errors) Error() string {
	parts := make([]string, len(e))
	for i, f := range e {
		parts[i] = f.Error()
	}
	return strings.Join(parts, "; ")
}

// Invalid returns one mistake: the field and what is wrong with it.
func Invalid(field, format string, args ...any) Errors {
	return Errors{{Field: field, Message: fmt.Sprintf(format, args...)}}
}

// Refused is a value that an older program took and this one does not. It is kept
// as it was, beside the document, until a person has entered it anew.
type Refused struct {
	Field string `json:"field" minLength:"1" maxLength:"200" doc:"Where it stood: survey.vehicles[0].inlet."`
	Value string `json:"value" maxLength:"2000000" doc:"The value, as JSON."`
	Why   string `json:"why" maxLength:"500" doc:"Why it is refused."`
}

// Read reads a document into what it is defined by. Nothing is written to into
// unless the whole document is valid. Paths of fields begin with at, which may be
// empty.
func (s *Schema) Read(at string, data []byte, into any) Errors {
	_, errs := s.read(at, data, into, false)
	return errs
}

// ReadOld reads a document of an older program, which held to fewer limits: what is
// null is taken as left out, and a value that this version refuses is set aside, with
// the thing that it belongs to where that cannot be without it. Where that is the
// document itself there are errors too, and into is left as it was.
func (s *Schema) ReadOld(at string, data []byte, into any) ([]Refused, Errors) {
	if s.fits(data, into) {
		return nil, nil // most of what was kept: there is nothing to set aside
	}
	return s.read(at, data, into, true)
}

func (s *Schema) read(at string, data []byte, into any, old bool) ([]Refused, Errors) {
	tree, err := decode(data)
	if err != nil {
		return nil, Errors{{orRoot(at), err.Error()}}
	}
	w := walk{old: old}
	tree, ok := w.value(s.root, at, tree)
	if !ok && len(w.errs) == 0 {
		// Set aside up to the root: there is no document without it.
		for _, r := range w.refused {
			w.errs = append(w.errs, FieldError{r.Field, r.Why})
		}
	}
	if len(w.errs) > 0 {
		return w.refused, w.errs
	}
	clean, err := json.Marshal(tree)
	if err == nil {
		err = json.Unmarshal(clean, into)
	}
	if err != nil {
		return nil, Errors{{orRoot(at), err.Error()}}
	}
	return w.refused, nil
}

// orRoot names a document that has no name of its own.
func orRoot(at string) string {
	if at == "" {
		return "file"
	}
	return at
}

// decode reads JSON with its numbers as they are written.
func decode(data []byte) (any, error) {
	d := json.NewDecoder(bytes.NewReader(data))
	d.UseNumber()
	var tree any
	if err := d.Decode(&tree); err != nil {
		offset := len(data) // it ends too early
		var syntax *json.SyntaxError
		if errors.As(err, &syntax) {
			offset = min(int(syntax.Offset), len(data))
		}
		line := 1 + bytes.Count(data[:offset], []byte("\n"))
		return nil, fmt.Errorf("line %d is not JSON: %w", line, err)
	}
	if _, err := d.Token(); !errors.Is(err, io.EOF) {
		return nil, errors.New("something follows the end of the document")
	}
	return tree, nil
}

// maxErrors is how many mistakes are named at once.
const maxErrors = 100

type walk struct {
	old     bool
	errs    []FieldError
	refused []Refused
}

// refuse names a value that cannot be: an error, or what is set aside of an old
// document.
func (w *walk) refuse(at string, v any, format string, args ...any) {
	if !w.old {
		if len(w.errs) < maxErrors {
			w.errs = append(w.errs, FieldError{at, fmt.Sprintf(format, args...)})
		}
		return
	}
	b, err := json.Marshal(v)
	if err != nil {
		w.errs = append(w.errs, FieldError{at, err.Error()})
		return
	}
	w.refused = append(w.refused, Refused{at, string(b), fmt.Sprintf(format, args...)})
}

// value checks one value and returns it as it is to be read; ok is false where
// it is not to be read.
func (w *walk) value(n *node, at string, v any) (out any, ok bool) {
	if v == nil && n.kind != anything {
		if !w.old {
			w.refuse(at, v, "is null: leave it out where it is not known")
		}
		return nil, false
	}
	switch n.kind {
	case object:
		m, is := v.(map[string]any)
		if !is {
			w.refuse(at, v, "is %s, not an object", what(v))
			return nil, false
		}
		return w.object(n, at, m)
	case list:
		l, is := v.([]any)
		if !is {
			w.refuse(at, v, "is %s, not a list", what(v))
			return nil, false
		}
		return w.list(n, at, l)
	case mapping:
		m, is := v.(map[string]any)
		if !is {
			w.refuse(at, v, "is %s, not an object", what(v))
			return nil, false
		}
		return w.mapping(n, at, m)
	case text:
		s, is := v.(string)
		if !is {
			w.refuse(at, v, "is %s, not text", what(v))
			return nil, false
		}
		return s, w.text(n, at, s)
	case integer, number:
		d, is := v.(json.Number)
		if !is {
			w.refuse(at, v, "is %s, not a number", what(v))
			return nil, false
		}
		return w.number(n, at, d)
	case boolean:
		if _, is := v.(bool); !is {
			w.refuse(at, v, "is %s, not true or false", what(v))
			return nil, false
		}
	}
	return v, true
}

// what names a value's kind in words.
func what(v any) string {
	switch v.(type) {
	case map[string]any:
		return "an object"
	case []any:
		return "a list"
	case string:
		return "text"
	case json.Number:
		return "a number"
	case bool:
		return "true or false"
	}
	return "null"
}

func join(at, name string) string {
	if at == "" {
		return name
	}
	return at + "." + name
}

func (w *walk) object(n *node, at string, m map[string]any) (any, bool) {
	for _, name := range slices.Sorted(maps.Keys(m)) {
		if !slices.ContainsFunc(n.fields, func(f field) bool { return f.name == name }) {
			w.refuse(join(at, name), m[name], "is not a field of this version of the format")
		}
	}
	whole := true
	before := len(w.refused)
	given := m
	if w.old {
		given = make(map[string]any, len(m)) // m is kept for what is set aside
	}
	for _, f := range n.fields {
		v, there := m[f.name]
		if !there {
			if f.required {
				whole = false
				w.refuse(join(at, f.name), nil, "missing")
			}
			continue
		}
		clean, ok := w.value(f.node, join(at, f.name), v)
		switch {
		case ok:
			given[f.name] = clean
		case f.required:
			if v == nil && w.old {
				w.refuse(join(at, f.name), nil, "missing")
			}
			whole = false
		}
	}
	if !whole && w.old {
		// The thing cannot be without what was refused: it is set aside whole.
		why := "a value that it needs is refused"
		if len(w.refused) > before {
			why = strings.TrimPrefix(w.refused[before].Field, at+".") + ": " + w.refused[before].Why
		}
		w.refused = w.refused[:before]
		w.refuse(at, m, "%s", why)
	}
	return given, whole
}

func (w *walk) list(n *node, at string, l []any) (any, bool) {
	if n.minLen != nil && len(l) < *n.minLen {
		w.refuse(at, l, "has %d entries; it has at least %d", len(l), *n.minLen)
		return nil, false
	}
	if n.maxLen != nil && len(l) > *n.maxLen {
		w.refuse(at, l[*n.maxLen:], "has %d entries; it has at most %d", len(l), *n.maxLen)
		l = l[:*n.maxLen]
	}
	before := len(w.refused)
	out := make([]any, 0, len(l))
	for i, v := range l {
		clean, ok := w.value(n.item, at+"["+strconv.Itoa(i)+"]", v)
		switch {
		case ok:
			out = append(out, clean)
		case w.old && n.item.kind != object:
			// Values in a row mean something by their place: none without the others.
			why := "an entry is null"
			if len(w.refused) > before {
				why = w.refused[before].Field + ": " + w.refused[before].Why
			}
			w.refused = w.refused[:before]
			w.refuse(at, l, "%s", why)
			return nil, false
		}
	}
	return out, true
}

func (w *walk) mapping(n *node, at string, m map[string]any) (any, bool) {
	if n.maxLen != nil && len(m) > *n.maxLen {
		w.refuse(at, m, "has %d entries; it has at most %d", len(m), *n.maxLen)
		return nil, false
	}
	out := make(map[string]any, len(m))
	for k, v := range m {
		if why := textrules.Wrong(k); why != "" {
			w.refuse(at, k, "%s", why)
			continue
		}
		if clean, ok := w.value(n.item, join(at, k), v); ok {
			out[k] = clean
		}
	}
	return out, true
}

func (w *walk) text(n *node, at, s string) bool {
	if why := n.wrongText(s); why != "" {
		w.refuse(at, s, "%s", why)
		return false
	}
	return true
}

// wrongText says what is wrong with a text; "" where nothing is.
func (n *node) wrongText(s string) string {
	if why := textrules.Wrong(s); why != "" {
		return why
	}
	switch {
	case len(n.words) == 1 && s != n.words[0]:
		return fmt.Sprintf("is %q, this program reads %q", s, n.words[0])
	case len(n.words) > 0 && !slices.Contains(n.words, s):
		return fmt.Sprintf("%q is not one of %s", s, strings.Join(n.words, ", "))
	}
	if why := n.wrongLength(s); why != "" {
		return why
	}
	switch {
	case n.format == "date" && !parses(time.DateOnly, s):
		return fmt.Sprintf("%q is not a day such as 2027-03-28", s)
	case n.format == "date-time" && (!n.pattern.MatchString(s) || !parses(time.RFC3339Nano, s)):
		return fmt.Sprintf("%q is not a time such as 2027-03-28T09:30:00Z", s)
	case n.pattern == nil || n.pattern.MatchString(s):
		return ""
	case n.pattern.String() == Something:
		return "missing"
	}
	return fmt.Sprintf("%q is not %s", s, patternInWords(n.pattern.String()))
}

func (n *node) wrongLength(s string) string {
	length := utf8.RuneCountInString(s)
	switch {
	case n.minLen != nil && *n.minLen > 0 && length == 0:
		return "missing"
	case n.minLen != nil && length < *n.minLen:
		return fmt.Sprintf("has %d characters; it has at least %d", length, *n.minLen)
	case n.maxLen != nil && length > *n.maxLen:
		return fmt.Sprintf("has %d characters; it has at most %d", length, *n.maxLen)
	}
	return ""
}

func parses(layout, s string) bool {
	_, err := time.Parse(layout, s)
	return err == nil
}

// Patterns that are said in words.
const (
	Clock     = "^([01][0-9]|2[0-3]):[0-5][0-9]$" // a time of day
	Something = `\S`                              // not blank
	Digest    = "^[0-9a-f]{64}$"
	ID        = "^[a-z0-9][a-z0-9-]*$"
)

func patternInWords(p string) string {
	switch p {
	case Clock:
		return "a time of day such as 07:30"
	case Digest:
		return "the SHA-256 of a file, 64 of 0-9 and a-f"
	case ID:
		return "an id of small letters, digits and hyphens"
	}
	return "of the pattern " + p
}

func (w *walk) number(n *node, at string, d json.Number) (any, bool) {
	v, err := strconv.ParseFloat(string(d), 64)
	unit := n.unit
	if unit != "" {
		unit = " " + unit
	}
	whole := v == math.Trunc(v) && math.Abs(v) <= 1<<53
	switch {
	case err != nil:
		w.refuse(at, d, "%s is greater than any number that can be held", d)
		return nil, false
	case n.kind == integer && !whole:
		w.refuse(at, d, "%s is not a whole number", d)
		return nil, false
	case len(n.numbers) > 0 && !slices.Contains(n.numbers, v):
		w.refuse(at, d, "%g%s is not one of %s", v, unit, strings.Trim(fmt.Sprint(n.numbers), "[]"))
		return nil, false
	case n.min != nil && v < *n.min && *n.min == 0:
		w.refuse(at, d, "%g%s: cannot be negative", v, unit)
		return nil, false
	case n.min != nil && v < *n.min:
		w.refuse(at, d, "%g%s: less than %g%s is not believed; check the figure and its unit", v, unit, *n.min, unit)
		return nil, false
	case n.max != nil && v > *n.max:
		w.refuse(at, d, "%g%s: more than %g%s is not believed; check the figure and its unit", v, unit, *n.max, unit)
		return nil, false
	}
	if n.kind == integer {
		return json.Number(strconv.FormatInt(int64(v), 10)), true
	}
	return d, true
}
