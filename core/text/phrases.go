package text

import (
	"slices"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"
)

// Phrases is a table of phrases that a line, or a part of one, may be. A phrase
// is written as slots with spaces between them:
//
//	word     this word, whatever its case and accents
//	a|b      one of these words
//	#        a number; also among others: a|#
//	_        any one word
//	*        any words, also none; *3 at most three
//	:        a colon
//	slot?    the slot, or nothing
//
// So "leave|post a|your comment" is four phrases, and "#? comments" is
// "comments" and "12 comments". Signs other than a colon are passed over at the
// ends and between words, but a sentence's end inside a line is no word's place.
type Phrases struct {
	byFirst map[string][]phrase // by the first word it can begin with
	any     []phrase            // that may begin with anything
}

type phrase []slot

type slot struct {
	words    []string // folded
	number   bool
	most     int // words that anything may be; 0 where it is none
	optional bool
}

// NewPhrases makes a table; it panics at a phrase it cannot read, which is a
// fault in the program.
func NewPhrases(list ...string) *Phrases {
	p := &Phrases{byFirst: map[string][]phrase{}}
	for _, s := range list {
		ph := parsePhrase(s)
		firsts, any := ph.firsts()
		if any {
			p.any = append(p.any, ph)
			continue
		}
		for _, w := range firsts {
			p.byFirst[w] = append(p.byFirst[w], ph)
		}
	}
	return p
}

func parsePhrase(s string) phrase {
	var ph phrase
	for part := range strings.FieldsSeq(s) {
		var sl slot
		if len(part) > 1 {
			part, sl.optional = strings.CutSuffix(part, "?")
		}
		switch rest, anything := strings.CutPrefix(part, "*"); {
		case part == "_":
			sl.most = 1
		case anything:
			sl.optional, sl.most = true, 1<<10
			if rest != "" {
				n, err := strconv.Atoi(rest)
				if err != nil {
					panic("text: a phrase cannot be read: " + s)
				}
				sl.most = n
			}
		default:
			for w := range strings.SplitSeq(part, "|") {
				if w == number {
					sl.number = true
				} else {
					sl.words = append(sl.words, Fold(w))
				}
			}
		}
		ph = append(ph, sl)
	}
	if len(ph) == 0 {
		panic("text: an empty phrase")
	}
	return ph
}

// number is a slot's sign for a number, and stands for all numbers in byFirst.
const number = "#"

// firsts are the words the phrase can begin with; any where it can with all.
func (ph phrase) firsts() (words []string, any bool) {
	for _, sl := range ph {
		switch {
		case sl.most > 0:
			return nil, true
		case sl.number:
			words = append(words, number)
		}
		words = append(words, sl.words...)
		if !sl.optional {
			return words, false
		}
	}
	return nil, true
}

// WordLine is a line cut into its words, for those who look it up in many tables.
type WordLine struct {
	text  string
	words []lineWord
}

// NewLine cuts a line into words.
func NewLine(line string) WordLine { return WordLine{line, lineWords(line)} }

// lineWord is a word of a line, or a sign that parts words.
type lineWord struct {
	folded     string
	start, end int
	number     bool
}

// Match tells whether the whole line is one of the phrases.
func (p *Phrases) Match(line string) bool { return p.Matches(NewLine(line)) }

// Matches is Match for a line that is cut already.
func (p *Phrases) Matches(line WordLine) bool {
	words := line.words
	for len(words) > 0 && isSign(words[len(words)-1].folded) {
		words = words[:len(words)-1]
	}
	for len(words) > 0 && isSign(words[0].folded) {
		words = words[1:]
	}
	if len(words) == 0 {
		return false
	}
	whole := func(ph phrase) bool { return ph.length(words, true) >= 0 }
	return slices.ContainsFunc(p.starting(words[0]), whole) || slices.ContainsFunc(p.any, whole)
}

