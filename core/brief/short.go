package brief

import (
	"slices"
	"strings"

	"corpulan/core/evidence"
	"corpulan/core/text"
)

// How long the brief itself is at most: half the words of the page it asks for, and so many. Common practice, no published source: a
// brief is shorter than the page, and fits on two sides of A4.
const (
	partOfPage   = 2 // of the page's words, one in so many
	longestBrief = 700
)

// What the brief itself holds at most. Our own, but for the length of an answer, which is common practice.
const (
	answerWords   = 45 // that a section needs for an answer of 40 to 60
	pointWords    = 25 // that it needs to say a point
	longestPoint  = 28 // words of a point that nobody chose
	partOfBrief   = 4  // an answer that is written out takes at most one word in so many
	maxToSay      = 4  // things under one section
	fewTerms      = 10 // before the second things of sections are said
	mostTerms     = 15
	fewestTerms   = 3
	maxHints      = 4 // terms under a section that nothing else stands under
	maxOpen       = 2 // openings
	maxElsewhere  = 3 // questions that stand under no section
	maxShortLinks = 3 // of one kind
)

// MaxWords is how long the brief itself may be, in words.
func (b Brief) MaxWords() int { return min(b.Words.Target/partOfPage, longestBrief) }

// Short is the brief itself: of each list what matters most, as much as goes into MaxWords. What a person took, wrote or put somewhere
// is in it whatever the length. Everything else is the dossier's, which is b.
func (b Brief) Short() Brief {
	s := shortening{full: b, out: b, left: b.MaxWords(), asked: map[string]Question{}, below: map[string]Section{}}
	for _, q := range b.Questions {
		s.asked[q.Text] = q
	}
	b.Each(func(x *Section) { s.below[x.Key] = *x })
	s.empty()
	s.left -= s.fixed()
	s.choose()
	s.inTurn(0)
	s.terms(fewTerms)
	s.openings()
	s.answered()
	s.inTurn(1)
	s.links()
	s.elsewhere()
	for round := 2; round < maxToSay; round++ {
		s.inTurn(round)
	}
	s.terms(mostTerms)
	if len(s.out.Terms) < fewestTerms && !slices.ContainsFunc(s.out.Terms, func(t Term) bool { return t.Chosen }) {
		s.out.Terms = []Term{}
	}
	s.hint()
	s.house()
	if s.left < s.table() {
		s.out.Criteria = []Criterion{}
	}
	return s.out
}

// shortening is a brief in the making, of a full one.
type shortening struct {
	full, out Brief
	left      int                 // words
	asked     map[string]Question // of the full brief, by their texts
	below     map[string]Section  // of the full brief, by their keys
	written   string              // the short answer, written out
}

// fits takes the words of a line, with those of its label, from what is left; false, and nothing taken, where they are more.
func (s *shortening) fits(label int, texts ...string) bool {
	n := cost(label, texts...)
	if n > s.left {
		return false
	}
	s.left -= n
	return true
}

// cost is how many words texts have, each with those of its label; none for what is empty.
func cost(label int, texts ...string) (n int) {
	for _, t := range texts {
		if words := text.CountWords(t); words > 0 {
			n += label + words
		}
	}
	return n
}

// empty leaves of the full brief what stands in any.
func (s *shortening) empty() {
	o := &s.out
	for _, f := range fields {
		if at := o.field(f.name); at != nil && (f.dossier && o.Why[f.name] != "" || slices.Contains(o.House, f.name)) {
			*at = ""
		}
	}
	var emptied func([]Section) []Section
	emptied = func(outline []Section) []Section {
		outline = slices.Clone(outline)
		for i := range outline {
			x := &outline[i]
			x.Terms, x.Best, x.Questions, x.Points, x.Children = []string{}, []int{}, []string{}, []Point{}, emptied(x.Children)
		}
		return outline
	}
	o.Outline, o.OutlineNote = emptied(o.Outline), ""
	if answer, written, more := strings.Cut(o.Fields.ShortAnswer, "\n"); more && o.Why[FieldShortAnswer] != "" {
		o.Fields.ShortAnswer, s.written = answer, written
	}
	o.Terms, o.Questions, o.Openings, o.Entities = []Term{}, []Question{}, []evidence.Opening{}, []Entity{}
	o.Links.Outward, o.Links.From = []Outward{}, nil
	o.Links.Inward = o.Links.Inward[:min(len(o.Links.Inward), maxShortLinks)]
	o.Facts = slices.DeleteFunc(slices.Clone(o.Facts), func(x Fact) bool { return strings.HasPrefix(x.Key, PickPrefix) })
	o.Picks = slices.Clone(o.Picks)
	for i := range o.Picks {
		o.Picks[i].Praise, o.Picks[i].Criticism = nil, nil
	}
	o.Measures, o.Sources, o.References = Measures{}, nil, nil
}

