package brief

import (
	"cmp"
	"slices"
	"strings"

	"corpulan/core/evidence"
	"corpulan/core/language"
	"corpulan/core/message"
	"corpulan/core/points"
	"corpulan/core/themes"
)

// ProposedThemes are the numbers of the themes to propose of a field of some pages, those that most of it
// has first. Where they are too few, those of two pages come in: few is then true.
func ProposedThemes(found []themes.Theme, pages int) (list []int, few bool) {
	var all []int // in the order of their share
	for i, t := range found {
		if t.Recommended() {
			all = append(all, i)
			if t.Share >= outlineShare && outlinePart*t.Pages >= pages {
				list = append(list, i)
			}
		}
	}
	if len(list) >= minSections || len(all) == len(list) {
		return list, false
	}
	return all[:min(len(all), maxOfTwo)], true
}

// node is a section in the making, with what its share of the words goes by.
type node struct {
	Section
	length float64 // words that the field gives it
	place  float64 // where in a page it usually stands, 0 to 1
}

// outline is the person's, where there is one; else the themes that enough of the field
// has, in their usual order, with one level of sub-themes. The words are shared out among
// the sections as the field does. It returns the words left for the opening, and a note where so few
// themes are shared that those of two pages are proposed.
func outline(e *evidence.Evidence, c Choices, kind Template, target int) (outlined []Section, opening int, note message.Message) {
	proposed, few := ProposedThemes(e.Themes, len(e.Sources))
	if few && c.Outline == nil {
		note = "Few themes are shared by enough of the field; some of two pages and more are proposed as well."
	}
	lines := c.Outline
	in := map[string]themes.Theme{}
	var picks []themes.Theme
	for i, t := range e.Themes {
		state := c.State(ThemeKind, t.Key)
		if t.Key == evidence.PicksKey && state == "" && !kind.listsThings() {
			continue // a guide does not go through things
		}
		if state == Adopted || state == Standing || state == "" && slices.Contains(proposed, i) && (lines == nil || lines.has(t.Key)) {
			if _, twice := in[t.Key]; !twice {
				in[t.Key] = t
				picks = append(picks, t)
			}
		}
	}
	byPlace(picks)
	if kind.ByShare {
		slices.SortStableFunc(picks, func(a, b themes.Theme) int { return b.Pages - a.Pages })
	}
	var nodes []node
	if lines == nil {
		nodes = fold(inUsualOrder(e, c, kind, in, picks), e, c, sectionsFor(target-openingLength(target)))
	} else {
		nodes = byHand(e, c, lines, picks)
	}
	if len(nodes) == 0 {
		return []Section{}, target, note
	}
	for i := range nodes {
		if own := strings.TrimSpace(textOf(c.Sections[nodes[i].Key].Heading)); own != "" {
			nodes[i].Heading = own
		}
	}
	opening = openingLength(target)
	s := sharing{lengths: map[string]float64{}, c: c}
	if lines == nil {
		even(s.lengths, nodes)
	} else {
		for _, n := range nodes {
			if !n.Folded {
				s.lengths[n.Key] = n.length
			}
		}
	}
	outlined = nest(nodes)
	s.share(outlined, target-opening, 0)
	return outlined, opening, note
}

// inUsualOrder is the outline as the field has it: themes at the top, sub-themes below
// theirs; before them what pages of the kind open with, and last what a person added.
func inUsualOrder(e *evidence.Evidence, c Choices, kind Template, in map[string]themes.Theme, picks []themes.Theme) []node {
	var nodes []node
	for _, t := range picks {
		if parent, ok := in[t.Parent]; ok && parent.Parent != t.Key {
			continue // set below its parent
		}
		nodes = append(nodes, nodeOf(e, t, TopLevel, c))
		for _, ch := range picks {
			if ch.Key != t.Key && topParent(in, ch) == t.Key {
				nodes = append(nodes, nodeOf(e, ch, TopLevel+1, c))
			}
		}
	}
	var first []node
	for _, m := range beyond(e, c) {
		if n := ownNode(e, c, m, TopLevel); kind.opens(m.Key, e.Language) {
			first = append(first, n)
		} else {
			nodes = append(nodes, n)
		}
	}
	return slices.Concat(first, nodes)
}

