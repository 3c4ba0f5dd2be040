package draw

import (
	"fmt"
	"html/template"
	"math"
	"strings"

	"corpulan/core/evidence"
	"corpulan/core/themes"
	"corpulan/words"
)

// A cell of the grid of coverage, and how many pages have cells of that width; more pages
// have narrower ones, that all stand on a screen.
const (
	cellWidth, cellHeight = 20, 22
	wideCells             = 30
	narrowCell            = 9
)

// CellWidth is how wide the cell of one page is.
func CellWidth(pages int) int {
	if pages > wideCells {
		return narrowCell
	}
	return cellWidth
}

// CoverRow draws how each page treats a theme, in rank order: a full block for a section
// of its own, as high as the section is long; a ring for a passage in passing; a dot where
// the page says nothing of it. Each block and ring leads to what the page says: link gives
// the address for a rank.
func CoverRow(in *words.Words, t themes.Theme, sources []evidence.Source, longest int, link func(rank int) string) template.HTML {
	w := CellWidth(len(sources))
	var b strings.Builder
	fmt.Fprintf(&b, `<svg class="cover" width="%d" height="%d" viewBox="0 0 %d %d" role="group" aria-label="%s">`, w*len(sources), cellHeight, w*len(sources), cellHeight, template.HTMLEscapeString(in.Put("How the pages treat %s", t.Label)))
	var none strings.Builder
	for i, s := range sources {
		x := i * w
		c, ok := evidence.CoverageOf(t, s.Rank)
		if !ok {
			fmt.Fprintf(&none, "M%d %dh2v2h-2z", x+w/2-1, cellHeight-5)
			continue
		}
		says := in.Put("rank %d, %s: %d words in a section of its own", s.Rank, s.Host, c.Words)
		mark := ""
		if c.How == themes.InSection {
			h := 5 + int(float64(cellHeight-8)*math.Sqrt(float64(min(c.Words, longest))/float64(max(longest, 1)))+0.5)
			mark = fmt.Sprintf(`<rect x="%d" y="%d" width="%d" height="%d"/>`, x+w/5, cellHeight-3-h, w-2*(w/5), h)
		} else {
			says = in.Put("rank %d, %s: in passing, about %d words", s.Rank, s.Host, c.Words)
			mark = fmt.Sprintf(`<circle class="passing" cx="%d" cy="%d" r="%d"/>`, x+w/2, cellHeight-8, min(4, w/2-1))
		}
		href := template.HTMLEscapeString(link(s.Rank))
		fmt.Fprintf(&b, `<a href="%s" hx-get="%s" hx-target="#pane" tabindex="-1" aria-label="%s"><title>%s</title><rect class="hit" x="%d" y="0" width="%d" height="%d"/>%s</a>`,
			href, href, template.HTMLEscapeString(says), template.HTMLEscapeString(says), x, w, cellHeight, mark)
	}
	fmt.Fprintf(&b, `<path class="none" d="%s"/></svg>`, none.String())
	return template.HTML(b.String())
}
