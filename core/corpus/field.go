// Package corpus holds the pages of a field made ready for comparison, and what
// the finders of terms, names, questions and themes share:
//
//   - field.go        the field: pages in rank order
//   - doc.go          one page: sentences, tokens, what the site calls itself
//   - tokens.go      words, parts of words, addresses
//   - phrases.go      which phrases a page uses, and how often
//   - shape.go        which runs of words look like a term
//   - distribution.go     in what company words stand
//   - wordclass.go    what follows: nouns, verbs, adjectives
//   - capitals.go     which words the field writes with a capital
//   - nearness.go    how near pages and sections are to the keyword
//   - related.go     words that mean the same
//   - abbreviations.go  abbreviations with their long forms
//   - figures.go      figures with their units
//   - concordance.go  phrases and names in their sentences
//   - collocates.go  words that stand near a term; the order of a concordance
package corpus

import (
	"sync"

	"corpulan/core/language"
	"corpulan/core/stats"
)

// RankedPage is a kept page of the field.
type RankedPage struct {
	Rank int
	Doc  *Doc
	Of   int // what pages of a field have in common that are versions of one page; 0 for a page by itself
}

// Field is the kept pages of a study, together. Any number of goroutines may
// read it.
type Field struct {
	Docs     []*Doc
	Ranks    []int // of the docs
	Of       []int // of the docs, as Page.Of
	Language *language.Language
	Keyword  string
	Capitals map[string]float64 // see capitalsOf

	keyword      map[string]bool           // see KeywordStems
	rare         func() map[string]float64 // see SectionIDF
	near         func() *Nearness          // see Nearness
	priors       sync.Map                  // Class by folded word, as they are asked for
	distribution map[string]Distribution   // of content words over all docs, folded
}

// NewField brings pages together for a keyword of a market with this language. Any number of goroutines may read it.
func NewField(pages []RankedPage, market, keyword string) *Field {
	f := &Field{Docs: make([]*Doc, len(pages)), Ranks: make([]int, len(pages)), Of: make([]int, len(pages)), Language: language.For(market), Keyword: keyword}
	for i, p := range pages {
		f.Docs[i], f.Ranks[i], f.Of[i] = p.Doc, p.Rank, p.Of
	}
	f.keyword = stemsOf(f.Language, keyword)
	f.Capitals = capitalsOf(f.Docs)
	f.addCompany()
	f.rare = sync.OnceValue(f.sectionIDF)
	f.near = sync.OnceValue(func() *Nearness { return nearnessOf(f) })
	return f
}

// SectionIDF is the smooth inverse frequency of a stem among the sections of all pages (see
// stats.IDF). The frequencies are counted once.
func (f *Field) SectionIDF() func(stem string) float64 {
	rare := f.rare()
	return func(stem string) float64 {
		if w, ok := rare[stem]; ok {
			return w
		}
		return rare[""]
	}
}

func (f *Field) sectionIDF() map[string]float64 {
	with, all := map[string]int{}, 0
	for _, d := range f.Docs {
		for _, stems := range d.Sections {
			all++
			for s := range stems {
				with[s]++
			}
		}
	}
	rare := make(map[string]float64, len(with)+1)
	for s, n := range with {
		rare[s] = stats.IDF(n, all)
	}
	rare[""] = stats.IDF(0, all) // of a stem that stands in none
	return rare
}

// KeywordStems are the content stems of the keyword; not for changing.
func (f *Field) KeywordStems() map[string]bool { return f.keyword }

func stemsOf(l *language.Language, said string) map[string]bool {
	stems := map[string]bool{}
	for _, s := range l.ContentStems(said) {
		stems[s] = true
	}
	return stems
}

// SiteNames are the stem keys of what the sites of the field call themselves.
func (f *Field) SiteNames() map[string]bool {
	all := map[string]bool{}
	for _, d := range f.Docs {
		for k := range d.SiteNames {
			all[k] = true
		}
	}
	return all
}

// Sizes are the words of each page that terms are counted in, and their sum.
func (f *Field) Sizes() (sizes []float64, total float64) {
	sizes = make([]float64, len(f.Docs))
	for i, d := range f.Docs {
		sizes[i] = float64(d.Words - d.Repeated)
	}
	return sizes, stats.Sum(sizes)
}
