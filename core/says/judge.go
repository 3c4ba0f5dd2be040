package says

import (
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/language"
)

// Trait is one thing by which a section is judged to say what is asked, or not.
type Trait int

// The traits, 0 to 1 where nothing else is said. What is asked is weighed by how few sections of the field have
// each word; a general matter as a word that none has.
const (
	Always    Trait = iota // 1
	OfTheme                // it treats the matter that is asked about
	Elsewhere              // another section of the text does, and this one doesn't
	InHeading              // how much of what is asked its heading has
	Headed                 // likeness of what is asked and of what the heading is about
	InSection              // how much its heading and sentences have
	InPassage              // how much two sentences running have
	HasForm                // the passage has what the question asks for: an amount, a sum, a reason, a time
	NoForm                 // it asks for one and the passage has none
	Single                 // one word is asked for beyond the keyword
	NoWeak                 // verbs or adjectives are asked for, and neither heading nor passage has one
	Unsaid                 // how much of it no passage of the field has
	Behind                 // how much less of it the passage has than the best of the field
	traits
)

// Judge are the weights of the traits in the log-odds that a section says what is asked.
type Judge [traits]float64

func (j *Judge) odds(traits Judge) (odds float64) {
	for k, v := range traits {
		odds += j[k] * v
	}
	return odds
}

// Learned is the judge that labelled pairs of questions and pages taught: see evaluate and docs/evaluation.md.
var Learned = Judge{-0.69, 0.98, 0.33, 0.74, 1.00, 0.35, 0.80, 0.09, 0.48, 0.46, 0.37, 0.55, -1.35}

// Bounds, all our own.
const (
	inMeaning   = 0.8 // what another word for the same counts
	enough      = 0.3 // of what is asked that a section must have to be looked at closely
	minAnswer   = 15  // words under a heading that count as an answer: a sentence
	mostlySmall = 0.5 // share of the uses of a word that have a capital
	shortPart   = 5   // letters that a part of a compound has at least to stand for it
)

// weighed is a word or a general matter that is asked for beyond the keyword.
type weighed struct {
	token  string
	matter bool
	weak   bool
	weight float64
	ways   []string
}

// hit is a word of those wanted that a stem says, wholly or by another word.
type hit struct {
	word int
	part float64
}

// wanted is what is asked for.
type wanted struct {
	words []weighed
	total float64
	weak  int              // how many are verbs and adjectives
	found map[string][]hit // words by stems that were looked at
}

func (t *Texts) wanted(q Asked) *wanted {
	w := &wanted{found: map[string][]hit{}}
	for _, token := range slices.Concat(q.tokens, q.signs) {
		x := weighed{token: token, matter: strings.HasPrefix(token, matterSign)}
		switch {
		case x.matter:
			x.weight = t.idf("")
		case slices.ContainsFunc(t.ways(token), t.isKeyword):
			continue
		default:
			x.ways = t.ways(token)
			x.weight = t.idf(token)
			if x.weak = t.isWeak(q, token); x.weak {
				w.weak++
			}
		}
		w.words = append(w.words, x)
		w.total += x.weight
	}
	return w
}

// isKeyword tells a stem of the keyword or kin to one; a compound with it asks for the rest: "Kompoststarter".
func (t *Texts) isKeyword(stem string) bool {
	for k := range t.common {
		if corpus.IsKin(stem, k) && !(t.Language.JoinsWords && len(stem) >= len(k)+shortPart) {
			return true
		}
	}
	return false
}

// isWeak tells a verb or an adjective that is asked for; where nouns have capitals the field tells, since people
// search without them.
func (t *Texts) isWeak(q Asked, token string) bool {
	if share, seen := t.Capitals[q.forms[token]]; seen && t.Language.NounsHaveCapitals {
		return share < mostlySmall
	}
	return q.weak[token]
}

// hits are the words that a stem says: wholly, or by another word for the same or a part of a compound.
func (t *Texts) hits(w *wanted, stem string) []hit {
	list, known := w.found[stem]
	if known {
		return list
	}
	for i, x := range w.words {
		switch {
		case x.matter:
		case x.token == stem:
			list = append(list, hit{i, 1})
		case slices.Contains(x.ways, stem), t.Language.JoinsWords && joined(stem, x.token):
			list = append(list, hit{i, inMeaning})
		}
	}
	w.found[stem] = list
	return list
}

