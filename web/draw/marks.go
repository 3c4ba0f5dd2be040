package draw

import (
	"fmt"
	"html/template"
	"math"
	"strconv"
	"strings"
	"unicode/utf8"

	"corpulan/core/evidence"
	"corpulan/core/fit"
	"corpulan/core/stats"
	"corpulan/words"
)

// The marks of our own that stand in every table, drawn as SVG on the server.
// Colours come from the style sheet by class.

const (
	slugWidth, slugGap, slugHeight = 6, 3, 18

	mostSlugs = 30 // pages; of more a row is a density
	bins      = 30 // of a density, each of as many pages
	binWidth  = 4
)

// PresenceRow draws one slug for each kept page in rank order: its height
// shows how much the page uses the thing, a small hollow square that it does
// not. It is one element of two paths, however many pages there are; the counts
// stand in it as data, and marks.js says which page and how often where one
// points or taps.
func PresenceRow(in *words.Words, counts []int, sources []evidence.Source, unit string) template.HTML {
	most := 0
	for _, n := range counts {
		most = max(most, n)
	}
	var used, absent, data strings.Builder
	var using []int
	width := max(len(counts)*(slugWidth+slugGap)-slugGap, 1)
	dense := len(counts) > mostSlugs
	if dense {
		width = bins * binWidth
		used.WriteString(density(counts, most))
	}
	for i, n := range counts {
		x := i * (slugWidth + slugGap)
		rank := i + 1
		if i < len(sources) {
			rank = sources[i].Rank
		}
		if i > 0 {
			data.WriteByte(' ')
		}
		data.WriteString(strconv.Itoa(n))
		if n > 0 {
			using = append(using, rank)
		}
		switch {
		case dense:
		case n == 0:
			fmt.Fprintf(&absent, "M%d.5 13.5h5v4h-5z", x)
		default:
			h := slugOf(float64(n), most)
			fmt.Fprintf(&used, "M%d %dv-%dh%dv%dz", x, slugHeight, h, slugWidth, h)
		}
	}
	label := in.Look("on no page")
	if len(using) > 0 {
		label = in.Put("ranks %s", RankSpans(using))
	}
	return template.HTML(fmt.Sprintf(`<svg class="presence" role="img" aria-label="%s" data-n="%s" data-unit="%s" width="%d" height="%d" viewBox="0 0 %d %d" preserveAspectRatio="none"><path d="%s"/><path class="absent" d="%s"/></svg>`,
		label, data.String(), template.HTMLEscapeString(in.Look(unit)), width, slugHeight, width, slugHeight, used.String(), absent.String()))
}

// slugOf is the height of so much use, by its square root: a page with forty uses is not to dwarf all the others.
func slugOf(n float64, most int) int {
	return int(5 + (slugHeight-5)*math.Sqrt(n/float64(most)) + 0.5)
}

// density draws many pages as one shape of a fixed width: in each step of it as many pages, as high as they use the thing on average, and a
// hairline where none does.
func density(counts []int, most int) string {
	var path strings.Builder
	for i := range bins {
		from, to := i*len(counts)/bins, (i+1)*len(counts)/bins
		sum := 0
		for _, n := range counts[from:to] {
			sum += n
		}
		h := 1
		if sum > 0 {
			h = slugOf(float64(sum)/float64(to-from), most)
		}
		fmt.Fprintf(&path, "M%d %dv-%dh%dv%dz", i*binWidth, slugHeight, h, binWidth, h)
	}
	return path.String()
}

// RankSpans says ranks in short: "1–4, 7, 9–11".
func RankSpans(ranks []int) string {
	var parts []string
	for i := 0; i < len(ranks); {
		j := i
		for j+1 < len(ranks) && ranks[j+1] == ranks[j]+1 {
			j++
		}
		switch {
		case j-i >= 2:
			parts = append(parts, fmt.Sprintf("%d–%d", ranks[i], ranks[j]))
		case j > i:
			parts = append(parts, strconv.Itoa(ranks[i]), strconv.Itoa(ranks[j]))
		default:
			parts = append(parts, strconv.Itoa(ranks[i]))
		}
		i = j + 1
	}
	return strings.Join(parts, ", ")
}

// ShortRanks is ranks as a margin has room for them, in so many characters:
// "1–4 7 9", else how many pages there are.
func ShortRanks(in *words.Words, ranks []int, most int) string {
	if s := strings.ReplaceAll(RankSpans(ranks), ",", ""); utf8.RuneCountInString(s) <= most {
		return s
	}
	return in.Counted(len(ranks), "page")
}

