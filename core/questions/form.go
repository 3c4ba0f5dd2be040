package questions

import (
	"strings"

	"corpulan/core/language"
	"corpulan/core/says"
)

// advised is the form that suits a question: that of most answers where it is no prose,
// else steps where "how to" is asked, a list where several things are ("which", "what
// are"), prose for all others.
func advised(kind language.QuestionKind, text string, answers []says.Answer) says.Form {
	if f := usual(answers); f != "" && f != says.Prose {
		return f
	}
	folded := strings.ToLower(text)
	switch {
	case strings.HasPrefix(folded, "how to "), strings.HasPrefix(folded, "how do "), strings.HasPrefix(folded, "how can "):
		return says.Steps
	case kind == language.Which && len(answers) > 0, strings.HasPrefix(folded, "what are the "):
		return says.List
	}
	return says.Prose
}

// usual is the form that most answers have, the first of them where two are as common; ""
// where nobody answers.
func usual(answers []says.Answer) says.Form {
	best, most := says.Form(""), 0
	for _, f := range []says.Form{says.Prose, says.Steps, says.List, says.Table} {
		n := 0
		for _, a := range answers {
			if a.Form == f {
				n++
			}
		}
		if n > most {
			best, most = f, n
		}
	}
	return best
}
