package corpus

import (
	"strings"

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
	Site      string // the registered domain
	Language  string // the stems are of
	Sentences []Sentence
	Phrases   map[string]*Usage
	Sections  []map[string]int // stems of each section with their counts
	Words     int              // words of the content that were compared; see MaxWords
	Repeated  int              // of them, words of sentences that stand on the page before or are in another language
	Lower     map[string]int   // folded words as they stand in small letters, mid-sentence
	SiteNames map[string]bool  // stem keys of what the site calls itself

	// Abbreviations that the page explains: stem keys of the short and the long form.
	Abbreviations map[string]string
	LongForms     map[string]string // as written, by the stem key of the short form

	distribution map[string]*Distribution // of content words, folded
}

// Sentence is a stretch of one section's text or heading, cut into tokens.
type Sentence struct {
	Section int
	Heading bool // stands in the heading of the section
	Opening bool // within the first hundred words of the page
	Kind    byte // reading.Line...
	Again   bool // stands on the page before, word for word; see repeatable
	Foreign bool // is in another language than the market's
	Text    string
	Tokens  []Token
}

// Token is a word, or one part of a hyphenated word or of one with an elision.
type Token struct {
	Start, End int // bytes in Sentence.Text
	Folded     string
	Stem       string
	Stop       bool
	Number     bool // begins with a digit
	Capital    bool // begins with a capital
	Mixed      bool // has a capital behind its first letter: "pH", "X50CrMoV15"
	Broken     bool // something other than white space or a hyphen stands before it
	WordStart  bool // a word of its own, and not the rest of a compound
}

// Usage is how one document uses one phrase.
type Usage struct {
	Count    int
	Headings int // of Count, in headings
	Opening  int // of Count, in the opening hundred words
	Images   int // image texts that have it
	Title    bool
	Begun    int     // of Count, with a determiner or preposition before it
	The      int     // of Count, with a determiner before it
	Bare     int     // of Count, not part of a longer run of content words
	Sections []int32 // of Doc.Reading, that it stands in, ascending
	Surfaces []Surface
}

// Surface is one way a phrase is written.
type Surface struct {
	Text  string
	Count int
}

func (u *Usage) saw(s string) {
	for i := range u.Surfaces {
		if u.Surfaces[i].Text == s {
			u.Surfaces[i].Count++
			return
		}
	}
	u.Surfaces = append(u.Surfaces, Surface{s, 1})
}

// MaxWords is how much of one page is compared, in words: what comes after it
// is read and counted, but gives no terms, names or questions. A book of 300
// pages has about 100,000; our own bound, so that one page cannot take the
// memory of all others.
const MaxWords = 50_000

// Cut tells how many words of the page are beyond what is compared.
func (d *Doc) Cut() int { return d.Reading.Counts.Words - d.Words }

// IsForeign tells a page that is in another language than the field's, where that is one we read.
func (d *Doc) IsForeign() bool {
	return d.Reading.Detected != "" && d.Reading.Detected != d.Language && language.For(d.Language).IsRead()
}

// IsForeignLine tells a heading or a question of such a page that is in its language, as far as the English
// dictionary tells: one in the field's language names a matter whatever stands below it.
func (d *Doc) IsForeignLine(line string) bool {
	switch {
	case !d.IsForeign():
		return false
	case language.For(d.Language).Senses:
		return !IsEnglish(line)
	}
	return !language.For(d.Reading.Detected).Senses || IsEnglish(line)
}

// IsEnglish tells a line whose words are all English, or capitals as in "RAID".
func IsEnglish(line string) bool {
	all := true
	text.EachWord(line, func(w text.Span) {
		word := w.Of(line)
		all = all && (word == strings.ToUpper(word) || IsWord(text.Fold(word)) || language.Dictionary().Stop(text.Fold(word)))
	})
	return all
}

// Size is about how many bytes the document takes in memory, for caches to
// count: it is made of tokens, phrases and text. Measured, it is right to a
// factor of two from the demo's articles to a page of 50,000 words no two alike.
func (d *Doc) Size() int64 {
	size := int64(15_000) + 220*int64(len(d.Phrases)) + 90*int64(len(d.distribution))
	for i := range d.Sentences {
		size += 64*int64(len(d.Sentences[i].Tokens)) + 100
	}
	for i := range d.Reading.Sections {
		size += 3*int64(len(d.Reading.Sections[i].Text)+len(d.Reading.Sections[i].Heading)) + 200
	}
	return size
}

// openingWords is how much of a page counts as its opening.
// Common practice, no published source.
const openingWords = 100

