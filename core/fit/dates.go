package fit

import (
	"regexp"
	"slices"
	"strconv"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/language"
)

// Dates as they are written in numbers: 2024-03-03 (ISO 8601), 3.3.2024, 03/03/2024; of the last two is told only that they are the
// same, since who writes the month first cannot be known.
var writtenDates = regexp.MustCompile(`\b(\d{4})-(\d\d)-(\d\d)\b|\b\d{1,2}([./])\d{1,2}[./]\d{4}\b`)

// Years that texts speak of, where a number has no unit. Our own.
const (
	firstYear = 1900
	lastYear  = 2099
)

// The keys of dates: those with a year compare by it, the others by day and month.
const (
	keyOfDate   = "date"
	keyOfDay    = "date in any year"
	keyOfDigits = "date in digits "
)

// dates are those found in a sentence so far, with the tokens from and to, exclusively, that each takes.
type dates struct {
	s     *corpus.Sentence
	lang  *language.Language
	list  []claim
	spans [][2]int
}

// datesOf are the dates of a sentence, and the tokens that each takes. A date is a range of numbers YYYYMMDD for all days that it
// leaves open.
func datesOf(s *corpus.Sentence, lang *language.Language) ([]claim, [][2]int) {
	if !slices.ContainsFunc(s.Tokens, func(t corpus.Token) bool { return t.Number }) {
		return nil, nil
	}
	d := &dates{s: s, lang: lang}
	d.inNumbers()
	d.withMonths()
	d.years()
	return d.list, d.spans
}

func (d *dates) add(from, to int, key string, first, last int) {
	text := d.s.Text[d.s.Tokens[from].Start:d.s.Tokens[to-1].End]
	d.list = append(d.list, claim{corpus.Figure{Text: text, Token: from, From: float64(first), To: float64(last)}, DateClaim, key})
	d.spans = append(d.spans, [2]int{from, to})
}

// inNumbers finds those that are written in numbers alone.
func (d *dates) inNumbers() {
	for _, m := range writtenDates.FindAllStringSubmatchIndex(d.s.Text, -1) {
		from, to := tokensIn(d.s, m[0], m[1])
		written := d.s.Text[m[0]:m[1]]
		switch {
		case from == to:
		case m[2] < 0:
			d.add(from, to, keyOfDigits+written, 0, 0)
		default:
			day, _ := strconv.Atoi(strings.ReplaceAll(written, "-", ""))
			d.add(from, to, keyOfDate, day, day)
		}
	}
}

// withMonths finds those that name a month, with a day or a year.
func (d *dates) withMonths() {
	for i := range d.s.Tokens {
		month := monthAt(d.s, i, d.lang)
		if month == 0 || within(d.spans, i) {
			continue
		}
		from, to, day, year := i, i+1, 0, 0
		if n, at := numberBefore(d.s, i); isDay(n) {
			day, from = n, at
		}
		if n, at := numberAfter(d.s, i); isDay(n) && day == 0 {
			day, to = n, at+1
		}
		if n, at := numberAfter(d.s, to-1); isYear(n) {
			year, to = n, at+1
		}
		first := year*10000 + month*100 + day
		switch {
		case year > 0 && day > 0:
			d.add(from, to, keyOfDate, first, first)
		case year > 0:
			d.add(from, to, keyOfDate, first, first+99)
		case day > 0:
			d.add(from, to, keyOfDay, first, first)
		}
	}
}

// years finds years that stand by themselves, between function words: "in 2019 there were".
func (d *dates) years() {
	tokens := d.s.Tokens
	for i := range tokens {
		begins := i == 0 || tokens[i-1].Stop
		ends := i+1 == len(tokens) || tokens[i+1].Stop || tokens[i+1].Broken
		if n := wholeNumber(d.s, i); isYear(n) && begins && ends && !within(d.spans, i) {
			d.add(i, i+1, keyOfDate, n*10000, n*10000+9999)
		}
	}
}

func isDay(n int) bool  { return n >= 1 && n <= 31 }
func isYear(n int) bool { return n >= firstYear && n <= lastYear }

// tokensIn are the tokens that begin between two bytes of a sentence.
func tokensIn(s *corpus.Sentence, from, to int) (first, behind int) {
	first, behind = len(s.Tokens), 0
	for i, t := range s.Tokens {
		if t.Start >= from && t.Start < to {
			first, behind = min(first, i), i+1
		}
	}
	return min(first, behind), behind
}

// within tells whether a token is of one of the spans.
func within(spans [][2]int, token int) bool {
	for _, x := range spans {
		if token >= x[0] && token < x[1] {
			return true
		}
	}
	return false
}

// monthAt is the month that a token names, in full or, with a capital, cut short; 0 for none.
func monthAt(s *corpus.Sentence, i int, lang *language.Language) int {
	t := s.Tokens[i]
	if t.Number || !lang.InCalendar(t.Folded) && !t.Capital {
		return 0
	}
	return language.Month(t.Folded)
}

// wholeNumber is the number that a token begins with: 3 of "3" and of "3rd"; 0 for none.
func wholeNumber(s *corpus.Sentence, i int) int {
	if i < 0 || i >= len(s.Tokens) || !s.Tokens[i].Number {
		return 0
	}
	t := s.Text[s.Tokens[i].Start:s.Tokens[i].End]
	digits := len(t) - len(strings.TrimLeft(t, "0123456789"))
	if strings.ContainsAny(t[digits:], ".,0123456789") {
		return 0
	}
	n, _ := strconv.Atoi(t[:digits])
	return n
}

// numberBefore is the number directly before a token, or before a function word there: "3 March", "3 de marzo".
func numberBefore(s *corpus.Sentence, i int) (n, at int) {
	if n := wholeNumber(s, i-1); n > 0 {
		return n, i - 1
	}
	if i >= 2 && s.Tokens[i-1].Stop {
		return wholeNumber(s, i-2), i - 2
	}
	return 0, i
}

// numberAfter is the same behind a token.
func numberAfter(s *corpus.Sentence, i int) (n, at int) {
	if n := wholeNumber(s, i+1); n > 0 {
		return n, i + 1
	}
	if i+2 < len(s.Tokens) && s.Tokens[i+1].Stop {
		return wholeNumber(s, i+2), i + 2
	}
	return 0, i
}
