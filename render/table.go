package render

import (
	"encoding/csv"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"

	"corpulan/core/message"

	"corpulan/core/brief"
	"corpulan/core/demand"
	"corpulan/core/evidence"
	"corpulan/core/stats"
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
		{"xlsx", "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", XLSX},
	}
}

// FindingsTable is all findings of a kind: a row for each, a column for each of
// its figures, and one for each page with how often the page has it. Terms and questions have
// what lists of keywords know of them, by their keys, where searched is not nil.
func FindingsTable(e *evidence.Evidence, kind brief.Kind, searched map[string]demand.Keyword) Table {
	t := Table{Name: map[brief.Kind]string{brief.TermKind: "terms", brief.EntityKind: "entities", brief.QuestionKind: "questions", brief.ThemeKind: "themes", brief.PointKind: "points", brief.FactKind: "facts", brief.LinkKind: "links"}[kind]}
	perPage := func(counts []int) []any {
		row := make([]any, len(e.Sources))
		for i := range e.Sources {
			n := 0
			if i < len(counts) {
				n = counts[i]
			}
			row[i] = n
		}
		return row
	}
	spread := func(r stats.Range) []any { return []any{r.Lower, r.Median, r.Upper} }
	add := func(cells []any, more ...[]any) {
		for _, m := range more {
			cells = append(cells, m...)
		}
		t.Rows = append(t.Rows, cells)
	}
	asked := func(key string) []any {
		if searched == nil {
			return nil
		}
		k := searched[key]
		return []any{figure(k.Volume), figure(k.Difficulty), figure(k.Cost)}
	}
	switch kind {
	case brief.TermKind:
		t.Columns = []message.Message{"term", "shapes", "tier", "pages", "uses", "per page, lower quartile", "per page, median", "per page, upper quartile", "per 1,000 words, lower quartile", "per 1,000 words, median", "per 1,000 words, upper quartile",
			"in titles", "in headings", "in openings", "in image texts", "dispersion DP", "G² against general language", "log ratio", "C-value", "nearness to the keyword", "semantic field", "short forms", "out by default"}
		texts := map[string]string{}
		for _, x := range e.Terms {
			texts[x.Key] = x.Text
		}
		for _, x := range e.Terms {
			var shapes []string
			for _, s := range x.Shapes {
				shapes = append(shapes, s.Text)
			}
			out := x.Flag
			if x.YieldsTo != "" && out == "" {
				out = message.Of("stands for %s", texts[x.YieldsTo])
			}
			add([]any{x.Text, strings.Join(shapes, "; "), message.Message(x.Tier), x.Pages, x.Count}, spread(x.Use), spread(x.Rate),
				[]any{x.Titles, x.Headings, x.Openings, x.Images, x.Spread, x.G2, x.LogRatio, x.CValue, x.Nearness, texts[x.Field], strings.Join(x.Short, "; "), out}, asked(x.Key), perPage(x.Counts))
		}
	case brief.EntityKind:
		t.Columns = []message.Message{"entity", "variants", "stands for", "type", "told by", "pages", "mentions", "salience", "out by default"}
		for _, x := range e.Entities {
			add([]any{x.Name, strings.Join(x.Variants, "; "), x.Long, message.Label(x.Type, "names"), x.Why, x.Pages, x.Mentions, x.Salience, x.Flag}, perPage(x.Counts))
		}
	case brief.FactKind:
		t.Columns = []message.Message{"fact", "kind", "figures", "rank", "date of the page", "cites"}
		for _, x := range e.Facts {
			on := make([]int, len(e.Sources))
			for i, src := range e.Sources {
				if src.Rank == x.Rank {
					on[i] = 1
				}
			}
			add([]any{x.Text, message.Message(x.Kind), strings.Join(x.Figures, "; "), x.Rank, x.Date, x.Cites}, perPage(on))
		}
	case brief.LinkKind:
		t.Columns = []message.Message{"address", "kind of site", "anchor texts", "pages", "sentences"}
		for _, x := range e.Citations {
			var sentences []string
			on := make([]int, len(e.Sources))
			for _, s := range x.Sentences {
				sentences = append(sentences, s.Text)
			}
			for i, src := range e.Sources {
				if slices.Contains(x.Sources, src.Rank) {
					on[i] = 1
				}
			}
			add([]any{x.URL, message.Message(x.Kind), strings.Join(x.Texts, "; "), x.Pages, strings.Join(sentences, "\n")}, perPage(on))
		}
	case brief.PointKind:
		t.Columns = []message.Message{"point", "theme", "words of rank", "said by ranks", "figures that differ"}
		labels := map[string]string{}
		for _, x := range e.Themes {
			labels[x.Key] = x.Label
		}
		for _, x := range e.Points {
			for _, p := range x.Points {
				said := make([]int, len(e.Sources))
				var differ []string
				for i, src := range e.Sources {
					for _, s := range p.Says {
						if s.Rank == src.Rank {
							said[i]++
						}
					}
				}
				for _, d := range p.Disputed {
					for _, v := range d.Values {
						differ = append(differ, v.Text)
					}
				}
				add([]any{p.Text, labels[x.Theme], p.Rank, Ranks(p.Ranks), strings.Join(differ, "; ")}, perPage(said))
			}
		}
	case brief.QuestionKind:
		t.Columns = []message.Message{"question", "wordings", "kind", "on the results page", "asked by ranks", "answered by ranks"}
		for _, x := range e.Questions {
			var wordings []string
			answered := make([]int, len(e.Sources))
			var ranks []int
			for _, w := range x.Wordings {
				wordings = append(wordings, w.Text)
			}
			for _, a := range x.AnsweredBy {
				ranks = append(ranks, a.Rank)
				for i, s := range e.Sources {
					if s.Rank == a.Rank {
						answered[i]++
					}
				}
			}
			add([]any{x.Text, strings.Join(wordings, " / "), message.Message(x.Kind), yes(x.OnResults), Ranks(x.AskedBy), Ranks(ranks)}, asked(x.Key), perPage(answered))
		}
	case brief.ThemeKind:
		t.Columns = []message.Message{"theme", "headings", "pages", "usual place, 0 to 1", "usual level", "words, lower quartile", "words, median", "words, upper quartile"}
		for _, x := range e.Themes {
			var headings []string
			for _, m := range x.Members {
				headings = append(headings, m.Text)
			}
			add([]any{x.Label, strings.Join(headings, " / "), x.Pages, x.Place, x.Level}, spread(x.Length), perPage(x.Counts))
		}
	}
	if searched != nil && (kind == brief.TermKind || kind == brief.QuestionKind) {
		t.Columns = append(t.Columns, "searches a month", "difficulty", "cost per click")
	}
	for _, s := range e.Sources {
		t.Columns = append(t.Columns, message.Of("rank %d %s", s.Rank, s.Host))
	}
	return t
}

func yes(b bool) message.Message {
	if b {
		return "yes"
	}
	return ""
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
