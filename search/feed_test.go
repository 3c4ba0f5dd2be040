package search

import (
	"fmt"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const rssFeed = `<?xml version="1.0"?><rss version="2.0" xmlns:opensearch="http://a9.com/-/spec/opensearch/1.1/" xmlns:q="urn:corpulan:results:1"><channel>
<title>Search</title><opensearch:totalResults>3</opensearch:totalResults><opensearch:Query role="request" searchTerms="winter"/>
<opensearch:Query role="related" searchTerms="winter tyres"/><q:question> Is it
 cold? </q:question>
<item><title>One &amp; only</title><link> http://a.example/1 </link><description>First   page</description></item>
<item><title>Not a page</title><link>ftp://a.example/2</link></item>
<item><title>Twice</title><link>http://a.example/1</link></item>
<item><title>Two</title><link>https://b.example/2</link></item></channel></rss>`

const atomFeed = `<feed xmlns="http://www.w3.org/2005/Atom" xmlns:opensearch="http://a9.com/-/spec/opensearch/1.1/">
<opensearch:Query role="related" searchTerms="snow"/><entry><title>One</title><link rel="self" href="http://x.example/self"/><link href="http://a.example/1"/><summary>Sum</summary></entry>
<entry><title>Two</title><link rel="alternate" href="http://b.example/2"/><content>Con</content></entry></feed>`

func TestParseFeed(t *testing.T) {
	res, err := ParseFeed([]byte(rssFeed))
	require.NoError(t, err)
	assert.Equal(t, []Item{{1, "http://a.example/1", "One & only", "First page"}, {2, "https://b.example/2", "Two", ""}}, res.Items)
	assert.Equal(t, []string{"winter tyres"}, res.Related)
	assert.Equal(t, []string{"Is it cold?"}, res.Asked)
	res, err = ParseFeed([]byte(atomFeed))
	require.NoError(t, err)
	assert.Equal(t, []Item{{1, "http://a.example/1", "One", "Sum"}, {2, "http://b.example/2", "Two", "Con"}}, res.Items)
	assert.Equal(t, []string{"snow"}, res.Related)
	for name, bad := range map[string]string{"empty": "", "html": "<html><body>No</body></html>", "cut off": rssFeed[:300], "json": "{}"} {
		_, err := ParseFeed([]byte(bad))
		assert.Error(t, err, name)
	}
}

func TestParseSuggestions(t *testing.T) {
	list, err := ParseSuggestions([]byte(`["win",["winter","window"],["",""]]`))
	require.NoError(t, err)
	assert.Equal(t, []string{"winter", "window"}, list)
	for _, bad := range []string{"", "{}", `["win"]`, `["win",{}]`} {
		_, err := ParseSuggestions([]byte(bad))
		assert.Error(t, err, bad)
	}
}

func FuzzParseFeed(f *testing.F) {
	f.Add([]byte(rssFeed))
	f.Add([]byte(atomFeed))
	f.Fuzz(func(t *testing.T, b []byte) {
		res, err := ParseFeed(b)
		if err != nil {
			return
		}
		for i, it := range res.Items {
			if it.Rank != i+1 || !strings.HasPrefix(it.URL, "http") {
				t.Fatalf("%+v", it)
			}
		}
	})
}

func TestOpenSearchFillsItsTemplate(t *testing.T) {
	var asked string
	srv := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.URL.Path == "/suggest" {
			fmt.Fprint(w, `["q",["a","b"]]`)
			return
		}
		asked = r.URL.RawQuery
		fmt.Fprint(w, rssFeed)
	}))
	defer srv.Close()
	o := OpenSearch{Template: srv.URL + "/s?q={searchTerms}&n={count}&l={language?}&c={country?}", Suggest: srv.URL + "/suggest?q={searchTerms}", Client: srv.Client()}
	res, err := o.Search(t.Context(), Query{Keyword: "tea & cake", Language: "en", Country: "gb", Count: 1})
	require.NoError(t, err)
	assert.Equal(t, "q=tea+%26+cake&n=1&l=en&c=gb", asked)
	assert.Len(t, res.Items, 1, "no more than asked for")
	assert.Equal(t, []string{"a", "b"}, res.Suggestions)
	o.Template = srv.URL + "/suggest"
	_, err = o.Search(t.Context(), Query{Keyword: "x", Count: 1})
	assert.ErrorContains(t, err, "reading the search engine's answer")
}
