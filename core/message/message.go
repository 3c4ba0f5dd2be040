// Package message is what the program says, before it is said in a language: a format in English,
// by which catalogues know it, and what goes into it. Findings, changes and failures hold messages;
// they become sentences only where they are shown or written into a document.
package message

import (
	"cmp"
	"encoding/json"
	"errors"
	"fmt"
	"reflect"
	"regexp"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"

	"golang.org/x/text/language"
	"golang.org/x/text/language/display"
)

// Message is a format of package fmt in English, and what goes into it. It is comparable, and
// empty where nothing is said.
//
// A message into which nothing goes is its format: "Nothing is picked." can be written as it
// stands. All others are made by the functions of this package, and are JSON:
//
//	["Dropped: %s", "bar mitts"]       a format; strings and numbers go in as they are,
//	["Taken back: %v", ["Dropped: …"]]  a list is a message, which is said in the same language
//	["", "bar mitts"]                  a text that somebody else has written, said as it is
//	[3, "page"]                        a number with its noun
//	[["; "], ["…"], ["…"]]             several messages, and what stands between them
//	[{"in": "names"}, "people"]        a word that has several meanings, and which is meant
//	[{"as": "sentence"}, ["…"]]        a message that begins with a capital and ends with a stop
//	[{"as": "language"}, "de"]         the name of a language
type Message string

// Format is a format of package fmt in English, by which catalogues know a message.
type Format string

// Kept is a message as it is kept: in a database or beside a page. As JSON it stays what it is,
// where a Message becomes a sentence in English; and it has no String, which drivers of databases
// would call.
type Kept string

// Keep is the message as it is kept.
func (m Message) Keep() Kept { return Kept(m) }

// Message is what was kept.
func (k Kept) Message() Message { return Message(k) }

// Language says messages.
type Language interface {
	// Look is a format in the language; itself where that is not known.
	Look(format string) string
	// Counted is a number with its noun: "1 page", "3 pages".
	Counted(n int, noun string) string
	// Language is the name of a language by its code, BCP 47.
	Language(code string) string
}

// Of is a message from a format in English and what goes into it: texts, numbers, and messages.
// An error goes in as what it says.
func Of(format Format, args ...any) Message {
	if len(args) == 0 && !strings.HasPrefix(string(format), "[") {
		return Message(format)
	}
	return pack(append([]any{format}, packed(args)...))
}

// Text is a message that says a text as it stands, in all languages.
func Text(text string) Message {
	if text == "" {
		return ""
	}
	return pack([]any{"", text})
}

// Counted is a number with its noun.
func Counted(n int, noun string) Message { return pack([]any{n, noun}) }

// Joined are several messages after each other, and what stands between them; those that say
// nothing are left out.
func Joined(between string, parts ...Message) Message {
	list := []any{[]string{between}}
	last := Message("")
	for _, p := range parts {
		if p != "" {
			list, last = append(list, p.unpacked()), p
		}
	}
	if len(list) <= 2 {
		return last
	}
	return pack(list)
}

// Label is a word that has a meaning of its own among those of a group, as “people” among the
// kinds of names: catalogues know it as "people|names".
func Label[S ~string](word S, in string) Message {
	if word == "" {
		return ""
	}
	return pack([]any{group{In: in}, string(word)})
}

type group struct {
	In string `json:"in,omitempty"`
	As string `json:"as,omitempty"`
}

// Sentence is a message as a sentence of its own: with a capital and a full stop.
func Sentence(m Message) Message {
	if m == "" {
		return ""
	}
	return pack([]any{group{As: sentence}, m.unpacked()})
}

// Named is the name of a language by its code, BCP 47.
func Named(code string) Message {
	if code == "" {
		return ""
	}
	return pack([]any{group{As: named}, code})
}

const (
	sentence = "sentence"
	named    = "language"
)

// Fault is what an error says, as a sentence.
func Fault(err error) Message { return Sentence(OfError(err)) }

func pack(list []any) Message {
	var b strings.Builder
	e := json.NewEncoder(&b)
	e.SetEscapeHTML(false)
	if err := e.Encode(list); err != nil {
		panic(err) // texts, numbers and lists of them always can be
	}
	return Message(strings.TrimSuffix(b.String(), "\n"))
}

// unpacked is the message as a list within another.
func (m Message) unpacked() any {
	if list := m.list(); list != nil {
		return list
	}
	return []any{string(m)}
}

func packed(args []any) []any {
	list := make([]any, len(args))
	for i, a := range args {
		switch a := a.(type) {
		case Message:
			list[i] = a.unpacked()
		case error:
			list[i] = OfError(a).unpacked()
		case string, int, int64, float64:
			list[i] = a
		default:
			switch v := reflect.ValueOf(a); v.Kind() {
			case reflect.Int, reflect.Int32, reflect.Uint8:
				list[i] = v.Interface()
			default:
				list[i] = fmt.Sprint(a)
			}
		}
	}
	return list
}

