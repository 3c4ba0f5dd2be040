package fit

import (
	"slices"
	"strings"

	"corpulan/core/brief"
	"corpulan/core/corpus"
	"corpulan/core/language"
	"corpulan/core/text"
)

// usedStems is how much of a cutting's content words a passage must have for it to be used: in
// the words of the page or in others; of a fact's, whose figure must stand there, less will do. Our
// own.
const (
	usedStems     = 0.7 // our own
	usedFactStems = 0.5 // our own
)

// sentencesOfUse is how many sentences in a row a cutting may be spread over. Our own.
const sentencesOfUse = 3

// Used tells which cuttings of a brief, by their numbers, and which of its facts, by FactKey, stand in a
// draft: some sentences in a row that have most of their content words, and the figure of a fact.
func Used(b *brief.Brief, draft *corpus.Doc, lang *language.Language) map[string]bool {
	used := map[string]bool{}
	at := map[string][]int{} // sentences by stem, ascending
	for i := range draft.Sentences {
		if draft.Sentences[i].Heading {
			continue
		}
		for _, t := range draft.Sentences[i].Tokens {
			if l := at[t.Stem]; !t.Stop && (len(l) == 0 || l[len(l)-1] != i) {
				at[t.Stem] = append(l, i)
			}
		}
	}
	for _, x := range b.Cuttings {
		if len(passagesLike(lang.ContentStems(x.Text), usedStems, at)) > 0 {
			used[x.ID] = true
		}
	}
	for _, x := range b.Facts {
		if slices.ContainsFunc(passagesLike(lang.ContentStems(x.Text), usedFactStems, at), func(from int) bool {
			for i := from; i < min(from+sentencesOfUse, len(draft.Sentences)); i++ {
				if slices.ContainsFunc(draft.Sentences[i].Figures(lang), func(f corpus.Figure) bool { return hasFigure(x.Figures, f.Text) }) {
					return true
				}
			}
			return false
		}) {
			used[FactKey(x)] = true
		}
	}
	return used
}

// FactKey names a fact among what is used.
func FactKey(x brief.Fact) string { return brief.FactPrefix + x.Key }

func hasFigure(list []string, figure string) bool {
	bare := func(s string) string { return text.Fold(strings.Join(strings.Fields(s), "")) }
	return slices.ContainsFunc(list, func(s string) bool { return bare(s) == bare(figure) })
}

// passagesLike are the sentences from which on some in a row have a share of stems; at has the
// sentences with each stem.
func passagesLike(stems []string, share float64, at map[string][]int) []int {
	stems = slices.Compact(slices.Sorted(slices.Values(stems)))
	here := map[int]int{} // how many of the stems stand in the sentences from one on
	for _, s := range stems {
		last := -1 // the last window that has it already
		for _, i := range at[s] {
			for from := max(i-sentencesOfUse+1, last+1, 0); from <= i; from++ {
				here[from]++
				last = from
			}
		}
	}
	var list []int
	for from, n := range here {
		if float64(n) >= share*float64(len(stems)) {
			list = append(list, from)
		}
	}
	return list
}
