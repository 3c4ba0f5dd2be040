package brief

import (
	"fmt"

	"corpulan/core/language"
	"corpulan/core/message"
)

// Words put what the program proposes into the language of a brief.
type Words interface {
	message.Language
	// Code is the language's, ISO 639-1.
	Code() string
	// DayOf is a day that is written YYYY-MM-DD, as the language writes it.
	DayOf(written string) string
}

// english are the words as they stand in the program.
type english struct{ message.English }

func (english) Counted(n int, noun string) string {
	if n == 1 {
		return "one " + noun
	}
	return fmt.Sprintf("%d %ss", n, noun)
}

func (english) DayOf(written string) string { return written }

func (english) Code() string { return language.Program }

// Speech says things in words.
type Speech struct{ Words }

// Say is a message in the words.
func (s Speech) Say(m message.Message) string { return m.In(s) }

// Put is the message of a format and what goes into it, in the words.
func (s Speech) Put(format message.Format, args ...any) string {
	return message.Of(format, args...).In(s)
}

// say is a text of the brief itself, in its language.
func (b *Brief) say(format message.Format, args ...any) string { return b.In().Put(format, args...) }

// In says what the brief proposes.
func (b Brief) In() Speech {
	if b.in == nil {
		return Speech{english{}}
	}
	return Speech{b.in}
}

// Saying is the brief with other words for what is said around it: what it proposes stays.
func (b Brief) Saying(w Words) Brief {
	b.in = w
	return b
}
