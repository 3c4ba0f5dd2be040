package vocabulary

import (
	"cmp"
	"slices"
	"strings"

	"corpulan/core/text"
)

// shapes picks the commonest way the term is written. A word keeps its capital
// only if the field writes it so nearly always.
func (m *merged) shapes(capitals map[string]float64, nouns bool) (string, []Shape) {
	counts := map[string]int{}
	for _, u := range m.uses {
		if u == nil {
			continue
		}
		for _, s := range u.Surfaces {
			text := settleCase(s.Text, capitals)
			if nouns {
				text = settleNouns(s.Text, capitals)
			}
			counts[text] += s.Count
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

// settleCase writes words small but for those that the field writes with a capital
// nearly always: three quarters of the time, our own bound.
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

// forms are the word forms of the term as most often written.
func (m *merged) forms() []string {
	best, most := "", 0
	for _, u := range m.uses {
		if u == nil {
			continue
		}
		for _, s := range u.Surfaces {
			if s.Count > most || s.Count == most && s.Text < best {
				best, most = s.Text, s.Count
			}
		}
	}
	var forms []string
	for _, w := range strings.FieldsFunc(best, func(r rune) bool { return r == ' ' || r == '-' }) {
		forms = append(forms, text.Fold(w))
	}
	return forms
}

// settleNouns is settleCase for languages whose nouns have capitals: each part of
// a word is written as the field mostly writes it, and as it stands where the
// field tells nothing.
func settleNouns(s string, capitals map[string]float64) string {
	var b strings.Builder
	for len(s) > 0 {
		end := strings.IndexAny(s, " -")
		if end < 0 {
			end = len(s)
		}
		part := s[:end]
		if c, ok := capitals[text.Fold(part)]; ok && c < 0.25 { // less than a quarter: our own bound
			part = strings.ToLower(part)
		}
		b.WriteString(part)
		if end < len(s) {
			b.WriteByte(s[end])
			end++
		}
		s = s[end:]
	}
	return b.String()
}
