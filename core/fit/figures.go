package fit

import (
	"slices"
	"strconv"
	"strings"

	"corpulan/core/address"
	"corpulan/core/corpus"
	"corpulan/core/draft"
	"corpulan/core/language"
	"corpulan/core/message"
	"corpulan/core/reading"
)

// Figure is a claim of a draft, most often a figure, and where it comes from.
type Figure struct {
	Kind     string `json:"kind"` // figure, date, name or superlative
	Text     string `json:"text"`
	Sentence string `json:"sentence"`
	Source   string `json:"source,omitempty"` // address that its sentence links to, or the next behind it in the paragraph
	There    bool   `json:"there"`            // that is a page of the field, and the figure stands on it
	Page     bool   `json:"page"`             // the source is a page of the field
	Ranks    []int  `json:"ranks"`            // pages of the field that have the figure in a sentence about the same
	Differs  []int  `json:"differs"`          // pages that have another figure of the unit in a sentence that says the same of it

	Mark Mark `json:"-"`
}

// sharedStems is how many content words a sentence of a page must share with one of a draft to
// be about the same. Our own.
const sharedStems = 2

// sameStems is which share of the content words of the shorter of two sentences both must have to say the same of a figure, so that
// another figure contradicts it. Our own.
const sameStems = 0.5

// Known are the figures of a field, made ready once.
type Known struct {
	by    map[string][]known // by what is counted; see countedBy
	at    map[string]int     // rank of a page by its address
	pages []corpus.RankedPage
}

// lower tells a word that a page writes in small letters.
func (k *Known) lower(word string) bool {
	return slices.ContainsFunc(k.pages, func(p corpus.RankedPage) bool { return p.Doc.Lower[word] > 0 })
}

type known struct {
	rank     int
	from, to float64
	stems    []string // of its sentence, sorted
}

// NewKnown collects the figures of pages.
func NewKnown(pages []corpus.RankedPage, lang *language.Language) *Known {
	k := &Known{map[string][]known{}, map[string]int{}, pages}
	for _, p := range pages {
		k.at[address.Parse(p.Doc.Reading.URL).Key()] = p.Rank
		for i := range p.Doc.Sentences {
			s := &p.Doc.Sentences[i]
			claims := claimsOf(s, lang, k.lower)
			if len(claims) == 0 {
				continue
			}
			stems := contentOf(s)
			for _, c := range claims {
				k.by[c.key] = append(k.by[c.key], known{p.Rank, c.From, c.To, stems})
			}
		}
	}
	return k
}

// Size is about how many bytes they take in memory.
func (k *Known) Size() int64 {
	n := int64(100 + 100*len(k.at))
	for _, list := range k.by {
		n += 300 * int64(len(list))
	}
	return n
}

// contentOf are the content stems of a sentence, sorted, numbers left out.
func contentOf(s *corpus.Sentence) []string {
	var list []string
	for _, t := range s.Tokens {
		if !t.Stop && !t.Number {
			list = append(list, t.Stem)
		}
	}
	slices.Sort(list)
	return slices.Compact(list)
}

// countedBy is what numbers must share to be of the same: their unit, or the word that they stand before.
func countedBy(f corpus.Figure) string {
	if f.Unit == "" {
		return "of " + f.Of
	}
	return f.Unit + " per " + f.Per
}

// Figures lists the claims of a draft in their order, those in its body: figures, numbers without a unit among them, what is said to go
// beyond all others, and names.
func (k *Known) Figures(n *draft.Node, lang *language.Language) []Figure {
	list := []Figure{}
	blocks := blocksOf(n, lang)
	for i := range blocks {
		b := &blocks[i]
		if b.Heading > 0 || b.Kind == reading.LineCode {
			continue
		}
		for at := range b.sentences {
			s, sp := &b.sentences[at], b.spans[at]
			stems := contentOf(s)
			for _, f := range claimsOf(s, lang, k.lower) {
				x := Figure{Kind: f.kind, Text: f.Text, Sentence: near(s.Text, s.Tokens[f.Token].Start), Source: b.linkNear(sp.Start)}
				x.Ranks, x.Differs = k.having(f, stems)
				if rank, ok := k.at[address.Parse(x.Source).Key()]; ok && x.Source != "" {
					x.Page, x.There = true, slices.Contains(x.Ranks, rank)
				}
				start := sp.Start + beginOf(s.Text, f.Text, s.Tokens[f.Token].Start)
				x.Mark = b.mark(start, min(start+len(f.Text), len(b.Text)), MarkFigure, "", x.Says())
				list = append(list, x)
			}
		}
	}
	return list
}

