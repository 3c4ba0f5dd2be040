package web

import (
	"strings"

	"corpulan/core/evidence"
	"corpulan/core/reading"
)

// Ribbons show the pages of a study side by side, drawn to one scale: each is a
// band of its sections from the first word down to the last. Sections of one
// theme share a tint and its letter.

// Sizes in pixels.
const (
	ribbonsWidth   = 944
	ribbonsHeight  = 452
	ribbonsHead    = 34 // above the bands: rank and host
	ribbonsAxis    = 40 // left of the bands: the scale
	ribbonGap      = 5.0
	widestRibbon   = 116
	narrowRibbon   = 14.0 // of a page that is set aside
	tornEdge       = 5
	letterWidth    = 5.3 // of the small type in a band, on average
	lineHeight     = 13
	ribbonOverhead = 10 // below the bands
)

// mostTinted is how many themes have a tint; more could not be told apart.
const mostTinted = 10

// tintedTheme is a theme that has a tint, as the legend shows it.
type tintedTheme struct {
	evidence.Theme
	Letter string // A, B, …
	Tint   int    // 1 to mostTinted
}

// tintedThemes are the themes that most pages share, in their usual order.
func tintedThemes(e *evidence.Evidence) []tintedTheme {
	var all []tintedTheme
	for _, t := range e.Themes { // most pages first
		if t.Recommended() && len(all) < mostTinted {
			all = append(all, tintedTheme{Theme: t})
		}
	}
	sortByPlace(all)
	for i := range all {
		all[i].Letter, all[i].Tint = string(rune('A'+i)), i+1
	}
	return all
}

// ribbon is one page as it is drawn.
type ribbon struct {
	Result  int64
	Rank    int
	Host    string
	Title   string
	Reading *reading.Reading
	Aside   bool
	Own     bool
	Outlier bool
	Themes  map[int]*tintedTheme // by section
	names   map[int]string       // themes without a tint too, by section
}

// ribbonChart is all of them, to one scale.
type ribbonChart struct {
	Study   int64
	Pages   []ribbon
	Themes  []tintedTheme
	Usual   evidence.Range // length in words, outliers left out
	Longest int            // words the scale reaches to
}

func chartOf(an *analysis) ribbonChart {
	c := ribbonChart{Study: an.Study.ID, Themes: tintedThemes(an.Evidence), Usual: an.Evidence.Figure("words").Target}
	outliers := map[int]bool{}
	for _, rank := range an.Evidence.Figure("words").Outliers {
		outliers[rank] = true
	}
	for _, r := range an.Results {
		if r.ReadingID == nil || an.Docs[*r.ReadingID] == nil {
			continue
		}
		doc := an.Docs[*r.ReadingID].Reading
		p := ribbon{Result: r.ID, Rank: r.Rank, Host: strings.TrimPrefix(r.Host, "www."), Title: doc.Title, Reading: doc, Own: r.Own, Aside: !r.Own && !counts(r), Themes: map[int]*tintedTheme{}, names: map[int]string{}}
		p.Outlier = !p.Aside && !p.Own && outliers[r.Rank]
		if !p.Aside && !p.Outlier {
			c.Longest = max(c.Longest, doc.Counts.Words)
		}
		if p.Own { // ours stand first, to be compared with what follows
			c.Pages = append([]ribbon{p}, c.Pages...)
		} else {
			c.Pages = append(c.Pages, p)
		}
	}
	if c.Longest == 0 { // nothing but outliers and set-aside pages
		for _, p := range c.Pages {
			c.Longest = max(c.Longest, p.Reading.Counts.Words)
		}
	}
	c.placeThemes(an.Evidence)
	return c
}

func (c *ribbonChart) placeThemes(e *evidence.Evidence) {
	byRank := map[int]*ribbon{}
	for i := range c.Pages {
		if p := &c.Pages[i]; !p.Aside && !p.Own {
			byRank[p.Rank] = p
		}
	}
	tinted := map[string]*tintedTheme{}
	for i := range c.Themes {
		tinted[c.Themes[i].Key] = &c.Themes[i]
	}
	for _, t := range e.Themes {
		for _, m := range t.Members {
			p := byRank[m.Rank]
			if p == nil {
				continue
			}
			if t.Pages >= 2 {
				p.names[m.Section] = t.Label
			}
			if of := tinted[t.Key]; of != nil {
				p.Themes[m.Section] = of
			}
		}
	}
}

// ThemeName is the theme a section belongs to, empty for one of its own.
func (p ribbon) ThemeName(section int) string { return p.names[section] }
