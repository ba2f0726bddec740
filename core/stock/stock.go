// Package stock knows what the van and the store hold, which reel a length is
// cut from, and what must be ordered. Metres of a reel are never promised twice.
package stock

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"dogbolt/core/job"
	"dogbolt/core/schema"
)

// State is where an item is.
type State string

// States of an item. Only what is in hand can be held for a job.
const (
	InHand  State = "in-hand"
	Ordered State = "ordered"
	Listed  State = "listed" // a supplier lists it: that is not in hand
)

// Values lists where a thing can be.
func (State) Values() []string { return schema.Words(InHand, Ordered, Listed) }

// Ware is one line of the stock: so many of a thing in a place, one reel, or
// what a supplier has.
type Ware struct {
	ID       string  `json:"id" minLength:"1" maxLength:"40" doc:"Id of the line, such as the number on the reel."`
	Name     string  `json:"name" minLength:"1" maxLength:"120" doc:"What it is, as take-offs name it."`
	Unit     string  `json:"unit,omitempty" maxLength:"8" doc:"m or ft for lengths; left out for pieces."`
	Place    string  `json:"place,omitempty" maxLength:"60" doc:"Store, or which van."`
	State    State   `json:"state"`
	Reel     bool    `json:"reel,omitempty" doc:"One piece of cable on a reel."`
	Quantity float64 `json:"quantity" minimum:"0" maximum:"100000" doc:"How many or how much, whatever is held included."`
	Held     float64 `json:"held" doc:"Held for jobs."`
	Supplier string  `json:"supplier,omitempty" maxLength:"80" doc:"Who sells it."`
	Expected string  `json:"expected,omitempty" format:"date" doc:"Day on which an order is expected."`
}

// Free is what is not held for a job.
func (i Ware) Free() float64 { return i.Quantity - i.Held }

// Validate returns the first thing about an item that cannot be.
func (i Ware) Validate() error {
	switch {
	case strings.TrimSpace(i.ID) == "":
		return fmt.Errorf("id: missing")
	case strings.TrimSpace(i.Name) == "":
		return fmt.Errorf("name: missing")
	case !slices.Contains(i.State.Values(), string(i.State)):
		return fmt.Errorf("state: %q is not one of %s", i.State, strings.Join(i.State.Values(), ", "))
	case math.IsNaN(i.Quantity) || i.Quantity < 0 || i.Quantity > 100000:
		return fmt.Errorf("quantity: %g is not between 0 and 100000", i.Quantity)
	case i.Reel && i.Unit != "m" && i.Unit != "ft":
		return fmt.Errorf("unit: a reel is measured in m or ft, not %q", i.Unit)
	}
	return nil
}

// Hold is a quantity of an item held for a part of a job.
type Hold struct {
	Item     string  `json:"item" doc:"Id of the item."`
	Part     string  `json:"part" doc:"Name of the part on the job's list."`
	Quantity float64 `json:"quantity" doc:"In the item's unit."`
	Place    string  `json:"place"`
	Reel     bool    `json:"reel"`
	Leaves   float64 `json:"leaves" doc:"What is then free of the item, in its unit."`
}

// Short is a part that the stock does not cover.
type Short struct {
	Part    string  `json:"part"`
	Need    float64 `json:"need" doc:"In the part's unit."`
	Unit    string  `json:"unit,omitempty"`
	Best    float64 `json:"best" doc:"The most that one reel, or all places together, have free, in the part's unit."`
	Reel    string  `json:"reel,omitempty" doc:"The longest reel, where it is a length."`
	Coming  State   `json:"coming,omitempty" doc:"Where it is to be had: ordered or listed."`
	Day     string  `json:"day,omitempty" format:"date" doc:"When an order is expected."`
	Message string  `json:"message"`
}

// Answer is what the stock says about a job's parts.
type Answer struct {
	Holds  []Hold   `json:"holds"`
	Shorts []Short  `json:"shorts"`
	Thin   []string `json:"thin" doc:"Reels that would be left with less than the margin."`
}

