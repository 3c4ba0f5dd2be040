package reading

import (
	"math"
	"slices"
	"strings"
	"unicode/utf8"

	"corpulan/core/language"
	"corpulan/core/text"
)

// tally is what one section of the page holds beside its text. It is added to
// the page's when the section is kept, and forgotten when it is struck.
type tally struct {
	counts     Counts
	links      []Link
	linked     map[string]bool // addresses of links
	imageTexts []string
	tables     []Table
	marked     []Marked
}

// add counts a section's tally into the page's: each address and each image text
// once.
func (w *writer) add(t tally) {
	c, o := &w.reading.Counts, t.counts
	c.Paragraphs += o.Paragraphs
	c.Images += o.Images
	c.Videos += o.Videos
	c.Embeds += o.Embeds
	c.Tables += o.Tables
	c.Lists += o.Lists
	c.InternalLinks += o.InternalLinks
	c.ExternalLinks += o.ExternalLinks
	c.PaidLinks += o.PaidLinks
	c.FileLinks += o.FileLinks
	for url := range t.linked {
		w.links[url] = true
	}
	at := len(w.reading.Sections)
	for i := range t.links {
		t.links[i].Section = at
	}
	w.reading.Links = append(w.reading.Links, t.links...)
	for _, x := range t.tables {
		x.Section = at
		w.reading.Tables = append(w.reading.Tables, x)
	}
	for _, x := range t.marked {
		x.Section = at
		w.reading.Marked = append(w.reading.Marked, x)
	}
	for _, s := range t.imageTexts {
		if len(w.reading.ImageTexts) < maxImageTexts && !slices.Contains(w.reading.ImageTexts, s) {
			w.reading.ImageTexts = append(w.reading.ImageTexts, s)
		}
	}
}

func (w *writer) count() {
	c := &w.reading.Counts
	c.Words = len(w.hashes)
	w.countParagraphs()
	for _, s := range w.reading.Sections {
		c.Characters += utf8.RuneCountInString(s.Text) + utf8.RuneCountInString(s.Heading)
	}
}

// countParagraphs measures the paragraphs' lengths.
func (w *writer) countParagraphs() {
	p := &w.reading.Paragraphs
	if len(w.paragraphs) == 0 {
		return
	}
	slices.Sort(w.paragraphs)
	p.Median, p.Longest = w.paragraphs[len(w.paragraphs)/2], w.paragraphs[len(w.paragraphs)-1]
	for _, n := range w.paragraphs {
		if n > LongParagraph {
			p.Long++
		}
	}
}

// wordUse is a word as the content uses it.
type wordUse struct {
	word      string
	n         int
	syllables int // 0 until asked for
	letters   int // as syllables
}

// countStopWords measures the share of stop words once the language is known.
func (w *writer) countStopWords() {
	lang := language.For(w.reading.Language)
	if !lang.IsRead() {
		return
	}
	n, all := 0, 0
	for _, u := range w.words {
		all += u.n
		if lang.Stop(u.word) {
			n += u.n
		}
	}
	if all > 0 {
		w.reading.StopShare = math.Round(1000*float64(n)/float64(all)) / 1000
	}
}

// countLine goes over the words of one line, once for all that counts them. Readability is that of whole sentences: those of paragraphs
// and quotations, and of items and captions that end like one.
func (w *writer) countLine(line string, kind byte) {
	before := len(w.hashes)
	if kind == LineParagraph {
		defer func() { w.paragraphs = append(w.paragraphs, len(w.hashes)-before) }()
	}
	whole := kind == LineParagraph || kind == LineQuote || kind != LineCode && kind != LineCell && strings.HasSuffix(line, ".")
	_, eased := language.EaseOf(w.reading.Language)
	text.EachWord(line, func(sp text.Span) {
		h := hashWord(sp.Of(line))
		w.hashes = append(w.hashes, h)
		u := w.words[h]
		if u == nil {
			u = &wordUse{word: sp.Of(line)}
			w.words[h] = u
		}
		u.n++
		if whole && eased {
			if u.syllables == 0 {
				u.syllables, u.letters = w.lang.Syllables(u.word), utf8.RuneCountInString(u.word)
			}
			w.prose.Syllables += u.syllables
			w.prose.Letters += u.letters
			if u.letters > text.LongWord {
				w.prose.Long++
			}
		}
	})
	if whole {
		w.prose.Sentences += len(w.lang.Sentences(line))
		w.prose.Words += len(w.hashes) - before
	}
}

// readability writes the figures; finishLanguage takes readability back where the
// text turns out to be in another language.
func (r *Reading) readability(p text.Prose) {
	r.Counts.Sentences = p.Sentences
	if language.Graded(r.Language) {
		r.Readability = text.Flesch(p.Words, p.Sentences, p.Syllables)
	}
	if e, ok := language.EaseOf(r.Language); ok && p.Words > 0 {
		r.Readability.Ease, r.Readability.Formula = e.Of(p), e.Formula
	}
}
