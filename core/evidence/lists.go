package evidence

import (
	"cmp"
	"slices"
	"strings"
	"unicode"

	"corpulan/core/corpus"
	"corpulan/core/language"
	"corpulan/core/listed"
	"corpulan/core/message"
	"corpulan/core/points"
	"corpulan/core/stats"
	"corpulan/core/themes"
)

// What makes a field one of lists, our own: how many things a page lists that is one, how many pages do, and one in how many
// of the field's.
const (
	fewestOfList  = 3
	fewestLists   = 2
	partListing   = 3
	fewestNaming  = 2  // pages that name a thing which is proposed
	criterionLong = 80 // words of a section on a criterion that no page has a section on
	behind        = 0.8
)

// PicksKey is the key of the theme that the lists of the field are.
const PicksKey = "picks"

// listing counts the things that each page lists, by rank.
func (e *Evidence) listing() map[int]int {
	n := map[int]int{}
	for _, t := range e.Listed {
		for _, p := range t.Places {
			if p.Position > 0 {
				n[p.Rank]++
			}
		}
	}
	return n
}

// IsOfLists tells whether enough pages of the field list things.
func (e *Evidence) IsOfLists() bool {
	pages := 0
	for _, n := range e.listing() {
		if n >= fewestOfList {
			pages++
		}
	}
	return pages >= fewestLists && partListing*pages >= len(e.Sources)
}

// Shared tells a thing that may be proposed: more than one page names it, and one lists it.
func Shared(t listed.Thing) bool {
	return t.Pages >= fewestNaming && slices.ContainsFunc(t.Positions, func(n int) bool { return n > 0 })
}

// addLists adds to the themes of a field of lists what pages do not head as one matter: the list itself, and the criteria by
// which pages compare without a section on them.
func (e *Evidence) addLists(f *corpus.Field) {
	if !e.IsOfLists() {
		return
	}
	e.Themes = append(e.Themes, e.picks(f))
	for i := range e.Criteria {
		c := &e.Criteria[i]
		if c.Kind != listed.Measure {
			continue
		}
		if t := e.themeOf(f, c); t != nil {
			c.Theme = t.Key
		} else if c.Pages >= fewestNaming {
			t := e.criterionTheme(f, *c)
			c.Theme = t.Key
			e.Themes = append(e.Themes, t)
		}
	}
	slices.SortStableFunc(e.Themes, func(a, b themes.Theme) int {
		return cmp.Or(cmp.Compare(b.Share, a.Share), cmp.Compare(b.Pages, a.Pages))
	})
}

// picks is the theme that the lists of the field are, with the sections that are about one thing as its own.
func (e *Evidence) picks(f *corpus.Field) themes.Theme {
	t := themes.Theme{Key: PicksKey, Label: f.Language.NameOfPicks(), Level: 2, Terms: []string{}, Members: []themes.ThemeHeading{}}
	t.Label = cmp.Or(t.Label, "Our picks")
	type onPage struct{ first, words, longest, section int }
	on := map[int]*onPage{}
	for _, x := range e.Listed {
		for _, p := range x.Places {
			i := slices.Index(f.Ranks, p.Rank)
			if p.Position == 0 || p.By == listed.ByData || i < 0 {
				continue
			}
			s := f.Docs[i].Reading.Sections[p.Section]
			l := on[p.Rank]
			if l == nil {
				l = &onPage{first: s.Offset, section: p.Section}
				on[p.Rank] = l
			}
			l.first = min(l.first, s.Offset)
			if p.By == listed.ByHeading {
				n := f.Docs[i].Reading.WordsBelow(p.Section)
				l.words += n
				if n > l.longest {
					l.longest, l.section = n, p.Section
				}
				t.Members = append(t.Members, themes.ThemeHeading{Rank: p.Rank, Section: p.Section, Text: s.Heading, Level: s.Level, Words: n})
			}
		}
	}
	var places, lengths []float64
	for i, rank := range f.Ranks {
		l := on[rank]
		if l == nil {
			continue
		}
		places = append(places, float64(l.first)/float64(max(f.Docs[i].Reading.Counts.Words, 1)))
		if l.words > 0 {
			lengths = append(lengths, float64(l.words))
			t.Coverage = append(t.Coverage, themes.Cover{Rank: rank, How: themes.InSection, Words: l.words, Section: l.section})
		} else {
			t.Coverage = append(t.Coverage, themes.Cover{Rank: rank, How: themes.InPassing, Section: l.section})
		}
	}
	slices.SortStableFunc(t.Members, func(a, b themes.ThemeHeading) int {
		return cmp.Or(cmp.Compare(a.Rank, b.Rank), cmp.Compare(a.Section, b.Section))
	})
	t.Place, t.Length = stats.RangeOf(places).Median, stats.RangeOf(lengths)
	listing := e.listing()
	e.count(f, &t, func(rank int) int { return listing[rank] })
	return t
}

