// Package themes finds the matters that sections of several pages are about:
//
//   - find.go      the themes of a field
//   - headings.go  the headings that are compared, and by what
//   - matters.go   general matters that headings name, whatever their subject
//   - likeness.go  how alike two sections are by their words
//   - compounds.go words within words
//   - judge.go     whether two sections treat one matter
//   - matrix.go    what sections are to each other
//   - label.go     what a theme is called
//   - naming.go    groups of terms, by the themes their uses stand in
//   - byhand.go    headings that a person has moved, and names they have given
//   - coverage.go  how fully pages treat a theme
package themes

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/house"
	"corpulan/core/language"
	"corpulan/core/message"
	"corpulan/core/stats"
)

// Theme is a group of headings from several pages that say the same thing.
type Theme struct {
	Key     string         `json:"key"`   // stems of the label
	Label   string         `json:"label"` // the heading most like all the others
	Pages   int            `json:"pages"`
	Share   float64        `json:"share"` // of the field, pages near the keyword counting more
	Sources []int          `json:"sources"`
	Counts  []int          `json:"counts"` // headings per page, in the order of Evidence.Sources
	Place   float64        `json:"place"`  // median of where its sections begin, 0 to 1
	Level   int            `json:"level"`  // median heading level
	Length  stats.Range    `json:"length"` // words below the heading, sub-sections included
	Members []ThemeHeading `json:"members"`
	Parent  string         `json:"parent,omitempty"` // key of the theme most of its headings stand under
	Terms   []string       `json:"terms"`            // stems that lead its sections
	Generic bool           `json:"generic,omitempty"`

	Coverage []Cover `json:"coverage"` // of the pages that treat it, in rank order
}

// ThemeHeading is one heading of a theme.
type ThemeHeading struct {
	Rank    int    `json:"rank"`
	Section int    `json:"section"`
	Text    string `json:"text"`
	Level   int    `json:"level"`
	Words   int    `json:"words"` // sub-sections included
}

// Recommended tells whether a theme may be proposed for an outline.
func (t Theme) Recommended() bool { return t.Pages >= 2 && !t.Generic }

// sameTheme are the mean log-odds from which groups of sections are one theme. Our own:
// the best of a row of values; see docs/evaluation.md.
const sameTheme = -1.7

// sameName are the mean log-odds from which two groups that would have one name are one theme. Our own.
const sameName = -3.0

// joinRepeats joins groups that would have the same name.
func joinRepeats(f *corpus.Field, p *pairs, judge *Judge, groups [][]int) [][]int {
	at := map[string]int{} // kept groups by their names
	var kept [][]int
	for _, g := range groups {
		name := keyOf(f.Language, label(f, p, g))
		i, known := at[name]
		if !known || p.meanOdds(judge, kept[i], g) < sameName {
			if !known {
				at[name] = len(kept)
			}
			kept = append(kept, g)
			continue
		}
		kept[i] = slices.Sorted(slices.Values(append(slices.Clone(kept[i]), g...)))
	}
	return kept
}

// grouped joins sections that treat one matter. Those that only hold others are no part of any, but go
// where most of what they hold does.
func grouped(ctx context.Context, heads []headingVector, p *pairs, judge *Judge) [][]int {
	var own []int // numbers of the others
	for i, h := range heads {
		if !h.holds {
			own = append(own, i)
		}
	}
	groups := stats.AverageLink(ctx, len(own), sameTheme, func(i, j int) float64 { return p.odds(judge, own[i], own[j]) })
	at := make([]int, len(heads))
	for g, list := range groups {
		for k, i := range list {
			list[k] = own[i]
			at[own[i]] = g
		}
	}
	for i := len(heads) - 1; i >= 0; i-- { // the deepest first
		if !heads[i].holds {
			continue
		}
		held, most := map[int]int{}, 0
		at[i] = len(groups)
		for j := i + 1; j < len(heads) && heads[j].doc == heads[i].doc; j++ {
			if heads[j].parent == i {
				held[at[j]]++
				most++
			}
		}
		for g, n := range held {
			if 2*n > most {
				at[i] = g
			}
		}
		if at[i] == len(groups) {
			groups = append(groups, nil)
		}
		groups[at[i]] = append(groups[at[i]], i)
	}
	for _, g := range groups {
		slices.Sort(g)
	}
	return groups
}

// Find groups the headings of the field but those that are about things of a list (by rank and section), then as a person
// has moved them. notes say what was left out. It stops,
// with what it has, when ctx ends.
func Find(ctx context.Context, f *corpus.Field, taught *house.Lexicon, things map[[2]int]bool) (themes []Theme, notes []message.Message) {
	return Learned.Find(ctx, f, taught, things)
}

// Find is Find by a judge of its own, for measuring.
func (judge *Judge) Find(ctx context.Context, f *corpus.Field, taught *house.Lexicon, things map[[2]int]bool) (themes []Theme, notes []message.Message) {
	heads, notes := headingVectors(f, things)
	vectors := jointVectors(f, heads)
	p := pairsOf(f, heads, vectors)
	groups := joinRepeats(f, p, judge, grouped(ctx, heads, p, judge))
	groups = byHand(f, heads, groups, taught)
	inTheme := make([]int, len(heads))
	for _, g := range groups {
		for _, h := range g {
			inTheme[h] = len(themes)
		}
		t := themeOf(f, p, g)
		if name := nameByHand(f, heads, g, taught); name != "" {
			t.Label, t.Generic = name, false
		}
		themes = append(themes, t)
	}
	cover(f, themes, groups, vectors)
	tellApart(f, p, themes, groups)
	for i, t := range parents(p, judge, groups, inTheme) {
		if t >= 0 {
			themes[i].Parent = themes[t].Key
		}
	}
	slices.SortStableFunc(themes, func(a, b Theme) int {
		return cmp.Or(cmp.Compare(b.Share, a.Share), b.Pages-a.Pages, len(b.Members)-len(a.Members), cmp.Compare(a.Place, b.Place), strings.Compare(a.Key, b.Key))
	})
	if themes == nil {
		themes = []Theme{}
	}
	return themes, notes
}

