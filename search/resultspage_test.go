package search

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Two results pages of invented engines, built as differently as such pages are.
func plainEngine() string {
	var b strings.Builder
	b.WriteString(`<html><head><title>winter tyres - Lookout</title><base href="https://lookout.example/"></head><body><form action="/s"><input name=q value="winter tyres"></form>
		<nav><a href="/images?q=winter+tyres">Images</a><a href="https://account.lookout.example/in">Sign in to Lookout</a></nav>
		<div class="ad"><a class="promo" href="https://shop.example/buy">Buy winter tyres today</a></div><ol>`)
	for i := range 6 {
		fmt.Fprintf(&b, `<li class="hit"><h3><a href="https://site%d.example/page#top">Winter tyres, page %d</a></h3><cite>site%d.example</cite><p>What page %d says of tyres.</p><a href="https://site%d.example/page">Read it there</a></li>`, i, i, i, i, i)
	}
	b.WriteString(`</ol><section><div class="q"><span>Do I need winter tyres?</span></div><div class="q">How long do winter tyres last?</div></section>
		<ul class="more"><li><a href="/s?q=studded+tyres">studded tyres</a></li><li><a href="/s?q=winter+tyre+pressure&src=rel">Winter tyre pressure</a></li></ul>
		<div class="pages"><a href="/s?q=winter+tyres&p=2">2</a></div><footer><a href="https://about.example/imprint">About this engine</a></footer></body></html>`)
	return b.String()
}

func wrappingEngine() string {
	var b strings.Builder
	b.WriteString(`<html><body><form action="https://www.finder.example/search"></form>`)
	for i := range 4 {
		fmt.Fprintf(&b, `<div class="r x"><div class="in"><a href="https://www.finder.example/go?to=https%%3A%%2F%%2Fs%d.example%%2Fp%%3Fa%%3D1&k=9"><h3>Result <b>number</b> %d</h3><div>s%d.example</div></a></div><div>Snippet number %d here.</div></div>`, i, i, i, i)
	}
	b.WriteString(`</body></html>`)
	return b.String()
}

func TestParseResultsPage(t *testing.T) {
	res, err := ParseResultsPage([]byte(plainEngine()))
	require.NoError(t, err)
	require.Len(t, res.Items, 6)
	assert.Equal(t, Item{Rank: 3, URL: "https://site2.example/page", Title: "Winter tyres, page 2", Snippet: "site2.example What page 2 says of tyres. Read it there"}, res.Items[2])
	assert.Equal(t, []string{"studded tyres", "Winter tyre pressure"}, res.Related)
	assert.Equal(t, []string{"Do I need winter tyres?", "How long do winter tyres last?"}, res.Asked)

	res, err = ParseResultsPage([]byte(wrappingEngine()))
	require.NoError(t, err)
	require.Len(t, res.Items, 4)
	assert.Equal(t, Item{Rank: 2, URL: "https://s1.example/p?a=1", Title: "Result number 1", Snippet: "s1.example Snippet number 1 here."}, res.Items[1])
}

func TestNoResultsPage(t *testing.T) {
	for name, page := range map[string]string{"empty": "", "an article": "<h1>Tyres</h1><p>See <a href='http://a.example/'>this page here</a>.</p>", "text": "nothing", "too deep": strings.Repeat("<div>", 2000)} {
		_, err := ParseResultsPage([]byte(page))
		assert.Error(t, err, name)
	}
}

func FuzzParseResultsPage(f *testing.F) {
	f.Add([]byte(plainEngine()))
	f.Add([]byte(wrappingEngine()))
	f.Fuzz(func(t *testing.T, page []byte) {
		res, err := ParseResultsPage(page)
		if err != nil {
			return
		}
		for i, it := range res.Items {
			if it.Rank != i+1 || it.Title == "" || !strings.HasPrefix(it.URL, "http") {
				t.Fatalf("%+v", it)
			}
		}
	})
}
