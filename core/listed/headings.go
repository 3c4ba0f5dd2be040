package listed

import (
	"strings"

	"corpulan/core/reading"
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
		if l := f.listOf(page, g, listing); len(l.entries) > 0 {
			found = append(found, l)
		}
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
			shaped = append(shaped, h)
			if h.isNamed {
				named++
			} else if listing && f.isCommon(h.name) {
				common++
			}
		}
		if h.named > noName {
			all = append(all, h)
		}
	}
	least := func(n, of int) bool { return n >= fewestListed && float64(n) >= mostNamed*float64(of) }
	if least(named, len(shaped)) || listing && least(named+common, len(shaped)) && least(len(shaped), len(group)) {
		return list{f.entries(page, shaped), true}
	}
	for _, h := range group {
		if h.named >= surely && f.tellsWare(page, h.section) {
			told = append(told, h)
		}
	}
	if len(told) >= fewestListed {
		return list{f.entries(page, told), true}
	}
	return list{f.entries(page, all), false}
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
