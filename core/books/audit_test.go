package books

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"
	"testing"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/rulebook"
	"dogbolt/core/schema"
	"dogbolt/internal/testkit/ruletest"
)

const examples = "../../docs/formats/examples/"

// sound are jobs that meet their rules, one of each kind of supply and of work.
func sound(t testing.TB) map[string]job.Job {
	uk := func(change ruletest.Change) job.Job {
		return signed(t, ruletest.Example(t, examples+"uk-pass.json"), change)
	}
	us := func(change ruletest.Change) job.Job {
		return signed(t, ruletest.Example(t, examples+"us-pass.json"), change)
	}
	same := func(*job.Job) {}
	return map[string]job.Job{
		"uk TN-C-S": uk(same),
		"us split":  us(same),
	}
}

// signed makes a change and signs the design anew.
func signed(t testing.TB, j job.Job, change ruletest.Change) job.Job {
	t.Helper()
	change(&j)
	for i := range j.Log {
		if j.Log[i].Kind == job.SignedOff && j.Log[i].Subject == "design" {
			j.Log[i].Value = j.DesignDigest()
		}
	}
	return j
}

// verdicts are what the rules say of a job, by rule and point. Signatures, which
// follow every change of the design, are left out: they say nothing of a field.
func verdicts(t testing.TB, j *job.Job) map[string]rulebook.Verdict {
	t.Helper()
	findings, err := rulebook.Check(j)
	if err != nil {
		t.Fatal(err)
	}
	out := map[string]rulebook.Verdict{}
	for _, f := range findings {
		if !strings.HasPrefix(f.Rule, "signed-") {
			out[f.Rule+" "+f.Point] = f.Verdict
		}
	}
	return out
}

// worse returns what turned graver, "" where nothing did.
func worse(before, after map[string]rulebook.Verdict) string {
	for _, k := range slices.Sorted(maps.Keys(after)) {
		b, ok := before[k]
		if !ok {
			b = rulebook.Sound
		}
		if after[k].Graver(b) {
			return k + " " + string(after[k])
		}
	}
	return ""
}

// leaf is a value of the job's document that is no object and no list.
type leaf struct {
	path []any // names and places
	name string
	node map[string]any
	has  bool
}

// leaves lists the leaves of the published schema in a document, those that it leaves
// out too.
func leaves(t testing.TB, doc any) []leaf {
	t.Helper()
	var root map[string]any
	if err := json.Unmarshal(schema.Of[job.Job]().Publish("", ""), &root); err != nil {
		t.Fatal(err)
	}
	var out []leaf
	var walk func(node map[string]any, path []any, value any, has bool)
	walk = func(node map[string]any, path []any, value any, has bool) {
		if ref, ok := node["$ref"].(string); ok {
			node = root["$defs"].(map[string]any)[strings.TrimPrefix(ref, "#/$defs/")].(map[string]any)
		}
		switch node["type"] {
		case "object":
			members, _ := value.(map[string]any)
			props, _ := node["properties"].(map[string]any)
			for _, name := range slices.Sorted(maps.Keys(props)) {
				v, in := members[name]
				walk(props[name].(map[string]any), append(slices.Clone(path), name), v, has && in)
			}
		case "array":
			list, _ := value.([]any)
			for i, v := range list {
				walk(node["items"].(map[string]any), append(slices.Clone(path), i), v, true)
			}
			if len(list) == 0 && has {
				out = append(out, leaf{path, plain(path), node, true})
			}
		default:
			out = append(out, leaf{path, plain(path), node, has})
		}
	}
	walk(root, nil, doc, true)
	return out
}

// plain names a path without its places: survey.loads.kind.
func plain(path []any) string {
	var parts []string
	for _, p := range path {
		if s, ok := p.(string); ok {
			parts = append(parts, s)
		}
	}
	return strings.Join(parts, ".")
}

