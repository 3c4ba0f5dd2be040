package entities

import (
	"slices"
	"strings"

	"corpulan/core/address"
	"corpulan/core/corpus"
	"corpulan/core/language"
	"corpulan/core/lexicon"
	"corpulan/core/message"
)

// Bounds of what sentences tell, all our own.
const (
	farthestHead = 6   // tokens between "is a" and the noun
	saidOnce     = 1.5 // weight of one sentence that says what the name is
	hinted       = .4  // weight of a hint: a preposition of place, a verb of speaking
	maxHints     = 1.2 // what hints of one sort come to at most
	mostlyWithin = .4  // share of the mentions of a place after a preposition of place
)

// bySentences reads what stands around each mention: "X is a town", "the town X",
// "towns such as X", "in X", "says X", "X version 3".
func bySentences(f *corpus.Field, e *named) []clue {
	r := surroundings{Field: f, name: e, hints: map[clue]float64{}}
	within := 0
	for _, m := range e.mentions {
		if m.from < 0 || m.to > len(m.sentence.Tokens) || m.from >= m.to {
			continue
		}
		if head, ok := predicate(m, f.Language); ok {
			r.saidOf(head, "“is a %s”")
		}
		if r.before(m) {
			within++
		}
		if head, ok := suchAs(m); ok {
			r.saidOf(head, "named among %s")
		}
		r.after(m)
	}
	if float64(within) >= mostlyWithin*float64(len(e.mentions)) && within > 0 && !hasSigns(e.words[0]) {
		r.hints[clue{of: PlaceType, why: "stands after a preposition of place, without an article"}] = hinted * float64(within)
	}
	for c, sum := range r.hints {
		r.said = append(r.said, clue{c.of, min(sum, maxHints), c.why})
	}
	sortClues(r.said)
	return r.said
}

// surroundings are the clues that what stands beside the mentions of a name gives: what a
// sentence says counts once, hints add up.
type surroundings struct {
	*corpus.Field
	name  *named
	said  []clue
	hints map[clue]float64 // weight by type and reason
}

func (r *surroundings) say(t EntityType, why message.Message) {
	if !slices.ContainsFunc(r.said, func(c clue) bool { return c.why == why }) {
		r.said = append(r.said, clue{t, saidOnce, why})
	}
}

// saidOf notes that the sentence calls the name by a noun; why has a place for the noun.
func (r *surroundings) saidOf(head string, why message.Format) {
	if t, ok := typeOfHead(head, r.Field); ok && r.name.fits(t) {
		r.say(t, message.Of(why, head))
	}
}

func (r *surroundings) hint(t EntityType, why message.Message) {
	r.hints[clue{of: t, why: why}] += hinted
}

// before reads the words before a mention; within tells that one is a preposition of place
// and the name stands after it alone.
func (r *surroundings) before(m mention) (within bool) {
	toks, lang := m.sentence.Tokens, r.Language
	if m.from == 0 || toks[m.from].Broken {
		return false
	}
	before := toks[m.from-1]
	switch {
	case lang.Speaks(before.Folded):
		r.hint(PersonType, message.Of("quoted: “%s” stands beside it", before.Folded))
	case m.from > 1 && lang.Links(before.Folded) && lang.EndsPlace(toks[m.from-2].Folded):
		r.say(PlaceType, message.Of("“%s” stands before it", toks[m.from-2].Folded+" "+before.Folded))
	case lang.IsWithin(before.Folded) && (m.to == len(toks) || toks[m.to].Stop || toks[m.to].Broken):
		return true
	case !before.Stop && !before.Capital && !before.Number && m.from > 1 && lang.IsDeterminer(toks[m.from-2].Folded):
		r.saidOf(before.Folded, "“the %s” stands before it")
	}
	return false
}

// after reads the word after a mention.
func (r *surroundings) after(m mention) {
	toks := m.sentence.Tokens
	if m.to == len(toks) || toks[m.to].Broken {
		return
	}
	switch after := toks[m.to]; {
	case r.Language.Speaks(after.Folded):
		r.hint(PersonType, message.Of("quoted: “%s” stands beside it", after.Folded))
	case r.Language.TellsVersion(after.Folded):
		r.hint(ProductType, message.Of("“%s” stands after it", after.Folded))
	case after.Number && !isYear(after.Folded) && strings.Contains(m.sentence.Text[after.Start:after.End], "."):
		r.hint(ProductType, "the number of a version stands after it")
	}
}

