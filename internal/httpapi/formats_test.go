package httpapi

import (
	"encoding/json"
	"errors"
	"math/rand/v2"
	"net/http"
	"reflect"
	"strings"
	"testing"

	"dogbolt/core/charger"
	"dogbolt/core/clearance"
	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/schema"
	"dogbolt/core/text"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/testkit/schematest"
)

// formats are the published schemas with what the program reads such a document by.
var formats = map[string]struct {
	published func() []byte
	read      func([]byte) error
}{
	"job": {JobSchema, func(b []byte) error {
		var j job.Job
		return orNil(schema.Of[job.Job]().Read("", b, &j))
	}},
	"paper": {PaperSchema, func(b []byte) error {
		var d clearance.Definition
		return orNil(schema.Of[clearance.Definition]().Read("", b, &d))
	}},
	"charger": {ChargerSchema, func(b []byte) error {
		var l []charger.Type
		return orNil(schema.ListOf[charger.Type](charger.MaxTypes).Read("", b, &l))
	}},
	"readings": {ReadingsSchema, func(b []byte) error {
		var f commission.File
		return orNil(schema.Of[commission.File]().Read("", b, &f))
	}},
}

func orNil(errs schema.Errors) error {
	if len(errs) == 0 {
		return nil
	}
	return errs
}

// TestSchemasAreTheDefinition breaks every enumeration, bound, length and count of
// every published schema, and keeps to each: an independent validator (JSON Schema
// 2020-12, formats asserted) and the program agree, and the program names the field.
func TestSchemasAreTheDefinition(t *testing.T) {
	for name, f := range formats {
		t.Run(name, func(t *testing.T) {
			judge := schematest.Judge(t, f.published())
			cases := schematest.Cases(t, f.published())
			for _, c := range cases {
				library, ours := schematest.Takes(judge, c.Doc), f.read(c.Doc)
				if (library == nil) != c.Valid || (ours == nil) != c.Valid {
					t.Errorf("%s: wants valid %t; the validator says %v, the program %v", c.Name, c.Valid, short(library), short(ours))
				}
				if !c.Valid && ours != nil && !strings.Contains(ours.Error(), c.Field) {
					t.Errorf("%s: %v does not name %s", c.Name, short(ours), c.Field)
				}
			}
			t.Logf("%d cases", len(cases))
		})
	}
}

func short(err error) string {
	if err == nil {
		return "nothing"
	}
	return strings.ReplaceAll(err.Error(), "\n", " ")[:min(len(err.Error()), 200)]
}

// TestOldReading reads each case as a document of an older program, by which way ever:
// what is refused is set aside and named, and nothing else is.
func TestOldReading(t *testing.T) {
	for _, c := range schematest.Cases(t, JobSchema()) {
		var j job.Job
		refused, errs := schema.Of[job.Job]().ReadOld("", c.Doc, &j)
		// Null is what is left out; so is a required 0, which Go cannot tell from it.
		silent := strings.HasSuffix(c.Name, ": null") || strings.HasSuffix(c.Name, ": left out")
		if named := len(refused)+len(errs) > 0; named == c.Valid && !silent {
			t.Errorf("%s: set aside %+v, errors %d", c.Name, refused, len(errs))
		}
	}
}

// TestImportRefuses sends a job file with each limit broken: the answer is 422 and
// names the field.
func TestImportRefuses(t *testing.T) {
	c := newSite(t, Options{}).as(people.Verifier)
	for _, x := range schematest.Cases(t, JobSchema()) {
		if x.Valid {
			continue
		}
		status, body := c.do("POST", "/api/jobs/import", string(x.Doc), "Content-Type", "application/octet-stream")
		if status != http.StatusUnprocessableEntity || !strings.Contains(body, jsonText(x.Field)) {
			t.Errorf("%s: %d %.300s", x.Name, status, body)
		}
	}
}

// jsonText is a text as it stands inside a JSON string.
func jsonText(s string) string {
	b, _ := json.Marshal(s)
	return strings.Trim(string(b), `"`)
}