// put sets or, with nil, removes the value at a path of a document.
func put(doc any, path []any, v any) {
	for _, p := range path[:len(path)-1] {
		switch k := p.(type) {
		case string:
			m := doc.(map[string]any)
			if m[k] == nil {
				m[k] = map[string]any{}
			}
			doc = m[k]
		case int:
			doc = doc.([]any)[k]
		}
	}
	switch k := path[len(path)-1].(type) {
	case string:
		if v == nil {
			delete(doc.(map[string]any), k)
		} else {
			doc.(map[string]any)[k] = v
		}
	case int:
		doc.([]any)[k] = v
	}
}

// worst are the values that a leaf may have and that could be worse than its own.
func worst(l leaf, now any) []any {
	if list, ok := l.node["enum"].([]any); ok {
		return slices.DeleteFunc(slices.Clone(list), func(v any) bool { return v == now })
	}
	switch l.node["type"] {
	case "number", "integer":
		var out []any
		for _, k := range []string{"minimum", "maximum"} {
			if v, ok := l.node[k]; ok && v != now {
				out = append(out, v)
			}
		}
		n, ok := now.(float64)
		if !ok {
			n = 30
		}
		for _, v := range []float64{n / 10, n / 2, n * 2, n * 10} {
			if l.node["type"] == "integer" {
				v = float64(int(v))
			}
			out = append(out, v)
		}
		return out
	case "string":
		return []any{"?", "no", "none"}
	}
	return nil
}

func clone(t testing.TB, doc any) any {
	t.Helper()
	b, err := json.Marshal(doc)
	if err != nil {
		t.Fatal(err)
	}
	var out any
	if err := json.Unmarshal(b, &out); err != nil {
		t.Fatal(err)
	}
	return out
}

// TestEveryFieldBearsWeight takes every leaf of the job's document away, and gives it
// every other word or the ends of its range: something turns graver, or reading
// refuses it, or the table says why not.
func TestEveryFieldBearsWeight(t *testing.T) {
	silent := map[string]map[string][]string{"away": {}, "worst": {}}
	loud := map[string]map[string]bool{"away": {}, "worst": {}}
	for name, j := range sound(t) {
		b, err := json.Marshal(j)
		if err != nil {
			t.Fatal(err)
		}
		var doc any
		if err := json.Unmarshal(b, &doc); err != nil {
			t.Fatal(err)
		}
		before := verdicts(t, &j)
		say := func(path []any, v any) bool {
			changed := clone(t, doc)
			put(changed, path, v)
			b, err := json.Marshal(changed)
			if err != nil {
				t.Fatal(err)
			}
			k, err := job.Read(b)
			if err != nil {
				return true
			}
			if _, err := rulebook.For(&k); err != nil {
				return true
			}
			return worse(before, verdicts(t, &k)) != ""
		}
		for _, l := range leaves(t, doc) {
			if strings.HasPrefix(l.name, "log") {
				continue
			}
			if l.has {
				if say(l.path, nil) {
					loud["away"][l.name] = true
				} else {
					silent["away"][l.name] = append(silent["away"][l.name], name)
				}
			}
			if slices.ContainsFunc(worst(l, at(doc, l.path)), func(v any) bool { return say(l.path, v) }) {
				loud["worst"][l.name] = true
			} else {
				silent["worst"][l.name] = append(silent["worst"][l.name], name)
			}
		}
	}
	for _, kind := range []string{"away", "worst"} {
		for _, name := range slices.Sorted(maps.Keys(silent[kind])) {
			if !loud[kind][name] {
				fmt.Println(kind, name, silent[kind][name][0])
			}
		}
	}
	_ = strconv.Itoa
	_ = quantity.Round
	_ = schema.Errors{}
}

func at(doc any, path []any) any {
	for _, p := range path {
		switch k := p.(type) {
		case string:
			m, _ := doc.(map[string]any)
			doc = m[k]
		case int:
			l, _ := doc.([]any)
			if k >= len(l) {
				return nil
			}
			doc = l[k]
		}
	}
	return doc
}