// fewestUnder is under how many headings of another theme the sections of one stand at least that is a part of it,
// where it has more than one section. Our own.
const fewestUnder = 2

// parents are the themes that others are part of, -1 for none: those under whose headings most sections of a theme
// stand that stand under any. A heading that only holds others speaks for the theme it is most like.
func parents(p *pairs, judge *Judge, groups [][]int, inTheme []int) []int {
	holds := map[int]int{} // theme that a heading speaks for which only holds others
	for i, h := range p.heads {
		if !h.holds || len(groups[inTheme[i]]) > 1 {
			continue
		}
		best := sameTheme
		for t, g := range groups {
			if t == inTheme[i] || len(g) < fewestUnder {
				continue
			}
			if odds := p.meanOdds(judge, []int{i}, g); odds > best {
				best, holds[i] = odds, t
			}
		}
	}
	list := make([]int, len(groups))
	for i, g := range groups {
		list[i] = -1
		under, all := map[int]int{}, 0
		for _, h := range g {
			up := p.heads[h].parent
			if up < 0 || inTheme[up] == i {
				continue
			}
			all++
			t, ok := holds[up]
			if !ok {
				t = inTheme[up]
			}
			if t != i {
				under[t]++
			}
		}
		for t, n := range under {
			if 2*n > all && (n >= fewestUnder || n == len(g)) {
				list[i] = t
			}
		}
	}
	return list
}

// tellApart gives themes of one name names of their own: one that goes by its general matter by its plainest
// heading, and if that is taken by a number.
func tellApart(f *corpus.Field, p *pairs, themes []Theme, groups [][]int) {
	order := make([]int, len(themes))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(themes[b].Share, themes[a].Share) })
	taken := map[string]bool{}
	for _, i := range order {
		t := &themes[i]
		if taken[t.Key] {
			if own := p.nameIn(f, groups[i], medoid(f, p, groups[i])); own != t.Label {
				t.Label = own
				t.Key = keyOf(f.Language, own)
			}
		}
		key := t.Key
		for n := 2; taken[key]; n++ {
			key = fmt.Sprintf("%s %d", t.Key, n)
		}
		t.Key = key
		taken[key] = true
	}
}

func themeOf(f *corpus.Field, p *pairs, group []int) Theme {
	heads := p.heads
	t := Theme{Counts: make([]int, len(f.Docs))}
	var places, levels, lengths []float64
	for _, i := range group {
		h := heads[i]
		r := f.Docs[h.doc].Reading
		t.Members = append(t.Members, ThemeHeading{f.Ranks[h.doc], h.section, h.text, h.level, h.words})
		if t.Counts[h.doc]++; t.Counts[h.doc] == 1 {
			t.Pages++
			t.Sources = append(t.Sources, f.Ranks[h.doc])
		}
		places = append(places, float64(r.Sections[h.section].Offset)/float64(max(r.Counts.Words, 1)))
		levels = append(levels, float64(h.level))
		lengths = append(lengths, float64(h.words))
	}
	slices.Sort(t.Sources)
	t.Share = f.Nearness().Share(func(page int) bool { return t.Counts[page] > 0 })
	t.Label = label(f, p, group)
	t.Key = keyOf(f.Language, t.Label)
	t.Generic = f.Language.IsGeneric(t.Label) && !aboutKeyword(f, t.Label)
	t.Place = stats.RangeOf(places).Median
	t.Level = int(math.Round(stats.RangeOf(levels).Median))
	t.Length = stats.RangeOf(lengths)
	t.Terms = leadOf(heads, group)
	return t
}

// keyOf is what a theme of a name goes by: the stems of its content words, of all words where it has none.
func keyOf(lang *language.Language, name string) string {
	if stems := lang.ContentStems(name); len(stems) > 0 {
		return corpus.Key(stems)
	}
	return lang.PhraseKey(name)
}

// aboutKeyword tells a heading that has words of the keyword: "Comments" is a matter of
// its own where comments are the subject.
func aboutKeyword(f *corpus.Field, heading string) bool {
	common := f.KeywordStems()
	return slices.ContainsFunc(f.Language.ContentStems(heading), func(s string) bool { return common[s] })
}

// leadOf is the twelve stems that lead the sections of a group together.
func leadOf(heads []headingVector, group []int) []string {
	total := map[string]float64{}
	for _, i := range group {
		for _, s := range heads[i].lead {
			total[s.Stem] += s.Weight
		}
	}
	var list []stats.Weighted
	for s, w := range total {
		list = append(list, stats.Weighted{Stem: s, Weight: w})
	}
	slices.SortFunc(list, func(a, b stats.Weighted) int {
		return cmp.Or(cmp.Compare(b.Weight, a.Weight), strings.Compare(a.Stem, b.Stem))
	})
	stems := []string{}
	for _, s := range list[:min(len(list), 12)] {
		stems = append(stems, s.Stem)
	}
	return stems
}
