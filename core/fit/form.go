package fit

import (
	"math"
	"unicode/utf8"

	"corpulan/core/brief"
	"corpulan/core/language"
	"corpulan/core/message"
)

// length scores the words of the draft's sentences against the range: whole within it, in
// proportion below, and less the farther beyond. Sentences that stand twice count once.
func (t *measured) length(b *brief.Brief) Part {
	item := Item{Text: message.Of("%d to %d words", b.Words.Lower, b.Words.Upper), Score: 1, Section: -1}
	lower, upper := float64(max(b.Words.Lower, 1)), float64(max(b.Words.Upper, 1))
	n := float64(t.words)
	item.Says = message.Of("%d words", t.words)
	switch {
	case n < lower:
		item.Score, item.Effort = n/lower, int(lower-n)
	case n > upper:
		if item.Score = max(upper/n, 0.5); n > 1.5*upper { // our own
			item.over = true
			item.Says = overdone
		}
	}
	return part(Length, []Item{item}, []float64{1})
}

// longestTitle and longestMeta are in characters. Common practice, no published source.
const (
	longestTitle = 60
	longestMeta  = 160
)

// form scores what a page has beside its sentences: a heading of its own with the keyword's
// words, sub-headings over its parts, links within the site and out, images where the field
// shows some, and a reading grade not far above what is asked of writers. A draft with hardly any
// sentences has no form yet.
func (t *measured) form(b *brief.Brief) Part {
	r := t.doc.Reading
	var items []Item
	var weights []float64
	some := min(float64(t.words)/math.Max(float64(b.Words.Lower)/2, 1), 1)
	// met is how far a thing is there, 0 to 1; what is there counts as the text grows.
	add := func(weight float64, key string, what, says message.Message, met float64) {
		x := Item{Key: key, Text: what, Says: says, Score: some * met, Section: -1, Effort: formEffort}
		if met == 1 && some < 1 {
			x.Waits, x.Says = true, message.Joined("; ", says, "counts in full with a longer text")
		}
		items = append(items, x)
		weights = append(weights, weight)
	}
	is := func(ok bool) float64 {
		if ok {
			return 1
		}
		return 0
	}
	h1 := ""
	if at, _ := r.TitleSection(); at >= 0 {
		h1 = r.Sections[at].Heading
	}
	add(2, "h1", "a heading of its own, with the keyword", orNone(h1), is(t.hasAll(h1, b.Keyword)))
	n := 0
	for _, s := range b.Outline {
		if !s.Folded {
			n++
		}
	}
	if n > 0 {
		heads := len(t.headings)
		add(2, "headings", message.Of("about %d sub-headings", n), has(max(heads-1, 0)), min(float64(max(heads-1, 0))/float64(n), 1))
	}
	for _, x := range []struct {
		key  string
		what message.Message
		text string
		most int
	}{{"title", "a title tag", r.Title, longestTitle}, {"description", "a meta description", r.Description, longestMeta}} {
		n, says := utf8.RuneCountInString(x.text), message.Message("none")
		if n > 0 {
			says = message.Of("%d characters", n)
		}
		score := is(n > 0)
		if n > x.most {
			score /= 2 // too long a one is better than none
		}
		add(1, x.key, message.Of("%v of at most %d characters", x.what, x.most), says, score)
	}
	if want := b.Links.OutwardWanted[0]; want > 0 {
		n := r.Counts.ExternalLinks
		add(1, "links_out", message.Of("%d or more links to other sites", want), has(n), min(float64(n)/float64(want), 1))
	}
	if want := min(b.Links.InwardWanted[0], len(b.Links.Inward)); want > 0 {
		n := r.Counts.InternalLinks
		add(1, "links_in", message.Of("%d or more links within the site", want), has(n), min(float64(n)/float64(want), 1))
	}
	if want := b.Measures.Images.Lower; want >= 1 {
		n := r.Counts.Images
		add(1, "images", message.Of("%.0f or more images", want), has(n), min(float64(n)/want, 1))
	}
	if grade := r.Readability.FleschKincaidGrade; language.Graded(b.Language) && t.words > 0 {
		most := b.Grade() + GradeBeyond
		add(1, "grade", message.Of("a reading grade of at most %d", most), message.Of("%.1f", grade), is(grade <= float64(most)))
	}
	if ease, ok := language.EaseOf(b.Language); ok && !language.Graded(b.Language) && t.words > 0 {
		asked := message.Of("reading ease of at least %.0f by %s", ease.Plain-EaseBeyond, ease.Formula)
		if ease.Harder {
			asked = message.Of("at most %.0f by %s", ease.Plain+EaseBeyond, ease.Formula)
		}
		add(1, "ease", asked, message.Of("%.0f", r.Readability.Ease), is(ease.Meets(r.Readability.Ease, ease.Plain, EaseBeyond)))
	}
	return part(Form, items, weights)
}

// EaseBeyond is how much harder than plain a text may be, in points of the formula of its language. Our own.
const EaseBeyond = 15

// GradeBeyond is how far above the grade asked for a text may go. Our own.
const GradeBeyond = 2

// hasAll tells a text with all content words of another.
func (t *measured) hasAll(s, words string) bool {
	have := map[string]bool{}
	for _, st := range t.lang.ContentStems(s) {
		have[st] = true
	}
	want := t.lang.ContentStems(words)
	for _, st := range want {
		if !have[st] {
			return false
		}
	}
	return len(want) > 0
}

// has says how many of a thing a draft has.
func has(n int) message.Message {
	if n == 0 {
		return "none so far"
	}
	return message.Of("has %d", n)
}

func orNone(s string) message.Message {
	if s == "" {
		return "none"
	}
	return message.Text(s)
}
