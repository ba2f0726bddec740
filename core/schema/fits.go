package schema

import (
	"bytes"
	"encoding/json"
	"reflect"
	"slices"
)

// fits reads a document straight into its Go type and reports whether every value
// keeps to its limits. It is the short way for what this program wrote itself, and
// says no wherever it cannot tell; then the walk over the JSON decides. A value that
// may be left out and is zero counts as left out.
func (s *Schema) fits(data []byte, into any) bool {
	target := reflect.ValueOf(into).Elem()
	fresh := reflect.New(target.Type())
	d := json.NewDecoder(bytes.NewReader(data))
	d.DisallowUnknownFields()
	if d.Decode(fresh.Interface()) != nil || !s.root.fits(fresh.Elem()) {
		return false
	}
	target.Set(fresh.Elem())
	return true
}

// Holds reports whether a value of the defined type keeps to all limits. False may
// also mean that it cannot be told without its JSON: Read then says what is wrong.
func (s *Schema) Holds(v any) bool { return s.root.fits(reflect.Indirect(reflect.ValueOf(v))) }

func (n *node) fits(v reflect.Value) bool {
	if v.Kind() == reflect.Pointer {
		v = v.Elem()
	}
	switch n.kind {
	case object:
		return !slices.ContainsFunc(n.fields, func(f field) bool { return !f.fits(v.FieldByIndex(f.index)) })
	case list, mapping:
		return n.membersFit(v)
	case text:
		if v.Kind() == reflect.Struct { // a time, which Go has read
			return !v.IsZero()
		}
		return n.wrongText(v.String()) == ""
	case integer:
		return n.numberFits(float64(v.Int()))
	case number:
		return n.numberFits(v.Float())
	}
	return true
}

// fits reports whether a field's value keeps to its limits, or may be left out and is
// zero.
func (f *field) fits(v reflect.Value) bool {
	if v.IsZero() && !f.required {
		return true
	}
	return (v.Kind() != reflect.Pointer || !v.IsNil()) && f.node.fits(v)
}

// membersFit is fits of a list or a map. One that is nil would be null.
func (n *node) membersFit(v reflect.Value) bool {
	if v.IsNil() || n.minLen != nil && v.Len() < *n.minLen || n.maxLen != nil && v.Len() > *n.maxLen {
		return false
	}
	for _, m := range v.Seq2() {
		if !n.item.fits(m) {
			return false
		}
	}
	return true
}

func (n *node) numberFits(v float64) bool {
	return (len(n.numbers) == 0 || slices.Contains(n.numbers, v)) && (n.min == nil || v >= *n.min) && (n.max == nil || v <= *n.max)
}

// Same reports whether two values are the same as JSON.
func Same(a, b any) bool {
	x, errX := json.Marshal(a)
	y, errY := json.Marshal(b)
	return errX == nil && errY == nil && bytes.Equal(x, y)
}