// count fills in which pages have a theme, and how often.
func (e *Evidence) count(f *corpus.Field, t *themes.Theme, times func(rank int) int) {
	t.Counts = make([]int, len(f.Ranks))
	near := f.Nearness()
	for i, rank := range f.Ranks {
		if t.Counts[i] = times(rank); t.Counts[i] > 0 {
			t.Pages++
			t.Sources = append(t.Sources, rank)
			t.Share += near.Pages[i]
		}
	}
	if near.All > 0 {
		t.Share /= near.All
	}
}

// themeOf is the theme that a criterion is a matter of: one that half of its headings name by all its words, else the one whose
// sections have most of its units and values; nil where no two pages treat it.
func (e *Evidence) themeOf(f *corpus.Field, c *listed.Criterion) *themes.Theme {
	signs := e.signsOf(f, c)
	best, most := -1, 0
	for i := range e.Themes {
		t := &e.Themes[i]
		if !t.Recommended() || t.Key == PicksKey || len(t.Members) == 0 {
			continue
		}
		named := 0
		has := map[int]bool{} // pages whose sections have a sign of it
		for _, m := range t.Members {
			if f.Language.NamesAll(m.Text, c.Said) {
				named++
			}
			if stems := f.Docs[slices.Index(f.Ranks, m.Rank)].Sections[m.Section]; hasSign(stems, signs) || hasAll(f, stems, c.Said) {
				has[m.Rank] = true
			}
		}
		if 2*named >= len(t.Members) {
			return t
		}
		if n := len(has); n >= fewestNaming && 2*n >= t.Pages && n > most {
			best, most = i, n
		}
	}
	if best < 0 {
		return nil
	}
	return &e.Themes[best]
}

// signsOf are the stems of a criterion's units and of its values that are no common words: "lumens", "IPX5".
func (e *Evidence) signsOf(f *corpus.Field, c *listed.Criterion) map[string]bool {
	signs := map[string]bool{}
	for _, t := range e.Listed {
		for _, a := range t.Attributes {
			if a.Key != c.Key {
				continue
			}
			for _, s := range f.Language.ContentStems(a.Text) {
				if strings.IndexFunc(s, unicode.IsLetter) >= 0 && (f.Language.IsUnit(s) || f.Language.Rank(s) == 0) && len(s) > 2 {
					signs[s] = true
				}
			}
			if a.Unit != "" {
				signs[f.Language.Stem(a.Unit)] = true
			}
		}
	}
	return signs
}

// hasAll tells a section with all words of one of a criterion's names.
func hasAll(f *corpus.Field, stems map[string]int, names []string) bool {
	return slices.ContainsFunc(names, func(name string) bool {
		want := f.Language.ContentStems(name)
		return len(want) > 1 && !slices.ContainsFunc(want, func(s string) bool { return stems[s] == 0 })
	})
}

func hasSign(stems map[string]int, signs map[string]bool) bool {
	for s := range signs {
		if stems[s] > 0 {
			return true
		}
	}
	return false
}

// criterionTheme is a theme for a criterion that pages compare by and head no section with.
func (e *Evidence) criterionTheme(f *corpus.Field, c listed.Criterion) themes.Theme {
	t := themes.Theme{Key: f.Language.PhraseKey(c.Name), Label: strings.ToUpper(c.Name[:1]) + c.Name[1:], Level: 3, Place: behind, Terms: []string{}, Members: []themes.ThemeHeading{},
		Length: stats.Range{Lower: criterionLong, Median: criterionLong, Upper: criterionLong}}
	if parent := e.choosing(f); parent != nil {
		t.Parent, t.Place = parent.Key, parent.Place
	}
	values := map[int][]string{}
	at := map[int]int{}
	for _, x := range e.Listed {
		for _, a := range x.Attributes {
			if a.Key == c.Key {
				values[a.Rank] = append(values[a.Rank], a.Text)
				at[a.Rank] = a.Section
			}
		}
	}
	for _, rank := range f.Ranks {
		if len(values[rank]) > 0 {
			t.Coverage = append(t.Coverage, themes.Cover{Rank: rank, How: themes.InPassing, Section: at[rank], Text: c.Name + ": " + strings.Join(values[rank][:min(len(values[rank]), 4)], ", ")})
		}
	}
	e.count(f, &t, func(rank int) int { return min(len(values[rank]), 1) })
	return t
}

