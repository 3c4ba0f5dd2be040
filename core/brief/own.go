package brief

import (
	"slices"

	"corpulan/core/evidence"
	"corpulan/core/language"
	"corpulan/core/links"
	"corpulan/core/themes"
)

// OwnSection is the mark that adopts a section of a person's own: the theme of the field that
// is called so, if there is one.
func OwnSection(e *evidence.Evidence, heading string) Mark {
	lang := language.For(e.Language)
	key := lang.PhraseKey(heading)
	m := Mark{Kind: ThemeKind, Key: OwnPrefix + key, Text: heading, State: Adopted}
	if i := slices.IndexFunc(e.Themes, func(t themes.Theme) bool { return lang.PhraseKey(t.Label) == key }); i >= 0 {
		m.Key, m.Text = e.Themes[i].Key, e.Themes[i].Label
	}
	return m
}

// Keys of links within the site: to an own page, and from it.
const (
	ToPrefix   = "to:"
	FromPrefix = "from:"
)

// maxFrom is how many own pages are asked to link to a new one. Common practice, no published
// source.
const maxFrom = 5

// takeInward are the links within the site: as many as the kind of page wants, those that a
// person adopted, none that was dropped. Each link to an own page is given the section that
// is nearest to what that page is about.
func (b *Brief) takeInward(found links.Found, c Choices, p profiles) {
	lang := langOf(b)
	common := map[string]bool{}
	for _, st := range lang.ContentStems(b.Keyword) {
		common[st] = true
	}
	b.Links.Inward, b.Links.From = []links.Link{}, []links.Link{}
	for _, l := range found.To {
		if !picked(c, LinkKind, ToPrefix+l.URL, len(b.Links.Inward) < b.Links.InwardWanted[1]) {
			continue
		}
		if s := p.best(b.Outline, l.About, common, 0); s != nil {
			l.Section = s.Heading
		}
		b.Links.Inward = append(b.Links.Inward, l)
	}
	for _, l := range found.From {
		if picked(c, LinkKind, FromPrefix+l.URL, len(b.Links.From) < maxFrom) {
			b.Links.From = append(b.Links.From, l)
		}
	}
	b.Links.Rivals = append([]links.Rival{}, found.Rivals...)
}
