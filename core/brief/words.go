package brief

import (
	"fmt"

	"corpulan/core/language"
)

// Words put what the program proposes into the language of a brief.
type Words interface {
	// Put is fmt.Sprintf with the format in the language.
	Put(format string, args ...any) string
	// Counted is a number with its noun: "1 page", "3 pages".
	Counted(n int, noun string) string
	// Say is a text in the language that the program has put together elsewhere; itself where it
	// is not known.
	Say(text string) string
	// Code is the language's, ISO 639-1.
	Code() string
}

// english are the words as they stand in the program.
type english struct{}

func (english) Put(format string, args ...any) string { return fmt.Sprintf(format, args...) }

func (english) Counted(n int, noun string) string {
	if n == 1 {
		return "one " + noun
	}
	return fmt.Sprintf("%d %ss", n, noun)
}

func (english) Say(text string) string { return text }

func (english) Code() string { return language.Program }

// In are the words of what the brief proposes.
func (b Brief) In() Words {
	if b.in == nil {
		return english{}
	}
	return b.in
}

// Saying is the brief with other words for what is said around it: what it proposes stays.
func (b Brief) Saying(w Words) Brief {
	b.in = w
	return b
}
