package change

import (
	"cmp"
	"math"
	"slices"

	"corpulan/core/address"
	"corpulan/core/demand"
	"corpulan/core/evidence"
	"corpulan/core/language"
	"corpulan/core/stats"
	"corpulan/core/themes"
	"corpulan/core/vocabulary"
)

// Side is a study as it is set beside another.
type Side struct {
	Evidence *evidence.Evidence
	Results  []Result // in rank order
}

// Pair is two studies side by side: are they one page or two?
type Pair struct {
	Shared  int          // of the first ten results of both
	Of      int          // how many of each were looked at: ten, or fewer
	One     bool         // they belong on one page, by the rule of shared results
	Pages   []SharedPage // that rank for both, the best first
	Terms   int          // recommended terms of both
	First   []Told       // terms that the first uses more, the strongest first
	Second  []Told
	Themes  []SharedTheme
	OnlyOne []themes.Theme // of two pages and more
	OnlyTwo []themes.Theme
}

// SharedPage is a page that ranks for both.
type SharedPage struct {
	URL, Title    string
	First, Second int
}

// SharedTheme is a theme that both fields have.
type SharedTheme struct{ First, Second themes.Theme }

// Told is a term that tells two fields apart.
type Told struct {
	Text     string
	Key      string
	First    int // uses
	Second   int
	G2       float64 // log-likelihood (Dunning 1993; Rayson & Garside 2000)
	LogRatio float64 // Hardie 2014
}

// Bounds of what is shown, our own, and the critical value of G² for p < .01 (Rayson & Garside
// 2000).
const (
	maxTold    = 25
	maxSpecial = 60
	critical   = 6.63
)

// Two sets two studies side by side.
func Two(a, b Side) Pair {
	p := Pair{}
	ten := func(s Side) (keys map[string]int) {
		keys = map[string]int{}
		n := 0
		for _, r := range s.Results {
			if r.Added {
				continue
			}
			if n++; n > demand.FirstResults {
				break
			}
			keys[address.Parse(r.URL).Key()] = r.Rank
		}
		p.Of = max(p.Of, min(n, demand.FirstResults))
		return keys
	}
	first, second := ten(a), ten(b)
	for key := range first {
		if _, ok := second[key]; ok && key != "" {
			p.Shared++
		}
	}
	p.One = p.Shared >= demand.FewestShared
	for _, x := range match(a.Results, b.Results) {
		if x.before != nil && x.after != nil && !x.before.Added && !x.after.Added {
			p.Pages = append(p.Pages, SharedPage{x.after.URL, x.after.title(), x.before.Rank, x.after.Rank})
		}
	}
	slices.SortStableFunc(p.Pages, func(x, y SharedPage) int { return cmp.Compare(x.First+x.Second, y.First+y.Second) })
	p.tellApart(a.Evidence, b.Evidence)
	p.shareThemes(a.Evidence, b.Evidence)
	return p
}

// Special are the terms that a field uses more than the others of its publication do, taken
// together: what is special to it, and not merely usual in what the publication gathers. Those
// with the strongest evidence stand first (log-likelihood; Rayson & Garside 2000). Told.Second
// counts the uses of all others.
func Special(e *evidence.Evidence, others []*evidence.Evidence) []Told {
	size, count := 0., map[string]int{}
	for _, o := range others {
		size += wordsOf(o)
		for _, t := range o.Terms {
			for _, k := range t.Keys {
				count[k] += t.Count
			}
		}
	}
	list := []Told{}
	if size == 0 {
		return list
	}
	own := wordsOf(e)
	for _, t := range e.Terms {
		if !t.Recommended() {
			continue
		}
		n := 0
		for _, k := range t.Keys {
			n = max(n, count[k])
		}
		if g := stats.LogLikelihood(float64(t.Count), float64(n), own, size); g >= critical {
			list = append(list, Told{Text: t.Text, Key: t.Key, First: t.Count, Second: n, G2: g, LogRatio: stats.LogRatio(float64(t.Count), float64(n), own, size)})
		}
	}
	slices.SortStableFunc(list, func(x, y Told) int { return cmp.Compare(y.G2, x.G2) })
	return list[:min(len(list), maxSpecial)]
}

// wordsOf is how many words the pages of a field have.
func wordsOf(e *evidence.Evidence) float64 {
	n := 0
	for _, s := range e.Sources {
		n += s.Words
	}
	return float64(n)
}

