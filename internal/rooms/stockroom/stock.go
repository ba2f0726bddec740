package stockroom

import (
	"bytes"
	"context"
	"errors"
	"slices"
	"strconv"
	"strings"

	"dogbolt/core/clearance"
	"dogbolt/core/job"
	"dogbolt/core/schema"
	"dogbolt/core/stock"
	"dogbolt/internal/document"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/store"
)

// Stock lists what van, store and suppliers have.
func (svc *Service) Stock(ctx context.Context, by people.Person) ([]stock.Ware, error) {
	if err := people.May(by, people.ViewFirm); err != nil {
		return nil, err
	}
	return svc.store.Stock(ctx, "")
}

// PutItem adds an item of the stock or changes it. What is held of it is the
// jobs' affair.
func (svc *Service) PutItem(ctx context.Context, by people.Person, i stock.Ware) error {
	if err := people.May(by, people.KeepStock); err != nil {
		return err
	}
	if err := i.Validate(); err != nil {
		return schema.Invalid("item", "%v", err)
	}
	return svc.putStock(ctx, by, []stock.Ware{i}, "change stock")
}

func (svc *Service) putStock(ctx context.Context, by people.Person, items []stock.Ware, action string) error {
	err := svc.store.Write(ctx, func(tx *store.Tx) error {
		if err := tx.PutStock(items); err != nil {
			return err
		}
		return tx.Note(svc.now(), by.Name, action, "", items[0].ID)
	})
	if errors.Is(err, store.ErrTaken) {
		return schema.Invalid("quantity", "less than is held for jobs: free them first (%v)", err)
	}
	return err
}

// DropItem removes an item of which nothing is held.
func (svc *Service) DropItem(ctx context.Context, by people.Person, id string) error {
	if err := people.May(by, people.DropStock); err != nil {
		return err
	}
	err := svc.store.Write(ctx, func(tx *store.Tx) error {
		return errors.Join(tx.DropStock(id), tx.Note(svc.now(), by.Name, "remove from stock", "", id))
	})
	if errors.Is(err, store.ErrTaken) {
		return schema.Invalid("item", "%s is held for a job: free it first", id)
	}
	return err
}

// ImportStock reads a stock file, CSV or XLSX by its content: every row, or
// none and all that is wrong with them. Items of the same id are changed, others
// stay.
func (svc *Service) ImportStock(ctx context.Context, by people.Person, data []byte) (int, error) {
	if err := people.May(by, people.KeepStock); err != nil {
		return 0, err
	}
	var rows [][]string
	var err error
	if bytes.HasPrefix(data, []byte("PK")) {
		rows, err = document.ReadXLSX(data)
	} else {
		rows, err = stock.ReadCSV(bytes.NewReader(data))
	}
	if err != nil {
		return 0, schema.Invalid("file", "%v", err)
	}
	items, bad := stock.FromRows(rows)
	if len(bad) > 0 {
		var errs schema.Errors
		for _, e := range bad {
			errs = append(errs, job.FieldError{Field: "file", Message: e.Error()})
		}
		return 0, errs
	}
	return len(items), svc.putStock(ctx, by, items, "import stock")
}

// TableKind is the kind of file that a table is written as.
type TableKind string

// The kinds of file.
const (
	CSV  TableKind = "csv"
	XLSX TableKind = "xlsx"
)

// Values lists the kinds of file.
func (TableKind) Values() []string { return schema.Words(CSV, XLSX) }

// ExportStock writes the stock as a file.
func (svc *Service) ExportStock(ctx context.Context, by people.Person, kind TableKind) ([]byte, error) {
	items, err := svc.Stock(ctx, by)
	if err != nil {
		return nil, err
	}
	return table("stock", kind, stock.Rows(items))
}

func table(name string, kind TableKind, rows [][]string) ([]byte, error) {
	if kind == XLSX {
		return document.XLSX(name, rows)
	}
	return document.CSV(rows)
}

// Orders is what to order, by supplier, and for which jobs nothing may be
// bought yet.
type Orders struct {
	Orders []stock.Order `json:"orders"`
	Held   []stock.Held  `json:"held"`
}

// Orders gathers what jobs lack. A job whose grant must be offered first is
// named instead of being bought for. Who sees some jobs alone reads the numbers of no others.
func (svc *Service) Orders(ctx context.Context, by people.Person) (Orders, error) {
	if err := people.May(by, people.ViewFirm); err != nil {
		return Orders{}, err
	}
	items, err := svc.store.Stock(ctx, "")
	if err != nil {
		return Orders{}, err
	}
	ids, err := svc.planned(ctx)
	if err != nil {
		return Orders{}, err
	}
	var wants []stock.Want
	hidden := map[string]bool{} // numbers
	for _, id := range ids {
		j, err := svc.jobs.Whole(ctx, id)
		if err != nil {
			return Orders{}, err
		}
		if err := svc.jobs.Sees(ctx, by, id); errors.Is(err, store.ErrNotFound) {
			hidden[j.Number] = true
		} else if err != nil {
			return Orders{}, err
		}
		w := stock.Want{Job: j.Number, Day: j.Plan.Day}
		for _, p := range j.Plan.Parts {
			if p.InHand != job.Yes && p.Tool != job.Yes && p.By == "" && p.Supply != job.Ordered {
				w.Parts = append(w.Parts, p)
			}
		}
		if len(w.Parts) == 0 || jobs.Begun(&j) {
			continue
		}
		if held := clearance.Blocking(&j, job.BeforeOrder); len(held) > 0 {
			w.Stops = held[0].Title + ": " + held[0].Why
		}
		wants = append(wants, w)
	}
	var out Orders
	resources, err := svc.firm.ResourcesNow(ctx)
	if err != nil {
		return Orders{}, err
	}
	out.Orders, out.Held = stock.Orders(items, wants, resources.ReelMargin)
	out.Held = slices.DeleteFunc(out.Held, func(h stock.Held) bool { return hidden[h.Job] })
	for _, o := range out.Orders {
		for i := range o.Lines {
			o.Lines[i].Jobs = slices.DeleteFunc(o.Lines[i].Jobs, func(n string) bool { return hidden[n] })
		}
	}
	return out, nil
}

// planned lists the jobs that are booked from today on, and those that wait for
// a day.
func (svc *Service) planned(ctx context.Context) ([]string, error) {
	bookings, err := svc.store.Bookings(ctx, svc.now().AddDate(0, 0, -1).Format("2006-01-02"), "9999-12-31")
	if err != nil {
		return nil, err
	}
	waiting, err := svc.store.Waiting(ctx, store.MostWaiting)
	if err != nil {
		return nil, err
	}
	var ids []string
	for _, b := range bookings {
		ids = append(ids, b.Job)
	}
	for _, w := range waiting {
		ids = append(ids, w.ID)
	}
	return ids, nil
}

// ExportOrders writes the order list as a file.
func (svc *Service) ExportOrders(ctx context.Context, by people.Person, kind TableKind) ([]byte, error) {
	o, err := svc.Orders(ctx, by)
	if err != nil {
		return nil, err
	}
	rows := [][]string{{"supplier", "name", "quantity", "unit", "by", "jobs"}}
	for _, order := range o.Orders {
		for _, l := range order.Lines {
			rows = append(
				rows,
				[]string{
					order.Supplier,
					l.Name,
					strconv.FormatFloat(l.Quantity, 'f', -1, 64),
					l.Unit,
					l.By,
					strings.Join(slices.Sorted(slices.Values(l.Jobs)), " "),
				},
			)
		}
	}
	return table("orders", kind, rows)
}
