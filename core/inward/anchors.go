package inward

import (
	"cmp"
	"slices"
	"strings"
	"unicode/utf8"

	"corpulan/core/corpus"
	"corpulan/core/evidence"
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

// from is the place of a page to link from: a sentence of its text with words that are about
// the page to be written, those nearest to the keyword first; not words that another page
// links with already, as long as there are others.
func (a anchors) from(d *corpus.Doc, e *evidence.Evidence, terms []vocabulary.Term) (corpus.Line, bool) {
	near := slices.Clone(terms)
	slices.SortStableFunc(near, func(x, y vocabulary.Term) int {
		return cmp.Or(cmp.Compare(y.Nearness, x.Nearness), cmp.Compare(y.Words, x.Words), cmp.Compare(y.Score, x.Score))
	})
	var second corpus.Line
	for _, t := range near {
		if t.Words < 2 && !t.IsKeyword || uses(d, t) == 0 {
			continue
		}
		for _, l := range corpus.Concordance([]corpus.Page{{Doc: d}}, t.Keys...) {
			if l.InHead || len(strings.Fields(l.Left+l.Hit+l.Right)) < shortestSentence {
				continue
			}
			if a.take(l.Hit) {
				return l, true
			}
			if second.Hit == "" {
				second = l
			}
		}
	}
	return second, second.Hit != ""
}

// shortestSentence is the least of words that a sentence to link from has. Our own.
const shortestSentence = 5
