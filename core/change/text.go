package change

import (
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/text"

	"github.com/sergi/go-diff/diffmatchpatch"
)

// PageChange is a page that was read both times.
type PageChange struct {
	URL         string `json:"url"`
	Was         string `json:"was,omitempty"` // its address before, where that has changed
	Before      Rank   `json:"before"`
	After       Rank   `json:"after"`
	Title       string `json:"title"`
	TitleWas    string `json:"title_was,omitempty"` // where it has changed
	DateWas     string `json:"date_was"`            // that it gave itself: changed, else published
	Date        string `json:"date"`
	WordsBefore int    `json:"words_before"`
	WordsAfter  int    `json:"words_after"`
	Comparison
}

// Changed tells whether the page reads differently.
func (p PageChange) Changed() bool {
	return p.TitleWas != "" || len(p.Added)+len(p.Cut)+len(p.Sections)+p.Moved > 0
}

// Comparison is two versions of a text.
type Comparison struct {
	// Added is what stands in the text now and did not, in its order: headings and sentences.
	// Cut is what stood there and does not. A sentence that was reworded is in both.
	Added     []string    `json:"added"`
	Cut       []string    `json:"cut"`
	Rewritten []Rewritten `json:"rewritten"`
	Moved     int         `json:"moved"` // headings and sentences that stand elsewhere now
	Sections  []Section   `json:"sections"`
	Stayed    float64     `json:"stayed"` // share of the words of both that stand in both, 0 to 1
}

// Rewritten is a sentence, or a heading, that was reworded.
type Rewritten struct {
	Before string `json:"before"`
	After  string `json:"after"`
}

// SectionState is what became of a section.
type SectionState string

// The states. One that has no words of its own in the other version is added or cut; the words
// of one that is moved stood elsewhere, or under another section's heading.
const (
	SectionAdded     SectionState = "added"
	SectionCut       SectionState = "cut"
	SectionRewritten SectionState = "rewritten"
	SectionMoved     SectionState = "moved"
)

// Section is a section that is not as it was.
type Section struct {
	State       SectionState `json:"state"`
	Heading     string       `json:"heading"`               // empty for the opening
	HeadingWas  string       `json:"heading_was,omitempty"` // where it has changed
	Level       int          `json:"level"`
	WordsBefore int          `json:"words_before"`
	WordsAfter  int          `json:"words_after"`
	Added       int          `json:"added"` // words of sentences that did not stand on the page
	Cut         int          `json:"cut"`

	before, after int // numbers of the sections, -1 for none
}

// unit is a heading or a sentence.
type unit struct {
	section int
	heading bool
	text    string
	words   int
	twin    int // number of the same unit in the other version, -1 for none
	like    int // number of what it was, or has become, in other words; -1 for none
}

func unitsOf(d *corpus.Doc) []unit {
	units := make([]unit, 0, len(d.Sentences))
	for _, s := range d.Sentences {
		t := strings.Join(strings.Fields(s.Text), " ")
		if t == "" {
			continue
		}
		n := text.CountWords(t)
		// A heading of two sentences is one heading.
		if last := len(units) - 1; s.Heading && last >= 0 && units[last].heading && units[last].section == s.Section {
			units[last].text += " " + t
			units[last].words += n
			continue
		}
		units = append(units, unit{s.Section, s.Heading, t, n, -1, -1})
	}
	return units
}

func (u unit) key() string {
	if u.heading {
		return "\x00" + u.text
	}
	return u.text
}

// page compares the two versions of a pair that was read both times.
func (p pair) page() PageChange {
	was, is := p.before.Doc.Reading, p.after.Doc.Reading
	place, _ := p.place()
	pg := PageChange{URL: p.after.URL, Was: place.Was, Before: place.Before, After: place.After, Title: p.after.title(),
		DateWas: dateOf(was.Modified, was.Published), Date: dateOf(is.Modified, is.Published), WordsBefore: was.Counts.Words, WordsAfter: is.Counts.Words}
	if t := p.before.title(); t != pg.Title {
		pg.TitleWas = t
	}
	pg.Comparison = Text(p.before.Doc, p.after.Doc)
	return pg
}

func dateOf(modified, published string) string {
	if modified != "" {
		return modified
	}
	return published
}

// Text compares two versions of a text, sentence by sentence, by the shortest script of edits
// (Myers 1986).
func Text(before, after *corpus.Doc) Comparison {
	c, _, _ := compare(before, after)
	return c
}

func compare(before, after *corpus.Doc) (c Comparison, was, is []unit) {
	c = Comparison{Added: []string{}, Cut: []string{}, Rewritten: []Rewritten{}, Sections: []Section{}, Stayed: 1}
	was, is = unitsOf(before), unitsOf(after)
	c.Moved = twins(was, is, scripts(was, is))
	reword(was, is)
	for _, u := range is {
		if u.twin < 0 {
			c.Added = append(c.Added, u.text)
		}
	}
	for _, u := range was {
		if u.twin < 0 {
			c.Cut = append(c.Cut, u.text)
		}
	}
	for _, u := range is {
		if u.like >= 0 {
			c.Rewritten = append(c.Rewritten, Rewritten{was[u.like].text, u.text})
		}
	}
	c.Sections = sectionsOf(before, after, was, is)
	all, same := 0, 0
	for _, u := range slices.Concat(was, is) {
		all += u.words
		if u.twin >= 0 {
			same += u.words
		}
	}
	if all > 0 {
		c.Stayed = float64(same) / float64(all)
	}
	return c, was, is
}

