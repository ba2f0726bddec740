// Package schematest makes documents out of a published schema: one with every field
// filled, and for every limit of every field one that keeps to it and one that does
// not.
package schematest

import (
	"bytes"
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"

	"dogbolt/core/schema"
	textrules "dogbolt/core/text"
)

// Case is a document that differs in one field from one that is valid.
type Case struct {
	Name  string // "survey.supply.rating: above maximum"
	Field string // that a refusal names
	Doc   []byte
	Valid bool
}

// Judge returns the published schema as an independent library reads it (strict,
// with formats).
func Judge(t testing.TB, published []byte) *jsonschema.Schema {
	t.Helper()
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(published))
	if err != nil {
		t.Fatal(err)
	}
	c := jsonschema.NewCompiler()
	c.AssertFormat()
	if err := c.AddResource("published.json", doc); err != nil {
		t.Fatal(err)
	}
	s, err := c.Compile("published.json")
	if err != nil {
		t.Fatal(err)
	}
	return s
}

// Takes reports whether the library takes a document. It panics on a number whose exponent
// is itself too large to be a number: that is no yes.
func Takes(s *jsonschema.Schema, data []byte) (err error) {
	defer func() {
		if p := recover(); p != nil {
			err = fmt.Errorf("the library: %v", p)
		}
	}()
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(data))
	if err != nil {
		return err
	}
	return s.Validate(doc)
}

type node = map[string]any

// maker walks a schema and a document made from it side by side.
type maker struct {
	t     testing.TB
	defs  node
	root  any
	cases []Case
}

// Whole returns a valid document with every field filled.
func Whole(t testing.TB, published []byte) any {
	m, s := open(t, published)
	return m.sample(s, false)
}

// Cases returns the cases of every limit of a published schema, in a document that
// has every field.
func Cases(t testing.TB, published []byte) []Case {
	return CasesOf(t, published, Whole(t, published))
}

// CasesOf returns the cases of every limit in a document of the test's own; fields
// that it lacks are added where their limits are tried.
func CasesOf(t testing.TB, published []byte, doc any) []Case {
	m, s := open(t, published)
	m.root = doc
	m.add("", "the whole document", "", true)
	m.walk(s, nil)
	return m.cases
}

func open(t testing.TB, published []byte) (*maker, node) {
	t.Helper()
	s := node{}
	d := json.NewDecoder(bytes.NewReader(published))
	d.UseNumber()
	if err := d.Decode(&s); err != nil {
		t.Fatal(err)
	}
	defs, _ := s["$defs"].(node)
	return &maker{t: t, defs: defs}, s
}

func (m *maker) resolve(s node) node {
	if ref, ok := s["$ref"].(string); ok {
		return m.defs[strings.TrimPrefix(ref, "#/$defs/")].(node)
	}
	return s
}

// samples are texts of the patterns that the schemas have.
var samples = map[string]string{
	`^https?://[^ ]+$`: "https://manuals.example/a",
	`^(M[0-9]{1,3} [0-9]{1,3}(L[0-9]{1,3} [0-9]{1,3})*)+$`: "M10 20L30 40",
	"^IP[0-6X][0-9X][A-D]?$":                               "IP54",
	schema.Clock:                                           "07:30",
	schema.Something:                                       "x",
	schema.Digest:                                          strings.Repeat("0a", 32),
	schema.ID:                                              "an-id",
}

// sample returns a valid value; least leaves out what may be left out.
func (m *maker) sample(s node, least bool) any {
	s = m.resolve(s)
	if enum, ok := s["enum"].([]any); ok {
		return enum[0]
	}
	switch s["type"] {
	case "object":
		if values, ok := s["additionalProperties"].(node); ok {
			return node{"a": m.sample(values, least)}
		}
		out := node{}
		for name, p := range s["properties"].(node) {
			if !least || slices.Contains(m.required(s), name) {
				out[name] = m.sample(p.(node), least)
			}
		}
		return out
	case "array":
		return []any{m.sample(s["items"].(node), least)}
	case "integer", "number":
		if low, ok := s["minimum"]; ok {
			return low
		}
		return json.Number("0")
	case "boolean":
		return true
	case "string":
		return m.text(s)
	}
	return "anything"
}

func (m *maker) text(s node) string {
	switch s["format"] {
	case "date":
		return "2026-05-04"
	case "date-time":
		return "2026-05-04T09:30:00Z"
	}
	if p, ok := s["pattern"].(string); ok && p != textrules.Taken {
		v, known := samples[p]
		if !known {
			m.t.Fatalf("no sample of the pattern %s", p)
		}
		return v
	}
	n := 1
	if least, ok := s["minLength"].(json.Number); ok {
		n = number(least)
	}
	return strings.Repeat("a", max(n, 1))
}

func (m *maker) required(s node) []string {
	var out []string
	list, _ := s["required"].([]any)
	for _, r := range list {
		out = append(out, r.(string))
	}
	return out
}

func number(n any) int {
	i, err := strconv.Atoi(string(n.(json.Number)))
	if err != nil {
		panic(err)
	}
	return i
}

// deleted stands for a member that is taken away.
type deleted struct{}

// Field returns a path as errors say it.
func Field(path []any) string {
	var b strings.Builder
	for _, p := range path {
		switch p := p.(type) {
		case int:
			fmt.Fprintf(&b, "[%d]", p)
		case string:
			if b.Len() > 0 {
				b.WriteByte('.')
			}
			b.WriteString(p)
		}
	}
	return b.String()
}

