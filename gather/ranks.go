package gather

import (
	"bytes"
	"cmp"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"math"
	"path"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"corpulan/core/address"

	"github.com/xuri/excelize/v2"
	"golang.org/x/net/html/charset"
)

// Bounds on a file of ranks.
const (
	largestRanks = 20 << 20
	mostRows     = 5000
	mostColumns  = 200
)

// WhichColumn asks for the column that holds the addresses.
type WhichColumn struct{ Columns []string }

func (w *WhichColumn) Error() string {
	return "no column could be recognised as the addresses; the columns are " + strings.Join(w.Columns, ", ")
}

// ParseRanks reads ranked results from CSV, TSV or XLSX. Columns are recognised
// by their names, or by what stands in them where the first row names nothing;
// column, if given, names the one with the addresses. The error is a
// *WhichColumn where a person must say which it is.
func ParseRanks(name string, in io.Reader, column string) ([]Item, error) {
	b, err := io.ReadAll(io.LimitReader(in, largestRanks+1))
	if err != nil {
		return nil, err
	}
	if len(b) > largestRanks {
		return nil, fmt.Errorf("the file is larger than %d MiB", largestRanks>>20)
	}
	var rows [][]string
	if bytes.HasPrefix(b, []byte("PK\x03\x04")) || strings.EqualFold(path.Ext(name), ".xlsx") {
		rows, err = xlsxRows(b)
	} else {
		rows, err = csvRows(b)
	}
	if err != nil {
		return nil, err
	}
	return rankedRows(rows, column)
}

// xlsxRows reads the first sheet row by row, no further down or to the right
// than a list of ranks goes: a cell may stand in column 16,384.
func xlsxRows(b []byte) (rows [][]string, err error) {
	f, err := excelize.OpenReader(bytes.NewReader(b), excelize.Options{UnzipSizeLimit: 100 << 20, UnzipXMLSizeLimit: 16 << 20})
	if err != nil {
		return nil, fmt.Errorf("this spreadsheet cannot be read: %w", err)
	}
	defer f.Close()
	it, err := f.Rows(f.GetSheetName(0))
	if err != nil {
		return nil, fmt.Errorf("this spreadsheet cannot be read: %w", err)
	}
	defer it.Close()
	for len(rows) <= mostRows && it.Next() {
		row, err := it.Columns()
		if err != nil {
			return nil, fmt.Errorf("row %d of this spreadsheet cannot be read: %w", len(rows)+1, err)
		}
		rows = append(rows, slices.Clone(row[:min(len(row), mostColumns)]))
	}
	if err := it.Error(); err != nil {
		return nil, fmt.Errorf("this spreadsheet cannot be read: %w", err)
	}
	return rows, nil
}

// csvRows reads text set apart by commas, semicolons or tabs, whichever the
// first lines have most of (RFC 4180 for the quotes).
func csvRows(b []byte) ([][]string, error) {
	if bytes.IndexByte(b, 0) >= 0 && !bytes.HasPrefix(b, []byte{0xFF, 0xFE}) && !bytes.HasPrefix(b, []byte{0xFE, 0xFF}) {
		return nil, errors.New("this is no CSV, TSV or XLSX file")
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
	head := string(b[:min(len(b), 4096)])
	mark := slices.MaxFunc([]rune{',', ';', '\t'}, func(x, y rune) int {
		return cmp.Compare(strings.Count(head, string(x)), strings.Count(head, string(y)))
	})
	r := csv.NewReader(bytes.NewReader(b))
	r.Comma, r.LazyQuotes, r.FieldsPerRecord, r.TrimLeadingSpace = mark, true, -1, mark != '\t'
	var rows [][]string
	for len(rows) <= mostRows {
		row, err := r.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return nil, fmt.Errorf("line %d cannot be read: %w", len(rows)+1, err)
		}
		rows = append(rows, row[:min(len(row), mostColumns)])
	}
	return rows, nil
}

// columnNames are the names by which a column is known, small letters and
// nothing but letters.
var columnNames = map[string][]string{
	"address": {"url", "address", "link", "page", "landingpage", "webpage", "result", "resulturl", "pageurl", "adresse", "seite"},
	"rank":    {"rank", "position", "pos", "ranking", "nr", "no", "platz", "currentposition", "serpposition"},
	"title":   {"title", "pagetitle", "titletag", "titel", "heading"},
	"snippet": {"snippet", "description", "metadescription", "text", "beschreibung"},
}

