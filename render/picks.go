package render

import (
	"fmt"
	"strings"

	"corpulan/core/brief"
)

// picks are the things that a list goes through, in their order: with the verdict, the price and what the field says.
func picks(b brief.Brief) []Row {
	in := b.In()
	var rows []Row
	for n, p := range b.Picks {
		said := []string{fmt.Sprintf("%d. %s", n+1, p.Name)}
		if p.Verdict != "" {
			said[0] += ": " + p.Verdict
		}
		if p.Price != "" {
			said = append(said, p.Price)
		}
		for _, side := range []struct {
			name   string
			quotes []brief.Quote
		}{{in.Put("praised"), p.Praise}, {in.Put("criticised"), p.Criticism}} {
			var quotes []string
			for _, q := range side.quotes {
				quotes = append(quotes, fmt.Sprintf("“%s” (%d)", strings.TrimRight(q.Text, ".!"), q.Rank))
			}
			if len(quotes) > 0 {
				said = append(said, side.name+" "+strings.Join(quotes, ", "))
			}
		}
		rows = append(rows, Row{Finding: Finding{brief.ThingKind, p.Key, p.Pages, p.Sources, p.Gone}, Cells: []Cell{{Text: strings.Join(said, "; "), Note: Ranks(p.Sources)}}})
	}
	return rows
}

// compared is the table of the picks by the criteria. Cells in which no page says anything are for the writer to fill.
func compared(b brief.Brief) Block {
	in := b.In()
	t := Block{Form: TableForm, Name: "comparison", Columns: []Column{{Name: in.Put("thing")}, {Name: in.Put("verdict")}}}
	if len(b.Picks) == 0 {
		return t
	}
	for _, c := range b.Criteria {
		t.Columns = append(t.Columns, Column{Name: c.Name})
	}
	t.Columns = append(t.Columns, Column{Name: in.Put("ranks"), Small: true})
	for _, p := range b.Picks {
		cells := []Cell{{Text: p.Name}, {Text: p.Verdict}}
		for _, v := range p.Values {
			c := Cell{Text: v.Text}
			if v.Differs {
				c.Text += " ≠"
			}
			cells = append(cells, c)
		}
		t.Rows = append(t.Rows, Row{Finding: Finding{brief.ThingKind, p.Key, p.Pages, p.Sources, p.Gone}, Cells: append(cells, Cell{Text: Ranks(p.Sources)})})
	}
	t.Text = in.Put("What the pages give (≠: they differ); what is empty is to be found out, and every figure to be checked.")
	return t
}
