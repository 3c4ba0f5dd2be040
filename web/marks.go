package web

import (
	"fmt"
	"html/template"
	"math"
	"strings"

	"corpulan/core/evidence"
)

// The marks of our own that stand in every table, drawn as SVG on the server.
// Colours come from the style sheet by class.

const (
	slugWidth, slugGap, slugHeight = 6, 3, 18
	widestRow                      = 264 // of more than thirty pages the slugs grow narrow
)

// presenceRow draws one slug for each kept page in rank order: its height
// shows how much the page uses the thing, a small hollow square that it does
// not. Pointing at a slug names the page and the count.
func presenceRow(counts []int, sources []evidence.Source, unit string) template.HTML {
	most := 0
	for _, n := range counts {
		most = max(most, n)
	}
	var b strings.Builder
	var using []string
	width := max(len(counts)*(slugWidth+slugGap)-slugGap, 1)
	for i, n := range counts {
		x := i * (slugWidth + slugGap)
		name, rank := "", i+1
		if i < len(sources) {
			name, rank = sources[i].Host, sources[i].Rank
		}
		if n == 0 {
			fmt.Fprintf(&b, `<g class="absent"><title>%d %s: none</title><rect x="%g" y="%g" width="%d" height="4"/></g>`,
				rank, template.HTMLEscapeString(name), float64(x)+0.5, float64(slugHeight)-4.5, slugWidth-1)
			continue
		}
		// Square root: a page with forty uses is not to dwarf all the others.
		h := 5 + (slugHeight-5)*math.Sqrt(float64(n)/float64(most))
		fmt.Fprintf(&b, `<g><title>%d %s: %d %s</title><rect x="%d" y="%.1f" width="%d" height="%.1f"/></g>`,
			rank, template.HTMLEscapeString(name), n, unit, x, slugHeight-h, slugWidth, h)
		using = append(using, fmt.Sprint(rank))
	}
	shown := min(width, widestRow)
	label := "on no page"
	if len(using) > 0 {
		label = "ranks " + strings.Join(using, ", ")
	}
	return template.HTML(fmt.Sprintf(`<svg class="presence" role="img" aria-label="%s" width="%d" height="%d" viewBox="0 0 %d %d" preserveAspectRatio="none">%s</svg>`,
		label, shown, slugHeight, width, slugHeight, b.String()))
}

const rangeWidth, rangeHeight = 72, 14

// pointer is a figure of ours on a range mark.
type pointer struct {
	Name  string
	Value float64
}

// rangeMark draws a range as a thin line from the lower to the upper quartile
// with a tick at each and a full stroke at the median, on a scale from 0 to most.
// A pointer below the line shows a figure of our own.
func rangeMark(r evidence.Range, most float64, ours ...pointer) template.HTML {
	if r.N == 0 || most <= 0 {
		return ""
	}
	at := func(v float64) float64 { return 1 + (rangeWidth-2)*math.Min(v/most, 1) }
	l, m, u := at(r.Lower), at(r.Median), at(r.Upper)
	label := fmt.Sprintf("lower quartile %.0f, median %.0f, upper quartile %.0f, n %d", r.Lower, r.Median, r.Upper, r.N)
	var own strings.Builder
	for _, p := range ours {
		x := at(p.Value)
		fmt.Fprintf(&own, `<path class="own" d="M%.1f 8.5 l3.5 5 h-7 z"><title>%s</title></path>`, x, template.HTMLEscapeString(fmt.Sprintf("ours, %s: %.0f", p.Name, p.Value)))
		label += template.HTMLEscapeString(fmt.Sprintf("; ours, %s: %.0f", p.Name, p.Value))
	}
	return template.HTML(fmt.Sprintf(`<svg class="rangemark" role="img" aria-label="%s" width="%d" height="%d" viewBox="0 0 %d %d"><title>%s</title>`+
		`<line class="scale" x1="0" x2="%d" y1="7" y2="7"/><line x1="%.1f" x2="%.1f" y1="7" y2="7"/><line x1="%.1f" x2="%.1f" y1="4" y2="10"/><line x1="%.1f" x2="%.1f" y1="4" y2="10"/><line class="median" x1="%.1f" x2="%.1f" y1="1.5" y2="12.5"/>%s</svg>`,
		label, rangeWidth, rangeHeight, rangeWidth, rangeHeight, label, rangeWidth, l, u, l, l, u, u, m, m, own.String()))
}
