package entities

import (
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/lexicon"
	"corpulan/core/reading"
)

// A name that is written small is known by these bounds, all our own.
const (
	fewestSmall = 4  // uses
	shortest    = 4  // letters
	maxAsNoun   = .1 // share of its uses that only a noun or a verb has
	fewestAlone = .4 // share of its uses as a phrase by itself
)

// smallNames finds names that are written in small letters ("ffmpeg"): words that no
// dictionary and no list of the language has, on two pages at least, that take no
// article and have no plural.
func smallNames(t *trimmer, known []*named) []*named {
	f := t.Field
	if !f.Language.Senses { // elsewhere no dictionary tells what is a word
		return nil
	}
	taken := map[string]bool{}
	for _, e := range known {
		taken[e.Key] = true
	}
	uses := map[string]*named{}
	var order []*named
	for i, d := range f.Docs {
		for n := range d.Sentences {
			s := &d.Sentences[n]
			if s.Heading || s.Foreign || s.Kind == reading.LineCode {
				continue
			}
			for j, tok := range s.Tokens {
				if tok.Capital || tok.Number || tok.Stop || len(tok.Folded) < shortest || taken[tok.Folded] || !tok.WordStart || !t.isSmallName(tok.Folded) || inCodeWord(s, j) {
					continue
				}
				w := s.Text[tok.Start:tok.End]
				if strings.ContainsAny(w, "'’._") || j+1 < len(s.Tokens) && !s.Tokens[j+1].WordStart {
					continue
				}
				e := uses[tok.Folded]
				if e == nil {
					e = &named{Entity: Entity{Key: tok.Folded, Counts: make([]int, len(f.Docs))}, words: []string{w}, shapes: map[string]int{}}
					uses[tok.Folded] = e
					order = append(order, e)
				}
				e.saw(mention{doc: i, sentence: s, from: j, to: j + 1, words: []string{w}}, w)
			}
		}
	}
	return slices.DeleteFunc(order, func(e *named) bool {
		e.count(f)
		return e.Pages < 2 || e.Mentions < fewestSmall || t.isCode(e)
	})
}

// isSmallName tells a word that no list has and that the field treats as no noun.
func (t *trimmer) isSmallName(folded string) bool {
	if corpus.IsWord(folded) || t.Language.Rank(folded) > 0 {
		return false
	}
	if _, ok := lexicon.KindOf(folded); ok || lexicon.IsTitle(folded) {
		return false
	}
	for _, end := range []string{"s", "ing", "ed", "ly", "proof", "less", "able"} {
		if strings.HasSuffix(folded, end) {
			return false
		}
	}
	c := t.DistributionOf(folded)
	uses := float64(c.Count)
	return c.Count >= fewestSmall && float64(c.Measures+c.Acts+c.Predicates+t.determined[folded]) <= maxAsNoun*uses && float64(t.alone[folded]) >= fewestAlone*uses &&
		t.DistributionOf(folded+"s").Count == 0
}