// scripts are the edits from one version to the other. What stays has its twin set.
func scripts(was, is []unit) (edits []Edit) {
	keys := func(units []unit) []string {
		list := make([]string, len(units))
		for i, u := range units {
			list[i] = u.key()
		}
		return list
	}
	for _, e := range Script(keys(was), keys(is)) {
		if !e.Stays {
			edits = append(edits, e)
			continue
		}
		for n := range e.B1 - e.B0 {
			was[e.B0+n].twin, is[e.A0+n].twin = e.A0+n, e.B0+n
		}
	}
	return edits
}

// Edit is a stretch of two sequences: was[B0:B1] gave way to is[A0:A1], or stays as it is.
type Edit struct {
	Stays          bool
	B0, B1, A0, A1 int
}

// Script is the shortest script of edits that makes one sequence of another (Myers 1986): edits and
// what stays between them, in order.
func Script[T comparable](was, is []T) []Edit {
	number := map[T]int{}
	code := func(list []T) []rune {
		runes := make([]rune, len(list))
		for i, x := range list {
			n, ok := number[x]
			if !ok {
				n = len(number)
				number[x] = n
			}
			runes[i] = runeOf(n)
		}
		return runes
	}
	var script []Edit
	b, a := 0, 0
	for _, d := range shortest(code(was), code(is)) {
		n, stays := len([]rune(d.Text)), d.Type == diffmatchpatch.DiffEqual
		if len(script) == 0 || stays || script[len(script)-1].Stays {
			script = append(script, Edit{stays, b, b, a, a})
		}
		e := &script[len(script)-1]
		if d.Type != diffmatchpatch.DiffInsert {
			b += n
		}
		if d.Type != diffmatchpatch.DiffDelete {
			a += n
		}
		e.B1, e.A1 = b, a
	}
	return script
}

// shortest is the shortest script between two sequences of codes.
func shortest(a, b []rune) []diffmatchpatch.Diff {
	dmp := diffmatchpatch.New()
	dmp.DiffTimeout = 0 // the shortest, however long it takes; and the same each time
	return dmp.DiffMainRunes(a, b, false)
}

// runeOf is a code point for a number: those that UTF-8 can write.
func runeOf(n int) rune {
	const surrogates, after = 0xd800, 0xe000
	r := n + 1
	if r >= surrogates {
		r += after - surrogates
	}
	return rune(min(r, 0x10ffff))
}

// twins finds for what the script cuts whether it adds the same elsewhere: that has moved.
func twins(was, is []unit, edits []Edit) (moved int) {
	cut := map[string][]int{}
	for _, h := range edits {
		for i := h.B0; i < h.B1; i++ {
			cut[was[i].key()] = append(cut[was[i].key()], i)
		}
	}
	for _, h := range edits {
		for i := h.A0; i < h.A1; i++ {
			if at := cut[is[i].key()]; len(at) > 0 {
				was[at[0]].twin, is[i].twin = i, at[0]
				cut[is[i].key()] = at[1:]
				moved++
			}
		}
	}
	return moved
}

// likeReworded is the share of words from which a sentence is another one reworded: the Dice
// coefficient (Dice 1945) of their words. The value is our own.
const likeReworded = 0.5

// maxReworded bounds the pairs that are tried on one page. Our own.
const maxReworded = 1_000_000

// reword finds for what was added which of what was cut it was, in other words: the most alike,
// and of those the nearest.
func reword(was, is []unit) {
	bags := func(units []unit) (list []int, bags []map[string]int) {
		for i, u := range units {
			if u.twin < 0 {
				list, bags = append(list, i), append(bags, bag(u.text))
			}
		}
		return list, bags
	}
	cut, cutBags := bags(was)
	added, addedBags := bags(is)
	if len(cut)*len(added) > maxReworded {
		return
	}
	for n, a := range added {
		best, at := 0.0, -1
		for m, b := range cut {
			if was[b].like >= 0 || was[b].heading != is[a].heading || 3*min(was[b].words, is[a].words) < max(was[b].words, is[a].words) {
				continue // a third of the other's words are too few for the likeness asked for
			}
			s := dice(cutBags[m], addedBags[n])
			if s > best || s == best && at >= 0 && abs(b-a) < abs(at-a) {
				best, at = s, b
			}
		}
		if best >= likeReworded {
			was[at].like, is[a].like = a, at
		}
	}
}

// Likeness is the share of words that two texts have in common, 0 to 1: Dice's coefficient.
func Likeness(a, b string) float64 { return dice(bag(a), bag(b)) }

func bag(s string) map[string]int {
	m := map[string]int{}
	text.EachWord(s, func(w text.Span) { m[text.Fold(w.Of(s))]++ })
	return m
}

// dice is twice what two bags of words share, by what both have, 0 to 1.
func dice(a, b map[string]int) float64 {
	n, both := 0, 0
	for w, k := range a {
		n += k
		both += min(k, b[w])
	}
	for _, k := range b {
		n += k
	}
	if n == 0 {
		return 0
	}
	return 2 * float64(both) / float64(n)
}
