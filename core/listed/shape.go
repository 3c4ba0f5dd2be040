package listed

import (
	"cmp"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/language"
	"corpulan/core/text"
)

// heading is a heading read as one of a list: "3. Glint Courier 100: best where the road is clear, £54".
type heading struct {
	section  int // of the page
	level    int
	parent   int    // section of the heading it stands below, -1 for none
	number   int    // it is counted by, 0 if by none
	name     string // as it stands
	verdict  string // as it stands
	price    string // as it stands
	named    naming
	isNamed  bool // the name may be one, for what tells that it is listed
	hasShape bool // a number, a verdict or a price tells that it is one of a list
}

var inBrackets = regexp.MustCompile(`[(\[][^()\[\]]*[)\]]`)

// joints stand between a name and what is said of it.
var joints = []string{" – ", " — ", " - ", " : ", ": ", " | ", ", "}

// How many words a name has at most, and one that may begin with its only capital; how many a verdict has. Our own.
const (
	longestName    = 9
	shortName      = 2
	longestVerdict = 12
)

// read reads a heading, or a line, as one of a list.
func (f *finder) read(line string) heading {
	h, known := f.known[line]
	if !known {
		h = f.readAnew(line)
		f.known[line] = h
	}
	return h
}

func (f *finder) readAnew(line string) heading {
	h := heading{}
	rest := text.WithoutNumber(line)
	if n, after := f.position(line); n > 0 {
		h.number, rest = n, after
	} else if rest != line {
		digits := strings.TrimFunc(line[:len(line)-len(rest)], func(r rune) bool { return r < '0' || r > '9' })
		h.number, _ = strconv.Atoi(digits) // none of a chapter's, "4.1"
	}
	if p, ok := f.money(rest); ok {
		if inside := inBrackets.FindString(rest); strings.Contains(inside, p.Text) { // "(from £54)"
			h.price, rest = p.Text, strings.Replace(rest, inside, "", 1)
		} else if !f.isWithin(rest, p.Text) {
			h.price, rest = p.Text, strings.Replace(rest, p.Text, "", 1)
		}
	}
	h.name = strings.TrimSpace(rest)
	if before, after, ok := strings.Cut(h.name, " ("); ok && strings.HasSuffix(after, ")") {
		switch said := strings.TrimSuffix(after, ")"); {
		case f.Language.IsLabel(language.LabelFree, said):
			h.name, h.price = before, said
		case f.tellsVerdict(after):
			h.name, h.verdict = before, said
		}
	}
	inside, after, isQuoted := quoted(h.name)
	if isQuoted {
		h.name, h.verdict = inside, cmp.Or(h.verdict, strings.Trim(after, " –—-:,|."))
	} else if h.verdict == "" {
		f.cutVerdict(&h)
	}
	h.name = strings.Trim(h.name, " –—-:,|.*")
	h.verdict = strings.Trim(h.verdict, " .")
	if h.named = f.naming(h.name); isQuoted && text.CountWords(h.name) <= longestName {
		h.named = clearly // the marks say that it is a name
	}
	told := h.verdict != "" || h.price != ""
	h.isNamed = h.named == clearly || told && h.named > noName
	h.hasShape = told || h.number > 0
	return h
}

// cutVerdict parts the name of a heading from what is said of it, before it or behind it.
func (f *finder) cutVerdict(h *heading) {
	for _, j := range joints {
		before, after, ok := strings.Cut(h.name, j)
		if !ok {
			continue
		}
		// One of both that is clearly a name tells more than any word of the other.
		first, second := f.naming(before), f.naming(after)
		one, two := f.tellsVerdict(before), f.tellsVerdict(after)
		sign, fits := strings.TrimSpace(j), text.CountWords(after) <= longestVerdict
		switch {
		case sign != "," && first == clearly && second < clearly && fits, two && !one, sign == ":" && first > noName && second == noName && fits:
			h.name, h.verdict = before, after
		case one && !two, sign == ":" && first == noName && second == clearly: // "Best for children: Glint Courier", "The quietest: Glint Courier"
			h.name, h.verdict = after, before
		case sign == "," && first == clearly && second == clearly && !strings.Contains(after, ","): // "Valdoria, Norrland": where it is
			h.name = before
		default:
			continue
		}
		return
	}
}

// quoted reads a name in quotation marks, and what stands behind it.
func quoted(s string) (name, after string, ok bool) {
	for _, marks := range []string{"“”", "«»", "„“", "„”", "‘’", `""`} {
		marks := []rune(marks)
		rest, begins := strings.CutPrefix(s, string(marks[0]))
		if inside, after, ends := strings.Cut(rest, string(marks[1])); begins && ends && text.HasWord(inside) {
			return strings.TrimSpace(inside), after, true
		}
	}
	return "", "", false
}

// position reads what counts a heading in words: "Platz 1: ", "No. 3 – ".
func (f *finder) position(line string) (n int, rest string) {
	line = strings.TrimSpace(line)
	if rest, ok := strings.CutPrefix(line, "#"); ok {
		line = "# " + strings.TrimSpace(rest)
	}
	word, after, ok := strings.Cut(line, " ")
	if !ok || !f.Language.IsLabel(language.LabelPosition, word) {
		return 0, line
	}
	digits := strings.TrimLeft(after, "0123456789")
	n, err := strconv.Atoi(after[:len(after)-len(digits)])
	if err != nil || n > maxListed {
		return 0, line
	}
	return n, strings.TrimLeft(digits, " .:–—-)|")
}

