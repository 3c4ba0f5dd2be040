package evidence

import (
	"net/url"
	"slices"
	"strings"

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
func PlacementOf(d *Doc, keyword string) Placement {
	lang := language.For(d.language)
	want := lang.ContentStems(keyword)
	if len(want) == 0 {
		return Placement{}
	}
	holds := func(s string) bool {
		have := lang.ContentStems(s)
		return !slices.ContainsFunc(want, func(w string) bool { return !slices.Contains(have, w) })
	}
	r := d.Reading
	p := Placement{Title: holds(r.Title), Description: holds(r.Description), Address: holds(pathWords(r.URL)), Opening: holds(d.openingText())}
	top := topLevel(r)
	for i, s := range r.Sections {
		switch {
		case s.Heading == "" || !holds(s.Heading):
		case i == top.section:
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
	p.Uses, words = d.usesOf(want)
	if d.words > 0 {
		p.Density = float64(words) / float64(d.words)
	}
	return p
}

// pathWords is the path of an address as words.
func pathWords(address string) string {
	u, err := url.Parse(address)
	if err != nil {
		return ""
	}
	return strings.NewReplacer("/", " ", "-", " ", "_", " ", ".", " ", "+", " ").Replace(u.Path)
}

// openingText is the sentences that begin within the first hundred words,
// the page's own title left out.
func (d *Doc) openingText() string {
	var b strings.Builder
	for _, s := range d.sentences {
		if s.opening && !s.heading {
			b.WriteString(s.text)
			b.WriteByte(' ')
		}
	}
	return b.String()
}

// usesOf counts how often the stems stand together in their order, with
// nothing but function words between, and how many words those are.
func (d *Doc) usesOf(want []string) (uses, words int) {
	for _, s := range d.sentences {
		at := 0 // of want, what has been met
		for i := 0; i < len(s.tokens); i++ {
			t := s.tokens[i]
			switch {
			case t.stem == want[at]:
				at++
			case at > 0 && t.stop && !t.broken:
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
