package fit

import (
	"strings"

	"corpulan/core/brief"
	"corpulan/core/corpus"
	"corpulan/core/language"
	"corpulan/core/message"
	"corpulan/core/vocabulary"
)

// How much a term weighs by its tier, and how much of its score its first use gives. Our own.
const (
	stapleWeighs   = 3
	frequentWeighs = 2
	otherWeighs    = 1
	firstUse       = 0.7
	inHeadingOnly  = 0.1
)

// terms scores the terms of a brief by their use in sentences: the first use gives most of it,
// the lower end of the range the rest; use beyond the fence takes away again. A term in a
// heading alone gives little.
func (t *measured) terms(b *brief.Brief) Part {
	inProse, inAll, inHeads := counter(t.prose), counter(t.all), counter(t.headings)
	var items []Item
	var weights []float64
	for _, x := range b.Terms {
		n, where := inProse.of(stemsOf(t.lang, x.Term))
		all, _ := inAll.of(stemsOf(t.lang, x.Term))
		item := Item{Key: x.Key, Text: message.Text(x.Term)}
		lower := max(x.Lower, 1)
		switch {
		case n == 0:
			item.Says = "not used"
			if heads, _ := inHeads.of(stemsOf(t.lang, x.Term)); heads > 0 {
				item.Score, item.Says = inHeadingOnly, "in a heading only"
			}
		case x.Most > 0 && all > x.Most:
			item.Score, item.Says, item.over = max(float64(x.Most)/float64(all), 0.5), overdone, true
		default:
			item.Score = firstUse
			if lower > 1 {
				item.Score += (1 - firstUse) * min(float64(n-1)/float64(lower-1), 1)
			} else {
				item.Score = 1
			}
			item.Says = message.Of("%d of %d to %d times", n, lower, max(x.Upper, lower))
		}
		item.Where, item.Section = t.heading(where), where
		item.Effort = sentenceWords * max(lower-n, 1)
		items = append(items, item)
		weights = append(weights, weightOf(x.Tier))
	}
	return part(Terms, items, weights)
}

// stemsOf are the stems that a term is found by.
func stemsOf(lang *language.Language, term string) []string {
	if stems := lang.ContentStems(term); len(stems) > 0 {
		return stems
	}
	return []string{strings.ToLower(term)}
}

func weightOf(tier string) float64 {
	switch vocabulary.Tier(tier) {
	case vocabulary.Staple:
		return stapleWeighs
	case vocabulary.Frequent:
		return frequentWeighs
	}
	return otherWeighs
}

// uses counts runs of stems in sentences.
type uses struct {
	sentences []*corpus.Sentence
	having    map[string][]int // sentences that have a stem
}

func counter(sentences []*corpus.Sentence) *uses {
	u := &uses{sentences, map[string][]int{}}
	for i, s := range sentences {
		for _, tok := range s.Tokens {
			if l := u.having[tok.Stem]; len(l) == 0 || l[len(l)-1] != i {
				u.having[tok.Stem] = append(l, i)
			}
		}
	}
	return u
}

// of is how often stems stand one after another, function words between them passed over, and
// the section of the first place; -1 for none.
func (u *uses) of(stems []string) (n, section int) {
	section = -1
	rarest := stems[0]
	for _, s := range stems {
		if len(u.having[s]) < len(u.having[rarest]) {
			rarest = s
		}
	}
	for _, i := range u.having[rarest] {
		toks := u.sentences[i].Tokens
		for at := range toks {
			if follows(toks[at:], stems) == 0 {
				continue
			}
			if n++; section < 0 {
				section = u.sentences[i].Section
			}
		}
	}
	return n, section
}

// follows is how many tokens a run of stems takes up at the beginning of tokens; 0 where it
// does not stand there.
func follows(toks []corpus.Token, stems []string) int {
	k := 0
	for i, t := range toks {
		switch {
		case t.Stem == stems[k]:
			if k++; k == len(stems) {
				return i + 1
			}
		case k == 0, !t.Stop:
			return 0
		}
	}
	return 0
}