// joined tells whether one of two words ends in the other or begins with it: "Schloss" for "Fahrradschloss".
func joined(a, b string) bool {
	if len(a) < len(b) {
		a, b = b, a
	}
	return len(b) >= shortPart && len(a) > len(b) && (strings.HasSuffix(a, b) || strings.HasPrefix(a, b))
}

// formAsked is what a passage must have to answer a question.
type formAsked int

const (
	anyForm formAsked = iota
	aNumber
	aSum
	aReason
	aTime
	aDuration
)

func formOfAsked(q Asked) formAsked {
	switch {
	case q.matter == language.Price:
		return aSum
	case q.matter == language.HowLong:
		return aDuration
	case q.matter == language.HowOften, q.matter == language.WhenTo:
		return aTime
	case q.Kind == language.HowMuch:
		return aNumber
	case q.Kind == language.Why:
		return aReason
	case q.Kind == language.When:
		return aTime
	}
	return anyForm
}

// forms are what a sentence has that may be asked for.
type forms struct{ number, sum, reason, time bool }

func (f forms) or(g forms) forms {
	return forms{f.number || g.number, f.sum || g.sum, f.reason || g.reason, f.time || g.time}
}

func (f forms) have(want formAsked) bool {
	switch want {
	case aNumber:
		return f.number
	case aSum:
		return f.sum
	case aReason:
		return f.reason
	case aTime:
		return f.time
	case aDuration:
		return f.time && f.number
	}
	return false
}

func (t *Texts) formsOf(text, sentence int) forms {
	at := [2]int{text, sentence}
	if f, known := t.forms[at]; known {
		return f
	}
	var f forms
	s := &t.Docs[text].Sentences[sentence]
	number, unit := false, false
	for _, x := range s.Tokens {
		number, unit = number || x.Number || t.Language.IsNumber(x.Folded), unit || t.Language.IsUnit(x.Folded) || t.Language.TellsTime(x.Folded)
		f.reason = f.reason || t.Language.TellsReason(x.Folded)
		f.time = f.time || t.Language.TellsTime(x.Folded)
	}
	f.number = number && unit
	for _, x := range s.Figures(t.Language) {
		f.number = true
		f.sum = f.sum || x.Money
	}
	f.sum = f.sum || f.number && t.names(text, sentence, language.Price) // "costs 12 pounds"
	t.forms[at] = f
	return f
}

// names tells whether a sentence names a general matter.
func (t *Texts) names(text, sentence int, m language.Matter) bool {
	at := named{text, sentence, m}
	yes, known := t.named[at]
	if !known {
		tokens := t.Docs[text].Sentences[sentence].Tokens
		words := make([]string, len(tokens))
		for i, x := range tokens {
			words[i] = x.Folded
		}
		yes = t.Language.Names(words, m)
		t.named[at] = yes
	}
	return yes
}

// judged is a section against what is asked.
type judged struct {
	section int
	traits  Judge
	odds    float64
	whole   bool // all that is asked stands in it, in whatever words
}

// candidates are by text the sections that may say what is asked, with their traits.
func (t *Texts) candidates(q Asked, w *wanted) [][]judged {
	all, most := make([][]judged, len(t.Docs)), 0.0
	shares := t.holders().sharesOf(t, w)
	for i := range t.Docs {
		all[i] = t.sectionsFor(i, q, w, shares[i])
		for _, j := range all[i] {
			most = max(most, j.traits[InPassage])
		}
	}
	for _, list := range all {
		for n := range list {
			list[n].traits[Unsaid] = 1 - most
			list[n].traits[Behind] = most - list[n].traits[InPassage]
			list[n].odds = Learned.odds(list[n].traits)
		}
	}
	return all
}

