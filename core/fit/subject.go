package fit

import (
	"slices"

	"corpulan/core/brief"
	"corpulan/core/corpus"
	"corpulan/core/message"
)

// Limit is the most that a draft reaches whatever else it has, since it is about something else, or hardly a text.
type Limit struct {
	Most float64         `json:"most"`
	Says message.Message `json:"says"`
}

// Where the share of a draft's content words that are of the brief's terms says that it is about something
// else, or that it is terms and little beside. Pages have .12 (in languages that join words) to .46 of them on
// their own subject, .09 and less on another. Our own, measured in docs/evaluation.md.
const (
	farFrom   = 0.09
	nearFrom  = 0.12
	fullFrom  = 0.60
	stuffedAt = 0.80
	another   = 14.0 // the most of what is about another subject, or all terms
	ofANear   = 29.0 // of a neighbouring one
	wholly    = 0.25 // the share from which what lacks a word of the keyword reaches that

	fewestJudged = 100 // words of a draft; one that has just been begun is about nothing yet
)

// limit is how far a draft may get by what it is about; nil for as far as it does.
func (t *measured) limit(b *brief.Brief) *Limit {
	share := t.ofTerms(b)
	switch {
	case len(b.Terms) == 0 || t.words < fewestJudged:
		return nil
	case share < nearFrom:
		return &Limit{between(share, farFrom, another, nearFrom, 100), message.Of("it hardly has words of the subject: %.0f %%", 100*share)}
	case share > fullFrom:
		return &Limit{between(share, fullFrom, 100, stuffedAt, another), message.Of("%.0f %% of its words are terms: it says little of them", 100*share)}
	}
	if k := t.lacking(b); k != "" {
		return &Limit{ofANear * min(share/wholly, 1), message.Of("it hardly speaks of “%s”", k)}
	}
	return nil
}

// between is a value on the line from one point to another, level beyond them.
func between(x, from, at, to, then float64) float64 {
	switch {
	case x <= from:
		return at
	case x >= to:
		return then
	}
	return at + (then-at)*(x-from)/(to-from)
}

// ofTerms is the share of the draft's content words that are of the brief's terms.
func (t *measured) ofTerms(b *brief.Brief) float64 {
	of := map[string]bool{}
	for _, x := range b.Terms {
		for _, s := range stemsOf(t.lang, x.Term) {
			of[s] = true
		}
	}
	n, in := 0, 0
	for _, s := range t.prose {
		for _, tok := range s.Tokens {
			if tok.Stop || t.lang.Light(tok.Folded) {
				continue
			}
			n++
			if of[tok.Stem] {
				in++
			}
		}
	}
	return float64(in) / float64(max(n, 1))
}

// lacking is a word of the keyword which the field uses and the draft does not: in no heading, and in
// one sentence at most. Empty for none.
func (t *measured) lacking(b *brief.Brief) string {
	for _, key := range t.lang.ContentStems(b.Keyword) {
		same := t.field.SameInMeaning(key)
		is := func(stem string) bool {
			return corpus.IsKin(stem, key) || slices.Contains(same, stem)
		}
		used := false
		for _, x := range b.Terms {
			for _, s := range stemsOf(t.lang, x.Term) {
				used = used || x.Lower > 0 && is(s)
			}
		}
		if !used {
			continue
		}
		n, headed := 0, false
		for _, s := range t.prose {
			if slices.ContainsFunc(s.Tokens, func(tok corpus.Token) bool { return is(tok.Stem) }) {
				n++
			}
		}
		for _, s := range t.headings {
			for _, tok := range s.Tokens {
				headed = headed || is(tok.Stem)
			}
		}
		if !headed && n < 2 {
			return t.lang.WordOf(b.Keyword, key)
		}
	}
	return ""
}
