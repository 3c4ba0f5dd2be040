package demand

import (
	"slices"

	"corpulan/core/address"
	"corpulan/core/corpus"
	"corpulan/core/language"
	"corpulan/core/message"
)

// Standpoint is a place on a page where words of a keyword stand.
type Standpoint struct {
	Where   message.Message // as Part.Where
	Text    string
	Section int // of the reading; -1 for none
	Words   int // how many of the keyword's words stand there
}

// StandpointsOf are the places that a page's standing for a keyword is made of, in the order of
// Standing.Parts, and how many words are sought. Of the body they are the sentences with the word that
// the page uses least, which its rate rests on. s is how it stands, from StandingOf.
func StandpointsOf(keyword string, d *corpus.Doc, market string, s Standing) (places []Standpoint, words int) {
	lang := language.For(market)
	want := stemsOf(lang, keyword)
	add := func(where message.Message, text string, section int, stems []string) {
		n := 0
		for _, w := range want {
			if slices.Contains(stems, w) {
				n++
			}
		}
		if n > 0 {
			places = append(places, Standpoint{where, text, section, n})
		}
	}
	r := d.Reading
	add("title", r.Title, -1, lang.ContentStems(r.Title))
	top, _ := r.TitleSection()
	if top >= 0 {
		add("H1", r.Sections[top].Heading, top, lang.ContentStems(r.Sections[top].Heading))
	}
	headings := len(places) // one heading counts, that with the most words, so it comes first
	for i, x := range r.Sections {
		if x.Heading != "" && i != top {
			add("headings", x.Heading, i, lang.ContentStems(x.Heading))
		}
	}
	path := address.Parse(r.URL).Path()
	slices.SortStableFunc(places[headings:], func(a, b Standpoint) int { return b.Words - a.Words })
	add("address", path, -1, lang.ContentStems(spaced(path)))
	uses := placedOf(d, lang).uses
	var rarest string
	if len(want) > 0 {
		rarest = slices.MinFunc(want, func(a, b string) int { return uses[a] - uses[b] })
	}
	var body []Standpoint
	for _, x := range d.Sentences {
		if x.Heading {
			continue
		}
		stems := stemsIn(x)
		if x.Opening {
			add("opening words", x.Text, x.Section, stems)
		}
		if rarest != "" && slices.Contains(stems, rarest) {
			body = append(body, Standpoint{"body", x.Text, x.Section, 1})
		}
	}
	places = append(places, body...)
	if s.Answered > 0 {
		places = append(places, Standpoint{"answered", s.Section, s.At, len(want)})
	}
	return places, len(want)
}

func stemsIn(s corpus.Sentence) (stems []string) {
	for _, t := range s.Tokens {
		if !t.Stop {
			stems = append(stems, t.Stem)
		}
	}
	return stems
}
