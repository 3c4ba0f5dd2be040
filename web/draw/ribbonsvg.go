package draw

import (
	"fmt"
	"html/template"
	"math"
	"strings"

	"corpulan/core/reading"
)

// column is where a Ribbon stands.
type column struct{ x, width float64 }

// columns shares the width out: set-aside pages are narrow, the others alike.
func (c Chart) columns() []column {
	wide, narrow := 0, 0
	for _, p := range c.Pages {
		if p.Aside {
			narrow++
		} else {
			wide++
		}
	}
	whole := float64(ribbonsWidth - ribbonsAxis)
	gap := min(ribbonGap, whole/float64(max(len(c.Pages), 1))/5) // of many pages the gaps narrow too
	space := whole - gap*float64(max(len(c.Pages)-1, 0))
	thin := min(narrowRibbon, space/float64(max(narrow, 1))/3) // at most a third of the width for all of them
	if wide == 0 {
		thin = min(narrowRibbon, space/float64(max(narrow, 1)))
	}
	each := min(max((space-thin*float64(narrow))/float64(max(wide, 1)), 2), widestRibbon)
	x := float64(ribbonsAxis)
	list := make([]column, len(c.Pages))
	for i, p := range c.Pages {
		w := each
		if p.Aside {
			w = thin
		}
		list[i] = column{x, w}
		x += w + gap
	}
	return list
}

// Draw is the chart as SVG. Every section is a link to its text; field.js lets
// the arrow keys go from one to the next.
func (c Chart) Draw() template.HTML {
	if c.Longest == 0 {
		return ""
	}
	s := &svg{}
	height := ribbonsHead + ribbonsHeight + ribbonOverhead
	s.open(`<svg class="ribbons" role="group" aria-label="%s" width="%d" height="%d" viewBox="0 0 %d %d">`,
		c.Words.Put("%d pages drawn to one scale, each a band of its sections; the same stands in the table below", len(c.Pages)), ribbonsWidth, height, ribbonsWidth, height)
	c.drawScale(s)
	columns := c.columns()
	labelled := c.labelled(columns)
	first := true
	for i, at := range columns {
		first = c.drawPage(s, c.Pages[i], at, labelled[i], first) && first
	}
	s.b.WriteString("</svg>")
	return template.HTML(s.b.String())
}

// labelled tells which pages have room for their rank above them; those that
// are set aside come last.
func (c Chart) labelled(columns []column) []bool {
	const digit = 7.5 // pixels
	has := make([]bool, len(columns))
	end := func(i int) float64 { return columns[i].x + 4 + digit*float64(len(c.Pages[i].label())) }
	for _, aside := range []bool{false, true} {
		for i := range columns {
			if c.Pages[i].Aside != aside {
				continue
			}
			free := true
			for j := i - 1; j >= 0 && free; j-- {
				free = !has[j] || end(j) <= columns[i].x
				if has[j] {
					break
				}
			}
			for j := i + 1; j < len(columns) && free; j++ {
				free = !has[j] || end(i) <= columns[j].x
				if has[j] {
					break
				}
			}
			has[i] = free
		}
	}
	return has
}

// drawScale draws lines at round numbers of words, and the usual length behind
// all pages.
func (c Chart) drawScale(s *svg) {
	if c.Usual.N > 1 {
		from, to := c.at(int(c.Usual.Lower)), c.at(int(c.Usual.Upper))
		s.open(`<rect class="usual" x="0" y="%.1f" width="%d" height="%.1f"><title>%s</title></rect>`, from, ribbonsWidth, max(to-from, 1),
			c.Words.Put("usual length: %s to %s words", c.Words.Number(int(c.Usual.Lower+0.5)), c.Words.Number(int(c.Usual.Upper+0.5))))
	}
	step := roundStep(c.Longest)
	for w := 0; w <= c.Longest; w += step {
		y := c.at(w)
		s.open(`<line class="scale" x1="0" x2="%d" y1="%.1f" y2="%.1f"/><text class="scale" x="0" y="%.1f">%s</text>`, ribbonsWidth, y, y, y-2, c.Words.Number(w))
	}
}

// roundStep parts a length into four to eight round steps.
func roundStep(longest int) int {
	for _, s := range []int{50, 100, 200, 250, 500, 1000, 2000, 2500, 5000, 10000, 25000} {
		if longest/s <= 7 {
			return s
		}
	}
	return max(longest/5, 1)
}

