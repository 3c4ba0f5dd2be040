package language

import (
	"strings"
	"unicode"
	"unicode/utf8"

	"corpulan/core/text"
)

// QuestionKind is what a question asks for.
type QuestionKind string

// The kinds of question.
const (
	What    QuestionKind = "what"
	Why     QuestionKind = "why"
	How     QuestionKind = "how"
	HowMuch QuestionKind = "how much"
	When    QuestionKind = "when"
	Where   QuestionKind = "where"
	Which   QuestionKind = "which"
	Who     QuestionKind = "who"
	WhatIf  QuestionKind = "what if"
	YesNo   QuestionKind = "yes or no"
)

// KindOfQuestion tells what a question asks for, by its opening words. The
// second result is false where no known opening stands at the front; the kind
// is then YesNo, what is left when no question word asks for a thing.
func (k *known) KindOfQuestion(s string) (QuestionKind, bool) {
	if kind, asks := k.opens(s); asks {
		return kind, true
	}
	if clause, ok := k.turned(s); ok {
		return k.opens(clause)
	}
	return YesNo, false
}

// Asked is the question within a question that asks how to know its answer ("how do I know what
// size of washer I need"), from its question word on; else the question as it is.
func (k *known) Asked(q string) string {
	if kind, asks := k.opens(q); !asks || kind == Which || kind == HowMuch {
		return q
	}
	words := 0
	for rest := q; words < wordsOfKnowing; words++ {
		word, after, more := strings.Cut(rest, " ")
		if !more {
			break
		}
		rest = after
		if !k.knowing[text.Fold(strings.TrimRight(word, ","))] {
			continue
		}
		_, behind, _ := strings.Cut(rest, " ") // one may say who wants to know: "weiß ich, welche"
		for _, clause := range []string{rest, behind} {
			if kind, asks := k.opens(clause); asks && (kind == Which || kind == What || kind == HowMuch) {
				return clause
			}
		}
	}
	return q
}

// wordsOfKnowing is how many words lead to what one wants to know at most: "how do I know". Our own.
const wordsOfKnowing = 5

// Stance is what an answer to a question for yes or no says.
type Stance string

// The stances; "" is that of an answer which begins with neither word.
const (
	SaysYes Stance = "yes"
	SaysNo  Stance = "no"
)

// AsksWith tells a word, folded, that questions have and that says nothing of what is asked.
func (l *Language) AsksWith(folded string) bool { return l.light[folded] || l.asking[folded] }

// StanceOf is what an answer says by the word it begins with, which a stop or a comma parts from the
// rest: "No, unless it is wet." says no, "No matter what you do" nothing.
func (k *known) StanceOf(answer string) Stance {
	word := strings.TrimSpace(answer)
	end := strings.IndexFunc(word, func(r rune) bool { return !unicode.IsLetter(r) })
	if end >= 0 {
		rest := strings.TrimSpace(word[end:])
		if rest != "" && !strings.ContainsAny(rest[:1], ".,;:!") && !strings.HasPrefix(rest, "–") && !strings.HasPrefix(rest, "—") {
			return ""
		}
		word = word[:end]
	}
	switch folded := text.Fold(word); {
	case k.yes[folded]:
		return SaysYes
	case k.no[folded]:
		return SaysNo
	}
	return ""
}

// QuestionWords are the ways a question begins in a language, one for each kind, to ask for
// what people go on with.
func (l *Language) QuestionWords() []string {
	var words []string
	have := map[QuestionKind]bool{}
	for _, o := range l.Rules.Openings {
		if !have[o.Kind] || o.Kind == YesNo && len(o.Words) <= shortWord {
			have[o.Kind] = true
			words = append(words, o.Words)
		}
	}
	return words
}

// shortWord is how many letters an opening of yes-or-no questions has at most to be asked with:
// "is", "are", "do", "can". Our own.
const shortWord = 3

// opens is KindOfQuestion for what stands at the very front.
func (k *known) opens(s string) (QuestionKind, bool) {
	s = foldLine(strings.TrimLeft(s, " ¿¡\"'“‘„«0123456789.):"))
	for _, o := range k.openings {
		if rest, ok := strings.CutPrefix(s, o.Words); ok && !continues(rest) {
			return o.Kind, true
		}
	}
	return YesNo, false
}

// continues tells whether what follows goes on the word before it; "est-ce" does
// not go on "est", "what's" does "what".
func continues(rest string) bool {
	r, _ := utf8.DecodeRuneInString(rest)
	return rest != "" && (unicode.IsLetter(r) || r == '\'')
}

// Bounds on the words of a question in running text: our own.
const (
	shortestQuestion = 3
	longestQuestion  = 30
)

// IsQuestion tells whether a sentence has the form of a question a reader would
// ask: a question mark at its end, three to thirty words, and not a tag
// ("..., right?") or a quotation's fragment.
func (k *known) IsQuestion(s string) bool {
	s = strings.TrimRight(s, " \"'”’)»")
	if !strings.HasSuffix(s, "?") || strings.Count(s, "?") > 1 || strings.Contains(s, "?!") {
		return false
	}
	n := text.CountWords(s)
	if n < shortestQuestion || n > longestQuestion {
		return false
	}
	_, asks := k.KindOfQuestion(s)
	return asks || len(k.openings) == 0
}

// shortestClause is how many words a question has after a comma at least, so that
// ", isn't it?" and ", right?" are none. Our own.
const shortestClause = 4

// turned is the question of a sentence that begins with something else: after a turn
// ("But what if it rains?"), or in its last clause ("Once you have the tyres, what
// pressure is right?").
func (k *known) turned(s string) (clause string, ok bool) {
	for {
		word, rest, more := strings.Cut(s, " ")
		if !more || !k.turns[text.Fold(strings.TrimRight(word, ",:"))] {
			break
		}
		s, ok = strings.TrimSpace(rest), true
	}
	if ok {
		if _, asks := k.opens(s); asks {
			return s, true
		}
	}
	if i := strings.LastIndex(s, ", "); i >= 0 {
		clause := strings.TrimSpace(s[i+1:])
		if _, asks := k.opens(clause); asks && text.CountWords(clause) >= shortestClause {
			return clause, true
		}
	}
	return s, false
}

// IsQuestionHeading tells whether a heading asks: it ends in a question mark,
// or, in languages that turn the auxiliary round, it opens with a question word
// and one ("how do I store a bike"), which a heading such as "What to wear"
// does not.
func (k *known) IsQuestionHeading(s string) bool {
	if strings.HasSuffix(strings.TrimRight(s, " \"'”’)»"), "?") {
		return text.CountWords(s) >= 2
	}
	if len(k.auxiliaries) == 0 {
		return false
	}
	words := strings.Fields(strings.ToLower(s))
	if len(words) < 4 {
		return false
	}
	kind, asks := k.KindOfQuestion(s)
	if !asks || kind == YesNo {
		return false
	}
	// The auxiliary follows the question word ("how do I"), or turns round with
	// a pronoun further on ("what tyres do I need", but not "what cities can copy").
	for i := 1; i < min(5, len(words)-1); i++ {
		if k.auxiliaries[words[i]] {
			return i == 1 || k.pronouns[words[i+1]] && words[i-1] != "to"
		}
	}
	return false
}
