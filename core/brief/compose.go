package brief

import (
	"math"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"corpulan/core/entities"
	"corpulan/core/evidence"
	"corpulan/core/language"
	"corpulan/core/message"
	"corpulan/core/stats"
	"corpulan/core/vocabulary"
)

// How much is proposed before a person chooses. Common practice, no published
// source, as are the lengths of title and description.
const (
	maxTerms        = 50
	maxEntities     = 20
	maxQuestions    = 12
	outlineShare    = 0.25 // of the field must have a theme, pages near the keyword counting more; see docs/evaluation.md
	outlinePart     = 3    // one in so many of its pages must, all counting alike
	minSections     = 3    // below it themes of two pages are proposed as well
	maxOfTwo        = 6    // of those
	longestTitle    = 60   // characters
	longestMeta     = 160
	defaultTarget   = 1000 // words, where the field is empty
	roundWordsTo    = 50
	roundSectionsTo = 10
)

// Compose makes the brief of evidence and choices. What a person adopted is in
// it and what was dropped is not; where nothing was decided the proposal stands.
func Compose(e *evidence.Evidence, c Choices, s Setting) Brief {
	c = c.On(e)
	c.basis = c.Stands
	b := Brief{Schema: Schema, Keyword: e.Keyword, Language: e.Language, Intent: []Intent{}, Sources: []Source{}, Why: map[string]message.Message{}, Dossier: s.Dossier, in: s.Words}
	if b.in == nil {
		b.in = english{}
	}
	kind, why := b.proposeKind(e)
	t, ok := templateOf(c.Typed[FieldKind], s.Templates)
	if !ok { // nobody chose one, or it is there no more
		if stood, stands := c.stood(FieldKind); stands {
			kind, why = stood, message.Of("as it stood")
		}
		t, _ = templateOf(kind, nil)
		b.Why[FieldKind] = why
	}
	b.Front = Front{Publication: s.Publication, Country: s.Country, Kind: t.Name, Gathered: s.Gathered, Version: s.Version}
	for _, s := range e.Sources {
		b.Sources = append(b.Sources, Source{s.Rank, s.URL, s.Title, s.Words, string(s.Kind)})
	}
	for _, s := range e.Intent {
		b.Intent = append(b.Intent, Intent{s.Kind, s.Share, s.Sources})
	}
	target := func(key string) Range { return Range(e.Figure(key).Target) }
	b.Measures = Measures{Words: target("words"), Headings: target("headings"), Images: target("images"), Paragraphs: target("paragraphs")}
	b.Words = b.wordRange(e.Figure("words").Target, c.Typed[FieldLength])
	if proposed, _ := b.proposeKind(e); t.Key != proposed && t.Words[1] > 0 && !b.Words.Set {
		b.Words.ofKind(t)
	}
	if stood, ok := c.stood(FieldLength); ok && !b.Words.Set {
		field := b.Words
		b.Words = b.wordRange(e.Figure("words").Target, stood)
		if c.basis.Target > 0 {
			b.Words.Target = c.basis.Target
		}
		b.Words.Set, b.Words.Why = false, message.Of("%v; the field now has %d to %d", message.Of("as it stood"), field.Lower, field.Upper)
	}
	b.Terms = takeTerms(e, c, b.Words.Target)
	b.Entities = takeEntities(e, c)
	b.takePicks(e, c, t)
	b.Outline, b.OpeningWords, b.OutlineNote = outline(e, c, t, b.Words.Target)
	b.Questions = takeQuestions(e, c)
	b.letStand(c)
	profiles := b.profiles(e)
	placeQuestions(&b, e, c, profiles)
	placeTerms(&b, c, profiles)
	b.References = append([]Source{}, s.References...)
	b.Links = Links{Outward: takeLinks(e, c), OutwardWanted: t.Outward, InwardWanted: t.Inward}
	b.takeInward(s.Own, c, profiles)
	b.letStand(c)
	b.orderPicks(c)
	b.cuttings(c)
	b.Facts = append(takeFacts(e, c), b.pricesToCheck(e)...)
	b.Openings = append([]evidence.Opening{}, e.Openings...)
	b.Titles, b.Descriptions = titleCandidates(e, &b, t), descriptionCandidates(e, &b)
	b.fill(e, c, t, s)
	b.Parts = parts(c, t.Parts)
	b.Warnings, b.Offers = b.warnings(e, c), b.offers(e, c)
	return b
}

