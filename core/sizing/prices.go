package sizing

import (
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"

	"dogbolt/core/conductor"
	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/schema"
	"dogbolt/core/text"
)

// Price is what the contractor pays for one item.
type Price struct {
	Item  string    `json:"item" maxLength:"40" doc:"Family of a cable, or one of the other items."`
	Size  string    `json:"size,omitempty" maxLength:"20" doc:"As printed: 6 mm², 6 AWG, ¾, B40."`
	Unit  PriceUnit `json:"unit"`
	Price float64   `json:"price" minimum:"0" maximum:"100000"`
}

// PriceUnit is what a price is for.
type PriceUnit string

// What prices are for.
const (
	PerMetre PriceUnit = "m"
	PerFoot  PriceUnit = "ft"
	Each     PriceUnit = "each"
)

// Values lists what prices are for.
func (PriceUnit) Values() []string { return schema.Words(PerMetre, PerFoot, Each) }

// PriceList is the contractor's own list, in one currency.
type PriceList struct {
	Currency string  `json:"currency" maxLength:"3" doc:"£, $, €."`
	Prices   []Price `json:"prices" maxItems:"2000"`
}

// Items that are not families of cable.
const (
	Wire        = "thwn-2"           // one THWN-2 conductor, copper
	WireAl      = "thwn-2-aluminium" // the same in aluminium
	mcAl        = "mc-aluminium"
	EMT         = "emt"
	PVC         = "pvc-conduit"
	Device      = "device" // overcurrent or combined device, by its label
	conduitPipe = "conduit"
	trunking    = "trunking"
)

// priceItems lists what a price list may name.
var priceItems = []string{"twin-earth", "multicore", "singles", "armoured-70", "armoured-90", "nm-b", "mc", mcAl,
	Wire, WireAl, EMT, PVC, Device, conduitPipe, trunking}

// PriceColumns is the heading of a price list file.
var PriceColumns = []string{"item", "size", "unit", "price", "currency"}

// ReadPrices reads a price list: CSV with the heading item,size,unit,price,currency.
// Every broken row is named by its line, and then nothing is returned.
func ReadPrices(file io.Reader) (PriceList, error) {
	r, err := text.NewReader(file)
	if err != nil {
		return PriceList{}, err
	}
	r.FieldsPerRecord = len(PriceColumns)
	r.TrimLeadingSpace = true
	head, err := r.Read()
	if err != nil || !slices.Equal(head, PriceColumns) {
		return PriceList{}, fmt.Errorf("line 1: the heading is %s", strings.Join(PriceColumns, ","))
	}
	var l PriceList
	var errs []error
	seen := map[string]int{}
	for {
		row, err := r.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		var broken *csv.ParseError
		if errors.As(err, &broken) {
			errs = append(errs, fmt.Errorf("line %d: %w", broken.Line, broken.Err))
			continue
		}
		if err != nil {
			return PriceList{}, err
		}
		line, _ := r.FieldPos(0)
		p, currency, err := priceRow(row)
		key := p.Item + "\x00" + p.Size
		switch {
		case err != nil:
		case l.Currency != "" && currency != l.Currency:
			err = fmt.Errorf("currency: %q after %q: a list has one", currency, l.Currency)
		case seen[key] > 0:
			err = fmt.Errorf("%s %s is priced in line %d already", p.Item, p.Size, seen[key])
		default:
			l.Currency, seen[key] = currency, line
			l.Prices = append(l.Prices, p)
			continue
		}
		if errs = append(errs, fmt.Errorf("line %d: %w", line, err)); len(errs) == 20 {
			break
		}
	}
	if len(errs) > 0 {
		return PriceList{}, errors.Join(errs...)
	}
	if len(l.Prices) == 0 {
		return PriceList{}, errors.New("the file has no prices")
	}
	return l, nil
}

func priceRow(row []string) (p Price, currency string, err error) {
	for i := range row {
		row[i] = strings.TrimSpace(row[i])
	}
	p = Price{Item: row[0], Size: row[1], Unit: PriceUnit(row[2])}
	v, err := strconv.ParseFloat(row[3], 64)
	switch {
	case !slices.Contains(priceItems, p.Item):
		return p, "", fmt.Errorf("item: %q is not one of %s", p.Item, strings.Join(priceItems, ", "))
	case !slices.Contains(p.Unit.Values(), string(p.Unit)):
		return p, "", fmt.Errorf("unit: %q is not one of %s", p.Unit, strings.Join(p.Unit.Values(), ", "))
	case err != nil || !(v > 0) || v > 100000:
		return p, "", fmt.Errorf("price: %q is not a price", row[3])
	case row[4] == "" || len([]rune(row[4])) > 3:
		return p, "", fmt.Errorf("currency: %q is not a currency such as £ or USD", row[4])
	}
	p.Price = v
	return p, row[4], nil
}

