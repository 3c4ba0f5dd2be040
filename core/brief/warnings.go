package brief

import (
	"slices"

	"corpulan/core/evidence"
	"corpulan/core/language"
	"corpulan/core/message"
)

// Warning is something about the outline that a person should look at.
type Warning struct {
	Text message.Message `json:"text"`
	Key  string          `json:"key,omitempty"` // of the section
}

// Offer is a theme that the evidence would propose and the outline by hand does not have.
type Offer struct {
	Key     string `json:"key"`
	Heading string `json:"heading"`
	Pages   int    `json:"pages"`
	Sources []int  `json:"sources"`
}

// unlike is how far the words of an outline may be from what is asked for, in parts of it.
// Our own.
const unlike = 0.1

// warnings are what is odd about the outline: headings twice, a level passed over, words
// that do not add up, and a theme left out that most of the pages have.
func (b *Brief) warnings(e *evidence.Evidence, c Choices) []Warning {
	list := []Warning{}
	warn := func(key string, format message.Format, args ...any) {
		list = append(list, Warning{message.Of(format, args...), key})
	}
	lang := language.For(b.Language)
	seen := map[string]bool{lang.PhraseKey(b.H1): true}
	before := TopLevel - 1
	each(b.Outline, func(s *Section) {
		if key := lang.PhraseKey(s.Heading); key != "" {
			if seen[key] {
				warn(s.Key, "“%s” stands twice", s.Heading)
			}
			seen[key] = true
		}
		if s.Level > before+1 {
			warn(s.Key, "“%s” is of level %d, and the heading before it of level %d", s.Heading, s.Level, before)
		}
		before = s.Level
		below, set := 0, false
		for _, ch := range s.Children {
			below += ch.Words
			set = set || ch.WordsSet
		}
		if below > s.Words && set {
			warn(s.Key, "the sections below “%s” add up to %d words, and it has %d", s.Heading, below, s.Words)
		}
	})
	sum, set := b.OpeningWords, false
	for _, s := range b.Outline {
		sum += s.Words
		set = set || s.WordsSet
	}
	if off := sum - b.Words.Target; set && float64(max(off, -off)) > unlike*float64(b.Words.Target) {
		warn("", "the sections and the opening add up to %d words; %d are asked for", sum, b.Words.Target)
	}
	for _, t := range e.Themes {
		if t.Recommended() && 2*t.Pages > len(e.Sources) && !b.hasSection(t.Key) {
			warn("", "“%s” is left out, and %v have it", t.Label, pagesOf(t.Pages, len(e.Sources)))
		}
	}
	return list
}

func (b *Brief) hasSection(key string) bool { return LinesOf(b.Outline).has(key) }

// offers are the themes that the evidence proposes beside an outline by hand: nobody has
// decided about them, and so they are in no way imposed.
func (b *Brief) offers(e *evidence.Evidence, c Choices) []Offer {
	list := []Offer{}
	if c.Outline == nil {
		return list
	}
	proposed, _ := ProposedThemes(e.Themes, len(e.Sources))
	for i, t := range e.Themes {
		if slices.Contains(proposed, i) && c.State(ThemeKind, t.Key) == "" && !b.hasSection(t.Key) {
			list = append(list, Offer{t.Key, t.Label, t.Pages, t.Sources})
		}
	}
	return list
}