// having are the pages that have a number in a sentence about the same, and those that have another there instead.
func (k *Known) having(f claim, stems []string) (same, other []int) {
	same, other = []int{}, []int{}
	for _, o := range k.by[f.key] {
		both := shared(stems, o.stems)
		switch {
		case f.kind == NameClaim: // a page that has the name knows of it, whatever it says
			same = append(same, o.rank)
		case both < sharedStems:
		case o.from == f.From && o.to == f.To:
			same = append(same, o.rank)
		case f.kind == DateClaim && o.from <= f.To && f.From <= o.to: // one says it less exactly
			same = append(same, o.rank)
		case (o.from > f.To || o.to < f.From) && f.key != "of " && float64(both) >= sameStems*float64(min(len(stems), len(o.stems))):
			other = append(other, o.rank)
		}
	}
	slices.Sort(same)
	slices.Sort(other)
	same = slices.Compact(same)
	other = slices.DeleteFunc(slices.Compact(other), func(rank int) bool { return slices.Contains(same, rank) })
	return same, other
}

// WantsSource tells a claim that wants a source even where other pages have it.
func (f Figure) WantsSource() bool { return f.Kind == FigureClaim || f.Kind == DateClaim }

// SaidOtherwise tells a claim of which more pages of the field say something else than say the same.
func (f Figure) SaidOtherwise() bool { return len(f.Differs) > len(f.Ranks) }

// Says how a figure stands.
func (f Figure) Says() message.Message {
	switch {
	case f.SaidOtherwise():
		return message.Of("another figure stands on %v", ranksOf(f.Differs))
	case f.Source != "" && f.Page && !f.There:
		return "cited, but the captured page does not say so"
	case f.Source != "" && f.There:
		return "cited, and the captured page says so"
	case f.Source != "":
		return "cited"
	case f.Kind == NameClaim && len(f.Ranks) > 0:
		return message.Of("named on %v", ranksOf(f.Ranks))
	case len(f.Ranks) > 0:
		return "no source is given"
	}
	return "no source is given, and no page of the field has it"
}

// ranksOf names pages by their ranks.
func ranksOf(ranks []int) message.Message {
	texts := make([]message.Message, len(ranks))
	for i, r := range ranks {
		texts[i] = message.Text(strconv.Itoa(r))
	}
	if len(ranks) == 1 {
		return message.Of("rank %v", texts[0])
	}
	return message.Of("ranks %v", message.Joined(", ", texts...))
}

// longestSign is how many bytes may stand before the digits of a figure: a sign and money. Our own.
const longestSign = 8

// beginOf is where a figure begins whose digits begin at a byte of its sentence: at a sign of
// money or a minus before them, if it has one.
func beginOf(s, figure string, digits int) int {
	for k := digits; k >= max(digits-longestSign, 0); k-- {
		if strings.HasPrefix(s[k:], figure) {
			return k
		}
	}
	return digits
}

// nearBytes is how much of a long sentence is shown on either side of a figure. Our own.
const nearBytes = 200

// near is a sentence, or of a long one what stands around a place in it.
func near(s string, at int) string {
	from, to := max(at-nearBytes, 0), min(at+nearBytes, len(s))
	if from > 0 {
		from += strings.IndexByte(s[from:at], ' ') + 1
	}
	if to < len(s) {
		to = at + max(strings.LastIndexByte(s[at:to], ' '), 0)
	}
	return strings.ToValidUTF8(s[from:to], "")
}

// linkNear is the address that a stretch of the block links to, or else the next behind it: a
// source that stands at the end of a paragraph is that of all before it.
func (b *block) linkNear(from int) string {
	for _, l := range b.Links {
		if l.To > from {
			return l.Href
		}
	}
	return ""
}

func shared(a, b []string) int {
	n := 0
	for i, k := 0, 0; i < len(a) && k < len(b); {
		switch {
		case a[i] == b[k]:
			n++
			i++
			k++
		case a[i] < b[k]:
			i++
		default:
			k++
		}
	}
	return n
}