func rankedRows(rows [][]string, column string) ([]Item, error) {
	rows = slices.DeleteFunc(rows, func(row []string) bool { return strings.TrimSpace(strings.Join(row, "")) == "" })
	if len(rows) == 0 {
		return nil, errors.New("the file is empty")
	}
	at := map[string]int{"address": -1, "rank": -1, "title": -1, "snippet": -1}
	named := false
	for i, cell := range rows[0] {
		bare := strings.Map(func(r rune) rune {
			if r >= 'a' && r <= 'z' {
				return r
			}
			return -1
		}, strings.ToLower(cell))
		for what, names := range columnNames {
			if at[what] < 0 && slices.Contains(names, bare) {
				at[what], named = i, true
			}
		}
		if column != "" && strings.EqualFold(strings.TrimSpace(cell), strings.TrimSpace(column)) {
			at["address"], named = i, true
		}
	}
	body := rows
	if named {
		body = rows[1:]
	}
	if column != "" {
		if at["address"] < 0 || !holdsAddresses(body, at["address"], false) {
			return nil, fmt.Errorf("the column %q holds no addresses of web pages", column)
		}
	} else if at["address"] < 0 || !holdsAddresses(body, at["address"], false) {
		var perhaps bool
		if at["address"], perhaps = addressColumn(body, len(rows[0])); at["address"] < 0 && !perhaps {
			return nil, ErrNoAddresses
		}
		if at["address"] < 0 {
			return nil, &WhichColumn{Columns: rows[0]}
		}
	}
	return itemsOf(body, at)
}

// ErrNoAddresses says that a file of ranks names no web page.
var ErrNoAddresses = errors.New("no column of this file holds addresses of web pages; a list of keywords has none")

func cellAt(row []string, i int) string {
	if i < 0 || i >= len(row) {
		return ""
	}
	return strings.TrimSpace(row[i])
}

// holdsAddresses tells whether a column mostly holds addresses; surely, if one
// of them says so by its scheme or a path, since a bare "winter.bike" may be
// anything.
func holdsAddresses(rows [][]string, i int, surely bool) bool {
	n, written := 0, false
	for _, row := range rows {
		cell := cellAt(row, i)
		if _, err := address.Typed(cell); err == nil {
			n++
			written = written || strings.Contains(cell, "/")
		}
	}
	return n > 0 && 2*n >= len(rows) && (written || !surely)
}

// addressColumn is the first column that surely holds addresses, -1 if none
// does; perhaps, if one may.
func addressColumn(rows [][]string, width int) (column int, perhaps bool) {
	for i := range width {
		if holdsAddresses(rows, i, true) {
			return i, true
		}
		perhaps = perhaps || holdsAddresses(rows, i, false)
	}
	return -1, perhaps
}

// itemsOf makes results of rows: with the ranks that stand there, else in the
// file's order. A row without an address is left out.
func itemsOf(rows [][]string, at map[string]int) ([]Item, error) {
	var items []Item
	var ranks []float64
	seen := map[string]bool{}
	for _, row := range rows {
		url, err := address.Typed(cellAt(row, at["address"]))
		if err != nil || seen[url] {
			continue
		}
		seen[url] = true
		// "3", "3.0" as spreadsheets write it, "#3"
		rank, err := strconv.ParseFloat(strings.TrimLeft(cellAt(row, at["rank"]), "# "), 64)
		if err != nil {
			rank = 0
		}
		ranks = append(ranks, rank)
		items = append(items, Item{Rank: len(items), URL: url, Title: oneLine(cellAt(row, at["title"])), Snippet: oneLine(cellAt(row, at["snippet"]))})
	}
	if len(items) == 0 {
		return nil, errors.New("no row holds the address of a web page")
	}
	whole, ordered := areRanks(ranks)
	if ordered {
		slices.SortStableFunc(items, func(a, b Item) int { return cmp.Compare(ranks[a.Rank], ranks[b.Rank]) })
	}
	for i := range items {
		if whole {
			items[i].Rank = int(ranks[items[i].Rank])
		} else {
			items[i].Rank = i + 1
		}
	}
	return items, nil
}

// lowestRank is the rank beyond which a number is taken for something else.
const lowestRank = 10_000

// areRanks tells whether numbers are ranks: whole if they can stand as they
// are, ordered if they at least give the order (an average position does).
func areRanks(numbers []float64) (whole, ordered bool) {
	whole = true
	seen := map[float64]bool{}
	for _, n := range numbers {
		if !(n >= 1 && n <= lowestRank) {
			return false, false
		}
		whole = whole && n == math.Trunc(n) && !seen[n]
		seen[n] = true
	}
	return whole, true
}