const rangeWidth, rangeHeight = 72, 14

// Pointer is a figure of ours on a range mark.
type Pointer struct {
	Name  string
	Value float64
}

// RangeMark draws a range as a thin line from the lower to the upper quartile
// with a tick at each and a full stroke at the median, on a scale from 0 to most.
// A Pointer below the line shows a figure of our own.
func RangeMark(in *words.Words, r stats.Range, most float64, ours ...Pointer) template.HTML {
	if r.N == 0 || most <= 0 {
		return ""
	}
	at := func(v float64) float64 { return 1 + (rangeWidth-2)*math.Min(v/most, 1) }
	l, m, u := at(r.Lower), at(r.Median), at(r.Upper)
	label := in.Put("lower quartile %.0f, median %.0f, upper quartile %.0f, over %s", r.Lower, r.Median, r.Upper, in.Counted(r.N, "page"))
	var own strings.Builder
	for _, p := range ours {
		x := at(p.Value)
		fmt.Fprintf(&own, `<path class="own" d="M%.1f 8.5 l3.5 5 h-7 z"><title>%s</title></path>`, x, template.HTMLEscapeString(in.Put("ours, %s: %.0f", p.Name, p.Value)))
		label += "; " + template.HTMLEscapeString(in.Put("ours, %s: %.0f", p.Name, p.Value))
	}
	return template.HTML(fmt.Sprintf(`<svg class="rangemark" role="img" aria-label="%s" width="%d" height="%d" viewBox="0 0 %d %d"><title>%s</title>`+
		`<line class="scale" x1="0" x2="%d" y1="7" y2="7"/><line x1="%.1f" x2="%.1f" y1="7" y2="7"/><line x1="%.1f" x2="%.1f" y1="4" y2="10"/><line x1="%.1f" x2="%.1f" y1="4" y2="10"/><line class="median" x1="%.1f" x2="%.1f" y1="1.5" y2="12.5"/>%s</svg>`,
		label, rangeWidth, rangeHeight, rangeWidth, rangeHeight, label, rangeWidth, l, u, l, l, u, u, m, m, own.String()))
}

// FitMark draws on a scale from 0 to 100 where the pages of a field stand, as a range with a
// tick for each page, and a draft among them; aim is the fit that is asked for.
func FitMark(in *words.Words, f fit.Field, ours, aim float64) template.HTML {
	const width, height, base = 300, 34, 18
	at := func(v float64) float64 { return 1 + (width-2)*math.Min(math.Max(v, 0), 100)/100 }
	var b strings.Builder
	label := in.Put("this draft %.0f of 100", ours)
	if f.Range.N > 0 {
		label += "; " + in.Put("the %d kept pages: lower quartile %.0f, median %.0f, upper quartile %.0f", f.Range.N, f.Range.Lower, f.Range.Median, f.Range.Upper)
	}
	label += "; " + in.Put("the aim is %.0f", aim)
	fmt.Fprintf(&b, `<svg class="rangemark fitmark" role="img" aria-label="%s" viewBox="0 0 %d %d" width="%d" height="%d"><title>%s</title><line class="scale" x1="0" x2="%d" y1="%d" y2="%d"/>`, label, width, height, width, height, label, width, base, base)
	for _, p := range f.Pages {
		fmt.Fprintf(&b, `<line class="page" x1="%.1f" x2="%.1f" y1="%d" y2="%d"/>`, at(p.Fit), at(p.Fit), base-4, base+4)
	}
	if f.Range.N > 0 {
		fmt.Fprintf(&b, `<line class="span" x1="%.1f" x2="%.1f" y1="%d" y2="%d"/><line class="median" x1="%.1f" x2="%.1f" y1="%d" y2="%d"/>`, at(f.Range.Lower), at(f.Range.Upper), base, base, at(f.Range.Median), at(f.Range.Median), base-7, base+7)
	}
	fmt.Fprintf(&b, `<line class="aim" x1="%.1f" x2="%.1f" y1="2" y2="%d"/><text x="%.1f" y="9" text-anchor="end">%.0f</text>`, at(aim), at(aim), base+7, at(aim)-4, aim)
	fmt.Fprintf(&b, `<path class="own" d="M%.1f %d l6 10 h-12 z"/></svg>`, at(ours), base+3)
	return template.HTML(b.String())
}