// byHand is the outline as a person has it. What was adopted since, elsewhere, comes where
// it usually stands; what was dropped is left out.
func byHand(e *evidence.Evidence, c Choices, lines Lines, picks []themes.Theme) []node {
	made := map[string]node{}
	for _, t := range picks {
		made[t.Key] = nodeOf(e, t, TopLevel, c)
	}
	var own []string
	for _, m := range beyond(e, c) {
		made[m.Key] = ownNode(e, c, m, TopLevel)
		own = append(own, m.Key)
	}
	for _, x := range lines { // two sections that are of one theme by now
		if i := slices.IndexFunc(e.Themes, func(t themes.Theme) bool { return t.Key == c.joint[x.Key] }); i >= 0 {
			n := nodeOf(e, e.Themes[i], TopLevel, c)
			n.Key, n.Note = x.Key, c.noteOn(x.Key)
			made[x.Key] = n
		}
	}
	for key, n := range made {
		if x := c.Sections[key].Stood; x != nil {
			theme := key
			if t, ok := c.joint[key]; ok {
				theme = t
			}
			x.as(&n, e, e.PointsOf(theme), c)
			made[key] = n
		}
	}
	lines = lines.without(func(key string) bool { _, ok := made[key]; return !ok })
	for _, t := range picks {
		if lines.has(t.Key) {
			continue
		}
		if p := lines.At(t.Parent); p >= 0 && lines[p].Level < DeepestLevel {
			lines = slices.Insert(lines, lines.end(p), OutlineLine{Level: lines[p].Level + 1, Key: t.Key})
			continue
		}
		at := slices.IndexFunc(lines, func(x OutlineLine) bool { return x.Level == TopLevel && made[x.Key].place > t.Place })
		if at < 0 {
			at = len(lines)
		}
		lines = slices.Insert(lines, at, OutlineLine{Level: TopLevel, Key: t.Key})
	}
	for _, key := range own {
		if !lines.has(key) {
			lines = append(lines, OutlineLine{Level: TopLevel, Key: key})
		}
	}
	nodes := make([]node, len(lines))
	for i, x := range lines {
		nodes[i] = made[x.Key]
		nodes[i].Level, nodes[i].Folded = x.Level, x.Folded
	}
	return nodes
}

// beyond are the adopted sections that are no theme of today: a person's own, and those
// whose theme is on no kept page any more.
func beyond(e *evidence.Evidence, c Choices) []Mark {
	return gone(c, ThemeKind, func(m Mark) bool {
		return slices.ContainsFunc(e.Themes, func(t themes.Theme) bool { return t.Key == m.Key })
	})
}

func nodeOf(e *evidence.Evidence, t themes.Theme, level int, c Choices) node {
	struck := 0
	for _, p := range e.PointsOf(t.Key) {
		if c.State(PointKind, p.Key) == Dropped {
			struck++
		}
	}
	var show *Show
	if i := slices.IndexFunc(e.Shown, func(x evidence.Shown) bool { return x.Theme == t.Key }); i >= 0 {
		x := e.Shown[i]
		show = &Show{x.Form, x.Heads, x.Says, x.Sources}
	}
	return node{Section{Key: t.Key, Show: show, Level: level, Heading: t.Label, Struck: struck, Pages: t.Pages, Sources: t.Sources, Best: bestPages(t), Note: c.noteOn(t.Key),
		Questions: []string{}, Terms: []string{}, Points: pointsOf(e, t.Key, c), Children: []Section{}}, usualLength(t), t.Place}
}

// ownLength is what a section gets that the field has no length for, in words. Our own.
const ownLength = 100

