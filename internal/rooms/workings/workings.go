package workings

import (
	"bytes"
	"context"

	"dogbolt/core/assess"
	"dogbolt/core/charging"
	"dogbolt/core/demand"
	"dogbolt/core/job"
	"dogbolt/core/loadmgmt"
	"dogbolt/core/panel"
	"dogbolt/core/quantity"
	"dogbolt/core/reach"
	"dogbolt/core/route"
	"dogbolt/core/rulebook"
	"dogbolt/core/schema"
	"dogbolt/core/sizing"
	"dogbolt/core/visit"
	"dogbolt/internal/document"
	"dogbolt/internal/rooms/firm"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/people"
)

// SettingSheet works out how a point's charger is set.
func (svc *Service) SettingSheet(ctx context.Context, by people.Person, id, point string) (assess.SettingGuide, error) {
	v, _, err := svc.jobs.Point(ctx, by, id, point)
	if err != nil {
		return assess.SettingGuide{}, err
	}
	return assess.Setting(&v.Job, &v.Policy, point)
}

// Options tries every device and conductor for a point with the setting and
// breaker as given (0 takes the design's, or the least that the rulebook allows),
// priced by the contractor's list. maxDrop is a share of the voltage, 0 the
// rulebook's. The second result is the currency, empty where nothing is priced.
func (svc *Service) Options(
	ctx context.Context,
	by people.Person,
	id, point string,
	setting, breaker quantity.Ampere,
	maxDrop float64,
) ([]sizing.Option, string, error) {
	v, p, err := svc.jobs.Point(ctx, by, id, point)
	if err != nil {
		return nil, "", err
	}
	at := v.Job.AtBoard()
	ask := sizing.Ask{Circuit: p.Circuit, Place: &p.Place, Supply: &at, Board: v.Job.Board(), MaxDrop: maxDrop}
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
	policy, err := svc.firm.PolicyNow(ctx)
	if err != nil {
		return nil, "", err
	}
	currency := ""
	ask.Volts = v.Book.In.Systems.Voltage(&v.Job.Survey.Supply, max(p.Circuit.Charger.Phases, 1))
	if ask.Prices = firm.PriceList(lists, v.Book.In); ask.Prices != nil {
		currency = ask.Prices.Currency
	}
	ask.Cut = routeOf(&v, p, policy.Margins).Cut
	return v.Book.In.Sizing.Solve(ask), currency, nil
}

// Arrangements judges every answer to the decisions of a point's design.
func (svc *Service) Arrangements(ctx context.Context, by people.Person, id, point string) ([]rulebook.Arrangement, error) {
	v, _, err := svc.jobs.Point(ctx, by, id, point)
	if err != nil {
		return nil, err
	}
	return rulebook.Arrange(&v.Job, point)
}

// Costs works out power, time and cost of a point's charging.
func (svc *Service) Costs(ctx context.Context, by people.Person, id, point string) (charging.Comparison, error) {
	v, p, err := svc.jobs.Point(ctx, by, id, point)
	if err != nil {
		return charging.Comparison{}, err
	}
	return charging.Compare(&v.Job, p, v.Book.In.Systems), nil
}

// OneLine returns the one-line diagram of a point.
func (svc *Service) OneLine(ctx context.Context, by people.Person, id, point string) (document.Drawing, error) {
	v, p, err := svc.jobs.Point(ctx, by, id, point)
	if err != nil {
		return document.Drawing{}, err
	}
	return document.OneLine(&v.Job, p, v.Book.In), nil
}

// ReadInterval reads a meter's interval data for a job: the highest demand and
// the length of the record. Nothing is written.
func (svc *Service) ReadInterval(ctx context.Context, by people.Person, id string, data []byte) (demand.Interval, error) {
	v, err := svc.jobs.Open(ctx, by, id)
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
	v, err := svc.jobs.Open(ctx, by, id)
	if err != nil {
		return NightView{}, err
	}
	n, missing := loadmgmt.Of(&v.Job, nightSeed, v.Book.In.Systems)
	if missing != "" {
		return NightView{Missing: missing}, nil
	}
	policy, err := svc.firm.PolicyNow(ctx)
	if err != nil {
		return NightView{}, err
	}
	out := NightView{Ways: loadmgmt.Ways(n, v.Book.In.Night.Services, policy.Costs[v.Book.In.ID]), Metered: len(v.Job.Survey.Supply.Profile) > 0}
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
	v, err := svc.jobs.Open(ctx, by, id)
	if err != nil {
		return nil, err
	}
	for _, p := range v.Job.Points() {
		fates := p.Circuit.Fates()
		switch {
		case fates.Breaker == "" || fates.Cable == "":
			return nil, schema.Invalid("design", "point %s: what becomes of breaker and cable? Choose it first", p.ID)
		case p.Circuit.Kept() && !p.Circuit.Extended():
			continue // no cable of it is bought
		}
		open := p.Circuit.Cable.Size == "" || p.Circuit.Extended() && !p.Joined() || p.Joined() && p.Circuit.Beyond.Cable.Size == ""
		if open || !p.Place.Surveyed() {
			return nil, schema.Invalid("design", "point %s has no cable or no route yet: choose them first", p.ID)
		}
	}
	policy, err := svc.firm.PolicyNow(ctx)
	habits := policy.Habits[v.Book.In.ID]
	return habits.Along(rulebook.PartsOf(v.Book.In, &v.Job, v.Demand, policy.Margins)), err
}

