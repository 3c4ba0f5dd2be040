package gather

import (
	"bytes"
	"cmp"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"path"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"github.com/xuri/excelize/v2"
	"golang.org/x/net/html/charset"
)

// Bounds on a file of ranks.
const (
	largestRanks = 20 << 20
	mostRows     = 5000
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

func xlsxRows(b []byte) ([][]string, error) {
	f, err := excelize.OpenReader(bytes.NewReader(b), excelize.Options{UnzipSizeLimit: 200 << 20, UnzipXMLSizeLimit: 50 << 20})
	if err != nil {
		return nil, fmt.Errorf("this spreadsheet cannot be read: %w", err)
	}
	defer f.Close()
	rows, err := f.GetRows(f.GetSheetName(0))
	if err != nil {
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
		rows = append(rows, row)
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
	if at["address"] < 0 || !holdsAddresses(body, at["address"]) {
		at["address"] = addressColumn(rows)
		if at["address"] < 0 {
			return nil, &WhichColumn{Columns: rows[0]}
		}
	}
	return itemsOf(body, at)
}

func cellAt(row []string, i int) string {
	if i < 0 || i >= len(row) {
		return ""
	}
	return strings.TrimSpace(row[i])
}

func holdsAddresses(rows [][]string, i int) bool {
	n := 0
	for _, row := range rows {
		if _, err := parseAddress(cellAt(row, i)); err == nil {
			n++
		}
	}
	return n > 0 && 2*n >= len(rows)
}

// addressColumn is the first column that mostly holds addresses.
func addressColumn(rows [][]string) int {
	for i := range rows[0] {
		if holdsAddresses(rows, i) {
			return i
		}
	}
	return -1
}

// itemsOf makes results of rows: in the order of their ranks where those are
// given, else in the file's. A row without an address is left out.
func itemsOf(rows [][]string, at map[string]int) ([]Item, error) {
	var items []Item
	seen := map[string]bool{}
	ranked := at["rank"] >= 0
	for n, row := range rows {
		address, err := parseAddress(cellAt(row, at["address"]))
		if err != nil || seen[address] {
			continue
		}
		seen[address] = true
		rank := n + 1
		if ranked {
			// "3", "3.0" as spreadsheets write it, "#3"
			f, err := strconv.ParseFloat(strings.TrimLeft(cellAt(row, at["rank"]), "# "), 64)
			if err != nil || f < 1 {
				ranked, f = false, float64(n+1)
			}
			rank = int(f)
		}
		items = append(items, Item{Rank: rank, URL: address, Title: oneLine(cellAt(row, at["title"])), Snippet: oneLine(cellAt(row, at["snippet"]))})
	}
	if len(items) == 0 {
		return nil, errors.New("no row holds the address of a web page")
	}
	if ranked {
		slices.SortStableFunc(items, func(a, b Item) int { return a.Rank - b.Rank })
	}
	for i := range items {
		items[i].Rank = i + 1
	}
	return items, nil
}
