package brief

import (
	"cmp"
	"slices"
	"strings"

	"corpulan/core/evidence"
	"corpulan/core/language"
	"corpulan/core/themes"
)

// proposedThemes are the numbers of the themes to propose, those that most of the field
// has first. Where they are too few, those of two pages come in: few is then true.
func proposedThemes(e *evidence.Evidence) (list []int, few bool) {
	var all []int // in the order of their share
	for i, t := range e.Themes {
		if t.Recommended() {
			all = append(all, i)
			if t.Share >= outlineShare {
				list = append(list, i)
			}
		}
	}
	if len(list) >= leastSections || len(all) == len(list) {
		return list, false
	}
	return all[:min(len(all), mostOfTwo)], true
}

// outline proposes the themes that enough of the field has, in their usual
// order, with one level of sub-themes, and shares the words out among them as
// the field does. It returns the words left for the opening, and a note where so few
// themes are shared that those of two pages are proposed.
func outline(e *evidence.Evidence, c Choices, target int) (outlined []Section, opening int, note string) {
	proposed, few := proposedThemes(e)
	if few {
		note = "Few themes are shared by enough of the field; some of two pages and more are proposed as well."
	}
	in := map[string]themes.Theme{}
	var picks []themes.Theme
	for i, t := range e.Themes {
		state := c.State(ThemeKind, t.Key)
		if state == Adopted || state == "" && slices.Contains(proposed, i) {
			if _, twice := in[t.Key]; !twice {
				in[t.Key] = t
				picks = append(picks, t)
			}
		}
	}
	byPlace(picks)
	sections := []Section{}
	lengths := []float64{}
	for _, t := range picks {
		if parent, ok := in[t.Parent]; ok && parent.Parent != t.Key {
			continue // set below its parent
		}
		s := sectionOf(e, t, 2, c)
		var children []themes.Theme
		for _, ch := range picks {
			if ch.Key != t.Key && topParent(in, ch) == t.Key {
				children = append(children, ch)
			}
		}
		byPlace(children)
		childLengths := make([]float64, len(children))
		for i, ch := range children {
			s.Children = append(s.Children, sectionOf(e, ch, 3, c))
			childLengths[i] = usualLength(ch)
		}
		length := max(usualLength(t), sumOf(childLengths))
		sections = append(sections, s)
		lengths = append(lengths, length)
	}
	for _, m := range gone(c, ThemeKind, func(m Mark) bool {
		return slices.ContainsFunc(e.Themes, func(t themes.Theme) bool { return t.Key == m.Key })
	}) {
		sections = append(sections, Section{Key: m.Key, Level: 2, Heading: m.Text, Sources: []int{}, Questions: []string{}, Points: []Point{}, Children: []Section{}, Gone: !strings.HasPrefix(m.Key, OwnPrefix), Note: c.Notes[m.Key]})
		lengths = append(lengths, 100)
	}
	if len(sections) == 0 {
		return sections, target, note
	}
	byHand(sections, lengths, c)
	opening = openingLength(target)
	shares := shareOut(target-opening, lengths)
	for i := range sections {
		sections[i].Words = shares[i]
		shareAmongChildren(&sections[i], picks)
	}
	return sections, opening, note
}

// byHand puts sections in the order a person gave them, and gives them the headings they
// wrote. A section that the order does not know stays behind the one before it.
func byHand(sections []Section, lengths []float64, c Choices) {
	each(sections, func(s *Section) {
		if own := strings.TrimSpace(c.Typed[HeadingPrefix+s.Key]); own != "" {
			s.Heading = own
		}
	})
	if c.Typed[FieldOrder] == "" {
		return
	}
	place := map[string]int{}
	for i, key := range strings.Split(c.Typed[FieldOrder], "\n") {
		place[key] = i + 1
	}
	type ordered struct {
		Section
		length float64
		at     int
	}
	list := make([]ordered, len(sections))
	last := 0
	for i, s := range sections {
		if at := place[s.Key]; at > 0 {
			last = at
		}
		list[i] = ordered{s, lengths[i], last}
	}
	slices.SortStableFunc(list, func(a, b ordered) int { return a.at - b.at })
	for i, o := range list {
		sections[i], lengths[i] = o.Section, o.length
	}
}

func byPlace(t []themes.Theme) {
	slices.SortStableFunc(t, func(a, b themes.Theme) int {
		return cmp.Or(cmp.Compare(a.Place, b.Place), strings.Compare(a.Key, b.Key))
	})
}

// topParent climbs to the theme at the top, at most three steps so that a
// circle of themes ends.
func topParent(in map[string]themes.Theme, t themes.Theme) string {
	k := t.Key
	for range 3 {
		parent, ok := in[in[k].Parent]
		if !ok || parent.Parent == k {
			break
		}
		k = parent.Key
	}
	if k == t.Key {
		return ""
	}
	return k
}

func sectionOf(e *evidence.Evidence, t themes.Theme, level int, c Choices) Section {
	return Section{Key: t.Key, Level: level, Heading: t.Label, Pages: t.Pages, Sources: t.Sources, Note: c.Notes[t.Key], Questions: []string{}, Points: pointsOf(e, t.Key, c), Children: []Section{}}
}

// mostPoints is how many points stand under a section. Our own.
const mostPoints = 4

