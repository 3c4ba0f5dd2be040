package language

import (
	"slices"
	"strings"

	"corpulan/core/lexicon"
	"corpulan/core/text"
)

// Denies tells a folded word that turns what is said into its contrary: "not", "never".
func (k *known) Denies(folded string) bool { return k.negations[folded] }

// Opposed tells two folded words that say the contrary of each other: "before" and "after"; by the list of
// the language, in English by WordNet's antonyms as well.
func (k *known) Opposed(a, b string) bool {
	if k.opposed()[[2]string{k.stem(a), k.stem(b)}] {
		return true
	}
	return k.Senses && slices.ContainsFunc(lexicon.Related(a), func(n lexicon.Near) bool { return n.How == lexicon.Opposite && n.Word == b })
}

func (k *known) readOpposites() map[[2]string]bool {
	pairs := map[[2]string]bool{}
	for pair := range strings.FieldsSeq(k.Opposites) {
		one, other, ok := strings.Cut(pair, "=")
		if !ok {
			panic("language: no pair of opposites: " + pair)
		}
		a, b := k.stem(text.Fold(one)), k.stem(text.Fold(other))
		pairs[[2]string{a, b}], pairs[[2]string{b, a}] = true, true
	}
	return pairs
}
