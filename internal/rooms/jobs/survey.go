package jobs

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"slices"

	"dogbolt/core/job"
	"dogbolt/core/panel"
	"dogbolt/core/quantity"
	"dogbolt/core/reach"
	"dogbolt/core/route"
	"dogbolt/core/rulebook"
	"dogbolt/core/schema"
	"dogbolt/core/visit"
	"dogbolt/internal/document"
	"dogbolt/internal/photo"
	"dogbolt/internal/rooms/firm"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/store"
)

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
	v, err := svc.Open(ctx, by, id)
	if err != nil {
		return Visit{}, err
	}
	house, err := svc.firm.HouseNow(ctx)
	if err != nil {
		return Visit{}, err
	}
	s := &v.Job.Survey
	photos := visit.Photos(v.Book.In.Photos, house.Photos)
	return Visit{
		Visit: v.Book.In.Survey.Of(s, photos), Photos: photos,
		Fits: panel.Of(&v.Job), Frees: rulebook.Frees(&v.Job),
		Service: s.Supply.Rating - v.Demand.Total, Board: s.Board.Rating - v.Demand.Total,
	}, nil
}

// Site is the site plan worked out.
type Site struct {
	Cars []reach.Car
	Rows []reach.Row
	Area [][]job.XY // ground that the cord reaches from the position asked for
	Cord quantity.Metre
}

// SitePlan works out the plan of a job: where vehicles stand, the cords from
// every position, and the ground that a position's cord reaches. cord 0 takes
// the length of the point's charger.
func (svc *Service) SitePlan(ctx context.Context, by people.Person, id, point, position string, cord quantity.Metre) (Site, error) {
	v, p, err := svc.Point(ctx, by, id, point)
	if err != nil {
		return Site{}, err
	}
	if cord == 0 {
		cord = p.Circuit.Charger.CordLength
	}
	cost, err := svc.runCost(ctx, &v, p)
	if err != nil {
		return Site{}, err
	}
	on := reach.On(&v.Job.Survey)
	out := Site{Cars: on.Cars(), Rows: on.Compare(p.Place.Position, cord, v.Book.In.Reach, cost), Cord: cord}
	if cord > 0 && position != "" {
		out.Area = on.Reach(position, cord)
	}
	return out, nil
}

// runCost returns what the material of the designed circuit costs over a run of
// a length, by the price list.
func (svc *Service) runCost(ctx context.Context, v *View, p job.Point) (func(quantity.Metre) (float64, bool), error) {
	lists, err := svc.firm.PricesNow(ctx)
	if err != nil {
		return nil, err
	}
	house, err := svc.firm.HouseNow(ctx)
	in := v.Book.In
	list := firm.PriceList(lists, in)
	return func(run quantity.Metre) (float64, bool) {
		if list == nil || p.Circuit.Cable.Size == "" {
			return 0, false
		}
		place := job.Place{Route: []job.Segment{{Method: job.Conduit, Length: run}}}
		cut := in.Laying.Of(&p.Circuit, &place, &v.Job.Survey.Board, 0, house.Margins).Cut
		cost, missing := list.Cost(&p.Circuit, &place, cut, in.Sizing.Devices.Name(p.Circuit.Breaker))
		return cost, missing == ""
	}, err
}

// SitePlanSVG draws the plan with a scale bar, as a file of its own.
func (svc *Service) SitePlanSVG(ctx context.Context, by people.Person, id string) ([]byte, error) {
	v, err := svc.Open(ctx, by, id)
	if err != nil {
		return nil, err
	}
	return document.SitePlan(&v.Job), nil
}

// Route works out a point's cable route.
func (svc *Service) Route(ctx context.Context, by people.Person, id, point string) (route.Laying, error) {
	v, p, err := svc.Point(ctx, by, id, point)
	if err != nil {
		return route.Laying{}, err
	}
	house, err := svc.firm.HouseNow(ctx)
	return routeOf(&v, p, house.Margins), err
}

func routeOf(v *View, p job.Point, m route.Margins) route.Laying {
	straight, _ := reach.Straight(&v.Job.Survey.SitePlan, p.Place.Position)
	return v.Book.In.Laying.Of(&p.Circuit, &p.Place, &v.Job.Survey.Board, straight, m)
}

// Picture is a photo as it was kept.
type Picture struct {
	Digest        string
	Width, Height int
	Bytes         int
}

// AddPhoto cleans a picture and keeps it with a job.
func (svc *Service) AddPhoto(ctx context.Context, by people.Person, id string, data []byte) (Picture, error) {
	if err := people.May(by, people.TakePhotos); err != nil {
		return Picture{}, err
	}
	if v, err := svc.Open(ctx, by, id); err != nil {
		return Picture{}, err
	} else if v.Summary.Sealed {
		return Picture{}, people.ErrSealed
	}
	jpg, w, h, err := photo.Clean(data)
	if err != nil {
		return Picture{}, schema.Invalid("file", "%v", err)
	}
	sum, source := sha256.Sum256(jpg), sha256.Sum256(data)
	p := Picture{hex.EncodeToString(sum[:]), w, h, len(jpg)}
	if err := svc.store.PutPhoto(p.Digest, jpg); err != nil {
		return Picture{}, err
	}
	return p, svc.store.Write(ctx, func(tx *store.Tx) error {
		if err := tx.AddPhoto(store.Photo{JobID: id, Digest: p.Digest, Width: w, Height: h, Bytes: p.Bytes, By: by.Name, At: svc.now(), Source: hex.EncodeToString(source[:])}); err != nil {
			return err
		}
		return tx.Note(svc.now(), by.Name, "add photo", id, p.Digest[:8])
	})
}

// Photo returns a job's picture as JPEG.
func (svc *Service) Photo(ctx context.Context, by people.Person, id, digest string) ([]byte, error) {
	if err := people.May(by, people.ViewJobs); err != nil {
		return nil, err
	}
	return svc.store.Photo(ctx, id, digest)
}

// checkSurvey refuses what only the whole survey shows: bays that overlap, a
// position inside a wall, a new photo that was never kept. Photos that were listed
// before stay: an imported job names pictures that did not come along.
func checkSurvey(tx *store.Tx, id string, s *job.SurveySheet, before []job.Photo) error {
	errs := schema.Errors(reach.Problems(s))
	var digests []string
	for _, p := range s.Photos {
		if !slices.ContainsFunc(before, func(old job.Photo) bool { return old.Digest == p.Digest }) {
			digests = append(digests, p.Digest)
		}
	}
	if len(errs)+len(digests) == 0 {
		return nil
	}
	missing, err := tx.Missing(id, digests)
	if len(missing) > 0 {
		errs = append(errs, schema.Invalid("survey.photos", "%d photos are not kept with this job: take them again", len(missing))...)
	}
	if len(errs) > 0 {
		return errs
	}
	return err
}
