package language

import (
	"strings"
	"sync"
	"unicode/utf8"

	"corpulan/core/text"
)

// calendar holds the names of months and weekdays in all languages we read, folded.
var calendar = sync.OnceValue(func() (c struct {
	months   []name // in all their languages, January is 1
	weekdays map[string]bool
}) {
	c.weekdays = map[string]bool{}
	for _, k := range all() {
		for _, list := range [][]string{k.dates.MonthsWide(), k.dates.MonthsAbbreviated()} {
			for i, m := range list {
				c.months = append(c.months, name{bare(m), i + 1})
			}
		}
		for _, list := range [][]string{k.dates.WeekdaysWide(), k.dates.WeekdaysAbbreviated()} {
			for _, d := range list {
				c.weekdays[bare(d)] = true
			}
		}
	}
	return c
})

type name struct {
	text   string
	number int
}

func bare(s string) string { return strings.TrimRight(text.Fold(s), ".") }

// shortest beginning of a month's name that stands for it: "sept".
// Our own.
const shortest = 3

// longestDay is how many digits the day of a month has at most.
const longestDay = 2

// Month is the number of the month a word names in any language we read, be it
// cut short ("Sept.", "janv."); 0 for none.
func Month(word string) int {
	w := bare(word)
	if utf8.RuneCountInString(w) < shortest {
		return 0
	}
	for _, m := range calendar().months {
		if m.text == w {
			return m.number
		}
	}
	for _, m := range calendar().months {
		if strings.HasPrefix(m.text, w) {
			return m.number
		}
	}
	return 0
}

// Weekday tells whether a word names a day of the week in any language we read,
// be it cut short.
func Weekday(word string) bool { return calendar().weekdays[bare(word)] }

// InCalendar tells whether a word of this language names a month or a day of
// the week, in full.
func (k *known) InCalendar(word string) bool { return k.calendar[bare(word)] }
