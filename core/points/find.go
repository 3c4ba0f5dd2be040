// Package points finds what several pages of a field state about one matter: sentences
// of a theme's sections, those that say the same joined, the most central first.
//
//   - find.go     the points of a theme
//   - gist.go     one page in five sentences
//   - lexrank.go  which sentences are central
//   - figures.go  whether pages agree on their figures
package points

import (
	"cmp"
	"context"
	"math"
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/reading"
	"corpulan/core/stats"
)

// Point is a statement that several pages make, in the words of one of them.
type Point struct {
	Key      string   `json:"key"` // its content stems
	Text     string   `json:"text"`
	Rank     int      `json:"rank"`    // of the page whose words they are
	Section  int      `json:"section"` // of that page
	Ranks    []int    `json:"ranks"`   // of the pages that say the same
	Says     []Saying `json:"says"`    // all of them, the words above first
	Disputed []Spread `json:"disputed,omitempty"`
}

// Saying is one page's sentence.
type Saying struct {
	Rank    int    `json:"rank"`
	Section int    `json:"section"`
	Text    string `json:"text"`
}

// Place is a section of a page: the number of the document in the field, and of its
// section.
type Place struct{ Doc, Section int }

// Bounds, all our own.
const (
	fewestWords  = 6   // of a sentence that states something
	maxWords     = 45  // longer ones are lists or badly cut
	maxSentences = 200 // of a theme that are compared
	same         = 0.3 // mean cosine of sentences that say the same
	maxPoints    = 5   // of a theme
	relevance    = 0.7 // against novelty, in the order of the points
)

// sentence is one that may be a point.
type sentence struct {
	doc, section int
	text         string
	stems        []string
	vector       stats.Vector
	figures      []corpus.Figure
	personal     bool // the writer speaks of themselves
}

// Of finds the points of one theme, given by its sections.
func Of(ctx context.Context, f *corpus.Field, places []Place, idf func(stem string) float64) []Point {
	list := sentencesOf(f, places, idf)
	if len(list) < 2 {
		return []Point{}
	}
	vectors := make([]stats.Vector, len(list))
	for i, s := range list {
		vectors[i] = s.vector
	}
	central := lexRank(vectors)
	groups := stats.AverageLink(ctx, len(list), same, func(i, j int) float64 {
		if list[i].doc == list[j].doc {
			return 0 // a page does not bear itself out
		}
		return stats.Cosine(list[i].vector, list[j].vector)
	})
	type candidate struct {
		point  Point
		vector stats.Vector
		score  float64
	}
	var found []candidate
	for _, g := range groups {
		best := g[0]
		score := 0.0
		pages := map[int]bool{}
		for _, i := range g {
			pages[list[i].doc] = true
			score += central[i]
			if better(list, central, i, best) {
				best = i
			}
		}
		if len(pages) < 2 {
			continue
		}
		if list[best].personal { // nobody says it plainly
			score /= 2
		}
		found = append(found, candidate{pointOf(f, list, g, best), list[best].vector, score})
	}
	// Maximal marginal relevance (Carbonell & Goldstein 1998): the most central that is
	// least like what stands already.
	highest := 0.0
	for _, c := range found {
		highest = max(highest, c.score)
	}
	points := []Point{}
	var taken []stats.Vector
	for len(points) < maxPoints && len(found) > 0 {
		at, most := 0, math.Inf(-1)
		for i, c := range found {
			like := 0.0
			for _, t := range taken {
				like = max(like, stats.Cosine(c.vector, t))
			}
			if m := relevance*c.score/highest - (1-relevance)*like; m > most+tie {
				at, most = i, m
			}
		}
		points, taken = append(points, found[at].point), append(taken, found[at].vector)
		found = slices.Delete(found, at, at+1)
	}
	return points
}

// tie is what two scores may differ by and be the same: well above rounding, our own.
const tie = 1e-9

// usualWords is how long a statement is that reads well, in content words: our own.
const usualWords = 9

// better tells which of two sentences of a group says it best: the more central, with
// those far from a usual length behind, and those in which a writer speaks of themselves
// well behind: by four, our own.
func better(list []sentence, central []float64, a, b int) bool {
	worth := func(i int) float64 {
		if list[i].personal {
			return central[i] / 4 / (1 + math.Abs(float64(len(list[i].stems)-usualWords))/usualWords)
		}
		return central[i] / (1 + math.Abs(float64(len(list[i].stems)-usualWords))/usualWords)
	}
	return worth(a) > worth(b)+tie
}

func pointOf(f *corpus.Field, list []sentence, group []int, best int) Point {
	s := list[best]
	stems := slices.Compact(slices.Sorted(slices.Values(s.stems)))
	p := Point{Key: corpus.Key(stems), Text: s.text, Rank: f.Ranks[s.doc], Section: s.section, Ranks: []int{}, Says: []Saying{{f.Ranks[s.doc], s.section, s.text}}}
	var all []sentence
	for _, i := range group {
		all = append(all, list[i])
		if i != best {
			p.Says = append(p.Says, Saying{f.Ranks[list[i].doc], list[i].section, list[i].text})
		}
		p.Ranks = append(p.Ranks, f.Ranks[list[i].doc])
	}
	slices.Sort(p.Ranks)
	p.Ranks = slices.Compact(p.Ranks)
	p.Disputed = disputed(f, all)
	return p
}

func sentencesOf(f *corpus.Field, places []Place, idf func(string) float64) []sentence {
	in := map[Place]bool{}
	docs := map[int]bool{}
	for _, p := range places {
		in[p], docs[p.Doc] = true, true
	}
	var list []sentence
	for _, doc := range slices.Sorted(keysOf(docs)) {
		d := f.Docs[doc]
		for i := range d.Sentences {
			s := &d.Sentences[i]
			if s.Heading || s.Again || s.Foreign || s.Kind == reading.LineCode || !in[Place{doc, s.Section}] || !states(s) {
				continue
			}
			one := sentence{doc: doc, section: s.Section, text: strings.TrimSpace(s.Text), figures: s.Figures(f.Language)}
			count := map[string]float64{}
			for _, t := range s.Tokens {
				one.personal = one.personal || f.Language.IsFirstPerson(t.Folded)
				if !t.Stop && !t.Number && len(t.Stem) > 1 {
					one.stems = append(one.stems, t.Stem)
					count[t.Stem]++
				}
			}
			if len(count) < 3 {
				continue
			}
			var weights []stats.Weighted
			for stem, n := range count {
				weights = append(weights, stats.Weighted{Stem: stem, Weight: (1 + math.Log(n)) * idf(stem)})
			}
			one.vector = stats.NewVector(weights)
			if list = append(list, one); len(list) == maxSentences {
				return list
			}
		}
	}
	return list
}

func keysOf(m map[int]bool) func(func(int) bool) {
	return func(yield func(int) bool) {
		for k := range m {
			if !yield(k) {
				return
			}
		}
	}
}

// states tells a sentence that states something from a label, a question and a list.
func states(s *corpus.Sentence) bool {
	n := len(s.Tokens)
	if n < fewestWords || n > maxWords || strings.HasSuffix(s.Text, "?") || strings.HasSuffix(s.Text, ":") {
		return false
	}
	return slices.ContainsFunc(s.Tokens, func(t corpus.Token) bool { return t.Stop }) && cmp.Compare(s.Text, strings.ToUpper(s.Text)) != 0
}
