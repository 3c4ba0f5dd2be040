package vocabulary

import (
	"corpulan/core/corpus"
	"corpulan/core/stats"
)

func addCValues(terms []Term, list []*merged) {
	phrases := make([]stats.Phrase, len(list))
	for i, m := range list {
		phrases[i] = stats.Phrase{Words: m.stems, Frequency: float64(terms[i].Count)}
	}
	for i, c := range stats.CValues(phrases) {
		terms[i].CValue = c
	}
}

// A phrase that nearly always stands inside one longer term, on nearly all of its
// pages, yields to it; a single word already when it mostly does, since what is left
// then means the same ("pressure", of tyres). Our own bounds.
const (
	nearlyAlways = 0.8
	mostlyCount  = 0.5
	mostlyPages  = 0.7
)

// yield finds the terms that yield to longer ones, and notes them there as short forms.
func yield(terms []Term, list []*merged) {
	index := make(map[string]int, len(list))
	for i, m := range list {
		index[m.key] = i
	}
	inside := make([]int, len(terms)) // uses of a term within the commonest longer one
	for i, m := range list {
		if terms[i].Flag != "" || terms[i].Tier == Hapax {
			continue
		}
		for size := 1; size < len(m.stems); size++ {
			for at := 0; at+size <= len(m.stems); at++ {
				j, ok := index[corpus.Key(m.stems[at:at+size])]
				if !ok || terms[j].IsKeyword || terms[i].Count <= inside[j] {
					continue
				}
				count, pages := nearlyAlways, nearlyAlways
				if terms[j].Words == 1 && at > 0 {
					count, pages = mostlyCount, mostlyPages
				}
				if float64(terms[i].Count) >= count*float64(terms[j].Count) && float64(terms[i].Pages) >= pages*float64(terms[j].Pages) {
					terms[j].YieldsTo = terms[i].Key
					inside[j] = terms[i].Count
				}
			}
		}
	}
	for j := range terms {
		if to := terms[j].YieldsTo; to != "" && terms[j].Flag == "" {
			i := index[to]
			terms[i].Short = append(terms[i].Short, terms[j].Text)
		}
	}
}
