package stock

import (
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"strconv"
	"strings"
	"time"

	"dogbolt/core/text"
)

// Columns are the columns of a stock file, in CSV and XLSX.
var Columns = []string{"id", "name", "unit", "place", "state", "reel", "quantity", "supplier", "expected"}

// RowError says what is wrong with a row of a file; rows count from 1, the
// heading included.
type RowError struct {
	Row     int
	Message string
}

// Error names the row.
func (e RowError) Error() string { return fmt.Sprintf("row %d: %s", e.Row, e.Message) }

// FromRows turns the rows of a table into items: all of them, or every error.
func FromRows(rows [][]string) ([]Ware, []RowError) {
	if len(rows) == 0 || strings.Join(trimmed(rows[0]), ",") != strings.Join(Columns, ",") {
		return nil, []RowError{{1, "the heading is " + strings.Join(Columns, ",")}}
	}
	var items []Ware
	var errs []RowError
	seen := map[string]int{}
	for n, r := range rows[1:] {
		r = trimmed(r)
		if strings.Join(r, "") == "" {
			continue
		}
		item, err := fromRow(r)
		if err == nil {
			err = item.Validate()
		}
		if first, twice := seen[item.ID]; err == nil && twice {
			err = fmt.Errorf("id: %q is in row %d already", item.ID, first)
		}
		if err != nil {
			errs = append(errs, RowError{n + 2, err.Error()})
			continue
		}
		seen[item.ID] = n + 2
		items = append(items, item)
	}
	if len(errs) == 0 && len(items) == 0 {
		errs = append(errs, RowError{2, "the file has no items"})
	}
	return items, errs
}

func trimmed(r []string) []string {
	out := make([]string, len(r))
	for i, s := range r {
		out[i] = strings.TrimSpace(s)
	}
	return out
}

func fromRow(r []string) (Ware, error) {
	if len(r) > len(Columns) {
		return Ware{}, fmt.Errorf("has %d fields, %d are wanted", len(r), len(Columns))
	}
	for len(r) < len(Columns) { // spreadsheets leave empty cells at the end out
		r = append(r, "")
	}
	i := Ware{ID: r[0], Name: r[1], Unit: r[2], Place: r[3], State: State(r[4]), Supplier: r[7], Expected: r[8]}
	switch strings.ToLower(r[5]) {
	case "", "no", "false":
	case "yes", "true":
		i.Reel = true
	default:
		return i, fmt.Errorf("reel: %q is not yes or no", r[5])
	}
	var err error
	if i.Quantity, err = strconv.ParseFloat(r[6], 64); err != nil {
		return i, fmt.Errorf("quantity: %q is not a number", r[6])
	}
	if _, err := time.Parse(time.DateOnly, i.Expected); i.Expected != "" && err != nil {
		return i, fmt.Errorf("expected: %q is not a day such as 2027-03-28", i.Expected)
	}
	return i, nil
}

// Rows turns items into the rows of a table, with the heading.
func Rows(items []Ware) [][]string {
	rows := [][]string{Columns}
	for _, i := range items {
		reel := ""
		if i.Reel {
			reel = "yes"
		}
		rows = append(
			rows,
			[]string{i.ID, i.Name, i.Unit, i.Place, string(i.State), reel, strconv.FormatFloat(i.Quantity, 'f', -1, 64), i.Supplier, i.Expected},
		)
	}
	return rows
}

// ReadCSV reads the rows of a CSV file.
func ReadCSV(r io.Reader) ([][]string, error) {
	c, err := text.NewReader(r)
	if err != nil {
		return nil, err
	}
	c.FieldsPerRecord = -1
	rows, err := c.ReadAll()
	var parse *csv.ParseError
	if errors.As(err, &parse) {
		return nil, RowError{parse.Line, parse.Err.Error()}
	}
	return rows, err
}
