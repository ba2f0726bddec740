package assess

import (
	"encoding/json"
	"path/filepath"
	"reflect"
	"slices"
	"testing"
	"time"

	"dogbolt/core/commission"
	"dogbolt/core/rulebook"
	"dogbolt/core/worklog"
	"dogbolt/internal/testkit/ruletest"
)

// apply does what a device does with what changed, member by member in JSON.
func apply(t *testing.T, before, changed any) map[string]any {
	t.Helper()
	was, now := members(t, before), members(t, changed)
	whole := now["whole"].(bool)
	delete(now, "whole")
	for name, v := range now {
		if keys := map[string][]string{"findings": {"rule", "point"}, "steps": {"id", "point"}}[name]; keys != nil && !whole {
			list := slices.Clone(was[name].([]any))
			for _, is := range v.([]any) {
				i := slices.IndexFunc(list, func(x any) bool {
					return !slices.ContainsFunc(keys, func(k string) bool { return x.(map[string]any)[k] != is.(map[string]any)[k] })
				})
				list[i] = is
			}
			v = list
		}
		was[name] = v
	}
	return was
}

func members(t *testing.T, v any) map[string]any {
	t.Helper()
	var m map[string]any
	b, err := json.Marshal(v)
	if err == nil {
		err = json.Unmarshal(b, &m)
	}
	if err != nil {
		t.Fatal(err)
	}
	return m
}

// TestSince: what changed, put over what was, is what is: through the whole log of each
// example, entry by entry, forwards and backwards, and as time goes by.
func TestSince(t *testing.T) {
	files, err := filepath.Glob("../../docs/formats/examples/*.json")
	if err != nil || len(files) == 0 {
		t.Fatal(files, err)
	}
	for _, name := range files {
		j := ruletest.Example(t, name)
		var last *Assessment
		var lastBytes, changedBytes int
		for n := range 2*len(j.Log) + 1 {
			at := j
			at.Log = j.Log[:min(n, 2*len(j.Log)-n)]
			a, _, err := Of(&at, &WorkPolicy{}, time.Date(2026, 5, 4, 8, 0, 0, 0, time.UTC).Add(time.Duration(n)*time.Hour))
			if err != nil {
				t.Fatal(name, err)
			}
			c := a.Since(last)
			if last != nil {
				if got, want := apply(t, last, c), members(t, a); !reflect.DeepEqual(got, want) {
					for k := range want {
						if !reflect.DeepEqual(got[k], want[k]) {
							t.Fatalf("%s, %d entries: %s is %v, want %v", name, len(at.Log), k, got[k], want[k])
						}
					}
				}
				whole, _ := json.Marshal(a)
				part, _ := json.Marshal(c)
				lastBytes, changedBytes = lastBytes+len(whole), changedBytes+len(part)
			} else if !c.Whole {
				t.Errorf("%s: without a before it is not whole", name)
			}
			last = &a
		}
		if len(j.Log) > 20 && changedBytes > lastBytes/4 {
			t.Errorf("%s: %d bytes say what changed in %d", name, changedBytes, lastBytes)
		}
	}
	var a, b Assessment
	a.Lines, b.Lines = []rulebook.Line{{Rule: "x"}}, []rulebook.Line{{Rule: "y"}}
	if !a.Since(&b).Whole {
		t.Error("other rules, and it is not whole")
	}
	a.Lines, b.Roll = b.Lines, []worklog.Answered{{Name: "n"}}
	if c := a.Since(&b); c.Roll == nil || len(c.Roll) != 0 {
		t.Errorf("a roll that became empty: %v", c.Roll)
	}
}

// TestSame: a value that differs in any one field is another, for every field that there is.
func TestSame(t *testing.T) {
	n := 1.0
	each(t, rulebook.Line{Bar: &rulebook.Gauge{}}, sameLine)
	each(t, rulebook.Gauge{}, sameGauge)
	each(t, worklog.Status{}, sameStep)
	each(t, commission.Test{}, sameTest, "When", "Spared")
	if sameGauge(&rulebook.Gauge{Value: &n}, nil) || sameGauge(&rulebook.Gauge{Value: new(float64)}, &rulebook.Gauge{Value: &n}) {
		t.Error("another gauge is the same")
	}
}

func each[T any](t *testing.T, from T, same func(a, b *T) bool, but ...string) {
	t.Helper()
	for _, f := range reflect.VisibleFields(reflect.TypeOf(from)) {
		if f.Anonymous || slices.Contains(but, f.Name) {
			continue
		}
		other := from
		v := reflect.ValueOf(&other).Elem().FieldByIndex(f.Index)
		switch v.Kind() {
		case reflect.String:
			v.SetString("x")
		case reflect.Bool:
			v.SetBool(true)
		case reflect.Slice:
			v.Set(reflect.MakeSlice(v.Type(), 1, 1))
		case reflect.Pointer:
			v.Set(reflect.New(v.Type().Elem()))
			if !v.Elem().IsZero() || f.Name == "Bar" {
				v.SetZero() // there was one
			}
		default:
			t.Errorf("%T.%s is a %s: say how it differs", from, f.Name, v.Kind())
		}
		a, b := from, from
		if !same(&a, &b) || same(&a, &other) || same(&other, &a) {
			t.Errorf("%T.%s differs, and it is the same", from, f.Name)
		}
	}
}
