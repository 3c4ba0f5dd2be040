package evidence

import (
	"cmp"
	"corpulan/core/text"
	"slices"
	"strings"
)

// shapes picks the commonest way the term is written. A word keeps its capital
// only if the field writes it so nearly always.
func (m *merged) shapes(capitals map[string]float64) (string, []Shape) {
	counts := map[string]int{}
	for _, u := range m.uses {
		if u == nil {
			continue
		}
		for _, s := range u.surfaces {
			counts[settleCase(s.text, capitals)] += s.count
		}
	}
	list := make([]Shape, 0, len(counts))
	for s, n := range counts {
		list = append(list, Shape{s, n})
	}
	slices.SortFunc(list, func(a, b Shape) int {
		return cmp.Or(b.Count-a.Count, len(a.Text)-len(b.Text), strings.Compare(a.Text, b.Text))
	})
	return list[0].Text, list[:min(len(list), 6)]
}

func settleCase(s string, capitals map[string]float64) string {
	words := strings.Split(s, " ")
	for i, w := range words {
		lower := strings.ToLower(w)
		if c, ok := capitals[text.Fold(w)]; ok && c > 0.75 {
			if w == lower { // seen at a sentence's start or in a heading only
				words[i] = strings.ToUpper(w[:1]) + w[1:]
			}
			continue
		}
		words[i] = lower
	}
	return strings.Join(words, " ")
}

// capitalRatio is, for each word the field writes with a capital inside a
// sentence, the share of its uses there that have one.
func capitalRatio(docs []*Doc) map[string]float64 {
	capital, lower := map[string]int{}, map[string]int{}
	for _, d := range docs {
		for w, n := range d.lower {
			lower[w] += n
		}
		for _, s := range d.sentences {
			if s.heading || mostlyCapitals(s) {
				continue
			}
			for i, t := range s.tokens {
				if i > 0 && t.capital {
					capital[t.folded]++
				}
			}
		}
	}
	ratio := make(map[string]float64, len(capital))
	for w, n := range capital {
		ratio[w] = float64(n) / float64(n+lower[w])
	}
	return ratio
}

// mostlyCapitals tells a line in title case (a label, a link, a caption),
// whose capitals say nothing about names.
func mostlyCapitals(s sentence) bool {
	if !s.heading && strings.HasSuffix(s.text, ".") {
		return false // a sentence full of names
	}
	words, capitals := 0, 0
	for _, t := range s.tokens {
		if t.stop || t.number {
			continue
		}
		words++
		if t.capital {
			capitals++
		}
	}
	return words == 0 || 10*capitals > 6*words
}

// forms are the word forms of the term as most often written.
func (m *merged) forms() []string {
	best, most := "", 0
	for _, u := range m.uses {
		if u == nil {
			continue
		}
		for _, s := range u.surfaces {
			if s.count > most || s.count == most && s.text < best {
				best, most = s.text, s.count
			}
		}
	}
	var forms []string
	for _, w := range strings.FieldsFunc(best, func(r rune) bool { return r == ' ' || r == '-' }) {
		forms = append(forms, text.Fold(w))
	}
	return forms
}
