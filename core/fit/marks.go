package fit

import (
	"cmp"
	"slices"
	"strings"
	"unicode/utf16"
	"unicode/utf8"

	"corpulan/core/brief"
	"corpulan/core/corpus"
	"corpulan/core/draft"
	"corpulan/core/language"
	"corpulan/core/message"
	"corpulan/core/reading"
	"corpulan/core/text"
)

// The kinds of marks.
const (
	MarkTerm      = "term"
	MarkOverdone  = "overdone"
	MarkCopied    = "copied"
	MarkSentence  = "long-sentence"
	MarkParagraph = "long-paragraph"
	MarkFigure    = "figure"
	MarkEntity    = "entity"
)

// longSentence is how many words a sentence has at most that is easy to read. Common practice
// (20 to 25 words), no published source.
const longSentence = 25

// Mark is a place in a draft that a figure of its fit is about.
type Mark struct {
	Block int             `json:"block"` // number of the textblock
	From  int             `json:"from"`  // UTF-16 units of its text
	To    int             `json:"to"`
	Kind  string          `json:"kind"`
	Key   string          `json:"key,omitempty"` // of the term or entity
	Says  message.Message `json:"says"`
}

// block is a textblock of a draft with its sentences.
type block struct {
	draft.Block
	sentences []corpus.Sentence
	spans     []text.Span
	ascii     bool    // its bytes are its UTF-16 units
	units     []int32 // else the units before each byte; made when asked for
}

// blocksOf cuts the textblocks of a draft into sentences.
func blocksOf(n *draft.Node, lang *language.Language) []block {
	var list []block
	for _, b := range n.Blocks() {
		x := block{Block: b, ascii: text.IsASCII(b.Text)}
		x.sentences, x.spans = corpus.Cut(lang, b.Text)
		list = append(list, x)
	}
	return list
}

// mark makes a mark of bytes of a block.
func (b *block) mark(from, to int, kind, key string, says message.Message) Mark {
	return Mark{b.Number, b.unit(from), b.unit(to), kind, key, says}
}

// unit is the number of UTF-16 units before a byte of the block.
func (b *block) unit(at int) int {
	if b.ascii {
		return at
	}
	if b.units == nil {
		b.units = make([]int32, len(b.Text)+1)
		n := int32(0)
		for i, r := range b.Text {
			size := max(utf8.RuneLen(r), 1)
			for k := i; k < min(i+size, len(b.Text)); k++ {
				b.units[k] = n
			}
			n += int32(max(utf16.RuneLen(r), 1))
		}
		b.units[len(b.Text)] = n
	}
	return int(b.units[at])
}

// Marks finds the places in a draft that its fit is about: uses of terms and names, too many
// of one, long sentences and paragraphs, and what stands in a page word for word. doc is the
// draft as it was measured, close its closeness, taken what counts for nothing.
func Marks(b *brief.Brief, n *draft.Node, doc *corpus.Doc, close []Closeness, taken Taken) []Mark {
	lang := language.For(b.Language)
	blocks := blocksOf(n, lang)
	list := append([]Mark{}, termMarks(b, lang, blocks, taken)...)
	for i := range blocks {
		x := &blocks[i]
		if x.Heading > 0 || x.Kind == reading.LineCode || x.Kind == reading.LineQuote {
			continue
		}
		list = append(list, x.nameMarks(b)...)
		if words := text.CountWords(x.Text); words > reading.LongParagraph && x.Kind == reading.LineParagraph {
			list = append(list, x.mark(0, len(x.Text), MarkParagraph, "", message.Of("a paragraph of %d words; beyond %d it is hard to scan", words, reading.LongParagraph)))
		}
		for k := range x.sentences {
			if words := wordsIn(&x.sentences[k]); words > longSentence {
				list = append(list, x.mark(x.spans[k].Start, x.spans[k].End, MarkSentence, "", message.Of("a sentence of %d words; beyond %d it is hard to read", words, longSentence)))
			}
		}
	}
	list = append(list, copiedMarks(blocks, doc, close)...)
	list = append(list, takenMarks(blocks, list, taken)...)
	slices.SortStableFunc(list, func(a, b Mark) int {
		return cmp.Or(a.Block-b.Block, a.From-b.From, b.To-a.To)
	})
	return list
}