// list is what a message is made of; nil where that is its format alone.
func (m Message) list() []any {
	if !strings.HasPrefix(string(m), "[") {
		return nil
	}
	var list []any
	if json.Unmarshal([]byte(m), &list) != nil || len(list) == 0 {
		return nil
	}
	return list
}

// verb is a place in a format that something goes into.
var verb = regexp.MustCompile(`%(?:\[\d\])?[.\d]*[sdvqf]`)

// Verbs are the places of a format that something goes into, in their order.
func Verbs(format Format) []string {
	return verb.FindAllString(strings.ReplaceAll(string(format), "%%", "  "), -1)
}

// In is the message in a language.
func (m Message) In(l Language) string {
	list := m.list()
	if list == nil {
		return l.Look(string(m))
	}
	return said(list, l)
}

func said(list []any, l Language) string {
	switch first := list[0].(type) {
	case string:
		if first == "" && len(list) == 2 {
			return text(list[1], l)
		}
		format := l.Look(first)
		if len(list) == 1 {
			return format
		}
		return fmt.Sprintf(format, values(list[1:], Verbs(Format(first)), l)...)
	case float64:
		if noun, ok := list[len(list)-1].(string); ok {
			return l.Counted(int(first), noun)
		}
	case []any:
		parts := make([]string, len(list)-1)
		for i, p := range list[1:] {
			parts[i] = text(p, l)
		}
		return strings.Join(parts, text(first, l))
	case map[string]any:
		word := text(list[len(list)-1], l)
		switch first["as"] {
		case sentence:
			return asSentence(word)
		case named:
			return l.Language(word)
		}
		if found := l.Look(word + "|" + fmt.Sprint(first["in"])); !strings.Contains(found, "|") {
			return found
		}
		return l.Look(word)
	}
	return fmt.Sprint(list...)
}

// asSentence is a text with a capital at its beginning and a full stop, if it has no other mark.
func asSentence(s string) string {
	r, size := utf8.DecodeRuneInString(s)
	s = string(unicode.ToUpper(r)) + s[size:]
	if strings.HasSuffix(s, ".") || strings.HasSuffix(s, "!") || strings.HasSuffix(s, "?") {
		return s
	}
	return s + "."
}

// values are what goes into a format, as its verbs want it.
func values(args []any, verbs []string, l Language) []any {
	list := make([]any, len(args))
	for i, a := range args {
		n, isNumber := a.(float64)
		switch {
		case isNumber && (i >= len(verbs) || !strings.HasSuffix(verbs[i], "f")):
			list[i] = int(n)
		case isNumber:
			list[i] = n
		default:
			list[i] = text(a, l)
		}
	}
	return list
}

func text(part any, l Language) string {
	switch p := part.(type) {
	case string:
		return p
	case []any:
		if len(p) > 0 {
			return said(p, l)
		}
		return ""
	}
	return fmt.Sprint(part)
}

// String is the message in English.
func (m Message) String() string { return m.In(English{}) }

// MarshalJSON gives the sentence in English, for those who read a document and not the program;
// what is kept is Keep.
func (m Message) MarshalJSON() ([]byte, error) {
	var b strings.Builder
	e := json.NewEncoder(&b)
	e.SetEscapeHTML(false)
	err := e.Encode(m.String())
	return []byte(b.String()), err
}

// English says messages as they stand in the program.
type English struct{}

// Look is the format itself.
func (English) Look(format string) string { return format }

// Language is the name of a language; its code where it has none.
func (English) Language(code string) string {
	t, err := language.Parse(code)
	if err != nil {
		return code
	}
	return cmp.Or(display.English.Languages().Name(t), code)
}

// Counted is a number with its noun.
func (English) Counted(n int, noun string) string {
	if n == 1 {
		return "1 " + noun
	}
	if stem, ok := strings.CutSuffix(noun, "ry"); ok {
		noun = stem + "rie"
	}
	digits := strconv.Itoa(n)
	for i := len(digits) - 3; i > 0 && digits[i-1] != '-'; i -= 3 {
		digits = digits[:i] + "," + digits[i:]
	}
	return digits + " " + noun + "s"
}

// Error is an error that says something to people.
type Error struct {
	Says  Message
	Cause error
}

// Errorf is an error that says a message of a format and what goes into it;
// errors among that are its cause.
func Errorf(format Format, args ...any) error {
	e := &Error{Says: Of(format, args...)}
	for _, a := range args {
		if err, ok := a.(error); ok {
			e.Cause = err
		}
	}
	return e
}

func (e *Error) Error() string { return e.Says.String() }
func (e *Error) Unwrap() error { return e.Cause }

// OfError is what an error says: its message, where it has one and nothing was put around it.
func OfError(err error) Message {
	if err == nil {
		return ""
	}
	var e *Error
	if errors.As(err, &e) && e.Error() == err.Error() {
		return e.Says
	}
	return Of(Format(err.Error()))
}
