package listed

import (
	"slices"
	"strconv"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/text"
)

// entry is a heading read as one of a list: "3. Glint Courier 100: best where the road is clear, £54".
type entry struct {
	section  int // of the page
	level    int
	parent   int // section of the heading it stands below, -1 for none
	number   int // it is counted by, 0 if by none
	name     string
	verdict  string // as it stands
	isNamed  bool   // the name may be one, for what tells that it is listed
	hasShape bool   // a number, a verdict or a price tells that it is one of a list
	price    string // as it stands
}

// joints stand between a name and what is said of it.
var joints = []string{" – ", " — ", " - ", " : ", ": ", " | ", ", "}

// How many words a name has at most, and one that may begin with its only capital. Our own.
const (
	longestName = 6
	shortName   = 2
)

// read reads a heading as an entry.
func (f *finder) read(section int, heading string) entry {
	e := entry{section: section, parent: -1}
	rest := text.WithoutNumber(heading)
	if rest != heading {
		digits := strings.TrimFunc(heading[:len(heading)-len(rest)], func(r rune) bool { return r < '0' || r > '9' })
		e.number, _ = strconv.Atoi(digits) // none of a chapter's, "4.1"
	}
	sentences, _ := corpus.Cut(f.Language, rest)
	for i := range sentences {
		for _, x := range sentences[i].Figures(f.Language) {
			if x.Money && e.price == "" {
				e.price = x.Text
				rest = strings.NewReplacer("("+x.Text+")", "", "["+x.Text+"]", "", x.Text, "").Replace(rest)
			}
		}
	}
	e.name = strings.TrimSpace(rest)
	if before, after, ok := strings.Cut(e.name, " ("); ok && strings.HasSuffix(after, ")") && f.tellsVerdict(after) {
		e.name, e.verdict = before, strings.TrimSuffix(after, ")")
	}
	for _, j := range joints {
		before, after, ok := strings.Cut(e.name, j)
		if e.verdict != "" || !ok {
			continue
		}
		switch one, two := f.tellsVerdict(before), f.tellsVerdict(after); {
		case two && !one || strings.TrimSpace(j) == ":" && f.isName(before) && !f.isName(after):
			e.name, e.verdict = before, after
		case one && !two: // "Best for children: Glint Courier"
			e.name, e.verdict = after, before
		}
	}
	e.name = strings.Trim(e.name, " –—-:,|.()")
	e.verdict = strings.TrimSpace(e.verdict)
	named := f.naming(e.name)
	told := e.verdict != "" || e.price != ""
	e.isNamed = named == clearly || told && named > noName
	e.hasShape = told || e.number > 0
	return e
}

func (f *finder) tellsVerdict(s string) bool {
	tells := false
	text.EachWord(s, func(w text.Span) { tells = tells || f.Language.TellsVerdict(text.Fold(w.Of(s))) })
	return tells
}

// Bounds of names, our own.
const (
	mostlyCapital = 0.7 // share of a word's uses inside sentences that have a capital, from which it is one of a name
	mostProper    = 0.5 // of the words of a name, where nothing but a number tells that it is listed
)

// How far what a heading says is a name.
type naming int

const (
	noName  naming = iota
	maybe          // its first word alone may be one
	surely         // a word of it is written as names are
	clearly        // and so are most
)

// isName tells what may be the name of a thing.
func (f *finder) isName(s string) bool { return f.naming(s) > noName }

// naming tells how far a few words are the name of a thing: by words that the field writes with a capital, that no
// dictionary has, or that are the designation of a model.
func (f *finder) naming(s string) naming {
	var words []string
	text.EachWord(s, func(w text.Span) { words = append(words, w.Of(s)) })
	if len(words) == 0 || len(words) > longestName || strings.HasSuffix(s, "?") || strings.ContainsAny(s, "(){}[]=_<>\\") || f.Language.Stop(words[0]) && len(words) == 1 {
		return noName
	}
	titled := slices.ContainsFunc(words[1:], func(w string) bool { return w != strings.ToLower(w) && f.Language.Stop(text.Fold(w)) }) // "Retirer Le Pneu"
	proper, content, first := 0, 0, false
	for i, w := range words {
		folded := text.Fold(w)
		if i > 0 && f.Language.Joins(folded) {
			continue
		}
		content++
		switch {
		case f.isProper(w, folded, i, titled):
			proper++
		case i == 0 && len(words) <= shortName && f.mayBeName(w, folded):
			first = true
		}
	}
	switch {
	case proper > 0 && float64(proper) >= mostProper*float64(content):
		return clearly
	case proper > 0:
		return surely
	case first:
		return maybe
	}
	return noName
}

// isProper tells a word that is written as those of names.
func (f *finder) isProper(w, folded string, at int, titled bool) bool {
	share, seen := f.Capitals[folded]
	switch {
	case strings.ContainsAny(w, "0123456789") && at > 0:
		return true
	case w == strings.ToLower(w), f.Language.Stop(folded), f.Language.Light(folded):
		return false
	case f.Language.NounsHaveCapitals:
		return f.Language.Rank(folded) == 0 && !f.Language.IsCompound(folded) && !f.Language.EndsAsNoun(folded) && (at > 0 || !f.Language.EndsAsVerb(folded))
	case seen:
		return share >= mostlyCapital
	case f.Language.Senses:
		return !corpus.IsWord(folded)
	}
	return at > 0 && !titled
}

// mayBeName tells the first word of a heading, which has a capital anyhow, that the language does not have.
func (f *finder) mayBeName(w, folded string) bool {
	known := f.Prior(folded)
	return !f.Language.NounsHaveCapitals && !f.Language.Senses && w != strings.ToLower(w) && f.Language.Rank(folded) == 0 && known.Noun > known.Verb
}