// isWithin tells an amount that is a part of what a heading says, "best under £15", and not beside it.
func (f *finder) isWithin(line, amount string) bool {
	before, _, _ := strings.Cut(line, amount)
	words := strings.Fields(before)
	return len(words) > 0 && f.Language.IsPreposition(text.Fold(words[len(words)-1]))
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

// naming tells how far a few words are the name of a thing: by words that the field writes with a capital, that no
// dictionary has, or that are the designation of a model.
func (f *finder) naming(s string) naming {
	var words []string
	text.EachWord(s, func(w text.Span) { words = append(words, w.Of(s)) })
	if len(words) == 0 || len(words) > longestName || isNoName(s) || f.Language.Stop(words[0]) && len(words) == 1 {
		return noName
	}
	titled := f.isTitled(s, words)
	proper, content, first, before := 0, 0, false, false
	for i, w := range words {
		folded := text.Fold(w)
		if i > 0 && f.Language.Joins(folded) {
			continue
		}
		content++
		number := isDigit(w[0]) && strings.Trim(w, "0123456789.,/") == ""
		switch {
		case number && before, !number && f.isProper(w, folded, i, titled):
			proper, before = proper+1, true
		case number:
			first = first || i > 0 && i == len(words)-1 && f.mayHaveNumber(words[i-1])
		default:
			before = false
			first = first || i == 0 && len(words) <= shortName && f.mayBeName(w, folded)
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

// isTitled tells a line in capitals, or with one at a function word, "Retirer Le Pneu": they say nothing of names.
func (f *finder) isTitled(s string, words []string) bool {
	return s == strings.ToUpper(s) && len(words) > shortName || slices.ContainsFunc(words[1:], func(w string) bool { return w != strings.ToLower(w) && f.Language.Stop(text.Fold(w)) })
}

// isNoName tells a question, a signature of a program and an enumeration.
func isNoName(s string) bool {
	return strings.HasSuffix(s, "?") || strings.ContainsAny(s, "(){}[]=_<>\\,;")
}

// mayHaveNumber tells a word that the number of a model may follow, "Traverse 240": no part of a text and no day.
func (f *finder) mayHaveNumber(w string) bool {
	folded := text.Fold(w)
	return w != strings.ToLower(w) && !f.Language.IsPart(folded) && !f.Language.TellsTime(folded)
}

// isProper tells a word that is written as those of names.
func (f *finder) isProper(w, folded string, at int, titled bool) bool {
	share, seen := f.Capitals[folded]
	switch {
	case strings.ContainsAny(w, "0123456789") && at > 0 && !isDigit(w[0]): // "K40"; "12mm" is a figure
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

// nameWithin is the name within what a heading asks for, "Visit the Glass Museum": the longest run of words with a capital behind the
// first word. A heading of capitals has none.
func (f *finder) nameWithin(s string) string {
	words := strings.Fields(s)
	if len(words) < 2 || len(words) > longestName || f.Language.NounsHaveCapitals || isNoName(s) {
		return ""
	}
	best, run, small := []string{}, []string{}, false
	for _, w := range append(words[1:], "") {
		folded := text.Fold(strings.Trim(w, ",.!"))
		switch {
		case w != "" && w != strings.ToLower(w) && !f.Language.Stop(folded):
			run = append(run, w)
			continue
		case len(run) > 0 && f.Language.Joins(folded):
			run = append(run, w)
			continue
		case w != "" && !f.Language.Stop(folded):
			small = true
		}
		for len(run) > 0 && run[len(run)-1] == strings.ToLower(run[len(run)-1]) {
			run = run[:len(run)-1]
		}
		if len(run) > len(best) {
			best = run
		}
		run = nil
	}
	if len(best) == len(words)-1 && !small && f.mayBeTitled(words) {
		return ""
	}
	return strings.Trim(strings.Join(best, " "), ",.!")
}

// mayBeTitled tells a heading whose words all have capitals: they say nothing.
func (f *finder) mayBeTitled(words []string) bool {
	return !slices.ContainsFunc(words[1:], func(w string) bool { return w == strings.ToLower(w) }) && len(words) > shortName
}

// isCommon tells a few common words that may name a thing of a list, "Japanese anemone": no order and no question.
func (f *finder) isCommon(s string) bool {
	const longest = 4 // words; our own
	var words []string
	text.EachWord(s, func(w text.Span) { words = append(words, text.Fold(w.Of(s))) })
	if len(words) == 0 || len(words) > longest || strings.HasSuffix(s, "?") || f.Language.IsGeneric(s) {
		return false
	}
	for i, w := range words {
		known := f.Prior(w)
		if f.Language.Stop(w) && !f.Language.Links(w) || i == 0 && len(words) > 1 && known.Verb > known.Noun+known.Adjective {
			return false
		}
	}
	last := f.Prior(words[len(words)-1])
	return last.Noun >= last.Verb && !f.Language.NounsHaveCapitals || f.Language.NounsHaveCapitals && !f.Language.EndsAsVerb(words[len(words)-1])
}

// mayBeName tells the first word of a heading, which has a capital anyhow, that the language does not have.
func (f *finder) mayBeName(w, folded string) bool {
	known := f.Prior(folded)
	return !f.Language.NounsHaveCapitals && !f.Language.Senses && w != strings.ToLower(w) && f.Language.Rank(folded) == 0 && known.Noun > known.Verb
}
