// Package says judges whether texts say what is asked, and where: one judgement for the questions of a field,
// what people search, openings, pages of ours and drafts.
//
//   - asked.go    what is asked, and which wordings ask the same
//   - holders.go  which sections have which words
//   - judge.go    the traits of a section against what is asked, and the judge that labelled pairs taught
//   - answers.go  where the texts of a field answer
//   - meets.go    which of them meet what people search
//   - intext.go   a question asked and answered in running text
//   - form.go     what form a short answer has
package says

import (
	"cmp"
	"maps"
	"slices"

	"corpulan/core/corpus"
	"corpulan/core/language"
)

// Treated tells of which matter a section of a text is: the number of a theme that several texts have, 0 for
// none.
type Treated func(rank, section int) int

// Texts are those of a field, ready to be asked.
type Texts struct {
	*corpus.Field
	draft  func(*corpus.Sentence) bool // what says nothing in it; nil for what is no draft, see InDraft
	common map[string]bool             // stems of the keyword
	idf    func(stem string) float64
	parts  [][]part // by text and section
	themes map[int][]place
	same   map[string][]string // see ways
	asked  map[int][]inText    // see asks
	forms  map[[2]int]forms    // by text and sentence, as they are asked for
	named  map[named]bool      // the same, what they name
	blocks map[[2]int][]block  // by text and section, as they are asked for
	held   *holders            // see holders
}

// part is a section.
type part struct {
	theme  int
	matter language.Matter // that its heading names first
	tokens []string        // of its heading
	stems  map[string]int  // of its text, with how often
	from   int             // its first sentence, of the text's
	to     int             // the first behind it
}

// InDraft makes a draft ready, in which a question says nothing but by what stands behind it: a writer knows what
// will be asked.
func InDraft(f *corpus.Field, treated Treated, isOthers func(*corpus.Sentence) bool) *Texts {
	t := In(f, treated)
	t.draft = func(s *corpus.Sentence) bool { return IsAsked(s.Text) || isOthers != nil && isOthers(s) }
	for i, d := range f.Docs {
		for n := range t.parts[i] {
			t.parts[i][n].stems = map[string]int{}
		}
		for n := range d.Sentences {
			s := &d.Sentences[n]
			if s.Heading || t.draft(s) {
				continue
			}
			for _, x := range s.Tokens {
				if !x.Stop {
					t.parts[i][s.Section].stems[x.Stem]++
				}
			}
		}
	}
	return t
}

// named is a sentence of a text, and a general matter.
type named struct {
	text, sentence int
	matter         language.Matter
}

type place struct{ text, section int }

// In makes the texts of a field ready; treated may be nil.
func In(f *corpus.Field, treated Treated) *Texts {
	t := &Texts{Field: f, common: f.KeywordStems(), idf: f.SectionIDF(), themes: map[int][]place{},
		same: map[string][]string{}, asked: map[int][]inText{}, forms: map[[2]int]forms{}, named: map[named]bool{}, blocks: map[[2]int][]block{}}
	for i, d := range f.Docs {
		parts := make([]part, len(d.Reading.Sections))
		for n, s := range d.Reading.Sections {
			p := &parts[n]
			p.matter, p.tokens = tokensOf(f.Language, s.Heading)
			p.stems = d.Sections[n]
			if treated != nil {
				p.theme = treated(f.Ranks[i], n)
			}
			if p.theme != 0 {
				t.themes[p.theme] = append(t.themes[p.theme], place{i, n})
			}
		}
		for n := range d.Sentences {
			p := &parts[d.Sentences[n].Section]
			if p.to == 0 {
				p.from = n
			}
			p.to = n + 1
		}
		t.parts = append(t.parts, parts)
	}
	return t
}

// AboutOf is the theme that is asked about: that of the section which a question heads, else the one that has
// the heading most like it.
func (t *Texts) AboutOf(q Asked) (best About) {
	if q.Place == "heading" {
		return About{t.parts[slices.Index(t.Ranks, q.Rank)][q.Section].theme, 1}
	}
	for _, theme := range slices.Sorted(maps.Keys(t.themes)) {
		for _, at := range t.themes[theme] {
			if alike := jaccard(q.tokens, t.parts[at.text][at.section].tokens, t.common); alike >= sameHeading && alike > best.Whole {
				best = About{theme, alike}
			}
		}
	}
	return best
}

// ways are a stem and those that mean the same.
func (t *Texts) ways(stem string) []string {
	list, known := t.same[stem]
	if !known {
		list = append([]string{stem}, t.SameInMeaning(stem)...)
		t.same[stem] = list
	}
	return list
}

// mostly is the one of several with the highest value, the first of equals.
func mostly[T any, V cmp.Ordered](list []T, value func(T) V) (best T, ok bool) {
	for i, x := range list {
		if i == 0 || value(x) > value(best) {
			best, ok = x, true
		}
	}
	return best, ok
}