// termMarks marks the uses of terms in sentences, and each use of one that is overdone.
func termMarks(b *brief.Brief, lang *language.Language, blocks []block, taken Taken) []Mark {
	type at struct{ block, sentence int }
	having := map[string][]at{}
	said := sayings{map[string]bool{}, map[string]int{}}
	for i := range blocks {
		x := &blocks[i]
		if x.Heading > 0 || x.Kind == reading.LineCode || x.Kind == reading.LineQuote {
			continue
		}
		for k := range x.sentences {
			s := &x.sentences[k]
			if taken[saidAs(s)] != 0 || !said.first(s) || asksAgain(s, b, lang) {
				continue
			}
			for _, tok := range s.Tokens {
				if l := having[tok.Stem]; len(l) == 0 || l[len(l)-1] != (at{i, k}) {
					having[tok.Stem] = append(l, at{i, k})
				}
			}
		}
	}
	var list []Mark
	for _, term := range b.Terms {
		stems := stemsOf(lang, term.Term)
		var found []Mark
		for _, p := range having[stems[0]] {
			x := &blocks[p.block]
			toks, base := x.sentences[p.sentence].Tokens, x.spans[p.sentence].Start
			for i := range toks {
				if n := follows(toks[i:], stems); n > 0 {
					found = append(found, x.mark(base+toks[i].Start, base+toks[i+n-1].End, MarkTerm, term.Key, ""))
				}
			}
		}
		over := term.Most > 0 && len(found) > term.Most
		for i := range found {
			found[i].Says = message.Of("%s, %d of %d to %d times", term.Term, len(found), max(term.Lower, 1), max(term.Upper, term.Lower, 1))
			if over {
				found[i].Kind, found[i].Says = MarkOverdone, message.Of("%s, %d times; beyond %d it is overdone", term.Term, len(found), term.Most)
			}
		}
		list = append(list, found...)
	}
	return list
}

// saidAs is the same for sentences that say the same word for word.
func saidAs(s *corpus.Sentence) string {
	return squeezed(s.Text)
}

// nameMarks marks the first place of each name in a block.
func (b *block) nameMarks(of *brief.Brief) []Mark {
	var list []Mark
	low := strings.ToLower(b.Text)
	if len(low) != len(b.Text) { // a letter whose small form is longer
		return nil
	}
	for _, x := range of.Entities {
		name := strings.ToLower(x.Name)
		if i := strings.Index(low, name); i >= 0 && corpus.HasWord(low, name) {
			list = append(list, b.mark(i, i+len(name), MarkEntity, x.Key, message.Text(x.Name)))
		}
	}
	return list
}

// takenMarks marks the sentences that count for nothing and that no mark of copying touches: they are reworded.
func takenMarks(blocks []block, marks []Mark, taken Taken) (list []Mark) {
	for i := range blocks {
		x := &blocks[i]
		for k := range x.sentences {
			rank := taken[saidAs(&x.sentences[k])]
			if rank == 0 || x.Heading > 0 {
				continue
			}
			says := message.Of("nearly as on page %d: it counts for nothing", rank)
			if rank < 0 {
				says = "nearly as on another page of ours: it counts for nothing"
			}
			m := x.mark(x.spans[k].Start, x.spans[k].End, MarkCopied, "", says)
			if !slices.ContainsFunc(marks, func(o Mark) bool {
				return o.Kind == MarkCopied && o.Block == m.Block && o.From < m.To && m.From < o.To
			}) {
				list = append(list, m)
			}
		}
	}
	return list
}

// copiedMarks marks the passages that stand in a page as well. The words of the blocks are
// those of the document, one by one, unless the draft is longer than what is compared.
func copiedMarks(blocks []block, doc *corpus.Doc, close []Closeness) []Mark {
	type spot struct{ block, from, to int }
	var spots []spot
	for i := range blocks {
		x := &blocks[i]
		if x.Heading > 0 {
			continue
		}
		for k, s := range x.sentences {
			for _, t := range s.Tokens {
				spots = append(spots, spot{i, x.spans[k].Start + t.Start, x.spans[k].Start + t.End})
			}
		}
	}
	if mine := wordsOf(doc); len(mine) > len(spots) {
		return nil
	}
	var list []Mark
	for _, c := range close {
		page := message.Of("page %d", c.Rank)
		if c.Rank == 0 {
			page = "a page of ours"
		}
		for _, p := range c.Passages {
			for i := p.from; i < p.to; {
				k := i
				for k+1 < p.to && spots[k+1].block == spots[i].block {
					k++
				}
				list = append(list, blocks[spots[i].block].mark(spots[i].from, spots[k].to, MarkCopied, c.URL, message.Of("%d words as on %s", p.Words, page)))
				i = k + 1
			}
		}
	}
	return list
}