// fits tells whether a name looks like one of the type: nobody's name is one word of
// which a sentence says that it is a server.
func (e *named) fits(t EntityType) bool {
	return t != PersonType || len(e.words) > 1 && !hasSigns(e.words[0]) || lexicon.IsFirstName(e.words[0])
}

// predicate is the noun of "X is a (…) noun" or "X, a (…) noun".
func predicate(m mention, lang *language.Language) (head string, ok bool) {
	toks := m.sentence.Tokens
	i := m.to
	if i >= len(toks) {
		return "", false
	}
	if !toks[i].Broken && (toks[i].Folded == "is" || toks[i].Folded == "was") {
		i++
	} else if !toks[i].Broken || !strings.HasPrefix(m.sentence.Text[toks[i-1].End:toks[i].Start], ",") {
		return "", false
	}
	if i >= len(toks) || !lang.IsDeterminer(toks[i].Folded) || !lang.Senses {
		return "", false
	}
	return lastNoun(toks, i+1)
}

// lastNoun is the last word of the phrase that begins at a token: before a function
// word, a break or the sentence's end.
func lastNoun(toks []corpus.Token, from int) (string, bool) {
	head := ""
	for i := from; i < len(toks) && i < from+farthestHead; i++ {
		if i > from && toks[i].Broken || toks[i].Stop {
			break
		}
		head = toks[i].Folded
	}
	return head, head != ""
}

// suchAs is the noun of "nouns such as X", or "nouns like X".
func suchAs(m mention) (head string, ok bool) {
	toks := m.sentence.Tokens
	i := m.from - 1
	if i > 1 && toks[i].Folded == "as" && toks[i-1].Folded == "such" {
		return toks[i-2].Folded, !toks[i-2].Stop
	}
	if i > 0 && (toks[i].Folded == "like" || toks[i].Folded == "including") {
		return toks[i-1].Folded, !toks[i-1].Stop
	}
	return "", false
}

// typeOfHead is what a common noun says of what it names, by the language's lists, then,
// in English, by the dictionary.
func typeOfHead(noun string, f *corpus.Field) (EntityType, bool) {
	const mostly = .5 // of its uses as a noun; our own
	lang := f.Language
	switch {
	case lang.TellsVersion(noun):
		return ProductType, true
	case lang.TellsWork(noun):
		return WorkType, true
	}
	if t, _, ok := ends(noun, lang); ok {
		return t, true
	}
	if !lang.Senses || f.ClassOf(noun).Noun < mostly {
		return "", false
	}
	k, ok := lexicon.KindOf(singular(noun))
	if !ok {
		return "", false
	}
	t, ok := ofKind[k]
	return t, ok && t != PeopleType && t != EventType
}

// labelOf is the name in an address, squeezed: "postgresql" of www.postgresql.org.
func labelOf(url string) string { return squeezed(address.Parse(url).SiteLabel()) }

// isPlace tells a town or a country by its name as it is written.
func isPlace(name string) bool {
	p, ok := lexicon.PlaceNamed(name)
	return ok && (p.Population == 0 || p.Population >= bigTown)
}

// neighbours are the other names that a name is listed with: "Linux, Solaris and X".
func neighbours(e *named, at map[place]*named) []*named {
	var list []*named
	for _, m := range e.mentions {
		toks := m.sentence.Tokens
		for _, i := range []int{m.from - 1, m.from - 2} {
			if i >= 0 && listed(m.sentence, i+1, m.from) {
				if other := at[place{m.sentence, i + 1}]; other != nil && other != e {
					list = append(list, other)
				}
			}
		}
		for i := m.to; i < min(m.to+2, len(toks)); i++ {
			if other := at[place{m.sentence, -i - 1}]; other != nil && other != e && listed(m.sentence, m.to, i) {
				list = append(list, other)
			}
		}
	}
	return list
}

// place is where a mention ends, or, below zero, less one, begins.
type place struct {
	s  *corpus.Sentence
	at int
}

// listed tells whether between two mentions stands no more than a comma, "and" or "or".
func listed(s *corpus.Sentence, end, begin int) bool {
	if end == begin {
		return end > 0 && end < len(s.Tokens) && strings.TrimSpace(between(s, end)) == ","
	}
	return begin == end+1 && s.Tokens[end].Stop && len(s.Tokens[end].Folded) <= 3 && s.Tokens[end].Folded != "in" && s.Tokens[end].Folded != "of" && s.Tokens[end].Folded != "de"
}