// metres of the length units.
var metres = map[string]float64{"m": 1, "ft": 0.3048}

// convert turns a quantity of one unit into another. Pieces stay pieces.
func convert(v float64, from, to string) (float64, bool) {
	if from == to {
		return v, true
	}
	a, b := metres[from], metres[to]
	return v * a / b, a > 0 && b > 0
}

// eps is what arithmetic with feet may lose.
const eps = 1e-9

// Cover finds what of the stock covers a job's parts: each piece of cable from
// one reel, the one that it leaves shortest while the margin, m, stays on it;
// other parts from the places in order, the crew's van first. Parts that were
// ticked in hand without the stock, and tools, are passed over. Nothing is taken
// twice, for one job or for several. A part that a person has ticked as not in
// hand is short, whatever the stock says.
func Cover(items []Ware, parts []job.Part, van string, margin float64) Answer {
	a := Answer{Holds: []Hold{}, Shorts: []Short{}, Thin: []string{}}
	free := map[string]float64{}
	for _, i := range items {
		free[i.ID] = i.Free()
	}
	for _, p := range longestFirst(parts) {
		if p.Tool == job.Yes || p.InHand == job.Yes && p.From == "" || p.Quantity <= 0 {
			continue
		}
		if p.By == job.ByCustomer {
			a.Shorts = append(a.Shorts, Short{Part: p.Name, Need: p.Quantity, Unit: p.Unit, Message: p.Name + ": the customer's own, which nobody has seen"})
			continue
		}
		if p.InHand == job.No {
			a.Shorts = append(a.Shorts, Short{Part: p.Name, Need: p.Quantity, Unit: p.Unit, Message: p.Name + ": ticked as not in hand"})
			continue
		}
		if metres[p.Unit] > 0 && slices.ContainsFunc(items, func(i Ware) bool { return i.Reel && i.Name == p.InStock() }) {
			a.cut(items, free, p, margin)
			continue
		}
		a.count(items, free, p, van)
	}
	return a
}

// longestFirst sorts lengths before pieces and long before short, so that a
// short cut does not spoil the only reel for a long one.
func longestFirst(parts []job.Part) []job.Part {
	out := slices.Clone(parts)
	slices.SortStableFunc(out, func(a, b job.Part) int {
		return cmp.Compare(pieceMetres(b), pieceMetres(a))
	})
	return out
}

func pieceMetres(p job.Part) float64 { return p.Quantity * metres[p.Unit] / float64(max(p.Pieces, 1)) }

// cut takes every piece of a part from one reel each.
func (a *Answer) cut(items []Ware, free map[string]float64, p job.Part, margin float64) {
	n := max(p.Pieces, 1)
	var holds []Hold
	for range n {
		i, ok := ChooseReel(items, free, p.InStock(), p.Quantity/float64(n), p.Unit, margin)
		if !ok {
			for _, h := range holds { // none of it, or all
				free[h.Item] += h.Quantity
			}
			a.Shorts = append(a.Shorts, short(items, free, p, p.Quantity/float64(n)))
			return
		}
		each, _ := convert(p.Quantity/float64(n), p.Unit, items[i].Unit)
		free[items[i].ID] -= each
		holds = append(holds, Hold{items[i].ID, p.Name, each, items[i].Place, true, free[items[i].ID]})
	}
	a.hold(holds)
	last := map[string]bool{}
	for _, h := range slices.Backward(holds) {
		unit := items[slices.IndexFunc(items, func(i Ware) bool { return i.ID == h.Item })].Unit
		if left, _ := convert(h.Leaves, unit, "m"); left < margin-eps && !last[h.Item] {
			a.Thin = append(
				a.Thin,
				fmt.Sprintf(
					"reel %s would be left with %.1f %s: less than the margin, measure the route again before cutting %s",
					h.Item,
					math.Abs(h.Leaves),
					unit,
					p.Name,
				),
			)
		}
		last[h.Item] = true
	}
}

