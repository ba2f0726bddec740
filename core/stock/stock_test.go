package stock

import (
	"bytes"
	"encoding/csv"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"dogbolt/core/job"
)

const swa = "6 mm² armoured XLPE 90 °C"

func reel(id string, left float64) Ware {
	return Ware{ID: id, Name: swa, Unit: "m", Place: "store", State: InHand, Reel: true, Quantity: left}
}

func cable(n float64) job.Part {
	return job.Part{Name: swa + ", A", Item: swa, Quantity: n, Unit: "m"}
}

// TestChooseReel: the reel that is left shortest above the margin, so that long
// reels stay long. Common practice, no source.
func TestChooseReel(t *testing.T) {
	for _, c := range []struct {
		name  string
		reels []float64
		need  float64
		want  int // -1 for none
		thin  bool
	}{
		{"the shorter of two that do", []float64{50, 25, 80}, 20, 1, false},
		{"one that keeps the margin before one that does not", []float64{21, 40}, 20, 1, false},
		{"exactly the margin", []float64{22, 40}, 20, 0, false},
		{"below the margin, where nothing else does", []float64{20.5, 21, 12}, 20, 1, true},
		{"to the last centimetre", []float64{20}, 20, 0, true},
		{"nearly long enough is not long enough", []float64{19.9, 19.8}, 20, -1, false},
		{"none", nil, 20, -1, false},
	} {
		t.Run(c.name, func(t *testing.T) {
			var items []Ware
			for i, l := range c.reels {
				items = append(items, reel(fmt.Sprint("R", i), l))
			}
			a := Cover(items, []job.Part{cable(c.need)}, "", 2)
			switch {
			case c.want < 0 && (len(a.Holds) != 0 || len(a.Shorts) != 1):
				t.Errorf("%s: %+v", c.name, a)
			case c.want >= 0 && (len(a.Holds) != 1 || a.Holds[0].Item != fmt.Sprint("R", c.want) || math.Abs(a.Holds[0].Leaves-(c.reels[c.want]-c.need)) > 1e-9):
				t.Errorf("%s: %+v", c.name, a)
			case (len(a.Thin) > 0) != c.thin:
				t.Errorf("%s: thin %q", c.name, a.Thin)
			}
		})
	}
}

func TestShortSays(t *testing.T) {
	part := cable(20)
	for _, c := range []struct {
		name  string
		items []Ware
		words []string
	}{
		{"longest reel", []Ware{reel("R7", 12.5), reel("R8", 18.1)}, []string{"R8", "18.1 m free", "20.0 m are needed in one piece", "1.9 m too short"}},
		{"held for others", []Ware{{ID: "R9", Name: swa, Unit: "m", State: InHand, Reel: true, Quantity: 50, Held: 40}}, []string{"10.0 m free"}},
		{"ordered", []Ware{{ID: "O", Name: swa, Unit: "m", State: Ordered, Reel: true, Quantity: 100, Expected: "2027-03-02"}}, []string{"none in hand", "expected 2027-03-02"}},
		{"listed", []Ware{{ID: "L", Name: swa, Unit: "m", State: Listed, Reel: true, Quantity: 1000}}, []string{"listed by a supplier, which is not in hand"}},
		{"nothing known", nil, []string{"none in hand"}},
	} {
		t.Run(c.name, func(t *testing.T) {
			a := Cover(c.items, []job.Part{part}, "", 2)
			if len(a.Shorts) != 1 {
				t.Errorf("%s: %+v", c.name, a)
				return
			}
			for _, w := range c.words {
				if !strings.Contains(a.Shorts[0].Message, w) {
					t.Errorf("%s: %q lacks %q", c.name, a.Shorts[0].Message, w)
				}
			}
		})
	}
}

