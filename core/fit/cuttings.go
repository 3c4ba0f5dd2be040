package fit

import (
	"corpulan/core/brief"
	"corpulan/core/corpus"
	"corpulan/core/language"
)

// usedStems is how much of a cutting's content words a passage must have for it to be used: in
// the words of the page or in others. Our own.
const usedStems = 0.7

// sentencesOfUse is how many sentences in a row a cutting may be spread over. Our own.
const sentencesOfUse = 3

// UsedCuttings tells which cuttings stand in a draft, by their numbers: some sentences in a
// row that have most of their content words.
func UsedCuttings(cuttings []brief.Cutting, draft *corpus.Doc, lang *language.Language) map[string]bool {
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
	for _, c := range cuttings {
		stems := map[string]bool{}
		for _, s := range lang.ContentStems(c.Text) {
			stems[s] = true
		}
		if len(stems) == 0 {
			continue
		}
		here := map[int]int{} // how many of the stems stand in the sentences from one on
		for s := range stems {
			last := -1 // the last window that has it already
			for _, i := range at[s] {
				for from := max(i-sentencesOfUse+1, last+1, 0); from <= i; from++ {
					here[from]++
					last = from
				}
			}
		}
		for _, n := range here {
			if float64(n) >= usedStems*float64(len(stems)) {
				used[c.ID] = true
				break
			}
		}
	}
	return used
}
