package stock

import (
	"cmp"
	"slices"

	"dogbolt/core/job"
)

// Want is what a job lacks.
type Want struct {
	Job   string     // number of the job
	Day   string     // of the work; empty where not booked
	Parts []job.Part // not in hand
	Stops string     // why nothing may be bought for it yet; empty where it may
}

// OrderLine is one line of an order.
type OrderLine struct {
	Name     string   `json:"name"`
	Quantity float64  `json:"quantity"`
	Unit     string   `json:"unit,omitempty"`
	Jobs     []string `json:"jobs"`
	By       string   `json:"by,omitempty" format:"date" doc:"First day on which it is needed."`
}

// Order is what to order from one supplier.
type Order struct {
	Supplier string      `json:"supplier" doc:"Empty where no supplier lists it."`
	Lines    []OrderLine `json:"lines"`
}

// Held is a job for which nothing may be bought yet.
type Held struct {
	Job string `json:"job"`
	Why string `json:"why"`
}

// Orders groups what jobs lack by supplier. What is in hand serves the jobs in
// the order of their days, cable piece by piece, and what is ordered already is
// not ordered again: an ordered reel counts where the piece comes off it. Jobs
// for which nothing may be bought yet are named instead.
func Orders(items []Ware, wants []Want, margin float64) ([]Order, []Held) {
	items = slices.Clone(items)
	supplier := map[string]string{}
	for _, i := range items {
		if i.State == Listed && supplier[i.Name] == "" {
			supplier[i.Name] = i.Supplier
		}
	}
	slices.SortStableFunc(wants, func(a, b Want) int { return cmp.Compare(later(a.Day), later(b.Day)) })
	held := []Held{}
	lines := map[string]*OrderLine{}
	var names []string
	for _, w := range wants {
		if w.Stops != "" {
			held = append(held, Held{w.Job, w.Stops})
			continue
		}
		for _, p := range lacking(items, w.Parts, margin) {
			name := p.InStock()
			l := lines[name]
			if l == nil {
				l = &OrderLine{Name: name, Unit: p.Unit, By: w.Day}
				lines[name] = l
				names = append(names, name)
			}
			more, _ := convert(p.Quantity, p.Unit, l.Unit)
			l.Quantity += more
			if !slices.Contains(l.Jobs, w.Job) {
				l.Jobs = append(l.Jobs, w.Job)
			}
		}
	}
	var orders []Order
	for _, name := range names {
		k := slices.IndexFunc(orders, func(o Order) bool { return o.Supplier == supplier[name] })
		if k < 0 {
			orders = append(orders, Order{Supplier: supplier[name]})
			k = len(orders) - 1
		}
		orders[k].Lines = append(orders[k].Lines, *lines[name])
	}
	slices.SortStableFunc(orders, func(a, b Order) int { return cmp.Compare(last(a.Supplier), last(b.Supplier)) })
	return append([]Order{}, orders...), held
}

// lacking holds for a job what is in hand, then what is ordered, and returns the
// parts that neither covers, less the pieces that are there.
func lacking(items []Ware, parts []job.Part, margin float64) []job.Part {
	for _, state := range []State{InHand, Ordered} {
		open := make([]Ware, len(items))
		for k, i := range items {
			open[k] = i
			if open[k].State = Listed; i.State == state {
				open[k].State = InHand
			}
		}
		a := Cover(open, parts, "", margin)
		for _, h := range a.Holds {
			k := slices.IndexFunc(items, func(i Ware) bool { return i.ID == h.Item })
			items[k].Held += h.Quantity
		}
		var left []job.Part
		for _, p := range parts {
			k := slices.IndexFunc(a.Shorts, func(s Short) bool { return s.Part == p.Name })
			if k < 0 {
				continue
			}
			if s := a.Shorts[k]; s.Reel == "" && s.Best > 0 { // the pieces that are there
				p.Quantity -= s.Best
				for i := range items {
					if items[i].State == state && !items[i].Reel && items[i].Name == p.InStock() {
						items[i].Held = items[i].Quantity
					}
				}
			}
			left = append(left, p)
		}
		parts = left
	}
	return parts
}

// later puts jobs without a day behind the others; last does so for lines
// without a supplier.
func later(day string) string { return cmp.Or(day, "9999-12-31") }
func last(name string) string { return cmp.Or(name, "\uffff") }
