package job

import (
	"encoding/json"
	"strings"
	"testing"
)

func TestMerge(t *testing.T) {
	for _, c := range []struct{ name, base, mine, theirs, want, clash string }{
		{"apart", `{"a":1,"b":1}`, `{"a":2,"b":1}`, `{"a":1,"b":3}`, `{"a":2,"b":3}`, ""},
		{"alike", `{"a":1}`, `{"a":2}`, `{"a":2}`, `{"a":2}`, ""},
		{"differently", `{"a":1}`, `{"a":2}`, `{"a":3}`, `{"a":3}`, "a"},
		{"deep", `{"s":{"r":80,"v":""}}`, `{"s":{"r":100,"v":""}}`, `{"s":{"r":80,"v":"238"}}`, `{"s":{"r":100,"v":"238"}}`, ""},
		{"both new, apart", `{}`, `{"s":{"r":100}}`, `{"s":{"v":"238"}}`, `{"s":{"r":100,"v":"238"}}`, ""},
		{"taken away by one", `{"a":1,"b":2}`, `{"b":2}`, `{"a":1,"b":3}`, `{"b":3}`, ""},
		{"taken away and changed", `{"a":1}`, `{}`, `{"a":3}`, `{"a":3}`, "a"},
		{"points by their name", `{"p":[{"point":"A","n":1},{"point":"B","n":1}]}`, `{"p":[{"point":"A","n":2},{"point":"B","n":1}]}`, `{"p":[{"point":"B","n":5},{"point":"A","n":1}]}`, `{"p":[{"n":5,"point":"B"},{"n":2,"point":"A"}]}`, ""},
		{"the same field of a point", `{"p":[{"point":"A","n":1}]}`, `{"p":[{"point":"A","n":2}]}`, `{"p":[{"point":"A","n":3}]}`, `{"p":[{"n":3,"point":"A"}]}`, "p.A.n"},
		{"both added", `{"l":[{"k":"x"}]}`, `{"l":[{"k":"x"},{"k":"y"}]}`, `{"l":[{"k":"x"},{"k":"z"}]}`, `{"l":[{"k":"x"},{"k":"z"},{"k":"y"}]}`, ""},
		{"both added the same", `{}`, `{"l":[{"k":"x"}]}`, `{"l":[{"k":"x"}]}`, `{"l":[{"k":"x"}]}`, ""},
		{"segments by their place", `{"l":[{"m":1},{"m":2}]}`, `{"l":[{"m":9},{"m":2}]}`, `{"l":[{"m":1},{"m":8}]}`, `{"l":[{"m":9},{"m":8}]}`, ""},
		{"lists that cannot be joined", `{"l":[1,2]}`, `{"l":[2]}`, `{"l":[1,2,3]}`, `{"l":[1,2,3]}`, "l"},
		{"photos by their digest", `{"photos":[]}`, `{"photos":[{"digest":"b","kind":"label"}]}`, `{"photos":[{"digest":"a","kind":"label"}]}`, `{"photos":[{"digest":"a","kind":"label"},{"digest":"b","kind":"label"}]}`, ""},
		{"numbers keep their digits", `{"a":0.1}`, `{"a":0.1}`, `{"a":1234567890123456789}`, `{"a":1234567890123456789}`, ""},
	} {
		t.Run(c.name, func(t *testing.T) {
			got, clashes, err := Merge([]byte(c.base), []byte(c.mine), []byte(c.theirs), nil)
			if err != nil || string(got) != c.want {
				t.Errorf("%s: %s %v\nwant %s", c.name, got, err, c.want)
			}
			var fields []string
			for _, x := range clashes {
				fields = append(fields, x.Field)
			}
			if strings.Join(fields, " ") != c.clash {
				t.Errorf("%s: clash on %v, want %q", c.name, fields, c.clash)
			}
		})
	}
	if _, _, err := Merge([]byte("{"), []byte("{}"), []byte("{}"), nil); err == nil || !strings.Contains(err.Error(), "base") {
		t.Errorf("half a base: %v", err)
	}
}

// TestMergeChoices: a choice settles a clash, but not one with a value that was
// not seen when it was made.
func TestMergeChoices(t *testing.T) {
	base, mine, theirs := []byte(`{"a":1}`), []byte(`{"a":2}`), []byte(`{"a":3}`)
	for _, c := range []struct{ take, seen, want string }{{"mine", "3", `{"a":2}`}, {"theirs", "3", `{"a":3}`}, {"mine", "4", ""}} {
		got, clashes, err := Merge(base, mine, theirs, []Choice{{"a", Take(c.take), json.RawMessage(c.seen)}})
		if settled := c.want != ""; err != nil || settled != (len(clashes) == 0) || settled && string(got) != c.want {
			t.Errorf("%+v: %s %v %v", c, got, clashes, err)
		}
	}
}

// TestMergeOrder: who comes second does not matter where nothing clashes.
func TestMergeOrder(t *testing.T) {
	base, a, b := []byte(`{"s":{"x":1,"y":1,"z":1}}`), []byte(`{"s":{"x":2,"y":1}}`), []byte(`{"s":{"x":1,"y":7,"z":1},"n":"w"}`)
	one, _, err1 := Merge(base, a, b, nil)
	two, _, err2 := Merge(base, b, a, nil)
	if err1 != nil || err2 != nil || string(one) != string(two) || string(one) != `{"n":"w","s":{"x":2,"y":7}}` {
		t.Errorf("%s and %s", one, two)
	}
}