// drawPage draws one Ribbon. The first section of the first page that is drawn
// is where the tab key comes in.
func (c Chart) drawPage(s *svg, p Ribbon, at column, labelled, first bool) (stillFirst bool) {
	class := "page"
	if p.Aside {
		class += " aside"
	}
	if p.Own {
		class += " own"
	}
	r := p.Reading
	s.open(`<g class="%s" data-page="%d">`, class, p.Rank)
	name := fmt.Sprintf("%d %s", p.Rank, p.Host)
	if p.Own {
		name = c.Words.Put("ours: %s", p.Host)
	}
	tab := "-1"
	if first && c.dense(p) {
		tab = "0"
	}
	s.open(`<a class="page-head" href="/studies/%d/pages/%d" data-beside tabindex="%s" aria-label="%s" data-tip="%s">`, c.Study, p.Result, tab,
		c.Words.Put("page %s, %s words: how it was read", name, c.Words.Number(r.Counts.Words)), c.Words.Put("%s · %s · %s words · %s", name, p.Title, c.Words.Number(r.Counts.Words), c.Words.Look(string(r.Kind))))
	hit := ribbonsHead - 2
	if c.dense(p) {
		hit = ribbonsHead + ribbonsHeight
	}
	s.open(`<rect class="hit" x="%.1f" y="0" width="%.1f" height="%d"/>`, at.x, at.width, hit)
	if c.dense(p) {
		c.drawDense(s, p, at)
		s.b.WriteString("</a></g>")
		return false
	}
	s.b.WriteString("</a>")
	s.b.WriteString(`<g class="name" aria-hidden="true">`)
	if labelled {
		s.open(`<text class="rank" x="%.1f" y="12">%s</text>`, at.x, p.label())
	}
	if at.width >= 40 {
		for i, line := range hostLines(p.Host, at.width) {
			s.open(`<text class="host" x="%.1f" y="%d">%s</text>`, at.x, 25+12*i, line)
		}
	}
	s.b.WriteString("</g>")
	if p.Left > 0 { // else the sections are all of it
		s.open(`<rect class="whole" x="%.1f" y="%d" width="%.1f" height="%.1f"/>`, at.x, ribbonsHead, at.width, c.at(r.Counts.Words)-ribbonsHead)
	}
	for _, i := range p.Drawn {
		c.drawSection(s, p, i, at, first)
		first = false
	}
	if r.Counts.Words > c.Longest {
		c.drawTorn(s, p, at)
	}
	s.b.WriteString("</g>")
	return first
}

// maxOpened is how many pages have a link for each of their sections; of more
// than that the bands are too narrow to point at, and each page is one link,
// behind which its sections are listed.
const maxOpened = 30

func (c Chart) dense(p Ribbon) bool {
	if p.Aside {
		return len(c.Pages) > maxOpened
	}
	kept := 0
	for _, o := range c.Pages {
		if !o.Aside {
			kept++
		}
	}
	return kept > maxOpened
}

// drawDense draws a page as one shape for each theme.
func (c Chart) drawDense(s *svg, p Ribbon, at column) {
	if (at.width >= 14 || p.Rank%5 == 1) && !p.Aside {
		s.open(`<text class="rank" x="%.1f" y="26">%s</text>`, at.x, p.label())
	}
	var shapes [maxTinted + 1]strings.Builder
	for _, i := range p.Drawn {
		tint := 0
		if t := p.Themes[i]; t != nil {
			tint = t.Tint
		}
		y, h := c.band(p.Reading, i)
		fmt.Fprintf(&shapes[tint], "M%.1f %.4gh%.1fv%.4gh-%.1fz", at.x, y, at.width, h, at.width)
	}
	if p.Left > 0 {
		s.open(`<rect class="whole" x="%.1f" y="%d" width="%.1f" height="%.1f"/>`, at.x, ribbonsHead, at.width, c.at(p.Reading.Counts.Words)-ribbonsHead)
	}
	for tint := range shapes {
		if shapes[tint].Len() == 0 {
			continue
		}
		class, theme := "sec", ""
		if tint > 0 {
			class, theme = fmt.Sprintf("sec tint-%d", tint), fmt.Sprintf(` data-theme="%d"`, tint)
		}
		s.open(`<path class="%s"%s d="%s"/>`, class, template.HTML(theme), template.HTML(shapes[tint].String()))
	}
	if p.Reading.Counts.Words > c.Longest {
		c.drawTorn(s, p, at)
	}
}

