package kit

import (
	"mime"
	"net/http"
	"net/url"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"

	"corpulan/core/language"

	"github.com/gin-gonic/gin"
)

// PageQuery is the query of the page a person is on: that of the request, or,
// where htmx posts, that of the address in the browser.
func PageQuery(c *gin.Context) url.Values {
	if c.Request.Method == http.MethodGet {
		return c.Request.URL.Query()
	}
	u, err := url.Parse(c.GetHeader("HX-Current-URL"))
	if err != nil {
		return url.Values{}
	}
	return u.Query()
}

// A screenful is shown first, and as many again each time more is asked for.
const Screenful = 60

func FromHTMX(c *gin.Context) bool { return c.GetHeader("HX-Request") == "true" }

// Option is something to choose from, with what it is called.
type Option struct{ Value, Name string }

// NumberIn is a whole number of a form; another where it is none.
func NumberIn(c *gin.Context, name string, otherwise int) int {
	if n, err := strconv.Atoi(strings.TrimSpace(c.PostForm(name))); err == nil {
		return n
	}
	return otherwise
}

func Shorten(s string, most int) string {
	r := []rune(s)
	if len(r) <= most {
		return s
	}
	return string(r[:most])
}

func Capitalised(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:]
}

// Attach names the file that an answer is to be saved as (RFC 6266): the kind, the
// keyword, and its ending.
func Attach(c *gin.Context, kind, keyword, ending string) {
	name := kind + "-" + fileName(keyword) + "." + ending
	c.Header("Content-Disposition", mime.FormatMediaType("attachment", map[string]string{"filename": name}))
}

// fileName makes a keyword fit for a file's name in any system: its words, joined
// by hyphens.
func fileName(keyword string) string {
	words := strings.FieldsFunc(strings.ToLower(keyword), func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) && !unicode.IsMark(r) })
	if len(words) == 0 {
		return "study"
	}
	return strings.TrimRight(Shorten(strings.Join(words, "-"), longestFileName), "-")
}

// longestFileName is what a keyword may take of a file's name, in characters.
const longestFileName = 60

const LongestAuthor = 60

// Bounds of a remark, in characters.
const (
	LongestRemark = 4000
)

// LongestKey bounds what a form says of a finding, in bytes.
const LongestKey = 2000

// LongestOwn bounds what a person adds of their own, in characters.
const LongestOwn = 120

// LongestName is how many characters the name of a list or slate has.
const LongestName = 120

// LongestField is what a field of the brief holds, in characters.
const LongestField = 20_000

// Sayable tells a text that can be a term, a question or a heading.
func Sayable(text, lang string) bool {
	return text != "" && utf8.RuneCountInString(text) <= LongestOwn && language.For(lang).PhraseKey(text) != ""
}
