// Package schema makes one definition of a file from the Go types that hold it:
// the JSON Schema that is published and the walk that reads a file come from the
// same tree, so that they cannot disagree.
//
// A field says its own limits, in tags: minimum and maximum (numbers, in the
// field's unit), minLength and maxLength (characters), pattern (RE2, as far as
// ECMA 262 reads it alike), format (date), enum (of numbers, and of the name of a
// format), minItems and maxItems (lists and maps), doc. On a list or a map the
// limits other than minItems and maxItems are those of its members. A string type
// whose values are few declares them once, by a method Values() []string. A field
// without omitempty is required; a member that the types do not have is refused,
// and so is null.
package schema

import (
	"encoding/json"
	"fmt"
	"reflect"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"
	"time"
)

// Enumerated is a string type with few values.
type Enumerated interface{ Values() []string }

// Words turns constants into what Values returns.
func Words[T ~string](list ...T) []string {
	out := make([]string, len(list))
	for i, w := range list {
		out[i] = string(w)
	}
	return out
}

// Measured is a number type with a unit, for messages.
type Measured interface{ Unit() string }

type kind int

const (
	object kind = iota
	list
	mapping // of strings to one kind of value
	text
	integer
	number
	boolean
	anything // JSON that is kept as it comes
)

// moment is what the format date-time means here: RFC 3339 as Go reads it, which
// has no leap seconds and wants capital letters.
const moment = `^[12][0-9]{3}-[0-9]{2}-[0-9]{2}T([01][0-9]|2[0-3]):[0-5][0-9]:[0-5][0-9](\.[0-9]+)?(Z|[+-]([01][0-9]|2[0-3]):[0-5][0-9])$`

// node is one value of a document and what it may be.
type node struct {
	kind kind
	name string // of the Go type of an object, for $defs
	doc  string

	fields []field // object
	item   *node   // list, mapping

	words          []string  // text
	numbers        []float64 // integer, number: the only ones
	min, max       *float64
	unit           string
	minLen, maxLen *int // text: characters; list, mapping: members
	format         string
	pattern        *regexp.Regexp
}

type field struct {
	name     string
	index    []int // of the Go field
	required bool
	node     *node
}

// Schema is the definition of one kind of document.
type Schema struct {
	root *node
}

var compiled sync.Map // of reflect.Type to *Schema

// Of returns the definition that T's tags make, compiled once. A tag that says
// nothing that can be held is a mistake in the program and panics.
func Of[T any]() *Schema {
	t := reflect.TypeFor[T]()
	if s, ok := compiled.Load(t); ok {
		return s.(*Schema)
	}
	s := &Schema{compile(t, "")}
	compiled.Store(t, s)
	return s
}

// ListOf returns the definition of a list of T with at most that many members.
func ListOf[T any](most int) *Schema {
	return &Schema{&node{kind: list, item: Of[T]().root, maxLen: &most}}
}

func compile(t reflect.Type, at string) *node {
	n := &node{}
	if t.Kind() == reflect.Pointer {
		t = t.Elem()
	}
	zero := reflect.Zero(t).Interface()
	if m, ok := zero.(Measured); ok {
		n.unit = m.Unit()
	}
	switch {
	case t == reflect.TypeFor[time.Time]():
		n.kind, n.format, n.pattern = text, "date-time", regexp.MustCompile(moment)
	case t == reflect.TypeFor[json.RawMessage]():
		n.kind = anything
	case t.Kind() == reflect.String:
		n.kind = text
		if e, ok := zero.(Enumerated); ok {
			n.words = e.Values()
		}
	case t.Kind() == reflect.Bool:
		n.kind = boolean
	case t.Kind() == reflect.Float64:
		n.kind = number
	case t.Kind() == reflect.Int:
		n.kind = integer
	case t.Kind() == reflect.Slice:
		n.kind, n.item = list, compile(t.Elem(), at+"[]")
	case t.Kind() == reflect.Map && t.Key().Kind() == reflect.String:
		n.kind, n.item = mapping, compile(t.Elem(), at+"{}")
	case t.Kind() == reflect.Struct:
		n.kind, n.name = object, t.Name()
		for _, f := range reflect.VisibleFields(t) {
			n.add(f, at)
		}
	default:
		panic(fmt.Sprintf("schema: %s of %s cannot be described", at, t))
	}
	return n
}

func (n *node) add(f reflect.StructField, at string) {
	name, options, _ := strings.Cut(f.Tag.Get("json"), ",")
	if name == "-" || f.Anonymous || !f.IsExported() {
		return
	}
	if name == "" {
		name = f.Name
	}
	member := compile(f.Type, strings.TrimPrefix(at+"."+name, "."))
	member.limit(f.Tag, at+"."+name)
	n.fields = append(n.fields, field{name, f.Index, !slices.Contains(strings.Split(options, ","), "omitempty"), member})
}

// limit takes the limits that a field's tags say.
func (n *node) limit(tag reflect.StructTag, at string) {
	n.doc = tag.Get("doc")
	count := func(name string) *int {
		v, ok := tag.Lookup(name)
		if !ok {
			return nil
		}
		i, err := strconv.Atoi(v)
		if err != nil {
			panic(fmt.Sprintf("schema: %s: %s %q", at, name, v))
		}
		return &i
	}
	bound := func(name string) *float64 {
		v, ok := tag.Lookup(name)
		if !ok {
			return nil
		}
		f, err := strconv.ParseFloat(v, 64)
		if err != nil {
			panic(fmt.Sprintf("schema: %s: %s %q", at, name, v))
		}
		return &f
	}
	value := n
	if n.kind == list || n.kind == mapping {
		n.minLen, n.maxLen = count("minItems"), count("maxItems")
		value = n.item
	}
	switch value.kind {
	case text:
		value.minLen, value.maxLen = count("minLength"), count("maxLength")
		if p := tag.Get("pattern"); p != "" {
			value.pattern = regexp.MustCompile(p)
		}
		if f := tag.Get("format"); f != "" {
			value.format = f
			if f == "date-time" {
				value.pattern = regexp.MustCompile(moment)
			}
		}
		if e := tag.Get("enum"); e != "" {
			value.words = strings.Split(e, ",")
		}
	case integer, number:
		value.min, value.max = bound("minimum"), bound("maximum")
		for _, v := range strings.Split(tag.Get("enum"), ",") {
			if f, err := strconv.ParseFloat(v, 64); err == nil {
				value.numbers = append(value.numbers, f)
			}
		}
	}
}