// Prepare makes a document of a reading, with the stems of the market's language
// (a BCP 47 tag), which is the same for all pages of a field.
func Prepare(r *reading.Reading, market string) *Doc {
	lang := language.For(market)
	at := address.Parse(r.URL)
	d := &Doc{Reading: r, Host: at.Host(), Site: at.Site(), Language: lang.Code, Phrases: make(map[string]*Usage, 2*min(r.Counts.Words, MaxWords)/3), Lower: make(map[string]int, min(r.Counts.Words, MaxWords)/4), Words: r.Counts.Words}
	known := newLookup(lang)
	compared := 0
	for i, s := range r.Sections {
		stems := make(map[string]int, s.Words/2)
		d.Sections = append(d.Sections, stems)
		seen := s.Offset
		add := func(line string, kind byte, heading bool) {
			if compared >= MaxWords {
				return
			}
			for _, sp := range lang.Sentences(line) {
				if compared >= MaxWords {
					return
				}
				sen := Sentence{Section: i, Heading: heading, Opening: seen < openingWords, Kind: kind, Text: sp.Of(line)}
				n := sen.tokenize(known, MaxWords-compared)
				seen += n
				compared += n
				for i := range sen.Tokens {
					if t := &sen.Tokens[i]; !t.Stop {
						stems[t.Stem]++
					}
				}
				if sen.Foreign = sen.isForeign(lang) || heading && d.IsForeignLine(sen.Text); sen.Foreign {
					d.Repeated += n
				}
				d.Sentences = append(d.Sentences, sen)
			}
		}
		if s.Heading != "" {
			add(s.Heading, reading.LineParagraph, true)
		}
		for kind, line := range s.Blocks() {
			add(line, kind, false)
		}
	}
	d.Words = min(d.Words, max(compared, 1))
	if compared < MaxWords {
		d.Words = r.Counts.Words
	}
	d.markRepeated()
	d.countLower()
	d.countCompany(lang)
	d.collectPhrases(lang, known)
	d.nameSite(lang)
	d.findAbbreviations(lang)
	return d
}

// repeatable is how many words a sentence has at least to count once however often
// a page says it: shorter ones are labels and answers ("Yes."). Our own.
const repeatable = 4

// markRepeated marks sentences that a page says again word for word, so that a
// page that repeats itself does not bend its field.
func (d *Doc) markRepeated() {
	said := map[string]bool{}
	for i := range d.Sentences {
		s := &d.Sentences[i]
		if len(s.Tokens) < repeatable {
			continue
		}
		if s.Again = said[s.Text]; s.Again && !s.Foreign {
			d.Repeated += text.CountWords(s.Text)
		}
		said[s.Text] = true
	}
}

// countLower notes which words the page writes in small letters, so that a
// capital at a sentence's start, or in a heading, is not taken for a name.
func (d *Doc) countLower() {
	for n := range d.Sentences {
		toks := d.Sentences[n].Tokens
		for i := 1; i < len(toks); i++ {
			t := &toks[i]
			if !t.Capital && !t.Number {
				d.Lower[t.Folded]++
			}
		}
	}
}

// nameSite collects what the site calls itself: its host, the name it gives in
// its metadata, and the last part of its title when set off by a bar or dash.
func (d *Doc) nameSite(lang *language.Language) {
	d.SiteNames = map[string]bool{}
	add := func(name string) {
		if stems := lang.ContentStems(name); len(stems) > 0 && len(stems) <= 5 {
			d.SiteNames[Key(stems)] = true
		}
	}
	add(d.Reading.SiteName)
	label := address.Parse(d.Reading.URL).SiteLabel()
	add(strings.ReplaceAll(label, "-", " "))
	add(strings.ReplaceAll(label, "-", ""))
	for _, mark := range titleMarks {
		if i := strings.LastIndex(d.Reading.Title, mark); i > 0 {
			add(d.Reading.Title[i+len(mark):])
			break
		}
	}
}

// titleMarks set a site's name off at the end of a title.
var titleMarks = []string{" | ", " – ", " — ", " · ", " :: ", " - "}

// WithoutSite is a title without the site's name at its end, and whether it had one.
func (d *Doc) WithoutSite(title string) (own string, site bool) {
	for _, mark := range titleMarks {
		i := strings.LastIndex(title, mark)
		if i <= 0 {
			continue
		}
		lang := language.For(d.Language)
		if end := title[i+len(mark):]; d.SiteNames[Key(lang.ContentStems(end))] || mark == " | " {
			return strings.TrimSpace(title[:i]), true
		}
	}
	return title, false
}

// Key is what phrases are told apart by: their stems.
func Key(stems []string) string { return strings.Join(stems, " ") }
