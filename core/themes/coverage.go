package themes

import (
	"cmp"
	"math"
	"slices"

	"corpulan/core/corpus"
	"corpulan/core/reading"
	"corpulan/core/stats"
)

// How says in what a page treats a theme.
type How string

// The ways.
const (
	InSection How = "section" // under a heading of its own
	InPassing How = "passage" // in a passage of a section about something else
)

// Cover is how a page treats a theme.
type Cover struct {
	Rank    int    `json:"rank"`
	How     How    `json:"how"`
	Words   int    `json:"words"`
	Section int    `json:"section"`        // of the page, the longest where there are several
	Text    string `json:"text,omitempty"` // of a passage, how it begins
}

// Bounds of passages, all our own but the first, which is measured: docs/evaluation.md.
const (
	likeTheme   = 0.25 // cosine of a passage to the theme
	passageLong = 40   // words: sentences are taken together until they have as many
	passageMin  = 15   // words, of what is left at a section's end
	themeStems  = 40   // that a theme is told by
	fewestLead  = 3    // of them that stand in a passage
	textLong    = 240  // bytes of a passage's text that are kept
)

// passage is a run of sentences of one section.
type passage struct {
	section, words int
	from, to       int // sentences, end exclusive
	vector         stats.Vector
}

// cover finds how the pages treat each theme of two pages and more: in sections of its
// own, and where a page has none, in the passage most like it. Themes of one page have
// their sections alone.
func cover(f *corpus.Field, themes []Theme, groups [][]int, vectors []stats.Vector) {
	type weight struct {
		theme int
		of    float64
	}
	index := map[string][]weight{} // stem -> themes that it tells
	for t := range themes {
		themes[t].Coverage = ownSections(themes[t])
		if themes[t].Pages < 2 {
			continue
		}
		for _, w := range centre(vectors, groups[t]) {
			index[w.Stem] = append(index[w.Stem], weight{t, w.Weight})
		}
	}
	sums, hits := make([]float64, len(themes)), make([]int, len(themes))
	for i, d := range f.Docs {
		best := make([]Cover, len(themes))
		like := make([]float64, len(themes))
		for _, p := range passagesOf(d, f.SectionIDF()) {
			clear(sums)
			clear(hits)
			for _, w := range p.vector {
				for _, x := range index[w.Stem] {
					sums[x.theme] += w.Weight * x.of
					hits[x.theme]++
				}
			}
			for t := range themes {
				if hits[t] < fewestLead || sums[t] < likeTheme || themes[t].Counts[i] > 0 {
					continue
				}
				if sums[t] > like[t] {
					like[t] = sums[t]
					best[t] = Cover{f.Ranks[i], InPassing, p.words, p.section, beginning(d, p)}
				}
			}
		}
		for t, c := range best {
			if like[t] > 0 {
				themes[t].Coverage = append(themes[t].Coverage, c)
			}
		}
	}
	for t := range themes {
		slices.SortStableFunc(themes[t].Coverage, func(a, b Cover) int { return cmp.Compare(a.Rank, b.Rank) })
	}
}

// Treated tells for each theme of a field how a text that is none of its pages treats it:
// in the passage most like it, with the heading that stands over it; no words where it does
// not.
func Treated(f *corpus.Field, list []Theme, d *corpus.Doc) []Cover {
	heads, _ := headingVectors(f, nil)
	vectors := jointVectors(f, heads)
	at := map[[2]int]int{} // rank and section -> heading
	for i, h := range heads {
		at[[2]int{f.Ranks[h.doc], h.section}] = i
	}
	passages := passagesOf(d, f.SectionIDF())
	covers := make([]Cover, len(list))
	for t, theme := range list {
		var group []int
		for _, m := range theme.Members {
			if i, ok := at[[2]int{m.Rank, m.Section}]; ok {
				group = append(group, i)
			}
		}
		if theme.Pages < 2 || len(group) == 0 {
			continue
		}
		c := centre(vectors, group)
		best := 0.0
		for _, p := range passages {
			if like := stats.Cosine(c, p.vector); like >= likeTheme && like > best {
				best = like
				covers[t] = Cover{How: InPassing, Words: p.words, Section: p.section, Text: d.Reading.Sections[p.section].Heading}
			}
		}
	}
	return covers
}

// ownSections are the pages that have the theme under headings of its own.
func ownSections(t Theme) []Cover {
	list := []Cover{}
	for _, m := range t.Members {
		i := slices.IndexFunc(list, func(c Cover) bool { return c.Rank == m.Rank })
		if i < 0 {
			list = append(list, Cover{Rank: m.Rank, How: InSection, Words: m.Words, Section: m.Section})
			continue
		}
		list[i].Words += m.Words
	}
	return list
}

// centre is the mean of a group's vectors, its heaviest stems, of length one.
func centre(vectors []stats.Vector, group []int) stats.Vector {
	sum := map[string]float64{}
	for _, i := range group {
		for _, w := range vectors[i] {
			sum[w.Stem] += w.Weight
		}
	}
	list := make([]stats.Weighted, 0, len(sum))
	for s, w := range sum {
		list = append(list, stats.Weighted{Stem: s, Weight: w})
	}
	slices.SortFunc(list, func(a, b stats.Weighted) int {
		return cmp.Or(cmp.Compare(b.Weight, a.Weight), cmp.Compare(a.Stem, b.Stem))
	})
	return stats.NewVector(list[:min(len(list), themeStems)])
}

// passagesOf cuts the sections of a page into passages of a few sentences.
func passagesOf(d *corpus.Doc, idf func(string) float64) []passage {
	var list []passage
	var p passage
	counts := map[string]int{}
	end := func(to int) {
		if p.words >= passageMin {
			weights := make([]stats.Weighted, 0, len(counts))
			for s, n := range counts {
				weights = append(weights, stats.Weighted{Stem: s, Weight: (1 + math.Log(float64(n))) * idf(s)})
			}
			p.to, p.vector = to, stats.NewVector(weights)
			list = append(list, p)
		}
		clear(counts)
	}
	section := -1
	for i := range d.Sentences {
		s := &d.Sentences[i]
		if s.Heading || s.Kind == reading.LineCode || s.Foreign {
			continue
		}
		if s.Section != section || p.words >= passageLong {
			end(i)
			section = s.Section
			p = passage{section: section, from: i}
		}
		for k := range s.Tokens {
			t := &s.Tokens[k]
			if t.WordStart {
				p.words++
			}
			if !t.Stop && !t.Number {
				counts[t.Stem]++
			}
		}
	}
	end(len(d.Sentences))
	return list
}

// beginning is how the text of a passage begins.
func beginning(d *corpus.Doc, p passage) string {
	text := ""
	for i := p.from; i < p.to && len(text) < textLong; i++ {
		if d.Sentences[i].Heading || d.Sentences[i].Section != p.section {
			continue
		}
		if text != "" {
			text += " "
		}
		text += d.Sentences[i].Text
	}
	return text
}