// fixed is how many words stand in the brief whatever is left out.
func (s *shortening) fixed() int {
	o := &s.out
	n := cost(2, o.Keyword, o.Front.Publication, o.Front.Writer, o.Front.Due)
	const length, headings = 8, 10
	n += length + headings
	for _, f := range fields {
		if f.at != nil && f.name != FieldStatus && f.name != FieldOwner {
			n += cost(2, o.Field(f.name))
		}
	}
	o.Each(func(x *Section) {
		if x.Show != nil && !x.Folded {
			n += 3 + cost(0, x.Show.Says) + cost(0, x.Show.Heads...)
		}
		if x.Folded {
			n += cost(0, x.Heading)
		} else {
			n += cost(3, x.Heading) + cost(0, x.Note)
		}
	})
	for _, x := range o.Cuttings {
		n += cost(4, x.Text, x.Note)
	}
	for _, p := range o.Parts {
		if p.Own && !p.Hidden {
			n += cost(0, p.Title, p.Text)
		}
	}
	for _, p := range o.Picks {
		n += cost(1, p.Name, p.Verdict)
	}
	for _, l := range o.Links.Inward {
		n += cost(2, l.Title, l.Anchor)
	}
	for _, x := range o.Facts {
		n += cost(2, x.Text)
	}
	return n
}

// choose takes what a person did.
func (s *shortening) choose() {
	o := &s.out
	o.Each(func(x *Section) {
		for _, p := range s.below[x.Key].Points {
			if p.Chosen {
				x.Points = append(x.Points, p)
				s.left -= cost(1, p.Text)
			}
		}
		for _, q := range s.below[x.Key].Questions {
			if s.asked[q].Chosen {
				x.Questions = append(x.Questions, q)
				s.left -= cost(1, q)
			}
		}
	})
	for _, t := range s.full.Terms {
		if t.Chosen {
			o.Terms = append(o.Terms, t)
			s.left -= cost(1, t.Term)
		}
	}
	for _, q := range s.full.Questions {
		if q.Chosen && q.Section == "" {
			o.Questions = append(o.Questions, q)
			s.left -= cost(1, q.Text)
		}
	}
	for _, l := range s.full.Links.Outward {
		if l.Chosen {
			o.Links.Outward = append(o.Links.Outward, l)
			s.left -= cost(1, l.URL)
		}
	}
}

// inTurn says one more thing under each section that has room for it, those of most pages first: by turns a question to answer and a
// point to make.
func (s *shortening) inTurn(round int) {
	var turns []*Section
	s.out.Each(func(x *Section) { turns = append(turns, x) })
	slices.SortStableFunc(turns, func(x, y *Section) int { return y.Pages - x.Pages })
	for _, x := range turns {
		said := len(x.Questions) + len(x.Points)
		switch full := s.below[x.Key]; {
		case said > round:
		case x.Folded:
			if round == 0 && len(full.Questions) > 0 && s.fits(1, full.Questions[0]) {
				x.Questions = append(x.Questions, full.Questions[0])
			}
		case round%2 == 0 && s.answer(x, full), s.point(x, full), s.answer(x, full):
		}
	}
}

// room is how many of a section's words are left for something to say. The first thing has always room.
func room(x *Section) int {
	if len(x.Questions)+len(x.Points)+x.Struck == 0 {
		return answerWords
	}
	return x.Words - answerWords*len(x.Questions) - pointWords*(len(x.Points)+x.Struck)
}

func (s *shortening) answer(x *Section, full Section) bool {
	for _, q := range full.Questions {
		if !slices.Contains(x.Questions, q) {
			if room(x) < answerWords || !s.fits(1, q) {
				return false
			}
			x.Questions = append(x.Questions, q)
			return true
		}
	}
	return false
}

func (s *shortening) point(x *Section, full Section) bool {
	for _, p := range full.Points {
		if text.CountWords(p.Text) > longestPoint || langOf(&s.full).LeansBack(p.Text) || slices.ContainsFunc(x.Points, func(y Point) bool { return y.Key == p.Key }) {
			continue
		}
		if room(x) < pointWords || !s.fits(1, p.Text) {
			return false
		}
		x.Points = append(x.Points, p)
		return true
	}
	return false
}

