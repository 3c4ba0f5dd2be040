// Package links proposes links between a page that is to be written and the pages that a
// publication has already: which of them to link to and with what words, which of them should
// link here and from which sentence, and which stand for the same keyword already. It goes by
// the vocabulary that they share with the field.
//
//   - links.go   what is found
//   - anchors.go  the words to link with
package links

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/evidence"
	"corpulan/core/language"
	"corpulan/core/message"
	"corpulan/core/vocabulary"
)

// Link is a link to set, to an own page or from it.
type Link struct {
	URL      string   `json:"url"` // of the own page
	Title    string   `json:"title"`
	Anchor   string   `json:"anchor"`             // the words to link with
	Sentence string   `json:"sentence,omitempty"` // of the own page, that has the anchor
	Heading  string   `json:"heading,omitempty"`  // of the section it stands in
	Section  string   `json:"section,omitempty"`  // of the brief, to link from
	Shared   []string `json:"shared"`             // terms of the field that it has, the leading first
	Near     float64  `json:"near"`               // to the field, 0 to 1
	About    []string `json:"-"`                  // stems of its title and leading terms
}

// Rival is an own page that stands for the keyword already.
type Rival struct {
	URL   string          `json:"url"`
	Title string          `json:"title"`
	Why   message.Message `json:"why"`
}

// Found is what is found among own pages, the nearest first.
type Found struct {
	Pages  int // looked at
	To     []Link
	From   []Link
	Rivals []Rival
}

// Bounds, all our own.
const (
	maxTerms  = 120  // of the field that are compared
	minNear   = 0.12 // cosine from which a page has to do with the field
	minTerms  = 3    // of the field that such a page has
	maxShared = 6    // that are named
	maxLinks  = 30   // of either kind
	rivalFrom = 0.55 // of standing
)

// Find looks through own pages, prepared with the stems of the field's language. Each page is
// found once.
func Find(e *evidence.Evidence, pages []*corpus.Doc) Found {
	lang := language.For(e.Language)
	f := Found{Pages: len(pages), To: []Link{}, From: []Link{}, Rivals: []Rival{}}
	terms := termsOf(e, lang)
	weights := weigh(terms, pages)
	want := anchors{used: map[string]bool{}, lang: lang}
	wantFrom := anchors{used: map[string]bool{}, lang: lang}
	type near struct {
		doc    *corpus.Doc
		link   Link
		shared []vocabulary.Term
	}
	var list []near
	seen := map[string]bool{}
	for _, d := range pages {
		if seen[d.Reading.URL] {
			continue
		}
		seen[d.Reading.URL] = true
		if why, is := rival(d, e.Keyword); is {
			f.Rivals = append(f.Rivals, Rival{d.Reading.URL, d.Reading.Title, why})
			continue
		}
		x := near{doc: d, link: Link{URL: d.Reading.URL, Title: d.Reading.Title}}
		x.link.Near, x.shared = nearness(d, terms, weights)
		if x.link.Near < minNear || len(x.shared) < minTerms {
			continue
		}
		x.link.About = lang.ContentStems(d.Reading.Title)
		for _, t := range x.shared[:min(len(x.shared), maxShared)] {
			x.link.Shared = append(x.link.Shared, t.Text)
			x.link.About = append(x.link.About, lang.ContentStems(t.Text)...)
		}
		list = append(list, x)
	}
	slices.SortStableFunc(list, func(a, b near) int {
		return cmp.Or(cmp.Compare(b.link.Near, a.link.Near), strings.Compare(a.link.URL, b.link.URL))
	})
	for _, x := range list {
		if to := x.link; len(f.To) < maxLinks {
			if to.Anchor = want.to(x.doc, x.shared); to.Anchor != "" {
				f.To = append(f.To, to)
			}
		}
		if from := x.link; len(f.From) < maxLinks {
			if at, ok := wantFrom.from(x.doc, e.Keyword); ok {
				from.Anchor, from.Sentence, from.Heading = at.anchor, at.sentence, at.heading
				f.From = append(f.From, from)
			}
		}
	}
	return f
}

// termsOf are the terms of the field that say something of it beyond the keyword, the leading
// first.
func termsOf(e *evidence.Evidence, lang *language.Language) []vocabulary.Term {
	keyword := lang.ContentStems(e.Keyword)
	var list []vocabulary.Term
	for _, t := range e.Terms {
		says := slices.ContainsFunc(lang.ContentStems(t.Text), func(s string) bool { return !slices.Contains(keyword, s) })
		if t.Recommended() && says && len(list) < maxTerms {
			list = append(list, t)
		}
	}
	return list
}

// uses is how often a page uses a term.
func uses(d *corpus.Doc, t vocabulary.Term) int {
	n := 0
	for _, k := range t.Keys {
		if u := d.Phrases[k]; u != nil {
			n += u.Count
		}
	}
	return n
}

// weigh gives each term the more weight the more it says of the field and the fewer own pages
// have it: its score by the smooth idf of scikit-learn's TfidfTransformer, ln((1+n)/(1+df))+1.
func weigh(terms []vocabulary.Term, pages []*corpus.Doc) []float64 {
	w := make([]float64, len(terms))
	for i, t := range terms {
		df := 0
		for _, d := range pages {
			if uses(d, t) > 0 {
				df++
			}
		}
		w[i] = t.Score * (math.Log(float64(1+len(pages))/float64(1+df)) + 1)
	}
	return w
}

// nearness is the cosine of a page's use of the field's terms (1 + ln tf, weighted) to their
// weights, and the terms it has, those that weigh most in it first.
func nearness(d *corpus.Doc, terms []vocabulary.Term, weights []float64) (float64, []vocabulary.Term) {
	dot, field, page := 0.0, 0.0, 0.0
	type used struct {
		vocabulary.Term
		w float64
	}
	var has []used
	for i, t := range terms {
		field += weights[i] * weights[i]
		n := uses(d, t)
		if n == 0 {
			continue
		}
		w := (1 + math.Log(float64(n))) * weights[i]
		dot += w * weights[i]
		page += w * w
		has = append(has, used{t, w})
	}
	if page == 0 || field == 0 {
		return 0, nil
	}
	slices.SortStableFunc(has, func(a, b used) int { return cmp.Compare(b.w, a.w) })
	shared := make([]vocabulary.Term, len(has))
	for i, x := range has {
		shared[i] = x.Term
	}
	return dot / math.Sqrt(field*page), shared
}

// rival tells a page that stands for the keyword already, and by what: where it puts the
// keyword, each place with a weight of our own.
func rival(d *corpus.Doc, keyword string) (why message.Message, is bool) {
	p := evidence.PlacementOf(d, keyword)
	standing := 0.0
	var has []message.Message
	for _, at := range []struct {
		has    bool
		weight float64
		name   message.Message
	}{{p.Title, .3, "title"}, {p.H1, .25, "H1"}, {p.Address, .15, "address"}, {p.Opening, .15, "opening"}, {p.Subheadings > 0, .1, "headings"}, {p.Uses > 1, .05, "text"}} {
		if at.has {
			standing += at.weight
			has = append(has, at.name)
		}
	}
	return message.Of("the keyword stands in its %v", message.Joined(", ", has...)), standing >= rivalFrom
}
