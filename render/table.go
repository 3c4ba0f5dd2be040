package render

import (
	"encoding/csv"
	"encoding/json"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"

	"corpulan/core/brief"
	"corpulan/core/demand"
	"corpulan/core/evidence"
	"corpulan/core/language"
	"corpulan/core/listed"
	"corpulan/core/message"
)

// Table is findings of one kind as a table, for spreadsheets.
type Table struct {
	Name    string
	Columns []message.Message
	Rows    [][]any // texts, messages, whole numbers and decimals
}

// In is the table in other words, for people: its name, its columns, and the messages of its
// rows. Programs are given the words as they are.
func (t Table) In(w brief.Speech) Table {
	out := Table{Name: w.Look(t.Name), Columns: make([]message.Message, len(t.Columns)), Rows: make([][]any, len(t.Rows))}
	for i, c := range t.Columns {
		out.Columns[i] = message.Text(w.Say(c))
	}
	for i, row := range t.Rows {
		out.Rows[i] = slices.Clone(row)
		for j, cell := range row {
			if said, ok := cell.(message.Message); ok {
				out.Rows[i][j] = message.Text(w.Say(said))
			}
		}
	}
	return out
}

// TableFormat is a form a table can be written in.
type TableFormat struct {
	Name      string // and the file's ending
	MediaType string
	Write     func(io.Writer, Table) error
}

// TableFormats lists what a table can be written as.
func TableFormats() []TableFormat {
	return []TableFormat{
		{"csv", "text/csv; charset=utf-8", CSV},
		{"json", "application/json", JSONTable},
		{"xlsx", "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", XLSX},
	}
}

// FindingsTable is all findings of a kind: a row for each, a column for each of
// its figures, and one for each page with how often the page has it. Terms and questions have
// what lists of keywords know of them, by their keys, where searched is not nil.
func FindingsTable(e *evidence.Evidence, kind brief.Kind, searched map[string]demand.Keyword) Table {
	of, _ := evidence.OfKind(kind)
	t := Table{Name: of.Name, Columns: slices.Clone(of.Columns)}
	if !of.Searched {
		searched = nil
	}
	if searched != nil {
		t.Columns = append(t.Columns, "searches a month", "difficulty", "cost per click")
	}
	for _, s := range e.Sources {
		t.Columns = append(t.Columns, message.Of("rank %d %s", s.Rank, s.Host))
	}
	for _, f := range e.Findings(kind) {
		row := []any{f.Text}
		var cells []any
		if f.Cells != nil {
			cells = f.Cells()
		}
		for _, cell := range cells {
			if ranks, ok := cell.([]int); ok {
				cell = Ranks(ranks)
			}
			row = append(row, cell)
		}
		if searched != nil {
			k := searched[f.Key]
			row = append(row, figure(k.Volume), figure(k.Difficulty), figure(k.Cost))
		}
		counts := f.Counts
		if f.Times != nil {
			counts = f.Times
		}
		for i := range e.Sources {
			n := 0
			if i < len(counts) {
				n = counts[i]
			}
			row = append(row, n)
		}
		t.Rows = append(t.Rows, row)
	}
	return t
}

// ComparisonTable is the things that pages list by the criteria: a row for each, a column for each criterion and one for the
// pages that give it.
func ComparisonTable(e *evidence.Evidence) Table {
	t := Table{Name: "comparison", Columns: []message.Message{"thing", "verdicts", "price", "ranks"}}
	lang := language.For(e.Language)
	var criteria []listed.Criterion
	for _, c := range e.Criteria {
		if c.Kind == listed.Measure {
			criteria = append(criteria, c)
			t.Columns = append(t.Columns, message.Text(c.Name), message.Of("%s: ranks", c.Name))
		}
	}
	for _, x := range e.Listed {
		price, ranks := brief.PriceOf(x, lang)
		row := []any{x.Name, strings.Join(x.Verdicts, "; "), price, Ranks(ranks)}
		for _, c := range criteria {
			text, ranks := brief.ValueOf(x, c.Key, lang)
			row = append(row, text, Ranks(ranks))
		}
		t.Rows = append(t.Rows, row)
	}
	return t
}

// JSONTable writes a table as an array of objects, a member for each column.
func JSONTable(w io.Writer, t Table) error {
	rows := make([]map[string]any, len(t.Rows))
	for i, row := range t.Rows {
		rows[i] = map[string]any{}
		for n, cell := range row {
			if said, ok := cell.(message.Message); ok {
				cell = said.String()
			}
			rows[i][t.Columns[n].String()] = cell
		}
	}
	e := json.NewEncoder(w)
	e.SetEscapeHTML(false)
	e.SetIndent("", " ")
	return e.Encode(rows)
}

// CSV writes a table as RFC 4180 has it, in UTF-8. A text that a spreadsheet would
// take for a formula comes with an apostrophe before it.
func CSV(w io.Writer, t Table) error {
	out := csv.NewWriter(w)
	out.UseCRLF = true
	head := make([]string, len(t.Columns))
	for i, c := range t.Columns {
		head[i] = guard(c.String())
	}
	if err := out.Write(head); err != nil {
		return err
	}
	for _, row := range t.Rows {
		cells := make([]string, len(row))
		for i, v := range row {
			switch v := v.(type) {
			case string:
				cells[i] = guard(v)
			case message.Message:
				cells[i] = guard(v.String())
			case float64:
				cells[i] = strconv.FormatFloat(v, 'f', -1, 64)
			default:
				cells[i] = fmt.Sprint(v)
			}
		}
		if err := out.Write(cells); err != nil {
			return err
		}
	}
	out.Flush()
	return out.Error()
}

func guard(s string) string {
	if s != "" && strings.ContainsRune("=+-@\t\r", rune(s[0])) {
		return "'" + s
	}
	return s
}

// XLSX writes a table as a workbook of one sheet.
func XLSX(w io.Writer, t Table) error { return workbook(w, t) }
