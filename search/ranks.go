package search

import (
	"cmp"
	"math"
	"slices"
	"strconv"
	"strings"

	"corpulan/core/address"
	"corpulan/core/message"
)

// MaxRanks is how many rows of a file of ranks are read.
const MaxRanks = 5000

// WhichColumn asks for the column that holds the addresses.
type WhichColumn struct{ Columns []string }

func (w *WhichColumn) Error() string {
	return "no column could be recognised as the addresses; the columns are " + strings.Join(w.Columns, ", ")
}

// columnNames are the names by which a column is known, small letters and
// nothing but letters.
var columnNames = map[string][]string{
	"address": {"url", "address", "link", "page", "landingpage", "webpage", "result", "resulturl", "pageurl", "adresse", "seite"},
	"rank":    {"rank", "position", "pos", "ranking", "nr", "no", "platz", "currentposition", "serpposition"},
	"title":   {"title", "pagetitle", "titletag", "titel", "heading"},
	"snippet": {"snippet", "description", "metadescription", "text", "beschreibung"},
}

// ParseRanks finds ranked results in the rows of a table. Columns are recognised by their names, or
// by what stands in them where the first row names nothing; column, if given, names the one with the
// addresses. The error is a *WhichColumn where a person must say which it is.
func ParseRanks(rows [][]string, column string) ([]Item, error) {
	rows = slices.DeleteFunc(rows, func(row []string) bool { return strings.TrimSpace(strings.Join(row, "")) == "" })
	if len(rows) == 0 {
		return nil, message.Errorf("the file is empty")
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
			return nil, message.Errorf("the column %q holds no addresses of web pages", column)
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
var ErrNoAddresses = message.Errorf("no column of this file holds addresses of web pages; a list of keywords has none")

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
		return nil, message.Errorf("no row holds the address of a web page")
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