func TestCoverParts(t *testing.T) {
	items := []Ware{
		{ID: "a", Name: "cable clip", Place: "store", State: InHand, Quantity: 200},
		{ID: "b", Name: "cable clip", Place: "van 2", State: InHand, Quantity: 30},
		{ID: "c", Name: "breaker B40 A", Place: "store", State: Listed, Quantity: 50, Supplier: "counter"},
		{ID: "tape", Name: "marking tape", Unit: "m", Place: "van 2", State: InHand, Quantity: 90},
	}
	parts := []job.Part{
		{Name: "cable clip", Quantity: 42}, {Name: "breaker B40 A, A", Item: "breaker B40 A", Quantity: 1},
		{Name: "torque driver", Quantity: 1, Tool: job.Yes}, {Name: "gland", Quantity: 2, InHand: job.Yes},
		{Name: "marking tape", Quantity: 30, Unit: "ft"},
	}
	a := Cover(items, parts, "van 2", 2)
	if len(a.Holds) != 3 || len(a.Shorts) != 1 || a.Shorts[0].Part != "breaker B40 A, A" || a.Shorts[0].Coming != "listed" {
		t.Fatalf("%+v", a)
	}
	// Lengths come first; then the clips: the van is emptied before the store.
	if h := a.Holds[0]; h.Item != "tape" || math.Abs(h.Quantity-9.144) > 1e-9 {
		t.Errorf("30 ft of tape are 9.144 m: %+v", h)
	}
	if a.Holds[1].Item != "b" || a.Holds[1].Quantity != 30 || a.Holds[2].Item != "a" || a.Holds[2].Quantity != 12 {
		t.Errorf("%+v", a.Holds)
	}
}

// TestListedTwice: a part that stands on the list twice is one hold of both.
func TestListedTwice(t *testing.T) {
	clips := job.Part{Name: "clip", Quantity: 30}
	a := Cover([]Ware{{ID: "a", Name: "clip", State: InHand, Quantity: 70}}, []job.Part{clips, clips}, "", 0)
	if len(a.Holds) != 1 || a.Holds[0].Quantity != 60 || a.Holds[0].Leaves != 10 {
		t.Errorf("%+v", a)
	}
}

// TestTickedAsMissing: a person who looked into the van knows better than the
// stock.
func TestTickedAsMissing(t *testing.T) {
	a := Cover([]Ware{{ID: "a", Name: "clip", State: InHand, Quantity: 200}}, []job.Part{{Name: "clip", Quantity: 5, InHand: job.No}}, "", 0)
	if len(a.Holds) != 0 || len(a.Shorts) != 1 || !strings.Contains(a.Shorts[0].Message, "ticked as not in hand") {
		t.Errorf("%+v", a)
	}
}

// TestPieces: the wires of a raceway may come from several reels, but each wire
// comes from one.
func TestPieces(t *testing.T) {
	wire := func(id string, feet float64) Ware {
		return Ware{ID: id, Name: "6 AWG", Unit: "ft", State: InHand, Reel: true, Quantity: feet}
	}
	part := job.Part{Name: "6 AWG, A", Item: "6 AWG", Quantity: 90, Unit: "ft", Pieces: 2}
	if a := Cover([]Ware{wire("x", 50), wire("y", 60)}, []job.Part{part}, "", 0); len(a.Holds) != 2 || len(a.Shorts) != 0 {
		t.Errorf("one wire from each: %+v", a)
	}
	if a := Cover([]Ware{wire("x", 95)}, []job.Part{part}, "", 0); len(a.Holds) != 1 || a.Holds[0].Quantity != 90 {
		t.Errorf("both from one: %+v", a)
	}
	a := Cover([]Ware{wire("x", 50), wire("y", 44)}, []job.Part{part}, "", 0)
	if len(a.Holds) != 0 || len(a.Shorts) != 1 || a.Shorts[0].Need != 45 {
		t.Errorf("94 ft in two pieces do not make two of 45: %+v", a)
	}
}

