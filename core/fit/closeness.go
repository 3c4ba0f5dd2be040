package fit

import (
	"cmp"
	"hash/maphash"
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/reading"
)

// Closeness is how much of a draft stands word for word in one page: containment of its
// shingles of five words (Broder 1997, "On the resemblance and containment of documents").
// What the draft marks as quoted does not count.
type Closeness struct {
	Rank     int       `json:"rank"` // 0 for an own page
	URL      string    `json:"url"`
	Share    float64   `json:"share"`   // of the draft's shingles that the page has, 0 to 1
	Longest  int       `json:"longest"` // words of the longest run that both have
	Passages []Passage `json:"passages"`
}

// Passage is a run of words that both have.
type Passage struct {
	Words  int    `json:"words"`
	Text   string `json:"text"`   // as the draft has it
	Theirs string `json:"theirs"` // as the page has it, with what stands around it

	from, to int // words of the draft, as wordsOf lists them
}

// shingleWords is how many words a shingle has: as in Broder's measurements of the web, w is
// 10; five finds shorter borrowings in texts of a thousand words. Our own.
const shingleWords = 5

// Which runs are shown, and how much around them. Our own.
const (
	shortestPassage = 8 // words
	maxPassages     = 20
	around          = 12 // words of the page on either side
	maxSpots        = 16 // of a page that one shingle is looked for at
)

// word is a word of a text with its place in it.
type word struct {
	folded     string
	start, end int // bytes in its sentence
	sentence   int
	quoted     bool
}

// wordsOf are the words of a document's sentences, headings left out.
func wordsOf(d *corpus.Doc) []word {
	var list []word
	var q quotes
	for i := range d.Sentences {
		s := &d.Sentences[i]
		if s.Heading {
			continue
		}
		q.begin(s)
		for _, t := range s.Tokens {
			list = append(list, word{t.Folded, t.Start, t.End, i, s.Kind == reading.LineQuote || q.before(t.Start)})
		}
	}
	return list
}

// quotes follows marks of quotation through sentences of a section.
type quotes struct {
	section int
	s       *corpus.Sentence
	at      int
	open    bool
	words   int
}

// longestQuote is how many words after a mark are still a quotation, if none shuts it. Our own.
const longestQuote = 150

func (q *quotes) begin(s *corpus.Sentence) {
	if s.Section != q.section {
		q.open = false
	}
	q.section, q.s, q.at = s.Section, s, 0
}

// before tells whether the word at a byte of the sentence stands within marks.
func (q *quotes) before(at int) bool {
	for _, r := range q.s.Text[q.at:at] {
		switch r {
		case '“', '„', '«', '»', '”', '"', '‟':
			q.open, q.words = !q.open, 0
		}
	}
	q.at = at
	if q.words++; q.words > longestQuote {
		q.open = false
	}
	return q.open
}

// Shingles are pages made ready to be compared with drafts. They never change, and serve any
// number of comparisons.
type Shingles struct {
	seed  maphash.Seed // one for all pages; nothing that comes out depends on it
	pages []shingled

	sentences []said             // of all pages; see Taken
	having    map[string][]int32 // by content stem
}

type shingled struct {
	corpus.RankedPage
	words    []word
	shingles []spot // by hash, then by place
}

// spot is where a shingle begins.
type spot struct {
	hash uint64
	at   int32
}

// NewShingles makes pages ready. Own pages have the rank 0.
func NewShingles(pages []corpus.RankedPage) *Shingles {
	s := &Shingles{seed: maphash.MakeSeed()}
	for _, p := range pages {
		x := shingled{RankedPage: p, words: wordsOf(p.Doc)}
		for i, h := range shinglesOf(s.seed, x.words) {
			x.shingles = append(x.shingles, spot{h, int32(i)})
		}
		slices.SortFunc(x.shingles, func(a, b spot) int { return cmp.Or(cmp.Compare(a.hash, b.hash), cmp.Compare(a.at, b.at)) })
		s.pages = append(s.pages, x)
	}
	s.sentences, s.having = sentencesOf(s.pages)
	return s
}

// spots are where a shingle begins on a page.
func (x *shingled) spots(hash uint64) []spot {
	i, _ := slices.BinarySearchFunc(x.shingles, hash, func(s spot, h uint64) int { return cmp.Compare(s.hash, h) })
	k := i
	for k < len(x.shingles) && x.shingles[k].hash == hash {
		k++
	}
	return x.shingles[i:k]
}

