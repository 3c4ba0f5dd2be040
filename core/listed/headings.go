package listed

import (
	"cmp"
	"slices"
	"strconv"
	"strings"

	"corpulan/core/language"
	"corpulan/core/reading"
	"corpulan/core/text"
)

// What makes headings a list of things, our own: how many stand side by side, and how many of them are named and have
// the shape of an entry.
const (
	fewestListed = 3
	mostNamed    = 0.6
	maxListed    = 500 // headings of one page that are read; a longer list is a catalogue
)

// headings are the lists of things that the headings of a page are.
func (f *finder) headings(page int) (found []list) {
	d := f.Docs[page]
	var groups [][]heading
	at := map[[2]int]int{}
	open := map[int]int{} // level -> section
	title, _ := d.Reading.TitleSection()
	listing := f.isListTitle(d.Reading)
	read := 0
	for n, s := range d.Reading.Sections {
		if s.Level == 0 || n == title {
			continue
		}
		if read++; read > maxListed {
			break
		}
		h := f.read(s.Heading)
		h.section, h.level, h.parent = n, s.Level, -1
		for l := s.Level - 1; l > 0 && h.parent < 0; l-- {
			if p, ok := open[l]; ok {
				h.parent = p
			}
		}
		for l := range open {
			if l >= s.Level {
				delete(open, l)
			}
		}
		open[s.Level] = n
		k := [2]int{h.level, h.parent}
		i, ok := at[k]
		if !ok {
			i = len(groups)
			at[k] = i
			groups = append(groups, nil)
		}
		groups[i] = append(groups[i], h)
	}
	for _, g := range groups {
		if len(g) < fewestListed {
			continue
		}
		f.counted(page, g)
		l := f.listOf(page, g, listing)
		if !l.sure {
			if under := f.listOf(page, f.underVerdicts(page, g), listing); under.sure {
				l = under
			}
		}
		if len(l.entries) > 0 {
			found = append(found, l)
		}
	}
	return found
}

// counted reads headings again that begin with a number without any sign behind it, "1 Merrow Ridge", if they go on counting.
func (f *finder) counted(page int, group []heading) {
	next, from := 0, make([]int, len(group))
	for i, h := range group {
		number, rest, ok := strings.Cut(f.Docs[page].Reading.Sections[h.section].Heading, " ")
		n, err := strconv.Atoi(number)
		if !ok || err != nil || rest == "" || next > 0 && n != next+1 && n != next-1 {
			continue
		}
		next, from[i] = n, n
	}
	if len(slices.DeleteFunc(slices.Clone(from), func(n int) bool { return n == 0 })) < fewestListed {
		return
	}
	for i, n := range from {
		if n > 0 {
			old := group[i]
			_, rest, _ := strings.Cut(f.Docs[page].Reading.Sections[old.section].Heading, " ")
			group[i] = f.read(rest)
			group[i].section, group[i].level, group[i].parent = old.section, old.level, old.parent
			group[i].number, group[i].hasShape = n, true
		}
	}
}

// underVerdicts are the headings that only tell a verdict, "Best for espresso", read with the name that stands below each: the
// only heading there, or the first line.
func (f *finder) underVerdicts(page int, group []heading) (named []heading) {
	const longest = 12 // words of the line; our own
	sections := f.Docs[page].Reading.Sections
	for _, h := range group {
		if h.named == clearly || !f.tellsVerdict(sections[h.section].Heading) {
			continue
		}
		name, at := "", h.section
		if from, to := f.below(page, h.section); to == from+2 && sections[from].Words == 0 {
			name, at = sections[from+1].Heading, from+1
		} else {
			for kind, line := range sections[h.section].Blocks() {
				if kind == reading.LineParagraph && text.CountWords(line) <= longest {
					name = line
				}
				break
			}
		}
		n := f.read(name)
		if n.named < surely {
			// more may stand below than the only heading: what is good, what is bad
			if from, to := f.below(page, h.section); to > from+1 && sections[from].Words == 0 {
				n = f.read(sections[from+1].Heading)
				at = from + 1
			}
		}
		if n.named >= surely {
			n.section, n.hasShape, n.isNamed = at, true, true
			n.verdict = cmp.Or(n.verdict, strings.TrimSpace(text.WithoutNumber(sections[h.section].Heading)))
			named = append(named, n)
		}
	}
	return named
}