// TestNeverTwice: whatever the reels and the jobs, what is held of a reel is
// never more than the reel, a piece is never split, and a job that could be
// covered by a reel of its own is.
func TestNeverTwice(t *testing.T) {
	r := rand.New(rand.NewPCG(4, 11))
	for range 2000 {
		var items []Ware
		for i := range 1 + r.IntN(5) {
			items = append(items, reel(fmt.Sprint("R", i), float64(5+r.IntN(60))))
		}
		for n := range 8 { // jobs, one after the other
			need := float64(1 + r.IntN(30))
			longest := 0.0
			for _, i := range items {
				longest = max(longest, i.Free())
			}
			p := cable(need)
			p.Name = fmt.Sprint(swa, ", ", n)
			a := Cover(items, []job.Part{p}, "", 2)
			if covered := len(a.Holds) == 1; covered != (longest >= need) {
				t.Fatalf("%g m, longest reel %g m: %+v", need, longest, a)
			}
			for _, h := range a.Holds {
				k := slices.IndexFunc(items, func(i Ware) bool { return i.ID == h.Item })
				items[k].Held += h.Quantity
				if h.Quantity != need || items[k].Held > items[k].Quantity {
					t.Fatalf("%+v of %+v", h, items[k])
				}
				// No reel that keeps the margin would have been left shorter.
				for _, o := range items {
					left, best := o.Free()-need, items[k].Free()
					if o.ID != h.Item && left >= 2 && (left < best || best < 2) {
						t.Fatalf("%s would be left with %g m, %s is left with %g m", o.ID, left, h.Item, best)
					}
				}
			}
		}
	}
}

// TestTogether: the parts of one job share the reels too.
func TestTogether(t *testing.T) {
	a := Cover([]Ware{reel("R1", 30)}, []job.Part{{Name: "x", Item: swa, Quantity: 12, Unit: "m"}, {Name: "y", Item: swa, Quantity: 17, Unit: "m"}, {Name: "z", Item: swa, Quantity: 2, Unit: "m"}}, "", 0)
	if len(a.Holds) != 2 || len(a.Shorts) != 1 || a.Shorts[0].Part != "z" {
		t.Errorf("%+v", a)
	}
}

func TestOrders(t *testing.T) {
	items := []Ware{
		{ID: "1", Name: "breaker B40 A", State: Listed, Supplier: "Harbour Electrical Counter", Quantity: 20},
		{ID: "2", Name: "gland", State: Listed, Supplier: "Aldermoor Fixings", Quantity: 100},
		{ID: "3", Name: "gland", State: InHand, Quantity: 3},
		{ID: "4", Name: swa, Unit: "m", State: Ordered, Quantity: 10, Reel: true},
		{ID: "5", Name: "tape", Unit: "m", State: Ordered, Quantity: 10},
		reel("6", 40), // for one of the two pieces of 25 m
	}
	orders, held := Orders(items, []Want{
		{Job: "DB-2", Day: "2027-03-09", Parts: []job.Part{{Name: "breaker B40 A, A", Item: "breaker B40 A", Quantity: 1}, {Name: "gland", Quantity: 2}}},
		{Job: "DB-3", Parts: []job.Part{{Name: "breaker B40 A, A", Item: "breaker B40 A", Quantity: 1}}, Stops: "the grant is not offered yet"},
		{Job: "DB-1", Day: "2027-03-02", Parts: []job.Part{{Name: "breaker B40 A, A", Item: "breaker B40 A", Quantity: 2}, {Name: "gland", Quantity: 2}, cable(25), {Name: "sealant", Quantity: 1}, {Name: "tape", Quantity: 8, Unit: "m"}}},
		{Job: "DB-4", Parts: []job.Part{cable(25)}},
	}, 2)
	if len(held) != 1 || held[0].Job != "DB-3" {
		t.Errorf("held back: %+v", held)
	}
	got := map[string]string{}
	for _, o := range orders {
		for _, l := range o.Lines {
			got[l.Name] = fmt.Sprintf("%s: %g %s %v by %s", o.Supplier, l.Quantity, l.Unit, l.Jobs, l.By)
		}
	}
	want := map[string]string{
		"breaker B40 A": "Harbour Electrical Counter: 3  [DB-1 DB-2] by 2027-03-02",
		"gland":         "Aldermoor Fixings: 1  [DB-2] by 2027-03-09", // three in hand serve the earlier job first
		swa:             ": 25 m [DB-4] by ",                          // 10 m that are ordered are not 25 m in one piece
		"sealant":       ": 1  [DB-1] by 2027-03-02",
	}
	for name, w := range want {
		if got[name] != w {
			t.Errorf("%s: %q, want %q", name, got[name], w)
		}
	}
	if len(got) != len(want) || orders[len(orders)-1].Supplier != "" {
		t.Errorf("%+v", orders)
	}
}

