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
	"corpulan/core/lexicon"
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
	descriptionPixels = 14. / 20
)

// What titles and descriptions say of a page. Our own.
const (
	longestName     = 28 // characters of what is named
	longestAsked    = 70 // characters of a question in a description
	maxNames        = 5  // in a description
	fewestNames     = 2
	mostlyNoun      = 0.5 // share of a word's uses from which it is a noun
	wordsOfAHeading = 3   // that names a thing by itself
)

// titleCandidates makes titles by the patterns of the language: first the one that names what the page is about, or for a list the one
// that counts its things, for what is sold the one that names who sells it; then those whose trait most titles of the field have.
func titleCandidates(e *evidence.Evidence, b *Brief, t Template) []Candidate {
	type made struct {
		Candidate
		share float64
	}
	names := b.names()
	var list []made
	if sells := slices.Contains([]string{"product", "category", "landing", "local"}, t.Key); sells && b.Front.Publication != "" {
		// What is sold stands under the name of who sells it. Common practice, no published source.
		if title := b.titled(e) + " – " + b.Front.Publication; utf8.RuneCountInString(title) <= longestCandidate {
			list = append(list, made{candidate(title, 1, "the keyword, and who says it"), 3})
		}
	}
	for _, p := range language.For(b.Language).Title.Patterns {
		text, ok := "", false
		for n := min(len(names), 3); n >= 0 && !ok; n-- {
			if text, ok = b.fillIn(p.Text, e, names[:n]); ok {
				ok = utf8.RuneCountInString(text) <= longestCandidate && evidence.Pixels(text) <= widestTitle
			}
		}
		if !ok {
			continue
		}
		share := e.Titles.Share(p.Trait, len(e.Sources))
		x := made{candidate(text, 1, b.patternOf(p.Trait, share, len(e.Sources))), share}
		if p.Trait == "names" || p.Trait == "number" {
			x.Pattern, x.share = message.Message(map[string]message.Message{"names": "names what most pages treat", "number": "says how many things are listed"}[p.Trait]), 2
		}
		list = append(list, x)
	}
	list = append(list, made{candidate(fitting(b.titled(e), longestCandidate), 1, "the keyword alone"), 0})
	slices.SortStableFunc(list, func(x, y made) int { return cmp.Compare(y.share, x.share) })
	if len(b.Picks) >= fewestCounted { // of a list, its number before its criteria
		slices.SortStableFunc(list, func(x, y made) int { return cmp.Compare(counts(y.Text), counts(x.Text)) })
	}
	out := []Candidate{}
	for _, m := range list[:min(len(list), maxCandidates)] {
		out = append(out, m.Candidate)
	}
	return out
}

func counts(title string) int {
	if strings.ContainsAny(title, "0123456789") {
		return 1
	}
	return 0
}

// descriptionCandidates say what the page is about by what it names, with questions of the field before it. None ends in a question.
func descriptionCandidates(e *evidence.Evidence, b *Brief) []Candidate {
	out := []Candidate{}
	names := b.names()
	if len(names) < fewestNames {
		return out
	}
	asked := b.askedShort()
	add := func(pattern message.Message, before string) {
		for n := min(len(names), maxNames); n >= fewestNames; n-- {
			text := before + capitalise(b.listed(names[:n])) + "."
			if utf8.RuneCountInString(text) <= longestProposal {
				out = append(out, candidate(text, descriptionPixels, pattern))
				return
			}
		}
	}
	if len(asked) > 1 {
		add("asks what readers ask, and names what the page treats", asked[0]+" "+asked[1]+" ")
	}
	if len(asked) > 0 {
		add("asks what readers ask, and names what the page treats", asked[0]+" ")
	}
	if len(names) > fewestNames { // two names say too little of a page
		add("the keyword, and what the page treats", b.titled(e)+". ")
	}
	return out
}

// askedShort are up to two questions of the brief that go into a description: short ones that a section answers, the first about the
// keyword, the second with a word of it, asked in another way and answered elsewhere.
func (b *Brief) askedShort() (list []string) {
	lang, about := langOf(b), b.rarest()
	keyword := lang.ContentStems(b.Keyword)
	var first Question
	for n, wanted := range [][]string{{about}, keyword} {
		if len(list) < n {
			break
		}
		for _, q := range b.Questions {
			short := strings.HasSuffix(q.Text, "?") && !strings.Contains(q.Text, ":") && utf8.RuneCountInString(q.Text) <= longestAsked
			other := len(list) == 0 || q.Kind != first.Kind && q.Section != first.Section
			if short && other && q.Section != "" && !q.Gone && len(q.AskedBy)+len(q.AnsweredBy) > 0 && slices.ContainsFunc(lang.ContentStems(q.Text), func(st string) bool { return slices.Contains(wanted, st) }) {
				list, first = append(list, q.Text), q
				break
			}
		}
	}
	return list
}

// listed joins names: "chain, locks and tyres".
func (b *Brief) listed(names []string) string {
	last := len(names) - 1
	if last < 1 {
		return strings.Join(names, "")
	}
	return strings.Join(names[:last], ", ") + " " + langOf(b).Title.And + " " + names[last]
}

// TitleWidth is how wide a title is shown among results, in pixels.
func TitleWidth(s string) int { return evidence.Pixels(s) }

// DescriptionWidth is how wide a description is shown, in pixels.
func DescriptionWidth(s string) int { return int(descriptionPixels*float64(evidence.Pixels(s)) + 0.5) }

