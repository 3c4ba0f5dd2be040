// Package sheet reads tables from CSV, TSV and XLSX.
package sheet

import (
	"bytes"
	"encoding/csv"
	"errors"
	"io"
	"path"
	"slices"
	"strings"
	"unicode/utf8"

	"corpulan/core/message"

	"github.com/xuri/excelize/v2"
	"golang.org/x/net/html/charset"
)

// Bounds on a table. Our own.
const (
	largestTable = 20 << 20
	maxColumns   = 200
	maxCells     = 40_000_000 // of all rows together, as far as each of them goes to the right
)

// Read reads the rows of a table, at most one more than most, from CSV, TSV or XLSX, by the
// file's name and what is in it.
func Read(name string, in io.Reader, most int) ([][]string, error) {
	b, err := io.ReadAll(io.LimitReader(in, largestTable+1))
	if err != nil {
		return nil, err
	}
	if len(b) > largestTable {
		return nil, message.Errorf("the file is larger than %d MiB", largestTable>>20)
	}
	if bytes.HasPrefix(b, []byte("PK\x03\x04")) || strings.EqualFold(path.Ext(name), ".xlsx") {
		return xlsxRows(b, most)
	}
	return csvRows(b, most)
}

// xlsxRows reads the first sheet row by row, no further down or to the right
// than a list goes: a cell may stand in column 16,384.
func xlsxRows(b []byte, most int) (rows [][]string, err error) {
	f, err := excelize.OpenReader(bytes.NewReader(b), excelize.Options{UnzipSizeLimit: 100 << 20, UnzipXMLSizeLimit: 16 << 20})
	if err != nil {
		return nil, message.Errorf("this spreadsheet cannot be read: %v", err)
	}
	defer f.Close()
	it, err := f.Rows(f.GetSheetName(0))
	if err != nil {
		return nil, message.Errorf("this spreadsheet cannot be read: %v", err)
	}
	defer it.Close()
	cells := 0
	for len(rows) <= most && it.Next() {
		row, err := it.Columns()
		if err != nil {
			return nil, message.Errorf("row %d of this spreadsheet cannot be read: %v", len(rows)+1, err)
		}
		if cells += len(row); cells > maxCells {
			return nil, message.Errorf("this spreadsheet is too wide: row %d has %d columns; delete the empty ones", len(rows)+1, len(row))
		}
		rows = append(rows, slices.Clone(row[:min(len(row), maxColumns)]))
	}
	if err := it.Error(); err != nil {
		return nil, message.Errorf("this spreadsheet cannot be read: %v", err)
	}
	return rows, nil
}

// headBytes is how much of a file is looked at for what sets its cells apart. Our own.
const headBytes = 8192

// markOf is what sets the cells of a table apart: that sign which most of its lines have the same number of times, outside quotes; of
// two the one that they have more of.
func markOf(head string) rune {
	best, lines, each := ',', 0, 0
	for _, mark := range []rune{'\t', ';', ','} {
		counts, quoted, n, before := map[int]int{}, false, 0, '\n'
		for _, r := range head + "\n" {
			switch {
			case r == '"' && (quoted || before == mark || before == '\n'): // elsewhere it stands for inches
				quoted = !quoted
			case r == '"' && before == '"': // one that is doubled within quotes
				quoted = true
			case r == mark && !quoted:
				n++
			case r == '\n' && !quoted:
				counts[n]++
				n = 0
			}
			before = r
		}
		for n, of := range counts {
			if n > 0 && (of > lines || of == lines && n > each) {
				best, lines, each = mark, of, n
			}
		}
	}
	return best
}

// csvRows reads text set apart by commas, semicolons or tabs (RFC 4180 for the quotes).
func csvRows(b []byte, most int) ([][]string, error) {
	if bytes.IndexByte(b, 0) >= 0 && !bytes.HasPrefix(b, []byte{0xFF, 0xFE}) && !bytes.HasPrefix(b, []byte{0xFE, 0xFF}) {
		return nil, message.Errorf("this is no CSV, TSV or XLSX file")
	}
	if bytes.HasPrefix(b, []byte{0xFF, 0xFE}) || bytes.HasPrefix(b, []byte{0xFE, 0xFF}) || !utf8.Valid(b) {
		r, err := charset.NewReader(bytes.NewReader(b), "text/plain")
		if err != nil {
			return nil, err
		}
		if b, err = io.ReadAll(r); err != nil {
			return nil, err
		}
	}
	b = bytes.TrimPrefix(b, []byte{0xEF, 0xBB, 0xBF})
	mark := markOf(string(b[:min(len(b), headBytes)]))
	r := csv.NewReader(bytes.NewReader(b))
	r.Comma, r.LazyQuotes, r.FieldsPerRecord, r.TrimLeadingSpace = mark, true, -1, mark != '\t'
	var rows [][]string
	for len(rows) <= most {
		row, err := r.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return nil, message.Errorf("line %d cannot be read: %v", len(rows)+1, err)
		}
		rows = append(rows, row[:min(len(row), maxColumns)])
	}
	return rows, nil
}
