package links_test

import (
	"fmt"
	"strings"
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"
	"corpulan/core/evidence"
	"corpulan/core/links"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func page(t *testing.T, rank int, host, body string) corpus.RankedPage {
	return corpustest.PageIn(t, "en", rank, host, body)
}

// field is three pages on winter riding.
func field(t *testing.T) *evidence.Evidence {
	t.Helper()
	var pages []corpus.RankedPage
	for i := range 3 {
		pages = append(pages, page(t, i+1, fmt.Sprintf("s%d.example", i), fmt.Sprintf(`<h1>Winter riding</h1><p>Winter riding number%d asks for grip and warm hands.</p><h2>Studded tyres</h2><p>%s</p><h2>Bar mitts</h2><p>%s</p><h2>Rear lights</h2><p>%s</p>`, i,
			strings.Repeat("Studded tyres grip on black ice when tyre pressure is low. ", 3+i), strings.Repeat("Bar mitts keep the hands warm below freezing point. ", 3+i), strings.Repeat("Two rear lights never leave you dark on unlit roads. ", 3+i))))
	}
	e, err := evidence.Compute(t.Context(), evidence.Input{Keyword: "winter riding", Language: "en", Pages: pages})
	require.NoError(t, err)
	return e
}

// Pages that share the field's terms are linked, each once and with words of its own; one that
// speaks of the subject is asked to link back from the sentence in which it does; one that
// stands for the keyword is a rival, and one about something else is left.
func TestLinksWithinTheSite(t *testing.T) {
	e := field(t)
	var own []*corpus.Doc
	add := func(name, body string) {
		d := page(t, 1, name+".own.example", body).Doc
		own = append(own, d)
	}
	add("tyres", `<h1>Studded tyres</h1><p>Studded tyres and tyre pressure on black ice. We change them before the riding of winter begins in earnest.</p>`)
	add("mitts", `<h1>Bar mitts and warm hands</h1><p>Bar mitts below freezing point keep hands warm. For winter riding we sell two kinds of studded tyres as well.</p>`)
	add("lights", `<h1>Rear lights on unlit roads</h1><p>Rear lights for unlit roads, and bar mitts beside them. Nothing else is said here of the season at all.</p>`)
	add("rival", `<h1>Winter riding</h1><p>Winter riding as we do it, with studded tyres, bar mitts and rear lights.</p>`)
	add("cakes", `<h1>Cakes for Sunday</h1><p>Butter, sugar and four eggs make a cake that lasts until Wednesday if nobody is looking.</p>`)
	own = append(own, own[0]) // the same address twice
	f := links.Find(e, own)
	assert.Equal(t, 6, f.Pages)
	require.Len(t, f.Rivals, 1)
	assert.Contains(t, f.Rivals[0].URL, "rival")
	assert.Contains(t, f.Rivals[0].Why.String(), "H1")
	urls, anchors := map[string]bool{}, map[string]bool{}
	for _, l := range f.To {
		assert.False(t, urls[l.URL], "no address twice")
		assert.False(t, anchors[strings.ToLower(l.Anchor)], "anchors are varied: %s", l.Anchor)
		urls[l.URL], anchors[strings.ToLower(l.Anchor)] = true, true
		assert.NotContains(t, l.URL, "cakes")
		assert.NotEmpty(t, l.Shared)
		assert.Positive(t, l.Near)
	}
	assert.Len(t, f.To, 3)
	require.Len(t, f.From, 2, "the page on lights never speaks of the subject")
	for _, l := range f.From {
		assert.Contains(t, l.Sentence, l.Anchor)
	}
	said := f.From[0].Anchor + "|" + f.From[1].Anchor
	assert.Contains(t, said, "winter riding")
	assert.Contains(t, said, "riding of winter")
	again := links.Find(e, own)
	assert.Equal(t, f, again, "the same each time")
}

func TestNothingToLink(t *testing.T) {
	f := links.Find(field(t), nil)
	assert.Empty(t, f.To)
	assert.NotNil(t, f.To)
	empty, err := evidence.Compute(t.Context(), evidence.Input{Keyword: "", Language: "en"})
	require.NoError(t, err)
	f = links.Find(empty, []*corpus.Doc{page(t, 1, "a.example", "<h1>A</h1><p>Some words stand here.</p>").Doc})
	assert.Empty(t, f.To)
	assert.Empty(t, f.From)
	assert.Empty(t, f.Rivals)
}

func BenchmarkFind60(b *testing.B) {
	var pages []corpus.RankedPage
	for i := range 10 {
		pages = append(pages, corpustest.PageIn(b, "en", i+1, fmt.Sprintf("s%d.example", i), "<h1>Winter riding</h1>"+strings.Repeat("<h2>Studded tyres</h2><p>Studded tyres grip on black ice when tyre pressure is low and the rear lights shine.</p>", 12)))
	}
	e, err := evidence.Compute(b.Context(), evidence.Input{Keyword: "winter riding", Language: "en", Pages: pages})
	require.NoError(b, err)
	var own []*corpus.Doc
	for i := range 60 {
		own = append(own, corpustest.PageIn(b, "en", 1, fmt.Sprintf("p%d.own.example", i), "<h1>Tyres</h1>"+strings.Repeat(fmt.Sprintf("<h2>Part %d</h2><p>Studded tyres grip on black ice number%d, and riding in winter is calm with low tyre pressure.</p>", i, i), 20)).Doc)
	}
	for b.Loop() {
		links.Find(e, own)
	}
}
