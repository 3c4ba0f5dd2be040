package markup

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"
)

func parse(t *testing.T, s string) *html.Node {
	t.Helper()
	n, err := html.Parse(strings.NewReader(s))
	require.NoError(t, err)
	return n
}

// What a reader sees: blocks part words, inline elements do not, and what is
// for programs is not there.
func TestText(t *testing.T) {
	for page, want := range map[string]string{
		"<p>One<p>two":                               "One two",
		"<p>O<b>n</b>e<br>two":                       "One two",
		"<p>a&nbsp;&nbsp; b\u200b\u00adc":            "a bc",
		"<p>a<script>b</script><style>c</style>":     "a",
		"<ul><li>a<li>b</ul><table><tr><td>c<td>d":   "a b c d",
		"<p>a<select><option>b</select><svg>c</svg>": "a",
	} {
		assert.Equal(t, want, Text(First(parse(t, page), "body")), page)
	}
}

func TestAttributesAndAncestors(t *testing.T) {
	n := parse(t, `<ul><li><a href="" id=x>x</a></ul>`)
	a := First(n, "a")
	assert.True(t, HasAttr(a, "href"))
	assert.False(t, HasAttr(a, "class"))
	assert.Equal(t, "x", Attr(a, "id"))
	assert.True(t, HasAncestor(a, "ol", "ul"))
	assert.False(t, HasAncestor(a, "ol", "a"))
	assert.Nil(t, First(n, "video"))
}