// Write writes the list as ReadPrices reads it.
func (l PriceList) Write(w io.Writer) error {
	rows := [][]string{PriceColumns}
	for _, p := range l.Prices {
		rows = append(rows, []string{p.Item, p.Size, string(p.Unit), strconv.FormatFloat(p.Price, 'f', -1, 64), l.Currency})
	}
	return text.WriteCSV(w, rows)
}

// lists reports whether the list has an item in any size.
func (l *PriceList) lists(item string) bool {
	return l != nil && slices.ContainsFunc(l.Prices, func(p Price) bool { return p.Item == item })
}

// of returns the price of a length of an item, m; false where it is not listed.
func (l *PriceList) of(item, size string, length quantity.Metre) (float64, bool) {
	for i := range l.Prices {
		p := &l.Prices[i]
		if p.Item != item || p.Size != size {
			continue
		}
		switch p.Unit {
		case "m":
			return p.Price * float64(length), true
		case "ft":
			return p.Price * length.Feet(), true
		}
		return p.Price, true
	}
	return 0, false
}

// bill adds prices and remembers the first that is missing.
type bill struct {
	list    *PriceList
	sum     float64
	missing string
}

func (b *bill) add(item, size string, length quantity.Metre, times float64) {
	v, ok := b.list.of(item, size, length)
	if !ok && b.missing == "" {
		b.missing = strings.TrimSpace(item + " " + size)
	}
	b.sum += v * times
}

// Cost returns the material of a circuit on its route: cable or conductors cut
// to a length, raceway along the enclosed segments, and the device. missing names
// the first price that the list lacks; then there is no cost.
func (l *PriceList) Cost(c *job.Circuit, p *job.Place, cut quantity.Metre, device string) (cost float64, missing string) {
	b := bill{list: l}
	b.add(Device, device, 0, 1)
	row, inAWG := conductor.AWGSize(c.Cable.Size)
	switch f := c.Cable.Family; {
	case conductor.InRaceway(f) && inAWG:
		l.conductors(&b, c, row, cut)
		pipe := PVC
		if f == job.ThwnEMT {
			pipe = EMT
		}
		if trade, _, _, ok := conductor.Raceway(f, WiresAWG(c, row)...); ok {
			b.add(pipe, trade, p.Length(), 1)
		}
	case f == job.MC && c.Cable.Material == job.Aluminium:
		b.add(mcAl, c.Cable.Size, cut, 1)
	case f == job.Singles:
		b.add("singles", c.Cable.Size, cut, float64(Cores(c)))
		m, _ := conductor.MetricSize(f, c.Cable.Size)
		area, _ := conductor.Section(f, m.Area, Cores(c))
		for _, g := range p.Route {
			if g.Method.Enclosed() {
				item := conduitPipe
				if g.Method == job.Trunking {
					item = trunking
				}
				b.add(item, smallestChannel(g, area), g.Run(), 1)
			}
		}
	default:
		b.add(string(f), c.Cable.Size, cut, 1)
	}
	if b.missing != "" {
		return 0, b.missing
	}
	return b.sum, ""
}

// conductors adds hots, neutral and ground; the ground is copper.
func (l *PriceList) conductors(b *bill, c *job.Circuit, row conductor.AWGRow, cut quantity.Metre) {
	item := Wire
	if c.Cable.Material == job.Aluminium {
		item = WireAl
	}
	wires := WiresAWG(c, row)
	b.add(item, c.Cable.Size, cut, float64(len(wires)-1))
	b.add(Wire, c.Cable.EarthSize, cut, 1)
}

// smallestChannel returns the surveyed size of a raceway, or the smallest that
// holds an area.
func smallestChannel(g job.Segment, area float64) string {
	if g.Size != "" {
		return g.Size
	}
	name, _, _ := conductor.SmallestChannel(g.Method, area+g.Others)
	return name
}
