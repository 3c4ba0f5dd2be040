package links

import (
	"cmp"
	"slices"
	"strings"
	"unicode/utf8"

	"corpulan/core/corpus"
	"corpulan/core/language"
	"corpulan/core/text"
	"corpulan/core/vocabulary"
)

// longestAnchor is how long the words of a link may be, in characters. Our own.
const longestAnchor = 60

// anchors hands out words to link with, none of them twice.
type anchors struct {
	used map[string]bool
	lang *language.Language
}

func (a anchors) take(s string) bool {
	key := text.Fold(s)
	if s == "" || utf8.RuneCountInString(s) > longestAnchor || a.used[key] {
		return false
	}
	a.used[key] = true
	return true
}

// to is the words to link to a page with: the longest term of the field in its title, else
// the title itself or its first part, else a leading term it shares. Empty where all are used.
func (a anchors) to(d *corpus.Doc, shared []vocabulary.Term) string {
	title, _ := d.WithoutSite(d.Reading.Title)
	inTitle := slices.DeleteFunc(slices.Clone(shared), func(t vocabulary.Term) bool {
		return !slices.ContainsFunc(t.Keys, func(k string) bool { u := d.Phrases[k]; return u != nil && u.Title })
	})
	slices.SortStableFunc(inTitle, func(x, y vocabulary.Term) int { return cmp.Compare(y.Words, x.Words) })
	var tries []string
	for _, t := range inTitle {
		if t.Words > 1 {
			tries = append(tries, t.Text)
		}
	}
	head, _, _ := strings.Cut(title, ":")
	tries = append(tries, strings.TrimSpace(title), strings.TrimSpace(head))
	for _, t := range slices.Concat(inTitle, shared) {
		tries = append(tries, t.Text)
	}
	for _, s := range tries {
		if a.take(s) {
			return s
		}
	}
	return ""
}

// place is where a page may link from: a sentence of its text, and the words in it.
type place struct {
	anchor, sentence, heading string
	has                       int // of the keyword's stems
}

// Of a sentence to link from. Our own.
const (
	shortestSentence = 5 // words
	minOfKeyword     = 2 // stems of the keyword that stand together in it, where it has as many
	longestGap       = 3 // tokens between two of them
)

// from is the place of a page to link from: the sentence in which most of the keyword's words
// stand near each other, linked on these words; not on words that another page links with
// already, as long as there are others. A page that never speaks of the subject has none.
func (a anchors) from(d *corpus.Doc, keyword string) (place, bool) {
	want := map[string]bool{}
	for _, s := range a.lang.ContentStems(keyword) {
		want[s] = true
	}
	least := min(minOfKeyword, len(want))
	var all []place
	for i := range d.Sentences {
		s := &d.Sentences[i]
		if s.Heading || s.Again || s.Foreign || len(s.Tokens) < shortestSentence {
			continue
		}
		if p, ok := together(s, want); ok && p.has >= least {
			p.heading = d.Reading.Sections[s.Section].Heading
			all = append(all, p)
		}
	}
	slices.SortStableFunc(all, func(x, y place) int { return cmp.Compare(y.has, x.has) })
	for _, p := range all {
		if a.take(p.anchor) {
			return p, true
		}
	}
	if len(all) > 0 {
		return all[0], true
	}
	return place{}, false
}

// together is the stretch of a sentence with most of some stems near each other.
func together(s *corpus.Sentence, want map[string]bool) (best place, ok bool) {
	if len(want) == 0 {
		return best, false
	}
	for i := range s.Tokens {
		if !want[s.Tokens[i].Stem] {
			continue
		}
		seen := map[string]bool{s.Tokens[i].Stem: true}
		last := i
		for k := i + 1; k < len(s.Tokens) && k-last <= longestGap; k++ {
			if st := s.Tokens[k].Stem; want[st] && !seen[st] {
				seen[st], last = true, k
			}
		}
		anchor := s.Text[s.Tokens[i].Start:s.Tokens[last].End]
		if len(seen) > best.has && utf8.RuneCountInString(anchor) <= longestAnchor {
			best = place{anchor: anchor, sentence: strings.TrimSpace(s.Text), has: len(seen)}
		}
	}
	return best, best.has > 0
}