// lines are the lists of things that items of a section are, one a line: "Best for wide feet: Oakwyn Fell 3".
func (f *finder) lines(page int) (found []list) {
	const longest = 16 // words of an item; our own
	for n, s := range f.Docs[page].Reading.Sections {
		if !strings.ContainsRune(s.Lines, reading.LineItem) {
			continue
		}
		var items []heading
		all := 0
		for kind, line := range s.Blocks() {
			if kind != reading.LineItem {
				continue
			}
			all++
			if text.CountWords(line) > longest {
				continue
			}
			if sentences := f.Language.Sentences(line); len(sentences) > 1 {
				line = sentences[0].Of(line)
			}
			if h := f.read(line); h.verdict != "" && h.named >= surely && f.tellsVerdict(h.verdict) {
				h.section = n
				items = append(items, h)
			}
		}
		if len(items) < fewestListed || float64(len(items)) < mostNamed*float64(all) {
			continue
		}
		l := list{sure: true}
		for i, h := range items {
			e := entry{page: page, Place: Place{Rank: f.Ranks[page], Section: n, Position: i + 1, Of: len(items), By: ByItem, Name: h.name, Verdict: h.verdict}}
			p := saying{finder: f, e: &e, section: n}
			p.prices(h.price)
			l.entries = append(l.entries, e)
		}
		found = append(found, l)
	}
	return found
}

// listOf is the list that headings side by side are: those with a number, a verdict or a price, if most of them are
// named; else those with a name below which a price or what is good and bad is told.
func (f *finder) listOf(page int, group []heading, listing bool) list {
	var shaped, told, all []heading
	named, common := 0, 0
	for _, h := range group {
		if h.hasShape {
			switch name := f.nameWithin(h.name); {
			case h.isNamed:
				named++
			case listing && f.isCommon(h.name):
				common++
			case listing && name != "":
				h.name = name
				common++
			}
			shaped = append(shaped, h)
		}
		if h.named > noName {
			all = append(all, h)
		}
	}
	least := func(n, of int) bool { return n >= fewestListed && float64(n) >= mostNamed*float64(of) }
	if f.distinct(shaped) < fewestListed {
		shaped, named, common = nil, 0, 0 // one thing, matter by matter
	}
	if least(named, len(shaped)) || listing && least(named+common, len(shaped)) && least(len(shaped), len(group)) {
		return list{f.entries(page, shaped), true}
	}
	labels := map[string]bool{}
	if listing || len(shaped) >= fewestListed {
		labels = f.sharedLabels(page, group)
	}
	for _, h := range group {
		if h.named >= surely && f.tellsWare(page, h.section) || (listing || h.number > 0) && f.hasLabel(page, h.section, labels) {
			told = append(told, h)
		}
	}
	if len(told) >= fewestListed {
		return list{f.entries(page, told), true}
	}
	return list{f.entries(page, all), false}
}

// distinct counts the names of headings, each once.
func (f *finder) distinct(group []heading) int {
	names := map[string]bool{}
	for _, h := range group {
		names[keyOf(f.bare(h.name))] = true
	}
	return len(names)
}

// sharedLabels are the labels of figures that enough sections side by side have: "Length: 12 km".
func (f *finder) sharedLabels(page int, group []heading) map[string]bool {
	n := map[string]int{}
	for _, h := range group {
		for l := range f.labelsBelow(page, h.section) {
			n[l]++
		}
	}
	shared := map[string]bool{}
	for l, times := range n {
		if times >= fewestListed && float64(times) >= mostNamed*float64(len(group)) {
			shared[l] = true
		}
	}
	return shared
}

func (f *finder) hasLabel(page, section int, labels map[string]bool) bool {
	if len(labels) == 0 {
		return false
	}
	for l := range f.labelsBelow(page, section) {
		if labels[l] {
			return true
		}
	}
	return false
}

// labelsBelow are the labels under which a section gives figures.
func (f *finder) labelsBelow(page, section int) map[string]bool {
	labels := map[string]bool{}
	for _, line := range f.Docs[page].Reading.Sections[section].Blocks() {
		for _, p := range f.pairs(line) {
			if v, ok := f.valueOf(p.told); ok && v.isQuantity() || f.labelOf(p.label) == language.LabelPrice {
				labels[text.Fold(p.label)] = true
			}
		}
	}
	return labels
}

// entries are headings as entries of a list, with what stands below them.
func (f *finder) entries(page int, group []heading) (entries []entry) {
	for n, h := range group {
		e := entry{page: page, Place: Place{Rank: f.Ranks[page], Section: h.section, Position: n + 1, Of: len(group), By: ByHeading, Name: h.name, Verdict: h.verdict}}
		p := saying{finder: f, e: &e, section: h.section}
		p.prices(h.price)
		f.readBelow(&e)
		entries = append(entries, e)
	}
	return entries
}

// isListTitle tells a page whose title promises the best of something, or a number of them.
func (f *finder) isListTitle(r *reading.Reading) bool {
	const within = 5 // words; our own
	for _, title := range []string{r.Title, titleOf(r)} {
		if _, asks := f.Language.KindOfQuestion(title); asks {
			continue
		}
		words := strings.Fields(title)
		for _, w := range words[:min(len(words), within)] {
			if f.Language.TellsBest(strings.Trim(w, ".,:;!")) {
				return true
			}
		}
	}
	return false
}

func titleOf(r *reading.Reading) string {
	if n, _ := r.TitleSection(); n >= 0 {
		return r.Sections[n].Heading
	}
	return ""
}
