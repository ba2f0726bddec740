package app

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/csv"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
	"time"

	"dogbolt/core/charging"
	"dogbolt/core/commission"
	"dogbolt/core/demand"
	"dogbolt/core/job"
	"dogbolt/core/loadmgmt"
	"dogbolt/core/quantity"
	"dogbolt/core/route"
	"dogbolt/core/rulebook"
	"dogbolt/core/sizing"
	"dogbolt/core/worklog"
	"dogbolt/internal/document"
	"dogbolt/internal/store"
)

// Options tries every device and conductor for a point with the setting and
// breaker as given (0 takes the design's, or the least that the rulebook allows),
// priced by the contractor's list. maxDrop is a share of the voltage, 0 the
// rulebook's. The second result is the currency, empty where nothing is priced.
func (a *App) Options(ctx context.Context, by Person, id, point string, setting, breaker quantity.Ampere, maxDrop float64) ([]sizing.Option, string, error) {
	v, p, err := a.point(ctx, by, id, point)
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
		return nil, "", invalid("setting", "choose the charger's setting first")
	}
	if !p.Place.Surveyed() {
		return nil, "", invalid("route", "survey the route first: method and length of every segment")
	}
	lists, err := a.prices(ctx)
	if err != nil {
		return nil, "", err
	}
	house, err := a.house(ctx)
	if err != nil {
		return nil, "", err
	}
	us := v.Book.School == worklog.US
	currency := ""
	if ask.Prices = priceList(lists, us); ask.Prices != nil {
		currency = ask.Prices.Currency
	}
	ask.Cut = routeOf(&v, p, house.Margins).Cut
	if us {
		return sizing.SolveAWG(ask), currency, nil
	}
	return sizing.SolveMetric(ask), currency, nil
}

// Arrangements judges every answer to the decisions of a point's design.
func (a *App) Arrangements(ctx context.Context, by Person, id, point string) ([]rulebook.Arrangement, error) {
	v, _, err := a.point(ctx, by, id, point)
	if err != nil {
		return nil, err
	}
	return rulebook.Arrange(&v.Job, point)
}

// Costs works out power, time and cost of a point's charging.
func (a *App) Costs(ctx context.Context, by Person, id, point string) (charging.Comparison, error) {
	v, p, err := a.point(ctx, by, id, point)
	if err != nil {
		return charging.Comparison{}, err
	}
	return charging.Compare(&v.Job, p), nil
}

