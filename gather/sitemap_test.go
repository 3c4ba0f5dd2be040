package gather

import (
	"bytes"
	"compress/gzip"
	"fmt"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"

	"corpulan/formats/handed"
	"corpulan/formats/sitemap"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// fileByFile reads sitemaps in this process.
var fileByFile = (*handed.Reader)(nil).Sitemap

// anySite answers for every host.
func anySite(t *testing.T, answer http.HandlerFunc) *Fetcher {
	t.Helper()
	srv := httptest.NewServer(answer)
	t.Cleanup(srv.Close)
	limits := DefaultLimits()
	limits.Delay, limits.Tries = 0, 0
	return NewFetcher(limits, Guard{Simulated: strings.TrimPrefix(srv.URL, "http://")}.Dial)
}

func packed(t *testing.T, body string) []byte {
	t.Helper()
	var b bytes.Buffer
	z := gzip.NewWriter(&b)
	_, err := z.Write([]byte(body))
	require.NoError(t, err)
	require.NoError(t, z.Close())
	return b.Bytes()
}

// The examples of the protocol (sitemaps.org, "Sample XML Sitemap", "Sample XML Sitemap Index",
// "Text file", "Specifying the Sitemap location in your robots.txt file"), with the host of ours.
const (
	sampleSitemap = `<?xml version="1.0" encoding="UTF-8"?>
<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">
   <url>
      <loc>http://www.a.example/</loc>
      <lastmod>2005-01-01</lastmod>
      <changefreq>monthly</changefreq>
      <priority>0.8</priority>
   </url>
   <url>
      <loc>http://www.a.example/catalog?item=12&amp;desc=vacation_hawaii</loc>
      <changefreq>weekly</changefreq>
   </url>
   <url>
      <loc>http://www.a.example/catalog?item=73&amp;desc=vacation_new_zealand</loc>
      <lastmod>2004-12-23</lastmod>
   </url>
</urlset>`
	sampleIndex = `<?xml version="1.0" encoding="UTF-8"?>
<sitemapindex xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">
   <sitemap><loc>http://www.a.example/sitemap1.xml.gz</loc><lastmod>2004-10-01T18:23:17+00:00</lastmod></sitemap>
   <sitemap><loc>http://www.a.example/sitemap2.txt</loc><lastmod>2005-01-01</lastmod></sitemap>
   <sitemap><loc>http://www.a.example/index.xml</loc></sitemap>
   <sitemap><loc>http://www.a.example/gone.xml</loc></sitemap>
</sitemapindex>`
)

func TestSitemapsByTheProtocol(t *testing.T) {
	f := anySite(t, func(w http.ResponseWriter, r *http.Request) {
		switch r.URL.Path {
		case "/robots.txt":
			fmt.Fprint(w, "User-agent: *\nDisallow: /x\n\nsitemap: /index.xml # here\n")
		case "/index.xml":
			fmt.Fprint(w, sampleIndex)
		case "/sitemap1.xml.gz":
			w.Header().Set("Content-Type", "application/x-gzip")
			_, _ = w.Write(packed(t, sampleSitemap))
		case "/sitemap2.txt":
			fmt.Fprint(w, "\xEF\xBB\xBFhttp://www.a.example/three\r\nhttp://www.b.example/elsewhere\nhttp://www.a.example/\nnonsense\n")
		default:
			http.NotFound(w, r)
		}
	})
	pages, notes, err := f.Sitemap(t.Context(), "http://www.a.example", fileByFile)
	require.NoError(t, err)
	assert.Equal(t, []sitemap.Page{{URL: "http://www.a.example/", Changed: "2005-01-01"}, {URL: "http://www.a.example/catalog?item=12&desc=vacation_hawaii"},
		{URL: "http://www.a.example/catalog?item=73&desc=vacation_new_zealand", Changed: "2004-12-23"}, {URL: "http://www.a.example/three"}}, pages)
	require.Len(t, notes, 2)
	assert.Contains(t, notes[0], "gone.xml")
	assert.Contains(t, notes[1], "1 addresses of other sites")
}

func TestSitemapsThatAreNone(t *testing.T) {
	var many strings.Builder
	many.WriteString(strings.Repeat("http://a.example/p\n", 3))
	for i := range 60_000 {
		fmt.Fprintf(&many, "http://a.example/%d\n", i)
	}
	answers := map[string]func(w http.ResponseWriter){
		"/page.html": func(w http.ResponseWriter) { fmt.Fprint(w, "<!doctype html><html><p>Hello</p></html>") },
		"/empty.xml": func(http.ResponseWriter) {},
		"/words.txt": func(w http.ResponseWriter) { fmt.Fprint(w, "no address at all") },
		"/broken.xml": func(w http.ResponseWriter) {
			fmt.Fprint(w, "<urlset><url><loc>http://a.example/1</loc></url><url><loc>")
		},
		"/bomb.gz":  func(w http.ResponseWriter) { _, _ = w.Write(packed(t, strings.Repeat(" ", 60<<20))) },
		"/many.txt": func(w http.ResponseWriter) { fmt.Fprint(w, many.String()) },
		"/loop.xml": func(w http.ResponseWriter) {
			fmt.Fprint(w, "<sitemapindex><sitemap><loc>http://a.example/loop.xml</loc></sitemap></sitemapindex>")
		},
		"/bombs.xml": func(w http.ResponseWriter) { // entities are not expanded without end
			fmt.Fprint(w, `<!DOCTYPE x [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;">]><urlset><url><loc>&b;</loc></url></urlset>`)
		},
	}
	f := anySite(t, func(w http.ResponseWriter, r *http.Request) {
		if a := answers[r.URL.Path]; a != nil {
			a(w)
			return
		}
		http.NotFound(w, r)
	})
	for path, want := range map[string]int{"/page.html": -1, "/empty.xml": -1, "/words.txt": -1, "/broken.xml": 1, "/bomb.gz": -1, "/many.txt": 49_998, "/loop.xml": 0, "/bombs.xml": 0} {
		pages, notes, err := f.Sitemap(t.Context(), "http://a.example"+path, fileByFile)
		if want < 0 {
			assert.Error(t, err, path)
			continue
		}
		assert.NoError(t, err, path)
		assert.Len(t, pages, want, path)
		if path == "/many.txt" {
			assert.Contains(t, strings.Join(notes, " "), "50000")
		}
	}
	_, _, err := f.Sitemap(t.Context(), "http://a.example/", fileByFile)
	assert.ErrorIs(t, err, ErrNoSitemap)
	for _, wrong := range []string{"", "a.example", "ftp://a.example/", "::"} {
		_, _, err := f.Sitemap(t.Context(), wrong, fileByFile)
		assert.Error(t, err, wrong)
	}
}