// Set returns a copy of a document with the value at the path.
func Set(doc any, path []any, v any) any {
	if len(path) == 0 {
		return v
	}
	switch p := path[0].(type) {
	case int:
		out := slices.Clone(doc.([]any))
		out[p] = Set(out[p], path[1:], v)
		return out
	case string:
		out := maps.Clone(doc.(node))
		if _, gone := v.(deleted); gone && len(path) == 1 {
			delete(out, p)
			return out
		}
		out[p] = Set(out[p], path[1:], v)
		return out
	}
	return doc
}

func (m *maker) add(at, what, field string, valid bool, change ...any) {
	doc := m.root
	if len(change) == 2 {
		doc = Set(doc, change[0].([]any), change[1])
	}
	data, err := json.Marshal(doc)
	if err != nil {
		m.t.Fatal(err)
	}
	m.cases = append(m.cases, Case{at + ": " + what, field, data, valid})
}

// walk adds the cases of a value and of what is in it.
func (m *maker) walk(s node, path []any) {
	s = m.resolve(s)
	at := Field(path)
	try := func(what string, valid bool, v any) { m.add(at, what, at, valid, path, v) }
	if s["type"] == nil {
		return // anything
	}
	if len(path) > 0 {
		try("null", false, nil)
		wrong := any("text")
		if s["type"] == "string" {
			wrong = json.Number("7")
		}
		try("another type", false, wrong)
	}
	if enum, ok := s["enum"].([]any); ok {
		for _, v := range enum {
			try(fmt.Sprintf("%v", v), true, v)
		}
		if s["type"] == "string" {
			try("no such word", false, "no such word")
		} else {
			try("no such number", false, json.Number("1000000000"))
		}
		return
	}
	switch s["type"] {
	case "object":
		m.object(s, path)
	case "array":
		m.list(s, path)
	case "integer", "number":
		m.number(s, try)
	case "string":
		m.strings(s, try)
	}
}

func (m *maker) object(s node, path []any) {
	if values, ok := s["additionalProperties"].(node); ok {
		m.walk(values, append(slices.Clone(path), "a"))
		if most, ok := s["maxProperties"]; ok {
			for extra, valid := range map[int]bool{0: true, 1: false} {
				many := node{}
				for i := range number(most) + extra {
					many["k"+strconv.Itoa(i)] = m.sample(values, false)
				}
				m.add(Field(path), fmt.Sprintf("%d members", len(many)), Field(path), valid, path, many)
			}
		}
		return
	}
	if len(path) > 0 || s["additionalProperties"] == false {
		stranger := append(slices.Clone(path), "stranger")
		m.add(Field(path), "a member that there is not", Field(stranger), false, stranger, "x")
	}
	properties := s["properties"].(node)
	for _, name := range slices.Sorted(maps.Keys(properties)) {
		member := append(slices.Clone(path), name)
		if slices.Contains(m.required(s), name) {
			m.add(Field(member), "left out", Field(member), false, member, deleted{})
		} else {
			m.add(Field(member), "left out", "", true, member, deleted{})
		}
		before := m.root
		if !has(m.root, member) {
			m.root = Set(m.root, member, m.sample(properties[name].(node), true))
		}
		m.walk(properties[name].(node), member)
		m.root = before
	}
}

// has reports whether a document has a value at a path.
func has(doc any, path []any) bool {
	for _, p := range path {
		switch p := p.(type) {
		case int:
			if l := doc.([]any); p >= len(l) {
				return false
			}
			doc = doc.([]any)[p]
		case string:
			v, ok := doc.(node)[p]
			if !ok {
				return false
			}
			doc = v
		}
	}
	return true
}

func (m *maker) list(s node, path []any) {
	items := s["items"].(node)
	m.walk(items, append(slices.Clone(path), 0))
	least := m.sample(items, true)
	for limit, change := range map[string]int{"maxItems": 1, "minItems": -1} {
		n, ok := s[limit]
		if !ok {
			if limit == "maxItems" {
				m.t.Errorf("%s has no %s", Field(path), limit)
			}
			continue
		}
		at := Field(path)
		m.add(at, limit, at, true, path, slices.Repeat([]any{least}, number(n)))
		m.add(at, "past "+limit, at, false, path, slices.Repeat([]any{least}, number(n)+change))
	}
}

func (m *maker) number(s node, try func(string, bool, any)) {
	for limit, change := range map[string]float64{"minimum": -1, "maximum": 1} {
		v, ok := s[limit].(json.Number)
		if !ok {
			try("has no "+limit, false, json.Number("1e300"))
			continue
		}
		f, err := v.Float64()
		if err != nil {
			m.t.Fatal(err)
		}
		try(limit, true, v)
		try("past "+limit, false, json.Number(strconv.FormatFloat(f+change, 'f', -1, 64)))
	}
	if s["type"] == "integer" {
		low := s["minimum"].(json.Number)
		try("with .0", true, low+".0")
		try("with .5", false, low+".5")
	}
}

func (m *maker) strings(s node, try func(string, bool, any)) {
	if n, ok := s["minLength"]; ok {
		try("too short", false, strings.Repeat("é", number(n)-1))
	}
	switch {
	case s["format"] == "date":
		try("no day", false, "2026-02-30")
		return
	case s["format"] == "date-time":
		try("no time", false, "2026-05-04T24:30:00Z")
		return
	}
	pattern, patterned := s["pattern"]
	if pattern == textrules.Taken {
		patterned = false
		try("with a control character", false, "a\x07")
	}
	if patterned {
		try("of another pattern", false, " ")
	}
	n, ok := s["maxLength"]
	switch {
	case ok && !patterned:
		// Characters, not bytes.
		try("as long as may be", true, strings.Repeat("é", number(n)))
		try("too long", false, strings.Repeat("é", number(n)+1))
	case !ok && !patterned:
		try("has no maxLength", false, strings.Repeat("a", 9<<20))
	}
}
