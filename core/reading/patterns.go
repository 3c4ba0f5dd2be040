package reading

import (
	"slices"
	"strings"
	"sync"
	"unicode"

	"corpulan/core/language"
	"corpulan/core/lexicon"
	"corpulan/core/text"
)

// patterns are the phrases that sites put among an author's words, in all
// languages we read: a page in one language may stand on a site in another. The
// phrases themselves are in core/language, a file a language.
type patterns struct {
	headings, lines, credits, stamps, readingTime *text.Phrases
	press, pressedOn, changes, dateWords          map[string]bool
}

var sitePatterns = sync.OnceValue(func() *patterns {
	var all struct {
		headings, lines, credits, stamps, readingTime []string
		press, pressedOn, changes, dateWords          string
	}
	for l := range language.Each {
		f := l.Furniture
		all.headings = append(all.headings, f.Headings...)
		all.lines = append(all.lines, f.Lines...)
		all.credits = append(all.credits, f.Credits...)
		all.stamps = append(all.stamps, f.Stamps...)
		all.readingTime = append(all.readingTime, f.ReadingTime...)
		all.press += " " + f.Press
		all.pressedOn += " " + f.PressedOn
		all.changes += " " + f.Changes
		all.dateWords += " " + f.DateWords
	}
	return &patterns{
		headings: text.NewPhrases(all.headings...), lines: text.NewPhrases(all.lines...), credits: text.NewPhrases(all.credits...),
		stamps: text.NewPhrases(all.stamps...), readingTime: text.NewPhrases(all.readingTime...),
		press: language.Set(all.press), pressedOn: language.Set(all.pressedOn), changes: language.Set(all.changes), dateWords: language.Set(all.dateWords),
	}
})

// agencies give their pictures to sites, which name them and nothing else.
var agencies = sync.OnceValue(func() *text.Phrases {
	return text.NewPhrases("getty images?", "reuters", "afp", "ap", "dpa", "pa", "pa media|wire", "shutterstock", "istock", "unsplash", "pexels", "pixabay", "adobe stock", "alamy")
})

// longestSiteHeading is in bytes: a longer heading is an author's, or nobody's.
// Our own.
const longestSiteHeading = 120

// isFurnitureHeading tells a heading that the site put up, by all its words:
// "Share the road" is an author's.
func isFurnitureHeading(t string) bool {
	return len(t) <= longestSiteHeading && (sitePatterns().headings.Match(t) || isFileName(t))
}

// bywords stand before an author's name in the eight languages. Our own list.
var bywords = language.Set("by von par por di da door av")

// longestName is how many words a name has after such a word. Our own.
const longestName = 4

// isByline tells a heading that is no more than who wrote the page: the author that the
// page declares, or, after "by", a first name and further names.
func isByline(t, author string) bool {
	words := strings.Fields(t)
	if len(words) < 2 || !bywords[text.Fold(words[0])] {
		return false
	}
	name := words[1:]
	if author != "" && strings.EqualFold(strings.Join(name, " "), author) {
		return true
	}
	if len(name) < 2 || len(name) > longestName || !lexicon.IsFirstName(name[0]) {
		return false
	}
	return !slices.ContainsFunc(name, func(w string) bool { return !unicode.IsUpper([]rune(w)[0]) })
}

// isFileName tells the name of a picture where a heading should be.
func isFileName(t string) bool {
	if strings.ContainsAny(t, " \t") {
		return false
	}
	dot := strings.LastIndexByte(t, '.')
	if dot <= 0 {
		return false
	}
	switch strings.ToLower(t[dot+1:]) {
	case "jpg", "jpeg", "png", "gif", "webp", "svg":
		return true
	}
	return false
}