func TestRowsRoundTrip(t *testing.T) {
	items := []Ware{reel("R1", 48.5), {ID: "b", Name: "gland, 20 mm", State: Listed, Quantity: 12, Supplier: "Aldermoor Fixings"}, {ID: "o", Name: swa, Unit: "m", State: Ordered, Quantity: 100, Expected: "2027-03-02"}}
	var b bytes.Buffer
	w := csv.NewWriter(&b)
	if err := w.WriteAll(Rows(items)); err != nil {
		t.Fatal(err)
	}
	rows, err := ReadCSV(&b)
	if err != nil {
		t.Fatal(err)
	}
	back, errs := FromRows(rows)
	if len(errs) > 0 || !slices.Equal(back, items) {
		t.Errorf("%+v %v", back, errs)
	}
}

// TestEveryBadRow: all bad rows are named, and nothing is taken.
func TestEveryBadRow(t *testing.T) {
	rows := [][]string{Columns,
		{"R1", swa, "m", "store", "in-hand", "yes", "50"},
		{"", swa, "m", "store", "in-hand", "yes", "50"},
		{"R2", "", "m", "store", "in-hand", "yes", "50"},
		{"R3", swa, "m", "store", "somewhere", "yes", "50"},
		{"R4", swa, "m", "store", "in-hand", "perhaps", "50"},
		{"R5", swa, "m", "store", "in-hand", "yes", "lots"},
		{"R6", swa, "yd", "store", "in-hand", "yes", "50"},
		{"R7", swa, "m", "store", "in-hand", "yes", "-1"},
		{"R1", swa, "m", "store", "in-hand", "yes", "20"},
		{"R8", swa, "m", "store", "ordered", "yes", "20", "counter", "soon"},
		{"R9", swa, "m", "store", "ordered", "yes", "20", "counter", "", "extra"},
		{"", "", ""},
		{"R10", swa, "m", "store", "in-hand", "yes", "NaN"},
	}
	items, errs := FromRows(rows)
	want := []string{"row 3: id", "row 4: name", "row 5: state", "row 6: reel", "row 7: quantity", "row 8: unit", "row 9: quantity", "row 10: id", "row 11: expected", "row 12: has 10", "row 14: quantity"}
	if len(errs) != len(want) {
		t.Fatalf("%d errors: %v", len(errs), errs)
	}
	for i, w := range want {
		if !strings.HasPrefix(errs[i].Error(), w) {
			t.Errorf("%v, want %q", errs[i], w)
		}
	}
	if len(items) != 1 {
		t.Errorf("%d good rows", len(items))
	}
	for _, bad := range [][][]string{nil, {{"name"}}, {Columns}} {
		if _, errs := FromRows(bad); len(errs) != 1 {
			t.Errorf("%v: %v", bad, errs)
		}
	}
	if _, err := ReadCSV(strings.NewReader("id,name\n\"a,b\n")); err == nil || !strings.Contains(err.Error(), "row") {
		t.Errorf("a quote left open: %v", err)
	}
}
