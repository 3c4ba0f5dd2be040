package markdown

import (
	"fmt"
	"runtime"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// What a head costs is bounded, whatever stands in it; one that is beyond the bounds is text.
func TestHostileHeadsCostLittle(t *testing.T) {
	deep := ""
	for i := range 2000 {
		deep += strings.Repeat(" ", i) + "a:\n"
	}
	for name, head := range map[string]string{
		"brackets":    "a: " + strings.Repeat("[", 20_000),
		"braces":      "a: " + strings.Repeat("{", 20_000),
		"one line":    "a: " + strings.Repeat("[", 8) + strings.Repeat("b,", 30_000) + strings.Repeat("]", 8),
		"indentation": deep,
		"dashes":      strings.Repeat("- ", 20_000),
		"questions":   strings.Repeat("? ", 20_000),
		"keys":        strings.Repeat("a: b\n", 20_000),
		"long":        "a: " + strings.Repeat("b", 1<<20),
		"aliases":     "a: &a [x,x,x,x,x,x,x,x,x]\nb: &b [*a,*a,*a,*a,*a,*a,*a,*a,*a]\nc: &c [*b,*b,*b,*b,*b,*b,*b,*b]\nd: &d [*c,*c,*c,*c,*c,*c]\ntitle: *d",
		"flow":        bomb("[", "]"),
		"bomb":        bomb("{k: ", "}"),
		"anchors":     strings.Repeat("&a ", 20_000),
		"tags":        strings.Repeat("!!str ", 10_000),
		"quotes":      "a: " + strings.Repeat("'", 60_000),
	} {
		var before, after runtime.MemStats
		runtime.ReadMemStats(&before)
		_, body := frontMatter([]byte("---\n" + head + "\n---\nText.\n"))
		runtime.ReadMemStats(&after)
		assert.Less(t, (after.TotalAlloc-before.TotalAlloc)>>20, uint64(100), "%s: MB", name)
		assert.Contains(t, string(body), "Text.", name)
	}
}

// bomb is a head of nine lines that stand for a thousand million when its aliases are filled in.
func bomb(open, shut string) string {
	head := "a: &a x\n"
	for c := 'b'; c <= 'j'; c++ {
		list := strings.Repeat(fmt.Sprintf("*%c,", c-1), 10)
		head += fmt.Sprintf("%c: &%c [%s]\n", c, c, list)
	}
	return head + "title: " + open + "*j" + shut
}

func TestAHeadAsPeopleWriteIt(t *testing.T) {
	head, body := frontMatter([]byte("---\ntitle: Winter tyres\ndescription: \"Studs [and] chains\"\ntags:\n  - a\n  - b\nlist: [a, {b: c}]\n---\nText."))
	assert.Equal(t, "Winter tyres", head.Title)
	assert.Equal(t, "Text.", string(body))
	// A colon within a title is no YAML, and meant as a title all the same.
	head, body = frontMatter([]byte("---\ntitle: Winter tyres: which ones: and when\ndescription: \"Studs: or chains\"\ndraft: yes\n---\nText."))
	assert.Equal(t, matter{"Winter tyres: which ones: and when", "Studs: or chains"}, head)
	assert.Equal(t, "Text.", string(body))
	for _, text := range []string{"---\nWe said: no\nand: [\n---\nText.", "---\nno head\n---\nText.", "---\nother: a: b\n---\nText."} {
		head, body = frontMatter([]byte(text))
		assert.Equal(t, matter{}, head, text)
		assert.Equal(t, text, string(body))
	}
}
