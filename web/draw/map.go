package draw

import (
	"cmp"
	"fmt"
	"html/template"
	"math"
	"slices"
	"strings"
	"unicode/utf8"

	"corpulan/core/demand"
	"corpulan/words"
)

// GroupMap draws groups by difficulty, from left to right, against volume, upwards on a
// logarithmic scale; the area of each is its potential. Each is a link, in the order of its
// potential; names stand where there is room for them, those of the largest first.
func GroupMap(in *words.Words, groups []demand.Group, link func(demand.Group) (href, get string)) template.HTML {
	const width, height, left, right, top, bottom = 1200, 560, 56, 24, 16, 40
	var list []demand.Group
	least, most := math.Inf(1), 10.0
	for _, g := range groups {
		if g.Volume.Known && g.Volume.Value > 0 && g.Difficulty.Known {
			list = append(list, g)
			least, most = math.Min(least, g.Volume.Value), math.Max(most, g.Volume.Value)
		}
	}
	if len(list) == 0 {
		return ""
	}
	slices.SortStableFunc(list, func(a, b demand.Group) int { return cmp.Compare(b.Potential.Value, a.Potential.Value) })
	easy, hard := 100.0, 0.0
	for _, g := range list {
		d := math.Min(math.Max(g.Difficulty.Value, 0), 100)
		easy, hard = math.Min(easy, d), math.Max(hard, d)
	}
	easy, hard = math.Max(0, 10*math.Floor((easy-4)/10)), math.Min(100, 10*math.Ceil((hard+4)/10))
	from, to := math.Log10(math.Max(1, least))-0.15, math.Log10(most)+0.2
	x := func(d float64) float64 {
		return left + (width-left-right)*(math.Min(math.Max(d, 0), 100)-easy)/(hard-easy)
	}
	y := func(v float64) float64 {
		return height - bottom - (height-top-bottom)*(math.Log10(math.Max(1, v))-from)/(to-from)
	}
	largest := math.Max(1, list[0].Potential.Value)
	const smallest, widest = 4.0, 24.0 // radius
	radius := func(g demand.Group) float64 {
		return math.Max(smallest, widest*math.Sqrt(math.Max(0, g.Potential.Value)/largest))
	}
	var b strings.Builder
	fmt.Fprintf(&b, `<svg class="group-map" viewBox="0 0 %d %d" role="group" aria-label="%s">`, width, height, template.HTMLEscapeString(in.Look("Groups by difficulty and volume; the same as the table of groups")))
	for d := easy; d <= hard; d += 10 {
		fmt.Fprintf(&b, `<line class="grid" x1="%.1f" x2="%.1f" y1="%d" y2="%d"/><text class="scale" x="%.1f" y="%d" text-anchor="middle">%.0f</text>`, x(d), x(d), top, height-bottom, x(d), height-bottom+16, d)
	}
	for e := math.Floor(from); e <= to; e++ {
		for _, m := range []float64{1, 2, 5} {
			if v := m * math.Pow(10, e); v >= 1 && math.Log10(v) >= from && math.Log10(v) <= to {
				fmt.Fprintf(&b, `<line class="grid" x1="%d" x2="%d" y1="%.1f" y2="%.1f"/><text class="scale" x="%d" y="%.1f" text-anchor="end">%s</text>`, left, width-right, y(v), y(v), left-6, y(v)+4, in.Number(int(v)))
			}
		}
	}
	fmt.Fprintf(&b, `<text class="scale" x="%d" y="%d" text-anchor="end">%s →</text><text class="scale" x="%d" y="%d">%s ↑</text>`, width-right, height-6, template.HTMLEscapeString(in.Look("difficulty")), left, top-4, template.HTMLEscapeString(in.Look("searches a month")))
	boxes := make([]box, 0, 2*len(list))
	for _, g := range list {
		r := radius(g)
		boxes = append(boxes, box{x(g.Difficulty.Value) - r, y(g.Volume.Value) - r, 2 * r, 2 * r})
	}
	circles := len(boxes)
	var names strings.Builder
	for i, g := range list {
		cx, cy, r := x(g.Difficulty.Value), y(g.Volume.Value), radius(g)
		href, get := link(g)
		said := in.Put("%s: %s searches a month, difficulty %.0f, potential %s clicks", g.Name, in.Number(int(g.Volume.Value)), g.Difficulty.Value, in.Number(int(g.Potential.Value)))
		fmt.Fprintf(&b, `<a href="%s" hx-get="%s" hx-target="#pane" aria-label="%s"><circle cx="%.1f" cy="%.1f" r="%.1f"%s/><circle class="hit" cx="%.1f" cy="%.1f" r="%.1f"><title>%s</title></circle></a>`,
			template.HTMLEscapeString(href), template.HTMLEscapeString(get), template.HTMLEscapeString(said), cx, cy, r, byHand(g), cx, cy, math.Max(r, 12), template.HTMLEscapeString(said))
		name := short(g.Name, 34)
		w, h := 6.1*float64(utf8.RuneCountInString(name)), 14.0
		for n, at := range places(cx, cy, r, w, h) {
			if at.x < left || at.x+at.w > width-2 || at.y < top || at.y+at.h > height-bottom {
				continue
			}
			if slices.ContainsFunc(boxes[:circles], func(o box) bool { return o != boxes[i] && o.meets(at) }) || slices.ContainsFunc(boxes[circles:], at.meets) {
				continue
			}
			boxes = append(boxes, at)
			if n >= beside { // farther away: a line leads there
				end := at.x
				if at.x+w < cx {
					end = at.x + w
				}
				fmt.Fprintf(&names, `<line x1="%.1f" y1="%.1f" x2="%.1f" y2="%.1f"/>`, cx, cy, end, at.y+h/2)
			}
			fmt.Fprintf(&names, `<text x="%.1f" y="%.1f">%s</text>`, at.x, at.y+11, template.HTMLEscapeString(name))
			break
		}
	}
	fmt.Fprintf(&b, `<g class="names" aria-hidden="true">%s</g></svg>`, names.String())
	return template.HTML(b.String())
}

