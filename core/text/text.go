// Package text says what text the program takes, and how it goes in and out of tables.
package text

import (
	"bytes"
	"encoding/binary"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"regexp"
	"strings"
	"unicode"
	"unicode/utf16"
	"unicode/utf8"
)

// Wrong says why a text is not taken; "" where it is. Any character that can be typed
// is taken. Control characters but the end of a line and the tabulator are not: they
// print as nothing, and XML does not know them. Nor are the marks that turn the
// direction of what follows (Unicode Technical Report 36, 2.10): a line that reads
// otherwise than it is stored proves nothing.
func Wrong(s string) string {
	for i, r := range s {
		switch {
		case r == utf8.RuneError && !strings.HasPrefix(s[i:], string(utf8.RuneError)):
			return "is not UTF-8 text"
		case unicode.IsControl(r) && r != '\n' && r != '\t' && r != '\r', turns(r):
			return fmt.Sprintf("has a control character (%U)", r)
		}
	}
	return ""
}

// Taken is what Wrong takes, as a pattern for readers in other languages. The characters
// stand as they are: regular expressions write their numbers in different ways.
const Taken = "^[^\x00-\x08\v\f\x0e-\x1f\x7f-\u009f\u202a-\u202e\u2066-\u2069]*$"

// turns reports whether a character changes the direction of what follows.
func turns(r rune) bool { return r >= 0x202A && r <= 0x202E || r >= 0x2066 && r <= 0x2069 }

// errEncoding says how to save a file so that it can be read.
var errEncoding = errors.New(`the file is not UTF-8 text: save it anew as "CSV UTF-8" or "Unicode text", so that signs such as ² and Ω stay what they are`)

// File is the text of a file in UTF-8, or in UTF-16 with its mark at the beginning. Other
// encodings are refused: they cannot be told from each other, and what is ² in one is
// another sign in the next.
func File(data []byte) ([]byte, error) {
	order := binary.ByteOrder(binary.LittleEndian)
	switch {
	case bytes.HasPrefix(data, []byte("\xef\xbb\xbf")):
		data = data[3:]
	case bytes.HasPrefix(data, []byte("\xfe\xff")):
		order = binary.BigEndian
		fallthrough
	case bytes.HasPrefix(data, []byte("\xff\xfe")):
		if len(data)%2 != 0 {
			return nil, errEncoding
		}
		units := make([]uint16, 0, len(data)/2)
		for i := 2; i < len(data); i += 2 {
			units = append(units, order.Uint16(data[i:]))
		}
		data = []byte(string(utf16.Decode(units)))
	}
	if !utf8.Valid(data) || bytes.ContainsRune(data, 0) {
		return nil, errEncoding
	}
	return data, nil
}

// Cells that a spreadsheet would take for a formula when it opens a CSV file, and
// what undoes the mark in front of them (OWASP, CSV Injection).
const runs = "=+-@\t\r'"

var plainNumber = regexp.MustCompile(`^[+-]?[0-9]+(\.[0-9]+)?$`)

// Guard is a cell as it is written to a CSV file: with an apostrophe in front where a
// spreadsheet would run it. Open takes the apostrophe away.
func Guard(cell string) string {
	if cell != "" && strings.Contains(runs, cell[:1]) && !plainNumber.MatchString(cell) {
		return "'" + cell
	}
	return cell
}

// Open is a cell as Guard was given it.
func Open(cell string) string {
	if len(cell) > 1 && cell[0] == '\'' && strings.Contains(runs, cell[1:2]) && !plainNumber.MatchString(cell[1:]) {
		return cell[1:]
	}
	return cell
}

// Reader reads the rows of a CSV file, in any encoding that File takes.
type Reader struct{ *csv.Reader }

// NewReader begins to read a CSV file.
func NewReader(file io.Reader) (Reader, error) {
	data, err := io.ReadAll(file)
	if err == nil {
		data, err = File(data)
	}
	return Reader{csv.NewReader(bytes.NewReader(data))}, err
}

// Read reads a row, its cells opened.
func (r Reader) Read() ([]string, error) {
	row, err := r.Reader.Read()
	for i := range row {
		row[i] = Open(row[i])
	}
	return row, err
}

// ReadAll reads the rows that are left.
func (r Reader) ReadAll() ([][]string, error) {
	var rows [][]string
	for {
		row, err := r.Read()
		if errors.Is(err, io.EOF) {
			return rows, nil
		}
		if err != nil {
			return nil, err
		}
		rows = append(rows, row)
	}
}

// WriteCSV writes rows as CSV, their cells guarded.
func WriteCSV(w io.Writer, rows [][]string) error {
	out := csv.NewWriter(w)
	for _, row := range rows {
		guarded := make([]string, len(row))
		for i, cell := range row {
			guarded[i] = Guard(cell)
		}
		out.Write(guarded)
	}
	out.Flush()
	return out.Error()
}
