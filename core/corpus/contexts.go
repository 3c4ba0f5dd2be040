package corpus

// In languages without a dictionary of parts of speech the page itself says what
// its words are: a noun follows an article or another determiner somewhere, in
// German it has a capital inside sentences, and what neither happens to is left
// to how common the word is.

// context is in what company a page has a word, inside its sentences.
type context struct {
	determined     int // after a determiner, or after an adjective that follows one
	capital, small int
}

// countContexts notes the company of every word. English has a dictionary.
func (d *Doc) countContexts(is func(folded string) bool) {
	d.contexts = map[string]context{}
	for _, s := range d.Sentences {
		for i, t := range s.Tokens {
			if t.Stop || t.Number || i == 0 {
				continue
			}
			c := d.contexts[t.Folded]
			switch before := s.Tokens[i-1]; {
			case t.Broken:
			case is(before.Folded):
				c.determined++
			case i > 1 && !before.Stop && !before.Broken && is(s.Tokens[i-2].Folded):
				c.determined++ // "une bonne lampe"
			}
			if t.Capital {
				c.capital++
			} else {
				c.small++
			}
			d.contexts[t.Folded] = c
		}
	}
}

// commonWords is up to which rank a word is common: what a page does not show to
// be a noun is none if it is among them. Our own.
const commonWords = 3000

// judgeByContext is judge for languages without a dictionary.
func (s *shape) judgeByContext(t Token) part {
	const all = canBegin | canStand | canEnd | canBeAlone
	c, seen := s.doc.contexts[t.Folded]
	common := s.lang.Rank(t.Folded) > 0 && s.lang.Rank(t.Folded) <= commonWords
	if s.lang.NounsHaveCapitals {
		switch {
		case c.capital > c.small:
			return all
		case !seen && t.Capital && !common: // at the beginning of a sentence or heading only
			return all
		case c.determined > 0: // an adjective: "die guten Reifen"
			return canBegin | canStand
		}
		return 0
	}
	switch {
	case c.determined > 0 && !common, c.determined > 1:
		return all
	case c.determined > 0:
		return canBegin | canStand | canEnd
	case common:
		return 0
	}
	return canBegin | canStand | canEnd
}
