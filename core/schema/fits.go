package schema

import (
	"bytes"
	"encoding/json"
	"reflect"
	"slices"
	"time"
	"unicode/utf8"
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

func (n *node) fits(v reflect.Value) bool {
	if v.Kind() == reflect.Pointer {
		v = v.Elem()
	}
	switch n.kind {
	case object:
		for i := range n.fields {
			f := &n.fields[i]
			m := v.FieldByIndex(f.index)
			if !f.required && m.IsZero() {
				continue
			}
			if m.Kind() == reflect.Pointer && m.IsNil() || !f.node.fits(m) {
				return false
			}
		}
	case list:
		if n.minLen != nil && v.Len() < *n.minLen || n.maxLen != nil && v.Len() > *n.maxLen {
			return false
		}
		for i := range v.Len() {
			if !n.item.fits(v.Index(i)) {
				return false
			}
		}
	case mapping:
		if n.maxLen != nil && v.Len() > *n.maxLen {
			return false
		}
		for it := v.MapRange(); it.Next(); {
			if !n.item.fits(it.Value()) {
				return false
			}
		}
	case text:
		if v.Kind() == reflect.Struct { // a time, which Go has read
			return !v.IsZero()
		}
		return n.textFits(v.String())
	case integer:
		return n.numberFits(float64(v.Int()))
	case number:
		return n.numberFits(v.Float())
	}
	return true
}

func (n *node) textFits(s string) bool {
	if len(n.words) > 0 && !slices.Contains(n.words, s) {
		return false
	}
	if n.minLen != nil && utf8.RuneCountInString(s) < *n.minLen || n.maxLen != nil && len(s) > *n.maxLen && utf8.RuneCountInString(s) > *n.maxLen {
		return false
	}
	if n.format == "date" {
		_, err := time.Parse(time.DateOnly, s)
		return err == nil
	}
	return n.pattern == nil || n.pattern.MatchString(s)
}

func (n *node) numberFits(v float64) bool {
	return (len(n.numbers) == 0 || slices.Contains(n.numbers, v)) && (n.min == nil || v >= *n.min) && (n.max == nil || v <= *n.max)
}