// beside is how many of the places of a name touch its circle.
const beside = 4

// places are where a name may stand: right, left, above, below, and farther off round about.
func places(cx, cy, r, w, h float64) []box {
	list := []box{{cx + r + 4, cy - h/2, w, h}, {cx - r - 4 - w, cy - h/2, w, h}, {cx - w/2, cy - r - h - 1, w, h}, {cx - w/2, cy + r + 1, w, h}}
	for _, far := range []float64{22, 44, 70} {
		for _, dy := range []float64{-far, far, -far / 2, far / 2} {
			list = append(list, box{cx + r + far, cy + dy - h/2, w, h}, box{cx - r - far - w, cy + dy - h/2, w, h})
		}
	}
	return list
}

// box is a place on a drawing.
type box struct{ x, y, w, h float64 }

func (a box) meets(b box) bool {
	return a.x < b.x+b.w && b.x < a.x+a.w && a.y < b.y+b.h && b.y < a.y+a.h
}

func byHand(g demand.Group) string {
	if g.ByHand {
		return ` class="by-hand"`
	}
	return ""
}

// short cuts a name to so many characters.
func short(s string, most int) string {
	if r := []rune(s); len(r) > most {
		return string(r[:most-1]) + "…"
	}
	return s
}

// Months draws the searches of twelve months as columns, the oldest first.
func Months(in *words.Words, months []float64) template.HTML {
	most := 0.0
	for _, m := range months {
		most = math.Max(most, m)
	}
	if len(months) == 0 || most == 0 {
		return ""
	}
	months = months[max(0, len(months)-12):]
	const column, height = 5, 16
	var path strings.Builder
	for i, m := range months {
		if h := int(height*m/most + 0.5); h > 0 {
			fmt.Fprintf(&path, "M%d %dv-%dh%dv%dz", i*column, height, h, column-1, h)
		}
	}
	return template.HTML(fmt.Sprintf(`<svg class="months" role="img" aria-label="%s" width="%d" height="%d"><path d="%s"/></svg>`, template.HTMLEscapeString(in.Look("searches by month")), column*len(months), height, path.String()))
}

// Network draws the links between the pages of a slate: the pillar page in the middle, its
// articles round it, in their order from the top. Links between siblings are the thin ones.
func Network(in *words.Words, pages []demand.Planned, names []string, links []demand.Link, href func(string) string) template.HTML {
	if len(pages) == 0 {
		return ""
	}
	const width, height = 1000, 560
	at := map[string][2]float64{}
	pillar := slices.IndexFunc(pages, func(p demand.Planned) bool { return p.Pillar })
	ring := len(pages)
	if pillar >= 0 {
		ring--
		at[pages[pillar].Key] = [2]float64{width / 2, height / 2}
	}
	n := 0
	for i, p := range pages {
		if i == pillar {
			continue
		}
		angle := 2*math.Pi*float64(n)/math.Max(1, float64(ring)) - math.Pi/2
		at[p.Key] = [2]float64{width/2 + 290*math.Cos(angle), height/2 + 215*math.Sin(angle)}
		n++
	}
	var b strings.Builder
	fmt.Fprintf(&b, `<svg class="network" viewBox="0 0 %d %d" role="group" aria-label="%s">`, width, height, template.HTMLEscapeString(in.Look("Links between the pages of the slate; the same as the table below")))
	drawn := map[string]bool{}
	for _, l := range links {
		p, okFrom := at[l.From]
		q, okTo := at[l.To]
		if !okFrom || !okTo || drawn[l.To+"\x00"+l.From] {
			continue // both ways are one line
		}
		drawn[l.From+"\x00"+l.To] = true
		class := "sibling"
		if pillar >= 0 && (l.From == pages[pillar].Key || l.To == pages[pillar].Key) {
			class = "spoke"
		}
		fmt.Fprintf(&b, `<line class="%s" x1="%.1f" y1="%.1f" x2="%.1f" y2="%.1f"/>`, class, p[0], p[1], q[0], q[1])
	}
	for i, p := range pages {
		c := at[p.Key]
		r, anchor, dx, dy := 7.0, "middle", 0.0, -13.0
		switch {
		case i == pillar:
			r, dy = 12, -18
		case c[0] > width/2+40:
			anchor, dx, dy = "start", 12, 4
		case c[0] < width/2-40:
			anchor, dx, dy = "end", -12, 4
		case c[1] > height/2:
			dy = 22
		}
		fmt.Fprintf(&b, `<a href="%s"><circle cx="%.1f" cy="%.1f" r="%.0f"/><circle class="hit" cx="%.1f" cy="%.1f" r="14"/><text x="%.1f" y="%.1f" text-anchor="%s">%s</text></a>`,
			template.HTMLEscapeString(href(p.Key)), c[0], c[1], r, c[0], c[1], c[0]+dx, c[1]+dy, anchor, template.HTMLEscapeString(short(names[i], 30)))
	}
	b.WriteString(`</svg>`)
	return template.HTML(b.String())
}