// wordRange is the length a person asks for; else the quartiles of the field, rounded to what
// a person would say.
func (b *Brief) wordRange(r stats.Range, typed string) WordRange {
	round := func(x float64) int { return max(roundWordsTo, int(math.Round(x/roundWordsTo))*roundWordsTo) }
	w := WordRange{Lower: defaultTarget, Target: defaultTarget, Upper: defaultTarget, Why: message.Of("no page is kept; a usual length")}
	if r.N > 0 {
		w = WordRange{Lower: round(r.Lower), Target: round(r.Median), Upper: round(r.Upper), N: r.N, Why: message.Of("quartiles of %v, outliers left out", message.Counted(r.N, "page"))}
	}
	if lower, upper, ok := LengthIn(typed); ok {
		w.Why = message.Of("set by hand; the field has %d to %d", w.Lower, w.Upper)
		if r.N == 0 {
			w.Why = message.Of("set by hand")
		}
		w.Lower, w.Upper, w.Target, w.Set = lower, upper, (lower+upper)/2, true
	}
	return w
}

// ofKind is the length of pages of a kind, where the field is of another one.
func (w *WordRange) ofKind(t Template) {
	if w.N > 0 && w.Target >= t.Words[0] && w.Target <= t.Words[1] {
		return
	}
	field := *w
	w.Lower, w.Upper, w.Target = t.Words[0], t.Words[1], (t.Words[0]+t.Words[1])/2
	w.Why = message.Of("as in every %v; the pages are of another kind and have %d to %d", message.Message(t.Name), field.Lower, field.Upper)
}

// picked tells whether a finding is in the brief.
func picked(c Choices, k Kind, key string, proposed bool) bool {
	switch c.State(k, key) {
	case Adopted, Standing:
		return true
	case Dropped:
		return false
	}
	return proposed && c.basis == nil
}

// chose tells what a person took into the brief.
func (c Choices) chose(k Kind, key string) bool { return c.State(k, key) == Adopted }

// gone lists the findings that a person adopted, or that stand, and that the evidence no longer has.
func gone(c Choices, k Kind, have func(Mark) bool) []Mark {
	var list []Mark
	for _, m := range c.Marks {
		if m.Kind == k && (m.State == Adopted || m.State == Standing) && !have(m) {
			list = append(list, m)
		}
	}
	return list
}

// OwnTier is the tier of a term that a person added and no page need have.
const OwnTier = "own"

func takeTerms(e *evidence.Evidence, c Choices, target int) []Term {
	list := []Term{}
	have := map[string]bool{}
	proposed := 0
	for _, t := range e.Terms {
		have[t.Key] = true
		propose := t.Recommended() && t.Tier != vocabulary.Occasional && proposed < maxTerms
		if propose {
			proposed++
		}
		if picked(c, TermKind, t.Key, propose) || c.State(TermKind, OwnPrefix+t.Key) == Adopted && c.State(TermKind, t.Key) != Dropped {
			x := termOf(e, t, target)
			x.Chosen = c.chose(TermKind, t.Key) || c.chose(TermKind, OwnPrefix+t.Key)
			list = append(list, x)
		}
	}
	for _, m := range gone(c, TermKind, func(m Mark) bool { return have[strings.TrimPrefix(m.Key, OwnPrefix)] }) {
		t := Term{Key: m.Key, Term: m.Text, Of: len(e.Sources), Lower: 1, Median: 1, Upper: 1, Sources: []int{}, Gone: true, Chosen: m.State == Adopted}
		if strings.HasPrefix(m.Key, OwnPrefix) {
			t.Tier, t.Gone = OwnTier, false
		}
		list = append(list, t)
	}
	return list
}

// When the pages that use a term do it so differently that a range tells a writer
// nothing ("20 to 62 times"): three times as often as seldom, and ten uses apart.
// Our own.
const (
	disagree = 3
	wide     = 10
)

