package evidence

import (
	"strings"
	"unicode"
	"unicode/utf8"

	"corpulan/core/address"
	"corpulan/core/language"
	"corpulan/core/reading"
	"corpulan/core/text"
)

// Doc is a reading made ready for comparison: its words as stems, sentence by
// sentence, and the phrases they make. It never changes once made, so that
// many computations may share it.
type Doc struct {
	Reading   *reading.Reading
	Host      string // without "www."
	language  string // the stems are of
	sentences []sentence
	phrases   map[string]*usage
	sections  []map[string]int // stems of each section with their counts
	words     int              // words of the content that were compared; see mostWords
	lower     map[string]int   // folded words as they stand in small letters, mid-sentence
	siteNames map[string]bool  // stem keys of what the site calls itself
}

// sentence is a stretch of one section's text or heading, cut into tokens.
type sentence struct {
	section int
	heading bool // stands in the heading of the section
	opening bool // within the first hundred words of the page
	kind    byte // reading.Line...
	text    string
	tokens  []token
}

// token is a word, or one part of a hyphenated word.
type token struct {
	start, end int // bytes in sentence.text
	folded     string
	stem       string
	stop       bool
	number     bool // begins with a digit
	capital    bool // begins with a capital
	broken     bool // something other than white space or a hyphen stands before it
	wordStart  bool // first part of its word
}

// usage is how one document uses one phrase.
type usage struct {
	stems    []string
	count    int
	headings int // of count, in headings
	opening  int // of count, in the opening hundred words
	title    bool
	surfaces []surface
}

type surface struct {
	text  string
	count int
}

func (u *usage) saw(s string) {
	for i := range u.surfaces {
		if u.surfaces[i].text == s {
			u.surfaces[i].count++
			return
		}
	}
	u.surfaces = append(u.surfaces, surface{s, 1})
}

// mostWords is how much of one page is compared, in words: what comes after it
// is read and counted, but gives no terms, names or questions. A book of 300
// pages has about 100,000; our own bound, so that one page cannot take the
// memory of all others.
const mostWords = 50_000

// Cut tells how many words of the page are beyond what is compared.
func (d *Doc) Cut() int { return d.Reading.Counts.Words - d.words }

// Size is about how many bytes the document takes in memory, for caches to
// count: it is made of tokens, phrases and text. Measured, it is right to a
// factor of two from the demo's articles to a page of 50,000 words no two alike.
func (d *Doc) Size() int64 {
	size := int64(15_000) + 220*int64(len(d.phrases))
	for i := range d.sentences {
		size += 64*int64(len(d.sentences[i].tokens)) + 100
	}
	for i := range d.Reading.Sections {
		size += 3*int64(len(d.Reading.Sections[i].Text)+len(d.Reading.Sections[i].Heading)) + 200
	}
	return size
}

// openingWords is how much of a page counts as its opening.
const openingWords = 100

// Prepare makes a document of a reading, with the stems of the market's language
// (a BCP 47 tag), which is the same for all pages of a field.
func Prepare(r *reading.Reading, market string) *Doc {
	lang := language.For(market)
	d := &Doc{Reading: r, Host: address.Parse(r.URL).Host(), language: lang.Code, phrases: map[string]*usage{}, lower: map[string]int{}, words: r.Counts.Words}
	compared := 0
	for i, s := range r.Sections {
		stems := map[string]int{}
		d.sections = append(d.sections, stems)
		seen := s.Offset
		add := func(line string, kind byte, heading bool) {
			if compared >= mostWords {
				return
			}
			for _, sp := range lang.Sentences(line) {
				if compared >= mostWords {
					return
				}
				sen := sentence{section: i, heading: heading, opening: seen < openingWords, kind: kind, text: sp.Of(line)}
				n := sen.tokenize(lang, mostWords-compared)
				seen += n
				compared += n
				for _, t := range sen.tokens {
					if !t.stop {
						stems[t.stem]++
					}
				}
				d.sentences = append(d.sentences, sen)
			}
		}
		if s.Heading != "" {
			add(s.Heading, reading.LineParagraph, true)
		}
		n := 0
		for line := range strings.SplitSeq(s.Text, "\n") {
			kind := byte(reading.LineParagraph)
			if n < len(s.Lines) {
				kind = s.Lines[n]
			}
			n++
			if line != "" {
				add(line, kind, false)
			}
		}
	}
	d.words = min(d.words, max(compared, 1))
	if compared < mostWords {
		d.words = r.Counts.Words
	}
	d.countLower()
	d.collectPhrases(lang)
	d.nameSite(lang)
	return d
}

// tokenize cuts the sentence into tokens, of at most so many words, and returns
// its number of words.
func (s *sentence) tokenize(lang *language.Language, most int) int {
	words := 0
	last := 0
	text.EachWord(s.text, func(sp text.Span) {
		if words >= most {
			return
		}
		words++
		word := sp.Of(s.text)
		broken := !spaceOnly(s.text[last:sp.Start])
		last = sp.End
		first := true
		lang.EachPart(word, func(p language.Part) {
			part := word[p.Start:p.End]
			folded := text.Fold(part)
			if folded == "" {
				first = false
				return
			}
			r, _ := utf8.DecodeRuneInString(part)
			t := token{start: sp.Start + p.Start, end: sp.Start + p.End, folded: folded, stop: lang.Stop(part),
				number: unicode.IsDigit(r), capital: unicode.IsUpper(r), broken: broken && first, wordStart: p.Begins}
			t.stem = lang.StemFolded(folded)
			s.tokens = append(s.tokens, t)
			first = false
		})
	})
	return words
}

func spaceOnly(s string) bool {
	for _, r := range s {
		if !unicode.IsSpace(r) {
			return false
		}
	}
	return true
}

// countLower notes which words the page writes in small letters, so that a
// capital at a sentence's start, or in a heading, is not taken for a name.
func (d *Doc) countLower() {
	for _, s := range d.sentences {
		for i, t := range s.tokens {
			if i > 0 && !t.capital && !t.number {
				d.lower[t.folded]++
			}
		}
	}
}

// nameSite collects what the site calls itself: its host, the name it gives in
// its metadata, and the last part of its title when set off by a bar or dash.
func (d *Doc) nameSite(lang *language.Language) {
	d.siteNames = map[string]bool{}
	add := func(name string) {
		if stems := lang.ContentStems(name); len(stems) > 0 && len(stems) <= 5 {
			d.siteNames[key(stems)] = true
		}
	}
	add(d.Reading.SiteName)
	label := address.Parse(d.Reading.URL).SiteLabel()
	add(strings.ReplaceAll(label, "-", " "))
	add(strings.ReplaceAll(label, "-", ""))
	for _, mark := range []string{" | ", " – ", " — ", " · ", " :: ", " - "} {
		if i := strings.LastIndex(d.Reading.Title, mark); i > 0 {
			add(d.Reading.Title[i+len(mark):])
			break
		}
	}
}

func key(stems []string) string { return strings.Join(stems, " ") }