// Visit is how complete a survey is, whether the breakers fit, and what would
// free more of the service.
type Visit struct {
	visit.Visit
	Fits    []panel.Fit
	Frees   []rulebook.Freed
	Service quantity.Ampere // spare on the service, negative where it is passed
	Board   quantity.Ampere // spare on the board
	Photos  []string        // kinds of photo that are asked for
}

// Visit judges the survey of a job as a whole.
func (svc *Service) Visit(ctx context.Context, by people.Person, id string) (Visit, error) {
	v, err := svc.jobs.Open(ctx, by, id)
	if err != nil {
		return Visit{}, err
	}
	policy, err := svc.firm.PolicyNow(ctx)
	if err != nil {
		return Visit{}, err
	}
	s := &v.Job.Survey
	photos := visit.Photos(v.Book.In.Photos, policy.Photos)
	asked := v.Book.In.Survey.Of
	if v.Job.Lays() {
		photos, asked = visit.LaidPhotos(photos), v.Book.In.Survey.Laid
	}
	if v.Job.Removes() {
		photos, asked = visit.LeftPhotos, func(s *job.Survey, _ []string) visit.Visit { return v.Book.In.Survey.Left(s) }
	}
	if v.Job.Touched() > job.TouchedAll {
		photos, asked = visit.LeftPhotos, func(s *job.Survey, _ []string) visit.Visit { return v.Book.In.Survey.Mended(s, v.Job.Raises()) }
	}
	return Visit{
		Visit: asked(s, photos), Photos: photos,
		Fits: panel.Of(&v.Job), Frees: rulebook.Frees(&v.Job),
		Service: s.Supply.Rating - v.Demand.Total, Board: s.Board.Rating - v.Demand.Total,
	}, nil
}

// PlanView is the site plan worked out.
type PlanView struct {
	Cars []reach.Car
	Rows []reach.Row
	Area [][]job.XY // ground that the cord reaches from the position asked for
	Cord quantity.Metre
}

// SitePlan works out the plan of a job: where vehicles stand, the cords from
// every position, and the ground that a position's cord reaches. cord 0 takes
// the length of the point's charger.
func (svc *Service) SitePlan(ctx context.Context, by people.Person, id, point, position string, cord quantity.Metre) (PlanView, error) {
	v, p, err := svc.jobs.Point(ctx, by, id, point)
	if err != nil {
		return PlanView{}, err
	}
	if cord == 0 {
		cord = p.Circuit.Charger.CordLength
	}
	cost, err := svc.runCost(ctx, &v, p)
	if err != nil {
		return PlanView{}, err
	}
	on := reach.On(&v.Job.Survey).While(func() bool { return ctx.Err() != nil })
	out := PlanView{Cars: on.Cars(), Rows: on.Compare(p.Place.Position, cord, v.Book.In.Reach, cost), Cord: cord}
	if cord > 0 && position != "" {
		out.Area = on.Reach(position, cord)
	}
	return out, ctx.Err()
}

// runCost returns what the material of the designed circuit costs over a run of
// a length, by the price list.
func (svc *Service) runCost(ctx context.Context, v *jobs.View, p job.Point) (func(quantity.Metre) (float64, bool), error) {
	lists, err := svc.firm.PricesNow(ctx)
	if err != nil {
		return nil, err
	}
	policy, err := svc.firm.PolicyNow(ctx)
	in := v.Book.In
	list := firm.PriceList(lists, in)
	return func(run quantity.Metre) (float64, bool) {
		if list == nil || p.Circuit.Cable.Size == "" {
			return 0, false
		}
		p.Circuit.Beyond = job.Beyond{} // one cable over the whole run
		place := job.Place{Route: []job.Segment{{Method: job.Conduit, Length: run}}}
		cut := in.Laying.Of(&p.Circuit, &place, v.Job.Board(), 0, policy.Margins).Cut
		cost, missing := list.Cost(&p.Circuit, &place, cut, in.Sizing.Devices.Name(p.Circuit.Breaker))
		return cost, missing == ""
	}, err
}

// SitePlanSVG draws the plan with a scale bar, as a file of its own.
func (svc *Service) SitePlanSVG(ctx context.Context, by people.Person, id string) ([]byte, error) {
	v, err := svc.jobs.Open(ctx, by, id)
	if err != nil {
		return nil, err
	}
	return document.SitePlan(&v.Job, v.Book.In), nil
}

// Route works out a point's cable route.
func (svc *Service) Route(ctx context.Context, by people.Person, id, point string) (route.Laying, error) {
	v, p, err := svc.jobs.Point(ctx, by, id, point)
	if err != nil {
		return route.Laying{}, err
	}
	policy, err := svc.firm.PolicyNow(ctx)
	return routeOf(&v, p, policy.Margins), err
}

func routeOf(v *jobs.View, p job.Point, m route.Margins) route.Laying {
	straight, _ := reach.Straight(&v.Job.Survey.SitePlan, p.Place.Position)
	return v.Book.In.Laying.Of(&p.Circuit, &p.Place, v.Job.Board(), straight, m)
}
