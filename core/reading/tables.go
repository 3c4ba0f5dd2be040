package reading

import (
	"strconv"

	"corpulan/core/markup"

	"golang.org/x/net/html"
)

// Table is a table of data, cell by cell. A cell that spans several rows or columns stands in each.
type Table struct {
	Section int        `json:"section"`
	Caption string     `json:"caption,omitempty"`
	Head    bool       `json:"head,omitempty"` // the first row heads the columns
	Side    bool       `json:"side,omitempty"` // the first column heads the rows
	Rows    [][]string `json:"rows"`
}

// Bounds of what is kept of tables, our own.
const (
	maxTables    = 30
	maxRows      = 300
	maxColumns   = 30
	longestCell  = 300 // characters
	longestTable = 400 // characters of its caption
)

// tableOf reads a table of data.
func tableOf(n *html.Node) Table {
	t := Table{Head: true, Side: true}
	var over []spanning // cells of rows above that reach down, by column
	for d := range n.Descendants() {
		switch {
		case d.Type != html.ElementNode:
		case d.Data == "caption":
			t.Caption = shortText(markup.Text(d), longestTable)
		case d.Data == "tr" && len(t.Rows) < maxRows:
			row, heads, first := rowOf(d, &over)
			if len(row) == 0 {
				continue
			}
			t.Rows = append(t.Rows, row)
			if len(t.Rows) == 1 {
				t.Head = heads
			} else {
				t.Side = t.Side && first
			}
		}
	}
	t.Side = t.Side && len(t.Rows) > 1
	return t
}

type spanning struct {
	text string
	rows int // that it still reaches into
}

// rowOf reads a row: its cells, whether all that say something are headers, and whether the first is one.
func rowOf(tr *html.Node, over *[]spanning) (row []string, heads, first bool) {
	heads = true
	put := func(s string, rows int) {
		row = append(row, s)
		for len(*over) < len(row) {
			*over = append(*over, spanning{})
		}
		(*over)[len(row)-1] = spanning{s, rows - 1}
	}
	fromAbove := func() {
		for len(row) < len(*over) && (*over)[len(row)].rows > 0 && len(row) < maxColumns {
			s := (*over)[len(row)]
			put(s.text, s.rows)
		}
	}
	cells := 0
	for c := tr.FirstChild; c != nil && len(row) < maxColumns; c = c.NextSibling {
		if c.Type != html.ElementNode || c.Data != "td" && c.Data != "th" {
			continue
		}
		fromAbove()
		s := cellText(c)
		if cells == 0 {
			first = c.Data == "th"
		}
		heads = heads && (c.Data == "th" || c.Parent.Parent != nil && c.Parent.Parent.Data == "thead" || s == "" && cells == 0)
		cells++
		wide, tall := span(c, "colspan", maxColumns), span(c, "rowspan", maxRows)
		for range wide {
			if len(row) < maxColumns {
				put(s, tall)
			}
		}
	}
	fromAbove()
	return row, heads && cells > 0, first
}

func span(cell *html.Node, attr string, most int) int {
	n, err := strconv.Atoi(markup.Attr(cell, attr))
	if err != nil {
		return 1
	}
	return min(max(n, 1), most)
}

// cellText is what a cell says; what its picture says where it has no words.
func cellText(cell *html.Node) string {
	s := markup.Text(cell)
	if s == "" {
		for d := range cell.Descendants() {
			if d.Type == html.ElementNode && d.Data == "img" && markup.Attr(d, "alt") != "" {
				s = markup.Collapse(markup.Attr(d, "alt"))
				break
			}
		}
	}
	return shortText(s, longestCell)
}
