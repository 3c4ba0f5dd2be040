package gather

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestParseAddresses(t *testing.T) {
	got, problems := ParseAddresses("http://a.example/One#part\nb.example, https://A.example/One ; <https://c.example/x?y=1>\n\nhello ftp://d.example/ http://user:pw@e.example/ mailto:a@b.example localhost b.example/")
	assert.Equal(t, []string{"http://a.example/One", "https://b.example/", "https://a.example/One", "https://c.example/x?y=1"}, got)
	assert.Len(t, problems, 5)
	assert.Contains(t, problems[0], "“hello”")
	got, problems = ParseAddresses(" \n ")
	assert.Empty(t, got)
	assert.Empty(t, problems)
}

func TestSameAddress(t *testing.T) {
	for _, pair := range [][2]string{{"http://a.example/x", "https://www.a.example/x/"}, {"https://a.example/", "https://a.example"}, {"https://a.example/x?utm_source=mail", "https://a.example/x#top"},
		{"https://a.example/x/index.html", "https://A.example/x"}, {"https://a.example/?b=2&a=1", "https://a.example/?a=1&b=2"}} {
		assert.True(t, SameAddress(pair[0], pair[1]), "%v", pair)
	}
	for _, pair := range [][2]string{{"https://a.example/x", "https://a.example/y"}, {"https://a.example/?p=1", "https://a.example/?p=2"}, {"", ""}, {"https://a.example/X", "https://a.example/x"}} {
		assert.False(t, SameAddress(pair[0], pair[1]), "%v", pair)
	}
}

func FuzzParseAddresses(f *testing.F) {
	f.Add("http://a.example/ b.example")
	f.Fuzz(func(t *testing.T, pasted string) {
		addresses, _ := ParseAddresses(pasted)
		for _, a := range addresses {
			if !SameAddress(a, a) {
				t.Fatalf("%q is not the same as itself", a)
			}
		}
	})
}
