package language

import (
	"cmp"
	"embed"
	"slices"
	"strings"

	"corpulan/core/text"
)

// Matter is a general matter: a facet that any subject has, by which sections of pages that share
// no word of their subject treat one thing ("What it costs", "The bill").
type Matter string

// The general matters, in the order in which a heading that names several is taken: the special
// before the wide.
const (
	HowOften     Matter = "howoften"
	HowLong      Matter = "howlong"
	Funding      Matter = "funding" // grants, taxes, insurance
	Price        Matter = "price"
	Law          Matter = "law" // and rules, permits, duties
	Mistakes     Matter = "mistakes"
	Problems     Matter = "problems"
	Safety       Matter = "safety"
	Oneself      Matter = "pro" // oneself or a professional
	Tools        Matter = "tools"
	Test         Matter = "test" // signs, checks, diagnosis
	Storing      Matter = "storing"
	Care         Matter = "care"
	Prepare      Matter = "prepare"
	After        Matter = "after"
	Kinds        Matter = "kinds"
	Size         Matter = "size" // and amount
	Compare      Matter = "compare"
	Alternatives Matter = "alternatives"
	Choose       Matter = "choose"
	Drawbacks    Matter = "drawbacks"
	Worth        Matter = "why" // and whether it is worth it
	Causes       Matter = "causes"
	WhenTo       Matter = "when"
	WhereTo      Matter = "where"
	Environment  Matter = "environment"
	ForWhom      Matter = "who"
	WhatIs       Matter = "what" // and how it works
	Steps        Matter = "steps"
	Tips         Matter = "tips"

	// Beside are the words that say nothing beside one of them: "common mistakes".
	Beside Matter = "beside"
)

// One file a language, a line a matter: the matter, after "=" what it is called if it can be told by
// its name alone, a colon, and how headings name it, with bars between. A star stands for the rest of a word, ^ before what a heading
// begins with. Common usage, put together by us.
//
//go:embed matters/*.txt
var matterLists embed.FS

// cue is one way to name a matter.
type cue struct {
	matter     Matter
	order      int // of the matter
	words      []string
	start      bool // it stands at the beginning
	begin, end bool // the first word may begin with more, the last end with more
}

// cues are those of a language by their first word, and those whose first word is open; and what it calls
// the matters.
type cues struct {
	byWord map[string][]cue
	open   []cue
	openOf map[Matter][]cue // the same
	called map[Matter]string
}

// NameOfMatter is what a language calls a general matter in a heading; "" for one that says nothing by
// itself, such as where.
func (k *known) NameOfMatter(m Matter) string { return k.cues().called[m] }

func (k *known) readCues() cues {
	c := cues{byWord: map[string][]cue{}, openOf: map[Matter][]cue{}, called: map[Matter]string{}}
	list, err := matterLists.ReadFile("matters/" + k.Code + ".txt")
	if err != nil {
		return c // a language without a list
	}
	order := 0
	for line := range strings.Lines(string(list)) {
		matter, ways, ok := strings.Cut(strings.TrimSpace(line), ":")
		if !ok {
			panic("language: no matter in " + line)
		}
		matter, name, _ := strings.Cut(matter, " = ")
		c.called[Matter(matter)] = name
		for way := range strings.SplitSeq(ways, "|") {
			way = strings.TrimSpace(way)
			one := cue{matter: Matter(matter), order: order, words: k.wordsOf(way), start: strings.HasPrefix(way, "^"), begin: strings.HasPrefix(way, "*"), end: strings.HasSuffix(way, "*")}
			if len(one.words) == 0 {
				panic("language: no words in " + line)
			}
			if one.begin || one.end && len(one.words) == 1 {
				c.open = append(c.open, one)
				c.openOf[one.matter] = append(c.openOf[one.matter], one)
			} else {
				c.byWord[one.words[0]] = append(c.byWord[one.words[0]], one)
			}
		}
		order++
	}
	return c
}

// wordsOf are the words of a text and the parts of its compounds with hyphens, folded.
func (k *known) wordsOf(s string) []string {
	var list []string
	l := Language{known: k}
	text.EachWord(s, func(w text.Span) {
		word := w.Of(s)
		l.EachPart(word, func(p Part) { list = append(list, text.Fold(word[p.Start:p.End])) })
	})
	return list
}

// shortestBefore is how many letters stand at least before the end of a compound: "Kressetest", but not
// "Garten" for "arten". Our own.
const shortestBefore = 3

// NamedMatter is a general matter that a heading names, and by which of its words.
type NamedMatter struct {
	Matter Matter
	Number int   // of the matter, in the order in which they are taken
	Words  []int // numbers of the heading's words, as Parts has them
}

func (c cue) at(words []string, i int) bool {
	if i+len(c.words) > len(words) || c.start && i > 0 {
		return false
	}
	for j, w := range c.words {
		have := words[i+j]
		switch {
		case have == w:
		case j == 0 && c.begin && len(have) >= len(w)+shortestBefore && strings.HasSuffix(have, w):
		case j == len(c.words)-1 && c.end && strings.HasPrefix(have, w):
		default:
			return false
		}
	}
	return true
}

// Matters are the general matters that a heading names, each by words that none before it is named by.
// words are all of the heading's, as they are numbered.
func (k *known) Matters(heading string) (named []NamedMatter, words []string) {
	words = k.wordsOf(heading)
	type hit struct {
		cue
		at int
	}
	var hits []hit
	for i, w := range words {
		for _, c := range k.cues().byWord[w] {
			if c.at(words, i) {
				hits = append(hits, hit{c, i})
			}
		}
		for _, c := range k.cues().open {
			if c.at(words, i) {
				hits = append(hits, hit{c, i})
			}
		}
	}
	slices.SortStableFunc(hits, func(a, b hit) int {
		return cmp.Or(cmp.Compare(a.order, b.order), cmp.Compare(len(b.words), len(a.words)))
	})
	taken := make([]bool, len(words))
	for _, h := range hits {
		fresh := false
		for j := range h.words {
			fresh = fresh || !taken[h.at+j]
		}
		at := slices.IndexFunc(named, func(n NamedMatter) bool { return n.Matter == h.matter })
		if at < 0 && !fresh {
			continue
		}
		if at < 0 {
			at = len(named)
			named = append(named, NamedMatter{Matter: h.matter, Number: h.order})
		}
		for j := range h.words {
			taken[h.at+j] = true
			if !slices.Contains(named[at].Words, h.at+j) {
				named[at].Words = append(named[at].Words, h.at+j)
			}
		}
	}
	return named, words
}

// Names tells whether folded words name a matter, wherever they stand.
func (k *known) Names(words []string, m Matter) bool {
	all := k.cues()
	for i, w := range words {
		for _, c := range all.byWord[w] {
			if c.matter == m && c.at(words, i) {
				return true
			}
		}
		for _, c := range all.openOf[m] {
			if c.at(words, i) {
				return true
			}
		}
	}
	return false
}

// SaysNothing tells a word that people search with and which says nothing of what they search: a year, "best",
// "uk".
func (k *known) SaysNothing(folded string) bool {
	if folded != "" && folded[0] >= '0' && folded[0] <= '9' {
		return true
	}
	named, _ := k.Matters(folded)
	return slices.ContainsFunc(named, func(n NamedMatter) bool { return n.Matter == Beside || n.Matter == Choose || n.Matter == Tips })
}
