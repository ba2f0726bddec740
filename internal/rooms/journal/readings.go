package journal

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"dogbolt/core/assess"
	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/schema"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/people"
)

const keyMappings = "reading-mappings"

// FateOf is what becomes of a line of a file.
type FateOf string

// What becomes of lines.
const (
	Taken   FateOf = "taken"
	There   FateOf = "there" // the log has it already
	Refused FateOf = "refused"
)

// Values lists what becomes of lines.
func (FateOf) Values() []string { return schema.Words(Taken, There, Refused) }

// Fate is what becomes of a line of a readings file.
type Fate struct {
	Line       int    `json:"line"`
	Point      string `json:"point"`
	Test       string `json:"test"`
	Value      string `json:"value"`
	Instrument string `json:"instrument"`
	At         string `json:"at"`
	Fate       FateOf `json:"fate"`
	Why        string `json:"why,omitempty"`
}

// FileView is what would become of a readings file. It is taken whole, and only
// where no line is refused.
type FileView struct {
	Heading []string `json:"heading" doc:"Columns of a file whose heading is not known: tell them apart with a mapping."`
	Lines   []Fate   `json:"lines"`
	Taken   int      `json:"taken"`
	There   int      `json:"there" doc:"Lines that the log has already."`
	Refused int      `json:"refused"`

	entries []job.Entry
}

// Mappings lists how instruments' own files are read.
func (svc *Service) Mappings(ctx context.Context, by people.Person) ([]commission.Mapping, error) {
	if err := people.May(by, people.ViewJobs); err != nil {
		return nil, err
	}
	list := []commission.Mapping{}
	return list, svc.settings.Get(ctx, keyMappings, &list)
}

// SaveMapping keeps how an instrument's own file is read, in place of what was
// kept for the instrument.
func (svc *Service) SaveMapping(ctx context.Context, by people.Person, m commission.Mapping) ([]commission.Mapping, error) {
	if err := people.May(by, people.WriteLog); err != nil {
		return nil, err
	}
	if err := m.Check(func(test string) bool { _, ok := jurisdiction.FindTest(test); return ok }); err != nil {
		field, msg, _ := strings.Cut(err.Error(), ": ")
		return nil, schema.Invalid(field, "%s", msg)
	}
	list, err := svc.Mappings(ctx, by)
	if err != nil {
		return nil, err
	}
	list = slices.DeleteFunc(list, func(x commission.Mapping) bool { return strings.EqualFold(x.Instrument, m.Instrument) })
	// The newest is tried first.
	list = append([]commission.Mapping{m}, list...)
	return list, svc.settings.Set(ctx, by.Name, keyMappings, "change how files of "+m.Instrument+" are read", list)
}

// PreviewReadings reads a readings file (docs/formats/readings.md) and says what
// would become of each line.
func (svc *Service) PreviewReadings(ctx context.Context, by people.Person, id string, data []byte) (FileView, error) {
	out := FileView{Heading: []string{}, Lines: []Fate{}}
	v, err := svc.jobs.Open(ctx, by, id)
	if err != nil {
		return out, err
	}
	mappings, err := svc.Mappings(ctx, by)
	if err != nil {
		return out, err
	}
	resources, err := svc.firm.ResourcesNow(ctx)
	if err != nil {
		return out, err
	}
	rows, err := commission.ReadFile(data, mappings, resources.SiteZone(&v.Job))
	if h := (commission.HeadingError{}); errors.As(err, &h) {
		out.Heading = h.Heading
		return out, nil
	}
	if err != nil {
		return out, schema.Invalid("file", "%v", err)
	}
	j := v.Job
	j.Log = slices.Clone(j.Log)
	who := assess.Writer{Name: by.Name, Verifier: by.Roles.Has(people.Verifier)}
	for _, r := range rows {
		f := Fate{Line: r.Line, Point: r.Point, Test: r.Test, Value: strings.TrimSpace(r.Value + " " + r.Unit), Instrument: r.Instrument, At: r.At}
		e, why := readingEntry(id, &v.Book.In.Tests, r)
		switch {
		case why != "":
			f.Fate, f.Why = Refused, why
		case slices.ContainsFunc(j.Log, func(x job.Entry) bool { return x.ID == e.ID }):
			f.Fate = There
		default:
			e.By = by.Name
			if errs := assess.Check(&j, &v.Policy, who, svc.now(), e, ""); len(errs) > 0 {
				f.Fate, f.Why = Refused, errs[0].Message
				break
			}
			f.Fate = Taken
			j.Log = append(j.Log, e)
			out.entries = append(out.entries, e)
		}
		switch f.Fate {
		case Taken:
			out.Taken++
		case There:
			out.There++
		default:
			out.Refused++
		}
		out.Lines = append(out.Lines, f)
	}
	return out, nil
}

// readingEntry turns a row into an entry, or says what is wrong with it. Its id
// follows from its contents, so the same file read twice is one set.
func readingEntry(jobID string, tests *commission.Practice, r commission.Row) (job.Entry, string) {
	if r.Broken != "" {
		return job.Entry{}, r.Broken
	}
	at, err := time.Parse(time.RFC3339, r.At)
	if err != nil {
		return job.Entry{}, fmt.Sprintf("at: %q is not a time such as 2026-05-04T11:20:00Z", r.At)
	}
	e := job.Entry{ID: entryID(jobID, r), Kind: job.ReadingMade, Point: r.Point, Subject: r.Test, Value: r.Value, Instrument: r.Instrument, At: at}
	if t, ok := tests.Find(r.Test); ok {
		if r.Unit != "" && r.Unit != t.Unit {
			e.Value += " " + r.Unit
		}
		e.Unit = t.Unit
	}
	return e, ""
}

// ImportReadings takes all readings of a file, or none.
func (svc *Service) ImportReadings(ctx context.Context, by people.Person, id string, data []byte) (jobs.View, error) {
	if err := people.May(by, people.WriteLog); err != nil {
		return jobs.View{}, err
	}
	p, err := svc.PreviewReadings(ctx, by, id, data)
	if err != nil {
		return jobs.View{}, err
	}
	if len(p.Heading) > 0 {
		return jobs.View{}, schema.Invalid("line 1", "%v", commission.HeadingError{Heading: p.Heading})
	}
	var errs schema.Errors
	for _, l := range p.Lines {
		if l.Fate == Refused {
			errs = append(errs, schema.Invalid(fmt.Sprintf("line %d", l.Line), "%s", l.Why)...)
		}
	}
	if len(errs) > 0 {
		return jobs.View{}, errs
	}
	if len(p.entries) == 0 {
		return svc.jobs.Open(ctx, by, id) // all of it was there already
	}
	// An instrument's file has the instrument's times.
	if _, err := svc.add(ctx, by, id, p.entries, func(time.Time) (span, error) { return span{own: true}, nil }); err != nil {
		return jobs.View{}, err
	}
	return svc.jobs.Open(ctx, by, id)
}

// entryID returns the id of a row of a readings file of a job.
func entryID(jobID string, r commission.Row) string {
	sum := sha256.Sum256([]byte(strings.Join([]string{jobID, r.Point, r.Test, r.Value, r.Unit, r.Instrument, r.At}, "\x00")))
	return "csv-" + hex.EncodeToString(sum[:16])
}
