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

// datesOf are the dates of a sentence, with the tokens from and to, exclusively, that each takes. A date is a range of numbers YYYYMMDD
// for all days that it leaves open.
func datesOf(s *corpus.Sentence, lang *language.Language) (list []claim, spans [][2]int) {
	if !slices.ContainsFunc(s.Tokens, func(t corpus.Token) bool { return t.Number }) {
		return nil, nil
	}
	add := func(from, to int, key string, first, last int) {
		list = append(list, claim{corpus.Figure{Text: s.Text[s.Tokens[from].Start:s.Tokens[to-1].End], Token: from, From: float64(first), To: float64(last)}, DateClaim, key})
		spans = append(spans, [2]int{from, to})
	}
	for _, m := range writtenDates.FindAllStringSubmatchIndex(s.Text, -1) {
		from, to := tokensIn(s, m[0], m[1])
		if from == to {
			continue
		}
		if m[2] < 0 {
			add(from, to, keyOfDigits+s.Text[m[0]:m[1]], 0, 0)
			continue
		}
		day, _ := strconv.Atoi(strings.ReplaceAll(s.Text[m[0]:m[1]], "-", ""))
		add(from, to, keyOfDate, day, day)
	}
	for i := range s.Tokens {
		month := monthAt(s, i, lang)
		if month == 0 || within(spans, i) {
			continue
		}
		from, to, day, year := i, i+1, 0, 0
		if n, at := numberBefore(s, i); n >= 1 && n <= 31 {
			day, from = n, at
		}
		if n, at := numberAfter(s, i); n >= 1 && n <= 31 && day == 0 {
			day, to = n, at+1
		}
		if n, at := numberAfter(s, to-1); n >= firstYear && n <= lastYear {
			year, to = n, at+1
		}
		switch {
		case year > 0 && day > 0:
			add(from, to, keyOfDate, year*10000+month*100+day, year*10000+month*100+day)
		case year > 0:
			add(from, to, keyOfDate, year*10000+month*100, year*10000+month*100+99)
		case day > 0:
			add(from, to, keyOfDay, month*100+day, month*100+day)
		}
	}
	for i := range s.Tokens {
		if n := wholeNumber(s, i); n >= firstYear && n <= lastYear && !within(spans, i) && (i == 0 || s.Tokens[i-1].Stop) && (i+1 == len(s.Tokens) || s.Tokens[i+1].Stop || s.Tokens[i+1].Broken) {
			add(i, i+1, keyOfDate, n*10000, n*10000+9999)
		}
	}
	return list, spans
}

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
