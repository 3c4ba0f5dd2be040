package vocabulary

import (
	"cmp"
	"maps"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"corpulan/core/text"
)

// shapes picks the commonest way the term is written. A word keeps its capital
// only if the field writes it so nearly always.
func (m *merged) shapes(capitals map[string]float64, nouns bool) (string, []Shape) {
	counts := map[string]int{}
	named := m.isNamed()
	for _, u := range m.uses {
		if u == nil {
			continue
		}
		for _, s := range u.Surfaces {
			shape := s.Text
			switch {
			case named:
			case nouns:
				shape = settleNouns(shape, capitals)
			default:
				shape = settleCase(shape, capitals)
			}
			counts[shape] += s.Count
		}
	}
	settleMixed(counts)
	list := make([]Shape, 0, len(counts))
	for s, n := range counts {
		list = append(list, Shape{s, n})
	}
	slices.SortFunc(list, func(a, b Shape) int {
		if m.minor[text.Fold(a.Text)] != m.minor[text.Fold(b.Text)] {
			if m.minor[text.Fold(a.Text)] {
				return 1
			}
			return -1
		}
		return cmp.Or(b.Count-a.Count, len(a.Text)-len(b.Text), strings.Compare(a.Text, b.Text))
	})
	return list[0].Text, list[:min(len(list), 6)]
}

// isNamed tells a phrase of several words that the field writes as a name: with a
// capital at each word but small ones, three quarters of the time. Our own bound.
func (m *merged) isNamed() bool {
	if len(m.stems) < 2 {
		return false
	}
	named, all := 0, 0
	for _, u := range m.uses {
		if u == nil {
			continue
		}
		for _, s := range u.Surfaces {
			all += s.Count
			if allCapitals(s.Text) {
				named += s.Count
			}
		}
	}
	return 4*named > 3*all
}

// allCapitals tells whether each word of more than three letters begins with a
// capital, and there is one.
func allCapitals(s string) bool {
	any := false
	for w := range strings.FieldsSeq(s) {
		r, _ := utf8.DecodeRuneInString(w)
		if len(w) > 3 && !unicode.IsUpper(r) {
			return false
		}
		any = any || len(w) > 3
	}
	return any
}

// settleCase writes words small but for those that the field writes with a capital
// nearly always: three quarters of the time, our own bound.
func settleCase(s string, capitals map[string]float64) string {
	words := strings.Split(s, " ")
	for i, w := range words {
		lower := strings.ToLower(w)
		if isMixed(w) {
			continue
		}
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

// settleMixed counts shapes that differ in case alone as the one that is a fixed shape, "Ipx4" as "IPX4": no sentence begins with
// it in small letters.
func settleMixed(counts map[string]int) {
	mixed := map[string]string{}
	for s := range counts {
		if !strings.Contains(s, " ") && isMixed(s) {
			folded := text.Fold(s)
			if other, twice := mixed[folded]; twice && other != s {
				s = "" // written in two ways
			}
			mixed[folded] = s
		}
	}
	for s, n := range counts {
		if to := mixed[text.Fold(s)]; to != "" && to != s {
			delete(counts, s)
			counts[to] += n
		}
	}
}

// isMixed tells a word with a capital behind its first letter, and small letters or figures: "pH", "VG-10".
func isMixed(w string) bool {
	r, first := utf8.DecodeRuneInString(w)
	return unicode.IsLetter(r) && (w != strings.ToUpper(w) || strings.ContainsAny(w, "0123456789")) && strings.IndexFunc(w[first:], unicode.IsUpper) >= 0
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

// wordForms are the forms of a single word, folded, with how often each stands, in
// the order of the alphabet.
func (m *merged) wordForms() []Shape {
	if m.folded != nil {
		return m.folded
	}
	counts := map[string]int{}
	for _, u := range m.uses {
		if u == nil {
			continue
		}
		for _, s := range u.Surfaces {
			counts[text.Fold(s.Text)] += s.Count
		}
	}
	for _, w := range slices.Sorted(maps.Keys(counts)) {
		m.folded = append(m.folded, Shape{w, counts[w]})
	}
	return m.folded
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
		c, ok := capitals[text.Fold(part)]
		switch {
		case ok && c < 0.25: // less than a quarter: our own bound
			part = strings.ToLower(part)
		case !ok && b.Len() == 0 && end < len(s) && s[end] == ' ' && isInflected(part):
			part = strings.ToLower(part) // seen at the beginning of sentences only: "Lauwarmes Wasser"
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

// isInflected tells a German word that ends as adjectives before a noun do.
func isInflected(word string) bool {
	return slices.ContainsFunc([]string{"e", "er", "es", "en", "em"}, func(end string) bool { return len(word) > len(end)+3 && strings.HasSuffix(word, end) })
}
