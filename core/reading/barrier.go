package reading

import "regexp"

// barriers are what a short page says that shows something else than its
// content to a program.
var barriers = []struct {
	says *regexp.Regexp
	what string
}{
	{regexp.MustCompile(`(?i)(verify|confirm|prove|checking if|sure) (that )?(you are|you're|you aren't|the site connection)|are you (a )?(human|robot)|captcha|unusual traffic`), "it asks whether a person is there"},
	{regexp.MustCompile(`(?i)(enable|turn on|requires?|activate) (your )?java ?script|javascript (is|must be) (disabled|required|enabled)`), "it needs JavaScript to be shown"},
	{regexp.MustCompile(`(?i)access (to this page )?(is |has been )?denied|you (don't|do not) have permission|forbidden|request blocked`), "it refuses the reader"},
	{regexp.MustCompile(`(?i)(subscribe|sign in|log in|register|create an account) to (continue|read|keep)|(subscribers|members)[- ]only|already a (subscriber|member)\?`), "it asks to sign in or to pay"},
}

// barrierWords is the length up to which such a sentence is the page's matter
// and not a remark in it.
const barrierWords = 120

// barrierOf says what stands between the reader and the content, empty for nothing.
func barrierOf(r *Reading, free bool) string {
	if !free {
		return "it asks to sign in or to pay"
	}
	if r.Counts.Words > barrierWords {
		return ""
	}
	s := r.Title + "\n" + r.Text()
	for _, b := range barriers {
		if b.says.MatchString(s) {
			return b.what
		}
	}
	return ""
}
