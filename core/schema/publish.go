package schema

import (
	"bytes"
	"encoding/json"
	"fmt"

	textrules "dogbolt/core/text"
)

// Publish returns the definition as a JSON Schema (2020-12) with that id and
// title.
func (s *Schema) Publish(id, title string) []byte {
	p := publisher{defs: map[string]any{}}
	doc := p.value(s.root)
	doc["$schema"], doc["$id"], doc["title"] = "https://json-schema.org/draft/2020-12/schema", id, title
	doc["$defs"] = p.defs
	var b bytes.Buffer
	e := json.NewEncoder(&b)
	e.SetEscapeHTML(false)
	e.SetIndent("", "  ")
	if err := e.Encode(doc); err != nil {
		panic(fmt.Sprintf("describe %s: %v", title, err)) // a mistake in the program
	}
	return visible(b.Bytes())
}

// visible writes the characters that nobody sees as JSON's escapes.
func visible(doc []byte) []byte {
	var b bytes.Buffer
	for _, r := range string(doc) {
		if r >= 0x7f && textrules.Wrong(string(r)) != "" {
			fmt.Fprintf(&b, `\u%04x`, r)
			continue
		}
		b.WriteRune(r)
	}
	return b.Bytes()
}

type publisher struct{ defs map[string]any }

func (p *publisher) value(n *node) map[string]any {
	out := map[string]any{}
	if n.doc != "" {
		out["description"] = n.doc
	}
	count := func(least, most string) {
		if n.minLen != nil {
			out[least] = *n.minLen
		}
		if n.maxLen != nil {
			out[most] = *n.maxLen
		}
	}
	switch n.kind {
	case object:
		p.object(n)
		out["$ref"] = "#/$defs/" + n.name
	case list:
		out["type"], out["items"] = "array", p.value(n.item)
		count("minItems", "maxItems")
	case mapping:
		out["type"], out["additionalProperties"] = "object", p.value(n.item)
		out["propertyNames"] = map[string]string{"pattern": textrules.Taken}
		count("minProperties", "maxProperties")
	case text:
		out["type"] = "string"
		count("minLength", "maxLength")
		if len(n.words) > 0 {
			out["enum"] = n.words
		}
		if n.format != "" {
			out["format"] = n.format
		}
		switch {
		case n.pattern != nil && n.pattern.String() == Something:
			out["pattern"], out["allOf"] = Something, []map[string]string{{"pattern": textrules.Taken}}
		case n.pattern != nil:
			out["pattern"] = n.pattern.String()
		case len(n.words) == 0 && n.format == "":
			out["pattern"] = textrules.Taken
		}
	case integer, number:
		out["type"] = map[kind]string{integer: "integer", number: "number"}[n.kind]
		if len(n.numbers) > 0 {
			out["enum"] = n.numbers
		}
		if n.min != nil {
			out["minimum"] = *n.min
		}
		if n.max != nil {
			out["maximum"] = *n.max
		}
	case boolean:
		out["type"] = "boolean"
	}
	return out
}

// object describes an object once, under its name.
func (p *publisher) object(n *node) {
	if _, done := p.defs[n.name]; done {
		return
	}
	def := map[string]any{"type": "object", "additionalProperties": false}
	p.defs[n.name] = def
	properties, required := map[string]any{}, []string{}
	for _, f := range n.fields {
		properties[f.name] = p.value(f.node)
		if f.required {
			required = append(required, f.name)
		}
	}
	def["properties"] = properties
	if len(required) > 0 {
		def["required"] = required
	}
}
