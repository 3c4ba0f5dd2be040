package themes

import (
	"slices"

	"corpulan/core/corpus"
	"corpulan/core/language"
	"corpulan/core/text"
)

// named is what a heading names beside its subject.
type named struct {
	names  matters         // the general matters
	bare   language.Matter // the first of them, where nothing else is said
	beside []string        // stems of what else is said
}

// matters are a set of general matters, one bit each.
type matters uint64

// namer tells the general matters of headings.
type namer struct {
	f      *corpus.Field
	common map[string]bool
}

// allOver is in how many of its sections a stem stands that says nothing of any. Our own.
const allOver = 0.35

// namerOf prepares for a field: what its keyword says, and what stands all over it, says nothing of a section.
func namerOf(f *corpus.Field) namer {
	with, sections := map[string]int{}, 0
	for _, d := range f.Docs {
		for _, stems := range d.Sections {
			sections++
			for s := range stems {
				with[s]++
			}
		}
	}
	n := namer{f, map[string]bool{}}
	for s, count := range with {
		if float64(count) > allOver*float64(sections) {
			n.common[s] = true
		}
	}
	return n
}

func (n namer) name(heading string) (x named) {
	list, words := n.f.Language.Matters(text.WithoutNumber(heading))
	said := make([]bool, len(words))
	first := language.Matter("")
	for _, m := range list {
		for _, w := range m.Words {
			said[w] = true
		}
		if m.Matter == language.Beside {
			continue
		}
		x.names |= 1 << m.Number
		if first == "" {
			first = m.Matter
		}
	}
	for i, w := range words {
		if said[i] || len(w) < 2 || isFigure(w) || n.f.Language.Stop(w) || n.f.Language.Light(w) {
			continue
		}
		if s := n.f.Language.StemFolded(w); !n.common[s] && !n.f.IsOfKeyword(s) && !slices.Contains(x.beside, s) {
			x.beside = append(x.beside, s)
		}
	}
	if len(x.beside) == 0 {
		x.bare = first
	}
	return x
}
