package vocabulary

import (
	"slices"
	"strings"
	"unicode/utf8"

	"corpulan/core/language"
)

// minPart is how many letters a part of a compound has at least. Our own.
const minPart = 4

// addParts notes which terms a compound is made of, in languages that write compounds
// as one word: "Fahrradschloss" is made of "Fahrrad" and "Schloss". A compound is
// parted where its end is a word of the field and its beginning another, with one of
// the language's linking letters between, or a word of general language (after
// Koehn & Knight 2003, who part by the words of a corpus).
func addParts(terms []Term, list []*merged, lang *language.Language) {
	if len(lang.Between()) == 0 {
		return
	}
	byForm := map[string]int{}
	for i, m := range list {
		if len(m.stems) != 1 || terms[i].Tier == Hapax {
			continue
		}
		for _, w := range m.wordForms() {
			if j, ok := byForm[w.Text]; !ok || terms[j].Count < terms[i].Count {
				byForm[w.Text] = i
			}
		}
	}
	for i, m := range list {
		if len(m.stems) != 1 || terms[i].Tier == Hapax || terms[i].Flag != "" {
			continue
		}
		for _, w := range m.wordForms() {
			if parts := partsOf(w.Text, i, byForm, terms, lang); len(parts) > 0 {
				terms[i].Parts = parts
				break
			}
		}
	}
}

func partsOf(word string, self int, byForm map[string]int, terms []Term, lang *language.Language) []string {
	for at := minPart; at <= len(word)-minPart; at++ { // the longest end first
		if !utf8.RuneStart(word[at]) {
			continue
		}
		end, ok := byForm[word[at:]]
		if !ok || end == self {
			continue
		}
		begin := word[:at]
		for _, link := range lang.Between() {
			stem, ok := strings.CutSuffix(begin, link)
			if !ok || len(stem) < minPart-1 {
				continue
			}
			if j, ok := byForm[stem]; ok && j != self {
				return slices.Compact([]string{terms[j].Key, terms[end].Key})
			}
			if lang.Rank(stem) > 0 {
				return []string{terms[end].Key}
			}
		}
	}
	return nil
}