// pointsOf are the first points of a theme that nobody dropped, and those that somebody
// adopted, in the words that a person gave them where one did.
func pointsOf(e *evidence.Evidence, theme string, c Choices) []Point {
	list := []Point{}
	for _, p := range e.PointsOf(theme) {
		if !picked(c, PointKind, p.Key, len(list) < mostPoints) {
			continue
		}
		out := Point{Key: p.Key, Text: p.Text, Rank: p.Rank, Sources: p.Ranks}
		for _, d := range p.Disputed {
			for _, v := range d.Values {
				out.Disputed = append(out.Disputed, v.Text)
			}
		}
		if own, ok := c.Typed[PointPrefix+p.Key]; ok && own != "" {
			out.Text, out.Edited = own, own != p.Text
		}
		list = append(list, out)
	}
	return list
}

func usualLength(t themes.Theme) float64 { return max(t.Length.Median, 30) }

func sumOf(x []float64) float64 {
	s := 0.0
	for _, v := range x {
		s += v
	}
	return s
}

// openingLength is a tenth of the page, in steps of ten words, at most 150.
// Common practice, no published source.
func openingLength(target int) int {
	return min(target/10/roundSectionsTo*roundSectionsTo, 150)
}

// shareAmongChildren gives sub-sections their part of a section's words and
// leaves some for the section itself.
// A fifth is our own figure.
func shareAmongChildren(s *Section, picks []themes.Theme) {
	if len(s.Children) == 0 {
		return
	}
	parts := []float64{0}
	for _, ch := range s.Children {
		i := slices.IndexFunc(picks, func(t themes.Theme) bool { return t.Key == ch.Key })
		parts = append(parts, usualLength(picks[i]))
	}
	parts[0] = 0.2 * sumOf(parts)
	for i, words := range shareOut(s.Words, parts)[1:] {
		s.Children[i].Words = words
	}
}

// shareOut splits a total in proportion to the parts, in steps of ten words,
// so that the shares add up to the total (largest remainders, after Hamilton).
func shareOut(total int, parts []float64) []int {
	shares := make([]int, len(parts))
	all := sumOf(parts)
	if all <= 0 {
		return shares
	}
	steps := total / roundSectionsTo
	left := steps
	order := make([]int, len(parts))
	rest := make([]float64, len(parts))
	for i, p := range parts {
		exact := float64(steps) * p / all
		shares[i] = int(exact)
		rest[i] = exact - float64(shares[i])
		left -= shares[i]
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(rest[b], rest[a]) })
	for _, i := range order[:left] {
		shares[i]++
	}
	for i := range shares {
		shares[i] *= roundSectionsTo
	}
	shares[order[0]] += total % roundSectionsTo
	return shares
}

// placeQuestions puts each question under the section of the outline whose
// headings and leading words it shares most with.
// The least score is our own: a word that leads two sections is enough, a vaguer one
// is not.
func placeQuestions(b *Brief, e *evidence.Evidence) {
	lang := language.For(e.Language)
	common := commonStems(b.Questions, e.Keyword, lang)
	profiles := map[string]map[string]float64{} // theme key -> stem -> 1 in its headings, 0.5 leading its sections
	spread := map[string]float64{}              // in how many sections of the outline a stem stands
	each(b.Outline, func(s *Section) {
		i := slices.IndexFunc(e.Themes, func(t themes.Theme) bool { return t.Key == s.Key })
		if i < 0 {
			return
		}
		profiles[s.Key] = profile(e.Themes[i], lang)
		for st := range profiles[s.Key] {
			spread[st]++
		}
	})
	for i := range b.Questions {
		q := &b.Questions[i]
		stems := lang.ContentStems(q.Text)
		var best *Section
		bestScore := 0.24 // a word that leads two sections is enough, a vaguer one is not
		each(b.Outline, func(s *Section) {
			score := 0.0
			for _, st := range stems {
				if !common[st] {
					score += profiles[s.Key][st] / max(spread[st], 1)
				}
			}
			if score > bestScore {
				best, bestScore = s, score
			}
		})
		if best == nil {
			continue
		}
		q.Section = best.Heading
		if !strings.EqualFold(strings.TrimRight(best.Heading, "?"), strings.TrimRight(q.Text, "?")) {
			best.Questions = append(best.Questions, q.Text)
		}
	}
}

// commonStems are the keyword's own, and those that a quarter of the questions
// have ("cycle", "work"): they do not tell one section from another.
func commonStems(questions []Question, keyword string, lang *language.Language) map[string]bool {
	common, in := map[string]bool{}, map[string]int{}
	for _, s := range lang.ContentStems(keyword) {
		common[s] = true
	}
	for _, q := range questions {
		stems := lang.ContentStems(q.Text)
		slices.Sort(stems)
		for _, s := range slices.Compact(stems) {
			if in[s]++; in[s] >= max(3, (len(questions)+3)/4) {
				common[s] = true
			}
		}
	}
	return common
}

func profile(t themes.Theme, lang *language.Language) map[string]float64 {
	p := map[string]float64{}
	for _, s := range t.Terms {
		p[s] = 0.5
	}
	for _, m := range t.Members {
		for _, s := range lang.ContentStems(m.Text) {
			p[s] = 1
		}
	}
	return p
}

// each visits the sections of an outline, parents first.
func each(sections []Section, visit func(*Section)) {
	for i := range sections {
		visit(&sections[i])
		each(sections[i].Children, visit)
	}
}
