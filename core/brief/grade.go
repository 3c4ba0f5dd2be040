package brief

import (
	"regexp"
	"strconv"

	"corpulan/core/evidence"
	"corpulan/core/language"
	"corpulan/core/message"
)

// PlainGrade is the reading grade asked of writers where nobody says another. Common practice,
// no published source.
const PlainGrade = 8

// highestGrade is beyond what Flesch–Kincaid tells of any text for people. Our own.
const highestGrade = 30

var firstNumber = regexp.MustCompile(`\d{1,3}`)

// Grade is the reading grade that the brief asks for: the first number of its field, else
// PlainGrade.
func (b *Brief) Grade() int {
	n, err := strconv.Atoi(firstNumber.FindString(b.Fields.ReadingGrade))
	if err != nil || n < 1 || n > highestGrade {
		return PlainGrade
	}
	return n
}

// readingGrade proposes how hard a text may be to read: a grade where the formula is for the
// language, else in words.
func (b *Brief) readingGrade(e *evidence.Evidence) proposal {
	if ease, ok := language.EaseOf(e.Language); ok && !language.Graded(e.Language) {
		if f, why := e.Figure("ease"), message.Of("common practice, and the pages"); f.N > 0 && ease.Harder {
			return proposal{b.say("%.0f or below by %s, which is higher the harder a text is; the kept pages read at %.0f to %.0f.", ease.Plain, ease.Formula, f.Lower, f.Upper), why}
		} else if f.N > 0 {
			return proposal{b.say("Reading ease %.0f or above by %s; the kept pages read at %.0f to %.0f.", ease.Plain, ease.Formula, f.Lower, f.Upper), why}
		}
	}
	if !language.Graded(e.Language) {
		return proposal{b.say("Plain: one thing a sentence, hardly any of more than 25 words, and the words that readers use."), message.Of("common practice")}
	}
	for _, f := range e.Figures {
		if f.Key == "grade" && f.N > 0 {
			return proposal{b.say("Grade %d or below; the kept pages read at %.0f to %.0f.", PlainGrade, f.Lower, f.Upper), message.Of("common practice, and the pages")}
		}
	}
	return proposal{b.say("Grade %d or below.", PlainGrade), message.Of("common practice")}
}