// FuzzOneField changes one value of a valid document, anywhere and to anything, and
// asks the independent validator and the program.
func FuzzOneField(f *testing.F) {
	for _, v := range []string{"null", "3.0", "1e400", "1e33333333333333333333", "-0", `"é"`, `""`, `"2026-05-04"`, "[]", "{}", "[null]", "true", "1e3", `"\ud800"`, `"\u0007"`, `{"\u202e": 1}`} {
		f.Add(uint64(len(v)), v)
	}
	type target struct {
		whole any
		judge func([]byte) error
		read  func([]byte) error
	}
	var targets []target
	for _, name := range []string{"job", "paper", "charger", "readings"} {
		format := formats[name]
		judge := schematest.Judge(f, format.published())
		targets = append(targets, target{schematest.Whole(f, format.published()), func(b []byte) error { return schematest.Takes(judge, b) }, format.read})
	}
	f.Fuzz(func(t *testing.T, seed uint64, value string) {
		d := json.NewDecoder(strings.NewReader(value))
		d.UseNumber()
		var v any
		if d.Decode(&v) != nil {
			return
		}
		r := rand.New(rand.NewPCG(seed, 1))
		x := targets[r.IntN(len(targets))]
		path := anywhere(r, x.whole)
		doc, err := json.Marshal(schematest.Set(x.whole, path, v))
		if err != nil {
			t.Fatal(err)
		}
		library, ours := x.judge(doc), x.read(doc)
		if (library == nil) != (ours == nil) {
			t.Errorf("%s = %s: the validator says %v, the program %v", schematest.Field(path), value, library, ours)
		}
		var errs schema.Errors
		if errors.As(ours, &errs) && len(path) > 0 && !strings.Contains(ours.Error(), schematest.Field(path)) {
			t.Errorf("%s = %s: %v does not name the field", schematest.Field(path), value, ours)
		}
	})
}

// anywhere returns the path of some value of a document.
func anywhere(r *rand.Rand, doc any) []any {
	var path []any
	for {
		switch d := doc.(type) {
		case map[string]any:
			keys := make([]string, 0, len(d))
			for k := range d {
				keys = append(keys, k)
			}
			if len(keys) == 0 || r.IntN(6) == 0 {
				return path
			}
			k := keys[r.IntN(len(keys))]
			path, doc = append(path, k), d[k]
		case []any:
			if len(d) == 0 || r.IntN(6) == 0 {
				return path
			}
			i := r.IntN(len(d))
			path, doc = append(path, i), d[i]
		default:
			return path
		}
	}
}

// TestOpenAPIKnowsTheWords: what the description of the operations says of a document's
// fields is what the published schema says: words, bounds, lengths and counts.
func TestOpenAPIKnowsTheWords(t *testing.T) {
	limits := []string{"enum", "minimum", "maximum", "minLength", "maxLength", "pattern", "minItems", "maxItems"}
	var file, api struct {
		Defs       map[string]struct{ Properties map[string]map[string]any } `json:"$defs"`
		Components struct {
			Schemas map[string]struct{ Properties map[string]map[string]any }
		}
	}
	if err := json.Unmarshal(JobSchema(), &file); err != nil {
		t.Fatal(err)
	}
	if err := json.Unmarshal(OpenAPI(), &api); err != nil {
		t.Fatal(err)
	}
	compared := 0
	for name, def := range file.Defs {
		other, ok := api.Components.Schemas[name]
		if !ok {
			continue // the whole file is sent and taken as bytes
		}
		for field, want := range def.Properties {
			// What no text may have is refused in all operations at once (typed.go), and times
			// are read as such.
			got := other.Properties[field]
			for _, part := range []func(map[string]any) map[string]any{
				func(m map[string]any) map[string]any { return m },
				func(m map[string]any) map[string]any { items, _ := m["items"].(map[string]any); return items },
			} {
				w, g := part(want), part(got)
				for _, limit := range limits {
					if !reflect.DeepEqual(w[limit], g[limit]) && !(limit == "pattern" && (w["format"] == "date-time" || w[limit] == text.Taken)) {
						t.Errorf("%s.%s: %s is %v in the file's schema, %v in the API's", name, field, limit, w[limit], g[limit])
					}
					compared++
				}
			}
		}
	}
	if compared < 1000 {
		t.Errorf("%d limits compared", compared)
	}
}