// Size is about how many bytes they take in memory.
func (s *Shingles) Size() int64 {
	n := int64(100)
	for _, p := range s.pages {
		n += 16*int64(len(p.shingles)) + 48*int64(len(p.words))
	}
	return n
}

// Close measures a draft against pages; those with nothing in common are left out.
func Close(draft *corpus.Doc, pages []corpus.RankedPage) []Closeness {
	return NewShingles(pages).Close(draft)
}

// Close measures a draft against the pages; those with nothing in common are left out.
func (s *Shingles) Close(draft *corpus.Doc) []Closeness {
	mine := wordsOf(draft)
	shingles := shinglesOf(s.seed, mine)
	list := []Closeness{}
	for i := range s.pages {
		if c, any := s.pages[i].against(draft, mine, shingles); any {
			list = append(list, c)
		}
	}
	slices.SortStableFunc(list, func(a, b Closeness) int { return cmp.Or(cmp.Compare(b.Share, a.Share), a.Rank-b.Rank) })
	return list
}

func (x *shingled) against(draft *corpus.Doc, mine []word, shingles []uint64) (Closeness, bool) {
	c := Closeness{Rank: x.Rank, URL: x.Doc.Reading.URL, Passages: []Passage{}}
	distinct, shared := map[uint64]bool{}, 0
	next := 0 // where the last run ends
	for i, h := range shingles {
		if quoted(mine[i : i+shingleWords]) {
			continue
		}
		spots := x.spots(h)
		if !distinct[h] {
			distinct[h] = true
			if len(spots) > 0 {
				shared++
			}
		}
		if len(spots) == 0 || i+shingleWords <= next {
			continue
		}
		run, at := 0, 0
		for _, sp := range spots[:min(len(spots), maxSpots)] {
			if n := x.run(mine[i:], int(sp.at)); n > run {
				run, at = n, int(sp.at)
			}
		}
		if i+run <= next {
			continue
		}
		next = i + run
		c.Longest = max(c.Longest, run)
		if run >= shortestPassage {
			c.Passages = append(c.Passages, Passage{Words: run, Text: textOf(draft, mine[i:i+run]), Theirs: x.theirs(at, at+run), from: i, to: i + run})
		}
	}
	if shared == 0 {
		return c, false
	}
	c.Share = float64(shared) / float64(len(distinct))
	slices.SortStableFunc(c.Passages, func(a, b Passage) int { return cmp.Compare(b.Words, a.Words) })
	c.Passages = c.Passages[:min(len(c.Passages), maxPassages)]
	return c, true
}

// run is how many words of a draft stand one after another at a place of the page.
func (x *shingled) run(mine []word, at int) int {
	n := 0
	for n < len(mine) && at+n < len(x.words) && !mine[n].quoted && mine[n].folded == x.words[at+n].folded {
		n++
	}
	return n
}

// theirs is a run of a page's words with some of those around it.
func (x *shingled) theirs(from, to int) string {
	before, after := max(from-around, 0), min(to+around, len(x.words))
	s := textOf(x.Doc, x.words[before:after])
	if before > 0 {
		s = "… " + s
	}
	if after < len(x.words) {
		s += " …"
	}
	return s
}

func quoted(words []word) bool {
	for _, w := range words {
		if w.quoted {
			return true
		}
	}
	return false
}

// shinglesOf are the hashes of all runs of shingleWords words.
func shinglesOf(seed maphash.Seed, words []word) []uint64 {
	if len(words) < shingleWords {
		return nil
	}
	list := make([]uint64, 0, len(words)-shingleWords+1)
	var h maphash.Hash
	h.SetSeed(seed)
	for i := range len(words) - shingleWords + 1 {
		h.Reset()
		for _, w := range words[i : i+shingleWords] {
			_, _ = h.WriteString(w.folded) // never fails
			_ = h.WriteByte(' ')
		}
		list = append(list, h.Sum64())
	}
	return list
}

// textOf is a run of words as the text has it.
func textOf(d *corpus.Doc, words []word) string {
	var b strings.Builder
	for i := 0; i < len(words); {
		k := i
		for k < len(words) && words[k].sentence == words[i].sentence {
			k++
		}
		if b.Len() > 0 {
			b.WriteByte(' ')
		}
		end := words[k-1].end
		if whole := d.Sentences[words[i].sentence].Text; k < len(words) { // it goes on: with the stop
			end = len(whole)
		}
		b.WriteString(d.Sentences[words[i].sentence].Text[words[i].start:end])
		i = k
	}
	return b.String()
}
