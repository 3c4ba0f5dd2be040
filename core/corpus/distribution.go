package corpus

import "corpulan/core/language"

// Distribution is what a word stands beside inside sentences (Harris 1954). The field's own use of
// a word tells what it is there, where a dictionary only tells what it can be: "drop"
// is a verb to most, and the handlebar to cyclists.
type Distribution struct {
	Count int
	// Heads is how often it is the noun of a phrase: an article, another determiner
	// or a preposition before it, and no further word of the phrase after it ("on the back of", "with mudguards").
	Heads int
	// Modifies is how often it stands between such a beginning and a further word
	// ("the front wheel").
	Modifies int
	// Acts is how often it stands where a verb does: "to commit", "you brake",
	// "check the", and Leads how often such a verb begins its sentence.
	Acts, Leads int
	// Predicates is how often it stands where an adjective does: "is wet", "very wet".
	Predicates int
	// Measures is how often it is a noun with a linking word after it: "a pair of".
	Measures int
	// Capitals and Smalls are how often it has a capital inside a sentence, and not.
	Capitals, Smalls int
}

// Add sums the company of two words.
func (c *Distribution) Add(o Distribution) {
	c.Count += o.Count
	c.Heads += o.Heads
	c.Modifies += o.Modifies
	c.Acts += o.Acts
	c.Leads += o.Leads
	c.Predicates += o.Predicates
	c.Measures += o.Measures
	c.Capitals += o.Capitals
	c.Smalls += o.Smalls
}

// countCompany notes the company of every content word of the page.
func (d *Doc) countCompany(lang *language.Language) {
	d.distribution = make(map[string]*Distribution, len(d.Lower)+len(d.Lower)/4)
	for n := range d.Sentences {
		s := &d.Sentences[n]
		if s.Heading || s.Again || s.Foreign || !s.isProse() {
			continue
		}
		for i := range s.Tokens {
			t := &s.Tokens[i]
			if t.Stop || t.Number {
				continue
			}
			c := d.distribution[t.Folded]
			if c == nil {
				c = &Distribution{}
				d.distribution[t.Folded] = c
			}
			c.note(s.Tokens, i, lang)
		}
	}
}

// note adds the company of one use of a word.
func (c *Distribution) note(toks []Token, i int, lang *language.Language) {
	c.Count++
	switch {
	case i == 0:
	case toks[i].Capital:
		c.Capitals++
	default:
		c.Smalls++
	}
	var after Token
	if i+1 < len(toks) && !toks[i+1].Broken {
		after = toks[i+1]
	}
	if phraseBegins(toks, i, lang) {
		c.noteBegun(toks, i, after, lang)
	} else {
		c.noteOpen(toks, i, after, lang)
	}
}

// isFollowed tells whether a content word is what stands after.
func isFollowed(after Token) bool { return after.Folded != "" && !after.Stop && !after.Number }

// noteBegun adds a use after a determiner or a preposition.
func (c *Distribution) noteBegun(toks []Token, i int, after Token, lang *language.Language) {
	switch {
	case isFollowed(after):
		c.Modifies++
	case lang.Links(after.Folded):
		c.Heads++
		c.Measures++
	case lang.IsDeterminer(after.Folded) && i > 0 && lang.IsPreposition(toks[i-1].Folded):
		c.Acts++ // "by cleaning the chain"
	default:
		c.Heads++
	}
}

// noteOpen adds a use that no determiner or preposition begins.
func (c *Distribution) noteOpen(toks []Token, i int, after Token, lang *language.Language) {
	before := ""
	if i > 0 && !toks[i].Broken {
		before = toks[i-1].Folded
	}
	switch {
	case before != "" && lang.BeforeVerb(before):
		c.Acts++
	case before != "" && lang.BeforeAdjective(before) && !isFollowed(after):
		c.Predicates++
	case lang.IsDeterminer(after.Folded) || lang.IsPreposition(after.Folded) && i == 0:
		c.Acts++
		if i == 0 {
			c.Leads++
		}
	case lang.BeforeAdjective(after.Folded) && isRatherAdjective(toks[i].Folded, lang): // "geïnstalleerd worden", "la chaîne propre est"
		c.Predicates++
	case lang.BeforeAdjective(after.Folded): // "tyres are"
		c.Heads++
	}
}

// phraseBegins tells whether a determiner or preposition stands before the word, with
// light words ("a new battery") and one adjective between at most: with a noun
// between, what looks like another may be the verb ("the transaction detects").
func phraseBegins(toks []Token, i int, lang *language.Language) bool {
	adjectives := 0
	for j := i; j > 0 && !toks[j].Broken; j-- {
		before := toks[j-1].Folded
		switch {
		case lang.IsDeterminer(before) || lang.IsPreposition(before):
			return true
		case lang.Links(before): // before an infinitive as well, in some languages
			return !lang.EndsAsVerb(toks[i].Folded)
		case lang.Light(before) || lang.Qualifies(before):
			if lang.AdjectivesFollow && !isRatherAdjective(before, lang) {
				return false // "una forma separada"
			}
		case adjectives == 0 && !toks[j-1].Stop && isAdjective(before, lang):
			adjectives++
		default:
			return false
		}
	}
	return false
}

// isAdjective tells a word that is rather an adjective than anything else, before
// the field is read.
func isAdjective(folded string, lang *language.Language) bool {
	if lang.Senses {
		p, _ := englishPrior(folded)
		return p.Adjective > p.Noun+p.Verb
	}
	return lang.EndsAsAdjective(folded)
}

// isRatherAdjective tells what stands before "is" and is no noun: a participle, in languages
// whose verbs come last, or an adjective, where it follows its noun.
func isRatherAdjective(folded string, lang *language.Language) bool {
	if lang.Senses || lang.NounsHaveCapitals {
		return false
	}
	p, _ := priorOf(folded, lang)
	return p.Adjective > p.Noun
}

// isProse tells a sentence from a label: it has a function word, or a full stop.
func (s *Sentence) isProse() bool {
	for i := range s.Tokens {
		if s.Tokens[i].Stop {
			return true
		}
	}
	return false
}

func (d *Doc) distributionOf(folded string) Distribution {
	if c := d.distribution[folded]; c != nil {
		return *c
	}
	return Distribution{}
}

// DistributionOf is the company of a folded word over all pages of the field: of its form where
// other forms may be another part of speech ("drop", "dropped"), and of all its forms
// in languages whose words are mostly told by their company.
func (f *Field) DistributionOf(folded string) Distribution {
	return f.distribution[f.distributionKey(folded)]
}

func (f *Field) distributionKey(folded string) string {
	if f.Language.Senses || f.Language.NounsHaveCapitals {
		return folded
	}
	return f.Language.StemFolded(folded)
}

func (f *Field) addCompany() {
	f.distribution = map[string]Distribution{}
	for _, d := range f.Docs {
		for w, c := range d.distribution {
			key := f.distributionKey(w)
			sum := f.distribution[key]
			sum.Add(*c)
			f.distribution[key] = sum
		}
	}
}
