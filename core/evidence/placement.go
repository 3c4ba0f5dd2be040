package evidence

import (
	"slices"
	"strings"

	"corpulan/core/address"
	"corpulan/core/corpus"
	"corpulan/core/language"
)

// Placement tells where a page puts the keyword. A place holds it when all the
// keyword's content words stand there, in any shape and order.
type Placement struct {
	Title       bool `json:"title"`
	H1          bool `json:"h1"`
	Address     bool `json:"address"`
	Description bool `json:"description"`
	Opening     bool `json:"opening"`     // within the first hundred words
	Subheadings int  `json:"subheadings"` // how many hold it
	ImageTexts  int  `json:"image_texts"` // how many hold it

	Uses    int     `json:"uses"`    // times the words stand together, function words between them passed over
	Density float64 `json:"density"` // words of those uses among all words, 0 to 1
}

// PlacementOf finds the keyword in a page.
func PlacementOf(d *corpus.Doc, keyword string) Placement {
	lang := language.For(d.Language)
	want := lang.ContentStems(keyword)
	if len(want) == 0 {
		return Placement{}
	}
	holds := func(s string) bool {
		have := lang.ContentStems(s)
		return !slices.ContainsFunc(want, func(w string) bool { return !slices.Contains(have, w) })
	}
	r := d.Reading
	p := Placement{Title: holds(r.Title), Description: holds(r.Description), Address: holds(pathWords(address.Parse(r.URL))), Opening: holds(openingText(d))}
	title, _ := r.TitleSection()
	for i, s := range r.Sections {
		switch {
		case s.Heading == "" || !holds(s.Heading):
		case i == title:
			p.H1 = true
		default:
			p.Subheadings++
		}
	}
	for _, t := range r.ImageTexts {
		if holds(t) {
			p.ImageTexts++
		}
	}
	words := 0
	p.Uses, words = usesOf(d, want)
	if d.Words > 0 {
		p.Density = float64(words) / float64(d.Words)
	}
	return p
}

// pathWords is the path of an address as words.
func pathWords(a address.Address) string {
	return strings.NewReplacer("/", " ", "-", " ", "_", " ", ".", " ", "+", " ").Replace(a.Path())
}

// openingText is the sentences that begin within the first hundred words,
// the page's own title left out.
func openingText(d *corpus.Doc) string {
	var b strings.Builder
	for _, s := range d.Sentences {
		if s.Opening && !s.Heading {
			b.WriteString(s.Text)
			b.WriteByte(' ')
		}
	}
	return b.String()
}

// usesOf counts how often the stems stand together in their order, with
// nothing but function words between, and how many words those are.
func usesOf(d *corpus.Doc, want []string) (uses, words int) {
	for _, s := range d.Sentences {
		at := 0 // of want, what has been met
		for i := 0; i < len(s.Tokens); i++ {
			t := s.Tokens[i]
			switch {
			case t.Stem == want[at]:
				at++
			case at > 0 && t.Stop && !t.Broken:
				continue
			case at > 0:
				at = 0
				i-- // the token may begin the next use
				continue
			}
			if at == len(want) {
				uses++
				words += len(want)
				at = 0
			}
		}
	}
	return uses, words
}