// sectionsFor are those of one text; shares are what its sections have of each word.
func (t *Texts) sectionsFor(text int, q Asked, w *wanted, shares []share) []judged {
	d, want := t.Docs[text], formOfAsked(q)
	treats := false
	if q.About.Theme != 0 {
		treats = slices.ContainsFunc(t.parts[text], func(p part) bool { return p.theme == q.About.Theme })
	}
	var list []judged
	for n := range d.Sections {
		p := &t.parts[text][n]
		if d.Reading.Sections[n].Words < minAnswer {
			continue
		}
		j := judged{section: n}
		headed := shares[n].headed
		for i, x := range w.words {
			j.traits[InHeading] += headed[i] * x.weight
			j.traits[InSection] += max(headed[i], shares[n].said[i]) * x.weight
		}
		if w.total > 0 {
			j.traits[InHeading] /= w.total
			j.traits[InSection] /= w.total
		}
		if want == aSum && !t.formIn(text, p, want) {
			continue
		}
		if slices.ContainsFunc(q.signs, func(s string) bool { return p.stems[s] == 0 && !slices.Contains(p.tokens, s) }) {
			continue // of bikes, where e-bikes are asked for
		}
		ofTheme := q.About.Theme != 0 && p.theme == q.About.Theme
		if !ofTheme && j.traits[InSection] < enough {
			continue
		}
		j.traits[Always] = 1
		switch {
		case ofTheme:
			j.traits[OfTheme] = q.About.Whole
		case treats:
			j.traits[Elsewhere] = 1
		}
		j.traits[Headed] = jaccard(q.tokens, p.tokens, t.common)
		if len(w.words) == 1 {
			j.traits[Single] = 1
		}
		j.whole = t.passage(text, p, q, w, headed, &j.traits)
		list = append(list, j)
	}
	return list
}

// formIn tells whether two sentences running of a part have the form that is asked for.
func (t *Texts) formIn(text int, p *part, want formAsked) bool {
	var before forms
	for n := p.from; n < p.to; n++ {
		if t.Docs[text].Sentences[n].Heading {
			continue
		}
		f := t.formsOf(text, n)
		if before.or(f).have(want) {
			return true
		}
		before = f
	}
	return false
}

// said is what a sentence has of each word that is wanted, and of forms.
type said struct {
	parts []float64
	forms
}

func (t *Texts) saidBy(text, n int, q Asked, w *wanted) said {
	x := said{parts: make([]float64, len(w.words))}
	for _, token := range t.Docs[text].Sentences[n].Tokens {
		if !token.Stop {
			for _, h := range t.hits(w, token.Stem) {
				x.parts[h.word] = max(x.parts[h.word], h.part)
			}
		}
	}
	if formOfAsked(q) != anyForm {
		x.forms = t.formsOf(text, n)
	}
	for i, word := range w.words {
		if word.matter && t.names(text, n, q.matter) {
			x.parts[i] = 1
		}
	}
	return x
}

// prose are the sentences of a part that may say something.
func (t *Texts) prose(text int, p *part) (list []int) {
	for n := p.from; n < p.to; n++ {
		if s := &t.Docs[text].Sentences[n]; !s.Heading && !(t.draft != nil && t.draft(s)) {
			list = append(list, n)
		}
	}
	return list
}

// passage looks for the two sentences running that have most of what is asked, and for the form that it asks
// for beside them; headed is how much the heading has of each word.
// It tells whether all that is asked stands in the part.
func (t *Texts) passage(text int, p *part, q Asked, w *wanted, headed []float64, traits *Judge) (whole bool) {
	want := formOfAsked(q)
	got := slices.Clone(headed)
	most, formed, weak := 0.0, false, false
	var before said
	for i, n := range t.prose(text, p) {
		this := t.saidBy(text, n, q, w)
		if i == 0 {
			before = this
		}
		both := this.forms.or(before.forms)
		share, hasWeak, has := 0.0, false, both.have(want)
		for i, x := range w.words {
			part := max(this.parts[i], before.parts[i])
			if x.matter && has {
				part = 1
			}
			share += part * x.weight
			got[i] = max(got[i], part)
			hasWeak = hasWeak || x.weak && max(part, headed[i]) > 0
		}
		if share > most || share == most && has {
			most, formed, weak = share, has, hasWeak
		}
		before = this
	}
	if w.total > 0 {
		traits[InPassage] = most / w.total
	}
	if w.weak > 0 && !weak {
		traits[NoWeak] = 1
	}
	switch {
	case want == anyForm:
	case formed:
		traits[HasForm] = 1
	default:
		traits[NoForm] = 1
	}
	nouns, done := len(w.words)-w.weak, w.weak == 0
	for i, x := range w.words {
		done = done || x.weak && got[i] > 0
		if got[i] == 0 && !(x.weak && nouns > 0) { // what is done answers say otherwise
			return false
		}
	}
	return len(w.words) > 0 && (nouns > 1 || done)
}
