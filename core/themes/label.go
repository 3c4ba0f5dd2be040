package themes

import (
	"math"
	"strings"
	"unicode"

	"corpulan/core/corpus"
	"corpulan/core/language"
	"corpulan/core/stats"
	"corpulan/core/text"
)

// quietCase writes a heading that is all in capitals as a sentence begins.
func quietCase(s string) string {
	if len(s) < 6 || strings.ToUpper(s) != s || strings.ToLower(s) == s {
		return s
	}
	r := []rune(strings.ToLower(s))
	r[0] = unicode.ToUpper(r[0])
	return string(r)
}

// What a heading loses when a theme is named. The first is measured (docs/evaluation.md), the others are our own.
const (
	perWord   = 0.02 // for each word beyond two: a short name is what a person would write
	asked     = 0.08 // that is a question, where there are others
	vague     = 0.25 // that names no more than a general matter, where most others name another
	listing   = 0.08 // that lists or counts things, or says a second thing after a comma
	notPlain  = 0.5  // by each sign that it is no plain name: see unplain
	inOthers  = 0.3  // how much it counts that its words stand in the other sections, beside their headings
	fewestFor = 3    // in two of so many headings of a group nothing stands beside a matter that gives it its name
)

// label is what a theme is called: what the language calls the general matter that most of its headings name
// and no more, else its plainest heading.
func label(f *corpus.Field, p *pairs, group []int) string {
	bare := map[language.Matter]int{}
	for _, i := range group {
		if m := p.heads[i].bare; m != "" {
			bare[m]++
		}
	}
	for m, n := range bare {
		if name := f.Language.NameOfMatter(m); name != "" && fewestFor*n >= 2*len(group) && n > 1 {
			return name
		}
	}
	return p.nameIn(f, group, medoid(f, p, group))
}

// nameIn is the name that a heading is or has: without its number, signs and pictures, and of what stands
// before a colon and behind it what more of the group's sections say.
func (p *pairs) nameIn(f *corpus.Field, group []int, heading int) string {
	name := text.WithoutNumber(p.heads[heading].text)
	name = strings.Join(strings.Fields(strings.Map(func(r rune) rune {
		if isPicture(r) {
			return -1
		}
		return r
	}, name)), " ")
	if before, after, ok := strings.Cut(name, ": "); ok {
		name = strings.TrimSpace(before)
		if after = strings.TrimSpace(after); after != "" && (!says(f.Language, before) || p.saidBy(f, group, after) > p.saidBy(f, group, before)) {
			r := []rune(after)
			r[0] = unicode.ToUpper(r[0])
			name = string(r)
		}
	}
	return quietCase(strings.TrimRight(name, ".: "))
}

// saidBy is in how many of a group's sections a content word of a text stands, on the mean.
func (p *pairs) saidBy(f *corpus.Field, group []int, s string) float64 {
	n, stems := 0, f.Language.ContentStems(s)
	for _, i := range group {
		said := textOf(f.Docs[p.heads[i].doc], p.heads[i])
		for _, stem := range stems {
			if said[stem] > 0 {
				n++
			}
		}
	}
	return float64(n) / float64(max(len(stems), 1))
}

// says tells whether what stands before a colon says anything but a general matter, a number and a date.
func says(lang *language.Language, s string) bool {
	matters, words := lang.Matters(s)
	said := map[int]bool{}
	for _, m := range matters {
		for _, w := range m.Words {
			said[w] = true
		}
	}
	for i, w := range words {
		if !said[i] && !lang.Stop(w) && !lang.IsNumber(w) && !isFigure(w) && !lang.InCalendar(w) && !lang.IsPart(w) {
			return true
		}
	}
	return false
}

func isPicture(r rune) bool {
	return unicode.Is(unicode.So, r) || unicode.Is(unicode.Sk, r) || r >= 0xFE00 && r <= 0xFE0F || r == 0x200D || r == 0x20E3
}

// unplain counts what shows that a heading is no plain name: a shout, a chant, a story of
// the writer's own, a date, code.
func unplain(lang *language.Language, heading string) (n int) {
	for _, sign := range []string{"!", "??", "…", "...", "“", "\"", "«", ";"} {
		if strings.Contains(heading, sign) {
			n++
		}
	}
	if strings.ContainsFunc(heading, isPicture) || strings.ContainsAny(heading, "{}=<>_\\") || strings.Contains(heading, "()") || strings.Contains(heading, "::") {
		n++ // or the signature of a function
	}
	story, before := false, map[string]int{}
	text.EachWord(heading, func(w text.Span) {
		word := w.Of(heading)
		before[text.Fold(word)]++
		story = story || before[text.Fold(word)] > 2
		lang.EachPart(word, func(p language.Part) {
			part := word[p.Start:p.End]
			story = story || lang.IsFirstPerson(text.Fold(part)) || lang.InCalendar(part)
		})
	})
	if story {
		n++
	}
	return n
}

// counts tells a heading that has a number beside its own.
func counts(lang *language.Language, heading string) bool {
	found := false
	text.EachWord(text.WithoutNumber(heading), func(w text.Span) {
		word := text.Fold(w.Of(text.WithoutNumber(heading)))
		found = found || lang.IsNumber(word) || isFigure(word)
	})
	return found
}

// maxOthers is with how many of its group a heading is compared: a group of thousands is no theme of an
// outline. Our own.
const maxOthers = 60

// some are at most so many of a group, as far from each other as from the next.
func some(group []int, most int) []int {
	if len(group) <= most {
		return group
	}
	list := make([]int, most)
	for i := range list {
		list[i] = group[i*len(group)/most]
	}
	return list
}

// medoid is the heading whose words are most like those of the others of its group and stand in their
// sections, short and plain ones first; of two the same, the shorter.
// What is nearer than 1e-9 is the same: our own.
func medoid(f *corpus.Field, p *pairs, group []int) int {
	questions, named := 0, map[language.Matter]int{}
	for _, i := range group {
		named[p.heads[i].bare]++
		if f.Language.IsQuestionHeading(p.heads[i].text) {
			questions++
		}
	}
	best, bestSim := group[0], math.Inf(-1)
	others := some(group, maxOthers)
	for _, i := range group {
		h := p.heads[i]
		var sims []float64
		for _, j := range others {
			if i != j {
				sims = append(sims, stats.Cosine(h.title, p.heads[j].title)+inOthers*float64(p.headIn[i*len(p.heads)+j]))
			}
		}
		m := stats.Mean(sims) - perWord*float64(max(len(strings.Fields(h.text))-2, 0)) - notPlain*float64(unplain(f.Language, h.text))
		if h.bare != "" && named[h.bare] < 2 {
			m -= vague
		}
		if strings.Contains(h.text, ",") || counts(f.Language, h.text) {
			m -= listing
		}
		if questions < len(group) && f.Language.IsQuestionHeading(h.text) {
			m -= asked
		}
		if m > bestSim+1e-9 || m > bestSim-1e-9 && len(h.text) < len(p.heads[best].text) {
			best, bestSim = i, m
		}
	}
	return best
}
