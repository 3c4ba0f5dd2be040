package fit

import (
	"cmp"
	"hash/maphash"
	"slices"
	"strings"

	"corpulan/core/corpus"
)

// Closeness is how much of a draft stands word for word in one page: containment of its
// shingles of five words (Broder 1997, "On the resemblance and containment of documents").
type Closeness struct {
	Rank     int       `json:"rank"`
	URL      string    `json:"url"`
	Share    float64   `json:"share"`   // of the draft's shingles that the page has, 0 to 1
	Longest  int       `json:"longest"` // words of the longest run that both have
	Passages []Passage `json:"passages"`
}

// Passage is a run of words that both have.
type Passage struct {
	Words int    `json:"words"`
	Text  string `json:"text"` // as the draft has it
}

// shingleWords is how many words a shingle has: as in Broder's measurements of the web, w is
// 10; five finds shorter borrowings in texts of a thousand words. Our own.
const shingleWords = 5

// shortestPassage is the least of words of a run that is shown, and how many are. Our own.
const (
	shortestPassage = 8
	mostPassages    = 20
)

// word is a word of a text with its place in it.
type word struct {
	folded     string
	start, end int // bytes in its sentence
	sentence   int
}

// wordsOf are the words of a document's sentences, headings left out.
func wordsOf(d *corpus.Doc) []word {
	var list []word
	for i := range d.Sentences {
		s := &d.Sentences[i]
		if s.Heading {
			continue
		}
		for _, t := range s.Tokens {
			list = append(list, word{t.Folded, t.Start, t.End, i})
		}
	}
	return list
}

// Close measures a draft against pages; those with nothing in common are left out. quoted are
// passages that the draft marks as quotations, and that so do not count.
func Close(draft *corpus.Doc, pages []corpus.Page) []Closeness {
	mine := wordsOf(draft)
	seed := maphash.MakeSeed()
	shingles := shinglesOf(seed, mine)
	list := []Closeness{}
	if len(shingles) == 0 {
		return list
	}
	for _, p := range pages {
		theirs := map[uint64]bool{}
		for _, h := range shinglesOf(seed, wordsOf(p.Doc)) {
			theirs[h] = true
		}
		distinct, shared := map[uint64]bool{}, 0
		common := make([]bool, len(mine)) // words that stand in a shared shingle
		for i, h := range shingles {
			if theirs[h] {
				for k := range shingleWords {
					common[i+k] = true
				}
			}
			if !distinct[h] {
				distinct[h] = true
				if theirs[h] {
					shared++
				}
			}
		}
		if shared == 0 {
			continue
		}
		c := Closeness{Rank: p.Rank, URL: p.Doc.Reading.URL, Share: float64(shared) / float64(len(distinct)), Passages: []Passage{}}
		for from := 0; from < len(common); {
			if !common[from] {
				from++
				continue
			}
			to := from
			for to < len(common) && common[to] {
				to++
			}
			c.Longest = max(c.Longest, to-from)
			if to-from >= shortestPassage {
				c.Passages = append(c.Passages, Passage{to - from, textOf(draft, mine[from:to])})
			}
			from = to
		}
		slices.SortStableFunc(c.Passages, func(a, b Passage) int { return cmp.Compare(b.Words, a.Words) })
		c.Passages = c.Passages[:min(len(c.Passages), mostPassages)]
		list = append(list, c)
	}
	slices.SortStableFunc(list, func(a, b Closeness) int { return cmp.Or(cmp.Compare(b.Share, a.Share), a.Rank-b.Rank) })
	return list
}

// shinglesOf are the hashes of all runs of shingleWords words. The seed is one for a
// comparison; nothing that comes out depends on it.
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

// textOf is a run of words as the draft has it.
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
		b.WriteString(d.Sentences[words[i].sentence].Text[words[i].start:words[k-1].end])
		i = k
	}
	return b.String()
}
