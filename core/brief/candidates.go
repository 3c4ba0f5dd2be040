package brief

import (
	"cmp"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"corpulan/core/corpus"
	"corpulan/core/evidence"
	"corpulan/core/language"
	"corpulan/core/message"
	"corpulan/core/text"
)

// Candidate is a title tag or a description to pick from.
type Candidate struct {
	Text       string          `json:"text"`
	Characters int             `json:"characters"`
	Pixels     int             `json:"pixels"`
	Pattern    message.Message `json:"pattern"` // how it is made, and how much of the field does so
}

// How wide a title and a description are shown among results, in pixels of Arial at the
// size of titles and at that of descriptions. Common practice, no published source.
const (
	widestTitle       = 580
	longestCandidate  = 60
	longestProposal   = 155
	maxCandidates     = 5
	longestMatter     = 28 // characters of a matter that is named in a description; our own
	descriptionPixels = 14. / 20
)

// titleCandidates makes titles by the patterns of the language, those first whose trait
// most titles of the field have.
func titleCandidates(e *evidence.Evidence, b *Brief) []Candidate {
	type made struct {
		Candidate
		share float64
	}
	var list []made
	for _, p := range language.For(b.Language).Title.Patterns {
		text, ok := b.fillIn(p.Text, e)
		if !ok || utf8.RuneCountInString(text) > longestCandidate || evidence.Pixels(text) > widestTitle {
			continue
		}
		share := e.Titles.Share(p.Trait, len(e.Sources))
		list = append(list, made{candidate(text, 1, b.patternOf(p.Trait, share, len(e.Sources))), share})
	}
	// A question of the field that has the whole keyword is a title by itself.
	for _, q := range b.Questions {
		if utf8.RuneCountInString(q.Text) <= longestCandidate && hasKeyword(q.Text, b) {
			share := e.Titles.Share("question", len(e.Sources))
			list = append(list, made{candidate(q.Text, 1, b.patternOf("question", share, len(e.Sources))), share})
			break
		}
	}
	slices.SortStableFunc(list, func(x, y made) int { return cmp.Compare(y.share, x.share) })
	out := []Candidate{}
	for _, m := range list[:min(len(list), maxCandidates)] {
		out = append(out, m.Candidate)
	}
	return out
}

func descriptionCandidates(e *evidence.Evidence, b *Brief) []Candidate {
	out := []Candidate{}
	for _, p := range language.For(b.Language).Title.Descriptions {
		text, ok := b.fillIn(p, e)
		if !ok || utf8.RuneCountInString(text) > longestProposal || len(out) == maxCandidates {
			continue
		}
		pattern := message.Of("matters and their use")
		switch {
		case strings.HasPrefix(p, "{Q}"):
			pattern = message.Of("begins with a question of the field")
		case strings.Contains(p, "{N}"):
			pattern = message.Of("says how many parts")
		}
		out = append(out, candidate(text, descriptionPixels, pattern))
	}
	return out
}

// TitleWidth is how wide a title is shown among results, in pixels.
func TitleWidth(s string) int { return evidence.Pixels(s) }

// DescriptionWidth is how wide a description is shown, in pixels.
func DescriptionWidth(s string) int { return int(descriptionPixels*float64(evidence.Pixels(s)) + 0.5) }

func candidate(text string, size float64, pattern message.Message) Candidate {
	return Candidate{text, utf8.RuneCountInString(text), int(size*float64(evidence.Pixels(text)) + 0.5), pattern}
}

func (b *Brief) patternOf(trait string, share float64, pages int) message.Message {
	says := map[string]message.Message{"guide": "promises a guide", "number": "has a number", "question": "asks", "year": "has a year", "brackets": "has brackets", "steps": "promises steps", "plain": "promises plain words"}[trait]
	n := int(share*float64(pages) + 0.5)
	if n == 0 {
		return message.Of("%v, as no title of the field", says)
	}
	return message.Of("%v, as %d of %d titles", says, n, pages)
}

// hasKeyword tells a text with all the content words of the keyword.
func hasKeyword(text string, b *Brief) bool {
	lang := language.For(b.Language)
	have := lang.ContentStems(text)
	want := lang.ContentStems(b.Keyword)
	return len(want) > 0 && !slices.ContainsFunc(want, func(s string) bool { return !slices.Contains(have, s) })
}

// sharesKeyword tells a text with any of them.
func sharesKeyword(text string, b *Brief) bool {
	lang := language.For(b.Language)
	have := lang.ContentStems(text)
	return slices.ContainsFunc(lang.ContentStems(b.Keyword), func(s string) bool { return slices.Contains(have, s) })
}

// fillIn puts the keyword, the number of things listed, matters and a question into a pattern; not where one
// of them is missing.
func (b *Brief) fillIn(pattern string, e *evidence.Evidence) (text string, ok bool) {
	values := map[string]string{"{K}": capitalise(b.Keyword), "{k}": b.Keyword}
	if n := len(b.Picks); n >= fewestCounted {
		values["{N}"] = strconv.Itoa(n)
	}
	if e.Titles.Year > 0 {
		values["{Y}"] = strconv.Itoa(e.Titles.Year)
	}
	for i, m := range b.matters() {
		values[fmt.Sprintf("{%d}", i+1)] = m
	}
	for _, q := range b.Questions {
		if strings.HasSuffix(q.Text, "?") && len(q.AskedBy)+len(q.AnsweredBy) > 0 && sharesKeyword(q.Text, b) {
			values["{Q}"] = q.Text
			break
		}
	}
	for name, v := range values {
		pattern = strings.ReplaceAll(pattern, name, v)
	}
	return pattern, !strings.Contains(pattern, "{")
}

// isActing tells an English word that is rather a verb, or the gerund of one.
func isActing(word string) bool {
	noun, verb, adjective, _ := corpus.PartsOfSpeech(word)
	return verb > noun+adjective || strings.HasSuffix(word, "ing") && verb > 0
}

// matters are the sections that can be named in a sentence, those that most pages have
// first.
func (b *Brief) matters() []string {
	lang := language.For(b.Language)
	sections := slices.DeleteFunc(slices.Clone(b.Outline), func(s Section) bool { return s.Key == evidence.PicksKey })
	slices.SortStableFunc(sections, func(x, y Section) int { return y.Pages - x.Pages })
	var list []string
	for _, s := range sections {
		heading := strings.TrimRight(s.Heading, ".:")
		if _, asks := lang.KindOfQuestion(heading); asks || strings.ContainsAny(heading, "?,/()") || utf8.RuneCountInString(heading) > longestMatter {
			continue
		}
		if first := text.Fold(strings.Fields(heading)[0]); lang.Stop(first) || lang.Senses && isActing(first) {
			continue // "Dress in layers" is told to somebody, and names nothing
		}
		words := strings.Fields(heading)
		if last := words[len(words)-1]; lang.NounsHaveCapitals && text.Lower(last) == last {
			continue // "Beleuchtung prüfen"
		}
		if !lang.NounsHaveCapitals {
			heading = lowerFirst(heading)
		}
		list = append(list, heading)
	}
	return list
}
