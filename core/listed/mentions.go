package listed

import (
	"slices"
	"strings"
	"unicode"

	"corpulan/core/corpus"
	"corpulan/core/text"
)

// form is a way in which a thing is named, word by word.
type form struct {
	words []string
	thing int // -1 where it may be of several
}

// mentions adds the pages that name a thing without listing it, each by its first sentence that does.
func (f *finder) mentions(things []Thing) {
	forms := f.forms(things)
	if len(forms) == 0 {
		return
	}
	for i, d := range f.Docs {
		listed := map[int]bool{}
		for n := range things {
			if slices.ContainsFunc(things[n].Places, func(p Place) bool { return p.Rank == f.Ranks[i] }) {
				listed[n] = true
			}
		}
		for s := range d.Sentences {
			f.named(i, &d.Sentences[s], forms, func(n int, name string) {
				if !listed[n] {
					listed[n] = true
					things[n].Places = append(things[n].Places, Place{Rank: f.Ranks[i], Section: d.Sentences[s].Section, By: ByMention, Name: name, Text: d.Sentences[s].Text})
				}
			})
		}
	}
}

// forms are the ways in which things are named, by their first word: all variants, and without the first word, which is
// rather a maker's; the longest first.
func (f *finder) forms(things []Thing) map[string][]form {
	of := map[string]int{}
	add := func(name string, n int) {
		words := wordsOf(name)
		if old, ok := of[words]; ok && old != n {
			n = -1
		}
		of[words] = n
	}
	for n, t := range things {
		names := []string{t.Name}
		for _, p := range t.Places {
			if v := f.bare(p.Name); !slices.Contains(names, v) {
				names = append(names, v)
			}
		}
		for _, name := range names {
			add(name, n)
		}
		if _, short, ok := strings.Cut(f.bare(t.Name), " "); ok && f.standsAlone(short) {
			add(short, n)
		}
	}
	by := map[string][]form{}
	for name, n := range of {
		words := strings.Split(name, " ")
		by[words[0]] = append(by[words[0]], form{words, n})
	}
	for _, list := range by {
		slices.SortFunc(list, func(a, b form) int {
			if len(a.words) != len(b.words) {
				return len(b.words) - len(a.words)
			}
			return slices.Compare(a.words, b.words)
		})
	}
	return by
}

// standsAlone tells the rest of a name that is one by itself: not a function word first, nor a number, nor words that the
// field writes small.
func (f *finder) standsAlone(short string) bool {
	words := strings.Fields(short)
	first := text.Fold(words[0])
	if f.Language.Stop(first) || f.Language.Joins(first) || unicode.IsDigit([]rune(first)[0]) {
		return false
	}
	return slices.ContainsFunc(words, func(w string) bool {
		share, seen := f.Capitals[text.Fold(w)]
		return w != strings.ToLower(w) && (!seen || share >= mostlyCapital)
	})
}

// named finds the things that a sentence names. A single word that the language has as well counts within a sentence only,
// where its capital is no other's.
func (f *finder) named(page int, s *corpus.Sentence, forms map[string][]form, yield func(thing int, name string)) {
	for i := 0; i < len(s.Tokens); i++ {
		t := s.Tokens[i]
		if !t.Capital && !t.Number {
			continue
		}
		for _, x := range forms[t.Folded] {
			end, ok := standsAt(s, x.words, i)
			if !ok || len(x.words) == 1 && (i == 0 || s.Heading) && f.Language.Rank(t.Folded) > 0 {
				continue
			}
			if x.thing >= 0 {
				yield(x.thing, s.Text[t.Start:s.Tokens[end-1].End])
			}
			i = end - 1
			break
		}
	}
}

// standsAt tells whether the words of a name stand in a sentence from a token on, and where they end.
func standsAt(s *corpus.Sentence, words []string, from int) (end int, ok bool) {
	if from+len(words) > len(s.Tokens) {
		return 0, false
	}
	for n, w := range words {
		if t := s.Tokens[from+n]; t.Folded != w || n > 0 && t.Broken {
			return 0, false
		}
	}
	return from + len(words), true
}