// terms takes the first terms up to so many: none that is the keyword's alone, or says what another one does.
func (s *shortening) terms(most int) {
	lang := langOf(&s.full)
	keyword := lang.ContentStems(s.full.Keyword)
	within := func(a, b []string) bool {
		return !slices.ContainsFunc(a, func(st string) bool { return !slices.Contains(b, st) })
	}
	for _, t := range s.full.Terms {
		if len(s.out.Terms) >= most {
			return
		}
		stems := lang.ContentStems(t.Term)
		if t.Gone || within(stems, keyword) || slices.ContainsFunc(s.out.Terms, func(x Term) bool {
			other := lang.ContentStems(x.Term)
			return within(stems, other) || within(other, stems)
		}) {
			continue
		}
		if !s.fits(2, t.Term) {
			return
		}
		s.out.Terms = append(s.out.Terms, t)
	}
}

// hint gives a section under which there is nothing to say or to answer the words that its pages use.
func (s *shortening) hint() {
	s.out.Each(func(x *Section) {
		if x.Folded || len(x.Points)+len(x.Questions) > 0 || x.Note != "" {
			return
		}
		for _, t := range s.below[x.Key].Terms {
			if len(x.Terms) < maxHints && s.fits(0, t) {
				x.Terms = append(x.Terms, t)
			}
		}
	})
}

// house takes what the publication says in every brief, where there is room at the end.
func (s *shortening) house() {
	for _, name := range s.full.House {
		if f := s.full.Field(name); slices.Contains(FieldsOfHead(), name) && s.fits(2, f) {
			*s.out.field(name) = f
		}
	}
}

// answered takes the short answer as it is written out, where it leaves room for the rest.
func (s *shortening) answered() {
	if s.written != "" && text.CountWords(s.written) <= s.full.MaxWords()/partOfBrief && s.fits(0, s.written) {
		s.out.Fields.ShortAnswer += "\n" + s.written
	}
}

// openings takes what nobody else says, the asked before what one page alone has: such only as have to do with the field's own words.
func (s *shortening) openings() {
	lang := langOf(&s.full)
	known := map[string]bool{}
	for _, t := range s.full.Terms {
		for _, st := range lang.ContentStems(t.Term) {
			known[st] = true
		}
	}
	keyword := lang.ContentStems(s.full.Keyword)
	for _, st := range keyword {
		known[st] = false // it says the subject again
	}
	for _, kind := range []evidence.OpeningKind{evidence.AskedUnmet, evidence.SearchedUnmet, evidence.OnePage} {
		for _, x := range s.full.Openings {
			stems := lang.ContentStems(x.Text)
			about := slices.ContainsFunc(stems, func(st string) bool { return known[st] })
			if _, asks := lang.KindOfQuestion(x.Text); asks && kind == evidence.OnePage { // what one page alone asks may be of another subject
				about = about && sharesAny(stems, keyword)
			}
			if x.Kind == kind && len(s.out.Openings) < maxOpen && about && x.Of != string(ThingKind) && s.fits(5, x.Text) {
				s.out.Openings = append(s.out.Openings, x)
			}
		}
	}
}

func sharesAny(a, b []string) bool {
	return slices.ContainsFunc(a, func(st string) bool { return slices.Contains(b, st) })
}

func (s *shortening) links() {
	for _, l := range s.full.Links.Outward {
		if !l.Chosen && !l.Gone && len(s.out.Links.Outward) < min(s.full.Links.OutwardWanted[1], maxShortLinks) && s.fits(1, l.URL) {
			s.out.Links.Outward = append(s.out.Links.Outward, l)
		}
	}
}

// elsewhere takes questions that stand under no section.
func (s *shortening) elsewhere() {
	for _, q := range s.full.Questions {
		if q.Section == "" && !q.Chosen && !q.Gone && !strings.Contains(s.full.Fields.ShortAnswer, q.Text) && len(s.out.Questions) < maxElsewhere && s.fits(1, q.Text) {
			s.out.Questions = append(s.out.Questions, q)
		}
	}
}

// table is how many words the table of the picks has.
func (s *shortening) table() int {
	n := 0
	for _, x := range s.out.Criteria {
		n += cost(0, x.Name, x.Unit)
	}
	for _, p := range s.out.Picks {
		n += cost(0, p.Name)
		for _, v := range p.Values {
			n += cost(0, v.Text)
		}
	}
	return n
}

// WithDossier is the brief with or without the dossier behind it in files.
func (b Brief) WithDossier(with bool) Brief {
	b.Dossier = with
	return b
}