// band is where a section's band begins and how high it is, on whole pixels
// with one between two bands, so that their border can be seen however long the
// page is.
func (c Chart) band(r *reading.Reading, section int) (y, height float64) {
	from, to := c.reach(r, section)
	top, bottom := math.Round(from), math.Round(to)
	if bottom-top >= 2 {
		return top, bottom - top - 1
	}
	return from, max(to-from, minBand)
}

// label stands over the band.
func (p Ribbon) label() string {
	if p.Own {
		return "ours"
	}
	return fmt.Sprint(p.Rank)
}

// drawTorn shows that a page is longer than the scale.
func (c Chart) drawTorn(s *svg, p Ribbon, at column) {
	y := float64(ribbonsHead + ribbonsHeight)
	var zig strings.Builder
	for x, up := at.x, true; x < at.x+at.width; x, up = x+tornEdge, !up {
		dy := 0.0
		if up {
			dy = -tornEdge
		}
		fmt.Fprintf(&zig, " L%.1f %.1f", math.Min(x+tornEdge, at.x+at.width), y+dy)
	}
	s.open(`<path class="torn" d="M%.1f %.1f%s V%.1f H%.1f z"><title>%s</title></path>`, at.x, y, template.HTML(zig.String()), y+1, at.x,
		c.Words.Put("goes on to %s words", c.Words.Number(p.Reading.Counts.Words)))
}

// drawSection draws a section from where it begins to where the next one does.
func (c Chart) drawSection(s *svg, p Ribbon, i int, at column, first bool) {
	sec := p.Reading.Sections[i]
	y, h := c.band(p.Reading, i)
	class, letter, theme := "sec", "", ""
	if t := p.Themes[i]; t != nil {
		class += fmt.Sprintf(" tint-%d", t.Tint)
		letter, theme = t.Letter, fmt.Sprintf(` data-theme="%d"`, t.Tint)
	}
	x, w := at.x, at.width
	if sec.Depth >= 3 && w >= 24 { // sub-sections stand a little in
		inset := min(float64(sec.Depth-2)*5, w/3)
		x, w = x+inset, w-inset
	}
	tab := "-1"
	if first {
		tab = "0"
	}
	tip := c.Words.Put("%d %s › %s · %s words", p.Rank, p.Host, c.sectionName(sec), c.Words.Number(sec.Words))
	if name := p.names[i]; name != "" {
		tip += " · " + c.Words.Put("theme: %s", name)
	}
	s.open(`<a class="%s"%s href="/studies/%d/pages/%d/sections/%d" data-beside tabindex="%s" aria-label="%s" data-tip="%s">`, class, template.HTML(theme), c.Study, p.Result, i, tab, tip, tip)
	s.open(`<rect x="%.1f" y="%.1f" width="%.1f" height="%.2f"/>`, x, y, w, h)
	s.b.WriteString("</a>")
	if !p.Aside {
		c.writeName(s, c.sectionName(sec), letter, x, y, w, h)
	}
}

// writeName writes as much of a section's name over it as there is room for. It
// stands beside the link, not in it: the link has its whole name as a label.
func (c Chart) writeName(s *svg, name, letter string, x, y, w, h float64) {
	if h < lineHeight-2 {
		return
	}
	s.open(`<svg class="name" aria-hidden="true" x="%.1f" y="%.1f" width="%.1f" height="%.1f">`, x, y, w-1, h) // it clips what is wider than reckoned
	defer s.b.WriteString("</svg>")
	if letter != "" && w >= 12 {
		s.open(`<text class="letter" x="%.1f" y="10.5" text-anchor="end">%s</text>`, w-3, letter)
	}
	if w < 48 {
		return
	}
	for i, line := range wrap(name, w-8, letter != "", int((h-2)/lineHeight)) {
		s.open(`<text x="4" y="%.1f">%s</text>`, 10.5+float64(i*lineHeight), line)
	}
}

// svg writes markup with everything in it escaped.
type svg struct{ b strings.Builder }

// open writes a format whose strings are escaped for markup.
func (s *svg) open(format string, values ...any) {
	for i, v := range values {
		if text, ok := v.(string); ok {
			values[i] = template.HTMLEscapeString(text)
		}
	}
	fmt.Fprintf(&s.b, format, values...)
}