// Find is the first part of the line that is one of the phrases, as it is
// written; empty if none is.
func (p *Phrases) Find(line string) string {
	words := lineWords(line)
	for i := range words {
		for _, list := range [][]phrase{p.starting(words[i]), p.any} {
			for _, ph := range list {
				if n := ph.length(words[i:], false); n > 0 {
					return line[words[i].start:words[i+n-1].end]
				}
			}
		}
	}
	return ""
}

// Begin is the length in bytes of the longest phrase the line begins with; 0 if
// it begins with none.
func (p *Phrases) Begin(line WordLine) int {
	words := line.words
	if len(words) == 0 {
		return 0
	}
	longest := 0
	for _, list := range [][]phrase{p.starting(words[0]), p.any} {
		for _, ph := range list {
			if n := ph.length(words, false); n > 0 {
				longest = max(longest, words[n-1].end)
			}
		}
	}
	return longest
}

func (p *Phrases) starting(w lineWord) []phrase {
	if w.number {
		return p.byFirst[number]
	}
	return p.byFirst[w.folded]
}

// length is how many of the words the phrase takes, from the first; all of them
// if whole is asked for; -1 where it does not match. It takes as many as it can.
func (ph phrase) length(words []lineWord, whole bool) int {
	if len(ph) == 0 {
		if whole && len(words) > 0 {
			return -1
		}
		return 0
	}
	sl, rest := ph[0], ph[1:]
	least, most := 1, 1
	if sl.optional {
		least = 0
	}
	if sl.most > 0 {
		most = sl.most
	}
	for n := min(most, len(words)); n >= least; n-- {
		if n > 0 && sl.most == 0 && !sl.takes(words[0]) {
			continue
		}
		if n > 0 && sl.most == 1 && isSign(words[0].folded) {
			continue
		}
		if taken := rest.length(words[n:], whole); taken >= 0 {
			return n + taken
		}
	}
	return -1
}

func (sl slot) takes(w lineWord) bool {
	return sl.number && w.number || slices.Contains(sl.words, w.folded)
}

func isSign(folded string) bool { return folded == ":" || folded == "." || folded == "?" }

// lineWords cuts a line into words, colons and ends of sentences. Letters,
// digits and what joins them make a word; "&" and "©" are words.
func lineWords(line string) []lineWord {
	words := make([]lineWord, 0, len(line)/6+2)
	start := -1
	end := func(i int) {
		if start >= 0 {
			s := strings.Trim(line[start:i], "'’-.,")
			if s != "" {
				at := start + strings.Index(line[start:i], s)
				words = append(words, lineWord{Fold(s), at, at + len(s), isNumber(s)})
			}
			start = -1
		}
	}
	for i, r := range line {
		switch {
		case unicode.IsLetter(r) || unicode.IsDigit(r) || unicode.IsMark(r):
			if start < 0 {
				start = i
			}
		case r == '\'' || r == '’' || r == '-' || r == '\u2010' || r == '\u2011':
		case (r == '.' || r == ',') && start >= 0 && i+1 < len(line) && line[i+1] > ' ' && line[i+1] != ')':
		case r == '&' || r == '©':
			end(i)
			words = append(words, lineWord{string(r), i, i + len(string(r)), false})
		default:
			end(i)
			switch r {
			case '.', '!', ';', '…':
				words = append(words, lineWord{".", i, i + len(string(r)), false})
			case ':', '?':
				words = append(words, lineWord{string(r), i, i + 1, false})
			}
		}
	}
	end(len(line))
	return words
}

// isNumber tells a whole number, its thousands parted or not: "12", "1,204", but
// not "2.3", which numbers a section.
func isNumber(s string) bool {
	if r, _ := utf8.DecodeRuneInString(s); !unicode.IsDigit(r) {
		return false // as most words
	}
	for i, group := range strings.FieldsFunc(s, func(r rune) bool { return r == '.' || r == ',' }) {
		if strings.IndexFunc(group, func(r rune) bool { return !unicode.IsDigit(r) }) >= 0 || i > 0 && utf8.RuneCountInString(group) != 3 {
			return false
		}
	}
	return true
}