// termOf scales the field's rate of use to the length of the brief, never below one.
func termOf(e *evidence.Evidence, t vocabulary.Term, target int) Term {
	scale := func(rate float64) int { return max(1, int(math.Round(rate*float64(target)/1000))) }
	out := Term{Key: t.Key, Term: t.Text, Tier: string(t.Tier), Pages: t.Pages, Of: len(e.Sources),
		Lower: scale(t.Rate.Lower), Median: scale(t.Rate.Median), Upper: scale(t.Rate.Upper), Sources: []int{}}
	// Tukey's (1977) inner fence, one and a half ranges above the upper quartile, and
	// one use more than the range at the least.
	out.Most = max(scale(t.Rate.Upper+1.5*(t.Rate.Upper-t.Rate.Lower)), out.Upper+1)
	out.AtWill = out.Upper >= disagree*out.Lower && out.Upper-out.Lower >= wide
	for i, n := range t.Counts {
		if n > 0 {
			out.Sources = append(out.Sources, e.Sources[i].Rank)
		}
	}
	return out
}

// neededPart is in one of how many pages a name stands at least that a page of somebody else needs. Our own.
const neededPart = 3

// localPart is in one of how many pages a place stands at least where the page is about it. Our own: places are named in passing, but a
// field about a town has it everywhere.
const localPart = 1.5

// isNeeded tells a name that a writer is asked for: of two pages and a third of the field, places of two thirds, and neither a people
// nor a language, which are named in passing.
func isNeeded(x entities.Entity, pages int) bool {
	part := float64(neededPart)
	if x.Type == entities.PlaceType {
		part = localPart
	}
	return x.Pages >= 2 && part*float64(x.Pages) >= float64(pages) && x.Flag == "" && x.Type.IsNamed() && x.Type != entities.PeopleType && x.Type != entities.LanguageType
}

func takeEntities(e *evidence.Evidence, c Choices) []Entity {
	list := []Entity{}
	have := map[string]bool{}
	proposed := 0
	for _, x := range e.Entities {
		have[x.Key] = true
		propose := isNeeded(x, len(e.Sources)) && proposed < maxEntities
		if propose {
			proposed++
		}
		if picked(c, EntityKind, x.Key, propose) {
			list = append(list, Entity{Key: x.Key, Name: x.Name, Type: string(x.Type), Pages: x.Pages, Mentions: x.Mentions, Sources: x.Sources})
		}
	}
	for _, m := range gone(c, EntityKind, func(m Mark) bool { return have[m.Key] }) {
		list = append(list, Entity{Key: m.Key, Name: m.Text, Type: string(entities.NameType), Sources: []int{}, Gone: true})
	}
	return list
}

// takeFacts are the facts that a person adopted: none is proposed, since a figure that
// nobody means to use needs no check.
func takeFacts(e *evidence.Evidence, c Choices) []Fact {
	list := []Fact{}
	have := map[string]bool{}
	for _, x := range e.Facts {
		have[x.Key] = true
		if c.State(FactKind, x.Key) == Adopted {
			f := Fact{Key: x.Key, Text: x.Text, Figures: x.Figures, Sources: []int{}, URL: x.URL, Title: x.Title, Date: x.Date}
			for _, s := range e.Sources {
				if slices.Contains(x.Ranks(), s.Rank) {
					f.Sources = append(f.Sources, s.Rank)
				}
			}
			list = append(list, f)
		}
	}
	for _, m := range gone(c, FactKind, func(m Mark) bool { return have[m.Key] }) {
		f := Fact{Key: m.Key, Text: m.Text, Figures: []string{}, Sources: []int{}, Gone: true}
		if x := c.Facts[m.Key]; x != nil {
			f.Figures, f.URL, f.Title, f.Date = append(f.Figures, x.Figures...), x.URL, x.Title, x.Date
		}
		list = append(list, f)
	}
	return list
}

