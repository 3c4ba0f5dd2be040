package corpus

import (
	"slices"
	"strings"
	"unicode/utf8"

	"corpulan/core/language"
	"corpulan/core/reading"
)

// ConcordanceLine is one occurrence of a phrase in its sentence.
type ConcordanceLine struct {
	Rank    int    `json:"rank"`
	Section int    `json:"section"`
	Heading string `json:"heading"` // of the section it stands under
	InHead  bool   `json:"in_heading"`
	Left    string `json:"left"`
	Hit     string `json:"hit"`
	Right   string `json:"right"`
}

// Context is how many characters of a sentence a line shows on either side of
// its hit; a page may be one sentence from end to end.
// Our own: a line of the concordance at its widest.
const Context = 160

// lineOf cuts a line out of a sentence: the hit, and what stands around it.
func lineOf(rank int, d *Doc, s *Sentence, start, end int) ConcordanceLine {
	left, right := s.Text[:start], s.Text[end:]
	if cut := lastRunes(left, Context); len(cut) < len(left) {
		left = "…" + cut
	}
	if cut := firstRunes(right, Context); len(cut) < len(right) {
		right = cut + "…"
	}
	return ConcordanceLine{Rank: rank, Section: s.Section, Heading: firstRunes(d.Reading.Sections[s.Section].Heading, Context), InHead: s.Heading, Left: left, Hit: s.Text[start:end], Right: right}
}

func firstRunes(s string, n int) string {
	for i := range s {
		if n--; n < 0 {
			return s[:i]
		}
	}
	return s
}

func lastRunes(s string, n int) string {
	at := len(s)
	for ; n > 0 && at > 0; n-- {
		_, size := utf8.DecodeLastRuneInString(s[:at])
		at -= size
	}
	return s[at:]
}

// Concordance lists every occurrence of a term, given by its keys (Term.Keys),
// in the pages' order. It finds just what the vocabulary counts, by the same
// rules of shape.
func Concordance(pages []RankedPage, keys ...string) []ConcordanceLine {
	var lines []ConcordanceLine
	longest := 0
	for _, k := range keys {
		longest = max(longest, strings.Count(k, " ")+1)
	}
	for _, p := range pages {
		shape := newShape(p.Doc, language.For(p.Doc.Language))
		for i := range p.Doc.Sentences {
			s := &p.Doc.Sentences[i]
			if !s.holds(keys) {
				continue
			}
			shape.each(s.Tokens, func(from, to int) {
				if to-from > longest || !slices.Contains(keys, StemKey(s.Tokens[from:to])) {
					return
				}
				lines = append(lines, lineOf(p.Rank, p.Doc, s, s.Tokens[from].Start, s.Tokens[to-1].End))
			})
		}
	}
	return lines
}

// holds tells whether a sentence can hold one of the keys: whether the first
// stem of one stands in it.
func (s *Sentence) holds(keys []string) bool {
	if s.Kind == reading.LineCode || s.Again || s.Foreign {
		return false
	}
	for _, k := range keys {
		first, _, _ := strings.Cut(k, " ")
		if slices.ContainsFunc(s.Tokens, func(t Token) bool { return t.Stem == first }) {
			return true
		}
	}
	return false
}

// Mentions lists the sentences that name an entity, given by the ways it is written.
func Mentions(pages []RankedPage, names ...string) []ConcordanceLine {
	names = slices.Clone(names)
	slices.SortStableFunc(names, func(a, b string) int { return len(b) - len(a) }) // the longest is the whole name
	var lines []ConcordanceLine
	for _, p := range pages {
		for i := range p.Doc.Sentences {
			s := &p.Doc.Sentences[i]
			if s.Heading {
				continue
			}
			for _, name := range names {
				if at := indexWord(s.Text, name); at >= 0 {
					lines = append(lines, lineOf(p.Rank, p.Doc, s, at, at+len(name)))
					break
				}
			}
		}
	}
	return lines
}

// HasWord tells whether a name stands in a text where no letter or digit touches it.
func HasWord(s, name string) bool { return indexWord(s, name) >= 0 }

// indexWord finds a name in a text where no letter or digit touches it.
func indexWord(s, name string) int {
	for at := 0; at <= len(s)-len(name); {
		i := strings.Index(s[at:], name)
		if i < 0 {
			return -1
		}
		i += at
		if (i == 0 || !wordByte(s[i-1])) && (i+len(name) == len(s) || !wordByte(s[i+len(name)])) {
			return i
		}
		at = i + 1
	}
	return -1
}

func wordByte(b byte) bool {
	return b >= 'a' && b <= 'z' || b >= 'A' && b <= 'Z' || b >= '0' && b <= '9' || b >= 0x80
}
