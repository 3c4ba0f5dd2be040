package sitemap

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The protocol's own text of a sitemap is read in gather, as a site gives it; here is what a list is
// bound to.
func TestALongListIsBounded(t *testing.T) {
	l, err := Read([]byte("<urlset>" + strings.Repeat("<url><loc>https://a.example/</loc></url>", MaxURLs+5) + "</urlset>"))
	require.NoError(t, err)
	assert.Len(t, l.Pages, MaxURLs)
	assert.True(t, l.More)
	_, err = Read([]byte(strings.Repeat(" ", Largest+1)))
	assert.ErrorContains(t, err, "larger than 50 MB")
}

// Whatever a site gives, what is read of it is bounded, and nothing is both read and refused.
func FuzzRead(f *testing.F) {
	for _, s := range []string{"", "<", "<urlset><url><loc>https://a.example/</loc><lastmod>2026</lastmod></url>", "<sitemapindex><sitemap><loc>x</loc></sitemap></sitemapindex>", "https://a.example/\nhttp://b.example/", "\x1f\x8b\x08", "\xef\xbb\xbf<urlset/>", `<!DOCTYPE x [<!ENTITY a "b">]><urlset><url><loc>&a;</loc></url></urlset>`, `<?xml version="1.0" encoding="utf-16"?><urlset>`} {
		f.Add([]byte(s))
	}
	f.Fuzz(func(t *testing.T, b []byte) {
		l, err := Read(b)
		if len(l.Pages)+len(l.Further) > MaxURLs {
			t.Fatal("more than is taken")
		}
		if err != nil && l.More {
			t.Fatal(err)
		}
		for _, p := range l.Pages {
			if p.URL == "" || p.URL != strings.TrimSpace(p.URL) {
				t.Fatalf("%q", p.URL)
			}
		}
	})
}