func candidate(text string, size float64, pattern message.Message) Candidate {
	return Candidate{text, utf8.RuneCountInString(text), int(size*float64(evidence.Pixels(text)) + 0.5), pattern}
}

func (b *Brief) patternOf(trait string, share float64, pages int) message.Message {
	says := map[string]message.Message{"guide": "promises a guide", "year": "has a year", "steps": "promises steps"}[trait]
	n := int(share*float64(pages) + 0.5)
	if n == 0 {
		return message.Of("%v, as no title of the field", says)
	}
	return message.Of("%v, as %d of %d titles", says, n, pages)
}

// fillIn puts the keyword, the number of things listed, names and a year into a pattern; not where one of them is missing. Of a row of
// three names it takes as many as there are, two at least.
func (b *Brief) fillIn(pattern string, e *evidence.Evidence, names []string) (text string, ok bool) {
	values := map[string]string{"{K}": b.titled(e)}
	if n := len(b.Picks); n >= fewestCounted {
		values["{N}"] = strconv.Itoa(n)
	}
	if e.Titles.Year > 0 {
		values["{Y}"] = strconv.Itoa(e.Titles.Year)
	}
	if len(names) == fewestNames {
		pattern = strings.Replace(pattern, "{1}, {2}", "{1}", 1)
		pattern = strings.Replace(pattern, "{3}", "{2}", 1)
	}
	if len(names) >= fewestNames {
		for i, name := range names {
			values[fmt.Sprintf("{%d}", i+1)] = name
		}
	}
	for name, v := range values {
		pattern = strings.ReplaceAll(pattern, name, v)
	}
	return pattern, !strings.Contains(pattern, "{")
}

// titled is the keyword as a title has it: with a capital, and with those that its names, and in German its nouns, have on the pages.
func (b *Brief) titled(e *evidence.Evidence) string {
	lang := langOf(b)
	named := map[string]bool{} // stems of words that the pages write with a capital
	note := func(s string) {
		for _, w := range strings.Fields(s) {
			if text.Lower(w) != w {
				named[lang.Stem(w)] = true
			}
		}
	}
	for _, x := range e.Entities {
		if x.Type.IsNamed() && x.Pages > 1 {
			note(x.Name)
		}
	}
	for _, t := range e.Terms {
		note(t.Text)
	}
	words := strings.Fields(b.Keyword)
	for i, w := range words {
		if named[lang.Stem(w)] {
			words[i] = capitalise(w)
		}
	}
	return capitalise(strings.Join(words, " "))
}

// names are what the sections of the page are about, those of most pages first: a heading of few words that names a thing, else the
// first term under the section that stands in its heading. None of them has a word of the keyword.
func (b *Brief) names() []string {
	lang := langOf(b)
	used := map[string]bool{}
	for _, st := range lang.ContentStems(b.Keyword) {
		used[st] = true
	}
	sections := slices.DeleteFunc(slices.Clone(b.Outline), func(s Section) bool {
		return s.Folded || s.Key == evidence.PicksKey || strings.HasPrefix(s.Key, OwnPrefix)
	})
	slices.SortStableFunc(sections, func(x, y Section) int { return y.Pages - x.Pages })
	var list []string
	for _, s := range sections {
		name := b.nameOf(s)
		stems := lang.ContentStems(name)
		if name == "" || len(stems) == 0 || slices.ContainsFunc(stems, func(st string) bool { return used[st] }) {
			continue
		}
		for _, st := range stems {
			used[st] = true
		}
		list = append(list, name)
	}
	return list
}

func (b *Brief) nameOf(s Section) string {
	lang := langOf(b)
	heading := strings.TrimRight(s.Heading, ".:")
	words := strings.Fields(heading)
	if _, asks := lang.KindOfQuestion(heading); !asks && len(words) <= wordsOfAHeading && !strings.ContainsAny(heading, "?!,/()0123456789") && b.isName(heading) && !slices.ContainsFunc(words, func(w string) bool { return lang.Stop(text.Fold(w)) }) {
		if !lang.NounsHaveCapitals {
			heading = lowerFirst(heading)
		}
		return heading
	}
	keyword := lang.ContentStems(b.Keyword)
	within := slices.DeleteFunc(lang.ContentStems(heading), func(st string) bool { return slices.Contains(keyword, st) })
	for _, t := range s.Terms {
		stems := lang.ContentStems(t)
		if 2*len(stems) >= len(within) && !slices.ContainsFunc(stems, func(st string) bool { return !slices.Contains(within, st) }) && b.isName(t) {
			return t
		}
	}
	return ""
}

// isName tells words that name a thing: a noun at the end, and no verb before it.
func (b *Brief) isName(s string) bool {
	lang := langOf(b)
	words := strings.Fields(s)
	if len(words) == 0 || utf8.RuneCountInString(s) > longestName || lang.IsGeneric(s) {
		return false
	}
	first, last := text.Fold(words[0]), text.Fold(words[len(words)-1])
	switch {
	case lang.NounsHaveCapitals:
		return text.Lower(words[len(words)-1]) != words[len(words)-1] && !lang.EndsAsVerb(first)
	case lang.Senses:
		return !isActing(first) && !isActing(last)
	}
	known, ok := lexicon.ClassOf(lang.Code, first)
	return !ok || known.Noun >= mostlyNoun
}

// isActing tells an English word that is rather a verb, or the gerund of one.
func isActing(word string) bool {
	noun, verb, adjective, _ := corpus.PartsOfSpeech(word)
	return verb > noun+adjective || strings.HasSuffix(word, "ing") && verb > 0
}
