package corpus

import (
	"slices"
	"sync"

	"corpulan/core/language"
	"corpulan/core/lexicon"
)

// RelatedByStem are the words that the dictionary relates to others, by their stems. It is made once.
var RelatedByStem = sync.OnceValue(func() map[string][]string {
	lang, all := language.Dictionary(), map[string][]string{}
	for w := range lexicon.RelatedWords() {
		s := lang.StemFolded(w)
		all[s] = append(all[s], w)
	}
	return all
})

// shortestSame is how many letters a word has at least to stand for another: "C" is slang for more than one, and a
// degree. Our own.
const shortestSame = 3

// SameInMeaning are the stems of words that stand for the same thing as those of a stem, or are derived from
// them: "bicycle" for "bike"; none where the language has no dictionary of senses.
func (f *Field) SameInMeaning(stem string) []string {
	if !f.Language.Senses {
		return nil
	}
	var list []string
	for _, w := range RelatedByStem()[stem] {
		for _, n := range lexicon.Related(w) {
			if n.How != lexicon.SameSense && n.How != lexicon.Derived {
				continue
			}
			if s := f.Language.StemFolded(n.Word); s != stem && len(s) >= shortestSame && !slices.Contains(list, s) {
				list = append(list, s)
			}
		}
	}
	return list
}
