package records

import (
	"context"
	"fmt"
	"runtime"
	"strings"
	"sync"

	"golang.org/x/sync/errgroup"

	"dogbolt/core/jurisdiction"
	"dogbolt/core/record"
	"dogbolt/core/rulebook"
	"dogbolt/internal/document"
	"dogbolt/internal/photo"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/store"
)

// DesignPackage prints what whoever decides before the work is given beside a form.
func (svc *Service) DesignPackage(ctx context.Context, by people.Person, id string) (Paper, error) {
	r, err := svc.asOfNow(ctx, by, id)
	if err != nil {
		return Paper{}, err
	}
	doc := record.Package(r)
	if doc.Title == "" {
		return Paper{}, fmt.Errorf("package of the design: %w", store.ErrNotFound)
	}
	pdf, err := document.Plain(doc, &r.Job, svc.now(), "as designed, not a sealed record")
	name := r.Job.Number + "-" + strings.ReplaceAll(strings.ToLower(doc.Title), " ", "-") + ".pdf"
	return Paper{name, "application/pdf", pdf}, err
}

// pictures are the photos of a document as they are printed, by their digests. One that is not there is
// left out: the paper says so.
func (svc *Service) pictures(ctx context.Context, id string, doc *record.Document) (map[string][]byte, error) {
	var mu sync.Mutex
	out := map[string][]byte{}
	var group errgroup.Group
	group.SetLimit(runtime.GOMAXPROCS(0))
	for _, b := range doc.Blocks {
		for _, p := range b.Pictures {
			group.Go(func() error {
				data, err := svc.store.Photo(ctx, id, p.Digest)
				if err != nil {
					return ctx.Err()
				}
				small, err := photo.Small(ctx, p.Digest, data)
				if err != nil {
					return ctx.Err()
				}
				mu.Lock()
				defer mu.Unlock()
				out[p.Digest] = small
				return nil
			})
		}
	}
	return out, group.Wait()
}

// Labels lists the labels and plaques that a job as built asks for, with its country.
func (svc *Service) Labels(
	ctx context.Context, by people.Person, id string,
) (number string, list []jurisdiction.Label, in *jurisdiction.Jurisdiction, err error) {
	v, err := svc.jobs.Open(ctx, by, id)
	if err != nil {
		return "", nil, nil, err
	}
	if in = v.Book.In; in.Labels == nil {
		return "", nil, nil, fmt.Errorf("labels: %w", store.ErrNotFound)
	}
	list = in.Labels(rulebook.FactsOf(in, v.Job.Built(), v.Demand))
	address, err := svc.address(ctx, id)
	if address != "" {
		list = append(list, jurisdiction.Label{
			Where: "beside the charger",
			Lines: []string{"Papers of this charging point", "how it is used, what was tested, who installed it"}, Code: address,
		})
	}
	return v.Job.Number, list, in, err
}

// LabelsPDF prints them to be cut out.
func (svc *Service) LabelsPDF(ctx context.Context, by people.Person, id string) (Paper, error) {
	number, list, in, err := svc.Labels(ctx, by, id)
	if err != nil {
		return Paper{}, err
	}
	pdf, err := document.Labels(number, list, in, svc.now())
	return Paper{number + "-labels.pdf", "application/pdf", pdf}, err
}

// LabelsSVG draws them for a label printer.
func (svc *Service) LabelsSVG(ctx context.Context, by people.Person, id string) (Paper, error) {
	number, list, _, err := svc.Labels(ctx, by, id)
	return Paper{number + "-labels.svg", "image/svg+xml", document.LabelsSVG(list)}, err
}
