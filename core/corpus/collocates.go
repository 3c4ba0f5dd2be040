package corpus

import (
	"cmp"
	"slices"
	"strings"

	"corpulan/core/language"
	"corpulan/core/reading"
	"corpulan/core/stats"
	"corpulan/core/text"
)

// Collocate is a word that stands near a term.
type Collocate struct {
	Text    string  `json:"text"`  // the commonest form, in small letters
	Stem    string  `json:"stem"`  // of the word
	Count   int     `json:"count"` // times near the term
	Left    int     `json:"left"`  // of Count, before it
	Pages   int     `json:"pages"`
	LogDice float64 `json:"log_dice"` // see stats.LogDice
}

// How near a word must stand, in words to either side within the sentence, and how
// often, to be a collocate. Common practice of corpus linguistics, no published source.
const (
	collocationSpan = 4
	minTogether     = 2
)

// Collocates are the words that stand near a term, given by its keys, the most strongly
// bound first. Function words, figures and the term's own words are none.
func Collocates(pages []RankedPage, keys ...string) []Collocate {
	c := collocation{keys: keys, own: map[string]bool{}, found: map[string]*near{}, all: map[string]int{}}
	for _, k := range keys {
		c.longest = max(c.longest, strings.Count(k, " ")+1)
		for s := range strings.FieldsSeq(k) {
			c.own[s] = true
		}
	}
	for n, p := range pages {
		lang := language.For(p.Doc.Language)
		shape := newShape(p.Doc, lang)
		for i := range p.Doc.Sentences {
			s := &p.Doc.Sentences[i]
			if s.Kind == reading.LineCode || s.Again || s.Foreign {
				continue
			}
			for _, t := range s.Tokens {
				if !t.Stop {
					c.all[t.Stem]++
				}
			}
			if s.holds(keys) {
				shape.each(s.Tokens, func(from, to int) { c.note(n, s, from, to, lang) })
			}
		}
	}
	return c.list()
}

// collocation counts what stands near the uses of a term.
type collocation struct {
	keys    []string
	longest int             // words of a key
	own     map[string]bool // stems of the keys
	found   map[string]*near
	all     map[string]int // stem -> uses in the field
	hits    int
}

// near is a word near the term, by its forms; page is the last it was met on.
type near struct {
	Collocate
	forms map[string]int
	page  int
}

// note counts the words beside the tokens from..to, if they are the term.
func (c *collocation) note(page int, s *Sentence, from, to int, lang *language.Language) {
	if to-from > c.longest || !slices.Contains(c.keys, StemKey(s.Tokens[from:to])) {
		return
	}
	c.hits++
	for at := max(0, from-collocationSpan); at < min(len(s.Tokens), to+collocationSpan); at++ {
		t := s.Tokens[at]
		if at >= from && at < to || t.Stop || t.Number || c.own[t.Stem] || lang.Light(t.Folded) || len(t.Folded) < 2 {
			continue
		}
		w := c.found[t.Stem]
		if w == nil {
			w = &near{Collocate: Collocate{Stem: t.Stem}, forms: map[string]int{}, page: -1}
			c.found[t.Stem] = w
		}
		w.Count++
		if at < from {
			w.Left++
		}
		if w.page != page {
			w.Pages++
			w.page = page
		}
		w.forms[strings.ToLower(s.Text[t.Start:t.End])]++
	}
}

func (c *collocation) list() (list []Collocate) {
	for stem, w := range c.found {
		if w.Count < minTogether {
			continue
		}
		for form, n := range w.forms {
			if best := w.forms[w.Text]; n > best || n == best && form < w.Text {
				w.Text = form
			}
		}
		w.LogDice = stats.LogDice(float64(w.Count), float64(c.hits), float64(c.all[stem]))
		list = append(list, w.Collocate)
	}
	slices.SortFunc(list, func(a, b Collocate) int {
		return cmp.Or(cmp.Compare(b.LogDice, a.LogDice), b.Count-a.Count, strings.Compare(a.Stem, b.Stem))
	})
	return list
}

// Side is what lines of a concordance are ordered by.
type Side string

// The orders of a concordance.
const (
	ByPage  Side = "page"
	ByLeft  Side = "left"
	ByRight Side = "right"
)

// neighbours is how many words to a side decide the order of lines. Our own.
const neighbours = 3

// SortLines orders lines by the words before the hit, the nearest first, or by those
// after it; lines with the same words stay in the pages' order.
func SortLines(lines []ConcordanceLine, by Side) {
	if by != ByLeft && by != ByRight {
		return
	}
	type keyed struct {
		key  string
		line ConcordanceLine
	}
	list := make([]keyed, len(lines))
	for i, l := range lines {
		side := l.Right
		if by == ByLeft {
			side = l.Left
		}
		var words []string
		text.EachWord(side, func(w text.Span) { words = append(words, text.Fold(w.Of(side))) })
		if by == ByLeft {
			slices.Reverse(words)
		}
		list[i] = keyed{strings.Join(words[:min(len(words), neighbours)], " "), l}
	}
	slices.SortStableFunc(list, func(a, b keyed) int { return strings.Compare(a.key, b.key) })
	for i := range list {
		lines[i] = list[i].line
	}
}
