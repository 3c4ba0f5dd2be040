// Package words holds what the interface says, in its languages: English as it stands in the
// templates and in Go, and for every other language a catalogue from English.
//
//   - words.go      a language: looking up, numbers, dates
//   - templates.go  templates translated as they are read
//   - de.json       German
//   - briefs        what briefs say in languages that the interface does not have
package words

import (
	"embed"
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"
	"time"

	"github.com/go-playground/locales"
	localede "github.com/go-playground/locales/de"
	localeen "github.com/go-playground/locales/en_GB"
	localees "github.com/go-playground/locales/es"
	localefr "github.com/go-playground/locales/fr"
	localeit "github.com/go-playground/locales/it"
	localenl "github.com/go-playground/locales/nl"
	localept "github.com/go-playground/locales/pt"
	localesv "github.com/go-playground/locales/sv"
	"golang.org/x/text/feature/plural"
	"golang.org/x/text/language"
	"golang.org/x/text/language/display"
	textmessage "golang.org/x/text/message"
	"golang.org/x/text/message/catalog"
	"golang.org/x/text/number"

	"corpulan/core/message"
)

//go:embed de.json de.nouns.json briefs
var catalogues embed.FS

// Words are the words of one language.
type Words struct {
	Tag     language.Tag
	texts   map[string]string
	printer *textmessage.Printer
	locale  locales.Translator
	names   display.Namer
}

// Codes are the languages of the interface.
func Codes() []string { return []string{"en", "de"} }

// All reads the words of all languages.
func All() (map[string]*Words, error) {
	all := map[string]*Words{}
	for _, code := range Codes() {
		w, err := load(code)
		if err != nil {
			return nil, fmt.Errorf("the words of %s: %w", code, err)
		}
		all[code] = w
	}
	return all, nil
}

// ofBriefs are the languages that briefs are written in beside those of the interface: what they propose and say is in the market's
// language, whoever makes them.
func ofBriefs() map[string]locales.Translator {
	return map[string]locales.Translator{"fr": localefr.New(), "es": localees.New(), "it": localeit.New(), "nl": localenl.New(), "pt": localept.New(), "sv": localesv.New()}
}

// Briefs reads the words of all languages that briefs are in.
func Briefs() (map[string]*Words, error) {
	all, err := All()
	if err != nil {
		return nil, err
	}
	var nouns map[string]map[string][2]string
	if err := readFile("briefs/nouns.json", &nouns); err != nil {
		return nil, fmt.Errorf("the nouns of briefs: %w", err)
	}
	for code, locale := range ofBriefs() {
		tag := language.Make(code)
		w := &Words{Tag: tag, locale: locale, names: display.Languages(tag)}
		if err := readFile("briefs/"+code+".json", &w.texts); err != nil {
			return nil, fmt.Errorf("the words of briefs in %s: %w", code, err)
		}
		if err := w.count(nouns[code]); err != nil {
			return nil, err
		}
		all[code] = w
	}
	return all, nil
}

func load(code string) (*Words, error) {
	tag := language.Make(code)
	if code == "en" {
		return English(), nil
	}
	w := &Words{Tag: tag, locale: localede.New(), names: display.German.Languages()}
	if err := readFile(code+".json", &w.texts); err != nil {
		return nil, err
	}
	var nouns map[string][2]string
	if err := readFile(code+".nouns.json", &nouns); err != nil {
		return nil, err
	}
	return w, w.count(nouns)
}

// count has the words say nouns with their numbers.
func (w *Words) count(nouns map[string][2]string) error {
	tag := w.Tag
	// Numbers with their nouns, by the plural rules of the language (Unicode CLDR).
	b := catalog.NewBuilder(catalog.Fallback(language.English))
	for noun, forms := range nouns {
		if err := b.Set(tag, counted(noun), plural.Selectf(1, "%d", plural.One, "%[1]d "+forms[0], plural.Other, "%[1]d "+forms[1])); err != nil {
			return err
		}
		if err := b.Set(tag, alone(noun), plural.Selectf(1, "%d", plural.One, forms[0], plural.Other, forms[1])); err != nil {
			return err
		}
	}
	w.printer = textmessage.NewPrinter(tag, textmessage.Catalog(b))
	return nil
}

func readFile(name string, into any) error {
	b, err := catalogues.ReadFile(name)
	if err != nil {
		return err
	}
	return json.Unmarshal(b, into)
}

// counted and alone are the keys of a noun in the catalogue.
func counted(noun string) string { return "%d " + noun }
func alone(noun string) string   { return "(%d) " + noun }

