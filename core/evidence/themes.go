package evidence

import (
	"cmp"
	"math"
	"slices"
	"strings"
	"unicode"

	"corpulan/core/reading"
)

// Theme is a group of headings from several pages that say the same thing.
type Theme struct {
	Key     string         `json:"key"`   // stems of the label
	Label   string         `json:"label"` // the heading most like all the others
	Pages   int            `json:"pages"`
	Sources []int          `json:"sources"`
	Counts  []int          `json:"counts"` // headings per page, in the order of Evidence.Sources
	Place   float64        `json:"place"`  // median of where its sections begin, 0 to 1
	Level   int            `json:"level"`  // median heading level
	Length  Range          `json:"length"` // words below the heading, sub-sections included
	Members []ThemeHeading `json:"members"`
	Parent  string         `json:"parent,omitempty"` // key of the theme most of its headings stand under
	Terms   []string       `json:"terms"`            // stems that lead its sections
	Generic bool           `json:"generic,omitempty"`
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

// sameTheme is the mean similarity from which groups of headings are one theme.
const sameTheme = 0.35

// headingVector is a heading with what it is compared by.
type headingVector struct {
	doc, section, words int
	level               int
	text                string
	parent              int        // index of the heading it stands under, -1 for none
	title               vector     // stems of the heading
	body                vector     // leading stems of the section
	lead                []weighted // the same, the heaviest first
}

// weighted is a stem with its weight.
type weighted struct {
	stem string
	w    float64
}

func (f *field) themes() []Theme {
	heads := f.headingVectors()
	if f.ctx.Err() != nil {
		return nil
	}
	groups := averageLink(f.ctx, len(heads), sameTheme, func(i, j int) float64 { return similarity(heads[i], heads[j]) })
	themeOf := make([]int, len(heads))
	var themes []Theme
	for _, g := range groups {
		for _, h := range g {
			themeOf[h] = len(themes)
		}
		themes = append(themes, f.theme(heads, g))
	}
	for i, g := range groups {
		under := map[int]int{}
		for _, h := range g {
			if p := heads[h].parent; p >= 0 && themeOf[p] != i {
				under[themeOf[p]]++
			}
		}
		for t, n := range under {
			if 2*n > len(g) {
				themes[i].Parent = themes[t].Key
			}
		}
	}
	slices.SortStableFunc(themes, func(a, b Theme) int {
		return cmp.Or(b.Pages-a.Pages, len(b.Members)-len(a.Members), cmp.Compare(a.Place, b.Place), strings.Compare(a.Key, b.Key))
	})
	if themes == nil {
		themes = []Theme{}
	}
	return themes
}

// headingVectors lists the headings below the page's title that are the
// author's own, with their stems and the leading stems of their sections.
func (f *field) headingVectors() []headingVector {
	repeated := f.repeated()
	sectionsWith := map[string]int{}
	sections := 0
	for _, d := range f.docs {
		for _, stems := range d.sections {
			sections++
			for s := range stems {
				sectionsWith[s]++
			}
		}
	}
	// Smooth inverse document frequency as scikit-learn defines it.
	idf := func(s string) float64 { return math.Log(float64(1+sections)/float64(1+sectionsWith[s])) + 1 }
	var all []headingVector
	most := f.headingsPerPage()
	for i, d := range f.docs {
		open := map[int]int{} // level -> index of the last heading there
		top := topLevel(d.Reading)
		from := len(all)
		for n, s := range d.Reading.Sections {
			if len(all)-from >= most {
				f.note("Of rank %d the first %d headings are compared; it has %d.", f.ranks[i], most, len(d.Reading.Headings))
				break
			}
			if s.Level == 0 || s.Level <= top.title && n == top.section {
				continue
			}
			stems := f.lang.ContentStems(s.Heading)
			if len(stems) == 0 || repeated(d, s) {
				continue
			}
			h := headingVector{doc: i, section: n, level: s.Level, text: s.Heading, words: wordsBelow(d.Reading, n), parent: -1}
			for l := s.Level - 1; l > 0 && h.parent < 0; l-- {
				if p, ok := open[l]; ok {
					h.parent = p
				}
			}
			slices.Sort(stems)
			var title []weighted
			for _, st := range slices.Compact(stems) {
				title = append(title, weighted{st, idf(st)})
			}
			h.lead = leadingStems(d.sections[n], title, idf)
			h.title, h.body = newVector(title), newVector(h.lead)
			for l := range open {
				if l >= s.Level {
					delete(open, l)
				}
			}
			open[s.Level] = len(all)
			all = append(all, h)
		}
	}
	return all
}

// mostHeadings is how many headings of a field are compared: grouping them
// takes memory by the square of their number, 72 MB for these. Our own bound;
// the hundred longest guides of a field have about 2,500.
const mostHeadings = 3000

// headingsPerPage is how many headings of each page are compared, so that all
// together are not more than mostHeadings and no page is cut while another has more.
func (f *field) headingsPerPage() int {
	var counts []int
	for _, d := range f.docs {
		counts = append(counts, len(d.Reading.Headings))
	}
	slices.Sort(counts)
	left := mostHeadings
	for i, n := range counts {
		if share := left / (len(counts) - i); n > share {
			return max(share, 1)
		}
		left -= n
	}
	return mostHeadings
}

type titleHeading struct{ section, title int }

// topLevel is the heading that stands for the page's title: its first, if it
// is the only one of its level and none stands above it.
func topLevel(r *reading.Reading) titleHeading {
	first, least, n := -1, 7, 0
	for i, s := range r.Sections {
		if s.Level == 0 {
			continue
		}
		if s.Level < least {
			least, first, n = s.Level, i, 0
		}
		if s.Level == least {
			n++
		}
	}
	if least == 1 || n == 1 {
		return titleHeading{first, least}
	}
	return titleHeading{-1, 0}
}

// repeated finds headings that are a site's and not an author's: the same
// heading on two kept pages of one host, or over the very same text on two
// pages of any.
func (f *field) repeated() func(*Doc, reading.Section) bool {
	keys := func(d *Doc, s reading.Section) []string {
		heading := strings.ToLower(s.Heading)
		k := []string{heading + "\x00" + s.Text}
		if d.Host != "" {
			k = append(k, d.Host+"\x00"+heading)
		}
		if s.Text == "" {
			k = k[1:]
		}
		return k
	}
	seen, twice := map[string]int{}, map[string]bool{}
	for i, d := range f.docs {
		for _, s := range d.Reading.Sections {
			for _, k := range keys(d, s) {
				if at, ok := seen[k]; ok && at != i {
					twice[k] = true
				}
				seen[k] = i
			}
		}
	}
	return func(d *Doc, s reading.Section) bool {
		return slices.ContainsFunc(keys(d, s), func(k string) bool { return twice[k] })
	}
}

// leadingStems are the eight stems that say most about a section, by tf-idf
// with a logarithmic term frequency.
func leadingStems(section map[string]int, title []weighted, idf func(string) float64) []weighted {
	var list []weighted
	for s, n := range section {
		inTitle := slices.ContainsFunc(title, func(t weighted) bool { return t.stem == s })
		if n >= 2 && !inTitle && len(s) > 2 {
			list = append(list, weighted{s, (1 + math.Log(float64(n))) * idf(s)})
		}
	}
	slices.SortFunc(list, func(a, b weighted) int { return cmp.Or(cmp.Compare(b.w, a.w), strings.Compare(a.stem, b.stem)) })
	return list[:min(len(list), 8)]
}

// How far the same heading, and the same leading words of the section, go
// towards being the same theme.
const (
	trustHeading = 0.9
	trustSection = 0.6
)

// similarity joins the cosine of two headings and the cosine of their
// sections' leading words as independent hints (noisy-or): either can carry it
// alone, so that "Dressing for the cold" and "What to wear" meet by their
// sections. Two headings of one page are likelier to divide a matter than to
// repeat it and count half.
func similarity(a, b headingVector) float64 {
	s := 1 - (1-trustHeading*cosine(a.title, b.title))*(1-trustSection*cosine(a.body, b.body))
	if a.doc == b.doc {
		s /= 2
	}
	return s
}

// vector is a sparse vector in the order of its stems, of length one.
type vector []weighted

func newVector(list []weighted) vector {
	v := slices.Clone(list)
	slices.SortFunc(v, func(a, b weighted) int { return strings.Compare(a.stem, b.stem) })
	n := 0.0
	for _, s := range v {
		n += s.w * s.w
	}
	for i := range v {
		v[i].w /= math.Sqrt(n)
	}
	return v
}

func cosine(a, b vector) float64 {
	dot, i, j := 0.0, 0, 0
	for i < len(a) && j < len(b) {
		switch strings.Compare(a[i].stem, b[j].stem) {
		case 0:
			dot += a[i].w * b[j].w
			i++
			j++
		case -1:
			i++
		default:
			j++
		}
	}
	return dot
}

// wordsBelow counts a section's words with those of its sub-sections.
func wordsBelow(r *reading.Reading, n int) int {
	words := r.Sections[n].Words
	for _, s := range r.Sections[n+1:] {
		if s.Level <= r.Sections[n].Level {
			break
		}
		words += s.Words
	}
	return words
}

func (f *field) theme(heads []headingVector, group []int) Theme {
	t := Theme{Counts: make([]int, len(f.docs))}
	var places, levels, lengths []float64
	for _, i := range group {
		h := heads[i]
		r := f.docs[h.doc].Reading
		t.Members = append(t.Members, ThemeHeading{f.ranks[h.doc], h.section, h.text, h.level, h.words})
		if t.Counts[h.doc]++; t.Counts[h.doc] == 1 {
			t.Pages++
			t.Sources = append(t.Sources, f.ranks[h.doc])
		}
		places = append(places, float64(r.Sections[h.section].Offset)/float64(max(r.Counts.Words, 1)))
		levels = append(levels, float64(h.level))
		lengths = append(lengths, float64(h.words))
	}
	slices.Sort(t.Sources)
	label := medoid(heads, group)
	t.Label = quietCase(strings.TrimRight(trimNumbering(heads[label].text), ".:"))
	t.Key = key(f.lang.ContentStems(t.Label))
	t.Generic = f.lang.IsGeneric(t.Label)
	t.Place = RangeOf(places).Median
	t.Level = int(math.Round(RangeOf(levels).Median))
	t.Length = RangeOf(lengths)
	t.Terms = leadOf(heads, group)
	return t
}

// leadOf is the twelve stems that lead the sections of a group together.
func leadOf(heads []headingVector, group []int) []string {
	total := map[string]float64{}
	for _, i := range group {
		for _, s := range heads[i].lead {
			total[s.stem] += s.w
		}
	}
	var list []weighted
	for s, w := range total {
		list = append(list, weighted{s, w})
	}
	slices.SortFunc(list, func(a, b weighted) int { return cmp.Or(cmp.Compare(b.w, a.w), strings.Compare(a.stem, b.stem)) })
	stems := []string{}
	for _, s := range list[:min(len(list), 12)] {
		stems = append(stems, s.stem)
	}
	return stems
}

// trimNumbering takes the number off a list item's heading: "3. Lights".
func trimNumbering(s string) string {
	rest := strings.TrimLeft(s, "0123456789")
	if len(rest) < len(s) && rest != "" && strings.ContainsRune(".):", rune(rest[0])) {
		return strings.TrimSpace(rest[1:])
	}
	return s
}

// quietCase writes a heading that is all in capitals as a sentence begins.
func quietCase(s string) string {
	if len(s) < 6 || strings.ToUpper(s) != s || strings.ToLower(s) == s {
		return s
	}
	r := []rune(strings.ToLower(s))
	r[0] = unicode.ToUpper(r[0])
	return string(r)
}

// medoid is the heading with the highest mean similarity to the others of its
// group; of two the same, the shorter.
func medoid(heads []headingVector, group []int) int {
	best, bestSim := group[0], -1.0
	for _, i := range group {
		var sims []float64
		for _, j := range group {
			if i != j {
				sims = append(sims, similarity(heads[i], heads[j]))
			}
		}
		m := mean(sims)
		if m > bestSim+1e-9 || m > bestSim-1e-9 && len(heads[i].text) < len(heads[best].text) {
			best, bestSim = i, m
		}
	}
	return best
}