// tellApart compares the vocabularies.
func (p *Pair) tellApart(a, b *evidence.Evidence) {
	sizeA, sizeB := wordsOf(a), wordsOf(b)
	other := map[string]vocabulary.Term{}
	for _, t := range b.Terms {
		for _, k := range t.Keys {
			other[k] = t
		}
	}
	seen := map[string]bool{}
	add := func(t vocabulary.Term, countA, countB int, pages int) {
		if seen[t.Key] || pages < 2 || t.Flag != "" || t.YieldsTo != "" {
			return
		}
		seen[t.Key] = true
		g := math.Abs(stats.LogLikelihood(float64(countA), float64(countB), sizeA, sizeB))
		if g < critical {
			return
		}
		told := Told{Text: t.Text, Key: t.Key, First: countA, Second: countB, G2: g, LogRatio: stats.LogRatio(float64(countA), float64(countB), sizeA, sizeB)}
		if told.LogRatio > 0 {
			p.First = append(p.First, told)
		} else {
			p.Second = append(p.Second, told)
		}
	}
	for _, t := range a.Terms {
		o, ok := other[t.Key]
		if ok && t.Recommended() && o.Recommended() {
			p.Terms++
		}
		add(t, t.Count, o.Count, max(t.Pages, o.Pages))
		if ok {
			seen[o.Key] = true
		}
	}
	for _, t := range b.Terms {
		add(t, 0, t.Count, t.Pages)
	}
	for _, list := range []*[]Told{&p.First, &p.Second} {
		slices.SortStableFunc(*list, func(x, y Told) int { return cmp.Compare(y.G2, x.G2) })
		*list = (*list)[:min(len(*list), maxTold)]
	}
}

// Two themes are one where their labels share half of their words, or where a third of the
// headings of the smaller are headings of the other. Our own.
const (
	sameMatter   = 0.5
	sameHeadings = 1. / 3
)

// shareThemes tells which themes of two pages and more both fields have.
func (p *Pair) shareThemes(a, b *evidence.Evidence) {
	lang := language.For(a.Language)
	type about struct {
		theme    themes.Theme
		headings map[string]bool
		stems    map[string]bool
		taken    bool
	}
	list := func(e *evidence.Evidence) (all []about) {
		for _, t := range e.Themes {
			if !t.Recommended() {
				continue
			}
			x := about{t, map[string]bool{}, map[string]bool{}, false}
			for _, m := range t.Members {
				x.headings[lang.PhraseKey(m.Text)] = true
			}
			for _, s := range lang.ContentStems(t.Label) {
				x.stems[s] = true
			}
			all = append(all, x)
		}
		return all
	}
	first, second := list(a), list(b)
	type alike struct {
		i, j  int
		score float64
	}
	var pairs []alike
	for i, x := range first {
		for j, y := range second {
			words, headings := jaccard(x.stems, y.stems), within(x.headings, y.headings)
			if words >= sameMatter || headings >= sameHeadings {
				pairs = append(pairs, alike{i, j, words + headings})
			}
		}
	}
	slices.SortStableFunc(pairs, func(x, y alike) int { return cmp.Compare(y.score, x.score) })
	with := make([]int, len(first))
	for i := range with {
		with[i] = -1
	}
	for _, x := range pairs {
		if with[x.i] < 0 && !second[x.j].taken {
			with[x.i], second[x.j].taken = x.j, true
		}
	}
	for i, x := range first {
		if with[i] < 0 {
			p.OnlyOne = append(p.OnlyOne, x.theme)
		} else {
			p.Themes = append(p.Themes, SharedTheme{x.theme, second[with[i]].theme})
		}
	}
	for _, x := range second {
		if !x.taken {
			p.OnlyTwo = append(p.OnlyTwo, x.theme)
		}
	}
}

// within is the share of the smaller set that the other has.
func within(a, b map[string]bool) float64 {
	both := 0
	for k := range a {
		if b[k] {
			both++
		}
	}
	return float64(both) / float64(max(min(len(a), len(b)), 1))
}

func jaccard(a, b map[string]bool) float64 {
	both := 0
	for k := range a {
		if b[k] {
			both++
		}
	}
	if both == 0 {
		return 0
	}
	return float64(both) / float64(len(a)+len(b)-both)
}
