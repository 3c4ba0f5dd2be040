package demand

import (
	"slices"
	"strings"

	"corpulan/core/language"
	"corpulan/core/text"
)

// Bounds of the parts of a compound. Our own.
const (
	shortestFirst = 3 // letters
	shortestLast  = 4
)

// compounds are the words of a list that are two of its words written as one, in languages that
// join words, with the stems of the parts: of "fahrradhandschuhe" and "winterhandschuhe" both
// are known to be gloves. A part is known where it stands by itself in the list or among the
// frequent words of the language, and a last one where two compounds of the list end in it.
func compounds(list []Keyword, lang *language.Language) map[string][]string {
	between := lang.Between()
	if between == nil {
		return nil
	}
	words := map[string]bool{}
	for _, k := range list {
		text.EachWord(k.Text, func(w text.Span) { words[text.Fold(w.Of(k.Text))] = true })
	}
	known := func(s string) bool { return words[s] || lang.Rank(s) > 0 }
	// splits calls yield with each way in which a word has a known first part.
	splits := func(word string, yield func(first, last string)) {
		for i := shortestFirst; i+shortestLast <= len(word); i++ {
			for _, link := range between {
				if first, ok := strings.CutSuffix(word[:i], link); ok && len(first) >= shortestFirst && known(first) {
					yield(first, word[i:])
				}
			}
		}
	}
	firsts := map[string]map[string]bool{} // by last part
	for w := range words {
		splits(w, func(first, last string) {
			if firsts[last] == nil {
				firsts[last] = map[string]bool{}
			}
			firsts[last][first] = true
		})
	}
	out := map[string][]string{}
	for w := range words {
		best, score := []string(nil), 0
		splits(w, func(first, last string) {
			n := 0
			switch {
			case words[first] && words[last]:
				n = 3
			case known(last):
				n = 2
			case len(firsts[last]) > 1:
				n = 1
			}
			// Of two ways as good the one with the longer first part: its last is the plainer word.
			if n = 1000*n + len(first); n >= 1000 && n > score {
				best, score = []string{lang.StemFolded(first), lang.StemFolded(last)}, n
			}
		})
		if best != nil && !slices.Contains(best, "") {
			out[w] = best
		}
	}
	return out
}

// stemsWith are the stems of a query, those of compounds in the place of the compound.
func stemsWith(lang *language.Language, s string, split map[string][]string) []string {
	if len(split) == 0 {
		return stemsOf(lang, s)
	}
	whole := map[string]string{} // folded words, by their stem
	text.EachWord(s, func(w text.Span) {
		folded := text.Fold(w.Of(s))
		whole[lang.StemFolded(folded)] = folded
	})
	var out []string
	for _, stem := range stemsOf(lang, s) {
		if parts := split[whole[stem]]; parts != nil {
			out = append(out, parts...)
		} else {
			out = append(out, stem)
		}
	}
	slices.Sort(out)
	return slices.Compact(out)
}
