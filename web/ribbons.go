package web

import (
	"strings"

	"corpulan/core/evidence"
	"corpulan/core/reading"
	"corpulan/core/stats"
	"corpulan/core/themes"
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

// mostTinted is how many themes have a tint; more could not be told apart.
const mostTinted = 10

// tintedTheme is a theme that has a tint, as the legend shows it.
type tintedTheme struct {
	themes.Theme
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
	Drawn   []int                // sections that have a band; see leastBand
	Left    int                  // sections too short for one
}

// ribbonChart is all of them, to one scale.
type ribbonChart struct {
	Study   int64
	Pages   []ribbon
	Themes  []tintedTheme
	Usual   stats.Range // length in words, outliers left out
	Longest int         // words the scale reaches to
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
	for i := range c.Pages {
		c.chooseBands(&c.Pages[i])
	}
	c.placeThemes(an.Evidence)
	return c
}

// leastBand is the height in pixels from which a section has a band of its own.
// A page may have 50,000 headings; nobody could tell them apart.
const leastBand = 0.3

// chooseBands decides which sections of a page are drawn, and stand in the table.
func (c ribbonChart) chooseBands(p *ribbon) {
	for i, s := range p.Reading.Sections {
		from, to := c.reach(p.Reading, i)
		switch {
		case s.Heading == "" && s.Words == 0: // an opening without a word
		case to-from >= leastBand:
			p.Drawn = append(p.Drawn, i)
		default:
			p.Left++
		}
	}
}

// reach is where a section begins and ends, in pixels.
func (c ribbonChart) reach(r *reading.Reading, section int) (from, to float64) {
	end := r.Counts.Words
	if section+1 < len(r.Sections) {
		end = r.Sections[section+1].Offset
	}
	return c.at(r.Sections[section].Offset), c.at(end)
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