// IsEnglish tells the language that needs no catalogue.
func (w *Words) IsEnglish() bool { return w.texts == nil }

// English are the words that need no catalogue.
func English() *Words {
	return &Words{Tag: language.English, printer: textmessage.NewPrinter(language.English), locale: localeen.New(), names: display.English.Languages()}
}

// Code is the language's, as html has it.
func (w *Words) Code() string { return w.Tag.String() }

// Look is a format or a word in the language, itself where the catalogue has none.
func (w *Words) Look(text string) string {
	if t, ok := w.texts[text]; ok {
		return t
	}
	return text
}

// Put is a text put together from a format of the catalogue, as fmt.Sprintf does it; from the
// format itself where the catalogue has none.
// Messages among what goes in are said in the language.
func (w *Words) Put(format message.Format, args ...any) string {
	for i, a := range args {
		if m, ok := a.(message.Message); ok {
			args[i] = m.In(w)
		}
	}
	return fmt.Sprintf(w.Look(string(format)), args...)
}

// Say is a message in the language.
func (w *Words) Say(m message.Message) string { return m.In(w) }

// Number sets a number in groups of three.
func (w *Words) Number(n int) string { return w.printer.Sprint(number.Decimal(n)) }

// Decimal is a number with so many places behind the point: "3.8", "3,8".
func (w *Words) Decimal(places int, v float64) string {
	return w.printer.Sprint(number.Decimal(v, number.Scale(places)))
}

// Counted is a number with its noun: "1 image", "3 images".
func (w *Words) Counted(n int, noun string) string {
	if w.IsEnglish() {
		return w.Number(n) + " " + w.Noun(n, noun)
	}
	return w.printer.Sprintf(counted(noun), n)
}

// Noun is a noun as it goes with a number, without that.
func (w *Words) Noun(n int, noun string) string {
	if !w.IsEnglish() {
		return w.printer.Sprintf(alone(noun), n)
	}
	if n == 1 {
		return noun
	}
	if stem, ok := strings.CutSuffix(noun, "ry"); ok {
		return stem + "ries"
	}
	return noun + "s"
}

// Dates, in UTC: where a browser runs scripts, it sets those of today in its own time.

// Day is a day: "2 Jan 2006", "02.01.2006".
func (w *Words) Day(t time.Time) string { return w.locale.FmtDateMedium(t.UTC()) }

// DayOf is a day that is written YYYY-MM-DD, with or without a time behind it; what is none as it is written.
func (w *Words) DayOf(written string) string {
	t, err := time.Parse(time.DateOnly, written[:min(len(written), len(time.DateOnly))])
	if err != nil {
		return written
	}
	return w.Day(t)
}

// LongDay is a day in full: "2 January 2006", "2. Januar 2006".
func (w *Words) LongDay(t time.Time) string { return w.locale.FmtDateLong(t.UTC()) }

// DayTime is a day with a time.
func (w *Words) DayTime(t time.Time) string { return w.Day(t) + ", " + t.UTC().Format("15:04") }

// ShortTime is a day of this year or the last, with a time: "2 Jan 15:04", "2. Jan. 15:04".
func (w *Words) ShortTime(t time.Time) string { return w.MonthDay(t) + " " + t.UTC().Format("15:04") }

// MonthDay is a day without its year.
func (w *Words) MonthDay(t time.Time) string {
	t = t.UTC()
	month := w.locale.MonthAbbreviated(t.Month())
	if w.IsEnglish() {
		return fmt.Sprintf("%d %s", t.Day(), month)
	}
	return fmt.Sprintf("%d. %s", t.Day(), month)
}

// WeekDay is a day with its name: "Monday, 2 January", "Montag, 2. Januar".
func (w *Words) WeekDay(t time.Time) string {
	t = t.UTC()
	point := "."
	if w.IsEnglish() {
		point = ""
	}
	return fmt.Sprintf("%s, %d%s %s", w.locale.WeekdayWide(t.Weekday()), t.Day(), point, w.locale.MonthWide(t.Month()))
}

// Language is a language's name in this one.
func (w *Words) Language(code string) string { return w.names.Name(language.Make(code)) }

// Formats are all that the catalogue knows, in their order.
func (w *Words) Formats() []string { return slices.Sorted(maps.Keys(w.texts)) }

// Has tells whether the catalogue has a format or a word.
func (w *Words) Has(text string) bool {
	_, ok := w.texts[text]
	return ok
}