// ChooseReel returns the reel that a piece is cut from: among those that keep
// the margin, m, the one that is left shortest; where none keeps it, the one
// that is left longest. ok is false where no reel is long enough.
func ChooseReel(items []Ware, free map[string]float64, name string, need float64, unit string, margin float64) (index int, ok bool) {
	best, bestLeft, keeps := -1, 0.0, false
	for i, it := range items {
		if !it.Reel || it.State != InHand || it.Name != name {
			continue
		}
		n, same := convert(need, unit, it.Unit)
		left, _ := convert(free[it.ID]-n, it.Unit, "m")
		if !same || left < -eps {
			continue
		}
		k := left >= margin-eps
		better := best < 0 || k && !keeps || k == keeps && (k && left < bestLeft || !k && left > bestLeft)
		if better {
			best, bestLeft, keeps = i, left, k
		}
	}
	return best, best >= 0
}

// count takes a part from the places in order, the van first.
func (a *Answer) count(items []Ware, free map[string]float64, p job.Part, van string) {
	left := p.Quantity
	var holds []Hold
	for _, first := range []bool{true, false} {
		for _, it := range items {
			n, same := convert(free[it.ID], it.Unit, p.Unit)
			if it.State != InHand || it.Reel || it.Name != p.InStock() || !same || (it.Place == van) != first || n <= eps || left <= eps {
				continue
			}
			take := min(n, left)
			left -= take
			q, _ := convert(take, p.Unit, it.Unit)
			holds = append(holds, Hold{it.ID, p.Name, q, it.Place, false, free[it.ID] - q})
		}
	}
	if left > eps {
		a.Shorts = append(a.Shorts, short(items, free, p, p.Quantity))
		return
	}
	for _, h := range holds {
		free[h.Item] -= h.Quantity
	}
	a.hold(holds)
}

// hold adds holds, one for each item and part: what is held for a part twice, in
// pieces or because it is listed twice, adds up.
func (a *Answer) hold(holds []Hold) {
	for _, h := range holds {
		k := slices.IndexFunc(a.Holds, func(o Hold) bool { return o.Item == h.Item && o.Part == h.Part })
		if k < 0 {
			a.Holds = append(a.Holds, h)
			continue
		}
		a.Holds[k].Quantity += h.Quantity
		a.Holds[k].Leaves = h.Leaves
	}
}

// short says what is lacking, and where it is to be had.
func short(items []Ware, free map[string]float64, p job.Part, piece float64) Short {
	s := Short{Part: p.Name, Need: piece, Unit: p.Unit}
	for _, it := range items {
		if it.Name != p.InStock() {
			continue
		}
		have, _ := convert(free[it.ID], it.Unit, p.Unit)
		switch {
		case it.State == InHand && it.Reel && (s.Reel == "" || have > s.Best):
			s.Best, s.Reel = have, it.ID
		case it.State == InHand && !it.Reel:
			s.Best += have
		case it.State == Ordered && (s.Coming != "ordered" || it.Expected < s.Day):
			s.Coming, s.Day = "ordered", it.Expected
		case it.State == Listed && s.Coming == "":
			s.Coming = "listed"
		}
	}
	unit := p.Unit
	if unit != "" {
		unit = " " + unit
	}
	switch {
	case s.Reel != "":
		s.Message = fmt.Sprintf(
			"%s: the longest reel, %s, has %.1f%s free, %.1f%s are needed in one piece: %.1f%s too short",
			p.Name,
			s.Reel,
			s.Best,
			unit,
			piece,
			unit,
			piece-s.Best,
			unit,
		)
	case s.Best > 0:
		s.Message = fmt.Sprintf("%s: %g%s of %g%s in hand", p.Name, s.Best, unit, piece, unit)
	default:
		s.Message = p.Name + ": none in hand"
	}
	switch s.Coming {
	case "ordered":
		s.Message += ", ordered"
		if s.Day != "" {
			s.Message += ", expected " + s.Day
		}
	case "listed":
		s.Message += ", listed by a supplier, which is not in hand"
	}
	return s
}
