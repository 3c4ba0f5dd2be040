package themes

import (
	"strings"

	"corpulan/core/corpus"
)

// Bounds of the parts of a compound, in letters. Our own.
const (
	shortestCompound = 8
	shortestFirst    = 3
	shortestLast     = 4
)

// compoundParts are the stems that the compounds of a field are made of, in languages that write them as
// one word: its last word, if the field has it by itself, and its first (after Koehn & Knight 2003, who
// part by the words of a corpus).
func compoundParts(f *corpus.Field) map[string][]string {
	links := f.Language.Between()
	if links == nil {
		return nil
	}
	have := map[string]bool{}
	for _, d := range f.Docs {
		for _, stems := range d.Sections {
			for s := range stems {
				if len(s) >= shortestLast {
					have[s] = true
				}
			}
		}
	}
	parts := map[string][]string{}
	for s := range have {
		if len(s) < shortestCompound {
			continue
		}
		for i := shortestFirst; i+shortestLast <= len(s) && parts[s] == nil; i++ { // the longest last word
			if !have[s[i:]] {
				continue
			}
			for _, link := range links {
				first, ok := strings.CutSuffix(s[:i], link)
				if !ok || len(first) < shortestFirst {
					continue
				}
				stem := f.Language.StemFolded(first)
				if have[stem] {
					parts[s] = []string{s[i:], stem}
					break
				}
				if f.Language.Rank(first) > 0 {
					parts[s] = []string{s[i:]}
					break
				}
			}
		}
	}
	return parts
}
