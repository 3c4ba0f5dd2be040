package entities

import (
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/message"
	"corpulan/core/reading"
	"corpulan/core/text"
)

// figuresOf finds the dates, sums of money and quantities that two pages give.
func figuresOf(f *corpus.Field) []*named {
	found := map[string]*named{}
	var order []*named
	note := func(doc int, s *corpus.Sentence, t EntityType, why message.Message, written string) {
		key := string(t) + " " + strings.ReplaceAll(text.Fold(written), " ", "")
		e := found[key]
		if e == nil {
			e = &named{Entity: Entity{Key: key, Type: t, Why: why, Counts: make([]int, len(f.Docs))}, shapes: map[string]int{}}
			found[key] = e
			order = append(order, e)
		}
		e.saw(mention{doc: doc, sentence: s}, written)
	}
	for i, d := range f.Docs {
		for n := range d.Sentences {
			s := &d.Sentences[n]
			if s.Foreign || s.Again || s.Kind == reading.LineCode {
				continue
			}
			for _, x := range s.Figures(f.Language) {
				switch {
				case x.Money:
					note(i, s, MoneyType, "a figure with a currency", x.Text)
				case f.Language.IsUnit(x.Unit) || strings.ContainsAny(x.Unit, "%°") || f.Language.IsUnit(unitWord(s, x)):
					note(i, s, QuantityType, "a figure with a unit", x.Text)
				}
			}
			for _, date := range datesIn(f, s) {
				note(i, s, DateType, "a day, month or year of the calendar", date)
			}
		}
	}
	var list []*named
	for _, e := range order {
		if e.count(f); e.Pages > 1 {
			list = append(list, e)
		}
	}
	return list
}

func unitWord(s *corpus.Sentence, x corpus.Figure) string {
	words := strings.Fields(x.Text)
	return text.Fold(words[len(words)-1])
}

// datesIn finds a month with its day or its year: "25 November 2026", "March 2025".
func datesIn(f *corpus.Field, s *corpus.Sentence) []string {
	var list []string
	for i, t := range s.Tokens {
		if !f.Language.InCalendar(t.Folded) {
			continue
		}
		from, to := i, i+1
		if i > 0 && isDay(s.Tokens[i-1].Folded) && len(between(s, i)) <= 2 {
			from--
		}
		if to < len(s.Tokens) && isDay(s.Tokens[to].Folded) && len(between(s, to)) == 1 && from == i {
			to++
		}
		if to < len(s.Tokens) && isYear(s.Tokens[to].Folded) && len(between(s, to)) <= 2 {
			to++
		}
		if to-from > 1 {
			list = append(list, s.Text[s.Tokens[from].Start:s.Tokens[to-1].End])
		}
	}
	return list
}

func isDay(w string) bool {
	w = strings.TrimRight(w, "stndrh") // "1st", "2nd", "3rd", "4th"
	return (len(w) == 1 || len(w) == 2 && w[0] <= '3') && isNumber(w) && w != "0"
}

func isYear(w string) bool {
	return len(w) == 4 && isNumber(w) && (strings.HasPrefix(w, "19") || strings.HasPrefix(w, "20"))
}
