package jobs

import (
	"bytes"
	"context"
	"fmt"

	"dogbolt/core/charging"
	"dogbolt/core/demand"
	"dogbolt/core/desk"
	"dogbolt/core/job"
	"dogbolt/core/loadmgmt"
	"dogbolt/core/quantity"
	"dogbolt/core/rulebook"
	"dogbolt/core/schema"
	"dogbolt/core/sizing"
	"dogbolt/internal/document"
	"dogbolt/internal/rooms/firm"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/store"
)

// SettingSheet works out how a point's charger is set.
func (svc *Service) SettingSheet(ctx context.Context, by people.Person, id, point string) (desk.SettingSheet, error) {
	v, _, err := svc.Point(ctx, by, id, point)
	if err != nil {
		return desk.SettingSheet{}, err
	}
	return desk.Setting(&v.Job, &v.House, point)
}

// Options tries every device and conductor for a point with the setting and
// breaker as given (0 takes the design's, or the least that the rulebook allows),
// priced by the contractor's list. maxDrop is a share of the voltage, 0 the
// rulebook's. The second result is the currency, empty where nothing is priced.
func (svc *Service) Options(ctx context.Context, by people.Person, id, point string, setting, breaker quantity.Ampere, maxDrop float64) ([]sizing.Option, string, error) {
	v, p, err := svc.Point(ctx, by, id, point)
	if err != nil {
		return nil, "", err
	}
	ask := sizing.Ask{Circuit: p.Circuit, Place: &p.Place, Supply: &v.Job.Survey.Supply, Board: &v.Job.Survey.Board, MaxDrop: maxDrop}
	if setting > 0 {
		ask.Circuit.Setting = setting
	}
	if breaker > 0 {
		ask.Circuit.Breaker.Rating = breaker
	}
	if ask.Circuit.Setting == 0 {
		return nil, "", schema.Invalid("setting", "choose the charger's setting first")
	}
	if !p.Place.Surveyed() {
		return nil, "", schema.Invalid("route", "survey the route first: method and length of every segment")
	}
	lists, err := svc.firm.PricesNow(ctx)
	if err != nil {
		return nil, "", err
	}
	house, err := svc.firm.HouseNow(ctx)
	if err != nil {
		return nil, "", err
	}
	currency := ""
	ask.Volts = v.Book.In.Systems.Voltage(&v.Job.Survey.Supply, max(p.Circuit.Charger.Phases, 1))
	if ask.Prices = firm.PriceList(lists, v.Book.In); ask.Prices != nil {
		currency = ask.Prices.Currency
	}
	ask.Cut = routeOf(&v, p, house.Margins).Cut
	return v.Book.In.Sizing.Solve(ask), currency, nil
}

// Arrangements judges every answer to the decisions of a point's design.
func (svc *Service) Arrangements(ctx context.Context, by people.Person, id, point string) ([]rulebook.Arrangement, error) {
	v, _, err := svc.Point(ctx, by, id, point)
	if err != nil {
		return nil, err
	}
	return rulebook.Arrange(&v.Job, point)
}

// Costs works out power, time and cost of a point's charging.
func (svc *Service) Costs(ctx context.Context, by people.Person, id, point string) (charging.Comparison, error) {
	v, p, err := svc.Point(ctx, by, id, point)
	if err != nil {
		return charging.Comparison{}, err
	}
	return charging.Compare(&v.Job, p, v.Book.In.Systems), nil
}

func (svc *Service) Point(ctx context.Context, by people.Person, id, point string) (View, job.Point, error) {
	v, err := svc.Open(ctx, by, id)
	if err != nil {
		return v, job.Point{}, err
	}
	p, ok := v.Job.Point(point)
	if !ok {
		return v, p, fmt.Errorf("point %q: %w", point, store.ErrNotFound)
	}
	p.Circuit.Point = point
	return v, p, nil
}

// OneLine returns the one-line diagram of a point as SVG.
func (svc *Service) OneLine(ctx context.Context, by people.Person, id, point string) (string, error) {
	v, p, err := svc.Point(ctx, by, id, point)
	if err != nil {
		return "", err
	}
	return document.OneLine(&v.Job, p, v.Book.In).SVG(), nil
}

// ReadInterval reads a meter's interval data for a job: the highest demand and
// the length of the record. Nothing is written.
func (svc *Service) ReadInterval(ctx context.Context, by people.Person, id string, data []byte) (demand.Interval, error) {
	v, err := svc.Open(ctx, by, id)
	if err != nil {
		return demand.Interval{}, err
	}
	out, err := demand.ReadInterval(bytes.NewReader(data), v.Book.In.Systems.Voltage(&v.Job.Survey.Supply, 1))
	if err != nil {
		return demand.Interval{}, schema.Invalid("file", "%v", err)
	}
	return out, nil
}

// NightView is a simulated night in every mode, with the plot of one.
type NightView struct {
	Ways    []loadmgmt.Way
	Metered bool   // the house is the meter's own day, not habits
	Plot    string // SVG
	Missing string // what is needed to simulate, where something is
}

// nightSeed makes the demo night; any other seed makes another.
const nightSeed = 7

// Night simulates a cold night of a job in every mode and plots one of them.
func (svc *Service) Night(ctx context.Context, by people.Person, id string, mode loadmgmt.Mode) (NightView, error) {
	v, err := svc.Open(ctx, by, id)
	if err != nil {
		return NightView{}, err
	}
	n, missing := loadmgmt.Of(&v.Job, nightSeed, v.Book.In.Systems)
	if missing != "" {
		return NightView{Missing: missing}, nil
	}
	house, err := svc.firm.HouseNow(ctx)
	if err != nil {
		return NightView{}, err
	}
	out := NightView{Ways: loadmgmt.Ways(n, v.Book.In.Night.Services, house.Costs[v.Book.In.ID]), Metered: len(v.Job.Survey.Supply.Profile) > 0}
	for _, w := range out.Ways {
		if w.Outcome.Mode == mode && w.Limit == n.Limit && w.ID != "lower" {
			out.Plot = document.NightPlot(n, w.Outcome).SVG()
		}
	}
	return out, nil
}

// ProposeParts lists what the design needs in the van, keeping what is ticked
// already.
func (svc *Service) ProposeParts(ctx context.Context, by people.Person, id string) ([]job.Part, error) {
	v, err := svc.Open(ctx, by, id)
	if err != nil {
		return nil, err
	}
	for _, p := range v.Job.Points() {
		if p.Circuit.Cable.Size == "" || !p.Place.Surveyed() {
			return nil, schema.Invalid("design", "point %s has no cable or no route yet: choose them first", p.ID)
		}
	}
	house, err := svc.firm.HouseNow(ctx)
	return v.Book.In.Laying.TakeOff(&v.Job, house.Margins), err
}
