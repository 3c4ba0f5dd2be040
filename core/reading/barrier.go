package reading

import (
	"regexp"
	"strings"
	"unicode"
	"unicode/utf8"

	"corpulan/core/markup"
	"corpulan/core/message"

	"golang.org/x/net/html"
)

// barriers are what a short page says that shows something else than its
// content to a program.
var barriers = []struct {
	says *regexp.Regexp
	what message.Message
}{
	{regexp.MustCompile(`(?i)(verify|confirm|prove|checking if|sure) (that )?(you are|you're|you aren't|the site connection)|are you (a )?(human|robot)|captcha|unusual traffic`), "it asks whether a person is there"},
	{regexp.MustCompile(`(?i)(enable|turn on|requires?|activate) (your )?java ?script|javascript (is|must be) (disabled|required|enabled)`), "it needs JavaScript to be shown"},
	{regexp.MustCompile(`(?i)access (to this page )?(is |has been )?denied|you (don't|do not) have permission|forbidden|request blocked`), "it refuses the reader"},
	{regexp.MustCompile(`(?i)(subscribe|sign in|log in|register|create an account) to (continue|read|keep)|(subscribers|members)[- ]only|already a (subscriber|member)\?`), "it asks to sign in or to pay"},
}

// barrierWords is the length up to which such a sentence is the page's matter
// and not a remark in it.
// Our own.
const barrierWords = 120

// barrierText is how much of such a page is looked through, in bytes. Our own.
const barrierText = 20_000

// emptyWords is the length under which a page shows nothing by itself, all that
// stands on it counted.
// Our own.
const emptyWords = 20

// barrierOf says what stands between the reader and the content, empty for
// nothing. shown is the weight of all text of the page.
func barrierOf(d *document, r *Reading, shown float64, free bool) message.Message {
	if !free {
		return "it asks to sign in or to pay"
	}
	if r.Counts.Words < emptyWords && shown < emptyWords {
		switch {
		case markup.First(d.root, "frameset") != nil, r.Counts.Embeds > 0:
			return "its text stands in frames"
		case hasProgram(d.root):
			return "it needs JavaScript to be shown"
		}
	}
	if r.Counts.Words > barrierWords {
		return ""
	}
	s := r.Title + "\n" + r.Text()
	s = s[:min(len(s), barrierText)] // a single word may be as long as the page
	for _, b := range barriers {
		if b.says.MatchString(s) {
			return b.what
		}
	}
	return ""
}

// flagsOf names what is odd about a page and bears on its figures.
func flagsOf(r *Reading) []message.Kept {
	var flags []message.Kept
	if r.Language != "" && r.Detected != "" && r.Language != r.Detected {
		flags = append(flags, message.Of("it says its language is %s and reads like %s", r.Language, r.Detected).Keep())
	}
	if writtenWithoutSpaces(r) {
		flags = append(flags, "it is written without spaces: each character counts as a word")
	}
	inferred, skipped := 0, 0
	for i, h := range r.Headings {
		if h.Inferred {
			inferred++
		}
		if i > 0 && h.Level > r.Headings[i-1].Level+1 {
			skipped++
		}
	}
	if inferred > 0 {
		flags = append(flags, "its headings are lines in bold")
	}
	if skipped > 0 {
		flags = append(flags, "its headings skip levels")
	}
	return flags
}

// writtenWithoutSpaces tells Chinese, Japanese and their like, whose characters
// UAX #29 takes for words one by one. It looks at the beginning of the text.
func writtenWithoutSpaces(r *Reading) bool {
	const looked = 400 // characters
	letters, joined := 0, 0
	for _, s := range r.Sections {
		for _, c := range s.Text[:min(len(s.Text), looked*utf8.UTFMax)] {
			if c < utf8.RuneSelf { // most texts, and fast
				if c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' {
					letters++
				}
				continue
			}
			if !unicode.IsLetter(c) {
				continue
			}
			letters++
			if unicode.In(c, unicode.Han, unicode.Hiragana, unicode.Katakana, unicode.Thai, unicode.Lao, unicode.Khmer, unicode.Myanmar) {
				joined++
			}
		}
		if letters >= looked {
			break
		}
	}
	return letters > 0 && 2*joined > letters
}

// hasProgram tells whether a page runs any script; structured data are none.
func hasProgram(root *html.Node) bool {
	for n := range root.Descendants() {
		if n.Type == html.ElementNode && n.Data == "script" && !strings.Contains(markup.Attr(n, "type"), "json") {
			return true
		}
	}
	return false
}
