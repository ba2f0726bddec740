package commission

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
	"time"

	"dogbolt/core/schema"
	"dogbolt/core/text"
)

// FileFormat names the JSON format of a readings file and its version.
const FileFormat = "dogbolt.readings/1"

// FileColumns is the heading of a readings file in CSV.
var FileColumns = []string{"point", "test", "value", "unit", "instrument", "at"}

// File is a readings file in JSON.
type File struct {
	Format   string `json:"format" enum:"dogbolt.readings/1"`
	Readings []Row  `json:"readings" minItems:"1" maxItems:"500"`
}

// Row is one reading of a file.
type Row struct {
	Line       int    `json:"-"` // in a CSV file; the reading's number, from 1, in JSON
	Point      string `json:"point" maxLength:"8" doc:"Charging point."`
	Test       string `json:"test" maxLength:"80" doc:"Id of the test."`
	Value      string `json:"value" maxLength:"200" doc:"As the instrument shows it: 0.52, >999, LIM, correct."`
	Unit       string `json:"unit,omitempty" maxLength:"12" doc:"Left out: the test's own."`
	Instrument string `json:"instrument,omitempty" maxLength:"80" doc:"Serial or house number."`
	At         string `json:"at" format:"date-time" doc:"When it was read, RFC 3339."`
	Broken     string `json:"-"` // why the line cannot be read
}

// Mapping says where an instrument's own file has what: for files whose heading is
// not FileColumns.
type Mapping struct {
	Instrument string            `json:"instrument" minLength:"1" maxLength:"80" doc:"Serial or house number; stands for lines without one of their own."`
	Columns    map[string]string `json:"columns" doc:"The file's column for point, test, value, unit, instrument and at; left out where it has none."`
	Tests      map[string]string `json:"tests,omitempty" doc:"Ids of tests by the file's own names, in lower case."`
	Point      string            `json:"point,omitempty" maxLength:"8" doc:"Point of every line, where the file has no column for it."`
	Layout     Layout            `json:"layout,omitempty" doc:"How the file writes times; left out: RFC 3339. The others are the clock of the site."`
}

// layouts of times by their names.
var layouts = map[Layout][]string{
	"":            {time.RFC3339},
	"rfc3339":     {time.RFC3339},
	"day-first":   {"02/01/2006 15:04:05", "02/01/2006 15:04", "02.01.2006 15:04"},
	"month-first": {"01/02/2006 15:04:05", "01/02/2006 15:04", "01/02/2006 3:04 PM"},
	"year-first":  {"2006-01-02 15:04:05", "2006-01-02 15:04"},
}

// Layout is how a file writes times.
type Layout string

// Values lists the layouts.
func (Layout) Values() []string {
	return []string{"rfc3339", "day-first", "month-first", "year-first"}
}

// Check refuses a mapping that cannot serve; known tells whether there is a test
// of an id.
func (m *Mapping) Check(known func(test string) bool) error {
	if strings.TrimSpace(m.Instrument) == "" {
		return errors.New("instrument: missing")
	}
	for _, c := range []string{"test", "value", "at"} {
		if m.Columns[c] == "" {
			return fmt.Errorf("columns.%s: choose the file's column", c)
		}
	}
	for c := range m.Columns {
		if !slices.Contains(FileColumns, c) {
			return fmt.Errorf("columns.%s: is not one of %s", c, strings.Join(FileColumns, ", "))
		}
	}
	if m.Columns["point"] == "" && m.Point == "" {
		return errors.New("point: a column, or one point for every line")
	}
	for name, id := range m.Tests {
		if !known(id) {
			return fmt.Errorf("tests.%s: %q is not a test", name, id)
		}
	}
	if _, ok := layouts[m.Layout]; !ok {
		return fmt.Errorf("layout: %q is not one of rfc3339, day-first, month-first, year-first", m.Layout)
	}
	return nil
}

// fits reports whether a heading has every column that the mapping names.
func (m *Mapping) fits(head []string) bool {
	for _, c := range m.Columns {
		if c != "" && !slices.Contains(head, c) {
			return false
		}
	}
	return true
}

// HeadingError says that a file's heading is not known, and what it is.
type HeadingError struct{ Heading []string }

// Error names both headings.
func (e HeadingError) Error() string {
	return fmt.Sprintf("the heading is %q, it must be %q, or its columns must be told apart", strings.Join(e.Heading, ","), strings.Join(FileColumns, ","))
}

// ReadFile reads a readings file, JSON or CSV, into rows. A CSV file with a heading
// of its own is read by the first mapping that fits; zone is the clock that its
// times are by. Lines that cannot be read come back with Broken.
func ReadFile(data []byte, mappings []Mapping, zone *time.Location) ([]Row, error) {
	data, err := text.File(data)
	if err != nil {
		return nil, err
	}
	if t := bytes.TrimSpace(data); len(t) > 0 && t[0] == '{' {
		return readJSON(t)
	}
	r := csv.NewReader(bytes.NewReader(data))
	r.FieldsPerRecord = -1
	head, err := r.Read()
	if err != nil {
		return nil, fmt.Errorf("the file has no heading: %s", strings.Join(FileColumns, ","))
	}
	for i := range head {
		head[i] = strings.TrimSpace(head[i])
	}
	own := Mapping{Columns: map[string]string{}}
	for _, c := range FileColumns {
		own.Columns[c] = c
	}
	m := &own
	if !slices.Equal(head, FileColumns) {
		i := slices.IndexFunc(mappings, func(m Mapping) bool { return m.fits(head) })
		if i < 0 {
			return nil, HeadingError{head}
		}
		m = &mappings[i]
	}
	var rows []Row
	for {
		cells, err := r.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		var broken *csv.ParseError
		if errors.As(err, &broken) {
			rows = append(rows, Row{Line: broken.Line, Broken: broken.Err.Error()})
			continue
		}
		if err != nil {
			return nil, err
		}
		line, _ := r.FieldPos(0)
		rows = append(rows, m.row(line, head, cells, zone))
	}
	if len(rows) == 0 {
		return nil, errors.New("the file has no readings")
	}
	return rows, nil
}

func readJSON(data []byte) ([]Row, error) {
	var f File
	if errs := schema.Of[File]().Read("", data, &f); len(errs) > 0 {
		return nil, fmt.Errorf("the file is not a readings file: %w", errs)
	}
	for i := range f.Readings {
		f.Readings[i].Line = i + 1
	}
	return f.Readings, nil
}

// row turns a line's cells into a row.
func (m *Mapping) row(line int, head, cells []string, zone *time.Location) Row {
	if len(cells) != len(head) {
		return Row{Line: line, Broken: fmt.Sprintf("has %d fields, %d are wanted", len(cells), len(head))}
	}
	cell := func(c string) string {
		i := slices.Index(head, m.Columns[c])
		if m.Columns[c] == "" || i < 0 {
			return ""
		}
		return strings.TrimSpace(cells[i])
	}
	r := Row{Line: line, Point: cell("point"), Test: cell("test"), Value: cell("value"), Unit: cell("unit"), Instrument: cell("instrument"), At: cell("at")}
	if r.Point == "" {
		r.Point = m.Point
	}
	if r.Instrument == "" {
		r.Instrument = m.Instrument
	}
	if id, ok := m.Tests[strings.ToLower(r.Test)]; ok {
		r.Test = id
	}
	for _, l := range layouts[m.Layout] {
		if t, err := time.ParseInLocation(l, r.At, zone); err == nil {
			r.At = t.UTC().Format(time.RFC3339)
			break
		}
	}
	return r
}
