package firm

import (
	"bytes"
	"context"
	"encoding/json"
	"slices"

	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/loadmgmt"
	"dogbolt/core/route"
	"dogbolt/core/schema"
	"dogbolt/core/sizing"
	"dogbolt/core/worklog"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/rooms/settings"
)

// Policy is what the firm has settled: margins, required photos,
// what the ways out of a small supply cost.
type Policy struct {
	Margins route.Margins `json:"margins" doc:"Added to a measured route."`
	Photos  []string      `json:"photos" maxItems:"8" doc:"Kinds of photo asked for besides the usual ones."`
	// SleepHours and Second tighten how work on site is logged.
	SleepHours float64 `json:"sleepHours,omitempty" minimum:"0" doc:"How long the log may be silent before dead is proved again, h; 0 for the usual."`
	Second     bool    `json:"secondPerson,omitempty" doc:"Does a second person see every torque?"`
	OpenJobs   bool    `json:"openJobs,omitempty" doc:"Does everybody see every job? Otherwise crews see those that they are booked for."`
	KeepYears  int     `json:"keepYears,omitempty" minimum:"0" maximum:"50" doc:"How many years after the last change a customer's data stay, whoever asks; 0: no wait."`
	Apart      bool    `json:"testApart,omitempty" doc:"Are test and seal by another person than the work?"`
	// Costs are in the country's money.
	Costs map[string]loadmgmt.Costs `json:"costs" doc:"What the ways out of a small supply cost, by the id of the country, in its money."`
	// Habits are what the firm usually does.
	Habits map[string]Habits `json:"habits,omitempty" doc:"What the firm usually does, by the id of the country."`
}

// Keys of the firm's settings.
const (
	keyPolicy = "policy"
	keyPrices = "prices"
)

func usualPolicy() Policy {
	costs := map[string]loadmgmt.Costs{}
	for _, in := range jurisdiction.All() {
		costs[in.ID] = in.Night.Usual
	}
	return Policy{Margins: route.Default, Photos: []string{}, Costs: costs}
}

// Policy returns the firm's settings.
func (svc *Service) Policy(ctx context.Context, by people.Person) (Policy, error) {
	if err := people.May(by, people.ViewFirm); err != nil {
		return Policy{}, err
	}
	return svc.PolicyNow(ctx)
}

// PolicyNow returns the firm's settings, for the program itself, as today's program
// names them.
func (svc *Service) PolicyNow(ctx context.Context) (Policy, error) {
	v, err := svc.settings.Read(ctx, keyPolicy)
	if err != nil {
		return Policy{}, err
	}
	return policyOf(v)
}

// OpenJobs reports whether everybody sees every job.
func (svc *Service) OpenJobs(ctx context.Context) (bool, error) {
	v, err := svc.settings.Read(ctx, keyPolicy)
	if err != nil {
		return false, err
	}
	return svc.openJobs.Of(v, func(v settings.Values) (bool, error) {
		policy, err := policyOf(v)
		return policy.OpenJobs, err
	}, keyPolicy)
}

func policyOf(v settings.Values) (Policy, error) {
	h := usualPolicy()
	if err := v.Get(keyPolicy, &h); err != nil {
		return h, err
	}
	if h.Photos == nil {
		h.Photos = []string{} // lists are never null in what is sent
	}
	// The first program kept each country's costs beside the rest, by its id.
	var old map[string]json.RawMessage
	if err := v.Get(keyPolicy, &old); err != nil {
		return h, err
	}
	for _, in := range jurisdiction.All() {
		if raw, ok := old[in.ID]; ok && old["costs"] == nil {
			var c loadmgmt.Costs
			if err := json.Unmarshal(raw, &c); err != nil {
				return h, err
			}
			h.Costs[in.ID] = c
		}
	}
	return h, nil
}

// SetPolicy writes the firm's settings.
func (svc *Service) SetPolicy(ctx context.Context, by people.Person, h Policy) error {
	if err := people.May(by, people.ManageFirm); err != nil {
		return err
	}
	if h.Margins.End < 0 || h.Margins.Share < 0 || h.Margins.Share > 0.5 {
		return schema.Invalid("margins", "cannot be negative, nor more than half of the route")
	}
	if most := worklog.Sleep.Hours(); h.SleepHours > most {
		return schema.Invalid("sleepHours", "%g h is more than the usual %g h: a firm can only tighten it", h.SleepHours, most)
	}
	for id, c := range h.Costs {
		if _, ok := jurisdiction.Find(id); !ok {
			return schema.Invalid("costs."+id, "is not a country that this program knows")
		}
		for name, b := range map[string]loadmgmt.Band{
			"sensor": c.Sensor, "switch": c.Switch, "upgrade": c.Upgrade, "wait": c.Wait, "point": c.Point, "metre": c.Metre,
		} {
			if b.Low < 0 || b.High < b.Low {
				return schema.Invalid("costs."+id+"."+name, "ends below its beginning")
			}
		}
	}
	for _, kind := range h.Photos {
		if !slices.Contains(job.PhotoKinds, job.PhotoKind(kind)) {
			return schema.Invalid("photos", "%q is not a kind of photo", kind)
		}
	}
	if err := svc.checkHabits(ctx, h.Habits); err != nil {
		return err
	}
	return svc.settings.Set(ctx, by.Name, keyPolicy, "change the firm's policy", h)
}

// Prices returns the contractor's price lists, one for each currency.
func (svc *Service) Prices(ctx context.Context, by people.Person) ([]sizing.PriceList, error) {
	if err := people.May(by, people.ViewFirm); err != nil {
		return nil, err
	}
	return svc.PricesNow(ctx)
}

// PricesNow returns the price lists, for the program itself.
func (svc *Service) PricesNow(ctx context.Context) ([]sizing.PriceList, error) {
	lists := []sizing.PriceList{}
	err := svc.settings.Get(ctx, keyPrices, &lists)
	return lists, err
}

// SetPrices reads a price list; it replaces the one of the same currency.
func (svc *Service) SetPrices(ctx context.Context, by people.Person, data []byte) ([]sizing.PriceList, error) {
	if err := people.May(by, people.ManageFirm); err != nil {
		return nil, err
	}
	fresh, err := sizing.ReadPrices(bytes.NewReader(data))
	if err != nil {
		return nil, schema.Invalid("file", "%v", err)
	}
	lists, err := svc.PricesNow(ctx)
	if err != nil {
		return nil, err
	}
	out := []sizing.PriceList{}
	for _, l := range lists {
		if l.Currency != fresh.Currency {
			out = append(out, l)
		}
	}
	out = append(out, fresh)
	return out, svc.settings.Set(ctx, by.Name, keyPrices, "change prices", out)
}

// PriceList returns the list that a job of a country is priced by: the one in
// its currency, or the only one.
func PriceList(lists []sizing.PriceList, in *jurisdiction.Jurisdiction) *sizing.PriceList {
	for i := range lists {
		if lists[i].Currency == in.Money.Symbol {
			return &lists[i]
		}
	}
	return nil
}

// ExportPrices writes the price list of a currency as CSV, or the heading alone
// where there is none.
func (svc *Service) ExportPrices(ctx context.Context, by people.Person, currency string) ([]byte, error) {
	lists, err := svc.Prices(ctx, by)
	if err != nil {
		return nil, err
	}
	var out bytes.Buffer
	for _, l := range lists {
		if l.Currency == currency {
			err = l.Write(&out)
			return out.Bytes(), err
		}
	}
	err = sizing.PriceList{}.Write(&out)
	return out.Bytes(), err
}