// takeLinks are the addresses that several pages give and nobody dropped, and a person's own.
func takeLinks(e *evidence.Evidence, c Choices) []Outward {
	list := []Outward{}
	have := map[string]bool{}
	for _, l := range e.Citations {
		have[l.URL] = true
		if picked(c, LinkKind, l.URL, true) {
			list = append(list, Outward{Key: l.URL, URL: l.URL, Pages: l.Pages, Sources: l.Sources, Chosen: c.chose(LinkKind, l.URL)})
		}
	}
	within := func(key string) bool { return strings.HasPrefix(key, ToPrefix) || strings.HasPrefix(key, FromPrefix) }
	for _, m := range gone(c, LinkKind, func(m Mark) bool { return have[m.Key] || within(m.Key) }) {
		list = append(list, Outward{Key: m.Key, URL: m.Text, Sources: []int{}, Gone: !strings.HasPrefix(m.Key, OwnPrefix), Chosen: m.State == Adopted})
	}
	return list
}

func takeQuestions(e *evidence.Evidence, c Choices) []Question {
	list := []Question{}
	have := map[string]bool{}
	proposed := 0
	for _, q := range e.Questions {
		have[q.Key] = true
		propose := q.Recommended() && proposed < maxQuestions
		if propose {
			proposed++
		}
		if !picked(c, QuestionKind, q.Key, propose) {
			continue
		}
		out := Question{Key: q.Key, Text: q.Text, Kind: q.Kind, OnResults: q.OnResults, AskedBy: slices.Concat([]int{}, q.AskedBy), AnsweredBy: []int{}, Chosen: c.chose(QuestionKind, q.Key)}
		for _, a := range q.AnsweredBy {
			out.AnsweredBy = append(out.AnsweredBy, a.Rank)
		}
		list = append(list, out)
	}
	for _, m := range gone(c, QuestionKind, func(m Mark) bool { return have[m.Key] }) {
		kind, _ := language.For(e.Language).KindOfQuestion(m.Text)
		list = append(list, Question{Key: m.Key, Text: m.Text, Kind: kind, AskedBy: []int{}, AnsweredBy: []int{}, Gone: !strings.HasPrefix(m.Key, OwnPrefix), Chosen: m.State == Adopted})
	}
	return list
}

// fill sets what a person typed, and where nothing was typed what is proposed, with its
// reason.
func (b *Brief) fill(e *evidence.Evidence, c Choices, t Template, s Setting) {
	title := b.titled(e)
	h1 := proposal{title, message.Of("the keyword")}
	if t, ok := c.Typed[FieldH1]; ok {
		h1.text = t
	} else if t, ok := c.stood(FieldH1); ok {
		h1.text = t
	}
	b.H1 = h1.text // warnings look at it
	tag := fitting(title, longestTitle)
	if len(b.Titles) > 0 {
		tag = b.Titles[0].Text
	}
	description := ""
	if len(b.Descriptions) > 0 {
		description = b.Descriptions[0].Text
	}
	proposals := b.propose(e, c, t, s)
	proposals[FieldTitleTag] = proposal{tag, message.Of("the first proposal")}
	proposals[FieldMetaDescription] = proposal{description, message.Of("the first proposal")}
	proposals[FieldH1] = h1
	proposals[FieldStatus] = proposal{Proposed, ""}
	if s.Version > 0 {
		proposals[FieldStatus] = proposal{Composed, ""}
	}
	for _, name := range FieldNames() {
		at := b.field(name)
		if at == nil {
			continue
		}
		if v, ok := c.Typed[name]; ok {
			*at = v
			continue
		}
		if v, ok := c.stood(name); ok {
			if *at = v; v != "" {
				b.Why[name] = message.Of("as it stood")
			}
			continue
		}
		*at = proposals[name].text
		if why := proposals[name].why; *at != "" && why != "" {
			b.Why[name] = why
		}
	}
}

func capitalise(s string) string {
	r, size := utf8.DecodeRuneInString(s)
	return string(unicode.ToUpper(r)) + s[size:]
}

func fitting(s string, most int) string {
	r := []rune(s)
	if len(r) <= most {
		return s
	}
	cut := string(r[:most])
	if i := strings.LastIndexByte(cut, ' '); i > most/2 {
		cut = cut[:i]
	}
	return cut
}

// lowerFirst takes a sentence's capital off, but not a name's or an abbreviation's.
func lowerFirst(s string) string {
	_, size := utf8.DecodeRuneInString(s)
	if strings.ToLower(s[size:]) != s[size:] {
		return s // a name, or a heading in title case
	}
	return strings.ToLower(s[:size]) + s[size:]
}