// choosing is the theme of how to choose; nil where no two pages have one.
func (e *Evidence) choosing(f *corpus.Field) *themes.Theme {
	for i := range e.Themes {
		t := &e.Themes[i]
		if !t.Recommended() {
			continue
		}
		if e.namesChoosing(f, t.Label) {
			return t
		}
	}
	return nil
}

// namesChoosing tells a heading that names the matter of how to choose.
func (e *Evidence) namesChoosing(f *corpus.Field, heading string) bool {
	named, _ := f.Language.Matters(heading)
	return slices.ContainsFunc(named, func(m language.NamedMatter) bool { return m.Matter == language.Choose })
}

// usesOf are the uses that verdicts name, as points of the list: "best for town" with the things that pages name for it.
func (e *Evidence) usesOf() []points.Point {
	var list []points.Point
	for _, c := range e.Criteria {
		if c.Kind != listed.Use {
			continue
		}
		p := points.Point{Key: "use " + c.Key, Ranks: c.Ranks}
		by := map[string][]int{}
		var names []string
		for _, t := range e.Listed {
			for _, at := range t.Places {
				if at.Use != c.Key {
					continue
				}
				if by[t.Name] == nil {
					names = append(names, t.Name)
				}
				by[t.Name] = append(by[t.Name], at.Rank)
				p.Says = append(p.Says, points.Saying{Rank: at.Rank, Section: at.Section, Text: at.Verdict + ": " + at.Name})
			}
		}
		if len(names) == 0 {
			continue
		}
		slices.SortStableFunc(names, func(a, b string) int { return cmp.Compare(len(by[b]), len(by[a])) })
		p.Text = strings.ToUpper(c.Name[:1]) + c.Name[1:] + ": " + strings.Join(names, ", ")
		p.Rank, p.Section = p.Says[0].Rank, p.Says[0].Section
		list = append(list, p)
	}
	return list
}

// listOpenings are what lists leave open: things that one page alone lists, and criteria that pages explain and nobody measures.
func (e *Evidence) listOpenings(f *corpus.Field) (alone, unmeasured []Opening) {
	if !e.IsOfLists() {
		return nil, nil
	}
	for _, t := range e.Listed {
		if t.Pages == 1 && t.Places[0].Position > 0 && len(e.Sources) >= fewestPages {
			alone = append(alone, Opening{OnePage, "thing", t.Key, t.Name, message.Of("rank %d alone lists it", t.Ranks[0]), t.Ranks})
		}
	}
	measured := map[string]bool{}
	for _, c := range e.Criteria {
		if c.Kind != listed.Use {
			measured[c.Theme] = true
		}
	}
	for _, t := range e.Themes {
		if t.Recommended() && t.Key != PicksKey && !measured[t.Key] && !f.Language.IsQuestionHeading(t.Label) && e.isCriterion(f, t) {
			unmeasured = append(unmeasured, Opening{Unmeasured, "theme", t.Key, t.Label, message.Of("%v tell readers to choose by it; none measures it", message.Counted(t.Pages, "page")), t.Sources})
		}
	}
	return alone, unmeasured
}

// isCriterion tells a theme that stands under how to choose on a page.
func (e *Evidence) isCriterion(f *corpus.Field, t themes.Theme) bool {
	for _, m := range t.Members {
		sections := f.Docs[slices.Index(f.Ranks, m.Rank)].Reading.Sections
		level := sections[m.Section].Level
		for n := m.Section - 1; n > 0 && level > 1; n-- {
			if sections[n].Level >= level {
				continue
			}
			level = sections[n].Level
			if e.namesChoosing(f, sections[n].Heading) {
				return true
			}
		}
	}
	return false
}