func (a *App) point(ctx context.Context, by Person, id, point string) (View, job.Point, error) {
	v, err := a.Open(ctx, by, id)
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
func (a *App) OneLine(ctx context.Context, by Person, id, point string) (string, error) {
	v, p, err := a.point(ctx, by, id, point)
	if err != nil {
		return "", err
	}
	return document.OneLine(&v.Job, p).SVG(), nil
}

// ReadInterval reads a meter's interval data for a job: the highest demand and
// the length of the record. Nothing is written.
func (a *App) ReadInterval(ctx context.Context, by Person, id string, data []byte) (demand.Interval, error) {
	v, err := a.Open(ctx, by, id)
	if err != nil {
		return demand.Interval{}, err
	}
	out, err := demand.ReadInterval(bytes.NewReader(data), charging.Voltage(&v.Job.Survey.Supply, 1))
	if err != nil {
		return demand.Interval{}, invalid("file", "%v", err)
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
func (a *App) Night(ctx context.Context, by Person, id string, mode loadmgmt.Mode) (NightView, error) {
	v, err := a.Open(ctx, by, id)
	if err != nil {
		return NightView{}, err
	}
	n, missing := loadmgmt.Of(&v.Job, nightSeed)
	if missing != "" {
		return NightView{Missing: missing}, nil
	}
	house, err := a.house(ctx)
	if err != nil {
		return NightView{}, err
	}
	us := v.Book.School == worklog.US
	out := NightView{Ways: loadmgmt.Ways(n, us, house.costs(us)), Metered: len(v.Job.Survey.Supply.Profile) > 0}
	for _, w := range out.Ways {
		if w.Outcome.Mode == mode && w.Limit == n.Limit && w.ID != "lower" {
			out.Plot = document.NightPlot(n, w.Outcome).SVG()
		}
	}
	return out, nil
}

// ProposeParts lists what the design needs in the van, keeping what is ticked
// already.
func (a *App) ProposeParts(ctx context.Context, by Person, id string) ([]job.Part, error) {
	v, err := a.Open(ctx, by, id)
	if err != nil {
		return nil, err
	}
	for _, p := range v.Job.Points() {
		if p.Circuit.Cable.Size == "" || !p.Place.Surveyed() {
			return nil, invalid("design", "point %s has no cable or no route yet: choose them first", p.ID)
		}
	}
	house, err := a.house(ctx)
	return route.TakeOff(&v.Job, v.Book.School == worklog.US, house.Margins), err
}

// ReadingColumns is the heading of a readings file.
var ReadingColumns = []string{"point", "test", "value", "unit", "instrument", "at"}

// ReadReadings reads a readings file (docs/formats/readings.md) into entries.
// Every broken line is reported with its number, and then none is taken.
func (a *App) ReadReadings(ctx context.Context, by Person, id string, data []byte) ([]job.Entry, error) {
	v, err := a.Open(ctx, by, id)
	if err != nil {
		return nil, err
	}
	r := csv.NewReader(bytes.NewReader(bytes.TrimPrefix(data, []byte("\xef\xbb\xbf"))))
	r.FieldsPerRecord = -1
	head, err := r.Read()
	if err != nil {
		return nil, invalid("line 1", "the file has no heading: %s", strings.Join(ReadingColumns, ","))
	}
	if !slices.Equal(head, ReadingColumns) {
		return nil, invalid("line 1", "the heading is %q, it must be %q", strings.Join(head, ","), strings.Join(ReadingColumns, ","))
	}
	var entries []job.Entry
	var errs FieldErrors
	for {
		row, err := r.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		var broken *csv.ParseError
		if errors.As(err, &broken) {
			errs = append(errs, invalid(fmt.Sprintf("line %d", broken.Line), "%v", broken.Err)...)
			continue
		}
		if err != nil {
			return nil, err
		}
		line, _ := r.FieldPos(0)
		field := fmt.Sprintf("line %d", line)
		e, msg := a.readingRow(&v, id, row)
		if msg != "" {
			errs = append(errs, invalid(field, "%s", msg)...)
			continue
		}
		e.By = by.Name
		entries = append(entries, e)
	}
	if len(errs) > 0 {
		return nil, errs
	}
	if len(entries) == 0 {
		return nil, invalid("line 2", "the file has no readings")
	}
	return entries, nil
}

// readingRow turns one row into an entry, or says what is wrong with it. Its
// id follows from its contents, so the same file read twice is one set.
func (a *App) readingRow(v *View, id string, row []string) (job.Entry, string) {
	var e job.Entry
	if len(row) != len(ReadingColumns) {
		return e, fmt.Sprintf("has %d fields, %d are wanted", len(row), len(ReadingColumns))
	}
	for i := range row {
		row[i] = strings.TrimSpace(row[i])
	}
	at, err := time.Parse(time.RFC3339, row[5])
	if err != nil {
		return e, fmt.Sprintf("at: %q is not a time such as 2026-05-04T11:20:00Z", row[5])
	}
	e = job.Entry{ID: entryID(id, row), Kind: job.ReadingMade, Point: row[0], Subject: row[1], Value: row[2], Instrument: row[4], At: at}
	if t, ok := commission.Find(row[1]); ok {
		if row[3] != "" && row[3] != t.Unit {
			e.Value += " " + row[3]
		}
		e.Unit = t.Unit
	}
	if _, dup := v.Job.Point(e.Point); !dup {
		return e, fmt.Sprintf("point: %q is not a point of this job", e.Point)
	}
	if errs := checkReadingEntry(&v.Job, v.Book, e, "value"); len(errs) > 0 {
		return e, errs[0].Message
	}
	return e, ""
}

// ImportReadings takes all readings of a file, or none.
func (a *App) ImportReadings(ctx context.Context, by Person, id string, data []byte) (View, error) {
	if err := a.may(by, WriteLog); err != nil {
		return View{}, err
	}
	entries, err := a.ReadReadings(ctx, by, id, data)
	if err != nil {
		return View{}, err
	}
	return a.Append(ctx, by, id, entries)
}

// entryID returns the id of a row of a readings file of a job.
func entryID(jobID string, row []string) string {
	sum := sha256.Sum256([]byte(jobID + "\x00" + strings.Join(row, "\x00")))
	return "csv-" + hex.EncodeToString(sum[:16])
}
