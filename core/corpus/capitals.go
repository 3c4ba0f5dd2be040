package corpus

import (
	"slices"
	"strings"
)

// capitalsOf is, for each word the field writes with a capital inside a
// sentence, the share of its uses there that have one.
func capitalsOf(docs []*Doc) map[string]float64 {
	capital, lower := map[string]int{}, map[string]int{}
	for _, d := range docs {
		for w, n := range d.Lower {
			lower[w] += n
		}
		for _, s := range d.Sentences {
			if s.Heading || MostlyCapitals(s) {
				continue
			}
			for i, t := range s.Tokens {
				if i > 0 && t.Capital {
					capital[t.Folded]++
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

// IsWrittenAsName tells a folded word that the field never writes in small letters; no number.
func (f *Field) IsWrittenAsName(w string) bool {
	return strings.Trim(w, "0123456789") != "" && !slices.ContainsFunc(f.Docs, func(d *Doc) bool { return d.Lower[w] > 0 })
}

// MostlyCapitals tells a line in title case (a label, a link, a caption),
// whose capitals say nothing about names.
func MostlyCapitals(s Sentence) bool {
	if !s.Heading && strings.HasSuffix(s.Text, ".") {
		return false // a sentence full of names
	}
	words, capitals := 0, 0
	for _, t := range s.Tokens {
		if t.Stop || t.Number {
			continue
		}
		words++
		if t.Capital {
			capitals++
		}
	}
	return words == 0 || 10*capitals > 6*words
}
