// Package themes finds the matters that sections of several pages are about:
//
//   - find.go      the themes of a field
//   - headings.go  the headings that are compared, and by what
//   - likeness.go  how alike two sections are
//   - label.go     what a theme is called
//   - byhand.go    headings that a person has moved, and names they have given
//   - coverage.go  how fully pages treat a theme
package themes

import (
	"cmp"
	"context"
	"math"
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/house"
	"corpulan/core/message"
	"corpulan/core/stats"
	"corpulan/core/text"
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

// sameTheme is the mean likeness from which groups of sections are one theme. Our own:
// the best of a row of values; see docs/evaluation.md.
const sameTheme = 0.35

// Find groups the headings of the field, then as a person has moved them. notes say what was left out. It stops,
// with what it has, when ctx ends.
func Find(ctx context.Context, f *corpus.Field, taught *house.Lexicon) (themes []Theme, notes []message.Message) {
	heads, notes := headingVectors(f)
	vectors := jointVectors(f, heads)
	alike := likeness(heads, vectors)
	groups := stats.AverageLink(ctx, len(heads), sameTheme, alike)
	groups = byHand(f, heads, groups, taught)
	inTheme := make([]int, len(heads))
	for _, g := range groups {
		for _, h := range g {
			inTheme[h] = len(themes)
		}
		t := themeOf(f, heads, g)
		if name := nameByHand(f, heads, g, taught); name != "" {
			t.Label, t.Generic = name, false
		}
		themes = append(themes, t)
	}
	for i, g := range groups {
		under := map[int]int{}
		for _, h := range g {
			if p := heads[h].parent; p >= 0 && inTheme[p] != i {
				under[inTheme[p]]++
			}
		}
		for t, n := range under {
			if 2*n > len(g) {
				themes[i].Parent = themes[t].Key
			}
		}
	}
	cover(f, themes, groups, vectors)
	slices.SortStableFunc(themes, func(a, b Theme) int {
		return cmp.Or(cmp.Compare(b.Share, a.Share), b.Pages-a.Pages, len(b.Members)-len(a.Members), cmp.Compare(a.Place, b.Place), strings.Compare(a.Key, b.Key))
	})
	if themes == nil {
		themes = []Theme{}
	}
	return themes, notes
}

func themeOf(f *corpus.Field, heads []headingVector, group []int) Theme {
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
	label := medoid(heads, group)
	t.Label = quietCase(strings.TrimRight(text.WithoutNumber(heads[label].text), ".:"))
	t.Key = corpus.Key(f.Language.ContentStems(t.Label))
	t.Generic = f.Language.IsGeneric(t.Label) && !aboutKeyword(f, t.Label)
	t.Place = stats.RangeOf(places).Median
	t.Level = int(math.Round(stats.RangeOf(levels).Median))
	t.Length = stats.RangeOf(lengths)
	t.Terms = leadOf(heads, group)
	return t
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
