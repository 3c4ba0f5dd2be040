package address

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestParseList(t *testing.T) {
	got, problems := ParseList("http://a.example/One#part\nb.example, https://A.example/One ; <https://c.example/x?y=1>\n\nhello ftp://d.example/ http://user:pw@e.example/ mailto:a@b.example localhost b.example/")
	assert.Equal(t, []string{"http://a.example/One", "https://b.example/", "https://a.example/One", "https://c.example/x?y=1"}, got)
	assert.Len(t, problems, 5)
	assert.Contains(t, problems[0].String(), "“hello”")
	got, problems = ParseList(" \n ")
	assert.Empty(t, got)
	assert.Empty(t, problems)
}

func TestSame(t *testing.T) {
	for _, pair := range [][2]string{{"http://a.example/x", "https://www.a.example/x/"}, {"https://a.example/", "https://a.example"}, {"https://a.example/x?utm_source=mail", "https://a.example/x#top"},
		{"https://a.example/x/index.html", "https://A.example/x"}, {"https://a.example/?b=2&a=1", "https://a.example/?a=1&b=2"}} {
		assert.True(t, Same(pair[0], pair[1]), "%v", pair)
	}
	for _, pair := range [][2]string{{"https://a.example/x", "https://a.example/y"}, {"https://a.example/?p=1", "https://a.example/?p=2"}, {"", ""}, {"https://a.example/X", "https://a.example/x"}} {
		assert.False(t, Same(pair[0], pair[1]), "%v", pair)
	}
}

func FuzzParseList(f *testing.F) {
	f.Add("http://a.example/ b.example")
	f.Fuzz(func(t *testing.T, pasted string) {
		addresses, _ := ParseList(pasted)
		for _, a := range addresses {
			if !Same(a, a) {
				t.Fatalf("%q is not the same as itself", a)
			}
		}
	})
}

func TestWhoseAnAddressIs(t *testing.T) {
	for address, want := range map[string][4]string{
		"https://Shop.Brand.co.uk:8443/a/b?c#d": {"shop.brand.co.uk", "shop.brand.co.uk:8443", "brand.co.uk", "brand"},
		"http://www.northlane.example/":         {"northlane.example", "www.northlane.example", "northlane.example", "northlane"},
		"https://de.encyclopedia.example/wiki":  {"de.encyclopedia.example", "de.encyclopedia.example", "encyclopedia.example", "encyclopedia"},
		"http://192.0.2.7:80/":                  {"192.0.2.7", "192.0.2.7:80", "192.0.2.7", "192"},
		"http://localhost/x":                    {"localhost", "localhost", "localhost", "localhost"},
		"/relative":                             {},
		"":                                      {},
		"http://[::1":                           {},
	} {
		a := Parse(address)
		assert.Equal(t, want, [4]string{a.Host(), a.Authority(), a.Site(), a.SiteLabel()}, address)
	}
}

// Against the examples of RFC 3986, section 5.4.
func TestResolve(t *testing.T) {
	base := Parse("http://a/b/c/d;p?q")
	for href, want := range map[string]string{
		"g": "http://a/b/c/g", "./g": "http://a/b/c/g", "g/": "http://a/b/c/g/", "/g": "http://a/g", "//g": "http://g", "?y": "http://a/b/c/d;p?y",
		"g?y": "http://a/b/c/g?y", "g#s": "http://a/b/c/g", "": "http://a/b/c/d;p?q", "..": "http://a/b/", "../../../g": "http://a/g",
	} {
		assert.Equal(t, want, base.Resolve(href).Page(), href)
	}
	assert.True(t, base.Resolve("g").Web())
	assert.False(t, base.Resolve("mailto:a@b.example").Web())
	assert.Equal(t, "s", base.Resolve("g#s").Fragment())
	assert.True(t, base.Resolve("http://[::1").Missing())
	assert.Empty(t, Address{}.Page()+Address{}.Path()+Address{}.Fragment()+Address{}.Site())
}
