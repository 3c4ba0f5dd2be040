package reading

import (
	"regexp"
	"strings"
	"unicode"
	"unicode/utf8"

	"corpulan/core/language"
	"corpulan/core/text"
)

// Lines that sites put among an author's: picture credits, dates and bylines,
// things to press. They are told by their words alone and only where they are
// a whole line, in the languages we read (see patterns.go).

// longestFurnitureLine is in bytes; what is longer is somebody's sentence.
// Our own.
const longestFurnitureLine = 140

// longestCredit is in characters, what names whose picture it is.
// Our own.
const longestCredit = 60

// furnitureLineReason says why a line is the site's and not the author's; empty
// for the author's. Items and cells are never taken for the site's, unless they
// hold a mere number: an author's may be as short.
func furnitureLineReason(line string, kind byte) string {
	if kind != LineCell && kind != LineCode && strings.IndexFunc(line, unicode.IsLetter) < 0 {
		return "a number by itself" // "14", "+10"
	}
	switch {
	case len(line) > longestFurnitureLine, kind == LineItem, kind == LineCell, kind == LineCode, kind == LineDefinition:
		return ""
	case kind == LineCaption && nameAndAgency.MatchString(line):
		return "who took a picture"
	}
	words := text.NewLine(line)
	switch {
	case strings.ContainsAny(line, "0123456789") && isDate(line, words):
		return "a date or a time by itself"
	case isSitesLine(line, words):
		return "words that sites put there"
	}
	return ""
}

// nameAndAgency is a caption that says only who took the picture, and for whom.
var nameAndAgency = regexp.MustCompile(`^\p{Lu}[\p{L}.'’-]*( \p{Lu}[\p{L}.'’-]*){0,3} ?[/|] ?\p{Lu}[\p{L}.'’-]*( \p{Lu}[\p{L}.'’-]*){0,3}$`)

func isSitesLine(line string, words text.WordLine) bool {
	p := sitePatterns()
	return p.lines.Matches(words) || p.stamps.Matches(words) || isCredit(line, words) || namesAgency(line, words) || isPressed(line) || strings.HasPrefix(strings.ToLower(line), "(c)")
}

// isCredit tells "Photo: Ada Holm" and "(Bild: dpa)".
func isCredit(line string, words text.WordLine) bool {
	n := sitePatterns().credits.Begin(words)
	if n == 0 {
		return false
	}
	name := strings.TrimRight(strings.TrimLeft(line[n:], " "), " .:!…»›→>)")
	first, _ := utf8.DecodeRuneInString(name)
	named := unicode.IsUpper(first) || first == '©' || first == '@'
	return agencies().Match(name) || named && !strings.ContainsAny(name, ".!?") && utf8.RuneCountInString(name) <= longestCredit
}

// namesAgency tells the name of an agency, or what ends in one: "Ada Holm / dpa".
func namesAgency(line string, words text.WordLine) bool {
	if agencies().Matches(words) {
		return true
	}
	i := strings.LastIndexAny(line, "(/|")
	return i >= 0 && !strings.ContainsAny(line[:i], ".!?") && utf8.RuneCountInString(line[:i]) <= longestCredit && agencies().Match(line[i+1:])
}

// isPressed tells what one presses, and nothing else: "Share this article".
func isPressed(line string) bool {
	p := sitePatterns()
	for i, w := range strings.Fields(strings.TrimRight(line, " .:!…»›→>)")) {
		w = text.Fold(w)
		if i == 0 && !p.press[strings.ReplaceAll(w, "-", "")] || i > 0 && !p.pressedOn[w] {
			return false
		}
	}
	return true
}

var (
	figures  = regexp.MustCompile(`^(\d{1,2}[./-]\d{1,2}[./-]\d{2,4}|\d{4}[./-]\d{1,2}[./-]\d{1,2})\.?$`)
	clock    = regexp.MustCompile(`^\d{1,2}[:.h]\d{2}(:\d{2})?([ap]\.?m\.?)?$`)
	year     = regexp.MustCompile(`^\d{4}$`)
	dayOf    = regexp.MustCompile(`^\d{1,2}(st|nd|rd|th|er|\.|º)?$`)
	timeZone = regexp.MustCompile(`^[a-z]{2,4}$`)
)

// isDate tells a line that is a date, a time of day, or both, with what sites
// put before ("Updated on"), and how long a page takes to read.
func isDate(line string, words text.WordLine) bool {
	p := sitePatterns()
	if p.readingTime.Matches(words) {
		return true
	}
	stamped := p.stamps.Begin(words)
	line = strings.TrimRight(line, " .:")
	var full, month, years, times, others bool
	afterClock := false
	for w := range strings.FieldsFuncSeq(line[min(stamped, len(line)):], func(r rune) bool { return strings.ContainsRune(" \t,|·•–—()", r) }) {
		w = strings.ToLower(strings.Trim(w, ":"))
		clocked := clock.MatchString(w) && !figures.MatchString(w)
		switch {
		case w == "" || w == "-":
		case figures.MatchString(w):
			full = true
		case clocked:
			times = true
		case year.MatchString(w):
			years = true
		case dayOf.MatchString(w), language.Weekday(w):
			others = true
		case p.dateWords[text.Fold(w)]:
		case language.Month(w) > 0:
			month, others = true, true
		case afterClock && timeZone.MatchString(w):
		default:
			return false
		}
		afterClock = clocked
	}
	dated := full || month && years
	return dated || times && !others && !years && stamped == 0
}

// tellsOfAChange tells the stamp of a change from that of the publication.
func tellsOfAChange(line string) bool {
	changes := sitePatterns().changes
	for w := range strings.FieldsSeq(line) {
		if changes[text.Fold(strings.Trim(w, ":,."))] {
			return true
		}
	}
	return false
}
