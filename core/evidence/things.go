package evidence

import (
	"fmt"
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/listed"
	"corpulan/core/message"
)

func thingsFound(e *Evidence, add func(Finding)) {
	names := map[string]string{listed.PriceDiffers: "price"}
	for _, c := range e.Criteria {
		names[c.Key] = c.Name
	}
	for i := range e.Listed {
		t := &e.Listed[i]
		f := Finding{Key: t.Key, Text: t.Name, Made: t.Variants, Said: t.Variants, Note: strings.Join(t.Verdicts, "; "), Pages: t.Pages, Total: len(t.Places), Of: t, Counts: make([]int, len(e.Sources)), Times: make([]int, len(e.Sources))}
		for _, p := range t.Places {
			n := slices.IndexFunc(e.Sources, func(s Source) bool { return s.Rank == p.Rank })
			f.Times[n] = 1
			if f.Counts[n] = 1; p.Position > 0 { // the first of a list weighs as much as the list is long
				f.Counts[n] = 1 + p.Of - min(p.Position, p.Of)
			}
		}
		if len(t.Differs) > 0 {
			var differ []message.Message
			for _, d := range t.Differs {
				differ = append(differ, message.Text(names[d]))
			}
			f.More = message.Of("pages differ: %v", message.Joined(", ", differ...))
		}
		f.About = func() message.Message {
			if len(t.Variants) < 2 {
				return ""
			}
			return message.Of("written %s", strings.Join(t.Variants, ", "))
		}
		f.Cells = func() []any {
			var prices, figures []string
			for _, p := range t.Prices {
				prices = append(prices, fmt.Sprintf("%s (%d)", p.Text, p.Rank))
			}
			for _, a := range t.Attributes {
				figures = append(figures, fmt.Sprintf("%s: %s (%d)", a.Name, a.Text, a.Rank))
			}
			return []any{strings.Join(t.Variants, "; "), t.Ranks, t.Positions, strings.Join(t.Verdicts, "; "), strings.Join(prices, "; "), strings.Join(figures, "; "), strings.Join(t.Praise, "\n"), strings.Join(t.Criticism, "\n"), f.More}
		}
		add(f)
	}
}

// rated writes a mark and how many gave it: "4.6/5 (212)".
func rated(r listed.Rating) string {
	said := fmt.Sprintf("%g/%g", r.Value, r.Of)
	if r.Count > 0 {
		said += fmt.Sprintf(" (%d)", r.Count)
	}
	return said
}

// listings are where pages list a thing, with what they say of it.
func listings(_ *Evidence, _ []corpus.RankedPage, f Finding) (list []Passage) {
	t := f.Of.(*listed.Thing)
	for _, p := range t.Places {
		at := Passage{Rank: p.Rank, Section: p.Section, Place: message.Of("named"), Text: p.Text}
		if p.Position > 0 {
			at.Place, at.Heading = message.Of("number %d of %d", p.Position, p.Of), p.Name
			if p.By == listed.ByData {
				at.Section = -1
			}
			var says []string
			if p.Verdict != "" {
				says = append(says, p.Verdict)
			}
			for _, x := range p.Prices {
				says = append(says, x.Text)
			}
			for _, a := range p.Attributes {
				says = append(says, a.Name+": "+a.Text)
			}
			if r := p.Rating; r != nil {
				says = append(says, rated(*r))
			}
			at.Text, at.Made = strings.Join(says, " · "), true
		}
		list = append(list, at)
		for _, side := range []struct {
			place message.Message
			said  []listed.Said
		}{{"praised", p.Praise}, {"criticised", p.Criticism}} {
			for _, s := range side.said {
				list = append(list, Passage{Rank: p.Rank, Section: -1, Place: side.place, Text: s.Text})
			}
		}
	}
	return list
}
