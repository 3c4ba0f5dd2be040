package points

import (
	"cmp"
	"math"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"corpulan/core/corpus"
	"corpulan/core/reading"
	"corpulan/core/stats"
	"corpulan/core/text"
)

// Bounds of what is compared, all our own.
const (
	fewestWords = 6     // of a sentence that states something
	maxWords    = 45    // longer ones are lists or badly cut
	maxCompared = 6_000 // sentences of a field; a hundred guides of 2,000 words have some 10,000
	fewestStems = 3     // different content words
)

// sentence is one that may be a point.
type sentence struct {
	doc, section int
	text         string
	stems        []string
	vector       stats.Vector
	figures      []corpus.Figure
	names        []string // of its stems, those written with a capital, where nouns have none
	about        []string // of its stems, those that head sections of several pages
	under        []string // those of the heading that it stands under
	personal     bool     // the writer speaks of themselves
	whole        bool     // it begins and ends as a sentence does
}

// sentencesOf are the sentences of a field that state something, in its order; of each page as many as its
// share of maxCompared.
func sentencesOf(f *corpus.Field) []sentence {
	idf := f.SectionIDF()
	most := max(maxCompared/max(len(f.Docs), 1), 1)
	heads := headsSections(f)
	var list []sentence
	for doc, d := range f.Docs {
		from := len(list)
		for i := range d.Sentences {
			if len(list)-from >= most {
				break
			}
			s := &d.Sentences[i]
			if s.Heading || s.Again || s.Foreign || s.Kind == reading.LineCode || !states(s) {
				continue
			}
			one := sentence{doc: doc, section: s.Section, text: strings.TrimSpace(s.Text), figures: s.Figures(f.Language)}
			count := map[string]float64{}
			for k, t := range s.Tokens {
				one.personal = one.personal || f.Language.IsFirstPerson(t.Folded)
				if !t.Stop && !t.Number && len(t.Stem) > 1 {
					one.stems = append(one.stems, t.Stem)
					if k > 0 && t.Capital && !f.Language.NounsHaveCapitals {
						one.names = append(one.names, t.Stem)
					}
					count[t.Stem]++
				}
			}
			if len(count) < fewestStems {
				continue
			}
			first, _ := utf8.DecodeRuneInString(strings.TrimLeft(one.text, "¿¡“\"«"))
			one.whole = unicode.IsUpper(first) && text.Ends(one.text, ".!")
			var weights []stats.Weighted
			for stem, n := range count {
				weights = append(weights, stats.Weighted{Stem: stem, Weight: (1 + math.Log(n)) * idf(stem)})
			}
			one.vector = stats.NewVector(weights)
			one.about = only(one.stems, heads)
			one.under = only(f.Language.ContentStems(d.Reading.Sections[s.Section].Heading), heads)
			list = append(list, one)
		}
	}
	return list
}

// neighbour is a sentence of another page that says the same.
type neighbour struct {
	at    int
	alike float64
}

// neighboursOf are for each sentence the most alike of each other page that say the same as it, and those
// that would but for a figure, in the order of the pages.
func neighboursOf(f *corpus.Field, list []sentence) (same, against [][]neighbour) {
	vectors := make([]stats.Vector, len(list))
	for i, s := range list {
		vectors[i] = s.vector
	}
	same, against = make([][]neighbour, len(list)), make([][]neighbour, len(list))
	best := func(near [][]neighbour, i, j int, cosine float64) {
		at := slices.IndexFunc(near[i], func(n neighbour) bool { return list[n.at].doc == list[j].doc })
		switch {
		case at < 0:
			near[i] = append(near[i], neighbour{j, cosine})
		case near[i][at].alike < cosine:
			near[i][at] = neighbour{j, cosine}
		}
	}
	stats.EachCosine(vectors, func(i, j int, cosine float64) {
		if cosine < butFor || list[i].doc == list[j].doc {
			return
		}
		near, words := same, shared(f, list[i], list[j])
		if x, _, differ := apart(list[i], list[j]); differ {
			if x.Per != "" { // both count the same by the same
				words++
			}
			if near = against; !sameSubject(list[i], list[j]) || words < fewShared {
				return
			}
		} else if cosine < saysSame || words < fewShared || words == fewShared && cosine < surely {
			return
		}
		best(near, i, j, cosine)
		best(near, j, i, cosine)
	})
	for i := range list {
		for _, near := range [][]neighbour{same[i], against[i]} {
			slices.SortFunc(near, func(a, b neighbour) int { return cmp.Compare(a.at, b.at) })
		}
	}
	return same, against
}

// headsSections are the stems that stand in headings of two pages and more and are not the keyword's: what
// the sections of the field are about.
func headsSections(f *corpus.Field) map[string]bool {
	first, heads := map[string]int{}, map[string]bool{}
	for i, d := range f.Docs {
		for _, s := range d.Reading.Sections {
			for _, stem := range f.Language.ContentStems(s.Heading) {
				at, known := first[stem]
				if !known {
					first[stem] = i
				} else if at != i && !f.IsOfKeyword(stem) && !f.Language.Light(stem) {
					heads[stem] = true
				}
			}
		}
	}
	return heads
}

// only are those of some stems that are in a set, sorted, each once.
func only(stems []string, set map[string]bool) []string {
	list := slices.DeleteFunc(slices.Clone(stems), func(s string) bool { return !set[s] })
	slices.Sort(list)
	return slices.Compact(list)
}

// sameSubject tells whether the figures of two sentences can be of one thing: they are about the same, and
// do not stand under headings of different things ("with vinegar", "with citric acid").
func sameSubject(a, b sentence) bool {
	return slices.Equal(a.about, b.about) &&
		(len(a.under) == 0 || len(b.under) == 0 || slices.ContainsFunc(a.under, func(s string) bool { return slices.Contains(b.under, s) }))
}

// shared counts the content words that two sentences share, those of the keyword, names and light ones left
// out.
func shared(f *corpus.Field, a, b sentence) (n int) {
	for i, s := range a.stems {
		if slices.Contains(b.stems, s) && !slices.Contains(a.stems[:i], s) && !f.IsOfKeyword(s) && !f.Language.Light(s) && !slices.Contains(a.names, s) {
			n++
		}
	}
	return n
}

// states tells a sentence that states something from a label, a question and a list.
func states(s *corpus.Sentence) bool {
	n := len(s.Tokens)
	if n < fewestWords || n > maxWords || strings.HasSuffix(s.Text, "?") || strings.HasSuffix(s.Text, ":") {
		return false
	}
	return slices.ContainsFunc(s.Tokens, func(t corpus.Token) bool { return t.Stop }) && cmp.Compare(s.Text, strings.ToUpper(s.Text)) != 0
}
