package fit

import (
	"slices"
	"strings"

	"corpulan/core/brief"
	"corpulan/core/corpus"
	"corpulan/core/language"
	"corpulan/core/reading"
	"corpulan/core/says"
)

// measured is a draft as it is measured.
type measured struct {
	doc      *corpus.Doc
	field    *corpus.Field             // of the draft alone
	counts   map[*corpus.Sentence]bool // those of prose: what does not count answers nothing
	lang     *language.Language
	prose    []*corpus.Sentence     // sentences of its body that count
	all      []*corpus.Sentence     // the same with those of a frame that was said before
	headings []*corpus.Sentence     // that something of one's own stands below
	words    int                    // of prose
	quoted   int                    // words of quotations
	copied   int                    // words of what is taken
	bySect   map[int]map[string]int // stems of the prose of each section
	left     leaves
}

// What is a sentence and no list of words: it has as many words, and of a language whose
// function words are known as large a part of them. Our own; running text has 40 to 60 % of
// function words, a list of terms next to none.
const (
	shortestSentence = 4
	minStops         = 0.15
)

// newText finds what of a draft counts: sentences outside headings, quotations and code that are
// taken from nowhere and no question of the brief, the same one only once.
func newText(d *corpus.Doc, b *brief.Brief, taken Taken) *measured {
	f := corpus.NewField([]corpus.RankedPage{{Rank: 1, Doc: d}}, b.Language, b.Keyword)
	t := &measured{doc: d, field: f, counts: map[*corpus.Sentence]bool{}, lang: f.Language, bySect: map[int]map[string]int{}}
	said := sayings{map[string]bool{}, map[string]int{}}
	worn := wornOut(d.Sentences)
	for i := range d.Sentences {
		s := &d.Sentences[i]
		if s.Heading {
			t.headings = append(t.headings, s)
			continue
		}
		if s.Kind == reading.LineQuote || s.Kind == reading.LineCode {
			t.quoted += wordsIn(s)
			t.left.quoted += wordsIn(s)
			continue
		}
		if rank := taken[saidAs(s)]; rank != 0 {
			t.copied += wordsIn(s)
			t.left.of(s, rank)
			continue
		}
		if !isProse(s) {
			t.left.lists += wordsIn(s)
			continue
		}
		if !said.first(s) {
			t.left.again += wordsIn(s)
			continue
		}
		if asksAgain(s, b, t.lang) {
			t.left.asked += wordsIn(s)
			continue
		}
		t.all = append(t.all, s)
		if frame, _ := frameOf(s); worn[frame] || !said.fresh(s) {
			t.left.again += wordsIn(s)
			continue
		}
		t.counts[s] = true
		t.prose = append(t.prose, s)
		stems := t.bySect[s.Section]
		if stems == nil {
			stems = map[string]int{}
			t.bySect[s.Section] = stems
		}
		t.words += wordsIn(s)
		for _, tok := range s.Tokens {
			if !tok.Stop {
				stems[tok.Stem]++
			}
		}
	}
	t.headings = slices.DeleteFunc(t.headings, func(s *corpus.Sentence) bool { return !t.heads(s.Section) })
	return t
}

// sameQuestion is the part of the content stems of two questions, of all that either has, with which one is the other. Our own.
const sameQuestion = 0.8

// asksAgain tells a sentence that is a question of the brief, written down once more.
func asksAgain(s *corpus.Sentence, b *brief.Brief, lang *language.Language) bool {
	if !says.IsAsked(s.Text) {
		return false
	}
	stems := contentStems(s)
	return slices.ContainsFunc(b.Questions, func(q brief.Question) bool {
		asked := lang.ContentStems(q.Text)
		slices.Sort(asked)
		asked = slices.Compact(asked)
		both := 0
		for _, st := range stems {
			if slices.Contains(asked, st) {
				both++
			}
		}
		return float64(both) >= sameQuestion*float64(len(stems)+len(asked)-both)
	})
}

// heads tells whether something of one's own stands below the heading of a section: in it, or in one that stands within it.
func (t *measured) heads(section int) bool {
	sections := t.doc.Reading.Sections
	for n := section; n < len(sections) && (n == section || sections[n].Level > sections[section].Level); n++ {
		if t.bySect[n] != nil {
			return true
		}
	}
	return false
}

// sayings are the sentences that a draft has so far.
type sayings struct {
	said   map[string]bool
	frames map[string]int
}

// Sentences of one frame say one thing with the words changed: "The chain and the lube are in
// the winter." Frames of few function words meet by chance. Our own.
const (
	fewestInFrame = 3 // function words
	maxOfFrame    = 3 // sentences that count
	fewestInWorn  = 4 // function words of a frame of which no sentence counts,
	maxOfWorn     = 4 // since it has more than so many
)

// wornOut are the frames of so many sentences that they are no text but a form that was filled in.
func wornOut(sentences []corpus.Sentence) map[string]bool {
	counts, worn := map[string]int{}, map[string]bool{}
	said := sayings{said: map[string]bool{}}
	for i := range sentences {
		if s := &sentences[i]; !s.Heading && said.first(s) {
			if frame, n := frameOf(s); n >= fewestInWorn {
				counts[frame]++
				worn[frame] = counts[frame] > maxOfWorn
			}
		}
	}
	return worn
}

// first tells a sentence that was not said before.
func (y sayings) first(s *corpus.Sentence) bool {
	key := saidAs(s)
	if y.said[key] || !isProse(s) {
		return false
	}
	y.said[key] = true
	return true
}

// fresh tells one that counts: it is not the fourth with the same function words in the same
// places.
func (y sayings) fresh(s *corpus.Sentence) bool {
	frame, n := frameOf(s)
	if n < fewestInFrame {
		return true
	}
	y.frames[frame]++
	return y.frames[frame] <= maxOfFrame
}

// frameOf is a sentence with a sign for each run of other words than function words, and how many
// of these it has.
func frameOf(s *corpus.Sentence) (frame string, stops int) {
	var b strings.Builder
	gap := false
	for _, t := range s.Tokens {
		if !t.Stop {
			gap = true
			continue
		}
		if gap {
			b.WriteByte('_')
			gap = false
		}
		b.WriteString(t.Folded)
		b.WriteByte(' ')
		stops++
	}
	return b.String(), stops
}

// wordsIn counts a sentence's words.
func wordsIn(s *corpus.Sentence) int {
	n := 0
	for _, tok := range s.Tokens {
		if tok.WordStart {
			n++
		}
	}
	return n
}

// isProse tells a sentence from a list of words.
func isProse(s *corpus.Sentence) bool {
	stops := 0
	for _, tok := range s.Tokens {
		if tok.Stop {
			stops++
		}
	}
	return len(s.Tokens) >= shortestSentence && float64(stops) >= minStops*float64(len(s.Tokens))
}

// heading is that of a section of the draft.
func (t *measured) heading(section int) string {
	if section < 0 || section >= len(t.doc.Reading.Sections) {
		return ""
	}
	return t.doc.Reading.Sections[section].Heading
}
