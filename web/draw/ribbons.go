package draw

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"corpulan/core/evidence"
	"corpulan/core/reading"
	"corpulan/core/stats"
	"corpulan/core/themes"
	"corpulan/words"
)

// Ribbons show the pages of a study side by side, drawn to one scale: each is a
// band of its sections from the first word down to the last. Sections of one
// theme share a tint and its letter.

// Sizes in pixels.
const (
	ribbonsWidth   = 944
	ribbonsHeight  = 440
	ribbonsHead    = 44 // above the bands: rank and host
	ribbonsAxis    = 40 // left of the bands: the scale
	ribbonGap      = 5.0
	widestRibbon   = 116
	narrowRibbon   = 14.0 // of a page that is set aside
	tornEdge       = 5
	lineHeight     = 13
	ribbonOverhead = 10 // below the bands
)

// maxTinted is how many themes have a tint; more could not be told apart.
const maxTinted = 10

// Theme is a theme that has a tint, as the legend shows it.
type Theme struct {
	themes.Theme
	Letter string // A, B, …
	Tint   int    // 1 to maxTinted
}

// tintedThemes are the themes that most pages share, in their usual order.
func tintedThemes(e *evidence.Evidence) []Theme {
	var all []Theme
	for _, t := range e.Themes { // most pages first
		if t.Recommended() && len(all) < maxTinted {
			all = append(all, Theme{Theme: t})
		}
	}
	slices.SortStableFunc(all, func(a, b Theme) int { return cmp.Compare(a.Place, b.Place) })
	for i := range all {
		all[i].Letter, all[i].Tint = string(rune('A'+i)), i+1
	}
	return all
}

// Ribbon is one page as it is drawn.
type Ribbon struct {
	Result  int64
	Rank    int
	Host    string
	Title   string
	Reading *reading.Reading
	Aside   bool
	Own     bool
	Outlier bool
	Themes  map[int]*Theme // by section
	names   map[int]string // themes without a tint too, by section
	Drawn   []int          // sections that have a band; see minBand
	Left    int            // sections too short for one
}

// Chart is all of them, to one scale.
type Chart struct {
	Words   *words.Words // of who looks
	Study   int64
	Pages   []Ribbon
	Themes  []Theme
	Usual   stats.Range // length in words, outliers left out
	Longest int         // words the scale reaches to
}

// ChartPage is a page that was read, as a chart is made of it.
type ChartPage struct {
	Result     int64
	Rank       int
	Host       string
	Reading    *reading.Reading
	Own, Aside bool
}

// NewChart draws the pages of a study to one scale, with the themes of its evidence.
func NewChart(in *words.Words, study int64, e *evidence.Evidence, pages []ChartPage) Chart {
	c := Chart{Words: in, Study: study, Themes: tintedThemes(e), Usual: e.Figure("words").Target}
	outliers := map[int]bool{}
	for _, rank := range e.Figure("words").Outliers {
		outliers[rank] = true
	}
	for _, page := range pages {
		doc := page.Reading
		p := Ribbon{Result: page.Result, Rank: page.Rank, Host: strings.TrimPrefix(page.Host, "www."), Title: doc.Title, Reading: doc, Own: page.Own, Aside: page.Aside, Themes: map[int]*Theme{}, names: map[int]string{}}
		p.Outlier = !p.Aside && !p.Own && outliers[p.Rank]
		if !p.Aside && !p.Outlier {
			c.Longest = max(c.Longest, doc.Counts.Words)
		}
		if p.Own { // ours stand first, to be compared with what follows
			c.Pages = append([]Ribbon{p}, c.Pages...)
		} else {
			c.Pages = append(c.Pages, p)
		}
	}
	if c.Longest == 0 { // nothing but outliers and set-aside pages
		for _, p := range c.Pages {
			c.Longest = max(c.Longest, p.Reading.Counts.Words)
		}
	}
	for i := range c.Pages {
		c.chooseBands(&c.Pages[i])
	}
	c.placeThemes(e)
	return c
}

// minBand is the height in pixels from which a section has a band of its own.
// A page may have 50,000 headings; nobody could tell them apart.
const minBand = 0.3

// chooseBands decides which sections of a page are drawn, and stand in the table.
func (c Chart) chooseBands(p *Ribbon) {
	for i, s := range p.Reading.Sections {
		from, to := c.reach(p.Reading, i)
		switch {
		case s.Heading == "" && s.Words == 0: // an opening without a word
		case to-from >= minBand:
			p.Drawn = append(p.Drawn, i)
		default:
			p.Left++
		}
	}
}

// reach is where a section begins and ends, in pixels.
func (c Chart) reach(r *reading.Reading, section int) (from, to float64) {
	end := r.Counts.Words
	if section+1 < len(r.Sections) {
		end = r.Sections[section+1].Offset
	}
	return c.at(r.Sections[section].Offset), c.at(end)
}

func (c *Chart) placeThemes(e *evidence.Evidence) {
	byRank := map[int]*Ribbon{}
	for i := range c.Pages {
		if p := &c.Pages[i]; !p.Aside && !p.Own {
			byRank[p.Rank] = p
		}
	}
	tinted := map[string]*Theme{}
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
func (p Ribbon) ThemeName(section int) string { return p.names[section] }

// at is the height at which a number of words is reached.
func (c Chart) at(words int) float64 {
	return ribbonsHead + math.Min(float64(words)/float64(c.Longest), 1)*ribbonsHeight
}
