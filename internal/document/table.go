package document

import (
	"bytes"
	"errors"
	"fmt"
	"strconv"

	"github.com/xuri/excelize/v2"
)

// XLSX writes rows as a workbook with one sheet; what is a number becomes one,
// but for the first column, which holds names.
func XLSX(sheet string, rows [][]string) ([]byte, error) {
	f := excelize.NewFile()
	defer f.Close()
	if err := f.SetSheetName(f.GetSheetName(0), sheet); err != nil {
		return nil, fmt.Errorf("workbook: %w", err)
	}
	for r, row := range rows {
		for c, v := range row {
			cell, err := excelize.CoordinatesToCellName(c+1, r+1)
			if err != nil {
				return nil, fmt.Errorf("workbook: %w", err)
			}
			var value any = v
			if n, err := strconv.ParseFloat(v, 64); err == nil && r > 0 && c > 0 {
				value = n
			}
			if err := f.SetCellValue(sheet, cell, value); err != nil {
				return nil, fmt.Errorf("workbook: %w", err)
			}
		}
	}
	var out bytes.Buffer
	if err := f.Write(&out); err != nil {
		return nil, fmt.Errorf("workbook: %w", err)
	}
	return out.Bytes(), nil
}

// ReadXLSX reads the rows of a workbook's first sheet.
func ReadXLSX(data []byte) ([][]string, error) {
	f, err := excelize.OpenReader(bytes.NewReader(data), excelize.Options{UnzipSizeLimit: 64 << 20, UnzipXMLSizeLimit: 16 << 20})
	if err != nil {
		return nil, fmt.Errorf("not a workbook that can be read: %w", err)
	}
	rows, err := f.GetRows(f.GetSheetName(0), excelize.Options{RawCellValue: true})
	return rows, errors.Join(err, f.Close())
}