// ownNode is a section of a person's own. Where pages have a heading of the same words they
// are its sources.
func ownNode(e *evidence.Evidence, c Choices, m Mark, level int) node {
	n := node{Section{Key: m.Key, Level: level, Heading: m.Text, Sources: []int{}, Best: []int{}, Gone: !strings.HasPrefix(m.Key, OwnPrefix), Note: c.noteOn(m.Key),
		Questions: []string{}, Terms: []string{}, Points: []Point{}, Children: []Section{}}, ownLength, 1}
	if key, own := strings.CutPrefix(m.Key, OwnPrefix); own {
		lang := language.For(e.Language)
		for _, t := range e.Themes {
			for _, h := range t.Members {
				if !slices.Contains(n.Sources, h.Rank) && lang.PhraseKey(h.Text) == key {
					n.Sources = append(n.Sources, h.Rank)
				}
			}
		}
		slices.Sort(n.Sources)
		n.Pages = len(n.Sources)
	}
	return n
}

// maxBest is how many pages a section names as those that treat it best. Our own.
const maxBest = 2

// bestPages are the ranks of the pages that say most of a theme in a section of its own.
func bestPages(t themes.Theme) []int {
	own := slices.DeleteFunc(slices.Clone(t.Coverage), func(x themes.Cover) bool { return x.How != themes.InSection })
	slices.SortStableFunc(own, func(a, b themes.Cover) int { return cmp.Compare(b.Words, a.Words) })
	best := []int{}
	for _, x := range own[:min(len(own), maxBest)] {
		best = append(best, x.Rank)
	}
	return best
}

// nest sets sections below those before them that are of a higher level.
func nest(nodes []node) []Section {
	list := []Section{}
	for i := 0; i < len(nodes); {
		end := i + 1
		for end < len(nodes) && nodes[end].Level > nodes[i].Level {
			end++
		}
		s := nodes[i].Section
		s.Children = nest(nodes[i+1 : end])
		list = append(list, s)
		i = end
	}
	return list
}

// byPlace orders themes by where they usually stand, and of two neighbours that one first which most of the pages
// that have both put first: the water is turned off before the tap is opened.
func byPlace(list []themes.Theme) {
	slices.SortStableFunc(list, func(a, b themes.Theme) int {
		return cmp.Or(cmp.Compare(a.Place, b.Place), strings.Compare(a.Key, b.Key))
	})
	for range list { // as often as it takes; majorities may run in a circle
		moved := false
		for i := 1; i < len(list); i++ {
			if precedes(list[i], list[i-1]) >= firstOnMore {
				list[i-1], list[i] = list[i], list[i-1]
				moved = true
			}
		}
		if !moved {
			return
		}
	}
}

// firstOnMore is on how many more pages a theme stands before another than behind it, to be put before it. Our own.
const firstOnMore = 2

// precedes is on how many more pages one theme begins before another than behind it.
func precedes(a, b themes.Theme) (n int) {
	first := func(t themes.Theme) map[int]int {
		at := map[int]int{}
		for _, m := range t.Members {
			if s, ok := at[m.Rank]; !ok || m.Section < s {
				at[m.Rank] = m.Section
			}
		}
		return at
	}
	other := first(b)
	for rank, at := range first(a) {
		if s, ok := other[rank]; ok && s != at {
			if at < s {
				n++
			} else {
				n--
			}
		}
	}
	return n
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

// maxPoints is how many points stand under a section. Our own.
const maxPoints = 4

// pointsOf are the first points of a theme that nobody dropped, and those that somebody
// adopted, in the words that a person gave them where one did.
func pointsOf(e *evidence.Evidence, theme string, c Choices) []Point {
	list := []Point{}
	found := e.PointsOf(theme)
	if c.basis != nil && !slices.ContainsFunc(found, func(p points.Point) bool { return c.State(PointKind, p.Key) == Standing }) {
		c.basis = nil // a section that has come since has the points that are proposed
	}
	for _, p := range found {
		if !picked(c, PointKind, p.Key, len(p.Ranks) > 1 && len(list) < maxPoints) {
			continue
		}
		list = append(list, pointOf(p, c))
	}
	return list
}

// Each visits the sections of the outline, parents first.
func (b Brief) Each(visit func(*Section)) { each(b.Outline, visit) }

// each visits the sections of an outline, parents first.
func each(sections []Section, visit func(*Section)) {
	for i := range sections {
		visit(&sections[i])
		each(sections[i].Children, visit)
	}
}
