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

// Orders groups what jobs lack by supplier, less what is in hand and free or
// ordered already. Jobs for which nothing may be bought yet are named instead.
func Orders(items []Ware, wants []Want) ([]Order, []Held) {
	spare := map[string]float64{} // by name, in metres or pieces
	supplier := map[string]string{}
	for _, i := range items {
		switch {
		case i.State == Listed && supplier[i.Name] == "":
			supplier[i.Name] = i.Supplier
		case i.State == Ordered || i.State == InHand && !i.Reel:
			spare[i.Name] += i.Free() * factor(i.Unit)
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
		for _, p := range w.Parts {
			name := p.InStock()
			have := min(spare[name], p.Quantity*factor(p.Unit))
			spare[name] -= have
			need := p.Quantity - have/factor(p.Unit)
			if need <= eps {
				continue
			}
			l := lines[name]
			if l == nil {
				l = &OrderLine{Name: name, Unit: p.Unit, By: w.Day}
				lines[name] = l
				names = append(names, name)
			}
			more, _ := convert(need, p.Unit, l.Unit)
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

func factor(unit string) float64 {
	if m := metres[unit]; m > 0 {
		return m
	}
	return 1
}

// later puts jobs without a day behind the others; last does so for lines
// without a supplier.
func later(day string) string { return cmp.Or(day, "9999-12-31") }
func last(name string) string { return cmp.Or(name, "\uffff") }
